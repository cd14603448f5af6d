"""What things are made of, with how sure that is.

The data files (`data/*.csv`) and a builder's own rows enter. Checked rows with low, typical and high values leave,
drawn as samples, and bands and grades made of samples. Plates of layers and the statistics of bands live here
(lognormal draws, 5-95 % bands, their causes).
"""

__all__ = ["grades", "learned", "materials", "own_rows", "plates", "reader", "tables", "uncertainty"]
"""Modules that other rooms may import."""
