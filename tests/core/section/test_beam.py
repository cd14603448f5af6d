"""The beam with bars tied by shear, against Newmark's and Allen's closed form and against statics."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.section.partial_interaction import mesh, respond, tie

L, P = 480.0, 15.0


def uniform_pair(stiffness_of_tie: float, elements: int = 120):
    """A part of EI_h with two bars ±a, tied with K_e = 4a²/C: mid deflection under P in the middle."""
    EI_h, EA_h, EA, a = 1.3e6, 1e6, 4e5, 9.0
    grid = mesh([0.0, L / 2, L], elements)
    n = len(grid.y)
    moment = (P / 2 * np.minimum(grid.y, L - grid.y))[None]
    ones = np.ones((1, n))
    flexibility = np.zeros((n, 3, 3, 1))
    flexibility[:, [1, 2], [1, 2]] = 2 * a * a / stiffness_of_tie
    arm = np.stack([np.full(n, -a), np.full(n, a)])[None]
    tied = tie(grid, EI_h * ones, EA_h * ones, EA * np.ones((1, 2, n)), arm, flexibility, np.zeros(2, bool))
    shape = respond(tied, moment, (0.0, L))
    whole = EI_h + 2 * EA * a * a
    mid = -shape.deflection[0, int(np.argmin(np.abs(grid.y - L / 2)))]
    return mid, EI_h, whole, shape, grid


@pytest.mark.parametrize("stiffness", [50.0, 300.0, 2000.0, 1e5])
def test_partial_interaction_between_free_ends(stiffness):
    """δ = PL³/48D∞ + (PL/4K)[1 − tanh(x)/x], x = αL/2, α² = K(D∞ − D0)/(D0 D∞)."""
    mid, d0, d1, _, _ = uniform_pair(stiffness)
    K = stiffness / (1 - d0 / d1) ** 2
    x = np.sqrt(K * (d1 - d0) / (d0 * d1)) * L / 2
    closed = P * L**3 / 48 / d1 + P * L / 4 / K * (1 - np.tanh(x) / x)
    assert mid == pytest.approx(closed, rel=0.005)


def test_no_tie_bends_as_the_host_alone_and_a_stiff_one_as_one_piece():
    loose, d0, d1, _, _ = uniform_pair(1e-3)
    tight, *_ = uniform_pair(1e9)
    assert loose == pytest.approx(P * L**3 / 48 / d0, rel=1e-3)
    assert tight == pytest.approx(P * L**3 / 48 / d1, rel=5e-3)


def test_bars_are_without_force_at_free_ends_and_balanced():
    _, _, _, shape, grid = uniform_pair(300.0)
    assert np.allclose(shape.bar_force[0, :, [0, -1]], 0)
    assert np.allclose(shape.bar_force[0, 0], -shape.bar_force[0, 1])
    upper = shape.bar_force[0, 0, len(grid.y) // 2]
    assert upper < 0  # pressed on the upper side of a part that sags


def test_moment_is_shared_between_host_and_bars_everywhere():
    _, _, _, shape, grid = uniform_pair(300.0)
    moment = P / 2 * np.minimum(grid.y, L - grid.y)
    carried = shape.curvature[0] * 1.3e6 + 9 * (shape.bar_force[0, 1] - shape.bar_force[0, 0])
    assert np.allclose(carried, moment, atol=1e-6 * moment.max())


def test_refining_the_mesh_changes_little():
    coarse, fine = uniform_pair(300.0, 60)[0], uniform_pair(300.0, 480)[0]
    assert coarse == pytest.approx(fine, rel=3e-3)


def test_root_that_carries_on_keeps_the_bars_loaded():
    """Held at the root: joined bars carry their share there, cut ones nothing."""
    grid = mesh([0.0, 600.0])
    n = len(grid.y)
    ones = np.ones((1, n))
    moment = (5.0 * (600 - grid.y))[None]
    flexibility = np.zeros((n, 3, 3, 1))
    flexibility[:, [0, 1, 2], [0, 1, 2], 0] = 1e-4, 0.05, 0.05
    arm = np.stack([np.full(n, -9.0), np.full(n, 9.0)])[None]
    tips = {}
    for joined in (True, False):
        stiff = 4e5 * np.ones((1, 2, n))
        tied = tie(grid, 1e6 * ones, 1e6 * ones, stiff, arm, flexibility, np.full(2, joined))
        shape = respond(tied, moment, None)
        tips[joined] = shape.deflection[0, -1]
        assert bool(abs(shape.bar_force[0, 0, 0]) > 50) is joined
    assert tips[False] > 1.05 * tips[True]
