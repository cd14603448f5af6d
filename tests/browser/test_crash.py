"""After a crash on the Bench: where to look, marks put in and refused, what is left as the core says it."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from fletcher.core.document.airframe import Airframe
from fletcher.core.repair.inspection import Crash, inspect, what_is_left
from tests.browser.test_access import faults
from tests.browser.test_bench import fill, open_wing, saved, verdict
from tests.browser.test_studies import view

pytestmark = pytest.mark.django_db(transaction=True)


def test_a_crash_says_where_to_look_and_marks_what_is_left(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    whole = verdict(page).inner_text()
    view(page, "Damage")
    airframe = Airframe.model_validate(stored()["document"])
    looks = page.get_by_role("list", name="Places to inspect")
    expect(looks).to_contain_text(inspect(airframe, airframe.parts[0], Crash()).looks[0].says)
    page.get_by_label("What happened", exact=True).select_option("pole")
    fill(page, "Impact position from root", "300 mm")
    expect(looks).to_contain_text(inspect(airframe, airframe.parts[0], Crash(what="pole", at_mm=300)).looks[0].says)
    page.get_by_role("button", name="Mark damage").click()
    page.get_by_role("menuitem", name=re.compile("^Broken: ")).first.click()
    fill(page, "Position from root", "150 mm")
    page.get_by_label("Which of the pair", exact=True).select_option("upper")
    saved(page)
    hurt = Airframe.model_validate(stored()["document"])
    assert hurt.parts[0].damage[0].model_dump() == {
        "id": hurt.parts[0].damage[0].id, "note": "", "kind": "bar", "of": "spar", "at_mm": 150.0, "how": "broken",
        "side": "upper",
    }  # fmt: skip
    left = what_is_left(hurt, hurt.parts[0])
    section = page.get_by_role("region", name="After a crash")
    expect(section).to_contain_text(left.says)
    row = section.get_by_role("row", name=re.compile("^Pull-up"))
    expect(row).to_contain_text(f"{left.cases[0].left.typ:.3g} ×")
    assert faults(page) == []
    # the Bench goes on showing the part whole, and says so
    assert verdict(page).inner_text().split("Margin")[1][:40] == whole.split("Margin")[1][:40]
    # a mark off the bar is refused at its field, and the last good state stays
    fill(page, "Position from root", "590 mm")
    expect(section).to_contain_text("lies off the line, which runs from 0 to 470 mm")
    assert stored()["document"]["parts"][0]["damage"][0]["at_mm"] == 150
    fill(page, "Position from root", "150 mm")
    section.get_by_role("button", name="Remove mark 1").click()
    saved(page)
    assert stored()["document"]["parts"][0]["damage"] == []
