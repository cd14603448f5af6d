"""Whether joints and hinges can be made: what they name exists and fits, and the glue does not eat the foam."""

from __future__ import annotations

import difflib
from collections.abc import Iterable, Iterator

import numpy as np

from fletcher.core.adhesion.adhesives import adhesives, foam_families, on_foams
from fletcher.core.adhesion.curing import techniques
from fletcher.core.common.quantities import G3, G, in_mm, number
from fletcher.core.document.airframe import BarLayer, FilmLayer, HingeLayer, JointLayer, Part, StripLayer, WallLayer
from fletcher.core.document.joint import AcrossJoint, BondJoint, LapJoint, PlateJoint, WallJoint
from fletcher.core.document.problems import Problem
from fletcher.core.joints.hinges import hinges
from fletcher.core.materials.materials import Catalogue
from fletcher.core.section.assembly import line_span, outline_of, stock_keys
from fletcher.core.section.outline import faces

_FAMILIES = {"bolt": ("bolt", "blind_nut"), "band": ("band",)}


def _unknown(key: str, known: Iterable[str], path: str, what: str) -> Problem:
    near = difflib.get_close_matches(key, list(known), n=1)
    hint = f"; did you mean {near[0]!r}?" if near else ""
    return Problem(path=path, message=f"is not {what}{hint}", value=repr(key))


def hinge_fits(layer: HingeLayer, part: Part, path: str) -> Iterator[Problem]:
    """A hinge of a known method, on a control surface."""
    if layer.method not in hinges():
        yield _unknown(layer.method, hinges(), f"{path}.method", "a hinge type")
    if part.kind != "surface":
        yield Problem(path=f"{path}.type", message="is only for control surfaces: add it to the surface, not "
                                                   "to the wing",
                      value=part.kind)  # fmt: skip


def joint_fits(layer: JointLayer, part: Part, catalogue: Catalogue, path: str) -> Iterator[Problem]:
    """Problems of one joint by itself; a cut core is needed for all but lap and bolts."""
    j, here = layer.joint, f"{path}.joint"
    if layer.end_mm is not None:
        yield Problem(path=f"{path}.end_mm", message="joints have their own length: leave this empty",
                      value=f"{layer.end_mm:g}")  # fmt: skip
    if layer.start_mm > part.span_mm - 1:
        message = f"lies beyond the end of the part: at most {in_mm(part.span_mm - 1, G)}"
        yield Problem(path=f"{path}.start_mm", message=message, value=f"{layer.start_mm:g}")
    if part.foam is None and isinstance(j, AcrossJoint | BondJoint):
        yield Problem(path=f"{here}.kind", message="needs a core: a hollow part has seams in its walls, laps, plates, "
                                                   "bolts and bands", value=j.kind)  # fmt: skip
    if isinstance(j, WallJoint):
        yield from _wall(j, layer, part, here)
    unknown = False
    for field, key, tables in stock_keys(layer):
        found = next((getattr(catalogue, t)[key] for t in tables if key in getattr(catalogue, t)), None)
        if found is None:
            unknown = True
            every = [k for t in tables for k in getattr(catalogue, t)]
            yield _unknown(key, every, f"{here}.{field}", f"in the Stockroom’s {' or '.join(tables)}")
        elif field in _FAMILIES and found.family not in _FAMILIES[field]:
            yield Problem(path=f"{here}.{field}", message=f"is not a {field}", value=found.name)
    yield from _glue(layer, part, path)
    if isinstance(j, PlateJoint) and not unknown:
        yield from _plate(j, layer, part, here)
    if unknown or part.foam not in catalogue.foams:
        return
    if isinstance(j, LapJoint | BondJoint):
        yield from _of(j.of, layer, part, f"{here}.of")
    elif isinstance(j, AcrossJoint):
        yield from _across(j, layer, part, catalogue, here)


def _wall(j: WallJoint, layer: JointLayer, part: Part, path: str) -> Iterator[Problem]:
    """A seam in walls: of a hollow part with walls on both faces, on the part with its straps."""
    walls = {la.face for la in part.layers if isinstance(la, WallLayer) and la.enabled}
    if part.foam is not None or not (walls & {"both", "wrapped"} or {"upper", "lower"} <= walls):
        message = "is for hollow parts with a wall above and below"
        yield Problem(path=f"{path}.kind", message=message, value=j.kind)
    if j.along_mm is not None:
        if j.face not in ("front", "rear"):
            yield Problem(path=f"{path}.face", message="must be front or rear: a joint along the part is at an edge",
                          value=j.face)  # fmt: skip
        if layer.start_mm + j.along_mm > part.span_mm + 1e-6:
            message = f"reaches out of the part: at most {in_mm(part.span_mm - layer.start_mm, G)}"
            yield Problem(path=f"{path}.along_mm", message=message, value=f"{j.along_mm:g}")
        return
    room = min(layer.start_mm, part.span_mm - layer.start_mm)
    for n, strap in enumerate(j.straps):
        if strap.each_side_mm > room:
            message = f"reaches out of the part: at most {in_mm(room, G)}"
            yield Problem(path=f"{path}.straps[{n}].each_side_mm", message=message, value=f"{strap.each_side_mm:g}")


def _glue(layer: JointLayer, part: Part, path: str) -> Iterator[Problem]:
    glue, j = layer.glue, layer.joint
    if glue is None:
        needs = isinstance(j, BondJoint | LapJoint) or (isinstance(j, AcrossJoint) and j.faces != "open")
        needs = needs or (isinstance(j, PlateJoint) and not j.screws) or isinstance(j, WallJoint)
        if needs:
            yield Problem(path=f"{path}.glue", message="choose an adhesive: this joint is glued")
        return
    known = adhesives()
    if glue.adhesive not in known:
        yield _unknown(glue.adhesive, known, f"{path}.glue.adhesive", "an adhesive in the Stockroom")
        return
    ways = techniques(known[glue.adhesive])
    if glue.technique is not None and glue.technique not in ways:
        message = f"cannot be applied that way: choose {', '.join(ways)}"
        yield Problem(path=f"{path}.glue.technique", message=message, value=glue.technique)
    family = foam_families().get(part.foam or "")
    if family is not None and on_foams()[glue.adhesive, family].verdict == "attacks":
        message = f"dissolves or melts this foam: {on_foams()[glue.adhesive, family].reason}"
        yield Problem(path=f"{path}.glue.adhesive", message=message, value=known[glue.adhesive].name)


def _of(key: str, layer: JointLayer, part: Part, path: str) -> Iterator[Problem]:
    line = next((la for la in part.layers if la.id == key), None)
    if not isinstance(line, BarLayer | StripLayer | FilmLayer | WallLayer):
        allowed = [la.id for la in part.layers if isinstance(la, BarLayer | StripLayer | FilmLayer | WallLayer)]
        message = f"must be a spar, tape, skin or wall of this part: {', '.join(allowed) or 'it has none'}"
        yield Problem(path=path, message=message, value=repr(key))
        return
    start, end = line_span(line, part)
    if isinstance(layer.joint, LapJoint):
        half = layer.joint.overlap_mm / 2
        if not start + half <= layer.start_mm <= end - half:
            message = (
                f"must lie on the line with its overlap: between {number(start + half, 'mm', G)} and "
                f"{in_mm(end - half, G)}"
            )
            yield Problem(path=path.replace("joint.of", "start_mm"), message=message, value=f"{layer.start_mm:g}")


def _across(j: AcrossJoint, layer: JointLayer, part: Part, catalogue: Catalogue, path: str) -> Iterator[Problem]:
    if j.faces == "open" and not j.braces and not j.bridges:
        yield Problem(path=f"{path}.faces", message="joins nothing: glue the faces or add a brace",
                      value="open")  # fmt: skip
    at = layer.start_mm
    y = np.array([at])
    share = at / part.span_mm
    chord, thick = (getattr(part, f"root_{n}_mm") * (1 - share) + getattr(part, f"tip_{n}_mm") * share
                    for n in ("chord", "thickness"))  # fmt: skip
    where = np.array([layer.chord_percent / 100])
    low, high = faces(outline_of(part, catalogue), where, np.full_like(y, chord), np.full_like(y, thick))
    deep = float(high[0] - low[0])
    for n, brace in enumerate(j.braces):
        here = f"{path}.braces[{n}]"
        room = part.span_mm - at if at < 1e-6 else min(at, part.span_mm - at)
        if brace.each_side_mm > room:
            yield Problem(path=f"{here}.each_side_mm", message=f"reaches out of the part: at most {in_mm(room, G)}",
                          value=f"{brace.each_side_mm:g}")  # fmt: skip
        bar = catalogue.bars.get(brace.stock)
        if bar is None and brace.deep_mm is None:
            yield Problem(path=f"{here}.deep_mm", message="enter a height: a plate is cut from sheet")
            continue
        tall = bar.size(on_edge=True)[1] if bar is not None else brace.deep_mm or 0.0
        if tall > deep:
            message = f"is {in_mm(tall, G)} high in {in_mm(deep, G3)} of depth {layer.chord_percent:g} % chord"
            yield Problem(path=f"{here}.{'stock' if bar else 'deep_mm'}", message=message, value=brace.stock)
        if brace.glued and layer.glue is None:
            yield Problem(path=f"{here}.glued", message="needs an adhesive: choose one, or let it slide",
                          value="true")  # fmt: skip
    for n, key in enumerate(j.bridges):
        line = next((la for la in part.layers if la.id == key), None)
        if not isinstance(line, StripLayer | FilmLayer | WallLayer):
            message = "must be a tape, skin or wall of this part"
            yield Problem(path=f"{path}.bridges[{n}]", message=message, value=repr(key))
            continue
        start, end = line_span(line, part)
        if not (start < at + 1e-6 and at < end - 1) or (at > 1e-6 and start > at - 1):
            message = (
                f"does not reach over the joint at {in_mm(at, G)}: it runs from "
                f"{number(start, 'mm', G)} to {in_mm(end, G)}"
            )
            yield Problem(path=f"{path}.bridges[{n}]", message=message, value=repr(key))


def _plate(j: PlateJoint, layer: JointLayer, part: Part, path: str) -> Iterator[Problem]:
    if part.foam is None:
        walls = {la.face for la in part.layers if isinstance(la, WallLayer) and la.enabled}
        if not walls & {"both", "wrapped", j.face}:
            yield Problem(path=f"{path}.face", message="has no wall that a plate could sit on", value=j.face)
        if j.keys:
            yield Problem(path=f"{path}.keys", message="need foam under the plate: none in a wall", value=f"{j.keys}")
    elif j.backed is not None:
        yield Problem(path=f"{path}.backed", message="clamps a wall: this part has a core", value=j.backed)
    if j.backed is not None and not j.screws:
        yield Problem(path=f"{path}.backed", message="needs screws that clamp it", value=j.backed)
    if layer.start_mm + j.long_mm > part.span_mm:
        message = f"reaches out of the part: at most {in_mm(part.span_mm - layer.start_mm, G)} from here"
        yield Problem(path=f"{path}.long_mm", message=message, value=f"{j.long_mm:g}")
    chord = min(part.root_chord_mm, part.tip_chord_mm)
    if j.wide_mm > chord:
        yield Problem(path=f"{path}.wide_mm", message=f"is wider than the part: at most {in_mm(chord, G)}",
                      value=f"{j.wide_mm:g}")  # fmt: skip
    if j.keys * 3.2 * j.key_mm**2 > j.long_mm * j.wide_mm:
        most = int(j.long_mm * j.wide_mm / (3.2 * j.key_mm**2))
        yield Problem(path=f"{path}.keys", message=f"leave no plate between them: at most {most} of "
                                                   f"{in_mm(j.key_mm, G)}",
                      value=f"{j.keys}")  # fmt: skip
    if j.load == "rod" and part.kind != "surface":
        message = "a pushrod only acts on a control surface; enter forces for this part"
        yield Problem(path=f"{path}.load", message=message, value=part.kind)
