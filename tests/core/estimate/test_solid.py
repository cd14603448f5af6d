"""Whole parts against three-dimensional finite elements (development only): quadratic bricks, linear isotropic.

A cantilever whose root face stays plane and whose end is pushed evenly: what bends, what shears, what sways where stiff
strips lie askew, and how bars slip in soft foam are all in it, and nothing of the beam theory that is checked.
"""

from __future__ import annotations

import itertools
from dataclasses import dataclass, replace

import numpy as np
from scipy.sparse.linalg import splu
from skfem import Basis, ElementHex0, ElementHex2, ElementVector, FacetBasis, LinearForm, MeshHex, asm, condense
from skfem.assembly import BilinearForm
from skfem.helpers import ddot, eye, sym_grad, trace

from fletcher.core.document.airframe import BarLayer, FilmLayer, StripLayer
from fletcher.core.document.cases import TipWeightCase
from fletcher.core.materials.tables import reference
from tests.core.factories import catalogue, exact, foam, plank, run, skin

E, G = 14.0, 5.4
WIDTH, DEPTH, LENGTH = 60.0, 20.0, 400.0
T = 0.3
"""Thickness of every skin, mm."""
FORCE_N = 0.2


@dataclass(frozen=True)
class Body:
    """A stiffer body in or on the foam: its box across the part and its modulus."""

    x: tuple[float, float]
    z: tuple[float, float]
    modulus: float


def _cells(stops: list[float], size: float) -> np.ndarray:
    """Cell borders through all stops, cells no larger than `size`."""
    stops = sorted(set(stops))
    parts = [np.linspace(a, b, max(1, round((b - a) / size)) + 1)[:-1] for a, b in itertools.pairwise(stops)]
    return np.array([*np.concatenate(parts), stops[-1]])


def solid(bodies: list[Body]) -> tuple[float, float]:
    """Deflection of the end, up and sideways (mm), of foam with bodies in or on it, pushed up at its end."""
    xs = _cells([0.0, WIDTH, *(v for b in bodies for v in b.x)], 10.0)
    zs = _cells([-DEPTH / 2, DEPTH / 2, *(v for b in bodies for v in b.z)], 5.0)
    mesh = MeshHex.init_tensor(xs, np.linspace(0, LENGTH, 11), zs)
    x, _, z = mesh.p[:, mesh.t].mean(1)
    modulus = np.where(np.abs(z) < DEPTH / 2, E, 0.0)
    for b in bodies:
        modulus[(b.x[0] < x) & (x < b.x[1]) & (b.z[0] < z) & (z < b.z[1])] = b.modulus
    kept = np.nonzero(modulus > 0)[0]
    mesh, modulus = mesh.restrict(kept), modulus[kept]
    basis = Basis(mesh, ElementVector(ElementHex2()), intorder=4)
    nu = np.where(modulus == E, E / (2 * G) - 1, 0.0)
    per_cell = Basis(mesh, ElementHex0(), intorder=4)
    mu, lam = (per_cell.interpolate(v) for v in (modulus / (2 * (1 + nu)), modulus * nu / (1 + nu) / (1 - 2 * nu)))

    @BilinearForm
    def stiffness(u, v, w):
        strain = sym_grad(u)
        return ddot(2 * w["mu"] * strain + eye(w["lam"] * trace(strain), 3), sym_grad(v))

    facets = mesh.facets_satisfying(lambda p: np.isclose(p[1], LENGTH), boundaries_only=True)
    end = FacetBasis(mesh, ElementVector(ElementHex2()), facets=facets, intorder=4)
    push = asm(LinearForm(lambda v, w: v[2]), end)
    along, up, aside = (_component(basis, n) for n in (1, 2, 0))
    push *= FORCE_N / push.sum()
    places = basis.doflocs
    root, tip = (np.isclose(places[1], y) for y in (0.0, LENGTH))
    level, middle = (np.isclose(places[n], v, atol=1e-6) for n, v in ((2, 0.0), (0, WIDTH / 2)))
    held = np.nonzero(root & (along | (up & level) | (aside & level & middle)))[0]
    K, f, u, free = condense(asm(stiffness, basis, mu=mu, lam=lam), push, D=held)
    u[free] = splu(K.tocsc()).solve(f)
    return float(u[tip & up & level].mean()), float(u[tip & aside & level].mean())


def _component(basis: Basis, n: int) -> np.ndarray:
    """Which unknowns are displacements along axis n."""
    found = np.zeros(basis.N, bool)
    for dofs in (basis.nodal_dofs, basis.edge_dofs, basis.facet_dofs, basis.interior_dofs):
        found[dofs[n::3]] = True
    return found


def ours(*layers, **stock):
    """Our analysis of the same cantilever."""
    stuff = foam(E, G)
    part = plank(stuff, *layers, chord=WIDTH, thickness=DEPTH, span=LENGTH)
    case = TipWeightCase(id="tip", name="tip", weight_g=FORCE_N / 9.80665e-3)
    return run(part, case, catalogue(stuff, *stock.values()))


UP, DOWN = (DEPTH / 2, DEPTH / 2 + T), (-DEPTH / 2 - T, -DEPTH / 2)


def test_a_plank_with_a_film_on_both_faces(proof):
    film = skin(E=2300.0, t=T, G=1150.0)
    a = ours(FilmLayer(id="f", skin=film.key, face="both"), film=film)
    whole = [Body((0.0, WIDTH), z, 2300.0) for z in (UP, DOWN)]
    up, _ = solid(whole)
    proof("film on both faces, solid elements: tip", abs(a.linear_deflection[0, -1]), up, 0.02)


def test_strips_askew_sway(proof):
    strip = skin(E=40e3, t=T, G=20e3)
    a = ours(
        StripLayer(id="u", skin=strip.key, face="upper", width_mm=12, root_percent=30, tip_percent=30),
        StripLayer(id="l", skin=strip.key, face="lower", width_mm=12, root_percent=70, tip_percent=70), strip=strip,
    )  # fmt: skip
    up, aside = solid([Body((12.0, 24.0), UP, 40e3), Body((36.0, 48.0), DOWN, 40e3)])
    assert a.sways
    proof("strips askew, solid elements: up", abs(a.linear_deflection[0, -1]), up, 0.02)
    proof("strips askew, solid elements: sideways", abs(a.sideways[0, -1]), abs(aside), 0.03)


def test_a_pair_of_square_bars_that_slip_in_the_foam(proof):
    bar = replace(
        reference().bars["carbon_strip_5x1"], key="square", wide_mm=3.0, thin_mm=3.0, E_MPa=exact(60e3),
        G_MPa=exact(30e3),
    )  # fmt: skip
    a = ours(BarLayer(id="b", stock="square", place="pair", root_percent=50, tip_percent=50, cover_mm=1.0), bar=bar)
    z = DEPTH / 2 - 1
    up, _ = solid([Body((28.5, 31.5), zz, 60e3) for zz in ((z - 3, z), (-z, 3 - z))])
    proof("square bars in soft foam, solid elements: tip", abs(a.linear_deflection[0, -1]), up, 0.05)
