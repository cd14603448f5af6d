"""Three newcomers walk in and count their presses: a board wing, a wing snapped within the hour, one at 12 × gravity.

What each takes is printed (`pytest -s`); the presses are bounded, the seconds are not: a slow machine proves nothing.
"""

from __future__ import annotations

import re
import time

import pytest
from playwright.sync_api import Locator, Page, expect

from fletcher.core.document.airframe import Airframe
from fletcher.core.estimate.report import estimate
from tests.browser.test_bench import fill, open_line, open_wing, saved, verdict
from tests.browser.test_crash_desk import press

pytestmark = pytest.mark.django_db(transaction=True)


class Walk:
    """A newcomer: presses and filled fields are counted, from the first page on."""

    def __init__(self, page: Page, name: str) -> None:
        self.page, self.name = page, name
        self.presses = self.fields = 0
        self.started = time.monotonic()

    def press(self, what: Locator, **how: float) -> None:
        what.click(**how)
        self.presses += 1

    def fill(self, label: str, value: str) -> None:
        self.page.get_by_label(label, exact=True).fill(value)
        self.fields += 1

    def choose(self, label: str, value: str) -> None:
        self.page.get_by_label(label, exact=True).select_option(value)
        self.fields += 1

    def done(self) -> None:
        took = time.monotonic() - self.started
        print(f"\n{self.name}: {self.presses} presses, {self.fields} fields, {took:.0f} s of machine time")


def test_a_board_wing_of_900_mm_from_foam_board_and_hot_glue(loud_page, fleet, stored):
    page = loud_page
    page.goto(fleet)
    walk = Walk(page, "Board wing of 900 mm")
    walk.press(page.get_by_role("link", name="New airframe"))
    walk.fill("Name", "First Try")
    walk.fill("Full span", "900 mm")
    walk.fill("All-up mass", "400 g")
    walk.fill("Top speed", "14 m/s")
    walk.press(page.get_by_role("checkbox", name="Foam board"))
    for tool in ("Film iron", "Hot-wire cutter"):
        walk.press(page.get_by_role("checkbox", name=tool))
    walk.press(page.get_by_role("button", name="Create all parts"))
    walk.press(page.get_by_role("button", name="Add to my Shelf"), timeout=120_000)
    walk.press(page.get_by_role("navigation", name="Airframe").get_by_role("link", name="Wing half"))
    expect(verdict(page)).to_contain_text("Enough — breaks at")
    walk.done()
    assert walk.fields <= 6 and walk.presses <= 8
    airframe = Airframe.model_validate(stored("First Try")["document"])
    assert 2 * airframe.parts[0].span_mm == 900
    assert all(v.enough == "sure" for v in estimate(airframe, "wing").verdicts if v.counts)


def test_a_snapped_wing_within_the_hour(loud_page, fleet):
    page = loud_page
    page.goto(fleet)
    walk = Walk(page, "Snapped wing, one hour")
    walk.press(page.get_by_role("link", name="Something broke"))
    walk.press(page.get_by_role("link", name="Folded wing half of Mud Lark"))
    drawing = page.get_by_role("group", name="Plan view with damage marks")
    expect(drawing.locator("polygon").first).to_be_visible()
    press(drawing, 0.33, 0.5)
    walk.presses += 1
    walk.press(page.get_by_role("menuitem", name="Snapped right through"))
    walk.press(page.get_by_role("tab", name="Repair"))
    walk.fill("Next launch in, min", "60")
    table = page.get_by_role("table", name="Repairs compared")
    expect(table.get_by_role("row").nth(1)).to_be_visible(timeout=60_000)
    walk.done()
    assert walk.presses + walk.fields <= 6


def test_a_fast_wing_at_12_times_gravity_the_lightest_that_holds(loud_page, fleet, stored):
    page = loud_page
    page.goto(fleet)
    walk = Walk(page, "1.6 m wing at 12 × gravity")
    walk.press(page.get_by_role("link", name="New airframe"))
    walk.press(page.get_by_role("link", name="Choose a construction"))
    walk.fill("Span of one half", "800 mm")
    walk.fill("Root chord", "200 mm")
    walk.fill("Tip chord", "140 mm")
    walk.fill("Load factor, × gravity", "12")
    walk.fill("All-up mass", "1200 g")
    walk.fill("Top speed", "35 m/s")
    expect(page.locator("section[aria-label=Constructions][aria-busy=false]")).to_be_visible(timeout=180_000)
    table = page.get_by_role("table", name=re.compile("Constructions"))
    first = table.locator("tbody").first
    expect(first).to_contain_text("✓ sure")  # those that hold come first, the lightest on top
    walk.press(first.get_by_role("button", name=re.compile("Create part")))
    expect(verdict(page)).to_contain_text("Enough — breaks at")
    saved(page)
    walk.done()
    assert walk.presses <= 3 and walk.fields <= 6
    airframe = Airframe.model_validate(stored("New airframe")["document"])
    told = estimate(airframe, airframe.parts[0].id, "pull-up")
    assert told.measure.value == pytest.approx(12, rel=0.01)
    assert all(v.enough == "sure" for v in told.verdicts if v.counts)


def test_the_tour_is_done_by_doing_can_be_left_and_found_again(loud_page, fleet):
    page = loud_page
    open_wing(page, fleet)
    tour = page.get_by_role("region", name="Tour")
    tour.get_by_role("button", name="Start tour").click()
    expect(tour).to_contain_text("1 of 4")
    page.get_by_role("tab", name="Loads").click()
    page.get_by_role("list", name="Load cases").get_by_role("button", name=re.compile("^Bench")).click()
    expect(tour).to_contain_text("1 of 4")  # chosen is not yet hung
    fill(page, "Hung mass", "2000 g")
    expect(tour).to_contain_text("2 of 4")
    page.get_by_role("tab", name="Lay-up").click()
    page.get_by_role("checkbox", name="Include Fibre tape").uncheck()
    expect(tour).to_contain_text("3 of 4")
    open_line(page, "Carbon")
    fill(page, "Foam cover", "2 mm")
    expect(tour).to_contain_text("4 of 4")
    verdict(page).get_by_role("button", name=re.compile("^Added mass .*show working")).click()
    page.keyboard.press("Escape")
    expect(tour).to_contain_text("That was all")
    tour.get_by_role("button", name="End tour").click()
    expect(tour).to_have_count(0)
    saved(page)
    page.reload()
    expect(verdict(page)).to_contain_text("Breaks")
    expect(tour).to_have_count(0)
    page.get_by_role("button", name="Keyboard shortcuts").click()
    page.get_by_role("button", name="Take the tour").click()
    expect(tour).to_contain_text("1 of 4")
