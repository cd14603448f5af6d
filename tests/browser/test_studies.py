"""Variants, studies, targets, plots and words on the page."""

from __future__ import annotations

import csv
import re

import pytest
from playwright.sync_api import expect

from fletcher.core.document.airframe import Airframe
from fletcher.core.estimate.report import estimate
from fletcher.core.studies.what_if import trial
from tests.browser.test_bench import figure, fill, open_line, open_wing, saved, verdict

pytestmark = pytest.mark.django_db(transaction=True)


def view(page, name: str) -> None:
    page.get_by_role("tab", name=re.compile(f"^{name}")).click()


def test_variants_are_pinned_named_compared_and_adopted(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    open_line(page, "Carbon rod")
    page.get_by_label("Spar", exact=True).select_option("carbon_rod_4")
    saved(page)
    view(page, "Variants")
    fill(page, "Variant name", "Four millimetres")
    page.get_by_role("main").get_by_role("button", name="Keep as variant").last.click()
    table = page.get_by_role("table", name=re.compile("^Current design and variants"))
    expect(table.get_by_label("Name of variant Four millimetres")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    saved(page)
    document = Airframe.model_validate(stored()["document"])
    assert document.parts[0].layers[0].stock == "carbon_rod_3"
    # the difference from the variant stands in the verdict
    page.get_by_role("combobox", name="Compare with variant").select_option(label="Four millimetres")
    expect(verdict(page)).to_contain_text("compared with “Four millimetres”")
    now = estimate(document, "wing", "pull-up")
    thicker = document.parts[0].layers[0].model_copy(update={"stock": "carbon_rod_4"})
    part = document.parts[0].model_copy(update={"layers": (thicker, *document.parts[0].layers[1:])})
    other = estimate(document.model_copy(update={"parts": (part,)}), "wing", "pull-up")
    by = now.added_g.typ - other.added_g.typ
    expect(verdict(page)).to_contain_text(f"▼ −{abs(by):.2g}")
    # the best of a row is starred, in words for those who do not see it
    added = table.get_by_role("row", name=re.compile("^Added mass"))
    expect(added.get_by_role("img", name="best")).to_have_count(1)
    table.get_by_label("Name of variant Four millimetres").fill("Stout")
    table.get_by_label("Name of variant Four millimetres").press("Enter")
    page.get_by_role("button", name="Use this Stout").click()
    saved(page)
    assert stored()["document"]["parts"][0]["layers"][0]["stock"] == "carbon_rod_4"
    assert figure(page, "Tip deflection") == pytest.approx(other.deflection_mm.typ, rel=0.01)


def test_a_variant_comes_from_another_part_and_another_construction(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    before = stored()["document"]
    view(page, "Variants")
    table = page.get_by_role("table", name=re.compile("^Current design and variants"))
    for section, source in (("Another part", "Tern Chaser: Right wing half"), ("Another construction", "Flat-plate")):
        page.get_by_role("button", name="From elsewhere").click()
        rows = page.get_by_role("region", name=section)
        rows.get_by_role("button", name=re.compile(f"Keep as variant: {source}")).click()
        expect(page.get_by_role("dialog")).to_have_count(0, timeout=30_000)
        expect(table.get_by_label(re.compile(f"Name of variant {source}"))).to_be_visible()
    assert stored()["document"] == before  # the part itself stays as it is
    expect(table.get_by_text("…", exact=True)).to_have_count(0, timeout=20_000)
    table.get_by_role("button", name=re.compile("^Use this Flat-plate")).click()
    saved(page)
    assert stored()["document"]["parts"][0]["foam"].startswith("xps_sheet")


def test_an_earlier_state_is_pinned_brought_back_and_branched(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    page.get_by_role("button", name="History").click()
    dialog = page.get_by_role("dialog", name="History of this airframe")
    expect(dialog).to_contain_text("Fibre tape")
    dialog.get_by_role("button", name="Keep version 1 as a variant", exact=True).click()
    expect(dialog).to_contain_text("Version 1 is kept as a variant.")
    # state 3 has the thin rods
    dialog.get_by_role("button", name="Restore version 3", exact=True).click()
    saved(page)
    assert stored()["document"]["parts"][0]["layers"][0]["stock"] == "carbon_rod_2"
    page.get_by_role("button", name="Undo").click()
    saved(page)
    assert stored()["document"]["parts"][0]["layers"][0]["stock"] == "carbon_rod_3"
    page.get_by_role("button", name="History").click()
    dialog.get_by_role("button", name="New airframe from version 3", exact=True).click()
    expect(page.get_by_role("heading", name="Reed Warden, copy")).to_be_visible()
    branched = stored("Reed Warden, copy")["document"]["parts"][0]
    assert branched["layers"][0]["stock"] == "carbon_rod_2"


def test_targets_are_ranges_and_stand_on_the_figures(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    page.get_by_role("tab", name="Targets").click()
    fill(page, "Deflection, minimum", "10 mm")
    fill(page, "Deflection, maximum", "20 mm")
    expect(verdict(page)).to_contain_text("✕ no: under, target 10 to 20")
    fill(page, "Added mass, maximum", "40")
    expect(verdict(page)).to_contain_text("✓ sure: target at most 40")
    saved(page)
    part = stored()["document"]["parts"][0]
    assert part["cases"][0]["bend_mm"] == {"low": 10, "high": 20}
    assert part["targets"]["added_g"] == {"low": None, "high": 40}
    fill(page, "Deflection, maximum", "5")
    expect(page.get_by_text("must not be more than the maximum").first).to_be_visible()
    fill(page, "Deflection, minimum", "")
    expect(verdict(page)).to_contain_text("target at most 5")
    fill(page, "Deflection, maximum", "")
    expect(verdict(page)).not_to_contain_text("target at most 5")
    saved(page)
    assert stored()["document"]["parts"][0]["cases"][0]["bend_mm"] is None


def test_lines_are_switched_off_reordered_by_pointer_and_told_when_they_give_nothing(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    before = figure(page, "Tip deflection")
    page.get_by_role("checkbox", name="Include Carbon rod 3 mm").uncheck()
    saved(page)
    assert figure(page, "Tip deflection") > 5 * before
    page.get_by_role("checkbox", name="Include Carbon rod 3 mm").check()
    saved(page)
    handle = page.get_by_role("button", name=re.compile("^Item 1, Carbon rod")).bounding_box()
    target = page.get_by_role("button", name=re.compile("^Item 3")).bounding_box()
    assert handle and target
    page.mouse.move(handle["x"] + 20, handle["y"] + 20)
    page.mouse.down()
    page.mouse.move(target["x"] + 20, target["y"] + 30, steps=5)
    page.mouse.move(target["x"] + 20, target["y"] + 150, steps=3)
    page.mouse.up()
    saved(page)
    assert [la["type"] for la in stored()["document"]["parts"][0]["layers"]][-1] == "bar"
    page.get_by_role("button", name="Undo").click()
    page.get_by_role("button", name="Add to lay-up").click()
    page.get_by_role("menuitem", name="Single spar").click()
    page.get_by_label("Spar", exact=True).select_option("carbon_rod_2")
    fill(page, "Chord position, root", "55")
    fill(page, "Chord position, tip", "55")
    expect(page.get_by_text("Lies near the neutral axis")).to_be_visible(timeout=60_000)
    fill(page, "Note", "from the old wing")
    saved(page)
    assert stored()["document"]["parts"][0]["layers"][-1]["note"] == "from the old wing"


def test_too_heavy_tells_what_comes_off_at_least_loss_and_does_it(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    page.get_by_text("Save mass").click(timeout=15_000)
    ways = page.get_by_role("list", name="Ways to save mass")
    expect(ways.get_by_role("listitem")).not_to_have_count(0)
    document = Airframe.model_validate(stored()["document"])
    before = trial(document, document.parts[0])
    first = ways.get_by_role("listitem").first
    grams = float(re.search(r"−([\d.]+) g:", first.inner_text()).group(1))
    first.get_by_role("button").click()
    saved(page)
    document = Airframe.model_validate(stored()["document"])
    assert before.mass_g - trial(document, document.parts[0]).mass_g == pytest.approx(grams, rel=0.06)


def test_the_limits_and_how_exact_it_must_be_are_told(loud_page, fleet):
    page = loud_page
    open_wing(page, fleet)
    view(page, "Headroom")
    limits = page.get_by_role("table", name="Headroom of this lay-up")
    expect(limits).to_contain_text("All-up mass", timeout=20_000)
    expect(limits).to_contain_text("Speed in load cases")
    expect(page.get_by_text("not clearances")).to_be_visible()
    needs = page.get_by_role("table", name="Load at which each addition is needed")
    expect(needs).to_contain_text("Second spar")
    view(page, "Tolerances")
    exact = page.get_by_role("table", name=re.compile("^Tolerance of each dimension"))
    expect(exact).to_contain_text("cover", timeout=30_000)
    expect(exact.get_by_role("row").nth(1)).to_contain_text("cover")


def test_a_strip_is_matched_and_the_design_scaled(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    view(page, "Match & scale")
    page.get_by_label("Resize this item").select_option(label="Fibre tape")
    fill(page, "Value", "69 g")
    page.get_by_role("button", name="Match").click()
    expect(page.get_by_text("Matched:")).to_be_visible(timeout=20_000)
    page.get_by_role("button", name="Use this").click()
    saved(page)
    document = Airframe.model_validate(stored()["document"])
    assert trial(document, document.parts[0]).mass_g == pytest.approx(69, rel=0.01)
    view(page, "Match & scale")
    page.get_by_label("Until it has").select_option(label="at least this margin")
    page.get_by_role("button", name="Match").click()
    expect(page.get_by_text("Lightest that does:")).to_be_visible(timeout=20_000)
    fill(page, "New span", "750")
    page.get_by_role("button", name="Scale").click()
    designs = page.get_by_role("table", name="Designs at the other span")
    expect(designs.get_by_role("row")).not_to_have_count(1, timeout=20_000)
    designs.get_by_role("button", name=re.compile("^Use:")).first.click()
    saved(page)
    document = stored()["document"]
    assert document["parts"][0]["span_mm"] == 750
    assert document["all_up_mass_g"] == pytest.approx(900 * 1.25**2.5, abs=0.1)


def test_plots_read_values_have_a_table_and_come_out_as_files(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    expected = estimate(Airframe.model_validate(stored()["document"]), "wing", "pull-up")
    view(page, "Plots")
    plot = page.get_by_role("slider", name=re.compile("^Bending moment: needed and strength"))
    before = plot.get_attribute("aria-valuetext")
    plot.press("Shift+ArrowRight")
    assert plot.get_attribute("aria-valuetext") != before
    with page.expect_download() as download:
        page.get_by_role("button", name="CSV of Deflection").click()
    rows = list(csv.reader(download.value.path().read_text().splitlines()))
    assert len(rows) == len(expected.curves.y_mm) + 1
    assert float(rows[-1][1]) == pytest.approx(expected.curves.deflection_mm[-1], rel=1e-6)
    with page.expect_download() as download:
        page.get_by_role("button", name="SVG of Deflection").click()
    drawn = download.value.path().read_text()
    assert drawn.startswith("<svg") and "var(--" not in drawn
    with page.expect_download() as download:
        page.get_by_role("button", name="PNG of Deflection").click()
    assert download.value.path().read_bytes().startswith(b"\x89PNG")
    page.get_by_text("Show as table").nth(3).click()
    table = page.get_by_role("table", name=re.compile("^Deflection"))
    expect(table.get_by_role("row")).to_have_count(len(expected.curves.y_mm) + 1)


def test_a_word_explains_itself_in_place(loud_page, fleet):
    page = loud_page
    open_wing(page, fleet)
    verdict(page).get_by_role("button", name=re.compile("^Margin, needs .*: what does this mean")).click()
    expect(page.get_by_role("dialog")).to_contain_text("Break load over this load times the safety factor.")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)


def test_inches_ounces_and_pounds_are_shown_and_typed(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    bend = figure(page, "Tip deflection")
    page.get_by_role("button", name="Units, colours and keys").click()
    page.get_by_role("radio", name="inch fractions, oz, lbf").click()
    expect(verdict(page)).to_contain_text(" oz")
    assert figure(page, "Tip deflection") == pytest.approx(bend / 25.4, rel=0.01)
    # sentences too, from the place where they are made: what is kept was asked for in other units
    expect(verdict(page)).to_contain_text(re.compile(r"\d in (out|from the root)"))
    expect(page.get_by_role("main")).not_to_contain_text(re.compile(r"\d mm (out|from the root)"))
    page.get_by_role("tab", name="Shape").click()
    fill(page, "Root chord", "900 in")
    expect(page.get_by_text("must be between 0.1969 in and 78.74 in", exact=True)).to_be_visible()
    fill(page, "Root chord", "7 1/4")
    saved(page)
    assert stored()["document"]["parts"][0]["root_chord_mm"] == pytest.approx(184.15)
    expect(page.get_by_label("Root chord", exact=True)).to_have_value("7 1/4")
    page.get_by_label("Tip chord", exact=True).focus()
    expect(page.get_by_label("Root chord", exact=True)).to_have_value("7 1/4 in")
    fill(page, "Tip chord", "140 mm")
    page.reload()
    expect(verdict(page)).to_contain_text(" oz")
    page.get_by_role("button", name="Units, colours and keys").click()
    page.get_by_role("radio", name="mm, g, N").click()
    saved(page)


def test_something_is_put_where_the_plan_is_pressed_twice(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    box = page.get_by_role("group", name="Left wing half, drawn to scale").bounding_box()
    assert box
    page.mouse.dblclick(box["x"] + 0.55 * box["width"], box["y"] + 210)
    page.get_by_role("menuitem", name="Cut-out: pocket, hole, slit").click()
    saved(page)
    cut = stored()["document"]["parts"][0]["layers"][-1]
    assert cut["type"] == "cut"
    assert 150 < cut["start_mm"] < cut["end_mm"] < 450
    page.keyboard.press("Delete")
    saved(page)
    assert len(stored()["document"]["parts"][0]["layers"]) == 3


def test_a_bar_is_moved_in_the_large_cut(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    view(page, "Cross-section")
    open_line(page, "Carbon rod")
    grip = page.get_by_role("slider", name="Position and depth in the cross-section")
    grip.press("ArrowDown")
    grip.press("ArrowRight")
    saved(page)
    spar = stored()["document"]["parts"][0]["layers"][0]
    assert (spar["cover_mm"], spar["root_percent"]) == (0.6, 30.5)
    box = grip.bounding_box()
    assert box
    x, y = box["x"] + box["width"] / 2, box["y"] + 20
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 60, y + 8, steps=4)
    page.mouse.up()
    saved(page)
    moved = stored()["document"]["parts"][0]["layers"][0]
    assert moved["root_percent"] > 34 and moved["cover_mm"] > 1


def test_the_ends_of_a_control_surface_are_moved_on_the_plan(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    page.get_by_role("tab", name="Shape").click()
    page.get_by_label("Has a control surface").check()
    page.get_by_role("slider", name="Start of the control surface").press("Shift+ArrowRight")
    saved(page)
    control = stored()["document"]["parts"][0]["control"]
    assert control["start_mm"] == 310
    page.get_by_role("slider", name="End of the control surface").press("ArrowLeft")
    saved(page)
    assert stored()["document"]["parts"][0]["control"]["end_mm"] == 569
