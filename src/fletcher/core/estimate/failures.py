"""The ways to fail that are told: which, where in the cut, and in which order."""

from __future__ import annotations

import numpy as np

from fletcher.core.estimate import phrasing
from fletcher.core.estimate.analyse import Analysis
from fletcher.core.estimate.schema import Failure
from fletcher.core.materials.uncertainty import Inputs, band
from fletcher.core.section.elements import NOSE, TAIL
from fletcher.core.strength.judgement import Event, figures_of
from fletcher.core.strength.modes import Mode


def _place(a: Analysis, mode: Mode, k: int) -> tuple[float, float]:
    """x and z in the cut at station k where a mode acts."""
    g = a.prepared.geometry
    if mode.kind.startswith("bar") or mode.kind == "joint_bearing":  # a joiner is a bar
        assert mode.item is not None
        return float(g.bar_x[mode.item, k]), float(g.bar_z[mode.item, k])
    if mode.kind.startswith(("joint_", "hinge_")):
        layer = a.prepared.elements.part.layers[mode.line or 0]
        x = getattr(layer, "chord_percent", 0.0 if mode.kind == "hinge_tears" else 50.0) / 100 * float(g.chord[k])
        return x, 0.5 * float(g.z_high[k] + g.z_low[k])
    if mode.kind in ("bands_give", "root_glue", "nose_spent", "mount_tears"):
        return 0.5 * float(g.chord[k]), 0.5 * float(g.z_high[k] + g.z_low[k])
    if mode.kind == "strap_crush":
        return float(g.chord[k]), 0.5 * float(g.z_high[k] + g.z_low[k])
    x = 0.3 * float(g.chord[k])
    if a.loading.read == "swing" and mode.kind.startswith("skin"):
        pulled_rear = a.loading.edge[0, k] > 0
        rear = pulled_rear == (mode.kind in ("skin_tension", "skin_yield"))
        return (float(g.chord[k]) if rear else 0.0), 0.5 * float(g.z_high[k] + g.z_low[k])
    if mode.kind == "core_shear":
        return x, 0.5 * float(g.z_high[k] + g.z_low[k])
    if mode.kind.startswith(("skin", "strip", "wall")):
        assert mode.item is not None
        elements, i = a.prepared.elements, mode.item
        membrane = elements.membranes[i]
        if membrane.upright or membrane.face == "level":
            x = float(elements.web_place(membrane, g.y[[k]])[0]) if membrane.upright else 0.5 * float(g.chord[k])
            return x, 0.5 * float(g.skin_low[i, k] + g.skin_high[i, k])
        if membrane.front is not NOSE or membrane.rear is not TAIL:
            x = float(np.mean([e[0] for e in elements.edges(membrane, g.y[[k]])]))
        high = membrane.face == "upper"
    elif mode.kind == "notch":
        hole = next(h for h in a.prepared.elements.holes if h.line == mode.line)
        x = float(a.prepared.elements.edges(hole, g.y[[k]])[0][0])
        high = mode.where != "lower"
    elif mode.where in ("front", "rear"):
        x = 0.0 if mode.where == "front" else float(g.chord[k])
        return x, 0.5 * float(g.z_high[k] + g.z_low[k])
    else:
        high = mode.where == "upper"
    return x, float(g.z_high[k] if high else g.z_low[k])


def failures_of(a: Analysis, told: list[Event], inputs: Inputs) -> list[Failure]:
    """What happens as the load grows, as results; the one that decides the break load has the figure "breaks_at"."""
    out = []
    for event, figure in zip(told, figures_of(a.judged, told), strict=True):
        mode, k = event.mode, event.k
        x, z = _place(a, mode, k)
        out.append(
            Failure(
                kind=mode.kind,
                line_id=None if mode.line is None else a.prepared.elements.part.layers[mode.line].id,
                where=mode.where,
                sentence=phrasing.failure_sentence(mode, a.prepared.elements),
                breaks=event.breaks,
                stays=event.stays,
                at_mm=float(a.prepared.geometry.y[k]),
                x_mm=x,
                z_mm=z,
                comes_at=band(np.minimum(event.at, 1e9), inputs),
                figure=figure,
            )
        )
    return out
