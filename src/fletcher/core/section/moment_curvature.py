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

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from fletcher.core.common.arrays import Array, IntArray
from fletcher.core.section import march
from fletcher.core.section.march import NEVER as NEVER


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

    def stations(self, k: IntArray) -> Section:
        """The sections at some of their stations, the second axis."""
        law = self.laws
        laws = Laws(*(at_stations(v, k) for v in (law.E_pull, law.E_push, law.yields, law.hardens, law.gives)))
        lever = None if self.lever is None else at_stations(self.lever, k)
        follows = at_stations(self.follows, k) if isinstance(self.follows, np.ndarray) else self.follows
        return Section(at_stations(self.amount, k), at_stations(self.shape, k), laws, follows, lever)

    @cached_property
    def _own(self) -> tuple[tuple[Array, ...], tuple[int, ...]]:
        """The columns that `section.march` reads, and the axes (...) that the sections came with."""
        return self._laid(())

    def _laid(self, wide: tuple[int, ...]) -> tuple[tuple[Array, ...], tuple[int, ...]]:
        law = self.laws
        values = (self.amount, self.shape, self.follows, self.shape if self.lever is None else self.lever,
                  law.E_pull, law.E_push, law.yields, law.hardens, law.gives, law.left)  # fmt: skip
        whole = np.broadcast_shapes(*{np.shape(v) for v in values})
        lead = np.broadcast_shapes(whole[:-1], wide) if wide else whole[:-1]
        return tuple(_cube(v, (*lead, whole[-1])) for v in values), lead

    def _columns(self, *wide: tuple[int, ...]) -> tuple[tuple[Array, ...], tuple[int, ...]]:
        """`_own`, with the axes of `wide` among those of the sections."""
        lead = self._own[1]
        more = {w for w in wide if w != lead}
        if not more or np.broadcast_shapes(lead, *more) == lead:
            return self._own
        return self._laid(np.broadcast_shapes(*more))

    def strain(self, t: Array, even: Array) -> Array:
        """Strains (..., F) at t with an even strain."""
        return np.asarray(t)[..., None] * self.shape + even[..., None] * self.follows

    @property
    def elastic(self) -> Array:
        """dQ/dt (...) while nothing has changed."""
        columns, lead = self._columns()
        return march.straight(columns).reshape(lead)

    def tangent(self, strain: Array) -> Array:
        """dQ/dt (...) at strains with the axial force kept at nothing: the tangent EI for s = −z."""
        stiff = self.laws.tangent(strain) * self.amount
        first = (stiff * self.shape * self.follows).sum(-1)
        total = (stiff * self.follows * self.follows).sum(-1)
        return np.asarray((stiff * self.shape**2).sum(-1) - first**2 / np.maximum(total, 1e-30))

    def keeps(self, t: Array) -> Array:
        """Share (...) of dQ/dt that is left at t: the tangent stiffness over the elastic one."""
        slope, elastic = self._followed(t)[2], self.elastic
        return np.asarray(slope / np.where(np.abs(elastic) > 0, elastic, 1.0))

    def at(self, t: Array) -> tuple[Array, Array]:
        """Q and e₀ (...) at t: e₀ is the even strain that leaves no axial force at strains t·shape + e₀."""
        even, work, _ = self._followed(t)
        return work, even

    def _followed(self, t: Array) -> tuple[Array, ...]:
        columns, lead = self._columns(np.shape(t))
        return tuple(v.reshape(lead) for v in march.follow(columns, _grid(t, lead)))

    def reaches(self, pull: Array, push: Array, most: Array) -> tuple[Array, IntArray, Array]:
        """t (...) at which the first fibre reaches its `pull` or `push` strain (..., F), at most `most` (...), which
        fibre that is and Q there; where none does, `most` and −1."""
        columns, lead = self._columns(np.shape(most), np.shape(pull)[:-1], np.shape(push)[:-1])
        pulled, pushed = (_cube(v, (*lead, columns[0].shape[-1])) for v in (pull, push))
        t, which, work = march.reach(columns, pulled, pushed, _grid(most, lead))
        return t.reshape(lead), which.reshape(lead), work.reshape(lead)

    def carries(self, work: Array, most: Array) -> Array:
        """t (...) at which Q comes to `work` (...), at most `most`: where it never does, infinite."""
        columns, lead = self._columns(np.shape(work), np.shape(most))
        return np.asarray(march.carry(columns, _grid(work, lead), _grid(most, lead)).reshape(lead))


def at_stations(values: Array, k: IntArray) -> Array:
    """Values (S, n, F) at some stations, each in one piece of memory if they came so."""
    return np.transpose(np.transpose(values, (1, 2, 0))[k], (2, 0, 1))


def _cube(values: Array | float, whole: tuple[int, ...]) -> Array:
    """Values (..., F) over samples and stations: two axes before the fibres."""
    wide = np.asarray(values, float)
    wide = wide if wide.shape == whole else np.broadcast_to(wide, whole)
    return (
        wide if len(whole) == 3 else wide.reshape(-1, *whole[-2:]) if len(whole) > 3 else wide.reshape(1, -1, whole[-1])
    )


def _grid(values: Array, lead: tuple[int, ...]) -> Array:
    """Values (...) as samples and stations."""
    wide = np.asarray(values, float)
    wide = wide if wide.shape == lead else np.broadcast_to(wide, lead)
    return wide if len(lead) == 2 else wide.reshape(-1, lead[-1]) if len(lead) > 2 else wide.reshape(1, -1)
