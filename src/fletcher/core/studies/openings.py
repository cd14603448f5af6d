"""What every opening costs, and the smallest bridge or patch that gives it back: all by trials with typical values."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from fletcher.core.common.model import Result
from fletcher.core.common.quantities import F0, G2, in_g, in_mm
from fletcher.core.document.airframe import Airframe, CutLayer, FilmLayer, FittingLayer, Layer, Part, StripLayer
from fletcher.core.estimate import phrasing
from fletcher.core.estimate.prepare import Prepared, prepared_for
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import samples
from fletcher.core.section.assembly import fitting_span, line_span, pocket_size
from fletcher.core.studies.what_if import Trial, possible, trial, without

RESTORED = 0.97
"""Share of margin and of the stiffness in bending and twist that a patch must give back."""

LAPS_MM = (12.0, 25.0, 45.0)
"""How far patches run over an opening's edge, tried from the smallest on."""

PATCHES = ("bopp_tape_std", "filament_tape_bi", "lamfilm_75", "glass_49", "glass_80", "guard_ply_0.4")
"""Skins that are tried as patches, besides the one that was cut."""

NOTHING = 0.005
"""A loss below this share is none."""


class Losses(Result):
    """What is left of a figure over what it was without the opening: margin of the case that leaves least, stiffness in
    bending and twist in the case shown, and GJ and EI at the opening itself."""

    margin: float
    bend: float
    twist: float
    local_GJ: float
    local_EI: float


class Patch(Result):
    """A bridge over an opening: the line to add, what it weighs, and what it leaves of each figure."""

    layer: Layer
    name: str
    lap_mm: float
    grams: float
    left: Losses
    restores: bool


class Opening(Result):
    """An opening: what it costs, and the lightest patch that gives it back, or the best that was tried."""

    line_id: str
    name: str
    size_mm: tuple[float, float, float]
    """Along the part, along the chord, deep; a depth of 0 cuts skins only."""
    left: Losses
    costs: bool
    patch: Patch | None
    says: str


@dataclass(frozen=True)
class _Look:
    """A part tried: its trial and its preparation with typical values."""

    trial: Trial
    prepared: Prepared


def _look(airframe: Airframe, part: Part) -> _Look:
    found = trial(airframe, part)
    with samples(0):
        return _Look(found, prepared_for(part, airframe.setting))


def _left(whole: _Look, cut: _Look, case_id: str, at: tuple[float, float]) -> Losses:
    a, b = whole.trial.of(case_id), cut.trial.of(case_id)

    def kept(before: float, after: float) -> float:
        return 1.0 if max(before, after) < 1e-6 else min(before / max(after, 1e-9), 9.0)

    def local(look: _Look, values: np.ndarray) -> float:
        y = look.prepared.geometry.inside
        here = (y > at[0]) & (y < at[1])
        return float(values[0][here].min()) if np.any(here) else float(values[0].min())

    GJ = [local(x, x.prepared.fields.torsion) for x in (cut, whole)]
    EI = [local(x, x.prepared.sums.whole_EI) for x in (cut, whole)]
    return Losses(
        margin=cut.trial.governs.margin / whole.trial.governs.margin,
        bend=kept(a.bend_mm, b.bend_mm),
        twist=kept(max(a.twist_deg, 0.05), max(b.twist_deg, 0.05)),
        local_GJ=GJ[0] / GJ[1],
        local_EI=EI[0] / EI[1],
    )


def _size(layer: CutLayer | FittingLayer, part: Part) -> tuple[tuple[float, float], float | None, float]:
    """Span, width (None: the whole face) and depth of an opening."""
    if isinstance(layer, FittingLayer):
        width, depth = pocket_size(layer, reference())
        return fitting_span(layer, part, reference()), width, depth
    if part.foam is not None and max(layer.notch_mm) > 0:
        return line_span(layer, part), max(layer.notch_mm), max(layer.notch_mm)
    return line_span(layer, part), layer.width_mm, layer.depth_mm


def _worst(left: Losses) -> float:
    return min(left.margin, left.bend, left.twist)


def _patches(part: Part, layer: CutLayer | FittingLayer) -> Iterator[tuple[str, float, Layer]]:
    """Patches over an opening, by skin and lap."""
    (start, end), width, _ = _size(layer, part)
    face = layer.face if layer.face in ("upper", "lower") else "both"
    cut = [
        la.skin
        for la in part.layers
        if isinstance(la, FilmLayer | StripLayer)
        and la.enabled
        and isinstance(la.skin, str)
        and la.skin in reference().skins
    ]
    taken = {la.id for la in part.layers}
    own = next(f"patch-{n}" for n in range(1, 99) if f"patch-{n}" not in taken)
    for key in dict.fromkeys((*cut, *PATCHES)):
        for lap in LAPS_MM:
            a, b = max(0.0, start - lap), min(part.span_mm, end + lap)
            values = {"id": own, "name": "Patch", "skin": key, "face": face, "start_mm": round(a, 1),
                      "end_mm": None if b >= part.span_mm else round(b, 1), "shrink_percent": 0.0}  # fmt: skip
            if width is None:
                yield key, lap, FilmLayer.model_validate(values)
            else:
                strip = {**values, "width_mm": round(width + 2 * lap, 1), "root_percent": layer.root_percent,
                         "tip_percent": layer.tip_percent}  # fmt: skip
                yield key, lap, StripLayer.model_validate(strip)


def _patched(part: Part, layer: Layer) -> Part:
    return part.model_copy(update={"layers": (*part.layers, layer)})


def openings(airframe: Airframe, part: Part, case_id: str) -> list[Opening]:
    """Every opening of a checked part that is switched on, and the smallest patch that gives back what it costs."""
    out = []
    now = _look(airframe, part)
    for layer in part.layers:
        if not isinstance(layer, CutLayer | FittingLayer) or not layer.enabled or getattr(layer, "shapes", False):
            continue
        if isinstance(layer, FittingLayer) and not layer.pocket:
            continue
        closed = _closed(part, layer)
        if closed is None:
            continue
        span, width, depth = _size(layer, part)
        whole = _look(airframe, closed)
        left = _left(whole, now, case_id, span)
        costs = _worst(left) < 1 - NOTHING
        patch = None
        if _worst(left) < RESTORED and len(part.layers) < 24 and layer.face not in ("inside", "front", "rear"):
            patch = _smallest(airframe, part, layer, whole, now, case_id)
        chord = max(part.root_chord_mm, part.tip_chord_mm) if width is None else width
        out.append(
            Opening(
                line_id=layer.id,
                name=phrasing.line_label(now.prepared.elements, part.layers.index(layer)),
                size_mm=(span[1] - span[0], chord, depth),
                left=left,
                costs=costs,
                patch=patch,
                says=_says(left, patch, layer),
            )
        )
    return out


def _closed(part: Part, layer: CutLayer | FittingLayer) -> Part | None:
    """The part without this opening: a fitting stays, on the face."""
    if isinstance(layer, CutLayer):
        other = without(part, layer.id)
    else:
        span = fitting_span(layer, part, reference())
        plain = layer.model_copy(update={"pocket": False, "end_mm": min(span[1], part.span_mm)})
        other = part.model_copy(update={"layers": tuple(plain if la.id == layer.id else la for la in part.layers)})
    return other if possible(other) else None


def _smallest(
    airframe: Airframe, part: Part, layer: CutLayer | FittingLayer, whole: _Look, now: _Look, case_id: str
) -> Patch | None:
    span = _size(layer, part)[0]
    found: list[Patch] = []
    spent: set[str] = set()
    for key, lap, line in _patches(part, layer):
        if key in spent:
            continue
        other = _patched(part, line)
        if not possible(other):
            continue
        look = _look(airframe, other)
        left = _left(whole, look, case_id, span)
        one = Patch(
            layer=line,
            name=reference().skins[key].name,
            lap_mm=lap,
            grams=look.trial.mass_g - now.trial.mass_g,
            left=left,
            restores=_worst(left) >= RESTORED,
        )
        found.append(one)
        if one.restores:  # a larger lap of the same skin only weighs more
            spent.add(key)
    enough = [p for p in found if p.restores]
    if enough:
        return min(enough, key=lambda p: p.grams)
    return max(found, key=lambda p: _worst(p.left), default=None)


def _says(left: Losses, patch: Patch | None, layer: CutLayer | FittingLayer) -> str:
    costs = {"margin": left.margin, "bending stiffness": left.bend, "twist stiffness": left.twist}
    name, worst = min(costs.items(), key=lambda pair: pair[1])
    if worst >= 1 - NOTHING:
        return "costs almost nothing in your load cases"
    lost = f"costs {100 * (1 - worst):.0f} % of the {name}"
    if patch is None:
        inner = layer.face in ("inside", "front", "rear")
        return f"{lost}; no patch tried: the cut-out opens inwards" if inner else lost
    if patch.restores:
        shut = (
            ", glued shut or as a lid fastened all around" if isinstance(layer, CutLayer) and not layer.width_mm else ""
        )
        return (
            f"{lost}; {patch.name}, {in_mm(patch.lap_mm, F0)} over its edges, gives it back for "
            f"{in_g(patch.grams, G2)}{shut}"
        )
    best = min(patch.left.margin, patch.left.bend, patch.left.twist)
    return f"{lost}; no patch tried restores all of it; {patch.name} restores {100 * best:.0f} %"
