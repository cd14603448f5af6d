"""Derivations of what a part does in the hand: toughness, warp, dents, control run."""

from __future__ import annotations

import numpy as np

from fletcher.core.adhesion.bond_line import tear_table
from fletcher.core.estimate import phrasing
from fletcher.core.estimate.analyse import Analysis
from fletcher.core.estimate.dents import DEPTH_MM, PUNCH_MM
from fletcher.core.estimate.derivation import Number, symbols
from fletcher.core.estimate.schema import Dent, Toughness, Warp, Working
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import draw_factor
from fletcher.core.structure.control_linkage import FRICTION, GUIDE


def in_hand(a: Analysis, tough: list[Toughness], warp: Warp | None, dents: list[Dent]) -> list[Working]:
    """The derivations "toughness", "warp", "dents" and "run", each where there is such a figure."""
    found = []
    if tough:
        found.append(_tough(a, tough))
    if warp is not None:
        found.append(_warp(a, warp))
    if dents:
        found.append(_dents(a, dents))
    if a.loading.run is not None:
        found.append(_run(a))
    return found


def _tough(a: Analysis, tough: list[Toughness]) -> Working:
    numbers: list[Number] = []
    for t in tough:
        way = t.direction
        numbers += [
            (f"κ {way}", "folds" if t.folds else "first break", 1e3 / t.radius_mm.typ, "1/m"),
            (f"U₁ {way}", f"energy to the first break over {t.over_mm:.0f} mm", t.first_mJ.typ, "mJ"),
        ]
        if t.parts_mJ is not None:
            numbers.append((f"U {way}", "total breaking energy", t.parts_mJ.typ, "mJ"))
        if t.tear_mm is not None:
            numbers.append((f"a {way}", "longest stable tear", t.tear_mm.typ, "mm"))
    foam = a.prepared.elements.foam
    tear = tear_table().get(foam.family)
    if tear is not None:
        numbers.append(("Γ", f"tear energy of {foam.family}", tear.typ, "N/m"))
    return Working(
        figure="toughness",
        formula_id="toughness.work",
        title="Toughness",
        formula="U = L ∫M dκ,  (EI κ)(s) = M(s) along the bent strip,  a = Γ E/(π (1.12 σ)²)",
        explanation=(
            "Energy under the moment–curvature curve over a length of ten depths. After the first break only "
            "tapes across it absorb energy. The strip bends as an elastica (large slopes); a tear grows beyond "
            "Griffith’s length."
        ),
        symbols=symbols(numbers),
        assumptions=[
            "Other places soften like the most bent one.",
            f"When released, the foam recovers {100 * foam.springback:.0f} % of the bend.",
        ],
    )


def _warp(a: Analysis, warp: Warp) -> Working:
    p = a.prepared
    numbers: list[Number] = [("EI", "root, total", p.sums.whole_EI[0, 0] / 1e6, "N·m²")]
    order = [la.id for la in a.part.layers]
    for line in warp.lines:
        label = phrasing.line_label(p.elements, order.index(line.line_id))
        numbers += [
            ("ε", f"{label}: shrinkage relative to the foam, {line.way}", line.strain_percent, "%"),
            ("f", f"{label}: bow on its own", line.bow_mm, "mm"),
        ]
    return Working(
        figure="warp",
        formula_id="warp.bow",
        title="Built-in bow",
        formula="κ = Σ E A ε (z − z̄)/EI,  f = ∬κ,  θ′ = ∮ E t ε sin β cos β q̂/(G t) ds",
        explanation=(
            "Timoshenko 1925 for two layers, summed over all layers; work in stages adds each stage to what is "
            "already there. Angled fibres twist the part (Betti’s reciprocity with the shear flow of a unit "
            "torque)."
        ),
        symbols=symbols(numbers),
        assumptions=[
            "Skins act at once; no creep back under weights.",
            "Shrinkage is typical for the method unless set for the item.",
        ],
    )


def _dents(a: Analysis, dents: list[Dent]) -> Working:
    numbers: list[Number] = [
        ("σ_c", "foam in compression through the thickness", a.prepared.draws.foam.bearing[0], "MPa"),
        ("r", "punch", PUNCH_MM, "mm"),
        ("δ", "dent depth", DEPTH_MM, "mm"),
    ]
    numbers += [(f"F {d.face}", f"bare foam {d.bare_N:.2g} N", d.load_N.typ, "N") for d in dents]
    return Working(
        figure="dents",
        formula_id="dents.punch",
        title="Dents",
        formula="F = min over a of 4π M_p a/(a − r) + π N (a + r) δ/(a − r) + π σ_c (a² + a r + r²)/3",
        explanation="A cone of radius a in the skin bends and stretches over crushing foam (limit analysis).",
        symbols=symbols(numbers),
        assumptions=["Strips beside the point of contact do not help.", "Upper bound: a sharp edge dents it sooner."],
    )


def _run(a: Analysis) -> Working:
    run = a.loading.run
    assert run is not None and a.loading.servo is not None and a.loading.run_left is not None
    r = run.run
    bar = reference().bars[r.rod]
    numbers: list[Number] = [
        ("M_h", "hinge moment", a.loading.servo[0], "N·mm"),
        ("a", "horn arm", r.horn_arm_mm, "mm"),
        ("EI", bar.name, run.EI[0], "N·mm²"),
        ("L_s", "between supports", r.support_mm, "mm"),
        ("P_cr", "buckles at", run.buckles[0], "N"),
        ("θ", "total bend angle of the guide", np.radians(r.bend_deg), "rad"),
        ("k", "stiffness of the guide in foam, typical", draw_factor(GUIDE)[0], "N/mm"),
        ("μ", "friction in a tube, typical", draw_factor(FRICTION)[0], ""),
        ("η", "throw left after flex", 100 * a.loading.run_left[0], "%"),
    ]
    return Working(
        figure="run",
        formula_id="run.give",
        title="Control linkage",
        formula="P = M_h/a,  P_cr = c π²EI/L_s²,  C = (L/EA + θ²/k)/a²,  η = 1/(1 + C m),  servo × e^{μθ} in a tube",
        explanation="Euler’s strut (c = 1 hinged, 2 in a tube) and belt friction; flex turns the horn back.",
        symbols=symbols(numbers),
        assumptions=["Servo gears and clevises are rigid.", "Guides are as stiff sideways as the foam and glue."],
    )
