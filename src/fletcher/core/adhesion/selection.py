"""The glue chooser: every adhesive for a joint between two materials, ranked, with what rules one out and why."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from functools import cache, lru_cache
from typing import Literal

import numpy as np

from fletcher.core.adhesion.adhesives import TIMES_MIN, Adhesive, Between, adhesives, curings, joining, on_foams
from fletcher.core.adhesion.cautions import Caution, cautions_for
from fletcher.core.adhesion.coupon_update import moved
from fletcher.core.adhesion.coupons import Coupon, OwnEvidence
from fletcher.core.adhesion.curing import sampled, techniques
from fletcher.core.adhesion.joint_capacity import NO_ROW, Capacity, GlueNeed, Seam, capacity, refuse, seam_of
from fletcher.core.adhesion.preferences import TOPICS, liking, way
from fletcher.core.adhesion.steady_load import steady_share
from fletcher.core.common.arrays import Array
from fletcher.core.common.model import Result
from fletcher.core.common.quantities import G2, G3, G, in_C, in_g, in_mm, in_N, number
from fletcher.core.materials.materials import Catalogue
from fletcher.core.materials.uncertainty import Band, drawn, limits

SPREAD_CM2_PER_MIN = 60.0
"""[J] Face that one pair of hands spreads and closes in a minute."""

MOST_STAGES = 6
TESTED = 0.6
"""[J] Odds that the foam breaks first from which own coupons have answered whether an adhesive suits it."""
_GRAMS = {"little": 4.0, "usual": 12.0, "much": 36.0}
"""[J] Points that lightness is worth, by how much a gram matters."""
OWN_WORTH = 25.0
"""[J] Points between odds of none and all that the foam breaks first, moved by own coupons."""

_WATER = {"dry": ("poor", "fair", "good", "excellent"), "splash": ("fair", "good", "excellent"),
          "wet": ("good", "excellent")}  # fmt: skip


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
    steady_N: Band
    """What it bears for good, once cured: glue that creeps gives under less than it holds for a minute."""
    meets: Literal["sure", "typical", "later", "no"]
    """Whether it holds at the time asked for; "later": once it is cured."""
    fails: str
    grams: Band
    plan: list[str]
    prepare: str
    clean_up: str
    """How it comes off hands, tools and foam, with what must never touch a foam of the joint."""
    in_sun: str
    """How it looks after a season outdoors."""
    why: str
    points: float
    grade: str
    own: OwnEvidence | None
    """What own coupons made of it."""
    test_first: str = ""
    """Why a scrap is to be tried first: it may attack this foam, or not stick to it. Empty where nothing speaks for it,
    or own coupons have answered."""
    why_not: str = ""
    """Why not this one, against the best."""
    cautions: list[Caution]


class Gluing(Result):
    """All adhesives for a joint, the best first, those ruled out last; and what to do if nothing will do."""

    pair: str
    asked_N: float
    choices: list[GlueChoice]
    says: str
    coupons_say: list[str]
    """The same of own coupons against the tables alone."""
    schools_say: list[str]
    """What the chosen schools changed against none: places, and grams, newtons and minutes of the best."""


def _stages(a: Adhesive, need: GlueNeed) -> int:
    """In how many stages a face is closed within the open time."""
    return max(1, math.ceil(need.area_cm2 / (SPREAD_CM2_PER_MIN * max(a.open_min.typ, 0.05))))


def ruled_out(a: Adhesive, j: Seam, row: Between | None, week: float) -> list[str]:
    """Why an adhesive may not be used in a seam; `week` the share of its strength that it has after a week in it."""
    need, out = j.need, []
    for family in j.families:
        on = on_foams()[a.key, family]
        if on.verdict == "attacks":
            out.append(f"dissolves or melts this foam: {on.reason}")
    if row is None or row.suits == 0:
        out.append("is not known to hold on this pair" if row is None else f"does not hold on this pair: {row.reason}")
    if a.heat_C.typ < need.heat_C:
        softens = (
            f"softens at {in_C(a.heat_C.typ, G)} ({number(a.heat_C.low, '°C', G)} to {number(a.heat_C.high, '°C', G)})"
        )
        out.append(f"{softens}, below the {in_C(need.heat_C, G)} it meets")
    if j.sealed and a.needs_air and week < 0.5:
        out.append(f"cannot dry sealed between closed faces {in_mm(need.width_mm, G)} wide: {a.air_note}")
    stages = _stages(a, need)
    if stages > MOST_STAGES:
        out.append(f"sets before this area can be closed: {need.area_cm2:g} cm² needs {stages} stages")
    if need.gap_mm > a.gap_mm.high:
        out.append(f"fills gaps up to {in_mm(a.gap_mm.high, G)} only")
    if a.water not in _WATER[need.water]:
        out.append(f"has only {a.water} water resistance" if a.water != "poor" else "softens in water")
    curing = curings()[a.key]
    if not curing.least_C <= need.workshop_C <= curing.most_C:
        out.append(
            f"cures from {number(curing.least_C, '°C', G)} to {in_C(curing.most_C, G)}, not at "
            f"{number(need.workshop_C, '°C', G)}"
        )
    return out


@lru_cache(maxsize=256)
def _spread(key: str, _: int) -> tuple[Array, Array]:
    """Share that stays, and g/m² of it in the joint, (S,)."""
    a, stream = adhesives()[key], "glue/grams/" + key
    solids = sampled(a.solids, stream, 1)
    return solids, sampled(a.spread_g_m2, stream) * solids


def _grams(a: Adhesive, need: GlueNeed) -> Array:
    """Grams (S,) that stay: both coated faces of spread, and what a gap takes beyond the usual line."""
    solids, applied = _spread(a.key, drawn())
    spread = applied * (need.area_cm2 * 1e-4)
    extra = max(need.gap_mm - a.line_mm.typ, 0.0) * need.area_cm2 * 100 * a.density_kg_m3.typ * 1e-6
    return np.asarray((spread + extra * solids) * need.habit)


def _plan(a: Adhesive, need: GlueNeed, technique: str) -> list[str]:
    out = [f"coat {'both faces' if a.faces == 2 else 'one face'} thinly"]
    if technique == "flashed" and a.flash_min.typ > 0:
        out.append(f"let it flash off for {a.flash_min.typ:g} min ({a.flash_min.low:g}–{a.flash_min.high:g})")
    stages = _stages(a, need)
    if stages > 1:
        out.append(f"close in {stages} stages of {need.area_cm2 / stages:.0f} cm², each within {a.open_min.typ:g} min")
    elif a.open_min.typ < 1000:
        out.append(f"close within {a.open_min.typ:g} min")
    out.append(f"hold for {a.fixture_min.typ:g} min ({a.fixture_min.low:g}–{a.fixture_min.high:g})")
    return out


_MELTS = frozenset({"EPS", "XPS", "PS_SHEET", "PFB_CORE", "EPO"})
"""Families that the usual wipers of a workshop dissolve or swell."""


def _clean_up(a: Adhesive, j: Seam) -> str:
    if not _MELTS & set(j.families):
        return a.clean_up
    return f"{a.clean_up}; never acetone, thinner or petrol on this foam"


def _points(choice: dict[str, float], a: Adhesive, need: GlueNeed, suits: int) -> tuple[float, str]:
    """How good a choice is, and in one sentence why; what is asked comes before what is pleasant."""
    parts: dict[str, float] = {
        "strong enough in time": 40 * min(choice["then"], 2.0) / 2,
        "strong once cured": 20 * min(choice["end"], 3.0) / 3,
        "suits these materials": 3.0 * suits,
        "light": _GRAMS[need.grams_matter] / (1 + choice["grams"] / max(0.02 * need.area_cm2, 0.05)),
        "clean to use": 1.2 * (5 - a.mess),
    }
    if need.flex_percent > a.stretch_pct.typ:
        parts["too stiff for this flex and pops off"] = -20.0
    if need.seen:
        parts["looks good"] = 2.0 * a.finish
    if need.sanded:
        parts["sands with the foam" if a.sandable else "does not sand well"] = 6.0 if a.sandable else -10.0
    best = max(parts.items(), key=lambda p: p[1])
    worst = min(parts.items(), key=lambda p: p[1] - (0 if p[1] < 0 else 4))
    why = best[0] if worst[1] >= 0 or worst[0] == best[0] else f"{best[0]}, but {worst[0]}"
    return sum(parts.values()), why


def glue(need: GlueNeed, catalogue: Catalogue, coupons: Sequence[Coupon] = ()) -> Gluing:
    """All adhesives for a joint, ranked, with what own coupons say of them.

    Raises
    ------
    InvalidDocument
        If a material is unknown, or nothing is known about the pair.
    """
    unknown = next((k for k in need.schools if k not in TOPICS), None)
    if unknown is not None:
        raise refuse(f"schools.{unknown}", f"is not a known topic: choose one of {', '.join(TOPICS)}", unknown)
    j = seam_of(need, catalogue)
    need = j.need
    choices = _ranked(j, coupons)
    schooled, tested = [], []
    if need.schools:
        unschooled = replace(j, need=need.model_copy(update={"schools": {}}))
        schooled = _moved(_ranked(unschooled, coupons), choices)
    if any(c.own is not None for c in choices):
        tested = _moved(_ranked(j, ()), choices)
    choices = [c.model_copy(update={"why_not": _why_not(c, n, choices)}) for n, c in enumerate(choices, 1)]
    return Gluing(
        pair=j.pair, asked_N=need.hold_N, choices=choices, says=_says(choices, need), coupons_say=tested,
        schools_say=schooled,
    )  # fmt: skip


def _moved(before: list[GlueChoice], after: list[GlueChoice]) -> list[str]:
    """What schools changed: every place that moved, and what the new best costs or gains over the old one."""
    old, new = ([c for c in found if not c.vetoes] for found in (before, after))
    places = {c.key: n for n, c in enumerate(old, 1)}
    out = []
    if old and new and old[0].key != new[0].key:
        a, b = old[0], new[0]
        minutes = adhesives()[b.key].fixture_min.typ - adhesives()[a.key].fixture_min.typ
        out.append(
            f"best is now {b.name} instead of {a.name}: {b.grams.typ - a.grams.typ:+.2g} g, "
            f"{b.then_N.typ - a.then_N.typ:+.3g} N at the time needed, {minutes:+.3g} min holding time"
        )
    moves = [(places[c.key] - n, c, places[c.key], n) for n, c in enumerate(new, 1) if c.key in places]
    far = sorted((m for m in moves if abs(m[0]) > 1), key=lambda m: -abs(m[0]))[:4]
    return out + [f"{c.name}: rank {was} → {n}" for _, c, was, n in far]


def _why_not(c: GlueChoice, place: int, choices: list[GlueChoice]) -> str:
    """Why an adhesive is not the one to take, against the best."""
    best = choices[0]
    if c.vetoes:
        return f"{c.name} {'; and '.join(c.vetoes)}."
    if c is best:
        return f"This is the best choice: {c.why}"
    lacks = []
    for value, top, what in ((c.then_N, best.then_N, "then"), (c.finally_N, best.finally_N, "once cured")):
        if value.typ < 0.95 * top.typ:
            lacks.append(f"{in_N(value.typ, G3)} {what} in place of {number(top.typ, 'N', G3)}")
    if c.grams.typ > 1.1 * best.grams.typ:
        lacks.append(f"{in_g(c.grams.typ - best.grams.typ, G2)} more")
    if c.own is not None and c.own.odds.after.typ < c.own.odds.before.typ:
        lacks.append("your own glue tests were worse")
    against = ", ".join(lacks) or "it suits the materials, the work or the finish less well"
    return f"Rank {place}. Compared with {best.name}: {against}. Its strength: {c.why}"


def _ranked(j: Seam, coupons: Sequence[Coupon]) -> list[GlueChoice]:
    need = j.need
    found = []
    for a in adhesives().values():
        row = joining(a.key, j.pair, j.families)
        used = row or NO_ROW
        technique, put, minutes = put_on(a, j, (need.within_min,))
        held, own = moved(a, j, technique, put, minutes, max(a.grade, used.grade), coupons)
        steady = held[:, len(TIMES_MIN) - 1] * steady_share(a)
        found.append((a, row, used, technique, held, put, own, _grams(a, need), steady))
    # one pass over all samples: bands of every curve, of the grams
    all_held = np.stack([f[4] for f in found], 1)  # S, adhesives, times
    all_grams = np.stack([f[7] for f in found], 1)
    (low, high), (light, heavy) = limits(all_held[1:]), limits(all_grams[1:])
    least, most = limits(np.stack([f[8] for f in found], 1)[1:])
    choices = []
    for n, (a, row, used, technique, held, put, own, grams, steady) in enumerate(found):

        def at(t: int, n: int = n, held: Array = held) -> Band:
            return Band(typ=float(held[0, t]), low=float(low[n, t]), high=float(high[n, t]))

        then, finally_ = at(-1), at(len(TIMES_MIN) - 1)
        doubt = "" if own is not None and own.odds.after.typ >= TESTED else test_first(a, j)
        meets = _meets(then, finally_, need.hold_N)
        vetoes = ruled_out(a, j, row, float(put.share[0, len(TIMES_MIN) - 1]))
        if float(steady[0]) < need.steady_N:
            creeps = f"creeps: it holds {in_N(float(steady[0]), G2)} for good"
            vetoes.append(f"{creeps}, less than the {in_N(need.steady_N, G)} that stay on")
        asked = max(need.hold_N, 1e-6)
        numbers = {"then": then.typ / asked, "end": finally_.typ / asked, "grams": float(grams[0])}
        points, why = _points(numbers, a, need, used.suits)
        points += liking(a.key, need.schools)
        foam_first = float(put.bed[0]) < float(put.film[0]) and j.bed_MPa is not None
        tears = f"{j.tears} first" if foam_first else "glue line fails first"
        if own is not None:
            points += OWN_WORTH * (own.odds.after.typ - own.odds.before.typ)
        choices.append(
            GlueChoice(
                key=a.key, name=a.name, vetoes=vetoes, technique=technique, technique_says=techniques(a)[technique],
                curve=[Holds(minutes=m, load_N=at(t)) for t, m in enumerate(TIMES_MIN)],
                then_N=then, finally_N=finally_,
                steady_N=Band(typ=float(steady[0]), low=float(least[n]), high=float(most[n])),
                meets="typical" if doubt and meets == "sure" else meets, fails=tears,
                grams=Band(typ=float(grams[0]), low=float(light[n]), high=float(heavy[n])),
                plan=_plan(a, need, technique), prepare=used.prepare, clean_up=_clean_up(a, j), in_sun=a.in_sun,
                why=vetoes[0] if vetoes else f"{why}. {used.reason}", test_first="" if vetoes else doubt,
                points=-1e3 if vetoes else points, grade=max(a.grade, used.grade), own=own, cautions=_cautions(a.key),
            )
        )  # fmt: skip
    order = {"sure": 0, "typical": 1, "later": 2, "no": 3}
    choices.sort(key=lambda c: (bool(c.vetoes), order[c.meets] + bool(c.test_first), -c.points))
    return choices


def test_first(a: Adhesive, j: Seam) -> str:
    """Why an adhesive is to be tried on a scrap of these foams; empty where the table is sure of it."""
    found = [on_foams()[a.key, family] for family in j.families]
    return next((f"Try it on a scrap first: {on.reason}" for on in found if on.verdict == "test_first"), "")


def closed_after(a: Adhesive, need: GlueNeed, technique: str) -> float:
    """Minutes from taking up the tube until the joint is closed, typical: the face is coated and, where that is the
    way, aired."""
    airing = a.flash_min.typ if technique == "flashed" else 0.0
    return need.area_cm2 * a.faces / SPREAD_CM2_PER_MIN + airing


def put_on(a: Adhesive, j: Seam, within_min: Sequence[float]) -> tuple[str, Capacity, Array]:
    """How it is put on and what it then holds: in its usual way, in another one if that does not hold in time, or in
    the way that the builder's school insists on. With it the minutes since closing that stand behind `Capacity.held`:
    those of the curve, then the minutes since the tube was taken up that are asked."""
    known, wanted = list(techniques(a)), j.need.technique or way(a, j.need.schools)

    def tried(technique: str) -> tuple[str, Capacity, Array]:
        before = closed_after(a, j.need, technique)
        minutes = np.array([*TIMES_MIN, *(max(m - before, 0.0) for m in within_min)])
        put = capacity(a, j, technique, minutes)
        return technique, replace(put, held=put.held * (minutes > 0)), minutes

    found = tried(wanted if wanted in known else known[0])
    if wanted in known or float(found[1].held[0, -1]) >= j.need.hold_N:
        return found
    others = (tried(other) for other in known[1:])
    return max((found, *others), key=lambda t: float(t[1].held[0, -1]))


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
    asked = f"{in_N(need.hold_N, G)}, {need.within_min:g} min after you take up the tube"
    if not best.vetoes and best.meets in ("sure", "typical"):
        scrap = " Try it on a scrap first." if best.test_first else ""
        grade = "✓ sure" if best.meets == "sure" else "≈ likely"
        return f"{best.name} holds {asked}: {grade}.{scrap}"
    if not best.vetoes:
        when = f"{in_N(best.then_N.typ, G2)} by then, {in_N(best.finally_N.typ, G2)} once cured"
        return f"✕ No glue holds {asked}. Closest: {best.name}, {when}. Wait longer, or use a larger joint."
    return f"✕ No glue suits this joint. Closest: {best.name}, but it {best.vetoes[0]}."
