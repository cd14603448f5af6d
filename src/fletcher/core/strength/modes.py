"""What gives first: the share of its strength that each element uses, mode by mode.

Stresses follow the linear response of the beam; each mode has its own limit. "Breaks" part something; "gives" are
yield events (crushing foam, wrinkling skin, drawing film) after which the part still hangs together.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from fletcher.core.common.arrays import Array, BoolArray
from fletcher.core.materials.materials import Foam
from fletcher.core.materials.uncertainty import PEEL, draw_factor
from fletcher.core.section.buckling import buckling_loads, skin_limits
from fletcher.core.section.elements import Elements, Hole, PlacedBar
from fletcher.core.section.partial_interaction import Mesh, Response
from fletcher.core.section.properties import Draws, Geometry, Sums
from fletcher.core.section.shear_stiffness import Fields
from fletcher.core.section.splices import splice_bends, splice_holds, splice_twists


@dataclass(frozen=True)
class Mode:
    """One way to fail. `use` (S, n) is the share of strength used at the load (no factor of safety); `line` is the
    lay-up line it belongs to, None for the foam; `breaks` parts breaks from events after which it holds together;
    `item` the membrane or bar."""

    kind: str
    line: int | None
    where: str
    use: Array
    breaks: bool
    item: int | None = None


@dataclass(frozen=True)
class Acting:
    """What acts on the sections of a part under its load. `response` is the bending answer; `edge` (S, n) the edgewise
    curvature, positive where the rear edge is pulled, about `edge_x`; `shear` and `torque` (S, n) the size of shear
    force (N) and twisting moment (N·mm); `axial` the strain of a push or pull along the part."""

    response: Response
    edge: Array
    edge_x: Array
    shear: Array
    torque: Array
    axial: Array

    @property
    def bends(self) -> bool:
        """Whether anything strains the part lengthwise."""
        return bool(np.any(self.response.curvature) or np.any(self.edge) or np.any(self.axial))


@dataclass(frozen=True)
class Strains:
    """Largest strains of things that reach over a range of a section, under bending and edgewise bending together."""

    acting: Acting
    sums: Sums

    @cached_property
    def along(self) -> Array:
        """Strain at z = 0, (S, n)."""
        r = self.acting.response
        return np.asarray(r.axial + self.acting.axial + r.curvature * self.sums.host_z)

    @cached_property
    def bent(self) -> Array:
        """Size of the curvature, (S, n)."""
        return np.abs(self.acting.response.curvature)

    @cached_property
    def pushed(self) -> bool:
        """Whether anything pushes or pulls along it."""
        return bool(np.any(self.acting.axial))

    @cached_property
    def swings(self) -> bool:
        """Whether anything bends it edgewise."""
        return bool(np.any(self.acting.edge))

    def between(self, low: Array, high: Array, front: Array, rear: Array) -> tuple[Array, Array]:
        """Largest pull and largest push (both ≥ 0) over heights low to high and places front to rear, (n,) each."""
        curvature, along = self.acting.response.curvature, self.along
        one, other = along - curvature * low, along - curvature * high
        pull, push = np.maximum(one, other), -np.minimum(one, other)
        if self.swings:
            one, other = (self.acting.edge * (x - self.acting.edge_x) for x in (front, rear))
            pull, push = pull + np.maximum(one, other), push - np.minimum(one, other)
        return np.maximum(pull, 0, out=pull), np.maximum(push, 0, out=push)


def _foam_modes(draws: Draws, geometry: Geometry, strains: Strains) -> list[Mode]:
    f = draws.foam
    nose, tail = np.zeros_like(geometry.chord), geometry.chord
    pull, push = strains.between(geometry.z_low, geometry.z_high, nose, tail)
    acting = strains.acting
    if np.any(acting.edge):
        rear_pulled = acting.edge[0].sum() > 0
        pulled, pressed = ("rear", "front") if rear_pulled else ("front", "rear")
    else:
        pulled, pressed = ("lower", "upper") if acting.response.curvature[0].sum() >= 0 else ("upper", "lower")
    return [
        Mode("foam_tension", None, pulled, pull * (f.E_tension / f.tensile)[:, None], True),
        Mode("foam_crush", None, pressed, push * (f.E_compression / f.crush)[:, None], False),
    ]


def at_stations(mesh: Mesh, per_element: Array) -> Array:
    """Values of elements (..., e) at stations (..., n): the larger of an element's neighbours in its stretch."""
    before, after = mesh.beside
    return np.maximum(np.take(per_element, before, axis=-1), np.take(per_element, after, axis=-1))


EVENS_OUT_MM = {True: 25.0, False: 60.0}
"""[J] Length along a bar over which brittle foam (its cells, the fillet of glue), and foam that yields, evens out the
shear
beside it before it tears."""


def handed_over(mesh: Mesh, force_rate: Array, foam: Foam) -> Array:
    """Force that bars hand over per length (..., n), N/mm, from its rate in every element (..., e): the mean over the
    length along which the foam evens it out."""
    ends = np.concatenate([mesh.y[mesh.left[:1]], mesh.y[mesh.left + 1]])
    total = np.concatenate([np.zeros((*force_rate.shape[:-1], 1)), np.cumsum(force_rate * mesh.length, -1)], -1)
    reach = min(EVENS_OUT_MM[foam.brittle], float(ends[-1] - ends[0]))
    low = np.clip(mesh.y - reach / 2, ends[0], ends[-1] - reach)

    def force(at: Array) -> Array:
        k = np.clip(np.searchsorted(ends, at, side="right") - 1, 0, len(ends) - 2)
        t = (at - ends[k]) / np.maximum(ends[k + 1] - ends[k], 1e-12)
        return np.asarray(total[..., k] * (1 - t) + total[..., k + 1] * t)

    return np.asarray(np.abs(force(low + reach) - force(low)) / reach)


@dataclass(frozen=True)
class SkinLimit:
    """Shares of strength of a skin: per unit of pulling and pressing strain, per unit of the difference of both at the
    strip's ends, and of a strip's bond per newton of shear, (S, n); `crushes` (n,) where its crushing stress lies below
    its wrinkling."""

    pull: Array
    push: Array
    crushes: BoolArray
    ends: Array | None
    slides: Array | None
    gives: Array
    """Strain (S, n or 1) at which it wrinkles or crushes when pressed."""
    buckles: Array | None
    """Strain (S, n) at which a wall between its supports buckles as a plate; None on a core."""


@dataclass(frozen=True)
class BarLimit:
    """Of a bar, (S, n): its strain per newton of excess force, its E where it is, E times half its height and half its
    width; per unit of pushing strain the share of its buckling load; per N/mm of force rate that of its bond; 1 over
    its strengths (S, 1)."""

    strain: Array
    E: Array
    high: Array
    wide: Array
    buckles: Array
    bond: Array
    full: Array
    tensile: Array
    compressive: Array


@dataclass(frozen=True)
class Limits:
    """What the skins and bars of a part bear, whatever the load."""

    skins: list[SkinLimit]
    bars: list[BarLimit]


def limits_of(elements: Elements, draws: Draws, geometry: Geometry, sums: Sums) -> Limits:
    """The limits of a part, as factors on strains and forces."""
    skins = [
        _skin_limit(elements, draws, geometry, sums, i, stress)
        for i, stress in enumerate(skin_limits(elements, draws, geometry))
    ]
    loads = buckling_loads(elements, draws, geometry)
    return Limits(skins, [_bar_limit(elements, draws, geometry, sums, i, load) for i, load in enumerate(loads)])


def _skin_limit(elements: Elements, draws: Draws, geometry: Geometry, sums: Sums, i: int, stress: Array) -> SkinLimit:
    m, d, f = elements.membranes[i], draws.skins[i], draws.foam
    stiff = (d.Et * m.takes / m.skin.thickness_mm.typ)[:, None] * geometry.skin_on[i]
    crushes = np.zeros(len(geometry.y), bool)
    E, alone = (d.Et / m.skin.thickness_mm.typ)[:, None], stress
    if d.compressive is not None:
        crushes = d.compressive[0] < np.broadcast_to(stress[0], geometry.y.shape)
        stress = np.minimum(stress, d.compressive[:, None])
    buckles = None
    gives = stress / (E * m.takes)
    if elements.hollow and m.plate is not None and d.compressive is not None:
        gives = d.compressive[:, None] / E
        buckles = None if m.face == "level" else alone / E
    strength = d.tensile if d.draws_out is None else d.draws_out
    slides = None
    if m.strip and not elements.hollow:
        holds = f.shear if d.adhesive_shear is None else np.minimum(d.adhesive_shear, f.shear)
        arm = np.abs(0.5 * (geometry.skin_low[i] + geometry.skin_high[i]) - sums.whole_z)
        slides = sums.skin_Et[:, [i]] * arm / sums.whole_EI * geometry.skin_on[i] / holds[:, None]
    ends = _strip_ends(elements, draws, geometry, i) if m.strip and m.plate is None else None
    return SkinLimit(stiff / strength[:, None], stiff / stress, crushes, ends, slides, gives, buckles)


def _strip_ends(elements: Elements, draws: Draws, geometry: Geometry, i: int) -> Array | None:
    """A strip that ends where it is strained peels when the energy that its end would set free, N²/2Et per width,
    reaches what peeling costs, Γ: N = √(2ΓEt) (Kendall 1975). Its start at the root runs on."""
    m, y = elements.membranes[i], geometry.y
    ends = np.zeros_like(y)
    for place, inside in ((m.start, geometry.inside > m.start), (m.end, geometry.inside < m.end)):
        if 1e-6 < place < elements.part.span_mm - 1e-6:
            ends += (np.abs(y - place) < 1e-6) & inside
    if not np.any(ends):
        return None
    Et = draws.skins[i].Et * m.plies * m.takes
    cost = m.skin.peel_N_per_25mm.typ / 25 * draw_factor(PEEL)
    return np.asarray((Et / np.sqrt(2 * cost * Et))[:, None] * ends)


def _bar_limit(elements: Elements, draws: Draws, geometry: Geometry, sums: Sums, i: int, buckling: Array) -> BarLimit:
    bar, d = elements.bars[i], draws.bars[i]
    on, width, height = geometry.bar_on[i], *(size * geometry.bar_scale[i] for size in bar.sizes(1.0))
    # the axial force counts what the bar carries beyond the foam it displaces
    excess = np.where(sums.bar_EA[:, i] > 0, sums.bar_EA[:, i], 1.0)
    # half of the perimeter carries: glue runs down one side, and the slot's mouth is open
    grip = 0.5 * bar.stock.perimeter_mm * geometry.bar_scale[i]
    E = d.E[:, None] * on
    full = sums.bar_full[:, i] * on
    return BarLimit(
        strain=1 / excess,
        E=E,
        high=E * height / 2,
        wide=E * width / 2,
        buckles=full / buckling,
        bond=on / grip / draws.foam.shear[:, None],
        full=full,
        tensile=1 / d.tensile[:, None],
        compressive=1 / d.compressive[:, None],
    )


def _shear_modes(
    elements: Elements, draws: Draws, geometry: Geometry, acting: Acting, fields: Fields, mesh: Mesh, limits: Limits
) -> list[Mode]:
    """Shear in the foam, along the bond lines of bars and strips, and in the skins of a twisted part."""
    shear, torque = acting.shear, acting.torque
    sheared, twisted = bool(np.any(shear)), bool(np.any(torque))
    if not (sheared or twisted):
        return []
    found = []
    if not elements.hollow:
        # the largest of bending and of twist, as if both stood at the same place
        stress = shear * fields.core_shear
        if twisted:
            stress += torque * fields.twist_shear
        found.append(Mode("core_shear", None, "core", stress / draws.foam.shear[:, None], True))
        flow = handed_over(mesh, acting.response.force_rate, elements.foam)
        for i, bar in enumerate(elements.bars):
            found.append(Mode("bar_bond", bar.line, bar.side, flow[:, i] * limits.bars[i].bond, True, i))
    if elements.hollow and twisted:
        for i, bar in enumerate(elements.bars):
            # its share of the torque by its share of GJ, at its rim: τ = G r θ′
            G, rim = draws.bars[i].G[:, None], 0.5 * max(bar.sizes(1.0)) * geometry.bar_scale[i]
            use = torque / fields.torsion * G * rim / draws.bars[i].shear[:, None] * geometry.bar_on[i]
            found.append(Mode("bar_twist", bar.line, bar.side, use, True, i))
            if bar.splices:
                found.append(Mode("bar_splice", bar.line, bar.side, _twisted_splices(bar, geometry, use), True, i))
    for i, membrane in enumerate(elements.membranes):
        slides, d = limits.skins[i].slides, draws.skins[i]
        if twisted or membrane.plate is not None:
            flow = torque * fields.skin_flow[i]
            if membrane.plate is not None:
                flow = flow + shear * fields.wall_flow[i]
            use = flow * (geometry.skin_on[i] / (membrane.thickness_mm * d.shear[:, None]))
            kind = "skin_shear" if membrane.plate is None else "wall_shear"
            found.append(Mode(kind, membrane.line, membrane.face, use, True, i))
        if slides is not None and sheared:
            found.append(Mode("strip_bond", membrane.line, membrane.face, shear * slides, True, i))
    return found


def modes(
    elements: Elements,
    draws: Draws,
    geometry: Geometry,
    sums: Sums,
    acting: Acting,
    fields: Fields,
    mesh: Mesh,
    limits: Limits,
) -> list[Mode]:
    """All modes of a part under what acts on it, shares of strength per station and sample. What does not act (no
    bending in a pure twist, no shear in a swing) has no modes."""
    sheared = _shear_modes(elements, draws, geometry, acting, fields, mesh, limits)
    if not acting.bends:
        return sheared
    strains = Strains(acting, sums)
    found: list[Mode] = []
    if not elements.hollow:
        found += _foam_modes(draws, geometry, strains) + _notch_modes(elements, draws, geometry, strains)
    for i, membrane in enumerate(elements.membranes):
        if not membrane.slack:
            found += _skin_modes(elements, draws, geometry, strains, i, limits.skins[i])
    for i in range(len(elements.bars)):
        found += _bar_modes(elements, geometry, strains, i, limits.bars[i])
    return found + sheared


def _skin_modes(
    elements: Elements, draws: Draws, geometry: Geometry, strains: Strains, i: int, limit: SkinLimit
) -> list[Mode]:
    m = elements.membranes[i]
    pull, push = strains.between(
        geometry.skin_low[i], geometry.skin_high[i], geometry.skin_front[i], geometry.skin_rear[i]
    )
    yields = draws.skins[i].draws_out is not None
    pulled, pressed = pull * limit.pull, push * limit.push
    kind = "wall_buckling" if elements.hollow and m.plate is not None else "skin_wrinkling"
    if limit.crushes[int(np.argmax(pressed[0]))]:
        kind = "skin_compression"
    found = [
        Mode("skin_yield" if yields else "skin_tension", m.line, m.face, pulled, not yields, i),
        Mode(kind, m.line, m.face, pressed, False, i),
    ]
    if limit.ends is not None:
        found.append(Mode("strip_end", m.line, m.face, np.abs(pull - push) * limit.ends, True, i))
    return found


NOTCH_FOAMS = frozenset({"EPS", "XPS", "foam_board_core"})
"""Brittle polystyrene foams, in which the corner of a cut starts a crack; bead foams that yield do not."""


def notch_factor(half_width: Array | float, radius: float) -> Array:
    """Stress at the corner of a cut over that beside it, 1 + 2√(a/(r + 2 mm)) [J] (Inglis 1913, with the cells'
    own roundness added to the radius)."""
    return np.asarray(1 + 2 * np.sqrt(np.asarray(half_width) / (radius + 2.0)))


def _notch_modes(elements: Elements, draws: Draws, geometry: Geometry, strains: Strains) -> list[Mode]:
    """Corners of cuts in brittle foam: the stress beside the cut, of the section that is still whole there."""
    found, f = [], draws.foam
    for hole, beside, low, high, front, rear, width in notched(elements, geometry):
        pull, _ = strains.between(low, high, front, rear)
        # a notch from an edge is half of the hole that its mirror image would make with it
        factor = notch_factor(width if hole.edge else width / 2, hole.radius_mm)
        use = pull * beside * factor * (f.E_tension / f.tensile)[:, None]
        found.append(Mode("notch", hole.line, hole.face, use, True))
    return found


def notched(
    elements: Elements, geometry: Geometry
) -> Iterator[tuple[Hole, BoolArray, Array, Array, Array, Array, Array]]:
    """Cuts with corners in brittle foam: the cut, the stations beside it (n,), lowest and highest place, front and rear
    of its corners, and its width there (n,) mm."""
    if elements.foam.family not in NOTCH_FOAMS:
        return
    for hole in elements.holes:
        front, rear = elements.edges(hole, geometry.y)
        beside = (np.abs(geometry.y - hole.start) < 1e-6) & (geometry.inside < hole.start)
        beside |= (np.abs(geometry.y - hole.end) < 1e-6) & (geometry.inside > hole.end)
        if not np.any(beside):
            continue
        depth = np.minimum(hole.depth_mm, geometry.z_high - geometry.z_low)
        low = geometry.z_low if hole.face != "upper" else geometry.z_high - depth
        high = geometry.z_high if hole.face != "lower" else geometry.z_low + depth
        if hole.face == "inside":
            middle = 0.5 * (geometry.z_low + geometry.z_high)
            low, high = middle - depth / 2, middle + depth / 2
        yield hole, beside, low, high, front, rear, _steps(elements, hole, geometry.y)


def _steps(elements: Elements, hole: Hole, y: Array) -> Array:
    """Width of a cut at stations (n,), mm: at its ends what is left of it beside a neighbour in the same edge, for an
    outline that goes on has no corner there."""
    front, rear = elements.edges(hole, y)
    width = np.maximum(rear - front, 0.0)
    for other in elements.holes:
        meets = [end for end, to in ((hole.start, other.end), (hole.end, other.start)) if abs(end - to) < 1e-6]
        if hole.edge and other.edge == hole.edge and meets:
            first, last = elements.edges(other, y)
            at = np.min(np.abs(y[:, None] - np.array(meets)), axis=1) < 1e-6
            width = np.where(at, np.maximum(width - np.maximum(last - first, 0.0), 0.0), width)
    return width


def _bar_modes(elements: Elements, geometry: Geometry, strains: Strains, i: int, limit: BarLimit) -> list[Mode]:
    bar, acting = elements.bars[i], strains.acting
    if not elements.slips:
        strain = strains.along - acting.response.curvature * geometry.bar_z[i]
    else:
        strain = acting.response.bar_force[:, i] * limit.strain
        if strains.pushed:
            strain = strain + acting.axial
    bending = strains.bent * limit.high
    if strains.swings:
        strain = strain + acting.edge * (geometry.bar_x[i] - acting.edge_x) * strains.sums.edge_follows[i]
        bending += np.abs(acting.edge) * limit.wide
    stress = strain * limit.E
    kind = bar.buckling_kind(elements.hollow)
    uses = (
        ("bar_tension", (stress + bending) * limit.tensile),
        ("bar_compression", (bending - stress) * limit.compressive),
        (kind, strain * -limit.buckles),
    )
    found = [Mode(kind, bar.line, bar.side, np.maximum(use, 0, out=use), True, i) for kind, use in uses]
    return found + _splice_modes(elements, geometry, strain, limit.full, bending, i) if bar.splices else found


def _twisted_splices(bar: PlacedBar, geometry: Geometry, own: Array) -> Array:
    """What joints of a bar use of what they hold in twist, where the bar itself uses `own` (S, n)."""
    use = np.zeros_like(own)
    for splice in bar.splices:
        k = int(np.argmin(np.abs(geometry.y - splice.at_mm)))
        use[:, k] = np.maximum(use[:, k], own[:, k] / np.maximum(splice_twists(bar, splice), 1e-9))
    return use


def _splice_modes(
    elements: Elements, geometry: Geometry, strain: Array, full: Array, bending: Array, i: int
) -> list[Mode]:  # fmt: skip
    """Joints of a bar: its force and the stress of its own bending against what holds them there."""
    bar, force = elements.bars[i], strain * full
    use = np.zeros_like(force)
    for splice in bar.splices:
        k = int(np.argmin(np.abs(geometry.y - splice.at_mm)))
        scale = float(geometry.bar_scale[i, k])
        modulus = bar.stock.second_moment_mm4(bar.on_edge) * scale ** bar.powers[1] / (bar.sizes(scale)[1] / 2)
        pulled = np.abs(force[:, k]) / np.maximum(splice_holds(bar, splice, scale), 1e-9)
        bent = np.abs(bending[:, k]) * modulus / np.maximum(splice_bends(bar, splice, scale), 1e-9)
        use[:, k] = np.maximum(use[:, k], pulled + bent)
    return [Mode("bar_splice", bar.line, bar.side, use, True, i)]
