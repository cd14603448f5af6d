"""Shear flexibility along the part: the two-dimensional solution at a few stations, read between them.

The solution is kept by content (outline, sizes, what lies where), so that a change of load, name or material
strength costs nothing.
"""

from __future__ import annotations

import itertools
from functools import lru_cache

import numpy as np

from fletcher.core.beam import Mesh
from fletcher.core.elements import Elements
from fletcher.core.outline import Array, Outline
from fletcher.core.sections import Draws, Geometry, Sums
from fletcher.core.warping import BarSpot, FaceSkin, solve

_STRONG_TAPER = 1.3
"""Size ratio along a segment above which its middle is solved as well as its ends."""


@lru_cache(maxsize=4096)
def _solved(
    outline: Outline,
    chord: float,
    thickness: float,
    split: float,
    skins: tuple[FaceSkin, ...],
    bars: tuple[BarSpot, ...],
) -> Array:
    return solve(outline, chord, thickness, split, list(skins), list(bars)).matrix


def _station_flexibility(elements: Elements, draws: Draws, geometry: Geometry, sums: Sums, k: int) -> Array:
    """C of station k for all samples, (S, G + 1, G + 1). The field is solved with typical skin-to-foam shear ratios;
    samples scale it with their foam's G and weight it with their moduli."""
    g = geometry
    here = [i for i in range(len(elements.membranes)) if g.skin_on[i, k]]
    bars_here = [i for i in range(len(elements.bars)) if g.bar_on[i, k]]
    foam_G = float(draws.foam.G[0])
    skins = []
    for i in here:
        m = elements.membranes[i]
        front, rear = (float(e[0]) for e in elements.strip_edges(m, g.y[[k]]))
        ratio = float(draws.skins[i].Gt[0]) * m.plies / foam_G
        skins.append(FaceSkin(m.face, round(front, 4), round(rear, 4), round(ratio, 4), round(m.offset_mm, 5)))
    spots = []
    for i in bars_here:
        bar = elements.bars[i]
        width, height = bar.stock.size(bar.on_edge)
        ratio = min(bar.stock.G_MPa.typ / foam_G, 1e4)
        spots.append(BarSpot(round(float(g.bar_x[i, k]), 4), round(float(g.bar_z[i, k]), 4), width, height, ratio))
    matrix = _solved(
        elements.outline,
        round(float(g.chord[k]), 4),
        round(float(g.thickness[k]), 4),
        round(float(g.split[k]), 3),
        tuple(skins),
        tuple(spots),
    )

    samples, bars = len(draws.foam.G), len(elements.bars)
    flexibility = np.zeros((samples, bars + 1, bars + 1))
    for absent in set(range(bars)) - set(bars_here):
        flexibility[:, absent + 1, absent + 1] = 1.0
    moduli = [draws.foam.E_tension, draws.foam.E_compression] + [sums.skin_Et[:, i] for i in here]
    EI, EA, z0 = sums.host_EI[:, k], sums.host_EA[:, k], sums.host_z[:, k]
    columns = len(moduli) * 2 + len(bars_here)
    bend = np.zeros((samples, columns))
    pull = np.zeros((samples, columns))
    for n, modulus in enumerate(moduli):
        bend[:, 2 * n], bend[:, 2 * n + 1] = modulus * z0 / EI, -modulus / EI
        pull[:, 2 * n] = modulus / EA
    vectors = [bend]
    for n, i in enumerate(bars_here):
        vector = -pull - sums.arm[:, i, [k]] * bend
        vector[:, 2 * len(moduli) + n] += 1.0
        vectors.append(vector)
    basis = np.stack(vectors, 1)
    small = basis @ matrix @ np.swapaxes(basis, 1, 2) / draws.foam.G[:, None, None]
    rows = np.array([0, *(i + 1 for i in bars_here)])
    flexibility[:, rows[:, None], rows[None, :]] = small
    return flexibility


def flexibility_along(elements: Elements, draws: Draws, geometry: Geometry, sums: Sums, mesh: Mesh) -> Array:
    """C of every station and sample, (S, n, G + 1, G + 1).

    Solved at the ends of every stretch between element ends (and in its middle where the part tapers strongly);
    between them the diagonal is read log-linearly and the coupling as a correlation.
    """
    samples, bars = len(draws.foam.G), len(elements.bars)
    out = np.zeros((samples, len(mesh.y), bars + 1, bars + 1))
    stops = elements.breaks()
    for a, b in itertools.pairwise(stops):
        stations = np.nonzero((mesh.inside > a) & (mesh.inside < b))[0]
        if not len(stations):
            continue
        first, last = stations[0], stations[-1]
        chosen = [first, last]
        size = geometry.chord * geometry.thickness
        if max(size[first], size[last]) > _STRONG_TAPER * min(size[first], size[last]) and len(stations) > 4:
            chosen.insert(1, stations[len(stations) // 2])
        solved = [_station_flexibility(elements, draws, geometry, sums, int(k)) for k in chosen]
        diagonal = np.stack([np.diagonal(s, axis1=1, axis2=2) for s in solved])
        root = np.sqrt(diagonal)
        correlation = np.stack(solved) / (root[..., :, None] * root[..., None, :])
        place = mesh.y[chosen]
        for s in stations:
            j = int(np.clip(np.searchsorted(place, mesh.y[s]) - 1, 0, len(place) - 2))
            t = (mesh.y[s] - place[j]) / (place[j + 1] - place[j])
            d = np.exp((1 - t) * np.log(root[j]) + t * np.log(root[j + 1]))
            c = (1 - t) * correlation[j] + t * correlation[j + 1]
            out[:, s] = c * d[:, :, None] * d[:, None, :]
    return out


def shear_stiffness(flexibility: Array, sums: Sums) -> Array:
    """GA_s (S, n) in N of the section without slip: all bars take their full share of the moment.

    Bar forces then change with the moment as n_g = EA_g a_g / EI (about the whole centroid), and
    1/GA_s = q^T C q for a unit shear force.
    """
    samples, n = sums.whole_EI.shape
    q = np.ones((samples, n, flexibility.shape[-1]))
    # strain of a bar without slip: curvature times its arm about the whole section's centroid
    about_whole = sums.arm + (sums.whole_z - sums.host_z)[:, None, :]
    q[..., 1:] = np.moveaxis(sums.bar_EA * about_whole / sums.whole_EI[:, None, :], 1, 2)
    return np.asarray(1 / np.einsum("sni,snij,snj->sn", q, flexibility, q))
