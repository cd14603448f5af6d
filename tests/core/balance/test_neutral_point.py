"""Mean chord, aerodynamic centre, lift slope, downwash and neutral point against worked figures."""

import math

import numpy as np
import pytest

from fletcher.core.balance.neutral_point import Body, Surface, downwash, neutral_point, textbook
from fletcher.core.balance.planform import Edge, Panel, Planform, lift_slope, lift_slope_by_kappa, planform_of

WING = [Panel(600, 180, 140, 20, 4)]
TWO = [Panel(400, 200, 180, 60, 2), Panel(300, 180, 110, 90, 6)]


def close(value, wanted):
    return value == pytest.approx(wanted, rel=1e-4)


@pytest.mark.parametrize(
    ("planform", "area", "span", "aspect", "chord", "nose", "out", "centre", "tan"),
    [
        (planform_of((0, 0, 0), [Panel(600, 180, 140, 20)]), 19.2, 1200, 7.5, 160.8333, 9.58333, 287.5, 49.79167, 0),
        (planform_of((220, 25, 0), TWO, 25), 24.8431, 1446.23, 8.41912, 175.818, 273.331, 331.574, 317.2851, 0.14068),
        (planform_of((300, 30, 0), [Panel(700, 220, 140, -110, 3)], 30), 26.4855, 1458.08, 8.02705, 184.8088, 251.612,
         336.753, 297.8144, -0.20389),
        (planform_of((100, 0, 0), [Panel(500, 200, 200)]), 20, 1000, 5, 200, 100, 250, 150, 0),
    ],
    ids=["tapered", "swept in two panels", "forward swept", "plank"],
)  # fmt: skip
def test_mean_chord_and_aerodynamic_centre(planform, area, span, aspect, chord, nose, out, centre, tan):
    assert close(planform.area_mm2 / 1e4, area) and close(planform.span_mm, span) and close(planform.aspect, aspect)
    assert close(planform.mean_chord_mm, chord) and close(planform.mean_nose_mm, nose)
    assert close(planform.mean_out_mm, out) and close(planform.centre_mm, centre)
    assert planform.tan_half == pytest.approx(tan, abs=1e-5)


def test_an_elliptic_wing_in_eight_straight_panels():
    y = np.linspace(0, 600, 9)
    chords = 220 * np.sqrt(1 - (y / 600) ** 2)
    wing = Planform(tuple(Edge(float(a), 55 - c / 4, float(c)) for a, c in zip(y, chords, strict=True)))
    assert close(wing.mean_chord_mm, 187.389)
    assert close(wing.centre_mm, 55)


@pytest.mark.parametrize(
    ("aspect", "tan", "kappa", "slope"),
    [(7.8125, 0, 1.0, 4.87731), (5, 0, 0.95, 4.11723), (8, 0.3, 0.95, 4.56277), (3.5, -0.1, 0.9, 3.44134)],
)
def test_lift_slope(aspect, tan, kappa, slope):
    assert close(lift_slope(aspect, tan, kappa), slope)
    up, down = (math.log(lift_slope(aspect, tan, kappa * f)) for f in (1.0001, 0.9999))
    assert (up - down) / math.log(1.0001 / 0.9999) == pytest.approx(lift_slope_by_kappa(aspect, tan, kappa), rel=1e-6)


def test_downwash_on_the_middle_line_and_far_behind():
    wing = planform_of((0, 0, 0), [Panel(625, 160, 160)])
    assert wing.aspect == 7.8125
    lift = 4.72 * wing.area_mm2  # per dynamic pressure and radian
    assert close(float(downwash(wing, 560, -40, np.zeros(1))[0]) * lift, 0.359626)
    far = float(downwash(wing, 1e7, 0, np.zeros(1))[0]) * lift
    s, thin = math.pi * 1250 / 8, (0.02 * 1250) ** 2
    assert far == pytest.approx(16 * 4.72 / (math.pi**3 * 7.8125) * s**2 / (s**2 + thin), rel=1e-4)
    ahead = float(downwash(wing, -200, 0, np.zeros(1))[0])
    assert ahead < 0  # ahead of a wing the air is turned up


def test_the_textbook_form():
    volume, whole, x = textbook((4.6, 20, 280), (3.6, 4.5, 830), 162, 0.38, 0.9)
    assert close(volume, 0.763889) and close(whole, 5.05198) and close(x, 329.2063)


HERON = (
    Surface(planform_of((220, 25, 40), WING, 25), 0.95),
    Surface(planform_of((800, 0, 30), [Panel(220, 130, 100, 15)]), 0.9, 0.9),
)
HERON_BODY = Body(1.3, 60, 220, 10.5, 400)


def test_wing_tail_and_fuselage():
    found = neutral_point(HERON, HERON_BODY)
    assert [s.planform.slope(s.kappa) for s in HERON] == pytest.approx([4.6832, 3.589], abs=5e-5)
    assert found.keeps == pytest.approx([1.005, 0.61645], abs=5e-5)
    assert found.bare_mm == pytest.approx(324.2173, abs=0.05)
    assert found.fuselage_mm == pytest.approx(-1.5686, abs=0.005)
    assert found.x_mm == pytest.approx(322.6486, abs=0.05)
    wing = HERON[0].planform
    assert (found.x_mm - wing.mean_nose_mm) / wing.mean_chord_mm == pytest.approx(0.57823, abs=3e-4)
    bare = [Surface(s.planform, 1.0, 1.0) for s in HERON]
    assert neutral_point(bare).x_mm == pytest.approx(329.302, abs=0.05)


def test_a_foreplane():
    surfaces = (
        Surface(planform_of((40, 0, 0), [Panel(250, 120, 90, 10)]), 0.9),
        Surface(planform_of((490, 0, 50), [Panel(500, 180, 140, 120)]), 0.95),
    )
    found = neutral_point(surfaces)
    assert found.keeps == pytest.approx([1.0395, 0.89897], abs=5e-5)
    assert found.x_mm == pytest.approx(456.7086, abs=0.05)
    bare = [Surface(s.planform, 1.0) for s in surfaces]
    assert neutral_point(bare).x_mm == pytest.approx(452.855, abs=0.05)
    assert neutral_point(surfaces[::-1]).x_mm == pytest.approx(found.x_mm)  # their names say nothing


def test_a_swept_wing_with_a_v_tail():
    wing = Surface(planform_of((220, 25, 30), TWO, 25), 0.95)
    tail = Surface(planform_of((820, 0, 70), [Panel(260, 130, 90, 30)]), 0.9, 0.95, 35)
    found = neutral_point((wing, tail), Body(1.3, 70, 230, 40, 380))
    assert [s.planform.slope(s.kappa) for s in (wing, tail)] == pytest.approx([4.7357, 3.8959], abs=5e-5)
    assert found.keeps == pytest.approx([1.0046, 0.62787], abs=5e-5)
    assert found.bare_mm == pytest.approx(355.5013, abs=0.05)
    assert found.x_mm == pytest.approx(353.4548, abs=0.06)


def test_a_v_tail_counts_with_the_square_of_its_cosine():
    flat = planform_of((0, 0, 0), [Panel(200, 120, 120)])
    tail = Surface(flat, 0.9, 1.0, 35)
    whole = Surface(flat, 0.9).lift
    assert tail.lift / whole == pytest.approx(11.5951 / (3.6 * 4.8), abs=1e-5)
    assert tail.lift_sideways / whole == pytest.approx(5.68495 / (3.6 * 4.8), abs=1e-5)


def moved(surfaces, **changes):
    return (surfaces[0], Surface(**{**vars(surfaces[1]), **changes}))


def test_what_moves_the_neutral_point():
    at = neutral_point(HERON, HERON_BODY).x_mm
    larger = planform_of((800, 0, 30), [Panel(260, 130, 100, 15)])
    farther = planform_of((850, 0, 30), [Panel(220, 130, 100, 15)])
    for change in ({"planform": larger}, {"planform": farther}, {"eta": 0.97}):
        assert neutral_point(moved(HERON, **change), HERON_BODY).x_mm > at
    for body in (Body(1.3, 80, 220, 10.5, 400), Body(1.3, 60, 300, 10.5, 400)):
        assert neutral_point(HERON, body).x_mm < at
    flat = neutral_point(moved(HERON, v_deg=0.0)).x_mm
    assert flat == neutral_point(HERON).x_mm
    none = neutral_point(moved(HERON, v_deg=90.0)).x_mm
    tiny = planform_of((800, 0, 30), [Panel(0.2, 0.1, 0.1)])
    assert none == pytest.approx(HERON[0].planform.centre_mm, abs=0.01)
    assert neutral_point(moved(HERON, planform=tiny)).x_mm == pytest.approx(none, abs=0.01)


def test_the_datum_moves_it_by_as_much_and_nothing_else():
    far = tuple(
        Surface(
            Planform(tuple(Edge(e.y_mm, e.x_mm + 500, e.chord_mm, e.z_mm) for e in s.planform.edges)), s.kappa, s.eta
        )
        for s in HERON
    )
    assert neutral_point(far, HERON_BODY).x_mm == pytest.approx(neutral_point(HERON, HERON_BODY).x_mm + 500)


def test_without_a_surface_there_is_none():
    with pytest.raises(ValueError, match="no surface"):
        neutral_point(())
