"""The ordered list of operations of a repair: minutes of hands, what has to set before the next, tools, checks,
cautions. Steps of one stage are done together and wait once."""

from __future__ import annotations

from fletcher.core.adhesion.adhesives import adhesives
from fletcher.core.adhesion.cautions import cautions_for
from fletcher.core.document.airframe import JointLayer, Part
from fletcher.core.document.damage import Mark
from fletcher.core.materials.materials import Range
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import Band
from fletcher.core.repair.phrasing import fix_words, mark_words, name_of, place_of
from fletcher.core.repair.recipe import Fix, Recipe
from fletcher.core.repair.repair_table import RepairStep, steps_of
from fletcher.core.repair.schema import CheckAfter, Operation
from fletcher.core.repair.way_glue import SPLICED

_SEAMS = frozenset({
    "graft", "reglue", "scarf_faces", "dowel_pins", "reglue_joint", "splint", "doubler",
})  # fmt: skip
"""Steps that use the glue of the seams."""
_BEDS = frozenset({"rebed_bar", "sister_spar", "replace_bar"})
"""Steps that glue a bar into foam."""
_SPLICES = frozenset({"sleeve_rod", "scarf_bar"})
"""Steps that glue bars to one another."""


def _glue_of(step: RepairStep, recipe: Recipe, part: Part) -> str | None:
    """What a step is glued with, by key; None where nothing is."""
    if step.key in _BEDS:
        return recipe.of_beds(part)
    if step.key in _SPLICES:
        return recipe.of_splices
    if step.key == "pack_crack":
        return recipe.of_cracks(part)
    return recipe.glue if step.key in _SEAMS else None


def _band(r: Range) -> Band:
    return Band(low=r.low, typ=r.typ, high=r.high)


def _step(step: RepairStep, fix: Fix, mark: Mark, recipe: Recipe, part: Part) -> Operation:
    key = _glue_of(step, recipe, part)
    tags = [f"key:{k}" for k in step.cautions]
    how = step.how
    if key is not None:
        a = adhesives()[key]
        tags += [f"adhesive:{key}", *(f"key:{k}" for k in a.hazards)]
        how += f" Glue: {a.name}. {a.technique.rstrip('.')}."
    if step.key == "cloth_patch":
        tags.append("adhesive:epoxy_laminating")
    return Operation(
        title=f"{step.name}: {mark_words(mark)}", how=f"{how} Here: {fix_words(fix, mark)}.", at_mm=place_of(mark),
        minutes=_band(step.minutes), wait_min=None, wait_for="", tools=list(step.tools), checks=list(step.checks),
        never=list(step.never), cautions=cautions_for(tags),
    )  # fmt: skip


def _waits(stage: list[tuple[RepairStep, Operation]], recipe: Recipe, part: Part) -> list[Operation]:
    """Operations of a stage; after the last of them comes the wait until it can be handled."""
    out = [op for _, op in stage]
    wait, wait_for = None, ""
    if any(s.key == "cloth_patch" for s, _ in stage):
        fix, wait_for = adhesives()["epoxy_laminating"].fixture_min, "the resin of the cloth to set; then trim it"
        wait = _band(fix)
    elif keys := sorted({k for s, _ in stage if (k := _glue_of(s, recipe, part)) is not None}):
        longest = max((adhesives()[k].fixture_min for k in keys), key=lambda f: f.typ)
        wait, wait_for = _band(longest), "the glue to hold by itself"
    elif any(s.key in ("straighten", "warm_crush") for s, _ in stage):
        wait, wait_for = Band(low=10, typ=20, high=40), "it to be cold"
    if wait is not None:
        out[-1] = out[-1].model_copy(update={"wait_min": wait, "wait_for": wait_for})
    return out


def operations_of(
    part: Part, recipe: Recipe, cure: Band, gauge: str, checks: list[CheckAfter]
) -> list[Operation]:  # fmt: skip
    """The work of a repair in order; `cure` minutes from the last seam until it may fly."""
    none = Band(low=0, typ=0, high=0)
    ops = [
        Operation(
            title="Make safe and measure", at_mm=None, minutes=Band(low=3, typ=6, high=12), wait_min=None, wait_for="",
            how="Battery out, outdoors, on ground that cannot burn. Weigh the part. Lay it beside the other half and "
            f"note bend and twist. {gauge}".strip(),
            tools=["scales", "straight edge", "two sticks"], checks=["Every mark found again; look for more"], never=[],
            cautions=cautions_for(["key:battery_crash"]),
        )
    ]  # fmt: skip
    marks = {m.id: m for m in part.damage}
    steps: list[tuple[RepairStep, Operation]] = []
    for fix in recipe.fixes:
        if fix.mark in marks:
            mark = marks[fix.mark]
            steps += [(s, _step(s, fix, mark, recipe, part)) for s in steps_of(fix, mark, part)]
    if recipe.over_old:
        ops.append(
            Operation(
                title="Take off the quick fix", at_mm=None, minutes=Band(low=8, typ=15, high=35), wait_min=None,
                wait_for="", how="Peel tape slowly along itself, flat back over the face. Scrape old glue to clean "
                "foam, no deeper; vacuum the crumbs.", tools=["scraper", "abrasive", "brush"],
                checks=["Faces clean, dry, no gloss of old glue"], never=["Pull tape straight up: beads come with it"],
                cautions=cautions_for(["key:dust_general", "key:knife"]),
            )
        )  # fmt: skip
    for stage in sorted({s.stage for s, _ in steps}):
        ops += _waits([(s, op) for s, op in steps if s.stage == stage], recipe, part)
    if cure.typ > 0:
        ops.append(
            Operation(
                title="Let it cure", at_mm=None, minutes=none, wait_min=cure, tools=[], checks=[], never=[],
                how="Flat, held straight, warm and dry. The wait is counted from the last seam.", wait_for="strength",
                cautions=[],
            )
        )  # fmt: skip
    ops.append(
        Operation(
            title="Check it against what is foreseen", at_mm=None, minutes=Band(low=5, typ=10, high=20), wait_min=None,
            wait_for="", how="Straightness, twist, weight, balance, then the bench test beside the other half.",
            tools=["scales", "straight edge", "weight", "rule"], checks=[f"{c.what}: {c.how}" for c in checks],
            never=["Fly it because it looks right"], cautions=cautions_for(["key:static_load_test"]),
        )
    )  # fmt: skip
    ops.append(
        Operation(
            title="First flight", at_mm=None, minutes=none, wait_min=None, wait_for="", tools=[],
            how="High, gently, near, with nobody beneath; land and look at every seam.", checks=["Seams after landing"],
            never=["Full speed or gusts on the first flight"], cautions=cautions_for(["key:flying_repaired"]),
        )
    )  # fmt: skip
    return ops


def tools_of(ops: list[Operation]) -> list[str]:
    """All tools of a list of operations, each once."""
    return list(dict.fromkeys(t for op in ops for t in op.tools))


def needs_of(before: Part, after: Part, recipe: Recipe, at_hand: tuple[str, ...]) -> list[tuple[str, str, bool | None]]:
    """Stock and glue of a repair by key and name, and whether it is at hand (None: not said)."""
    known = {la.id: la for la in before.layers}
    keys: list[str] = [f.stock for f in recipe.fixes if f.stock]
    glued = False
    for la in after.layers:
        if known.get(la.id) == la:
            continue
        if isinstance(la, JointLayer) and la.glue is not None:
            keys.append(la.glue.adhesive)
            glued = True
    if any(f.way == "graft" for f in recipe.fixes) and before.foam in reference().foams:
        keys.append(before.foam or "")
    if any(f.over == "cloth" for f in recipe.fixes):
        keys.append("epoxy_laminating")
    if not glued:
        keys = [k for k in keys if k != recipe.glue]
    if any(f.way in SPLICED for f in recipe.fixes):
        keys.append(recipe.of_splices)
    return [(k, name_of(k), k in at_hand if at_hand else None) for k in dict.fromkeys(keys)]
