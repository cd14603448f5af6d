"""The airframe file.

Untrusted data enter. A typed document leaves: parts, lay-up lines, load cases, joints, marks of damage, own
materials, or problems by field. Only what can be said of a field alone is checked here; `validation` checks a part as
a whole.
"""

__all__ = [
    "aerofoil",
    "airframe",
    "airframe_file",
    "cases",
    "changes",
    "csv_table",
    "damage",
    "defaults",
    "equipment",
    "equipment_table",
    "joint",
    "own_materials",
    "problems",
    "shapes",
    "stock_steps",
    "weighings",
]
"""Modules that other rooms may import."""
