"""The most telling next test: worked check A8, and what holds for any state."""

from __future__ import annotations

import itertools

import numpy as np
import pytest

from fletcher.core.rig.next_test import Candidate, after, greedy, widths, worth

NAMES = ("E", "s", "K", "r", "pE", "ps", "q", "b")
SD = np.array([0.24, 0.30, 0.25, 0.05, 0.04, 0.08, 0.06, 0.07])


def row(**k: float) -> np.ndarray:
    return np.array([k.get(n, 0.0) for n in NAMES])


def state() -> np.ndarray:
    alike = np.eye(8)
    for a, b, v in (("E", "s", 0.6), ("E", "r", 0.6), ("s", "r", 0.5), ("pE", "ps", 0.6)):
        i, j = NAMES.index(a), NAMES.index(b)
        alike[i, j] = alike[j, i] = v
    return alike * np.outer(SD, SD)


HEADLINES = np.array([row(E=-0.4, pE=-0.4, K=-0.6, q=1), row(s=1, ps=1, E=-0.6, pE=-0.6, K=0.6, b=1)])
PIECE = np.array([[0.04**2, 0.6 * 0.04 * 0.08], [0.6 * 0.04 * 0.08, 0.08**2]])


def scrap(name: str, rows: list[np.ndarray], own: np.ndarray, minutes: float) -> Candidate:
    """A scrap with a piece of its own: what that adds is noise of the test."""
    return Candidate(name, np.array(rows), own @ PIECE @ own.T + 0.01 * np.eye(2), minutes)


LIKE = scrap("like-built", [row(E=-0.4, K=-0.6), row(s=1, E=-0.6, K=0.6, b=1)], np.array([[-0.4, 0], [-0.6, 1]]), 30)
BARE = scrap("bare", [row(E=-1), row(s=1)], np.array([[-1, 0], [0, 1]]), 15)
PART = Candidate("part bend", HEADLINES[:1], np.array([[0.08**2]]), 10)
BLOCK = Candidate("block", np.array([row(r=1)]), np.array([[0.02**2]]), 5)
ALL = (LIKE, BARE, PART, BLOCK)


def test_what_each_test_leaves_as_a8():
    assert widths(state(), HEADLINES, np.zeros(2)) == pytest.approx((0.1886, 0.3016), abs=5e-5)
    left = {w.candidate.name: w for w in worth(state(), HEADLINES, ALL)}
    for name, bend, breaks in (("like-built", 0.5604, 0.4307), ("part bend", 0.3905, 0.9046), ("bare", 0.8846, 0.7073),
                               ("block", 0.9590, 0.9806)):  # fmt: skip
        assert left[name].leaves == pytest.approx((bend, breaks), abs=5e-5)
    assert left["like-built"].score == pytest.approx(0.4913, abs=5e-5)
    assert worth(state(), HEADLINES, ALL)[0].candidate is LIKE


def test_three_in_a_row_are_the_best_of_all_threes():
    found = greedy(state(), HEADLINES, ALL, 3)
    assert [w.candidate.name for w in found] == ["like-built", "part bend", "like-built"]

    def left(tests) -> np.ndarray:
        s = state()
        for t in tests:
            s = after(s, t)
        return widths(s, HEADLINES, np.zeros(2)) / widths(state(), HEADLINES, np.zeros(2))

    assert left([LIKE, PART]) == pytest.approx((0.3382, 0.4286), abs=5e-5)
    assert left([w.candidate for w in found]) == pytest.approx((0.3171, 0.3519), abs=5e-5)
    threes = itertools.combinations_with_replacement(ALL, 3)
    best = min(threes, key=lambda tests: float(np.prod(left(tests))))
    assert sorted(c.name for c in best) == ["like-built", "like-built", "part bend"]


def test_a_test_never_widens_and_order_does_not_count():
    one, other = after(after(state(), PART), BARE), after(after(state(), BARE), PART)
    assert one == pytest.approx(other, abs=1e-12)
    assert all(0 < v <= 1 for w in worth(state(), HEADLINES, ALL) for v in w.leaves)
    touched = worth(state(), HEADLINES, ALL, untouched=np.array([0.3, 0.3]))
    assert touched[0].score > worth(state(), HEADLINES, ALL)[0].score  # what no test touches stays


def test_of_two_as_good_the_quicker_is_first():
    slow, quick = (Candidate(n, HEADLINES[:1], np.array([[v]]), m)
                   for n, v, m in (("slow", 0.0064, 60), ("quick", 0.0066, 5)))  # fmt: skip
    assert [w.candidate.name for w in worth(state(), HEADLINES, (slow, quick))] == ["quick", "slow"]
    assert worth(state(), HEADLINES, ()) == []
