"""Simulated instruments: they settle, show steps, drift, are tared and overloaded; and serve whoever is connected."""

import socket
import threading

import pytest

from fletcher.devices.__main__ import main
from fletcher.devices.scenes import PAUSE_S, SCENES, load_at
from fletcher.devices.serving import Bench
from fletcher.devices.simulated import KINDS, Instrument


def scale(name="kitchen-scale"):
    return Instrument(KINDS[name])


def test_a_load_settles_and_is_then_steady():
    one = scale()
    one.lay(50.0, 10.0)
    assert one.shown(10.05)[1] == "M"
    passed = [one._true(10 + t / 100) for t in range(300)]
    assert max(passed) > 50.5  # it swings over
    value, state = one.shown(16.0)
    assert state == "S" and value == pytest.approx(50, abs=0.6)
    assert round(value / 0.1) == pytest.approx(value / 0.1)


def test_tare_takes_what_lies_on_it_as_nothing_where_it_can_be_tared():
    one, warm = scale(), scale("iron-thermometer")
    for it in (one, warm):
        it.lay(50.0, 0.0)
        it.zero(10.0)
    assert one.shown(10.0)[0] == pytest.approx(0, abs=0.5) and warm.shown(10.0)[0] == pytest.approx(50, abs=2)
    one.lay(62.5, 11.0)
    assert one.shown(30.0)[0] == pytest.approx(12.5, abs=0.6)


def test_drift_grows_with_time_and_too_much_is_said():
    one = scale()
    early = [one.shown(10.0)[0] for _ in range(40)]
    late = [one.shown(3610.0)[0] for _ in range(40)]
    assert sum(late) / 40 - sum(early) / 40 == pytest.approx(60 * 0.8 * 0.1, abs=0.1)
    one.lay(3200.0, 0.0)
    assert one.shown(20.0) == (3000, "O")


@pytest.mark.parametrize("name", KINDS)
def test_every_instrument_has_its_scene_within_what_it_can(name):
    scene = SCENES[name]
    assert scene[0][0] == 0 and [s for s, _ in scene] == sorted(s for s, _ in scene)
    kind = KINDS[name]
    assert all(kind.least <= load <= kind.most for _, load in scene)
    start, load = scene[1]
    assert load_at(name, start) == load and load_at(name, start - 0.01) == scene[0][1]
    assert load_at(name, scene[-1][0] + PAUSE_S + start) == load


@pytest.fixture
def bench():
    one, done = Bench(0), threading.Event()
    thread = threading.Thread(target=one.run, args=(lambda: not done.is_set(),), daemon=True)
    thread.start()
    yield one
    done.set()
    thread.join(10)


def lines_of(port, count, order=b""):
    with socket.create_connection(("127.0.0.1", port), timeout=10) as line:
        line.sendall(order)
        heard = line.makefile("rb")
        return [heard.readline().decode() for _ in range(count)]


def test_everybody_who_is_connected_hears_every_line(bench):
    kitchen = bench.served["kitchen-scale"].port
    first = lines_of(kitchen, 3)
    assert first[0] == "# fletcher-instrument 1 kitchen-scale g 0.1 3000\n"
    assert all(line.startswith("R ") and line.split()[3] == "g" for line in first[1:])
    both = [lines_of(bench.served[n].port, 2)[1].split()[3] for n in ("dial-gauge", "iron-thermometer")]
    assert both == ["mm", "°C"]


def test_orders_are_obeyed_and_nonsense_is_not(bench):
    port = bench.served["luggage-scale"].port
    told = lines_of(port, 40, b"NONSENSE\nLAY x\nLAY 1250\n")
    assert [float(t.split()[2]) for t in told[-3:]] == [pytest.approx(1250, abs=15)] * 3
    tared = lines_of(port, 4, b"TARE\n")
    assert float(tared[-1].split()[2]) == pytest.approx(0, abs=15)
    lines_of(port, 2, b"SCENE\n")
    assert bench.served["luggage-scale"].scripted


def test_a_taken_port_is_named(capsys):
    with socket.create_server(("127.0.0.1", 0)) as taken:
        port = taken.getsockname()[1]
        assert main(["--port", str(port)]) == 2
    assert f"port {port}" in capsys.readouterr().err
