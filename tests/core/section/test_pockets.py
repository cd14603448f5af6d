"""Pockets, holes, hollows and ellipses against the section library; what cuts do to a part."""

from __future__ import annotations

import numpy as np
import pytest
from sectionproperties.analysis import Section
from sectionproperties.pre import Geometry, Material
from shapely import Polygon, box

from fletcher.core.document.airframe import Airframe, BarLayer, CutLayer, FilmLayer
from fletcher.core.document.cases import TipWeightCase
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.document.shapes import EllipseSection
from fletcher.core.materials.tables import reference
from fletcher.core.section.properties import principal_angle
from fletcher.core.strength.modes import notch_factor
from fletcher.core.validation.airframe import read
from tests.core.factories import catalogue, foam, plank, run

HUNG = TipWeightCase(id="hung", name="hung", weight_g=50)
E = 14.0
CUTS = [
    pytest.param(120, 20, "upper", 50, 24, 8, id="pocket"),
    pytest.param(120, 20, "lower", 30, 30, 10, id="pocket-below"),
    pytest.param(120, 20, "inside", 50, 40, 10, id="hollow"),
    pytest.param(160, 30, "inside", 40, 60, 18, id="wide-hollow"),
    pytest.param(90, 30, "upper", 60, 20, 14, id="deep-pocket"),
    pytest.param(160, 24, "upper", 50, 50, 6, id="shallow-pocket"),
]


def library(shape, mesh=3.0):
    m = Material("foam", elastic_modulus=E, poissons_ratio=0, yield_strength=1, density=1, color="w")
    section = Section(Geometry(shape, m).create_mesh([mesh]))
    section.calculate_geometric_properties()
    section.calculate_warping_properties()
    return section


def prepared(part, core):
    a = run(part, HUNG, catalogue(core))
    return a.prepared, int(np.argmin(np.abs(a.prepared.geometry.y - 250)))


@pytest.mark.parametrize(("c", "h", "face", "at", "width", "depth"), CUTS)
def test_cut_sections_agree_with_the_library(proof, c, h, face, at, width, depth):
    """EI 1 %, GA_s and GJ 5 %, the library fed E/G = 2 and ν = 0."""
    core = foam(E=E, G=E / 2)
    cut = CutLayer(id="c", face=face, width_mm=width, depth_mm=depth, root_percent=at, tip_percent=at)
    p, k = prepared(plank(core, cut, chord=c, thickness=h, kind="wing"), core)
    z0, z1 = {"upper": (h / 2 - depth, h), "lower": (-h, -h / 2 + depth), "inside": (-depth / 2, depth / 2)}[face]
    x = at / 100 * c
    section = library(box(0, -h / 2, c, h / 2).difference(box(x - width / 2, z0, x + width / 2, z1)))
    name = f"{c} × {h} with a cut {width} × {depth}, {face}"
    proof(f"{name}: EI", p.sums.whole_EI[0, k], section.get_eic()[0], 0.01)
    proof(f"{name}: GA_s", p.GA_s[k], section.get_eas()[1] / 2, 0.05)
    proof(f"{name}: GJ", p.fields.torsion[0, k], section.get_ej() / 2, 0.05)


@pytest.mark.parametrize(("c", "h"), [(40, 40), (60, 30), (120, 24)])
def test_ellipses_agree_with_the_closed_form(proof, c, h):
    """EI = E π c h³/64; GJ = G π a³b³/(a² + b²) (Saint-Venant)."""
    core = foam(E=E, G=E / 2)
    part = plank(core, chord=c, thickness=h, kind="fuselage", section=EllipseSection())
    p, k = prepared(part, core)
    a, b = c / 2, h / 2
    proof(f"ellipse {c} × {h}: EI", p.sums.whole_EI[0, k], E * np.pi * c * h**3 / 64, 0.01)
    proof(f"ellipse {c} × {h}: GJ", p.fields.torsion[0, k], E / 2 * np.pi * (a * b) ** 3 / (a * a + b * b), 0.03)


def test_an_ellipse_in_shear_agrees_with_the_library(proof):
    core = foam(E=E, G=E / 2)
    p, k = prepared(plank(core, chord=60, thickness=30, kind="fuselage", section=EllipseSection()), core)
    t = np.linspace(0, 2 * np.pi, 121)[:-1]
    section = library(Polygon(np.stack([30 * np.cos(t), 15 * np.sin(t)], 1)), 2.0)
    proof("ellipse 60 × 30: GA_s", p.GA_s[k], section.get_eas()[1] / 2, 0.05)


def test_a_cut_takes_the_skins_that_were_laid_before_it_and_no_later_ones():
    film, cut = FilmLayer(id="f", skin="lamfilm_75", face="upper"), CutLayer(id="c", width_mm=20, depth_mm=0)
    core = reference().foams["epp_30"]
    through, over = (run(plank(core, *layers), HUNG).prepared for layers in ((film, cut), (cut, film)))
    k = 10
    assert over.geometry.skin[:, 0, k].sum() == pytest.approx(120)
    assert (through.geometry.skin[:, 0, k] * through.geometry.skin_on[:, k]).sum() == pytest.approx(100)


def test_a_slit_along_the_span_opens_the_torsion_cell_and_a_bridge_closes_it_again():
    core = reference().foams["epp_30"]
    film = FilmLayer(id="f", skin="lamfilm_75", face="wrapped")
    slit = CutLayer(id="c", width_mm=2, depth_mm=0)
    bridge = FilmLayer(id="b", skin="lamfilm_75", face="upper")
    lays = ((film,), (film, slit), (film, slit, bridge))
    whole, open_, mended = (run(plank(core, *lay), HUNG).prepared.fields.torsion[0, 5] for lay in lays)
    assert open_ < 0.93 * whole and mended > 0.97 * whole


def test_a_pocket_weakens_and_lightens_and_its_corner_cracks_brittle_foam_first():
    pocket = CutLayer(id="c", face="lower", width_mm=30, depth_mm=8, start_mm=100, end_mm=160, corner_radius_mm=0)
    up = HUNG.model_copy(update={"weight_g": 50})
    brittle, soft = reference().foams["xps_30"], reference().foams["epp_30"]
    plain, cut = (run(plank(brittle, *layers), up) for layers in ((), (pocket,)))
    grams = [float(np.trapezoid(a.prepared.line_mass[-1, 0], a.prepared.mesh.y)) for a in (plain, cut)]
    assert grams[0] - grams[1] == pytest.approx(30 * 8 * 60 * brittle.density_kg_m3.typ * 1e-6, rel=0.02)
    assert abs(cut.deflection[0, -1]) > abs(plain.deflection[0, -1])
    kinds = {m.kind for m in cut.modes}
    assert "notch" in kinds and "notch" not in {m.kind for m in run(plank(soft, pocket), up).modes}
    assert notch_factor(15, 0) > notch_factor(15, 6) > 1


@pytest.mark.parametrize(
    ("layer", "path", "says"),
    [
        (CutLayer(id="c", face="upper", width_mm=20, depth_mm=25), "parts[0].layers[0].depth_mm", "at most 19.5"),
        (CutLayer(id="c", face="through", width_mm=200), "parts[0].layers[0].width_mm", "cuts the edge"),
        (
            CutLayer(id="c", face="upper", width_mm=20, root_percent=1, tip_percent=1),
            "parts[0].layers[0].root_percent",
            "outside the core",
        ),
    ],
)
def test_cuts_that_cannot_be_are_refused_by_their_field(layer, path, says):
    part = plank(reference().foams["epp_30"], layer)
    with pytest.raises(InvalidDocument) as refused:
        read(Airframe(name="x", all_up_mass_g=900, parts=(part,)).model_dump(mode="json"))
    assert refused.value.problems[0].path == path and says in refused.value.problems[0].message


def test_a_pocket_across_a_bar_is_refused():
    bar = BarLayer(id="b", stock="carbon_rod_3", place="upper", root_percent=50, tip_percent=50, cover_mm=1)
    cut = CutLayer(id="c", face="upper", width_mm=20, depth_mm=8)
    with pytest.raises(InvalidDocument) as refused:
        part = plank(reference().foams["epp_30"], bar, cut)
        read(Airframe(name="x", all_up_mass_g=900, parts=(part,)).model_dump(mode="json"))
    assert "cuts through spar" in refused.value.problems[0].message


def test_cross_term_and_principal_axes_of_a_lopsided_section(proof):
    """A quarter of a block cut out: EI_xz and the lean of its axes against the library."""
    core = foam(E=E, G=E / 2)
    cut = CutLayer(id="c", face="upper", width_mm=40, depth_mm=12, root_percent=20, tip_percent=20)
    p, k = prepared(plank(core, cut, chord=100, thickness=30, kind="wing"), core)
    shape = box(0, -15, 100, 15).difference(box(0, 3, 40, 99))
    section = library(shape, 4.0)
    ixx, iyy, ixy = section.get_eic()
    proof("block 100 × 30 less a corner: cross term", p.sums.cross_EI[0, k], ixy, 0.01)
    lean = 0.5 * np.degrees(np.arctan2(2 * ixy, iyy - ixx))
    proof("… lean of the principal axes, °", -np.degrees(principal_angle(p.sums)[0, k]), lean, 0.01)
    proof("… edgewise EI", p.sums.edge_EI[0, k], iyy, 0.01)
