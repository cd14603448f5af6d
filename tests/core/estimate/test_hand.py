"""What a part does in the hand: the elastica, work under the moment line, words that do not hang on the samples."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from scipy.special import ellipe, ellipeinc, ellipk, ellipkinc

from fletcher.core.document.airframe import Airframe, FilmLayer, StripLayer, Targets
from fletcher.core.document.cases import Between, ThreePointCase
from fletcher.core.estimate.dents import COATINGS, PUNCH_MM, dent_load, hardened, plastic_moment
from fletcher.core.estimate.prepare import prepared_for
from fletcher.core.estimate.report import estimate
from fletcher.core.estimate.toughness import HAND_DEPTHS, toughness_of
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import samples
from fletcher.core.section.elastica import POINTS, bend_strip
from fletcher.core.section.setting import Setting
from fletcher.core.section.snap import FOLD_STRAIN, snap
from fletcher.core.studies.constructions import CONSTRUCTIONS
from tests.core.factories import catalogue, exact, foam, plank, run

CORED = [key for key, c in CONSTRUCTIONS.items() if c.foam is not None]


def elastica(slope: float) -> tuple[float, float, float]:
    """P L²/EI, deflection and reach over the length of a cantilever whose end has this slope (Bisshopp & Drucker)."""
    m = (1 + np.sin(slope)) / 2
    start = np.arcsin(1 / np.sqrt(2 * m))
    alpha = ellipk(m) - ellipkinc(start, m)
    across = 1 - 2 / alpha * (ellipe(m) - ellipeinc(start, m))
    return alpha**2, across, np.sqrt(2 * np.sin(slope)) / alpha


@pytest.mark.parametrize("degrees", [5, 20, 40, 55, 70, 80])
def test_a_strip_bent_far_is_the_elastica(degrees, proof):
    length, EI = 500.0, 2e6
    load, across, reach = elastica(np.radians(degrees))
    P = load * EI / length**2
    found = bend_strip(lambda M: M / EI, length, P * reach * length)
    assert found is not None
    name = f"strip bent to {degrees}° at its end:"
    proof(f"{name} load", found.load_N, P, 0.01)
    proof(f"{name} deflection", found.across_mm, across * length, 0.01)
    proof(f"{name} slope", np.degrees(found.slope), degrees, 0.01)
    assert length - found.drawn_in_mm == pytest.approx(reach * length, rel=0.01)
    steps = np.hypot(np.diff(found.x), np.diff(found.z))
    assert steps == pytest.approx(np.full(POINTS - 1, length / (POINTS - 1)), rel=1e-4), "it does not stretch"


def test_a_strip_bent_little_is_the_beam_and_one_that_curls_up_has_no_end():
    found = bend_strip(lambda M: M / 2e6, 500.0, 100.0)
    assert found is not None
    assert found.across_mm == pytest.approx(100.0 * 500**2 / (3 * 2e6), rel=1e-3)
    assert bend_strip(lambda M: M / 2e6, 500.0, 1e6) is None


def tough(part, direction="up", materials=None):
    a = run(part, materials=materials)
    k = int(np.argmax(np.abs(a.asked[0])))
    p = a.prepared
    found = toughness_of(a, k, snap(p.elements, p.draws, p.geometry, k))
    return next(t for t in found if t.direction == direction)


def test_work_to_the_first_crack_of_a_linear_plank_is_the_triangle(proof):
    """U = ½ M κ L with M = σ b h²/6 and κ = M/EI."""
    core = replace(foam(E=14, G=5.4), crush_stress_MPa=exact(9.0), tensile_strength_MPa=exact(0.45))
    found = tough(plank(core), materials=catalogue(core))
    moment, EI = 0.45 * 120 * 20**2 / 6, 14 * 120 * 20**3 / 12
    assert not found.folds
    # fibres stand in the middle of thirty-six levels
    proof(
        "work to the first crack of a plank, ½ M²L/EI", found.first_mJ.typ, 0.5 * moment**2 / EI * found.over_mm, 0.03
    )
    proof("its radius then, EI/M", found.radius_mm.typ, EI / moment, 0.02)
    assert found.over_mm == pytest.approx(HAND_DEPTHS * 20, rel=0.05)
    assert found.set_percent == pytest.approx(0, abs=0.5)


def test_a_stiff_plank_that_snaps_is_less_tough_than_a_soft_one_that_folds():
    stiff, soft = (tough(plank(reference().foams[key])) for key in ("xps_40", "epp_30"))
    assert not stiff.folds and soft.folds
    assert soft.first_mJ.typ > 1.3 * stiff.first_mJ.typ
    assert soft.parts_mJ is None and stiff.parts_mJ is not None
    assert 0 < soft.set_percent < 40
    assert soft.radius_mm.typ == pytest.approx(20 / (2 * FOLD_STRAIN), rel=0.1)


def test_a_plank_with_cured_carbon_on_both_faces_breaks_where_it_kinks_and_does_not_fold():
    """U = ½ M κ L to the kink, M = EI κ: far below the work of a plank that folds."""
    core = reference().foams["xps_40"]
    cured = StripLayer(id="c", skin="carbon_ud_100", face="both", width_mm=25, root_percent=50, tip_percent=50)
    for direction in ("up", "down"):
        found = tough(plank(core, cured), direction)
        assert not found.folds and "kinks" in found.what
        assert found.first_mJ.typ < 0.1 * tough(plank(reference().foams["epp_30"])).first_mJ.typ


def test_tape_on_the_pulled_face_adds_work_and_at_last_lets_it_fold():
    core = reference().foams["eps_20"]

    def taped(skin, width):
        strip = StripLayer(id="t", skin=skin, face="lower", width_mm=width, root_percent=50, tip_percent=50)
        return tough(plank(core, strip))

    bare, thin, strong, wide = (
        tough(plank(core)),
        taped("bopp_tape_std", 25),
        taped("filament_tape_uni", 6),
        taped("filament_tape_uni", 25),
    )
    works = [t.first_mJ.typ for t in (bare, thin, strong, wide)]
    assert works == sorted(works) and works[2] > 2.5 * works[0]
    assert bare.parts_mJ is not None and bare.parts_mJ.typ == pytest.approx(works[0]), "bare foam parts where it cracks"
    assert "runs right through" in bare.tear and wide.folds and wide.parts_mJ is None


def test_what_hangs_together_takes_more_work_until_it_parts():
    found = tough(CONSTRUCTIONS["bead_wing"].part())
    assert "stopped" in found.tear and found.parts_mJ is not None
    assert found.parts_mJ.typ > 3 * found.first_mJ.typ
    assert found.parts_mJ.low < found.parts_mJ.typ < found.parts_mJ.high


def test_the_longest_tear_that_stays_is_griffiths(proof):
    core = replace(foam(E=14, G=5.4), family="XPS")
    part = plank(core)
    a = run(part, materials=catalogue(core))
    k = int(np.argmax(np.abs(a.asked[0])))
    found = tough(part, materials=catalogue(core))
    assert found.tear_mm is not None
    stress = abs(a.loading.moment[0, k]) * a.case.safety_factor / (120 * 20**2 / 6)
    from fletcher.core.adhesion.bond_line import tear_table

    length = tear_table()["XPS"].typ * 1e-3 * 14 / (np.pi * (1.12 * stress) ** 2)
    proof("tear that stays put, Γ E/π(1.12 σ)²", found.tear_mm.typ, min(length, 10.0), 0.01)


def test_a_heavier_load_shortens_the_tear_that_stays():
    core = reference().foams["xps_30"]

    def at(grams):
        case = ThreePointCase(id="b", name="b", first_support_mm=10, second_support_mm=490, weight_g=grams)
        return tough(plank(core, cases=(case,))).tear_mm

    light, heavy = at(800), at(3000)
    assert light is not None and heavy is not None and heavy.typ < light.typ


@pytest.mark.parametrize("key", CORED)
def test_the_words_do_not_hang_on_levels_steps_or_samples(key):
    part = CONSTRUCTIONS[key].part()
    airframe = Airframe(name="x", all_up_mass_g=900, parts=(part,))
    p = prepared_for(part, Setting())
    k = len(p.geometry.y) // 3
    words = {
        (levels, steps): [s.manner for s in snap(p.elements, p.draws, p.geometry, k, levels=levels, steps=steps)]
        for levels, steps in ((36, 1), (18, 1), (72, 1), (36, 2), (72, 2))
    }
    assert len({tuple(w) for w in words.values()}) == 1, words
    told = []
    for count in (50, 100, 200):
        with samples(count):
            e = estimate(airframe, part.id)
            told.append([(s.sentence, s.reserve) for s in e.snaps] + [(t.folds, t.tear) for t in e.toughness])
    assert told[0] == told[1] == told[2]


def test_the_target_marks_a_part_that_is_not_tough_enough():
    part = CONSTRUCTIONS["bead_wing"].part()
    now = estimate(Airframe(name="x", all_up_mass_g=900, parts=(part,)), part.id)
    weaker = min(t.first_mJ.typ for t in now.toughness)

    def met(least):
        wanted = part.model_copy(update={"targets": Targets(toughness_mJ=Between(low=least))})
        e = estimate(Airframe(name="x", all_up_mass_g=900, parts=(wanted,)), part.id)
        return next(t for t in e.targets if t.figure == "toughness").met

    assert met(weaker * 3) == "no" and met(weaker / 10) == "sure"


def test_a_brief_estimate_leaves_the_hand_out_and_a_hollow_part_has_no_toughness():
    part = CONSTRUCTIONS["bead_wing"].part()
    airframe = Airframe(name="x", all_up_mass_g=900, parts=(part,))
    assert estimate(airframe, part.id, brief=True).toughness == []
    hollow = CONSTRUCTIONS["folded_wing"].part()
    e = estimate(Airframe(name="x", all_up_mass_g=400, parts=(hollow,)), hollow.id)
    assert e.toughness == [] and e.dents == []


def test_a_dent_in_bare_foam_is_the_punch_on_its_crush_stress(proof):
    crush = np.array([0.1])
    none = np.zeros((0, 1))
    proof("dent in bare foam, π r² σ_c", dent_load(crush, none, np.zeros(0), none)[0], np.pi * PUNCH_MM**2 * 0.1, 1e-9)


def test_the_plastic_moment_of_a_skin_is_a_quarter_and_layers_add_more_than_their_sum(proof):
    s = np.array([[100.0]])
    proof("plastic moment of one layer, σ t²/4", plastic_moment(s, np.array([0.4]))[0], 100 * 0.16 / 4, 1e-9)
    two = plastic_moment(np.array([[100.0], [100.0]]), np.array([0.2, 0.2]))[0]
    proof("the same in two layers", two, 100 * 0.16 / 4, 1e-9)
    mixed = plastic_moment(np.array([[100.0], [300.0]]), np.array([0.2, 0.1]))[0]
    # forces 20 and 30 part evenly within the harder one, a sixth of it below
    assert mixed == pytest.approx(100 * 0.2 * (0.1 + 1 / 60) + 300 * ((1 / 60) ** 2 / 2 + (0.1 - 1 / 60) ** 2 / 2))


def test_dents_rise_with_every_coat_and_with_harder_foam():
    def load(key, *skins):
        layers = [FilmLayer(id=f"s{n}", skin=s, face="both") for n, s in enumerate(skins)]
        part = plank(reference().foams[key], *layers)
        e = estimate(Airframe(name="x", all_up_mass_g=900, parts=(part,)), part.id)
        d = e.dents[0]
        return d.load_N.typ, d.grams, d.bare_N

    bare, none, plain = load("eps_20")
    coat, grams, _ = load("eps_20", "glass_49")
    two, more, _ = load("eps_20", "glass_49", "guard_ply_0.4")
    assert none == 0 and bare == pytest.approx(plain)
    assert bare < coat < two and 0 < grams < more
    assert load("eps_30")[0] > bare


def test_coats_and_guards_are_told_by_load_and_grams():
    part = CONSTRUCTIONS["bead_wing"].part()
    p = prepared_for(part, Setting())
    now = estimate(Airframe(name="x", all_up_mass_g=900, parts=(part,)), part.id).dents[0].load_N.typ
    found = {h.key: h for h in hardened(p, reference())}
    assert len(found) == len(COATINGS)
    for h in found.values():
        assert h.load_N.typ >= now * (1 - 1e-9) and h.grams > 0
        assert h.times == pytest.approx(h.load_N.typ / now, rel=1e-6)
    assert found["guard_ply_0.4"].load_N.typ > found["coat_epoxy_thin"].load_N.typ
    # what is told is what happens when it is laid on
    film = FilmLayer(id="coat", skin="coat_epoxy_thin", face="both")
    coated = part.model_copy(update={"layers": (*part.layers, film)})
    after = estimate(Airframe(name="x", all_up_mass_g=900, parts=(coated,)), part.id)
    assert after.dents[0].load_N.typ == pytest.approx(found["coat_epoxy_thin"].load_N.typ, rel=0.02)
    line = next(v for v in after.lines if v.id == "coat")
    assert line.grams.typ == pytest.approx(found["coat_epoxy_thin"].grams, rel=0.05)
