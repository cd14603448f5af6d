"""Bars longer than stock: joined as far out as stock allows, in the fewest lengths, never at the root."""

from __future__ import annotations

import math

import pytest
from scipy.integrate import quad

from fletcher.core.document.airframe import Splice
from fletcher.core.plan.bar_splices import NowhereToJoin, elliptic_moment, join, least_overlap, pieces_between

OTHERS = {430.0: 2, 300.0: 3}


def steps(low: float, high: float) -> list[float]:
    return [low + 5 * n for n in range(round((high - low) / 5) + 1)]


def test_two_long_bars_are_joined_as_far_out_as_stock_allows():
    found = join(1320, (0, 0), 1000, 60, steps(660, 970), OTHERS)
    assert (found.at, found.lengths) == ((970,), 5)
    assert pieces_between(0, 1320, [Splice(at_mm=970, overlap_mm=60)]) == [1000, 380]


@pytest.mark.parametrize(("low", "high", "lengths"), [(660, 850, 9), (855, 970, 8), (660, 970, 8)])
def test_the_place_that_takes_fewer_lengths_wins(low, high, lengths):
    assert join(1320, (0, 0, 0, 0), 1000, 60, steps(low, high), OTHERS).lengths == lengths


def test_a_bar_through_both_halves_is_centred_on_the_root():
    found = join(700, (0,), 1000, 60, steps(200, 640), {}, centred=True)
    assert found.at == (470,)
    pieces = pieces_between(0, 700, [Splice(at_mm=470, overlap_mm=60)], centred=True)
    assert pieces == [1000, 260] and pieces[0] + 2 * pieces[1] == 1520
    assert elliptic_moment(440 / 700) == pytest.approx(0.09124, abs=5e-6)


@pytest.mark.parametrize(("share", "along"), [(0.5, 0.25261), (0.25, 0.43898), (1.0, 0.0), (0.0, 1.0)])
def test_the_moment_of_elliptic_lift(share, along):
    assert elliptic_moment(along) == pytest.approx(share, abs=1e-5)
    whole = quad(lambda t: t * math.sqrt(1 - t * t), 0, 1)[0]
    beyond = quad(lambda t: (t - along) * math.sqrt(1 - t * t), along, 1)[0]
    assert elliptic_moment(along) == pytest.approx(beyond / whole, abs=1e-9)


def test_an_overlap_is_twenty_sizes_or_what_carries_the_force():
    force = 350 * math.pi / 4 * 9
    assert force == pytest.approx(2474.0, abs=0.05)
    assert least_overlap("side_by_side", 3, force, 6, 3) == pytest.approx(206.17, abs=0.005)
    assert least_overlap("side_by_side", 3, 100, 6, 3) == 60
    assert least_overlap("scarf", 3, 100, 6, 3) == 36


def test_upper_and_lower_are_not_joined_at_one_place():
    found = join(1320, (0, 60), 1000, 60, steps(660, 970), {})
    assert found.at == (970,)
    short = [Splice(at_mm=970, overlap_mm=60, stagger_mm=60).of_face(f).at_mm for f in ("upper", "lower")]
    assert short == [970, 910]


def test_what_two_lengths_do_not_give_is_joined_from_three():
    found = join(2400, (0,), 1000, 60, steps(60, 2340), {})
    assert len(found.at) == 2 and found.at[0] == 970
    joints = [Splice(at_mm=a, overlap_mm=60) for a in found.at]
    pieces = pieces_between(0, 2400, joints)
    assert sum(pieces) == 2400 + 2 * 60 and max(pieces) <= 1000


@pytest.mark.parametrize(
    ("long", "allowed"), [(1320, steps(300, 330)), (1320, []), (1320, steps(975, 1100)), (4990, steps(60, 4930))]
)
def test_where_nothing_may_be_joined_nothing_is(long, allowed):
    with pytest.raises(NowhereToJoin, match=f"{long} mm out of lengths of 1000 mm"):
        join(long, (0,), 1000, 60, allowed, {})


def test_a_sleeve_butts_and_a_bound_split_is_no_joint():
    butt = Splice(at_mm=400, overlap_mm=60, how="sleeved")
    assert pieces_between(0, 1000, [butt]) == [400, 600]
    assert pieces_between(0, 1000, [Splice(at_mm=400, how="wrapped")]) == [1000]
    assert join(1320, (0,), 1000, 60, steps(900, 1000), {}, how="sleeved").at == (1000,)
