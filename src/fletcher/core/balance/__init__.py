"""Mass, balance and weighing of a whole airframe.

Lines with a mass and a place enter, from the airframe document and from a scale. Masses, centres of gravity with their
range, neutral point, remedies and prices leave. Lever arithmetic, horseshoe vortices and Gaussian updating live here.
"""

__all__ = ["forecast", "ledger_table", "lessons", "schema", "sheet"]
"""Modules that other rooms may import."""
