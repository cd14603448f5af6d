"""What an estimate takes for granted: of all of it the three things that matter most for the part and case at hand."""

from __future__ import annotations

from collections.abc import Callable

from fletcher.core.estimate.analyse import Analysis

MOST = 3
"""So many are told with an estimate; docs/assumptions.md has them all."""


def _a_bar_without_its_glue(a: Analysis) -> bool:
    named = {getattr(layer.joint, "of", None) for layer in a.part.layers if layer.type == "joint"}
    return any(layer.enabled and layer.type == "bar" and layer.id not in named for layer in a.part.layers)


_ALL: tuple[tuple[Callable[[Analysis], bool], str], ...] = (
    (
        lambda a: a.prepared.elements.hollow,
        "Walls of hollow parts buckle as flat panels. Spars inside them act on the nearest wall.",
    ),
    (
        lambda a: a.judged.softened is not None,
        "Up to the first change stresses grow in proportion to the load; beyond it sections are followed in curvature.",
    ),
    (
        lambda a: a.loading.held and a.part.root.kind == "held" and a.part.kind in ("wing", "tail"),
        "The root is rigid unless a joiner can tilt in the foam. Spars marked as continuous carry through it.",
    ),
    (
        _a_bar_without_its_glue,
        "Spars are glued along their whole length with a glue that holds as much as the foam; name the glue under a "
        "spar to have its own strength, age and grams.",
    ),
    (
        lambda a: a.loading.read == "swing" and any(e.on_edge for e in a.prepared.elements.bars),
        "Fore and aft, spars follow the section as far as the material around them allows.",
    ),
    (
        lambda a: bool((a.loading.torque != 0).any()),
        "Twist comes from the lift at a quarter of the chord, the section's own pitching moment and the part's weight, "
        "about the line of the shear centres, which may be swept.",
    ),
    (
        lambda a: any(m.strip for m in a.prepared.elements.membranes),
        "Tapes slide at what their adhesive holds for seconds, not for days.",
    ),
    (
        lambda _: True,
        "Material values are estimates with ranges; the ranges are their 5–95 % spread.",
    ),
)


def assumptions_of(a: Analysis) -> list[str]:
    """The assumptions that bear on an analysis, the most telling first, at most three."""
    return [text for bears, text in _ALL if bears(a)][:MOST]
