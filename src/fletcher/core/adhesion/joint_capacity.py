"""A seam to be glued: what meets what, how it is loaded, and what an adhesive holds in it after so many minutes."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from fletcher.core.adhesion.adhesives import Adhesive, Between, adhesives, between, curings, foam_families
from fletcher.core.adhesion.bond_line import EVEN, efficiency, pair_of, torn
from fletcher.core.adhesion.curing import cured, film, sampled, sets_at_once
from fletcher.core.adhesion.curing import joint as glue_joint
from fletcher.core.common.arrays import Array
from fletcher.core.common.quantities import F0, in_mm
from fletcher.core.document.cases import Document, Key
from fletcher.core.document.joint import Technique
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.materials.materials import Catalogue, Range
from fletcher.core.materials.uncertainty import draw_foam, drawn

HARD = ("wood", "composite", "plastic", "film", "metal", "slick")
"""What foam is glued to besides foam; "slick" is nylon and polyethylene."""


class GlueNeed(Document):
    """A joint to be glued: what meets what (a foam's key, or wood, composite, plastic, film, metal, slick), how it is
    loaded, its face, and what is asked of it. A load across the seam acts at `arm_mm`; peel along its width."""

    one: Key = "epp_30"
    other: Key = "epp_30"
    loaded: Literal["pull", "shear", "peel", "bend"] = "shear"
    area_cm2: Annotated[float, Field(ge=0.05, le=10_000)] = 20.0
    width_mm: Annotated[float, Field(ge=1, le=1000, description="Narrower side of the face")] = 30.0
    gap_mm: Annotated[float, Field(ge=0, le=10)] = 0.1
    hold_N: Annotated[float, Field(ge=0, le=20_000)] = 20.0
    arm_mm: Annotated[float, Field(ge=0, le=2000)] = 50.0
    within_min: Annotated[float, Field(ge=0.5, le=20_160)] = 60.0
    workshop_C: Annotated[float, Field(ge=0, le=40)] = 20.0
    heat_C: Annotated[float, Field(ge=-20, le=90, description="Warmest in use, a parked car included")] = 45.0
    water: Literal["dry", "splash", "wet"] = "dry"
    flex_percent: Annotated[float, Field(ge=0, le=30)] = 1.0
    seen: bool = False
    sanded: bool = False
    bead_mm: Annotated[
        float | None, Field(ge=1, le=20_000, description="Length of a bead as wide as the face, in place of the area")
    ] = None
    technique: Annotated[Technique | None, Field(description="How it is put together; null: as holds best")] = None
    grams_matter: Annotated[Literal["little", "usual", "much"], Field(description="How much a gram counts")] = "usual"
    habit: Annotated[
        float, Field(ge=0.2, le=6, description="Glue that you use over the table's: weigh the tube before and after")
    ] = 1.0
    schools: Annotated[dict[Key, Literal["one", "other"]], Field(max_length=20, default_factory=dict)]


@dataclass(frozen=True)
class Seam:
    """A need made ready: pair, families of its foams, what tears beside the glue (S,), N over its face."""

    need: GlueNeed
    pair: str
    families: tuple[str, ...]
    sealed: bool
    bed_MPa: Array | None
    asked_N: float
    face: float
    """By what a stress becomes newtons: mm², or for bending the section modulus over the arm."""


def refuse(field: str, message: str, value: str) -> InvalidDocument:
    """A need that cannot be, by its field."""
    return InvalidDocument([Problem(path=field, message=message, value=value)])


def seam_of(need: GlueNeed, catalogue: Catalogue) -> Seam:
    """A need made ready; InvalidDocument if a material is unknown or nothing is known about the pair."""
    if need.bead_mm is not None:
        need = need.model_copy(update={"area_cm2": need.bead_mm * need.width_mm / 100})
    sides = {"one": need.one, "other": need.other}
    foams = [k for k in sides.values() if k in catalogue.foams]
    for name, key in sides.items():
        if key not in catalogue.foams and key not in HARD:
            raise refuse(name, f"is neither a foam in the stockroom nor one of {', '.join(HARD)}", repr(key))
        if key in catalogue.foams and key not in foam_families():
            raise refuse(name, "is a foam on which no adhesive is known here", catalogue.foams[key].name)
    hard = [k for k in sides.values() if k in HARD]
    pair = pair_of(*("foam" if k in foams else k for k in sides.values()))
    if pair is None:
        raise refuse("other", "is a pair on which nothing is known here: one side must be foam, wood or composite",
                      f"{need.one} and {need.other}")  # fmt: skip
    area = need.area_cm2 * 100
    if need.width_mm**2 > area * 25:
        raise refuse("width_mm", f"is too wide for {need.area_cm2:g} cm²: at most {in_mm(5 * math.sqrt(area), F0)}",
                      f"{need.width_mm:g}")  # fmt: skip
    face = area * EVEN[need.loaded]
    if need.loaded == "bend":
        face = area * need.width_mm / 6 / max(need.arm_mm, 1.0)
    bed = None
    if foams:
        drawn = [draw_foam(catalogue.foams[k]) for k in foams]
        if need.loaded == "peel":  # what a tear that runs along the seam costs, N over the width
            bed = np.min([torn(catalogue.foams[k]) for k in foams], axis=0)
        else:
            bed = np.min([d.shear if need.loaded == "shear" else d.tensile for d in drawn], axis=0)
    if need.loaded == "peel":
        face = need.width_mm
    closed = len(foams) == 2 or (len(foams) == 1 and hard[0] not in ("wood", "film"))
    families = tuple(dict.fromkeys(foam_families()[k] for k in foams))
    return Seam(need, pair, families, closed, bed, need.hold_N, face)


@dataclass(frozen=True)
class Capacity:
    """What an adhesive holds in a seam at some minutes after closing: `held` (S, t) N; stresses (S,) of the cured film
    and of what lies beside it; `share` (S, t) of its own strength."""

    held: Array
    film: Array
    bed: Array
    share: Array
    at_once: bool

    def foam_first(self, locus: float) -> Array:
        """How often the foam breaks before the film, (t,): by the draws, and by where well-made seams part."""
        line = film(self.share, self.film, self.bed, self.at_once)
        return np.asarray(locus * np.mean(line > self.bed[:, None], axis=0))


@lru_cache(maxsize=1024)
def _own(key: str, peel: bool, pair: str, families: tuple[str, ...], _: int) -> tuple[Array, Array | None]:
    """What a cured film holds, (S,) MPa or in peel N/mm, and the share of the foam's strength that the pair reaches
    (None between hard things, whose joints have a strength of their own); kept, as a chooser asks again and again."""
    a, row = adhesives()[key], between().get((key, pair)) or NO_ROW
    if row.shear_MPa is not None and not peel:
        return sampled(row.shear_MPa, "glue/" + key), None
    glue = sampled(a.peel_N_25mm, "glue/" + key, 1) / 25 if peel else sampled(a.shear_MPa, "glue/" + key)
    return glue, efficiency(a, pair, families, row)


def capacity(a: Adhesive, j: Seam, technique: str, minutes: Array) -> Capacity:
    """What an adhesive holds in a seam, put on in one way, at the minutes (t,)."""
    glue, eta = _own(a.key, j.need.loaded == "peel", j.pair, j.families, drawn())
    bed = glue if j.bed_MPa is None or eta is None else j.bed_MPa * eta
    over = max(j.need.gap_mm - a.gap_mm.typ, 0.0) / max(a.gap_mm.typ, 0.05)
    glue = glue / (1 + over)  # a thick line is a weak one
    width = j.need.width_mm if j.sealed else None
    share = cured(a, curings()[a.key], minutes, j.need.workshop_C, width, technique)
    once = sets_at_once(a, technique)
    return Capacity(glue_joint(share, glue, bed, once) * j.face, glue, bed, share, once)


NO_ROW = Between(0, None, Range(0.05, 0.1, 0.2), "", "no row", "C")
"""What is taken for a pair on which an adhesive has no row: it does not hold."""
