"""The words of docs/words.md: what nobody says at a bench stands in no text that a user reads."""

from __future__ import annotations

import ast
import csv
import io
import re
from collections.abc import Iterator
from functools import cache
from pathlib import Path

import numpy as np
import pytest

from fletcher.core.estimate import phrasing
from fletcher.core.joints import wing_root
from fletcher.core.materials import uncertainty
from fletcher.core.materials.materials import Range
from fletcher.core.materials.uncertainty import BUCKLING_FACTOR, ModelFactor, draw_factor

ROOT = Path(__file__).parents[2]
CORE = ROOT / "src" / "fletcher" / "core"
PAGE = ROOT / "frontend" / "src"

NEVER = (
    *("gives way", "asked for", "parts it", "pinned up", "pin up", "take down", "like with like", "in the hand"),
    *("built anew", "of hands", "credits", "edgewise", "neutral line", "centre of twist", "behind the nose"),
    *(
        "what broke",
        "at hand: ",
        "cases kept",
        "surely",
        "typically",
        "bring back",
        "put this",
        "mind:",
        "made of cloth",
    ),
    *("holds over asked", "leaves least", "can carry", "shakes", "what arrives", "weighed by you", "people disagree"),
    *(
        "seam gives",
        "glue gives",
        "swings by",
        "bends by hand",
        "lets go of",
        "anew, at",
        "hours of hands",
    ),
)
"""Of its last column what can be told from ordinary words."""
ALLOWED = {
    # documentation of bounds that no page shows, and quotations of the sources
    "uncertainty.py",
}


def _texts_of_code(path: Path) -> Iterator[tuple[int, str]]:
    """Texts of a module that are sentences: with a space, no docstrings."""
    tree = ast.parse(path.read_text())
    parent = {child: node for node in ast.walk(tree) for child in ast.iter_child_nodes(node)}
    for node in ast.walk(tree):
        said = (
            isinstance(node, ast.Constant)
            and isinstance(node.value, str)
            and not isinstance(parent.get(node), ast.Expr)
        )
        if said and " " in node.value.strip():
            yield node.lineno, node.value


_JSX = re.compile(r'"([^"\n]* [^"\n]*)"|`([^`\n]* [^`\n]*)`|>([^<>{}=;"`]*[a-z]{3}[^<>{}=;"`]*)[<{]')


def _texts_of_page(path: Path) -> Iterator[tuple[int, str]]:
    text = re.sub(r"/\*.*?\*/|^\s*//.*?$", lambda m: "\n" * m[0].count("\n"), path.read_text(), flags=re.S | re.M)
    for found in _JSX.finditer(text):
        yield text.count("\n", 0, found.start()) + 1, next(g for g in found.groups() if g)


def _texts_of_table(path: Path) -> Iterator[tuple[int, str]]:
    for number, row in enumerate(csv.reader(io.StringIO(path.read_text())), 1):
        for cell in row:
            if " " in cell:
                yield number, cell


@cache
def texts() -> tuple[tuple[str, int, str], ...]:
    """Every text that may be read, with its file and line."""
    return tuple(_texts())


def _texts() -> Iterator[tuple[str, int, str]]:
    for pattern, root, read in (
        ("**/*.py", CORE, _texts_of_code), ("**/*.tsx", PAGE, _texts_of_page), ("**/*.csv", CORE, _texts_of_table),
    ):  # fmt: skip
        for path in sorted(root.glob(pattern)):
            if ".test." not in path.name and path.name not in ALLOWED:
                for line, text in read(path):
                    yield path.name, line, text


@pytest.mark.parametrize("word", NEVER)
def test_no_text_says(word):
    found = re.compile(r"(?<![\w-])" + re.escape(word), re.IGNORECASE)
    assert [t for t in texts() if word.lower() in t[2].lower() and found.search(t[2])] == []


def test_data_quality_is_not_called_a_grade():
    letters = re.compile(r"[Gg]rade [ABC]\b|[Gg]rade \{")
    assert [t for t in texts() if letters.search(t[2])] == []


def test_the_glossary_is_made_of_short_sentences():
    rows = list(csv.DictReader((CORE / "materials" / "data" / "glossary.csv").open()))
    long = [
        r["key"] for r in rows for s in re.split(r"(?<=[.?!;:]) ", f"{r['plain']} {r['more']}") if len(s.split()) > 30
    ]
    assert len(rows) > 60 and long == []


_LABEL = re.compile(
    r'(?<![-\w])label="([^"]+)"|\["([A-Z][^"]+)", "(?:length|mass|plain|angle|force|couple|percent|speed)"'
)
_PLAIN = set((Path(__file__).parent / "plain_words.txt").read_text().split())


def test_every_word_of_a_label_is_plain_or_in_the_glossary():
    """A new technical word on a field needs its entry; a plain one is added to plain_words.txt."""
    rows = csv.DictReader((CORE / "materials" / "data" / "glossary.csv").open())
    terms = {w for r in rows for w in re.findall(r"[a-z-]+", r["term"].lower())}
    labels = [
        found[1] or found[2]
        for path in sorted(PAGE.rglob("*.tsx"))
        if ".test." not in path.name
        for found in _LABEL.finditer(path.read_text())
    ]
    unknown = {
        (word, label)
        for label in labels
        for word in re.findall(r"[a-z][a-z-]{3,}", label.lower())
        if word not in _PLAIN and not terms & {word, word.removesuffix("s"), word.removesuffix("es")}
    }
    assert len(labels) > 200 and unknown == set()


def _compared(node: ast.AST) -> Iterator[str]:
    """Texts with a space in them that a comparison, a prefix or a look-up by one depends on."""
    held: list[ast.expr] = []
    if isinstance(node, ast.Compare):
        held = [node.left, *node.comparators]
        held += [e for c in node.comparators if isinstance(c, ast.Tuple | ast.List | ast.Set) for e in c.elts]
    elif isinstance(node, ast.Subscript) and isinstance(node.ctx, ast.Load):
        held = [node.slice]
    elif isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute) and node.func.attr.endswith("with"):
        held = list(node.args)
    for one in held:
        if isinstance(one, ast.Constant) and isinstance(one.value, str) and " " in one.value.strip():
            yield one.value


def test_no_text_steers_anything():
    """What a text says may change without a figure changing with it; kinds with a space in them are typed."""
    kinds = {"cracks, but holds together", "spar front", "spar rear"}
    found = [
        (path.name, node.lineno, text)
        for path in sorted(CORE.rglob("*.py"))
        for node in ast.walk(ast.parse(path.read_text()))
        for text in _compared(node)
        if text not in kinds
    ]
    assert found == []


def test_every_failure_is_drawn():
    looks = (PAGE / "part" / "FailureSketch.tsx").read_text().split("LOOKS")[1].split("};")[0]
    drawn = set(re.findall(r"^  (\w+): ", looks, re.M))
    assert drawn == set(phrasing._SENTENCES) - {"nothing"}


def test_draws_depend_on_keys_that_no_change_of_words_touches():
    keys = {f.key for m in (uncertainty, wing_root) for f in vars(m).values() if isinstance(f, ModelFactor)}
    assert {
        "bar buckling model",
        "glue in a spliced bar",
        "glued seam of foam",
        "how well bays hold an opening",
    } <= keys
    buckling = ModelFactor("bar buckling model", Range(0.7, 1.0, 1.4), "whatever it says")
    assert np.array_equal(draw_factor(buckling), draw_factor(BUCKLING_FACTOR))


def test_the_texts_are_found():
    """A reader that finds nothing proves nothing."""
    found = list(texts())
    names = {name.rsplit(".", 1)[1] for name, _, _ in found}
    assert names == {"py", "tsx", "csv"} and len(found) > 3000
    assert any("Keep as variant" in text for _, _, text in found)
