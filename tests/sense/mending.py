"""Group of repairs: what is offered can be made and means what it says, is never weaker than the damage it mends, takes
the time that its work and its glues take, and glues nothing with what does not hold there."""

from __future__ import annotations

import itertools
from collections.abc import Iterator

import numpy as np

from fletcher.core.adhesion.adhesives import between, foam_families, on_foams
from fletcher.core.adhesion.readiness import ready_after
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.damage import BarMark, Mark
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import samples
from fletcher.core.repair.candidates import fixes_for
from fletcher.core.repair.damage_model import taken_along
from fletcher.core.repair.evaluate import computed
from fletcher.core.repair.headings import keeps, row_of
from fletcher.core.repair.inspection import what_is_left
from fletcher.core.repair.mark_menu import offers_at
from fletcher.core.repair.operations import glues_of
from fletcher.core.repair.pareto_search import search
from fletcher.core.repair.phrasing import FIELD_BOX, LEFT_AS_IT_IS
from fletcher.core.repair.recipe import Recipe
from fletcher.core.repair.schema import Mending, MendOption, MendWish
from fletcher.core.repair.single_fix import Trials
from fletcher.core.repair.way_glue import SPLICED
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.validation.airframe import check_part
from tests.sense.world import Rng, Violation, document, sized

WAYS = tuple(CONSTRUCTIONS)
KINDS = ("snapped", "marked", "marked at an edge")


def damaged(rng: Rng | None, key: str, kind: str) -> tuple[Airframe, Part, Rng]:
    """A construction with one mark that it can have."""
    local = rng or np.random.default_rng(sum(map(ord, key + kind)))
    airframe, part = sized(rng, key)
    at = float(local.uniform(0.2, 0.6)) * part.span_mm
    percent = 45.0 if kind != "marked at an edge" else float(local.choice([4.0, 96.0]))
    offers = offers_at(part, at, percent)
    mark: Mark = offers[0].mark if kind == "snapped" else offers[int(local.integers(1, len(offers)))].mark
    part = part.model_copy(update={"damage": (mark,)})
    return airframe.model_copy(update={"parts": (part,)}), part, local


def answer(airframe: Airframe, part: Part, wish: MendWish) -> Mending | None:
    """What the search says; None where nothing that can be made mends it, or the part cannot be."""
    if check_part(part, reference()):
        return None
    try:
        return list(search(airframe, part, wish))[-1]  # type: ignore[return-value]
    except InvalidDocument:
        return None


def m1_no_repair_is_weaker_than_the_damage(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """A part on which something was only put, nothing cut away, holds no less than as damaged, in every case."""
    airframe, part, local = damaged(rng, key, kind)
    if check_part(part, reference()):
        return
    with samples(0):
        left = {c.case_id: c.left.typ for c in what_is_left(airframe, part).cases}
        hurt = taken_along(part)
        trials = Trials(airframe, hurt, ["epoxy_30min"])
        for mark in hurt.damage:
            fixes = [f for f in fixes_for(mark, hurt) if f.adds]
            for n in local.permutation(len(fixes))[:3]:
                others = [fixes_for(m, hurt)[0] for m in hurt.damage if m.id != mark.id and fixes_for(m, hurt)]
                recipe = Recipe(fixes=(fixes[int(n)], *others), glue="epoxy_30min")
                if trials.tried(mark, fixes[int(n)]) is None:
                    continue
                try:
                    o = computed(airframe, part, recipe, MendWish()).option
                except InvalidDocument:
                    continue
                if o.left or not all(f.adds for f in o.recipe.fixes):
                    continue
                for c in o.cases:
                    if c.then.typ < 0.98 * left[c.case_id]:
                        badly = left[c.case_id] / max(c.then.typ, 1e-9)
                        says = f"{o.says}: {c.then.typ:.3g} mended, {left[c.case_id]:.3g} as damaged, “{c.name}”"
                        yield Violation(f"repair {key} {kind}", badly, says, document(airframe, part))


def m2_headings_mean_what_they_say(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """What stands under a heading keeps its rule, and the first sentence says the same as the rows."""
    airframe, part, local = damaged(rng, key, kind)
    wish = MendWish(fly_in_min=float(local.choice([20, 60, 240, 1440])), at_hand=FIELD_BOX)
    told = answer(airframe, part, wish)
    if told is None:
        return
    grams = told.rebuild.grams.typ
    for o in told.options:
        for k in o.kinds:
            if not keeps(k, row_of(o, grams), wish.fly_in_min):
                yield Violation(f"repair {key} {kind}", 10.0, f"{k}: {o.says}", document(airframe, part))
    quick = any("quick" in o.kinds for o in told.options)
    says = told.says.split("of a new one", 1)[-1]
    if quick == ("✕ No repair is ready" in says):
        yield Violation(f"repair {key} {kind}", 10.0, told.says, document(airframe, part))
    yield from _rows(told.options, airframe, part, f"repair {key} {kind}")


def _rows(options: list[MendOption], airframe: Airframe, part: Part, law: str) -> Iterator[Violation]:
    """Bands in order, times no shorter than hands and glue, nothing named twice or glued by what does not hold."""
    for o in options:
        bands = [o.strength_percent, o.minutes, o.fly_min, *(c.then for c in o.cases), *(c.launch for c in o.cases)]
        if any(not b.low <= b.typ * (1 + 1e-9) or not b.typ <= b.high * (1 + 1e-9) for b in bands):
            yield Violation(law, 5.0, f"{o.says}: a band is out of order", document(airframe, part))
        glues = glues_of(taken_along(part), o.recipe)
        early = [(c.launch, c.then) for c in o.cases] + [(o.launch_percent, o.strength_percent)]
        for a, b in early:
            if any(getattr(a, end) > getattr(b, end) * (1 + 1e-6) for end in ("low", "typ", "high")):
                yield Violation(law, 5.0, f"{o.says}: holds more at the launch than cured: {a} > {b}",
                                document(airframe, part))  # fmt: skip
        least = max((ready_after(g, "fixed") for g in glues), default=0.0)
        if o.fly_min.typ < o.minutes.typ - 1e-6 or o.fly_min.typ < least or o.loaded_min < o.fly_min.typ - 1e-6:
            yield Violation(law, 5.0, f"{o.says}: flies after {o.fly_min.typ}, hands {o.minutes.typ}",
                            document(airframe, part))  # fmt: skip
        if o.says != LEFT_AS_IT_IS and len({n.key for n in o.needs}) != len(o.needs):
            yield Violation(law, 3.0, f"{o.says}: needs a thing twice", document(airframe, part))
        family = foam_families().get(part.foam or "")
        for g in glues:
            if family is not None and on_foams()[g, family].verdict == "attacks":
                yield Violation(law, 10.0, f"{g} eats {part.foam}", document(airframe, part))
        spliced = any(f.way in SPLICED for f in o.recipe.fixes)
        if spliced and between()[o.recipe.of_splices, "composite_composite"].suits < 3:
            yield Violation(law, 10.0, f"bars spliced with {o.recipe.of_splices}", document(airframe, part))


def m3_more_time_and_warmth_never_hurt(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """The same repair flies no sooner in the cold, and holds no less at a later launch."""
    airframe, part, local = damaged(rng, key, kind)
    if check_part(part, reference()):
        return
    hurt = taken_along(part)
    fixes = [f for m in hurt.damage if (found := fixes_for(m, hurt)) for f in (found[int(local.integers(len(found)))],)]
    if not fixes or any(isinstance(m, BarMark) and m.how == "pulled_out" for m in hurt.damage):
        return
    glue = str(local.choice(["epoxy_5min", "pu_foaming_white", "aliphatic_wood", "ca_foamsafe"]))
    recipe = Recipe(fixes=tuple(fixes), glue=glue)
    try:
        with samples(0):
            found = [
                computed(airframe, part, recipe, MendWish(fly_in_min=m, warmth_C=t)).option
                for m, t in ((60, 22), (240, 22), (2880, 22), (240, 14))
            ]
    except InvalidDocument:
        return
    held = [o.launch_percent.typ for o in found[:3]]
    if any(b < a * (1 - 1e-6) for a, b in itertools.pairwise(held)):
        yield Violation(
            f"repair {key} {kind}", 5.0, f"{found[0].says}: {held} at later launches", document(airframe, part)
        )
    if found[3].fly_min.typ < found[1].fly_min.typ - 1e-6:
        yield Violation(f"repair {key} {kind}", 5.0, f"{found[0].says}: sooner in the cold", document(airframe, part))


LAWS = (m1_no_repair_is_weaker_than_the_damage, m2_headings_mean_what_they_say, m3_more_time_and_warmth_never_hurt)
__all__ = ["KINDS", "LAWS", "WAYS"]
