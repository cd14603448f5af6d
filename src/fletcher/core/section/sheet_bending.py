r"""A single sheet bent by itself: boards with paper on both sides, one or none, and twin-wall.

A board is followed through the fibres of `section.moment_curvature`: its papers crease in compression and tear in
tension, its core tears, crushes and shears. Twin-wall has two liners and webs at a spacing p: the liner buckles between
the webs, and across them the sheet racks like a battened column (Timoshenko & Gere 1961, § 2.19).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.section.moment_curvature import NEVER, Laws, Section

CORE_LEVELS = 24
"""So many fibres over the core of a board."""
CORE_FOLDS = 0.10
"""[J] Strain of the pressed core at which a board counts as folded."""


@dataclass(frozen=True)
class Board:
    """A board per mm of width: core thickness and moduli, strengths of its core (MPa), paper thickness, modulus,
    tensile and creasing stress; `above` and `below` whether it has paper on the pressed and on the pulled side."""

    core_mm: float
    E_tension: float
    E_compression: float
    tensile: float
    crush: float
    paper_mm: float
    E_paper: float
    paper_tensile: float
    creases: float
    above: bool = True
    below: bool = True

    def section(self) -> tuple[Section, Array, Array, tuple[str, ...]]:
        """Fibres bent with their upper side pressed (s = −z), the strains at which each breaks in tension and in
        compression, and what each is: "paper" or "core"."""
        edges = np.linspace(-self.core_mm / 2, self.core_mm / 2, CORE_LEVELS + 1)
        z = [*(0.5 * (edges[1:] + edges[:-1])), -self.core_mm / 2, self.core_mm / 2]
        area = [*([self.core_mm / CORE_LEVELS] * CORE_LEVELS), 0.0, 0.0]
        names = ["core"] * len(z)
        for there, side in ((self.above, 1), (self.below, -1)):
            if there:
                z.append(side * 0.5 * (self.core_mm + self.paper_mm))
                area.append(self.paper_mm)
                names.append("paper")
        core = np.array([n == "core" for n in names])
        laws = Laws(
            np.where(core, self.E_tension, self.E_paper),
            np.where(core, self.E_compression, self.E_paper),
            np.full(len(z), NEVER),
            np.zeros(len(z)),
            np.where(core, self.crush / self.E_compression, self.creases / self.E_paper),
        )
        pull = np.where(core, self.tensile / self.E_tension, self.paper_tensile / self.E_paper)
        push = np.where(core, NEVER, self.creases / self.E_paper)
        return Section(np.array(area), -np.array(z), laws), pull, push, tuple(names)


@dataclass(frozen=True)
class TwinWall:
    """A twin-wall sheet per mm of width: whole thickness, liner and web thickness, web spacing (mm), its plastic's
    modulus, Poisson's ratio and yield stress (MPa)."""

    thick_mm: float
    liner_mm: float
    web_mm: float
    spacing_mm: float
    E: float
    poisson: float
    yields: float

    @property
    def gap(self) -> float:
        """Distance between the middles of both liners, mm."""
        return self.thick_mm - self.liner_mm

    def EI(self, across: bool) -> float:
        """Bending stiffness per width (N·mm), along the flutes or across them, where the webs carry nothing."""
        liners = self.liner_mm * self.gap**2 / 2 + self.liner_mm**3 / 6
        webs = 0.0 if across else self.web_mm * (self.thick_mm - 2 * self.liner_mm) ** 3 / (12 * self.spacing_mm)
        return self.E * (liners + webs)

    def liner_buckles(self, across: bool) -> float:
        """Stress (MPa) at which the pressed liner buckles between webs: a plate hinged along its edges when bent along
        them, 4π²E/12(1−ν²) (t/p)², a strut of their spacing when bent across, a quarter of it."""
        along = 4 * np.pi**2 * self.E / (12 * (1 - self.poisson**2)) * (self.liner_mm / self.spacing_mm) ** 2
        return float(along / (4 if across else 1))

    def breaks_at(self, across: bool) -> float:
        """Moment per width (N) at which the pressed liner buckles or yields."""
        stress = min(self.liner_buckles(across), self.yields)
        return float(stress * self.EI(across) / (self.E * self.gap / 2))

    @property
    def racking(self) -> float:
        """Transverse shear stiffness per width across the webs (N/mm), 1/S = p²/24D_l + p d/12D_w."""
        liner, web = (self.E * t**3 / (12 * (1 - self.poisson**2)) for t in (self.liner_mm, self.web_mm))
        return float(1 / (self.spacing_mm**2 / (24 * liner) + self.spacing_mm * self.gap / (12 * web)))

    def shear_yields(self) -> tuple[float, float]:
        """Shear force per width (N/mm) across the webs at which webs, and at which liners, yield in bending: the web
        takes V p/2 at its ends, each liner V p/4 at the webs."""
        web = self.yields * self.web_mm**2 / 6 * 2 / self.spacing_mm
        liner = self.yields * self.liner_mm**2 / 6 * 4 / self.spacing_mm
        return web, liner
