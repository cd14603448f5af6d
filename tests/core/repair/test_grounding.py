"""Why a damaged part is not flown, whatever the figures say; each rule at its limit."""

from __future__ import annotations

import pytest

from fletcher.core.document.airframe import HingeLayer, JointLayer, Part, StripLayer
from fletcher.core.document.cases import DeflectedCase
from fletcher.core.document.damage import (
    BarMark,
    BentMark,
    BreakMark,
    CrackMark,
    CreaseMark,
    LooseMark,
    MissingMark,
    OpenedMark,
    PeeledMark,
)
from fletcher.core.document.joint import AcrossJoint
from fletcher.core.repair.grounding import grounded_by, grounds
from fletcher.core.studies.constructions import CONSTRUCTIONS


def hurt(key: str, *marks, layers=(), **changes) -> Part:
    p = CONSTRUCTIONS[key].part()
    return p.model_copy(update={"damage": marks, "layers": (*p.layers, *layers), **changes})


SPAR = next(la.id for la in CONSTRUCTIONS["bead_wing"].part().layers if la.type == "bar")


@pytest.mark.parametrize(
    ("key", "mark", "reason"),
    [
        ("plank", BreakMark(id="m", at_mm=100), "broken through, 100 mm from the root"),
        ("plank", CrackMark(id="m", at_mm=100, depth_mm=7), "goes deep into brittle foam"),  # of 20
        ("plank", CrackMark(id="m", at_mm=100, depth_mm=6), None),
        ("plank", CrackMark(id="m", at_mm=100, face="front", depth_mm=12), "runs in from the front edge"),
        ("plank", CrackMark(id="m", at_mm=100, face="front", depth_mm=11), None),
        ("folded_wing", CreaseMark(id="m", at_mm=100, from_percent=20, to_percent=71), "a wall is creased across"),
        ("folded_wing", CreaseMark(id="m", at_mm=100, from_percent=20, to_percent=70), None),
        ("folded_wing", MissingMark(id="m", start_mm=50, end_mm=300, face="front", depth_mm=9), "open along its nose"),
        ("folded_wing", MissingMark(id="m", start_mm=50, end_mm=120, face="front", depth_mm=9), None),
        ("plank", BentMark(id="m", twist_deg=1.1), "it stayed twisted by 1.1°"),
        ("plank", BentMark(id="m", twist_deg=-1.0), None),
        ("plank", BentMark(id="m", tip_mm=5.1), "its end stands 5 mm off"),  # 500 mm long
        ("plank", BentMark(id="m", tip_mm=-5.0), None),
        ("tail_plate", BentMark(id="m", twist_deg=0.6, whole=("spar", "bar")), "it stayed twisted by 0.6°"),
        ("box_fuselage", BentMark(id="m", at_mm=100, tip_mm=1), "it is kinked, 100 mm from the root"),
    ],
)  # fmt: skip
def test_a_rule_grounds_the_part_from_its_limit_on(key: str, mark, reason: str | None):
    p = hurt(key, mark)
    if key == "plank":
        p = p.model_copy(update={"root_thickness_mm": 20.0, "tip_thickness_mm": 20.0, "root_chord_mm": 120.0,
                                 "tip_chord_mm": 120.0})  # fmt: skip
    told = grounded_by(p)
    assert told is None if reason is None else reason in (told or "")


def test_a_seam_may_be_open_over_two_depths():
    p = CONSTRUCTIONS["moulded_wing"].part()
    deep = p.root_thickness_mm + (p.tip_thickness_mm - p.root_thickness_mm) * 50 / p.span_mm
    for long, grounded in ((2 * deep - 0.5, False), (2 * deep + 0.5, True)):
        mark = OpenedMark(id="m", start_mm=50, end_mm=50 + long)
        assert (grounded_by(p.model_copy(update={"damage": (mark,)})) is not None) is grounded


def test_a_crack_under_a_cap_grounds_and_one_beside_it_does_not():
    place = {"width_mm": 20, "root_percent": 40, "tip_percent": 40}
    cap = StripLayer(id="cap", name="Cap", skin="carbon_ud_100", face="upper", **place)
    half = 50 * 20 / CONSTRUCTIONS["plank"].part().root_chord_mm
    before, behind = 40 - half, 40 + half
    for low, high, grounded in ((5, before - 1, False), (5, before + 1, True), (behind - 1, 95, True),
                                (behind + 1, 95, False), (30, 60, True)):  # fmt: skip
        mark = CrackMark(id="m", at_mm=100, depth_mm=2, from_percent=low, to_percent=high)
        told = grounded_by(hurt("plank", mark, layers=(cap,)))
        assert (told is not None and "runs under Cap" in told) is grounded
    tape = cap.model_copy(update={"skin": "filament_tape_uni"})
    assert grounded_by(hurt("plank", mark, layers=(tape,))) is None, "thread tape is no cap"
    below = CrackMark(id="m", at_mm=100, depth_mm=2, face="lower", from_percent=30, to_percent=60)
    assert grounded_by(hurt("plank", below, layers=(cap,))) is None


def test_a_hinge_may_be_torn_a_tenth_away_from_its_ends_and_the_horn():
    hinge = HingeLayer(id="h", name="Hinge")
    p = CONSTRUCTIONS["control_surface"].part()
    horn = DeflectedCase(id="d", name="d", horn_mm=p.span_mm / 2)

    def told(start: float | None, end: float | None) -> str | None:
        mark = LooseMark(id="m", of="h", start_mm=start, end_mm=end)
        return grounded_by(p.model_copy(update={"layers": (*p.layers, hinge), "cases": (horn,), "damage": (mark,)}))

    tenth = 0.1 * p.span_mm
    assert told(40, 40 + tenth - 1) is None
    assert told(40, 40 + tenth + 1) == "the hinge is torn"
    assert told(0, 9) == "the hinge is torn at its end" and told(p.span_mm - 9, None) == "the hinge is torn at its end"
    beside = p.span_mm / 2 + 10
    assert told(beside, beside + 8) == "the hinge is torn beside the horn"


def test_a_loose_joint_a_loose_web_and_a_broken_bar_ground():
    joint = JointLayer(id="j", name="Root seam", start_mm=0, joint=AcrossJoint())
    assert grounded_by(hurt("plank", LooseMark(id="m", of="j"), layers=(joint,))) == "Root seam has come apart"
    web = next(la for la in CONSTRUCTIONS["folded_wing"].part().layers if getattr(la, "face", "") == "web")
    loose = PeeledMark(id="m", of=web.id, start_mm=100, end_mm=200)
    assert (grounded_by(hurt("folded_wing", loose)) or "").endswith("is loose, 100 mm from the root")
    short = loose.model_copy(update={"end_mm": 120})
    assert grounded_by(hurt("folded_wing", short)) is None


def test_the_gravest_reason_stands_first():
    p = hurt("bead_wing", BarMark(id="a", of=SPAR, at_mm=200))
    assert len(grounds(p)) == 1
    both = p.model_copy(update={"damage": (BentMark(id="b", twist_deg=3, whole=(SPAR,)), *p.damage)})
    assert grounds(both) == [grounds(p)[0], "it stayed twisted by 3°"]
    assert grounded_by(both) == f"{grounds(p)[0]}, and 1 more"
