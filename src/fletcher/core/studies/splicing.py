"""Where a bar that is longer than stock is joined, tried in the part: what the joint costs in margin and grams.

A place may be joined where the moment at the inner end of the overlap is at most a quarter of the largest along the
part, in every case (elliptic lift where the part has none), two overlaps clear of openings, joints, fittings, the root
and both ends. Where no such place fits stock, anywhere that the glue of the joint carries 1.5 times the force of the
bar. The part is then computed with the joint; the page shows what it leaves.
"""

from __future__ import annotations

import contextlib
import math
from collections import Counter

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.common.model import Result
from fletcher.core.common.quantities import F0, G2, G3, in_g, in_mm
from fletcher.core.document.airframe import Airframe, BarLayer, CutLayer, FittingLayer, JointLayer, Part, Sleeve, Splice
from fletcher.core.estimate.analyse import under_all
from fletcher.core.estimate.prepare import prepared_for
from fletcher.core.materials.materials import Bar
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import SPLICE_SHEAR, samples
from fletcher.core.plan.bar_splices import STEP_MM, SURE, Joined, NowhereToJoin, elliptic_moment, join, least_overlap
from fletcher.core.plan.cut_list import CutWish, cut_list, runs_straight_through, sold_mm
from fletcher.core.section.assembly import line_span
from fletcher.core.studies.what_if import Trial, possible, trial, with_line

LITTLE = 0.25
"""Share of the largest moment up to which a bar may be joined without a look at what the joint carries."""
_FLATTER = 20 / 12
"""A slope that is strained is cut 1 : 20 instead of 1 : 12."""
KEEPS = 0.98
"""Share of the margin that a joint should leave."""
LOOSE_MM = 0.25
"""[J] A sleeve is no thinner than the bore by more than that."""
CLEAR_LAPS = 2.0
"""Overlaps between a joint and whatever else weakens or loads the bar."""
_WOOD = frozenset({"wood", "hardwood", "bamboo"})


class SpliceOffer(Result):
    """A bar joined where it may be: the line with its joints, lengths of stock that all bars of this kind take then,
    what it adds, the margin of the case that leaves least before and after, and the joint's own."""

    part_id: str
    layer_id: str
    layer: BarLayer
    says: str
    lengths: int
    grams: float
    margin_before: float
    margin: float


class Splicing(Result):
    """What is offered for every bar that is longer than stock, and what is said of those that may be joined nowhere."""

    offers: list[SpliceOffer]
    nowhere: list[str]


def splicing(airframe: Airframe, wish: CutWish) -> Splicing:
    """Where the bars of a checked airframe that are longer than stock are joined."""
    offers, nowhere = [], []
    for long in cut_list(airframe, wish).long_bars:
        part = airframe.part(long.part_id)
        layer = next(la for la in part.layers if la.id == long.layer_id) if part else None
        if part is None or not isinstance(layer, BarLayer):
            continue
        try:
            offers.append(splice_offer(airframe, part, layer, wish))
        except NowhereToJoin as none:
            name = layer.name or reference().bars[layer.stock].name
            nowhere.append(
                f"{part.name}, {name}: {none}. It would have to clear openings, fittings and joints by two overlaps: "
                "move one of them, shorten the spar, or take another that comes longer."
            )
    return Splicing(offers=offers, nowhere=nowhere)


def splice_offer(airframe: Airframe, part: Part, layer: BarLayer, wish: CutWish) -> SpliceOffer:
    """Where a bar of a checked part is joined.

    Raises
    ------
    NowhereToJoin
        Where no place does.
    """
    bar, sold = reference().bars[layer.stock], sold_mm(layer.stock)
    before = trial(airframe, part)
    tried, last = [], None
    for how, sleeve in _ways(bar):
        size = bar.diameter_mm or (max if how == "side_by_side" else min)(bar.size())
        first = _rounded(least_overlap(how, size, 0.0, 1.0, 1.0))
        try:
            made, joined = _placed(airframe, part, layer, how, sleeve, first, sold, wish, before.governs.margin)
        except NowhereToJoin as none:
            last = none
            continue
        after = trial(airframe, with_line(part, layer.id, splices=made.splices, sleeve=made.sleeve))
        tried.append((made, joined, after))
        if after.governs.margin >= KEEPS * before.governs.margin:
            break
    if last is not None and not tried:
        raise last
    made, joined, after = max(tried, key=lambda t: min(t[2].governs.margin, KEEPS * before.governs.margin))
    grams = (after.mass_g - before.mass_g) * part.count
    return SpliceOffer(
        part_id=part.id, layer_id=layer.id, layer=made, lengths=joined.lengths, grams=grams,
        margin_before=before.governs.margin, margin=after.governs.margin,
        says=_says(part, layer, made, sold, before, after, grams),
    )  # fmt: skip


def _says(
    part: Part, layer: BarLayer, made: BarLayer, sold: float, before: Trial, after: Trial, grams: float
) -> str:  # fmt: skip
    name = layer.name or reference().bars[layer.stock].name
    joints = [s for s in made.splices if s.how != "wrapped"]
    at = " and ".join(in_mm(s.at_mm, F0) for s in joints)
    s = joints[0]
    how = {"side_by_side": "side by side", "scarf": "on a slope", "sleeved": "end to end in a sleeve"}[s.how]
    lower = f", the lower one {in_mm(s.stagger_mm, F0)} nearer the root" if s.stagger_mm else ""
    margins = [f"{t.governs.margin:{G3}}" for t in (before, after)]
    change = f"holds {margins[1]}\N{NO-BREAK SPACE}×" + (
        "" if margins[0] == margins[1] else f" instead of {margins[0]}\N{NO-BREAK SPACE}×"
    )
    return (
        f"{part.name}, {name}: comes {in_mm(sold, F0)} long. Join it {at} from the root, {how} over "
        f"{in_mm(s.overlap_mm, F0)}{lower}. The part then {change} what it must, and weighs {in_g(grams, G2)} more."
    )


def _ways(bar: Bar) -> list[tuple[str, str | None]]:
    """How two lengths of a bar may be joined: wood on a slope; a tube over a rod or tube that fills its bore, the
    lightest first; else side by side."""
    if bar.family in _WOOD:
        return [("scarf", None)]
    if bar.bore_mm:
        fits = [
            b for b in reference().bars.values()
            if b.diameter_mm and 0 <= bar.bore_mm - b.diameter_mm <= LOOSE_MM and b.family.startswith("carbon")
        ]  # fmt: skip
        fits.sort(key=lambda b: (b.area_mm2 * b.density_kg_m3.typ, b.key))
        return [("sleeved", b.key) for b in fits] or [("side_by_side", None)]
    return [("side_by_side", None)]


def _rounded(mm: float) -> float:
    return STEP_MM * math.ceil(mm / STEP_MM - 1e-6)


def _joined(
    airframe: Airframe, part: Part, layer: BarLayer, how: str, sleeve: str | None, overlap: float, sold: float,
    wish: CutWish, share: float,
) -> tuple[BarLayer, Joined]:  # fmt: skip
    """The line with its joints at the best of the places where the moment is at most a share of its largest."""
    start, end = line_span(layer, part)
    centred = runs_straight_through(layer, part)
    shift = overlap if layer.place == "pair" else 0.0
    sides = 1 if centred or part.hand != "both" else 2
    copies = [less for less in ((0.0, shift) if layer.place == "pair" else (0.0,)) for _ in range(sides)]
    allowed = [y - start for y in _places(airframe, part, layer, overlap, share)]
    found = join(end - start, copies, sold, overlap, allowed, _others(airframe, part, layer, wish), wish.kerf_mm,
                 how=how, centred=centred)  # fmt: skip
    splices = tuple(Splice(at_mm=at + start, overlap_mm=overlap, how=how, stagger_mm=shift) for at in found.at)
    bound = tuple(s for s in layer.splices if s.how == "wrapped")  # a split that is bound stays as it is
    tube = None
    if sleeve is not None:
        at = [s.at_mm for s in splices]
        tube = Sleeve(stock=sleeve, start_mm=at[0] - overlap / 2, end_mm=at[-1] + overlap / 2)
    made = layer.model_copy(update={"splices": (*bound, *splices), "sleeve": tube or layer.sleeve})
    if not possible(with_line(part, layer.id, splices=made.splices, sleeve=made.sleeve)):
        raise NowhereToJoin(end - start, sold)
    return made, found


def _placed(
    airframe: Airframe, part: Part, layer: BarLayer, how: str, sleeve: str | None, overlap: float, sold: float,
    wish: CutWish, before: float,
) -> tuple[BarLayer, Joined]:  # fmt: skip
    """The same where little is bent, else anywhere, with an overlap whose glue carries the bar's force there."""
    with contextlib.suppress(NowhereToJoin):
        return _joined(airframe, part, layer, how, sleeve, overlap, sold, wish, LITTLE)
    made, joined = _joined(airframe, part, layer, how, sleeve, overlap, sold, wish, 1.0)
    tried = trial(airframe, with_line(part, layer.id, splices=made.splices, sleeve=made.sleeve))
    least = min((c.by_kind.get(("bar_splice", layer.id), 1e9) / c.asked for c in tried.cases), default=1e9)
    asked = least / min(1.0, before)  # beyond its break load nothing of the part is asked of a joint
    if how == "scarf":
        needed = overlap * _FLATTER if asked < SURE else overlap
    else:
        wide = 0.25 * reference().bars[layer.stock].perimeter_mm
        force = SPLICE_SHEAR.value.typ * wide * overlap / asked
        needed = _rounded(least_overlap(how, 0.0, force, SPLICE_SHEAR.value.typ, wide))
    if needed <= overlap:
        return made, joined
    return _joined(airframe, part, layer, how, sleeve, _rounded(needed), sold, wish, 1.0)


def _others(airframe: Airframe, part: Part, layer: BarLayer, wish: CutWish) -> dict[float, int]:
    """All other pieces of the same bar, by length and how many."""
    without = with_line(part, layer.id, enabled=False)
    parts = tuple(without if p.id == part.id else p for p in airframe.parts)
    bare = CutWish(kerf_mm=wish.kerf_mm)
    found = cut_list(airframe.model_copy(update={"parts": parts}), bare)
    return Counter(round(p.mm, 1) for b in found.bars if b.key == layer.stock for c in b.cuts for p in c.pieces)


def _places(airframe: Airframe, part: Part, layer: BarLayer, overlap: float, share: float) -> list[float]:
    """Places along the part at which a bar may be joined, mm."""
    start, end = line_span(layer, part)
    clear = CLEAR_LAPS * overlap
    least = start + (clear if start < 1e-6 else overlap)
    y = np.arange(_rounded(least), end - overlap + 1e-6, STEP_MM)
    inner = np.maximum(y - overlap / 2, 0.0)
    ok = _moment(airframe, part, inner) <= share + 1e-9
    for la in part.layers:
        if la.enabled and isinstance(la, CutLayer | FittingLayer | JointLayer) and not _aside(la, layer, part):
            a, b = line_span(la, part)
            ok &= (y + overlap / 2 + clear <= a) | (y - overlap / 2 - clear >= b) | (a == 0.0 and b == part.span_mm)
    return [float(v) for v in y[ok]]


def _aside(other: CutLayer | FittingLayer | JointLayer, bar: BarLayer, part: Part) -> bool:
    """Whether a line lies nowhere near a bar across the chord: more than its own width and a bar's away."""
    percent = getattr(other, "root_percent", None)
    if percent is None or (isinstance(other, CutLayer) and other.width_mm is None):
        return False
    wide = float(getattr(other, "width_mm", None) or 30.0)
    return abs(float(percent) - bar.root_percent) / 100 * part.root_chord_mm > wide / 2 + 15.0


def _moment(airframe: Airframe, part: Part, y: Array) -> Array:
    """Largest moment of all cases at places along a part over its largest anywhere, typical."""
    if not part.cases:
        return np.array([elliptic_moment(min(v / part.span_mm, 1.0)) for v in y])
    out = np.zeros_like(y)
    with samples(0):
        prepared = prepared_for(part, airframe.setting)
        for a in under_all(prepared, airframe, part, list(part.cases), judged=False):
            m = np.abs(a.loading.moment[0])
            if m.max() > 0:
                out = np.maximum(out, np.interp(y, prepared.geometry.y, m / m.max()))
    return out
