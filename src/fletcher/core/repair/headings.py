"""What a repair may be called, which stands under a heading, and what is said first: headings mean what they say.

A part needs what its cases ask, by the low end of the band; where the whole part did not hold that, what it held.
A repair that another beats in every column is not shown. The limits are judgement [J].
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from fletcher.core.common.arrays import Array, BoolArray
from fletcher.core.materials.uncertainty import Band
from fletcher.core.repair.phrasing import LEFT_AS_IT_IS
from fletcher.core.repair.schema import CaseMended, Heading, Kind, MendOption, MendWish
from fletcher.core.repair.speeds import Speeds, speed_left

_AS_GOOD = 0.97
"""So much of what a part held that was not enough itself counts as mended."""
_SOUND, _STIFF = 80.0, 85.0
"""Per cent of the whole part's strength and stiffness from which on a repair is sound."""
_RESTORED, _ALIKE = 95.0, (92.0, 108.0)
"""Per cent of the strength, and of the stiffness, at which a part is restored."""
_LOOKS = 4
NEAR = 0.05
"""Of what is needed: what holds less by the launch is not named."""
_ADDED_G, _ADDED_SHARE = 2.0, 0.03
"""Grams, or share of the part, that may be added where it is restored."""
BOTH_MIN = 16.0
"""Minutes to make safe and to check, which a new part takes as well."""
_REBUILD_HANDS, _REBUILD_GRAMS = 0.8, 0.1
"""Share of a new part's hands, or of the part's grams, from which on it is better built anew."""

HEADINGS = [
    Heading(kind="quick", title="By next launch",
            rule="It flies by the launch, checks included, with what is at hand, and at its low end it then holds all "
                 "that is needed; of these the one that holds the most."),
    Heading(kind="near", title="Nearest by the launch",
            rule="By the launch no repair holds all that is needed: this one holds the most."),
    Heading(kind="sound", title="Sound",
            rule="Cured it holds what is needed at its low end, 80 % of the whole part's strength and 85 % of its "
                 "stiffness; the soonest of these to be loaded in full."),
    Heading(kind="restored", title="Like new",
            rule="95 % of the strength, stiffness within 8 %, hardly heavier, with the finish of the original; "
                 "the lightest of these."),
    Heading(kind="light", title="Lightest", rule="Cured it holds what is needed at its low end, with the least grams."),
    Heading(kind="easy", title="Least effort",
            rule="Cured it holds what is needed at its low end, with the least hands-on time."),
    Heading(kind="cheap", title="Cheapest",
            rule="Cured it holds what is needed at its low end, for the least money: shares of what is in your "
                 "field box, whole packs of what is bought."),
    Heading(kind="strong", title="Strongest there is",
            rule="No repair holds what is needed at its low end: this one comes nearest."),
]  # fmt: skip
"""In the order in which they stand."""


@dataclass(frozen=True)
class Row:
    """A repair by what it is compared in: minutes until it flies and is loaded in full, of hands; grams, credits; what
    it holds at its low end over what is needed, at the launch and cured; strength, bend and twist over the whole
    part's, per cent; looks, skill, things to buy, steps, materials, and share of the part's grams that it adds."""

    flies: float
    hands: float
    grams: float
    credits: float
    at_launch: float
    cured: float
    looks: float
    strength: float = 100.0
    bend: float = 100.0
    twist: float = 100.0
    skill: float = 1.0
    buys: float = 0.0
    loaded: float = 0.0
    steps: int = 1
    materials: int = 1
    part_g: float = 100.0
    grounded: bool = False

    def _columns(self) -> tuple[tuple[float, float], ...]:
        """Values, more being better, and by how much more is worth the name."""
        return (
            (-self.flies, 1.0), (-self.hands, 1.0), (-self.grams, 0.1), (-self.credits, 1.0), (-self.skill, 0.0),
            (-self.buys, 0.0), (100 * self.at_launch, 1.0), (100 * self.cured, 1.0), (self.strength, 1.0),
            (-abs(self.bend - 100), 1.0), (-abs(self.twist - 100), 1.0), (self.looks, 0.0), (-self.loaded, 1.0),
        )  # fmt: skip

    def beats(self, other: Row) -> bool:
        """Whether it is no worse in any column, and better in one by more than a trifle: 1 min, 0.1 g, 1 credit, 1 %;
        of two that are alike the plainer beats."""
        pairs = [(a, b, worth) for (a, worth), (b, _) in zip(self._columns(), other._columns(), strict=True)]
        if any(a < b - 1e-9 for a, b, _ in pairs):
            return False
        if any(a > b + worth + 1e-9 for a, b, worth in pairs):
            return True
        plain, others = (self.steps, self.materials), (other.steps, other.materials)
        return plain < others or (plain == others and any(a > b + 1e-9 for a, b, _ in pairs))


def row_of(o: MendOption, part_g: float) -> Row:
    """The row of a repair that was computed whole, of a part of so many grams."""
    return Row(
        flies=o.fly_min.typ, hands=o.minutes.typ, grams=o.more_g.typ, credits=o.cost.typ + o.packs,
        at_launch=margin_at_launch(o), cured=margin_cured(o), looks=float(o.looks), strength=o.strength_percent.typ,
        bend=o.bend_percent.typ, twist=100.0 if o.twist_percent is None else o.twist_percent.typ, skill=float(o.skill),
        buys=float(sum(n.at_hand is False for n in o.needs)), loaded=o.loaded_min, steps=len(o.operations),
        materials=len(o.needs), part_g=part_g, grounded=bool(o.grounded),
    )  # fmt: skip


def keeps(kind: Kind, r: Row, asked_min: float) -> bool:
    """Whether a repair may stand under a heading, where a launch in so many minutes was asked. What leaves a mark that
    grounds the part stands only under those that promise nothing."""
    if kind == "strong":
        return True
    if kind == "near":
        return r.buys == 0
    if r.grounded:
        return False
    if kind == "quick":
        return r.at_launch >= 1 and r.flies <= asked_min and r.buys == 0
    if r.cured < 1:
        return False
    if kind == "sound":
        return r.strength >= _SOUND and min(r.bend, r.twist) >= _STIFF
    if kind == "restored":
        alike = all(_ALIKE[0] <= v <= _ALIKE[1] for v in (r.bend, r.twist))
        return r.strength >= _RESTORED and bool(looks_as_it_was(r.looks, r.grams, r.part_g)) and alike
    return True


def looks_as_it_was(looks: Array | float, grams: Array | float, part_g: float) -> BoolArray:
    """Whether a repair that adds so many grams to a part may be called restored, by its looks and its weight alone."""
    return np.asarray((looks >= _LOOKS) & (grams <= max(_ADDED_G, _ADDED_SHARE * part_g)))


_ORDER: dict[Kind, Callable[[Row], tuple[float, ...]]] = {
    "quick": lambda r: (-round(r.at_launch, 2), r.flies),
    "sound": lambda r: (r.loaded, r.grams),
    "restored": lambda r: (round(r.grams, 1), r.flies),
    "light": lambda r: (round(r.grams, 1),),
    "easy": lambda r: (round(r.hands),),
    "cheap": lambda r: (round(r.credits, 1),),
    "strong": lambda r: (-r.cured,),
    "near": lambda r: (-r.at_launch,),
}  # fmt: skip


def headed(rows: Sequence[Row], asked_min: float) -> dict[int, list[Kind]]:
    """Which repairs stand under which headings, by number, the headings in order. Each is the best of those that may;
    ties go to fewer steps, then fewer materials. "Strongest" is called so where nothing holds what is needed, "nearest"
    where nothing does by the launch."""
    out: dict[int, list[Kind]] = {}
    for heading in HEADINGS:
        kind = heading.kind
        told = {k for kinds in out.values() for k in kinds}
        if (kind == "strong" and told - {"near"}) or (kind == "near" and "quick" in told):
            continue
        may = [n for n, r in enumerate(rows) if keeps(kind, r, asked_min)]
        if kind == "near":
            may = [n for n in may if rows[n].at_launch > NEAR]
        if may:
            best = min(may, key=lambda n: (*_ORDER[kind](rows[n]), rows[n].steps, rows[n].materials))
            out.setdefault(best, []).append(kind)
    return out


def beaten(rows: Sequence[Row]) -> list[bool]:
    """Which of the repairs another one beats."""
    return [any(m != n and other.beats(r) for m, other in enumerate(rows)) for n, r in enumerate(rows)]


def _needs(c: CaseMended) -> float:
    return c.asked if c.whole.low >= c.asked else _AS_GOOD * c.whole.low


def margin_cured(o: MendOption) -> float:
    """Low end of what it holds, cured, over what is needed, in the worst case."""
    return min(c.then.low / max(_needs(c), 1e-9) for c in o.cases)


def margin_at_launch(o: MendOption) -> float:
    """The same at the launch; nothing where the work is not done by then."""
    return min(_launch(c) for c in o.cases)


def _launch(c: CaseMended) -> float:
    return c.launch.low / max(_needs(c), 1e-9)


def rebuilt_first(sound: MendOption | None, rebuild_hours: Band, part_g: float) -> str:
    """The sentence that stands before all repairs where the part is better built anew; empty where it is not."""
    if sound is None:
        return ""
    if sound.says == LEFT_AS_IT_IS:
        return ""
    hands, share = (sound.minutes.typ - BOTH_MIN) / 60, sound.more_g.typ / max(part_g, 1e-9)
    if hands < _REBUILD_HANDS * rebuild_hours.typ and share <= _REBUILD_GRAMS:
        return ""
    return (
        f"Better to build a new part: a sound repair takes {hands:.1f} h of the {rebuild_hours.typ:.1f} h of a new one"
        f"{f' and makes it {100 * share:.0f} % heavier' if share >= 0.01 else ''}. "
    )


def by_the_launch(options: Sequence[MendOption], wish: MendWish, speeds: Speeds | None = None) -> str:
    """The first sentence of the answer: what holds at the launch, or that nothing does and what comes nearest in time,
    in strength and in load."""
    time = _time(wish.fly_in_min)
    quick = next((o for o in options if "quick" in o.kinds), None)
    if quick is not None and quick.says == LEFT_AS_IT_IS:
        return "It holds as it is: no repair is needed before the launch."
    if quick is not None:
        return f"By the launch in {time}: {_small(quick.says)}."
    out = f"✕ No repair is ready for the full load within {time}."
    holds = [o for o in options if margin_cured(o) >= 1 and not o.grounded]
    later = min(holds, key=lambda o: (bool(_to_buy(o)), o.fly_min.typ), default=None)
    if later is not None:
        buy = _to_buy(later)
        when = f"ready to fly after {_time(later.fly_min.typ)}"
        out += f" Soonest: {_small(later.says)}, "
        out += f"after buying {', '.join(buy)} {when}." if buy else f"{when}."
    near = next((o for o in options if "near" in o.kinds), None)
    if near is None:
        return out + " Nothing is done and set by then."
    out += f" By then {_small(near.says)} holds {100 * margin_at_launch(near):.0f} % of the load needed"
    if near.grounded:
        return f"{out}, and must not fly: {near.grounded}."
    return out + ("." if speeds is None else f": {_slower(near, speeds)}.")


def _to_buy(o: MendOption) -> list[str]:
    return [n.name for n in o.needs if n.at_hand is False]


def _slower(near: MendOption, speeds: Speeds) -> str:
    """At which speed what comes nearest may be flown: landing and handling ask the same at any."""
    short = any(_launch(c) < 1 for c in near.cases if not c.in_the_air)
    air = [_launch(c) for c in near.cases if c.in_the_air]
    if short or not air or speeds.top_m_s is None:
        return "at no speed is that enough"
    left = speed_left(min(air), speeds.top_m_s, speeds.stall_m_s)
    return "at no speed is that enough" if left is None else f"enough at {100 * left:.0f} % of the speed, without gusts"


def _small(says: str) -> str:
    return says[0].lower() + says[1:]


def _time(minutes: float) -> str:
    if minutes < 90:
        return f"{minutes:.0f} min"
    return f"{minutes / 60:.2g} h" if minutes < 2880 else f"{minutes / 1440:.2g} days"
