r"""Sheets as walls: what a plate carries per width in its plane, how it bends, twists and buckles.

A board faced with paper or film is a sandwich: its faces carry, its core keeps them apart. Paper can be taken off
either face; what is left is computed from the facings and the core, not looked up.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from fletcher.core.materials.materials import Catalogue, Foam, Range, Sheet, Skin

Paper = Literal["both", "outer", "inner", "none"]
Grain = Literal["along", "across"]

FOLD_PEEL = Range(1.5, 4.0, 9.0)
"""[J] Peel of a glued sheet from foam, N per 25 mm; only the words for a snapped part ask for it."""


@dataclass(frozen=True)
class Slice:
    """A layer of a plate: `offset` of its middle outside the line on which the plate's forces act (mm), its `share` of
    the thickness, its modulus over the plate's mean one, and whether it `leads`: has the plate's strengths. What only
    follows, a core between papers, has its own `tears` and `crushes` strain."""

    offset: float
    share: float
    stiff: float
    leads: bool
    tears: float = 1e3
    crushes: float = 1e3


def _simpson(offset: float, thick: float, whole: float, stiff: float, leads: bool, **own: float) -> tuple[Slice, ...]:
    """A layer as three slices that have its area and its own second moment exactly."""
    return tuple(
        Slice(offset + s * thick / 2, thick / whole * n / 6, stiff, leads, **own) for s, n in ((-1, 1), (0, 4), (1, 1))
    )


@dataclass(frozen=True)
class Plate:
    """A wall of one sheet. `skin` is what it carries in its plane, over its whole thickness; D (N·mm) its bending
    stiffness per width along and across the part, coupled and in twist; `shear` its transverse shear stiffness along
    (N/mm); `centre` (mm) how far outside its middle its in-plane forces act. For a faced board `face_shear` is G t of
    one face (N/mm), `face_gap` the distance of the faces (mm) and `core_G` (MPa); otherwise zero."""

    skin: Skin
    D11: float
    D22: float
    D12: float
    D66: float
    shear: float
    centre: float
    face_shear: float
    face_gap: float
    core_G: float
    across: float
    """Force per width (N/mm) that crushes it across the part, on its edge, typical."""
    slices: tuple[Slice, ...]
    """What it is made of through its thickness."""
    outer_Et: float
    """E t (N/mm) of the paper on its outside, 0 where there is none."""
    outer_mm: float
    bed_E: float
    """Modulus (MPa), through the thickness, of what a skin on its outside lies on."""
    bed_G: float

    def with_film(self, Et: float, Gt: float, thick: float) -> Plate:
        """The plate with a film on its outside as a ply: both bend about their common neutral axis, D + D_f +
        a² A A_f/(A + A_f) with a the distance of their middles (Jones 1999)."""
        arm = 0.5 * (self.thickness + thick) - self.centre

        def more(D: float, own: float, film: float) -> float:
            return D + film * thick**2 / 12 + own * film / max(own + film, 1e-12) * arm**2

        EA, across = self.skin.E_along_MPa.typ * self.thickness, self.across_EA
        D11, D22 = more(self.D11, EA, Et), more(self.D22, across, Et)
        D66 = more(self.D66, self.skin.G_MPa.typ * self.thickness, Gt)
        return replace(
            self, D11=D11, D22=D22, D12=self.D12 * float(np.sqrt(D11 * D22 / (self.D11 * self.D22))), D66=D66
        )

    across_EA: float = 0.0
    """Stiffness across the part per width, N/mm."""

    @property
    def thickness(self) -> float:
        """Whole thickness, mm."""
        return self.skin.total_thickness_mm

    def torsion_per_width(self, width: float) -> float:
        """GJ of a flat strip of this plate over its width (N·mm²/mm).

        A solid or twin-wall plate gives 4 D₆₆. A faced board's two faces form a flat cell that is open at its edges:
        the core must bring the flow round there, GJ = 2 S h² [1 − tanh(b/2ℓ)/(b/2ℓ)], ℓ² = h S/2G_c (Prandtl's
        function in the core with the faces as its rim).
        """
        if not self.face_shear:
            return 4 * self.D66
        half = width / 2 / np.sqrt(self.face_gap * self.face_shear / (2 * self.core_G))
        return float(2 * self.face_shear * self.face_gap**2 * (1 - np.tanh(half) / half))

    def buckling_load(self, width: float, length: float | None = None) -> float:
        """Compression (N/mm) at which a panel of this width, hinged along its edges, buckles; `length` between ribs
        that hold its ends, None for a long one.

        N = (2π²/b²)[√(D₁₁D₂₂) + D₁₂ + 2 D₆₆]; between ribs the least over m half-waves of
        (π²/b²)[D₁₁(mb/a)² + 2(D₁₂ + 2D₆₆) + D₂₂(a/mb)²] (orthotropic plate; Timoshenko & Gere 1961), softened by
        transverse shear as 1/N + 1/S (Allen 1969). Curvature of the panel, which helps, is left out.
        """
        natural = width * (self.D11 / self.D22) ** 0.25  # of one half-wave of a long panel
        ratio = 1.0
        if length is not None:
            waves = max(1.0, np.floor(length / natural))
            ratios = natural * np.array([waves, waves + 1]) / length
            ratio = float(np.min(0.5 * (ratios**2 + ratios**-2)))
        bent = 2 * np.pi**2 / width**2 * (np.sqrt(self.D11 * self.D22) * ratio + self.D12 + 2 * self.D66)
        return float(1 / (1 / bent + 1 / self.shear))


def _scaled(value: Range, typ: float) -> Range:
    """A range of the same relative width about another typical value."""
    k = typ / value.typ
    return Range(value.low * k, typ, value.high * k)


def lying(key: str, catalogue: Catalogue) -> Skin:
    """What lies on a face under a key: a skin of the stockroom, or a piece of sheet, its grain along the part."""
    skin = catalogue.skins.get(key)
    return plate_of(catalogue.sheets[key], catalogue).skin if skin is None else skin


def plate_of(sheet: Sheet, catalogue: Catalogue, paper: Paper = "both", grain: Grain = "along") -> Plate:
    """The plate that a sheet makes, its grain along or across the part, its paper on or off (faced boards)."""
    if sheet.facing is not None:
        return _faced(sheet, catalogue, paper, grain)
    E, other = (sheet.E_along_MPa, sheet.E_across_MPa)
    D11, D22 = sheet.EI_along_N_mm, sheet.EI_across_N_mm
    tensile, compressive, shear = sheet.tensile_along_MPa, sheet.compressive_along_MPa, sheet.shear_along_N_mm
    if grain == "across":
        E, other, D11, D22 = other, E, D22, D11
        tensile, compressive, shear = sheet.tensile_across_MPa, sheet.compressive_across_MPa, sheet.shear_across_N_mm
    t, G = sheet.thickness_mm.typ, sheet.G_MPa.typ
    nu = sheet.poisson * np.sqrt(other.typ / E.typ) if grain == "along" else sheet.poisson * np.sqrt(E.typ / other.typ)
    wall = sheet.wall_thickness_mm  # of a twin-wall sheet: its two walls carry the shear
    D66 = G * t**3 / 12 if wall is None else G * t * (t - wall) ** 2 / 4
    name = f"{sheet.name}, grain across" if grain == "across" else sheet.name
    return Plate(
        skin=_skin(sheet, f"{sheet.key}/{grain}", name, t, sheet.areal_mass_g_m2, E, sheet.G_MPa, tensile, compressive,
                   sheet.shear_MPa),
        D11=D11,
        D22=D22,
        D12=float(min(nu, 0.45) * np.sqrt(D11 * D22)),
        D66=D66,
        shear=shear,
        centre=0.0,
        face_shear=0.0,
        face_gap=0.0,
        core_G=0.0,
        across=t * (sheet.compressive_across_MPa if grain == "along" else sheet.compressive_along_MPa).typ,
        slices=_simpson(0.0, t, t, 1.0, True)
        if wall is None
        else tuple(Slice(n * (t - wall) / 2, 0.5, 1.0, True) for n in (-1, 1)),
        outer_Et=0.0,
        outer_mm=0.0,
        bed_E=other.typ,
        bed_G=sheet.G_MPa.typ,
        across_EA=other.typ * t,
    )  # fmt: skip


def _faced(sheet: Sheet, catalogue: Catalogue, paper: Paper, grain: Grain) -> Plate:
    """A faced board with its paper on both sides, one, or none (laminate theory; Allen 1969).

    Strength: the face that reaches its strain first, core sharing that strain; a bare core its own strength.
    """
    f, tc = sheet.facing, sheet.core_thickness_mm
    assert f is not None and tc is not None and sheet.core is not None
    core = catalogue.foams[sheet.core]
    E_core = Range(*(0.5 * (getattr(core.E_tension_MPa, p) + getattr(core.E_compression_MPa, p)) for p in _POINTS))
    E_face, E_cross = (f.E_along_MPa, f.E_across_MPa)[:: 1 if grain == "along" else -1]
    tensile, compressive = (
        (f.tensile_along_MPa, f.compressive_along_MPa)
        if grain == "along"
        else (f.tensile_across_MPa, f.compressive_across_MPa)
    )
    tf = f.thickness_mm.typ
    faces = {"both": (1, 1), "outer": (1, 0), "inner": (0, 1), "none": (0, 0)}[paper]
    count = sum(faces)
    t = tc + count * tf
    middle = 0.5 * tf * (faces[0] - faces[1])  # of the whole thickness, outside the core's middle
    arm = 0.5 * (tc + tf)

    def plane(face: float, within: float) -> float:
        return count * face * tf + within * tc

    EA = Range(*(plane(getattr(E_face, p), getattr(E_core, p)) for p in _POINTS))
    G = Range(*(plane(getattr(f.G_MPa, p), getattr(core.G_MPa, p)) / t for p in _POINTS))

    def bends(face: float) -> tuple[float, float]:
        """Bending stiffness about the own neutral line, and how far outside the core's middle that lies."""
        stiff = face * tf
        centre = stiff * arm * (faces[0] - faces[1]) / (count * stiff + E_core.typ * tc)
        D = sum(n * stiff * (s * arm - centre) ** 2 for n, s in zip(faces, (1, -1), strict=True))
        return D + E_core.typ * (tc**3 / 12 + tc * centre**2), centre

    (D11, centre), (D22, _) = bends(E_face.typ), bends(E_cross.typ)
    both = count == 2
    gap = tc + tf if both else 0.0
    D66 = f.G_MPa.typ * tf * gap**2 / 2 + core.G_MPa.typ * tc**3 / 12
    if count:
        pulled, pressed = (_scaled(limit, EA.typ * limit.typ / E_face.typ / t) for limit in (tensile, compressive))
    else:
        pulled, pressed = core.tensile_strength_MPa, core.crush_stress_MPa
    lost = 2 - count
    mass = Range(
        *(
            getattr(sheet.areal_mass_g_m2, p) - lost * (getattr(f.areal_mass_g_m2, p) + getattr(f.glue_g_m2, p))
            for p in _POINTS
        )
    )
    words = {"both": "", "outer": ", paper outside only", "inner": ", paper inside only", "none": ", paper off"}
    name = sheet.name + words[paper] + (", cross grain" if grain == "across" else "")
    E = Range(*(getattr(EA, p) / t for p in _POINTS))
    shear = (
        _scaled(sheet.shear_MPa, sheet.shear_MPa.typ * G.typ / sheet.G_MPa.typ) if count else core.shear_strength_MPa
    )
    return Plate(
        skin=replace(
            _skin(sheet, f"{sheet.key}/{paper}/{grain}", name, t, mass, E, G, pulled, pressed, shear),
            wrinkle="break" if count else "stays",
        ),
        D11=D11,
        D22=D22,
        D12=0.3 * float(np.sqrt(D11 * D22)),
        D66=D66,
        shear=core.G_MPa.typ * (arm * 2) ** 2 / tc if count else core.G_MPa.typ * tc / 1.2,
        centre=centre - middle,
        face_shear=f.G_MPa.typ * tf if both else 0.0,
        face_gap=gap,
        core_G=core.G_MPa.typ if both else 0.0,
        across=count * tf * (f.compressive_across_MPa if grain == "along" else f.compressive_along_MPa).typ
        + tc * core.crush_stress_MPa.typ,
        slices=_board_slices(faces, tc, tf, t, centre, E_face.typ, core, EA.typ / t),
        outer_Et=faces[0] * E_face.typ * tf,
        outer_mm=faces[0] * tf,
        bed_E=core.E_compression_MPa.typ / core.through_thickness_ratio,
        bed_G=core.G_MPa.typ,
        across_EA=count * E_cross.typ * tf + E_core.typ * tc,
    )


_POINTS = ("low", "typ", "high")


def _board_slices(
    faces: tuple[int, int], tc: float, tf: float, t: float, centre: float, E_face: float, core: Foam, E: float
) -> tuple[Slice, ...]:
    """Papers and core of a board; `centre` is where its forces act outside the core's middle, `E` its mean modulus."""
    E_core = 0.5 * (core.E_tension_MPa.typ + core.E_compression_MPa.typ)
    tears = core.tensile_strength_MPa.typ / core.E_tension_MPa.typ
    crushes = core.crush_stress_MPa.typ / core.E_compression_MPa.typ
    leads = not any(faces)
    found = list(_simpson(-centre, tc, t, E_core / E, leads, tears=tears, crushes=crushes))
    for there, side in zip(faces, (1, -1), strict=True):
        if there:
            found.append(Slice(side * 0.5 * (tc + tf) - centre, tf / t, E_face / E, True))
    return tuple(found)


def _skin(
    sheet: Sheet, key: str, name: str, t: float, mass: Range, E: Range, G: Range, pull: Range, push: Range, shear: Range
) -> Skin:
    return Skin(
        key=f"sheet/{key}",
        name=name,
        family=sheet.family,
        grade=sheet.grade,
        least_certain=sheet.least_certain,
        basis=sheet.basis,
        note=sheet.note,
        total_thickness_mm=t,
        thickness_mm=Range(t, t, t),
        areal_mass_g_m2=mass,
        E_along_MPa=E,
        G_MPa=G,
        tensile_strength_MPa=pull,
        yield_MPa=None,
        compressive_strength_MPa=push,
        shear_strength_MPa=shear,
        peel_N_per_25mm=FOLD_PEEL,
        adhesive_shear_MPa=None,
        wrinkling_bond="yes",
        wrinkle="break",
        pull="break",
        drawn_MPa=None,
        break_strain_pct=None,
        widths_mm=(),
    )
