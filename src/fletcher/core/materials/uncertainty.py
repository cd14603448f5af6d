"""Uncertainty: drawing material values and model factors together, and reading bands off the results.

Index 0 of every sample axis holds the typical values; the rest are draws with a fixed seed, so that the same
document always gives the same band. Ranges are two-piece log-normal with 5-50-95 % at low-typical-high
(MECHANICS section 9). Within one foam the properties are correlated: stiffnesses 0.85, strengths 0.7,
stiffness with strength 0.6.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from contextvars import ContextVar
from copy import copy
from dataclasses import dataclass, fields, replace
from functools import lru_cache
from typing import Any, TypeVar

import numpy as np
from pydantic import BaseModel, ConfigDict

from fletcher.core.common.arrays import Array
from fletcher.core.materials import learned
from fletcher.core.materials.materials import Bar, Foam, Range, Skin

SAMPLES = 200
"""How many draws stand behind every band."""
QUICK_SAMPLES = 40
"""How many while a thing is being dragged."""
SEED = 20260401
_Z95 = 1.6448536269514722


_drawn: ContextVar[int] = ContextVar("drawn", default=SAMPLES)


def drawn() -> int:
    """How many samples are drawn at present, beside the typical values."""
    return _drawn.get()


@contextmanager
def samples(count: int) -> Iterator[None]:
    """Within it only so many of the `SAMPLES` draws are used: 0 is the typical values alone, for comparing many
    trials quickly; an even number keeps every draw beside its mirror image."""
    if not 0 <= count <= SAMPLES:
        raise ValueError(f"needs 0 to {SAMPLES} samples, not {count}")
    token = _drawn.set(count)
    try:
        yield
    finally:
        _drawn.reset(token)


class Band(BaseModel):
    """A figure with its 5-95 % band. `causes` names the one or two inputs that cause most of it."""

    model_config = ConfigDict(frozen=True)

    typ: float
    low: float
    high: float
    causes: tuple[str, ...] = ()


@dataclass(frozen=True)
class ModelFactor:
    """A judgement [J] in the model itself, sampled like a material value: by its `key`, which no change of words
    touches."""

    key: str
    value: Range
    why: str


WRINKLING_K = {
    "yes": ModelFactor(
        "wrinkling factor, well bonded", Range(0.35, 0.50, 0.80), "paper, cloth or ironed film, well bonded"
    ),
    "partial": ModelFactor("wrinkling factor, part bonded", Range(0.25, 0.40, 0.60), "partly bonded, or thin and soft"),
    "no": ModelFactor(
        "wrinkling factor, tape",
        Range(0.18, 0.25, 0.40),
        "tape on bead foam: not bonded over the valleys between beads",
    ),
}
WRINKLED = ModelFactor(
    "what a wrinkled film keeps", Range(0.5, 0.9, 1.0), "share of its wrinkling stress that an elastic film keeps"
)
KINKED = ModelFactor(
    "what a kinked ply keeps", Range(0.15, 0.25, 0.35), "share of its wrinkling stress that cloth or paper keeps"
)
BUCKLING_FACTOR = ModelFactor(
    "bar buckling model",
    Range(0.7, 1.0, 1.4),
    "infinite-medium theory compared with spars in slots with glue and waviness",
)
WARPING_HELD = ModelFactor(
    "how well bays hold an opening",
    Range(0.25, 0.6, 0.95),
    "restraint of warping by the closed bays beside a cut-out: 0 none, 1 full",
)
PEEL = ModelFactor("peel of strips", Range(0.5, 1.0, 1.8), "peel strength on this foam relative to the table")
SPLICE_SHEAR = ModelFactor(
    "glue in a spliced bar",
    Range(3.0, 7.0, 14.0),
    "shear strength of a side-by-side splice, MPa (thin resin, ends not tapered)",
)
HOOP = ModelFactor(
    "hoop of a pulled tube", Range(10, 20, 35), "MPa at which the mouth of a pultruded tube splits lengthwise"
)
HOOP_WOUND = ModelFactor(
    "hoop of a wound tube", Range(35, 60, 100), "MPa at which the mouth of a tube wound with cloth splits lengthwise"
)
HOOP_METAL = ModelFactor("hoop of a metal tube", Range(100, 180, 260), "MPa at which the mouth of a metal tube yields")
WRAPPED = ModelFactor(
    "wrapped split",
    Range(0.5, 0.75, 0.9),
    "strength left in a lengthwise-split spar bound with thread and thin glue",
)
SLOT_WAVE = ModelFactor("slot waviness", Range(0.1, 0.2, 0.5), "waviness of a spar in its slot, mm")


def lognormal(value: Range, z: Array) -> Array:
    """Two-piece log-normal draw; zeros stay zero and a zero-width side has no spread."""
    if value.typ <= 0:
        return np.full_like(z, value.typ)
    low = max(value.low, 1e-3 * value.typ)
    below, above = np.log(value.typ / low) / _Z95, np.log(value.high / value.typ) / _Z95
    return np.asarray(value.typ * np.exp(np.where(z < 0, below, above) * z))


def logistic(value: Range, z: Array) -> Array:
    """Two-piece logit-normal draw of a share between 0 and 1; an end at 1 counts as 0.995."""
    low, typ, high = (min(v, 0.995) for v in (value.low, value.typ, value.high))
    low, typ, high = (float(np.log(v / (1 - v))) for v in (low, typ, high))
    logit = typ + np.where(z < 0, typ - low, high - typ) / _Z95 * z
    return np.asarray(1 / (1 + np.exp(-logit)))


def normals(key: str, count: int, correlation: Array | None = None) -> Array:
    """Standard normals, shape (count, 1 + SAMPLES) with a zero first column, reproducible per key.

    Each key has a stream of its own, so that adding a layer does not reshuffle the draws of the others. What tests have
    taught of a material changes its stream (`learned`).
    """
    z = learned.seen(key, count, _bare_normals)
    if correlation is None:
        return z
    root = np.linalg.cholesky(correlation)
    return np.concatenate([root @ z[:, :1], root @ np.ascontiguousarray(z[:, 1:])], axis=1)


def _bare_normals(key: str, count: int) -> Array:
    seed = np.random.SeedSequence([SEED, *key.encode()])
    z = np.random.default_rng(seed).standard_normal((count, SAMPLES))
    # paired with their mirror image, means converge faster and medians stay on the typical value
    z[:, 1::2] = -z[:, 0::2]
    return np.concatenate([np.zeros((count, 1)), z], axis=1)


_STIFF, _STRONG, _CROSS = 0.85, 0.7, 0.6
_FOAM_CORRELATION = np.array(
    [
        [1.0 if i == j else (_STIFF if i < 3 and j < 3 else _STRONG if i > 2 and j > 2 else _CROSS) for j in range(6)]
        for i in range(6)
    ]
)


@dataclass(frozen=True)
class FoamDraw:
    """Sampled foam values, each of shape (1 + drawn(),), MPa; density in g/mm³."""

    E_tension: Array
    E_compression: Array
    G: Array
    tensile: Array
    crush: Array
    shear: Array
    density: Array
    break_strain: Array
    """Strain at which a ductile foam tears."""
    bearing: Array
    """Crush stress through the thickness or across the grain, under straps, pins and strikes."""


@dataclass(frozen=True)
class SkinDraw:
    """Sampled skin values, each of shape (1 + drawn(),). `Et` and `Gt` in N/mm per ply, areal mass in g/mm²."""

    thickness: Array
    Et: Array
    Gt: Array
    tensile: Array
    draws_out: Array | None
    drawn: Array | None
    """Stress at a strain of 10 % of a skin that draws out, MPa."""
    break_strain: Array | None
    compressive: Array | None
    wrinkling_k: Array
    areal_mass: Array
    adhesive_shear: Array | None
    shear: Array


@dataclass(frozen=True)
class BarDraw:
    """Sampled bar values, each of shape (1 + drawn(),), MPa; density in g/mm³."""

    E: Array
    G: Array
    tensile: Array
    compressive: Array
    shear: Array
    density: Array


_Draw = TypeVar("_Draw", "FoamDraw", "SkinDraw", "BarDraw")


def _cut(draw: _Draw) -> _Draw:
    """The draws in use of those that are kept."""
    count = 1 + drawn()
    if count == 1 + SAMPLES:
        return draw
    kept: dict[str, Any] = {f.name: getattr(draw, f.name) for f in fields(draw)}
    cut: dict[str, Any] = {name: values if values is None else values[:count] for name, values in kept.items()}
    return replace(draw, **cut)


def draw_foam(foam: Foam) -> FoamDraw:
    """Sampled values of one foam."""
    return _cut(_draw_foam(foam, learned.resting()))


@lru_cache(maxsize=64)
def _draw_foam(foam: Foam, _: bool) -> FoamDraw:
    z = normals("foam/" + foam.key, 6, _FOAM_CORRELATION)
    ranges = (foam.E_tension_MPa, foam.E_compression_MPa, foam.G_MPa)
    strengths = (foam.tensile_strength_MPa, foam.crush_stress_MPa, foam.shear_strength_MPa)
    values = [lognormal(r, z[i]) for i, r in enumerate(ranges + strengths)]
    density = lognormal(foam.density_kg_m3, normals("density/" + foam.key, 1)[0]) * 1e-6
    tension, compression, shear, tensile, crush, shear_strength = values
    bearing = crush / foam.through_thickness_ratio
    breaks = np.maximum(lognormal(foam.tensile_break_strain_pct, z[3]) / 100, tensile / tension)
    return FoamDraw(tension, compression, shear, tensile, crush, shear_strength, density, breaks, bearing)


def draw_skin(skin: Skin) -> SkinDraw:
    """Sampled values of one skin."""
    return _cut(_draw_skin(skin, learned.resting()))


@lru_cache(maxsize=128)
def _draw_skin(skin: Skin, _: bool) -> SkinDraw:
    z = normals("skin/" + skin.key, 8)
    thickness = lognormal(skin.thickness_mm, z[0])
    # E and thickness of thin films are measured as their product: the narrower of the two spreads rules E·t
    stiffness = lognormal(skin.E_along_MPa, z[1]) * skin.thickness_mm.typ
    strong = _CROSS * z[1] + np.sqrt(1 - _CROSS**2) * z[2]
    return SkinDraw(
        thickness=thickness,
        Et=stiffness,
        Gt=lognormal(skin.G_MPa, z[3]) * skin.thickness_mm.typ,
        tensile=lognormal(skin.tensile_strength_MPa, strong),
        draws_out=lognormal(skin.yield_MPa, strong) if skin.yield_MPa else None,
        drawn=lognormal(skin.drawn_MPa, strong) if skin.drawn_MPa else None,
        break_strain=lognormal(skin.break_strain_pct, strong) / 100 if skin.break_strain_pct else None,
        compressive=lognormal(skin.compressive_strength_MPa, z[4]) if skin.compressive_strength_MPa else None,
        wrinkling_k=lognormal(WRINKLING_K[skin.wrinkling_bond].value, z[5]),
        areal_mass=lognormal(skin.areal_mass_g_m2, z[6]) * 1e-6,
        adhesive_shear=lognormal(skin.adhesive_shear_MPa, z[7]) if skin.adhesive_shear_MPa else None,
        shear=lognormal(skin.shear_strength_MPa, strong),
    )


def draw_bar(bar: Bar) -> BarDraw:
    """Sampled values of one bar."""
    return _cut(_draw_bar(bar, learned.resting()))


@lru_cache(maxsize=128)
def _draw_bar(bar: Bar, _: bool) -> BarDraw:
    z = normals("bar/" + bar.key, 4)
    strength = _CROSS * z[0] + np.sqrt(1 - _CROSS**2) * z[1]
    return BarDraw(
        E=lognormal(bar.E_MPa, z[0]),
        G=lognormal(bar.G_MPa, z[0]),
        tensile=lognormal(bar.tensile_strength_MPa, strength),
        compressive=lognormal(bar.compressive_strength_MPa, 0.7 * strength + np.sqrt(1 - 0.7**2) * z[2]),
        shear=lognormal(bar.shear_strength_MPa, strength),
        density=lognormal(bar.density_kg_m3, z[3]) * 1e-6,
    )


def draw_factor(factor: ModelFactor) -> Array:
    """Sampled model factor, shape (1 + drawn(),)."""
    return _draw_factor(factor, learned.resting())[: 1 + drawn()]


@lru_cache(maxsize=16)
def _draw_factor(factor: ModelFactor, _: bool) -> Array:
    return lognormal(factor.value, normals("factor/" + factor.key, 1)[0])


_SEEN = 0.08
"""Share of the variance below which an input is not named as a cause."""


class Inputs:
    """Named samples of everything uncertain in a part, prepared for finding the causes of a spread."""

    def __init__(self, named: Sequence[tuple[str, Array]]) -> None:
        unique = dict(named)
        self.names = list(unique)
        self.drawn = drawn()
        draws = np.array(list(unique.values())).reshape(len(unique), -1 if unique else 1)[:, 1:]
        if draws.size:
            draws = draws - draws.mean(1, keepdims=True)
        size = np.linalg.norm(draws, axis=1, keepdims=True)
        self.unit: Array = draws / np.where(size > 0, size, 1.0)
        self.alike: Array = self.unit @ self.unit.T

    def first(self, count: int) -> Inputs:
        """The same inputs with the first so many of their samples, the typical value counted."""
        if count > self.drawn:
            return self
        kept = copy(self)
        kept.drawn = count - 1
        draws = self.unit[:, : count - 1]
        if draws.size:
            draws = draws - draws.mean(1, keepdims=True)
        size = np.linalg.norm(draws, axis=1, keepdims=True)
        kept.unit = draws / np.where(size > 0, size, 1.0)
        kept.alike = kept.unit @ kept.unit.T
        return kept

    def causes(self, samples: Array) -> tuple[str, ...]:
        """The one or two inputs with the largest squared correlation to `samples` (drawn(),), if above 8 %."""
        spread = samples - samples.mean()
        norm = float(np.linalg.norm(spread))
        if norm <= 1e-12 * float(np.abs(samples).max() + 1e-300) or not self.names:
            return ()
        shares = self.unit @ (spread / norm)
        first = int(np.argmax(np.abs(shares)))
        share = float(shares[first])
        if share**2 < _SEEN:
            return ()
        # the second cause must explain what the first leaves, so that properties drawn together are not both blamed
        lead = self.alike[first]
        size = np.sqrt(np.maximum(1 - lead**2, 0))
        more = np.where(size > 0.3, (shares - share * lead) / np.maximum(size, 0.3), 0.0) ** 2
        second = int(np.argmax(more))
        return (self.names[first],) if more[second] < _SEEN else (self.names[first], self.names[second])


def _tails(ordered: Array) -> tuple[Array, Array]:
    """5 and 95 % points along the first axis of sorted samples (linear between order statistics, as
    `numpy.percentile`, but quick; between two that are infinite lies infinity)."""
    last = len(ordered) - 1
    places = ((int(at), at - int(at)) for at in (share * last for share in (0.05, 0.95)))
    low, high = (_between(ordered[k], ordered[min(k + 1, last)], part) for k, part in places)
    return low, high


def _between(a: Array, b: Array, part: float) -> Array:
    with np.errstate(invalid="ignore"):
        return np.where(a == b, a, a + part * (b - a))


def band(values: Array, inputs: Inputs) -> Band:
    """The band of a figure from its samples `values` (1 + drawn(),), index 0 the typical value; without samples it has
    no width."""
    typ, seen = float(values[0]), values[1:]
    if not len(seen):
        return Band(typ=typ, low=typ, high=typ)
    low, high = (float(v) for v in _tails(np.sort(seen)))
    return Band(typ=typ, low=min(low, typ), high=max(high, typ), causes=inputs.causes(seen))


def limits(values: Array) -> Array:
    """5 and 95 % points (2, …) of samples (drawn(), …) along the first axis."""
    return np.stack(_tails(np.sort(values, axis=0)))
