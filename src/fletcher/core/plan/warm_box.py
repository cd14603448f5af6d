r"""A warm box: which glued pieces may cure in it, and how much sooner they are fixed, gelled and loaded.

It is entered at once and left when what was glued holds itself; the rest sets in the room. With t₂₀ the times at 20 °C
and rates k = r^{(T−20)/10}: in the box fixed after F/k_box, loaded F/k_box + (L − F)/k_room later. A piece goes in
whole. No warmer than the glue's own limit, nor than `BELOW_C` below where the foam begins to
soften. Without a thermostat, and a place where nothing catches fire, somebody stays in the house as long as it is warm.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fletcher.core.adhesion.adhesives import adhesives, curings
from fletcher.core.adhesion.cautions import cautions_for
from fletcher.core.adhesion.curing import sets_at_once, techniques
from fletcher.core.adhesion.readiness import ready_after, slowed
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.materials.tables import reference
from fletcher.core.plan.schedule import Box
from fletcher.core.plan.schema import AfterAt, BuildStep, ShopWish, WarmBox
from fletcher.core.section.setting import families

BELOW_C = 10.0
"""[J] So far a box stays below where a foam begins to soften."""
WORTH_MIN = 20
"""[J] A piece that would be fixed so little sooner is not carried to a box."""
NAME = "warm box"


@dataclass(frozen=True)
class WarmCure:
    """Minutes until what went into a box at once is fixed, has gelled and is loaded at the slow end."""

    fixed: int
    gelled: int
    loaded: int

    def wait(self, glued: BuildStep, after: AfterAt) -> int | None:
        """What a step waits for in place of what it waits for in the room; None where it waits for no glue."""
        if after.wait_min <= 0:
            return None
        if after.wait_min == glued.fixed_min:
            return self.fixed
        return self.loaded if after.wait_min == glued.loaded_min else self.gelled


def warm_cure(key: str, room_C: float, box_C: float) -> WarmCure | None:
    """What a box does for an adhesive by its key; None where it does nothing, or harm."""
    a, c = adhesives()[key], curings()[key]
    if c.rate_per_10C.typ <= 1 or box_C > c.most_C or sets_at_once(a, next(iter(techniques(a)))):
        return None
    fixed = math.ceil(ready_after(key, "fixed", box_C))
    at_20 = ready_after(key, "fixed", 20.0)
    ends = ready_after(key, "flight_ready", 20.0), ready_after(key, "loaded", 20.0, late=True)
    later = [fixed + max(end - at_20, 0.0) * slowed(c, room_C) for end in ends]
    if ready_after(key, "fixed", room_C) - fixed < WORTH_MIN or not all(math.isfinite(v) for v in later):
        return None
    return WarmCure(fixed, *(math.ceil(v) for v in later))


def warm_cures(steps: Sequence[BuildStep], airframe: Airframe, shop: ShopWish) -> dict[str, WarmCure]:
    """What may go into the shop's box, by step: one piece with glue on it, short enough, of what stands its warmth."""
    if shop.warm_box is None:
        return {}
    parts = {p.id: p for p in airframe.parts}
    out = {}
    for o in steps:
        part = parts.get(o.part_id or "")
        if part is not None and o.glue_key and o.fixed_min and _goes_in(part, shop.warm_box):
            cure = warm_cure(o.glue_key, shop.warmth_C, shop.warm_box.warm_C)
            if cure is not None:
                out[o.key] = cure
    return out


def _goes_in(part: Part, box: WarmBox) -> bool:
    if max(part.span_mm, part.root_chord_mm) > box.long_mm:
        return False
    foam = reference().foams.get(part.foam) if part.foam else None
    family = families().get(foam.family) if foam is not None else None
    return family is None or box.warm_C <= family.softens_C.low - BELOW_C


def box_for(cure: WarmCure, box: WarmBox) -> Box:
    """A place in the box as the schedule takes it."""
    return Box(NAME, cure.fixed, 0 if box.thermostat else cure.fixed)


def put_in(
    steps: Sequence[BuildStep], warm: Mapping[str, WarmCure], chosen: frozenset[str], warm_C: float
) -> list[BuildStep]:  # fmt: skip
    """The steps with the waits of those that go into the box."""
    by_key = {o.key: o for o in steps}
    caution = cautions_for({"process:warm_box"})
    out = []
    for o in steps:
        after = []
        for a in o.after:
            wait = warm[a.key].wait(by_key[a.key], a) if a.key in chosen and a.key in by_key else None
            after.append(a if wait is None else a.model_copy(update={"wait_min": wait}))
        changes: dict[str, object] = {"after": after}
        if o.key in chosen:
            cautions = [*o.cautions, *(c for c in caution if c not in o.cautions)]
            changes |= {"fixed_min": warm[o.key].fixed, "loaded_min": warm[o.key].loaded, "box_C": warm_C,
                        "cautions": cautions}  # fmt: skip
        out.append(o.model_copy(update=changes))
    return out
