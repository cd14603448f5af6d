"""Derivations of balance, cost and hours: every line with its own sum."""

from __future__ import annotations

from fletcher.core.estimate import phrasing
from fletcher.core.estimate.analyse import Analysis
from fletcher.core.estimate.balance import places_aft
from fletcher.core.estimate.derivation import Number, symbols
from fletcher.core.estimate.effort import Effort, prices, tasks
from fletcher.core.estimate.schema import Working
from fletcher.core.materials.tables import name_of


def of_effort(a: Analysis, effort: Effort) -> list[Working]:
    """The derivations "balance", "cost" and "hours" of a part."""
    return [_balance(a), _cost(effort), _hours(effort)]


def _balance(a: Analysis) -> Working:
    p = a.prepared
    mass = p.line_mass[:, 0]
    grams = p.mesh.integral(mass)
    moments = p.mesh.integral(mass * places_aft(p, a.part))
    rows: list[Number] = []
    for n, g in enumerate(grams):
        if g <= 0:
            continue
        name = phrasing.line_label(p.elements, None if n == len(grams) - 1 else n)
        rows.append((name, f"{g:.3g} g, centre aft of the root leading edge", moments[n] / g, "mm"))
    return Working(
        figure="balance",
        formula_id="balance.moments",
        title="Centre of gravity of the part",
        formula="x = Σ m x / Σ m",
        explanation="Every item at its own position, aft of the root leading edge.",
        symbols=symbols(rows),
        assumptions=["The bare part: no equipment, glue or paint.", "Skin mass acts midway between its edges."],
    )


def _cost(effort: Effort) -> Working:
    rows: list[Number] = []
    for use in effort.uses:
        price = prices()[use.key]
        share = use.amount / price.amount
        meaning = f"{100 * share:.3g} % of {price.unit} at {price.credits.typ:g}"
        rows.append((name_of(use.key), meaning, share * price.credits.typ, "credits"))
    return Working(
        figure="cost",
        formula_id="cost.sum",
        title="Cost per piece",
        formula="c = Σ amount / stock unit × price",
        explanation="Only the part of each stock unit that is used; offcuts and postage are not included.",
        symbols=symbols(rows),
        assumptions=["Prices are rough retail guesses, in units of about a euro, and can be off by half."],
    )


def _hours(effort: Effort) -> Working:
    rows: list[Number] = []
    for step in effort.steps:
        task = tasks()[step.task]
        unit = {"m": "m", "dm2": "dm²", "each": "pieces"}[task.per]
        first = "" if task.per == "each" else f"{task.minutes.typ:g} min and {task.per_minutes.typ:g} min a {unit}; "
        each = f"{task.minutes.typ:g} min a piece; " if task.per == "each" else ""
        rows.append((task.title, f"{first}{each}{step.size:.3g} {unit}", step.minutes / 60, "h"))
    waits = [tasks()[t] for t in dict.fromkeys(s.task for s in effort.steps)]
    rows += [
        (f"wait: {t.title.lower()}", "until work can continue", t.wait_h.typ, "h") for t in waits if t.wait_h.typ > 0
    ]
    return Working(
        figure="hours",
        formula_id="hours.sum",
        title="Hands-on time and time until ready",
        formula="t = Σ (first + size × each); ready after t + Σ waits, each kind once",
        explanation="Times of a practised hobby builder, including marking out.",
        symbols=symbols(rows),
        assumptions=["Times are judgement. Waits of the same kind overlap; different kinds follow one another."],
    )
