"""Bars longer than stock: the joint that is offered lies where little is bent, clear of what weakens, and costs
little."""

from __future__ import annotations

import pytest

from fletcher.core.document.airframe import Airframe, BarLayer, CutLayer, Place, Splice
from fletcher.core.plan.bar_splices import NowhereToJoin
from fletcher.core.plan.cut_list import CutWish, cut_list
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.studies.splicing import SpliceOffer, splice_offer, splicing
from fletcher.core.studies.what_if import trial


def wing(*more, stock="carbon_tube_8_6", span=1320.0, hand="single", cases=None, **bar) -> Airframe:
    spar = BarLayer(**{"id": "bar", "stock": stock, "place": "pair", "joined_at_root": False, **bar})
    part = CONSTRUCTIONS["bead_wing"].part().model_copy(update={
        "name": "Wing", "hand": hand, "span_mm": span, "place": Place(), "layers": (spar, *more),
    })  # fmt: skip
    if cases is not None:
        part = part.model_copy(update={"cases": cases})
    return Airframe(name="x", all_up_mass_g=600, top_speed_m_s=14, parts=(part,))


def offer(airframe: Airframe, wish: CutWish | None = None) -> SpliceOffer:
    part = airframe.parts[0]
    return splice_offer(airframe, part, part.layers[0], wish or CutWish())


def taken(airframe: Airframe, found: SpliceOffer) -> Airframe:
    part = airframe.parts[0]
    layers = (found.layer, *part.layers[1:])
    return airframe.model_copy(update={"parts": (part.model_copy(update={"layers": layers}),)})


@pytest.mark.parametrize("stock", ["carbon_tube_8_6", "carbon_rod_3", "spruce_5x5", "carbon_strip_6x1", "balsa_6x6"])
@pytest.mark.parametrize("hand", ["single", "both"])
@pytest.mark.parametrize("place", ["pair", "middle"])
def test_what_is_offered_can_be_cut_and_costs_little(stock, hand, place):
    airframe = wing(stock=stock, hand=hand, place=place, joined_at_root=hand == "both")
    if not cut_list(airframe, CutWish()).long_bars:
        pytest.skip("sold long enough")
    found = offer(airframe)
    after = cut_list(taken(airframe, found), CutWish())
    assert after.long_bars == [] and not any("Carbon" in r for r in after.remarks)
    assert found.margin >= 0.9 * found.margin_before
    assert 0 <= found.grams < 60
    bars = next(b for b in after.bars if b.key == stock)
    assert len(bars.cuts) == found.lengths
    assert found.says.startswith(f"Wing, {bars.name}: comes ") and "Join it" in found.says


def test_the_estimate_weighs_the_overlap():
    airframe = wing(stock="carbon_rod_3")
    found = offer(airframe)
    per_mm = 1.55e-3 * 3.14159 / 4 * 9
    assert found.layer.splices[0].how == "side_by_side"
    assert found.grams == pytest.approx(2 * found.layer.splices[0].overlap_mm * per_mm, rel=0.01)


def test_upper_and_lower_are_joined_apart_and_wood_on_a_slope():
    joint = offer(wing(stock="carbon_rod_3")).layer.splices[0]
    assert joint.stagger_mm == joint.overlap_mm > 0
    assert offer(wing(stock="carbon_rod_3", place="middle")).layer.splices[0].stagger_mm == 0
    wood = offer(wing(stock="spruce_5x5")).layer.splices[0]
    assert wood.how == "scarf" and wood.overlap_mm >= 12 * 5


def test_a_tube_is_joined_over_what_fills_its_bore():
    found = offer(wing()).layer
    assert found.sleeve is not None and found.sleeve.stock in ("carbon_tube_6_4", "carbon_tube_6_5", "carbon_tube_6_3")
    lower = found.sleeve_of("lower")
    assert lower is not None and lower.end_mm - lower.start_mm == found.sleeve.end_mm - found.sleeve.start_mm
    assert lower.end_mm == found.sleeve.end_mm - found.splices[0].stagger_mm


def test_a_joint_keeps_clear_of_a_pocket_and_needs_a_place():
    free = offer(wing(stock="carbon_rod_3", place="middle")).layer.splices[0]
    pocket = CutLayer(id="p", face="through", start_mm=1010, end_mm=1040, root_percent=40, tip_percent=40, width_mm=10)
    beside = offer(wing(pocket, stock="carbon_rod_3", place="middle")).layer.splices[0]
    assert free.at_mm == 970 and beside.at_mm + beside.overlap_mm / 2 <= 1010 - 2 * beside.overlap_mm
    far = pocket.model_copy(update={"root_percent": 80.0, "tip_percent": 80.0})
    assert offer(wing(far, stock="carbon_rod_3", place="middle")).layer.splices[0].at_mm == 970
    holes = tuple(
        pocket.model_copy(update={"id": f"p{n}", "start_mm": 300.0 + 150 * n, "end_mm": 330.0 + 150 * n})
        for n in range(6)
    )
    with pytest.raises(NowhereToJoin):
        offer(wing(*holes, stock="carbon_rod_3", place="middle"))
    told = splicing(wing(*holes, stock="carbon_rod_3", place="middle"), CutWish())
    assert told.offers == [] and "two overlaps" in told.nowhere[0]


def test_a_split_that_is_bound_stays_bound():
    bound = Splice(at_mm=200, overlap_mm=30, how="wrapped")
    found = offer(wing(stock="carbon_rod_3", splices=(bound,)))
    assert found.layer.splices[0] == bound and found.layer.splices[1].how == "side_by_side"
    assert found.layer.splices[1].at_mm == 970 and "970 mm from the root" in found.says


def test_where_only_a_strained_place_is_left_the_overlap_carries_the_force():
    """Out of 1000 mm, centred on the root, it can only be joined where the wing is still bent."""
    airframe = wing(stock="carbon_rod_3", place="pair", hand="both", joined_at_root=True, span=1320)
    strained = offer(airframe)
    joint = strained.layer.splices[0]
    assert joint.at_mm < 500 and joint.overlap_mm >= 60
    held = taken(airframe, strained)
    told = trial(held, held.parts[0])
    assert min(c.by_kind[("bar_splice", "bar")] / c.asked for c in told.cases) >= 1.25 * min(1, told.governs.margin)


def test_nothing_is_offered_for_what_stock_gives():
    assert splicing(wing(span=800), CutWish()).offers == []
    own = CutWish(own=({"stock": "carbon_tube_8_6", "mm": (1500, 1500)},))
    assert splicing(wing(), own).offers == []
