"""A repair as data, and the part as it stands once mended: marks taken away, lines added or changed.

What was broken across becomes a joint across the part with its glue, pins and strips; a broken bar gets a sister, a
sleeve, a scarf or a wrap; a graft two seams and a skin. So the analysis that judges every part judges the repair.
Ends of what lies on the two faces are staggered, so that no section loses all of it at once.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from fletcher.core.document.airframe import (
    BarLayer,
    HingeLayer,
    JointLayer,
    Layer,
    Part,
    Sleeve,
    Splice,
)
from fletcher.core.document.cases import Document, Id, Key
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
)
from fletcher.core.document.damage import PeeledMark as Peeled
from fletcher.core.document.joint import BondJoint, Glued, LapJoint
from fletcher.core.materials.tables import reference
from fletcher.core.repair.damage_model import CRACK_MM, parted_bar
from fletcher.core.repair.repair_lines import STAGGER, Builder, across, graft, walls
from fletcher.core.repair.way_glue import bed_glue, crack_glue, skin_glue, splice_glue
from fletcher.core.section.assembly import line_span

Way = Literal[
    "leave", "reglue", "scarf", "pack", "graft", "warm", "fill", "relay", "reskin", "sister", "sleeve", "sleeve_one",
    "scarf_bar", "wrap_bar", "replace_bar", "rebed", "reglue_joint", "hinge_tape", "hinge_cement", "straighten",
    "strap", "close_seam",
]  # fmt: skip

Over = Literal[
    "none", "pins", "splints", "tape_one", "tape_both", "tape_wrap", "filament", "cloth", "doubler", "doubler_both",
    "straps", "straps_both", "flute_rods", "paper",
]  # fmt: skip

WAYS: dict[type, tuple[Way, ...]] = {
    CrackMark: ("pack", "reglue"),
    BreakMark: ("reglue", "scarf"),
    CrushMark: ("warm", "graft", "fill", "leave"),
    MissingMark: ("graft", "fill", "leave"),
    CreaseMark: ("strap",),
    OpenedMark: ("close_seam",),
    Peeled: ("relay", "reskin"),
    BarMark: ("sister", "sleeve", "sleeve_one", "scarf_bar", "wrap_bar", "replace_bar", "rebed", "leave"),
    LooseMark: ("reglue_joint", "hinge_tape", "hinge_cement"),
    BentMark: ("straighten", "strap", "leave"),
}
"""By the kind of mark: how it can be mended at all. A crack runs on and a peeled skin peels on: they are not left."""


REST = "rest"
"""Ends the id of the outer length of a bar that stays in two."""


class Fix(Document):
    """How one mark is mended, and what is laid over or beside it."""

    mark: Id
    way: Way
    over: Over = "none"
    stock: Annotated[Key | None, Field(description="Bar, pin, tape or cloth; of a graft the skin over it")] = None
    each_side_mm: Annotated[float, Field(ge=0, le=2000)] = 0.0
    count: Annotated[int, Field(ge=1, le=8)] = 1

    @property
    def adds(self) -> bool:
        """Whether it takes nothing away: then the part holds no less than it did damaged."""
        return self.way not in _CUTS

    @property
    def seamed(self) -> bool:
        """Whether it takes the glue of the seams."""
        return self.way in _SEAMED or self.over in _GLUED_ON


_CUTS = frozenset({"graft", "scarf", "scarf_bar", "replace_bar", "reskin", "warm", "straighten"})
"""Ways that cut sound material away, or change it, before they mend."""
_SEAMED = frozenset({"reglue", "scarf", "graft", "reglue_joint", "close_seam"})
_GLUED_ON = frozenset({"pins", "splints", "doubler", "doubler_both", "straps", "straps_both", "flute_rods", "paper"})
"""Ways, and what is laid over them, that take the glue of the seams."""


class Recipe(Document):
    """A whole repair: a fix for every mark, and the glue of its seams."""

    fixes: Annotated[tuple[Fix, ...], Field(min_length=1, max_length=24)]
    glue: Key = "pu_foaming_white"
    bed_glue: Annotated[
        Key | None, Field(description="For spars in their slots; null: what suits beside that glue")
    ] = None
    crack_glue: Annotated[Key | None, Field(description="Worked into closed cracks; null: what goes in")] = None
    splice_glue: Annotated[Key | None, Field(description="For spars, length to length; null: what suits")] = None
    over_old: Annotated[bool, Field(description="The faces were glued in haste before: old glue is scraped off")] = (
        False
    )

    def of_beds(self, part: Part) -> str:
        """What bars are glued into the foam of a part with."""
        return self.bed_glue or bed_glue(self.glue, part)

    def of_cracks(self, part: Part) -> str:
        """What is worked into closed cracks."""
        return self.crack_glue or crack_glue(self.glue, part)

    @property
    def of_splices(self) -> str:
        """What lengths of bars are glued together with."""
        return self.splice_glue or splice_glue(self.glue)


def mended(part: Part, recipe: Recipe) -> Part:
    """A checked part with its marks mended as the recipe says; what it leaves stays marked. Not checked: a repair may
    turn out impossible."""
    b = Builder(part, Glued(adhesive=recipe.glue), recipe.over_old)
    beds, cracks = Glued(adhesive=recipe.of_beds(part)), Glued(adhesive=recipe.of_cracks(part))
    for fix in recipe.fixes:
        mark = next((m for m in part.damage if m.id == fix.mark), None)
        if mark is None or fix.way not in WAYS[type(mark)]:
            continue
        b.mark = mark.id
        if fix.way in ("leave", "fill"):
            continue
        b.damage = [m for m in b.damage if m.id != mark.id]
        _mend(b, mark, fix, beds, cracks)
    return part.model_copy(update={"layers": (*b.layers, *b.joints), "damage": tuple(b.damage)})


def _mend(b: Builder, mark: Mark, fix: Fix, beds: Glued, cracks: Glued) -> None:
    if isinstance(mark, BentMark):
        if fix.way == "strap":
            walls(b, mark, fix.over, fix.stock, fix.each_side_mm, fix.count)
    elif isinstance(mark, CrackMark | BreakMark):
        seams = b.glue
        b.glue = cracks if fix.way == "pack" else seams
        across(b, mark, fix.way, fix.over, fix.stock, fix.each_side_mm, fix.count)
        b.glue = seams
    elif isinstance(mark, CreaseMark | OpenedMark):
        walls(b, mark, fix.over, fix.stock, fix.each_side_mm, fix.count)
    elif isinstance(mark, CrushMark) and fix.way == "warm":
        b.damage.append(mark.model_copy(update={"warmed": True}))
    elif isinstance(mark, CrushMark | MissingMark):
        graft(b, mark, fix.stock, fix.each_side_mm)
    elif isinstance(mark, Peeled):
        _skin(b, mark, fix)
    elif isinstance(mark, BarMark):
        _bar(b, mark, fix, beds)
    elif isinstance(mark, LooseMark):
        _loose(b, mark, fix)


def _skin(b: Builder, mark: Peeled, fix: Fix) -> None:
    glue = Glued(adhesive=skin_glue(mark, b.part))
    if fix.way == "relay":
        long = max(mark.end_mm - mark.start_mm, 1.0)
        b.add(JointLayer(id=b.id("bond"), name="Skin glued back down", start_mm=mark.start_mm, glue=glue,
                         joint=BondJoint(of=mark.of, long_mm=long)))  # fmt: skip
        return
    line = next(la for la in b.layers if la.id == mark.of)
    first, last = line_span(line, b.part)
    half = max(fix.each_side_mm, 6.0) / 2
    for at in (mark.start_mm, mark.end_mm):
        if first + half < at < last - half:
            lap = LapJoint(of=mark.of, overlap_mm=2 * half)
            b.add(JointLayer(id=b.id("lap"), name="Overlap of the new skin", start_mm=at, glue=glue, joint=lap))


def _replaced(b: Builder, old: Layer, new: list[Layer]) -> None:
    n = next(i for i, la in enumerate(b.layers) if la.id == old.id)
    b.layers[n : n + 1] = new


def _hurt(b: Builder, mark: BarMark) -> BarLayer:
    """The line of the bars that are hurt: of a pair of which one is hurt that one becomes a line of its own."""
    line = next(la for la in b.layers if la.id == mark.of)
    assert isinstance(line, BarLayer)
    if line.place != "pair" or mark.side == "both":
        return line
    whole, hurt = parted_bar(line, mark.side)
    hurt = hurt.model_copy(update={"id": b.id(mark.side)})
    _replaced(b, line, [whole, hurt])
    return hurt


def _sleeve_one(b: Builder, mark: BarMark, fix: Fix, glue: Glued) -> None:
    """Of two bars broken at one place one is sleeved, the other made anew: not both are joined there."""
    pair = next(la for la in b.layers if la.id == mark.of)
    assert isinstance(pair, BarLayer)
    new, sleeved = parted_bar(pair, "lower")
    sleeved = sleeved.model_copy(update={"id": b.id("lower")})
    _replaced(b, pair, [new, sleeved])
    _bar(b, mark.model_copy(update={"of": sleeved.id, "side": "lower"}), fix.model_copy(update={"way": "sleeve"}), glue)
    other = fix.model_copy(update={"way": "replace_bar", "stock": None})
    _bar(b, mark.model_copy(update={"of": new.id, "side": "upper"}), other, glue)


def _bar(b: Builder, mark: BarMark, fix: Fix, glue: Glued) -> None:
    if fix.way == "sleeve_one":
        _sleeve_one(b, mark, fix, glue)
        return
    line = _hurt(b, mark)
    first, last = line_span(line, b.part)
    long = fix.each_side_mm
    update: dict[str, Any] = {}
    if fix.way == "wrap_bar":
        update["splices"] = (*line.splices, Splice(at_mm=mark.at_mm, overlap_mm=max(2 * long, 1.0), how="wrapped"))
    elif fix.way == "scarf_bar":
        update["splices"] = (*line.splices, Splice(at_mm=mark.at_mm, overlap_mm=max(2 * long, 1.0), how="scarf"))
    elif fix.way == "sleeve":
        start, end = max(first, mark.at_mm - long), min(last - 1, mark.at_mm + long)
        update["sleeve"] = Sleeve(stock=fix.stock or "", start_mm=round(start, 1), end_mm=round(end, 1))
        over = round(2 * min(mark.at_mm - start, end - mark.at_mm), 1)
        spliced = Splice(at_mm=mark.at_mm, overlap_mm=max(over, 1.0), how="sleeved", bound=True)
        update["splices"] = (*line.splices, spliced)
    elif fix.way == "replace_bar" and fix.stock is not None:
        update["stock"] = fix.stock
    if update:
        _replaced(b, line, [line.model_copy(update=update)])
    if b.part.foam is None:  # without a core there is no bed: webs and formers hold it
        return
    if fix.way == "replace_bar":
        b.add(JointLayer(id=b.id("bond"), name="Glue for the new spar", glue=glue, joint=BondJoint(of=line.id)))
    elif fix.way == "rebed":
        b.add(JointLayer(id=b.id("bond"), name="Glued back into its slot", start_mm=mark.at_mm, glue=glue,
                         joint=BondJoint(of=line.id, long_mm=max(last - mark.at_mm, 1.0))))  # fmt: skip
    elif fix.way == "sister":
        _sister(b, line, mark, fix, glue)


def _sister(b: Builder, line: BarLayer, mark: BarMark, fix: Fix, glue: Glued) -> None:
    """The broken bar in two lengths, and one beside it, behind or ahead, with its glue named."""
    first, last = line_span(line, b.part)
    gap = CRACK_MM / 2
    inner = line.model_copy(update={"end_mm": mark.at_mm - gap})
    outer = line.model_copy(update={"id": b.id(REST), "start_mm": mark.at_mm + gap, "joined_at_root": False})
    pieces = [p for p, long in ((inner, mark.at_mm - first), (outer, last - mark.at_mm)) if long > 2]
    stock = fix.stock or line.stock
    bars = reference().bars
    beside = 0.5 * (bars[line.stock].size(line.on_edge)[0] + bars[stock].size(line.on_edge)[0]) + 2.0
    aft = 1.0 if fix.count == 1 else -1.0
    percents = {
        "root_percent": line.root_percent + aft * 100 * beside / b.part.root_chord_mm,
        "tip_percent": line.tip_percent + aft * 100 * beside / b.part.tip_chord_mm,
    }
    _replaced(b, line, [*pieces])
    sides = ("upper", "lower") if line.place == "pair" else (line.place,)
    for n, side in enumerate(sides):
        reach = (fix.each_side_mm, STAGGER * fix.each_side_mm)
        near, far = reach if n == 0 else reach[::-1]
        start, end = b.clip(mark.at_mm - near, mark.at_mm + far)
        own = b.id("sister")
        changes = {"id": own, "name": "Sister spar", "stock": stock, "place": side, "start_mm": start, "end_mm": end,
                   "splices": (), "sleeve": None, "faced_with": None, "weighed_g_per_m": None, "note": "",
                   "joined_at_root": line.joined_at_root and start <= 0, **percents}  # fmt: skip
        b.add(line.model_copy(update=changes))
        b.add(JointLayer(id=b.id("bond"), name="Glue for the sister spar", glue=glue, joint=BondJoint(of=own)))


def _loose(b: Builder, mark: LooseMark, fix: Fix) -> None:
    line = next(la for la in b.layers if la.id == mark.of)
    if isinstance(line, JointLayer):
        if line.glue is not None:
            _replaced(b, line, [line.model_copy(update={"glue": b.glue})])
    elif isinstance(line, HingeLayer):
        taped = line.method if "tape" in line.method else "tape_one_side_bevel"
        method = taped if fix.way == "hinge_tape" else "cement_gap"
        _replaced(b, line, [line.model_copy(update={"method": method})])
