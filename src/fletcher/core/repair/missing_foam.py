"""Pieces that are missing or must be cut away, where foam for them may come from, and what the other half shows."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from fletcher.core.adhesion.adhesives import foam_families
from fletcher.core.document.airframe import Part
from fletcher.core.document.damage import CrushMark, MissingMark
from fletcher.core.materials.materials import Foam
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import Inputs, band, draw_foam
from fletcher.core.repair.damage_model import chord_at, thickness_at
from fletcher.core.repair.phrasing import place_of
from fletcher.core.repair.repair_lines import stretch_of
from fletcher.core.repair.schema import Gauge, LostPiece
from fletcher.core.section.assembly import outline_of
from fletcher.core.section.outline import faces

ALIKE = 0.2
"""Foams whose densities differ by no more than this share can stand for one another."""


def pieces_of(part: Part, scrap: Sequence[tuple[str, Part]] = ()) -> list[LostPiece]:
    """A piece for every mark whose foam is gone or crushed: its box, its grams of the same foam, and which parts of the
    builder's `scrap`, by name, it could be cut from: never one of an airframe that is to fly."""
    out = []
    foam = reference().foams.get(part.foam or "")
    if foam is None:
        return []
    for mark in part.damage:
        if not isinstance(mark, MissingMark | CrushMark):
            continue
        middle = 0.5 * (mark.start_mm + mark.end_mm)
        chord, thick = chord_at(part, middle), thickness_at(part, middle)
        front, rear = (v / 100 for v in stretch_of(mark, part, middle))
        x = np.linspace(front, rear, 41)
        low, high = faces(outline_of(part, reference()), x, np.full_like(x, chord), np.full_like(x, thick))
        deep = high - low
        if mark.face in ("upper", "lower"):
            deep = np.minimum(deep, mark.depth_mm)
        long, wide = mark.end_mm - mark.start_mm, (rear - front) * chord
        volume = float(np.mean(deep)) * long * wide
        out.append(
            LostPiece(
                mark_id=mark.id, size_mm=(long, wide, float(deep.max())), foam=foam.name,
                grams=band(draw_foam(foam).density * volume, Inputs([])), donors=_donors(foam, scrap),
            )
        )  # fmt: skip
    return out


def _donors(foam: Foam, scrap: Sequence[tuple[str, Part]]) -> list[str]:
    family, out = foam_families().get(foam.key), []
    for name, part in scrap:
        own = reference().foams.get(part.foam or "")
        if own is None or foam_families().get(own.key) != family:
            continue
        if abs(own.density_kg_m3.typ / foam.density_kg_m3.typ - 1) <= ALIKE + 1e-9:
            out.append(f"{name} ({'the same foam' if own.key == foam.key else own.name})")
    return out


def gauges_of(part: Part) -> list[Gauge]:
    """What the other half shows at every mark, mirrored: for templates and as a check of alignment."""
    if part.kind not in ("wing", "tail", "surface"):
        return []
    places = sorted({round(at) for at in map(place_of, part.damage) if at is not None})
    return [
        Gauge(
            at_mm=at, chord_mm=chord_at(part, at), thickness_mm=thickness_at(part, at),
            setback_mm=part.tip_setback_mm * at / part.span_mm,
        )
        for at in places
    ]  # fmt: skip
