r"""Forming: how tight a sheet can be rolled, how far it springs back, what stays locked in; checked at every former.

A sheet bent to a radius R strains its face by ε = c/R, c its distance from the neutral line: half the thickness, or the
whole of it where one paper alone carries and the core is pressed. The smallest radius is where ε reaches what the sheet
bears in that state (data/forming.csv). Bent, it keeps a share of the bend; the rest is locked in when it is fixed:
M = D (1 − kept)/R per width (plate bent to a cylinder, Timoshenko & Woinowsky-Krieger 1959, § 1).
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.common.model import Result
from fletcher.core.common.quantities import F0, from_root, in_mm, number
from fletcher.core.document.airframe import Part, WallLayer
from fletcher.core.materials.materials import Catalogue, Range, Sheet
from fletcher.core.materials.plates import Plate, plate_of
from fletcher.core.materials.tables import table_rows
from fletcher.core.materials.uncertainty import Band, Inputs, band, lognormal, normals
from fletcher.core.section.assembly import elements_of
from fletcher.core.section.elements import Elements
from fletcher.core.section.outline import Folded

STIFF_WAY = {"balsa": 0.3, "plywood": 0.85, "twin_wall": 0.4, "board": 0.75}
"""[J] Share of the strain that is left when a sheet is bent the stiff way: along its grain, flutes or paper fibre."""

NOSE_SHARE = 0.05
"""Share of the chord at which a rolled sheet ends on the nose: further round there is a fold, a block or a strip."""

FLAT_MM = 5000.0
"""A curve wider than this is called flat."""

HELD_OVER_MM = 60.0
"""[J] Length of arc whose mean bend pulls at an edge: what is creased in one line does not."""

GLUE_WIDTH_MM = 8.0
"""[J] Width of the glue line on a former or edge that keeps a bent sheet down."""


@dataclass(frozen=True)
class State:
    """What a sheet of a family bears when bent in one state, and what of the bend it keeps, shares."""

    family: str
    paper: str
    formed: str
    warm_C: float | None
    strain_pct: Range
    keeps: Range
    grade: str
    basis: str


@cache
def states() -> tuple[State, ...]:
    """The table of forming states."""
    return tuple(
        State(
            row["family"], row["paper"], row["formed"], float(row["warm_C"]) if row["warm_C"] else None,
            row["strain_pct"], row["keeps"], row["grade"], row["basis"],
        )
        for row in table_rows("forming.csv", ("strain_pct", "keeps"))
    )  # fmt: skip


_PAPERS = {"both": "both", "outer": "one", "inner": "one", "none": "none"}


def state_of(sheet: Sheet, paper: str, formed: str) -> State | None:
    """The row for a sheet in a state; a state that its family does not have is taken as plain, None if unknown."""
    wanted = _PAPERS[paper] if sheet.facing is not None and sheet.family == "board" else ""
    own = [s for s in states() if s.family == sheet.family and s.paper in ("", "any", wanted)]
    return next((s for s in own if s.formed == formed), next((s for s in own if s.formed == "plain"), None))


def smallest_radius(sheet: Sheet, state: State, grain: str) -> Array:
    """Smallest radius (samples,), mm, of the middle of a sheet in a state; `grain` "along" lies along the axis of the
    bend, which is the easy way."""
    z = normals(f"forming/{state.family}/{state.paper}/{state.formed}", 1)[0]
    strain = lognormal(state.strain_pct, z) / 100 * (1.0 if grain == "along" else STIFF_WAY.get(sheet.family, 1.0))
    t = sheet.thickness_mm.typ
    return np.asarray((t if state.paper == "one" else t / 2) / strain)


class FormState(Result):
    """One state of a sheet: its smallest radius, the share of a bend that it keeps, and where that comes from."""

    paper: str
    formed: str
    grain: str
    warm_C: float | None
    radius_mm: Band
    keeps: Band
    grade: str
    basis: str


def ways_to_form(sheet: Sheet) -> list[FormState]:
    """Every state of a sheet, bent the easy and the stiff way."""
    out = []
    for s in states():
        if s.family != sheet.family:
            continue
        for grain in ("along", "across") if sheet.family in STIFF_WAY else ("along",):
            out.append(
                FormState(
                    paper=s.paper, formed=s.formed, grain=grain, warm_C=s.warm_C,
                    radius_mm=band(smallest_radius(sheet, s, grain), Inputs([])),
                    keeps=Band(typ=s.keeps.typ, low=s.keeps.low, high=s.keeps.high), grade=s.grade, basis=s.basis,
                )
            )  # fmt: skip
    return out


def curl_radius(sheet: Sheet, catalogue: Catalogue, shrink: Range) -> Band | None:
    """Radius (mm) to which a faced board curls once one paper is peeled off and the other shrinks with the weather,
    R = D/(E_f t_f ε c), c from the paper to the neutral line (two layers, Timoshenko 1925); None without paper."""
    if sheet.facing is None or sheet.core_thickness_mm is None:
        return None
    f = sheet.facing
    plate = plate_of(sheet, catalogue, "outer", "along")
    core = catalogue.foams[sheet.core or ""]
    E_core = 0.5 * (core.E_tension_MPa.typ + core.E_compression_MPa.typ)
    pull = f.E_across_MPa.typ * f.thickness_mm.typ
    arm = 0.5 * (sheet.core_thickness_mm + f.thickness_mm.typ) * E_core * sheet.core_thickness_mm
    arm = arm / (pull + E_core * sheet.core_thickness_mm)
    strain = lognormal(shrink, normals("curl/" + sheet.key, 1)[0]) / 100
    return band(plate.D22 / (pull * strain * arm), Inputs([]))


PAPER_WEATHER_PCT = Range(0.05, 0.15, 0.4)
"""[J] Strain of paper between damp and dry air, per cent across its fibres."""


class FormerCheck(Result):
    """The tightest curve of a sheet at one former: where on the chord, its radius, and whether the sheet makes it."""

    y_mm: float
    x_percent: float
    radius_mm: float
    makes: str
    """"sure" even at the high end of the smallest radius, "typical", or "no"."""


class Formed(Result):
    """A sheet that is formed over a part, checked at every former: its smallest radius, the tightest it must make, the
    bend that it keeps, what springs back and what stays locked in."""

    line_id: str
    face: str
    sheet: str
    radius_mm: Band
    tightest_mm: float
    at_mm: float
    makes: str
    keeps: Band
    springs_to_mm: float
    """Radius to which the tightest place springs back when let go; as large as a kilometre where it is all but flat."""
    locked_share: float
    """Strain locked in at the tightest place, or at the tightest that it can make, over what it bears."""
    edge_N_per_mm: float
    """Pull on the glue that keeps its edge down, per mm of edge."""
    formers: list[FormerCheck]
    says: str


def face_radii(elements: Elements, face: str, y: float, window: float) -> tuple[Array, Array]:
    """Places along the chord (share) and the radius (mm) over a window of arc there, on one face at station y."""
    at = np.array([y])
    chord = float(elements.chord(at)[0])
    x = 0.5 * (1 - np.cos(np.linspace(np.arccos(1 - 2 * NOSE_SHARE), 0.985 * np.pi, 320)))
    low, high = (v[0] for v in elements.faces_at(x[None] * chord, at))
    z = high if face == "upper" else low
    dx, dz = np.diff(x * chord), np.diff(z)
    s = np.concatenate([[0.0], np.cumsum(np.hypot(dx, dz))])
    middle, slope = 0.5 * (s[1:] + s[:-1]), np.unwrap(np.arctan2(dz, dx))
    after = np.interp(np.minimum(s + window / 2, s[-1]), middle, slope)
    before = np.interp(np.maximum(s - window / 2, 0.0), middle, slope)
    run = np.minimum(s + window / 2, s[-1]) - np.maximum(s - window / 2, 0.0)
    turn = np.abs(after - before)
    return x, run / np.maximum(turn, 1e-6)


def _formers(part: Part) -> Array:
    return np.linspace(0, part.span_mm, part.bays + 1)


_FACES = {"both": ("upper", "lower"), "wrapped": ("upper", "lower"), "upper": ("upper",), "lower": ("lower",)}


def formed_of(part: Part, catalogue: Catalogue) -> list[Formed]:
    """Every sheet that lies over the faces of a checked part, at every former (or every rib spacing of a core)."""
    elements = elements_of(part, catalogue)
    out = []
    for layer in part.layers:
        if not isinstance(layer, WallLayer) or not layer.enabled or layer.face not in _FACES:
            continue
        sheet = catalogue.sheets[layer.sheet]
        # a folded board is creased where it turns
        folded = isinstance(elements.outline, Folded) and layer.formed == "plain"
        state = state_of(sheet, layer.paper, "creased" if folded else layer.formed)
        if state is not None:
            plate = plate_of(sheet, catalogue, layer.paper, layer.grain)
            out += [_one(elements, layer, face, sheet, plate, state) for face in _FACES[layer.face]]
    return out


def _one(elements: Elements, layer: WallLayer, face: str, sheet: Sheet, plate: Plate, state: State) -> Formed:
    part = elements.part
    least = band(smallest_radius(sheet, state, layer.grain), Inputs([]))
    window = max(2 * sheet.thickness_mm.typ, 6.0)
    checks = []
    end = part.span_mm if layer.end_mm is None else layer.end_mm
    for y in _formers(part):
        if not layer.start_mm - 1e-6 <= y <= end + 1e-6:
            continue
        x, radius = face_radii(elements, face, float(y), window)
        n = int(np.argmin(radius))
        r = float(radius[n])
        makes = "sure" if r >= least.high else "typical" if r >= least.typ else "no"
        checks.append(FormerCheck(y_mm=float(y), x_percent=100 * float(x[n]), radius_mm=min(r, 1e6), makes=makes))
    worst = min(checks, key=lambda c: c.radius_mm)
    tight, kept = worst.radius_mm, state.keeps.typ
    wide = float(face_radii(elements, face, worst.y_mm, HELD_OVER_MM)[1].min())
    moment = plate.D22 * (1 - kept) / max(wide, least.typ)
    locked = (1 - kept) * least.typ / max(tight, least.typ)
    return Formed(
        line_id=layer.id,
        face=face,
        sheet=plate.skin.name,
        radius_mm=least,
        tightest_mm=tight,
        at_mm=worst.y_mm,
        makes=worst.makes,
        keeps=Band(typ=kept, low=state.keeps.low, high=state.keeps.high),
        springs_to_mm=min(tight / max(kept, 1e-3), 1e6),
        locked_share=locked,
        edge_N_per_mm=float(moment / (GLUE_WIDTH_MM * 2 / 3)),
        formers=checks,
        says=_says(worst, least, state),
    )


def _says(worst: FormerCheck, least: Band, state: State) -> str:
    if worst.radius_mm > FLAT_MM:
        return "✓ flat: no bend needed"
    out = from_root(worst.y_mm)
    where = f"{out}, at {worst.x_percent:.0f} % chord"
    needs = (
        f"needs {in_mm(worst.radius_mm, F0)} of radius, it makes {number(least.typ, 'mm', F0)} "
        f"({number(least.low, 'mm', F0)} to {number(least.high, 'mm', F0)})"
    )
    if worst.makes == "sure":
        return f"✓ follows every former; tightest {where}: {needs}"
    better = [
        s
        for s in states()
        if s.family == state.family
        and s.strain_pct.typ > 1.2 * state.strain_pct.typ
        and s.paper in (state.paper, "any")
    ]
    words = ", ".join(dict.fromkeys(s.formed for s in better)) or (
        "a thinner sheet, or two thin ones laminated over the former"
    )
    how = "≈ likely to follow, not sure," if worst.makes == "typical" else "✕ cracks or creases"
    return f"{how} {where}: {needs}. What helps: {words}."
