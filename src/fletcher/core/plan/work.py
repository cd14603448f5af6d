"""What the builder changed of a plan, and what was pressed at the bench: both are kept, the plan follows from them."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import AfterValidator, AwareDatetime, Field

from fletcher.core.document.cases import PRINTABLE, Document

StepKey = Annotated[str, Field(min_length=1, max_length=200, pattern=r"^[A-Za-z0-9_/\-]+$")]
"""Key of a step: part, side, line; what belongs to one goes behind a further stroke."""
Minutes = Annotated[int, Field(ge=1, le=1440)]
Says = Annotated[str, Field(max_length=200, pattern=PRINTABLE)]


def _plausible(moment: datetime) -> datetime:
    if not 1970 <= moment.year <= 2100:
        raise ValueError("lies outside the years 1970 to 2100")
    return moment


When = Annotated[AwareDatetime, AfterValidator(_plausible)]
"""A moment with its time zone."""


class OwnStep(Document):
    """A step of the builder's own: minutes of hands, what it waits for, what waits for it, and how long that waits."""

    what: Literal["own"] = "own"
    key: Annotated[str, Field(pattern=r"^own/[A-Za-z0-9_-]{1,40}$")]
    title: Annotated[str, Field(min_length=1, max_length=120, pattern=PRINTABLE)]
    minutes: Minutes
    after: Annotated[tuple[StepKey, ...], Field(max_length=20)] = ()
    before: Annotated[tuple[StepKey, ...], Field(max_length=20)] = ()
    wait_min: Annotated[int, Field(ge=0, le=20_160)] = 0


class OwnTime(Document):
    """How long a step takes this builder."""

    what: Literal["time"] = "time"
    key: StepKey
    minutes: Minutes


class OwnOrder(Document):
    """A step is done after another one."""

    what: Literal["order"] = "order"
    key: StepKey
    after: StepKey


class NotBefore(Document):
    """A step is put off: it does not begin before a moment."""

    what: Literal["later"] = "later"
    key: StepKey
    at: When


class OwnSplit(Document):
    """A step is done in parts, with breaks between them."""

    what: Literal["split"] = "split"
    key: StepKey
    parts: Annotated[tuple[Minutes, ...], Field(min_length=2, max_length=8)]


class LeftOut(Document):
    """A step is left out, and why."""

    what: Literal["out"] = "out"
    key: StepKey
    why: Annotated[str, Field(min_length=1, max_length=200, pattern=PRINTABLE)]


Change = Annotated[OwnStep | OwnTime | OwnOrder | NotBefore | OwnSplit | LeftOut, Field(discriminator="what")]


class Press(Document):
    """Something pressed at the bench, by a device that may have been alone: the same press twice counts once.

    `begun` and `done` are facts of a step; `more` gives it so many minutes more; `not_right` has it done again;
    `undone` takes back what was pressed of it. A `gate` is passed with its value, failed, or waived with a reason.
    `warmth` is the shop's temperature from then on. `knows` are the presses of a gate that the device had seen.
    """

    id: Annotated[str, Field(pattern=r"^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$")]
    at: When
    what: Literal["begun", "done", "more", "not_right", "undone", "gate", "warmth"]
    key: Annotated[str, Field(max_length=200, pattern=r"^[A-Za-z0-9_/\-]*$")] = ""
    gate: Annotated[str, Field(max_length=40, pattern=r"^[a-z0-9_]*$")] = ""
    result: Literal["", "passed", "failed", "waived"] = ""
    value: Annotated[float | None, Field(ge=-1e6, le=1e6)] = None
    note: Says = ""
    knows: Annotated[tuple[str, ...], Field(max_length=40)] = ()
    box_C: Annotated[float | None, Field(ge=20, le=80)] = None
    """What was done went into a warm box of this temperature."""
    made_of: Annotated[str, Field(max_length=40, pattern=r"^[0-9a-f]*$")] = ""
    """What the step's line was made of when it was done; it may change in the document later."""


class Work(Document):
    """Changes of a plan, in the order in which they were made, and presses."""

    changes: Annotated[tuple[Change, ...], Field(max_length=200)] = ()
    presses: Annotated[tuple[Press, ...], Field(max_length=4000)] = ()
