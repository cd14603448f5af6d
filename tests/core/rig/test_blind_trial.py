"""Builders whose true values the rig cannot see: its bands hold what they say, and tests make them narrower."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.stats import binom

from fletcher.core.rig.blind_trial import PARTS, bench, plank, trial

N = 40


@pytest.fixture(scope="module")
def taped():
    return trial("taped plank", N)


def test_the_bands_of_a_taped_plank_hold_what_they_say(taped):
    low, high = (binom.ppf(q, N, 0.9) / N for q in (0.001, 0.999))
    for inside in (*taped.inside_before, *taped.inside_after):
        assert low <= inside <= high
    assert max(taped.lean) < 33  # ten bins at 1 in 10 000


def test_three_tests_halve_what_is_left(taped):
    assert taped.narrowing[0] <= 0.5 and taped.narrowing[1] <= 0.5
    assert taped.plan == ("break a scrap built like it", "bend the part", "break a scrap built like it")


def test_the_same_seed_is_the_same_trial_and_another_is_not():
    one, again, other = (trial("bare plank", 12, seed=s) for s in (1, 1, 2))
    assert one == again and one.narrowing != other.narrowing


def test_slips_cost_width_and_not_truth():
    clean, slips = (trial("bare plank", 24, arm) for arm in ("as assumed", "slips"))
    assert slips.inside_after[1] >= binom.ppf(0.001, 24, 0.9) / 24
    assert slips.narrowing[0] >= 0.98 * clean.narrowing[0]


@pytest.mark.parametrize("name", PARTS)
def test_every_part_has_a_plan_of_its_own_tests(name):
    b = bench(name)
    assert len(b.plan) == 3 and all(any(t is p for t in b.tests) for p in b.plan)
    assert len(b.rows) == len(b.shares) and np.all((b.shares > 0) & (b.shares < 1))
    _, part, case = plank(name)
    assert case in part.cases and part.span_mm == 480
