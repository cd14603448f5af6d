r"""Cords along an edge: their share of an edgewise pull, the bond that it needs, and how they spread a strike."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from fletcher.core.beam import Mesh
from fletcher.core.elements import Elements
from fletcher.core.evidence import drawn, lognormal, normals
from fletcher.core.materials import Cord
from fletcher.core.outline import Array
from fletcher.core.sections import Draws, Geometry, Sums
from fletcher.core.strength import Acting, Mode, at_stations


@dataclass(frozen=True)
class CordDraw:
    """Sampled values of a cord, each (S,): EA and breaking load in N, mass in g/mm."""

    EA: Array
    breaks: Array
    mass: Array


def draw_cord(cord: Cord) -> CordDraw:
    """Sampled values of one cord."""
    z = normals("cord/" + cord.key, 3)[:, : 1 + drawn()]
    return CordDraw(
        EA=lognormal(cord.EA_N, z[0]),
        breaks=lognormal(cord.break_N, z[1]),
        mass=lognormal(cord.mass_g_per_m, z[2]) * 1e-3,
    )


@dataclass(frozen=True)
class Edgewise:
    """Edgewise stiffness (S, n) with the cords that are pulled, and the centroid aft of the leading edge."""

    EI: Array
    x: Array


def pulled_edge(elements: Elements, geometry: Geometry, sums: Sums, edge: Array) -> Edgewise:
    """Edgewise stiffness where `edge` (S, n) bends the part: cords on the pulled side join in, the others go slack.

    Parallel-axis sums of the section and of each cord, which is taken to be bonded without slip.
    """
    EI, x, EA = sums.edge_EI, sums.edge_x, sums.whole_EA
    rear_pulled = float(edge[0].sum()) > 0
    for cord in elements.cords:
        if (cord.face == "rear") != rear_pulled:
            continue
        on = (geometry.inside > cord.start) & (geometry.inside < cord.end)
        own = draw_cord(cord.stock).EA[:, None] * on
        place = geometry.chord if cord.face == "rear" else np.zeros_like(geometry.chord)
        total = EA + own
        middle = (EA * x + own * place) / total
        EI = EI + EA * (x - middle) ** 2 + own * (place - middle) ** 2
        x, EA = middle, total
    return Edgewise(np.asarray(EI), np.asarray(x))


def cord_modes(elements: Elements, draws: Draws, geometry: Geometry, acting: Acting, mesh: Mesh) -> list[Mode]:
    """Pull of every cord against what it bears, and against the bond that hands it over: the rate of its force along
    the edge, and near its ends all of its force on what bonded length is left."""
    found: list[Mode] = []
    if not np.any(acting.edge):
        return found
    y = geometry.y
    for cord in elements.cords:
        d = draw_cord(cord.stock)
        on = (geometry.inside > cord.start) & (geometry.inside < cord.end)
        place = geometry.chord if cord.face == "rear" else np.zeros_like(geometry.chord)
        pull = np.maximum(acting.edge * (place - acting.edge_x) + acting.axial, 0.0) * d.EA[:, None] * on
        found.append(Mode("cord_pull", cord.line, cord.face, pull / d.breaks[:, None], True))
        if elements.hollow:
            continue
        rate = at_stations(mesh, np.abs(pull[:, mesh.left + 1] - pull[:, mesh.left]) / mesh.length)
        left = np.full_like(y, np.inf) if cord.start < 1e-6 else np.maximum(y - cord.start, 1.0)
        room = np.minimum(left, np.maximum(cord.end - y, 1.0))
        flow = np.maximum(rate, pull / room) * on
        use = flow / cord.stock.grips_mm / draws.foam.shear[:, None]
        found.append(Mode("cord_bond", cord.line, cord.face, use, True))
    return found


def front_cords(elements: Elements, at: float | None) -> tuple[Array, Array]:
    """EA and breaking load (S,) of all cords in the front edge at a place; zeros where there is none."""
    none = np.zeros(1 + drawn())
    if at is None:
        return none, none
    here = [draw_cord(c.stock) for c in elements.cords if c.face == "front" and c.start <= at <= c.end]
    return sum((d.EA for d in here), none), sum((d.breaks for d in here), none)


def struck(per_length: Array, contact: float, EA: Array, breaks: Array, energy: float) -> tuple[Array, Array]:
    r"""Force (N) and depth (mm), each (S,), of a strike that spends its energy in crushing an edge with a cord in it.

    The edge resists with p (N/mm) over the contact c and, on either side, over the length that the cord's tension T
    pushes in: a string on a rigid-plastic bed, w'' = p/T, engages s = √(2Tw/p). Then F = p (c + 2s) and the energy is
    ∫F dw = p c w + (4/3) √(2pT) w^{3/2}. The cord's strain is its stretch p²s³/3T² over 2s + c, at most its breaking
    load. `energy` in N·mm, the rest (S,).
    """
    p = per_length
    tension = 0.02 * EA
    depth = energy / (p * contact)
    for _ in range(60):
        share = 4 / 3 * np.sqrt(2 * p * tension)
        for _ in range(8):
            spent = p * contact * depth + share * depth**1.5
            depth = np.maximum(depth - (spent - energy) / (p * contact + 1.5 * share * np.sqrt(depth)), 0.1 * depth)
        reach = np.sqrt(2 * tension * depth / p)
        stretch = p**2 * reach**3 / np.maximum(3 * tension**2, 1e-12)
        wanted = np.minimum(EA * stretch / (2 * reach + contact), breaks)
        tension = np.sqrt(tension * wanted)
    reach = np.sqrt(2 * tension * depth / p)
    return np.asarray(p * (contact + 2 * reach)), np.asarray(depth)
