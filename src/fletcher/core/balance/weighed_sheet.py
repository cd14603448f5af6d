"""The weighings of an airframe, told: what each did, left against right, steps, lessons, what is next, the plan."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from fletcher.core.balance.forecast import Z95, Forecast
from fletcher.core.balance.ledger import Entry
from fletcher.core.balance.schema_weighing import (
    GroupOver,
    LearnedAt,
    NextAt,
    PieceAt,
    SidesAt,
    StageAt,
    StepAt,
    WeighedSheet,
    WeighingAt,
)
from fletcher.core.balance.surprises import piece_name, questions
from fletcher.core.balance.weighin import WeighedIn, WeighIn
from fletcher.core.common.quantities import F0, F1, in_g, in_mm
from fletcher.core.document.airframe import Airframe
from fletcher.core.document.weighings import STAGES
from fletcher.core.materials.uncertainty import Band
from fletcher.core.validation.weighings import reading_sd

REAL = 2.0
"""A difference is real beyond so many standard deviations."""
_TAUGHT = 0.3
"""A cause that moved by fewer of its own standard deviations taught nothing worth telling."""
_WORTH = 0.05
"""A weighing that narrows the centre by less of its band is not asked for."""
_SHOWS_G = 1.0
"""Step of the scale that a piece to be weighed next is thought to lie on."""
NO_GRAMS = 0.05


def weighed_sheet(airframe: Airframe, entries: Sequence[Entry], before: Forecast, after: WeighIn) -> WeighedSheet:
    """What the weighings say; `before` is the forecast without them."""
    pieces = [p for p, _ in _pieces(airframe, entries, after.forecast)]
    planned = [e.line.typ for e in entries]
    at = sorted(after.covered)
    weighed, of_it = sum(float(after.forecast.grams[i]) for i in at), sum(planned[i] for i in at)
    groups = _groups(entries, after, at)
    (low, _, high), (first, _, last) = before.bands()
    return WeighedSheet(
        pieces=pieces,
        weighings=[_told(airframe, entries, planned, w) for w in after.weighings],
        sides=list(_sides(airframe, entries, after)),
        steps=list(_steps(entries, after)),
        learned=_learned(entries, after.forecast),
        next=_next(airframe, entries, after),
        planned_mass_g=Band(low=low, typ=before.mass()[0], high=high),
        planned_centre_mm=Band(low=first, typ=before.centre()[0], high=last),
        weighed_g=weighed,
        weighed_planned_g=of_it,
        groups=groups,
        says=_says(weighed, of_it, after.forecast.mass()[0], groups) if at else "Nothing is weighed yet.",
    )


def _band(typ: float, sd: float) -> Band:
    return Band(low=typ - Z95 * sd, typ=typ, high=typ + Z95 * sd)


def _pieces(airframe: Airframe, entries: Sequence[Entry], forecast: Forecast) -> Iterator[tuple[PieceAt, list[int]]]:
    """Every piece with its stages, and all its lines."""
    found: dict[str, list[int]] = {}
    for i, e in enumerate(entries):
        if e.piece:
            found.setdefault(e.piece, []).append(i)
    for key, own in found.items():
        stages: list[StageAt] = []
        for n, stage in enumerate(STAGES):
            at = [i for i in own if STAGES.index(entries[i].stage) <= n]
            if at and (not stages or len(at) > len(stages[-1].lines)):
                stages.append(StageAt(stage=stage, lines=[entries[i].key for i in at], grams=_band(*forecast.mass(at))))
        yield PieceAt(key=key, name=piece_name(airframe, entries[own[0]]), stages=stages), own


def name_of(airframe: Airframe, entries: Sequence[Entry], at: Sequence[int]) -> str:
    """What lay on the scale, in words."""
    if len(at) == 1:
        return entries[at[0]].line.name
    all_of = {e.piece for e in entries if e.piece}
    pieces = list(dict.fromkeys(entries[i].piece for i in at if entries[i].piece))
    if len(pieces) == len(all_of) and len(pieces) > 1:
        return "the whole airframe"
    names = [piece_name(airframe, next(e for e in entries if e.piece == p)) for p in pieces[:3]]
    return " + ".join(names) + (f" and {len(pieces) - 3} more" if len(pieces) > 3 else "")


def _told(airframe: Airframe, entries: Sequence[Entry], planned: Sequence[float], w: WeighedIn) -> WeighingAt:
    name = name_of(airframe, entries, w.at) if w.at else "something that is no longer there"
    expected = f"{in_g(w.expected_g, F1)} expected"
    more = in_g(abs(w.grams - w.expected_g), F1)
    side = "heavier" if w.off > 0 else "lighter"
    says = {
        "counts": f"as expected ({expected})",
        "heavy": f"{more} heavier than expected, more than 9 of 10 are off: it teaches",
        "light": f"{more} lighter than expected, more than 9 of 10 are off: it teaches",
        "surprise": f"{more} {side} than expected, more than 99 of 100 are off: check it, then it teaches",
        "replaced": "replaced by a later weighing",
        "gone": "not counted: something that lay on the scale is no longer listed",
    }[w.state]
    return WeighingAt(
        id=w.weighing.id,
        name=name,
        state=w.state,
        says=says,
        grams=_band(w.grams, w.sd_g),
        expected_g=None if w.state == "gone" else _band(w.expected_g, w.expected_sd_g),
        off=w.off,
        centre_mm=None if w.centre_mm is None else _band(w.centre_mm, w.centre_sd_mm or 0.0),
        questions=questions(airframe, entries, planned, w) if w.state == "surprise" else [],
    )


def _counting(after: WeighIn) -> list[WeighedIn]:
    return [w for w in after.weighings if w.state not in ("replaced", "gone")]


def _sides(airframe: Airframe, entries: Sequence[Entry], after: WeighIn) -> Iterator[SidesAt]:
    """Left against right, wherever the same lines of both were weighed."""
    by_keys = {frozenset(entries[i].key for i in w.at): w for w in _counting(after)}
    for keys, right in by_keys.items():
        left = by_keys.get(frozenset(_mirrored(k) for k in keys))
        if left is None or left is right or not all("/right" in k for k in keys):
            continue
        more, sd = right.grams - left.grams, math.hypot(right.sd_g, left.sd_g)
        real = abs(more) > REAL * sd
        part = airframe.part(entries[right.at[0]].part_id or "")
        what = part.name if part else entries[right.at[0]].line.name
        heavier = "right" if more > 0 else "left"
        says = f"the {heavier} one is {in_g(abs(more), F1)} heavier"
        if not real:
            says = f"alike, as far as the scale can tell ({in_g(abs(more), F1)} apart)"
        yield SidesAt(name=what, stage=right.weighing.stage, more_g=_band(more, sd), real=real, says=says)


def _mirrored(key: str) -> str:
    return "/".join({"right": "left", "left": "right"}.get(p, p) for p in key.split("/"))


def _steps(entries: Sequence[Entry], after: WeighIn) -> Iterator[StepAt]:
    """Weighings that differ by lines of one group: what that step added."""
    told = [w for w in after.weighings if w.state != "gone"]
    for n, later in enumerate(told):
        inside = [w for w in told[:n] if set(w.at) < set(later.at)]
        if not inside or later.weighing.taken_off:
            continue
        base = max(inside, key=lambda w: len(w.at))
        added = [entries[i] for i in later.at if i not in base.at]
        if {e.piece for e in added} - {entries[i].piece for i in base.at}:
            continue
        planned = sum(e.line.typ for e in added)
        grams, sd = later.grams - base.grams, math.hypot(later.sd_g, base.sd_g)
        groups = list(dict.fromkeys(e.group for e in added))
        name = " and ".join(groups) + f" of {added[0].line.name.split(':')[0]}"
        says = f"{in_g(grams, F1)} where {in_g(planned, F1)} were planned"
        yield StepAt(name=name, grams=_band(grams, sd), planned_g=planned, says=says)


def _learned(entries: Sequence[Entry], forecast: Forecast) -> list[LearnedAt]:
    """Causes that moved, as factors on what the table says of the lines that have them."""
    found = []
    for cause, (z, sd) in forecast.cause_values().items():
        if abs(z) < _TAUGHT or sd > 1 - 1e-6:
            continue
        own = [e.line for e in entries if cause in e.line.causes]
        spread = sum(math.log(o.high / o.typ if z > 0 else o.typ / o.low) / Z95 for o in own) / len(own)
        step = spread * math.sqrt(own[0].causes[cause])
        low, typ, high = (math.exp((z + k * sd) * step) for k in (-Z95, 0.0, Z95))
        found.append((abs(z) * step, LearnedAt(cause=cause, factor=Band(low=low, typ=typ, high=high))))
    return [told for _, told in sorted(found, key=lambda pair: -pair[0])][:6]


def _next(airframe: Airframe, entries: Sequence[Entry], after: WeighIn) -> NextAt | None:
    """The piece, as it will be when it is finished, whose weighing narrows the centre most."""
    _, sd = after.forecast.centre()
    done = [set(w.at) for w in _counting(after)]
    best: tuple[float, PieceAt] | None = None
    for piece, own in _pieces(airframe, entries, after.forecast):
        if set(own) in done:
            continue
        gain = after.forecast.narrows(own, reading_sd(after.forecast.mass(own)[0], _SHOWS_G))
        if best is None or gain > best[0]:
            best = gain, piece
    if best is None or sd <= 0 or best[0] < (1 - (1 - _WORTH) ** 2) * sd**2:
        return None
    left = math.sqrt(max(sd**2 - best[0], 0.0))
    says = (
        f"Weigh next: {best[1].name}. The centre of gravity is then known to ±{in_mm(Z95 * left, F1)} instead of "
        f"±{in_mm(Z95 * sd, F1)}."
    )
    return NextAt(piece=best[1].key, stage=best[1].stages[-1].stage, says=says)


def _groups(entries: Sequence[Entry], after: WeighIn, at: Sequence[int]) -> list[GroupOver]:
    found: dict[str, list[float]] = {}
    for i in at:
        sums = found.setdefault(entries[i].group, [0.0, 0.0])
        sums[0] += entries[i].line.typ
        sums[1] += float(after.forecast.grams[i])
    told = [GroupOver(group=g, planned_g=plan, weighed_g=real) for g, (plan, real) in found.items()]
    return sorted(told, key=lambda g: -abs(g.weighed_g - g.planned_g))


def _says(weighed: float, planned: float, whole: float, groups: Sequence[GroupOver]) -> str:
    off = weighed - planned
    side = "over" if off > 0 else "under"
    plan = "as planned" if abs(off) < NO_GRAMS else f"{in_g(abs(off), F1)} {side} plan"
    most = [g for g in groups if (g.weighed_g - g.planned_g) * off > 0 and abs(g.weighed_g - g.planned_g) >= NO_GRAMS]
    why = ", ".join(f"{g.group} {in_g(g.weighed_g, F0)} instead of {in_g(g.planned_g, F0)}" for g in most[:3])
    return f"{in_g(weighed, F0)} of {in_g(whole, F0)} weighed, {plan}{': ' + why if why else ''}."
