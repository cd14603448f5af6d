r"""Moment and curvature of a section until it breaks and beyond: what a piece does when it is snapped in the hands.

Fibres follow uniaxial laws (MECHANICS section 2). Brittle foam is linear to its tensile strength; ductile bead foam
yields in tension; all foam crushes at a plateau. Films and tapes are linear to yield, then flat; in compression
they are capped by wrinkling. Bars are linear to rupture, in compression to buckling into the foam. The section is cut
open for the residual moment: no tension in the foam, tapes capped by what their anchorage holds.

Everything here is evaluated with typical values; the words are about kind, not degree.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from fletcher.core.buckling import bar_buckling_load, cover_of, wrinkling_stress
from fletcher.core.elements import Elements
from fletcher.core.outline import Array
from fletcher.core.sections import Draws, Geometry, columns_of

FOLD_STRAIN = 0.10
"""[J] A part counts as folded when half its depth times its curvature reaches this: a bend radius of five depths."""

AFTER_BUCKLING = 0.3
"""[J] Share of its buckling load that a bar still carries once it has torn out sideways."""

PEEL_LENGTH_MM = 40.0
"""[J] Length over which a tape beyond the crack may come off before a snap in the hands has opened it."""

SPRINGS_BACK = 0.6
"""Share of the bend that the foam must give back for a folded part to count as springing back."""

_LEVELS = 36

Manner = Literal["snaps", "cracks, hangs together", "folds and springs back", "folds and stays bent"]


@dataclass(frozen=True)
class Fibres:
    """A section as fibres, arrays (f,): height z (mm) with `half` its own half height, `amount` (mm² for foam and
    bars, mm for skins per unit E·t), elastic `E`, limits `pull` and `push` (same stress unit), `pull_breaks`,
    `push_breaks` whether reaching the limit parts the fibre, `foam` and `line` (lay-up line, −1 foam), `hold` the most
    a cracked section may rely on."""

    z: Array
    half: Array
    amount: Array
    E_pull: Array
    E_push: Array
    pull: Array
    push: Array
    pull_breaks: Array
    push_breaks: Array
    break_strain: Array
    foam: Array
    line: Array
    hold: Array


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


def fibres_of(elements: Elements, draws: Draws, geometry: Geometry, k: int) -> Fibres:
    """Fibres of the section at station k, typical values."""
    f = draws.foam
    E_t, E_c, G = float(f.E_tension[0]), float(f.E_compression[0]), float(f.G[0])
    tensile, crush = float(f.tensile[0]), float(f.crush[0])
    columns = columns_of(elements, geometry.y[[k]], geometry.inside[[k]])
    low, high, width = columns.lower[0], columns.upper[0], columns.weight[0]
    edges = np.linspace(float(geometry.z_low[k]), float(geometry.z_high[k]), _LEVELS + 1)
    inside = np.clip(np.minimum(edges[1:, None], high) - np.maximum(edges[:-1, None], low), 0, None)
    rows: list[tuple[float, ...]] = []
    strain = elements.foam.tensile_break_strain_pct.typ / 100
    brittle = elements.foam.brittle
    for z, area in zip(0.5 * (edges[1:] + edges[:-1]), np.maximum(inside @ width, 0.0), strict=True):
        # in the order of Fibres
        half = 0.5 * (edges[1] - edges[0])
        rows.append((z, half, area, E_t, E_c, tensile, crush, float(brittle), 0, strain, 1, -1, 0))
    through = E_c / elements.foam.through_thickness_ratio
    for i, m in enumerate(elements.membranes):
        if not geometry.skin_on[i, k]:
            continue
        d = draws.skins[i]
        t = m.thickness_mm
        E = float(d.Et[0]) * m.plies / t
        limit = float(wrinkling_stress(d.wrinkling_k[:1], np.array([E]), np.array([through]), f.G[:1])[0])
        if d.compressive is not None:
            limit = min(limit, float(d.compressive[0]))
        yields = d.draws_out is not None
        strength = float(d.draws_out[0] if d.draws_out is not None else d.tensile[0])
        fracture = m.skin.peel_N_per_25mm.typ / 25
        glue = float(d.adhesive_shear[0]) if d.adhesive_shear is not None else float(f.shear[0])
        anchored = min(strength * t, np.sqrt(2 * fracture * E * t), min(glue, float(f.shear[0])) * PEEL_LENGTH_MM)
        length = float(geometry.skin[i, 0, k])
        for z in np.linspace(geometry.skin_low[i, k], geometry.skin_high[i, k], 9):
            values = (z, 0.0, length * t / 9, E, E, strength, limit, float(not yields), 0, 9, 0, m.line, anchored / t)
            rows.append(tuple(float(v) for v in values))
    for i, bar in enumerate(elements.bars):
        if not geometry.bar_on[i, k]:
            continue
        b = draws.bars[i]
        scale = float(geometry.bar_scale[i, k])
        size, height = bar.sizes(scale)
        area = bar.stock.area_mm2 * scale ** bar.powers[0]
        buckling = bar_buckling_load(
            np.array(G),
            elements.foam.poisson,
            np.array(float(b.E[0]) * bar.stock.weak_second_moment_mm4 * scale**3),
            (size + height) / 4,
            cover_of(elements, bar, geometry, i)[k],
            np.array(0.2),
            np.array(tensile),
            size,
        )
        push = min(float(b.compressive[0]), float(buckling) / area)
        E, pull = float(b.E[0]), float(b.tensile[0])
        for step in (-0.433, 0.0, 0.433):
            z = float(geometry.bar_z[i, k]) + step * height
            rows.append((z, 0.0, area / 3, E, E, pull, push, 1, 1, 9, 0, bar.line, pull))
    return Fibres(*np.array(rows).T)


def _moments(fibres: Fibres, curvature: Array, cracked: bool) -> tuple[Array, Array]:
    """Moment and strain at z = 0 for curvatures (c,). The axial force is a rising, piecewise linear function of that
    strain; its zero is found by Newton's method, held inside a bracket."""
    hold = np.where(fibres.foam > 0, 0.0, np.minimum(fibres.pull, fibres.hold)) if cracked else fibres.pull
    push = fibres.push * np.where(fibres.push_breaks > 0, AFTER_BUCKLING, 1.0) if cracked else fibres.push
    yield_pull, yield_push = hold / fibres.E_pull, -push / fibres.E_push
    soft_pull, soft_push = fibres.E_pull * fibres.amount, fibres.E_push * fibres.amount
    top, bottom = fibres.z.max(), fibres.z.min()
    low, high = curvature * (1.5 * bottom - 0.5 * top) - 1e-9, curvature * (1.5 * top - 0.5 * bottom) + 1e-9
    reach = high - low
    base = curvature * float((soft_pull * fibres.z).sum() / soft_pull.sum())
    bend = curvature[:, None] * fibres.z
    for _ in range(40):
        strain = base[:, None] - bend
        held = np.clip(strain, yield_push, yield_pull)
        soft = np.where(held > 0, soft_pull, soft_push)
        force = (held * soft).sum(1)
        low, high = np.where(force < 0, base, low), np.where(force < 0, high, base)
        tangent = (soft * (held == strain)).sum(1)
        step = force / np.maximum(tangent, 1e-12)
        guess = base - step
        guess = np.where((guess >= low) & (guess <= high), guess, 0.5 * (low + high))
        if np.all(np.abs(guess - base) <= 1e-9 * reach):
            break
        base = guess
    return -(held * soft) @ fibres.z, base


def _events(fibres: Fibres, curvature: Array, moment: Array, base: Array) -> list[Event]:
    """First curvature at which each line reaches each of its limits, in order, read between the given curvatures.

    A fibre reaches its limit at its own outer edge, not at its centre.
    """
    strain = base[:, None] - curvature[:, None] * fibres.z
    edge = curvature[:, None] * fibres.half
    uses = (
        ("pull", (strain + edge) * (fibres.E_pull / fibres.pull), fibres.pull_breaks),
        ("push", (edge - strain) * (fibres.E_push / fibres.push), fibres.push_breaks),
        ("part", (strain + edge) / fibres.break_strain, np.ones_like(fibres.foam)),
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


def _mirrored(fibres: Fibres) -> Fibres:
    return Fibres(**{**vars(fibres), "z": -fibres.z})


def snap(elements: Elements, draws: Draws, geometry: Geometry, k: int) -> tuple[Snap, Snap]:
    """What the section at station k does when it is bent until it parts, up and down."""
    fibres = fibres_of(elements, draws, geometry, k)
    return _snapped(elements, fibres, "up"), _snapped(elements, _mirrored(fibres), "down")


def _snapped(elements: Elements, fibres: Fibres, direction: Literal["up", "down"]) -> Snap:
    """Bend a section until it parts, by hand (displacement control), and say what it does.

    The first break's moment M₁ is compared with the peak M_r that the cracked section can carry. A snap releases
    (M₁² − M_r²)/2EI per length; the tapes across the crack must take it up by stretching and coming off, else it snaps.
    """
    depth = float(fibres.z.max() - fibres.z.min())
    fold = 2 * FOLD_STRAIN / depth
    curvature = np.concatenate([np.linspace(0, 0.2, 17)[1:], np.linspace(0.2, 1.2, 29)[1:]]) * fold
    moment, base = _moments(fibres, curvature, cracked=False)
    after, _ = _moments(fibres, curvature, cracked=True)
    events = _events(fibres, curvature, moment, base)
    first = next((e for e in events if e.breaks), None)
    residual = float(after.max())
    if first is None or first.curvature > fold:
        stays = elements.foam.springback < SPRINGS_BACK
        peak = float(moment[curvature <= fold].max())
        manner: Manner = "folds and stays bent" if stays else "folds and springs back"
        return Snap(direction, manner, peak, min(residual, peak), 1.0, tuple(events), curvature, moment, after)
    residual = min(residual, first.moment)
    share = residual / first.moment
    stiffness = moment[0] / curvature[0]
    length = 10 * depth
    released = max(first.moment**2 - residual**2, 0.0) * length / (6 * stiffness)
    outer = fibres.z < 0
    tied = (fibres.foam == 0) & outer
    takes = float((fibres.amount * np.minimum(fibres.hold, fibres.pull) * PEEL_LENGTH_MM * 0.02)[tied].sum())
    holds = share >= 0.1 and takes >= released
    return Snap(
        direction,
        "cracks, hangs together" if holds else "snaps",
        first.moment,
        residual if holds else 0.0,
        share if holds else 0.0,
        tuple(events),
        curvature,
        moment,
        after,
    )
