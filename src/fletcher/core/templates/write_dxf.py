"""A template as DXF in millimetres: closed lines to cut, lines to score and to mark, words, each on its layer."""

from __future__ import annotations

import io

from ezdxf import units
from ezdxf.filemanagement import new

from fletcher.core.templates.sheets import Template

_COLOURS = {"CUT": 1, "SCORE": 5, "MARK": 8, "TEXT": 7}


def as_dxf(t: Template) -> str:
    """The drawing as text of a DXF R2010 file."""
    document = new("R2010")
    document.units = units.MM
    for name, colour in _COLOURS.items():
        document.layers.add(name, color=colour)
    space = document.modelspace()
    for s in t.strokes:
        if s.text:
            space.add_text(s.text, height=s.size_mm, dxfattribs={"layer": "TEXT", "insert": s.points[0]})
        else:
            space.add_lwpolyline(s.points, close=s.closed, dxfattribs={"layer": s.sort})
    out = io.StringIO()
    document.write(out)
    return out.getvalue()
