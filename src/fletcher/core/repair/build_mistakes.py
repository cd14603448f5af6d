"""Slips while building, and old glue: what they cost, what mends them, and what must not be done.

A slip is a mark of damage of its usual size at its place; what it costs and what mends it are computed as for a crash.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache, partial
from typing import Annotated, Any

from pydantic import Field, TypeAdapter

from fletcher.core.common.model import Result
from fletcher.core.document.airframe import (
    Airframe,
    BarLayer,
    FilmLayer,
    HingeLayer,
    JointLayer,
    Layer,
    Part,
    StripLayer,
)
from fletcher.core.document.cases import Along, Document, Key
from fletcher.core.document.damage import Mark
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.joints.butt_and_scarf import REACHED
from fletcher.core.materials.reader import Listed, record, records
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import Band
from fletcher.core.repair.candidates import fixes_for, glues_for
from fletcher.core.repair.damage_model import found_whole, thickness_at
from fletcher.core.repair.evaluate import computed
from fletcher.core.repair.inspection import Left, what_is_left
from fletcher.core.repair.recipe import Recipe
from fletcher.core.repair.repair_table import steps_of
from fletcher.core.repair.schema import MendWish
from fletcher.core.repair.single_fix import Trials
from fletcher.core.section.assembly import line_span
from fletcher.core.validation.airframe import check_part

REMEDIES = 3
"""So many remedies are computed in full."""


@dataclass(frozen=True)
class Slip:
    """A kind of slip: the kind of mark that stands for it, what must not be done, and the check after."""

    key: str
    title: str
    mark: str
    says: str
    never: Listed
    check: str


@cache
def slips() -> dict[str, Slip]:
    """All kinds of slip by key."""
    return records("slips.csv", partial(record, Slip))


class SlipWish(Document):
    """A slip at a place, over so long a stretch."""

    slip: Key
    at_mm: Along
    long_mm: Annotated[float, Field(ge=1, le=1000)] = 30.0


class Remedy(Result):
    """A remedy: how, with the steps of the table, what the part then holds of what it did, grams and minutes."""

    says: str
    steps: list[str]
    strength_percent: Band
    more_g: Band
    minutes: Band
    looks: int
    recipe: Recipe


class SlipAnswer(Result):
    """What a slip costs, what mends it, what must not be done, and the check after. `over_old` is what seams reach on
    faces with old glue, scraped, of what they would on clean ones."""

    title: str
    says: str
    mark: Mark
    left: Left
    remedies: list[Remedy]
    never: list[str]
    check: str
    over_old_percent: Band


_LINES: dict[str, tuple[type, ...]] = {
    "loose": (HingeLayer, JointLayer), "bar": (BarLayer,), "peeled": (FilmLayer, StripLayer),
}  # fmt: skip


def _line(slip: Slip, part: Part, at: float) -> Layer:
    """The line that a slip is of: the first of its sort that runs there."""
    sorts = _LINES[slip.mark]
    wanted = sorts[:1] if slip.key == "hinge_cut" else sorts[1:] if slip.key == "crooked" else sorts
    there = [la for la in part.layers if isinstance(la, wanted) and la.enabled]
    over = [la for la in there if isinstance(la, JointLayer) or _runs(la, part, at)]
    if not over:
        message = f"needs a {wanted[0].__name__.removesuffix('Layer').lower()} at that position"
        raise InvalidDocument([Problem(path="wish.slip", message=message, value=slip.title)])
    return over[0]


def _runs(la: Layer, part: Part, at: float) -> bool:
    start, end = line_span(la, part)
    return start <= at <= end


def _mark(slip: Slip, wish: SlipWish, part: Part) -> Mark:
    """The mark of its usual size that stands for a slip."""
    at = min(wish.at_mm, part.span_mm - 2)
    half = 0.5 * wish.long_mm
    deep = thickness_at(part, at)
    span = {"start_mm": max(at - half, 0.0), "end_mm": min(at + half, part.span_mm)}
    values: dict[str, Any] = {"kind": slip.mark, "id": "slip"}
    if slip.mark == "crack":
        values |= {"at_mm": at, "from_percent": 30, "to_percent": 50, "depth_mm": 0.2 * deep, "skins_torn": True}
    elif slip.mark == "missing":
        values |= {**span, "face": "upper", "from_percent": 40, "to_percent": 55, "depth_mm": 0.4 * deep}
    elif slip.mark == "crush":
        values |= {**span, "face": "upper", "from_percent": 25, "to_percent": 50, "depth_mm": 0.15 * deep}
    elif slip.mark == "bar":
        values |= {"of": _line(slip, part, at).id, "at_mm": at, "how": "pulled_out"}
    elif slip.mark == "peeled":
        values |= {"of": _line(slip, part, at).id, **span}
    elif slip.mark == "loose":
        values |= {"of": _line(slip, part, at).id}
        if slip.key == "hinge_cut":
            values |= span
    else:
        values |= {"tip_mm": 5.0, "twist_deg": 1.0}
    return TypeAdapter(Mark).validate_python(values)


def slip(airframe: Airframe, part: Part, wish: SlipWish) -> SlipAnswer:
    """What a slip on a checked part costs, and its remedies.

    Raises
    ------
    InvalidDocument
        If there is no such slip, or the part has nothing there that it could happen to.
    """
    known = slips()
    if wish.slip not in known:
        raise InvalidDocument([Problem(path="wish.slip", message=f"is one of {', '.join(known)}", value=wish.slip)])
    kind = known[wish.slip]
    mark = found_whole(_mark(kind, wish, part), part)  # a builder sees the bars that he lays
    hurt = part.model_copy(update={"damage": (mark,)})
    problems = [p.model_copy(update={"path": "wish." + p.path.split(".")[-1]}) for p in check_part(hurt, reference())]
    if problems:
        raise InvalidDocument(problems)
    r = REACHED["over_old"]
    return SlipAnswer(
        title=kind.title, says=kind.says, mark=mark, left=what_is_left(airframe, hurt),
        remedies=_remedies(airframe, hurt, mark), never=list(kind.never), check=kind.check,
        over_old_percent=Band(low=100 * r.low, typ=100 * r.typ, high=100 * r.high),
    )  # fmt: skip


def _remedies(airframe: Airframe, hurt: Part, mark: Mark) -> list[Remedy]:
    """The plainest remedies that give back what the part held, or else the strongest: one of each way."""
    glues = glues_for(hurt) or ["epoxy_30min"]
    trials = Trials(airframe, hurt, glues)
    fixes = [f for f in fixes_for(mark, hurt) if f.way != "leave"]
    best: dict[str, tuple[float, Recipe]] = {}
    for fix in fixes:
        tried = trials.tried(mark, fix)
        if tried is None:
            continue
        share = (tried.holds[..., -1] / trials.whole_holds[:, None]).min(0)
        g = int(share.argmax())
        score = min(float(share[g]), 1.0) - 0.003 * tried.minutes - 0.02 * tried.grams
        key = fix.way if fix.over == "none" else f"{fix.way} {fix.over}"
        if key not in best or score > best[key][0]:
            best[key] = score, trials.recipe((fix,), g)
    out = []
    for _, recipe in sorted(best.values(), key=lambda b: -b[0])[:REMEDIES]:
        o = computed(airframe, hurt, recipe, MendWish()).option
        steps = [s.name for s in steps_of(recipe.fixes[0], mark, hurt)]
        out.append(
            Remedy(says=o.fixes[0].says, steps=steps, strength_percent=o.strength_percent, more_g=o.more_g,
                   minutes=o.minutes, looks=o.looks, recipe=recipe)
        )  # fmt: skip
    return out
