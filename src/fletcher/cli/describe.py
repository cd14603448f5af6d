"""An estimate as text for the terminal."""

from __future__ import annotations

from fletcher.core.estimate.schema import CaseVerdict, Estimate, Source, Toughness, Working
from fletcher.core.materials.grades import SIGNS
from fletcher.core.materials.uncertainty import Band


def said(value: Band, digits: int, unit: str) -> str:
    """A band as text: typical (low to high)."""
    return f"{value.typ:.{digits}f} {unit} ({value.low:.{digits}f} to {value.high:.{digits}f})".replace("  ", " ")


def _tough(t: Toughness) -> str:
    """Toughness in one way of bending as a line."""
    first = "fold" if t.folds else f"break ({t.what})"
    parts = "" if t.parts_mJ is None else f", {said(t.parts_mJ, 0, 'mJ')} until it comes apart"
    return (
        f"  Toughness   {t.direction:<5}: {said(t.first_mJ, 0, 'mJ')} to the first {first}{parts}; bend radius "
        f"by then {said(t.radius_mm, 0, 'mm')}, {t.set_percent:.0f} % of the bend stays; {t.tear}"
    )


def _explained(working: Working) -> list[str]:
    """The working of a figure as lines."""
    out = [f"  Working: {working.title} ({working.formula_id})", f"    {working.formula}", f"    {working.explanation}"]
    out += [f"      {s.symbol:<12} {s.value:>12.5g} {s.unit:<6} {s.meaning}" for s in working.symbols]
    return [*out, *(f"      assumes: {text}" for text in working.assumptions)]


def _origins(sources: list[Source]) -> list[str]:
    """Where the values of the materials come from, as lines."""
    out = ["  Material values (low – typical – high):"]
    for s in sources:
        out += [f"    {s.material} (data quality {s.grade}): {'; '.join(s.values)}", f"      {s.basis}"]
    return out


def verdict_lines(v: CaseVerdict) -> list[str]:
    """The verdict of a case: its grade and headline, why, and what comes before."""
    out = [f"  {SIGNS[v.enough]} {v.enough:<9} {v.headline}"]
    if v.limited:
        out.append(f"  Margin      {said(v.margin, 2, '')}; breaks at {said(v.breaks_at, 2, '× this load')}")
        out.append(f"  Breaks      {v.break_mode.sentence}, {_where(v.break_mode.at_mm)}")
    if v.first_mode is not None:
        out.append(
            f"  Before      {v.first_mode.sentence} at {v.first_break.typ:.2g} ×, {_where(v.first_mode.at_mm)}; "
            f"the rest "
            f"carries up to {v.breaks_at.typ:.2g} ×"
        )
    for c in v.change_modes:
        costs = f"; {c.costs}" if c.costs else ""
        out.append(
            f"  Changes     {c.sentence} from {c.comes_at.typ:.2g} × ({c.comes_at.low:.2g}–{c.comes_at.high:.2g}), "
            f"{_where(c.at_mm)}; {c.consequence}{costs}"
        )
    return out


def _where(at_mm: float) -> str:
    return "at the root" if at_mm < 0.5 else f"{at_mm:.0f} mm from the root"


def describe(result: Estimate, name: str, explain: bool = False) -> str:
    """An estimate as text for the terminal, with the working of its figures if asked for."""
    out = [
        f"{name} · {result.says}",
        f"  Mass        {said(result.mass_g, 1, 'g')}, added mass {said(result.added_g, 1, 'g')}",
        f"  Deflection  {said(result.deflection_mm, 1, 'mm')}{', fore and aft' if result.reads == 'swing' else ''} at "
        f"{result.deflection_at_mm:.0f} mm",
        *(
            [f"  Twist       {said(result.twist_deg, 2, '°')} at the tip (nose up positive)"]
            if result.twist_deg
            else []
        ),
    ]
    out += verdict_lines(result.verdict)
    out.append(
        f"  CG          {said(result.balance_mm, 1, 'mm')} aft of the root leading edge (fuselage: of the front end)"
    )
    out.append(
        f"  Takes       cost {said(result.effort.cost, 1, '')}, {said(result.effort.hours, 1, 'h')} hands-on"
        f"{''.join(', ' + t.replace('_', ' ') for t in result.effort.tools)}"
    )
    for target in result.targets:
        low, high = ("open" if v is None else f"{v:g}" for v in (target.low, target.high))
        mark = f"{SIGNS[target.met]} {target.met}" + ("" if target.side is None else f", {target.side}")
        out.append(f"  Target      {target.figure} {low} to {high}: {mark}")
    if result.shakes:
        s = result.shakes
        out.append(
            f"  Frequency   natural: {said(s.flap_Hz, 1, 'Hz')} bending, {said(s.edge_Hz, 1, 'Hz')} fore and aft, "
            f"{said(s.twist_Hz, 1, 'Hz')} twist (root fixed)"
        )
        out.append(f"  Speed       {s.caution}")
        if s.divergence_at_load_m_s is not None:
            out.append(f"              at this load divergence at {said(s.divergence_at_load_m_s, 0, 'm/s')}")
    if result.control:
        c = result.control
        out.append(
            f"  Control     effective deflection {100 * c.arrives.typ:.0f} % ({100 * c.arrives.low:.0f}–"
            f"{100 * c.arrives.high:.0f} %), servo torque {said(c.servo_N_mm, 0, 'N·mm')}; best horn position "
            f"{c.best_horn_mm:.0f} mm"
        )
        if c.run is not None:
            r = c.run
            out.append(
                f"  Linkage     force {said(r.push_N, 1, 'N')}, buckles at {said(r.buckles_N, 1, 'N')}, leaves "
                f"{100 * r.left.typ:.0f} % of the throw; {r.supports} guides between its ends, bend radius at "
                f"least {r.bend_radius_mm:.0f} mm"
            )
            out += [f"    {text}" for text in r.says]
    out += [
        (
            f"  Cord        {c.face} edge: {100 * c.moment_share:.0f} % of the moment, tension "
            f"{said(c.pull_N, 1, 'N')}, needs {c.bond_mm:.0f} mm bonded"
        )
        for c in result.cords
    ]
    if len(result.verdicts) > 1:
        out.append("  All load cases (breaks at × the load, margin):")
        for v in result.verdicts:
            mark = "→" if v.case_id == result.governs else " "
            out.append(
                f"    {mark} {v.name:<30} {v.breaks_at.typ:6.2f} × {v.margin.typ:6.2f}  {SIGNS[v.enough]} "
                f"{v.enough:<9} "
                f"{v.sentence}"
            )
    for snap in result.snaps:
        out.append(f"  Snapped {snap.direction} by hand: {snap.sentence}")
    out += [_tough(t) for t in result.toughness]
    if result.warp is not None:
        w = result.warp
        out.append(
            f"  Built-in    bow {said(w.bow_mm, 1, 'mm')}, fore and aft {said(w.sweep_mm, 1, 'mm')}, twist "
            f"{said(w.twist_deg, 2, '°')} from the skins"
        )
        out += [f"    {text}" for text in w.cancels]
    out += [
        (
            f"  Dents       {d.face} face at {said(d.load_N, 0, 'N')} (bare foam {d.bare_N:.0f} N), skin mass "
            f"{d.grams:.1f} g"
        )
        for d in result.dents
    ]
    if result.deflection_mm.causes:
        out.append(f"  Deflection range comes mainly from: {', '.join(result.deflection_mm.causes)}")
    if result.breaks_at.causes:
        out.append(f"  Strength range comes mainly from: {', '.join(result.breaks_at.causes)}")
    out.append("  Lay-up, from the foam outwards:")
    out += [
        (
            f"    {line.label:<34}  {line.grams.typ:7.1f} g   bending {100 * line.bending_share:5.1f} %   twist "
            f"{100 * line.torsion_share:5.1f} %"
        )
        for line in result.lines
    ]
    out.append("  What happens as the load grows (times the load):")
    out += [
        f"    {f.comes_at.typ:6.2f} ×  {'breaks ' if f.breaks else 'changes'}  {f.sentence}, {_where(f.at_mm)}"
        for f in result.failures
    ]
    out += [f"  Note: {warning}" for warning in result.warnings]
    out.append("  Assumptions:")
    out += [f"    {line}" for line in result.assumptions]
    if explain:
        for working in result.workings:
            out += _explained(working)
        out += _origins(result.sources)
    return "\n".join(out)
