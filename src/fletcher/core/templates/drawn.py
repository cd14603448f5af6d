"""All templates of an airframe, drawn from the document."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.common.quantities import F0, F1, F2, in_mm
from fletcher.core.document.airframe import Airframe, BarLayer, CutLayer, HingeLayer, Part, StripLayer, WallLayer
from fletcher.core.document.shapes import RectangleSection
from fletcher.core.layup.stackup import KERF_MM, bare
from fletcher.core.making.folding import Piece, pattern_of
from fletcher.core.making.formers import formers_of
from fletcher.core.materials.plates import plate_of
from fletcher.core.materials.tables import reference
from fletcher.core.section.assembly import line_span, outline_of
from fletcher.core.section.outline import faces, polygon
from fletcher.core.templates.geometry import core_split, gauge_height, outwards, root_face
from fletcher.core.templates.plates import plates_of
from fletcher.core.templates.sheets import Sort, Stroke, Template, key_of

_SORTS: dict[str, Sort] = {"cut": "CUT", "score": "SCORE", "crease": "SCORE", "foam_out": "SCORE", "bevel": "SCORE"}
LEAD_MM = 10.0
"""Straight lead-in and lead-out of a wire template."""


def templates_of(airframe: Airframe, kerf_mm: float = KERF_MM) -> list[Template]:
    """All templates of a checked airframe; `kerf_mm` is what its builder's wire takes."""
    out: list[Template] = []
    for part in airframe.parts:
        if part.kind != "plank":
            out += _of_part(part, kerf_mm)
    seen: dict[str, int] = {}
    named = []
    for t in out:
        n = seen[t.key] = seen.get(t.key, 0) + 1
        named.append(t if n == 1 else Template(**{**t.__dict__, "key": f"{t.key}-{n}"}))
    return named


def _of_part(part: Part, kerf_mm: float) -> Iterator[Template]:
    catalogue = reference()
    flat = isinstance(part.section, RectangleSection)
    if part.foam is not None and flat:
        yield _plate(part)
    elif part.foam is not None and part.kind != "fuselage":
        yield from _cores(part, kerf_mm)
    pattern = pattern_of(part, catalogue)
    for piece in (*(pattern.pieces if pattern else ()), *formers_of(part, catalogue)):
        yield _piece(part, piece)
    yield from plates_of(part)
    if part.hand == "both" and part.kind in ("wing", "tail") and part.place.dihedral_deg > 0.5:
        yield _gauge(part)


def _plate(part: Part) -> Template:
    """A plate from above, its hinge lines scored, its spars, strips and cut-outs marked."""

    def at(y: float, percent: float) -> tuple[float, float]:
        share = y / part.span_mm
        chord = part.root_chord_mm + share * (part.tip_chord_mm - part.root_chord_mm)
        return round(y, 2), round(-(share * part.tip_setback_mm + percent / 100 * chord), 2)

    s = part.span_mm
    strokes = [Stroke("CUT", (at(0, 0), at(s, 0), at(s, 100), at(0, 100)), True)]
    strokes.append(Stroke("MARK", (at(0, 25), at(s, 25))))
    for layer in part.layers:
        if not layer.enabled or not isinstance(layer, BarLayer | StripLayer | CutLayer | HingeLayer):
            continue
        start, end = line_span(layer, part)
        root = getattr(layer, "root_percent", 75.0)
        tip = getattr(layer, "tip_percent", root)
        share = [root + (tip - root) * y / s for y in (start, end)]
        line = (at(start, share[0]), at(end, share[1]))
        hinge = isinstance(layer, HingeLayer)
        strokes.append(Stroke("SCORE" if hinge else "MARK", line))
        along = 0.1 + 0.2 * (len(strokes) % 4)  # labels of lines that lie together stand apart
        at_label = tuple(a + along * (b - a) for a, b in zip(*line, strict=True))
        label = layer.name or {"bar": "spar", "cut": "cut-out"}.get(layer.type, layer.type)
        strokes.append(Stroke("TEXT", ((at_label[0], at_label[1] + 0.8),), text=label, size_mm=3.0))
    hand = {"both": "right; turn over for the left", "single": ""}.get(part.hand, part.hand)
    notes = ("Marked across: a quarter of the chord.",)
    return Template(key_of(part.name, "plate"), "plate", part.name, hand, tuple(strokes), _ARROWS, notes)


_ARROWS = (("nose", "up"), ("tip", "right"), ("up", "out"))


def _section(part: Part, end: str) -> tuple[Array, float]:
    """The core's outline at an end, (n, 2), lower left at its nose, and its chord, mm."""
    core = bare(part, reference())
    chord = core.root_chord_mm if end == "root" else core.tip_chord_mm
    thick = core.root_thickness_mm if end == "root" else core.tip_thickness_mm
    return polygon(outline_of(core, reference()), np.array([chord]), np.array([thick]), 81)[0], chord


def _cores(part: Part, kerf_mm: float) -> Iterator[Template]:
    """Root and tip for the hot wire: the core's outline moved outwards by half of the kerf, a number at every tenth of
    the chord, the same at both ends, and where a web parts the core."""
    webs = [la for la in part.layers if la.enabled and isinstance(la, WallLayer) and la.face == "web"]
    outline_kind = outline_of(bare(part, reference()), reference())
    for end in ("root", "tip"):
        outline, chord = _section(part, end)
        core = bare(part, reference())
        thick = core.root_thickness_mm if end == "root" else core.tip_thickness_mm
        wire = outwards(outline, kerf_mm / 2)
        strokes = [Stroke("CUT", tuple((round(float(x), 3), round(float(z), 3)) for x, z in wire), True)]
        strokes.append(Stroke("MARK", ((-LEAD_MM, 0.0), (chord + LEAD_MM, 0.0))))
        for n in range(11):
            x = chord * n / 10
            low, high = faces(outline_kind, np.array([n / 10]), np.array([chord]), np.array([thick]))
            z = float(np.ravel(high)[0]) + kerf_mm / 2
            strokes.append(Stroke("MARK", ((x, z), (x, z + 3))))
            strokes.append(Stroke("TEXT", ((x + 0.6, z + 1),), text=str(n), size_mm=2.6))
        notes = [f"Wire's centre runs on the edge; kerf {in_mm(kerf_mm, F1)} is taken into account."]
        for web in webs:
            at = (web.root_percent if end == "root" else web.tip_percent) / 100
            t = web.plies * plate_of(reference().sheets[web.sheet], reference()).thickness
            front, rear, off = core_split(chord, at, t, kerf_mm)
            low, high = faces(outline_kind, np.array([at]), np.array([chord]), np.array([thick]))
            strokes.append(Stroke("SCORE", ((at * chord, float(low[0])), (at * chord, float(high[0])))))
            sizes = [in_mm(v, F2) for v in (front, rear, off)]
            notes.append(f"Web: front piece {sizes[0]}, rear {sizes[1]}; off each face {sizes[2]}.")
        name = f"wire template, {end}"
        arrows = (("nose", "left"), ("up", "up"), ("tip", "out"))
        yield Template(key_of(part.name, "wire", end), name, part.name, "", tuple(strokes), arrows, tuple(notes))


def _piece(part: Part, piece: Piece) -> Template:
    """A folded board or a former, laid flat."""
    strokes = [Stroke("CUT", tuple(piece.outline), True)]
    for line in piece.lines:
        closed = len(line.points) > 2 and line.points[0] == line.points[-1]
        points = tuple(line.points[:-1] if closed else line.points)
        strokes.append(Stroke(_SORTS.get(line.kind, "MARK"), points, closed))
        if line.kind != "cut":
            strokes.append(Stroke("TEXT", (points[0],), text=line.says[:90], size_mm=2.6))
    notes = tuple(line.says for line in piece.lines if line.kind == "cut")[:3]
    arrows = (("tip", "up"), ("up", "out"))
    return Template(key_of(part.name, piece.name), piece.name, part.name, "", tuple(strokes), arrows, notes)


def _gauge(part: Part) -> Template:
    """The gauge under one half while the other lies flat, at three quarters of the span."""
    outline = outline_of(part, reference())
    under = []
    for chord, thick in ((part.root_chord_mm, part.root_thickness_mm), (part.tip_chord_mm, part.tip_thickness_mm)):
        low, _ = faces(outline, np.linspace(0, 1, 81), np.array([chord]), np.array([thick]))
        under.append(-float(np.min(low)))
    gamma, at = part.place.dihedral_deg, 0.75 * part.span_mm
    high = gauge_height(gamma, part.span_mm, under[0], under[1], at)
    strokes = (Stroke("CUT", ((0.0, 0.0), (60.0, 0.0), (60.0, high), (0.0, high)), True),)
    lean = root_face(gamma, part.root_thickness_mm)
    notes = (
        f"One half flat on its underside; this {in_mm(high, F1)} high, {in_mm(at, F0)} out under the other.",
        f"Root faces lean {in_mm(lean, F1)} over {in_mm(part.root_thickness_mm, F0)}.",
    )
    return Template(key_of(part.name, "dihedral"), "dihedral gauge", part.name, "", strokes, (("up", "up"),), notes)
