"""What a lay-up weighs and how thick it builds.

Cloths, resins, methods and skins enter. Stiffness and strength of laminates, grams and stacked thickness leave.
Classical lamination theory and rules of mixtures live here (Jones 1999).
"""

__all__ = ["laminates", "stackup", "weighing"]
"""Modules that other rooms may import."""
