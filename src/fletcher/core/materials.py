"""Reference materials: foams, skins (membranes), bars, sheets, cloths, resins and cords, from the CSV files beside this
module.

Every value is an engineering estimate with a 5-50-95 % range, a confidence grade and the basis of the estimate;
none is a verified citation. The tables are validated once, when first read.
"""

from __future__ import annotations

import csv
import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, fields
from functools import cache
from importlib import resources
from typing import Any, Literal, TypeVar

G_GRAVITY = 9.80665
"""Standard gravity, m/s²."""


class MaterialDataError(ValueError):
    """A reference table contradicts itself; the message names table, row and column."""


@dataclass(frozen=True)
class Range:
    """Low, typical and high value of an estimate: its 5, 50 and 95 % points."""

    low: float
    typ: float
    high: float

    def __post_init__(self) -> None:
        if not all(math.isfinite(v) for v in (self.low, self.typ, self.high)):
            raise ValueError("values must be finite numbers")
        if not 0 <= self.low <= self.typ <= self.high:
            raise ValueError(f"needs 0 <= low <= typical <= high, found {self.low}, {self.typ}, {self.high}")


@dataclass(frozen=True)
class Material:
    """What every row of the reference tables carries besides its numbers."""

    key: str
    name: str
    family: str
    grade: str
    least_certain: str
    basis: str
    note: str


@dataclass(frozen=True)
class Foam(Material):
    """A core foam. Moduli and strengths act in the plane of the part; foams are bimodular (E differs by sign)."""

    brittle: bool
    density_kg_m3: Range
    E_tension_MPa: Range
    E_compression_MPa: Range
    G_MPa: Range
    tensile_strength_MPa: Range
    tensile_break_strain_pct: Range
    crush_stress_MPa: Range
    shear_strength_MPa: Range
    poisson: float
    through_thickness_ratio: float
    """In-plane modulus over through-thickness modulus; divides E_compression for wrinkling and bearing."""
    springback: float


WrinklingBond = Literal["yes", "partial", "no"]


@dataclass(frozen=True)
class Skin(Material):
    """A membrane bonded to the outside: tape, film, paper, mesh or cloth. `thickness_mm` carries the load;
    `total_thickness_mm` and `areal_mass_g_m2` include adhesive or resin."""

    total_thickness_mm: float
    thickness_mm: Range
    areal_mass_g_m2: Range
    E_along_MPa: Range
    G_MPa: Range
    tensile_strength_MPa: Range
    yield_MPa: Range | None
    """Stress at which the skin starts to draw out; None where it is linear to rupture."""
    compressive_strength_MPa: Range | None
    shear_strength_MPa: Range
    peel_N_per_25mm: Range
    adhesive_shear_MPa: Range | None
    """Shear that its adhesive holds in a load of seconds; None where the foam itself governs."""
    wrinkling_bond: WrinklingBond
    """How well the foam holds the skin against wrinkling: yes, partial or no."""
    widths_mm: tuple[float, ...]


@dataclass(frozen=True)
class Cloth(Material):
    """A dry cloth for laminates: woven (half of its fibres each way) or one-way. Strains at failure of its fibres in
    the finished ply; `crimp` the share of stiffness that waviness leaves."""

    areal_mass_g_m2: Range
    weave: Literal["cloth", "one_way"]
    E_fibre_MPa: float
    nu_fibre: float
    G_fibre_MPa: float
    fibre_density_g_cm3: float
    crimp: Range
    tensile_strain_pct: Range
    compressive_strain_pct: Range


@dataclass(frozen=True)
class Resin(Material):
    """A resin for laminates; `shear_strain_pct` at which a ply fails in shear along its fibres."""

    E_MPa: Range
    nu: float
    density_g_cm3: float
    shear_strain_pct: Range


@dataclass(frozen=True)
class Facing:
    """The paper or film on one side of a faced board; "along" is the way its fibres run."""

    thickness_mm: Range
    areal_mass_g_m2: Range
    glue_g_m2: Range
    E_along_MPa: Range
    E_across_MPa: Range
    G_MPa: Range
    tensile_along_MPa: Range
    tensile_across_MPa: Range
    compressive_along_MPa: Range
    compressive_across_MPa: Range


@dataclass(frozen=True)
class Sheet(Material):
    """A sheet for walls: solid, twin-wall, or a board faced on both sides. Moduli and strengths are those of the whole
    thickness; `EI_*` bending stiffness and `shear_*` transverse shear stiffness per width. `core` is a foam's key."""

    build: Literal["solid", "twin_wall", "faced"]
    thickness_mm: Range
    areal_mass_g_m2: Range
    E_along_MPa: Range
    E_across_MPa: Range
    G_MPa: Range
    poisson: float
    EI_along_N_mm: float
    EI_across_N_mm: float
    shear_along_N_mm: float
    shear_across_N_mm: float
    tensile_along_MPa: Range
    tensile_across_MPa: Range
    compressive_along_MPa: Range
    compressive_across_MPa: Range
    shear_MPa: Range
    wall_thickness_mm: float | None
    """Thickness of each of the two walls of a twin-wall sheet."""
    facing: Facing | None
    core: str | None
    core_thickness_mm: float | None


@dataclass(frozen=True)
class Cord(Material):
    """A cord or thread: carries pull alone. `grips_mm` is how much of its round the glue in its groove holds."""

    diameter_mm: float
    grips_mm: float
    mass_g_per_m: Range
    EA_N: Range
    break_N: Range


BarShape = Literal["rod", "tube", "flat"]


@dataclass(frozen=True)
class Bar(Material):
    """A bar from stock: rod, tube or flat (strip, batten, tow)."""

    shape: BarShape
    diameter_mm: float | None
    bore_mm: float | None
    wide_mm: float | None
    thin_mm: float | None
    density_kg_m3: Range
    E_MPa: Range
    G_MPa: Range
    tensile_strength_MPa: Range
    compressive_strength_MPa: Range
    shear_strength_MPa: Range
    stock_length_mm: float | None
    faced: str = "no"
    """Whether strips are bonded on below and above, and how the bar then lies: "no", "flat" or "on_edge"."""
    facing_gain: float = 1.0
    """How much stiffer a faced bar bends up and down than its mean E over its whole section would."""

    def size(self, on_edge: bool = False) -> tuple[float, float]:
        """Width along x and height along z in mm; a flat lies flat unless `on_edge`."""
        if self.diameter_mm is not None:
            return self.diameter_mm, self.diameter_mm
        assert self.wide_mm is not None and self.thin_mm is not None
        return (self.thin_mm, self.wide_mm) if on_edge else (self.wide_mm, self.thin_mm)

    @property
    def area_mm2(self) -> float:
        """Cross-section area."""
        if self.diameter_mm is not None:
            return math.pi / 4 * (self.diameter_mm**2 - (self.bore_mm or 0.0) ** 2)
        w, h = self.size()
        return w * h

    def second_moment_mm4(self, on_edge: bool = False) -> float:
        """Second moment of area about the bar's own horizontal axis (bending up and down)."""
        if self.diameter_mm is not None:
            return math.pi / 64 * (self.diameter_mm**4 - (self.bore_mm or 0.0) ** 4)
        w, h = self.size(on_edge)
        gain = self.facing_gain if self.faced == ("on_edge" if on_edge else "flat") else 1.0
        return gain * w * h**3 / 12

    @property
    def perimeter_mm(self) -> float:
        """Outer perimeter, along which glue can hold."""
        return math.pi * self.diameter_mm if self.diameter_mm is not None else 2 * sum(self.size())

    @property
    def torsion_constant_mm4(self) -> float:
        """Saint-Venant torsion constant of the bar alone."""
        if self.diameter_mm is not None:
            return 2 * self.second_moment_mm4()
        long, short = self.size()
        return long * short**3 / 3 * (1 - 0.63 * short / long + 0.052 * (short / long) ** 5)

    @property
    def weak_second_moment_mm4(self) -> float:
        """Smallest second moment of area: the direction in which the bar buckles."""
        return min(self.second_moment_mm4(False), self.second_moment_mm4(True))


def _range(row: dict[str, str], column: str) -> Range | None:
    texts = [row[f"{column}_{point}"].strip() for point in ("low", "typ", "high")]
    if not any(texts):
        return None
    if not all(texts):
        raise ValueError(f"{column}: give low, typ and high, or none of them")
    try:
        return Range(*(float(t) for t in texts))
    except ValueError as error:
        raise ValueError(f"{column}: {error}") from None


def _required(row: dict[str, str], column: str) -> Range:
    value = _range(row, column)
    if value is None:
        raise ValueError(f"{column}: missing")
    return value


def _number(row: dict[str, str], column: str) -> float | None:
    text = row[column].strip()
    return float(text) if text else None


def _common(row: dict[str, str]) -> dict[str, Any]:
    names = [f.name for f in fields(Material)]
    if row["grade"] not in {"A", "B", "C"}:
        raise ValueError(f"grade: {row['grade']!r} is not A, B or C")
    for required in ("key", "name", "basis"):
        if not row[required].strip():
            raise ValueError(f"{required}: missing")
    return {name: row[name].strip() for name in names}


def _rows(table: str) -> Iterator[tuple[int, dict[str, str]]]:
    text = resources.files(__package__).joinpath("data", table).read_text(encoding="utf-8")
    yield from enumerate(csv.DictReader(text.splitlines()), start=2)


def _foam(row: dict[str, str]) -> Foam:
    through = _number(row, "through_thickness_ratio") or 1.0
    return Foam(
        **_common(row),
        brittle=row["brittle"] == "yes",
        density_kg_m3=_required(row, "density_kg_m3"),
        E_tension_MPa=_required(row, "E_tension_MPa"),
        E_compression_MPa=_required(row, "E_compression_MPa"),
        G_MPa=_required(row, "G_MPa"),
        tensile_strength_MPa=_required(row, "tensile_strength_MPa"),
        tensile_break_strain_pct=_required(row, "tensile_break_strain_pct"),
        crush_stress_MPa=_required(row, "crush_stress_MPa"),
        shear_strength_MPa=_required(row, "shear_strength_MPa"),
        poisson=float(row["poisson"]),
        through_thickness_ratio=through,
        springback=float(row["springback_typ"]),
    )


def _skin(row: dict[str, str]) -> Skin:
    bond = row["wrinkling_bond"]
    if bond not in ("yes", "partial", "no"):
        raise ValueError(f"wrinkling_bond: {bond!r} is not yes, partial or no")
    compressive = _range(row, "compressive_strength_MPa")
    if bond == "yes" and compressive is None:
        raise ValueError("compressive_strength_MPa: a skin that carries compression needs one")
    return Skin(
        **_common(row),
        total_thickness_mm=float(row["total_thickness_mm"]),
        thickness_mm=_required(row, "thickness_mm"),
        areal_mass_g_m2=_required(row, "areal_mass_g_m2"),
        E_along_MPa=_required(row, "E_along_MPa"),
        G_MPa=_required(row, "G_MPa"),
        tensile_strength_MPa=_required(row, "tensile_strength_MPa"),
        yield_MPa=_range(row, "yield_MPa"),
        compressive_strength_MPa=compressive,
        shear_strength_MPa=_required(row, "shear_strength_MPa"),
        peel_N_per_25mm=_required(row, "peel_N_per_25mm"),
        adhesive_shear_MPa=_range(row, "adhesive_shear_MPa"),
        wrinkling_bond=bond,  # type: ignore[arg-type]
        widths_mm=tuple(float(w) for w in row["widths_mm"].split(";") if w.strip()),
    )


def _bar(row: dict[str, str]) -> Bar:
    shape = row["shape"]
    needed = {"rod": ("diameter_mm",), "tube": ("diameter_mm", "bore_mm"), "flat": ("wide_mm", "thin_mm")}
    if shape not in needed:
        raise ValueError(f"shape: {shape!r} is not rod, tube or flat")
    sizes = {name: _number(row, name) for name in ("diameter_mm", "bore_mm", "wide_mm", "thin_mm")}
    for name in needed[shape]:
        if not (sizes[name] or 0) > 0:
            raise ValueError(f"{name}: a {shape} needs it, above 0")
    return Bar(
        **_common(row),
        shape=shape,  # type: ignore[arg-type]
        diameter_mm=sizes["diameter_mm"],
        bore_mm=sizes["bore_mm"],
        wide_mm=sizes["wide_mm"],
        thin_mm=sizes["thin_mm"],
        density_kg_m3=_required(row, "density_kg_m3"),
        E_MPa=_required(row, "E_MPa"),
        G_MPa=_required(row, "G_MPa"),
        tensile_strength_MPa=_required(row, "tensile_strength_MPa"),
        compressive_strength_MPa=_required(row, "compressive_strength_MPa"),
        shear_strength_MPa=_required(row, "shear_strength_MPa"),
        stock_length_mm=_number(row, "stock_length_mm"),
    )


def _positive(row: dict[str, str], column: str) -> float:
    value = _number(row, column)
    if value is None or not value > 0:
        raise ValueError(f"{column}: must be a number above 0")
    return value


def _cloth(row: dict[str, str]) -> Cloth:
    weave = row["weave"]
    if weave not in ("cloth", "one_way"):
        raise ValueError(f"weave: {weave!r} is not cloth or one_way")
    return Cloth(
        **_common(row),
        areal_mass_g_m2=_required(row, "areal_mass_g_m2"),
        weave=weave,  # type: ignore[arg-type]
        E_fibre_MPa=_positive(row, "E_fibre_MPa"),
        nu_fibre=_positive(row, "nu_fibre"),
        G_fibre_MPa=_positive(row, "G_fibre_MPa"),
        fibre_density_g_cm3=_positive(row, "fibre_density_g_cm3"),
        crimp=_required(row, "crimp"),
        tensile_strain_pct=_required(row, "tensile_strain_pct"),
        compressive_strain_pct=_required(row, "compressive_strain_pct"),
    )


def _cord(row: dict[str, str]) -> Cord:
    return Cord(
        **_common(row),
        diameter_mm=_positive(row, "diameter_mm"),
        grips_mm=_positive(row, "grips_mm"),
        mass_g_per_m=_required(row, "mass_g_per_m"),
        EA_N=_required(row, "EA_N"),
        break_N=_required(row, "break_N"),
    )


def _resin(row: dict[str, str]) -> Resin:
    return Resin(
        **_common({"family": "resin", **row}),
        E_MPa=_required(row, "E_MPa"),
        nu=_positive(row, "nu"),
        density_g_cm3=_positive(row, "density_g_cm3"),
        shear_strain_pct=_required(row, "shear_strain_pct"),
    )


def _sheet(row: dict[str, str]) -> Sheet:
    build = row["build"]
    if build not in ("solid", "twin_wall", "faced"):
        raise ValueError(f"build: {build!r} is not solid, twin_wall or faced")
    facing = None
    if build == "faced":
        facing = Facing(**{f.name: _required(row, f"facing_{f.name}") for f in fields(Facing)})
    return Sheet(
        **_common(row),
        thickness_mm=_required(row, "thickness_mm"),
        areal_mass_g_m2=_required(row, "areal_mass_g_m2"),
        E_along_MPa=_required(row, "E_along_MPa"),
        E_across_MPa=_required(row, "E_across_MPa"),
        G_MPa=_required(row, "G_MPa"),
        poisson=_positive(row, "poisson"),
        EI_along_N_mm=_positive(row, "EI_along_N_mm"),
        EI_across_N_mm=_positive(row, "EI_across_N_mm"),
        shear_along_N_mm=_positive(row, "shear_along_N_mm"),
        shear_across_N_mm=_positive(row, "shear_across_N_mm"),
        tensile_along_MPa=_required(row, "tensile_along_MPa"),
        tensile_across_MPa=_required(row, "tensile_across_MPa"),
        compressive_along_MPa=_required(row, "compressive_along_MPa"),
        compressive_across_MPa=_required(row, "compressive_across_MPa"),
        shear_MPa=_required(row, "shear_MPa"),
        build=build,  # type: ignore[arg-type]
        wall_thickness_mm=_positive(row, "wall_thickness_mm") if build == "twin_wall" else None,
        facing=facing,
        core=row["core"] if build == "faced" else None,
        core_thickness_mm=_positive(row, "core_thickness_mm") if build == "faced" else None,
    )


@dataclass(frozen=True)
class Catalogue:
    """All reference materials, each table by key in file order."""

    foams: dict[str, Foam]
    skins: dict[str, Skin]
    bars: dict[str, Bar]
    sheets: dict[str, Sheet]
    cloths: dict[str, Cloth]
    resins: dict[str, Resin]
    cords: dict[str, Cord]


M = TypeVar("M", bound=Material)


@cache
def reference() -> Catalogue:
    """The reference materials, read and validated once.

    Raises
    ------
    MaterialDataError
        Naming table, line and column of the first value that cannot be right.
    """
    return Catalogue(
        _table("foams.csv", _foam),
        _table("skins.csv", _skin),
        _table("bars.csv", _bar),
        _table("sheets.csv", _sheet),
        _table("cloths.csv", _cloth),
        _table("resins.csv", _resin),
        _table("cords.csv", _cord),
    )


def _table(table: str, read: Callable[[dict[str, str]], M]) -> dict[str, M]:
    store: dict[str, M] = {}
    for line, row in _rows(table):
        try:
            material = read(row)
        except (ValueError, KeyError, TypeError) as error:
            raise MaterialDataError(f"{table} line {line} ({row.get('key')}): {error}") from error
        if material.key in store:
            raise MaterialDataError(f"{table} line {line}: key {material.key!r} appears twice")
        store[material.key] = material
    return store
