"""Seams in walls against sums by hand: straps of sticks, doublers, tape and rods in flutes; the flow of twist."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from fletcher.core.adhesion.adhesives import adhesives, between
from fletcher.core.document.airframe import Airframe, JointLayer
from fletcher.core.document.joint import Glued, Strap, WallJoint
from fletcher.core.estimate.analyse import under_all
from fletcher.core.estimate.prepare import prepared_for
from fletcher.core.joints.context import Many, Site, Way
from fletcher.core.joints.failure_modes import sites_of, ways_of
from fletcher.core.joints.strap_strength import (
    brings_along,
    butt_with_doublers,
    lap_force,
    lap_rate,
    offset_of,
)
from fletcher.core.joints.wall_seams import SEAM_LAP_MM, glue_film
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import samples
from fletcher.core.studies.constructions import CONSTRUCTIONS

AT = 180.0
STICK, CATALOGUE = reference().bars["craftstick_10x2"], reference()


class Seam:
    """One seam across a construction, typical values: its site, its ways, and what passes there."""

    def __init__(self, key: str, joint: WallJoint, glue: str = "aliphatic_wood", case: int = 0, at: float = AT) -> None:
        way = CONSTRUCTIONS[key]
        part = way.part()
        line = JointLayer(id="seam", name="Seam", start_mm=at, glue=Glued(adhesive=glue), joint=joint)
        part = part.model_copy(update={"layers": (*part.layers, line)})
        airframe = Airframe(name="x", all_up_mass_g=way.all_up_mass_g, top_speed_m_s=way.top_speed_m_s, parts=(part,))
        with samples(0):
            p = prepared_for(part, airframe.setting)
            self.analysis = list(under_all(p, airframe, part, list(part.cases)))[case]
            self.site = sites_of(self.analysis.scene)[-1]
            self.ways = ways_of(self.site)
        g, k = p.geometry, self.site.k
        self.part, self.load, self.k = part, self.analysis.loading, k
        on = {
            m.face: i for i, m in enumerate(p.elements.membranes)
            if m.plate is not None and m.face in ("upper", "lower") and g.skin_on[i, k] > 0
        }  # fmt: skip
        self.wall = p.elements.membranes[on["upper"]]
        self.width = float(g.skin[on["upper"], 0, k])
        z = {face: float(g.skin[i, 1, k] / g.skin[i, 0, k]) for face, i in on.items()}
        self.deep = z["upper"] - z["lower"]
        self.Et = float(p.draws.skins[on["upper"]].Et[0] * self.wall.plies)
        self.force = abs(float(self.load.moment[0, k])) / self.deep

    def use(self, kind: str, name: str) -> float:
        return max(float(w.use[0].max()) for w in self.ways if w.kind == kind and name in w.name)

    def arm(self, thick: float) -> float:
        """Depth between strips so thick on the outer sides of two walls over that between the walls."""
        return (self.deep + self.wall.plate.thickness + thick) / self.deep

    def holds(self, name: str, kind: str = "joint_glue") -> float:
        """Force that a face passes at most."""
        return self.force / self.use(kind, name)


def strapped(**changes) -> WallJoint:
    strap = {"stock": "craftstick_10x2", "count": 4, "each_side_mm": 40.0, **changes}
    return WallJoint(reached="all", straps=(Strap(**strap),))


def board() -> tuple[float, float, float]:
    """Shear that the core of the folded wing's board bears, its G, and the glue's own shear between papers."""
    sheet = CATALOGUE.sheets[next(la.sheet for la in CONSTRUCTIONS["folded_wing"].part().layers if la.type == "wall")]
    core = CATALOGUE.foams[sheet.core]
    return core.shear_strength_MPa.typ, core.G_MPa.typ, between()["aliphatic_wood", "wood_wood"].shear_MPa.typ


def test_sticks_over_a_seam_in_board_lift_at_their_ends():
    """P = lap of two unequal sides, four sticks a face, K of the wall over their width and its thickness on each side;
    bending is a pair of forces over the depth between the walls, the outer strips at their own height."""
    seam = Seam("folded_wing", strapped())
    bears, G, own = board()
    wide, thick, t = 40.0, 2.0, seam.wall.plate.thickness
    K1 = STICK.E_MPa.typ * wide * thick
    K2 = seam.Et * min(seam.width, wide + 2 * t)
    c = 0.1 / 500 + thick / (3 * STICK.G_MPa.typ) + t / (3 * G)
    lap = lap_force(min(bears, own) * wide, K1, K2, lap_rate(K1, K2, c, wide), 40, True, 1.5)
    assert seam.use("joint_glue", "upper") == pytest.approx(seam.force / float(lap) / seam.arm(thick), rel=1e-6)
    assert seam.use("joint_part", "upper") == pytest.approx(
        seam.force / (STICK.tensile_strength_MPa.typ * wide * thick / 2.5) / seam.arm(thick), rel=1e-6
    )  # bent about its own middle on one side: 1 + 3 k
    assert seam.use("joint_glue", "lower") == pytest.approx(seam.use("joint_glue", "upper"), rel=0.02)


def test_inner_strips_work_at_their_own_height_and_keep_the_outer_ones_straight():
    outside, both = Seam("folded_wing", strapped()), Seam("folded_wing", strapped(lies="both"))
    t = both.wall.plate.thickness
    inner = (both.deep - t - 2) / (both.deep + t + 2)
    arm = 1 + inner**2
    assert both.holds("upper") / outside.holds("upper") == pytest.approx(arm, rel=1e-6)
    own = both.holds("upper", "joint_part") / outside.holds("upper", "joint_part")
    assert own == pytest.approx(2.5 * arm, rel=1e-6)
    inside = Seam("folded_wing", strapped(lies="inside"))
    assert inside.holds("upper") / outside.holds("upper") == pytest.approx(inner, rel=1e-6)


def test_no_more_strips_count_than_lie_side_by_side():
    joints = [strapped(stock="foamboard_light_5", count=n, wide_mm=150.0) for n in (1, 2, 9)]
    held = [Seam("folded_wing", j).holds("upper") for j in joints]
    assert held[1] / held[0] == pytest.approx(Seam("folded_wing", joints[0]).width / 150, rel=1e-6)
    assert held[2] == pytest.approx(held[1], rel=1e-6)


def test_a_doubler_of_the_same_board_brings_its_papers_along():
    key = next(la.sheet for la in CONSTRUCTIONS["folded_wing"].part().layers if la.type == "wall")
    sheet, joint = CATALOGUE.sheets[key], strapped(count=1, wide_mm=50.0)
    joint = WallJoint(reached="all", straps=(joint.straps[0].model_copy(update={"stock": key}),))
    seam = Seam("folded_wing", joint)
    bears, G, own = board()
    paper, core = sheet.facing.thickness_mm.typ, sheet.core_thickness_mm
    phi = brings_along(sheet.facing.E_along_MPa.typ, paper, core, G, 40)
    e = offset_of(seam.wall.plate.thickness, paper, core, phi)
    papers = sheet.facing.tensile_along_MPa.typ * paper
    holds = 50 * butt_with_doublers(papers, phi, 1e9, 1, 0.5 * e / (core + paper), 1e9)
    force = seam.force / seam.arm(sheet.thickness_mm.typ)
    assert seam.use("joint_part", "upper") == pytest.approx(force / float(holds), rel=1e-6)
    assert seam.use("joint_glue", "upper") == pytest.approx(force / (min(bears, own) * 40 * 50), rel=1e-6)


def test_tape_over_a_seam_holds_by_its_own_adhesive_and_wraps_against_twist():
    tape = CATALOGUE.skins["bopp_tape_std"]
    seam = Seam("folded_wing", strapped(stock="bopp_tape_std", count=1, wide_mm=48.0))
    force = seam.force / seam.arm(tape.thickness_mm.typ)
    assert seam.use("joint_glue", "upper") == pytest.approx(force / (tape.adhesive_shear_MPa.typ * 40 * 48), rel=1e-6)
    drawn = (tape.yield_MPa or tape.tensile_strength_MPa).typ
    assert seam.use("joint_part", "upper") == pytest.approx(force / (drawn * tape.thickness_mm.typ * 48), rel=1e-6)
    wrapped = Seam("folded_wing", strapped(stock="bopp_tape_std", count=1, wide_mm=None))
    bears, _, own = board()
    edge = min(bears, own) * seam.wall.plate.thickness
    twist = [s.use("joint_glue", "twist") / abs(float(s.load.torque[0, s.k])) for s in (seam, wrapped)]
    assert twist[0] / twist[1] == pytest.approx(1 + drawn * tape.thickness_mm.typ / 2 / edge, rel=1e-6)


def test_twist_flows_round_the_walls_through_their_glued_edges():
    """T/2A of a box, whose area is that of its outline."""
    seam = Seam("box_fuselage", strapped(), case=1)
    part, share = seam.part, AT / seam.part.span_mm
    wide = part.root_chord_mm + (part.tip_chord_mm - part.root_chord_mm) * share
    high = part.root_thickness_mm + (part.tip_thickness_mm - part.root_thickness_mm) * share
    bears, _, own = board()
    flow = abs(float(seam.load.torque[0, seam.k])) / (2 * wide * high)
    assert flow > 0
    edge = min(bears, own) * seam.wall.plate.thickness
    assert seam.use("joint_glue", "twist") == pytest.approx(flow / edge, rel=0.01)


def test_a_creased_wall_asks_of_its_straps_what_it_does_not_pass_itself():
    joint = strapped()
    whole = Seam("folded_wing", joint)
    creased = Seam("folded_wing", joint.model_copy(update={"face": "upper", "keeps": 0.3}))
    assert whole.holds("upper") == pytest.approx(0.7 * creased.holds("upper"), rel=1e-6)
    assert not any("lower" in w.name or "twist" in w.name for w in creased.ways)


def test_hands_leave_less_of_a_seam_and_old_glue_less_still():
    made, mended, old = (
        Seam("folded_wing", strapped().model_copy(update={"reached": reached})).holds("upper")
        for reached in ("all", "mended", "over_old")
    )
    assert mended / made == pytest.approx(0.95 * 0.95 * 0.97, rel=1e-6)
    assert old / made == pytest.approx(0.75 * 0.95 * 0.97, rel=1e-6)


def test_rods_in_flutes_hold_by_half_their_round_over_25_mm():
    rod, glue = CATALOGUE.bars["carbon_rod_1.5"], "solvent_rubbery_structural_pp"
    strap = Strap(stock=rod.key, lies="flutes", count=6, each_side_mm=60.0)
    seam = Seam("fluted_wing", WallJoint(reached="all", straps=(strap,)), glue)
    sheet = CATALOGUE.sheets[next(la.sheet for la in seam.part.layers if la.type == "wall")]
    row = between()[glue, "nylon_hdpe_foam"]
    film = adhesives()[glue].shear_MPa.typ if row.shear_MPa is None else row.shear_MPa.typ
    film *= 1.0 if row.efficiency is None else row.efficiency.typ
    holds = 6 * min(film, sheet.shear_MPa.typ) * 0.5 * np.pi * 1.5 * 25  # in the middle of the walls
    assert seam.use("joint_glue", "upper") == pytest.approx(seam.force / holds, rel=1e-6)
    own = 6 * rod.tensile_strength_MPa.typ * rod.area_mm2
    assert seam.use("joint_part", "upper") == pytest.approx(seam.force / own, rel=1e-6)


def test_a_seam_along_an_edge_bears_the_flow_over_the_width_of_its_lap():
    joint = WallJoint(reached="all", face="front", along_mm=200.0)
    seam = Seam("box_fuselage", joint, case=1, at=230.0)
    (way,) = seam.ways
    y = seam.analysis.prepared.geometry.y
    inside = (y > 231) & (y < 429)
    assert np.all(way.use[0][(y < 229) | (y > 431)] == 0) and np.all(way.use[0][inside] > 0)
    k = int(np.argmax(way.use[0]))
    part, share = seam.part, y[k] / seam.part.span_mm
    wide = part.root_chord_mm + (part.tip_chord_mm - part.root_chord_mm) * share
    high = part.root_thickness_mm + (part.tip_thickness_mm - part.root_thickness_mm) * share
    flow = abs(seam.load.torque[0, k]) / (2 * wide * high) + 0.5 * seam.analysis.scene.shear[0, k] / high
    bears, _, own = board()
    assert way.use[0, k] == pytest.approx(flow / (min(bears, own) * SEAM_LAP_MM), rel=0.01)
    short = Seam("folded_wing", WallJoint(reached="all", face="rear", along_mm=1.0), at=400.0)
    assert all(isinstance(w, Way) for w in short.ways)


def test_many_glues_and_times_at_once_are_what_each_is_by_itself():
    seam = Seam("folded_wing", strapped())
    glues, minutes = ("aliphatic_wood", "epoxy_5min"), (20.0, None)
    with samples(0):
        many = Site(
            seam.analysis.scene, seam.site.placed, seam.site.glue, None,
            Many(tuple(Glued(adhesive=g) for g in glues), minutes),
        )  # fmt: skip
        at_once = np.max([w.use.max(1) for w in ways_of(many) if "under" in w.name], axis=0)
        for n, (g, t) in enumerate((g, t) for g in glues for t in minutes):
            one = replace(seam.site, glue=Glued(adhesive=g), minutes=t)
            alone = max(float(w.use.max()) for w in ways_of(one) if "under" in w.name)
            assert at_once[n] == pytest.approx(alone, rel=1e-9)


def test_a_film_sets_and_is_no_stronger_on_slick_sheet():
    with samples(0):
        early, late = (float(glue_film(Glued(adhesive="epoxy_30min"), t, False, np.ones(1))[0]) for t in (30.0, None))
        slick = float(glue_film(Glued(adhesive="epoxy_30min"), None, True, np.ones(1))[0])
    assert 0 < early < 0.2 * late and slick < 0.6 * late
