"""Group D: time. A start, on glue; times of repairs and plans come with the places that they are about."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from fletcher.core.adhesion.joint_capacity import GlueNeed
from fletcher.core.adhesion.selection import Gluing, glue
from fletcher.core.materials.tables import reference
from tests.sense.world import Rng, Violation

MINUTES = (1.0, 5.0, 30.0, 240.0, 1440.0)
WAYS = ("epp_30", "epo_31", "xps_30", "eps_20")
KINDS = ("pull", "shear", "peel", "bend")


def need(rng: Rng | None, one: str, loaded: str, **changes: object) -> GlueNeed:
    """A joint in usual or random conditions."""
    local = rng or np.random.default_rng(sum(map(ord, one + loaded)))
    values = {
        "one": one, "other": str(local.choice([one, "wood", "composite"])), "loaded": loaded,
        "hold_N": float(local.uniform(1, 60)), "area_cm2": float(local.uniform(2, 60)),
        "gap_mm": float(local.choice([0.1, 0.5])), "heat_C": float(local.uniform(20, 60)),
        "within_min": float(local.choice(MINUTES)),
    }  # fmt: skip
    return GlueNeed(**{**values, **changes})


def told(of: GlueNeed) -> Gluing:
    """The answer with the reference tables."""
    return glue(of, reference())


def d2_one_curve(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """D2: what a glue holds never falls as it is left longer, nor exceeds what it holds in the end."""
    of = need(rng, key, kind)
    before: dict[str, float] = {}
    for minutes in MINUTES:
        for c in told(of.model_copy(update={"within_min": minutes})).choices:
            now, last = c.then_N.typ, c.finally_N.typ
            if now < 0.999 * before.get(c.key, 0.0) or now > 1.001 * last:
                said = (
                    f"{c.name} at {minutes:g} min: {now:.3g} N, before {before.get(c.key, 0):.3g}, at last {last:.3g}"
                )
                yield Violation(f"D2 {key} {kind}", 2.0, said, of.model_dump_json())
            before[c.key] = now


def d3_nothing_in_time_is_said_first(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """D3: where nothing meets the time asked, the first sentence says so; where something does, it does not."""
    of = need(rng, key, kind)
    answer = told(of)
    meets = any(not c.vetoes and c.meets in ("sure", "typical") for c in answer.choices)
    if meets == answer.says.startswith("✕ No "):
        yield Violation(f"D3 {key} {kind}", 3.0, answer.says, of.model_dump_json())


LAWS = (d2_one_curve, d3_nothing_in_time_is_said_first)
