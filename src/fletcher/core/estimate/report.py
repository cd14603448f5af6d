"""The report of an estimate: from arrays to the typed results that command line, API and page share."""

from __future__ import annotations

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.document import cases
from fletcher.core.document.airframe import Airframe
from fletcher.core.document.cases import Case
from fletcher.core.estimate import phrasing
from fletcher.core.estimate.analyse import Analysis, under, under_all
from fletcher.core.estimate.assumptions import assumptions_of
from fletcher.core.estimate.balance import centre_of_mass
from fletcher.core.estimate.dents import dents_of
from fletcher.core.estimate.derivations import derivations
from fletcher.core.estimate.effort import effort_of
from fletcher.core.estimate.failures import failures_of
from fletcher.core.estimate.kept import kept, known
from fletcher.core.estimate.prepare import prepared_for
from fletcher.core.estimate.residual_bow import warp_of
from fletcher.core.estimate.schema import (
    CaseVerdict,
    ControlResult,
    CordResult,
    Curves,
    EffortResult,
    Estimate,
    LineResult,
    Measure,
    ModeCurve,
    Shakes,
    SnapResult,
    SwayResult,
    Toughness,
)
from fletcher.core.estimate.shares import bending_shares, strength_shares, torsion_shares
from fletcher.core.estimate.sources import sources_of
from fletcher.core.estimate.stock_length import too_long
from fletcher.core.estimate.targets import targets_of
from fletcher.core.estimate.toughness import toughness_of
from fletcher.core.estimate.verdicts import lowest, told_events, verdict_of
from fletcher.core.materials.uncertainty import Band, Inputs, band, limits
from fletcher.core.section.properties import principal_angle
from fletcher.core.section.setting import setting_warnings
from fletcher.core.section.snap import snap
from fletcher.core.strength.modes import Mode, at_stations
from fletcher.core.structure import loads
from fletcher.core.structure.control_linkage import run_result
from fletcher.core.structure.cords import draw_cord, pulled_edge

_QUIET = 0.01
"""Below this share of the largest moment the case asks for next to nothing and no capacity is drawn."""
_CURVES = 8
"""So many ways to fail are drawn along the part."""


def estimate(airframe: Airframe, part_id: str, case_id: str | None = None, brief: bool = False) -> Estimate:
    """Estimate one part of a checked document in one of its cases (its first if none is named), with the verdict of
    all its cases. A brief one leaves out what the part does when it is snapped by hand.

    Raises
    ------
    KeyError
        If the airframe has no such part, or the part no such case.
    """
    part = airframe.part(part_id)
    if part is None:
        raise KeyError(f"no part with id {part_id!r}")
    case = part.cases[0] if case_id is None else next((c for c in part.cases if c.id == case_id), None)
    if case is None:
        raise KeyError(f"part {part_id!r} has no load case with id {case_id!r}")
    prepared, mass = prepared_for(part, airframe.setting), airframe.all_up_mass_g
    others = [c for c in part.cases if c != case and not known(prepared, ("verdict", c, mass))]
    analyses = {a.case: a for a in under_all(prepared, airframe, part, [case, *others])}

    def verdict(c: Case) -> CaseVerdict:
        def found() -> CaseVerdict:
            return verdict_of(analyses[c] if c in analyses else under(prepared, airframe, part, c))

        return kept(prepared, ("verdict", c, mass), found)

    return _report(analyses[case], [verdict(c) for c in part.cases], airframe, brief)


def _snaps(a: Analysis) -> tuple[list[SnapResult], list[Toughness]]:
    """Both ways of bending at the place where the case asks for most; a hollow part is not told in these words."""
    if a.prepared.elements.hollow:
        return [], []
    k = int(np.argmax(np.abs(a.asked[0])))
    p = a.prepared
    both = kept(p, ("snap", k), lambda: snap(p.elements, p.draws, p.geometry, k))
    moment = float(a.loading.moment[0, k])
    way = "up" if moment > 0 else "down"
    told = [
        SnapResult(
            direction=s.direction,
            manner=s.manner,
            sentence=phrasing.snap_sentence(s.manner, s.hangs_together),
            first_break_N_mm=s.first_break_N_mm,
            hangs_together=s.hangs_together,
            reserve=s.direction == way
            and s.manner == "cracks, but holds together"
            and s.hangs_together * s.first_break_N_mm >= abs(moment) > 0,
        )
        for s in both
    ]
    return told, toughness_of(a, k, both)


def _lines(a: Analysis, first: Mode, inputs: Inputs) -> list[LineResult]:
    grams, shares = a.prepared.grams, bending_shares(a)
    twists, carries = torsion_shares(a), strength_shares(a, first)
    layers, factor = a.prepared.elements.part.layers, a.case.safety_factor
    out = []
    base = () if a.prepared.elements.hollow and a.prepared.elements.ribs is None else (len(layers),)
    for n in (*base, *range(len(layers))):
        line = None if n == len(layers) else n
        used = [m.use[0] for m in a.modes if m.line == line and m.breaks]
        most = a.judged.use[0]
        use = np.minimum(np.max(used, axis=0), most) * factor if used else np.zeros(len(a.prepared.geometry.y))
        out.append(
            LineResult(
                id=("ribs" if a.prepared.elements.hollow else "foam") if line is None else layers[line].id,
                label=phrasing.line_label(a.prepared.elements, line),
                grams=band(grams[n], inputs),
                bending_share=float(shares[n]),
                torsion_share=float(twists[n]),
                strength_share=float(carries[n]),
                use=_numbers(use, 4),
            )
        )
    return out


def _numbers(values: Array, digits: int = 6) -> list[float]:
    """Values rounded to significant digits, for compact JSON."""
    with np.errstate(divide="ignore"):
        scale = 10.0 ** (digits - 1 - np.floor(np.log10(np.abs(values))))
    scale = np.where(np.isfinite(scale) & (scale > 0), scale, 1.0)  # 0 and what is infinite stay as they are
    rounded: list[float] = (np.round(values * scale) / scale).tolist()
    return rounded


def _curves(a: Analysis, factor: float) -> Curves:
    moment = a.asked
    use = a.judged.use
    loud = np.abs(moment[0]) > _QUIET * np.max(np.abs(moment[0]))
    capacity = np.abs(moment) * a.judged.bends
    low, high = limits(capacity[1:] if len(capacity) > 1 else capacity)

    def seen(values: Array) -> list[float | None]:
        return [v if shown else None for v, shown in zip(_numbers(values, 5), loud, strict=True)]

    down, up = limits(a.deflection[1:] if len(capacity) > 1 else a.deflection)
    return Curves(
        y_mm=_numbers(a.prepared.geometry.y, 8),
        moment_N_mm=_numbers(moment[0]),
        shear_N=_numbers(at_stations(a.prepared.mesh, np.abs(a.response.slope[0]))),
        torque_N_mm=_numbers(a.loading.torque[0]),
        capacity_N_mm=seen(capacity[0]),
        capacity_low_N_mm=seen(low),
        capacity_high_N_mm=seen(high),
        deflection_mm=_numbers(a.deflection[0]),
        deflection_low_mm=_numbers(down),
        deflection_high_mm=_numbers(up),
        use=_numbers(use[0] * factor, 4),
        EI_N_mm2=_numbers(a.prepared.sums.whole_EI[0]),
        edge_EI_N_mm2=_numbers(a.prepared.sums.edge_EI[0]),
        cross_EI_N_mm2=_numbers(a.prepared.sums.cross_EI[0]),
        principal_deg=_numbers(np.degrees(principal_angle(a.prepared.sums))[0], 4),
        GA_s_N=_numbers(a.prepared.GA_s),
        EA_N=_numbers(a.prepared.sums.whole_EA[0]),
        centroid_z_mm=_numbers(a.prepared.sums.whole_z[0]),
        GJ_N_mm2=_numbers(a.prepared.fields.torsion[0]),
        shear_centre_mm=_numbers(a.prepared.fields.shear_centre[0]),
        twist_deg=_numbers(np.degrees(a.twist[0])),
    )


def _mode_curves(a: Analysis, told: list[Mode]) -> list[ModeCurve]:
    layers = a.prepared.elements.part.layers
    return [
        ModeCurve(
            label=phrasing.failure_sentence(m, a.prepared.elements),
            kind=m.kind,
            line_id=None if m.line is None else layers[m.line].id,
            breaks=m.breaks,
            use=_numbers(m.use[0] * a.case.safety_factor, 4),
        )
        for m in told[:_CURVES]
    ]


def read_at(a: Analysis) -> int:
    """The station whose bend is read: the middle between supports, the place of a hung weight, else the tip."""
    y, case = a.prepared.geometry.y, a.case
    if a.loading.supports is not None:
        return int(np.argmin(np.abs(y - 0.5 * sum(a.loading.supports))))
    if isinstance(case, cases.TipWeightCase | cases.HandlingCase):
        return int(np.argmin(np.abs(y - loads.place_of(case, a.part))))
    if a.loading.bend is not None:
        return int(np.argmax(np.abs(a.deflection[0])))
    return len(y) - 1


def twist_at(a: Analysis) -> int:
    """The station whose twist is read: the tip, or where a surface twists most away from its horn."""
    return len(a.prepared.geometry.y) - 1 if a.loading.twist is None else int(np.argmax(np.abs(a.twist[0])))


def _speed(values: Array, inputs: Inputs) -> Band | None:
    """The band of a speed that some samples do not have: none if the typical one has none."""
    finite = np.isfinite(values)
    if not finite[0] or finite.mean() <= 0.5:
        return None
    return band(np.where(finite, values, float(values[finite].max())), inputs)


def _control(a: Analysis, inputs: Inputs) -> ControlResult | None:
    load = a.loading
    if load.arrives is None or load.servo is None or load.horn_mm is None or load.best_horn_mm is None:
        return None
    return ControlResult(
        arrives=band(load.arrives, inputs),
        servo_N_mm=band(load.servo, inputs),
        horn_mm=load.horn_mm,
        best_horn_mm=load.best_horn_mm,
        hinges_mm=load.hinges_mm,
        run=None
        if load.run is None or load.run_left is None
        else run_result(load.run, load.servo, load.run_left, inputs),
    )


def _cords(a: Analysis, inputs: Inputs) -> list[CordResult]:
    """What every cord on the pulled side does where this case bends the part edgewise the most."""
    if not np.any(a.loading.edge):
        return []
    p, out = a.prepared, []
    k = int(np.argmax(np.abs(a.loading.edge[0])))
    rear_pulled = float(a.loading.edge[0].sum()) > 0
    stiff = pulled_edge(p.elements, p.geometry, p.sums, a.loading.edge)
    kappa = a.loading.edge[:, k] / stiff.EI[:, k]
    for cord in p.elements.cords:
        if (cord.face == "rear") != rear_pulled or not cord.start <= p.geometry.y[k] <= cord.end:
            continue
        arm = (float(p.geometry.chord[k]) if cord.face == "rear" else 0.0) - stiff.x[:, k]
        pull = draw_cord(cord.stock).EA * kappa * arm
        out.append(
            CordResult(
                line_id=a.part.layers[cord.line].id,
                face=cord.face,
                moment_share=float(pull[0] * arm[0] / a.loading.edge[0, k]),
                pull_N=band(pull, inputs),
                bond_mm=float(pull[0] / cord.stock.grips_mm / p.draws.foam.shear[0]),
            )
        )
    return out


_AT_LOAD = 0.99
"""A speed of divergence at the load is told from so much of the one without on."""


def _shakes(a: Analysis, inputs: Inputs, airframe: Airframe) -> Shakes:
    """Frequencies and speeds as cautions."""
    p = a.prepared
    divergence = _speed(p.shaking.divergence, inputs)
    loaded = _speed(a.divergence, inputs) if hasattr(a.case, "speed_m_s") else None
    if loaded is not None and divergence is not None and loaded.typ > _AT_LOAD * divergence.typ:
        loaded = None
    reversal = None if p.shaking.reversal is None else _speed(p.shaking.reversal, inputs)
    return Shakes(
        flap_Hz=band(p.shaking.flap, inputs),
        edge_Hz=band(p.shaking.edge, inputs),
        twist_Hz=band(p.shaking.twist, inputs),
        divergence_m_s=divergence,
        divergence_at_load_m_s=loaded,
        reversal_m_s=reversal,
        caution=phrasing.speed_caution(loaded or divergence, reversal, airframe.top_speed_m_s),
    )


def _sway(a: Analysis, k: int, free: Band) -> SwayResult | None:
    """Deflection held straight and free to sway at station k, where they differ."""
    if not a.sways:
        return None
    inputs = a.prepared.inputs
    held, side = band(np.abs(a.held_deflection[:, k]), inputs), band(a.sideways[:, k], inputs)
    return SwayResult(held_mm=held, free_mm=free, sideways_mm=side, says=phrasing.sway_caution(held.typ, free.typ))


def _report(a: Analysis, verdicts: list[CaseVerdict], airframe: Airframe, brief: bool) -> Estimate:
    p, part, case = a.prepared, a.part, a.case
    inputs = p.inputs
    grams = p.grams
    total = grams.sum(0)
    k = read_at(a)
    bend = np.abs(a.deflection[:, k])
    events = told_events(a)
    told = [e.mode for e in events]
    failures = failures_of(a, events, inputs)
    snaps, tough = ([], []) if brief else _snaps(a)
    here = next(v for v in verdicts if v.case_id == case.id)
    measure = a.loading.measure
    least = lowest(verdicts)
    margin = least.margin
    added, deflection = band(total - grams[-1], inputs), band(bend, inputs)
    twist = band(np.degrees(a.twist[:, twist_at(a)]), inputs) if np.any(a.loading.torque) else None
    balance = band(centre_of_mass(p, part)[0], inputs)
    warp = kept(p, "warp", lambda: warp_of(p))
    weaker = min((t.first_mJ for t in tough), key=lambda b: b.typ, default=None)
    effort = effort_of(part)
    shakes = _shakes(a, inputs, airframe) if part.kind in ("wing", "tail") else None
    dents = list(kept(p, "dents", lambda: tuple(dents_of(p))))
    beyond = phrasing.beyond_of(
        part, case, float(bend[0]), None if twist is None or a.loading.twist is not None else twist.typ
    )
    if shakes is not None and phrasing.too_slow(
        shakes.divergence_at_load_m_s or shakes.divergence_m_s, shakes.reversal_m_s, airframe.top_speed_m_s
    ):
        beyond.append(shakes.caution)
    if a.sways:
        beyond.append(phrasing.sway_caution(float(np.abs(a.held_deflection[0, k])), float(bend[0])))
    beyond += too_long(p.elements)
    return Estimate(
        part_id=part.id,
        case_id=case.id,
        says=a.loading.says,
        reads=a.loading.read,
        supports_mm=a.loading.supports,
        acts_at_mm=loads.place_of(case, part) if isinstance(case, loads.PLACED) else None,
        measure=Measure(name=measure.name, value=measure.value, unit=measure.unit),
        safety_factor=case.safety_factor,
        mass_g=band(total, inputs),
        added_g=added,
        deflection_mm=deflection,
        deflection_at_mm=float(p.geometry.y[k]),
        sway=_sway(a, k, deflection),
        twist_deg=twist,
        twist_at_mm=float(p.geometry.y[twist_at(a)]),
        span_mm=part.span_mm,
        breaks_at=here.breaks_at,
        changes_at=here.changes_at,
        enough=here.enough,
        verdict=here,
        first=next(f for f in failures if f.figure == "breaks_at"),
        failures=failures,
        verdicts=verdicts,
        governs=least.case_id,
        shakes=shakes,
        control=_control(a, inputs),
        cords=_cords(a, inputs),
        snaps=snaps,
        toughness=tough,
        warp=warp,
        dents=dents,
        lines=_lines(a, a.judged.final.mode, inputs),
        curves=_curves(a, case.safety_factor),
        modes=_mode_curves(a, told),
        balance_mm=balance,
        margin=margin,
        effort=EffortResult(cost=effort.cost, hours=effort.hours, ready_h=effort.ready_h, tools=effort.tools),
        targets=targets_of(part, case, deflection, twist, margin, added, balance, weaker, warp),
        stretches=p.stretches,
        workings=derivations(a, events, snaps, tough, warp, dents, effort),
        sources=sources_of(a.prepared.elements),
        beyond=beyond,
        warnings=[
            *a.loading.notes,
            *setting_warnings(p.elements, airframe.setting),
            *beyond,
            *phrasing.warnings_of(airframe, part, case, float(total[0])),
        ],
        assumptions=assumptions_of(a),
    )
