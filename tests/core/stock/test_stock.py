"""The shelf: things checked, cut and told; tables in and out; foam from scrapped parts; which foam is this."""

from __future__ import annotations

import math
from datetime import date

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import TypeAdapter

from fletcher.core.document.airframe import BarLayer, CutLayer
from fletcher.core.document.damage import Mark
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.document.shapes import FourDigitSection
from fletcher.core.materials.tables import reference, table_rows
from fletcher.core.stock.cutting_up import after_cut
from fletcher.core.stock.donor import SKIN_MM, donor_block
from fletcher.core.stock.items import KINDS, StockItem, cautions_of, flies, problems_of, stocked, told
from fletcher.core.stock.stock_table import read_stock_csv, stock_csv
from fletcher.core.stock.which_foam import FoamSeen, density_of, foam_tests, which_foam
from tests.core.factories import plank

EPP = reference().foams["epp_30"]
ROD = StockItem(kind="bar", key="carbon_rod_3", count=2, length_mm=1000, place="tube 2", batch="A")


def test_a_thing_is_of_a_material_of_its_kind_and_has_the_sizes_of_its_kind():
    assert list(problems_of(ROD)) == []
    wrong = ROD.model_copy(update={"key": "epp_30", "length_mm": None})
    assert [p.path for p in problems_of(wrong)] == ["key", "length_mm"]
    for kind in KINDS:
        bare = StockItem(kind=kind, key=next(iter(stocked(kind))))
        assert {p.path for p in problems_of(bare)} == {
            "bar": {"length_mm"}, "block": {"length_mm", "width_mm", "thick_mm"}, "glue": set(), "thing": set(),
        }.get(kind, {"length_mm", "width_mm"})  # fmt: skip
    scrap = ROD.model_copy(update={"origin": "scrap"})
    assert [p.path for p in problems_of(scrap)] == ["origin"]


def test_a_thing_is_told_by_its_sizes_and_what_to_mind():
    assert told(ROD) == "2 of 1000 mm"
    glue = StockItem(kind="glue", key="epoxy_30min", grams=120, keeps_until=date(2026, 5, 1))
    assert told(glue) == "120 g" and told(StockItem(kind="thing", key="m3_nylon", count=7)) == "7"
    assert cautions_of(glue, date(2026, 5, 1)) == [] and "past its date" in cautions_of(glue, date(2026, 5, 2))[0]
    block = StockItem(kind="block", key="epp_30", length_mm=200, width_mm=80, thick_mm=20, origin="scrap")
    assert not flies(block) and flies(ROD) and "never as structure" in cautions_of(block, date(2026, 1, 1))[0]
    assert told(block) == "200 mm × 80 mm × 20 mm"


def test_a_cut_leaves_the_others_and_a_rest_that_is_worth_keeping():
    left = after_cut(ROD, [300, 250], 1)
    assert [(i.count, i.length_mm, i.origin) for i in left] == [(1, 1000, "bought"), (1, 448, "offcut")]
    assert [i.length_mm for i in after_cut(ROD, [880], 1)] == [1000]  # 119 is too short to keep
    assert [i.length_mm for i in after_cut(ROD, [879], 1)] == [1000, 120]
    one = ROD.model_copy(update={"count": 1, "length_mm": 2000.0})
    assert after_cut(one, [1800], 1) == [] and after_cut(one, [1799], 1)[0].length_mm == 200  # a tenth
    assert after_cut(one.model_copy(update={"length_mm": 500.0}), [500], 1) == []
    for pieces, kerf in (([1000, 1], 0), ([500, 500], 1), ([], 1)):
        with pytest.raises(InvalidDocument, match="pieces_mm"):
            after_cut(ROD, pieces, kerf)
    with pytest.raises(InvalidDocument):
        after_cut(StockItem(kind="glue", key="epoxy_30min"), [10], 0)


@given(st.lists(st.floats(1, 400), min_size=1, max_size=8), st.floats(0, 3))
@settings(max_examples=200, deadline=None)
def test_no_millimetre_is_made_or_lost(pieces, kerf):
    one = StockItem(kind="bar", key="carbon_rod_3", length_mm=1500)
    used = sum(pieces) + kerf * len(pieces)
    if used - kerf > 1500:
        with pytest.raises(InvalidDocument):
            after_cut(one, pieces, kerf)
        return
    left = after_cut(one, pieces, kerf)
    assert sum(i.length_mm for i in left) == pytest.approx(1500 - used if left else 0, abs=0.06)
    assert left or 1500 - used < 150.0001


def test_a_table_says_the_same_both_ways_and_a_name_stands_for_its_key():
    block = StockItem(kind="block", key="epp_30", length_mm=200, width_mm=80, thick_mm=20, origin="scrap")
    things = [ROD, StockItem(kind="glue", key="epoxy_30min", grams=87.5, opened=date(2026, 4, 2), note="=half"), block]
    assert read_stock_csv(stock_csv(things)) == things
    name = reference().bars["carbon_rod_3"].name
    (read,) = read_stock_csv(f"kind;material;length cm;count\nBar;{name.upper()};62,5;3\n")
    assert (read.key, read.length_mm, read.count) == ("carbon_rod_3", 625, 3)


@pytest.mark.parametrize(
    ("text", "path", "says"),
    [
        ("kind,weight\nbar,3\n", "line 1", "weight"),
        ("kind,length mm\nbar,3\n", "line 1", "material"),
        ("kind,material,length mm\nbar,carbon_rod_3,long\n", "line 2.length_mm", "must be a number"),
        ("kind,material,length mm\nbar,carbon_rod_3,-5\n", "line 2.length_mm", "more than 0"),
        ("kind,material\nbar,carbon_rod_3\n", "line 2.length_mm", "is needed for a bar"),
        ("kind,material\nrope,carbon_rod_3\n", "line 2.kind", "must be one of"),
        ("kind,material,length\nbar,no such,5\n", "line 2.key", "is no material of a bar"),
        ("kind,material,opened\nglue,epoxy_30min,yesterday\n", "line 2.opened", ""),
        ("kind,material,opened\nglue,epoxy_30min,1801-01-01\n", "line 2.opened", "1970"),
    ],
)
def test_a_table_that_is_wrong_is_told_by_line_and_column_and_nothing_is_taken(text, path, says):
    with pytest.raises(InvalidDocument) as told_:
        read_stock_csv(text + ("glue,epoxy_30min\n" if "line 2" in path else ""))
    first = told_.value.problems[0]
    assert first.path == path and says in first.message + str(first.value)


def test_the_box_in_a_flat_board_is_the_board_less_its_skins():
    board = plank(EPP, span=600, chord=200, thickness=20)
    block = donor_block(board)
    assert (block.length_mm, block.thick_mm, block.key, block.origin) == (600, 20 - 2 * SKIN_MM, "epp_30", "scrap")
    assert block.width_mm == pytest.approx(0.96 * 200, abs=1)
    assert donor_block(board.model_copy(update={"foam": None})) is None
    assert donor_block(board.model_copy(update={"root_thickness_mm": 12.0, "tip_thickness_mm": 12.0})) is None


def test_a_bar_bounds_the_box_and_damage_is_not_in_it():
    board = plank(EPP, span=600, chord=200, thickness=20)
    bar = BarLayer(id="b", stock="carbon_rod_3", place="middle", root_percent=70, tip_percent=70)
    with_bar = donor_block(board.model_copy(update={"layers": (bar,)}))
    assert with_bar.width_mm == pytest.approx(0.66 * 200, abs=9) and with_bar.length_mm == 600
    mark = TypeAdapter(Mark).validate_python({"kind": "break", "id": "m", "at_mm": 200.0})
    broken = donor_block(board.model_copy(update={"damage": (mark,)}))
    assert broken.length_mm == 350 and broken.width_mm == pytest.approx(192, abs=1)  # from 250 outwards
    cut = CutLayer(id="c", root_percent=50, tip_percent=50, width_mm=20)
    assert donor_block(board.model_copy(update={"layers": (cut,)})).width_mm < 100


def test_the_box_in_a_tapered_wing_fits_into_it():
    wing = plank(
        EPP, span=500, chord=220, thickness=26, section=FourDigitSection(), tip_chord_mm=150.0, tip_thickness_mm=18.0
    )
    block = donor_block(wing)
    assert block.length_mm <= 500 and block.width_mm <= 220 and block.thick_mm <= 26 - 2 * SKIN_MM
    volume = block.length_mm * block.width_mm * block.thick_mm
    core = 500 * 0.5 * (220 * 26 + 150 * 18) * 0.685  # area of the four-digit form over chord × thickness
    assert 0.1 * core < volume < 0.8 * core


def test_foams_are_told_apart_by_what_they_do():
    beads = {"structure": "beads"}
    assert which_foam(FoamSeen()).next_test is not None
    snap = which_foam(FoamSeen(answers={**beads, "sliver": "snaps", "solvent": "melts"}))
    assert snap.odds[0].family == "EPS" and snap.odds[0].odds > 0.95 and snap.next_test is None
    spring = which_foam(FoamSeen(answers={**beads, "sliver": "springs", "solvent": "nothing"}))
    assert spring.odds[0].family == "EPP" and spring.odds[0].odds > 0.8
    cells = which_foam(FoamSeen(answers={"structure": "cells", "sliver": "snaps", "solvent": "melts"}))
    assert cells.odds[0].family == "XPS"
    assert all(sum(o.odds for o in g.odds) == pytest.approx(1) for g in (snap, spring, cells))


def test_a_block_tells_its_density_and_the_nearest_foam_of_the_table():
    seen = FoamSeen(
        answers={"structure": "beads", "sliver": "springs"}, length_mm=200, width_mm=100, thick_mm=20, grams=18
    )
    guess = which_foam(seen)
    assert density_of(seen) == pytest.approx(45) and guess.density_kg_m3 == pytest.approx(45)
    assert guess.odds[0].key == "epp_45"
    heavy = which_foam(seen.model_copy(update={"grams": 32.0}))
    assert next(o for o in heavy.odds if o.family == "EPP").odds > next(o for o in heavy.odds if o.family == "EPO").odds
    assert density_of(FoamSeen(grams=5)) is None


def test_answers_in_either_order_tell_the_same_and_the_next_test_is_one_not_done():
    a = which_foam(FoamSeen(answers={"structure": "beads", "dent": "half"}))
    b = which_foam(FoamSeen(answers={"dent": "half", "structure": "beads"}))
    assert a == b and a.next_test not in ("structure", "dent", None) and "not settled" in a.says
    every = {t.test: next(iter(t.answers)) for t in foam_tests()}
    assert which_foam(FoamSeen(answers=every)).next_test is None
    for bad in ({"colour": "white"}, {"dent": "blue"}):
        with pytest.raises(ValueError, match="is no answer"):
            which_foam(FoamSeen(answers=bad))


def table() -> dict[str, dict[str, dict[str, float]]]:
    """P(answer | family) as the file has it."""
    out: dict[str, dict[str, dict[str, float]]] = {}
    for row in table_rows("foam_tests.csv", ()):
        out.setdefault(row["test"], {})[row["answer"]] = {f: float(v) for f, v in row.items() if f.isupper()}
    return out


def test_odds_are_those_of_bayes_rule():
    p = table()
    only = {o.family: o.odds for o in which_foam(FoamSeen(answers={"structure": "beads"})).odds}
    whole = sum(p["structure"]["beads"].values())
    assert only == pytest.approx({f: v / whole for f, v in p["structure"]["beads"].items()})
    seen = FoamSeen(answers={"structure": "beads"}, length_mm=100, width_mm=100, thick_mm=100, grams=31)
    dense = {o.family: o.odds for o in which_foam(seen).odds}

    def alike(family: str) -> float:
        foams = [f.density_kg_m3.typ for f in reference().foams.values() if f.family == family]
        return sum(math.exp(-0.5 * (math.log(31 / d) / 0.25) ** 2) for d in foams) / len(foams)

    for a, b in (("EPP", "EPO"), ("EPS", "EPP"), ("PVC", "EPE")):
        assert dense[a] / dense[b] == pytest.approx(only[a] / only[b] * alike(a) / alike(b), rel=1e-3)


def test_the_next_test_leaves_the_least_doubt_on_the_average():
    p, given = table(), {"structure": "beads"}

    def odds(answers: dict[str, str]) -> dict[str, float]:
        weights = {f: math.prod(p[t][a][f] for t, a in answers.items()) for f in p["structure"]["beads"]}
        return {f: w / sum(weights.values()) for f, w in weights.items()}

    def doubt(test: str) -> float:
        now, left = odds(given), 0.0
        for answer, shares in p[test].items():
            after = odds({**given, test: answer})
            left -= sum(now[f] * shares[f] for f in now) * sum(v * math.log(v) for v in after.values() if v > 0)
        return left

    assert which_foam(FoamSeen(answers=given)).next_test == min((t for t in p if t not in given), key=doubt)


def test_a_block_is_a_millimetre_clear_of_each_face_and_of_the_bar_at_the_middle_of_its_taper():
    board = plank(EPP, span=600, chord=240, thickness=20, tip_chord_mm=160.0)
    assert donor_block(board).thick_mm == 18
    bar = BarLayer(id="b", stock="carbon_strip_3x0.5", place="middle", root_percent=50, tip_percent=50)
    halves = donor_block(board.model_copy(update={"layers": (bar,)}))
    assert halves.width_mm * 2 < 0.96 * 200 + 1 and halves.length_mm <= 600
