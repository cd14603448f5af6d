"""Cuts through a part as points to draw. Between the two ends of a stretch every point moves linearly."""

from __future__ import annotations

import itertools

import numpy as np

from fletcher.core.elements import Elements, Membrane
from fletcher.core.outline import Array, faces, polygon
from fletcher.core.results import Cut, CutBar, CutSkin, Stretch

_COSINE = 0.5 * (1 - np.cos(np.linspace(0, np.pi, 32)))


def _points(x: Array, z: Array) -> list[tuple[float, float]]:
    return list(zip(np.round(x, 3).tolist(), np.round(z, 3).tolist(), strict=True))


def stretches_of(elements: Elements) -> list[Stretch]:
    """All stretches from root to tip."""
    stops = elements.breaks()
    ends = np.array([y for pair in itertools.pairwise(stops) for y in pair])
    inside = np.repeat([0.5 * (a + b) for a, b in itertools.pairwise(stops)], 2)
    cuts = cuts_at(elements, ends, inside)
    return [Stretch(root_side=a, tip_side=b) for a, b in zip(cuts[::2], cuts[1::2], strict=True)]


def cuts_at(elements: Elements, y: Array, inside: Array) -> list[Cut]:
    """The cuts at y (n,) with the elements that are present at `inside` (n,)."""
    part = elements.part
    chord, thickness = elements.chord(y), elements.thickness(y)
    skins = [_skin_points(elements, m, y, chord, thickness) for m in elements.membranes]
    centres = [elements.bar_centre(b, y) for b in elements.bars]
    cuts = []
    for n in range(len(y)):
        outline = polygon(elements.outline, float(chord[n]), float(thickness[n]))
        cuts.append(
            Cut(
                y_mm=float(y[n]),
                chord_mm=float(chord[n]),
                thickness_mm=float(thickness[n]),
                setback_mm=part.tip_setback_mm * float(y[n]) / part.span_mm,
                outline=_points(outline[:, 0], outline[:, 1]),
                skins=[
                    CutSkin(
                        line_id=part.layers[m.line].id,
                        face=m.face,
                        points=_points(x[n], z[n]),
                        thickness_mm=round(m.plies * m.skin.total_thickness_mm, 4),
                    )
                    for m, (x, z) in zip(elements.membranes, skins, strict=True)
                    if m.start < inside[n] < m.end
                ],
                bars=[
                    CutBar(
                        line_id=part.layers[b.line].id,
                        side=b.side,
                        shape=b.stock.shape,
                        x_mm=round(float(x[n]), 3),
                        z_mm=round(float(z[n]), 3),
                        width_mm=b.stock.size(b.on_edge)[0],
                        height_mm=b.stock.size(b.on_edge)[1],
                        bore_mm=b.stock.bore_mm or 0.0,
                    )
                    for b, (x, z) in zip(elements.bars, centres, strict=True)
                    if b.start < inside[n] < b.end
                ],
            )
        )
    return cuts


def _skin_points(elements: Elements, m: Membrane, y: Array, chord: Array, thickness: Array) -> tuple[Array, Array]:
    """Points x, z (n, points) of a skin in the cuts at y (n,)."""
    if m.face in ("front", "rear"):
        edge = np.full_like(chord, 0.0 if m.face == "front" else 1.0)
        low, high = faces(elements.outline, edge, chord, thickness)
        return np.stack([edge * chord] * 2, 1), np.stack([low, high], 1)
    front, rear = elements.strip_edges(m, y)
    x = front[:, None] + _COSINE * (rear - front)[:, None]
    low, high = faces(elements.outline, np.clip(x / chord[:, None], 0, 1), chord[:, None], thickness[:, None])
    return x, high if m.face == "upper" else low
