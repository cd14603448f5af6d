"""Bench tests and what they teach.

An airframe and readings of its parts or of scraps enter. What they tell of the materials leaves, with odds that a
reading is a slip, and parts that are drawn as tests have taught them. Tables are never changed; who takes a test away
has what was before, to the last digit.
"""

__all__ = ["blind_trial", "rig_report", "rig_table", "rig_tests"]
"""Modules that other rooms may import."""
