"""What a repair may be called, and what can be done by the launch: headings mean what they say.

A part needs what its cases ask, by the low end of the band; where the whole part did not hold that, what it held.
The limits are judgement [J].
"""

from __future__ import annotations

from collections.abc import Sequence

from fletcher.core.materials.uncertainty import Band
from fletcher.core.repair.phrasing import LEFT_AS_IT_IS
from fletcher.core.repair.schema import CaseMended, Heading, Kind, MendOption, MendWish

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


HEADINGS = [
    Heading(kind="quick", title="By the next launch",
            rule="Done by the launch, and at its low end it then holds all that is needed."),
    Heading(kind="sound", title="Sound",
            rule="Cured it holds what is needed at its low end, 80 % of the whole part's strength and 85 % of its "
                 "stiffness; the soonest of these."),
    Heading(kind="restored", title="Restored",
            rule="95 % of the strength, stiffness within 8 %, hardly heavier, and it looks so."),
    Heading(kind="light", title="Lightest", rule="Cured it holds what is needed at its low end, with the least grams."),
    Heading(kind="cheap", title="Least effort",
            rule="Cured it holds what is needed at its low end, for the least money and hours."),
    Heading(kind="strong", title="Strongest there is",
            rule="No repair holds what is needed at its low end: this one comes nearest."),
    Heading(kind="near", title="Nearest by the launch",
            rule="By the launch no repair holds all that is needed: this one holds the most."),
]  # fmt: skip
"""In the order in which they stand."""


def _needs(c: CaseMended) -> float:
    return c.asked if c.whole.low >= c.asked else _AS_GOOD * c.whole.low


def margin_cured(o: MendOption) -> float:
    """Low end of what it holds, cured, over what is needed, in the worst case."""
    return min(c.then.low / max(_needs(c), 1e-9) for c in o.cases)


def margin_at_launch(o: MendOption) -> float:
    """The same at the launch; nothing where the work is not done by then."""
    return min(c.launch.low / max(_needs(c), 1e-9) for c in o.cases)


def _within(b: Band | None, low: float, high: float = 1e9) -> bool:
    return b is None or low <= b.typ <= high


def keeps(kind: Kind, o: MendOption, part_g: float) -> bool:
    """Whether a repair that was computed whole may stand under a heading; `part_g` grams of the part."""
    if kind in ("strong", "near"):
        return True
    if kind == "quick":
        return margin_at_launch(o) >= 1
    if margin_cured(o) < 1:
        return False
    if kind == "sound":
        strong = o.strength_percent.typ >= _SOUND
        return strong and all(_within(b, _STIFF) for b in (o.bend_percent, o.twist_percent))
    if kind == "restored":
        strong = o.strength_percent.typ >= _RESTORED and o.looks >= _LOOKS
        added = o.more_g.typ <= max(_ADDED_G, _ADDED_SHARE * part_g)
        return strong and added and all(_within(b, *_ALIKE) for b in (o.bend_percent, o.twist_percent))
    return True


def by_the_launch(options: Sequence[MendOption], wish: MendWish) -> str:
    """The first sentence of the answer: what holds at the launch, or that nothing does and what comes nearest."""
    time = _time(wish.fly_in_min)
    quick = next((o for o in options if "quick" in o.kinds), None)
    if quick is not None and quick.says == LEFT_AS_IT_IS:
        return "It holds as it is: nothing has to be mended by the launch."
    if quick is not None:
        return f"By the launch in {time}: {_small(quick.says)}."
    out = f"Nothing here holds this part at full load within {time}."
    later = min((o for o in options if margin_cured(o) >= 1), key=lambda o: o.fly_min.typ, default=None)
    if later is not None:
        out += f" Soonest that does: {_small(later.says)}, after {_time(later.fly_min.typ)}."
    near = next((o for o in options if "near" in o.kinds), None)
    if near is None:
        return out + " None is done and set by then."
    return out + f" By then {_small(near.says)} holds {100 * margin_at_launch(near):.0f} % of what is needed."


def _small(says: str) -> str:
    return says[0].lower() + says[1:]


def _time(minutes: float) -> str:
    if minutes < 90:
        return f"{minutes:.0f} min"
    return f"{minutes / 60:.2g} h" if minutes < 2880 else f"{minutes / 1440:.2g} days"
