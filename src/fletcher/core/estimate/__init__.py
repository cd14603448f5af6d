"""The answer for one part under its load cases.

A checked airframe, a part and a case enter. Figures with bands, the verdict, workings, assumptions and the whole
airframe's balance leave. It composes the rooms below; toughness, dents and residual bow are its own formulas.
"""

__all__ = ["analyse", "balance", "cut_schema", "dents", "effort", "phrasing", "prepare", "report", "schema", "verdicts"]
"""Modules that other rooms may import."""
