"""Stockroom: what is there is added, reserved, cut for an airframe and put back; materials; which foam is this."""

from __future__ import annotations

import re

import pytest
from django.test import Client
from playwright.sync_api import expect

from fletcher.core.demo.stock import demo_stock
from tests.browser.test_access import faults
from tests.browser.test_balance import width_at_most
from tests.browser.test_bench import fill

pytestmark = pytest.mark.django_db(transaction=True)


def own() -> list[tuple[str, int, float | None]]:
    things = Client().get("/api/stock/own").json()
    return [(t["item"]["key"], t["item"]["count"], t["item"]["length_mm"]) for t in things]


def test_a_thing_is_put_on_the_shelf_changed_reserved_and_taken_off(loud_page, fleet):
    page = loud_page
    page.goto(fleet)
    page.get_by_role("navigation", name="Places").get_by_role("link", name="Stockroom").click()
    bars = page.get_by_role("region", name="Bars and dowels")
    count = sum(i.kind == "bar" for i in demo_stock())
    expect(bars.get_by_role("listitem")).to_have_count(count)
    expect(page.get_by_text(re.compile("past its date"))).to_have_count(1)
    bars.get_by_role("button", name="Add: Bar").click()
    form = bars.get_by_role("form", name="Add bar")
    form.get_by_label("Material").select_option("carbon_tube_6_4")
    fill(form, "Length", "0 mm")
    form.get_by_role("button", name="Add bar").click()
    expect(form.get_by_role("alert")).to_be_visible()
    fill(form, "Length", "750 mm")
    form.get_by_role("button", name="Add bar").click()
    expect(bars.get_by_role("listitem")).to_have_count(count + 1)
    assert ("carbon_tube_6_4", 1, 750) in own()
    mine = bars.get_by_role("listitem").filter(has_text="750 mm")
    mine.get_by_role("combobox").select_option(label="for Reed Warden")
    expect(mine.get_by_role("combobox")).not_to_have_value("")
    mine.get_by_role("button", name=re.compile("^Change: ")).click()
    form = mine.get_by_role("form", name="Keep change")
    fill(form, "Length", "700 mm")
    form.get_by_role("button", name="Keep change").click()
    mine = bars.get_by_role("listitem").filter(has_text="700 mm")
    expect(mine).to_be_visible()
    page.reload()
    expect(mine.get_by_role("combobox")).not_to_have_value("")
    mine.get_by_role("button", name=re.compile("^Take off the shelf")).click()
    expect(bars.get_by_role("listitem")).to_have_count(count)
    assert faults(page) == []
    page.set_viewport_size({"width": 390, "height": 844})
    assert width_at_most(page, 390)


def test_a_table_is_looked_at_before_it_is_put_on(loud_page, fleet):
    page = loud_page
    page.goto(f"{fleet}/stockroom")
    before = len(own())
    table = page.get_by_label("Table of stock")
    wrong = b"kind,material,length mm\nbar,carbon_rod_3,long\n"
    table.set_input_files({"name": "a.csv", "mimeType": "text/csv", "buffer": wrong})
    expect(page.get_by_role("alert")).to_contain_text("line 2")
    right = b"kind,material,length mm\nbar,carbon_rod_3,512\n"
    table.set_input_files({"name": "a.csv", "mimeType": "text/csv", "buffer": right})
    dialog = page.get_by_role("dialog", name="Things from a table")
    expect(dialog.get_by_role("listitem")).to_contain_text("512 mm")
    assert len(own()) == before
    dialog.get_by_role("button", name="Add 1 line").click()
    expect(page.get_by_role("listitem").filter(has_text="512 mm")).to_be_visible()
    with page.expect_download() as saving:
        page.get_by_role("button", name="Save as CSV").click()
    assert saving.value.path().read_text().count("\n") == before + 2


def test_a_length_of_the_shelf_is_cut_for_an_airframe_and_put_back(loud_page, fleet):
    page = loud_page
    airframe = next(a for a in Client().get("/api/airframes").json() if a["document"]["name"] == "Reed Warden")
    page.goto(f"{fleet}/build/{airframe['id']}")
    cuts = page.get_by_role("region", name="Cut list")
    take = cuts.get_by_role("button", name=re.compile("^Cut from the shelf"))
    expect(take.first).to_be_visible(timeout=60_000)
    before = own()
    take.first.click()
    made = cuts.get_by_role("region", name="Cut already")
    expect(made.get_by_role("listitem")).to_have_count(1)
    assert sorted(own(), key=str) != sorted(before, key=str)
    made.get_by_role("button", name=re.compile("^Put back")).click()
    expect(made).to_have_count(0)
    assert sorted(own(), key=str) == sorted(before, key=str)


def test_materials_say_how_sure_and_where_they_are_used_and_a_scrap_what_it_is(loud_page, fleet):
    page = loud_page
    page.goto(f"{fleet}/stockroom?view=materials")
    fill(page, "Name", "30 kg")
    row = page.get_by_role("row").filter(has_text="Bead foam PP, 30 kg")
    expect(row).to_contain_text("Reed Warden")
    expect(row).to_contain_text("27 – 33")
    assert faults(page) == []
    page.get_by_role("navigation", name="Stockroom").get_by_role("link", name="Which foam is this?").click()
    for says in ("round beads, packed together", "snaps clean", "it melts away at once"):
        page.get_by_role("button", name=says).click()
    odds = page.get_by_role("table", name="Odds by family of foam").get_by_role("rowheader")
    expect(odds.first).to_contain_text("Bead foam PS")
    for label, value in (("length", "200 mm"), ("width", "100 mm"), ("thickness", "20 mm"), ("weight", "6 g")):
        fill(page, f"Block, {label}", value)
    expect(page.get_by_text("15 kg/m³", exact=True)).to_be_visible()
    expect(odds.first).to_contain_text("15 kg/m³")
    assert faults(page) == []
