"""What is told of an airframe's inertia, sideways balance, thrust line and targets."""

from __future__ import annotations

from fletcher.core.common.model import Result
from fletcher.core.materials.grades import Grade
from fletcher.core.materials.uncertainty import Band


class InertiaAt(Result):
    """Moments of inertia about the centre of gravity; how long one swing in yaw lasts on two strings; and what makes
    most of it."""

    roll_kg_m2: float
    pitch_kg_m2: float
    yaw_kg_m2: float
    swing_s: float
    says: str


class SidewaysAt(Result):
    """How far right of the middle it balances, and grams at the other tip that cure it (0: not worth it)."""

    off_mm: float
    cure_g: float
    says: str


class ThrustAt(Result):
    """Full thrust, over the weight; its pitching moment about the centre, nose up, alone and with a drag of the same
    size, its yawing moment; height of the drag; mean down thrust now."""

    thrust_N: float
    per_weight: float
    pitch_N_mm: float
    level_N_mm: float
    yaw_N_mm: float
    drag_z_mm: float
    down_deg: float
    says: str


class VersionAt(Result):
    """A version of the airframe: mass, centre, where its battery belongs, loading, stall speed, thrust over weight."""

    name: str
    mass_g: float
    centre_mm: float
    battery_mm: float | None
    loading_g_dm2: float | None
    stall_m_s: float | None
    thrust_per_weight: float | None


class TargetAt(Result):
    """A wish for the whole airframe against what is foreseen."""

    name: str
    unit: str
    wanted: float
    band: Band
    grade: Grade
    says: str
