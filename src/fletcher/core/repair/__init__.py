"""From marks of damage to a mended part.

A part with marks, and what is at hand, enter. Where to look, what is left, repairs on a Pareto front with their work
in order, and what would toughen it leave. Damage and repairs are lines of the part, judged by the same analysis.
"""

__all__ = [
    "build_mistakes",
    "evaluate",
    "events",
    "inspection",
    "log_counts",
    "log_table",
    "mark_menu",
    "mending_plan",
    "pareto_search",
    "phrasing",
    "recipe",
    "reopening",
    "schema",
    "standing",
    "toughen",
]
"""Modules that other rooms may import."""
