"""The shelf and the whole airframe: choosing a construction, places, the setting, copies, files in and out."""

from __future__ import annotations

import json
import re

import pytest
from playwright.sync_api import expect

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe
from fletcher.core.estimate.balance import whole
from fletcher.core.studies.constructions import CONSTRUCTIONS
from tests.browser.test_bench import fill, open_wing, saved, verdict

pytestmark = pytest.mark.django_db(transaction=True)


def test_a_construction_is_chosen_with_its_reasons_and_opens_ready(loud_page, fleet, stored):
    page = loud_page
    page.goto(fleet)
    page.get_by_role("link", name="Choose a construction").click()
    fill(page, "Span", "450 mm")
    fill(page, "All-up mass", "500 g")
    fill(page, "Top speed", "14")
    page.get_by_role("checkbox", name="Hot-wire cutter").uncheck()
    ways = page.get_by_role("region", name="Constructions, best first")
    cut = ways.get_by_role("listitem").filter(has_text="Cut-core wing half")
    expect(cut).to_contain_text("Needs a hot wire.")
    first = ways.get_by_role("listitem").first
    expect(first).to_contain_text("Breaks first")
    title = first.get_by_role("heading").inner_text()
    first.get_by_role("button", name=re.compile("Create part")).click()
    expect(verdict(page)).to_contain_text("Breaks first")
    assert page.url.split("/")[-2] == stored("New airframe")["id"]
    made = stored("New airframe")["document"]
    assert made["all_up_mass_g"] == 500
    assert made["parts"][0]["span_mm"] == 450
    way = next(c for c in CONSTRUCTIONS.values() if c.title == title)
    assert made["parts"][0]["name"] == way.name
    saved(page)


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
    expect(page.get_by_role("link", name="Port wing")).to_be_visible()
    page.get_by_role("listitem").filter(has=page.get_by_role("link", name="Port wing")).get_by_label(
        "out", exact=True
    ).fill("40")
    saved(page)
    page.get_by_role("link", name="Port wing").click()
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
