"""A check that failed opens the marks of its repair again."""

from __future__ import annotations

from fletcher.core.demo.crash import crash_candidates, crashed_airframe
from fletcher.core.document.damage import CrackMark
from fletcher.core.materials.tables import reference
from fletcher.core.repair.recipe import mended
from fletcher.core.repair.reopening import reopened
from fletcher.core.validation.airframe import check_part

RIGHT = crashed_airframe().parts[0]


def test_a_part_that_nothing_was_done_to_takes_all_its_marks_again():
    bare = RIGHT.model_copy(update={"damage": ()})
    assert reopened(bare, RIGHT.damage) == RIGHT.damage


def test_what_is_marked_already_is_not_marked_twice_and_what_cannot_stand_is_left_out():
    assert reopened(RIGHT, RIGHT.damage) == ()
    beyond = CrackMark(id="beyond", at_mm=RIGHT.span_mm + 50, face="upper", from_percent=30, to_percent=50, depth_mm=3)
    bare = RIGHT.model_copy(update={"damage": ()})
    assert reopened(bare, [beyond, *RIGHT.damage]) == RIGHT.damage


def test_after_any_repair_the_part_with_its_marks_back_is_possible():
    for _, recipe in crash_candidates():
        after = mended(RIGHT, recipe)
        back = reopened(after, RIGHT.damage)
        assert check_part(after.model_copy(update={"damage": (*after.damage, *back)}), reference()) == []
        assert back
