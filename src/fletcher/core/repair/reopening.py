"""A repair whose check failed opens its marks again: those that the mended part can still have."""

from __future__ import annotations

from collections.abc import Sequence

from fletcher.core.document.airframe import Part
from fletcher.core.document.damage import Mark
from fletcher.core.materials.tables import reference
from fletcher.core.validation.airframe import check_part


def reopened(part: Part, marks: Sequence[Mark]) -> tuple[Mark, ...]:
    """Of the marks that a repair took away those that stand on the part again, one after another. A mark that is there
    already, or that the repair has left no place for (the bar that broke is another one now), does not."""
    back: list[Mark] = []
    for mark in marks:
        damage = (*part.damage, *back, mark)
        if len({m.id for m in damage}) == len(damage) and not check_part(
            part.model_copy(update={"damage": damage}), reference()
        ):
            back.append(mark)
    return tuple(back)
