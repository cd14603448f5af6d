"""A repair computed in full: the part as mended against the whole part, sample by sample, cured and at a launch."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from fletcher.core.adhesion.adhesives import adhesives, curings
from fletcher.core.common.arrays import Array
from fletcher.core.common.quantities import G2, G, from_root, in_g, in_mm, in_N_mm
from fletcher.core.document.airframe import Airframe, BarLayer, Part
from fletcher.core.document.defaults import default_case
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.estimate import phrasing
from fletcher.core.estimate.analyse import Analysis, under_all
from fletcher.core.estimate.balance import centre_of_mass
from fletcher.core.estimate.effort import effort_of
from fletcher.core.estimate.prepare import Prepared, prepared_for
from fletcher.core.estimate.report import read_at, twist_at
from fletcher.core.estimate.schema import CaseVerdict
from fletcher.core.estimate.verdicts import lowest, verdict_of
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import Band, Inputs, band
from fletcher.core.repair.cures import Cures, new_joints
from fletcher.core.repair.damage_model import as_damaged, parted_at, taken_along
from fletcher.core.repair.economics import packs_of, worth_of
from fletcher.core.repair.grounding import grounded_by
from fletcher.core.repair.inspection import as_left, stiffness_left
from fletcher.core.repair.operations import glues_of, needs_of, tools_of, work_of
from fletcher.core.repair.phrasing import fix_words, mark_words, name_of, recipe_words
from fletcher.core.repair.recipe import Recipe, mended
from fletcher.core.repair.repair_table import steps_of
from fletcher.core.repair.schema import (
    BALANCES,
    CaseMended,
    CheckAfter,
    FixTold,
    Kind,
    MendNeed,
    MendOption,
    MendWish,
)
from fletcher.core.repair.single_fix import replaced_cost
from fletcher.core.repair.speeds import IN_THE_AIR, judging
from fletcher.core.validation.airframe import check_part

_STEP = 0.08
"""A fall of stiffness beyond this share at the end of something laid on is told."""
_NONE = Inputs([])


@dataclass(frozen=True)
class State:
    """A part prepared, under its cases, and on the bench with a weight and a couple at its tip."""

    prepared: Prepared
    analyses: list[Analysis]
    bench: list[Analysis]
    verdicts: list[CaseVerdict]


def state_of(airframe: Airframe, part: Part, sound: Part | None = None) -> State:
    """A checked part for comparison; `sound` is it without the marks that stay: what is missing of it is no gain."""
    p = prepared_for(part, airframe.setting)
    bench = [default_case(kind, airframe, part) for kind in ("tip_weight", "tip_twist")]
    own = list(under_all(p, airframe, part, list(judging(part))))
    if sound is not None:
        whole = under_all(prepared_for(sound, airframe.setting), airframe, sound, list(judging(sound)))
        own = [replace(a, whole=b) for a, b in zip(own, whole, strict=True)]
    hung = list(under_all(p, airframe, part, bench, judged=False))
    return State(p, own, hung, [verdict_of(a) for a in own])


@dataclass(frozen=True)
class Computed:
    """A repair with the arrays behind it: the whole part, the mended one, and the joints that the repair made."""

    option: MendOption
    whole: State
    then: State
    cures: Cures

    def over_old(self) -> Array:
        """Strength (S,) over the whole part's, were its seams glued over scraped old glue."""
        return np.asarray(np.min(self.cures.holds(None, over_old=True) / _holds(self.whole), axis=0))


def computed(
    airframe: Airframe, part: Part, recipe: Recipe, wish: MendWish, kinds: Sequence[Kind] = (),
    whole: State | None = None, left: Array | None = None,
) -> Computed:  # fmt: skip
    """A repair of a checked part with marks of damage, computed in full; `whole` is the state of the part unhurt,
    `left` what it holds as damaged (`holds_damaged`).

    Raises
    ------
    InvalidDocument
        If it cannot be made: what it adds does not fit, the glue attacks the foam, or it leaves the part in two.
    """
    part = taken_along(part)
    whole_part = part.model_copy(update={"damage": ()})
    after, broken = makeable(part, recipe)
    sound = after.model_copy(update={"damage": ()}) if after.damage else None
    _warm_enough(part, recipe, wish.warmth_C)
    whole, then = whole or state_of(airframe, whole_part), state_of(airframe, broken, sound)
    marks = {m.id: m for m in part.damage}
    steps = [s for f in recipe.fixes if f.mark in marks for s in steps_of(f, marks[f.mark], part)]
    cures = Cures(then.analyses, new_joints(part, after, recipe), wish.warmth_C)
    holds, was = _holds(then), _holds(whole)
    if cures.own.spliced:  # as hands make it
        holds = np.minimum(holds, cures.holds(None))
    floor = np.zeros_like(holds)
    if all(f.adds for f in recipe.fixes):  # what only adds leaves it no weaker than it was
        floor = np.minimum(holds_damaged(airframe, part, whole) if left is None else left, was)
        holds = np.maximum(holds, floor)
    asked = np.array([[a.case.safety_factor] for a in then.analyses])
    waits = {key: band(wait, _NONE) for key, wait in cures.waits(holds, asked).items()}
    grams = [s.prepared.grams.sum(0) for s in (whole, then)]
    rolls, aft = _rolls(part, whole, then), _balance(airframe, part, whole, then, grams)
    checks = _checks(whole, then, grams, rolls, aft)
    work = work_of(part, recipe, waits, _gauge(part, recipe), checks, wish.warmth_C)
    launch, seams = np.zeros_like(holds), cures.seams()
    if work.set <= wish.fly_in_min:
        launch = np.maximum(cures.holds(max(wish.fly_in_min - work.closed, 0.5)), floor)
        launch = np.minimum(launch, holds)  # no draw holds more before its glue is full than after
    bend, twist = stiffness_left(whole.analyses[0], then.analyses[0])
    effort = effort_of(whole_part)
    more = effort_of(after.model_copy(update={"damage": ()})).cost
    bars = sum(replaced_cost(part, f) for f in recipe.fixes)
    cost = Band(**{k: max(getattr(more, k) - getattr(effort.cost, k), 0.0) + bars for k in ("typ", "low", "high")})
    strength = band(100 * np.min(holds / was, axis=0), _NONE)
    worth = worth_of(work.hands, cost, effort, strength, float(grams[1][0] - grams[0][0]), wish.hour_worth)
    needs = needs_of(part, after, recipe, wish.at_hand)
    option = MendOption(
        kinds=list(kinds), recipe=recipe, says=recipe_words(recipe, part), part=after,
        fixes=[FixTold(mark_id=f.mark, says=fix_words(f, marks[f.mark]),
                       steps=[s.name for s in steps_of(f, marks[f.mark], part)])
               for f in recipe.fixes if f.mark in marks],
        cases=[
            _case(a, b, h, x, c.case.type in IN_THE_AIR)
            for a, b, h, x, c in zip(whole.verdicts, then.verdicts, holds, launch, then.analyses, strict=True)
        ],
        strength_percent=strength, launch_percent=band(100 * np.min(launch / was, axis=0), _NONE),
        seam_percent=None if seams is None else band(100 * np.min(seams / was, axis=0), _NONE), bend_percent=bend,
        twist_percent=twist, more_g=band(grams[1] - grams[0], _NONE), rolls_g=rolls,
        balance_mm=aft, minutes=work.hands, fly_min=work.flies, loaded_min=work.loaded, cost=cost,
        packs=packs_of(needs, cost),
        looks=min((s.looks for s in steps), default=2), skill=max((s.skill for s in steps), default=1),
        in_the_field=all(s.in_the_field for s in steps),
        needs=[MendNeed(key=k, name=n, at_hand=h) for k, n, h in needs],
        tools=tools_of(work.operations),
        left=[mark_words(m) for m in part.damage if m.id in {d.id for d in after.damage}],
        grounded=grounded_by(after) or "",
        weak_says=_weak(then),
        steps_at=_ends(part, after, then),
        operations=work.operations, checks=checks,
        worth=worth.says, break_even=worth.break_even, mend_cheaper=worth.mend,
    )  # fmt: skip
    return Computed(option, whole, then, cures)


def holds_damaged(airframe: Airframe, part: Part, whole: State) -> Array:
    """Times the load (cases, S) that a part holds as damage leaves it; nothing where it is in two or cannot be told."""
    broken = as_damaged(taken_along(part))
    none = np.zeros((len(whole.analyses), len(whole.prepared.draws.foam.G)))
    try:
        if parted_at(broken) is not None:
            return none
        return np.array([np.minimum(a.judged.breaks, 1e9) for a in as_left(airframe, broken, whole.analyses)])
    except (IndexError, ValueError, np.linalg.LinAlgError):
        return none


def makeable(part: Part, recipe: Recipe) -> tuple[Part, Part]:
    """The part as mended, and with what stays broken of it.

    Raises
    ------
    InvalidDocument
        If the repair cannot be made.
    """
    after = mended(part, recipe)
    problems = _impossible(part, after, recipe)
    if problems:
        raise InvalidDocument(problems)
    broken = as_damaged(after)
    if after.damage and parted_at(broken) is not None:
        message = "leaves the part in two: repair every mark that goes right through"
        raise InvalidDocument([Problem(path="recipe.fixes", message=message, value="left as it is")])
    return after, broken


def _warm_enough(part: Part, recipe: Recipe, warmth_C: float) -> None:
    """Refuse a repair one of whose glues does not set at this warmth."""
    for key in glues_of(part, recipe):
        least = curings()[key].least_C
        if warmth_C < least:
            message = f"is too cold for {name_of(key)}, which sets from {least:g} °C on: warm the joint, or use another"
            raise InvalidDocument([Problem(path="wish.warmth_C", message=message, value=f"{warmth_C:g} °C")])


def _impossible(part: Part, after: Part, recipe: Recipe) -> list[Problem]:
    known = {m.id for m in part.damage}
    gaps = list(_gaps(after, recipe))
    if gaps:
        return gaps
    out = [
        Problem(path=f"recipe.fixes[{n}].mark", message="is not a damage mark on this part", value=repr(f.mark))
        for n, f in enumerate(recipe.fixes) if f.mark not in known
    ]  # fmt: skip
    for field in ("bed_glue", "splice_glue", "crack_glue"):
        key = getattr(recipe, field)
        if key is not None and key not in adhesives():
            out.append(Problem(path=f"recipe.{field}", message="is not an adhesive in the Stockroom", value=repr(key)))
    return out or [
        Problem(path=f"recipe: {p.path}", message=p.message, value=p.value) for p in check_part(after, reference())
    ]


def _gaps(after: Part, recipe: Recipe) -> Iterator[Problem]:
    """Sleeves that leave more room than their glue fills."""
    bars = reference().bars
    for fix in recipe.fixes:
        sleeved = [la for la in after.layers if isinstance(la, BarLayer) and la.sleeve is not None]
        for la in sleeved if fix.way in ("sleeve", "sleeve_one") else ():
            bar, sleeve = bars.get(la.stock), bars.get(fix.stock or "")
            outer, inner = (bar, sleeve) if bar is not None and bar.bore_mm else (sleeve, bar)
            bore = None if outer is None else outer.bore_mm
            room = (bore - (inner.diameter_mm or bore)) / 2 if bore and inner is not None else 0.0
            fills = adhesives()[recipe.of_splices].gap_mm.typ
            if room > fills + 1e-6:
                message = (
                    f"leaves {in_mm(room, G)} all round, which {name_of(recipe.of_splices)} does not fill: "
                    f"{in_mm(fills, G)} at most"
                )
                yield Problem(path="recipe.fixes", message=message, value=name_of(fix.stock or ""))


def _holds(s: State) -> Array:
    """Times the load (cases, S)."""
    return np.array([np.minimum(a.judged.breaks, 1e9) for a in s.analyses])


def _case(whole: CaseVerdict, then: CaseVerdict, holds: Array, launch: Array, flies: bool) -> CaseMended:
    return CaseMended(
        case_id=then.case_id, name=then.name, asked=then.asked, whole=whole.breaks_at, then=band(holds, _NONE),
        launch=band(launch, _NONE), enough=then.enough, says=phrasing.out_at(then.sentence, then.at_mm),
        at_mm=then.at_mm, in_the_air=flies,
    )  # fmt: skip


def _rolls(part: Part, whole: State, then: State) -> Band:
    """Grams at the other tip that balance sideways what the repair adds."""
    if part.kind == "fuselage" or part.hand == "single":
        return Band(typ=0.0, low=0.0, high=0.0)
    out, off = [], max(part.place.y_mm, 0.0)
    for s in (whole, then):
        out.append(s.prepared.mesh.integral(s.prepared.line_mass * (s.prepared.geometry.y + off)).sum(0))
    return band((out[1] - out[0]) / (off + part.span_mm), _NONE)


def _balance(airframe: Airframe, part: Part, whole: State, then: State, grams: list[Array]) -> float:
    """Shift aft of the balance point, mm: (Δ(m x) − Δm x_b)/M."""
    wing = next((p for p in airframe.parts if p.kind == "wing"), part)
    at = wing.place.x_mm + BALANCES * wing.root_chord_mm - part.place.x_mm
    moments = [float((centre_of_mass(s.prepared, part)[0] * g)[0])
               for s, g in zip((whole, then), grams, strict=True)]  # fmt: skip
    return (moments[1] - moments[0] - float(grams[1][0] - grams[0][0]) * at) / airframe.all_up_mass_g


def _weak(then: State) -> str:
    """What fails first in the mended part."""
    worst = lowest(then.verdicts)
    where = phrasing.out_at(worst.sentence, worst.at_mm)
    return f"Fails first after repair: {where}; breaks at {worst.breaks_at.typ:.2g} × “{worst.name}”."


def _ends(part: Part, after: Part, then: State) -> list[str]:
    """Where the stiffness in bending falls at the ends of what was laid on: the next break starts there."""
    known, named = {la.id for la in part.layers}, {la.name for la in part.layers}
    g, EI = then.prepared.geometry, then.prepared.sums.whole_EI[0]
    found: list[tuple[float, str]] = []
    for la in after.layers:
        if la.id in known or la.name in named or la.type not in ("bar", "strip", "film"):
            continue  # a broken bar in two lengths keeps its name
        for at, inwards in ((la.start_mm, 1.0), (la.end_mm or part.span_mm, -1.0)):
            if not 5 < at < part.span_mm - 5:
                continue
            inside, outside = (EI[int(np.argmin(np.abs(g.inside - (at + d * inwards))))] for d in (2.0, -2.0))
            if outside < (1 - _STEP) * inside:
                name = la.name or la.type
                fall = 100 * (1 - outside / inside)
                found.append(
                    (fall, f"{from_root(at).capitalize()}, where “{name}” ends, it is {fall:.0f} % less stiff.")
                )
    return [text for _, text in sorted(found, reverse=True)[:3]]


def _gauge(part: Part, recipe: Recipe) -> str:
    if part.kind not in ("wing", "tail") or not any(f.way in ("graft", "scarf", "straighten") for f in recipe.fixes):
        return ""
    return "Before cutting, make nose and chord templates from the other half (mirrored)."


_BOWED_MM, _TWISTED_DEG = 2.0, 1.0
"""[J] How far a mended part may stand off straight, and twisted against the other half."""
_SCALES_G, _READ_MM, _READ_DEG = 0.5, 0.5, 0.2
"""[J] How well scales, a rule and two sticks are read."""


def _within(foreseen: Band, read: float) -> dict[str, float]:
    return {"least": foreseen.low - read, "most": foreseen.high + read}


def moved(aft: float) -> str:
    """Where the centre of gravity has gone, mm."""
    if abs(aft) < _READ_MM:
        return "it stays where it was"
    return f"it moves {in_mm(abs(aft), G2)} {'aft' if aft > 0 else 'forward'}"


def _checks(whole: State, then: State, grams: list[Array], rolls: Band, aft: float) -> list[CheckAfter]:
    """Checks with what is foreseen, on the bench in two minutes."""
    hung, turned = (s.case for s in whole.bench)
    bends = [band(np.abs(s.bench[0].deflection[:, read_at(s.bench[0])]), _NONE) for s in (whole, then)]
    turns = [band(np.degrees(np.abs(s.bench[1].twist[:, twist_at(s.bench[1])])), _NONE) for s in (whole, then)]
    half = "compared with the other half"
    return [
        CheckAfter(
            what="Straight", how="straight edge along the spars and the rear edge", whole=None, mended=None,
            unit="mm", stop=f"more than {in_mm(_BOWED_MM, G)} off over the part, or another bow than the other half",
            least=0.0, most=_BOWED_MM,
        ),
        CheckAfter(
            what="Twist", how="two sticks across root and tip, sighted from behind", whole=None, mended=None, unit="°",
            stop="more than 1° different from the other half", least=-_TWISTED_DEG, most=_TWISTED_DEG,
        ),
        CheckAfter(
            what="Hung mass", how="on the scales, compared with before", whole=band(grams[0], _NONE),
            mended=band(grams[1], _NONE), unit="g", stop="outside the range: more or less glue or resin than planned",
            **_within(band(grams[1], _NONE), _SCALES_G),
        ),
        CheckAfter(
            what="Centre of gravity", how=f"balanced with mass in the other tip; along the airframe {moved(aft)}",
            whole=Band(typ=0.0, low=0.0, high=0.0), mended=rolls, unit="g", stop="outside the range",
            **_within(rolls, _SCALES_G),
        ),
        CheckAfter(
            what="Bend", how=f"root clamped, {in_g(getattr(hung, 'weight_g', 0), G)} hung from the tip, {half}",
            whole=bends[0], mended=bends[1], unit="mm", stop="outside the range, or does not spring back when "
                                                             "unloaded",
            **_within(bends[1], _READ_MM),
        ),
        CheckAfter(
            what="Twist under torque", how="root clamped, "
                                             f"{in_N_mm(getattr(turned, 'couple_N_mm', 0), G)} at the tip, "
            f"{half}", whole=turns[0], mended=turns[1], unit="°", stop="outside the range, or it ticks",
            **_within(turns[1], _READ_DEG),
        ),
    ]  # fmt: skip
