"""Build sheet: every step by day with its checks, a shop that changes the plan, a calendar, a phone."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from fletcher.core.demo.world import demo_airframes
from fletcher.core.plan.cut_list import CutWish, cut_list
from fletcher.core.plan.operations import operations
from fletcher.core.plan.schema import ShopWish
from tests.browser.test_access import faults
from tests.browser.test_balance import width_at_most
from tests.browser.test_bench import fill

pytestmark = pytest.mark.django_db(transaction=True)


def test_an_airframe_is_planned_in_the_hours_of_the_shop(loud_page, fleet):
    page = loud_page
    page.goto(fleet)
    page.get_by_role("link", name="Reed Warden", exact=True).first.click()
    page.get_by_role("navigation", name="Airframe").get_by_role("link", name="Build sheet").click()
    verdict = page.get_by_role("region", name="Verdict").get_by_role("status")
    expect(verdict).to_contain_text("First flight", timeout=60_000)
    steps = page.get_by_role("region", name="Steps").get_by_role("listitem").filter(has=page.locator("time"))
    made = operations(demo_airframes()[0], ShopWish())
    expect(steps).to_have_count(len(made))
    for o in made[:4]:
        expect(page.get_by_role("list", name=f"Check before: {o.title}", exact=True).first).to_contain_text(
            o.gates[0].says
        )
    expect(page.get_by_text("Fumes from hot-wire and melted foam.")).to_have_count(1)  # at its step, once
    cuts = page.get_by_role("region", name="Cut list")
    for b in cut_list(demo_airframes()[0], CutWish()).bars:
        mine = cuts.get_by_role("region", name=b.name, exact=True)
        expect(mine).to_contain_text(f"buy {b.buy} × {b.unit}")
        expect(mine.get_by_role("listitem")).to_have_count(len(b.cuts))
        expect(mine).to_contain_text(b.cuts[0].pieces[0].name)
    before = verdict.inner_text()
    page.get_by_role("button", name="Remove working hours 1").click()
    page.get_by_role("button", name="Remove working hours 1").click()
    expect(page.get_by_text("At any time, nights too.")).to_be_visible()
    expect(verdict).not_to_have_text(before, timeout=60_000)
    with page.expect_download() as saving:
        page.get_by_role("button", name="Save as calendar").click()
    assert saving.value.path().read_text().count("BEGIN:VEVENT") == len(made)
    fill(page, "People", "9")
    expect(page.get_by_role("alert").filter(has_text=re.compile("between 1 and 4"))).to_be_visible(timeout=30_000)
    expect(steps).to_have_count(len(made))  # the last plan stays
    page.reload()  # the shop is kept
    expect(page.get_by_text("At any time, nights too.")).to_be_visible()
    fill(page, "People", "2")
    expect(verdict).to_contain_text("First flight", timeout=60_000)
    assert faults(page) == []
    page.set_viewport_size({"width": 390, "height": 844})
    assert width_at_most(page, 390)
