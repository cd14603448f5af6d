"""What is remembered of solved stations: so many, and those that were asked for last."""

from __future__ import annotations

import pytest

from fletcher.core.section import solution_cache
from fletcher.core.section.solution_cache import _Solved


@pytest.fixture
def solved_now(monkeypatch) -> list[list[str]]:
    """What is solved, call by call; letters stand for stations."""
    calls: list[list[str]] = []

    def solve(stations: list[str]) -> list[str]:
        calls.append(list(stations))
        return [s.upper() for s in stations]

    monkeypatch.setattr(solution_cache, "solve_all", solve)
    return calls


def test_a_station_is_solved_once_and_those_asked_for_last_stay(solved_now):
    kept = _Solved(3)
    assert kept.of(["a", "b", "a", "c"]) == ["A", "B", "A", "C"]
    assert kept.of(["a"]) == ["A"] and solved_now == [["a", "b", "c"]]
    assert kept.of(["d", "d"]) == ["D", "D"]  # b has not been asked for the longest
    assert kept.of(["a", "c", "d"]) == ["A", "C", "D"] and solved_now[1:] == [["d"]]
    assert kept.of(["b"]) == ["B"] and solved_now[2:] == [["b"]] and len(kept.known) == 3


def test_more_than_is_kept_is_answered_all_the_same(solved_now):
    kept = _Solved(2)
    assert kept.of(list("abcd")) == list("ABCD") and list(kept.known) == ["c", "d"]
