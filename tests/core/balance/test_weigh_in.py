"""Weighing in: what a reading moves and narrows, what replaces what, surprises, sides, lessons, the plan."""

import math

import pytest

from fletcher.core.balance.forecast import Forecast, Known
from fletcher.core.balance.ledger import ledger
from fletcher.core.balance.lessons import lessons_of, together
from fletcher.core.balance.sheet import balance_sheet
from fletcher.core.balance.weighin import weigh_in
from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import FilmLayer
from fletcher.core.document.weighings import STAGES, OnScale, OnSupports, Weighing
from fletcher.core.materials.tables import reference
from fletcher.core.validation.airframe import check
from fletcher.core.validation.weighings import grams_of, sd_of

WARDEN = demo_airframes()[0].model_copy(update={"weighings": ()})
LINES = ledger(WARDEN)


def lines_of(piece, stage="finished", entries=LINES):
    last = STAGES.index(stage)
    return tuple(e.key for e in entries if e.piece == piece and STAGES.index(e.stage) <= last)


def scale(name, lines, grams, **more):
    return Weighing(id=name, lines=lines, reading=OnScale(grams=grams), **more)


RIGHT, LEFT = lines_of("wing/right", "glued"), lines_of("wing/left", "glued")
SKINNED = lines_of("wing/right", "skinned")
HALF = sum(e.line.typ for e in LINES if e.key in RIGHT)
ALL = tuple(e.key for e in LINES)


def told(*weighings, airframe=WARDEN):
    weighed = airframe.model_copy(update={"weighings": weighings})
    assert list(check(weighed, reference())) == []
    return balance_sheet(weighed)


def problems(*weighings):
    return [(p.path, p.message) for p in check(WARDEN.model_copy(update={"weighings": weighings}), reference())]


def test_a_reading_as_expected_moves_next_to_nothing_and_narrows():
    before, after = told(), told(scale("a", RIGHT, HALF))
    assert after.mass_g.typ == pytest.approx(before.mass_g.typ, rel=1e-6)
    assert after.centre_mm.typ == pytest.approx(before.centre_mm.typ, rel=1e-6)
    assert after.mass_g.high - after.mass_g.low < before.mass_g.high - before.mass_g.low
    assert after.weighed.weighings[0].state == "counts" and after.weighed.says.endswith("as planned.")
    assert {line.key for line in after.lines if line.weighed} == set(RIGHT)


def test_one_half_tells_the_other_the_same_way_by_less():
    after = told(scale("a", RIGHT, HALF + 2))
    by_key = {line.key: line.grams.typ for line in after.lines}
    right, left = (sum(by_key[k] for k in keys) for keys in (RIGHT, LEFT))
    assert right == pytest.approx(HALF + 2, abs=0.3)
    assert HALF + 0.3 < left < right
    assert after.weighed.groups[0].group == "foam" and after.weighed.weighed_g == pytest.approx(right)
    assert after.weighed.weighed_planned_g == pytest.approx(HALF)


def test_the_order_of_weighings_of_different_pieces_does_not_matter():
    both = (scale("a", RIGHT, HALF + 1.5), scale("b", lines_of("tail/right"), 7.6))
    one, other = told(*both), told(*both[::-1])
    assert one.mass_g.typ == pytest.approx(other.mass_g.typ) and one.centre_mm.typ == pytest.approx(other.centre_mm.typ)
    assert one.mass_g.high == pytest.approx(other.mass_g.high, rel=1e-3)


def test_after_the_whole_was_weighed_it_weighs_that():
    after = told(scale("a", RIGHT, HALF + 2), scale("all", ALL, 740))
    assert after.mass_g.typ == pytest.approx(740, abs=1.6)
    assert after.weighed.weighings[1].name == "the whole airframe"
    assert after.weighed.next is None or "whole" not in after.weighed.next.says


def test_two_supports_tell_mass_and_centre():
    on = OnSupports(first_g=352, second_g=402, first_cradle_g=12, second_cradle_g=12, first_mm=200, second_mm=430)
    after = told(Weighing(id="a", lines=ALL, reading=on))
    at = (340 * 200 + 390 * 430) / 730
    seen = after.weighed.weighings[0]
    assert seen.grams.typ == 730 and seen.centre_mm.typ == pytest.approx(at)
    assert after.centre_mm.typ == pytest.approx(at, abs=1.0) and after.mass_g.typ == pytest.approx(730, abs=2)
    assert after.centre_mm.high - after.centre_mm.low < 3
    tilted = told(Weighing(id="a", lines=ALL, reading=on.model_copy(update={"nose_up_deg": 3.0})))
    height = tilted.height_mm
    assert tilted.weighed.weighings[0].centre_mm.typ == pytest.approx(
        at - height * math.tan(math.radians(3)), abs=0.05
    )  # fmt: skip


def test_a_later_weighing_of_the_same_replaces_and_one_after_sanding_all_that_it_contains():
    again = told(scale("a", RIGHT, HALF), scale("b", RIGHT, HALF + 2))
    assert [w.state for w in again.weighed.weighings] == ["replaced", "counts"]
    assert again.mass_g == told(scale("b", RIGHT, HALF + 2)).mass_g
    sanded = told(scale("a", RIGHT, HALF + 2), scale("b", SKINNED, HALF + 1, taken_off="sanded", trusted=True))
    assert sanded.weighed.weighings[0].state == "replaced" and sanded.weighed.steps == []


def test_a_surprise_gives_the_piece_its_mass_and_teaches_nothing_until_it_is_trusted():
    plain, heavy = told(), scale("a", RIGHT, HALF + 12)
    odd = told(heavy)
    told_of = odd.weighed.weighings[0]
    assert told_of.state == "surprise" and told_of.off > 2.576 and told_of.questions
    by_key, before = ({line.key: line.grams.typ for line in s.lines} for s in (odd, plain))
    assert sum(by_key[k] for k in RIGHT) == pytest.approx(HALF + 12, rel=1e-6)
    assert [by_key[k] for k in LEFT] == pytest.approx([before[k] for k in LEFT])
    assert odd.weighed.learned == []
    right = told(heavy.model_copy(update={"trusted": True}))
    assert right.weighed.weighings[0].state == "heavy" and right.weighed.learned
    learned = {line.key: line.grams.typ for line in right.lines}
    assert sum(learned[k] for k in LEFT) > HALF + 1
    lighter = told(scale("a", RIGHT, HALF - 15))
    assert lighter.weighed.weighings[0].off < -2.576


def test_what_is_known_of_a_piece_stays_when_a_larger_one_surprises():
    known = scale("a", RIGHT, HALF + 1)
    odd = told(known, scale("b", SKINNED, HALF + 60))
    by_key = {line.key: line.grams.typ for line in odd.lines}
    assert odd.weighed.weighings[1].state == "surprise"
    assert sum(by_key[k] for k in RIGHT) == pytest.approx(HALF + 1, abs=0.5)
    assert sum(by_key[k] for k in SKINNED) == pytest.approx(HALF + 60, abs=0.5)
    light = told(known, scale("b", SKINNED, HALF - 1, trusted=False, taken_off=""))
    assert sum(line.grams.typ for line in light.lines if line.key in SKINNED) == pytest.approx(HALF - 1, abs=0.5)
    assert light.weighed.weighings[0].state == "replaced"


@pytest.mark.parametrize(
    ("lines", "grams", "question"),
    [
        ((*RIGHT, *LEFT), HALF + 0.5, "Did only one half lie on the scale?"),
        (ALL, 726 - 182, "Was this missing: Battery 3 cells, 2200 mAh?"),
        (lines_of("wing/right", "bare"), 31.0, "Is it another foam: Bead foam PP, 25 kg/m³?"),
        (RIGHT, HALF + sum(e.line.typ for e in LINES if e.key in SKINNED and e.stage == "skinned"),
         "Was this still on it: Left wing half, right: Hot laminating film, 75 µm?"),
    ],
)  # fmt: skip
def test_likely_causes_are_asked_for(lines, grams, question):
    asked = told(scale("a", lines, grams)).weighed.weighings[0].questions
    assert question in asked and len(asked) <= 3


def test_a_cradle_that_was_forgotten_is_asked_for():
    on = OnSupports(
        first_g=420, second_g=450, first_cradle_g=70, second_cradle_g=70, first_mm=200, second_mm=430
    )  # fmt: skip
    whole = sum(e.line.typ for e in LINES)
    reading = on.model_copy(update={"second_g": whole + 280 - 420})
    asked = told(Weighing(id="a", lines=ALL, reading=reading)).weighed.weighings[0].questions
    assert "Was a cradle weighed with it?" in asked


def test_left_against_right_is_real_beyond_two_standard_deviations():
    for more, real in ((1.0, False), (3.0, True)):
        found = told(scale("a", RIGHT, HALF + more, stage="glued"), scale("b", LEFT, HALF, stage="glued"))
        (sides,) = found.weighed.sides
        assert sides.real is real and sides.more_g.typ == pytest.approx(more)
        assert ("right one is" in sides.says) is real


def test_a_step_weighed_before_and_after_tells_what_it_added():
    film = sum(e.line.typ for e in LINES if e.key in SKINNED and e.stage == "skinned")
    before, after = scale("a", RIGHT, HALF), scale("b", SKINNED, HALF + film + 1.5)
    found = told(before, after)
    (step,) = found.weighed.steps
    assert step.grams.typ == pytest.approx(film + 1.5) and step.planned_g == pytest.approx(film)
    assert step.name == "skins of Left wing half, right"
    factors = {one.cause: one.factor.typ for one in found.weighed.learned}
    assert 1 < factors["your overlaps of skins"] < 1 + 1.5 / film


def test_what_is_to_be_weighed_next_narrows_the_centre_most():
    found = told().weighed.next
    entries = ledger(WARDEN)
    forecast = Forecast([e.line for e in entries])
    gains = {}
    for piece in {e.piece for e in entries if e.piece}:
        at = [i for i, e in enumerate(entries) if e.piece == piece]
        gains[piece] = forecast.centre()[1] ** 2 - weigh_in(
            entries, [scale("a", tuple(entries[i].key for i in at), forecast.mass(at)[0])]
        ).forecast.centre()[1] ** 2  # fmt: skip
    assert max(gains, key=gains.get) == found.piece == "item/motor/one"
    done = told(scale("a", lines_of("item/motor/one"), 55))
    assert done.weighed.next.piece != found.piece


def test_a_weighing_of_what_is_gone_is_told_and_counts_no_more():
    wing = WARDEN.parts[0]
    bare = wing.model_copy(update={"layers": tuple(x for x in wing.layers if not isinstance(x, FilmLayer))})
    peeled = WARDEN.model_copy(update={"parts": (bare, *WARDEN.parts[1:])})
    found = told(scale("a", SKINNED, HALF + 30), airframe=peeled)
    assert found.weighed.weighings[0].state == "gone"
    assert found.mass_g == told(airframe=peeled).mass_g and found.weighed.says == "Nothing is weighed yet."


def test_a_battery_that_was_weighed_is_moved_at_its_own_mass():
    found = told(scale("a", lines_of("item/battery/one"), 195))
    step = found.plan[0]
    moved = tuple(
        i.model_copy(update={"x_mm": step.to_mm}) if i.id == step.item_id else i for i in WARDEN.equipment
    )  # fmt: skip
    after = told(*(scale("a", lines_of("item/battery/one"), 195),), airframe=WARDEN.model_copy(
        update={"equipment": moved}
    ))  # fmt: skip
    assert after.centre_mm.typ == pytest.approx(step.centre_mm, abs=0.1)


def test_weighings_that_cannot_be_are_refused_by_field():
    early = (scale("a", SKINNED, 70, stage="skinned"), scale("b", SKINNED, 70, stage="glued"))
    assert problems(*early) == [
        ("weighings[1].stage", "must not come before “skinned”, at which the same was weighed already")
    ]
    lost = (scale("a", RIGHT, 53), scale("b", SKINNED, 48))
    assert [p for p, _ in problems(*lost)] == ["weighings[1].reading.grams"] and "53 g" in problems(*lost)[0][1]
    assert problems(lost[0], lost[1].model_copy(update={"taken_off": "scraped"})) == []
    assert problems(scale("a", RIGHT, 53), scale("b", SKINNED, 52)) == []
    on = {"first_g": 100, "second_g": 90, "first_mm": 200, "second_mm": 215}
    assert [p for p, _ in problems(Weighing(id="a", lines=RIGHT, reading=OnSupports(**on)))] == [
        "weighings[0].reading.second_mm"
    ]
    empty = OnSupports(first_g=10, first_cradle_g=10, second_g=0, first_mm=0, second_mm=300)
    under = OnSupports(first_g=100, second_g=5, second_cradle_g=12, first_mm=0, second_mm=300)
    paths = [
        p
        for p, _ in problems(Weighing(id="a", lines=RIGHT, reading=empty), Weighing(id="b", lines=LEFT, reading=under))
    ]
    assert paths == ["weighings[0].reading.first_g", "weighings[1].reading.second_g"]
    assert [p for p, _ in problems(scale("a", RIGHT, 50), scale("a", LEFT, 50))] == ["weighings[1].id"]


def test_a_reading_knows_its_error():
    assert sd_of(scale("a", RIGHT, 420)) == pytest.approx(1.019, abs=5e-4)
    fine = scale("a", RIGHT, 420, step_g=0.1)
    assert sd_of(fine) == pytest.approx(math.sqrt(0.01 / 12 + 0.84**2 + 0.05**2))
    on = OnSupports(first_g=402, second_g=531, first_cradle_g=12, second_cradle_g=12, first_mm=120, second_mm=420)
    pair = Weighing(id="a", lines=RIGHT, reading=on)
    assert grams_of(pair) == 909 and sd_of(pair) > 1.0


def test_the_hand_is_known_from_other_airframes_and_the_block_is_not():
    taught = WARDEN.model_copy(update={"weighings": (scale("a", RIGHT, HALF), scale("b", SKINNED, HALF + 21))})
    lessons = lessons_of(taught)
    assert lessons and all(one.cause.startswith("your ") for one in lessons)
    assert lessons_of(WARDEN) == ()
    own = weigh_in(LINES, taught.weighings).forecast.cause_values()
    again = Forecast([e.line for e in LINES], lessons).cause_values()
    for one in lessons:
        assert again[one.cause] == pytest.approx(own[one.cause], rel=1e-6)
    twice = {k.cause: k for k in together([lessons, lessons])}
    assert all(twice[k.cause].value == pytest.approx(k.value) for k in lessons)
    assert all(twice[k.cause].sd == pytest.approx(k.sd / math.sqrt(2)) for k in lessons)
    before, after = balance_sheet(WARDEN), balance_sheet(WARDEN, lessons)
    skins = [next(g.grams.typ for g in s.groups if g.group == "skins") for s in (before, after)]
    assert skins[1] > skins[0] + 0.2
    assert balance_sheet(WARDEN, [Known("your use of feathers", 3.0, 0.1)]).mass_g == before.mass_g


def test_ounces_and_cradles_taken_off_twice_are_asked_for():
    whole = sum(e.line.typ for e in LINES)
    asked = told(scale("a", ALL, whole / 28.349523125)).weighed.weighings[0].questions
    assert asked == ["Does the scale show ounces?"]
    on = OnSupports(
        first_g=420, second_g=whole - 420, first_cradle_g=70, second_cradle_g=70, first_mm=200, second_mm=430
    )  # fmt: skip
    asked = told(Weighing(id="a", lines=ALL, reading=on)).weighed.weighings[0].questions
    assert "Were the cradles taken off twice?" in asked


def test_a_single_thing_cannot_be_missing_from_itself():
    asked = told(scale("a", lines_of("item/battery/one"), 90)).weighed.weighings[0].questions
    assert not any("missing" in q for q in asked)


def test_a_replaced_weighing_is_one_of_the_same_lines_only():
    inner, outer = scale("a", RIGHT, HALF), scale("b", SKINNED, HALF + 19.5)
    assert [w.state for w in told(inner, outer).weighed.weighings] == ["counts", "counts"]
    same = told(outer, outer.model_copy(update={"id": "c", "taken_off": "peeled"})).weighed.weighings
    assert [w.state for w in same] == ["replaced", "counts"]


@pytest.mark.parametrize("times", [0.002, 0.2, 3.7, 400])
def test_an_absurd_reading_is_a_surprise_and_asks_nothing_that_does_not_explain_it(times):
    for lines in (lines_of("boom/one"), lines_of("wing/right"), lines_of("item/battery/one")):
        grams = times * sum(e.line.typ for e in LINES if e.key in lines)
        seen = told(scale("a", lines, min(max(grams, 0.01), 50_000))).weighed.weighings[0]
        assert seen.state == "surprise"
        assert not any("another foam" in q or "not yet dry" in q for q in seen.questions)
