"""Weighing at the terminal: what can be laid on the scale, what it should weigh, and a reading put into the file."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path
from typing import Any

from fletcher.core.balance.schema import BalanceSheet
from fletcher.core.balance.sheet import balance_sheet
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.document.weighings import STAGES
from fletcher.core.materials.uncertainty import Band
from fletcher.core.validation.airframe import parse_json, read

WHOLE = "all"
"""Names every piece."""


def add_weigh(commands: Any) -> None:
    """The command with its arguments."""
    weigh = commands.add_parser("weigh", help="what to weigh, and a scale's reading put into the file")
    weigh.add_argument("file", help="airframe file (JSON)")
    weigh.add_argument("piece", nargs="*", help="what lies on the scale, as listed; all: the whole airframe")
    weigh.add_argument("--grams", type=float, help="what the scale reads, g")
    weigh.add_argument("--stage", choices=STAGES, default="finished", help="how far it is built")
    weigh.add_argument("--step", type=float, default=1.0, help="smallest step of the scale, g")
    weigh.add_argument("--on", help="day, such as 2026-05-02")
    weigh.add_argument("--taken-off", choices=("scraped", "sanded", "peeled"), default="", help="since the last time")
    weigh.add_argument("--trusted", action="store_true", help="the reading was checked: a surprise teaches")
    weigh.add_argument("--json", action="store_true", help="print the whole result as JSON")
    weigh.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> int:
    """Tell what can be weighed, or put a reading into the file and tell what it changed."""
    path = Path(arguments.file)
    try:
        data = parse_json(path.read_bytes())
        sheet = balance_sheet(read(data))
        if sheet is None:
            raise ValueError(f"{path}: nothing in this file flies: add a part before weighing")
        if arguments.piece:
            more = _weighing(arguments, sheet, data.get("weighings") or [])
            data = {**data, "weighings": [*(data.get("weighings") or []), more]}
            sheet = balance_sheet(read(data))
            assert sheet is not None
            path.write_text(json.dumps(data, indent=2, ensure_ascii=False) + "\n")
    except OSError as error:
        return _refused(f"{path}: cannot read or write: {error.strerror}")
    except InvalidDocument as invalid:
        return _refused(*(p.line() for p in invalid.problems))
    except ValueError as error:
        return _refused(str(error))
    print(json.dumps(sheet.weighed.model_dump(), indent=1) if arguments.json else told(sheet))
    return 0


def _refused(*lines: str) -> int:
    for line in lines:
        print(line, file=sys.stderr)
    return 2


def _weighing(arguments: argparse.Namespace, sheet: BalanceSheet, known: list[Any]) -> dict[str, Any]:
    """The reading as the file has it.

    Raises
    ------
    ValueError
        If a piece or the reading is missing.
    """
    if arguments.grams is None:
        raise ValueError("--grams: is missing: what does the scale read?")
    pieces = {p.key: p for p in sheet.weighed.pieces}
    whole = arguments.piece == [WHOLE]
    keys = list(pieces) if whole else arguments.piece
    unknown = [k for k in keys if k not in pieces]
    if unknown:
        raise ValueError(f"piece: no {unknown[0]!r}. Pieces in this file: {', '.join(pieces)}, {WHOLE}")
    lines = []
    for key in keys:
        there = [s for s in pieces[key].stages if STAGES.index(s.stage) <= STAGES.index(arguments.stage)]
        lines += there[-1].lines if there else []
    if not lines:
        raise ValueError(f"--stage: nothing of {', '.join(keys)} is there when it is {arguments.stage}")
    if whole and arguments.stage == STAGES[-1]:
        lines = [x.key for x in sheet.lines]
    taken = {w.get("id") for w in known if isinstance(w, dict)}
    name = next(f"weighing-{n}" for n in range(1, len(taken) + 2) if f"weighing-{n}" not in taken)
    return {
        "id": name, "on": arguments.on, "stage": arguments.stage, "lines": lines, "step_g": arguments.step,
        "reading": {"kind": "scale", "grams": arguments.grams}, "taken_off": arguments.taken_off,
        "trusted": arguments.trusted,
    }  # fmt: skip


def told(sheet: BalanceSheet) -> str:
    """Pieces with what they should weigh, weighings with what they did, what to weigh next."""
    w = sheet.weighed
    out = [w.says]
    for piece in w.pieces:
        stages = (f"{s.stage} {_range(s.grams, 1, ' g')}" for s in piece.stages)
        out.append(f"  {piece.key:<24} {piece.name}: {', '.join(stages)}")
    for one in w.weighings:
        out.append(f"  {one.name}: {one.grams.typ:.1f} g, {one.says}")
        out += [f"    {q}" for q in one.questions]
    out += [f"  {s.name}, {s.stage}: {s.says}" for s in w.sides]
    out += [f"  {s.name}: {s.says}" for s in w.steps]
    out += [f"  {x.cause}: {_range(x.factor, 2)} times the table" for x in w.learned]
    if w.next is not None:
        out.append(f"  {w.next.says}")
    return "\n".join(out)


def _range(band: Band, digits: int, unit: str = "") -> str:
    return f"{band.typ:.{digits}f}{unit} ({band.low:.{digits}f}–{band.high:.{digits}f})"
