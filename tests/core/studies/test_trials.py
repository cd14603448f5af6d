"""Trials by typical values, and the studies that are made of them: worth, exactness, limits."""

from __future__ import annotations

import pytest

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe, BarLayer, StripLayer
from fletcher.core.estimate.report import estimate
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import SAMPLES, samples
from fletcher.core.studies.line_worth import worth
from fletcher.core.studies.load_limits import reach
from fletcher.core.studies.tolerances import COSTS, dimensions, exactness
from fletcher.core.studies.what_if import trial, with_line, without
from tests.core.factories import plank

WARDEN, LARK, CHASER, _ = demo_airframes()
WING = WARDEN.parts[0]


def with_lines(*extra):
    return WING.model_copy(update={"layers": (*WING.layers, *extra)})


def test_a_trial_is_the_typical_part_of_the_estimate():
    for airframe in (WARDEN, LARK, CHASER):
        for part in airframe.parts:
            told, tried = estimate(airframe, part.id), trial(airframe, part)
            assert tried.mass_g == pytest.approx(told.mass_g.typ)
            assert tried.governs.margin == pytest.approx(told.margin.typ)
            first = tried.of(told.case_id)
            assert first.bend_mm == pytest.approx(told.deflection_mm.typ)
            assert (first.sentence, first.at_mm) == (told.first.sentence, told.first.at_mm)


@pytest.mark.parametrize("count", [2, 40, 100])
def test_fewer_samples_change_bands_and_never_the_typical_values(count):
    whole = estimate(WARDEN, "wing", "pull-up")
    with samples(count):
        few = estimate(WARDEN, "wing", "pull-up")
    assert few.breaks_at.typ == pytest.approx(whole.breaks_at.typ, rel=1e-9)
    assert few.deflection_mm.typ == pytest.approx(whole.deflection_mm.typ, rel=1e-9)
    if count >= 40:
        assert few.breaks_at.low == pytest.approx(whole.breaks_at.low, rel=0.25)
        assert [s.manner for s in few.snaps] == [s.manner for s in whole.snaps]


def test_more_samples_than_there_are_cannot_be_asked_for():
    with pytest.raises(ValueError, match="0 to 200"), samples(SAMPLES + 1):
        pass


def test_what_a_line_is_worth_is_what_is_lost_without_it():
    found = {w.line_id: w for w in worth(WARDEN, WING, "pull-up")}
    now, bare = trial(WARDEN, WING), trial(WARDEN, without(WING, "spar"))
    spar = found["spar"].without
    assert spar is not None
    assert spar.grams == pytest.approx(bare.mass_g - now.mass_g)
    assert spar.margin == pytest.approx(bare.governs.margin)
    assert spar.bend_ratio == pytest.approx(bare.of("pull-up").bend_mm / now.of("pull-up").bend_mm)
    assert spar.bend_ratio > 5 and spar.margin_ratio < 0.6
    assert found["spar"].remark is None
    for change in (c for w in found.values() for c in w.lighter):
        assert change.grams < 0 and change.layer is not None


def demanding(part):
    """The part with twice the safety factor in the air, so that it has little to spare."""
    cases = (part.cases[0].model_copy(update={"safety_factor": 3.0}), *part.cases[1:])
    return part.model_copy(update={"cases": cases})


def test_just_enough_leaves_every_case_just_what_is_asked():
    part = demanding(WING)
    found = [c for w in worth(WARDEN, part, "pull-up") for c in w.lighter if c.says.startswith("just")]
    assert found
    for change in found:
        assert change.margin >= 1
        assert change.grams < 0
    long = next(c for c in found if "long" in c.says)
    # a little shorter is no longer enough
    shorter = trial(WARDEN, with_line(part, long.layer.id, end_mm=0.93 * long.layer.end_mm))
    assert shorter.governs.margin < 1


def test_what_is_not_enough_is_not_offered_as_just_enough():
    weak = with_line(demanding(WING), "spar", stock="carbon_rod_1")
    assert trial(WARDEN, weak).governs.margin < 1
    assert not [c for w in worth(WARDEN, weak, "pull-up") for c in w.lighter if c.says.startswith("just")]


def test_what_the_theory_does_not_hold_for_is_told_at_once():
    soft = without(CHASER.parts[0], "cloth")
    bare = without(soft, "caps")
    told = estimate(CHASER.model_copy(update={"parts": (bare,)}), "wing")
    assert any("The theory holds up to" in b for b in told.beyond)
    assert set(told.beyond) <= set(told.warnings)
    fast = CHASER.model_copy(update={"parts": (soft,), "top_speed_m_s": 60})
    assert any("twist away" in b for b in estimate(fast, "wing").beyond)
    assert estimate(WARDEN, "wing").beyond == []


def test_a_bar_in_the_middle_is_said_to_lie_near_the_neutral_line():
    middle = BarLayer(id="middle", stock="carbon_rod_2", place="middle", root_percent=55, tip_percent=55)
    found = {w.line_id: w for w in worth(WARDEN, with_lines(middle), "pull-up")}
    assert "neutral axis" in (found["middle"].remark or "")


def test_a_short_bar_that_ends_in_foam_is_said_to_be_too_short():
    short = BarLayer(
        id="short", stock="carbon_rod_3", place="upper", start_mm=220, end_mm=270, joined_at_root=False,
        root_percent=60, tip_percent=60,
    )  # fmt: skip
    found = {w.line_id: w for w in worth(WARDEN, with_lines(short), "pull-up")}
    assert "Too short" in (found["short"].remark or "")


def test_a_tape_on_the_face_that_is_never_pulled_is_told_so():
    tape = StripLayer(
        id="above", skin="office_tape_bopp", face="upper", width_mm=15, root_percent=70, tip_percent=70, start_mm=400
    )
    found = {w.line_id: w for w in worth(WARDEN, with_lines(tape), "pull-up")}
    assert "never in tension" in (found["above"].remark or "")


def test_off_by_what_is_told_costs_a_twentieth_and_off_by_less_does_not():
    found = exactness(WARDEN, WING, "pull-up")
    now = trial(WARDEN, WING)
    by = {(d.line.id, d.name): d for d in dimensions(WING)}
    checked = 0
    for t in found:
        if t.off_mm is None:
            continue
        dim = by[t.line_id, t.dimension]
        sign = 1 if t.way == dim.ways[0] else -1

        def lost(mm, dim=dim):
            other = trial(WARDEN, with_line(WING, dim.line.id, **dim.moved(WING, mm)))
            a, b = now.of("pull-up"), other.of("pull-up")
            twist = (b.twist_deg - a.twist_deg) / max(a.twist_deg, 1.0)
            return max(1 - other.governs.margin / now.governs.margin, b.bend_mm / a.bend_mm - 1, twist)

        assert lost(sign * t.off_mm) >= COSTS * 0.999
        assert lost(sign * t.off_mm * 0.5) < COSTS
        checked += 1
    assert checked >= 3
    offs = [t.off_mm for t in found if t.off_mm is not None]
    assert offs == sorted(offs)


def test_depth_of_a_spar_matters_more_than_its_length():
    found = {(t.line_id, t.dimension): t.off_mm for t in exactness(WARDEN, WING, "pull-up")}
    assert found["spar", "cover"] < found["spar", "end"]


def test_at_its_limit_a_part_holds_just_what_is_asked():
    told = reach(WARDEN, WING)
    by = {limit.name: limit for limit in told.limits}
    speed = by["Speed in load cases"]
    assert speed.most is not None and speed.most.low < speed.most.typ < speed.most.high
    k = speed.most.typ / speed.now
    quicker = tuple(
        c.model_copy(update={"speed_m_s": k * c.speed_m_s}) if hasattr(c, "speed_m_s") else c for c in WING.cases
    )
    assert trial(WARDEN, WING.model_copy(update={"cases": quicker})).governs.margin == pytest.approx(1, abs=0.01)
    hung = by["Bench: mid-span weight: hung"]
    case = WING.cases[1].model_copy(update={"weight_g": hung.most.typ})
    bench = trial(WARDEN, WING.model_copy(update={"cases": (case,)}))
    assert bench.governs.margin == pytest.approx(1, abs=0.01)


def test_a_heavier_airframe_flies_as_before_until_its_limit():
    mass = next(limit for limit in reach(WARDEN, WING).limits if limit.name == "All-up mass")
    k = mass.most.typ / mass.now
    case = WING.cases[0].model_copy(update={"speed_m_s": WING.cases[0].speed_m_s * k**0.5})
    heavy = WARDEN.model_copy(update={"all_up_mass_g": mass.most.typ})
    at_limit = trial(heavy, WING.model_copy(update={"cases": (case, WING.cases[1])}))
    assert at_limit.governs.margin == pytest.approx(1, abs=0.01)


def test_what_becomes_necessary_brings_what_is_told():
    for need in reach(WARDEN, WING).needs:
        assert need.margin_now == pytest.approx(trial(WARDEN, WING).governs.margin)
        if need.margin_then is not None:
            assert need.grams > 0
    second = next(n for n in reach(WARDEN, WING).needs if n.what == "Second spar")
    assert second.margin_then > second.margin_now


def test_a_bare_plank_has_only_the_limit_of_its_bench_test():
    part = plank(reference().foams["xps_30"])
    told = reach(Airframe(name="x", all_up_mass_g=900, parts=(part,)), part)
    assert [limit.name for limit in told.limits] == ["bench: hung"]


def test_an_answer_does_not_hang_on_what_was_computed_before():
    """What a part carries without a line is kept while that line is changed; it is the same as computed anew."""
    from fletcher.core.demo.world import demo_airframes
    from fletcher.core.estimate import analyse as module

    airframe = next(a for a in demo_airframes() if a.name == "Mud Lark")
    part = airframe.parts[0]
    spar = part.layers[1].model_copy(update={"root_percent": 27.0})
    changed = part.model_copy(update={"layers": (part.layers[0], spar, part.layers[2])})
    stiffer = part.model_copy(update={"layers": part.layers[:2]})

    def told(parts):
        module._RESTS.clear()
        return [c.breaks_at for p in parts for c in trial(airframe, p).cases]

    alone = [v for p in (part, changed, stiffer) for v in told([p])]
    assert told([part, changed, stiffer]) == alone
    assert len(module._RESTS) > 0
