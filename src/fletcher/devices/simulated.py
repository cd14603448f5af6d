"""How an instrument behaves: it settles, drifts, trembles, shows steps, is tared and can be asked too much."""

from __future__ import annotations

import math
import random
from dataclasses import dataclass, field


@dataclass(frozen=True)
class Kind:
    """A kind of instrument: its unit, its step, the most it shows, how it settles (s), trembles (steps) and drifts
    (steps a minute)."""

    name: str
    unit: str
    step: float
    most: float
    least: float
    settles_s: float
    trembles: float
    drifts: float
    tares: bool
    digits: int


KINDS = {
    k.name: k
    for k in (
        Kind("kitchen-scale", "g", 0.1, 3000, -3000, 0.5, 0.4, 0.8, True, 1),
        Kind("luggage-scale", "g", 5, 50_000, 0, 1.2, 0.6, 0.2, True, 0),
        Kind("load-cell", "N", 0.01, 200, -200, 0.15, 1.0, 1.5, True, 2),
        Kind("dial-gauge", "mm", 0.01, 25, 0, 0.1, 0.3, 0.1, True, 2),
        Kind("iron-thermometer", "°C", 0.1, 380, -30, 0.4, 2.0, 0.0, False, 1),
        Kind("vibration-pickup", "Hz", 0.1, 400, 0, 0.8, 1.5, 0.0, False, 1),
        Kind("angle-gauge", "°", 0.05, 90, -90, 0.3, 0.8, 0.2, True, 2),
    )
}


@dataclass
class Instrument:
    """One instrument with what is laid on it: `load` in its unit, `since` when it was laid on (s)."""

    kind: Kind
    load: float = 0.0
    before: float = 0.0
    since: float = 0.0
    tare: float = 0.0
    chance: random.Random = field(default_factory=lambda: random.Random(7))

    def lay(self, load: float, now: float) -> None:
        """Another load from now on."""
        self.before, self.load, self.since = self._true(now), load, now

    def zero(self, now: float) -> None:
        """Take what lies on it as nothing."""
        if self.kind.tares:
            self.tare = self._true(now)

    def _true(self, now: float) -> float:
        """Where the pointer stands, on its way from one load to the next with a little overshoot."""
        t = max(now - self.since, 0.0) / self.kind.settles_s
        left = math.exp(-2.5 * t) * math.cos(4.0 * t)
        return self.load + (self.before - self.load) * left

    def shown(self, now: float) -> tuple[float, str]:
        """What it shows, and whether that is steady (S), still moving (M) or beyond what it can (O)."""
        k = self.kind
        true = self._true(now)
        if not k.least <= true <= k.most:
            return (k.most if true > k.most else k.least), "O"
        moving = abs(true - self.load) > 2 * k.step
        tremble = self.chance.gauss(0.0, k.trembles * k.step / 3)
        value = true - self.tare + tremble + k.drifts * k.step * now / 60
        return round(round(value / k.step) * k.step, k.digits) + 0.0, "M" if moving else "S"
