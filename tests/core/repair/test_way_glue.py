"""Every joint of a repair has a glue that holds there: seams, beds, splices and closed cracks ask for others."""

from __future__ import annotations

import pytest

from fletcher.core.adhesion.adhesives import adhesives, between, foam_families, on_foams
from fletcher.core.adhesion.bond_line import hardened
from fletcher.core.document.airframe import Airframe, BarLayer, JointLayer, Part
from fletcher.core.document.damage import BarMark, CrackMark
from fletcher.core.document.joint import AcrossJoint, BondJoint
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.materials.uncertainty import samples
from fletcher.core.repair.candidates import fixes_for
from fletcher.core.repair.damage_model import found_whole
from fletcher.core.repair.evaluate import computed
from fletcher.core.repair.recipe import Fix, Recipe, mended
from fletcher.core.repair.schema import MendWish
from fletcher.core.repair.way_glue import bed_glue, crack_glue, splice_glue
from fletcher.core.studies.constructions import CONSTRUCTIONS

WING = CONSTRUCTIONS["bead_wing"].part()
PLATE = CONSTRUCTIONS["plate_wing"].part()
CORE = CONSTRUCTIONS["cut_core"].part()
ROD = BarMark(id="m", of="spar", at_mm=200)


def hurt(part: Part, mark) -> Part:
    return part.model_copy(update={"damage": (found_whole(mark, part),)})


@pytest.mark.parametrize("part", [WING, PLATE, CORE], ids=["bead foam", "extruded", "cut core"])
@pytest.mark.parametrize("seam", list(adhesives()))
def test_nothing_that_grabs_or_harms_the_foam_is_drawn_into_a_bed(part: Part, seam: str):
    for launch in (30.0, 1e9):
        key = bed_glue(seam, part, (), launch)
        assert adhesives()[key].kind not in ("contact", "tape", "waterborne")
        verdict = on_foams()[key, foam_families()[part.foam]].verdict
        assert verdict not in ("attacks", "poor_adhesion", "test_first")


@pytest.mark.parametrize("seam", list(adhesives()))
def test_into_a_closed_crack_goes_only_what_is_thin(seam: str):
    for part in (WING, PLATE):
        key = crack_glue(seam, part)
        assert adhesives()[key].kind not in ("contact", "tape", "thermoplastic", "waterborne")
        assert on_foams()[key, foam_families()[part.foam]].verdict not in ("attacks", "poor_adhesion", "test_first")


@pytest.mark.parametrize("seam", list(adhesives()))
def test_lengths_of_bars_are_glued_with_what_holds_stiff_parts(seam: str):
    key = splice_glue(seam)
    assert between()[key, "composite_composite"].suits >= 3
    assert adhesives()[key].kind == "rigid"


def test_the_glue_of_the_seams_is_kept_where_it_will_do():
    assert bed_glue("solvent_rubbery_clear", WING) == "solvent_rubbery_clear"  # worked in on bead foam
    assert bed_glue("pu_foaming_white", CORE) == "pu_foaming_white"
    assert splice_glue("epoxy_5min") == "epoxy_5min"
    assert crack_glue("ca_foamsafe", PLATE) == "ca_foamsafe"
    assert splice_glue("solvent_rubbery_clear") == "epoxy_30min"


def test_what_is_at_hand_comes_first_and_a_launch_soon_asks_for_a_quick_one():
    assert bed_glue("contact_foamsafe_clear", WING, ("hotmelt_low",)) == "hotmelt_low"
    assert splice_glue("contact_foamsafe_clear", ("epoxy_5min",)) == "epoxy_5min"
    assert splice_glue("contact_foamsafe_clear", (), 60) == "epoxy_5min"
    assert splice_glue("contact_foamsafe_clear", ("epoxy_30min",), 60) == "epoxy_30min"
    assert crack_glue("contact_foamsafe_clear", WING, ("pu_foaming_white",)) == "pu_foaming_white"
    quick = bed_glue("contact_foamsafe_clear", CORE, (), 60)
    assert adhesives()[quick].fixture_min.typ <= 15


def test_an_unknown_glue_is_left_for_the_check_to_refuse():
    assert bed_glue("spit", WING) == crack_glue("spit", WING) == splice_glue("spit") == "spit"


def test_a_repair_names_the_glue_of_each_joint():
    recipe = Recipe(glue="contact_foamsafe_clear", fixes=(Fix(mark="m", way="sister", stock="carbon_rod_3",
                                                              each_side_mm=120),))  # fmt: skip
    sister = mended(hurt(WING, ROD), recipe)
    bonds = [la for la in sister.layers if isinstance(la, JointLayer) and isinstance(la.joint, BondJoint)]
    assert {b.glue.adhesive for b in bonds if b.glue} == {bed_glue("contact_foamsafe_clear", WING)}
    crack = CrackMark(id="c", at_mm=300, face="rear", depth_mm=60, skins_torn=True)
    packed, glued = (
        mended(hurt(WING, crack), Recipe(glue="contact_foamsafe_clear", fixes=(Fix(mark="c", way=way),)))
        for way in ("pack", "reglue")
    )
    seams = [
        next(la.glue.adhesive for la in p.layers if isinstance(la, JointLayer) and isinstance(la.joint, AcrossJoint))
        for p in (packed, glued)
    ]
    assert seams == [crack_glue("contact_foamsafe_clear", WING), "contact_foamsafe_clear"]


def test_what_is_asked_for_is_taken():
    recipe = Recipe(glue="contact_foamsafe_clear", bed_glue="pu_foaming_brown", fixes=(Fix(mark="m", way="rebed"),))
    loose = ROD.model_copy(update={"how": "pulled_out"})
    after = mended(hurt(WING, loose), recipe)
    assert [la.glue.adhesive for la in after.layers if isinstance(la, JointLayer)] == ["pu_foaming_brown"]


def ways(part: Part, mark: BarMark) -> set[str]:
    return {f.way for f in fixes_for(mark, hurt(part, mark))}


def test_round_rods_are_not_scarfed_and_of_two_bars_at_one_station_none_is_spliced():
    assert not ways(WING, ROD) & {"scarf_bar", "sleeve"}
    assert "scarf_bar" not in ways(WING, ROD.model_copy(update={"side": "upper"}))
    assert "sleeve" not in ways(CORE, ROD)  # a pair of tubes, both broken
    assert "sleeve" in ways(CORE, ROD.model_copy(update={"side": "lower"}))
    flat = BarMark(id="m", of=next(la.id for la in PLATE.layers if isinstance(la, BarLayer)), at_mm=150)
    assert "scarf_bar" in ways(PLATE, flat)


def test_a_spliced_bar_is_no_stronger_than_its_glue_is_by_then():
    """Half cured it holds half: at the launch a scarf in fresh epoxy carries what the epoxy's curve says."""
    spar = next(la for la in PLATE.layers if isinstance(la, BarLayer))
    part = hurt(PLATE, BarMark(id="m", of=spar.id, at_mm=120))
    fix = next(f for f in fixes_for(part.damage[0], part) if f.way == "scarf_bar")
    airframe = Airframe(name="A", all_up_mass_g=900, parts=(part,))
    recipe = Recipe(fixes=(fix,), glue="epoxy_30min")
    with samples(0):
        late = computed(airframe, part, recipe, MendWish(fly_in_min=20_000)).option
        soon = computed(airframe, part, recipe, MendWish(fly_in_min=late.minutes.typ + 6)).option
        share = float(hardened("epoxy_30min", 6)[0])
    assert share < 0.1
    assert soon.launch_percent.typ < 0.5 * late.launch_percent.typ
    assert late.launch_percent.typ == pytest.approx(late.strength_percent.typ, rel=1e-3)
    assert soon.fly_min.typ > soon.minutes.typ + 5
    assert "epoxy_30min" in {n.key for n in soon.needs}
    operation = next(o for o in soon.operations if "Scarf" in o.title)
    assert "Epoxy" in operation.how


def test_the_work_list_names_the_glue_of_each_step_and_waits_for_the_slower():
    part = WING.model_copy(update={"damage": (found_whole(CrackMark(id="c", at_mm=300, face="rear", depth_mm=60), WING),
                                              ROD)})  # fmt: skip
    recipe = Recipe(glue="contact_foamsafe_clear", fixes=(
        Fix(mark="m", way="sister", stock="carbon_rod_3", each_side_mm=120), Fix(mark="c", way="pack"),
    ))  # fmt: skip
    airframe = Airframe(name="A", all_up_mass_g=900, parts=(part,))
    with samples(0):
        option = computed(airframe, part, recipe, MendWish()).option
    how = {o.title.split(":")[0]: o.how for o in option.operations}
    bed, crack = (adhesives()[k].name for k in (bed_glue(recipe.glue, WING), crack_glue(recipe.glue, WING)))
    assert bed in how["Sister spar beside the broken one"] and crack in how["Work glue into the crack"]
    assert {n.key for n in option.needs} >= {bed_glue(recipe.glue, WING), crack_glue(recipe.glue, WING)}
    assert "cracks with " in option.says and "spars with " in option.says


@pytest.mark.parametrize("field", ["bed_glue", "splice_glue", "crack_glue"])
def test_a_glue_that_nobody_knows_is_refused_by_its_field(field: str):
    part = hurt(WING, ROD)
    airframe = Airframe(name="A", all_up_mass_g=900, parts=(part,))
    fix = Fix(mark="m", way="sister", stock="carbon_rod_3", each_side_mm=120)
    with pytest.raises(InvalidDocument) as refused:
        computed(airframe, part, Recipe(fixes=(fix,), glue="epoxy_30min", **{field: "spit"}), MendWish())
    assert [(p.path, p.value) for p in refused.value.problems] == [(f"recipe.{field}", "'spit'")]
