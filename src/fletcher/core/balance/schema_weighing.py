"""What is told of weighings: what each did, what they taught, what to weigh next, how the build keeps to its plan."""

from __future__ import annotations

from typing import Literal

from fletcher.core.common.model import Result
from fletcher.core.document.weighings import Stage
from fletcher.core.materials.uncertainty import Band


class StageAt(Result):
    """Lines of a piece that are there at a stage, and what they should weigh together."""

    stage: Stage
    lines: list[str]
    grams: Band


class PieceAt(Result):
    """What can be laid on a scale: a part on one side, or an item; with the stages at which it weighs more."""

    key: str
    name: str
    stages: list[StageAt]


class WeighingAt(Result):
    """A weighing with what it did. `state`: as expected, heavier or lighter than 9 of 10 would be, a surprise that
    teaches nothing yet, replaced by a later one, or of something that is no longer there. `off` in standard
    deviations."""

    id: str
    name: str
    state: Literal["counts", "heavy", "light", "surprise", "replaced", "gone"]
    says: str
    grams: Band
    expected_g: Band | None
    off: float
    centre_mm: Band | None
    questions: list[str]


class SidesAt(Result):
    """Left against right at one stage: how much heavier the right one is, and whether the scale can tell that."""

    name: str
    stage: Stage
    more_g: Band
    real: bool
    says: str


class StepAt(Result):
    """A step that was weighed before and after: what it added, and what was foreseen."""

    name: str
    grams: Band
    planned_g: float
    says: str


class LearnedAt(Result):
    """What weighings taught of what lines have in common: so many times the table's value."""

    cause: str
    factor: Band


class NextAt(Result):
    """What to weigh next: it narrows the centre of gravity most."""

    piece: str
    stage: Stage
    says: str


class GroupOver(Result):
    """A group among what is weighed: planned and weighed."""

    group: str
    planned_g: float
    weighed_g: float


class WeighedSheet(Result):
    """All that the weighings of an airframe say."""

    pieces: list[PieceAt]
    weighings: list[WeighingAt]
    sides: list[SidesAt]
    steps: list[StepAt]
    learned: list[LearnedAt]
    next: NextAt | None
    planned_mass_g: Band
    planned_centre_mm: Band
    """Mass and centre of gravity without any weighing."""
    weighed_g: float
    weighed_planned_g: float
    groups: list[GroupOver]
    """Of what is weighed so far, largest difference first."""
    says: str
    """How the build keeps to its plan."""
