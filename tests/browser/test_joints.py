"""Joints on the page: glues ranked, moved by a change, ruled out, schools; hinges ranked and turning."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from fletcher.core.gluing import GlueNeed, glue
from fletcher.core.hinges import HingeNeed, hinge
from fletcher.core.tables import reference
from tests.browser.test_access import faults
from tests.browser.test_bench import fill

pytestmark = pytest.mark.django_db(transaction=True)


def test_glues_are_ranked_moved_by_a_change_and_ruled_out_with_reasons(loud_page, fleet):
    page = loud_page
    page.goto(fleet)
    page.get_by_role("link", name="Joints").click()
    usable = page.get_by_role("list", name="What can be used")
    expected = glue(GlueNeed(), reference())
    expect(page.get_by_role("status")).to_have_text(expected.says)
    first = usable.locator("> li").first
    expect(first).to_contain_text(expected.choices[0].name)
    first.locator("summary").click()
    expect(first).to_contain_text(expected.choices[0].plan[-1])
    expect(first.get_by_role("img")).to_be_visible()
    expect(first).to_contain_text("Protection:")
    assert faults(page) == []
    # polystyrene rules the solvents out
    page.get_by_label("This", exact=True).select_option("eps_20")
    page.get_by_label("meets this", exact=True).select_option("wood")
    after = glue(GlueNeed(one="eps_20", other="wood"), reference())
    expect(page.get_by_role("status")).to_have_text(after.says)
    ruled = page.get_by_role("listitem").filter(has_text="Regular cyanoacrylate, medium").last
    expect(page.get_by_role("main")).to_contain_text("dissolves or melts this foam")
    expect(ruled).to_contain_text("dissolves")
    expect(usable).to_contain_text(re.compile("[▲▼] "))


def test_an_impossible_need_is_told_and_the_last_answer_stays(loud_page, fleet):
    page = loud_page
    page.goto(f"{fleet}/joints")
    expect(page.get_by_role("status")).to_contain_text("surely holds")
    page.get_by_label("This", exact=True).select_option("xps_30")
    page.get_by_label("meets this", exact=True).select_option("xps_30")
    fill(page, "Face, cm²", "5000")
    fill(page, "Its narrower side", "250 mm")
    fill(page, "Must hold", "15000 N")
    fill(page, "after, minutes", "5")
    fill(page, "Warmest in use", "70 °C")
    expect(page.get_by_role("status")).to_contain_text("Closest is")
    fill(page, "Face, cm²", "-3")
    expect(page.get_by_role("alert")).to_contain_text("Shown is the last possible need")
    expect(page.get_by_role("status")).to_contain_text("Closest is")


def test_a_school_says_what_it_changed(loud_page, fleet):
    page = loud_page
    page.goto(f"{fleet}/joints")
    expect(page.get_by_role("status")).to_contain_text("surely holds")
    page.get_by_text("Where practice disagrees").click()
    page.get_by_label("Hot-melt glue beyond field repairs", exact=True).select_option("one")
    told = page.get_by_role("list", name="What your schools changed")
    need = GlueNeed(schools={"hot_glue_use": "one"})
    expect(told.get_by_role("listitem").first).to_have_text(glue(need, reference()).schools_say[0])
    page.get_by_label("Hot-melt glue beyond field repairs", exact=True).select_option("")
    expect(told).to_have_count(0)


def test_hinges_are_ranked_and_the_section_turns_until_it_binds(loud_page, fleet):
    page = loud_page
    page.goto(f"{fleet}/joints")
    page.get_by_role("tab", name="Which hinge?").click()
    expected = hinge(HingeNeed(), reference())
    expect(page.get_by_role("status")).to_have_text(expected.says)
    first = page.get_by_role("list", name="Methods that suit").locator("> li").first
    expect(first).to_contain_text(expected.choices[0].name)
    first.locator("summary").click()
    expect(first).to_contain_text(expected.choices[0].checks)
    expect(first).to_contain_text("Keep out:")
    assert faults(page) == []
    page.get_by_label("Hinge line", exact=True).select_option("centre")
    fill(page, "… and lean apart", "0")
    bound = hinge(HingeNeed(line="centre", bevel_deg=0), reference())
    expect(page.get_by_role("status")).to_have_text(bound.says)
    slider = page.get_by_role("slider", name="Turn the surface")
    slider.focus()
    for _ in range(8):
        slider.press("ArrowRight")
    expect(page.get_by_role("img", name=re.compile("turned 8° up$"))).to_be_visible()
    for _ in range(4):
        slider.press("ArrowRight")
    expect(page.get_by_role("img", name=re.compile("turned 12° up: binds"))).to_be_visible()
    fill(page, "Wanted up", "900")
    expect(page.get_by_role("alert")).to_contain_text("Shown is the last possible need")
    expect(page.get_by_role("status")).to_have_text(bound.says)
