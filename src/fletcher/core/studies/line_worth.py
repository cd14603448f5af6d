"""What each line of a lay-up is worth: what is lost without it, what thinning it costs, and why some give nothing.

All by trials with typical values: the part is computed again without the line, and with less of it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np

from fletcher.core.common.quantities import F0, F1, G4, in_mm
from fletcher.core.document.airframe import Airframe, BarLayer, FilmLayer, Layer, Part, StripLayer
from fletcher.core.document.stock_steps import lighter, widened
from fletcher.core.estimate import phrasing
from fletcher.core.estimate.prepare import Prepared, prepared_for
from fletcher.core.materials.uncertainty import samples
from fletcher.core.section.assembly import line_span
from fletcher.core.studies.schema import LineChange, LineWorth
from fletcher.core.studies.what_if import CaseTrial, Trial, possible, trial, with_layer, without

_NOTHING = 0.01
"""Below this share of margin, bend and twist a line is said to give nothing."""
_HARM = 0.02
"""A line without which the margin is larger by less than this does no harm worth a word."""
_NEAR = 0.35
"""A thing nearer to the neutral line than this share of the half thickness lies near it."""
_NEUTRAL = "Lies near the neutral axis ({share:.0f} % of the way to the face): hardly strained there."


def _change(now: Trial, then: Trial, case_id: str, says: str, layer: Layer | None) -> LineChange:
    a, b = now.of(case_id), then.of(case_id)

    def over(new: float, old: float) -> float:
        return new / old if old > 1e-9 else 1.0

    margin = over(then.governs.margin, now.governs.margin)
    saved = now.mass_g - then.mass_g
    worst = max(0.0, *(share for share, _ in now.losses(then, case_id)))
    return LineChange(
        says=says,
        layer=layer,
        grams=-saved,
        margin=then.governs.margin,
        margin_ratio=margin,
        bend_ratio=over(b.bend_mm, a.bend_mm),
        twist_ratio=over(b.twist_deg, a.twist_deg),
        loss_per_g=worst / saved if saved > 1e-3 else 0.0,
        first=then.governs.sentence,
    )


def _shorter(layer: Layer, part: Part) -> Iterator[tuple[Layer, str]]:
    start, end = line_span(layer, part)
    to = round(end - 0.2 * (end - start))
    if isinstance(layer, BarLayer | StripLayer) and to - start > 5:
        yield layer.model_copy(update={"end_mm": float(to)}), f"ends at {in_mm(to, G4)}"


def _least(airframe: Airframe, part: Part, layer: Layer, now: Trial) -> Iterator[tuple[Layer, str]]:
    """A bar or strip as short, and a strip as narrow, as leaves every case just enough; nothing where it is not
    enough as it is. Found by bisection, to 5 % of the length or width."""
    if not isinstance(layer, BarLayer | StripLayer) or now.governs.margin < 1:
        return
    start, end = line_span(layer, part)
    sizes: list[tuple[float, float, Callable[[float], Layer], Callable[[float], str]]] = [
        (
            start + 5,
            end,
            lambda v: layer.model_copy(update={"end_mm": float(round(v))}),
            lambda v: f"just long enough, to {in_mm(v, F0)}",
        )
    ]
    if isinstance(layer, StripLayer):
        strip = layer
        sizes.append((0.5, layer.width_mm, lambda v: widened(strip, v), lambda v: f"just wide enough, {in_mm(v, F1)}"))
    governing = tuple(c for c in part.cases if c.id == now.governs.case_id)  # sought in it, then tried in all
    for low, high, made, says in sizes:
        least, most = low, high
        while high - low > 0.05 * most:
            middle = 0.5 * (low + high)
            other = with_layer(part, made(middle))
            enough = possible(other) and trial(airframe, other, governing).governs.margin >= 1
            low, high = (low, middle) if enough else (middle, high)
        if least < high < 0.97 * most and trial(airframe, with_layer(part, made(high))).governs.margin >= 1:
            yield made(high), says(high)


def worth(airframe: Airframe, part: Part, case_id: str) -> list[LineWorth]:
    """What every line that is on is worth, in the order of the lay-up; not cuts, joints, hinges, nor what is merely
    carried. Bend and
    twist are those of the case `case_id`, the margin that of the case that leaves least."""
    now = trial(airframe, part)
    found = []
    for layer in part.layers:
        if not layer.enabled or layer.type in ("cut", "fitting", "joint", "hinge"):
            continue
        bare = without(part, layer.id)
        gone = _change(now, trial(airframe, bare), case_id, "without it", None) if possible(bare) else None
        less = []
        for changed, says in (*lighter(layer), *_shorter(layer, part), *_least(airframe, part, layer, now)):
            other = with_layer(part, changed)
            if possible(other):
                change = _change(now, trial(airframe, other), case_id, says, changed)
                if change.grams < -1e-3:
                    less.append(change)
        found.append(
            LineWorth(line_id=layer.id, without=gone, lighter=less, remark=_remark(airframe, part, layer, now, gone))
        )
    return found


def _remark(airframe: Airframe, part: Part, layer: Layer, now: Trial, gone: LineChange | None) -> str | None:
    """Why a line is useless or does harm; None where it earns its grams."""
    if gone is None:
        return None
    with samples(0):
        prepared = prepared_for(part, airframe.setting)
    if gone.margin_ratio > 1 + _HARM:
        return _limits_it(layer, now, gone)
    loses = max(1 - gone.margin_ratio, gone.bend_ratio - 1, gone.twist_ratio - 1)
    if loses > _NOTHING:
        return _weak(prepared, part, layer) if loses < 5 * _NOTHING else None
    reason = _weak(prepared, part, layer) or _pushed_only(now, layer)
    return reason or "Adds almost nothing in any of these load cases."


def _limits_it(layer: Layer, now: Trial, gone: LineChange) -> str:
    """A line without which the part holds more: it does harm, unless its stiffness is what it is there for."""
    first = now.governs
    gives = (
        f"it is what breaks ({phrasing.inline(first.sentence)})"
        if first.line_id == layer.id
        else ("it draws load to a place that breaks sooner")
    )
    without_it = f"without it the part breaks at {gone.margin_ratio:.2g} × the load"
    keeps = [
        f"{verb} {r:.2g} × as far" for verb, r in (("bends", gone.bend_ratio), ("twists", gone.twist_ratio)) if r > 1.1
    ]
    if keeps:
        return f"Limits the strength: {gives}. It only adds stiffness: {without_it}, but {' and '.join(keeps)}."
    return f"Makes the part weaker: {gives}; {without_it}."


def _weak(p: Prepared, part: Part, layer: Layer) -> str | None:
    """A geometric reason why a line can do little: near the neutral line, or too short to take up its force."""
    g, s = p.geometry, p.sums
    line = next(i for i, la in enumerate(part.layers) if la.id == layer.id)
    half = 0.5 * (g.z_high - g.z_low)
    for i, bar in enumerate(p.elements.bars):
        if bar.line != line:
            continue
        on = g.bar_on[i] > 0
        off = np.abs(g.bar_z[i] - s.whole_z[0])[on] / half[on]
        if np.mean(off) < _NEAR and not (isinstance(layer, BarLayer) and layer.on_edge):
            return _NEUTRAL.format(share=100 * np.mean(off))
        reach = pick_up_length(p, i)
        start, end = line_span(layer, part)
        if isinstance(layer, BarLayer) and not p.elements.hollow and end - start < 2 * reach:
            return (
                f"Too short: it takes up its share of the load over about {in_mm(reach, F0)} from each end that is not "
                f"anchored, and is {in_mm(end - start, F0)} long."
            )
    for i, m in enumerate(p.elements.membranes):
        if m.line != line:
            continue
        on = g.skin_on[i] > 0
        middle = 0.5 * (g.skin_low[i] + g.skin_high[i])
        off = np.abs(middle - s.whole_z[0])[on] / half[on]
        if m.strip and np.mean(off) < _NEAR:
            return _NEUTRAL.format(share=100 * np.mean(off))
    return None


def pick_up_length(p: Prepared, i: int) -> float:
    """Length over which bar i takes up its force from the foam, 1/λ = √(EA/k_s), k_s = 2πG/ln(R/r), R half of the
    thickness (shear lag of a fibre, Cox 1952); mm."""
    g = p.geometry
    bar = p.elements.bars[i]
    on = g.bar_on[i] > 0
    radius = float(np.sqrt(bar.stock.area_mm2 / np.pi))
    far = max(0.5 * float(np.mean((g.z_high - g.z_low)[on])), 1.5 * radius)
    stiff = 2 * np.pi * float(p.draws.foam.G[0]) / np.log(far / radius)
    return float(np.sqrt(float(p.draws.bars[i].E[0]) * bar.stock.area_mm2 / stiff))


def _pushed_only(now: Trial, layer: Layer) -> str | None:
    """A skin on the face that every case presses: tapes wrinkle there and carry little."""
    kinds = ("skin_tension", "skin_yield")
    seen = [_use(c, layer.id, kinds) for c in now.cases]
    if isinstance(layer, StripLayer | FilmLayer) and layer.face in ("upper", "lower") and max(seen, default=0) < 0.02:
        return (
            f"The {layer.face} face is never in tension in these cases; in compression this skin wrinkles "
            "early and adds little."
        )
    return None


def _use(case: CaseTrial, line_id: str, kinds: tuple[str, ...]) -> float:
    return max((1 / case.by_kind[k, line_id] for k in kinds if (k, line_id) in case.by_kind), default=0.0)
