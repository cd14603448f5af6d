r"""A section beyond its first change: fibres with uniaxial laws, strained together, marched in curvature.

Every fibre is elastic in tension to its yield and then hardens along a straight line, elastic in compression to its
crushing, wrinkling or buckling strain and then flat. All laws rise with strain, so the moment rises with curvature and
the one strain that leaves no axial force is unique (plane sections; Timoshenko & Gere). The march is in the strain, not
in the load: secants under a given load do not converge near the peak.

A section is strained in a given *shape* s (per unit of t): for bending in its plane s = −z and t is the curvature; a
part under a load takes the shape of its own linear answer, in which bars slip, and t is how many times that answer it
is strained. The work of the fibres over the shape, Q = Σ σ A s, is the moment for s = −z; over the linear part's own,
Q/Q_lin is the multiple of the load. Axes: (..., F) with F the fibres; (...) are samples, stations, or both.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from fletcher.core.common.arrays import Array, BoolArray, IntArray

NEVER = 1e3
"""A strain that nothing reaches."""
_MANY = 100
"""Fewer sections than this are cheaper to take along than to leave out."""
_ROUNDS = 40
"""Rounds of a root search; each is a bisection at worst."""


@dataclass(frozen=True)
class Laws:
    """Uniaxial laws of fibres, each (..., F): moduli `E_pull` and `E_push` (MPa), strain `yields` at which a pulled
    fibre leaves its elastic line and its slope `hardens` beyond (MPa), strain `gives` (> 0) at which a pressed one goes
    flat, and `left`, the strain that stays after an earlier load."""

    E_pull: Array
    E_push: Array
    yields: Array
    hardens: Array
    gives: Array
    left: Array | float = 0.0

    def answer(self, strain: Array) -> tuple[Array, Array]:
        """Stress and its slope (MPa) at strains (..., F)."""
        e = strain - self.left
        far, flat = e > self.yields, e < -self.gives
        slope = np.where(e > 0, self.E_pull, self.E_push)
        stress = slope * np.clip(e, -self.gives, self.yields)
        if np.any(far):
            stress = stress + np.where(far, self.hardens * (e - self.yields), 0.0)
            slope = np.where(far, self.hardens, slope)
        return stress, np.where(flat, 0.0, slope)

    def stress(self, strain: Array) -> Array:
        """Stress (MPa) at strains (..., F)."""
        return self.answer(strain)[0]

    def tangent(self, strain: Array) -> Array:
        """Slope of the stress (MPa) at strains (..., F)."""
        return self.answer(strain)[1]

    def unloaded(self, strain: Array, elastic_push: Array) -> Laws:
        """The laws after a load that brought fibres to `strain`: what yielded unloads along its own modulus and keeps
        the rest; a wrinkle goes flat along its own line (`elastic_push` 1), what crushed keeps its strain (0)."""
        e = strain - self.left
        pulled = np.maximum(e - self.stress(strain) / self.E_pull, 0.0)
        pushed = np.minimum(e + self.gives, 0.0) * (1 - elastic_push)
        return replace(self, left=self.left + np.where(e > self.yields, pulled, 0.0) + pushed)


@dataclass(frozen=True)
class Section:
    """Fibres of sections strained in one shape: `amount` (mm²) and `shape` (..., F), their `laws`, `follows` (..., F),
    how much of an even strain of the rest each fibre takes (less than 1 for a bar that slips), and the `lever`
    (..., F) over which they work: the shape itself if none is given."""

    amount: Array
    shape: Array
    laws: Laws
    follows: Array | float = 1.0
    lever: Array | None = None

    def stations(self, k: slice | IntArray) -> Section:
        """The sections at some of their stations, the second axis."""
        laws = Laws(*(v[:, k] for v in (self.laws.E_pull, self.laws.E_push, self.laws.yields, self.laws.hardens,
                                        self.laws.gives)))  # fmt: skip
        lever = None if self.lever is None else self.lever[:, k]
        follows = self.follows[:, k] if isinstance(self.follows, np.ndarray) else self.follows
        return Section(self.amount[:, k], self.shape[:, k], laws, follows, lever)

    def even(self, t: Array) -> Array:
        """The even strain e₀ (...) that leaves no axial force at strains t·shape + e₀; t (...)."""
        rows, lead = self._rows(np.shape(t))
        return rows.even(np.broadcast_to(t, lead).ravel()).reshape(lead)

    def _rows(self, *wide: tuple[int, ...]) -> tuple[_Rows, tuple[int, ...]]:
        """What of the sections bears, side by side, and the axes (...) that they came with, those of `wide` among
        them."""
        law = self.laws
        values = (self.amount, self.shape, self.follows, self.shape if self.lever is None else self.lever,
                  law.E_pull, law.E_push, law.yields, law.hardens, law.gives, law.left)  # fmt: skip
        whole = np.broadcast_shapes(*(np.shape(v) for v in values))
        lead = np.broadcast_shapes(whole[:-1], *wide)
        bears = np.any(np.asarray(self.amount) != 0, axis=tuple(range(np.ndim(self.amount) - 1)))
        bears = np.broadcast_to(bears, whole[-1:])
        flat = [_side_by_side(v, (*lead, whole[-1]), bears) for v in values]
        left = flat.pop() if isinstance(law.left, np.ndarray) else law.left
        return _Rows(flat[0], flat[1], flat[2], flat[3], Laws(flat[4], flat[5], flat[6], flat[7], flat[8], left)), lead

    def strain(self, t: Array, even: Array) -> Array:
        """Strains (..., F) at t with an even strain."""
        return np.asarray(t)[..., None] * self.shape + even[..., None] * self.follows

    def work(self, strain: Array) -> Array:
        """Q = Σ σ A s (...) at strains over the lever: the moment for s = −z, N·mm."""
        lever = self.shape if self.lever is None else self.lever
        return np.asarray((self.laws.stress(strain) * self.amount * lever).sum(-1))

    @property
    def elastic(self) -> Array:
        """dQ/dt (...) while nothing has changed."""
        E = np.where(self.shape > 0, self.laws.E_pull, self.laws.E_push)
        lever = self.shape if self.lever is None else self.lever
        return np.asarray((E * self.amount * self.shape * lever).sum(-1))

    def tangent(self, strain: Array) -> Array:
        """dQ/dt (...) at strains with the axial force kept at nothing: the tangent EI for s = −z."""
        stiff = self.laws.tangent(strain) * self.amount
        first = (stiff * self.shape * self.follows).sum(-1)
        total = (stiff * self.follows * self.follows).sum(-1)
        return np.asarray((stiff * self.shape**2).sum(-1) - first**2 / np.maximum(total, 1e-30))

    def keeps(self, t: Array) -> Array:
        """Share (...) of dQ/dt that is left at t: the tangent stiffness over the elastic one."""
        rows, lead = self._rows(np.shape(t))
        at = np.broadcast_to(t, lead).ravel()
        slope = rows.rising(at, *rows.path(at, np.zeros_like(at)))[1].reshape(lead)
        return np.asarray(slope / np.where(np.abs(self.elastic) > 0, self.elastic, 1.0))

    def at(self, t: Array) -> tuple[Array, Array]:
        """Q and e₀ (...) at t."""
        even = self.even(t)
        return self.work(self.strain(t, even)), even

    def reaches(self, pull: Array, push: Array, most: Array) -> tuple[Array, IntArray, Array]:
        """t (...) at which the first fibre reaches its `pull` or `push` strain (..., F), at most `most` (...), which
        fibre that is and Q there; where none does, `most` and −1.

        All laws are piecewise linear, and so is the path: Newton's steps on the most used fibre, held in a bracket."""
        rows, lead = self._rows(np.shape(most), np.shape(pull)[:-1], np.shape(push)[:-1])
        all_rows = rows
        count = self.shape.shape[-1]
        limited = [np.any(np.broadcast_to(p, np.broadcast_shapes(np.shape(p), (count,))) < NEVER,
                          axis=tuple(range(np.ndim(p) - 1))) for p in (pull, push)]  # fmt: skip
        limits = np.nonzero(limited[0] | limited[1])[0]
        high = np.broadcast_to(most, lead).ravel().astype(float)
        if not len(limits):
            return high.reshape(lead), np.full(lead, -1), rows.work(high, rows.even(high)).reshape(lead)
        kept = np.isin(np.arange(count), limits)
        shape, follows, tears, folds = (_side_by_side(v, (*lead, count), kept)
                                        for v in (self.shape, self.follows, pull, push))  # fmt: skip
        low = np.zeros_like(high)
        t = np.minimum(1 / np.maximum(np.maximum(shape / tears, -shape / folds).max(0), 1e-12), high)
        start = np.zeros_like(t)
        which = np.full(t.shape, -1)
        out = np.array([t, start]), which.copy()
        todo = np.arange(len(t))
        for n in range(_ROUNDS):
            even, rate = rows.path(t, start)
            strain = t * shape + even * follows
            used = np.maximum(strain / tears, -strain / folds)
            first = np.argmax(used, 0)
            at = first, np.arange(len(t))
            now = used[at]
            pulled = strain[at] / tears[at] >= now
            grows = (shape[at] + rate * follows[at]) / np.where(pulled, tears[at], -folds[at])
            over = now >= 1
            which = np.where(now >= 1 - 1e-7, first, which)
            high, low = np.where(over, t, high), np.where(over, low, t)
            going = ~((np.abs(now - 1) <= 1e-7) | ((high - low) <= 1e-9 * high) | (~over & (t >= high)))
            out[0][:, todo], out[1][todo] = (t, even), which
            if not np.any(going):
                break
            with np.errstate(divide="ignore", invalid="ignore"):
                guess = t + (1 - now) / grows
            within = (guess > low) & (guess < high) & (n % 8 < 7)
            beyond = (guess >= high) & (which < 0)
            guess = np.where(within, guess, np.where(beyond, high, 0.5 * (low + high)))
            guess = np.where(going, guess, t)
            start, t = even + rate * (guess - t), guess
            if _few(going):
                todo, rows = todo[going], rows.some(going)
                shape, follows, tears, folds = (v[:, going] for v in (shape, follows, tears, folds))
                start, t, high, low, which = (v[going] for v in (start, t, high, low, which))
        (t, even), which = out
        work = all_rows.work(t, even)
        which = np.where(which >= 0, limits[np.maximum(which, 0)], -1)
        return t.reshape(lead), which.reshape(lead), work.reshape(lead)

    def carries(self, work: Array, most: Array) -> Array:
        """t (...) at which Q comes to `work` (...), at most `most`: where it never does, infinite. Newton's steps on
        the tangent, held in a bracket."""
        rows, lead = self._rows(np.shape(work), np.shape(most))
        aim, high = (np.broadcast_to(v, lead).ravel().astype(float) for v in (work, most))
        low, out = np.zeros_like(high), np.full(high.shape, np.inf)
        with np.errstate(divide="ignore", invalid="ignore"):
            t = np.clip(np.nan_to_num(aim / np.broadcast_to(self.elastic, lead).ravel(), nan=0.0), low, high)
        start, proved = np.zeros_like(t), np.zeros(t.shape, bool)
        todo = np.arange(len(t))
        for n in range(_ROUNDS):
            even, rate = rows.path(t, start)
            now, slope = rows.rising(t, even, rate)
            over = now >= aim
            proved |= over
            never = ~over & (t >= high)
            high, low = np.where(over, t, high), np.where(over, low, t)
            near = np.abs(now - aim) <= 1e-9 * np.maximum(np.abs(aim), np.abs(slope * t))
            going = ~(never | near | (high - low <= 1e-10 * high))
            out[todo] = np.where(never & ~near, np.inf, t)
            if not np.any(going):
                break
            with np.errstate(divide="ignore", invalid="ignore"):
                guess = t + (aim - now) / slope
            within = (guess > low) & (guess < high) & (n % 6 < 5)
            guess = np.where(within, guess, np.where(proved, 0.5 * (low + high), high))
            guess = np.where(going, guess, t)
            start, t = even + rate * (guess - t), guess
            if _few(going):
                todo, rows = todo[going], rows.some(going)
                start, t, high, low, proved, aim = (v[going] for v in (start, t, high, low, proved, aim))
        return out.reshape(lead)


def _few(going: BoolArray) -> bool:
    """Whether so many are done that it pays to go on without them."""
    return len(going) > _MANY and 3 * int(np.count_nonzero(going)) < 2 * len(going)


def _side_by_side(values: Array | float, whole: tuple[int, ...], kept: BoolArray) -> Array:
    """Values (..., F) of the fibres kept, as (F, M) with the M sections side by side."""
    wide = np.moveaxis(np.broadcast_to(values, whole), -1, 0)[kept]
    return np.asarray(wide.reshape(len(wide), math.prod(whole[:-1])))


@dataclass(frozen=True)
class _Rows:
    """Fibres that bear, of M sections side by side: all arrays (F, M), so that sums over fibres run along
    memory."""

    amount: Array
    shape: Array
    follows: Array
    lever: Array
    laws: Laws

    def some(self, which: BoolArray) -> _Rows:
        """Those of the sections."""
        law = self.laws
        pull, push, yields, hardens, gives = (
            v[:, which] for v in (law.E_pull, law.E_push, law.yields, law.hardens, law.gives)
        )
        left = law.left[:, which] if isinstance(law.left, np.ndarray) else law.left
        return _Rows(self.amount[:, which], self.shape[:, which], self.follows[:, which], self.lever[:, which],
                     Laws(pull, push, yields, hardens, gives, left))  # fmt: skip

    @cached_property
    def _weight(self) -> Array:
        return self.amount * self.follows

    @cached_property
    def _widest(self) -> Array:
        return np.asarray(4 * np.abs(self.shape).max(0, initial=0.0))

    @cached_property
    def _small(self) -> Array:
        return np.asarray(1e-9 * (np.abs(self._weight) * np.abs(self.laws.E_pull)).sum(0))

    def even(self, t: Array, start: Array | None = None) -> Array:
        """The even strain e₀ (M,) that leaves no axial force at t (M,): Newton's steps on a rising, piecewise linear
        force, held inside a bracket."""
        high = np.abs(t) * self._widest + 1e-12
        low, small = -high, high * self._small
        base = np.zeros_like(high) if start is None else np.clip(start, low, high)
        bent = t * self.shape
        for n in range(_ROUNDS):
            stress, stiff = self.laws.answer(bent + base * self.follows)
            force = (self._weight * stress).sum(0)
            off = np.abs(force) > small
            if not np.any(off):
                break
            slope = (self._weight * self.follows * stiff).sum(0)
            low, high = np.where(force < 0, base, low), np.where(force < 0, high, base)
            with np.errstate(divide="ignore", invalid="ignore"):
                guess = base - force / slope
            inside = (guess > low) & (guess < high) & (n % 4 < 3)  # Newton's steps can swing about a kink
            base = np.where(off, np.where(inside, guess, 0.5 * (low + high)), base)
        return base

    def path(self, t: Array, start: Array) -> tuple[Array, Array]:
        """The even strain at t and its rate de₀/dt, (M,)."""
        even = self.even(t, start)
        stiff = self.laws.tangent(t * self.shape + even * self.follows) * self.amount * self.follows
        total = (stiff * self.follows).sum(0)
        return even, -(stiff * self.shape).sum(0) / np.where(np.abs(total) > 1e-30, total, 1.0)

    def work(self, t: Array, even: Array) -> Array:
        """Q (M,) at t."""
        stress = self.laws.stress(t * self.shape + even * self.follows)
        return np.asarray((stress * self.amount * self.lever).sum(0))

    def rising(self, t: Array, even: Array, rate: Array) -> tuple[Array, Array]:
        """Q (M,) at t and dQ/dt."""
        stress, slope = self.laws.answer(t * self.shape + even * self.follows)
        over = self.amount * self.lever
        return (stress * over).sum(0), (slope * over * (self.shape + rate * self.follows)).sum(0)
