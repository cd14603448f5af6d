"""What breaks, what only changes, and what the rest then carries.

A section's strains under a load enter. Ways to fail with their share used, first break, break load and change loads
leave (docs/mechanics.md, Verdicts). Failure by stress, wrinkling, bond and shear, and the march in curvature after
states live here.
"""

__all__ = ["capacity", "fibres", "followed", "judgement", "modes"]
"""Modules that other rooms may import."""
