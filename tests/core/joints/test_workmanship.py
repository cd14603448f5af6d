"""What hands leave of a seam, against the worked check of a hobby seam: never 100 (100 to 100) per cent."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.document.joint import AcrossJoint
from fletcher.core.joints.butt_and_scarf import FITS, MIXED, REACHED, workmanship
from fletcher.core.materials.materials import Range
from fletcher.core.materials.uncertainty import logistic, samples

ETA = Range(0.62, 0.85, 1.0)


def product(*values: Range, count: int = 400_000) -> np.ndarray:
    """5, 50 and 95 % points of the product of independent shares."""
    rng = np.random.default_rng(3)
    return np.percentile(np.prod([logistic(v, rng.standard_normal(count)) for v in values], axis=0), (5, 50, 95))


def test_a_share_is_drawn_between_its_ends():
    z = np.array([-1.6448536269514722, 0.0, 1.6448536269514722, -60.0, 60.0])
    assert logistic(Range(0.3, 0.55, 0.8), z) == pytest.approx([0.3, 0.55, 0.8, 0.0, 1.0], abs=1e-9)
    assert logistic(ETA, z)[:3] == pytest.approx([0.62, 0.85, 0.995])
    assert np.all(np.diff(logistic(ETA, np.linspace(-4, 4, 99))) > 0)


def test_a_seam_of_a_clean_break_holds_half_to_nine_tenths_of_the_foam_beside_it():
    assert product(ETA, REACHED["mended"], FITS["butt"], MIXED) == pytest.approx([0.495, 0.726, 0.902], abs=0.01)
    assert pytest.approx(0.7441, abs=1e-4) == 0.85 * 0.95 * 0.97 * 0.95  # typical values: not the median


def test_a_crack_into_which_glue_was_worked_holds_less():
    assert product(ETA, REACHED["worked_in"], MIXED) == pytest.approx([0.216, 0.430, 0.681], abs=0.01)


@pytest.mark.parametrize(
    ("joint", "typical"),
    [
        (AcrossJoint(), 1.0),
        (AcrossJoint(reached="mended"), 0.95 * 0.97 * 0.95),
        (AcrossJoint(reached="mended", faces="scarf"), 0.95 * 0.92 * 0.95),
        (AcrossJoint(reached="over_old"), 0.75 * 0.97 * 0.95),
        (AcrossJoint(reached="worked_in"), 0.55 * 0.95),
        (AcrossJoint(reached="mended", faces="open"), 0.95 * 0.95),
    ],
)
def test_typical_shares_of_what_was_done(joint: AcrossJoint, typical: float):
    with samples(0):
        assert workmanship(joint)[0] == pytest.approx(typical)


def test_a_mended_seam_has_a_band_and_one_as_drawn_has_none():
    drawn, mended = (workmanship(AcrossJoint(reached=r)) for r in ("all", "mended"))
    assert drawn.std() == 0
    low, high = np.percentile(mended[1:], (5, 95))
    assert 0.6 < low < 0.78 and 0.93 < high < 1.0
