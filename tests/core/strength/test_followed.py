"""What a part does when a member lets go: who is lost with what, and what the rest then asks of what is left."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from fletcher.core.document.airframe import Airframe, BarLayer, StripLayer
from fletcher.core.document.defaults import default_case
from fletcher.core.estimate.analyse import Analysis, analyse
from fletcher.core.materials.uncertainty import samples
from fletcher.core.strength.fibres import FOAM
from fletcher.core.strength.followed import Followed, held_by, loses, member_of, members_named, members_of, spread
from fletcher.core.strength.modes import Mode
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.validation.airframe import read
from tests.core.joints.test_joints import TAPE
from tests.core.joints.test_joints import plank as joined


def judged(key: str = "bead_wing", case: int = 0, count: int = 3) -> Analysis:
    part = CONSTRUCTIONS[key].part()
    airframe = Airframe(name="A", all_up_mass_g=600, parts=(part,))
    with samples(count):
        a = analyse(airframe, part, part.cases[case])
        assert a.judged
        return a


WING = judged()
FOLLOWED = WING.judged.judge
SKINS = len(WING.prepared.elements.membranes)


def mode(kind: str, line: int | None = None, item: int | None = None, use: float = 0.5) -> Mode:
    shape = FOLLOWED.samples, FOLLOWED.n
    return Mode(kind, line, "part", np.full(shape, use), True, item)


def test_members_are_numbered_skins_first_then_bars():
    """The wing has a pair of rods, a strip and a film on both faces with nose and rear edge."""
    assert members_of(FOLLOWED.part, 0) == {SKINS, SKINS + 1}
    assert members_of(FOLLOWED.part, 1) == {0}
    assert members_of(FOLLOWED.part, 2) == set(range(1, SKINS))
    assert members_named(FOLLOWED.part, WING.part.layers[0].id) == members_of(FOLLOWED.part, 0)
    assert members_named(FOLLOWED.part, "nobody") == members_named(FOLLOWED.part, None) == frozenset()


def test_a_way_to_fail_belongs_to_its_member():
    assert member_of(mode("bar_bond", 0, 1), FOLLOWED.part) == SKINS + 1
    assert member_of(mode("strip_bond", 1, 0), FOLLOWED.part) == 0
    assert member_of(mode("foam_tension"), FOLLOWED.part) == FOAM
    assert member_of(mode("joint_glue", 3), FOLLOWED.part) == -3


@pytest.mark.parametrize(
    ("way", "lost"),
    [
        (mode("bar_bond", 0, 1), {SKINS + 1}),
        (mode("strip_bond", 1, 0), {0}),
        (mode("core_shear"), {SKINS, SKINS + 1}),
        (mode("foam_tension"), None),
        (mode("bar_tension", 0, 1), None),
    ],
    ids=lambda v: v.kind if isinstance(v, Mode) else "",
)
def test_what_lets_go_takes_its_member_with_it(way, lost):
    """A bond takes its bar or strip, shear of the core the pair that it holds; a break of the foam takes the part."""
    assert loses(way, FOLLOWED, frozenset()) == lost


def test_once_the_bars_are_lost_the_core_shears_with_the_part():
    assert loses(mode("core_shear"), FOLLOWED, members_of(FOLLOWED.part, 0)) is None


def test_without_bars_the_foam_is_asked_plain_shear_alone():
    every, one = members_of(FOLLOWED.part, 0), frozenset({SKINS})
    plain = FOLLOWED.plain_shear
    way = mode("core_shear", use=float(plain.max()) * 5)
    assert spread(way, FOLLOWED, frozenset(), 1) == pytest.approx(way.use[:1])
    left = spread(way, FOLLOWED, every, FOLLOWED.samples)
    carried = sum(FOLLOWED.part.skin_share[i] for i in every if i < SKINS)
    assert left == pytest.approx(plain / np.maximum(1 - carried, 0.02))
    half = spread(way, FOLLOWED, one, FOLLOWED.samples)
    assert np.all(left < half) and np.all(half < way.use)


def test_lost_skins_leave_their_twist_to_the_rest():
    film = members_of(FOLLOWED.part, 2)
    share = sum(FOLLOWED.part.skin_share[i] for i in film)
    assert share.max() > 0.5
    way = mode("skin_shear", 1, 0)
    assert spread(way, FOLLOWED, film, FOLLOWED.samples) == pytest.approx(
        0.5 / np.maximum(1 - share, 0.02) * np.ones_like(way.use)
    )
    other = mode("foam_tension")
    assert spread(other, FOLLOWED, film, 1) == pytest.approx(other.use[:1])


def test_a_joint_holds_the_line_that_it_lies_along():
    bond = {"type": "joint", "id": "j", "joint": {"kind": "bond", "of": "tape"}, "glue": {"adhesive": "epoxy_30min"}}
    airframe = joined({**TAPE, "start_mm": 0, "end_mm": 300}, bond)
    with samples(0):
        a = analyse(airframe, airframe.parts[0], airframe.parts[0].cases[0])
        j = a.judged.judge
    way = next(m for m in a.modes if m.kind.startswith("joint"))
    tape = members_named(j.part, "tape")
    assert tape and held_by(way, j.part) == loses(way, j, frozenset()) == tape
    assert held_by(next(m for m in a.modes if not m.kind.startswith("joint")), j.part) == frozenset()


def linear_of(*ways: Mode, lost: frozenset[int] = frozenset(), excluded: frozenset[str] = frozenset()) -> float:
    followed = Followed(FOLLOWED.part, ways, FOLLOWED.drawn_strain, FOLLOWED.plain_shear, excluded)
    found = followed.linear(lost)
    assert np.allclose(found, found[0, 0])
    return float(found[0, 0])


def test_by_the_linear_answer_the_worst_way_decides_that_is_left_and_meant():
    bar, foam = mode("bar_tension", 0, 0, use=0.8), mode("foam_tension", use=0.25)
    crush = replace(mode("foam_crush", use=2.0), breaks=False)
    assert linear_of(bar, foam) == pytest.approx(1 / 0.8)
    assert linear_of(bar, foam, lost=frozenset({SKINS})) == pytest.approx(1 / 0.25)
    assert linear_of(foam, crush) == pytest.approx(1 / 0.4)  # foam folds at some five times the strain of its crushing
    assert linear_of(foam, crush, excluded=frozenset({"foam_crush"})) == pytest.approx(1 / 0.25)
    assert linear_of(replace(mode("skin_yield", 2, 1), breaks=False)) == pytest.approx(1e9)


def test_samples_are_marched_where_the_part_is_weakest_and_spread_elsewhere():
    """At the station that governs every sample has its own march; the others scale with the linear answer."""
    along = FOLLOWED.along(frozenset())
    capacity, _ = FOLLOWED.typically(frozenset())
    k = FOLLOWED.stations
    assert along[0, k] == pytest.approx(capacity.most[0], rel=1e-9)
    worst, far = int(np.argmin(capacity.most[0])), int(np.argmax(capacity.most[0]))
    linear = FOLLOWED.linear(frozenset())
    scaled = linear[:, k] * (capacity.most[0] / linear[0, k])
    assert along[:, k[far]] == pytest.approx(scaled[:, far])
    assert not np.allclose(along[1:, k[worst]], scaled[1:, worst], rtol=1e-4)


def test_a_quiet_end_is_followed_where_it_is_the_weakest():
    """A plank that is thinned to a twentieth at its end breaks there, at a tenth of the moment or less."""
    part = {
        "id": "p", "name": "Plank", "kind": "plank", "span_mm": 500, "root_chord_mm": 120, "tip_chord_mm": 120,
        "root_thickness_mm": 30, "tip_thickness_mm": 1.5, "section": {"shape": "rectangle"}, "foam": "xps_30",
        "layers": [], "cases": [{"id": "c", "name": "c", "safety_factor": 1, "type": "tip_weight", "weight_g": 40}],
    }  # fmt: skip
    airframe = read({"format": "fletcher-airframe", "version": 5, "name": "A", "all_up_mass_g": 900, "parts": [part]})
    with samples(0):
        a = analyse(airframe, airframe.parts[0], airframe.parts[0].cases[0])
        j = a.judged
    moment = np.abs(a.loading.moment[0])
    quiet = j.judge.stations[moment[j.judge.stations] < 0.1 * moment.max()]
    assert len(quiet) and moment[j.final.k] < 0.25 * moment.max()


def test_a_strip_that_tears_last_is_no_worse_than_no_strip():
    """A folded wing of twin-wall sheet: after its upper wall has crushed, tissue tears before the dowel buckles."""
    size = {"span_mm": 925, "root_chord_mm": 310, "tip_chord_mm": 310, "root_thickness_mm": 38, "tip_thickness_mm": 38}
    part = CONSTRUCTIONS["fluted_wing"].part().model_copy(update=size)
    dowel = BarLayer(id="spar", stock="hardwood_dowel_5", place="middle", root_percent=32, tip_percent=32)
    tissue = StripLayer(id="tissue", skin="tissue_varnish", width_mm=58, end_mm=650, face="both",
                        root_percent=27, tip_percent=27)  # fmt: skip
    walls = tuple(la for la in part.layers if la.type == "wall")
    case = default_case("tip_strike", Airframe(name="A", all_up_mass_g=1200), part)
    answers = []
    for layers in ((*walls, dowel), (*walls, dowel, tissue)):
        wing = part.model_copy(update={"layers": layers, "cases": (case,)})
        with samples(0):
            answers.append(analyse(Airframe(name="A", all_up_mass_g=1200, parts=(wing,)), wing, case).judged)
    assert answers[1].first.mode.line != answers[1].final.mode.line
    assert answers[1].final.at[0] >= 0.99 * answers[0].final.at[0]


def test_what_sways_a_little_spreads_as_if_it_were_held():
    """A rod far aft leans the section by a few per cent: marching all samples of it anew tells what scaling tells."""
    part = CONSTRUCTIONS["bead_wing"].part()
    rear = BarLayer(id="rear", stock="carbon_rod_2", place="lower", root_percent=70, tip_percent=70)
    case = default_case("tip_weight", Airframe(name="A", all_up_mass_g=600), part)
    part = part.model_copy(update={"layers": (*part.layers, rear), "cases": (case,)})
    airframe = Airframe(name="A", all_up_mass_g=600, parts=(part,))
    with samples(40):
        a = analyse(airframe, part, part.cases[0])
        held = a._judged(a.modes, False)
        anew, scaled = a._judged(a.modes, True), a._judged(a.modes, True, held)
    assert held is not None and anew is not None and scaled is not None
    assert float(a._lean.max()) > 0.02 and abs(float(anew.breaks[0] / held.breaks[0]) - 1) < 0.05
    assert scaled.breaks[0] == pytest.approx(anew.breaks[0]) and scaled.final.mode.kind == anew.final.mode.kind
    assert scaled.breaks == pytest.approx(anew.breaks, rel=0.03)
    assert np.any(scaled.breaks != anew.breaks), "all samples were marched"
