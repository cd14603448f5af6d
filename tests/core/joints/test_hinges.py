"""The hinge chooser: throw by geometry, the servo's share, tear-out, vetoes."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest

from fletcher.core.document.problems import InvalidDocument
from fletcher.core.joints.hinges import (
    PEELS_AT,
    POINT_EVERY_MM,
    PRESSURE_AT,
    STALL_SHARE,
    HingeNeed,
    hinge,
    hinges,
    largest_throw,
    pull_on_end,
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
        ("tape_one_side_bevel", {"line": "centre"}, "cannot be placed at the centre"),
        ("tape_one_side_bevel", {"thickness_mm": 40, "chord_mm": 80}, "mm thick"),
        ("tape_one_side_bevel", {"all_up_mass_g": 9000}, "is for airframes of"),
        ("foam_living_hinge", {"up_deg": 40, "length_mm": 900}, "needs more torque than the servo has"),
        ("cement_gap", {"moment_N_mm": 70, "length_mm": 12, "line": "top"}, "the load from air and pushrod"),
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


def test_the_sun_changes_the_order_and_rules_out_what_it_has_eaten():
    """Clear tape halves in three months outdoors: 600 hours of sun; wire and tube do not care."""
    fresh, old = (ask(sun_hours=h, made_of="epp_30", line="top") for h in (0, 1200))
    ranks = [{c.key: n for n, c in enumerate(f.choices)} for f in (fresh, old)]
    assert not fresh.choices[ranks[0]["tape_one_side_bevel"]].vetoes
    tape = old.choices[ranks[1]["tape_one_side_bevel"]]
    assert "keeps only 25 % of its strength" in tape.vetoes[-1] and tape.sun_left.typ == pytest.approx(0.25)
    assert ranks[1]["film_tape_uv"] < ranks[1]["tape_one_side_bevel"]
    season = one("tape_one_side_bevel", sun_hours=80)
    assert season.sun_left.typ == pytest.approx(0.5 ** (0.4 / 3)) and not season.vetoes


@pytest.mark.parametrize("key", sorted(hinges()))
def test_more_sun_never_makes_a_hinge_better(key):
    for made_of in ("epp_30", "composite", "board"):
        found = [one(key, made_of=made_of, sun_hours=h) for h in (0, 100, 800, 3000)]
        for less, more in itertools.pairwise(found):
            assert more.sun_left.typ <= less.sun_left.typ and more.margin.typ <= less.margin.typ * (1 + 1e-12)
            assert more.points <= less.points + 1e-9
        assert found[0].sun_left.typ == 1


def test_cement_ages_too_and_fabric_keeps_half_of_the_pull(proof):
    months = 9.0
    gap, fabric = (one(k, sun_hours=200 * months).sun_left.typ for k in ("cement_gap", "cement_fabric"))
    proof("cement after its half life", gap, 0.5, 1e-9)
    proof("with fabric, shared", fabric, 0.5 * (0.5 + 0.5 ** (months / 40)), 1e-9)
    assert gap < fabric < 1


def test_an_end_beside_the_horn_is_pulled_hardest(proof):
    """A stiff surface of 400 mm: e/L = 1/2 − 20/400, so the rod's share at the end is 1 + 6 · 0.45 of the mean."""
    need = {"length_mm": 400, "moment_N_mm": 40, "chord_mm": 50, "horn_arm_mm": 10}
    wind, rod = 40 / (PRESSURE_AT * 50), 4.0
    found = pull_on_end(HingeNeed(**need, horn_mm=20))
    proof("pull on 25 mm at the end", found, 25 / 400 * (wind + rod * (1 + 6 * 0.45)), 1e-9)
    middle = pull_on_end(HingeNeed(**need))
    proof("horn in the middle", middle, 25 / 400 * (wind + rod), 1e-9)
    assert pull_on_end(HingeNeed(**need, horn_mm=380)) == middle  # the nearer end is meant
    whole = pull_on_end(HingeNeed(**{**need, "length_mm": 20}))
    proof("shorter than an end", whole, wind + rod, 1e-9)


def test_what_is_stuck_on_is_judged_by_peel_from_its_end(proof):
    need = {"length_mm": 420, "moment_N_mm": 20}
    tape = one("tape_one_side_bevel", **need)
    proof("margin by peel", tape.margin.typ, PEELS_AT.typ / pull_on_end(HingeNeed(**need)), 1e-9)
    assert tape.gives == "peels" and tape.margin.typ < tape.tears_N.typ / ask(**need).pull_N
    assert one("knuckle_pin_tube", line="centre").gives == "tears"
    near = one("tape_one_side_bevel", **need, horn_mm=0)
    assert near.margin.typ < tape.margin.typ
    hard = one("tape_one_side_bevel", moment_N_mm=400, length_mm=200, horn_mm=0, servo="servo_9g")
    assert any("the load from air and pushrod" in v for v in hard.vetoes)


def test_both_angles_of_a_hinge_cloth_stand_side_by_side():
    for key in ("cloth_bias_aramid", "cloth_0_90_aramid"):
        found = one(key, made_of="composite", length_mm=200, up_deg=30)
        straight, bias = found.cloth
        assert (straight.deg, bias.deg) == (0, 45)
        assert bias.back_N_mm.typ < straight.back_N_mm.typ  # softer to bend …
        assert bias.pulls_N.typ < straight.pulls_N.typ  # … and parts sooner across the line …
        assert bias.shears_N.typ > straight.shears_N.typ  # … but holds along it
    turned = one("cloth_bias_aramid", made_of="composite", cloth_deg=20, length_mm=200, up_deg=30)
    assert [c.deg for c in turned.cloth] == [0, 20, 45]
    assert turned.cloth[1].back_N_mm.typ == pytest.approx(turned.back_N_mm.typ)
    longer = one("cloth_bias_aramid", made_of="composite", length_mm=400, up_deg=30)
    assert longer.cloth[0].shears_N.typ == pytest.approx(2 * straight.shears_N.typ)
    assert one("tape_one_side_bevel").cloth == []


def test_foams_that_had_no_hinge_have_tape_and_hazards_come_from_the_glues_that_are_named():
    for foam in ("epe_33", "fb_core_light"):
        assert not one("tape_one_side_bevel", made_of=foam).vetoes, foam
    for c in ask(made_of="epp_30").choices:
        if any("epoxy" in g.lower() for g in c.glues):
            assert any("poxy" in k.hazard + k.caution for k in c.cautions), c.key
