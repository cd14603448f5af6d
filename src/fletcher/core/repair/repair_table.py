"""The table of repair steps: what each takes, asks and leaves behind. Minutes, looks and skill are judgement (grade C);
strength is not in the table, it is computed from the part that results."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cache

from fletcher.core.adhesion.adhesives import foam_families
from fletcher.core.document.airframe import Part
from fletcher.core.document.damage import BarMark, Mark
from fletcher.core.materials.materials import Range
from fletcher.core.materials.reader import Kinds, Listed, record, records
from fletcher.core.materials.tables import reference
from fletcher.core.repair.damage_model import TAKEN
from fletcher.core.repair.mark_menu import construction_of
from fletcher.core.repair.phrasing import place_of
from fletcher.core.repair.recipe import Fix


@dataclass(frozen=True)
class RepairStep:
    """A step of a repair. `stage` orders steps; looks 1 poor to 5 like new, skill 1 easy to 5 hard; `stays` the share
    of its grams that stays when it is taken off again, which takes `undo_min` minutes."""

    key: str
    name: str
    stage: int
    foams: Kinds
    minutes: Range
    looks: int
    in_the_field: bool
    skill: int
    tools: Listed
    how: str
    checks: Listed
    never: Listed
    cautions: Listed
    stays: float
    undo_min: float
    grade: str
    basis: str

    def suits(self, part: Part) -> bool:
        """Whether the part's foam takes it, or its walls; foams that the table does not know take what any does."""
        if part.foam is None:
            return not self.foams or _WALLS.get(construction_of(part), "") in self.foams
        family = foam_families().get(part.foam)
        return not self.foams or family is None or family in self.foams


_WALLS = {"twin_wall": "FLUTED_PP", "folded": "PFB_PAPER", "box": "PFB_PAPER", "moulded": "EPO"}
"""What walls count as, by the construction."""
OPENED_MM = 30.0
"""[J] A break so near to a broken bar has laid it open."""


@cache
def repair_steps() -> dict[str, RepairStep]:
    """All steps by their keys."""
    return records("repairs.csv", lambda row: record(RepairStep, row, names={"in_the_field": "field"}))


_OVER = {
    "pins": "dowel_pins", "splints": "splint", "tape_one": "tape_one", "tape_both": "tape_both",
    "tape_wrap": "tape_wrap",
    "filament": "filament_tape", "cloth": "cloth_patch", "doubler": "doubler", "doubler_both": "doubler",
    "straps": "splint", "straps_both": "splint_inside", "flute_rods": "flute_rod",
    "paper": "paper_again",
}  # fmt: skip
_WAY = {
    "reglue": "reglue", "scarf": "scarf_faces", "pack": "pack_crack", "graft": "graft", "warm": "warm_crush",
    "fill": "fill", "relay": "relay_skin", "reskin": "reskin", "sister": "sister_spar", "sleeve": "sleeve_rod",
    "scarf_bar": "scarf_bar", "wrap_bar": "wrap_bar", "replace_bar": "replace_bar", "rebed": "rebed_bar",
    "reglue_joint": "reglue_joint", "hinge_tape": "hinge_tape", "hinge_cement": "hinge_cement",
    "straighten": "straighten", "close_seam": "close_seam",
}  # fmt: skip


_LAID_BARE = frozenset({"sleeve", "sleeve_one", "scarf_bar", "wrap_bar"})
"""Ways for which a bar is laid bare; one that nobody saw is looked at first, whatever the way."""


def steps_of(fix: Fix, mark: Mark, part: Part) -> list[RepairStep]:
    """The steps of a fix, in order."""
    keys = []
    unseen = isinstance(mark, BarMark) and mark.id.startswith(TAKEN) and fix.way != "leave"
    if isinstance(mark, BarMark) and (unseen or fix.way in _LAID_BARE) and _covered(mark, part):
        keys.append("open_cap")
    if fix.way in _WAY:
        keys.append("sleeve_over" if fix.way == "sleeve" and _goes_over(fix, mark, part) else _WAY[fix.way])
    if fix.way == "sleeve_one":
        keys += ["sleeve_over" if _goes_over(fix, mark, part) else "sleeve_rod", "replace_bar"]
    if fix.way == "graft" and fix.stock is not None:
        keys.append("reskin")
    if fix.over != "none":
        keys.append(_OVER[fix.over])
    found = [_without_wire(s, part) for s in (repair_steps()[k] for k in keys)]
    return sorted(found, key=lambda s: s.stage)


def _goes_over(fix: Fix, mark: Mark, part: Part) -> bool:
    """Whether a sleeve is a tube over the broken bar, not a rod within it."""
    bars, line = reference().bars, next((la for la in part.layers if la.id == getattr(mark, "of", None)), None)
    sleeve, bar = bars.get(fix.stock or ""), bars.get(str(getattr(line, "stock", "")))
    return sleeve is not None and bar is not None and (sleeve.bore_mm or 0.0) >= (bar.diameter_mm or max(bar.size()))


_WIRES = ("hot wire or ", " or hot wire")


def _without_wire(step: RepairStep, part: Part) -> RepairStep:
    """A step with a saw or blade alone where the foam must not be cut by a hot wire."""
    if part.foam is None or reference().foams[part.foam].hot_wire or "hot_wire_fumes" not in step.cautions:
        return step
    tools = step.tools
    for words in _WIRES:
        tools = tuple(t.replace(words, "") for t in tools)
    return replace(step, tools=tools, cautions=tuple(c for c in step.cautions if c != "hot_wire_fumes"))


def _covered(mark: BarMark, part: Part) -> bool:
    """Whether a skin hides the place of a broken bar, where no break has opened it."""
    near = (place_of(m) for m in part.damage if m.kind in ("break", "missing"))
    opened = any(at is not None and abs(at - mark.at_mm) < OPENED_MM for at in near)
    return not opened and any(la.type in ("film", "wall") and la.enabled for la in part.layers)
