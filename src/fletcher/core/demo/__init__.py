"""The invented world of the demo account.

Nothing enters. Airframes, a crash with its record, coupons and trials leave, all made up. No formula lives here.
"""

__all__ = ["build", "crash", "log", "stock", "world"]
"""Modules that other rooms may import."""
