r"""Coupons: scraps glued, broken and read, and what they say about an adhesive on a pair.

The odds that the foam breaks first are beta-binomial. The prior is Beta(m p₀, m(1 − p₀)): p₀ what the tables make of it
at that time, m as many coupons as their grade is worth. A face counts by its shares: foam torn deep, a line just beside
the seam and a break elsewhere say that the seam was better; clean seam and softened foam that it was worse; a thin
surface layer says half of each; soft glue speaks for its own time and earlier ones alone; lifted paint says nothing.
Strength only grows with time: a good face speaks for later times too, a bad one for earlier ones.

Loads move the strength: the logarithm of load over estimate is drawn from N(μ, s²), μ from N(0, s₀²). A break elsewhere
is a lower bound and counts by the chance of holding so much, Φ((μ − b)/s) (Tobin 1958); mean and spread are read off a
grid.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
from numpy.polynomial.hermite import hermgauss
from pydantic import Field
from scipy.special import betaincinv, log_ndtr, logsumexp

from fletcher.core.common.model import Result
from fletcher.core.common.quantities import F0, in_mm
from fletcher.core.document.cases import PRINTABLE, Document, Key
from fletcher.core.document.joint import Technique
from fletcher.core.document.problems import Problem
from fletcher.core.materials.uncertainty import Band

Share = Annotated[float, Field(ge=0, le=100)]

PRIOR_COUPONS = {"A": 12.0, "B": 8.0, "C": 4.0}
"""[J] Coupons that a graded table is worth."""

SEAM_HOLDS = 0.5
"""[J] What a seam that parts cleanly holds over one beside which the foam tears."""

LOAD_SPREAD, EFFORT_SPREAD = 0.3, 0.7
"""[J] Scatter of the logarithm of a measured load, and of one judged by the hand."""

ALIKE = 0.07
"""[J] What coupons have in common and a joint has not: how they are made, loaded and read, as a logarithm."""
_GRID, _NODES, _WIDE = 401, 9, 6.0

_EFFORT = {"low": 0.4, "medium": 0.8, "high": 1.2}
"""[J] What an effort is over what the hand expects."""

SAME_TIME = 0.9
"""Shares of cure, and minutes, that are no further apart than this are as good as the same time."""

BROKEN: dict[str, Literal["pull", "shear", "peel", "bend"]] = {
    "snap": "bend",
    "peel": "peel",
    "pull": "pull",
    "shear": "shear",
}
"""How a coupon was broken, as the chooser calls the load."""


class Face(Document):
    """The broken face, by share in per cent: together all of it."""

    foam_deep: Share = 0.0
    surface_layer: Share = 0.0
    clean_seam: Share = 0.0
    beside_seam: Share = 0.0
    elsewhere: Share = 0.0
    glue_soft: Share = 0.0
    foam_softened: Share = 0.0
    paint_lifted: Share = 0.0


class Coupon(Document):
    """A scrap that was glued and broken. `one` and `other` as the glue chooser takes them."""

    adhesive: Key
    one: Key
    other: Key
    technique: Technique | None = None
    prepared: Literal["as_cut", "roughened", "wiped", "pricked", "primed", "painted"] = "as_cut"
    minutes: Annotated[float, Field(ge=0.5, le=525_600, description="From closing to breaking")] = 1440.0
    warmth_C: Annotated[float, Field(ge=0, le=40)] = 20.0
    broken: Literal["snap", "peel", "pull", "shear"] = "snap"
    load_N: Annotated[float | None, Field(gt=0, le=20_000)] = None
    effort: Literal["low", "medium", "high"] | None = None
    area_cm2: Annotated[float, Field(ge=0.05, le=1000)] = 6.0
    width_mm: Annotated[float, Field(ge=1, le=500)] = 20.0
    arm_mm: Annotated[float, Field(ge=1, le=1000, description="Of a snap: load to seam")] = 60.0
    face: Face
    control: Annotated[bool, Field(description="Untreated, to compare with")] = False
    label: Annotated[str, Field(max_length=12, pattern=PRINTABLE)] = ""
    note: Annotated[str, Field(max_length=400, pattern=PRINTABLE)] = ""


def coupon_problems(coupon: Coupon) -> list[Problem]:
    """What cannot be: shares that are not the whole face, no load and no effort where it was broken by a load."""
    total = sum(coupon.face.model_dump().values())
    out = []
    if abs(total - 100) > 1:
        message = "must add up to 100 % of the broken face"
        out.append(Problem(path="face", message=message, value=f"{total:g} %"))
    if coupon.width_mm**2 > coupon.area_cm2 * 100 * 25:
        most = 5 * math.sqrt(coupon.area_cm2 * 100)
        message = f"is too wide for {coupon.area_cm2:g} cm²: at most {in_mm(most, F0)}"
        out.append(Problem(path="width_mm", message=message, value=f"{coupon.width_mm:g}"))
    return out


@dataclass(frozen=True)
class Reading:
    """What a coupon says at a time: weights for and against the foam breaking first."""

    foam: float
    seam: float


def reading(coupon: Coupon, share_then: float, share_now: float, minutes: float) -> Reading:
    """What a coupon says at `minutes`: of its strength the glue then has `share_now`, and had `share_then` when the
    coupon was broken."""
    f = coupon.face
    good = (f.foam_deep + f.beside_seam + f.elsewhere + 0.5 * f.surface_layer) / 100
    bad = (f.clean_seam + f.foam_softened + 0.5 * f.surface_layer) / 100
    soft = f.glue_soft / 100
    low, high = sorted((share_then, share_now))
    alike = low >= SAME_TIME * high
    later, earlier = minutes >= SAME_TIME * coupon.minutes, SAME_TIME * minutes <= coupon.minutes
    against = (bad if alike or earlier else 0.0) + (soft if earlier else 0.0)
    return Reading(good if alike or later else 0.0, against)


class Odds(Result):
    """Odds that the foam breaks first, 0 to 1: by the tables, and with own coupons; how many of them speak."""

    before: Band
    after: Band
    coupons: int
    prior_coupons: float


def beta_band(a: float, b: float) -> Band:
    """Median and 5-95 % of a beta distribution."""
    low, typ, high = (float(betaincinv(a, b, q)) for q in (0.05, 0.5, 0.95))
    return Band(typ=typ, low=low, high=high)


def odds(before: float, grade: str, readings: list[Reading]) -> Odds:
    """The odds from what the tables say, `before`, with their grade, and what coupons say."""
    worth = PRIOR_COUPONS.get(grade, 4.0)
    p = min(max(before, 0.02), 0.98)
    a, b = worth * p, worth * (1 - p)
    good, bad = sum(r.foam for r in readings), sum(r.seam for r in readings)
    speak = sum(r.foam + r.seam > 0 for r in readings)
    return Odds(before=beta_band(a, b), after=beta_band(a + good, b + bad), coupons=speak, prior_coupons=worth)


def odds_factor(found: Odds) -> float:
    """What the moved odds make of the strength: a seam that parts cleanly holds `SEAM_HOLDS` of a good one."""
    mean = [SEAM_HOLDS + (1 - SEAM_HOLDS) * p for p in (found.before.typ, found.after.typ)]
    return mean[1] / mean[0]


@dataclass(frozen=True)
class Measured:
    """The logarithm of a load over its estimate, its scatter, and whether it is a lower bound."""

    log_ratio: float
    spread: float
    bound: bool


def measured(coupon: Coupon, estimate_N: float) -> Measured | None:
    """What a coupon's load or effort says; None where it says nothing (soft glue, no load)."""
    if coupon.face.glue_soft > 50 or estimate_N <= 0:
        return None
    bound = coupon.face.elsewhere > 50
    if coupon.load_N is not None:
        return Measured(math.log(coupon.load_N / estimate_N), LOAD_SPREAD, bound)
    if coupon.effort is not None:
        return Measured(math.log(_EFFORT[coupon.effort]), EFFORT_SPREAD, bound)
    return None


def strength(found: list[Measured], spread_before: float, alike: float = ALIKE) -> tuple[float, float]:
    """Mean and spread of the logarithm of true over estimated strength, from one before of N(0, spread²).

    By a grid: a break counts by its density, a load that only held by the chance of holding it. What all coupons have
    in common and the joint has not, N(0, `alike`²), is integrated over: no number of coupons tells more than that.
    """
    if not found:
        return 0.0, spread_before
    told_of = sorted(found, key=lambda m: (m.log_ratio, m.spread, m.bound))  # their order tells nothing
    values, spreads = (np.array([getattr(m, name) for m in told_of]) for name in ("log_ratio", "spread"))
    bounds = np.array([m.bound for m in told_of])
    wide = _WIDE * max(spread_before, 1e-3)
    mu = np.linspace(min(-wide, values.min() - 1.0), max(wide, values.max() + 1.0), _GRID)
    nodes, weights = hermgauss(_NODES)
    shift = math.sqrt(2) * alike * nodes
    off = (values[:, None, None] - mu[None, :, None] - shift[None, None, :]) / spreads[:, None, None]
    told = np.where(bounds[:, None, None], log_ndtr(-off), -0.5 * off**2).sum(0)
    logs = logsumexp(told, b=weights[None, :], axis=1) - 0.5 * (mu / max(spread_before, 1e-3)) ** 2
    share = np.exp(logs - logs.max())
    share /= share.sum()
    mean = float(share @ mu)
    return mean, math.sqrt(float(share @ (mu - mean) ** 2))


class OwnEvidence(Result):
    """What own coupons did to an adhesive's place: how many, the odds, and by how much its strength moved."""

    coupons: int
    odds: Odds
    factor: float
    says: str
