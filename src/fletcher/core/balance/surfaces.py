"""The lifting surfaces and the body of an airframe document, for its neutral point.

Wings and tails whose roots lie where another's tip does are one surface of several panels; what stands up steeper than
60° is a fin. κ and η by kind are judgement [J].
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from fletcher.core.balance.neutral_point import Body, Surface
from fletcher.core.balance.planform import Panel, planform_of
from fletcher.core.document.airframe import Airframe, Part

UPRIGHT_DEG = 60.0
VEE_DEG = 20.0
"""A tail that rises more steeply stands as a V."""
_NEAR_MM = 40.0
"""A panel begins where another ends if they are not farther apart."""
KAPPA = {"rectangle": 0.88, "folded": 0.90}
"""[J] Section slope over 2π: flat plate, folded board; else 0.95."""
ETA_TAIL = 0.90
"""[J] What wing and fuselage leave of the dynamic pressure at a tail, 0.80–0.97."""
K_NOSE = (1.0, 1.3, 1.8)
FLAT_MM = 12.0
"""A fuselage that is no wider is a flat plate: it turns nothing."""


@dataclass(frozen=True)
class Layout:
    """Surfaces with their names, the largest being the main wing; the body; areas of fins, mm²."""

    surfaces: tuple[Surface, ...]
    names: tuple[str, ...]
    body: Body | None

    @property
    def main(self) -> int:
        """The largest surface."""
        return max(range(len(self.surfaces)), key=lambda i: self.surfaces[i].planform.area_mm2)


def layout_of(airframe: Airframe) -> Layout:
    """What carries, from the parts of a document at their places."""
    flat = [p for p in airframe.parts if p.kind in ("wing", "tail") and abs(p.place.dihedral_deg) < UPRIGHT_DEG]
    halves = [p for p in flat if p.hand in ("both", "right")]
    paired = {(p.kind, round(p.place.x_mm), round(abs(p.place.y_mm))) for p in halves}
    lone = [
        p for p in flat
        if p.hand == "left" and (p.kind, round(p.place.x_mm), round(abs(p.place.y_mm))) not in paired
    ]  # fmt: skip
    if not any(p.kind == "wing" for p in flat):  # a tail alone does not fly
        return Layout((), (), None)
    singles = [p for p in flat if p.hand == "single"]
    chains = _chains(halves + lone)
    chains += [[p] for p in singles]
    surfaces = tuple(_surface(c) for c in chains)
    names = tuple(c[0].name for c in chains)
    body = None
    if surfaces:
        main = max(range(len(surfaces)), key=lambda i: surfaces[i].planform.area_mm2)
        body = _body(airframe, chains[main][0], surfaces, main)
    return Layout(surfaces, names, body)


def _chains(parts: list[Part]) -> list[list[Part]]:
    """Panels that go on from one another, from the middle outwards."""
    chains: list[list[Part]] = []
    for part in sorted(parts, key=lambda p: abs(p.place.y_mm)):
        for chain in chains:
            last = chain[-1]
            end_y = abs(last.place.y_mm) + last.span_mm * math.cos(math.radians(last.place.dihedral_deg))
            end_x = last.place.x_mm + last.tip_setback_mm
            if (
                part.kind == last.kind
                and abs(abs(part.place.y_mm) - end_y) < _NEAR_MM
                and abs(part.place.x_mm - end_x) < _NEAR_MM
            ):
                chain.append(part)
                break
        else:
            chains.append([part])
    return chains


def _surface(chain: list[Part]) -> Surface:
    root = chain[0]
    tail = root.kind == "tail"
    vee = abs(root.place.dihedral_deg) if tail and abs(root.place.dihedral_deg) > VEE_DEG else 0.0
    panels = [
        Panel(
            p.span_mm, p.root_chord_mm, p.tip_chord_mm, p.tip_setback_mm, 0.0 if vee else p.place.dihedral_deg
        )
        for p in chain
    ]  # fmt: skip
    both = root.hand != "single"
    middle = abs(root.place.y_mm) if both else 0.0
    shape = planform_of((root.place.x_mm, middle, root.place.z_mm), panels, middle, both)
    return Surface(shape, KAPPA.get(root.section.shape, 0.95), ETA_TAIL if tail else 1.0, vee)


def _body(airframe: Airframe, wing: Part, surfaces: tuple[Surface, ...], main: int) -> Body | None:
    """Widths of the fuselages ahead of the main wing's root and between it and the tail, as root mean squares."""
    ahead_end, aft_start = wing.place.x_mm, wing.place.x_mm + wing.root_chord_mm
    behind = [s.planform.centre_mm for i, s in enumerate(surfaces) if i != main and s.planform.centre_mm > aft_start]
    aft_end = max(behind, default=aft_start)
    ahead = aft = nose = 0.0
    for p in airframe.parts:
        if p.kind != "fuselage" or max(p.root_chord_mm, p.tip_chord_mm) <= FLAT_MM:
            continue
        ahead += p.count * _squares(p, p.place.x_mm, ahead_end)
        aft += p.count * _squares(p, aft_start, aft_end)
        nose = max(nose, ahead_end - p.place.x_mm)
    if ahead <= 0 and aft <= 0:
        return None
    long = max(aft_end - aft_start, 0.0)
    wide = math.sqrt(ahead / nose) if nose > 0 else 0.0
    return Body(K_NOSE[1], wide, max(nose, 0.0), math.sqrt(aft / long) if long > 0 else 0.0, long)


def _squares(p: Part, start: float, end: float) -> float:
    """∫w² dx of a fuselage between two places, mm³."""
    a, b = max(start, p.place.x_mm), min(end, p.place.x_mm + p.span_mm)
    if b <= a:
        return 0.0
    wide = [p.root_chord_mm + (x - p.place.x_mm) / p.span_mm * (p.tip_chord_mm - p.root_chord_mm) for x in (a, b)]
    return (b - a) * (wide[0] ** 2 + wide[0] * wide[1] + wide[1] ** 2) / 3
