"""When a glued joint is ready: curves read backwards, cold, closed faces, films that hold at once."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest

from fletcher.core.adhesion.adhesives import adhesives, curings
from fletcher.core.adhesion.readiness import ready_after, slowed, time_to

TIMES = (5.0, 15.0, 30.0, 60.0, 120.0)
CURVE = (0.05, 0.45, 0.65, 0.78, 0.85)
"""REPAIR, check C1."""


@pytest.mark.parametrize(("share", "minutes"), [(0.5, 17.838), (0.8, 73.141), (0.05, 5.0), (0.02, 2.0), (0.45, 15.0)])
def test_a_cure_curve_is_read_linear_in_the_logarithm_of_time(share: float, minutes: float):
    assert time_to(CURVE, share, TIMES) == pytest.approx(minutes, rel=1e-4)


def test_what_a_curve_never_reaches_is_never_ready():
    assert math.isinf(time_to(CURVE, 0.9, TIMES))


def test_in_the_cold_all_takes_longer_and_below_its_least_warmth_nothing_cures():
    """C1: twice as slow per 10 °C, at 12 °C 31.058 and 127.35 minutes."""
    twice = replace(curings()["epoxy_5min"], rate_per_10C=type(curings()["epoxy_5min"].rate_per_10C)(1.8, 2.0, 2.2))
    assert 17.838 * slowed(twice, 12.0) == pytest.approx(31.058, rel=1e-4)
    assert 73.141 * slowed(twice, 12.0) == pytest.approx(127.35, rel=1e-4)
    assert math.isinf(slowed(twice, twice.least_C - 0.1)) and math.isfinite(slowed(twice, twice.least_C))


def test_ready_for_a_flight_by_the_slow_end():
    """Of REPAIR, T1 and L16: 5-minute epoxy 31, 30-minute epoxy 239 minutes, melt by its slow fixture time."""
    late = {key: ready_after(key, "flight_ready", late=True) for key in ("epoxy_5min", "epoxy_30min", "hotmelt_low")}
    assert late["epoxy_5min"] == 31 and late["epoxy_30min"] == 239
    assert late["hotmelt_low"] == math.ceil(adhesives()["hotmelt_low"].fixture_min.high)


@pytest.mark.parametrize("key", sorted(adhesives()))
def test_states_follow_one_another(key: str):
    for sealed in (None, 20.0, 60.0):
        for late in (False, True):
            fixed, flies, loaded = (ready_after(key, s, sealed_mm=sealed, late=late)
                                    for s in ("fixed", "flight_ready", "loaded"))  # fmt: skip
            assert fixed <= flies <= loaded
            assert fixed >= 1 and fixed == math.ceil(fixed)
        assert ready_after(key, "loaded", sealed_mm=sealed) <= ready_after(key, "loaded", sealed_mm=sealed, late=True)
    assert ready_after(key, "loaded") <= ready_after(key, "loaded", sealed_mm=60.0)


def test_what_is_aired_or_freezes_holds_as_soon_as_it_is_fixed_and_what_gels_does_not():
    for key in ("contact_foamsafe_clear", "hotmelt_high", "ca_foamsafe"):
        assert ready_after(key, "flight_ready") == ready_after(key, "fixed")
    for key in ("epoxy_30min", "pu_foaming_white", "pva_white"):
        assert ready_after(key, "flight_ready") > ready_after(key, "fixed")


def test_between_closed_faces_wood_glue_takes_a_day_and_a_misted_polyurethane_no_longer():
    assert ready_after("pva_white", "flight_ready", sealed_mm=30.0) > 20 * ready_after("pva_white", "flight_ready")
    assert ready_after("pu_foaming_white", "loaded", sealed_mm=30.0) == ready_after("pu_foaming_white", "loaded")


def test_a_wider_closed_joint_takes_longer_by_its_row():
    """Twice as wide: 2 to the row's exponent times as long; never quicker than in the open."""
    wide = ready_after("pva_white", "loaded", sealed_mm=60.0) / ready_after("pva_white", "loaded", sealed_mm=30.0)
    assert wide == pytest.approx(2 ** curings()["pva_white"].width_exponent, rel=2e-3)
    assert ready_after("pva_white", "loaded", sealed_mm=0.01) >= ready_after("pva_white", "loaded")
    half = ready_after("solvent_rubbery_clear", "loaded", sealed_mm=30.0)  # aired to tack: half way, on the logarithm
    open_, c = ready_after("solvent_rubbery_clear", "loaded"), curings()["solvent_rubbery_clear"]
    assert half == pytest.approx(math.sqrt(open_ * time_to(c.sealed, 0.8)), rel=2e-3)
