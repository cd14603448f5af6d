"""A template as SVG whose unit is a millimetre."""

from __future__ import annotations

from html import escape

from fletcher.core.templates.sheets import Template

_STYLE = {
    "CUT": 'stroke="#000" stroke-width="0.35"', "SCORE": 'stroke="#000" stroke-width="0.25" stroke-dasharray="4 1.5"',
    "MARK": 'stroke="#000" stroke-width="0.18"',
}  # fmt: skip
EDGE_MM = 5.0


def body_of(t: Template) -> str:
    """Its strokes as SVG elements, y down, millimetres, the lower left corner of its box at (0, height)."""
    x0, _, _, y1 = t.box()
    out = []
    for s in t.strokes:
        points = [(x - x0, y1 - y) for x, y in s.points]
        if s.text:
            x, y = points[0]
            out.append(
                f'<text class="TEXT" x="{x:.2f}" y="{y:.2f}" font-size="{s.size_mm:g}" '
                f'font-family="sans-serif">{escape(s.text)}</text>'
            )
            continue
        path = "M" + " L".join(f"{x:.3f},{y:.3f}" for x, y in points) + (" Z" if s.closed else "")
        out.append(f'<path class="{s.sort}" d="{path}" fill="none" {_STYLE[s.sort]}/>')
    return "\n".join(out)


def as_svg(t: Template) -> str:
    """The drawing as an SVG file, true to scale where a millimetre is a millimetre."""
    x0, y0, x1, y1 = t.box()
    wide, high = x1 - x0 + 2 * EDGE_MM, y1 - y0 + 2 * EDGE_MM
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:.3f}mm" height="{high:.3f}mm" '
        f'viewBox="{-EDGE_MM:g} {-EDGE_MM:g} {wide:.3f} {high:.3f}">\n<title>{escape(t.name)}</title>\n'
        f"{body_of(t)}\n</svg>\n"
    )
