"""Outlines of a cross-section: where the upper and lower face lie at a chordwise fraction.

An outline is a family: camber scales with the chord, the thickness form with the thickness, so one object
describes every station of a tapered part.
"""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np

from fletcher.core.common.arrays import Array

_GAUSS_NODES, _GAUSS_WEIGHTS = np.polynomial.legendre.leggauss(40)
_THETA = 0.5 * np.pi * (_GAUSS_NODES + 1)

COLUMN_X: Array = 0.5 * (1 - np.cos(_THETA))
"""Chord fractions of the integration columns, shape (40,): Gauss points in θ with x = (1 − cos θ)/2, so that the
square-root nose of an aerofoil becomes smooth and the sums converge spectrally."""

COLUMN_WEIGHT: Array = 0.5 * np.sin(_THETA) * 0.5 * np.pi * _GAUSS_WEIGHTS
"""Their weights, shape (40,); they add up to 1."""


@dataclass(frozen=True)
class Rectangle:
    """A flat plate: half thickness ±t/2 all along the chord, no camber."""

    def camber(self, x: Array) -> Array:
        """Camber line over chord at chord fraction x."""
        return np.zeros_like(x)

    def half_thickness(self, x: Array) -> Array:
        """Half thickness over the largest thickness at chord fraction x."""
        return np.full_like(x, 0.5)


@dataclass(frozen=True)
class FourDigit:
    """The classic four-digit family: a parabolic camber line in two pieces and one thickness form.

    Source: the published thickness polynomial of the family (Abbott & von Doenhoff 1959, eq. 6.2) with its open
    trailing edge, which a foam part has anyway. Thickness is laid off vertically, not square to the camber line:
    for the few per cent of camber that such wings have this moves the faces by less than 0.1 % of the chord.
    """

    camber_ratio: float
    camber_position: float

    def camber(self, x: Array) -> Array:
        """Camber line over chord at chord fraction x."""
        m, p = self.camber_ratio, self.camber_position
        front = m / p**2 * (2 * p * x - x**2)
        rear = m / (1 - p) ** 2 * ((1 - 2 * p) + 2 * p * x - x**2)
        return np.where(x < p, front, rear)

    def half_thickness(self, x: Array) -> Array:
        """Half thickness over the largest thickness at chord fraction x."""
        x = np.clip(x, 0, 1)
        return 5 * (0.2969 * np.sqrt(x) - 0.1260 * x - 0.3516 * x**2 + 0.2843 * x**3 - 0.1015 * x**4)


@dataclass(frozen=True)
class Ellipse:
    """An ellipse with the chord and the thickness as its axes."""

    def camber(self, x: Array) -> Array:
        """Camber line over chord at chord fraction x."""
        return np.zeros_like(x)

    def half_thickness(self, x: Array) -> Array:
        """Half thickness over the largest thickness at chord fraction x."""
        return np.asarray(np.sqrt(np.clip(x * (1 - x), 0, None)))


LEAST_TAIL = 0.002
"""Thickness over chord below which no foam edge can be cut; it grows to this from nothing at the nose."""


@dataclass(frozen=True)
class Points:
    """An outline through points of its two faces, each (x, z) over the chord from nose to trailing edge.

    Between points the faces run straight over θ, x = (1 − cos θ)/2, which keeps a round nose round. The thickness
    form is scaled to the part's thickness, the camber line goes with the chord.
    """

    upper: tuple[tuple[float, ...], ...]
    lower: tuple[tuple[float, ...], ...]

    def __hash__(self) -> int:
        return self._hash

    @cached_property
    def _hash(self) -> int:
        return hash((self.upper, self.lower))

    @cached_property
    def _faces(self) -> tuple[tuple[Array, Array], tuple[Array, Array]]:
        """θ and z of the points of both faces."""
        upper, lower = (np.array(points, float) for points in (self.upper, self.lower))
        return (_theta(upper[:, 0]), upper[:, 1]), (_theta(lower[:, 0]), lower[:, 1])

    def _at(self, x: Array) -> tuple[Array, Array]:
        theta = _theta(x)
        upper, lower = (np.interp(theta, *face) for face in self._faces)
        return upper, lower

    def camber(self, x: Array) -> Array:
        """Camber line over chord at chord fraction x."""
        upper, lower = self._at(x)
        return np.asarray(0.5 * (upper + lower))

    def _gap(self, x: Array) -> Array:
        upper, lower = self._at(x)
        return np.asarray(np.maximum(upper - lower, LEAST_TAIL * np.clip(x, 0, 1)))

    @cached_property
    def thickness_ratio(self) -> float:
        """Largest thickness over chord of the points themselves."""
        return float(np.max(self._gap(0.5 * (1 - np.cos(np.linspace(0, np.pi, 201))))))

    def half_thickness(self, x: Array) -> Array:
        """Half thickness over the largest thickness at chord fraction x."""
        return np.asarray(0.5 * self._gap(x) / self.thickness_ratio)


def _theta(x: Array) -> Array:
    return np.asarray(np.arccos(1 - 2 * np.clip(x, 0, 1)))


@dataclass(frozen=True)
class Folded:
    """A board folded over a spar: flat below, a nose of radius r, a facet (or several, at creases) up to the spar,
    level over it, straight down to the tail. `board_mm` its thickness, `tail_bevel_mm` over which the tail is thinned
    inside; `ratio` the thickness over chord at which camber is told."""

    board_mm: float
    front: float
    rear: float
    nose: str
    nose_mm: float
    nose_creases: int
    creases: tuple[float, ...]
    rise: float
    tail_bevel_mm: float
    ratio: float

    def nose_shape(self, chord: Array, thickness: Array) -> tuple[Array, Array]:
        """Radius r of the nose (mm) and the angle α (rad) of the facet behind it, each of the broadcast shape.

        The paper turns by π − α. A foam-free strip of width w bends to r = w/(π − α); paired bevels with a land w
        between them make two folds, r = w/(2 tan (π − α)/4); n creases over w make a polygon about
        r = w/(2 (n − 1) tan (π − α)/2n). The facet touches the nose's circle and ends at the spar's edge; both are
        found by iteration. No nose is rounder than 0.45 of the depth.
        """
        xf, T = self.front * chord, thickness
        alpha = np.arctan2(T, xf)
        for _ in range(12):
            turn = np.pi - alpha
            if self.nose == "strip":
                r = self.nose_mm / turn
            elif self.nose == "bevels":
                r = self.nose_mm / (2 * np.tan(turn / 4))
            else:
                r = self.nose_mm / (2 * (self.nose_creases - 1) * np.tan(turn / (2 * self.nose_creases)))
            r = np.minimum(r, np.minimum(0.45 * T, 0.45 * xf))
            alpha = np.arctan2(T - r - r * np.cos(alpha), np.maximum(xf - r + r * np.sin(alpha), 1e-6))
        return np.asarray(r), np.asarray(alpha)

    def tail_mm(self, chord: Array, thickness: Array) -> Array:
        """Thickness of the tail: both boards, less the wedge that the bevel takes from inside; at least 0.4 of one."""
        slope = (thickness - 2 * self.board_mm) / ((1 - self.rear) * chord)
        return np.maximum(2 * self.board_mm - self.tail_bevel_mm * slope, 0.4 * self.board_mm)

    def knots(self, chord: float, thickness: float) -> list[tuple[float, float]]:
        """Corners (x, z) of the upper side from the nose's circle to the tail, mm."""
        one = np.array(chord), np.array(thickness)
        r, alpha = (float(v) for v in self.nose_shape(*one))
        x0, z0 = r - r * np.sin(alpha), r + r * np.cos(alpha)
        xf = self.front * chord
        found = [(x0, z0)]
        for place in self.creases:
            s = (place / 100 * chord - x0) / (xf - x0)
            if 0 < s < 1:
                found.append((place / 100 * chord, z0 + s * (thickness - z0) + self.rise * thickness * 4 * s * (1 - s)))
        return [*found, (xf, thickness), (self.rear * chord, thickness), (chord, float(self.tail_mm(*one)))]

    def faces(self, x: Array, chord: Array, thickness: Array) -> tuple[Array, Array]:
        """Heights of the lower and upper face at chord fractions x, mm."""
        x, chord, thickness = np.broadcast_arrays(x, chord, thickness)
        if chord.size and np.all(chord == chord.flat[0]) and np.all(thickness == thickness.flat[0]):
            r, alpha = _nose(self, float(chord.flat[0]), float(thickness.flat[0]))
        else:
            r, alpha = self.nose_shape(chord, thickness)
        X, T = x * chord, thickness
        xf, xr = self.front * chord, self.rear * chord
        round_ = np.sqrt(np.clip(r**2 - (r - X) ** 2, 0, None))
        lower = np.where(r > X, r - round_, 0.0)
        x0, z0 = r - r * np.sin(alpha), r + r * np.cos(alpha)
        corners = [(x0, z0)]
        for place in self.creases:
            s = (place / 100 * chord - x0) / (xf - x0)
            there = (s > 0) & (s < 1)
            bulge = z0 + s * (T - z0) + self.rise * T * 4 * s * (1 - s)
            corners.append(
                (np.where(there, place / 100 * chord, corners[-1][0]), np.where(there, bulge, corners[-1][1]))
            )
        corners += [(xf, T), (xr, T), (chord, self.tail_mm(chord, T))]
        upper = np.where(x0 > X, r + round_, z0)
        for (xa, za), (xb, zb) in itertools.pairwise(corners):
            run = np.where(xb > xa, (X - xa) / np.where(xb > xa, xb - xa, 1.0), 1.0)
            upper = np.where((xa <= X) & (xb > xa), za + np.clip(run, 0, 1) * (zb - za), upper)
        return lower, np.maximum(upper, lower)

    def _plain(self, x: Array) -> tuple[Array, Array]:
        scale = self.board_mm / 0.02  # a chord at which the board is a fiftieth
        lower, upper = self.faces(np.clip(x, 0, 1), np.array(scale), np.array(self.ratio * scale))
        return lower / scale, upper / scale

    def camber(self, x: Array) -> Array:
        """Camber line over chord at chord fraction x."""
        lower, upper = self._plain(x)
        return np.asarray(0.5 * (lower + upper))

    def half_thickness(self, x: Array) -> Array:
        """Half thickness over the largest thickness at chord fraction x."""
        lower, upper = self._plain(x)
        return np.asarray(0.5 * (upper - lower) / self.ratio)


@lru_cache(maxsize=4096)
def _nose(outline: Folded, chord: float, thickness: float) -> tuple[Array, Array]:
    """The shape of the nose at one place, kept: its faces are asked for point by point."""
    r, alpha = outline.nose_shape(np.array(chord), np.array(thickness))
    for values in (r, alpha):
        values.setflags(write=False)
    return r, alpha


Outline = Rectangle | FourDigit | Ellipse | Points | Folded


def faces(outline: Outline, x: Array, chord: Array, thickness: Array) -> tuple[Array, Array]:
    """Heights of the lower and upper face, mm.

    Parameters
    ----------
    x : chord fractions, shape broadcastable with `chord` and `thickness` (mm).

    Returns
    -------
    (lower, upper), each of the broadcast shape, mm above the chord line.
    """
    if isinstance(outline, Folded):
        return outline.faces(x, chord, thickness)
    middle = chord * outline.camber(x)
    half = thickness * outline.half_thickness(x)
    return middle - half, middle + half


def polygon(outline: Outline, chord: Array, thickness: Array, points: int = 40) -> Array:
    """Closed outlines for drawing, (n, 2 * points, 2): x, z in mm, upper face back, lower face forward; chord and
    thickness (n,)."""
    x = 0.5 * (1 - np.cos(np.linspace(0, np.pi, points)))
    lower, upper = faces(outline, x, chord[:, None], thickness[:, None])
    x = chord[:, None] * x
    return np.concatenate([np.stack([x, upper], -1), np.stack([x, lower], -1)[:, ::-1]], 1)
