"""What flying wings and foreplanes are told besides the range of their centre, and the most lift of a wing."""

from __future__ import annotations

from fletcher.core.balance.margin import Margin
from fletcher.core.balance.surfaces import Layout
from fletcher.core.balance.trim import CRUISE, WASHOUT_MOST_DEG, shared, washout_for
from fletcher.core.common.quantities import F0, in_g
from fletcher.core.document.airframe import Airframe

LIFT_MOST = {"rectangle": (0.65, 0.75, 0.85), "folded": (0.8, 0.95, 1.1)}
CAMBERED = (0.9, 1.05, 1.25)
"""[J] Largest lift coefficient by section: low, typical, high."""
FORE_LIFT = 1.0
"""[J] Largest lift coefficient of a foreplane."""
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


def remarks_of(airframe: Airframe, layout: Layout, m: Margin | None, grams: float, centre: float) -> list[str]:
    """Trim of a flying wing; whether a foreplane stalls first."""
    if m is None:
        return []
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
