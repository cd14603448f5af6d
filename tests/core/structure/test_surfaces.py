"""Control surfaces: thin-aerofoil coefficients, twist away from the horn, where the horn goes, reversal."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.document.airframe import Airframe, ControlEdge
from fletcher.core.estimate.report import estimate
from fletcher.core.structure.control_surfaces import arriving, best_horn, blown_back, flap
from fletcher.core.structure.frequencies import reversal_speed
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.studies.control_surface_ways import compare_surface
from tests.core.factories import checked

RHO = 1.225


def test_a_flap_as_wide_as_the_chord_is_a_flat_plate(proof):
    """Flat plate: c_l = 2π, moment about the nose π/2 per radian (thin-aerofoil theory)."""
    whole = flap(1 - 1e-9)
    proof("flap over the whole chord: lift per radian", whole.lift, 2 * np.pi, 1e-6)
    proof("… normal force", whole.normal, 2 * np.pi, 1e-3)
    proof("… hinge moment about the nose", whole.hinge, np.pi / 2, 1e-3)


def test_flap_lift_and_moment_are_glauerts(proof):
    """θ_h = 120° for a quarter chord: c_l = 2(π − θ_h + sin θ_h), c_m = −½ sin θ_h (1 − cos θ_h)."""
    quarter = flap(0.25)
    h = np.radians(120)
    proof("quarter-chord flap: lift per radian", quarter.lift, 2 * (np.pi - h + np.sin(h)), 1e-9)
    proof("… moment about the quarter chord", quarter.moment, -0.5 * np.sin(h) * (1 - np.cos(h)), 1e-9)


def test_flap_force_is_what_the_whole_section_gains_less_what_its_front_gains():
    """Pressure integrated over front and flap together is the lift: the flap alone carries less than all of it."""
    for ratio in (0.15, 0.25, 0.4):
        f = flap(ratio)
        assert 0 < f.normal * ratio < f.lift
        assert 0.3 < f.hinge / f.normal < 0.45  # centre of the flap's pressure ahead of its middle


def test_twist_away_from_a_horn_at_the_end(proof):
    """(GJ θ′)′ = k(δ + θ), θ(0) = 0, θ′(L) = 0: δ + θ = δ cosh(a(L − y))/cosh(aL), a² = k/GJ."""
    L, GJ, k, delta = 500.0, 2e4, 0.3, np.radians(20)
    y = np.linspace(0, L, 161)
    theta = blown_back(y, np.full((1, 161), GJ), np.full((1, 161), k), delta, 0.0)[0]
    a = np.sqrt(k / GJ)
    exact = delta * (np.cosh(a * (L - y)) / np.cosh(a * L) - 1)
    proof("surface held at its end: twist of the far end", theta[-1], exact[-1], 2e-3)
    arrives = arriving(y, np.full(161, 40.0), theta[None], delta)[0]
    proof("… share that arrives, tanh(aL)/aL", arrives, np.tanh(a * L) / (a * L), 2e-3)


def test_the_best_horn_of_an_even_surface_stands_in_its_middle():
    y = np.linspace(0, 400, 81)
    even = np.ones((1, 81))
    assert best_horn(y, np.full(81, 40.0), 3e3 * even, 0.2 * even, 0.3) == pytest.approx(200, abs=15)
    # while little is lost, softness on one side does not matter: each side's moment times its length balances there
    soft = np.where(y > 200, 6e3, 2e4)[None]
    assert best_horn(y, np.full(81, 40.0), soft, 0.002 * even, 0.3) == pytest.approx(200, abs=15)
    # a surface wider at its root has more to hold there
    wide = 60 - 40 * y / 400
    assert best_horn(y, wide, 3e3 * even, 0.2 * even * (wide / 40) ** 2, 0.3) < 180


def surface_airframe() -> Airframe:
    return checked(Airframe(name="x", all_up_mass_g=900, parts=(CONSTRUCTIONS["control_surface"].part(),)))


def test_stiffer_ways_let_more_arrive_and_the_parts_own_way_is_among_them():
    airframe = surface_airframe()
    part = airframe.parts[0]
    ways = {w.name: w for w in compare_surface(airframe, part, part.cases[0])}
    assert ways["Bare foam"].arrives.typ < ways["Foam wrapped in film"].arrives.typ < ways["Light balsa"].arrives.typ
    assert ways["Bare foam"].grams.typ < ways["Foam wrapped in film"].grams.typ < ways["Light balsa"].grams.typ
    own = estimate(airframe, part.id, part.cases[0].id)
    assert ways["As designed"].grams.typ == pytest.approx(own.mass_g.typ)
    assert ways["As designed"].arrives.typ == pytest.approx(own.control.arrives.typ)


def test_a_surface_hangs_on_its_hinges_and_does_not_twist_at_its_horn():
    airframe = surface_airframe()
    result = estimate(airframe, "surface", airframe.parts[0].cases[0].id)
    y, twist, bend = (np.array(v) for v in (result.curves.y_mm, result.curves.twist_deg, result.curves.deflection_mm))
    assert abs(np.interp(result.control.horn_mm, y, twist)) < 1e-6
    assert np.all(twist <= 1e-9)  # blown back everywhere else
    for hinge in result.control.hinges_mm:
        assert abs(np.interp(hinge, y, bend)) < 0.05 * np.abs(bend).max()
    assert 0 < result.control.arrives.typ < 1 and result.control.servo_N_mm.typ > 0


def test_twice_the_speed_blows_back_about_four_times_as_far():
    airframe = surface_airframe()
    part = airframe.parts[0]
    twists = []
    for speed in (4.0, 8.0):
        case = part.cases[0].model_copy(update={"speed_m_s": speed})
        changed = part.model_copy(update={"cases": (case,)})
        twists.append(abs(estimate(airframe.model_copy(update={"parts": (changed,)}), part.id, case.id).twist_deg.typ))
    assert twists[1] == pytest.approx(4 * twists[0], rel=0.12)


def test_reversal_of_a_uniform_wing(proof):
    """Shear centre on the quarter chord (e = 0): θ = −q c² |m_δ| δ ∫∫/GJ and the roll ∫(aθ + a_δ δ) y dy = 0 at
    q = a_δ L²/2 / (a c² |m_δ|/GJ · ∫(Ly − y²/2) y dy), the integral being 5 L⁴/24."""
    L, c, GJ, a = 600.0, 180.0, 2e6, 5.0
    y = np.linspace(0, L, 241)
    one = np.ones((1, 241))
    part = flap(0.25)
    lift = part.lift * a / (2 * np.pi)
    q = lift * L**2 / 2 / (a * c**2 * abs(part.moment) / GJ * 5 * L**4 / 24)
    found = reversal_speed(y, np.full(241, c), 45.0 * one, GJ * one, a, part, np.ones(241, bool))[0]
    proof("uniform wing, e = 0: reversal speed, m/s", found, np.sqrt(2 * q * 1e6 / RHO), 5e-3)


def test_reversal_comes_sooner_in_a_softer_wing():
    y = np.linspace(0, 600, 121)
    c, one = np.full(121, 180.0), np.ones((1, 121))

    def speed(GJ: float, start: float) -> float:
        on = (y >= start) & (y <= start + 200)
        return float(reversal_speed(y, c, 60 * one, GJ * one, 5.0, flap(0.25), on)[0])

    assert speed(1e6, 380) < speed(2e6, 380)
    assert speed(1e6, 380) == pytest.approx(speed(2e6, 380) / np.sqrt(2), rel=1e-3)


def test_a_wing_with_a_surface_tells_where_it_reverses():
    part = CONSTRUCTIONS["bead_wing"].part()
    part = part.model_copy(update={"control": ControlEdge(start_mm=300, end_mm=560)})
    result = estimate(checked(Airframe(name="x", all_up_mass_g=900, parts=(part,))), part.id)
    assert result.shakes.reversal_m_s.low <= result.shakes.reversal_m_s.typ <= result.shakes.reversal_m_s.high
    assert "reversal_m_s" in {w.figure for w in result.workings}
    assert estimate(checked(Airframe(name="x", all_up_mass_g=900, parts=(CONSTRUCTIONS["bead_wing"].part(),))),
                    part.id).shakes.reversal_m_s is None  # fmt: skip
