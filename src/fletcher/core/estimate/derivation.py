"""Numbers put into the formula of a figure: the one form in which all derivations give them."""

from __future__ import annotations

from collections.abc import Iterable

from fletcher.core.estimate.schema import Symbol

Number = tuple[str, str, float, str]
"""Symbol, meaning, value, unit."""


def symbols(numbers: Iterable[Number]) -> list[Symbol]:
    """Numbers put into a formula, in order."""
    return [Symbol(symbol=s, meaning=m, value=float(v), unit=u) for s, m, v, u in numbers]
