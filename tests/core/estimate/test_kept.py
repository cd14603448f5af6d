"""What is kept of a prepared part: made once, the same for every thread, gone with the part."""

from __future__ import annotations

import gc
from threading import Barrier, Thread

import pytest

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe
from fletcher.core.estimate import kept as module
from fletcher.core.estimate.kept import kept, known
from fletcher.core.estimate.prepare import Prepared, points_of, prepare, sectioned
from fletcher.core.materials.tables import reference


def prepared(airframe: Airframe) -> Prepared:
    part = airframe.parts[0]
    return prepare(sectioned(part, points_of(part), reference()), part)


@pytest.fixture(scope="module")
def part() -> Prepared:
    return prepared(demo_airframes()[0])


def test_an_answer_is_made_once_and_a_fault_in_making_keeps_nothing(part):
    made: list[int] = []
    assert not known(part, "one")
    with pytest.raises(ZeroDivisionError):
        kept(part, "one", lambda: 1 // 0)
    assert not known(part, "one")
    assert [kept(part, "one", lambda: made.append(1) or len(made)) for _ in range(3)] == [1, 1, 1]
    assert known(part, "one") and made == [1]


def test_of_two_threads_the_first_decides(part):
    both, found = Barrier(2), []

    def make(n: int) -> list[int]:
        both.wait(20)  # both have found nothing and make it at once
        return [n]

    threads = [Thread(target=lambda n=n: found.append(kept(part, "both", lambda: make(n)))) for n in (1, 2)]
    for t in threads:
        t.start()
    for t in threads:
        t.join(20)
    assert len(found) == 2 and found[0] is found[1]


def test_the_oldest_answers_go_first_and_all_of_them_with_the_part(part, monkeypatch):
    monkeypatch.setattr(module, "_MOST", 3)
    own = prepared(demo_airframes()[0])
    for n in range(5):
        assert kept(own, n, lambda n=n: n) == n
    assert [known(own, n) for n in range(5)] == [False, False, True, True, True]
    assert not known(part, 4)
    gc.collect()  # what other tests have left behind goes first
    before = len(module._KEPT)
    del own
    gc.collect()
    assert len(module._KEPT) == before - 1
