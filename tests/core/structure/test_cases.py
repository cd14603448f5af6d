"""Load cases against closed forms; frequencies and divergence; the envelope of all kept cases."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document import cases
from fletcher.core.document.airframe import Airframe, FilmLayer, Laminate, Ply
from fletcher.core.document.defaults import CASES, default_case, kinds_for
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.estimate.analyse import analyse
from fletcher.core.estimate.report import estimate
from fletcher.core.layup.laminates import skin_of
from fletcher.core.materials.tables import reference
from fletcher.core.section.partial_interaction import mesh, tie
from fletcher.core.structure.divergence import Swept
from fletcher.core.structure.frequencies import edge_frequency, flap_frequency, twist_frequency
from fletcher.core.structure.loads import dynamic_factor
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.validation.airframe import check, read
from tests.core.factories import catalogue, exact, foam, plank, run

WING = CONSTRUCTIONS["bead_wing"].part()
G = 9.80665


def under(case, part=WING, mass_g=900.0, **airframe):
    return analyse(Airframe(name="t", all_up_mass_g=mass_g, parts=(part,), **airframe), part, case)


def made(kind, **values):
    return CASES[kind].model_validate({"id": "c", "name": "c", **values})


def uniform():
    grid = mesh([0.0, 600.0])
    n = len(grid.y)
    one, none = np.ones((1, n)), np.zeros((1, 0, n))
    rigid = np.zeros((n, 1, 1, 1))
    rigid[..., 0, 0] = 1e-12
    return grid, one, tie(grid, 3e7 * one, 1e9 * one, none, none, rigid, np.zeros(0, bool))


def test_uniform_cantilever_shakes_as_the_closed_form(proof):
    grid, one, tied = uniform()
    proof("cantilever: first bending, Hz", flap_frequency(tied, 0.25 * one)[0], 17.028, 1e-3)
    proof("cantilever: first edgewise, Hz", edge_frequency(grid, 0.25 * one, 3e7 * one)[0], 17.028, 1e-3)
    twist = twist_frequency(grid.y, 500 * one, 2e6 * one)[0]
    proof("cantilever: first torsion, Hz", twist, (2e6 / 500e-6) ** 0.5 / 2400, 1e-3)


def test_divergence_of_a_uniform_wing(proof):
    grid, one, _ = uniform()
    chord = np.full(len(grid.y), 180.0)
    wing = Swept.of(grid.y, 3e7 * one, 2e6 * one, chord, 90 * one, 0.0, 5.0)
    speed = np.sqrt(2 * wing.divergence()[0] * 1e6 / 1.225)
    proof("uniform wing: divergence, m/s", speed, 23.507, 1e-3)
    assert Swept.of(grid.y, 3e7 * one, 2e6 * one, chord, 40 * one, 0.0, 5.0).divergence()[0] == np.inf


def test_dynamic_factor_of_short_and_long_stops():
    slow, fast = dynamic_factor(np.array([100.0, 1.0]), 10.0, 60.0)
    assert slow == 2.0
    assert fast == pytest.approx(2 * np.sin(np.pi * 0.012), rel=1e-9)


def test_turn_lifts_the_weight_over_the_cosine_of_the_bank():
    turn = under(made("turn", bank_deg=60, saddle_mm=0))
    assert turn.loading.measure.value == pytest.approx(2.0)
    level = under(made("turn", bank_deg=0, saddle_mm=0))
    assert turn.loading.moment[0, 0] == pytest.approx(2 * level.loading.moment[0, 0], rel=1e-9)
    stalled = under(made("turn", bank_deg=75, speed_m_s=12))
    assert stalled.loading.stall.startswith("Load factor limited to") and stalled.loading.measure.value < 1 / 0.2588
    heavy = under(made("turn", bank_deg=75, speed_m_s=5))
    assert heavy.loading.cannot_fly and heavy.loading.stall.startswith("Cannot fly at 5 m/s")


def test_gusts_follow_pratt_and_mirror():
    area, aspect = (180 + 140) * 600e-6, 1200 / 160
    slope = 2 * np.pi * aspect / (aspect + 2)
    ratio = 2 * (0.9 / area) / (1.225 * 0.160 * slope)
    change = 0.88 * ratio / (5.3 + ratio) * 1.225 * 24 * 4 * slope * area / (2 * 0.9 * G)
    up, down = (under(made("gust", gust_m_s=4, speed_m_s=24, way=w)).loading.measure.value for w in ("up", "down"))
    assert up == pytest.approx(1 + change, rel=1e-9)
    assert up + down == pytest.approx(2)


def test_a_towed_wing_is_relieved_by_one_g_only():
    pull = 3 * 0.9 * G
    tow, turn = (
        under(made("tow", pull_N=pull, speed_m_s=20)),
        under(made("turn", bank_deg=np.degrees(np.arccos(0.25)), speed_m_s=20)),
    )
    assert turn.loading.measure.value == pytest.approx(4)
    assert tow.loading.moment[0, 5] > turn.loading.moment[0, 5]


def test_landing_bends_down_and_a_longer_stop_is_milder():
    hard, soft = (under(made("landing", sink_m_s=2, stop_mm=s)) for s in (10, 40))
    assert hard.loading.moment[0, 0] < soft.loading.moment[0, 0] < 0
    assert hard.deflection[0, -1] < 0


def test_a_stop_pulls_the_rear_edge_and_a_throw_the_front():
    bare = WING.model_copy(update={"layers": ()})
    stop = under(made("sudden_stop", speed_m_s=10, stop_mm=100), bare)
    throw = under(made("hand_launch", speed_m_s=9, stroke_mm=900), bare)
    first = [next(m for m in a.modes if m.kind == "foam_tension").where for a in (stop, throw)]
    assert first == ["rear", "front"]
    mass = stop.prepared.line_mass.sum(0)[0]
    y = stop.prepared.mesh.y
    expected = stop.loading.measure.value * G * 1e-3 * np.trapezoid(mass * y, y)
    assert stop.loading.edge[0, 0] == pytest.approx(expected, rel=2e-3)


def test_edgewise_plank_is_the_closed_form(proof):
    """σ = M (c/2) / (t c³/12), and the swing of a tip load F L³/3EI."""
    core = foam(E=14, G=5.4, crush_stress_MPa=exact(0.2), tensile_strength_MPa=exact(0.45))
    part = plank(core, span=500)
    a = run(part, made("tip_strike", at_mm=500, contact_mm=1), catalogue(core))
    force = 0.2 * 1 * 20
    use = next(m for m in a.modes if m.kind == "foam_tension").use[0, 0]
    proof("edgewise plank: share of strength", use, force * 500 * 60 / (20 * 120**3 / 12) / 0.45, 1e-6)
    EI = 14 * 20 * 120**3 / 12
    proof("edgewise plank: swing, mm", a.deflection[0, -1], force * 500**3 / (3 * EI), 1e-3)


def test_strike_energy_counts_the_mass_that_must_stop():
    near, far = (under(made("tip_strike", at_mm=at)) for at in (100, 580))
    joules = [float(a.loading.says.split(": ")[1].split(" J")[0]) for a in (near, far)]
    assert joules[0] > 3 * joules[1]


def test_tip_twist_turns_by_couple_times_length_over_stiffness():
    core = foam(E=14, G=5.4)
    a = run(plank(core), made("tip_twist", couple_N_mm=300), catalogue(core))
    assert a.twist[0, -1] == pytest.approx(300 * 500 / a.prepared.fields.torsion[0, 0], rel=1e-9)
    film = FilmLayer(id="f", skin="lamfilm_75", face="wrapped")
    skinned = run(plank(core, film), made("tip_twist", couple_N_mm=300), catalogue(core))
    flow = next(m for m in skinned.modes if m.kind == "skin_shear" and m.where == "upper").use[0, 20]
    # Bredt: q = T / 2A nearly, most of the torque in the film
    strength = reference().skins["lamfilm_75"]
    bredt = 300 / (2 * 120 * 20) / strength.thickness_mm.typ / strength.shear_strength_MPa.typ
    assert 0.3 * bredt < flow < 1.1 * bredt


def test_tip_weight_and_hand_are_cantilevers():
    core = foam(E=14, G=5.4)
    weight = run(plank(core), made("tip_weight", weight_g=100), catalogue(core))
    hand = run(plank(core), made("handling", force_N=0.980665, way="down"), catalogue(core))
    bend = 0.980665 * 500**3 / (3 * 14 * 120 * 20**3 / 12)
    assert -weight.deflection[0, -1] == pytest.approx(bend, rel=0.01)
    assert hand.deflection[0, -1] < weight.deflection[0, -1]


def fleet_with_all_cases() -> Airframe:
    airframe = demo_airframes()[0]
    part = airframe.parts[0]
    for kind in kinds_for(part):
        part = part.model_copy(update={"cases": (*part.cases, default_case(kind, airframe, part))})
        part = part.model_copy(update={"cases": part.cases[-12:]})
    return airframe.model_copy(update={"parts": (part,)})


def test_every_kind_has_a_default_that_can_be_estimated():
    airframe = read(fleet_with_all_cases().model_dump(mode="json"))
    part = airframe.parts[0]
    assert {c.type for c in part.cases} == set(kinds_for(part)[-12:])
    for case in part.cases:
        result = estimate(airframe, part.id, case.id)
        assert result.says and result.breaks_at.low <= result.breaks_at.typ <= result.breaks_at.high
        assert result.measure.value > 0
        assert {w.figure for w in result.workings} >= {"added", "bend", "breaks_at"}


def test_the_case_that_leaves_least_governs():
    airframe = fleet_with_all_cases()
    part = airframe.parts[0]
    result = estimate(airframe, part.id, part.cases[0].id)
    shares = {v.case_id: v.breaks_at.typ / v.asked for v in result.verdicts}
    assert len(shares) == len(part.cases)
    assert result.governs == min(shares, key=lambda k: shares[k])
    for case in part.cases[:4]:
        alone = estimate(airframe, part.id, case.id)
        assert alone.breaks_at.typ / alone.safety_factor == pytest.approx(shares[case.id])


def test_the_place_of_a_load_is_told():
    airframe = fleet_with_all_cases()
    part = airframe.parts[0]
    told = {c.type: estimate(airframe, part.id, c.id).acts_at_mm for c in part.cases}
    assert (told["tip_strike"], told["handling"], told["tip_weight"], told["gust"]) == (580, 600, 600, None)
    assert told["strap"] == 10


def test_defaults_follow_mass_and_speed():
    airframe = demo_airframes()[0]
    part = airframe.parts[0]
    heavy = airframe.model_copy(update={"all_up_mass_g": 1800.0, "top_speed_m_s": 40.0})
    light, big = (default_case("tow", a, part) for a in (airframe, heavy))
    assert isinstance(light, cases.TowCase) and isinstance(big, cases.TowCase)
    assert big.pull_N == pytest.approx(2 * light.pull_N, rel=0.01)
    assert big.speed_m_s > light.speed_m_s


@pytest.mark.parametrize(
    ("values", "path"),
    [
        ({"type": "handling", "at_mm": 700}, "at_mm"),
        ({"type": "tip_weight", "at_mm": 3}, "at_mm"),
        ({"type": "turn", "bank_deg": 90}, "bank_deg"),
        ({"type": "gust", "saddle_mm": 650}, "saddle_mm"),
        ({"type": "landing", "stop_mm": 0}, "stop_mm"),
        ({"type": "loop"}, "cases[0]"),
    ],
)
def test_impossible_cases_are_named(values, path):
    data = demo_airframes()[0].model_dump(mode="json")
    data["parts"][0]["cases"] = [{"id": "x", "name": "x", **values}]
    with pytest.raises(InvalidDocument) as refused:
        read(data)
    assert any(path in p.path for p in refused.value.problems), refused.value.problems


def test_a_test_piece_does_not_fly():
    part = plank(reference().foams["eps_20"], cases=(cases.TurnCase(id="t", name="t"),))
    problems = list(check(Airframe(name="t", all_up_mass_g=100, parts=(part,)), reference()))
    assert problems and "needs a wing" in problems[0].message
    assert "turn" not in kinds_for(part)


def test_a_wing_whose_film_has_wrinkled_twists_away_sooner_and_one_that_has_not_does_not():
    way = CONSTRUCTIONS["bead_wing"]
    part = way.part()
    hard = part.cases[0].model_copy(update={"speed_m_s": 22.6, "cl_max": 2.5})
    found = {}
    for name, case in (("as it is", part.cases[0]), ("hard", hard)):
        own = part.model_copy(update={"cases": (case,)})
        found[name] = estimate(Airframe(name="x", all_up_mass_g=900, parts=(own,)), own.id)
    plain, bent = found["as it is"], found["hard"]
    assert plain.verdict.changes_at.typ > 1 and plain.shakes.divergence_at_load_m_s is None
    assert bent.verdict.changes_at.typ < 1
    assert 0.9 < bent.shakes.divergence_at_load_m_s.typ / bent.shakes.divergence_m_s.typ < 0.99
    assert bent.shakes.divergence_m_s.typ == plain.shakes.divergence_m_s.typ


def test_lift_slope_and_fibre_share_are_the_builders_own_where_given():
    part = CONSTRUCTIONS["bead_wing"].part()
    aspect = 4 * part.span_mm / (part.root_chord_mm + part.tip_chord_mm)
    usual = 2 * np.pi * aspect / (aspect + 2)
    speeds = {}
    for slope in (None, usual, 2.0):
        own = part.model_copy(update={"lift_slope": slope})
        speeds[slope] = estimate(Airframe(name="x", all_up_mass_g=900, parts=(own,)), own.id).shakes.divergence_m_s.typ
    assert speeds[usual] == pytest.approx(speeds[None], rel=1e-9)
    assert speeds[2.0] == pytest.approx(speeds[None] * (usual / 2.0) ** 0.5, rel=1e-6)  # q_D ~ 1/a
    skins = [
        skin_of(Laminate(plies=(Ply(cloth="glass_49"),), fibre_percent=f), reference())
        for f in (None, 30.0, 40.0, 50.0)
    ]
    usual_share, *own = skins
    assert own[1].thickness_mm.typ == pytest.approx(usual_share.thickness_mm.typ)  # a squeegee gives 40 %
    wide, narrow = (s.thickness_mm.high - s.thickness_mm.low for s in (usual_share, own[1]))
    assert narrow < 0.8 * wide
    assert [s.areal_mass_g_m2.typ for s in own] == sorted((s.areal_mass_g_m2.typ for s in own), reverse=True)
    # the fibres fix E·t: less resin hardly changes what it carries
    carried = [s.E_along_MPa.typ * s.thickness_mm.typ for s in own]
    assert max(carried) / min(carried) < 1.15 and len({s.key for s in skins}) == 4
