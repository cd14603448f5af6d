"""The working behind each headline figure: formula, numbers put in, and where they come from."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from fletcher.core.evidence import WRINKLING_K
from fletcher.core.materials import Bar, Foam, Range, Skin
from fletcher.core.results import Source, Symbol, Working

if TYPE_CHECKING:
    from fletcher.core.estimate import Analysis

_FORMULAS = {
    "foam_tension": ("λ = σ_t / (E_t ε)", "Strain of the outermost foam times its stiffness, against its strength"),
    "foam_crush": ("λ = σ_10 / (E_c ε)", "Strain of the outermost foam times its stiffness, against its crush plateau"),
    "skin_tension": ("λ = σ_max / (E ε)", "Strain of the skin times its stiffness, against its strength"),
    "skin_yield": (
        "λ = σ_y / (E ε)",
        "Strain of the skin times its stiffness, against the stress at which it draws out",
    ),
    "skin_wrinkling": ("λ = k (E_f E_c G_c)^⅓ / (E_f ε)", "Hoff & Mautner 1945: a skin wrinkles on its foam"),
    "skin_compression": ("λ = σ_c / (E ε)", "Strain of the skin times its stiffness, against its crushing stress"),
    "bar_tension": ("λ = σ_max / (N/A + E κ h/2)", "Pull and own bending of the bar against its strength"),
    "bar_compression": ("λ = σ_c / (N/A + E κ h/2)", "Push and own bending of the bar against its crushing stress"),
    "bar_buckling": (
        "λ = 2√(k EI) / (1 + k w₀/(d σ_t)) / N",
        "Bar in an elastic medium, with waviness w₀ that tears the foam",
    ),
    "core_shear": (
        "λ = τ_max / (V max|∇w| + T max|∇φ|/J)",
        "Largest shear of the flexure function away from bars, and of the twist, as if at the same place",
    ),
    "skin_shear": ("λ = τ_max t / (T φ/J)", "Shear flow of the closed skin under the twist, Prandtl's φ at the rim"),
    "wall_shear": ("λ = τ_max t / (V q̂ + T q̂_T)", "Shear flow of the walls under the shear force and the twist"),
    "wall_buckling": (
        "λ = N_cr / (E t ε),  1/N_cr = b²/(2π²[√(D₁₁D₂₂) + D₁₂ + 2 D₆₆]) + 1/S",
        "A long panel hinged at what supports it (Timoshenko & Gere 1961), soft in transverse shear (Allen 1969)",
    ),
    "bar_strut": ("λ = π² E I / (ℓ² N)", "Hinged strut between ribs (Euler)"),
    "bar_twist": ("λ = τ_max / (G r T/GJ)", "Shear at the rim of the bar as the part twists"),
    "bar_splice": ("λ = τ (p/4) o / N", "Lap of two lengths over o, glued on a quarter of the perimeter"),
    "notch": (
        "λ = σ_t / (E_t ε [1 + 2√(a/(r + 2 mm))])",
        "Corner of a cut in a brittle foam, radius r, half width a; strain of the whole section beside it",
    ),
    "bar_bond": ("λ = τ_max (p/2) / |N′|", "Force that the bar takes up per length, on half of its perimeter"),
    "strip_bond": (
        "λ = τ / (V E t |z − z̄| / EI)",
        "Shear between strip and foam against the weaker of adhesive and foam",
    ),
}


def _range(value: Range, unit: str) -> str:
    return f"{value.low:g} – {value.typ:g} – {value.high:g} {unit}".strip()


def _foam_source(foam: Foam) -> Source:
    return Source(
        material=foam.name,
        values=[
            f"E pulled {_range(foam.E_tension_MPa, 'MPa')}",
            f"E pressed {_range(foam.E_compression_MPa, 'MPa')}",
            f"G {_range(foam.G_MPa, 'MPa')}",
            f"strength {_range(foam.tensile_strength_MPa, 'MPa')}, crush {_range(foam.crush_stress_MPa, 'MPa')}",
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
        f"strength pulled {_range(bar.tensile_strength_MPa, 'MPa')}",
        f"strength pressed {_range(bar.compressive_strength_MPa, 'MPa')}",
        f"density {_range(bar.density_kg_m3, 'kg/m³')}",
    ]
    return Source(material=bar.name, values=values, grade=bar.grade, basis=bar.basis)


def _sources(a: Analysis) -> list[Source]:
    """Every material in the part, once."""
    foam = a.prepared.elements.foam
    found = {} if a.prepared.elements.hollow else {foam.name: _foam_source(foam)}
    for membrane in a.prepared.elements.membranes:
        found.setdefault(membrane.skin.name, _skin_source(membrane.skin))
    for bar in a.prepared.elements.bars:
        found.setdefault(bar.stock.name, _bar_source(bar.stock))
    return list(found.values())


def workings_of(a: Analysis, assumptions: tuple[str, ...]) -> list[Working]:
    """The working of added mass, bend, twist and margin."""
    sources = _sources(a)
    return [_mass(a, sources), _bend(a, sources, assumptions), *_twist(a, sources), _holds(a, sources, assumptions)]


def _mass(a: Analysis, sources: list[Source]) -> Working:
    symbols = []
    for i, bar in enumerate(a.prepared.elements.bars):
        run = bar.end - bar.start
        grams = float(a.prepared.draws.bars[i].density[0] * bar.stock.area_mm2 * run)
        formula = f"{bar.stock.area_mm2:.3g} mm² × {bar.stock.density_kg_m3.typ:g} kg/m³ × {run:.0f} mm"
        symbols.append(Symbol(symbol=f"{bar.stock.name}, {bar.side}", meaning=formula, value=grams, unit="g"))
    k, h = a.prepared.mesh.left, a.prepared.mesh.length
    for i, membrane in enumerate(a.prepared.elements.membranes):
        length = a.prepared.geometry.skin[i, 0] * a.prepared.geometry.skin_on[i]
        area = float((0.5 * (length[k] + length[k + 1]) * h).sum())
        grams = float(a.prepared.draws.skins[i].areal_mass[0]) * membrane.plies * area
        formula = f"{area / 100:.4g} cm² × {membrane.skin.areal_mass_g_m2.typ:g} g/m² × {membrane.plies}"
        symbols.append(Symbol(symbol=f"{membrane.skin.name}, {membrane.face}", meaning=formula, value=grams, unit="g"))
    return Working(
        figure="added",
        formula_id="added.sum",
        title="Added to the foam",
        formula="m = Σ ρ A L of bars + Σ m″ S n of skins",
        explanation="True lengths around the section; skins with their adhesive or resin.",
        symbols=symbols,
        assumptions=["Glue along bars and paint are not weighed."],
        sources=sources,
    )


def _bend(a: Analysis, sources: list[Source], assumptions: tuple[str, ...]) -> Working:
    if a.loading.read == "swing":
        return _swing(a, sources)
    k = int(np.argmax(np.abs(a.loading.moment[0])))
    moment = float(a.loading.moment[0, k])
    symbols = [
        Symbol(symbol="M", meaning="largest bending moment", value=moment / 1e3, unit="N·m"),
        Symbol(
            symbol="EI",
            meaning="all together, without slip",
            value=float(a.prepared.sums.whole_EI[0, k]) / 1e6,
            unit="N·m²",
        ),
        Symbol(
            symbol="EI_h", meaning="foam and skins alone", value=float(a.prepared.sums.host_EI[0, k]) / 1e6, unit="N·m²"
        ),
        Symbol(
            symbol="GA_s",
            meaning="shear stiffness from the two-dimensional solution",
            value=float(a.prepared.GA_s[k]),
            unit="N",
        ),
    ]
    if moment:
        host = float(a.response.curvature[0, k] * a.prepared.sums.host_EI[0, k]) / moment
        symbols.append(
            Symbol(symbol="M_h / M", meaning="share that foam and skins carry there", value=100 * host, unit="%")
        )
    return Working(
        figure="bend",
        formula_id="bend.partial_interaction",
        title="Bend",
        formula="w = ∫∫ (M − Σ N_g a_g)/EI_h dy² + ∫ (C₀₀ M′ + Σ C₀g N_g′) dy",
        explanation=(
            "Every bar carries an axial force N_g that grows through the shear of the foam (partial interaction, "
            f"Newmark 1951; Allen 1969). Values at {a.prepared.geometry.y[k]:.0f} mm."
        ),
        symbols=symbols,
        assumptions=list(assumptions),
        sources=sources,
    )


def _swing(a: Analysis, sources: list[Source]) -> Working:
    k = int(np.argmax(np.abs(a.loading.edge[0])))
    return Working(
        figure="bend",
        formula_id="bend.edgewise",
        title="Swing fore and aft",
        formula="w = ∫∫ M_e/EI_e dy²",
        explanation=f"Edgewise bending of the section without slip and shear. Values at {a.prepared.mesh.y[k]:.0f} mm.",
        symbols=[
            Symbol(symbol="M_e", meaning="edgewise moment", value=float(a.loading.edge[0, k]) / 1e3, unit="N·m"),
            Symbol(
                symbol="EI_e",
                meaning="edgewise stiffness",
                value=float(a.prepared.sums.edge_EI[0, k]) / 1e6,
                unit="N·m²",
            ),
            Symbol(
                symbol="x̄",
                meaning="neutral line behind the nose",
                value=float(a.prepared.sums.edge_x[0, k]),
                unit="mm",
            ),
        ],
        assumptions=[
            "Bars and skins follow the foam edgewise without slip.",
            "Foam takes the mean of both its moduli.",
        ],
        sources=sources,
    )


def _twist(a: Analysis, sources: list[Source]) -> list[Working]:
    if not np.any(a.loading.torque):
        return []
    torque = float(a.loading.torque[0, 0])
    stiffness = float(a.prepared.fields.torsion[0, 0]) / 1e6
    centre = 100 * float(a.prepared.fields.shear_centre[0, 0] / a.prepared.geometry.chord[0])
    return [
        Working(
            figure="twist",
            formula_id="twist.prandtl",
            title="Twist of the tip",
            formula="θ = ∫ T/GJ dy"
            + ("" if a.loading.read == "twist" else ",  T = ∫ [l (x_sc − c/4) + n m g (x_cg − x_sc) + c_m q c²] dy"),
            explanation="GJ from Prandtl's stress function with skins as a rim; shear centre from the same grid.",
            symbols=[
                Symbol(symbol="GJ", meaning="at the root", value=stiffness, unit="N·m²"),
                Symbol(symbol="T", meaning="twisting moment at the root, nose up", value=torque / 1e3, unit="N·m"),
                Symbol(symbol="x_sc / c", meaning="shear centre at the root", value=centre, unit="%"),
            ],
            assumptions=[
                "The sweep of the line of shear centres is left out.",
                "No wind-up: the lift does not follow.",
            ],
            sources=sources,
        )
    ]


def _holds(a: Analysis, sources: list[Source], assumptions: tuple[str, ...]) -> Working:
    mode = max(a.modes, key=lambda m: float(m.use[0].max()))
    k = int(np.argmax(mode.use[0]))
    formula, explanation = _FORMULAS[mode.kind]
    use = float(mode.use[0, k])
    kappa = float(a.response.curvature[0, k])
    symbols = [
        Symbol(symbol="y", meaning="where it gives first", value=float(a.prepared.geometry.y[k]), unit="mm"),
        Symbol(symbol="1/λ", meaning="share of the strength used at the load", value=100 * use, unit="%"),
        Symbol(symbol="λ", meaning="times the load", value=1 / max(use, 1e-12), unit="×"),
        Symbol(
            symbol="κ",
            meaning="curvature of foam and skins there",
            value=1e3 * kappa,
            unit="1/m",
        ),
        Symbol(symbol="M", meaning="moment there", value=float(a.asked[0, k]) / 1e3, unit="N·m"),
    ]
    if mode.kind in ("skin_wrinkling", "skin_compression", "skin_yield", "skin_tension"):
        assert mode.item is not None
        skin, foam = a.prepared.elements.membranes[mode.item].skin, a.prepared.elements.foam
        factor = WRINKLING_K[skin.wrinkling_bond].value.typ
        symbols += [
            Symbol(symbol="E_f", meaning=f"stiffness of {skin.name}", value=skin.E_along_MPa.typ, unit="MPa"),
            Symbol(symbol="k", meaning="wrinkling factor by bond", value=factor, unit=""),
            Symbol(
                symbol="E_c", meaning="foam through its thickness",
                value=foam.E_compression_MPa.typ / foam.through_thickness_ratio, unit="MPa",
            ),
            Symbol(symbol="G_c", meaning="foam in shear", value=foam.G_MPa.typ, unit="MPa"),
        ]  # fmt: skip
    if mode.kind.startswith("bar"):
        assert mode.item is not None
        i = mode.item
        stock = a.prepared.elements.bars[i].stock
        sums, strain = a.prepared.sums, a.response.bar_force[0, i, k] / max(a.prepared.sums.bar_EA[0, i, k], 1e-9)
        if a.prepared.elements.hollow:
            strain = a.response.axial[0, k] - kappa * (a.prepared.geometry.bar_z[i, k] - sums.host_z[0, k])
        force = float(strain * sums.bar_full[0, i, k])
        symbols += [
            Symbol(symbol="N", meaning="force in the bar", value=force, unit="N"),
            Symbol(symbol="A", meaning="its area", value=stock.area_mm2, unit="mm²"),
            Symbol(symbol="p", meaning="its perimeter", value=stock.perimeter_mm, unit="mm"),
        ]
    return Working(
        figure="holds",
        formula_id=f"holds.{mode.kind}",
        title="Holds",
        formula=formula,
        explanation=explanation + ".",
        symbols=symbols,
        assumptions=list(assumptions),
        sources=sources,
    )
