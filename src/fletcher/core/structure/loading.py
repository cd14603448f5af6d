"""What a load case needs to know of a part, and what it makes of it: moments along the part."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.integrate import cumulative_trapezoid

from fletcher.core.common.arrays import Array, IntArray
from fletcher.core.document.airframe import Part
from fletcher.core.materials.materials import G_GRAVITY
from fletcher.core.section.outline import Outline
from fletcher.core.structure.control_linkage import Run
from fletcher.core.structure.cords import FrontCord

AIR_DENSITY_KG_M3 = 1.225
"""Standard air at sea level; dense, so on the safe side for loads."""

GYRATION = 0.3
"""[J] Radius of gyration in yaw of the airframe without its wings, over the half span: a fuselage 0.7 spans long."""


@dataclass(frozen=True)
class Body:
    """What a case needs to know of the part. Arrays: stations (n,), samples (S, n) or (S,).

    `mass` g/mm, `shear_centre` and `centroid` mm aft of the local leading edge, `flap_hz` and `edge_hz` the first
    frequencies with the root held, `crush` the stress at which straps crush the foam (MPa), `edge` (S, n) the force per
    length that crushes an edge inwards (N/mm), `torsion` GJ and `whole_EI` (S, n), `divergence` (S,)
    the speed at which it runs away (m/s, infinite where there is none), `end_crush` the force (N) that
    crushes the part's end lengthwise, `cord` the cord in its front edge where it is struck, `glue` (S,) the shear
    that holds it in the foam (MPa).
    """

    part: Part
    outline: Outline
    all_up_mass_g: float
    y: Array
    left: IntArray
    chord: Array
    thickness: Array
    centroid: Array
    mass: Array
    shear_centre: Array
    flap_hz: Array
    edge_hz: Array
    crush: Array
    edge: Array
    torsion: Array
    whole_EI: Array
    divergence: Array
    end_crush: Array
    cord: FrontCord
    glue: Array

    @property
    def weight_N(self) -> float:
        """Weight of the whole airframe."""
        return self.all_up_mass_g * 1e-3 * G_GRAVITY

    @property
    def wing_area_m2(self) -> float:
        """Area of both halves."""
        return 2 * self.part.area_mm2 * 1e-6

    @property
    def mean_chord_mm(self) -> float:
        """Mean chord."""
        return self.part.area_mm2 / self.part.span_mm


@dataclass(frozen=True)
class Measure:
    """How big a load is, in the figure by which a builder knows it; it grows with the load."""

    name: str
    value: float
    unit: str


@dataclass(frozen=True)
class Loading:
    """Moments of a case along the part, (S, n), N·mm: `moment` presses the upper face, `edge` pulls the rear edge,
    `torque` turns the nose up. `supports` and `held` as `section.partial_interaction.respond` takes them; `says` is
    the sentence that tells what the case stands for; `read` what is read. `axial` is the pull along the part (S, n), N.
    A case that
    works its own shape out gives `twist` (rad) or `bend` (mm); `horn_mm` is where it is turned from, `hinges_mm` where
    it hangs. `whole_lift` is the lift of the whole wing (N). `asks` are limits that only this case knows, at `at_mm` or
    at the end: the kind of failure and the share of it used (S,)."""

    moment: Array
    edge: Array
    torque: Array
    says: str
    measure: Measure
    supports: tuple[float, float] | None = None
    read: str = "bend"
    notes: tuple[str, ...] = ()
    held: bool = True
    axial: Array | None = None
    twist: Array | None = None
    bend: Array | None = None
    horn_mm: float | None = None
    hinges_mm: tuple[float, ...] = ()
    arrives: Array | None = None
    """Of a deflected surface: share of the deflection that arrives, (S,)."""
    servo: Array | None = None
    """Of a deflected surface: hinge moment that the servo holds, (S,) N·mm."""
    best_horn_mm: float | None = None
    run: Run | None = None
    """Of a deflected surface: its control run, with the share of the deflection that its give leaves, (S,)."""
    run_left: Array | None = None
    at_mm: float | None = None
    whole_lift: float = 0.0
    stall: str = ""
    """Where the wing cannot lift what the case asks for: told before anything else."""
    cannot_fly: bool = False
    """Whether the aircraft cannot carry its own weight at the case's speed."""
    depth: Array | None = None
    """Of a strike: how deep the edge is cut, (S,) mm."""
    asks: tuple[tuple[str, Array], ...] = ()


def dynamic_factor(frequency_hz: Array, speed_m_s: float, stop_mm: float) -> Array:
    """Largest answer of a part to a steady deceleration that begins at once and lasts t = 2 s/V, over its static
    answer: 2 sin(π t f₁), at most 2 (undamped, one degree of freedom; Biggs 1964)."""
    lasts = 2 * stop_mm * 1e-3 / speed_m_s
    return np.asarray(np.where(lasts * frequency_hz < 0.5, 2 * np.sin(np.pi * lasts * frequency_hz), 2.0))


def inertia_moment(mass_g_mm: Array, left: IntArray, y: Array, load_factor: float) -> Array:
    """Bending moment (S, n), N·mm, of the part's own weight times n, which relieves the lift. `mass_g_mm` (S, n)."""
    q = mass_g_mm * 1e-3 * G_GRAVITY * load_factor
    h = y[left + 1] - y[left]
    inner, outer = q[:, left], q[:, left + 1]

    def outboard(values: Array) -> Array:
        """Sums of what lies outboard of each element (S, elements + 1), from its inner end; the tip last."""
        sums = np.cumsum(values[:, ::-1], 1)[:, ::-1]
        return np.concatenate([sums, np.zeros((len(values), 1))], 1)

    shear = outboard(0.5 * h * (inner + outer))
    moment = outboard(shear[:, 1:] * h + h**2 * (inner / 6 + outer / 3))
    found = np.zeros_like(q)
    found[:, left] = moment[:, :-1]
    found[:, left + 1] = moment[:, 1:]
    return found


def outboard(per_length: Array, y: Array) -> Array:
    """∫ from y to the tip of values (S, n)."""
    return np.asarray(-cumulative_trapezoid(per_length[:, ::-1], y[::-1], axis=1, initial=0)[:, ::-1])


def nothing(body: Body) -> Array:
    """No moment, (S, n)."""
    return np.zeros_like(body.mass)
