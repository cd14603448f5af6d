"""What a joint or hinge weighs: glue, and what it is made with."""

from __future__ import annotations

import math

import numpy as np

from fletcher.core.adhesion.bond_line import glue_line
from fletcher.core.adhesion.curing import sampled
from fletcher.core.common.arrays import Array
from fletcher.core.document.airframe import HingeLayer, JointLayer
from fletcher.core.document.joint import (
    AcrossJoint,
    BandedJoint,
    BoltedJoint,
    BondJoint,
    Joint,
    LapJoint,
    PlateJoint,
    Strap,
    WallJoint,
)
from fletcher.core.joints.context import Braced, brace_of, drawn_of
from fletcher.core.joints.hinges import hinges
from fletcher.core.joints.wall_seams import SEAM_LAP_MM
from fletcher.core.materials.materials import Bar, Fastener, Sheet, Skin
from fletcher.core.materials.uncertainty import draw_bar, drawn
from fletcher.core.section.elements import Elements, PlacedJoint
from fletcher.core.section.properties import Draws, Geometry


def joint_grams(placed: PlacedJoint, elements: Elements, draws: Draws, geometry: Geometry) -> Array:
    """What a joint or hinge weighs, glue and what it is made with, (S,) g."""
    layer = elements.part.layers[placed.line]
    if isinstance(layer, HingeLayer):
        h = hinges()[layer.method]
        return sampled(h.grams, f"hinge/{h.key}", 2) * (placed.end - placed.start) / 100
    assert isinstance(layer, JointLayer)
    grams = _made_with(layer.joint, placed)
    if layer.glue is not None:
        line = glue_line(layer.glue, elements.foam, draws.foam, "wood", 30.0, None)
        grams = grams + line.grams_mm2 * glued_area(layer.joint, placed, elements, geometry)
    return grams


def _made_with(j: Joint, placed: PlacedJoint) -> Array:
    """Braces, plates, bolts, bands and pegs, (S,) g."""
    grams = np.zeros(1 + drawn())
    if isinstance(j, AcrossJoint):
        sides = 1 if placed.at < 1e-6 else 2
        for brace in j.braces:
            grams = grams + _weight(brace_of(brace, placed)) * brace.each_side_mm * sides * brace.count
    elif isinstance(j, WallJoint):
        faces = 2 if j.face == "all" else 1
        for strap in j.straps:
            wide, per_mm2 = strap_of(strap, placed)
            grams = grams + per_mm2 * wide * 2 * strap.each_side_mm * faces * (2 if strap.lies == "both" else 1)
    elif isinstance(j, PlateJoint):
        sheet = placed.stock(j.sheet)
        assert isinstance(sheet, Sheet)
        grams = drawn_of(sheet.key + "/mass", sheet.areal_mass_g_m2) * 1e-6 * j.long_mm * j.wide_mm
        if j.backed is not None:
            inside = placed.stock(j.backed)
            assert isinstance(inside, Sheet)
            grams = grams + drawn_of(inside.key + "/mass", inside.areal_mass_g_m2) * 1e-6 * j.long_mm * j.wide_mm
    elif isinstance(j, BoltedJoint):
        bolt = placed.stock(j.bolt)
        assert isinstance(bolt, Fastener)
        grams = grams + bolt.mass_g * j.bolts
    elif isinstance(j, BandedJoint):
        band, peg = placed.stock(j.band), placed.stock(j.peg)
        assert isinstance(band, Fastener)
        assert isinstance(peg, Bar)
        grams = draw_bar(peg).density * peg.area_mm2 * 4 * j.peg_in_mm + band.mass_g * j.bands
    return grams


def strap_of(strap: Strap, placed: PlacedJoint) -> tuple[float, Array]:
    """Width of all strips of a strap on one side of a wall, mm, and what they weigh, (S,) g/mm²."""
    stock = placed.stock(strap.stock)
    wide = strap.wide_mm or 60.0
    if isinstance(stock, Bar):
        own = stock.size()[0]
        return strap.count * own, draw_bar(stock).density * stock.area_mm2 / own
    if isinstance(stock, Sheet):
        return strap.count * wide, drawn_of(stock.key + "/mass", stock.areal_mass_g_m2) * 1e-6
    assert isinstance(stock, Skin)
    return strap.count * wide, drawn_of(stock.key + "/mass", stock.areal_mass_g_m2) * 1e-6


def glued_area(j: Joint, placed: PlacedJoint, elements: Elements, geometry: Geometry) -> float:
    """Faces on which glue is spread, mm²."""
    area = 0.0
    if isinstance(j, AcrossJoint):
        if j.faces != "open":
            k = int(np.argmin(np.abs(geometry.y - placed.at)))
            area = float(geometry.foam_x[0, k]) * (math.hypot(1, j.slope) if j.faces == "scarf" else 1)
        sides = 1 if placed.at < 1e-6 else 2
        for brace in j.braces:
            if brace.glued:
                b = brace_of(brace, placed)
                around = 2 * b.high if b.high > 2 * b.width else 0.5 * math.pi * b.high
                area += around * brace.each_side_mm * sides * brace.count
    elif isinstance(j, WallJoint):
        faces = 2 if j.face == "all" else 1
        for strap in j.straps:
            if not isinstance(placed.stock(strap.stock), Skin):
                wide, _ = strap_of(strap, placed)
                area += wide * 2 * strap.each_side_mm * faces * (2 if strap.lies == "both" else 1)
        area += SEAM_LAP_MM * (j.along_mm or 0.0)
    elif isinstance(j, LapJoint | BondJoint):
        for i, m in enumerate(elements.membranes):
            if elements.part.layers[m.line].id == j.of:
                on = geometry.skin_on[i] > 0
                area += float(geometry.skin[i, 0][on].mean()) * _glued_length(j, placed, m.start, m.end)
        side = 0.25 if isinstance(j, LapJoint) else 0.5
        for bar in elements.bars:
            if elements.part.layers[bar.line].id == j.of:
                area += side * bar.stock.perimeter_mm * _glued_length(j, placed, bar.start, bar.end)
    elif isinstance(j, PlateJoint):
        area = j.long_mm * j.wide_mm + j.keys * math.pi * j.key_mm * j.key_deep_mm
    return area


def _glued_length(j: LapJoint | BondJoint, placed: PlacedJoint, start: float, end: float) -> float:
    """How much of a piece of a line a lap or bond glues, mm."""
    if isinstance(j, LapJoint):
        return j.overlap_mm if start <= placed.at <= end else 0.0
    return max(min(end, placed.end) - max(start, placed.start), 0.0)


def _weight(b: Braced) -> Array:
    """Grams per mm of a brace."""
    if isinstance(b.stock, Bar):
        return draw_bar(b.stock).density * b.stock.area_mm2
    return drawn_of(b.stock.key + "/mass", b.stock.areal_mass_g_m2) * 1e-6 * b.high
