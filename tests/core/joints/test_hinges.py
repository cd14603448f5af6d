"""The hinge chooser: throw by geometry, the servo's share, tear-out, vetoes."""

from __future__ import annotations

import math

import numpy as np
import pytest

from fletcher.core.document.problems import InvalidDocument
from fletcher.core.joints.hinges import (
    POINT_EVERY_MM,
    PRESSURE_AT,
    STALL_SHARE,
    HingeNeed,
    hinge,
    hinges,
    largest_throw,
    throw_of,
)
from fletcher.core.materials.tables import reference

STOCK = reference()


def ask(**changes):
    return hinge(HingeNeed(**changes), STOCK)


def one(key, **changes):
    return next(c for c in ask(**changes).choices if c.key == key)


def meets(height, bevel, gap, turned):
    """Whether the edge of a surface turned so far has crossed the wing's, by their corners' places."""
    lean = math.radians(bevel / 2)
    corner = np.array([gap / 2 + height * math.tan(lean), -height])
    a = -math.radians(turned)
    x, z = corner[0] * math.cos(a) - corner[1] * math.sin(a), corner[0] * math.sin(a) + corner[1] * math.cos(a)
    return x < -(gap / 2 + abs(z) * math.tan(lean))


@pytest.mark.parametrize(("height", "bevel", "gap"), [(6, 0, 1.0), (3, 0, 0.5), (6, 40, 0.0), (10, 20, 0.0)])
def test_the_throw_is_where_the_corners_meet(height, bevel, gap, proof):
    found = largest_throw(height, bevel, gap)
    turned = np.linspace(0, 90, 9001)
    first = next(t for t in turned if meets(height, bevel, gap, -t) or meets(height, bevel, gap, t))
    proof(f"throw over {height} mm, bevel {bevel}°, gap {gap} mm: corners", found, first, 0.02)


def test_a_line_in_a_face_lets_go_towards_it_and_a_square_centre_line_needs_its_gap():
    top = throw_of(HingeNeed(line="top", bevel_deg=0, gap_mm=0))
    assert top.up_deg is None and top.down_deg == 0 and not top.enough
    low = throw_of(HingeNeed(line="bottom"))
    assert low.down_deg is None and low.up_deg is not None
    centre = throw_of(HingeNeed(line="centre", bevel_deg=0, gap_mm=0.2, up_deg=25, down_deg=25))
    assert centre.gap_needed_mm == pytest.approx(6 * math.tan(math.radians(12.5)), rel=1e-6)
    enough = throw_of(HingeNeed(line="centre", bevel_deg=0, gap_mm=centre.gap_needed_mm, up_deg=25, down_deg=25))
    assert enough.enough
    wide = throw_of(HingeNeed(line="top", bevel_deg=0, gap_mm=0, down_deg=30))
    assert throw_of(HingeNeed(line="top", bevel_deg=wide.bevel_needed_deg, gap_mm=0, down_deg=30)).enough
    assert "Binds down" in wide.says


def test_pull_and_servo_share_are_the_sums(proof):
    found = ask(moment_N_mm=35, chord_mm=50, horn_arm_mm=10)
    proof("pull on the hinge line, M/0.35 c + M/a", found.pull_N, 35 / (PRESSURE_AT * 50) + 3.5, 1e-9)
    tape = one("tape_one_side_bevel", moment_N_mm=35, up_deg=30, length_mm=200)
    back = hinges()["tape_one_side_bevel"].k.typ * 2 * math.radians(30)
    proof("what a hinge bends back with, k θ L", tape.back_N_mm.typ, back, 1e-9)
    servo = STOCK.fittings["servo_9g"].torque_N_mm.typ * STALL_SHARE
    proof("share of the servo", tape.servo_share.typ, (back + 35) / servo, 1e-9)


@pytest.mark.parametrize(
    ("key", "changes", "says"),
    [
        ("paper_live_hinge", {}, "is not for this material"),
        ("tape_one_side_bevel", {"line": "centre"}, "does not hinge at the centre"),
        ("tape_one_side_bevel", {"thickness_mm": 40, "chord_mm": 80}, "mm thick"),
        ("tape_one_side_bevel", {"all_up_mass_g": 9000}, "is for airframes of"),
        ("foam_living_hinge", {"up_deg": 40, "length_mm": 900}, "asks more of the servo"),
        ("cement_gap", {"moment_N_mm": 70, "length_mm": 12, "line": "top"}, "the pull of wind and rod"),
    ],
)
def test_vetoes_give_their_reason(key, changes, says):
    assert any(says in v for v in one(key, **changes).vetoes), one(key, **changes).vetoes


def test_point_hinges_are_counted_and_stiff_ones_ask_more_of_the_servo():
    assert one("point_nylon_pinned", length_mm=400).count == math.ceil(400 / POINT_EVERY_MM)
    assert one("point_nylon_pinned", length_mm=30).count == 2
    assert one("tape_one_side_bevel").count is None
    bias, straight = (one(k, made_of="composite").servo_share.typ for k in ("cloth_bias_aramid", "cloth_0_90_aramid"))
    assert bias < straight, "cloth on the bias bends more easily"


def test_every_method_is_told_how_it_is_made_kept_and_mended():
    found = ask()
    assert {c.key for c in found.choices} == set(hinges())
    for c in found.choices:
        assert c.bevel and c.checks and c.mistakes and c.repair and c.sun and c.why and c.grade in "ABC"
        assert c.grams.low <= c.grams.typ <= c.grams.high
    assert any(c.cautions for c in found.choices)


@pytest.mark.parametrize(
    ("changes", "path"), [({"made_of": "unobtainium"}, "made_of"), ({"servo": "battery_2s_450"}, "servo")]
)
def test_what_is_unknown_is_refused_by_its_field(changes, path):
    with pytest.raises(InvalidDocument) as refused:
        ask(**changes)
    assert refused.value.problems[0].path == path
