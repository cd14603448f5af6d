"""The four grades of certainty, the same everywhere."""

from __future__ import annotations

from typing import Literal

from fletcher.core.materials.uncertainty import Band

Grade = Literal["sure", "likely", "doubtful", "no"]
"""Enough even at the low end of its range, at its typical value, only at its high end, or not even there."""
GRADES: tuple[Grade, ...] = ("sure", "likely", "doubtful", "no")
SIGNS: dict[Grade, str] = {"sure": "✓", "likely": "≈", "doubtful": "?", "no": "✕"}


def grade(value: Band, needs: float = 1.0) -> Grade:
    """How surely a figure reaches what is needed."""
    if value.low >= needs:
        return "sure"
    if value.typ >= needs:
        return "likely"
    return "doubtful" if value.high >= needs else "no"


def worst(*grades: Grade) -> Grade:
    """The least certain of several grades."""
    return max(grades, key=GRADES.index)
