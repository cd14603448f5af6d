"""Group A: putting something on never makes a sound part break earlier, and taking it off gives the old answer."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from fletcher.core.document.airframe import Airframe, BarLayer, FilmLayer, Part, StripLayer
from fletcher.core.estimate.prepare import prepared_for
from fletcher.core.estimate.verdicts import shares_with_bars, verdict_of
from fletcher.core.materials.uncertainty import samples
from fletcher.core.studies.constructions import CONSTRUCTIONS
from tests.sense.world import (
    LINES,
    PAINTS,
    Answer,
    Rng,
    Violation,
    answers,
    cut,
    document,
    lever,
    line,
    possible,
    put_on,
    sized,
    stiffness,
    with_cases,
)

KINKED = 0.1
"""What a kinked ply still holds differs by so much with its thickness."""
DRAWN = 0.35
"""Stiffer parts hand over more along a glue line, a web or the core: by so much that may break earlier, named."""
SHEARED = frozenset({
    "bar_bond", "strip_bond", "core_shear", "wall_shear", "skin_shear", "bar_buckling", "bar_strut", "bar_flute",
})  # fmt: skip
"""Ways to fail by what stiff parts hand over."""
SLACK = 0.02
"""A bonded line may lower the break load by so much."""


def softer(airframe: Airframe, bare: Part, more: Part, law: str) -> Iterator[Violation]:
    """Stiffnesses that are lower with more."""
    with samples(0):
        one, other = (prepared_for(p, airframe.setting) for p in (bare, more))
    places = np.linspace(0.03, 0.97, 13) * bare.span_mm
    before, after = stiffness(one, places), stiffness(other, places)
    for name, values in before.items():
        ratio = after[name] / np.maximum(values, 1e-12)
        k = int(np.argmin(ratio))
        # values are read between stations, and the field of the twist is solved on a grid of its own for each section
        if ratio[k] < 1 - (0.03 if name == "GJ" else 2e-3):
            yield Violation(
                law, 1 / max(float(ratio[k]), 1e-9),
                f"{name} falls to {100 * ratio[k]:.1f} % at {places[k]:.0f} mm", document(airframe, more),
            )  # fmt: skip


def weaker(airframe: Airframe, bare: Part, more: Part, law: str, slack: float = SLACK) -> Iterator[Violation]:
    """Cases whose break load is lower with more."""
    for case, was, now in zip(bare.cases, answers(airframe, bare), answers(airframe, more), strict=True):
        if was.analysis.loading.cannot_fly or was.breaks_at > 1e6:
            continue
        load = _same_load(was, now)
        before, after = (float(np.abs(x.analysis.linear_deflection[0]).max()) for x in (was, now))
        if after * load > (1 + slack) * before and before > 1e-6:
            yield Violation(
                law,
                after / before,
                f"{case.type}: bends {before:.4g} mm, with it {after:.4g} mm",
                document(airframe, more),
            )
        if case.type == "nose_strike":  # a stiffer nose is felt harder by the mounts: that is what the answer names
            continue
        if now.breaks_at < (1 - slack) * was.breaks_at * load and not _named(was, now, slack, load):
            yield Violation(
                law, was.breaks_at / max(now.breaks_at, 1e-9),
                f"{case.type}: was {was}\n      now {now}", document(airframe, more),
            )  # fmt: skip


def _named(was: Answer, now: Answer, slack: float, load: float) -> bool:
    """Whether the answer names what really lowers the break load, and taking that out of the model restores the law:
    the neutral axis drawn away from what fails. `load` is the load before over that now."""
    held = was.breaks_at * load
    event = now.analysis.judged.final
    first = now.analysis.judged.first
    if first.mode.kind.startswith("bar") and first.mode is not event.mode:
        return now.breaks_at >= (1 - DRAWN) * held  # a bar breaks first, and is told; the rest is another part
    if not verdict_of(now.analysis).break_mode.because:
        return False
    if event.mode.kind in SHEARED:
        restored = _without(event.mode.kind, now) >= (1 - slack) * load * _without(event.mode.kind, was)
        return restored or now.breaks_at >= (1 - DRAWN) * held
    old = event.mode.line is not None and event.mode.line < len(was.analysis.part.layers)
    if old and shares_with_bars(now.analysis, event):
        return now.breaks_at >= (1 - DRAWN) * held
    where = (event.mode.kind, event.mode.line, event.mode.where)
    k = int(np.argmin(np.abs(was.analysis.prepared.geometry.inside - now.analysis.prepared.geometry.inside[event.k])))
    before, after = lever(was.analysis, *where, k), lever(now.analysis, *where, event.k)
    return before > 0 and now.breaks_at * after / before >= (1 - slack) * held


def _without(kind: str, of: Answer) -> float:
    """The break load with one kind of failure taken out of the model."""
    a = of.analysis
    return float(a.judged_by([m for m in a.modes if m.kind != kind]).breaks[0])


def _same_load(was: Answer, now: Answer) -> float:
    """The load that the case puts on the part before over that now, as a whole or where it breaks now, whichever grew
    more: relief by own mass and how it shakes change it."""
    before, after = _loads(was), _loads(now)
    ratios = [1.0, before.max() / after.max()] if after.max() > 0 else [1.0]
    y, k = now.analysis.prepared.geometry.y, now.analysis.judged.final.k
    if after[k] > 1e-3 * after.max():
        ratios.append(np.interp(y[k], was.analysis.prepared.geometry.y, before) / after[k])
    return float(min(ratios))


def _loads(x: Answer) -> np.ndarray:
    """The largest of the moments that a case puts on the part, at its stations, N·mm."""
    loading = x.analysis.loading
    return np.max([np.abs(m[0]) for m in (loading.moment, loading.edge, loading.torque)], axis=0)


def a1_more_never_less(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """A1: no line lowers stiffness, nor by more than 2 % the load at which a sound part breaks."""
    local = rng or np.random.default_rng(sum(map(ord, key + kind)))
    airframe, part = sized(rng, key)
    part = with_cases(airframe, part)
    more = put_on(part, line(local, kind, part))
    if possible(part) and possible(more):
        law = f"A1 {key} + {kind}"
        yield from softer(airframe, part, more, law)
        yield from weaker(airframe, part, more, law)


def a2_undone(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """A2: taking it off again gives the old answer to the last digit."""
    local = rng or np.random.default_rng(sum(map(ord, key + kind)))
    airframe, part = sized(rng, key)
    layer = line(local, kind, part)
    off = put_on(part, layer.model_copy(update={"enabled": False}))
    if possible(part) and possible(off):
        for was, now in zip(answers(airframe, part), answers(airframe, off), strict=True):
            if was.breaks_at != now.breaks_at or was.bend_mm != now.bend_mm:
                yield Violation(f"A2 {key} + {kind}", 2.0, f"was {was}; off {now}", document(airframe, off))


def a3_more_of_it(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """A3: wider, thicker or more plies of it is never weaker."""
    local = rng or np.random.default_rng(sum(map(ord, key + kind)))
    airframe, part = sized(rng, key)
    layer = line(local, kind, part)
    if isinstance(layer, StripLayer):
        bigger = layer.model_copy(update={"width_mm": 1.5 * layer.width_mm})
    elif isinstance(layer, FilmLayer):
        bigger = layer.model_copy(update={"plies": 2})
    elif isinstance(layer, BarLayer) and layer.stock in ("carbon_rod_2", "carbon_tube_4_3"):
        bigger = layer.model_copy(
            update={"stock": {"carbon_rod_2": "carbon_rod_3", "carbon_tube_4_3": "carbon_tube_6_4"}[layer.stock]}
        )
    else:
        return
    part = with_cases(airframe, part)
    less, more = put_on(part, layer), put_on(part, bigger)
    if possible(less) and possible(more):
        yield from weaker(airframe, less, more, f"A3 {key} + more {kind}", KINKED)


def a4_paint_holds_nothing(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """A4: paint weighs and seals; it holds nothing and harms nothing."""
    airframe, part = sized(rng, key)
    part = with_cases(airframe, part)
    layer = FilmLayer(id="paint", skin=PAINTS[len(key) % len(PAINTS)], face="both", shrink_percent=0)
    more = put_on(part, layer)
    if not (possible(part) and possible(more)):
        return
    for case, was, now in zip(part.cases, answers(airframe, part), answers(airframe, more), strict=True):
        before, after = (_loads(x).max() for x in (was, now))
        loads = after / before if before > 0 else 1.0
        if not abs(now.breaks_at * loads / was.breaks_at - 1) < 0.05:
            yield Violation(
                f"A4 {key} painted", abs(np.log(now.breaks_at / was.breaks_at)) + 1,
                f"{case.type}: was {was}\n      now {now}", document(airframe, more),
            )  # fmt: skip


def a4_patch_over_an_opening(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """A4: a patch over an opening leaves at least what the open part has."""
    local = rng or np.random.default_rng(sum(map(ord, key)))
    airframe, part = sized(rng, key)
    hole = cut(local, part)
    opened = with_cases(airframe, put_on(part, hole))
    skin = str(local.choice(["lamfilm_75", "glass_49", "filament_tape_bi", "kraft_pva"]))
    patch = StripLayer(
        id="patch", skin=skin, face=hole.face, width_mm=(hole.width_mm or 10) + 30, root_percent=hole.root_percent,
        tip_percent=hole.tip_percent, start_mm=max(0.0, hole.start_mm - 20), end_mm=(hole.end_mm or 0) + 20,
        shrink_percent=0,
    )  # fmt: skip
    patched = put_on(opened, patch)
    if possible(opened) and possible(patched):
        yield from weaker(airframe, opened, patched, f"A4 {key} patched with {skin}")


LAWS = (a1_more_never_less, a2_undone, a3_more_of_it, a4_paint_holds_nothing, a4_patch_over_an_opening)
WAYS = tuple(CONSTRUCTIONS)
KINDS = LINES
