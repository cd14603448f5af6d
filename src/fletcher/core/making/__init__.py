"""How a part is made.

Lay-ups, shapes and places of formers enter. Stack-up, forming radii, drape and flat patterns leave. Bending of
layered sheets, Gaussian curvature and developable folds live here.
"""

__all__ = ["drape", "folding", "formers", "forming", "ironing", "making", "setting_cards"]
"""Modules that other rooms may import."""
