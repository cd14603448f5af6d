"""The ordered list of operations of a repair: minutes of hands, what has to set before the next, tools, checks,
cautions, and when each begins (`repair.chain`).

Heat comes before glue; bars before the foam beside them; foam before what is laid over it. Elsewhere on the part hands
may be busy meanwhile. A film that airs is coated, aired and closed: two operations with a wait between.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fletcher.core.adhesion.adhesives import adhesives, tried_first
from fletcher.core.adhesion.cautions import cautions_for
from fletcher.core.adhesion.curing import sets_at_once, techniques
from fletcher.core.adhesion.readiness import ready_after
from fletcher.core.document.airframe import JointLayer, Part
from fletcher.core.document.damage import Mark, PeeledMark
from fletcher.core.materials.materials import Range
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import Band
from fletcher.core.repair.chain import Chain, Task, soonest
from fletcher.core.repair.phrasing import fix_words, mark_words, name_of, place_of
from fletcher.core.repair.recipe import Fix, Recipe
from fletcher.core.repair.repair_table import OPENED_MM, RepairStep, steps_of
from fletcher.core.repair.schema import AfterOperation, CheckAfter, Operation
from fletcher.core.repair.way_glue import SPLICED, SPLICES, THREAD, WRAPPED, skin_glue, wrap_glue

_SEAMS = frozenset({
    "graft", "reglue", "scarf_faces", "dowel_pins", "reglue_joint", "splint", "doubler", "splint_inside", "flute_rod",
    "close_seam", "paper_again",
})  # fmt: skip
"""Steps that use the glue of the seams."""
_BEDS = frozenset({"rebed_bar", "sister_spar", "replace_bar"})
"""Steps that glue a bar into foam."""
_SPLICES = frozenset({"sleeve_rod", "sleeve_over", "scarf_bar"})
"""Steps that glue bars to one another."""
_JOINT_OF = {
    "splint": "bond", "relay_skin": "bond", "sister_spar": "bond", "rebed_bar": "bond", "replace_bar": "bond",
    "reglue": "seam", "scarf_faces": "seam", "pack_crack": "seam", "dowel_pins": "seam", "graft": "seam",
    "reskin": "lap", "close_seam": "seam", "paper_again": "bond",
}  # fmt: skip
"""The joint that a step makes, as its id tells it."""
_SKINS = frozenset({"relay_skin", "reskin"})
"""Steps that lay a skin."""
_HEATS = frozenset({"straighten", "warm_crush"})
_COLD = Range(10, 20, 40)
"""[J] Minutes until warmed foam is cold again."""
_CLOSES_MIN = 2.0
"""[J] Minutes of hands to close what was coated and aired."""
SAFE_MIN, CHECK_MIN = Range(3, 6, 12), Range(5, 10, 20)
"""[J] Minutes of hands to make safe and measure, and to check at the end."""
SCRAP_MIN = Range(2, 4, 8)
"""[J] Minutes of hands to try a glue on a scrap."""
_UNDO_MIN = Range(8, 15, 35)
_CLOTH = "epoxy_laminating"


def _glue_of(step: RepairStep, mark: Mark, recipe: Recipe, part: Part) -> str | None:
    """What a step is glued with, by key; None where nothing is."""
    if step.key in _BEDS:
        return recipe.of_beds(part)
    if step.key in _SPLICES:
        return recipe.of_splices
    if step.key == "wrap_bar":
        return wrap_glue(part)
    if step.key == "pack_crack":
        return recipe.of_cracks(part)
    if step.key == "cloth_patch":
        return _CLOTH
    if step.key in _SKINS and isinstance(mark, PeeledMark):
        return skin_glue(mark, part)
    return recipe.glue if step.key in _SEAMS else None


def _band(r: Range) -> Band:
    return Band(low=r.low, typ=r.typ, high=r.high)


_NOTHING = Range(0.0, 0.0, 0.0)


@dataclass(frozen=True)
class _Job:
    """An operation, and what the chain needs of it: hands, the mark and stage that it belongs to, minutes until it
    holds by itself (`fixed`), is set enough to be flown (`gels`), holds what is asked as well (`ready`) and is
    `loaded` in full, each low, typical, high; and within how many minutes it closes what the job before coated."""

    op: Operation
    hands: Range
    stage: int
    mark: Mark | None
    fixed: Range = _NOTHING
    gels: Range = _NOTHING
    ready: Range = _NOTHING
    loaded: Range = _NOTHING
    open: float = math.inf


@dataclass(frozen=True)
class Work:
    """The work of a repair: its operations in the order in which it is done soonest, minutes of hands, when the last
    seam is `closed`, and minutes until the end of a check before which all is `set`, holds what is asked (`flies`), or
    is `loaded` in full: typical hands and waits, and the slow end of every glue before the check."""

    operations: list[Operation]
    hands: Band
    closed: float
    set: float
    flies: Band
    loaded: float


def _jobs(
    step: RepairStep, fix: Fix, mark: Mark, recipe: Recipe, part: Part, warmth: float, waits: Mapping[str, Band]
) -> list[_Job]:  # fmt: skip
    """A step as one job, or as two where its film airs between."""
    key = _glue_of(step, mark, recipe, part)
    tags = [f"key:{k}" for k in step.cautions]
    how = step.how
    if key is not None:
        a = adhesives()[key]
        tags.append(f"adhesive:{key}")
        if key != _CLOTH:
            tags += [f"key:{k}" for k in a.hazards]
            how += f" Glue: {a.name}. {a.technique.rstrip('.')}."
    op = Operation(
        title=f"{step.name}: {mark_words(mark)}", how=f"{how} Here: {fix_words(fix, mark)}.", at_mm=place_of(mark),
        minutes=_band(step.minutes), starts_min=0.0, wait_min=None, wait_for="", tools=list(step.tools),
        checks=list(step.checks), never=list(step.never), cautions=cautions_for(tags),
    )  # fmt: skip
    if key is None:
        if step.key not in _HEATS:
            return [_Job(op, step.minutes, step.stage, mark)]
        op = op.model_copy(update={"wait_min": _band(_COLD), "wait_for": "cooling"})
        return [_Job(op, step.minutes, step.stage, mark, fixed=_COLD)]
    fixed = _times(key, "fixed", warmth)
    gels = _times(key, "flight_ready", warmth)
    holds = _strength_wait(step, fix, mark, waits)
    ready = _later(gels, Range(holds.low, holds.typ, holds.high))
    states = gels, ready, _later(ready, _times(key, "loaded", warmth))
    waits_for = "resin to set, then trim" if key == _CLOTH else "glue to hold without clamps"
    technique = next(iter(techniques(a)))
    if a.kind == "contact" and technique == "flashed" and sets_at_once(a, technique):
        return _aired(op, step, mark, key, fixed, states)
    if fixed.typ >= 1:
        op = op.model_copy(update={"wait_min": _band(fixed), "wait_for": waits_for})
    return [_Job(op, step.minutes, step.stage, mark, fixed, *states)]


def _later(one: Range, other: Range) -> Range:
    return Range(max(one.low, other.low), max(one.typ, other.typ), max(one.high, other.high))


def _aired(
    op: Operation, step: RepairStep, mark: Mark, key: str, fixed: Range, states: tuple[Range, Range, Range]
) -> list[_Job]:
    """Coated, aired, closed."""
    a = adhesives()[key]
    coats = Range(*(max(m - _CLOSES_MIN, 1.0) for m in (step.minutes.low, step.minutes.typ, step.minutes.high)))
    coat = op.model_copy(update={
        "minutes": _band(coats), "wait_min": _band(a.flash_min), "wait_for": "the film to air on both faces",
    })  # fmt: skip
    close = op.model_copy(update={
        "title": f"Close it: {mark_words(mark)}", "minutes": Band(low=1, typ=_CLOSES_MIN, high=4),
        "how": "When the film no longer strings to a fingertip, close it in one go against the straight edge and press "
        "hard over all of it: it cannot be shifted.",
        "tools": [], "never": ["Close it while it is wet: it then takes days"], "cautions": [],
    })  # fmt: skip
    return [
        _Job(coat.model_copy(update={"checks": []}), coats, step.stage, mark, fixed=a.flash_min),
        _Job(close, Range(1, _CLOSES_MIN, 4), step.stage, mark, fixed, *states, open=a.open_min.high),
    ]


def _times(key: str, state: str, warmth: float) -> Range:
    """Minutes until a glue is in a state at a warmth: quick, typical, slow."""
    typ, high = (ready_after(key, state, warmth, late=late) for late in (False, True))  # type: ignore[arg-type]
    return Range(min(0.6 * typ, typ), typ, max(high, typ))


def fixed_after(step: RepairStep, mark: Mark, recipe: Recipe, part: Part, warmth: float) -> float:
    """Typical minutes until what a step did holds by itself."""
    key = _glue_of(step, mark, recipe, part)
    if key is None:
        return _COLD.typ if step.key in _HEATS else 0.0
    return ready_after(key, "fixed", warmth)


def _strength_wait(step: RepairStep, fix: Fix, mark: Mark, waits: Mapping[str, Band]) -> Band:
    """Minutes until what a step glued lets the part hold what is asked."""
    own = f"mend-{mark.id}-"
    named = f"{own}{_JOINT_OF.get(step.key, '?')}"[:36]
    found = [w for key, w in waits.items() if key.startswith(named)]
    if fix.way in SPLICED and step.key in _SPLICES:
        found += [w for key, w in waits.items() if key == SPLICES]
    if step.key == "reglue_joint":
        found += [w for key, w in waits.items() if key == getattr(mark, "of", None)]
    found = found or [w for key, w in waits.items() if key.startswith(own[:36])]
    none = Band(low=0.0, typ=0.0, high=0.0)
    longest = max(found, key=lambda w: w.high, default=none)
    return Band(low=math.ceil(longest.low), typ=math.ceil(longest.typ), high=math.ceil(longest.high))


def _heats(job: _Job) -> bool:
    return job.stage == _HEAT_STAGE


_HEAT_STAGE = 2


def _before(one: _Job, other: _Job) -> bool:
    """Whether a job has to be done, and hold, before another: heat before any glue, and what lies beneath before what
    lies over it at the same place."""
    if one.stage >= other.stage:
        return False
    if one.mark is None or other.mark is None or _heats(one):
        return True
    if one.mark.id == other.mark.id:
        return True
    here, there = place_of(one.mark), place_of(other.mark)
    return here is not None and there is not None and abs(here - there) <= OPENED_MM


def _tasks(jobs: Sequence[_Job], pace: str, slow: str, state: str = "ready") -> list[Task]:
    """The jobs as a chain: hands and waits between them at one pace, waits before the check, for a state, at
    another."""
    out = []
    for n, job in enumerate(jobs):
        closes = math.isfinite(job.open)
        before = [n - 1] if closes else [
            m for m, other in enumerate(jobs) if _before(other, job) and not _coats(jobs, m)
        ]  # fmt: skip
        after = tuple((m, float(getattr(jobs[m].fixed, pace))) for m in before)
        hands, ready = float(getattr(job.hands, pace)), float(getattr(getattr(job, state), slow))
        out.append(Task(hands, after, 0.0 if _coats(jobs, n) else ready, job.open))
    return out


def _coats(jobs: Sequence[_Job], n: int) -> bool:
    return n + 1 < len(jobs) and math.isfinite(jobs[n + 1].open)


def work_of(
    part: Part, recipe: Recipe, waits: Mapping[str, Band], gauge: str, checks: list[CheckAfter], warmth: float = 20.0
) -> Work:  # fmt: skip
    """The work of a repair in the order in which it flies soonest; `waits` minutes until each joint that it makes lets
    the part hold what is asked, by id; `warmth` of the joints while they cure, °C."""
    jobs = [_Job(_safe(gauge), SAFE_MIN, 0, None)]
    if recipe.over_old:
        jobs.append(_Job(_undo(), _UNDO_MIN, 1, None))
    for key in glues_of(part, recipe):
        if tried_first(key, part.foam):
            fixed = _times(key, "fixed", warmth)
            jobs.append(_Job(_scrap(key, part, fixed), SCRAP_MIN, 1, None, fixed=fixed))
    marks = {m.id: m for m in part.damage}
    for fix in recipe.fixes:
        if fix.mark in marks:
            mark = marks[fix.mark]
            for step in steps_of(fix, mark, part):
                jobs += _jobs(step, fix, mark, recipe, part, warmth, waits)
    chain = soonest(_tasks(jobs, "typ", "high"), CHECK_MIN.typ)
    quick = soonest(_tasks(jobs, "low", "typ"), CHECK_MIN.low).flies
    slow = soonest(_tasks(jobs, "high", "high"), CHECK_MIN.high).flies
    set_, loaded = (soonest(_tasks(jobs, "typ", "high", state), CHECK_MIN.typ).flies for state in ("gels", "loaded"))
    ends = [chain.starts[n] + job.hands.typ for n, job in enumerate(jobs)]
    glued = [end for end, job in zip(ends, jobs, strict=True) if job.ready.high > 0]
    hands = Band(**{k: sum(getattr(j.hands, k) for j in jobs) + getattr(CHECK_MIN, k) for k in ("low", "typ", "high")})
    typical, place = _tasks(jobs, "typ", "high"), {n: k + 1 for k, n in enumerate(chain.order)}
    ops = [
        jobs[n].op.model_copy(update={"starts_min": chain.starts[n], "after": _afters(typical[n], place)})
        for n in chain.order
    ]
    waits_for = [AfterOperation(number=place[n], wait_min=typical[n].ready) for n in chain.order]
    ops += _last(chain, max(ends), checks, waits_for)
    flies = Band(low=min(quick, chain.flies), typ=chain.flies, high=max(slow, chain.flies))
    return Work(ops, hands, max(glued, default=max(ends)), set_, flies, loaded)


def _safe(gauge: str) -> Operation:
    return Operation(
        title="Make safe and measure", at_mm=None, minutes=_band(SAFE_MIN), starts_min=0.0, wait_min=None, wait_for="",
        how=("Remove the battery and put it outdoors on bare ground. Weigh the part. Lay it beside the other "
            f"half and note bend and twist. {gauge}").strip(),
        tools=["scales", "straight edge", "two sticks"], checks=[("Find every mark again and look for more "
                                                                 "damage")], never=[],
        cautions=cautions_for(["key:battery_crash"]),
    )  # fmt: skip


def _scrap(key: str, part: Part, fixed: Range) -> Operation:
    foam = reference().foams[part.foam or ""].name
    return Operation(
        title=f"Try {name_of(key)} on a scrap", at_mm=None, minutes=_band(SCRAP_MIN), starts_min=0.0,
        wait_min=_band(fixed), wait_for="the scrap to show what the glue does",
        how=f"Two scraps of {foam}, glued as the part will be. Press a nail into the foam beside the glue, then break "
        "them apart.", tools=["scraps of the same foam"],
        checks=["The foam is as hard as before and breaks beside the joint"],
        never=["Go on if the foam has sunk, gone soft or sticky, or the glue comes off clean: take another"],
        cautions=cautions_for([f"adhesive:{key}"]),
    )  # fmt: skip


def _undo() -> Operation:
    return Operation(
        title="Remove the quick fix", at_mm=None, minutes=_band(_UNDO_MIN), starts_min=0.0, wait_min=None,
        wait_for="", how="Peel tape slowly, folded flat back on itself. Scrape old glue down to clean foam, no "
                         "deeper; vacuum up the crumbs.", tools=["scraper", "abrasive", "brush"],
        checks=["Faces clean and dry, no shiny old glue"], never=["Pull tape straight up: it tears beads out"],
        cautions=cautions_for(["key:dust_general", "key:knife"]),
    )  # fmt: skip


def _afters(task: Task, place: Mapping[int, int]) -> list[AfterOperation]:
    within = None if math.isinf(task.open) else task.open
    return [
        AfterOperation(number=place[m], wait_min=wait, within_min=within if n == 0 else None)
        for n, (m, wait) in enumerate(task.after)
    ]


def _last(chain: Chain, ends: float, checks: list[CheckAfter], waits_for: list[AfterOperation]) -> list[Operation]:
    """What closes the chain: the wait for strength, the checks, the first flight."""
    none = Band(low=0, typ=0, high=0)
    out = []
    if chain.check - ends >= 1:
        wait = chain.check - ends
        out.append(
            Operation(
                title="Let it cure", at_mm=None, minutes=none, starts_min=ends,
                wait_min=Band(low=wait, typ=wait, high=wait), tools=[], checks=[], never=[],
                how="Flat, held straight, warm and dry. The wait is counted from the last seam, for the slow end of "
                "every glue.", wait_for="strength", cautions=[],
            )
        )  # fmt: skip
    out.append(
        Operation(
            title="Check against the prediction", at_mm=None, minutes=_band(CHECK_MIN), starts_min=chain.check,
            wait_min=None, wait_for="",
            how="Check straightness, twist, mass and balance, then load-test it beside the other half.",
            tools=["scales", "straight edge", "weight", "rule"], checks=[f"{c.what}: {c.how}" for c in checks],
            never=["Fly it just because it looks right"], cautions=cautions_for(["key:static_load_test"]),
            after=waits_for,
        )
    )  # fmt: skip
    out.append(
        Operation(
            title="First flight", at_mm=None, minutes=none, starts_min=chain.flies, wait_min=None, wait_for="",
            tools=[], how="Fly high, gently and close, with nobody underneath. Land and check every joint.",
            checks=["Joints after landing"], never=["Fly at full speed or in gusts on the first flight"],
            cautions=cautions_for(["key:flying_repaired"]),
            after=[AfterOperation(number=len(chain.order) + len(out), wait_min=0.0)],
        )
    )  # fmt: skip
    return out


def glues_of(part: Part, recipe: Recipe) -> list[str]:
    """What a repair glues with, by key, each once."""
    marks = {m.id: m for m in part.damage}
    steps = ((s, marks[f.mark]) for f in recipe.fixes if f.mark in marks for s in steps_of(f, marks[f.mark], part))
    return list(dict.fromkeys(k for s, m in steps if (k := _glue_of(s, m, recipe, part)) is not None))


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
    if any(f.way in WRAPPED for f in recipe.fixes):
        keys.append(THREAD)
    if any(f.way == "wrap_bar" for f in recipe.fixes):
        keys.append(wrap_glue(before))
    return [(k, name_of(k), k in at_hand if at_hand else None) for k in dict.fromkeys(keys)]
