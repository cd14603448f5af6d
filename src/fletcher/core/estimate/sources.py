"""Where the values of a part's materials come from: their ranges, grade and basis."""

from __future__ import annotations

from fletcher.core.estimate.schema import Source
from fletcher.core.materials.materials import Bar, Cord, Foam, Range, Skin
from fletcher.core.materials.uncertainty import WRINKLING_K
from fletcher.core.section.elements import Elements


def _range(value: Range, unit: str) -> str:
    return f"{value.low:g} – {value.typ:g} – {value.high:g} {unit}".strip()


def _foam_source(foam: Foam) -> Source:
    return Source(
        material=foam.name,
        values=[
            f"E in tension {_range(foam.E_tension_MPa, 'MPa')}",
            f"E in compression {_range(foam.E_compression_MPa, 'MPa')}",
            f"G {_range(foam.G_MPa, 'MPa')}",
            (
                f"tensile strength {_range(foam.tensile_strength_MPa, 'MPa')}, crush stress "
                f"{_range(foam.crush_stress_MPa, 'MPa')}"
            ),
            f"density {_range(foam.density_kg_m3, 'kg/m³')}",
        ],
        grade=foam.grade,
        basis=foam.basis,
    )


def _skin_source(skin: Skin) -> Source:
    values = [
        f"E {_range(skin.E_along_MPa, 'MPa')}, load-bearing thickness {_range(skin.thickness_mm, 'mm')}",
        f"strength {_range(skin.tensile_strength_MPa, 'MPa')}",
        f"mass with adhesive or resin {_range(skin.areal_mass_g_m2, 'g/m²')}",
        f"wrinkling factor k {_range(WRINKLING_K[skin.wrinkling_bond].value, '')}",
    ]
    return Source(material=skin.name, values=values, grade=skin.grade, basis=skin.basis)


def _bar_source(bar: Bar) -> Source:
    values = [
        f"E {_range(bar.E_MPa, 'MPa')}",
        f"tensile strength {_range(bar.tensile_strength_MPa, 'MPa')}",
        f"compressive strength {_range(bar.compressive_strength_MPa, 'MPa')}",
        f"density {_range(bar.density_kg_m3, 'kg/m³')}",
    ]
    return Source(material=bar.name, values=values, grade=bar.grade, basis=bar.basis)


def _cord_source(cord: Cord) -> Source:
    values = [f"EA {_range(cord.EA_N, 'N')}", f"breaking load {_range(cord.break_N, 'N')}"]
    return Source(material=cord.name, values=values, grade=cord.grade, basis=cord.basis)


def sources_of(elements: Elements) -> list[Source]:
    """Every material in the part, once."""
    found = {} if elements.hollow else {elements.foam.name: _foam_source(elements.foam)}
    for membrane in elements.membranes:
        found.setdefault(membrane.skin.name, _skin_source(membrane.skin))
    for bar in elements.bars:
        for stock in (bar.stock, bar.sleeve):
            if stock is not None:
                found.setdefault(stock.name, _bar_source(stock))
    for cord in elements.cords:
        found.setdefault(cord.stock.name, _cord_source(cord.stock))
    return list(found.values())
