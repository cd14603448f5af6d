r"""From the readings of one bench test to one compliance: loads and times, creep, drift, the gauge's own error.

d_i = d₀ + C x_i + e_i with x_i = Σ_j ΔF_j ((t_i − t_j)/10 s)^n over all changes of load before t_i (superposition, a
load taken off is a negative one); least squares for d₀ and C with weights 1/σ_i². What it leaves after unloading is
then no false set. Tables mean ten seconds.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from scipy.stats import t as student

from fletcher.core.common.arrays import Array

TEN_S = 10.0
"""Time after which the tables' moduli are meant, s."""
ODD, FEWEST = 0.05, 5
"""A reading is odd where its deleted residual has less than this chance among all; from so many readings on."""
STRAIGHT = 3.0
"""A bend that is so many standard deviations off a straight line is not straight."""

Instrument = Literal["ruler", "dial_gauge"]


@dataclass(frozen=True)
class Step:
    """A load (N) from a time (s) on."""

    load_N: float
    from_s: float


@dataclass(frozen=True)
class Mark:
    """A reading (mm) at a time (s)."""

    value: float
    at_s: float


@dataclass(frozen=True)
class Fit:
    """Compliance (mm/N) with its share of scatter, the reading at no load, which readings were left out as odd, and by
    how many standard deviations the line is curved."""

    compliance: float
    share: float
    zero: float
    odd: tuple[int, ...]
    curved: float


def reading_sd(instrument: Instrument, value: float) -> float:
    """Standard deviation of one reading, mm: a ruler read with care, a gauge by its step and one per cent [J]."""
    return 0.3 if instrument == "ruler" else math.hypot(0.02, 0.01 * value)


def crept(steps: Sequence[Step], at_s: float, rate: float) -> float:
    """The load (N) that counts at a time: every change by itself, grown as ((t − t_j)/10 s)^n."""
    out, before = 0.0, 0.0
    for s in sorted(steps, key=lambda s: s.from_s):
        if s.from_s < at_s:
            out += (s.load_N - before) * ((at_s - s.from_s) / TEN_S) ** rate
            before = s.load_N
    return out


def fitted(steps: Sequence[Step], marks: Sequence[Mark], rate: float, instrument: Instrument = "ruler") -> Fit:
    """The line through the readings of a test, in whichever order they were written down.

    Raises
    ------
    ValueError
        Where no two readings differ in load.
    """
    ordered = sorted(marks, key=lambda m: m.at_s)
    x = np.array([crept(steps, m.at_s, rate) for m in ordered])
    y = np.array([m.value for m in ordered])
    if len(x) < 2 or float(np.ptp(x)) < 1e-9:
        raise ValueError("needs readings at two loads that differ, no load counted")
    sd = np.array([reading_sd(instrument, abs(v)) for v in y])
    odd = _odd(x, y, sd) if len(x) >= FEWEST else ()
    kept = np.array([n not in odd for n in range(len(x))])
    line, cover = _line(x[kept], y[kept], sd[kept], 1)
    curved = 0.0
    if kept.sum() > 3:
        bow, spread = _line(x[kept], y[kept], sd[kept], 2)
        curved = float(bow[2] / math.sqrt(spread[2, 2]))
    if line[1] <= 0:
        raise ValueError("bends against its load: check the signs")
    return Fit(float(line[1]), float(math.sqrt(cover[1, 1]) / line[1]), float(line[0]), odd, curved)


def _line(x: Array, y: Array, sd: Array, power: int) -> tuple[Array, Array]:
    """Weighted least squares: coefficients and their covariance."""
    rows = np.stack([x**n for n in range(power + 1)], 1) / sd[:, None]
    cover = np.linalg.inv(rows.T @ rows)
    return np.asarray(cover @ rows.T @ (y / sd)), np.asarray(cover)


def _odd(x: Array, y: Array, sd: Array) -> tuple[int, ...]:
    """The reading that is furthest off the line through the others, if that is too far for one of so many."""
    worst, chance = -1, 1.0
    for n in range(len(x)):
        rest = np.arange(len(x)) != n
        line, cover = _line(x[rest], y[rest], sd[rest], 1)
        row = np.array([1.0, x[n]])
        scale = max(float(((y[rest] - line[0] - line[1] * x[rest]) ** 2 / sd[rest] ** 2).sum()) / (len(x) - 3), 1.0)
        off = abs(y[n] - row @ line) / math.sqrt(scale * (sd[n] ** 2 + row @ cover @ row))
        p = 2 * float(student.sf(off, len(x) - 3))
        if p < chance:
            worst, chance = n, p
    return (worst,) if chance * len(x) < ODD else ()
