"""What flying wings and foreplanes are told besides the range of their centre, and the most lift of a wing."""

from __future__ import annotations

import math
from collections.abc import Iterator

from fletcher.core.balance.flight import held_above, speed_at
from fletcher.core.balance.margin import Margin
from fletcher.core.balance.surfaces import VEE_DEG, Layout
from fletcher.core.balance.trim import CRUISE, WASHOUT_MOST_DEG, shared, washout_for
from fletcher.core.common.quantities import F0, in_g, in_m_s, in_mm
from fletcher.core.document.airframe import Airframe

LIFT_MOST = {"rectangle": (0.65, 0.75, 0.85), "folded": (0.8, 0.95, 1.1)}
CAMBERED = (0.9, 1.05, 1.25)
"""[J] Largest lift coefficient by section: low, typical, high."""
FORE_LIFT = 1.0
"""[J] Largest lift coefficient of a foreplane."""
FIN_LIFT = (0.6, 0.8, 1.0)
"""[J] Largest lift coefficient of a fin: low, typical, high."""
_OFF_MM = 10.0
"""A motor so near to the middle turns nothing when it stops."""
FLYING_WINGS = ("swept_wing", "plank_wing")
"""Manners of flying without a tail."""
FLYING_WING = 0.85
"""[J] A flying wing reaches so much of that."""


def lift_most(airframe: Airframe, layout: Layout) -> tuple[float, float, float]:
    """Largest lift coefficient of the airframe: low, typical, high."""
    wing = next((p for p in airframe.parts if p.name == layout.names[layout.main]), airframe.parts[0])
    low, typ, high = LIFT_MOST.get(wing.section.shape, CAMBERED)
    keeps = FLYING_WING if len(layout.surfaces) == 1 else 1.0
    return low * keeps, typ * keeps, high * keeps


def one_motor_out(airframe: Airframe, layout: Layout, grams: float, centre: float) -> list[str]:
    """What holds the airframe straight where a motor off the middle stops: the fins behind the centre of gravity, and
    above which speed; nothing where no motor lies off the middle or no thrust is known."""
    motors = [e for e in airframe.equipment if e.what == "motor" and e.thrust_N and abs(e.y_mm) > _OFF_MM]
    if not motors or not layout.surfaces:
        return []
    worst = max(motors, key=lambda e: (e.thrust_N or 0.0) * abs(e.y_mm))
    thrust, out = worst.thrust_N or 0.0, abs(worst.y_mm)
    fins = list(_fins(airframe, centre))
    without = f"With the motor {in_mm(out, F0)} out stopped"
    area = sum(a for a, _ in fins)
    if area <= 0:
        return [f"{without}, nothing holds it straight: no fin is entered behind the centre of gravity."]
    arm = sum(a * arm for a, arm in fins) / area
    low, typ, high = (held_above(thrust, out, area, c, arm) for c in reversed(FIN_LIFT))
    wing = layout.surfaces[layout.main].planform
    stall = speed_at(grams, wing.area_mm2, lift_most(airframe, layout)[1])
    if high <= stall:
        return [f"{without}, the fin holds it straight down to its stall at {in_m_s(stall)}."]
    return [
        f"{without}, the fin holds it straight above {in_m_s(typ)} ({in_m_s(low)} to {in_m_s(high)}); it stalls at "
        f"{in_m_s(stall)}. Slower than that, close the other throttle, or take a larger fin."
    ]


def _fins(airframe: Airframe, centre: float) -> Iterator[tuple[float, float]]:
    """Area that acts sideways, mm², and lever behind the centre of gravity, mm, of each fin or V-tail."""
    for p in airframe.parts:
        rise = abs(p.place.dihedral_deg)
        if p.kind in ("wing", "tail") and rise > VEE_DEG:
            mid = p.place.x_mm + 0.25 * (p.root_chord_mm + p.tip_chord_mm) / 2 + 0.5 * p.tip_setback_mm
            if mid > centre:
                area = p.count * p.span_mm * (p.root_chord_mm + p.tip_chord_mm) / 2
                yield area * math.sin(math.radians(rise)) ** 2, mid - centre


def remarks_of(airframe: Airframe, layout: Layout, m: Margin | None, grams: float, centre: float) -> list[str]:
    """Trim of a flying wing; whether a foreplane stalls first; what a stopped motor does."""
    if m is None:
        return []
    return [*_of_layout(airframe, layout, m, grams, centre), *one_motor_out(airframe, layout, grams, centre)]


def _of_layout(airframe: Airframe, layout: Layout, m: Margin, grams: float, centre: float) -> list[str]:
    wing, lift = layout.surfaces[layout.main], lift_most(airframe, layout)[1]
    ahead = [s for s in layout.surfaces if s.planform.centre_mm < wing.planform.centre_mm - wing.planform.mean_chord_mm]
    if len(layout.surfaces) == 1:
        moment = (m.least + m.most) / 2 * lift / CRUISE**2
        tip = washout_for(wing.planform, wing.planform.slope(wing.kappa), moment)
        what = "A flying wing" if airframe.aim.manner in FLYING_WINGS else "No tail is entered, so as a flying wing"
        need = f"{what}: to fly at {CRUISE:g} times its stall speed it needs C_m0 = {moment:.3f}: "
        if tip is None or -tip > WASHOUT_MOST_DEG:
            return [need + "a reflexed section, for washout alone does not give it."]
        return [need + f"{-tip:.1f}° of washout at the tips, or a reflexed section."]
    if not ahead:
        return []
    fore = ahead[0].planform
    loads = shared(grams, centre, (fore.centre_mm, fore.area_mm2, FORE_LIFT),
                   (wing.planform.centre_mm, wing.planform.area_mm2, lift))  # fmt: skip
    if loads.flyable:
        return [f"The foreplane carries {in_g(loads.fore_g, F0)} and stalls before the wing, as it must."]
    return [f"The wing stalls before the foreplane, which carries only {in_g(loads.fore_g, F0)}: that cannot be flown. "
            "Move the centre of gravity forward, or make the foreplane smaller."]  # fmt: skip
