"""The cut list: every bar of the document and nothing else, spliced where it says, bought in whole units."""

from __future__ import annotations

from collections import Counter

import pytest

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe, BarLayer, Layer, Place, Sleeve, Splice
from fletcher.core.estimate.effort import prices
from fletcher.core.plan.cut_list import CutWish, OwnBars, cut_list
from fletcher.core.plan.operations import operations
from fletcher.core.plan.schema import ShopWish
from fletcher.core.studies.constructions import CONSTRUCTIONS

FLEET = demo_airframes()
ROD = "carbon_rod_3"


def wing(*layers: Layer, span: float = 470.0, hand: str = "single") -> Airframe:
    part = CONSTRUCTIONS["bead_wing"].part().model_copy(update={
        "name": "Wing", "hand": hand, "span_mm": span, "place": Place(), "layers": layers,
    })  # fmt: skip
    return Airframe(name="x", all_up_mass_g=600, top_speed_m_s=14, parts=(part,))


def bar(**more) -> BarLayer:
    return BarLayer(**{"id": "bar", "stock": ROD, "place": "pair", "joined_at_root": False, **more})


def pieces(found) -> Counter[float]:
    return Counter(p.mm for b in found.bars for c in b.cuts for p in c.pieces)


@pytest.mark.parametrize("airframe", FLEET, ids=lambda a: a.name)
def test_every_millimetre_is_in_the_document_and_the_reverse(airframe):
    found = cut_list(airframe, CutWish())
    by_stock: Counter[str] = Counter()
    for part in airframe.parts:
        for la in part.layers:
            if part.kind != "plank" and la.enabled and isinstance(la, BarLayer):
                end = part.span_mm if la.end_mm is None else la.end_mm
                by_stock[la.stock] += (end - la.start_mm) * part.count * (2 if la.place == "pair" else 1)
    for b in found.bars:
        cut = sum(p.mm for c in b.cuts for p in c.pieces if "brace" not in p.name)
        assert cut == pytest.approx(by_stock[b.key])
        for c in b.cuts:
            assert sum(p.mm for p in c.pieces) + c.left_mm <= c.stock_mm + 1e-6
        assert b.least <= len(b.cuts) <= b.careless
        assert b.buy == sum(not c.own for c in b.cuts) and b.cost.typ == pytest.approx(
            b.buy * prices()[b.key].credits.typ
        )
        assert (b.cost.low, b.cost.high) == pytest.approx(
            (b.buy * prices()[b.key].credits.low, b.buy * prices()[b.key].credits.high)
        )
    every = (*found.bars, *found.sheets, *found.tapes)
    assert found.cost.typ == pytest.approx(sum(b.cost.typ for b in every))


def test_a_pair_on_both_halves_is_four_pieces_each_with_its_name():
    found = cut_list(wing(bar(end_mm=400), hand="both"), CutWish())
    (rods,) = found.bars
    assert pieces(found) == {400: 4} and rods.buy == 2
    names = [p.name for c in rods.cuts for p in c.pieces]
    assert sorted(names) == sorted(
        {f"Wing, {s}, {f} carbon rod 3 mm" for s in ("left", "right") for f in ("upper", "lower")}
    )


def test_a_bar_through_the_root_is_one_piece_where_stock_is_long_enough():
    assert pieces(cut_list(wing(bar(joined_at_root=True), hand="both"), CutWish())) == {940: 2}
    long = cut_list(wing(bar(joined_at_root=True), span=600, hand="both"), CutWish())
    assert pieces(long) == {600: 4} and "1200 mm is longer than stock" in long.remarks[0]
    risen = wing(bar(joined_at_root=True), hand="both")
    risen = risen.model_copy(update={"parts": (risen.parts[0].model_copy(update={"place": Place(dihedral_deg=4)}),)})
    bent = cut_list(risen, CutWish())
    assert pieces(bent) == {470: 4} and "dihedral or sweep bends its line" in bent.remarks[0]
    for deg, through in ((0.8, True), (1.5, False)):
        at = risen.model_copy(update={"parts": (risen.parts[0].model_copy(update={"place": Place(dihedral_deg=deg)}),)})
        assert (pieces(cut_list(at, CutWish())) == {940: 2}) == through
    swept = wing(bar(joined_at_root=True), hand="both")
    swept = swept.model_copy(update={"parts": (swept.parts[0].model_copy(update={"tip_setback_mm": 80.0}),)})
    assert pieces(cut_list(swept, CutWish())) == {470: 4}
    own = CutWish(own=(OwnBars(stock=ROD, mm=(1250, 1250)),))
    assert pieces(cut_list(wing(bar(joined_at_root=True), span=600, hand="both"), own)) == {1200: 2}


def test_splices_cut_a_bar_with_half_of_the_overlap_to_each_side():
    lap = Splice(at_mm=970, overlap_mm=60)
    assert pieces(cut_list(wing(bar(place="upper", splices=(lap,)), span=1320), CutWish())) == {1000: 1, 380: 1}
    inner = cut_list(wing(bar(place="upper", start_mm=100, splices=(lap,)), span=1320), CutWish())
    assert pieces(inner) == {900: 1, 380: 1}
    butt = Splice(at_mm=700, how="sleeved", overlap_mm=60)
    sleeve = Sleeve(stock="carbon_tube_5_3", start_mm=650, end_mm=750)
    found = cut_list(wing(bar(place="upper", splices=(butt,), sleeve=sleeve), span=1320), CutWish())
    assert pieces(found) == {700: 1, 620: 1, 100: 1}


def test_a_bar_longer_than_all_stock_is_named_and_the_rest_is_cut():
    short = bar(id="short", place="upper", end_mm=300)
    found = cut_list(wing(bar(place="lower"), short, span=1320), CutWish())
    assert pieces(found) == {300: 1}
    said = next(r for r in found.remarks if "Carbon rod" in r)
    assert said.startswith("Wing, Carbon rod 3 mm: 1320 mm is longer than any stock, at most 1000 mm: splice it")
    assert cut_list(wing(), CutWish()).bars == []
    own = CutWish(own=(OwnBars(stock=ROD, mm=(1250,)),))
    assert "at most 1250 mm" in cut_list(wing(bar(place="lower"), short, span=1320), own).remarks[0]


def test_own_lengths_are_used_first_and_cost_nothing():
    own = CutWish(own=(OwnBars(stock=ROD, mm=(480, 480)),))
    found = cut_list(wing(bar()), own)
    (rods,) = found.bars
    assert all(c.own for c in rods.cuts) and (rods.buy, rods.cost.high) == (0, 0)


def test_what_is_sold_in_packs_is_bought_in_packs():
    skewers = bar(stock="bamboo_skewer_3", end_mm=280)
    found = cut_list(wing(skewers, hand="both"), CutWish())
    (b,) = found.bars
    assert len(b.cuts) == 4 and b.buy == 1 and b.unit == prices()["bamboo_skewer_3"].unit


def test_what_was_cut_already_is_not_cut_again():
    airframe = wing(bar(end_mm=400), hand="both")
    whole = cut_list(airframe, CutWish())
    assert sum(pieces(whole).values()) == 4
    two = cut_list(airframe, CutWish(made=({"stock": ROD, "mm": (400.3, 400)},)))
    assert sum(pieces(two).values()) == 2
    other = cut_list(airframe, CutWish(made=({"stock": ROD, "mm": (390,)}, {"stock": "carbon_rod_2", "mm": (400,)})))
    assert pieces(other) == pieces(whole)
    done = cut_list(airframe, CutWish(made=({"stock": ROD, "mm": (400,) * 4},)))
    assert done.bars == [] and done.cost.typ == whole.cost.typ - whole.bars[0].cost.typ


@pytest.mark.parametrize("airframe", FLEET, ids=lambda a: a.name)
def test_every_piece_is_cut_for_a_step_of_the_plan(airframe):
    steps = {o.key for o in operations(airframe, ShopWish())}
    found = cut_list(airframe, CutWish())
    told = [p.step for b in found.bars for c in b.cuts for p in c.pieces]
    told += [p.step for s in found.sheets for x in s.sheets for p in x.pieces]
    told += [p.step for t in found.tapes for p in t.strips]
    assert told and set(told) <= steps, set(told) - steps
