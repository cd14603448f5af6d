"""The table of own glues on own pairs, and minutes that count from taking up the tube."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.adhesion.adhesives import adhesives
from fletcher.core.adhesion.glue_table import AREA_CM2, GluePair, TableWish, glue_table
from fletcher.core.adhesion.joint_capacity import GlueNeed, seam_of
from fletcher.core.adhesion.readiness import ready_after
from fletcher.core.adhesion.selection import SPREAD_CM2_PER_MIN, closed_after, glue, put_on
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.materials.tables import reference

STOCK = reference()
BEADS = GluePair(one="epp_30", other="epp_30")


def table(glues, pairs=(BEADS,), **changes):
    return glue_table(TableWish(glues=glues, pairs=pairs, **changes), STOCK)


def cell(key, pair=BEADS, **changes):
    return table((key,), (pair,), **changes).rows[0].cells[0]


def test_coating_and_airing_come_before_closing(proof):
    """Both faces of 60 cm² take two minutes of coating; contact glue then airs."""
    a, need = adhesives()["contact_foamsafe_clear"], GlueNeed(area_cm2=60, schools={})
    proof("coat two faces, then air", closed_after(a, need, "flashed"), 2.0 + a.flash_min.typ, 1e-12)
    proof("wet: not aired", closed_after(a, need, "wet"), 120 / SPREAD_CM2_PER_MIN, 1e-12)


@pytest.mark.parametrize("key", sorted(adhesives()))
def test_a_joint_holds_nothing_before_it_is_closed_and_its_curve_counts_from_there(key):
    a = adhesives()[key]
    j = seam_of(GlueNeed(area_cm2=60, schools={}, technique=None), STOCK)
    technique, put, minutes = put_on(a, j, (1.0, 5.0, 60.0))
    before = closed_after(a, j.need, technique)
    assert list(minutes[-3:]) == [max(m - before, 0.0) for m in (1.0, 5.0, 60.0)]
    held = put.held[0]
    assert held[-3] <= held[-2] <= held[-1] <= held[8] * (1 + 1e-9)
    assert (held[-3] == 0) == (before >= 1.0)


def test_what_takes_longer_to_air_is_later_in_the_ranking_of_a_hurried_builder():
    soon = glue(GlueNeed(within_min=5, hold_N=30, technique="flashed", schools={}), STOCK)
    contact = next(c for c in soon.choices if c.key == "contact_neoprene_solvent")
    assert adhesives()["contact_neoprene_solvent"].flash_min.typ >= 5
    assert contact.then_N.high == 0 and contact.meets == "later"
    assert "after you take up the tube" in soon.says


def test_a_cell_tells_what_the_chooser_tells_of_the_same_joint():
    wish = {"loaded": "shear", "width_mm": 20.0, "workshop_C": 20.0, "heat_C": 45.0}
    for key in ("contact_foamsafe_clear", "epoxy_30min", "hotmelt_low", "pu_foaming_white"):
        found = cell(key, minutes=(10, 60, 1440), **wish)
        for n, minutes in enumerate((10, 60, 1440)):
            need = GlueNeed(area_cm2=AREA_CM2, gap_mm=0, hold_N=0, within_min=minutes, schools={}, **wish)
            same = next(c for c in glue(need, STOCK).choices if c.key == key)
            assert found.holds_N[n].typ == pytest.approx(same.then_N.typ / AREA_CM2, rel=1e-9)
            assert found.holds_N[n].low <= found.holds_N[n].typ <= found.holds_N[n].high


def test_the_time_to_hold_itself_and_to_be_loaded_include_coating_and_airing(proof):
    a, found = adhesives()["contact_foamsafe_clear"], cell("contact_foamsafe_clear")
    before = AREA_CM2 * 2 / SPREAD_CM2_PER_MIN + a.flash_min.typ
    proof("fixed", found.fixed_min, before + ready_after(a.key, "fixed", 20.0, 20.0), 1e-12)
    proof("loaded", found.loaded_min, before + ready_after(a.key, "loaded", 20.0, 20.0), 1e-12)
    cold = cell("epoxy_30min", workshop_C=1)
    assert cold.fixed_min is None and cold.loaded_min is None and cold.state == "no"


@pytest.mark.parametrize(
    ("key", "pair", "state", "says"),
    [
        ("ca_thin", GluePair(one="eps_20", other="eps_20"), "no", "dissolves"),
        ("epoxy_5min", GluePair(one="flutedpp_3", other="flutedpp_3"), "no", "not hold"),
        ("solvent_rubbery_clear", GluePair(one="eps_20", other="eps_20"), "try_first", "scrap"),
        ("epoxy_5min", BEADS, "poor", "heavy"),
        ("contact_foamsafe_clear", BEADS, "good", ""),
        ("aliphatic_wood", GluePair(one="foamboard_light_5", other="wood"), "good", "paper"),
    ],
)
def test_a_cell_says_whether_a_glue_may_be_used_and_why_not(key, pair, state, says):
    found = cell(key, pair)
    assert found.state == state and says in found.says


def test_the_best_of_a_pair_is_the_one_that_holds_most_at_the_last_time_of_those_that_may_be_used():
    pairs = (BEADS, GluePair(one="eps_20", other="eps_20"), GluePair(one="flutedpp_3", other="flutedpp_3"))
    glues = ("ca_thin", "contact_foamsafe_clear", "hotmelt_low", "epoxy_30min")
    found = table(glues, pairs)
    assert [r.key for r in found.rows] == list(glues) and len(found.pairs) == 3
    for n, best in enumerate(found.best):
        usable = {r.key: r.cells[n].holds_N[-1].typ for r in found.rows if r.cells[n].state == "good"}
        assert best == (max(usable, key=usable.get) if usable else None)
    assert table(("ca_thin",), (pairs[1],)).best == [None]
    assert found.pairs[0].endswith("to itself")


def test_the_order_of_the_glues_is_the_builders_and_a_glue_named_twice_stands_once():
    found = table(("hotmelt_low", "epoxy_5min", "hotmelt_low"))
    assert [r.key for r in found.rows] == ["hotmelt_low", "epoxy_5min"]


@pytest.mark.parametrize(
    ("changes", "path"),
    [
        ({"glues": ("epoxy_5min", "spit")}, "glues[1]"),
        ({"glues": ("epoxy_5min",), "pairs": (BEADS, GluePair(one="epp_30", other="moon"))}, "pairs[1].other"),
        ({"glues": ("epoxy_5min",), "pairs": (GluePair(one="film", other="film"),)}, "pairs[0].other"),
    ],
)
def test_what_is_unknown_is_refused_by_its_place(changes, path):
    with pytest.raises(InvalidDocument) as refused:
        table(**changes)
    assert [p.path for p in refused.value.problems] == [path]


def test_a_wider_seam_between_closed_faces_dries_later():
    narrow, wide = (cell("aliphatic_wood", GluePair(one="xps_30", other="xps_30"), width_mm=w) for w in (10, 80))
    assert np.all([a.typ >= b.typ for a, b in zip(narrow.holds_N, wide.holds_N, strict=True)])
    assert narrow.holds_N[-1].typ > 1.5 * wide.holds_N[-1].typ
