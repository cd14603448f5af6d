"""Materials and parts with chosen values, for checks against closed forms."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.cases import PullUpCase, ThreePointCase
from fletcher.core.document.shapes import RectangleSection
from fletcher.core.estimate.analyse import Analysis, analyse
from fletcher.core.materials.materials import Bar, Catalogue, Foam, Range, Skin
from fletcher.core.materials.tables import reference
from fletcher.core.validation.airframe import read


def exact(value: float) -> Range:
    """A value without spread."""
    return Range(value, value, value)


def foam(E: float = 14.0, G: float = 5.4, E_compression: float | None = None, **changes: Any) -> Foam:
    """A foam of given moduli (alike both ways unless said), poisson 0.1."""
    base = reference().foams["xps_30"]
    return replace(
        base,
        key=f"foam-{E}-{G}-{E_compression}",
        E_tension_MPa=exact(E),
        E_compression_MPa=exact(E_compression or E),
        G_MPa=exact(G),
        through_thickness_ratio=1.0,
        poisson=0.1,
        **changes,
    )


def skin(E: float = 2300.0, t: float = 0.03, G: float = 0.0, **changes: Any) -> Skin:
    """A skin whose whole thickness carries load."""
    base = reference().skins["kraft_pva"]
    values: dict[str, Any] = {
        "key": f"skin-{E}-{t}-{G}",
        "thickness_mm": exact(t),
        "total_thickness_mm": t,
        "E_along_MPa": exact(E),
        "G_MPa": exact(G),
        "compressive_strength_MPa": None,
    }
    return replace(base, **{**values, **changes})


def rod(d: float = 2.0, E: float = 125e3, bore: float | None = None, **changes: Any) -> Bar:
    """A round bar."""
    base = reference().bars["carbon_rod_2"]
    values: dict[str, Any] = {
        "key": f"rod-{d}-{bore}-{E}",
        "shape": "tube" if bore else "rod",
        "diameter_mm": d,
        "bore_mm": bore,
        "E_MPa": exact(E),
    }
    return replace(base, **{**values, **changes})


def catalogue(*materials: Foam | Skin | Bar) -> Catalogue:
    """A catalogue of the reference materials and the given ones, by their keys."""
    known = reference()
    found = replace(known, foams=dict(known.foams), skins=dict(known.skins), bars=dict(known.bars))
    for m in materials:
        store: dict[str, Any] = (
            found.foams if isinstance(m, Foam) else found.skins if isinstance(m, Skin) else found.bars
        )
        store[m.key] = m
    return found


BENCH = ThreePointCase(id="bench", name="bench", first_support_mm=10, second_support_mm=490, weight_g=1000)
PULL_UP = PullUpCase(id="air", name="pull-up")


def plank(
    material: Foam, *layers: Any, chord: float = 120, thickness: float = 20, span: float = 500, **changes: Any
) -> Part:
    """A rectangular plank of constant section."""
    values: dict[str, Any] = {
        "id": "plank",
        "name": "plank",
        "kind": "plank",
        "span_mm": span,
        "root_chord_mm": chord,
        "tip_chord_mm": chord,
        "root_thickness_mm": thickness,
        "tip_thickness_mm": thickness,
        "section": RectangleSection(),
        "foam": material.key,
        "layers": layers,
        "cases": (BENCH,),
    }
    return Part(**{**values, **changes})


def run(part: Part, case: Any = None, materials: Catalogue | None = None, mass_g: float = 900) -> Analysis:
    """Analyse a part in its first case, or a given one."""
    airframe = Airframe(name="test", all_up_mass_g=mass_g, parts=(part,))
    return analyse(airframe, part, case or part.cases[0], materials or reference())


def checked(document: Airframe) -> Airframe:
    """Through the front door: as data, read and checked."""
    return read(document.model_dump(mode="json"))
