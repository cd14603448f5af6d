"""Lengths of film, tape, cloth and thread: worked checks W1 to W7 and T1."""

from __future__ import annotations

import math

import pytest
from scipy.special import ellipe

from fletcher.core.plan import wrapping as w
from fletcher.core.section.outline import Ellipse, FourDigit, Rectangle

WING = FourDigit(0.0, 0.4)


def test_round_a_section():
    """W1: one face, perimeter, round the nose to bars at 30 % of both faces, with two laps of 10."""
    face = w.arc(WING, 180, 21.6, "upper")
    assert round(face, 3) == 183.534 and face == pytest.approx(w.arc(WING, 180, 21.6, "lower"))
    assert round(w.around(WING, 180, 21.6), 3) == 367.522
    nose = sum(w.arc(WING, 180, 21.6, f, 0, 0.3) for f in ("upper", "lower"))
    assert (round(nose, 3), round(nose + 20, 3)) == (114.014, 134.014)


def test_turns_and_perimeters_against_closed_forms():
    """W2 to W4: a round-ended strip, a box with round corners, an ellipse."""
    strip = 2 * (40 - 6) + math.pi * 6
    assert (round(strip, 4), round(w.turns(strip, 3, 15), 3)) == (86.8496, 275.549)
    assert round(w.turns(strip, 3, 15, 0.12), 3) == 278.942
    box = 2 * (60 + 50) - 8 * 4 + 2 * math.pi * 4
    assert (round(w.turns(box, 3, 25), 3), round(w.turns(box, 3, 25, 0.06), 3)) == (664.398, 666.095)
    assert w.around(Rectangle(), 60, 50) + 12 == pytest.approx(232)
    ellipse = 4 * 30 * ellipe(1 - 0.3**2)
    assert round(ellipse, 3) == 131.577 and w.around(Ellipse(), 60, 18) == pytest.approx(ellipse, rel=1e-4)


def test_hinge_tapes_and_strips():
    """W6 and W7."""
    assert w.thread_mm(math.pi * 4, 18, 0.3) == pytest.approx(754.20, abs=0.005)  # W5
    assert (w.hinge_tape(12, 0.5), round(w.groove_tape(12, 6, 45), 3)) == (24.5, 36.989)
    assert w.strips(134, 50, 5) == 3 and w.strips(95, 50, 5) == 2 and w.strips(10, 50, 5) == 1


def test_strips_on_the_bias():
    """T1."""
    u = w.bias_length(1000, 60, 45)
    assert round(u, 2) == 1354.21
    assert (w.bias_lengths(2400, 40, u), w.bias_lengths(1354, 40, u)) == (2, 1)
