r"""A fair trial between ways of gluing: how many coupons of each, in which order, and when the difference is real.

To tell shares p₁ and p₂ of foam breaking first apart, four times in five and fooled once in twenty, it takes
n = (z_α √(2 p̄ q̄) + z_β √(p₁q₁ + p₂q₂))²/(p₁ − p₂)² of each (Fleiss, Levin & Paik 2003, ch. 4). A difference is
called real when the chance that one share is the larger, both uniform before, passes 19 in 20.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from string import ascii_uppercase
from typing import Annotated, Literal

import numpy as np
from pydantic import Field
from scipy.special import betainc, betaln

from fletcher.core.adhesion.adhesives import adhesives
from fletcher.core.adhesion.cautions import Caution, cautions_for
from fletcher.core.adhesion.coupons import Coupon, Face, beta_band
from fletcher.core.adhesion.curing import techniques
from fletcher.core.adhesion.joint_capacity import GlueNeed, seam_of
from fletcher.core.common.model import Result
from fletcher.core.document.cases import PRINTABLE, Document, Key, Name
from fletcher.core.document.joint import Technique
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.materials.materials import Catalogue
from fletcher.core.materials.uncertainty import Band

_Z_ALPHA, _Z_BETA = 1.6448536269514722, 0.8416212335729143
REAL, LIKELY = 0.95, 0.8
_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(200)
FEWEST, MOST = 4, 30
"""[J] Fewer coupons than this say nothing of the scatter; nobody breaks more of each."""


class Arm(Document):
    """One way of gluing that is compared."""

    adhesive: Key
    technique: Technique | None = None
    prepared: Literal["as_cut", "roughened", "wiped", "pricked", "primed", "painted"] = "as_cut"


class TrialWish(Document):
    """What is compared, on what, how it is broken and when; which difference in shares is worth knowing. A control is
    the first way, untreated."""

    name: Name = "Which glue is stronger?"
    one: Key = "epp_30"
    other: Key = "epp_30"
    broken: Literal["snap", "peel", "pull", "shear"] = "snap"
    minutes: Annotated[float, Field(ge=5, le=20_160)] = 1440.0
    difference_percent: Annotated[float, Field(ge=10, le=90)] = 50.0
    control: bool = True
    arms: Annotated[tuple[Arm, ...], Field(min_length=1, max_length=8)]
    seed: Annotated[int, Field(ge=0, le=1_000_000, description="Of the order: another one draws it anew")] = 1
    note: Annotated[str, Field(max_length=400, pattern=PRINTABLE)] = ""


class TrialCoupon(Result):
    """One coupon of a trial, as it is marked, and which way it is glued."""

    label: str
    arm: int
    says: str


class TrialPlan(Result):
    """How many coupons of each, in the order in which they are glued and broken, and what to keep equal."""

    each: int
    arms: list[str]
    order: list[TrialCoupon]
    keep_equal: list[str]
    steps: list[str]
    foam_cm2: float
    why: str
    cautions: list[Caution]


class TrialVerdict(Result):
    """One way against another: the chance that its share of foam breaking first is the larger, what to call that, and
    how many more of each would settle it if the shares stay (0: settled; None: not within reason)."""

    better: str
    worse: str
    chance: float
    settled: Literal["real", "likely", "open"]
    more_of_each: int | None
    says: str


class TrialReading(Result):
    """What a trial says so far: per way how many were broken, the odds of foam first, and every comparison."""

    broken: list[int]
    odds: list[Band]
    verdicts: list[TrialVerdict]


def coupons_needed(p1: float, p2: float) -> int:
    """How many of each tell two shares apart; see the module."""
    mean = 0.5 * (p1 + p2)
    spread = _Z_ALPHA * math.sqrt(2 * mean * (1 - mean)) + _Z_BETA * math.sqrt(p1 * (1 - p1) + p2 * (1 - p2))
    return math.ceil((spread / (p1 - p2)) ** 2)


def _arms(wish: TrialWish) -> list[str]:
    names = []
    for arm in wish.arms:
        way = f", {arm.technique}" if arm.technique else ""
        names.append(f"{adhesives()[arm.adhesive].name}{way}, {arm.prepared.replace('_', ' ')}")
    return [*names, f"control: {adhesives()[wish.arms[0].adhesive].name}, untreated"] if wish.control else names


def plan(wish: TrialWish, catalogue: Catalogue) -> TrialPlan:
    """Plan a trial.

    Raises
    ------
    InvalidDocument
        If a material, adhesive or technique is unknown, or nothing is left to compare.
    """
    seam_of(GlueNeed(one=wish.one, other=wish.other, schools={}), catalogue)
    for n, arm in enumerate(wish.arms):
        if arm.adhesive not in adhesives():
            raise InvalidDocument([Problem(path=f"arms[{n}].adhesive", message="is not an adhesive in the Stockroom",
                                           value=repr(arm.adhesive))])  # fmt: skip
        ways = techniques(adhesives()[arm.adhesive])
        if arm.technique is not None and arm.technique not in ways:
            message = f"cannot be applied that way: choose {', '.join(ways)}"
            raise InvalidDocument([Problem(path=f"arms[{n}].technique", message=message, value=arm.technique)])
        if arm in wish.arms[:n]:
            raise InvalidDocument([Problem(path=f"arms[{n}]", message="is already in this test", value=arm.adhesive)])
    names = _arms(wish)
    if len(names) < 2:
        message = "needs something to compare: add a second option or an untreated control"
        raise InvalidDocument([Problem(path="arms", message=message, value="1")])
    half = wish.difference_percent / 200
    each = min(max(coupons_needed(0.5 + half, 0.5 - half), FEWEST), MOST)
    rng = np.random.default_rng(wish.seed)
    # in rounds of one of each, drawn anew, so that a tiring hand or a drying tube falls on all alike
    order = []
    for round_ in range(each):
        for arm_ in rng.permutation(len(names)):
            label = f"{ascii_uppercase[arm_]}{round_ + 1}"
            order.append(TrialCoupon(label=label, arm=int(arm_), says=names[arm_]))
    when = f"{wish.minutes / 60:g} h" if wish.minutes >= 90 else f"{wish.minutes:g} min"
    tags = [f"adhesive:{k}" for k in dict.fromkeys(a.adhesive for a in wish.arms)]
    return TrialPlan(
        each=each, arms=names, order=order, foam_cm2=2 * 20.0 * len(order),
        keep_equal=[
            "scraps from one sheet, all cut in the same direction, 20 × 60 mm",
            "same kind of face: cut to cut, or skin to skin",
            "amount of glue: weigh the first three and match them",
            "room temperature and humidity, and the weight holding them together",
            f"time from closing to breaking: {when}, ± 10 %",
            "one person at one pace; whoever reads the broken faces does not see the label",
        ],
        steps=[
            "label every scrap on the back before opening any glue",
            "glue in the order of the list and note the time each is closed",
            f"break in the same order after {when}: {_HOW[wish.broken]}",
            "record each broken face at once, in steps of 10 %, before breaking the next",
        ],
        why=f"{each} of each detects a difference of {100 * (0.5 + half):.0f} % against "
            f"{100 * (0.5 - half):.0f} % four times out of five",
        cautions=cautions_for(tags),
    )  # fmt: skip


_HOW = {
    "snap": "over a table edge with the joint just beyond it, slowly",
    "peel": "from one end along the joint, slowly; wear eye protection",
    "pull": "straight apart with a spring scale or a hung weight; pad the floor, keep feet clear",
    "shear": "along the joint with both ends pulled in line; pad the floor, keep feet clear",
}


def chance_larger(one: tuple[float, float], other: tuple[float, float]) -> float:
    """Chance that a share with so many good and bad is larger than another, both Beta(1 + good, 1 + bad), by Gauss
    points."""
    a, b = 1 + one[0], 1 + one[1]
    p = 0.5 * (_NODES + 1)
    density = np.exp((a - 1) * np.log(p) + (b - 1) * np.log1p(-p) - betaln(a, b))
    return float((0.5 * _WEIGHTS * density * betainc(1 + other[0], 1 + other[1], p)).sum())


def _counts(face: Face) -> tuple[float, float]:
    """For and against the foam breaking first, of what says anything."""
    good = face.foam_deep + face.beside_seam + face.elsewhere + 0.5 * face.surface_layer
    bad = face.clean_seam + face.foam_softened + face.glue_soft + 0.5 * face.surface_layer
    return good / 100, bad / 100


def read_trial(wish: TrialWish, coupons: Sequence[Coupon]) -> TrialReading:
    """What the broken coupons of a trial say; a coupon belongs to the way that its label begins with."""
    names = _arms(wish)
    sums = [[0.0, 0.0, 0] for _ in names]
    for coupon in coupons:
        n = ascii_uppercase.find(coupon.label[:1]) if coupon.label else -1
        if 0 <= n < len(names):
            good, bad = _counts(coupon.face)
            sums[n][0] += good
            sums[n][1] += bad
            sums[n][2] += 1
    verdicts = []
    for i in range(len(names)):
        for k in range(i + 1, len(names)):
            if sums[i][2] and sums[k][2]:
                verdicts.append(_verdict(names[i], names[k], sums[i], sums[k]))
    return TrialReading(
        broken=[int(s[2]) for s in sums], odds=[beta_band(1 + s[0], 1 + s[1]) for s in sums], verdicts=verdicts
    )


def _verdict(one: str, other: str, a: Sequence[float], b: Sequence[float]) -> TrialVerdict:
    chance = chance_larger((a[0], a[1]), (b[0], b[1]))
    if chance < 0.5:
        one, other, a, b, chance = other, one, b, a, 1 - chance
    settled: Literal["real", "likely", "open"] = "real" if chance >= REAL else "likely" if chance >= LIKELY else "open"
    more = None
    if settled == "real":
        more = 0
    else:
        for extra in range(1, 61):  # as the shares stand, so many more of each
            grown = [tuple(v * (n + extra) / n for v in s) for s, n in ((a[:2], a[2]), (b[:2], b[2]))]
            if chance_larger((grown[0][0], grown[0][1]), (grown[1][0], grown[1][1])) >= REAL:
                more = extra
                break
    says = {
        "real": f"✓ {one} is better than {other} ({100 * chance:.0f} % certain)",
        "likely": f"≈ {one} is likely better than {other} ({100 * chance:.0f} %), not proven",
        "open": f"? no clear difference between {one} and {other} ({100 * chance:.0f} %)",
    }[settled]
    if more:
        says += f"; {more} more of each would settle it if results stay like this"
    elif more is None:
        says += "; more than 60 of each would be needed, so treat them as equal"
    return TrialVerdict(better=one, worse=other, chance=chance, settled=settled, more_of_each=more, says=says)
