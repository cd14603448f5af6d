"""A piece traced over a photograph: true to size, in the direction of its scale, and honest about the camera."""

from __future__ import annotations

import math

import pytest

from fletcher.core.document.problems import InvalidDocument
from fletcher.core.templates.files import files_from
from fletcher.core.templates.traced import KnownDistance, Trace, look, template_of

SQUARE = ((100, 100), (500, 100), (500, 300), (100, 300))


def trace(outline=SQUARE, scale=((100, 400), (300, 400), 100.0), check=None) -> Trace:
    return Trace(name="Fin", outline=outline, scale=KnownDistance(first=scale[0], second=scale[1], mm=scale[2]),
                 check=check and KnownDistance(first=check[0], second=check[1], mm=check[2]))  # fmt: skip


def test_two_points_set_the_size():
    found = look(trace())
    assert (found.long_mm, found.wide_mm, found.area_dm2) == pytest.approx((200, 100, 2.0))
    assert found.off_percent is None and found.says == ""


@pytest.mark.parametrize("degrees", [-140, -30, 0, 17, 90, 180])
def test_two_points_set_the_direction(degrees):
    """The picture turned by any angle gives the same template."""
    a = math.radians(degrees)

    def turned(p):
        x, y = p[0] - 300, p[1] - 300
        return 1000 + math.cos(a) * x - math.sin(a) * y, 1000 + math.sin(a) * x + math.cos(a) * y

    bare = template_of(trace()).strokes[0].points
    found = template_of(trace(tuple(map(turned, SQUARE)), (turned((100, 400)), turned((300, 400)), 100.0)))
    assert [c for p in found.strokes[0].points for c in p] == pytest.approx([c for p in bare for c in p], abs=0.01)
    assert bare[0] == (0.0, 150.0) and bare[3] == (0.0, 50.0)  # up in the picture is up on the sheet


@pytest.mark.parametrize(("mm", "off", "warns"), [(100.0, 0.0, False), (98.5, 1.5, False), (96.0, 4.2, True),
                                                  (105.0, -4.8, True)])  # fmt: skip
def test_a_second_distance_tells_a_slanting_camera(mm, off, warns):
    found = look(trace(check=((50, 50), (50, 250), mm)))
    assert found.off_percent == pytest.approx(off, abs=0.1)
    assert ("not square to the camera" in found.says) == warns
    notes = template_of(trace(check=((50, 50), (50, 250), mm))).notes
    assert any("not square" in n for n in notes) == warns


@pytest.mark.parametrize(
    ("wrong", "path"),
    [
        ({"outline": ((0, 0), (100, 100), (100, 0), (0, 100))}, "trace.outline"),
        ({"outline": ((0, 0), (100, 100), (200, 200))}, "trace.outline"),
        ({"scale": ((5, 5), (7, 6), 100.0)}, "trace.scale.second"),
        ({"check": ((5, 5), (5, 5), 100.0)}, "trace.check.second"),
    ],
)
def test_what_encloses_nothing_or_has_no_scale_is_named(wrong, path):
    with pytest.raises(InvalidDocument) as refused:
        template_of(trace(**wrong))
    assert [p.path for p in refused.value.problems] == [path]


def test_it_is_saved_like_any_template():
    names = [name for name, data in files_from([template_of(trace())], "Traced.", "A4", pdf=False) if data]
    assert names == ["traced-fin.dxf", "traced-fin.svg"]
