"""The crash desk in the page: repairs as the core tells them, marks dragged, adopted, worked through, recorded."""

from __future__ import annotations

import io
import json
import re

import pytest
from django.test import Client
from PIL import Image
from playwright.sync_api import Page, Response, expect

from fletcher.core.demo.crash import crash_candidates, crash_record
from fletcher.core.document.airframe import Airframe
from fletcher.core.repair.evaluate import computed
from fletcher.core.repair.events import findings
from fletcher.core.repair.inspection import what_is_left
from fletcher.core.repair.reopening import reopened
from fletcher.core.repair.schema import Mending, MendWish
from tests.browser.test_access import faults
from tests.browser.test_bench import fill

pytestmark = pytest.mark.django_db(transaction=True)


def desk(page: Page, fleet: str, tab: str | None = None) -> None:
    page.goto(f"{fleet}/crash")
    page.get_by_role("link", name="Wing, right of Dunlin Post").click()
    expect(page.get_by_role("tablist", name="Crash desk sections")).to_be_visible()
    if tab is not None:
        page.get_by_role("tab", name=re.compile(f"^{tab}")).click()


def answered(response: Response) -> Mending:
    """The answer at the end of a search's stream; that it is the core's own is tested on the server."""
    return Mending.model_validate(json.loads(response.text().splitlines()[-1])["answer"])


def weighed(page: Page) -> None:
    """The search has ended."""
    expect(page.get_by_text("repairs tried")).to_be_visible(timeout=60_000)


def saved(page: Page) -> None:
    expect(page.get_by_role("status", name="Saved")).to_have_text("saved")


def test_repairs_stand_beside_each_other_with_the_figures_of_the_core(loud_page, fleet, stored):
    page = loud_page
    with page.expect_response("**/api/crash/mend") as told:
        desk(page, fleet)
    weighed(page)
    airframe = Airframe.model_validate(stored("Dunlin Post")["document"])
    part = airframe.parts[0]
    answer = answered(told.value)
    expect(page.get_by_text("repairs tried")).to_have_text(f"{answer.considered} repairs tried")
    table = page.get_by_role("table", name="Repairs compared")
    for option in answer.options:
        row = (
            table.get_by_role("row")
            .filter(has_text=f"{option.strength_percent.typ:.3g} %")
            .filter(has_text=option.says)
        )
        expect(row.first).to_be_visible()
    # a kept candidate is computed with all draws, as the core does, and looked at in full
    name, recipe = crash_candidates()[1]
    own = computed(airframe, part, recipe, MendWish()).option
    table.get_by_role("button", name=re.compile(f"^“{name}”")).click()
    sheet = page.get_by_role("region", name="Repair details")
    expect(sheet).to_contain_text(own.weak_says)
    case = sheet.get_by_role("row", name=re.compile("^Pull-up"))
    expect(case).to_contain_text(f"{own.cases[0].then.typ:.3g} ×")
    for fix in own.fixes:
        expect(sheet).to_contain_text(fix.says)
    sheet.get_by_text(re.compile(r"^Steps \(\d+\)$")).click()
    steps = sheet.get_by_role("list", name="Steps").get_by_role("listitem")
    expect(steps.filter(has_text="Make safe and measure")).to_contain_text("Remove the battery")
    assert faults(page) == []


def test_a_wish_changes_the_search_and_a_wrong_one_is_named(loud_page, fleet):
    page = loud_page
    desk(page, fleet)
    weighed(page)
    fill(page, "Next launch in, min", "2")
    expect(page.get_by_role("alert")).to_contain_text("fly_in_min")
    page.get_by_text("Field box:").click()
    for name in ("Hot-melt, low-temperature", "Bamboo skewer 3 mm", "Foam-safe clear contact adhesive"):
        page.get_by_label(name, exact=True).check()
    hand = ["hotmelt_low", "bamboo_skewer_3", "contact_foamsafe_clear"]

    def asked(response: Response) -> bool:
        wish = (response.request.post_data_json or {}).get("wish", {})
        return (
            response.ok
            and "/api/crash/mend" in response.url
            and wish.get("fly_in_min") == 240
            and wish.get("at_hand") == hand
        )

    with page.expect_response(asked) as told:
        fill(page, "Next launch in, min", "240")
    weighed(page)
    expect(page.get_by_role("alert")).to_have_count(0)
    answer = answered(told.value)
    expect(page.get_by_text("repairs tried")).to_have_text(f"{answer.considered} repairs tried")
    quick = next(o for o in answer.options if "quick" in o.kinds)
    row = page.get_by_role("row").filter(has_text="By next launch").filter(has_text=quick.says)
    expect(row.first).to_be_visible()
    # kept on this machine
    page.reload()
    expect(page.get_by_text("Field box: 3 items")).to_be_visible()


def test_the_search_can_be_stopped(loud_page, fleet):
    page = loud_page
    desk(page, fleet, "Repair")
    page.get_by_role("button", name="Stop").click()
    expect(page.get_by_role("progressbar", name="Repair search progress")).to_have_count(0)
    expect(page.get_by_text("repairs tried")).to_have_count(0)
    # kept candidates are told all the same
    expect(page.get_by_role("button", name=re.compile("^“Skewer and hot-melt”"))).to_be_visible()


def test_an_adopted_repair_is_worked_through_and_recorded(loud_page, fleet, stored):
    page = loud_page
    desk(page, fleet)
    name, recipe = crash_candidates()[1]
    page.get_by_role("button", name=re.compile(f"^“{name}”")).click(timeout=120_000)
    before = Airframe.model_validate(stored("Dunlin Post")["document"])
    own = computed(before, before.parts[0], recipe, MendWish()).option
    expect(page.get_by_role("region", name="Repair details")).to_contain_text(own.weak_says)
    page.get_by_role("button", name="Choose this repair").click()
    work = page.get_by_role("region", name="Repair steps")
    expect(work.get_by_role("status")).to_have_text(f"{len(own.operations)} of {len(own.operations)} steps left")
    after = Airframe.model_validate(stored("Dunlin Post")["document"])
    assert after.parts[0] == own.part and after.parts[1] == before.parts[1]
    bend = next(c for c in own.checks if c.what == "Bend")
    row = work.get_by_role("row", name=re.compile("^Bend"))
    expect(row).to_contain_text(f"{bend.mended.typ:.3g} mm")
    assert faults(page) == []
    for number in range(1, len(own.operations) + 1):
        work.get_by_label(f"done: step {number}", exact=True).check()
    expect(work.get_by_role("status")).to_have_text("checks still open")
    standing = page.get_by_role("complementary", name="Current state")
    expect(standing).to_contain_text("In repair")
    for c in own.checks:
        value = 0.0 if c.mended is None else c.mended.typ
        with page.expect_response(re.compile("/checks/")) as put:
            fill(work, f"{c.what}, measured", f"{value:.6f}")
        assert put.value.ok
        expect(work.get_by_role("row", name=re.compile(f"^{re.escape(c.what)} ?{c.how.split()[0]}"))).to_contain_text(
            "✓ passes"
        )
    expect(work.get_by_role("status")).to_have_text("✓ all done, every check passed")
    expect(standing).not_to_contain_text("In repair")
    fill(work, "Twist, measured", "3")
    expect(work.get_by_role("status")).to_have_text("✕ a check failed: do not fly")
    expect(standing).to_contain_text("Do not fly: a check failed, twist")
    standing.get_by_role("button", name=re.compile("^Mark it again: ")).click()
    back = [m.model_dump(mode="json") for m in reopened(after.parts[0], before.parts[0].damage)]
    assert back and len(back) < len(before.parts[0].damage)
    expect(standing).to_contain_text("Mark by hand")
    saved(page)
    assert stored("Dunlin Post")["document"]["parts"][0]["damage"][-len(back) :] == back
    page.get_by_role("button", name="Undo").click()
    saved(page)
    fill(work, "Twist, measured", "0.5")
    expect(work.get_by_role("status")).to_have_text("✓ all done, every check passed")
    page.get_by_role("tab", name="Log").click()
    line = page.get_by_role("list", name="Entries").get_by_role("listitem")
    expect(line.first).to_contain_text("All done")
    expect(line.nth(1)).to_contain_text(own.says)
    page.get_by_role("button", name="Undo").click()
    saved(page)
    assert stored("Dunlin Post")["document"]["parts"] == before.model_dump(mode="json")["parts"]


def test_marks_are_pulled_along_the_plan_and_undone(loud_page, fleet, stored):
    page = loud_page
    desk(page, fleet, "Damage")
    grip = page.get_by_role("slider", name="Position of mark 2, Crack")
    grip.focus()
    page.keyboard.press("Shift+ArrowRight")
    page.keyboard.press("ArrowLeft")
    saved(page)
    marks = stored("Dunlin Post")["document"]["parts"][0]["damage"]
    assert marks[1]["at_mm"] == 398 + 10 - 1
    expect(page.get_by_label("Position from root", exact=True).first).to_have_value("407 mm")
    box = page.get_by_role("slider", name="Position of mark 4, Peeled skin or tape").bounding_box()
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + 8)
    page.mouse.down()
    page.mouse.move(box["x"] - 60, box["y"] + 8, steps=5)
    page.mouse.up()
    saved(page)
    pulled = stored("Dunlin Post")["document"]["parts"][0]["damage"][3]
    assert pulled["end_mm"] - pulled["start_mm"] == 70 and pulled["start_mm"] < 430
    inner, outer = (page.get_by_role("slider", name=f"{end} end of mark 4") for end in ("Inner", "Outer"))
    outer.focus()
    page.keyboard.press("Shift+ArrowRight")
    saved(page)
    box = inner.bounding_box()
    page.mouse.move(box["x"] + 12, box["y"] + 12)
    page.mouse.down()
    page.mouse.move(box["x"] + 412, box["y"] + 12, steps=5)  # past the outer end: it stops before it
    page.mouse.up()
    saved(page)
    stretched = stored("Dunlin Post")["document"]["parts"][0]["damage"][3]
    assert stretched["end_mm"] == pulled["end_mm"] + 10
    assert stretched["start_mm"] == stretched["end_mm"] - 2
    standing = page.get_by_role("complementary", name="Current state")
    airframe = Airframe.model_validate(stored("Dunlin Post")["document"])
    expect(standing).to_contain_text(what_is_left(airframe, airframe.parts[0]).says)
    assert faults(page) == []


def test_the_record_warns_and_toughening_is_put_in(loud_page, fleet, stored):
    page = loud_page
    desk(page, fleet, "Log")
    told = page.get_by_role("list", name="Findings").get_by_role("listitem")
    for finding in findings(crash_record()):
        expect(told.filter(has_text=finding.says)).to_have_count(1)
    assert faults(page) == []
    # a pole at full speed goes right through, whatever is laid on; a flat landing is another matter
    expect(page.get_by_text("Nothing that was tried helps against this.")).to_be_visible()
    page.get_by_label("Crash type", exact=True).select_option(label="Flat on the ground")
    tough = page.get_by_role("list", name="Ways to toughen it").get_by_role("listitem").first
    expect(tough).to_contain_text(re.compile(r"breaks at [\d.]+ × the impact \([\d.]+–[\d.]+, before [\d.]+\)"))
    lines = len(stored("Dunlin Post")["document"]["parts"][0]["layers"])
    tough.get_by_role("button").click()
    saved(page)
    assert len(stored("Dunlin Post")["document"]["parts"][0]["layers"]) == lines + 1
    form = page.get_by_role("form", name="Add entry")
    form.get_by_label("What happened", exact=True).select_option("flat")
    form.get_by_label("Notes", exact=True).fill("Landed in the reeds")
    form.get_by_role("button", name="Add to log").click()
    first = page.get_by_role("list", name="Entries").get_by_role("listitem").first
    expect(first).to_contain_text("Landed in the reeds")


def test_a_slip_is_weighed_and_marked(loud_page, fleet, stored):
    page = loud_page
    page.goto(f"{fleet}/crash")
    page.get_by_role("link", name="Wing, left of Dunlin Post").click()
    page.get_by_role("tab", name="Build mistakes").click()
    section = page.get_by_role("region", name="Build mistakes")
    section.get_by_label("What went wrong", exact=True).select_option("weak_spot")
    expect(section).to_contain_text("swelled back with heat")
    section.get_by_label("What went wrong", exact=True).select_option("hinge_cut")
    expect(section).to_contain_text("needs a hinge at that position")
    section.get_by_label("What went wrong", exact=True).select_option("nick")
    expect(section.get_by_role("table", name="Fixes")).to_contain_text("glue worked into the crack")
    assert faults(page) == []
    section.get_by_role("button", name="Mark on part").click()
    saved(page)
    (mark,) = stored("Dunlin Post")["document"]["parts"][1]["damage"]
    assert mark["kind"] == "crack" and mark["at_mm"] == 300


def test_a_picture_is_put_to_a_mark(loud_page, fleet):
    page = loud_page
    desk(page, fleet, "Damage")
    section = page.get_by_role("region", name="Photos of the damage")
    section.get_by_label("For mark", exact=True).select_option(label="2 Crack")
    out = io.BytesIO()
    Image.new("RGB", (300, 200), (120, 90, 50)).save(out, "PNG")
    chooser = section.get_by_label("Add photo")
    chooser.set_input_files({"name": "c.png", "mimeType": "image/png", "buffer": out.getvalue()})
    expect(section.get_by_role("img", name="Photo of mark 2 Crack")).to_be_visible()
    section.get_by_role("button", name="remove the photo of 2 Crack").click()
    expect(section.get_by_role("img")).to_have_count(0)


def test_a_step_that_is_not_stored_is_not_ticked_and_a_note_is_not_wiped(page, fleet, stored):
    post, client = stored("Dunlin Post"), Client()
    recipe = crash_candidates()[1][1]
    asked = {"revision": post["revision"], "part_id": "right-wing", "recipe": recipe.model_dump(mode="json")}
    there = f"/api/crash/airframes/{post['id']}"
    job = client.post(f"{there}/adopt", asked, content_type="application/json").json()["job"]
    first = f"/api/crash/jobs/{job['id']}/tasks/1"
    noted = client.put(first, {"done": False, "note": "glue from the old tin"}, content_type="application/json")
    assert noted.status_code == 200
    desk(page, fleet, "Steps")
    step = page.get_by_label("done: step 1", exact=True)
    page.route(f"**{first}", lambda route: route.fulfill(status=503, body="{}"))
    step.click()
    expect(page.get_by_role("alert")).to_contain_text("Step 1 was not changed")
    expect(step).not_to_be_checked()
    expect(page.get_by_text(re.compile(r"^(\d+) of \1 steps left$"))).to_be_visible()
    page.unroute(f"**{first}")
    step.click()
    expect(page.get_by_role("alert")).to_have_count(0)
    expect(step).to_be_checked()

    def kept() -> dict:
        return client.get(f"{there}/jobs").json()[0]["tasks"][0]

    page.reload()
    expect(page.get_by_label("done: step 1", exact=True)).to_be_checked()
    assert kept()["done"] is not None and kept()["note"] == "glue from the old tin"


def test_what_is_still_whole_is_asked_and_answered_before_anything_is_trusted(loud_page, fleet, stored):
    """A clean break of the whole half: unseen rods count as broken, seen rods do not, and repairs follow the answer."""
    page = loud_page
    page.goto(f"{fleet}/crash")
    page.get_by_role("link", name="Wing, left of Dunlin Post").click()
    page.get_by_role("tab", name=re.compile("^Damage")).click()
    page.get_by_role("button", name="Mark damage").click()
    page.get_by_role("menuitem", name="Snapped right through").click()
    rod = page.get_by_role("radiogroup", name="Carbon rod 3 mm: is it whole?")
    expect(rod.get_by_label("not seen")).to_be_checked()
    standing = page.get_by_role("complementary", name="Current state")
    expect(standing).to_contain_text("Do not fly: broken in two, 200 mm from the root.")
    groups = page.get_by_role("radiogroup")
    expect(groups).to_have_count(3)
    for n in range(3):
        groups.nth(n).get_by_label("whole").check()
    expect(standing).to_contain_text("Do not fly: broken through, 200 mm from the root.")
    saved(page)
    (mark,) = stored("Dunlin Post")["document"]["parts"][1]["damage"]
    assert mark["whole"] == ["spar", "tape", "film"] and mark["broken"] == []
    with page.expect_response("**/api/crash/mend") as told:
        page.get_by_role("tab", name="Repair").click()
    weighed(page)
    assert all(len(o.recipe.fixes) == 1 for o in answered(told.value).options)  # the break alone: the rods are whole
    page.get_by_role("tab", name=re.compile("^Damage")).click()
    rod.get_by_label("broken").check()
    expect(standing).to_contain_text("Do not fly")
    with page.expect_response("**/api/crash/mend") as told:
        page.get_by_role("tab", name="Repair").click()
    weighed(page)
    answer = answered(told.value)
    assert all(len(o.recipe.fixes) == 2 for o in answer.options)
    expect(page.get_by_role("region", name="Repairs")).to_contain_text(answer.says)
    page.get_by_text("What the headings mean").click()
    expect(page.get_by_role("region", name="Repairs")).to_contain_text(answer.headings[0].rule)
    assert faults(page) == []


def test_a_part_that_is_not_on_the_shelf_is_sketched_and_marked(loud_page, fleet, stored):
    page = loud_page
    page.goto(f"{fleet}/crash")
    page.get_by_role("button", name="Sketch a part that is not here").click()
    dialog = page.get_by_role("dialog", name="What is damaged?")
    dialog.get_by_role("radio", name=re.compile("Folded-board wing half")).check()
    fill(dialog, "Airframe name", "Sand Martin")
    dialog.get_by_role("button", name="Mark the damage").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Sand Martin")
    expect(page.get_by_role("tablist", name="Crash desk sections")).to_be_visible()
    assert stored("Sand Martin")["document"]["state"] == "broken"
    page.get_by_role("tab", name=re.compile("^Damage")).click()
    page.get_by_role("button", name="Mark damage").click()
    page.get_by_role("menuitem", name="Snapped right through").click()
    expect(page.get_by_text("What is still whole there?")).to_be_visible()
    expect(page.get_by_role("complementary", name="Current state")).to_contain_text("Do not fly")
    assert faults(page) == []


def press(drawing, along, across):
    """Press a drawn part at shares of its width and height, where it lies at that very moment."""
    drawing.locator("polygon").first.evaluate(
        """(part, [along, across]) => {
            const box = part.getBoundingClientRect();
            const [clientX, clientY] = [box.x + along * box.width, box.y + across * box.height];
            part.dispatchEvent(new MouseEvent("click", { bubbles: true, clientX, clientY }));
        }""",
        [along, across],
    )


def test_the_drawing_is_pressed_where_it_broke_and_offers_what_that_construction_can_have(loud_page, fleet, stored):
    """Near the nose of a cored half: a crushed nose, no crease; the mark lies where it was pressed."""
    page = loud_page
    page.goto(f"{fleet}/crash")
    page.get_by_role("link", name="Wing, left of Dunlin Post").click()
    drawing = page.get_by_role("group", name="Plan view with damage marks")
    part = Airframe.model_validate(stored("Dunlin Post")["document"]).parts[1]
    expect(page.get_by_role("complementary", name="Current state")).to_contain_text("Press on the drawing")
    menu = page.get_by_role("menu", name="Damage here")
    drawing.locator("polygon").first.click()  # in its middle, once it lies still
    expect(menu.get_by_role("menuitem", name="Dent in the upper face")).to_be_visible()
    page.keyboard.press("Escape")
    expect(menu).to_have_count(0)
    press(drawing, 0.5, 0.12)
    expect(menu.get_by_role("menuitem", name="Crushed nose")).to_be_visible()
    expect(menu.get_by_role("menuitem", name=re.compile("Creased"))).to_have_count(0)
    menu.get_by_role("menuitem", name="Crushed nose").click()
    expect(page.get_by_role("tab", name="Damage 1")).to_have_attribute("aria-selected", "true")
    saved(page)
    (mark,) = stored("Dunlin Post")["document"]["parts"][1]["damage"]
    assert mark["kind"] == "crush" and mark["face"] == "front"
    assert 0.5 * (mark["start_mm"] + mark["end_mm"]) == pytest.approx(part.span_mm / 2, abs=5)
    # pressed again and thought better of: nothing is marked
    press(drawing, 0.25, 0.5)
    expect(menu.get_by_role("menuitem", name="Snapped right through")).to_be_visible()
    page.keyboard.press("Escape")
    expect(menu).to_have_count(0)
    assert len(stored("Dunlin Post")["document"]["parts"][1]["damage"]) == 1
    assert faults(page) == []


def test_a_folded_wing_is_creased_and_its_nose_split_open(loud_page, fleet, stored):
    """What only hollow parts have is marked in their own words and judged at once."""
    page = loud_page
    page.goto(f"{fleet}/crash")
    page.get_by_role("button", name="Sketch a part that is not here").click()
    dialog = page.get_by_role("dialog", name="What is damaged?")
    dialog.get_by_role("radio", name=re.compile("Folded-board wing half")).check()
    fill(dialog, "Airframe name", "Rock Pipit")
    dialog.get_by_role("button", name="Mark the damage").click()
    page.get_by_role("tab", name=re.compile("^Damage")).click()
    for name in ("Creased across, upper wall", "Nose fold split open"):
        page.get_by_role("button", name="Mark damage").click()
        page.get_by_role("menuitem", name=name).click()
    standing = page.get_by_role("complementary", name="Current state")
    expect(standing).to_contain_text("Do not fly: a wall is creased across")
    expect(page.get_by_role("list", name="Damage marks").get_by_role("group")).to_have_count(2)
    saved(page)
    kinds = [m["kind"] for m in stored("Rock Pipit")["document"]["parts"][0]["damage"]]
    assert kinds == ["crease", "opened"]
    assert faults(page) == []
