"""The tables of adhesives: what each is, on which foam, between which materials, how it cures. Estimates, graded."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any

from fletcher.core.common.model import Result
from fletcher.core.materials.materials import Range
from fletcher.core.materials.own_rows import ByLike
from fletcher.core.materials.tables import table_rows

TIMES_MIN = (5.0, 15.0, 30.0, 60.0, 120.0, 360.0, 1440.0, 2880.0, 10080.0)
"""Minutes after closing at which the curing curves are given, at 20 °C."""

_LABELS = ("5min", "15min", "30min", "1h", "2h", "6h", "24h", "48h", "7d")


@dataclass(frozen=True)
class Adhesive:
    """An adhesive. Spread g/m² of the joint as applied, all coated faces together, `solids` what stays; times in
    minutes."""

    key: str
    name: str
    kind: str
    faces: int
    spread_g_m2: Range
    solids: Range
    line_mm: Range
    flash_min: Range
    open_min: Range
    fixture_min: Range
    shear_MPa: Range
    peel_N_25mm: Range
    stretch_pct: Range
    gap_mm: Range
    needs_air: bool
    air_note: str
    heat_C: Range
    water: str
    sandable: bool
    mess: int
    finish: int
    technique: str
    in_sun: str
    clean_up: str
    hazards: tuple[str, ...]
    density_kg_m3: Range
    grade: str
    basis: str


@dataclass(frozen=True)
class OnFoam:
    """How an adhesive does on a family of foam, or on a face of sheet: share of its own strength that a joint reaches;
    of sheet that strength itself, MPa."""

    verdict: str
    efficiency: Range
    strength_MPa: Range | None
    tears: str
    reason: str
    grade: str


@dataclass(frozen=True)
class Between:
    """How an adhesive does between two kinds of material: share of the foam's strength, or MPa between hard ones."""

    suits: int
    efficiency: Range | None
    shear_MPa: Range | None
    prepare: str
    reason: str
    grade: str


@dataclass(frozen=True)
class Curing:
    """Shares of its strength at `TIMES_MIN`, open and sealed between closed faces 30 mm wide, at 20 °C."""

    open: tuple[float, ...]
    sealed: tuple[float, ...]
    sealed_times: Range
    width_exponent: float
    rate_per_10C: Range
    least_C: float
    most_C: float
    notes: str


@cache
def adhesives() -> dict[str, Adhesive]:
    """All adhesives by their keys."""
    ranges = (
        "spread_applied_g_m2", "solids_fraction_by_mass", "bond_line_mm", "flash_off_min", "open_time_min",
        "fixture_time_min", "shear_strength_MPa", "peel_N_per_25mm", "strain_capacity_pct",
        "gap_filling_mm", "max_service_temp_degC", "density_applied_kg_m3",
    )  # fmt: skip
    return {row["key"]: _adhesive(row) for row in table_rows("adhesives.csv", ranges)}


def _adhesive(row: dict[str, Any]) -> Adhesive:
    return Adhesive(
        key=row["key"], name=row["name"], kind=row["class"], faces=int(row["faces_coated"]),
        spread_g_m2=row["spread_applied_g_m2"],
        solids=row["solids_fraction_by_mass"], line_mm=row["bond_line_mm"], flash_min=row["flash_off_min"],
        open_min=row["open_time_min"], fixture_min=row["fixture_time_min"], shear_MPa=row["shear_strength_MPa"],
        peel_N_25mm=row["peel_N_per_25mm"], stretch_pct=row["strain_capacity_pct"],
        gap_mm=row["gap_filling_mm"],
        needs_air=row["needs_air_or_moisture_through_foam_sandwich"] == "yes",
        air_note=row["air_or_moisture_note"], heat_C=row["max_service_temp_degC"], water=row["water_resistance"],
        sandable=row["sandable"] == "yes", mess=int(row["mess_ooze_1clean_5messy"]),
        finish=int(row["visible_finish_1poor_5excellent"]), technique=row["technique"],
        in_sun=row["uv_yellowing"], clean_up=row["clean_up"],
        hazards=tuple(k for k in row["hazard_keys"].split(";") if k),
        density_kg_m3=row["density_applied_kg_m3"], grade=row["confidence"], basis=row["basis"],
    )  # fmt: skip


def _strength(row: Mapping[str, Any]) -> Range:
    return Range(*(float(row[f"reference_strength_MPa_{p}"]) for p in ("low", "typ", "high")))


FACED = {
    "PFB_PAPER": "Clean, dry paper, sanded where it shines; the paper tears off first, so glue to sound paper only",
    "FLUTED_PP": "Scuff with fine grit, wipe with alcohol; a primer for polyolefin helps; glue open flutes too",
}
"""Faces of sheet that are glued like a foam of their own, and how they are prepared."""

SHEET_FACES = {"board": "PFB_PAPER", "twin_wall": "FLUTED_PP"}
"""By the family of a sheet: what its face is to a glue."""


@cache
def on_foams() -> dict[tuple[str, str], OnFoam]:
    """By adhesive and family of foam."""
    return {
        (row["adhesive_key"], row["foam_family"]): OnFoam(
            verdict=row["verdict"],
            efficiency=row["joint_efficiency"],
            strength_MPa=_strength(row) if row["foam_family"] in FACED else None,
            tears=row["failure_locus_well_made"],
            reason=row["reason"],
            grade=row["confidence"],
        )
        for row in table_rows("adhesive_foams.csv", ("joint_efficiency",))
    }


@cache
def foam_families() -> dict[str, str]:
    """The family of every foam that the table knows, by the foam's key; and of families by themselves."""
    found: ByLike[str] = ByLike()
    for row in table_rows("adhesive_foams.csv", ()):
        for key in row["foams_csv_keys"].split(";"):
            if key:
                found.setdefault(key, row["foam_family"])
    return found


SUITS_FROM = 3
"""How well, of five, an adhesive suits a pair that load may pass through."""
_UNTRIED = ("attacks", "poor_adhesion", "test_first")


def suits_foam(key: str, foam: str | None) -> bool:
    """Whether load may pass through an adhesive on a foam without trying it first; on no foam any. On a core of which
    the table tells nothing only epoxy may: it dissolves and melts none."""
    family = foam_families().get(foam or "")
    if foam is not None and foam.startswith("balsa"):
        row = between().get((key, "wood_wood"))
        return row is not None and row.suits >= SUITS_FROM
    if family is None:
        return foam is None or key.startswith("epoxy")
    return on_foams()[key, family].verdict not in _UNTRIED


def tried_first(key: str, foam: str | None) -> bool:
    """Whether an adhesive is to be tried on a scrap of a foam before it is used there."""
    family = foam_families().get(foam or "")
    return family is not None and on_foams()[key, family].verdict == "test_first"


@cache
def between() -> dict[tuple[str, str], Between]:
    """By adhesive and pair of materials."""
    out = {}
    for row in table_rows("adhesive_pairs.csv", ()):
        foam, hard = (
            [row[f"{name}_{p}"].strip() for p in ("low", "typ", "high")]
            for name in ("efficiency_vs_foam", "shear_strength_hard_MPa")
        )
        out[row["adhesive_key"], row["pair"]] = Between(
            suits=int(row["suitability_0to5"]),
            efficiency=Range(*map(float, foam)) if all(foam) else None,
            shear_MPa=Range(*map(float, hard)) if all(hard) else None,
            prepare=row["prep"], reason=row["reason"], grade=row["confidence"],
        )  # fmt: skip
    return out


_AS_PAIR = {"good": 4, "ok": 3, "test_first": 2, "poor_adhesion": 0, "attacks": 0}


def joining(key: str, pair: str, families: tuple[str, ...]) -> Between | None:
    """How an adhesive does on a pair whose foams, or faces of sheet, are of these families; None where nothing is
    known. A face of sheet is as good as its own verdict, beside that of what lies on the other side."""
    faces = [f for f in families if f in FACED]
    row = between().get((key, pair))
    if not faces:
        return row
    told = [on_foams()[key, f] for f in families]
    suits = min(_AS_PAIR[on.verdict] for on in told)
    worst = min(told, key=lambda on: _AS_PAIR[on.verdict])
    prepare = [FACED[f] for f in faces]
    efficiency = None
    if pair != "foam_foam" and row is not None:  # the other side has a say of its own
        suits, efficiency = min(suits, row.suits), row.efficiency
        prepare.append(row.prepare)
    return Between(suits, efficiency, None, "; ".join(prepare), worst.reason, max(on.grade for on in told))


@cache
def curings() -> dict[str, Curing]:
    """By adhesive."""
    return {
        row["adhesive_key"]: Curing(
            open=tuple(float(row[f"strength_fraction_{t}_20degC"]) for t in _LABELS),
            sealed=tuple(float(row[f"sealed_fraction_{t}_20degC"]) for t in _LABELS),
            sealed_times=row["sealed_time_multiplier"],
            width_exponent=float(row["sealed_width_exponent"]),
            rate_per_10C=row["rate_factor_per_10degC"],
            least_C=float(row["valid_temp_min_degC"]),
            most_C=float(row["valid_temp_max_degC"]),
            notes=row["notes"],
        )
        for row in table_rows("cure_curves.csv", ("sealed_time_multiplier", "rate_factor_per_10degC"))
    }


class School(Result):
    """Where practice disagrees: two positions with their arguments, what would settle it, and a sensible default."""

    key: str
    topic: str
    one: str
    one_argument: str
    other: str
    other_argument: str
    settles: str
    default: str
    shifts: str
    adhesives: list[str]
    grade: str


@cache
def schools() -> tuple[School, ...]:
    """All topics on which practice disagrees."""
    return tuple(
        School(
            key=row["key"], topic=row["topic"], one=row["position_a"], one_argument=row["argument_a"],
            other=row["position_b"], other_argument=row["argument_b"], settles=row["deciding_physics_or_test"],
            default=row["sensible_default"], shifts=row["how_the_choice_may_shift_ranking"],
            adhesives=[k for k in row["related_adhesive_keys"].split(";") if k], grade=row["confidence"],
        )
        for row in table_rows("schools.csv", ())
    )  # fmt: skip
