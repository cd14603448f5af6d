"""The blind trial: builders with true values that the rig does not know test what it proposes and let it learn.

Every builder's materials, pieces, errors of formula and of tests are drawn from the ranges and shares that the rig
assumes; it sees readings alone. Told is how often the true bend and break load of the part lie inside the bands, before
and after three tests, and by how much the bands have narrowed. In the arm with slips every tenth reading is off by a
factor of up to twenty.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cache
from typing import Literal, get_args

import numpy as np
from scipy.special import ndtri
from scipy.stats import qmc

from fletcher.core.common.arrays import Array
from fletcher.core.document.airframe import Airframe, BarLayer, FilmLayer, Layer, Part, WallLayer
from fletcher.core.document.cases import ThreePointCase
from fletcher.core.document.shapes import RectangleSection
from fletcher.core.rig.learning import Seen, learn
from fletcher.core.rig.next_test import Candidate, greedy
from fletcher.core.rig.response import Response, Row, response
from fletcher.core.rig.scatter import KINDS, Kind, piece_share
from fletcher.core.rig.teaching import family_of

TESTS = 3
BREAK_MODEL = 0.07
"""[J] Error of the break load of a construction, as a logarithm; a scrap built like the part shares it."""
READING = 0.02
"""[J] Share of scatter of a bend that is read with care."""
SLIPS = 0.1
MOST = 20.0
"""A slip is off by no more than this."""
PRIOR_POINTS = 2048
SCRAP_MM = 430.0
"""A scrap is nearly as long as the part: a short one would break in another way."""
STRONG = 0.03
"""[J] Unknowns that change everything by less than this, as a logarithm, are left out of the trial."""

Arm = Literal["as assumed", "slips", "noise"]
ARMS: tuple[Arm, ...] = get_args(Arm)
Name = Literal["taped plank", "bare plank", "sandwich", "rod pair"]
_LAYERS: dict[Name, tuple[Layer, ...]] = {
    "taped plank": (FilmLayer(id="skin", skin="filament_tape_bi", face="both"),),
    "bare plank": (),
    "sandwich": (WallLayer(id="skin", sheet="balsa_light_1.5", face="both"),),
    "rod pair": (BarLayer(id="rods", stock="carbon_rod_2", place="pair", root_percent=50, tip_percent=50),),
}
PARTS: tuple[Name, ...] = tuple(_LAYERS)


def plank(name: Name, long: float = 480.0, layers: bool = True) -> tuple[Airframe, Part, ThreePointCase]:
    """A plank of foam, bare or as it is built, on two pegs."""
    case = ThreePointCase(id="test", name="On two pegs", first_support_mm=10, second_support_mm=long - 10, weight_g=500)
    part = Part(
        id="plank", name=name, kind="plank", span_mm=long, root_chord_mm=120, tip_chord_mm=120, root_thickness_mm=20,
        tip_thickness_mm=20, section=RectangleSection(), foam="xps_30", layers=_LAYERS[name] if layers else (),
        cases=(case,),
    )  # fmt: skip
    return Airframe(name=name, all_up_mass_g=500, top_speed_m_s=10, parts=(part,)), part, case


@dataclass(frozen=True)
class BenchTest:
    """A test that the rig may propose: on which piece ("part" or a fresh scrap), what it reads, and how long it
    takes."""

    name: str
    fresh: bool
    reads: tuple[tuple[Kind, Response], ...]
    minutes: float
    like: bool
    """The part itself, or a scrap that is built like it."""


@dataclass(frozen=True)
class Bench:
    """A part of the trial: its unknowns with the shares of a piece, what one wants to know, what can be tested."""

    rows: tuple[Row, ...]
    shares: Array
    headlines: tuple[Response, Response]
    tests: tuple[BenchTest, ...]
    plan: tuple[BenchTest, ...]


@cache
def bench(name: Name) -> Bench:
    """A part with its tests, and the three that are planned before anything is read."""
    kinds: tuple[Kind, Kind] = ("bend", "break")
    part = {k: response(*plank(name), k) for k in kinds}
    like = {k: response(*plank(name, SCRAP_MM), k) for k in kinds}
    bare = {k: response(*plank(name, SCRAP_MM, layers=False), k) for k in kinds}
    tests = [
        BenchTest("bend the part", False, (("bend", part["bend"]),), 10, True),
        BenchTest("break a scrap built like it", True, tuple(like.items()), 30, True),
    ]
    if _LAYERS[name]:
        tests.append(BenchTest("break a bare scrap", True, tuple(bare.items()), 15, False))
    asked = [part["bend"], part["break"], *(f for t in tests for _, f in t.reads)]
    rows = tuple(sorted({r for f in asked for r, s in zip(f.rows, f.slope, strict=True) if abs(s) > STRONG}))
    shares = np.array([piece_share(stream, row, family_of(stream)) for stream, row in rows])
    made = Bench(rows, shares, (part["bend"], part["break"]), tuple(tests), ())
    return Bench(made.rows, made.shares, made.headlines, made.tests, _plan(made))


def _slope(f: Response, rows: tuple[Row, ...]) -> Array:
    return np.array([f.slope[f.rows.index(row)] if row in f.rows else 0.0 for row in rows])


def _bow(f: Response, rows: tuple[Row, ...]) -> Array:
    return np.array([f.bow[f.rows.index(row)] if row in f.rows else 0.0 for row in rows])


def _own(b: Bench, reads: Sequence[tuple[Kind, Response]]) -> Array:
    """How what a piece has of its own moves each of its readings: the root of their covariance."""
    slopes = np.array([_slope(f, b.rows) * np.sqrt(b.shares) for _, f in reads])
    return np.asarray(np.linalg.cholesky(slopes @ slopes.T + 1e-12 * np.eye(len(reads))))


def _plan(b: Bench) -> tuple[BenchTest, ...]:
    """Unknowns of the plan: rows of the batch, rows of the part, its errors of bend and break."""
    n = len(b.rows)
    batch, own = np.sqrt(1 - b.shares), np.sqrt(b.shares)
    shared = {"bend": KINDS["bend"].specimen, "break": BREAK_MODEL}

    def row(f: Response, kind: Kind, on_part: bool, like: bool) -> Array:
        s = _slope(f, b.rows)
        error = [shared[k] * (k == kind and (like if kind == "break" else on_part)) for k in ("bend", "break")]
        return np.concatenate([s * batch, s * own * on_part, error])

    kinds: tuple[Kind, Kind] = ("bend", "break")
    headlines = np.array([row(f, k, True, True) for f, k in zip(b.headlines, kinds, strict=True)])
    candidates = []
    for t in b.tests:
        rows = np.array([row(f, k, not t.fresh, t.like) for k, f in t.reads])
        own_rows = np.array([_slope(f, b.rows) * own * t.fresh for _, f in t.reads])
        noise = own_rows @ own_rows.T + np.diag([_spread(k) ** 2 for k, _ in t.reads])
        candidates.append(Candidate(t.name, rows, noise, t.minutes))
    found = greedy(np.eye(2 * n + 2), headlines, candidates, TESTS)
    return tuple(next(t for t in b.tests if t.name == w.candidate.name) for w in found)


def _spread(kind: Kind) -> float:
    """What a reading is off by itself and with its kind; of a break its own specimen as well."""
    s = KINDS[kind]
    return math.hypot(math.hypot(s.set_up, READING if kind == "bend" else s.specimen), s.kind)


@dataclass(frozen=True)
class Trial:
    """Of bend and of break load: how often the true value lay inside before and after, and what is left of the width
    of the bands (median over builders)."""

    part: Name
    plan: tuple[str, ...]
    builders: int
    inside_before: tuple[float, float]
    inside_after: tuple[float, float]
    narrowing: tuple[float, float]
    lean: tuple[float, float]
    """χ² of ten bins of where the true values lie in the bands, after."""


def trial(name: Name, builders: int, arm: Arm = "as assumed", seed: int = 1) -> Trial:
    """So many builders of a part."""
    b = bench(name)
    made = [_builder(b, np.random.default_rng((seed, n)), arm) for n in range(builders)]
    before, after, left, place = (np.array([m[k] for m in made]) for k in range(4))
    counts = [np.bincount(np.minimum((place[:, h] * 10).astype(int), 9), minlength=10) for h in (0, 1)]
    lean = tuple(float(((c - builders / 10) ** 2 / (builders / 10)).sum()) for c in counts)
    return Trial(
        name, tuple(t.name for t in b.plan), builders, _pair(before.mean(0)), _pair(after.mean(0)),
        _pair(np.median(left, 0)), (lean[0], lean[1]),
    )  # fmt: skip


def _pair(values: Array) -> tuple[float, float]:
    return float(values[0]), float(values[1])


def _builder(b: Bench, rng: np.random.Generator, arm: Arm) -> tuple[Array, Array, Array, Array]:
    """Inside before and after, what is left of the widths, and where in the posterior the true values lie.

    Unknowns: of the batch one for every row; of the part's own piece two, of every scrap as many as it is read for; the
    part's errors of bend and break; the error of each kind of test.
    """
    n = len(b.rows)
    kinds: tuple[Kind, Kind] = ("bend", "break")
    part, errors, of_kind, size = n, n + 2, n + 4, n + 6
    sd = {"bend": KINDS["bend"].specimen, "break": BREAK_MODEL}
    own = _own(b, list(zip(kinds, b.headlines, strict=True)))
    models: list[tuple[Kind, Callable[[Array], Array]]] = []
    for t in b.plan:
        piece = _own(b, t.reads) if t.fresh else own
        first = size if t.fresh else part
        for k, (kind, f) in enumerate(t.reads):
            at = kinds.index(kind)
            terms = [(first + c, float(piece[k if t.fresh else at, c])) for c in range(len(piece))]
            shared = t.like if kind == "break" else not t.fresh
            terms += [(errors + at, sd[kind])] if shared else []
            models.append((kind, _model(b, f, [*terms, (of_kind + at, KINDS[kind].kind)])))
        size += len(t.reads) if t.fresh else 0
    truth = rng.standard_normal((1, size))
    tests = []
    for kind, model in models:
        off = math.hypot(KINDS[kind].set_up, READING if kind == "bend" else KINDS["break"].specimen)
        value = float(model(truth)[0]) + off * (1.5 if arm == "noise" else 1.0) * float(rng.standard_normal())
        if arm == "slips" and rng.random() < SLIPS:
            value += float(rng.uniform(-math.log(MOST), math.log(MOST)))
        tests.append(Seen(model, value, off))
    found = learn(size, tests)
    prior = ndtri(np.clip(qmc.Sobol(size, scramble=True, seed=3).random(PRIOR_POINTS), 1e-9, 1 - 1e-9))
    before, after, left, place = np.zeros(2), np.zeros(2), np.zeros(2), np.zeros(2)
    for k, (kind, f) in enumerate(zip(kinds, b.headlines, strict=True)):
        head = _model(b, f, [*((part + c, float(own[k, c])) for c in range(2)), (errors + k, sd[kind])])
        true, values = float(head(truth)[0]), head(found.points)
        low, high = (float(v) for v in np.percentile(head(prior), [5, 95]))
        a, _, c = found.quantiles(values)
        before[k], after[k], left[k] = low <= true <= high, a <= true <= c, (c - a) / (high - low)
        place[k] = float(found.weights[values <= true].sum())
    return before, after, left, place


def _model(b: Bench, f: Response, terms: Sequence[tuple[int, float]]) -> Callable[[Array], Array]:
    """The logarithm of what is read at unknowns (n, d): the batch by its parabolas, the rest in proportion."""
    batch = np.sqrt(1 - b.shares)
    slope, bow, n = _slope(f, b.rows) * batch, _bow(f, b.rows) * (1 - b.shares), len(b.rows)
    columns, by = [c for c, _ in terms], np.array([v for _, v in terms])

    def at(z: Array) -> Array:
        return np.asarray(f.at_rest + z[:, :n] @ slope + (z[:, :n] ** 2) @ bow + z[:, columns] @ by)

    return at
