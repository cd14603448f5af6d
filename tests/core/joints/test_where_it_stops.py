"""Where a stiff strip stops on brittle foam: the bare part bears alone, its face stressed more beside the end."""

from __future__ import annotations

import math

import numpy as np
import pytest

from fletcher.core.adhesion.curing import sampled
from fletcher.core.estimate.analyse import analyse
from fletcher.core.estimate.report import estimate
from fletcher.core.joints.failure_modes import STOPS
from tests.core.joints.test_joints import GLUE, plank

STRIP = {"type": "bar", "id": "splint", "stock": "spruce_3x10", "place": "upper", "start_mm": 100, "end_mm": 300,
         "root_percent": 50, "tip_percent": 50, "joined_at_root": False}  # fmt: skip


def bond(**more) -> dict:
    return {"type": "joint", "id": "j", "glue": GLUE, "joint": {"kind": "bond", "of": "splint", **more}}


def stops(foam: str = "xps_30", strip: dict = STRIP, **more):
    airframe = plank(strip, bond(**more), foam=foam, weight_g=40)
    part = airframe.parts[0]
    a = analyse(airframe, part, part.cases[0])
    return a, [m for m in a.modes if "stops" in m.where]


@pytest.mark.parametrize("tapered", [False, True])
def test_past_its_end_the_bare_face_bears_so_much_more(tapered: bool):
    a, (found,) = stops(tapered=tapered)
    y, inside = a.prepared.geometry.y, a.prepared.geometry.inside
    past = ((np.abs(y - 100) < 1e-6) & (inside < 100)) | ((np.abs(y - 300) < 1e-6) & (inside > 300))
    assert past.sum() == 2 and np.all(found.use[:, ~past] == 0)
    pulled = np.abs(a.loading.moment[0]) * 10  # on the face of 100 × 20, by plane sections
    stress = pulled / (100 * 20**3 / 12)
    f = a.prepared.draws.foam
    typical = stress[past] * float(sampled(STOPS[tapered], f"stops/{tapered}")[0]) / float(f.tensile[0])
    assert found.use[0, past] == pytest.approx(typical, rel=0.05)
    assert not stops(strip={**STRIP, "place": "lower"})[1], "a weight at the tip presses the lower face"


@pytest.mark.parametrize(
    ("foam", "changed"),
    [("epp_30", {}), ("xps_30", {"place": "middle"}), ("xps_30", {"stock": "carbon_rod_2"}),
     ("xps_30", {"start_mm": 0, "end_mm": 500, "joined_at_root": True})],
)  # fmt: skip
def test_nothing_stops_hard_in_foam_that_yields_within_it_or_at_the_ends_of_the_part(foam: str, changed: dict):
    assert not stops(foam, {**STRIP, **changed})[1]


def test_its_end_is_named_and_tapering_it_holds_more():
    square, soft = (estimate(plank(STRIP, bond(tapered=t), foam="xps_30", weight_g=40), "p") for t in (False, True))
    ends = [next(f for f in e.failures if "stops" in f.sentence) for e in (square, soft)]
    assert ends[1].comes_at.typ / ends[0].comes_at.typ == pytest.approx(1.3 / 1.1, rel=0.02)
    assert ends[0].line_id == "j"


def test_R23_a_seam_the_root_and_the_ends_of_a_patch_stand_in_series(proof):
    """Half wing 600, elliptic lift, 8000 N·mm at the root; bare part 9000 (1 − y/2L), a seam at 200 of 0.30 of it, a
    stiff patch from 60 to 340 with square ends."""
    eta = np.linspace(0, 1, 20001)
    lift = np.sqrt(1 - eta**2)

    def moment(at: float) -> float:
        share = np.trapezoid(np.where(eta >= at, lift * (eta - at), 0), eta) / np.trapezoid(lift * eta, eta)
        return 8000 * float(share)

    def bare(y: float) -> float:
        return 9000 * (1 - 0.5 * y / 600)

    more = STOPS[False].typ
    load = {y: bare(y) / moment(y / 600) for y in (0.0, 60.0, 200.0, 340.0)}
    proof("R23 root", load[0.0], 1.125, 1e-3)
    proof("R23 near end", load[60.0] / more, 1.0548, 1e-3)
    proof("R23 seam", 0.30 * load[200.0], 0.7407, 1e-3)
    proof("R23 far end", load[340.0] / more, 4.658, 2e-3)
    series = {"root": load[0.0], "near": load[60.0] / more, "seam": 0.30 * load[200.0], "far": load[340.0] / more}
    assert min(series, key=series.__getitem__) == "seam"
    assert min({**series, "seam": 0.43 * load[200.0]}.items(), key=lambda v: v[1])[0] == "near"
    assert math.isclose(series["near"] / load[200.0], 0.427, rel_tol=2e-3)
