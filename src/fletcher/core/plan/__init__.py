"""From a design to work: what is to be done, in which order, and when.

A checked airframe and a shop enter: people, hours, tools, warmth. Operations with their waits and gates, a schedule and
its bounds leave. Precedence from the lay-up, waits from the glues' cure curves, CP-SAT for the order.
"""

__all__ = [
    "bar_splices",
    "changes",
    "cut_list",
    "flat_pieces",
    "gates",
    "ical",
    "operations",
    "planning",
    "progress",
    "schedule",
    "schema",
    "sheet_cuts",
    "work",
    "wrapping",
]
"""Modules that other rooms may import."""
