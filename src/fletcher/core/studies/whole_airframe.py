"""A whole airframe at once: from a type, a span, a mass and a speed to placed parts whose lay-ups hold.

Sizes come from the proportions of the type; each part is tried in the constructions that can be made with what is at
hand, sized to its load cases (`sizing`), the usual one for the type first: it is taken if it holds and is light
enough, else the lightest that holds.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from typing import Annotated

from pydantic import Field

from fletcher.core.common.model import Result
from fletcher.core.common.quantities import F0, F1, G2, in_g, in_m_s, in_mm
from fletcher.core.document.airframe import Airframe, ControlEdge, Part, Place
from fletcher.core.document.cases import Case, Document, Name, PullUpCase, TailLoadCase
from fletcher.core.document.defaults import usual_cases
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.materials.tables import reference
from fletcher.core.structure.able_to_fly import speed_for
from fletcher.core.studies.airframe_types import STUFF, TYPES, Stuff, Type, TypeKey, lacking
from fletcher.core.studies.construction_choice import TOOLS, Tool, Wish, pulled, size_for
from fletcher.core.studies.constructions import CONSTRUCTIONS, Kind
from fletcher.core.studies.sizing import Sized, sized
from fletcher.core.validation.airframe import check_part

_FLIES_ABOVE = 1.5
"""The top speed must be at least so many times the speed from which it flies."""
_CL = 0.9
_LIGHT = 0.3
"""[J] A construction that weighs less than so much of the airframe is taken if it is the usual one for the type."""


class NewWish(Document):
    """What is wanted: a type at a full span; the mass ready to fly, or the wing loading that makes it; the top speed;
    the load factor that it must bear (null: what its speed gives); what is there. `at_hand` empty: anything can be
    bought."""

    name: Name
    type: TypeKey = "trainer"
    span_mm: Annotated[float, Field(ge=150, le=8000, description="Full span, or length of a test piece")]
    all_up_mass_g: Annotated[float | None, Field(ge=5, le=50_000)] = None
    wing_loading_g_dm2: Annotated[float | None, Field(ge=2, le=250)] = None
    top_speed_m_s: Annotated[float, Field(ge=3, le=120)] = 20.0
    load_factor: Annotated[float | None, Field(ge=1, le=60)] = None
    at_hand: Annotated[tuple[Stuff, ...], Field(max_length=5)] = ()
    tools: Annotated[tuple[Tool, ...], Field(max_length=4)] = ("iron", "hot_wire", "resin", "vacuum")


class Reason(Result):
    """Why a part is as it is: its construction, the steps from the usual lay-up, what was lighter or heavier, what has
    to be bought; whether it holds."""

    part_id: str
    part: str
    construction: str
    why: str
    says: list[str]
    holds: bool
    to_buy: list[str]


class NewAirframe(Result):
    """An airframe ready for the Shelf, and the reasons of its parts."""

    airframe: Airframe
    why: str
    reasons: list[Reason]


class PartStep(Result):
    """How far it is: the part that is sized now, of how many."""

    doing: str
    done: int
    of: int


@dataclass(frozen=True)
class Plan:
    """Sizes of an airframe of a type, mm and mm²; x is behind the nose."""

    type: Type
    mass_g: float
    area: float
    half: float
    root: float
    tip: float
    mean: float
    wing_x: float
    tail_x: float = 0.0
    tail_half: float = 0.0
    tail_chord: float = 0.0
    fin_high: float = 0.0
    fin_chord: float = 0.0
    fin_x: float = 0.0


def plan_for(wish: NewWish) -> Plan:
    """The sizes of the wished airframe by the proportions of its type."""
    t = TYPES[wish.type]
    area = wish.span_mm**2 / t.aspect
    mass = wish.all_up_mass_g or (wish.wing_loading_g_dm2 or 0) * area * 1e-4
    root = 2 * area / wish.span_mm / (1 + t.taper)
    tip = root * t.taper
    mean = 2 / 3 * root * (1 + t.taper + t.taper**2) / (1 + t.taper)
    plan = Plan(t, mass, area, 0.5 * wish.span_mm, root, tip, mean, wing_x=t.nose * mean)
    arm = t.arm * mean
    if t.volume_h:
        tail_area = t.volume_h * area * mean / arm
        half = 0.5 * math.sqrt(4.0 * tail_area)  # aspect ratio 4
        chord = 0.5 * tail_area / half
        plan = replace(plan, tail_half=half, tail_chord=chord, tail_x=plan.wing_x + 0.25 * mean + arm - 0.25 * chord)
    if t.volume_v:
        lever = arm or 0.5 * t.sweep * plan.half + 0.5 * tip  # a flying wing carries its fins at the tips
        fin_area = t.volume_v * area * wish.span_mm / lever / (1 if arm and t.key != "twin_boom" else 2)
        high = math.sqrt(1.5 * fin_area)
        chord = fin_area / high
        at = plan.tail_x + 0.5 * plan.tail_chord - 0.5 * chord if arm else t.sweep * plan.half + 0.3 * tip
        plan = replace(plan, fin_high=high, fin_chord=chord, fin_x=plan.wing_x * (not arm) + at)
    return plan


def make(wish: NewWish) -> Iterator[PartStep | NewAirframe]:
    """Make the wished airframe: progress part by part, at last the airframe.

    Raises
    ------
    InvalidDocument
        Where the wish is impossible: mass and wing loading both or neither, too slow to fly, no construction at all.
    """
    _possible(wish)
    plan = plan_for(wish)
    bare = Airframe(name=wish.name, all_up_mass_g=round(plan.mass_g, 1), top_speed_m_s=wish.top_speed_m_s)
    jobs = _jobs(wish, plan)
    made = _Made(wish, bare)
    for n, job in enumerate(jobs):
        for key in job.tried(wish):
            yield PartStep(doing=f"{job.name}: {CONSTRUCTIONS[key].title}", done=n, of=len(jobs))
            if made.attempt(job, key):
                break
        made.settle(job)
    yield NewAirframe(airframe=made.airframe, why=plan.type.why, reasons=made.reasons)


def _possible(wish: NewWish) -> None:
    if (wish.all_up_mass_g is None) == (wish.wing_loading_g_dm2 is None):
        raise InvalidDocument([Problem(path="all_up_mass_g", message="give the mass or the wing loading, one of them")])
    plan = plan_for(wish)
    if not 5 <= plan.mass_g <= 50_000:
        message = f"makes {in_g(plan.mass_g, F0)}; an airframe weighs between {in_g(5)} and {in_g(50_000, F0)}"
        raise InvalidDocument([Problem(path="wing_loading_g_dm2", message=message)])
    if wish.type == "plank":
        return
    stall = speed_for(plan.mass_g, plan.area * 1e-6, _CL, 1.0)
    if wish.top_speed_m_s < _FLIES_ABOVE * stall:
        message = (
            f"is too slow: at this span and mass it flies only from about {in_m_s(stall, G2)}; enter at least "
            f"{in_m_s(_FLIES_ABOVE * stall, G2)}, or make it lighter or larger"
        )
        raise InvalidDocument([Problem(path="top_speed_m_s", message=message, value=in_m_s(wish.top_speed_m_s, G2))])


@dataclass(frozen=True)
class _Job:
    """A part to be made: the kind of its load cases, constructions, sizes and place."""

    id: str
    name: str
    kind: Kind
    cases: str
    keys: tuple[str, ...]
    span: float
    root: float
    tip: float
    place: Place
    both: bool = False
    setback: float | None = None
    control: ControlEdge | None = None
    tail_area_cm2: float = 0.0
    diameters: tuple[float, ...] = ()

    def tried(self, wish: NewWish) -> tuple[str, ...]:
        """The constructions that can be made with what is there; where none can, the usual one."""
        fits = tuple(k for k in self.keys if not lacking(k, frozenset(wish.at_hand), frozenset(wish.tools)))
        return fits or self.keys[:1]


def _jobs(wish: NewWish, p: Plan) -> list[_Job]:
    t = p.type
    if t.key == "plank":
        width = max(20.0, round(0.24 * wish.span_mm))
        return [_Job("plank", "Test plank", "plank", "plank", ("plank",), wish.span_mm, width, width, Place())]
    high = 0.33 * p.root
    on_top = Place(x_mm=round(p.wing_x), z_mm=round(0.5 * high) if t.bodies == ("box_fuselage",) else 0,
                   dihedral_deg=t.dihedral_deg)  # fmt: skip
    edge = ControlEdge(start_mm=round(t.control[0] * p.half), end_mm=round(t.control[1] * p.half), chord_percent=22)
    jobs = [
        _Job("wing", "Wing half", "wing", "wing", t.wings, round(p.half), round(p.root), round(p.tip), on_top, True,
             round(t.sweep * p.half), edge)
    ]  # fmt: skip
    if p.tail_half:
        jobs.append(
            _Job("tail", "Tail half", "tail", "tail", t.tails, round(p.tail_half), round(p.tail_chord),
                 round(0.85 * p.tail_chord), Place(x_mm=round(p.tail_x)), True, round(0.15 * p.tail_chord),
                 tail_area_cm2=0)
        )  # fmt: skip
    if p.fin_high:
        out = 0.0 if t.volume_h and t.key != "twin_boom" else (p.half if not t.volume_h else _boom_y(p))
        upright = Place(x_mm=round(p.fin_x), y_mm=round(out), dihedral_deg=90)
        jobs.append(
            _Job("fin", "Fin", "tail", "tail", t.tails, round(p.fin_high), round(1.1 * p.fin_chord),
                 round(0.9 * p.fin_chord), upright, out > 0, round(0.2 * p.fin_chord))
        )  # fmt: skip
    if t.bodies:
        jobs += _bodies(p)
    return jobs


def _boom_y(p: Plan) -> float:
    return round(min(p.tail_half, 0.35 * p.half))


def _bodies(p: Plan) -> Iterator[_Job]:
    """What carries the tail, from a third of the wing chord to the end of the tail, and what is ahead of that."""
    t = p.type
    at = round(p.wing_x + 0.3 * p.root)
    length = round(p.tail_x + p.tail_chord - at)
    area = 2 * p.tail_half * p.tail_chord / 100
    twin = t.key == "twin_boom"
    tubes = (6.5, 8.5, 10.5, 12.5) if t.bodies == ("tube_boom",) else ()
    high = 10.5 if tubes else max(28.0, round(0.33 * p.root))
    place = Place(x_mm=at, y_mm=_boom_y(p) if twin else 0)
    yield _Job("boom" if tubes else "fuselage", "Tail boom" if tubes else "Rear fuselage", "fuselage", "fuselage",
               t.bodies, length, high, round(0.55 * high) if not tubes else high, place, twin,
               tail_area_cm2=area / (2 if twin else 1), diameters=tubes)  # fmt: skip
    nose = ("box_fuselage", "doubled_plate", "crossed_plates") if tubes else t.bodies
    front = max(28.0, round(0.33 * p.root))
    yield _Job("nose", "Nose", "fuselage", "nose", nose, max(60, at), round(0.8 * front), front, Place())


@dataclass
class _Made:
    """What has been made so far."""

    wish: NewWish
    airframe: Airframe
    reasons: list[Reason] = field(default_factory=list)
    tried: list[tuple[str, Sized]] = field(default_factory=list)

    def attempt(self, job: _Job, key: str) -> bool:
        """Size the part of a job in one construction; one that cannot be made at this size is passed over. True where
        it holds and is light enough, so that nothing else needs to be tried."""
        for diameter in (job.diameters or (None,)) if key == "tube_boom" else (None,):
            part = self._part(job, key, diameter)
            if part is None:
                continue
            found = sized(self.airframe.model_copy(update={"parts": (*self.airframe.parts, part)}), part)
            self.tried.append((key, found))
            if found.holds and part.count * found.told.mass_g.typ < _LIGHT * self.airframe.all_up_mass_g:
                return True
        return False

    def settle(self, job: _Job) -> None:
        """Take the usual one if it holds and is light enough, else the lightest that holds, else the strongest; and say
        why."""
        if not self.tried:
            message = f"leaves no construction for {job.name.lower()}: choose another type, or change span or mass"
            raise InvalidDocument([Problem(path="span_mm", message=message, value=in_mm(self.wish.span_mm, F0))])
        key, found = min(self.tried, key=_rank)
        self.airframe = self.airframe.model_copy(update={"parts": (*self.airframe.parts, found.part)})
        self.reasons.append(_reason(job, key, found, self.tried, self.wish))
        self.tried = []

    def _part(self, job: _Job, key: str, diameter: float | None) -> Part | None:
        way = CONSTRUCTIONS[key]
        chords = (diameter, diameter) if diameter else (job.root, job.tip)
        size = size_for(way, Wish(job.kind, job.span, chords[0], chords[1], self.airframe.all_up_mass_g,
                                  self.airframe.top_speed_m_s))  # fmt: skip
        if size is None:
            return None
        part = way.part(size, self.airframe.all_up_mass_g, self.airframe.top_speed_m_s)
        part = part.model_copy(update={
            "id": job.id, "name": job.name, "place": job.place, "control": job.control,
            "hand": "both" if job.both else "single",
            "tip_setback_mm": part.tip_setback_mm if job.setback is None else job.setback,
        })  # fmt: skip
        part = part.model_copy(update={"cases": tuple(self._cases(job, part))})
        return None if check_part(part, reference()) else part

    def _cases(self, job: _Job, part: Part) -> Iterator[Case]:
        for case in usual_cases(self.airframe, part, job.cases):
            if isinstance(case, TailLoadCase) and job.tail_area_cm2:
                yield case.model_copy(update={"area_cm2": max(1.0, round(job.tail_area_cm2, 1))})
            elif isinstance(case, PullUpCase) and self.wish.load_factor:
                yield pulled(case, self.airframe, part, self.wish.load_factor)
            else:
                yield case


def _grams(g: float) -> str:
    return in_g(g, F0 if g >= 10 else F1)


def _rank(tried: tuple[str, Sized]) -> tuple[bool, float]:
    found = tried[1]
    return not found.holds, found.told.mass_g.typ if found.holds else -found.told.margin.low


def _reason(job: _Job, key: str, found: Sized, tried: list[tuple[str, Sized]], wish: NewWish) -> Reason:
    way = CONSTRUCTIONS[key]
    says = []
    each = f"{_grams(found.told.mass_g.typ)}{' each' if job.both else ''}"
    if not found.holds:
        says.append(f"Not sure to hold: {found.short}")
    elif len(tried) > 1:
        says.append(f"The lightest of those tried that holds, {each}")
    else:
        says.append(f"Usual for this type, and it holds: {each}")
    if found.says:
        says.append(f"Sized with {'; '.join(found.says)}")
    others = sorted((t for t in tried if t[0] != key), key=_rank)
    for other, s in others[:2]:
        weight = _grams(s.told.mass_g.typ)
        says.append(f"{CONSTRUCTIONS[other].title}: {weight}" + ("" if s.holds else f", but {s.short}"))
    lacks = lacking(key, frozenset(wish.at_hand), frozenset(wish.tools))
    words = {**{str(k): v for k, v in STUFF.items()}, **TOOLS}
    return Reason(
        part_id=job.id, part=job.name, construction=way.title, why=way.why, says=says, holds=found.holds,
        to_buy=[words[k] for k in lacks],
    )  # fmt: skip
