"""The computation: no web framework, no database, no interface code.

Rooms from the ground up, each importing only from those before it: common, materials, document, layup, section,
strength, adhesion, structure, joints, validation, estimate, making, studies, repair, demo. What each is for stands in
its own `__init__`, with the modules that the others may use.

Units throughout: mm, N, MPa (N/mm²), g, s, rad. Axes: x chordwise aft of the leading edge,
y along the part outboard from its root, z up. Positive bending puts the upper face in compression.
Array axes by letter, in this order: S samples (the first is the typical one), n stations along the part, k elements,
F fibres of a section. [J] marks judgement: a named factor with a band, without a source to cite.
"""
