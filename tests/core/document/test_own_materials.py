"""Materials that the builder measured: read, checked, used everywhere, and told as theirs."""

from __future__ import annotations

import copy
import json

import pytest

from fletcher.core.adhesion.adhesives import foam_families
from fletcher.core.document.airframe import Airframe, Laminate, Ply, StripLayer
from fletcher.core.document.changes import changes
from fletcher.core.document.own_materials import OwnMaterial, OwnValue, columns, made
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.estimate.effort import effort_of, prices
from fletcher.core.estimate.report import estimate
from fletcher.core.layup.laminates import skin_of
from fletcher.core.materials.tables import name_of, reference
from fletcher.core.section.setting import catalogue_in
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.studies.line_worth import worth
from fletcher.core.studies.scaling import scale
from fletcher.core.validation.airframe import read

ROD = {
    "id": "my_rod", "table": "bar", "like": "carbon_rod_3", "name": "Rod from the drawer",
    "values": [{"of": "E_MPa", "typ": 90_000, "cv_percent": 3}],
}  # fmt: skip
FOAM = {
    "id": "my_foam", "table": "foam", "like": "epp_30", "name": "Block from the shed",
    "values": [{"of": "density_kg_m3", "typ": 36, "low": 34, "high": 38}],
}  # fmt: skip


def document(*materials, **changes):
    part = CONSTRUCTIONS["bead_wing"].part().model_dump(mode="json") | changes
    return {
        **Airframe(name="x", all_up_mass_g=900).model_dump(mode="json"), "materials": list(materials), "parts": [part],
    }  # fmt: skip


def with_rod(*materials):
    found = document(*materials)
    found["parts"][0]["layers"][0]["stock"] = "my_rod"
    return found


def test_a_softer_rod_and_a_heavier_foam_of_ones_own_bend_and_weigh_as_measured():
    usual = estimate(read(document()), "wing")
    own = with_rod(ROD, FOAM)
    own["parts"][0]["foam"] = "my_foam"
    told = estimate(read(own), "wing")
    assert told.lines[0].label == "Block from the shed" and told.lines[1].label == "Rod from the drawer"
    assert told.lines[0].grams.typ == pytest.approx(usual.lines[0].grams.typ * 36 / 30)
    stiff = reference().bars["carbon_rod_3"].E_MPa.typ
    # nearly all of the bending stiffness is the rods'
    gain = told.curves.EI_N_mm2[0] / usual.curves.EI_N_mm2[0]
    assert gain == pytest.approx(90_000 / stiff, rel=0.02)
    basis = {s.material: (s.grade, s.basis) for s in told.sources}
    assert basis["Rod from the drawer"][0] == "A"
    assert basis["Rod from the drawer"][1] == "Yours: E measured, the rest as Carbon rod 3 mm."


def test_a_material_with_no_value_of_its_own_is_the_row_that_it_is_like():
    plain = {**ROD, "values": []}
    usual, told = estimate(read(document()), "wing"), estimate(read(with_rod(plain)), "wing")
    assert told.breaks_at.typ == usual.breaks_at.typ and told.deflection_mm.typ == usual.deflection_mm.typ
    assert told.effort == usual.effort


def test_a_changed_value_is_a_changed_answer_and_the_old_one_comes_back_to_the_last_digit():
    other = copy.deepcopy(ROD)
    other["values"][0]["typ"] = 70_000
    first, second, again = (estimate(read(with_rod(m)), "wing").deflection_mm.typ for m in (ROD, other, ROD))
    assert second > first == again


def test_the_file_names_own_materials_by_their_id_and_reads_back_the_same():
    data = with_rod(ROD)
    airframe = read(data)
    assert airframe.parts[0].layers[0].stock.startswith("my_rod~")
    written = json.loads(airframe.model_dump_json())
    assert written["parts"][0]["layers"][0]["stock"] == "my_rod" and "~" not in json.dumps(written)
    assert read(written) == airframe
    # what a page sends back with the program's own key is taken as the file's
    written["parts"][0]["layers"][0]["stock"] = airframe.parts[0].layers[0].stock
    assert read(written) == airframe


@pytest.mark.parametrize(
    ("change", "path", "says"),
    [
        ({"note": "cut \x00 here"}, "materials[0].note", ""),
        ({"like": "carbon_rod_33"}, "materials[0].like", "is not a bar"),
        ({"id": "carbon_rod_3"}, "materials[0].id", "take another"),
        ({"values": [{"of": "E_GPa", "typ": 90}]}, "materials[0].values[0].of", "is no value of a bar: diameter_mm, "),
        ({"values": [{"of": "E_MPa", "typ": 90}]}, "materials[0].values[0].typ", "between 1.25e+04 and 1.25e+06"),
        ({"values": [{"of": "E_MPa", "typ": 9e4}] * 2}, "materials[0].values[1].of", "twice"),
        ({"values": [{"of": "E_MPa", "typ": 9e4, "low": 1e5, "high": 2e5}]}, "materials[0].values[0]", "between"),
        ({"values": [{"of": "E_MPa", "typ": 9e4, "low": 8e4}]}, "materials[0].values[0]", "low and high"),
        ({"values": [{"of": "E_MPa", "typ": 9e4, "low": 8e4, "high": 1e5, "cv_percent": 3}]},
         "materials[0].values[0]", "not both"),
    ],
)  # fmt: skip
def test_what_cannot_be_is_told_at_its_field(change, path, says):
    with pytest.raises(InvalidDocument) as caught:
        read(with_rod({**ROD, **change}))
    problem = next(p for p in caught.value.problems if p.path == path)
    assert says in problem.message


def test_a_line_of_a_material_that_was_taken_out_is_told_and_two_of_one_id_are():
    with pytest.raises(InvalidDocument) as caught:
        read(with_rod())
    assert [(p.path, p.value) for p in caught.value.problems] == [("parts[0].layers[0].stock", "'my_rod'")]
    with pytest.raises(InvalidDocument) as caught:
        read(with_rod(ROD, {**ROD, "name": "Another"}))
    assert any("used twice" in p.message for p in caught.value.problems)


def test_a_spread_by_its_coefficient_is_a_lognormal_band():
    band = OwnValue(of="E_MPa", typ=100.0, cv_percent=10).range
    assert (band.low, band.high) == pytest.approx((84.87, 117.82), rel=1e-3)
    assert band.low * band.high == pytest.approx(band.typ**2)
    exact = OwnValue(of="E_MPa", typ=100.0).range
    assert exact.low == exact.typ == exact.high


def test_a_narrower_band_makes_a_narrower_answer():
    sure = {**ROD, "values": [{"of": "E_MPa", "typ": 125_000}]}
    vague = {**ROD, "values": [{"of": "E_MPa", "typ": 125_000, "cv_percent": 20}]}
    wide = [estimate(read(with_rod(m)), "wing").deflection_mm for m in (sure, vague)]
    assert (wide[0].high - wide[0].low) < (wide[1].high - wide[1].low)
    assert any("Rod from the drawer" in c for c in wide[1].causes) and not any("Rod" in c for c in wide[0].causes)


def test_own_rows_stand_beside_the_tables_and_are_never_listed():
    airframe = read(with_rod(ROD, FOAM))
    rod, foam = (m.key for m in airframe.materials)
    assert rod in reference().bars and rod not in reference().skins and rod not in list(reference().bars)
    assert reference().bars.get(foam) is None and reference().foams[foam].name == "Block from the shed"
    with pytest.raises(KeyError):
        reference().bars["nothing"]
    assert foam_families()[foam] == foam_families()["epp_30"] and foam_families().get("nothing") is None
    assert prices()[rod] is prices()["carbon_rod_3"] and "nothing" not in prices()
    assert name_of(rod) == "Rod from the drawer"
    warm = airframe.setting.model_copy(update={"hottest_C": 60.0})
    assert catalogue_in(warm).foams[foam].E_tension_MPa.typ < reference().foams[foam].E_tension_MPa.typ


def test_an_own_sheet_bends_by_its_own_modulus_and_thickness():
    base = reference().sheets["balsa_light_2"]
    values = (
        OwnValue(of="E_along_MPa", typ=1.2 * base.E_along_MPa.typ),
        OwnValue(of="thickness_mm", typ=1.1 * base.thickness_mm.typ),
    )
    own = made(OwnMaterial(id="s", table="sheet", like=base.key, name="s", values=values))
    assert own.EI_along_N_mm == pytest.approx(1.2 * 1.1**3 * base.EI_along_N_mm)
    assert own.EI_across_N_mm == pytest.approx(1.1**3 * base.EI_across_N_mm)
    assert "E_along_MPa" in columns("sheet") and "name" not in columns("sheet") and "build" not in columns("sheet")


def test_studies_and_laminates_work_with_own_materials():
    cloth = OwnMaterial(
        id="my_glass", table="cloth", like="glass_49", name="Glass from a sale",
        values=(OwnValue(of="areal_mass_g_m2", typ=60),),
    )  # fmt: skip
    part = CONSTRUCTIONS["bead_wing"].part()
    strip = StripLayer(id="cloth", skin=Laminate(plies=(Ply(cloth="my_glass"),)), face="upper")
    rod = OwnMaterial.model_validate(ROD)
    layers = (part.layers[0].model_copy(update={"stock": "my_rod"}), *part.layers[1:], strip)
    airframe = Airframe(
        name="x", all_up_mass_g=900, materials=(cloth, rod), parts=(part.model_copy(update={"layers": layers}),)
    )
    own = airframe.parts[0]
    skin = skin_of(own.layers[-1].skin, reference())
    usual = skin_of(Laminate(plies=(Ply(cloth="glass_49"),)), reference())
    assert skin.E_along_MPa.typ * skin.thickness_mm.typ == pytest.approx(
        60 / 49 * usual.E_along_MPa.typ * usual.thickness_mm.typ, rel=0.01
    )
    assert {w.line_id for w in worth(airframe, own, own.cases[0].id)} == {la.id for la in own.layers}
    assert effort_of(own).cost.typ > 0
    bigger = scale(airframe, own, own.cases[0].id, 700.0, None, "bend")
    assert bigger.designs


def test_history_tells_what_was_measured_and_nothing_of_the_lines_that_use_it():
    other = copy.deepcopy(ROD)
    other["values"][0]["typ"] = 70_000
    first, second, none = read(with_rod(ROD)), read(with_rod(other)), read(document())
    assert changes(first, second) == ["Rod from the drawer: measured anew"]
    assert changes(first, first) == []
    assert changes(none, first)[0] == "Rod from the drawer, measured by you, added"
    assert changes(first, none)[0] == "Rod from the drawer, measured by you, taken out"
