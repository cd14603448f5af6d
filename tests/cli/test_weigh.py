"""Weighing at the terminal, and tables to take away."""

import csv
import io
import json

import pytest

from fletcher.cli import main
from fletcher.core.demo.world import demo_airframes


@pytest.fixture
def warden(tmp_path):
    path = tmp_path / "warden.json"
    path.write_text(demo_airframes()[0].model_copy(update={"weighings": ()}).model_dump_json())
    return path


def run(capsys, *arguments):
    code = main([str(a) for a in arguments])
    told = capsys.readouterr()
    return code, told.out, told.err


def test_what_can_be_weighed_is_listed_with_what_it_should_weigh(warden, capsys):
    code, out, _ = run(capsys, "weigh", warden)
    assert code == 0 and out.startswith("Nothing is weighed yet.")
    assert "wing/right" in out and "glued 50.2 g (" in out and "Weigh next: Motor" in out


def test_a_reading_is_put_into_the_file_and_told(warden, capsys):
    code, out, _ = run(capsys, "weigh", warden, "wing/right", "--stage", "glued", "--grams", 53, "--on", "2026-11-06")
    assert code == 0 and "Left wing half, right: 53.0 g, as expected" in out
    (kept,) = json.loads(warden.read_text())["weighings"]
    assert kept["reading"]["grams"] == 53 and kept["stage"] == "glued" and len(kept["lines"]) == 3
    code, out, _ = run(capsys, "weigh", warden, "wing/left", "--stage", "glued", "--grams", 61)
    assert code == 0 and "check it, then it teaches" in out and "?" in out
    code, out, _ = run(capsys, "weigh", warden, "all", "--grams", 731, "--json")
    told = json.loads(out)
    assert code == 0 and told["weighings"][-1]["name"] == "the whole airframe"
    assert [w["id"] for w in told["weighings"]] == ["weighing-1", "weighing-2", "weighing-3"]


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (("wing/right",), "--grams: is missing"),
        (("wing/middle", "--grams", "5"), "no 'wing/middle'. Pieces in this file: wing/right"),
        (("item/motor/one", "--grams", "50", "--stage", "bare"), "nothing of item/motor/one is there"),
        (("wing/right", "--grams", "-4"), "weighings[0].reading"),
        (("wing/right", "--grams", "50", "--on", "yesterday"), "weighings[0].on"),
    ],
)
def test_what_cannot_be_weighed_is_refused_and_nothing_is_written(warden, capsys, arguments, said):
    before = warden.read_text()
    code, out, err = run(capsys, "weigh", warden, *arguments)
    assert (code, out) == (2, "") and said in err
    assert warden.read_text() == before


def test_a_file_that_is_not_there_or_has_nothing_to_weigh(tmp_path, capsys, warden):
    assert run(capsys, "weigh", tmp_path / "none.json")[0] == 2
    data = json.loads(warden.read_text())
    data["parts"], data["equipment"] = [], []
    warden.write_text(json.dumps(data))
    code, _, err = run(capsys, "weigh", warden)
    assert code == 2 and "add a part before weighing" in err


def test_ledger_and_equipment_are_tables(warden, capsys):
    code, out, _ = run(capsys, "balance", warden, "--csv", "ledger")
    rows = list(csv.DictReader(io.StringIO(out)))
    assert code == 0 and {r["group"] for r in rows} >= {"foam", "spars", "skins", "glue", "equipment"}
    assert all(float(r["low g"]) <= float(r["typical g"]) <= float(r["high g"]) for r in rows)
    out = run(capsys, "balance", warden, "--csv", "equipment")[1]
    assert len(list(csv.DictReader(io.StringIO(out)))) == len(demo_airframes()[0].equipment)
