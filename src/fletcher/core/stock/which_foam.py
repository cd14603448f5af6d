r"""Which foam is this? Odds of each family from what a builder can see, bend and try on a scrap (naive Bayes).

Every answer multiplies the odds of a family by how often pieces of it behave so, P(answer | family), from the table;
the weight of a block, by how its density lies in the range of the family's foams. What settles it best next is the
test whose answer is expected to leave the least doubt: the largest expected fall of entropy, −Σ p ln p.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from functools import cache
from typing import Annotated, Literal

from pydantic import Field

from fletcher.core.common.model import Result
from fletcher.core.document.cases import Document
from fletcher.core.materials.tables import reference, table_rows

Test = Literal["structure", "sliver", "dent", "solvent", "hot_water"]
SPREAD = 0.25
"""[J] Error of a density that was measured with a ruler and a kitchen scale, and of what is sold under one name, as a
logarithm."""
SURE = 0.9
"""From these odds on a family counts as told."""


@cache
def _table() -> dict[Test, dict[str, dict[str, float]]]:
    """P(answer | family) by test, answer and family."""
    out: dict[Test, dict[str, dict[str, float]]] = {}
    for row in table_rows("foam_tests.csv", ()):
        shares = {f: float(v) for f, v in row.items() if f.isupper() and v}
        out.setdefault(row["test"], {})[row["answer"]] = shares
    return out


class FoamTest(Result):
    """A test on a scrap: what is done, what to mind, and its answers in words by their keys."""

    test: str
    asks: str
    caution: str
    answers: dict[str, str]


@cache
def foam_tests() -> list[FoamTest]:
    """All tests, the plainest first."""
    out: dict[str, FoamTest] = {}
    for row in table_rows("foam_tests.csv", ()):
        one = FoamTest(test=row["test"], asks=row["asks"], caution=row["caution"], answers={})
        out.setdefault(row["test"], one).answers[row["answer"]] = row["says"]
    return list(out.values())


class FoamSeen(Document):
    """What was seen of an unknown foam: answers by test, and a block's size and weight."""

    answers: Annotated[dict[str, str], Field(max_length=10, default_factory=dict)]
    length_mm: Annotated[float | None, Field(gt=0, le=5000)] = None
    width_mm: Annotated[float | None, Field(gt=0, le=5000)] = None
    thick_mm: Annotated[float | None, Field(gt=0, le=1000)] = None
    grams: Annotated[float | None, Field(gt=0, le=50_000)] = None


class FoamOdds(Result):
    """A family, its odds, and the foam of the table that lies nearest in density."""

    family: str
    odds: float
    key: str
    name: str


class FoamGuess(Result):
    """Families, the likeliest first; the density that was measured; what to try next, and in words what is known."""

    odds: list[FoamOdds]
    density_kg_m3: float | None
    next_test: str | None
    says: str


def density_of(seen: FoamSeen) -> float | None:
    """kg/m³ of a block; None where something is missing."""
    sizes = (seen.length_mm, seen.width_mm, seen.thick_mm, seen.grams)
    if None in sizes:
        return None
    a, b, c, g = (float(s) for s in sizes if s is not None)
    return g / (a * b * c) * 1e6


def which_foam(seen: FoamSeen) -> FoamGuess:
    """The odds of every family.

    Raises
    ------
    ValueError
        Where a test or an answer is not known.
    """
    for test, answer in seen.answers.items():
        if test not in _table() or answer not in _table()[test]:
            raise ValueError(f"answers.{test}: {answer!r} is no answer to it")
    density = density_of(seen)
    odds = _odds(seen.answers, density)
    nearest = {f: _nearest(f, density) for f in odds}
    told = [
        FoamOdds(family=f, odds=p, key=nearest[f], name=reference().foams[nearest[f]].name)
        for f, p in sorted(odds.items(), key=lambda i: (-i[1], i[0]))
    ]
    best = told[0]
    left = best.odds < SURE
    following = _best_test(seen.answers, density) if left else None
    return FoamGuess(odds=told, density_kg_m3=density, next_test=following, says=_says(best, left, seen, density))


def _says(best: FoamOdds, left: bool, seen: FoamSeen, density: float | None) -> str:
    if not seen.answers and density is None:
        return "Answer what you can see: beads or cells, and what a sliver does."
    if left:
        return f"Most likely {best.name}, {100 * best.odds:.0f} %: not settled yet."
    return f"{best.name}: {100 * best.odds:.0f} %."


def _families() -> dict[str, list[str]]:
    out: dict[str, list[str]] = {}
    known = {f for answers in _table().values() for shares in answers.values() for f in shares}
    for key, foam in reference().foams.items():
        if foam.family in known:
            out.setdefault(foam.family, []).append(key)
    return out


def _odds(answers: Mapping[str, str], density: float | None) -> dict[str, float]:
    logs = {}
    for family, keys in _families().items():
        log = 0.0
        for test, answer in answers.items():
            log += math.log(max(_table()[test][answer].get(family, 0.0), 1e-4))  # type: ignore[index]
        if density is not None:
            log += math.log(sum(_alike(density, k) for k in keys) / len(keys) + 1e-6)
        logs[family] = log
    top = max(logs.values())
    weights = {f: math.exp(v - top) for f, v in logs.items()}
    return {f: w / sum(weights.values()) for f, w in weights.items()}


def _alike(density: float, key: str) -> float:
    """How well a density goes with a foam of the table."""
    typ = reference().foams[key].density_kg_m3.typ
    return math.exp(-0.5 * (math.log(density / typ) / SPREAD) ** 2)


def _nearest(family: str, density: float | None) -> str:
    keys = _families()[family]
    if density is None:
        return keys[len(keys) // 2]
    return max(keys, key=lambda k: _alike(density, k))


def _entropy(odds: Mapping[str, float]) -> float:
    return -sum(p * math.log(p) for p in odds.values() if p > 0)


def _best_test(answers: Mapping[str, str], density: float | None) -> Test | None:
    """The test not yet done whose answer is expected to leave the least doubt."""
    odds = _odds(answers, density)
    left: dict[Test, float] = {}
    for test in (t for t in _table() if str(t) not in answers):
        expected = 0.0
        for answer, shares in _table()[test].items():
            p = sum(odds[f] * max(shares.get(f, 0.0), 1e-4) for f in odds)
            expected += p * _entropy(_odds({**answers, str(test): answer}, density))
        left[test] = expected
    if not left:
        return None
    best = min(left.values())
    return next(t for t, v in left.items() if v == best)
