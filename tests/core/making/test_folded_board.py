"""F1: a board of 5 mm folded to a chord of 200 and a depth of 24 over a spar at 25 to 45 %."""

from __future__ import annotations

import pytest

from fletcher.core.making.folding import ends_of
from fletcher.core.section.outline import Folded

OUTLINE = Folded(5.0, 0.25, 0.45, "strip", 12.0, 4, (), 0.0, 25.0, 0.12)


def test_every_stretch_of_the_paper():
    ends = ends_of(OUTLINE, 200.0, 24.0)
    assert ends.nose_radius_mm == pytest.approx(4.25585, abs=5e-6)
    assert ends.facet_deg == pytest.approx(18.44595, abs=5e-6)
    assert (ends.lower_mm, ends.nose_mm, ends.tail_mm, ends.spar_mm) == pytest.approx(
        (195.744, 12, 6.8182, 14), abs=1e-3
    )
    assert ends.upper_mm == pytest.approx(49.641 + 40 + 111.334, abs=1e-3)
    assert ends.lower_mm + ends.nose_mm + ends.upper_mm == pytest.approx(408.719, abs=1e-3)
