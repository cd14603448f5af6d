"""What the setting of an airframe does to its materials: warmth, sun and damp as factors on their ranges, and what a
hot parked car or the cold does besides.

The factors are judgement [J] with ranges, kept per family of material in data/families.csv:

- warmth: strength falls in a straight line from 1 at 23 °C to 0.35 where the family softens, and on to 0.05 (the usual
  shape of the modulus of a glassy polymer; McCrum, Buckley & Bucknall 1997, ch. 4). Stiffness has a line of its own
  through what the family keeps at 60 °C: fibres carry a laminate along, whatever the resin does, and a half-crystalline
  polymer loses half of its modulus long before it melts. Shear of what resin holds goes with its strength;
- sun: strength and adhesion halve in so many months outdoors without paint;
- damp: what stiffness and strength keep.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, fields, replace
from functools import cache, lru_cache
from typing import Any, TypeVar

import numpy as np

from fletcher.core.common.quantities import G, in_C, number
from fletcher.core.document.airframe import Setting
from fletcher.core.materials.materials import Catalogue, Material, Range
from fletcher.core.materials.own_rows import Rows
from fletcher.core.materials.tables import family_rows, reference
from fletcher.core.section.elements import Elements

ROOM_C = 23.0
"""Temperature at which the reference values hold."""
_AT_SOFTENING, _LEAST = 0.35, 0.05


@dataclass(frozen=True)
class Family:
    """How a family of materials takes warmth, cold, sun and damp. `parked` says what it does where it softens."""

    family: str
    softens_C: Range
    stiffness_keeps_60C: Range
    brittle_below_C: float
    sun_half_months: Range | None
    damp_keeps: Range
    wet_keeps: Range
    parked: str
    grade: str
    basis: str


@cache
def families() -> dict[str, Family]:
    """Every family of the reference tables by its name."""
    return {name: Family(family=name, **values) for name, values in family_rows()}


def warm(softens_C: float, temperature_C: float) -> float:
    """What is left of stiffness and strength at a temperature, 0 to 1; see the module for the formula."""
    if temperature_C <= ROOM_C:
        return 1.0
    share = (temperature_C - ROOM_C) / (softens_C - ROOM_C)
    return float(np.interp(share, (0.0, 1.0, 1.25), (1.0, _AT_SOFTENING, _LEAST)))


def stiff_when_warm(keeps_60C: float, softens_C: float, temperature_C: float) -> float:
    """What is left of a modulus at a temperature, 0 to 1: a straight line from 1 at 23 °C through what is kept at
    60 °C, and a tenth of it a quarter beyond where the family softens."""
    if temperature_C <= ROOM_C:
        return 1.0
    line = 1.0 - (1.0 - keeps_60C) * (temperature_C - ROOM_C) / (60.0 - ROOM_C)
    share = (temperature_C - ROOM_C) / (softens_C - ROOM_C)
    return max(_LEAST, line * float(np.interp(share, (1.0, 1.25), (1.0, 0.1))))


def sunned(half_months: float, months: float) -> float:
    """What is left of strength after so many months in the sun, 0.5^(months/half life)."""
    return max(_LEAST, float(0.5 ** (months / half_months)))


@dataclass(frozen=True)
class Left:
    """What a setting leaves of a family's stiffness and of its strength."""

    stiffness: Range
    shear: Range
    """Of its shear stiffness."""
    strength: Range


_RESIN_HELD = ("_cloth", "_ud", "laminate", "_pultruded", "_rollwrapped", "_tow")
"""Families whose shear stiffness is the resin's."""

_WHOLE = Range(1.0, 1.0, 1.0)


def left_of(family: Family, setting: Setting) -> Left:
    """What a setting leaves of a family, as ranges of factors."""
    heat = Range(*(warm(t, setting.hottest_C) for t in _points(family.softens_C)))
    damp = {"dry": _WHOLE, "damp": family.damp_keeps, "wet": family.wet_keeps}[setting.damp]
    sun = family.sun_half_months
    faded = _WHOLE if sun is None else Range(*(sunned(t, setting.sun_months) for t in _points(sun)))
    pairs = zip(_points(family.stiffness_keeps_60C), _points(family.softens_C), strict=True)
    stiffness = scaled(Range(*(stiff_when_warm(k, t, setting.hottest_C) for k, t in pairs)), damp)
    shear = scaled(heat, damp) if family.family.endswith(_RESIN_HELD) else stiffness
    return Left(stiffness, shear, scaled(scaled(heat, damp), faded))


def _points(value: Range) -> tuple[float, float, float]:
    return value.low, value.typ, value.high


def scaled(value: Range, factor: Range) -> Range:
    """The range of a product: typical values multiply, spreads add as squares of their logarithms."""
    typ = value.typ * factor.typ
    if typ <= 0:
        return Range(0.0, max(typ, 0.0), value.high * factor.high)
    sides = []
    for end in ("low", "high"):
        one = np.log(max(getattr(value, end), 1e-4 * value.typ) / value.typ)
        other = np.log(max(getattr(factor, end), 1e-4 * factor.typ) / factor.typ)
        sides.append(float(np.hypot(one, other)))
    return Range(typ * float(np.exp(-sides[0])), typ, typ * float(np.exp(sides[1])))


_STIFF = frozenset({"E_tension_MPa", "E_compression_MPa", "G_MPa", "E_along_MPa", "E_across_MPa", "E_MPa", "EA_N"})
_STRONG = frozenset(
    {"tensile_strength_MPa", "crush_stress_MPa", "shear_strength_MPa", "yield_MPa", "drawn_MPa",
    "compressive_strength_MPa",
     "adhesive_shear_MPa", "peel_N_per_25mm", "tensile_along_MPa", "tensile_across_MPa", "compressive_along_MPa",
     "compressive_across_MPa", "shear_MPa", "break_N"}
)  # fmt: skip
_PLAIN_STIFF = frozenset({"EI_along_N_mm", "EI_across_N_mm", "shear_along_N_mm", "shear_across_N_mm"})

M = TypeVar("M", bound=Material)


def _weathered(material: M, setting: Setting) -> M:
    family = families().get(material.family)
    if family is None:
        return material
    left = left_of(family, setting)
    changes: dict[str, object] = {}
    for f in fields(material):
        value = getattr(material, f.name)
        if isinstance(value, Range) and f.name in _STIFF | _STRONG:
            kept = left.shear if f.name == "G_MPa" else left.stiffness if f.name in _STIFF else left.strength
            changes[f.name] = scaled(value, kept)
        elif f.name in _PLAIN_STIFF:
            changes[f.name] = value * left.stiffness.typ
        elif f.name == "facing" and value is not None:
            changes[f.name] = _weathered_facing(value, left)
    return replace(material, **changes)  # type: ignore[arg-type]


def _weathered_facing(facing: object, left: Left) -> object:
    changes = {}
    for f in fields(facing):  # type: ignore[arg-type]
        if f.name.startswith(("E_", "G_")):
            changes[f.name] = scaled(getattr(facing, f.name), left.shear if f.name == "G_MPa" else left.stiffness)
        elif f.name.startswith(("tensile", "compressive")):
            changes[f.name] = scaled(getattr(facing, f.name), left.strength)
    return replace(facing, **changes)  # type: ignore[type-var]


_AS_NEW = Setting()


@lru_cache(maxsize=8)
def catalogue_in(setting: Setting) -> Catalogue:
    """The reference materials as they are in a setting; the reference itself where nothing bears on them."""
    bears = ("sun_months", "hottest_C", "damp")
    if all(getattr(setting, name) == getattr(_AS_NEW, name) for name in bears):
        return reference()
    tables = vars(reference()).items()

    def seen(material: Any) -> Any:
        return _weathered(material, setting)

    return Catalogue(**{name: Rows(name, {k: seen(m) for k, m in table.items()}, seen) for name, table in tables})


def _used(elements: Elements) -> Iterator[Material]:
    if not elements.hollow:
        yield elements.foam
    for membrane in elements.membranes:
        yield membrane.skin
    for bar in elements.bars:
        yield bar.stock


def effects(elements: Elements, setting: Setting) -> list[tuple[str, Left]]:
    """What a setting leaves of every material in a part on which it bears, by the material's name."""
    found: dict[str, Left] = {}
    for material in _used(elements):
        family = families().get(material.family)
        if family is not None:
            left = left_of(family, setting)
            if min(left.stiffness.low, left.strength.low) < 0.995:
                found[material.name] = left
    return list(found.items())


def setting_warnings(elements: Elements, setting: Setting) -> list[str]:
    """What heat where it lies, or the cold, does to the materials of a part besides changing their values."""
    out, seen = [], set()
    for material in _used(elements):
        family = families().get(material.family)
        if family is None or material.family in seen:
            continue
        seen.add(material.family)
        if setting.parked_C > family.softens_C.low:
            out.append(
                f"Lying at {in_C(setting.parked_C, G)}: {material.name} {family.parked} (softens from about "
                f"{number(family.softens_C.low, '°C', G)} to {in_C(family.softens_C.high, G)}). Keep it "
                "out of the parked car."
            )
        if setting.coldest_C < family.brittle_below_C:
            out.append(
                f"At {in_C(setting.coldest_C, G)} {material.name} turns brittle (below about "
                f"{in_C(family.brittle_below_C, G)})"
                ": it snaps where it would bend. The estimate keeps its room-temperature strength."
            )
    return out
