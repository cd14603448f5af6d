"""Ribs and formers as pieces: what is cut is what is weighed, and what passes has its slot."""

from __future__ import annotations

import math

import numpy as np
import pytest

from fletcher.core.document.airframe import Airframe, BarLayer
from fletcher.core.estimate.prepare import prepared_for
from fletcher.core.making.formers import formers_of
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import samples
from fletcher.core.studies.constructions import CONSTRUCTIONS

STOCK = reference()


def test_a_part_with_a_core_or_without_ribs_has_none():
    assert formers_of(CONSTRUCTIONS["cut_core"].part(), STOCK) == []
    assert formers_of(CONSTRUCTIONS["box_fuselage"].part(), STOCK) == []


def test_a_round_former_is_the_ellipse_under_its_skin_less_its_opening(proof):
    """Skin above and below alone: the ellipse's height less two skins; grams by area, sheet and opening."""
    part = CONSTRUCTIONS["formers_skin"].part()
    (skin,) = (la for la in part.layers if la.type == "wall" and la.face == "both")
    t = STOCK.sheets[skin.sheet].thickness_mm.typ
    first = formers_of(part, STOCK)[0]
    proof("former, height", first.width_mm, part.root_thickness_mm - 2 * t, 0.01)
    area = math.pi / 4 * part.root_chord_mm * part.root_thickness_mm - 2 * t * part.root_chord_mm
    grams = area * (1 - part.rib_open_percent / 100) * STOCK.sheets[part.rib_sheet].areal_mass_g_m2.typ * 1e-6
    proof("former, grams", float(first.says.split(" g")[0]), grams, 0.03)
    opening = np.array(first.lines[0].points)
    outline = np.array(first.outline)
    assert np.ptp(opening[:, 0]) / np.ptp(outline[:, 0]) == pytest.approx(math.sqrt(part.rib_open_percent / 100), 1e-3)


@pytest.mark.parametrize("key", ["formers_skin", "keel_skin"])
def test_what_is_cut_is_what_the_estimate_weighs(key, proof):
    part = CONSTRUCTIONS[key].part()
    with samples(0):
        weighed = float(prepared_for(part, Airframe(name="A", all_up_mass_g=600).setting).grams[-1, 0])
    cut = sum(p.count * float(p.says.split(" g")[0]) for p in formers_of(part, STOCK)) / part.count
    assert 0.85 * weighed < cut < weighed  # the estimate takes them to the outside of the skin


def test_a_web_gets_a_slot_of_its_thickness_to_half_of_the_depth_where_it_stands():
    part = CONSTRUCTIONS["keel_skin"].part()
    web = next(la for la in part.layers if la.type == "wall" and la.face == "web")
    first = formers_of(part, STOCK)[0]
    slot = np.array(next(line for line in first.lines if "slot" in line.says).points)
    t = STOCK.sheets[web.sheet].thickness_mm.typ
    assert np.ptp(slot[:, 1]) == pytest.approx(t, abs=0.02)
    assert slot[:, 1].mean() == pytest.approx(web.root_percent / 100 * part.root_chord_mm, abs=0.1)
    assert np.ptp(slot[:, 0]) == pytest.approx(first.width_mm / 2, rel=0.05)


def test_alike_formers_are_one_drawing_and_bars_have_holes_or_notches():
    part = CONSTRUCTIONS["formers_skin"].part()
    straight = part.model_copy(update={
        "tip_chord_mm": part.root_chord_mm, "tip_thickness_mm": part.root_thickness_mm, "tip_setback_mm": 0.0,
        "layers": tuple(la for la in part.layers if la.type == "wall"),
    })  # fmt: skip
    (one,) = formers_of(straight, STOCK)
    assert one.count == (part.bays + 1) * part.count
    told = [line.says for line in formers_of(part, STOCK)[0].lines if "from the left" in line.says]
    bars = sum(2 if la.place == "pair" else 1 for la in part.layers if la.type == "bar")
    assert len(told) == bars and all(t.startswith(("hole", "notch")) for t in told)


def test_holes_are_as_large_as_their_bars_with_room_to_pass(proof):
    part = CONSTRUCTIONS["keel_skin"].part()
    rod = BarLayer(id="rod", stock="carbon_rod_4", place="middle", root_percent=40, tip_percent=40)
    with_rod = part.model_copy(update={"layers": (*(la for la in part.layers if la.type == "wall"), rod)})
    first = formers_of(with_rod, STOCK)[0]
    hole = next(line for line in first.lines if line.says.startswith("hole for"))
    points = np.array(hole.points)
    proof("hole for a rod of 4, high", float(np.ptp(points[:, 0])), 4.4, 0.01)
    proof("hole for a rod of 4, wide", float(np.ptp(points[:, 1])), 4.4, 0.01)
    proof("hole for a rod of 4, from the left", float(points[:-1, 1].mean()), 0.4 * part.root_chord_mm, 0.01)
    assert first.lines[0].says == f"opening: {part.rib_open_percent:.0f} % of its area"
