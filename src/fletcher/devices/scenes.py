"""What is laid on the instruments when, over and over: the demo's bench without hands."""

from __future__ import annotations

SCENES: dict[str, tuple[tuple[float, float], ...]] = {
    "kitchen-scale": ((0, 0), (4, 51.8), (16, 0), (20, 52.6), (32, 0), (36, 186.0), (48, 0)),
    "luggage-scale": ((0, 0), (5, 1480), (25, 0)),
    "load-cell": ((0, 0), (3, 4.9), (9, 9.8), (15, 14.7), (21, 0)),
    "dial-gauge": ((0, 0), (3, 1.84), (9, 3.71), (15, 5.62), (21, 0)),
    "iron-thermometer": ((0, 24), (4, 96), (20, 118), (40, 24)),
    "vibration-pickup": ((0, 0), (3, 38.4), (15, 0)),
    "angle-gauge": ((0, 0), (3, 2.4), (12, 4.0), (24, 0)),
}
"""By instrument: seconds from the start of a round, and the load from then on."""
PAUSE_S = 6.0
"""After its last step a round begins anew."""


def load_at(name: str, now: float) -> float:
    """What lies on an instrument at a time."""
    scene = SCENES[name]
    at = now % (scene[-1][0] + PAUSE_S)
    return next(load for start, load in reversed(scene) if start <= at)
