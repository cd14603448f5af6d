"""The limits of a lay-up: how heavy, how fast, how hard a pull before it stops being enough, what gives there, and from
which load on a web, a closed skin or a second bar becomes necessary.

All speeds and masses here are cautions, never clearances.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from fletcher.core.document import cases
from fletcher.core.document.airframe import Airframe, BarLayer, FilmLayer, Layer, Part, WallLayer
from fletcher.core.estimate import phrasing
from fletcher.core.estimate.analyse import under_all
from fletcher.core.estimate.prepare import Prepared, prepared_for
from fletcher.core.estimate.schema import CaseVerdict
from fletcher.core.estimate.verdicts import lowest, verdict_of
from fletcher.core.materials.uncertainty import SAMPLES, Band, samples
from fletcher.core.studies.schema import Limit, Need, Reach
from fletcher.core.studies.what_if import Trial, possible, trial

_MOST = 8.0
"""No limit is looked for beyond so many times the present mass, speed or load."""


Tried = Callable[[float, bool], list[CaseVerdict]]
"""The verdicts of a part at so many times the present figure, with bands or by typical values alone."""


def _verdicts(airframe: Airframe, part: Part, banded: bool) -> list[CaseVerdict]:
    with samples(SAMPLES if banded else 0):
        p = prepared_for(part, airframe.setting)
        return [verdict_of(a) for a in under_all(p, airframe, part, list(part.cases))]


def _least(verdicts: list[CaseVerdict]) -> CaseVerdict:
    return lowest(verdicts)


@dataclass(frozen=True)
class _Root:
    at: float
    """Times the present figure."""
    low: float
    high: float
    verdict: CaseVerdict


def _root(tried: Tried) -> _Root | None:
    """The factor at which the margin reaches 1, by false position on the logarithms, with its band from the band of
    the margin there; None where it does not within a factor of eight. Margins fall as the factor grows."""

    def margin(k: float) -> float:
        v = _least(tried(k, False))
        return float(np.log(max(v.margin.typ, 1e-6)))

    low = high = k = 1.0
    m_low = m_high = margin(1.0)
    while m_high > 0 and high < _MOST:
        low, m_low = high, m_high
        high = min(1.6 * high, _MOST)
        m_high = margin(high)
    while m_low <= 0 and low > 1 / _MOST:
        high, m_high = low, m_low
        low = max(low / 1.6, 1 / _MOST)
        m_low = margin(low)
    if m_high > 0 or m_low <= 0:
        return None
    for _ in range(8):
        share = m_low / (m_low - m_high)
        k = float(np.exp(np.log(low) + min(max(share, 0.05), 0.95) * np.log(high / low)))
        m = margin(k)
        if abs(m) < 0.003:
            break
        if m > 0:
            low, m_low = k, m
        else:
            high, m_high = k, m
    # how fast the margin falls there turns its band into one of the factor
    verdict = _least(tried(k, True))
    fall = max((margin(k) - margin(1.05 * k)) / float(np.log(1.05)), 0.3)
    down, up = (float((b / verdict.margin.typ) ** (1 / fall)) for b in (verdict.margin.low, verdict.margin.high))
    return _Root(k, k * down, k * up, verdict)


def _limit(name: str, unit: str, now: float, root: _Root | None) -> Limit:
    if root is None:
        return Limit(name=name, unit=unit, now=now, most=None, gives=None, in_case=None)
    most = Band(typ=now * root.at, low=now * root.low, high=now * root.high, causes=root.verdict.margin.causes)
    return Limit(
        name=name, unit=unit, now=now, most=most, gives=phrasing.out_at(root.verdict.sentence, root.verdict.at_mm),
        in_case=root.verdict.name,
    )  # fmt: skip


def reach(airframe: Airframe, part: Part) -> Reach:
    """The limits of a checked part in its own cases, the others kept as they are."""
    p = prepared_for(part, airframe.setting)
    limits: list[Limit] = []
    flies = part.kind in ("wing", "tail", "surface", "fuselage")
    if flies and any(not isinstance(c, cases.ThreePointCase | cases.TipWeightCase) for c in part.cases):
        heavier = _root(lambda k, banded: _verdicts(*_heavier(airframe, part, k), banded))
        limits.append(_limit("All-up mass", "g", airframe.all_up_mass_g, heavier))
    fast = [c for c in part.cases if hasattr(c, "speed_m_s")]
    if fast:
        limits.append(_fastest(p, airframe, part, fast))
    for a in under_all(p, airframe, part, list(part.cases)):
        m, v = a.loading.measure, verdict_of(a)
        most = Band(**{n: m.value * getattr(v.margin, n) for n in ("typ", "low", "high")}, causes=v.margin.causes)
        limits.append(
            Limit(
                name=f"{v.name}: {m.name}", unit=m.unit, now=m.value, most=most,
                gives=phrasing.out_at(v.sentence, v.at_mm), in_case=v.name,
            )
        )  # fmt: skip
    return Reach(limits=limits, needs=_needs(airframe, part))


def _heavier(airframe: Airframe, part: Part, k: float) -> tuple[Airframe, Part]:
    """The same flying at k times the mass: speeds in the air grow with its root, as the stall does, so that load
    factors stay as they are."""
    quicker = tuple(
        c.model_copy(update={"speed_m_s": k**0.5 * c.speed_m_s}) if isinstance(c, cases.FlightCase) else c
        for c in part.cases
    )
    mass = k * airframe.all_up_mass_g
    return airframe.model_copy(update={"all_up_mass_g": mass}), part.model_copy(update={"cases": quicker})


def _fastest(p: Prepared, airframe: Airframe, part: Part, fast: list[cases.Case]) -> Limit:
    """The fastest speed: all cases with a speed go faster together, and the speeds of divergence and reversal bound
    it, with half as much again in hand."""

    def at(k: float, banded: bool) -> list[CaseVerdict]:
        quicker = tuple(c.model_copy(update={"speed_m_s": k * c.speed_m_s}) if c in fast else c for c in part.cases)  # type: ignore[union-attr]
        return _verdicts(airframe, part.model_copy(update={"cases": quicker}), banded)

    now = max(c.speed_m_s for c in fast)  # type: ignore[union-attr]
    limit = _limit("Speed in load cases", "m/s", now, _root(at))
    for name, speeds in (
        ("Divergence", p.shaking.divergence),
        ("Control reversal", p.shaking.reversal),
    ):
        if speeds is None or not np.isfinite(speeds[0]) or part.kind not in ("wing", "tail"):
            continue
        bound = float(speeds[0]) / 1.5
        if limit.most is None or bound < limit.most.typ:
            seen = np.sort(speeds[np.isfinite(speeds)]) / 1.5
            low, high = float(np.quantile(seen, 0.05)), float(np.quantile(seen, 0.95))
            band = Band(typ=bound, low=min(low, bound), high=max(high, bound))
            limit = limit.model_copy(update={"most": band, "gives": f"{name}, ÷ 1.5 safety", "in_case": None})
    return limit


_WEB = ("core_shear", "bar_bond", "strip_bond", "wall_shear")
_SKIN = ("skin_shear", "bar_twist")
_BAR = ("foam_tension", "foam_crush", "notch", "skin_tension", "skin_yield", "skin_wrinkling", "skin_compression",
        "bar_tension", "bar_compression", "bar_buckling", "bar_strut", "bar_flute",
        "wall_buckling")  # fmt: skip


def _remedies(part: Part) -> list[tuple[str, str, tuple[str, ...], Layer]]:
    """What may become necessary: name, why, the failures that call for it, and the line that is tried."""
    free = next(f"try-{n}" for n in range(99) if all(la.id != f"try-{n}" for la in part.layers))
    bars = [la for la in part.layers if isinstance(la, BarLayer) and la.enabled]
    place = bars[0].root_percent if bars else 30.0
    web = WallLayer(id=free, sheet="balsa_light_3", face="web", grain="across", root_percent=place, tip_percent=place)
    skin = FilmLayer(id=free, skin="lamfilm_38", face="wrapped" if part.foam is not None else "both")
    beside = min(place + 12, 80.0)
    thin = min(part.root_thickness_mm, part.tip_thickness_mm)
    stock = "carbon_rod_3" if thin >= 9 else "carbon_rod_2" if thin >= 6 else "carbon_strip_3x0.5"
    if bars:
        bar = bars[0].model_copy(
            update={"id": free, "root_percent": beside, "tip_percent": beside, "splices": (), "sleeve": None}
        )
    else:
        bar = BarLayer(
            id=free, stock=stock, place="pair" if thin >= 9 else "middle", root_percent=place, tip_percent=place,
            cover_mm=0.5 if thin >= 9 else 0.0, on_edge=thin < 6,
        )  # fmt: skip
    skinned = any(isinstance(la, FilmLayer | WallLayer) and la.face in ("both", "wrapped") for la in part.layers)
    shells = [("Extra skin layer" if skinned else "Closed skin", "twist shears the skins", _SKIN, skin)]
    return [
        ("Shear web", "the core can no longer carry the shear", _WEB, web),
        *(shells if part.foam is not None else []),
        ("Second spar" if bars else "Spar", "the present lay-up can no longer carry the bending", _BAR, bar),
    ]


def _needs(airframe: Airframe, part: Part) -> list[Need]:
    now = trial(airframe, part)
    found = []
    for name, why, kinds, layer in _remedies(part):
        told = [(h / c.asked, c) for c in now.cases for (kind, _), h in c.by_kind.items() if kind in kinds]
        margin, case = min(told, key=lambda t: t[0], default=(None, None))
        other = part.model_copy(update={"layers": (*part.layers, layer)})
        brings: Trial | None = None
        if len(other.layers) <= 24 and possible(other):
            brings = trial(airframe, other)
        found.append(
            Need(
                what=name,
                why=why,
                from_load=None if margin is None or margin > 2 * _MOST else margin,
                in_case=None if case is None else case.name,
                grams=None if brings is None else brings.mass_g - now.mass_g,
                margin_now=now.governs.margin,
                margin_then=None if brings is None else brings.governs.margin,
                divergence_ratio=None
                if brings is None
                or part.kind not in ("wing", "tail")
                or not np.isfinite(brings.divergence_m_s * now.divergence_m_s)
                else brings.divergence_m_s / now.divergence_m_s,
            )
        )
    return found
