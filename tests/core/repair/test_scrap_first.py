"""Glues that may eat a foam: never beside one at hand that is sure; else last, with a scrap test before all gluing."""

from __future__ import annotations

import pytest

from fletcher.core.adhesion.adhesives import tried_first
from fletcher.core.demo.crash import crashed_airframe
from fletcher.core.repair.candidates import glues_for
from fletcher.core.repair.operations import SCRAP_MIN, work_of
from fletcher.core.repair.phrasing import recipe_words
from fletcher.core.repair.recipe import Fix, Recipe
from tests.core.joints.test_joints import plank
from tests.core.repair.test_crash import marked

CEMENT = "solvent_rubbery_clear"
BREAK = {"kind": "break", "at_mm": 150}


def snapped(foam="eps_20"):
    part = marked(BREAK, airframe=plank(foam=foam)).parts[0]
    return part, Recipe(fixes=(Fix(mark=part.damage[0].id, way="reglue"),), glue=CEMENT)


def test_what_is_to_be_tried_first_is_told_by_the_table():
    assert tried_first(CEMENT, "eps_20") and not tried_first(CEMENT, "epp_30") and not tried_first(CEMENT, None)
    assert not tried_first("ca_thin", "eps_20"), "it dissolves it: never, tried or not"


def test_a_doubtful_glue_is_offered_last_and_only_where_nothing_sure_is_at_hand():
    part, _ = snapped()
    assert CEMENT not in glues_for(part) and CEMENT not in glues_for(part, ("hotmelt_low",))
    assert CEMENT not in glues_for(part, ("hotmelt_low", CEMENT))
    alone = glues_for(part, (CEMENT, "ca_thin"))
    assert alone[-1] == CEMENT and "ca_thin" not in alone and len(alone) > 1
    beads, _ = snapped("epp_30")
    assert glues_for(beads, (CEMENT,))[0] == CEMENT  # of bead foam it is sure


def test_its_first_operation_is_a_scrap_and_nothing_is_glued_before_that_has_set(proof):
    part, recipe = snapped()
    work = work_of(part, recipe, {}, "", [])
    titles = [o.title for o in work.operations]
    (n,) = [i for i, t in enumerate(titles) if t.startswith("Try ")]
    scrap, rest = work.operations[n], work.operations[n + 1 :]
    assert titles[n - 1] == "Make safe and measure" and "rubbery" in titles[n]
    assert "scraps of the same foam" in scrap.tools and scrap.checks and scrap.never and scrap.cautions
    ready = scrap.starts_min + SCRAP_MIN.typ + scrap.wait_min.typ
    assert all(o.starts_min >= ready - 1e-9 for o in rest)
    sure = work_of(part, recipe.model_copy(update={"glue": "hotmelt_low"}), {}, "", [])
    assert not any(o.title.startswith("Try ") for o in sure.operations)
    assert work.flies.typ >= ready


@pytest.mark.parametrize("foam", ["eps_20", "epp_30"])
def test_its_line_says_so(foam):
    part, recipe = snapped(foam)
    assert ("tried on a scrap first" in recipe_words(recipe, part)) == (foam == "eps_20")


def test_no_repair_of_the_demo_is_tried_on_a_scrap():
    part = crashed_airframe().parts[0]
    for key in glues_for(part):
        assert not tried_first(key, part.foam)
