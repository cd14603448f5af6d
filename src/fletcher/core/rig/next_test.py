r"""The most telling next test: by how much each would narrow what one wants to know, before anything is read.

To first order: a state Σ of unknowns, headlines with gradients a, a test with rows G over the unknowns and noise N
(what its own piece and set-up add): Σ′ = Σ − ΣGᵀ(GΣGᵀ + N)⁻¹GΣ, and the narrowing is √(aΣ′a + e²)/√(aΣa + e²), e the
part of a headline that no test touches. Ranked by the geometric mean over the headlines; within two per cent the
quicker first.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from fletcher.core.common.arrays import Array

AS_GOOD = 0.02
"""Tests that narrow to within this of the best are as good: the quicker wins."""


@dataclass(frozen=True)
class Candidate:
    """A test that could be made: rows (m, d) over the unknowns, covariance (m, m) of what it adds, minutes."""

    name: str
    rows: Array
    noise: Array
    minutes: float


@dataclass(frozen=True)
class Worth:
    """A candidate and what it leaves of the width of each headline, and of all by their geometric mean."""

    candidate: Candidate
    leaves: tuple[float, ...]

    @property
    def score(self) -> float:
        """Geometric mean."""
        return float(np.exp(np.mean(np.log(self.leaves))))


def after(state: Array, test: Candidate) -> Array:
    """The state (d, d) after a test."""
    seen = state @ test.rows.T
    return np.asarray(state - seen @ np.linalg.solve(test.rows @ seen + test.noise, seen.T))


def widths(state: Array, headlines: Array, untouched: Array) -> Array:
    """Standard deviations (h,) of headlines (h, d)."""
    return np.asarray(np.sqrt(np.einsum("hd,de,he->h", headlines, state, headlines) + untouched**2))


def worth(
    state: Array, headlines: Array, candidates: Sequence[Candidate], untouched: Array | None = None
) -> list[Worth]:  # fmt: skip
    """All candidates, the most telling first."""
    rest = np.zeros(len(headlines)) if untouched is None else untouched
    before = widths(state, headlines, rest)
    found = [Worth(c, tuple(float(v) for v in widths(after(state, c), headlines, rest) / before)) for c in candidates]
    if not found:
        return []
    good = (1 + AS_GOOD) * min(w.score for w in found)

    def order(w: Worth) -> tuple[bool, float, float, str]:
        as_good = w.score <= good
        return not as_good, w.candidate.minutes if as_good else 0.0, w.score, w.candidate.name

    return sorted(found, key=order)


def greedy(
    state: Array, headlines: Array, candidates: Sequence[Candidate], tests: int, untouched: Array | None = None
) -> list[Worth]:  # fmt: skip
    """So many tests, the most telling first, each after what those before it have told."""
    out = []
    for _ in range(tests):
        best = min(worth(state, headlines, candidates, untouched), key=lambda w: (w.score, w.candidate.name))
        out.append(best)
        state = after(state, best.candidate)
    return out
