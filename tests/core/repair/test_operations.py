"""The work of a repair in order: when each step begins, what it waits for, what it is made with."""

from __future__ import annotations

import pytest

from fletcher.core.adhesion.adhesives import adhesives
from fletcher.core.adhesion.readiness import ready_after
from fletcher.core.demo.crash import crashed_airframe
from fletcher.core.document.airframe import FilmLayer, JointLayer, Part
from fletcher.core.document.damage import BarMark, BreakMark, CrushMark, LooseMark, MissingMark, PeeledMark
from fletcher.core.document.joint import AcrossJoint, Glued
from fletcher.core.materials.uncertainty import Band
from fletcher.core.repair.operations import CHECK_MIN, SAFE_MIN, fixed_after, glues_of, needs_of, tools_of, work_of
from fletcher.core.repair.recipe import Fix, Recipe, mended
from fletcher.core.repair.repair_table import repair_steps

WHOLE = crashed_airframe().parts[0].model_copy(update={"damage": ()})
SEAM = BreakMark(id="seam", at_mm=200, whole=("spar", "film", "tape"))


def hurt(*marks) -> Part:
    return WHOLE.model_copy(update={"damage": marks})


def work(recipe: Recipe, *marks, waits=None, warmth: float = 20.0):
    return work_of(hurt(*marks), recipe, waits or {}, "", [], warmth)


def begins(w) -> dict[str, float]:
    return {op.title.split(":")[0]: op.starts_min for op in w.operations}


def test_a_seam_of_epoxy_is_glued_set_and_checked():
    """Safe 6, glue 10, the slow end of 30-minute epoxy before the check, 10."""
    w = work(Recipe(fixes=(Fix(mark="seam", way="reglue"),), glue="epoxy_30min"), SEAM)
    late = ready_after("epoxy_30min", "flight_ready", late=True)
    assert w.flies.typ == w.set == 6 + 10 + late + 10 and w.closed == 16
    assert w.loaded == 16 + ready_after("epoxy_30min", "loaded", late=True) + 10
    assert w.flies.low == 3 + 5 + ready_after("epoxy_30min", "flight_ready") + 5
    assert w.flies.high == 12 + 25 + late + 20
    assert (w.hands.low, w.hands.typ, w.hands.high) == (3 + 5 + 5, 26, 12 + 25 + 20)
    at = begins(w)
    assert at["Make safe and measure"] == 0 and at["Glue the clean break"] == 6 and at["Let it cure"] == 16
    assert at["Check against the prediction"] == w.flies.typ - 10 and at["First flight"] == w.flies.typ
    glued = next(op for op in w.operations if op.title.startswith("Glue"))
    assert glued.wait_min.typ == ready_after("epoxy_30min", "fixed") and "hold without clamps" in glued.wait_for


def test_strength_that_comes_later_than_the_gel_is_waited_for_in_whole_minutes():
    recipe = Recipe(fixes=(Fix(mark="seam", way="reglue"),), glue="epoxy_5min")
    gels = ready_after("epoxy_5min", "flight_ready", late=True)
    for high, wait in ((10.0, gels), (200.2, 201)):
        waits = {"mend-seam-seam": Band(low=1.0, typ=5.0, high=high)}
        w = work(recipe, SEAM, waits=waits)
        assert w.flies.typ == 16 + wait + 10 and w.set == 16 + gels + 10
    assert work(recipe, SEAM, waits={"mend-other-seam": Band(low=1, typ=5, high=500)}).flies.typ == 16 + gels + 10


def test_contact_cement_is_coated_aired_and_closed():
    key = "contact_foamsafe_clear"
    w = work(Recipe(fixes=(Fix(mark="seam", way="reglue"),), glue=key), SEAM)
    at, airs = begins(w), adhesives()[key].flash_min
    assert at["Close it"] == 6 + 8 + airs.typ
    coat, close = (next(op for op in w.operations if op.title.startswith(t)) for t in ("Glue", "Close"))
    assert coat.minutes.typ == 8 and close.minutes.typ == 2 and coat.wait_min.typ == airs.typ
    assert coat.checks == [] and close.checks and "air" in coat.wait_for and close.cautions == []
    assert w.flies.typ == at["Close it"] + 2 + ready_after(key, "flight_ready", late=True) + 10
    assert w.hands.typ == 26 and (close.minutes.low, close.minutes.high) == (1, 4)
    assert w.hands.high == 12 + (25 - 2) + 4 + 20


def test_a_joint_that_let_go_waits_for_its_own_strength():
    joint = JointLayer(id="root", name="Root seam", start_mm=0, glue=Glued(adhesive="epoxy_5min"),
                       joint=AcrossJoint())  # fmt: skip
    part = hurt(LooseMark(id="loose", of="root")).model_copy(update={"layers": (*WHOLE.layers, joint)})
    recipe = Recipe(fixes=(Fix(mark="loose", way="reglue_joint"),), glue="epoxy_5min")
    gels = ready_after("epoxy_5min", "flight_ready", late=True)
    for key, wait in (("root", 300), ("other", gels)):
        w = work_of(part, recipe, {key: Band(low=1, typ=5, high=300.0)}, "", [])
        assert w.flies.typ == 6 + 15 + wait + 10


def test_heat_comes_before_glue_and_its_cold_is_waited_for():
    dent = CrushMark(id="dent", start_mm=400, end_mm=450, depth_mm=6)
    recipe = Recipe(fixes=(Fix(mark="seam", way="reglue"), Fix(mark="dent", way="warm")), glue="hotmelt_low")
    at = begins(work(recipe, SEAM, dent))
    warm = repair_steps()["warm_crush"].minutes.typ
    assert at["Swell crushed beads with heat"] == 6 and at["Glue the clean break"] == 6 + warm + 20


def test_bars_hold_before_the_foam_beside_them_is_closed_and_elsewhere_hands_go_on():
    bar = BarMark(id="bar", of="spar", at_mm=205)
    near = Recipe(fixes=(Fix(mark="seam", way="reglue"), Fix(mark="bar", way="replace_bar", stock="carbon_rod_3")),
                  glue="hotmelt_low", bed_glue="epoxy_30min")  # fmt: skip
    fixed = ready_after("epoxy_30min", "fixed")
    assert begins(work(near, SEAM, bar))["Glue the clean break"] == 6 + 35 + fixed
    far = bar.model_copy(update={"at_mm": 440.0})
    assert begins(work(near, SEAM, far))["Glue the clean break"] == 6 + 35


def test_in_the_cold_every_wait_is_longer():
    recipe = Recipe(fixes=(Fix(mark="seam", way="reglue"),), glue="pu_foaming_white")
    warm, cold = work(recipe, SEAM), work(recipe, SEAM, warmth=10.0)
    assert cold.flies.typ - 26 == ready_after("pu_foaming_white", "flight_ready", 10.0, late=True)
    assert cold.flies.typ > 1.4 * warm.flies.typ


def test_over_old_glue_the_quick_fix_is_taken_off_first():
    w = work(Recipe(fixes=(Fix(mark="seam", way="reglue"),), glue="epoxy_30min", over_old=True), SEAM)
    at = begins(w)
    assert at["Remove the quick fix"] == 6 and at["Glue the clean break"] == 21
    assert w.hands.typ == 26 + 15


def test_what_it_takes_is_named_once_and_only_what_is_used():
    hole = MissingMark(id="hole", start_mm=300, end_mm=360, face="rear", depth_mm=20)
    part = hurt(SEAM, hole)
    recipe = Recipe(
        fixes=(Fix(mark="seam", way="reglue"), Fix(mark="hole", way="graft", stock="bopp_tape_std")), glue="epoxy_30min"
    )
    needs = needs_of(part, mended(part, recipe), recipe, ("epoxy_30min",))
    assert {k: h for k, _, h in needs} == {"bopp_tape_std": False, "epoxy_30min": True, "epp_30": False}
    assert all(h is None for _, _, h in needs_of(part, mended(part, recipe), recipe, ()))
    alone = Recipe(fixes=(Fix(mark="seam", way="reglue"), Fix(mark="hole", way="leave")), glue="epoxy_30min")
    assert [k for k, _, _ in needs_of(part, mended(part, alone), alone, ())] == ["epoxy_30min"]
    assert glues_of(part, recipe) == ["epoxy_30min"]
    cloth = Recipe(fixes=(Fix(mark="seam", way="reglue", over="cloth", stock="glass_49", each_side_mm=40),))
    assert set(glues_of(part, cloth)) == {"pu_foaming_white", "epoxy_laminating"}
    assert "epoxy_laminating" in [k for k, _, _ in needs_of(part, mended(part, cloth), cloth, ())]
    ops = work(recipe, SEAM, hole).operations
    assert len(tools_of(ops)) == len(set(tools_of(ops))) and "scales" in tools_of(ops)


@pytest.mark.parametrize(("key", "glue", "minutes"), [
    ("reglue", "epoxy_30min", 75.0), ("warm_crush", "epoxy_30min", 20.0), ("tape_both", "epoxy_30min", 0.0),
])  # fmt: skip
def test_what_a_step_has_to_wait_for_by_itself(key: str, glue: str, minutes: float):
    recipe = Recipe(fixes=(Fix(mark="seam", way="reglue"),), glue=glue)
    assert fixed_after(repair_steps()[key], SEAM, recipe, WHOLE, 20.0) == minutes
    assert SAFE_MIN.typ == 6 and CHECK_MIN.typ == 10


@pytest.mark.parametrize(("skin", "glue"), [("glass_49", "epoxy_laminating"), ("lamfilm_38", "contact_foamsafe_clear")])
def test_a_skin_is_laid_again_in_what_it_was_laid_in(skin: str, glue: str):
    """Cloth in its resin, which has to set; film and tape with a glue that bends with them."""
    part = WHOLE.model_copy(update={"layers": (FilmLayer(id="skin", skin=skin, face="both"),)})
    off = PeeledMark(id="off", of="skin", start_mm=100, end_mm=180)
    for way in ("relay", "reskin"):
        recipe = Recipe(fixes=(Fix(mark="off", way=way, each_side_mm=25),), glue="epoxy_30min")
        after = mended(part.model_copy(update={"damage": (off,)}), recipe)
        glues = {la.glue.adhesive for la in after.layers if isinstance(la, JointLayer)}
        assert glues == {glue} == set(glues_of(part.model_copy(update={"damage": (off,)}), recipe))
