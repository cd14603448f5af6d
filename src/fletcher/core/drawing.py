"""Cuts through a part as points to draw. Between the two ends of a stretch every point moves linearly."""

from __future__ import annotations

import itertools

import numpy as np

from fletcher.core.elements import Elements
from fletcher.core.outline import faces, polygon
from fletcher.core.results import Cut, CutBar, CutSkin, Stretch

_SKIN_POINTS = 32


def _points(x: np.ndarray, z: np.ndarray) -> list[tuple[float, float]]:
    return list(zip(np.round(x, 3).tolist(), np.round(z, 3).tolist(), strict=True))


def cut_at(elements: Elements, y: float, inside: float) -> Cut:
    """The cut at y with the elements that are present at `inside`."""
    part, at = elements.part, np.array([y])
    chord, thickness = float(elements.chord(at)[0]), float(elements.thickness(at)[0])
    skins = []
    for m in elements.membranes:
        if not m.start < inside < m.end:
            continue
        if m.face in ("front", "rear"):
            edge = np.array([0.0 if m.face == "front" else 1.0])
            low, high = faces(elements.outline, edge, np.array(chord), np.array(thickness))
            x, z = np.repeat(edge * chord, 2), np.array([low[0], high[0]])
        else:
            front, rear = (float(e[0]) for e in elements.strip_edges(m, at))
            x = front + 0.5 * (1 - np.cos(np.linspace(0, np.pi, _SKIN_POINTS))) * (rear - front)
            low, high = faces(elements.outline, np.clip(x / chord, 0, 1), np.array(chord), np.array(thickness))
            z = high if m.face == "upper" else low
        skins.append(
            CutSkin(
                line_id=part.layers[m.line].id,
                face=m.face,
                points=_points(x, z),
                thickness_mm=round(m.plies * m.skin.total_thickness_mm, 4),
            )
        )
    bars = []
    for b in elements.bars:
        if not b.start < inside < b.end:
            continue
        bx, bz = elements.bar_centre(b, at)
        width, height = b.stock.size(b.on_edge)
        bars.append(
            CutBar(
                line_id=part.layers[b.line].id,
                side=b.side,
                shape=b.stock.shape,
                x_mm=round(float(bx[0]), 3),
                z_mm=round(float(bz[0]), 3),
                width_mm=width,
                height_mm=height,
                bore_mm=b.stock.bore_mm or 0.0,
            )
        )
    outline = polygon(elements.outline, chord, thickness)
    return Cut(
        y_mm=y,
        chord_mm=chord,
        thickness_mm=thickness,
        setback_mm=part.tip_setback_mm * y / part.span_mm,
        outline=_points(outline[:, 0], outline[:, 1]),
        skins=skins,
        bars=bars,
    )


def stretches_of(elements: Elements) -> list[Stretch]:
    """All stretches from root to tip."""
    stops = elements.breaks()
    return [
        Stretch(root_side=cut_at(elements, a, 0.5 * (a + b)), tip_side=cut_at(elements, b, 0.5 * (a + b)))
        for a, b in itertools.pairwise(stops)
    ]
