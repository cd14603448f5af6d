"""The test rig at the terminal: readings in, what they teach out, what is wrong by name."""

from __future__ import annotations

import json

import pytest

from fletcher.cli import main
from fletcher.core.demo.world import demo_airframes

READINGS = """test,part,case,load g,time s,bend mm
first,plank,bench,0,10,0.0
first,plank,bench,150,70,4.1
first,plank,bench,300,130,8.4
first,plank,bench,450,190,12.9
second,wing,bench,0,10,0
second,wing,bench,500,70,0.9
second,wing,bench,1000,130,1.8
"""


@pytest.fixture
def files(tmp_path):
    airframe, readings = tmp_path / "reed.json", tmp_path / "readings.csv"
    airframe.write_text(demo_airframes()[0].model_dump_json())
    readings.write_text(READINGS)
    return str(airframe), readings


def test_what_tests_teach_is_told(files, capsys):
    airframe, readings = files
    assert main(["rig", airframe, "--readings", str(readings)]) == 0
    out = capsys.readouterr().out
    assert "2 of 2 readings inside what was expected." in out
    assert "Extruded PS, 30 kg/m³, E pulled: " in out and "times as sure" in out
    assert "Offcut plank: holds " in out
    assert main(["rig", airframe, "--readings", str(readings), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert [t["test_id"] for t in told["tests"]] == ["first", "second"] and told["refused"] == []


def test_without_readings_the_headings_are_given(files, capsys):
    assert main(["rig", files[0]]) == 0
    assert capsys.readouterr().out.startswith("test,part,case,instrument,load N,time s,bend mm")


@pytest.mark.parametrize(
    ("text", "says"),
    [
        (READINGS.replace("plank", "plunk"), "is no part of this airframe"),
        (READINGS.replace("wing,bench", "wing,pull-up"), "is no test of Left wing half"),
        (READINGS.replace("8.4", "much"), "line 4, bend_mm: is no number"),
        ("test,part\nx,plank\n", "lacks the heading"),
    ],
)
def test_what_is_wrong_is_named(files, capsys, text, says):
    airframe, readings = files
    readings.write_text(text)
    assert main(["rig", airframe, "--readings", str(readings)]) == 2
    assert says in capsys.readouterr().err
    assert main(["rig", airframe, "--readings", str(readings) + "x"]) == 2
    assert "cannot read" in capsys.readouterr().err


def test_a_blind_trial_is_told_for_every_part(capsys):
    assert main(["rig", "--trial", "10"]) == 0
    out = capsys.readouterr().out
    assert out.startswith("10 builders, as assumed") and all(p in out for p in ("taped plank", "rod pair"))
    assert main(["rig", "--trial", "3"]) == 2 and main(["rig"]) == 2
    assert "between 10 and 5000" in capsys.readouterr().err
