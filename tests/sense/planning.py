"""Group of the plan: no step before what it needs, no sooner than its longest chain nor later than all in a row, more
hands or boards never make it later, more to build never makes it sooner."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from itertools import pairwise
from uuid import UUID

from fletcher.core.document.airframe import Airframe, BarLayer, FilmLayer, HingeLayer
from fletcher.core.materials.tables import reference
from fletcher.core.plan.cut_list import CutWish, cut_list
from fletcher.core.plan.flat_pieces import HINGE_TAPE, flat_pieces
from fletcher.core.plan.operations import operations
from fletcher.core.plan.planning import plan, step_of
from fletcher.core.plan.schedule import Schedule, Shop, Step, longest_chain, schedule
from fletcher.core.plan.schema import ShopWish, WarmBox
from fletcher.core.plan.work import Press, Work
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.studies.splicing import splicing
from fletcher.core.validation.airframe import check
from tests.sense.world import Rng, Violation, sized

WAYS = tuple(k for k, way in CONSTRUCTIONS.items() if way.part().kind != "plank")
KINDS = ("one half", "both halves")
EVENINGS = tuple((1440 * day, 1440 * day + 240) for day in range(60))


def built(rng: Rng | None, key: str, kind: str) -> Airframe | None:
    """An airframe of one part, as one piece or as two halves; None where it cannot be."""
    airframe, part = sized(rng, key)
    hand = "both" if kind == "both halves" and part.kind != "fuselage" else "single"
    airframe = airframe.model_copy(update={"parts": (part.model_copy(update={"hand": hand}),)})
    return None if any(check(airframe, reference())) else airframe


def steps_of(airframe: Airframe) -> list[Step]:
    """Its steps, the flight at any time of the day."""
    return [step_of(o, ()) for o in operations(airframe, ShopWish())]


def planned(steps: list[Step], people: int = 1, boards: int = 1, windows: tuple[tuple[int, int], ...] = ()) -> Schedule:
    return schedule(steps, Shop(people, {"boards": boards, "clamps": 8}, windows))


def _broken(law: str, badly: float, says: str, airframe: Airframe) -> Violation:
    return Violation(law, badly, says, json.dumps(airframe.model_dump(mode="json")))


def nothing_before_what_it_needs(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """In any hours every step begins once what it waits for has set, and hands never do two things."""
    airframe = built(rng, key, kind)
    if airframe is None:
        return
    steps = steps_of(airframe)
    hands = {s.key: s.hands for s in steps}
    for windows in ((), EVENINGS):
        made = planned(steps, windows=windows)
        for s in steps:
            for a in s.after:
                early = made.starts[a.key] + hands[a.key] + a.wait - made.starts[s.key]
                if early > 0:
                    yield _broken("nothing before what it needs", 2.0, f"{s.key} {early} min before {a.key}", airframe)
        order = sorted(steps, key=lambda s: made.starts[s.key])
        for one, other in pairwise(order):
            if made.starts[one.key] + one.hands > made.starts[other.key]:
                yield _broken("hands do one thing", 2.0, f"{one.key} and {other.key} at once", airframe)


def between_its_chain_and_all_in_a_row(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """No sooner than the longest chain, no later than every step and every wait one after another."""
    airframe = built(rng, key, kind)
    if airframe is None:
        return
    steps = steps_of(airframe)
    made, chain = planned(steps), longest_chain(steps)
    waits = {s.key: s.held for s in steps}
    for s in steps:
        for a in s.after:
            waits[a.key] = max(waits[a.key], a.wait)
    row = sum(s.hands + waits[s.key] for s in steps)
    if not max(chain, sum(s.hands for s in steps)) <= made.finish <= row:
        yield _broken("between chain and row", 2.0, f"{made.finish} min; chain {chain}, in a row {row}", airframe)


def more_hands_never_make_it_later(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """Another person or board makes it no later, where both plans are proved; evenings make it no sooner."""
    airframe = built(rng, key, kind)
    if airframe is None:
        return
    steps = steps_of(airframe)
    one = planned(steps)
    for name, other in (("a second person", planned(steps, people=2)), ("a second board", planned(steps, boards=2))):
        if one.proved and other.proved and other.finish > one.finish:
            yield _broken(name, other.finish / one.finish, f"{other.finish} min instead of {one.finish}", airframe)
    late = planned(steps, windows=EVENINGS)
    if one.proved and late.finish < one.finish:
        yield _broken("evenings only", 2.0, f"{late.finish} min instead of {one.finish}", airframe)


def more_to_build_is_no_sooner(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """A film more is steps more, and no earlier flight."""
    airframe = built(rng, key, kind)
    if airframe is None:
        return
    part = airframe.parts[0]
    film = FilmLayer(id="one-more", skin="bopp_tape_std", face="both")
    more = airframe.model_copy(update={"parts": (part.model_copy(update={"layers": (*part.layers, film)}),)})
    if any(check(more, reference())):
        return
    before, after = planned(steps_of(airframe)), planned(steps_of(more))
    if len(after.starts) <= len(before.starts):
        yield _broken("a film more", 2.0, f"{len(after.starts)} steps instead of {len(before.starts)}", more)
    if before.proved and after.finish < before.finish:
        yield _broken("a film more", 2.0, f"{after.finish} min instead of {before.finish}", more)


def all_that_is_cut_is_in_the_document(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """Every line of sheet, film and cloth is cut and nothing else; two halves take as many left as right, twice what
    one takes; a layout never takes more sheets than cutting as it comes, nor fewer than its area."""
    airframe = built(rng, key, kind)
    if airframe is None:
        return
    part = airframe.parts[0]
    pieces = list(flat_pieces(airframe))
    if part.hand == "both":
        sides = Counter(f.name.replace(", right", "").replace(", left", "") for f in pieces)
        hands = Counter("right" if ", right" in f.name else "left" for f in pieces)
        if hands["right"] != hands["left"] or any(n % 2 for n in sides.values()):
            yield _broken("as many left as right", 2.0, f"{hands}", airframe)
    stock = {f.key for f in pieces}
    hinged = {HINGE_TAPE for la in part.layers if isinstance(la, HingeLayer)}
    wanted = {*hinged, part.foam, part.rib_sheet, getattr(part.section, "board", None)}
    for la in part.layers:
        skin = getattr(la, "skin", None)
        cloths = [skin] if isinstance(skin, str) else [p.cloth for p in skin.plies] if skin else []
        wanted |= {getattr(la, "sheet", None), getattr(la, "cord", None), *cloths}
    if not stock <= wanted:
        yield _broken("nothing else is cut", 2.0, f"{stock - wanted}", airframe)
    made = cut_list(airframe, CutWish())
    for s in made.sheets:
        area = sum(p.long_mm * p.wide_mm for x in s.sheets for p in x.pieces)
        there = sum(x.long_mm * x.wide_mm for x in s.sheets)
        if not (s.least <= s.buy <= s.careless and area <= there * (1 + 1e-9)):
            yield _broken("no more sheets than as it comes", s.buy - s.careless + 1.0, f"{s.key} {s.buy}", airframe)


def what_is_pressed_and_taken_back_leaves_no_trace(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """A step that was done and undone leaves the plan as it was; one that is done is not moved, and takes the first
    flight no further off than the time that it took."""
    airframe = built(rng, key, kind)
    if airframe is None:
        return
    shop, now = ShopWish(boards=2), datetime(2026, 6, 1, 9, tzinfo=UTC)
    first = operations(airframe, shop)[0]
    pressed = [
        Press(id=str(UUID(int=n)), at=now + timedelta(minutes=m), what=what, key=first.key)
        for n, (what, m) in enumerate((("begun", 0), ("done", 45), ("undone", 46)))
    ]
    bare = plan(airframe, shop, now)
    undone = plan(airframe, shop, now, Work(presses=tuple(pressed)))
    if (undone.flies, undone.done) != (bare.flies, 0):
        yield _broken("done and undone is as it was", 2.0, first.key, airframe)
    done = plan(airframe, shop, now + timedelta(minutes=46), Work(presses=tuple(pressed[:2])))
    at = next(p for p in done.planned if p.key == first.key)
    if at.state != "done" or at.begins != now or at.ends != now + timedelta(minutes=45):
        yield _broken("what is done is not moved", 2.0, f"{at}", airframe)
    later = (done.flies - bare.flies).total_seconds() / 60
    if later > 1440 + 46:
        yield _broken("no further off than it took", later / 1440, f"{later} min", airframe)


def a_long_spar_is_joined_where_it_hurts_little(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """A spar along a part that is longer than its stock: once it is joined as offered all can be cut, the part holds
    nearly what it did, and nothing more is offered."""
    airframe = built(rng, key, kind)
    if airframe is None:
        return
    part = airframe.parts[0]
    spar = BarLayer(id="long", stock="carbon_rod_3", place="middle", root_percent=45, tip_percent=45,
                    joined_at_root=False)  # fmt: skip
    part = part.model_copy(update={"span_mm": max(part.span_mm, 1250.0), "layers": (*part.layers, spar)})
    airframe = airframe.model_copy(update={"parts": (part,)})
    if any(check(airframe, reference())):
        return
    offer = next((o for o in splicing(airframe, CutWish()).offers if o.layer_id == "long"), None)
    if offer is None:
        return
    layers = tuple(offer.layer if la.id == "long" else la for la in part.layers)
    joined = airframe.model_copy(update={"parts": (part.model_copy(update={"layers": layers}),)})
    if any(b.layer_id == "long" for b in cut_list(joined, CutWish()).long_bars):
        yield _broken("joined is short enough", 2.0, offer.says, joined)
    if offer.margin < 0.9 * offer.margin_before:
        yield _broken("joined holds nearly as much", offer.margin_before / offer.margin, offer.says, joined)
    if offer.margin > 1.02 * offer.margin_before:
        yield _broken("a joint strengthens nothing", offer.margin / offer.margin_before, offer.says, joined)
    if not 0 < offer.grams < 20:
        yield _broken("an overlap weighs", 2.0, offer.says, joined)


def a_warm_box_never_makes_it_later(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """With a warm box it flies no later, with two places no later than with one, where the plans are proved."""
    airframe = built(rng, key, kind)
    if airframe is None:
        return
    now = datetime(2026, 6, 1, 9, tzinfo=UTC)
    boxes = (None, WarmBox(thermostat=True, long_mm=3000), WarmBox(thermostat=True, long_mm=3000, places=2))
    made = [plan(airframe, ShopWish(warm_box=b), now) for b in boxes]
    for fewer, more in pairwise(made):
        if fewer.proved and more.proved and more.flies > fewer.flies:
            yield _broken("a warm box more", 2.0, f"{more.flies} instead of {fewer.flies}", airframe)


LAWS = (
    a_warm_box_never_makes_it_later,
    a_long_spar_is_joined_where_it_hurts_little,
    all_that_is_cut_is_in_the_document, what_is_pressed_and_taken_back_leaves_no_trace,
    nothing_before_what_it_needs, between_its_chain_and_all_in_a_row, more_hands_never_make_it_later,
    more_to_build_is_no_sooner,
)  # fmt: skip
