"""REPAIR, worked checks: rows of the design page that a model of the product gives by itself."""

from __future__ import annotations

import math
from types import SimpleNamespace

import numpy as np
import pytest

from fletcher.core.adhesion.curing import sampled_share
from fletcher.core.document.joint import AcrossJoint
from fletcher.core.joints.butt_and_scarf import FITS, MIXED, REACHED, _glued, pin_row, workmanship
from fletcher.core.joints.wing_root import pin_moment
from fletcher.core.materials.materials import Range
from fletcher.core.materials.uncertainty import limits, samples
from fletcher.core.section.splices import scarf_stress


def shares(*ranges):
    """The product of independent shares over all samples: 5, 50, 95 %."""
    with samples(200):
        drawn = np.prod([sampled_share(r, f"test/{n}") for n, r in enumerate(ranges)], axis=0)[1:]
        low, high = limits(drawn)
    return float(low), float(np.median(drawn)), float(high)


@pytest.mark.parametrize(
    ("ranges", "told"),
    [
        ((Range(0.62, 0.85, 1), REACHED["mended"], FITS["butt"], MIXED), (0.495, 0.726, 0.902)),
        ((Range(0.62, 0.85, 1), REACHED["worked_in"], MIXED), (0.216, 0.430, 0.681)),
    ],
)
def test_R2_the_band_of_a_seam_made_by_hand(ranges, told):
    for found, expected in zip(shares(*ranges), told, strict=True):
        assert found == pytest.approx(expected, abs=0.03)  # 200 samples; the page itself is exact to 0.01


def test_R2_the_typical_product_is_not_the_median():
    typical = float(workmanship(AcrossJoint(reached="mended"))[0]) * 0.85
    assert typical == pytest.approx(0.7441, rel=1e-4)
    assert shares(Range(0.62, 0.85, 1), REACHED["mended"], FITS["butt"], MIXED)[1] < typical


def test_R5_pins_bear_on_the_foam_or_are_pulled_out_as_a_row(proof):
    """Three bamboo pins of 3, 40 each side, foam of 0.28 MPa at 10 %, grip 0.85 · 0.20, row 12 from what is pressed."""
    bearing = np.array([0.28])
    proof("bearing of one", float(pin_moment(bearing, 3.0, 40.0, np.zeros(1))[0]), 336.0, 1e-4)
    proof("with 10 N across it", float(pin_moment(bearing, 3.0, 40.0, np.array([10.0]))[0]), 106.24, 1e-4)
    grip = 0.85 * 0.20 * math.pi * 3 * 40
    proof("pulled out", grip, 64.09, 1e-4)
    own = 150 * math.pi * 3**3 / 32
    proof("bent by itself", own, 397.6, 1e-4)
    # 12 mm from the row to the middle of what is pressed: half the core less half the pressed zone
    pressed = 3 * grip / (0.30 * 120)
    row = 3 * pin_row(np.array([grip]), 3, 2 * 12 + pressed, 120.0, np.array([0.30]))
    proof("row of three", float(row[0]), 2307.2, 1e-4)
    assert max(float(row[0]), 3 * 336.0) == float(row[0])


@pytest.mark.parametrize(("slope", "holds"), [(6, 36.774), (8, 48.582), (10, 60.466), (12, 72.388), (13, 78.36)])
def test_R15_a_scarf_in_wood(slope, holds, proof):
    proof(f"scarf 1:{slope}", float(scarf_stress(slope, np.array([9.0]), np.array([6.0]))[0]), holds, 1e-3)


@pytest.mark.parametrize(
    ("faces", "slope", "holds"),
    [("butt", 4.0, 0.2880), ("scarf", 1.0, 0.27973), ("scarf", 3.0, 0.52442), ("scarf", 6.0, 0.98246)],
)
def test_R20_faces_of_a_core_at_a_slope(faces, slope, holds, proof):
    """σ 0.45 · 0.8 · 0.8 and τ 0.25 · 0.8 · 0.8: the inverse of what one MPa along the part uses."""
    pull, shear = np.array([0.45 * 0.64]), np.array([0.25 * 0.64])
    line = SimpleNamespace(film_pull=pull, film_shear=shear, bed_pull=pull, bed_shear=shear)
    site = SimpleNamespace(deep=20.0, line=lambda sort, wide: line)
    uses = [use for _, _, use in _glued(AcrossJoint(faces=faces, slope=slope), site, np.ones(1), np.zeros(1))]
    proof(f"{faces} 1:{slope:g}", 1 / float(uses[0][0]), holds, 1e-3)
