"""The words of the verdict: its grade at the low end, typical value and high end; what is told first, and why."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from fletcher.core.document.airframe import Airframe
from fletcher.core.estimate.analyse import Analysis, analyse
from fletcher.core.estimate.verdicts import TOO_FAR, neutral_axis, verdict_of
from fletcher.core.strength.judgement import Event
from tests.core.joints.test_joints import DEEP, LONG, plank

ROD = {"type": "bar", "id": "b", "stock": "carbon_rod_3", "place": "pair", "cover_mm": 0.5}


def under(airframe: Airframe) -> Analysis:
    part = airframe.parts[0]
    return analyse(airframe, part, part.cases[0])


def hung(weight_g: float, *layers: dict, foam: str = "xps_30") -> Analysis:
    return under(plank(*layers, foam=foam, weight_g=weight_g))


def breaking(a: Analysis, at: float, spread: float = 1.3, **events) -> Analysis:
    """The analysis with its break load at a multiple, two thirds of the samples within the spread; and what else comes
    by the way."""
    j = a.judged
    n = len(j.final.at)
    samples = at * np.concatenate([[1.0], np.exp(np.linspace(-1, 1, n - 1) * np.log(spread) / 0.9)])
    final = replace(j.final, at=samples)
    own = replace(a)
    first = events.get("first", final)
    own.__dict__["judged"] = replace(j, first=first, final=final, members=(first, final))
    own.judged.__dict__["changes"] = events.get("changes", ())
    own.judged.__dict__["softened"] = None
    return own


@pytest.fixture(scope="module")
def bare() -> Analysis:
    return hung(60)


@pytest.mark.parametrize(
    ("at", "enough", "opening"),
    [(1.5 * 1.4, "sure", "Enough"), (1.5 * 1.05, "likely", "Likely enough"), (1.5 * 0.95, "doubtful", "Doubtful"),
     (1.5 * 0.7, "no", "Not enough")],
)  # fmt: skip
def test_the_grade_is_that_of_the_low_end_the_typical_value_and_the_high_end(bare, at, enough, opening):
    v = verdict_of(breaking(bare, at))
    assert v.breaks_at.low == pytest.approx(at / 1.3, rel=0.02) and v.breaks_at.high == pytest.approx(
        at * 1.3, rel=0.02
    )
    assert (v.margin.low, v.margin.typ, v.margin.high) == pytest.approx(
        (v.breaks_at.low / 1.5, at / 1.5, v.breaks_at.high / 1.5)
    )
    assert v.enough == enough and v.headline.split(" — ")[-2].endswith(opening)
    assert f"breaks at {at:.2g} × this load, needs 1.5" in v.headline or v.folds


def test_what_is_limited_by_nothing_says_so_and_shows_no_figure(bare):
    for at, limited in ((149.0, True), (151.0, False)):
        v = verdict_of(breaking(bare, at))
        assert v.limited is limited
        assert ("not limited by anything computed here" in v.headline) is not limited
        assert ("×" in v.headline) is limited
    assert "flutter" in v.headline and "fatigue" in v.headline


def test_a_member_that_breaks_below_the_load_comes_before_what_the_rest_carries(bare):
    j = bare.judged
    early = Event(replace(j.final.mode, kind="bar_buckling"), j.final.k, np.full_like(j.final.at, 0.8), True, False)
    v = verdict_of(breaking(bare, 4.0, first=early))
    assert v.first_break.typ == pytest.approx(0.8) and v.enough == "no" and v.first_mode is not None
    assert v.headline.startswith("Not enough — ") and "at 0.8 × this load; the rest carries up to 4 ×" in v.headline
    later = replace(early, at=np.full_like(j.final.at, 1.4))
    v = verdict_of(breaking(bare, 4.0, first=later))
    assert v.enough == "sure" and v.first_mode is not None and "needs 1.5" in v.headline
    assert verdict_of(breaking(bare, 4.0)).first_mode is None


def test_what_stays_below_the_load_is_told_with_what_it_does_and_what_goes_back_is_not(bare):
    j = bare.judged
    for stays in (True, False):
        change = Event(replace(j.final.mode, kind="foam_crush"), j.final.k, np.full_like(j.final.at, 0.6), False, stays)
        v = verdict_of(breaking(bare, 4.0, changes=(change,)))
        (told,) = v.change_modes
        assert told.stays is stays and v.changes_at is not None and v.changes_at.typ == pytest.approx(0.6)
        assert (v.enough == "no") is stays
        assert ("already at 0.6 × this load" in v.headline) is stays
        assert told.costs == "it costs next to nothing"
    beyond = replace(change, at=np.full_like(j.final.at, 1.2), stays=True)
    v = verdict_of(breaking(bare, 4.0, changes=(beyond,)))
    assert v.enough == "sure" and v.change_modes[0].costs == ""


def test_a_bend_of_more_than_a_third_of_the_span_is_told_before_anything_else(bare):
    bend = float(np.abs(bare.deflection[0]).max())
    for share in (0.9 * TOO_FAR, 1.1 * TOO_FAR):
        own = breaking(bare, 4.0)
        own.__dict__["deflection"] = bare.deflection * (share * LONG / bend)
        told = verdict_of(own).headline
        assert told.startswith(f"Bends too far — by {100 * share:.0f} % of its span. Enough") is (share > TOO_FAR)
    assert pytest.approx(1 / 3) == TOO_FAR


def test_a_fold_is_called_a_fold(bare):
    j = bare.judged
    own = breaking(bare, 2.4)
    fold = replace(own.judged.final, mode=replace(j.final.mode, kind="folds"))
    own.__dict__["judged"] = replace(own.judged, first=fold, final=fold)
    own.judged.__dict__["changes"] = ()
    v = verdict_of(own)
    assert v.folds and v.headline == "Enough — folds at 2.4 × this load before anything breaks, needs 1.5"


def test_stiff_things_on_one_side_are_named_as_what_strains_the_other():
    """Two rods above and none below draw the neutral axis up; a pair leaves it in the middle."""
    for place, side, other in (("upper", "upper", "lower"), ("lower", "lower", "upper")):
        a = hung(60, {**ROD, "place": place}, {**ROD, "id": "c", "place": place, "root_percent": 60, "tip_percent": 60})
        off, half = neutral_axis(a, 0)
        assert half == DEEP / 2 and (off > 0.05 * half) is (side == "upper")
        foam = replace(a.judged.final, mode=next(m for m in a.modes if m.kind == "foam_tension"))
        own = replace(a)
        own.__dict__["judged"] = replace(a.judged, first=foam, final=foam)
        own.judged.__dict__["changes"] = ()
        because = verdict_of(own).break_mode.because
        assert because == (
            f"Stiff parts near the {side} face draw the neutral axis towards it: the {other} face is strained more."
        )
    pair = hung(60, ROD)
    assert abs(neutral_axis(pair, 0)[0]) < 0.05 * DEEP / 2
    bond = replace(pair.judged.final, mode=next(m for m in pair.modes if m.kind == "bar_bond"))
    own = replace(pair)
    own.__dict__["judged"] = replace(pair.judged, first=bond, final=bond)
    own.judged.__dict__["changes"] = ()
    assert verdict_of(own).break_mode.because == "Its force passes into the foam there."
