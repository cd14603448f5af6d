r"""How a hinge is made, step by step; what sun leaves of it; and a cloth hinge at any angle by lamination theory.

A web of free length ℓ bends back with k = E t³ w/12ℓ (beam of the line's length w), E that of the cloth across the line
in flexible resin at its angle, pulls apart at its own strength σ t w and shears along the line at τ t w. What ages in
the sun keeps 0.5^(months/half life).
"""

from __future__ import annotations

from collections.abc import Iterable
from functools import cache

import numpy as np

from fletcher.core.adhesion.curing import sampled
from fletcher.core.common.arrays import Array
from fletcher.core.common.quantities import F1, in_mm
from fletcher.core.document.airframe import Laminate, Ply
from fletcher.core.joints.strap_strength import flute_pitch
from fletcher.core.layup.laminates import skin_of
from fletcher.core.materials.materials import Range, Sheet
from fletcher.core.materials.tables import reference, table_rows
from fletcher.core.section.setting import families

FREE_MM = Range(0.6, 1.2, 2.0)
"""[J] Length of cloth along the line that is left free of hard resin."""

CLOTH_DEG = {"cloth_bias_aramid": 45.0, "cloth_0_90_aramid": 0.0}
"""Angle of the cloth's warp to the line's normal, by method."""

SUN_HOURS_A_MONTH = 200.0
"""[J] Hours of sun in a month outdoors; a club season is 60 to 100."""

_CEMENT_HALF_MONTHS = Range(4, 9, 18)
"""[J] Months outdoors after which a styrenic rubbery cement holds half; polyurethane lasts twice as long."""

_SUN = {
    "tape_one_side_bevel": "tape", "tape_both_sides_gap": "tape", "film_tape_uv": "hot_iron_film",
    "paper_live_hinge": "paper_skin", "fluted_pp_live": "twin_wall", "cloth_bias_aramid": "aramid_cloth",
    "cloth_0_90_aramid": "aramid_cloth", "point_nylon_pinned": "nylon", "fibre_ca": "nylon",
    "film_skin_hinge": "covering_film",
}  # fmt: skip
"""The family of material that the sun works on."""


@cache
def _web(angle_deg: float) -> tuple[Range, Range, Range, Range]:
    """E across the line, strengths in pull and shear (MPa) and thickness (mm) of aramid cloth in flexible resin."""
    skin = skin_of(Laminate(plies=(Ply(cloth="aramid_60", angle_deg=angle_deg),), resin="epoxy_flexible"), reference())
    return skin.E_along_MPa, skin.tensile_strength_MPa, skin.shear_strength_MPa, skin.thickness_mm


LIVE_WALL = "fluted_pp_live"
"""The hinge that is one wall of a twin-wall sheet; its row in the table is that of a wall of 0.28 mm over 3.5 mm."""


def live_wall(thickness_mm: float, sheets: Iterable[Sheet]) -> tuple[float, float]:
    """Stiffness and tear strength of a live hinge in twin-wall sheet of a thickness over those of the table's row.

    k = E t³ w/12 L (plate strip); it tears as its wall yields. The wall's thickness t comes from the sheets of the
    stockroom, read between them; the free length L is nearly the pitch of the flutes."""
    known = sorted((s.thickness_mm.typ, s.wall_thickness_mm) for s in sheets if s.wall_thickness_mm)
    wall = float(np.interp(thickness_mm, [t for t, _ in known], [w for _, w in known])) if known else 0.28
    free = flute_pitch(thickness_mm)
    return (wall / 0.28) ** 3 * 3.5 / free, wall / 0.28


def cloth_hinge(angle_deg: float) -> tuple[Array, Array, Array]:
    """Of a cloth hinge per 100 mm of line, (S,): its stiffness in N·mm/rad, and what tears its own web across and what
    shears it along the line, N."""
    E, pull, shear, thickness = _web(angle_deg)
    key = f"hinge/cloth/{angle_deg:g}"
    t = sampled(thickness, key)
    k = sampled(E, key, 1) * t**3 * 100 / (12 * sampled(FREE_MM, "hinge/free"))
    return np.asarray(k), np.asarray(sampled(pull, key, 2) * t * 100), np.asarray(sampled(shear, key, 3) * t * 100)


def sunned_share(key: str, foam: str, months: float) -> Array:
    """What so many months of sun leave of a method's strength, (S,). Fabric in cement shares the pull with it."""
    if key.startswith("cement"):
        cement = _left(_CEMENT_HALF_MONTHS, "cement", months)
        if key == "cement_gap":
            return cement
        fabric = families()["mesh_skin"].sun_half_months
        return 0.5 * (cement + (1.0 if fabric is None else _left(fabric, "mesh_skin", months)))
    family = _SUN.get(key, foam if key == "foam_living_hinge" else "")
    found = families().get(family)
    if found is None or found.sun_half_months is None:
        return np.ones_like(sampled(FREE_MM, "hinge/free"))
    return _left(found.sun_half_months, family, months)


def _left(half_months: Range, name: str, months: float) -> Array:
    return np.asarray(np.maximum(0.5 ** (months / sampled(half_months, "sun/" + name)), 0.05))


@cache
def _table() -> dict[str, tuple[str, ...]]:
    """Steps by sort of hinge, what a method's key begins with."""
    found: dict[str, tuple[str, ...]] = {}
    for row in table_rows("hinge_steps.csv", ()):
        found[row["sort"]] = (*found.get(row["sort"], ()), row["step"])
    return found


def steps(key: str, bevel_deg: float, gap_mm: float, line: str) -> list[str]:
    """The making of a hinge in order, with its own angle and gap."""
    sort = max((s for s in _table() if key.startswith(s)), key=len)
    first = [f"Cut both edges straight; bevel them by {bevel_deg:.0f}° in total, hinge line at the {line}",
             f"Dry fit with a card of {in_mm(max(gap_mm, 0.1), F1)} in the gap, ends taped"]  # fmt: skip
    return [*first, *_table()[sort]]
