r"""After a crash: where to look first, and what a part as damaged still holds against what its cases ask.

Where to look comes from the load case that stands for the crash: the places where it uses most of the strength. What is
left comes from the same analysis of the part as its marks leave it (`repair.damage_model`), beside the part as drawn.
"""

from __future__ import annotations

import logging
import math
from dataclasses import replace
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from fletcher.core.adhesion.cautions import Caution, cautions_for
from fletcher.core.common.model import Result
from fletcher.core.common.quantities import G, from_root, in_mm
from fletcher.core.document.airframe import Airframe, Part, WallLayer
from fletcher.core.document.cases import Along, Case, Document
from fletcher.core.document.damage import BentMark, BreakMark
from fletcher.core.document.defaults import default_case
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.estimate import phrasing
from fletcher.core.estimate.analyse import Analysis, under_all
from fletcher.core.estimate.prepare import prepared_for
from fletcher.core.estimate.report import read_at, twist_at
from fletcher.core.estimate.verdicts import told_events, verdict_of
from fletcher.core.materials.grades import Grade
from fletcher.core.materials.uncertainty import Band, Inputs, band
from fletcher.core.repair.damage_model import as_damaged, parted_at, questions, taken_along
from fletcher.core.repair.grounding import asked_name, first_of, grounds
from fletcher.core.repair.speeds import IN_THE_AIR, Speeds, judging, speed_left, speeds_of

log = logging.getLogger(__name__)

_STANDS_FOR: dict[str, dict[str, str]] = {
    "nose_in": {"fuselage": "nose_strike", "": "sudden_stop"},
    "tip_strike": {"fuselage": "handling", "surface": "handling", "": "tip_strike"},
    "pole": {"fuselage": "handling", "surface": "handling", "": "tip_strike"},
    "flat": {"surface": "handling", "": "landing"},
    "mid_air": {"fuselage": "handling", "surface": "handling", "": "tip_strike"},
    "transport": {"": "handling"},
}
"""The load case that stands for a crash, by the kind of part."""

LOOKS = 5
"""So many places are told."""


class Crash(Document):
    """What happened: how it hit, how fast if known, and where along the part."""

    what: Literal["nose_in", "tip_strike", "pole", "flat", "mid_air", "transport", "heat"] = "nose_in"
    speed_m_s: Annotated[float | None, Field(ge=0.5, le=120)] = None
    at_mm: Along | None = None


class Look(Result):
    """A place to look at: what is likely to have given there, how much of its strength the crash asked for (1: all),
    and how to find it."""

    at_mm: float
    says: str
    asked: Band
    how: str


class Inspection(Result):
    """Where to look first after a crash, and what to check besides, on this part and construction."""

    stands_for: str
    looks: list[Look]
    checks: list[str]
    cautions: list[Caution]


class CaseLeft(Result):
    """One case: what the part as drawn and as damaged holds, times the load, and what gives first as damaged."""

    case_id: str
    name: str
    asked: float
    whole: Band
    left: Band
    enough: Grade
    says: str
    at_mm: float
    in_the_air: bool


class Asked(Result):
    """What has to be looked at before a mark can be judged: a line of the lay-up that may have gone with it, where, and
    what was found; open: counted as broken."""

    mark_id: str
    line_id: str
    at_mm: float
    says: str
    found: Literal["open", "whole", "broken"]


class Left(Result):
    """What damage leaves: per case, stiffness in bending and twist over that of the whole part, grams that are gone,
    and what that means for flying."""

    cases: list[CaseLeft]
    bend_percent: Band
    twist_percent: Band | None
    lost_g: Band
    strength_percent: Band
    """Break load over that of the undamaged part, in the case in the air that loses most."""
    fly: Literal["sure", "likely", "reduced", "no"]
    """Whether it may fly: as it is, likely, gently only, or not: by rule (a broken bar, a crack to the spar, a loose
    joint, in
    two), or by what is left against what is needed."""
    says: str
    grounds: list[str]
    """All rules that forbid it, the gravest first."""
    asked: list[Asked]
    """What is still whole, of all that crosses the marks."""
    measured: list[str]
    """What bend and twist that stayed mean."""
    cautions: list[Caution]


_HOW = {
    "foam": "Press with a thumb on both sides and along a line to the spar; a crack opens as a dark hairline.",
    "skin": (
        "Sight along the face against the light for a wrinkle or a white line. Cracks can run under an "
        "intact skin to the spar: press along the way."
    ),
    "bar": "Bend it gently and listen: a broken spar ticks. If in doubt, cut a window over it.",
    "joint": "Flex the joint and watch the glue line with a magnifier; try to lift a corner with a thumbnail.",
    "part": "Look, press and flex it gently, comparing with the undamaged side.",
}
_SORTS = (
    ("joint", "joint"), ("hinge", "joint"), ("root", "joint"), ("bar", "bar"), ("skin", "skin"), ("strip", "skin"),
    ("wall", "skin"), ("foam", "foam"), ("core", "foam"), ("notch", "foam"),
)  # fmt: skip


def _how(kind: str) -> str:
    return _HOW[next((sort for start, sort in _SORTS if kind.startswith(start)), "part")]


def crash_case(airframe: Airframe, part: Part, crash: Crash) -> Case:
    """The load case that stands for a crash on a part; heat stands for none and gives a hand at the tip."""
    kinds = _STANDS_FOR.get(crash.what, {"": "handling"})
    case = default_case(kinds.get(part.kind, kinds[""]), airframe, part)
    given = {"speed_m_s": crash.speed_m_s, "at_mm": None if crash.at_mm is None else min(crash.at_mm, part.span_mm)}
    known = {n: v for n, v in given.items() if v is not None and n in type(case).model_fields}
    return case.model_copy(update=known)


def inspect(airframe: Airframe, part: Part, crash: Crash) -> Inspection:
    """Where to look on a checked part after a crash, the most strained place first."""
    tags = ["key:battery_crash", "key:flying_repaired"]
    checks = _checks(part)
    if crash.what == "heat":
        told = ["Check the part against a straight edge: heat bends and twists foam without cracking it.",
                "Look for lifted film and adhesive that has crept: both soften first."]  # fmt: skip
        return Inspection(stands_for="", looks=[], checks=[*told, *checks], cautions=cautions_for(tags))
    case = crash_case(airframe, part, crash)
    struck = part.model_copy(update={"cases": (case,)})
    p = prepared_for(struck, airframe.setting)
    (a,) = under_all(p, airframe, struck, [case])
    looks = []
    for event in sorted(told_events(a), key=lambda e: float(e.at[0]))[:LOOKS]:
        mode, at = event.mode, float(p.geometry.y[event.k])
        looks.append(
            Look(
                at_mm=at, says=phrasing.out_at(phrasing.failure_sentence(mode, p.elements), at),
                asked=band(1 / np.maximum(event.at, 1e-9), p.inputs), how=_how(mode.kind),
            )
        )  # fmt: skip
    return Inspection(stands_for=case.name, looks=looks, checks=checks, cautions=cautions_for(tags))


def _checks(part: Part) -> list[str]:
    """What is looked at on this part and construction besides, in order."""
    out = []
    if part.kind == "fuselage":
        out.append(
            "Battery first: take it out and put it outdoors on bare ground. Then check mounts, wing seat and tail seat."
        )
    out.append("Corners of every cut-out, and the joints around servos and hatches.")
    kinds = {la.type for la in part.layers if la.enabled}
    if "bar" in kinds:
        out.append("Every spar: twist and bend the part by hand, listen for ticking, look for a spar that has slid.")
    if kinds & {"film", "strip"}:
        out.append("Ends and edges of skins and tapes: try to lift them with a thumbnail.")
    if "joint" in kinds or "hinge" in kinds:
        out.append("Every joint and hinge: flex it and watch the glue line.")
    if part.foam is None:
        out.append("Ribs and formers: look inside with a torch and press between them.")
    if part.kind in ("wing", "tail"):
        out.append(
            "The root, and the same place on the other half: what came loose on one side was overloaded on the other."
        )
    out.append("Straightness with a rule and twist on a flat table: measure both halves the same way.")
    return out


def stiffness_left(whole: Analysis, left: Analysis) -> tuple[Band, Band | None]:
    """Stiffness left in bending and in twist, per cent."""
    bends = [np.abs(a.deflection[:, read_at(a)]) for a in (whole, left)]
    bend = band(100 * bends[0] / np.maximum(bends[1], 1e-9), Inputs([]))
    if not np.any(whole.loading.torque):
        return bend, None
    turns = [np.abs(a.twist[:, twist_at(a)]) for a in (whole, left)]
    return bend, band(100 * turns[0] / np.maximum(turns[1], 1e-12), Inputs([]))


def no_more(b: Band) -> Band:
    """A share of the whole part that damage leaves: none counts as a gain, per cent."""
    return Band(**{n: min(getattr(b, n), 100.0) for n in ("typ", "low", "high")})


def as_left(airframe: Airframe, broken: Part, whole: list[Analysis]) -> list[Analysis]:
    """A part as damage leaves it under its cases, beside the analyses of the whole part."""
    found = under_all(prepared_for(broken, airframe.setting), airframe, broken, [a.case for a in whole])
    return [replace(left, whole=a) for left, a in zip(found, whole, strict=True)]


def what_is_left(airframe: Airframe, part: Part) -> Left:
    """What a checked part with marks of damage still holds; without marks all of it."""
    asked = _asked(part)
    broken = as_damaged(taken_along(part))
    whole = list(under_all(prepared_for(part, airframe.setting), airframe, part, list(judging(part))))
    parted = parted_at(broken) if part.damage else None
    if parted is not None:
        return _in_two(whole, part, parted, asked)
    try:
        left = as_left(airframe, broken, whole)
        after = [verdict_of(b) for b in left]
    except (IndexError, ValueError, np.linalg.LinAlgError):  # marks that leave slivers the section cannot be made of
        log.exception("what is left of %s cannot be computed", part.id)
        message = "leave too little of the cross-section to compute: mark a smaller area, or a clean break"
        raise InvalidDocument([Problem(path="damage", message=message, value=f"{len(part.damage)} marks")]) from None
    cases = []
    for a, now in zip(whole, after, strict=True):
        cases.append(
            CaseLeft(
                case_id=a.case.id, name=a.case.name, asked=now.asked, whole=verdict_of(a).breaks_at, left=now.breaks_at,
                enough=now.enough, says=phrasing.out_at(now.sentence, now.at_mm), at_mm=now.at_mm,
                in_the_air=a.case.type in IN_THE_AIR,
            )
        )  # fmt: skip
    bend, twist = (None if b is None else no_more(b) for b in stiffness_left(whole[0], left[0]))
    assert bend is not None
    grams = [a.prepared.grams.sum(0) for a in (whole[0], left[0])]
    air = [c for c in cases if c.in_the_air] or cases
    loses = min(air, key=lambda c: c.left.typ / max(c.whole.typ, 1e-9))
    strength = Band(**{n: min(100 * getattr(loses.left, n) / max(loses.whole.typ, 1e-9), 100.0 if part.damage else 1e9)
                       for n in ("typ", "low", "high")})  # fmt: skip
    reasons = grounds(part)
    speeds = speeds_of(airframe, part)
    fly, says = _flies(part, cases, strength.typ, first_of(reasons), speeds)
    return Left(
        cases=cases, bend_percent=bend, twist_percent=twist, lost_g=band(grams[0] - grams[1], Inputs([])),
        strength_percent=strength, fly=fly, says=says,
        grounds=reasons, asked=asked, measured=_measured(part),
        cautions=cautions_for(["key:flying_repaired", "key:battery_crash"]),
    )  # fmt: skip


def _asked(part: Part) -> list[Asked]:
    return [
        Asked(
            mark_id=q.mark.id, line_id=q.layer.id, at_mm=q.at_mm, found=q.found or "open",
            says=asked_name(q),
        )
        for q in questions(part)
    ]  # fmt: skip


def _in_two(whole: list[Analysis], part: Part, at: float, asked: list[Asked]) -> Left:
    """A part that is in two pieces carries nothing."""
    none = Band(typ=0.0, low=0.0, high=0.0)
    where = f"broken in two, {from_root(at)}"
    if at == 0:
        walls = any(isinstance(la, WallLayer) for la in part.layers) and not any(
            isinstance(m, BreakMark) for m in part.damage
        )
        where = "its walls no longer hang together" if walls else "it has come apart"
        where = first_of(grounds(part)) or where
    cases = [
        CaseLeft(
            case_id=a.case.id, name=a.case.name, asked=a.case.safety_factor, whole=verdict_of(a).breaks_at, left=none,
            enough="no", says=phrasing.capital(where), at_mm=at, in_the_air=a.case.type in IN_THE_AIR,
        )
        for a in whole
    ]  # fmt: skip
    twists = np.any(whole[0].loading.torque)
    return Left(
        cases=cases, bend_percent=none, twist_percent=none if twists else None, lost_g=none, strength_percent=none,
        fly="no", says=f"Do not fly: {where}.", grounds=[where], asked=asked, measured=_measured(part),
        cautions=cautions_for(["key:flying_repaired", "key:battery_crash"]),
    )  # fmt: skip


_CAUTION = "This is a caution, not a clearance to fly"
_AS_IT_WAS = 90.0
"""Per cent of the whole part's strength from which on nothing forbids flight."""


def _flies(
    part: Part, cases: list[CaseLeft], percent: float, rule: str | None, speeds: Speeds
) -> tuple[Literal["sure", "likely", "reduced", "no"], str]:
    """Whether a damaged part may fly, and the sentence that says so: by rule first, then by what it needs."""
    if rule is not None:
        told = "" if all(q.found for q in questions(part)) else " if all is broken that was not looked at"
        return "no", f"Do not fly: {rule}. On the bench it still has {percent:.0f} % of its strength{told}."
    air = [c for c in cases if c.in_the_air] or cases
    worst = min(air, key=lambda c: c.left.low / c.asked)
    breaks = f"breaks at {worst.left.typ:.2g} × “{worst.name}”, needs {worst.asked:g}"
    share = min(c.left.low / c.asked for c in air)
    if share >= 1 and percent >= _AS_IT_WAS:
        return "sure", f"Nothing found that forbids flight: {breaks}. Bench-test it, then fly gently. {_CAUTION}."
    if share >= 1:
        return "likely", (
            f"Strong enough for its cases at {percent:.0f} % of what it held: {breaks}. Bench-test it before flying, "
            f"and mend it soon. {_CAUTION}."
        )
    undamaged = " It was not enough undamaged either." if worst.whole.low < worst.asked else ""
    left = speed_left(share, speeds.top_m_s or 0.0, speeds.stall_m_s)
    grounded = any(c.left.low < c.asked for c in cases if not c.in_the_air) and any(c.in_the_air for c in cases)
    if left is None or grounded:
        return "no", f"Only after a repair: {breaks}; {percent:.0f} % of its strength is left.{undamaged}"
    return "reduced", (
        f"Only after a repair, or gently: {breaks}; no more than {100 * left:.0f} % of the speed, no gusts."
        f"{undamaged} {_CAUTION}."
    )


def _measured(part: Part) -> list[str]:
    out = []
    for mark in part.damage:
        if isinstance(mark, BentMark):
            if mark.tip_mm:
                slope = math.degrees(mark.tip_mm / part.span_mm)
                out.append(
                    f"The tip stands {in_mm(mark.tip_mm, G)} off its straight: like {slope:.1f}° of dihedral more."
                )
            if mark.twist_deg:
                out.append(
                    f"{abs(mark.twist_deg):g}° of permanent twist, nose "
                    f"{'up' if mark.twist_deg > 0 else 'down'}: the halves lift differently and the aircraft "
                    "rolls. Straighten it, or trim it and fly gently."
                )
    return out
