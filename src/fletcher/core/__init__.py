"""The computation: no web framework, no database, no interface code.

Units throughout: mm, N, MPa (N/mm²), g, s, rad. Axes: x chordwise aft of the leading edge,
y along the part outboard from its root, z up. Positive bending puts the upper face in compression.
"""
