"""A quick fix now and a sound repair later: what the first leaves in the part, and what the second then reaches."""

from __future__ import annotations

from fletcher.core.common.quantities import F1, in_g
from fletcher.core.materials.uncertainty import Inputs, band
from fletcher.core.repair.evaluate import Computed
from fletcher.core.repair.repair_table import repair_steps
from fletcher.core.repair.schema import Staged

_SEAMS = frozenset({"reglue", "scarf", "pack", "graft"})
"""Ways whose faces a later repair glues again."""


def stages_of(options: list[Computed]) -> list[Staged]:
    """The quick fix now, and the sound or else the restored one later."""
    quick = next((c for c in options if "quick" in c.option.kinds), None)
    for kind in ("sound", "restored"):
        later = next((c for c in options if kind in c.option.kinds and c is not quick), None)
        if quick is not None and later is not None:
            return [staged(quick, later)]
    return []


def staged(first: Computed, then: Computed) -> Staged:
    """The later repair over the faces that the quick one glued (`joint_across.REACHED`), and the share of the quick
    one's grams that stays in the part, by the table of steps."""
    names = {name for f in first.option.fixes for name in f.steps}
    steps = [s for s in repair_steps().values() if s.name in names]
    glued = any(f.way in _SEAMS for f in first.option.recipe.fixes)
    clean = then.option.strength_percent
    later = band(100 * then.over_old(), Inputs([])) if glued else clean
    grams = max(first.option.more_g.typ, 0.0) * sum(s.stays for s in steps) / max(len(steps), 1)
    undo = sum(s.undo_min for s in steps)
    says = f"{in_g(grams, F1)} stay, about {undo:.0f} min to take it off and scrape"
    if not glued:
        says += "; its faces stay clean, so the later repair is not weakened"
    elif clean.typ - later.typ < 1:
        says += "; the later repair reaches what it would on clean faces, for its seams do not govern"
    else:
        says += f"; over old glue the later repair reaches {later.typ:.0f} % in place of {clean.typ:.0f} %"
    return Staged(
        first=first.option.says, then=then.option.says, stays_g=grams, undo_min=undo, strength_percent=later,
        clean_percent=clean, recipe=then.option.recipe.model_copy(update={"over_old": glued}), says=says + ".",
    )  # fmt: skip
