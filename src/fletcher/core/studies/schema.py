"""What the studies of a part say: the worth of its lines, its limits, its tolerances, its like at another size, the
choice of a construction, and the airframe as a whole."""

from __future__ import annotations

from fletcher.core.common.model import Result
from fletcher.core.document.airframe import Layer, Part
from fletcher.core.estimate.cut_schema import Cut
from fletcher.core.materials.grades import Grade
from fletcher.core.materials.uncertainty import Band


class LineChange(Result):
    """What a change to a lay-up does, by typical values: grams more or less, the margin of the case that then leaves
    least (what it holds over what is asked), and margin, bend and twist over what they were."""

    says: str
    layer: Layer | None
    """The changed line; None where it is taken out."""
    grams: float
    margin: float
    margin_ratio: float
    bend_ratio: float
    twist_ratio: float
    loss_per_g: float
    """What is lost for every gram saved: the worst of margin, stiffness in bending and in twist, as a share."""
    first: str


class LineWorth(Result):
    """What a line is worth: without it, with less of it; and why it gives nothing, if so."""

    line_id: str
    without: LineChange | None
    """None where the part could not be without it."""
    lighter: list[LineChange]
    remark: str | None


class Tolerance(Result):
    """How far a dimension of a line may be off before 5 % is lost, mm (None: not within 60 mm), which way that is, and
    what is lost first."""

    line_id: str
    dimension: str
    off_mm: float | None
    way: str
    costs: str


class Limit(Result):
    """How far one figure may go before the part stops being enough, all else as it is; `most` None: not within eight
    times the present figure."""

    name: str
    unit: str
    now: float
    most: Band | None
    gives: str | None
    in_case: str | None


class Need(Result):
    """From how many times the present loads (with their factors) something becomes necessary, and what it would bring
    if it were put in now, by typical values. None: not within reach, or not possible in this part."""

    what: str
    why: str
    from_load: float | None
    in_case: str | None
    grams: float | None
    margin_now: float
    margin_then: float | None
    divergence_ratio: float | None


class Reach(Result):
    """The limits of a lay-up."""

    limits: list[Limit]
    needs: list[Need]


class Match(Result):
    """A line scaled until a figure of the part matches a wanted value: the changed part, what it took, what was
    reached (typical values), and whether that is within 1 % (stock comes in steps)."""

    part: Part
    says: str
    figure: str
    wanted: float
    reached: float
    close: bool
    grams: float
    margin: float
    bend_mm: float
    first: str


class ScaledDesign(Result):
    """A design at another span with stock sizes chosen anew: what changed, and what it then does (typical values)."""

    part: Part
    all_up_mass_g: float
    says: list[str]
    mass_g: float
    bend_mm: float
    bend_ratio: float
    """Bend over span in the case that was asked about."""
    margin: float
    first: str
    keeps: bool
    """Whether it keeps what was asked: the bend ratio or the margin."""


class Scaling(Result):
    """A design before, and its candidates at another span, the lightest that keeps what was asked first."""

    bend_ratio: float
    margin: float
    designs: list[ScaledDesign]


class Choice(Result):
    """A construction for a wanted size and airframe, with what rules it out, if anything does: as it is usually built,
    or, when `settled`, sized to its load. `sized` says what differs from its usual lay-up; bend is in the first load
    case, margin the least of those that count and `enough` its grade, `first` what breaks there; `tough_mJ` is the
    energy to the first break, bent the weaker way (None for hollow parts); `cut` a cross-section to draw; `to_buy`
    foams and sheets that are not at hand, `too_short` stock that needs a joint."""

    key: str
    title: str
    why: str
    settled: bool
    part: Part
    sized: list[str]
    enough: Grade
    tough_mJ: Band | None
    cut: Cut
    mass_g: Band
    bend_mm: Band
    margin: Band
    first: str
    cost: Band
    hours: Band
    ready_h: Band
    tools: list[str]
    ruled_out: list[str]
    to_buy: list[str]
    too_short: list[str]


class Figures(Result):
    """The headline figures of one part in one case, for laying several side by side."""

    added_g: Band
    mass_g: Band
    bend_mm: Band
    twist_deg: Band | None
    breaks_at: Band
    margin: Band
    """In the case that leaves least, of all cases kept."""
    governs: str
    first: str
    at_mm: float
    behaviour: str | None
    balance_mm: Band
    cost: Band
    hours: Band
    tough_mJ: Band | None
    """Work to its first crack, bent the weaker way; None for hollow parts."""
    bow_mm: Band | None
    """How far it bows as its skins set; None where nothing in it shrinks."""
    divergence_m_s: Band | None
    own_cases: bool
    """Its own cases were used, because those of the present part do not fit it."""
