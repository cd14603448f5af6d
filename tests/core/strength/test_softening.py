"""What changes cost at the load itself, against a march of its own by bisection."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.estimate.analyse import Analysis, analyse
from fletcher.core.materials.uncertainty import samples
from fletcher.core.strength.softening import WRINKLED_SHEAR
from fletcher.core.validation.airframe import read

FILM = {"type": "film", "id": "f", "skin": "lamfilm_38", "face": "both", "shrink_percent": 0}


def plank(case: dict, *layers: dict) -> Analysis:
    part = {
        "id": "p", "name": "Plank", "kind": "plank", "span_mm": 500, "root_chord_mm": 120, "tip_chord_mm": 120,
        "root_thickness_mm": 20, "tip_thickness_mm": 20, "section": {"shape": "rectangle"}, "foam": "xps_30",
        "layers": list(layers), "cases": [{"id": "c", "name": "c", "safety_factor": 1, **case}],
    }  # fmt: skip
    document = {"format": "fletcher-airframe", "version": 5, "name": "A", "all_up_mass_g": 900, "parts": [part]}
    airframe = read(document)
    return analyse(airframe, airframe.parts[0], airframe.parts[0].cases[0])


def bending(weight_g: float, count: int = 0) -> Analysis:
    with samples(count):
        a = plank({"type": "three_point", "weight_g": weight_g, "first_support_mm": 10, "second_support_mm": 490}, FILM)
        assert a.judged.changes
        return a


def stress(e: float, law: tuple[float, ...]) -> float:
    E_pull, E_push, yields, hardens, gives = law
    if e > yields:
        return E_pull * yields + hardens * (e - yields)
    return E_pull * e if e > 0 else E_push * max(e, -gives)


def times_further(a: Analysis, i: int, sample: int = 0) -> float:
    """Curvature over the linear one at the i-th station that is followed, by two nested bisections."""
    from fletcher.core.strength.fibres import fibres_of

    j = a.judged.judge
    f = fibres_of(j.part, j.stations[i : i + 1], j.samples)
    s, laws = f.section, f.section.laws
    fibres = [
        (s.amount[sample, 0, n], s.shape[sample, 0, n], s.lever[sample, 0, n],
         tuple(float(v[sample, 0, n]) for v in (laws.E_pull, laws.E_push, laws.yields, laws.hardens, laws.gives)))
        for n in range(s.shape.shape[-1]) if s.amount[sample, 0, n] != 0
    ]  # fmt: skip

    def force(t: float, e: float) -> float:
        return sum(A * stress(t * shape + e, law) for A, shape, _, law in fibres)

    def moment(t: float) -> float:
        low, high = -1.0, 1.0
        for _ in range(80):
            e = 0.5 * (low + high)
            low, high = (e, high) if force(t, e) < 0 else (low, e)
        return sum(A * stress(t * shape + e, law) * lever for A, shape, lever, law in fibres)

    low, high = 0.0, 8.0
    for _ in range(60):
        t = 0.5 * (low + high)
        low, high = (t, high) if moment(t) < f.full[sample, 0] else (low, t)
    return 0.5 * (low + high)


def test_a_wrinkled_plank_bends_further_at_every_station_by_what_its_fibres_say():
    a = bending(3200)
    softened, stations = a.judged.softened, a.judged.judge.stations
    assert softened is not None
    told = softened.bends[0, stations]
    assert told.max() > 1.15 and softened.bends[0, 0] == 1.0
    for i in (0, len(stations) // 4, len(stations) // 2, len(stations) - 1):
        assert told[i] == pytest.approx(max(times_further(a, i), 1.0), rel=1e-4)
    more = float(np.abs(a.deflection[0]).max() / np.abs(a.linear_deflection[0]).max())
    assert 1.1 < more < told.max()  # the secant of the middle over the whole span says too much
    # a further small load meets the tangent: foam and the pulled film alone
    middle = int(stations[np.argmax(told)])
    assert softened.EI[0, middle] < 1 / told.max() and softened.EI[0, 0] == 1.0


def test_each_sample_bends_by_its_own_strength():
    a = bending(3200, count=20)
    softened, stations = a.judged.softened, a.judged.judge.stations
    assert softened is not None
    i = int(np.argmax(softened.bends[0, stations]))
    for sample in (1, 7, 20):
        assert softened.bends[sample, stations[i]] == pytest.approx(times_further(a, i, sample), rel=0.02)
    assert np.ptp(softened.bends[1:, stations[i]]) > 0.02


def test_below_the_first_change_nothing_is_softer():
    a = bending(300)
    assert a.judged.softened is None
    assert (a.deflection == a.linear_deflection).all()


def test_a_wrinkled_film_keeps_half_of_its_share_in_twist():
    with samples(0):
        a = plank({"type": "tip_weight", "weight_g": 620}, FILM)
        softened = a.judged.softened
    assert softened is not None
    at = a.judged.judge.part
    wrinkled = [m for m in a.modes if m.kind == "skin_wrinkling" and m.use[0].max() > 1]
    assert wrinkled
    for k in (1, len(at.moment[0]) // 3):
        keeps = np.prod([WRINKLED_SHEAR ** at.skin_share[m.item, k] for m in wrinkled if m.use[0, k] > 1])
        assert softened.GJ[0, k] == pytest.approx(keeps, rel=1e-6)
    assert softened.GJ[0, -2] == 1.0 and softened.GJ[0, 1] < 0.98
