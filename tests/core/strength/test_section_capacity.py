"""What a section carries after something in it has broken, against sections of a few fibres done by hand."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.estimate.analyse import analyse
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import KINKED, draw_factor, samples
from fletcher.core.section.hinge_under_tape import drawn_stress
from fletcher.core.section.moment_curvature import NEVER, Laws, Section
from fletcher.core.strength.capacity import capacity, drawn_strains
from fletcher.core.strength.fibres import FOAM, Fibres, Label
from tests.core.joints.test_joints import plank

E = 1000.0


class Rods:
    """Fibres (area, height above the middle) of E 1000; M > 0 presses the upper ones. Strain at t is −t z + e₀."""

    def __init__(self, *fibres: tuple[float, float]) -> None:
        self.area, self.z = np.array(fibres, float).T
        n = len(fibres)
        self.pull, self.push = np.full((2, n), NEVER)
        self.yields, self.gives = np.full((2, n), NEVER)
        self.member = np.arange(n)
        self.labels: list = [(None, None, None, None)] * n

    def breaks(self, fibre: int, pull: float = NEVER, push: float = NEVER, kind: str = "bar_tension") -> None:
        self.pull[fibre], self.push[fibre] = pull, push
        label = Label(kind, int(self.member[fibre]), "upper", True)
        self.labels[fibre] = (label, label, None, None)

    def carries(self, drawn: np.ndarray | None = None, follow: bool = True):
        def each(values):
            return np.asarray(values, float)[None, None, :]

        laws = Laws(each(np.full(len(self.z), E)), each(np.full(len(self.z), E)), each(self.yields),
                    each(np.zeros(len(self.z))), each(self.gives))  # fmt: skip
        shape = each(-self.z) * 1e-4
        one = np.ones((1, 1))
        full = E * float((self.area * self.z**2).sum()) * 1e-4
        f = Fibres(Section(each(self.area), shape, laws, lever=each(-self.z)), each(self.pull), each(self.push),
                   each(self.pull), each(self.push), self.member, tuple(self.labels), one * full, shape,
                   np.ones_like(shape))  # fmt: skip
        with samples(0):
            found = capacity(f, 1, np.full(len(self.z), NEVER) if drawn is None else drawn, follow)
        return {n: getattr(found, n)[0, 0] * (1 if n.endswith("fibre") else full)
                for n in ("first", "most", "first_fibre", "most_fibre")}  # fmt: skip


def linear(fibres: list[tuple[float, float]], last: int, strain: float) -> float:
    """Moment at which fibre `last` of a linear section is strained so much."""
    area, z = np.array(fibres).T
    middle = (area * z).sum() / area.sum()
    return abs(strain / (z[last] - middle)) * E * float((area * (z - middle) ** 2).sum())


FOUR = [(2.0, 10.0), (2.0, -10.0), (3.0, 5.0), (3.0, -5.0)]


def test_a_stiff_rod_that_breaks_early_leaves_the_rest_to_carry_more():
    """Outer pulled rod gone at 0.1 %: E(2·200 + 2·75)·1e-4 = 55; the three that are left bend about their own middle
    until the inner pulled one is at 0.8 %, and nothing more is carried by what breaks sooner."""
    rods = Rods(*FOUR)
    rods.breaks(1, pull=1e-3)
    rods.breaks(3, pull=8e-3)
    found = rods.carries()
    assert found["first"] == pytest.approx(E * (2 * 2 * 100 + 2 * 3 * 25) * 1e-4) and found["first_fibre"] == 1
    rest = [FOUR[0], FOUR[2], FOUR[3]]
    assert found["most"] == pytest.approx(linear(rest, 2, 8e-3), rel=1e-6) and found["most_fibre"] == 3
    assert rods.carries(follow=False)["most"] == pytest.approx(found["first"])
    rods.breaks(3, pull=2e-4)  # now the inner one goes first, and then the outer one is all that pulls
    again = rods.carries()
    assert again["first"] == pytest.approx(E * 550 * 2e-4 / 5) and again["first_fibre"] == 3
    assert again["most"] == pytest.approx(linear([FOUR[0], FOUR[1], FOUR[2]], 1, 1e-3), rel=1e-6)


def test_a_section_whose_rest_carries_less_is_as_strong_as_its_first_break():
    rods = Rods(*FOUR)
    rods.breaks(1, pull=1e-3)
    rods.breaks(3, pull=1e-3)
    found = rods.carries()
    assert found["most"] == found["first"] and found["most_fibre"] == found["first_fibre"] == 1


def test_a_ply_that_kinks_keeps_a_share_of_its_push_and_one_that_tears_keeps_nothing():
    """Upper ply of area 2 kinks at 0.1 %; KINKED × E·0.1 %·2 N go on pushing while the other three bend."""
    keeps = float(draw_factor(KINKED)[0]) * E * 1e-3 * 2

    def by_hand(push: float) -> float:
        area, z = np.array([FOUR[1], FOUR[2], FOUR[3]]).T
        total, first, second = E * area.sum(), E * (area * z).sum(), E * (area * z**2).sum()
        # strain −t z + e: N = −t·first + e·total − push = 0, and at z = −10 it is 0.8 %
        t, e = np.linalg.solve([[-first, total], [10.0, 1.0]], [push, 8e-3])
        return float(t * second - e * first + push * 10.0)

    for kind, push in (("skin_wrinkling", keeps), ("skin_compression", keeps), ("bar_compression", 0.0)):
        rods = Rods(*FOUR)
        rods.gives[0] = 1e-3
        rods.breaks(0, push=1e-3, kind=kind)
        rods.breaks(1, pull=8e-3)
        found = rods.carries()
        assert found["first"] == pytest.approx(E * 550 * 1e-4), kind
        assert found["most"] == pytest.approx(by_hand(push), rel=1e-4), kind
        assert found["most_fibre"] == 1


def test_foam_that_has_cracked_pulls_no_more_and_tape_holds_what_its_peel_front_leaves():
    """Foam fibres at ±5, tape at −10 and a rod at +10. After the crack at 0.1 % the tape is drawn at E·0.3 %·2 N until
    it tears at 2 %; the rod pushes as much, all foam opens, and what is left is a hinge of that force over 20."""
    rods = Rods(*FOUR)
    rods.member = np.array([0, 1, FOAM, FOAM])
    rods.breaks(3, pull=1e-3, kind="foam_tension")
    rods.breaks(2, pull=1e-3, kind="foam_tension")
    rods.breaks(1, pull=2e-2)
    drawn = np.array([NEVER, 3e-3, NEVER, NEVER])
    found = rods.carries(drawn)
    assert found["first"] == pytest.approx(E * 550 * 1e-3 / 5) and found["first_fibre"] == 3
    assert found["most"] == pytest.approx(E * 3e-3 * 2 * 20, rel=1e-4) and found["most_fibre"] == 1
    # a section that has folded goes no further
    rods.breaks(0, push=1e-3, kind="folds")
    folded = rods.carries(drawn)
    assert folded["first"] == pytest.approx(E * 550 * 1e-4) and folded["first_fibre"] == 0
    assert folded["most"] == folded["first"] and folded["most_fibre"] == 0


def test_tape_holds_across_a_crack_until_its_peel_front_runs():
    strip = {"type": "strip", "id": "s", "skin": "bopp_tape_std", "face": "lower", "width_mm": 30, "root_percent": 50,
             "tip_percent": 50, "shrink_percent": 0}  # fmt: skip
    bar = {"type": "bar", "id": "b", "stock": "carbon_rod_3", "place": "middle"}
    airframe = plank(strip, bar, foam="xps_30")
    with samples(0):
        p = analyse(airframe, airframe.parts[0], airframe.parts[0].cases[0]).prepared
        (tape, rod) = drawn_strains(p.elements, p.draws)
    skin = reference().skins["bopp_tape_std"]
    thick = skin.thickness_mm.typ
    stiff = p.draws.skins[0].Et[0] / thick
    peel = np.asarray(skin.peel_N_per_25mm.typ / 25)
    yields = np.asarray(p.draws.skins[0].draws_out[0])
    drawn = max(float(p.draws.skins[0].drawn[0]), float(yields))
    stress = float(drawn_stress(peel, thick, stiff, yields, np.asarray(0.1), np.asarray(drawn)))
    assert float(yields) <= stress <= drawn * 1.001
    assert tape == pytest.approx(stress / stiff, rel=1e-6) and rod == NEVER
