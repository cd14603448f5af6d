"""What a piece does when it is snapped: the words must agree with what people feel in their hands."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import BarLayer, FilmLayer
from fletcher.core.estimate.report import estimate
from fletcher.core.materials.tables import reference
from fletcher.core.section.snap import snap
from fletcher.core.section.snap_fibres import fibres_of
from tests.core.factories import catalogue, foam, plank, run

BRITTLE = ["eps_15", "eps_20", "eps_30", "xps_30", "xps_40"]


def film(face: str, skin: str = "lamfilm_75") -> FilmLayer:
    return FilmLayer(id=f"film-{face}", skin=skin, face=face)


def snapped(key: str, *layers, direction="up"):
    a = run(plank(reference().foams[key], *layers))
    k = int(np.argmax(a.loading.moment[0]))
    return snap(a.prepared.elements, a.prepared.draws, a.prepared.geometry, k)[0 if direction == "up" else 1]


@pytest.mark.parametrize("key", BRITTLE)
@pytest.mark.parametrize("direction", ["up", "down"])
def test_a_bare_brittle_plank_snaps(key, direction):
    found = snapped(key, direction=direction)
    assert (found.manner, found.hangs_together) == ("snaps", 0.0)


@pytest.mark.parametrize("key", ["eps_15", "eps_20"])
def test_full_film_on_both_faces_folds(key):
    assert snapped(key, film("both")).manner.startswith("folds")


@pytest.mark.parametrize("key", BRITTLE)
def test_film_on_the_pressed_face_alone_still_snaps(key):
    assert snapped(key, film("upper"), direction="up").manner == "snaps"


@pytest.mark.parametrize("key", ["eps_15", "eps_20"])
def test_the_same_film_on_the_pulled_face_holds_soft_foam_together(key):
    """Soft bead board only: in strong foam the film has yielded before the foam lets go."""
    assert snapped(key, film("upper"), direction="down").manner != "snaps"


@pytest.mark.parametrize("key", ["epp_20", "epp_30", "epp_45"])
def test_bead_foam_folds_and_springs_back(key):
    assert snapped(key).manner == "folds and springs back"


def test_both_directions_of_a_symmetric_piece_are_alike():
    up, down = (snapped("eps_20", film("both"), direction=d) for d in ("up", "down"))
    assert up.first_break_N_mm == pytest.approx(down.first_break_N_mm, rel=1e-6)


def test_first_break_of_a_linear_piece_is_the_closed_form():
    """A foam that does not crush first breaks at M = σ b h²/6."""
    from dataclasses import replace

    from tests.core.factories import exact

    core = replace(foam(E=14, G=5.4), crush_stress_MPa=exact(9.0), tensile_strength_MPa=exact(0.45))
    a = run(plank(core), materials=catalogue(core))
    found = snap(a.prepared.elements, a.prepared.draws, a.prepared.geometry, 10)[0]
    assert found.first_break_N_mm == pytest.approx(0.45 * 120 * 20**2 / 6, rel=0.005)
    assert found.moment[0] / found.curvature[0] == pytest.approx(14 * 120 * 20**3 / 12, rel=0.01)


def test_moment_never_falls_before_the_first_break_and_the_cracked_section_carries_less():
    for layers in ((), (film("both"),), (BarLayer(id="b", stock="carbon_rod_2", cover_mm=1),)):
        found = snapped("xps_30", *layers)
        assert np.all(np.diff(found.moment) > -1e-6 * found.moment.max())
        assert np.all(found.cracked <= found.moment * (1 + 1e-9) + 1e-9)


def test_fibres_hold_all_of_the_section():
    a = run(plank(reference().foams["eps_20"], film("both"), BarLayer(id="b", stock="carbon_rod_2", cover_mm=1)))
    fibres = fibres_of(a.prepared.elements, a.prepared.draws, a.prepared.geometry, 10)
    stiffness = np.where(fibres.z > a.prepared.sums.whole_z[0, 10], fibres.E_push, fibres.E_pull)
    about = fibres.z - a.prepared.sums.whole_z[0, 10]
    assert fibres.amount[fibres.foam > 0].sum() == pytest.approx(120 * 20, rel=1e-3)
    assert (stiffness * fibres.amount * about**2).sum() == pytest.approx(a.prepared.sums.whole_EI[0, 10], rel=0.02)


def test_words_and_working_stand_in_the_estimate():
    result = estimate(demo_airframes()[0], "plank", "bench")
    assert [s.sentence for s in result.snaps] == ["snaps", "snaps"]
    by_figure = {w.figure: w for w in estimate(demo_airframes()[0], "wing", "pull-up").workings}
    assert set(by_figure) >= {"added", "bend", "twist", "breaks_at"}
    for working in by_figure.values():
        assert working.formula and working.symbols and working.assumptions
        assert all(np.isfinite(s.value) for s in working.symbols)
    grams = sum(s.value for s in by_figure["added"].symbols)
    assert grams == pytest.approx(estimate(demo_airframes()[0], "wing", "pull-up").added_g.typ, rel=1e-3)
    holds = {s.symbol: s.value for s in by_figure["breaks_at"].symbols}
    assert holds["λ"] == pytest.approx(estimate(demo_airframes()[0], "wing", "pull-up").breaks_at.typ)
