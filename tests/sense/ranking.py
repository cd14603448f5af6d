"""Group E: ranking. A start, on glue; repairs and plans come with the places that they are about."""

from __future__ import annotations

from collections.abc import Iterator

from fletcher.core.adhesion.adhesives import foam_families, on_foams
from tests.sense.waiting import KINDS, WAYS, need, told
from tests.sense.world import Rng, Violation

MEETS = ("sure", "typical", "later", "no")


def e2_names_of_kinds(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """E2: a glue that eats the foam is never let in."""
    of = need(rng, key, kind)
    for c in told(of).choices:
        if on_foams()[c.key, foam_families()[key]].verdict == "attacks" and not c.vetoes:
            yield Violation(f"E2 {key} {kind}", 10.0, f"{c.name} eats it and is let in", of.model_dump_json())


def e3_order_and_conditions(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """E3: what is ruled out comes last, what holds in time before what does not, points fall among these; what may
    attack the foam is never sure and stands with those that hold one degree less surely; more heat lets nothing in."""
    of = need(rng, key, kind, heat_C=25.0)
    cool, hot = told(of), told(of.model_copy(update={"heat_C": 80.0}))
    for answer in (cool, hot):
        order = [(bool(c.vetoes), MEETS.index(c.meets) + bool(c.test_first), -c.points) for c in answer.choices]
        if any(c.test_first and c.meets == "sure" for c in answer.choices):
            yield Violation(f"E3 {key} {kind}", 4.0, "sure before it was tried on a scrap", of.model_dump_json())
        if order != sorted(order):
            yield Violation(f"E3 {key} {kind}", 3.0, f"out of order: {order}", of.model_dump_json())
    ruled = {c.key for c in cool.choices if c.vetoes}
    for c in hot.choices:
        if c.key in ruled and not c.vetoes:
            yield Violation(f"E3 {key} {kind}", 5.0, f"{c.name} only in the heat", of.model_dump_json())


LAWS = (e2_names_of_kinds, e3_order_and_conditions)
__all__ = ["KINDS", "LAWS", "WAYS"]
