"""Questions asked of a design by changing it.

A part and a question enter. What a line is worth, limits, tolerances, matches, other sizes, openings, break-first
corridors and constructions to choose from leave. Each is answered by estimates of changed parts; no formula of
strength is written again here.
"""

__all__ = [
    "airframe_types",
    "break_first",
    "construction_choice",
    "constructions",
    "control_surface_ways",
    "detail_wishes",
    "details",
    "joint_sheet",
    "lighter_parts",
    "line_worth",
    "load_limits",
    "matching",
    "openings",
    "plate_outline",
    "scaling",
    "schema",
    "sizing",
    "splicing",
    "starters",
    "tolerances",
    "variants",
    "what_if",
    "whole_airframe",
]
"""Modules that other rooms may import."""
