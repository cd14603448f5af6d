"""A quick fix now and a sound repair later: what the first leaves in the part, and what the second then reaches."""

from __future__ import annotations

from fletcher.core.common.quantities import F1, in_g
from fletcher.core.joints.butt_and_scarf import REACHED
from fletcher.core.materials.uncertainty import Band, Inputs, band
from fletcher.core.repair.evaluate import Computed
from fletcher.core.repair.phrasing import LEFT_AS_IT_IS
from fletcher.core.repair.repair_table import repair_steps
from fletcher.core.repair.schema import Staged

_SEAMS = frozenset({"reglue", "scarf", "pack", "graft"})
"""Ways whose faces a later repair glues again."""


SEAM_LOST = 1 - REACHED["over_old"].typ / REACHED["mended"].typ
"""Share of a seam that is lost where it is glued over scraped old glue."""


def stages_of(options: list[Computed]) -> list[Staged]:
    """The quick fix now, and the sound or else the restored one later. Of what is ready by the launch what leaves the
    faces of the break bare comes before what glues them."""
    quick = [c for c in options if "quick" in c.option.kinds and c.option.says != LEFT_AS_IT_IS]
    for kind in ("sound", "restored"):
        later = next((c for c in options if kind in c.option.kinds and "quick" not in c.option.kinds), None)
        if quick and later is not None:
            return [staged(min(quick, key=_glues), later)]
    return []


def _glues(c: Computed) -> bool:
    return any(f.way in _SEAMS for f in c.option.recipe.fixes)


def staged(first: Computed, then: Computed) -> Staged:
    """The later repair over the faces that the quick one glued (`joints.butt_and_scarf.REACHED`), and the share of the
    quick one's grams that stays in the part, by the table of steps."""
    names = {name for f in first.option.fixes for name in f.steps}
    steps = [s for s in repair_steps().values() if s.name in names]
    glued = _glues(first) and _glues(then)
    clean = then.option.strength_percent
    later = band(100 * then.over_old(), Inputs([])) if glued else clean
    grams = max(first.option.more_g.typ, 0.0) * sum(s.stays for s in steps) / max(len(steps), 1)
    undo = sum(s.undo_min for s in steps)
    lost = 100 * SEAM_LOST if glued else 0.0
    return Staged(
        first=first.option.says, then=then.option.says, stays_g=grams, undo_min=undo, seam_lost_percent=lost,
        strength_percent=later, clean_percent=clean,
        recipe=then.option.recipe.model_copy(update={"over_old": glued}), says=costs(undo, grams, lost, clean, later),
    )  # fmt: skip


def costs(undo_min: float, grams: float, lost: float, clean: Band, later: Band) -> str:
    """What the first repair costs the second: minutes to take it off, grams that stay, per cent of the seam; and what
    that does to the part."""
    out = f"Costs the second repair {undo_min:.0f} min"
    if lost < 1:
        return f"{out} and {in_g(grams, F1)}; its faces stay clean, so that it is not weakened."
    out += f", {in_g(grams, F1)} and {lost:.0f} % of the seam"
    if clean.typ - later.typ < 1:
        return f"{out}; the part then holds what it would on clean faces, for its seams do not govern."
    return f"{out}; the part then holds {later.typ:.0f} % in place of {clean.typ:.0f} %."
