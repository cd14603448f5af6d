"""The shelf and the whole airframe: choosing a construction, places, the setting, copies, files in and out."""

from __future__ import annotations

import json
import re

import pytest
from playwright.sync_api import expect

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe
from fletcher.core.estimate.balance import whole
from tests.browser.test_bench import fill, open_wing, saved, verdict

pytestmark = pytest.mark.django_db(transaction=True)


TYPED_AT_ONCE = """async (texts) => {
  const fields = Object.entries(texts).map(([label, text]) => {
    const caption = [...document.querySelectorAll("label")].find((l) => l.textContent === label);
    return [document.getElementById(caption.htmlFor), text];
  });
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set;
  for (const [field, text] of fields) {
    set.call(field, text);
    field.dispatchEvent(new Event("input", { bubbles: true }));
    await null;
  }
}"""


def test_fields_typed_faster_than_the_page_draws_all_stand_in_the_address(loud_page, fleet):
    page = loud_page
    page.goto(f"{fleet}/choose")
    expect(page.get_by_label("Span of one half", exact=True)).to_have_value(re.compile("^[1-9]"))
    page.evaluate(TYPED_AT_ONCE, {"Span of one half": "250 mm", "All-up mass": "500 g", "Top speed": "14"})
    page.reload()
    expect(page.get_by_label("Top speed", exact=True)).to_have_value("14 m/s")
    expect(page.get_by_label("Span of one half", exact=True)).to_have_value("250 mm")
    expect(page.get_by_label("All-up mass", exact=True)).to_have_value("500 g")


def test_no_size_stands_in_a_field_before_the_usual_sizes_are_known(loud_page, fleet):
    page, held = loud_page, []
    page.route("**/api/stock/constructions", lambda route: held.append(route))
    page.goto(f"{fleet}/choose")
    expect(page.get_by_text("Reading the usual sizes…")).to_be_visible()
    expect(page.get_by_label("Span of one half", exact=True)).to_have_count(0)
    for route in held:
        route.continue_()
    fill(page, "Span of one half", "250 mm")
    fill(page, "All-up mass", "500 g")
    expect(page.get_by_label("Span of one half", exact=True)).to_have_value("250 mm")


def test_a_construction_is_chosen_sized_with_its_reasons_and_opens_ready(loud_page, fleet, stored):
    page = loud_page
    page.goto(fleet)
    page.get_by_role("link", name="New airframe").click()
    page.get_by_role("link", name="Choose a construction").click()
    page.get_by_label("Part type").select_option("tail")
    fill(page, "Span of one half", "250 mm")
    fill(page, "All-up mass", "500 g")
    fill(page, "Top speed", "14")
    ways = page.get_by_role("table", name=re.compile("Constructions"))
    expect(page.locator("section[aria-label=Constructions][aria-busy=false]")).to_be_visible(timeout=60_000)
    heads = ways.get_by_role("rowheader")
    expect(heads).to_have_count(2)
    masses = [float(t.split()[0]) for t in ways.locator("tbody tr:first-child td:nth-child(2)").all_inner_texts()]
    assert masses == sorted(masses)
    ways.get_by_role("button", name="Deflection").click()
    bends = [float(t.split()[0]) for t in ways.locator("tbody tr:first-child td:nth-child(4)").all_inner_texts()]
    assert bends == sorted(bends)
    expect(ways).to_contain_text("Breaks first")
    address = page.url
    page.reload()  # what was asked stands in the address
    expect(page.get_by_label("Top speed", exact=True)).to_have_value("14 m/s")
    assert page.url == address
    page.get_by_role("button", name=re.compile("Create part.*Tail half, flat plate")).click(timeout=60_000)
    expect(verdict(page)).to_contain_text("Breaks first")
    made = stored("New airframe")["document"]
    assert (made["all_up_mass_g"], made["parts"][0]["span_mm"]) == (500, 250)
    assert {c["type"]: c["counts"] for c in made["parts"][0]["cases"]}["tip_strike"] is False
    saved(page)


def test_a_whole_airframe_is_made_at_once_and_its_verdicts_stand_on_the_shelf(loud_page, fleet, stored):
    page = loud_page
    page.goto(f"{fleet}/new")
    fill(page, "Name", "Sand Martin")
    page.get_by_label("Type", exact=True).select_option("profile")
    fill(page, "Full span", "900 mm")
    fill(page, "All-up mass", "4 kg")
    fill(page, "Top speed", "12 m/s")
    page.get_by_role("button", name="Create all parts").click()
    expect(page.get_by_text("flies only from about")).to_be_visible()
    fill(page, "All-up mass", "300 g")
    page.get_by_role("button", name="Create all parts").click()
    parts = page.get_by_role("region", name="Its parts")
    expect(parts).to_contain_text("All parts hold", timeout=120_000)
    page.get_by_role("button", name="Add to my Shelf").click()
    expect(page.get_by_role("navigation", name="Airframe").get_by_role("link", name="Fin")).to_be_visible()
    document = Airframe.model_validate(stored("Sand Martin")["document"])
    assert [p.name for p in document.parts] == ["Wing half", "Tail half", "Fin", "Rear fuselage", "Nose"]
    page.get_by_role("link", name="Shelf", exact=True).click()
    row = page.get_by_role("listitem").filter(has=page.get_by_role("heading", name="Sand Martin"))
    expect(row.get_by_text("✓ sure")).to_have_count(5, timeout=60_000)
    broken = page.get_by_role("listitem").filter(has=page.get_by_role("heading", name="Dunlin Post"))
    expect(broken.get_by_role("link", name="Open Wing, right on the Crash desk")).to_contain_text("✕ no")
    broken.get_by_role("link", name="Choose a repair: Wing, right").click()
    expect(page.get_by_role("tab", name="Repair")).to_be_visible()


def test_what_is_next_is_one_press_and_one_press_back(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    before = stored()["document"]["parts"][0]
    verdict(page).get_by_role("button", name="Make it lighter").click()
    expect(verdict(page).get_by_role("status")).to_contain_text(re.compile("−.* g"), timeout=60_000)
    saved(page)
    after = stored()["document"]["parts"][0]
    assert after["layers"] != before["layers"] and after["cases"] == before["cases"]
    page.get_by_role("button", name="Undo").click()
    saved(page)
    assert stored()["document"]["parts"][0] == before
    verdict(page).get_by_role("button", name="Details").click()
    expect(page.get_by_role("region", name="Details of the verdict")).to_contain_text("Part CG")


def test_a_load_factor_is_typed_and_a_case_is_switched_off(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    page.get_by_role("tab", name="Loads").click()
    cases = page.get_by_role("list", name="Load cases")
    cases.get_by_role("button", name=re.compile("^Pull-up")).click()
    fill(page, "Load factor, × gravity", "6")
    expect(page.get_by_text("6.0 × gravity on 900 g all up")).to_be_visible()
    page.get_by_role("checkbox", name="Counts towards the verdict").uncheck()
    expect(cases).to_contain_text("shown only, does not count")
    saved(page)
    case = stored()["document"]["parts"][0]["cases"][0]
    assert case["counts"] is False and case["speed_m_s"] > 15


def test_an_empty_shelf_has_three_doors(loud_page, fleet, stored):
    page = loud_page
    page.goto(fleet)
    for name in ("Reed Warden", "Mud Lark", "Tern Chaser", "Dunlin Post"):
        page.get_by_role("button", name=f"Delete {name}").click()
        page.get_by_role("button", name="Delete airframe").click()
        expect(page.get_by_role("heading", name=name)).to_have_count(0)
    doors = page.get_by_role("region", name="Where to start")
    expect(doors.get_by_role("link", name="New airframe")).to_be_visible()
    doors.get_by_role("button", name="Something broke").click()
    expect(page.get_by_role("dialog", name="What is damaged?")).to_be_visible()
    page.keyboard.press("Escape")
    doors.get_by_role("button", name="Add the demo fleet").click()
    expect(page.get_by_role("heading", name="Dunlin Post")).to_be_visible(timeout=60_000)
    assert stored("Reed Warden")["document"]["parts"]


def test_parts_have_places_and_the_whole_balances_as_the_core_says(loud_page, fleet, stored):
    page = loud_page
    page.goto(fleet)
    page.get_by_role("link", name="Reed Warden", exact=True).click()
    tail = page.get_by_role("listitem").filter(has=page.get_by_role("link", name="Left tail half"))
    tail.get_by_label("behind", exact=True).fill("1000")
    tail.get_by_label("Number of Left tail half").select_option("single")
    saved(page)
    document = Airframe.model_validate(stored()["document"])
    assert next(p for p in document.parts if p.id == "tail").place.x_mm == 1000
    told = whole(document)
    expect(page.get_by_role("main")).to_contain_text(f"{told.balance_mm.typ:.3g} mm")
    expect(page.get_by_role("main")).to_contain_text(f"{told.structure_g.typ:.3g} g")
    page.get_by_role("button", name="Undo").click()
    saved(page)


def test_the_setting_is_kept_once_and_bears_on_every_part(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    dry = verdict(page).inner_text()
    page.get_by_role("link", name="Reed Warden", exact=True).click()
    fill(page, "Hottest flying day", "45 °C")
    page.get_by_label("Moisture", exact=True).select_option("wet")
    fill(page, "Hottest storage temperature", "75")
    expect(page.get_by_text("Material values in this environment")).to_be_visible()
    expect(page.get_by_text("Keep it out of the parked car").first).to_be_visible()
    saved(page)
    setting = stored()["document"]["setting"]
    assert (setting["hottest_C"], setting["damp"], setting["parked_C"]) == (45, "wet", 75)
    fill(page, "Hottest flying day", "3")
    expect(page.get_by_text("must not be above the hottest")).to_be_visible()
    expect(page.get_by_text("Material values in this environment")).to_be_visible()
    fill(page, "Hottest flying day", "45")
    saved(page)
    page.get_by_role("link", name="Left wing half").first.click()
    expect(verdict(page)).to_contain_text("Breaks first")
    assert verdict(page).inner_text() != dry


def test_what_one_place_changed_the_next_place_knows(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    page.get_by_role("tab", name="Shape").click()
    fill(page, "Part name", "Port wing")
    # at once, before it is saved
    page.get_by_role("link", name="Reed Warden", exact=True).click()
    expect(page.get_by_role("region", name="Parts").get_by_role("link", name="Port wing")).to_be_visible()
    page.get_by_role("listitem").filter(has=page.get_by_role("link", name="Port wing")).get_by_label(
        "out", exact=True
    ).fill("40")
    saved(page)
    page.get_by_role("region", name="Parts").get_by_role("link", name="Port wing").click()
    page.get_by_role("tab", name="Shape").click()
    fill(page, "Root chord", "185")
    saved(page)
    expect(page.get_by_role("dialog")).to_have_count(0)
    part = stored()["document"]["parts"][0]
    assert (part["name"], part["place"]["y_mm"], part["root_chord_mm"]) == ("Port wing", 40, 185)


def test_a_part_is_copied_into_another_airframe_and_halves_set_apart(loud_page, fleet, stored):
    page = loud_page
    page.goto(fleet)
    page.get_by_role("link", name="Tern Chaser", exact=True).click()
    page.get_by_label("Copy Right wing half to").select_option(label="Mud Lark")
    expect(page.get_by_text("Right wing half copied to Mud Lark.")).to_be_visible()
    parts = stored("Mud Lark")["document"]["parts"]
    assert [p["name"] for p in parts][-1] == "Right wing half"
    assert len({p["id"] for p in parts}) == 3
    open_wing(page, fleet)
    page.get_by_role("tab", name="Shape").click()
    page.get_by_role("button", name="Separate left and right").click()
    saved(page)
    hands = {p["name"]: p["hand"] for p in stored()["document"]["parts"]}
    assert hands["Left wing half"] == "left" and hands["Left wing half (right)"] == "right"


def test_a_file_comes_in_whole_or_not_at_all(loud_page, fleet, stored, tmp_path):
    page = loud_page
    page.goto(fleet)
    expect(page.get_by_role("heading", name="Reed Warden")).to_be_visible()
    good = {**stored()["document"], "name": "From a file"}
    bad = json.loads(json.dumps(good))
    bad["parts"][0]["layers"][0]["end_mm"] = 9999
    (tmp_path / "bad.json").write_text(json.dumps(bad))
    (tmp_path / "broken.json").write_text('{"name": ')
    (tmp_path / "good.json").write_text(json.dumps(good))
    chosen = page.get_by_label("Airframe file")
    chosen.set_input_files(tmp_path / "bad.json")
    alert = page.get_by_role("alert")
    expect(alert).to_contain_text("File not opened")
    expect(alert).to_contain_text("parts[0].layers[0].end_mm")
    chosen.set_input_files(tmp_path / "broken.json")
    expect(alert).to_contain_text("not valid JSON")
    expect(page.get_by_role("heading", level=2).filter(has=page.get_by_role("link"))).to_have_count(
        len(demo_airframes())
    )
    chosen.set_input_files(tmp_path / "good.json")
    expect(page.get_by_role("heading", name="From a file")).to_be_visible()
    page.get_by_role("button", name="Delete From a file").click()
    page.get_by_role("alertdialog").get_by_role("button", name="Cancel").click()
    expect(page.get_by_role("heading", name="From a file")).to_be_visible()
    page.get_by_role("button", name="Delete From a file").click()
    page.get_by_role("alertdialog").get_by_role("button", name="Delete airframe").click()
    expect(page.get_by_role("heading", name="From a file")).to_have_count(0)
    expect(page.get_by_role("heading", level=2).filter(has=page.get_by_role("link"))).to_have_count(
        len(demo_airframes())
    )


def test_the_airframe_is_turned_in_space_and_bends_under_its_load(loud_page, fleet):
    page = loud_page
    page.goto(fleet)
    page.get_by_role("link", name="Reed Warden").first.click()
    page.get_by_role("button", name="In space").click()
    drawing = page.get_by_role("img", name=re.compile("^Reed Warden in space"))
    expect(page.get_by_text("Deflection to scale")).to_be_visible(timeout=20_000)
    seen = [drawing.screenshot()]
    drawing.focus()
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowUp")
    seen.append(drawing.screenshot())
    page.get_by_role("slider", name="Load").fill("3")
    expect(page.get_by_role("img", name=re.compile("bent by 3 ×"))).to_be_visible()
    seen.append(drawing.screenshot())
    assert len(set(seen)) == 3
    page.reload()  # the view is kept
    expect(page.get_by_role("button", name="In space")).to_have_attribute("aria-pressed", "true")
    page.get_by_role("button", name="Plan view").click()
    expect(page.get_by_role("img", name=re.compile("^Plan view of"))).to_be_visible()
