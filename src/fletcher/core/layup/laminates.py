r"""Laminates from cloth, resin and method: a ply by micromechanics, the stack by lamination theory.

A ply of straight fibres (Jones 1999, ch. 3; Halpin & Tsai 1969), with fibre share V:

.. math:: E_1 = V E_f + (1-V) E_m,\quad \nu_{12} = V\nu_f + (1-V)\nu_m,\quad
   \frac{P}{P_m} = \frac{1+\xi\eta V}{1-\eta V},\ \eta = \frac{P_f/P_m - 1}{P_f/P_m + \xi}

with ξ = 2 for E₂ and 1 for G₁₂. A cloth is two such plies at right angles, of half its thickness each; crimp takes its
share off E₁. Thickness follows from the fibres: t = m″/(ρ_f V).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.materials.materials import Cloth, Range, Resin, Skin

if TYPE_CHECKING:
    from fletcher.core.document.airframe import Laminate
    from fletcher.core.materials.materials import Catalogue

Method = Literal["hand", "squeegee", "vacuum"]

FIBRE_SHARE: dict[Method, Range] = {
    "hand": Range(0.28, 0.34, 0.40),
    "squeegee": Range(0.34, 0.40, 0.46),
    "vacuum": Range(0.42, 0.48, 0.54),
}
"""[J] Volume share of fibre by the way of wetting out: brushed by hand, squeegeed, under a vacuum film."""

_SHARE_ERROR = 0.02
"""Error of a share of fibre that was found by weighing, 5-95 %."""


def fibre_share(laminate: Laminate) -> Range:
    """Volume share of fibre of a laminate: its own, or what its method usually gives."""
    if laminate.fibre_percent is None:
        return FIBRE_SHARE[laminate.method]
    own = laminate.fibre_percent / 100
    return Range(own - _SHARE_ERROR, own, own + _SHARE_ERROR)


SOAK_G_M2 = Range(8.0, 18.0, 40.0)
"""[J] Resin that soaks into the open cells of the foam under the first ply."""


@dataclass(frozen=True)
class Stack:
    """A laminate in its plane: thickness mm, moduli MPa along, across and in shear, resin and total g/m² (without
    what soaks into the foam), and the strain limits along: stresses MPa in tension, compression and shear."""

    thickness: float
    E_along: float
    E_across: float
    G: float
    resin: float
    mass: float
    tensile: float
    compressive: float
    shear: float


def ply(cloth: Cloth, resin: Resin, E_resin: float, share: float, crimp: float) -> tuple[float, float, float, float]:
    """E₁, E₂, ν₁₂, G₁₂ (MPa) of straight fibres in resin."""
    G_resin = E_resin / (2 * (1 + resin.nu))

    def halpin_tsai(fibre: float, matrix: float, xi: float) -> float:
        eta = (fibre / matrix - 1) / (fibre / matrix + xi)
        return matrix * (1 + xi * eta * share) / (1 - eta * share)

    along = crimp * (share * cloth.E_fibre_MPa + (1 - share) * E_resin)
    return (
        along,
        halpin_tsai(cloth.E_fibre_MPa, E_resin, 2.0),
        share * cloth.nu_fibre + (1 - share) * resin.nu,
        halpin_tsai(cloth.G_fibre_MPa, G_resin, 1.0),
    )


def _turned(E1: float, E2: float, nu12: float, G12: float, angle: float) -> Array:
    """Plane-stress stiffness (3, 3) of a ply turned by `angle` (rad) from the laminate's axis, engineering shear."""
    nu21 = nu12 * E2 / E1
    q = np.array([[E1, nu21 * E1, 0], [nu21 * E1, E2, 0], [0, 0, G12 * (1 - nu12 * nu21)]]) / (1 - nu12 * nu21)
    t = _strain_turn(angle)
    return np.asarray(t.T @ q @ t)


def _strain_turn(angle: float) -> Array:
    """Strains along a ply's fibres from those along the laminate's axes, (3, 3), engineering shear."""
    c, s = np.cos(angle), np.sin(angle)
    return np.array([[c * c, s * s, c * s], [s * s, c * c, -c * s], [-2 * c * s, 2 * c * s, c * c - s * s]])


def stack(
    plies: list[tuple[Cloth, float]],
    resin: Resin,
    share: float,
    E_resin: float,
    shear_strain: float,
    point: Literal["low", "typ", "high"] = "typ",
) -> Stack:
    """A laminate from its plies, outermost last: (cloth, angle in degrees of its warp from the span).

    Failure is the first fibre that reaches its strain at failure, or the first ply whose resin reaches `shear_strain`
    in shear; cracks across the fibres of a cross ply do not count (Jones 1999, ch. 2: maximum strain).
    """
    stiffness = np.zeros((3, 3))
    thickness = resin_mass = fibre_mass = 0.0
    layers: list[tuple[float, Cloth]] = []
    for cloth, degrees in plies:
        areal = getattr(cloth.areal_mass_g_m2, point)
        t = areal * 1e-6 / (cloth.fibre_density_g_cm3 * 1e-3 * share)
        values = ply(cloth, resin, E_resin, share, getattr(cloth.crimp, point))
        turns = (0.0,) if cloth.weave == "one_way" else (0.0, 90.0)
        for turn in turns:
            angle = np.radians(degrees + turn)
            stiffness += _turned(*values, angle) * t / len(turns)
            layers.append((angle, cloth))
        thickness += t
        fibre_mass += areal
        resin_mass += t * (1 - share) * resin.density_g_cm3 * 1e3
    flexibility = np.linalg.inv(stiffness / thickness)
    along, across, G = 1 / flexibility[0, 0], 1 / flexibility[1, 1], 1 / flexibility[2, 2]

    def limit(stress: Array, pushed: bool) -> float:
        """Multiple of a unit stress state (3,) at which the first ply fails."""
        strain = flexibility @ stress
        found = []
        for angle, cloth in layers:
            e1, _, shear = _strain_turn(angle) @ strain
            pull, push = (getattr(r, point) / 100 for r in (cloth.tensile_strain_pct, cloth.compressive_strain_pct))
            found.append((pull if (e1 > 0) != pushed else push) / max(abs(e1), 1e-15))
            found.append(shear_strain / max(abs(shear), 1e-15))
        return float(min(found))

    unit = np.eye(3)
    return Stack(
        thickness=thickness,
        E_along=float(along),
        E_across=float(across),
        G=float(G),
        resin=resin_mass,
        mass=fibre_mass + resin_mass,
        tensile=limit(unit[0], False),
        compressive=limit(unit[0], True),
        shear=limit(unit[2], False),
    )


def _ordered(low: float, typ: float, high: float) -> Range:
    return Range(min(low, typ, high), typ, max(low, typ, high))


def skin_of(laminate: Laminate, catalogue: Catalogue) -> Skin:
    """The laminate as a skin, with ranges from its cloths, its resin and the fibre share of its method.

    A stiffer result goes with more fibre and stiffer resin, a heavier one with less fibre; both ends are computed.
    """
    resin = catalogue.resins[laminate.resin]
    plies = [(catalogue.cloths[p.cloth], p.angle_deg) for p in laminate.plies]
    share = fibre_share(laminate)
    low, typ, high = (
        stack(
            plies,
            resin,
            getattr(share, point),
            getattr(resin.E_MPa, point),
            getattr(resin.shear_strain_pct, point) / 100,
            point,
        )
        for point in ("low", "typ", "high")
    )
    heavy = stack(plies, resin, share.low, resin.E_MPa.typ, 0.02, "high")
    light = stack(plies, resin, share.high, resin.E_MPa.typ, 0.02, "low")
    # what a skin carries is E·t: fibres fix it, resin hardly changes it; thickness is told at its typical value
    scale = [s.thickness / typ.thickness for s in (low, typ, high)]
    names = " + ".join(f"{c.name} at {a:g}°" for c, a in plies)
    return Skin(
        key="laminate/"
        + "/".join(f"{p.cloth}@{p.angle_deg:g}" for p in laminate.plies)
        + f"/{laminate.resin}/{laminate.method}"
        + ("" if laminate.fibre_percent is None else f"/{laminate.fibre_percent:g}"),
        name=names if len(names) <= 70 else f"{len(plies)}-ply cloth laminate",
        family="laminate",
        grade=max(resin.grade, *(c.grade for c, _ in plies)),
        least_certain="fibre share; strains at failure",
        basis=f"Estimate: {names} in {resin.name}, {laminate.method}; Halpin-Tsai and lamination theory",
        note=resin.note,
        total_thickness_mm=typ.thickness,
        thickness_mm=_ordered(light.thickness, typ.thickness, heavy.thickness),
        areal_mass_g_m2=_ordered(light.mass + SOAK_G_M2.low, typ.mass + SOAK_G_M2.typ, heavy.mass + SOAK_G_M2.high),
        E_along_MPa=_ordered(low.E_along * scale[0], typ.E_along, high.E_along * scale[2]),
        G_MPa=_ordered(low.G * scale[0], typ.G, high.G * scale[2]),
        tensile_strength_MPa=_ordered(low.tensile * scale[0], typ.tensile, high.tensile * scale[2]),
        yield_MPa=None,
        compressive_strength_MPa=_ordered(low.compressive * scale[0], typ.compressive, high.compressive * scale[2]),
        shear_strength_MPa=_ordered(low.shear * scale[0], typ.shear, high.shear * scale[2]),
        peel_N_per_25mm=Range(1.5, 4.0, 9.0),
        adhesive_shear_MPa=Range(5.0, 10.0, 16.0),
        wrinkling_bond="yes",
        wrinkle="break",
        pull="break",
        drawn_MPa=None,
        break_strain_pct=None,
        widths_mm=(),
    )
