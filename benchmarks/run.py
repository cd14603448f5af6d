"""Speed on a realistic wing, and against the finite-element section library. Prints medians, percentiles, ratios.

Run with ./fletcher bench [estimate|sections|browser …]; nothing here is a test. The page has benchmarks/browser.py.
"""

from __future__ import annotations

import os
import resource
import statistics
import sys
import time
from collections.abc import Callable, Iterator

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

import numpy as np

from fletcher.core.adhesion.joint_capacity import GlueNeed
from fletcher.core.adhesion.selection import glue
from fletcher.core.demo.crash import crashed_airframe
from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe, BarLayer, FilmLayer, Part, StripLayer
from fletcher.core.document.damage import CreaseMark, OpenedMark
from fletcher.core.document.defaults import default_case
from fletcher.core.estimate import prepare, report
from fletcher.core.estimate.prepare import _prepared as prepared
from fletcher.core.estimate.report import estimate
from fletcher.core.making.making import making
from fletcher.core.materials.tables import reference
from fletcher.core.repair.pareto_search import search
from fletcher.core.repair.schema import Mending, MendWish
from fletcher.core.section.solution_cache import solved
from fletcher.core.studies.break_first import CorridorWish, corridor
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.studies.openings import openings


def spread(call: Callable[[], object], times: int, before: Callable[[], object] = lambda: None) -> list[float]:
    """Milliseconds of each call, in order of size."""
    out = []
    for _ in range(times):
        before()
        start = time.perf_counter()
        call()
        out.append(1e3 * (time.perf_counter() - start))
    return sorted(out)


def line(name: str, ms: list[float], wanted: str) -> None:
    p95 = ms[min(len(ms) - 1, int(0.95 * len(ms)))]
    print(f"{name:<58} median {statistics.median(ms):7.1f} ms   95 % {p95:7.1f} ms   wanted {wanted}")


def wing(end: float = 470.0) -> Airframe:
    """Half wing with three bars (a pair and one), four skins (two strips, a film on two faces) and two cases."""
    base = CONSTRUCTIONS["bead_wing"].part()
    layers = (
        BarLayer(id="spar", stock="carbon_rod_3", place="pair", end_mm=end, cover_mm=0.5),
        BarLayer(id="rear", stock="carbon_rod_2", place="middle", root_percent=70, tip_percent=70, end_mm=400),
        StripLayer(id="tape", skin="filament_tape_uni", face="both", end_mm=560),
        FilmLayer(id="film", skin="lamfilm_75", face="both"),
    )
    part: Part = base.model_copy(update={"layers": layers})
    return Airframe(name="bench", all_up_mass_g=900, parts=(part,))


def forget() -> None:
    """Let nothing be known: neither parts nor solved sections."""
    solved.known.clear()
    prepared.cache_clear()


def faster(airframe: Airframe, times: int) -> list[Airframe]:
    """The airframe with its first case at other speeds, all else alike."""
    part = airframe.parts[0]
    found = []
    for v in np.linspace(12, 18, times):
        cases = (part.cases[0].model_copy(update={"speed_m_s": float(v)}), *part.cases[1:])
        found.append(airframe.model_copy(update={"parts": (part.model_copy(update={"cases": cases}),)}))
    return found


def bench_estimate() -> None:
    airframe = wing()

    def one(which: Airframe = airframe) -> None:
        """What the page asks for: the report of one case with the verdicts of both."""
        estimate(which, "wing", "pull-up")

    one()
    cold = spread(one, 25, before=forget)
    line("full estimate, 60 stations, 3 bars, 4 skins, 2 cases, 200 samples, cold", cold, "median < 80 ms")
    turn = iter(faster(airframe, 25))
    change = spread(lambda: one(next(turn)), 25)
    line("… after a change that leaves outline and skins alone", change, "median < 40 ms")
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(f"{'peak memory of this process':<58} {peak:14.0f} MB   wanted < 300 MB")


def bench_cases() -> None:
    """One estimate with the verdicts of five kept cases; and how the cost grows with the stations."""
    airframe = wing()
    part = airframe.parts[0]
    for kind in ("gust", "landing", "sudden_stop"):
        part = part.model_copy(update={"cases": (*part.cases, default_case(kind, airframe, part))})
    airframe = airframe.model_copy(update={"parts": (part,)})
    estimate(airframe, "wing", "pull-up")
    cold = spread(lambda: estimate(airframe, "wing", "pull-up"), 15, before=forget)
    line("one estimate, five kept cases, 200 samples, cold", cold, "median < 120 ms")
    turn = iter(faster(airframe, 15))
    change = spread(lambda: estimate(next(turn), "wing", "pull-up"), 15)
    line("… after a change of one case", change, "median < 60 ms")
    kept = prepare.STATIONS
    for stations in (20, 60, 200, 600):
        prepare.STATIONS = stations
        ms = statistics.median(spread(lambda: estimate(airframe, "wing", "pull-up"), 5, before=forget))
        print(f"{f'  {stations} stations':<58} median {ms:7.1f} ms   {ms / stations:6.2f} ms per station")
    prepare.STATIONS = kept
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(f"{'peak memory of this process':<58} {peak:14.0f} MB   wanted < 400 MB at 60 stations")


def bench_sections() -> None:
    """One section with a rod pair: sums and field solution against the library on the same section."""
    from sectionproperties.analysis.section import Section
    from sectionproperties.pre.geometry import Geometry
    from sectionproperties.pre.pre import Material
    from shapely import box
    from shapely.geometry import Point

    from fletcher.core.materials.tables import reference
    from fletcher.core.section.assembly import elements_of
    from fletcher.core.section.flexure_function import solve
    from fletcher.core.section.grid import BarSpot
    from fletcher.core.section.outline import Rectangle
    from fletcher.core.section.properties import draws_of, geometry_of, sums_of

    def library() -> Section:
        foam, rod = (
            Material(n, elastic_modulus=e, poissons_ratio=0, yield_strength=1, density=1, color="w")
            for n, e in (("foam", 14.0), ("rod", 2e4))
        )
        discs = [Point(42, z).buffer(1.5, 16) for z in (7.5, -7.5)]
        body = box(0, -10, 120, 10).difference(discs[0]).difference(discs[1])
        geometry = Geometry(body, foam) + Geometry(discs[0], rod) + Geometry(discs[1], rod)
        return Section(geometry.create_mesh([4.0, 0.3, 0.3]))

    section = library()
    sums_lib = spread(lambda: library().calculate_geometric_properties(), 3)
    section.calculate_geometric_properties()
    field_lib = spread(section.calculate_warping_properties, 3)
    bars = [BarSpot(42, z, 3, 3, 1e4) for z in (7.5, -7.5)]
    field = spread(lambda: solve(Rectangle(), 120, 20, 0.0, [], bars), 20)
    part = (
        CONSTRUCTIONS["plank"]
        .part()
        .model_copy(update={"layers": (BarLayer(id="b", stock="carbon_rod_3", cover_mm=1),)})
    )
    elements = elements_of(part, reference())
    draws = draws_of(elements)
    y = np.linspace(0, 500, 60)
    sums = [t / 60 / 201 for t in spread(lambda: sums_of(elements, draws, geometry_of(elements, y, y)), 20)]
    line("library, mesh and sums of one section", sums_lib, "")
    print(f"{'our sums, per section and sample':<58} median {1e3 * statistics.median(sums):7.2f} µs")
    line("library, warping of one section", field_lib, "")
    line("our field solution (shear, torsion, shear centre)", field, "")
    print(f"ratio sums  {statistics.median(sums_lib) / statistics.median(sums):10.0f} ×   wanted ≥ 1000 ×")
    print(f"ratio field {statistics.median(field_lib) / statistics.median(field):10.0f} ×   wanted ≥ 100 ×")


HAND = ("toughness_of", "warp_of", "dents_of")
"""What the report of an estimate computes of a part in the hand."""


def bench_hand() -> None:
    """What toughness, warp and dents add to a cold estimate, each timed within it; the studies of making."""
    airframe, spent = wing(), dict.fromkeys(HAND, 0.0)

    def timed(name: str, call: Callable[..., object]) -> Callable[..., object]:
        def wrapped(*arguments: object) -> object:
            start = time.perf_counter()
            result = call(*arguments)
            spent[name] += time.perf_counter() - start
            return result

        return wrapped

    kept = {name: getattr(report, name) for name in HAND}
    estimate(airframe, "wing", "pull-up")
    shares, times = [], 40
    try:
        for name in HAND:
            setattr(report, name, timed(name, kept[name]))
        for _ in range(times):
            before = sum(spent.values())
            forget()
            start = time.perf_counter()
            estimate(airframe, "wing", "pull-up")
            whole, own = time.perf_counter() - start, sum(spent.values()) - before
            shares.append(own / (whole - own))
    finally:
        for name in HAND:
            setattr(report, name, kept[name])
    shares.sort()
    each = ", ".join(f"{name.removesuffix('_of')} {1e3 * s / times:.1f} ms" for name, s in spent.items())
    print(f"{'added by what a part does in the hand, cold':<58} median {100 * statistics.median(shares):7.1f} %    "
          f"95 % {100 * shares[int(0.95 * times)]:7.1f} %    wanted < 25 %   ({each})")  # fmt: skip
    part = airframe.parts[0]
    cloth = demo_airframes()[2]
    line("making: stack-up, forming, drape", spread(lambda: making(airframe, part, reference()), 15), "< 300 ms")
    openings_ms = spread(lambda: openings(cloth, cloth.parts[0], "pull-up"), 5)
    line("openings and their patches, a servo and a slit", openings_ms, "< 3000 ms")
    corridor_ms = spread(lambda: corridor(airframe, part, CorridorWish()), 15)
    line("corridor, all fasteners", corridor_ms, "< 150 ms")


def bench_glue() -> None:
    """The glue chooser: every adhesive for a pair, with bands."""
    pairs = (("epp_30", "epp_30"), ("eps_20", "wood"), ("xps_30", "composite"))
    needs = iter(GlueNeed(one=a, other=b, width_mm=w, schools={}) for w in range(5, 35) for a, b in pairs)
    glue(next(needs), reference())
    line("glue: all adhesives for a pair, with bands", spread(lambda: glue(next(needs), reference()), 60), "< 10 ms")


def bench_mend() -> None:
    """Repairs of a cored half and of one of board with two marks each, and of the demo's half with four; every time the
    crash lies elsewhere, so that nothing is known of it."""
    post = crashed_airframe()
    half = post.parts[0]
    two = half.model_copy(update={"damage": tuple(m for m in half.damage if m.id in ("rod", "crack"))})
    board = CONSTRUCTIONS["folded_wing"].part()
    marks = (CreaseMark(id="crease", at_mm=200), OpenedMark(id="nose", edge="front", start_mm=150, end_mm=260))
    board = board.model_copy(update={"damage": marks})
    folded = Airframe(name="x", all_up_mass_g=700, parts=(board,))
    considered: list[int] = []
    for name, airframe, part, wanted in (
        ("two marks on a cored half", post, two, "< 2000 ms"),
        ("two marks on a board half", folded, board, "< 2000 ms"),
        ("the four of the demo's crash", post, half, "–"),
    ):
        places = iter(range(-12, 40, 4))

        def one(airframe: Airframe = airframe, part: Part = part, places: Iterator[int] = places) -> None:
            *_, last = search(airframe, _moved(part, next(places)), MendWish())
            assert isinstance(last, Mending)
            considered.append(last.considered)

        one()
        line(f"repairs searched and computed, {name}", spread(one, 9), wanted)
    print(f"{'repairs considered':<58} median {statistics.median(considered):7.0f}    wanted >= 200")


def _moved(part: Part, by: float) -> Part:
    """The part with all its marks so far further out."""
    marks = []
    for m in part.damage:
        fields = ("at_mm",) if hasattr(m, "at_mm") else ("start_mm", "end_mm")
        marks.append(m.model_copy(update={f: getattr(m, f) + by for f in fields}))
    return part.model_copy(update={"damage": tuple(marks)})


BENCHES = {
    "estimate": bench_estimate,
    "cases": bench_cases,
    "hand": bench_hand,
    "glue": bench_glue,
    "mend": bench_mend,
    "sections": bench_sections,
}

if __name__ == "__main__":
    for name in sys.argv[1:] or BENCHES:
        if name not in BENCHES:
            sys.exit(f"unknown benchmark {name!r}; there are {', '.join(BENCHES)}")
        BENCHES[name]()
