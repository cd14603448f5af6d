"""The stack-up: what lies between the finished outline and the bare core, and what is off if it is left out of account.

Sheeting, films, cap recesses, webs, formers, slots and the cut's kerf all come out of an outline that is given as the
finished one. Offsets are laid off square to the chord line, which is exact where the faces run level.
"""

from __future__ import annotations

from dataclasses import dataclass

from fletcher.core.common.model import Result
from fletcher.core.common.quantities import G2, G, in_mm
from fletcher.core.document.airframe import BarLayer, FilmLayer, Part, StripLayer, WallLayer
from fletcher.core.layup.laminates import skin_of
from fletcher.core.materials.materials import Catalogue
from fletcher.core.materials.plates import lying, plate_of

_CHARS = "it chars and does not melt"
_NO_WIRE = {"PVC": "it gives off hydrogen chloride", "PMI": "it chars and gives off poison", "balsa": "it burns wood"}
"""Why a hot wire never cuts a core, by family."""
KERF_MM = 1.2
"""[J] Width that a hot wire takes away, typical of the 0.8 to 1.6 mm of hobby wires; half of it on either side."""

GLUE_MM = 0.15
"""[J] Thickness of glue under sheeting, typical of 0.05 to 0.3 mm."""


@dataclass(frozen=True)
class Cover:
    """What lies on a core at one end of the part, mm, on each of its faces and edges."""

    upper: float
    lower: float
    front: float
    rear: float


def _present(layer: WallLayer | FilmLayer | StripLayer, part: Part, end: str) -> bool:
    if not layer.enabled:
        return False
    return layer.start_mm <= 0 if end == "root" else layer.end_mm is None or layer.end_mm >= part.span_mm - 1e-6


def skin_thickness(layer: WallLayer | FilmLayer | StripLayer, catalogue: Catalogue) -> float:
    """Thickness of all plies of a skin or sheet with what it lies in, mm."""
    if isinstance(layer, WallLayer):
        return layer.plies * (plate_of(catalogue.sheets[layer.sheet], catalogue, layer.paper, layer.grain).thickness)
    skin = lying(layer.skin, catalogue) if isinstance(layer.skin, str) else skin_of(layer.skin, catalogue)
    return layer.plies * skin.total_thickness_mm


_ON = {
    "upper": ("upper", "both", "wrapped"),
    "lower": ("lower", "both", "wrapped"),
    "front": ("front", "sides", "wrapped"),
    "rear": ("rear", "sides", "wrapped"),
}


def cover_of(part: Part, catalogue: Catalogue, end: str) -> Cover:
    """What lies on the core at the "root" or the "tip"; strips lie in recesses of their own and do not count."""
    lies = dict.fromkeys(_ON, 0.0)
    for layer in part.layers:
        if isinstance(layer, WallLayer | FilmLayer) and _present(layer, part, end):
            glue = GLUE_MM if isinstance(layer, WallLayer) else 0.0
            for side, faces in _ON.items():
                if layer.face in faces:
                    lies[side] += skin_thickness(layer, catalogue) + glue
    return Cover(**lies)


def bare(part: Part, catalogue: Catalogue) -> Part:
    """The core of a part whose outline is the finished one; any other part as it is. A hollow part's walls lie inside
    its outline already."""
    if part.outline == "core" or part.foam is None:
        return part
    changes: dict[str, float] = {}
    ends = {end: cover_of(part, catalogue, end) for end in ("root", "tip")}
    for end, c in ends.items():
        changes[f"{end}_chord_mm"] = getattr(part, f"{end}_chord_mm") - c.front - c.rear
        changes[f"{end}_thickness_mm"] = getattr(part, f"{end}_thickness_mm") - c.upper - c.lower
    changes["tip_setback_mm"] = part.tip_setback_mm + ends["tip"].front - ends["root"].front
    return part.model_copy(update=changes)


class StackRow(Result):
    """One thing of the stack-up at root and tip, mm: how deep it is or how much it takes, and what it means."""

    name: str
    root_mm: float
    tip_mm: float
    says: str


class StackUp(Result):
    """The finished outline, the core within it and everything between, at root and tip. `error_*` is by how much the
    finished part would be too thick and too long in chord if the core were cut to the outline that is given."""

    outline: str
    rows: list[StackRow]
    error_thickness_mm: tuple[float, float]
    error_thickness_percent: tuple[float, float]
    error_chord_mm: tuple[float, float]
    error_says: str


def stack_up(part: Part, catalogue: Catalogue) -> StackUp:
    """The stack-up of a checked part."""
    covers = [cover_of(part, catalogue, end) for end in ("root", "tip")]
    given = [(part.root_chord_mm, part.root_thickness_mm), (part.tip_chord_mm, part.tip_thickness_mm)]
    hollow = part.foam is None
    thick = [c.upper + c.lower for c in covers]
    long = [c.front + c.rear for c in covers]
    inside = hollow or part.outline == "finished"
    done = [
        (c + (0 if inside else w), t + (0 if inside else h)) for (c, t), w, h in zip(given, long, thick, strict=True)
    ]
    core = [(c - w, t - h) for (c, t), w, h in zip(done, long, thick, strict=True)]
    rows: list[StackRow] = []

    def row(name: str, values: list[float], says: str) -> None:
        rows.append(StackRow(name=name, root_mm=round(values[0], 2) + 0.0, tip_mm=round(values[1], 2) + 0.0, says=says))

    row("Finished thickness", [d[1] for d in done], "including all skins, at the thickest point")
    row("Finished chord", [d[0] for d in done], "including all skins")
    for layer in part.layers:
        if isinstance(layer, WallLayer | FilmLayer) and layer.enabled and layer.face not in ("web", "level"):
            glue = " and its glue" if isinstance(layer, WallLayer) else ""
            takes = [
                skin_thickness(layer, catalogue) + (GLUE_MM if glue else 0.0) if _present(layer, part, end) else 0.0
                for end in ("root", "tip")
            ]
            row(_name(layer, catalogue), takes, f"on each side{glue}")
    inner = "Former or rib (outline minus skin)" if hollow else "Core"
    row(f"{inner}: height", [c[1] for c in core], "cut to this size" if hollow else "finished size of the core")
    row(f"{inner}: chord", [c[0] for c in core], "cut to this size" if hollow else "finished size of the core")
    if part.foam is not None and catalogue.foams[part.foam].hot_wire:
        why = f"the wire takes {in_mm(KERF_MM, G)} away"
        row("Hot-wire template: height", [c[1] + KERF_MM for c in core], why)
    elif part.foam is not None:
        family = catalogue.foams[part.foam].family
        row("Template to saw and sand to: height", [c[1] for c in core], f"no hot wire: {_NO_WIRE.get(family, _CHARS)}")
    cap = [0.0, 0.0]
    for layer in part.layers:
        if isinstance(layer, StripLayer) and layer.enabled:
            plies = [layer.plies, 1 if layer.drop_mm > 0 else layer.plies]
            deep = skin_thickness(layer, catalogue) / layer.plies
            takes = [
                deep * n if _present(layer, part, end) else 0.0 for n, end in zip(plies, ("root", "tip"), strict=True)
            ]
            sides = 2 if layer.face == "both" else 1
            cap = [a + sides * b for a, b in zip(cap, takes, strict=True)]
            row(f"Recess for {_name(layer, catalogue)}", takes, "sanded in so that the next layer lies flush")
    for layer in part.layers:
        if isinstance(layer, WallLayer) and layer.enabled and layer.face == "web":
            high = [c[1] - k for c, k in zip(core, cap, strict=True)]
            row(f"Shear web {_name(layer, catalogue)}: height", high, "core height minus upper and lower caps")
        elif isinstance(layer, BarLayer) and layer.enabled and layer.stock in catalogue.bars and not hollow:
            width, height = catalogue.bars[layer.stock].size(layer.on_edge)
            deep = height + layer.cover_mm + 0.1
            row(
                f"Slot for {_name(layer, catalogue)}: depth",
                [deep, deep],
                f"spar, foam cover and {in_mm(0.1, G)} of glue below it",
            )
            row(
                f"Slot for {_name(layer, catalogue)}: width",
                [width + 0.2] * 2,
                f"spar and {in_mm(0.1, G)} of glue on each side",
            )
    error = [h if not hollow else 0.0 for h in thick]
    chord_error = [w if not hollow else 0.0 for w in long]
    share = [100 * e / d[1] for e, d in zip(error, done, strict=True)]
    what = (
        "Walls lie inside the outline: formers cut to the outline instead would make it "
        f"{in_mm(thick[0], G2)} too thick at the root."
        if hollow
        else f"A core cut to the finished outline would come out {in_mm(error[0], G2)} ({share[0]:.1f} %) "
        "too thick at the "
        f"root and {in_mm(error[1], G2)} ({share[1]:.1f} %) at the tip."
    )
    return StackUp(
        outline="inside" if hollow else part.outline,
        rows=rows,
        error_thickness_mm=(error[0], error[1]),
        error_thickness_percent=(share[0], share[1]),
        error_chord_mm=(chord_error[0], chord_error[1]),
        error_says=what,
    )


def _name(layer: WallLayer | FilmLayer | StripLayer | BarLayer, catalogue: Catalogue) -> str:
    if layer.name:
        return layer.name
    if isinstance(layer, WallLayer):
        return catalogue.sheets[layer.sheet].name
    if isinstance(layer, BarLayer):
        return catalogue.bars[layer.stock].name
    return lying(layer.skin, catalogue).name if isinstance(layer.skin, str) else "laminate"
