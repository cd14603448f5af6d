"""Repairs, slips and toughening as text for the terminal."""

from __future__ import annotations

from fletcher.cli.describe import said
from fletcher.core.repair.build_mistakes import SlipAnswer
from fletcher.core.repair.schema import Mending, MendOption
from fletcher.core.repair.toughen import Toughening


def _option(o: MendOption) -> list[str]:
    out = [f"  {', '.join(o.kinds) or 'repair'}: {o.says}"]
    out += [f"      {f.says}" for f in o.fixes]
    out += [
        f"    strength {said(o.strength_percent, 0, '%')} of undamaged, at launch {said(o.launch_percent, 0, '%')}",
        f"    bending stiffness {said(o.bend_percent, 0, '%')}"
        + (f", twist stiffness {said(o.twist_percent, 0, '%')}" if o.twist_percent else ""),
        (
            f"    added mass {said(o.more_g, 1, 'g')} (balance with {o.rolls_g.typ:.1f} g at the other tip), CG "
            f"shift {o.balance_mm:+.2f} mm"
        ),
        (
            f"    hands-on {said(o.minutes, 0, 'min')}, ready to fly after {said(o.fly_min, 0, 'min')}; cost "
            f"{o.cost.typ + o.packs:.1f}; finish {o.looks}/5, skill {o.skill}/5"
        ),
    ]
    for c in o.cases:
        out.append(
            f"      {c.name:<30} {said(c.then, 2, '×')}, undamaged {c.whole.typ:.2f} ×, needs {c.asked:g}: {c.enough}"
        )
    lacking = [n.name for n in o.needs if n.at_hand is False]
    out.append("    needs " + "; ".join(n.name for n in o.needs))
    if lacking:
        out.append("    not in your field box: " + "; ".join(lacking))
    out += [f"    left as it is: {text}" for text in o.left]
    out += [f"    do not fly after it: {o.grounded}"] if o.grounded else []
    out.append(f"    {o.weak_says}")
    out += [f"    {text}" for text in o.steps_at]
    out.append(f"    {o.worth}")
    return out


def told_mending(m: Mending) -> str:
    """The handful of repairs, the work of the first, and what they are measured against."""
    out = [f"  {m.says}", f"  {m.considered} repairs considered, {m.beaten} more computed that another beats"]
    for o in m.options:
        out += ["", *_option(o)]
    for s in m.staged:
        out += ["", f"  first {s.first}", f"    later {s.then}", f"    {s.says}"]
    r = m.rebuild
    out += ["", f"  new part: {said(r.hours, 1, 'h')} hands-on, cost {r.cost.typ:.1f}, {r.grams.typ:.1f} g"]
    for p in m.pieces:
        long, wide, deep = p.size_mm
        donors = "; from " + ", ".join(p.donors) if p.donors else ""
        out.append(f"    missing: {long:.0f} × {wide:.0f} × {deep:.0f} mm of {p.foam}, {p.grams.typ:.1f} g{donors}")
    for g in m.gauges:
        out.append(f"    template at {g.at_mm:.0f} mm: chord {g.chord_mm:.1f}, thickness {g.thickness_mm:.1f} mm")
    out += ["", f"  Steps of the first repair ({m.options[0].says}):"]
    for n, op in enumerate(m.options[0].operations, 1):
        wait = f", then wait {said(op.wait_min, 0, 'min')}: {op.wait_for}" if op.wait_min else ""
        out.append(f"  {n:>2}  {op.starts_min:.0f} min: {op.title} ({said(op.minutes, 0, 'min')}{wait})")
        out.append(f"      {op.how}")
        out += [f"      also check: {text}" for text in op.checks]
        out += [f"      do not: {text}" for text in op.never]
        out += [f"      Caution: {c.hazard}. {c.caution} Protection: {c.protect}. {c.defer}" for c in op.cautions]
    return "\n".join([*out, *(f"  Caution: {c.hazard}. {c.caution} {c.defer}" for c in m.cautions)])


def told_slip(a: SlipAnswer) -> str:
    """What a slip costs, and its remedies."""
    out = [f"  {a.title}. {a.says}", f"    {a.left.says}"]
    for r in a.remedies:
        out.append(
            f"    {r.says}: {said(r.strength_percent, 0, '%')} of its strength, +{said(r.more_g, 2, 'g')}, "
            f"{said(r.minutes, 0, 'min')} hands-on"
        )
    out += [f"    do not: {text}" for text in a.never]
    return "\n".join([*out, f"    also check: {a.check}"])


def _cut(t: Toughening) -> str:
    if t.depth_mm is None or t.depth_before_mm is None:
        return ""
    return f", cut {t.depth_mm.typ:.0f} mm deep in place of {t.depth_before_mm.typ:.0f} mm"


def told_toughenings(found: list[Toughening]) -> str:
    """Changes that let a part take more of a crash."""
    if not found:
        return "  nothing tried makes it tougher in this crash"
    return "\n".join(
        f"  {t.says}: breaks at {said(t.holds, 2, '×')} in place of {t.before.typ:.2f} ×{_cut(t)}, "
        f"{said(t.more_g, 1, 'g')} more"
        for t in found
    )
