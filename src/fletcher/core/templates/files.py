"""All templates of an airframe as files: each as DXF, SVG and PDF under its own name."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Iterable, Iterator
from datetime import date

from fletcher.core.document.airframe import Airframe
from fletcher.core.templates.drawn import templates_of
from fletcher.core.templates.sheets import Template, framed
from fletcher.core.templates.write_dxf import as_dxf
from fletcher.core.templates.write_pdf import Paper, as_pdf
from fletcher.core.templates.write_svg import as_svg


def files_of(
    airframe: Airframe, kerf_mm: float, paper: Paper, day: date, pdf: bool = True
) -> Iterator[tuple[str, bytes]]:
    """Files by name, one template after another; without `pdf` only drawings."""
    made = f"Document version {airframe.version}, {day.isoformat()}."
    return files_from(templates_of(airframe, kerf_mm), made, paper, pdf)


def files_from(
    templates: Iterable[Template], made: str, paper: Paper, pdf: bool = True
) -> Iterator[tuple[str, bytes]]:  # fmt: skip
    """Files of templates by name; `made` says what they were made from."""
    for t in templates:
        sheet = framed(t, made)
        yield f"{t.key}.dxf", as_dxf(sheet).encode()
        yield f"{t.key}.svg", as_svg(sheet).encode()
        if pdf:
            yield f"{t.key}.pdf", as_pdf(sheet, paper)


def zipped(files: Iterable[tuple[str, bytes]]) -> bytes:
    """Files in one ZIP."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as target:
        for name, data in files:
            target.writestr(name, data)
    return out.getvalue()
