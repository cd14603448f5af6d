"""The steps in which stock comes: the next thinner and thicker of one kind, a ply, a width that a roll has."""

import pytest

from fletcher.core.document.airframe import BarLayer, CutLayer, FilmLayer, Laminate, Ply, StripLayer, WallLayer
from fletcher.core.document.stock_steps import (
    bar_ladder,
    foam_ladder,
    heavier,
    lighter,
    sheet_ladder,
    skin_ladder,
    steps,
    with_bar,
)

ROD = BarLayer(id="a", stock="carbon_rod_3")
WALL = WallLayer(id="a", sheet="flutedpp_3")
TAPE = StripLayer(id="a", skin="filament_tape_uni", width_mm=25)
PLY = Laminate(plies=(Ply(cloth="glass_49"),))


def changed(found, layer):
    """What each step changes of a line."""
    before = layer.model_dump()
    return [{k: v for k, v in other.model_dump().items() if v != before[k]} for other, _ in found]


def test_bars_grow_by_the_next_two_and_thin_by_the_next():
    assert changed(heavier(ROD), ROD) == [{"stock": "carbon_rod_4"}, {"stock": "carbon_rod_5"}]
    assert changed(lighter(ROD), ROD) == [{"stock": "carbon_rod_2.5"}]
    thick, thin = ROD.model_copy(update={"stock": "carbon_rod_8"}), ROD.model_copy(update={"stock": "carbon_rod_0.8"})
    assert list(heavier(thick)) == [] and list(lighter(thin)) == []
    assert [s for _, s in lighter(ROD)] == ["use Carbon rod 2.5 mm instead"]


def test_a_weighed_bar_is_weighed_no_more_when_it_is_another():
    weighed = ROD.model_copy(update={"weighed_g_per_m": 12.0})
    other = with_bar(weighed, bar_ladder("carbon_rod_4")[0])
    assert other.weighed_g_per_m is None and other.stock == "carbon_rod_0.8"
    same = next(b for b in bar_ladder("carbon_rod_3") if b.key == "carbon_rod_3")
    assert with_bar(weighed, same).weighed_g_per_m == 12.0


def test_sheets_step_within_their_family_and_build():
    assert [s.key for s in sheet_ladder("flutedpp_3")] == ["flutedpp_2", "flutedpp_3", "flutedpp_4"]
    weighed = WALL.model_copy(update={"weighed_g_per_m2": 500.0})
    assert changed(heavier(weighed), weighed) == [{"sheet": "flutedpp_4", "weighed_g_per_m2": None}]
    assert changed(lighter(weighed), weighed) == [{"sheet": "flutedpp_2", "weighed_g_per_m2": None}]
    assert list(heavier(WALL.model_copy(update={"sheet": "flutedpp_4"}))) == []
    two = WALL.model_copy(update={"plies": 2, "sheet": "flutedpp_2"})
    assert changed(lighter(two), two) == [{"plies": 1}]
    assert changed(steps(WALL), WALL) == [{"sheet": "flutedpp_2"}, {}, {"sheet": "flutedpp_4"}]


def test_strips_step_by_weight_by_ply_and_by_the_width_of_a_roll():
    wide = {*(w for (w,) in ((c["width_mm"],) for c in changed(heavier(TAPE), TAPE) if "width_mm" in c))}
    assert len(wide) == 1 and min(wide) > 25
    assert {"plies": 2} in changed(heavier(TAPE), TAPE)
    assert not any("plies" in c for c in changed(lighter(TAPE), TAPE))
    twice = TAPE.model_copy(update={"plies": 2})
    assert {"plies": 1} in changed(lighter(twice), twice)
    assert not any("plies" in c for c in changed(heavier(twice), twice))  # nobody lays three tapes on one another


@pytest.mark.parametrize(("width", "narrower", "wider"), [(5, None, 8), (25, 20, 30), (200, 150, None)])
def test_a_laminate_is_cut_to_usual_widths(width, narrower, wider):
    strip = StripLayer(id="a", skin=PLY, width_mm=width, end_width_mm=width / 2)

    def widths(found):
        return [c["width_mm"] for c in changed(found, strip) if "width_mm" in c]

    assert widths(lighter(strip)) == ([] if narrower is None else [narrower])
    assert widths(heavier(strip)) == ([] if wider is None else [wider])
    if wider is not None:
        tapered = next(c for c in changed(heavier(strip), strip) if "width_mm" in c)
        assert tapered["end_width_mm"] == pytest.approx(wider / 2)


def test_a_film_comes_in_weights_and_plies():
    film = FilmLayer(id="a", skin="lamfilm_75")
    assert [s.key for s in skin_ladder("lamfilm_75")] == ["lamfilm_38", "lamfilm_75", "lamfilm_125"]
    assert changed(heavier(film), film) == [{"skin": "lamfilm_125"}, {"plies": 2}]
    assert changed(lighter(film), film) == [{"skin": "lamfilm_38"}]
    assert [c.get("plies", 1) for c in changed(steps(film), film)] == [1, 2, 3, 4, 5, 6]
    assert [s for _, s in steps(film)][:2] == ["one ply", "2 plies"]


@pytest.mark.parametrize(
    ("foam", "ladder"),
    [
        ("xps_40", ["xps_30", "xps_40"]),
        ("eps_20", ["eps_12", "eps_15", "eps_20", "eps_25", "eps_30"]),
        ("xps_sheet_3", ["xps_sheet_3"]),  # the number is a thickness: nothing of another density is that sheet
        ("balsa_block_light", ["balsa_block_light"]),
    ],
)
def test_foams_step_by_density_where_their_name_tells_it(foam, ladder):
    assert [f.key for f in foam_ladder(foam)] == ladder


def test_what_is_cut_away_has_no_steps():
    assert list(heavier(CutLayer(id="a"))) == list(lighter(CutLayer(id="a"))) == list(steps(CutLayer(id="a"))) == []
