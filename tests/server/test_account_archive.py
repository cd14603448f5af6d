"""An account saved as a ZIP of open files and taken in: whole, once only, all of it or nothing."""

from __future__ import annotations

import io
import json
import zipfile
from collections import Counter
from dataclasses import replace
from typing import Any
from uuid import UUID

import pytest
from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from PIL import Image

from fletcher.core.document.airframe import Airframe as Document
from fletcher.server.accounts.demo import DEMO_USERNAME
from fletcher.server.airframes import services
from fletcher.server.airframes.management.commands.prepare import load_demo
from fletcher.server.airframes.models import Airframe, Pin, Revision
from fletcher.server.build import models as build
from fletcher.server.common import storage
from fletcher.server.crash import models as crash
from fletcher.server.crash.services import add_picture, add_picture_to_entry
from fletcher.server.joints import models as joints
from fletcher.server.keeping import intake
from fletcher.server.keeping.archive import folder_of, write_archive
from fletcher.server.stock import models as stock
from tests.server.conftest import JsonClient, builder

pytestmark = pytest.mark.django_db


def saved(client: JsonClient) -> bytes:
    reply = client.get("/api/account/archive")
    assert reply.status_code == 200 and reply["Content-Disposition"].endswith('.zip"')
    return b"".join(reply.streaming_content)


def sent(client: JsonClient, what: str, archive: bytes, **fields: Any) -> tuple[int, Any]:
    upload = SimpleUploadedFile("mine.zip", archive, content_type="application/zip")
    reply = client.post(f"/api/account/archive/{what}", {"archive": upload, **fields})
    return reply.status_code, json.loads(reply.content)


def changed(archive: bytes, edit: Any) -> bytes:
    """The archive with every file as `edit(name, content)` gives it; None leaves one out."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(archive)) as before, zipfile.ZipFile(out, "w") as after:
        for name in before.namelist():
            content = edit(name, before.read(name))
            if content is not None:
                after.writestr(name, content)
    return out.getvalue()


def kept(owner: User) -> dict[str, Any]:
    """Everything of an account but the bytes of photographs, which are encoded anew."""

    def rows(found: Any, *fields: str) -> list[Any]:
        return sorted(found.values_list(*fields), key=repr)

    of = {"airframe__owner": owner}
    return {
        "airframes": rows(Airframe.everyone.filter(owner=owner), "id", "revision", "created", "updated"),
        "revisions": rows(Revision.objects.filter(**of), "airframe_id", "number", "document", "undo_to", "redo_to",
                          "created"),
        "pins": rows(Pin.objects.filter(**of), "airframe_id", "part_id", "name", "revision__number", "document",
                     "created"),
        "entries": rows(crash.Entry.everyone.filter(owner=owner), "id", "airframe_id", "created", "happened",
                        "revision", "event"),
        "jobs": rows(crash.Job.everyone.filter(owner=owner), "id", "created", "part_id", "title", "checks", "values",
                     "marks"),
        "tasks": rows(crash.Task.objects.filter(job__owner=owner), "job_id", "number", "operation", "done", "note"),
        "candidates": rows(crash.Candidate.everyone.filter(owner=owner), "id", "created", "part_id", "name", "recipe"),
        "pictures": rows(crash.Picture.everyone.filter(owner=owner), "id", "created", "part_id", "mark_id", "entry_id"),
        "sheets": rows(build.Sheet.everyone.filter(owner=owner), "id", "created", "airframe_id", "changes"),
        "presses": rows(build.Pressed.everyone.filter(owner=owner), "id", "created", "airframe_id", "press"),
        "things": rows(stock.Thing.everyone.filter(owner=owner), "id", "created", "item", "reserved_for"),
        "trials": rows(joints.Trial.everyone.filter(owner=owner), "id", "created", "wish"),
        "coupons": rows(joints.Coupon.everyone.filter(owner=owner), "id", "created", "trial_id", "coupon"),
    }  # fmt: skip


def photo() -> SimpleUploadedFile:
    out = io.BytesIO()
    Image.effect_noise((300, 200), 60).save(out, "JPEG")
    return SimpleUploadedFile("p.jpg", out.getvalue())


def fleet_undo(client: JsonClient, state: services.State) -> Any:
    return client.send("POST", f"airframes/{state.id}/undo", {"revision": state.revision})[1]


@pytest.fixture
def fleet(db) -> JsonClient:
    """The demo's account, with a photograph at a mark and one of a coupon, and an adopted repair."""
    load_demo()
    owner = User.objects.get(username=DEMO_USERNAME)
    client = JsonClient()
    client.force_login(owner, backend="fletcher.server.accounts.names.ByName")
    broken = next(s for s in services.shelf(owner) if s.document["state"] == "broken")
    part = next(p for p in broken.document["parts"] if p["damage"])
    add_picture(owner, broken.id, part["id"], part["damage"][0]["id"], photo())
    add_picture_to_entry(owner, crash.Entry.objects.owned_by(owner).first().id, photo())
    coupon = joints.Coupon.objects.owned_by(owner).first()
    assert client.post(f"/api/joints/coupons/{coupon.id}/photo", {"photo": photo()}).status_code == 200
    candidate = crash.Candidate.objects.owned_by(owner).first()
    status, _ = client.send(
        "POST", f"crash/airframes/{broken.id}/adopt",
        {"revision": broken.revision, "part_id": part["id"], "recipe": candidate.recipe, "wish": {}},
    )  # fmt: skip
    assert status in (200, 201)
    whole = next(s for s in services.shelf(owner) if s.document["state"] != "broken" and s.can_undo)
    assert fleet_undo(client, whole)["can_redo"]
    body = {"part_id": part["id"], "part": {**part, "span_mm": part["span_mm"] + 1, "damage": []}, "name": "Other"}
    assert client.send("POST", f"airframes/{broken.id}/pins", body)[0] == 201
    kept = {"owner": owner, "airframe_id": broken.id, "part_id": part["id"], "name": "kept", "recipe": candidate.recipe}
    crash.Candidate(**kept).save()
    return client


def owner_of(client: JsonClient) -> User:
    return User.objects.get(pk=client.session["_auth_user_id"])


def test_an_account_comes_back_whole_and_once_only(fleet):
    owner = owner_of(fleet)
    before, archive = kept(owner), saved(fleet)
    assert all(before.values()), [k for k, v in before.items() if not v]
    for airframe in Airframe.everyone.filter(owner=owner):
        airframe.pins.all().delete()
        airframe.delete()
    joints.Trial.everyone.filter(owner=owner).delete()
    joints.Coupon.everyone.filter(owner=owner).delete()
    stock.Thing.everyone.filter(owner=owner).delete()
    assert not any(kept(owner).values())
    status, told = sent(fleet, "look", archive)
    assert status == 200 and {a["fate"] for a in told["airframes"]} == {"new"} and told["coupons"] > 0
    assert sorted(a["revisions"] for a in told["airframes"]) == sorted(
        Counter(r[0] for r in before["revisions"]).values()
    )
    assert sum(a["pictures"] for a in told["airframes"]) == len(before["pictures"])
    assert not any(kept(owner).values()), "a look stores nothing"
    status, told = sent(fleet, "take", archive)
    assert status == 200 and kept(owner) == before
    assert {p.photo[:2] for p in crash.Picture.everyone.all()} == {b"\xff\xd8"}
    assert crash.Picture.everyone.exclude(entry=None).get().entry.owner == owner
    status, told = sent(fleet, "take", archive)
    assert {a["fate"] for a in told["airframes"]} == {"here"} and told["coupons"] == told["trials"] == 0
    assert kept(owner) == before


def test_another_account_gets_its_own_and_only_once(fleet, ben):
    before, archive = kept(owner_of(fleet)), saved(fleet)
    for fate in ("new", "here"):
        status, told = sent(ben, "take", archive)
        assert status == 200 and {a["fate"] for a in told["airframes"]} == {fate}
        assert kept(owner_of(fleet)) == before
        mine = kept(owner_of(ben))
        assert {k: len(v) for k, v in mine.items()} == {k: len(v) for k, v in before.items()}
        assert not {r[0] for r in mine["airframes"]} & {r[0] for r in before["airframes"]}


def test_every_file_can_be_read_with_plain_tools(fleet):
    with zipfile.ZipFile(io.BytesIO(saved(fleet))) as found:
        names = found.namelist()
        heads = [json.loads(found.read(n)) for n in names if n.endswith("/airframe.json")]
        assert len(heads) == len(services.shelf(owner_of(fleet)))
        for name in names:
            if name.endswith(".jsonl"):
                assert [json.loads(line) for line in found.read(name).splitlines()]
            elif name.endswith(".jpg"):
                Image.open(io.BytesIO(found.read(name))).verify()
    document = heads[0]
    assert fleet.send("POST", "airframes", document)[0] == 201


def test_what_went_on_elsewhere_comes_on_top_and_can_be_undone(ann, wing):
    at, old = f"airframes/{wing['id']}", saved(ann)
    document = {**wing["document"], "name": "Farther"}
    ann.send("PUT", at, {"revision": 1, "document": document})
    newer = saved(ann)
    Revision.objects.filter(number=2).delete()
    Airframe.everyone.update(revision=1)
    (told,) = sent(ann, "take", newer)[1]["airframes"]
    state = ann.send("GET", at)[1]
    assert told["fate"] == "newer" and state["document"]["name"] == "Farther" and state["can_undo"]
    assert ann.send("POST", f"{at}/undo", {"revision": 2})[1]["document"] == wing["document"]
    (told,) = sent(ann, "look", old)[1]["airframes"]
    assert told["fate"] == "here", "an older state is not put over a newer one"


def test_what_went_another_way_stands_beside(ann, wing):
    at = f"airframes/{wing['id']}"
    ann.send("PUT", at, {"revision": 1, "document": {**wing["document"], "name": "There"}})
    ann.send("POST", f"crash/{at}/log", {"event": {"kind": "note", "says": "Trimmed."}})
    there = saved(ann)
    Revision.objects.filter(number=2).update(document={**wing["document"], "name": "Mine"})
    for fate, count in (("beside", 2), ("here", 2)):
        (told,) = sent(ann, "take", there)[1]["airframes"]
        shelf = ann.send("GET", "airframes")[1]
        assert told["fate"] == fate and len(shelf) == count
        assert {s["document"]["name"] for s in shelf} == {"Mine", "There (from file)"}
    other = next(s for s in ann.send("GET", "airframes")[1] if s["id"] != wing["id"])
    (told,) = sent(ann, "look", there)[1]["airframes"]
    assert not told["from_bin"]
    assert len(ann.send("GET", f"crash/airframes/{other['id']}/log")[1]["entries"]) == 1
    ann.send("DELETE", f"airframes/{other['id']}")
    (told,) = sent(ann, "take", there)[1]["airframes"]
    assert told["fate"] == "here" and told["from_bin"] and len(ann.send("GET", "airframes")[1]) == 2


def test_a_twin_and_what_is_left_out_stay_out_and_the_bin_is_looked_into(ann, ben, wing):
    archive = saved(ann)
    ben.send("POST", "airframes", wing["document"])
    (told,) = sent(ben, "take", archive)[1]["airframes"]
    assert told["fate"] == "same" and len(ben.send("GET", "airframes")[1]) == 1
    ann.send("DELETE", f"airframes/{wing['id']}")
    (told,) = sent(ann, "look", archive)[1]["airframes"]
    assert (told["fate"], told["from_bin"]) == ("here", True) and ann.send("GET", "airframes")[1] == []
    sent(ann, "take", archive, leave=[told["folder"]])
    assert ann.send("GET", "airframes")[1] == []
    sent(ann, "take", archive)
    assert [s["id"] for s in ann.send("GET", "airframes")[1]] == [wing["id"]] and ann.send("GET", "bin")[1] == []


def spoiled(line: bytes, **fields: Any) -> bytes:
    return json.dumps({**json.loads(line.splitlines()[-1]), **fields}).encode()


_PICTURE = json.dumps({"id": "0" * 32, "created": "2026-01-01T00:00:00Z", "part_id": "w", "mark_id": "m"})
_AT_ENTRY = json.dumps({**json.loads(_PICTURE), "entry": "1" * 32})
WRONG = (
    ("history.jsonl", lambda b: b + b"{", "history.jsonl line 2", "is not valid JSON"),
    ("history.jsonl", lambda b: b + b, "history.jsonl", "in order"),
    ("history.jsonl", lambda b: b"", "history.jsonl", "holds no revision"),
    ("history.jsonl", lambda b: spoiled(b, created="0001-01-01T00:00:00Z"), "line 1: created", "1970"),
    ("history.jsonl", lambda b: b.replace(b'"root_chord_mm":', b'"root_chord_mm":-'), "root_chord_mm", "between 5 mm"),
    ("about.json", lambda b: None, "about.json", "is missing"),
    ("account.json", lambda b: None, "archive", "account.json is missing"),
    ("account.json", lambda b: b.replace(b'"version": 1', b'"version": 9'), "account.json: version", "1"),
    ("log.jsonl", lambda b: spoiled(b, id="not an id"), "log.jsonl line 1: id", ""),
    ("log.jsonl", lambda b: b.replace(b"Trimmed", b"Tr\\u202eimmed"), "log.jsonl line 1", "characters"),
    ("pictures.jsonl", lambda b: _PICTURE, ".jpg", "is missing"),
    ("pictures.jsonl", lambda b: _AT_ENTRY, "pictures.jsonl", "names an entry that the log does not hold"),
    ("variants.jsonl", lambda b: spoiled(b, revision=77), "variants.jsonl", "does not hold"),
    ("variants.jsonl", lambda b: spoiled(b, part_id="rudder"), "variants.jsonl", "does not hold"),
    ("variants.jsonl", lambda b: spoiled(b, revision=None), "variants.jsonl", "one of them"),
    ("variants.jsonl", lambda b: spoiled(b, name="n" * 61), "variants.jsonl line 1: name", "60"),
    ("repairs.jsonl", lambda b: spoiled(_PICTURE.encode(), name="n" * 81), "repairs.jsonl line 1: name", "80"),
    ("log.jsonl", lambda b: b" " * 1_300_000 + b, "log.jsonl line 1", "too long: at most 1200 kB"),
    ("about.json", lambda b: b + b" " * 1_300_000, "about.json", "too large: no more than 1.2 MB"),
)  # fmt: skip


@pytest.mark.parametrize(("file", "spoil", "path", "message"), WRONG)
def test_what_is_wrong_is_told_by_file_and_line_and_nothing_is_stored(ann, ben, wing, file, spoil, path, message):
    at, part = f"airframes/{wing['id']}", wing["document"]["parts"][0]["id"]
    ann.send("POST", f"crash/{at}/log", {"event": {"kind": "note", "says": "Trimmed."}})
    ann.send("POST", f"{at}/pins", {"part_id": part, "revision": 1, "name": "first"})
    archive = saved(ann)
    if file in ("pictures.jsonl", "repairs.jsonl"):
        archive = changed(archive, lambda n, b: b)
        out = io.BytesIO(archive)
        with zipfile.ZipFile(out, "a") as more:
            folder = next(n for n in more.namelist() if n.endswith("about.json")).rsplit("/", 1)[0]
            more.writestr(f"{folder}/{file}", spoil(b""))
        archive = out.getvalue()
    else:
        archive = changed(archive, lambda n, b: spoil(b) if n.endswith(file) else b)
    status, told = sent(ben, "take", archive)
    assert status == 422, told
    problem = told["problems"][0]
    assert path in problem["path"] and message in problem["message"], told
    assert not any(kept(owner_of(ben)).values())


def test_files_that_are_no_archives_are_refused(ann, monkeypatch):
    for junk in (b"", b"not a zip", b"PK\x03\x04" + b"\0" * 40):
        assert sent(ann, "look", junk)[0] == 422
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_LZMA) as locked:
        locked.writestr("account.json", "{}")
    assert "not read" in sent(ann, "look", out.getvalue())[1]["problems"][0]["message"]
    archive = saved(ann)
    encrypted = bytearray(archive)
    encrypted[encrypted.index(b"PK\x01\x02") + 8] |= 1
    assert "is locked" in sent(ann, "look", bytes(encrypted))[1]["problems"][0]["message"]
    torn = bytearray(archive)
    torn[60:70] = bytes(10)
    assert sent(ann, "look", bytes(torn))[0] == 422
    monkeypatch.setattr("fletcher.server.keeping.unpack.MOST_UNPACKED_BYTES", 100)
    assert "at most" in sent(ann, "look", archive)[1]["problems"][0]["message"]


@pytest.mark.parametrize(
    ("name", "folder"),
    [
        ("Möwe No. 7!", "m-we-no--7"),
        ("Über-Flügel", "ber-fl-gel"),
        ("***", "airframe"),
        ("a" * 60, "a" * 40),
    ],
)  # fmt: skip
def test_a_folder_is_called_as_the_airframe_in_plain_letters(document, name, folder):
    named = Document.model_validate({**document, "name": name})
    assert folder_of(named, UUID(int=0xAB << 120)) == f"airframes/{folder}-ab000000"


def test_a_line_as_long_as_may_be_is_read(ann, ben, wing, monkeypatch):
    archive = saved(ann)
    with zipfile.ZipFile(io.BytesIO(archive)) as found:
        texts = [found.read(n) for n in found.namelist() if n.endswith((".jsonl", ".json"))]
    longest = max(len(line) + 1 for text in texts for line in text.splitlines())
    longest = max(longest, *(len(t) for t in texts))
    monkeypatch.setattr("fletcher.server.keeping.unpack.MOST_LINE_BYTES", longest)
    assert sent(ben, "look", archive)[0] == 200
    history = next(t for t in texts if b'"root_chord_mm"' in t)
    monkeypatch.setattr("fletcher.server.keeping.unpack.MOST_LINE_BYTES", len(history.splitlines()[0]) - 1)
    assert sent(ben, "look", archive)[0] == 422


def test_damaged_rows_lie_in_the_archive_as_they_are_and_stay_out_of_the_rest(ann, ben, wing, document):
    ann.send("POST", "airframes", {**document, "name": "Other"})
    Revision.objects.filter(airframe=wing["id"]).update(document={"odd": True})
    archive = saved(ann)
    with zipfile.ZipFile(io.BytesIO(archive)) as found:
        assert json.loads(found.read(f"damaged/airframe-{wing['id']}.json")) == {"odd": True}
    status, told = sent(ben, "take", archive)
    assert status == 200 and [a["name"] for a in told["airframes"]] == ["Other"] and told["damaged"] == 1


def test_what_is_damaged_here_is_not_compared_but_brought_back_beside_it(ann, wing):
    archive = saved(ann)
    Revision.objects.filter(airframe=wing["id"]).update(document={"odd": True})
    (told,) = sent(ann, "take", archive)[1]["airframes"]
    assert told["fate"] == "beside"
    (back,) = ann.send("GET", "airframes")[1]
    assert back["document"]["parts"] == wing["document"]["parts"] and back["id"] != wing["id"]
    assert [d["id"] for d in ann.send("GET", "damaged")[1]] == [wing["id"]]


def test_an_archive_holds_what_is_ones_own(ann, ben, wing):
    with zipfile.ZipFile(io.BytesIO(saved(ben))) as found:
        assert sorted(found.namelist()) == ["account.json", "read-me.txt"]
    assert JsonClient().get("/api/account/archive").status_code == 401


def test_a_full_account_is_told_and_still_saves_what_is_there(ann, wing, document, monkeypatch):
    used = ann.send("GET", "account/storage")[1]
    assert 300 < used["used_bytes"] < 20_000 and used["most_bytes"] == 500_000_000
    monkeypatch.setattr(storage, "MOST_BYTES", used["used_bytes"])
    status, told = ann.send("POST", "airframes", document)
    assert status == 422 and "full: at most 0 MB" in told["problems"][0]["message"]
    monkeypatch.setattr(storage, "MOST_BYTES", 2_000_000)
    monkeypatch.setattr(storage, "used_bytes", lambda owner: 3_400_000)
    (problem,) = ann.send("POST", "airframes", document)[1]["problems"]
    assert "at most 2 MB" in problem["message"] and problem["value"] == "3 MB"
    monkeypatch.undo()
    monkeypatch.setattr(storage, "MOST_BYTES", used["used_bytes"])
    archive = io.BytesIO()
    write_archive(owner_of(ann), archive)
    assert sent(ann, "take", archive.getvalue())[0] == 422
    moved = {**wing["document"], "name": "Moved"}
    assert ann.send("PUT", f"airframes/{wing['id']}", {"revision": 1, "document": moved})[0] == 200


def test_a_full_accounts_history_is_thinned_and_a_doubly_full_one_stores_no_more(ann, wing, monkeypatch):
    monkeypatch.setattr(services, "MOST_BYTES", 1_000_000)
    at = f"airframes/{wing['id']}"

    def save(n: int) -> int:
        return ann.send("PUT", at, {"revision": n, "document": {**wing["document"], "name": f"N{n}"}})[0]

    assert [save(n) for n in range(1, 29)] == [200] * 28
    full = storage.used_bytes(owner_of(ann).pk)
    for most in (full * 2, full - 1):
        monkeypatch.setattr(services, "MOST_BYTES", most)
        monkeypatch.setattr(storage, "MOST_BYTES", most)
    assert save(29) == 200
    numbers = list(Revision.objects.order_by("number").values_list("number", flat=True))
    assert numbers == [1, *range(11, 31)]
    monkeypatch.setattr(services, "MOST_BYTES", 100)
    monkeypatch.setattr(storage, "MOST_BYTES", 100)
    assert [save(n) for n in range(30, 39)] == [200] * 9 and save(39) == 422
    assert ann.send("GET", at)[1]["revision"] == 39


def test_both_builders_ids_are_kept_apart(ann, ben, wing):
    """Ben takes Ann's archive in: what he changes then is his."""
    sent(ben, "take", saved(ann))
    (mine,) = ben.send("GET", "airframes")[1]
    ben.send("DELETE", f"airframes/{mine['id']}")
    assert ann.send("GET", f"airframes/{wing['id']}")[0] == 200
    assert builder("cas").send("GET", f"airframes/{mine['id']}")[0] == 404


def test_an_account_moves_at_the_terminal_too(ann, ben, wing, tmp_path, capsys):
    file = tmp_path / "ann.zip"
    call_command("users", "export", "ann", str(file))
    with pytest.raises(CommandError, match="File exists"):
        call_command("users", "export", "ann", str(file))
    call_command("users", "import", "Ben", str(file))
    assert f"{wing['document']['name']}: new here" in capsys.readouterr().out
    assert len(ben.send("GET", "airframes")[1]) == 1
    file.write_bytes(b"torn")
    with pytest.raises(CommandError, match="is no ZIP file"):
        call_command("users", "import", "ben", str(file))
    for name, path, says in (("nobody", file, "no account"), ("ben", tmp_path / "none.zip", "No such file")):
        with pytest.raises(CommandError, match=says):
            call_command("users", "import", name, str(path))


def test_what_belongs_to_something_that_is_missing_or_is_too_much_is_refused(fleet, ben, monkeypatch):
    archive = saved(fleet)
    orphaned = changed(archive, lambda n, b: None if n == "trials.jsonl" else b)
    status, told = sent(ben, "take", orphaned)
    assert status == 422 and "trials.jsonl" in told["problems"][0]["message"]
    for path in ("pictures.jsonl", "work.jsonl", "log.jsonl", "repairs.jsonl", "build.jsonl", "presses.jsonl"):
        few = tuple(replace(s, most=0) if s.path == path else s for s in intake._SORTS)
        monkeypatch.setattr(intake, "_SORTS", few)
        status, told = sent(ben, "take", archive)
        assert status == 422 and path in told["problems"][0]["path"] and "at most 0" in told["problems"][0]["message"]
        monkeypatch.undo()
    monkeypatch.setattr(services, "MOST_AIRFRAMES", 3)
    assert "airframes" in sent(ben, "take", archive)[1]["problems"][0]["message"]
    assert not any(kept(owner_of(ben)).values())
    assert [s.most for s in intake._SORTS] == [10_000, 1000, 2000, 1, 4000, 400]
