"""Balance: the verdict, a battery moved by keys and pointer, a remedy taken and undone, equipment put in and out."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from fletcher.core.balance.sheet import balance_sheet
from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe
from fletcher.core.studies.lighter_parts import lighter_parts
from tests.browser.test_access import faults
from tests.browser.test_bench import saved

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def opened(loud_page, fleet):
    page = loud_page
    page.goto(fleet)
    page.get_by_role("link", name="Reed Warden", exact=True).first.click()
    page.get_by_role("navigation", name="Airframe").get_by_role("link", name="Balance").click()
    expect(page.get_by_role("region", name="Verdict").get_by_role("status")).to_be_visible(timeout=30_000)
    return page


def width_at_most(page, most):
    """Whether the page gets as narrow as that: what is drawn by measure follows its frame some frames later."""
    return page.evaluate(
        """most => new Promise((done) => {
            const look = (n) => {
                const fits = document.documentElement.scrollWidth <= most;
                if (fits || n > 600) done(fits);
                else requestAnimationFrame(() => look(n + 1));
            };
            look(0);
        })""",
        most,
    )


def verdict(page):
    return page.get_by_role("region", name="Verdict").get_by_role("status")


def battery(page):
    return page.get_by_role("slider", name=re.compile("^Battery 3 cells"))


def test_a_remedy_gives_what_it_promised_and_is_taken_back(opened, stored):
    page, planned = opened, demo_airframes()[0]
    sheet = balance_sheet(planned)
    expect(verdict(page)).to_contain_text(sheet.says)
    page.get_by_role("button", name=f"Apply: {sheet.plan[0].says}").click()
    expect(verdict(page)).to_contain_text("inside its range")
    saved(page)
    moved = Airframe.model_validate(stored()["document"])
    assert next(e for e in moved.equipment if e.id == "battery").x_mm == pytest.approx(sheet.plan[0].to_mm)
    assert balance_sheet(moved).centre_mm.typ == pytest.approx(sheet.margin.target_mm, abs=0.1)
    page.get_by_role("button", name="Undo").click()
    expect(verdict(page)).to_contain_text(sheet.says)


def test_what_could_be_lighter_is_told_with_its_loss_and_taken_back(opened, stored):
    page = opened
    slow = """async () => {
      const all = await (await fetch("/api/airframes")).json();
      const a = all.find((x) => x.document.name === "Reed Warden");
      const token = document.cookie.match(/csrftoken=([^;]+)/)?.[1] ?? "";
      const body = JSON.stringify({ revision: a.revision, document: { ...a.document, top_speed_m_s: 6 } });
      const headers = { "Content-Type": "application/json", "X-CSRFToken": token };
      return (await fetch(`/api/airframes/${a.id}`, { method: "PUT", headers, body })).status;
    }"""
    assert page.evaluate(slow) == 200  # so slow that tape is not needed against divergence
    page.reload()
    planned = demo_airframes()[0].model_copy(update={"top_speed_m_s": 6.0})
    ways = lighter_parts(planned)
    lighter = page.get_by_role("region", name="Lighter structure")
    lighter.get_by_role("button", name="Find what could be lighter").click()
    rows = lighter.get_by_role("listitem")
    expect(rows).to_have_count(len(ways), timeout=60_000)
    for n, w in enumerate(ways):
        expect(rows.nth(n)).to_contain_text(w.says)
        expect(rows.nth(n)).to_contain_text(w.loses)
        expect(rows.nth(n).get_by_role("button")).to_have_count(1 if w.enough else 0)
    good = next(w for w in ways if w.enough)
    lighter.get_by_role("button", name=f"Apply: {good.says}").click()
    saved(page)
    made = Airframe.model_validate(stored()["document"])
    assert made.part(good.part.id) == good.part
    assert balance_sheet(made).centre_mm.typ == pytest.approx(good.centre_mm)
    expect(lighter.get_by_role("button", name=re.compile("^Apply"))).to_have_count(0)  # they are of before
    page.get_by_role("button", name="Undo").click()
    saved(page)
    assert Airframe.model_validate(stored()["document"]).part(good.part.id) != good.part


def test_a_battery_is_moved_by_keys_and_by_pointer_within_its_room(opened, stored):
    page = opened
    battery(page).focus()
    page.keyboard.press("Shift+ArrowLeft")
    page.keyboard.press("ArrowRight")
    saved(page)
    where = lambda: next(e for e in stored()["document"]["equipment"] if e["id"] == "battery")["x_mm"]  # noqa: E731
    assert where() == 281
    box = battery(page).bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x - 2000, y)
    expect(verdict(page)).to_contain_text(re.compile("inside its range|further forward"))
    page.mouse.up()
    saved(page)
    assert where() == 190  # the front end of its room


def test_equipment_is_added_weighed_and_refused_where_it_cannot_be(opened, stored):
    page = opened
    page.get_by_role("button", name="+ Wheel").click()
    row = page.get_by_role("region", name="Equipment").locator("li").filter(has_text="Wheel, 50 mm")
    row.locator("summary").click()
    row.get_by_label("Measured mass", exact=True).fill("14 g")
    row.get_by_label("Behind the datum", exact=True).fill("9000")
    expect(row.get_by_text(re.compile("behind the airframe: at most 300 mm"))).to_be_visible()
    row.get_by_label("Behind the datum", exact=True).fill("150")
    saved(page)
    wheel = next(e for e in stored()["document"]["equipment"] if e["what"] == "wheel")
    assert (wheel["mass_g"], wheel["x_mm"]) == (14, 150)
    row.get_by_role("button", name="Remove").click()
    saved(page)
    assert not any(e["what"] == "wheel" for e in stored()["document"]["equipment"])


def test_the_page_is_for_everybody_and_fits_a_phone(opened):
    page = opened
    assert faults(page) == []
    page.set_viewport_size({"width": 390, "height": 844})
    assert width_at_most(page, 390)
    page.get_by_text("Foam and ribs", exact=True).click()
    expect(page.get_by_role("rowheader", name="Left wing half, left: foam").first).to_be_visible()
    assert faults(page) == []
