"""A patch, guard or skid: a piece of sheet of a size on a face, of every construction."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.document.airframe import Airframe, Part, StripLayer, WallLayer
from fletcher.core.estimate.analyse import analyse
from fletcher.core.estimate.effort import prices
from fletcher.core.estimate.prepare import Prepared, prepared_for
from fletcher.core.estimate.report import estimate
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import samples
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.studies.starters import starters
from fletcher.core.validation.airframe import check_part

STOCK = reference()
FACED = [
    k
    for k, c in CONSTRUCTIONS.items()
    if k != "board_tail" and (c.part().kind != "fuselage" or c.part().foam or k == "box_fuselage")
]


def patched(part: Part, sheet: str = "birchply_0.4", **changes: object) -> Part:
    start = round(0.1 * part.span_mm)
    fields = {"id": "piece", "skin": sheet, "face": "lower", "width_mm": 20, "root_percent": 50, "tip_percent": 50,
              "start_mm": start, "end_mm": start + 60, **changes}  # fmt: skip
    return part.model_copy(update={"layers": (*part.layers, StripLayer.model_validate(fields))})


def prepared(part: Part) -> Prepared:
    with samples(0):
        return prepared_for(part, Airframe(name="A", all_up_mass_g=600).setting)


def share_of(length: float, both_free: bool = True) -> float:
    """Mean strain of the piece over that of its place: E A u″ = k (u − ε y) by finite differences, N = 0 at free ends,
    no slip at the root."""
    ply, foam = STOCK.sheets["birchply_0.4"], STOCK.foams["epp_30"]
    EA, k = ply.E_along_MPa.typ * ply.thickness_mm.typ * 20, foam.G_MPa.typ * (2 * 20 / 20 + 1.5)
    n, h = 2001, length / 2000
    y = np.linspace(-length / 2, length / 2, n) if both_free else np.linspace(0, length, n)
    matrix = np.diag(np.full(n, -2 * EA / h**2 - k)) + np.diag(np.full(n - 1, EA / h**2), 1)
    matrix += np.diag(np.full(n - 1, EA / h**2), -1)
    matrix[-1, -2] *= 2  # no force at the end: a mirrored node
    if both_free:
        matrix[0, 1] *= 2
    else:
        matrix[0], matrix[0, 0] = 0.0, 1.0
    u = np.linalg.solve(matrix, -k * y)
    return float((u[-1] - u[0]) / length)


@pytest.mark.parametrize(("start", "length"), [(50.0, 60.0), (50.0, 200.0), (0.0, 60.0), (0.0, 300.0)])
def test_a_piece_takes_what_the_foam_hands_over(start, length, proof):
    plank = block()
    piece = patched(plank, start_mm=start, end_mm=start + length)
    made = next(m for m in prepared(piece).elements.membranes if m.strip)
    proof(f"piece of sheet from {start:g}, {length:g} long", made.takes, share_of(length, start > 0), 1e-3)


def block() -> Part:
    plank = CONSTRUCTIONS["plank"].part()
    return plank.model_copy(update={
        "layers": (), "foam": "epp_30", "root_chord_mm": 120, "tip_chord_mm": 120, "root_thickness_mm": 20,
        "tip_thickness_mm": 20, "span_mm": 500, "tip_setback_mm": 0,
    })  # fmt: skip


def test_a_plank_with_a_skid_has_the_stiffness_of_the_plank_and_of_the_ply_that_follows(proof):
    """EI = ∫E z² about the common axis: foam 120 × 20 and ply b × t at its own height, its E by the share that it takes
    (parallel axes)."""
    plank = block()
    piece = patched(plank, start_mm=100, end_mm=300)
    with_it, without = prepared(piece), prepared(plank)
    ply = STOCK.sheets["birchply_0.4"]
    t, b = ply.thickness_mm.typ, 20.0
    s, g = without.sums, without.geometry
    k = int(np.argmin(np.abs(g.y - 200)))
    EA, EI, z = float(s.whole_EA[0, k]), float(s.whole_EI[0, k]), float(s.whole_z[0, k])
    low = float(g.z_low[k]) - t / 2
    ply_EA = ply.E_along_MPa.typ * share_of(200) * b * t
    together = EI + EA * ply_EA / (EA + ply_EA) * (z - low) ** 2
    n = int(np.argmin(np.abs(with_it.geometry.y - 200)))
    proof("skid under a plank, EI", float(with_it.sums.whole_EI[0, n]), together, 0.02)
    proof("skid under a plank, grams", float(with_it.grams[-2, 0]), ply.areal_mass_g_m2.typ * b * 200e-6, 1e-6)
    far = int(np.argmin(np.abs(with_it.geometry.y - 400)))
    assert with_it.sums.whole_EI[0, far] == pytest.approx(float(s.whole_EI[0].min()), rel=1e-3)


def test_on_a_skin_as_stiff_as_itself_a_piece_takes_all():
    def taken(face: str, end: float | None) -> float:
        sheet = WallLayer(id="sheet", sheet="birchply_0.4", face=face, end_mm=end)
        part = block().model_copy(update={"layers": (sheet,)})
        return min(m.takes for m in prepared(patched(part)).elements.membranes)

    start = round(0.1 * block().span_mm)
    assert taken("both", None) == taken("lower", None) == taken("lower", start + 60) == 1.0
    assert taken("upper", None) == taken("lower", start + 40) < 0.1  # on the other face, or not under all of it


@pytest.mark.parametrize("key", FACED)
def test_a_piece_of_sheet_weighs_little_and_breaks_nothing_earlier(key):
    part = CONSTRUCTIONS[key].part()
    piece = patched(part, width_mm=12)
    assert check_part(piece, STOCK) == []
    airframe = Airframe(name="A", all_up_mass_g=600, parts=(part,))
    for case in part.cases:
        with samples(0), np.errstate(all="ignore"):
            now, was = (analyse(airframe.model_copy(update={"parts": (p,)}), p, case) for p in (piece, part))
        if was.loading.cannot_fly or float(was.judged.breaks[0]) > 1e6:
            continue
        load = max(float(np.abs(m[0]).max()) for m in (now.loading.moment, now.loading.edge, now.loading.torque))
        before = max(float(np.abs(m[0]).max()) for m in (was.loading.moment, was.loading.edge, was.loading.torque))
        assert float(now.judged.breaks[0]) * load >= 0.93 * float(was.judged.breaks[0]) * before, case.type


def test_every_sheet_of_the_stockroom_can_be_a_piece_and_is_priced():
    part = CONSTRUCTIONS["cut_core"].part()
    airframe = Airframe(name="A", all_up_mass_g=400, parts=(part,))
    for sheet in STOCK.sheets:
        piece = patched(part, sheet)
        with samples(0):
            told = estimate(airframe.model_copy(update={"parts": (piece,)}), part.id, part.cases[0].id)
        assert told.effort.cost.typ > 0 and sheet in prices()


def test_a_piece_is_offered_and_an_unknown_one_refused_by_name():
    part = CONSTRUCTIONS["cut_core"].part()
    offered = next(s.layer for s in starters(part) if s.label.startswith("Patch, guard"))
    assert isinstance(offered, StripLayer) and offered.skin in STOCK.sheets and offered.end_mm is not None
    (problem,) = check_part(patched(part, "birchply_0.41"), STOCK)
    assert problem.path.endswith("skin") and "skin or sheet" in problem.message and "birchply_0.4" in problem.message
