"""Weighing in: what a scale says of an airframe, weighing after weighing, and what each of them changes.

A weighing covers the lines that lay on the scale. A later one of the same lines replaces it; where something was
scraped off, sanded or peeled it replaces all that it contains. A reading far from what was expected gives the lines its
mass and teaches nothing, until the builder has checked it.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from fletcher.core.balance.forecast import Z95, Centred, Forecast, Known, Line, Seen, Weighed
from fletcher.core.balance.ledger import Entry
from fletcher.core.balance.weighing import Supports
from fletcher.core.document.weighings import OnSupports, Weighing
from fletcher.core.validation.weighings import grams_of, net_of, reading_sd, sd_of

State = Literal["counts", "heavy", "light", "surprise", "replaced", "gone"]
SILENT, SURPRISE = Z95, 2.576
"""Up to so many standard deviations a reading is as expected (9 of 10 are), from so many on a surprise (1 in 100)."""
WIDEST = 0.5
"""Standard deviation of the logarithm of a line that got its mass from a surprise, at most."""
PLACE_SD_MM, LEVEL_SD_DEG = 0.5, 0.5
"""[J] How well the place of a support and the level of a chord are known."""


@dataclass(frozen=True)
class WeighedIn:
    """A weighing with what it did: indices of its lines, reading and expectation with their standard deviations, how
    far apart they lie in standard deviations of both, and the centre where two supports told it."""

    weighing: Weighing
    state: State
    at: tuple[int, ...]
    grams: float
    sd_g: float
    expected_g: float = 0.0
    expected_sd_g: float = 0.0
    off: float = 0.0
    centre_mm: float | None = None
    centre_sd_mm: float | None = None


@dataclass(frozen=True)
class WeighIn:
    """A forecast after all weighings that count, with what each of them did."""

    forecast: Forecast
    weighings: tuple[WeighedIn, ...]

    @property
    def covered(self) -> frozenset[int]:
        """Lines that some weighing which counts covers."""
        return frozenset(i for w in self.weighings if w.state not in ("replaced", "gone") for i in w.at)


@dataclass
class _Running:
    lines: list[Line]
    known: tuple[Known, ...]
    told: list[WeighedIn]
    live: dict[int, tuple[Seen, ...]]
    """What counts, by the number of its weighing."""

    def forecast(self) -> Forecast:
        return Forecast(self.lines, (*self.known, *(s for seen in self.live.values() for s in seen)))


def weigh_in(entries: Sequence[Entry], weighings: Sequence[Weighing], known: Sequence[Known] = ()) -> WeighIn:
    """The lines of a ledger with all weighings taken in, in their order; `known` is what other airframes taught."""
    where = {e.key: i for i, e in enumerate(entries)}
    run = _Running([e.line for e in entries], tuple(known), [], {})
    for w in weighings:
        at = tuple(sorted({where[k] for k in w.lines if k in where}))
        if len(at) < len(set(w.lines)):
            run.told.append(WeighedIn(w, "gone", at, grams_of(w), sd_of(w)))
            continue
        _replace(run, at, w)
        _take(run, entries, at, w)
    return WeighIn(run.forecast(), tuple(run.told))


def _replace(run: _Running, at: tuple[int, ...], w: Weighing) -> None:
    for n in list(run.live):
        old = run.told[n]
        if set(old.at) == set(at) or (w.taken_off and set(old.at) <= set(at)):
            del run.live[n]
            run.told[n] = replace(old, state="replaced")


def _take(run: _Running, entries: Sequence[Entry], at: tuple[int, ...], w: Weighing) -> None:
    before = run.forecast()
    seen = Weighed(at, grams_of(w), sd_of(w))
    expected, sd = before.mass(at)
    off = before.surprise(seen)
    if seen.grams < expected:  # a logarithm makes much of the scale's error where the reading is next to nothing
        off = min(off, (seen.grams - expected) / math.hypot(sd, seen.sd_g))
    centre = _centre(entries, at, w) if w.reading.kind == "supports" else None
    state: State = "counts"
    if abs(off) > SURPRISE and not w.trusted:
        state = "surprise"
        _set_mass(run, before, at, seen)
    elif abs(off) > SILENT:
        state = "heavy" if off > 0 else "light"
    found: list[Seen] = [] if state == "surprise" else [seen]
    if centre is not None:
        found.append(centre)
    run.live[len(run.told)] = tuple(found)
    run.told.append(
        WeighedIn(w, state, at, seen.grams, seen.sd_g, expected, sd, off,
                  centre.x_mm if centre else None, centre.sd_mm if centre else None)
    )  # fmt: skip


def _set_mass(run: _Running, before: Forecast, at: tuple[int, ...], seen: Weighed) -> None:
    """Lines of a surprise get its mass, and nothing in common with others: those not weighed before take the whole
    difference, as far as they can."""
    earlier = {i for n in run.live for i in run.told[n].at}
    fresh = [i for i in at if i not in earlier] or list(at)
    grams = before.grams
    rest = float(sum(grams[i] for i in at if i not in fresh))
    if seen.grams - rest <= 0.1 * float(grams[fresh].sum()):
        fresh, rest = list(at), 0.0
        for n in list(run.live):
            if set(run.told[n].at) <= set(at):
                del run.live[n]
                run.told[n] = replace(run.told[n], state="replaced")
    scale = (seen.grams - rest) / float(grams[fresh].sum())
    wide = math.exp(Z95 * min(seen.sd_g / seen.grams, WIDEST))
    for i in fresh:
        m = float(grams[i]) * scale
        run.lines[i] = Line(run.lines[i].name, m, m / wide, m * wide, run.lines[i].x_mm)


def _centre(entries: Sequence[Entry], at: tuple[int, ...], w: Weighing) -> Centred:
    r = w.reading
    assert isinstance(r, OnSupports)
    grams = np.array([entries[i].line.typ for i in at])
    z = float(grams @ np.array([entries[i].z_mm for i in at]) / grams.sum())
    first, second = net_of(r)
    on = Supports(
        first, second, r.first_mm, r.second_mm, r.nose_up_deg,
        r.first_z_mm, r.second_z_mm, z,
    )  # fmt: skip
    each = reading_sd(max(on.first_g, on.second_g), w.step_g)
    return Centred(at, on.centre_mm, on.sd_mm(each, PLACE_SD_MM, LEVEL_SD_DEG))
