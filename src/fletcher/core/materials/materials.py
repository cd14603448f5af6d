"""Materials: foams, skins (membranes), bars, sheets, cloths, resins, cords, fittings and fasteners, with their ranges
and provenance.

`materials.tables` reads them from the reference tables.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

Positive = Annotated[float, Field(gt=0)]
Named = Annotated[str, Field(min_length=1)]

G_GRAVITY = 9.80665
"""Standard gravity, m/s²."""


@dataclass(frozen=True)
class Range:
    """Low, typical and high value of an estimate: its 5, 50 and 95 % points."""

    low: float
    typ: float
    high: float

    def __post_init__(self) -> None:
        if not all(math.isfinite(v) for v in (self.low, self.typ, self.high)):
            raise ValueError("values must be finite numbers")
        if not 0 <= self.low <= self.typ <= self.high:
            raise ValueError(f"needs 0 <= low <= typical <= high, found {self.low}, {self.typ}, {self.high}")


@dataclass(frozen=True)
class Material:
    """What every row of the reference tables carries besides its numbers."""

    key: Named
    name: Named
    family: str
    grade: Literal["A", "B", "C"]
    least_certain: str
    basis: Named
    note: str


@dataclass(frozen=True)
class Foam(Material):
    """A core foam. Moduli and strengths act in the plane of the part; foams are bimodular (E differs by sign)."""

    brittle: bool
    hot_wire: bool
    """Whether a hot wire may cut it: not what gives off hydrogen chloride or cyanide, and not wood."""
    density_kg_m3: Range
    E_tension_MPa: Range
    E_compression_MPa: Range
    G_MPa: Range
    tensile_strength_MPa: Range
    tensile_break_strain_pct: Range
    crush_stress_MPa: Range
    shear_strength_MPa: Range
    poisson: float
    through_thickness_ratio: Positive
    """In-plane modulus over through-thickness modulus; divides E_compression for wrinkling and bearing."""
    springback: float


WrinklingBond = Literal["yes", "partial", "no"]
Wrinkle = Literal["state", "stays", "break"]
"""What a wrinkle of a skin is: a state that goes flat again, one that stays, or the end of the ply in push."""
Pull = Literal["state", "break", "none"]
"""Whether a skin that tears or draws out is a member that breaks, only gives while the part holds, or holds nothing
from
the start (paint)."""


@dataclass(frozen=True)
class Skin(Material):
    """A membrane bonded to the outside: tape, film, paper, mesh or cloth. `thickness_mm` carries the load;
    `total_thickness_mm` and `areal_mass_g_m2` include adhesive or resin."""

    total_thickness_mm: float
    thickness_mm: Range
    areal_mass_g_m2: Range
    E_along_MPa: Range
    G_MPa: Range
    tensile_strength_MPa: Range
    yield_MPa: Range | None
    """Stress at which the skin starts to draw out; None where it is linear to rupture."""
    compressive_strength_MPa: Range | None
    shear_strength_MPa: Range
    peel_N_per_25mm: Range
    adhesive_shear_MPa: Range | None
    """Shear that its adhesive holds in a load of seconds; None where the foam itself governs."""
    wrinkling_bond: WrinklingBond
    """How well the foam holds the skin against wrinkling: yes, partial or no."""
    wrinkle: Wrinkle
    pull: Pull
    drawn_MPa: Range | None
    """Nominal stress at about 10 % strain of a skin that draws out; None where it stays at its yield."""
    break_strain_pct: Range | None
    """Strain at which it tears; None where strength over modulus says it."""
    widths_mm: tuple[float, ...]


@dataclass(frozen=True)
class Cloth(Material):
    """A dry cloth for laminates: woven (half of its fibres each way) or one-way. Strains at failure of its fibres in
    the finished ply; `crimp` the share of stiffness that waviness leaves."""

    areal_mass_g_m2: Range
    weave: Literal["cloth", "one_way"]
    E_fibre_MPa: Positive
    nu_fibre: Positive
    G_fibre_MPa: Positive
    fibre_density_g_cm3: Positive
    crimp: Range
    tensile_strain_pct: Range
    compressive_strain_pct: Range


@dataclass(frozen=True)
class Resin(Material):
    """A resin for laminates; `shear_strain_pct` at which a ply fails in shear along its fibres."""

    E_MPa: Range
    nu: Positive
    density_g_cm3: Positive
    shear_strain_pct: Range


@dataclass(frozen=True)
class Facing:
    """The paper or film on one side of a faced board; "along" is the way its fibres run."""

    thickness_mm: Range
    areal_mass_g_m2: Range
    glue_g_m2: Range
    E_along_MPa: Range
    E_across_MPa: Range
    G_MPa: Range
    tensile_along_MPa: Range
    tensile_across_MPa: Range
    compressive_along_MPa: Range
    compressive_across_MPa: Range


@dataclass(frozen=True)
class Sheet(Material):
    """A sheet for walls: solid, twin-wall, or a board faced on both sides. Moduli and strengths are those of the whole
    thickness; `EI_*` bending stiffness and `shear_*` transverse shear stiffness per width. `core` is a foam's key."""

    build: Literal["solid", "twin_wall", "faced"]
    thickness_mm: Range
    areal_mass_g_m2: Range
    E_along_MPa: Range
    E_across_MPa: Range
    G_MPa: Range
    poisson: Positive
    EI_along_N_mm: Positive
    EI_across_N_mm: Positive
    shear_along_N_mm: Positive
    shear_across_N_mm: Positive
    tensile_along_MPa: Range
    tensile_across_MPa: Range
    compressive_along_MPa: Range
    compressive_across_MPa: Range
    shear_MPa: Range
    wall_thickness_mm: Positive | None
    """Thickness of each of the two walls of a twin-wall sheet."""
    facing: Facing | None
    core: str | None
    core_thickness_mm: Positive | None


@dataclass(frozen=True)
class Cord(Material):
    """A cord or thread: carries pull alone. `grips_mm` is how much of its round the glue in its groove holds."""

    diameter_mm: Positive
    grips_mm: Positive
    mass_g_per_m: Range
    EA_N: Range
    break_N: Range


@dataclass(frozen=True)
class Fitting(Material):
    """Something that is carried: servo, battery, lead, bracket. A thing without a length is sold by the metre, and its
    mass is then grams per metre; `torque_N_mm` is what a servo gives."""

    long_mm: float
    wide_mm: Positive
    high_mm: Positive
    mass_g: Range
    torque_N_mm: Range | None

    @property
    def running(self) -> bool:
        """Whether it runs along the part, such as a lead or a guide tube."""
        return self.long_mm == 0


@dataclass(frozen=True)
class Fastener(Material):
    """Something that holds and lets go: band, tie, bolt, nut, pin, magnet, peg, buffer. One piece holds `holds_N` in
    use and lets go (slips, shears, breaks) at `lets_go_N`; under the first it gives by `give_mm`; it loses a share of
    both every month."""

    size_mm: Positive
    holds_N: Range
    lets_go_N: Range
    give_mm: Range
    ages_per_month: Range
    mass_g: Positive


BarShape = Literal["rod", "tube", "flat"]


@dataclass(frozen=True)
class Bar(Material):
    """A bar from stock: rod, tube or flat (strip, batten, tow)."""

    shape: BarShape
    diameter_mm: float | None
    bore_mm: float | None
    wide_mm: float | None
    thin_mm: float | None
    density_kg_m3: Range
    E_MPa: Range
    G_MPa: Range
    tensile_strength_MPa: Range
    compressive_strength_MPa: Range
    shear_strength_MPa: Range
    stock_length_mm: float | None
    faced: str = "no"
    """Whether strips are bonded on below and above, and how the bar then lies: "no", "flat" or "on_edge"."""
    facing_gain: float = 1.0
    """How much stiffer a faced bar bends up and down than its mean E over its whole section would."""

    def __post_init__(self) -> None:
        needs = {"rod": ("diameter_mm",), "tube": ("diameter_mm", "bore_mm"), "flat": ("wide_mm", "thin_mm")}
        for name in needs[self.shape]:
            if not (getattr(self, name) or 0) > 0:
                raise ValueError(f"{name}: required for a {self.shape}, greater than 0")

    def size(self, on_edge: bool = False) -> tuple[float, float]:
        """Width along x and height along z in mm; a flat lies flat unless `on_edge`."""
        if self.diameter_mm is not None:
            return self.diameter_mm, self.diameter_mm
        assert self.wide_mm is not None and self.thin_mm is not None
        return (self.thin_mm, self.wide_mm) if on_edge else (self.wide_mm, self.thin_mm)

    @property
    def area_mm2(self) -> float:
        """Cross-section area."""
        if self.diameter_mm is not None:
            return math.pi / 4 * (self.diameter_mm**2 - (self.bore_mm or 0.0) ** 2)
        w, h = self.size()
        return w * h

    def second_moment_mm4(self, on_edge: bool = False) -> float:
        """Second moment of area about the bar's own horizontal axis (bending up and down)."""
        if self.diameter_mm is not None:
            return math.pi / 64 * (self.diameter_mm**4 - (self.bore_mm or 0.0) ** 4)
        w, h = self.size(on_edge)
        gain = self.facing_gain if self.faced == ("on_edge" if on_edge else "flat") else 1.0
        return gain * w * h**3 / 12

    @property
    def perimeter_mm(self) -> float:
        """Outer perimeter, along which glue can hold."""
        return math.pi * self.diameter_mm if self.diameter_mm is not None else 2 * sum(self.size())

    @property
    def torsion_constant_mm4(self) -> float:
        """Saint-Venant torsion constant of the bar alone."""
        if self.diameter_mm is not None:
            return 2 * self.second_moment_mm4()
        long, short = self.size()
        return long * short**3 / 3 * (1 - 0.63 * short / long + 0.052 * (short / long) ** 5)

    @property
    def weak_second_moment_mm4(self) -> float:
        """Smallest second moment of area: the direction in which the bar buckles."""
        return min(self.second_moment_mm4(False), self.second_moment_mm4(True))


@dataclass(frozen=True)
class Catalogue:
    """All reference materials, each table by key in file order."""

    foams: dict[str, Foam]
    skins: dict[str, Skin]
    bars: dict[str, Bar]
    sheets: dict[str, Sheet]
    cloths: dict[str, Cloth]
    resins: dict[str, Resin]
    cords: dict[str, Cord]
    fittings: dict[str, Fitting]
    fasteners: dict[str, Fastener]
