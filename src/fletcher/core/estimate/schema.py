"""What an estimate says."""

from __future__ import annotations

from typing import Literal

from fletcher.core.common.model import Result
from fletcher.core.estimate.cut_schema import Cut
from fletcher.core.materials.grades import Grade
from fletcher.core.materials.uncertainty import Band
from fletcher.core.structure.control_linkage import RunResult


class LineResult(Result):
    """One line of the lay-up, or the foam (`id` "foam"): its grams, its share of the stiffness in bending and in twist.

    `use` is the largest share of strength used at each station at the load times its factor; it colours the cut.
    """

    id: str
    label: str
    grams: Band
    bending_share: float
    torsion_share: float
    strength_share: float
    """What it carries of the load of the case where the part gives first."""
    use: list[float]


class Failure(Result):
    """One thing that happens as the load grows: where, in words, at how many times the load, whether it breaks a member
    (else it changes something), and whether it stays."""

    kind: str
    line_id: str | None
    where: str
    sentence: str
    breaks: bool
    stays: bool
    at_mm: float
    x_mm: float
    z_mm: float
    comes_at: Band
    figure: str
    """The working that tells how it came about."""


class BreakMode(Result):
    """How a part or a member of it breaks: the kind, in words, which line of the lay-up, where along the part, and what
    besides the load decides it ("" where nothing does): stiff things that draw the neutral axis to one side."""

    kind: str
    sentence: str
    line_id: str | None
    at_mm: float
    because: str


class ChangeMode(Result):
    """Something that softens or stays before the part breaks: at how many times the load it comes, whether it stays,
    what that means, and what it costs where it comes below the load itself."""

    kind: str
    sentence: str
    line_id: str | None
    at_mm: float
    comes_at: Band
    stays: bool
    consequence: str
    costs: str


class CaseVerdict(Result):
    """One kept load case: at how many times its load the part breaks and changes, and whether that is enough."""

    case_id: str
    name: str
    counts: bool
    """Whether the part is judged by it."""
    breaks_at: Band
    """Break load over the load: the most that it carries, whatever has changed or broken before."""
    first_break: Band
    """The lowest multiple of the load at which a member breaks."""
    changes_at: Band | None
    """The lowest multiple at which something softens or stays, before it breaks."""
    margin: Band
    """Break load over load times safety factor."""
    asked: float
    """The safety factor."""
    enough: Grade
    """Whether the margin is at least 1, no member breaks at the load itself, and nothing that stays comes below it."""
    limited: bool
    """Whether anything computed here limits it: a margin above 100 says only that nothing does."""
    break_mode: BreakMode
    first_mode: BreakMode | None
    """The member that breaks first, where the rest carries more."""
    change_modes: list[ChangeMode]
    folds: bool
    """Whether it folds before anything breaks."""
    headline: str
    sentence: str
    at_mm: float


class Shakes(Result):
    """First frequencies with the root held, and the speed at which it would twist away; cautions, no clearances."""

    flap_Hz: Band
    edge_Hz: Band
    twist_Hz: Band
    divergence_m_s: Band | None
    divergence_at_load_m_s: Band | None
    """With what has changed at the load of this case; None where that makes no difference, or on the bench."""
    reversal_m_s: Band | None
    """None without a control surface, or where it does not reverse below divergence."""
    caution: str


class ControlResult(Result):
    """A deflected control surface: what share of the deflection arrives, what the servo holds, where the horn stands
    and where most would arrive."""

    arrives: Band
    servo_N_mm: Band
    horn_mm: float
    best_horn_mm: float
    hinges_mm: tuple[float, ...]
    run: RunResult | None
    """Its control run; None where it is taken to have no give."""


class SurfaceVariant(Result):
    """A control surface of the same size, built in one way."""

    name: str
    grams: Band
    twist_deg: Band
    arrives: Band
    best_horn_mm: float
    breaks_at: Band
    sentence: str


class CordResult(Result):
    """A cord in edgewise bending: its share of the moment, its largest pull, the bonded length that this pull needs."""

    line_id: str
    face: str
    moment_share: float
    pull_N: Band
    bond_mm: float


class Measure(Result):
    """How big the load is, in the figure by which a builder knows it; it grows with the load."""

    name: str
    value: float
    unit: str


class SnapResult(Result):
    """What the part does when bent by hand until it parts, at its most loaded place; `direction` "up" presses the
    upper face. `hangs_together` is the share of its strength that is left, 0 to 1; `reserve` whether what is left after
    the first break would still carry the moment of this case there: a reserve, no capacity."""

    direction: str
    manner: str
    sentence: str
    first_break_N_mm: float
    hangs_together: float
    reserve: bool


class Toughness(Result):
    """How tough a part is when bent by hand, one way ("up" presses the upper face), over a length of `over_mm`.

    `what` breaks first ("folds" where nothing does). `first_mJ` is the work (N·mm) to the first break, or to a fold of
    five depths if it folds before; `parts_mJ` the work until it parts, None where it does not part within that fold.
    `radius_mm` and `angle_deg` (over 100 mm) are how far it then is bent. `tip_mm`, `tip_deg` and `tip_N` are how far
    the end of the free length `strip_mm` has gone, pushed by so much, with `line` its shape; None where it curls right
    round. `set_percent` is the share of that bend that stays. `tear_mm` is the longest tear that stays put at
    the load asked."""

    direction: str
    folds: bool
    what: str
    first_mJ: Band
    parts_mJ: Band | None
    over_mm: float
    radius_mm: Band
    angle_deg: Band
    strip_mm: float
    tip_mm: float | None
    tip_deg: float | None
    tip_N: float | None
    line: list[tuple[float, float]]
    set_percent: float
    tear_mm: Band | None
    tear: str
    curvature: list[float]
    moment_N_mm: list[float]
    cracked_N_mm: list[float]


class WarpLine(Result):
    """What one line does to the straightness of a part: its strain, and the bow and twist that it brings by itself."""

    line_id: str
    strain_percent: float
    bow_mm: float
    twist_deg: float
    way: str


class Warp(Result):
    """How a part warps as its skins set. `bow_mm` is how far its middle stands off a straight line from root to tip,
    up positive; `tip_mm` how far the tip rises if the root is held down; `sweep_mm` the same fore and aft, the middle
    standing forwards positive; `twist_deg` what the tip turns, nose up. `cancels` says what takes it out."""

    bow_mm: Band
    tip_mm: float
    sweep_mm: Band
    twist_deg: Band
    lines: list[WarpLine]
    cancels: list[str]


class Dent(Result):
    """What presses a mark of a millimetre into one face with a blunt stick of 10 mm: as laid up, and the bare foam
    (typical); what the skins that cover the face weigh (on all their faces), and which lines they are."""

    face: str
    load_N: Band
    bare_N: float
    grams: float
    line_ids: list[str]


class Symbol(Result):
    """One number that goes into a formula."""

    symbol: str
    meaning: str
    value: float
    unit: str


class Source(Result):
    """Where the values of a material come from: low – typical – high, with grade and basis of the estimate."""

    material: str
    values: list[str]
    grade: str
    basis: str


class Working(Result):
    """The working behind one figure: "mass", "added", "bend", "twist", "shares", "section", "snap", "control",
    "toughness", "warp", "dents", "run", "balance", "cost", "hours", "breaks_at" for the break load and
    "comes_at.2" onwards for what else happens, "flap_Hz" and the like for what shakes."""

    figure: str
    formula_id: str
    """Which formula it is, for programs: "added.sum", "bend.partial_interaction", "comes_at.<failure kind>", …"""
    title: str
    formula: str
    explanation: str
    symbols: list[Symbol]
    assumptions: list[str]


class Curves(Result):
    """Values along the part at stations `y_mm`; where something starts or ends, two stations share a place.

    `capacity_*` is the moment that the section there could carry, bonds and shear along the part left aside; null where
    the case asks for next to nothing. `use` is the share of strength used at the load times its factor.
    """

    y_mm: list[float]
    moment_N_mm: list[float]
    """Of the kind that the case reads: bending, edgewise bending or twist."""
    shear_N: list[float]
    torque_N_mm: list[float]
    capacity_N_mm: list[float | None]
    capacity_low_N_mm: list[float | None]
    capacity_high_N_mm: list[float | None]
    deflection_mm: list[float]
    deflection_low_mm: list[float]
    deflection_high_mm: list[float]
    use: list[float]
    EI_N_mm2: list[float]
    edge_EI_N_mm2: list[float]
    cross_EI_N_mm2: list[float]
    principal_deg: list[float]
    """By how much the axis of least stiffness leans against the chord line, nose up positive."""
    GA_s_N: list[float]
    EA_N: list[float]
    centroid_z_mm: list[float]
    GJ_N_mm2: list[float]
    shear_centre_mm: list[float]
    twist_deg: list[float]


class Stretch(Result):
    """Part of the span in which the same elements are present; its cuts change linearly between its ends."""

    root_side: Cut
    tip_side: Cut


class TargetResult(Result):
    """A wanted range against the figure: "bend", "twist", "margin", "added" or "balance"; whether it is met at both
    ends of the band, typically, or not, and on which side it lies if not."""

    figure: str
    low: float | None
    high: float | None
    value: Band
    met: Grade
    side: Literal["under", "over"] | None


class ModeCurve(Result):
    """Share of strength that one way to fail uses along the part, at the load times its factor."""

    label: str
    kind: str
    line_id: str | None
    breaks: bool
    use: list[float]


class EffortResult(Result):
    """What one piece asks of purse and bench: credits, hours of hands, hours until it can be handled, tools."""

    cost: Band
    hours: Band
    ready_h: Band
    tools: tuple[str, ...]


class SwayResult(Result):
    """A part whose stiff parts lie askew bends sideways as it bends up, where nothing holds it: how far it would bend
    if held straight, how far it does, and how far sideways, aft positive."""

    held_mm: Band
    free_mm: Band
    sideways_mm: Band
    says: str


class Estimate(Result):
    """Everything the Bench shows of one part in one load case."""

    part_id: str
    case_id: str
    says: str
    reads: str
    """What the case reads: "bend" (up and down), "swing" (edgewise) or "twist"."""
    supports_mm: tuple[float, float] | None
    """Two places on which the part rests; none where its root is held."""
    acts_at_mm: float | None
    """Where a single load acts; none where there is no such place."""
    measure: Measure
    safety_factor: float
    mass_g: Band
    added_g: Band
    deflection_mm: Band
    deflection_at_mm: float
    sway: SwayResult | None
    """Where stiff parts lie askew by so much that it matters: the deflection is then that of the free part."""
    twist_deg: Band | None
    """Rotation of the tip, nose up positive, or of a control surface where it twists most away from its horn; none
    where nothing twists."""
    twist_at_mm: float
    span_mm: float
    breaks_at: Band
    """Of this case: break load over the load."""
    changes_at: Band | None
    enough: Grade
    verdict: CaseVerdict
    """Of this case."""
    first: Failure
    """What decides the break load."""
    failures: list[Failure]
    """What happens as the load grows, in order."""
    verdicts: list[CaseVerdict]
    governs: str
    """The case that leaves the least against what it asks for."""
    shakes: Shakes | None
    control: ControlResult | None
    cords: list[CordResult]
    snaps: list[SnapResult]
    toughness: list[Toughness]
    """Both ways of bending; empty for hollow parts, and while a thing is dragged."""
    warp: Warp | None
    """None where nothing in it shrinks or is laid under tension."""
    dents: list[Dent]
    """Upper and lower face in the middle of the part; empty for hollow parts."""
    lines: list[LineResult]
    curves: Curves
    modes: list[ModeCurve]
    """The ways to fail that use most of the strength, the first to give first."""
    balance_mm: Band
    """The part's centre of mass behind its root's leading edge."""
    margin: Band
    """The lowest margin of all cases."""
    effort: EffortResult
    targets: list[TargetResult]
    stretches: list[Stretch]
    workings: list[Working]
    sources: list[Source]
    """Where the values of all its materials come from."""
    beyond: list[str]
    """Where it leaves what the theory holds for, or comes near the speed at which it twists away: told at once."""
    warnings: list[str]
    assumptions: list[str]
