"""Repairs in words."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from typing import Any

from fletcher.core.adhesion.adhesives import adhesives, tried_first
from fletcher.core.common.quantities import F0, from_root, in_mm, number
from fletcher.core.document.airframe import Part
from fletcher.core.document.damage import BarMark, BentMark, Mark
from fletcher.core.materials.tables import reference
from fletcher.core.repair.recipe import Fix, Recipe
from fletcher.core.repair.repair_lines import STAGGER
from fletcher.core.repair.way_glue import BEDDED, SPLICED, THREAD, wrap_glue

KINDS = {
    "crack": "Crack", "break": "Clean break", "crush": "Crushed area", "missing": "Missing piece",
    "crease": "Crease", "opened": "Open seam", "peeled": "Peeled skin or tape", "bar": "Broken spar",
    "loose": "Loose joint or hinge",
    "bent": "Bend",
}  # fmt: skip

_WAYS = {
    "leave": "left as it is", "reglue": "butt-glued", "scarf": "scarfed 1 : 4 and glued",
    "pack": "glue worked into the crack", "graft": "patched with the same foam", "warm": "swelled back with heat",
    "fill": "filled (shape only, no strength)", "relay": "skin glued back down", "reskin": "new skin with overlap",
    "sister": "sister spar beside it", "sleeve": "sleeved",
    "sleeve_one": "one sleeved, a new spar for the other", "scarf_bar": "scarfed",
    "wrap_bar": "wrapped with thread", "replace_bar": "new spar in the old slot",
    "rebed": "glued back into its slot", "reglue_joint": "reglued", "hinge_tape": "re-hinged with tape",
    "hinge_cement": "repaired with rubbery cement", "straighten": "heated and straightened",
    "strap": "strapped over the crease", "close_seam": "seam glued shut",
}  # fmt: skip

_OVERS = {
    "pins": "{count} pins of {name}, {each} into each side",
    "splints": "splints of {name} on both faces, {first} and {far} to each side",
    "tape_one": "{name} over one face, {each} to each side",
    "tape_both": "{name} over both faces, {first} and {far} to each side",
    "tape_wrap": "{name} wrapped round it, {each} to each side",
    "filament": "{name} from root to tip on both faces",
    "doubler": "doublers of the same sheet on every wall, {each} to each side",
    "doubler_both": "doublers of the same sheet outside and inside, {each} to each side",
    "straps": "{count} strips of {name} on each wall, {each} to each side",
    "straps_both": "{count} strips of {name} on each wall, outside and inside, {each} to each side",
    "flute_rods": "{count} rods of {name} in the flutes of each wall, {each} to each side",
    "paper": "{name} over every wall, grain along, {each} to each side",
    "cloth": "{name} over it, {first} and {far} to each side",
}


def _names() -> Iterator[Mapping[str, Any]]:
    catalogue = reference()
    yield from (catalogue.bars, catalogue.skins, catalogue.sheets, catalogue.foams, catalogue.cloths, catalogue.cords)
    yield adhesives()


def is_known(key: str) -> bool:
    """Whether a key names stock or an adhesive."""
    return any(key in table for table in _names())


def name_of(key: str) -> str:
    """The name of a stock, skin or adhesive by its key."""
    return next((str(table[key].name) for table in _names() if key in table), key)


FIELD_BOX = (
    "hotmelt_low", "ca_foamsafe", "contact_foamsafe_clear", "solvent_rubbery_clear", "pu_foaming_white", "epoxy_5min",
    "epoxy_laminating", "bopp_tape_std", "filament_tape_bi", "filament_tape_uni", "glass_49", "bamboo_skewer_3",
    "craftstick_10x2", "carbon_rod_2", "carbon_rod_3", THREAD,
)  # fmt: skip
"""What is often in a box that goes to the field, by key: asked for before a repair is looked for."""


def place_of(mark: Mark) -> float | None:
    """Where a mark lies, mm from the root; of a stretch its middle."""
    if isinstance(mark, BentMark):
        return None
    at = getattr(mark, "at_mm", None)
    if at is not None:
        return float(at)
    start, end = getattr(mark, "start_mm", None), getattr(mark, "end_mm", None)
    return None if start is None or end is None else 0.5 * (float(start) + float(end))


def mark_words(mark: Mark) -> str:
    """A mark by its kind and place."""
    at = place_of(mark)
    kind = "Split spar" if isinstance(mark, BarMark) and mark.how == "split" else KINDS[mark.kind]
    if isinstance(mark, BarMark) and mark.how == "pulled_out":
        kind = "Spar pulled out"
    return kind if at is None else f"{kind} {from_root(at)}"


def fix_words(fix: Fix, mark: Mark) -> str:
    """How a mark is mended, in a phrase."""
    out = f"{mark_words(mark)}: {_WAYS[fix.way]}"
    name = name_of(fix.stock) if fix.stock else ""
    if fix.way == "sister":
        far_side = number(STAGGER * fix.each_side_mm, "mm", F0)
        out += f", {name}, {in_mm(fix.each_side_mm, F0)} to one side and {far_side} to the other"
    elif fix.way in ("sleeve", "sleeve_one"):
        out += f", {name}, {in_mm(fix.each_side_mm, F0)} to each side"
    elif fix.way == "replace_bar":
        out += f", {name}"
    elif fix.way == "scarf_bar":
        out += f" over {in_mm(2 * fix.each_side_mm, F0)}"
    elif fix.way == "reskin":
        out += f" {in_mm(fix.each_side_mm, F0)}"
    elif fix.way == "graft" and name:
        out += f", covered with {name}"
    if fix.over != "none":
        far = STAGGER * fix.each_side_mm
        out += ", " + _OVERS[fix.over].format(
            name=name, first=number(fix.each_side_mm, "mm", F0), each=in_mm(fix.each_side_mm, F0), far=in_mm(far, F0),
            count=fix.count,
        )  # fmt: skip
    return out


LEFT_AS_IT_IS = "Left as it is"
"""A repair that mends nothing."""


def recipe_words(recipe: Recipe, part: Part) -> str:
    """A repair in a line: what it does to the marks that it mends, the gravest first, and its glue."""
    marks = {m.id: m for m in part.damage}
    done = [f for f in recipe.fixes if f.way != "leave" and f.mark in marks]
    order = ["break", "bar", "crack", "crease", "missing", "crush", "opened", "loose", "peeled", "bent"]
    done.sort(key=lambda f: order.index(marks[f.mark].kind))
    told = [_short(f) for f in done]
    if not told:
        return LEFT_AS_IT_IS
    others = (
        ("joints", recipe.glue, any(f.seamed for f in done)),
        ("cracks", recipe.of_cracks(part), any(f.way == "pack" for f in done)),
        ("spars", recipe.of_beds(part), any(f.way in BEDDED for f in done)),
        ("spars", recipe.of_splices, any(f.way in SPLICED for f in done)),
        ("thread", wrap_glue(part), any(f.way == "wrap_bar" for f in done)),
    )
    glues: dict[str, list[str]] = {}
    for what, key, used in others:
        if used:
            name = short_name(key) + (", tried on a scrap first" if tried_first(key, part.foam) else "")
            glues.setdefault(name, []).append(what)
    return "; ".join([
        *dict.fromkeys(told), *(f"{' and '.join(dict.fromkeys(what))} with {name}" for name, what in glues.items()),
    ])  # fmt: skip


def short_name(key: str) -> str:
    """A name without its make-up, which stands where it is needed."""
    return re.sub(r"\s*\([^)]*\)", "", name_of(key))


def _short(fix: Fix) -> str:
    out = _WAYS[fix.way]
    if fix.over.startswith("doubler"):
        out += " under doublers" + (" on both sides" if fix.over == "doubler_both" else "")
    elif fix.over == "flute_rods" and fix.stock:
        out += f", rods in the flutes ({name_of(fix.stock)})"
    elif fix.over != "none" and fix.stock:
        out += " under " + (f"{name_of(fix.stock)}" if fix.over != "pins" else f"pins of {name_of(fix.stock)}")
    elif fix.stock and fix.way in ("sister", "sleeve", "sleeve_one", "replace_bar"):
        out += f" ({name_of(fix.stock)})"
    return out
