r"""What a joint bears against what the part asks of it at its place, and so whether it is what gives first.

Across a parting: `joints.butt_and_scarf`. The load is that of the part without a joint: a joint that gives much
would shed some of it.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator

import numpy as np

from fletcher.core.adhesion.bond_line import EVEN, SORT, GlueLine, counts, decay
from fletcher.core.adhesion.curing import sampled
from fletcher.core.common.arrays import Array
from fletcher.core.document.airframe import HingeLayer, JointLayer
from fletcher.core.document.joint import (
    AcrossJoint,
    BandedJoint,
    BoltedJoint,
    BondJoint,
    LapJoint,
    PlateJoint,
    WallJoint,
)
from fletcher.core.joints.butt_and_scarf import across, counted, lapped
from fletcher.core.joints.context import Scene, Site, Way, drawn_of, stack, strained, told
from fletcher.core.joints.hinges import TEAR_SAFETY, hinges, pull_on_hinges
from fletcher.core.joints.wall_fittings import bolts_through_wall, pegs_in_walls, plate_on_wall
from fletcher.core.joints.wall_seams import wall_seam
from fletcher.core.materials.materials import Bar, Fastener, Range, Sheet
from fletcher.core.section.elements import Elements, PlacedBar
from fletcher.core.strength.modes import Mode, handed_over

_ENDS = {"upper": "top", "lower": "bottom"}
STOPS = {False: Range(1.1, 1.3, 1.6), True: Range(1.0, 1.1, 1.2)}
"""[J] Stress in brittle foam where a stiff strip stops over that of the bare part: square ends, tapered ones."""
_STIFF_MM = 1.0
"""A strip no thicker than this stops softly by itself."""
PLY_BEARING = 1.5
"""[J] Bearing of sheet under a screw over its crushing stress."""


def effective_mm(site: Site) -> float | None:
    """Over what length the joint hands its force on, typical, mm; None where that is no lap."""
    joint = site.placed.joint
    if isinstance(joint, AcrossJoint) and joint.braces:
        return min(b.each_side_mm for b in joint.braces)
    of: tuple[str, ...] = ()
    if isinstance(joint, AcrossJoint):
        of = joint.bridges[:1]
    elif isinstance(joint, LapJoint | BondJoint):
        of = (joint.of,)
    for i, m in enumerate(site.scene.elements.membranes):
        if site.scene.elements.part.layers[m.line].id in of:
            lapped = isinstance(joint, LapJoint)
            long = joint.overlap_mm if isinstance(joint, LapJoint) else m.end - m.start
            return float(counted(site, i, m, long, not lapped)[0])
    return None


def _lap(j: LapJoint, site: Site) -> Iterator[Way]:
    s, k = site.scene, site.k
    for i, m in enumerate(s.elements.membranes):
        if s.elements.part.layers[m.line].id == j.of and s.geometry.skin_on[i, k]:
            yield from lapped(site, i, m, strained(site, m, i), j.overlap_mm, on_foam=False)
    for i, bar in enumerate(s.elements.bars):
        if s.elements.part.layers[bar.line].id != j.of or not s.geometry.bar_on[i, k] or site.glue is None:
            continue
        force = np.abs(s.response.bar_force[:, i, k])
        line = site.line(SORT.get(bar.stock.family, "wood"), 5.0)
        stiff = s.draws.bars[i].E * bar.stock.area_mm2
        side = 0.25 * bar.stock.perimeter_mm
        rate = decay((stiff / side, stiff / side), line.gives + 2 * min(bar.sizes(1.0)) / (3 * s.draws.bars[i].G))
        glued = line.film_shear * side * counts(j.overlap_mm, rate, True)
        name = f"glue in the splice of {bar.stock.name} fails"
        yield Way("joint_glue", name, site.here(force / np.maximum(glued, 1e-9)), force, "N")


def _bond(j: BondJoint, site: Site) -> Iterator[Way]:
    s = site.scene
    here = (s.geometry.inside > site.placed.start) & (s.geometry.inside < site.placed.end)
    flow = handed_over(s.mesh, s.response.force_rate, s.elements.foam) * here
    n = len(s.geometry.y)
    for i, bar in enumerate(s.elements.bars):
        if s.elements.part.layers[bar.line].id != j.of:
            continue
        line = site.line(SORT.get(bar.stock.family, "wood"), 5.0)
        grip = 0.5 * bar.stock.perimeter_mm * s.geometry.bar_scale[i]
        stress = flow[:, i] / grip * s.geometry.bar_on[i]
        yield from _two(
            line, stress, f"{bar.stock.name}{'' if bar.side == 'middle' else ' at the ' + _ENDS[bar.side]}", "MPa"
        )
        yield from _where_it_stops(j, site, bar)
    for i, m in enumerate(s.elements.membranes):
        apart = m.end <= site.placed.start or m.start >= site.placed.end
        if s.elements.part.layers[m.line].id != j.of or apart:
            continue
        line, d = site.line(stack(m), 30.0), s.draws.skins[i]
        arm = np.abs(0.5 * (s.geometry.skin_low[i] + s.geometry.skin_high[i]) - s.sums.whole_z)
        stress = s.shear * s.sums.skin_Et[:, [i]] * arm / s.sums.whole_EI * s.geometry.skin_on[i] * here
        yield from _two(line, stress, told(m, s.elements), "MPa")
        ends = np.zeros(n)
        for place, inside in ((m.start, s.geometry.inside > m.start), (m.end, s.geometry.inside < m.end)):
            if 1e-6 < place < s.elements.part.span_mm - 1e-6:
                ends += (np.abs(s.geometry.y - place) < 1e-6) & inside
        if np.any(ends):
            z = 0.5 * (s.geometry.skin_low[i] + s.geometry.skin_high[i])
            along = s.response.axial + s.response.curvature * (s.sums.host_z - z)
            Et = d.Et * m.plies
            cost = np.minimum(line.film_peel, line.bed_peel)
            use = np.abs(along) * ends * (Et / np.sqrt(2 * cost * Et))[:, None]
            asked = np.max(np.abs(along) * ends, axis=1) * Et
            yield Way("joint_peel", f"{told(m, s.elements)} peels from its end", use, asked, "N/mm")


def _where_it_stops(j: BondJoint, site: Site, bar: PlacedBar) -> Iterator[Way]:
    """A stiff strip on a face of brittle foam: just past its end the bare part bears the moment alone, its face at
    `STOPS` of the stress."""
    s, foam = site.scene, site.scene.elements.foam
    on_face = bar.side in _ENDS and bar.stock.shape == "flat" and bar.sizes(1.0)[1] > _STIFF_MM
    if s.elements.hollow or not foam.brittle or not on_face:
        return
    g, past = s.geometry, np.zeros(len(s.geometry.y))
    for end, beyond in ((bar.start, g.inside < bar.start), (bar.end, g.inside > bar.end)):
        if 1e-6 < end < s.elements.part.span_mm - 1e-6:
            past += (np.abs(g.y - end) < 1e-6) & beyond
    if not np.any(past):
        return
    z = g.z_high if bar.side == "upper" else g.z_low
    pull = np.maximum(s.response.axial + s.response.curvature * (s.sums.host_z - z), 0.0) * past
    f, more = s.draws.foam, sampled(STOPS[j.tapered], f"stops/{j.tapered}")
    stress = pull * (f.E_tension * more)[:, None]
    yield Way("joint_part", f"the foam cracks where {bar.stock.name} stops", stress / f.tensile[:, None],
              stress.max(1), "MPa")  # fmt: skip


def _two(line: GlueLine, stress: Array, name: str, unit: str) -> Iterator[Way]:
    worst = stress.max(1)
    yield Way("joint_glue", f"glue under {name} fails", stress / line.film_shear[:, None], worst, unit)
    yield Way("joint_foam", f"foam shears beside {name}", stress / line.bed_shear[:, None], worst, unit)


def _plate(j: PlateJoint, site: Site) -> Iterator[Way]:
    s = site.scene
    sheet = site.placed.stock(j.sheet)
    assert isinstance(sheet, Sheet)
    foam = s.draws.foam
    none = np.zeros_like(foam.G)
    pull, slide = none + j.pull_N, none + j.slide_N
    if j.load == "rod":
        pull, slide = none, none if s.loading.servo is None else np.abs(s.loading.servo) / max(j.arm_mm, 1.0)
    if not (np.any(pull) or np.any(slide)):
        return
    t, area = sheet.thickness_mm.typ, j.long_mm * j.wide_mm
    tips = slide * j.arm_mm
    asked = np.hypot(pull, slide)
    if s.elements.hollow:
        yield from plate_on_wall(j, site, pull, slide)
    elif site.glue is not None:
        line = site.line(SORT.get(sheet.family, "wood"), min(j.long_mm, j.wide_mm))
        stiff = drawn_of(sheet.key + "/E", sheet.E_along_MPa) * t
        E, deep = 0.5 * (foam.E_tension + foam.E_compression), site.deep
        gives = line.gives + t / (3 * drawn_of(sheet.key + "/G", sheet.G_MPa)) + deep / (3 * foam.G)
        counted = j.wide_mm * counts(j.long_mm, decay((stiff, E * deep), gives), line.brittle)
        holes = j.keys * math.pi * j.key_mm
        slides = np.minimum(line.film_shear * holes * j.key_mm / 4, j.keys * j.key_mm * j.key_deep_mm * foam.bearing)
        lifts = holes * j.key_deep_mm * np.minimum(line.film_shear, line.bed_shear)
        for kind, name, a, tau in (
            ("joint_glue", "glue under the plate fails", line.film_pull, line.film_shear),
            ("joint_foam", "foam tears under the plate", line.bed_pull, line.bed_shear),
        ):
            off = pull / (a * area * EVEN["pull"] + lifts)
            tip = tips / (a * j.wide_mm * j.long_mm**2 / 6 + lifts * j.long_mm / 4)
            yield Way(kind, name, site.here(np.hypot(off + tip, slide / (tau * counted + slides))), asked, "N")
    if j.screws:
        crush = drawn_of(sheet.key + "/press", sheet.compressive_along_MPa) * PLY_BEARING
        bears = j.screws * j.screw_mm * t * crush
        yield Way("joint_part", f"screws tear sideways through {sheet.name}", site.here(slide / bears), slide, "N")
        through = j.screws * math.pi * 2 * j.screw_mm * t * drawn_of(sheet.key + "/shear", sheet.shear_MPa)
        out = pull + tips / (0.35 * j.long_mm)
        yield Way("joint_part", f"screw heads pull through {sheet.name}", site.here(out / through), out, "N")


def _bolted(j: BoltedJoint, site: Site) -> Iterator[Way]:
    """All bolts share the lift of the whole wing; else they hold the moment as a couple."""
    s, k = site.scene, site.k
    bolt = site.placed.stock(j.bolt)
    assert isinstance(bolt, Fastener)
    foam = s.draws.foam
    lift = np.full_like(foam.G, s.loading.whole_lift)
    couple = np.abs(s.loading.moment[:, k]) / (j.apart_mm * max(j.bolts / 2, 0.5))
    each = lift / j.bolts if s.loading.whole_lift > 0 else couple
    lets = drawn_of(bolt.key, bolt.lets_go_N)
    yield Way("joint_pull", f"{bolt.name} fails", site.here(each / lets), each, "N")
    if s.elements.hollow:
        yield from bolts_through_wall(j, site, each)
        return
    plate = None if j.plate is None else site.placed.stock(j.plate)
    under = j.washer_mm + (0.0 if not isinstance(plate, Sheet) else 2 * plate.thickness_mm.typ)
    area = math.pi / 4 * (under**2 - bolt.size_mm**2)
    yield Way("joint_pin", "washers crush the foam", site.here(each / (foam.bearing * area)), each, "N", False)


def _banded(j: BandedJoint, site: Site) -> Iterator[Way]:
    s = site.scene
    band, peg = site.placed.stock(j.band), site.placed.stock(j.peg)
    assert isinstance(band, Fastener)
    assert isinstance(peg, Bar)
    if s.loading.whole_lift <= 0:
        return
    lift = np.full_like(s.draws.foam.G, s.loading.whole_lift)
    aged = (1 - np.minimum(drawn_of(band.key + "/age", band.ages_per_month), 0.5)) ** j.months
    holds = j.bands * drawn_of(band.key, band.holds_N) * aged
    yield Way("bands_give", "rubber bands stretch and the wing lifts", site.here(lift / holds), lift, "N")
    # two pegs, both ends of each bear on the foam; the bands pull with all they hold
    force = np.maximum(lift, holds)
    if s.elements.hollow:
        yield from pegs_in_walls(j, site, force)
        return
    bears = 4 * s.draws.foam.bearing * peg.size()[0] * j.peg_in_mm
    yield Way("joint_pin", f"{peg.name} crushes the foam", site.here(force / bears), force, "N", False)


def _hinged(layer: HingeLayer, site: Site) -> Iterator[Way]:
    """Only a case that holds the surface deflected pulls at its hinge."""
    s = site.scene
    if s.loading.servo is None:
        return
    h = hinges()[layer.method]
    chord = float(np.mean(s.geometry.chord))
    pull = pull_on_hinges(np.abs(s.loading.servo), chord, layer.horn_arm_mm)
    long = (s.elements.part.span_mm if layer.end_mm is None else layer.end_mm) - layer.start_mm
    tears = sampled(h.tear_N, f"hinge/{h.key}", 1) * long / 100 / TEAR_SAFETY
    yield Way("hinge_tears", f"{h.name} tears out", site.here(pull / tears), pull, "N")


_WAYS: dict[type, Callable[..., Iterator[Way]]] = {
    AcrossJoint: across,
    LapJoint: _lap,
    BondJoint: _bond,
    PlateJoint: _plate,
    BoltedJoint: _bolted,
    BandedJoint: _banded,
    WallJoint: wall_seam,
}


def ways_of(site: Site) -> list[Way]:
    """Every way in which a joint or hinge gives under the load of its scene."""
    layer = site.scene.elements.part.layers[site.placed.line]
    if isinstance(layer, HingeLayer):
        found = _hinged(layer, site)
    else:
        found = _WAYS[type(site.placed.joint)](site.placed.joint, site)
    return [w for w in found if float(w.use[0].max()) > 1e-6]


def sites_of(scene: Scene) -> list[Site]:
    """All joints and hinges of a part, with their glue as old as the document says."""
    out = []
    for placed in scene.elements.joints:
        layer = scene.elements.part.layers[placed.line]
        glue = layer.glue if isinstance(layer, JointLayer) else None
        out.append(Site(scene, placed, glue, glue.after_min if glue else None))
    return out


def joint_modes(scene: Scene) -> list[Mode]:
    """The joints of a part among its ways to fail."""
    return [Mode(w.kind, site.placed.line, w.name, w.use, w.breaks) for site in sites_of(scene) for w in ways_of(site)]


def bonded_lines(elements: Elements) -> frozenset[int]:
    """Lines whose glue is named by a joint, so that no usual one is taken for them."""
    ids = {j.joint.of for j in elements.joints if isinstance(j.joint, BondJoint) and j.joint.long_mm is None}
    return frozenset(n for n, layer in enumerate(elements.part.layers) if layer.id in ids)
