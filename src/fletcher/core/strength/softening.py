"""What earlier changes do: when a later one comes, and how much softer the part is at the load itself."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from fletcher.core.common.arrays import Array, BoolArray, IntArray
from fletcher.core.section.moment_curvature import NEVER
from fletcher.core.strength.fibres import Fibres, Label
from fletcher.core.strength.followed import Followed

_SOFTENED = 3
"""At so many stations the samples are read when something has changed at the load itself."""
_NEARLY = 0.7
"""Share of the strain at which something changes from which on a station is looked at."""
WRINKLED_SHEAR = 0.5
"""[J] Share of its shear stiffness (0.3 to 0.8) that a wrinkled film keeps."""


@dataclass(frozen=True)
class Softened:
    """What changes cost at the load itself, each (S, n): by how much more every station bends than the linear answer,
    and what is left of GJ, and of EI for a further small load (the tangent over the elastic one)."""

    bends: Array
    GJ: Array
    EI: Array


def comes_later(f: Fibres, i: int, label: Label, linear: float) -> float:
    """Multiple of the load at which a label comes at station i after earlier changes."""
    pull, push = (np.full(f.pull[:, [i]].shape, NEVER) for _ in range(2))
    for n, (_, _, pulled, pushed) in enumerate(f.labels):
        if pulled is not None and (pulled.kind, pulled.member, pulled.where) == (label.kind, label.member, label.where):
            pull[..., n] = f.soft_pull[:, [i], n]
        if pushed is not None and (pushed.kind, pushed.member, pushed.where) == (label.kind, label.member, label.where):
            push[..., n] = f.soft_push[:, [i], n]
    s = f.section.stations(np.array([i]))
    _, which, work = s.reaches(pull, push, np.full((1, 1), 4 * linear))
    if which[0, 0] < 0:
        return np.inf
    return float((work / np.maximum(f.full[:, [i]], 1e-12))[0, 0])


def softer_at(typical: Fibres) -> tuple[IntArray, BoolArray]:
    """Of the stations of typical fibres those whose samples are read when something has changed at the load itself, and
    all at which it may have."""
    shape = typical.section.shape
    changed = np.maximum(shape / typical.soft_pull, -shape / typical.soft_push).max(-1)[0] > _NEARLY
    chosen = np.nonzero(changed)[0]
    if len(chosen) > _SOFTENED:
        chosen = chosen[np.unique(np.linspace(0, len(chosen) - 1, _SOFTENED).round().astype(int))]
    return chosen, changed


def at_the_load(j: Followed, early: Sequence[tuple[str, int | None]]) -> Softened | None:
    """What has changed by the load itself costs; None where nothing has. `early` kinds and members of what has changed
    by then."""
    typical, samples, n, stations = j.typical, j.samples, j.n, j.stations
    if typical is None:
        return None
    chosen, changed = softer_at(typical)
    if not len(chosen):
        return None
    softer = np.ones((samples, n))
    f = j.sampled(chosen)
    s = f.section
    far = np.full(s.shape.shape[:2], 8.0)
    t = s.carries(f.full, far)
    t = np.where(np.isfinite(t), np.maximum(t, 1.0), 8.0)
    at = np.nonzero(changed)[0]
    where = stations[at]
    plain = typical.section.stations(at)
    exact = plain.carries(typical.full[:, at], np.full((1, len(at)), 8.0))[0]
    exact = np.where(np.isfinite(exact), np.maximum(exact, 1.0), 8.0)
    keeps = np.ones((samples, n))
    share_left, exact_left = s.keeps(t), plain.keeps(exact[None])[0]
    between = np.array([np.interp(where, stations[chosen], unit) for unit in np.eye(len(chosen))])
    softer[:, where] = exact * ((t / t[0]) @ between)
    spread = share_left / np.maximum(share_left[0], 1e-3)
    keeps[:, where] = np.clip(exact_left * (spread @ between), 1e-3, 1.0)
    untwisted = np.ones((samples, n))
    share = j.part.skin_share
    for kind, item in early:
        if kind in ("skin_wrinkling", "wall_buckling") and item is not None:
            mode = next((m for m in j.strained if (m.kind, m.item) == (kind, item)), None)
            if mode is not None:
                untwisted *= np.where(mode.use > 1, WRINKLED_SHEAR ** share[item][None], 1.0)
    return Softened(softer, untwisted, keeps)
