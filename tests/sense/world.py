"""What the laws are tried on: every construction in ordinary and random sizes, every kind of line and case, and the
answers of the product with typical values."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from fletcher.core.document.airframe import (
    Airframe,
    BarLayer,
    CordLayer,
    CutLayer,
    FilmLayer,
    Layer,
    Part,
    StripLayer,
    WallLayer,
)
from fletcher.core.document.cases import Case
from fletcher.core.document.defaults import SUITS, default_case
from fletcher.core.estimate.analyse import Analysis, under_all
from fletcher.core.estimate.phrasing import failure_sentence
from fletcher.core.estimate.prepare import Prepared, prepared_for
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import samples
from fletcher.core.studies.constructions import CONSTRUCTIONS, Size
from fletcher.core.validation.airframe import check_part

Rng = np.random.Generator


@dataclass(frozen=True)
class Violation:
    """A law that an answer broke: how badly (1 is just), in a sentence, and the documents with their answers."""

    law: str
    badly: float
    says: str
    document: str


@dataclass(frozen=True)
class Answer:
    """What the product says of a part in one case, typical values."""

    analysis: Analysis
    breaks_at: float
    first: float
    changes: tuple[tuple[str, float, bool], ...]
    mode: str
    bend_mm: float
    twist_deg: float

    def __str__(self) -> str:
        changed = ", ".join(f"{kind} {at:.3g}{' stays' if stays else ''}" for kind, at, stays in self.changes)
        return f"breaks at {self.breaks_at:.4g} ({self.mode}; first {self.first:.4g}); changes: {changed or 'none'}"


def answer(a: Analysis) -> Answer:
    """The answer of an analysis."""
    j = a.judged
    return Answer(
        a,
        float(j.breaks[0]),
        float(j.first.at[0]),
        tuple((c.mode.kind, float(c.at[0]), c.stays) for c in j.changes),
        failure_sentence(j.final.mode, a.prepared.elements),
        float(np.max(np.abs(a.deflection[0]))),
        float(np.degrees(np.max(np.abs(a.twist[0])))),
    )


def lever(a: Analysis, kind: str, line: int | None, where: str, k: int) -> float:
    """Distance from the neutral axis of what fails, mm: of a line of the lay-up or of the foam's edge."""
    p, swings = a.prepared, a.loading.read == "swing"
    g = p.geometry
    at = float(a.acting.edge_x[0, k]) if swings else float(p.sums.whole_z[0, k])
    if line is None or kind == "notch":
        ends = (0.0, float(g.chord[k])) if swings else (float(g.z_low[k]), float(g.z_high[k]))
        return abs(ends[1 if where in ("upper", "rear") else 0] - at)
    places = [float((g.bar_x if swings else g.bar_z)[i, k]) for i, b in enumerate(p.elements.bars) if b.line == line]
    for i, m in enumerate(p.elements.membranes):
        if m.line == line and (m.face == where or swings) and g.skin_on[i, k]:
            places += [float(v[i, k]) for v in ((g.skin_front, g.skin_rear) if swings else (g.skin_low, g.skin_high))]
    return max((abs(v - at) for v in places), default=0.0)


def possible(part: Part) -> bool:
    return not check_part(part, reference())


def answers(airframe: Airframe, part: Part) -> list[Answer]:
    """What a part does in each of its cases."""
    with samples(0):
        p = prepared_for(part, airframe.setting)
        return [answer(a) for a in under_all(p, airframe, part, list(part.cases))]


def stiffness(p: Prepared, places: np.ndarray) -> dict[str, np.ndarray]:
    """EI, EA and GJ at places along a part, N·mm² and N. GA_s is no such stiffness: it belongs to the flow that the
    section forces, and the deflection is what it must not raise."""

    def at(values: np.ndarray) -> np.ndarray:
        return np.interp(places, p.geometry.inside, values)

    return {
        "EI": at(p.sums.whole_EI[0]),
        "EA": at(p.sums.whole_EA[0]),
        "GJ": at(p.fields.torsion[0]),
    }


def document(airframe: Airframe, part: Part) -> str:
    """The airframe with this part alone, as a file."""
    return json.dumps(airframe.model_copy(update={"parts": (part,)}).model_dump(mode="json"), separators=(",", ":"))


def sized(rng: Rng | None, key: str) -> tuple[Airframe, Part]:
    """A construction at its usual size, or at a random one, with one load case of every kind that suits it."""
    way = CONSTRUCTIONS[key]
    size, mass, speed = way.size, way.all_up_mass_g, way.top_speed_m_s
    if rng is not None:
        k, wide, thick = (float(rng.uniform(*r)) for r in ((0.6, 1.6), (0.7, 1.4), (0.7, 1.4)))
        values = {n: getattr(size, n) for n in type(size).model_fields}
        values["span_mm"] *= k
        for n in ("root_chord_mm", "tip_chord_mm"):
            values[n] *= k * wide
        for n in ("root_thickness_mm", "tip_thickness_mm"):
            values[n] *= thick if way.foam in ("xps_sheet_3", "xps_sheet_6") else k * thick
        size = Size(**{n: round(max(v, 5.0 if "chord" in n else 0.5), 2) for n, v in values.items()})
        mass, speed = round(mass * k**2), round(speed * k**0.5, 1)
    part = way.part(size, mass, speed)
    airframe = Airframe(name="Sense", all_up_mass_g=mass, top_speed_m_s=speed, parts=(part,))
    return airframe, part


def with_cases(airframe: Airframe, part: Part, kinds: tuple[str, ...] | None = None) -> Part:
    """The part with one default case of every kind that suits it (at most twelve)."""
    bare = part.model_copy(update={"cases": part.cases[:1]})
    found: list[Case] = []
    for kind in (kinds or SUITS[part.kind])[:12]:
        if kind == "deflected" and part.kind != "surface":
            continue
        found.append(default_case(kind, airframe, bare.model_copy(update={"cases": tuple(found) or bare.cases})))
    return part.model_copy(update={"cases": tuple(found)})


SKINS = ("bopp_tape_std", "filament_tape_uni", "lamfilm_38", "lamfilm_75", "coverfilm_lowtemp_po", "kraft_pva",
"glass_49",          "carbon_93", "alu_foil_tape", "cloth_tape", "tissue_varnish", "guard_pet_0.25",
"coat_epoxy_thin")  # fmt: skip
PAINTS = ("paint_spray", "primer_spray", "paint_acrylic_brush")
BARS = ("carbon_rod_2", "carbon_rod_3", "carbon_tube_4_3", "carbon_tube_6_4", "carbon_strip_5x1", "glass_rod_3",
        "bamboo_skewer_3", "spruce_3x5", "balsa_5x5", "music_wire_1.5")  # fmt: skip
LINES = ("tape", "strip", "film", "paint", "cloth", "pair", "bar", "web", "wall", "cord", "wrap", "short strip")
"""Every kind of line that can be put on."""


@lru_cache(maxsize=1)
def cord_keys() -> tuple[str, ...]:
    return tuple(reference().cords)


def line(rng: Rng, kind: str, part: Part) -> Layer:
    """A random line of a kind for a part."""
    at = float(rng.uniform(22, 45))
    skin = str(rng.choice(SKINS))
    face = str(rng.choice(["upper", "lower", "both"]))
    chord, thick = min(part.root_chord_mm, part.tip_chord_mm), min(part.root_thickness_mm, part.tip_thickness_mm)
    wide = round(float(rng.uniform(0.1, 0.5)) * chord, 1)
    name = {"id": "put-on", "name": f"Put on: {kind}"}
    if kind == "tape":
        return StripLayer(**name, skin="filament_tape_uni", face=face, width_mm=max(wide / 2, 1), root_percent=at,
                          tip_percent=at, shrink_percent=0)  # fmt: skip
    if kind in ("strip", "short strip"):
        end = None if kind == "strip" else round(float(rng.uniform(0.3, 0.8)) * part.span_mm, 1)
        return StripLayer(**name, skin=skin, face=face, width_mm=max(wide, 1), root_percent=at, tip_percent=at,
                          end_mm=end, shrink_percent=0)  # fmt: skip
    if kind == "film":
        return FilmLayer(**name, skin=str(rng.choice(SKINS)), face=face, shrink_percent=0)
    if kind == "paint":
        return FilmLayer(**name, skin=str(rng.choice(PAINTS)), face="both", shrink_percent=0)
    if kind == "cloth":
        return FilmLayer(**name, skin=str(rng.choice(["glass_25", "glass_80", "carbon_160", "aramid_60"])), face="both",
                         shrink_percent=0)  # fmt: skip
    if kind == "wrap":
        return FilmLayer(**name, skin=skin, face="wrapped", shrink_percent=0)
    if kind in ("pair", "bar"):
        stock = str(rng.choice(BARS))
        size = reference().bars[stock].size(False)[1]
        cover = round(float(rng.uniform(0, 0.15)) * thick, 1)
        place = (
            "pair"
            if kind == "pair" and thick > 2 * size + 2 * cover + 2
            else str(rng.choice(["upper", "lower", "middle"]))
        )
        return BarLayer(**name, stock=stock, place=place, cover_mm=0 if place == "middle" else cover,
                        root_percent=round(at + 10), tip_percent=round(at + 10))  # fmt: skip
    if kind == "web":
        return WallLayer(**name, sheet="balsa_medium_2", face="web", grain="across", root_percent=at, tip_percent=at)
    if kind == "wall":
        return WallLayer(
            **name, sheet=str(rng.choice(["balsa_light_1.5", "birchply_0.8", "foamboard_light_3"])), face="both"
        )
    return CordLayer(**name, cord=str(rng.choice(cord_keys())), face=str(rng.choice(["front", "rear", "both"])))


def put_on(part: Part, layer: Layer) -> Part:
    return part.model_copy(update={"layers": (*part.layers, layer)})


def cut(rng: Rng, part: Part) -> CutLayer:
    """A random pocket or hole."""
    start = round(float(rng.uniform(0.1, 0.6)) * part.span_mm, 1)
    end = round(min(start + float(rng.uniform(15, 60)), 0.95 * part.span_mm), 1)
    thick = min(part.root_thickness_mm, part.tip_thickness_mm)
    return CutLayer(
        id="cut", face=str(rng.choice(["upper", "lower"])), start_mm=start, end_mm=end,
        width_mm=round(float(rng.uniform(0.1, 0.3)) * min(part.root_chord_mm, part.tip_chord_mm), 1),
        root_percent=float(rng.uniform(45, 65)), tip_percent=55.0,
        depth_mm=0.0 if part.foam is None else round(float(rng.uniform(0.1, 0.5)) * thick, 1),
    )  # fmt: skip
