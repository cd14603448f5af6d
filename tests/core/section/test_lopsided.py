"""Lay-ups whose stiff parts lie askew: they sway, and their shear stiffness counts the bars sideways as well."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest
from shapely.geometry import Point, box

from fletcher.core.document.airframe import BarLayer, StripLayer
from fletcher.core.estimate.analyse import analyse
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import samples
from fletcher.core.section.flexure_function import solve_all
from fletcher.core.section.grid import BarSpot, Station
from fletcher.core.section.outline import Rectangle
from fletcher.core.section.properties import principal_angle
from fletcher.core.validation.airframe import read
from tests.core.factories import plank, run
from tests.core.joints.test_joints import DEEP, WIDE
from tests.core.joints.test_joints import plank as bare_plank
from tests.core.section.test_oracle import oracle

E = 7.0


@pytest.mark.parametrize(("at", "height"), [(0.65, -0.43), (0.59, 0.44), (0.83, 0.42), (0.74, 0.44), (0.45, -0.44)])
def test_one_rod_off_the_middle_against_the_section_library(at, height):
    """V alone, no sideways force: the flow carries 1 − EI_xz²/(EI_x EI_z) of it, and the whole is scaled to V."""
    chord, depth, d = 110.0, 22.0, 1.2
    x, z = at * chord, height * depth
    EA = (125e3 - E) * np.pi / 4 * d**2
    GA = oracle(box(0, -depth / 2, chord, depth / 2), E, [(Point(x, z).buffer(d / 2, 32), 125e3)], 3.0)[1]
    station = Station(Rectangle(), chord, depth, -1e9, (), (BarSpot(x, z, d, d, 1e4),), (), (1.0, 1.0, EA / E))
    area = E * chord * depth
    middle = (area * chord / 2 + EA * x) / (area + EA), EA * z / (area + EA)
    EI_x = E * chord * depth**3 / 12 + area * middle[1] ** 2 + EA * (z - middle[1]) ** 2
    EI_z = E * depth * chord**3 / 12 + area * (chord / 2 - middle[0]) ** 2 + EA * (x - middle[0]) ** 2
    EI_xz = -area * (chord / 2 - middle[0]) * middle[1] + EA * (x - middle[0]) * (z - middle[1])
    v = np.array([0.0, 0.0, -E * middle[1], E, EA * (z - middle[1])]) / EI_x
    share = 1 - EI_xz**2 / (EI_x * EI_z)
    ours = E / 2 * share**2 / float(v @ solve_all([station])[0].matrix @ v)
    assert ours == pytest.approx(GA, rel=0.05)


def with_edges(edge: float, mirrored: bool) -> float:
    """GA_s of a plank with a rod pair at 40 mm and a strip whose edge lies so far behind the nose."""
    chord, width = 120.0, 20.0

    def percent(x: float) -> float:
        return 100 * (1 - x / chord) if mirrored else 100 * x / chord

    rod = BarLayer(id="b", stock="carbon_rod_3", cover_mm=1, root_percent=percent(40), tip_percent=percent(40))
    middle = percent(edge + width / 2)
    strip = StripLayer(id="s", skin="filament_tape_uni", width_mm=width, root_percent=middle, tip_percent=middle)
    return float(run(plank(reference().foams["xps_30"], rod, strip)).prepared.GA_s[30])


@pytest.mark.parametrize("off", np.round(np.arange(-2.0, 2.01, 0.5), 2))
def test_mirrored_parts_have_the_same_shear_stiffness_wherever_an_edge_lies(off):
    for step in (0.0, 0.1, 0.2, 0.3, 0.4):
        one, other = (with_edges(40 + off + step, m) for m in (False, True))
        assert one == pytest.approx(other, rel=0.003)


def test_an_edge_close_to_a_rod_does_not_move_the_shear_stiffness_by_more_than_the_edge_itself():
    found = [with_edges(40 + d, False) for d in np.arange(-2, 2.01, 0.1)]
    assert max(abs(b / a - 1) for a, b in itertools.pairwise(found)) < 0.03


@pytest.mark.parametrize("foam", ["epp_20", "epo_31", "eps_20", "xps_30"])
def test_a_symmetric_plank_does_not_lean(foam):
    a = run(
        plank(
            reference().foams[foam], StripLayer(id="s", skin="lamfilm_75", width_mm=40, root_percent=50, tip_percent=50)
        )
    )
    assert np.abs(np.degrees(principal_angle(a.prepared.sums)[0])).max() < 0.01
    assert a.prepared.sums.sways.min() > 0.999


def test_rods_askew_sway_and_square_ones_do_not():
    foam = reference().foams["xps_30"]
    askew = run(plank(foam, *(BarLayer(id=p, stock="carbon_rod_3", place=p, cover_mm=1, root_percent=x, tip_percent=x)
                              for p, x in (("upper", 33), ("lower", 67)))))  # fmt: skip
    assert askew.prepared.sums.sways[0, 30] < 0.5


@pytest.mark.parametrize("foam", ["epp_30", "xps_30", "eps_20"])
def test_a_foam_of_two_moduli_bends_and_breaks_alike_either_way(foam):
    """A plank of two moduli (Timoshenko 1930): EI = b h³ E_t E_c/3(√E_t + √E_c)², its neutral axis
    h √E_c/(√E_t + √E_c) from the pulled face, whichever that is."""
    document = bare_plank(foam=foam, weight_g=60).model_dump(mode="json")
    found = []
    for way in ("up", "down"):
        document["parts"][0]["cases"] = [{"type": "handling", "id": "h", "name": "h", "way": way, "force_N": 1}]
        airframe = read(document)
        with samples(0):
            a = analyse(airframe, airframe.parts[0], airframe.parts[0].cases[0])
        sums, values = a.prepared.sums, reference().foams[foam]
        E_t, E_c = values.E_tension_MPa.typ, values.E_compression_MPa.typ
        root = math.sqrt(E_t) + math.sqrt(E_c)
        assert sums.whole_EI[0, 0] == pytest.approx(WIDE * DEEP**3 * E_t * E_c / (3 * root**2), rel=1e-4)
        from_pulled = DEEP / 2 + (1 if way == "up" else -1) * sums.whole_z[0, 0]
        assert from_pulled == pytest.approx(DEEP * math.sqrt(E_c) / root, rel=1e-4)
        moment = np.abs(a.loading.moment[0])
        inner = a.prepared.mesh.y < 0.8 * airframe.parts[0].span_mm
        found.append(
            ((moment * a.judged.along[0])[inner], {m.kind: m.use[0] / np.maximum(moment, 1e-9) for m in a.modes})
        )
    assert found[0][0] == pytest.approx(found[1][0], rel=1e-6)
    for kind in ("foam_tension", "foam_crush"):
        assert found[0][1][kind][:-1] == pytest.approx(found[1][1][kind][:-1], rel=1e-6)
