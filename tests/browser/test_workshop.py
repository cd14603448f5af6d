"""What the workshop asks of the build sheet: long spars, a warm box, a photograph, a repair, a cup of resin."""

from __future__ import annotations

import io
import json
import re
import zipfile
from uuid import uuid4

import pytest
from django.test import Client
from django.utils import timezone
from PIL import Image, ImageDraw
from playwright.sync_api import expect

from fletcher.core.demo.crash import crash_candidates
from fletcher.core.plan.operations import operations
from fletcher.core.plan.schema import ShopWish
from fletcher.core.validation.airframe import read
from tests.browser.test_access import faults
from tests.browser.test_balance import width_at_most
from tests.browser.test_bench import fill

pytestmark = pytest.mark.django_db(transaction=True)


def send(method: str, path: str, body: object) -> dict:
    client = Client()
    token = client.get("/api/session").json()["csrf"]
    reply = client.generic(method, f"/api/{path}", json.dumps(body), "application/json",
                           headers={"X-CSRFToken": token})  # fmt: skip
    assert reply.status_code in (200, 201), reply.content
    return reply.json()


def airframe(name: str) -> dict:
    return next(a for a in Client().get("/api/airframes").json() if a["document"]["name"] == name)


def planned(page) -> None:
    verdict = page.get_by_role("region", name="Verdict").get_by_role("status")
    expect(verdict).to_contain_text("First flight", timeout=60_000)


def splices(airframe_id: str) -> list[dict]:
    document = Client().get(f"/api/airframes/{airframe_id}").json()["document"]
    return [s for p in document["parts"] for la in p["layers"] for s in la.get("splices", [])]


def test_a_spar_that_is_longer_than_it_is_sold_is_joined_by_one_press(loud_page, fleet):
    page = loud_page
    document = airframe("Reed Warden")["document"] | {"name": "Long Warden"}
    wing = next(p for p in document["parts"] if p["kind"] == "wing")
    wing["span_mm"] = 1250
    for la in wing["layers"]:
        la["end_mm"] = None
    made = send("POST", "airframes", document)
    page.goto(f"{fleet}/build/{made['id']}")
    offer = page.get_by_role("region", name="Join long spars")
    expect(offer).to_contain_text(re.compile("comes 1000 mm long. Join it .* from the root"), timeout=60_000)
    offer.get_by_role("button", name="Join it there").first.click()
    expect(page.get_by_role("button", name="Join it there")).to_have_count(0, timeout=60_000)
    expect(page.get_by_text(re.compile("is longer than any stock"))).to_have_count(0)
    expect(page.get_by_text("saved", exact=True)).to_be_visible()
    (joint,) = splices(made["id"])
    assert joint["stagger_mm"] == joint["overlap_mm"] > 0
    page.get_by_role("button", name="Undo").click()
    expect(offer.get_by_role("button", name="Join it there")).to_be_visible(timeout=60_000)
    assert splices(made["id"]) == [] and faults(page) == []


def test_a_warm_box_is_told_and_used(loud_page, fleet):
    page = loud_page
    chaser = airframe("Tern Chaser")["id"]
    page.goto(f"{fleet}/build/{chaser}")
    planned(page)
    page.get_by_label("A warm box for glue to set in").check()
    page.get_by_label("Held by a thermostat, where nothing can catch fire").check()
    expect(page.get_by_text(re.compile("Into the warm box at once, 35"))).not_to_have_count(0, timeout=60_000)
    expect(page.get_by_text("A warm box can start a fire.")).to_have_count(1)
    fill(page, "Its temperature", "90 °C")
    expect(page.get_by_role("alert").filter(has_text="60")).to_be_visible(timeout=60_000)
    fill(page, "Its temperature", "35 °C")
    page.reload()  # the shop is kept
    expect(page.get_by_text(re.compile("Into the warm box at once"))).not_to_have_count(0, timeout=60_000)
    assert faults(page) == []


def photograph() -> dict:
    image = Image.new("RGB", (1600, 1100), (188, 170, 140))
    ImageDraw.Draw(image).polygon([(400, 800), (500, 300), (900, 240), (1000, 800)], fill=(240, 240, 235))
    out = io.BytesIO()
    image.save(out, "JPEG")
    return {"name": "fin.jpg", "mimeType": "image/jpeg", "buffer": out.getvalue()}


def test_a_piece_is_traced_over_a_photograph(loud_page, fleet):
    page = loud_page
    page.goto(f"{fleet}/build/{airframe('Reed Warden')['id']}")
    page.get_by_role("link", name="Trace a photograph").click()
    page.get_by_label("Photograph of the piece").set_input_files(photograph())
    sheet = page.get_by_role("application")
    wide = sheet.bounding_box()["width"] / 1600

    def at(x: float, y: float) -> None:
        sheet.click(position={"x": x * wide, "y": y * wide})

    at(300, 930), at(1300, 930)
    fill(page, "Distance between the two points", "200")
    page.get_by_role("button", name="2. Check").click()
    at(1000, 800), at(1000, 400)
    fill(page, "Distance between these two", "75")
    page.get_by_role("button", name="3. Outline").click()
    for corner in ((400, 800), (500, 300), (900, 240), (1000, 800)):
        at(*corner)
    told = page.get_by_role("status")
    expect(told).to_contain_text("120 mm × 112 mm")
    expect(told).to_contain_text("not square to the camera")
    page.reload()  # points and picture are kept
    expect(told).to_contain_text("120 mm × 112 mm")
    with page.expect_download() as saving:
        page.get_by_role("button", name="Save template 1:1").click()
    names = zipfile.ZipFile(io.BytesIO(saving.value.path().read_bytes())).namelist()
    assert names == ["traced-piece.dxf", "traced-piece.svg", "traced-piece.pdf"]
    page.get_by_role("button", name="3. Outline").click()
    sheet.focus()
    for key in ("ArrowLeft", "Shift+ArrowUp", "Enter", "Backspace", "Backspace"):
        page.keyboard.press(key)  # by keys alone: one more corner, taken back, and another
    expect(told).to_contain_text(re.compile("^(?!120 mm × 112 mm)"))
    page.set_viewport_size({"width": 390, "height": 844})
    assert width_at_most(page, 390) and faults(page) == []


def test_an_adopted_repair_is_worked_at_the_bench_and_ticked_at_the_crash_desk(loud_page, fleet):
    page = loud_page
    post = airframe("Dunlin Post")
    recipe = dict(crash_candidates())["Rod and contact glue"].model_dump(mode="json")
    body = {"revision": post["revision"], "part_id": "right-wing", "recipe": recipe}
    job = send("POST", f"crash/airframes/{post['id']}/adopt", body)["job"]
    page.goto(f"{fleet}/build/{post['id']}?repair={job['id']}")
    planned(page)
    work = page.get_by_role("navigation", name="Work")
    expect(work.get_by_role("link", name=re.compile("^Repair: Wing, right"))).to_have_attribute("aria-current", "page")
    assert faults(page) == []
    page.get_by_role("link", name="Work at the bench").click()
    now = page.get_by_role("region", name="Now")
    expect(now.get_by_role("heading", level=2)).to_have_text("Make safe and measure", timeout=60_000)
    expect(now).to_contain_text("Remove the battery and put it outdoors")
    now.get_by_role("button", name="Done").click()
    expect(page.get_by_role("status").filter(has_text="1 of")).to_be_visible()
    expect(page.get_by_text(re.compile("kept here"))).to_have_count(0)
    (kept,) = Client().get(f"/api/crash/airframes/{post['id']}/jobs").json()
    assert [t["done"] is not None for t in kept["tasks"]][:2] == [True, False]


def test_a_cup_of_resin_is_told_before_it_thickens(loud_page, fleet):
    page = loud_page
    chaser = airframe("Tern Chaser")
    made = operations(read(chaser["document"]), ShopWish())
    cloth = next(o for o in made if any(c.wets_dm2 for c in o.cards))
    area = next(c.wets_dm2 for c in cloth.cards if c.wets_dm2)
    press = {"id": str(uuid4()), "at": timezone.now().isoformat(), "what": "begun", "key": cloth.key}
    send("POST", f"build/{chaser['id']}/presses", {"presses": [press]})
    page.goto(f"{fleet}/build/{chaser['id']}/run")
    cup = page.get_by_role("region", name="Cup of resin")
    cup.get_by_role("button", name="Cup mixed now").click(timeout=60_000)
    expect(cup.get_by_role("status")).to_contain_text("min thin")
    cup.get_by_label(re.compile("by this cup$")).fill(f"{area:.1f}")
    page.keyboard.press("Tab")
    expect(cup.get_by_role("status")).to_contain_text("This cup reaches.")
    page.reload()
    expect(cup.get_by_role("status")).to_contain_text("min thin", timeout=60_000)
    assert faults(page) == []
