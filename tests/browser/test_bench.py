"""The work of a builder, done on the page: change things, see them computed, find them again."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from fletcher.core.document.airframe import Airframe
from fletcher.core.estimate.report import estimate

pytestmark = pytest.mark.django_db(transaction=True)


def open_wing(page: Page, fleet: str) -> None:
    page.goto(fleet)
    page.get_by_role("link", name="Left wing half on the Bench").click()
    expect(verdict(page)).to_contain_text("Breaks first")


def verdict(page: Page):
    return page.get_by_role("contentinfo", name="Verdict")


MARGIN = r"Margin, needs [\d.]+ ×"


def figure(page: Page, label: str) -> float:
    text = verdict(page).inner_text()
    found = re.search(rf"{label}\s+([\d.]+)", text)
    assert found, text
    return float(found.group(1))


def saved(page: Page) -> None:
    """Stored, and where there is a verdict: told in full."""
    expect(page.get_by_role("status", name="Saved")).to_have_text("saved")
    if verdict(page).count():
        expect(verdict(page)).to_have_attribute("aria-busy", "false")


def open_line(page: Page, name: str) -> None:
    """Open a line of the lay-up for changing."""
    layup = page.get_by_role("list", name="Lay-up", exact=True)
    layup.get_by_role("button", name=re.compile(f"^{re.escape(name)}")).click()


def fill(page: Page, label: str, text: str) -> None:
    page.get_by_label(label, exact=True).fill(text)


def test_from_the_shelf_to_a_bending_wing(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    expected = estimate(Airframe.model_validate(stored()["document"]), "wing", "pull-up")
    expect(verdict(page)).to_contain_text(expected.first.sentence)
    assert figure(page, "Tip deflection") == pytest.approx(expected.deflection_mm.typ, rel=0.01)
    assert figure(page, MARGIN) == pytest.approx(expected.verdict.margin.typ, rel=0.01)
    expect(page.get_by_role("group", name="Cross-section 210 mm from root")).to_be_visible()
    for line in expected.lines:
        expect(page.get_by_role("listitem").filter(has_text=line.label).first).to_contain_text("g")


def test_every_field_of_the_shape_is_computed_and_stored_without_a_button(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    page.get_by_role("tab", name="Shape").click()
    before = figure(page, "Tip deflection")
    fill(page, "Root chord", "8 in")
    fill(page, "Tip chord", "15cm")
    fill(page, "Root thickness", "26")
    fill(page, "Tip sweep-back", "1/2 in")
    page.get_by_label("Core", exact=True).select_option("epp_45")
    expect(verdict(page)).not_to_contain_text(f"{before:g} mm")
    fill(page, "All-up mass", "1 kg")
    saved(page)
    part = stored()["document"]["parts"][0]
    assert (part["root_chord_mm"], part["tip_chord_mm"], part["root_thickness_mm"]) == (203.2, 150, 26)
    assert (part["tip_setback_mm"], part["foam"]) == (12.7, "epp_45")
    assert stored()["document"]["all_up_mass_g"] == 1000
    assert figure(page, "Tip deflection") < before
    page.reload()
    page.get_by_role("tab", name="Shape").click()
    expect(page.get_by_label("Root chord", exact=True)).to_have_value("203.2 mm")
    expect(page.get_by_label("Core", exact=True)).to_have_value("epp_45")


def test_a_new_span_carries_the_lay_up_along(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    page.get_by_role("tab", name="Shape").click()
    fill(page, "Span", "1200 mm")
    saved(page)
    part = stored()["document"]["parts"][0]
    assert part["layers"][0]["end_mm"] == 940
    assert part["cases"][1]["second_support_mm"] == 1080


def test_bars_strips_and_film_are_changed_added_and_taken_out(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    soft = figure(page, "Tip deflection")
    open_line(page, "Carbon rod 3 mm")
    page.get_by_label("Spar", exact=True).select_option("carbon_rod_4")
    fill(page, "To", "600")
    expect(page.get_by_role("button", name=re.compile("^Carbon rod 4 mm"))).to_contain_text("full length")
    saved(page)
    assert figure(page, "Tip deflection") < soft
    page.get_by_role("checkbox", name="Include Carbon rod 4 mm").uncheck()
    saved(page)
    assert figure(page, "Tip deflection") > 3 * soft
    page.get_by_role("button", name="Remove").click()
    page.get_by_role("button", name="Add to lay-up").click()
    page.get_by_role("menuitem", name="Tape or cloth strip").click()
    page.get_by_label("Material", exact=True).select_option("carbon_ud_50")
    fill(page, "Width", "12")
    fill(page, "Plies", "2")
    saved(page)
    layers = stored()["document"]["parts"][0]["layers"]
    assert [layer["type"] for layer in layers] == ["strip", "film", "strip"]
    assert (layers[2]["skin"], layers[2]["width_mm"], layers[2]["plies"]) == ("carbon_ud_50", 12, 2)


def test_the_bench_case_is_a_shaft_on_two_pegs(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    page.get_by_role("radio", name="Bench: mid-span weight").click()
    expect(verdict(page)).to_contain_text("Middle deflection")
    one = figure(page, "Middle deflection")
    page.get_by_role("tab", name="Loads").click()
    expect(page.get_by_text("Hung weights fall")).to_be_visible()
    fill(page, "Hung mass", "2 kg")
    expect(verdict(page)).to_contain_text("Middle deflection")
    saved(page)
    assert figure(page, "Middle deflection") == pytest.approx(2 * one, rel=0.01)
    page.reload()
    expect(verdict(page)).to_contain_text("Middle deflection")
    assert figure(page, "Middle deflection") == pytest.approx(2 * one, rel=0.01)
    assert stored()["document"]["parts"][0]["cases"][1]["weight_g"] == 2000


def test_a_plain_plank_is_made_and_tested(loud_page, fleet, stored):
    page = loud_page
    page.goto(fleet)
    shelf = page.get_by_role("listitem").filter(has=page.get_by_role("heading", name="Reed Warden"))
    shelf.get_by_role("button", name="Add a part").click()
    page.get_by_role("radio", name=re.compile("Plain test plank")).check()
    fill(page, "Part name", "Scrap two")
    page.get_by_role("button", name="Create part").click()
    expect(page.get_by_role("heading", name=re.compile("Scrap two"))).to_be_visible()
    expect(verdict(page)).to_contain_text("Foam cracks on the lower face")
    assert stored()["document"]["parts"][-1]["name"] == "Scrap two"
    page.get_by_role("link", name="Fletcher home: go to the Shelf").click()
    expect(page.get_by_role("link", name="Scrap two on the Bench")).to_be_visible()


def test_a_new_airframe_from_a_construction(loud_page, fleet):
    page = loud_page
    page.goto(fleet)
    page.get_by_role("link", name="New airframe").click()
    page.get_by_role("button", name="enter its sizes").click()
    page.get_by_role("radio", name=re.compile("Flat-plate")).check()
    dialog = page.get_by_role("dialog")
    fill(dialog, "Airframe name", "Sand Piper")
    fill(dialog, "All-up mass", "260 g")
    page.get_by_role("button", name="Create part").click()
    expect(verdict(page)).to_contain_text("Breaks first")
    page.goto(fleet)
    expect(page.get_by_role("heading", name="Sand Piper")).to_be_visible()


@pytest.mark.parametrize(
    ("tab", "label", "bad", "says"),
    [
        ("Shape", "Root thickness", "150", "at most 72 mm"),
        ("Shape", "Tip chord", "0", "must be between 5 mm and 2000 mm"),
        ("Shape", "Root chord", "-20 mm", "must be between 5 mm and 2000 mm"),
        ("Shape", "Span", "12 g", "Enter a length"),
        ("Shape", "Span", "NaN", "Enter a length"),
        ("Shape", "Span", "1e12", "must be between 20 mm and 5000 mm"),
        ("Loads", "Speed", "900", "must be at most 120 m/s"),
    ],
)
def test_an_impossible_value_is_named_at_its_field_and_the_last_drawing_stays(
    loud_page, fleet, stored, tab, label, bad, says
):
    page = loud_page
    open_wing(page, fleet)
    before, kept = figure(page, "Tip deflection"), stored()
    page.get_by_role("tab", name=tab).click()
    field = page.get_by_label(label, exact=True)
    good = field.input_value()
    field.fill(bad)
    expect(field).to_have_attribute("aria-invalid", "true")
    expect(page.get_by_text(says).first).to_be_visible()
    expect(page.get_by_role("group", name="Left wing half, drawn to scale")).to_be_visible()
    assert figure(page, "Tip deflection") == before
    assert stored() == kept
    field.fill(good)
    expect(field).not_to_have_attribute("aria-invalid", "true")
    saved(page)


def test_undo_and_redo_reach_across_a_reload(loud_page, fleet, stored):
    page = loud_page
    page.goto(fleet)
    page.get_by_role("link", name="Folded wing half on the Bench").click()
    expect(page.get_by_role("button", name="Undo")).to_be_disabled()
    page.get_by_role("tab", name="Shape").click()
    fill(page, "Root chord", "190")
    saved(page)
    fill(page, "Root chord", "210")
    saved(page)
    page.reload()
    page.get_by_role("tab", name="Shape").click()
    for value in ("190 mm", "200 mm"):
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_label("Root chord", exact=True)).to_have_value(value)
    expect(page.get_by_role("button", name="Undo")).to_be_disabled()
    page.get_by_role("button", name="Redo").click()
    expect(page.get_by_label("Root chord", exact=True)).to_have_value("190 mm")
    saved(page)
    assert stored("Mud Lark")["document"]["parts"][0]["root_chord_mm"] == 190


def test_two_windows_never_overwrite_each_other_silently(loud_page, fleet, stored, context):
    page = loud_page
    open_wing(page, fleet)
    other = context.new_page()
    other.route("**/since/**", lambda route: route.abort())  # it hears nothing of the first
    open_wing(other, fleet)
    page.get_by_role("tab", name="Shape").click()
    fill(page, "Root chord", "190")
    saved(page)
    other.get_by_role("tab", name="Shape").click()
    fill(other, "Tip chord", "130")
    dialog = other.get_by_role("dialog", name="Changed in another window")
    expect(dialog).to_contain_text("tip chord mm")
    expect(dialog).to_contain_text("root chord mm")
    assert stored()["document"]["parts"][0]["tip_chord_mm"] == 140
    dialog.get_by_role("button", name="Use theirs").click()
    expect(other.get_by_label("Root chord", exact=True)).to_have_value("190 mm")
    expect(other.get_by_label("Tip chord", exact=True)).to_have_value("140 mm")


def test_typing_while_the_server_is_away_is_kept_and_sent_later(page, fleet, stored):
    open_wing(page, fleet)
    page.get_by_role("tab", name="Shape").click()
    page.route("**/api/**", lambda route: route.abort())
    fill(page, "Root chord", "195")
    expect(page.get_by_role("status", name="Saved")).to_contain_text("kept in this browser")
    assert stored()["document"]["parts"][0]["root_chord_mm"] == 180
    page.unroute("**/api/**")
    saved(page)
    assert stored()["document"]["parts"][0]["root_chord_mm"] == 195


def test_the_cut_moves_by_keys_and_by_pointer(loud_page, fleet):
    page = loud_page
    open_wing(page, fleet)
    cut = page.get_by_role("slider", name="Cross-section position")
    cut.focus()
    for key, place in (("Home", 0), ("ArrowRight", 5), ("Shift+ArrowRight", 30), ("End", 600), ("ArrowLeft", 595)):
        page.keyboard.press(key)
        expect(page.get_by_role("group", name=f"Cross-section {place} mm from root")).to_be_visible()
    box = page.get_by_role("group", name="Left wing half, drawn to scale").bounding_box()
    assert box
    page.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    expect(cut).not_to_have_attribute("aria-valuenow", "595")


def test_fields_step_with_the_arrow_keys(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    page.get_by_role("tab", name="Shape").click()
    page.get_by_label("Root chord", exact=True).press("ArrowUp")
    page.get_by_label("Root chord", exact=True).press("Shift+ArrowDown")
    saved(page)
    assert stored()["document"]["parts"][0]["root_chord_mm"] == 171


@pytest.mark.parametrize(("width", "height"), [(1280, 800), (820, 1180)])
@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_nothing_scrolls_sideways(loud_page, fleet, width, height, scheme):
    page = loud_page
    page.set_viewport_size({"width": width, "height": height})
    page.emulate_media(color_scheme=scheme)
    for address in (fleet, None):
        if address:
            page.goto(address)
            expect(page.get_by_role("heading", name="Reed Warden")).to_be_visible()
        else:
            open_wing(page, fleet)
        assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth")
