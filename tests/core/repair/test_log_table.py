"""The Log as a table: what goes out comes back the same; what is wrong is told by line and column, all or nothing."""

from __future__ import annotations

from datetime import UTC, datetime

import pytest

from fletcher.core.document.problems import InvalidDocument
from fletcher.core.repair.events import Event, Flight
from fletcher.core.repair.log_table import MOST_LINES, heading, log_line, read_log_csv
from fletcher.core.studies.constructions import CONSTRUCTIONS

WING = CONSTRUCTIONS["bead_wing"].part().model_copy(update={"id": "wing", "name": "Left wing"})
NOW = datetime(2026, 6, 1, 12, 0, tzinfo=UTC)
NOON = datetime(2026, 5, 30, 12, 0, tzinfo=UTC)


def read(text: str):
    return read_log_csv(text, (WING,), NOW)


def wrong(text: str) -> list[tuple[str, str, str]]:
    with pytest.raises(InvalidDocument) as refused:
        read(text)
    return [(p.path, p.message, p.value) for p in refused.value.problems]


def test_what_goes_out_comes_back_the_same():
    events = [
        Event(
            kind="flight", says="calm, two loops", flight=Flight(count=3, minutes=17.5, wind_m_s=2, battery="A, old")
        ),
        Event(kind="wear", says='said "crack"\nand went on', part_id="wing", at_mm=120.5),
        Event(kind="note", says="=SUM(A1)"),
    ]
    text = heading() + "".join(log_line(NOON, e, {"wing": "Left wing"}) for e in events)
    assert "'=SUM" in text  # no table program takes it for a formula
    assert [(line.happened, line.event) for line in read(text)] == [(NOON, e) for e in events]


@pytest.mark.parametrize(
    ("cell", "at"),
    [
        ("2026-05-30", datetime(2026, 5, 30, tzinfo=UTC)),
        ("2026-05-30 14:20", datetime(2026, 5, 30, 14, 20, tzinfo=UTC)),
        ("2026-05-30T14:20+02:00", datetime(2026, 5, 30, 12, 20, tzinfo=UTC)),
        ("30.5.2026 14:20", datetime(2026, 5, 30, 14, 20, tzinfo=UTC)),
    ],
)
def test_dates_are_read_as_people_write_them(cell, at):
    assert read(f"date;type;text\n{cell};note;x\n")[0].happened == at


def test_headings_units_and_decimals_are_found_out():
    line = read("Type;Part;Place (cm);Wind (km/h);Note\nwear;left WING;12,5;;hinge tape lifts\n")[0]
    assert (line.happened, line.event.part_id, line.event.at_mm) == (None, "wing", 125)
    flight = read("type\tflights\twind km/h\ttext\nFlight\t2\t18\tgusty\n")[0].event.flight
    assert (flight.count, flight.wind_m_s) == (2, pytest.approx(5.0))
    comma = read("kind,place mm,part,entry\nwear,12.5,wing,x\n")[0].event
    assert comma.at_mm == 12.5


@pytest.mark.parametrize(
    ("text", "path", "message"),
    [
        ("", "file", "is empty"),
        ("kind,entry,colour\nnote,x,red\n", "line 1", "is no known heading"),
        ("kind,place kg,entry\nnote,1,x\n", "line 1", "is no known heading"),
        ("kind,date\nnote,2026-05-30\n", "line 1", "lacks the heading “entry”"),
        ("date\n2026-05-30\n", "line 1", "lacks the heading “kind” and “entry”"),
        ("kind,entry\nparty,x\n", "line 2.kind", "must be one of crash, damage"),
        ("kind,entry,date\nnote,x,05/30/2026\n", "line 2.happened", "must be a date"),
        ("kind,entry,date\nnote,x,2026-06-02\n", "line 2.happened", "until now"),
        ("kind,entry,date\nnote,x,1969-12-31\n", "line 2.happened", "from 1970"),
        ("kind,entry,part\nnote,x,rudder\n", "line 2.part", "is no part"),
        ("kind,entry,place\nnote,x,100\n", "line 2.at_mm", "needs a part"),
        ("kind,entry,part,place\nnote,x,wing,9000\n", "line 2.at_mm", "must be between 0 mm and"),
        ("kind,entry,part,place\nnote,x,wing,far\n", "line 2.at_mm", "must be a number"),
        ("kind,entry,flights\nflight,x,0\n", "line 2.flight.count", ""),
        ("kind,entry\nnote,\n", "line 2.says", ""),
        ("kind,entry\nnote,a\u202eb\n", "line 2.says", ""),
    ],
)
def test_what_is_wrong_is_told_by_line_and_column(text, path, message):
    told = wrong(text)
    assert len(told) == 1 and told[0][0] == path and message in told[0][1]


def test_one_bad_line_stops_all_and_the_number_is_that_of_the_file():
    told = wrong('kind,entry\nnote,"two\nlines"\n\nnote,good\nparty,bad\nparty,worse\n')
    assert [path for path, *_ in told] == ["line 6.kind", "line 7.kind"]


def test_a_table_may_be_so_long_and_no_longer():
    most = "kind,entry\n" + "note,x\n" * MOST_LINES
    assert len(read(most)) == MOST_LINES
    assert wrong(most + "note,x\n") == [("file", f"must have at most {MOST_LINES} lines", f"{MOST_LINES + 1}")]
