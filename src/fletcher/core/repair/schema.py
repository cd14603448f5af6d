"""What is told of repairs: options with their bands, the plan of work, the worth, what is missing."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field

from fletcher.core.adhesion.cautions import Caution
from fletcher.core.common.model import Result
from fletcher.core.document.airframe import Part
from fletcher.core.document.cases import Document, Key
from fletcher.core.materials.grades import Grade
from fletcher.core.materials.uncertainty import Band
from fletcher.core.repair.recipe import Recipe


class MendWish(Document):
    """What a repair is for: minutes until the next launch, what an hour at the bench is worth to the builder (credits),
    what is at hand (keys of stock and adhesives; empty: not said), and how warm it is where it cures, °C."""

    fly_in_min: Annotated[float, Field(ge=5, le=20_160)] = 60.0
    warmth_C: Annotated[float, Field(ge=-10, le=45)] = 20.0
    hour_worth: Annotated[float, Field(ge=0, le=500)] = 10.0
    at_hand: Annotated[tuple[Key, ...], Field(max_length=120)] = ()


class Progress(Result):
    """How far a search is."""

    done: int
    of: int
    says: str


class MendNeed(Result):
    """Something that a repair takes, and whether it is at hand (None: not said)."""

    key: str
    name: str
    at_hand: bool | None


class AfterOperation(Result):
    """An operation waits for another one, by its number from 1, until so many minutes after its hands ended, and no
    longer than `within_min`."""

    number: int
    wait_min: float
    within_min: float | None = None


class Operation(Result):
    """A step of work: what, how, minutes of hands, when it begins (minutes after the start), what at its place has to
    be waited for after it, what it waits for, tools, checks before it goes on, what must not be done, and the cautions
    at it."""

    title: str
    how: str
    at_mm: float | None
    minutes: Band
    starts_min: float
    wait_min: Band | None
    wait_for: str
    tools: list[str]
    checks: list[str]
    never: list[str]
    cautions: list[Caution]
    after: list[AfterOperation] = Field(default_factory=list)
    """Of work that was adopted before this was kept: nothing."""


class CheckAfter(Result):
    """A check of the mended part: how, what is foreseen for the whole half and for the mended one, and when to stop."""

    what: str
    how: str
    whole: Band | None
    mended: Band | None
    unit: str
    stop: str
    least: float | None = None
    most: float | None = None
    """Between which values, in its unit, it is passed; none known, none refused."""

    def passed(self, value: float) -> bool:
        """Whether a value that was measured passes."""
        low = -math.inf if self.least is None else self.least
        return low <= value <= (math.inf if self.most is None else self.most)


class FixTold(Result):
    """How one mark is mended, in words, and the steps of the table that it takes."""

    mark_id: str
    says: str
    steps: list[str]


class CaseMended(Result):
    """One case: times its load that the part held whole, holds mended and cured, and at the launch that was asked."""

    case_id: str
    name: str
    asked: float
    whole: Band
    then: Band
    launch: Band
    enough: Grade
    says: str
    at_mm: float
    in_the_air: bool


Kind = Literal["quick", "sound", "restored", "light", "easy", "cheap", "strong", "near"]
"""What a repair is called: by the launch, sound, restored, lightest, least effort, cheapest; the strongest where none
holds; what comes nearest by the launch where none is ready."""


class MendOption(Result):
    """A repair, computed in full."""

    kinds: list[Kind]
    recipe: Recipe
    says: str
    fixes: list[FixTold]
    part: Part
    cases: list[CaseMended]
    strength_percent: Band
    """Cured, of what the whole part held, in the case that lost most."""
    launch_percent: Band
    """The same at the launch that was asked; nothing where it is not done, set and checked by then."""
    seam_percent: Band | None
    """What its weakest new joint holds by itself, of the whole part's break load: above 100 it holds more than the part
    did. None where nothing is glued."""
    bend_percent: Band
    """Stiffness in bending over that of the whole part: the other half."""
    twist_percent: Band | None
    more_g: Band
    rolls_g: Band
    """Grams at the other tip that balance it sideways."""
    balance_mm: float
    """By how much the balance point moves aft, if the airframe balances at `BALANCES` of its wing's root chord."""
    minutes: Band
    """Of hands, making safe and checking with it."""
    fly_min: Band
    """From the start to the end of the check, one pair of hands: typical work, and the slow end of what has to set
    until every case holds what is asked, or 95 % of what it will."""
    loaded_min: float
    """Until its glues have 80 % of their strength besides, the slow end."""
    cost: Band
    """Shares of what is used."""
    packs: float
    """Credits on top for whole packs of what is not at hand."""
    looks: int
    skill: int
    in_the_field: bool
    needs: list[MendNeed]
    tools: list[str]
    left: list[str]
    """Marks that stay."""
    grounded: str
    """Why it is not flown after this repair, by a mark that stays; empty where none does."""
    weak_says: str
    steps_at: list[str]
    """Where the stiffness steps at the ends of what was laid on."""
    operations: list[Operation]
    checks: list[CheckAfter]
    worth: str
    break_even: float | None
    """Worth of an hour (credits) at which mending and building anew cost the same; none if one is always cheaper."""
    mend_cheaper: bool
    """At the worth that was wished."""


class FrontPoint(Result):
    """A repair that no other beats in every respect, with typical values of the search."""

    fly_min: float
    strength_percent: float
    launch_percent: float
    more_g: float
    looks: int
    cost: float
    skill: int
    mismatch_percent: float
    recipe: Recipe
    says: str


class Staged(Result):
    """A quick fix now and a sound repair later: what the first leaves behind, and what the second then reaches."""

    first: str
    then: str
    stays_g: float
    undo_min: float
    seam_lost_percent: float
    """Of the second repair's seams, over old glue."""
    strength_percent: Band
    """Of the second repair after the first."""
    clean_percent: Band
    """Of the second repair alone."""
    recipe: Recipe
    says: str


class Rebuild(Result):
    """The part built anew."""

    hours: Band
    ready_h: Band
    cost: Band
    grams: Band
    tools: list[str]


class LostPiece(Result):
    """A piece that is missing or has to be cut away, and where foam for it may come from."""

    mark_id: str
    size_mm: tuple[float, float, float]
    """Along the part, along the chord, deep."""
    grams: Band
    foam: str
    donors: list[str]


class Gauge(Result):
    """What to take from the other half at a place: chord, thickness and setback of the whole part there, mm."""

    at_mm: float
    chord_mm: float
    thickness_mm: float
    setback_mm: float


class Heading(Result):
    """What repairs stand under: its title and, one press away, its rule."""

    kind: Kind
    title: str
    rule: str


class Mending(Result):
    """The answer: a handful of repairs on the front, how many were considered, and what they are measured against."""

    says: str
    """What holds at the launch, or that nothing does and what comes nearest."""
    headings: list[Heading]
    considered: int
    beaten: int
    """So many more were computed, and another beats each in every respect."""
    options: list[MendOption]
    front: list[FrontPoint]
    staged: list[Staged]
    rebuild: Rebuild
    pieces: list[LostPiece]
    gauges: list[Gauge]
    cautions: list[Caution]
    assumptions: list[str]


BALANCES = 0.3
"""[J] Where an airframe is taken to balance: share of its wing's root chord."""

ASSUMPTIONS = (
    (
        "Strength is computed from the repaired part, not from fixed percentages. The search treats each mark on "
        "its own; the proposed repairs are computed in full, with the same ranges as on the Bench."
    ),
    (
        "Faces fit and are clean, and the glue is used as its data sheet says at 20 °C. In the cold it takes much "
        "longer."
    ),
    "Hands-on time, finish and skill are judgement (data quality C).",
    "Anything not marked counts as undamaged: inspect the whole part first.",
)
