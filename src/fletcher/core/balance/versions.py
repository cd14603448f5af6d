"""Versions of one airframe: the same structure with other equipment, side by side, and one bay for all of them."""

from __future__ import annotations

from collections.abc import Sequence

from fletcher.core.balance.flight import loading, speed_at
from fletcher.core.balance.ledger import Entry, carried
from fletcher.core.balance.schema_dynamics import VersionAt
from fletcher.core.common.quantities import F0, in_mm
from fletcher.core.document.airframe import Airframe
from fletcher.core.materials.materials import G_GRAVITY


def versions_of(airframe: Airframe) -> list[str]:
    """The versions that its equipment names, in the order in which they come up."""
    return list(dict.fromkeys(v for e in airframe.equipment for v in e.versions))


def in_version(airframe: Airframe, version: str | None = None) -> Airframe:
    """The airframe with the equipment of one version: the one that is named, else the one that is looked at, else the
    first."""
    known = versions_of(airframe)
    if not known:
        return airframe
    wanted = version or airframe.aim.version
    chosen = wanted if wanted in known else known[0]
    items = tuple(e for e in airframe.equipment if not e.versions or chosen in e.versions)
    return airframe.model_copy(
        update={"equipment": items, "aim": airframe.aim.model_copy(update={"version": chosen})}
    )  # fmt: skip


def compared(
    airframe: Airframe, structure: Sequence[Entry], target: float | None, area_mm2: float | None, lift: float | None
) -> list[VersionAt]:
    """Every version with the same structure: mass, centre, where its battery belongs, loading, stall, thrust."""
    return [
        _told(in_version(airframe, name), name, structure, target, area_mm2, lift) for name in versions_of(airframe)
    ]  # fmt: skip


def _told(
    airframe: Airframe, name: str, structure: Sequence[Entry], target: float | None, area_mm2: float | None,
    lift: float | None,
) -> VersionAt:  # fmt: skip
    entries = [*structure, *carried(airframe)]
    battery = [e for e in entries if e.what == "battery"]
    masses = [(e.line.typ, e.line.x_mm) for e in entries]
    mass = sum(m for m, _ in masses)
    thrust = sum((e.thrust_N or 0.0) * (2 if e.pair else 1) for e in airframe.equipment)
    place = None
    if target is not None and len(battery) == 1:
        rest = [(e.line.typ, e.line.x_mm) for e in entries if e is not battery[0]]
        place = battery_place(rest, battery[0].line.typ, target)
    return VersionAt(
        name=name,
        mass_g=mass,
        centre_mm=sum(m * x for m, x in masses) / mass,
        battery_mm=place,
        loading_g_dm2=loading(mass, area_mm2) if area_mm2 else None,
        stall_m_s=speed_at(mass, area_mm2, lift) if area_mm2 and lift else None,
        thrust_per_weight=thrust / (mass / 1e3 * G_GRAVITY) if thrust else None,
    )


def battery_place(rest: Sequence[tuple[float, float]], battery_g: float, target_mm: float) -> float:
    """Where a battery must lie for the target: [x_t(M + m_b) − Σmx]/m_b, mm."""
    mass = sum(m for m, _ in rest)
    return (target_mm * (mass + battery_g) - sum(m * x for m, x in rest)) / battery_g


def bay_of_all(found: Sequence[VersionAt]) -> str:
    """Where the bay must reach for every version; empty where fewer than two have a battery."""
    places = [(v.battery_mm, v.name) for v in found if v.battery_mm is not None]
    if len(places) < 2:
        return ""
    (first, ahead), (last, behind) = min(places), max(places)
    return (
        f"A bay for all versions lets the battery's centre lie from {in_mm(first, F0)} ({ahead}) to {in_mm(last, F0)} "
        f"({behind})."
    )
