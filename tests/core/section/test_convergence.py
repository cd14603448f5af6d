"""Finer stations, finer fibres, a finer grid: the figures must stand still."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.demo.world import demo_airframes
from fletcher.core.estimate import prepare as core
from fletcher.core.estimate.analyse import under
from fletcher.core.estimate.prepare import prepare, sectioned
from fletcher.core.materials.tables import reference
from fletcher.core.section import grid, snap
from fletcher.core.section.flexure_function import solve
from fletcher.core.section.grid import BarSpot, FaceSkin
from fletcher.core.section.outline import FourDigit

AIRFRAME = demo_airframes()[0]
WING = AIRFRAME.parts[0]


def figures(monkeypatch, stations):
    """Tip bend, tip twist, first frequency and margin with so many stations, typical values."""
    monkeypatch.setattr(core, "STATIONS", stations)
    a = under(prepare(sectioned(WING, (25.0,), reference()), WING), AIRFRAME, WING, WING.cases[0])
    use = max(float(m.use[0].max()) for m in a.modes)
    return np.array([a.deflection[0, -1], a.twist[0, -1], a.prepared.shaking.flap[0], 1 / use])


def test_stations_converge(monkeypatch):
    finest = figures(monkeypatch, 240)
    errors = [np.abs(figures(monkeypatch, n) / finest - 1) for n in (30, 60, 120)]
    assert errors[1].max() < 0.02
    assert np.all(errors[2] <= errors[0] + 1e-4)


def test_fibres_converge():
    a = under(prepare(sectioned(WING, (25.0,), reference()), WING), AIRFRAME, WING, WING.cases[0])
    p = a.prepared
    found = {}
    for levels in (18, 36, 144):
        s = snap.snap(p.elements, p.draws, p.geometry, 5, levels)[0]
        found[levels] = np.array([s.first_break_N_mm, s.residual_N_mm, s.moment[0] / s.curvature[0]])
    assert found[36] == pytest.approx(found[144], rel=0.02)
    assert np.all(np.abs(found[36] / found[144] - 1) <= np.abs(found[18] / found[144] - 1) + 2e-3)


@pytest.mark.parametrize("rows", [16, 20])
def test_the_grid_converges(monkeypatch, rows):
    """Shear stiffness, torsion and shear centre of a skinned aerofoil with two rods, on finer cells."""
    skins = [FaceSkin(face, 0, 160, 20.0, 0.03) for face in ("upper", "lower")]
    bars = [BarSpot(50, z, 3, 3, 2e3) for z in (9.0, -5.0)]

    def solved():
        found = solve(FourDigit(0.02, 0.4), 160, 20, 2.0, skins, bars)
        v = np.array([0, -14.0, 0, 14.0, 0, 300, 0, 300, 9 * 9e4, -5 * 9e4])
        return np.array([v @ found.matrix @ v, found.torsion.constant, found.torque @ v / (found.force @ v)])

    usual = solved()
    monkeypatch.setattr(grid, "ROWS", rows)
    monkeypatch.setattr(grid, "BAND", rows + 2)
    monkeypatch.setattr("fletcher.core.section.flexure_function.ROWS", rows)
    assert usual == pytest.approx(solved(), rel=0.025)


def test_samples_are_the_same_every_time():
    one, other = (
        under(prepare(sectioned(WING, (25.0,), reference()), WING), AIRFRAME, WING, WING.cases[0]) for _ in range(2)
    )
    assert np.array_equal(one.deflection, other.deflection)
