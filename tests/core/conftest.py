"""Checks that are told in docs/checks.md: the same call asserts and records."""

from __future__ import annotations

import os
from collections.abc import Callable
from pathlib import Path

import pytest

_FOUND: list[tuple[str, str, float, float, float]] = []


@pytest.fixture
def proof(request) -> Callable[[str, float, float, float], None]:
    """Assert that a figure agrees with its reference within a share, and keep it for the table of checks."""

    def agrees(what: str, found: float, expected: float, rel: float) -> None:
        assert float(found) == pytest.approx(float(expected), rel=rel), what
        _FOUND.append(
            (
                f"{Path(request.node.fspath).parent.name}/{Path(request.node.fspath).stem}",
                what,
                float(expected),
                float(found),
                rel,
            )
        )

    return agrees


def pytest_collection_modifyitems(config, items) -> None:
    """Where the table is written, only what it tells is run."""
    if os.environ.get("FLETCHER_PROOF"):
        told = [i for i in items if "proof" in getattr(i, "fixturenames", ())]
        config.hook.pytest_deselected(items=[i for i in items if i not in told])
        items[:] = told


_TITLES = {
    "test_worked_checks": "Worked checks, closed forms",
    "test_cases": "Frequencies, divergence, edgewise bending",
    "test_laminates": "Laminates",
    "test_torsion": "Torsion: closed forms, and the section library for aerofoils",
    "test_oracle": "Sections against the finite-element section library",
    "test_solid": "Whole parts against solid finite elements",
    "test_pockets": "Pockets, hollows and ellipses: the section library, Saint-Venant",
    "test_network": "Hollow sections of walls: closed forms and the section library",
    "test_surfaces": "Control surfaces and reversal: thin-aerofoil theory, strip theory",
    "test_root_and_cords": "Roots, cords, faced wood, wrinkling",
    "test_fuselages": "Fuselages and tails",
    "test_hand": "In the hand: the elastica, work to the first crack, tears, dents",
    "test_warp": "Warp: Timoshenko's bimetal strip",
    "test_making": "Forming, drape, folded noses",
    "test_gluing": "Glue: cured and green joints, drying between faces, grams",
    "test_hinges": "Hinges: throw, pull, share of the servo",
    "test_coverage": "Forecast of mass and centre: share of 500 simulated builds within the 5–95 % band",
    "test_details": "Control runs, slots, edges, joints, brackets",
}


def pytest_sessionfinish(session) -> None:
    """Write the table where FLETCHER_PROOF names a file."""
    path = os.environ.get("FLETCHER_PROOF")
    if not path or not _FOUND:
        return
    lines = [
        "# Every recorded check and its error",
        "",
        "Written by `./fletcher proof`, which runs the core's tests; each row is asserted in the file named by its",
        "heading. Reference: the closed form, or the section library where the heading says so.",
    ]
    for stem in dict.fromkeys(row[0] for row in _FOUND):
        rows = [row for row in _FOUND if row[0] == stem]
        lines += ["", f"## {_TITLES.get(Path(stem).name, stem)}", "", f"`tests/core/{stem}.py`", ""]
        lines += ["| check | reference | found | error | allowed |", "| --- | ---: | ---: | ---: | ---: |"]
        for _, what, expected, found, rel in rows:
            error = 100 * (found / expected - 1) if expected else 0.0
            lines.append(f"| {what} | {expected:.6g} | {found:.6g} | {error:+.3f} % | {100 * rel:g} % |")
    Path(path).write_text("\n".join(lines) + "\n")
