r"""The break-first corridor: what holds a part must hold in the worst wanted case and let go below what breaks it.

The load to hold is the largest lift of the cases kept, with its factor. The load at which it must have let go is what
reaches the mount when the part itself breaks in the crash cases kept (its inertia at λ times the deceleration), or what
the mount stands, whichever is less. n fasteners alike share the load; age and stretch change what each holds.
"""

from __future__ import annotations

import math
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from fletcher.core.common.arrays import Array
from fletcher.core.common.model import Result
from fletcher.core.common.quantities import F0, G, in_mm, in_N, number
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.cases import Document, SuddenStopCase, TipStrikeCase
from fletcher.core.estimate.analyse import Analysis, under_all
from fletcher.core.estimate.prepare import prepared_for
from fletcher.core.materials.materials import Fastener, Range
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import Band, Inputs, band, drawn, lognormal, normals

RELEASE = {
    "band": Range(0.5, 0.8, 1.3),
    "tie": Range(0.8, 1.0, 1.1),
    "bolt": Range(0.5, 0.62, 0.75),
    "blind_nut": Range(0.8, 1.0, 1.1),
    "pin": Range(0.5, 0.8, 1.1),
    "magnet": Range(0.15, 0.25, 0.4),
    "peg": Range(0.8, 1.0, 1.1),
    "buffer": Range(0.9, 1.0, 1.1),
}
"""[J] Load pushed forwards at which a fastener lets go, over the load at which it does so when pulled: bands roll off
their pegs, bolts shear, magnets slide."""

UNBOUNDED = "no upper limit yet: add a tip strike or sudden stop to the load cases, or enter the mount strength"

MOST = 12
"""More of one kind than this are not proposed."""

SPARE = 2
"""Fewer than this leave nothing when one lets go: a single one is proposed only where it is surely enough."""


class CorridorWish(Document):
    """How a part is held: months of age, how far bands are stretched over their usual stretch, what the mount stands
    forwards (null: only the part counts), and a load to hold other than the lift of the cases kept."""

    months: Annotated[float, Field(ge=0, le=120)] = 6.0
    stretch: Annotated[float, Field(ge=0.3, le=2.5)] = 1.0
    mount_N: Annotated[float | None, Field(ge=1, le=20_000)] = None
    hold_N: Annotated[float | None, Field(ge=0.1, le=20_000)] = None


class Holding(Result):
    """So many of one kind of fastener: what they hold and at what they let go together, and whether that fits."""

    key: str
    name: str
    family: str
    count: int
    most: int
    """The most of them that still let go in time; 0 where even one holds on too long."""
    holds_N: Band
    lets_go_N: Band
    energy_mJ: float
    """Work until they let go, typical: bands and buffers take up knocks."""
    grams: float
    """All of them together."""
    fits: Literal["sure", "typical", "no"]
    says: str


class Corridor(Result):
    """The load to hold, the load at which it must have let go (None where no crash case is kept and no mount is told),
    where both come from, and every fastener, those that fit first."""

    hold_N: Band
    hold_says: str
    release_N: Band | None
    release_says: str
    ways: list[Holding]
    buffers: list[str]
    """How buffers between part and mount would soften the stops that are kept."""
    says: str


def _held(kept: list[Analysis]) -> tuple[float, str]:
    lifts = [(a.loading.whole_lift * a.case.safety_factor, a) for a in kept if a.loading.whole_lift > 0]
    if not lifts:
        return 0.0, "no load case lifts this part: enter the load it must hold"
    load, worst = max(lifts, key=lambda pair: pair[0])
    return load, f"lift in “{worst.case.name}” × safety factor {worst.case.safety_factor:g}"


def _broken(kept: list[Analysis], part: Part) -> tuple[Array, str] | None:
    """Force (S,) on the mount when the part breaks in the crash cases kept, and which it is."""
    found: list[tuple[Array, str]] = []
    for a in kept:
        breaks = np.minimum(a.judged.breaks, 1e6)
        if isinstance(a.case, SuddenStopCase):
            found.append((breaks * _stopped(a, part), f"the load at which the part breaks in “{a.case.name}”"))
        elif isinstance(a.case, TipStrikeCase):
            # the blow at the tip turns the part about its mount: what reaches the mount is the blow itself
            found.append((breaks * np.abs(_blow(a)), f"the load at which the part breaks in “{a.case.name}”"))
    if not found:
        return None
    return min(found, key=lambda pair: float(pair[0][0]))


def _stopped(a: Analysis, part: Part, give_mm: float = 0.0) -> Array:
    """Force (S,) on the mount while the bare part is stopped, N: m V²/2(s + δ), δ what a buffer gives."""
    assert isinstance(a.case, SuddenStopCase)
    grams = np.trapezoid(a.prepared.line_mass.sum(0), a.prepared.mesh.y, axis=1) * part.count
    return np.asarray(grams * 1e-3 * a.case.speed_m_s**2 / (2e-3 * (a.case.stop_mm + give_mm)))


def _softened(kept: list[Analysis], part: Part) -> list[str]:
    """What buffers do to each stop that is kept, and how many are not yet squeezed flat."""
    out = []
    for a in kept:
        if not isinstance(a.case, SuddenStopCase):
            continue
        for f in reference().fasteners.values():
            if f.family != "buffer":
                continue
            before, force = (float(_stopped(a, part, give)[0]) for give in (0.0, f.give_mm.typ))
            count = math.ceil(force / f.lets_go_N.typ)
            out.append(
                f"{count} × {f.name}, giving {in_mm(f.give_mm.typ, G)}, soften “{a.case.name}” from "
                f"{number(before, 'N', F0)} to "
                f"{in_N(force, F0)} on the mount"
            )
    return out


def _blow(a: Analysis) -> Array:
    """Force (S,) of a blow near the tip from the edgewise moment at the root over its arm."""
    place = a.case.at_mm if isinstance(a.case, TipStrikeCase) and a.case.at_mm else a.part.span_mm - 20
    return np.asarray(a.loading.edge[:, 0] / max(place, 1.0))


def fastened(f: Fastener, wish: CorridorWish) -> tuple[Array, Array]:
    """What one fastener holds and lets go at forwards, each (S,) N, at its age and stretch."""
    z = normals("fastener/" + f.key, 3)[:, : 1 + drawn()]
    aged = np.maximum(1 - lognormal(f.ages_per_month, z[2]), 0.02) ** wish.months
    pulled = 0.5 + 0.5 * wish.stretch if f.family == "band" else 1.0
    holds = lognormal(f.holds_N, z[0]) * pulled * aged
    pushed = lognormal(RELEASE[f.family], normals("release/" + f.family, 1)[0, : 1 + drawn()])
    lets = lognormal(f.lets_go_N, 0.7 * z[0] + math.sqrt(0.51) * z[1]) * aged * pushed
    return np.asarray(holds), np.asarray(lets)


def corridor(airframe: Airframe, part: Part, wish: CorridorWish) -> Corridor:
    """The corridor of a checked part under its cases."""
    prepared = prepared_for(part, airframe.setting)
    kept = list(under_all(prepared, airframe, part, list(part.cases)))
    hold, hold_says = _held(kept)
    if wish.hold_N is not None:
        hold, hold_says = wish.hold_N, "value you entered"
    broken = _broken(kept, part)
    limit: Array | None = None if broken is None else broken[0]
    release_says = UNBOUNDED if broken is None else broken[1]
    if wish.mount_N is not None and (limit is None or wish.mount_N < float(limit[0])):
        limit, release_says = (
            np.full(len(prepared.draws.foam.G), wish.mount_N),
            "mount strength you entered",
        )
    held = [f for f in reference().fasteners.values() if f.family != "buffer"] if hold > 0 else []
    ways = [_way(f, wish, hold, limit) for f in held]
    rank = {"sure": 0, "typical": 1, "no": 2}
    ways.sort(key=lambda w: (rank[w.fits], w.grams))
    best = next((w for w in ways if w.fits != "no"), None)
    bounded = "" if limit is None else ", and releases in time"
    nothing = "No fastener in the table both holds and releases in time"
    why = (
        f"✓ {best.count} × {best.name} hold (sure){bounded}."
        if best and best.fits == "sure"
        else f"≈ {best.count} × {best.name} hold (likely){bounded}."
        if best
        else f"{nothing}: strengthen the mount or the part, or cushion the impact."
        if held
        else "Say what is to be held: no case that is kept lifts the part."
    )
    return Corridor(
        hold_N=Band(typ=hold, low=hold, high=hold),
        hold_says=hold_says,
        release_N=None if limit is None else band(limit, prepared.inputs),
        release_says=release_says,
        ways=ways,
        buffers=_softened(kept, part),
        says=why,
    )


def _are(count: int) -> str:
    return "1 is" if count == 1 else f"{count} are"


def _way(f: Fastener, wish: CorridorWish, hold: float, limit: Array | None) -> Holding:
    holds, lets = fastened(f, wish)
    one = band(holds, Inputs([]))
    sure, typical = (max(1, math.ceil(hold / max(v, 1e-6))) for v in (one.low, one.typ))
    most = MOST if limit is None else int(min(MOST, float(limit[0]) // max(float(lets[0]), 1e-6)))

    def released(count: int) -> float:
        """Share of the samples in which so many let go in time."""
        return 1.0 if limit is None else float(np.mean(count * lets[1:] < limit[1:])) if len(lets) > 1 else 1.0

    def result(count: int, fits: Literal["sure", "typical", "no"], says: str) -> Holding:
        n = min(count, MOST)
        give = 0.5 * f.give_mm.typ
        return Holding(
            key=f.key, name=f.name, family=f.family, count=n, most=max(most, 0),
            holds_N=band(n * holds, Inputs([])), lets_go_N=band(n * lets, Inputs([])),
            energy_mJ=n * 0.5 * (f.holds_N.typ + f.lets_go_N.typ) * give, grams=n * f.mass_g, fits=fits, says=says,
        )  # fmt: skip

    if typical > MOST:
        return result(MOST, "no", f"even {MOST} are too weak")
    if typical > most:
        limits = f"no more than {most}" if most > 0 else "even one does not release"
        return result(typical, "no", f"{_are(typical)} needed, too many to release in time: {limits}")
    in_time = "" if limit is None else f", release in time in {100 * released(min(sure, MOST)):.0f} of 100 cases"
    if sure <= MOST and sure <= max(most, 1) and released(sure) >= 0.95:
        return result(sure, "sure", f"✓ hold (sure){in_time}")
    count = min(max(typical, min(sure, most)), MOST)
    if count < SPARE:
        if most < SPARE:
            return result(SPARE, "no", "one alone is only likely to hold, and two release too late")
        count = SPARE
    in_time = "" if limit is None else f", release in time in {100 * released(count):.0f} of 100 cases"
    return result(count, "typical", f"≈ hold (likely){in_time}")
