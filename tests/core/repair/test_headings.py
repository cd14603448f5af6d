"""Headings mean what they say; what nothing meets is said first."""

from __future__ import annotations

import pytest

from fletcher.core.materials.uncertainty import Band
from fletcher.core.repair.headings import HEADINGS, NEAR, by_the_launch, keeps, margin_at_launch, margin_cured
from fletcher.core.repair.schema import CaseMended, MendOption, MendWish


def band(low: float, typ: float | None = None) -> Band:
    return Band(low=low, typ=low if typ is None else typ, high=2 * low)


def case(asked=1.5, whole=2.0, then=1.8, launch=1.6) -> CaseMended:
    return CaseMended.model_construct(asked=asked, whole=band(whole), then=band(then), launch=band(launch))


def option(*cases: CaseMended, **other) -> MendOption:
    values = {
        "kinds": [], "says": "Glued face to face", "cases": list(cases) or [case()], "strength_percent": band(90.0),
        "bend_percent": band(100.0), "twist_percent": band(100.0), "looks": 4, "more_g": band(1.0),
        "fly_min": band(50.0),
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
    assert keeps("sound", weak, 100) and not keeps("quick", weak, 100)
    assert not keeps("sound", option(case(asked=1.5, whole=1.0, then=0.9)), 100)
    assert margin_cured(option(case(asked=1.5, whole=0.5, then=0.5))) == pytest.approx(1 / 0.97)


@pytest.mark.parametrize(
    ("kind", "change", "kept"),
    [
        ("quick", {}, True),
        ("quick", {"cases": [case(launch=1.49)]}, False),
        ("quick", {"strength_percent": band(40.0)}, True),  # of what is needed, not of the whole
        ("sound", {}, True),
        ("sound", {"strength_percent": band(79.0)}, False),
        ("sound", {"bend_percent": band(84.0)}, False),
        ("sound", {"twist_percent": band(84.0)}, False),
        ("sound", {"twist_percent": None}, True),
        ("sound", {"cases": [case(then=1.49)]}, False),
        ("restored", {}, False),
        ("restored", {"strength_percent": band(95.0)}, True),
        ("restored", {"strength_percent": band(96.0), "bend_percent": band(109.0)}, False),
        ("restored", {"strength_percent": band(96.0), "bend_percent": band(91.0)}, False),
        ("restored", {"strength_percent": band(96.0), "looks": 3}, False),
        ("restored", {"strength_percent": band(96.0), "more_g": band(3.1)}, False),  # of 100 g
        ("restored", {"strength_percent": band(96.0), "more_g": band(3.0)}, True),
        ("light", {}, True),
        ("light", {"cases": [case(then=1.4)]}, False),
        ("cheap", {"cases": [case(then=1.4)]}, False),
        ("strong", {"cases": [case(then=0.1)]}, True),
        ("near", {"cases": [case(then=0.1)]}, True),
    ],
)
def test_a_heading_is_kept_by_its_rule(kind, change: dict, kept: bool):
    assert keeps(kind, option(**change), 100.0) is kept


def test_every_heading_has_a_title_and_a_rule():
    assert [h.kind for h in HEADINGS] == ["quick", "sound", "restored", "light", "cheap", "strong", "near"]
    assert all(h.title and h.rule.endswith(".") for h in HEADINGS)
    assert len({h.title for h in HEADINGS}) == len(HEADINGS)


def test_the_first_sentence_names_what_holds_at_the_launch():
    told = by_the_launch([option(), option(kinds=["quick"], says="Taped over")], MendWish(fly_in_min=60))
    assert told == "By the launch in 60 min: taped over."


def test_a_part_that_holds_as_it_is_needs_no_repair_by_the_launch():
    told = by_the_launch([option(kinds=["quick"], says="Left as it is")], MendWish(fly_in_min=60))
    assert told == "It holds as it is: nothing has to be mended by the launch."


def test_or_that_nothing_does_and_what_comes_nearest():
    slow = option(case(launch=0.3), says="A new bar", fly_min=band(225.0))
    slower = option(case(launch=0.0), says="A new skin", fly_min=band(3000.0))
    weak = option(case(then=1.0, launch=0.9), kinds=["near"], says="Taped over", fly_min=band(20.0))
    told = by_the_launch([slower, slow, weak], MendWish(fly_in_min=30))
    assert told == (
        "Nothing here holds this part at full load within 30 min. Soonest that does: a new bar, after 3.8 h. "
        "By then taped over holds 60 % of what is needed."
    )
    none = by_the_launch([slower], MendWish(fly_in_min=120))
    assert none == (
        "Nothing here holds this part at full load within 2 h. Soonest that does: a new skin, after 2.1 days. "
        "None is done and set by then."
    )
    never = by_the_launch([option(case(then=1.0, launch=0.0))], MendWish(fly_in_min=45))
    assert never == "Nothing here holds this part at full load within 45 min. None is done and set by then."
    assert 0 < NEAR < 0.2
