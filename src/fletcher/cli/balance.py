"""The balance of an airframe as text for the terminal."""

from __future__ import annotations

from fletcher.core.balance.schema import BalanceSheet
from fletcher.core.materials.grades import SIGNS
from fletcher.core.studies.lighter_parts import LighterWay


def told_balance(s: BalanceSheet) -> str:
    """Verdict, ledger by group, neutral point, range, plan."""
    sign = f"{SIGNS[s.grade]} {s.grade}: " if s.grade else ""
    out = [f"{sign}{s.says}", *(f"  {r}" for r in s.remarks)]
    out.append(
        f"  Mass           {s.mass_g.typ:.0f} g ({s.mass_g.low:.0f}–{s.mass_g.high:.0f}); all-up mass entered: "
        f"{s.all_up_typed_g:.0f} g"
    )
    out += [f"    {g.group:<12} {g.grams.typ:8.1f} g ({g.grams.low:.1f}–{g.grams.high:.1f})" for g in s.groups]
    out.append(f"  Centre         {s.centre_mm.typ:.1f} mm aft ({s.centre_mm.low:.1f}–{s.centre_mm.high:.1f}), "
               f"{s.sideways.off_mm:+.1f} mm sideways, {s.height_mm:+.1f} mm up")  # fmt: skip
    if s.neutral is not None:
        n = s.neutral
        out.append(f"  Neutral point  {n.x_mm.typ:.1f} mm ({n.x_mm.low:.1f}–{n.x_mm.high:.1f}), mean chord "
                   f"{n.mean_chord_mm:.1f} mm; spread by {' and '.join(n.x_mm.causes)}")  # fmt: skip
    if s.margin is not None:
        m = s.margin
        out.append(f"  Static margin  {m.percent.typ:.1f} % ({m.percent.low:.1f}–{m.percent.high:.1f}), wanted "
                   f"{m.least_percent:g} to {m.most_percent:g} %: {m.front_mm:.0f} to {m.rear_mm:.0f} mm")  # fmt: skip
    if s.stall_m_s is not None and s.loading_g_dm2 is not None:
        stall = s.stall_m_s
        out.append(f"  Wing loading   {s.loading_g_dm2:.1f} g/dm², stalls at {stall.typ:.1f} m/s "
                   f"({stall.low:.1f}–{stall.high:.1f})")  # fmt: skip
    out.append(f"  Sideways       {s.sideways.says}")
    roll, pitch, yaw = (1000 * v for v in (s.inertia.roll_kg_m2, s.inertia.pitch_kg_m2, s.inertia.yaw_kg_m2))
    out.append(f"  Inertia        roll {roll:.2f}, pitch {pitch:.2f}, yaw {yaw:.2f} g·m²")
    if s.thrust is not None:
        out.append(f"  Thrust line    {s.thrust.says}")
    out += [f"  {SIGNS[t.grade]} {t.name}: {t.band.typ:.3g} {t.unit} ({t.band.low:.3g}–{t.band.high:.3g}), {t.says}"
            for t in s.targets]  # fmt: skip
    if s.weighed.weighings:
        out.append(f"  Weighed        {s.weighed.says}")
    out += [f"  {n}. {step.says}: then at {step.centre_mm:.1f} mm" for n, step in enumerate(s.plan, 1)]
    if s.bay is not None:
        out.append(f"  {s.bay.says}")
    return "\n".join(out)


def told_lighter(ways: list[LighterWay]) -> str:
    """What could be lighter, a line each with what it loses."""
    rows = [(SIGNS["sure" if w.enough else "no"], w) for w in ways]
    return (
        "\n".join(f"  {sign} {w.says}: {w.grams:.1f} g, then at {w.centre_mm:.1f} mm; {w.loses}" for sign, w in rows)
        or "  Nothing of the structure could be lighter and help."
    )
