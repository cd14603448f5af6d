"""The worked checks of the mechanics: closed forms with figures worked out by hand."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.document.airframe import BarLayer, FilmLayer, StripLayer
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import WRINKLING_K
from fletcher.core.section.buckling import bar_buckling_load, wrinkling_stress
from fletcher.core.section.partial_interaction import mesh, respond, tie
from fletcher.core.section.shear_stiffness import shear_stiffness
from fletcher.core.structure.loads import lift_moment
from tests.core.factories import BENCH, catalogue, foam, plank, rod, run, skin

G0 = 9.80665
FIFTEEN_NEWTON = BENCH.model_copy(update={"weight_g": 15 / G0 * 1000})


def middle(analysis, values):
    """A curve's typical value in the middle between the supports."""
    return values[0, int(np.argmin(np.abs(analysis.prepared.geometry.y - 250)))]


def section_shear(analysis):
    return shear_stiffness(analysis.prepared.fields.flexibility, analysis.prepared.sums)[0]


def test_plain_plank_bends_as_euler_and_timoshenko_say(proof):
    core = foam(E=14, G=5.4)
    a = run(plank(core), FIFTEEN_NEWTON, catalogue(core))
    proof("plank 120 × 20: EI, N·mm²", a.prepared.sums.whole_EI[0, 0], 1.120e6, 1e-9)
    proof("plank: GA_s = 5/6 GA, N", section_shear(a)[0], 5 / 6 * 5.4 * 2400, 0.01)
    proof("plank: bend with shear, mm", -middle(a, a.response.deflection), 30.857 + 0.1667, 1e-3)
    stress = middle(a, a.response.curvature) * 10 * 14
    proof("plank: stress, MPa", stress, 0.225, 1e-3)


def test_bimodular_rectangle_bends_with_the_reduced_modulus(proof):
    core = foam(E=14, G=5.4, E_compression=8)
    a = run(plank(core), FIFTEEN_NEWTON, catalogue(core))
    reduced = 4 * 14 * 8 / (np.sqrt(14) + np.sqrt(8)) ** 2
    proof("bimodular rectangle: EI, N·mm²", a.prepared.sums.whole_EI[0, 0], reduced * 120 * 20**3 / 12, 1e-6)


def test_film_on_both_faces(proof):
    core, film = foam(E=14, G=5.4), skin(E=2300, t=0.03)
    layer = FilmLayer(id="film", skin=film.key, face="both")
    a = run(plank(core, layer), FIFTEEN_NEWTON, catalogue(core, film))
    proof("film on both faces: EI, N·mm²", a.prepared.sums.whole_EI[0, 0], 2.78097e6, 1e-5)
    proof("film on both faces: GA_s, N", section_shear(a)[0], 12_574.6, 0.005)
    proof("film on both faces: bend, mm", -middle(a, a.response.deflection), 12.4273 + 0.14315, 2e-3)


def test_wrinkling_stress(proof):
    found = wrinkling_stress(np.array(0.5), np.array(2300.0), np.array(14.0), np.array(5.4))
    proof("film: wrinkling stress, MPa", float(found), 27.91, 1e-3)
    assert WRINKLING_K["yes"].value.typ == 0.5
    assert WRINKLING_K["no"].value.typ == 0.25


def test_one_strip_on_the_upper_face_only(proof):
    core, tape = foam(E=14, G=5.4), skin(E=2300, t=0.03)
    strip = StripLayer(id="s", skin=tape.key, face="upper", width_mm=50, root_percent=50, tip_percent=50)
    a = run(plank(core, strip), FIFTEEN_NEWTON, catalogue(core, tape))
    proof("one strip above: centroid, mm", a.prepared.sums.whole_z[0, 0], 0.93257, 1e-4)
    proof("one strip above: EI, N·mm²", a.prepared.sums.whole_EI[0, 0], 1.433814e6, 1e-5)
    proof("one strip above: GA_s, N", section_shear(a)[0], 9_354, 0.05)


def block(cover: float):
    core, bar = foam(E=7, G=3.5), rod(d=2, E=125e3)
    layer = BarLayer(id="b", stock=bar.key, place="pair", cover_mm=cover, root_percent=50, tip_percent=50)
    return plank(core, layer, chord=180, thickness=22), catalogue(core, bar)


def test_the_same_rods_near_the_faces_and_near_the_middle(proof):
    far, near = (run(part, materials=known) for part, known in (block(1), block(9)))
    proof("rods at ±9 mm: EI, N·mm²", far.prepared.sums.whole_EI[0, 0], 64.928e6, 1e-5)
    proof("rods at ±1 mm: EI, N·mm²", near.prepared.sums.whole_EI[0, 0], 2.0997e6, 1e-4)
    proof("rods at ±9 mm: GA_s, N", section_shear(far)[0], 974, 0.05)
    assert far.prepared.line_mass[0, 0].sum() == pytest.approx(near.prepared.line_mass[0, 0].sum())


def test_rods_near_the_faces_help_far_less_than_their_second_moment_promises(proof):
    """Thin rods bend the foam in shear: 31 times the section stiffness gives 6.6 times less bend, not 31."""
    core, bar = foam(E=7, G=2.7), rod(d=2, E=125e3)
    sinks = []
    for cover in (1, 9):
        layer = BarLayer(id="b", stock=bar.key, place="pair", cover_mm=cover, root_percent=50, tip_percent=50)
        a = run(plank(core, layer, chord=180, thickness=22), FIFTEEN_NEWTON, catalogue(core, bar))
        sinks.append(-middle(a, a.response.deflection))
    proof("rods at ±9 mm: bend on two pegs, mm (about)", sinks[0], 2.5, 0.06)
    proof("rods at ±1 mm: bend on two pegs, mm (about)", sinks[1], 16.5, 0.06)


def test_rod_flow_without_slip(proof):
    """n = V EA z / EI of one rod at V = 6 N."""
    part, known = block(1)
    a = run(part, materials=known)
    flow = 6 * a.prepared.sums.bar_EA[0, 0, 0] * 9 / a.prepared.sums.whole_EI[0, 0]
    proof("rod flow without slip, N/mm", flow, 0.3266, 2e-3)


def test_tube_with_a_rod_glued_inside(proof):
    tube, inner = rod(d=7, bore=5), rod(d=4)
    proof("tube 7/5: I, mm⁴", tube.second_moment_mm4(), 87.179, 1e-4)
    proof("tube with rod inside: I, mm⁴", tube.second_moment_mm4() + inner.second_moment_mm4(), 99.746, 1e-4)
    assert inner.area_mm2 / tube.area_mm2 == pytest.approx(0.667, abs=1e-3)


def test_elliptic_lift_on_a_uniform_cantilever(proof):
    grid = mesh([0.0, 600.0])
    lift = 4 * 0.9 * G0 / 2
    moment = lift_moment("elliptic", lift, 600, 150, 150, grid.y)[None]
    ones = np.ones_like(moment)
    proof("elliptic lift: root moment, N·mm", moment[0, 0], 4495.04, 1e-5)
    stiff = np.zeros((len(grid.y), 1, 1, 1))
    none = np.zeros((1, 0, len(grid.y)))
    tied = tie(grid, 3e7 * ones, 1e9 * ones, none, none, stiff, np.zeros(0, bool))
    shape = respond(tied, moment, None)
    proof("elliptic lift: tip, mm", shape.deflection[0, -1], 12.2907, 2e-4)


@pytest.mark.parametrize(("key", "cover"), [("epp_30", 30.0), ("epp_45", 1.0), ("xps_30", 1.0)])
def test_carbon_rod_buckles_into_its_foam_long_before_it_crushes(key, cover):
    """A 3 mm carbon rod gives way at about 220-260 MPa, against 850 MPa crushing."""
    core, bar = reference().foams[key], reference().bars["carbon_rod_3"]
    load = bar_buckling_load(
        G=np.array(core.G_MPa.typ),
        poisson=core.poisson,
        EI_weak=np.array(bar.E_MPa.typ * bar.weak_second_moment_mm4),
        radius=1.5,
        cover=np.array(cover),
        wave=np.array(0.2),
        tensile=np.array(core.tensile_strength_MPa.typ),
        width=3.0,
    )
    assert 220 <= float(load) / bar.area_mm2 <= 260
