"""Remedies that an airframe document has: items that may move, larger batteries, a longer nose, ballast."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from fletcher.core.balance.ledger import Entry
from fletcher.core.balance.remedies import BALLAST_MOST, Class, Remedy, ballast_size, longer_nose
from fletcher.core.common.quantities import F0, F1, in_g, in_mm
from fletcher.core.document.airframe import Airframe
from fletcher.core.document.equipment import Equipment
from fletcher.core.materials.tables import reference

MINUTES = {"battery": 2.0, "receiver": 5.0, "ballast": 2.0}
_OTHER_MIN = 10.0
_NOSE_MIN, _NOSE_MOST_MM = 180.0, 150.0
_INSIDE_MM = 10.0
"""Ballast lies so far within the end of the airframe."""


@dataclass(frozen=True)
class Way:
    """A remedy with what it does to the document: an item moved to a place, exchanged, or put in; a nose longer by so
    many mm."""

    remedy: Remedy
    item: Equipment | None
    ahead: bool
    target_mm: float
    heavier: str | None = None
    at_mm: float = 0.0
    cut_mm: float = 0.0
    ahead_g: float = 0.0
    g_per_mm: float = 0.0

    def moved_to(self, gives: float) -> float | None:
        """Where the item then lies."""
        if self.item is None or self.remedy.kind != Class.MOVE:
            return None
        grams = _grams(self.item)
        return self.item.x_mm + (-1 if self.ahead else 1) * gives / grams

    def longer_by(self, gives: float) -> float:
        """By how much the nose grows."""
        return longer_nose(gives, self.target_mm, self.cut_mm, self.ahead_g, self.g_per_mm)

    def grams(self, gives: float) -> float:
        """Grams added."""
        if self.remedy.kind == Class.REBUILD:
            return self.g_per_mm * self.longer_by(gives)
        return gives * self.remedy.grams_per

    def says(self, gives: float) -> str:
        """The step in words."""
        kind = self.remedy.kind
        if kind == Class.MOVE:
            assert self.item is not None
            by = gives / _grams(self.item)
            return f"move {self.remedy.name} {in_mm(by, F0)} {'forward' if self.ahead else 'aft'}"
        if kind == Class.SWAP:
            return self.remedy.name
        if kind == Class.REBUILD:
            return f"lengthen the nose by {in_mm(self.longer_by(gives), F0)}"
        grams = self.grams(gives)
        _, edge, _ = ballast_size(grams, "lead", 10)
        return f"put {in_g(grams, F0)} of ballast at {in_mm(self.at_mm, F0)}: lead, a cube of {in_mm(edge, F1)}"

    def applied(self, airframe: Airframe, gives: float) -> Airframe:
        """The document with it; a nose is not lengthened by itself."""
        kind = self.remedy.kind
        if kind == Class.MOVE and self.item is not None:
            to = self.moved_to(gives)
            items = [e.model_copy(update={"x_mm": to}) if e.id == self.item.id else e for e in airframe.equipment]
            return airframe.model_copy(update={"equipment": tuple(items)})
        if kind == Class.SWAP and self.item is not None:
            new = {"stock": self.heavier, "mass_g": None}
            items = [e.model_copy(update=new) if e.id == self.item.id else e for e in airframe.equipment]
            return airframe.model_copy(update={"equipment": tuple(items)})
        if kind == Class.BALLAST:
            grams = self.grams(gives)
            known = {e.id for e in airframe.equipment}
            new_id = next(f"ballast{n or ''}" for n in range(len(known) + 1) if f"ballast{n or ''}" not in known)
            more = Equipment(id=new_id, what="ballast", name="Ballast", mass_g=grams, x_mm=self.at_mm)
            return airframe.model_copy(update={"equipment": (*airframe.equipment, more)})
        return airframe


def _grams(item: Equipment) -> float:
    one = item.mass_g if item.mass_g is not None else reference().fittings[item.stock or ""].mass_g.typ
    return one * (2 if item.pair else 1)


def ways_of(
    airframe: Airframe, entries: list[Entry], missing: float, target: float, reach: float
) -> list[Way]:  # fmt: skip
    """Every remedy for so many g·mm that are missing: tail-heavy where more than 0, else nose-heavy. A heavy nose is no
    fault: nobody puts lead in the tail for it."""
    ahead = missing > 0
    found = [*_moves(airframe, ahead, target), *_swaps(airframe, ahead, target)]
    if ahead:
        found += _nose(airframe, entries, target)
    at = reach + _INSIDE_MM
    if ahead and at < target:
        most = BALLAST_MOST * sum(e.line.typ for e in entries) * (target - at)
        remedy = Remedy("ballast", Class.BALLAST, most, 1 / (target - at), MINUTES["ballast"])
        found.append(Way(remedy, None, ahead, target, at_mm=at))
    return found


def _moves(airframe: Airframe, ahead: bool, target: float) -> Iterator[Way]:
    for item in airframe.equipment:
        end = item.from_mm if ahead else item.to_mm
        if end is None or item.lead is not None:  # a lead lies between its ends
            continue
        room = (item.x_mm - end) if ahead else (end - item.x_mm)
        if room > 0:
            minutes = MINUTES.get(item.what, _OTHER_MIN)
            name = item.name or f"the {item.what}"
            yield Way(Remedy(name, Class.MOVE, _grams(item) * room, 0.0, minutes), item, ahead, target)


def _swaps(airframe: Airframe, ahead: bool, target: float) -> Iterator[Way]:
    """The next larger battery of the table, where it lies on the right side of the target."""
    for item in airframe.equipment:
        if item.what != "battery" or (item.x_mm < target) != ahead:
            continue
        now, each = _grams(item), 2 if item.pair else 1
        larger = sorted(
            (f for f in reference().fittings.values() if f.family == "battery" and f.mass_g.typ * each > 1.05 * now),
            key=lambda f: f.mass_g.typ,
        )
        if larger:
            more = larger[0].mass_g.typ * each - now
            arm = abs(target - item.x_mm)
            name = f"take a larger battery: {larger[0].name}"
            yield Way(
                Remedy(name, Class.SWAP, more * arm, 1 / arm, 5.0), item, ahead, target, heavier=larger[0].key
            )  # fmt: skip


def _nose(airframe: Airframe, entries: list[Entry], target: float) -> Iterator[Way]:
    """A longer nose, where a fuselage lies ahead: it is cut behind its foremost piece."""
    bodies = sorted((p for p in airframe.parts if p.kind == "fuselage"), key=lambda p: p.place.x_mm)
    if not bodies or bodies[0].place.x_mm >= target:
        return
    nose = bodies[0]
    cut = min(nose.place.x_mm + nose.span_mm, target)
    own = sum(e.line.typ for e in entries if e.part_id == nose.id)
    ahead_g = sum(e.line.typ for e in entries if e.line.x_mm < cut)
    per_mm = own / (nose.span_mm * nose.count)
    half, lever = 0.5 * per_mm, ahead_g + per_mm * (target - cut)
    most = half * _NOSE_MOST_MM**2 + lever * _NOSE_MOST_MM
    remedy = Remedy("a longer nose", Class.REBUILD, most, per_mm / lever, _NOSE_MIN)
    yield Way(remedy, None, True, target, cut_mm=cut, ahead_g=ahead_g, g_per_mm=per_mm)
