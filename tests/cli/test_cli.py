"""The command line and the documented file."""

from __future__ import annotations

import json
import re
from pathlib import Path

import pytest

from fletcher.cli import OF_OLD, main
from fletcher.cli.describe import describe
from fletcher.core.balance.sheet import balance_sheet
from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.cases import Between
from fletcher.core.estimate.report import estimate
from fletcher.core.materials.uncertainty import Band
from fletcher.core.studies.control_surface_ways import compare_surface
from fletcher.core.studies.joint_sheet import joint_sheets
from fletcher.core.studies.lighter_parts import lighter_parts
from fletcher.core.validation.airframe import read

ROOT = Path(__file__).resolve().parents[2]
EXAMPLES = sorted((ROOT / "docs" / "examples").glob("*.fletcher.json"))


@pytest.fixture
def example(tmp_path):
    path = tmp_path / "wing.json"
    path.write_text(demo_airframes()[0].model_dump_json())
    return path


def test_estimate_prints_verdict_working_and_cautions(example, capsys):
    assert main(["estimate", str(example), "--part", "wing", "--case", "pull-up"]) == 0
    out = capsys.readouterr().out
    expected = estimate(demo_airframes()[0], "wing", "pull-up")
    assert f"Deflection  {expected.deflection_mm.typ:.1f} mm" in out
    assert expected.first.sentence in out
    assert "not a clearance to fly" in out
    assert "Assumptions:" in out


def test_json_is_the_same_result(example, capsys):
    assert main(["estimate", str(example), "--case", "bench", "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    assert [r["part_id"] for r in found] == ["wing", "plank"]
    expected = estimate(demo_airframes()[0], "wing", "bench")
    assert found[0]["breaks_at"]["typ"] == expected.breaks_at.typ


def test_bad_document_is_one_line_per_problem_and_exit_2(tmp_path, capsys):
    document = demo_airframes()[0].model_dump(mode="json")
    document["parts"][0]["foam"] = "epp_3"
    document["parts"][0]["layers"][0]["end_mm"] = 1000
    path = tmp_path / "bad.json"
    path.write_text(json.dumps(document))
    assert main(["estimate", str(path)]) == 2
    captured = capsys.readouterr()
    assert captured.out == ""
    lines = captured.err.strip().splitlines()
    assert len(lines) == 2
    assert lines[0].startswith("parts[0].foam: ") and "'epp_3'" in lines[0]
    assert lines[1] == "parts[0].layers[0].end_mm: lies beyond the end of the part: at most 600 mm (you entered 1000)"


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (["estimate", "/nowhere.json"], "cannot read"),
        (["estimate", "FILE", "--case", "storm"], "no load case 'storm'"),
        (["estimate", "FILE", "--part", "fin"], "no part 'fin'"),
    ],
)
def test_wrong_arguments(example, capsys, arguments, says):
    assert main([str(example) if a == "FILE" else a for a in arguments]) == 2
    assert says in capsys.readouterr().err


def test_control_surfaces_are_compared_as_on_the_page(capsys):
    path = ROOT / "docs" / "examples" / "reed-warden.v3.fletcher.json"
    assert main(["surfaces", str(path)]) == 0
    told = capsys.readouterr().out
    airframe = read(json.loads(path.read_text()))
    part = next(p for p in airframe.parts if p.id == "aileron")
    for way in compare_surface(airframe, part, part.cases[0]):
        assert f"{way.name:<24} {way.grams.typ:6.2f} g" in told
    assert main(["surfaces", str(path), "--part", "wing"]) == 2
    assert "no control surface" in capsys.readouterr().err


def test_the_estimate_tells_balance_effort_and_targets(tmp_path, capsys):
    airframe = demo_airframes()[0]
    part = airframe.parts[0]
    targets = part.targets.model_copy(update={"added_g": Between(high=20)})
    airframe = airframe.model_copy(update={"parts": (part.model_copy(update={"targets": targets}),)})
    path = tmp_path / "wing.json"
    path.write_text(airframe.model_dump_json())
    assert main(["estimate", str(path), "--part", "wing"]) == 0
    told = capsys.readouterr().out
    assert "Target      added open to 20: ✕ no, over" in told
    assert f"CG          {estimate(airframe, 'wing').balance_mm.typ:.1f} mm" in told
    assert "hot wire, iron" in told


def test_schema_names_every_field_of_the_example(capsys):
    assert main(["schema"]) == 0
    schema = capsys.readouterr().out
    document = json.loads((ROOT / "docs" / "examples" / "reed-warden.v3.fletcher.json").read_text())
    for part in document["parts"]:
        for key in part:
            assert f'"{key}"' in schema


def test_a_document_of_version_1_becomes_one_of_the_present_version_without_loss():
    old = json.loads((ROOT / "docs" / "examples" / "reed-warden.v1.fletcher.json").read_text())
    new = json.loads(read(old).model_dump_json())
    assert (old["version"], new["version"]) == (1, 6)
    for before, after in zip(old["parts"], new["parts"], strict=True):
        for key, value in before.items():
            if key not in ("layers", "cases"):
                assert after[key] == value
        for one, other in zip(before["layers"], after["layers"], strict=True):
            assert all(other[key] == value for key, value in one.items())


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda p: p.name)
def test_every_kept_example_still_loads_and_is_estimated(path):
    airframe = read(json.loads(path.read_text()))
    for part in airframe.parts:
        for case in part.cases:
            assert estimate(airframe, part.id, case.id).breaks_at.typ > 0


def test_the_example_in_the_documentation_is_the_kept_one():
    page = (ROOT / "docs" / "file-format.md").read_text()
    shown = re.search(r"```json\n(.*?)```", page, re.S)
    assert shown
    kept = (ROOT / "docs" / "examples" / "mud-lark.v6.fletcher.json").read_text()
    assert json.loads(shown.group(1)) == json.loads(kept)


@pytest.mark.parametrize("verb", ["cutting", "cutouts", "breakaway"])
def test_studies_print_and_give_the_same_as_json(verb, capsys, tmp_path):
    path = tmp_path / "fleet.json"
    path.write_text(demo_airframes()[2].model_dump_json())
    assert main([verb, str(path), "--part", "wing"]) == 0
    text = capsys.readouterr().out
    assert "Tern Chaser, Right wing half" in text
    assert main([verb, str(path), "--part", "wing", "--json"]) == 0
    (found,) = json.loads(capsys.readouterr().out)
    if verb == "cutting":
        assert all(row["name"] in text for row in found["stack"]["rows"])
    elif verb == "cutouts":
        assert [o["name"] for o in found] == ["Aileron servo", "Lead slit"]
        assert found[1]["says"] in text
    else:
        assert all(w["name"] in text for w in found["ways"])


def test_making_tells_how_hot_the_iron_is(example, capsys):
    assert main(["cutting", str(example), "--part", "wing"]) == 0
    assert re.search(r"Iron .* on .*: \d+ to \d+ °C, it stands \d+ °C\.", capsys.readouterr().out)


def test_the_corridor_takes_its_wish_and_refuses_a_wrong_one(example, capsys):
    assert main(["breakaway", str(example), "--part", "wing", "--mount-N", "80", "--months", "24"]) == 0
    assert "80 N" in capsys.readouterr().out
    assert main(["breakaway", str(example), "--part", "wing", "--months", "9000"]) == 2
    assert capsys.readouterr().err.startswith("months: ")


def test_a_detail_is_checked_from_the_terminal(example, capsys):
    command = ["detail", str(example), "--part", "wing", "--at", "20", "half_slot"]
    assert main([*command, "sheet=birchply_1.5", "depth_mm=50"]) == 0
    out = capsys.readouterr().out
    assert "Half-slot of crossed plates" in out and "helps:" in out
    assert main([*command, "sheet=birchply_1.5", "depth_mm=5000"]) == 2
    assert "depth_mm" in capsys.readouterr().err
    assert main([*command, "sheet=unobtainium"]) == 2
    assert capsys.readouterr().err.startswith("detail.sheet: ")


def test_the_estimate_tells_toughness_warp_dents_and_the_control_run(example, capsys):
    assert main(["estimate", str(example)]) == 0
    out = capsys.readouterr().out
    for word in ("Toughness   up", "Toughness   down", "Built-in", "Dents", "Linkage"):
        assert word in out


def test_glue_is_ranked_at_the_terminal_and_a_wrong_need_is_one_line(capsys):
    assert main(["glue", "one=epp_30", "other=wood", "hold_N=30"]) == 0
    out = capsys.readouterr().out
    assert "holds 30 N, 60 min after you take up the tube" in out and "  1 " in out and "for good" in out
    assert main(["glue", "one=epp_30", "other=wood", "--json"]) == 0
    assert json.loads(capsys.readouterr().out)["pair"] == "foam_wood"
    assert main(["glue", "one=unobtainium"]) == 2
    assert capsys.readouterr().err.startswith("one: ")
    assert main(["glue", "area_cm2=-3"]) == 2
    assert capsys.readouterr().err.startswith("area_cm2: ")


def test_hinges_are_ranked_at_the_terminal_with_sun_peel_and_both_angles_of_a_cloth(capsys):
    assert main(["hinge", "made_of=composite", "sun_hours=200"]) == 0
    out = capsys.readouterr().out
    assert "cloth at 0°" in out and "cloth at 45°" in out and "shears along at" in out and "leaves 8" in out
    assert main(["hinge", "made_of=epp_30"]) == 0
    assert "the pull peels it first" in capsys.readouterr().out
    assert main(["hinge", "sun_hours=-1"]) == 2
    assert capsys.readouterr().err.startswith("sun_hours: ")


def test_what_holds_is_ranked_and_the_joints_of_a_file_are_told(capsys, tmp_path):
    assert main(["holddown", "mass_g=120", "speed_m_s=8", "stop=true"]) == 0
    assert "survives" in capsys.readouterr().out
    assert main(["holddown", "mass_g=-1"]) == 2
    assert capsys.readouterr().err.startswith("mass_g: ")
    path = tmp_path / "fleet.json"
    path.write_text(demo_airframes()[2].model_dump_json())
    assert main(["joints", str(path)]) == 0
    out = capsys.readouterr().out
    for word in ("Panel joint", "×", "helps:", "after closing:", "Caution:"):
        assert word in out
    assert main(["joints", str(path), "--json"]) == 0
    found = json.loads(capsys.readouterr().out)[0][0]
    airframe = demo_airframes()[2]
    assert found == joint_sheets(airframe, airframe.parts[0])[0].model_dump(mode="json")


def test_damage_and_inspection_are_told_and_a_crash_that_is_none_is_one_line(capsys, tmp_path):
    document = demo_airframes()[0].model_dump(mode="json")
    document["parts"][0]["damage"] = [{"kind": "break", "id": "b", "at_mm": 150}]
    path = tmp_path / "broken.json"
    path.write_text(json.dumps(document))
    assert main(["damage", str(path), "--part", "wing"]) == 0
    assert "twist stiffness" in capsys.readouterr().out
    assert main(["inspect", str(path), "what=pole", "at_mm=300", "--part", "wing"]) == 0
    out = capsys.readouterr().out
    assert "× its strength" in out and "check:" in out
    assert main(["inspect", str(path), "what=bored"]) == 2
    assert capsys.readouterr().err.startswith("what: ")


def test_the_one_command_hands_on_every_verb_of_the_core(capsys):
    with pytest.raises(SystemExit):
        main(["--help"])
    told = re.search(r"\{([a-z,-]+)\}", capsys.readouterr().out)
    assert told
    text = (ROOT / "tools" / "command.py").read_text()
    assert all(f'"{verb}"' in text for verb in (*told.group(1).split(","), *OF_OLD))


def test_divergence_at_the_load_is_told_where_it_is_another():
    result = estimate(demo_airframes()[0], "wing", "pull-up")
    assert result.shakes is not None
    softer = result.shakes.model_copy(update={"divergence_at_load_m_s": Band(typ=31.4, low=25.2, high=40.0)})
    told = describe(result.model_copy(update={"shakes": softer}), "Wing", False)
    assert "at this load divergence at 31 m/s (25 to 40)" in told
    same = result.shakes.model_copy(update={"divergence_at_load_m_s": None})
    assert "at this load" not in describe(result.model_copy(update={"shakes": same}), "Wing", False)


def test_verbs_of_before_are_understood_and_not_offered(capsys, example):
    told = []
    for verb in ("making", "cutting"):
        assert main([verb, str(example), "--json"]) == 0
        told.append(capsys.readouterr().out)
    assert told[0] == told[1]
    with pytest.raises(SystemExit):
        main(["--help"])
    offered = re.search(r"\{([a-z,-]+)\}", capsys.readouterr().out)
    assert offered and set(OF_OLD.values()) <= set(offered.group(1).split(","))
    assert not set(OF_OLD) & set(offered.group(1).split(","))


def test_balance_tells_mass_centre_range_and_what_to_move(example, capsys, tmp_path):
    bare = json.loads(example.read_text())
    bare["equipment"] = []
    example.write_text(json.dumps(bare))
    assert main(["balance", str(example)]) == 0
    out = capsys.readouterr().out
    assert "Cannot be told yet: no battery, receiver, motor or servo entered." in out and "Neutral point" in out
    fitted = json.loads(example.read_text())
    fitted["equipment"] = [
        {"id": "b", "what": "battery", "mass_g": 180, "x_mm": 600, "from_mm": 0, "to_mm": 700},
        {"id": "r", "what": "receiver", "stock": "receiver_6", "x_mm": 300},
    ]
    example.write_text(json.dumps(fitted))
    assert main(["balance", str(example)]) == 0
    out = capsys.readouterr().out
    expected = balance_sheet(read(fitted))
    assert expected.says in out and f"{expected.centre_mm.typ:.1f} mm aft" in out
    assert "  1. move the battery" in out and "Cut its bay from" in out
    assert main(["balance", str(example), "--json"]) == 0
    assert json.loads(capsys.readouterr().out)["says"] == expected.says
    ways = lighter_parts(read(fitted))
    assert ways and main(["balance", str(example), "--lighter"]) == 0
    out = capsys.readouterr().out
    assert all(f"{w.says}: {w.grams:.1f} g" in out and w.loses in out for w in ways)
    assert main(["balance", str(example), "--lighter", "--json"]) == 0
    assert [w["says"] for w in json.loads(capsys.readouterr().out)] == [w.says for w in ways]
    fitted["parts"], fitted["equipment"] = [p for p in fitted["parts"] if p["kind"] == "plank"], []
    example.write_text(json.dumps(fitted))
    assert main(["balance", str(example)]) == 2 and "nothing in this file flies" in capsys.readouterr().err
    fitted["equipment"] = [{"id": "b", "x_mm": 100}]
    example.write_text(json.dumps(fitted))
    assert main(["balance", str(example)]) == 2
    assert "equipment[0].mass_g: is missing" in capsys.readouterr().err


def test_a_plan_is_told_and_saved_as_a_calendar(example, capsys):
    hours = ["--hours", "mon-fri@18-22", "sat,sun@9-17", "--begins", "2026-06-01T18:00", "--zone", "Europe/Berlin"]
    assert main(["plan", str(example), *hours, "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert main(["plan", str(example), *hours]) == 0
    out = capsys.readouterr().out
    assert told["says"] in out and all(f"□ {g['says']}" in out for o in told["operations"] for g in o["gates"])
    assert out.count(" min  ") == len(told["planned"]) > 30
    assert main(["plan", str(example), *hours, "--calendar"]) == 0
    calendar = capsys.readouterr().out
    assert calendar.startswith("BEGIN:VCALENDAR") and calendar.count("BEGIN:VEVENT") == len(told["planned"])


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (["--hours", "monday"], "write days@from-to"),
        (["--hours", "mon-fry@9-12"], "days are mon, tue"),
        (["--hours", "mon@20-18"], "each must end later than it begins"),
        (["--people", "9"], "people: must be between 1 and 4"),
        (["--zone", "Nowhere"], "is no time zone"),
        (["--hours", "mon@18-18.2"], "without a break"),
    ],
)
def test_a_shop_that_cannot_be_is_refused(example, capsys, arguments, says):
    assert main(["plan", str(example), *arguments]) == 2 and says in capsys.readouterr().err
    assert main(["plan", "nowhere.json"]) == 2 and "cannot read" in capsys.readouterr().err


def test_the_cut_list_is_told_with_what_is_on_the_shelf(example, capsys):
    assert main(["cut", str(example), "--own", "carbon_rod_3=480,980", "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert main(["cut", str(example), "--own", "carbon_rod_3=480,980"]) == 0
    out = capsys.readouterr().out
    assert "own 980 mm: 470 " in out
    for b in told["bars"]:
        assert f"{b['name']}: buy {b['buy']} × {b['unit']}" in out
        assert all(f"{p['mm']:g} {p['name']}" in out for c in b["cuts"] for p in c["pieces"])
    for own, says in (("rod=480", "is no bar"), ("carbon_rod_3=x", "write KEY=mm,mm"), ("carbon_rod_3=-4", "own[0]")):
        assert main(["cut", str(example), "--own", own]) == 2 and says in capsys.readouterr().err


def test_templates_are_written_and_what_is_wrong_is_told(example, tmp_path, capsys):
    folder = tmp_path / "out"
    assert main(["templates", str(example), "-o", str(folder), "--no-pdf", "--json"]) == 0
    names = json.loads(capsys.readouterr().out)
    assert names and sorted(names) == sorted(p.name for p in folder.iterdir())
    assert {n.rsplit(".", 1)[1] for n in names} == {"dxf", "svg"}
    for arguments, says in (
        (["nowhere.json", "-o", str(folder)], "cannot read"), ([str(example), "-o", str(example)], "cannot write"),
        ([str(example), "-o", str(folder), "--kerf", "9"], "between 0 and 5"),
    ):  # fmt: skip
        assert main(["templates", *arguments]) == 2 and says in capsys.readouterr().err


def test_sheets_are_cut_from_what_is_on_the_shelf(example, capsys):
    assert main(["cut", str(example), "--sheets", "epp_30=900x600,310x140"]) == 0
    assert "own 1: 900 × 600 mm" in capsys.readouterr().out
    for wrong, says in (("rope=900x600", "is no sheet"), ("epp_30=900", "LONGxWIDE"), ("epp_30=axb", "LONGxWIDE")):
        assert main(["cut", str(example), "--sheets", wrong]) == 2 and says in capsys.readouterr().err
