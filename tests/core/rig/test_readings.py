"""Readings of a bench test: worked checks F5, what is odd, what is not straight, what cannot be."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.rig.readings import Mark, Step, crept, fitted

STEPS = [Step(2, 0), Step(4, 60), Step(6, 120), Step(0, 180)]
MARKS = [Mark(4.1, 10), Mark(8.6, 70), Mark(13.0, 130), Mark(1.3, 190), Mark(0.5, 300)]


def test_steps_with_creep_as_f5():
    assert [round(crept(STEPS, m.at_s, 0.04), 4) for m in MARKS] == [2, 4.1619, 6.3780, 0.6280, 0.1807]
    found = fitted(STEPS, MARKS, 0.04)
    assert (found.compliance, found.zero, found.share) == pytest.approx((2.03043, 0.07936, 0.02855), abs=2e-5)
    bare = fitted(STEPS, MARKS, 0.0)
    assert (bare.compliance, bare.zero) == pytest.approx((2.00735, 0.68235), abs=2e-5)


@pytest.mark.parametrize(("seconds", "factor"), [(60, 1.0743), (600, 1.1779), (1 / (20 * np.pi), 1 / 1.2940)])
def test_what_counts_after_a_while(seconds, factor):
    assert crept([Step(1, 0)], seconds, 0.04) == pytest.approx(factor, abs=6e-5)


def test_order_does_not_count():
    assert fitted(STEPS[::-1], MARKS[::-1], 0.04) == fitted(STEPS, MARKS, 0.04)


def straight(*values: float, sd: float = 0.0) -> list[Mark]:
    return [Mark(v, 60 * n + 10) for n, v in enumerate(values)]


RISING = [Step(float(n), 60 * n) for n in range(1, 7)]


def test_an_odd_reading_is_left_out_and_told():
    good = straight(0.1, 2.0, 3.9, 6.1, 8.0, 10.1, 11.9)
    assert fitted(RISING, good, 0.0).odd == ()
    slip = [*good[:3], Mark(16.1, good[3].at_s), *good[4:]]
    found = fitted(RISING, slip, 0.0)
    assert found.odd == (3,) and found.compliance == pytest.approx(fitted(RISING, good, 0.0).compliance, rel=0.02)
    few = fitted(RISING[:3], [Mark(0.0, 10), Mark(2.0, 70), Mark(9.0, 130), Mark(6.0, 190)], 0.0)
    assert few.odd == ()


def test_what_is_not_straight_is_told():
    bowed = fitted(RISING, straight(0.0, 2.0, 4.4, 7.6, 11.8, 17.0, 23.4), 0.0)
    even = fitted(RISING, straight(0.0, 2.0, 4.0, 6.0, 8.0, 10.0, 12.0), 0.0)
    assert bowed.curved > 3 > abs(even.curved)


def test_a_finer_gauge_tells_more():
    values = straight(0.0, 2.0, 4.0, 6.0, 8.0, 10.0, 12.0)
    assert fitted(RISING, values, 0.0, "dial_gauge").share < fitted(RISING, values, 0.0, "ruler").share


@pytest.mark.parametrize(
    ("marks", "says"),
    [([Mark(1, 10)], "two loads"), ([Mark(1, 70), Mark(2, 80)], "two loads"),
     (straight(0.0, -2.0, -4.0), "against its load")],
)  # fmt: skip
def test_what_cannot_be_is_named(marks, says):
    with pytest.raises(ValueError, match=says):
        fitted(RISING, marks, 0.0)
