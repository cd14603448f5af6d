"""What acts at a joint: its place in a part under a load, the glue line there, braces made ready."""

from __future__ import annotations

from dataclasses import dataclass, fields
from functools import cached_property, lru_cache

import numpy as np

from fletcher.core.adhesion.bond_line import SORT, GlueLine, glue_line, glue_lines, pressed_on
from fletcher.core.common.arrays import Array
from fletcher.core.document.joint import Brace, Glued
from fletcher.core.materials.materials import Bar, Foam, Range, Sheet
from fletcher.core.materials.uncertainty import draw_bar, draw_foam, drawn, lognormal, normals
from fletcher.core.section.elements import Elements, Membrane, PlacedJoint
from fletcher.core.section.partial_interaction import Mesh, Response
from fletcher.core.section.properties import Draws, Geometry, Sums
from fletcher.core.section.shear_stiffness import Fields
from fletcher.core.structure.loading import Loading


@dataclass(frozen=True)
class Way:
    """One way in which a joint gives: its kind for the verdict, in words, and the share used (S, n); what is asked of
    it where it is worst, (S,), in a unit."""

    kind: str
    name: str
    use: Array
    asks: Array
    unit: str
    breaks: bool = True


@dataclass(frozen=True)
class Scene:
    """A part under a load, as its joints need it."""

    elements: Elements
    draws: Draws
    geometry: Geometry
    mesh: Mesh
    sums: Sums
    fields: Fields
    response: Response
    edge: Array
    """Edgewise curvature (S, n)."""
    loading: Loading
    shear: Array
    """Size of the shear force (S, n)."""


@dataclass(frozen=True)
class Many:
    """Glues and minutes (None: cured) that are tried at once in a scene of typical values alone: they take the place
    of the samples, all minutes of the first glue first."""

    glues: tuple[Glued, ...]
    minutes: tuple[float | None, ...]

    def each(self) -> list[tuple[Glued, float | None]]:
        """Every glue at every time, in order."""
        return [(g, m) for g in self.glues for m in self.minutes]


@dataclass(frozen=True)
class Site:
    """A joint at its place in a scene, with glue so many minutes old (None: cured), or with many tried at once."""

    scene: Scene
    placed: PlacedJoint
    glue: Glued | None
    minutes: float | None
    many: Many | None = None

    @cached_property
    def k(self) -> int:
        """Its station: of two at one place the one on its own side."""
        g = self.scene.geometry
        return int(np.argmin(np.abs(g.y - self.placed.at) + 1e-6 * (g.inside < self.placed.at)))

    def here(self, use: Array) -> Array:
        """A share (S,) at its station alone, (S, n)."""
        out = np.zeros((len(use), len(self.scene.geometry.y)))
        out[:, self.k] = use
        return out

    def line(self, sort: str, width_mm: float, own: Glued | None = None) -> GlueLine:
        """The glue line between the core and a sort of thing, of the joint's glue or of what holds by its `own`."""
        foam, glue = self.scene.elements.foam, own or self.glue
        assert glue is not None
        if self.many is None:
            return _line(glue, foam, sort, width_mm, self.minutes, drawn())
        return _lines(self.many, own, foam, sort, 5.0 * max(round(width_mm / 5), 1), drawn())

    def pressed(self) -> Array:
        """Share of its shear that the adhesive of a tape holds by then, (S,): it creeps in over days."""
        return pressed_on(self.minutes) if self.many is None else _pressed(self.many, drawn())

    @cached_property
    def deep(self) -> float:
        """Depth of the core, mm."""
        g = self.scene.geometry
        return float(g.z_high[self.k] - g.z_low[self.k])

    @cached_property
    def core(self) -> tuple[float, float, float]:
        """Area and second moments, flatwise and edgewise, of the core about its own middle."""
        g, k = self.scene.geometry, self.k
        area, first, second = (float(v) for v in g.foam_below[:, k] + g.foam_above[:, k])
        _, first_x, second_x = (float(v) for v in g.foam_x[:, k])
        return area, second - first**2 / area, second_x - first_x**2 / area

    def passed(self, parted: str) -> tuple[Array, Array, Array, Array, Array]:
        """What passes the parting, (S,): moment and edgewise moment (N·mm), pull (N), shear (N), torque (N·mm)."""
        s, k = self.scene, self.k
        load, f = s.loading, s.draws.foam
        area, flat, wide = self.core
        E = 0.5 * (f.E_tension + f.E_compression)
        kappa, kappa_e = np.abs(s.response.curvature[:, k]), np.abs(s.edge[:, k])
        pull = np.zeros_like(E) if load.axial is None else load.axial[:, k]
        shear, torque = s.shear[:, k], np.abs(load.torque[:, k])
        if parted == "all":
            return np.abs(load.moment[:, k]), np.abs(load.edge[:, k]), pull, shear, torque
        share = E * area / s.sums.whole_EA[:, k]
        if parted == "core":
            mine = s.fields.twist_shear[:, k] if s.fields.twist_shear.ndim == 2 else s.fields.twist_shear[k]
            torque = torque * np.minimum(mine * solid_torsion(area, flat, wide) / max(self.deep, 1e-6), 1.0)
            return kappa * E * flat, kappa_e * E * wide, pull * share, shear, torque
        return kappa * s.sums.host_EI[:, k], kappa_e * s.sums.edge_EI[:, k], pull, shear, torque


@lru_cache(maxsize=256)
def _line(glue: Glued, foam: Foam, sort: str, width_mm: float, minutes: float | None, _: int) -> GlueLine:
    """A glue line, kept: a joint asks for the same one under every load."""
    return glue_line(glue, foam, draw_foam(foam), sort, width_mm, minutes)


@lru_cache(maxsize=64)
def _pressed(many: Many, _: int) -> Array:
    """Typical shares of a tape's shear at many times, in their order."""
    return np.array([float(pressed_on(m)[0]) for _, m in many.each()])


@lru_cache(maxsize=256)
def _lines(many: Many, own: Glued | None, foam: Foam, sort: str, width_mm: float, _: int) -> GlueLine:
    """Glue lines of many glues at many times as one."""
    draw = draw_foam(foam)
    each = [line for g in many.glues for line in glue_lines(own or g, foam, draw, sort, width_mm, many.minutes)]
    names = [f.name for f in fields(GlueLine) if f.name != "brittle"]
    stacked = {n: np.concatenate([getattr(line, n)[:1] for line in each]) for n in names}
    return GlueLine(**stacked, brittle=foam.brittle)


def solid_torsion(area: float, flat: float, wide: float) -> float:
    """Torsion constant of a full section, A⁴/(40 I_p) (Saint-Venant 1855)."""
    return area**4 / (40 * (flat + wide))


def strained(site: Site, m: Membrane, i: int) -> Array:
    """Force per width (S,) of a membrane at the joint, N/mm, the larger of its ends."""
    s, k = site.scene, site.k
    z = np.array([s.geometry.skin_low[i, k], s.geometry.skin_high[i, k]])
    along = s.response.axial[:, k] + s.response.curvature[:, k] * s.sums.host_z[:, k]
    strain = np.max(np.abs(along[:, None] - s.response.curvature[:, [k]] * z), axis=1)
    front, rear = s.elements.edges(m, s.geometry.y[[k]])
    arm = np.max(np.abs(np.array([front[0], rear[0]]) - s.sums.edge_x[:, [k]]), axis=1)
    return np.asarray((strain + np.abs(s.edge[:, k]) * arm) * s.draws.skins[i].Et * m.plies)


def told(m: Membrane, elements: Elements) -> str:
    """A membrane by its own name or its material's, and its face."""
    name = elements.part.layers[m.line].name or m.skin.name
    return f"{name} on the {m.face} face" if m.face in ("upper", "lower") else name


def stack(m: Membrane) -> str:
    """What sort of thing a membrane is to a glue."""
    return SORT.get(m.skin.family, "film")


@dataclass(frozen=True)
class Braced:
    """A brace made ready: width, height, second moment, own strength and E (S,)."""

    brace: Brace
    stock: Bar | Sheet
    width: float
    high: float
    second: float
    strong: Array
    E: Array


def brace_of(brace: Brace, placed: PlacedJoint) -> Braced:
    """A brace of a joint made ready."""
    stock = placed.stock(brace.stock)
    if isinstance(stock, Bar):
        width, high = stock.size(on_edge=True)
        d = draw_bar(stock)
        return Braced(
            brace, stock, width, high, stock.second_moment_mm4(True), np.minimum(d.tensile, d.compressive), d.E
        )
    assert isinstance(stock, Sheet)
    t, high = stock.thickness_mm.typ, brace.deep_mm or 10.0
    pulled = drawn_of(stock.key + "/pull", stock.tensile_along_MPa)
    strong = np.minimum(pulled, drawn_of(stock.key + "/press", stock.compressive_along_MPa))
    return Braced(brace, stock, t, high, t * high**3 / 12, strong, drawn_of(stock.key + "/E", stock.E_along_MPa))


def drawn_of(key: str, value: Range) -> Array:
    """Samples (S,) of a value of what joins."""
    return lognormal(value, normals("joint/" + key, 1)[0, : 1 + drawn()])
