r"""Control runs: what lies between servo and horn. Buckling of the rod, what it gives, friction, the tightest bend.

- Push P = M_h/a at the horn's arm a; the rod buckles between supports at P_cr = c π²EI/L² (Euler; c = 1 hinged, 2 in a
  tube that is held, between hinged and built in).
- Give per newton: L/EA, and where a guided run turns a corner by θ its guide is pushed aside by Pθ and gives θ²/k.
- Friction in a tube: the servo pulls e^{μθ} times as much (Euler's belt).
- Bend: a rod of diameter d curved to R is strained by d/2R; a share of its strength is allowed for good.

The give turns the horn back: with hinge moment m per radian and give C = c/a² (rad per N·mm) 1/(1 + C m) is left.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.common.model import Result
from fletcher.core.common.quantities import F0, G2, in_mm, in_N, in_N_mm
from fletcher.core.document.cases import ControlRun
from fletcher.core.materials.materials import Range
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import Band, Inputs, ModelFactor, band, draw_bar, draw_factor

GUIDE = ModelFactor(
    "stiffness of guides", Range(3.0, 10.0, 40.0), "stiffness of foam and glue around a guide tube at a bend, N/mm"
)
FRICTION = ModelFactor("friction in a guide tube", Range(0.1, 0.2, 0.35), "plastic on plastic, or wire in plastic")
BEND_SHARE = 0.4
"""[J] Share of a rod's strength that may be spent on being bent for good."""
PUSH_SAFETY = 2.0
"""[J] A rod that pushes should stand twice the push of this case: gusts, and a start that is never straight."""
STALL_SHARE = 0.5
"""[J] Share of a servo's stall torque to plan with."""


class RunResult(Result):
    """A control run at the load of the case: push in the rod and where it buckles between its supports, share of the
    deflection that its give leaves, widest spacing of supports and how many that makes, tightest bend for good, what
    the servo must hold with friction, and what it has to plan with (None without a servo)."""

    push_N: Band
    buckles_N: Band
    left: Band
    support_mm: Band
    supports: int
    bend_radius_mm: float
    servo_N_mm: Band
    servo_gives_N_mm: float | None
    says: list[str]


@dataclass(frozen=True)
class Run:
    """A control run, arrays (S,): give at the horn (rad per N·mm), stiffness EI (N·mm²) and buckling load (N)."""

    run: ControlRun
    give: Array
    EI: Array
    buckles: Array


def run_of(run: ControlRun) -> Run:
    """The run of a checked case."""
    bar = reference().bars[run.rod]
    draw = draw_bar(bar)
    theta = np.radians(run.bend_deg)
    soft = run.length_mm / (draw.E * bar.area_mm2) + theta**2 / draw_factor(GUIDE)
    EI = draw.E * bar.weak_second_moment_mm4
    fixed = 2.0 if run.in_tube else 1.0
    return Run(run, soft / run.horn_arm_mm**2, EI, fixed * np.pi**2 * EI / run.support_mm**2)


def left_of(run: Run, moment: Array, deflection: float) -> Array:
    """Share (S,) of the deflection at the horn that the run's give leaves; `moment` (S,) is what the surface asks
    for at the whole deflection (rad)."""
    return 1 / (1 + run.give * np.abs(moment) / deflection)


def run_result(run: Run, moment: Array, left: Array, inputs: Inputs) -> RunResult:
    """The run under the hinge moment (S,) that it holds."""
    r = run.run
    bar = reference().bars[r.rod]
    push = np.abs(moment) / r.horn_arm_mm
    theta = np.radians(r.bend_deg)
    rubs = np.exp(draw_factor(FRICTION) * theta) if r.in_tube else np.ones_like(push)
    servo = push * rubs * r.servo_arm_mm
    widest = np.sqrt((2.0 if r.in_tube else 1.0) * np.pi**2 * run.EI / (PUSH_SAFETY * push))
    high = bar.size()[1] if bar.shape == "flat" else (bar.diameter_mm or 0.0)
    tight = (
        bar.E_MPa.typ * high / (2 * BEND_SHARE * min(bar.tensile_strength_MPa.typ, bar.compressive_strength_MPa.typ))
    )
    gives = None
    stock = reference().fittings.get(r.servo or "")
    if stock is not None and stock.torque_N_mm is not None:
        gives = STALL_SHARE * stock.torque_N_mm.typ
    most = float(np.min(widest))
    supports = max(0, int(np.ceil(r.length_mm / min(float(widest[0]), r.length_mm))) - 1)
    return RunResult(
        push_N=band(push, inputs),
        buckles_N=band(run.buckles, inputs),
        left=band(left, inputs),
        support_mm=band(widest, inputs),
        supports=supports,
        bend_radius_mm=tight,
        servo_N_mm=band(servo, inputs),
        servo_gives_N_mm=gives,
        says=_says(run, push, tight, servo, gives, most),
    )


def _says(run: Run, push: Array, tight: float, servo: Array, gives: float | None, widest: float) -> list[str]:
    r, out = run.run, []
    if float(run.buckles[0]) < PUSH_SAFETY * float(push[0]):
        out.append(
            f"The rod buckles at {in_N(float(run.buckles[0]), G2)}, less than twice the "
            f"{in_N(float(push[0]), G2)} it pushes: "
            f"support it every {in_mm(widest, F0)}, or take a thicker one."
        )
    if r.bend_deg > 0 and r.bend_radius_mm < tight:
        out.append(
            f"Bent too tightly: its radius must be at least {in_mm(tight, F0)}, or it takes a set or breaks in use."
        )
    if gives is not None and float(servo[0]) > gives:
        out.append(
            f"The servo has {in_N_mm(gives, F0)} to plan with (half of its stall torque) and needs "
            f"{float(servo[0]):.0f}: a shorter servo arm, a longer horn, or a stronger one."
        )
    return out
