"""Glue and what it holds.

Adhesives, surfaces, hours and weather enter. Cure, bond lines, capacity of seams, a ranking with reasons, coupons and
trials with what they teach leave. Shear lag, peel, fracture energy and cure kinetics live here (Volkersen 1938,
Goland & Reissner 1944, Arrhenius).
"""

__all__ = [
    "adhesives",
    "bond_line",
    "cautions",
    "coupons",
    "curing",
    "fair_trial",
    "glue_table",
    "joint_capacity",
    "preferences",
    "readiness",
    "retention",
    "selection",
]
"""Modules that other rooms may import."""
