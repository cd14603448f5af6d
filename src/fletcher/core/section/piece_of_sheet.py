"""A piece of sheet on a core: a patch, guard or skid slips until the foam has handed its force over."""

from __future__ import annotations

import math
from collections.abc import Sequence

from fletcher.core.document.airframe import Part
from fletcher.core.materials.materials import Catalogue
from fletcher.core.section.elements import Membrane

_SPREADS = 1.5
"""[J] What the foam beside both edges of a piece adds to what shears beneath it, over G."""


def taken_up(piece: Membrane, part: Part, catalogue: Catalogue, beneath: Sequence[Membrane]) -> float:
    """Share of the strain of its place that a piece of sheet takes on the mean of its length.

    It slips on a core until the foam has handed over its force: 1 − tanh u/u with u = ℓ/2λ between two free ends, ℓ/λ
    where it begins at the root, λ² = E t b/k (Volkersen 1938) and k = G (2 b/h + 1.5) per length of the piece, half of
    the depth h shearing beneath it. A skin or wall beneath is as good as so much of the piece's own stiffness.
    """
    if part.foam is None:
        return 1.0
    at = 0.5 * (piece.start + piece.end) / part.span_mm
    depth = part.root_thickness_mm + (part.tip_thickness_mm - part.root_thickness_mm) * at
    ends = [e.root_mm + (e.tip_mm - e.root_mm) * at for e in (piece.front, piece.rear)]
    chord = part.root_chord_mm + (part.tip_chord_mm - part.root_chord_mm) * at
    wide = max(min(ends[1] - ends[0], chord), 1.0)
    under = sum(m.plies * m.skin.E_along_MPa.typ * m.skin.thickness_mm.typ for m in beneath
                if m.face == piece.face and not m.slack and m.start <= piece.start and m.end >= piece.end)  # fmt: skip
    own = piece.plies * piece.skin.E_along_MPa.typ * piece.skin.thickness_mm.typ - under
    if own <= 0:
        return 1.0
    hands_over = catalogue.foams[part.foam].G_MPa.typ * (2 * wide / depth + _SPREADS)
    length = piece.end - piece.start
    u = length / math.sqrt(own * wide / hands_over) * (1.0 if piece.start <= 0 else 0.5)
    return 1 - math.tanh(u) / u
