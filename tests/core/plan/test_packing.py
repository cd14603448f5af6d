"""Rectangles out of sheets: worked checks N1 and N2, and laws that hold for any list."""

from __future__ import annotations

from itertools import combinations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fletcher.core.plan import packing
from fletcher.core.plan.packing import Rect, Sheet, TooLarge, left_of, pack, plain

BOARD = Sheet(1000, 500)


def lay(*sizes: tuple[float, float, int], turns: bool = False) -> list[Rect]:
    return [Rect(a, b, turns) for a, b, count in sizes for _ in range(count)]


def require_sound(layout, pieces, kerf):
    """Every piece once, inside its sheet, a kerf between any two."""
    assert sorted(p.piece for _, on in layout.sheets for p in on) == list(range(len(pieces)))
    for sheet, on in layout.sheets:
        for p in on:
            size = (pieces[p.piece].long_mm, pieces[p.piece].wide_mm)
            assert (p.long_mm, p.wide_mm) == size or (pieces[p.piece].turns and (p.wide_mm, p.long_mm) == size)
            assert p.x >= 0 and p.y >= 0
            assert p.x + p.long_mm <= sheet.long_mm + 0.11 and p.y + p.wide_mm <= sheet.wide_mm + 0.11
        for a, b in combinations(on, 2):
            apart = max(b.x - a.x - a.long_mm, a.x - b.x - b.long_mm, b.y - a.y - a.wide_mm, a.y - b.y - b.wide_mm)
            assert apart >= kerf - 1e-6


def test_without_turning_a_kerf_costs_a_sheet_and_two_are_proved_too_few():
    """Worked check N1."""
    pieces = lay((520, 110, 4), (480, 90, 4), (300, 160, 2))
    sheet = Sheet(1000, 300)
    without, with_kerf = pack(pieces, sheet, kerf_mm=0), pack(pieces, sheet, kerf_mm=2)
    assert (without.bought, without.least) == (2, 2) and (with_kerf.bought, with_kerf.least) == (3, 3)
    require_sound(without, pieces, 0)
    require_sound(with_kerf, pieces, 2)


def test_a_full_sheet_is_found_where_the_packer_takes_one_more(monkeypatch):
    """Worked check N2."""
    monkeypatch.setattr(packing, "SECONDS", 60.0)  # a busy machine finds it later
    pieces = lay((500, 280, 3), (420, 240, 2), (460, 120, 3), (470, 170, 2), turns=True)
    found = pack(pieces, BOARD, kerf_mm=2)
    assert (found.bought, found.least, plain(pieces, BOARD, kerf_mm=2).bought) == (2, 2, 3)
    require_sound(found, pieces, 2)


def test_own_sheets_come_first_and_the_smallest_that_fits():
    pieces = lay((400, 200, 2), (900, 400, 1))
    own = [Sheet(450, 450, own=True), Sheet(300, 100, own=True)]
    found = pack(pieces, BOARD, own, 1)
    assert found.bought == 1 and sum(s.own for s, _ in found.sheets) == 1
    require_sound(found, pieces, 1)
    assert pack(lay((400, 200, 2)), BOARD, own, 1).bought == 0


def test_a_piece_that_fits_on_nothing_is_named_and_grain_forbids_turning():
    with pytest.raises(TooLarge) as told:
        pack(lay((300, 100, 1), (400, 600, 1)), BOARD)
    assert told.value.piece == 1
    assert pack(lay((400, 600, 1), turns=True), BOARD).bought == 1
    assert pack([], BOARD).sheets == ()


def test_what_is_left_is_the_largest_rectangle_of_the_rest():
    found = pack(lay((600, 500, 1)), BOARD, kerf_mm=2)
    assert left_of(BOARD, found.sheets[0][1], 2) == (398, 500)
    assert left_of(BOARD, (), 2) == (1000, 500)
    full = pack(lay((1000, 500, 1)), BOARD)
    assert left_of(BOARD, full.sheets[0][1], 0) == (0, 0)
    corner = pack(lay((600, 300, 1)), BOARD)
    assert left_of(BOARD, corner.sheets[0][1], 0) in ((1000, 200), (400, 500))


SIZES = st.tuples(st.integers(20, 500), st.integers(20, 400), st.booleans())


@given(st.lists(SIZES, min_size=1, max_size=14), st.sampled_from([0.0, 1.0, 2.5]))
@settings(max_examples=25, deadline=None)
def test_no_list_takes_more_than_the_plain_packer_nor_less_than_its_area(sizes, kerf):
    turns = sizes[0][2]
    pieces = [Rect(float(a), float(b), turns) for a, b, _ in sizes]
    found = pack(pieces, BOARD, kerf_mm=kerf)
    require_sound(found, pieces, kerf)
    area = sum(p.long_mm * p.wide_mm for p in pieces)
    assert area / (1000 * 500) <= found.bought <= plain(pieces, BOARD, kerf_mm=kerf).bought
    assert found.least <= found.bought
    for sheet, on in found.sheets:
        long, wide = left_of(sheet, on, kerf)
        assert 0 <= long <= 1000 and 0 <= wide <= 500
