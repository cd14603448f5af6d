"""Sections against the warping finite-element library (development only).

That library weights shear by E alone: fed E/G = 2 and ν = 0 throughout, its shear area times G is comparable
(MECHANICS section 1). Skins are modelled as strips of 0.4 mm with E scaled to keep E·t.
"""

from __future__ import annotations

import numpy as np
import pytest
from sectionproperties.analysis import Section
from sectionproperties.pre import Geometry, Material
from shapely import Polygon, box
from shapely.affinity import translate
from shapely.geometry import Point

from fletcher.core.section.flexure_function import solve
from fletcher.core.section.grid import BarSpot, FaceSkin
from fletcher.core.section.outline import FourDigit, Rectangle, polygon

T = 0.4
"""Thickness of a modelled skin, mm."""


def material(name: str, E: float) -> Material:
    return Material(name, elastic_modulus=E, poissons_ratio=0, yield_strength=1, density=1, color="w")


def oracle(foam: Polygon, E: float, extras: list[tuple[Polygon, float]], mesh: float) -> tuple[float, float]:
    """EI and GA_s (with G = E/2) of foam with other bodies in or on it."""
    body = foam
    parts = []
    for shape, _ in extras:
        body = body.difference(shape)
    geometry = Geometry(body, material("foam", E))
    for n, (shape, modulus) in enumerate(extras):
        parts.append(Geometry(shape, material(f"extra{n}", modulus)))
    for part in parts:
        geometry = geometry + part
    section = Section(geometry.create_mesh([mesh] + [min(mesh, 0.6)] * len(parts)))
    section.calculate_geometric_properties()
    section.calculate_warping_properties()
    return section.get_eic()[0], section.get_eas()[1] / 2


def ours(outline, chord, thickness, E, extras) -> tuple[float, float]:
    """The same from our solver: foam E, G = E/2; extras as (kind, …) with their E·A or E·t."""
    skins = [e[1] for e in extras if e[0] == "skin"]
    bars = [e[1] for e in extras if e[0] == "bar"]
    matrix = solve(outline, chord, thickness, -1e9, skins, bars).matrix
    # sums on a fine column grid
    x = 0.5 * (1 - np.cos(np.linspace(0, np.pi, 4001)))
    from fletcher.core.section.outline import faces

    low, high = faces(outline, x, np.array(chord), np.array(thickness))
    weight = np.gradient(x) * chord
    weight[[0, -1]] /= 1
    moments = [E * float((weight * (high**p - low**p) / p).sum()) for p in (1, 2, 3)]
    stiff = [e[2] for e in extras if e[0] == "skin"]
    pull = [e[2] for e in extras if e[0] == "bar"]
    for s, et in zip(skins, stiff, strict=True):
        z = (thickness / 2 + s.offset) * (1 if s.face == "upper" else -1)
        for p in range(3):
            moments[p] += et * (s.x1 - s.x0) * z**p
    for b, ea in zip(bars, pull, strict=True):
        for p in range(3):
            moments[p] += ea * b.z**p
    centre = moments[1] / moments[0]
    EI = moments[2] - moments[0] * centre**2
    v = [0.0, 0.0, -E * centre, E]
    for et in stiff:
        v += [-et * centre, et]
    v += [ea * (b.z - centre) for b, ea in zip(bars, pull, strict=True)]
    v = np.array(v) / EI
    own = sum(ea * b.width**2 / 16 for b, ea in zip(bars, pull, strict=True))
    return EI + own, float(E / 2 / (v @ matrix @ v))


RECTANGLES = [(120, 20), (60, 30), (180, 10), (90, 15), (150, 26)]
SECTIONS = [
    *[pytest.param("bare", c, h, None, id=f"bare-{c}x{h}") for c, h in RECTANGLES],
    *[pytest.param("caps", c, h, w, id=f"caps-{c}x{h}-{w}") for c, h in RECTANGLES for w in (12, 30)],
    *[
        pytest.param("rods", c, h, d, id=f"rods-{c}x{h}-{d}")
        for c, h in (*RECTANGLES[:2], *RECTANGLES[3:])
        for d in (2, 3)
    ],
    *[pytest.param("skinned-rods", c, h, d, id=f"skinned-rods-{c}x{h}-{d}") for c, h, d in ((120, 20, 3), (90, 15, 2))],
    *[pytest.param("aerofoil", 160, h, None, id=f"aerofoil-{h}") for h in (14, 17, 20, 23, 26)],
    *[pytest.param("aerofoil-rods", 160, h, 3, id=f"aerofoil-rods-{h}") for h in (16, 18, 21, 24)],
]


@pytest.mark.parametrize(("kind", "chord", "depth", "size"), SECTIONS)
def test_stiffness_and_shear_agree(proof, kind, chord, depth, size):
    E, outline = 14.0, Rectangle()
    extras, known = [], []
    foam = box(0, -depth / 2, chord, depth / 2)
    if kind.startswith("aerofoil"):
        outline = FourDigit(0.02, 0.4)
        points = polygon(outline, np.array([chord]), np.array([depth]), 60)[0]
        foam = Polygon(points).buffer(0)
        foam = foam.intersection(box(0.004 * chord, -99, chord, 99))
    if kind == "caps":
        et = 300.0
        for face, side in (("upper", 1), ("lower", -1)):
            z = side * (depth / 2 + T / 2)
            strip = box((chord - size) / 2, z - T / 2, (chord + size) / 2, z + T / 2)
            extras.append((strip, et / T))
            skin = FaceSkin(face, (chord - size) / 2, (chord + size) / 2, et / 2 / (E / 2), T / 2)
            known.append(("skin", skin, et))
    if kind == "skinned-rods":
        for face, side in (("upper", 1), ("lower", -1)):
            z = side * (depth / 2 + T / 2)
            extras.append((box(0, z - T / 2, chord, z + T / 2), 300.0 / T))
            known.append(("skin", FaceSkin(face, 0, chord, 300.0 / E, T / 2), 300.0))
    if kind.endswith("rods"):
        at = 0.35 * chord
        middle = float(np.interp(0.35, *zip(*[(0, 0), (1, 0)], strict=True)))
        if kind.startswith("aerofoil"):
            middle = chord * float(outline.camber(np.array(0.35)))
        a = 0.5 * depth - size / 2 - 1.0
        for side in (1, -1):
            z = middle + side * a
            disc = translate(Point(0, 0).buffer(size / 2, 8), at, z)
            extras.append((disc, 2e4))
            known.append(("bar", BarSpot(at, z, size, size, 2e4 / E), (2e4 - E) * disc.area))
    found_EI, found_GA = ours(outline, chord, depth, E, known)
    EI, GA = oracle(foam, E, extras, mesh=4.0)
    name = f"{kind} {chord} × {depth}" + (f", {size} mm" if size else "")
    proof(f"{name}: EI", found_EI, EI, 0.01)
    proof(f"{name}: GA_s", found_GA, GA, 0.05)
