"""The compiled march against roots found by SciPy on the law of a fibre written down once more, on random sections."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.optimize import brentq

from fletcher.core.section.moment_curvature import NEVER, Laws, Section

FAR = 0.02


def law(strain, E_pull, E_push, yields, hardens, gives):
    """Stress of a fibre, branch by branch."""
    out = np.where(strain > 0, E_pull * strain, E_push * strain)
    out = np.where(strain > yields, E_pull * yields + hardens * (strain - yields), out)
    return np.where(strain < -gives, -E_push * gives, out)


class Random:
    """A section of so many fibres, with the same numbers as plain arrays."""

    def __init__(self, seed: int, fibres: int = 14) -> None:
        rng = np.random.default_rng(seed)
        self.z = np.sort(rng.uniform(-12, 12, fibres))
        self.amount = rng.uniform(0, 30, fibres) * (rng.random(fibres) > 0.2)
        self.E = rng.uniform(5, 3000, fibres)
        self.push = self.E * rng.uniform(0.6, 1.0, fibres)
        self.yields = np.where(rng.random(fibres) < 0.5, NEVER, rng.uniform(0.002, 0.05, fibres))
        self.hardens = self.E * rng.uniform(0, 0.2, fibres)
        self.gives = np.where(rng.random(fibres) < 0.4, NEVER, rng.uniform(0.001, 0.04, fibres))
        self.follows = np.where(rng.random(fibres) < 0.3, rng.uniform(0.2, 1, fibres), 1.0)
        laws = Laws(self.E, self.push, self.yields, self.hardens, self.gives)
        self.section = Section(self.amount, -self.z, laws, self.follows)

    def stress(self, strain):
        return law(strain, self.E, self.push, self.yields, self.hardens, self.gives)

    def strain(self, t: float, even: float):
        return -t * self.z + even * self.follows

    def even(self, t: float) -> float:
        def force(e: float) -> float:
            return float((self.amount * self.follows * self.stress(self.strain(t, e))).sum())

        wide = 60 * t + 1e-9
        return brentq(force, -wide, wide, xtol=1e-15, rtol=1e-13)

    def moment(self, t: float) -> float:
        return float((self.stress(self.strain(t, self.even(t))) * self.amount * -self.z).sum())


@pytest.mark.parametrize("seed", range(12))
def test_the_strain_that_leaves_no_force_and_the_moment_there(seed: int):
    r = Random(seed)
    t = np.array([1e-5, 4e-4, 2e-3, 9e-3])
    work, even = r.section.at(t)
    for n, one in enumerate(t):
        assert even[n] == pytest.approx(r.even(one), abs=1e-8 * (1 + abs(one) * 12))
        assert work[n] == pytest.approx(r.moment(one), rel=1e-6)
    assert np.all(np.diff(work) >= -1e-6 * np.abs(work[1:]))  # a harder bend never takes less moment


@pytest.mark.parametrize("seed", range(12))
def test_the_first_fibre_at_its_limit(seed: int):
    r = Random(seed)
    rng = np.random.default_rng(100 + seed)
    pull, push = (np.where(rng.random(len(r.z)) < 0.5, rng.uniform(0.005, 0.1, len(r.z)), NEVER) for _ in range(2))

    def used(t: float) -> float:
        strain = r.strain(t, r.even(t))
        return float(np.maximum(strain / pull, -strain / push).max())

    t, which, work = (v.item() for v in r.section.reaches(pull, push, np.array(FAR)))
    if used(FAR) < 1:
        assert which == -1 and t == FAR
        return
    wanted = brentq(lambda x: used(x) - 1, 1e-9, FAR, xtol=1e-14)
    assert t == pytest.approx(wanted, rel=1e-5)
    assert work == pytest.approx(r.moment(wanted), rel=1e-4)
    strain = r.strain(t, r.even(t))
    assert max(strain[which] / pull[which], -strain[which] / push[which]) == pytest.approx(1, abs=1e-5)


@pytest.mark.parametrize("seed", range(12))
def test_the_curvature_at_a_moment_or_none(seed: int):
    r = Random(seed)
    most = r.moment(FAR)
    aims = np.array([0.05, 0.4, 0.9]) * most
    t = r.section.carries(aims, np.full(3, FAR))
    assert [r.moment(one) for one in t] == pytest.approx(aims, rel=1e-6)
    assert np.isinf(r.section.carries(np.array(1.01 * most), np.array(FAR)))
    assert float(r.section.carries(np.array(0.0), np.array(FAR))) == pytest.approx(0.0, abs=1e-12)


@pytest.mark.parametrize("seed", range(6))
def test_what_is_left_of_the_stiffness_is_the_slope_of_the_moment(seed: int):
    r = Random(seed)
    for t in (3e-4, 5e-3):
        step = 1e-7 * t
        slope = (r.moment(t + step) - r.moment(t - step)) / (2 * step)
        assert float(r.section.keeps(np.array(t)) * r.section.elastic) == pytest.approx(slope, rel=1e-3, abs=1e-3)


def test_the_slope_of_what_is_untouched_counts_each_modulus_on_its_side_and_the_lever():
    r = Random(3)
    E = np.where(-r.z > 0, r.E, r.push)
    assert float(r.section.elastic) == pytest.approx(float((E * r.amount * r.z**2).sum()))
    lever = np.linspace(0.5, 3.0, len(r.z))
    other = Section(r.amount, -r.z, r.section.laws, r.follows, lever)
    assert float(other.elastic) == pytest.approx(float((E * r.amount * -r.z * lever).sum()))
    assert float(other.at(np.array(1e-6))[0]) == pytest.approx(
        float((r.stress(r.strain(1e-6, r.even(1e-6))) * r.amount * lever).sum()), rel=1e-6
    )


def test_sections_side_by_side_are_those_alone_whatever_their_axes():
    parts = [Random(seed) for seed in range(6)]
    sides = [np.array([getattr(r, n) for r in parts]).reshape(2, 3, -1) for n in
             ("amount", "z", "E", "push", "yields", "hardens", "gives", "follows")]  # fmt: skip
    amount, z, E, push, yields, hardens, gives, follows = sides
    many = Section(amount, -z, Laws(E, push, yields, hardens, gives), follows)
    t = np.full((2, 3), 3e-3)
    work, even = many.at(t)
    for n, r in enumerate(parts):
        alone, own = r.section.at(np.array(3e-3))
        assert (work.flat[n], even.flat[n]) == pytest.approx((float(alone), float(own)), rel=1e-9, abs=1e-12)
    pull = np.full(z.shape, 0.02)
    found = many.reaches(pull, pull, np.full((2, 3), FAR))
    assert found[0].shape == found[1].shape == found[2].shape == (2, 3)
    narrow = many.stations(np.array([2, 0]))
    assert narrow.at(t[:, :2])[0] == pytest.approx(work[:, [2, 0]])


def test_fibres_that_bear_nothing_are_limits_only():
    """An edge without area is strained with the rest and may break first."""
    z, amount = np.array([-5.0, 5.0, 10.0]), np.array([10.0, 10.0, 0.0])
    laws = Laws(*(np.full(3, v) for v in (100.0, 100.0, NEVER, 0.0, NEVER)))
    section = Section(amount, -z, laws)
    push, never = np.array([NEVER, 0.02, 0.02]), np.full(3, NEVER)
    t, which, work = section.reaches(never, push, np.array(1.0))
    assert (float(t), int(which)) == pytest.approx((0.002, 2))
    assert float(work) == pytest.approx(100 * 0.002 * 2 * 10 * 25)
