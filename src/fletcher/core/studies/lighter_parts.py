"""What of the structure could be lighter on the heavy side of the target, and what that loses.

Where the tail is heavy every gram behind the target costs grams ahead of it. Each line of a part there is tried in the
next thinner stock, with its paper peeled, or left out; foam in the next lighter density; a hollow fuselage with its
belly opened; a horn of lighter stock. What is promised is the balance computed again with it. A change is refused that
takes a part below what is needed.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from fletcher.core.balance.forecast import Known
from fletcher.core.balance.schema import BalanceSheet
from fletcher.core.balance.sheet import balance_sheet
from fletcher.core.common.model import Result
from fletcher.core.common.quantities import F0, in_mm
from fletcher.core.document.airframe import (
    Airframe,
    CutLayer,
    FilmLayer,
    FittingLayer,
    Layer,
    Part,
    Setting,
    StripLayer,
    WallLayer,
)
from fletcher.core.document.stock_steps import foam_ladder, lighter
from fletcher.core.estimate.phrasing import inline, line_label, too_slow
from fletcher.core.estimate.prepare import prepared_for
from fletcher.core.estimate.report import estimate
from fletcher.core.estimate.schema import CaseVerdict, Estimate
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import Band, samples
from fletcher.core.section.assembly import line_span
from fletcher.core.studies.what_if import possible, with_layer, without

Loss = Literal["lighter", "thinner", "left_out", "peeled", "opened"]
MINUTES: dict[Loss, float] = {"lighter": 15, "thinner": 30, "left_out": 15, "peeled": 30, "opened": 40}
"""[J] Hands-on, for the parts of both sides."""
WORTH = 0.01
"""[J] What gives less than this share of what is missing is not shown."""
NEARER_MM = 0.05
"""The centre must come nearer to the target by more than this."""
MOST = 8
"""So many are computed in full: those that give most."""
_RIM_MM, _APART_MM = 8.0, 25.0
"""An opened belly keeps so wide a rim at each side, and so much whole wall between it and another opening."""


class LighterWay(Result):
    """A way to take grams off the heavy side: the part as it then is, grams (negative), where the airframe then
    balances, the share of what is missing that it gives; and what it loses: the least margin of the part over its load
    cases and its torsional stiffness at the weakest place, before and after. Refused where it is not `enough`."""

    says: str
    loss: Loss
    part: Part
    grams: float
    centre_mm: float
    gives_percent: float
    minutes: float
    margin_before: Band
    margin: Band
    torsion_percent: float
    loses: str
    enough: bool


@dataclass(frozen=True)
class _Change:
    says: str
    loss: Loss
    part: Part


def lighter_parts(airframe: Airframe, known: Sequence[Known] = ()) -> list[LighterWay]:
    """Ways to lighten what lies on the heavy side of the target, best first, the refused last; none where the centre
    is inside its range or not known."""
    sheet = balance_sheet(airframe, known)
    if sheet is None or sheet.margin is None or "battery" in sheet.missing:
        return []
    m = sheet.margin
    if m.front_mm <= sheet.centre_mm.typ <= m.rear_mm:
        return []
    missing = sheet.mass_g.typ * (sheet.centre_mm.typ - m.target_mm)
    found: list[tuple[float, _Change, BalanceSheet]] = []
    for change in _changes(airframe, sheet):
        if not possible(change.part):
            continue
        after = balance_sheet(_with(airframe, change.part), known)
        if after is None or after.mass_g.typ > sheet.mass_g.typ - 0.05:
            continue
        gives = 1 - after.mass_g.typ * (after.centre_mm.typ - m.target_mm) / missing
        # what lies between target and centre lessens the missing g·mm and yet moves the centre the wrong way
        nearer = abs(sheet.centre_mm.typ - m.target_mm) - abs(after.centre_mm.typ - m.target_mm)
        if gives >= WORTH and nearer > NEARER_MM:
            found.append((gives, change, after))
    found.sort(key=lambda f: -f[0])
    ways = [_way(airframe, change, sheet, after, gives) for gives, change, after in found[:MOST]]
    return sorted(ways, key=lambda w: (not w.enough, w.loss != "lighter", w.gives_percent < 100, w.grams, w.minutes))


def _with(airframe: Airframe, part: Part) -> Airframe:
    return airframe.model_copy(update={"parts": tuple(part if p.id == part.id else p for p in airframe.parts)})


def _changes(airframe: Airframe, sheet: BalanceSheet) -> Iterator[_Change]:
    assert sheet.margin is not None
    target = sheet.margin.target_mm
    tail_heavy = sheet.centre_mm.typ > target
    places: dict[tuple[str | None, str | None], list[float]] = {}
    for line in sheet.lines:
        places.setdefault((line.part_id, line.layer_id), []).append(line.x_mm)

    def heavy(part: Part, layer: Layer | None) -> bool:
        at = places.get((part.id, None if layer is None else layer.id))
        return at is not None and (sum(at) / len(at) > target) == tail_heavy

    for part in airframe.parts:
        if part.kind == "plank":
            continue
        if heavy(part, None):
            yield from _lighter_foam(part)
        for layer in part.layers:
            if layer.enabled and heavy(part, layer):
                yield from _of_layer(part, layer, airframe.setting)
        if part.kind == "fuselage" and tail_heavy:
            yield from _belly(part, target)


def _lighter_foam(part: Part) -> Iterator[_Change]:
    if part.foam is None:
        return
    ladder = foam_ladder(part.foam)
    at = next(i for i, f in enumerate(ladder) if f.key == part.foam)
    if at > 0:
        foam = ladder[at - 1]
        yield _Change(f"{part.name}: foam {foam.name}", "thinner", part.model_copy(update={"foam": foam.key}))


def _of_layer(part: Part, layer: Layer, setting: Setting) -> Iterator[_Change]:
    with samples(0):
        label = line_label(prepared_for(part, setting).elements, part.layers.index(layer))
    name = f"{part.name}, {label}"
    if isinstance(layer, FittingLayer):
        yield from _lighter_horn(part, layer, name)
        return
    for changed, says in lighter(layer):
        yield _Change(f"{name}: {says}", "thinner", with_layer(part, changed))
    if isinstance(layer, FilmLayer | StripLayer):
        yield _Change(f"{name}: leave it out, or peel it off", "left_out", without(part, layer.id))
    sheet = reference().sheets.get(layer.sheet) if isinstance(layer, WallLayer) else None
    if isinstance(layer, WallLayer) and sheet is not None and sheet.facing is not None and layer.paper == "both":
        for paper, which in (("outer", "inner paper"), ("none", "paper off both sides")):
            peeled = layer.model_copy(update={"paper": paper, "weighed_g_per_m2": None})
            yield _Change(f"{name}: peel the {which}", "peeled", with_layer(part, peeled))


def _lighter_horn(part: Part, layer: FittingLayer, name: str) -> Iterator[_Change]:
    own = reference().fittings.get(layer.stock)
    if own is None or own.family != "horn":
        return
    light = [f for f in reference().fittings.values() if f.family == "horn" and f.mass_g.typ < 0.9 * own.mass_g.typ]
    for horn in sorted(light, key=lambda f: f.mass_g.typ)[:1]:
        changed = layer.model_copy(update={"stock": horn.key, "weighed_g": None})
        yield _Change(f"{name}: {horn.name}", "lighter", with_layer(part, changed))


def _belly(part: Part, target: float) -> Iterator[_Change]:
    """The lower wall of a hollow fuselage opened behind the target, with a rim left at each side."""
    if part.foam is not None or len(part.layers) >= 32:
        return
    first, last = _longest_free(part, max(target - part.place.x_mm, 0.0))
    width = min(part.root_chord_mm, part.tip_chord_mm) - 2 * _RIM_MM
    if last - first < 60 or width < 15:
        return
    taken = {la.id for la in part.layers}
    own = next(f"belly-{n}" for n in range(1, 99) if f"belly-{n}" not in taken)
    cut = CutLayer(
        id=own, name="Opened belly", face="lower", start_mm=round(first), end_mm=round(last),
        width_mm=round(width), depth_mm=0.0, corner_radius_mm=5.0,
    )  # fmt: skip
    says = f"{part.name}: open the belly from {in_mm(cut.start_mm, F0)} to {in_mm(cut.end_mm or 0, F0)}"
    yield _Change(says, "opened", part.model_copy(update={"layers": (*part.layers, cut)}))


def _longest_free(part: Part, behind_mm: float) -> tuple[float, float]:
    """The longest stretch behind a place that no other opening comes near."""
    spans = sorted(line_span(la, part) for la in part.layers if isinstance(la, CutLayer) and la.enabled)
    best, at = (behind_mm, behind_mm), max(behind_mm, 0.05 * part.span_mm)
    for start, end in [*spans, (0.95 * part.span_mm + _APART_MM, part.span_mm)]:
        best = max(best, (at, start - _APART_MM), key=lambda s: s[1] - s[0])
        at = max(at, end + _APART_MM)
    return best


def _way(airframe: Airframe, change: _Change, now: BalanceSheet, after: BalanceSheet, gives: float) -> LighterWay:
    part = next(p for p in airframe.parts if p.id == change.part.id)
    changed = _with(airframe, change.part)
    before, then = (estimate(a, part.id, brief=True) for a in (airframe, changed))
    old, new = _least(before), _least(then)
    with samples(0):
        GJ = [float(prepared_for(p, airframe.setting).fields.torsion[0].min()) for p in (part, change.part)]
    needed = min(1.0, old.margin.low)
    """Where a part does not hold as it is, it must not hold less."""
    top = airframe.top_speed_m_s
    slow = _slow(then, top) and (not _slow(before, top) or _lowest_speed(then) < _lowest_speed(before))
    weak = new.margin.low < needed - 1e-9
    return LighterWay(
        says=change.says,
        loss=change.loss,
        part=change.part,
        grams=after.mass_g.typ - now.mass_g.typ,
        centre_mm=after.centre_mm.typ,
        gives_percent=100 * gives,
        minutes=MINUTES[change.loss],
        margin_before=old.margin,
        margin=new.margin,
        torsion_percent=100 * GJ[1] / GJ[0],
        loses=_loses(old.margin, new, weak, then.shakes.caution if slow and then.shakes else None, GJ[1] / GJ[0]),
        enough=not weak and not slow,
    )


def _least(found: Estimate) -> CaseVerdict:
    """The case that leaves least at its low end, of those that count."""
    return min([v for v in found.verdicts if v.counts] or found.verdicts, key=lambda v: v.margin.low)


def _slow(found: Estimate, top_speed_m_s: float) -> bool:
    s = found.shakes
    return s is not None and too_slow(s.divergence_m_s, s.reversal_m_s, top_speed_m_s)


def _lowest_speed(found: Estimate) -> float:
    """At which it may first twist away or its control reverse, m/s; infinite where at none."""
    s = found.shakes
    speeds = (s.divergence_m_s, s.reversal_m_s) if s is not None else ()
    return min((b.low for b in speeds if b is not None), default=math.inf)


def _loses(before: Band, v: CaseVerdict, weak: bool, slow: str | None, torsion: float) -> str:
    margins = f"margin {before.low:.2g} to {before.high:.2g}, then {v.margin.low:.2g} to {v.margin.high:.2g}"
    stiff = "" if torsion > 0.99 else f"; {100 * torsion:.0f} % of its torsional stiffness left at the weakest place"
    why = f". Too weak under “{v.name}”: {inline(v.sentence)}" if weak else f". {slow}" if slow else ""
    return margins + stiff + why
