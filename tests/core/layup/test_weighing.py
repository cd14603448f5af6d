"""A weighed stick: its own mass, and in wood its stiffness within the species' band."""

from __future__ import annotations

import pytest

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import BarLayer
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.layup.weighing import density_of, position, weighed
from fletcher.core.materials.tables import reference
from fletcher.core.validation.airframe import read
from tests.core.factories import plank, run

SPRUCE = reference().bars["spruce_3x10"]
ROD = reference().bars["carbon_rod_3"]


def per_metre(bar, density):
    return density * bar.area_mm2 * 1e-3


def test_density_and_place_in_the_band():
    assert density_of(SPRUCE, 12.6) == pytest.approx(420)
    band = SPRUCE.density_kg_m3
    assert [position(v, band) for v in (band.low, band.typ, band.high)] == pytest.approx([-1.645, 0, 1.645], abs=1e-3)


def test_the_heavy_stick_is_stiffer_and_stronger_and_the_light_one_less():
    light, middle, heavy = (weighed(SPRUCE, per_metre(SPRUCE, d)) for d in (380, 420, 465))
    for name in ("E_MPa", "tensile_strength_MPa", "compressive_strength_MPa"):
        values = [getattr(b, name) for b in (light, middle, heavy)]
        assert values[0].typ < values[1].typ < values[2].typ
        table = getattr(SPRUCE, name)
        assert values[1].typ == pytest.approx(table.typ)
        assert values[1].high / values[1].low < table.high / table.low
        assert table.low < values[0].typ and values[2].typ < table.high


def test_a_weighed_carbon_rod_changes_its_mass_alone():
    rod = weighed(ROD, 1.05 * per_metre(ROD, ROD.density_kg_m3.typ))
    assert rod.E_MPa == ROD.E_MPa
    assert rod.density_kg_m3.typ == pytest.approx(1.05 * ROD.density_kg_m3.typ)


def test_a_wing_feels_the_weighed_stick():
    foam = reference().foams["xps_30"]

    def sag(grams):
        layer = BarLayer(id="b", stock="spruce_3x10", place="middle", on_edge=True, weighed_g_per_m=grams)
        a = run(plank(foam, layer))
        return -a.deflection[0, a.prepared.mesh.y.searchsorted(250)], a.prepared.line_mass[0, 0, 5]

    (light_sag, light_mass), (heavy_sag, heavy_mass) = sag(11.4), sag(13.9)
    assert heavy_sag < 0.95 * light_sag
    assert heavy_mass / light_mass == pytest.approx(13.9 / 11.4)


@pytest.mark.parametrize("grams", [1.0, 60.0, 0])
def test_a_weight_that_cannot_be_is_named(grams):
    data = demo_airframes()[0].model_dump(mode="json")
    data["parts"][0]["layers"][0]["weighed_g_per_m"] = grams
    with pytest.raises(InvalidDocument) as refused:
        read(data)
    assert refused.value.problems[0].path == "parts[0].layers[0].weighed_g_per_m"
