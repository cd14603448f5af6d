r"""Drape: which skin lies on which surface without wrinkles, and what helps where it does not.

A surface of Gaussian curvature K asks a skin of half width b that is laid down its middle to be longer or shorter at
its edges by ε = |K| b²/2 (Gauss's lemma; do Carmo 1976, § 4-6). A flat or single-curved surface (K = 0) asks nothing.
A skin gives by stretch, shrink or shear of its weave (data/drapes.csv); where that is too little, gores or relief cuts
of width w = √(8 ε_gives/|K|) lie.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cache, partial

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.common.model import Result
from fletcher.core.common.quantities import F0, in_mm
from fletcher.core.document.airframe import FilmLayer, Laminate, Part, StripLayer, WallLayer
from fletcher.core.materials.materials import Catalogue, Range
from fletcher.core.materials.plates import lying
from fletcher.core.materials.reader import Listed, record, records
from fletcher.core.section.assembly import elements_of
from fletcher.core.section.elements import Elements

FLAT_RADIUS = 30.0
"""[J] A face counts as flat when its radius is so many times its width."""

SURE_PCT = 0.1
"""[J] Strain that any skin takes up without being seen, per cent."""


@dataclass(frozen=True)
class Give:
    """By how much a kind of skin gives, %, laid at an angle (degrees) if that matters."""

    key: str
    name: str
    families: Listed
    angle_deg: float | None
    gives_pct: Range
    grade: str
    basis: str


@cache
def gives() -> tuple[Give, ...]:
    """The table of what skins give."""
    return tuple(records("drapes.csv", partial(record, Give)).values())


class Drape(Result):
    """Whether a kind of skin lies on a surface: the strain asked, the strain it gives (typical), what to do."""

    skin: str
    line_ids: list[str]
    asks_percent: float
    gives_percent: float
    lies: str
    """"yes", "just" (within its spread), or "no"."""
    pieces: int
    """Gores, or strips between relief cuts, that would lie."""
    says: str


class Surface(Result):
    """One face of a part: flat, single or double curved; its tightest radius across the span, the Gaussian curvature as
    the radius of a ball that is curved alike (None where it is not double curved), and how each skin lies on it."""

    face: str
    kind: str
    radius_mm: float
    ball_mm: float | None
    width_mm: float
    drapes: list[Drape]


def judge(give: Give, gauss: float, width: float, line_ids: list[str]) -> Drape:
    """How a kind of skin lies on a patch of Gaussian curvature `gauss` (1/mm²), `width` mm wide."""
    asks = 100 * abs(gauss) * (width / 2) ** 2 / 2
    most = max(give.gives_pct.typ, SURE_PCT)
    lies = "yes" if asks <= max(give.gives_pct.low, SURE_PCT) else "just" if asks <= give.gives_pct.high else "no"
    piece = math.sqrt(8 * most / 100 / abs(gauss)) if gauss else math.inf
    pieces = 1 if lies == "yes" else max(1, math.ceil(width / piece))
    if lies == "yes":
        says = "✓ lies in one piece"
    elif lies == "just":
        says = f"≈ lies in one piece with care; {max(pieces, 2)} gores are safe"
    elif pieces <= 24:
        says = f"wrinkles: {pieces} gores or relief cuts every {in_mm(piece, F0)}, or another skin"
    else:
        says = "✕ does not lie flat: use another skin"
    return Drape(
        skin=give.name, line_ids=line_ids, asks_percent=asks, gives_percent=give.gives_pct.typ, lies=lies,
        pieces=pieces, says=says,
    )  # fmt: skip


def patch(first_radius: float, second_radius: float, width: float) -> list[Drape]:
    """How every kind of skin lies on a patch with two radii (mm, negative: the other way round), `width` mm wide."""
    return [judge(g, 1 / (first_radius * second_radius), width, []) for g in gives()]


def _curvature(elements: Elements, face: str) -> tuple[Array, Array]:
    """Gaussian curvature (1/mm²) and curvature across the span (1/mm) on a grid of one face, away from its edges
    (surface by first and second fundamental form, do Carmo 1976, § 3-3)."""
    part = elements.part
    u = 0.5 * (1 - np.cos(np.linspace(0.1 * np.pi, 0.97 * np.pi, 61)))
    y = np.linspace(0, part.span_mm, 13)
    chord = elements.chord(y)[:, None]
    x = part.tip_setback_mm * y[:, None] / part.span_mm + u * chord
    low, high = elements.faces_at(u * chord, y)
    z = high if face == "upper" else low

    def slopes(v: Array) -> list[Array]:
        dy, du = np.gradient(v, y, u, edge_order=2)
        dyy, dyu = np.gradient(dy, y, u, edge_order=2)
        return [dy, du, dyy, dyu, np.asarray(np.gradient(du, u, axis=1, edge_order=2))]

    ones = np.broadcast_to(y[:, None], x.shape)
    parts = [slopes(v) for v in (x, ones, z)]
    r_y, r_u, r_yy, r_yu, r_uu = (np.stack([p[i] for p in parts], -1) for i in range(5))
    normal = np.cross(r_u, r_y)
    normal /= np.linalg.norm(normal, axis=-1, keepdims=True)
    E, F, G = (r_u * r_u).sum(-1), (r_u * r_y).sum(-1), (r_y * r_y).sum(-1)
    e, f, g = (r_uu * normal).sum(-1), (r_yu * normal).sum(-1), (r_yy * normal).sum(-1)
    inner = (slice(1, -1), slice(2, -2))
    return ((e * g - f**2) / (E * G - F**2))[inner], (e / E)[inner]


def _lines(part: Part, catalogue: Catalogue, face: str) -> dict[str, list[str]]:
    """Ids of the lines of each kind of skin on a face, by the kind's key."""
    out: dict[str, list[str]] = {}
    for layer in part.layers:
        if not isinstance(layer, StripLayer | FilmLayer | WallLayer) or not layer.enabled:
            continue
        if layer.face not in (face, "both", "wrapped"):
            continue
        angle = 0.0
        if isinstance(layer, WallLayer):
            family = catalogue.sheets[layer.sheet].family
        elif isinstance(layer.skin, Laminate):
            cloth = catalogue.cloths[layer.skin.plies[0].cloth]
            family = "carbon_ud" if cloth.weave == "one_way" else "glass_cloth"
            angle = abs(layer.skin.plies[0].angle_deg) if cloth.weave == "cloth" else 0.0
        else:
            family = lying(layer.skin, catalogue).family
        near = [g for g in gives() if family in g.families]
        if near:
            kind = min(near, key=lambda g: abs((g.angle_deg or 0.0) - (45.0 if 22.5 <= angle <= 67.5 else 0.0)))
            out.setdefault(kind.key, []).append(layer.id)
    return out


def surfaces_of(part: Part, catalogue: Catalogue) -> list[Surface]:
    """Both faces of a checked part, and how every kind of skin lies on them."""
    elements = elements_of(part, catalogue)
    out = []
    for face in ("upper", "lower"):
        gauss, across = _curvature(elements, face)
        width = max(part.root_chord_mm, part.tip_chord_mm)
        # what the whole face asks is set by its mean, not by one place
        mean = float(np.mean(np.abs(gauss)))
        radius = float(1 / max(np.abs(across).max(), 1e-9))
        asks = 100 * mean * (width / 2) ** 2 / 2
        kind = "double" if asks > SURE_PCT else "flat" if radius > FLAT_RADIUS * width else "single"
        lines = _lines(part, catalogue, face)
        drapes = [judge(g, mean if kind == "double" else 0.0, width, lines.get(g.key, [])) for g in gives()]
        out.append(
            Surface(
                face=face, kind=kind, radius_mm=min(radius, 1e6),
                ball_mm=float(1 / np.sqrt(mean)) if kind == "double" else None, width_mm=width, drapes=drapes,
            )
        )  # fmt: skip
    return out
