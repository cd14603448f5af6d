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
        ("lamfilm_75", "EPP", 82, (95, 110), (105, 118), "good"),
        ("lamfilm_75", "EPO", 82, (84, 90), None, "marginal"),
        ("lamfilm_75", "PFB_PAPER", 82, (92, 105), (100, 105), "good"),
        ("coverfilm_lowtemp_po", "EPS", 78, (79, 88), None, "good"),
        ("coverfilm_standard", "EPP", 105, (115, 120), None, "marginal"),
    ],
)
def test_a_thick_part_is_ironed_as_the_table_says(film, face, tack, bond, shrink, verdict):
    found = iron_for(film, face, 20)
    assert (found.tack_C, found.bond_C, found.shrink_C, found.verdict) == (tack, bond, shrink, verdict)
    assert "Prime" in found.says if verdict == "marginal" else "Prime" not in found.says
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
        assert (f.bond_C is None) == (f.verdict == "avoid")
        assert f.tack_C is None or f.tack_C <= f.bond_C[0]


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
    assert film.bond_C == (95, 110) and "Bead foam" in film.beneath
    assert film.line_id in {la.id for la in bead.layers}
    folded = CONSTRUCTIONS["folded_wing"].part()
    assert irons_of(folded, reference()) == []
    covered = folded.model_copy(update={"layers": (*folded.layers, FilmLayer(id="f", skin="coverfilm_lowtemp_po"))})
    (paper,) = irons_of(covered, reference())
    assert "board" in paper.beneath and paper.limit_C == 100  # 4.8 mm: five less than 105
    off = FilmLayer(id="f", skin="coverfilm_lowtemp_po", enabled=False)
    assert irons_of(folded.model_copy(update={"layers": (*folded.layers, off)}), reference()) == []
