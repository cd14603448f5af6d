"""A control surface of the same size built in other ways: what each weighs, how much of the deflection arrives."""

from __future__ import annotations

from fletcher.core.document.airframe import Airframe, BarLayer, FilmLayer, Layer, Part
from fletcher.core.document.cases import DeflectedCase
from fletcher.core.estimate.report import estimate
from fletcher.core.estimate.schema import SurfaceVariant


def _ways(part: Part) -> list[tuple[str, str | None, tuple[Layer, ...]]]:
    """Name, core and lay-up of every way; bare and wrapped foam keep the part's own foam."""
    foam = part.foam if part.foam is not None and not part.foam.startswith("balsa") else "epp_30"
    thin = min(part.root_thickness_mm, part.tip_thickness_mm)
    rod = "carbon_rod_2" if thin >= 4 else "carbon_rod_1.5" if thin >= 3 else "carbon_rod_1"
    edge = BarLayer(id="edge", stock=rod, place="middle", root_percent=12, tip_percent=12)
    return [
        ("Bare foam", foam, ()),
        ("Foam wrapped in film", foam, (FilmLayer(id="film", skin="lamfilm_38", face="both"),)),
        ("Foam with an edge spar", foam, (edge,)),
        ("Light balsa", "balsa_block_light", ()),
    ]


def compare_surface(airframe: Airframe, part: Part, case: DeflectedCase) -> list[SurfaceVariant]:
    """The surface as it is, and at the same size in bare foam, wrapped foam, foam with an edge bar, and balsa."""
    found = []
    for name, foam, layers in [("As designed", part.foam, part.layers), *_ways(part)]:
        changes = {"foam": foam, "layers": layers, "cases": (case,)}
        other = part.model_copy(update=changes)
        result = estimate(airframe.model_copy(update={"parts": (other,)}), part.id, case.id)
        assert result.control is not None and result.twist_deg is not None
        found.append(
            SurfaceVariant(
                name=name,
                grams=result.mass_g,
                twist_deg=result.twist_deg,
                arrives=result.control.arrives,
                best_horn_mm=result.control.best_horn_mm,
                breaks_at=result.breaks_at,
                sentence=result.first.sentence,
            )
        )
    return found
