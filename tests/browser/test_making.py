"""In the hand, Making and Details on the page: what the core says, and what is done about it."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from fletcher.core.document.airframe import Airframe
from fletcher.core.estimate.report import estimate
from fletcher.core.making.making import making
from fletcher.core.materials.tables import reference
from fletcher.core.studies.openings import openings
from tests.browser.test_bench import fill, open_line, open_wing, saved, verdict
from tests.browser.test_studies import view

pytestmark = pytest.mark.django_db(transaction=True)


def open_part(page, fleet: str, name: str) -> None:
    page.goto(fleet)
    page.get_by_role("link", name=f"{name} on the bench").click()
    expect(verdict(page)).to_contain_text("Breaks first")


def test_the_hand_is_told_in_verdict_and_view_and_as_a_target(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    expected = estimate(Airframe.model_validate(stored()["document"]), "wing", "pull-up")
    weaker = min(t.first_mJ.typ for t in expected.toughness)
    verdict(page).get_by_role("button", name="Details").click()
    expect(verdict(page)).to_contain_text(f"Toughness: {weaker / 1e3:.3g} J")
    page.get_by_role("button", name="Close details").click()
    view(page, "Toughness")
    section = page.get_by_role("region", name="Toughness")
    table = section.get_by_role("table", name=re.compile("^Toughness"))
    row = table.get_by_role("row", name=re.compile("^Energy to first"))
    for t in expected.toughness:
        expect(row).to_contain_text(f"{t.first_mJ.typ / 1e3:.3g} J")
    expect(section.get_by_role("img", name="The part bent up, to scale")).to_be_visible()
    assert expected.warp is not None
    for line in expected.warp.lines:
        expect(section).to_contain_text(line.way)
    expect(section).to_contain_text(f"{expected.dents[0].load_N.typ:.3g} N")
    # the working opens from the view
    section.get_by_role("button", name="working").first.click()
    expect(page.get_by_role("dialog")).to_contain_text("U = L ∫M dκ")
    page.keyboard.press("Escape")
    page.get_by_role("tab", name="Targets").click()
    fill(page, "Energy to first break, minimum", "900 mJ")
    saved(page)
    expect(verdict(page)).to_contain_text("Energy to first break: ✕ no: under, target at least 0.9")
    assert stored()["document"]["parts"][0]["targets"]["toughness_mJ"]["low"] == 900


def test_a_face_laid_first_bows_the_wing_and_the_page_says_what_cancels_it(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    open_line(page, "Hot laminating film")
    page.get_by_label("Face", exact=True).select_option("upper")
    saved(page)
    after = estimate(Airframe.model_validate(stored()["document"]), "wing", "pull-up")
    assert after.warp is not None and after.warp.bow_mm.typ < -0.3
    view(page, "Toughness")
    section = page.get_by_role("region", name="Toughness")
    expect(section).to_contain_text("Ways to cancel it")
    expect(section).to_contain_text(after.warp.cancels[0])
    fill(page, "Shrinkage or pre-stretch, %", "0")
    saved(page)
    straight = estimate(Airframe.model_validate(stored()["document"]), "wing", "pull-up")
    assert straight.warp is not None and abs(straight.warp.bow_mm.typ) < abs(after.warp.bow_mm.typ)


def test_a_folded_wing_is_laid_flat_and_its_folds_change_the_section(loud_page, fleet, stored):
    page = loud_page
    open_part(page, fleet, "Folded wing half")
    view(page, "Cutting & forming")
    section = page.get_by_role("region", name="Cutting and forming")
    airframe = Airframe.model_validate(stored("Mud Lark")["document"])
    expected = making(airframe, airframe.parts[0], reference())
    assert expected.pattern is not None and expected.pattern.root is not None
    work = section.get_by_role("list", name="Cut and fold lines of Skin, inner face up")
    expect(work.get_by_role("listitem")).to_have_count(len(expected.pattern.pieces[0].lines))
    knife = section.get_by_role("listitem").filter(has_text="Craft knife")
    knife.locator("summary").click()
    expect(knife).to_contain_text("Follow")
    folds = section.get_by_role("table", name="Folded section")
    expect(folds.get_by_role("row", name=re.compile("^root"))).to_contain_text(
        f"{expected.pattern.root.nose_radius_mm:.3g}"
    )
    with page.expect_download() as saving:
        section.get_by_role("button", name="Save as SVG Skin").click()
    assert "<svg" in saving.value.path().read_text()
    page.get_by_role("tab", name="Shape").click()
    fill(page, "Width of the strip", "24 mm")
    saved(page)
    airframe = Airframe.model_validate(stored("Mud Lark")["document"])
    assert airframe.parts[0].section.nose_mm == 24
    rounder = making(airframe, airframe.parts[0], reference())
    assert rounder.pattern is not None and rounder.pattern.root is not None
    assert rounder.pattern.root.nose_radius_mm > expected.pattern.root.nose_radius_mm
    expect(folds.get_by_role("row", name=re.compile("^root"))).to_contain_text(
        f"{rounder.pattern.root.nose_radius_mm:.3g}"
    )


def test_a_slit_is_told_and_its_patch_put_in(loud_page, fleet, stored):
    page = loud_page
    open_part(page, fleet, "Right wing half")
    view(page, "Joint checks")
    airframe = Airframe.model_validate(stored("Tern Chaser")["document"])
    part = airframe.parts[0]
    slit = openings(airframe, part, part.cases[0].id)[1]
    section = page.get_by_role("region", name="Joints, cut-outs, fasteners and details")
    expect(section).to_contain_text(slit.says)
    section.get_by_role("button", name=re.compile("Add patch.* over Lead slit")).click()
    saved(page)
    layers = stored("Tern Chaser")["document"]["parts"][0]["layers"]
    assert layers[-1]["name"] == "Patch" and slit.patch is not None
    assert layers[-1]["skin"] == slit.patch.layer.skin
    expect(section).not_to_contain_text("of the stiffness in twist;")


def test_fasteners_follow_the_mount_and_a_detail_its_fields(loud_page, fleet):
    page = loud_page
    open_wing(page, fleet)
    view(page, "Joint checks")
    section = page.get_by_role("region", name="Joints, cut-outs, fasteners and details")
    expect(section).to_contain_text("no upper limit yet")
    fill(page, "Mount strength", "80 N")
    expect(section).to_contain_text("mount strength you entered")
    table = section.get_by_role("table", name="Fasteners that could hold the part")
    expect(table.get_by_role("row").nth(1)).to_contain_text("✓")
    section.get_by_role("button", name=re.compile("^Show all")).click()
    expect(table).to_contain_text("too many to release in time")
    section.get_by_label("Type of detail", exact=True).select_option("bracket")
    expect(section).to_contain_text("straight pull-off")
    section.get_by_label("Centre height above foot", exact=True).fill("200 mm")
    expect(section).to_contain_text(re.compile(r"Margin [\d.]+ \([^)]*\) ✕ no"))
    arm = section.get_by_label("Centre height above foot", exact=True)
    arm.fill("900 mm")
    expect(arm).to_have_attribute("aria-invalid", "true")
    expect(arm.locator("xpath=../p")).to_contain_text("300")


def test_something_from_stock_is_put_in_weighs_and_lies_on_the_drawing(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    page.get_by_role("button", name="Add to lay-up").click()
    page.get_by_role("menuitem", name="Servo, battery or lead").click()
    saved(page)
    page.get_by_label("Stock item", exact=True).select_option("servo_thin_8mm")
    fill(page, "Your measurement", "9 g")
    saved(page)
    layer = stored()["document"]["parts"][0]["layers"][-1]
    assert (layer["stock"], layer["weighed_g"], layer["pocket"]) == ("servo_thin_8mm", 9, True)
    result = estimate(Airframe.model_validate(stored()["document"]), "wing", "pull-up")
    expect(page.get_by_role("list", name="Lay-up", exact=True)).to_contain_text("9 g")
    assert next(v for v in result.lines if v.id == layer["id"]).grams.typ == pytest.approx(9)


def test_the_rod_to_the_horn_is_set_and_told(loud_page, fleet, stored):
    page = loud_page
    open_part(page, fleet, "Left aileron")
    page.get_by_role("tab", name="Loads").click()
    panel = page.get_by_role("tabpanel", name="Loads")
    fill(page, "Guide spacing", "90 mm")
    panel.get_by_label("Pushrod", exact=True).select_option("carbon_rod_1")
    fill(page, "Servo to horn", "500 mm")
    fill(page, "Guide spacing", "500 mm")
    saved(page)
    expect(panel).to_contain_text("The rod buckles at")
    case = stored()["document"]["parts"][-1]["cases"][0]
    assert case["run"]["support_mm"] == 500
    panel.get_by_role("checkbox", name="Include pushrod flex").uncheck()
    saved(page)
    assert stored()["document"]["parts"][-1]["cases"][0]["run"] is None
    expect(panel).not_to_contain_text("The rod buckles at")


@pytest.mark.parametrize("paper", ["A4", "Letter"])
def test_templates_are_printed_as_large_as_they_are_with_a_bar_to_check(loud_page, fleet, paper):
    page = loud_page
    page.add_init_script("window.print = () => {}")
    open_wing(page, fleet)
    view(page, "Cutting & forming")
    page.get_by_role("button", name="Print at true scale").click()
    page.get_by_label("Paper").select_option(paper)
    page.get_by_role("checkbox", name=re.compile("^Tip section")).uncheck()
    page.get_by_role("button", name=re.compile("^Print 1 page")).click()
    page.emulate_media(media="print")
    sheets = page.locator("svg.true-scale")
    expect(sheets).to_have_count(1)
    wide = sheets.locator("[data-check-bar]").evaluate("e => e.getBoundingClientRect().width")
    assert wide * 25.4 / 96 == pytest.approx(100, abs=0.2)
    outline = sheets.locator("g path").first.evaluate("e => e.getBoundingClientRect().width")
    assert outline * 25.4 / 96 == pytest.approx(180, abs=0.5)  # the root chord
    expect(page.get_by_role("main")).to_be_hidden()  # nothing else is on the paper
    page.emulate_media(media="screen")
    page.evaluate("window.dispatchEvent(new Event('afterprint'))")
    expect(sheets).to_have_count(0)
