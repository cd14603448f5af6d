"""Toughening a place that breaks again: cord in the edges, a guard sheet, rounded corners, tape along the part, a root
that lets go first; each with what it adds to what the part holds in the crash, and its grams. By trials."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.common.model import Result
from fletcher.core.common.quantities import G, in_mm
from fletcher.core.document.airframe import (
    Airframe,
    BandsRoot,
    CordLayer,
    CutLayer,
    FilmLayer,
    Layer,
    Part,
    StripLayer,
)
from fletcher.core.estimate.analyse import under_all
from fletcher.core.estimate.prepare import prepared_for
from fletcher.core.estimate.verdicts import verdict_of
from fletcher.core.materials.uncertainty import Band, Inputs, band
from fletcher.core.repair.damage_model import chord_at
from fletcher.core.repair.inspection import Crash, crash_case
from fletcher.core.section.assembly import line_span
from fletcher.core.studies.what_if import possible

LEAST = 1.03
"""What holds less than so many times what it held is not proposed."""
GUARDED_MM = 120.0
CORD = "aramid_thread_0.5"
GUARD = "guard_ply_0.4"


class Toughening(Result):
    """A change that hardens a place: the part with it, what the crash then takes over what it took, and grams."""

    says: str
    part: Part
    holds: Band
    before: Band
    depth_mm: Band | None
    """How deep the edge is cut with it, and before; None where nothing strikes an edge."""
    depth_before_mm: Band | None
    through_before: bool
    """Whether it was cut right through before: no cut is deeper than the chord."""
    more_g: Band


def _tries(part: Part, at: float) -> Iterator[tuple[str, Part]]:
    taken = {la.id for la in part.layers}
    own = next(f"tough-{n}" for n in range(1, 99) if f"tough-{n}" not in taken)
    start, end = max(at - GUARDED_MM / 2, 0.0), min(at + GUARDED_MM / 2, part.span_mm)
    first, last = round(start, 1), None if end >= part.span_mm - 1 else round(end, 1)

    def add(*layers: Layer) -> Part:
        return part.model_copy(update={"layers": (*part.layers, *layers)})

    if part.foam is not None and part.kind != "fuselage":
        yield "recess a cord into both edges", add(CordLayer(id=own, name="Edge cord", cord=CORD))
        guard = StripLayer(
            id=own, name="Guard sheet", skin=GUARD, start_mm=first, end_mm=last, root_percent=9.0, tip_percent=9.0,
            width_mm=round(0.14 * part.tip_chord_mm, 1),
        )  # fmt: skip
        yield "add a guard sheet over the leading edge there", add(guard)
    tape = StripLayer(id=own, name="Fibre tape", skin="filament_tape_uni", width_mm=25, root_percent=40,
                      tip_percent=40, shrink_percent=0.0)  # fmt: skip
    yield "add fibre tape along both faces", add(tape)
    cloth = FilmLayer(id=own, name="Cloth", skin="glass_49", face="both", shrink_percent=0.0, start_mm=first,
                      end_mm=last)  # fmt: skip
    yield "add glass cloth on both faces there", add(cloth)
    sharp = [
        la for la in part.layers
        if isinstance(la, CutLayer) and la.corner_radius_mm < 6 and line_span(la, part)[0] - 60 < at
        and at < line_span(la, part)[1] + 60
    ]  # fmt: skip
    if sharp:
        ids = {la.id for la in sharp}
        layers = tuple(la.model_copy(update={"corner_radius_mm": 6.0}) if la.id in ids else la for la in part.layers)
        yield f"inner corners rounded to {in_mm(6, G)}", part.model_copy(update={"layers": layers})
    if part.kind == "wing" and part.root.kind == "held":
        bands = part.model_copy(update={"root": BandsRoot()})
        yield "hold the root with rubber bands instead of a fixed joint, so that it releases first", bands


def toughenings(airframe: Airframe, part: Part, crash: Crash) -> list[Toughening]:
    """Changes that let a checked part take more of a crash at its place, what helps most first; those that do not help
    are not told."""
    case = crash_case(airframe, part, crash)
    whole = part.model_copy(update={"damage": (), "cases": (*part.cases[:11], case)})
    at = crash.at_mm if crash.at_mm is not None else 0.5 * part.span_mm
    before = _holds(airframe, whole)
    out: list[tuple[float, Toughening]] = []
    for says, changed in _tries(whole, min(at, part.span_mm)):
        if not possible(changed):
            continue
        now = _holds(airframe, changed)
        helps = now[0].typ / max(before[0].typ, 1e-9)
        if now[2] is not None and before[2] is not None:
            helps = max(helps, before[2].typ / max(now[2].typ, 1e-9))
        worse = now[0].typ < min(0.98 * before[0].typ, 1.0)  # a shallower cut that folds the part at its root instead
        if helps < LEAST or worse:
            continue
        one = (
            Toughening(
                says=says, part=changed.model_copy(update={"damage": part.damage, "cases": part.cases}), holds=now[0],
                before=before[0], depth_mm=now[2], depth_before_mm=before[2],
                through_before=before[2] is not None and before[2].typ >= chord_at(whole, at) - 1e-6,
                more_g=band(now[1] - before[1], Inputs([])),
            )
        )  # fmt: skip
        out.append((helps, one))
    return [t for _, t in sorted(out, key=lambda pair: -pair[0])]


def _holds(airframe: Airframe, part: Part) -> tuple[Band, Array, Band | None]:
    """Break load over the crash's load, grams, and the depth of the cut where an edge is struck."""
    p = prepared_for(part, airframe.setting)
    (a,) = under_all(p, airframe, part, [part.cases[-1]])
    at = p.mesh.y[-1] if a.loading.at_mm is None else a.loading.at_mm
    depth = None if a.loading.depth is None else band(np.minimum(a.loading.depth, chord_at(part, float(at))), p.inputs)
    return verdict_of(a).breaks_at, p.grams.sum(0), depth
