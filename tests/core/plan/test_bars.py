"""Cutting bars: worked lists (full pattern enumeration, branch and bound, assignment), and laws for any list."""

from __future__ import annotations

import math
from collections import Counter

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fletcher.core.plan import bars
from fletcher.core.plan.bars import Length, TooLong, cut_bars, first_fit, goes_back, naive

B1 = {630: 2, 540: 2, 430: 4, 390: 1, 340: 4, 220: 4}


def honest(found, pieces, stock, kerf):
    """All pieces, each length as often as it is there, nothing cut out of air."""
    assert Counter(mm for c in found.cuts for mm in c.pieces) == Counter(pieces)
    for c in found.cuts:
        assert sum(c.pieces) + kerf * (len(c.pieces) - 1) <= c.stock.mm + 1e-6
    for s in stock:
        if s.there is not None:
            assert sum(c.stock == s for c in found.cuts) <= s.there
    assert found.cost == pytest.approx(sum(c.stock.cost for c in found.cuts))


def test_seven_bars_where_first_fit_takes_eight_and_a_careless_hand_nine():
    stock = [Length(1000, 1.0)]
    found = cut_bars(B1, stock)
    honest(found, B1, stock, 1)
    assert (len(found.cuts), found.least) == (7, 7)
    assert len(first_fit(sorted(B1.items(), reverse=True), stock, 1)) == 8
    assert naive([mm for mm, n in B1.items() for _ in range(n)], 1000) == 9
    assert sum(c.stock.mm - sum(c.pieces) for c in found.cuts) == 310


def test_own_lengths_first():
    pieces = {520: 2, 410: 3, 300: 2, 190: 3, 130: 2}
    own = [Length(620, 0, 1), Length(440, 0, 1), Length(335, 0, 1)]
    found = cut_bars(pieces, [*own, Length(1000, 1.0)])
    honest(found, pieces, [*own, Length(1000, 1.0)], 1)
    assert found.bought == {1000: 3} and found.cost == 3
    assert len(cut_bars(pieces, [Length(1000, 1.0)]).cuts) == 4


def test_the_cheapest_set_of_lengths():
    pieces = {640: 3, 520: 2, 360: 4, 250: 3}
    sold = [Length(750, 30), Length(1000, 42), Length(2000, 76)]
    found = cut_bars(pieces, sold)
    honest(found, pieces, sold, 1)
    assert found.cost == 212 and found.bought == {750: 2, 2000: 2}
    assert [cut_bars(pieces, [s]).cost for s in sold[1:]] == [252, 228]


def test_a_kerf_counts():
    assert len(cut_bars({500: 2}, [Length(1000, 1)], 0).cuts) == 1
    assert len(cut_bars({500: 2}, [Length(1000, 1)], 1).cuts) == 2
    assert len(cut_bars({499.5: 2}, [Length(1000, 1)], 1).cuts) == 1


def test_a_piece_longer_than_all_stock_is_named():
    with pytest.raises(TooLong, match=r"1320 mm is longer than any stock, at most 1000 mm: splice it") as refused:
        cut_bars({1320: 2, 300: 1}, [Length(1000, 1), Length(700, 1)])
    assert (refused.value.mm, refused.value.longest) == (1320, 1000)
    assert cut_bars({}, [Length(1000, 1)]).cuts == ()


def test_a_pattern_that_just_fits_is_generated(monkeypatch):
    monkeypatch.setattr(bars, "MOST_PATTERNS", 0)
    found = cut_bars({599.5: 2, 399.5: 2}, [Length(1000, 1)], 1)
    assert len(found.cuts) == 2 and {len(c.pieces) for c in found.cuts} == {2}
    assert len(cut_bars({599.6: 2, 399.5: 2}, [Length(1000, 1)], 1).cuts) == 3


def test_a_careless_hand_loses_its_kerfs_too():
    assert naive([500, 500], 1000, 1) == 2 and naive([500, 500], 1000, 0) == 1 and naive([499, 500], 1000, 1) == 1


def test_offcuts_go_back_where_they_are_worth_it():
    assert goes_back(120, 1000) and not goes_back(119, 1000)
    assert goes_back(200, 2000) and not goes_back(199, 2000)


def test_generated_patterns_do_as_well_as_all_of_them(monkeypatch):
    pieces = {95.0 + 37 * n: 1 + n % 4 for n in range(12)}
    sold = [Length(1000, 1.0)]
    every = cut_bars(pieces, sold)
    monkeypatch.setattr(bars, "MOST_PATTERNS", 10)
    generated = cut_bars(pieces, sold)
    honest(generated, pieces, sold, 1)
    assert len(generated.cuts) - len(every.cuts) <= 1 and len(every.cuts) >= every.least
    own = [Length(620, 0, 1), Length(440, 0, 2)]
    mixed = cut_bars(pieces, [*own, *sold])
    honest(mixed, pieces, [*own, *sold], 1)
    assert mixed.cost <= generated.cost


@settings(max_examples=30, deadline=None)
@given(
    st.dictionaries(st.integers(40, 990), st.integers(1, 5), min_size=1, max_size=6), st.sampled_from([0.0, 1.0, 2.5])
)
def test_never_more_than_first_fit_never_fewer_than_the_bound_and_offcuts_never_harm(pieces, kerf):
    sold = [Length(1000, 1.0)]
    found = cut_bars(pieces, sold, kerf)
    honest(found, pieces, sold, kerf)
    whole = sum(n * (mm + kerf) for mm, n in pieces.items())
    assert math.ceil(whole / (1000 + kerf) - 1e-9) == found.least <= len(found.cuts)
    assert len(found.cuts) <= len(first_fit(sorted(pieces.items(), reverse=True), sold, kerf))
    with_own = cut_bars(pieces, [Length(500, 0, 1), *sold], kerf)
    honest(with_own, pieces, [Length(500, 0, 1), *sold], kerf)
    assert with_own.cost <= found.cost
