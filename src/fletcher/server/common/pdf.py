"""Pages to print: HTML of one's own as PDF, with the application's typeface and nothing from elsewhere."""

from __future__ import annotations

import base64
from functools import cache
from pathlib import Path
from typing import cast

from django.conf import settings
from django.utils.html import format_html
from django.utils.safestring import SafeString

from fletcher.server.common.refusals import refusal

_FACES = {400: "ibm-plex-sans-latin-400-normal-", 600: "ibm-plex-sans-latin-600-normal-"}
_STYLE = """
@page { size: A4; margin: 16mm 14mm 18mm;
        @bottom-left { content: string(title); font: 8pt Plex, "DejaVu Sans", sans-serif }
        @bottom-right { content: counter(page) " / " counter(pages); font: 8pt Plex, "DejaVu Sans", sans-serif } }
body { font: 9.5pt/1.35 Plex, "DejaVu Sans", sans-serif; color: #1a1a17; margin: 0 }
h1 { font-size: 17pt; margin: 0 0 2mm; string-set: title content() }
h2 { font-size: 12pt; margin: 6mm 0 1.5mm; border-bottom: 0.4mm solid #1a1a17; break-after: avoid }
table { border-collapse: collapse; width: 100% } th { text-align: left; font-weight: 600 }
td, th { vertical-align: top; padding: 1mm 2.5mm 1mm 0; border-bottom: 0.15mm solid #b9b2a0 }
tr, figure { break-inside: avoid } thead { display: table-header-group }
.num { text-align: right; white-space: nowrap } .soft { color: #57544b } .warn { border-left: 1mm solid #a8321a;
padding-left: 2mm; margin: 1.5mm 0 } del { color: #57544b } img { max-height: 34mm; margin: 1mm 2mm 1mm 0 }
svg { max-width: 100% }
"""


@cache
def _style() -> str:
    """The style with the typeface of the page as it was built; where it was not built, the machine's own."""
    faces = [
        f"@font-face {{ font-family: Plex; font-weight: {weight}; "
        f'src: url("data:font/woff2;base64,{base64.b64encode(path.read_bytes()).decode()}") }}\n'
        for weight, start in _FACES.items()
        for path in Path(settings.FRONTEND_DIST).glob(f"assets/{start}*.woff2")
    ]
    return "".join(faces) + _STYLE


def as_pdf(title: str, body: SafeString) -> bytes:
    """A page with its title as PDF, A4. It loads what it brings itself and nothing else.

    Raises
    ------
    InvalidDocument
        Where the machine lacks what sets pages.
    """
    try:
        from weasyprint import CSS, HTML  # a second to load: only where something is printed
        from weasyprint.text.fonts import FontConfiguration
        from weasyprint.urls import URLFetcher
    except OSError as error:
        message = "cannot be printed here: the server lacks Debian's libpango-1.0-0 and libpangoft2-1.0-0"
        raise refusal("", message) from error
    own, fonts = URLFetcher(allowed_protocols=("data",)), FontConfiguration()
    page = format_html('<html lang="en"><title>{}</title><body><h1>{}</h1>{}</body></html>', title, title, body)
    style = CSS(string=_style(), url_fetcher=own, font_config=fonts)
    made = HTML(string=page, base_url="data:", url_fetcher=own)
    return cast("bytes", made.write_pdf(stylesheets=[style], font_config=fonts))
