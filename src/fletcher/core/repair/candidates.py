r"""Every way in which a mark of damage can be mended on this part, sized by what has to be handed over.

A patch reaches so far that it hands over its own strength, L = N/τ, but no further than counts: 4/λ in foam that
yields, 3.6/λ in brittle foam, whose lap has 95 % of its most there (tanh 1.8; see `adhesion.bond_line`). A sister
bar takes up its share over about 1/λ, λ² = k_s/EA, k_s = 2πG/ln(R/r) (shear lag of a fibre, Cox 1952). A full reach
is tried and a shorter one.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from fletcher.core.adhesion.adhesives import (
    SHEET_FACES,
    adhesives,
    between,
    curings,
    foam_families,
    on_foams,
    suits_foam,
    tried_first,
)
from fletcher.core.adhesion.bond_line import YIELDS_OVER, decay
from fletcher.core.document.airframe import BarLayer, FilmLayer, JointLayer, Part, StripLayer, WallLayer
from fletcher.core.document.damage import (
    BarMark,
    BentMark,
    BreakMark,
    CrackMark,
    CreaseMark,
    CrushMark,
    LooseMark,
    Mark,
    MissingMark,
    OpenedMark,
    PeeledMark,
)
from fletcher.core.materials.materials import Bar
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import draw_bar, draw_foam, draw_skin, samples
from fletcher.core.repair.damage_model import questions
from fletcher.core.repair.mark_menu import construction_of
from fletcher.core.repair.recipe import WAYS, Fix, Way
from fletcher.core.repair.repair_lines import walled
from fletcher.core.repair.repair_table import steps_of
from fletcher.core.repair.way_glue import SPLICED

PINS = ("bamboo_skewer_3", "carbon_rod_2")
SPLINTS = ("craftstick_10x2", "carbon_strip_6x1")
TAPES = ("bopp_tape_std", "filament_tape_bi")
FILAMENT = "filament_tape_uni"
CLOTHS = ("glass_49", "glass_105")
SIMPLE = "bamboo_skewer_3"
"""A sister that every field box has."""
SLEEVED_OVER = (5.0, 8.0)
"""Reach of a sleeve on each side over its diameter; at least `LEAST_SLEEVE_MM`."""
LEAST_SLEEVE_MM = 30.0
SLEEVE_GAP_MM = 0.6
"""[J] A sleeve that leaves more room than this all round is not centred by its glue."""
SCARF_SLOPE = {"wood": 10.0, "bamboo": 10.0, "hardwood": 10.0, "balsa": 10.0}
"""Slope of a scarf in a bar, length over thickness; composites need 30."""
WRAP_OVER = 1.5
"""A wrap goes past each end of a split by so many diameters."""
DOUBLED_MM = (25.0, 40.0, 60.0)
"""Reach of doublers and straps on each side of a seam in walls."""
NEW_PAPER = "kraft_pva"
"""What is laid over a crease in paper-faced board."""
GLUES = 12
"""So many adhesives are tried for the seams."""


def glues_for(part: Part, at_hand: Sequence[str] = (), warmth_C: float = 20.0) -> list[str]:
    """Adhesives that do not harm the part's foam, join it to itself and set at this warmth, what is at hand first, then
    the best. Where nothing of that is at hand, those at hand that have to be tried on a scrap come last."""
    family = foam_families().get(part.foam or "")
    pair, attacked = _walls_pair(part)
    fluted = construction_of(part) == "twin_wall"
    found: list[tuple[bool, float, str]] = []
    doubtful: list[tuple[bool, float, str]] = []
    for key in adhesives():
        row = between().get((key, pair))
        hurts = attacked is not None and on_foams()[key, attacked].verdict == "attacks"
        untried = key in at_hand and tried_first(key, part.foam)
        fits = row is not None and row.suits >= 2 and not hurts and (untried or suits_foam(key, part.foam))
        share = (0.0 if row is None else row.suits) if family is None else on_foams()[key, family].efficiency.typ
        if fluted:  # wall on wall, by what is known of this sheet
            face = on_foams()[key, SHEET_FACES["twin_wall"]]
            fits, share = face.verdict in ("good", "ok"), face.efficiency.typ
        if fits and warmth_C >= curings()[key].least_C:
            (doubtful if untried else found).append((key not in at_hand, -share, key))
    sure = [key for _, _, key in sorted(found)[:GLUES]]
    return sure if set(sure) & set(at_hand) else sure + [key for _, _, key in sorted(doubtful)]


def _walls_pair(part: Part) -> tuple[str, str | None]:
    """The pair of materials that a seam of the part joins, and the foam in its walls that a glue must not eat."""
    if part.foam is not None:
        return "foam_foam", None
    keys = [la.sheet for la in part.layers if isinstance(la, WallLayer) and isinstance(la.sheet, str)]
    cores = [reference().sheets[k].core for k in keys]
    family = next((foam_families().get(c) for c in cores if c is not None), None)
    return ("foam_foam" if construction_of(part) == "moulded" else "wood_wood"), family


def skin_reach(part: Part, key: str) -> float:
    """How far a tape or cloth has to reach past a break to hand over what it can, mm."""
    skin = reference().skins[key]
    with samples(0):
        d = draw_skin(skin)
        foam = None if part.foam is None else draw_foam(reference().foams[part.foam])
    strength = float((d.tensile if d.draws_out is None else d.draws_out)[0]) * skin.thickness_mm.typ
    if foam is None:
        return max(25.0, min(strength / 0.5, 60.0))
    holds = float(foam.shear[0]) if d.adhesive_shear is None else min(float(d.adhesive_shear[0]), float(foam.shear[0]))
    brittle = reference().foams[part.foam or ""].brittle
    deep = 0.25 * (part.root_thickness_mm + part.tip_thickness_mm)
    E = 0.5 * (foam.E_tension + foam.E_compression)
    rate = float(decay((d.Et, E * deep), 0.1 + deep / (3 * foam.G))[0])
    return max(25.0, min(strength / holds, (3.6 if brittle else YIELDS_OVER) / rate))


def bar_reach(part: Part, bar: Bar) -> float:
    """Length over which a bar takes up its force from the foam, 1/λ, mm."""
    if part.foam is None:
        return 60.0
    with samples(0):
        G = float(draw_foam(reference().foams[part.foam]).G[0])
        E = float(draw_bar(bar).E[0])
    radius = math.sqrt(bar.area_mm2 / math.pi)
    far = max(0.25 * (part.root_thickness_mm + part.tip_thickness_mm), 1.5 * radius)
    return math.sqrt(E * bar.area_mm2 * math.log(far / radius) / (2 * math.pi * G))


def _round(value: float) -> float:
    return 5.0 * max(round(value / 5), 1)


def _reaches(full: float, part: Part) -> tuple[float, ...]:
    most = 0.45 * part.span_mm
    return tuple(dict.fromkeys(_round(min(v, most)) for v in (full, 0.6 * full)))


def _mine(part: Part) -> list[str]:
    """Skins of the stockroom that are on the part."""
    skins = [la.skin for la in part.layers if isinstance(la, FilmLayer | StripLayer) and isinstance(la.skin, str)]
    return [key for key in dict.fromkeys(skins) if key in reference().skins]


def _across(mark: CrackMark | BreakMark, part: Part, way: Way) -> Iterator[Fix]:
    fix = Fix(mark=mark.id, way=way)
    yield fix
    if way == "scarf" and isinstance(mark, BreakMark):
        overs: tuple[str, ...] = ("cloth",)
    else:
        overs = ("pins", "splints", "tape_one", "tape_both", "tape_wrap", "filament", "cloth")
    if isinstance(mark, CrackMark):
        overs = ("tape_one", "tape_both", "tape_wrap", "cloth") if way == "pack" else ("cloth",)
    for over in overs:
        stocks = {"pins": PINS, "splints": SPLINTS, "filament": (FILAMENT,), "cloth": CLOTHS}.get(over, TAPES)
        for key in stocks:
            base = fix.model_copy(update={"over": over, "stock": key})
            if over == "pins":
                least = 12.0 if reference().foams[part.foam or ""].brittle else 8.0
                deep = max(25.0, least * reference().bars[key].size()[0])
                for each in (_round(deep), _round(2 * deep)):
                    for count in (2, 4):
                        yield base.model_copy(update={"each_side_mm": each, "count": count})
            elif over == "filament":
                yield base
            elif over == "tape_wrap":
                if key == TAPES[0]:
                    yield base.model_copy(update={"each_side_mm": _reaches(skin_reach(part, key), part)[0]})
            elif over == "splints":
                for each in _reaches(max(40.0, min(bar_reach(part, reference().bars[key]), 150.0)), part):
                    yield base.model_copy(update={"each_side_mm": each})
            else:
                for each in _reaches(skin_reach(part, key), part):
                    yield base.model_copy(update={"each_side_mm": each})


def _walls(mark: CreaseMark | OpenedMark | BreakMark | BentMark, part: Part, fix: Fix) -> Iterator[Fix]:
    """Seams in walls: along an edge glued shut, taped over as well; across only under straps."""
    if isinstance(mark, OpenedMark):
        yield fix
        return
    if not walled(part):
        yield from (fix.model_copy(update={"over": "doubler", "each_side_mm": each}) for each in DOUBLED_MM)
        return
    at = mark.at_mm or 0.0
    room = 0.9 * min(at, part.span_mm - at)
    twin = construction_of(part) == "twin_wall"
    outer = (la for la in part.layers if isinstance(la, WallLayer) and la.face not in ("web", "level"))
    sheet = next((la.sheet for la in outer), None)
    papered = isinstance(sheet, str) and reference().sheets[sheet].facing is not None
    for each in (d for d in DOUBLED_MM if d <= room):
        if papered and not isinstance(mark, BreakMark):  # paper carries on one side alone where all is in two
            yield fix.model_copy(update={"over": "paper", "stock": NEW_PAPER, "each_side_mm": each})
        sized = fix.model_copy(update={"each_side_mm": each})
        if isinstance(sheet, str) and not twin:
            yield sized.model_copy(update={"over": "doubler", "stock": sheet})
            yield sized.model_copy(update={"over": "doubler_both", "stock": sheet})
        for stock in SPLINTS:
            for count in (2, 4):
                strips = sized.model_copy(update={"stock": stock, "count": count})
                yield strips.model_copy(update={"over": "straps"})
                if not twin:
                    yield strips.model_copy(update={"over": "straps_both"})
    if twin and isinstance(sheet, str):
        board = reference().sheets[sheet]
        clear = board.thickness_mm.typ - 2 * (board.wall_thickness_mm or 0.0) - 0.2
        rods = [b for b in reference().bars.values() if b.shape == "rod" and b.diameter_mm and b.diameter_mm <= clear]
        for rod in sorted(rods, key=lambda b: -(b.diameter_mm or 0.0))[:2]:
            each = max(40.0, 15 * (rod.diameter_mm or 0.0))
            for count in (4, 8):
                if each <= room:
                    yield fix.model_copy(
                        update={"over": "flute_rods", "stock": rod.key, "each_side_mm": each, "count": count}
                    )


def _stoutest(part: Part, line: BarLayer, at_hand: Sequence[str]) -> list[str]:
    """Of the rods and tubes at hand that go into the part where a bar lay the one that bears the most bending."""
    bars = reference().bars
    room = 0.6 * min(part.root_thickness_mm, part.tip_thickness_mm)
    fits = [bars[k] for k in at_hand if k in bars and bars[k].shape in ("rod", "tube") and max(bars[k].size()) <= room]
    fits = [b for b in fits if b.key != line.stock]
    return [max(fits, key=lambda b: b.E_MPa.typ * b.second_moment_mm4()).key] if fits else []


def _bar(mark: BarMark, part: Part, way: Way, at_hand: Sequence[str] = ()) -> Iterator[Fix]:
    line = next(la for la in part.layers if la.id == mark.of)
    assert isinstance(line, BarLayer)
    stock, bars = reference().bars[line.stock], reference().bars
    fix = Fix(mark=mark.id, way=way)
    if way == "leave":
        yield fix
    elif mark.how == "pulled_out":
        if way == "rebed":
            yield fix
    elif way == "wrap_bar":
        if mark.how == "split":
            yield fix.model_copy(update={"each_side_mm": WRAP_OVER * stock.size()[0]})
    elif way == "replace_bar":
        for key in dict.fromkeys((line.stock, *_solid(stock, bars), *_stoutest(part, line, at_hand))):
            yield fix.model_copy(update={"stock": key})
    elif mark.how == "split":
        return
    elif way in SPLICED and (line.place == "pair" and mark.side == "both") != (way == "sleeve_one"):
        return  # of two bars that broke at one station at most one is spliced there
    elif way in ("sleeve", "sleeve_one") and stock.shape in ("rod", "tube") and stock.diameter_mm:
        for sleeve in _sleeves(stock, bars, at_hand):
            for times in SLEEVED_OVER:
                each = _round(max(times * stock.diameter_mm, LEAST_SLEEVE_MM))
                yield fix.model_copy(update={"stock": sleeve, "each_side_mm": each})
    elif way == "scarf_bar" and stock.shape not in ("rod", "tube"):  # a round bar has no face to scarf
        thick = min(stock.size())
        yield fix.model_copy(update={"each_side_mm": 0.5 * SCARF_SLOPE.get(stock.family, 30.0) * thick})
    elif way == "sister" and part.foam is not None and line.place != "middle":
        own = [line.stock] if not stock.bore_mm else _solid(stock, bars)
        for key in dict.fromkeys((*own, *_stoutest(part, line, at_hand), SIMPLE)):
            reaches = _reaches(max(80.0, bar_reach(part, bars[key])), part)
            for each in reaches if key != SIMPLE else reaches[:1]:
                yield fix.model_copy(update={"stock": key, "each_side_mm": each})


def _sleeves(stock: Bar, bars: dict[str, Bar], at_hand: Sequence[str]) -> list[str]:
    """What joins a broken rod or tube as a sleeve: the thickest rods that go into a tube, the tubes that go over a rod;
    two of them, what is at hand first."""
    room = 2 * SLEEVE_GAP_MM
    if stock.bore_mm:
        fits = [b for b in bars.values() if b.shape == "rod" and b.diameter_mm
                and 0 <= stock.bore_mm - b.diameter_mm <= room]  # fmt: skip
    else:
        fits = [b for b in bars.values() if b.bore_mm and 0 <= b.bore_mm - (stock.diameter_mm or 0.0) <= room]
    fits.sort(key=lambda b: (b.key not in at_hand, -(b.diameter_mm or 0.0) if stock.bore_mm else b.area_mm2))
    return [b.key for b in fits[:2]]


def _solid(stock: Bar, bars: dict[str, Bar]) -> list[str]:
    """The solid rod of a tube's size, if there is one."""
    return [b.key for b in bars.values() if b.shape == "rod" and b.diameter_mm == stock.diameter_mm
            and b.family == stock.family and stock.bore_mm][:1]  # fmt: skip


def _loose(mark: LooseMark, part: Part, way: Way) -> Iterator[Fix]:
    line = next(la for la in part.layers if la.id == mark.of)
    if (way == "reglue_joint") == isinstance(line, JointLayer):
        yield Fix(mark=mark.id, way=way)


def fixes_for(mark: Mark, part: Part, at_hand: Sequence[str] = ()) -> list[Fix]:
    """All fixes of a mark that this part's material takes, not yet tried; the plainest first. Of bars `at_hand` the
    stoutest is tried beside the stock that broke."""
    out: list[Fix] = []
    for way in WAYS[type(mark)]:
        fix = Fix(mark=mark.id, way=way)
        if way == "leave":
            out.append(fix)
        elif isinstance(mark, CreaseMark | OpenedMark) or (part.foam is None and isinstance(mark, BreakMark)):
            if way != "scarf":
                out += _walls(mark, part, fix)
        elif isinstance(mark, BentMark) and way == "strap":
            if part.foam is None and mark.at_mm is not None and walled(part):
                out += _walls(mark, part, fix)
        elif (
            isinstance(mark, BentMark)
            and way == "straighten"
            and any(q.mark.id == mark.id and q.found is None for q in questions(part))
        ):
            continue  # look first whether a bar has cracked in the bend
        elif isinstance(mark, BentMark) and mark.at_mm is not None and way == "straighten" and part.foam is None:
            continue  # a kinked wall is creased: warmth does not mend it
        elif isinstance(mark, CrackMark | BreakMark):
            if way != "reglue" or isinstance(mark, BreakMark) or _opens(mark):
                out += _across(mark, part, way)
        elif isinstance(mark, CrushMark | MissingMark) and way == "graft":
            skins = [k for k in _mine(part) if reference().skins[k].family != "tape"][:1]
            for key in dict.fromkeys((*skins, "bopp_tape_std")):
                out.append(fix.model_copy(update={"stock": key, "each_side_mm": _round(skin_reach(part, key))}))
        elif isinstance(mark, PeeledMark) and way == "reskin":
            out += [fix.model_copy(update={"each_side_mm": each}) for each in (15.0, 25.0)]
        elif isinstance(mark, BarMark):
            out += _bar(mark, part, way, at_hand)
        elif isinstance(mark, LooseMark):
            out += _loose(mark, part, way)
        else:
            out.append(fix)
    return [f for f in out if all(step.suits(part) for step in steps_of(f, mark, part))]


def _opens(mark: CrackMark) -> bool:
    """Whether a crack can be opened to glue the whole of its faces: it runs in from an edge with its skins torn."""
    return mark.skins_torn and mark.face in ("front", "rear")
