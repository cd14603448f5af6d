"""What a section carries: at its first break, and at most once what breaks in it has handed over to the rest."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from fletcher.core.common.arrays import Array, BoolArray, IntArray
from fletcher.core.materials.uncertainty import KINKED, draw_factor
from fletcher.core.section.elements import Elements
from fletcher.core.section.hinge_under_tape import drawn_stress
from fletcher.core.section.moment_curvature import NEVER, Laws, Section
from fletcher.core.section.properties import Draws
from fletcher.core.strength.fibres import FOAM, Fibres

_ROUNDS = 8
"""So many members may break one after another, at most."""
_HOPELESS = 0.5
"""What carries less than this share of the most so far is not followed to its next break."""


@dataclass(frozen=True)
class Capacity:
    """What sections carry, (S, n): at their first break and at most, with the fibre that decides either (−1 none)."""

    first: Array
    most: Array
    first_fibre: IntArray
    most_fibre: IntArray


def _reached(f: Fibres) -> tuple[Array, IntArray]:
    """Multiple of the load at the first break of every section, and the fibre that breaks."""
    s = f.section
    use = np.maximum(s.shape / f.pull, -s.shape / f.push).max(-1)
    far = np.where(use > 1e-9, 40 / np.maximum(use, 1e-9), 1.0)
    _, which, work = s.reaches(f.pull, f.push, far)
    sound = (use > 1e-9) & (which >= 0)
    return np.where(sound, work / f.full, np.inf), np.where(sound, which, -1)


def _pressed(f: Fibres, which: IntArray) -> BoolArray:
    """Whether the fibre `which` (S, n) of each section is pressed; none (−1) is not."""
    strain = np.take_along_axis(f.section.shape, np.maximum(which, 0)[..., None], -1)[..., 0]
    return np.asarray((which >= 0) & (strain < 0))


def _after(f: Fibres, which: IntArray, count: int, drawn: Array) -> Fibres:
    """The sections without what has just broken. Foam that has cracked pulls no more and tapes across the crack hold
    what their peel front leaves (`drawn`, strain per fibre); a ply that has kinked keeps a share in push."""
    s = f.section
    member = np.where(which >= 0, f.member[which], -2)
    pushed = f.kinks[which] & _pressed(f, which)
    own = f.member[None, None, :] == member[..., None]
    kinks, gone = own & pushed[..., None], own & ~pushed[..., None] & (member != FOAM)[..., None]
    cracks = (member == FOAM)[..., None]
    foam = (f.member == FOAM)[None, None, :] & cracks
    tapes = (f.member != FOAM)[None, None, :] & cracks
    keeps = draw_factor(KINKED)[:count, None, None]
    laws = Laws(
        np.where(foam, 1e-6, s.laws.E_pull),
        s.laws.E_push,
        np.where(tapes, np.minimum(s.laws.yields, drawn), s.laws.yields),
        np.where(tapes, 0.0, s.laws.hardens),
        np.where(kinks, s.laws.gives * keeps, s.laws.gives),
    )
    lost = np.where(gone, NEVER, 0.0)
    broken = (which >= 0)[..., None]
    push = np.where(kinks, NEVER, f.push + lost)
    return replace(
        f, section=Section(np.where(gone, 0.0, s.amount), np.where(broken, f.plane, s.shape), laws,
                           np.where(broken, f.follows, s.follows), s.lever),
        pull=np.where(foam, NEVER, f.pull + lost), push=push,
    )  # fmt: skip


def capacity(f: Fibres, count: int, drawn: Array, follow: bool = True) -> Capacity:
    """What the sections of fibres carry. `count` samples; `drawn` strain (F,) at which each fibre holds across a crack;
    `follow` what comes after the first break."""
    first, which = _reached(f)
    most, most_fibre = first.copy(), which.copy()
    now, last = f, which
    for _ in range(min(_ROUNDS, len(set(f.member))) if follow else 0):
        going = (last >= 0) & ~(f.folds[last] & _pressed(f, last))
        if not np.any(going[0]):
            break
        now = _after(now, np.where(going, last, -1), count, drawn)
        load, last = _reached(now)
        load = np.where(going & np.isfinite(load), load, 0.0)
        last = np.where(going, last, -1)
        better = load > most
        most, most_fibre = np.where(better, load, most), np.where(better, last, most_fibre)
        if np.all(load < _HOPELESS * most):
            break
    return Capacity(first, most, which, most_fibre)


def drawn_strains(elements: Elements, draws: Draws) -> Array:
    """Strain (membranes + bars,) at which each carries across a crack in the foam, typical: tape until its peel front
    runs (`section.hinge_under_tape`), bars without end."""
    out = np.full(len(elements.membranes) + len(elements.bars), NEVER)
    for i, m in enumerate(elements.membranes):
        d, t = draws.skins[i], m.thickness_mm
        E = d.Et[0] * m.plies / t
        peel = np.asarray(m.skin.peel_N_per_25mm.typ / 25)
        yields, tears = (d.tensile[0],) * 2 if d.draws_out is None else (d.draws_out[0], d.draws_out[0])
        if d.drawn is not None:
            tears = max(d.drawn[0], yields)
        stress = drawn_stress(peel, t, E, np.asarray(yields), np.asarray(0.1), np.asarray(tears))
        out[i] = float(stress / E)
    return out
