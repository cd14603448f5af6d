"""Group B: taking something away never makes a part stiffer or stronger, and more of it is never better."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from fletcher.core.document.airframe import Airframe, BarLayer, FilmLayer, Part, StripLayer
from fletcher.core.document.damage import BarMark, BreakMark, CrackMark, CrushMark, Mark, MissingMark, PeeledMark
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.materials.uncertainty import samples
from fletcher.core.repair.damage_model import as_damaged, parted_at, taken_along
from fletcher.core.repair.inspection import as_left, what_is_left
from fletcher.core.studies.constructions import CONSTRUCTIONS
from tests.sense.world import Answer, Rng, Violation, answer, answers, document, possible, sized, with_cases

MARKS = ("crack", "edge crack", "crush", "missing", "peeled", "bar", "break")
"""Every kind of damage that takes something away."""


def mark(rng: Rng, kind: str, part: Part, scale: float = 1.0) -> Mark | None:
    """A random mark of a kind; `scale` makes the same one deeper or longer."""
    at = round(float(rng.uniform(0.1, 0.7)) * part.span_mm, 1)
    thick = min(part.root_thickness_mm, part.tip_thickness_mm)
    deep = round(scale * float(rng.uniform(0.1, 0.3)) * thick, 2)
    wide = scale * float(rng.uniform(10, 20))
    chord = min(part.root_chord_mm, part.tip_chord_mm)
    if kind == "crack":
        return CrackMark(
            id="m",
            at_mm=at,
            face=str(rng.choice(["upper", "lower"])),
            from_percent=30,
            to_percent=30 + wide,
            depth_mm=deep,
        )
    if kind == "edge crack":
        return CrackMark(
            id="m",
            at_mm=at,
            face="front",
            from_percent=0,
            to_percent=20,
            depth_mm=round(wide / 100 * chord, 1),
            skins_torn=True,
        )
    if kind == "crush":
        return CrushMark(
            id="m", start_mm=at, end_mm=at + wide, face="upper", from_percent=30, to_percent=50, depth_mm=deep
        )
    if kind == "missing":
        return MissingMark(
            id="m",
            start_mm=at,
            end_mm=at + wide,
            face=str(rng.choice(["rear", "upper"])),
            from_percent=70,
            to_percent=85,
            depth_mm=deep if part.foam else round(0.1 * chord, 1),
        )
    if kind == "peeled":
        skins = [la for la in part.layers if isinstance(la, StripLayer | FilmLayer) and la.enabled]
        return (
            PeeledMark(id="m", of=skins[0].id, start_mm=at, end_mm=min(at + 3 * wide, part.span_mm - 1))
            if skins
            else None
        )
    bars = [
        la for la in part.layers if isinstance(la, BarLayer) and la.enabled and (la.end_mm or part.span_mm) > at + 5
    ]
    if kind == "bar":
        return BarMark(id="m", of=bars[0].id, at_mm=at) if bars else None
    return BreakMark(id="m", at_mm=at)


def _hurt(part: Part, found: Mark) -> Part:
    return part.model_copy(update={"damage": (found,)})


def _left(airframe: Airframe, part: Part, broken: Part) -> list[Answer]:
    """What the Crash desk says of a part as damage leaves it."""
    return [answer(a) for a in as_left(airframe, broken, [a.analysis for a in answers(airframe, part)])]


def _compared(airframe: Airframe, whole: Part, less: Part, broken: Part, law: str) -> Iterator[Violation]:
    """`less` is the whole part itself, or one less damaged."""
    if parted_at(broken) is not None:
        return
    with samples(0):
        before = answers(airframe, whole) if less is whole else _left(airframe, whole, less)
        after = _left(airframe, whole, broken)
    for case, was, now in zip(whole.cases, before, after, strict=True):
        if was.breaks_at < 1e6 and now.breaks_at > 1.02 * was.breaks_at:
            yield Violation(
                law,
                now.breaks_at / was.breaks_at,
                f"{case.type}: whole {was}\n      hurt {now}",
                document(airframe, broken),
            )
        bends, more = (float(np.abs(x.analysis.linear_deflection[0]).max()) for x in (was, now))
        if more < 0.98 * bends and bends > 1e-6:
            yield Violation(
                law, bends / more, f"{case.type}: bends {bends:.4g}, hurt {more:.4g}", document(airframe, broken)
            )


_STEADY = ("pull_up", "handling", "three_point", "tip_weight", "tail_load", "tail_lift", "deflected")
"""Cases whose load does not hang on how stiff or heavy the part is."""


def b1_less_is_never_more(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """B1: damage never raises stiffness or the break load."""
    local = rng or np.random.default_rng(sum(map(ord, key + kind)))
    airframe, part = sized(rng, key)
    part = with_cases(airframe, part, tuple(k for k in _kinds(part) if k in _STEADY))
    found = mark(local, kind, part)
    if found is not None and possible(part) and possible(_hurt(part, found)):
        broken = as_damaged(taken_along(_hurt(part, found)))
        yield from _compared(airframe, part, part, broken, f"B1 {key} {kind}")


def _kinds(part: Part) -> tuple[str, ...]:
    from fletcher.core.document.defaults import SUITS

    return SUITS[part.kind]


def b1_more_damage_is_worse(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """B1: deeper and longer damage is never better."""
    seed = int(rng.integers(1 << 30)) if rng else sum(map(ord, key + kind))
    airframe, part = sized(rng, key)
    part = with_cases(airframe, part, tuple(k for k in _kinds(part) if k in _STEADY))
    small, large = (mark(np.random.default_rng(seed), kind, part, s) for s in (1.0, 1.6))
    if small is None or large is None or not (possible(_hurt(part, small)) and possible(_hurt(part, large))):
        return
    less, more = (as_damaged(taken_along(_hurt(part, m))) for m in (small, large))
    if parted_at(less) is None:
        yield from _compared(airframe, part, less, more, f"B1 {key} more {kind}")


def b2_a_clean_break_takes_all(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """B2: what breaks clean through takes with it all that crosses the place, and is not flown."""
    local = rng or np.random.default_rng(sum(map(ord, key)))
    airframe, part = sized(rng, key)
    found = mark(local, "break", part)
    assert found is not None
    hurt = _hurt(part, found)
    if not possible(hurt):
        return
    with samples(0):
        left = what_is_left(airframe, hurt)
    if left.fly != "no" or not left.says.startswith("Do not fly"):
        yield Violation(f"B2 {key} broken through", 10.0, left.says, document(airframe, hurt))
    if any(c.left.typ > 0.6 * c.whole.typ for c in left.cases if c.whole.typ < 1e6 and c.in_the_air):
        said = "; ".join(f"{c.name} {c.left.typ:.3g} of {c.whole.typ:.3g}" for c in left.cases)
        yield Violation(f"B2 {key} broken through", 5.0, said, document(airframe, hurt))


def b2_a_broken_bar_is_not_flown(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """A broken bar reads "do not fly" first, whatever is left."""
    local = rng or np.random.default_rng(sum(map(ord, key)))
    airframe, part = sized(rng, key)
    found = mark(local, "bar", part)
    if found is None or not possible(_hurt(part, found)):
        return
    try:
        with samples(0):
            left = what_is_left(airframe, _hurt(part, found))
    except InvalidDocument:
        return
    if left.fly != "no" or not left.says.startswith("Do not fly"):
        yield Violation(f"B2 {key} broken bar", 10.0, left.says, document(airframe, _hurt(part, found)))


LAWS = (b1_less_is_never_more, b1_more_damage_is_worse, b2_a_clean_break_takes_all, b2_a_broken_bar_is_not_flown)
WAYS = tuple(CONSTRUCTIONS)
KINDS = MARKS
