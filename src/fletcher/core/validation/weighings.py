"""Whether weighings can be so: supports apart, readings that weigh something, stages in order, nothing lost unsaid."""

from __future__ import annotations

import math
from collections.abc import Iterator

from fletcher.core.common.quantities import G, in_g, in_mm
from fletcher.core.document.airframe import Airframe
from fletcher.core.document.problems import Problem
from fletcher.core.document.weighings import STAGES, OnSupports, Weighing

LEAST_APART_MM = 20.0
"""Two supports are at least so far apart."""
SURELY = 3.0
"""Standard deviations by which a later weighing must be lighter before something is said to have gone."""
_SHARE, _REPEAT = 0.002, 0.5


def reading_sd(grams: float, step: float = 1.0, repeat: float | None = None, share: float = _SHARE) -> float:
    """Standard deviation of one reading, g: √(step²/12 + (share·m)² + repeat²). [J] A kitchen scale errs by 0.2 % (0.1
    to 0.5) and repeats within half a step (0.3 to 1)."""
    return math.sqrt(step**2 / 12 + (share * grams) ** 2 + (_REPEAT * step if repeat is None else repeat) ** 2)


def grams_of(w: Weighing) -> float:
    """What lay on the scale, g; cradles taken off."""
    r = w.reading
    return r.grams if r.kind == "scale" else net_of(r)[0] + net_of(r)[1]


def sd_of(w: Weighing) -> float:
    """Standard deviation of that, g."""
    r = w.reading
    if r.kind == "scale":
        return reading_sd(r.grams, w.step_g)
    return math.hypot(*(reading_sd(g, w.step_g) for g in net_of(r)))


def net_of(r: OnSupports) -> tuple[float, float]:
    """Both readings with their cradles taken off, g."""
    return r.first_g - r.first_cradle_g, r.second_g - r.second_cradle_g


def weighings_fit(airframe: Airframe) -> Iterator[Problem]:
    """Problems of what was weighed."""
    for i, w in enumerate(airframe.weighings):
        path = f"weighings[{i}]"
        problems = list(_supports(w, f"{path}.reading"))
        yield from problems
        if not problems:
            yield from _in_order(airframe.weighings[:i], w, path)


def _supports(w: Weighing, path: str) -> Iterator[Problem]:
    r = w.reading
    if r.kind == "scale":
        return
    for name, net, cradle in zip(
        ("first_g", "second_g"), net_of(r), (r.first_cradle_g, r.second_cradle_g), strict=True
    ):
        if net < 0:
            yield Problem(path=f"{path}.{name}", message=f"must be at least its cradle, {in_g(cradle, G)}",
                          value=f"{net + cradle:g}")  # fmt: skip
    if sum(net_of(r)) <= 0:
        yield Problem(path=f"{path}.first_g", message="must be more than its cradle: nothing lies on either support")
    if abs(r.second_mm - r.first_mm) < LEAST_APART_MM:
        message = f"must lie at least {in_mm(LEAST_APART_MM, G)} from the first support, {in_mm(r.first_mm, G)}"
        yield Problem(path=f"{path}.second_mm", message=message, value=f"{r.second_mm:g}")


def _in_order(before: tuple[Weighing, ...], w: Weighing, path: str) -> Iterator[Problem]:
    mine = set(w.lines)
    for old in before:
        if not set(old.lines) <= mine:
            continue
        if STAGES.index(w.stage) < STAGES.index(old.stage):
            message = f"must not come before “{old.stage}”, at which the same was weighed already"
            yield Problem(path=f"{path}.stage", message=message, value=w.stage)
            return
        less = grams_of(old) - grams_of(w)
        if not w.taken_off and less > SURELY * math.hypot(sd_of(old), sd_of(w)):
            message = (
                f"must be at least {in_g(grams_of(old), G)}, what a part of it weighed before; or enter what was taken "
                "off"
            )
            yield Problem(path=f"{path}.reading.{_field(w)}", message=message, value=f"{grams_of(w):g}")
            return


def _field(w: Weighing) -> str:
    return "grams" if w.reading.kind == "scale" else "first_g"
