"""The worked checks of the mechanics: closed forms with figures worked out by hand."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.airframe import BarLayer, FilmLayer, StripLayer
from fletcher.core.beam import mesh, respond, tie
from fletcher.core.evidence import WRINKLING_K
from fletcher.core.loads import lift_moment
from fletcher.core.materials import reference
from fletcher.core.shear import shear_stiffness
from fletcher.core.strength import bar_buckling_load, wrinkling_stress
from tests.core.factories import BENCH, catalogue, foam, plank, rod, run, skin

G0 = 9.80665
FIFTEEN_NEWTON = BENCH.model_copy(update={"weight_g": 15 / G0 * 1000})


def middle(analysis, values):
    """A curve's typical value in the middle between the supports."""
    return values[0, int(np.argmin(np.abs(analysis.prepared.geometry.y - 250)))]


def section_shear(analysis):
    return shear_stiffness(analysis.prepared.fields.flexibility, analysis.prepared.sums)[0]


def test_plain_plank_bends_as_euler_and_timoshenko_say():
    core = foam(E=14, G=5.4)
    a = run(plank(core), FIFTEEN_NEWTON, catalogue(core))
    assert a.prepared.sums.whole_EI[0] == pytest.approx(1.120e6, rel=1e-9)
    assert section_shear(a) == pytest.approx(5 / 6 * 5.4 * 2400, rel=0.01)
    assert -middle(a, a.response.deflection) == pytest.approx(30.857 + 0.1667, rel=1e-3)
    stress = middle(a, a.response.curvature) * 10 * 14
    assert stress == pytest.approx(0.225, rel=1e-3)


def test_bimodular_rectangle_bends_with_the_reduced_modulus():
    core = foam(E=14, G=5.4, E_compression=8)
    a = run(plank(core), FIFTEEN_NEWTON, catalogue(core))
    reduced = 4 * 14 * 8 / (np.sqrt(14) + np.sqrt(8)) ** 2
    assert a.prepared.sums.whole_EI[0] == pytest.approx(reduced * 120 * 20**3 / 12, rel=1e-6)


def test_film_on_both_faces():
    core, film = foam(E=14, G=5.4), skin(E=2300, t=0.03)
    layer = FilmLayer(id="film", skin=film.key, face="both")
    a = run(plank(core, layer), FIFTEEN_NEWTON, catalogue(core, film))
    assert a.prepared.sums.whole_EI[0] == pytest.approx(2.78097e6, rel=1e-5)
    assert section_shear(a) == pytest.approx(12_574.6, rel=0.005)
    assert -middle(a, a.response.deflection) == pytest.approx(12.4273 + 0.14315, rel=2e-3)


def test_wrinkling_stress():
    assert wrinkling_stress(np.array(0.5), np.array(2300.0), np.array(14.0), np.array(5.4)) == pytest.approx(
        27.91, rel=1e-3
    )
    assert WRINKLING_K["yes"].value.typ == 0.5
    assert WRINKLING_K["no"].value.typ == 0.25


def test_one_strip_on_the_upper_face_only():
    core, tape = foam(E=14, G=5.4), skin(E=2300, t=0.03)
    strip = StripLayer(id="s", skin=tape.key, face="upper", width_mm=50, root_percent=50, tip_percent=50)
    a = run(plank(core, strip), FIFTEEN_NEWTON, catalogue(core, tape))
    assert a.prepared.sums.whole_z[0] == pytest.approx(0.93257, rel=1e-4)
    assert a.prepared.sums.whole_EI[0] == pytest.approx(1.433814e6, rel=1e-5)
    assert section_shear(a) == pytest.approx(9_354, rel=0.05)


def block(cover: float):
    core, bar = foam(E=7, G=3.5), rod(d=2, E=125e3)
    layer = BarLayer(id="b", stock=bar.key, place="pair", cover_mm=cover, root_percent=50, tip_percent=50)
    return plank(core, layer, chord=180, thickness=22), catalogue(core, bar)


def test_the_same_rods_near_the_faces_and_near_the_middle():
    far, near = (run(part, materials=known) for part, known in (block(1), block(9)))
    assert far.prepared.sums.whole_EI[0] == pytest.approx(64.928e6, rel=1e-5)
    assert near.prepared.sums.whole_EI[0] == pytest.approx(2.0997e6, rel=1e-4)
    assert section_shear(far) == pytest.approx(974, rel=0.05)
    assert far.prepared.line_mass[0, 0].sum() == pytest.approx(near.prepared.line_mass[0, 0].sum())


def test_rods_near_the_faces_help_far_less_than_their_second_moment_promises():
    """Thin rods bend the foam in shear: 31 times the section stiffness gives 6.6 times less bend, not 31."""
    core, bar = foam(E=7, G=2.7), rod(d=2, E=125e3)
    sinks = []
    for cover in (1, 9):
        layer = BarLayer(id="b", stock=bar.key, place="pair", cover_mm=cover, root_percent=50, tip_percent=50)
        a = run(plank(core, layer, chord=180, thickness=22), FIFTEEN_NEWTON, catalogue(core, bar))
        sinks.append(-middle(a, a.response.deflection))
    assert sinks[0] == pytest.approx(2.5, rel=0.06)
    assert sinks[1] == pytest.approx(16.5, rel=0.06)


def test_rod_flow_without_slip():
    """n = V EA z / EI of one rod at V = 6 N."""
    part, known = block(1)
    a = run(part, materials=known)
    flow = 6 * a.prepared.sums.bar_EA[0, 0, 0] * 9 / a.prepared.sums.whole_EI[0, 0]
    assert flow == pytest.approx(0.3266, rel=2e-3)


def test_tube_with_a_rod_glued_inside():
    tube, inner = rod(d=7, bore=5), rod(d=4)
    assert tube.second_moment_mm4() == pytest.approx(87.179, rel=1e-4)
    assert tube.second_moment_mm4() + inner.second_moment_mm4() == pytest.approx(99.746, rel=1e-4)
    assert inner.area_mm2 / tube.area_mm2 == pytest.approx(0.667, abs=1e-3)


def test_elliptic_lift_on_a_uniform_cantilever():
    grid = mesh([0.0, 600.0])
    lift = 4 * 0.9 * G0 / 2
    moment = lift_moment("elliptic", lift, 600, 150, 150, grid.y)[None]
    ones = np.ones_like(moment)
    assert moment[0, 0] == pytest.approx(4495.04, rel=1e-5)
    stiff = np.zeros((1, len(grid.y), 1, 1))
    none = np.zeros((1, 0, len(grid.y)))
    tied = tie(grid, 3e7 * ones, 1e9 * ones, none, none, stiff, np.zeros(0, bool))
    shape = respond(tied, moment, None)
    assert shape.deflection[0, -1] == pytest.approx(12.2907, rel=2e-4)


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
