"""Loads, and the part as a beam in the air.

A part's mass, chord and stiffness and its load cases enter. Moments, shear and torque along it, strikes, control
forces, frequencies and speeds of divergence and reversal leave. Lifting-line spreads, Pratt gusts, shocks, swept-wing
aeroelasticity and Euler columns live here.
"""

__all__ = [
    "able_to_fly",
    "control_linkage",
    "control_surfaces",
    "cords",
    "divergence",
    "free_sway",
    "frequencies",
    "fuselage",
    "lift",
    "loading",
    "loads",
]
"""Modules that other rooms may import."""
