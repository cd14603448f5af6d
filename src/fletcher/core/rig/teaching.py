"""What tests teach of the materials of an airframe, and what a part then does.

A property of a piece is drawn as √(1 − w) of its batch and √w of its own; parts of one airframe are pieces of one
batch. Errors of a specimen and its formula, and of a kind of test, are unknowns that its tests share. What was learned
becomes a change of the draws of every part that shares a material with a test (`materials.learned`): z′ = μ + Σ^½ z.
"""

from __future__ import annotations

import hashlib
import math
import re
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from scipy.special import ndtri
from scipy.stats import qmc

from fletcher.core.common.arrays import Array
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.own_materials import named_in
from fletcher.core.materials import learned, own_rows
from fletcher.core.materials.learned import MARK, Bare
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import Band
from fletcher.core.rig.learning import Model, Posterior, Seen, learn
from fletcher.core.rig.readings import Mark, Step, fitted
from fletcher.core.rig.response import Response, Row, marked, response
from fletcher.core.rig.rig_tests import RigTest, load_of, part_and_case
from fletcher.core.rig.scatter import CREEP, KINDS, Kind, piece_share


@dataclass(frozen=True)
class Reading:
    """A test as one number: the logarithm of bend per load (mm/N), or of the load at which it broke (N), with its share
    of scatter; held or between as `Seen` has it."""

    test: RigTest
    kind: Kind
    value: float
    share: float
    how: str = "read"
    upper: float = math.inf


@dataclass(frozen=True)
class Lessons:
    """What tests taught: the posterior over batch, pieces and shared errors, which unknown is which, the odds of each
    reading to be a slip, and what could not be read, by test."""

    readings: tuple[Reading, ...]
    rows: tuple[Row, ...]
    pieces: tuple[str, ...]
    shares: Array
    found: Posterior | None
    slips: tuple[float, ...]
    refused: tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class Changed:
    """Draws of a part's materials after tests: z′ = μ + Σ^½ z over the unknowns that tests tell of."""

    rows: tuple[Row, ...]
    mean: Array
    root: Array

    def of(self, stream: str, count: int, bare: Bare) -> Array:
        """Rows of a stream, those that nothing was learned of as they are."""
        z = bare(stream, count).copy()
        mine = [(k, row) for k, (of, row) in enumerate(self.rows) if of == stream and row < count]
        if mine:
            whole = np.stack([bare(of, row + 1)[row] for of, row in self.rows])
            changed = self.mean[:, None] + self.root @ whole
            for k, row in mine:
                z[row] = changed[k]
        return z


def read(airframe: Airframe, test: RigTest) -> list[Reading]:
    """A test as numbers: its bend, and its break.

    Raises
    ------
    ValueError
        Where its readings make no line.
    """
    out = []
    if test.readings:
        part = airframe.part(test.part_id)
        rate = CREEP["foam"] if part is not None and part.foam is not None else CREEP["sheet"]
        ordered = sorted(test.readings, key=lambda r: r.at_s)
        steps = [Step(r.load_N, max(r.at_s - 10.0, 0.0)) for r in ordered]
        fit = fitted(steps, [Mark(r.bend_mm, r.at_s) for r in ordered], rate, test.instrument)
        out.append(Reading(test, "bend", math.log(fit.compliance), fit.share))
    if test.broke_N is not None:
        low = test.held_N if test.held_N is not None else 0.5 * test.broke_N
        out.append(Reading(test, "break", math.log(low), 0.0, "between", math.log(test.broke_N)))
    elif test.held_N is not None:
        out.append(Reading(test, "break", math.log(test.held_N), 0.0, "held"))
    return out


def family_of(stream: str) -> str:
    """Family of the material that a stream is of; empty where no table has it."""
    c = reference()
    for key in re.split(r"[/@+]", stream.partition("/")[2]):
        for table in (c.foams, c.bars, c.skins, c.sheets, c.cloths):
            if own_rows.like(key) in table:
                return str(table[own_rows.like(key)].family)
    return ""


def lessons(airframe: Airframe, tests: Sequence[RigTest]) -> Lessons:
    """What tests teach, in whichever order they come; one whose part or case is gone teaches nothing."""
    return _lessons(airframe, tuple(sorted(tests, key=lambda t: t.id)))


@lru_cache(maxsize=32)
def _lessons(airframe: Airframe, tests: tuple[RigTest, ...]) -> Lessons:
    readings, refused = [], []
    for t in tests:
        if t.answer == "slip" or part_and_case(airframe, t) is None:
            continue
        try:
            readings += read(airframe, t)
        except ValueError as error:
            refused.append((t.id, str(error)))
    told = [(r, _response(airframe, r)) for r in readings]
    rows = tuple(sorted({row for _, f in told for row in f.rows}))
    pieces = tuple(dict.fromkeys(r.test.part_id for r in readings))
    shares = np.array([piece_share(stream, row, family_of(stream)) for stream, row in rows])
    if not readings or not rows:
        return Lessons(tuple(readings), rows, pieces, shares, None, (), tuple(refused))
    errors = list(dict.fromkeys(e for r, _ in told for e in _errors(airframe, r)))
    size = len(rows) * (1 + len(pieces)) + len(errors)
    seen = []
    for r, f in told:
        columns = _columns(rows, pieces, shares, r.test.part_id, f)
        ours = [(len(rows) * (1 + len(pieces)) + errors.index(e), e[2]) for e in _errors(airframe, r)]
        spread = math.hypot(r.share, KINDS[r.kind].set_up)
        seen.append(Seen(_model(f, columns, ours), r.value, spread, r.how, r.upper, r.test.answer == "real"))  # type: ignore[arg-type]
    found = learn(size, seen)
    return Lessons(tuple(readings), rows, pieces, shares, found, found.slips, tuple(refused))


def _response(airframe: Airframe, r: Reading) -> Response:
    """Of bend per load, or of the load at which it breaks."""
    found = part_and_case(airframe, r.test)
    assert found is not None
    part, case = found
    f = response(airframe, part, case, r.kind)
    load = math.log(load_of(case))
    return Response(f.at_rest + (load if r.kind == "break" else -load), f.rows, f.slope, f.bow)


def _errors(airframe: Airframe, r: Reading) -> list[tuple[str, str, float]]:
    """The errors that a reading shares with others: of its specimen, and of its kind on this foam."""
    part = airframe.part(r.test.part_id)
    made = part.foam or part.kind if part is not None else ""
    return [(r.kind, r.test.part_id, KINDS[r.kind].specimen), (r.kind, f"kind {made}", KINDS[r.kind].kind)]


def _columns(rows: tuple[Row, ...], pieces: tuple[str, ...], shares: Array, piece: str, f: Response) -> Array:
    """How the unknowns of a response come from those of batch and piece, (2 columns and shares for each row)."""
    at = len(rows) * (1 + pieces.index(piece))
    return np.array([(rows.index(row), at + rows.index(row), shares[rows.index(row)]) for row in f.rows])


def _model(f: Response, columns: Array, errors: list[tuple[int, float]]) -> Model:
    batch, own, w = columns[:, 0].astype(int), columns[:, 1].astype(int), columns[:, 2]

    def at(z: Array) -> Array:
        out = f.of(np.sqrt(1 - w) * z[:, batch] + np.sqrt(w) * z[:, own])
        for column, sd in errors:
            out = out + sd * z[:, column]
        return out

    return at


def taught(airframe: Airframe, tests: Sequence[RigTest], part: Part) -> Part:
    """A part as tests have taught it; the same part where it shares no material with any."""
    known = lessons(airframe, tests)
    if known.found is None:
        return part
    return marked(part, _mark(known, part.id), _materials(known))


def batches(airframe: Airframe, tests: Sequence[RigTest], part: Part) -> dict[str, str]:
    """Keys of the materials of a part that tests tell of, each with the key that it answers to as they taught it."""
    known = lessons(airframe, tests)
    if known.found is None:
        return {}
    marked(part, _mark(known, part.id), _materials(known))
    mine = named_in(part.model_dump(mode="json")) & _materials(known)
    return {key: f"{key}{MARK}{_mark(known, part.id)}" for key in sorted(mine)}


def _materials(known: Lessons) -> set[str]:
    """Keys of the materials that streams are of: a sheet's and a laminate's stand within a longer name."""
    return {word for stream, _ in known.rows for word in re.split(r"[/@+]", stream.partition("/")[2]) if word}


def _mark(known: Lessons, piece: str) -> str:
    """The mark of a piece as it was taught."""
    mean, cover = _of_piece(known, piece)
    values, vectors = np.linalg.eigh(cover)
    root = (vectors * np.sqrt(np.maximum(values, 0.0))) @ vectors.T
    told = f"{piece} {mean.tobytes().hex()} {root.tobytes().hex()} {known.rows}"
    mark = hashlib.sha256(told.encode()).hexdigest()[:16]
    learned.put(mark, Changed(known.rows, mean, root))
    return mark


def _of_piece(known: Lessons, piece: str) -> tuple[Array, Array]:
    """Mean and covariance of the unknowns of a piece: one that was tested as it is, another one as its batch."""
    assert known.found is not None
    n, w = len(known.rows), known.shares
    batch = known.found.points[:, :n] * np.sqrt(1 - w)
    if piece in known.pieces:
        at = n * (1 + known.pieces.index(piece))
        batch = batch + known.found.points[:, at : at + n] * np.sqrt(w)
        more = np.zeros((n, n))
    else:
        more = np.diag(w)
    mean = known.found.weights @ batch
    off = batch - mean
    return np.asarray(mean), (known.found.weights[:, None] * off).T @ off + more


def predicted(airframe: Airframe, r: Reading) -> Band:
    """What the tables alone expect of a reading, with what a test of its kind may be off."""
    f = _response(airframe, r)
    z = ndtri(qmc.Sobol(len(f.rows) + 1, scramble=True, seed=2).random(1024).clip(1e-9, 1 - 1e-9))
    shares = KINDS[r.kind]
    off = math.hypot(math.hypot(shares.set_up, shares.specimen), math.hypot(shares.kind, r.share))
    logs = f.of(z[:, :-1]) + off * z[:, -1]
    low, high = (float(v) for v in np.percentile(logs, [5, 95]))
    return Band(low=math.exp(low), typ=math.exp(f.at_rest), high=math.exp(high))
