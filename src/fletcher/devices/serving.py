"""Instruments on loopback: a port each, ten lines a second to everybody who is connected, orders from any of them."""

from __future__ import annotations

import selectors
import socket
import time
from collections.abc import Callable
from dataclasses import dataclass, field

from fletcher.devices.scenes import load_at
from fletcher.devices.simulated import KINDS, Instrument

FIRST_PORT = 4710
EVERY_S = 0.1
_MOST_ORDER = 256


@dataclass
class Served:
    """An instrument at its port, with who is connected and what they have sent so far."""

    instrument: Instrument
    door: socket.socket
    scripted: bool = True
    guests: dict[socket.socket, bytes] = field(default_factory=dict)

    @property
    def port(self) -> int:
        """Where it listens."""
        return int(self.door.getsockname()[1])


class Bench:
    """All instruments; `run` serves them until it is told to stop."""

    def __init__(self, first_port: int = FIRST_PORT, clock: Callable[[], float] = time.monotonic) -> None:
        self.clock, self.began = clock, clock()
        self.served: dict[str, Served] = {}
        for n, kind in enumerate(KINDS.values()):
            door = socket.create_server(("127.0.0.1", first_port + n if first_port else 0))
            door.setblocking(False)
            self.served[kind.name] = Served(Instrument(kind), door)

    def now(self) -> float:
        """Seconds since it began."""
        return self.clock() - self.began

    def run(self, wanted: Callable[[], bool]) -> None:
        """Serve while it is wanted."""
        with selectors.DefaultSelector() as eyes:
            for one in self.served.values():
                eyes.register(one.door, selectors.EVENT_READ, one)
            due = self.clock()
            while wanted():
                for key, _ in eyes.select(max(due - self.clock(), 0.0)):
                    self._hear(eyes, key.data, key.fileobj)  # type: ignore[arg-type]
                if self.clock() >= due:
                    self._tell(eyes)
                    due = max(due + EVERY_S, self.clock())
        self.close()

    def close(self) -> None:
        """Let go of all ports."""
        for one in self.served.values():
            for guest in (*one.guests, one.door):
                guest.close()

    def _hear(self, eyes: selectors.BaseSelector, one: Served, who: socket.socket) -> None:
        if who is one.door:
            guest, _ = one.door.accept()
            guest.setblocking(False)
            one.guests[guest] = b""
            eyes.register(guest, selectors.EVENT_READ, one)
            k = one.instrument.kind
            self._send(eyes, one, guest, f"# fletcher-instrument 1 {k.name} {k.unit} {k.step:g} {k.most:g}\n")
            return
        try:
            data = who.recv(1024)
        except OSError:
            data = b""
        if not data or len(one.guests[who]) > _MOST_ORDER:
            self._part(eyes, one, who)
            return
        *orders, one.guests[who] = (one.guests[who] + data).split(b"\n")
        for order in orders:
            self._obey(one, order.decode("ascii", "replace").split())

    def _obey(self, one: Served, words: list[str]) -> None:
        """TARE takes what lies on it as nothing; LAY lays a load on it by hand; SCENE goes on with the script."""
        if words == ["TARE"]:
            one.instrument.zero(self.now())
        elif words == ["SCENE"]:
            one.scripted = True
        elif len(words) == 2 and words[0] == "LAY" and words[1].replace(".", "", 1).lstrip("-").isdigit():
            one.scripted = False
            one.instrument.lay(float(words[1]), self.now())

    def _tell(self, eyes: selectors.BaseSelector) -> None:
        now = self.now()
        for name, one in self.served.items():
            if one.scripted and one.instrument.load != (load := load_at(name, now)):
                one.instrument.lay(load, now)
            value, state = one.instrument.shown(now)
            k = one.instrument.kind
            line = f"R {1000 * now:.0f} {value:+.{k.digits}f} {k.unit} {state}\n"
            for guest in list(one.guests):
                self._send(eyes, one, guest, line)

    def _send(self, eyes: selectors.BaseSelector, one: Served, guest: socket.socket, line: str) -> None:
        try:
            guest.send(line.encode())
        except OSError:  # gone, or so slow that its buffer is full
            self._part(eyes, one, guest)

    def _part(self, eyes: selectors.BaseSelector, one: Served, guest: socket.socket) -> None:
        eyes.unregister(guest)
        one.guests.pop(guest, None)
        guest.close()
