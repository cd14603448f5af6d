"""How a property scatters: from batch to batch and from piece to piece of one batch, and how well a kind of test tells
it. All of it judgement [J], in one place."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Kind = Literal["bend", "break"]
"""What a test reads: how far a load bends a part, or at which load it breaks."""


@dataclass(frozen=True)
class Shares:
    """Standard deviations of the logarithm: of this set-up, of the specimen and its formula, of the kind of test."""

    set_up: float
    specimen: float
    kind: float


KINDS: dict[Kind, Shares] = {"bend": Shares(0.060, 0.060, 0.053), "break": Shares(0.071, 0.050, 0.050)}
"""No test tells better than ten per cent in the sum of its shares."""
CREEP = {"foam": 0.04, "skin": 0.03, "sheet": 0.03, "bar": 0.0}
"""Rate at which a bend grows with time, t^n."""
PIECE = {
    "extruded": (0.03, 0.08), "bead": (0.05, 0.12), "skin": (0.01, 0.05), "bar": (0.05, 0.10), "wood": (0.40, 0.40),
}  # fmt: skip
"""Share of a property's variance that differs from piece to piece of one batch: of stiffness, of strength."""
_BEADS = frozenset({"EPP", "EPS", "EPO"})
_STIFF_ROWS = {"foam": (0, 1, 2), "density": (0,), "skin": (0, 1, 3, 6), "bar": (0, 3)}
"""Rows of a stream that are of stiffness or mass; the others are of strength."""


def piece_share(stream: str, row: int, family: str) -> float:
    """Share of the variance of a row of a stream that differs from piece to piece."""
    sort = stream.partition("/")[0]
    if sort in ("foam", "density"):
        group = "bead" if family in _BEADS else "extruded"
    elif sort == "bar":
        group = "wood" if family in ("wood", "hardwood", "bamboo") else "bar"
    else:
        group = "skin"
    stiff, strong = PIECE[group]
    return stiff if row in _STIFF_ROWS.get(sort, ()) else strong
