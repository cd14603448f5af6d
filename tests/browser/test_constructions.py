"""Any construction, any element, any case from the page: hollow parts, cuts, cords, control surfaces, workings."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from tests.browser.test_bench import figure, fill, open_line, open_wing, saved, verdict

pytestmark = pytest.mark.django_db(transaction=True)


def add_line(page, label: str) -> None:
    page.get_by_role("button", name="Add to lay-up").click()
    page.get_by_role("menuitem", name=label).click()


def test_a_folded_wing_is_made_to_size_and_a_size_that_cannot_be_is_told_at_its_field(loud_page, fleet):
    page = loud_page
    page.goto(fleet)
    page.get_by_role("link", name="New airframe").click()
    page.get_by_role("button", name="enter its sizes").click()
    page.get_by_role("radio", name=re.compile("Folded-board")).check()
    fill(page, "Span", "560 mm")
    fill(page, "Tip thickness", "6 mm")
    page.get_by_role("button", name="Create part").click()
    expect(page.get_by_role("alert").or_(page.get_by_text("too thick for this part"))).to_contain_text("too thick")
    fill(page, "Tip thickness", "28 mm")
    page.get_by_role("button", name="Create part").click()
    expect(verdict(page)).to_contain_text("Part mass")
    expect(page.get_by_text("Hollow: walls and spars")).to_be_visible()
    expect(page.get_by_text("560 mm", exact=True).first).to_be_visible()
    # a thicker skin is heavier; a web taken off is lighter
    before = figure(page, "Part mass")
    open_line(page, "Board folded at the nose")
    page.get_by_label("Sheet", exact=True).select_option("foamboard_heavy_5")
    expect(verdict(page)).not_to_contain_text(f"{before:g} g")
    assert figure(page, "Part mass") > 1.3 * before
    saved(page)


def test_a_pocket_cut_into_the_wing_is_drawn_costs_stiffness_and_is_refused_across_the_spar(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    before = figure(page, "Tip deflection")
    add_line(page, "Cut-out: pocket, hole, slit")
    fill(page, "Width", "60 mm")
    fill(page, "Depth in foam", "9 mm")
    expect(verdict(page)).not_to_contain_text(f"{before:g} mm")
    assert figure(page, "Tip deflection") > before
    fill(page, "Chord position, root", "30")
    expect(verdict(page).get_by_role("alert")).to_contain_text("cuts through spar")
    fill(page, "Chord position, root", "60")
    expect(verdict(page).get_by_role("alert")).to_have_count(0)
    saved(page)
    cut = stored()["document"]["parts"][0]["layers"][-1]
    assert (cut["type"], cut["width_mm"], cut["depth_mm"], cut["root_percent"]) == ("cut", 60, 9, 60)


def test_a_cord_a_web_and_a_faced_bar_are_added_and_stored(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    add_line(page, "Edge cord")
    add_line(page, "Shear web")
    fill(page, "Chord position, root", "60")
    fill(page, "Chord position, tip", "60")
    add_line(page, "Single spar")
    page.get_by_label("Spar", exact=True).select_option("spruce_3x10")
    fill(page, "Chord position, root", "45")
    fill(page, "Chord position, tip", "45")
    page.get_by_label("On edge").check()
    page.get_by_text("Mass, taper, sleeve").click()
    page.get_by_label("Facing strips").select_option("carbon_strip_3x0.5")
    expect(
        page.get_by_role("list", name="Lay-up", exact=True).get_by_role("listitem").filter(has_text="Spruce strip")
    ).to_contain_text(" g")
    saved(page)
    cord, web, bar = stored()["document"]["parts"][0]["layers"][-3:]
    assert (cord["type"], web["face"], bar["faced_with"], bar["on_edge"]) == (
        "cord",
        "web",
        "carbon_strip_3x0.5",
        True,
    )
    page.get_by_role("tab", name="Loads").click()
    page.get_by_label("Add load case").select_option("sudden_stop")
    expect(page.get_by_text(re.compile("Cord in the rear edge: .* of the fore-and-aft bending moment"))).to_be_visible()
    saved(page)


def test_a_control_surface_shows_what_arrives_and_is_compared_with_other_ways(loud_page, fleet):
    page = loud_page
    page.goto(fleet)
    page.get_by_role("link", name="Left aileron on the Bench").click()
    expect(verdict(page)).to_contain_text("Deflection between hinges")
    page.get_by_role("tab", name="Loads").click()
    page.get_by_role("button", name="Compare other builds").click()
    table = page.get_by_role("table", name="This control surface in other constructions")
    expect(table.get_by_role("row")).to_have_count(6)

    def arrives(way: str) -> float:
        return float(table.get_by_role("row").filter(has_text=way).get_by_role("cell").nth(2).inner_text().split()[0])

    assert arrives("Bare foam") < arrives("Foam wrapped") < arrives("Light balsa")
    page.get_by_role("button", name=re.compile("Effective deflection")).click()
    expect(page.get_by_role("dialog")).to_contain_text("servo M = ∫ ch q c²")


def test_every_failure_and_the_section_open_to_their_working(loud_page, fleet):
    page = loud_page
    open_wing(page, fleet)
    listed = page.get_by_role("button", name=re.compile(", show working$"))
    grows = page.get_by_role("main").get_by_role("listitem").filter(has_text=" ×").get_by_role("button")
    assert listed.count() > 3
    grows.nth(0).click()
    expect(page.get_by_role("dialog")).to_contain_text("Changes at")
    page.keyboard.press("Escape")
    grows.nth(1).click()
    expect(page.get_by_role("dialog")).to_contain_text("Breaks at")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.get_by_role("button", name="show working", exact=True).click()
    expect(page.get_by_role("dialog")).to_contain_text("Section at the root")
    expect(page.get_by_role("dialog")).to_contain_text("shear centre, aft of leading edge")
    page.keyboard.press("Escape")
    page.get_by_role("tab", name="Loads").click()
    page.get_by_role("button", name=re.compile("Divergence speed")).click()
    expect(page.get_by_role("dialog")).to_contain_text("e = xsc − c/4")


def test_how_the_root_is_held_changes_what_gives_first(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    page.get_by_role("tab", name="Shape").click()
    page.get_by_label("Root", exact=True).select_option("bands")
    fill(page, "Total band pull", "3 N")
    expect(verdict(page)).to_contain_text("Rubber bands stretch and the wing lifts off its seat")
    page.get_by_label("Has a control surface").check()
    page.get_by_role("tab", name="Loads").click()
    expect(page.get_by_role("button", name=re.compile("Control reversal speed"))).to_be_visible()
    saved(page)
    part = stored()["document"]["parts"][0]
    assert part["root"] == {"kind": "bands", "hold_N": 3} and part["control"]["chord_percent"] == 25


def test_a_measured_rod_is_made_ones_own_and_used(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    before = figure(page, "Tip deflection")
    page.get_by_text("Measured by you").click()
    page.get_by_label("Add a material of your own: like a", exact=True).select_option("bar")
    own = page.get_by_role("region", name="Measured by you")
    own.get_by_label("Name", exact=True).fill("Rod from the drawer")
    own.get_by_label("Otherwise like this rod, tube, strip", exact=True).select_option("carbon_rod_3")
    own.get_by_label("A value that you measured", exact=True).select_option("E_MPa")
    own.get_by_label("Stiffness E, MPa", exact=True).fill("60000")
    open_line(page, "Carbon rod")
    page.get_by_label("Spar", exact=True).select_option(label="Rod from the drawer")
    saved(page)
    expect(page.get_by_role("list", name="Lay-up", exact=True)).to_contain_text("Rod from the drawer")
    assert figure(page, "Tip deflection") > 1.1 * before
    kept = stored()["document"]
    assert kept["materials"][0]["values"] == [
        {"of": "E_MPa", "typ": 60000, "low": None, "high": None, "cv_percent": None}
    ]
    assert kept["parts"][0]["layers"][0]["stock"] == kept["materials"][0]["id"]
    own.get_by_label("Stiffness E, MPa, scatter in per cent", exact=True).fill("8")
    saved(page)
    assert stored()["document"]["materials"][0]["values"][0]["cv_percent"] == 8
    own.get_by_label("Stiffness E, MPa, scatter in per cent", exact=True).fill("")
    saved(page)
    assert stored()["document"]["materials"] == kept["materials"]
    own.get_by_label("Stiffness E, MPa", exact=True).fill("6")
    expect(own).to_contain_text("is far from Carbon rod 3 mm: between")
    assert stored()["document"]["materials"] == kept["materials"]
