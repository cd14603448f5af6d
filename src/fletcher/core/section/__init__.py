"""One cross-section, and the part as a row of them.

A part and its materials enter as placed elements. EI, EA, GJ, GA_s, neutral axis, shear centre, shares, slip between
bars and foam, and what a section carries as it is bent leave. Transformed sections, Saint-Venant torsion, thin-walled
cells, flexure functions, partial interaction, buckling on foam and moment–curvature live here.
"""

__all__ = [
    "assembly",
    "buckling",
    "elastica",
    "elements",
    "grid",
    "hinge_under_tape",
    "moment_curvature",
    "outline",
    "partial_interaction",
    "properties",
    "setting",
    "shear_stiffness",
    "snap",
    "snap_fibres",
    "splices",
    "thin_walled",
]
"""Modules that other rooms may import."""
