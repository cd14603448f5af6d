"""Derivations of what a part does under a load: grams, bend, twist, section, frequencies, failures."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.estimate.derivation import symbols
from fletcher.core.estimate.formulas import FORMULAS
from fletcher.core.estimate.schema import SnapResult, Working
from fletcher.core.materials.uncertainty import WRINKLING_K
from fletcher.core.section.properties import principal_angle
from fletcher.core.strength.followed import STRAINED
from fletcher.core.strength.judgement import Event, figures_of
from fletcher.core.strength.modes import Mode
from fletcher.core.structure.cords import pulled_edge

if TYPE_CHECKING:
    from fletcher.core.estimate.analyse import Analysis


def of_load(a: Analysis, told: list[Event], snaps: list[SnapResult]) -> list[Working]:
    """The derivation of every figure that hangs on the load or the section; `told` are the failures in the order in
    which they are listed."""
    found = [_mass(a, False), _mass(a, True), _bend(a), _shares(a), _section(a), *_twist(a)]
    found += [_comes_at(a, event, name) for event, name in zip(told, figures_of(a.judged, told), strict=True)]
    if a.part.kind in ("wing", "tail"):
        found += _shaking(a)
    if a.prepared.elements.cords and np.any(a.loading.edge):
        found.append(_cords(a))
    if snaps:
        numbers = [(f"M₁ {s.direction}", "first break", s.first_break_N_mm / 1e3, "N·m") for s in snaps]
        numbers += [
            (f"M_r/M₁ {s.direction}", "moment after the crack, relative", 100 * s.hangs_together, "%") for s in snaps
        ]
        found.append(
            Working(
                figure="snap",
                formula_id="snap.moment_curvature",
                title="Snapped by hand",
                formula="M(κ) = ∫σ(ε₀ − κz) z dA; snaps if M_r < 0.1 M₁ or (M₁² − M_r²)L/6EI > work of the tape",
                explanation="Fibre model with uniaxial laws, one cracked section, snap energy over a length of "
                "ten depths.",
                symbols=symbols(numbers),
                assumptions=["Typical values only: this describes how it breaks, not how strongly."],
            )
        )
    return found


def _line_grams(a: Analysis) -> Array:
    k, h = a.prepared.mesh.left, a.prepared.mesh.length
    mass = a.prepared.line_mass[:, 0]
    return np.asarray((0.5 * (mass[:, k] + mass[:, k + 1]) * h).sum(1))


def _mass(a: Analysis, added: bool) -> Working:
    """Grams of every element; `added` leaves the foam out."""
    p, numbers = a.prepared, []
    k, h = p.mesh.left, p.mesh.length
    if not added and not p.elements.hollow:
        meaning = f"what is left of it × {p.elements.foam.density_kg_m3.typ:g} kg/m³"
        numbers.append((p.elements.foam.name, meaning, float(_line_grams(a)[-1]), "g"))
    if p.elements.ribs is not None:
        ribs = p.elements.ribs
        meaning = f"{ribs.count} of {ribs.sheet.areal_mass_g_m2.typ:g} g/m², {100 * ribs.solid:.0f} % of each left"
        numbers.append((f"Ribs, {ribs.sheet.name}", meaning, float(_line_grams(a)[-1]), "g"))
    for i, bar in enumerate(p.elements.bars):
        size = (p.geometry.bar_scale[i] ** bar.powers[0]) * p.geometry.bar_on[i]
        grams = float(p.draws.bars[i].density[0] * bar.stock.area_mm2 * (0.5 * (size[k] + size[k + 1]) * h).sum())
        run = bar.end - bar.start
        formula = f"{bar.stock.area_mm2:.3g} mm² × {bar.stock.density_kg_m3.typ:g} kg/m³ × {run:.0f} mm"
        numbers.append((f"{bar.stock.name}, {bar.side}", formula, grams, "g"))
    for i, membrane in enumerate(p.elements.membranes):
        length = p.geometry.skin[i, 0] * p.geometry.skin_on[i]
        area = float((0.5 * (length[k] + length[k + 1]) * h).sum())
        grams = float(p.draws.skins[i].areal_mass[0]) * membrane.plies * area
        formula = f"{area / 100:.4g} cm² × {membrane.skin.areal_mass_g_m2.typ:g} g/m² × {membrane.plies:g}"
        numbers.append((f"{membrane.skin.name}, {membrane.face}", formula, grams, "g"))
    for cord in p.elements.cords:
        run = cord.end - cord.start
        formula = f"{cord.stock.mass_g_per_m.typ:g} g/m × {run:.0f} mm"
        numbers.append((f"{cord.stock.name}, {cord.face}", formula, cord.stock.mass_g_per_m.typ * run / 1e3, "g"))
    return Working(
        figure="added" if added else "mass",
        formula_id="added.sum" if added else "mass.sum",
        title="Added mass" if added else "Part mass",
        formula="m = Σ ρ A L of spars + Σ m″ S n of skins" + ("" if added else " + ρ V of the foam"),
        explanation="True lengths around the section; skins include their adhesive or resin. For one item: its "
        "own rows.",
        symbols=symbols(numbers),
        assumptions=["Glue along spars and paint are not included."],
    )


def _bend(a: Analysis) -> Working:
    if a.loading.read == "swing":
        return _swing(a)
    p = a.prepared
    k = int(np.argmax(np.abs(a.loading.moment[0])))
    moment = float(a.loading.moment[0, k])
    numbers = [
        ("M", "largest bending moment", moment / 1e3, "N·m"),
        ("EI", "full section, no slip", p.sums.whole_EI[0, k] / 1e6, "N·m²"),
        ("EI_h", "foam and skins alone", p.sums.host_EI[0, k] / 1e6, "N·m²"),
        ("GA_s", "shear stiffness", p.GA_s[k], "N"),
    ]
    if moment:
        host = float(a.response.curvature[0, k] * p.sums.host_EI[0, k]) / moment
        numbers.append(("M_h / M", "share carried by foam and skins there", 100 * host, "%"))
    if np.any(p.root_give):
        numbers.append(("φ", "joiner tilt in the foam", np.degrees(p.root_give[0] * a.loading.moment[0, 0]), "°"))
    return Working(
        figure="bend",
        formula_id="bend.partial_interaction",
        title="Bend",
        formula="w = ∫∫ (M − Σ N_g a_g)/EI_h dy² + ∫ (C₀₀ M′ + Σ C₀g N_g′) dy",
        explanation=(
            "Every spar carries an axial force N_g that builds up through shear in the foam (partial "
            f"interaction, Newmark 1951; Allen 1969). Values at {p.geometry.y[k]:.0f} mm."
        ),
        symbols=symbols(numbers),
        assumptions=[
            "Skins are bonded without slip along the part.",
            "Valid up to a deflection of about 10 % of the length.",
        ],
    )


def _swing(a: Analysis) -> Working:
    k = int(np.argmax(np.abs(a.loading.edge[0])))
    p = a.prepared
    return Working(
        figure="bend",
        formula_id="bend.edgewise",
        title="Fore-and-aft deflection",
        formula="w = ∫∫ M_e/EI_e dy²",
        explanation=f"Fore-and-aft bending without slip or shear. Values at {p.mesh.y[k]:.0f} mm.",
        symbols=symbols(
            [
                ("M_e", "fore-and-aft moment", a.loading.edge[0, k] / 1e3, "N·m"),
                ("EI_e", "fore-and-aft stiffness without cords", p.sums.edge_EI[0, k] / 1e6, "N·m²"),
                ("x̄", "neutral axis aft of leading edge", p.sums.edge_x[0, k], "mm"),
            ]
        ),
        assumptions=[
            "Spars and skins follow the foam without slip.",
            "Foam uses the mean of its two moduli.",
            "Cords act in tension only.",
        ],
    )


def _cords(a: Analysis) -> Working:
    p = a.prepared
    k = int(np.argmax(np.abs(a.loading.edge[0])))
    stiff = pulled_edge(p.elements, p.geometry, p.sums, a.loading.edge)
    numbers = [
        ("M_e", f"fore-and-aft moment at {p.geometry.y[k]:.0f} mm", a.loading.edge[0, k] / 1e3, "N·m"),
        ("EI_e", "fore-and-aft stiffness with cords in tension", stiff.EI[0, k] / 1e6, "N·m²"),
        ("x̄", "neutral axis aft of leading edge, with cords", stiff.x[0, k], "mm"),
        ("τ", "shear strength of the foam beside the glue", p.draws.foam.shear[0], "MPa"),
    ]
    for cord in p.elements.cords:
        numbers.append(("EA", f"{cord.stock.name}, {cord.face}", cord.stock.EA_N.typ / 1e3, "kN"))
        numbers.append(("g", f"glued perimeter of {cord.stock.name}, {cord.face}", cord.stock.grips_mm, "mm"))
    return Working(
        figure="cords",
        formula_id="cords.share",
        title="Edge cords",
        formula="N = EA M_e (x − x̄)/EI_e,  share = N (x − x̄)/M_e,  bond = N/(τ g)",
        explanation="Parallel-axis sums; a cord acts in tension only.",
        symbols=symbols(numbers),
        assumptions=["Cords are bonded along their whole length, without slack."],
    )


def _twist(a: Analysis) -> list[Working]:
    if not np.any(a.loading.torque):
        return []
    p = a.prepared
    k = int(np.argmax(np.abs(a.loading.torque[0])))
    numbers = [
        ("GJ", f"at {p.geometry.y[k]:.0f} mm", p.fields.torsion[0, k] / 1e6, "N·m²"),
        ("T", "largest twisting moment", a.loading.torque[0, k] / 1e3, "N·m"),
        ("x_sc / c", "shear centre there", 100 * p.fields.shear_centre[0, k] / p.geometry.chord[k], "%"),
    ]
    formula = "θ = ∫ T/GJ dy"
    if a.loading.whole_lift:
        formula += ",  T = ∫ [l (x_sc − c/4) + n m g (x_cg − x_sc) + c_m q c²] dy"
    elif a.loading.twist is not None:
        formula = "(GJ θ′)′ = c_h q c² (δ + θ),  θ = 0 at the horn"
    field = (
        "Bredt and Batho's flows on the walls"
        if p.elements.hollow
        else ("Prandtl’s stress function with skins as its boundary")
    )
    found = [
        Working(
            figure="twist",
            formula_id="twist.hinge_moment" if a.loading.twist is not None else "twist.torsion",
            title="Twist",
            formula=formula,
            explanation=f"GJ from {field}; shear centre from the same solution.",
            symbols=symbols(numbers),
            assumptions=[
                "Sweep of the shear-centre line is ignored.",
                "Lift does not change with twist.",
            ],
        )
    ]
    if a.loading.arrives is not None and a.loading.servo is not None:
        share = 100 * float(a.loading.arrives[0])
        found.append(
            Working(
                figure="control",
                formula_id="control.arrives",
                title="Effective deflection",
                formula="η = ∫(δ + θ) c dy / δ∫c dy,  servo M = ∫ c_h q c² (δ + θ) dy",
                explanation="Thin-aerofoil hinge moment of a plain flap (Glauert 1927), less what real flow takes off; "
                "what lies ahead of the hinge takes its share of it back.",
                symbols=symbols([("η", "arrives", share, "%"), ("M", "servo torque", a.loading.servo[0], "N·mm")]),
                assumptions=["Hinges are rigid and free of friction.", "The horn is rigid."],
            )
        )
    return found


def _shares(a: Analysis) -> Working:
    p = a.prepared
    k = int(np.argmax(np.abs(a.asked[0])))
    numbers = [("EI", f"full section at {p.geometry.y[k]:.0f} mm", p.sums.whole_EI[0, k] / 1e6, "N·m²")]
    return Working(
        figure="shares",
        formula_id="shares.bending",
        title="Shares of bending stiffness",
        formula="share = ∫κ² EI_i dy / ∫κ² EI dy,  κ = M/EI,  EI_i = ∫E (z − z̄)² dA",
        explanation="Weighted along the part by curvature in this case.",
        symbols=symbols(numbers),
        assumptions=["Full section, no slip."],
    )


def _section(a: Analysis) -> Working:
    p = a.prepared
    numbers = [
        ("EI", "bending stiffness, up and down", p.sums.whole_EI[0, 0] / 1e6, "N·m²"),
        ("EI_e", "bending stiffness, fore and aft", p.sums.edge_EI[0, 0] / 1e6, "N·m²"),
        ("EI_xz", "cross term", p.sums.cross_EI[0, 0] / 1e6, "N·m²"),
        ("α", "tilt of the weakest axis, nose up", np.degrees(principal_angle(p.sums)[0, 0]), "°"),
        ("EA", "pull", p.sums.whole_EA[0, 0] / 1e3, "kN"),
        ("GA_s", "shear", p.GA_s[0], "N"),
        ("GJ", "twist", p.fields.torsion[0, 0] / 1e6, "N·m²"),
        ("x_sc", "shear centre, aft of leading edge", p.fields.shear_centre[0, 0], "mm"),
        ("z̄", "centroid", p.sums.whole_z[0, 0], "mm"),
    ]
    walls = "a network of walls: ∮q²/(Gt) ds with the redundants of its cells; openings after Vlasov 1961"
    core = "the flexure function ∇·(G∇w) = −E(z − z̄)V/EI (Pilkey 2002) and Prandtl's stress function on one grid"
    return Working(
        figure="section",
        formula_id="section.walls" if p.elements.hollow else "section.core",
        title="Section at the root",
        formula="EI = ∫E (z − z̄)² dA,  1/GA_s = ∫G|∇w|² dA/V²,  GJ = 2∫φ dA/θ′",
        explanation=f"Modulus-weighted sums; shear and twist from {walls if p.elements.hollow else core}.",
        symbols=symbols(numbers),
        assumptions=["Cross-sections keep their shape."],
    )


def _shaking(a: Analysis) -> list[Working]:
    p, s = a.prepared, a.prepared.shaking
    grams = float(_line_grams(a).sum())
    ahead = float(p.fields.shear_centre[0, 0] - p.geometry.chord[0] / 4)
    rayleigh = "ω² = ∫m w₀ w₁ dy / ∫m w₁² dy (improved Rayleigh quotient)"
    told = [
        ("flap_Hz", "shakes.flap", "Natural frequency, bending", rayleigh, [("f", "first frequency", s.flap[0], "Hz")]),
        (
            "edge_Hz",
            "shakes.edge",
            "Natural frequency, fore and aft",
            rayleigh,
            [("f", "first frequency", s.edge[0], "Hz")],
        ),
        (
            "twist_Hz",
            "shakes.twist",
            "Natural frequency, twist",
            rayleigh + " with ∫m r² and GJ",
            [("f", "first frequency", s.twist[0], "Hz")],
        ),
        (
            "divergence_m_s",
            "speed.divergence",
            "Divergence",
            "(GJ θ′)′ + q c a e θ = 0,  e = x_sc − c/4",
            [
                ("GJ", "at the root", p.fields.torsion[0, 0] / 1e6, "N·m²"),
                (
                    "e",
                    "distance of lift ahead of shear centre, root",
                    ahead,
                    "mm",
                ),
            ],
        ),
    ]
    if s.reversal is not None:
        told.append(
            (
                "reversal_m_s",
                "speed.reversal",
                "Control reversal",
                "∫q c (a θ + a_δ δ) y dy = 0,  (GJ θ′)′ + q c [e (a θ + a_δ δ) + c m_δ δ] = 0",
                [("GJ", "at the root", p.fields.torsion[0, 0] / 1e6, "N·m²")],
            )
        )
    return [
        Working(
            figure=figure,
            formula_id=formula_id,
            title=title,
            formula=formula,
            explanation="Root fixed; strip theory for the speeds. This is a caution, not a clearance to fly.",
            symbols=symbols([("m", "this part", grams, "g"), *numbers]),
            assumptions=["Flutter is not computed."],
        )
        for figure, formula_id, title, formula, numbers in told
    ]


def _comes_at(a: Analysis, event: Event, figure: str) -> Working:
    """How often the load until something breaks or changes; "breaks_at" is the break load."""
    p, mode, k = a.prepared, event.mode, event.k
    formula, explanation = FORMULAS[mode.kind]
    times = float(min(event.at[0], 1e9))
    kappa = float(a.response.curvature[0, k])
    numbers = [
        ("y", "position of first failure", p.geometry.y[k], "mm"),
        ("1/λ", "strength used at this load", 100 / times, "%"),
        ("λ", "× this load", times, "×"),
    ]
    if figure == "breaks_at":
        factor = a.case.safety_factor
        numbers.append(("λ/n", f"margin: {factor:g} × this load must be carried", times / factor, ""))
    if kappa:
        numbers.append(("κ", "curvature of foam and skins there", 1e3 * kappa, "1/m"))
    for symbol, meaning, moments in (
        ("M", "bending moment there", a.loading.moment),
        ("M_e", "fore-and-aft moment there", a.loading.edge),
        ("T", "twisting moment there", a.loading.torque),
    ):
        if np.any(moments[0]):
            numbers.append((symbol, meaning, moments[0, k] / 1e3, "N·m"))
    numbers += _material_numbers(a, mode, k, kappa)
    return Working(
        figure=figure,
        formula_id=f"comes_at.{mode.kind}",
        title="Breaks at" if figure == "breaks_at" else "Breaks a member at" if event.breaks else "Changes at",
        formula=formula,
        explanation=explanation + ".",
        symbols=symbols(numbers),
        assumptions=[_FOLLOWED if mode.kind in STRAINED else _IN_PROPORTION],
    )


_FOLLOWED = (
    "After the first change the section is followed in curvature: wrinkled skins keep their wrinkling stress, "
    "drawn ones "
    "harden, foam crushes at its plateau. After a break the rest of the section carries on without that member."
)
_IN_PROPORTION = "Grows in proportion to the load."


def _material_numbers(a: Analysis, mode: Mode, k: int, kappa: float) -> list[tuple[str, str, float, str]]:
    p, foam = a.prepared, a.prepared.elements.foam
    if mode.kind.startswith("skin") and mode.item is not None:
        skin = p.elements.membranes[mode.item].skin
        return [
            ("E_f", f"stiffness of {skin.name}", skin.E_along_MPa.typ, "MPa"),
            ("k", "wrinkling factor by bond", WRINKLING_K[skin.wrinkling_bond].value.typ, ""),
            ("E_c", "foam through its thickness", foam.E_compression_MPa.typ / foam.through_thickness_ratio, "MPa"),
            ("G_c", "foam in shear", foam.G_MPa.typ, "MPa"),
        ]
    if mode.kind in ("foam_tension", "notch", "root_glue"):
        return [
            ("σ_t", "foam in tension", foam.tensile_strength_MPa.typ, "MPa"),
            ("E_t", "", foam.E_tension_MPa.typ, "MPa"),
        ]
    if mode.kind == "foam_crush":
        return [
            ("σ_10", "foam crushes", foam.crush_stress_MPa.typ, "MPa"),
            ("E_c", "", foam.E_compression_MPa.typ, "MPa"),
        ]
    if not mode.kind.startswith("bar") or mode.item is None:
        return []
    i = mode.item
    stock, sums = p.elements.bars[i].stock, p.sums
    strain = a.response.bar_force[0, i, k] / max(sums.bar_EA[0, i, k], 1e-9)
    if not p.elements.slips:
        strain = a.response.axial[0, k] - kappa * (p.geometry.bar_z[i, k] - sums.host_z[0, k])
    return [
        ("N", "force in the spar", float(strain * sums.bar_full[0, i, k]), "N"),
        ("A", "its area", stock.area_mm2, "mm²"),
        ("p", "its perimeter", stock.perimeter_mm, "mm"),
    ]
