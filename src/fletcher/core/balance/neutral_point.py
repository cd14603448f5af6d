r"""Neutral point of surfaces in any order: each one horseshoe vortex, solved together.

Downwash of a horseshoe of span πb/4 (s = πb/8) with its bound leg on the aerodynamic centre (Katz & Plotkin, Low-Speed
Aerodynamics): at l behind, height h, place y, h_e² = h² + (0.02 b)²
ε = (L/q)/(16 π s) · {T(s−y) + T(s+y) + [l/(l²+h_e²)]·[(s−y)/√(l²+h_e²+(s−y)²) + (s+y)/√(l²+h_e²+(s+y)²)]},
T(d) = d/(d²+h_e²) · (1 + l/√(l²+d²+h_e²)). The lift of each falls by what the others turn the air there:
L_i + a_i S_i η_i Σ_j e_ij L_j = a_i S_i η_i, and x_np = (Σ L_i X_i − F)/Σ L_i, F of the fuselage by Multhopp's strips
(Torenbeek). Lengths in mm, areas in mm², lift per dynamic pressure and radian in mm².
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np

from fletcher.core.balance.planform import Planform
from fletcher.core.common.arrays import Array

STRIPS = 64


@dataclass(frozen=True)
class Surface:
    """A lifting surface: its planform, slope of its section over 2π, what the wake leaves of its dynamic pressure, and
    the angle at which its halves stand (V-tail): in pitch the area counts with cos²Γ."""

    planform: Planform
    kappa: float
    eta: float = 1.0
    v_deg: float = 0.0

    @property
    def lift(self) -> float:
        """a S η cos²Γ, mm²: lift per dynamic pressure and radian where nothing turns the air."""
        p = self.planform
        return p.slope(self.kappa) * p.area_mm2 * self.eta * math.cos(math.radians(self.v_deg)) ** 2

    @property
    def lift_sideways(self) -> float:
        """The same in yaw, with sin²Γ."""
        p = self.planform
        return p.slope(self.kappa) * p.area_mm2 * self.eta * math.sin(math.radians(self.v_deg)) ** 2


@dataclass(frozen=True)
class Body:
    """A fuselage for its part in pitch: plan widths ahead of the wing and between wing and tail, their lengths, and the
    factor of the nose by its shape."""

    k_nose: float
    nose_wide_mm: float
    nose_long_mm: float
    aft_wide_mm: float = 0.0
    aft_long_mm: float = 0.0


@dataclass(frozen=True)
class Neutral:
    """Where the neutral point lies, and what makes it. `lifts` (surfaces,) per dynamic pressure and radian; `keeps`
    what each keeps of its own lift beside the others; `bare_mm` without the fuselage."""

    x_mm: float
    bare_mm: float
    lifts: Array
    keeps: Array
    body_mm3: float = field(default=0.0)

    @property
    def fuselage_mm(self) -> float:
        """How far the fuselage moves it, aft positive."""
        return self.x_mm - self.bare_mm


def downwash(of: Planform, behind: float, above: float, out: Array) -> Array:
    """Angle by which a horseshoe turns the air, radians per lift over dynamic pressure (1/mm²), at so far behind its
    bound leg (negative: ahead, where it turns it up), so far above it, and so far out (n,)."""
    s = math.pi * of.span_mm / 8
    h2 = above**2 + (0.02 * of.span_mm) ** 2
    total = np.zeros_like(out)
    for d in (s - out, s + out):
        total += d / (d**2 + h2) * (1 + behind / np.sqrt(behind**2 + d**2 + h2))
        total += behind / (behind**2 + h2) * d / np.sqrt(behind**2 + h2 + d**2)
    return total / (16 * math.pi * s)


def mean_downwash(of: Planform, on: Planform) -> float:
    """The mean of that over the half of another surface, weighted with its chord, 1/mm²."""
    y, chord = on.strips(STRIPS)
    angles = downwash(of, on.centre_mm - of.centre_mm, on.height_mm - of.height_mm, y)
    return float(np.sum(angles * chord) / np.sum(chord))


def neutral_point(surfaces: Sequence[Surface], body: Body | None = None, wash: float = 1.0) -> Neutral:
    """Neutral point of surfaces, the largest of which a fuselage is seen from; `wash` multiplies all downwash.

    Raises
    ------
    ValueError
        Where there is no surface.
    """
    if not surfaces:
        raise ValueError("no surface, no neutral point")
    own = np.array([s.lift for s in surfaces])
    turns = np.array([
        [0.0 if i is j else wash * mean_downwash(j.planform, i.planform) for j in surfaces] for i in surfaces
    ])  # fmt: skip
    lifts = np.linalg.solve(np.eye(len(own)) + own[:, None] * turns, own)
    at = np.array([s.planform.centre_mm for s in surfaces])
    bare = float(np.sum(lifts * at) / np.sum(lifts))
    forward = 0.0
    if body is not None:
        behind = [
            i for i, s in enumerate(surfaces) if s.planform.centre_mm > surfaces[_main(surfaces)].planform.centre_mm
        ]
        wing = _main(surfaces)
        left = 1.0
        if behind:
            left = 1 - turns[behind[-1], wing] * lifts[wing]
        forward = body_moment(body, float(left))
    keeps = np.divide(lifts, own, out=np.ones_like(own), where=own > 0)
    return Neutral(bare - forward / float(np.sum(lifts)), bare, lifts, keeps, forward)


def _main(surfaces: Sequence[Surface]) -> int:
    return int(np.argmax([s.planform.area_mm2 for s in surfaces]))


def body_moment(body: Body, left: float) -> float:
    """F, mm³: pitching moment of a fuselage per dynamic pressure and radian, nose up; `left` is what the wing's
    downwash leaves of the angle at the tail."""
    ahead = body.k_nose * body.nose_wide_mm**2 * body.nose_long_mm
    return math.pi / 2 * (ahead + 0.5 * left * body.aft_wide_mm**2 * body.aft_long_mm)


def textbook(
    wing: tuple[float, float, float], tail: tuple[float, float, float], mean_chord: float, wash: float, eta: float
) -> tuple[float, float, float]:  # fmt: skip
    """Neutral point of wing and tail by the textbook: tail volume, whole slope per radian, and x. `wing` and `tail` are
    slope, area and aerodynamic centre; `wash` is dε/dα."""
    (aw, sw, xw), (at, st, xt) = wing, tail
    volume = st * (xt - xw) / (sw * mean_chord)
    whole = aw + at * eta * st / sw * (1 - wash)
    return volume, whole, xw + mean_chord * volume * (at * eta / whole) * (1 - wash)
