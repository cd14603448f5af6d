"""The two-dimensional shear solution against closed forms."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.section.flexure_function import solve
from fletcher.core.section.grid import BarSpot, FaceSkin
from fletcher.core.section.outline import FourDigit, Rectangle

G = 3.5


def pair_stiffness(a: float, h: float, d: float, chord: float = 600, at: float = 0.5) -> float:
    """GA_s of two rigid rods ±a in a foam slab that bends without resistance, N."""
    bars = [BarSpot(at * chord, z, d, d, 1e4) for z in (a, -a)]
    c = solve(Rectangle(), chord, h, 0.0, [], bars).matrix
    v = np.zeros(len(c))
    v[4:] = np.array([a, -a]) / (2 * a * a)
    return float(G / (v @ c @ v))


@pytest.mark.parametrize("d", [0.5, 1.0, 2.0])
@pytest.mark.parametrize(("a", "h"), [(9, 22), (5, 22), (7, 20), (3, 30)])
def test_rod_pair_in_a_slab(a, h, d):
    """GA_s = 4πGa² / ln[(2h/πr) tan(πa/h)] for thin rods in a wide slab."""
    closed = 4 * np.pi * G * a**2 / np.log(4 * h / (np.pi * d) * np.tan(np.pi * a / h))
    assert pair_stiffness(a, h, d) == pytest.approx(closed, rel=0.03)


def test_touching_rods_cannot_slide_past_each_other():
    assert pair_stiffness(1.0, 22, 1.999) > 20 * pair_stiffness(3.0, 22, 2.0) * (1 / 3) ** 2


@pytest.mark.parametrize("at", [0.13, 0.31, 0.5, 0.507])
def test_place_of_a_rod_between_grid_lines_does_not_matter(at):
    assert pair_stiffness(7.3, 21, 2, at=at) == pytest.approx(pair_stiffness(7.3, 21, 2, at=0.45), rel=0.01)


@pytest.mark.parametrize("w", [5, 10, 20, 40])
def test_narrow_caps_do_not_use_the_whole_chord_as_web(w):
    """Caps of width w on the faces: close to Gh(w + 0.44 h), which is a fast form good to some per cent."""
    h, chord = 20.0, 300.0
    skins = [FaceSkin(f, (chord - w) / 2, (chord + w) / 2, 0.0, 0.0) for f in ("upper", "lower")]
    c = solve(Rectangle(), chord, h, 0.0, skins, []).matrix
    v = np.zeros(len(c))
    v[[5, 7]] = 1 / (2 * w * (h / 2) ** 2)
    found = G / (v @ c @ v)
    assert found == pytest.approx(G * h * (w + 0.44 * h), rel=0.07)
    assert found < 0.3 * G * chord * h


def test_solid_rectangle_has_five_sixths_of_its_area():
    c = solve(Rectangle(), 120, 20, 0.0, [], []).matrix
    v = np.array([0, 1, 0, 1, *[0] * (len(c) - 4)]) / (120 * 20**3 / 12)
    assert G / (v @ c @ v) == pytest.approx(5 / 6 * G * 2400, rel=0.01)


def test_flexibility_is_symmetric_and_never_negative_for_balanced_sources():
    outline = FourDigit(0.03, 0.4)
    bars = [BarSpot(50, 8, 3, 3, 1e4), BarSpot(90, -2, 2, 2, 1e4)]
    c = solve(outline, 160, 20, 1.0, [FaceSkin("upper", 20, 80, 3.0, 0.05)], bars).matrix
    assert np.allclose(c, c.T)
    # opposed unit rates in the two bars
    v = np.zeros(len(c))
    v[[-1, -2]] = 1, -1
    assert v @ c @ v > 0
