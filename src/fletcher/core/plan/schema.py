"""What a plan tells: operations with their waits and gates, when each begins, and how sure that is."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field

from fletcher.core.adhesion.cautions import Caution
from fletcher.core.common.model import Result
from fletcher.core.document.cases import Document
from fletcher.core.making.setting_cards import SettingCard
from fletcher.core.materials.uncertainty import Band

Day = Literal["mon", "tue", "wed", "thu", "fri", "sat", "sun"]
DAYS: tuple[Day, ...] = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
Hour = Annotated[float, Field(ge=0, le=24)]


class Hours(Document):
    """When hands may work: on these days from one hour to another, local time."""

    days: Annotated[tuple[Day, ...], Field(min_length=1, max_length=7)] = DAYS
    from_hour: Hour = 18.0
    to_hour: Hour = 22.0


class WarmBox(Document):
    """A box in which glued pieces cure warm: how warm, how many pieces and how long ones it takes. With a thermostat
    and in a place where nothing catches fire it may be left alone."""

    warm_C: Annotated[float, Field(ge=25, le=60)] = 35.0
    places: Annotated[int, Field(ge=1, le=8)] = 1
    long_mm: Annotated[float, Field(ge=100, le=3000)] = 1000.0
    thermostat: bool = False


class ShopWish(Document):
    """Who and what there is, how warm it is, and when the work begins (null: now)."""

    people: Annotated[int, Field(ge=1, le=4)] = 1
    warmth_C: Annotated[float, Field(ge=-10, le=45)] = 20.0
    boards: Annotated[int, Field(ge=1, le=6, description="Flat boards with weights")] = 1
    clamps: Annotated[int, Field(ge=1, le=60)] = 8
    hours: Annotated[tuple[Hours, ...], Field(max_length=7, description="None: at any time")] = ()
    zone: Annotated[str, Field(max_length=60, pattern=r"^[A-Za-z0-9_+\-/]+$")] = "UTC"
    probe: Annotated[bool, Field(description="The iron's sole is measured; else its dial is all there is")] = True
    hardener_parts: Annotated[
        float | None, Field(ge=1, le=200, description="Hardener to 100 parts of resin by weight, from the tin")
    ] = None
    wire_mm: Annotated[float, Field(ge=0.1, le=2, description="Diameter of the hot wire")] = 0.4
    warm_box: WarmBox | None = None
    begins: Annotated[datetime | None, Field(description="With its time zone")] = None


class AfterAt(Result):
    """What an operation waits for: another one, minutes after its end, and why; `within_min`: no later than so many
    minutes after it, where what was coated stays open no longer."""

    key: str
    wait_min: int
    why: str
    within_min: int | None = None


class Gate(Result):
    """A check that must be passed before the operation: what is measured, and its limit; whether a builder may pass it
    by with a reason."""

    key: str
    says: str
    waivable: bool


class BuildStep(Result):
    """A step of work on one piece: minutes of hands, what sets afterwards and how long, what it waits for, what it
    holds while it sets, tools, gates before it, setting cards, cautions at it. `undoes` tells whether it can be
    undone."""

    key: str
    part_id: str | None
    layer_id: str | None
    piece: str
    """The part and side it is done on; empty for the whole airframe."""
    title: str
    minutes: Band
    people: int
    glue: str
    """Name of the glue or resin that sets after it; empty where nothing does."""
    glue_key: str
    """Its key; empty where none was entered."""
    fixed_min: int
    """Typical minutes until what was glued holds itself."""
    loaded_min: int
    """Minutes until it carries its load, at the slow end."""
    box_C: float | None = None
    """It goes into the warm box at once, until it holds itself; None: it stays in the room."""
    after: list[AfterAt]
    hold: dict[str, int]
    tools: list[str]
    gates: list[Gate]
    cards: list[SettingCard]
    cautions: list[Caution]
    undoes: bool
    made_of: str
    """What its line is made of, as a short sum; it changes with the document."""
    how: str = ""
    """How it is done, where the step itself does not say."""
    never: list[str] = Field(default_factory=list)
    """What must not be done."""
    daylight: bool = False


class GateAt(Result):
    """A gate of a step as it stands: not looked at, passed, failed or waived; its value and what was noted."""

    key: str
    stands: Literal["open", "passed", "failed", "waived"]
    value: float | None = None
    note: str = ""
    knows: tuple[str, ...] = ()
    """Presses that led to this; a press that answers them names them."""


class Planned(Result):
    """When an operation begins and its hands end, until when what was glued sets, and until when it carries its load
    at the slow end; whether it waits, runs or is done, and how its gates stand."""

    key: str
    begins: datetime
    ends: datetime
    sets: datetime | None
    loaded: datetime | None = None
    state: Literal["open", "running", "done"] = "open"
    gates: tuple[GateAt, ...] = ()
    notes: tuple[str, ...] = ()


class Plan(Result):
    """Operations in the order in which they begin, and when it may fly: typical, and from to (5–95 %). `proved` tells
    that nothing earlier exists; else it cannot be earlier than `not_before`. The longest chain takes `chain_min` with
    any number of hands; all hands one after another take `hands_min`."""

    says: str
    operations: list[BuildStep]
    planned: list[Planned]
    done: int
    flies: datetime
    flies_from: datetime
    flies_to: datetime
    proved: bool
    not_before: datetime
    sessions: int | None
    chain_min: int
    hands_min: Band
    remarks: list[str]
