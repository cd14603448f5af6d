"""What a lead weighs: stranded copper by gauge number or area, its insulation, its plugs.

Per metre of w wires w·[8.96·A·lay + ρ·(π/4)((D + 2t)² − D²)] g, A in mm², D = d/√0.75 for strands; a gauge number n has
d = 0.127·92^((36 − n)/39) mm (the definition of the American wire gauge).
"""

from __future__ import annotations

import math

from fletcher.core.document.equipment import Lead

COPPER, INSULATION = 8.96, 1.35
"""g/cm³."""
LAY = (1.01, 1.02, 1.04)
"""[J] Strands are so much longer than the lead."""
PLUGS_G = (1.0, 2.0, 4.0)
"""[J] A pair of plugs."""


def copper_mm2(lead: Lead) -> float:
    """Area of one wire."""
    if lead.area_mm2 is not None:
        return lead.area_mm2
    return math.pi / 4 * float(0.127 * 92 ** ((36 - lead.gauge) / 39)) ** 2


def lead_g_per_m(lead: Lead, lay: float = LAY[1]) -> float:
    """All its wires without plugs."""
    area = copper_mm2(lead)
    outer = math.sqrt(4 * area / math.pi / 0.75)
    sleeve = math.pi / 4 * ((outer + 2 * lead.insulation_mm) ** 2 - outer**2)
    return lead.wires * (COPPER * area * lay + INSULATION * sleeve)


def lead_g(lead: Lead) -> tuple[float, float, float]:
    """The whole lead, low, typical and high."""
    low, typ, high = (
        lead_g_per_m(lead, lay) * lead.length_mm / 1000 + lead.plugs * plugs
        for lay, plugs in zip(LAY, PLUGS_G, strict=True)
    )
    return low, typ, high
