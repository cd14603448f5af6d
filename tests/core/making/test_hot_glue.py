"""A bead of hot glue: what it weighs and how far it is laid before it is stiff."""

from __future__ import annotations

import math

import pytest

from fletcher.core.making.hot_glue import BEAD_MM, GUN_G_MIN, bead


def test_a_bead_weighs_its_round_and_ends_with_its_open_time():
    found = bead(950, 0.5)
    assert found.g_per_m == pytest.approx(math.pi / 4 * 9 * 0.95) and BEAD_MM == 3
    assert found.longest_mm == pytest.approx(GUN_G_MIN / found.g_per_m * 0.5 * 1000)
    assert bead(950, 1.0).longest_mm == pytest.approx(2 * found.longest_mm)
