"""REPAIR, logic checks: what must be offered, what must not, and the first sentence."""

from __future__ import annotations

import pytest

from fletcher.core.document.airframe import Airframe, BarLayer, FilmLayer, Layer, Part
from fletcher.core.document.damage import (
    BarMark,
    BentMark,
    BreakMark,
    CrackMark,
    CreaseMark,
    CrushMark,
    Mark,
    PeeledMark,
)
from fletcher.core.materials.tables import reference
from fletcher.core.repair.candidates import fixes_for
from fletcher.core.repair.damage_model import taken_along
from fletcher.core.repair.inspection import Left, what_is_left
from fletcher.core.repair.mark_menu import offers_at
from fletcher.core.repair.missing_foam import pieces_of
from fletcher.core.repair.pareto_search import search
from fletcher.core.repair.phrasing import fix_words
from fletcher.core.repair.recipe import Recipe, mended
from fletcher.core.repair.repair_table import steps_of
from fletcher.core.repair.schema import Mending, MendWish
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.validation.airframe import check_part

PAIR = BarLayer(id="spar", stock="carbon_rod_3", place="pair", cover_mm=1)
TUBE = BarLayer(id="spar", stock="carbon_tube_6_4", place="middle")
FILM = FilmLayer(id="film", skin="lamfilm_38", face="wrapped")


def cored(foam: str, *layers: Layer) -> Part:
    return CONSTRUCTIONS["bead_wing"].part().model_copy(update={"foam": foam, "span_mm": 600, "layers": layers})


def hurt(part: Part, *marks: Mark) -> tuple[Airframe, Part]:
    part = part.model_copy(update={"damage": marks})
    assert check_part(part, reference()) == []
    return Airframe(name="A", all_up_mass_g=700, parts=(part,)), part


def left(part: Part, *marks: Mark) -> Left:
    return what_is_left(*hurt(part, *marks))


def ways(part: Part, *marks: Mark, at_hand: tuple[str, ...] = ()) -> set[str]:
    """Every way of every mark, and what is laid over it."""
    whole = taken_along(hurt(part, *marks)[1])
    fixes = [f for m in whole.damage for f in fixes_for(m, whole, at_hand)]
    return {f.way for f in fixes} | {f.over for f in fixes}


def mending(part: Part, marks: tuple[Mark, ...], minutes: float, *at_hand: str) -> Mending:
    airframe, whole = hurt(part, *marks)
    (found,) = (
        m for m in search(airframe, whole, MendWish(fly_in_min=minutes, at_hand=at_hand)) if isinstance(m, Mending)
    )
    return found


def words(found: Mending) -> str:
    return " ".join([found.says, *(o.says for o in found.options)])


def test_L1_a_snapped_wing_whose_rods_nobody_saw():
    at = BreakMark(id="m", at_mm=200)
    said = left(cored("epp_30", PAIR, FILM), at)
    assert said.fly == "no" and "200 mm from the root" in said.says
    assert all(q.found == "open" for q in said.asked if q.line_id == "spar")
    found = mending(cored("epp_30", PAIR, FILM), (at,), 60, "hotmelt_low", "filament_tape_uni", "carbon_tube_4_2.5")
    offered = {f.way for o in found.options for f in o.recipe.fixes}
    assert offered <= {"reglue", "sister", "replace_bar"}  # no sleeve (the bore does not clear 3), no scarf
    assert all(o.recipe.splice_glue is None or not o.recipe.splice_glue.startswith("hotmelt") for o in found.options)
    assert all(len(o.recipe.fixes) > 1 for o in found.options)  # glue alone never


def test_L2_with_rods_and_film_seen_whole_the_core_alone_is_mended():
    at = BreakMark(id="m", at_mm=200, whole=("spar", "film"))
    said = left(cored("epp_30", PAIR, FILM), at)
    assert said.fly == "no" and "broken through, 200 mm from the root" in said.says
    assert not ways(cored("epp_30", PAIR, FILM), at) & {"sister", "sleeve", "replace_bar"}


def test_L3_polystyrene_is_mended_by_what_does_not_eat_it():
    plank = CONSTRUCTIONS["plank"].part().model_copy(update={"layers": (), "foam": "xps_30"})
    found = mending(plank, (BreakMark(id="m", at_mm=200),), 30, "ca_thin", "hotmelt_low", "bopp_tape_std")
    glues = {o.recipe.glue for o in found.options}
    assert "hotmelt_low" in glues and not glues & {"ca_thin", "ca_medium", "solvent_rubbery_clear"}


def test_L4_a_closed_crack_to_the_rod_takes_no_contact_glue():
    crack = CrackMark(id="m", at_mm=200, face="upper", from_percent=10, to_percent=60, depth_mm=6)
    part = cored("epp_30", PAIR, FILM)
    assert "reaches Carbon rod 3 mm" in left(part, crack).says
    found = mending(part, (crack,), 60, "contact_foamsafe_clear", "solvent_rubbery_clear")
    assert all(o.recipe.crack_glue != "contact_foamsafe_clear" for o in found.options)
    assert "worked in" in words(found)
    assert all(any("window over the spar" in op.title for op in o.operations) for o in found.options)


def test_L5_a_broken_tube_is_sleeved_never_scarfed():
    mark = BarMark(id="m", of="spar", at_mm=200)
    hand = ("epoxy_5min", "carbon_rod_4", "polyester_thread_0.4", "contact_foamsafe_clear")
    offered = ways(cored("epp_30", TUBE, FILM), mark, at_hand=hand)
    assert "sleeve" in offered and not offered & {"scarf_bar", "sister"}
    found = mending(cored("epp_30", TUBE, FILM), (mark,), 90, *hand)
    sleeved = next(o for o in found.options if o.recipe.fixes[0].way == "sleeve")
    assert sleeved.recipe.of_splices == "epoxy_5min"
    assert "polyester_thread_0.4" in {n.key for n in sleeved.needs}


def test_L6_of_two_bars_broken_at_one_station_not_both_are_spliced():
    offered = ways(cored("epp_30", PAIR, FILM), BarMark(id="m", of="spar", at_mm=200))
    assert {"sister", "replace_bar", "sleeve_one"} <= offered and not offered & {"sleeve", "scarf_bar"}
    part = cored("epp_30", PAIR, FILM)
    mark = BarMark(id="m", of="spar", at_mm=200)
    found = mending(part, (mark,), 1440, "epoxy_30min", "carbon_tube_4_3", "carbon_rod_3", "polyester_thread_0.4")
    assert found.options
    broken = part.model_copy(update={"damage": (mark,)})
    fix = next(f for f in fixes_for(mark, broken, ("carbon_tube_4_3",)) if f.way == "sleeve_one")
    after = mended(broken, Recipe(fixes=(fix,), glue="epoxy_30min"))
    bars = [la for la in after.layers if isinstance(la, BarLayer)]
    assert sorted((b.place, bool(b.sleeve), len(b.splices)) for b in bars) == [("lower", True, 1), ("upper", False, 0)]
    assert [s.key for s in steps_of(fix, mark, broken)][-2:] == ["sleeve_over", "replace_bar"]
    assert "one sleeved, a new spar for the other" in fix_words(fix, mark)


def test_L6_two_bars_marked_one_by_one_are_not_both_spliced_either():
    part = cored("epp_30", PAIR, FILM)
    marks = tuple(BarMark(id=side, of="spar", at_mm=200 + n, side=side) for n, side in enumerate(("upper", "lower")))
    assert "sleeve" in ways(part, marks[0])
    found = mending(part, marks, 1440, "epoxy_30min", "carbon_tube_4_3", "carbon_rod_3")
    for option in found.options:
        assert sum(f.way in ("sleeve", "scarf_bar") for f in option.recipe.fixes) <= 1, option.says


def test_L7_a_snapped_board_wing_is_strapped_and_never_pinned():
    part = CONSTRUCTIONS["folded_wing"].part()
    at = BreakMark(id="m", at_mm=250)
    assert left(part, at).says.startswith("Do not fly: broken through, 250 mm")
    offered = ways(part, at)
    assert {"doubler", "doubler_both", "straps", "straps_both"} <= offered
    assert not offered & {"pins", "scarf", "sister", "warm", "paper", "none"}
    found = mending(part, (at,), 120, "aliphatic_wood", "craftstick_10x2", "foamboard_light_5", "kraft_pva")
    assert all(f.over != "none" for o in found.options for f in o.recipe.fixes)


def test_L8_a_kinked_box_is_not_warmed_and_gets_more_than_filler():
    part = CONSTRUCTIONS["box_fuselage"].part()
    marks = BentMark(id="m", at_mm=200), CreaseMark(id="c", at_mm=200, face="lower")
    assert left(part, *marks).fly == "no"
    offered = ways(part, *marks)
    assert {"doubler_both", "paper"} <= offered and not offered & {"straighten", "warm", "fill", "graft"}


def test_L9_twin_wall_takes_rods_in_its_flutes_and_no_glue_that_does_not_stick():
    part = CONSTRUCTIONS["fluted_wing"].part()
    crease = CreaseMark(id="m", at_mm=200)
    assert ways(part, crease) >= {"flute_rods", "straps"} and not ways(part, crease) & {"pins", "warm", "paper"}
    found = mending(part, (crease,), 60, "carbon_rod_3", "ca_medium", "hotmelt_high", "epoxy_30min")
    glues = {o.recipe.glue for o in found.options}
    assert glues <= {"hotmelt_high", "ca_primer", "solvent_rubbery_structural_pp"}


def test_L10_a_split_boom_is_wrapped_and_a_kinked_one_is_broken():
    boom = CONSTRUCTIONS["tube_boom"].part()
    tube = boom.layers[0].id
    split = BarMark(id="m", of=tube, at_mm=200, how="split")
    assert "is split: bind it first" in left(boom, split).says
    assert "wrap_bar" in ways(boom, split) and "sleeve" not in ways(boom, split)
    kink = next(o.mark for o in offers_at(boom, 200.0, 50.0) if o.says == "Kinked here")
    assert isinstance(kink, BarMark) and kink.of == tube
    assert "is broken, 200 mm from the root" in left(boom, kink).says
    assert "wrap_bar" not in ways(boom, kink) and "replace_bar" in ways(boom, kink)


@pytest.mark.parametrize(
    ("part", "whole", "warmed"),
    [
        (cored("epp_30", TUBE), (), False),
        (cored("epp_30", TUBE), ("spar",), True),
        (cored("epp_30"), (), True),
        (cored("xps_30"), (), False),
    ],
    ids=["tube nobody saw", "tube seen whole", "no tube", "extruded"],
)
def test_L12_a_bent_nose_is_warmed_where_no_bar_may_have_cracked_in_it(part, whole, warmed):
    bent = BentMark(id="m", tip_mm=8, whole=whole)
    assert ("straighten" in ways(part, bent)) == warmed
    if part.layers and not whole:
        found = mending(part, (bent,), 60)
        assert "look first" in " ".join(left(part, bent).grounds) and "must not fly" in found.says


def test_L13_a_crushed_nose_of_extruded_foam_is_grafted_from_scrap_and_never_warmed():
    part = cored("xps_30", PAIR)
    crush = CrushMark(id="m", start_mm=200, end_mm=260, face="front", depth_mm=8)
    offered = ways(part, crush, at_hand=("xps_30", "epoxy_30min"))
    assert {"graft", "fill"} <= offered and "warm" not in offered
    _, whole = hurt(part, crush)
    assert all(not piece.donors for piece in pieces_of(whole, []))


def test_L14_a_cloth_that_is_off_over_its_cap_grounds_and_is_laid_in_resin():
    part = CONSTRUCTIONS["cloth_wing"].part()
    off = PeeledMark(id="m", of="cloth", start_mm=200, end_mm=320)
    said = left(part, off)
    assert said.fly == "no" and "is off over" in said.says
    assert not ways(part, off) & {"tape_one", "tape_both", "warm"}
    found = mending(part, (off,), 2880, "bopp_tape_std", "glass_49", "epoxy_laminating")
    assert all("epoxy_laminating" in {n.key for n in o.needs} for o in found.options)
    assert min(o.fly_min.typ for o in found.options) > 600  # its resin has to set


def test_L16_what_cannot_be_set_by_the_launch_is_said_first():
    at = BreakMark(id="m", at_mm=200, whole=("spar", "film"))
    found = mending(cored("epp_30", PAIR, FILM), (at,), 20, "epoxy_30min")
    assert found.says.startswith("✕ No repair is ready for the full load within 20 min.")
    assert "quick" not in [k for o in found.options for k in o.kinds]
    own = next(o for o in found.options if o.recipe.glue == "epoxy_30min")
    assert own.fly_min.typ > 239 and own.launch_percent.typ == 0
