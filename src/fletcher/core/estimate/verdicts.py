"""The verdict of a load case: at which multiple of the load it breaks and changes, how sure that is, and in words."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.estimate import phrasing
from fletcher.core.estimate.analyse import Analysis
from fletcher.core.estimate.schema import BreakMode, CaseVerdict, ChangeMode
from fletcher.core.materials.grades import Grade, grade, worst
from fletcher.core.materials.uncertainty import Band, Inputs, band
from fletcher.core.strength.followed import STRAINED
from fletcher.core.strength.judgement import UNLIMITED, Event

TOO_FAR = 1 / 3
"""Share of its span beyond which a bend is told before anything else."""
NOT_COMPUTED = ("flutter", "fatigue", "impact beside the place of the case", "flaws in the material")
"""What no case computes."""


def verdict_of(a: Analysis) -> CaseVerdict:
    """What a case says: break load and change load over the load, the margin and its grade."""
    j, inputs, factor = a.judged, a.prepared.inputs, a.case.safety_factor
    breaks_at = band(np.minimum(j.breaks, 1e9), inputs)
    margin = Band(**{n: getattr(breaks_at, n) / factor for n in ("typ", "low", "high")}, causes=breaks_at.causes)
    first = band(j.first.at, inputs)
    changes = _change_modes(a, inputs)
    stays = [c.comes_at for c in changes if c.stays]
    limited = margin.typ <= UNLIMITED
    enough = worst(grade(margin), grade(first), *(grade(s) for s in stays), "no" if a.loading.cannot_fly else "sure")
    folds = j.final.mode.kind in ("folds", "bends_over")
    first_mode = (
        None if j.first is j.final or float(j.first.at[0]) >= 0.999 * float(j.breaks[0]) else _break_mode(a, j.first)
    )
    found = CaseVerdict(
        case_id=a.case.id,
        name=a.case.name,
        counts=a.case.counts,
        breaks_at=breaks_at,
        first_break=first,
        changes_at=changes[0].comes_at if changes else None,
        margin=margin,
        asked=factor,
        enough=enough,
        limited=limited,
        break_mode=_break_mode(a, j.final),
        first_mode=first_mode,
        change_modes=changes,
        folds=folds,
        headline="",
        sentence=phrasing.failure_sentence(j.final.mode, a.prepared.elements),
        at_mm=float(a.prepared.geometry.y[j.final.k]),
    )
    return found.model_copy(update={"headline": headline(a, found)})


def neutral_axis(a: Analysis, k: int) -> tuple[float, float]:
    """Where the neutral axis lies at station k, typical, mm: above the middle of the depth, or in edgewise bending
    aft of the middle of the chord; and half of that depth or chord."""
    p = a.prepared
    if a.loading.read == "swing":
        half = 0.5 * float(p.geometry.chord[k])
        return float(a.acting.edge_x[0, k]) - half, half
    low, high = float(p.geometry.z_low[k]), float(p.geometry.z_high[k])
    return float(p.sums.whole_z[0, k]) - 0.5 * (low + high), 0.5 * (high - low)


_SHEARED = frozenset(
    {"bar_bond", "strip_bond", "core_shear", "wall_shear", "skin_shear", "bar_buckling", "bar_strut", "bar_flute"}
)
"""Ways to fail by what stiff parts hand over."""
_OFF_MIDDLE = 0.05
"""Share of the half depth beyond which a neutral axis off the middle is told."""


_SHARED = "Walls and spars share the load: stiffer walls further out bring more of it here."
_SHARING = ("skin", "wall", "core_tears", "bar_tension", "bar_compression")


def shares_with_bars(a: Analysis, event: Event) -> bool:
    """Whether a wall of a hollow part breaks beside bars that slip on what ties them, or such a bar: their shares of
    the load hang on the whole of the part, not on the section alone."""
    e = a.prepared.elements
    return e.hollow and e.slips and bool(e.bars) and event.mode.kind.startswith(_SHARING)


def _because(a: Analysis, event: Event) -> str:
    """What besides the load decides a break: stiff things on one side draw the neutral axis to them, so that the other
    side is strained more."""
    if event.mode.kind in _SHEARED and a.prepared.elements.bars:
        return "Its force passes into the foam there."
    if event.mode.kind in _SHEARED:
        return "Load goes to what is stiff: the stiffer the parts, the more of it passes here." if _drawn(a) else ""
    if event.mode.kind not in STRAINED and event.mode.kind != "folds":
        return ""
    off, half = neutral_axis(a, event.k)
    if half <= 0 or abs(off) < _OFF_MIDDLE * half:
        return _SHARED if shares_with_bars(a, event) else ""
    if a.loading.read == "swing":
        side, other = ("rear", "front") if off > 0 else ("front", "rear")
        return f"Stiff parts near the {side} edge draw the neutral axis towards it: the {other} edge is strained more."
    side, other = ("upper", "lower") if off > 0 else ("lower", "upper")
    return f"Stiff parts near the {side} face draw the neutral axis towards it: the {other} face is strained more."


def _drawn(a: Analysis) -> bool:
    """Whether stiff parts draw most of the load to themselves."""
    p = a.prepared
    return bool(p.elements.bars) or bool(np.any(a.loading.torque)) or any(m.strip for m in p.elements.membranes)


def _break_mode(a: Analysis, event: Event) -> BreakMode:
    return BreakMode(
        kind=event.mode.kind,
        sentence=phrasing.failure_sentence(event.mode, a.prepared.elements),
        line_id=_line_id(a, event),
        at_mm=float(a.prepared.geometry.y[event.k]),
        because=_because(a, event),
    )


def _line_id(a: Analysis, event: Event) -> str | None:
    line = event.mode.line
    return None if line is None else a.prepared.elements.part.layers[line].id


def _change_modes(a: Analysis, inputs: Inputs) -> list[ChangeMode]:
    out = []
    for event in a.judged.changes:
        at = band(np.minimum(event.at, 1e9), inputs)
        out.append(
            ChangeMode(
                kind=event.mode.kind,
                sentence=phrasing.failure_sentence(event.mode, a.prepared.elements),
                line_id=_line_id(a, event),
                at_mm=float(a.prepared.geometry.y[event.k]),
                comes_at=at,
                stays=event.stays,
                consequence=phrasing.consequence(event.mode.kind, event.stays),
                costs=_costs(a) if at.typ < 1 else "",
            )
        )
    return out


def _costs(a: Analysis) -> str:
    """What has changed at the load itself costs: bend and twist more than without."""
    changed, out = a.judged.softened is not None, []
    if changed and a.loading.read != "twist":
        bends = [float(np.max(np.abs(v[0]))) for v in (a.deflection, a.linear_deflection)]
        more = bends[0] / max(bends[1], 1e-12) - 1
        if more > 0.005:
            out.append(f"it bends {100 * more:.0f} % more")
    if changed and np.any(a.loading.torque):
        turns = [float(np.max(np.abs(v[0]))) for v in (a.twist, a.linear_twist)]
        more = turns[0] / max(turns[1], 1e-12) - 1
        if more > 0.005:
            out.append(f"it twists {100 * more:.0f} % more")
    return " and ".join(out) or "it costs next to nothing"


def headline(a: Analysis, v: CaseVerdict) -> str:
    """The verdict in one line; the grade stands beside it as its sign."""
    first = f"{v.first_break.typ:.2g}"
    needs = f"breaks at {v.breaks_at.typ:.2g} × this load, needs {v.asked:g}"
    opening = {"sure": "Enough", "likely": "Likely enough", "doubtful": "Doubtful", "no": "Not enough"}[v.enough]
    stays = [c for c in v.change_modes if c.stays and grade(c.comes_at) == v.enough]
    told = f"{opening} — {needs}"
    if not v.limited:
        told = f"{opening} — not limited by anything computed here. Not computed: {', '.join(NOT_COMPUTED)}"
    elif v.enough == "no" and v.first_mode is not None and v.first_break.typ < 1:
        told = (
            f"Not enough — {phrasing.inline(v.first_mode.sentence)} at {first} × this load; the rest carries up to "
            f"{v.breaks_at.typ:.2g} ×"
        )
    elif stays and grade(v.margin) != v.enough:
        c = stays[0]
        told = (
            f"{opening} — {phrasing.inline(c.sentence)} already at {c.comes_at.typ:.2g} × this load and "
            f"{c.consequence}; breaks at {v.breaks_at.typ:.2g} ×"
        )
    elif v.folds:
        told = f"{opening} — folds at {v.breaks_at.typ:.2g} × this load before anything breaks, needs {v.asked:g}"
    span = _reach(a)
    bend = float(np.max(np.abs(a.deflection[0]))) if a.loading.read != "twist" else 0.0
    if bend > TOO_FAR * span:
        told = f"Bends too far — by {100 * bend / span:.0f} % of its span. {told}"
    return f"{a.loading.stall}. {told}" if a.loading.stall else told


def _reach(a: Analysis) -> float:
    """Length over which it bends, mm."""
    return a.loading.supports[1] - a.loading.supports[0] if a.loading.supports else a.part.span_mm


def told_events(a: Analysis) -> list[Event]:
    """What happens as the load grows, in order: changes, breaks of members, the break load, and what would come next by
    the linear answer."""
    j = a.judged
    told: list[Event] = [*j.changes, *(m for m in j.members if m.mode is not j.final.mode), j.final]
    seen = {(e.mode.kind, e.mode.line) for e in told}
    last = float(j.breaks[0])
    for mode in sorted(a.modes, key=lambda m: -float(m.use[0].max())):
        at = 1 / np.maximum(mode.use.max(1), 1e-9)
        if (mode.kind, mode.line) in seen or not mode.breaks or not last < float(at[0]) < _FAR * last:
            continue
        seen.add((mode.kind, mode.line))
        told.append(Event(mode, int(np.argmax(mode.use[0])), at, True, False))
    return sorted(told, key=lambda e: float(e.at[0]))


_FAR = 12.0
"""What comes at more than so many times the break load is not told."""


def lowest(verdicts: Sequence[CaseVerdict]) -> CaseVerdict:
    """The worst load case: that with the lowest margin, typical, of those that count, or of all where none does."""
    return min([v for v in verdicts if v.counts] or verdicts, key=lambda v: v.margin.typ)


def grade_of(values: Array, inputs: Inputs, needs: float = 1.0) -> Grade:
    """Grade of a figure from its samples (S,)."""
    return grade(band(values, inputs), needs)
