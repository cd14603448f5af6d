r"""The hinge chooser: throw by geometry, what bends back, what tears out, how long it lasts; every method ranked.

About a hinge line a height h from a face, edges that lean apart by β together and stand g apart let a surface turn
towards that face by θ = β + 2 atan(g/2h) before their far corners meet; away from it nothing meets. A method bends back
with kθ; the wind's hinge moment M_h pulls at the line with M_h/0.35 c (centre of pressure of a thin flap, Glauert 1927)
and the rod with M_h/a. A stiff surface spreads the rod's pull along the line like an eccentric load on a strip,
q = P/L (1 + 6 e/L) at the nearer end (Navier); what is stuck on peels from there.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field

from fletcher.core.adhesion.adhesives import adhesives, foam_families, on_foams
from fletcher.core.adhesion.cautions import Caution, cautions_for
from fletcher.core.adhesion.curing import sampled
from fletcher.core.common.arrays import Array
from fletcher.core.common.model import Result
from fletcher.core.common.quantities import F1, G, in_g, in_mm, number
from fletcher.core.document.cases import Document, Key
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.joints.hinge_making import (
    CLOTH_DEG,
    LIVE_WALL,
    SUN_HOURS_A_MONTH,
    cloth_hinge,
    live_wall,
    steps,
    sunned_share,
)
from fletcher.core.materials.materials import Catalogue, Range
from fletcher.core.materials.tables import table_rows
from fletcher.core.materials.uncertainty import Band, Inputs, band

TEAR_SAFETY = 3.0
"""[J] What hinges should hold over the pull of wind and rod: knocks, and peel that starts at an end."""

STALL_SHARE = 0.5
"""[J] Share of a servo's stall torque to plan with."""

BACK_SHARE = 0.3
"""[J] Share of what the servo gives that a hinge may take for itself."""

POINT_EVERY_MM = 80.0
"""Spacing of point hinges and fibre tabs, at least two."""

PRESSURE_AT = 0.35
"""[J] Where the wind acts on a deflected surface, behind its hinge, over its chord."""


@dataclass(frozen=True)
class Hinge:
    """A method of hinging; values per 100 mm of hinge line."""

    key: str
    name: str
    suits: frozenset[str]
    lines: tuple[str, ...]
    thickness_mm: Range
    chord_mm: Range
    mass_g: Range
    k: Range
    tear_N: Range
    cycles: Range
    grams: Range
    minutes: Range
    skill: int
    sealed: bool
    bevel: str
    sun: str
    checks: str
    mistakes: str
    repair: str
    glues: tuple[str, ...]
    keep_out: tuple[str, ...]
    keep_out_why: str
    hazards: tuple[str, ...]
    grade: str

    @property
    def points(self) -> bool:
        """Whether it is made of single hinges, not of one line."""
        return self.key in ("point_nylon_pinned", "fibre_ca")


@cache
def hinges() -> dict[str, Hinge]:
    """All methods by their keys."""
    ranges = (
        "surface_thickness_mm", "control_surface_chord_mm", "all_up_mass_g", "tear_out_N_per_100mm",
        "rotational_stiffness_N_mm_per_rad_per_100mm", "cycles_to_failure_log10", "mass_g_per_100mm",
        "time_to_make_min_per_100mm",
    )  # fmt: skip
    return {row["key"]: _hinge(row) for row in table_rows("hinges.csv", ranges)}


def _hinge(row: dict[str, Any]) -> Hinge:
    def listed(name: str) -> tuple[str, ...]:
        return tuple(k for k in row[name].split(";") if k)

    return Hinge(
        key=row["key"], name=row["name"], suits=frozenset(listed("suits")), lines=listed("hinge_line_positions"),
        thickness_mm=row["surface_thickness_mm"], chord_mm=row["control_surface_chord_mm"],
        mass_g=row["all_up_mass_g"], k=row["rotational_stiffness_N_mm_per_rad_per_100mm"],
        tear_N=row["tear_out_N_per_100mm"], cycles=row["cycles_to_failure_log10"], grams=row["mass_g_per_100mm"],
        minutes=row["time_to_make_min_per_100mm"], skill=int(row["skill_1easy_5hard"]),
        sealed=row["gap_sealed"].startswith("yes"), bevel=row["bevel_rule_for_throw"], sun=row["uv_life"],
        checks=row["checks"], mistakes=row["common_mistakes"], repair=row["repair_when_torn"],
        glues=listed("adhesives_used"), keep_out=listed("adhesives_to_avoid"), keep_out_why=row["avoid_reason"],
        hazards=listed("hazard_keys"), grade=row["confidence"],
    )  # fmt: skip


class HingeNeed(Document):
    """A surface to be hinged: what it is made of (a foam's key, composite, balsa, board, fluted), its sizes, where the
    line lies, how its edges are cut, the throw that is wanted, the hinge moment of the wind and the servo."""

    made_of: Key = "epp_30"
    thickness_mm: Annotated[float, Field(ge=0.5, le=60)] = 6.0
    chord_mm: Annotated[float, Field(ge=5, le=600)] = 42.0
    length_mm: Annotated[float, Field(ge=10, le=3000)] = 420.0
    line: Literal["top", "centre", "bottom"] = "top"
    bevel_deg: Annotated[float, Field(ge=0, le=120, description="Total bevel angle of both edges")] = 45.0
    gap_mm: Annotated[float, Field(ge=0, le=10)] = 0.5
    up_deg: Annotated[float, Field(ge=0, le=80)] = 20.0
    down_deg: Annotated[float, Field(ge=0, le=80)] = 20.0
    moment_N_mm: Annotated[float, Field(ge=0, le=100_000)] = 20.0
    horn_arm_mm: Annotated[float, Field(ge=3, le=80)] = 12.0
    servo: Key = "servo_9g"
    all_up_mass_g: Annotated[float, Field(ge=20, le=25_000)] = 900.0
    horn_mm: Annotated[
        float | None, Field(ge=0, le=3000, description="Horn from the nearer end of the line; null: in its middle")
    ] = None
    sun_hours: Annotated[float, Field(ge=0, le=24_000, description="In the sun in all, unpainted")] = 0.0
    cloth_deg: Annotated[
        float | None, Field(ge=0, le=90, description="Cloth angle from square to the hinge line; null: usual angle")
    ] = None


class Throw(Result):
    """How far a surface turns before its edges meet, degrees (None: nothing meets), and by what the edges must lean,
    or how far stand apart, for the wanted throw."""

    up_deg: float | None
    down_deg: float | None
    enough: bool
    bevel_needed_deg: float
    gap_needed_mm: float
    says: str


class ClothAngle(Result):
    """A hinge cloth turned by an angle from across the line: what it bends back with at full throw, and what pulls its
    web apart and shears it along the line."""

    deg: float
    back_N_mm: Band
    pulls_N: Band
    shears_N: Band


class HingeChoice(Result):
    """One method for a surface: what rules it out, what it takes of the servo, what it holds, and how it is made."""

    key: str
    name: str
    vetoes: list[str]
    back_N_mm: Band
    servo_share: Band
    """Of what the servo has to plan with."""
    tears_N: Band
    margin: Band
    """What tears it out, or peels it from an end, over the pull on it, with no safety; the lesser of both."""
    gives: Literal["tears", "peels"]
    """Which of the two comes first, typical."""
    sun_left: Band
    """Share of its strength that the sun leaves."""
    cloth: list[ClothAngle]
    """Of a cloth hinge its usual angles, and the one that was asked for, side by side."""
    count: int | None
    """So many single hinges; None for one line."""
    sealed: bool
    sun: str
    grams: Band
    minutes: Band
    skill: int
    bevel: str
    checks: str
    mistakes: str
    repair: str
    glues: list[str]
    keep_out: str
    steps: list[str]
    why: str
    points: float
    grade: str
    cautions: list[Caution]


class Hinging(Result):
    """The throw that the geometry leaves, the pull on the hinges, and every method, the best first."""

    throw: Throw
    pull_N: float
    servo_N_mm: float
    choices: list[HingeChoice]
    says: str


def pull_on_hinges(moment: Array, chord_mm: float, arm_mm: float) -> Array:
    """What wind and rod pull at a hinge line, N, at a hinge moment (S,), N·mm, with the horn's arm."""
    return np.asarray(moment / (PRESSURE_AT * chord_mm) + moment / arm_mm)


def pull_on_end(need: HingeNeed) -> float:
    """What wind and rod pull at the end of a hinge line that lies nearer to the horn, N over `END_MM`."""
    long = need.length_mm
    wind, rod = need.moment_N_mm / (PRESSURE_AT * need.chord_mm), need.moment_N_mm / need.horn_arm_mm
    off = 0.0 if need.horn_mm is None else max(long / 2 - need.horn_mm, 0.0)
    return min(END_MM, long) / long * (wind + rod * (1 + 6 * off / long))


def largest_throw(height_mm: float, bevel_deg: float, gap_mm: float) -> float | None:
    """How far a surface turns towards a face `height_mm` from its hinge line before its edges meet, degrees; None where
    the line lies in that face and nothing meets."""
    if height_mm <= 1e-9:
        return None
    return bevel_deg + 2 * math.degrees(math.atan(gap_mm / (2 * height_mm)))


def throw_of(need: HingeNeed) -> Throw:
    """The throw that line, bevel and gap leave; both bevels of a centre line are cut the same on both faces."""
    t = need.thickness_mm
    # turning up closes the upper edges, turning down the lower ones
    heights = {"top": (0.0, t), "centre": (t / 2, t / 2), "bottom": (t, 0.0)}[need.line]
    share = 0.5 if need.line == "centre" else 1.0
    up, down = (largest_throw(h, share * need.bevel_deg, need.gap_mm) for h in heights)
    lacks = [
        (wanted - got, h, wanted)
        for wanted, got, h in ((need.up_deg, up, heights[0]), (need.down_deg, down, heights[1]))
        if got is not None
    ]
    short, height, wanted = max(lacks, default=(0.0, t, 0.0))
    bevel = need.bevel_deg + max(short, 0.0) / share
    rest = max(wanted - share * need.bevel_deg, 0.0)
    gap = max(need.gap_mm, 2 * height * math.tan(math.radians(min(rest, 170) / 2))) if short > 0 else need.gap_mm
    if short <= 0:
        says = "✓ Both throws are free."
    else:
        side = "up" if up is not None and need.up_deg - up == short else "down"
        says = (
            f"Binds {side} {short:.0f}° too soon: let the edges lean apart by {bevel:.0f}° together, or stand "
            f"{in_mm(gap, F1)} apart."
        )
    return Throw(up_deg=up, down_deg=down, enough=short <= 1e-9, bevel_needed_deg=bevel, gap_needed_mm=gap, says=says)


END_MM = 25.0
"""[J] Length of a stuck line over which its end resists peel."""

_STUCK = ("tape", "film")
"""What a method's key begins with where it is stuck on and peels from its ends."""

PEELS_AT = Range(5.0, 12.0, 30.0)
"""[J] Force at an end of a stuck strip that starts its peel, N."""

FADED = 0.3
"""[J] Less than this share of its strength left, a method is not to be begun."""

_WORDS = ("composite", "balsa", "board", "fluted")


def _family(need: HingeNeed, catalogue: Catalogue) -> str:
    key = need.made_of
    if key in ("composite", "balsa"):
        return key
    if key in ("board", "fluted"):
        return {"board": "PFB_PAPER", "fluted": "FLUTED_PP"}[key]
    if key in catalogue.foams and catalogue.foams[key].family == "balsa":
        return "balsa"
    if key not in foam_families():
        message = f"has no hinge data: choose a foam or one of {', '.join(_WORDS)}"
        raise InvalidDocument([Problem(path="made_of", message=message, value=repr(key))])
    return foam_families()[key]


def hinge(need: HingeNeed, catalogue: Catalogue) -> Hinging:
    """All methods for a surface, ranked.

    Raises
    ------
    InvalidDocument
        If the material or the servo is unknown.
    """
    family = _family(need, catalogue)
    servo = catalogue.fittings.get(need.servo)
    if servo is None or servo.torque_N_mm is None:
        raise InvalidDocument(
            [Problem(path="servo", message="is not a servo in the Stockroom", value=repr(need.servo))]
        )
    # the rod hands on the servo's torque by arms of much the same length: what it gives is planned at the horn
    gives = sampled(servo.torque_N_mm, "servo/" + servo.key) * STALL_SHARE
    throw = throw_of(need)
    pull = float(pull_on_hinges(np.array(need.moment_N_mm), need.chord_mm, need.horn_arm_mm))
    wall = live_wall(need.thickness_mm, catalogue.sheets.values())
    choices = [_choice(h, need, family, gives, pull, wall) for h in hinges().values()]
    choices.sort(key=lambda c: (bool(c.vetoes), -c.points))
    best = choices[0]
    nothing = f"✕ No hinge suits. Closest: {best.name}, but it {best.vetoes[0]}." if best.vetoes else ""
    return Hinging(
        throw=throw, pull_N=pull, servo_N_mm=float(gives[0]), choices=choices,
        says=nothing or f"{best.name}. {throw.says}",
    )  # fmt: skip


_NEVER = {"attacks": "attacks this foam", "poor_adhesion": "does not stick to it"}


def glues_on(keys: Sequence[str], family: str) -> tuple[list[str], list[tuple[str, str]]]:
    """Adhesives that may be used on a family of foam, by name, with a word where a scrap is to be tried first; and
    those that may not, with why."""
    known, table = adhesives(), on_foams()
    fit, out = [], []
    for key in keys:
        on = table.get((key, family))
        verdict = "ok" if on is None else on.verdict
        if verdict in _NEVER:
            out.append((known[key].name, _NEVER[verdict]))
        else:
            fit.append(known[key].name + (" (try it on a scrap first)" if verdict == "test_first" else ""))
    return fit, out


def _choice(
    h: Hinge, need: HingeNeed, family: str, gives: Array, pull: float, wall: tuple[float, float]
) -> HingeChoice:  # fmt: skip
    key = "hinge/" + h.key
    largest = math.radians(max(need.up_deg, need.down_deg))
    count = max(2, math.ceil(need.length_mm / POINT_EVERY_MM)) if h.points else None
    k, tears = sampled(h.k, key), sampled(h.tear_N, key, 1)
    if h.key in CLOTH_DEG:  # the line's bond tears as the table says, its web as lamination theory
        k, web, _ = cloth_hinge(CLOTH_DEG[h.key] if need.cloth_deg is None else need.cloth_deg)
        tears = np.minimum(tears, web)
    if h.key == LIVE_WALL:
        k, tears = k * wall[0], tears * wall[1]
    back = k * need.length_mm / 100 * largest
    share = (back + need.moment_N_mm) / gives
    left = sunned_share(h.key, family, need.sun_hours / SUN_HOURS_A_MONTH)
    tears = tears * need.length_mm / 100 * left
    margin = tears / max(pull, 1e-6)
    first: Literal["tears", "peels"] = "tears"
    if h.key.startswith(_STUCK):
        peels = sampled(PEELS_AT, key, 2) * left / max(pull_on_end(need), 1e-6)
        first = "peels" if float(peels[0]) < float(margin[0]) else "tears"
        margin = np.minimum(margin, peels)
    vetoes = _vetoes(h, need, family, share, margin)
    if float(left[0]) < FADED:
        vetoes.append(f"keeps only {100 * float(left[0]):.0f} % of its strength in so much sun")
    parts = {
        "servo has torque to spare": 20 * max(0.0, 1 - float(back[0] / gives[0]) / BACK_SHARE),
        "far from tearing out": 15 * min(float(margin[0]) / (3 * TEAR_SAFETY), 1.0),
        "light": 12 / (1 + h.grams.typ * need.length_mm / 100),
        "quick to make": 12 / (1 + h.minutes.typ / 4),
        "lasts": 3 * (h.cycles.typ - 3) * float(left[0]),
        "keeps its strength in the sun": 12 * float(left[0]),
        "seals the gap": 5.0 if h.sealed else 0.0,
        "easy to make": 2.0 * (5 - h.skill),
    }
    best = sorted(parts, key=lambda n: -parts[n])[:2]
    known = adhesives()
    glues, ruled_out = glues_on(h.glues, family)
    glued = [k for k in h.glues if known[k].name not in dict(ruled_out)]
    keep_out = f"{', '.join(known[k].name for k in h.keep_out if k in known)}: {h.keep_out_why}"
    keep_out += "".join(f" Nor {name}, which {why}." for name, why in ruled_out)
    return HingeChoice(
        key=h.key, name=h.name, vetoes=vetoes, back_N_mm=band(back, Inputs([])), servo_share=band(share, Inputs([])),
        tears_N=band(tears, Inputs([])), margin=band(margin, Inputs([])), gives=first,
        sun_left=band(left, Inputs([])), cloth=_cloths(h, need, largest), count=count,
        sealed=h.sealed, sun=h.sun, grams=_scaled(h.grams, need.length_mm), minutes=_scaled(h.minutes, need.length_mm),
        skill=h.skill, bevel=h.bevel, checks=h.checks, mistakes=h.mistakes, repair=h.repair,
        glues=glues,
        keep_out=keep_out, steps=steps(h.key, need.bevel_deg, need.gap_mm, need.line),
        why=vetoes[0] if vetoes else " and ".join(best), points=-1e3 if vetoes else sum(parts.values()), grade=h.grade,
        cautions=cautions_for([*(f"key:{k}" for k in h.hazards), *(f"adhesive:{k}" for k in glued)]),
    )  # fmt: skip


def _cloths(h: Hinge, need: HingeNeed, largest: float) -> list[ClothAngle]:
    """Both usual angles of a hinge cloth, and the one that was asked for."""
    if h.key not in CLOTH_DEG:
        return []
    out = []
    for deg in sorted({*CLOTH_DEG.values(), *(() if need.cloth_deg is None else (need.cloth_deg,))}):
        k, pulls, shears = (v * need.length_mm / 100 for v in cloth_hinge(deg))
        back, pulled, sheared = (band(v, Inputs([])) for v in (k * largest, pulls, shears))
        out.append(ClothAngle(deg=deg, back_N_mm=back, pulls_N=pulled, shears_N=sheared))
    return out


def _scaled(value: Range, length_mm: float) -> Band:
    k = length_mm / 100
    return Band(typ=k * value.typ, low=k * value.low, high=k * value.high)


def _vetoes(h: Hinge, need: HingeNeed, family: str, share: Array, margin: Array) -> list[str]:
    out = []
    if family not in h.suits:
        out.append("is not for this material")
    if need.line not in h.lines:
        out.append(f"cannot be placed at the {need.line}, only at the {', '.join(h.lines)}")
    for value, limits, what in (
        (need.thickness_mm, h.thickness_mm, "surfaces {} thick"),
        (need.chord_mm, h.chord_mm, "surfaces of {} chord"),
    ):
        if not limits.low <= value <= limits.high:
            out.append("is for " + what.format(f"{number(limits.low, 'mm', G)} to {in_mm(limits.high, G)}"))
    if not h.mass_g.low <= need.all_up_mass_g <= h.mass_g.high:
        out.append(f"is for airframes of {number(h.mass_g.low, 'g', G)} to {in_g(h.mass_g.high, G)}")
    if float(np.median(share)) > 1:
        out.append("needs more torque than the servo has (air load and hinge together)")
    if float(margin[0]) < TEAR_SAFETY:
        out.append(f"tears out at {float(margin[0]):.1f} × the load from air and pushrod, needs {TEAR_SAFETY:g}")
    return out
