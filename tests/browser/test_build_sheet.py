"""Build sheet: every step by day with its checks, a shop that changes the plan, a calendar, a phone."""

from __future__ import annotations

import io
import re
from datetime import timedelta
from uuid import uuid4

import pytest
from django.test import Client
from django.utils import timezone
from PIL import Image
from playwright.sync_api import expect

from fletcher.core.demo.build import warden_presses
from fletcher.core.demo.stock import demo_stock
from fletcher.core.demo.world import demo_airframes
from fletcher.core.plan.cut_list import CutWish, OwnBars, cut_list
from fletcher.core.plan.operations import operations
from fletcher.core.plan.schema import ShopWish
from tests.browser.test_access import faults
from tests.browser.test_balance import width_at_most
from tests.browser.test_bench import fill

PRESSED = {p.key for p in warden_presses(demo_airframes()[0])}
DONE = len(PRESSED)
CORE = re.compile("^Cut the core, Left tail half")
"""Steps that the group has done."""

pytestmark = pytest.mark.django_db(transaction=True)


def test_an_airframe_is_planned_in_the_hours_of_the_shop(loud_page, fleet):
    page = loud_page
    page.goto(fleet)
    page.get_by_role("link", name="Reed Warden", exact=True).first.click()
    page.get_by_role("navigation", name="Airframe").get_by_role("link", name="Build sheet").click()
    verdict = page.get_by_role("region", name="Verdict").get_by_role("status")
    expect(verdict).to_contain_text("First flight", timeout=60_000)
    steps = page.get_by_role("region", name="Steps").get_by_role("listitem").filter(has=page.locator("time"))
    made = [*operations(demo_airframes()[0], ShopWish()), "the group's own step"]
    expect(steps).to_have_count(len(made) - DONE)
    for o in [o for o in made[:-1] if o.key not in PRESSED and o.gates][:4]:
        expect(page.get_by_role("list", name=f"Check before: {o.title}", exact=True).first).to_contain_text(
            o.gates[0].says
        )
    expect(page.get_by_text("Fumes from hot-wire and melted foam.")).to_have_count(1)  # at its step, once
    cuts = page.get_by_role("region", name="Cut list")
    own: dict[str, list[float]] = {}
    for i in demo_stock():  # what is on the shelf is cut first
        if i.kind == "bar":
            own.setdefault(i.key, []).extend([i.length_mm] * i.count)
    wish = CutWish(own=tuple(OwnBars(stock=k, mm=tuple(v)) for k, v in own.items()))
    for b in cut_list(demo_airframes()[0], wish).bars:
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
    assert saving.value.path().read_text().count("BEGIN:VEVENT") == len(made) - DONE
    fill(page, "People", "9")
    expect(page.get_by_role("alert").filter(has_text=re.compile("between 1 and 4"))).to_be_visible(timeout=30_000)
    expect(steps).to_have_count(len(made) - DONE)  # the last plan stays
    page.reload()  # the shop is kept
    expect(page.get_by_text("At any time, nights too.")).to_be_visible()
    fill(page, "People", "2")
    expect(verdict).to_contain_text("First flight", timeout=60_000)
    assert faults(page) == []
    page.set_viewport_size({"width": 390, "height": 844})
    assert width_at_most(page, 390)


def opened(page, fleet, airframe: str) -> None:
    page.goto(f"{fleet}/build/{airframe}")
    verdict = page.get_by_role("region", name="Verdict").get_by_role("status")
    expect(verdict).to_contain_text("First flight", timeout=60_000)


@pytest.fixture
def warden(fleet) -> str:
    return next(a["id"] for a in Client().get("/api/airframes").json() if a["document"]["name"] == "Reed Warden")


def work_of(airframe: str) -> dict:
    return Client().get(f"/api/build/{airframe}").json()["work"]


def test_the_plan_is_changed_what_that_costs_is_said_and_taken_back(loud_page, fleet, warden):
    page = loud_page
    opened(page, fleet, warden)
    own = page.get_by_role("region", name="Your changes")
    expect(own.get_by_role("listitem")).to_have_count(1)  # the group's own step
    first = page.get_by_role("button", name=re.compile("^Change: ")).first
    title = first.get_attribute("aria-label").removeprefix("Change: ")
    first.click()
    form = page.get_by_role("group", name=f"Change: {title}")
    fill(form, "Takes you, minutes", "150")
    form.get_by_role("button", name="Keep time").click()
    expect(own.get_by_role("listitem")).to_have_count(2)
    expect(page.get_by_text(re.compile("With your last change it flies .*more work"))).to_be_visible(timeout=60_000)
    kept = work_of(warden)["changes"][-1]
    assert (kept["what"], kept["minutes"]) == ("time", 150)
    page.get_by_role("button", name=f"Change: {title}", exact=True).click()
    fill(form, "Reason to leave it out", "no need")
    last = form.get_by_label("Only after").locator("option").last.get_attribute("value")
    assert last == "flight"
    form.get_by_label("Only after").select_option(last)
    form.get_by_role("button", name="Keep order").click()
    expect(form.get_by_role("alert")).to_contain_text("wait for one another")
    expect(own.get_by_role("listitem")).to_have_count(2)
    page.reload()
    own.get_by_role("button", name=re.compile("Take back: .*150 min")).click()
    expect(own.get_by_role("listitem")).to_have_count(1)
    own.get_by_role("button", name="+ Own step").click()
    form = page.get_by_role("form", name="Own step")
    form.get_by_label("What is done").fill("Photograph the spar")
    form.get_by_role("button", name="Add step").click()
    expect(own.get_by_role("listitem")).to_have_count(2)
    expect(page.get_by_role("region", name="Steps")).to_contain_text("Photograph the spar", timeout=60_000)
    assert faults(page) == []


def test_work_at_the_bench_goes_on_without_the_server_and_catches_up(loud_page, fleet, warden):
    page = loud_page
    page.set_viewport_size({"width": 390, "height": 844})
    opened(page, fleet, warden)
    page.get_by_role("link", name="Work at the bench").click()
    now = page.get_by_role("region", name="Now")
    head = now.get_by_role("heading", level=2)
    expect(head).to_be_visible(timeout=60_000)
    assert width_at_most(page, 390)
    core = page.get_by_role("region", name="Could be done as well").get_by_role("button", name=CORE)
    if not now.get_by_text("Left tail half").is_visible() or head.inner_text() != "Cut the core":
        core.first.click()  # which step comes first depends on the hour
    expect(head).to_have_text("Cut the core")
    begin, done = now.get_by_role("button", name="Begin"), now.get_by_role("button", name="Done")
    expect(begin).to_be_disabled()  # a core once cut stays cut: its check comes first
    now.get_by_label(re.compile("^Measured or noted: ")).fill("100.1")
    now.get_by_role("button", name="✓ Passed").click()
    begin.click()
    expect(now.get_by_role("button", name="+10 min")).to_be_visible()
    assert faults(page) == []
    page.reload()  # what was begun is still under way
    expect(now.get_by_text(re.compile("begun"))).to_be_visible(timeout=60_000)
    title = head.inner_text()
    out = io.BytesIO()
    Image.new("RGB", (40, 30), "tan").save(out, "JPEG")
    picture = {"name": "core.jpg", "mimeType": "image/jpeg", "buffer": out.getvalue()}
    now.get_by_label(re.compile("^Photo of: ")).set_input_files(picture)
    expect(now.get_by_text("In the Log.")).to_be_visible()
    (entry,) = [e for e in Client().get(f"/api/crash/airframes/{warden}/log").json()["entries"] if e["pictures"]]
    assert entry["event"]["says"].startswith(f"Build: {title}")
    page.context.set_offline(True)
    done.click()
    expect(page.get_by_text(re.compile("1 kept here, not yet on the server"))).to_be_visible()
    expect(page.get_by_role("status").filter(has_text=f"{DONE + 1} of")).to_be_visible()
    page.context.set_offline(False)
    expect(page.get_by_text(re.compile("kept here"))).to_have_count(0)
    pressed = [p["what"] for p in work_of(warden)["presses"]][2 * DONE :]
    assert pressed == ["gate", "begun", "done"]
    assert work_of(warden)["presses"][2 * DONE]["value"] == 100.1
    page.get_by_text(f"Done ({DONE + 1})").click()
    page.get_by_role("button", name=re.compile(f"^Not done: {re.escape(title)}")).first.click()
    expect(page.get_by_role("status").filter(has_text=f"{DONE} of")).to_be_visible()


def test_the_bench_opens_again_while_the_server_is_away(loud_page, fleet, warden):
    page = loud_page
    page.goto(f"{fleet}/build/{warden}/run")
    now = page.get_by_role("region", name="Now")
    expect(now.get_by_role("heading", level=2)).to_be_visible(timeout=60_000)
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    page.reload()  # what is loaded from now on is kept
    expect(now.get_by_role("heading", level=2)).to_be_visible(timeout=60_000)
    page.wait_for_function("caches.open('fletcher-page').then((c) => c.match('/build/')).then(Boolean)")
    head = now.get_by_role("heading", level=2).inner_text()
    assert page.evaluate("caches.open('fletcher-page').then(async (c) => (await c.keys()).map((r) => r.url))") != []
    kept = page.evaluate("caches.open('fletcher-page').then(async (c) => (await c.keys()).map((r) => r.url))")
    assert not any("/api/" in url for url in kept)  # nobody's data
    away = re.compile(r".*/(api/.*|build/.*|static/.*|sw\.js)$")
    page.context.route(away, lambda route: route.abort())
    page.context.set_offline(True)
    page.reload()
    expect(now.get_by_role("heading", level=2)).to_have_text(head, timeout=60_000)
    now.get_by_role("button", name="Not right").click()
    expect(page.get_by_text(re.compile("1 kept here, not yet on the server"))).to_be_visible()
    page.context.unroute(away)
    page.context.set_offline(False)
    expect(page.get_by_text(re.compile("kept here"))).to_have_count(0, timeout=60_000)
    assert "not_right" in [p["what"] for p in work_of(warden)["presses"]]


def test_a_clock_of_what_sets_is_right_after_a_reload_and_rings(loud_page, fleet, warden):
    page = loud_page
    glued = next(o for o in operations(demo_airframes()[0], ShopWish()) if o.fixed_min > 20 and o.key not in PRESSED)
    ago = (timezone.now() - timedelta(minutes=glued.fixed_min - 5)).isoformat()
    late = (timezone.now() - timedelta(minutes=glued.fixed_min + 3)).isoformat()
    client = Client()
    token = client.get("/api/session").json()["csrf"]

    def tell(what: str, at: str) -> None:
        press = {"id": str(uuid4()), "at": at, "what": what, "key": glued.key}
        reply = client.post(
            f"/api/build/{warden}/presses", {"presses": [press]}, content_type="application/json",
            headers={"X-CSRFToken": token},
        )  # fmt: skip
        assert reply.status_code == 200

    tell("done", ago)
    page.goto(f"{fleet}/build/{warden}/run")
    clocks = page.get_by_role("region", name="Clocks").get_by_role("listitem")
    expect(clocks.first).to_contain_text(re.compile(r"^[45]:\d\d"), timeout=60_000)
    expect(clocks.first).to_contain_text("holds itself")
    page.reload()
    expect(clocks.first).to_contain_text(re.compile(r"^[45]:\d\d"), timeout=60_000)
    fill(page, "Workshop temperature", "30 °C")
    page.get_by_role("button", name="So warm from now on").click()
    expect(page.get_by_role("button", name="So warm from now on")).to_be_disabled()  # it is told
    expect(page.get_by_text(re.compile("kept here"))).to_have_count(0)
    assert [p["value"] for p in work_of(warden)["presses"] if p["what"] == "warmth"] == [30]
    tell("undone", timezone.now().isoformat())
    tell("done", late)
    page.reload()
    expect(clocks.first).to_contain_text("holds itself", timeout=60_000)
