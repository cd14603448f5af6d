"""What may lie behind a reading that nobody expected: candidates from the document, as questions."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from fletcher.core.balance.learning import Cause, explains, likely
from fletcher.core.balance.ledger import Entry
from fletcher.core.balance.weighin import SURPRISE, WeighedIn
from fletcher.core.document.airframe import Airframe
from fletcher.core.materials.tables import reference

SHOWN, AT_MOST = 0.10, 3
"""Causes that explain the reading and are likelier than that are asked for, so many of them."""
_OUNCE = 28.349523125
_STILL_ON, _MISSING, _CRADLE, _WET, _PLY, _FOAM, _HALF, _OUNCES = 0.08, 0.07, 0.05, 0.05, 0.05, 0.06, 0.03, 0.01
"""[J] Chances beforehand; the rest is nothing special."""
_SOLVENT = (0.3, 0.06)
"""[J] What glue, resin and paint that are not dry weigh more, as a share of what stays; spread of the whole piece."""
_LIGHT = 0.02
"""Pieces below such a share of the reading explain nothing."""


def questions(airframe: Airframe, entries: Sequence[Entry], grams: Sequence[float], w: WeighedIn) -> list[str]:
    """The likeliest causes of a surprise as questions, likeliest first; `grams` as expected for every line."""
    spread = w.expected_sd_g / w.expected_g
    found = list(_candidates(airframe, entries, grams, w, spread))
    plain = Cause("", 1 - sum(c.chance for c in found), w.expected_g, spread)
    ranked = likely([plain, *found], w.grams, w.sd_g)
    told = [c for c, p in ranked if c.says and p > SHOWN and explains(c, w.grams, w.sd_g, SURPRISE)]
    return [c.says for c in told][:AT_MOST]


def _candidates(
    airframe: Airframe, entries: Sequence[Entry], grams: Sequence[float], w: WeighedIn, spread: float
) -> Iterator[Cause]:
    y = w.expected_g
    on = set(w.at)
    pieces = {entries[i].piece for i in on}
    others: dict[str, float] = {}
    for i, e in enumerate(entries):
        if i not in on and e.piece and (e.piece in pieces or e.group != "equipment"):
            name = e.line.name if e.piece in pieces else piece_name(airframe, e)
            others[name] = others.get(name, 0.0) + grams[i]
    yield from _shared(_STILL_ON, [(f"Was this still on it: {n}?", y + g) for n, g in others.items()], y, spread)
    missing = [(f"Was this missing: {entries[i].line.name}?", y - grams[i]) for i in on] if len(on) > 1 else []
    yield from _shared(_MISSING, missing, y, spread)
    r = w.weighing.reading
    if r.kind == "supports" and (cradles := r.first_cradle_g + r.second_cradle_g) > 0:
        both = [("Was a cradle weighed with it?", y + cradles), ("Were the cradles taken off twice?", y - cradles)]
        yield from _shared(_CRADLE, both, y, spread)
    wet = sum(grams[i] for i in on if entries[i].stage in ("glued", "skinned", "painted") and entries[i].wet)
    if wet > 0:
        yield Cause("Was glue, resin or paint not yet dry?", _WET, y + _SOLVENT[0] * wet, _SOLVENT[1])
    plies = []
    for i in on:
        if entries[i].stage in ("skinned", "painted"):
            one = grams[i] / entries[i].plies
            plies += [(f"One ply or coat more of {entries[i].line.name}?", y + one),
                      (f"One ply or coat less of {entries[i].line.name}?", y - one)]  # fmt: skip
    yield from _shared(_PLY, plies, y, spread)
    yield from _shared(_FOAM, list(_other_foam(airframe, entries, grams, on, y)), y, max(spread, 0.08))
    if any(p.endswith("/right") and p.replace("/right", "/left") in pieces for p in pieces):
        yield Cause("Did only one half lie on the scale?", _HALF, y / 2, spread)
    yield Cause("Does the scale show ounces?", _OUNCES, y / _OUNCE, spread)


def _shared(chance: float, told: list[tuple[str, float]], y: float, spread: float) -> Iterator[Cause]:
    """Candidates of one kind, which share its chance; those that change next to nothing are left out."""
    found = [(says, g) for says, g in told if g > 0 and abs(g - y) > _LIGHT * y]
    for says, g in found:
        yield Cause(says, chance / len(found), g, spread)


def _other_foam(
    airframe: Airframe, entries: Sequence[Entry], grams: Sequence[float], on: set[int], y: float
) -> Iterator[tuple[str, float]]:
    """The next lighter and the next denser foam of the same kind in a part's core."""
    for i in on:
        e = entries[i]
        part = airframe.part(e.part_id) if e.part_id else None
        if part is None or part.foam is None or not e.key.endswith("/core"):
            continue
        foams = reference().foams
        own = foams[part.foam]
        alike = sorted((f for f in foams.values() if f.family == own.family), key=lambda f: f.density_kg_m3.typ)
        at = alike.index(own)
        for other in (*alike[max(at - 1, 0) : at], *alike[at + 1 : at + 2]):
            more = grams[i] * (other.density_kg_m3.typ / own.density_kg_m3.typ - 1)
            yield f"Is it another foam: {other.name}?", y + more


def piece_name(airframe: Airframe, e: Entry) -> str:
    """A part with its side, or an item, in words."""
    if e.part_id is None:
        return e.line.name
    part = airframe.part(e.part_id)
    assert part is not None
    side = e.piece.rsplit("/", 1)[1]
    return f"{part.name}, {side}" if side != "one" else part.name
