"""What presses a joint together, and how hard foam may be pressed."""

from __future__ import annotations

import math

from fletcher.core.making.settings import setting
from fletcher.core.materials.materials import Foam

SPARES = 1 / 3
"""[J] Share of its crush stress to which foam is pressed at most, so that it springs back."""


def pressure_kPa(adhesive: str, foam: Foam | None) -> tuple[float, bool] | None:
    """What an adhesive wants between its faces, kPa, and whether the foam stands less, so that this is what it stands;
    None where nothing is known of it."""
    usual = setting("clamp", adhesive, "pressure")
    if usual is None:
        return None
    stands = math.inf if foam is None else 1e3 * SPARES * foam.crush_stress_MPa.typ
    return min(usual.typ, stands), usual.typ > stands


def devices(kPa: float, area_mm2: float, device: str) -> int:
    """How many strips, clips or bands press so hard on an area.

    Raises
    ------
    ValueError
        If the table does not know the device.
    """
    force = setting("clamp_device", device, "force_or_pressure")
    if force is None:
        raise ValueError(f"unknown device {device}")
    return max(math.ceil(kPa * area_mm2 / 1e3 / force.typ - 1e-9), 1)


def vacuum_kPa(family: str, foam: Foam) -> float | None:
    """Gauge vacuum over a foam, kPa: usual for its family, never more than it springs back from."""
    usual = setting("vacuum", family, "gauge_vacuum")
    return None if usual is None else min(usual.typ, 1e3 * SPARES * foam.crush_stress_MPa.typ)
