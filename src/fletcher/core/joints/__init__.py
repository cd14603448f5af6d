"""Joints and hinges of a part at their places.

A joint, its glue and what the part asks of it there enter. Ways for it to fail, grams, and rankings of hinge methods
leave. Butt, scarf and lap joints, bolts, roots and hinge geometry live here.
"""

__all__ = ["butt_and_scarf", "context", "failure_modes", "hinges", "joint_mass", "wing_root"]
"""Modules that other rooms may import."""
