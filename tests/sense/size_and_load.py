"""Group C: size and load: names, mirrors and scales change nothing, and no figure is printed that means nothing."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any

import numpy as np

from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.cases import PullUpCase, ThreePointCase
from fletcher.core.document.defaults import SUITS
from fletcher.core.estimate.analyse import under_all
from fletcher.core.estimate.prepare import prepared_for
from fletcher.core.estimate.report import estimate
from fletcher.core.estimate.verdicts import verdict_of
from fletcher.core.materials.uncertainty import samples
from fletcher.core.studies.constructions import CONSTRUCTIONS
from tests.sense.world import Rng, Violation, answers, document, possible, sized, with_cases


def c1_the_load_in_newtons(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """C1: the breaking load in newtons does not depend on how the load was named."""
    airframe, part = sized(rng, key)
    bench = with_cases(airframe, part, ("three_point",)).cases[0]
    assert isinstance(bench, ThreePointCase)
    heavy = bench.model_copy(update={"id": "heavy", "weight_g": min(3.3 * bench.weight_g, 50_000)})
    part = part.model_copy(update={"cases": (bench, heavy)})
    if not possible(part):
        return
    one, other = answers(airframe, part)
    loads = [x.breaks_at * c.weight_g for x, c in ((one, bench), (other, heavy))]
    if one.breaks_at < 1e6 and not math.isclose(*loads, rel_tol=0.005):
        yield Violation(f"C1 {key}", max(loads) / min(loads), f"{one}\n      {other}", document(airframe, part))
    if part.kind == "wing":
        yield from _speed_or_mass(airframe, part, key)


def _speed_or_mass(airframe: Airframe, part: Part, key: str) -> Iterator[Violation]:
    """A faster pull-up at a larger mass, so that the load factor stays: the lift at which it breaks is nearly the same
    (what relieves it, its own weight, stays too)."""
    case = PullUpCase(id="p", name="p", speed_m_s=airframe.top_speed_m_s)
    faster = case.model_copy(update={"speed_m_s": 1.25 * case.speed_m_s})
    heavier = airframe.model_copy(update={"all_up_mass_g": 1.25**2 * airframe.all_up_mass_g})
    found = []
    for a, c in ((airframe, case), (heavier, faster)):
        (x,) = answers(a, part.model_copy(update={"cases": (c,)}))
        if x.breaks_at > 1e6:
            return
        moment = float(np.abs(x.analysis.loading.moment[0]).max())
        found.append(x.breaks_at * moment)
    if not math.isclose(*found, rel_tol=0.15):
        yield Violation(f"C1 {key} speed and mass", max(found) / min(found), f"{found}", document(airframe, part))


def c2_upside_down(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """C2: a part with everything on the other face, bent the other way, breaks at the same load."""
    airframe, part = sized(rng, key)
    if getattr(part.section, "camber_percent", 0) or part.section.shape in ("points", "folded"):
        return
    up, down = (c for c in with_cases(airframe, part, ("handling", "handling")).cases)
    up, down = up.model_copy(update={"way": "up"}), down.model_copy(update={"way": "down"})
    turned = part.model_copy(update={"layers": tuple(_flipped(la) for la in part.layers)})
    if not possible(turned):
        return
    (one,) = answers(airframe, part.model_copy(update={"cases": (up,)}))
    (other,) = answers(airframe, turned.model_copy(update={"cases": (down,)}))
    if "bent by more" in one.mode or "bent by more" in other.mode:
        return  # by its slope, to which its own weight, along it, adds otherwise than to the moment at its root
    # its own weight hangs down both times: the moment that each place carries is what must be the same
    for k in {x.analysis.judged.final.k for x in (one, other)}:
        held = [float(np.abs(x.analysis.loading.moment[0, k]) * x.analysis.judged.along[0, k]) for x in (one, other)]
        if one.breaks_at < 1e6 and not math.isclose(*held, rel_tol=0.02):
            yield Violation(f"C2 {key} upside down", max(held) / min(held), f"{one}\n      {other}",
                            document(airframe, turned))  # fmt: skip


_OTHER = {"upper": "lower", "lower": "upper"}


def _flipped(layer: Any) -> Any:
    changes: dict[str, object] = {}
    for name in ("face", "place"):
        if getattr(layer, name, None) in _OTHER:
            changes[name] = _OTHER[getattr(layer, name)]
    if layer.type == "wall" and layer.face == "level":
        changes |= {"root_percent": 100 - layer.root_percent, "tip_percent": 100 - layer.tip_percent}
    return layer.model_copy(update=changes)


def c3_no_figure_means_nothing(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """C3: no figure is infinite, NaN or negative, nor larger than 100 without being said to be no limit."""
    airframe, part = sized(rng, key)
    part = with_cases(airframe, part, tuple(SUITS[part.kind]))
    if not possible(part):
        return
    with samples(8):
        p = prepared_for(part, airframe.setting)
        for a in under_all(p, airframe, part, list(part.cases)):
            v = verdict_of(a)
            bands = [v.breaks_at, v.margin, v.first_break, *(c.comes_at for c in v.change_modes)]
            for b in bands:
                if not all(math.isfinite(x) and x >= 0 for x in (b.low, b.typ, b.high)) or not b.low <= b.typ <= b.high:
                    yield Violation(f"C3 {key} {a.case.type}", 100.0, f"{b}", document(airframe, part))
            if v.margin.typ > 100 and (v.limited or "not limited" not in v.headline):
                yield Violation(f"C3 {key} {a.case.type}", v.margin.typ, v.headline, document(airframe, part))
            if v.margin.typ <= 100 and not v.limited:
                yield Violation(f"C3 {key} {a.case.type}", 50.0, v.headline, document(airframe, part))


def c4_what_cannot_fly_is_told_first(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """C4: an aircraft that cannot carry its own weight, or bends too far, is told so before anything else."""
    airframe, part = sized(rng, key)
    if part.kind != "wing":
        return
    heavy = airframe.model_copy(update={"all_up_mass_g": min(12 * airframe.all_up_mass_g, 50_000)})
    case = PullUpCase(id="p", name="p", speed_m_s=0.5 * airframe.top_speed_m_s)
    part = part.model_copy(update={"cases": (case,)})
    if not possible(part):
        return
    for aircraft in (airframe, heavy):
        with samples(0):
            found = estimate(aircraft.model_copy(update={"parts": (part,)}), part.id)
        n = found.measure.value
        if (n < 1) != found.verdict.headline.startswith("Cannot fly") or (n < 1 and found.enough != "no"):
            yield Violation(
                f"C4 {key}", 10.0, f"load factor {n:.3g}: {found.verdict.headline}", document(aircraft, part)
            )
        if n >= 1 and found.deflection_mm.typ > part.span_mm / 3 and "Bends too far" not in found.verdict.headline:
            yield Violation(
                f"C4 {key}", 5.0, f"{found.deflection_mm.typ} mm: {found.verdict.headline}", document(aircraft, part)
            )


LAWS = (c1_the_load_in_newtons, c2_upside_down, c3_no_figure_means_nothing, c4_what_cannot_fly_is_told_first)
WAYS = tuple(CONSTRUCTIONS)
KINDS = ("",)
