"""What is still whole where a part broke: asked line by line, and counted as broken until somebody has looked."""

from __future__ import annotations

import itertools

import pytest

from fletcher.core.document.airframe import Part
from fletcher.core.document.damage import BarMark, BreakMark
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.repair.damage_model import found_whole, questions, taken_along
from fletcher.core.repair.inspection import Left, what_is_left
from fletcher.core.repair.pareto_search import search
from fletcher.core.repair.schema import Mending, MendWish
from fletcher.core.studies.constructions import CONSTRUCTIONS
from tests.core.repair.test_crash import BREAK, SPAR, left, marked

NEAR = {"kind": "crack", "at_mm": 200, "face": "upper", "from_percent": 10, "to_percent": 60, "depth_mm": 3}
CRUSHED = {"kind": "crush", "start_mm": 180, "end_mm": 240, "face": "upper", "from_percent": 20, "to_percent": 45}


def part_with(*marks: dict) -> Part:
    return marked(*marks).parts[0]


def found(told: Left) -> dict[str, str]:
    return {a.line_id: a.found for a in told.asked}


def test_a_clean_break_asks_after_all_that_crosses_it_and_after_nothing_else():
    part = part_with({**BREAK, "at_mm": 200})
    assert [(q.layer.id, q.found) for q in questions(part)] == [("spar", None), ("tape", None), ("film", None)]
    beyond = part_with({**BREAK, "at_mm": 520})  # the rods end at 470 mm
    assert [q.layer.id for q in questions(beyond)] == ["tape", "film"]
    assert found(left(BREAK)) == {"spar": "open", "tape": "open", "film": "open"}


def test_an_answer_closes_its_question_and_a_mark_of_the_bar_is_one():
    told = left({**BREAK, "whole": ["spar"], "broken": ["tape"]})
    assert found(told) == {"spar": "whole", "tape": "broken", "film": "open"}
    assert "spar" not in found(left(BREAK, SPAR))
    assert "spar" in found(left(BREAK, {**SPAR, "at_mm": 300}))  # another place of the same rod


@pytest.mark.parametrize("answer", [{}, {"broken": ["spar"]}], ids=["nobody looked", "seen broken"])
def test_what_nobody_saw_counts_as_broken(answer: dict):
    """The same figures as with a mark on the bar that lies on that face; whole it holds far more."""
    for mark in (NEAR, {**CRUSHED, "depth_mm": 5}):
        at = 200 if mark is NEAR else 210
        open_, broken = (
            left({**mark, **answer}),
            left({**mark, "whole": ["spar"]}, {**SPAR, "at_mm": at, "side": "upper"}),
        )
        assert open_.strength_percent.typ == pytest.approx(broken.strength_percent.typ, rel=1e-6)
        whole = left({**mark, "whole": ["spar"]})
        assert whole.strength_percent.typ > 1.4 * open_.strength_percent.typ


def test_an_open_question_grounds_the_part_and_says_where_to_look():
    told = left(NEAR)
    assert told.fly == "no"
    assert told.says.startswith("Do not fly: a crack reaches Carbon rod 3 mm, 200 mm from the root, and 1 more.")
    assert told.says.endswith("of its strength if all is broken that was not looked at.")
    crushed = {**CRUSHED, "depth_mm": 5}
    assert left(crushed).says.startswith(
        "Do not fly: look first whether Carbon rod 3 mm, the upper one is whole, 210 mm from the root."
    )
    seen = left({**crushed, "broken": ["spar"]})
    assert seen.says.startswith("Do not fly: Carbon rod 3 mm, the upper one is broken, 210 mm from the root.")
    assert "not looked at" not in seen.says
    assert left({**crushed, "whole": ["spar"]}).fly in ("sure", "likely", "reduced")


@pytest.mark.parametrize(
    ("face", "depth", "asked"),
    [
        # rods of 3 mm at 30 % of a chord of 167 mm, 0.5 mm below either face; within 5 mm of a crack from a face
        ("upper", 0.1, True), ("lower", 0.1, True),
        # from the nose the rod begins at 48.5 mm, from the rear edge at 115 mm: within 10 mm of the tip
        ("front", 38, False), ("front", 39.5, True), ("rear", 104, False), ("rear", 107, True),
    ],
)  # fmt: skip
def test_a_bar_near_the_tip_of_a_crack_is_asked_after(face: str, depth: float, asked: bool):
    part = part_with({**NEAR, "face": face, "depth_mm": depth, "at_mm": 200})
    assert bool(questions(part)) is asked


@pytest.mark.parametrize(
    ("place", "depth", "asked"),
    # 20 mm thick there, rods of 3 mm: in the middle its surface lies 8.5 mm down, at the other face 17 mm
    [("middle", 3.4, False), ("middle", 3.6, True), ("lower", 11.9, False), ("lower", 12.1, True)],
)
def test_how_deep_a_bar_lies_counts_from_the_face_of_the_crack(place: str, depth: float, asked: bool):
    part = part_with({**NEAR, "depth_mm": depth})
    layers = tuple(la.model_copy(update={"place": place}) if la.id == "spar" else la for la in part.layers)
    assert bool(questions(part.model_copy(update={"layers": layers}))) is asked


def test_a_crack_beside_the_bar_or_past_its_end_asks_nothing():
    assert not questions(part_with({**NEAR, "from_percent": 45, "to_percent": 80}))
    assert not questions(part_with({**NEAR, "at_mm": 520}))
    assert not questions(part_with({**CRUSHED, "depth_mm": 0.3}))


def test_in_a_bend_every_bar_is_asked_after_but_nobody_knows_where_it_broke():
    part = part_with({"kind": "bent", "tip_mm": 8})
    assert [(q.layer.id, q.at_mm) for q in questions(part)] == [("spar", 235.0)]
    assert taken_along(part).damage == part.damage
    told = left({"kind": "bent", "tip_mm": 4})
    assert told.fly == "no" and "look first whether Carbon rod 3 mm cracked in the bend" in told.says
    assert left({"kind": "bent", "tip_mm": 4, "whole": ["spar"]}).fly in ("sure", "likely")


def test_what_was_taken_along_is_marked_once():
    part = part_with(BREAK, {**NEAR, "at_mm": 203})
    once = taken_along(part)
    bars = [m for m in once.damage if isinstance(m, BarMark)]
    assert [(m.of, m.at_mm) for m in bars] == [("spar", 200.0)]
    assert taken_along(once) == once
    assert len({m.id for m in once.damage}) == len(once.damage)
    named = part_with({**BREAK, "id": "taken-1"})
    assert [m.id for m in taken_along(named).damage] == ["taken-1", "taken-2"]


def test_a_skin_found_whole_runs_on_over_the_break():
    """Tape that held both pieces carries in pull where torn tape carries nothing."""
    torn = left({**BREAK, "whole": ["spar"], "broken": ["tape", "film"]})
    held = left({**BREAK, "whole": ["spar", "tape", "film"]})
    assert held.lost_g.typ < torn.lost_g.typ
    assert held.bend_percent.typ >= torn.bend_percent.typ * (1 - 0.002)  # a millimetre of crack, either way
    assert held.cases[0].left.typ >= torn.cases[0].left.typ
    assert held.fly == torn.fly == "no"


def test_found_whole_answers_what_is_asked_of_bars_but_never_of_a_break():
    part = part_with(NEAR)
    (mark,) = part.damage
    assert questions(part) and found_whole(mark, part).whole == ("spar",)
    assert all(q.found == "whole" for q in questions(part.model_copy(update={"damage": (found_whole(mark, part),)})))
    broken = BreakMark(id="b", at_mm=200)
    assert found_whole(broken, part) is broken


def test_repairs_of_a_clean_break_mend_the_bars_as_well():
    """Glue alone once gave a snapped rod-pair wing back at 100 %."""
    airframe = marked(BREAK)
    *_, answer = search(airframe, airframe.parts[0], MendWish())
    assert isinstance(answer, Mending)
    for option in answer.options:
        ways = {f.way for f in option.recipe.fixes}
        if option.strength_percent.typ > 60:
            assert ways & {"sister", "sleeve", "sleeve_one", "scarf_bar", "replace_bar", "splint", "wrap_bar"}, (
                option.says
            )
    seen = marked({**BREAK, "whole": ["spar", "tape", "film"]})
    *_, whole = search(seen, seen.parts[0], MendWish())
    assert isinstance(whole, Mending)
    assert all(len(o.recipe.fixes) == 1 for o in whole.options)


@pytest.mark.parametrize("key", list(CONSTRUCTIONS))
def test_seen_whole_holds_no_less_than_unseen_on_every_construction(key: str):
    part = CONSTRUCTIONS[key].part()
    at = round(part.span_mm / 3)
    lines = tuple(la.id for la in part.layers)
    airframe = marked(airframe=None).model_copy(update={"parts": (part,)})
    open_, whole = (
        what_is_left(airframe, part.model_copy(update={"damage": (BreakMark(id="m", at_mm=at, whole=w),)}))
        for w in ((), lines)
    )
    assert open_.fly == whole.fly == "no"
    assert {a.found for a in open_.asked} <= {"open"} and {a.found for a in whole.asked} <= {"whole"}
    assert len(open_.asked) == len(whole.asked) and bool(open_.asked) == bool(lines)
    for a, b in zip(open_.cases, whole.cases, strict=True):
        assert b.left.typ >= a.left.typ * (1 - 1e-6)


def test_a_line_is_whole_or_broken():
    with pytest.raises(InvalidDocument, match="whole and to be broken there"):
        marked({**BREAK, "whole": ["spar"], "broken": ["tape", "spar"]})


def test_a_deep_crack_asks_after_both_bars_of_a_pair_and_a_shallow_one_after_that_of_its_face():
    def sides(depth: float) -> list[str]:
        return [m.side for m in taken_along(part_with({**NEAR, "depth_mm": depth})).damage if isinstance(m, BarMark)]

    assert sides(3) == ["upper"] and sides(14) == ["both"]
    assert left({**NEAR, "depth_mm": 14}).strength_percent.typ < left(NEAR).strength_percent.typ


def test_a_bar_in_a_piece_that_is_missing_is_missing_too():
    """It hung in the air otherwise, and what is left could not be computed."""
    hole = {"kind": "missing", "start_mm": 180, "end_mm": 240, "face": "upper", "from_percent": 20, "to_percent": 45}
    told = left({**hole, "depth_mm": 8})
    assert 0 < told.bend_percent.typ < 80 and 0 < told.strength_percent.typ < 90
    kept = left({**hole, "depth_mm": 8, "whole": ["spar"]})
    assert kept.strength_percent.typ > told.strength_percent.typ


def test_a_deeper_dent_over_the_spar_holds_no_more_at_any_depth():
    """Also where its floor lies level with a rod, to a point, for the grid moves with the floor: the rod is held by the
    foam beside it as before."""
    shares = [left({**CRUSHED, "depth_mm": d, "whole": ["spar"]}).strength_percent.typ for d in (3, 4.5, 5, 5.3, 8, 11)]
    assert shares[0] > 99
    assert all(deep <= less + 1 for less, deep in itertools.pairwise(shares))
    assert min(shares) > 96  # the rods carry what the foam over them lost
