"""Mid-planes of skins against closed forms, and fields that only a change of the section changes."""

from __future__ import annotations

import math

import numpy as np
import pytest

from fletcher.core.document.airframe import BarLayer, CutLayer, FilmLayer, FittingLayer, StripLayer, WallLayer
from fletcher.core.document.shapes import EllipseSection
from fletcher.core.materials.tables import reference
from fletcher.core.section.assembly import elements_of
from fletcher.core.section.skin_midlines import arcs_of
from tests.core.factories import catalogue, foam, plank, run, skin

CORE = foam()
THIN = skin(t=0.2)


def laid(*layers, span: float = 500, **changes):
    elements = elements_of(plank(CORE, *layers, span=span, **changes), catalogue(CORE, THIN))
    y = np.linspace(0, span, 11)
    return elements, arcs_of(elements, y, np.clip(y, 1e-6, span - 1e-6)), y


@pytest.mark.parametrize("depth", [20.0, 60.0, 120.0])
def test_a_film_round_an_ellipse_lies_at_its_own_distance(depth):
    """∫z² ds of a line at o outside a half ellipse, by fine quadrature of the curve and its normal."""
    elements, arcs, _ = laid(FilmLayer(id="f", skin=THIN.key, face="upper"), chord=120, thickness=depth,
                             section=EllipseSection())  # fmt: skip
    o = elements.membranes[0].offset_mm
    angle = np.linspace(0, math.pi, 200_001)
    x, z = 60 * (1 - np.cos(angle)), depth / 2 * np.sin(angle)
    ds = np.hypot(np.diff(x), np.diff(z))
    out = 0.5 * (z[1:] + z[:-1]) + o * np.diff(x) / ds
    assert o == pytest.approx(0.1)
    assert arcs.z[0, 0, 5] == pytest.approx(ds.sum(), rel=2e-3)
    assert arcs.z[0, 1, 5] == pytest.approx((ds * out).sum(), rel=3e-3)
    assert arcs.z[0, 2, 5] == pytest.approx((ds * out**2).sum(), rel=5e-3)
    assert arcs.x[0, 1, 5] == pytest.approx(60 * ds.sum(), rel=2e-3)
    assert arcs.xz[0, 5] == pytest.approx(60 * (ds * out).sum(), rel=3e-3)
    assert arcs.high[0, 5] == pytest.approx(depth / 2 + o, rel=1e-3)


def test_faces_of_a_plank_are_flat_and_opposite():
    _, arcs, _ = laid(FilmLayer(id="f", skin=THIN.key, face="both"), chord=100, thickness=30)
    high = 15 + 0.1
    for side, sign in ((0, 1), (1, -1)):
        assert np.allclose(arcs.z[side], np.array([100, sign * 100 * high, 100 * high**2])[:, None])
        assert np.allclose(arcs.low[side], sign * high) and np.allclose(arcs.high[side], sign * high)
        assert np.allclose(arcs.xz[side], sign * 100 * high * 50)


def test_pieces_of_a_skin_beside_a_cut_add_up_to_the_skin_less_the_cut():
    film, cut = FilmLayer(id="f", skin=THIN.key, face="upper"), CutLayer(
        id="c", face="upper", start_mm=200, end_mm=300, width_mm=40, depth_mm=5, root_percent=50, tip_percent=50
    )  # fmt: skip
    whole, parted = laid(film, chord=100), laid(film, cut, chord=100)
    assert len(parted[0].membranes) == 4  # inboard, outboard, before and behind
    for at, gone in ((250, 40), (100, 0)):
        here = parted[2] == at
        there = [n for n, m in enumerate(parted[0].membranes) if m.start < at < m.end]
        assert len(there) == (2 if gone else 1)
        assert parted[1].z[there, 0, here].sum() == pytest.approx(whole[1].z[0, 0, here].item() - gone)


def test_what_weighs_and_carries_nothing_leaves_the_fields_as_they_are():
    """A servo on the face splits the part into more stations; what is solved stays what it was."""
    rod = BarLayer(id="b", stock="carbon_rod_3", place="pair", cover_mm=1, end_mm=400)
    tape = StripLayer(id="t", skin="filament_tape_uni", face="both", end_mm=350)
    servo = FittingLayer(id="s", stock="servo_9g", start_mm=180, pocket=False)
    base = plank(reference().foams["epp_20"], rod, tape, tip_chord_mm=80)
    one, other = (
        run(base.model_copy(update={"layers": layers})).prepared for layers in ((rod, tape), (rod, tape, servo))
    )
    places = np.linspace(3, 497, 60)
    for name in ("torsion", "shear_centre", "core_shear"):
        was, now = (np.interp(places, p.geometry.y, getattr(p.fields, name)[0]) for p in (one, other))
        assert now == pytest.approx(was, rel=2e-3), name
    assert other.elements.changes() == one.elements.changes()
    assert len(other.elements.breaks()) == len(one.elements.breaks()) + 2
    assert other.line_mass[:, 0].sum() > one.line_mass[:, 0].sum()


def test_an_open_bay_is_held_by_its_ends_however_many_things_lie_in_it():
    """The length over which warping is held is that of the opening, not the distance between two fittings."""
    walls = WallLayer(id="w", sheet="foamboard_light_5", face="wrapped")
    opening = CutLayer(id="o", face="upper", start_mm=150, end_mm=350, width_mm=70, depth_mm=5, root_percent=50,
                       tip_percent=50)  # fmt: skip
    servo = FittingLayer(id="s", stock="servo_9g", start_mm=230, pocket=False)
    found = []
    for layers in ((walls, opening), (walls, opening, servo)):
        part = plank(CORE, *layers, foam=None, kind="fuselage", chord=80, thickness=80)
        p = run(part).prepared
        found.append(float(np.interp(250, p.geometry.y, p.fields.torsion[0])))
    assert found[1] == pytest.approx(found[0], rel=1e-6)
