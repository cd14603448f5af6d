"""Coordinate files in both layouts, torn ones, and sections through points against the closed form they sample."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.aerofoil import read_coordinates, write_coordinates
from fletcher.core.document.airframe import FilmLayer
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.document.shapes import FourDigitSection
from fletcher.core.section.outline import FourDigit, Points, faces
from fletcher.core.structure.lift import pitching_moment
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.validation.airframe import read
from tests.core.factories import PULL_UP, run

FAMILY = FourDigit(0.02, 0.4)


def sampled(points=41, depth=0.12):
    x = 0.5 * (1 - np.cos(np.linspace(0, np.pi, points)))
    lower, upper = faces(FAMILY, x, np.array(1.0), np.array(depth))
    return x, upper, lower


def round_file(x, upper, lower, scale=1.0, turn=0.0):
    run_ = [*zip(x[::-1], upper[::-1], strict=True), *list(zip(x, lower, strict=True))[1:]]
    c, s = np.cos(turn), np.sin(turn)
    rows = [f"{scale * (c * a - s * b):.7f}  {scale * (s * a + c * b):.7f}" for a, b in run_]
    return "Marsh 12\n" + "\n".join(rows) + "\n"


def face_file(x, upper, lower):
    rows = [f"{a:.7f} {b:.7f}" for a, b in zip(x, upper, strict=True)]
    rows += ["", *(f"{a:.7f} {b:.7f}" for a, b in zip(x, lower, strict=True))]
    return f"Marsh 12\n {len(x)}. {len(x)}.\n\n" + "\n".join(rows)


def outline(section):
    return Points(section.upper, section.lower)


@pytest.mark.parametrize("layout", [round_file, face_file])
def test_both_layouts_give_the_same_section(layout):
    section = read_coordinates(layout(*sampled()))
    assert section.name == "Marsh 12"
    at = np.linspace(0.01, 0.99, 60)
    found = faces(outline(section), at, np.array(150.0), np.array(18.0))
    expected = faces(FAMILY, at, np.array(150.0), np.array(18.0))
    for a, b in zip(found, expected, strict=True):
        assert a == pytest.approx(b, abs=0.05)


@settings(max_examples=25, deadline=None)
@given(st.floats(0.01, 5000), st.floats(-0.1, 0.1))
def test_scale_and_a_slanting_chord_do_not_matter(scale, turn):
    section = read_coordinates(round_file(*sampled(), scale=scale, turn=turn))
    assert outline(section).thickness_ratio == pytest.approx(0.12, rel=0.03)
    assert section.upper[0] == (0.0, 0.0) and section.upper[-1][0] == section.lower[-1][0] == 1.0


def test_a_round_in_millimetres_that_starts_with_whole_numbers_is_not_taken_for_counts():
    x, upper, lower = sampled(21)
    rows = round_file(x, upper + 0.01 * x, lower - 0.01 * x, scale=200).splitlines()
    rows[1] = "200  2"
    assert outline(read_coordinates("\n".join(rows))).thickness_ratio > 0.12


def test_a_wing_with_points_is_the_wing_with_the_family():
    base = CONSTRUCTIONS["bead_wing"].part()
    assert isinstance(base.section, FourDigitSection)
    section = read_coordinates(round_file(*sampled(81)))
    one, other = (run(base.model_copy(update={"section": s}), PULL_UP) for s in (base.section, section))
    for pick in (
        lambda a: a.prepared.sums.whole_EI[0, 0],
        lambda a: a.prepared.fields.torsion[0, 0],
        lambda a: a.deflection[0, -1],
        lambda a: a.prepared.line_mass[:, 0].sum(),
    ):
        assert pick(other) == pytest.approx(pick(one), rel=0.02)
    assert other.twist[0, -1] == pytest.approx(one.twist[0, -1], abs=0.03)


def test_film_on_both_faces_closes_round_the_points_of_a_file():
    section = read_coordinates(round_file(*sampled()))
    film = (FilmLayer(id="f", skin="lamfilm_75", face="both"),)
    part = CONSTRUCTIONS["bead_wing"].part().model_copy(update={"section": section, "layers": film})
    closed = run(part, PULL_UP).prepared.fields.torsion[0, 0]
    bare = run(part.model_copy(update={"layers": ()}), PULL_UP).prepared.fields.torsion[0, 0]
    assert closed > 4 * bare


def test_written_and_read_again_it_is_the_same():
    section = read_coordinates(round_file(*sampled()))
    again = read_coordinates(write_coordinates(section))
    assert np.allclose(np.array(again.upper), np.array(section.upper), atol=2e-6)
    assert np.allclose(np.array(again.lower), np.array(section.lower), atol=2e-6)


def test_pitching_moment_of_known_camber_lines():
    """2 % camber at 40 %: −0.0531 (thin-aerofoil theory); none without camber; twice for twice."""
    assert pitching_moment(FAMILY) == pytest.approx(-0.0531, abs=0.0006)
    assert pitching_moment(FourDigit(0.0, 0.4)) == pytest.approx(0, abs=1e-12)
    assert pitching_moment(FourDigit(0.04, 0.4)) == pytest.approx(2 * pitching_moment(FAMILY), rel=1e-9)


GOOD = round_file(*sampled(15)).splitlines()


def spoiled(change):
    lines = list(GOOD)
    change(lines)
    return "\n".join(lines)


@pytest.mark.parametrize(
    ("text", "where", "says"),
    [
        ("", "file", "0 points"),
        (spoiled(lambda r: r.__setitem__(5, "0.8 nonsense")), "line 6", "two numbers"),
        (spoiled(lambda r: r.__setitem__(5, "0.8 0.1 0.2")), "line 6", "3 numbers"),
        (spoiled(lambda r: r.__setitem__(5, "nan 0.1")), "line 6", "ordinary numbers"),
        (spoiled(lambda r: r.__setitem__(slice(4, 6), [r[5], r[4]])), "line 6", "out of order"),
        ("\n".join(GOOD[:14]), "line", "one face or its point count is missing"),
        ("\n".join(GOOD[:-3]), "line", "ends"),
        (face_file(*sampled(15)).rsplit("\n", 3)[0], "line", "cut off"),
        (spoiled(lambda r: r.__setitem__(22, r[22].split()[0] + " 0.3")), "line", "crosses"),
        (
            "flat\n" + "\n".join(f"{x} 0" for x in [1, 0.8, 0.6, 0.3, 0.1, 0, 0.1, 0.3, 0.6, 0.8, 1]),
            "file",
            "too thin",
        ),
        ("x" * 200_000, "file", "too large"),
    ],
)
def test_a_spoiled_file_is_refused_by_its_line(text, where, says):
    with pytest.raises(InvalidDocument) as refused:
        read_coordinates(text)
    problem = refused.value.problems[0]
    assert problem.path.startswith(where) and says in problem.message, problem


def test_a_document_with_crossing_or_turned_points_is_refused():
    data = demo_airframes()[0].model_dump(mode="json")
    section = read_coordinates(round_file(*sampled(15))).model_dump(mode="json")
    for name, change, path in (
        ("swap", lambda s: s.update(upper=s["lower"], lower=s["upper"]), "section.lower"),
        ("back", lambda s: s["upper"].__setitem__(3, [0.9, 0.01]), "section.upper[4]"),
        ("short", lambda s: s.update(lower=s["lower"][:4]), "section.lower"),
        ("nan", lambda s: s["lower"].__setitem__(2, [0.2, float("nan")]), "section.lower[2]"),
    ):
        broken = {**section, "upper": list(section["upper"]), "lower": list(section["lower"])}
        change(broken)
        data["parts"][0]["section"] = broken
        with pytest.raises(InvalidDocument) as refused:
            read(data)
        assert any(path in p.path for p in refused.value.problems), (name, refused.value.problems)
