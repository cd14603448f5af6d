"""Equipment as a table: there and back, other dialects, and errors by line."""

import pytest

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.csv_table import csv_text
from fletcher.core.document.equipment_table import equipment_csv, read_equipment_csv
from fletcher.core.document.problems import InvalidDocument

ITEMS = demo_airframes()[0].equipment
PLAIN = ("id", "lead", "thrust_N", "down_deg", "right_deg")


def bare(item):
    return item.model_dump(exclude=set(PLAIN))


def refused(text):
    with pytest.raises(InvalidDocument) as told:
        read_equipment_csv(text)
    return [(p.path, p.message) for p in told.value.problems]


def test_there_and_back():
    again = read_equipment_csv(equipment_csv(ITEMS))
    assert [bare(e) for e in again] == [bare(e) for e in ITEMS]
    assert len({e.id for e in again}) == len(ITEMS)


@pytest.mark.parametrize(
    "text",
    [
        "name;mass g;x mm;pair\nRod;12,5;1.040,5;yes\n",
        "\ufeffX (mm)\tName\tMass (g)\tPair\n1040.5\tRod\t12.5\ty\n",
        "x in,name,mass kg,pair\n40.96456693,Rod,0.0125,true\n",
        "\n\nx cm , name , mass g , pair\n 104.05 , Rod , 12.5 , X \n\n",
    ],
)
def test_other_dialects_and_units(text):
    (item,) = read_equipment_csv(text)
    assert (item.name, item.pair, item.what) == ("Rod", True, "other")
    assert item.mass_g == pytest.approx(12.5) and item.x_mm == pytest.approx(1040.5)


def test_every_line_that_is_wrong_is_told_and_nothing_is_taken():
    lines = ("name,what,mass g,x mm,stock,pair", "A,engine,5,10,,", "B,servo,heavy,10,,", "C,servo,,10,,")
    text = "\n".join((*lines, "D,servo,5,10,gold,maybe"))
    paths = [path for path, _ in refused(text)]
    assert paths == ["line 2.what", "line 3.mass_g", "line 3.mass_g", "line 4.mass_g", "line 5.pair", "line 5.stock"]
    assert refused("name,mass g,x mm\nA,-5,10\n")[0][0] == "line 2.mass_g"


def test_headings_are_asked_for():
    assert refused("")[0][1].startswith("is empty")
    assert refused("name,weight,x mm\nA,5,1\n")[0][0] == "line 1"
    assert "x mm" in refused("name,mass g\nA,5\n")[0][1]
    assert refused("x furlong,mass g\n1,5\n")[0][0] == "line 1"
    assert "at most 60 lines" in refused("x mm,mass g\n" + "1,5\n" * 61)[0][1]
    assert "characters" in refused("x" * 100_001)[0][1]


def test_a_formula_is_text():
    assert csv_text(("a",), [("=1+1",), ("-3",), (-3.0,), (None,)]) == "a\n'=1+1\n'-3\n-3.0\n\"\"\n"
    item = ITEMS[0].model_copy(update={"name": "=SUM(A1)"})
    assert read_equipment_csv(equipment_csv([item]))[0].name == "=SUM(A1)"
