"""The glue chooser: every adhesive for a joint between two materials, ranked, with what rules one out and why."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cache
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from fletcher.core.adhesives import TIMES_MIN, Adhesive, Between, adhesives, between, curings, foam_families, on_foams
from fletcher.core.cases import Document, Key
from fletcher.core.cautions import Caution, cautions_for
from fletcher.core.curing import cured, joint, sampled, sets_at_once, techniques
from fletcher.core.evidence import Band, draw_foam, limits
from fletcher.core.materials import Catalogue, Range
from fletcher.core.outline import Array
from fletcher.core.problems import InvalidDocument, Problem
from fletcher.core.results import Result
from fletcher.core.schooling import TOPICS, liking, way
from fletcher.core.toughness import tear_table

HARD = ("wood", "composite", "plastic", "film", "metal", "slick")
"""What foam is glued to besides foam; "slick" is nylon and polyethylene."""

_PAIRS = {
    "wood": "foam_wood", "composite": "foam_composite", "plastic": "foam_rigid_plastic", "film": "foam_film_tape",
    "metal": "metal_foam", "slick": "nylon_hdpe_foam",
}  # fmt: skip
_HARD_PAIRS = {
    frozenset({"wood"}): "wood_wood",
    frozenset({"wood", "composite"}): "wood_composite",
    frozenset({"composite"}): "composite_composite",
}

EVEN = {"pull": 0.6, "shear": 0.7, "peel": 1.0, "bend": 1.0}
"""[J] Mean over largest stress of a small joint, by how it is loaded."""

SPREAD_CM2_PER_MIN = 60.0
"""[J] Face that one pair of hands spreads and closes in a minute."""

MOST_STAGES = 6
_WATER = {"dry": ("poor", "fair", "good", "excellent"), "splash": ("fair", "good", "excellent"),
          "wet": ("good", "excellent")}  # fmt: skip


class GlueNeed(Document):
    """A joint to be glued: what meets what (a foam's key, or wood, composite, plastic, film, metal, slick), how it is
    loaded, its face, and what is asked of it. A load across the seam acts at `arm_mm`; peel along its width."""

    one: Key = "epp_30"
    other: Key = "epp_30"
    loaded: Literal["pull", "shear", "peel", "bend"] = "shear"
    area_cm2: Annotated[float, Field(ge=0.05, le=10_000)] = 20.0
    width_mm: Annotated[float, Field(ge=1, le=1000, description="Narrower side of the face")] = 30.0
    gap_mm: Annotated[float, Field(ge=0, le=10)] = 0.1
    hold_N: Annotated[float, Field(ge=0, le=20_000)] = 20.0
    arm_mm: Annotated[float, Field(ge=0, le=2000)] = 50.0
    within_min: Annotated[float, Field(ge=0.5, le=20_160)] = 60.0
    workshop_C: Annotated[float, Field(ge=0, le=40)] = 20.0
    heat_C: Annotated[float, Field(ge=-20, le=90, description="Warmest in use, a parked car included")] = 45.0
    water: Literal["dry", "splash", "wet"] = "dry"
    flex_percent: Annotated[float, Field(ge=0, le=30)] = 1.0
    seen: bool = False
    sanded: bool = False
    schools: Annotated[dict[Key, Literal["one", "other"]], Field(max_length=20, default_factory=dict)]


class Holds(Result):
    """What the joint holds so many minutes after closing, N."""

    minutes: float
    load_N: Band


class GlueChoice(Result):
    """One adhesive for a joint: what rules it out (empty: nothing), how it is put on, what it holds and when, grams
    left, time plan, preparation and why it stands where it stands."""

    key: str
    name: str
    vetoes: list[str]
    technique: str
    technique_says: str
    curve: list[Holds]
    then_N: Band
    """At the time asked for."""
    finally_N: Band
    meets: Literal["sure", "typical", "later", "no"]
    """Whether it holds at the time asked for; "later": once it is cured."""
    fails: str
    grams: Band
    plan: list[str]
    prepare: str
    why: str
    points: float
    grade: str
    cautions: list[Caution]


class Gluing(Result):
    """All adhesives for a joint, the best first, those ruled out last; and what to do if nothing will do."""

    pair: str
    asked_N: float
    choices: list[GlueChoice]
    says: str
    schools_say: list[str]
    """What the chosen schools changed against none: places, and grams, newtons and minutes of the best."""


@dataclass(frozen=True)
class _Joint:
    """A need made ready: pair, families of its foams, what tears beside the glue (S,), N over its face."""

    need: GlueNeed
    pair: str
    families: tuple[str, ...]
    sealed: bool
    bed_MPa: Array | None
    asked_N: float
    face: float
    """By what a stress becomes newtons: mm², or for bending the section modulus over the arm."""


def _refuse(field: str, message: str, value: str) -> InvalidDocument:
    return InvalidDocument([Problem(path=field, message=message, value=value)])


def _joint(need: GlueNeed, catalogue: Catalogue) -> _Joint:
    sides = {"one": need.one, "other": need.other}
    foams = [k for k in sides.values() if k in catalogue.foams]
    for name, key in sides.items():
        if key not in catalogue.foams and key not in HARD:
            raise _refuse(name, f"is neither a foam in the stockroom nor one of {', '.join(HARD)}", repr(key))
        if key in catalogue.foams and key not in foam_families():
            raise _refuse(name, "is a foam on which no adhesive is known here", catalogue.foams[key].name)
    hard = [k for k in sides.values() if k in HARD]
    if len(foams) == 2:
        pair = "foam_foam"
    elif len(foams) == 1:
        pair = _PAIRS[hard[0]]
    else:
        found = _HARD_PAIRS.get(frozenset(hard))
        if found is None:
            raise _refuse("other", "is a pair on which nothing is known here: one side must be foam, wood or composite",
                          f"{need.one} and {need.other}")  # fmt: skip
        pair = found
    area = need.area_cm2 * 100
    if need.width_mm**2 > area * 25:
        raise _refuse("width_mm", f"is too wide for {need.area_cm2:g} cm²: at most {5 * math.sqrt(area):.0f} mm",
                      f"{need.width_mm:g}")  # fmt: skip
    face = area * EVEN[need.loaded]
    if need.loaded == "bend":
        face = area * need.width_mm / 6 / max(need.arm_mm, 1.0)
    bed = None
    if foams:
        drawn = [draw_foam(catalogue.foams[k]) for k in foams]
        if need.loaded == "peel":  # what a tear that runs along the seam costs, N over the width
            known = [
                tear_table()[catalogue.foams[k].family] for k in foams if catalogue.foams[k].family in tear_table()
            ]
            bed = np.min([sampled(t, "glue/tear") for t in known or [Range(200, 500, 1200)]], axis=0) * 1e-3
        else:
            bed = np.min([d.shear if need.loaded == "shear" else d.tensile for d in drawn], axis=0)
    if need.loaded == "peel":
        face = need.width_mm
    closed = len(foams) == 2 or (len(foams) == 1 and hard[0] not in ("wood", "film"))
    families = tuple(dict.fromkeys(foam_families()[k] for k in foams))
    return _Joint(need, pair, families, closed, bed, need.hold_N, face)


def _efficiency(a: Adhesive, j: _Joint, row: Between) -> Array:
    """Share of the foam's strength (S,) that the joint reaches: the least of pair and foams."""
    key = f"glue/{a.key}/{j.pair}"
    ranges = [r for r in (row.efficiency, *(on_foams()[a.key, f].efficiency for f in j.families)) if r is not None]
    return np.asarray(np.min([sampled(r, key) for r in ranges], axis=0))


def _capacity(a: Adhesive, j: _Joint, row: Between, technique: str, minutes: Array) -> _Capacity:
    """N (S, t) at the minutes, the cured film's and the bed's stress (S,), the share that is cured in a week."""
    key = "glue/" + a.key
    glue = sampled(a.peel_N_25mm, key, 1) / 25 if j.need.loaded == "peel" else sampled(a.shear_MPa, key)
    bed = glue if j.bed_MPa is None else j.bed_MPa * _efficiency(a, j, row)
    if row.shear_MPa is not None and j.need.loaded != "peel":
        glue = bed = sampled(row.shear_MPa, key)
    over = max(j.need.gap_mm - a.gap_mm.typ, 0.0) / max(a.gap_mm.typ, 0.05)
    glue = glue / (1 + over)  # a thick line is a weak one
    width = j.need.width_mm if j.sealed else None
    share = cured(a, curings()[a.key], minutes, j.need.workshop_C, width, technique)
    held = joint(share, glue, bed, sets_at_once(a, technique)) * j.face
    return held, glue, bed, float(share[0, len(TIMES_MIN) - 1])


def _stages(a: Adhesive, need: GlueNeed) -> int:
    """In how many stages a face is closed within the open time."""
    return max(1, math.ceil(need.area_cm2 / (SPREAD_CM2_PER_MIN * max(a.open_min.typ, 0.05))))


def _vetoes(a: Adhesive, j: _Joint, row: Between | None, week: float) -> list[str]:
    need, out = j.need, []
    for family in j.families:
        on = on_foams()[a.key, family]
        if on.verdict == "attacks":
            out.append(f"dissolves or melts this foam: {on.reason}")
    if row is None or row.suits == 0:
        out.append("does not hold on this pair" + ("" if row is None else f": {row.reason}"))
    if a.heat_C.typ < need.heat_C:
        softens = f"softens at {a.heat_C.typ:g} °C ({a.heat_C.low:g} to {a.heat_C.high:g})"
        out.append(f"{softens}, below the {need.heat_C:g} °C it meets")
    if j.sealed and a.needs_air and week < 0.5:
        out.append(f"cannot dry sealed between closed faces {need.width_mm:g} mm wide: {a.air_note}")
    stages = _stages(a, need)
    if stages > MOST_STAGES:
        out.append(f"sets before so large a face is closed: {need.area_cm2:g} cm² would take {stages} stages")
    if need.gap_mm > a.gap_mm.high:
        out.append(f"fills gaps up to {a.gap_mm.high:g} mm only")
    if a.water not in _WATER[need.water]:
        out.append(f"stands water only {a.water}ly" if a.water != "poor" else "softens in water")
    curing = curings()[a.key]
    if not curing.least_C <= need.workshop_C <= curing.most_C:
        out.append(f"cures from {curing.least_C:g} to {curing.most_C:g} °C, not at {need.workshop_C:g}")
    return out


def _grams(a: Adhesive, need: GlueNeed) -> Array:
    """Grams (S,) that stay: both coated faces of spread, and what a gap takes beyond the usual line."""
    key = "glue/grams/" + a.key
    solids = sampled(a.solids, key, 1)
    spread = sampled(a.spread_g_m2, key) * a.faces * need.area_cm2 * 1e-4 * solids
    extra = max(need.gap_mm - a.line_mm.typ, 0.0) * need.area_cm2 * 100 * a.density_kg_m3.typ * 1e-6
    return np.asarray(spread + extra * solids)


def _plan(a: Adhesive, need: GlueNeed, technique: str) -> list[str]:
    out = [f"coat {'both faces' if a.faces == 2 else 'one face'} thinly"]
    if technique == "flashed" and a.flash_min.typ > 0:
        out.append(f"air for {a.flash_min.typ:g} min ({a.flash_min.low:g} to {a.flash_min.high:g})")
    stages = _stages(a, need)
    if stages > 1:
        out.append(f"close in {stages} stages of {need.area_cm2 / stages:.0f} cm², each within {a.open_min.typ:g} min")
    elif a.open_min.typ < 1000:
        out.append(f"close within {a.open_min.typ:g} min")
    out.append(f"hold for {a.fixture_min.typ:g} min ({a.fixture_min.low:g} to {a.fixture_min.high:g})")
    return out


def _points(choice: dict[str, float], a: Adhesive, need: GlueNeed, suits: int) -> tuple[float, str]:
    """How good a choice is, and in one sentence why; what is asked comes before what is pleasant."""
    parts: dict[str, float] = {
        "holds in time": 40 * min(choice["then"], 2.0) / 2,
        "holds in the end": 20 * min(choice["end"], 3.0) / 3,
        "suits the pair": 3.0 * suits,
        "is light": 12 / (1 + choice["grams"] / max(0.02 * need.area_cm2, 0.05)),
        "is clean to use": 1.2 * (5 - a.mess),
    }
    if need.flex_percent > a.stretch_pct.typ:
        parts["is too stiff for the bend and pops off"] = -20.0
    if need.seen:
        parts["looks well"] = 2.0 * a.finish
    if need.sanded:
        parts["sands with the foam" if a.sandable else "does not sand"] = 6.0 if a.sandable else -10.0
    best = max(parts.items(), key=lambda p: p[1])
    worst = min(parts.items(), key=lambda p: p[1] - (0 if p[1] < 0 else 4))
    why = best[0] if worst[1] >= 0 or worst[0] == best[0] else f"{best[0]}, but {worst[0]}"
    return sum(parts.values()), why


def glue(need: GlueNeed, catalogue: Catalogue) -> Gluing:
    """All adhesives for a joint, ranked.

    Raises
    ------
    InvalidDocument
        If a material is unknown, or nothing is known about the pair.
    """
    unknown = next((k for k in need.schools if k not in TOPICS), None)
    if unknown is not None:
        raise _refuse(f"schools.{unknown}", f"is no topic here: {', '.join(TOPICS)}", unknown)
    j = _joint(need, catalogue)
    choices = _ranked(need, j)
    changed = []
    if need.schools:
        changed = _moved(_ranked(need.model_copy(update={"schools": {}}), j), choices)
    return Gluing(pair=j.pair, asked_N=need.hold_N, choices=choices, says=_says(choices, need), schools_say=changed)


def _moved(before: list[GlueChoice], after: list[GlueChoice]) -> list[str]:
    """What schools changed: every place that moved, and what the new best costs or gains over the old one."""
    old, new = ([c for c in found if not c.vetoes] for found in (before, after))
    places = {c.key: n for n, c in enumerate(old, 1)}
    out = []
    if old and new and old[0].key != new[0].key:
        a, b = old[0], new[0]
        minutes = adhesives()[b.key].fixture_min.typ - adhesives()[a.key].fixture_min.typ
        out.append(
            f"best is {b.name} in place of {a.name}: {b.grams.typ - a.grams.typ:+.2g} g, "
            f"{b.then_N.typ - a.then_N.typ:+.3g} N at the time asked, {minutes:+.3g} min to hold"
        )
    moves = [(places[c.key] - n, c, places[c.key], n) for n, c in enumerate(new, 1) if c.key in places]
    far = sorted((m for m in moves if abs(m[0]) > 1), key=lambda m: -abs(m[0]))[:4]
    return out + [f"{c.name} from place {was} to {n}" for _, c, was, n in far]


def _ranked(need: GlueNeed, j: _Joint) -> list[GlueChoice]:
    minutes = np.array([*TIMES_MIN, need.within_min])
    found = []
    for a in adhesives().values():
        row = between().get((a.key, j.pair))
        used = row or Between(0, None, Range(0.05, 0.1, 0.2), "", "no row", "C")
        technique, (held, film, bed, week) = _put_on(a, j, used, minutes)
        found.append((a, row, used, technique, held, film, bed, week, _grams(a, need)))
    # one pass over all samples: bands of every curve, of the grams
    all_held = np.stack([f[4] for f in found], 1)  # S, adhesives, times
    all_grams = np.stack([f[8] for f in found], 1)
    (low, high), (light, heavy) = limits(all_held[1:]), limits(all_grams[1:])
    choices = []
    for n, (a, row, used, technique, held, film, bed, week, grams) in enumerate(found):

        def at(t: int, n: int = n, held: Array = held) -> Band:
            return Band(typ=float(held[0, t]), low=float(low[n, t]), high=float(high[n, t]))

        then, finally_ = at(-1), at(len(TIMES_MIN) - 1)
        vetoes = _vetoes(a, j, row, week)
        asked = max(need.hold_N, 1e-6)
        numbers = {"then": then.typ / asked, "end": finally_.typ / asked, "grams": float(grams[0])}
        points, why = _points(numbers, a, need, used.suits)
        points += liking(a.key, need.schools)
        tears = "the foam tears" if float(bed[0]) < float(film[0]) and j.bed_MPa is not None else "the glue line gives"
        choices.append(
            GlueChoice(
                key=a.key, name=a.name, vetoes=vetoes, technique=technique, technique_says=techniques(a)[technique],
                curve=[Holds(minutes=m, load_N=at(t)) for t, m in enumerate(TIMES_MIN)],
                then_N=then, finally_N=finally_, meets=_meets(then, finally_, need.hold_N), fails=tears,
                grams=Band(typ=float(grams[0]), low=float(light[n]), high=float(heavy[n])),
                plan=_plan(a, need, technique), prepare=used.prepare,
                why=vetoes[0] if vetoes else f"{why}. {used.reason}",
                points=-1e3 if vetoes else points, grade=max(a.grade, used.grade), cautions=_cautions(a.key),
            )
        )  # fmt: skip
    order = {"sure": 0, "typical": 1, "later": 2, "no": 3}
    choices.sort(key=lambda c: (bool(c.vetoes), order[c.meets], -c.points))
    return choices


_Capacity = tuple[Array, Array, Array, float]


def _put_on(a: Adhesive, j: _Joint, row: Between, minutes: Array) -> tuple[str, _Capacity]:
    """How it is put on and what it then holds: in its usual way, in another one if that does not hold in time, or in
    the way that the builder's school insists on."""
    known, wanted = list(techniques(a)), way(a, j.need.schools)
    usual = wanted if wanted in known else known[0]
    found = _capacity(a, j, row, usual, minutes)
    if wanted in known or float(found[0][0, -1]) >= j.need.hold_N:
        return usual, found
    for other in known[1:]:
        held = _capacity(a, j, row, other, minutes)
        if float(held[0][0, -1]) > float(found[0][0, -1]):
            usual, found = other, held
    return usual, found


@cache
def _cautions(key: str) -> list[Caution]:
    hot = ["process:glue_gun"] if adhesives()[key].kind == "thermoplastic" else []
    return cautions_for([f"adhesive:{key}", *hot])


def _meets(then: Band, finally_: Band, asked: float) -> Literal["sure", "typical", "later", "no"]:
    if then.low >= asked:
        return "sure"
    if then.typ >= asked:
        return "typical"
    return "later" if finally_.typ >= asked else "no"


def _says(choices: list[GlueChoice], need: GlueNeed) -> str:
    best = choices[0]
    asked = f"{need.hold_N:g} N after {need.within_min:g} min"
    if not best.vetoes and best.meets in ("sure", "typical"):
        return f"{best.name}: {'surely' if best.meets == 'sure' else 'typically'} holds {asked}."
    if not best.vetoes:
        when = f"{best.then_N.typ:.2g} N then, {best.finally_N.typ:.2g} N in the end"
        return f"Nothing holds {asked}. Closest is {best.name}: {when}."
    return f"Nothing does this. Closest is {best.name}, but it {best.vetoes[0]}."
