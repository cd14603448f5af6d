"""What lies on the shelf: things by kind, size, age and place.

Things as they are entered, tables of them and scrapped parts enter. Checked things, what is left of a cut, the largest
box in a scrapped core and the odds of an unknown foam leave. Counting, geometry of outlines and Bayes' rule live here.
"""

__all__ = ["cutting_up", "donor", "items", "stock_table", "which_foam"]
"""Modules that other rooms may import."""
