"""The reference tables: materials read from the CSV files beside this module, validated once when first read.

Every value is an engineering estimate with a 5-50-95 % range, a confidence grade and the basis of the estimate;
none is a verified citation.
"""

from __future__ import annotations

import csv
from collections.abc import Callable, Iterator
from dataclasses import dataclass, fields
from functools import cache
from importlib import resources
from typing import Any, TypeVar

from fletcher.core.materials.materials import (
    Bar,
    Catalogue,
    Cloth,
    Cord,
    Facing,
    Fastener,
    Fitting,
    Foam,
    Material,
    Range,
    Resin,
    Sheet,
    Skin,
)
from fletcher.core.materials.own_rows import Rows


class MaterialDataError(ValueError):
    """A reference table contradicts itself; the message names table, row and column."""


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


def _one_of(row: dict[str, str], column: str, allowed: tuple[str, ...]) -> str:
    if row[column] not in allowed:
        raise ValueError(f"{column}: {row[column]!r} is not {', '.join(allowed[:-1])} or {allowed[-1]}")
    return row[column]


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
        wrinkle=_one_of(row, "wrinkle", ("state", "stays", "break")),  # type: ignore[arg-type]
        pull=_one_of(row, "pull", ("state", "break", "none")),  # type: ignore[arg-type]
        drawn_MPa=_range(row, "drawn_MPa"),
        break_strain_pct=_range(row, "break_strain_pct"),
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


def _fitting(row: dict[str, str]) -> Fitting:
    return Fitting(
        **_common(row),
        long_mm=_number(row, "long_mm") or 0.0,
        wide_mm=_positive(row, "wide_mm"),
        high_mm=_positive(row, "high_mm"),
        mass_g=_required(row, "mass_g"),
        torque_N_mm=_range(row, "torque_N_mm"),
    )


def _fastener(row: dict[str, str]) -> Fastener:
    return Fastener(
        **_common(row),
        size_mm=_positive(row, "size_mm"),
        holds_N=_required(row, "holds_N"),
        lets_go_N=_required(row, "lets_go_N"),
        give_mm=_required(row, "give_mm"),
        ages_per_month=_required(row, "ages_per_month"),
        mass_g=_positive(row, "mass_g"),
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
        Rows("foams", _table("foams.csv", _foam)),
        Rows("skins", _table("skins.csv", _skin)),
        Rows("bars", _table("bars.csv", _bar)),
        Rows("sheets", _table("sheets.csv", _sheet)),
        Rows("cloths", _table("cloths.csv", _cloth)),
        _table("resins.csv", _resin),
        _table("cords.csv", _cord),
        _table("fittings.csv", _fitting),
        _table("fasteners.csv", _fastener),
    )


def name_of(key: str) -> str:
    """What a material is called, by its key in any of the tables."""
    return next((table[key].name for table in vars(reference()).values() if key in table), key)


def table_rows(table: str, ranges: tuple[str, ...]) -> Iterator[dict[str, Any]]:
    """Rows of a table with those columns read as ranges.

    Raises
    ------
    MaterialDataError
        Naming table and line of the first value that cannot be right.
    """
    for line, row in _rows(table):
        try:
            yield {**row, **{name: _required(row, name) for name in ranges}}
        except ValueError as error:
            raise MaterialDataError(f"{table} line {line} ({row.get('key')}): {error}") from error


@dataclass(frozen=True)
class Word:
    """A word of the trade: what it means in a sentence, and what more there is to know."""

    key: str
    term: str
    plain: str
    more: str


@cache
def glossary() -> tuple[Word, ...]:
    """Every word that the product explains."""
    return tuple(Word(**{k: v.strip() for k, v in row.items()}) for _, row in _rows("glossary.csv"))


_FAMILY_RANGES = ("softens_C", "stiffness_keeps_60C", "damp_keeps", "wet_keeps")


def family_rows() -> Iterator[tuple[str, dict[str, Any]]]:
    """The rows of the table of families: how each takes warmth, cold, sun and damp.

    Raises
    ------
    MaterialDataError
        Naming table and line of the first value that cannot be right.
    """
    for line, row in _rows("families.csv"):
        try:
            values: dict[str, Any] = {n: _required(row, n) for n in _FAMILY_RANGES}
            values |= {n: row[n].strip() for n in ("parked", "grade", "basis")}
            values |= {
                "sun_half_months": _range(row, "sun_half_months"),
                "brittle_below_C": float(row["brittle_below_C"]),
            }
        except (ValueError, KeyError) as error:
            raise MaterialDataError(f"families.csv line {line} ({row.get('family')}): {error}") from error
        yield row["family"], values


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
