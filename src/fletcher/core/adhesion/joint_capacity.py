"""A seam to be glued: what meets what, how it is loaded, and what an adhesive holds in it after so many minutes."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from fletcher.core.adhesion.adhesives import (
    SHEET_FACES,
    Adhesive,
    Between,
    adhesives,
    curings,
    foam_families,
    joining,
    on_foams,
)
from fletcher.core.adhesion.bond_line import EVEN, SORT, efficiency, pair_of, torn
from fletcher.core.adhesion.curing import cured, film, sampled, sets_at_once
from fletcher.core.adhesion.curing import joint as glue_joint
from fletcher.core.common.arrays import Array
from fletcher.core.common.model import Result
from fletcher.core.common.quantities import F0, in_mm
from fletcher.core.document.cases import Document, Key
from fletcher.core.document.joint import Technique
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.materials.materials import Catalogue, Foam, Range, Sheet
from fletcher.core.materials.uncertainty import draw_foam, drawn

HARD = {
    "wood": "Wood or ply", "composite": "Carbon or glass laminate", "plastic": "Rigid plastic", "film": "Film or tape",
    "metal": "Metal", "slick": "Nylon or polyethylene",
}  # fmt: skip
"""What is glued besides foams and sheets that have a face of their own: by its key, in words."""


class GluedSide(Result):
    """What can be one side of a joint."""

    key: str
    name: str
    group: Literal["Foam", "Sheet", "Other"]


class GlueNeed(Document):
    """A joint to be glued: what meets what (the key of a foam or sheet, or wood, composite, plastic, film, metal,
    slick), how it is loaded, its face, and what is asked of it `within_min` of taking up the tube. A load across the
    seam acts at `arm_mm`; peel along its width."""

    one: Key = "epp_30"
    other: Key = "epp_30"
    loaded: Literal["pull", "shear", "peel", "bend"] = "shear"
    area_cm2: Annotated[float, Field(ge=0.05, le=10_000)] = 20.0
    width_mm: Annotated[float, Field(ge=1, le=1000, description="Joint width (the narrower side)")] = 30.0
    gap_mm: Annotated[float, Field(ge=0, le=10)] = 0.1
    hold_N: Annotated[float, Field(ge=0, le=20_000)] = 20.0
    steady_N: Annotated[float, Field(ge=0, le=20_000, description="Of that, load that stays on for weeks")] = 0.0
    arm_mm: Annotated[float, Field(ge=0, le=2000)] = 50.0
    within_min: Annotated[float, Field(ge=0.5, le=20_160)] = 60.0
    workshop_C: Annotated[float, Field(ge=0, le=40)] = 20.0
    heat_C: Annotated[float, Field(ge=-20, le=90, description="Highest temperature in use, including a parked car")] = (
        45.0
    )
    water: Literal["dry", "splash", "wet"] = "dry"
    flex_percent: Annotated[float, Field(ge=0, le=30)] = 1.0
    seen: bool = False
    sanded: bool = False
    bead_mm: Annotated[float | None, Field(ge=1, le=20_000, description="Bead length, instead of an area")] = None
    technique: Annotated[Technique | None, Field(description="Application; null: strongest way")] = None
    grams_matter: Annotated[Literal["little", "usual", "much"], Field(description="Importance of mass")] = "usual"
    habit: Annotated[
        float,
        Field(ge=0.2, le=6, description="Your glue use relative to the table: weigh the tube before and after gluing"),
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
    tears: str
    """What happens where the material beside the glue gives before it."""
    face: float
    """By what a stress becomes newtons: mm², or for bending the section modulus over the arm."""


def refuse(field: str, message: str, value: str) -> InvalidDocument:
    """A need that cannot be, by its field."""
    return InvalidDocument([Problem(path=field, message=message, value=value)])


def seam_of(need: GlueNeed, catalogue: Catalogue) -> Seam:
    """A need made ready; InvalidDocument if a material is unknown or nothing is known about the pair."""
    if need.bead_mm is not None:
        need = need.model_copy(update={"area_cm2": need.bead_mm * need.width_mm / 100})
    one, other = (_side(name, key, catalogue) for name, key in (("one", need.one), ("other", need.other)))
    pair = pair_of(one.sort, other.sort)
    if pair is None:
        raise refuse("other", "is a pair on which nothing is known here: take a foam, wood or composite for one side",
                      f"{need.one} and {need.other}")  # fmt: skip
    area = need.area_cm2 * 100
    if need.width_mm**2 > area * 25:
        raise refuse("width_mm", f"is too wide for {need.area_cm2:g} cm²: at most {in_mm(5 * math.sqrt(area), F0)}",
                      f"{need.width_mm:g}")  # fmt: skip
    face = area * EVEN[need.loaded]
    if need.loaded == "bend":
        face = area * need.width_mm / 6 / max(need.arm_mm, 1.0)
    elif need.loaded == "peel":
        face = need.width_mm
    beds = [(bed, s.tears) for s in (one, other) if (bed := s.bed(need.loaded)) is not None]
    least = min(beds, key=lambda b: float(b[0][0]))[1] if beds else ""
    families = tuple(dict.fromkeys(s.family for s in (one, other) if s.family))
    sealed = bool(families) and not (one.breathes or other.breathes)
    bed = np.min([b for b, _ in beds], axis=0) if beds else None
    return Seam(need, pair, families, sealed, bed, need.hold_N, least, face)


@dataclass(frozen=True)
class _Side:
    """What a glue meets: its sort, its family where it is a foam or the face of a board or twin-wall sheet."""

    sort: str
    family: str = ""
    made_of: Foam | Sheet | None = None

    @property
    def breathes(self) -> bool:
        """Whether water and solvent leave through it."""
        return self.sort in ("wood", "film") or self.family == "PFB_PAPER"

    @property
    def tears(self) -> str:
        """What happens where it gives before the glue."""
        own = {"PFB_PAPER": "the paper tears off", "FLUTED_PP": "the glue comes off the plastic"}
        return own.get(self.family, "foam tears" if self.family else f"the {self.sort} tears")

    def bed(self, loaded: str) -> Array | None:
        """What tears beside the glue, (S,): MPa, or in peel what a tear that runs along the seam costs, N per mm of
        width. None for hard things of which no more is known."""
        if not self.family and (self.made_of is None or loaded == "peel"):
            return None
        if loaded == "peel":
            return torn(self.made_of.family if isinstance(self.made_of, Foam) else self.family)
        if isinstance(self.made_of, Foam):
            draw = draw_foam(self.made_of)
            return draw.shear if loaded == "shear" else draw.tensile
        if self.made_of is not None:
            own = self.made_of.shear_MPa if loaded == "shear" else self.made_of.tensile_across_MPa
            return sampled(own, f"{self.made_of.key}/{loaded}")
        face = next(on.strength_MPa for (_, family), on in on_foams().items() if family == self.family)
        assert face is not None
        return sampled(face, "glue/face/" + self.family)


def glued_sides(catalogue: Catalogue) -> list[GluedSide]:
    """Everything that can be one side of a joint: foams, sheets that are glued like nothing else, and hard things."""
    foams = [f for f in catalogue.foams.values() if f.key in foam_families() or f.family == "balsa"]
    sheets = [s for s in catalogue.sheets.values() if _side("one", s.key, catalogue).family]
    return [
        *(GluedSide(key=f.key, name=f.name, group="Foam") for f in foams),
        *(GluedSide(key=s.key, name=s.name, group="Sheet") for s in sheets),
        *(GluedSide(key=key, name=name, group="Other") for key, name in HARD.items()),
    ]


def _side(name: str, key: str, catalogue: Catalogue) -> _Side:
    """One side of a joint by its key; InvalidDocument where it is unknown."""
    foam, sheet = catalogue.foams.get(key), catalogue.sheets.get(key)
    if key in HARD:
        return _Side(key)
    if foam is not None and foam.family == "balsa":
        return _Side("wood", made_of=foam)
    if foam is not None:
        if key not in foam_families():
            raise refuse(name, "has no adhesive data yet", foam.name)
        return _Side("foam", foam_families()[key], foam)
    if sheet is None:
        raise refuse(name, f"is neither foam nor sheet in the Stockroom nor one of {', '.join(HARD)}", repr(key))
    if sheet.family in SHEET_FACES:
        return _Side("foam", SHEET_FACES[sheet.family])
    core = catalogue.foams.get(sheet.core or "")
    if SORT.get(sheet.family) == "foam" and core is not None:  # a moulded shell is its foam
        return _Side("foam", foam_families()[core.key], core)
    if sheet.family in foam_families().values():
        return _Side("foam", sheet.family, sheet)
    return _Side(SORT.get(sheet.family, "plastic"), made_of=sheet)


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
    a, row = adhesives()[key], joining(key, pair, families) or NO_ROW
    if row.shear_MPa is not None and not peel:
        return sampled(row.shear_MPa, "glue/" + key), None
    glue = sampled(a.peel_N_25mm, "glue/" + key, 1) / 25 if peel else sampled(a.shear_MPa, "glue/" + key)
    return glue, efficiency(a, pair, families, row)


def capacity(a: Adhesive, j: Seam, technique: str, minutes: Array) -> Capacity:
    """What an adhesive holds in a seam, put on in one way, at the minutes (t,)."""
    glue, eta = _own(a.key, j.need.loaded == "peel", j.pair, j.families, drawn())
    bed = glue if j.bed_MPa is None else j.bed_MPa if eta is None else j.bed_MPa * eta
    over = max(j.need.gap_mm - a.gap_mm.typ, 0.0) / max(a.gap_mm.typ, 0.05)
    glue = glue / (1 + over)  # a thick line is a weak one
    width = j.need.width_mm if j.sealed else None
    share = cured(a, curings()[a.key], minutes, j.need.workshop_C, width, technique)
    once = sets_at_once(a, technique)
    return Capacity(glue_joint(share, glue, bed, once) * j.face, glue, bed, share, once)


NO_ROW = Between(0, None, Range(0.05, 0.1, 0.2), "", "no row", "C")
"""What is taken for a pair on which an adhesive has no row: it does not hold."""
