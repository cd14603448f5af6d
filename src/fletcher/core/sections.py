"""Section sums: modulus-weighted areas and moments of every station, for all samples at once.

Arrays carry axes (samples, stations) = (S, n); geometry alone has (n,), element geometry (items, n).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from fletcher.core.elements import Elements, Membrane
from fletcher.core.evidence import BarDraw, FoamDraw, SkinDraw, draw_bar, draw_foam, draw_skin
from fletcher.core.outline import COLUMN_WEIGHT, COLUMN_X, Array, faces

_ARC_POINTS = 33


@dataclass(frozen=True)
class Draws:
    """Sampled values of all materials of one part, in the order of its elements."""

    foam: FoamDraw
    skins: tuple[SkinDraw, ...]
    bars: tuple[BarDraw, ...]


def draws_of(elements: Elements) -> Draws:
    """Sampled material values of a part's foam, membranes and bars."""
    return Draws(
        draw_foam(elements.foam),
        tuple(draw_skin(m.skin) for m in elements.membranes),
        tuple(draw_bar(b.stock) for b in elements.bars),
    )


@dataclass(frozen=True)
class Geometry:
    """Geometry of n stations. Foam moments are split at `split` (n,), the neutral axis: `foam_below` and
    `foam_above` are (3, n): ∫dA, ∫z dA, ∫z² dA. `skin` is (membranes, 3, n): ∫ds, ∫z ds, ∫z² ds along the mid-plane
    of each membrane; `bar_x`, `bar_z` (bars, n). `*_on` are 0 or 1. `z_low`, `z_high`, `skin_low`, `skin_high` bound z.
    """

    y: Array
    chord: Array
    thickness: Array
    split: Array
    foam_below: Array
    foam_above: Array
    foam_x: Array
    skin: Array
    skin_x: Array
    skin_low: Array
    skin_high: Array
    skin_on: Array
    bar_x: Array
    bar_z: Array
    bar_on: Array
    z_low: Array
    z_high: Array


def _foam_moments(lower: Array, upper: Array, weight: Array) -> Array:
    """∫dA, ∫z dA, ∫z² dA of columns between two heights; shapes (n, k), result (3, n)."""
    return np.stack([((upper**p - lower**p) * weight).sum(-1) / p for p in (1, 2, 3)])


def _arc(elements: Elements, membrane: Membrane, y: Array) -> tuple[Array, Array, Array, Array]:
    """Moments of a membrane's mid-plane: z moments (3, n), x moments (3, n), lowest and highest z (n,)."""
    chord, thickness = elements.chord(y), elements.thickness(y)
    if membrane.face in ("front", "rear"):
        edge = np.full_like(chord, 0.0 if membrane.face == "front" else 1.0)
        low, high = faces(elements.outline, edge, chord, thickness)
        length, middle, x = high - low, 0.5 * (high + low), edge * chord
        z = np.stack([length, length * middle, length * middle**2 + length**3 / 12])
        return z, np.stack([length, length * x, length * x**2]), low, high
    front, rear = elements.strip_edges(membrane, y)
    t = 0.5 * (1 - np.cos(np.linspace(0, np.pi, _ARC_POINTS)))
    x = np.clip(front[:, None] + t * (rear - front)[:, None], 0.0, chord[:, None])
    low, high = faces(elements.outline, x / chord[:, None], chord[:, None], thickness[:, None])
    z = high if membrane.face == "upper" else low
    dx, dz = np.diff(x, axis=1), np.diff(z, axis=1)
    ds = np.hypot(dx, dz)
    side = 1.0 if membrane.face == "upper" else -1.0
    out = side * membrane.offset_mm * dx / np.maximum(ds, 1e-12)
    middle = 0.5 * (z[:, 1:] + z[:, :-1]) + out
    x_middle = 0.5 * (x[:, 1:] + x[:, :-1])
    moments = np.stack([ds.sum(1), (ds * middle).sum(1), (ds * (middle**2 + dz**2 / 12)).sum(1)])
    x_moments = np.stack([ds.sum(1), (ds * x_middle).sum(1), (ds * (x_middle**2 + dx**2 / 12)).sum(1)])
    return moments, x_moments, (middle - np.abs(dz) / 2).min(1), (middle + np.abs(dz) / 2).max(1)


def geometry_of(elements: Elements, y: Array, inside: Array, split: Array | None = None) -> Geometry:
    """Geometry of stations at y (n,). `inside` (n,) is a place just within the segment a station belongs to, which
    decides what is present where elements start and end. `split` parts tension from compression in the foam."""
    chord, thickness = elements.chord(y), elements.thickness(y)
    lower, upper = faces(elements.outline, COLUMN_X[None, :], chord[:, None], thickness[:, None])
    weight = COLUMN_WEIGHT[None, :] * chord[:, None]
    if split is None:
        whole = _foam_moments(lower, upper, weight)
        split = whole[1] / whole[0]
    cut = np.clip(split[:, None], lower, upper)
    x = COLUMN_X[None, :] * chord[:, None]
    column = (upper - lower) * weight
    foam_x = np.stack([column.sum(1), (column * x).sum(1), (column * x**2).sum(1)])
    n, m, b = len(y), len(elements.membranes), len(elements.bars)
    arcs = [_arc(elements, membrane, y) for membrane in elements.membranes]
    centres = [elements.bar_centre(bar, y) for bar in elements.bars]

    def presence(spans: list[tuple[float, float]]) -> Array:
        on = [(inside > start) & (inside < end) for start, end in spans]
        return np.array(on, dtype=np.float64).reshape(len(spans), n)

    return Geometry(
        y=y,
        chord=chord,
        thickness=thickness,
        split=split,
        foam_below=_foam_moments(lower, cut, weight),
        foam_above=_foam_moments(cut, upper, weight),
        foam_x=foam_x,
        skin=np.array([a[0] for a in arcs]).reshape(m, 3, n),
        skin_x=np.array([a[1] for a in arcs]).reshape(m, 3, n),
        skin_low=np.array([a[2] for a in arcs]).reshape(m, n),
        skin_high=np.array([a[3] for a in arcs]).reshape(m, n),
        skin_on=presence([(i.start, i.end) for i in elements.membranes]),
        bar_x=np.array([c[0] for c in centres]).reshape(b, n),
        bar_z=np.array([c[1] for c in centres]).reshape(b, n),
        bar_on=presence([(i.start, i.end) for i in elements.bars]),
        z_low=lower.min(1),
        z_high=upper.max(1),
    )


@dataclass(frozen=True)
class Sums:
    """Stiffness sums (S, n) unless said otherwise. The *host* is foam with skins; bars are tied to it by the foam in
    shear. `whole` means all together without slip. `bar_EA` (S, bars, n) is the excess over the foam displaced,
    zero where a bar is absent; `arm` (S, bars, n) = −(z_bar − z_host)."""

    host_EA: Array
    host_z: Array
    host_EI: Array
    bar_EA: Array
    arm: Array
    whole_EA: Array
    whole_z: Array
    whole_EI: Array
    edge_EI: Array
    edge_x: Array
    """Modulus-weighted centroid aft of the local leading edge, mm."""
    skin_Et: Array
    """(S, membranes) stiffness per width of all plies, N/mm."""


def sums_of(elements: Elements, draws: Draws, geometry: Geometry) -> Sums:
    """Modulus-weighted sums of every station and sample.

    EA = ∫E dA, z̄ = ∫E z dA / EA, EI = ∫E (z − z̄)² dA (transformed-section method, Timoshenko & Gere). Foam below
    the split takes its tension modulus, foam above its compression modulus.
    """
    g = geometry
    e_t, e_c = draws.foam.E_tension[:, None], draws.foam.E_compression[:, None]
    moments = [e_t * g.foam_below[p] + e_c * g.foam_above[p] for p in range(3)]
    samples = len(draws.foam.G)
    skin_Et = np.array([d.Et * m.plies for d, m in zip(draws.skins, elements.membranes, strict=True)])
    skin_Et = skin_Et.reshape(-1, samples).T
    for p in range(3):
        moments[p] = moments[p] + skin_Et @ (g.skin[:, p] * g.skin_on)
    host_EA = moments[0]
    host_z = moments[1] / host_EA

    bar_E = np.array([d.E for d in draws.bars]).reshape(-1, samples).T
    area = np.array([b.stock.area_mm2 for b in elements.bars])
    own = np.array([b.stock.second_moment_mm4(b.on_edge) for b in elements.bars])
    displaced = np.where(g.bar_z < g.split, e_t[..., None], e_c[..., None])
    bar_EA = np.maximum(bar_E[..., None] - displaced, 0.0) * area[None, :, None] * g.bar_on
    own_EI = ((bar_E * own) @ g.bar_on) if len(own) else 0.0
    host_EI = moments[2] - host_EA * host_z**2 + own_EI
    whole_EA = host_EA + bar_EA.sum(1)
    whole_z = (moments[1] + (bar_EA * g.bar_z).sum(1)) / whole_EA
    whole_EI = moments[2] + (bar_EA * g.bar_z**2).sum(1) + own_EI - whole_EA * whole_z**2

    mean_E = 0.5 * (e_t + e_c)
    x_moments = [
        mean_E * g.foam_x[p] + skin_Et @ (g.skin_x[:, p] * g.skin_on) + (bar_EA * g.bar_x**p).sum(1) for p in range(3)
    ]
    edge_EI = x_moments[2] - x_moments[1] ** 2 / x_moments[0]
    return Sums(
        host_EA=host_EA,
        host_z=host_z,
        host_EI=host_EI,
        bar_EA=bar_EA,
        arm=host_z[:, None, :] - g.bar_z[None],
        whole_EA=whole_EA,
        whole_z=whole_z,
        whole_EI=whole_EI,
        edge_EI=edge_EI,
        edge_x=x_moments[1] / x_moments[0],
        skin_Et=skin_Et,
    )


def _typical(draws: Draws) -> Draws:
    def first(values: object) -> object:
        return type(values)(**{k: None if v is None else v[:1] for k, v in vars(values).items()})

    return Draws(
        first(draws.foam),  # type: ignore[arg-type]
        tuple(first(s) for s in draws.skins),  # type: ignore[misc]
        tuple(first(b) for b in draws.bars),  # type: ignore[misc]
    )


def neutral_axis(elements: Elements, draws: Draws, y: Array, inside: Array) -> Geometry:
    """Geometry split at the neutral axis of the whole section, found with typical values.

    Samples share this split: strain is zero there, so that a small shift changes the sums in second order only.
    The iteration is a fixed point on the modulus-weighted centroid; foams differ by less than 1.7 in modulus, and
    it contracts by about that difference over four each round.
    """
    typical = _typical(draws)
    geometry = geometry_of(elements, y, inside)
    lower, upper = faces(elements.outline, COLUMN_X[None, :], geometry.chord[:, None], geometry.thickness[:, None])
    weight = COLUMN_WEIGHT[None, :] * geometry.chord[:, None]
    for _ in range(8):
        centroid = sums_of(elements, typical, geometry).whole_z[0]
        moved = float(np.max(np.abs(centroid - geometry.split) / geometry.thickness))
        cut = np.clip(centroid[:, None], lower, upper)
        geometry = Geometry(
            **{
                **vars(geometry),
                "split": centroid,
                "foam_below": _foam_moments(lower, cut, weight),
                "foam_above": _foam_moments(cut, upper, weight),
            }
        )
        if moved < 1e-6:
            break
    return geometry
