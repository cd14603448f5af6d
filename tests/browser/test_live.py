"""What is live on the sheet: grips, load, working; and a server that dies under the builder's hands."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from fletcher.core.document.airframe import Airframe
from fletcher.core.estimate.report import estimate
from tests.browser.test_bench import MARGIN, figure, fill, open_line, open_wing, saved, verdict
from tests.core.document.test_aerofoil import round_file, sampled
from tests.real_server import Server

pytestmark = pytest.mark.django_db(transaction=True)


def choose_spar(page) -> None:
    open_line(page, "Carbon rod")
    expect(page.get_by_role("slider", name="End of this item")).to_be_visible()


def drag(page, grip: str, dx: float, dy: float) -> None:
    box = page.get_by_role("slider", name=grip, exact=True).bounding_box()
    assert box
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    for step in range(1, 6):
        page.mouse.move(x + dx * step / 5, y + dy * step / 5)
    page.mouse.up()


def spar(stored) -> dict:
    return stored()["document"]["parts"][0]["layers"][0]


def test_the_end_of_a_spar_is_dragged_and_snaps_to_the_tape(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    choose_spar(page)
    before = figure(page, "Tip deflection")
    drag(page, "End of this item", -60, 0)
    saved(page)
    shorter = spar(stored)["end_mm"]
    assert 380 < shorter < 420
    expect(page.get_by_role("slider", name="End of this item")).to_have_attribute("aria-valuenow", f"{shorter:g}")
    assert figure(page, "Tip deflection") > before
    scale = 60 / (470 - shorter)
    drag(page, "End of this item", (560 - shorter) * scale + 4, 0)
    saved(page)
    assert spar(stored)["end_mm"] == 560


def test_a_spar_is_moved_across_the_chord_by_pointer_and_by_keys(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    choose_spar(page)
    drag(page, "Position along the chord", 0, 25)
    saved(page)
    moved = spar(stored)
    assert moved["root_percent"] == moved["tip_percent"] > 38
    page.get_by_role("slider", name="Position along the chord").press("ArrowDown")
    expect(page.get_by_role("slider", name="Position along the chord")).to_have_attribute(
        "aria-valuenow", f"{moved['root_percent'] + 0.5:g}"
    )
    page.get_by_role("slider", name="End of this item").press("Shift+ArrowLeft")
    saved(page)
    assert spar(stored)["end_mm"] == 460
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("slider", name="End of this item")).not_to_have_attribute("aria-valuenow", "460")
    saved(page)
    assert spar(stored)["end_mm"] in (None, 470)


def test_the_load_goes_from_nothing_to_failure(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    expected = estimate(Airframe.model_validate(stored()["document"]), "wing", "pull-up")
    slider = page.get_by_role("slider", name="Load shown, × this load")
    slider.press("Home")
    drawing = page.get_by_role("group", name="Left wing half, drawn to scale")
    expect(drawing).to_contain_text("0 mm")
    expect(page.get_by_role("main")).not_to_contain_text("✕ " + expected.first.sentence)
    slider.press("End")
    expect(page.get_by_role("main")).to_contain_text("✕ " + expected.first.sentence)
    most = float(slider.get_attribute("aria-valuenow") or 0)
    assert most > expected.breaks_at.typ
    expect(drawing).to_contain_text(f"{most * expected.deflection_mm.typ:.3g} mm")


def test_every_figure_opens_to_its_working(loud_page, fleet):
    page = loud_page
    open_wing(page, fleet)
    for label, formula in (("Added mass", "Σ"), ("Tip deflection", "EIh"), ("Tip twist", "GJ"), ("Margin", "λ")):
        shown = verdict(page).get_by_role("button", name=re.compile(f"^{label}.*show working"))
        number = shown.inner_text().split()[0]
        shown.press("Enter")
        dialog = page.get_by_role("dialog")
        for text in (formula, number, "Inputs", "Estimate:"):
            expect(dialog).to_contain_text(text)
        page.keyboard.press("Escape")
        expect(dialog).to_have_count(0)
        expect(shown).to_be_focused()


def test_cases_are_kept_compared_and_taken_out(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    page.get_by_role("tab", name="Loads").click()
    for kind in ("gust", "sudden_stop", "tip_twist"):
        page.get_by_label("Add load case").select_option(kind)
        expect(page.get_by_role("combobox", name="Load case", exact=True)).to_have_value(
            re.compile(kind.replace("_", "-"))
        )
    kept = page.get_by_role("list", name="Load cases")
    expect(kept.get_by_role("listitem")).to_have_count(5)
    saved(page)
    document = Airframe.model_validate(stored()["document"])
    assert [c.type for c in document.parts[0].cases][2:] == ["gust", "sudden_stop", "tip_twist"]
    expected = estimate(document, "wing", "sudden-stop-1")
    kept.get_by_role("button", name="Sudden stop, nose first").click()
    expect(verdict(page)).to_contain_text("Tip deflection, fore and aft")
    assert figure(page, "Tip deflection, fore and aft") == pytest.approx(expected.deflection_mm.typ, rel=0.01)
    governs = next(v for v in expected.verdicts if v.case_id == expected.governs)
    expect(kept.get_by_role("listitem").filter(has_text=governs.name)).to_contain_text("worst load case")
    kept.get_by_role("button", name=re.compile("^Gust")).click()
    expect(verdict(page)).not_to_contain_text("fore and aft")
    before = figure(page, MARGIN)
    fill(page, "Gust speed", "2 m/s")
    expect(verdict(page)).not_to_contain_text(re.compile(rf"\b{re.escape(f'{before:g}')}\b"))
    assert figure(page, MARGIN) > before
    page.get_by_role("button", name="Remove load case").click()
    expect(kept.get_by_role("listitem")).to_have_count(4)
    saved(page)
    assert "gust" not in [c["type"] for c in stored()["document"]["parts"][0]["cases"]]


def test_an_own_laminate_is_made_of_cloth_angle_and_method(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    open_line(page, "Hot laminating")
    page.get_by_label("Material", exact=True).select_option(label="Custom laminate (cloth, resin)")
    page.get_by_label("Cloth 1", exact=True).select_option("glass_80")
    page.get_by_role("button", name="Add cloth").click()
    fill(page, "Angle 2", "0")
    page.get_by_label("Wet-out method").select_option("vacuum")
    saved(page)
    made = stored()["document"]["parts"][0]["layers"][2]["skin"]
    assert [(p["cloth"], p["angle_deg"]) for p in made["plies"]] == [("glass_80", 45), ("glass_80", 0)]
    assert made["method"] == "vacuum"
    expected = estimate(Airframe.model_validate(stored()["document"]), "wing", "pull-up")
    expect(verdict(page)).to_contain_text(f"{expected.added_g.typ:.3g}")
    fill(page, "Angle 2", "120")
    expect(page.get_by_text("must be between -90° and 90°", exact=True)).to_be_visible()
    assert figure(page, "Added mass") == pytest.approx(expected.added_g.typ, rel=0.01)


def test_the_outline_comes_from_a_coordinate_file_and_a_torn_one_changes_nothing(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    page.get_by_role("tab", name="Shape").click()
    lines = round_file(*sampled(31, depth=0.10))
    given = page.get_by_label("Aerofoil from file")
    torn = lines.replace("\n", "\nhalf a line ", 3).encode()
    given.set_input_files({"name": "torn.dat", "mimeType": "text/plain", "buffer": torn})
    expect(page.get_by_text("line 2 must hold two numbers")).to_be_visible()
    assert stored()["document"]["parts"][0]["section"]["shape"] == "four_digit"
    given.set_input_files({"name": "marsh.dat", "mimeType": "text/plain", "buffer": lines.encode()})
    expect(page.get_by_label("Section shape", exact=True)).to_have_value("points")
    saved(page)
    part = stored()["document"]["parts"][0]
    assert part["section"]["name"] == "Marsh 12"
    assert part["root_thickness_mm"] == pytest.approx(18, abs=0.4)
    expected = estimate(Airframe.model_validate(stored()["document"]), "wing", "pull-up")
    assert figure(page, "Tip deflection") == pytest.approx(expected.deflection_mm.typ, rel=0.01)


@pytest.fixture
def server(fleet):
    running = Server()
    running.start()
    yield running
    if running.process.poll() is None:
        running.kill()


def test_a_server_killed_between_two_edits_loses_nothing(page, server, stored):
    open_wing(page, server.address)
    page.get_by_role("tab", name="Shape").click()
    fill(page, "Root chord", "192")
    saved(page)
    server.kill()
    assert stored()["document"]["parts"][0]["root_chord_mm"] == 192
    fill(page, "Tip chord", "137")
    expect(page.get_by_role("status")).to_contain_text("kept in this browser")
    page.get_by_label("Root thickness", exact=True).fill("24.5")
    server.start()
    saved(page)
    part = stored()["document"]["parts"][0]
    assert (part["root_chord_mm"], part["tip_chord_mm"], part["root_thickness_mm"]) == (192, 137, 24.5)


def test_a_page_closed_while_the_server_is_dead_still_has_its_edits(page, server, stored):
    open_wing(page, server.address)
    page.get_by_role("tab", name="Shape").click()
    server.kill()
    fill(page, "Tip chord", "133")
    expect(page.get_by_role("status")).to_contain_text("kept in this browser")
    server.start()
    page.reload()
    page.get_by_role("tab", name="Shape").click()
    expect(page.get_by_label("Tip chord", exact=True)).to_have_value("133 mm")
    saved(page)
    assert stored()["document"]["parts"][0]["tip_chord_mm"] == 133
