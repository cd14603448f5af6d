"""How hot the iron is: the review's table, thin sheet and edges, nothing hotter than the foam stands."""

from __future__ import annotations

import pytest

from fletcher.core.adhesion.adhesives import FACED, foam_families
from fletcher.core.document.airframe import FilmLayer
from fletcher.core.making.ironing import iron_for, irons_of
from fletcher.core.materials.tables import reference
from fletcher.core.studies.constructions import CONSTRUCTIONS

FACES = sorted({*foam_families().values(), *FACED})
FILMS = ("lamfilm_38", "lamfilm_75", "coverfilm_lowtemp_pet", "coverfilm_light", "coverfilm_lowtemp_po",
         "coverfilm_standard")  # fmt: skip


@pytest.mark.parametrize(
    ("film", "face", "tack", "bond", "shrink", "verdict"),
    [
        ("lamfilm_38", "EPP", 82, (95, 110), (105, 118), "good"),
        ("lamfilm_38", "EPO", 82, (84, 90), None, "marginal"),
        ("lamfilm_38", "PFB_PAPER", 82, (92, 105), (100, 105), "good"),
        ("coverfilm_lowtemp_po", "EPS", 78, (80, 88), None, "good"),
        ("coverfilm_standard", "EPP", 105, (115, 120), None, "marginal"),
    ],
)
def test_a_thick_part_is_ironed_as_the_table_says(film, face, tack, bond, shrink, verdict):
    found = iron_for(film, face, 20)
    assert (found.tack_C, found.bond_C, found.shrink_C, found.verdict) == (tack, bond, shrink, verdict)
    assert "Prime" in found.says if verdict == "marginal" else "rime" not in found.says
    assert ("No shrinking pass" in found.says) == (shrink is None)


@pytest.mark.parametrize("film", FILMS)
@pytest.mark.parametrize("face", FACES)
def test_no_iron_is_hotter_than_what_lies_beneath_it_and_thinner_is_never_hotter(film, face):
    found = [iron_for(film, face, t) for t in (20, 6, 5, 3, 2)]
    if found[0] is None:
        assert all(f is None for f in found)
        return
    limits = [f.limit_C for f in found]
    assert limits == sorted(limits, reverse=True) and limits[0] == limits[1] and limits[2] == limits[3]
    assert limits[1] - limits[2] <= 5 and limits[-1] == found[0].edge_C
    for f in found:
        for between in (f.bond_C, f.shrink_C):
            assert between is None or between[0] <= between[1] <= f.limit_C
        assert (f.set_C is None) == (f.verdict == "avoid") == (f.tack_C is None)
        assert f.set_C is None or f.tack_C <= f.set_C <= f.limit_C - 2
        assert f.set_shrink_C is None or f.shrink_C[0] <= f.set_shrink_C <= f.limit_C - 2


@pytest.mark.parametrize(
    ("film", "face", "thick", "probe", "set_C", "shrink", "verdict"),
    [
        ("lamfilm_38", "EPP", 20, True, 102, 111, "good"),
        ("lamfilm_38", "EPP", 4, True, 102, 111, "good"),
        ("lamfilm_38", "EPP", 2.5, True, 102, 110, "good"),
        ("lamfilm_38", "EPS", 15, True, 86, None, "marginal"),
        ("lamfilm_38", "EPS", 4, True, None, None, "avoid"),
        ("lamfilm_75", "XPS", 6, True, 85, None, "marginal"),
        ("coverfilm_lowtemp_po", "EPS", 2, True, 78, None, "marginal"),
        ("lamfilm_38", "EPS", 15, False, None, None, "avoid"),
    ],
)
def test_the_iron_is_set_as_worked_check_i1_says(film, face, thick, probe, set_C, shrink, verdict):
    found = iron_for(film, face, thick, probe)
    assert (found.set_C, found.set_shrink_C, found.verdict) == (set_C, shrink, verdict)


def test_a_film_that_only_tacks_says_so():
    assert "only tacks" in iron_for("lamfilm_75", "XPS", 6).says and iron_for("lamfilm_75", "XPS", 6).bond_C == (87, 87)
    assert "only tacks" in iron_for("coverfilm_lowtemp_po", "EPS", 2).says
    assert "only tacks" not in iron_for("lamfilm_38", "EPS", 15).says


def test_a_thicker_film_of_a_kind_is_ironed_hotter_on_the_same_foam():
    thin, middle, thick = (iron_for(f"lamfilm_{t}", "EPP", 20) for t in (38, 75, 125))
    assert [f.tack_C for f in (thin, middle, thick)] == [82, 85, 89]
    assert [f.bond_C for f in (thin, middle, thick)] == [(95, 110), (98, 113), (102, 117)]
    assert thin.limit_C == thick.limit_C and thin.shrink_C == thick.shrink_C == (105, 118)
    assert [f.set_C for f in (thin, middle, thick)] == [102, 105, 109]


def test_what_cannot_be_ironed_says_what_to_do_instead():
    sheet = iron_for("coverfilm_standard", "EPS", 20)
    assert sheet.verdict == "avoid" and sheet.bond_C is None and "88 °C" in sheet.says and "contact" in sheet.says
    thin = iron_for("lamfilm_75", "EPS", 2)
    assert thin.verdict == "avoid" and "80 °C" in thin.says
    assert iron_for("bopp_tape_std", "EPP", 20) is None and iron_for("lamfilm_75", "PVC", 20) is None


def test_no_shrinking_pass_on_any_polystyrene_or_polyethylene():
    for film in FILMS:
        for face in ("EPS", "XPS", "PS_SHEET", "PFB_CORE", "EPO", "PE_FOAM"):
            found = iron_for(film, face, 20)
            assert found is None or found.shrink_C is None


def test_every_film_of_a_part_is_told_on_its_core_or_its_walls():
    bead = CONSTRUCTIONS["bead_wing"].part()
    (film,) = irons_of(bead, reference())
    assert film.bond_C[0] in (95, 98, 102) and "Bead foam" in film.beneath
    assert film.line_id in {la.id for la in bead.layers}
    folded = CONSTRUCTIONS["folded_wing"].part()
    assert irons_of(folded, reference()) == []
    covered = folded.model_copy(update={"layers": (*folded.layers, FilmLayer(id="f", skin="coverfilm_lowtemp_po"))})
    (paper,) = irons_of(covered, reference())
    assert "board" in paper.beneath and paper.limit_C == 100  # 4.8 mm: five less than 105
    off = FilmLayer(id="f", skin="coverfilm_lowtemp_po", enabled=False)
    assert irons_of(folded.model_copy(update={"layers": (*folded.layers, off)}), reference()) == []
