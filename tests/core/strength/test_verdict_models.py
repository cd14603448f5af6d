"""The models behind the verdict against the worked checks of docs/mechanics.md, each found there in two ways."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.section.cap_buckling import cap_load, foam_under_cap, least_load, thick_face, web_under_cap
from fletcher.core.section.hinge_under_tape import drawn_stress, hinge_moment
from fletcher.core.section.moment_curvature import NEVER, Laws, Section
from fletcher.core.section.sheet_bending import Board, TwinWall
from fletcher.core.section.wall_faces import Ply, face_of, plate_bending
from fletcher.core.structure.able_to_fly import flight
from fletcher.core.structure.cord_strike import bow_pull, caught, round_a_corner
from fletcher.core.structure.divergence import Swept, at_the_fuselage
from fletcher.core.structure.free_sway import Askew

EXACT = 0.002
FAR = np.array(0.03)


class Filmed:
    """A plank with film on either face: fibres of foam, upper film, lower film, and the pulled edge of the foam."""

    def __init__(self, b, h, E_t, E_c, tears, crush, t, E, wrinkles, yields):
        levels = 600
        z = (np.arange(levels) + 0.5) / levels * h - h / 2
        self.z = np.concatenate([z, [(h + t) / 2, -(h + t) / 2, -h / 2, h / 2]])
        foam = np.ones(len(self.z), bool)
        foam[levels : levels + 2] = False
        area = np.concatenate([np.full(levels, b * h / levels), [b * t, b * t, 0.0, 0.0]])
        laws = Laws(
            np.where(foam, E_t, E),
            np.where(foam, E_c, E),
            np.where(foam, NEVER, yields / E),
            np.zeros(len(foam)),
            np.where(foam, crush / E_c, wrinkles / E),
        )
        self.section = Section(area, -self.z, laws)
        self.upper, self.lower, self.pulled, self.pressed = levels, levels + 1, levels + 2, levels + 3
        self.limits = {"wrinkle": (self.upper, -wrinkles / E), "yield": (self.lower, yields / E),
                       "crack": (self.pulled, tears), "crush": (self.pressed, -crush / E_c)}  # fmt: skip
        self.elastic = np.zeros(len(foam))
        self.elastic[self.upper] = self.elastic[self.lower] = 1.0

    def reaches(self, what):
        k, limit = self.limits[what]
        pull, push = np.full((2, len(self.z)), NEVER)
        (pull if limit > 0 else push)[k] = abs(limit)
        t, which, _ = self.section.reaches(pull, push, FAR)
        assert int(which) == k
        return float(t), float(self.section.at(t)[0])

    def curvature(self, moment):
        return self.section.carries(np.asarray(moment, float), np.broadcast_to(FAR, np.shape(moment)))

    def bend(self, force, span):
        """Deflection in the middle of three-point bending: the integral of κ x over half of the span."""
        x = np.linspace(0, span / 2, 401)
        return float(np.trapezoid(self.curvature(force * x / 2) * x, x))


@pytest.fixture(scope="module")
def w1():
    return Filmed(120, 20, 14, 14, 0.035, 0.70, 0.03, 2300, 27.907, 45)


@pytest.fixture(scope="module")
def w2():
    return Filmed(100, 25, 9.3, 8.2, 0.0323, 0.16, 0.019, 4200, 12.231, 90)


def test_w1_states_and_the_break_of_a_filmed_plank(w1):
    assert w1.reaches("wrinkle") == pytest.approx((1.21155e-3, 3369.3), rel=EXACT)
    assert w1.reaches("yield") == pytest.approx((2.13645e-3, 5021.4), rel=EXACT)
    kappa, moment = w1.reaches("crack")
    assert (kappa, moment) == pytest.approx((3.68313e-3, 6753.7), rel=EXACT)
    even = w1.section.at(np.array(kappa))[1]
    assert float(w1.section.strain(np.array(kappa), even)[w1.pressed]) == pytest.approx(-0.03866, rel=EXACT)


@pytest.mark.parametrize(("moment", "EI"), [(3000, 2.78097e6), (4500, 2.43963e6), (6000, 1.99324e6)])
def test_w1_secants(w1, moment, EI):
    assert moment / float(w1.curvature(moment)) == pytest.approx(EI, rel=EXACT)


@pytest.mark.parametrize(("force", "bend"), [(15, 12.427), (40, 35.354), (55, 56.531)])
def test_w1_bends_by_its_curvature_along_the_span(w1, force, bend):
    assert w1.bend(force, 480) == pytest.approx(bend, rel=EXACT)


def test_w1_unloads_a_wrinkle_along_its_own_line_and_a_yielded_film_elastically(w1):
    s = w1.section
    for moment, left, up, down in ((4500, 0.0, 1.78629e6, 1.78629e6), (6000, 2.6092e-4, 1.12000e6, 1.78629e6)):
        t = np.array(float(w1.curvature(moment)))
        strain = s.strain(t, s.at(t)[1])
        assert float(s.tangent(strain)) == pytest.approx(up, rel=EXACT)
        assert float(s.keeps(t) * s.elastic) == pytest.approx(up, rel=EXACT)
        after = Section(s.amount, s.shape, s.laws.unloaded(strain, w1.elastic))
        falling = after.strain(t * (1 - 1e-6), after.at(t * (1 - 1e-6))[1])
        assert float(after.tangent(falling)) == pytest.approx(down, rel=EXACT)
        rest = float(after.carries(np.array(0.0), t)) if left else 0.0
        assert rest == pytest.approx(left, rel=0.005)
        if left:
            assert float(after.laws.left[w1.lower]) == pytest.approx(0.0087503, rel=EXACT)


def test_w2_foam_crushes_before_the_film_yields(w2):
    found = {what: w2.reaches(what)[1] for what in ("wrinkle", "crush", "yield", "crack")}
    assert found == pytest.approx({"wrinkle": 831.08, "crush": 2879.4, "yield": 4383.9, "crack": 4651.6}, rel=EXACT)
    assert w2.reaches("crack")[0] == pytest.approx(4.59100e-3, rel=EXACT)
    secants = [m / float(w2.curvature(m)) for m in (1500, 3000, 4500)]
    assert secants == pytest.approx([2.65829e6, 2.27326e6, 1.31181e6], rel=EXACT)
    assert [w2.bend(p, 500) for p in (6, 25, 36)] == pytest.approx([4.2986, 26.939, 47.036], rel=EXACT)


def h1(face):
    plank = Filmed(120, 20, 14, 12, 0.45 / 14, 0.30, 0.028, 2000, 12.331, 35)
    s = plank.section
    amount = s.amount.copy()
    amount[plank.upper] = 96 * 0.028 if face == "both" else 0.0
    amount[plank.lower] = 0.0 if face == "none" else 96 * 0.028
    plank.section = Section(amount, s.shape, s.laws)
    return plank


@pytest.mark.parametrize(("face", "moment"), [("none", 3297.8), ("lower", 4252.3), ("both", 4595.1)])
def test_h1_first_crack_of_a_taped_plank(face, moment):
    assert h1(face).reaches("crack")[1] == pytest.approx(moment, rel=EXACT)
    hung = 4 * 9.80665 * 100
    told = {"none": 0.8407, "lower": 1.0840, "both": 1.1714}
    assert moment / hung == pytest.approx(told[face], rel=EXACT)


@pytest.mark.parametrize(
    ("drawn", "upper", "moment", "strip"),
    [
        (35, 0.0, 1760.0, 2.6133),
        (35, 12.331, 1831.8, 1.6926),
        (74.160, 0.0, 3437.7, None),
        (74.160, 12.331, 3606.5, None),
    ],
)
def test_h1_and_h2_what_the_hinge_under_tape_carries(drawn, upper, moment, strip):
    area = 0.028 * 96
    found, height = hinge_moment(20, 120, np.array(0.30), 0.028, np.array(drawn * area), np.array(upper * area))
    assert float(found) == pytest.approx(moment, rel=EXACT)
    if strip:
        assert float(height) == pytest.approx(strip, rel=EXACT)


def test_h2_a_hardening_film_is_drawn_to_its_peel_front():
    found = drawn_stress(np.array(0.20), 0.028, np.array(2000.0), np.array(35.0), np.array(0.90), np.array(145.0))
    assert float(found) == pytest.approx(74.160, rel=EXACT)
    flat = drawn_stress(np.array(0.20), 0.028, np.array(2000.0), np.array(35.0), np.array(0.90), np.array(35.0))
    assert float(flat) == pytest.approx(35.0)
    elastic = drawn_stress(np.array(0.001), 0.028, np.array(2000.0), np.array(35.0), np.array(0.90), np.array(145.0))
    assert float(elastic) == pytest.approx(np.sqrt(2 * 0.001 * 2000 / 0.028))


def box(film, width=60.0, height=50.0, faces=("upper", "lower")):
    """EI (N·mm²), centroid and face of a box of board with film outside its upper and lower wall."""
    core, paper, E, E_paper, E_film = 4.6, 0.095, 9.5, 4500.0, 3600.0 if film[0] == 0.02 else 4200.0
    lines = []  # E·t·width, z, own E t³ width/12
    for side, name in ((1, "upper"), (-1, "lower")):
        z = side * height / 2
        lines.append((E * core * width, z, E * core**3 * width / 12))
        for out in (-1, 1):
            lines.append((E_paper * paper * width, z + out * 0.5 * (core + paper), E_paper * paper**3 * width / 12))
        if name in film[1]:
            lines.append((E_film * film[0] * width, z + side * (0.5 * core + paper + film[0] / 2), 0.0))
    for t, modulus in ((core, E), (paper, E_paper), (paper, E_paper)):
        lines.append((2 * modulus * t * height, 0.0, 2 * modulus * t * height**3 / 12))
    EA, first = sum(v[0] for v in lines), sum(v[0] * v[1] for v in lines)
    middle = first / EA
    return sum(v[0] * (v[1] - middle) ** 2 + v[2] for v in lines), middle, 0.5 * (height + core + paper)


def test_f1_a_film_on_a_box_is_a_ply_of_its_paper():
    bare, _, paper = box((0.02, ()))
    filmed, _, _ = box((0.02, ("upper", "lower")))
    assert (bare, filmed) == pytest.approx((8.67001e7, 9.31891e7), rel=EXACT)
    assert [17 / 4500 * EI / paper for EI in (bare, filmed)] == pytest.approx([11977, 12873], rel=EXACT)
    face = face_of([(np.array(4500 * 0.095), 0.095), (np.array(3600 * 0.02), 0.02)])
    assert (float(face.EA), float(face.D)) == pytest.approx((499.5, 0.527652), rel=EXACT)
    strain = float(face.wrinkles_at(np.array(0.5), np.array(7.0), np.array(3.1)))
    assert strain == pytest.approx(5.16532e-3, rel=EXACT)
    assert strain * filmed / (paper + float(face.middle)) == pytest.approx(17596, rel=EXACT)


def test_f2_a_film_on_one_wall_moves_the_middle_and_stiffens_the_plate():
    bare, _, paper = box((0.038, ()), 80, 45)
    filmed, middle, _ = box((0.038, ("upper",)), 80, 45)
    assert (bare, filmed, middle) == pytest.approx((8.72100e7, 9.47090e7, 1.33970), rel=EXACT)
    assert 17 / 4500 * bare / paper == pytest.approx(13259, rel=EXACT)
    assert 17 / 4500 * filmed / (paper - middle) == pytest.approx(15220, rel=EXACT)
    wall = [Ply(0.0, 4.6, 9.5, 9.5, 0.3, 9.5 / 2.6)]
    wall += [Ply(s * 2.3475, 0.095, 4500, 2200, 0.3, 1200) for s in (-1, 1)]
    bent = plate_bending(wall)
    assert vars(bent) == pytest.approx({"D11": 5013.9, "D22": 2494.5, "D12": 748.36, "D66": 1286.3}, rel=EXACT)
    assert bent.buckling_load(80) == pytest.approx(21.150, rel=EXACT)
    bent = plate_bending([*wall, Ply(2.3475 + 0.0475 + 0.019, 0.038, 4200, 4700, 0.34, 1650)])
    assert vars(bent) == pytest.approx({"D11": 5897.4, "D22": 3334.6, "D12": 1028.9, "D66": 1577.1}, rel=EXACT)
    assert bent.buckling_load(80) == pytest.approx(26.579, rel=EXACT)


LIGHT = {
    "core_mm": 4.6,
    "E_tension": 9.5,
    "E_compression": 7,
    "tensile": 0.32,
    "crush": 0.14,
    "paper_mm": 0.095,
    "E_paper": 4500,
    "paper_tensile": 42,
    "creases": 17,
}
HEAVY = {
    "core_mm": 4.65,
    "E_tension": 16,
    "E_compression": 12,
    "tensile": 0.55,
    "crush": 0.25,
    "paper_mm": 0.175,
    "E_paper": 2400,
    "paper_tensile": 23,
    "creases": 11.5,
}


@pytest.mark.parametrize(
    ("board", "above", "below", "moment", "what"),
    [
        (LIGHT, True, True, 7.6659, "paper"),
        (LIGHT, True, False, 2.2473, "core"),
        (LIGHT, False, False, 0.86576, "core"),
        (HEAVY, True, True, 9.8941, "paper"),
        (HEAVY, True, False, 3.9442, "core"),
        (HEAVY, False, False, 1.5505, "core"),
    ],
)
def test_p1_and_p2_what_breaks_a_board_depends_on_the_side_of_its_paper(board, above, below, moment, what):
    section, pull, push, names = Board(**board, above=above, below=below).section()
    t, which, _ = section.reaches(pull, push, np.array(0.5))
    assert float(section.at(t)[0]) == pytest.approx(moment, rel=0.005)
    assert names[int(which)] == what


@pytest.mark.parametrize(("board", "begins", "at_ten"), [(LIGHT, 0.98948, 1.4881), (HEAVY, 1.8110, 2.7515)])
def test_p1_paper_on_the_pulled_side_alone_folds(board, begins, at_ten):
    section, pull, push, names = Board(**board, above=False).section()
    never = np.full(len(names), NEVER)
    assert int(section.reaches(pull, push, np.array(0.04))[1]) == -1
    top = np.where((np.array(names) == "core") & (section.shape < 0) & (section.amount == 0))[0]
    for strain, moment in ((board["crush"] / board["E_compression"], begins), (0.10, at_ten)):
        push = never.copy()
        push[top] = strain
        t, _, _ = section.reaches(never, push, np.array(0.5))
        assert float(section.at(t)[0]) == pytest.approx(moment, rel=0.005)


def test_p1_stiffness_of_a_board_with_its_paper_on_or_off():
    small = np.array(1e-6)
    for above, below, EI in (
        (True, True, 4778.6),
        (True, False, 295.54),
        (False, True, 221.80),
        (False, False, 65.762),
    ):
        section = Board(**LIGHT, above=above, below=below).section()[0]
        assert float(section.at(small)[0]) / 1e-6 == pytest.approx(EI, rel=0.005)


def test_p3_twin_wall_along_and_across_its_flutes():
    sheet = TwinWall(3.5, 0.25, 0.20, 4.0, 1100, 0.4, 22)
    assert [sheet.EI(a) for a in (False, True)] == pytest.approx([1578.96, 1455.21], rel=EXACT)
    assert [sheet.liner_buckles(a) for a in (False, True)] == pytest.approx([16.829, 4.2072], rel=EXACT)
    assert [sheet.breaks_at(a) for a in (False, True)] == pytest.approx([14.865, 3.4251], rel=0.005)
    assert sheet.racking == pytest.approx(0.61279, rel=EXACT)
    assert sheet.shear_yields() == pytest.approx((0.07333, 0.22917), rel=EXACT)


def test_c1_a_carbon_strip_on_foam_and_on_a_web():
    EI, E_z, G = 125e3 * 10 / 12, 12.0, 5.0
    assert [float(foam_under_cap(np.array(q), 10, E_z, G)) for q in (0.1, 0.25)] == pytest.approx(
        [14.409, 25.556], rel=EXACT
    )
    load, q = cap_load(np.array(EI), 10, E_z, G)
    assert (float(load), float(q)) == pytest.approx((2482.5, 0.10049), rel=EXACT)
    assert np.pi / float(q) == pytest.approx(31.26, rel=EXACT)
    for height, told in ((20, 10876), (10, 15096)):
        web = float(web_under_cap(np.array(1.0), 2.0, height, 2600.0))
        assert web == pytest.approx(2600 * 2 / height)
        assert float(cap_load(np.array(EI), 10, E_z, G, web)[0]) == pytest.approx(told, rel=EXACT)
    waves = np.geomspace(0.05, 2, 400)
    short = web_under_cap(waves, 2.0, 20, 2600.0, 140.0) + foam_under_cap(waves, 10, E_z, G)
    assert float(least_load(np.array(EI), short, waves)[0]) == pytest.approx(12618, rel=EXACT)


def test_c2_a_wood_cap():
    EI = 9000 * 12 * 3**3 / 12
    assert float(cap_load(np.array(EI), 12, 8.2, 3.4)[0]) == pytest.approx(3016.4, rel=EXACT)
    assert float(cap_load(np.array(EI), 12, 8.2, 3.4, 2600 * 1.5 / 25)[0]) == pytest.approx(12878, rel=EXACT)


def test_t1_a_thick_face_wrinkles_higher_than_a_thin_one():
    assert thick_face(0.8, 9000, 10, 4) == pytest.approx(58.723, rel=EXACT)
    assert thick_face(0.8, 9000, 10, 4, 10) == pytest.approx(63.728, rel=EXACT)


@pytest.mark.parametrize(
    ("EI", "span", "force", "held", "free", "sideways"),
    [
        ((8.81393e7, 7.27973e8, -2.47387e8), 480, 15, 0.39211, 8.4914, 2.8856),
        ((7.19815e7, 1.28772e9, -2.70260e8), 500, 12, 0.43414, 2.0477, 0.42976),
    ],
)
def test_u_lopsided_rods_sway(EI, span, force, held, free, sideways):
    section = Askew(*(np.array(v) for v in EI))
    bend = force * span**3 / 48
    assert bend / EI[0] == pytest.approx(held, rel=EXACT)
    assert bend / float(section.free) == pytest.approx(free, rel=0.004)
    assert abs(float(section.sideways)) * bend / float(section.free) == pytest.approx(sideways, rel=0.004)


def test_u1_and_u2_stress_of_rods_held_and_free():
    one = Askew(*(np.array(v) for v in (8.81393e7, 7.27973e8, -2.47387e8)))
    M = np.array(15 * 480 / 4)
    assert abs(125e3 * float(one.strain(M, -20, 7, held=True))) == pytest.approx(17.869, rel=EXACT)
    assert abs(125e3 * float(one.strain(M, -20, 7, held=False))) == pytest.approx(11.245, rel=0.005)
    two = Askew(*(np.array(v) for v in (7.19815e7, 1.28772e9, -2.70260e8)))
    M, x0, z0 = np.array(12 * 500 / 4), 1.43802, -0.37388
    rods = [(-40, 6.5), (-10, 6.5), (25, -6.5)]
    held = [125e3 * float(two.strain(M, x - x0, z - z0, True)) for x, z in rods]
    free = [125e3 * float(two.strain(M, x - x0, z - z0, False)) for x, z in rods]
    assert held == pytest.approx([-17.905, -17.905, 15.958], rel=EXACT)
    assert free == pytest.approx([22.396, -54.961, 14.511], rel=0.005)


def wing(degrees, L, c, e, slope, EI, GJ):
    s = np.linspace(0, L, 41)
    one = np.ones((1, 41))
    return Swept(s, EI * one, GJ * one, np.full(41, float(c)), e * one, np.radians(degrees), slope)


S1 = (600, 180, 45, 5.0, 3e7, 2e6)
S2 = (700, 200, 20, 5.2, 2.4e7, 1.2e7)


@pytest.mark.parametrize(
    ("build", "degrees", "q"),
    [(S1, -15, 3.30934e-4), (S1, 0, 3.38464e-4), (S1, 15, 4.01714e-4), (S2, -15, 1.09170e-3), (S2, 0, 2.90510e-3)],
)
def test_s_divergence_of_a_swept_part(build, degrees, q):
    assert float(wing(degrees, *build).divergence()[0]) == pytest.approx(q, rel=EXACT)


def test_s2_swept_back_far_enough_it_does_not_diverge():
    assert float(wing(15, *S2).divergence()[0]) > 0.2


@pytest.mark.parametrize(
    ("build", "degrees", "load", "q", "bend", "twist", "stream", "lift"),
    [
        (S1, -15, 0.008, 1e-4, 6.3542, 2.6755, 2.7946, 35.25),
        (S1, 0, 0.008, 1e-4, 6.3128, 2.6576, 2.6576, 34.35),
        (S1, 15, 0.008, 1e-4, 5.9176, 2.4977, 2.2169, 27.40),
        (S2, -15, 0.01, 3e-4, 17.349, 0.31982, 0.80029, 30.07),
        (S2, 0, 0.01, 3e-4, 14.086, 0.26167, 0.26167, 9.459),
        (S2, 15, 0.01, 3e-4, 11.694, 0.21908, -0.11870, -5.605),
    ],
)
def test_s_bend_and_twist_with_the_lift_that_they_bring(build, degrees, load, q, bend, twist, stream, lift):
    part = wing(degrees, *build)
    a = part.answer(np.full(41, load), q)
    assert float(a.bend[0, -1]) == pytest.approx(bend, rel=EXACT)
    assert float(np.degrees(a.twist[0, -1])) == pytest.approx(twist, rel=EXACT)
    assert float(np.degrees(a.streamwise[0, -1])) == pytest.approx(stream, rel=EXACT)
    more = float(np.trapezoid(a.more_lift[0], part.s)) / (load * part.s[-1])
    assert 100 * more == pytest.approx(lift, rel=0.005)


def test_s1_without_the_air_sweep_changes_nothing_and_the_fuselage_feels_it():
    for degrees in (-15, 0, 15):
        a = wing(degrees, *S1).answer(np.full(41, 0.008), 0.0)
        assert (float(a.bend[0, -1]), float(np.degrees(a.twist[0, -1]))) == pytest.approx((4.32, 1.8564), rel=EXACT)
    told = {-15: (1335.0, -581.3), 0: (1440.0, -216.0), 15: (1446.8, 164.1)}
    for degrees, loads in told.items():
        assert at_the_fuselage(1440, 216, np.radians(degrees)) == pytest.approx(loads, rel=EXACT)


def one(*values):
    return (np.array([float(v)]) for v in values)


def test_k1_a_cord_with_a_constant_pull_cuts_the_depth():
    energy, crushes, bed, EA, grip, bonded, breaks, pull = one(2000, 66, 0.132, 2e4, 0.8, 1e4, 1e4, 60)
    found = caught(energy, crushes, 30, bed, EA, grip, bonded, breaks, pull)
    assert float(found.bare[0]) == pytest.approx(30.303, rel=EXACT)
    assert float(found.depth[0]) == pytest.approx(22.004, rel=EXACT)
    assert float(found.spread[0]) == pytest.approx(312.9, rel=EXACT)
    assert float(found.force[0]) == pytest.approx(103.34, rel=EXACT)


def test_k2_a_bonded_cord_and_one_that_slides():
    assert float(bow_pull(np.array(20.0), 0.132, 2e4, 0.8)) == pytest.approx(112.87, rel=EXACT)
    energy, crushes, bed, EA, grip, breaks = one(2000, 66, 0.132, 2e4, 0.8, 1e4)
    firm = caught(energy, crushes, 30, bed, EA, grip, np.array([1e4]), breaks)
    assert (float(firm.depth[0]), float(firm.pull[0]), float(firm.needs[0])) == pytest.approx(
        (21.101, 116.14, 145.2), rel=EXACT
    )
    assert not np.isfinite(firm.slides_at[0])
    loose = caught(energy, crushes, 30, bed, EA, grip, np.array([90.0]), breaks)
    assert float(loose.depth[0]) == pytest.approx(21.725, rel=EXACT)
    assert float(loose.pull[0]) == pytest.approx(72, rel=EXACT)
    assert float(loose.slides_at[0]) == pytest.approx(8.624, rel=0.03)  # read on a grid of depths
    parted = caught(energy, crushes, 30, bed, EA, grip, np.array([1e4]), np.array([40.0]))
    assert firm.depth[0] < parted.depth[0] < parted.bare[0]


def test_k_a_hard_corner_adds_grip():
    before, after, more = round_a_corner(40, 20, 0.8, 8, np.pi / 2, 0.25)
    assert (before, after, more) == pytest.approx((24, 7.8915, 9.864), rel=EXACT)
    assert 20 + 8 * np.pi / 2 + more == pytest.approx(42.43, rel=EXACT)


def test_v1_whether_it_can_carry_itself():
    able = flight(350, 0.12, 0.80, 8)
    assert (able.load_factor, able.flies_from_m_s, able.bank_deg) == pytest.approx((1.0964, 7.640, 24.2), rel=EXACT)
    heavy = flight(600, 0.16, 0.75, 8)
    assert (heavy.load_factor, heavy.flies_from_m_s) == pytest.approx((0.7995, 8.947), rel=EXACT)
    assert heavy.bank_deg is None
