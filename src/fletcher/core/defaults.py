"""A load case to start from: its figures come from the airframe and the part."""

from __future__ import annotations

from typing import get_args

from fletcher.core import cases
from fletcher.core.airframe import Airframe, Part
from fletcher.core.cases import Case
from fletcher.core.materials import G_GRAVITY

CASES: dict[str, type[cases.CaseBase]] = {
    kind.model_fields["type"].default: kind for kind in get_args(get_args(cases.Case)[0])
}
"""Every kind of load case by its type."""

NAMES = {
    "pull_up": "Pull-up in the air",
    "turn": "Banked turn",
    "gust": "Gust",
    "tow": "Tow or line launch",
    "landing": "Flat landing",
    "sudden_stop": "Nose strikes",
    "hand_launch": "Hand launch",
    "tip_strike": "Pole at the leading edge",
    "handling": "Hand at the tip",
    "three_point": "Bench, weight in the middle",
    "tip_weight": "Bench, weight at the tip",
    "tip_twist": "Bench, twist at the tip",
}
"""What a builder calls each kind of case."""


def kinds_for(part: Part) -> list[str]:
    """Kinds of case that make sense for a part: a test piece does not fly."""
    return [t for t, kind in CASES.items() if part.kind == "wing" or not issubclass(kind, cases.FlightCase)]


def default_case(kind: str, airframe: Airframe, part: Part) -> Case:
    """A case of a kind with figures from the airframe's mass and speed and the part's size.

    Raises
    ------
    KeyError
        If there is no such kind.
    """
    model = CASES[kind]
    used = {c.id for c in part.cases}
    number = next(n for n in range(1, 100) if f"{kind}-{n}".replace("_", "-") not in used)
    values: dict[str, object] = {"id": f"{kind}-{number}".replace("_", "-"), "name": NAMES[kind]}
    weight = airframe.all_up_mass_g * 1e-3 * G_GRAVITY
    top, span = airframe.top_speed_m_s, part.span_mm
    shares = {"pull_up": 0.8, "turn": 0.7, "gust": 0.8, "tow": 0.7, "sudden_stop": 0.6, "tip_strike": 0.5}
    if kind in shares:
        values["speed_m_s"] = max(1.0, round(shares[kind] * top, 1))
    if kind == "tow":
        values["pull_N"] = round(3 * weight, 1)
    if kind == "hand_launch":
        values["speed_m_s"] = max(1.0, round(min(0.5 * top, 12.0), 1))
    if kind == "handling":
        values["force_N"] = max(0.1, round(0.5 * weight, 1))
    if kind == "three_point":
        values |= {"first_support_mm": round(0.1 * span), "second_support_mm": round(0.9 * span)}
    if kind in ("three_point", "tip_weight"):
        values["weight_g"] = max(1.0, round(airframe.all_up_mass_g * (1.0 if kind == "three_point" else 0.25)))
    if kind == "tip_twist":
        values["couple_N_mm"] = max(1.0, round(0.02 * weight * span))
    return model.model_validate(values)  # type: ignore[return-value]
