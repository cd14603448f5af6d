"""Coupons and trials: conjugate odds, censored loads, monotone time, and when a difference is real."""

from __future__ import annotations

import math

import numpy as np
import pytest
from pydantic import ValidationError
from scipy.stats import beta

from fletcher.core.adhesion.adhesives import adhesives
from fletcher.core.adhesion.coupons import (
    LOAD_SPREAD,
    PRIOR_COUPONS,
    Coupon,
    Face,
    Measured,
    Reading,
    odds,
    reading,
    strength,
)
from fletcher.core.adhesion.fair_trial import (
    FEWEST,
    MOST,
    Arm,
    TrialWish,
    chance_larger,
    coupons_needed,
    plan,
    read_trial,
)
from fletcher.core.adhesion.joint_capacity import GlueNeed
from fletcher.core.adhesion.selection import glue
from fletcher.core.materials.tables import reference

PAIR = {"adhesive": "epoxy_30min", "one": "epp_30", "other": "epp_30"}


def coupon(face: Face, **change) -> Coupon:
    return Coupon(**{**PAIR, "face": face, **change})


def need(**change) -> GlueNeed:
    return GlueNeed(**{"schools": {}, **change})


def choice(found, key="epoxy_30min"):
    return next(c for c in found.choices if c.key == key)


def test_odds_are_those_of_the_conjugate_beta():
    found = odds(0.7, "C", [Reading(1, 0)] * 3 + [Reading(0.25, 0.75)])
    worth = PRIOR_COUPONS["C"]
    posterior = beta(worth * 0.7 + 3.25, worth * 0.3 + 0.75)
    assert found.after.typ == pytest.approx(posterior.median())
    assert (found.after.low, found.after.high) == pytest.approx(posterior.ppf([0.05, 0.95]))
    assert found.coupons == 4
    better = odds(0.7, "A", [Reading(0, 1)] * 4).after.typ
    assert better > odds(0.7, "C", [Reading(0, 1)] * 4).after.typ  # a better table yields less to the same coupons


def test_good_faces_speak_for_later_bad_ones_for_earlier_and_soft_glue_for_its_own_time():
    deep, clean, soft = (coupon(Face(**{n: 100}), minutes=60) for n in ("foam_deep", "clean_seam", "glue_soft"))
    early, late = 15.0, 1440.0
    assert reading(deep, 0.3, 0.9, late) == Reading(1, 0)
    assert reading(deep, 0.3, 0.1, early) == Reading(0, 0)
    assert reading(clean, 0.3, 0.9, late) == Reading(0, 0)
    assert reading(clean, 0.3, 0.1, early) == Reading(0, 1)
    assert reading(clean, 0.95, 1.0, late) == Reading(0, 1)  # it had cured: the same as later
    assert reading(soft, 0.3, 0.9, late) == Reading(0, 0)
    assert reading(soft, 0.3, 0.1, early) == Reading(0, 1)
    lifted = coupon(Face(paint_lifted=60, foam_deep=40), minutes=60)
    assert reading(lifted, 0.3, 0.9, late) == Reading(0.4, 0)


def test_a_lower_bound_lifts_but_never_lowers():
    broke = strength([Measured(0.0, LOAD_SPREAD, False)] * 3, 0.4)
    weak = strength([Measured(0.0, LOAD_SPREAD, False)] * 3 + [Measured(-3.0, LOAD_SPREAD, True)], 0.4)
    assert weak == pytest.approx(broke, abs=1e-6)  # that it held a little says nothing
    strong = strength([Measured(0.5, LOAD_SPREAD, True)] * 3, 0.4)
    assert strong[0] > broke[0] and broke[1] < strong[1] < 0.4


@pytest.mark.parametrize(
    ("prior", "breaks", "held", "mean", "sd"),
    [
        (0.35, (0.90, 1.10), (1.25,), 0.11369, 0.16206),
        (0.35, (), (1.25,), 0.30014, 0.26651),
        (0.35, (), (0.50,), 0.03666, 0.32635),
        (0.35, (), (1.0,) * 5, 0.43512, 0.21734),
    ],
)
def test_what_only_held_counts_by_the_chance_of_holding_it(prior, breaks, held, mean, sd):
    """Worked checks A6a to A6d of independent coupons: grid and Gauss-Hermite agree on these."""
    loads = [Measured(math.log(b), 0.30, False) for b in breaks] + [Measured(math.log(h), 0.30, True) for h in held]
    assert strength(loads, prior, alike=0.0) == pytest.approx((mean, sd), abs=2e-5)


def test_no_number_of_coupons_tells_more_than_they_have_in_common():
    widths = [strength([Measured(0.2, LOAD_SPREAD, False)] * n, 0.4)[1] for n in (1, 3, 10, 100, 1000)]
    assert widths == sorted(widths, reverse=True) and widths[-1] == pytest.approx(0.07, rel=0.03)
    one = (0.4**-2 + (LOAD_SPREAD**2 + 0.07**2) ** -1) ** -0.5
    assert widths[0] == pytest.approx(one, rel=1e-4)
    mean = strength([Measured(0.2, LOAD_SPREAD, False)], 0.4)[0]
    assert mean == pytest.approx(0.2 * 0.4**2 / (0.4**2 + LOAD_SPREAD**2 + 0.07**2), rel=1e-4)


def test_a_bound_below_all_that_is_likely_changes_nearly_nothing_and_order_does_not_count():
    mean, sd = strength([Measured(math.log(0.5), LOAD_SPREAD, True)], 0.3)
    assert 0 < mean < 0.05 and 0.9 * 0.3 < sd < 0.3
    loads = [Measured(0.3, LOAD_SPREAD, False), Measured(-0.1, 0.7, True), Measured(0.1, LOAD_SPREAD, True)]
    assert strength(loads, 0.35) == strength(loads[::-1], 0.35)


def test_measured_loads_of_twice_the_estimate_double_it_as_coupons_gather():
    start = choice(glue(need(within_min=1440), reference()))
    tested = need(loaded="bend", area_cm2=6, width_mm=20, arm_mm=60, within_min=1440)
    estimate = choice(glue(tested, reference())).then_N.typ
    ratios, widths = [], []
    for count in (1, 4, 40):
        own = [coupon(Face(foam_deep=100), load_N=2 * estimate)] * count
        moved = choice(glue(need(within_min=1440), reference(), own))
        ratios.append(moved.then_N.typ / start.then_N.typ)
        widths.append(math.log(moved.then_N.high / moved.then_N.low))
    assert 1 < ratios[0] < ratios[1] < ratios[2] < 2.0
    assert ratios[2] == pytest.approx(2, rel=0.06)
    assert widths[0] > widths[1] > widths[2]


def test_coupons_of_another_pair_technique_or_control_say_nothing():
    plain = glue(need(), reference())
    for other in (
        coupon(Face(clean_seam=100), one="eps_20"),
        coupon(Face(clean_seam=100), other="wood"),
        coupon(Face(clean_seam=100), control=True),
        coupon(Face(clean_seam=100), adhesive="pu_foaming_white", technique="dry"),
    ):
        assert choice(glue(need(), reference(), [other])).own is None
    assert glue(need(), reference(), []) == plain


def test_soft_glue_at_half_an_hour_leaves_the_cured_joint_as_it_was():
    soft = [coupon(Face(glue_soft=100), minutes=30)] * 5
    late = choice(glue(need(within_min=10_080), reference(), soft))
    plain = choice(glue(need(within_min=10_080), reference()))
    assert late.then_N == plain.then_N
    assert late.own.odds.after == late.own.odds.before
    early = choice(glue(need(within_min=30), reference(), soft))
    assert early.own.odds.after.typ <= early.own.odds.before.typ


def test_a_chance_is_that_of_two_betas():
    rng = np.random.default_rng(5)
    draws = rng.beta(9, 3, 400_000) > rng.beta(6, 6, 400_000)
    assert chance_larger((8, 2), (5, 5)) == pytest.approx(draws.mean(), abs=0.003)
    assert chance_larger((4, 4), (4, 4)) == pytest.approx(0.5, abs=1e-9)
    assert chance_larger((30, 0), (0, 30)) == pytest.approx(1, abs=1e-6)


def test_so_many_coupons_find_the_difference_four_times_in_five():
    n = coupons_needed(0.75, 0.25)
    rng = np.random.default_rng(3)
    good, bad = rng.binomial(n, 0.75, 3000), rng.binomial(n, 0.25, 3000)
    pairs = list(zip(good.tolist(), bad.tolist(), strict=True))
    real = {(g, b): chance_larger((g, n - g), (b, n - b)) >= 0.95 for g, b in set(pairs)}
    found = np.mean([real[p] for p in pairs])
    assert 0.72 < found < 0.95


def test_a_plan_is_fair_and_its_order_is_drawn_anew():
    wish = TrialWish(arms=(Arm(adhesive="ca_foamsafe"), Arm(adhesive="epoxy_30min")), difference_percent=60)
    found = plan(wish, reference())
    assert len(found.arms) == 3 and "untreated" in found.arms[2]
    assert FEWEST <= found.each <= MOST
    labels = [c.label for c in found.order]
    assert len(set(labels)) == len(labels) == 3 * found.each
    for k in range(found.each):  # every round holds each way once
        assert sorted(c.arm for c in found.order[3 * k : 3 * k + 3]) == [0, 1, 2]
    assert [c.arm for c in found.order] != sorted(c.arm for c in found.order)
    again = plan(wish, reference())
    assert again == found
    assert plan(wish.model_copy(update={"seed": 2}), reference()).order != found.order
    assert plan(wish.model_copy(update={"difference_percent": 20}), reference()).each > found.each
    assert found.cautions


def test_eight_ways_and_a_control_are_compared_each_under_its_letter():
    keys = list(adhesives())[:8]
    wish = TrialWish(arms=tuple(Arm(adhesive=k) for k in keys))
    found = plan(wish, reference())
    assert len(found.arms) == 9 and {c.label[0] for c in found.order} == set("ABCDEFGHI")
    # the eighth way and the control are read by their letters
    torn = [coupon(Face(foam_deep=100), label=f"{letter}{n}") for letter in "HI" for n in (1, 2)]
    read = read_trial(wish, torn)
    assert read.broken == [0] * 7 + [2, 2]
    with pytest.raises(ValidationError):
        TrialWish(arms=tuple(Arm(adhesive=k) for k in list(adhesives())[:9]))


def test_a_reading_grows_from_open_over_likely_to_real_and_says_how_many_more():
    wish = TrialWish(arms=(Arm(adhesive="ca_foamsafe"), Arm(adhesive="epoxy_30min")), control=False)

    def read(good: tuple[int, int], bad: tuple[int, int]):
        faces = [(m, Face(foam_deep=100)) for m, n in zip("AB", good, strict=True) for _ in range(n)]
        faces += [(m, Face(clean_seam=100)) for m, n in zip("AB", bad, strict=True) for _ in range(n)]
        return read_trial(wish, [coupon(f, label=f"{m}{n}") for n, (m, f) in enumerate(faces)]).verdicts[0]

    assert read((2, 2), (1, 1)).settled == "open"
    likely = read((4, 2), (1, 3))
    assert likely.settled == "likely" and "not proven" in likely.says
    more = likely.more_of_each
    assert more and f"{more} more of each" in likely.says
    # twice as many in the same shares are more than that, and do settle it
    assert more <= 5
    settled = read((8, 4), (2, 6))
    assert settled.settled == "real" and settled.more_of_each == 0
    assert read((0, 6), (6, 0)).better.startswith("Epoxy, 15-30")
