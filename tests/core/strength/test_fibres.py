"""Sections as fibres agree with the linear answer that they are strained by, on every construction."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.document.airframe import Airframe, BarLayer, FilmLayer, Part
from fletcher.core.document.defaults import default_case
from fletcher.core.estimate.analyse import Analysis, analyse
from fletcher.core.estimate.prepare import prepared_for
from fletcher.core.materials.uncertainty import samples
from fletcher.core.section.skin_midlines import heights_along
from fletcher.core.section.snap_fibres import fibres_of as snapped
from fletcher.core.strength.fibres import _nodes
from fletcher.core.strength.followed import Followed, members_of
from fletcher.core.studies.constructions import CONSTRUCTIONS


def part_of(key: str, bars: bool) -> Part:
    part = CONSTRUCTIONS[key].part()
    kept = tuple(la for la in part.layers if bars or la.type not in ("bar", "joint"))
    return part.model_copy(update={"layers": kept})


@pytest.mark.parametrize("bars", [True, False], ids=["whole", "without bars"])
@pytest.mark.parametrize("key", list(CONSTRUCTIONS))
def test_before_anything_changes_the_fibres_carry_the_moment(key: str, bars: bool) -> None:
    """Σ E A s·lever = M at every station: a skin spread evenly over its height told a quarter too little."""
    part = part_of(key, bars)
    airframe = Airframe(name="A", all_up_mass_g=600, parts=(part,))
    for case in part.cases:
        with samples(3), np.errstate(invalid="ignore"):
            a = analyse(airframe, part, case)
            j = a.judged.judge
        if j.typical is None:  # twisted alone, or pressed lengthwise
            continue
        carried = j.typical.section.elastic[0]
        asked = np.abs(j.part.moment[0, j.stations])
        assert carried == pytest.approx(asked, rel=0.01), case.name


def held_straight(a: Analysis) -> Followed:
    """How it is followed if something holds it straight sideways: free to sway, what is lost changes the lean too."""
    found = a._judged(a.modes, free=False)
    assert found is not None
    return found.judge


def moment_at_most(j: Followed, lost: frozenset[int]) -> float:
    """Largest moment at which its sections carry no more: the weight that a line takes off changes the load as well."""
    return float(j.typically(lost)[0].most.min() * np.abs(j.part.moment[0]).max())


@pytest.mark.parametrize("key", list(CONSTRUCTIONS))
def test_what_is_left_without_a_line_carries_what_the_part_without_it_does(key: str) -> None:
    """The section without a member is that of the part built without it: what bounds the break load from below."""
    part = CONSTRUCTIONS[key].part()
    airframe = Airframe(name="A", all_up_mass_g=600, parts=(part,))
    checked = 0
    for case in part.cases:
        with samples(0), np.errstate(invalid="ignore"):
            a = analyse(airframe, part, case)
            e, j = a.prepared.elements, held_straight(a)
            if e.hollow or j.typical is None:
                return
            for line, layer in enumerate(part.layers):
                own = {i for i, m in enumerate(e.membranes) if m.line == line}
                own |= {len(e.membranes) + n for n, bar in enumerate(e.bars) if bar.line == line}
                if not own or layer.type not in ("bar", "strip"):
                    continue
                others = tuple(la for n, la in enumerate(part.layers) if n != line and la.type != "joint")
                if any(la.type == "bar" for la in others):  # those slip anew
                    continue
                rest = part.model_copy(update={"layers": others})
                left = held_straight(analyse(airframe, rest, case))
                if left.typical is None:
                    continue
                checked += 1
                kept = moment_at_most(j, frozenset(own))
                assert kept == pytest.approx(moment_at_most(left, frozenset()), rel=0.02), layer.id
    assert checked or key not in ("bead_wing", "cut_core", "tail_plate")


@pytest.mark.parametrize("key", ["bead_wing", "folded_wing", "moulded_wing", "keel_skin", "box_fuselage"])
def test_heights_along_a_membrane_have_its_centroid_and_second_moment(key: str) -> None:
    part = CONSTRUCTIONS[key].part()
    with samples(0):
        p = prepared_for(part, Airframe(name="A", all_up_mass_g=600, parts=(part,)).setting)
    g, k = p.geometry, len(p.geometry.y) // 3
    for i, m in enumerate(p.elements.membranes):
        length = g.skin[i, 0, k]
        if not g.skin_on[i, k] or length <= 0:
            continue
        z = heights_along(p.elements, m, float(g.y[k]), 401)
        share = np.full(401, 1 / 400)
        share[[0, -1]] /= 2
        height = g.skin_high[i, k] - g.skin_low[i, k]
        assert (share * z).sum() == pytest.approx(g.skin[i, 1, k] / length, abs=0.01 * height + 0.06)
        # pieces beside the nose are told by their whole height
        assert z.min() == pytest.approx(g.skin_low[i, k], abs=0.05 * height + 0.7)
        assert z.max() == pytest.approx(g.skin_high[i, k], abs=0.05 * height + 0.7)


def test_a_snap_sees_the_skin_where_it_lies() -> None:
    """The fibres of a snap have the second moment of their film, to what nine places can tell."""
    part = part_of("bead_wing", bars=False)
    with samples(0):
        p = prepared_for(part, Airframe(name="A", all_up_mass_g=600, parts=(part,)).setting)
        g, k = p.geometry, 10
        f = snapped(p.elements, p.draws, g, k)
    film = [i for i, m in enumerate(p.elements.membranes) if g.skin_on[i, k]]
    wanted = sum(float(g.skin[i, 2, k]) * p.elements.membranes[i].thickness_mm for i in film)
    skins = f.line >= 0
    assert float((f.amount * f.z**2)[skins].sum()) == pytest.approx(wanted, rel=0.03)


def test_nodes_keep_length_centroid_and_second_moment_and_lie_within() -> None:
    rng = np.random.default_rng(7)
    for _ in range(200):
        z = np.sort(rng.beta(*rng.uniform(0.3, 3, 2), size=400)) * rng.uniform(1, 40) - rng.uniform(0, 20)
        mean, spread = z.mean(), z.var()
        ends, within = _nodes(*(np.array([v]) for v in (z.min(), z.max(), mean, spread)))
        share, at = (np.concatenate([ends[i], within[i]])[:, 0] for i in (0, 1))
        assert share.min() >= 0
        assert share.sum() == pytest.approx(1)
        assert (share * at).sum() == pytest.approx(mean, abs=1e-6)
        assert (share * (at - mean) ** 2).sum() == pytest.approx(spread, rel=1e-6)
        assert list(at) == pytest.approx([z.min(), z.max(), *sorted(at[2:])])


def test_edgewise_the_moment_is_the_part_s_own_whatever_moduli_its_foam_has() -> None:
    """Foam pressed by another modulus than it is pulled by takes another curvature, not another moment: a plate with a
    stiff bar near its front carries what it does with a film that has torn."""
    bar = BarLayer(id="spar", stock="carbon_strip_5x1", place="middle", root_percent=30, tip_percent=30)
    film = FilmLayer(id="film", skin="tissue_varnish", face="both")
    plate = CONSTRUCTIONS["plate_wing"].part()
    case = default_case("tip_strike", Airframe(name="A", all_up_mass_g=600), plate)
    thin = {"foam": "xps_sheet_6", "root_thickness_mm": 6, "tip_thickness_mm": 6, "cases": (case,)}
    found = []
    for layers in ((bar,), (bar, film)):
        part = plate.model_copy(update=thin | {"layers": layers})
        with samples(0):
            a = analyse(Airframe(name="A", all_up_mass_g=600, parts=(part,)), part, case)
            j = a.judged.judge
        found.append(j.typically(members_of(j.part, 1))[0].most.min() * np.abs(a.loading.edge[0]).max())
    assert found[1] == pytest.approx(found[0], rel=0.01)
