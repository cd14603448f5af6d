r"""The march of `section.moment_curvature` itself, compiled: one section after another, its fibres in plain loops.

Axes: (S, n, F), samples and stations of F fibres each, with any strides. A section's ten columns are gathered into `s`
(10, F), those that bear first, so that every sum runs along memory. Every search is one of Newton's on a rising,
piecewise linear function, held in a bracket that is halved where a step leaves it (or, now and then, so that no step
swings about a kink for ever).
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar

import numpy as np
from numba import njit, types

from fletcher.core.common.arrays import Array, IntArray

NEVER = 1e3
"""A strain that nothing reaches."""
_ROUNDS = 40
"""Rounds of a search; each is a bisection at worst."""
AMOUNT, SHAPE, FOLLOWS, LEVER, PULL, PUSH, YIELDS, HARDENS, GIVES, LEFT = range(10)
"""Columns of a section: mm², strain per t, share of an even strain, lever, and the law of `moment_curvature.Laws`."""

F = TypeVar("F", bound=Callable[..., Any])


def _compiled(*signature: object) -> Callable[[F], F]:
    """Compiles a function: at once for a signature, else for what it is called with; kept from run to run."""
    return njit(*signature, cache=True, nogil=True, error_model="numpy")  # type: ignore[call-overload, no-any-return]


_GRID, _CUBE = (types.Array(types.float64, n, "A", readonly=True) for n in (2, 3))
_COLUMNS = types.UniTuple(_CUBE, 10)  # type: ignore[no-untyped-call]


@_compiled()
def _gathered(columns: tuple[Array, ...], m: int, i: int, s: Array) -> int:
    """Section i of sample m into `s`, the fibres that bear alone: how many they are."""
    count = 0
    for f in range(columns[0].shape[2]):
        if columns[0][m, i, f] != 0:
            for n in range(10):
                s[n, count] = columns[n][m, i, f]
            count += 1
    return count


@_compiled()
def _law(s: Array, f: int, strain: float) -> tuple[float, float]:
    """Stress and its slope (MPa) of fibre f at a strain."""
    e = strain - s[LEFT, f]
    if e > s[YIELDS, f]:
        slope = s[PULL, f] if e > 0 else s[PUSH, f]
        return slope * s[YIELDS, f] + s[HARDENS, f] * (e - s[YIELDS, f]), s[HARDENS, f]
    slope = s[PULL, f] if e > 0 else s[PUSH, f]
    if e < -s[GIVES, f]:
        return -slope * s[GIVES, f], 0.0
    return slope * e, slope


@_compiled()
def _even(s: Array, count: int, t: float, start: float) -> tuple[float, float]:
    """The even strain e₀ that leaves no axial force at t, and de₀/dt. `start` is a guess at it."""
    widest, size = 0.0, 0.0
    for f in range(count):
        widest = max(widest, abs(s[SHAPE, f]))
        size += abs(s[AMOUNT, f] * s[FOLLOWS, f] * s[PULL, f])
    high = 4 * abs(t) * widest + 1e-12
    low, small = -high, 1e-9 * high * size
    base = min(max(start, low), high)
    for n in range(_ROUNDS):
        force, slope, turns = 0.0, 0.0, 0.0
        for f in range(count):
            stress, stiff = _law(s, f, t * s[SHAPE, f] + base * s[FOLLOWS, f])
            weight = s[AMOUNT, f] * s[FOLLOWS, f]
            force += weight * stress
            slope += weight * s[FOLLOWS, f] * stiff
            turns += weight * s[SHAPE, f] * stiff
        if abs(force) <= small or n == _ROUNDS - 1:
            break
        if force < 0:
            low = base
        else:
            high = base
        guess = base - force / slope
        base = guess if low < guess < high and n % 4 < 3 else 0.5 * (low + high)
    return base, -turns / (slope if abs(slope) > 1e-30 else 1.0)


@_compiled()
def _work(s: Array, count: int, t: float, even: float, rate: float) -> tuple[float, float]:
    """Q at t, and dQ/dt where the even strain changes by `rate`."""
    work, rises = 0.0, 0.0
    for f in range(count):
        stress, slope = _law(s, f, t * s[SHAPE, f] + even * s[FOLLOWS, f])
        over = s[AMOUNT, f] * s[LEVER, f]
        work += stress * over
        rises += slope * over * (s[SHAPE, f] + rate * s[FOLLOWS, f])
    return work, rises


@_compiled()
def _straight(s: Array, count: int) -> float:
    """dQ/dt while nothing has changed: E by the sign of the shape."""
    rises = 0.0
    for f in range(count):
        modulus = s[PULL, f] if s[SHAPE, f] > 0 else s[PUSH, f]
        rises += modulus * s[AMOUNT, f] * s[SHAPE, f] * s[LEVER, f]
    return rises


@_compiled((_COLUMNS,))
def straight(columns: tuple[Array, ...]) -> Array:
    """dQ/dt (S, n) of each section while nothing has changed."""
    many, stations, fibres = columns[0].shape
    s, rises = np.empty((10, fibres)), np.empty((many, stations))
    for i in range(stations):
        for m in range(many):
            rises[m, i] = _straight(s, _gathered(columns, m, i, s))
    return rises


@_compiled((_COLUMNS, _GRID))
def follow(columns: tuple[Array, ...], t: Array) -> tuple[Array, Array, Array]:
    """The even strain, Q and dQ/dt (S, n) at t (S, n)."""
    many, stations, fibres = columns[0].shape
    s = np.empty((10, fibres))
    even, work, rises = np.empty((many, stations)), np.empty((many, stations)), np.empty((many, stations))
    for i in range(stations):
        for m in range(many):
            count = _gathered(columns, m, i, s)
            even[m, i], rate = _even(s, count, t[m, i], 0.0)
            work[m, i], rises[m, i] = _work(s, count, t[m, i], even[m, i], rate)
    return even, work, rises


@_compiled()
def _most_used(limits: Array, limited: int, t: float, even: float) -> tuple[int, float]:
    """The limited fibre that is used most at t, and by how much; `limits` (4, F) shape, follows, pull, push."""
    first, most = 0, -np.inf
    for f in range(limited):
        strain = t * limits[0, f] + even * limits[1, f]
        used = max(strain / limits[2, f], -strain / limits[3, f])
        if used > most:
            first, most = f, used
    return first, most


@_compiled()
def _reach(s: Array, count: int, limits: Array, limited: int, most: float) -> tuple[float, int, float]:
    """t at which the first limited fibre of a section reaches its limit, at most `most`; which, or −1; and Q there."""
    low, high, even, last = 0.0, most, 0.0, -1
    t = high
    if limited > 0:
        t = min(1 / max(_most_used(limits, limited, 1.0, 0.0)[1], 1e-12), high)
    for n in range(_ROUNDS):
        even, rate = _even(s, count, t, even)
        if limited == 0:
            break
        first, used = _most_used(limits, limited, t, even)
        if used >= 1 - 1e-7:
            last = first
        over = used >= 1
        if over:
            high = t
        else:
            low = t
        done = abs(used - 1) <= 1e-7 or high - low <= 1e-9 * high or (not over and t >= high)
        if done or n == _ROUNDS - 1:
            break
        strain = t * limits[0, first] + even * limits[1, first]
        limit = limits[2, first] if strain / limits[2, first] >= used else -limits[3, first]
        guess = t + (1 - used) / ((limits[0, first] + rate * limits[1, first]) / limit)
        if not (low < guess < high and n % 8 < 7):
            guess = high if guess >= high and last < 0 else 0.5 * (low + high)
        even, t = even + rate * (guess - t), guess
    return t, last, _work(s, count, t, even, 0.0)[0]


@_compiled((_COLUMNS, _CUBE, _CUBE, _GRID))
def reach(columns: tuple[Array, ...], pull: Array, push: Array, most: Array) -> tuple[Array, IntArray, Array]:
    """t (S, n) at which the first fibre of each section reaches its `pull` or `push` strain (S, n, F), at most `most`
    (S, n), which fibre that is and Q there; where none does, `most` and −1."""
    many, stations, fibres = columns[0].shape
    s, limits, which = np.empty((10, fibres)), np.empty((4, fibres)), np.empty(fibres, np.int64)
    found, work = np.empty((many, stations)), np.empty((many, stations))
    fibre = np.empty((many, stations), np.int64)
    for i in range(stations):
        for m in range(many):
            limited = 0
            for f in range(fibres):
                if pull[m, i, f] < NEVER or push[m, i, f] < NEVER:
                    limits[0, limited], limits[1, limited] = columns[SHAPE][m, i, f], columns[FOLLOWS][m, i, f]
                    limits[2, limited], limits[3, limited] = pull[m, i, f], push[m, i, f]
                    which[limited] = f
                    limited += 1
            count = _gathered(columns, m, i, s)
            found[m, i], last, work[m, i] = _reach(s, count, limits, limited, most[m, i])
            fibre[m, i] = which[last] if last >= 0 else -1
    return found, fibre, work


@_compiled()
def _carry(s: Array, count: int, aim: float, most: float) -> float:
    """t at which Q of a section comes to `aim`, at most `most`: where it never does, infinite."""
    low, high, even, proved = 0.0, most, 0.0, False
    rises = _straight(s, count)
    t = min(max(aim / rises, low), high) if rises != 0 else low
    for n in range(_ROUNDS):
        even, rate = _even(s, count, t, even)
        now, slope = _work(s, count, t, even, rate)
        over = now >= aim
        near = abs(now - aim) <= 1e-9 * max(abs(aim), abs(slope * t))
        if not (over or near or t < high):
            return np.inf
        if over:
            proved, high = True, t
        else:
            low = t
        if near or high - low <= 1e-10 * high or n == _ROUNDS - 1:
            break
        guess = t + (aim - now) / slope
        if not (low < guess < high and n % 6 < 5):
            guess = 0.5 * (low + high) if proved else high
        even, t = even + rate * (guess - t), guess
    return t


@_compiled((_COLUMNS, _GRID, _GRID))
def carry(columns: tuple[Array, ...], aim: Array, most: Array) -> Array:
    """t (S, n) at which Q comes to `aim` (S, n), at most `most` (S, n): where it never does, infinite."""
    many, stations, fibres = columns[0].shape
    s, found = np.empty((10, fibres)), np.empty((many, stations))
    for i in range(stations):
        for m in range(many):
            found[m, i] = _carry(s, _gathered(columns, m, i, s), aim[m, i], most[m, i])
    return found
