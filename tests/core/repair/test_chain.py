"""The chain of a repair: one pair of hands, waits beside it, the least finish."""

from __future__ import annotations

import itertools
import math
import random

import pytest

from fletcher.core.repair.chain import EXACT, Task, soonest

CHECK = 10.0


def _flies(*tasks: Task) -> float:
    return soonest((Task(6.0), *tasks), CHECK).flies


def test_a_sleeve_a_seam_and_tape() -> None:
    """REPAIR T1: typical waits between steps, the high end of every glue before the check."""
    sleeve, seam, tape = (
        Task(15.0, ((0, 0.0),), 31.0), Task(8.0, ((1, 12.0),), 5.0), Task(9.0, ((2, 1.0),)),
    )  # fmt: skip
    assert _flies(sleeve, seam, tape) == pytest.approx(62)


def test_a_hinge_fits_into_the_cooling_of_a_dent() -> None:
    """REPAIR T2."""
    dent = Task(12.0, ((0, 0.0),))
    sleeve, seam = Task(15.0, ((1, 20.0),), 31.0), Task(8.0, ((2, 12.0),), 5.0)
    tape, hinge = Task(9.0, ((3, 1.0),)), Task(8.0, ((0, 0.0),))
    chain = soonest((Task(6.0), dent, sleeve, seam, tape, hinge), CHECK)
    assert chain.flies == pytest.approx(94)
    assert 18 <= chain.starts[5] <= 76, "the hinge is taped while something else cools or sets"


def test_contact_cement_is_aired_before_it_is_closed() -> None:
    """REPAIR T3."""
    clean, coat = Task(5.0, ((0, 0.0),)), Task(5.0, ((1, 0.0),))
    close, tape = Task(2.0, ((2, 10.0),), open=20.0), Task(9.0, ((3, 0.0),))
    assert _flies(clean, coat, close, tape) == pytest.approx(47)


def test_a_cold_polyurethane_seam() -> None:
    """REPAIR T4: 159 minutes after the start."""
    assert _flies(Task(10.0, ((0, 0.0),), 133.0), Task(9.0, ((1, 46.0),))) == pytest.approx(159)


def test_one_pair_of_hands_governs() -> None:
    """REPAIR T5: any order gives 77, the longest chain alone only 67."""
    assert _flies(Task(20.0, ((0, 0.0),), 31.0), Task(25.0, ((0, 0.0),), 5.0), Task(15.0, ((0, 0.0),), 1.0)) == (
        pytest.approx(77)
    )


def test_what_has_to_set_longest_is_glued_first() -> None:
    """Three seams of ten minutes each, one of which sets for an hour."""
    chain = soonest([Task(10.0, (), 5.0), Task(10.0, (), 60.0), Task(10.0, (), 1.0)])
    assert chain.order[0] == 1
    assert chain.flies == pytest.approx(70)


def test_what_was_aired_is_closed_before_it_is_too_dry() -> None:
    """Another job of 30 minutes does not come between the coat and its closing within 20."""
    coat, close, other = Task(5.0), Task(2.0, ((0, 10.0),), open=20.0), Task(30.0, (), 3.0)
    chain = soonest([coat, close, other])
    assert chain.starts[1] <= chain.starts[0] + 5 + 20
    assert chain.flies == pytest.approx(47), "the long job first, or last: it does not fit between"


def test_a_ring_is_refused() -> None:
    with pytest.raises(ValueError, match="wait for one another"):
        soonest([Task(1.0, ((1, 0.0),)), Task(1.0, ((0, 0.0),))])


def _brute(tasks: list[Task]) -> float:
    best = math.inf
    for order in itertools.permutations(range(len(tasks))):
        ends: dict[int, float] = {}
        now = 0.0
        for n in order:
            if any(b not in ends for b, _ in tasks[n].after):
                break
            now = max([now, *(ends[b] + w for b, w in tasks[n].after)]) + tasks[n].hands
            ends[n] = now
        else:
            best = min(best, max(ends[n] + t.ready for n, t in enumerate(tasks)))
    return best


def test_against_every_order() -> None:
    """Random chains of six: no order of all 720 ends sooner; none starts before what it waits for, no two overlap."""
    rng = random.Random(7)
    for _ in range(60):
        tasks = [
            Task(rng.uniform(1, 20), tuple((b, rng.uniform(0, 30)) for b in range(n) if rng.random() < 0.3),
                 rng.choice([0.0, rng.uniform(0, 60)]))
            for n in range(6)
        ]  # fmt: skip
        chain = soonest(tasks)
        assert chain.flies == pytest.approx(_brute(tasks))
        ends = [s + t.hands for s, t in zip(chain.starts, tasks, strict=True)]
        for n, t in enumerate(tasks):
            assert all(chain.starts[n] >= ends[b] + w - 1e-9 for b, w in t.after)
        for a, b in itertools.pairwise(chain.order):
            assert chain.starts[b] >= ends[a] - 1e-9


def test_a_long_list_keeps_all_waits() -> None:
    """More operations than are ordered exactly: still a possible chain, no longer than one after another."""
    rng = random.Random(3)
    tasks = [Task(rng.uniform(1, 9), ((n - 3, 15.0),) if n > 2 else (), 20.0) for n in range(EXACT + 5)]
    chain = soonest(tasks)
    ends = [s + t.hands for s, t in zip(chain.starts, tasks, strict=True)]
    assert all(chain.starts[n] >= ends[b] + w - 1e-9 for n, t in enumerate(tasks) for b, w in t.after)
    assert sum(t.hands for t in tasks) + 20 <= chain.flies + 1e-9 < sum(t.hands for t in tasks) + 15 * len(tasks)


def test_two_jobs_of_one_tail_keep_their_order_and_a_later_one_is_not_hurried():
    chain = soonest([Task(5.0), Task(5.0), Task(5.0, ((0, 2.0),))], 3.0)
    assert chain.order == (0, 1, 2) and chain.starts == (0.0, 5.0, 10.0)
    assert chain.check == 15 and chain.flies == 18


def test_hands_wait_where_all_is_setting():
    chain = soonest([Task(4.0), Task(2.0, ((0, 10.0),)), Task(1.0, ((1, 3.0),), 7.0)])
    assert chain.starts == (0.0, 14.0, 19.0) and chain.flies == 27
