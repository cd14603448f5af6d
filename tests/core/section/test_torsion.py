"""Torsion, shear centre and twist against closed forms and the section library."""

from __future__ import annotations

import numpy as np
import pytest
from sectionproperties.analysis import Section
from sectionproperties.pre import Geometry, Material
from shapely import Polygon, box

from fletcher.core.document.airframe import FilmLayer, StripLayer
from fletcher.core.section.flexure_function import solve
from fletcher.core.section.grid import BarSpot, FaceSkin
from fletcher.core.section.outline import FourDigit, Rectangle, polygon
from fletcher.core.structure.loads import lift_moment, lift_per_length
from fletcher.core.studies.constructions import CONSTRUCTIONS
from tests.core.factories import PULL_UP, run

EVERYWHERE = ("upper", "lower", "front", "rear")


def wrapped(chord: float, ratio: float) -> list[FaceSkin]:
    return [FaceSkin(face, 0, chord, ratio, 0) for face in EVERYWHERE]


@pytest.mark.parametrize(("b", "h", "beta"), [(20, 20, 0.1406), (40, 20, 0.2287), (100, 20, 0.2913), (200, 20, 0.3123)])
def test_solid_rectangle(proof, b, h, beta):
    """J = β b h³, Timoshenko & Goodier."""
    found = solve(Rectangle(), b, h, 0, [], []).torsion.constant
    proof(f"rectangle {b} × {h}: J, mm⁴", found, beta * b * h**3, 0.02)


def test_closed_cell_round_a_soft_core_is_bredts(proof):
    soft = 1e-4
    found = solve(Rectangle(), 150, 20, 0, wrapped(150, 0.05 * 900 / soft), [])
    proof("Bredt's cell 150 × 20: GJ, N·mm²", found.torsion.constant * soft, 4.76471e6, 0.002)
    assert found.torsion.skin_share.sum() == pytest.approx(1, abs=1e-3)


def test_taking_a_long_wall_away_collapses_the_cell():
    soft = 1e-4
    walls = [s for s in wrapped(150, 0.05 * 900 / soft) if s.face != "upper"]
    assert solve(Rectangle(), 150, 20, 0, walls, []).torsion.constant * soft < 0.01 * 4.76471e6


@pytest.mark.parametrize("ratio", [1.0, 10.0, 100.0])
def test_foam_and_film_share_the_torsion(ratio):
    """The shares are derivatives: they add up to what skins give, and lie between foam alone and all of it."""
    bare = solve(Rectangle(), 150, 20, 0, [], []).torsion.constant
    a = solve(Rectangle(), 150, 20, 0, wrapped(150, ratio), [])
    b = solve(Rectangle(), 150, 20, 0, wrapped(150, ratio * 1.01), [])
    assert a.torsion.constant > bare
    slope = np.log(b.torsion.constant / a.torsion.constant) / np.log(1.01)
    assert slope == pytest.approx(a.torsion.skin_share.sum(), rel=0.02)


def test_shear_centre_of_a_rod_pair_is_at_the_rods():
    bars = [BarSpot(60, z, 3, 3, 1e4) for z in (8, -8)]
    found = solve(Rectangle(), 180, 20, 0, [], bars)
    v = np.array([0, 5, 0, 5, 8 * 883e3, -8 * 883e3])
    assert found.torque @ v / (found.force @ v) == pytest.approx(60.5, abs=1.5)


def test_shear_centre_of_a_rectangle_is_its_middle():
    found = solve(Rectangle(), 120, 20, 0, [], [])
    v = np.array([0, 1, 0, 1.0])
    assert found.torque @ v / (found.force @ v) == pytest.approx(60, abs=0.1)


@pytest.mark.parametrize("depth", [14, 20, 26])
def test_aerofoils_agree_with_the_library(proof, depth):
    """GJ within 5 % and the shear centre within 2 % of the chord; for torsion the library takes E := 2G, ν = 0."""
    outline, chord = FourDigit(0.02, 0.4), 160.0
    foam = (
        Polygon(polygon(outline, np.array([chord]), np.array([depth]), 60)[0])
        .buffer(0)
        .intersection(box(0.004 * chord, -99, chord, 99))
    )
    m = Material("foam", elastic_modulus=2.0, poissons_ratio=0, yield_strength=1, density=1, color="w")
    section = Section(Geometry(foam, m).create_mesh([6.0]))
    section.calculate_geometric_properties()
    section.calculate_warping_properties()
    found = solve(outline, chord, depth, -1e9, [], [])
    proof(f"aerofoil {depth} mm thick: J, mm⁴", found.torsion.constant, section.get_ej() / 2, 0.05)
    v = np.array([0, 0, -section.get_c()[1], 1.0])
    assert found.torque @ v / (found.force @ v) == pytest.approx(section.get_sc()[0], abs=0.02 * chord)


def test_lift_per_length_adds_up_to_the_lift_and_its_moment():
    y = np.linspace(0, 600, 4001)
    chord = 180 - 40 * y / 600
    for kind in ("elliptic", "schrenk"):
        q = lift_per_length(kind, 14.0, 600, chord, y)
        assert np.trapezoid(q, y) == pytest.approx(14.0, rel=1e-3)
        assert np.trapezoid(q * y, y) == pytest.approx(lift_moment(kind, 14.0, 600, 180, 140, np.zeros(1))[0], rel=2e-3)


def test_fields_read_between_stations_agree_with_solved_ones():
    """Two stretches of a tapering wing are solved at their ends only; a layer that ends half-way changes nothing but
    puts a solved station there."""
    spar, _, film = CONSTRUCTIONS["bead_wing"].part().layers
    taper = {"tip_chord_mm": 120.0, "tip_thickness_mm": 15.0}
    part = CONSTRUCTIONS["bead_wing"].part().model_copy(update={**taper, "layers": (spar, film)})
    none = StripLayer(id="x", skin="lamfilm_75", face="upper", width_mm=0.5, start_mm=210, end_mm=230)
    read = run(part, PULL_UP)
    solved = run(part.model_copy(update={"layers": (spar, none, film)}), PULL_UP)
    at = np.array([y for y in np.linspace(0, 600, 40) if not 205 < y < 235])  # beside the strip, not under it
    for name, within in (("torsion", 0.02), ("shear_centre", 0.02), ("core_shear", 0.05)):
        a, b = (np.interp(at, r.prepared.mesh.y, getattr(r.prepared.fields, name)[0]) for r in (read, solved))
        assert a == pytest.approx(b, rel=within), name


def wing_with(*layers):
    part = CONSTRUCTIONS["bead_wing"].part()
    return run(part.model_copy(update={"layers": layers}), PULL_UP)


def twist_of(*layers):
    return float(np.degrees(wing_with(*layers).twist[0, -1]))


def test_film_all_round_stiffens_in_torsion_as_strips_do_not():
    """Told by GJ: the twist also follows the shear centre, which strips move."""
    spar, tape, film = CONSTRUCTIONS["bead_wing"].part().layers
    one_face = FilmLayer(id="one", skin="lamfilm_75", face="upper")
    both = {"bare": (spar,), "tape": (spar, tape), "one": (spar, one_face), "round": (spar, tape, film)}
    root = {name: wing_with(*layers).prepared.fields.torsion[0, 0] for name, layers in both.items()}
    assert root["bare"] < root["tape"] < 1.5 * root["bare"]
    assert root["one"] < 0.3 * root["round"]
    assert root["round"] > 5 * root["bare"]
    assert abs(twist_of(spar, tape, film)) < 0.25 * abs(twist_of(spar))


def test_bars_further_forward_twist_the_nose_down():
    bar = CONSTRUCTIONS["bead_wing"].part().layers[0]
    forward, aft = (twist_of(bar.model_copy(update={"root_percent": p, "tip_percent": p})) for p in (15, 50))
    assert forward < aft


def test_narrow_caps_shear_the_foam_beside_them():
    """Concentrated shear under narrow caps: far above the mean V/(bh)."""
    strips = [StripLayer(id="s", skin="carbon_ud_100", face="both", width_mm=w, plies=2) for w in (10, 60)]
    part = CONSTRUCTIONS["cloth_wing"].part()
    narrow, wide = (
        run(part.model_copy(update={"layers": (s,)}), PULL_UP).prepared.fields.core_shear[0, 0] for s in strips
    )
    assert narrow > 2 * wide
    assert narrow * part.root_chord_mm * part.root_thickness_mm > 5
