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
    page.get_by_label("Bar", exact=True).select_option("carbon_rod_4")
    saved(page)
    view(page, "Variants")
    fill(page, "Name for the present state", "Four millimetres")
    page.get_by_role("button", name="Pin it up").click()
    table = page.get_by_role("table", name=re.compile("present state and the variants"))
    expect(table.get_by_label("Name of variant Four millimetres")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    saved(page)
    document = Airframe.model_validate(stored()["document"])
    assert document.parts[0].layers[0].stock == "carbon_rod_3"
    # the difference from the variant stands in the verdict
    page.get_by_role("combobox", name="Compare with variant").select_option(label="Four millimetres")
    expect(verdict(page)).to_contain_text("against “Four millimetres”")
    now = estimate(document, "wing", "pull-up")
    thicker = document.parts[0].layers[0].model_copy(update={"stock": "carbon_rod_4"})
    part = document.parts[0].model_copy(update={"layers": (thicker, *document.parts[0].layers[1:])})
    other = estimate(document.model_copy(update={"parts": (part,)}), "wing", "pull-up")
    by = now.added_g.typ - other.added_g.typ
    expect(verdict(page)).to_contain_text(f"▼ −{abs(by):.2g}")
    # the best of a row is starred, in words for those who do not see it
    added = table.get_by_role("row", name=re.compile("^Added to foam"))
    expect(added.get_by_role("img", name="best")).to_have_count(1)
    table.get_by_label("Name of variant Four millimetres").fill("Stout")
    table.get_by_label("Name of variant Four millimetres").press("Enter")
    page.get_by_role("button", name="Adopt Stout").click()
    saved(page)
    assert stored()["document"]["parts"][0]["layers"][0]["stock"] == "carbon_rod_4"
    assert figure(page, "Tip bends") == pytest.approx(other.deflection_mm.typ, rel=0.01)


def test_an_earlier_state_is_pinned_brought_back_and_branched(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    page.get_by_role("button", name="States").click()
    dialog = page.get_by_role("dialog", name="All states of this airframe")
    expect(dialog).to_contain_text("Glass-thread tape")
    dialog.get_by_role("button", name="Pin up state 1", exact=True).click()
    expect(dialog).to_contain_text("State 1 is pinned up.")
    # state 3 has the thin rods
    dialog.get_by_role("button", name="Bring back state 3", exact=True).click()
    saved(page)
    assert stored()["document"]["parts"][0]["layers"][0]["stock"] == "carbon_rod_2"
    page.get_by_role("button", name="Undo").click()
    saved(page)
    assert stored()["document"]["parts"][0]["layers"][0]["stock"] == "carbon_rod_3"
    page.get_by_role("button", name="States").click()
    dialog.get_by_role("button", name="New airframe from state 3", exact=True).click()
    expect(page.get_by_role("heading", name="Reed Warden, another")).to_be_visible()
    branched = stored("Reed Warden, another")["document"]["parts"][0]
    assert branched["layers"][0]["stock"] == "carbon_rod_2"


def test_targets_are_ranges_and_stand_on_the_figures(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    page.get_by_role("tab", name="Wanted").click()
    fill(page, "Bend, at least", "10 mm")
    fill(page, "Bend, at most", "20 mm")
    expect(verdict(page)).to_contain_text("✕ no: under, 10 to 20 wanted")
    fill(page, "Added to the foam, at most", "40")
    expect(verdict(page)).to_contain_text("✓ sure: at most 40 wanted")
    saved(page)
    part = stored()["document"]["parts"][0]
    assert part["cases"][0]["bend_mm"] == {"low": 10, "high": 20}
    assert part["targets"]["added_g"] == {"low": None, "high": 40}
    fill(page, "Bend, at most", "5")
    expect(page.get_by_text("must not lie above the range's end").first).to_be_visible()
    fill(page, "Bend, at least", "")
    expect(verdict(page)).to_contain_text("at most 5 wanted")
    fill(page, "Bend, at most", "")
    expect(verdict(page)).not_to_contain_text("at most 5 wanted")
    saved(page)
    assert stored()["document"]["parts"][0]["cases"][0]["bend_mm"] is None


def test_lines_are_switched_off_reordered_by_pointer_and_told_when_they_give_nothing(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    before = figure(page, "Tip bends")
    page.get_by_role("checkbox", name="Carbon rod 3 mm is in").uncheck()
    saved(page)
    assert figure(page, "Tip bends") > 5 * before
    page.get_by_role("checkbox", name="Carbon rod 3 mm is in").check()
    saved(page)
    handle = page.get_by_role("button", name=re.compile("^Line 1, Carbon rod")).bounding_box()
    target = page.get_by_role("button", name=re.compile("^Line 3")).bounding_box()
    assert handle and target
    page.mouse.move(handle["x"] + 20, handle["y"] + 20)
    page.mouse.down()
    page.mouse.move(target["x"] + 20, target["y"] + 30, steps=5)
    page.mouse.move(target["x"] + 20, target["y"] + 150, steps=3)
    page.mouse.up()
    saved(page)
    assert [la["type"] for la in stored()["document"]["parts"][0]["layers"]][-1] == "bar"
    page.get_by_role("button", name="Undo").click()
    page.get_by_role("button", name="Add a line").click()
    page.get_by_role("menuitem", name="Single bar").click()
    fill(page, "Behind nose, root", "55")
    fill(page, "Behind nose, tip", "55")
    expect(page.get_by_text("Lies near the neutral line")).to_be_visible(timeout=60_000)
    fill(page, "Note", "from the old wing")
    saved(page)
    assert stored()["document"]["parts"][0]["layers"][-1]["note"] == "from the old wing"


def test_too_heavy_tells_what_comes_off_at_least_loss_and_does_it(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    page.get_by_text("Too heavy? What can come off").click(timeout=15_000)
    ways = page.get_by_role("list", name="What can come off")
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
    view(page, "Limits")
    limits = page.get_by_role("table", name="Limits of this lay-up")
    expect(limits).to_contain_text("All-up mass", timeout=20_000)
    expect(limits).to_contain_text("Speed of its cases")
    expect(page.get_by_text("never clearances")).to_be_visible()
    needs = page.get_by_role("table", name="From which load something becomes necessary")
    expect(needs).to_contain_text("A second bar")
    view(page, "How exact")
    exact = page.get_by_role("table", name=re.compile("How far each dimension"))
    expect(exact).to_contain_text("cover", timeout=30_000)
    expect(exact.get_by_role("row").nth(1)).to_contain_text("cover")


def test_a_strip_is_matched_and_the_design_scaled(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    view(page, "Like with like")
    page.get_by_label("Scale this line").select_option(label="Glass-thread tape")
    fill(page, "namely", "69 g")
    page.get_by_role("button", name="Match it").click()
    expect(page.get_by_text("Matched:")).to_be_visible(timeout=20_000)
    page.get_by_role("button", name="Take it over").click()
    saved(page)
    document = Airframe.model_validate(stored()["document"])
    assert trial(document, document.parts[0]).mass_g == pytest.approx(69, rel=0.01)
    view(page, "Like with like")
    fill(page, "Span of the part then", "750")
    page.get_by_role("button", name="Scale it").click()
    designs = page.get_by_role("table", name="Designs at the other span")
    expect(designs.get_by_role("row")).not_to_have_count(1, timeout=20_000)
    designs.get_by_role("button", name=re.compile("^Take over")).first.click()
    saved(page)
    document = stored()["document"]
    assert document["parts"][0]["span_mm"] == 750
    assert document["all_up_mass_g"] == pytest.approx(900 * 1.25**2.5, abs=0.1)


def test_plots_read_values_have_a_table_and_come_out_as_files(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    expected = estimate(Airframe.model_validate(stored()["document"]), "wing", "pull-up")
    view(page, "Plots")
    plot = page.get_by_role("slider", name=re.compile("^Bending moment, asked for and carried"))
    before = plot.get_attribute("aria-valuetext")
    plot.press("Shift+ArrowRight")
    assert plot.get_attribute("aria-valuetext") != before
    with page.expect_download() as download:
        page.get_by_role("button", name="CSV of Bends").click()
    rows = list(csv.reader(download.value.path().read_text().splitlines()))
    assert len(rows) == len(expected.curves.y_mm) + 1
    assert float(rows[-1][1]) == pytest.approx(expected.curves.deflection_mm[-1], rel=1e-6)
    with page.expect_download() as download:
        page.get_by_role("button", name="SVG of Bends").click()
    drawn = download.value.path().read_text()
    assert drawn.startswith("<svg") and "var(--" not in drawn
    with page.expect_download() as download:
        page.get_by_role("button", name="PNG of Bends").click()
    assert download.value.path().read_bytes().startswith(b"\x89PNG")
    page.get_by_text("The same as a table").nth(3).click()
    table = page.get_by_role("table", name=re.compile("^Bends"))
    expect(table.get_by_role("row")).to_have_count(len(expected.curves.y_mm) + 1)


def test_a_word_explains_itself_in_place(loud_page, fleet):
    page = loud_page
    open_wing(page, fleet)
    verdict(page).get_by_role("button", name=re.compile("^Margin, needs .*: what is that")).click()
    expect(page.get_by_role("dialog")).to_contain_text("Break load over this load times the safety factor.")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)


def test_inches_ounces_and_pounds_are_shown_and_typed(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    bend = figure(page, "Tip bends")
    page.get_by_role("button", name="Units, colours and keys").click()
    page.get_by_role("radio", name="inch fractions, oz, lbf").click()
    expect(verdict(page)).to_contain_text(" oz")
    assert figure(page, "Tip bends") == pytest.approx(bend / 25.4, rel=0.01)
    # sentences too, from the place where they are made: what is kept was asked for in other units
    expect(verdict(page)).to_contain_text(re.compile(r"\d in (out|from the root)"))
    expect(page.get_by_role("main")).not_to_contain_text(re.compile(r"\d mm (out|from the root)"))
    page.get_by_role("tab", name="Shape").click()
    fill(page, "Root chord", "900 in")
    expect(page.get_by_text("must be at most 78.74 in", exact=True)).to_be_visible()
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
    page.get_by_role("menuitem", name="Pocket, hole or slit").click()
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
    view(page, "Cut")
    open_line(page, "Carbon rod")
    grip = page.get_by_role("slider", name="Place and depth of the line in the cut")
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
    page.get_by_label("A control surface hangs on its rear edge").check()
    page.get_by_role("slider", name="Start of the control surface").press("Shift+ArrowRight")
    saved(page)
    control = stored()["document"]["parts"][0]["control"]
    assert control["start_mm"] == 310
    page.get_by_role("slider", name="End of the control surface").press("ArrowLeft")
    saved(page)
    assert stored()["document"]["parts"][0]["control"]["end_mm"] == 569
