"""What can be marked where: only what the construction has, placed where it was pressed, and never in error."""

from __future__ import annotations

import pytest

from fletcher.core.document.airframe import Airframe, HingeLayer, Part
from fletcher.core.document.damage import BentMark, CreaseMark, MissingMark, OpenedMark
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import samples
from fletcher.core.repair.inspection import Left, what_is_left
from fletcher.core.repair.mark_menu import construction_of, offers_at
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.validation.airframe import check_part

BUILT = {
    "bead_wing": "cored", "cut_core": "cored", "plate_wing": "sheet", "folded_wing": "folded",
    "sheeted_wing": "sheeted", "cloth_wing": "cloth", "fluted_wing": "twin_wall", "moulded_wing": "moulded",
    "tail_plate": "sheet", "board_tail": "box", "control_surface": "surface", "box_fuselage": "box",
    "crossed_plates": "box", "doubled_plate": "sheet", "formers_skin": "formers", "keel_skin": "formers",
    "tube_boom": "boom", "plank": "cored",
}  # fmt: skip


def part(key: str) -> Part:
    return CONSTRUCTIONS[key].part()


def left(key: str, *marks, p: Part | None = None) -> Left:
    way, p = CONSTRUCTIONS[key], p or part(key)
    p = p.model_copy(update={"damage": marks})
    assert check_part(p, reference()) == []
    airframe = Airframe(
        name="x", all_up_mass_g=way.all_up_mass_g, top_speed_m_s=way.top_speed_m_s, parts=(p,)
    )  # fmt: skip
    with samples(0):
        return what_is_left(airframe, p)


def says(key: str, at: float = 100.0, percent: float = 40.0) -> list[str]:
    return [o.says for o in offers_at(part(key), at, percent)]


def test_every_construction_is_known_for_what_it_is():
    assert {key: construction_of(part(key)) for key in CONSTRUCTIONS} == BUILT


@pytest.mark.parametrize("key", CONSTRUCTIONS)
def test_whatever_is_offered_can_be_marked_and_is_answered(key: str):
    """No mark raises a figure, and a part that is snapped right through is never flown."""
    p, seen = part(key), set()
    for share, percent in ((0.35, 40.0), (0.5, 4.0), (0.6, 97.0)):
        for offer in offers_at(p, share * p.span_mm, percent):
            if offer.says in seen:
                continue
            seen.add(offer.says)
            told = left(key, offer.mark)
            assert 0 <= told.strength_percent.typ <= 100 and 0 <= told.bend_percent.typ <= 100, offer.says
            assert told.twist_percent is None or told.twist_percent.typ <= 100
            assert told.says.startswith(("Do not fly: ", "Only after ", "Nothing found ", "Strong enough ")), told.says
            if offer.says == "Snapped right through":
                assert told.fly == "no"
            if any(a.found == "open" for a in told.asked):
                assert told.fly == "no"


@pytest.mark.parametrize(
    ("key", "has", "has_not"),
    [
        ("bead_wing", "Crack from the upper face", "Creased across, upper wall"),
        ("folded_wing", "Nose fold split open", "Dent in the upper face"),
        ("fluted_wing", "Creased across the flutes, upper wall", "Crack from the upper face"),
        ("moulded_wing", "Seam open at the nose", "Nose fold split open"),
        ("tube_boom", "Kinked here", "Skin off or torn: "),
        ("box_fuselage", "Front corner split along", "Seam open at the nose"),
        ("plate_wing", "A hole right through", "Dent in the upper face"),
    ],
)
def test_menus_offer_only_what_the_part_can_have(key: str, has: str, has_not: str):
    told = says(key)
    assert has in told and not any(text.startswith(has_not) for text in told)


def test_what_is_pressed_near_an_edge_is_a_mark_of_that_edge():
    assert "Crushed nose" in says("bead_wing", percent=5) and "Crushed rear edge" in says("bead_wing", percent=96)
    assert "Dent in the upper face" in says("bead_wing", percent=50)
    for percent, face in ((5.0, "front"), (96.0, "rear")):
        mark = next(o.mark for o in offers_at(part("cut_core"), 300, percent) if isinstance(o.mark, MissingMark))
        assert mark.face == face and mark.start_mm <= 300 <= mark.end_mm


def test_with_no_place_along_the_chord_edges_and_faces_are_offered_each_once():
    told = [o.says for o in offers_at(part("bead_wing"), 100)]
    assert len(told) == len(set(told))
    assert {"Crushed nose", "Crushed rear edge", "Dent in the upper face", "Snapped right through"} <= set(told)


def test_a_mark_lies_where_it_was_pressed_on_the_part_and_has_a_free_name():
    p = part("bead_wing")
    first = offers_at(p, 222.0, 30)[0].mark
    assert first.at_mm == 222.0 and first.id == "mark-1"
    again = offers_at(p.model_copy(update={"damage": (first,)}), 9e9, -5)[0].mark
    assert again.id == "mark-2" and again.at_mm == p.span_mm - 1


def test_a_hinge_is_offered_as_torn_only_where_there_is_one_and_a_bend_once():
    p = part("control_surface")
    assert not any("Hinge" in o.says for o in offers_at(p, 100))
    hung = p.model_copy(update={"layers": (*p.layers, HingeLayer(id="hinge", name="Tape hinge"))})
    torn = next(o.mark for o in offers_at(hung, 100) if o.says == "Hinge torn: Tape hinge")
    assert torn.end_mm - torn.start_mm == pytest.approx(60)
    bent = p.model_copy(update={"damage": (BentMark(id="b", tip_mm=4),)})
    assert any("bent" in o.says for o in offers_at(p, 100)) and not any("bent" in o.says for o in offers_at(bent, 100))


def test_a_crease_costs_strength_and_a_wider_one_more():
    held = [
        left("moulded_wing", *marks).strength_percent.typ
        for marks in (
            (),
            (CreaseMark(id="c", at_mm=200, from_percent=30, to_percent=60),),
            (CreaseMark(id="c", at_mm=200),),
        )
    ]
    assert held[0] == 100 and held[0] > held[1] > held[2] > 5
    assert left("folded_wing", CreaseMark(id="c", at_mm=200)).says.startswith("Do not fly: a wall is creased across")


def test_an_open_nose_twists_more_the_longer_it_is_open():
    stiff = [
        left("folded_wing", OpenedMark(id="o", edge="front", start_mm=100, end_mm=100 + long)).twist_percent.typ
        for long in (20, 60, 180)
    ]
    assert 100 > stiff[0] > stiff[1] > stiff[2]


def test_marks_of_walls_are_refused_on_a_core_and_marks_of_a_core_on_walls():
    for mark in (CreaseMark(id="c", at_mm=100), OpenedMark(id="c", start_mm=9, end_mm=60)):
        problems = check_part(part("bead_wing").model_copy(update={"damage": (mark,)}), reference())
        assert [p.path for p in problems] == ["part.damage[0].kind"] and "hollow" in problems[0].message
    crease = CreaseMark(id="c", at_mm=100, from_percent=60, to_percent=40)
    problems = check_part(part("folded_wing").model_copy(update={"damage": (crease,)}), reference())
    assert [p.path for p in problems] == ["part.damage[0].to_percent"]


def offered(key: str, name: str, at: float = 300.0, percent: float = 50.0, p: Part | None = None):
    return next(o.mark for o in offers_at(p or part(key), at, percent) if o.says.startswith(name))


def test_marks_have_the_size_that_the_place_suggests():
    """A bead half of 600 × 180 to 140, 22 to 16 deep: at 300 mm a chord of 160 and 19 of depth."""
    crack = offered("bead_wing", "Crack from the upper face")
    assert (crack.from_percent, crack.to_percent, crack.depth_mm) == (37.5, 62.5, 7.6)
    edge = offered("bead_wing", "Crack in from the front edge", percent=3)
    assert edge.face == "front" and edge.depth_mm == 40.0
    dent = offered("bead_wing", "Dent in the lower face")
    assert (dent.start_mm, dent.end_mm, dent.face, dent.depth_mm) == (270.0, 330.0, "lower", 4.0)
    hole = offered("bead_wing", "A hole in the upper face", percent=80)
    assert (hole.from_percent, hole.to_percent, hole.depth_mm) == (67.5, 92.5, 7.6)
    assert offered("bead_wing", "A hole in the upper face", percent=20).from_percent == 7.5
    nose, rear = (offered("bead_wing", f"Piece of the {e}", percent=p) for e, p in (("nose", 2), ("rear edge", 98)))
    assert (nose.depth_mm, rear.depth_mm) == (15.0, 15.0)
    assert offered("bead_wing", "Crushed nose", percent=2).depth_mm == 6.0


def test_at_the_ends_of_a_part_a_stretch_stays_on_it():
    p = part("bead_wing")
    first, last = (offered("bead_wing", "Dent in the upper face", at=at) for at in (0.0, 600.0))
    assert (first.start_mm, first.end_mm) == (0.0, 60.0)
    assert (last.start_mm, last.end_mm) == (540.0, 600.0) and p.span_mm == 600
    short = p.model_copy(update={"span_mm": 100.0, "layers": ()})
    dent = offered("bead_wing", "Dent in the upper face", at=50.0, p=short)
    assert dent.end_mm - dent.start_mm == 25.0


def test_lines_are_offered_where_they_lie_the_nearest_first():
    p = part("bead_wing")
    spar = next(la for la in p.layers if la.type == "bar")
    end = 400.0
    other = spar.model_copy(update={"id": "aft", "name": "Aft bar", "root_percent": 60.0, "tip_percent": 60.0})
    ended = spar.model_copy(update={"name": "Spar", "end_mm": end})
    p = p.model_copy(update={"layers": (ended, other, *(la for la in p.layers if la.id != spar.id))})
    names = [o.says for o in offers_at(p, 300, 55) if o.says.startswith("Broken: ")]
    assert names == ["Broken: Aft bar", "Broken: Spar"]
    assert [o.says for o in offers_at(p, 300, 32) if o.says.startswith("Broken: ")] == names[::-1]
    for at, has in ((end, True), (end + 1, False)):
        assert any(o.says == "Broken: Spar" for o in offers_at(p, at, 50)) is has
    off = p.model_copy(update={"layers": tuple(la.model_copy(update={"enabled": False}) for la in p.layers)})
    assert not any(":" in o.says for o in offers_at(off, 300, 50))
    pulled = offered("bead_wing", "Pulled out from here on", p=p)
    assert pulled.how == "pulled_out" and pulled.of == "aft"
    assert not any(o.says.startswith("Pulled out") for o in offers_at(part("tube_boom"), 100, 50))


def test_a_skin_is_offered_as_far_as_it_lies_under_the_place():
    p = part("bead_wing")
    film = next(la for la in p.layers if la.type == "film").model_copy(update={"name": "Film", "end_mm": 310.0})
    p = p.model_copy(update={"layers": (film,)})
    mark = offered("bead_wing", "Skin off or torn: Film", p=p)
    assert (mark.start_mm, mark.end_mm, mark.of) == (270.0, 310.0, film.id)
    web = next(la for la in part("folded_wing").layers if getattr(la, "face", "") == "web")
    loose = offered("folded_wing", "Spar box or web loose", at=200)
    assert loose.of == web.id or loose.of in {la.id for la in part("folded_wing").layers}
    assert not any(o.says.startswith("Film or tape") for o in offers_at(part("folded_wing"), 200, 50))


def test_sides_of_a_fuselage_are_creased_where_they_were_pressed():
    left_side, right = (offered("box_fuselage", "Creased across, the", percent=p) for p in (4, 96))
    assert (left_side.face, right.face) == ("front", "rear")
    assert not any("side" in o.says for o in offers_at(part("box_fuselage"), 300, 50))
    assert not any("side" in o.says for o in offers_at(part("folded_wing"), 300, 4))
    kink = offered("box_fuselage", "Kinked here")
    assert kink.at_mm == 300 and offered("bead_wing", "Stayed bent or twisted").at_mm is None


def test_seams_along_an_edge_are_offered_at_that_edge_or_both():
    told = [o.says for o in offers_at(part("moulded_wing"), 300, 3)]
    assert "Seam open at the nose" in told and "Seam open at the rear edge" not in told
    assert offered("moulded_wing", "Seam open at the rear edge", percent=50).edge == "rear"
    assert {"Front corner open", "Rear corner open"} <= set(says("fluted_wing"))


def test_a_shallow_part_has_shallow_dents_and_a_web_alone_makes_no_sheeted_wing():
    p = part("bead_wing").model_copy(update={"root_thickness_mm": 10.0, "tip_thickness_mm": 10.0})
    assert offered("bead_wing", "Dent in the upper face", p=p).depth_mm == 3.0
    thin = p.model_copy(update={"root_thickness_mm": 0.6, "tip_thickness_mm": 0.6})
    assert offered("bead_wing", "Dent in the upper face", p=thin).depth_mm == 0.3
    web = next(la for la in part("sheeted_wing").layers if getattr(la, "face", "") == "web")
    assert construction_of(p.model_copy(update={"layers": (*p.layers, web)})) == "cored"


def test_a_line_lies_from_its_first_to_its_last_millimetre_and_a_hinge_shorter_than_one_is_none():
    p = part("bead_wing")
    spar = next(la for la in p.layers if la.type == "bar").model_copy(update={"start_mm": 300.0, "name": "Spar"})
    p = p.model_copy(update={"layers": (spar,)})
    assert any(o.says == "Broken: Spar" for o in offers_at(p, 300.0, 30))
    assert not any(o.says == "Broken: Spar" for o in offers_at(p, 299.9, 30))
    surface = part("control_surface")
    for end, torn in ((70.5, False), (71.0, True)):
        hinge = HingeLayer(id="h", name="Hinge", end_mm=end)
        hung = surface.model_copy(update={"layers": (hinge,)})
        assert any(o.says.startswith("Hinge torn") for o in offers_at(hung, 100.0, 50)) is torn  # from 70 on
