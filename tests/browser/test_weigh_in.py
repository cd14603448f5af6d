"""Weighing in and the Log in the page: a reading narrows, a surprise asks, what is typed stays, entries are found."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from fletcher.core.demo.world import demo_airframes
from tests.browser.test_access import faults
from tests.browser.test_balance import opened, width_at_most  # noqa: F401 - a fixture
from tests.browser.test_bench import saved
from tests.devices.test_simulated import bench  # noqa: F401 - a fixture
from tests.server.test_logbook import photo

pytestmark = pytest.mark.django_db(transaction=True)


def weigh(page, pieces, grams, stage=None):
    page.get_by_role("button", name="+ Weighing").click()
    form = page.get_by_role("form", name="New weighing")
    for piece in pieces:
        form.get_by_label(piece, exact=True).check()
    for box in form.get_by_role("checkbox", checked=True).all():
        if box.locator("xpath=..").inner_text() not in pieces:
            box.uncheck()
    if stage:
        form.get_by_label("Stage").select_option(stage)
    keep = form.get_by_role("button", name="Keep weighing")
    expect(keep).to_be_disabled()
    form.get_by_label("The scale reads").fill(f"{grams} g")
    keep.click()


def test_readings_narrow_the_forecast_ask_when_they_surprise_and_stand_in_the_log(opened, stored):  # noqa: F811
    page = opened
    section = page.get_by_role("region", name="Weighing", exact=True)
    expect(section).to_contain_text(re.compile(r"290 g of 7\d\d g weighed"))
    weigh(page, ["Left tail half, right"], 7.3, "skinned")
    row = section.get_by_role("listitem").filter(has_text="Left tail half, right")
    expect(row).to_contain_text("as expected")
    weigh(page, ["Motor, 28 mm can"], 96)
    row = section.get_by_role("listitem").filter(has_text="Motor, 28 mm can")
    expect(row).to_contain_text("check it, then it teaches")
    row.get_by_role("button", name="It is right").click()
    expect(row.get_by_role("button", name="It is right")).to_have_count(0)
    saved(page)
    kept = stored()["document"]["weighings"]
    assert [w["lines"] for w in kept[-1:]] == [["item/motor/one"]] and kept[-1]["trusted"]
    # a reading that cannot be is told at its row, and undo takes it back
    weigh(page, ["Left wing half, right"], 40, "skinned")
    row = section.get_by_role("listitem").filter(has_text="✕")
    expect(row).to_contain_text("must be at least 51.8 g")
    page.get_by_role("button", name="Undo").click()
    expect(row).to_have_count(0)
    page.get_by_role("navigation", name="Airframe").get_by_role("link", name="Log").click()
    entries = page.get_by_role("list", name="Log entries")
    expect(entries.get_by_role("listitem").filter(has_text="Motor, 28 mm can, finished: 96 g")).to_be_visible()


def test_two_supports_tell_the_centre_and_what_is_typed_outlives_a_reload(opened, stored):  # noqa: F811
    page = opened
    page.get_by_role("button", name="+ Weighing").click()
    form = page.get_by_role("form", name="New weighing")
    form.get_by_label("The whole airframe").check()
    form.get_by_label("How it is weighed").select_option("supports")
    form.get_by_label("First scale reads").fill("350")
    form.get_by_label("Second scale reads").fill("392")
    form.get_by_label("First support behind the datum").fill("200")
    form.get_by_label("Second support behind the datum").fill("430")
    page.reload()
    expect(form.get_by_label("Second support behind the datum")).to_have_value("430 mm", timeout=30_000)
    form.get_by_role("button", name="Keep weighing").click()
    row = page.get_by_role("region", name="Weighing", exact=True).get_by_role("listitem").last
    expect(row).to_contain_text(re.compile(r"balances at 321\.5 mm ± "))
    expect(form).to_have_count(0)
    saved(page)
    assert len(stored()["document"]["weighings"][-1]["lines"]) > 30
    page.set_viewport_size({"width": 390, "height": 844})
    assert width_at_most(page, 390)
    assert faults(page) == []


def test_a_table_of_equipment_is_shown_before_it_is_taken(opened, stored):  # noqa: F811
    page = opened
    choose = page.get_by_label("Table of equipment", exact=True)
    choose.set_input_files(
        {"name": "bad.csv", "mimeType": "text/csv", "buffer": b"name;mass g;x mm\nRod;heavy;10\n"}
    )  # fmt: skip
    expect(page.get_by_role("alert")).to_contain_text("line 2.mass_g: must be a number")
    choose.set_input_files(
        {"name": "good.csv", "mimeType": "text/csv", "buffer": b"name;mass g;x mm\nBoom camera;31,5;400\n"}
    )  # fmt: skip
    dialog = page.get_by_role("dialog", name="Equipment from a table")
    expect(dialog).to_contain_text("31.5 g at 400 mm")
    dialog.get_by_role("button", name="Add to it").click()
    saved(page)
    items = stored()["document"]["equipment"]
    assert (items[-1]["name"], items[-1]["mass_g"], len(items)) == ("Boom camera", 31.5, 9)
    with page.expect_download() as saving:
        page.get_by_role("button", name="Save equipment as CSV").click()
    assert "Boom camera" in saving.value.path().read_text()


def test_the_log_is_written_found_corrected_and_taken_away(loud_page, fleet):
    page = loud_page
    page.goto(fleet)
    page.get_by_role("link", name="Dunlin Post", exact=True).first.click()
    page.get_by_role("navigation", name="Airframe").get_by_role("link", name="Log").click()
    entries = page.get_by_role("list", name="Log entries").get_by_role("listitem")
    expect(entries).to_have_count(9)
    flights = page.locator("dl[aria-label=Flights]")
    expect(page.get_by_text("broken there again after 11 flights")).to_be_visible()
    form = page.get_by_role("form", name="Add entry")
    form.get_by_label("Flights", exact=True).fill("2")
    form.get_by_label("Notes").fill("Gentle circuits")
    form.get_by_role("button", name="Add to log").click()
    expect(entries.first).to_contain_text("2 flights: Gentle circuits")
    expect(flights).to_contain_text("20")
    page.get_by_role("button", name="Correct: Gentle circuits").click()
    correct = page.get_by_role("form", name="Correct entry")
    correct.get_by_label("Flights", exact=True).fill("3")
    correct.get_by_label("Notes").fill("Gentle circuits, windy")
    correct.get_by_role("button", name="Keep correction").click()
    expect(entries.first).to_contain_text("3 flights: Gentle circuits, windy")
    expect(entries.first.locator("del")).to_have_text("Gentle circuits")
    page.get_by_label("Find in the log").fill("circuits")
    expect(entries).to_have_count(1)
    page.get_by_role("button", name=re.compile("^Remove: Gentle")).click()
    page.get_by_role("button", name="Put it back").click()
    expect(entries.first).to_contain_text("Gentle circuits")
    page.get_by_label("Find in the log").fill("")
    page.get_by_text("All types").click()
    page.get_by_label("Building step", exact=True).check()
    expect(page.get_by_text("No entry fits.")).to_be_visible()
    page.reload()
    expect(page.get_by_text("No entry fits.")).to_be_visible()
    assert faults(page) == []
    page.set_viewport_size({"width": 390, "height": 844})
    assert width_at_most(page, 390)


def test_a_table_and_a_picture_come_into_the_log_and_an_entry_becomes_a_glue_test(loud_page, fleet):
    page = loud_page
    page.goto(fleet)
    page.get_by_role("link", name="Reed Warden", exact=True).first.click()
    page.get_by_role("navigation", name="Airframe").get_by_role("link", name="Log").click()
    entries = page.get_by_role("list", name="Log entries").get_by_role("listitem")
    expect(entries.first).to_contain_text("Soft spot")
    before = entries.count()
    says = "Foam-safe clear contact adhesive peeled"
    table = f"Date;Type;Part;Place cm;Note\n2026-05-02;test;Left wing half;12,5;{says}\n"
    choose = page.get_by_label("Table of log entries", exact=True)
    choose.set_input_files({"name": "a.csv", "mimeType": "text/csv", "buffer": (table + "bad;x;;;\n").encode()})
    expect(page.get_by_role("alert")).to_contain_text("line 3.kind")
    choose.set_input_files({"name": "a.csv", "mimeType": "text/csv", "buffer": table.encode()})
    page.get_by_role("button", name="Add 1 entry").click()
    expect(entries).to_have_count(before + 1)
    expect(page.get_by_role("alert")).to_have_count(0)
    mine = entries.filter(has_text=says)
    expect(mine).to_contain_text("125 mm from root")
    mine.get_by_label(re.compile("^Add photo to")).set_input_files(
        {"name": "p.png", "mimeType": "image/png", "buffer": photo().read()}
    )
    expect(mine.get_by_role("img")).to_be_visible()
    assert faults(page) == []
    mine.get_by_role("button", name="remove photo 1").click()
    expect(mine.get_by_role("img")).to_have_count(0)
    mine.get_by_role("link", name=re.compile("^Enter as glue test")).click()
    form = page.get_by_role("form", name="Test result")
    expect(form.get_by_label("Note", exact=True)).to_have_value(says)
    expect(form.get_by_label("Adhesive", exact=True)).to_have_value("contact_foamsafe_clear")
    expect(form.get_by_label("Material", exact=True)).to_have_value(demo_airframes()[0].part("wing").foam)


def test_a_steady_reading_is_taken_from_the_scale(opened, bench, settings, stored):  # noqa: F811
    page, scale = opened, bench.served["kitchen-scale"]
    settings.INSTRUMENTS = {"kitchen-scale": (f"socket://127.0.0.1:{scale.port}", "g", 0.1)}
    scale.scripted = False
    scale.instrument.load = 55.3
    page.get_by_role("button", name="+ Weighing").click()
    form = page.get_by_role("form", name="New weighing")
    form.get_by_label("Instrument").select_option("kitchen-scale")
    take = form.get_by_role("button", name="Take")
    expect(take).to_be_enabled(timeout=30_000)
    expect(form.get_by_label("Live reading")).to_contain_text("steady")
    take.click()
    expect(form.get_by_label("The scale reads")).to_have_value(re.compile(r"^5[45]\.\d g$"))
    scale.instrument.load = scale.instrument.before = 4000
    expect(form.get_by_label("Live reading")).to_contain_text("take something off", timeout=30_000)
    expect(take).to_be_disabled()
    form.get_by_role("button", name="Keep weighing").click()
    saved(page)
    assert 54 < stored()["document"]["weighings"][-1]["reading"]["grams"] < 56
