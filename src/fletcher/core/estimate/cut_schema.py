"""A cross-section as it is drawn: places and sizes in mm."""

from __future__ import annotations

from fletcher.core.common.model import Result


class CutSkin(Result):
    """A skin in a cut: its line on the outline and its true thickness."""

    line_id: str
    face: str
    points: list[tuple[float, float]]
    thickness_mm: float
    wall: bool
    """A sheet, drawn at its true thickness about these points; else a skin upon them."""


class CutBar(Result):
    """A bar in a cut."""

    line_id: str
    side: str
    shape: str
    x_mm: float
    z_mm: float
    width_mm: float
    height_mm: float
    bore_mm: float


class CutHole(Result):
    """Foam that is cut away."""

    line_id: str
    points: list[tuple[float, float]]


class CutCord(Result):
    """A cord in the "front" or "rear" edge."""

    line_id: str
    face: str
    x_mm: float
    z_mm: float


class CutThing(Result):
    """Something from stock, drawn as its box."""

    line_id: str
    x_mm: float
    z_mm: float
    width_mm: float
    height_mm: float


class Cut(Result):
    """A cross-section for drawing. Points are x aft of the local leading edge and z, mm."""

    y_mm: float
    chord_mm: float
    thickness_mm: float
    setback_mm: float
    outline: list[tuple[float, float]]
    hollow: bool
    skins: list[CutSkin]
    bars: list[CutBar]
    holes: list[CutHole]
    cords: list[CutCord]
    things: list[CutThing]
