"""What is told of an airframe's balance."""

from __future__ import annotations

from typing import Literal

from fletcher.core.balance.schema_dynamics import InertiaAt, SidewaysAt, TargetAt, ThrustAt, VersionAt
from fletcher.core.balance.schema_weighing import WeighedSheet
from fletcher.core.common.model import Result
from fletcher.core.document.equipment import Manner
from fletcher.core.materials.grades import Grade
from fletcher.core.materials.uncertainty import Band


class LedgerLine(Result):
    """A line of the ledger on one side: grams, group, place of its centre, whether a weighing covers it, and its price:
    grams at the foremost place that one gram more there costs (None where nothing lies ahead of the target)."""

    key: str
    weighed: bool
    name: str
    group: str
    part_id: str | None
    layer_id: str | None
    item_id: str | None
    grams: Band
    x_mm: float
    y_mm: float
    z_mm: float
    price: float | None


class GroupMass(Result):
    """All lines of a group together."""

    group: str
    grams: Band


class SurfaceAt(Result):
    """A lifting surface: area, aerodynamic centre, lift slope per radian, and the share of its own lift that it keeps
    beside the others."""

    name: str
    area_dm2: float
    centre_mm: float
    slope: float
    keeps: float


class NeutralAt(Result):
    """Neutral point with its band and the causes of it, mean chord and its nose, and the surfaces that make it; tail
    volume where one surface lies behind the main one."""

    x_mm: Band
    mean_chord_mm: float
    mean_nose_mm: float
    surfaces: list[SurfaceAt]
    tail_volume: float | None
    fuselage_mm: float


class MarginAt(Result):
    """Static margin in per cent, typical and its band, what is wanted, the range of the centre that has it, and the
    grade of its rear end."""

    percent: Band
    least_percent: float
    most_percent: float
    front_mm: float
    rear_mm: float
    target_mm: float
    grade: Grade
    too_far_forward_mm: float


class RemedyAt(Result):
    """A step of the plan or another way: what it is, in words; grams added, minutes; where it moves an item, and where
    the centre then lies."""

    says: str
    kind: Literal["move", "lighter", "swap", "thinner", "rebuild", "ballast"]
    grams: float
    minutes: float
    item_id: str | None
    to_mm: float | None
    stock: str | None
    reaches: bool
    centre_mm: float


class BayAt(Result):
    """Where the battery's centre must lie, and from where to where its bay is cut."""

    centre_mm: float
    from_mm: float
    to_mm: float
    says: str


class MannerAt(Result):
    """A manner of flying with its usual static margins, per cent."""

    key: Manner
    name: str
    least_percent: float
    most_percent: float


class BalanceSheet(Result):
    """Mass and balance of a whole airframe."""

    says: str
    grade: Grade | None
    missing: list[str]
    remarks: list[str]
    """What a flying wing or a foreplane asks besides."""
    lines: list[LedgerLine]
    groups: list[GroupMass]
    mass_g: Band
    structure_g: Band
    centre_mm: Band
    height_mm: float
    neutral: NeutralAt | None
    margin: MarginAt | None
    causes: list[str]
    """The two causes of most of the band of the centre."""
    bay: BayAt | None
    plan: list[RemedyAt]
    ways: list[RemedyAt]
    """Every remedy by itself, in the order in which to take them."""
    loading_g_dm2: float | None
    stall_m_s: Band | None
    all_up_typed_g: float
    manners: list[MannerAt]
    weighed: WeighedSheet
    inertia: InertiaAt
    sideways: SidewaysAt
    thrust: ThrustAt | None
    targets: list[TargetAt]
    version: str | None
    """Which version all of this is of; None where there is only one."""
    versions: list[VersionAt]
    bay_of_all: str
