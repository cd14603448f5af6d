"""Templates: worked checks G1, C1 and P1; every file read back by a library and measured to a tenth of a millimetre."""

from __future__ import annotations

import io
import math
import re
import xml.etree.ElementTree as ET
from datetime import date

import ezdxf
import numpy as np
import pytest
from pypdf import PdfReader

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import WallLayer
from fletcher.core.templates.drawn import templates_of
from fletcher.core.templates.geometry import core_split, gauge_height, outwards, root_face
from fletcher.core.templates.sheets import Stroke, Template, framed
from fletcher.core.templates.write_dxf import as_dxf
from fletcher.core.templates.write_pdf import as_pdf, tiles
from fletcher.core.templates.write_svg import EDGE_MM, as_svg
from tests.core.plan.test_planning import with_part

FLEET = demo_airframes()
MADE = f"made {date(2026, 5, 1)}"


def test_a_dihedral_gauge_as_worked_check_g1():
    assert round(math.degrees(math.atan(5 / 700)), 5) == 0.40925
    assert round(gauge_height(3, 700, 11, 6, 700), 3) == 83.107
    assert round(gauge_height(3, 700, 8, 8, 700), 3) == 73.170 and round(root_face(3, 22), 4) == 1.1530


def test_a_core_is_parted_round_its_web_as_worked_check_c1():
    front, rear, off = core_split(180, 0.30, 2, 1.2)
    assert (round(front, 2), round(rear, 2), round(off, 2)) == (52.85, 124.85, 0.55)
    assert front + rear + 2 + 0.3 == pytest.approx(180)
    assert core_split(180, 0.3, 0.5, 1.2)[2] == 0


def test_paper_is_laid_the_way_that_takes_fewer_sheets_as_worked_check_p1():
    a4, letter = tiles(720, 260, "A4"), tiles(720, 260, "Letter")
    assert (a4.columns, a4.rows, a4.across) == (4, 1, False)
    assert (letter.columns, letter.rows, letter.across) == (3, 2, True)
    assert tiles(50, 50, "A4").count == 1


@pytest.mark.parametrize("turn", [1, -1])
def test_an_outline_is_moved_outwards_by_the_same_all_round(turn):
    box = np.array([(0, 0), (100, 0), (100, 20), (0, 20)], float)[::turn]
    moved = outwards(box, 0.6)
    assert moved.min(axis=0).tolist() == pytest.approx([-0.6, -0.6])
    assert moved.max(axis=0).tolist() == pytest.approx([100.6, 20.6])
    a = np.linspace(0, 2 * np.pi, 400, endpoint=False)[::turn]
    ring = outwards(50 * np.stack([np.cos(a), np.sin(a)], 1), 2)
    assert np.hypot(*ring.T) == pytest.approx(np.full(400, 52), abs=0.01)


def size(strokes: list[Stroke]) -> tuple[float, float]:
    points = np.array([p for s in strokes for p in s.points])
    return tuple(points.max(axis=0) - points.min(axis=0))


def cuts(t: Template) -> list[Stroke]:
    return [s for s in t.strokes if s.sort == "CUT" and s.closed]


def test_a_wire_template_is_the_core_and_half_a_kerf_all_round():
    airframe = with_part("bead_wing")
    part = airframe.parts[0]
    root, tip = (t for t in templates_of(airframe, 1.2) if "wire" in t.key)
    thin, _ = (t for t in templates_of(airframe, 0.0) if "wire" in t.key)
    wide, high = size(cuts(root))
    bare_wide, bare_high = size(cuts(thin))
    assert high == pytest.approx(bare_high + 1.2, abs=0.02) and wide == pytest.approx(bare_wide + 1.2, abs=1.0)
    assert bare_wide <= part.root_chord_mm and size(cuts(tip))[0] < wide
    numbers = [[s.text for s in t.strokes if s.text.isdigit()] for t in (root, tip)]
    assert numbers[0] == numbers[1] == [str(n) for n in range(11)]
    web = WallLayer(id="v", sheet="balsa_light_3", face="web", root_percent=30, tip_percent=30)
    parted = airframe.model_copy(update={"parts": (part.model_copy(update={"layers": (*part.layers, web)}),)})
    assert any("front piece" in n for t in templates_of(parted) for n in t.notes)
    blank = next(t for t in templates_of(parted) if "web" in t.key)
    assert size(cuts(blank))[0] == part.span_mm


@pytest.mark.parametrize("airframe", FLEET, ids=lambda a: a.name)
def test_every_template_has_a_name_of_its_own_a_closed_cut_and_two_bars(airframe):
    found = templates_of(airframe)
    assert len({t.key for t in found}) == len(found) > 0
    for t in found:
        made = framed(t, MADE)
        assert cuts(made) and min(p[0] for s in made.strokes for p in s.points) >= -12
        bars = [s for s in made.strokes if s.sort == "MARK" and len(s.points) == 2]
        long = [math.dist(*s.points) for s in bars]
        assert sum(abs(v - 100) < 1e-9 for v in long) >= 2
        assert size(cuts(made)) == pytest.approx(size(cuts(t)))
        assert any("1:1" in s.text for s in made.strokes) and any(t.part in s.text for s in made.strokes)


def framed_one() -> Template:
    return framed(templates_of(FLEET[0])[0], MADE)


def test_a_dxf_is_read_back_with_its_layers_and_sizes():
    t = framed_one()
    document = ezdxf.read(io.StringIO(as_dxf(t)))
    assert document.units == ezdxf.units.MM and not document.audit().errors
    lines = list(document.modelspace().query("LWPOLYLINE"))
    assert {e.dxf.layer for e in document.modelspace()} >= {"CUT", "MARK", "TEXT"}
    cut = [np.array([p[:2] for p in e.get_points()]) for e in lines if e.dxf.layer == "CUT" and e.closed]
    assert len(cut) == len(cuts(t))
    spans = np.concatenate(cut).max(axis=0) - np.concatenate(cut).min(axis=0)
    assert spans.tolist() == pytest.approx(size(cuts(t)), abs=0.01)
    bars = [math.dist(*[p[:2] for p in e.get_points()]) for e in lines if len(e) == 2]
    assert sum(abs(b - 100) < 0.1 for b in bars) >= 2


def test_an_svg_is_read_back_in_millimetres():
    t = framed_one()
    root = ET.fromstring(as_svg(t))
    x0, _, x1, _ = t.box()
    wide = f"{x1 - x0 + 2 * EDGE_MM:.3f}"
    assert root.get("width") == f"{wide}mm" and root.get("viewBox").split()[2] == wide
    ns = "{http://www.w3.org/2000/svg}"
    cut = [p for p in root.iter(f"{ns}path") if p.get("class") == "CUT"]
    numbers = [float(v) for v in re.findall(r"-?[0-9.]+", cut[0].get("d"))]
    assert max(numbers[::2]) - min(numbers[::2]) == pytest.approx(size([cuts(t)[0]])[0], abs=0.01)


@pytest.mark.parametrize("paper", ["A4", "Letter"])
def test_a_pdf_has_the_sheets_that_it_takes_and_its_bars_are_as_long_as_they_say(paper):
    t = framed_one()
    x0, y0, x1, y1 = t.box()
    laid = tiles(x1 - x0 + 2, y1 - y0 + 2, paper)
    reader = PdfReader(io.BytesIO(as_pdf(t, paper)))
    assert len(reader.pages) == laid.count
    box = reader.pages[0].mediabox
    page = (210, 297) if paper == "A4" else (215.9, 279.4)
    assert sorted((float(box.width), float(box.height))) == pytest.approx(sorted(v / 25.4 * 72 for v in page), abs=0.1)
    assert "print at 100 %" in reader.pages[0].extract_text()
    long = []
    for p in reader.pages:
        data, at = p.get_contents().get_data().decode("latin-1").split(), None
        scale = 72 / 25.4
        for n, word in enumerate(data):
            if word in ("m", "l"):
                here = (float(data[n - 2]), float(data[n - 1]))
                if word == "l" and at is not None:
                    long.append(math.dist(at, here))
                at = here
    # vectors are in millimetres under a matrix, or in points
    assert any(abs(v - 100) < 0.1 or abs(v / scale - 100) < 0.1 for v in long)
