"""Damage: what marks leave of a part, against closed forms and plain sense; what cannot be marked; where to look."""

from __future__ import annotations

import itertools
from dataclasses import replace

import pytest

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe
from fletcher.core.document.damage import CreaseMark, CrushMark
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.estimate.analyse import analyse
from fletcher.core.estimate.report import estimate
from fletcher.core.estimate.verdicts import verdict_of
from fletcher.core.materials.tables import reference
from fletcher.core.repair.damage_model import CRUSHED_KEEPS, as_damaged, crushed_away
from fletcher.core.repair.inspection import Crash, inspect, what_is_left
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.validation.airframe import read
from tests.core.joints.test_joints import DEEP, plank


def marked(*marks: dict, airframe: Airframe | None = None) -> Airframe:
    document = (airframe or demo_airframes()[0]).model_dump(mode="json")
    document["parts"] = document["parts"][:1]
    document["parts"][0]["damage"] = [{"id": f"m{n}", **m} for n, m in enumerate(marks)]
    return read(document)


def left(*marks: dict, airframe: Airframe | None = None):
    found = marked(*marks, airframe=airframe)
    return what_is_left(found, found.parts[0])


BREAK = {"kind": "break", "at_mm": 200}
SPAR = {"kind": "bar", "of": "spar", "at_mm": 200}


def test_without_marks_all_of_it_is_left_and_the_part_is_the_same():
    found = left()
    assert found.bend_percent.typ == pytest.approx(100) and found.lost_g.typ == 0
    assert found.strength_percent.typ == 100 and found.fly == "sure"
    assert all(c.left == c.whole for c in found.cases)
    airframe = marked()
    assert as_damaged(airframe.parts[0]) is airframe.parts[0]


def test_the_drawn_part_is_estimated_whole_and_says_that_damage_is_marked():
    hurt = marked(BREAK, SPAR)
    whole = estimate(demo_airframes()[0], "wing", "pull-up")
    told = estimate(hurt, "wing", "pull-up")
    assert told.breaks_at == whole.breaks_at
    assert any("damage marks" in w for w in told.warnings)


def test_a_bare_plank_carries_by_the_square_of_the_depth_that_a_crack_leaves():
    """M = f·b·d²/4 where foam yields, f·b·d²/6 where it tears: as d² either way, until the plank folds by its bend."""
    airframe = plank(weight_g=100)
    held = []
    for share in (0.5, 0.4):
        crack = {"kind": "crack", "at_mm": 60, "face": "upper", "from_percent": 0, "to_percent": 100}
        found = left({**crack, "depth_mm": share * DEEP}, airframe=airframe)
        held.append(found.cases[0].left.typ)
        assert found.cases[0].at_mm == pytest.approx(60, abs=1)
        assert found.bend_percent.typ > 70  # a crack is short; the foam beside it yields
    assert held[1] / held[0] == pytest.approx((0.6 / 0.5) ** 2, rel=0.02)


def test_a_clean_break_with_its_bars_gone_carries_nothing_and_is_not_flown():
    gone = left(BREAK, SPAR)
    assert gone.fly == "no" and gone.strength_percent.typ == 0 and gone.bend_percent.typ < 10
    assert gone.says == "Do not fly: broken in two, 200 mm from the root." and gone.cautions
    assert all(c.left.high == 0 for c in gone.cases)


def test_a_clean_break_takes_the_bars_along_unless_they_were_found_whole():
    asked = {"asked": None}
    assert left(BREAK).model_copy(update=asked) == left(BREAK, SPAR).model_copy(update=asked)
    held = left({**BREAK, "whole": ["spar"]})
    assert held.fly == "no" and held.says.startswith("Do not fly: broken through, 200 mm from the root")
    assert 0 < held.strength_percent.typ < 100 and held.twist_percent.typ < 100


@pytest.mark.parametrize(
    ("mark", "reason"),
    [
        (SPAR, "Carbon rod 3 mm is broken, 200 mm from the root"),
        ({**SPAR, "how": "split"}, "Carbon rod 3 mm is split: bind it first"),
        ({"kind": "crack", "at_mm": 150, "face": "front", "depth_mm": 70}, "a crack reaches Carbon rod 3 mm, 150 mm"),
    ],
)
def test_a_broken_bar_and_a_crack_to_the_spar_are_not_flown_whatever_the_figures_say(mark, reason):
    found = left(mark)
    assert found.fly == "no" and found.says.startswith(f"Do not fly: {reason}")


def test_a_small_mark_is_judged_by_what_the_part_needs():
    found = left({"kind": "crack", "at_mm": 500, "face": "rear", "depth_mm": 8})
    assert found.fly in ("sure", "likely") and "needs 1.5" in found.says
    weak = marked({"kind": "crack", "at_mm": 500, "face": "rear", "depth_mm": 8})
    weak = weak.model_copy(update={"all_up_mass_g": 9000.0})
    part = weak.parts[0]
    fast = part.cases[0].model_copy(update={"speed_m_s": 60.0})
    found = what_is_left(weak, part.model_copy(update={"cases": (fast,)}))
    assert found.fly == "no" and "It was not enough undamaged either" in found.says


def test_one_rod_of_a_pair_is_worse_than_none_broken_and_better_than_both():
    shares = [left(*m).cases[0].left.typ for m in ((), ({**SPAR, "side": "upper"},), ({**SPAR},), (SPAR, BREAK))]
    assert shares == sorted(shares, reverse=True)
    assert shares[0] > 1.15 * shares[1] and shares[1] > 1.2 * shares[2]


def test_more_damage_never_leaves_more():
    marks: list[dict] = [
        {"kind": "crack", "at_mm": 150, "face": "front", "depth_mm": 30, "skins_torn": True},
        {"kind": "missing", "start_mm": 300, "end_mm": 380, "face": "rear", "depth_mm": 40},
        {"kind": "peeled", "of": "film", "start_mm": 250, "end_mm": 420},
        {"kind": "bar", "of": "spar", "at_mm": 320, "how": "pulled_out"},
    ]
    stiff, held = [100.0], [1.0]
    for n in range(1, len(marks) + 1):
        found = left(*marks[:n])
        stiff.append(found.bend_percent.typ)
        held.append(found.cases[0].left.typ / found.cases[0].whole.typ)
    assert all(b <= a * 1.002 for a, b in itertools.pairwise(stiff))
    assert all(b <= a * 1.005 for a, b in itertools.pairwise(held))
    assert found.lost_g.typ > 2 and found.fly == "no" and found.strength_percent.typ < 97


def test_foam_is_not_taken_out_twice_where_marks_overlap():
    crack = {"kind": "crack", "at_mm": 60, "from_percent": 20, "to_percent": 60, "depth_mm": 8}
    crush = {"kind": "crush", "start_mm": 40, "end_mm": 90, "face": "upper", "from_percent": 10, "to_percent": 70,
             "depth_mm": 3}  # fmt: skip
    airframe = plank(weight_g=60)
    alone, both = left(crack, airframe=airframe), left(crack, crush, airframe=airframe)
    again = left(crush, crack, airframe=airframe)
    assert both.cases[0].left == again.cases[0].left  # whatever the order
    assert 0 < both.cases[0].left.typ <= alone.cases[0].left.typ * 1.001
    part = as_damaged(marked(crack, crush, airframe=airframe).parts[0])
    cuts = [la for la in part.layers if la.type == "cut"]
    for n, one in enumerate(cuts):
        for other in cuts[:n]:
            apart = one.end_mm <= other.start_mm or other.end_mm <= one.start_mm
            sides = [
                (c.root_percent - 50 * c.width_mm / 100, c.root_percent + 50 * c.width_mm / 100) for c in (one, other)
            ]
            beside = sides[0][1] <= sides[1][0] + 1e-6 or sides[1][1] <= sides[0][0] + 1e-6
            assert apart or beside


def test_a_crush_that_springs_back_counts_less_than_one_that_does_not():
    crush = {"kind": "crush", "start_mm": 10, "end_mm": 60, "face": "upper", "depth_mm": 12, "from_percent": 10,
             "to_percent": 90}  # fmt: skip
    soft, brittle = (left(crush, airframe=plank(foam=f, weight_g=60)) for f in ("epp_30", "eps_20"))
    back = [reference().foams[k].springback for k in ("epp_30", "eps_20")]
    assert back[0] > back[1]
    assert soft.cases[0].left.typ / soft.cases[0].whole.typ > brittle.cases[0].left.typ / brittle.cases[0].whole.typ


def bent(*blocks: tuple[float, float, float, float]) -> float:
    """Bending stiffness about its own neutral line of blocks (width, from, to, modulus), N mm²."""
    area, moment, square = (
        sum(b * (top**n - low**n) / n * modulus for b, low, top, modulus in blocks) for n in (1, 2, 3)
    )
    return square - moment**2 / area


@pytest.mark.parametrize(("warmed", "keeps", "exact"), [(False, 0.6, 557_373.0), (True, 0.8, 590_078.0)])
def test_crushed_foam_is_weaker_where_it_came_back_and_warmth_gives_some_of_it_back(warmed, keeps, exact):
    """A block 150 × 22 of 4.65 MPa, 60 of it crushed 6 deep, of which 88 % comes back by itself and 70 % of the rest
    by warmth: the lost depth bends it as the layered block does, a little softer, never stiffer."""
    foam = next(key for key, f in reference().foams.items() if f.springback == 0.88)
    mark = CrushMark(id="dent", start_mm=0, end_mm=60, depth_mm=6, warmed=warmed)
    part = plank(foam=foam).parts[0]
    back = 6 * (1 - 0.12 * (0.3 if warmed else 1))
    layered = bent((90, 0, 22, 4.65), (60, 0, 16, 4.65), (60, 16, 16 + back, keeps * 4.65))
    lumped = bent((90, 0, 22, 4.65), (60, 0, 22 - crushed_away(mark, part), 4.65))
    assert layered == pytest.approx(exact, abs=1)
    assert 0.97 * layered < lumped < layered


def test_bend_and_twist_that_stayed_are_told_in_degrees():
    found = left({"kind": "bent", "tip_mm": -12, "twist_deg": 2})
    assert len(found.measured) == 2 and "1.1°" in found.measured[0].replace("-", "")
    assert found.strength_percent.typ == pytest.approx(100)


@pytest.mark.parametrize(
    ("mark", "path"),
    [
        ({"kind": "crack", "at_mm": 900}, "at_mm"),
        ({"kind": "crack", "at_mm": 100, "face": "front", "depth_mm": 500}, "depth_mm"),
        ({"kind": "crack", "at_mm": 100, "depth_mm": 60}, "depth_mm"),
        ({"kind": "crack", "at_mm": 100, "from_percent": 60, "to_percent": 20}, "to_percent"),
        ({"kind": "peeled", "of": "spar", "start_mm": 10, "end_mm": 50}, "of"),
        ({"kind": "peeled", "of": "film", "start_mm": 50, "end_mm": 50}, "start_mm"),
        ({"kind": "bar", "of": "film", "at_mm": 50}, "of"),
        ({"kind": "bar", "of": "spar", "at_mm": 599}, "at_mm"),
        ({"kind": "loose", "of": "spar"}, "of"),
        ({"kind": "crack", "at_mm": 100, "depth_mm": float("nan")}, "depth_mm"),
        ({"kind": "hole", "at_mm": 100}, "damage[0]"),
    ],
)
def test_a_mark_that_cannot_be_is_refused_by_its_field(mark, path):
    with pytest.raises(InvalidDocument) as refused:
        marked(mark)
    assert refused.value.problems[0].path.endswith(path)


def test_marks_that_contradict_are_refused():
    missing = {"kind": "missing", "start_mm": 150, "end_mm": 250, "face": "through"}
    for one, other in ((BREAK, BREAK), (missing, {"kind": "crack", "at_mm": 200, "depth_mm": 5}), (SPAR, SPAR),
                       ({"kind": "bent", "tip_mm": 3}, {"kind": "bent", "tip_mm": 4})):  # fmt: skip
        with pytest.raises(InvalidDocument) as refused:
            marked(one, other)
        assert refused.value.problems[0].path.startswith("parts[0].damage[1]")
    whole = marked(BREAK).model_dump(mode="json")
    whole["parts"][0]["damage"].append({**BREAK, "id": "m0", "at_mm": 300})
    with pytest.raises(InvalidDocument) as refused:
        read(whole)
    assert refused.value.problems[0].message == "is used twice"


def test_where_to_look_follows_the_load_that_stands_for_the_crash():
    airframe = demo_airframes()[0]
    wing = airframe.parts[0]
    slow, fast = (inspect(airframe, wing, Crash(what="nose_in", speed_m_s=v)) for v in (4, 16))
    assert fast.stands_for == "Sudden stop, nose first" and fast.looks
    asked = [look.asked.typ for look in fast.looks]
    assert asked == sorted(asked, reverse=True)
    assert fast.looks[0].asked.typ > slow.looks[0].asked.typ
    assert "under an intact skin" in " ".join(look.how for look in fast.looks)
    inner, outer = (inspect(airframe, wing, Crash(what="pole", at_mm=y, speed_m_s=10)) for y in (100, 500))
    assert inner.looks[0].asked.typ != outer.looks[0].asked.typ
    warm = inspect(airframe, wing, Crash(what="heat"))
    assert warm.looks == [] and "straight edge" in warm.checks[0]
    assert any("battery" in c.hazard.lower() for c in fast.cautions)


def test_marks_from_both_faces_and_past_a_bar_or_slit_all_count():
    upper, lower = ({"kind": "crack", "at_mm": 60, "face": f, "from_percent": 0, "to_percent": 100, "depth_mm": 6}
                    for f in ("upper", "lower"))  # fmt: skip
    airframe = plank(weight_g=60)
    one, both = left(upper, airframe=airframe), left(upper, lower, airframe=airframe)
    assert both.cases[0].left.typ < 0.6 * one.cases[0].left.typ
    part = marked({"kind": "crack", "at_mm": 200, "face": "front", "depth_mm": 120, "skins_torn": True}).parts[0]
    cuts = [la for la in as_damaged(part).layers if la.type == "cut"]
    assert [c.face for c in cuts] == ["front", "through"]  # the spar between them, with foam about it
    tern = demo_airframes()[2].parts[0]
    slit = tern.model_copy(update={"damage": marked({"kind": "crack", "at_mm": 200, "face": "front", "depth_mm": 40})
                                   .parts[0].damage})  # fmt: skip
    assert any(la.type == "cut" and la.face == "front" for la in as_damaged(slit).layers)


def test_a_strip_peeled_twice_only_gets_shorter():
    marks = [{"kind": "peeled", "of": "film", "start_mm": a, "end_mm": b} for a, b in ((200, 300), (50, 100))]
    films = [la for la in as_damaged(marked(*marks).parts[0]).layers if la.type == "film"]
    spans = sorted((la.start_mm, la.end_mm or 600) for la in films)
    assert spans == [(0, 50), (100, 200), (300, 600)]


def test_a_crack_starts_at_a_corner_and_a_dent_has_none():
    """Stress beside it over that of the sound face: 1 + 2√(50/2) = 11 times at the ends of a crack, none at a dent."""
    airframe = plank(foam="xps_30", weight_g=60)
    crack = {"kind": "crack", "at_mm": 60, "face": "upper", "depth_mm": 8, "from_percent": 0, "to_percent": 100}
    dent = {k: v for k, v in crack.items() if k != "at_mm"} | {"kind": "crush", "start_mm": 0, "end_mm": 60}
    deep = 8 * (1 - CRUSHED_KEEPS * reference().foams["xps_30"].springback)
    held = []
    for mark, depth, factor in ((crack, 8.0, 11.0), (dent, deep, 1.0)):
        hurt = marked(mark, airframe=airframe)
        part = as_damaged(hurt.parts[0])
        (cut,) = [la for la in part.layers if la.type == "cut"]
        assert cut.depth_mm == pytest.approx(depth, rel=1e-6)
        uses = {m.kind: m.use[0] for m in analyse(hurt, part, part.cases[0]).modes}
        beside = uses["notch"] > 0
        assert uses["notch"][beside] == pytest.approx(factor * uses["foam_tension"][beside], rel=0.02)
        held.append(left(mark, airframe=airframe).cases[0].left.typ)
    assert held[0] < 0.6 * held[1]


def test_a_break_that_comes_later_beside_damage_counts_for_no_more_than_the_whole_part():
    """A thin crushed surface folds later than a sound one by the march alone: what is missing is no gain."""
    airframe = plank(weight_g=60)
    whole = analyse(airframe, airframe.parts[0], airframe.parts[0].cases[0])
    stronger = plank({"type": "film", "id": "f", "skin": "lamfilm_75", "face": "both"}, weight_g=60)
    alone = analyse(stronger, stronger.parts[0], stronger.parts[0].cases[0])
    beside = replace(analyse(stronger, stronger.parts[0], stronger.parts[0].cases[0]), whole=whole)
    assert alone.judged.breaks[0] > 1.2 * whole.judged.breaks[0]
    assert beside.judged.breaks == pytest.approx(whole.judged.breaks)
    assert all((e.at <= beside.judged.breaks).all() for e in beside.judged.members)
    verdict = verdict_of(beside)
    assert verdict.first_break.typ <= verdict.breaks_at.typ == pytest.approx(verdict_of(whole).breaks_at.typ)
    lowest = beside.judged.along.min(1) / alone.judged.along.min(1)
    assert lowest == pytest.approx(whole.judged.breaks / alone.judged.breaks)
    weaker = replace(whole, whole=alone)
    assert weaker.judged.breaks == pytest.approx(whole.judged.breaks)


def test_a_crease_opposite_a_hatch_leaves_the_sides():
    """A box whose lower wall is creased under its hatch hangs on its sides and on the rest of the wall: it has not
    nothing left."""
    box = CONSTRUCTIONS["box_fuselage"].part()
    hurt = box.model_copy(update={"damage": (CreaseMark(id="crease", at_mm=60, face="lower"),)})
    left = what_is_left(Airframe(name="B", all_up_mass_g=700, parts=(hurt,)), hurt)
    beside = box.model_copy(update={"damage": (CreaseMark(id="crease", at_mm=200, face="lower"),)})
    further = what_is_left(Airframe(name="B", all_up_mass_g=700, parts=(beside,)), beside)
    assert left.fly == "no"
    for under, out in zip(left.cases, further.cases, strict=True):
        assert 0.1 * under.whole.typ < under.left.typ < under.whole.typ
        assert under.left.typ < out.left.typ
