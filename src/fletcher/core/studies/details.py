r"""Details that a beam does not see: half slots, fluted edges, bolted centres, lock joints, brackets.

Each is a small check of one place against what the part's cases ask there. Strengths are drawn with their spread;
the formulas and their sources stand with each.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.common.quantities import F0, G, in_mm, in_N
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.estimate.analyse import under_all
from fletcher.core.estimate.prepare import Prepared, prepared_for
from fletcher.core.estimate.schema import Symbol
from fletcher.core.joints.wing_root import SEAM, pin_moment
from fletcher.core.materials.grades import grade
from fletcher.core.materials.materials import G_GRAVITY, Range
from fletcher.core.materials.plates import FOLD_PEEL
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import Inputs, ModelFactor, band, draw_factor, drawn, lognormal, normals
from fletcher.core.strength.modes import notch_factor
from fletcher.core.studies.detail_wishes import (
    BoltedCentre,
    Bracket,
    Detail,
    DetailResult,
    DetailWish,
    FlutedEdge,
    HalfSlot,
    LockJoint,
    Mode,
)

GLUE_ON_EDGE = ModelFactor(
    "glue on thin plastic edges",
    Range(0.3, 0.8, 1.8),
    "bond strength on scuffed or flame-treated polypropylene, MPa (contact adhesive or hot glue)",
)
CREEP_SHARE = 0.5
"""[J] Share of its crush stress that foam bears for months under a clamp."""
CROSSED_SHARE = 0.9
"""[J] Share of its whole strength that a plate keeps where the other one fills its slot, glued, on the pressed side."""
_NOTCHED = frozenset({"board", "balsa", "plywood", "hardwood", "glass_laminate", "carbon_laminate", "moulded"})


@dataclass(frozen=True)
class _Place:
    """The part at one place: its preparation, station, and the worst moment asked there, N·mm, with its case."""

    part: Part
    prepared: Prepared
    k: int
    moment: float
    case: str


@dataclass(frozen=True)
class _Found:
    """A detail's answer before it is told: ways it gives (S,), what is asked in the same unit, and the words."""

    title: str
    unit: str
    modes: dict[str, Array]
    asked: float | None
    asked_says: str
    helps: list[str]
    formula: str
    source: str
    symbols: list[Symbol]


def _refuse(field: str, message: str, value: object = None) -> InvalidDocument:
    return InvalidDocument(
        [Problem(path=f"detail.{field}", message=message, value=None if value is None else str(value))]
    )


def _z(key: str) -> Array:
    return normals("detail/" + key, 1)[0, : 1 + drawn()]


def detail(airframe: Airframe, part: Part, wish: DetailWish) -> DetailResult:
    """Check a detail at its place on a checked part.

    Raises
    ------
    InvalidDocument
        If a sheet, bolt or fitting is unknown, or the part has nothing that this detail needs.
    """
    if wish.at_mm > part.span_mm:
        raise InvalidDocument(
            [
                Problem(
                    path="at_mm",
                    message=f"lies beyond the end of the part: at most {in_mm(part.span_mm, G)}",
                    value=f"{wish.at_mm:g}",
                )
            ]
        )
    place = _at(airframe, part, wish.at_mm)
    found = _CHECKS[wish.detail.kind](wish.detail, place)
    ordered = sorted(found.modes.items(), key=lambda pair: float(pair[1][0]))
    least = np.min(list(found.modes.values()), axis=0)
    holds, enough = None, "unknown"
    if found.asked:
        holds = band(least / found.asked, Inputs([]))
        enough = grade(holds)
    return DetailResult(
        title=found.title, unit=found.unit,
        modes=[Mode(name=name, capacity=band(v, Inputs([]))) for name, v in ordered],
        asked=found.asked, asked_says=found.asked_says, holds=holds,
        enough=enough,
        helps=found.helps, formula=found.formula, source=found.source, symbols=found.symbols,
    )  # fmt: skip


def _at(airframe: Airframe, part: Part, at_mm: float) -> _Place:
    p = prepared_for(part, airframe.setting)
    y = p.geometry.y
    k = int(np.argmin(np.abs(y - at_mm)))
    worst, name = 0.0, ""
    for a in under_all(p, airframe, part, list(part.counted)):
        both = np.hypot(a.loading.moment[0], a.loading.edge[0]) * a.case.safety_factor
        here = float(np.interp(at_mm, y, both))
        if here > worst:
            worst, name = here, a.case.name
    return _Place(part, p, k, worst, name)


def _asks(place: _Place) -> tuple[float | None, str]:
    if place.moment <= 0:
        return None, "no load case bends the part there"
    return place.moment / 1e3, f"“{place.case}” × safety factor"


def _sheet_strength(key: str, field: str) -> Array:
    sheet = reference().sheets[key]
    return lognormal(getattr(sheet, field), _z(f"{key}/{field}"))


def _known(table: str, key: str, field: str) -> None:
    if key not in getattr(reference(), table):
        raise _refuse(field, f"is not in the Stockroom’s {table}", repr(key))


def _half_slot(d: Detail, place: _Place) -> _Found:
    """Net section at the root of a slot: M = σ t (h − s)²/6 over the notch factor of its corner (Inglis 1913); open on
    the pressed side and filled by the other plate the whole depth counts."""
    assert isinstance(d, HalfSlot)
    _known("sheets", d.sheet, "sheet")
    sheet = reference().sheets[d.sheet]
    t, h, slot = sheet.thickness_mm.typ, d.depth_mm, d.depth_mm * d.slot_percent / 100
    pull = _sheet_strength(d.sheet, "tensile_along_MPa")
    factor, rounder = (
        float(notch_factor(slot / 2, r)) if sheet.family in _NOTCHED else 1.0 for r in (d.radius_mm, 3.0)
    )
    net, whole = t * (h - slot) ** 2 / 6, t * h**2 / 6
    press = _sheet_strength(d.sheet, "compressive_along_MPa")
    modes = {"tears from the end of the slot": pull * net / factor / 1e3, "creases at the slot": press * whole / 1e3}
    if d.side == "pressed":
        modes = {
            "tears on the side opposite the slot": pull * whole * CROSSED_SHARE / 1e3,
            "creases at the slot": press * whole * CROSSED_SHARE / 1e3,
        }
    asked, says = _asks(place)
    helps = [
        "cut the slot on the compression side of the plate that bends most, and glue it solid",
        f"round the slot's root: {in_mm(3, G)} of radius lowers its corner factor from {factor:.1f} to {rounder:.1f}",
        f"tape or a glued strip across the slot's open end, {in_mm(40, G)} to each side",
    ]
    symbols = [
        Symbol(symbol="t", meaning="sheet", value=t, unit="mm"),
        Symbol(symbol="h − s", meaning="depth left at the slot", value=h - slot, unit="mm"),
        Symbol(symbol="σ", meaning="tensile strength, typical", value=float(pull[0]), unit="MPa"),
        Symbol(symbol="K", meaning="stress concentration factor", value=factor, unit=""),
    ]
    return _Found("Half-slot of crossed plates", "N·m", modes, asked, says,
                  helps if d.side == "pulled" else helps[2:],
                  "M = σ t (h − s)²/(6 K)", "net section with Inglis’s stress concentration", symbols)  # fmt: skip


def _fluted_edge(d: Detail, place: _Place) -> _Found:
    """An open edge touches with its walls and webs alone: the share of its section that is plastic, m″/(ρ t)."""
    assert isinstance(d, FlutedEdge)
    _known("sheets", d.sheet, "sheet")
    sheet = reference().sheets[d.sheet]
    if sheet.build != "twin_wall" or sheet.wall_thickness_mm is None:
        raise _refuse("sheet", "is not twin-wall sheet: its edge is solid", d.sheet)
    t = sheet.thickness_mm.typ
    share = sheet.areal_mass_g_m2.typ * 1e-6 / (0.91e-3 * t)
    glue = draw_factor(GLUE_ON_EDGE)
    modes = {"comes apart at the open edge": glue * share * t * d.length_mm,
             "sheet tears beside it": _sheet_strength(d.sheet, "tensile_across_MPa") * t * d.length_mm}  # fmt: skip
    walls = 2 * sheet.wall_thickness_mm
    helps = [
        f"fold a flange of one wall, {in_mm(12, G)} wide: {12 / (share * t):.0f} times the bonded width",
        "a strip of wood pushed and glued into the flutes along the edge",
        "tape over both sides of the joint",
    ]
    symbols = [
        Symbol(symbol="φ", meaning="plastic share of the edge", value=100 * share, unit="%"),
        Symbol(symbol="t", meaning="sheet", value=t, unit="mm"),
        Symbol(symbol="2 t_w", meaning="both walls", value=walls, unit="mm"),
        Symbol(symbol="τ", meaning="glue on it, typical", value=float(glue[0]), unit="MPa"),
    ]
    says = "value you entered" if d.pull_N else "enter the pull force to check it"
    return _Found("Open twin-wall edge", "N", modes, d.pull_N, says, helps, "F = τ φ t L", "contact area of plastic",
                  symbols)  # fmt: skip


def _bolted_centre(d: Detail, place: _Place) -> _Found:
    """Bolts as a couple, M = n/2 F a, against what they bear and what foam bears under their washers; what may be
    screwed down for good is less, as foam creeps. Ends of the doubler peel at N = √(2ΓEt) per width (Kendall 1975);
    in plies that end by turns each brings a share."""
    assert isinstance(d, BoltedCentre)
    _known("sheets", d.doubler, "doubler")
    _known("fasteners", d.bolt, "bolt")
    p, catalogue = place.prepared, reference()
    if p.elements.hollow:
        raise _refuse("kind", "needs a foam core to clamp. Bolt a hollow part through ribs or blocks", "bolted_centre")
    bolt, sheet = catalogue.fasteners[d.bolt], catalogue.sheets[d.doubler]
    if bolt.family not in ("bolt", "blind_nut"):
        raise _refuse("bolt", "must be a bolt or a nut", d.bolt)
    one = d.plies * sheet.thickness_mm.typ
    # the doubler spreads the washer's load by its own thickness to each side
    under = np.pi / 4 * ((d.washer_mm + 2 * one) ** 2 - bolt.size_mm**2)
    clamp = p.draws.foam.bearing * under
    lets = lognormal(bolt.lets_go_N, _z(d.bolt))
    pairs = d.bolts / 2
    E = lognormal(sheet.E_along_MPa, _z(f"{d.doubler}/E"))
    t = sheet.thickness_mm.typ
    gamma = lognormal(FOLD_PEEL, _z("peel")) / 25
    z = 0.5 * float(p.geometry.z_high[place.k] - p.geometry.z_low[place.k])
    step = np.sqrt(2 * gamma / (E * t)) * p.sums.whole_EI[:, place.k] / z
    modes = {
        "bolts fail in tension": pairs * lets * d.apart_mm / 1e3,
        "foam crushes under the washers": pairs * clamp * d.apart_mm / 1e3,
        "doubler peels from its end": step / 1e3,
    }
    asked, says = _asks(place)
    preload, lasting = bolt.holds_N.typ, float(p.draws.foam.bearing[0]) * CREEP_SHARE
    wide = np.sqrt(4 / np.pi * preload / lasting + bolt.size_mm**2)
    helps = [
        f"screw down to {in_N(lasting * under, F0)} and no further, or foam creeps under the washers: a bolt as tight "
        f"as it goes ({in_N(preload, F0)}) wants washers of {in_mm(wide, F0)}, "
        "or sleeves of tube round the bolts that take the clamp",
        "space the bolts further apart",
        f"end the doubler ply by ply, {in_mm(max(10, round(8 * z)), F0)} apart, tapered in plan",
    ]
    grams = 2 * d.width_mm * (d.apart_mm + 40) * sheet.areal_mass_g_m2.typ * 1e-6 * d.plies + d.bolts * bolt.mass_g
    symbols = [
        Symbol(symbol="A", meaning="foam under one washer", value=float(under), unit="mm²"),
        Symbol(
            symbol="p",
            meaning="long-term crush stress of the foam",
            value=lasting,
            unit="MPa",
        ),
        Symbol(symbol="F", meaning="one bolt fails", value=float(lets[0]), unit="N"),
        Symbol(symbol="Γ", meaning="peel at the doubler end", value=float(gamma[0]), unit="N/mm"),
        Symbol(symbol="m", meaning="doublers on both faces and bolts", value=grams, unit="g"),
    ]
    formula = "M = ½ n F a,  M = ½ n p A a,  M = √(2Γ/Et) EI/z"
    title = "Bolted centre with doublers"
    return _Found(title, "N·m", modes, asked, says, helps, formula, "bolt couple; Kendall’s peel energy", symbols)


def _lock_joint(d: Detail, place: _Place) -> _Found:
    """A tongue that bears on its pocket as a rigid pin, M = p d [ℓ²/2 − x²] (Broms 1964), p what the wall's edge bears;
    what keeps it from sliding out carries no moment."""
    assert isinstance(d, LockJoint)
    _known("sheets", d.sheet, "sheet")
    _known("fasteners", d.fastener, "fastener")
    press = _sheet_strength(d.sheet, "compressive_across_MPa")
    t = reference().sheets[d.sheet].thickness_mm.typ
    bearing = pin_moment(press, min(d.width_mm, 2 * t), d.tongue_mm, np.zeros_like(press))
    wall = _sheet_strength(d.sheet, "tensile_along_MPa")
    opens = wall * 2 * t * d.width_mm**2 / 6
    modes = {"pocket edges crush": bearing / 1e3, "pocket walls tear open": opens / 1e3}
    asked, says = _asks(place)
    held = lognormal(reference().fasteners[d.fastener].holds_N, _z(d.fastener))
    helps = [
        "a longer tongue: strength grows with the square of its length",
        "hard strips on the rim of the pocket",
        "move the joint to where the bending moment is small, away from the wing",
    ]
    symbols = [
        Symbol(symbol="ℓ", meaning="tongue on each side", value=d.tongue_mm, unit="mm"),
        Symbol(symbol="d", meaning="number of wall edges in contact", value=min(d.width_mm, 2 * t), unit="mm"),
        Symbol(symbol="p", meaning="crush of the wall on edge", value=float(press[0]), unit="MPa"),
        Symbol(symbol="F", meaning="locked by", value=float(held[0]), unit="N"),
    ]
    return _Found("Fuselage lock joint", "N·m", modes, asked, says, helps, "M = p d ℓ²/4", "Broms's rigid pin",
                  symbols)  # fmt: skip


def _bracket(d: Detail, place: _Place) -> _Found:
    """A glued foot under a knock: shear F/A, and the couple F h over the foot's section modulus as pull on its edge,
    both against the foam beneath."""
    assert isinstance(d, Bracket)
    _known("fittings", d.fitting, "fitting")
    p = place.prepared
    if p.elements.hollow:
        raise _refuse("kind", "needs foam under its foot. In a hollow part, add a block or plate there", "bracket")
    stock = reference().fittings[d.fitting]
    if stock.running:
        raise _refuse("fitting", "is sold by length and cannot sit on a bracket", d.fitting)
    foam, seam = p.draws.foam, draw_factor(SEAM)
    area, modulus = d.foot_long_mm * d.foot_wide_mm, d.foot_wide_mm * d.foot_long_mm**2 / 6
    weight = stock.mass_g.typ * 1e-3 * G_GRAVITY
    modes = {
        "foam shears under the foot": foam.shear * seam * area / weight,
        "straight pull-off": foam.tensile * seam * area / weight,
    }
    if d.arm_mm > 0:
        modes["tips over: foam tears at the edge of the foot"] = foam.tensile * seam * modulus / (weight * d.arm_mm)
    helps = [
        "a longer foot in the direction of impact: strength against tipping grows with its square",
        "prick holes in the foam so that glue runs in as keys",
        "a cable tie right around the part beside the foot",
    ]
    symbols = [
        Symbol(symbol="m", meaning=stock.name, value=stock.mass_g.typ, unit="g"),
        Symbol(symbol="A", meaning="foot", value=area, unit="mm²"),
        Symbol(symbol="h", meaning="centre height above the foot", value=d.arm_mm, unit="mm"),
        Symbol(symbol="σ", meaning="foam in tension", value=float(foam.tensile[0]), unit="MPa"),
    ]
    return _Found("Glued bracket", "g", modes, d.knock_g, "the impact you entered", helps,
                  "n = σ w ℓ²/(6 m g h),  n = τ w ℓ/(m g)", "beam section of the foot", symbols)  # fmt: skip


_CHECKS: dict[str, Callable[[Detail, _Place], _Found]] = {
    "half_slot": _half_slot,
    "fluted_edge": _fluted_edge,
    "bolted_centre": _bolted_centre,
    "lock_joint": _lock_joint,
    "bracket": _bracket,
}
