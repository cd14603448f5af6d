"""The formula behind every kind of failure, in words for the working."""

from __future__ import annotations

FORMULAS: dict[str, tuple[str, str]] = {
    "foam_tension": ("λ = σ_t / (E_t ε)", "Strain of the outermost foam times its stiffness, against its strength"),
    "foam_yield": ("λ = σ_y / (E_t ε)", "Strain of the outermost foam at which it leaves its straight line"),
    "folds": ("λ = M(ε_top = 10 %) / M", "Moment at which the pressed foam is a tenth shorter: it folds"),
    "bends_over": ("λ = 30° / w′", "Slope against root or supports at which a part counts as folded"),
    "core_tears": ("λ = M(ε = σ_t/E_t) / M", "The core of a board without paper there against its tensile strength"),
    "core_crush": ("λ = M(ε = σ_c/E_c) / M", "The core of a board without paper there against its crush plateau"),
    "nothing": ("", "Nothing that is computed limits it"),
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
    "bar_flute": (
        "λ = √(k E I) / N,  k = 16 E_l t³/[(1 − ν²) p³]",
        "Bar on the wall of its flute, a strip of span p and thickness t; half of the load",
    ),
    "bar_twist": ("λ = τ_max / (G r T/GJ)", "Shear at the rim of the bar as the part twists"),
    "bar_splice": (
        "1/λ = N / [τ (p/4) o] + 6 M_b / [τ (p/4) o √(p²/16 + o²)]",
        "Lap of two lengths over o, glued on a quarter of the perimeter, with the bar's own bending M_b",
    ),
    "notch": (
        "λ = σ_t / (E_t ε [1 + 2√(a/(r + 2 mm))])",
        "Corner of a cut in a brittle foam, radius r, half width a; strain of the whole section beside it",
    ),
    "bar_bond": ("λ = τ_max (p/2) / |N′|", "Force that the bar takes up per length, on half of its perimeter"),
    "strip_bond": (
        "λ = τ / (V E t |z − z̄| / EI)",
        "Shear between strip and foam against the weaker of adhesive and foam",
    ),
    "strip_end": (
        "λ = √(2 Γ E t) / N",
        "Energy that the end of a strained strip would set free against what peeling costs (Kendall 1975)",
    ),
    "cord_pull": ("λ = F_break / (EA κ_e (x − x̄))", "Pull of the cord in edgewise bending against what it bears"),
    "cord_bond": ("λ = τ g / max(|N′|, N/ℓ)", "Pull handed over per length, near its end all of it on what is left"),
    "strap_crush": (
        "λ = σ_10 / (P/2 / (w d))",
        "Half of the pull on each edge, on strap or strip and its bearing",
    ),
    "joint_bearing": (
        "λ = p d [ℓ²/2 − x²] / M,  x = (ℓ + V/(p d))/2",
        "Embedded pin in rigid-plastic foam, ℓ on this side (Broms 1964); p halved under little cover",
    ),
    "root_glue": ("λ = η σ_t / σ_root", "Pull of the foam at the glued root against a butt seam"),
    "joint_glue": (
        "λ = 1/√((σ sin²θ/σ_a)² + (σ sinθ cosθ/τ_a)²),  or τ_a ℓ_eff / N",
        "What has to pass the joint against the film of glue at its age; see the joint's own sheet",
    ),
    "joint_foam": ("λ = η σ_f / σ,  or η τ_f ℓ_eff / N", "The same against what the foam beside the glue bears"),
    "joint_part": ("λ = σ Z / M,  or E t ε / N", "What joins the pieces against its own strength"),
    "joint_pin": ("λ = p d [ℓ²/2 − x²] / M", "Bearing on the foam around it (Broms 1964), or under a washer"),
    "joint_peel": ("λ = √(2 Γ E t) / N", "Energy at the end of what is glued on against peeling (Kendall 1975)"),
    "joint_pull": ("λ = n F_bolt / F", "Bolts against the lift of the wing, or the moment as a couple"),
    "hinge_tears": ("λ = T ℓ / 3 (M_h/0.35 c + M_h/a)", "Pull of wind and rod at the hinge; a third of what tears it"),
    "bands_give": ("λ = F_bands / L", "Lift of the whole wing against the pull of all bands"),
    "nose_spent": ("λ = s_free / (½ m V² / F)", "Energy over the steady crushing force, against the free length"),
    "mount_tears": ("λ = g_mounts / (F / m g)", "Steady crushing force over the mass behind it, against the mounts"),
}
"""Formula and explanation of every kind of failure."""
