"""The lightest lay-up of one construction that holds: its lines and its core grown and thinned by the steps in which
their stock comes.

Steps are chosen by trials with typical values; the result is estimated whole, with its bands. Where the low end of a
band does not hold though the typical value does, the search goes on with so much more asked of it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from fletcher.core.common.abandon import look_up
from fletcher.core.document.airframe import Airframe, Layer, Part, WallLayer
from fletcher.core.document.cases import FlightCase
from fletcher.core.document.shapes import FoldedSection
from fletcher.core.document.stock_steps import foam_ladder, heavier, lighter
from fletcher.core.estimate import phrasing
from fletcher.core.estimate.report import estimate
from fletcher.core.estimate.schema import CaseVerdict, Estimate
from fletcher.core.materials.tables import reference
from fletcher.core.studies.what_if import Trial, possible, trial, with_layer

DIVERGES_AT = 1.3
"""A wing or tail must not diverge below so many times the top speed."""
FLEXES = 0.15
"""A wing or tail may flex by so much of its span in a flight case at the load itself: more changes how it flies."""
_MOST_STEPS = 14
_ROUNDS = 4
_SPARE = 1.02
"""So much more is asked of a trial than its band needs, so that the estimate is not missed by a hair."""
_NOTICED = 1.003
"""A step that gives less than this gives nothing."""


@dataclass(frozen=True)
class Sized:
    """A part whose lay-up was grown or thinned for its load cases, and its estimate. `holds` where every case that
    counts holds even at the low end of its band; `says` are the steps from the usual lay-up in words, `short` why it
    does not hold."""

    part: Part
    told: Estimate
    holds: bool
    says: tuple[str, ...]
    short: str


@dataclass(frozen=True)
class _Step:
    part: Part
    trial: Trial
    says: str


def sized(airframe: Airframe, part: Part) -> Sized:
    """The lightest lay-up of a checked part that holds in all of its cases that count, by steps of its own stock; the
    strongest where none does.

    Raises
    ------
    Abandoned
        If nobody waits for it any more.
    """
    now = _Step(part, trial(airframe, part, part.counted), "")
    told = _estimated(airframe, part)
    for _ in range(_ROUNDS):
        goals = _goals(now, told)
        now = _thinned(airframe, _grown(airframe, now, goals), goals)
        told = _estimated(airframe, now.part)
        if _least_low(told) >= 1 or _enough(airframe, now, goals) < 1:
            break
    says = tuple(dict.fromkeys(_steps_between(part, now.part)))
    return Sized(now.part, told, _holds(airframe, now, told), says, _short(airframe, now, told))


def estimated(airframe: Airframe, part: Part) -> Sized:
    """A checked part as it stands, told like a sized one; why it may not hold is only known once it is sized."""
    told = _estimated(airframe, part)
    now = _Step(part, trial(airframe, part, part.counted), "")
    return Sized(part, told, _holds(airframe, now, told), (), "")


def _holds(airframe: Airframe, now: _Step, told: Estimate) -> bool:
    return _least_low(told) >= 1 and _enough(airframe, now, {}) >= 1


Goals = dict[str, float]
"""By case, the typical margin that it takes for the low end of the band to hold."""


def _goals(now: _Step, told: Estimate) -> Goals:
    """From an estimate with bands and the trial of the same lay-up."""
    lows = {v.case_id: max(_low(v), 1e-3) for v in told.verdicts}
    return {
        c.case_id: min(max(_SPARE * min(c.margin, c.stays_at) / lows[c.case_id], 1.0), 6.0) for c in now.trial.cases
    }


def _estimated(airframe: Airframe, part: Part) -> Estimate:
    """The part in its airframe, whose other parts it may need: a tail its wing."""
    others = tuple(p for p in airframe.parts if p.id != part.id)
    return estimate(airframe.model_copy(update={"parts": (part, *others)}), part.id)


def _least_low(told: Estimate) -> float:
    return _low(_shortest(told))


def _shortest(told: Estimate) -> CaseVerdict:
    """The case whose low end is least, of those that count, or of all where none does."""
    return min([v for v in told.verdicts if v.counts] or told.verdicts, key=_low)


def _low(verdict: CaseVerdict) -> float:
    """The low end of the multiple of the load at which it breaks, a member of it does, or something stays."""
    stays = (c.comes_at.low for c in verdict.change_modes if c.stays)
    return min(verdict.margin.low, verdict.first_break.low, *stays)


def _enough(airframe: Airframe, step: _Step, goals: Goals) -> float:
    """What it has over what is needed, the least of margin, divergence and flex: 1 and more is enough."""
    t, part = step.trial, step.part
    shares = [min(c.margin, c.stays_at) / goals.get(c.case_id, 1.0) for c in t.cases]
    if part.kind in ("wing", "tail"):
        shares.append(t.divergence_m_s / (DIVERGES_AT * airframe.top_speed_m_s))
        flown = {c.id for c in part.cases if isinstance(c, FlightCase)}
        shares += [FLEXES * part.span_mm / max(c.bend_mm, 1e-9) for c in t.cases if c.case_id in flown]
    return min(shares)


def _tried(airframe: Airframe, part: Part, says: str) -> _Step | None:
    look_up()
    return _Step(part, trial(airframe, part, part.counted), says) if possible(part) else None


def _grown(airframe: Airframe, now: _Step, goals: Goals) -> _Step:
    """Grown until it is enough: at each step by what gives most for its grams; as far as any step gives something."""
    for _ in range(_MOST_STEPS):
        has = _enough(airframe, now, goals)
        if has >= 1:
            break
        best, most = None, 0.0
        for part, says in _more(now.part):
            step = _tried(airframe, part, says)
            if step is None:
                continue
            reached = min(_enough(airframe, step, goals), 1.0)
            if reached < _NOTICED * has:
                continue
            gain = (reached - has) / max(step.trial.mass_g - now.trial.mass_g, 0.02)
            if gain > most:
                best, most = step, gain
        if best is None:
            break
        now = best
    return now


def _thinned(airframe: Airframe, now: _Step, goals: Goals) -> _Step:
    """Thinned as long as it stays enough: at each step by what saves most."""
    if _enough(airframe, now, goals) < 1:
        return now
    for _ in range(_MOST_STEPS):
        found = [s for part, says in _less(now.part) if (s := _tried(airframe, part, says)) is not None]
        fits = [s for s in found if _enough(airframe, s, goals) >= 1 and s.trial.mass_g < now.trial.mass_g]
        if not fits:
            break
        now = min(fits, key=lambda s: s.trial.mass_g)
    return now


def _more(part: Part) -> Iterator[tuple[Part, str]]:
    yield from _stepped(part, heavier)
    yield from _denser(part)


def _less(part: Part) -> Iterator[tuple[Part, str]]:
    yield from _stepped(part, lighter)


def _stepped(part: Part, steps: Callable[[Layer], Iterator[tuple[Layer, str]]]) -> Iterator[tuple[Part, str]]:
    """A step in each line. All walls of one sheet take it together, and the board that the section is folded from."""
    seen: set[str] = set()
    for layer in part.layers:
        if not layer.enabled or (isinstance(layer, WallLayer) and layer.sheet in seen):
            continue
        for other, says in steps(layer):
            if isinstance(layer, WallLayer) and isinstance(other, WallLayer) and other.sheet != layer.sheet:
                yield _of_sheet(part, layer.sheet, other.sheet), says
            else:
                yield with_layer(part, other), says
        if isinstance(layer, WallLayer):
            seen.add(layer.sheet)


def _of_sheet(part: Part, old: str, new: str) -> Part:
    layers = tuple(
        la.model_copy(update={"sheet": new, "weighed_g_per_m2": None})
        if isinstance(la, WallLayer) and la.sheet == old
        else la
        for la in part.layers
    )
    section = part.section
    if isinstance(section, FoldedSection) and section.board == old:
        section = section.model_copy(update={"board": new})
    return part.model_copy(update={"layers": layers, "section": section})


def _denser(part: Part) -> Iterator[tuple[Part, str]]:
    """The next denser foam of the same product. A lighter core than usual is not tried: dents and fingers decide
    there, which no load case asks."""
    if part.foam is None or part.foam not in reference().foams:
        return
    ladder = [f for f in foam_ladder(part.foam) if f.density_kg_m3.typ > reference().foams[part.foam].density_kg_m3.typ]
    if ladder:
        yield part.model_copy(update={"foam": ladder[0].key}), ladder[0].name


def _steps_between(usual: Part, found: Part) -> Iterator[str]:
    """What differs from the usual lay-up, in words."""
    names = {key: m.name for t in vars(reference()).values() for key, m in t.items()}
    if usual.foam != found.foam and found.foam is not None:
        yield names[found.foam]
    for a, b in zip(usual.layers, found.layers, strict=True):
        if a == b:
            continue
        stock = next((str(v) for f in ("stock", "sheet", "skin") if isinstance(v := getattr(b, f, None), str)), "")
        words = [names.get(stock, b.name)]
        if (plies := getattr(b, "plies", 1)) != getattr(a, "plies", 1):
            words.append("one ply" if plies == 1 else f"{plies} plies")
        if (wide := getattr(b, "width_mm", None)) != getattr(a, "width_mm", None) and wide is not None:
            words.append(f"{wide:g} mm wide")
        yield ", ".join(words)


def _short(airframe: Airframe, now: _Step, told: Estimate) -> str:
    """Why it is not enough, if so: what breaks, and that the stock has nothing more that helps."""
    case = _shortest(told)
    if _low(case) < 1:
        member = case.first_mode is not None and case.first_break.low < case.margin.low
        breaks = case.first_mode.sentence if member and case.first_mode else case.sentence
        sure = "only likely" if case.enough == "likely" else "not enough"
        return f"{case.name}: {phrasing.inline(breaks)}; its thickest stock that fits is {sure}"
    if now.trial.divergence_m_s < DIVERGES_AT * airframe.top_speed_m_s and now.part.kind in ("wing", "tail"):
        return "it twists too easily for this speed, and thicker stock does not help"
    return "it flexes too far, and thicker stock does not help" if _enough(airframe, now, {}) < 1 else ""
