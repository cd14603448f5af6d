"""A quick fix now and a sound repair later: what the first leaves in the part, and what the second then reaches."""

from __future__ import annotations

from fletcher.core.airframe import Airframe, Part
from fletcher.core.mend_option import State, mend_option
from fletcher.core.mend_results import MendOption, MendWish, Staged
from fletcher.core.repair_table import steps_of

_SEAMS = frozenset({"reglue", "scarf", "pack", "graft"})
"""Ways whose faces a later repair glues again."""


def staged(
    airframe: Airframe, part: Part, first: MendOption, then: MendOption, wish: MendWish, whole: State
) -> Staged:  # fmt: skip
    """The later repair over the faces that the quick one glued: `over_old` of its seams (`joint_across.REACHED`), and
    the share of the quick one's grams that stays in the part, by the table of steps."""
    marks = {m.id: m for m in part.damage}
    steps = [s for f in first.recipe.fixes if f.mark in marks for s in steps_of(f, marks[f.mark], part)]
    glued = any(f.way in _SEAMS for f in first.recipe.fixes)
    stays = sum(s.stays for s in steps) / max(len(steps), 1)
    recipe = then.recipe.model_copy(update={"over_old": glued})
    later = mend_option(airframe, part, recipe, wish, (), whole) if glued else then
    grams = max(first.more_g.typ, 0.0) * stays
    undo = sum(s.undo_min for s in steps)
    lost = then.strength_percent.typ - later.strength_percent.typ
    says = f"{grams:.1f} g stay, about {undo:.0f} min to take it off and scrape"
    if not glued:
        says += "; its faces stay clean, so the later repair is not weakened"
    elif lost < 1:
        says += "; the later repair reaches what it would on clean faces, for its seams do not govern"
    else:
        says += f"; over old glue the later repair reaches {later.strength_percent.typ:.0f} % in place of "
        says += f"{then.strength_percent.typ:.0f} %"
    return Staged(
        first=first.says, then=then.says, stays_g=grams, undo_min=undo, strength_percent=later.strength_percent,
        clean_percent=then.strength_percent, recipe=recipe, says=says + ".",
    )  # fmt: skip
