"""Laminates against the worked check, closed forms and what must hold for any stack."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import FilmLayer, Laminate, Ply
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.layup.laminates import FIBRE_SHARE, skin_of, stack
from fletcher.core.materials.materials import Range
from fletcher.core.materials.tables import reference
from fletcher.core.validation.airframe import read
from tests.core.factories import plank, run

STORE = reference()
GLASS = replace(STORE.cloths["glass_80"], crimp=Range(1, 1, 1))
UD = STORE.cloths["carbon_ud_100"]
EPOXY = STORE.resins["epoxy_laminating"]


def laid(*plies, share=0.40):
    return stack(list(plies), EPOXY, share, 3200.0, 0.024)


@pytest.mark.parametrize(
    ("angle", "E", "G"), [(0, 19715, 2572), (90, 19715, 2572), (45, 8381, 8740), (-45, 8381, 8740)]
)
def test_worked_glass_cloth(proof, angle, E, G):
    found = laid((GLASS, angle))
    proof(f"glass cloth at {angle}°: E, MPa", found.E_along, E, 1e-4)
    proof(f"glass cloth at {angle}°: G, MPa", found.G, G, 1e-4)
    assert found.thickness == pytest.approx(0.0781, abs=5e-5)
    assert found.resin == pytest.approx(53.9, abs=0.05)


def test_straight_fibres_are_the_rule_of_mixtures():
    along = laid((replace(UD, crimp=Range(1, 1, 1)), 0))
    assert along.E_along == pytest.approx(0.4 * 230e3 + 0.6 * 3200, rel=1e-9)
    across = laid((UD, 90))
    assert across.E_along < 0.15 * along.E_along
    assert pytest.approx(along.G, rel=1e-9) == across.G


@settings(max_examples=30, deadline=None)
@given(st.lists(st.floats(-90, 90), min_size=1, max_size=5), st.floats(0.25, 0.6))
def test_any_stack_turned_by_a_right_angle_swaps_its_axes(angles, share):
    plies = [(UD, a) for a in angles]
    found = laid(*plies, share=share)
    turned = laid(*[(c, a + 90) for c, a in plies], share=share)
    assert found.E_along == pytest.approx(turned.E_across, rel=1e-6)
    assert pytest.approx(turned.G, rel=1e-6) == found.G
    assert found.mass == pytest.approx(turned.mass)
    assert 3000 < found.E_along < 230e3


def test_balanced_quasi_isotropic_stack_is_isotropic():
    found = laid(*[(UD, a) for a in (0, 45, 90, -45)])
    turned = laid(*[(UD, a + 22.0) for a in (0, 45, 90, -45)])
    assert found.E_along == pytest.approx(turned.E_along, rel=1e-6)
    nu = found.E_along / (2 * found.G) - 1
    assert 0.2 < nu < 0.4


def test_bias_cloth_is_soft_and_strong_in_shear():
    straight, bias = laid((GLASS, 0)), laid((GLASS, 45))
    assert bias.G > 3 * straight.G and bias.shear > 2 * straight.shear
    assert bias.tensile < 0.5 * straight.tensile


def test_method_changes_mass_and_hardly_what_the_skin_carries():
    skins = {m: skin_of(Laminate(plies=(Ply(cloth="glass_49"),), method=m), STORE) for m in FIBRE_SHARE}
    mass = [skins[m].areal_mass_g_m2.typ for m in ("hand", "squeegee", "vacuum")]
    assert mass == sorted(mass, reverse=True) and mass[0] > 1.2 * mass[2]
    carries = [s.E_along_MPa.typ * s.thickness_mm.typ for s in skins.values()]
    assert max(carries) < 1.1 * min(carries)
    for s in skins.values():
        assert s.E_along_MPa.low < s.E_along_MPa.typ < s.E_along_MPa.high


def test_bias_twists_less_and_bends_more_than_straight_cloth():
    def wing(angle):
        cloth = Laminate(plies=(Ply(cloth="glass_80", angle_deg=angle),))
        a = run(plank(STORE.foams["xps_30"], FilmLayer(id="c", skin=cloth, face="wrapped")), materials=STORE)
        return a.prepared.fields.torsion[0, 30], a.prepared.sums.whole_EI[0, 30]

    (GJ_straight, EI_straight), (GJ_bias, EI_bias) = wing(0), wing(45)
    assert GJ_bias > 1.8 * GJ_straight
    assert EI_bias < 0.7 * EI_straight


@pytest.mark.parametrize(
    ("skin", "path"),
    [
        ({"plies": [{"cloth": "glass_80"}], "resin": "treacle"}, "skin.resin"),
        ({"plies": []}, "skin.plies"),
        ({"plies": [{"cloth": "glas_80"}]}, "skin.plies[0].cloth"),
        ({"plies": [{"cloth": "glass_80", "angle_deg": 120}]}, "skin.plies[0].angle_deg"),
        ({"plies": [{"cloth": "glass_80"}], "method": "spit"}, "skin.method"),
        (7, "skin"),
    ],
)
def test_a_laminate_that_cannot_be_made_is_named_once(skin, path):
    data = demo_airframes()[0].model_dump(mode="json")
    data["parts"][0]["layers"][2]["skin"] = skin
    with pytest.raises(InvalidDocument) as refused:
        read(data)
    assert [p.path for p in refused.value.problems] == [f"parts[0].layers[2].{path}"], refused.value.problems


def test_strength_of_a_one_way_ply_along_and_across_is_its_limits():
    along = laid((UD, 0))
    assert along.tensile == pytest.approx(along.E_along * UD.tensile_strain_pct.typ / 100, rel=1e-6)
    assert along.shear == pytest.approx(along.G * 0.024, rel=1e-6)
    assert np.isfinite(laid((UD, 90)).tensile)
