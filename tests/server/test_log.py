"""The Log: flights counted, what came after repairs, words and kinds, corrections, removal, tables to take away."""

import csv
import io
from datetime import UTC, datetime, timedelta

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from django.utils.safestring import SafeString
from pypdf import PdfReader

from fletcher.core.demo.crash import crash_record
from fletcher.core.demo.world import demo_airframes
from fletcher.server.common.pdf import as_pdf
from fletcher.server.crash import log as time_line
from fletcher.server.crash.models import Entry
from tests.server.test_logbook import photo

pytestmark = pytest.mark.django_db
POST = next(a for a in demo_airframes() if a.state == "broken")
START = datetime(2026, 5, 1, 9, 0, tzinfo=UTC)


@pytest.fixture
def post(ann):
    return ann.send("POST", "airframes", POST.model_dump(mode="json"))[1]


def put(ann, post, days=0, **event):
    body = {"event": {"says": "x", **event}, "happened": (START + timedelta(days=days)).isoformat()}
    return ann.send("POST", f"crash/airframes/{post['id']}/log", body)


def read(ann, post, **query):
    address = "&".join(f"{k}={v}" for k, vs in query.items() for v in (vs if isinstance(vs, list) else [vs]))
    return ann.send("GET", f"crash/airframes/{post['id']}/log?{address}")[1]


def flown(ann, post, days, count, minutes=None, **flight):
    return put(ann, post, days, kind="flight", flight={"count": count, "minutes": minutes, **flight})


def test_flights_are_counted_in_all_and_since(ann, post):
    assert read(ann, post)["counts"] == []
    for days, count, minutes in ((0, 3, 30), (10, 2, None), (20, 4, 50)):
        assert flown(ann, post, days, count, minutes)[0] == 201
    put(ann, post, 5, kind="check", says="Spar looked at")
    put(ann, post, 15, kind="crash", says="Reed stem")
    counts = {c["since"]: (c["flights"], c["minutes"]) for c in read(ann, post)["counts"]}
    assert counts == {"in all": (9, 80), "the last crash": (4, 50), "the last check": (6, 50)}


def test_a_repair_tells_what_came_after_it(ann, post):
    first, repair, _, again = crash_record()
    for when, event in (first, repair):
        body = {"event": event.model_dump(mode="json"), "happened": when.isoformat()}
        ann.send("POST", f"crash/airframes/{post['id']}/log", body)
    days = (repair[0] - START).days + 2
    told = lambda: next(e["followed"] for e in read(ann, post)["entries"] if e["event"]["kind"] == "repair")  # noqa: E731
    assert told() == "no flight since, nothing there again"
    flown(ann, post, days, 1)
    assert told() == "1 flight since, nothing there again"
    flown(ann, post, days + 3, 6)
    flown(ann, post, (again[0] - START).days + 1, 5)
    body = {"event": again[1].model_dump(mode="json"), "happened": again[0].isoformat()}
    ann.send("POST", f"crash/airframes/{post['id']}/log", body)
    assert told() == "broken there again after 7 flights"
    assert all(e["followed"] is None for e in read(ann, post)["entries"] if e["event"]["kind"] != "repair")


def test_entries_are_found_by_words_and_kinds(ann, post):
    put(ann, post, 0, kind="build", says="Rods glued into the wing")
    put(ann, post, 1, kind="build", says="Film ironed on the wing")
    put(ann, post, 2, kind="note", says="Glue stringy in the cold")
    flown(ann, post, 3, 2, battery="Blue pack")
    says = lambda **q: [e["event"]["says"] for e in read(ann, post, **q)["entries"]]  # noqa: E731
    assert says(words="WING") == ["Film ironed on the wing", "Rods glued into the wing"]
    assert says(words="wing%20rods") == ["Rods glued into the wing"]
    assert says(kinds=["build", "note"], words="glue") == ["Glue stringy in the cold", "Rods glued into the wing"]
    assert says(words="blue") == ["x"] and says(words="feather") == []
    assert ann.send("GET", f"crash/airframes/{post['id']}/log?kinds=party")[0] == 422


def test_a_correction_keeps_what_stood_before(ann, post, ben):
    entry = flown(ann, post, 0, 3)[1]
    address = f"crash/log/{entry['id']}"
    better = {"event": {"kind": "flight", "says": "windy", "flight": {"count": 4}}}
    status, told = ann.send("PUT", address, better)
    assert status == 200 and told["event"]["flight"]["count"] == 4
    assert [old["says"] for old in told["earlier"]] == ["x"] and told["happened"] == entry["happened"]
    assert read(ann, post)["entries"][0]["earlier"] == told["earlier"]
    later = {**better, "happened": (START + timedelta(days=2)).isoformat()}
    assert ann.send("PUT", address, later)[1]["happened"] == "2026-05-03T09:00:00Z"
    assert ann.send("PUT", address, {"event": {"kind": "note", "says": "x"}})[1]["problems"][0]["path"] == "event.kind"
    future = {**better, "happened": "2999-01-01T00:00:00Z"}
    assert ann.send("PUT", address, future)[1]["problems"][0]["path"] == "happened"
    assert ben.send("PUT", address, better)[0] == 404
    assert len(read(ann, post)["entries"][0]["earlier"]) == 2


def test_a_correction_of_a_repair_keeps_what_was_computed_of_it(ann, post):
    when, event = crash_record()[1]
    body = {"event": event.model_dump(mode="json"), "happened": when.isoformat()}
    entry = ann.send("POST", f"crash/airframes/{post['id']}/log", body)[1]
    told = ann.send("PUT", f"crash/log/{entry['id']}", {"event": {"kind": "repair", "says": "Tape, one face"}})[1]
    assert told["event"]["recipe"] == entry["event"]["recipe"]
    assert told["event"]["stretches_mm"] == entry["event"]["stretches_mm"] and told["event"]["says"] == "Tape, one face"


def test_the_oldest_wordings_go_first(ann, post):
    entry = put(ann, post, kind="note")[1]
    for n in range(time_line.EARLIER + 3):
        ann.send("PUT", f"crash/log/{entry['id']}", {"event": {"kind": "note", "says": f"{n}"}})
    kept = read(ann, post)["entries"][0]["earlier"]
    assert [old["says"] for old in kept][:1] == ["2"] and len(kept) == time_line.EARLIER


def test_an_entry_is_removed_and_put_back(ann, ben, post):
    entry = flown(ann, post, 0, 3)[1]
    address = f"crash/log/{entry['id']}"
    assert ben.send("DELETE", address)[0] == 404
    assert ann.send("DELETE", address)[0] == 204
    assert read(ann, post)["entries"] == [] and read(ann, post)["counts"] == []
    assert ann.send("PUT", address, {"event": {"kind": "flight", "says": "x"}})[0] == 404
    assert ben.send("POST", f"{address}/back")[0] == 404
    assert ann.send("POST", f"{address}/back")[0] == 204
    assert [e["id"] for e in read(ann, post)["entries"]] == [entry["id"]]


def test_a_place_lies_on_its_part(ann, post):
    assert put(ann, post, kind="note", part_id="right-wing", at_mm=200)[0] == 201
    status, told = put(ann, post, kind="note", part_id="right-wing", at_mm=4000)
    assert status == 422 and told["problems"][0]["path"] == "event.at_mm"
    assert "600 mm" in told["problems"][0]["message"]


def test_the_log_is_taken_away_as_a_table(ann, ben, post):
    flown(ann, post, 1, 3, 30, wind_m_s=4, battery="Blue, 3 cells")
    put(ann, post, 0, kind="note", part_id="right-wing", at_mm=200, says='=HYPERLINK("x")')
    answer = ann.get(f"/api/crash/airframes/{post['id']}/log.csv")
    rows = list(csv.DictReader(io.StringIO(b"".join(answer.streaming_content).decode())))
    assert [r["kind"] for r in rows] == ["note", "flight"]
    assert rows[0]["entry"] == '\'=HYPERLINK("x")' and rows[0]["place mm"] == "200.0"
    assert rows[0]["part"] == next(p.name for p in POST.parts if p.id == "right-wing")
    assert (rows[1]["flights"], rows[1]["minutes"], rows[1]["battery"]) == ("3", "30.0", "Blue, 3 cells")
    assert ben.get(f"/api/crash/airframes/{post['id']}/log.csv").status_code == 404


def words_of(pdf: bytes) -> str:
    return " ".join(" ".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages).split())


def test_the_log_is_printed_with_what_it_counts_and_its_pictures(ann, ben, post):
    entry = flown(ann, post, 1, 3, 30, battery="<b>Blue</b>")[1]
    put(ann, post, 2, kind="note", part_id="right-wing", at_mm=200, says="tape <script>")
    address = f"/api/crash/log.pdf?airframe={post['id']}"
    first = ann.get(address)
    assert first["Content-Type"] == "application/pdf" and "Dunlin Post: log" in words_of(first.content)
    assert "3 flights, 30 min, <b>Blue</b>: x" in words_of(first.content)
    assert "tape <script> Wing, right, 200 mm from the root" in words_of(first.content)
    ann.post(f"/api/crash/log/{entry['id']}/pictures", {"photo": photo()})
    assert b"/DCTDecode" in ann.get(address).content and b"/DCTDecode" not in first.content
    assert ben.get(address).status_code == 404
    assert ann.get("/api/crash/log.pdf?airframe=x").status_code == 422


def test_what_is_printed_says_what_it_leaves_out(ann, post, monkeypatch):
    monkeypatch.setattr("fletcher.server.crash.log_print.MOST_ENTRIES", 2)
    seen = []
    monkeypatch.setattr("fletcher.server.crash.log_print.as_pdf", lambda title, body: seen.append(body) or b"%PDF-")
    flown(ann, post, 0, 3, 30, wind_m_s=4, battery="<b>Blue</b>")
    entry = put(ann, post, 1, kind="note", part_id="right-wing", at_mm=200, says="x")[1]
    ann.get(f"/api/crash/log.pdf?airframe={post['id']}")
    assert "All entries." in seen[-1] and "3 flights, 30 min, wind 4 m/s, &lt;b&gt;Blue&lt;/b&gt;: x" in seen[-1]
    assert "200 mm from" in seen[-1] and "Flights in all: <b>3</b>, 30 min" in seen[-1]
    body = {"event": {"kind": "note", "says": "tape <script>"}}
    assert ann.send("PUT", f"crash/log/{entry['id']}", body)[0] == 200
    put(ann, post, 2, kind="build", says="Film ironed on")
    ann.get(f"/api/crash/log.pdf?airframe={post['id']}")
    assert "The newest 2 entries." in seen[-1] and "flights" not in seen[-1].split("<h2>")[1]
    assert "tape &lt;script&gt;" in seen[-1] and "<del>x</del>" in seen[-1]


def test_a_page_loads_nothing_from_elsewhere(caplog):
    inside = as_pdf("x", SafeString('<img src="http://127.0.0.1:9/x.png"><img src="file:///etc/hostname">'))
    assert b"/Image" not in inside
    assert len([r for r in caplog.records if "disallowed protocol" in r.getMessage()]) == 2


def table(ann, post) -> str:
    return b"".join(ann.get(f"/api/crash/airframes/{post['id']}/log.csv").streaming_content).decode()


def take(ann, post, text, keep=True):
    return ann.send("POST", f"crash/airframes/{post['id']}/log-from-table", {"text": text, "keep": keep})


def test_a_table_is_shown_before_it_is_taken_and_what_is_there_is_left_out(ann, ben, post):
    flown(ann, post, 1, 3, 30)
    text = table(ann, post) + "2026-05-03T10:00+00:00,note,,,,,,,Trimmed\n2026-05-03T10:00+00:00,note,,,,,,,Trimmed\n"
    status, told = take(ann, post, text, keep=False)
    assert status == 200 and [e["event"]["says"] for e in told["entries"]] == ["Trimmed"] and told["known"] == 2
    assert Entry.everyone.count() == 1
    assert take(ben, post, text)[0] == 404 and Entry.everyone.count() == 1
    assert len(take(ann, post, text)[1]["entries"]) == 1
    assert take(ann, post, text)[1] == {"entries": [], "known": 3}
    assert [e["event"]["says"] for e in read(ann, post)["entries"]] == ["Trimmed", "x"]
    assert read(ann, post)["counts"][0]["flights"] == 3


def test_a_table_is_taken_whole_or_not_at_all(ann, post, monkeypatch):
    status, told = take(ann, post, "kind,entry\nnote,good\nparty,bad\n")
    assert status == 422 and told["problems"][0]["path"] == "line 3.kind" and not Entry.everyone.exists()
    monkeypatch.setattr(time_line, "MOST", 2)
    assert take(ann, post, "kind,entry\nnote,a\nnote,b\nnote,c\n")[0] == 422 and not Entry.everyone.exists()
    assert take(ann, post, "kind,entry\nnote,a\nnote,b\n")[0] == 200 and Entry.everyone.count() == 2
    assert take(ann, post, "kind,entry\nnote," + "a" * 1_100_000)[0] in (413, 422)


def test_an_entry_has_pictures_of_its_own_and_those_at_the_marks_that_it_brought(ann, ben, post):
    damage = next(e for _, e in crash_record() if e.kind == "damage" and e.marks)
    mark = next(m.id for p in POST.parts if p.id == "right-wing" for m in p.damage)
    brought = damage.model_copy(update={
        "part_id": "right-wing", "marks": (damage.marks[0].model_copy(update={"id": mark}),)
    })  # fmt: skip
    body = {"event": brought.model_dump(mode="json")}
    entries = [ann.send("POST", f"crash/airframes/{post['id']}/log", body)[1], put(ann, post, kind="note")[1]]
    here = f"/api/crash/log/{entries[1]['id']}/pictures"
    assert ben.post(here, {"photo": photo()}).status_code == 404
    kept = ann.post(here, {"photo": photo()}).json()
    assert (kept["entry_id"], kept["mark_id"]) == (entries[1]["id"], "")
    at_mark = ann.post(f"/api/crash/airframes/{post['id']}/pictures",
                       {"photo": photo(), "part_id": "right-wing", "mark_id": mark}).json()  # fmt: skip
    shown = {e["id"]: e["pictures"] for e in read(ann, post)["entries"]}
    assert shown == {entries[0]["id"]: [at_mark["id"]], entries[1]["id"]: [kept["id"]]}
    corrected = ann.send("PUT", f"crash/log/{entries[1]['id']}", {"event": {"kind": "note", "says": "y"}})[1]
    assert corrected["pictures"] == [kept["id"]]
    assert ann.post(here, {"photo": SimpleUploadedFile("a.png", b"none")}).status_code == 422
    ann.send("DELETE", f"crash/log/{entries[1]['id']}")
    assert ann.post(here, {"photo": photo()}).status_code == 404
    assert ann.send("DELETE", f"crash/pictures/{kept['id']}")[0] == 204


def test_ten_thousand_entries_and_no_more(ann, post, monkeypatch):
    monkeypatch.setattr(time_line, "MOST", 2)
    assert [put(ann, post, kind="note")[0] for _ in range(3)] == [201, 201, 422]
    assert Entry.everyone.count() == 2


def told(*arguments):
    out = io.StringIO()
    call_command("log", *arguments, stdout=out)
    return out.getvalue()


def test_the_log_is_read_at_the_terminal(ann, ben, post):
    flown(ann, post, 0, 3, 30)
    put(ann, post, 1, kind="build", says="Film ironed on")
    text = told("Ann", "dunlin")
    assert text.startswith("Dunlin Post\n  flights in all: 3, 30 min\n")
    assert text.index("2026-05-02 09:00  build     Film ironed on") < text.index("2026-05-01 09:00  flight")
    assert "flight " not in told("ann", "Dunlin Post", "--kinds", "build", "--words", "film").split("min\n")[1]
    assert len(told("ann", "dunlin", "--csv").splitlines()) == 3
    for arguments, says in ((("eve", "dunlin"), "eve"), (("ben", "dunlin"), "On this shelf: none"),
                            (("ann", "x"), "On this shelf: Dunlin Post")):  # fmt: skip
        with pytest.raises(CommandError, match=says):
            told(*arguments)
    ann.send("POST", "airframes", POST.model_dump(mode="json"))
    with pytest.raises(CommandError, match="2 begin with"):
        told("ann", "dunlin")
