r"""A glue line in a part: what its film and what lies beside it hold in pull, shear and peel, so long after gluing, and
over what length a lap hands its force on.

A lap hands on its force near its ends, over about 1/λ, λ² = (1/E₁t₁ + 1/E₂t₂)/c with c = t_a/G_a + t₁/3G₁ + t₂/3G₂
(Volkersen 1938; adherend shear after Tsai, Oplinger & Morton 1998). Brittle foam gives at the peak: the length that
counts is (2/λ) tanh(λℓ/2). Foam that yields evens it out: ℓ up to 4/λ [J].
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np

from fletcher.core.adhesion.adhesives import (
    TIMES_MIN,
    Adhesive,
    Between,
    adhesives,
    between,
    curings,
    foam_families,
    on_foams,
)
from fletcher.core.adhesion.curing import cured, film, sampled, sets_at_once, techniques
from fletcher.core.common.arrays import Array
from fletcher.core.document.joint import Glued
from fletcher.core.materials.materials import Foam, Range
from fletcher.core.materials.tables import table_rows
from fletcher.core.materials.uncertainty import FoamDraw

_WITH_FOAM = {
    "foam": "foam_foam", "wood": "foam_wood", "composite": "foam_composite", "plastic": "foam_rigid_plastic",
    "film": "foam_film_tape", "metal": "metal_foam", "slick": "nylon_hdpe_foam",
}  # fmt: skip
_HARD = {
    frozenset({"wood"}): "wood_wood",
    frozenset({"wood", "composite"}): "wood_composite",
    frozenset({"composite"}): "composite_composite",
    frozenset({"metal", "wood"}): "metal_wood",
    frozenset({"plastic", "wood"}): "plastic_wood",
    frozenset({"plastic"}): "plastic_plastic",
    frozenset({"plastic", "composite"}): "plastic_composite",
    frozenset({"metal", "composite"}): "metal_composite",
    frozenset({"metal"}): "metal_metal",
}
_SORTS = {
    "wood": "wood hardwood bamboo balsa plywood board paper_skin",
    "composite": "carbon_pultruded carbon_rollwrapped carbon_tow glass_pultruded glass_laminate carbon_laminate "
    "glass_cloth carbon_cloth carbon_ud aramid_cloth laminate",
    "metal": "aluminium steel_wire",
    "slick": "twin_wall HDPE nylon",
    "film": "tape hot_iron_film covering_film mesh_skin coat guard",
    "foam": "moulded",
}
SORT = {family: sort for sort, families in _SORTS.items() for family in families.split()}
"""What sort of thing a family of material is to a glue."""

FILM_G_MPa = {
    "rigid": Range(200, 500, 1200), "waterborne": Range(80, 200, 500), "thermoplastic": Range(8, 25, 60),
    "polyurethane": Range(5, 20, 80), "rubbery": Range(0.3, 0.8, 3), "contact": Range(0.3, 0.8, 3),
    "tape": Range(0.05, 0.2, 0.6),
}  # fmt: skip
"""[J] Shear modulus of a film, by the kind of adhesive."""

EVEN = {"pull": 0.6, "shear": 0.7, "peel": 1.0, "bend": 1.0}
"""[J] Mean over largest stress of a small joint, by how it is loaded."""

CURED_MIN = TIMES_MIN[-1]
"""A week: what is meant by cured."""

YIELDS_OVER = 4.0
"""[J] Length over 1/λ along which foam that yields evens the shear of a lap out."""


def pair_of(one: str, other: str) -> str | None:
    """The pair of two sorts ("foam", "wood", …) as the table of pairs names it; None where nothing is known."""
    sorts = [one, other]
    if "foam" in sorts:
        sorts.remove("foam")
        return _WITH_FOAM[sorts[0]]
    return _HARD.get(frozenset(sorts))


def efficiency(a: Adhesive, pair: str, families: tuple[str, ...], row: Between) -> Array:
    """Share of the foam's strength (S,) that a joint reaches: the least of what pair and foams allow."""
    foams = (on_foams()[a.key, f].efficiency for f in families)
    ranges = [r for r in (row.efficiency, *foams) if r is not None]
    return np.asarray(np.min([sampled(r, f"glue/{a.key}/{pair}") for r in ranges], axis=0))


@dataclass(frozen=True)
class GlueLine:
    """What a glue line holds, (S,): its film and the foam (or harder thing) beside it, in pull and shear (MPa) and in
    peel (N/mm); compliance of the film in shear, mm/MPa; grams per mm² of it."""

    film_pull: Array
    film_shear: Array
    film_peel: Array
    bed_pull: Array
    bed_shear: Array
    bed_peel: Array
    gives: Array
    grams_mm2: Array
    brittle: bool

    def pulled(self) -> Array:
        """The lesser in pull, MPa."""
        return np.minimum(self.film_pull, self.bed_pull)

    def sheared(self) -> Array:
        """The lesser in shear, MPa."""
        return np.minimum(self.film_shear, self.bed_shear)


def glue_line(glue: Glued, foam: Foam, draw: FoamDraw, sort: str, width_mm: float, minutes: float | None) -> GlueLine:
    """A glue line between a foam and a sort of thing, `width_mm` on its narrower side, `minutes` after it was closed
    (None: cured)."""
    return glue_lines(glue, foam, draw, sort, width_mm, (minutes,))[0]


def glue_lines(
    glue: Glued, foam: Foam, draw: FoamDraw, sort: str, width_mm: float, minutes: Sequence[float | None]
) -> list[GlueLine]:
    """The same at several times."""
    a = adhesives()[glue.adhesive]
    known = list(techniques(a))
    technique = glue.technique if glue.technique in known else known[0]
    families: tuple[str, ...] = ()
    if foam.family == "balsa":
        pair = pair_of("wood", sort if sort != "foam" else "wood")
    else:
        pair = pair_of("foam", sort)
        families = tuple(foam_families()[k] for k in (foam.key,) if k in foam_families())
    row = between().get((a.key, pair or "")) or Between(0, None, Range(0.05, 0.1, 0.2), "", "no row", "C")
    key = "glue/" + a.key
    own, peel = sampled(a.shear_MPa, key), sampled(a.peel_N_25mm, key, 1) / 25
    if row.shear_MPa is not None:
        own = sampled(row.shear_MPa, key)
        eta = np.ones_like(own)
    else:
        eta = efficiency(a, pair or "", families, row)
    beds = [eta * draw.tensile, eta * draw.shear, eta * torn(foam.family)]
    sealed = sort not in ("wood", "film") and foam.family != "balsa"
    times = np.array([m or CURED_MIN for m in minutes])
    share = cured(a, curings()[a.key], times, 20.0, width_mm if sealed else None, technique)
    once = sets_at_once(a, technique)
    pull, shear, peels = (film(share, own if n < 2 else peel, bed, once) for n, bed in enumerate(beds))
    spread = sampled(a.spread_g_m2, f"glue/grams/{a.key}") * sampled(a.solids, f"glue/grams/{a.key}", 1)
    modulus = sampled(FILM_G_MPa.get(a.kind, FILM_G_MPa["rigid"]), key, 2)
    if a.key.startswith("pu_"):
        modulus = sampled(FILM_G_MPa["polyurethane"], key, 2)
    gives, grams = sampled(a.line_mm, key, 3) / modulus, spread * 1e-6
    return [
        GlueLine(
            pull[:, t],
            shear[:, t],
            peels[:, t],
            beds[0],
            beds[1],
            beds[2],
            gives=gives,
            grams_mm2=grams,
            brittle=foam.brittle,
        )
        for t in range(len(times))
    ]


def hardened(key: str, minutes: float | None) -> Array:
    """Share (S,) of its strength that an adhesive in the open holds so long after it was closed (None: cured)."""
    a = adhesives()[key]
    return cured(a, curings()[a.key], np.array([minutes or CURED_MIN]), 20.0, None, "plain")[:, 0]


def pressed_on(minutes: float | None) -> Array:
    """Share (S,) of its shear that the adhesive of a tape holds so long after it was rubbed down (None: a week)."""
    return hardened("tape_transfer", minutes)


@cache
def tear_table() -> dict[str, Range]:
    """What tearing a family of foam costs, J/m² (N/m)."""
    return {row["family"]: row["tear_J_m2"] for row in table_rows("tears.csv", ("tear_J_m2",))}


def torn(family: str) -> Array:
    """What it costs to tear along a family of foam, or the face of a sheet, (S,) N/mm."""
    return sampled(tear_table().get(family, Range(200, 500, 1200)), "glue/tear") * 1e-3


def decay(stiff: tuple[Array, Array], gives: Array) -> Array:
    """λ (S,), 1/mm, of a lap between stiffnesses E t (N/mm) over what gives in shear, c in mm/MPa."""
    one, other = stiff
    return np.asarray(np.sqrt((1 / one + 1 / other) / gives))


def counts(length: float, rate: Array, brittle: bool) -> Array:
    """How much of a lap's length hands force on, (S,) mm; see the module."""
    if brittle:
        return np.asarray(2 / rate * np.tanh(rate * length / 2))
    return np.minimum(length, YIELDS_OVER / rate)
