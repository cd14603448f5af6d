"""Forecast of mass and centre while part of the airframe is weighed, against worked figures."""

import math

import numpy as np
import pytest

from fletcher.core.balance.forecast import Z95, Centred, Forecast, Line, Weighed, line
from fletcher.core.balance.learning import Cause, Job, likely, own_value, two_sided

HERON = [
    line("left foam", 44, 305, 0.058, {"foam": 0.85}), line("right foam", 44, 305, 0.058, {"foam": 0.85}),
    line("left film", 26, 303, 0.08, {"film": 0.8}), line("right film", 26, 303, 0.08, {"film": 0.8}),
    line("left bars", 14, 280, 0.03, {"bars": 0.7}), line("right bars", 14, 280, 0.03, {"bars": 0.7}),
    line("left glue", 6, 300, 0.3, {"glue": 0.7}), line("right glue", 6, 300, 0.3, {"glue": 0.7}),
    line("left paint", 6, 300, 0.35, {"paint": 0.6}), line("right paint", 6, 300, 0.35, {"paint": 0.6}),
    line("tail foam", 13, 865, 0.08), line("tail film", 8, 865, 0.08, {"film": 0.8}),
    line("tail glue", 3, 850, 0.3, {"glue": 0.7}), line("boom", 12, 650, 0.03), line("pod board", 50, 215, 0.06),
    line("pod glue", 12, 215, 0.3, {"glue": 0.7}), line("pod paint", 8, 215, 0.35, {"paint": 0.6}),
    line("battery", 182, 130, 0.05), line("other", 202, 118, 0.03),
]  # fmt: skip
AT = {one.name: i for i, one in enumerate(HERON)}


def weighed(names, grams, sd=0.3):
    return Weighed(tuple(AT[n] for n in names), grams, sd)


STEPS = (
    weighed(["left foam", "left bars"], 62.4),
    weighed(["left foam", "left bars", "left glue", "left film"], 99.5),
    weighed(["pod board", "pod glue"], 69.0, 0.5),
    weighed(["battery"], 188.0),
    weighed(["right foam", "right bars"], 61.2),
)
ALL = tuple(range(len(HERON)))
WHOLE = (Weighed(ALL, 721, 1.4), Centred(ALL, 222.6, 0.6))
OTHER_HALF = (AT["right foam"], AT["right bars"])


def close(value, wanted, rel=1e-4):
    return value == pytest.approx(wanted, rel=rel)


@pytest.mark.parametrize(
    ("count", "mass", "mass_sd", "centre", "centre_sd", "half", "half_sd"),
    [
        (1, 690.005, 15.51, 219.034, 2.397, 61.656, 1.51), (2, 703.862, 14.065, 221.373, 2.064, 61.692, 1.51),
        (3, 707.686, 12.922, 221.543, 2.063, 61.684, 1.51), (4, 713.68, 9.1796, 220.774, 1.681, 61.684, 1.51),
        (5, 713.228, 9.0668, 220.724, 1.674, 61.219, 0.294),
    ],
)  # fmt: skip
def test_each_weighing_moves_and_narrows(count, mass, mass_sd, centre, centre_sd, half, half_sd):
    found = Forecast(HERON, STEPS[:count])
    assert close(found.mass()[0], mass) and close(found.mass()[1], mass_sd, 5e-4)
    assert close(found.centre()[0], centre) and close(found.centre()[1], centre_sd, 5e-4)
    assert close(found.mass(OTHER_HALF)[0], half) and close(found.mass(OTHER_HALF)[1], half_sd, 5e-3)


def test_before_any_weighing():
    found = Forecast(HERON)
    assert close(found.mass()[0], 682) and close(found.mass()[1], 16.21, 5e-4)
    assert close(found.centre()[0], 218.031) and close(found.centre()[1], 2.497, 5e-4)
    assert close(found.correlation(), 0.06785, 1e-3)


def test_what_it_taught_and_the_band_on_the_page():
    found = Forecast(HERON, STEPS)
    learned = {"bars": 0.1894, "film": 0.7409, "foam": 1.391, "glue": 1.38, "paint": 0}
    assert {c: z for c, (z, _) in found.cause_values().items()} == pytest.approx(learned, abs=5e-4)
    assert found.cause_values()["paint"][1] == pytest.approx(1) and found.cause_values()["foam"][1] < 0.6
    for band, wanted in zip(found.bands(), ((700.81, 715, 731.74), (218.26, 220.96, 223.84)), strict=True):
        assert band == pytest.approx(wanted, abs=0.03 * (wanted[2] - wanted[0]))


def test_the_whole_on_two_supports():
    found = Forecast(HERON, (*STEPS, *WHOLE))
    assert close(found.mass()[0], 720.861) and close(found.mass()[1], 1.387, 5e-4)
    assert close(found.centre()[0], 222.411) and close(found.centre()[1], 0.5676, 5e-4)
    more = found.grams - Forecast(HERON, STEPS).grams
    assert [more[AT[n]] for n in ("pod paint", "left paint", "right paint")] == pytest.approx(
        [2.0, 1.617, 1.617], abs=0.01
    )


@pytest.mark.parametrize(("shared", "low", "typ", "high"), [(0.85, 44.588, 46.922, 49.378)])
def test_one_half_tells_the_other(shared, low, typ, high):
    halves = [line(n, 44, 0, 0.058, {"block": shared}) for n in ("left", "right")]
    before = Forecast(halves)
    sd = before.mass((1,))[1] / 44
    assert 44 * math.exp(-Z95 * sd) == pytest.approx(39.996, abs=1e-3)
    found = Forecast(halves, (Weighed((0,), 47.5, 0.3),))
    grams, sd_g = found.mass((1,))
    assert grams == pytest.approx(typ, abs=1e-3) and sd_g / grams == pytest.approx(0.031016, abs=1e-5)
    assert grams * math.exp(-Z95 * sd_g / grams) == pytest.approx(low, abs=2e-3)
    assert grams * math.exp(Z95 * sd_g / grams) == pytest.approx(high, abs=2e-3)


def test_another_block_of_the_same_foam_and_a_lopsided_band():
    halves = [line(n, 44, 0, 0.058, {"foam": 0.5}) for n in ("left", "right")]
    grams, sd = Forecast(halves, (Weighed((0,), 47.5, 0.3),)).mass((1,))
    assert grams == pytest.approx(45.696, abs=1e-3) and sd / grams == pytest.approx(0.050327, abs=1e-5)
    lop = [Line(n, 44, 40, 50, 0, {"block": 0.85}) for n in ("left", "right")]
    found = Forecast(lop, (Weighed((0,), 47.5, 1e-6),))
    assert found.mass((1,))[0] == pytest.approx(46.9578, abs=1e-3)
    low, _, high = np.percentile(found.draws[:, 1], [5, 50, 95])
    assert (low, high) == pytest.approx((43.9252, 50.2288), abs=0.03 * 6.3)


def test_the_doubtful_line_takes_most_of_a_difference():
    found = Forecast([line("a", 40, 0, 0.05), line("b", 12, 0, 0.35)], (Weighed((0, 1), 57, 0.3),))
    assert found.grams == pytest.approx([40.6328, 16.3533], abs=1e-4)
    shares = [found.mass((i,))[1] / found.grams[i] for i in (0, 1)]
    assert shares == pytest.approx([0.04713, 0.1182], abs=1e-4)


def test_the_order_of_weighings_does_not_matter_and_none_widens():
    forth, back = Forecast(HERON, STEPS), Forecast(HERON, STEPS[::-1])
    assert forth.grams == pytest.approx(back.grams, rel=1e-8)
    for count in range(len(STEPS)):
        before, after = Forecast(HERON, STEPS[:count]), Forecast(HERON, STEPS[: count + 1])
        own = [np.diag(f._to_u @ f.covariance @ f._to_u.T) for f in (before, after)]
        assert np.all(own[1] <= own[0] + 1e-3)  # the law is bent a little: it is laid at another mode


def test_a_weighing_that_agrees_moves_nothing_and_narrows():
    at = (AT["battery"], AT["boom"])
    before = Forecast(HERON)
    after = Forecast(HERON, (Weighed(at, before.mass(at)[0], 0.3),))
    assert after.grams == pytest.approx(before.grams) and after.mass()[1] < before.mass()[1]
    told = before.centre()[1] ** 2 - after.centre()[1] ** 2
    assert before.narrows(at, 0.3) == pytest.approx(told, rel=1e-9)


def test_a_line_split_in_two_equal_halves_changes_nothing():
    whole = Forecast([line("a", 40, 100, 0.1, {"foam": 1.0}), line("b", 20, 300, 0.1)])
    split = Forecast([line("a1", 20, 100, 0.1, {"foam": 1.0}), line("a2", 20, 100, 0.1, {"foam": 1.0}),
                      line("b", 20, 300, 0.1)])  # fmt: skip
    assert whole.mass() == pytest.approx(split.mass()) and whole.centre() == pytest.approx(split.centre())


def test_a_surprise_and_its_likely_causes():
    piece = Forecast([line("wing", 58, 0, 0.052)])
    z = piece.surprise(Weighed((0,), 69.5, 0.3))
    assert z == pytest.approx(3.467, abs=5e-4) and two_sided(z) == pytest.approx(0.000527, abs=1e-6)
    causes = [
        Cause("nothing special", 0.8, 58, 0.052), Cause("surface on it", 0.08, 69, 0.05),
        Cause("denser foam", 0.06, 78, 0.08), Cause("not dry", 0.05, 63, 0.06), Cause("ounces", 0.01, 1644.271, 0.052),
    ]  # fmt: skip
    found = likely(causes, 69.5, 0.3)
    assert [c.says for c, _ in found][:2] == ["surface on it", "denser foam"]
    chances = {c.says: 100 * p for c, p in found}
    assert chances["surface on it"] == pytest.approx(75.12, abs=0.01)
    assert chances["denser foam"] == pytest.approx(12.64, abs=0.01)
    assert chances["not dry"] == pytest.approx(10.44, abs=0.01)
    assert chances["nothing special"] == pytest.approx(1.794, abs=0.001) and chances["ounces"] < 1e-6


def test_own_grams_per_area():
    jobs = [Job(41.2, 54.6, 0.3, 0.56, 0.03), Job(61.0, 74.3, 0.3, 0.59, 0.03)]
    assert [j.value for j in jobs] == pytest.approx([23.929, 22.542], abs=1e-3)
    value, sd, next_sd = own_value(19, 0.15, 0.07, jobs)
    assert value == pytest.approx(22.621, abs=1e-3) and sd == pytest.approx(0.05438, abs=1e-5)
    assert [value * math.exp(k * Z95 * next_sd) for k in (-1, 1)] == pytest.approx([19.552, 26.172], abs=2e-3)
    before = own_value(19, 0.15, 0.07, [])
    assert [19 * math.exp(k * Z95 * before[2]) for k in (-1, 1)] == pytest.approx([14.471, 24.946], abs=1e-3)


@pytest.mark.parametrize("bad", [{"low": 0}, {"low": 50}, {"high": 30}, {"causes": {"a": 0.7, "b": 0.6}}])
def test_an_impossible_line_is_refused(bad):
    with pytest.raises(ValueError, match="wing"):
        Line(**{"name": "wing", "typ": 44, "low": 40, "high": 50, "x_mm": 0, **bad})
