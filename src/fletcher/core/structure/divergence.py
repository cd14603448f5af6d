r"""A swept part in the air: bend and twist that change the lift, and the speed at which they run away.

With s along the part, sweep Λ (aft positive), chord c and the lift's arm e square to it, and Q = q c a₀ cos²Λ:

.. math:: (EI w'')'' = p_0 + Q(\theta - w'\tan\Lambda),\qquad (GJ\theta')' = -e\,[p_0 + Q(\theta - w'\tan\Lambda)]

held at the root (Bisplinghoff, Ashley & Halfman 1955, ch. 8). A part swept forward turns its nose up as it bends.
Galerkin's method over powers of s; arrays (S, n) with samples S.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from fletcher.core.common.arrays import Array, BoolArray

_BENDS = tuple(range(2, 8))
_TURNS = tuple(range(1, 7))
_POWERS = 24
"""Rounds of a power iteration: a part that runs away at all does so in one shape, far below the next."""
"""Powers of s/L that stand for w and for θ."""
_GAUSS, _WEIGHTS = np.polynomial.legendre.leggauss(16)


@dataclass(frozen=True)
class Swept:
    """A part along its own axis: places `s` (n,) mm from its root, `EI` and `GJ` (S, n) N·mm², `chord` (n,) and the
    lift's `arm` e (S, n) ahead of the shear centre, both square to the axis (mm), sweep (rad, aft positive), and the
    lift slope a₀ for flow square to it (1/rad)."""

    s: Array
    EI: Array
    GJ: Array
    chord: Array
    arm: Array
    sweep: float
    slope: float

    @classmethod
    def of(
        cls, y: Array, EI: Array, GJ: Array, chord: Array, shear_centre: Array, setback_mm: float, slope: float
    ) -> Swept:
        """A part from its stations y (n,) across the flight, chord (n,) in its direction, shear centre (S, n) aft of
        the local leading edge, and the setback of its tip: swept as the line of its shear centres runs, typical."""
        line = setback_mm * y / y[-1] + shear_centre[0]
        sweep = float(np.arctan((line[-1] - line[0]) / y[-1]))
        c = np.cos(sweep)
        return cls(y / c, EI, GJ, chord * c, (shear_centre - 0.25 * chord) * c, sweep, slope)

    @cached_property
    def _points(self) -> tuple[Array, Array]:
        length = float(self.s[-1])
        return 0.5 * length * (_GAUSS + 1), 0.5 * length * _WEIGHTS

    def _at(self, values: Array, places: Array) -> Array:
        """Values (S, n) or (n,) read at places along the part, (S or 1, m)."""
        k = np.clip(np.searchsorted(self.s, places, side="right") - 1, 0, len(self.s) - 2)
        run = np.maximum(self.s[k + 1] - self.s[k], 1e-12)
        t = np.clip((places - self.s[k]) / run, 0, 1)
        values = np.atleast_2d(values)
        return np.asarray(values[:, k] * (1 - t) + values[:, k + 1] * t)

    def _shapes(self, places: Array, order: int) -> tuple[Array, Array]:
        """The given derivative of the shapes of w and of θ at places, (shapes, m)."""
        u, length = places / self.s[-1], float(self.s[-1])

        def power(n: int) -> Array:
            factor = float(np.prod([n - i for i in range(order)])) if order else 1.0
            return np.asarray(factor * u ** max(n - order, 0) / length**order if n >= order else 0 * u)

        return np.stack([power(n) for n in _BENDS]), np.stack([power(n) for n in _TURNS])

    @cached_property
    def _systems(self) -> tuple[Array, Array]:
        """Stiffness and the air's matrix per unit of pressure q, each (S, m, m)."""
        y, weight = self._points
        w1, (w2, _) = self._shapes(y, 1)[0], self._shapes(y, 2)
        (w0, t0), t1 = self._shapes(y, 0), self._shapes(y, 1)[1]
        EI, GJ, arm = self._at(self.EI, y), self._at(self.GJ, y), self._at(self.arm, y)
        air = self._at(self.chord, y) * self.slope * np.cos(self.sweep) ** 2 * weight
        m, n = len(_BENDS), len(_TURNS)
        samples = max(len(EI), len(GJ), len(arm))
        stiff, blown = np.zeros((2, samples, m + n, m + n))
        stiff[:, :m, :m] = np.einsum("sp,ip,jp->sij", EI * weight, w2, w2)
        stiff[:, m:, m:] = np.einsum("sp,ip,jp->sij", GJ * weight, t1, t1)
        angle = np.concatenate([-w1 * np.tan(self.sweep), t0])  # what each shape adds to the local incidence
        blown[:, :m] = np.einsum("sp,ip,jp->sij", air, w0, angle)
        blown[:, m:] = np.einsum("sp,ip,jp->sij", air * arm, t0, angle)
        return stiff, blown

    def divergence(self) -> Array:
        """Pressure q (S,), MPa, at which it runs away: the least positive real eigenvalue; infinite where none is."""
        stiff, blown = self._systems
        if self.sweep == 0:  # bending does not turn it into the wind: what twists runs away by itself
            stiff, blown = (v[:, len(_BENDS) :, len(_BENDS) :] for v in (stiff, blown))
        matrix = np.asarray(np.linalg.solve(stiff, blown), float)
        most, alone = _dominant(matrix)
        if not np.all(alone):
            values = np.linalg.eigvals(matrix[~alone])
            most[~alone] = np.where(np.abs(values.imag) < 1e-6 * np.abs(values), values.real, 0.0).max(-1)
        with np.errstate(divide="ignore"):
            return np.asarray(np.where(most > 1e-12, 1 / np.maximum(most, 1e-300), np.inf))

    def answer(self, load: Array, pressure: float) -> Answer:
        """Shape under a `load` (n,) or (S, n) N/mm of lift at the quarter chord, with its own change of lift at a
        pressure q (MPa)."""
        y, weight = self._points
        w0, t0 = self._shapes(y, 0)
        lift, arm = self._at(load, y) * weight, self._at(self.arm, y)
        stiff, blown = self._systems
        both = np.broadcast_arrays(lift, lift * arm)
        right = np.concatenate([np.einsum("sp,ip->si", v, shapes) for v, shapes in zip(both, (w0, t0), strict=True)], 1)
        right = np.broadcast_to(right, (len(stiff), right.shape[1]))
        found = np.linalg.solve(stiff - pressure * blown, right[..., None])[..., 0]
        return Answer(self, pressure, found)


def _dominant(matrix: Array) -> tuple[Array, BoolArray]:
    """The largest eigenvalue in size (S,) of matrices (S, m, m) where it is real and positive, and whether it is: power
    iteration, which leaves the others to a full solution."""
    vector = np.ones(matrix.shape[:2])
    for _ in range(_POWERS):
        vector /= np.linalg.norm(vector, axis=1, keepdims=True)
        turned = (matrix @ vector[..., None])[..., 0]
        value = (turned * vector).sum(1)
        found = (value > 0) & (np.linalg.norm(turned - value[:, None] * vector, axis=1) <= 1e-9 * value)
        if np.all(found):
            break
        vector = turned
    return value, found


@dataclass(frozen=True)
class Answer:
    """How a swept part stands in the air."""

    part: Swept
    pressure: float
    amounts: Array

    def _of(self, order: int) -> tuple[Array, Array]:
        bends, turns = self.part._shapes(self.part.s, order)
        return self.amounts[:, : len(_BENDS)] @ bends, self.amounts[:, len(_BENDS) :] @ turns

    @property
    def bend(self) -> Array:
        """w (S, n), mm."""
        return self._of(0)[0]

    @property
    def twist(self) -> Array:
        """θ (S, n) about its own axis, rad."""
        return self._of(0)[1]

    @property
    def streamwise(self) -> Array:
        """Change of the incidence in the direction of flight (S, n), rad: θ cosΛ − w′ sinΛ."""
        sweep = self.part.sweep
        return np.asarray(self.twist * np.cos(sweep) - self._of(1)[0] * np.sin(sweep))

    @property
    def more_lift(self) -> Array:
        """Lift per length that the shape adds (S, n), N/mm."""
        p = self.part
        air = self.pressure * p.chord * p.slope * np.cos(p.sweep) ** 2
        return np.asarray(air * (self.twist - self._of(1)[0] * np.tan(p.sweep)))


def at_the_fuselage(bending: float, torque: float, sweep: float) -> tuple[float, float]:
    """Roll and nose-down pitch (N·mm) about the aircraft's axes from the bending moment and the torque (nose up) at the
    root of a swept part: M cosΛ + T sinΛ and M sinΛ − T cosΛ."""
    c, s = np.cos(sweep), np.sin(sweep)
    return float(bending * c + torque * s), float(bending * s - torque * c)
