"""Joints on the page: glues ranked, moved by a change, ruled out, schools; hinges ranked and turning."""

from __future__ import annotations

import io
import re

import pytest
from PIL import Image
from playwright.sync_api import expect

from fletcher.core.adhesion.fair_trial import read_trial
from fletcher.core.adhesion.joint_capacity import GlueNeed
from fletcher.core.adhesion.retention import HoldNeed, hold
from fletcher.core.adhesion.selection import glue
from fletcher.core.demo.world import demo_trial
from fletcher.core.joints.hinges import HingeNeed, hinge
from fletcher.core.materials.tables import reference
from tests.browser.test_access import faults
from tests.browser.test_bench import fill

pytestmark = pytest.mark.django_db(transaction=True)


def test_glues_are_ranked_moved_by_a_change_and_ruled_out_with_reasons(loud_page, fleet):
    page = loud_page
    page.goto(fleet)
    page.get_by_role("link", name="Joints").click()
    usable = page.get_by_role("list", name="Suitable adhesives")
    expected = glue(GlueNeed(), reference(), demo_trial()[1])
    expect(page.get_by_role("status")).to_have_text(expected.says)
    first = usable.locator("> li").first
    expect(first).to_contain_text(expected.choices[0].name)
    first.locator("summary").click()
    expect(first).to_contain_text(expected.choices[0].plan[-1])
    expect(first.get_by_role("img")).to_be_visible()
    assert faults(page) == []
    # a caution stands at the glue that needs it
    place, hurts = next((n, c) for n, c in enumerate(expected.choices) if c.cautions)
    hurting = usable.locator("> li").nth(place)
    expect(hurting).to_contain_text(hurts.name)
    hurting.locator("summary").click()
    expect(hurting).to_contain_text("Protection:")
    # polystyrene rules the solvents out
    page.get_by_label("Material", exact=True).select_option("eps_20")
    page.get_by_label("Glued to", exact=True).select_option("wood")
    after = glue(GlueNeed(one="eps_20", other="wood"), reference())
    expect(page.get_by_role("status")).to_have_text(after.says)
    ruled = page.get_by_role("listitem").filter(has_text="Regular cyanoacrylate, medium").last
    expect(page.get_by_role("main")).to_contain_text("dissolves or melts this foam")
    expect(ruled).to_contain_text("dissolves")
    expect(usable).to_contain_text(re.compile("[▲▼] "))


def test_why_not_is_answered_for_any_adhesive_and_the_way_of_putting_together_can_be_chosen(loud_page, fleet):
    page = loud_page
    page.goto(f"{fleet}/joints")
    own = glue(GlueNeed(), reference(), demo_trial()[1])
    for told in (own.choices[3], own.choices[-1]):
        page.get_by_label("Why not …?", exact=True).select_option(told.key)
        expect(page.get_by_role("region", name="Why not this glue")).to_contain_text(told.why_not)
    page.get_by_label("Application", exact=True).select_option("wet")
    page.get_by_label("Bead length", exact=True).fill("600 mm")
    wet = glue(GlueNeed(technique="wet", bead_mm=600), reference(), demo_trial()[1])
    expect(page.get_by_role("status")).to_have_text(wet.says)
    first = page.get_by_role("list", name="Suitable adhesives").locator("> li").first
    expect(first).to_contain_text(wet.choices[0].name)


def test_an_impossible_need_is_told_and_the_last_answer_stays(loud_page, fleet):
    page = loud_page
    page.goto(f"{fleet}/joints")
    expect(page.get_by_role("status")).to_contain_text("✓ sure")
    page.get_by_label("Material", exact=True).select_option("xps_30")
    page.get_by_label("Glued to", exact=True).select_option("xps_30")
    fill(page, "Joint area, cm²", "5000")
    fill(page, "Joint width", "250 mm")
    fill(page, "Must hold", "15000 N")
    fill(page, "Within, min", "5")
    fill(page, "Highest temperature in use", "70 °C")
    expect(page.get_by_role("status")).to_contain_text("Closest:")
    fill(page, "Joint area, cm²", "-3")
    expect(page.get_by_role("alert")).to_contain_text("Showing the last valid entry")
    expect(page.get_by_role("status")).to_contain_text("Closest:")


def test_a_school_says_what_it_changed(loud_page, fleet):
    page = loud_page
    page.goto(f"{fleet}/joints")
    expect(page.get_by_role("status")).to_contain_text("✓ sure")
    page.get_by_text("Where builders disagree").click()
    page.get_by_label("Hot-melt glue in permanent joints", exact=True).select_option("one")
    told = page.get_by_role("list", name="What your choices changed")
    need = GlueNeed(schools={"hot_glue_use": "one"})
    expect(told.get_by_role("listitem").first).to_have_text(glue(need, reference(), demo_trial()[1]).schools_say[0])
    page.get_by_label("Hot-melt glue in permanent joints", exact=True).select_option("")
    expect(told).to_have_count(0)


def test_hinges_are_ranked_and_the_section_turns_until_it_binds(loud_page, fleet):
    page = loud_page
    page.goto(f"{fleet}/joints")
    page.get_by_role("tab", name="Hinges").click()
    expected = hinge(HingeNeed(), reference())
    expect(page.get_by_role("status")).to_have_text(expected.says)
    first = page.get_by_role("list", name="Suitable hinges").locator("> li").first
    expect(first).to_contain_text(expected.choices[0].name)
    first.locator("summary").click()
    expect(first).to_contain_text(expected.choices[0].checks)
    expect(first).to_contain_text("Do not use:")
    assert faults(page) == []
    page.get_by_label("Hinge line", exact=True).select_option("centre")
    fill(page, "Bevel angle, total", "0")
    bound = hinge(HingeNeed(line="centre", bevel_deg=0), reference())
    expect(page.get_by_role("status")).to_have_text(bound.says)
    slider = page.get_by_role("slider", name="Deflect the surface")
    slider.focus()
    for _ in range(8):
        slider.press("ArrowRight")
    expect(page.get_by_role("img", name=re.compile("deflected 8° up$"))).to_be_visible()
    for _ in range(4):
        slider.press("ArrowRight")
    expect(page.get_by_role("img", name=re.compile("deflected 12° up: binds"))).to_be_visible()
    fill(page, "Throw up", "900")
    expect(page.get_by_role("alert")).to_contain_text("Showing the last valid entry")
    expect(page.get_by_role("status")).to_have_text(bound.says)


def test_glue_is_asked_for_what_meets_in_an_airframe(loud_page, fleet):
    page = loud_page
    page.goto(f"{fleet}/joints")
    picked = page.get_by_label("From my airframes", exact=True)
    picked.select_option(label="Left wing half: Bead foam PP, 30 kg/m³ on Carbon rod 3 mm")
    expect(page.get_by_label("Glued to", exact=True)).to_have_value("composite")
    own = glue(GlueNeed(one="epp_30", other="composite"), reference(), demo_trial()[1])
    expect(page.get_by_role("status")).to_have_text(own.says)


def test_a_coupon_is_read_kept_with_its_photograph_and_moves_the_ranking(loud_page, fleet):
    page = loud_page
    page.goto(f"{fleet}/joints")
    changed = page.get_by_role("list", name="What your tests changed")
    expect(changed).to_contain_text("Foam-safe clear contact adhesive")
    page.get_by_role("tab", name="My glue tests").click()
    form = page.get_by_role("form", name="Test result")
    form.get_by_label("Adhesive", exact=True).select_option("epoxy_30min")
    form.get_by_label("Clean glue line", exact=True).fill("60 %")
    form.get_by_role("button", name="Save result").click()
    expect(form.get_by_role("alert")).to_contain_text("must add up to 100 %")
    form.get_by_role("button", name="The rest is: Foam torn deep").click()
    expect(form.get_by_label("Foam torn deep", exact=True)).to_have_value("40 %")
    page.reload()  # nothing typed is lost
    expect(form.get_by_label("Clean glue line", exact=True)).to_have_value("60 %")
    picture = {"name": "face.png", "mimeType": "image/png", "buffer": _png()}
    form.get_by_label("Photo of the face").set_input_files(picture)
    form.get_by_role("button", name="Save result").click()
    expect(form.get_by_role("status")).to_contain_text("Saved")
    kept = page.get_by_role("listitem").filter(has_text="60 % clean glue line")
    expect(kept.get_by_role("img", name=re.compile("60 % clean glue line"))).to_be_visible()
    assert faults(page) == []
    page.get_by_role("tab", name="Glue", exact=True).click()
    row = page.get_by_role("list", name="Suitable adhesives").locator("> li").filter(has_text="Epoxy, 15-30 minute")
    expect(row).to_contain_text("1 of your glue tests: foam tears first in")
    page.get_by_role("tab", name="My glue tests").click()
    kept.get_by_role("button", name="Delete the result for Epoxy").click()
    expect(kept).to_have_count(0)
    # what is no picture is told, and the coupon stays
    form.get_by_role("button", name="The rest is: Foam torn deep").click()
    bad = {"name": "face.png", "mimeType": "image/png", "buffer": b"no picture"}
    form.get_by_label("Photo of the face").set_input_files(bad)
    form.get_by_role("button", name="Save result").click()
    expect(form.get_by_role("alert")).to_contain_text("but not the photo: it cannot be read as an image")


def _png() -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (60, 40), (210, 150, 60)).save(out, "PNG")
    return out.getvalue()


def test_a_trial_is_planned_and_its_coupons_settle_it(loud_page, fleet):
    page = loud_page
    page.goto(f"{fleet}/joints?what=coupons")
    wish, coupons = demo_trial()
    card = page.get_by_role("region", name=wish.name)
    expect(card).to_contain_text(read_trial(wish, coupons).verdicts[0].says)
    card.get_by_role("button", name="Enter results").click()
    form = page.get_by_role("form", name="Test result")
    for label, face in (("A4", "Clean glue line"), ("B4", "Foam torn deep"), ("A5", "Clean glue line")):
        form.get_by_label(f"Test joint of “{wish.name}”", exact=True).select_option(label)
        form.get_by_role("button", name=f"The rest is: {face}").click()
        form.get_by_role("button", name="Save result").click()
        expect(card.get_by_role("row").filter(has_text=re.compile(f"^{label[0]}"))).to_contain_text(f"{label[1]} of")
    expect(card).to_contain_text("is better than")
    page.get_by_role("button", name="Plan a fair test").click()
    page.get_by_label("Smallest difference that matters", exact=True).fill("80 %")
    order = page.get_by_role("list", name="Order", exact=True).first
    expect(order.get_by_role("listitem")).to_have_count(12)
    before = order.inner_text()
    page.get_by_role("button", name="Shuffle order").click()
    expect(order).not_to_have_text(before)
    assert faults(page) == []
    page.get_by_label("Question", exact=True).fill("A or B?")
    page.get_by_role("button", name="Save fair test").click()
    expect(page.get_by_role("region", name="A or B?")).to_contain_text("0 of 4")


def test_what_holds_a_battery_in_is_ranked_by_the_knock(loud_page, fleet):
    page = loud_page
    page.goto(f"{fleet}/joints?what=hold")
    expected = hold(HoldNeed(), reference())
    expect(page.get_by_role("status")).to_have_text(expected.says)
    page.get_by_label("Foam stop in front").uncheck()
    page.get_by_label("Mass", exact=True).fill("300 g")
    expect(page.get_by_role("status")).to_have_text(hold(HoldNeed(stop=False, mass_g=300), reference()).says)
    page.get_by_label("Mass", exact=True).fill("-3 g")
    expect(page.get_by_role("alert")).to_contain_text("Showing the last valid entry")
    assert faults(page) == []
