"""Fuselages and tails as beams: their loads, crushing noses, openings; constructions at other sizes."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe, CutLayer
from fletcher.core.document.cases import (
    LandingCase,
    MotorTorqueCase,
    NoseStrikeCase,
    StrapCase,
    TailLiftCase,
    TailLoadCase,
    TipStrikeCase,
)
from fletcher.core.document.defaults import CASES
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.estimate.report import estimate
from fletcher.core.materials.plates import plate_of
from fletcher.core.materials.tables import reference
from fletcher.core.structure.fuselage import PLATEAU
from fletcher.core.studies.constructions import CONSTRUCTIONS, Size
from fletcher.core.validation.airframe import check_part, read
from tests.core.factories import catalogue, checked, exact, foam, plank, run

BOX = CONSTRUCTIONS["box_fuselage"].part()
G = 9.80665


def test_a_tail_pushes_with_its_pressure_times_its_area(proof):
    case = TailLoadCase(id="t", name="t", speed_m_s=16, area_cm2=250, cl=0.8, way="down")
    a = run(BOX, case)
    force = 0.5 * 1.225 * 16**2 * 0.025 * 0.8
    proof("tail of 250 cm² at 16 m/s, C_L 0.8: root moment, N·mm", -a.loading.moment[0, 0], force * 520, 1e-9)
    assert a.deflection[0, -1] < 0
    up = run(BOX, case.model_copy(update={"way": "up"}))
    assert np.allclose(up.loading.moment, -a.loading.moment)


def test_a_side_load_bends_edgewise_and_twists_by_its_height():
    a = run(BOX, TailLoadCase(id="t", name="t", way="side", height_mm=60))
    force = a.loading.measure.value
    assert a.loading.torque[0, 0] == pytest.approx(60 * force)
    assert a.loading.edge[0, 0] == pytest.approx(520 * force)
    assert not np.any(a.loading.moment) and a.loading.read == "swing"


def test_motor_torque_twists_evenly_and_a_hatch_lets_it_twist_more():
    case = MotorTorqueCase(id="m", name="m", torque_N_mm=150)
    closed = BOX.model_copy(update={"layers": BOX.layers[:1]})
    with_hatch, without = (abs(run(p, case).twist[0, -1]) for p in (BOX, closed))
    assert with_hatch > 1.3 * without
    longer = CutLayer(id="hatch", face="upper", width_mm=None, depth_mm=0, start_mm=50, end_mm=400)
    assert abs(run(BOX.model_copy(update={"layers": (BOX.layers[0], longer)}), case).twist[0, -1]) > 1.5 * with_hatch


def test_a_foam_nose_crushes_by_its_energy_over_its_force(proof):
    """½mV² over crush stress times area; deceleration F/mg."""
    soft = replace(foam(crush_stress_MPa=exact(0.1)), key="nose", through_thickness_ratio=1.0)

    case = NoseStrikeCase(id="n", name="n", speed_m_s=12, free_mm=50, mount_g=100)
    part = plank(soft, chord=60, thickness=50, span=200, kind="fuselage", cases=(case,))
    a = run(part, case, catalogue(soft), mass_g=900)
    force, energy = 0.1 * 60 * 50, 0.5 * 0.9 * 144 * 1e3
    uses = {m.kind: m.use[0].max() for m in a.modes}
    proof("foam nose: depth over the free length", uses["nose_spent"], energy / force / 50, 1e-6)
    proof("… deceleration over what mounts stand", uses["mount_tears"], force / 0.9 / G / 100, 1e-6)
    assert "foam_crush" not in uses  # it is meant to crush


def test_a_hollow_nose_crushes_at_the_plateau_of_its_walls():
    case = NoseStrikeCase(id="n", name="n")
    a = run(BOX, case)
    force = -a.loading.axial[0, 0]
    walls = a.prepared.geometry.skin[:, 0, -1].sum() * reference().sheets["foamboard_light_5"].thickness_mm.typ
    weakest = reference().sheets["foamboard_light_5"].compressive_along_MPa.typ
    assert 0 < force <= PLATEAU.value.high * weakest * walls


def test_a_mass_at_the_end_bends_the_part_when_it_lands():
    light, heavy = (run(BOX, LandingCase(id="l", name="l", sink_m_s=2, end_mass_g=g)).loading for g in (0.0, 120.0))
    felt = heavy.measure.value
    assert -heavy.moment[0, 0] > -light.moment[0, 0] + 0.9 * 0.12 * G * 520 * min(felt, light.measure.value)


def test_a_tail_carries_lift_both_ways():
    part = CONSTRUCTIONS["tail_plate"].part()
    case = TailLiftCase(id="t", name="t", speed_m_s=14, cl=0.6, way="up")
    up, down = (run(part, case.model_copy(update={"way": w})) for w in ("up", "down"))
    assert np.allclose(up.loading.moment, -down.loading.moment) and up.loading.moment[0, 0] > 0
    assert up.loading.measure.value == pytest.approx(0.5 * 1.225 * 14**2 * (130 + 100) * 220e-6 * 0.6)


@pytest.mark.parametrize("way", CONSTRUCTIONS.values(), ids=lambda c: c.key)
@pytest.mark.parametrize("scale", [0.6, 1.0, 1.7])
def test_constructions_can_be_built_at_other_sizes(way, scale):
    """All lengths along scaled, sections by less: what is made can be built, and its places lie on it."""
    s = way.size
    grown = {k: v * (scale if k == "span_mm" else max(1.0, scale**0.5)) for k, v in s.model_dump().items()}
    part = way.part(Size(**grown), 900 * scale)
    assert check_part(part, reference()) == []
    assert part.span_mm == pytest.approx(scale * s.span_mm)
    assert all((layer.end_mm or part.span_mm) <= part.span_mm for layer in part.layers)


def test_a_construction_that_cannot_be_built_at_a_size_says_so():
    way = CONSTRUCTIONS["bead_wing"]
    thin = way.part(way.size.model_copy(update={"tip_thickness_mm": 2.0}))
    problems = check_part(thin, reference())
    assert problems and problems[0].path.startswith("part.layers[0]")


def test_the_demo_fleet_is_sound_and_each_part_can_be_estimated():
    for airframe in demo_airframes():
        document = checked(airframe)
        for part in document.parts:
            result = estimate(document, part.id)
            assert result.mass_g.typ < airframe.all_up_mass_g and result.first.sentence


@pytest.mark.parametrize(
    ("kind", "case"),
    [
        ("wing", "tail_load"),
        ("fuselage", "pull_up"),
        ("tail", "deflected"),
        ("surface", "tail_lift"),
        ("wing", "nose_strike"),
    ],
)
def test_a_case_that_does_not_suit_the_part_is_refused_with_what_does(kind, case):

    way = {"wing": "bead_wing", "fuselage": "box_fuselage", "tail": "tail_plate", "surface": "control_surface"}[kind]
    part = CONSTRUCTIONS[way].part()
    part = part.model_copy(update={"cases": (CASES[case](id="x", name="x"),)})
    with pytest.raises(InvalidDocument) as refused:
        read(Airframe(name="x", all_up_mass_g=900, parts=(part,)).model_dump(mode="json"))
    problem = refused.value.problems[0]
    assert problem.path == "parts[0].cases[0].type" and "needs a" in problem.message


def test_a_pole_and_straps_on_a_hollow_wing_meet_its_walls():
    """Walls on edge at their plateau, both faces: the depth is the energy over that force."""
    wing = CONSTRUCTIONS["folded_wing"].part()
    pole = run(wing, TipStrikeCase(id="p", name="p", speed_m_s=6, contact_mm=40), mass_g=400)
    sheet = reference().sheets["foamboard_light_5"]
    board = plate_of(sheet, reference()).across
    expected = PLATEAU.value.typ * 2 * board * 40
    assert pole.loading.measure.value == pytest.approx(expected, rel=1e-6)
    strap = run(wing, StrapCase(id="s", name="s", pull_N=40, width_mm=20))
    use = next(m.use[0].max() for m in strap.modes if m.kind == "strap_crush")
    assert use == pytest.approx(1.0 / (pole.loading.measure.value / 40), rel=1e-6)


def test_stringers_stiffen_the_nose_against_crushing():
    part = CONSTRUCTIONS["formers_skin"].part()
    bare = part.model_copy(update={"layers": part.layers[:1]})
    case = NoseStrikeCase(id="n", name="n")
    with_bars, without = (-run(p, case).loading.axial[0, 0] for p in (part, bare))
    wood = reference().bars["balsa_5x10"]
    expected = PLATEAU.value.typ * 2 * wood.compressive_strength_MPa.typ * wood.area_mm2
    assert with_bars - without == pytest.approx(expected, rel=1e-6)
