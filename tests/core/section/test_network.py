"""Hollow sections: closed forms, the section library, openings, and what a wall holds."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from sectionproperties.analysis import Section
from sectionproperties.pre import Geometry, Material
from shapely import Polygon, box

from fletcher.core.document.airframe import BarLayer, CutLayer, FilmLayer, WallLayer
from fletcher.core.document.cases import TipTwistCase, TipWeightCase
from fletcher.core.document.shapes import FourDigitSection
from fletcher.core.materials.plates import plate_of
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import WARPING_HELD
from fletcher.core.section.outline import FourDigit, faces
from fletcher.core.section.thin_walled import held_stiffness, section_network
from tests.core.factories import catalogue, exact, foam, plank, run

TWIST = TipTwistCase(id="twist", name="twist", couple_N_mm=100)
HUNG = TipWeightCase(id="hung", name="hung", weight_g=200)


def sheet(t: float, E: float = 2400.0, G: float = 900.0, key: str = "wall"):
    """A solid sheet without spread, alike both ways."""
    base = reference().sheets["hdpe_1"]
    D = E * t**3 / 12
    return replace(
        base,
        key=key,
        thickness_mm=exact(t),
        E_along_MPa=exact(E),
        E_across_MPa=exact(E),
        G_MPa=exact(G),
        EI_along_N_mm=D,
        EI_across_N_mm=D,
        shear_along_N_mm=1e9,
        shear_across_N_mm=1e9,
    )


def stock(*sheets):
    found = catalogue()
    return replace(found, sheets={**found.sheets, **{s.key: s for s in sheets}})


def hollow(*layers, width=150.05, height=20.05, **changes):
    """A box whose walls are 0.05 mm by default: mid-lines 150 × 20."""
    return plank(foam(), *layers, foam=None, chord=width, thickness=height, span=600, cases=(TWIST, HUNG), **changes)


def walls_of(part, materials, y=300.0):
    a = run(part, TWIST, materials).prepared
    k = int(np.argmin(np.abs(a.geometry.y - y)))
    return section_network(a.elements, a.draws, a.geometry, k).solve(a.sums.host_EI[:, k]), a, k


def first(values):
    return float(values[0])


def test_bredts_cell_closed_slit_and_with_a_wall_missing(proof):
    """Worked checks: 4 A² G t/∮ds closed; Σ G b t³/3 open."""
    materials = stock(sheet(0.05))
    closed, _, _ = walls_of(hollow(WallLayer(id="w", sheet="wall", face="wrapped")), materials)
    proof("walls 150 × 20 × 0.05 closed: GJ, N·mm²", first(closed.torsion), 4.76471e6, 1e-4)
    slit = CutLayer(id="s", face="upper", width_mm=0.1, depth_mm=0)
    opened, _, _ = walls_of(hollow(WallLayer(id="w", sheet="wall", face="wrapped"), slit), materials)
    proof("… slit, all wall there: GJ", first(opened.torsion), 12.75, 2e-3)
    lid = CutLayer(id="s", face="upper", width_mm=None, depth_mm=0)
    missing, _, _ = walls_of(hollow(WallLayer(id="w", sheet="wall", face="wrapped"), lid), materials)
    proof("… one long wall missing: GJ", first(missing.torsion), 7.125, 1e-3)


def test_film_that_ends_short_opens_the_cell():
    """A lid of film over an open box closes it; ending short it does not, and the twist shows it."""
    materials = stock(sheet(1.0))
    sides = [WallLayer(id=f, sheet="wall", face=f) for f in ("lower", "front", "rear")]
    whole = run(hollow(*sides, FilmLayer(id="f", skin="lamfilm_75", face="upper")), TWIST, materials)
    short = run(hollow(*sides, FilmLayer(id="f", skin="lamfilm_75", face="upper", end_mm=400)), TWIST, materials)
    assert short.twist[0, -1] > 5 * whole.twist[0, -1]


def test_two_cells_share_their_web(proof):
    """Two equal cells: by symmetry the web carries nothing in torsion; unequal ones follow Bredt's equations."""
    t, G, b, h, at = 0.5, 900.0, 100.0, 30.0, 0.3
    materials = stock(sheet(t))
    layers = (
        WallLayer(id="w", sheet="wall", face="wrapped"),
        WallLayer(id="web", sheet="wall", face="web", root_percent=100 * at, tip_percent=100 * at),
    )
    found, _, _ = walls_of(hollow(*layers, width=b + t, height=h + t), materials)
    x = at * (b + t) - t / 2
    A = np.array([x * h, (b - x) * h])
    C = np.array([[2 * x + 2 * h, -h], [-h, 2 * (b - x) + 2 * h]]) / (G * t)
    q = np.linalg.solve(C, 2 * A)
    web = G * t**3 / 3 * (2 * b + 3 * h)
    proof("two-cell box: GJ, N·mm²", first(found.torsion), 2 * A @ q + web, 2e-3)


def test_shear_centre_of_a_channel(proof):
    """Thin channel, flange b, web h: e = 3b²/(h + 6b) outside the web (Timoshenko & Gere)."""
    t, b, h = 0.2, 40.0, 60.0
    materials = stock(sheet(t))
    layers = [WallLayer(id=f, sheet="wall", face=f) for f in ("upper", "lower", "front")]
    found, _, _ = walls_of(hollow(*layers, width=b + t / 2, height=h + t), materials)
    proof(
        "channel 40 × 60: shear centre from its web, mm",
        t / 2 - first(found.shear_centre),
        3 * b**2 / (h + 6 * b),
        0.01,
    )


def test_warping_stiffness_of_a_channel(proof):
    """I_ω = t b³h²(3b + 2h)/(12(6b + h)) (Timoshenko & Gere)."""
    t, b, h, E = 0.2, 40.0, 60.0, 2400.0
    materials = stock(sheet(t))
    layers = [WallLayer(id=f, sheet="wall", face=f) for f in ("upper", "lower", "front")]
    found, _, _ = walls_of(hollow(*layers, width=b + t / 2, height=h + t), materials)
    expected = E * t * b**3 * h**2 * (3 * b + 2 * h) / (12 * (6 * b + h))
    proof("channel 40 × 60: EI_ω, N·mm⁴", first(found.warping), expected, 0.03)


def test_light_board_box_with_an_opening(proof):
    """Worked check: mid-lines 60 × 50, 300 mm open between closed bays: held and free differ about eightfold."""
    t = plate_of(reference().sheets["foamboard_light_5"], reference()).thickness
    layers = (
        WallLayer(id="w", sheet="foamboard_light_5", face="wrapped"),
        CutLayer(id="c", face="upper", width_mm=None, depth_mm=0, start_mm=150, end_mm=450),
    )
    part = hollow(*layers, width=60 + t, height=50 + t)
    found, a, k = walls_of(part, reference())
    gain = held_stiffness(found.torsion, found.warping, 300.0, 2)[0] / found.torsion[0]
    proof("light-board box: GJ held over free", gain, 8.0, 0.25)
    GJ = a.fields.torsion[:, k] / found.torsion
    assert 1 < np.percentile(GJ, 5) < GJ[0] < np.percentile(GJ, 95) < 1.3 * gain
    assert GJ[0] == pytest.approx(gain**WARPING_HELD.value.typ, rel=1e-6)
    assert a.fields.torsion[0, 2] > 4 * a.fields.torsion[0, k]


BOXES = [(60, 50, 2.0), (120, 30, 1.5), (40, 90, 2.5), (200, 25, 1.0)]


@pytest.mark.parametrize(("b", "h", "t"), BOXES)
@pytest.mark.parametrize("kind", ["box", "webbed", "open", "tee"])
def test_walls_agree_with_the_library(proof, kind, b, h, t):
    """EI, GA_s and GJ of thin-walled sections; the library gets E/G = 2 and ν = 0 throughout."""
    E = 2400.0
    materials = stock(sheet(t, E=E, G=E / 2))
    shape = box(0, 0, b, h)
    inner = box(t, t, b - t, h - t)
    layers = [WallLayer(id="w", sheet="wall", face="wrapped")]
    if kind == "webbed":
        layers.append(WallLayer(id="web", sheet="wall", face="web", root_percent=30, tip_percent=30))
        shape = shape.difference(inner).union(box(0.3 * b - t / 2, 0, 0.3 * b + t / 2, h))
    elif kind == "open":
        layers = [WallLayer(id=f, sheet="wall", face=f) for f in ("lower", "sides")]
        shape = shape.difference(box(t, t, b - t, h + 1))
    elif kind == "tee":
        place = {"root_percent": 50, "tip_percent": 50}
        layers = [
            WallLayer(id="w", sheet="wall", face="web", **place),
            WallLayer(id="l", sheet="wall", face="level", **place),
        ]
        shape = box(b / 2 - t / 2, 0, b / 2 + t / 2, h).union(box(0, h / 2 - t / 2, b, h / 2 + t / 2))
    else:
        shape = shape.difference(inner)
    m = Material("wall", elastic_modulus=E, poissons_ratio=0, yield_strength=1, density=1, color="w")
    section = Section(Geometry(shape, m).create_mesh([0.7 * t * t]))
    section.calculate_geometric_properties()
    section.calculate_warping_properties()
    found, a, k = walls_of(hollow(*layers, width=b, height=h), materials)
    name = f"{kind} {b} × {h} × {t}"
    proof(f"{name}: EI", a.sums.whole_EI[0, k], section.get_eic()[0], 0.02)
    proof(f"{name}: GA_s", 1 / first(found.flexibility), section.get_eas()[1] / 2, 0.05)
    proof(f"{name}: GJ", first(found.torsion), section.get_ej() / 2, 0.05)


def test_folded_board_wing_agrees_with_the_library(proof):
    """An aerofoil of sheet folded at the nose, glued at the tail, with a spar web."""
    c, t, thick, E = 180.0, 1.5, 26.0, 2400.0
    materials = stock(sheet(t, E=E, G=E / 2))
    outline = FourDigit(0.02, 0.4)
    x = 0.5 * (1 - np.cos(np.linspace(0, np.pi, 161)))
    low, high = faces(outline, x, np.array(c), np.array(thick))
    outer = Polygon(np.concatenate([np.stack([x * c, high], 1), np.stack([x * c, low], 1)[::-1]])).buffer(0)
    web = box(0.3 * c - t / 2, -99, 0.3 * c + t / 2, 99)
    shape = outer.difference(outer.buffer(-t)).union(outer.intersection(web))
    m = Material("wall", elastic_modulus=E, poissons_ratio=0, yield_strength=1, density=1, color="w")
    section = Section(Geometry(shape, m).create_mesh([1.2]))
    section.calculate_geometric_properties()
    section.calculate_warping_properties()
    layers = (
        WallLayer(id="w", sheet="wall", face="both"),
        WallLayer(id="web", sheet="wall", face="web", root_percent=30, tip_percent=30),
    )
    found, a, k = walls_of(hollow(*layers, width=c, height=thick, section=FourDigitSection(), kind="wing"), materials)
    proof("folded wing: EI", a.sums.whole_EI[0, k], section.get_eic()[0], 0.02)
    proof("folded wing: GA_s", 1 / first(found.flexibility), section.get_eas()[1] / 2, 0.05)
    proof("folded wing: GJ", first(found.torsion), section.get_ej() / 2, 0.05)
    assert first(found.shear_centre) == pytest.approx(section.get_sc()[0], abs=0.03 * c)


def test_a_tube_boom_is_the_tube():
    part = hollow(
        BarLayer(id="b", stock="carbon_tube_8_6", place="middle", root_percent=50, tip_percent=50), width=9, height=9
    )
    tube = reference().bars["carbon_tube_8_6"]
    a = run(part, HUNG)
    force, L, E = 0.2 * 9.80665, 600.0, tube.E_MPa.typ
    I = tube.second_moment_mm4()  # noqa: E741
    assert a.prepared.sums.whole_EI[0, 0] == pytest.approx(E * I, rel=1e-6)
    assert -a.deflection[0, -1] == pytest.approx(force * L**3 / (3 * E * I), rel=0.02)
    twisted = run(part, TWIST)
    GJ = tube.G_MPa.typ * 2 * I
    assert twisted.twist[0, -1] == pytest.approx(100 * L / GJ, rel=1e-6)
    assert {m.kind for m in twisted.modes} == {"bar_twist"}


def test_light_panels_buckle_and_a_second_web_helps():
    """A wide thin wall buckles long before its material gives; a web that halves the panel quadruples it."""
    materials = stock(sheet(0.5))
    web = WallLayer(id="web", sheet="wall", face="web", root_percent=50, tip_percent=50)
    around = WallLayer(id="w", sheet="wall", face="wrapped")

    def load_at_buckling(*layers):
        a = run(hollow(*layers, width=150, height=40), HUNG, materials)
        return min(1 / m.use[0].max() for m in a.modes if m.kind == "wall_buckling" and m.where == "lower")

    assert load_at_buckling(around, web) == pytest.approx(4 * load_at_buckling(around), rel=0.15)


def test_paper_off_one_face_weakens_the_board():
    board, known = reference().sheets["foamboard_light_5"], reference()
    both, one, none = (plate_of(board, known, paper) for paper in ("both", "outer", "none"))
    assert both.D11 > 10 * one.D11 > 10 * none.D11
    assert one.centre > 1.5  # what carries lies towards the paper that is left
    assert pytest.approx(board.EI_along_N_mm, rel=0.01) == both.D11
    assert both.skin.compressive_strength_MPa.typ == pytest.approx(board.compressive_along_MPa.typ, rel=0.01)
    across = plate_of(board, known, "both", "across")
    assert pytest.approx(board.EI_across_N_mm, rel=0.01) == across.D11
