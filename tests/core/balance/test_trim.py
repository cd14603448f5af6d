"""Flying wings and foreplanes against worked figures."""

import pytest

from fletcher.core.balance.planform import Panel, planform_of
from fletcher.core.balance.trim import shared, washout_for, washout_moment

WING = planform_of((80, 30, 0), [Panel(600, 240, 140, 260)], 30)


def test_a_swept_flying_wing_trims_by_washout():
    slope = WING.slope(0.95)
    assert WING.centre_mm == pytest.approx(240.8251, abs=1e-3) and slope == pytest.approx(4.3187, rel=1e-4)
    moment = washout_moment(WING, slope, -3.0)
    assert moment == pytest.approx(0.01189, rel=2e-3)
    assert moment / 0.07 == pytest.approx(0.1699, rel=2e-3)
    assert WING.centre_mm - 0.07 * WING.mean_chord_mm == pytest.approx(227.0284, abs=1e-3)
    assert washout_for(WING, slope, 0.07 * 0.35) == pytest.approx(-6.182, rel=2e-3)


def test_a_straight_wing_has_no_use_for_washout_and_a_forward_swept_one_the_wrong_one():
    plank = planform_of((100, 0, 0), [Panel(500, 200, 200)])
    assert washout_moment(plank, 4.0, -3.0) == pytest.approx(0, abs=1e-12)
    assert washout_for(plank, 4.0, 0.02) is None
    forward = planform_of((300, 0, 0), [Panel(700, 220, 140, -200)])
    assert washout_for(forward, 4.0, 0.02) is None


def test_the_foreplane_stalls_first():
    found = shared(820, 395, (92, 5.25, 1.0), (605, 16, 1.1))
    assert found.fore_g == pytest.approx(335.673, rel=1e-5)
    assert found.fore_g / 5.25 == pytest.approx(63.938, rel=1e-4)
    assert found.wing_g / 16 == pytest.approx(30.27, rel=1e-3)
    assert found.first == pytest.approx(2.3234, rel=1e-4) and found.flyable
    alike = shared(820, 487.133, (92, 5.25, 1.0), (605, 16, 1.1))
    assert alike.first == pytest.approx(1.0, rel=1e-4) and not alike.flyable
