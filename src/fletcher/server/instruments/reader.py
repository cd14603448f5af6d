"""Readings of an instrument as they come, over TCP or a serial port: connects again by itself, never sends faster than
one can look, and says what is wrong instead of a value."""

from __future__ import annotations

import time
from collections import deque
from collections.abc import Callable, Iterator
from typing import Literal, Protocol

import serial
from pydantic import BaseModel

from fletcher.server.instruments.protocol import LONGEST, GarbledError, reading_of

State = Literal["steady", "moving", "overload", "silent", "garbled", "away"]

WAIT_S = 0.15
"""So long is waited for a line at a time."""
SILENT_S, GONE_S = 2.0, 10.0
"""Without a good line for so long it is silent; after so long the connection is made anew."""
STEADY_S, STEADY_STEPS = 0.8, 1.5
"""Steady: for so long within so many steps, and the instrument says so too."""
BACK_OFF_S = (0.5, 1.0, 2.0, 5.0)
EVERY_S = 0.05
"""Values that follow faster are left out."""
MOST_BYTES = 65_536
"""Of a flood only the end is looked at."""


class Port(Protocol):
    """What is needed of an open port."""

    def read(self, size: int = 1) -> bytes:
        """At most so many bytes, within the time-out."""

    def close(self) -> None:
        """Let it go."""


class LiveReading(BaseModel):
    """What an instrument says now; without a value where it says nothing that counts."""

    state: State
    value: float | None = None
    unit: str
    says: str = ""


def opened(url: str) -> Port:
    """The port at an address such as socket://127.0.0.1:4710 or /dev/ttyUSB0."""
    port: Port = serial.serial_for_url(url, timeout=WAIT_S, baudrate=9600)
    return port


def readings(
    url: str, unit: str, step: float, wanted: Callable[[], bool], opening: Callable[[str], Port] = opened,
    clock: Callable[[], float] = time.monotonic, rest: Callable[[float], None] = time.sleep,
) -> Iterator[LiveReading]:  # fmt: skip
    """Readings while they are wanted; a state is told when it changes, a value when it is new."""
    tries = 0
    while wanted():
        try:
            port = opening(url)
        except (OSError, serial.SerialException):
            yield LiveReading(state="away", unit=unit, says="It is not connected. Trying again.")
            pause = BACK_OFF_S[min(tries, len(BACK_OFF_S) - 1)]
            tries += 1
            until = clock() + pause
            while clock() < until and wanted():
                rest(min(WAIT_S, pause))
            continue
        tries = 0
        try:
            yield from _while_open(port, unit, step, wanted, clock)
        except (OSError, serial.SerialException):
            yield LiveReading(state="away", unit=unit, says="The connection broke. Trying again.")
        finally:
            port.close()


def _while_open(
    port: Port, unit: str, step: float, wanted: Callable[[], bool], clock: Callable[[], float]
) -> Iterator[LiveReading]:  # fmt: skip
    rest, heard = b"", clock()
    said: tuple[float, State] = (-1.0, "away")
    lately: deque[tuple[float, float]] = deque()
    while wanted():
        data = port.read(1) + _more(port)
        now = clock()
        *lines, rest = (rest + data)[-MOST_BYTES:].split(b"\n")
        if len(rest) > LONGEST:
            lines, rest = [*lines, rest], b""
        told: LiveReading | None = None
        for line in lines:
            try:
                found = reading_of(line, unit)
            except GarbledError as wrong:
                lately.clear()
                told = LiveReading(state="garbled", unit=unit, says=str(wrong).capitalize() + ".")
                continue
            if found is None:
                continue
            heard = now
            if found.state == "O":
                lately.clear()
                told = LiveReading(state="overload", unit=unit, says="More than it can weigh: take something off.")
                continue
            lately.append((now, found.value))
            told = LiveReading(
                state="steady" if found.state == "S" and _steady(lately, now, step) else "moving",
                value=found.value, unit=unit,
            )  # fmt: skip
        if told is None and now - heard > GONE_S:
            raise OSError("silent")
        if told is None and now - heard > SILENT_S:
            lately.clear()
            told = LiveReading(state="silent", unit=unit, says="It is connected and sends nothing.")
        if told is not None and (now - said[0] >= EVERY_S or told.state != said[1]):
            said = now, told.state
            yield told


def _more(port: Port) -> bytes:
    """What lies ready besides."""
    waiting = getattr(port, "in_waiting", 0)
    return port.read(min(int(waiting), MOST_BYTES)) if waiting else b""


def _steady(lately: deque[tuple[float, float]], now: float, step: float) -> bool:
    """Whether it has stood still for long enough."""
    while len(lately) > 1 and now - lately[1][0] >= STEADY_S:
        lately.popleft()
    values = [v for _, v in lately]
    return now - lately[0][0] >= STEADY_S and max(values) - min(values) <= STEADY_STEPS * step + 1e-9
