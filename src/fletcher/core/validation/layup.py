"""Whether the lines of a lay-up fit into the part and beside one another."""

from __future__ import annotations

import itertools
from collections.abc import Iterator

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.common.quantities import F1, G3, G4, G, from_root, in_mm, number
from fletcher.core.document.airframe import (
    BarLayer,
    CutLayer,
    FilmLayer,
    FittingLayer,
    JointLayer,
    Layer,
    Part,
    StripLayer,
    WallLayer,
)
from fletcher.core.document.joint import BoltedJoint
from fletcher.core.document.problems import Problem
from fletcher.core.document.shapes import RectangleSection
from fletcher.core.materials.materials import Catalogue, Fastener
from fletcher.core.section.assembly import flutes_of, line_span, pocket_size
from fletcher.core.section.elements import Elements, PlacedBar
from fletcher.core.section.outline import faces
from fletcher.core.section.properties import draws_of, geometry_of
from fletcher.core.section.thin_walled import section_network
from fletcher.core.validation.notches import notch_fits


def line_fits(layer: Layer, part: Part, catalogue: Catalogue, path: str) -> Iterator[Problem]:
    """Problems of one line by itself."""
    if isinstance(layer, StripLayer):
        yield from _strip(layer, part, path)
        lost = (layer.plies - 1) * layer.drop_mm
        start, end = line_span(layer, part)
        if lost >= end - start - 1:
            most = (end - start - 1) / max(layer.plies - 1, 1)
            message = f"leaves no length for the last ply: at most {in_mm(most, G4)} a ply"
            yield Problem(path=f"{path}.drop_mm", message=message, value=f"{layer.drop_mm:g}")
    elif isinstance(layer, FilmLayer):
        if layer.tape_width_mm is not None and layer.overlap_mm > 0.5 * layer.tape_width_mm:
            message = f"is more than half of the strips' width: at most {in_mm(layer.tape_width_mm / 2, G)}"
            yield Problem(path=f"{path}.overlap_mm", message=message, value=f"{layer.overlap_mm:g}")
    elif isinstance(layer, BarLayer):
        yield from _joined(layer, part, catalogue, path)
    elif isinstance(layer, WallLayer):
        yield from _wall(layer, part, catalogue, path)
    elif isinstance(layer, CutLayer):
        yield from _cut(layer, part, path)
    elif isinstance(layer, FittingLayer) and layer.pocket and part.foam is not None:
        yield from _inside(layer, *pocket_size(layer, catalogue), part, (path, "stock"))


def _joined(layer: BarLayer, part: Part, catalogue: Catalogue, path: str) -> Iterator[Problem]:
    """Sleeves that fit over or into the bar, splices that overlap and lie on the bar."""
    start, end = line_span(layer, part)
    for n, splice in enumerate(layer.splices):
        if splice.overlap_mm < 1:
            message = f"has no overlap: two lengths that only meet carry nothing; at least {in_mm(1, G)}"
            yield Problem(path=f"{path}.splices[{n}].overlap_mm", message=message, value=f"{splice.overlap_mm:g}")
        if not start + splice.stagger_mm + splice.overlap_mm / 2 <= splice.at_mm <= end - splice.overlap_mm / 2:
            message = f"must be on the spar with its overlap: between {number(start, 'mm', G)} and {in_mm(end, G)}"
            yield Problem(path=f"{path}.splices[{n}].at_mm", message=message, value=f"{splice.at_mm:g}")
        held = layer.sleeve is not None and layer.sleeve.start_mm < splice.at_mm < layer.sleeve.end_mm
        if splice.how == "sleeved" and not held:
            message = "needs a sleeve here: a rod in the bore or a tube over the spar"
            yield Problem(path=f"{path}.splices[{n}].how", message=message, value=splice.how)
    yield from _faced(layer, catalogue, path)
    if layer.in_flute:
        yield from _fluted(layer, part, catalogue, path)
    if layer.joiner and (layer.start_mm > 0 or layer.place == "pair"):
        field, value = ("start_mm", f"{layer.start_mm:g}") if layer.start_mm > 0 else ("place", layer.place)
        message = "a joiner must be a single spar starting at the root (0)"
        yield Problem(path=f"{path}.{field}", message=message, value=value)
    if layer.joiner and part.root.kind != "held":
        message = "the root already has a joiner: choose “Fixed” for the root, or remove the joiner"
        yield Problem(path=f"{path}.joiner", message=message, value=part.root.kind)
    if layer.sleeve is None:
        return
    bar, sleeve = catalogue.bars.get(layer.stock), catalogue.bars.get(layer.sleeve.stock)
    if not start <= layer.sleeve.start_mm < layer.sleeve.end_mm - 1 <= end - 1:
        message = f"must be on the spar, from {number(start, 'mm', G)} to {in_mm(end, G)}, its start before its end"
        value = f"{layer.sleeve.start_mm:g} to {layer.sleeve.end_mm:g}"
        yield Problem(path=f"{path}.sleeve.start_mm", message=message, value=value)
    if bar is None or sleeve is None:
        return
    over = (sleeve.bore_mm or 0) >= (bar.diameter_mm or 1e9)
    within = (bar.bore_mm or 0) >= (sleeve.diameter_mm or 1e9)
    if not (over or within):
        message = f"does not fit over or into {bar.name}: choose a tube with a matching bore, or a rod for its bore"
        yield Problem(path=f"{path}.sleeve.stock", message=message, value=sleeve.name)


def _faced(layer: BarLayer, catalogue: Catalogue, path: str) -> Iterator[Problem]:
    """Facing strips are flat and as wide as what they are bonded to."""
    bar, strip = catalogue.bars.get(layer.stock), catalogue.bars.get(layer.faced_with or "")
    if bar is None or strip is None:
        return
    if bar.shape != "flat" or strip.shape != "flat":
        message = "needs a flat strip on a flat spar"
        yield Problem(path=f"{path}.faced_with", message=message, value=f"{strip.name} on {bar.name}")
        return
    side, wide = bar.size(layer.on_edge)[0], strip.size()[0]
    if abs(wide - side) > 0.25 * side:
        message = f"is {in_mm(wide, G)} wide, the side it is bonded to {in_mm(side, G)}: within a quarter of it"
        yield Problem(path=f"{path}.faced_with", message=message, value=strip.name)


def _wall(layer: WallLayer, part: Part, catalogue: Catalogue, path: str) -> Iterator[Problem]:
    """Walls thicker than the part is deep, and level plates in nothing flat."""
    sheet = catalogue.sheets.get(layer.sheet)
    if sheet is None:
        return
    thick = sheet.thickness_mm.typ * layer.plies
    around = layer.face in ("both", "wrapped") and part.foam is None
    least = min(part.root_thickness_mm, part.tip_thickness_mm)
    need = (2 if around else 1) * thick
    if layer.face != "web" and need >= least:
        message = f"is too thick for this part: {in_mm(need, G3)} of wall in {in_mm(least, G3)} of depth"
        yield Problem(path=f"{path}.sheet", message=message, value=sheet.name)
    if layer.face in ("front", "rear", "sides") and not isinstance(part.section, RectangleSection):
        message = "this section shape has no sides: use a shear web instead"
        yield Problem(path=f"{path}.face", message=message, value=layer.face)
    for end, chord in (("root", part.root_chord_mm), ("tip", part.tip_chord_mm)):
        place = getattr(layer, f"{end}_percent") / 100 * chord
        if layer.face == "web" and not thick / 2 <= place <= chord - thick / 2:
            message = f"puts the web outside the part: keep {in_mm(thick / 2, G3)} from each edge"
            yield Problem(path=f"{path}.{end}_percent", message=message, value=f"{getattr(layer, f'{end}_percent'):g}")


def _cut(layer: CutLayer, part: Part, path: str) -> Iterator[Problem]:
    """Cuts that leave no foam between two edges, or none above and below."""
    if part.foam is not None and max(layer.notch_mm) > 0:
        yield from notch_fits(layer, part, path)
        return
    if layer.width_mm is not None:
        yield from _inside(layer, layer.width_mm, layer.depth_mm, part, (path, "width_mm"))
    elif part.foam is not None and layer.depth_mm > 0:
        message = "a cut-out over the whole face needs a width, or depth 0 to remove only the skins"
        yield Problem(path=f"{path}.width_mm", message=message, value="the whole face")


def _inside(
    layer: CutLayer | FittingLayer, width: float, depth: float, part: Part, field: tuple[str, str]
) -> Iterator[Problem]:
    """A pocket or hole must leave an edge on either side; `field` is the path of the line and what sets the width."""
    path, name = field
    for end, chord in (("root", part.root_chord_mm), ("tip", part.tip_chord_mm)):
        percent = getattr(layer, f"{end}_percent")
        centre = percent / 100 * chord
        outside = centre - width / 2 < -1e-6 or centre + width / 2 > chord + 1e-6
        if layer.face in ("upper", "lower", "inside") and depth > 0 and outside:
            message = f"puts the pocket outside the core at the {end}: keep {in_mm(width / 2, G4)} from each edge"
            yield Problem(path=f"{path}.{end}_percent", message=message, value=f"{percent:g}")
            return
        if layer.face == "through" and (centre - width / 2 <= 0 or centre + width / 2 >= chord):
            most = 2 * min(centre, chord - centre)
            message = f"cuts the edge of the part off at the {end}: at most {in_mm(most, G4)} wide there"
            yield Problem(path=f"{path}.{name}", message=message, value=f"{width:g}")
            return


def _strip(layer: StripLayer, part: Part, path: str) -> Iterator[Problem]:
    start, end = line_span(layer, part)
    for y in (start, end):
        t = y / part.span_mm
        chord = part.root_chord_mm + (part.tip_chord_mm - part.root_chord_mm) * t
        centre = (layer.root_percent + (layer.tip_percent - layer.root_percent) * t) / 100 * chord
        half = layer.width_mm / 2
        if centre - half < -1e-6 or centre + half > chord + 1e-6:
            most = 2 * min(centre, chord - centre)
            if most >= 0.5:
                message = f"reaches over the edge {from_root(y)}: at most {in_mm(most, G4)} wide there, or move it"
                yield Problem(path=f"{path}.width_mm", message=message, value=f"{layer.width_mm:g}")
            else:
                side = "root_percent" if y == start else "tip_percent"
                value = getattr(layer, side)
                yield Problem(
                    path=f"{path}.{side}",
                    message="puts the strip on the edge: move it inwards",
                    value=f"{value:g}",
                )
            return


def bars_fit(elements: Elements, path: str) -> Iterator[Problem]:
    """Bars that stick out of the foam or into one another."""
    ends: dict[int, PlacedBar] = {}
    for i, bar in enumerate(elements.bars):
        here = f"{path}.layers[{bar.line}]"
        if any(e.line == bar.line for e in ends.values()):
            continue
        problem = _bar_fits(elements, bar, here)
        if problem:
            yield problem
            ends[i] = bar
    if ends:
        return
    for i, one in enumerate(elements.bars):
        for other in elements.bars[i + 1 :]:
            a, b = max(one.start, other.start), min(one.end, other.end)
            if a >= b:
                continue
            clash = _clash(elements, one, other, np.linspace(a, b, 41))
            if clash is None:
                continue
            if one.line == other.line:
                message = f"upper and lower spar meet {from_root(clash)}: less cover, a thinner spar, or a single one"
                yield Problem(path=f"{path}.layers[{one.line}].cover_mm", message=message, value=f"{one.cover_mm:g}")
            else:
                message = (
                    f"this spar and item {one.line + 1} of the lay-up are in the same place "
                    f"{from_root(clash)}; move one"
                )
                yield Problem(path=f"{path}.layers[{other.line}].root_percent", message=message)
            return


def _fluted(layer: BarLayer, part: Part, catalogue: Catalogue, path: str) -> Iterator[Problem]:
    """A bar in a flute needs a twin-wall sheet on its face, with flutes along the part and room between its walls."""
    bar = catalogue.bars.get(layer.stock)
    sides = ("upper", "lower") if layer.place == "pair" else (layer.place,)
    if layer.place == "middle" or bar is None:
        yield Problem(path=f"{path}.place", message="must be in the upper or lower face to use a flute")
        return
    for side in sides:
        sheet = flutes_of(part, side, catalogue)
        if sheet is None or sheet.wall_thickness_mm is None:
            yield Problem(path=f"{path}.in_flute", message=f"needs twin-wall sheet on the {side} face")
            continue
        room = sheet.thickness_mm.typ - 2 * sheet.wall_thickness_mm
        height = bar.size(layer.on_edge)[1]
        if height > room + 1e-9:
            message = (
                f"does not go into a flute of {sheet.name}: at most {in_mm(room, G3)} high, not {in_mm(height, G)}"
            )
            yield Problem(path=f"{path}.stock", message=message, value=bar.name)
    across = [la for la in part.layers if isinstance(la, WallLayer) and la.enabled and la.grain == "across"]
    if any(la.face in (*sides, "both", "wrapped") for la in across):
        yield Problem(path=f"{path}.in_flute", message="needs flutes along the part: change the flute direction")


def _clash(elements: Elements, one: PlacedBar, other: PlacedBar, y: Array) -> float | None:
    """The first of the places y at which two bars are in the same place, or between which they cross; None if nowhere.
    Rods touch by their centres' distance, flats by both their sides."""
    (xa, za), (xb, zb) = elements.bar_centre(one, y), elements.bar_centre(other, y)
    (wa, ha), (wb, hb) = one.stock.size(one.on_edge), other.stock.size(other.on_edge)
    aside, above = xa - xb, za - zb
    level = np.abs(above) < (ha + hb) / 2 - 1e-6
    if one.stock.shape != "flat" and other.stock.shape != "flat":
        touch = np.hypot(aside, above) < (wa + wb) / 2 - 1e-6
    else:
        touch = (np.abs(aside) < (wa + wb) / 2 - 1e-6) & level
    touch[1:] |= (aside[1:] * aside[:-1] < 0) & level[1:] & level[:-1]
    return float(y[int(np.argmax(touch))]) if np.any(touch) else None


def _bar_fits(elements: Elements, bar: PlacedBar, path: str) -> Problem | None:
    """A bar must lie within the foam over its whole width, at both its ends (geometry is linear between them)."""
    width, height = bar.stock.size(bar.on_edge)
    for y in (bar.start, bar.end):
        at = np.array([y])
        chord = float(elements.chord(at)[0])
        x, _z = (float(v[0]) for v in elements.bar_centre(bar, at))
        side = "root_percent" if y == bar.start else "tip_percent"
        percent = 100 * (bar.root_fraction if y == bar.start else bar.tip_fraction)
        if x - width / 2 < 0 or x + width / 2 > chord:
            message = f"puts the spar outside the foam {from_root(y)}: keep {in_mm(width / 2, G)} from each edge"
            return Problem(path=f"{path}.{side}", message=message, value=f"{percent:g} %")
        lower, upper = (
            float(v[0])
            for v in faces(elements.outline, np.array([x / chord]), np.array([chord]), elements.thickness(at))
        )
        need = height + bar.cover_mm
        if upper - lower < need - 1e-9:
            if upper - lower < height:
                message = (
                    f"does not fit into the foam {from_root(y)}: it is {in_mm(height, G)} high and the foam there "
                    f"{in_mm(upper - lower, G3)} thick"
                )
                return Problem(path=f"{path}.stock", message=message, value=bar.stock.name)
            message = (
                f"pushes the spar out of the foam {from_root(y)}: at most {in_mm(upper - lower - height, G3)} there"
            )
            return Problem(path=f"{path}.cover_mm", message=message, value=f"{bar.cover_mm:g}")
    return None


def cuts_fit(elements: Elements, path: str) -> Iterator[Problem]:
    """Pockets that cut a bar or come out on the other side."""
    for hole in elements.holes:
        here = f"{path}.layers[{hole.line}]"
        for y in (hole.start, hole.end):
            at = np.array([y])
            front, rear = (e for e in elements.edges(hole, at))
            x = np.linspace(float(front[0]), float(rear[0]), 9)[None, :]
            low, high = elements.faces_at(x, at)
            room = float(np.min(high - low))
            if hole.face in ("upper", "lower", "inside") and hole.depth_mm > room - 0.5:
                most = max(room - 0.5, 0.0)
                message = f"goes through the part {from_root(y)}: at most {in_mm(most, G3)} deep, or cut right through"
                own = isinstance(elements.part.layers[hole.line], CutLayer)
                field = "depth_mm" if own else "stock"
                yield Problem(path=f"{here}.{field}", message=message, value=f"{hole.depth_mm:g}")
                break
        for bar in elements.bars:
            a, b = max(bar.start, hole.start), min(bar.end, hole.end)
            if a >= b:
                continue
            at = np.array([0.5 * (a + b)])
            (x, z), (front, rear) = elements.bar_centre(bar, at), elements.edges(hole, at)
            width, height = bar.stock.size(bar.on_edge)
            low, high = elements.faces_at(x, at)
            deep = {
                "upper": z + height / 2 > high - hole.depth_mm,
                "lower": z - height / 2 < low + hole.depth_mm,
                "inside": np.abs(z - 0.5 * (low + high)) < 0.5 * (hole.depth_mm + height),
            }.get(hole.face, np.array([True]))
            if bool(deep[0]) and float(front[0] - width / 2) < float(x[0]) < float(rear[0] + width / 2):
                message = f"cuts through spar item {bar.line + 1}: move it, make it smaller, or end the spar before it"
                yield Problem(path=f"{here}.root_percent", message=message)
                break


def bolts_fit(elements: Elements, path: str) -> Iterator[Problem]:
    """Bolts whose holes go through a bar."""
    for placed in elements.joints:
        j = placed.joint
        if not isinstance(j, BoltedJoint):
            continue
        layer = elements.part.layers[placed.line]
        assert isinstance(layer, JointLayer)
        size = next((s.size_mm for _, s in placed.stocks if isinstance(s, Fastener)), 0.0)
        for row in (placed.at, placed.at + j.apart_mm)[: j.bolts]:
            y = np.array([min(row, elements.part.span_mm)])
            x = layer.chord_percent / 100 * float(elements.chord(y)[0])
            for bar in elements.bars:
                width = bar.stock.size(bar.on_edge)[0]
                beside = abs(float(elements.bar_centre(bar, y)[0][0]) - x) - 0.5 * (width + size)
                if bar.start <= y[0] <= bar.end and beside < 0:
                    message = (
                        f"drills through the spar of item {bar.line + 1}, {from_root(y[0])}: "
                        "move the bolts "
                        f"by at least {in_mm(-beside, F1)}"
                    )
                    here = f"{path}.layers[{placed.line}].chord_percent"
                    yield Problem(path=here, message=message, value=f"{layer.chord_percent:g} %")
                    return


def hangs_together(elements: Elements, path: str, tied_mm: float = 0.0) -> Iterator[Problem]:
    """A hollow part must be one network of walls, or bars alone. Over less than `tied_mm` pieces that stand apart are
    held to one another by the walls beyond."""
    if not elements.hollow:
        return
    message = _apart(elements, tied_mm)
    if message is not None:
        yield Problem(path=f"{path}.layers", message=message)


_KNOWN: dict[object, str | None] = {}
_KEPT = 512
"""So many answers are kept: a part is checked again for every joint that is tried on it, and these do not matter."""


def _apart(elements: Elements, tied_mm: float) -> str | None:
    """Why a hollow part does not hang together; None where it does."""
    p = elements.part
    key = (elements.membranes, elements.bars, elements.openings, elements.outline, p.span_mm, p.root_chord_mm,
           p.tip_chord_mm, p.root_thickness_mm, p.tip_thickness_mm, p.tip_setback_mm, tied_mm)  # fmt: skip
    if key not in _KNOWN:
        if len(_KNOWN) >= _KEPT:
            _KNOWN.clear()
        _KNOWN[key] = _parted(elements, tied_mm)
    return _KNOWN[key]


def _parted(elements: Elements, tied_mm: float) -> str | None:
    stops = elements.breaks()
    y = np.array([0.5 * (a + b) for a, b in itertools.pairwise(stops)])
    geometry, draws = geometry_of(elements, y, y, np.zeros_like(y)), draws_of(elements)
    for k in range(len(y)):
        bends = any(geometry.skin_on[i, k] and not m.slack for i, m in enumerate(elements.membranes))
        if not bends and not np.any(geometry.bar_on[:, k]):
            return f"nothing carries {from_root(y[k])}: a hollow part needs walls or spars there"
        if stops[k + 1] - stops[k] < tied_mm:
            continue
        net = section_network(elements, draws, geometry, k)
        _, label = net.components()
        pieces = len({int(label[n]) for n in (*net.first, *net.second)})
        if pieces > 1:
            return f"the walls do not hang together {from_root(y[k])}: join them by sides, a web, or at nose and tail"
    return None
