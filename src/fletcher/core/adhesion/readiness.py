r"""When a glued joint is ready: minutes after it was closed, at the warmth that it cures in.

Times of a row are those at 20 °C; at T they are r^{(20−T)/10} times as long, and below the row's least temperature it
does not cure. Curves are read linear in ln t between their points and in proportion to t before the first. Between
steps the typical wait counts; before a check or a flight the slow end does: `PACE`.

- *fixed*: it holds itself: the fixture time.
- *flight-ready*: fixed, and what gels has gelled (`GEL`); cyanoacrylate, whose curve is its strength, and films that
  were aired, froze or were pressed on are ready as soon as they are fixed. That it then holds what is asked is
  another matter.
- *loaded*: `LOADED` of its strength.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

import numpy as np

from fletcher.core.adhesion.adhesives import TIMES_MIN, Curing, adhesives, curings
from fletcher.core.adhesion.curing import GEL, PACE, openness, sets_at_once, techniques

State = Literal["fixed", "flight_ready", "loaded"]

LOADED = 0.8
"""Share of its strength from which on a joint may be loaded."""


def time_to(curve: tuple[float, ...], share: float, times: tuple[float, ...] = TIMES_MIN) -> float:
    """Minutes until a cure curve given at `times` reaches a share; infinite where it never does."""
    if share <= curve[0]:
        return times[0] * share / curve[0] if curve[0] > 0 else times[0]
    for n in range(1, len(curve)):
        if share <= curve[n]:
            along = (share - curve[n - 1]) / (curve[n] - curve[n - 1])
            return float(np.exp(np.interp(along, (0, 1), np.log(times[n - 1 : n + 1]))))
    return math.inf


def slowed(curing: Curing, warmth_C: float) -> float:
    """How many times longer all takes than at 20 °C; infinite where it is too cold to cure."""
    if warmth_C < curing.least_C:
        return math.inf
    return float(curing.rate_per_10C.typ ** ((20 - warmth_C) / 10))


def set_after(at_20_min: float, rate: float, warmth: Sequence[tuple[float, float]], least_C: float = -50.0) -> float:
    """Minutes until a glue is where it is after `at_20_min` at 20 °C, while the warmth changes: ∫ r^{(T−20)/10} dτ.

    Parameters
    ----------
    rate
        How much faster it goes for every ten degrees.
    warmth
        From how many minutes on it is how warm, °C; the first from 0, the last to the end.
    least_C
        Below it nothing goes on.

    Returns
    -------
    float
        Infinite where it ends too cold.
    """
    left = at_20_min
    for n, (start, warm) in enumerate(warmth):
        speed = 0.0 if warm < least_C else rate ** ((warm - 20) / 10)
        end = warmth[n + 1][0] if n + 1 < len(warmth) else math.inf
        if speed > 0 and left <= speed * (end - start):
            return start + left / speed
        if speed > 0:
            left -= speed * (end - start)
    return math.inf


def ready_after(
    key: str, state: State, warmth_C: float = 20.0, sealed_mm: float | None = None, late: bool = False
) -> float:
    """Whole minutes after closing until a joint of an adhesive is in a state.

    Parameters
    ----------
    key
        Of the adhesive; it is put on in its usual technique.
    warmth_C
        Of the joint while it cures.
    sealed_mm
        Width of a joint between two closed faces, mm; None where air comes in.
    late
        The slow end of its times, for a check or a flight; else typical ones.

    Returns
    -------
    float
        Infinite where it is too cold, or never comes.
    """
    a, c = adhesives()[key], curings()[key]
    technique = next(iter(techniques(a)))
    times = slowed(c, warmth_C)
    fixed = (a.fixture_min.high if late else a.fixture_min.typ) * times
    if state == "fixed":
        return _whole(fixed)
    if state == "flight_ready" and sets_at_once(a, technique):
        return _whole(fixed)
    share = GEL if state == "flight_ready" else LOADED
    wait = time_to(c.open, share)
    aired = openness(a, technique)
    if sealed_mm is not None and aired < 1:
        closed = max(time_to(c.sealed, share) * (max(sealed_mm, 1.0) / 30) ** c.width_exponent, wait)
        wait = closed if aired == 0 else math.sqrt(closed * wait)
    return _whole(max(fixed, wait * times * (PACE.high if late else 1.0)))


def _whole(minutes: float) -> float:
    return minutes if math.isinf(minutes) else float(math.ceil(minutes - 1e-9))
