"""The search for repairs: every fix of every mark with every glue, joined to whole repairs, and a handful of the front.

A whole repair holds what its weakest mark holds (series system); its flexibilities, grams, minutes and credits add.
Combinations that another beats in every respect are dropped while marks are joined. What is proposed is then computed
whole, with bands (`repair.evaluate`). The search yields its progress, and stops when it is closed.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from fletcher.core.adhesion.adhesives import curings
from fletcher.core.adhesion.bond_line import CURED_MIN
from fletcher.core.adhesion.cautions import cautions_for
from fletcher.core.adhesion.readiness import ready_after, slowed
from fletcher.core.common.arrays import Array, BoolArray
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.damage import BarMark, Mark
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.estimate.effort import effort_of
from fletcher.core.estimate.prepare import prepared_for
from fletcher.core.materials.uncertainty import QUICK_SAMPLES, Inputs, band, samples
from fletcher.core.repair.candidates import fixes_for, glues_for
from fletcher.core.repair.cures import FLIES_AT
from fletcher.core.repair.damage_model import found_whole, taken_along
from fletcher.core.repair.evaluate import Computed, State, computed, holds_damaged, state_of
from fletcher.core.repair.grounding import grounded_by
from fletcher.core.repair.headings import (
    HEADINGS,
    beaten,
    by_the_launch,
    headed,
    keeps,
    looks_as_it_was,
    rebuilt_first,
    row_of,
)
from fletcher.core.repair.missing_foam import gauges_of, pieces_of
from fletcher.core.repair.operations import CHECK_MIN, SAFE_MIN
from fletcher.core.repair.phrasing import is_known, mark_words, recipe_words
from fletcher.core.repair.recipe import Fix, Recipe
from fletcher.core.repair.schema import (
    ASSUMPTIONS,
    FrontPoint,
    Kind,
    Mending,
    MendOption,
    MendWish,
    Progress,
    Rebuild,
)
from fletcher.core.repair.single_fix import MINUTES, Trials, Tried
from fletcher.core.repair.speeds import judging, speeds_of
from fletcher.core.repair.two_stage import stages_of
from fletcher.core.repair.way_glue import BEDDED, SPLICED

KEPT = 120
"""So many combinations are kept while marks are joined."""
FRONT = 40
"""So many points of the front are told."""
TRIED = 3
"""So many of a kind are computed in full, until one keeps what the search foretold of it."""
_ONE_STATION_MM = 50.0
"""Bars that are joined nearer to one another along the part are joined at one station."""
DRAWS = QUICK_SAMPLES
"""So many draws stand behind their bands, as on the Bench while a thing is dragged: for the answer within two seconds.
One that is opened or adopted is computed with all."""
_LOG = np.log(np.array(MINUTES))


@dataclass(frozen=True)
class _Set:
    """Combinations of fixes: `holds` (K, cases, glues, times), and `near` of the joints they make; `strains`
    (K, cases, marks) by how much the faces are strained more at every mark than in the whole part; `scores` (K, 10):
    bend and twist over the whole's, grams, minutes, credits, what is not at hand, and how many bars are glued into a
    bed, cracks glued shut, which takes glues of their own, seams, and splices; `between` (K, glues) minutes that steps
    of one mark wait for one another; `grades` (K, 2): looks, skill."""

    fixes: list[tuple[Fix, ...]]
    holds: Array
    near: Array
    strains: Array
    scores: Array
    between: Array
    grades: Array


@dataclass(frozen=True)
class _Hand:
    """What is at hand, and whether any glue that goes into a bed, or a crack, is among it (1: none is)."""

    things: frozenset[str]
    no_bed: float
    no_crack: float


def _row(t: Tried, hand: _Hand) -> tuple[list[float], list[float]]:
    bedded, packed = float(t.fix.way in BEDDED), float(t.fix.way == "pack")
    lacks = float(len(t.needs - hand.things)) if hand.things else 0.0
    lacks += bedded * hand.no_bed + packed * hand.no_crack
    scores = [t.bend - 1, t.twist - 1, t.grams, t.minutes, t.cost, lacks, bedded, packed, float(t.fix.seamed),
              float(t.fix.way in SPLICED)]  # fmt: skip
    return scores, [float(t.looks), float(t.skill)]


_LACKS, _BEDDED, _PACKED, _SEAMED, _SPLICED = 5, 6, 7, 8, 9
"""Columns of what is not at hand, and of joints by their glue."""


def _both_spliced(a: _Set, tried: list[Tried], marks: Sequence[Mark], n: int) -> BoolArray:
    """Combinations (K, W) that splice two bars at one station, the n-th mark's and another's: both would give there."""
    at = {m.id: m.at_mm for m in marks if isinstance(m, BarMark)}
    here = at.get(marks[n].id)
    near = {key for key, place in at.items() if here is not None and abs(place - here) < _ONE_STATION_MM}
    before = np.array([any(f.mark in near and f.way in SPLICED for f in fixes) for fixes in a.fixes], bool)
    now = np.array([t.fix.way in SPLICED for t in tried], bool)
    return np.asarray(before[:, None] & now[None])


def _joined(a: _Set, tried: list[Tried], marks: Sequence[Mark], n: int, hand: _Hand) -> _Set:
    """Every combination with every fix of the n-th mark. What one leaves softer strains the other more: a fix holds
    less by the strain that all others add at its place."""
    rows = [_row(t, hand) for t in tried]
    more = np.array([r[0] for r in rows])
    grades = np.array([r[1] for r in rows])
    holds = np.array([t.holds for t in tried])
    strains = np.array([t.strains for t in tried])
    on_others = np.max(strains[:, :, :n], axis=2) if n else np.ones(strains.shape[:2])
    near = np.array([t.near for t in tried])
    before = a.near[:, None] / on_others[None, :, :, None, None]
    beside = np.minimum(before, near[None] / a.strains[:, None, :, n, None, None])
    beside = beside * ~_both_spliced(a, tried, marks, n)[:, :, None, None, None]
    K, W = len(a.fixes), len(tried)
    shape = (K * W, *a.holds.shape[1:])
    looks = np.minimum(a.grades[:, None, 0], grades[None, :, 0])
    skill = np.maximum(a.grades[:, None, 1], grades[None, :, 1])
    return _Set(
        fixes=[(*f, t.fix) for f in a.fixes for t in tried],
        holds=np.minimum(np.minimum(a.holds[:, None], holds[None]), beside).reshape(shape),
        near=beside.reshape(shape),
        strains=(a.strains[:, None] * strains[None]).reshape(K * W, *a.strains.shape[1:]),
        scores=(a.scores[:, None] + more[None]).reshape(K * W, -1),
        between=np.maximum(a.between[:, None], np.array([t.between for t in tried])[None]).reshape(K * W, -1),
        grades=np.stack([looks, skill], -1).reshape(K * W, 2),
    )


def _best(values: Array) -> Array:
    """Rows of `values` (K, m), more being better, that no other row beats or equals in all columns, (K,)."""
    keep = np.ones(len(values), bool)
    for k in range(len(values)):
        if keep[k]:
            better = np.all(values >= values[k] - 1e-9, axis=1) & np.any(values > values[k] + 1e-9, axis=1)
            keep[k] = not bool(np.any(better & keep))
    return keep


def _thinned(s: _Set, whole: Array) -> _Set:
    """The front, over time, strength, stiffness, grams, looks, skill and credits; at most `KEPT` of it, the strong and
    the quick in turn."""
    share = s.holds / whole[None, :, None, None]
    cured = share[..., -1].min(1).max(1)
    soon = share[..., 3].min(1).max(1)
    values = np.column_stack([
        np.minimum(cured, 1.05), np.minimum(soon, 1.05), -np.abs(s.scores[:, 0]).round(2), -s.scores[:, 2].round(1),
        -s.scores[:, 3], s.grades[:, 0], -s.grades[:, 1], -s.scores[:, 4].round(1), -s.scores[:, 5],
    ])  # fmt: skip
    places = np.nonzero(_best(values.round(3)))[0]
    if len(places) > KEPT:
        orders = [places[np.argsort(-values[places, c] - 0.01 * values[places, 0])] for c in range(values.shape[1])]
        chosen: dict[int, None] = {}
        for n in range(len(places)):
            for order in orders:
                if len(chosen) < KEPT:
                    chosen.setdefault(int(order[n]))
        places = np.array(list(chosen))
    return _Set(
        [s.fixes[k] for k in places],
        s.holds[places],
        s.near[places],
        s.strains[places],
        s.scores[places],
        s.between[places],
        s.grades[places],
    )


def search(
    airframe: Airframe, part: Part, wish: MendWish, scrap: Sequence[tuple[str, Part]] = ()
) -> Iterator[Progress | Mending]:  # fmt: skip
    """Search repairs for a checked part with marks of damage: progress, and at last the answer. `scrap`: other broken
    parts by name, to cut foam from.

    Raises
    ------
    InvalidDocument
        If nothing is marked, or nothing that can be made mends it.
    """
    if not part.damage:
        message = "is empty: mark the damage first"
        raise InvalidDocument([Problem(path="damage", message=message, value="no damage marks")])
    part = taken_along(part)
    unknown = [k for k in wish.at_hand if not is_known(k)]
    if unknown:
        message = "is not in the Stockroom"
        raise InvalidDocument([Problem(path="wish.at_hand", message=message, value=unknown[0])])
    glues = glues_for(part, wish.at_hand, wish.warmth_C) or ["epoxy_30min"]
    yield Progress(done=0, of=len(part.damage) + 6, says="Undamaged part")
    trials = Trials(airframe, part, glues, wish)
    things = frozenset(wish.at_hand)
    hand = _Hand(things, *(float(bool(things) and not things & set(keys)) for keys in (trials.beds, trials.cracks)))
    whole = np.repeat(np.repeat(trials.whole_holds[None, :, None, None], len(glues), 2), len(MINUTES), 3)
    found = _Set(
        [()], whole, np.full_like(whole, 1e9),
        np.ones((1, len(judging(part)), len(part.damage))), np.zeros((1, 10)),
        np.zeros((1, len(glues))), np.array([[5.0, 1.0]]),
    )  # fmt: skip
    considered = 0
    for n, mark in enumerate(part.damage):
        yield Progress(done=n + 1, of=len(part.damage) + 6, says=mark_words(mark))
        fixes = fixes_for(mark, part, wish.at_hand)
        tried = [t for f in fixes if (t := trials.tried(mark, f)) is not None]
        if not tried:
            message = "cannot be repaired with this foam, glue and stock: build a new part"
            raise InvalidDocument([Problem(path=f"damage[{n}]", message=message, value=mark_words(mark))])
        alone = part.model_copy(update={"damage": (found_whole(mark, part),)})
        if grounded_by(alone):  # a repair that may be flown mends it
            tried = [t for t in tried if t.fix.way != "leave"] or tried
        joined = _joined(found, tried, part.damage, n, hand)
        considered += len(joined.fixes) * len(glues)
        found = _thinned(joined, trials.whole_holds)
    ranked = _Ranked(found, trials, wish, part)
    yield Progress(done=len(part.damage) + 2, of=len(part.damage) + 6, says=f"{considered} repairs tried")
    made: dict[Recipe, Computed | None] = {}
    state: list[State] = []
    part_g = 0.0
    left: Array | None = None
    fine = False
    for kind, recipes in ranked.chosen():
        if kind == "strong" and fine:
            continue
        for recipe in recipes:
            if recipe not in made:
                with samples(DRAWS):  # never over a yield: who reads the progress keeps his own count
                    state = state or [state_of(airframe, trials.whole_part)]
                    part_g = float(state[0].prepared.grams[:, 0].sum())
                    left = holds_damaged(airframe, part, state[0]) if left is None else left
                    made[recipe] = _made(airframe, part, recipe, wish, state[0], left)
                done = len(part.damage) + 2 + min(len(made), 3)
                yield Progress(done=done, of=len(part.damage) + 6, says=f"{len(made)} computed in full")
            c = made[recipe]
            if c is not None and keeps(kind, row_of(c.option, part_g), wish.fly_in_min):
                fine = True
                break
    computed_whole = [c for c in made.values() if c is not None]
    rows = [row_of(c.option, part_g) for c in computed_whole]
    kinds = headed(rows, wish.fly_in_min)
    options = [
        replace(computed_whole[n], option=computed_whole[n].option.model_copy(update={"kinds": k}))
        for n, k in kinds.items()
    ]  # fmt: skip
    more = sum(b and n not in kinds for n, b in enumerate(beaten(rows)))
    if not options:
        message = "has no repair that fits together: build a new part, or mark less damage"
        raise InvalidDocument([Problem(path="damage", message=message, value=f"{len(part.damage)} marks")])
    with samples(DRAWS):
        stages, anew = stages_of(options), _rebuild(airframe, part)
    yield Mending(
        says=_says(airframe, part, [c.option for c in options], wish, anew, part_g), headings=HEADINGS,
        considered=considered, beaten=more, options=[c.option for c in options], front=ranked.front(),
        staged=stages, rebuild=anew,
        pieces=pieces_of(part, scrap), gauges=gauges_of(part),
        cautions=cautions_for(["key:battery_crash", "key:flying_repaired", "key:estimate_limits"]),
        assumptions=list(ASSUMPTIONS),
    )  # fmt: skip


def _says(
    airframe: Airframe, part: Part, options: list[MendOption], wish: MendWish, anew: Rebuild, part_g: float
) -> str:  # fmt: skip
    """The first sentence of the answer."""
    speeds = speeds_of(airframe, part)
    sound = next((o for o in options if "sound" in o.kinds), None)
    return rebuilt_first(sound, anew.hours, part_g) + by_the_launch(options, wish, speeds)


def _made(
    airframe: Airframe, part: Part, recipe: Recipe, wish: MendWish, whole: State, left: Array
) -> Computed | None:  # fmt: skip
    """A repair computed in full; None where fixes that fit alone do not fit together."""
    try:
        return computed(airframe, part, recipe, wish, (), whole, left)
    except InvalidDocument:
        return None


def _not_at_hand(key: str, wish: MendWish) -> float:
    return float(bool(wish.at_hand) and key not in wish.at_hand)


class _Ranked:
    """Combinations with every glue, by what counts."""

    def __init__(self, s: _Set, trials: Trials, wish: MendWish, part: Part) -> None:
        self.s, self.trials, self.glues, self.wish, self.part = s, trials, trials.glues, wish, part
        whole = trials.whole_holds
        asked = np.array([c.safety_factor for c in judging(part)])
        self.strength = (s.holds[..., -1] / whole[None, :, None]).min(1)
        """(K, glues), of the whole part's."""
        wanted = np.minimum(asked, whole)
        self.enough = (s.holds[..., -1] / wanted[None, :, None]).min(1)
        self.launch, self.fly = self._times(whole, asked)
        self.mismatch = np.max(np.abs(s.scores[:, :2]), axis=1)[:, None] + np.zeros_like(self.strength)
        lacking = np.array([_not_at_hand(g, wish) for g in self.glues])
        more = np.zeros_like(self.strength)
        for column, keys in (
            (_BEDDED, trials.beds),
            (_PACKED, trials.cracks),
        ):  # over the least, which is counted already
            own = np.array([_not_at_hand(k, wish) for k in keys])
            more += (s.scores[:, column] > 0)[:, None] * (own - own.min())[None]
        self.lacks = s.scores[:, _LACKS][:, None] + (s.scores[:, _SEAMED] > 0)[:, None] * lacking[None] + more

    def _times(self, whole: Array, asked: Array) -> tuple[Array, Array]:
        """Strength at the launch over the whole part's, and minutes until it may fly, (K, glues)."""
        holds, hands = self.s.holds, self.s.scores[:, 3][:, None] + self.s.between + SAFE_MIN.typ
        slow = np.array([slowed(curings()[g], self.wish.warmth_C) for g in self.glues])
        late = np.zeros_like(hands)
        for column, keys in ((_SEAMED, self.glues), (_BEDDED, self.trials.beds), (_PACKED, self.trials.cracks),
                             (_SPLICED, self.trials.splices)):  # fmt: skip
            each = np.array([ready_after(k, "flight_ready", self.wish.warmth_C, late=True) for k in keys])
            late = np.maximum(late, (self.s.scores[:, column] > 0)[:, None] * each[None])
        rest = np.log(np.maximum((self.wish.fly_in_min - hands) / slow, 1e-3))
        at = np.clip(np.searchsorted(_LOG, rest, side="right") - 1, 0, len(_LOG) - 2)
        along = np.clip((rest - _LOG[at]) / (_LOG[at + 1] - _LOG[at]), 0, 1)
        low, high = (np.take_along_axis(holds, n[:, None, :, None], 3)[..., 0] for n in (at, at + 1))
        then = low + (high - low) * along[:, None]
        early = np.minimum(np.exp(rest) / MINUTES[0], 1.0)[:, None]
        in_time = hands + CHECK_MIN.typ <= self.wish.fly_in_min
        launch = (then * early / whole[None, :, None]).min(1) * in_time
        wanted = np.minimum(asked[None, :, None], FLIES_AT * holds[..., -1])
        ready = np.all(holds >= wanted[..., None] * (1 - 1e-9), axis=1)
        first = np.argmax(ready, axis=2)
        wait = np.where(ready.any(2), np.array(MINUTES)[first], CURED_MIN) * slow
        never = np.all(np.isclose(holds, holds[..., -1:]), axis=(1, 3))  # nothing has to cure
        return launch, hands + np.maximum(np.where(never, 0.0, wait), late) + CHECK_MIN.typ

    def _pick(self, score: Array, allowed: Array) -> list[Recipe]:
        """The best few that are allowed, each with its best glue, the best first."""
        ranked = np.where(allowed, score, -np.inf)
        glue = np.argmax(ranked, axis=1)
        best = ranked[np.arange(len(glue)), glue]
        order = np.argsort(-best, kind="stable")[:TRIED]
        return [self.trials.recipe(self.s.fixes[k], int(glue[k])) for k in order if np.isfinite(best[k])]

    def chosen(self) -> list[tuple[Kind, list[Recipe]]]:
        """By the kind of repair the few that suit it best, the best first."""
        s = self.s
        grams, minutes, cost = (s.scores[:, n][:, None] for n in (2, 3, 4))
        looks, skill = s.grades[:, :1], s.grades[:, 1:]
        handy = -0.3 * self.lacks
        every = np.ones_like(self.strength, bool)
        hand = self.lacks == 0
        soon = self.fly <= self.wish.fly_in_min
        done = minutes + s.between + SAFE_MIN.typ + CHECK_MIN.typ <= self.wish.fly_in_min
        in_time = soon if np.any(soon & hand) else done
        field = in_time & hand if np.any(in_time & hand) else in_time & every
        sound = self.enough >= min(1.0, 0.98 * float(self.enough.max()))
        restored = looks_as_it_was(looks, grams, self.trials.part_g) & every
        full = (self.strength >= 0.97) & (self.mismatch <= 0.06) & restored
        softer = np.max(s.scores[:, :2], axis=1)[:, None]  # stiffer than it was is no harm here
        whole = sound & (self.strength >= 0.8) & (softer <= 1 / 0.85 - 1)
        near = np.minimum(self.strength, 1.0) - np.minimum(self.mismatch, 0.5)
        return [
            ("quick", self._pick(3 * np.minimum(self.launch, 1.0) - 0.004 * minutes - 0.01 * grams + handy, field)),
            ("sound", self._pick(-np.log(self.fly + 20) - 0.03 * grams - 0.05 * skill + handy,
                                 whole if np.any(whole) else sound)),
            ("restored", self._pick(near + 0.1 * looks - 0.01 * grams - 0.02 * np.log(self.fly + 20) + handy,
                                    full if np.any(full) else restored)),
            ("light", self._pick(-grams - 0.002 * minutes + 0.1 * handy, sound)),
            ("easy", self._pick(-minutes + handy, sound)),
            ("cheap", self._pick(-cost - 20 * self.lacks, sound)),
            ("strong", self._pick(np.minimum(self.enough, 2.0) + 0.2 * near + handy, every)),
        ]  # fmt: skip

    def front(self) -> list[FrontPoint]:
        """Repairs that no other beats in time, strength, grams, looks and money, the soonest first."""
        s = self.s
        K, G = self.strength.shape
        columns = [
            -np.log(self.fly + 1).round(1), np.minimum(self.strength, 1.05).round(2),
            np.repeat(-s.scores[:, 2:3].round(1), G, 1), np.repeat(s.grades[:, :1], G, 1), -self.mismatch.round(2),
        ]  # fmt: skip
        values = np.stack(columns, -1).reshape(K * G, -1)
        places = np.nonzero(_best(values))[0]
        _, first = np.unique(values[places], axis=0, return_index=True)
        places = places[np.sort(first)]
        if len(places) > FRONT:
            order = places[np.argsort(self.fly.reshape(-1)[places])]
            places = order[np.linspace(0, len(order) - 1, FRONT).round().astype(int)]
        out = []
        for place in places[np.argsort(self.fly.reshape(-1)[places])]:
            k, g = divmod(int(place), G)
            recipe = self.trials.recipe(s.fixes[k], g)
            out.append(
                FrontPoint(
                    fly_min=float(self.fly[k, g]), strength_percent=100 * float(self.strength[k, g]),
                    launch_percent=100 * float(self.launch[k, g]), more_g=float(s.scores[k, 2]),
                    looks=int(s.grades[k, 0]), cost=float(s.scores[k, 4]), skill=int(s.grades[k, 1]),
                    mismatch_percent=100 * float(self.mismatch[k, g]), recipe=recipe,
                    says=recipe_words(recipe, self.part),
                )
            )  # fmt: skip
        return out


def _rebuild(airframe: Airframe, part: Part) -> Rebuild:
    whole = part.model_copy(update={"damage": ()})
    effort = effort_of(whole)
    p = prepared_for(whole, airframe.setting)
    return Rebuild(
        hours=effort.hours, ready_h=effort.ready_h, cost=effort.cost, tools=list(effort.tools),
        grams=band(p.grams.sum(0), Inputs([])),
    )  # fmt: skip
