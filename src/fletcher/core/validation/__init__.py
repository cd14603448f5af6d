"""Whether a document can be built.

A typed document enters. Problems leave, each with the path of its field, the value and what is allowed. Geometry
only: no strength.
"""

__all__ = ["airframe", "equipment", "joints", "layup", "weighings"]
"""Modules that other rooms may import."""
