"""A table of one's own glues on one's own pairs: what each holds a square centimetre after so many minutes."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field

from fletcher.core.adhesion.adhesives import SUITS_FROM, TIMES_MIN, adhesives, joining
from fletcher.core.adhesion.curing import techniques
from fletcher.core.adhesion.joint_capacity import GlueNeed, Seam, glued_sides, refuse, seam_of
from fletcher.core.adhesion.readiness import ready_after
from fletcher.core.adhesion.selection import closed_after, put_on, ruled_out, test_first
from fletcher.core.common.model import Result
from fletcher.core.document.cases import Document, Key
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.materials.materials import Catalogue
from fletcher.core.materials.uncertainty import Band, Inputs, band

AREA_CM2 = 10.0
"""Face that the table is made for; it is told for one square centimetre of it."""


class GluePair(Document):
    """What meets what."""

    one: Key = "epp_30"
    other: Key = "epp_30"


class TableWish(Document):
    """Which glues, on which pairs, after how many minutes from taking up the tube, and under what conditions."""

    glues: Annotated[tuple[Key, ...], Field(min_length=1, max_length=12)]
    pairs: Annotated[tuple[GluePair, ...], Field(min_length=1, max_length=8)]
    minutes: Annotated[tuple[Annotated[float, Field(ge=1, le=20_160)], ...], Field(min_length=1, max_length=4)] = (
        10.0, 60.0, 1440.0,
    )  # fmt: skip
    loaded: Literal["pull", "shear"] = "shear"
    width_mm: Annotated[float, Field(ge=5, le=150, description="Joint width (the narrower side)")] = 20.0
    workshop_C: Annotated[float, Field(ge=0, le=40)] = 20.0
    heat_C: Annotated[float, Field(ge=-20, le=90, description="Highest temperature in use, including a parked car")] = (
        45.0
    )


class TableCell(Result):
    """One glue on one pair. `holds_N` is for a square centimetre after each of the minutes asked; the times count from
    taking up the tube, airing included; None where it never comes."""

    state: Literal["good", "poor", "try_first", "no"]
    says: str
    technique: str
    holds_N: list[Band]
    fails: str
    fixed_min: float | None
    loaded_min: float | None


class TableRow(Result):
    """One glue and its cells, in the order of the pairs."""

    key: str
    name: str
    cells: list[TableCell]


class GlueTable(Result):
    """Rows in the order of the glues; what the pairs are called, and which glue of them holds most on each pair at the
    last of the minutes (None where none may be used)."""

    pairs: list[str]
    minutes: list[float]
    rows: list[TableRow]
    best: list[str | None]


def glue_table(wish: TableWish, catalogue: Catalogue) -> GlueTable:
    """The table of some glues on some pairs.

    Raises
    ------
    InvalidDocument
        If a glue or a material is unknown, or nothing is known of a pair.
    """
    for n, key in enumerate(wish.glues):
        if key not in adhesives():
            raise refuse(f"glues[{n}]", "is not an adhesive in the Stockroom", repr(key))
    wish = wish.model_copy(update={"glues": tuple(dict.fromkeys(wish.glues))})
    names = {s.key: s.name for s in catalogue.sheets.values()} | {s.key: s.name for s in glued_sides(catalogue)}
    seams = [_seam(wish, n, catalogue) for n in range(len(wish.pairs))]
    rows = [
        TableRow(key=key, name=adhesives()[key].name, cells=[_cell(key, j, wish) for j in seams]) for key in wish.glues
    ]
    best = []
    for n in range(len(seams)):
        usable = [r for r in rows if r.cells[n].state == "good"]
        first = max(usable, key=lambda r: r.cells[n].holds_N[-1].typ, default=None)
        best.append(None if first is None else first.key)
    told = [
        f"{names[p.one]}, to itself" if p.one == p.other else f"{names[p.one]} to {names[p.other]}" for p in wish.pairs
    ]
    return GlueTable(pairs=told, minutes=list(wish.minutes), rows=rows, best=best)


def _seam(wish: TableWish, n: int, catalogue: Catalogue) -> Seam:
    pair = wish.pairs[n]
    need = GlueNeed(
        one=pair.one, other=pair.other, loaded=wish.loaded, area_cm2=AREA_CM2, width_mm=wish.width_mm, hold_N=0.0,
        within_min=max(wish.minutes), workshop_C=wish.workshop_C, heat_C=wish.heat_C,
        gap_mm=0.0, schools={},
    )  # fmt: skip
    try:
        return seam_of(need, catalogue)
    except InvalidDocument as refused:
        raise InvalidDocument(
            [p.model_copy(update={"path": f"pairs[{n}].{p.path}"}) for p in refused.problems]
        ) from refused


def _cell(key: str, j: Seam, wish: TableWish) -> TableCell:
    a, row = adhesives()[key], joining(key, j.pair, j.families)
    technique, put, _ = put_on(a, j, wish.minutes)
    asked = put.held[:, len(TIMES_MIN) :] / AREA_CM2
    vetoes = ruled_out(a, j, row, float(put.share[0, len(TIMES_MIN) - 1]))
    doubt = "" if vetoes else test_first(a, j)
    foam_first = j.bed_MPa is not None and float(put.bed[0]) < float(put.film[0])
    before = closed_after(a, j.need, technique)
    sealed = wish.width_mm if j.sealed else None
    fixed, loaded = (before + ready_after(key, state, wish.workshop_C, sealed) for state in ("fixed", "loaded"))
    return TableCell(
        state="no" if vetoes else "try_first" if doubt else "poor" if row is None or row.suits < SUITS_FROM else "good",
        says=vetoes[0] if vetoes else doubt or ("" if row is None else row.reason),
        technique=techniques(a)[technique],
        holds_N=[band(asked[:, t], Inputs([])) for t in range(asked.shape[1])],
        fails=f"{j.tears} first" if foam_first else "glue line fails first",
        fixed_min=None if math.isinf(fixed) else fixed,
        loaded_min=None if math.isinf(loaded) else loaded,
    )
