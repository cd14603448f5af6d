"""Templates as large as the pieces are.

A checked airframe enters. Drawings in millimetres leave, as DXF, SVG and tiled PDF: wire templates with the kerf,
folded boards, formers, plates, spar webs, dihedral gauges, each with its arrows and two bars to check the print by.
Offsets of outlines and the geometry of gauges live here.
"""

__all__ = ["files", "traced", "write_pdf"]
"""Modules that other rooms may import."""
