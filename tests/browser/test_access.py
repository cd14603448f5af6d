"""Access: no serious fault on any place, and everything on the Bench done by keys alone."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import expect

from tests.browser.test_bench import figure, open_line, open_wing, saved, verdict

pytestmark = pytest.mark.django_db(transaction=True)

AXE = Path(__file__).resolve().parents[2] / "frontend" / "node_modules" / "axe-core" / "axe.min.js"
VIEWS = (
    *("Drawing", "Cross-section", "Plots"),
    *("Headroom", "Tolerances", "Toughness", "Joint checks"),
    *("Match & scale", "Variants 3", "Cutting & forming", "Damage"),
)


def faults(page, only: str | None = None) -> list[str]:
    """Serious and critical violations of WCAG 2.2 AA on the page as it stands; of one rule only if one is named."""
    page.evaluate(AXE.read_text())
    tags = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]
    run = {"type": "rule", "values": [only]} if only else {"type": "tag", "values": tags}
    found = page.evaluate("run => axe.run(document, { runOnly: run }).then(r => r.violations)", run)
    return [
        f"{v['id']}: {n['target']} {n['failureSummary']}"
        for v in found
        if v["impact"] in ("serious", "critical")
        for n in v["nodes"]
    ]


def coloured(page, colours: str) -> None:
    page.get_by_role("button", name="Units, colours and keys").click()
    page.get_by_role("radio", name=colours, exact=True).click()
    page.keyboard.press("Escape")


def test_no_serious_fault_on_any_place(loud_page, fleet):
    page = loud_page
    page.goto(fleet)
    expect(page.get_by_role("heading", name="Reed Warden")).to_be_visible()
    assert faults(page) == []
    page.get_by_role("link", name="New airframe").click()
    expect(page.get_by_role("heading", name="New airframe")).to_be_visible()
    assert faults(page) == []
    page.get_by_role("button", name="enter its sizes").click()
    expect(page.get_by_role("dialog")).to_be_visible()
    assert faults(page) == []
    page.keyboard.press("Escape")
    page.get_by_role("link", name="Choose a construction").click()
    expect(page.get_by_role("rowheader").first).to_be_visible(timeout=60_000)
    assert faults(page) == []
    page.goto(fleet)
    page.get_by_role("link", name="Tern Chaser", exact=True).click()
    expect(page.get_by_text("Material values in this environment")).to_be_visible()
    assert faults(page) == []
    open_wing(page, fleet)
    for panel in ("Shape", "Loads", "Targets", "Lay-up"):
        page.get_by_role("tab", name=panel, exact=True).click()
        assert faults(page) == []
    open_line(page, "Carbon")
    for view in VIEWS:
        page.get_by_role("tab", name=view, exact=True).click()
        page.wait_for_load_state("networkidle")
        assert faults(page) == []
    page.keyboard.press("?")
    assert faults(page) == []
    page.keyboard.press("Escape")
    saved(page)


@pytest.mark.parametrize("colours", ["dark", "High contrast"])
def test_words_stand_out_in_all_colours(loud_page, fleet, colours):
    page = loud_page
    page.goto(fleet)
    coloured(page, colours)
    assert faults(page, "color-contrast") == []
    open_wing(page, fleet)
    for view in ("Drawing", "Headroom", "Variants 3"):
        page.get_by_role("tab", name=view, exact=True).click()
        page.wait_for_load_state("networkidle")
        assert faults(page, "color-contrast") == []
    saved(page)


def press(page, *keys: str) -> None:
    for key in keys:
        page.keyboard.press(key)


def tab_to(page, role: str, name: str | re.Pattern[str], back: bool = False) -> None:
    """Walk with the tab key until the thing has the focus; a thing that cannot be reached fails."""
    wanted = page.get_by_role(role, name=name).first
    for _ in range(140):
        if wanted.evaluate("e => e === document.activeElement"):
            return
        page.keyboard.press("Shift+Tab" if back else "Tab")
    raise AssertionError(f"{role} {name!r} cannot be reached by the tab key")


def test_the_whole_work_on_the_bench_is_done_by_keys(loud_page, fleet, stored):
    """Choose a line, move and stretch it, switch it off, reorder, duplicate, put and take out things, load and cut,
    look at every view, pin, compare, adopt: without a pointer."""
    page = loud_page
    open_wing(page, fleet)
    first = figure(page, "Tip deflection")

    def layers():
        saved(page)
        return stored()["document"]["parts"][0]["layers"]

    press(page, "j")  # the first line
    expect(page.get_by_role("slider", name="End of this item")).to_be_visible()
    tab_to(page, "slider", "End of this item")
    press(page, "Shift+ArrowLeft", "ArrowLeft")
    assert layers()[0]["end_mm"] == 459
    tab_to(page, "slider", "Position along the chord")
    press(page, "ArrowDown", "ArrowDown")
    assert layers()[0]["root_percent"] == 31
    press(page, "o")
    assert layers()[0]["enabled"] is False
    expect(verdict(page)).not_to_contain_text(f"{first:g} mm")
    press(page, "o", "d")
    assert [la["type"] for la in layers()] == ["bar", "bar", "strip", "film"]
    press(page, "Alt+ArrowDown")
    assert [la["type"] for la in layers()] == ["bar", "strip", "bar", "film"]
    press(page, "Delete")
    assert [la["type"] for la in layers()] == ["bar", "strip", "film"]
    press(page, "n")
    expect(page.get_by_role("menuitem", name="Cut-out: pocket, hole, slit")).to_be_visible()
    press(page, "s", "Enter")  # typing finds the item of the menu
    expect(page.get_by_role("menuitem")).to_have_count(0)
    assert [la["type"] for la in layers()] == ["bar", "strip", "film", "bar"]
    press(page, "Control+z")
    assert len(layers()) == 3
    press(page, "Control+Shift+z")
    assert len(layers()) == 4
    press(page, "Control+z")
    # load and cut
    cut = page.get_by_role("slider", name="Cross-section position")
    at = int(cut.get_attribute("aria-valuenow") or 0)
    page.get_by_role("tab", name="Lay-up").focus()
    press(page, "Escape")
    tab_to(page, "button", re.compile("^Keyboard shortcuts"), back=True)
    press(page, "ArrowRight", "ArrowRight")
    expect(cut).to_have_attribute("aria-valuenow", str(at + 10))
    press(page, "+", "+")
    expect(page.get_by_text("1.20 × this load")).to_be_visible()
    press(page, "c")
    expect(verdict(page)).to_contain_text("Middle deflection")
    tab_to(page, "slider", "First support")
    press(page, "ArrowRight")
    saved(page)
    assert stored()["document"]["parts"][0]["cases"][1]["first_support_mm"] == 61
    # every view, panel and dialog
    tab_to(page, "button", re.compile("^Keyboard shortcuts"), back=True)
    for n, view in enumerate(VIEWS, start=1):
        press(page, str(n % 10) if n <= 10 else "x")
        expect(page.get_by_role("tab", name=view, exact=True)).to_have_attribute("data-state", "active")
    for key, panel in (("s", "Shape"), ("f", "Loads"), ("g", "Targets"), ("l", "Lay-up")):
        press(page, key)
        expect(page.get_by_role("tab", name=panel, exact=True)).to_have_attribute("data-state", "active")
    press(page, "?")
    expect(page.get_by_role("dialog", name="Keyboard shortcuts: Bench")).to_be_visible()
    press(page, "Escape", "w")
    expect(page.get_by_role("dialog")).to_contain_text("Working")
    press(page, "Escape", "h")
    expect(page.get_by_role("dialog", name="History of this airframe")).to_contain_text("Left wing half")
    press(page, "Escape", "p")
    expect(page.get_by_role("tab", name="Variants 4")).to_be_visible()
    press(page, "9")
    tab_to(page, "button", "Use this No tape on lower face")
    press(page, "Enter")
    assert [la["type"] for la in layers()] == ["bar", "film"]


def test_single_keys_can_be_switched_off(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    page.get_by_role("button", name="Units, colours and keys").click()
    keys = page.get_by_role("checkbox", name="Single-key shortcuts")
    keys.click()
    expect(keys).not_to_be_checked()
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Keyboard shortcuts", exact=True).focus()
    press(page, "j", "o")
    expect(page.get_by_role("slider", name="End of this item")).to_have_count(0)
    saved(page)
    assert all(la["enabled"] for la in stored()["document"]["parts"][0]["layers"])


def test_keys_typed_into_a_field_do_nothing_else(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    page.get_by_role("tab", name="Shape").click()
    page.get_by_label("Part name", exact=True).fill("")
    page.get_by_label("Part name", exact=True).press_sequentially("dopj 7?")
    saved(page)
    part = stored()["document"]["parts"][0]
    assert part["name"] == "dopj 7?"
    assert len(part["layers"]) == 3
    expect(page.get_by_role("dialog")).to_have_count(0)


@pytest.mark.parametrize("place", ["shelf", "bench"])
def test_targets_are_large_enough_for_gluey_fingers(loud_page, fleet, place):
    page = loud_page
    page.set_viewport_size({"width": 820, "height": 1180})
    if place == "shelf":
        page.goto(fleet)
        expect(page.get_by_role("heading", name="Reed Warden")).to_be_visible()
    else:
        open_wing(page, fleet)
    small = page.evaluate(
        """() => [...document.querySelectorAll('button, select, input, textarea, [role=slider]')]
          .filter(e => !e.matches('.word, .sr-only, [type=checkbox], [type=radio]'))
          .filter(e => e.offsetParent !== null && !e.closest('p'))
          .map(e => [e, e.getBoundingClientRect()])
          .filter(([e, b]) => b.width > 0 && b.height < 39.5)
          .map(([e, b]) => `${e.getAttribute('aria-label') || e.textContent} ${b.width} × ${b.height}`)"""
    )
    assert small == []


PLACES = {
    "": "link", "new": "textbox", "choose": "rowheader", "crash": "link",
    **{f"joints?what={what}": "tab" for what in ("glue", "table", "hinge", "hold", "coupons")},
}  # fmt: skip
"""Addresses that need no airframe, and a role of something that stands there once they are drawn."""


@pytest.mark.parametrize(("width", "height"), [(390, 844), (820, 1180)], ids=["phone", "tablet"])
def test_no_place_is_wider_than_the_screen_and_none_has_a_serious_fault(loud_page, fleet, width, height):
    page = loud_page
    page.set_viewport_size({"width": width, "height": height})

    def look() -> None:
        assert faults(page) == [], page.url
        assert page.evaluate("document.documentElement.scrollWidth") <= width, page.url

    for place, role in PLACES.items():
        page.goto(f"{fleet}/{place}")
        within = page if role == "tab" else page.get_by_role("main")
        expect(within.get_by_role(role).first).to_be_visible(timeout=30_000)
        expect(page.get_by_role("heading", name="This place has stumbled")).to_have_count(0)
        look()
    page.goto(fleet)
    page.get_by_role("link", name="Reed Warden", exact=True).first.click()
    expect(page.get_by_text("Parts and positions")).to_be_visible()
    page.get_by_role("button", name="In space").click()
    expect(page.get_by_text("Deflection to scale")).to_be_visible(timeout=20_000)
    look()
    open_wing(page, fleet)
    look()
    saved(page)


@pytest.mark.parametrize("place", ["", "joints", "crash", "new"])
def test_every_place_can_be_skipped_into_and_explains_itself(loud_page, fleet, place):
    page = loud_page
    page.goto(f"{fleet}/{place}")
    expect(page.get_by_role("main")).to_be_visible()
    page.keyboard.press("Tab")
    expect(page.get_by_role("link", name="Skip to content")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_role("main")).to_be_focused()
    page.keyboard.press("?")
    help_ = page.get_by_role("dialog", name=re.compile("^Help: "))
    expect(help_.get_by_role("listitem").first).to_be_visible()
    expect(help_.get_by_text("Neutral axis", exact=True)).to_be_visible()
    help_.get_by_role("searchbox", name="Glossary").fill("shear web")
    expect(help_.get_by_text("Shear web", exact=True)).to_be_visible()
    expect(help_.get_by_text("Neutral axis", exact=True)).to_have_count(0)
    assert faults(page) == []
    page.keyboard.press("Escape")
    expect(help_).to_have_count(0)
