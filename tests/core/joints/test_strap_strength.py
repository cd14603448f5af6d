"""Strips over a seam, against the worked rows of a hand calculation."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.joints.strap_strength import (
    brings_along,
    butt_with_doublers,
    lap_force,
    lap_rate,
    offset_of,
    pairs_moment,
)

K1, K2, C = 12_000 * 10 * 2, 13 * 50 * 10.0, 0.1 / 500 + 2 / (3 * 800) + 10 / (3 * 4.8)
QC = 0.85 * 0.20 * 10
"""REPAIR, check R6: a wood splint 10 × 2 on foam."""


@pytest.mark.parametrize(
    ("length", "brittle", "force"),
    [
        (60, True, 36.28),
        (30, True, 32.27),
        (120, True, 36.62),
        (60, False, 102.0),
        (30, False, 51.0),
        (120, False, 142.7),
    ],
)
def test_a_splint_on_foam_lifts_at_its_outer_end(length: float, brittle: bool, force: float):
    rate = lap_rate(K1, K2, C, 10)
    assert rate == pytest.approx(0.047666, rel=1e-4) and pytest.approx(0.69548, rel=1e-4) == C
    assert lap_force(QC, K1, K2, rate, length, brittle) == pytest.approx(force, rel=1e-3)


def test_the_form_for_two_like_sides_says_too_much_and_a_peak_factor_scales():
    rate = lap_rate(K1, K2, C, 10)
    balanced = QC * 2 / rate * np.tanh(rate * 60 / 2)
    assert balanced == pytest.approx(63.60, rel=1e-3)
    assert lap_force(QC, K1, K2, rate, 60, True, 1.5) == pytest.approx(1.5 * 36.28, rel=1e-3)
    like = lap_force(QC, K1, K1, lap_rate(K1, K1, C, 10), 60, True)
    assert like == pytest.approx(QC * 2 / lap_rate(K1, K1, C, 10) * np.tanh(lap_rate(K1, K1, C, 10) * 30), rel=1e-9)


def test_a_butt_in_a_wall_of_board_under_doublers():
    """REPAIR, check R16: papers 0.095 (E 4500, 42 MPa) on 4.6 of core, doublers of the same, 40 each side."""
    paper, core = 0.095, 4.6
    phi = brings_along(4500, paper, core, 3.1, 40)
    assert phi == pytest.approx(0.60777, rel=1e-4)
    whole, lap = 2 * 42 * paper, 0.85 * 0.17 * 40
    assert whole == pytest.approx(7.980) and lap == pytest.approx(5.780)
    one = 42 * paper
    assert one * (1 + phi) == pytest.approx(6.415, rel=1e-3)
    assert butt_with_doublers(one, phi, lap, 2, 0, whole) == pytest.approx(7.980)
    assert butt_with_doublers(one, phi, lap, 2, 0, 1e9) == pytest.approx(11.56)
    e = offset_of(core + 2 * paper, paper, core, phi)
    for k, force in ((0.5, 3.7251), (1.0, 2.6246)):
        bent = k * e / (core + paper)
        assert butt_with_doublers(one, phi, lap, 1, bent, whole) == pytest.approx(force, rel=2e-3)


def test_inner_and_outer_splints_in_a_hollow_part():
    """REPAIR, check R18: 40 deep, walls 8; strips 2 thick, 90 N each."""
    assert pairs_moment([(90, 21)]) == pytest.approx(3780)
    assert pairs_moment([(90, 21), (90, 11)]) == pytest.approx(4817.1, rel=1e-4)
    assert pairs_moment([(90, 11)]) == pytest.approx(1980)
