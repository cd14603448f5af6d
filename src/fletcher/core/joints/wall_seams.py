r"""Walls of a hollow part that are in two across, or creased: what straps over them bear of what has to pass; and a
seam along an edge.

The bending is a pair of forces M/h in the faces. The pulled one passes through the straps alone, for a glued edge of
paper or liner bears next to nothing in pull; the pressed one through edges that meet. Twist passes as the flow
T/2A (Bredt) through the glued edges. A creased wall still passes its share.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from fletcher.core.adhesion.adhesives import adhesives, between, curings
from fletcher.core.adhesion.bond_line import FILM_G_MPa
from fletcher.core.adhesion.curing import cured, film, sampled, sampled_share, sets_at_once, techniques
from fletcher.core.common.arrays import Array
from fletcher.core.document.joint import Glued, Strap, WallJoint
from fletcher.core.joints.butt_and_scarf import FITS, MIXED, REACHED
from fletcher.core.joints.context import Site, Way, drawn_of
from fletcher.core.joints.strap_strength import (
    BENT,
    PEAK,
    brings_along,
    butt_with_doublers,
    flute_bearing,
    flute_pitch,
    flute_rod_bends,
    lap_force,
    lap_rate,
    offset_of,
    pairs_moment,
)
from fletcher.core.materials.materials import Bar, Sheet, Skin
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import draw_bar, draw_skin, drawn
from fletcher.core.section.elements import Elements, JointStock, Membrane
from fletcher.core.section.outline import Outline, faces

SEAM_LAP_MM = 8.0
"""[J] Width over which a fold or rear seam is glued."""
FLUTE_ROUND = 0.5
"""[J] Share of a rod's round (0.25 to 0.75) that the glue in its flute reaches."""
WRAP_LAP_MM = 15.0
"""[J] Lap with which tape runs on over itself once it is round the part."""
_COUNTED_MM = 25.0
"""[J] Of a stiff lap so much counts, from one side."""
_SLICK = frozenset({"twin_wall"})


@dataclass(frozen=True)
class _Wall:
    """A wall as a strap sits on it: its thickness (mm), E t (N/mm) and G (S,), the shear (MPa) that its surface bears,
    and whether it gives at the peak."""

    thick: float
    Et: Array
    G: Array
    bears: Array
    brittle: bool
    slick: bool


def _wall_of(m: Membrane, sheet: Sheet | None, site: Site, i: int) -> _Wall:
    d = site.scene.draws.skins[i]
    thick = m.plate.thickness if m.plate is not None else m.thickness_mm
    core = None if sheet is None or sheet.core is None else reference().foams[sheet.core]
    if core is not None:
        bears, G = drawn_of(core.key + "/shear", core.shear_strength_MPa), drawn_of(core.key + "/G", core.G_MPa)
        return _Wall(thick, d.Et * m.plies, G, bears, core.brittle, False)
    slick = sheet is not None and sheet.family in _SLICK
    bears = d.Gt * 0 + 1.5 if sheet is None else drawn_of(sheet.key + "/shear", sheet.shear_MPa)
    return _Wall(thick, d.Et * m.plies, np.maximum(d.Gt / thick, 1e-3), bears, not slick, slick)


def glue_film(glue: Glued, minutes: float | None, slick: bool, bears: Array) -> Array:
    """Shear (S,) that the film between a strap and a wall bears so long after it was closed, MPa."""
    a = adhesives()[glue.adhesive]
    technique: str = glue.technique or next(iter(techniques(a)))
    row = between().get((a.key, "nylon_hdpe_foam" if slick else "wood_wood"))
    own = sampled(a.shear_MPa, f"glue/{a.key}") if row is None or row.shear_MPa is None else sampled(
        row.shear_MPa, f"glue/{a.key}"
    )  # fmt: skip
    if slick and row is not None and row.efficiency is not None:
        own = own * sampled(row.efficiency, f"glue/{a.key}/slick")
    at = np.array([10080.0 if minutes is None else minutes])
    share = cured(a, curings()[a.key], at, 20.0, None, technique)
    return film(share, own, bears, sets_at_once(a, technique))[:, 0]


def wall_seam(j: WallJoint, site: Site) -> Iterator[Way]:
    """Ways in which a seam in walls gives."""
    assert site.glue is not None
    if j.along_mm is not None:
        yield from _along(j, site)
        return
    s, k = site.scene, site.k
    load = s.loading
    moment = np.abs(load.moment[:, k])
    pull = np.zeros_like(moment) if load.axial is None else np.maximum(load.axial[:, k], 0.0)
    heights = {face: _height(site, face) for face in ("upper", "lower")}
    found = {face: wall_at(site, face) for face in heights}
    deep = max(heights["upper"] - heights["lower"], 1e-3)
    work = _workmanship(j, site)
    force = moment / deep + pull / 2
    for face in heights if j.face == "all" else (j.face,):
        i, m = found.get(face) or wall_at(site, face)
        if i is None or m is None:
            continue
        asked = force * (1 - j.keeps)
        yield from _strapped(j, site, i, m, asked, deep, work, face)
    if j.face == "all" and np.any(load.torque[:, k]):
        flow = np.abs(load.torque[:, k]) / (2 * _enclosed(s.elements, s.geometry.chord[k], s.geometry.thickness[k]))
        i, m = found["upper"] if found["upper"][0] is not None else found["lower"]
        if i is not None and m is not None:
            wall = _wall_of(m, sheet_of(m, site), site, i)
            edge = np.minimum(_film(site, wall), wall.bears) * work * wall.thick
            tapes = sum((_wrapped(strap, site, wall.bears) for strap in j.straps), np.zeros_like(edge))
            yield Way("joint_glue", "the joint around the walls fails in twist", site.here(flow / (edge + tapes)), flow,
                      "N/mm")  # fmt: skip


def _workmanship(j: WallJoint, site: Site) -> Array:
    none = np.ones(1 + drawn() if site.many is None else 1)
    if j.reached == "all":
        return none
    share = sampled_share(REACHED[j.reached], f"reached/{j.reached}") * sampled_share(MIXED, "mixed")
    return np.asarray(share * sampled_share(FITS["butt"], "fits/butt"))


def _film(site: Site, wall: _Wall) -> Array:
    assert site.glue is not None
    if site.many is None:
        return glue_film(site.glue, site.minutes, wall.slick, wall.bears)
    return np.array([float(glue_film(g, t, wall.slick, wall.bears)[0]) for g, t in site.many.each()])


def wall_at(site: Site, face: str) -> tuple[int | None, Membrane | None]:
    """The wall of a face at the joint."""
    g = site.scene.geometry
    for i, m in enumerate(site.scene.elements.membranes):
        if m.plate is not None and m.face == face and g.skin_on[i, site.k] > 0:
            return i, m
    return None, None


def _height(site: Site, face: str) -> float:
    """Height of the walls of a face, mm."""
    g, k = site.scene.geometry, site.k
    on = [i for i, m in enumerate(site.scene.elements.membranes) if m.face == face and g.skin_on[i, k] > 0]
    length = sum(float(g.skin[i, 0, k]) for i in on)
    first = sum(float(g.skin[i, 1, k]) for i in on)
    low, high = float(g.z_low[k]), float(g.z_high[k])
    return first / length if length > 0 else high if face == "upper" else low


def sheet_of(m: Membrane, site: Site) -> Sheet | None:
    layer = site.scene.elements.part.layers[m.line]
    key = getattr(layer, "sheet", None)
    return reference().sheets.get(key) if isinstance(key, str) else None


def _enclosed(elements: Elements, chord: float, thick: float) -> float:
    """Area that the walls enclose, mm²."""
    return _area(elements.outline, round(float(chord), 3), round(float(thick), 3))


@lru_cache(maxsize=1024)
def _area(outline: Outline, chord: float, thick: float) -> float:
    x = (np.arange(41) + 0.5) / 41
    low, high = faces(outline, x, np.full_like(x, chord), np.full_like(x, thick))
    return max(float(np.sum(high - low)) * chord / 41, 1e-6)


def wrap_flow(strong: Array | float, thick: float, bears: Array | float, lap: float = WRAP_LAP_MM) -> Array:
    """Flow (N/mm) round a part that tape wrapped about it bears: σt/2 as a tension field, and what the lap hands over
    by its adhesive, τ·lap (MPa and mm)."""
    return np.asarray(np.minimum(np.asarray(strong) * thick / 2, np.asarray(bears) * lap))


def _wrapped(strap: Strap, site: Site, bears: Array) -> Array:
    """Flow (S,) that tape over both faces bears, N/mm; without adhesive of its own by what the wall `bears`."""
    stock = site.placed.stock(strap.stock)
    if not isinstance(stock, Skin) or strap.wide_mm is not None:
        return np.zeros(1)
    d = draw_skin(stock)
    strong = d.tensile if d.draws_out is None else d.draws_out
    return wrap_flow(strong, stock.thickness_mm.typ, bears if d.adhesive_shear is None else d.adhesive_shear)


def _strapped(
    j: WallJoint, site: Site, i: int, m: Membrane, asked: Array, deep: float, work: Array, face: str
) -> Iterator[Way]:  # fmt: skip
    """A face whose force passes through straps: of glue and of the straps themselves, whichever holds less."""
    wall = _wall_of(m, sheet_of(m, site), site, i)
    width = max(float(site.scene.geometry.skin[i, 0, site.k]), 1.0)
    film_MPa = _film(site, wall)
    laps: list[tuple[Array | float, float]] = []
    owns: list[tuple[Array | float, float]] = []
    names = []
    for strap in j.straps:
        stock = site.placed.stock(strap.stock)
        lap, own = _strap(strap, stock, wall, film_MPa, work, width, 2 if strap.lies == "both" else 1)
        off = (wall.thick + _thick(stock)) / 2
        for side in {"outside": (off,), "inside": (-off,), "both": (off, -off), "flutes": (0.0,)}[strap.lies]:
            height = max(deep / 2 + side, 0.0)
            laps.append((lap, height))
            owns.append((own, height))
        names.append(stock.name)
    lap_N, own_N = (pairs_moment(pairs) / deep for pairs in (laps, owns))
    sheet = sheet_of(m, site)
    if sheet is not None and sheet.wall_thickness_mm is not None:  # rods bend in their flutes where they have no arm
        bent = sum((_bent_in_flutes(strap, site.placed.stock(strap.stock), sheet) for strap in j.straps), np.zeros(1))
        lap_N, own_N = (np.maximum(held, bent / deep) for held in (lap_N, own_N))
    told = f"straps over the {face} wall" if not names else f"{' and '.join(dict.fromkeys(names))} over the {face} wall"
    yield Way("joint_glue", f"glue under {told} fails", site.here(asked / np.maximum(lap_N, 1e-9)), asked, "N")
    yield Way("joint_part", f"{told} gives", site.here(asked / np.maximum(own_N, 1e-9)), asked, "N")


def _bent_in_flutes(strap: Strap, stock: JointStock, sheet: Sheet) -> Array | float:
    """Moment (S,) that rods in the flutes of a sheet pass by their own bending, N·mm."""
    if strap.lies != "flutes" or not isinstance(stock, Bar) or sheet.wall_thickness_mm is None:
        return 0.0
    wall, d = sheet.wall_thickness_mm, draw_bar(stock)
    yields = drawn_of(sheet.key + "/across", sheet.tensile_across_MPa) * sheet.thickness_mm.typ / (2 * wall)
    bears = flute_bearing(yields, wall, flute_pitch(sheet.thickness_mm.typ))
    own = np.minimum(d.tensile, d.compressive) * stock.second_moment_mm4() / (stock.size()[1] / 2)
    return strap.count * flute_rod_bends(bears, strap.each_side_mm, own)


def _thick(stock: JointStock) -> float:
    if isinstance(stock, Bar):
        return stock.size()[1]
    assert isinstance(stock, Skin | Sheet)
    return stock.thickness_mm.typ


def _strap(
    strap: Strap, stock: JointStock, wall: _Wall, film_MPa: Array, work: Array, width: float, sides: int
) -> tuple[Array, Array]:  # fmt: skip
    """Force (S,) that all strips of a strap on one side of one wall hand over by their glue, and bear themselves, N."""
    bears = np.minimum(film_MPa, wall.bears) * work
    long = strap.each_side_mm
    if isinstance(stock, Skin):
        d = draw_skin(stock)
        wide = width if strap.wide_mm is None else min(strap.count * strap.wide_mm, width)
        own = (d.tensile if d.draws_out is None else d.draws_out) * stock.thickness_mm.typ * wide
        held = bears if d.adhesive_shear is None else d.adhesive_shear
        return held * long * wide, own
    if strap.lies == "flutes" and isinstance(stock, Bar):
        held = bears * FLUTE_ROUND * np.pi * stock.size()[0] * min(long, _COUNTED_MM)
        return strap.count * held, strap.count * draw_bar(stock).tensile * stock.area_mm2
    wide, thick, E, G, pulled = _made_of(strap, stock, width)
    if isinstance(stock, Sheet) and stock.facing is not None and stock.core_thickness_mm is not None:
        f, core = stock.facing, reference().foams[stock.core or ""]
        paper = f.thickness_mm.typ
        phi = brings_along(f.E_along_MPa.typ, paper, stock.core_thickness_mm, core.G_MPa.typ, long)
        e = offset_of(wall.thick, paper, stock.core_thickness_mm, phi)
        bent = 0.0 if sides == 2 else BENT * e / (stock.core_thickness_mm + paper)
        papers = drawn_of(stock.key + "/paper", f.tensile_along_MPa) * paper
        own = butt_with_doublers(papers, phi, 1e9, 1, bent, 1e9)
        return bears * long * wide, own * wide
    glue_mm_MPa = 0.1 / FILM_G_MPa["rigid"].typ
    c = glue_mm_MPa + thick / (3 * G) + wall.thick / (3 * wall.G)
    K1, K2 = E * wide * thick, wall.Et * min(width, wide + 2 * wall.thick)
    peak = sampled(PEAK, "strap/peak")
    lap = lap_force(bears * wide, K1, K2, lap_rate(K1, K2, c, wide), long, wall.brittle, peak[: len(np.atleast_1d(K1))])
    bent = 1.0 if sides == 2 else 1 + 3 * BENT
    return np.asarray(lap), pulled * wide * thick / bent


def _made_of(strap: Strap, stock: JointStock, width: float) -> tuple[float, float, Array, Array, Array]:
    """Width of all strips together and their thickness, mm; E, G and strength in pull (S,), MPa."""
    if isinstance(stock, Bar):
        wide, thick = stock.size()
        d = draw_bar(stock)
        return min(strap.count * wide, width), thick, d.E, d.G, d.tensile
    assert isinstance(stock, Sheet)
    wide = width if strap.wide_mm is None else min(strap.count * strap.wide_mm, width)
    pulled = drawn_of(stock.key + "/pull", stock.tensile_along_MPa)
    E, G = (drawn_of(f"{stock.key}/{n}", v) for n, v in (("E", stock.E_along_MPa), ("G", stock.G_MPa)))
    return wide, stock.thickness_mm.typ, E, G, pulled


def _along(j: WallJoint, site: Site) -> Iterator[Way]:
    """A fold or seam along an edge: the flow of twist and shear that runs through it."""
    s = site.scene
    here = (s.geometry.inside > site.placed.start) & (s.geometry.inside < site.placed.end)
    if not np.any(here):
        return
    area = np.array([_enclosed(s.elements, c, t) for c, t in zip(s.geometry.chord, s.geometry.thickness, strict=True)])
    flow = (np.abs(s.loading.torque) / (2 * area) + 0.5 * s.shear / np.maximum(s.geometry.thickness, 1e-6)) * here
    i, m = wall_at(site, "upper")
    if i is None or m is None:
        i, m = wall_at(site, "lower")
    if i is None or m is None:
        return
    wall = _wall_of(m, sheet_of(m, site), site, i)
    holds = np.minimum(_film(site, wall), wall.bears) * _workmanship(j, site) * SEAM_LAP_MM
    for strap in j.straps:
        holds = holds + _wrapped(strap.model_copy(update={"wide_mm": None}), site, wall.bears)
    asked = flow.max(1)
    yield Way("joint_glue", f"the {j.face} seam opens", flow / holds[:, None] if len(holds) > 1 else flow / holds,
              asked, "N/mm")  # fmt: skip
