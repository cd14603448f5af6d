"""What holds the root, cords along edges, straps, faced wood: closed forms and which way things go."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from fletcher.core.document.airframe import (
    Airframe,
    BandsRoot,
    BarLayer,
    CordLayer,
    FilmLayer,
    GluedRoot,
    HeldRoot,
    StripLayer,
    WallLayer,
)
from fletcher.core.document.cases import (
    HandlingCase,
    PullUpCase,
    StrapCase,
    SuddenStopCase,
    TipStrikeCase,
    TipWeightCase,
)
from fletcher.core.estimate.report import estimate
from fletcher.core.joints.wing_root import pin_moment
from fletcher.core.layup.weighing import faced, weighed_sheet
from fletcher.core.materials.tables import reference
from fletcher.core.section.buckling import thin_core, thin_core_stress
from fletcher.core.structure.cord_strike import caught
from fletcher.core.structure.cords import draw_cord
from fletcher.core.structure.loads import EDGE_CONTACT
from fletcher.core.studies.constructions import CONSTRUCTIONS
from tests.core.factories import plank, run

HUNG = TipWeightCase(id="hung", name="hung", weight_g=100)
WING = CONSTRUCTIONS["bead_wing"].part()
PULL_UP = PullUpCase(id="air", name="pull-up", speed_m_s=15)
STOP = SuddenStopCase(id="stop", name="stop")


def holds(a, kind):
    return min(1 / m.use[0].max() for m in a.modes if m.kind == kind)


def test_an_embedded_pin(proof):
    """Worked check: ℓ 60 mm on each side, d 3, p 0.25, V 0: p d ℓ²/4 = 675 N·mm."""
    one = np.ones(1)
    proof("brace 3 mm, 60 mm on each side: moment, N·mm", pin_moment(0.25 * one, 3, 60, 0 * one)[0], 675, 1e-9)
    assert pin_moment(0.25 * one, 3, 60, 5 * one)[0] < 675


def joined(length=80.0, stock="carbon_rod_5", cover=0.0):
    joiner = BarLayer(
        id="j", stock=stock, place="middle", root_percent=30, tip_percent=30, end_mm=length, joiner=True, cover_mm=cover
    )
    return WING.model_copy(update={"layers": (*(x for x in WING.layers if x.type != "bar"), joiner)})


def test_a_joiner_bears_on_the_foam_and_a_longer_one_holds_more():
    short, long = (run(joined(length), PULL_UP) for length in (60.0, 120.0))
    assert holds(long, "joint_bearing") > 3 * holds(short, "joint_bearing")
    a = short.prepared
    moment, shear = abs(short.loading.moment[0, 0]), abs(short.response.slope[0, 0])
    bearing = a.draws.foam.bearing[:1] * 0.5 if a.geometry.thickness[0] < 25 else a.draws.foam.bearing[:1]
    expected = pin_moment(bearing, 5.0, 60.0, np.array([shear]))[0] / moment
    assert holds(short, "joint_bearing") == pytest.approx(expected, rel=0.02)


def test_a_joiner_tilts_in_its_foam_and_the_tip_bends_further():
    a = run(joined(), PULL_UP)
    still = replace(a.prepared, root_give=0 * a.prepared.root_give)
    assert a.deflection[0, -1] > replace(a, prepared=still).deflection[0, -1] > 0


def test_a_glued_root_is_the_weak_place_of_bare_foam_and_tape_over_the_seam_helps():
    bare = WING.model_copy(update={"layers": (FilmLayer(id="f", skin="lamfilm_75", face="both"),)})
    uncovered, covered = (run(bare.model_copy(update={"root": GluedRoot(covered=c)}), PULL_UP) for c in (False, True))
    assert holds(covered, "root_glue") > 1.5 * holds(uncovered, "root_glue")
    assert not any(m.kind == "root_glue" for m in run(bare.model_copy(update={"root": HeldRoot()}), PULL_UP).modes)


def test_bands_let_go_at_their_pull():
    a = run(WING.model_copy(update={"root": BandsRoot(hold_N=40)}), PULL_UP)
    lift = 0.5 * 1.225 * 15**2 * (180 + 140) * 600e-6
    assert holds(a, "bands_give") == pytest.approx(40 / lift, rel=1e-6)


def test_straps_crush_an_edge_and_a_hard_strip_spreads_them():
    soft, hard = (
        run(WING, StrapCase(id="s", name="straps", pull_N=60, width_mm=12, hard_strip_mm=h)) for h in (0.0, 60.0)
    )
    crush = reference().foams["epp_30"].crush_stress_MPa.typ
    assert holds(soft, "strap_crush") == pytest.approx(crush / (30 / (12 * EDGE_CONTACT.value.typ)), rel=1e-6)
    assert holds(hard, "strap_crush") == pytest.approx(5 * holds(soft, "strap_crush"), rel=1e-6)


def corded(*faces, cord="glass_roving_600"):
    cords = tuple(CordLayer(id=f"c-{f}", cord=cord, face=f) for f in faces)
    return WING.model_copy(update={"layers": (*WING.layers, *cords)})


def test_only_the_cord_on_the_pulled_side_works(proof):
    """The nose strikes: the rear edge is pulled. Parallel-axis sums of the section and the cord."""
    plain, rear, front = (run(p, STOP) for p in (WING, corded("rear"), corded("front")))
    root = [abs(a.edge_curvature[0, 0] / a.loading.edge[0, 0]) for a in (plain, rear, front)]
    assert root[2] == pytest.approx(root[0], rel=1e-9) and root[1] < root[0]
    s, EA = plain.prepared.sums, draw_cord(reference().cords["glass_roving_600"]).EA[0]
    arm = 180 - s.edge_x[0, 0]
    share = EA * s.whole_EA[0, 0] / (EA + s.whole_EA[0, 0])
    proof("wing with a cord in its rear edge: EI_e, N·mm²", 1 / root[1], s.edge_EI[0, 0] + share * arm**2, 1e-9)


def test_what_a_cord_does_is_told_with_its_working():
    part = corded("rear").model_copy(update={"cases": (STOP,)})
    result = estimate(Airframe(name="x", all_up_mass_g=900, parts=(part,)), "wing")
    (told,) = result.cords
    working = next(w for w in result.workings if w.figure == "cords")
    numbers = {s.symbol: s.value for s in working.symbols}
    arm = 180 - numbers["x̄"]
    pull = numbers["EA"] * 1e3 * numbers["M_e"] * 1e3 * arm / (numbers["EI_e"] * 1e6)
    assert told.pull_N.typ == pytest.approx(pull, rel=1e-6)
    assert told.moment_share == pytest.approx(pull * arm / (numbers["M_e"] * 1e3), rel=1e-6)
    assert told.bond_mm == pytest.approx(pull / numbers["τ"] / numbers["g"], rel=1e-6)


def test_a_cord_never_deepens_a_cut_and_sliding_is_no_break():
    """A5: whatever it is made of and however long it is bonded, the cut is at most as deep as without it."""
    one = np.ones(1)
    bare = 2000.0 / 66
    depths = []
    for bonded, breaks in ((0.0, 1e4), (30.0, 1e4), (90.0, 1e4), (500.0, 1e4), (500.0, 30.0)):
        hit = caught(2000 * one, 66 * one, 30, 0.132 * one, 2e4 * one, 0.8 * one, bonded * one, breaks * one)
        depths.append(float(hit.depth[0]))
        assert hit.depth[0] <= bare * (1 + 1e-9) and np.isfinite(hit.force[0])
    assert depths[0] > depths[1] > depths[2] > depths[3] and depths[4] > depths[3]


def test_a_cord_in_the_leading_edge_shows_in_the_strike_of_a_pole():
    pole = TipStrikeCase(id="p", name="pole", speed_m_s=8)
    plain, tied = run(WING, pole), run(corded("front"), pole)
    assert tied.loading.measure.value > plain.loading.measure.value
    assert "without the cord" in tied.loading.says and "without" not in plain.loading.says


def test_a_cord_that_ends_under_pull_slides_out():
    short = CordLayer(id="c", cord="glass_roving_600", face="rear", end_mm=100)
    a = run(WING.model_copy(update={"layers": (*WING.layers, short)}), STOP)
    assert holds(a, "cord_bond") < holds(run(corded("rear"), STOP), "cord_bond")


def test_faced_wood_bends_as_its_layers(proof):
    """Transformed section: wood between strips, EI = w[E_w h³ + E_s((h + 2t)³ − h³)]/12."""
    wood, strip = reference().bars["spruce_3x10"], reference().bars["carbon_strip_3x0.5"]
    both = faced(wood, strip, on_edge=True)
    w, h, t, Ew, Es = 3.0, 10.0, 0.5, wood.E_MPa.typ, strip.E_MPa.typ
    EI = w * (Ew * h**3 + Es * ((h + 2 * t) ** 3 - h**3)) / 12
    proof("spruce 3 × 10 faced with 0.5 mm carbon: EI", both.E_MPa.typ * both.second_moment_mm4(True), EI, 1e-9)
    proof("… EA", both.E_MPa.typ * both.area_mm2, w * (Ew * h + 2 * Es * t), 1e-9)
    proof("… sideways EI", both.E_MPa.typ * both.second_moment_mm4(False), w**3 * (Ew * h + 2 * Es * t) / 12, 1e-9)
    assert both.size(True) == (3.0, 11.0)


def test_a_strip_that_ends_where_it_is_strained_peels_and_one_that_runs_to_the_tip_does_not():
    tape = StripLayer(id="t", skin="bopp_tape_std", face="both", width_mm=40)
    part = plank(reference().foams["epp_30"], tape, kind="wing")
    short = plank(reference().foams["epp_30"], tape.model_copy(update={"end_mm": 150.0}), kind="wing")
    hand = HandlingCase(id="h", name="hand", force_N=3)
    assert not any(m.kind == "strip_end" for m in run(part, hand).modes)
    a = run(short, hand)
    assert any(m.kind == "strip_end" for m in a.modes)
    k = int(np.argmin(np.abs(a.prepared.geometry.y - 150)))
    peel = next(m for m in a.modes if m.kind == "strip_end" and m.where == "lower")
    skin = reference().skins["bopp_tape_std"]
    lower = next(i for i, m in enumerate(a.prepared.elements.membranes) if m.face == "lower")
    arm = a.prepared.sums.host_z[0, k] - a.prepared.geometry.skin_low[lower, k]
    strain = abs(a.response.curvature[0, k]) * arm
    Et = skin.E_along_MPa.typ * skin.thickness_mm.typ
    expected = strain * Et / np.sqrt(2 * skin.peel_N_per_25mm.typ / 25 * Et)
    assert peel.use[0].max() == pytest.approx(expected, rel=0.1)


def test_a_skin_backed_by_a_sheet_wrinkles_later():
    """A cap under sheeting is one face with it: more than alone, less than if the pair were as stiff as the cap."""
    cap = StripLayer(id="c", skin="carbon_ud_100", face="both", width_mm=12)
    sheet = WallLayer(id="s", sheet="balsa_light_1.5", face="both")
    core = reference().foams["eps_20"]
    alone, backed = (run(plank(core, *layers), HUNG) for layers in ((cap,), (cap, sheet)))

    def strain(a):
        pressed = [m for m in a.modes if m.line == 0 and m.kind in ("skin_wrinkling", "skin_compression")]
        m = max(pressed, key=lambda m: m.use[0].max())
        k = int(np.argmax(m.use[0]))
        return abs(a.response.curvature[0, k]) / m.use[0, k]

    assert 1.3 < strain(backed) / strain(alone) < 10


def test_weighed_balsa_sheet_is_stiffer_when_heavier():
    sheet = reference().sheets["balsa_light_3"]
    light, heavy = (weighed_sheet(sheet, g) for g in (260.0, 350.0))
    assert light.E_along_MPa.typ < sheet.E_along_MPa.typ < heavy.E_along_MPa.typ
    assert sheet.E_along_MPa.low * 0.9 < light.E_along_MPa.typ and heavy.E_along_MPa.typ < 1.1 * sheet.E_along_MPa.high
    assert heavy.EI_along_N_mm / sheet.EI_along_N_mm == pytest.approx(heavy.E_along_MPa.typ / sheet.E_along_MPa.typ)
    assert weighed_sheet(reference().sheets["hdpe_1"], 940).E_along_MPa == reference().sheets["hdpe_1"].E_along_MPa


def test_skins_on_a_thin_core_wrinkle_together(proof):
    """Both formulas of Hoff & Mautner meet at t_c/t_f = 1.82 (E_f E_c/G_c²)^⅓ within 1 %."""
    E, Ec, G, one = 20e3, 10.0, 4.0, np.ones(1)
    limit = thin_core(E, Ec, G)
    thin = thin_core_stress(0.5 * one, E * one, Ec * one, G * one, np.array([limit]))[0, 0]
    proof("wrinkling, thin and deep core where they meet", thin, 0.5 * np.cbrt(E * Ec * G), 0.01)
    thinner = thin_core_stress(0.5 * one, E * one, Ec * one, G * one, np.array([limit / 3]))[0, 0]
    assert thinner != pytest.approx(thin, rel=0.02)


def test_what_is_left_after_a_crack_counts_as_reserve_only_while_it_carries_the_load():
    taped = plank(
        reference().foams["xps_30"],
        StripLayer(id="t", skin="filament_tape_uni", face="both", width_mm=50),
        cases=(HandlingCase(id="h", name="h", force_N=1),),
        kind="wing",
    )
    airframe = Airframe(name="x", all_up_mass_g=900, parts=(taped,))
    light = estimate(airframe, "plank").snaps
    heavy_case = HandlingCase(id="h", name="h", force_N=60)
    heavy = estimate(
        airframe.model_copy(update={"parts": (taped.model_copy(update={"cases": (heavy_case,)}),)}), "plank"
    )
    assert [s.reserve for s in heavy.snaps] == [False, False]
    for s in light:
        left = s.hangs_together * s.first_break_N_mm
        assert s.reserve == (s.direction == "up" and s.manner.startswith("cracks") and left >= 500 * 0.9)
