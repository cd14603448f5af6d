"""REPAIR, worked checks: rows of the design page that a model of the product gives by itself."""

from __future__ import annotations

import math
from types import SimpleNamespace

import numpy as np
import pytest

from fletcher.core.adhesion.curing import sampled_share
from fletcher.core.document.joint import AcrossJoint
from fletcher.core.joints.butt_and_scarf import FITS, MIXED, REACHED, _glued, pin_row, workmanship
from fletcher.core.joints.strap_strength import flute_bearing, flute_rod_bends, lap_force, lap_rate
from fletcher.core.joints.wall_seams import FLUTE_ROUND, wrap_flow
from fletcher.core.joints.wing_root import pin_moment
from fletcher.core.materials.materials import Range
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import SPLICE_SHEAR, draw_bar, draw_factor, limits, samples
from fletcher.core.section.hinge_under_tape import hinge_moment
from fletcher.core.section.moment_curvature import NEVER, Laws, Section
from fletcher.core.section.splices import flow_across, scarf_stress, splice_twists
from tests.core.repair.test_mending import bar


def shares(*ranges):
    """The product of independent shares over all samples: 5, 50, 95 %."""
    with samples(200):
        drawn = np.prod([sampled_share(r, f"test/{n}") for n, r in enumerate(ranges)], axis=0)[1:]
        low, high = limits(drawn)
    return float(low), float(np.median(drawn)), float(high)


@pytest.mark.parametrize(
    ("ranges", "told"),
    [
        ((Range(0.62, 0.85, 1), REACHED["mended"], FITS["butt"], MIXED), (0.495, 0.726, 0.902)),
        ((Range(0.62, 0.85, 1), REACHED["worked_in"], MIXED), (0.216, 0.430, 0.681)),
    ],
)
def test_R2_the_band_of_a_seam_made_by_hand(ranges, told):
    for found, expected in zip(shares(*ranges), told, strict=True):
        assert found == pytest.approx(expected, abs=0.03)  # 200 samples; the page itself is exact to 0.01


def test_R2_the_typical_product_is_not_the_median():
    typical = float(workmanship(AcrossJoint(reached="mended"))[0]) * 0.85
    assert typical == pytest.approx(0.7441, rel=1e-4)
    assert shares(Range(0.62, 0.85, 1), REACHED["mended"], FITS["butt"], MIXED)[1] < typical


def test_R5_pins_bear_on_the_foam_or_are_pulled_out_as_a_row(proof):
    """Three bamboo pins of 3, 40 each side, foam of 0.28 MPa at 10 %, grip 0.85 · 0.20, row 12 from what is pressed."""
    bearing = np.array([0.28])
    proof("bearing of one", float(pin_moment(bearing, 3.0, 40.0, np.zeros(1))[0]), 336.0, 1e-4)
    proof("with 10 N across it", float(pin_moment(bearing, 3.0, 40.0, np.array([10.0]))[0]), 106.24, 1e-4)
    grip = 0.85 * 0.20 * math.pi * 3 * 40
    proof("pulled out", grip, 64.09, 1e-4)
    own = 150 * math.pi * 3**3 / 32
    proof("bent by itself", own, 397.6, 1e-4)
    # 12 mm from the row to the middle of what is pressed: half the core less half the pressed zone
    pressed = 3 * grip / (0.30 * 120)
    row = 3 * pin_row(np.array([grip]), 3, 2 * 12 + pressed, 120.0, np.array([0.30]))
    proof("row of three", float(row[0]), 2307.2, 1e-4)
    assert max(float(row[0]), 3 * 336.0) == float(row[0])


@pytest.mark.parametrize(("slope", "holds"), [(6, 36.774), (8, 48.582), (10, 60.466), (12, 72.388), (13, 78.36)])
def test_R15_a_scarf_in_wood(slope, holds, proof):
    proof(f"scarf 1:{slope}", float(scarf_stress(slope, np.array([9.0]), np.array([6.0]))[0]), holds, 1e-3)


@pytest.mark.parametrize(
    ("faces", "slope", "holds"),
    [("butt", 4.0, 0.2880), ("scarf", 1.0, 0.27973), ("scarf", 3.0, 0.52442), ("scarf", 6.0, 0.98246)],
)
def test_R20_faces_of_a_core_at_a_slope(faces, slope, holds, proof):
    """σ 0.45 · 0.8 · 0.8 and τ 0.25 · 0.8 · 0.8: the inverse of what one MPa along the part uses."""
    pull, shear = np.array([0.45 * 0.64]), np.array([0.25 * 0.64])
    line = SimpleNamespace(film_pull=pull, film_shear=shear, bed_pull=pull, bed_shear=shear)
    site = SimpleNamespace(deep=20.0, line=lambda sort, wide: line)
    uses = [use for _, _, use in _glued(AcrossJoint(faces=faces, slope=slope), site, np.ones(1), np.zeros(1))]
    proof(f"{faces} 1:{slope:g}", 1 / float(uses[0][0]), holds, 1e-3)


class Block:
    """Foam X (E 14 pulled, 12 pressed, crushes at 0.30) with strips and rods at heights, by the march of a section."""

    def __init__(self, wide, high, more=(), pull=14.0, push=12.0, crush=0.30):
        """`more`: (height, area, E, yields at, gives at), stresses in MPa."""
        levels = 1200
        z = (np.arange(levels) + 0.5) / levels * high - high / 2
        rows = [(v, wide * high / levels, pull, push, NEVER, crush / push) for v in z]
        rows += [(v, area, E, E, yields / E, gives / E) for v, area, E, yields, gives in more]
        self.edge = len(rows)
        rows.append((-high / 2, 0.0, pull, push, NEVER, crush / push))
        at, area, E_t, E_c, yields, gives = (np.array(v, float) for v in zip(*rows, strict=True))
        self.section = Section(area, -at, Laws(E_t, E_c, yields, np.zeros(len(at)), gives))
        self.pull = pull

    def moment(self, tears):
        """Moment at which the pulled face reaches a stress (MPa)."""
        limits, never = np.full((2, self.edge + 1), NEVER)
        limits[self.edge] = tears / self.pull
        return float(self.section.reaches(limits, never, np.array(0.05))[2])


SEAM = 0.80 * 0.874 * 0.45


def test_R1_and_R4_a_seam_bears_less_than_the_foam_beside_it_by_the_section_s_own_plateau(proof):
    plank = Block(120, 20)
    proof("R1 cap of the seam", SEAM, 0.31464, 1e-4)
    proof("R1 whole", plank.moment(0.45), 3297.8, 1e-3)
    proof("R1 seam", plank.moment(SEAM), 2420.2, 1e-3)
    proof("R4 crack worked in", plank.moment(0.80 * 0.55 * 0.92 * 0.45), 1401.2, 1e-3)


def test_R3_one_rod_that_is_left_moves_the_axis_to_itself(proof):
    rod = math.pi * 3**2 / 4
    E, foam = 125e3, 13.0
    halves = [(9 + side * 3 / 4, rod / 2, E - foam, 1e9, 1e9) for side in (-1, 1)]  # with its own bending, πd⁴/64
    held = Block(180, 22, halves, pull=foam, push=foam, crush=1e9)
    proof("R3 with the upper rod", held.moment(0.315), 8092.0, 1e-3)
    proof("R3 without", Block(180, 22, pull=foam, push=foam, crush=1e9).moment(0.315), 4573.8, 1e-3)


@pytest.mark.parametrize(("faces", "seam"), [((-1,), 3024.0), ((-1, 1), 3145.8)])
def test_R8_tape_over_a_seam_yields_or_wrinkles_with_it(faces, seam, proof):
    """Tape 0.028 × 48: yields at 35 MPa, wrinkles at k (E E_z G)^⅓ = 12.164."""
    wrinkles = 0.25 * (2000 * 12 * 4.8) ** (1 / 3)
    proof("R8 wrinkling", wrinkles, 12.164, 1e-4)
    tapes = [(side * 10.014, 0.028 * 48, 2000.0, 35.0, wrinkles) for side in faces]
    proof(f"R8 seam with tape on {len(faces)}", Block(120, 20, tapes).moment(SEAM), seam, 1e-3)


@pytest.mark.parametrize(("pressed", "moment", "strip"), [(0.0, 910.7, 1.3067), (16.349, 928.6, 0.85253)])
def test_R8_once_cracked_it_hangs_on_its_tape(pressed, moment, strip, proof):
    pulled = np.array(35 * 0.028 * 48)
    found, high = hinge_moment(20, 120, np.array(0.30), 0.028, pulled, np.array(pressed))
    proof("R8 cracked", float(found), moment, 1e-3)
    proof("R8 pressed strip", float(high), strip, 1e-3)


@pytest.mark.parametrize(("length", "brittle"), [(75, 59.10), (150, 112.77), (300, 191.83), (600, 254.35)])
def test_R13_a_sister_beside_a_broken_rod_hands_over_little_through_foam(length, brittle, proof):
    """Two rods of 3, 4.5 apart: k = 2πG/arcosh((s² − r² − r²)/2r²), half a perimeter of grip."""
    K, q = 125e3 * math.pi * 9 / 4, 0.85 * 0.20 * math.pi * 3 / 2
    k = 2 * math.pi * 4.8 / math.acosh((4.5**2 - 2 * 1.5**2) / (2 * 1.5**2))
    proof("R13 stiffness between them", k, 15.668, 1e-3)
    rate = lap_rate(K, K, 1 / k, 1.0)
    proof(f"R13 sister, {length}", float(lap_force(q, K, K, rate, length, True)), brittle, 2e-3)
    if length == 150:
        proof("R13 on foam that yields", float(lap_force(q, K, K, rate, length, False)), 120.17, 1e-3)


def test_R10_tape_wrapped_round_a_part_is_a_tension_field_held_by_its_lap(proof):
    """Tape 0.028, 35 MPa, lap 15 at 0.05 MPa, round 150 × 20."""
    flow = float(wrap_flow(35.0, 0.028, 0.05))
    proof("R10 flow", flow, 0.490, 1e-4)
    proof("R10 torque", 2 * 150 * 20 * flow, 2940.0, 1e-4)
    proof("R10 by a short lap", float(wrap_flow(35.0, 0.028, 0.05, lap=5.0)), 0.25, 1e-6)


def test_R11_a_split_tube_twists_by_thread_that_holds_its_faces_shut(proof):
    """Tube 6/4, its wall 45 MPa; glue in the crack 15 · 0.75, thread that holds 60 N/mm."""
    film, thread, own, mean = np.array([15 * 0.75 * 1.0]), 60.0, np.array([45.0]), math.pi * 2.5**2
    proof("R11 by glue", float(flow_across(film, 0.0, own)[0]), 11.25, 1e-6)
    proof("R11 by thread", float(flow_across(film, thread, own)[0]), 30.0, 1e-6)
    proof("R11 torque", 2 * mean * float(flow_across(film, thread, own)[0]), 1178.1, 1e-4)
    proof("R11 never beyond the wall", float(flow_across(film, 200.0, own)[0]), 45.0, 1e-6)


def test_R11_the_product_s_own_tube_keeps_the_share_of_its_twist_that_passes_the_split():
    tube, splice = bar("carbon_tube_6_4", "wrapped")
    share = splice_twists(tube, splice)
    own = draw_bar(tube.stock).shear  # its wall is 1 mm: N/mm and MPa are one figure
    assert share == pytest.approx(np.minimum(np.maximum(draw_factor(SPLICE_SHEAR), 30.0), own) / own)
    assert np.all(share <= 1) and float(share[0]) < 1


def test_R12_a_sleeve_twists_by_its_glue_over_25_of_its_depth(proof):
    """Pull 3267.3 N and torque 6534.5 N·mm by 16 · 0.65 on a rod of 4, 25 counted."""
    film = 16 * 0.65
    proof("R12 pull", film * math.pi * 4 * 25, 3267.3, 1e-4)
    proof("R12 torque", film * math.pi * 4**2 / 2 * 25, 6534.5, 1e-4)
    placed, splice = bar("carbon_tube_6_4", "sleeved", 80.0, "carbon_rod_4")
    rod, tube = reference().bars["carbon_rod_4"], placed.stock
    share = splice_twists(placed, splice)
    own = draw_bar(tube).shear * 2 * tube.second_moment_mm4() / 3
    glue = draw_factor(SPLICE_SHEAR) * math.pi * 4**2 / 2 * 25
    inner = draw_bar(rod).shear * 2 * rod.second_moment_mm4() / 2
    assert share == pytest.approx(np.minimum(np.minimum(glue, inner) / own, 1.0))


def test_R19_a_rod_in_a_flute_bears_on_its_walls_or_is_pulled_by_its_glue(proof):
    """Liner 0.25, 22 MPa, pitch 4; rod of 3, 60 each side, 850 MPa; glue 2.0 on half of its round, 25 counted."""
    bears = flute_bearing(22.0, 0.25, 4.0)
    proof("R19 bearing", float(bears), 0.6875, 1e-4)
    own = 850 * math.pi * 3**3 / 32
    proof("R19 rod", own, 2253.0, 1e-3)
    proof("R19 bends", float(flute_rod_bends(bears, 60, own)), 618.75, 1e-4)
    assert float(flute_rod_bends(bears, 600, own)) == pytest.approx(own)
    proof("R19 pull", 2.0 * FLUTE_ROUND * math.pi * 3 * 25, 235.62, 1e-4)


def test_R22_cloth_on_both_faces_is_held_by_its_lap(proof):
    """Cloth 0.05317, E 16 210, 259.4 MPa, 100 wide, lap 25 at 0.75 · 0.20; X 20 thick."""
    t, wide = 0.05317, 100.0
    wrinkles = 0.5 * (16210 * 12 * 4.8) ** (1 / 3)
    proof("R22 wrinkles", wrinkles, 48.870, 1e-3)
    passes = min(259.4 * t, 0.75 * 0.20 * 25)
    proof("R22 lap", passes, 3.750, 1e-4)
    pressed = wrinkles * t * wide
    proof("R22 pressed", pressed, 259.84, 1e-3)
    moment, strip = hinge_moment(20, wide, np.array(0.30), t, np.array(passes * wide), np.array(pressed))
    proof("R22 strip", float(strip), 3.8387, 1e-3)
    proof("R22 moment", float(moment), 7295.8, 1e-3)


def test_R14_a_new_rod_is_anchored_by_the_foam_around_it(proof):
    """The tie of the product itself: a rod of 3 in foam of half depth 10, whose end is pulled, hands over most at its
    end: q(0)/P = λ/tanh λL (Cox 1952)."""
    k = 2 * math.pi * 4.8 / math.log(10 / 1.5)
    proof("R14 bedding", k, 15.897, 1e-3)
    K, q, length = 125e3 * math.pi * 9 / 4, 0.85 * 0.20 * math.pi * 3 / 2, 150.0
    rate = math.sqrt(k / K)
    proof("R14 rate", rate, 0.00424172, 1e-3)
    # a host without end that does not stretch: the rod against it is the lap of two sides of which one is rigid
    held = float(lap_force(q, K, 1e12, lap_rate(K, 1e12, 1 / k, 1.0), length, True))
    proof("R14 brittle", q / rate * math.tanh(rate * length), 106.21, 1e-3)
    assert held == pytest.approx(106.21, rel=0.01)
    proof("R14 yielding", min(q * min(length, 4 / rate), 1e9), 120.17, 1e-3)


def test_R24_what_lies_in_one_section_is_not_added_up(proof):
    """The seam with its tape breaks at 3024; pins alone then bear 2307.2, tape alone 910.7: the part breaks at 3024."""
    tape = [(-10.014, 0.028 * 48, 2000.0, 35.0, 1e9)]
    first = Block(120, 20, tape).moment(SEAM)
    proof("R24 break load", max(first, 2307.2, 910.7), 3024.0, 1e-3)
