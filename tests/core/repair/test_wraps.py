"""Thread wraps: what is wound and what wets it are named, weighed into what is at hand, and set before the flight."""

from __future__ import annotations

import pytest

from fletcher.core.adhesion.adhesives import adhesives, suits_foam
from fletcher.core.adhesion.readiness import ready_after
from fletcher.core.document.airframe import BarLayer
from fletcher.core.materials.tables import reference
from fletcher.core.repair.operations import glues_of, needs_of, work_of
from fletcher.core.repair.phrasing import FIELD_BOX, is_known, name_of, recipe_words
from fletcher.core.repair.recipe import Fix, Recipe, mended
from fletcher.core.repair.way_glue import THREAD, wrap_glue
from tests.core.joints.test_joints import plank
from tests.core.repair.test_crash import marked

SPLIT = {"kind": "bar", "of": "spar", "how": "split", "at_mm": 150}


def split(foam="epp_30", way="wrap_bar", stock=None):
    bar = BarLayer(id="spar", stock="carbon_tube_6_4", place="middle").model_dump(mode="json")
    part = marked(SPLIT, airframe=plank(bar, foam=foam)).parts[0]
    fix = Fix(mark=part.damage[0].id, way=way, stock=stock, each_side_mm=30)
    return part, Recipe(fixes=(fix,))


def test_thread_is_known_and_lies_in_the_field_box():
    assert is_known(THREAD) and THREAD in FIELD_BOX and name_of(THREAD) == reference().cords[THREAD].name


@pytest.mark.parametrize(("foam", "glue"), [("epp_30", None), ("eps_20", "ca_foamsafe"), (None, "ca_thin")])
def test_what_wets_a_wrap_never_eats_the_foam_beside_it(foam, glue):
    part, _ = split(foam or "epp_30")
    part = part.model_copy(update={"foam": foam})
    key = wrap_glue(part)
    assert suits_foam(key, foam) and key in ("ca_thin", "ca_foamsafe", "epoxy_laminating")
    assert glue is None or key == glue


def test_a_wrap_needs_thread_and_thin_glue_and_nothing_else():
    part, recipe = split()
    needs = needs_of(part, mended(part, recipe), recipe, (THREAD,))
    assert {k for k, _, _ in needs} == {THREAD, wrap_glue(part)}
    assert {k: at for k, _, at in needs}[THREAD] is True
    assert glues_of(part, recipe) == [wrap_glue(part)]
    assert f"thread with {adhesives()[wrap_glue(part)].name.split(' (')[0]}" in recipe_words(recipe, part)


def test_a_sleeve_is_bound_at_its_mouths_so_it_needs_thread_too():
    part, recipe = split(way="sleeve", stock="carbon_rod_4")
    keys = [k for k, _, _ in needs_of(part, mended(part, recipe), recipe, ())]
    assert THREAD in keys and wrap_glue(part) not in keys
    other, plain = split(way="sister", stock="carbon_rod_3")
    assert THREAD not in [k for k, _, _ in needs_of(other, mended(other, plain), plain, ())]


def test_the_wrap_has_set_before_it_is_checked(proof):
    part, recipe = split()
    work = work_of(part, recipe, {}, "", [])
    (wrap,) = [o for o in work.operations if o.title.startswith("Bind")]
    assert name_of(wrap_glue(part)) in wrap.how and wrap.cautions
    done = wrap.starts_min + wrap.minutes.typ
    assert work.flies.typ >= done + ready_after(wrap_glue(part), "flight_ready", late=True)
