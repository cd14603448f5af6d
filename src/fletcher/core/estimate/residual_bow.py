r"""Warp: how skins that shrink, swell or are laid under tension bow and twist a part, and what cancels it.

Every skin wants to be shorter than its bed by a strain ε once it holds. With all layers held together the section takes
the curvature at which its forces and moments vanish,

.. math:: \kappa = \frac{\sum_i E_i A_i \varepsilon_i (z_i - \bar z)}{EI}

(Timoshenko 1925 for two layers, of which this is the sum over many). Work in stages adds stages, each on what is there
by then. A skin that pulls at an angle β to the part brings a shear flow n = E t ε sin β cos β, which twists it by
θ' = ∮ n q̂/(G t) ds, q̂ the flow of a unit torque (Betti's reciprocity).
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np
from scipy.integrate import cumulative_trapezoid

from fletcher.core.common.arrays import Array
from fletcher.core.common.quantities import F1, in_mm
from fletcher.core.document.airframe import FilmLayer, Laminate, StripLayer
from fletcher.core.estimate.prepare import Prepared
from fletcher.core.estimate.schema import Warp, WarpLine
from fletcher.core.layup.laminates import fibre_share, ply
from fletcher.core.materials.materials import Range
from fletcher.core.materials.tables import reference, table_rows
from fletcher.core.materials.uncertainty import Inputs, band, drawn, lognormal, normals
from fletcher.core.section.elements import Elements
from fletcher.core.section.partial_interaction import Mesh

_TOLD_MM = 0.05
"""Bows below this are not told as anybody's doing."""


@dataclass(frozen=True)
class Shrink:
    """By how much a family of skins is shorter than its bed once it holds, %, laid in its usual way."""

    strain_pct: Range
    way: str
    grade: str
    basis: str


@cache
def shrinks() -> dict[str, Shrink]:
    """The table of strains by family of skin."""
    return {
        row["family"]: Shrink(row["strain_pct"], row["way"], row["grade"], row["basis"])
        for row in table_rows("shrinks.csv", ("strain_pct",))
    }


def bow_curvature(EA: Array, first: Array, second: Array, strain: Array) -> Array:
    """Curvature of layers that are held together and want to shrink by `strain`, positive where the upper face does.

    Each of EA = ∫E dA, ∫E z dA, ∫E z² dA (own bending counted) and the strain has the layers along its first axis.
    """
    total, moment = EA.sum(0), first.sum(0)
    middle = moment / total
    EI = second.sum(0) - total * middle**2
    return np.asarray(((first - EA * middle) * strain).sum(0) / EI)


_DRAWS = 48
"""Samples for the bands."""


def _count() -> int:
    return 1 + min(drawn(), _DRAWS)


@dataclass(frozen=True)
class _Skin:
    """A membrane that shrinks: its number, layer and strain (S,)."""

    number: int
    layer: StripLayer | FilmLayer
    strain: Array


def _strain(layer: StripLayer | FilmLayer, family: str) -> Array:
    """Strain (S,) of a skin, positive where it wants to be shorter."""
    z = normals(f"shrink/{family}", 1)[0, : _count()]
    if layer.shrink_percent is None:
        known = shrinks().get(family)
        return np.zeros_like(z) if known is None else lognormal(known.strain_pct, z) / 100
    # what is set by hand is known to about a third
    size = abs(layer.shrink_percent)
    values = lognormal(Range(0.7 * size, size, 1.4 * size), z) / 100
    return np.asarray(values * np.sign(layer.shrink_percent))


def shrinking(elements: Elements) -> list[_Skin]:
    """The membranes that shrink."""
    out = []
    for i, m in enumerate(elements.membranes):
        layer = elements.part.layers[m.line]
        if isinstance(layer, StripLayer | FilmLayer) and not m.slack and m.face in ("upper", "lower"):
            strain = _strain(layer, m.skin.family)
            if np.any(strain):
                out.append(_Skin(i, layer, strain))
    return out


@dataclass(frozen=True)
class _Parts:
    """EA, ∫E z dA, ∫E z² dA and ∫E x dA, ∫E x² dA of one element, (S, n)."""

    EA: Array
    z1: Array
    z2: Array
    x1: Array
    x2: Array

    def __add__(self, other: _Parts) -> _Parts:
        return _Parts(*(getattr(self, f) + getattr(other, f) for f in ("EA", "z1", "z2", "x1", "x2")))


def _core(p: Prepared) -> _Parts:
    g, f = p.geometry, p.draws.foam
    E = f.E_compression[: _count(), None]  # skins that shrink press the whole core
    z = [E * (g.foam_below[n] + g.foam_above[n]) for n in range(3)]
    return _Parts(z[0], z[1], z[2], E * g.foam_x[1], E * g.foam_x[2])


def _membrane(p: Prepared, i: int) -> _Parts:
    g = p.geometry
    E = p.sums.skin_Et[: _count(), [i]] * g.skin_on[i]
    return _Parts(*(E * v for v in (g.skin[i, 0], g.skin[i, 1], g.skin[i, 2], g.skin_x[i, 1], g.skin_x[i, 2])))


def _bar(p: Prepared, i: int) -> _Parts:
    g = p.geometry
    EA = p.sums.bar_full[: _count(), i] * g.bar_on[i]
    z, x = g.bar_z[i], g.bar_x[i]
    return _Parts(EA, EA * z, EA * z**2, EA * x, EA * x**2)


def _stages(elements: Elements, skins: list[_Skin]) -> list[list[int]]:
    """Positions in `skins` that set at the same time, in the order of building."""
    out: list[list[int]] = []
    for line in dict.fromkeys(elements.membranes[s.number].line for s in skins):
        own = [n for n, s in enumerate(skins) if elements.membranes[s.number].line == line]
        laid = skins[own[0]].layer.laid
        if laid == "together":
            out.append(own)
            continue
        first = laid.removesuffix("_first")
        faces = [elements.membranes[skins[n].number].face for n in own]
        out.append([n for n, f in zip(own, faces, strict=True) if f == first])
        out.append([n for n, f in zip(own, faces, strict=True) if f != first])
    return [s for s in out if s]


@dataclass(frozen=True)
class _Turn:
    """What one skin does: curvature up and edgewise (1/mm) and twist per length (rad/mm), (S, n)."""

    up: Array
    back: Array
    twist: Array


def _turns(p: Prepared, skins: list[_Skin], stages: list[list[int]]) -> list[_Turn]:
    """What every skin does in its stage, on what lies under it by then: lines further down come later."""
    elements = p.elements
    core = _core(p)
    membranes = {i: _membrane(p, i) for i in range(len(elements.membranes))}
    bars = [(_bar(p, i), b.line) for i, b in enumerate(elements.bars)]
    turns: dict[int, _Turn] = {}
    done: set[int] = set()
    for stage in stages:
        now = {skins[n].number for n in stage}
        line = elements.membranes[skins[stage[0]].number].line
        there = core
        for i, parts in membranes.items():
            earlier = elements.membranes[i].line < line
            if i in now or i in done or earlier:
                there = there + parts
        for parts, at in bars:
            if at < line:
                there = there + parts
        z, x = there.z1 / there.EA, there.x1 / there.EA
        EI, edge = there.z2 - there.EA * z**2, there.x2 - there.EA * x**2
        for n in stage:
            skin = skins[n]
            m, e = membranes[skin.number], skin.strain[:, None]
            twist = _twist(p, skin)
            turns[n] = _Turn(e * (m.z1 - m.EA * z) / EI, e * (m.x1 - m.EA * x) / edge, twist)
        done |= now
    return [turns[n] for n in range(len(skins))]


def _slant(p: Prepared, number: int) -> Array:
    """Slope (n,) of a strip's middle against the line of shear centres, dx/dy."""
    g, y = p.geometry, p.geometry.y
    front, rear = g.skin_front[number], g.skin_rear[number]
    ends = [0, -1]
    run = float(y[-1] - y[0])
    middle = float(np.diff((0.5 * (front + rear))[ends])[0])
    axis = float(np.diff(p.fields.shear_centre[0][ends])[0])
    return np.full_like(y, (middle - axis) / run)


def _twist(p: Prepared, skin: _Skin) -> Array:
    """Twist per length (S, n) of one skin, nose up: strips that run askew, and one-way plies at an angle."""
    m, d = p.elements.membranes[skin.number], p.draws.skins[skin.number]
    count = _count()
    none = np.zeros((count, len(p.geometry.y)))
    flow = np.zeros_like(none)
    if m.strip:
        beta = np.arctan(_slant(p, skin.number))
        flow = d.Et[:count, None] * m.plies * skin.strain[:, None] * np.sin(beta) * np.cos(beta)
    elif isinstance(skin.layer.skin, Laminate):
        flow = flow + (skin.strain * _askew(skin.layer.skin) * m.plies)[:, None]
    if not np.any(flow):
        return none
    side = -1.0 if m.face == "upper" else 1.0
    width = p.geometry.skin[skin.number, 0] * p.geometry.skin_on[skin.number]
    unit = p.fields.skin_flow[skin.number][:count] / (d.Gt[:count, None] * m.plies)
    return np.asarray(side * flow * width * unit)


def _askew(laminate: Laminate) -> float:
    """Σ E t sin β cos β over the one-way plies of a laminate, N/mm; a woven cloth pulls both ways and cancels."""
    catalogue, total = reference(), 0.0
    resin = catalogue.resins[laminate.resin]
    share = fibre_share(laminate).typ
    for one in laminate.plies:
        cloth = catalogue.cloths[one.cloth]
        if cloth.weave != "one_way":
            continue
        along = ply(cloth, resin, resin.E_MPa.typ, share, cloth.crimp.typ)[0]
        t = cloth.areal_mass_g_m2.typ * 1e-6 / (cloth.fibre_density_g_cm3 * 1e-3 * share)
        beta = np.radians(one.angle_deg)
        total += along * t * float(np.sin(beta) * np.cos(beta))
    return total


def _integrate(values: Array, mesh: Mesh) -> Array:
    """Running integral (S, n) from the root."""
    return np.asarray(cumulative_trapezoid(values, mesh.y, axis=1, initial=0))


def _bow(curvature: Array, mesh: Mesh) -> tuple[Array, Array]:
    """Largest rise (S,) over the straight line from root to tip, with its sign, and the tip's rise with the root held,
    mm. A part whose ends come up lies hollow: the middle is below the line."""
    shape = _integrate(_integrate(curvature, mesh), mesh)
    tip = shape[:, -1]
    off = shape - tip[:, None] * mesh.y / mesh.y[-1]
    k = int(np.argmax(np.abs(off[0])))
    return off[:, k], tip


def warp_of(p: Prepared) -> Warp | None:
    """How a part warps as its skins set; None where nothing in it shrinks."""
    skins = shrinking(p.elements)
    if not skins:
        return None
    stages = _stages(p.elements, skins)
    turns = _turns(p, skins, stages)
    up, back, twist = (sum((getattr(t, f) for t in turns), np.zeros(1)) for f in ("up", "back", "twist"))
    bow, tip = _bow(up, p.mesh)
    behind, _ = _bow(back, p.mesh)
    turned = np.degrees(_integrate(twist, p.mesh)[:, -1])
    alone = [float(_bow(t.up[:1], p.mesh)[0][0]) for t in turns]
    lines = []
    for line in dict.fromkeys(p.elements.membranes[s.number].line for s in skins):
        own = [n for n, s in enumerate(skins) if p.elements.membranes[s.number].line == line]
        family = p.elements.membranes[skins[own[0]].number].skin.family
        lines.append(
            WarpLine(
                line_id=p.elements.part.layers[line].id,
                strain_percent=100 * float(skins[own[0]].strain[0]),
                bow_mm=sum(alone[n] for n in own),
                twist_deg=float(np.degrees(sum(_integrate(turns[n].twist[:1], p.mesh)[0, -1] for n in own))),
                way=shrinks()[family].way if skins[own[0]].layer.shrink_percent is None else "value you entered",
            )
        )
    strains = [(f"{p.elements.membranes[s.number].skin.name}: strain", s.strain) for s in skins]
    inputs = Inputs([*strains, ("foam in compression", p.draws.foam.E_compression[: _count()])])
    return Warp(
        bow_mm=band(bow, inputs),
        tip_mm=float(tip[0]),
        sweep_mm=band(-behind, inputs),
        twist_deg=band(turned, inputs),
        lines=lines,
        cancels=_cancels(p, skins, turns, float(bow[0])),
    )


def _cancels(p: Prepared, skins: list[_Skin], turns: list[_Turn], bow: float) -> list[str]:
    """What takes the bow out: laying both faces at once, or a counter strain on a skin that is there."""
    if abs(bow) < max(_TOLD_MM, 2e-4 * p.elements.part.span_mm):
        return []
    out = []
    staged = {id(s.layer) for s in skins if s.layer.laid != "together"}
    if staged:
        together = [_Skin(s.number, s.layer.model_copy(update={"laid": "together"}), s.strain) for s in skins]
        lines = dict.fromkeys(p.elements.membranes[s.number].line for s in together)
        stages = [[n for n, s in enumerate(together) if p.elements.membranes[s.number].line == k] for k in lines]
        left = sum((t.up[:1] for t in _turns(p, together, stages)), np.zeros(1))
        out.append(f"shrinking both faces by turns leaves {in_mm(abs(float(_bow(left, p.mesh)[0][0])), F1)} of it")
    for n, skin in enumerate(skins):
        m = p.elements.membranes[skin.number]
        typical = float(skin.strain[0])
        own = float(_bow(turns[n].up[:1], p.mesh)[0][0]) / typical
        needed = 100 * (typical - bow / own) if own else np.inf
        if 0 <= needed <= 1.5 and (bow > 0) != (own * typical > 0):
            out.append(
                f"{needed:.2g} % shrinkage in {m.skin.name} on the {m.face} face instead of {100 * typical:.2g} %"
            )
    hollow = "upper" if bow < 0 else "lower"
    other = "lower" if hollow == "upper" else "upper"
    faces = {p.elements.membranes[s.number].face for s in skins}
    if faces == {hollow}:
        out.append(f"put the same skin on the {other} face")
    if not out:
        out.append(f"stretch a tape along the {other} face, or weight it on a flat board while it sets")
    return out
