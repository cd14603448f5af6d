"""Plates, bolts and pegs on the walls of hollow parts: closed forms, what gives first, more of it never less."""

from __future__ import annotations

import math

import numpy as np
import pytest

from fletcher.core.adhesion.bond_line import EVEN
from fletcher.core.adhesion.joint_capacity import GlueNeed
from fletcher.core.adhesion.selection import glue
from fletcher.core.document.airframe import Airframe, JointLayer
from fletcher.core.document.joint import BandedJoint, BoltedJoint, Glued, PlateJoint
from fletcher.core.estimate.report import estimate
from fletcher.core.joints.wall_fittings import TIPS_OVER, bends_in, glued_stress, wall_moment
from fletcher.core.materials.tables import reference
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.studies.joint_sheet import joint_sheets
from fletcher.core.validation.airframe import check_part

STOCK = reference()
CONTACT = Glued(adhesive="contact_foamsafe_clear")
HOLLOW = ("folded_wing", "fluted_wing", "moulded_wing")
BOARD = STOCK.sheets["foamboard_light_5"]


def fitted(key, joint, glued=None, at=200.0, percent=45.0):
    part = CONSTRUCTIONS[key].part()
    line = JointLayer(id="fit", start_mm=at, chord_percent=percent, glue=glued, joint=joint)
    return part.model_copy(update={"layers": (*part.layers, line)})


def sheet(part):
    """The joint's sheet: what it holds and what gives."""
    assert not check_part(part, STOCK), check_part(part, STOCK)
    airframe = Airframe(name="x", all_up_mass_g=900, parts=(part,))
    (found,) = [s for s in joint_sheets(airframe, part) if s.line_id == "fit"]
    return found


def by(part, words):
    """What the joint holds, over the load, in one of its ways."""
    found = sheet(part)
    way = next(w for w in found.ways if words in w.says)
    return way.holds.typ


def test_a_rigid_patch_bends_a_held_wall_in(proof):
    """2π m R/(R − a): a point load needs 2π m; a patch of half the radius twice that (yield-line fan)."""
    m = np.array([6.0])
    proof("point", float(bends_in(m, 0, 50)[0]), 2 * math.pi * 6, 1e-12)
    proof("half the radius", float(bends_in(m, 25, 50)[0]), 4 * math.pi * 6, 1e-12)
    # against the work of the fan itself: cone from R to a, hinge at a
    a, R = 20.0, 60.0
    r = np.linspace(a, R, 200_001)
    turn = 1 / (R - a)
    work = np.trapezoid(6.0 * turn / r * 2 * math.pi * r, r) + 6.0 * turn * 2 * math.pi * a
    proof("work of the fan", float(bends_in(m, a, R)[0]), float(work), 1e-9)


def test_the_moment_of_a_wall_is_that_of_its_faces_or_of_a_solid_sheet(proof):
    t = BOARD.thickness_mm.typ
    strength = math.sqrt(BOARD.compressive_along_MPa.typ * BOARD.compressive_across_MPa.typ)
    proof("board", float(wall_moment(BOARD)[0]), strength * t / 2 * (t - BOARD.facing.thickness_mm.typ), 1e-9)
    fluted = STOCK.sheets["flutedpp_3"]
    strength = math.sqrt(fluted.compressive_along_MPa.typ * fluted.compressive_across_MPa.typ)
    proof("twin-wall", float(wall_moment(fluted)[0]), strength * 1.5 * (3 - fluted.wall_thickness_mm), 1e-9)
    ply = STOCK.sheets["birchply_1.5"]
    strength = math.sqrt(ply.compressive_along_MPa.typ * ply.compressive_across_MPa.typ)
    proof("solid", float(wall_moment(ply)[0]), strength * ply.thickness_mm.typ**2 / 6, 1e-9)


@pytest.mark.parametrize("wall", ["foamboard_light_5", "flutedpp_3", "moulded_epo_6", "balsa_light_1.5"])
@pytest.mark.parametrize("loaded", ["pull", "shear"])
def test_the_glue_under_a_plate_is_as_strong_as_the_chooser_says(wall, loaded):
    key = "hotmelt_high" if wall == "flutedpp_3" else "contact_foamsafe_clear"
    stress, gives = glued_stress(wall, "birchply_1.5", Glued(adhesive=key), None, loaded)
    need = GlueNeed(one=wall, other="birchply_1.5", loaded=loaded, area_cm2=1, width_mm=10, gap_mm=0, schools={})
    same = next(c for c in glue(need, STOCK).choices if c.key == key)
    assert float(stress[0]) == pytest.approx(same.finally_N.typ / (100 * EVEN[loaded]), rel=1e-9)
    assert same.fails == (f"{gives} first" if gives else "glue line fails first")
    young, _ = glued_stress(wall, "birchply_1.5", Glued(adhesive="epoxy_30min"), 10.0, loaded)
    old, _ = glued_stress(wall, "birchply_1.5", Glued(adhesive="epoxy_30min"), None, loaded)
    assert float(young[0]) < 0.3 * float(old[0])


def test_a_pair_of_which_nothing_is_known_holds_next_to_nothing():
    stress, gives = glued_stress("glasslam_0.8", "hdpe_1", CONTACT, None, "pull") if "hdpe_1" in STOCK.sheets else (
        glued_stress("foamboard_light_5", "birchply_1.5", Glued(adhesive="silicone_sealant"), 0.5, "pull"))  # fmt: skip
    assert float(stress[0]) < 0.2 and gives == ""


def test_a_plate_on_a_board_gives_in_every_way_by_its_closed_form(proof):
    """40 × 40 pulled by 30 N and pushed by 20 N at 12 above the face."""
    j = PlateJoint(pull_N=30, slide_N=20, arm_mm=12)
    part = fitted("folded_wing", j, CONTACT)
    out = 30 + 20 * 12 / (TIPS_OVER * 40)
    rim = 2 * 80 * BOARD.thickness_mm.typ * BOARD.shear_MPa.typ
    proof("torn out at its rim", by(part, "torn out"), rim / out, 2e-3)
    pulls, shears = (float(glued_stress(BOARD.key, j.sheet, CONTACT, None, w)[0][0]) for w in ("pull", "shear"))
    use = math.hypot(30 / (pulls * 1600) + 20 * 12 / (pulls * 40 * 1600 / 6), 20 / (shears * 1600))
    proof("pulls the paper off", by(part, "tears off under"), 1 / use, 2e-3)


@pytest.mark.parametrize("key", HOLLOW)
def test_more_plate_is_never_less_and_less_load_never_worse(key):
    def holds(**changes):
        return sheet(fitted(key, PlateJoint(**({"pull_N": 30, "slide_N": 20} | changes)), CONTACT)).holds.typ

    plain = holds()
    assert holds(long_mm=60) >= plain and holds(wide_mm=60) >= plain
    assert holds(pull_N=15) >= plain and holds(slide_N=5) >= plain and holds(arm_mm=30) <= plain


@pytest.mark.parametrize("key", HOLLOW)
def test_sheet_inside_takes_the_pull_off_the_glue_and_weighs(key):
    loose = Glued(adhesive="tape_transfer")
    glued = fitted(key, PlateJoint(pull_N=30, slide_N=5), loose)
    clamped = fitted(key, PlateJoint(pull_N=30, slide_N=5, screws=4, backed="birchply_1.5"), loose)
    assert not any("paper" in w.says or "glue" in w.says for w in sheet(clamped).ways)
    assert sheet(clamped).holds.typ >= sheet(glued).holds.typ
    more = [
        estimate(Airframe(name="x", all_up_mass_g=900, parts=(p,)), p.id, p.cases[0].id).mass_g.typ
        for p in (glued, clamped)
    ]
    ply = STOCK.sheets["birchply_1.5"].areal_mass_g_m2.typ * 1e-6 * 1600
    assert more[1] - more[0] == pytest.approx(ply, rel=0.02)


def bears(part, words):
    """What a joint bears in one of its ways, N."""
    return next(w for w in sheet(part).ways if words in w.says).bears.typ


def test_a_washer_shears_its_round_through_the_wall_and_its_plate_spreads_it(proof):
    """π · 15 · t τ of one; a plate of 1.5 beneath it makes it 18."""
    t, tau = BOARD.thickness_mm.typ, BOARD.shear_MPa.typ
    plain = bears(fitted("folded_wing", BoltedJoint(washer_mm=15)), "washers pull")
    proof("washer of 15 through board", plain, math.pi * 15 * t * tau, 1e-6)
    spread = bears(fitted("folded_wing", BoltedJoint(washer_mm=15, plate="birchply_1.5")), "washers pull")
    under = 15 + 2 * STOCK.sheets["birchply_1.5"].thickness_mm.typ
    proof("with a plate", spread, math.pi * under * t * tau, 1e-6)


def test_two_pegs_bear_at_four_places_on_the_wall(proof):
    found = bears(fitted("folded_wing", BandedJoint(peg="hardwood_dowel_6", bands=8)), "tears")
    holds = 4 * 6 * BOARD.thickness_mm.typ * BOARD.compressive_along_MPa.typ
    proof("pegs of 6 in board", found, holds, 1e-6)


def test_screws_of_a_clamped_plate_bear_on_the_wall(proof):
    j = PlateJoint(pull_N=5, slide_N=20, screws=4, screw_mm=3, backed="birchply_1.5")
    holds = 4 * 3 * BOARD.thickness_mm.typ * BOARD.compressive_along_MPa.typ
    proof(
        "four screws of 3 in board", bears(fitted("folded_wing", j), "screws tear sideways through Paper"), holds, 1e-6
    )


def test_a_wall_is_held_by_its_edges_and_webs(proof):
    """Between the webs of the folded wing: half of what lies between the two nearest."""
    part = fitted("folded_wing", PlateJoint(pull_N=30, slide_N=0), CONTACT)
    webs = sorted(la.root_percent for la in part.layers if getattr(la, "face", "") == "web")
    before, behind = max(w for w in (0, *webs) if w <= 45), min(w for w in (*webs, 100) if w > 45)
    chord = part.root_chord_mm + (part.tip_chord_mm - part.root_chord_mm) * 200 / part.span_mm
    held = chord * (behind - before) / 200
    folds = 2 * math.pi * float(wall_moment(BOARD)[0]) / (1 - math.sqrt(1600 / math.pi) / held)
    proof("bends in at", bears(part, "bends in"), folds, 2e-2)


@pytest.mark.parametrize(
    ("key", "joint", "glued", "path"),
    [
        ("folded_wing", PlateJoint(keys=4), CONTACT, "keys"),
        ("folded_wing", PlateJoint(backed="birchply_1.5"), CONTACT, "backed"),
        ("folded_wing", PlateJoint(), None, "glue"),
        ("folded_wing", PlateJoint(screws=2, backed="moon"), None, "backed"),
        ("crossed_plates", PlateJoint(wide_mm=10, long_mm=10), CONTACT, "face"),
        ("bead_wing", PlateJoint(screws=2, backed="birchply_1.5"), CONTACT, "backed"),
    ],
)
def test_what_cannot_be_made_is_refused_by_its_field(key, joint, glued, path):
    assert path in [p.path.rsplit(".", 1)[-1] for p in check_part(fitted(key, joint, glued), STOCK)]


@pytest.mark.parametrize("key", [k for k, c in CONSTRUCTIONS.items() if c.part().foam is None])
@pytest.mark.parametrize(
    ("joint", "glued"),
    [
        (PlateJoint(long_mm=20, wide_mm=15, pull_N=20), CONTACT),
        (PlateJoint(long_mm=20, wide_mm=15, screws=2, backed="birchply_0.8"), None),
        (PlateJoint(long_mm=20, wide_mm=15, sheet="flutedpp_2"), Glued(adhesive="silicone_sealant", after_min=5)),
        (BoltedJoint(), None),
        (BandedJoint(), None),
    ],
)
def test_every_hollow_construction_takes_it_or_says_why_not(key, joint, glued):
    part = fitted(key, joint, glued, at=150, percent=30)
    if check_part(part, STOCK):
        return
    airframe = Airframe(name="x", all_up_mass_g=900, parts=(part,))
    told = estimate(airframe, part.id, part.cases[0].id)
    assert np.isfinite(told.breaks_at.typ) and told.breaks_at.typ > 0
    for s in joint_sheets(airframe, part):
        assert all(math.isfinite(w.holds.typ) for w in s.ways)
