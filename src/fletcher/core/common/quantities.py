"""Quantities in sentences: one place that writes them with their digits in the reader's units.

The core computes in mm, g, N, m/s and °C. A sentence carries a quantity by one of the functions here, and whoever asks
says for whom (`read_in`): the server for a page, the terminal for itself. No text is rewritten after that.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from typing import Literal, get_args

Units = Literal["metric", "inch"]
UNITS: tuple[Units, ...] = get_args(Units)

_READER: ContextVar[Units] = ContextVar("units", default="metric")

# how many digits a figure is given in metric units; in others it keeps about as many that count
G = "g"
G2, G3, G4 = ".2g", ".3g", ".4g"
F0, F1, F2 = ".0f", ".1f", ".2f"

_SIGNIFICANT = {G: 4, G2: 2, G3: 3, G4: 4, F0: 3, F1: 3, F2: 3}
_INCH = {
    "mm": ("in", 1 / 25.4, 0.0), "mm²": ("in²", 1 / 25.4**2, 0.0), "g": ("oz", 1 / 28.349523125, 0.0),
    "N": ("lbf", 1 / 4.4482216, 0.0), "m/s": ("mph", 1 / 0.44704, 0.0), "N·mm": ("in·lbf", 1 / 112.984829, 0.0),
    "N/mm": ("lbf/in", 25.4 / 4.4482216, 0.0), "°C": ("°F", 1.8, 32.0),
}  # fmt: skip
_OF_GRAVITY = ("mount_g", "pull_up_g", "knock_g")
"""Fields that count in multiples of gravity, not in grams."""
_BY_SUFFIX = {
    "_mm": "mm", "_mm2": "mm²", "_g": "g", "_N": "N", "_m_s": "m/s", "_N_mm": "N·mm", "_C": "°C", "_percent": "%",
    "_deg": "°", "_min": "min",
}  # fmt: skip


def units() -> Units:
    """The units of whoever reads what is written now."""
    return _READER.get()


@contextmanager
def read_in(wanted: Units) -> Iterator[None]:
    """Within it sentences are written in these units."""
    token = _READER.set(wanted)
    try:
        yield
    finally:
        _READER.reset(token)


def _plain(value: float, digits: int) -> str:
    """So many digits that count, without an exponent or zeros that say nothing."""
    text = f"{float(f'{value:.{digits}g}'):.12f}".rstrip("0").rstrip(".")
    return "0" if text in ("", "-0") else text


def number(value: float, unit: str, form: str = G3) -> str:
    """A figure in the reader's unit, without it: the first of a range."""
    if units() == "metric" or unit not in _INCH:
        return f"{value:{form}}"
    _, scale, zero = _INCH[unit]
    return _plain(value * scale + zero, _SIGNIFICANT[form])


def quantity(value: float, unit: str, form: str = G3) -> str:
    """A figure with its unit as it is read."""
    shown = _INCH[unit][0] if units() == "inch" and unit in _INCH else unit
    return f"{number(value, unit, form)}{'' if unit == '°' else ' '}{shown}"


def in_mm(value: float, form: str = G3) -> str:
    """A length."""
    return quantity(value, "mm", form)


def from_root(value: float) -> str:
    """A place along a part."""
    return "at the root" if value < 0.5 else f"{in_mm(value, F0)} from the root"


def in_g(value: float, form: str = G3) -> str:
    """A mass."""
    return quantity(value, "g", form)


def in_N(value: float, form: str = G3) -> str:
    """A force."""
    return quantity(value, "N", form)


def in_m_s(value: float, form: str = G3) -> str:
    """A speed."""
    return quantity(value, "m/s", form)


def in_N_mm(value: float, form: str = G3) -> str:
    """A couple."""
    return quantity(value, "N·mm", form)


def in_C(value: float, form: str = G3) -> str:
    """A temperature."""
    return quantity(value, "°C", form)


def of_field(value: float, field: str) -> str:
    """The value of a field, with the unit that its name ends in (`span_mm`); without one a bare number."""
    if field.endswith(_OF_GRAVITY):
        return f"{value:g} × gravity"
    unit = next((u for suffix, u in sorted(_BY_SUFFIX.items(), key=lambda s: -len(s[0])) if field.endswith(suffix)), "")
    return quantity(value, unit, G) if unit else f"{value:g}"
