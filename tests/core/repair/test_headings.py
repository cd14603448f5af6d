"""Headings mean what they say; what nothing meets is said first."""

from __future__ import annotations

from dataclasses import replace

import pytest

from fletcher.core.materials.uncertainty import Band
from fletcher.core.repair.headings import (
    BOTH_MIN,
    HEADINGS,
    NEAR,
    Row,
    Speeds,
    beaten,
    by_the_launch,
    headed,
    keeps,
    margin_at_launch,
    margin_cured,
    rebuilt_first,
    speed_left,
)
from fletcher.core.repair.phrasing import LEFT_AS_IT_IS
from fletcher.core.repair.schema import CaseMended, MendNeed, MendOption, MendWish


def band(low: float, typ: float | None = None) -> Band:
    return Band(low=low, typ=low if typ is None else typ, high=2 * low)


def case(asked=1.5, whole=2.0, then=1.8, launch=1.6, in_the_air=True) -> CaseMended:
    return CaseMended.model_construct(
        asked=asked, whole=band(whole), then=band(then), launch=band(launch), in_the_air=in_the_air
    )


def option(*cases: CaseMended, **other) -> MendOption:
    values = {
        "kinds": [], "says": "Butt-glued", "cases": list(cases) or [case()], "strength_percent": band(90.0),
        "bend_percent": band(100.0), "twist_percent": band(100.0), "looks": 4, "more_g": band(1.0),
        "fly_min": band(50.0), "grounded": "", "minutes": band(60.0), "needs": [],
    }  # fmt: skip
    return MendOption.model_construct(**{**values, **other})


def test_what_is_needed_is_asked_of_the_low_end_in_the_worst_case():
    o = option(case(then=3.0, launch=2.0), case(asked=1.0, then=1.2, launch=0.9))
    assert margin_cured(o) == pytest.approx(1.2)
    assert margin_at_launch(o) == pytest.approx(0.9)
    low = option(CaseMended.model_construct(asked=1.5, whole=band(3.0), then=band(1.2, 2.0), launch=band(1.2, 2.0)))
    assert margin_cured(low) == pytest.approx(0.8)  # typically enough is not enough


def test_a_part_that_was_not_enough_itself_needs_what_it_held():
    weak = option(case(asked=1.5, whole=1.0, then=0.98, launch=0.5))
    assert margin_cured(weak) == pytest.approx(0.98 / 0.97)
    assert margin_cured(option(case(asked=1.5, whole=0.5, then=0.5))) == pytest.approx(1 / 0.97)


PLAIN = Row(
    flies=50, hands=40, grams=1.0, credits=5, at_launch=1.05, cured=1.2, looks=4, strength=90, loaded=300, steps=4
)  # fmt: skip


@pytest.mark.parametrize(
    ("kind", "change", "kept"),
    [
        ("quick", {}, True),
        ("quick", {"at_launch": 0.99}, False),
        ("quick", {"flies": 61}, False),
        ("quick", {"buys": 1}, False),
        ("quick", {"strength": 40}, True),  # of what is needed, not of the whole
        ("sound", {}, True),
        ("sound", {"strength": 79}, False),
        ("sound", {"bend": 84}, False),
        ("sound", {"twist": 84}, False),
        ("sound", {"cured": 0.99}, False),
        ("sound", {"strength": 80, "bend": 85, "twist": 85}, True),
        ("restored", {}, False),
        ("restored", {"strength": 95}, True),
        ("restored", {"strength": 96, "bend": 109}, False),
        ("restored", {"strength": 96, "bend": 91}, False),
        ("restored", {"strength": 96, "looks": 3}, False),
        ("restored", {"strength": 96, "grams": 3.1}, False),  # of 100 g
        ("restored", {"strength": 96, "grams": 3.0}, True),
        ("light", {}, True),
        ("light", {"cured": 0.9}, False),
        ("easy", {"cured": 0.9}, False),
        ("cheap", {"cured": 0.9}, False),
        ("strong", {"cured": 0.1}, True),
        ("near", {"cured": 0.1}, True),
        ("near", {"buys": 1}, False),
        ("strong", {"buys": 1, "grounded": True}, True),
        ("quick", {"grounded": True}, False),
        ("sound", {"grounded": True}, False),
        ("cheap", {"grounded": True}, False),
        ("near", {"grounded": True}, True),
        ("quick", {"at_launch": 1.0, "flies": 60}, True),
    ],
)
def test_a_heading_is_kept_by_its_rule(kind, change: dict, kept: bool):
    assert keeps(kind, replace(PLAIN, **change), 60.0) is kept


def _row(flies, hands, grams, credits, at_launch, cured, looks, **more) -> Row:
    return Row(flies, hands, grams, credits, at_launch, cured, looks, **more)


D1 = {
    "A": _row(62, 48, 6.0, 30, 1.20, 1.50, 3), "B": _row(62, 48, 6.5, 30, 1.20, 1.40, 3),
    "C": _row(47, 37, 3.0, 20, 1.05, 1.05, 3), "D": _row(159, 35, 4.0, 15, 0, 1.60, 4),
    "E": _row(90, 50, 6.0, 30, 1.20, 1.50, 3), "F": _row(47, 37.5, 3.05, 20, 1.05, 1.05, 3),
    "G": _row(120, 30, 2.0, 25, 0.5, 1.10, 2),
}  # fmt: skip
"""REPAIR, check D1."""


def test_what_another_beats_is_hidden_and_of_two_alike_the_plainer_stays():
    hidden = dict(zip(D1, beaten(list(D1.values())), strict=True))
    assert [name for name, gone in hidden.items() if gone] == ["B", "E", "F"]
    plainer = replace(D1["F"], hands=37, grams=3.0, steps=0)
    assert beaten([D1["C"], plainer]) == [True, False]
    assert beaten([D1["C"], D1["C"]]) == [False, False]


@pytest.mark.parametrize(("asked", "by_launch"), [(60, "C"), (65, "A")])
def test_each_heading_stands_over_the_best_of_those_that_may(asked: int, by_launch: str):
    names = list(D1)
    found = {kind: names[n] for n, kinds in headed(list(D1.values()), asked).items() for kind in kinds}
    assert found["quick"] == by_launch
    assert (found["light"], found["easy"], found["cheap"]) == ("G", "G", "D")
    assert "near" not in found and "strong" not in found


def test_where_nothing_holds_the_strongest_and_the_nearest_are_named():
    weak = [replace(PLAIN, cured=0.5, at_launch=0.3), replace(PLAIN, cured=0.7, at_launch=0.02)]
    assert list(headed(weak, 60).items()) == [(0, ["near"]), (1, ["strong"])]
    assert headed([replace(PLAIN, cured=0.7, at_launch=NEAR / 2)], 60) == {0: ["strong"]}


def test_a_weak_part_is_flown_slower_but_not_near_its_stall():
    """REPAIR, check V1: 0.54 of the case at a safety factor of 1.5; top speed 14 m/s, stall 6 and 7 m/s."""
    assert speed_left(0.54 / 1.5, 14, 6) == pytest.approx(0.6)
    assert speed_left(0.54 / 1.5, 14, 7) is None
    assert speed_left(2.0, 14, 6) == 1.0


def test_every_heading_has_a_title_and_a_rule():
    assert [h.kind for h in HEADINGS] == ["quick", "near", "sound", "restored", "light", "easy", "cheap", "strong"]
    assert all(h.title and h.rule.endswith(".") for h in HEADINGS)
    assert len({h.title for h in HEADINGS}) == len(HEADINGS)


def test_the_first_sentence_names_what_holds_at_the_launch():
    told = by_the_launch([option(), option(kinds=["quick"], says="Taped over")], MendWish(fly_in_min=60))
    assert told == "By the launch in 60 min: taped over."


def test_a_part_that_holds_as_it_is_needs_no_repair_by_the_launch():
    told = by_the_launch([option(kinds=["quick"], says="Left as it is")], MendWish(fly_in_min=60))
    assert told == "It holds as it is: no repair is needed before the launch."


def test_or_that_nothing_does_and_what_comes_nearest():
    slow = option(case(launch=0.3), says="A new bar", fly_min=band(225.0))
    slower = option(case(launch=0.0), says="A new skin", fly_min=band(3000.0))
    weak = option(case(then=1.0, launch=0.9), kinds=["near"], says="Taped over", fly_min=band(20.0))
    told = by_the_launch([slower, slow, weak], MendWish(fly_in_min=30))
    assert told == (
        "✕ No repair is ready for the full load within 30 min. Soonest: a new bar, ready to fly after 3.8 h. "
        "By then taped over holds 60 % of the load needed."
    )
    none = by_the_launch([slower], MendWish(fly_in_min=120))
    assert none == (
        "✕ No repair is ready for the full load within 2 h. Soonest: a new skin, ready to fly after 2.1 days. "
        "Nothing is done and set by then."
    )
    never = by_the_launch([option(case(then=1.0, launch=0.0))], MendWish(fly_in_min=45))
    assert never == "✕ No repair is ready for the full load within 45 min. Nothing is done and set by then."
    assert 0 < NEAR < 0.2


@pytest.mark.parametrize(
    ("cases", "told"),
    [
        ([case(launch=0.96)], "enough at 80 % of the speed, without gusts"),
        ([case(launch=0.96), case(launch=1.49, in_the_air=False)], "at no speed is that enough"),
        ([case(launch=0.96), case(launch=1.5, in_the_air=False)], "enough at 80 % of the speed, without gusts"),
        ([case(launch=0.3)], "at no speed is that enough"),
        ([case(launch=0.96), case(launch=1.4)], "enough at 80 % of the speed, without gusts"),
        ([case(launch=1.6, in_the_air=False)], "at no speed is that enough"),
    ],
)
def test_what_comes_nearest_says_at_which_speed_it_is_enough(cases, told: str):
    """√(0.96/1.5) = 0.8; a landing asks the same at any speed; a broken spar is flown at none."""
    near = option(*cases, kinds=["near"], says="Taped over")
    assert by_the_launch([near], MendWish(fly_in_min=30), Speeds(14.0, 6.0)).endswith(f": {told}.")
    assert by_the_launch([near], MendWish(), Speeds(None, 6.0)).endswith("at no speed is that enough.")
    broken = near.model_copy(update={"grounded": "the spar is broken"})
    for speeds in (Speeds(14.0, 6.0), None):
        said = by_the_launch([broken], MendWish(fly_in_min=30), speeds)
        assert said.endswith("and must not fly: the spar is broken.") and "speed" not in said


def test_what_takes_as_long_as_a_new_one_or_grows_heavy_is_better_built_anew():
    anew = band(2.0)
    assert rebuilt_first(option(minutes=band(95.0 + BOTH_MIN)), anew, 100) == ""
    long = rebuilt_first(option(minutes=band(96.0 + BOTH_MIN)), anew, 100)
    assert long.startswith("Better to build a new part: a sound repair takes 1.6 h") and long.endswith("1 % heavier. ")
    assert rebuilt_first(option(minutes=band(999.0), says=LEFT_AS_IT_IS), anew, 100) == ""
    assert "12 % heavier" in rebuilt_first(option(more_g=band(12.0)), anew, 100)
    assert rebuilt_first(None, anew, 100) == ""


def test_what_has_to_be_bought_is_named_and_what_is_at_hand_comes_first():
    bought = option(says="A new rod", fly_min=band(40.0), needs=[MendNeed(key="r", name="Rod", at_hand=False)])
    here = option(says="A sister", fly_min=band(90.0), needs=[MendNeed(key="s", name="Skewer", at_hand=True)])
    told = by_the_launch([bought, here], MendWish(fly_in_min=30))
    assert "Soonest: a sister, ready to fly after 1.5 h." in told
    told = by_the_launch([bought], MendWish(fly_in_min=30))
    assert "Soonest: a new rod, after buying Rod ready to fly after 40 min." in told
    loose = option(says="Strapped", fly_min=band(20.0), grounded="the dowel is broken")
    assert "strapped" not in by_the_launch([loose, bought], MendWish(fly_in_min=10))


def test_a_trifle_beats_nobody():
    """Less than a minute, a tenth of a gram, a credit or one per cent is no reason to hide a repair of fewer steps."""
    for change in ({"hands": 39.5}, {"grams": 0.95}, {"credits": 4.5}, {"strength": 90.5}, {"at_launch": 1.055},
                   {"bend": 99.5}, {"twist": 100.5}, {"loaded": 299.5}):  # fmt: skip
        off = {"bend": 100.8} if "bend" in change else {"twist": 99.2} if "twist" in change else {}
        better = replace(PLAIN, **change, steps=5)
        assert beaten([replace(PLAIN, **off), better]) == [False, False]
    for change in ({"hands": 38.5}, {"grams": 0.85}, {"credits": 3.5}, {"strength": 91.5}, {"at_launch": 1.07},
                   {"loaded": 298.5}):  # fmt: skip
        assert beaten([PLAIN, replace(PLAIN, **change, steps=5)]) == [True, False]


def test_stiffness_counts_by_how_far_it_is_from_the_other_half():
    off, near = (replace(PLAIN, bend=bend, steps=5) for bend in (94.0, 105.0))
    assert beaten([off, near]) == [True, False]
    assert beaten([replace(PLAIN, twist=97.0), replace(PLAIN, twist=101.5, steps=9)]) == [True, False]
