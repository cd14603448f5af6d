"""The making of a part, what its openings cost, what holds it and its details, as text for the terminal."""

from __future__ import annotations

from fletcher.cli.describe import said
from fletcher.core.adhesion.retention import HeldIn
from fletcher.core.adhesion.selection import Gluing
from fletcher.core.joints.hinges import Hinging
from fletcher.core.layup.stackup import StackUp
from fletcher.core.making.drape import Surface
from fletcher.core.making.folding import Pattern
from fletcher.core.making.forming import FLAT_MM, Formed
from fletcher.core.making.making import Making, SheetForming
from fletcher.core.materials.grades import SIGNS
from fletcher.core.repair.inspection import Inspection, Left
from fletcher.core.studies.break_first import Corridor
from fletcher.core.studies.detail_wishes import DetailResult
from fletcher.core.studies.joint_sheet import JointSheet
from fletcher.core.studies.openings import Opening


def told_making(making: Making) -> str:
    """The making of a part."""
    out = _stack(making.stack)
    for formed in making.formed:
        out += _formed(formed)
    for sheet in making.sheets:
        out += _sheet(sheet)
    for surface in making.surfaces:
        out += _surface(surface)
    if making.pattern is not None:
        out += _pattern(making.pattern)
    for f in making.formers:
        out.append(f"  {f.count} × {f.name}: {f.length_mm:.1f} × {f.width_mm:.1f} mm, {f.says}")
        out += [f"    {line.says}" for line in f.lines]
    for i in making.irons:
        bond = "not at all" if i.bond_C is None else f"{i.bond_C[0]:g} to {i.bond_C[1]:g} °C"
        out.append(f"  Iron {i.skin} on {i.beneath}: {bond}, it stands {i.limit_C:g} °C. {i.says}")
    if making.hardening:
        out.append("  Harder surfaces, both faces:")
    out += [
        (
            f"    {h.name}: dents at {said(h.load_N, 0, 'N')}, {h.times:.2f} × today, +{h.grams:.1f} g (data "
            f"quality {h.grade})"
        )
        for h in making.hardening
    ]
    out += [f"  Caution: {c.hazard}. {c.caution} Protection: {c.protect}. {c.defer}" for c in making.cautions]
    return "\n".join(out)


def _stack(stack: StackUp) -> list[str]:
    out = ["  Stack-up, root and tip:"]
    out += [f"    {row.name:<44} {row.root_mm:8.2f} {row.tip_mm:8.2f} mm   {row.says}" for row in stack.rows]
    return [*out, f"    {stack.error_says}"]


def _formed(f: Formed) -> list[str]:
    if f.tightest_mm > FLAT_MM:
        return [f"  {f.sheet}, {f.face} face: {f.says}"]
    return [
        f"  {f.sheet}, {f.face} face: {f.says}",
        (
            f"    springs back to a radius of {f.springs_to_mm:.0f} mm; {100 * f.locked_share:.0f} % of its "
            f"bending limit stays locked in; edge glue carries {f.edge_N_per_mm:.2f} N per mm"
        ),
    ]


def _sheet(s: SheetForming) -> list[str]:
    out = [f"  {s.name}: smallest radius"]
    for w in s.states:
        warm = "" if w.warm_C is None else f" at {w.warm_C:.0f} °C"
        paper = f"paper on {w.paper}, " if w.paper in ("both", "one", "none") else ""
        out.append(
            f"    {paper}{w.formed}{warm}, {w.grain}: {said(w.radius_mm, 0, 'mm')}, keeps "
            f"{100 * w.keeps.typ:.0f} % (grade {w.grade})"
        )
    if s.curls_to_mm is not None:
        out.append(f"    with one paper off it curls to a radius of {said(s.curls_to_mm, 0, 'mm')} in dry air")
    return out


def _surface(s: Surface) -> list[str]:
    if s.kind != "double":
        across = "" if s.kind == "flat" else f", tightest radius {s.radius_mm:.0f} mm"
        kind = "flat" if s.kind == "flat" else "single curvature"
        return [f"  {s.face.capitalize()} face: {kind}{across}; any skin lies in one piece"]
    out = [f"  {s.face.capitalize()} face: double curvature, like a ball of radius {s.ball_mm:.0f} mm"]
    for d in s.drapes:
        mark = "→" if d.line_ids else " "
        gives = f"needs {d.asks_percent:.2f} % stretch, can do {min(d.gives_percent, 99):.2g} %"
        out.append(f"    {mark} {d.skin:<40} {gives}: {d.says}")
    return out


def _pattern(pattern: Pattern) -> list[str]:
    out = ["  Flat patterns:"]
    for piece in pattern.pieces:
        size = f"{piece.width_mm:.1f} × {piece.length_mm:.1f} mm"
        out.append(f"    {piece.count} × {piece.name}, {piece.sheet}: {size}; {piece.says}")
        for line in piece.lines:
            (x0, y0), (x1, y1) = line.points[0], line.points[-1]
            ends = f"from {x0:.1f}, {y0:.1f} to {x1:.1f}, {y1:.1f}"
            if line.kind == "cut":
                ends = f"round {len(line.points) - 1} corners from {x0:.1f}, {y0:.1f}"
            out.append(f"      {line.kind.replace('_', ' '):<9} {ends}: {line.says}")
    for name, ends_ in (("root", pattern.root), ("tip", pattern.tip)):
        if ends_ is not None:
            out.append(
                f"    {name}: nose radius {ends_.nose_radius_mm:.1f} mm over {ends_.turn_deg:.0f}°; flat "
                f"widths: lower {ends_.lower_mm:.1f}, nose {ends_.nose_mm:.1f}, upper {ends_.upper_mm:.1f}"
            )
    return [*out, f"    {pattern.alike}", *(f"    {note}" for note in pattern.notes)]


def told_openings(openings: list[Opening]) -> str:
    """What openings cost, and their patches."""
    if not openings:
        return "  No cut-outs."
    out = []
    for o in openings:
        long, wide, deep = o.size_mm
        out.append(f"  {o.name} ({long:.0f} × {wide:.0f} × {deep:.0f} mm): {o.says}")
        left = {"margin": o.left.margin, "bending": o.left.bend, "twist": o.left.twist}
        there = {"EI": o.left.local_EI, "GJ": o.left.local_GJ}
        out.append(f"    remaining: {_shares(left)}; at the cut-out: {_shares(there)}")
    return "\n".join(out)


def _shares(values: dict[str, float]) -> str:
    return ", ".join(f"{name} {100 * value:.0f} %" for name, value in values.items())


def told_corridor(corridor: Corridor) -> str:
    """What holds a part and lets go in time."""
    release = "open" if corridor.release_N is None else said(corridor.release_N, 0, "N")
    out = [
        f"  Must hold       {corridor.hold_N.typ:.0f} N: {corridor.hold_says}",
        f"  Must release by {release}: {corridor.release_says}",
        f"  {corridor.says}",
    ]
    return "\n".join(
        out
        + [
            (
                f"    {w.fits:<8} {w.count:2d} × {w.name:<30}: hold {said(w.holds_N, 0, 'N')}, release at "
                f"{said(w.lets_go_N, 0, 'N')}; {w.says}"
            )
            for w in corridor.ways
        ]
        + [f"    {text}" for text in corridor.buffers]
    )


def told_detail(d: DetailResult) -> str:
    """A detail against what is asked of it."""
    asked = d.asked_says if d.asked is None else f"{d.asked:.2f} {d.unit} asked by {d.asked_says}"
    out = [f"  {d.title}: {asked}"]
    if d.holds is not None:
        out.append(f"  Margin {said(d.holds, 2, '×')}: {d.enough}")
    out += [f"    {m.name:<40} {said(m.capacity, 2, d.unit)}" for m in d.modes]
    out += [f"    what helps: {text}" for text in d.helps]
    out.append(f"    {d.formula} ({d.source})")
    return "\n".join([*out, *(f"      {s.symbol:<8} {s.value:>10.4g} {s.unit:<5} {s.meaning}" for s in d.symbols)])


_MEETS = {"sure": "surely", "typical": "typically", "later": "later", "no": "not"}


def told_glue(gluing: Gluing) -> str:
    """Every adhesive for a joint, ranked; those that are ruled out with their reason."""
    out = [gluing.says]
    for n, c in enumerate(gluing.choices, 1):
        if c.vetoes:
            out.append(f"   - {c.name}: {'; '.join(c.vetoes)}")
            continue
        out.append(
            f"{n:4d} {c.name}, {c.technique_says}: {_MEETS[c.meets]}; then {said(c.then_N, 1, 'N')}, in the end "
            f"{said(c.finally_N, 1, 'N')}, for good {said(c.steady_N, 1, 'N')}, {c.fails}; {said(c.grams, 2, 'g')} "
            f"(grade {c.grade})"
        )
        out.append(f"     {c.why} {'; '.join(c.plan)}. {c.prepare}")
    return "\n".join(out)


def told_hinge(hinging: Hinging) -> str:
    """Every method of hinging a surface, ranked; those that are ruled out with their reason."""
    t = hinging.throw
    up, down = ("free" if v is None else f"{v:.0f}°" for v in (t.up_deg, t.down_deg))
    out = [f"{hinging.says}", f"Throw: up {up}, down {down}; hinge load {hinging.pull_N:.1f} N"]
    for n, c in enumerate(hinging.choices, 1):
        if c.vetoes:
            out.append(f"   - {c.name}: {'; '.join(c.vetoes)}")
            continue
        many = "" if c.count is None else f", {c.count} needed"
        out.append(
            f"{n:4d} {c.name}{many}: return torque {said(c.back_N_mm, 1, 'N·mm')}, uses "
            f"{100 * c.servo_share.typ:.0f} % of servo torque, tears out at {said(c.margin, 0, '×')} × hinge "
            f"load; {said(c.grams, 1, 'g')}, {said(c.minutes, 0, 'min')} (data quality {c.grade})"
        )
        left = "" if c.sun_left.typ > 0.995 else f", leaves {100 * c.sun_left.typ:.0f} %"
        out.append(f"     {c.why}; the pull {c.gives} it first. {c.bevel}. Sun: {c.sun}{left}")
        for a in c.cloth:
            out.append(
                f"     cloth at {a.deg:g}°: bends back {said(a.back_N_mm, 1, 'N·mm')}, pulls apart at "
                f"{said(a.pulls_N, 0, 'N')}, shears along at {said(a.shears_N, 0, 'N')}"
            )
    return "\n".join(out)


def told_joints(sheets: list[JointSheet]) -> str:
    """Every joint and hinge of a part."""
    if not sheets:
        return "  No joints or hinges in the lay-up."
    out: list[str] = []
    for s in sheets:
        out.append(f"  {s.title} ({s.line_id}), {s.at_mm:.0f} mm from the root, {said(s.grams, 2, 'g')}")
        if s.holds is None:
            out.append("    no load in any load case")
            continue
        mark = "" if s.enough == "unasked" else f"{SIGNS[s.enough]} {s.enough}"
        out.append(f"    breaks at {said(s.holds, 2, '×')} “{s.case_name}”, needs {s.asked:g}: {mark}")
        for w in s.ways:
            out.append(
                f"      {w.holds.typ:8.2f} ×  {w.says} ({w.gives}): needs {w.asked.typ:.4g} {w.unit}, "
                f"strength {w.bears.typ:.4g} ({w.bears.low:.4g}–{w.bears.high:.4g})"
            )
        if s.effective_mm is not None:
            out.append(f"    load transfer length {s.effective_mm:.0f} mm")
        if s.over_time:
            held = ", ".join(f"{t.minutes:g} min {t.holds.typ:.2f} ×" for t in s.over_time)
            out.append(f"    after closing: {held}")
        out += [f"    what helps: {h.says}: breaks at {h.holds:.2f} × ({h.more_g:+.2f} g)" for h in s.helps]
        out += [f"    {note}" for note in s.notes]
        out += [f"    Caution: {c.hazard}. {c.caution} Protection: {c.protect}. {c.defer}" for c in s.cautions]
    return "\n".join(out)


def told_hold(found: HeldIn) -> str:
    """Every way of holding something in."""
    out = [f"  {found.says}", f"    off its tray: {found.off_says}"]
    for c in found.choices:
        mark = {"sure": "surely", "typical": "typically", "no": "not"}[c.enough]
        out.append(
            f"    {c.name:<52} {mark:<9} off its tray {said(c.off_g, 1, '× gravity')}, forward "
            f"{said(c.along_g, 1, '× gravity')}; {c.gives} ({c.grams:.1f} g, data quality {c.grade})"
        )
    return "\n".join([*out, *(f"  Caution: {c.hazard}. {c.caution} {c.defer}" for c in found.cautions)])


def told_inspection(found: Inspection) -> str:
    """Where to look after a crash."""
    out = [f"  Load case used: {found.stands_for}"] if found.stands_for else []
    for look in found.looks:
        out.append(f"    loaded to {look.asked.typ:5.2f} × its strength  {look.says}")
        out.append(f"            {look.how}")
    out += [f"    also check: {text}" for text in found.checks]
    return "\n".join([*out, *(f"  Caution: {c.hazard}. {c.caution} {c.defer}" for c in found.cautions)])


def told_left(left: Left) -> str:
    """What damage leaves of a part."""
    out = [
        f"  {left.says}",
        f"    bending stiffness left {said(left.bend_percent, 0, '%')}, mass lost {left.lost_g.typ:.1f} g",
    ]
    if left.twist_percent is not None:
        out.append(f"    twist stiffness left {said(left.twist_percent, 0, '%')}")
    for c in left.cases:
        out.append(
            f"    {c.name:<30} {said(c.left, 2, '×')}, undamaged {c.whole.typ:.2f} ×, needs {c.asked:g}: {c.enough}   "
            f"{c.says}"
        )
    out += [f"    {text}" for text in left.measured]
    return "\n".join([*out, *(f"  Caution: {c.hazard}. {c.caution} {c.defer}" for c in left.cautions)])
