"""The mass ledger as a table in CSV."""

from __future__ import annotations

from fletcher.core.balance.schema import BalanceSheet
from fletcher.core.document.csv_table import csv_text

HEADS = ("group", "item", "low g", "typical g", "high g", "weighed", "x mm", "y mm", "z mm", "nose grams per gram")


def ledger_csv(sheet: BalanceSheet) -> str:
    """Every line of the ledger with its band, place and price."""
    return csv_text(HEADS, (
        (
            x.group, x.name, f"{x.grams.low:.2f}", f"{x.grams.typ:.2f}", f"{x.grams.high:.2f}",
            "yes" if x.weighed else "no", f"{x.x_mm:.1f}", f"{x.y_mm:.1f}", f"{x.z_mm:.1f}",
            None if x.price is None else f"{x.price:.3f}",
        )
        for x in sheet.lines
    ))  # fmt: skip
