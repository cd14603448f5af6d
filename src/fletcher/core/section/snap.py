"""Moment and curvature of a section until it breaks and beyond: what a piece does when it is snapped in the hands.

The section is cut open for the residual moment: no tension in the foam, tapes capped by what their anchorage holds
(MECHANICS section 2).

Everything here is evaluated with typical values; the words are about kind, not degree.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.section.elements import Elements
from fletcher.core.section.properties import Draws, Geometry
from fletcher.core.section.snap_fibres import LEVELS, PEEL_LENGTH_MM, Fibres, fibres_of, moments

FOLD_STRAIN = 0.10
"""[J] A part counts as folded when half its depth times its curvature reaches this: a bend radius of five depths."""

TAPE_STRETCH = 0.02
"""[J] Share by which a tape across a crack stretches over its loose length before it parts."""

SPRINGS_BACK = 0.6
"""Share of the bend that the foam must give back for a folded part to count as springing back."""

Manner = Literal["snaps", "cracks, but holds together", "folds and springs back", "folds and stays bent"]


@dataclass(frozen=True)
class Event:
    """Something that happens as the piece is bent: at this curvature and moment."""

    what: str
    line: int | None
    curvature: float
    moment: float
    breaks: bool


@dataclass(frozen=True)
class Snap:
    """What a piece does when bent until it breaks, in one direction ("up" presses the upper face)."""

    direction: Literal["up", "down"]
    manner: Manner
    first_break_N_mm: float
    residual_N_mm: float
    hangs_together: float
    """Residual over first-break moment, 0 to 1."""
    events: tuple[Event, ...]
    curvature: Array
    moment: Array
    cracked: Array
    """Moment of the cracked section at the same curvatures."""


def _events(fibres: Fibres, curvature: Array, moment: Array, base: Array) -> list[Event]:
    """First curvature at which each line reaches each of its limits, in order, read between the given curvatures.

    A fibre reaches its limit at its own outer edge, not at its centre.
    """
    strain = base[:, None] - curvature[:, None] * fibres.z
    edge = curvature[:, None] * fibres.half
    uses = (
        ("pull", (strain + edge) * (fibres.E_pull[0] / fibres.pull[0]), fibres.pull_breaks),
        ("push", (edge - strain) * (fibres.E_push[0] / fibres.push[0]), fibres.push_breaks),
        ("part", (strain + edge) / fibres.break_strain[0], np.ones_like(fibres.foam)),
    )
    found = []
    for line in np.unique(fibres.line):
        here = np.nonzero((fibres.line == line) & (fibres.amount > 0))[0]
        if not len(here):
            continue
        for what, used, breaks in uses:
            use = used[:, here].max(1)
            at = np.nonzero(use >= 1)[0]
            if not len(at):
                continue
            n = int(at[0])
            u0, c0, m0 = (use[n - 1], curvature[n - 1], moment[n - 1]) if n else (0.0, 0.0, 0.0)
            t = float((1 - u0) / (use[n] - u0)) if use[n] > u0 else 1.0
            part = bool(np.any(breaks[here] > 0))
            where = None if line < 0 else int(line)
            found.append(
                Event(what, where, float(c0 + t * (curvature[n] - c0)), float(m0 + t * (moment[n] - m0)), part)
            )
    return sorted(found, key=lambda e: e.curvature)


def snap(
    elements: Elements, draws: Draws, geometry: Geometry, k: int, levels: int = LEVELS, steps: int = 1
) -> tuple[Snap, Snap]:
    """What the section at station k does when it is bent until it parts, up and down. `levels` of foam and `steps`
    times the usual curvatures are for tests of convergence."""
    fibres = fibres_of(elements, draws, geometry, k, levels=levels)
    return _snapped(elements, fibres, "up", steps), _snapped(elements, fibres.mirrored(), "down", steps)


def tape_work(fibres: Fibres) -> Array:
    """Work (S,) of the tapes across a crack below until they part, N·mm: what they hold, over the stretch of their
    loose length; a bar, which does not draw out, its elastic half."""
    tied = (fibres.foam == 0) & (fibres.z < 0)
    held = np.minimum(fibres.hold, fibres.pull)
    stretch = np.where(fibres.push_breaks > 0, np.minimum(0.5 * held / fibres.E_pull, TAPE_STRETCH), TAPE_STRETCH)
    return np.asarray((fibres.amount * held * stretch * tied).sum(-1) * PEEL_LENGTH_MM)


def released(first: Array, residual: Array, stiffness: Array, depth: float) -> Array:
    """Work (N·mm) that a first break sets free over ten depths, (M₁² − M_r²) L/6EI."""
    return np.maximum(first**2 - residual**2, 0.0) * 10 * depth / (6 * stiffness)


def _snapped(elements: Elements, fibres: Fibres, direction: Literal["up", "down"], steps: int) -> Snap:
    """Bend a section until it parts, by hand (displacement control), and say what it does.

    The first break's moment M₁ is compared with the peak M_r that the cracked section can carry; the tapes across the
    crack must take up what the break sets free by stretching and coming off, else it snaps.
    """
    fold = 2 * FOLD_STRAIN / fibres.depth
    # closely where stiff parts break, widely where soft ones fold
    stops = ((0.0, 0.03, 10), (0.03, 0.2, 12), (0.2, 1.2, 28))
    ends = [np.linspace(a, b, n * steps + 1) for a, b, n in stops]
    curvature = np.concatenate([e[1:] for e in ends]) * fold
    moment, base = (v[0] for v in moments(fibres, curvature[None]))
    after = moments(fibres, curvature[None], cracked=True)[0][0]
    events = tuple(_events(fibres, curvature, moment, base))
    first = next((e for e in events if e.breaks), None)
    manner: Manner
    if first is None or first.curvature > fold:
        manner = "folds and stays bent" if elements.foam.springback < SPRINGS_BACK else "folds and springs back"
        peak = float(moment[curvature <= fold].max())
        residual, share = min(float(after.max()), peak), 1.0
    else:
        peak = first.moment
        residual = min(float(after.max()), peak)
        share = residual / peak
        sets_free = released(np.array(peak), np.array(residual), moment[0] / curvature[0], fibres.depth)
        holds = share >= 0.1 and bool(tape_work(fibres)[0] >= sets_free)
        manner = "cracks, but holds together" if holds else "snaps"
        if not holds:
            residual = share = 0.0
    return Snap(direction, manner, peak, residual, share, events, curvature, moment, after)
