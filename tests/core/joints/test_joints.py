"""Joints and hinges against closed forms, and what they do to the part they are in."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import dblquad, solve_bvp

from fletcher.core.adhesion.bond_line import YIELDS_OVER, counts, decay
from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe, HingeLayer
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.estimate.analyse import analyse
from fletcher.core.estimate.report import estimate
from fletcher.core.joints.butt_and_scarf import face_torsion
from fletcher.core.joints.hinges import PRESSURE_AT, TEAR_SAFETY
from fletcher.core.joints.wing_root import pin_moment
from fletcher.core.materials.tables import reference
from fletcher.core.studies.joint_sheet import JointSheet, joint_sheets
from fletcher.core.validation.airframe import read

LONG, WIDE, DEEP = 500.0, 100.0, 20.0
GLUE = {"adhesive": "epoxy_30min"}
TAPE = {"type": "strip", "id": "tape", "skin": "bopp_tape_std", "width_mm": 60, "root_percent": 50, "tip_percent": 50}


def plank(*layers: dict, foam: str = "epp_30", weight_g: float = 400.0) -> Airframe:
    part = {
        "id": "p", "name": "Plank", "kind": "plank", "span_mm": LONG, "root_chord_mm": WIDE, "tip_chord_mm": WIDE,
        "root_thickness_mm": DEEP, "tip_thickness_mm": DEEP, "section": {"shape": "rectangle"}, "foam": foam,
        "layers": list(layers),
        "cases": [{"type": "tip_weight", "id": "w", "name": "Hung mass", "weight_g": weight_g, "safety_factor": 1.5}],
    }  # fmt: skip
    return read({"format": "fletcher-airframe", "version": 5, "name": "A", "all_up_mass_g": 900, "parts": [part]})


def across(at: float = 200.0, glue: dict | None = GLUE, **joint) -> dict:
    parting = {"kind": "across", "parted": "all", **joint}
    return {"type": "joint", "id": "j", "start_mm": at, "glue": glue, "joint": parting}


def sheet(airframe: Airframe) -> JointSheet:
    return joint_sheets(airframe, airframe.parts[0])[0]


def way(found: JointSheet, text: str):
    return next(w for w in found.ways if text in w.says)


def moment_at(airframe: Airframe, at: float) -> float:
    a = analyse(airframe, airframe.parts[0], airframe.parts[0].cases[0])
    return float(np.interp(at, a.prepared.geometry.y, np.abs(a.loading.moment[0])))


def symbol(found: JointSheet, name: str) -> float:
    return next(s.value for s in found.symbols if s.symbol == name)


def test_a_butt_seam_is_bent_as_a_rectangle_and_a_scarf_as_an_inclined_plane():
    butt = plank(across(faces="butt"))
    found = sheet(butt)
    sigma = moment_at(butt, 200) * (DEEP / 2) / (WIDE * DEEP**3 / 12)
    V = symbol(found, "V")
    tau = 1.5 * V / (WIDE * DEEP)
    pull, shear = symbol(found, "η σ_f"), symbol(found, "τ_a")
    assert way(found, "foam tears").holds.typ == pytest.approx(1 / math.hypot(sigma / pull, tau / shear), rel=2e-3)
    for slope in (2.0, 6.0):
        angle = math.atan(1 / slope)
        normal = sigma * math.sin(angle) ** 2 + tau * math.sin(2 * angle)
        along = sigma * math.sin(angle) * math.cos(angle) + tau * abs(math.cos(2 * angle))
        scarf = sheet(plank(across(faces="scarf", slope=slope)))
        use = math.hypot(normal / pull, along / shear)
        assert way(scarf, "foam tears").holds.typ == pytest.approx(1 / use, rel=2e-3)
        assert scarf.holds.typ > found.holds.typ


@given(
    high=st.floats(1, 60), long=st.floats(5, 200),
)  # fmt: skip
@settings(max_examples=25, deadline=None)
def test_a_glued_face_twists_as_its_integral(high, long):
    whole = dblquad(lambda y, x: math.hypot(x, y), -long / 2, long / 2, -high / 2, high / 2, epsrel=1e-6)[0]
    assert face_torsion(high, long, brittle=False) == pytest.approx(whole, rel=1e-4)
    polar = high * long * (high**2 + long**2) / 12
    corner = math.hypot(high, long) / 2
    assert face_torsion(high, long, brittle=True) == pytest.approx(polar / corner)
    assert face_torsion(high, long, brittle=True) < face_torsion(high, long, brittle=False)


def test_a_lap_hands_on_its_force_as_volkersen_solves_it():
    one, other, gives, long = 900.0, 300.0, 0.4, 60.0
    rate = decay((np.array([one]), np.array([other])), np.array([gives]))
    lam = float(rate[0])

    # N′ = τ, τ′ = (N/E₁t₁ − (F − N)/E₂t₂)/c over the lap: shear of the line, solved as a boundary value problem
    def slopes(x, v):
        return np.vstack([v[1], (v[0] / one - (1 - v[0]) / other) / gives])

    x = np.linspace(0, long, 80)
    found = solve_bvp(slopes, lambda a, b: np.array([a[0], b[0] - 1]), x, np.vstack([x / long, x * 0 + 1 / long]))
    assert found.success
    peak = max(found.sol(0)[1], found.sol(long)[1])
    # of unequal sides the stiffer one's end is worse than the mean of both that the rule takes
    same = decay((np.array([one]), np.array([one])), np.array([gives]))
    mean = 1 / long
    equal = mean * float(same[0]) * long / 2 / math.tanh(float(same[0]) * long / 2)
    assert counts(long, same, True)[0] == pytest.approx(1 / equal)
    assert 1 / peak <= counts(long, rate, True)[0] * 1.001
    assert counts(long, rate, False)[0] == pytest.approx(min(long, YIELDS_OVER / lam))
    assert counts(1e-3, rate, True)[0] == pytest.approx(1e-3, rel=1e-3)


def test_an_embedded_dowel_counts_its_length_on_each_side():
    dowel = {"stock": "carbon_rod_4", "each_side_mm": 60.0, "glued": False}
    found = sheet(plank(across(glue=None, faces="open", braces=[dowel])))
    V, p, d = symbol(found, "V"), symbol(found, "p"), 4.0
    cover = (DEEP - d) / 2
    assert cover >= 2 * d  # not halved
    holds = float(pin_moment(np.array([p]), d, 60.0, np.array([V]))[0])
    assert way(found, "crushes the foam").bears.typ == pytest.approx(holds, rel=1e-6)
    bar = reference().bars["carbon_rod_4"]
    own = bar.compressive_strength_MPa.typ * bar.second_moment_mm4() / (d / 2)
    assert way(found, "breaks").bears.typ == pytest.approx(own)
    no_shear = float(pin_moment(np.array([p]), d, 60.0, np.array([0.0]))[0])
    assert no_shear == pytest.approx(p * d * 60**2 / 4)
    long = sheet(plank(across(glue=None, faces="open", braces=[{**dowel, "each_side_mm": 120.0}])))
    ratio = way(long, "crushes the foam").bears.typ / way(found, "crushes the foam").bears.typ
    assert 4.0 < ratio < 6.0  # with the square, and more for the shear that the short one spends itself on
    # two share it evenly
    two = sheet(plank(across(glue=None, faces="open", braces=[{**dowel, "count": 2}])))
    assert way(two, "breaks").holds.typ == pytest.approx(2 * way(found, "breaks").holds.typ, rel=1e-3)


def test_faces_and_braces_share_by_stiffness_and_together_pass_it_all():
    ply = {"stock": "birchply_1.5", "deep_mm": 12.0, "each_side_mm": 80.0}
    airframe = plank(across(faces="butt", braces=[ply]))
    found = sheet(airframe)
    factor = 1.5
    asked = [way(found, t).asked.typ / factor for t in ("foam tears", "breaks")]
    assert sum(asked) == pytest.approx(moment_at(airframe, 200), rel=2e-3)
    foam, birch = reference().foams["epp_30"], reference().sheets["birchply_1.5"]
    E = 0.5 * (foam.E_tension_MPa.typ + foam.E_compression_MPa.typ)
    EI = [E * WIDE * DEEP**3 / 12, birch.E_along_MPa.typ * birch.thickness_mm.typ * 12**3 / 12]
    assert asked[0] / asked[1] == pytest.approx(EI[0] / EI[1], rel=2e-3)


def test_a_core_alone_passes_only_its_own_share_and_bars_that_run_on_spare_it():
    rods = {"type": "bar", "id": "rods", "stock": "carbon_rod_2", "place": "pair", "cover_mm": 0.5}
    holds = [sheet(plank(rods, across(parted=p))).holds.typ for p in ("core", "skins", "all")]
    assert holds[0] == pytest.approx(holds[1], rel=0.05)  # no skins: the core is all that is parted
    assert holds[0] > 1.5 * holds[2]


def test_strips_across_a_seam_are_lapped_to_both_sides_and_help():
    bare = sheet(plank(across()))
    taped = sheet(plank({**TAPE, "start_mm": 150, "end_mm": 250}, across(bridges=["tape"])))
    assert way(taped, "foam tears").holds.typ > way(bare, "foam tears").holds.typ
    assert way(taped, "foam shears under").unit == "N/mm"
    short = sheet(plank({**TAPE, "start_mm": 195, "end_mm": 205}, across(bridges=["tape"])))
    name = next(w.says for w in taped.ways if w.says.startswith("foam shears under"))
    assert way(short, name).bears.typ < way(taped, name).bears.typ


def test_a_slow_glue_holds_next_to_nothing_at_first_and_all_of_it_in_the_end():
    found = sheet(plank(across(), weight_g=30))
    held = {t.minutes: t.holds.typ for t in found.over_time}
    assert held[5.0] < 0.01 * held[10_080.0]
    assert list(held.values()) == sorted(held.values())
    assert held[10_080.0] == pytest.approx(found.holds.typ)
    assert held[found.enough_after_min] >= found.asked
    soon = sheet(plank(across(glue={**GLUE, "after_min": 5}), weight_g=30))
    assert soon.holds.typ == pytest.approx(held[5.0])
    assert "wait until fully cured" in [h.says for h in soon.helps]


def test_the_weakest_joint_is_the_verdict_and_a_strong_one_only_weighs():
    plain = estimate(plank(weight_g=50), "p")
    strong = estimate(plank(across(at=450.0), weight_g=50), "p")
    assert strong.first.kind == plain.first.kind
    assert strong.breaks_at.typ == pytest.approx(plain.breaks_at.typ, rel=2e-3)
    line = next(x for x in strong.lines if x.id == "j")
    assert strong.mass_g.typ - plain.mass_g.typ == pytest.approx(line.grams.typ, rel=1e-3)
    assert 0.0 < line.grams.low < line.grams.typ < line.grams.high
    weak_frame = plank(across(at=0.0, glue={**GLUE, "after_min": 60}), weight_g=50)
    weak = estimate(weak_frame, "p")
    assert weak.first.line_id == "j" and weak.first.kind == "joint_glue"
    assert weak.first.sentence == "Butt joint: glue line fails"
    assert weak.verdicts[0].enough == "no" and weak.breaks_at.typ < 0.5 * plain.breaks_at.typ
    assert weak.breaks_at.typ == pytest.approx(sheet(weak_frame).holds.typ, rel=1e-6)
    off = across(at=0.0) | {"enabled": False}
    assert estimate(plank(off, weight_g=50), "p").breaks_at.typ == pytest.approx(plain.breaks_at.typ, rel=1e-6)


def test_the_glue_that_is_named_under_a_line_takes_the_place_of_the_usual_one():
    strip = {**TAPE, "start_mm": 0, "end_mm": 300}
    bond = {"type": "joint", "id": "j", "joint": {"kind": "bond", "of": "tape"}}
    part = plank(strip).parts[0]
    usual = {m.kind for m in analyse(plank(strip), part, part.cases[0]).modes}
    named = estimate(plank(strip, {**bond, "glue": {"adhesive": "epoxy_30min", "after_min": 15}}), "p")
    assert "strip_end" in usual
    assert not {"strip_end", "strip_bond"} & {f.kind for f in named.failures}
    # it lets go at once; what holds without that tape is told as what breaks the part
    assert named.failures[0].line_id == "j" and named.verdicts[0].first_mode.line_id == "j"
    assert named.verdicts[0].first_break.typ < 1e-3 < 0.3 < named.verdicts[0].breaks_at.typ
    cured = sheet(plank(strip, {**bond, "glue": GLUE}))
    assert cured.effective_mm is not None and 5 < cured.effective_mm < 300
    assert (
        cured.holds.typ
        > 20 * sheet(plank(strip, {**bond, "glue": {"adhesive": "epoxy_30min", "after_min": 15}})).holds.typ
    )


def plate(**change) -> dict:
    joint = {"kind": "plate", "pull_N": 0, "slide_N": 0, "arm_mm": 0, "long_mm": 40, "wide_mm": 30, **change}
    return {"type": "joint", "id": "j", "start_mm": 100, "glue": GLUE, "joint": joint}


def test_a_plate_lifts_slides_and_tips_off_its_foam():
    lifted = way(sheet(plank(plate(pull_N=10))), "foam tears")
    foam = reference().foams["epp_30"]
    eta = lifted.bears.typ / (foam.tensile_strength_MPa.typ * 40 * 30 * 0.6)
    assert 0.5 < eta < 1.0  # the table's efficiency
    twice = way(sheet(plank(plate(pull_N=10, long_mm=80))), "foam tears")
    assert twice.bears.typ == pytest.approx(2 * lifted.bears.typ)
    tipped = way(sheet(plank(plate(slide_N=10, arm_mm=100))), "foam tears")
    assert tipped.bears.typ == pytest.approx(eta * foam.tensile_strength_MPa.typ * 30 * 40**2 / 6 / 100, rel=0.02)
    keyed = way(sheet(plank(plate(slide_N=10, arm_mm=100, keys=6))), "foam tears")
    assert keyed.bears.typ > tipped.bears.typ
    screwed = sheet(plank(plate(slide_N=10, screws=2, screw_mm=3)))
    ply = reference().sheets["birchply_1.5"]
    bears = 2 * 3 * ply.thickness_mm.typ * 1.5 * ply.compressive_along_MPa.typ
    assert way(screwed, "tear sideways").bears.typ == pytest.approx(bears)
    idle = sheet(plank(plate()))
    assert idle.ways == [] and idle.enough == "unasked"


def test_bolts_and_bands_share_the_lift_of_the_whole_wing():
    wing = demo_airframes()[0].parts[0].model_dump(mode="json")
    document = demo_airframes()[0].model_dump(mode="json") | {"parts": [wing]}
    bolted = {"type": "joint", "id": "b", "joint": {"kind": "bolted", "bolts": 2, "washer_mm": 20}}
    banded = {"type": "joint", "id": "e", "joint": {"kind": "banded", "bands": 6, "months": 0}}
    wing["layers"] += [bolted, banded]
    airframe = read(document)
    bolts, bands = joint_sheets(airframe, airframe.parts[0])
    lift = analyse(airframe, airframe.parts[0], airframe.parts[0].cases[0]).loading.whole_lift
    bolt, band = reference().fasteners["nylon_bolt_5"], reference().fasteners["band_80x4"]
    assert way(bolts, "fails").holds.typ == pytest.approx(2 * bolt.lets_go_N.typ / lift, rel=1e-6)
    assert way(bands, "bands stretch").holds.typ == pytest.approx(6 * band.holds_N.typ / lift, rel=1e-6)
    banded["joint"]["months"] = 12
    aged = joint_sheets(read(document), read(document).parts[0])[1]
    assert way(aged, "bands stretch").holds.typ == pytest.approx(
        way(bands, "bands stretch").holds.typ * (1 - band.ages_per_month.typ) ** 12, rel=1e-6
    )


def test_a_hinge_is_pulled_by_wind_and_rod_in_the_case_that_turns_it():
    airframe = demo_airframes()[0]
    aileron = next(p for p in airframe.parts if p.kind == "surface")
    hinge, horn = joint_sheets(airframe, aileron)
    case = next(c for c in aileron.cases if c.type == "deflected")
    a = analyse(airframe, aileron, case)
    moment = abs(float(a.loading.servo[0]))
    chord = 0.5 * (aileron.root_chord_mm + aileron.tip_chord_mm)
    arm = next(la for la in aileron.layers if la.type == "hinge").horn_arm_mm
    pull = moment / (PRESSURE_AT * chord) + moment / arm
    assert hinge.ways[0].asked.typ == pytest.approx(pull * case.safety_factor, rel=0.01)
    assert hinge.ways[0].bears.typ * TEAR_SAFETY == pytest.approx(170 * aileron.span_mm / 100, rel=0.5)
    assert way(horn, "foam tears").asked.typ == pytest.approx(moment / 12 * case.safety_factor, rel=1e-6)
    assert any("throw" in note or "Binds" in note for note in hinge.notes)


def test_what_is_told_to_help_does_help_by_as_much_when_it_is_done():
    ply = {"stock": "birchply_1.5", "deep_mm": 12, "each_side_mm": 40}
    strip = {**TAPE, "start_mm": 100, "end_mm": 300}
    airframe = plank(strip, across(braces=[ply]), weight_g=900)
    part = airframe.parts[0]
    now = sheet(airframe)
    assert 0 < len(now.helps) <= 4
    assert [h.holds for h in now.helps] == sorted((h.holds for h in now.helps), reverse=True)
    for told in now.helps:
        layers = tuple(told.layer if la.id == "j" else la for la in part.layers)
        changed = airframe.model_copy(update={"parts": (part.model_copy(update={"layers": layers}),)})
        then = sheet(read(changed.model_dump(mode="json")))
        assert then.holds.typ == pytest.approx(told.holds, rel=0.02)
        assert then.grams.typ - now.grams.typ == pytest.approx(told.more_g, abs=0.02)


def test_of_adhesives_and_of_ways_to_hinge_the_best_alone_is_told():
    airframe = demo_airframes()[0]
    aileron = next(p for p in airframe.parts if p.kind == "surface")
    worn = HingeLayer(id="h", start_mm=0, method="tape_one_side_bevel", line="top")
    part = aileron.model_copy(update={"layers": (*(la for la in aileron.layers if la.type != "hinge"), worn)})
    (told,) = [s for s in joint_sheets(airframe, part) if s.line_id == "h"]
    assert len([h for h in told.helps if isinstance(h.layer, HingeLayer)]) == 1
    weak = plank(across(at=450.0, glue={**GLUE, "after_min": None}), weight_g=900)
    glued = [h for h in sheet(weak).helps if h.layer.glue.adhesive != GLUE["adhesive"]]
    assert len(glued) <= 1


@pytest.mark.parametrize(
    ("layer", "path"),
    [
        (across(glue=None), "glue"),
        (across(glue={"adhesive": "spit"}), "glue.adhesive"),
        (across(glue={**GLUE, "technique": "misted"}), "glue.technique"),
        (across(glue=None, faces="open"), "joint.faces"),
        (across(at=600.0), "start_mm"),
        (across(braces=[{"stock": "moonbeam"}]), "joint.braces[0].stock"),
        (across(braces=[{"stock": "carbon_rod_4", "each_side_mm": 400}]), "joint.braces[0].each_side_mm"),
        (across(braces=[{"stock": "birchply_1.5", "each_side_mm": 50}]), "joint.braces[0].deep_mm"),
        (across(braces=[{"stock": "birchply_1.5", "deep_mm": 30}]), "joint.braces[0].deep_mm"),
        (across(bridges=["nothing"]), "joint.bridges[0]"),
        (across() | {"end_mm": 300}, "end_mm"),
        (across(slope=0.1), "joint.across.slope"),
        (plate(keys=60, key_mm=10), "joint.keys"),
        (plate(wide_mm=200), "joint.wide_mm"),
        (plate(load="rod"), "joint.load"),
        ({"type": "joint", "id": "j", "joint": {"kind": "lap", "of": "j"}, "glue": GLUE}, "joint.of"),
        ({"type": "joint", "id": "j", "joint": {"kind": "bolted", "bolt": "band_80x4"}}, "joint.bolt"),
        ({"type": "hinge", "id": "j"}, "type"),
    ],
)
def test_a_joint_that_cannot_be_made_is_refused_by_its_field(layer, path):
    with pytest.raises(InvalidDocument) as refused:
        plank(layer)
    assert refused.value.problems[0].path.endswith(path)
    assert "layers[0]" in refused.value.problems[0].path


def test_a_glue_that_eats_the_foam_is_refused_with_its_reason():
    with pytest.raises(InvalidDocument) as refused:
        plank(across(glue={"adhesive": "contact_neoprene_solvent"}), foam="eps_20")
    assert "dissolves or melts this foam" in refused.value.problems[0].message


def test_versions_before_joints_are_read():
    document = demo_airframes()[1].model_dump(mode="json") | {"version": 4}
    assert read(document).version == 6
