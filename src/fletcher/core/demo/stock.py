"""What lies on the invented group's shelf: some of it new, some left over, one tube past its date."""

from __future__ import annotations

from datetime import date

from fletcher.core.stock.items import StockItem


def demo_stock() -> tuple[StockItem, ...]:
    """Things on the shelf of the salt-marsh group."""
    tube, drawer, loft = "tube rack", "glue drawer", "loft, dry"
    return (
        StockItem(kind="bar", key="carbon_rod_3", count=2, length_mm=1000, place=tube, price=4.5),
        StockItem(kind="bar", key="carbon_rod_3", length_mm=620, place=tube, origin="offcut"),
        StockItem(kind="bar", key="carbon_rod_2", length_mm=1000, place=tube),
        StockItem(kind="bar", key="bamboo_skewer_3", count=12, length_mm=300, place=tube),
        StockItem(kind="roll", key="lamfilm_75", length_mm=6500, width_mm=635, place=loft, batch="spring roll"),
        StockItem(kind="roll", key="filament_tape_bi", length_mm=18000, width_mm=50, place=drawer),
        StockItem(kind="cloth", key="glass_49", length_mm=900, width_mm=1000, place=loft, opened=date(2026, 3, 14)),
        StockItem(kind="sheet", key="foamboard_light_5", count=3, length_mm=700, width_mm=500, place=loft),
        StockItem(kind="block", key="epp_30", count=2, length_mm=900, width_mm=600, thick_mm=20, place=loft),
        StockItem(kind="block", key="epp_30", length_mm=310, width_mm=140, thick_mm=20, origin="offcut", place=loft),
        StockItem(kind="glue", key="epoxy_30min", grams=160, opened=date(2026, 5, 9), place=drawer),
        StockItem(kind="glue", key="contact_foamsafe_clear", grams=45, opened=date(2026, 1, 20),
                  keeps_until=date(2026, 10, 31), place=drawer),
        StockItem(kind="glue", key="hotmelt_low", grams=220, place=drawer),
        StockItem(kind="thing", key="nylon_bolt_3", count=14, place="bolt box"),
    )  # fmt: skip
