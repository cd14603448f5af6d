"""The formula behind every kind of failure, in words for the working."""

from __future__ import annotations

FORMULAS: dict[str, tuple[str, str]] = {
    "foam_tension": ("λ = σ_t / (E_t ε)", "Stress in the outermost foam compared with its tensile strength"),
    "foam_yield": ("λ = σ_y / (E_t ε)", "Strain of the outermost foam at which it leaves its straight line"),
    "folds": ("λ = M(ε_top = 10 %) / M", "Moment at which the pressed foam is a tenth shorter: it folds"),
    "bends_over": ("λ = 30° / w′", "Slope against root or supports at which a part counts as folded"),
    "core_tears": ("λ = M(ε = σ_t/E_t) / M", "The core of a board without paper there against its tensile strength"),
    "core_crush": ("λ = M(ε = σ_c/E_c) / M", "The core of a board without paper there against its crush plateau"),
    "nothing": ("", "Nothing that is computed limits it"),
    "foam_crush": ("λ = σ_10 / (E_c ε)", "Stress in the outermost foam compared with its crush stress"),
    "skin_tension": ("λ = σ_max / (E ε)", "Stress in the skin compared with its tensile strength"),
    "skin_yield": (
        "λ = σ_y / (E ε)",
        "Stress in the skin compared with its yield stress",
    ),
    "skin_wrinkling": ("λ = k (E_f E_c G_c)^⅓ / (E_f ε)", "Skin wrinkling on a foam core (Hoff & Mautner 1945)"),
    "skin_compression": ("λ = σ_c / (E ε)", "Stress in the skin compared with its compressive strength"),
    "bar_tension": (
        "λ = σ_max / (N/A + E κ h/2)",
        ("Tension and bending of the spar compared with its tensile strength"),
    ),
    "bar_compression": (
        "λ = σ_c / (N/A + E κ h/2)",
        ("Compression and bending of the spar compared with its compressive strength"),
    ),
    "bar_buckling": (
        "λ = 2√(k EI) / (1 + k w₀/(d σ_t)) / N",
        "Spar buckling in an elastic medium, with waviness w₀ that tears the foam",
    ),
    "core_shear": (
        "λ = τ_max / (V max|∇w| + T max|∇φ|/J)",
        (
            "Largest shear from bending (flexure function, away from spars) plus largest shear from twist, taken "
            "at the same point"
        ),
    ),
    "skin_shear": (
        "λ = τ_max t / (T φ/J)",
        ("Shear flow of the closed skin under twist (Prandtl’s φ at the boundary)"),
    ),
    "wall_shear": ("λ = τ_max t / (V q̂ + T q̂_T)", "Shear flow in the walls from shear force and twist"),
    "wall_buckling": (
        "λ = N_cr / (E t ε),  1/N_cr = b²/(2π²[√(D₁₁D₂₂) + D₁₂ + 2 D₆₆]) + 1/S",
        "Long panel with hinged edges (Timoshenko & Gere 1961), with transverse shear (Allen 1969)",
    ),
    "bar_strut": ("λ = π² E I / (ℓ² N)", "Hinged strut between ribs (Euler)"),
    "bar_flute": (
        "λ = √(k E I) / N,  k = 16 E_l t³/[(1 − ν²) p³]",
        "Bar on the wall of its flute, a strip of span p and thickness t; half of the load",
    ),
    "bar_twist": ("λ = τ_max / (G r T/GJ)", "Shear at the surface of the spar as the part twists"),
    "bar_splice": (
        "1/λ = N / [τ (p/4) o] + 6 M_b / [τ (p/4) o √(p²/16 + o²)]",
        "Lap of two lengths over o, glued on a quarter of the perimeter, with the spar's own bending M_b",
    ),
    "notch": (
        "λ = σ_t / (E_t ε [1 + 2√(a/(r + 2 mm))])",
        "Corner of a cut-out in brittle foam: radius r, half-width a; strain of the full section beside it",
    ),
    "bar_bond": ("λ = τ_max (p/2) / |N′|", "Load transfer per length to the spar, over half of its perimeter"),
    "strip_bond": (
        "λ = τ / (V E t |z − z̄| / EI)",
        "Shear between strip and foam compared with the weaker of adhesive and foam",
    ),
    "strip_end": (
        "λ = √(2 Γ E t) / N",
        "Energy released at the end of a strained strip compared with its peel energy (Kendall 1975)",
    ),
    "cord_pull": (
        "λ = F_break / (EA κ_e (x − x̄))",
        ("Tension in the cord in fore-and-aft bending compared with its breaking load"),
    ),
    "cord_bond": (
        "λ = τ g / max(|N′|, N/ℓ)",
        ("Bond stress along the cord; near its end all tension on the remaining length"),
    ),
    "strap_crush": (
        "λ = σ_10 / (P/2 / (w d))",
        "Half of the strap tension on each edge, over the bearing area of strap or edge strip",
    ),
    "joint_bearing": (
        "λ = p d [ℓ²/2 − x²] / M,  x = (ℓ + V/(p d))/2",
        (
            "Embedded pin in rigid-plastic foam, length ℓ on this side (Broms 1964); p halved where the foam cover "
            "is thin"
        ),
    ),
    "root_glue": ("λ = η σ_t / σ_root", "Foam tension at the glued root compared with a butt joint"),
    "joint_glue": (
        "λ = 1/√((σ sin²θ/σ_a)² + (σ sinθ cosθ/τ_a)²),  or τ_a ℓ_eff / N",
        "Load across the joint compared with the glue at its age; see the joint’s own check",
    ),
    "joint_foam": (
        "λ = η σ_f / σ,  or η τ_f ℓ_eff / N",
        ("Load across the joint compared with the foam beside the glue"),
    ),
    "joint_part": ("λ = σ Z / M,  or E t ε / N", "Load compared with the strength of the joining piece"),
    "joint_pin": ("λ = p d [ℓ²/2 − x²] / M", "Bearing on the foam around it (Broms 1964), or under a washer"),
    "joint_peel": (
        "λ = √(2 Γ E t) / N",
        ("Energy at the end of the bonded piece compared with its peel energy (Kendall 1975)"),
    ),
    "joint_pull": ("λ = n F_bolt / F", "Bolt strength compared with wing lift, or the moment as a couple"),
    "hinge_tears": (
        "λ = T ℓ / 3 (M_h/0.35 c + M_h/a)",
        ("Hinge load from air and pushrod compared with one third of its tear-out load"),
    ),
    "bands_give": ("λ = F_bands / L", "Total wing lift compared with total rubber band tension"),
    "nose_spent": ("λ = s_free / (½ m V² / F)", ("Crush depth (energy ÷ crush force) compared with the free length")),
    "mount_tears": (
        "λ = g_mounts / (F / m g)",
        ("Deceleration (crush force ÷ mass behind it) compared with what the mounts survive"),
    ),
}
"""Formula and explanation of every kind of failure."""
