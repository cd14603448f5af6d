"""The line protocol of bench instruments (docs/devices.md): what a line says, or why it says nothing."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass

LONGEST = 200
"""A line beyond so many characters is no line."""
UNITS = ("g", "N", "mm", "°C", "Hz", "°")
_LINE = re.compile(r"R (\d{1,15}) ([+-]?\d{1,9}(?:\.\d{1,6})?) (\S{1,4}) ([SMO])")


@dataclass(frozen=True)
class Reading:
    """A value in its unit: steady (S), still moving (M) or beyond what the instrument can (O)."""

    value: float
    unit: str
    state: str


class GarbledError(ValueError):
    """A line that is no reading."""


def reading_of(line: bytes, unit: str) -> Reading | None:
    """The reading of a line; None where it is a remark.

    Raises
    ------
    GarbledError
        If it is neither, or in another unit than the instrument's.
    """
    if len(line) > LONGEST:
        raise GarbledError("a line without an end")
    text = line.decode("utf-8", "replace").strip()
    if not text or text.startswith("#"):
        return None
    found = _LINE.fullmatch(text)
    if found is None:
        raise GarbledError("what it sends cannot be read")
    value = float(found[2])
    if found[3] != unit:
        raise GarbledError(f"it sends {found[3]} instead of {unit}" if found[3] in UNITS else "its unit is unknown")
    if not math.isfinite(value):
        raise GarbledError("what it sends is no number")
    return Reading(value, unit, found[4])
