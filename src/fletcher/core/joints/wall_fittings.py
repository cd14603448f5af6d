r"""What is fitted to the wall of a hollow part: plates and horns glued on or clamped through it, bolts, pegs of bands.

A plate pulls the face off its wall, or its glue gives (the strength that the glue chooser tells of the same two); it
shears the wall through along its rim, u t τ; or it bends the wall in: a rigid patch of radius a in a wall held at R on
its edges and webs, P = 2π m R/(R − a), m the wall's moment per width (yield lines, Johansen 1943; its edges turn
freely). Bolts and pegs bear on the wall, d t σ. Sheet on the other side of the wall clamps it by its screws: then the
glue is not asked in pull.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Literal

import numpy as np

from fletcher.core.adhesion.adhesives import adhesives
from fletcher.core.adhesion.bond_line import CURED_MIN
from fletcher.core.adhesion.curing import techniques
from fletcher.core.adhesion.joint_capacity import NO_ROW, GlueNeed, capacity, seam_of
from fletcher.core.common.arrays import Array
from fletcher.core.document.airframe import WallLayer
from fletcher.core.document.joint import BandedJoint, BoltedJoint, Glued, PlateJoint
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.joints.context import Site, Way, drawn_of
from fletcher.core.joints.wall_seams import sheet_of, wall_at
from fletcher.core.materials.materials import Bar, Range, Sheet
from fletcher.core.materials.tables import reference

TIPS_OVER = 0.6
"""[J] Arm between the pull and the push that a tipping load makes under a plate, over the plate's length."""


def glued_stress(
    wall: str, plate: str, glue: Glued, minutes: float | None, loaded: Literal["pull", "shear"]
) -> tuple[Array, str]:
    """What a plate glued to a wall bears so long after it was closed (None: cured), (S,) MPa of its whole face, and
    what tears then, nothing where the glue fails: as the glue chooser has it of the same two."""
    need = GlueNeed(one=wall, other=plate, loaded=loaded, area_cm2=1.0, width_mm=10.0,
                    gap_mm=0.0, schools={})  # fmt: skip
    a = adhesives()[glue.adhesive]
    try:
        seam = seam_of(need, reference())
    except InvalidDocument:  # nothing is known of such a pair
        return drawn_of("glue/unknown", NO_ROW.efficiency or Range(0.05, 0.1, 0.2)), ""
    known = list(techniques(a))
    technique = glue.technique if glue.technique in known else known[0]
    put = capacity(a, seam, technique, np.array([CURED_MIN if minutes is None else minutes]))
    tears = seam.bed_MPa is not None and float(put.bed[0]) < float(put.film[0])
    return put.held[:, 0] / seam.face, seam.tears if tears else ""


def _stress(site: Site, wall: Sheet, plate: Sheet, loaded: Literal["pull", "shear"]) -> tuple[Array, str]:
    assert site.glue is not None
    if site.many is None:
        return glued_stress(wall.key, plate.key, site.glue, site.minutes, loaded)
    each = [glued_stress(wall.key, plate.key, g, m, loaded) for g, m in site.many.each()]
    return np.array([float(stress[0]) for stress, _ in each]), each[0][1]


def wall_moment(sheet: Sheet) -> Array:
    """Moment per width (S,) at which a wall folds, N: the mean of both ways. Faces or liners that crush over their
    distance, or of a solid sheet σ t²/6."""
    along, across = (drawn_of(f"{sheet.key}/press/{way}", v) for way, v in (
        ("along", sheet.compressive_along_MPa), ("across", sheet.compressive_across_MPa)))  # fmt: skip
    strength, t = np.sqrt(along * across), sheet.thickness_mm.typ
    face = sheet.wall_thickness_mm or (0.0 if sheet.facing is None else sheet.facing.thickness_mm.typ)
    return np.asarray(strength * (t / 2 * (t - face) if face else t**2 / 6))


def bends_in(moment: Array, patch_mm: float, held_mm: float) -> Array:
    """Force (S,) with which a rigid patch of a radius bends a wall in that is held at another radius, N."""
    return np.asarray(2 * math.pi * moment / max(1 - patch_mm / held_mm, 0.05))


def held_at(site: Site, percent: float) -> float:
    """Radius, mm, at which a wall is held about a place of the chord: half of what lies between webs and edges."""
    layers = site.scene.elements.part.layers
    webs = [la.root_percent for la in layers if isinstance(la, WallLayer) and la.enabled and la.face == "web"]
    before = max((w for w in (0.0, *webs) if w <= percent), default=0.0)
    behind = min((w for w in (*webs, 100.0) if w > percent), default=100.0)
    return max(float(site.scene.geometry.chord[site.k]) * (behind - before) / 200, 1.0)


def plate_on_wall(j: PlateJoint, site: Site, pull: Array, slide: Array) -> Iterator[Way]:
    """Ways in which a plate on the wall of a hollow part gives under a pull off it and a slide along it, (S,) N."""
    plate = site.placed.stock(j.sheet)
    found = _wall(site, j.face)
    if found is None or not isinstance(plate, Sheet):
        return
    layer = site.scene.elements.part.layers[site.placed.line]
    t, area = found.thickness_mm.typ, j.long_mm * j.wide_mm
    asked = np.hypot(pull, slide)
    out = pull + slide * j.arm_mm / (TIPS_OVER * j.long_mm)
    clamped = j.backed is not None and j.screws > 0
    bears = j.screws * j.screw_mm * t * drawn_of(found.key + "/bear", found.compressive_along_MPa) if clamped else 0.0
    if site.glue is not None and not clamped:
        tau, _ = _stress(site, found, plate, "shear")
        sigma, tears = _stress(site, found, plate, "pull")
        tip = slide * j.arm_mm / (sigma * j.wide_mm * j.long_mm**2 / 6)
        use = np.hypot(pull / (sigma * area) + tip, slide / (tau * area))
        kind = "joint_foam" if tears else "joint_glue"
        yield Way(kind, f"{tears or 'glue fails'} under the plate", site.here(use), asked, "N")
    elif clamped:
        held = np.maximum(bears, 0.0 if site.glue is None else _stress(site, found, plate, "shear")[0] * area)
        yield Way("joint_part", f"screws tear sideways through {found.name}", site.here(slide / held), slide, "N")
    rim = 2 * (j.long_mm + j.wide_mm) * t * drawn_of(found.key + "/rim", found.shear_MPa)
    yield Way("joint_part", f"the plate is torn out of {found.name}", site.here(out / rim), out, "N")
    radius = math.sqrt(area / math.pi)
    held_mm = held_at(site, getattr(layer, "chord_percent", 50.0))
    if radius < 0.9 * held_mm:
        folds = bends_in(wall_moment(found), radius, held_mm)
        yield Way("joint_part", f"{found.name} bends in under the plate", site.here(out / folds), out, "N")


def _wall(site: Site, face: str) -> Sheet | None:
    """The sheet of the wall on a face at the joint."""
    _, m = wall_at(site, face)
    return None if m is None else sheet_of(m, site)


def bolts_through_wall(j: BoltedJoint, site: Site, each: Array) -> Iterator[Way]:
    """Bolts that pull their washers through the wall under them, (S,) N each; whichever wall is the weaker."""
    plate = None if j.plate is None else site.placed.stock(j.plate)
    under = j.washer_mm + (2 * plate.thickness_mm.typ if isinstance(plate, Sheet) else 0.0)
    walls = {s.key: s for face in ("upper", "lower") if (s := _wall(site, face)) is not None}
    for sheet in walls.values():
        rim = math.pi * under * sheet.thickness_mm.typ * drawn_of(sheet.key + "/rim", sheet.shear_MPa)
        yield Way("joint_part", f"washers pull through {sheet.name}", site.here(each / rim), each, "N")


def pegs_in_walls(j: BandedJoint, site: Site, force: Array) -> Iterator[Way]:
    """Two pegs through both side walls, pulled by all bands together, (S,) N."""
    peg = site.placed.stock(j.peg)
    assert isinstance(peg, Bar)
    walls = [s for face in ("upper", "lower") if (s := _wall(site, face)) is not None]
    for sheet in walls[:1]:
        holds = 4 * peg.size()[0] * sheet.thickness_mm.typ * drawn_of(sheet.key + "/bear", sheet.compressive_along_MPa)
        yield Way("joint_pin", f"{peg.name} tears {sheet.name}", site.here(force / holds), force, "N", False)
