"""A template as PDF over sheets of paper that are glued together: crosses at the overlaps, row and column on each."""

from __future__ import annotations

import math
from dataclasses import dataclass
from html import escape
from typing import Literal, cast

from fletcher.core.templates.sheets import Template
from fletcher.core.templates.write_svg import body_of

Paper = Literal["A4", "Letter"]
SIZES_MM: dict[Paper, tuple[float, float]] = {"A4": (210.0, 297.0), "Letter": (215.9, 279.4)}
MARGIN_MM, OVERLAP_MM = 10.0, 10.0


@dataclass(frozen=True)
class Tiles:
    """Columns and rows of sheets, upright or across, and what each shows, mm."""

    columns: int
    rows: int
    wide: float
    high: float
    across: bool

    @property
    def count(self) -> int:
        """Sheets of paper."""
        return self.columns * self.rows


def tiles(wide: float, high: float, paper: Paper) -> Tiles:
    """The orientation with fewer sheets; upright where both take as many."""
    found = []
    for across in (False, True):
        page = SIZES_MM[paper][::-1] if across else SIZES_MM[paper]
        w, h = (p - 2 * MARGIN_MM for p in page)
        columns = max(math.ceil((wide - OVERLAP_MM) / (w - OVERLAP_MM) - 1e-9), 1)
        rows = max(math.ceil((high - OVERLAP_MM) / (h - OVERLAP_MM) - 1e-9), 1)
        found.append(Tiles(columns, rows, w, h, across))
    return min(found, key=lambda t: (t.count, t.across))


def as_pdf(t: Template, paper: Paper) -> bytes:
    """The drawing over as many sheets as it takes, true to scale.

    Raises
    ------
    OSError
        Where the machine lacks what sets pages (pango).
    """
    from weasyprint import HTML  # a second to load: only where something is printed

    x0, y0, x1, y1 = t.box()
    laid = tiles(x1 - x0 + 2, y1 - y0 + 2, paper)
    drawing = body_of(t)
    page = SIZES_MM[paper][::-1] if laid.across else SIZES_MM[paper]
    sheets = []
    for row in range(laid.rows):
        for column in range(laid.columns):
            x = column * (laid.wide - OVERLAP_MM) - 1
            y = row * (laid.high - OVERLAP_MM) - 1
            says = f"{t.part}: {t.name} - row {row + 1} of {laid.rows}, column {column + 1} of {laid.columns}"
            if row == column == 0:
                says += " - print at 100 %, measure both bars"
            sheets.append(
                f'<section><svg width="{laid.wide}mm" height="{laid.high}mm" '
                f'viewBox="{x:.3f} {y:.3f} {laid.wide} {laid.high}">{drawing}{_crosses(x, y, laid)}</svg>'
                f"<p>{escape(says)}</p></section>"
            )
    style = (
        f"@page {{ size: {page[0]}mm {page[1]}mm; margin: {MARGIN_MM}mm }} body {{ margin: 0 }} "
        "section { break-after: page; position: relative; height: 100% } section:last-child { break-after: auto } "
        "svg { display: block; overflow: hidden } p { position: absolute; left: 1mm; bottom: -6mm; margin: 0; "
        "font: 7pt sans-serif }"
    )
    head = f"<head><title>{escape(t.name)}</title><style>{style}</style></head>"
    html = f"<html>{head}<body>{''.join(sheets)}</body></html>"
    return cast("bytes", HTML(string=html).write_pdf())


def _crosses(x: float, y: float, laid: Tiles) -> str:
    """Crosses in the middle of every overlap, at the corners of what a sheet shows."""
    half = OVERLAP_MM / 2
    out = []
    for cx in (x + half, x + laid.wide - half):
        for cy in (y + half, y + laid.high - half):
            across = f"M{cx - 3:.2f},{cy:.2f} L{cx + 3:.2f},{cy:.2f}"
            out.append(
                f'<path d="{across} M{cx:.2f},{cy - 3:.2f} L{cx:.2f},{cy + 3:.2f}" stroke="#000" stroke-width="0.2"/>'
            )
    return "".join(out)
