r"""Holding things in: battery, hatch or payload by pins, magnets, straps, hook-and-loop or foam tape.

Told is the knock in g that each survives off its bed (a pull-up) and along it (a nose stop), with what wear and age
leave. A stop from V within s is V²/2gs on the mean. A pin of ℓ in foam holds p d ℓ(√2 − 1) along (Broms 1964, free head
at the face); through a plate d t σ_b, no more than the plate's glue. What is strapped is held along by friction,
μ(2F + m g) of a strap on both sides; pads by their own shear, no more than the foam under them.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cache, partial
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from fletcher.core.adhesion.cautions import Caution, cautions_for
from fletcher.core.adhesion.curing import sampled
from fletcher.core.common.arrays import Array
from fletcher.core.common.model import Result
from fletcher.core.document.cases import Document, Key
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.materials.materials import G_GRAVITY, Catalogue, Range
from fletcher.core.materials.reader import record, records
from fletcher.core.materials.uncertainty import Band, Inputs, band, draw_foam

PIN_MM, PIN_IN_MM = 1.0, 25.0
PLATE_MM, PLATE_CM2 = 0.8, 4.0
PLASTIC_BEARS = Range(25, 40, 60)
"""[J] Bearing of thin hard plastic on a pin, MPa."""
PLATE_GLUE = Range(0.3, 0.6, 0.9)
"""[J] Share of the foam's shear strength that a glued plastic plate reaches."""
STRAP_PULL = Range(8, 15, 25)
"""[J] Pull of a strap or band drawn tight by hand, N."""
FRICTION = Range(0.25, 0.45, 0.7)
"""[J] Of shrink-wrap, plastic or ply on foam."""
MAGNET_SLIDES = Range(0.12, 0.2, 0.3)
"""[J] Share of its pull at which a magnet slides."""
STUCK = Range(0.3, 0.55, 0.8)
"""[J] Share of the foam's own strength at which stick-on backing lets go of it."""


@dataclass(frozen=True)
class Holder:
    """A way of holding, per piece or cm²: newtons straight off and along (None: computed), what wears and ages."""

    key: str
    name: str
    sort: str
    per: str
    off_N: Range
    along_N: Range | None
    wear: Range
    ages: Range
    mass_g: float
    watch: str
    grade: str
    basis: str


@cache
def holders() -> dict[str, Holder]:
    """All ways of holding by their keys."""
    return records("holders.csv", partial(record, Holder, names={"wear": "wear_per_100", "ages": "ages_per_month"}))


class HoldNeed(Document):
    """What is held in, on which foam, how often it comes out, and the knocks it must survive. `hangs`: it lies below
    its bed, so that a pull-up pulls it off; else a pull-up presses it on and only a push-over lifts it."""

    what: Literal["battery", "hatch", "payload"] = "battery"
    foam: Key = "epp_30"
    mass_g: Annotated[float, Field(ge=0.5, le=5000)] = 180.0
    long_mm: Annotated[float, Field(ge=5, le=500)] = 75.0
    wide_mm: Annotated[float, Field(ge=5, le=300)] = 35.0
    high_mm: Annotated[float, Field(ge=1, le=200)] = 26.0
    pieces: Annotated[int, Field(ge=1, le=20, description="Pins, pairs of magnets, straps")] = 2
    pad_percent: Annotated[float, Field(ge=2, le=100, description="Share of its base under pads or tape")] = 30.0
    hangs: bool = False
    stop: Annotated[bool, Field(description="Foam stop in front")] = True
    pull_up_g: Annotated[float, Field(ge=0, le=60)] = 8.0
    speed_m_s: Annotated[float, Field(ge=0.5, le=60)] = 12.0
    stop_mm: Annotated[float, Field(ge=2, le=500, description="Stopping distance of the nose")] = 120.0
    uses: Annotated[float, Field(ge=0, le=20_000, description="Times removed")] = 100.0
    months: Annotated[float, Field(ge=0, le=240)] = 6.0


class HoldChoice(Result):
    """One way of holding: the knock it survives straight off and along, new and worn, what gives, and its grams."""

    key: str
    name: str
    off_g: Band
    along_g: Band
    new_off_g: float
    new_along_g: float
    gives: str
    enough: Literal["sure", "typical", "no"]
    pieces: int | None
    """So many of these; None for pads."""
    wanted: int | None
    """Pieces, or per cent of the base, that would typically do; None where no number up to 20 (or all of it) does."""
    grams: float
    watch: str
    grade: str
    basis: str


class HeldIn(Result):
    """The knocks asked for, and every way of holding, the best first."""

    off_asked_g: float
    along_asked_g: float
    off_says: str
    choices: list[HoldChoice]
    says: str
    cautions: list[Caution]


PUSH_OVER_G = 2.0
"""[J] What lifts a thing off its bed where a pull-up presses it on: push-over, a bump, landing on the back."""


def hold(need: HoldNeed, catalogue: Catalogue) -> HeldIn:
    """All ways of holding something in, ranked.

    Raises
    ------
    InvalidDocument
        If the foam is unknown.
    """
    if need.foam not in catalogue.foams:
        raise InvalidDocument([Problem(path="foam", message="is not a foam in the Stockroom", value=repr(need.foam))])
    off = need.pull_up_g if need.hangs else PUSH_OVER_G
    along = need.speed_m_s**2 / (2 * G_GRAVITY * need.stop_mm * 1e-3)
    choices = [_choice(h, need, catalogue, off, along) for h in holders().values()]
    order = {"sure": 0, "typical": 1, "no": 2}
    choices.sort(key=lambda c: (order[c.enough], -_least(c, off, along) if c.enough == "no" else c.grams))
    best = choices[0]
    asked = f"{along:.0f} × gravity forward and {off:g} × gravity off its tray"
    if best.enough == "no":
        says = f"✕ Nothing here survives {asked}. Closest: {best.name}; {best.gives}."
    else:
        says = f"{best.name} survives {asked}: {'✓ sure' if best.enough == 'sure' else '≈ likely'}."
    tags = ["key:battery_crash"] if need.what == "battery" else []
    says_off = (
        "a pull-up pulls it out of its tray"
        if need.hangs
        else ("a pull-up presses it into its tray; a push-over or bump lifts it")
    )
    return HeldIn(off_asked_g=off, along_asked_g=along, off_says=says_off, choices=choices, says=says,
                   cautions=cautions_for(tags))  # fmt: skip


def _least(c: HoldChoice, off: float, along: float) -> float:
    return min(c.off_g.typ / max(off, 1e-6), c.along_g.typ / max(along, 1e-6))


def _holds(h: Holder, need: HoldNeed, catalogue: Catalogue, amount: float) -> tuple[Array, Array, dict[str, Array]]:
    """Newtons off and along (S,) of so many pieces, or cm²; and of what the smaller of them is made, by what gives."""
    foam = draw_foam(catalogue.foams[need.foam])
    key = "holder/" + h.key
    weight = need.mass_g * 1e-3 * G_GRAVITY
    off = sampled(h.off_N, key) * amount
    ways: dict[str, Array] = {}
    if h.sort == "pin":
        along = amount * foam.bearing * PIN_MM * PIN_IN_MM * (math.sqrt(2) - 1)
        ways["pins tear through the foam"] = along
    elif h.sort == "plate_pin":
        plastic = amount * sampled(PLASTIC_BEARS, key + "/plate") * PIN_MM * PLATE_MM
        glue = amount * PLATE_CM2 * 100 * foam.shear * sampled(PLATE_GLUE, key + "/glue")
        ways["pins cut through the plastic"], ways["plates shear off the foam"] = plastic, glue
        along = np.minimum(plastic, glue)
        off = np.minimum(off, amount * PLATE_CM2 * 100 * 0.3 * foam.tensile * sampled(PLATE_GLUE, key + "/glue"))
    elif h.sort == "magnet":
        along = off * sampled(MAGNET_SLIDES, key + "/slides")
        ways["magnets slide"] = along
    elif h.sort == "strap":
        pull = np.minimum(sampled(STRAP_PULL, key + "/pull"), sampled(h.off_N, key) / 2)
        along = sampled(FRICTION, "holder/friction") * (2 * amount * pull + weight)
        ways["it slips under the straps"] = along
    else:
        assert h.along_N is not None
        stuck = sampled(STUCK, key + "/stuck")
        off = np.minimum(off, amount * 100 * foam.tensile * stuck)
        own = sampled(h.along_N, key, 1) * amount
        bed = amount * 100 * foam.shear * stuck
        ways["it shears"], ways["its backing comes off the foam"] = own, bed
        along = np.minimum(own, bed)
    if need.stop:
        along = along + foam.bearing * need.wide_mm * need.high_mm
    return off, along, ways


def _choice(h: Holder, need: HoldNeed, catalogue: Catalogue, off_g: float, along_g: float) -> HoldChoice:
    base = need.long_mm * need.wide_mm / 100
    amount = float(need.pieces) if h.per == "piece" else base * need.pad_percent / 100
    key = "holder/" + h.key
    left = (1 - np.minimum(sampled(h.wear, key, 2), 0.95)) ** (need.uses / 100)
    left = left * (1 - np.minimum(sampled(h.ages, key, 3), 0.95)) ** need.months
    off, along, ways = _holds(h, need, catalogue, amount)
    weight = need.mass_g * 1e-3 * G_GRAVITY
    # a wall in front does not wear
    wall = along - np.min(list(ways.values()), axis=0) if need.stop else 0.0
    worn_off, worn_along = off * left / weight, ((along - wall) * left + wall) / weight
    bands = band(worn_off, Inputs([])), band(worn_along, Inputs([]))
    enough: Literal["sure", "typical", "no"] = "no"
    if bands[0].typ >= off_g and bands[1].typ >= along_g:
        enough = "sure" if bands[0].low >= off_g and bands[1].low >= along_g else "typical"
    gives = "it lifts off its tray"
    if bands[1].typ / max(along_g, 1e-6) < bands[0].typ / max(off_g, 1e-6):
        gives = min(ways, key=lambda n: float(ways[n][0]))
        if need.stop:
            gives += ", then it crushes the wall in front"
    return HoldChoice(
        key=h.key, name=h.name, off_g=bands[0], along_g=bands[1], new_off_g=float(off[0] / weight),
        new_along_g=float(along[0] / weight), gives=gives, enough=enough,
        pieces=need.pieces if h.per == "piece" else None, wanted=_wanted(h, need, catalogue, off_g, along_g, left),
        grams=h.mass_g * amount, watch=h.watch, grade=h.grade, basis=h.basis,
    )  # fmt: skip


def _wanted(h: Holder, need: HoldNeed, catalogue: Catalogue, off_g: float, along_g: float, left: Array) -> int | None:
    weight = need.mass_g * 1e-3 * G_GRAVITY
    pieces = h.per == "piece"
    base = need.long_mm * need.wide_mm / 100
    for n in range(1, 21):
        amount = float(n) if pieces else base * n / 20
        off, along, _ = _holds(h, need, catalogue, amount)
        if off[0] * left[0] >= off_g * weight and along[0] * left[0] >= along_g * weight:
            return n if pieces else 5 * n
    return None
