"""Cuts through a part as points to draw. Between the two ends of a stretch every point moves linearly."""

from __future__ import annotations

import itertools

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.document.airframe import FittingLayer
from fletcher.core.estimate.cut_schema import Cut, CutBar, CutCord, CutHole, CutSkin, CutThing
from fletcher.core.estimate.schema import Stretch
from fletcher.core.section.assembly import fitting_size
from fletcher.core.section.elements import Edge, Elements, Hole, Membrane, PlacedFitting
from fletcher.core.section.grid import HoleSpot
from fletcher.core.section.outline import polygon

_COSINE = 0.5 * (1 - np.cos(np.linspace(0, np.pi, 32)))


def _points(x: Array, z: Array) -> list[tuple[float, float]]:
    return list(zip(np.round(x, 3).tolist(), np.round(z, 3).tolist(), strict=True))


def stretches_of(elements: Elements) -> list[Stretch]:
    """All stretches from root to tip."""
    stops = elements.breaks()
    ends = np.array([y for pair in itertools.pairwise(stops) for y in pair])
    inside = np.repeat([0.5 * (a + b) for a, b in itertools.pairwise(stops)], 2)
    cuts = cuts_at(elements, ends, inside)
    return [Stretch.model_construct(root_side=a, tip_side=b) for a, b in zip(cuts[::2], cuts[1::2], strict=True)]


def cuts_at(elements: Elements, y: Array, inside: Array) -> list[Cut]:
    """The cuts at y (n,) with the elements that are present at `inside` (n,)."""
    part = elements.part
    chord, thickness = elements.chord(y), elements.thickness(y)
    skins = [_skin_points(elements, m, y) for m in elements.membranes]
    centres = [elements.bar_centre(b, y) for b in elements.bars]
    sizes = [b.scale(y) for b in elements.bars]
    gaps = [_hole_points(elements, hole, y) for hole in elements.openings]
    edges = [elements.faces_at(np.where(c.face == "front", 0.0, chord), y) for c in elements.cords]
    things = [_thing(elements, f, y) for f in elements.fittings]
    cuts = []
    outlines = polygon(elements.outline, chord, thickness)
    for n, outline in enumerate(outlines):
        cuts.append(
            Cut.model_construct(
                y_mm=float(y[n]),
                chord_mm=float(chord[n]),
                thickness_mm=float(thickness[n]),
                setback_mm=part.tip_setback_mm * float(y[n]) / part.span_mm,
                outline=_points(outline[:, 0], outline[:, 1]),
                hollow=elements.hollow,
                holes=[
                    CutHole.model_construct(line_id=part.layers[h.line].id, points=_points(x[n], z[n]))
                    for h, (x, z) in zip(elements.openings, gaps, strict=True)
                    if h.start < inside[n] < h.end
                ],
                cords=[
                    CutCord.model_construct(
                        line_id=part.layers[c.line].id,
                        face=c.face,
                        x_mm=0.0 if c.face == "front" else round(float(chord[n]), 3),
                        z_mm=round(float(0.5 * (low[n] + high[n])), 3),
                    )
                    for c, (low, high) in zip(elements.cords, edges, strict=True)
                    if c.start < inside[n] < c.end
                ],
                things=[
                    CutThing.model_construct(
                        line_id=part.layers[f.line].id,
                        x_mm=round(float(x[n]), 3),
                        z_mm=round(float(z[n]), 3),
                        width_mm=wide,
                        height_mm=high,
                    )
                    for f, (x, z, wide, high) in zip(elements.fittings, things, strict=True)
                    if f.start < inside[n] < f.end
                ],
                skins=[
                    CutSkin.model_construct(
                        line_id=part.layers[m.line].id,
                        face=m.face,
                        points=_points(x[n], z[n]),
                        thickness_mm=round(m.plies * m.skin.total_thickness_mm, 4),
                        wall=m.plate is not None,
                    )
                    for m, (x, z) in zip(elements.membranes, skins, strict=True)
                    if m.start < inside[n] < m.end
                ],
                bars=[
                    CutBar.model_construct(
                        line_id=part.layers[b.line].id,
                        side=b.side,
                        shape=b.stock.shape,
                        x_mm=round(float(x[n]), 3),
                        z_mm=round(float(z[n]), 3),
                        width_mm=round(b.sizes(float(size[n]))[0], 3),
                        height_mm=round(b.sizes(float(size[n]))[1], 3),
                        bore_mm=round((b.stock.bore_mm or 0.0) * float(size[n]), 3),
                    )
                    for b, (x, z), size in zip(elements.bars, centres, sizes, strict=True)
                    if b.start < inside[n] < b.end
                ],
            )
        )
    return cuts


def _thing(elements: Elements, fitting: PlacedFitting, y: Array) -> tuple[Array, Array, float, float]:
    """Middle x, z (n,) of something from stock, its width and its height."""
    layer = elements.part.layers[fitting.line]
    assert isinstance(layer, FittingLayer)
    wide, high = fitting_size(layer, fitting.stock)
    x = Edge(layer.root_percent / 100, layer.tip_percent / 100, 0.0, 0.0).at(elements.fraction(y), elements.chord(y))
    low, top = elements.faces_at(x, y)
    inwards = 1 if layer.pocket else -1
    places = {"upper": top - inwards * high / 2, "lower": low + inwards * high / 2}
    return x, np.asarray(places.get(layer.face, 0.5 * (low + top))), wide, high


def _hole_points(elements: Elements, hole: Hole, y: Array) -> tuple[Array, Array]:
    """Outline x, z (n, points) of what a cut takes out of the foam; flat where it takes skins only."""
    front, rear = (np.clip(e, 0.0, elements.chord(y)) for e in elements.edges(hole, y))
    x = front[:, None] + np.linspace(0, 1, 9) * (rear - front)[:, None]
    depth = 0.0 if elements.hollow else hole.depth_mm
    face = "upper" if hole.face in ("front", "rear") else hole.face
    low, high = HoleSpot(face, 0.0, 0.0, depth).heights(*elements.faces_at(x, y))
    return np.concatenate([x, x[:, ::-1]], 1), np.concatenate([low, high[:, ::-1]], 1)


def _skin_points(elements: Elements, m: Membrane, y: Array) -> tuple[Array, Array]:
    """Points x, z (n, points) of a skin in the cuts at y (n,)."""
    if m.upright:
        x = elements.web_place(m, y)
        low, high = elements.faces_at(x, y)
        return np.stack([x, x], 1), np.stack([low + m.trim_mm[0], high - m.trim_mm[1]], 1)
    front, rear = elements.edges(m, y)
    x = front[:, None] + _COSINE * (rear - front)[:, None]
    low, high = elements.faces_at(x, y)
    if m.face == "level":
        return x, low + m.height.at(elements.fraction(y), np.ones_like(y))[:, None] * (high - low)
    inset = np.minimum(-m.offset_mm if m.plate is not None else 0.0, 0.5 * (high - low))
    return x, high - inset if m.face == "upper" else low + inset
