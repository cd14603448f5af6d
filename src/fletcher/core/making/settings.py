"""Usual settings by process and by what they are for: feed and heat of a hot wire, nozzle of a glue gun, pressures."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Literal

from fletcher.core.materials.materials import Range
from fletcher.core.materials.reader import range_in
from fletcher.core.materials.tables import table_rows

Process = Literal["hot_wire", "glue_gun", "vacuum", "clamp", "clamp_device"]


@dataclass(frozen=True)
class Usual:
    """A usual setting in its unit; None where the process is to be avoided. How well it goes, and how sure that is."""

    value: Range | None
    unit: str
    verdict: str
    grade: str


@cache
def _table() -> dict[tuple[str, str, str], Usual]:
    return {
        (row["process"], row["on"], row["figure"]): Usual(
            range_in(row, "value"), row["unit"], row["verdict"], row["grade"]
        )
        for row in table_rows("settings.csv", ())
    }


def setting(process: Process, on: str, figure: str) -> Range | None:
    """A setting; None where the table has none, or says that it is to be avoided.

    Parameters
    ----------
    on
        Family of foam, face of a sheet, key of an adhesive or of a device.
    figure
        As the table names it: `feed_rate` mm/s, `wire_power_per_length` W/m, `nozzle_temperature` °C, `gauge_vacuum`
        kPa, `pressure` kPa, `force_or_pressure` N.
    """
    found = _table().get((process, on, figure))
    return None if found is None else found.value
