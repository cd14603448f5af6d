r"""What a glue line holds at a time: cure curves by warmth and width, green strength while it is still wet.

Time at T counts as t·r^{(T−20)/10}; sealed between closed faces it runs (w/30 mm)^n times slower. A film that was
flashed off, froze or was pressed on holds its share of the bulk at once. A wet film holds far less than its share of
cure: 4 f³ of the final joint up to f = ½, where it gels (MECHANICS section 6, [J]).
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from fletcher.core.adhesion.adhesives import TIMES_MIN, Adhesive, Curing, adhesives, curings
from fletcher.core.common.arrays import Array
from fletcher.core.materials import learned
from fletcher.core.materials.materials import Range
from fletcher.core.materials.uncertainty import drawn, logistic, lognormal, normals

PACE = Range(0.6, 1.0, 1.7)
"""[J] How much sooner or later a joint is there than its curve says: film thickness, humidity, the tube's age."""

FLASHED = frozenset({"contact", "thermoplastic", "tape"})
"""Kinds that hold their share at once: aired to tack, frozen, or pressed."""

GEL = 0.5
"""[J] Share of cure at which a wet film gels."""


@lru_cache(maxsize=4096)
def _sampled(value: Range, key: str, stream: int, _: bool) -> Array:
    return lognormal(value, normals(key, stream + 1)[stream])


def sampled(value: Range, key: str, stream: int = 0) -> Array:
    """Samples (S,) of a value from a stream of its key, kept: a ranking asks for the same ones again and again."""
    return _sampled(value, key, stream, learned.resting())[: 1 + drawn()]


def sampled_share(value: Range, key: str, stream: int = 0) -> Array:
    """Samples (S,) of a share between 0 and 1 from a stream of its key."""
    return logistic(value, normals(key, stream + 1)[stream])[: 1 + drawn()]


def techniques(a: Adhesive) -> dict[str, str]:
    """How an adhesive can be put on, by a word, with what is done."""
    if a.kind == "contact":
        return {"flashed": "flashed off on both faces until touch-dry, then closed once", "wet": "closed wet"}
    if a.kind == "rubbery" and a.faces == 2:
        return {"flashed": "pressed together, pulled apart, flashed off, then closed", "wet": "closed wet"}
    if a.key.startswith(("pu_", "hybrid_")):
        return {"misted": "one face misted with water, spread thin", "dry": "closed without water mist"}
    if a.key.startswith("ca_"):
        return {"plain": "closed and held", "accelerated": "accelerator on the other face: faster but more brittle"}
    if a.kind == "waterborne":
        return {"plain": "clamped", "vented": "faces pricked every 15 mm so that water can escape"}
    return {"plain": "as the data sheet says"}


def openness(a: Adhesive, technique: str) -> float:
    """How far a technique moves a joint between closed faces towards the open curve, 0 to 1 [J]: a contact film is dry
    when it is closed, a solvent cement aired to tack half so."""
    if technique == "flashed":
        return 1.0 if a.kind == "contact" else 0.5
    return {"misted": 1.0, "accelerated": 1.0, "vented": 0.5}.get(technique, 0.0)  # 0, ½ or 1


def cured(a: Adhesive, c: Curing, minutes: Array, warmth_C: float, width_mm: float | None, technique: str) -> Array:
    """Share of its own strength (S, t) after `minutes` (t,); `width_mm` of a joint sealed between closed faces, None
    where one face or an edge lets air in. The usual minutes are kept, as a chooser asks for them again and again."""
    usual = len(TIMES_MIN)
    if len(minutes) > usual and tuple(minutes[:usual]) == TIMES_MIN:
        kept = _usually_cured(a.key, warmth_C, width_mm, technique, drawn())
        rest = _cured(a, c, minutes[usual:], warmth_C, width_mm, technique)
        return np.concatenate([kept, rest], axis=1)
    return _cured(a, c, minutes, warmth_C, width_mm, technique)


@lru_cache(maxsize=512)
def _usually_cured(key: str, warmth_C: float, width_mm: float | None, technique: str, _: int) -> Array:
    return _cured(adhesives()[key], curings()[key], np.array(TIMES_MIN), warmth_C, width_mm, technique)


_STEPS = np.log(TIMES_MIN)


@lru_cache(maxsize=256)
def _aired(key: str, minutes: tuple[float, ...], warmth_C: float, _: int) -> tuple[Array, Array]:
    """Logarithm of the minutes as they count at this warmth, and the open curve there, (S, t)."""
    c, stream = curings()[key], "cure/" + key
    pace = sampled(PACE, stream) * sampled(c.rate_per_10C, stream, 1) ** ((warmth_C - 20) / 10)
    at = np.log(np.maximum(np.array(minutes)[None, :] * pace[:, None], 1e-3))
    return at, _read(at, c.open)


def _read(at: Array, curve: tuple[float, ...]) -> Array:
    """A curve at logarithms of minutes, falling to nothing before its first point."""
    read = np.interp(at, _STEPS, curve)
    early = at < _STEPS[0]
    if early.any():
        read[early] *= np.exp(at[early] - _STEPS[0])
    return np.asarray(read)


def _cured(a: Adhesive, c: Curing, minutes: Array, warmth_C: float, width_mm: float | None, technique: str) -> Array:
    at, open_ = _aired(a.key, tuple(minutes), warmth_C, drawn())
    aired = openness(a, technique)
    if width_mm is None or aired == 1:
        return open_
    wide = c.width_exponent * np.log(max(width_mm, 1.0) / 30)
    slower = wide + np.log(sampled(c.sealed_times, "cure/" + a.key, 2) / c.sealed_times.typ)
    sealed = np.minimum(_read(np.maximum(at - slower[:, None], np.log(1e-3)), c.sealed), open_)
    return sealed if aired == 0 else np.sqrt(sealed * open_)


def sets_at_once(a: Adhesive, technique: str) -> bool:
    """Whether the film holds its share from the start, so that no green strength has to be waited for; the curve of
    cyanoacrylate is its strength."""
    return a.key.startswith("ca_") or (a.kind in FLASHED and technique != "wet")


def film(share: Array, glue: Array, bed: Array, at_once: bool) -> Array:
    """Stress (S, t) that the film itself holds, with `share` (S, t) of its own `glue` (S,), MPa, between faces that
    tear at `bed` (S,): its share once it has set, green strength before."""
    own = np.maximum(share, 1e-9) * glue[:, None]
    if at_once or float(share.min()) >= GEL:
        return np.asarray(own)
    wet = np.maximum(share, 1e-3)
    green = 4 * wet * wet * wet * np.minimum(glue, bed)[:, None]
    return np.where(share < GEL, np.minimum(green, own), own)


def joint(share: Array, glue: Array, bed: Array, at_once: bool) -> Array:
    """Stress (S, t) that a joint holds: the lesser of its film and of what it is glued to, `bed` (S,), MPa."""
    return np.minimum(film(share, glue, bed, at_once), bed[:, None])
