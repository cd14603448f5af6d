"""Checks before what cannot be undone, each with its limit [J unless computed], by key."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator

from fletcher.core.document.airframe import Airframe
from fletcher.core.plan.schema import Gate

GATES = {
    "hand": "A left and a right: laid side by side, their arrows nose, tip and up agree. Two of one hand: stop.",
    "bar_clear": "Prick the spar's edges through: 3 mm clear of every pocket, bolt, hole and hinge line.",
    "in_line": "Upper and lower bar lie above one another within 2 mm.",
    "dry_fit": "Dry fit without force; gaps no wider than the glue fills.",
    "iron": "Measure the sole: no hotter than this foam stands.",
    "square": "Diagonals differ by at most 1 mm in 500 mm.",
    "flush": "Steps at most 0.3 mm under film, 0.5 mm elsewhere.",
    "dihedral": "Height on the dihedral gauge within 1 mm in 500 mm of span.",
    "twist": "Two sticks across root and tip: within 0.5° of the wanted washout, both halves within 0.3°.",
    "in_turn": "Faces in turn; bow after each pass at most 2 mm in a metre.",
    "alike": "Both halves: mass within 3 % or 2 g, bend under one weight within 8 %, length within 1 mm.",
    "inside": "All inside is in: pull each lead, blow through each tube, try each nut with its bolt.",
    "hinge_free": "It falls by its own weight and moves its full way both ways; the servo has torque to spare.",
    "sense": "Stick right: right surface up. Stick back: elevator up.",
    "propeller": "Propeller off until the flight. Its blades clear cowl, wing and ground by 2 mm or more.",
    "square_to_body": "Tips to the tail post alike within 0.3 % of the span; tail level with the wing within 0.3°.",
    "balance": "Centre of gravity inside its range, at both ends of what is known.",
    "mass": "Flying mass within its range, else look into Balance first.",
    "cured": "Every joint carries its load: at the slow end, at the coolest temperature it had.",
    "bag": "Gauge falls by at most 2 kPa in a minute, pump off.",
    "direction": "Grain, flutes and fibres lie as the arrows say.",
    "template": "Printed check bars measure 100 mm within 0.2 mm, both ways.",
    "wire": "Try the wire on a scrap of this foam: cut two lines 20 mm apart and measure the strip.",
    "bench": "Bend and twist within the estimate's range; left against right within 8 %.",
    "leave_safe": "Battery sound and held, nobody beneath, first flight where nothing can be hurt.",
}  # fmt: skip

NEVER_WAIVED = frozenset({"cured", "iron", "leave_safe"})
"""Gates that nobody passes by."""


def gates(keys: Iterable[str]) -> list[Gate]:
    """The gates of these keys."""
    return [Gate(key=k, says=GATES[k], waivable=k not in NEVER_WAIVED) for k in keys]


def two_of_one_hand(airframe: Airframe) -> Iterator[str]:
    """Parts that stand for two of one side and none of the other: a pair of left halves is made before anybody looks.
    Parts of one kind at one place along the airframe belong together."""
    hands: dict[tuple[object, ...], Counter[str]] = {}
    names: dict[tuple[object, ...], list[str]] = {}
    for p in airframe.parts:
        if p.kind in ("wing", "tail", "surface") and p.hand in ("left", "right"):
            at: tuple[object, ...] = (p.kind, round(p.place.x_mm), round(p.span_mm))
            hands.setdefault(at, Counter())[p.hand] += 1
            names.setdefault(at, []).append(p.name)
    for group, count in hands.items():
        if max(count.values()) > 1 and len(count) == 1:
            side = max(count, key=lambda h: count[h])
            yield f"{' and '.join(names[group])} are both {side} ones: a pair needs one of each."
