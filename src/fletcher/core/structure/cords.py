r"""Cords along an edge: their share of an edgewise pull, the bond that it needs, and how they spread a strike."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.materials.materials import Cord
from fletcher.core.materials.uncertainty import drawn, lognormal, normals
from fletcher.core.section.elements import Elements
from fletcher.core.section.partial_interaction import Mesh
from fletcher.core.section.properties import Draws, Geometry, Sums
from fletcher.core.strength.modes import Acting, Mode, at_stations

MINIMUM_BOND_MM = 20.0
"""[J] Over so much of its length a cord's glue evens out what it hands over."""


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
        # what is pulled at a place is handed over along all of the cord beyond it
        flow = np.maximum(rate, pull / np.maximum(room, MINIMUM_BOND_MM)) * on
        use = flow / cord.stock.grips_mm / draws.foam.shear[:, None]
        found.append(Mode("cord_bond", cord.line, cord.face, use, True))
    return found


@dataclass(frozen=True)
class FrontCord:
    """The cord in the front edge where it is struck: `EA` and `breaks` (S,) N, `wide` its diameter and `grips` what
    of it the glue holds around (mm), and `bonded` so far to its nearer end (mm). All nothing where there is none."""

    EA: Array
    breaks: Array
    wide: float = 0.0
    grips: float = 0.0
    bonded: float = 0.0


def front_cord(elements: Elements, at: float | None) -> FrontCord:
    """The cord in the front edge at a place; of several the stiffest counts."""
    none = np.zeros(1 + drawn())
    here = [c for c in elements.cords if at is not None and c.face == "front" and c.start <= at <= c.end]
    if not here or at is None:
        return FrontCord(none, none)
    best = max(here, key=lambda c: c.stock.EA_N.typ)
    d = draw_cord(best.stock)
    # towards the root it runs on into what the part is fixed to
    ends = [best.end - at] if best.start <= 1e-6 else [at - best.start, best.end - at]
    return FrontCord(d.EA, d.breaks, best.stock.diameter_mm, best.stock.grips_mm, max(min(ends), 0.0))
