"""What own coupons make of a ranking: an adhesive's strength on a pair, moved by how its scraps broke."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

import numpy as np

from fletcher.core.adhesion.adhesives import Adhesive, adhesives, on_foams
from fletcher.core.adhesion.coupons import (
    BROKEN,
    SAME_TIME,
    Coupon,
    OwnEvidence,
    Reading,
    measured,
    odds,
    odds_factor,
    reading,
    strength,
)
from fletcher.core.adhesion.curing import techniques
from fletcher.core.adhesion.joint_capacity import Capacity, GlueNeed, Seam, capacity, seam_of
from fletcher.core.common.arrays import Array
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.materials.tables import reference

_LOCUS = {"foam_tears": 0.95, "mixed": 0.6, "interface": 0.2}
"""[J] How often the foam breaks first where the table says that well-made seams part there, the film being strong."""


def locus(a: Adhesive, families: tuple[str, ...]) -> float:
    """By where well-made seams of an adhesive on these foams part, the least."""
    return min((_LOCUS[on_foams()[a.key, f].tears] for f in families), default=0.6)


@lru_cache(maxsize=1024)
def _tested(coupon: Coupon) -> tuple[Seam, Capacity, str] | None:
    """The seam of a coupon and what the tables make of it; None where nothing is known of it any more."""
    need = GlueNeed(
        one=coupon.one, other=coupon.other, loaded=BROKEN[coupon.broken], area_cm2=coupon.area_cm2,
        width_mm=coupon.width_mm, arm_mm=coupon.arm_mm, within_min=min(coupon.minutes, 20_160),
        workshop_C=coupon.warmth_C, schools={},
    )  # fmt: skip
    try:
        seam = seam_of(need, reference())
    except InvalidDocument:
        return None
    a = adhesives().get(coupon.adhesive)
    if a is None:
        return None
    known = list(techniques(a))
    technique = coupon.technique if coupon.technique in known else known[0]
    return seam, capacity(a, seam, technique, np.array([coupon.minutes])), technique


def speaking(coupons: Sequence[Coupon], a: Adhesive, j: Seam, technique: str) -> list[tuple[Coupon, Capacity]]:
    """Coupons of an adhesive on the pair of a seam, put on in one way; controls speak for themselves alone."""
    found = []
    for coupon in coupons:
        if coupon.adhesive != a.key or coupon.control:
            continue
        tested = _tested(coupon)
        if tested is None:
            continue
        seam, held, way = tested
        alike = seam.pair == j.pair and set(seam.families) == set(j.families)
        if alike and way == technique:
            found.append((coupon, held))
    return found


def moved(
    a: Adhesive, j: Seam, technique: str, found: Capacity, minutes: Array, grade: str, coupons: Sequence[Coupon]
) -> tuple[Array, OwnEvidence | None]:
    """What the seam then holds (S, t), N, and why; as it was where no coupon speaks. Loads count before odds."""
    own = speaking(coupons, a, j, technique)
    if not own:
        return found.held, None
    first = found.foam_first(locus(a, j.families))
    share = found.share[0]
    odds_at = []
    for t, at in enumerate(minutes):
        readings: list[Reading] = [reading(c, float(h.share[0, 0]), float(share[t]), float(at)) for c, h in own]
        odds_at.append(odds(float(first[t]), grade, readings))
    factors = np.array([odds_factor(o) for o in odds_at])
    held = found.held * factors
    loads = [m for c, h in own if (m := measured(c, float(h.held[0, 0]))) is not None]
    says = "from the broken faces"
    if loads:
        # the spread of what it holds, as a log-normal: narrowed about the moved middle
        at_end = found.held[1:, -1]
        before = float(np.std(np.log(np.maximum(at_end, 1e-9))))
        mu, left = strength(loads, before)
        middle = found.held[:1]
        ratio = np.maximum(found.held, 1e-12) / np.maximum(middle, 1e-12)
        # a load of later says nothing good of earlier: green joints are not raised by cured coupons
        reached = min(float(h.share[0, 0]) for _, h in own) * SAME_TIME
        raised = np.where(share >= reached, np.exp(mu), min(np.exp(mu), 1.0))
        held = middle * raised * ratio ** min(left / max(before, 1e-6), 1.0)
        factors = raised
        says = f"from {len(loads)} measured loads" if len(loads) > 1 else "from one measured load"
    then = odds_at[-1]
    return held, OwnEvidence(
        coupons=len(own), odds=then, factor=float(factors[-1]),
        says=f"{len(own)} of your glue tests: foam tears first in {100 * then.after.typ:.0f} % "
        f"({100 * then.after.low:.0f}–{100 * then.after.high:.0f}; tables alone: {100 * then.before.typ:.0f} %); "
        f"strength × {factors[-1]:.2f} {says}",
    )  # fmt: skip
