"""Setting cards: worked checks E1, R1 and K1 to the digit; the cards of parts say what the estimate counts."""

from __future__ import annotations

import pytest

from fletcher.core.adhesion.adhesives import adhesives
from fletcher.core.document.airframe import Airframe, FilmLayer, JointLayer, Laminate, Ply, StripLayer, WallLayer
from fletcher.core.estimate.effort import skin_area
from fletcher.core.estimate.report import estimate
from fletcher.core.layup.laminates import SOAK_G_M2, skin_of
from fletcher.core.making.hot_wire import hot_wire
from fletcher.core.making.pressing import devices, pressure_kPa, vacuum_kPa
from fletcher.core.making.resin_mix import largest_cup, mix
from fletcher.core.making.setting_cards import Means, cards_of, coat_card, resin_card, wire_card
from fletcher.core.making.settings import setting
from fletcher.core.materials.tables import reference
from fletcher.core.section.assembly import line_span
from fletcher.core.studies.constructions import CONSTRUCTIONS


def lines(card):
    return {line.name: line.value for line in card.lines}


def test_a_hot_wire_as_worked_check_e1():
    w = hot_wire(65, 4, (180, 120), 700, 0.4)
    assert (round(w.ohm_m, 4), round(w.amps, 4), round(w.volts, 3), round(w.watts, 1)) == (8.7535, 2.7250, 16.697, 45.5)
    assert (w.feed[0], round(w.feed[1], 3), w.ratio) == (4, 2.667, 1.5)
    turned = hot_wire(65, 4, (120, 180), 700, 0.4)
    assert turned.feed == (w.feed[1], w.feed[0]) and turned.ratio == w.ratio


def test_a_lay_up_takes_what_worked_check_r1_says():
    cloth, plies = 49 * 0.18 * 2 + 105 * 0.06, 0.549 * 49 * 0.18 * 2 + 0.487 * 105 * 0.06
    m = mix(cloth, plies, 30 * 0.36, 38, 50)
    assert (round(m.cloth_g, 3), round(m.on_part_g, 3), round(m.mix_g, 3)) == (23.940, 23.552, 30.085)
    assert (round(m.resin_g, 3), round(m.hardener_g, 3), m.cups) == (21.801, 8.284, 1)
    laminate = Laminate(plies=(Ply(cloth="glass_80"),), fibre_percent=40)
    grams = skin_of(laminate, reference()).areal_mass_g_m2.typ - reference().cloths["glass_80"].areal_mass_g_m2.typ
    assert grams == pytest.approx(53.9, abs=SOAK_G_M2.typ + 0.5)  # q = 0.67383, and what the foam soaks up
    assert mix(cloth, plies, 30 * 0.36, None).resin_g is None
    assert [mix(g, g, 0, 38, 15).cups for g in (10, 11, 24)] == [1, 2, 3]
    assert (largest_cup(5), largest_cup(40)) == (15, 50)


def test_a_face_is_pressed_by_so_many_strips_or_clips_as_worked_check_k1():
    assert (devices(12, 400 * 12, "tape_strip_25mm"), devices(12, 400 * 12, "spring_clip")) == (8, 5)
    assert devices(12, 1, "pin") == 1
    with pytest.raises(ValueError, match="unknown device vice"):
        devices(12, 100, "vice")


def test_foam_is_never_pressed_or_sucked_beyond_a_third_of_what_crushes_it():
    for foam in (f for f in reference().foams.values() if f.crush_stress_MPa):
        third = 1e3 * foam.crush_stress_MPa.typ / 3
        for glue in ("contact_foamsafe_clear", "pva_white", "epoxy_5min"):
            kPa, foam_rules = pressure_kPa(glue, foam)
            wants = setting("clamp", glue, "pressure").typ
            assert kPa <= third + 1e-9 and (foam_rules or kPa == wants) and not (foam_rules and third > wants)
    bead = reference().foams["epp_20"]
    assert pressure_kPa("contact_foamsafe_clear", bead) == (pytest.approx(20), True)
    assert pressure_kPa("epoxy_5min", bead) == (6, False) and pressure_kPa("epoxy_5min", None) == (6, False)
    assert pressure_kPa("no_such_glue", bead) is None
    assert vacuum_kPa("EPP", bead) == 14 and vacuum_kPa("PMI", bead) is None
    light = reference().foams["eps_15"]
    assert vacuum_kPa("EPS", light) == min(18, 1e3 * light.crush_stress_MPa.typ / 3)


@pytest.mark.parametrize("key", list(CONSTRUCTIONS))
def test_a_core_that_no_wire_may_cut_has_no_wire_card(key):
    part = CONSTRUCTIONS[key].part()
    card = wire_card(part, Means())
    cut = part.foam is not None and reference().foams[part.foam].hot_wire
    assert card is None or cut
    if card is not None:
        assert lines(card).keys() >= {"Wire", "Supply", "Kerf"} and "isolated" in card.do[0]


def test_a_tapered_panel_runs_at_two_feeds_and_a_sharp_one_is_cut_in_two():
    part = CONSTRUCTIONS["bead_wing"].part()
    even = part.model_copy(update={"root_chord_mm": 200.0, "tip_chord_mm": 200.0})
    assert len({v for k, v in lines(wire_card(even, Means())).items() if k.startswith("Feed")}) == 1
    assert len(wire_card(even, Means()).do) == 1
    taper = even.model_copy(update={"tip_chord_mm": 120.0})
    assert "Two people" in wire_card(taper, Means()).do[-1]
    sharp = even.model_copy(update={"tip_chord_mm": 90.0})
    assert any("cut it in two panels" in d for d in wire_card(sharp, Means()).do)
    wider = even.model_copy(update={"tip_chord_mm": 400.0})
    assert lines(wire_card(wider, Means()))["Feed at the root"] == "1 mm per second"
    assert lines(wire_card(wider, Means()))["Feed at the tip"] == "2 mm per second"


def skinned(layer):
    part = CONSTRUCTIONS["bead_wing"].part()
    return part.model_copy(update={"layers": (*(la for la in part.layers if not isinstance(la, FilmLayer)), layer)})


@pytest.mark.parametrize(
    "skin", ["glass_49", Laminate(plies=(Ply(cloth="glass_49"), Ply(cloth="glass_25", angle_deg=45)))]
)
def test_resin_on_the_card_is_the_resin_of_the_estimate(skin):
    strip = StripLayer(id="s", skin=skin, face="both", width_mm=60, root_percent=40, tip_percent=40)
    part = skinned(strip)
    bare = part.model_copy(update={"layers": part.layers[:-1]})
    grams = [
        estimate(Airframe(name="t", all_up_mass_g=900, parts=(p,)), p.id, p.cases[0].id).mass_g.typ
        for p in (part, bare)
    ]
    found = lines(resin_card(strip, part, Means(hardener_parts=38)))
    cloth, resin = (float(found[k].split(" g")[0]) for k in ("Cloth", "Resin on the part"))
    assert cloth + resin == pytest.approx(grams[0] - grams[1], rel=0.02)
    whole = float(found["Mix"].split(" g")[0])
    assert whole == pytest.approx(1.15 * resin + 3, rel=0.01)
    a, b = (float(w.split(" g")[0]) for w in found["Weigh"].split(" + "))
    assert b / a == pytest.approx(0.38, rel=0.01) and a + b == pytest.approx(whole, rel=0.01)


def test_a_warm_shop_shortens_the_pot_and_a_large_lay_up_is_mixed_in_cups():
    film = FilmLayer(id="f", skin="glass_163", face="both", plies=3)
    cool, warm = (resin_card(film, skinned(film), Means(warmth_C=t)) for t in (20, 30))
    assert float(lines(warm)["Pot life"].split()[0]) < float(lines(cool)["Pot life"].split()[0])
    assert "cups" in lines(cool)["Mix"] and "Weigh" not in lines(cool)
    assert resin_card(FilmLayer(id="f", skin="lamfilm_38"), skinned(film), Means()) is None


def test_under_vacuum_the_gauge_and_the_time_to_it_are_told():
    film = FilmLayer(id="f", skin=Laminate(plies=(Ply(cloth="glass_49"),), method="vacuum"), face="both")
    found = lines(resin_card(film, skinned(film), Means()))
    assert found["Vacuum"].startswith("14 kPa") and "Vacuum on within" in found
    pot = float(found["Pot life"].split()[0])
    assert float(found["Vacuum on within"].split()[0]) == pytest.approx(3 * pot, abs=2)


def test_paint_is_put_on_in_coats_and_weighs_what_the_estimate_says():
    film = FilmLayer(id="f", skin="paint_spray", face="both")
    card = coat_card(film, skinned(film))
    assert lines(card)["Coats"].startswith("2, ") and "window" in card.do[-1]
    assert coat_card(FilmLayer(id="f", skin="lamfilm_38"), skinned(film)) is None
    one = coat_card(FilmLayer(id="f", skin="filler_light", face="upper"), skinned(film))
    assert lines(one)["Coats"] == "1"


def test_a_stick_is_as_hot_as_the_foam_takes_and_contact_glue_is_pressed_by_hand():
    part = CONSTRUCTIONS["bead_wing"].part()
    bar = next(la for la in part.layers if la.type == "bar")
    (gun,) = cards_of(bar, part, "hotmelt_low", Means())
    assert gun.kind == "glue_gun" and lines(gun)["Nozzle"].startswith("165 °C; 140 to 190 °C")
    assert lines(gun)["Open for"].startswith("24 s") and "a metre" in lines(gun)["Bead"]
    assert lines(gun)["Longest bead"].startswith("596 mm") and "stretches" not in " ".join(gun.do)
    longer = part.model_copy(update={"span_mm": 1500.0})
    assert "3 stretches" in " ".join(
        cards_of(bar.model_copy(update={"end_mm": None}), longer, "hotmelt_low", Means())[0].do
    )
    (contact,) = cards_of(bar, part, "contact_foamsafe_clear", Means())
    assert "Press by hand and roll" in contact.do[-1] and lines(contact)["Air it"] == "10 min"
    assert cards_of(bar, part, None, Means()) == [] and cards_of(bar, part, "unknown", Means()) == []
    wall = WallLayer(id="w", sheet="balsa_light_1.5", face="upper")
    sheeted = part.model_copy(update={"layers": (*part.layers, wall)})
    (pva,) = cards_of(wall, sheeted, "pva_white", Means())
    assert "spring clips" in lines(pva)["That is"] and lines(pva)["Glue"].startswith("about ")
    assert (
        next(iter(cards_of(JointLayer(id="j", joint={"kind": "bond", "of": "x"}), part, "epoxy_5min", Means()))).kind
        == "glue"
    )


def test_a_pass_of_the_iron_takes_what_sole_and_speed_make_of_the_area():
    part = CONSTRUCTIONS["bead_wing"].part()
    film = next(la for la in part.layers if isinstance(la, FilmLayer))
    (card,) = cards_of(film, part, None, Means())
    minutes = skin_area(film, part) / (60 * 20 * 0.7 * 60)
    assert minutes > 1.5 and lines(card)["One pass"].startswith(f"{minutes:.0f} min")
    dial = cards_of(film, part, None, Means(probe=False))[0]
    assert "measure it to go hotter" in dial.do[-1]


def test_a_cup_that_thickens_too_soon_is_foretold_and_glue_is_weighed():
    film = FilmLayer(id="f", skin="glass_49", face="both")
    part = skinned(film)
    slow, hot = (resin_card(film, part, Means(warmth_C=t)) for t in (20, 34))
    assert not any("thickens" in d for d in slow.do) and any("thickens" in d for d in hot.do)
    minutes = 0.9 * skin_area(film, part) / 1e4
    assert lines(slow)["Wetting out"] == f"about {minutes:.0f} min of work"
    assert 0.7 * float(lines(hot)["Pot life"].split()[0]) < minutes < 0.7 * float(lines(slow)["Pot life"].split()[0])
    bar = next(la for la in part.layers if la.type == "bar")
    (card,) = cards_of(bar, part, "epoxy_30min", Means())
    wide, high = reference().bars[bar.stock].size(bar.on_edge)
    start, end = line_span(bar, part)
    area = (wide + 2 * high) * (end - start) * (2 if bar.place == "pair" else 1)
    grams = adhesives()["epoxy_30min"].spread_g_m2.typ * area * 1e-6
    assert float(lines(card)["Glue"].split()[1]) == pytest.approx(grams, rel=0.01)
