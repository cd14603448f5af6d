"""The balance of a whole airframe: ledger, centre with its band, neutral point, margin, remedies, battery bay."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from functools import lru_cache

import numpy as np

from fletcher.core.balance import margin as margins
from fletcher.core.balance.dynamics import inertia, sideways, targets, thrust
from fletcher.core.balance.flight import loading, speed_at
from fletcher.core.balance.forecast import Z95, Forecast, Known
from fletcher.core.balance.ledger import Entry, carried, lacking, ledger
from fletcher.core.balance.margin import WANTED, Margin
from fletcher.core.balance.neutral_point import Neutral, Surface, neutral_point
from fletcher.core.balance.remarks import lift_most, remarks_of
from fletcher.core.balance.remedies import Class, battery_bay, plan, price, ranked
from fletcher.core.balance.schema import (
    BalanceSheet,
    BayAt,
    GroupMass,
    LedgerLine,
    MannerAt,
    MarginAt,
    NeutralAt,
    RemedyAt,
    SurfaceAt,
)
from fletcher.core.balance.surfaces import Layout, layout_of
from fletcher.core.balance.versions import bay_of_all, compared, in_version
from fletcher.core.balance.ways import Way, ways_of
from fletcher.core.balance.weighed_sheet import weighed_sheet
from fletcher.core.balance.weighin import WeighIn, weigh_in
from fletcher.core.common.quantities import F0, in_mm
from fletcher.core.document.airframe import Airframe
from fletcher.core.document.equipment import Aim
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import Band
from fletcher.core.validation.equipment import box_of

SD_KAPPA_MAIN, SD_KAPPA, SD_WASH, SD_ETA, SD_BODY, SD_CENTRE = 0.03, 0.06, 0.15, 0.06, 0.35, 0.009
"""[J] Standard deviations of the logarithms behind the neutral point; the last in mean chords."""
TYPED_BATTERY_MM = 70.0
"""[J] Length of a battery whose mass is typed."""
UNSTABLE = 0.05
"""From such a chance of a negative margin on it is said first."""


def balance_sheet(airframe: Airframe, known: Sequence[Known] = ()) -> BalanceSheet | None:
    """Mass and balance of a checked airframe, with what was weighed of it and what is `known` of the builder's hand
    from other airframes; None where nothing of it flies."""
    all_versions, airframe = airframe, in_version(airframe)
    planned = ledger(airframe)
    if not planned:
        return None
    before = Forecast([e.line for e in planned])
    weighed = weigh_in(planned, airframe.weighings, known)
    forecast = weighed.forecast
    entries = _settled(planned, weighed)
    airframe = _as_weighed(airframe, entries)
    layout = layout_of(airframe)
    neutral, sd, causes_np = _neutral(layout)
    mass, centre = _bands(forecast)
    reach = _reach(airframe, entries)
    margin = None if neutral is None else _margin(airframe.aim, layout, neutral, sd, forecast)
    target = None if margin is None else sum(margin.range_mm) / 2
    missing = lacking(airframe, entries)
    knows = "battery" not in missing
    steps, ways = (
        _remedies(airframe, entries, margin, target, reach) if knows and margin and target is not None else ([], [])
    )
    bay = None if margin is None or target is None else _bay(entries, target, sd, reach)
    whole, turning = inertia(airframe, entries)
    lift = None if neutral is None else lift_most(airframe, layout)[1]
    stall = None if neutral is None else _stall(airframe, layout, mass.typ)
    built = [e for e in entries if e.item is None]
    area = None if neutral is None else _area(layout)
    weighed_items = {e.id: e for e in airframe.equipment}
    others = tuple(weighed_items.get(e.id, e) for e in all_versions.equipment)
    versions = compared(all_versions.model_copy(update={"equipment": others}), built, target, area, lift)
    structure = [i for i, e in enumerate(entries) if e.group != "equipment"]
    return BalanceSheet(
        says=_says(centre, margin, missing, steps),
        grade=None if margin is None or not knows else margin.grade,
        missing=missing,
        remarks=remarks_of(airframe, layout, margin, mass.typ, centre.typ),
        lines=[_line(e, i in weighed.covered, target, reach) for i, e in enumerate(entries)],
        groups=_groups(entries, forecast),
        mass_g=mass,
        structure_g=_band_of(forecast, structure),
        centre_mm=centre,
        height_mm=float(whole.at[2]),
        neutral=None if neutral is None else _neutral_at(layout, neutral, sd, causes_np),
        margin=None if margin is None or target is None else _margin_at(margin, target),
        causes=_causes(forecast),
        bay=bay,
        plan=steps,
        ways=ways,
        loading_g_dm2=None if neutral is None else loading(mass.typ, _area(layout)),
        stall_m_s=stall,
        all_up_typed_g=airframe.all_up_mass_g,
        inertia=turning,
        sideways=sideways(airframe, whole),
        thrust=thrust(airframe, layout, whole),
        targets=targets(airframe, mass, area, stall, lift),
        version=airframe.aim.version if versions else None,
        versions=versions,
        bay_of_all=bay_of_all(versions),
        weighed=weighed_sheet(airframe, planned, before, weighed),
        manners=[MannerAt(key=k, name=n, least_percent=a, most_percent=b) for k, (n, a, b) in WANTED.items()],
    )


def _settled(entries: Sequence[Entry], weighed: WeighIn) -> list[Entry]:
    """The lines with the masses that the weighings leave them."""
    if not weighed.weighings:
        return list(entries)
    low, high = np.percentile(weighed.forecast.draws, [5, 95], axis=0)
    typ = weighed.forecast.grams
    return [
        replace(e, line=replace(e.line, typ=float(t), low=min(float(a), float(t)), high=max(float(b), float(t))))
        for e, t, a, b in zip(entries, typ, low, high, strict=True)
    ]


def _as_weighed(airframe: Airframe, entries: Sequence[Entry]) -> Airframe:
    """Items with the mass that they are now thought to have: remedies move that."""
    if not airframe.weighings:
        return airframe
    grams: dict[str, list[float]] = {}
    for e in entries:
        if e.item is not None:
            grams.setdefault(e.item.id, []).append(e.line.typ)
    items = [i.model_copy(update={"mass_g": sum(grams[i.id]) / len(grams[i.id])}) for i in airframe.equipment]
    return airframe.model_copy(update={"equipment": tuple(items)})


def _mean(entries: Sequence[Entry], of: Sequence[float]) -> float:
    return sum(e.line.typ * v for e, v in zip(entries, of, strict=True)) / sum(e.line.typ for e in entries)


def _bands(forecast: Forecast) -> tuple[Band, Band]:
    (low, _, high), (first, _, last) = forecast.bands()
    return Band(typ=forecast.mass()[0], low=low, high=high), Band(typ=forecast.centre()[0], low=first, high=last)


def _band_of(forecast: Forecast, of: Sequence[int]) -> Band:
    low, high = np.percentile(forecast.draws[:, list(of)].sum(1), [5, 95]) if of else (0.0, 0.0)
    return Band(typ=forecast.mass(of)[0] if of else 0.0, low=float(low), high=float(high))


def _groups(entries: Sequence[Entry], forecast: Forecast) -> list[GroupMass]:
    names = dict.fromkeys(e.group for e in entries)
    return [
        GroupMass(group=g, grams=_band_of(forecast, [i for i, e in enumerate(entries) if e.group == g])) for g in names
    ]


def _line(e: Entry, weighed: bool, target: float | None, reach: tuple[float, float]) -> LedgerLine:
    cost = None if target is None or reach[0] >= target else price(e.line.x_mm, target, reach[0])
    return LedgerLine(
        key=e.key, weighed=weighed,
        name=e.line.name, group=e.group, part_id=e.part_id, layer_id=e.layer_id, item_id=e.item.id if e.item else None,
        grams=Band(typ=e.line.typ, low=e.line.low, high=e.line.high), x_mm=e.line.x_mm, y_mm=e.y_mm, z_mm=e.z_mm,
        price=cost,
    )  # fmt: skip


def _reach(airframe: Airframe, entries: Sequence[Entry]) -> tuple[float, float]:
    boxes = [box_of(p)[0] for p in airframe.parts if p.kind != "plank"]
    places = [e.line.x_mm for e in entries]
    return min([b[0] for b in boxes] or places), max([b[1] for b in boxes] or places)


def _area(layout: Layout) -> float:
    return layout.surfaces[layout.main].planform.area_mm2


@lru_cache(maxsize=32)
def _neutral(layout: Layout) -> tuple[Neutral | None, float, dict[str, float]]:
    """Neutral point, its standard deviation, and what each cause adds to that."""
    if not layout.surfaces:
        return None, 0.0, {}
    main = layout.main
    sds = {"downwash": SD_WASH, "main": SD_KAPPA_MAIN, "other": SD_KAPPA, "eta": SD_ETA, "body": SD_BODY}

    def at(f: Mapping[str, float]) -> float:
        surfaces = [
            replace(
                s,
                kappa=s.kappa * f.get("main" if i == main else "other", 1.0),
                eta=s.eta * (1.0 if i == main else f.get("eta", 1.0)),
            )
            for i, s in enumerate(layout.surfaces)
        ]
        found = neutral_point(surfaces, layout.body, f.get("downwash", 1.0))
        return found.x_mm + (f.get("body", 1.0) - 1) * found.fuselage_mm

    parts = margins.spread(at, sds)
    chord = layout.surfaces[main].planform.mean_chord_mm
    found = neutral_point(layout.surfaces, layout.body)
    parts["centre"] = SD_CENTRE * chord * float(found.lifts[main] / found.lifts.sum())
    return found, margins.together(parts), parts


_CAUSES = {
    "downwash": "downwash of the wing at the tail", "main": "lift slope of the wing", "other": "lift slope of the tail",
    "eta": "air that the tail gets", "body": "fuselage", "centre": "aerodynamic centre of the wing",
}  # fmt: skip


def _neutral_at(layout: Layout, neutral: Neutral, sd: float, parts: Mapping[str, float]) -> NeutralAt:
    main: Surface = layout.surfaces[layout.main]
    far = [s for s in layout.surfaces if s.planform.centre_mm > main.planform.centre_mm]
    chord = main.planform.mean_chord_mm
    volume = None
    if far:
        lever = far[-1].planform.centre_mm - main.planform.centre_mm
        volume = far[-1].planform.area_mm2 * lever / (main.planform.area_mm2 * chord)
    causes = sorted(parts, key=lambda c: -abs(parts[c]))[:2]
    wide = Z95 * sd
    x = neutral.x_mm
    return NeutralAt(
        x_mm=Band(typ=x, low=x - wide, high=x + wide, causes=tuple(_CAUSES[c] for c in causes)),
        mean_chord_mm=chord,
        mean_nose_mm=main.planform.mean_nose_mm,
        surfaces=[
            SurfaceAt(
                name=name, area_dm2=s.planform.area_mm2 / 1e4, centre_mm=s.planform.centre_mm,
                slope=s.planform.slope(s.kappa), keeps=float(keeps),
            )
            for name, s, keeps in zip(layout.names, layout.surfaces, neutral.keeps, strict=True)
        ],
        tail_volume=volume,
        fuselage_mm=neutral.fuselage_mm,
    )  # fmt: skip


def _margin(aim: Aim, layout: Layout, neutral: Neutral, sd: float, forecast: Forecast) -> Margin:
    _, least, most = WANTED[aim.manner]
    least = least if aim.least_percent is None else aim.least_percent
    most = most if aim.most_percent is None else aim.most_percent
    x, own = forecast.centre()
    chord = layout.surfaces[layout.main].planform.mean_chord_mm
    return Margin(neutral.x_mm, sd, x, own, chord, least / 100, max(most, least + 0.1) / 100)


def _margin_at(m: Margin, target: float) -> MarginAt:
    typ, low, high = (100 * s for s in m.share)
    return MarginAt(
        percent=Band(typ=typ, low=low, high=high), least_percent=100 * m.least,
        most_percent=100 * m.most,
        front_mm=m.range_mm[0], rear_mm=m.range_mm[1], target_mm=target, grade=m.grade,
        too_far_forward_mm=m.too_far_forward_mm,
    )  # fmt: skip


def _remedies(
    airframe: Airframe, entries: list[Entry], m: Margin, target: float, reach: tuple[float, float]
) -> tuple[list[RemedyAt], list[RemedyAt]]:  # fmt: skip
    """The plan, each step with where the centre lies after it, and every way by itself; nothing where the centre is
    within its range."""
    front, rear = m.range_mm
    if front <= m.centre_mm <= rear:
        return [], []
    built = [e for e in entries if e.item is None]
    mass = sum(e.line.typ for e in entries)
    missing = mass * (m.centre_mm - target)
    ways = {w.remedy: w for w in ways_of(airframe, entries, missing, target, reach[0])}
    order, _ = ranked(list(ways), abs(missing))
    alone = [
        # a swap gives all or nothing
        _told(airframe, built, ways[r], r.most if r.kind == Class.SWAP else min(r.most, abs(missing)),
              r.most >= abs(missing))
        for r in order
    ]  # fmt: skip
    steps, now = [], airframe
    found = plan([r for r in order if r.kind != Class.SWAP], abs(missing))
    if sum(s.gives for s in found) < abs(missing) * (1 - 1e-6):  # lead that does not reach is of no use
        found = [s for s in found if s.remedy.kind != Class.BALLAST]
        alone = [w for w in alone if w.kind != "ballast"]
    for step in found:
        told = _told(now, built, ways[step.remedy], step.gives, True)
        now = ways[step.remedy].applied(now, step.gives)
        steps.append(told)
    return steps, alone


def _told(airframe: Airframe, built: list[Entry], way: Way, gives: float, reaches: bool) -> RemedyAt:
    after = way.applied(airframe, gives)
    entries = [*built, *carried(after)]
    centre = _mean(entries, [e.line.x_mm for e in entries])
    if way.remedy.kind == Class.REBUILD:
        centre = _with_longer_nose(entries, way, gives)
    return RemedyAt(
        says=way.says(gives),
        kind=way.remedy.kind.name.lower(),
        grams=way.grams(gives),
        minutes=way.remedy.minutes,
        item_id=way.item.id if way.item else None,
        to_mm=way.moved_to(gives) if way.remedy.kind == Class.MOVE else way.at_mm or None,
        stock=way.heavier,
        reaches=reaches,
        centre_mm=centre,
    )


def _with_longer_nose(entries: Sequence[Entry], way: Way, gives: float) -> float:
    n = way.longer_by(gives)
    moment = sum(e.line.typ * (e.line.x_mm - (n if e.line.x_mm < way.cut_mm else 0.0)) for e in entries)
    more = way.g_per_mm * n
    return (moment + more * (way.cut_mm - n / 2)) / (sum(e.line.typ for e in entries) + more)


def _bay(
    entries: Sequence[Entry], target: float, target_sd: float, reach: tuple[float, float]
) -> BayAt | None:  # fmt: skip
    """Where the first battery must lie, all else where it is."""
    batteries = [e for e in entries if e.what == "battery"]
    if len(batteries) != 1:
        return None
    own = batteries[0]
    rest = [(e.line.typ, e.line.x_mm, np.log(e.line.high / e.line.low) / (2 * Z95)) for e in entries if e is not own]
    long = _length(own)
    sd = float(np.log(own.line.high / own.line.low) / (2 * Z95))
    bay = battery_bay(rest, (own.line.typ, sd, long), (target, target_sd))
    first, last = bay.ends_mm
    beyond = reach[0] - bay.centre_mm if bay.centre_mm < reach[0] else bay.centre_mm - reach[1]
    if beyond > 0:
        where = "ahead of the nose" if bay.centre_mm < reach[0] else "behind the tail"
        says = (
            f"With everything else where it is, the battery's centre would belong {in_mm(beyond, F0)} {where}: move "
            "other things first, or take another battery."
        )
        return BayAt(centre_mm=bay.centre_mm, from_mm=first, to_mm=last, says=says)
    return BayAt(
        centre_mm=bay.centre_mm, from_mm=first, to_mm=last,
        says=f"With everything else where it is, the battery's centre belongs at {in_mm(bay.centre_mm, F0)}. Cut its "
        f"bay from {in_mm(first, F0)} to {in_mm(last, F0)}; weigh the tail first, and it may be shorter.",
    )  # fmt: skip


def _length(e: Entry) -> float:
    stock = reference().fittings.get(e.stock or "")
    return stock.long_mm if stock else TYPED_BATTERY_MM


def _causes(forecast: Forecast) -> list[str]:
    """Names of the two causes that spread the centre most: common ones, or a line's own."""
    grams = forecast.grams
    x = forecast.centre()[0]
    spread: dict[str, float] = {}
    for i, one in enumerate(forecast.lines):
        sd = float(np.log(one.high / one.low) / (2 * Z95))
        effect = float(grams[i] * (one.x_mm - x) / grams.sum()) * sd
        for cause, share in one.causes.items():
            spread[cause] = spread.get(cause, 0.0) + effect * share**0.5
        spread[one.name] = effect * max(1 - sum(one.causes.values()), 0.0) ** 0.5
    return sorted(spread, key=lambda c: -abs(spread[c]))[:2]


def _stall(airframe: Airframe, layout: Layout, grams: float) -> Band:
    low, typ, high = lift_most(airframe, layout)
    at = [speed_at(grams, _area(layout), c) for c in (high, typ, low)]
    return Band(low=at[0], typ=at[1], high=at[2])


def _says(centre: Band, m: Margin | None, missing: list[str], steps: list[RemedyAt]) -> str:
    """The first sentence."""
    without = f"Without {_and(missing)} " if missing else ""
    where = f"{in_mm(centre.typ, F0)} ({in_mm(centre.low, F0)} to {in_mm(centre.high, F0)})"
    if "battery" in missing:
        return f"Cannot be told yet: no {_and(missing, 'or')} entered. What there is balances at {where}."
    if m is None:
        return _first(f"{without}it balances at {where}. No wing, so no range is known.")
    front, rear = m.range_mm
    if front <= m.centre_mm <= rear:
        return _first(f"{without}it balances at {where}: inside its range, {in_mm(front, F0)} to {in_mm(rear, F0)}.")
    step = f" {_first(steps[0].says)}." if steps else ""
    if not steps or not front - 0.5 <= steps[-1].centre_mm <= rear + 0.5:
        step += " Nothing that is entered brings it into its range: put more weight further forward." * (
            m.centre_mm > rear
        )
    if m.centre_mm < front:
        off = in_mm(front - m.centre_mm, F0)
        return _first(f"{without}it balances {off} further forward than needed: safe, but it flies sluggishly.{step}")
    unstable = "perhaps unstable: " if m.chance_below(0) > UNSTABLE else ""
    return _first(f"{without}it is {unstable}tail-heavy by {in_mm(m.centre_mm - rear, F0)}.{step}")


def _first(text: str) -> str:
    return text[0].upper() + text[1:]


def _and(words: Sequence[str], word: str = "and") -> str:
    *most, last = words
    return f"{', '.join(most)} {word} {last}" if most else last
