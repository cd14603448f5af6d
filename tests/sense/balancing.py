"""Group of balance: a weight moved moves the centre by m·d/M, what a remedy promises comes, lead is last, a weighing
that agrees moves nothing, what is left out is said, and where one measures from changes nothing."""

from __future__ import annotations

import json
from collections.abc import Iterator

import numpy as np

from fletcher.core.balance.schema import BalanceSheet, RemedyAt
from fletcher.core.balance.sheet import balance_sheet
from fletcher.core.document.airframe import Airframe, Part, Place
from fletcher.core.document.equipment import Equipment
from fletcher.core.document.weighings import OnScale, Weighing
from fletcher.core.materials.tables import reference
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.validation.airframe import check
from tests.sense.world import Rng, Violation, sized

WAYS = tuple(k for k, way in CONSTRUCTIONS.items() if way.part().kind == "wing")
KINDS = ("battery aft", "battery ahead", "without a battery")


def carrying(rng: Rng | None, key: str, kind: str) -> Airframe:
    """A wing of that construction with a tail and equipment, its battery where the kind says."""
    dice = rng or np.random.default_rng(3)
    airframe, wing = sized(rng, key)
    wing = _placed(wing, 300.0, 0.0)
    tail = _placed(CONSTRUCTIONS["tail_plate"].part(), 300.0 + 3.2 * wing.root_chord_mm, 30.0)
    behind = 300.0 + 3.2 * wing.root_chord_mm
    items = [
        Equipment(id="motor", what="motor", stock="motor_28", x_mm=20),
        Equipment(id="receiver", what="receiver", stock="receiver_6", x_mm=330, from_mm=120, to_mm=behind),
        Equipment(id="servo", what="servo", stock="servo_9g", x_mm=behind - 60, y_mm=float(dice.uniform(5, 60))),
        Equipment(id="other", what="other", mass_g=float(dice.uniform(5, 60)), x_mm=float(dice.uniform(50, behind))),
    ]
    if kind != "without a battery":
        at = 300.0 + wing.root_chord_mm if kind == "battery aft" else 150.0
        items.append(
            Equipment(id="battery", what="battery", stock="battery_3s_1300", x_mm=at, from_mm=60, to_mm=at + 40)
        )
    return airframe.model_copy(update={"parts": (wing, tail), "equipment": tuple(items)})


def _placed(part: Part, x: float, z: float) -> Part:
    return part.model_copy(update={"hand": "both", "place": Place(x_mm=x, y_mm=5.0, z_mm=z, dihedral_deg=2.0)})


def told(airframe: Airframe) -> BalanceSheet | None:
    """What balance says; nothing of a document that cannot be."""
    return None if any(check(airframe, reference())) else balance_sheet(airframe)


def _broken(law: str, badly: float, says: str, *documents: Airframe) -> Violation:
    return Violation(law, badly, says, json.dumps([d.model_dump(mode="json") for d in documents]))


def _apart(law: str, a: float, b: float, within: float, says: str, *documents: Airframe) -> Iterator[Violation]:
    if abs(a - b) > within:
        yield _broken(law, abs(a - b) / within, f"{says}: {a:.5g} against {b:.5g}", *documents)


def _with(airframe: Airframe, item: str, **update: object) -> Airframe:
    items = tuple(e.model_copy(update=update) if e.id == item else e for e in airframe.equipment)
    return airframe.model_copy(update={"equipment": items})


def a_weight_moved(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """Moving m by d moves the centre by m·d/M along, across and up, and the neutral point not at all."""
    airframe = carrying(rng, key, kind)
    moved = _with(airframe, "other", x_mm=airframe.equipment[3].x_mm + 40, y_mm=25.0, z_mm=12.0)
    one, other = told(airframe), told(moved)
    if one is None or other is None or one.neutral is None or other.neutral is None:
        return
    grams = airframe.equipment[3].mass_g or 0.0
    law = f"a weight moved {key}"
    yield from _apart(law, other.centre_mm.typ - one.centre_mm.typ, grams * 40 / one.mass_g.typ, 1e-6, "along", moved)
    yield from _apart(
        law, other.sideways.off_mm - one.sideways.off_mm, grams * 25 / one.mass_g.typ, 1e-6, "across", moved
    )
    yield from _apart(law, other.height_mm - one.height_mm, grams * 12 / one.mass_g.typ, 1e-6, "up", moved)
    yield from _apart(law, other.neutral.x_mm.typ, one.neutral.x_mm.typ, 1e-9, "neutral point", moved)


def _taken(airframe: Airframe, step: RemedyAt) -> Airframe | None:
    """The document with a remedy taken as the page takes it."""
    if step.kind == "move" and step.item_id and step.to_mm is not None:
        return _with(airframe, step.item_id, x_mm=step.to_mm)
    if step.kind == "swap" and step.item_id:
        return _with(airframe, step.item_id, stock=step.stock, mass_g=None)
    if step.kind == "ballast" and step.to_mm is not None:
        lead = Equipment(id="ballast", what="ballast", mass_g=step.grams, x_mm=step.to_mm)
        return airframe.model_copy(update={"equipment": (*airframe.equipment, lead)})
    return None


def a_remedy_keeps_its_word(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """Each step of the plan, taken and computed anew, brings the centre where it said; lead only after every free move
    is at its end; a plan that ends in the range is then told as inside it."""
    airframe = carrying(rng, key, kind)
    sheet, now = told(airframe), airframe
    if sheet is None:
        return
    for step in sheet.plan:
        after = _taken(now, step)
        again = told(after) if after else None
        if again is None or after is None:
            return
        law = f"a remedy keeps its word {key} {step.kind}"
        yield from _apart(law, again.centre_mm.typ, step.centre_mm, 0.1, step.says, now)
        if step.kind == "ballast":
            for item in now.equipment:
                room = item.x_mm - item.from_mm if item.from_mm is not None else 0.0
                if room > 1.0:
                    yield _broken(f"lead is last {key}", room, f"{item.id} could still go {room:.0f} mm forward", now)
        now = after


def measured_from_elsewhere(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """Another datum shifts every place by as much, and changes no margin and no mass."""
    airframe, by = carrying(rng, key, kind), 83.0
    parts = tuple(
        p.model_copy(update={"place": p.place.model_copy(update={"x_mm": p.place.x_mm + by})}) for p in airframe.parts
    )
    items = tuple(
        e.model_copy(update={n: v + by for n in ("x_mm", "from_mm", "to_mm") if (v := getattr(e, n)) is not None})
        for e in airframe.equipment
    )
    shifted = airframe.model_copy(update={"parts": parts, "equipment": items})
    one, other = told(airframe), told(shifted)
    if one is None or other is None or one.margin is None or other.margin is None:
        return
    law = f"measured from elsewhere {key}"
    yield from _apart(law, other.centre_mm.typ - by, one.centre_mm.typ, 1e-6, "centre", shifted)
    yield from _apart(law, other.margin.percent.typ, one.margin.percent.typ, 1e-6, "static margin", shifted)
    yield from _apart(law, other.mass_g.typ, one.mass_g.typ, 1e-9, "mass", shifted)
    for a, b in zip(one.plan, other.plan, strict=False):
        if a.kind != b.kind:
            yield _broken(law, 2.0, f"{a.says} against {b.says}", shifted)


def weighed_as_expected(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """A reading as expected moves nothing and widens no band; a heavier one makes the airframe no lighter."""
    airframe = carrying(rng, key, kind)
    before = told(airframe)
    if before is None:
        return
    piece = before.weighed.pieces[0].stages[-1]
    if piece.grams.typ < 1:
        return
    for more in (0.0, 0.04 * piece.grams.typ):
        one = Weighing(id="w", lines=tuple(piece.lines), reading=OnScale(grams=piece.grams.typ + more), step_g=0.1)
        weighed = airframe.model_copy(update={"weighings": (one,)})
        after = told(weighed)
        if after is None:
            return
        law = f"weighed as expected {key}"
        if more == 0.0:
            yield from _apart(law, after.mass_g.typ, before.mass_g.typ, 1e-3 * before.mass_g.typ, "mass", weighed)
        elif after.mass_g.typ < before.mass_g.typ:
            yield _broken(law, 2.0, f"{more:.2g} g heavier than expected, and {after.mass_g.typ:.5g} g in all", weighed)
        wide, was = (b.mass_g.high - b.mass_g.low for b in (after, before))
        if wide > 1.05 * was + 2 * more:
            yield _broken(law, wide / was, f"the band grew from {was:.3g} to {wide:.3g} g", weighed)


def what_is_left_out_is_said(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """Equipment that every such airframe has and this one has not stands in the first sentence."""
    airframe = carrying(rng, key, kind)
    for what in ("battery", "motor", "receiver"):
        items = tuple(e for e in airframe.equipment if e.what != what)
        less = airframe.model_copy(update={"equipment": items})
        sheet = told(less)
        if sheet is not None and what not in sheet.says:
            yield _broken(f"what is left out is said {key}", 2.0, f"no {what}: “{sheet.says}”", less)


def a_larger_tail(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """A tail of a tenth more chord moves the neutral point aft, and weighs more."""
    airframe = carrying(rng, key, kind)
    wing, tail = airframe.parts
    more = {n: 1.1 * getattr(tail, n) for n in ("root_chord_mm", "tip_chord_mm")}
    larger = airframe.model_copy(update={"parts": (wing, tail.model_copy(update=more))})
    one, other = told(airframe), told(larger)
    if one is None or other is None or one.neutral is None or other.neutral is None:
        return
    law = f"a larger tail {key}"
    if other.neutral.x_mm.typ <= one.neutral.x_mm.typ:
        yield _broken(law, 2.0, f"neutral point {one.neutral.x_mm.typ:.5g} and {other.neutral.x_mm.typ:.5g}", larger)
    if other.mass_g.typ <= one.mass_g.typ:
        yield _broken(law, 2.0, f"mass {one.mass_g.typ:.5g} and {other.mass_g.typ:.5g}", larger)


def weighed_absurdly(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """Any reading has an answer; one far off is a surprise, is the mass of what lay on the scale, and moves no other
    line."""
    airframe = carrying(rng, key, kind)
    before = told(airframe)
    if before is None:
        return
    dice = rng or np.random.default_rng(4)
    piece = before.weighed.pieces[int(dice.integers(len(before.weighed.pieces)))].stages[-1]
    grams = max(round(piece.grams.typ * float(dice.choice([0.01, 0.3, 4.0, 60.0])), 2), 0.01)
    one = Weighing(id="w", lines=tuple(piece.lines), reading=OnScale(grams=grams), step_g=0.1)
    weighed = airframe.model_copy(update={"weighings": (one,)})
    after = told(weighed)
    if after is None:
        return
    law, seen = f"weighed absurdly {key}", after.weighed.weighings[0]
    if seen.state != "surprise":
        yield _broken(law, 2.0, f"{grams} g where {piece.grams.typ:.3g} g belong is told as “{seen.state}”", weighed)
    was = {x.key: x.grams.typ for x in before.lines}
    for line in after.lines:
        if line.key not in piece.lines:
            yield from _apart(law, line.grams.typ, was[line.key], 1e-6 * was[line.key], line.name, weighed)
    on = sum(x.grams.typ for x in after.lines if x.key in piece.lines)
    yield from _apart(law, on, grams, 1e-3 * grams, "what lay on the scale", weighed)


LAWS = (
    a_weight_moved, a_remedy_keeps_its_word, measured_from_elsewhere, weighed_as_expected, what_is_left_out_is_said,
    a_larger_tail, weighed_absurdly,
)  # fmt: skip
