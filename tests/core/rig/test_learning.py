"""Learning from tests against worked cases, each found in two independent ways; order and removal leave no trace."""

from __future__ import annotations

import math

import numpy as np
import pytest

from fletcher.core.rig.learning import Seen, learn

E = (9.0, 14.0, 20.0)


def two_piece(low: float, typ: float, high: float, column: int = 0):
    below, above = math.log(typ / low) / 1.645, math.log(high / typ) / 1.645
    return lambda z: math.log(typ) + np.where(z[:, column] < 0, below, above) * z[:, column]


def read(model, value: float, spread: float, **more) -> Seen:
    return Seen(model, math.log(value), spread, sure=True, **more)


def band(found, model) -> tuple[float, ...]:
    return tuple(math.exp(v) for v in found.quantiles(model(found.points)))


def test_one_reading_of_a_log_normal_as_a1a():
    model = lambda z: math.log(14) + 0.22 * z[:, 0]  # noqa: E731
    found = learn(1, [read(model, 11.2, 0.10)])
    assert band(found, model) == pytest.approx((10.0180, 11.6362, 13.5159), rel=2e-4)


def test_what_a_kind_shares_is_no_noise_as_a1b_and_a1c():
    share = math.sqrt(0.005)
    model = lambda z: math.log(14) + 0.22 * z[:, 0]  # noqa: E731
    seen = lambda z: model(z) + share * z[:, 1]  # noqa: E731
    values = (11.2, 12.0, 10.9)
    kept = learn(2, [read(seen, v, share) for v in values])
    assert band(kept, model) == pytest.approx((10.2705, 11.6486, 13.2116), rel=3e-3)
    wrong = learn(1, [read(model, v, 0.10) for v in values])
    assert math.sqrt(wrong.covariance[0, 0]) * 0.22 == pytest.approx(0.05584, rel=2e-3)


@pytest.mark.parametrize(
    ("prior", "seen", "spread", "told"),
    [
        (E, 11.2, 0.10, (9.8662, 11.5140, 13.4766)),
        (E, 14.0, 0.10, (12.0527, 14.1338, 16.3173)),
        (E, 17.0, 0.10, (14.2325, 16.4444, 19.0839)),
        ((0.25, 0.45, 0.65), 0.38, 0.13, (0.31813, 0.39117, 0.48254)),
        ((0.25, 0.45, 0.65), 0.45, 0.13, (0.37282, 0.46032, 0.54644)),
    ],
)
def test_a_range_of_two_pieces_as_a2(prior, seen, spread, told):
    model = two_piece(*prior)
    found = learn(1, [read(model, seen, spread)])
    assert band(found, model) == pytest.approx(told, rel=3e-4)


def test_tape_on_foam_that_is_not_known_as_a4():
    """Plank 120 × 20, span 480, film at ±10.015: EI = 80 000 E + 24 072.05 K."""
    ln_e = lambda z: math.log(14) + 0.24 * z[:, 0]  # noqa: E731
    ln_k = lambda z: math.log(69) + 0.25 * z[:, 1]  # noqa: E731

    def bend(z, e=ln_e):
        return math.log(480**3 / 48) - np.log(80_000 * np.exp(e(z)) + 24_072.05 * np.exp(ln_k(z)))

    assert math.exp(bend(np.zeros((1, 2)))[0]) == pytest.approx(0.82849, abs=1e-5)
    found = learn(2, [read(bend, 0.96, 0.10)])
    assert band(found, ln_k) == pytest.approx((44.761, 60.226, 77.711), rel=1e-3)
    corr = found.covariance[0, 1] / math.sqrt(found.covariance[0, 0] * found.covariance[1, 1])
    assert (found.mean[1], found.mean[0], corr) == pytest.approx((-0.5749, -0.3712, -0.5376), abs=2e-3)
    known = lambda z: math.log(11.6) + 0.06 * z[:, 0]  # noqa: E731
    after = learn(2, [read(lambda z: bend(z, known), 0.96, 0.10)])
    assert band(after, ln_k) == pytest.approx((49.918, 63.090, 78.508), rel=1e-3)


def test_broken_between_two_hung_weights_as_a6e():
    model = lambda z: 0.30 * z[:, 0]  # noqa: E731
    for low, high, mean, sd in ((0.80, 0.95, -0.11289, 0.12630), (0.60, 1.20, -0.09442, 0.19391)):
        found = learn(1, [Seen(model, math.log(low), 0.13, "between", math.log(high), sure=True)])
        assert 0.30 * found.mean[0] == pytest.approx(mean, abs=2e-4)
        assert 0.30 * math.sqrt(found.covariance[0, 0]) == pytest.approx(sd, abs=2e-4)


def test_the_mode_that_broke_bounds_the_rest_as_a6f():
    foam = lambda z: 0.30 * z[:, 0]  # noqa: E731
    glue = lambda z: math.log(1.1) + 0.45 * z[:, 1]  # noqa: E731
    at = math.log(0.9)
    found = learn(2, [Seen(foam, at, 0.13, sure=True), Seen(glue, at, 0.13, "held", sure=True)])
    sd = np.sqrt(np.diag(found.covariance))
    assert (0.30 * found.mean[0], 0.30 * sd[0]) == pytest.approx((-0.08870, 0.11928), abs=5e-4)
    assert (0.45 * found.mean[1], 0.45 * sd[1]) == pytest.approx((0.23632, 0.32075), abs=5e-4)


def test_one_slip_among_five_loses_its_pull_as_a7b():
    model = lambda z: 0.24 * z[:, 0]  # noqa: E731
    tests = [Seen(model, v, 0.10) for v in (-0.15, -0.22, -0.11, -0.19, 0.55)]
    found = learn(1, tests)
    assert 0.24 * found.mean[0] == pytest.approx(-0.16050, abs=2e-4)
    assert 0.24 * math.sqrt(found.covariance[0, 0]) == pytest.approx(0.04906, abs=2e-4)
    assert found.slips == pytest.approx((0.0025, 0.0032, 0.0030, 0.0027, 1.0), abs=2e-4)


def test_two_that_disagree_widen_the_band_as_a7c():
    model = lambda z: 0.24 * z[:, 0]  # noqa: E731
    found = learn(1, [Seen(model, -0.20, 0.10), Seen(model, 0.45, 0.10)])
    assert found.slips == pytest.approx((0.2338, 0.7642), abs=1e-3)
    assert (0.24 * found.mean[0], 0.24 * math.sqrt(found.covariance[0, 0])) == pytest.approx(
        (-0.0409, 0.2505), abs=1e-3
    )


def many(order: int = 1):
    """Eight unknowns, twelve tests of sums of them."""
    rng = np.random.default_rng(4)
    rows = rng.normal(size=(12, 8)) * 0.2
    truth = rng.normal(size=8)
    made = [Seen(lambda z, r=r: z @ r, float(r @ truth + 0.05 * rng.normal()), 0.1, sure=True) for r in rows]
    return rows, [t.value for t in made], made[::order]


def test_many_unknowns_are_what_linear_algebra_says():
    rows, values, tests = many()
    exact = np.linalg.inv(np.eye(8) + rows.T @ rows / 0.01)
    mean = exact @ rows.T @ np.array(values) / 0.01
    found = learn(8, tests)
    assert found.effective > 500
    assert found.mean == pytest.approx(mean, abs=0.05)
    assert np.sqrt(np.diag(found.covariance)) == pytest.approx(np.sqrt(np.diag(exact)), rel=0.06)
    again = learn(8, tests)
    assert np.array_equal(again.mean, found.mean) and np.array_equal(again.weights, found.weights)


def test_a_kink_of_a_range_does_not_lead_the_points_astray():
    """Three unknowns of two pieces, each read by itself: as the closed form of one."""
    models = [two_piece(*E, column=n) for n in range(3)]
    found = learn(3, [read(m, 11.2, 0.10) for m in models])
    for m in models:
        assert band(found, m) == pytest.approx((9.8662, 11.5140, 13.4766), rel=6e-3)


def test_a_bound_below_all_that_is_likely_tells_nothing():
    model = lambda z: 0.35 * z[:, 0]  # noqa: E731
    found = learn(1, [Seen(model, math.log(0.5), 0.30, "held", sure=True)])
    assert 0.35 * found.mean[0] == pytest.approx(0.03666, abs=2e-4)
    assert 0.35 * math.sqrt(found.covariance[0, 0]) == pytest.approx(0.32635, abs=2e-4)
