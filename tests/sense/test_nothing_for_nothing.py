"""What is put on, left out or broken changes what it changes in a workshop: each case was once an answer of nothing."""

from __future__ import annotations

import pytest

from fletcher.core.document.airframe import Airframe, BarLayer, JointLayer, Part, Splice, StripLayer
from fletcher.core.document.damage import MissingMark
from fletcher.core.document.joint import BoltedJoint
from fletcher.core.estimate.balance import whole
from fletcher.core.estimate.report import estimate
from fletcher.core.estimate.schema import Estimate
from fletcher.core.joints.hinges import HingeNeed, hinge
from fletcher.core.materials.tables import reference
from fletcher.core.repair.damage_model import as_damaged
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.validation.airframe import check_part


def told(part: Part) -> Estimate:
    return estimate(Airframe(name="x", all_up_mass_g=900, parts=(part,)), part.id)


def breaks(part: Part) -> list[float]:
    return [v.breaks_at.typ for v in told(part).verdicts]


def with_line(part: Part, *lines) -> Part:
    return part.model_copy(update={"layers": (*part.layers, *lines)})


@pytest.mark.parametrize("face", ["upper", "lower", "both"])
def test_tape_folded_over_the_edge_of_crossed_plates_is_a_flange_of_it(face):
    bare = CONSTRUCTIONS["crossed_plates"].part()
    wide, tape = 25.0, reference().skins["filament_tape_uni"]
    taped = with_line(bare, StripLayer(
        id="t", skin="filament_tape_uni", face=face, width_mm=wide, root_percent=50, tip_percent=50
    ))  # fmt: skip
    gain = told(taped).curves.EI_N_mm2[0] - told(bare).curves.EI_N_mm2[0]
    # by hand: 5 mm on the edge, 10 mm down either side; both faces leave the neutral axis where it was
    edge, Et = bare.root_thickness_mm / 2, tape.E_along_MPa.typ * tape.thickness_mm.typ
    one = Et * (5 * edge**2 + (wide - 5) * (edge - 5) ** 2)
    if face == "both":
        assert gain == pytest.approx(2 * one, rel=0.05)
    else:
        assert 0.5 * one < gain < 1.05 * one
    assert all(b >= 0.98 * a for a, b in zip(breaks(bare), breaks(taped), strict=True))


def test_tape_over_an_open_bay_with_nothing_beneath_carries_nothing():
    bare = CONSTRUCTIONS["crossed_plates"].part()
    off = with_line(bare, StripLayer(id="t", skin="filament_tape_uni", width_mm=10, root_percent=10, tip_percent=10))
    assert told(off).curves.EI_N_mm2[0] == pytest.approx(told(bare).curves.EI_N_mm2[0], rel=1e-9)


@pytest.mark.parametrize("key", ["formers_skin", "keel_skin"])
def test_formers_weigh_and_their_spacing_holds_what_is_pressed(key):
    part = CONSTRUCTIONS[key].part()
    none = part.model_copy(update={"rib_sheet": None})
    near, far = (part.model_copy(update={"rib_spacing_mm": s}) for s in (40.0, 250.0))
    assert told(none).mass_g.typ < told(far).mass_g.typ < told(part).mass_g.typ < told(near).mass_g.typ
    assert min(breaks(near)) > 1.1 * min(breaks(part)) > 1.1 * min(breaks(far))
    ribs = next(line for line in told(part).lines if line.id == "ribs")
    sheet = reference().sheets["balsa_light_3"]
    # an ellipse's or a box's face at the middle of the part, so many of them, six tenths of each left
    chord, thick = (
        0.5 * (getattr(part, f"root_{n}_mm") + getattr(part, f"tip_{n}_mm")) for n in ("chord", "thickness")
    )
    full = 0.785 if key == "formers_skin" else 1.0
    count = -(-part.span_mm // part.rib_spacing_mm) + 1
    by_hand = count * 0.6 * full * chord * thick * sheet.areal_mass_g_m2.typ * 1e-6
    assert ribs.grams.typ == pytest.approx(by_hand, rel=0.1)  # the part tapers
    open_ones = part.model_copy(update={"rib_open_percent": 70.0})
    assert told(open_ones).mass_g.typ < told(part).mass_g.typ


@pytest.mark.parametrize("stock", ["music_wire_0.8", "music_wire_1", "carbon_rod_1"])
@pytest.mark.parametrize("face", ["upper", "lower", "pair"])
def test_a_wire_in_a_flute_never_weakens_the_wing(stock, face):
    bare = CONSTRUCTIONS["fluted_wing"].part()
    wire = BarLayer(id="w", stock=stock, place=face, in_flute=True, root_percent=40, tip_percent=40)
    assert check_part(with_line(bare, wire), reference()) == []
    for without, having in zip(breaks(bare), breaks(with_line(bare, wire)), strict=True):
        assert having >= 0.98 * without


def test_a_thin_rod_that_breaks_early_in_a_hollow_wing_leaves_what_the_wing_holds_without_it():
    bare = CONSTRUCTIONS["fluted_wing"].part()
    rod = BarLayer(id="w", stock="carbon_rod_1", place="upper", root_percent=40, tip_percent=40)
    for without, having in zip(breaks(bare), breaks(with_line(bare, rod)), strict=True):
        assert having >= 0.98 * without


def test_a_splice_in_the_bar_of_a_control_surface_is_checked_and_longer_holds_more():
    bare = CONSTRUCTIONS["control_surface"].part()

    def spliced(*overlaps: float) -> Part:
        splices = tuple(Splice(at_mm=100, overlap_mm=o, how="scarf") for o in overlaps)
        return with_line(bare, BarLayer(
            id="w", stock="carbon_strip_3x0.5", place="middle", on_edge=True, root_percent=40, tip_percent=40,
            splices=splices,
        ))  # fmt: skip

    held = [min(breaks(spliced(o))) for o in (3.0, 6.0, 12.0)]
    assert held == sorted(held) and held[2] > 1.5 * held[0]
    assert min(breaks(bare)) <= held[0] < min(breaks(spliced()))
    assert "splice" in told(spliced(3.0)).first.sentence


@pytest.mark.parametrize("key", ["folded_wing", "fluted_wing", "moulded_wing", "box_fuselage"])
@pytest.mark.parametrize("face", ["front", "rear"])
def test_a_missing_nose_or_rear_edge_of_a_hollow_part_costs(key, face):
    part = CONSTRUCTIONS[key].part()

    def left(deep: float) -> Part:
        mark = MissingMark(id="m", start_mm=150, end_mm=250, face=face, depth_mm=deep)
        return as_damaged(part.model_copy(update={"damage": (mark,)}))

    here = [i for i, y in enumerate(told(left(8.0)).curves.y_mm) if 152 < y < 248]
    stiff = [min(told(p).curves.EI_N_mm2[i] for i in here) for p in (left(8.0), left(20.0), left(40.0))]
    sound = told(part).curves
    assert stiff == sorted(stiff, reverse=True)
    assert stiff[2] < 0.999 * min(e for e, y in zip(sound.EI_N_mm2, sound.y_mm, strict=True) if 152 < y < 248)
    masses = [told(p).mass_g.typ for p in (part, left(8.0), left(20.0), left(40.0))]
    assert masses == sorted(masses, reverse=True)
    assert all(b <= 1.02 * a for a, b in zip(breaks(part), breaks(left(40.0)), strict=True))


def test_a_bolt_through_a_spar_is_refused_and_beside_it_is_not():
    part = CONSTRUCTIONS["bead_wing"].part()
    through, beside = (
        with_line(part, JointLayer(id="j", start_mm=30, joint=BoltedJoint(), chord_percent=percent))
        for percent in (30, 60)
    )
    problems = check_part(through, reference())
    assert [p.path for p in problems] == ["part.layers[3].chord_percent"] and "drills through" in problems[0].message
    assert check_part(beside, reference()) == []


def test_a_bar_longer_than_its_stock_is_told_and_a_splice_settles_it():
    rod = BarLayer(id="b", stock="carbon_rod_3", place="pair")
    long = CONSTRUCTIONS["bead_wing"].part().model_copy(update={"span_mm": 1300.0, "layers": (rod,)})
    spliced = long.model_copy(update={
        "layers": (rod.model_copy(update={"splices": (Splice(at_mm=650, overlap_mm=60),)}),)
    })  # fmt: skip
    short_of_it = long.model_copy(update={
        "layers": (rod.model_copy(update={"splices": (Splice(at_mm=250, overlap_mm=60),)}),)
    })  # fmt: skip
    assert any("comes 1000 mm long and this one is 1300 mm" in c for c in told(long).beyond)
    assert not any("mm long" in c for c in told(spliced).beyond)
    assert any("this one is 1080 mm" in c for c in told(short_of_it).beyond)


def test_two_halves_in_one_place_are_told():
    half = CONSTRUCTIONS["bead_wing"].part().model_copy(update={"hand": "left"})
    same, other = (half.model_copy(update={"id": "w2", "name": "Second", "hand": hand}) for hand in ("left", "right"))
    moved = same.model_copy(update={"place": half.place.model_copy(update={"x_mm": 200.0})})

    def warned(second: Part) -> bool:
        of = whole(Airframe(name="x", all_up_mass_g=900, parts=(half, second))).warnings
        return any("in the same place on the left side" in w for w in of)

    assert warned(same) and not warned(other) and not warned(moved)


def test_a_live_hinge_of_thicker_twin_wall_sheet_is_stiffer_and_tears_later():
    found = []
    for thick in (2.0, 3.0, 4.0):
        choices = hinge(HingeNeed(made_of="fluted", thickness_mm=thick), reference()).choices
        found.append(next(c for c in choices if c.key == "fluted_pp_live"))
    back, tears = [c.back_N_mm.typ for c in found], [c.tears_N.typ for c in found]
    assert back == sorted(back) and back[2] > 3 * back[0]
    assert tears == sorted(tears) and tears[2] > 1.5 * tears[0]
