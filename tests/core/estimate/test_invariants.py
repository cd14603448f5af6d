"""What must hold for any part: scaling, symmetry, monotony."""

from __future__ import annotations

import itertools

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fletcher.core.document.airframe import BarLayer, FilmLayer, StripLayer
from fletcher.core.document.shapes import FourDigitSection
from fletcher.core.estimate.report import estimate
from fletcher.core.materials.tables import reference
from fletcher.core.studies.constructions import CONSTRUCTIONS
from tests.core.factories import PULL_UP, plank, run

FOAMS = st.sampled_from(sorted(reference().foams))
SKINS = st.sampled_from(sorted(reference().skins))
RODS = st.sampled_from(["carbon_rod_1", "carbon_rod_2", "carbon_rod_3", "glass_rod_2", "music_wire_2"])
SOME = settings(max_examples=25, deadline=None)


def part_with(foam: str, *layers, chord: float = 120, thickness: float = 20, **changes):
    return plank(reference().foams[foam], *layers, chord=chord, thickness=thickness, **changes)


def mid_sag(analysis) -> float:
    return float(-analysis.response.deflection[0].min())


@SOME
@given(FOAMS, st.floats(40, 300), st.floats(8, 40))
def test_twice_the_width_is_twice_the_stiffness(foam, chord, thickness):
    one = run(part_with(foam, chord=chord, thickness=thickness))
    two = run(part_with(foam, chord=2 * chord, thickness=thickness))
    assert np.allclose(two.prepared.sums.whole_EI, 2 * one.prepared.sums.whole_EI, rtol=1e-9)
    assert np.allclose(two.prepared.line_mass, 2 * one.prepared.line_mass, rtol=1e-9)


@SOME
@given(FOAMS, SKINS, RODS, st.floats(0, 3))
def test_adding_material_never_makes_it_softer(foam, skin, rod, cover):
    bar = BarLayer(id="b", stock=rod, cover_mm=cover, root_percent=50, tip_percent=50)
    film = FilmLayer(id="f", skin=skin, face="both")
    strip = StripLayer(id="s", skin=skin, face="lower", root_percent=50, tip_percent=50)
    sags = [mid_sag(run(part_with(foam, *layers))) for layers in ((), (bar,), (bar, strip), (bar, strip, film))]
    assert all(b <= a * (1 + 1e-6) for a, b in itertools.pairwise(sags))


@SOME
@given(FOAMS, RODS, st.floats(10, 90))
def test_mirrored_along_the_chord_a_plank_is_the_same(foam, rod, percent):
    sags = [
        mid_sag(run(part_with(foam, BarLayer(id="b", stock=rod, cover_mm=1, root_percent=p, tip_percent=p))))
        for p in (percent, 100 - percent)
    ]
    assert sags[0] == pytest.approx(sags[1], rel=0.01)


@SOME
@given(st.floats(0.2, 5))
def test_bend_grows_and_margin_falls_in_proportion_to_the_load(k):
    part = CONSTRUCTIONS["bead_wing"].part()
    case = part.cases[1]
    one = run(part, case)
    other = run(part, case.model_copy(update={"weight_g": case.weight_g * k}))
    assert mid_sag(other) == pytest.approx(k * mid_sag(one), rel=1e-9)
    assert other.modes[0].use.max() == pytest.approx(k * one.modes[0].use.max(), rel=1e-9)


def test_a_longer_bar_never_bends_more_and_ends_are_where_they_are_said_to_be():
    part = CONSTRUCTIONS["bead_wing"].part()
    tips = []
    for end in (200, 300, 400, 500, 600):
        layers = (part.layers[0].model_copy(update={"end_mm": end}), *part.layers[1:])
        a = run(part.model_copy(update={"layers": layers}), PULL_UP)
        beyond = a.prepared.geometry.y > end + 1e-6
        assert np.all(a.response.bar_force[:, :, beyond] == 0)
        tips.append(a.response.deflection[0, -1])
    assert all(b < a for a, b in itertools.pairwise(tips))


def test_a_switched_off_line_counts_for_nothing():
    part = CONSTRUCTIONS["bead_wing"].part()
    off = (part.layers[0].model_copy(update={"enabled": False}), *part.layers[1:])
    a, b = run(part.model_copy(update={"layers": off})), run(part.model_copy(update={"layers": part.layers[1:]}))
    assert np.array_equal(a.response.deflection, b.response.deflection)


def test_neutral_axis_lies_towards_the_stiffer_side():
    part = part_with("epp_20", StripLayer(id="s", skin="glass_49", face="lower", root_percent=50, tip_percent=50))
    assert run(part).prepared.sums.whole_z[0].max() < 0


def test_shares_of_bending_stiffness_add_up_and_aerofoil_area_is_right():
    part = CONSTRUCTIONS["bead_wing"].part()
    a = run(part, PULL_UP)
    # the thickness form of the family integrates to 0.685 of chord times thickness (0.6851 from its polynomial)
    assert a.prepared.geometry.foam_x[0, 0] == pytest.approx(0.6851 * 180 * 22, rel=2e-3)
    assert isinstance(part.section, FourDigitSection)


@pytest.mark.parametrize("way", CONSTRUCTIONS.values(), ids=lambda c: c.key)
def test_every_construction_gives_a_whole_estimate(way):
    from fletcher.core.document.airframe import Airframe
    from tests.core.factories import checked

    part = way.part()
    document = checked(Airframe(name="x", all_up_mass_g=900, parts=(part,)))
    for case in part.cases:
        result = estimate(document, part.id, case.id)
        assert sum(line.bending_share for line in result.lines) == pytest.approx(1)
        assert sum(line.torsion_share for line in result.lines) == pytest.approx(1, abs=0.02)
        assert sum(line.grams.typ for line in result.lines) == pytest.approx(result.mass_g.typ)
        assert result.first.comes_at.typ == pytest.approx(result.breaks_at.typ)
        moved = result.twist_deg if result.reads == "twist" else result.deflection_mm
        for band in (result.mass_g, moved, result.breaks_at):
            assert band.low <= band.typ <= band.high and band.typ != 0
        worst = max(result.curves.use) / result.safety_factor
        assert result.breaks_at.typ == pytest.approx(1 / worst, rel=1e-3)
