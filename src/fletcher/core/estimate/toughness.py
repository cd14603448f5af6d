r"""Toughness: what bending a part until it cracks and parts takes, how far it goes, and what comes back.

The work per length is the area under the moment-curvature line, ∫M dκ; the hand bends about ten depths of a part, as
in `section.snap`. After the first break only the tapes across it take up work. A tear in the foam runs on
where the energy that it sets free, K²/E with K = 1.12 σ√(πa) of an edge crack, passes what tearing costs (Griffith
1921; Tada, Paris & Irwin 1985, § 2.10).
"""

from __future__ import annotations

import numpy as np
from scipy.integrate import cumulative_trapezoid

from fletcher.core.adhesion.bond_line import tear_table
from fletcher.core.common.arrays import Array
from fletcher.core.estimate import phrasing
from fletcher.core.estimate.analyse import Analysis
from fletcher.core.estimate.kept import kept
from fletcher.core.estimate.prepare import Prepared
from fletcher.core.estimate.schema import Toughness
from fletcher.core.materials.uncertainty import Band, Inputs, band, drawn, lognormal, normals
from fletcher.core.section.elastica import POINTS, Bent, bend_strip
from fletcher.core.section.snap import FOLD_STRAIN, Snap, released, tape_work
from fletcher.core.section.snap_fibres import Fibres, fibres_of, first_reached, moments

_LEVELS, _SKIN_POINTS, _POINTS, _DRAWS = 12, 5, 12, 24
"""Levels of foam, places over a skin's height, curvatures and samples for the bands."""

HAND_DEPTHS = 10.0
"""Depths of the part over which a hand bends it."""


def toughness_of(a: Analysis, k: int, snaps: tuple[Snap, Snap]) -> list[Toughness]:
    """Both ways of bending at station k of a part with a core. Only the tear hangs on the load."""
    p = a.prepared
    tough = kept(p, ("toughness", k), lambda: _both_ways(p, k, snaps))
    return [t.model_copy(update={"tear_mm": _tear(a, k, s)}) for t, s in zip(tough, snaps, strict=True)]


def _both_ways(p: Prepared, k: int, snaps: tuple[Snap, Snap]) -> list[Toughness]:
    count = 1 + min(drawn(), _DRAWS)
    fibres = fibres_of(p.elements, p.draws, p.geometry, k, count, _LEVELS, _SKIN_POINTS)
    inputs = p.inputs.first(count)
    ways = ((fibres, snaps[0]), (fibres.mirrored(), snaps[1]))
    return [_one_way(p, k, f, s, inputs) for f, s in ways]


def _one_way(p: Prepared, k: int, fibres: Fibres, snap: Snap, inputs: Inputs) -> Toughness:
    depth = fibres.depth
    length, fold = HAND_DEPTHS * depth, 2 * FOLD_STRAIN / depth
    reach = min(1.05 * fold, 3 * snap_curvature(snap))
    curvature = reach * np.linspace(0, 1, _POINTS + 1)[1:]
    moment, base = moments(fibres, curvature[None])
    cracks = first_reached(fibres, curvature, base, breaking=True)
    folds = not snap.manner.startswith(("snaps", "cracks"))
    ends = np.minimum(np.minimum(cracks, fold), reach)
    if not folds:  # a sample that would fold still counts to the edge of the fold
        ends[0] = min(snap_curvature(snap), fold)
    work, at_end = _work(curvature, moment, ends)
    first = length * work
    stiffness = moment[:, 0] / curvature[0]
    parts = None
    if not folds:
        residual = np.minimum(moments(fibres, fold * np.linspace(0.3, 1.2, 4)[None], cracked=True)[0].max(-1), at_end)
        free, takes = released(at_end, residual, stiffness, depth), tape_work(fibres)
        holds = (residual >= 0.1 * at_end) & (takes >= free)
        holds[0] = snap.manner == "cracks, but holds together"
        parts = band(first + np.where(holds, np.maximum(takes - free, 0.0), 0.0), inputs)
    elastic = at_end / stiffness
    foam = p.elements.foam
    left = float((1 - elastic[0] / ends[0]) * (1 - foam.springback))
    strip = _strip(p, k, snap, float(ends[0]), float(stiffness[0]))
    return Toughness(
        direction=snap.direction,
        folds=folds,
        what=_what(p, snap),
        first_mJ=band(first, inputs),
        parts_mJ=parts,
        over_mm=length,
        radius_mm=band(1 / ends, inputs),
        angle_deg=band(np.degrees(100 * ends), inputs),
        strip_mm=_free(p, k),
        tip_mm=None if strip is None else strip.across_mm,
        tip_deg=None if strip is None else float(np.degrees(strip.slope)),
        tip_N=None if strip is None else strip.load_N,
        line=[] if strip is None else _thinned(strip),
        set_percent=100 * max(left, 0.0),
        tear_mm=None,
        tear=_tear_words(snap),
        curvature=[float(f"{v:.4g}") for v in snap.curvature],
        moment_N_mm=[float(f"{v:.4g}") for v in snap.moment],
        cracked_N_mm=[float(f"{v:.4g}") for v in snap.cracked],
    )


def snap_curvature(snap: Snap) -> float:
    """Curvature of the first break, 1/mm; infinite where nothing breaks."""
    return next((e.curvature for e in snap.events if e.breaks), float("inf"))


def _work(curvature: Array, moment: Array, ends: Array) -> tuple[Array, Array]:
    """∫M dκ from nothing to `ends` (S,), N, and the moment there, N·mm; `moment` (S, c) at `curvature` (c,)."""
    k = np.concatenate([[0.0], curvature])
    m = np.concatenate([np.zeros((len(moment), 1)), moment], 1)
    total = cumulative_trapezoid(m, k, axis=1, initial=0)
    n = np.clip(np.searchsorted(k, ends, side="right") - 1, 0, len(k) - 2)
    rows = np.arange(len(moment))
    share = (ends - k[n]) / (k[n + 1] - k[n])
    at_end = m[rows, n] + share * (m[rows, n + 1] - m[rows, n])
    return total[rows, n] + 0.5 * (m[rows, n] + at_end) * (ends - k[n]), at_end


def _free(p: Prepared, k: int) -> float:
    """The longer side of the part from station k, mm."""
    y = float(p.geometry.y[k])
    return max(float(p.geometry.y[-1]) - y, y)


def _strip(p: Prepared, k: int, snap: Snap, end: float, stiffness: float) -> Bent | None:
    """The longer side of the part, held at station k and pushed at its far end until the first break comes.

    Each place softens as the section at k does at the same share of the bend that breaks it there: small sections
    elsewhere are taken to keep the shape of its line.
    """
    y, length = p.geometry.y, _free(p, k)
    outwards = length >= float(y[k]) - 1e-9
    place = y - y[k] if outwards else y[k] - y
    order = np.argsort(place, kind="stable")
    EI = p.sums.whole_EI[0][order] / p.sums.whole_EI[0][k] * stiffness
    m = np.concatenate([[0.0], snap.moment])
    kappa = np.concatenate([[0.0], snap.curvature])
    stop = int(np.searchsorted(kappa, end, side="left")) + 1
    top = float(np.interp(end, kappa, m))
    m, kappa = np.maximum.accumulate(m[:stop]), kappa[:stop]
    keep = np.concatenate([[True], np.diff(m) > 0])
    m, kappa = m[keep], kappa[keep]

    ratio = np.interp(np.linspace(0, length, POINTS), place[order], EI) / stiffness

    def law(moment: Array) -> Array:
        return np.asarray(np.interp(moment / ratio, m, kappa))

    return bend_strip(law, length, top) if length > 10 and top > 0 else None


def _thinned(strip: Bent) -> list[tuple[float, float]]:
    return [(round(float(x), 2), round(float(z), 2)) for x, z in zip(strip.x[::4], strip.z[::4], strict=True)]


def _tear(a: Analysis, k: int, snap: Snap) -> Band | None:
    """Longest tear in the pulled face that stays where it is at the load asked, mm; None where this case does not pull
    that face. Tears deeper than half of the part are not told."""
    p = a.prepared
    cost = tear_table().get(p.elements.foam.family)
    if cost is None or a.loading.read != "bend":
        return None
    moment = a.loading.moment[:, k] * a.case.safety_factor
    if (float(moment[0]) > 0) != (snap.direction == "up") or not float(moment[0]):
        return None
    count = len(p.draws.foam.G)
    face = p.geometry.z_low[k] if moment[0] > 0 else p.geometry.z_high[k]
    strain = np.abs(moment / p.sums.whole_EI[:, k] * (face - p.sums.whole_z[:, k]))
    E = p.draws.foam.E_tension
    stress = np.maximum(E * strain, 1e-9)
    tears = lognormal(cost, normals("tear/" + p.elements.foam.family, 1)[0, :count]) * 1e-3
    longest = tears * E / (np.pi * (1.12 * stress) ** 2)
    deep = 0.5 * float(p.geometry.z_high[k] - p.geometry.z_low[k])
    return band(np.minimum(longest, deep), p.inputs)


def _what(p: Prepared, snap: Snap) -> str:
    """What breaks first, in words."""
    first = next((e for e in snap.events if e.breaks), None)
    if first is None or snap.manner.startswith("folds"):
        return "folds"
    elements = p.elements
    label = phrasing.line_label(elements, first.line)
    if first.line is None:
        return f"{label} cracks"
    bar = any(b.line == first.line for b in elements.bars)
    if first.what == "push":
        return f"{label} {'buckles' if bar else 'kinks'}"
    return f"{label} {'pulls apart' if bar else 'tears'}"


def _tear_words(snap: Snap) -> str:
    if snap.manner == "snaps":
        return "a starting tear runs right through"
    if snap.manner.startswith("cracks"):
        return "a starting tear is stopped by the skin on the tension face"
    return "no tear starts within the fold"
