"""Reading instruments: what a line says, steady marks, broken lines, floods, silence, and the stream."""

import itertools
import json

import pytest
from django.core.exceptions import ImproperlyConfigured

from fletcher.devices.simulated import KINDS
from fletcher.server.instruments import api, reader
from fletcher.server.instruments.protocol import GarbledError, reading_of
from fletcher.server.instruments.reader import readings
from fletcher.server.settings import SIMULATED, _instruments
from tests.devices.test_simulated import bench  # noqa: F401 - a fixture


@pytest.mark.parametrize(
    ("line", "value", "state"),
    [(b"R 12300 +51.8 g S\r", 51.8, "S"), (b"R 1 -0.30 g M", -0.3, "M"), (b"R 1 3000 g O", 3000, "O")],
)
def test_a_line_is_read(line, value, state):
    found = reading_of(line, "g")
    assert (found.value, found.state, found.unit) == (value, state, "g")


@pytest.mark.parametrize("line", [b"", b"\r", b"# fletcher-instrument 1 scale g 1 3000"])
def test_a_remark_says_nothing(line):
    assert reading_of(line, "g") is None


@pytest.mark.parametrize(
    ("line", "says"),
    [
        (b"R 1 nan g S", "cannot be read"), (b"R 1 1e9 g S", "cannot be read"), (b"R 1 5 N S", "N instead of g"),
        (b"R 1 5 lb S", "unit is unknown"), (b"\xff\xfe\x00", "cannot be read"), (b"R 1 5 g", "cannot be read"),
        (b"R 1 5 g S" + b" " * 300, "without an end"), (b"hello", "cannot be read"),
    ],
)  # fmt: skip
def test_what_is_no_reading_is_told(line, says):
    with pytest.raises(GarbledError, match=says):
        reading_of(line, "g")


class Clock:
    """Time that passes while a port is waited for."""

    now = 0.0

    def __call__(self):
        return self.now


class FakePort:
    """A port that has said what is in its list; each item takes an eighth of a second."""

    def __init__(self, clock, said, ends=None):
        self.clock, self.said, self.ends, self.closed = clock, list(said), ends, False
        self.waiting = b""

    @property
    def in_waiting(self):
        return len(self.waiting)

    def read(self, size=1):
        if self.waiting:
            taken, self.waiting = self.waiting[:size], self.waiting[size:]
            return taken
        self.clock.now += 0.125
        if not self.said:
            if self.ends:
                raise self.ends
            return b""
        data = self.said.pop(0)
        taken, self.waiting = data[:size], data[size:]
        return taken

    def close(self):
        self.closed = True


def heard(said, count, step=0.1, ends=None):
    """The first answers of a port that says so; and the port."""
    clock = Clock()
    ports = [FakePort(clock, said, ends)]
    limit = itertools.count()
    found = readings("x", "g", step, lambda: next(limit) < 400, lambda _: ports[0], clock, lambda s: None)
    return list(itertools.islice(found, count)), ports[0]


def line(value, state="S"):
    return f"R 1 {value} g {state}\n".encode()


def test_a_value_is_steady_when_it_stood_still_for_long_enough():
    told, _ = heard([line(51.8)] * 12, 12)
    assert [t.state for t in told] == ["moving"] * 7 + ["steady"] * 5
    assert told[-1].value == 51.8
    restless, _ = heard([line(50 + n % 4) for n in range(20)], 20)
    assert {t.state for t in restless} == {"moving"}
    moving, _ = heard([line(51.8, "M")] * 20, 20)
    assert {t.state for t in moving} == {"moving"}
    # a jump begins anew
    jumped, _ = heard([line(0)] * 12 + [line(50)] * 12, 24)
    assert [t.state for t in jumped[11:20]] == ["steady"] + ["moving"] * 7 + ["steady"]


def test_lines_in_pieces_are_put_together():
    pieces = [b"R 1 5", b"1.8 g S\nR 2 51.", b"9 g S\n"]
    told, _ = heard(pieces, 2)
    assert [t.value for t in told] == [51.8, 51.9]


def test_overload_and_garbage_carry_no_value_and_begin_anew():
    told, _ = heard([line(51.8)] * 10 + [line(3000, "O"), b"\x00\x01\n", b"R 1 nan g S\n"] + [line(51.8)] * 3, 16)
    assert [t.state for t in told[9:13]] == ["steady", "overload", "garbled", "garbled"]
    assert all(t.value is None and t.says for t in told[10:13])
    assert told[13].state == "moving"


def test_a_flood_is_thinned_and_a_line_without_an_end_is_no_memory():
    told, _ = heard([line(50) * 5000, line(51)], 2)
    assert [t.value for t in told] == [50, 51]
    endless, _ = heard([b"x" * 100_000, line(51)], 2)
    assert endless[0].state == "garbled" and "without an end" in endless[0].says


def test_silence_is_told_and_then_connected_anew():
    told, port = heard([line(51.8)], 90)
    states = [t.state for t in told]
    assert states[0] == "moving" and states[1] == "silent" and "away" in states
    assert port.closed


def test_a_broken_connection_is_told_and_tried_again():
    told, port = heard([line(51.8)], 3, ends=OSError("gone"))
    assert [t.state for t in told[:2]] == ["moving", "away"] and "broke" in told[1].says and port.closed


def test_what_is_not_there_is_tried_again_ever_less_often():
    clock, tried = Clock(), []

    def opening(_):
        tried.append(clock.now)
        raise OSError("refused")

    def rest(seconds):
        clock.now += seconds

    found = readings("x", "g", 1, lambda: clock.now < 20, opening, clock, rest)
    assert {t.state for t in found} == {"away"}
    gaps = [b - a for a, b in itertools.pairwise(tried)]
    assert gaps[:4] == pytest.approx([0.5, 1.0, 2.0, 5.0], abs=0.2) and gaps[-1] == pytest.approx(5, abs=0.2)


@pytest.fixture
def kitchen(bench, settings):  # noqa: F811
    port = bench.served["kitchen-scale"].port
    settings.INSTRUMENTS = {"kitchen-scale": (f"socket://127.0.0.1:{port}", "g", 0.1)}
    bench.served["kitchen-scale"].scripted = False
    bench.served["kitchen-scale"].instrument.load = 51.8
    return bench


@pytest.mark.django_db(transaction=True)
def test_a_simulated_scale_is_read_over_the_stream(ann, kitchen):
    assert ann.send("GET", "instruments")[1] == [{"name": "kitchen-scale", "unit": "g", "step": 0.1}]
    answer = ann.get("/api/instruments/kitchen-scale/readings")
    told = []
    for chunk in answer.streaming_content:
        told.append(json.loads(chunk)["reading"])
        if told[-1]["state"] == "steady" or len(told) > 80:
            break
    answer.close()
    assert told[-1]["state"] == "steady" and told[-1]["value"] == pytest.approx(51.8, abs=0.6)
    assert ann.get("/api/instruments/spoon/readings").status_code == 404


@pytest.mark.django_db(transaction=True)
def test_only_so_many_look_at_once_and_a_place_is_given_back(ann, kitchen):
    open_ones = [ann.get("/api/instruments/kitchen-scale/readings") for _ in range(api.MOST)]
    assert ann.get("/api/instruments/kitchen-scale/readings").status_code == 429
    for one in open_ones:
        one.close()
    again = ann.get("/api/instruments/kitchen-scale/readings")
    assert again.status_code == 200
    again.close()


@pytest.mark.django_db
def test_nobody_reads_without_an_account(client, kitchen):
    for path in ("instruments", "instruments/kitchen-scale/readings"):
        assert client.get(f"/api/{path}").status_code == 401


def test_the_reader_opens_tcp_addresses(kitchen):
    port = kitchen.served["kitchen-scale"].port
    opened = reader.opened(f"socket://127.0.0.1:{port}")
    assert opened.read(1) in (b"#", b"R")  # what came before it was open is thrown away
    opened.close()


def test_instruments_are_told_by_name_address_unit_and_step():
    told = _instruments("scale, socket://127.0.0.1:4710, g, 0.1;old one,/dev/ttyUSB0,g,1;")
    assert told == {"scale": ("socket://127.0.0.1:4710", "g", 0.1), "old one": ("/dev/ttyUSB0", "g", 1.0)}
    for wrong in ("scale", "scale,x,g,much", "a,b,c,1,2"):
        with pytest.raises(ImproperlyConfigured, match="is not “name, address, unit, step”"):
            _instruments(wrong)
    assert set(_instruments(SIMULATED)) == set(KINDS)
