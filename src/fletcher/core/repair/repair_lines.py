"""The lines that a repair adds across a crack or break, and around a graft."""

from __future__ import annotations

from typing import Any, Literal

from fletcher.core.document.airframe import (
    BarLayer,
    CutLayer,
    FilmLayer,
    JointLayer,
    Layer,
    Part,
    StripLayer,
    WallLayer,
)
from fletcher.core.document.damage import (
    BentMark,
    BreakMark,
    CrackMark,
    CreaseMark,
    CrushMark,
    Mark,
    MissingMark,
    OpenedMark,
)
from fletcher.core.document.joint import AcrossJoint, BondJoint, Brace, Extent, Glued, LapJoint, Strap, WallJoint
from fletcher.core.repair.damage_model import CRACK_MM, CREASED, chord_at
from fletcher.core.section.assembly import line_span

STAGGER = 1.3
"""By so much the reach on one face is longer than on the other, so that ends do not lie on one line."""

LAP_MM = 12.0
"""How far a patch goes past the sides of what it covers."""

TAPE_WIDE_MM = 48.0
"""Width of tape laid across a crack or break."""

FILAMENT_WIDE_MM = 25.0


class Builder:
    """Lines and marks of a part while it is mended."""

    def __init__(self, part: Part, glue: Glued, over_old: bool) -> None:
        self.part, self.glue, self.over_old = part, glue, over_old
        self.layers: list[Layer] = list(part.layers)
        self.joints: list[Layer] = []
        self.damage: list[Mark] = list(part.damage)
        self.mark = ""

    def id(self, what: str) -> str:
        """A free id that tells mark and purpose."""
        taken = {la.id for la in (*self.layers, *self.joints)}
        base = f"mend-{self.mark}-{what}"[:36]
        return base if base not in taken else next(f"{base}-{n}" for n in range(2, 99) if f"{base}-{n}" not in taken)

    def add(self, layer: Layer) -> str:
        """Lay a line over all that is there; joints come last, so that lines keep their places among one another."""
        (self.joints if isinstance(layer, JointLayer) else self.layers).append(layer)
        return layer.id

    def clip(self, start: float, end: float) -> tuple[float, float | None]:
        """A stretch within the part; None for its end."""
        return round(max(start, 0.0), 1), None if end >= self.part.span_mm - 1 else round(end, 1)


def _skins(b: Builder, at: float) -> list[str]:
    """Ids of skins and strips that run over a place."""
    out = []
    for la in b.layers:
        if isinstance(la, FilmLayer | StripLayer | WallLayer) and la.enabled:
            start, end = line_span(la, b.part)
            if start < at < end:
                out.append(la.id)
    return out


def stretch_of(mark: CrackMark | CrushMark | MissingMark, part: Part, at: float) -> tuple[float, float]:
    """What a mark takes of the chord, in per cent, front and rear."""
    if mark.face == "front":
        return 0.0, min(100 * mark.depth_mm / chord_at(part, at), 97.0)
    if mark.face == "rear":
        return max(100 - 100 * mark.depth_mm / chord_at(part, at), 3.0), 100.0
    return mark.from_percent, mark.to_percent


def _faces_of(mark: CrackMark | CrushMark | MissingMark) -> tuple[Literal["upper", "lower"], ...]:
    return (mark.face,) if mark.face == "upper" or mark.face == "lower" else ("upper", "lower")


def _within(part: Part, span: tuple[float, float], stretch: tuple[float, float], lap: float) -> dict[str, float]:
    """Place and width of a strip over a share of the chord and a lap on each side, kept within the part."""
    least = min(chord_at(part, span[0]), chord_at(part, span[1]))
    front = max(stretch[0] / 100 * least - lap, 0.005 * least)
    rear = min(stretch[1] / 100 * least + lap, 0.995 * least)
    middle = round(50 * (front + rear) / least, 2)
    wide = min(rear - front, 2 * min(middle, 100 - middle) / 100 * least)
    return {"root_percent": middle, "tip_percent": middle, "width_mm": round(max(wide - 0.1, 1.0), 1)}


def _patch(
    b: Builder, face: str, span: tuple[float, float], skin: str, stretch: tuple[float, float] | None, name: str
) -> str:
    """A skin over a stretch of the part: over a share of the chord, or the whole face."""
    start, end = b.clip(*span)
    base: dict[str, Any] = {"id": b.id("patch"), "name": name, "skin": skin, "face": face, "start_mm": start,
                            "end_mm": end, "shrink_percent": 0.0}  # fmt: skip
    if stretch is None:
        return b.add(FilmLayer(**base))
    return b.add(StripLayer(**base, **_within(b.part, (start, end or b.part.span_mm), stretch, LAP_MM)))


def _reach(at: float, each: float, n: int) -> tuple[float, float]:
    """The stretch of what lies on the n-th face about a place: ends staggered."""
    long = each * (STAGGER if n else 1.0)
    return at - long, at + long


def _bar_percent(part: Part) -> float:
    """Where the main bar lies, per cent of the chord; a third behind the nose if there is none."""
    bars = [la for la in part.layers if isinstance(la, BarLayer) and la.enabled]
    return bars[0].root_percent if bars else 33.0


def across(
    b: Builder, mark: CrackMark | BreakMark, way: str, over: str, stock: str | None, each: float, count: int
) -> None:  # fmt: skip
    """The seam of a crack or break, the old skins that it cut, and what is laid over it."""
    part, at = b.part, mark.at_mm
    if part.foam is None:
        if walled(part):
            walls(b, mark, over, stock, each, count)
        else:
            _doubled(b, at, each)
        return
    stretch = None if isinstance(mark, BreakMark) else stretch_of(mark, part, at)
    faces = ("upper", "lower") if isinstance(mark, BreakMark) else _faces_of(mark)
    if _skins(b, at) and (isinstance(mark, BreakMark) or mark.skins_torn):
        _cut_skins(b, faces, (at - CRACK_MM / 2, at + CRACK_MM / 2), stretch)
    braces: tuple[Brace, ...] = ()
    laid: list[str] = []
    if over == "pins" and stock:
        braces = (Brace(stock=stock, count=count, each_side_mm=each),)
    elif over == "splints" and stock:
        _splints(b, at, stock, each)
    elif over == "filament" and stock:
        percent = min(_bar_percent(part) + 8.0, 60.0)
        for face in ("upper", "lower"):
            b.add(StripLayer(id=b.id("tape"), name="Fibre tape", skin=stock, face=face, shrink_percent=0.0,
                             width_mm=FILAMENT_WIDE_MM, root_percent=percent, tip_percent=percent))  # fmt: skip
            laid.append(b.layers[-1].id)
    elif over == "tape_wrap" and stock:
        start, end = b.clip(at - each, at + each)
        laid = [b.add(FilmLayer(id=b.id("wrap"), name="Tape around the break", skin=stock, face="wrapped",
                                start_mm=start, end_mm=end, shrink_percent=0.0))]  # fmt: skip
    elif over in ("tape_one", "tape_both", "cloth") and stock:
        laid = _laid(b, mark, over, stock, each, stretch)
    seam = AcrossJoint(
        parted="skins" if isinstance(mark, BreakMark) else "core", faces="scarf" if way == "scarf" else "butt",
        reached="worked_in" if way == "pack" else "over_old" if b.over_old else "mended", braces=braces,
        bridges=tuple(laid), extent=None if isinstance(mark, BreakMark) else _extent(mark),
    )  # fmt: skip
    b.add(JointLayer(id=b.id("seam"), name="Repaired joint", start_mm=at, glue=b.glue, joint=seam))


def walled(part: Part) -> bool:
    """Whether a hollow part has a wall above and one below."""
    on = {la.face for la in part.layers if isinstance(la, WallLayer) and la.enabled}
    return bool(on & {"both", "wrapped"}) or {"upper", "lower"} <= on


STRAP_WIDE_MM = 60.0
"""Widest doubler over a seam in a wall; it covers half of the chord at most."""


def walls(
    b: Builder, mark: CrackMark | BreakMark | CreaseMark | OpenedMark | BentMark, over: str, stock: str | None,
    each: float, count: int,
) -> None:  # fmt: skip
    """A seam in the walls of a hollow part, glued edge to edge under straps; or one along an edge."""
    straps: tuple[Strap, ...] = ()
    at = (mark.start_mm if isinstance(mark, OpenedMark) else mark.at_mm) or 0.0
    if stock is not None and over != "none":
        lies: Literal["outside", "both", "flutes"] = (
            "both" if over.endswith("_both") else "flutes" if over == "flute_rods" else "outside"
        )
        wide = None
        if over.startswith("doubler"):
            wide = round(min(0.5 * chord_at(b.part, at), STRAP_WIDE_MM), 1)
        straps = (Strap(stock=stock, lies=lies, count=count, wide_mm=wide, each_side_mm=max(each, 5.0)),)
    reached: Literal["mended", "over_old"] = "over_old" if b.over_old else "mended"
    if isinstance(mark, OpenedMark):
        long = max(mark.end_mm - mark.start_mm, 1.0)
        joint = WallJoint(face=mark.edge, reached=reached, straps=straps, along_mm=long)
    elif isinstance(mark, CreaseMark):
        joint = WallJoint(face=mark.face, keeps=CREASED, reached=reached, straps=straps)
    else:
        joint = WallJoint(keeps=CREASED if isinstance(mark, BentMark) else 0.0, reached=reached, straps=straps)
    b.add(JointLayer(id=b.id("seam"), name="Repaired joint", start_mm=at, glue=b.glue, joint=joint))


def _doubled(b: Builder, at: float, each: float) -> None:
    """A seam of a hollow part: every wall hands its force through a doubler, on each side over its reach."""
    start, end = b.clip(at - each, at + each)
    for wall in [la for la in b.layers if isinstance(la, WallLayer) and la.enabled]:
        first, last = line_span(wall, b.part)
        if not first + each <= at <= last - each:
            continue
        b.add(wall.model_copy(update={"id": b.id("doubler"), "name": "Doubler", "start_mm": start, "end_mm": end,
                                      "plies": 1, "note": "", "weighed_g_per_m2": None}))  # fmt: skip
        lap = LapJoint(of=wall.id, overlap_mm=each)
        b.add(JointLayer(id=b.id("lap"), name="Joint with doublers", start_mm=at, glue=b.glue, joint=lap))


def _extent(mark: CrackMark) -> Extent:
    edge = mark.face in ("front", "rear")
    spread = (0.0, 100.0) if edge else (mark.from_percent, mark.to_percent)
    return Extent(face=mark.face, from_percent=spread[0], to_percent=spread[1], depth_mm=mark.depth_mm)


def _laid(
    b: Builder, mark: CrackMark | BreakMark, over: str, stock: str, each: float, stretch: tuple[float, float] | None
) -> list[str]:
    faces: tuple[str, ...] = ("lower", "upper")
    if over == "tape_one":
        faces = ("lower",) if isinstance(mark, BreakMark) else _faces_of(mark)[:1]
    name = "Cloth over the break" if over == "cloth" else "Tape over the break"
    if over != "cloth" and stretch is None:  # a band of tape along the bars, where the force is
        chord = chord_at(b.part, mark.at_mm)
        half = min(50 * TAPE_WIDE_MM / chord, 45.0)
        middle = min(max(_bar_percent(b.part), half), 100 - half)
        stretch = (middle - half + 100 * LAP_MM / chord, middle + half - 100 * LAP_MM / chord)
    return [_patch(b, f, _reach(mark.at_mm, each, n), stock, stretch, name) for n, f in enumerate(faces)]


def _splints(b: Builder, at: float, stock: str, each: float) -> None:
    """Flat strips let in flush on both faces, behind the main bar."""
    percent = min(_bar_percent(b.part) + 14.0, 65.0)
    for n, face in enumerate(("lower", "upper")):
        start, end = b.clip(*_reach(at, each, n))
        own = b.add(BarLayer(id=b.id("splint"), name="Splint", stock=stock, place=face, root_percent=percent,
                             tip_percent=percent, start_mm=start, end_mm=end, joined_at_root=False))  # fmt: skip
        b.add(JointLayer(id=b.id("bond"), name="Splint glue", glue=b.glue,
                         joint=BondJoint(of=own, tapered=True)))  # fmt: skip


def _cut_skins(
    b: Builder, faces: tuple[Any, ...], span: tuple[float, float], stretch: tuple[float, float] | None
) -> None:  # fmt: skip
    start, end = max(span[0], 0.0), min(span[1], b.part.span_mm)
    if stretch is None:
        b.add(CutLayer(id=b.id("torn"), name="Torn skin", face="through", width_mm=None, depth_mm=0,
                       start_mm=start, end_mm=end))  # fmt: skip
        return
    place = _within(b.part, (start, end), stretch, 0.0)
    for face in faces:
        b.add(CutLayer(id=b.id("torn"), name="Cut skin", face=face, depth_mm=0, start_mm=start, end_mm=end,
                       corner_radius_mm=5.0, **place))  # fmt: skip


def graft(b: Builder, mark: CrushMark | MissingMark, skin: str | None, lap: float) -> None:
    """A block of the same foam in place of what is gone: a seam at each end, and a skin over it where it had one."""
    part, (start, end) = b.part, (mark.start_mm, mark.end_mm)
    middle = 0.5 * (start + end)
    stretch, faces = stretch_of(mark, part, middle), _faces_of(mark)
    if _skins(b, middle):
        _cut_skins(b, faces, (start, end), stretch)
        if skin is not None:
            for n, face in enumerate(faces):
                more = lap * (STAGGER if n else 1.0)
                _patch(b, face, (start - more, end + more), skin, stretch, "Skin over the foam patch")
    seam = AcrossJoint(parted="core", reached="over_old" if b.over_old else "mended")
    for at in (start, end):
        if 2 < at < part.span_mm - 2:
            b.add(JointLayer(id=b.id("seam"), name="Joint of the foam patch", start_mm=at, glue=b.glue, joint=seam))
