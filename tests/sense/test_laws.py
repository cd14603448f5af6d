"""A small fixed share of the laws, on every construction in its usual size and on some random ones; the wide sweep is
`./fletcher sense`."""

from __future__ import annotations

import numpy as np
import pytest

from tests.sense import GROUPS
from tests.sense.run import main, swept


def shares(name: str, each: int) -> list[tuple[str, object, str, str]]:
    """Every law of a group on every construction, with so many of the kinds in turn, that each kind comes up."""
    group = GROUPS[name]
    out = []
    for n, key in enumerate(group.WAYS):
        for law in group.LAWS:
            for k in range(min(each, len(group.KINDS))):
                kind = group.KINDS[(n * each + k) % len(group.KINDS)]
                out.append((f"{law.__name__}-{key}-{kind}", law, key, kind))
    return out


BROKEN: dict[str, str] = {}
"""Laws that an answer still breaks, and how; each is open work, and fails here on the day it is mended."""


def _told(name: str) -> tuple[pytest.MarkDecorator, ...]:
    return (pytest.mark.xfail(reason=BROKEN[name], strict=True),) if name in BROKEN else ()


@pytest.mark.parametrize(
    ("law", "key", "kind"),
    [
        pytest.param(law, key, kind, id=f"{g}-{name}", marks=_told(f"{g}-{name}"))
        for g in sorted(GROUPS) for name, law, key, kind in shares(g, 1)
    ],
)  # fmt: skip
def test_a_law_holds(law, key, kind):
    found = list(law(None, key, kind))
    assert not found, "\n".join(f"{v.badly:.3g} × {v.law}: {v.says}" for v in found)


@pytest.mark.parametrize("group", sorted(GROUPS))
def test_laws_hold_in_random_sizes(group):
    found = swept(GROUPS[group], 8, seed=20)
    assert not found, "\n".join(f"{v.badly:.3g} × {v.law}: {v.says}" for v in found)


def test_the_sweep_tells_violations_and_ends_non_zero(capsys, monkeypatch):
    from tests.sense.world import Violation

    group = GROUPS["C"]
    found = Violation("a law", 3.0, "was 1, now 0.3", "{}")
    monkeypatch.setattr(group, "LAWS", (lambda rng, key, kind: iter([found]),))
    assert main(["C", "--n", "2"]) == 1
    told = capsys.readouterr().out
    assert "2 violations" in told and "a law" in told and "was 1, now 0.3" in told
    monkeypatch.setattr(group, "LAWS", (lambda rng, key, kind: iter([]),))
    assert main(["C", "--n", "2"]) == 0


def test_an_error_in_a_document_is_a_violation(monkeypatch):
    def broken(rng, key, kind):
        raise KeyError("a bug")

    group = GROUPS["F"]
    monkeypatch.setattr(group, "LAWS", (broken,))
    (found,) = swept(group, 1, 1)
    assert found.badly > 1e6 and "a bug" in found.says
    assert np.isfinite(found.badly)
