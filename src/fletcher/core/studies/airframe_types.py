"""Types of airframe to start from: their proportions, and the constructions that their parts are usually made in.

Proportions are those of common practice with small slow airframes [J]: aspect ratio b²/S; tail volumes
V_h = S_h l/(S c̄) and V_v = S_v l/(S b), with l the distance between the quarter chords of wing and tail
(Raymer, Aircraft Design, 6.4).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

TypeKey = Literal["trainer", "glider", "flying_wing", "profile", "twin_boom", "flat_plate", "plank"]
Stuff = Literal["board", "bead", "extruded", "twin_wall", "balsa"]
"""What foam and sheet there is: foam board, bead foam, extruded foam, twin-wall sheet, balsa."""

STUFF: dict[Stuff, str] = {
    "board": "foam board",
    "bead": "bead foam",
    "extruded": "extruded foam",
    "twin_wall": "twin-wall sheet",
    "balsa": "balsa",
}


@dataclass(frozen=True)
class Type:
    """A type of airframe. `nose` and `arm` are lengths ahead of and behind the wing in mean chords; `sweep` is the
    setback of the tip as a share of the half span; `wings`, `tails` and `bodies` are constructions by their keys, the
    usual ones first."""

    key: TypeKey
    title: str
    why: str
    aspect: float
    taper: float
    volume_h: float
    volume_v: float
    nose: float
    arm: float
    sweep: float
    dihedral_deg: float
    control: tuple[float, float]
    """From where to where of the half span the control surface in the wing's rear edge goes."""
    wings: tuple[str, ...]
    tails: tuple[str, ...]
    bodies: tuple[str, ...]


_TAILS = ("tail_plate", "board_tail")

TYPES: dict[TypeKey, Type] = {
    t.key: t
    for t in (
        Type(
            "trainer", "Trainer with tail",
            "A high wing of moderate aspect ratio with dihedral rights itself and forgives. The long tail makes it "
            "steady in pitch, and the box fuselage takes whatever has to be carried.",
            6.0, 0.85, 0.5, 0.035, 1.1, 2.8, 0.0, 4, (0.5, 0.95),
            ("bead_wing", "folded_wing", "cut_core", "fluted_wing", "sheeted_wing"), _TAILS, ("box_fuselage",),
        ),
        Type(
            "glider", "Glider",
            "A slender wing loses least height, and bends most: its spar decides everything. A tube boom carries a "
            "small tail far behind for very little mass.",
            11.0, 0.6, 0.45, 0.025, 1.6, 4.2, 0.03, 4, (0.55, 0.95),
            ("bead_wing", "cut_core", "sheeted_wing", "cloth_wing", "folded_wing"), _TAILS, ("tube_boom",),
        ),
        Type(
            "flying_wing", "Flying wing",
            "No tail and no fuselage: few parts, quick to build, hard to break. Sweep gives the elevons their lever; "
            "it needs its centre of gravity exactly right.",
            5.5, 0.6, 0.0, 0.02, 0.15, 0.0, 0.38, 0, (0.25, 0.98),
            ("bead_wing", "cut_core", "cloth_wing", "folded_wing", "fluted_wing"), _TAILS, (),
        ),
        Type(
            "profile", "Profile airframe",
            "Everything is cut from sheet in an evening: flat wing, flat tail, a fuselage of doubled plate on edge. "
            "Slow and light, and repaired with tape.",
            5.0, 0.75, 0.5, 0.03, 1.1, 2.4, 0.04, 3, (0.35, 0.95),
            ("plate_wing", "folded_wing"), _TAILS, ("doubled_plate", "crossed_plates"),
        ),
        Type(
            "twin_boom", "Twin-boom",
            "Two tubes carry the tail and leave the rear of the pod free for a pusher motor or a camera. Each boom "
            "takes half of the tail load, and the tail ties them together.",
            7.0, 0.8, 0.5, 0.035, 1.2, 3.0, 0.0, 3, (0.55, 0.95),
            ("bead_wing", "cut_core", "sheeted_wing", "folded_wing", "fluted_wing"), _TAILS, ("tube_boom",),
        ),
        Type(
            "flat_plate", "Flat-plate aerobatic",
            "A short, broad, symmetrical flat plate turns on the spot and flies as well inverted. It must be very "
            "light: every gram shows in how slowly it can fly.",
            3.2, 0.65, 0.5, 0.05, 1.0, 2.0, 0.1, 0, (0.1, 0.97),
            ("plate_wing",), _TAILS, ("crossed_plates", "doubled_plate"),
        ),
        Type(
            "plank", "Plank test piece",
            "A bare plank on two supports is the simplest test there is. Put a spar in, take it out again, and see "
            "what each gram does.",
            1.0, 1.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0, (0.0, 0.0), (), (), (),
        ),
    )
}  # fmt: skip
"""Every type by its key, the one to begin with first."""

NEEDS: dict[str, tuple[tuple[Stuff, ...], tuple[str, ...]]] = {
    "bead_wing": (("bead",), ("iron",)),
    "cut_core": (("bead",), ("hot_wire", "iron")),
    "plate_wing": (("extruded",), ()),
    "folded_wing": (("board",), ()),
    "sheeted_wing": (("bead", "balsa"), ("hot_wire", "resin")),
    "cloth_wing": (("extruded",), ("hot_wire", "resin")),
    "fluted_wing": (("twin_wall",), ()),
    "tail_plate": (("extruded",), ()),
    "board_tail": (("board",), ()),
    "box_fuselage": (("board",), ()),
    "crossed_plates": (("board",), ()),
    "doubled_plate": (("extruded",), ()),
    "tube_boom": ((), ()),
}
"""What foams, sheets and tools a construction takes."""


def lacking(key: str, at_hand: frozenset[str], tools: frozenset[str]) -> tuple[str, ...]:
    """The foams and sheets that a construction takes and that are not there, by their keys; then the tools. Where
    nothing is said of foams, all can be bought."""
    stuff, needed = NEEDS.get(key, ((), ()))
    return (*(s for s in stuff if at_hand and s not in at_hand), *(t for t in needed if t not in tools))
