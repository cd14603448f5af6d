"""What happens to an airframe beside the window that shows it: sessions end, other windows change and delete it, the
browser keeps a draft that no page can show."""

from __future__ import annotations

import json
import re

import pytest
from django.contrib.auth import get_user_model
from django.contrib.sessions.models import Session
from django.test import Client
from playwright.sync_api import expect

from fletcher.server.accounts.invitations import invite
from fletcher.server.airframes.models import Airframe, Revision
from tests.browser.test_bench import fill, open_wing, saved
from tests.real_server import Server

pytestmark = pytest.mark.django_db(transaction=True)


def shape(page) -> None:
    page.get_by_role("tab", name="Shape").click()


def root_chord(stored) -> float:
    return stored()["document"]["parts"][0]["root_chord_mm"]


@pytest.fixture
def club(fleet):
    """A server outside demo mode, on which Ann has the demo's airframes."""
    ann = get_user_model().objects.create_user("ann", password="tern over mudflat")
    Airframe.everyone.all().update(owner=ann)
    running = Server()
    running.start(demo=False)
    yield running
    running.kill()


def sign_in(page, password: str) -> None:
    page.get_by_label("Password").fill(password)
    page.get_by_role("button", name="Sign in", exact=True).click()


def test_a_session_that_ran_out_is_renewed_in_place_and_what_was_typed_is_saved(page, club):
    page.goto(club.address)
    page.get_by_label("Name").fill("ann")
    sign_in(page, "gull over mudflat")
    expect(page.get_by_role("alert")).to_have_text("Name or password is wrong.")
    expect(page.get_by_label("Name")).to_have_value("ann")
    sign_in(page, "tern over mudflat")
    page.get_by_role("link", name="Left wing half on the Bench").click()
    shape(page)
    # the first to be told that nobody is signed in is what is typed, not a look at what others changed
    page.route("**/since/**", lambda route: route.abort())
    page.wait_for_load_state("networkidle")
    Session.objects.all().delete()
    fill(page, "Root chord", "193")
    dialog = page.get_by_role("dialog", name="Sign in again")
    expect(dialog.get_by_label("Name")).to_have_value("ann")
    expect(dialog.get_by_label("Name")).not_to_be_editable()
    sign_in(page, "wrong")
    expect(dialog.get_by_role("alert")).to_have_text("Name or password is wrong.")
    sign_in(page, "tern over mudflat")
    expect(dialog).to_have_count(0)
    saved(page)
    assert Revision.objects.latest("created").document["parts"][0]["root_chord_mm"] == 193
    page.get_by_role("button", name="Sign out").click()
    expect(page.get_by_label("Password")).to_be_visible()
    expect(page.get_by_text("Reed Warden")).to_have_count(0)


def test_somebody_invited_makes_an_account_and_changes_its_password(page, club):
    token = invite(days=1, people=1).rsplit("/", 1)[1]
    page.goto(f"{club.address}join/{token}")
    page.get_by_label("Name").fill("ANN")
    page.get_by_label("Password").fill("heron over reeds")
    page.get_by_role("button", name="Make my account").click()
    expect(page.get_by_role("alert")).to_have_text("An account of this name exists.")
    expect(page.get_by_label("Name")).to_have_value("ANN")
    page.get_by_label("Name").fill("ben")
    page.get_by_label("Password").fill("heron over reeds")
    page.get_by_role("button", name="Make my account").click()
    expect(page.get_by_role("region", name="Where to start")).to_be_visible()
    page.get_by_role("button", name="Units, colours and keys").click()
    page.get_by_role("button", name="Change password").click()
    dialog = page.get_by_role("dialog", name="Change password")
    dialog.get_by_label("Present password").fill("wrong")
    dialog.get_by_label("New password").fill("bittern in reeds")
    dialog.get_by_role("button", name="Change it").click()
    expect(dialog.get_by_role("alert")).to_have_text("is not your present password")
    dialog.get_by_label("Present password").fill("heron over reeds")
    dialog.get_by_label("New password").fill("bittern in reeds")
    dialog.get_by_role("button", name="Change it").click()
    expect(dialog).to_have_count(0)
    assert get_user_model().objects.get(username="ben").check_password("bittern in reeds")
    page.goto(f"{club.address}join/{token}")
    page.context.clear_cookies()
    page.reload()
    expect(page.get_by_role("heading", name="This invitation holds no more")).to_be_visible()


def test_a_token_that_grew_old_is_renewed_without_a_word(loud_page, fleet, stored, context):
    page = loud_page
    open_wing(page, fleet)
    shape(page)
    context.clear_cookies()  # the next request signs the demo builder in anew, with another token
    fill(page, "Root chord", "194")
    saved(page)
    assert root_chord(stored) == 194


def test_a_window_follows_what_another_one_saves_and_says_what_it_was(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    shape(page)
    state = stored()
    state["document"]["parts"][0]["root_chord_mm"] = 195
    body = json.dumps({"revision": state["revision"], "document": state["document"]})
    other = Client()
    other.get("/api/session")
    reply = other.put(f"/api/airframes/{state['id']}", body, content_type="application/json")
    assert reply.status_code == 200
    expect(page.get_by_label("Root chord", exact=True)).to_have_value("195 mm")
    expect(page.get_by_text(re.compile("Changed in another window: .*root chord", re.I))).to_be_visible()
    page.get_by_role("button", name="Read", exact=True).click()
    expect(page.get_by_text("Changed in another window:")).to_have_count(0)


def test_an_airframe_deleted_elsewhere_is_put_on_the_shelf_again(loud_page, fleet, stored):
    page = loud_page
    open_wing(page, fleet)
    shape(page)
    fill(page, "Root chord", "196")
    saved(page)
    other = Client()
    other.get("/api/session")
    assert other.delete(f"/api/airframes/{stored()['id']}").status_code == 204
    dialog = page.get_by_role("dialog", name="This airframe was deleted elsewhere")
    dialog.get_by_role("button", name="Put it on the shelf again").click()
    expect(page.get_by_role("heading", name="Reed Warden")).to_be_visible()
    assert root_chord(stored) == 196


def test_a_draft_that_no_page_can_show_is_put_aside(page, fleet, stored):
    open_wing(page, fleet)
    state = stored()
    torn = {"revision": state["revision"], "document": {"name": 7, "parts": [{"id": "wing"}]}}
    page.evaluate(
        "([key, kept]) => localStorage.setItem(key, kept)", [f"fletcher:draft:{state['id']}", json.dumps(torn)]
    )
    page.reload()
    expect(page.get_by_role("heading", name="This place has stumbled")).to_be_visible()
    with page.expect_download() as kept:
        page.get_by_role("button", name="Put the draft aside").click()
    assert json.loads(kept.value.path().read_text()) == torn
    expect(page.get_by_role("heading", name="This place has stumbled")).to_have_count(0)
    shape(page)
    expect(page.get_by_label("Root chord", exact=True)).to_be_visible()


def test_a_damaged_airframe_is_told_on_the_shelf_saved_raw_and_taken_out(loud_page, fleet, stored):
    page = loud_page
    row = Revision.objects.get(airframe_id=stored()["id"], number=stored()["revision"])
    row.document = {"name": "torn"}
    row.save()
    page.goto(fleet)
    damaged = page.get_by_role("region", name="Damaged")
    expect(damaged.get_by_role("listitem")).to_contain_text("An airframe of")
    expect(page.get_by_role("heading", name="Mud Lark")).to_be_visible()  # the shelf is there
    expect(page.get_by_role("heading", name="Reed Warden")).to_have_count(0)
    with page.expect_download() as kept:
        damaged.get_by_role("link", name="Save its raw file").click()
    assert json.loads(kept.value.path().read_text()) == {"name": "torn"}
    with page.expect_response(lambda r: r.request.method == "DELETE") as gone:
        damaged.get_by_role("button", name="Take it out").click()
    expect(damaged).to_have_count(0)
    assert gone.value.status == 204
    assert not Revision.objects.filter(pk=row.pk).exists()


def test_what_was_taken_off_is_put_back_from_the_bin(loud_page, fleet, stored):
    page = loud_page
    before = stored()
    page.goto(fleet)
    page.get_by_role("button", name="Delete Reed Warden").click()
    page.get_by_role("button", name="Delete airframe").click()
    bin_ = page.get_by_role("region", name="Bin")
    expect(bin_.get_by_role("listitem")).to_contain_text("Reed Warden")
    expect(page.get_by_role("heading", name="Reed Warden")).to_have_count(0)
    bin_.get_by_role("button", name="Restore Reed Warden").click()
    expect(page.get_by_role("heading", name="Reed Warden")).to_be_visible()
    expect(bin_).to_have_count(0)
    assert stored()["document"] == before["document"]


def test_an_account_moves_as_a_file_with_a_look_at_what_it_brings(page, fleet, tmp_path):
    page.goto(fleet)
    names = page.get_by_role("heading", level=2).filter(has=page.get_by_role("link"))
    expect(names).to_have_count(4)
    whole = set(names.all_inner_texts())
    with page.expect_download() as saving:
        page.get_by_role("link", name="Export everything").click()
    file = tmp_path / saving.value.suggested_filename
    saving.value.save_as(file)
    for airframe in list(Airframe.everyone.all())[1:]:
        airframe.pins.all().delete()
        airframe.delete()
    page.reload()
    expect(names).to_have_count(1)
    page.get_by_label("Account file").set_input_files(file)
    preview = page.get_by_role("dialog", name="What this file holds")
    expect(preview.get_by_role("checkbox")).to_have_count(4)
    expect(preview.get_by_text("already here")).to_have_count(1)
    fresh = preview.get_by_role("checkbox", name=re.compile(" new$"))
    fresh.first.uncheck()
    preview.get_by_role("button", name="Import 2 airframes").click()
    expect(names).to_have_count(3)
    assert set(names.all_inner_texts()) < whole
    page.get_by_label("Account file").set_input_files({"name": "a.zip", "mimeType": "application/zip", "buffer": b"no"})
    expect(page.get_by_role("alert")).to_contain_text("is no ZIP file that can be read")
