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
from fletcher.core.common.quantities import F0, G, in_mm
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.cases import Along, Case, Document
from fletcher.core.document.damage import BarMark, BentMark, BreakMark, CrackMark, LooseMark
from fletcher.core.document.defaults import default_case
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.estimate import phrasing
from fletcher.core.estimate.analyse import Analysis, under_all
from fletcher.core.estimate.prepare import prepared_for
from fletcher.core.estimate.report import read_at, twist_at
from fletcher.core.estimate.verdicts import told_events, verdict_of
from fletcher.core.materials.grades import GRADES, Grade
from fletcher.core.materials.uncertainty import Band, Inputs, band
from fletcher.core.repair.damage_model import as_damaged, crack_to_a_bar, parted_at, questions, taken_along

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

IN_THE_AIR = frozenset({"pull_up", "turn", "gust", "tow", "tail_lift", "tail_load", "deflected", "motor_torque"})
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
    speed_share: float
    """Share of the speed at which its cases in the air ask no more than it has at the low end: loads grow with its
    square."""
    fly: Literal["sure", "likely", "reduced", "no"]
    """Whether it may fly: as it is, likely, gently only, or not: by rule (a broken bar, a crack to the spar, a loose
    joint,
    in two), or by what is left against what is needed."""
    says: str
    asked: list[Asked]
    """What is still whole, of all that crosses the marks."""
    measured: list[str]
    """What bend and twist that stayed mean."""
    cautions: list[Caution]


_HOW = {
    "foam": "Press with a thumb on both sides of the place and along a line to the spar; a crack opens as a dark hair.",
    "skin": "Look along the face against the light: a wrinkle or a white line. Cracks run on under a skin that looks "
    "whole, to the spar: press here.",
    "bar": "Bend gently and listen: a broken bar ticks. Cut a window over it if in doubt.",
    "joint": "Flex the joint and watch the seam with a lens; try a corner with a thumbnail.",
    "part": "Look, press, and flex gently beside the whole part of the other side.",
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
        told = ["Sight along the part against a straight edge: warmth bends and twists foam without a crack.",
                "Look for film that let go, and for adhesive that crept: both soften first."]  # fmt: skip
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
        out.append("Battery first: out, outdoors, on ground that cannot burn. Then mounts, wing seat, tail seat.")
    out.append("Corners of every cut-out, and the seams of servo and hatch.")
    kinds = {la.type for la in part.layers if la.enabled}
    if "bar" in kinds:
        out.append("Every bar: twist and bend the part by hand, listen for ticking, look for a bar that slid.")
    if kinds & {"film", "strip"}:
        out.append("Ends and edges of skins and strips: lift with a thumbnail.")
    if "joint" in kinds or "hinge" in kinds:
        out.append("Every seam and hinge: flex it and watch the line.")
    if part.foam is None:
        out.append("Ribs and formers: look through an opening with a lamp; press between them.")
    if part.kind in ("wing", "tail"):
        out.append("Root, and the other half at the same place: what is loose on one side is strained on the other.")
    out.append("Straightness against a rule, twist against the table: measure both halves the same way.")
    return out


def stiffness_left(whole: Analysis, left: Analysis) -> tuple[Band, Band | None]:
    """Stiffness left in bending and in twist, per cent."""
    bends = [np.abs(a.deflection[:, read_at(a)]) for a in (whole, left)]
    bend = band(100 * bends[0] / np.maximum(bends[1], 1e-9), Inputs([]))
    if not np.any(whole.loading.torque):
        return bend, None
    turns = [np.abs(a.twist[:, twist_at(a)]) for a in (whole, left)]
    return bend, band(100 * turns[0] / np.maximum(turns[1], 1e-12), Inputs([]))


def as_left(airframe: Airframe, broken: Part, whole: list[Analysis]) -> list[Analysis]:
    """A part as damage leaves it under its cases, beside the analyses of the whole part."""
    found = under_all(prepared_for(broken, airframe.setting), airframe, broken, [a.case for a in whole])
    return [replace(left, whole=a) for left, a in zip(found, whole, strict=True)]


def what_is_left(airframe: Airframe, part: Part) -> Left:
    """What a checked part with marks of damage still holds; without marks all of it."""
    asked = _asked(part)
    broken = as_damaged(taken_along(part))
    whole = list(under_all(prepared_for(part, airframe.setting), airframe, part, list(part.cases)))
    parted = parted_at(broken) if part.damage else None
    if parted is not None:
        return _in_two(whole, part, parted, asked)
    try:
        left = as_left(airframe, broken, whole)
        after = [verdict_of(b) for b in left]
    except (IndexError, ValueError, np.linalg.LinAlgError):  # marks that leave slivers the section cannot be made of
        log.exception("what is left of %s cannot be computed", part.id)
        message = "leave a section that cannot be computed: mark less of it, or a clean break"
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
    bend, twist = stiffness_left(whole[0], left[0])
    grams = [a.prepared.grams.sum(0) for a in (whole[0], left[0])]
    air = [c for c in cases if c.in_the_air] or cases
    loses = min(air, key=lambda c: c.left.typ / max(c.whole.typ, 1e-9))
    strength = Band(**{n: min(100 * getattr(loses.left, n) / max(loses.whole.typ, 1e-9), 100.0 if part.damage else 1e9)
                       for n in ("typ", "low", "high")})  # fmt: skip
    share = min(1.0, *(c.left.low / c.asked for c in air))
    fly, says = _flies(part, air, strength.typ, share)
    return Left(
        cases=cases, bend_percent=bend, twist_percent=twist, lost_g=band(grams[0] - grams[1], Inputs([])),
        strength_percent=strength, speed_share=math.sqrt(max(share, 0.0)), fly=fly, says=says, asked=asked,
        measured=_measured(part),
        cautions=cautions_for(["key:flying_repaired", "key:battery_crash"]),
    )  # fmt: skip


def _asked(part: Part) -> list[Asked]:
    return [
        Asked(
            mark_id=q.mark.id, line_id=q.layer.id, at_mm=q.at_mm, found=q.found or "open",
            says=q.layer.name or phrasing.stock_name(q.layer),
        )
        for q in questions(part)
    ]  # fmt: skip


def _in_two(whole: list[Analysis], part: Part, at: float, asked: list[Asked]) -> Left:
    """A part that is in two pieces carries nothing."""
    none = Band(typ=0.0, low=0.0, high=0.0)
    where = "it has come apart" if at == 0 else f"broken in two, {in_mm(at, F0)} from the root"
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
        speed_share=0.0, fly="no", says=f"Do not fly: {where}.", asked=asked, measured=_measured(part),
        cautions=cautions_for(["key:flying_repaired", "key:battery_crash"]),
    )  # fmt: skip


def grounded_by(part: Part) -> str | None:
    """Why a damaged part is not flown whatever the figures say, the gravest reason first."""
    names = {la.id: la.name or phrasing.stock_name(la) for la in part.layers}
    found: list[tuple[int, str]] = []
    for mark in part.damage:
        if isinstance(mark, BreakMark):
            found.append((0, f"broken through, {in_mm(mark.at_mm, F0)} from the root"))
        elif isinstance(mark, BarMark):
            name, at = names.get(mark.of, "a bar"), f"{in_mm(mark.at_mm, F0)} from the root"
            how = {"broken": "is broken", "split": "is split: bind it first", "pulled_out": "is loose in its slot"}
            found.append((1, f"{name} {how[mark.how]}, {at}"))
        elif isinstance(mark, CrackMark):
            bar = crack_to_a_bar(part, mark)
            if bar is not None:
                found.append((2, f"a crack reaches {bar}, {in_mm(mark.at_mm, F0)} from the root"))
        elif isinstance(mark, LooseMark):
            found.append((3, f"{names.get(mark.of, 'a joint')} has come apart"))
    for q in questions(part):
        name, at = q.layer.name or phrasing.stock_name(q.layer), f"{in_mm(q.at_mm, F0)} from the root"
        if isinstance(q.mark, BreakMark):
            continue
        if q.found == "broken":
            found.append((1, f"{name} is broken, {at}"))
        elif q.found is None and isinstance(q.mark, BentMark):
            found.append((4, f"look first whether {name} cracked in the bend"))
        elif q.found is None:
            found.append((4, f"look first whether {name} is whole, {at}"))
    if not found:
        return None
    gravest = min(found)[1]
    return gravest if len(found) == 1 else f"{gravest}, and {len(found) - 1} more"


_CAUTION = "This is a caution, not a clearance to fly"


def _flies(
    part: Part, air: list[CaseLeft], percent: float, share: float
) -> tuple[Literal["sure", "likely", "reduced", "no"], str]:
    """Whether a damaged part may fly, and the sentence that says so: by rule first, then by what it needs."""
    rule = grounded_by(part)
    if rule is not None:
        told = "" if all(q.found for q in questions(part)) else " if all is broken that was not looked at"
        return "no", f"Do not fly: {rule}. {percent:.0f} % of its strength is left on the bench{told}."
    worst = max(air, key=lambda c: (GRADES.index(c.enough), -c.left.typ / c.asked))
    breaks = f"breaks at {worst.left.typ:.2g} × “{worst.name}”, needs {worst.asked:g}"
    if worst.enough == "sure":
        return "sure", (
            f"Still strong enough with the damage you marked — {breaks}. Unmarked damage is not counted: "
            f"inspect the whole "
            "part, load-test it and follow local rules."
        )
    if worst.enough == "likely":
        return "likely", f"Likely still strong enough — {breaks}. Load-test it before flying."
    if worst.enough == "doubtful" and share >= _LEAST_LOAD:
        return "reduced", (
            f"Gently only — it keeps {percent:.0f} % of its strength, {breaks}: no more than "
            f"{100 * math.sqrt(share):.0f} % of that speed, no gusts. {_CAUTION}; repair it first if you can."
        )
    undamaged = " It was not enough undamaged either." if worst.whole.typ < worst.asked else ""
    return "no", f"Do not fly: {breaks}; only {percent:.0f} % of its strength is left.{undamaged}"


_LEAST_LOAD = 0.35
"""[J] Below this share of its loads an airframe is not flown as it is: gusts and a landing ask that much."""


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
                    f"{abs(mark.twist_deg):g}° of twist that stayed, nose {'up' if mark.twist_deg > 0 else 'down'}: "
                    "the halves lift differently and it rolls by itself. Straighten it, or trim and fly gently."
                )
    return out
