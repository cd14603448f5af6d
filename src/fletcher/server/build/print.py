"""The build sheet to print: steps by day with their checks and cards, the cut list, what to buy."""

from __future__ import annotations

from collections.abc import Iterable
from html import escape

from django.utils import timezone
from django.utils.html import format_html, format_html_join
from django.utils.safestring import SafeString, mark_safe

from fletcher.core.plan.cut_list import CutList, cut_list
from fletcher.core.plan.planning import plan
from fletcher.core.plan.schedule import Impossible
from fletcher.core.plan.schema import BuildStep, Plan, Planned, ShopWish
from fletcher.core.plan.sheet_cuts import SheetLaid
from fletcher.server.airframes.models import Airframe
from fletcher.server.build import services
from fletcher.server.build.using_up import shelf_wish
from fletcher.server.common.pdf import as_pdf
from fletcher.server.common.refusals import refusal

_DRAWN_MM = 110.0
"""Width of a drawn sheet on paper."""
_NO = SafeString("")


def build_pdf(airframe: Airframe, shop: ShopWish) -> bytes:
    """The build sheet of an airframe as it stands, in the hours of a shop, cut from what is on its builder's shelf."""
    document = airframe.document
    kept = services.kept(airframe)
    try:
        made = plan(document, shop, timezone.now(), kept.work)
    except Impossible as error:
        raise refusal("shop", str(error)) from None
    body = format_html(
        "<p><b>{}</b></p>{}{}<h2>Cut list</h2>{}",
        made.says,
        format_html_join("", '<p class="warn">{}</p>', ((r,) for r in made.remarks)),
        _steps(made),
        _cuts(cut_list(document, shelf_wish(airframe.owner, airframe))),
    )
    return as_pdf(f"{document.name}: build sheet", body)


def _steps(made: Plan) -> SafeString:
    by_key = {o.key: o for o in made.operations}
    told: set[str] = set()
    out, day = [_NO], ""
    for p in made.planned:
        if p.state == "done":
            continue
        this = f"{p.begins:%A} {p.begins.day} {p.begins:%b}"
        if this != day:
            out.append(format_html("<h2>{}</h2>", this))
            day = this
        out.append(_step(by_key[p.key], p, told))
    return format_html_join("", "{}", ((o,) for o in out))


def _step(o: BuildStep, p: Planned, told: set[str]) -> SafeString:
    fresh = [c for c in o.cautions if c.key not in told]
    sets = f"{p.sets:%a %d %b %H:%M}" if p.sets else ""
    told.update(c.key for c in fresh)
    glue = f"{o.glue[:1].upper()}{o.glue[1:]}"
    where = f" in the warm box, {o.box_C:g} °C," if o.box_C is not None else ""
    glued = format_html('<br><span class="soft">{}{} holds itself {}.</span>', glue, where, sets) if sets else _NO
    caution = '<p class="warn"><b>{}.</b> {} Protection: {}.</p>'
    warned = format_html_join("", caution, ((c.hazard, c.caution, c.protect) for c in fresh))
    minutes = round((p.ends - p.begins).total_seconds() / 60)
    return format_html(
        '<table><tr><td style="width:16mm"><b>{}</b><br><span class="soft">{} min</span></td><td>□ <b>{}</b> '
        '<span class="soft">{}</span>{}{}{}{}</td></tr></table>',
        f"{p.begins:%H:%M}", minutes, f"{o.title[:1].upper()}{o.title[1:]}", o.piece,
        format_html_join("", "<br>□ {}", ((g.says,) for g in o.gates)),
        format_html_join("", "{}", ((_card(c.title, [(li.name, li.value) for li in c.lines], c.do),) for c in o.cards)),
        glued,
        warned,
    )  # fmt: skip


def _card(title: str, lines: Iterable[tuple[str, str]], do: Iterable[str]) -> SafeString:
    return format_html(
        '<p style="margin:1mm 0 0 4mm"><b>{}:</b> {} <span class="soft">{}</span></p>',
        title, format_html_join("; ", "{} <b>{}</b>", lines), " ".join(do),
    )  # fmt: skip


def _cuts(made: CutList) -> SafeString:
    bars = (
        (b.name, b.buy, b.unit, "; ".join(
            f"{c.stock_mm:g}: " + " + ".join(f"{p.mm:g} {p.name}" for p in c.pieces) for c in b.cuts
        ))
        for b in made.bars
    )  # fmt: skip
    sheets = (
        (s.name, s.buy, s.unit, format_html_join("", "{}", ((_drawn(x),) for x in s.sheets))) for s in made.sheets
    )
    tapes = (
        (t.name, t.buy, t.unit, "; ".join(f"{p.long_mm:g} × {p.wide_mm:g} {p.name}" for p in t.strips))
        for t in made.tapes
    )
    row = "<p><b>{}</b>, buy {} × {}<br>{}</p>"
    return format_html(
        "{}{}{}{}<p>To buy: about {} ({} to {}), in units of about a euro.</p>",
        format_html_join("", '<p class="warn">{}</p>', ((r,) for r in made.remarks)),
        format_html_join("", row, bars), format_html_join("", row, sheets), format_html_join("", row, tapes),
        f"{made.cost.typ:.0f}", f"{made.cost.low:.0f}", f"{made.cost.high:.0f}",
    )  # fmt: skip


def _drawn(sheet: SheetLaid) -> SafeString:
    """A sheet to scale with its pieces numbered, and their names."""
    used = max(p.x_mm + p.long_mm for p in sheet.pieces)
    long = min(sheet.long_mm, max(1.15 * used, 1.2 * sheet.wide_mm))
    wide = _DRAWN_MM * min(1.0, long / max(sheet.wide_mm, 1.0))
    size = max(long, sheet.wide_mm) / 30
    rects = "".join(
        f'<rect x="{p.x_mm:.1f}" y="{p.y_mm:.1f}" width="{p.long_mm:.1f}" height="{p.wide_mm:.1f}" fill="none" '
        f'stroke="#000" stroke-width="{size / 10:.2f}"/><text x="{p.x_mm + p.long_mm / 2:.1f}" '
        f'y="{p.y_mm + p.wide_mm / 2 + size / 3:.1f}" font-size="{size:.1f}" text-anchor="middle">{n}</text>'
        for n, p in enumerate(sheet.pieces, 1)
    )
    drawing = (
        f'<svg width="{wide:.1f}mm" height="{wide * sheet.wide_mm / long:.1f}mm" '
        f'viewBox="0 0 {long:.1f} {sheet.wide_mm:.1f}">'
        f'<rect width="{long:.1f}" height="{sheet.wide_mm:.1f}" fill="none" '
        f'stroke="#000" stroke-width="{size / 8:.2f}"/>{rects}</svg>'
    )
    names = "".join(
        f"<li>{p.long_mm:g} × {p.wide_mm:g} {escape(p.name)}{' - ' + escape(p.note) if p.note else ''}</li>"
        for p in sheet.pieces
    )
    return mark_safe(f"<figure style='margin:1mm 0'>{drawing}<ol style='margin:0'>{names}</ol></figure>")
