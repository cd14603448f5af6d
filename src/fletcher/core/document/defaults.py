"""A load case to start from: its figures come from the airframe and the part."""

from __future__ import annotations

from typing import get_args

from fletcher.core.document import cases
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.cases import Case
from fletcher.core.materials.materials import G_GRAVITY

CASES: dict[str, type[cases.CaseBase]] = {
    kind.model_fields["type"].default: kind for kind in get_args(get_args(cases.Case)[0])
}
"""Every kind of load case by its type."""

NAMES = {
    "pull_up": "Pull-up",
    "turn": "Banked turn",
    "gust": "Gust",
    "tow": "Tow or winch launch",
    "landing": "Belly landing",
    "sudden_stop": "Sudden stop, nose first",
    "hand_launch": "Hand launch",
    "tip_strike": "Pole strike",
    "handling": "Hand push at tip",
    "three_point": "Bench: mid-span weight",
    "tip_weight": "Bench: tip weight",
    "tip_twist": "Bench: tip twist",
    "strap": "Straps over the edges",
    "tail_lift": "Tail load",
    "deflected": "Deflected in flight",
    "tail_load": "Tail load on fuselage",
    "motor_torque": "Motor torque",
    "nose_strike": "Nose impact",
}
"""What a builder calls each kind of case."""


_BENCH = ("three_point", "tip_weight", "tip_twist")
SUITS: dict[str, tuple[str, ...]] = {
    "wing": ("pull_up", "turn", "gust", "tow", "landing", "sudden_stop", "hand_launch", "tip_strike", "handling",
             "strap", *_BENCH),
    "tail": ("tail_lift", "landing", "sudden_stop", "tip_strike", "handling", "strap", *_BENCH),
    "surface": ("deflected", "handling", *_BENCH),
    "fuselage": ("tail_load", "motor_torque", "nose_strike", "landing", "handling", "strap", *_BENCH),
    "plank": ("handling", "landing", "sudden_stop", "tip_strike", "strap", *_BENCH),
}  # fmt: skip
"""Kinds of case that make sense for each kind of part, the commonest first."""


def kinds_for(part: Part) -> tuple[str, ...]:
    """Kinds of case that make sense for a part: a test piece does not fly."""
    return SUITS[part.kind]


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
    shares = {"pull_up": 0.8, "turn": 0.7, "gust": 0.8, "tow": 0.7, "sudden_stop": 0.6, "tip_strike": 0.5,
              "tail_lift": 0.8, "deflected": 0.8, "tail_load": 0.8, "nose_strike": 0.6}  # fmt: skip
    if kind in shares:
        values["speed_m_s"] = max(1.0, round(shares[kind] * top, 1))
    if kind == "strap":
        values["pull_N"] = round(2 * weight, 1)
    if kind == "motor_torque":  # 150 W per kg at 9000 turns a minute
        values["torque_N_mm"] = max(0.1, round(0.16 * airframe.all_up_mass_g, 1))
    if kind == "tail_load":  # a tail of a fifth of a wing that carries 40 g/dm²
        values["area_cm2"] = max(1.0, round(0.2 * airframe.all_up_mass_g / 40 * 100))
    if kind == "tow":
        values["pull_N"] = round(3 * weight, 1)
    if kind == "hand_launch":
        values["speed_m_s"] = max(1.0, round(min(0.5 * top, 12.0), 1))
    if kind == "handling":
        share = {"wing": 0.5, "fuselage": 0.5, "surface": 0.02}.get(part.kind, 0.15)
        values["force_N"] = max(0.1, round(share * weight, 1))
    if kind == "three_point":
        values |= {"first_support_mm": round(0.1 * span), "second_support_mm": round(0.9 * span)}
    if kind in ("three_point", "tip_weight"):
        values["weight_g"] = max(1.0, round(airframe.all_up_mass_g * (1.0 if kind == "three_point" else 0.25)))
    if kind == "tip_twist":
        values["couple_N_mm"] = max(1.0, round(0.02 * weight * span))
    return model.model_validate(values)  # type: ignore[return-value]


COUNTED: dict[str, tuple[str, ...]] = {
    "wing": ("pull_up", "gust", "landing", "handling", "hand_launch"),
    "tail": ("tail_lift", "landing", "handling"),
    "surface": ("deflected",),
    "fuselage": ("tail_load", "landing", "handling"),
    "nose": ("motor_torque", "landing", "handling"),
    "plank": ("three_point", "handling"),
}
"""The load cases by which a new part is judged, by its use: what happens on every flight, on the ground and in the
hand."""
SHOWN: dict[str, tuple[str, ...]] = {
    "wing": ("sudden_stop", "tip_strike"), "tail": ("tip_strike",), "nose": ("nose_strike",),
}  # fmt: skip
"""Crashes: computed and shown from the start, but switched off for the verdict. Light parts are not made to survive
them; whoever wants that switches them on."""


def usual_cases(airframe: Airframe, part: Part, use: str | None = None) -> tuple[Case, ...]:
    """The load cases of a new part, those that count first. `use` is its kind, or "nose" of the fuselage ahead of the
    wing."""
    use = use or part.kind
    out: tuple[Case, ...] = ()
    for kind in (*COUNTED[use], *SHOWN.get(use, ())):
        case = default_case(kind, airframe, part)
        out += (case.model_copy(update={"id": kind.replace("_", "-"), "counts": kind in COUNTED[use]}),)
    return out
