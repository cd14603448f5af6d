"""Warp: two layers against Timoshenko's bimetal strip, order of work, what cancels, and twist."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.document.airframe import FilmLayer, Laminate, Ply, StripLayer
from fletcher.core.estimate.report import estimate
from fletcher.core.estimate.residual_bow import bow_curvature, shrinks, warp_of
from fletcher.core.studies.constructions import CONSTRUCTIONS
from tests.core.factories import catalogue, foam, plank, run, skin


def bimetal(E: tuple[float, float], t: tuple[float, float], strain: float) -> float:
    """Curvature of two layers glued together, the first one shorter by `strain` (Timoshenko 1925, eq. 4)."""
    m, n, h = t[0] / t[1], E[0] / E[1], sum(t)
    return 6 * strain * (1 + m) ** 2 / (h * (3 * (1 + m) ** 2 + (1 + m * n) * (m**2 + 1 / (m * n))))


@pytest.mark.parametrize("ratio", [0.05, 0.5, 1.0, 4.0])
@pytest.mark.parametrize("stiffness", [0.2, 1.0, 30.0])
def test_two_layers_bow_as_timoshenkos_bimetal(ratio, stiffness, proof):
    E, t, b, strain = (stiffness * 1000.0, 1000.0), (ratio * 2.0, 2.0), 7.0, 0.004
    z = np.array([t[1] + t[0] / 2, t[1] / 2])
    EA = np.array([e * b * d for e, d in zip(E, t, strict=True)])
    own = np.array([e * b * d**3 / 12 for e, d in zip(E, t, strict=True)])
    found = bow_curvature(EA, EA * z, EA * z**2 + own, np.array([strain, 0.0]))
    proof(f"bimetal, thickness ratio {ratio:g}, stiffness ratio {stiffness:g}", found, bimetal(E, t, strain), 1e-9)


def warped(part, *materials):
    return warp_of(run(part, materials=catalogue(*materials)).prepared)


def film(face="upper", **changes):
    return FilmLayer(id=f"film-{face}", skin="skin-2300.0-0.03-0.0", face=face, **changes)


def test_a_film_on_one_face_of_a_plank_bows_it_by_the_bimetal_formula(proof):
    core, paper = foam(), skin()
    found = warped(plank(core, film(shrink_percent=0.3)), core, paper)
    assert found is not None
    kappa = bimetal((2300.0, 14.0), (0.03, 20.0), 0.003)
    proof("film on one face of a plank, bow κ L²/8", -found.bow_mm.typ, kappa * 500**2 / 8, 0.01)
    proof("… and its tip, root held down, κ L²/2", found.tip_mm, kappa * 500**2 / 2, 0.01)
    assert found.bow_mm.low < found.bow_mm.typ < found.bow_mm.high < 0, "the ends come up towards the film"
    assert found.twist_deg.typ == pytest.approx(0, abs=1e-6)


def test_the_same_film_on_the_other_face_bows_the_other_way_and_swelling_too():
    core, paper = foam(), skin()
    up, down, swells = (
        warped(plank(core, layer), core, paper)
        for layer in (film(shrink_percent=0.3), film("lower", shrink_percent=0.3), film(shrink_percent=-0.3))
    )
    assert up is not None and down is not None and swells is not None
    assert down.bow_mm.typ == pytest.approx(-up.bow_mm.typ, rel=1e-6)
    assert swells.bow_mm.typ == pytest.approx(-up.bow_mm.typ, rel=1e-6)


def test_both_faces_together_stay_straight_and_one_after_the_other_do_not():
    core, paper = foam(), skin()
    both = warped(plank(core, film("both", shrink_percent=0.3)), core, paper)
    turns = warped(plank(core, film("both", shrink_percent=0.3, laid="upper_first")), core, paper)
    other = warped(plank(core, film("both", shrink_percent=0.3, laid="lower_first")), core, paper)
    assert both is not None and turns is not None and other is not None
    assert both.bow_mm.typ == pytest.approx(0, abs=1e-6)
    assert both.cancels == []
    # the first face bends bare foam, the second one foam that the first has stiffened: it does not take it all back
    assert turns.bow_mm.typ < -0.05
    assert other.bow_mm.typ == pytest.approx(-turns.bow_mm.typ, rel=1e-6)
    assert any("both faces by turns" in text for text in turns.cancels)


def test_what_cancels_it_does():
    core, paper = foam(), skin()
    layers = (film(shrink_percent=0.3), film("lower", shrink_percent=0.1))
    bowed = warped(plank(core, *layers), core, paper)
    assert bowed is not None
    text = next(t for t in bowed.cancels if "lower face" in t)
    needed = float(text.split(" %")[0])
    straight = warped(plank(core, layers[0], film("lower", shrink_percent=needed)), core, paper)
    assert straight is not None
    assert abs(straight.bow_mm.typ) < 0.05 * abs(bowed.bow_mm.typ)


def test_lines_add_up_to_the_whole():
    part = CONSTRUCTIONS["bead_wing"].part()
    found = warp_of(run(part).prepared)
    assert found is not None
    whole = found.bow_mm.typ
    assert sum(line.bow_mm for line in found.lines) == pytest.approx(whole, rel=0.05, abs=0.01)


def test_nothing_that_shrinks_is_no_warp():
    assert warp_of(run(CONSTRUCTIONS["plank"].part().model_copy(update={"layers": ()})).prepared) is None
    core, paper = foam(), skin()
    assert warped(plank(core, film(shrink_percent=0.0)), core, paper) is None


def test_a_strip_that_runs_askew_twists_and_a_straight_one_does_not():
    core, paper = foam(), skin(G=800.0)
    base = {"id": "s", "skin": paper.key, "face": "upper", "width_mm": 20, "shrink_percent": 0.3}
    closed = film("both", shrink_percent=0.0).model_copy(update={"skin": paper.key, "id": "shell"})

    def twist(root, tip):
        strip = StripLayer(**base, root_percent=root, tip_percent=tip)
        found = warped(plank(core, closed, strip), core, paper)
        assert found is not None
        return found.twist_deg.typ

    assert twist(50, 50) == pytest.approx(0, abs=1e-4)
    assert abs(twist(25, 75)) > 0.01
    assert twist(25, 75) == pytest.approx(-twist(75, 25), rel=0.05)


def test_one_way_plies_at_an_angle_twist_and_a_mirrored_pair_of_faces_cancels():
    core = foam()

    def laid(face, angle, name):
        laminate = Laminate(
            plies=(Ply(cloth="carbon_ud_100", angle_deg=angle),), resin="epoxy_laminating", method="squeegee"
        )
        return FilmLayer(id=name, skin=laminate, face=face, shrink_percent=0.05)

    def twist(*layers):
        found = warped(plank(core, *layers), core)
        assert found is not None
        return found.twist_deg.typ

    one = twist(laid("upper", 30, "a"))
    assert abs(one) > 0.05
    assert twist(laid("upper", -30, "a")) == pytest.approx(-one, rel=1e-6)
    # seen from above both faces at the same angle pull the same way in their own faces and cancel round the section
    same, crossed = (twist(laid("upper", 30, "a"), laid("lower", angle, "b")) for angle in (30, -30))
    assert min(abs(same), abs(crossed)) < 0.05 * max(abs(same), abs(crossed))


def test_strains_are_estimates_with_a_band_and_a_basis():
    known = shrinks()
    assert {"hot_iron_film", "covering_film", "paper_skin", "tape"} <= set(known)
    for row in known.values():
        assert 0 <= row.strain_pct.low <= row.strain_pct.typ <= row.strain_pct.high < 10
        assert row.grade in "ABC" and row.way and row.basis


def test_the_estimate_tells_the_bow_and_its_target():
    from fletcher.core.document.airframe import Airframe, Targets
    from fletcher.core.document.cases import Between

    part = CONSTRUCTIONS["bead_wing"].part()
    layers = tuple(la.model_copy(update={"face": "upper"}) if la.id == "film" else la for la in part.layers)
    part = part.model_copy(update={"layers": layers, "targets": Targets(bow_mm=Between(high=0.5))})
    found = estimate(Airframe(name="x", all_up_mass_g=900, parts=(part,)), part.id)
    assert found.warp is not None and found.warp.bow_mm.typ < -0.5
    bow = next(t for t in found.targets if t.figure == "bow")
    assert bow.value.low < 0.5 < bow.value.typ and bow.met == "doubtful"
