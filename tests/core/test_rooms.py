"""The rooms of the core: each tells what it is for, and others use only what it offers."""

from __future__ import annotations

import ast
import importlib
from collections.abc import Iterator
from pathlib import Path

import pytest

import fletcher

SOURCES = Path(fletcher.__file__).parent
ROOMS = sorted(p.name for p in (SOURCES / "core").iterdir() if (p / "__init__.py").is_file())


def imports() -> Iterator[tuple[Path, str | None, list[str]]]:
    """Every import of a room's module: from which file, in which room that lies, and the dotted name in parts."""
    for path in SOURCES.rglob("*.py"):
        where = path.relative_to(SOURCES).parts
        own = where[1] if where[0] == "core" and len(where) > 2 else None
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, ast.ImportFrom) and (node.module or "").startswith("fletcher.core."):
                parts = str(node.module).split(".")[2:]
                for alias in node.names if len(parts) == 1 else []:
                    yield path, own, [*parts, alias.name]
                if len(parts) > 1:
                    yield path, own, parts


@pytest.mark.parametrize("room", ROOMS)
def test_a_room_says_what_enters_what_leaves_and_offers_what_it_has(room):
    module = importlib.import_module(f"fletcher.core.{room}")
    head, _, body = (module.__doc__ or "").partition("\n\n")
    assert head.endswith(".") and body.count(".") >= 3
    found = {p.stem for p in (SOURCES / "core" / room).glob("*.py")} - {"__init__"}
    assert set(module.__all__) <= found and module.__all__ == sorted(module.__all__)
    assert all(importlib.import_module(f"fletcher.core.{room}.{name}").__doc__ for name in found)


def test_no_module_outside_what_a_room_offers_is_imported():
    offered = {room: set(importlib.import_module(f"fletcher.core.{room}").__all__) for room in ROOMS}
    used: dict[str, set[str]] = {room: set() for room in ROOMS}
    for path, own, (room, name, *_) in imports():
        if room != own:
            assert name in offered[room], f"{path.relative_to(SOURCES)} imports {room}.{name}, which is not offered"
            used[room].add(name)
    assert used == offered  # nothing is offered that nobody uses


def test_no_module_of_the_core_lies_outside_a_room():
    assert [p.name for p in (SOURCES / "core").glob("*.py")] == ["__init__.py"]
