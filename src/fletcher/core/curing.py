r"""What a glue line holds at a time: cure curves by warmth and width, green strength while it is still wet.

Time at T counts as t·r^{(T−20)/10}; sealed between closed faces it runs (w/30 mm)^n times slower. A film that was
flashed off, froze or was pressed on holds its share of the bulk at once. A wet film holds far less than its share of
cure: 4 f³ of the final joint up to f = ½, where it gels (MECHANICS section 6, [J]).
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from fletcher.core.adhesives import TIMES_MIN, Adhesive, Curing
from fletcher.core.evidence import drawn, lognormal, normals
from fletcher.core.materials import Range
from fletcher.core.outline import Array

PACE = Range(0.6, 1.0, 1.7)
"""[J] How much sooner or later a joint is there than its curve says: film thickness, humidity, the tube's age."""

FLASHED = frozenset({"contact", "thermoplastic", "tape"})
"""Kinds that hold their share at once: aired to tack, frozen, or pressed."""

GEL = 0.5
"""[J] Share of cure at which a wet film gels."""


@lru_cache(maxsize=4096)
def _sampled(value: Range, key: str, stream: int) -> Array:
    return lognormal(value, normals(key, stream + 1)[stream])


def sampled(value: Range, key: str, stream: int = 0) -> Array:
    """Samples (S,) of a value from a stream of its key, kept: a ranking asks for the same ones again and again."""
    return _sampled(value, key, stream)[: 1 + drawn()]


def techniques(a: Adhesive) -> dict[str, str]:
    """How an adhesive can be put on, by a word, with what is done."""
    if a.kind == "contact":
        return {"flashed": "aired to tack on both faces, then closed for good", "wet": "closed while wet"}
    if a.kind == "rubbery" and a.faces == 2:
        return {"flashed": "touched, parted, aired to tack, then closed", "wet": "closed while wet"}
    if a.key.startswith("pu_"):
        return {"misted": "one face misted with water, spread thin", "dry": "closed without mist"}
    if a.key.startswith("ca_"):
        return {"plain": "closed and held", "accelerated": "accelerator on the other face: sooner and more brittle"}
    if a.kind == "waterborne":
        return {"plain": "clamped", "vented": "faces pricked through every 15 mm so that water gets out"}
    return {"plain": "as its sheet says"}


def _openness(a: Adhesive, technique: str) -> float:
    """How far a technique moves a joint between closed faces towards the open curve, 0 to 1 [J]: a contact film is dry
    when it is closed, a solvent cement aired to tack half so."""
    if technique == "flashed":
        return 1.0 if a.kind == "contact" else 0.5
    return {"misted": 1.0, "accelerated": 1.0, "vented": 0.5}.get(technique, 0.0)


def cured(a: Adhesive, c: Curing, minutes: Array, warmth_C: float, width_mm: float | None, technique: str) -> Array:
    """Share of its own strength (S, t) after `minutes` (t,); `width_mm` of a joint sealed between closed faces, None
    where one face or an edge lets air in."""
    key = "cure/" + a.key
    pace = sampled(PACE, key) * sampled(c.rate_per_10C, key, 1) ** ((warmth_C - 20) / 10)
    times = minutes[None, :] * pace[:, None]
    steps = np.log(TIMES_MIN)
    at = np.log(np.maximum(times, 1e-3))
    open_ = np.interp(at, steps, c.open) * np.minimum(times / TIMES_MIN[0], 1.0)
    openness = _openness(a, technique)
    if width_mm is None or openness == 1:
        return np.asarray(open_)
    slower = (max(width_mm, 1.0) / 30) ** c.width_exponent * sampled(c.sealed_times, key, 2) / c.sealed_times.typ
    sealed_times = times / slower[:, None]
    sealed = np.interp(np.log(np.maximum(sealed_times, 1e-3)), steps, c.sealed)
    sealed = np.minimum(sealed * np.minimum(sealed_times / TIMES_MIN[0], 1.0), open_)
    return np.asarray(sealed ** (1 - openness) * open_**openness)


def sets_at_once(a: Adhesive, technique: str) -> bool:
    """Whether the film holds its share from the start, so that no green strength has to be waited for."""
    return (a.kind in FLASHED and technique != "wet") or technique == "flashed"


def joint(share: Array, glue: Array, bed: Array, at_once: bool) -> Array:
    """Stress (S, t) that a joint holds: `glue` (S,) of the cured film and `bed` (S,) of what it is glued to, MPa."""
    set_ = np.minimum(share * glue[:, None], bed[:, None])
    if at_once:
        return np.asarray(set_)
    green = 4 * share**3 * np.minimum(glue, bed)[:, None]
    return np.where(share < GEL, np.minimum(green, set_), set_)
