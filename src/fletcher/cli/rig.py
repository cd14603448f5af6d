"""The test rig at the terminal: what readings teach of an airframe's materials and parts."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path
from typing import Any

from fletcher.core.document.problems import InvalidDocument
from fletcher.core.materials.uncertainty import Band
from fletcher.core.rig.blind_trial import ARMS, PARTS, Arm, trial
from fletcher.core.rig.rig_report import RigReport, rig_report
from fletcher.core.rig.rig_table import read_rig_csv, rig_csv
from fletcher.core.rig.rig_tests import problems_of
from fletcher.core.validation.airframe import parse_json, read


def add_rig(commands: Any) -> None:
    """The command with its arguments."""
    rig = commands.add_parser("rig", help="what bench tests teach of materials and parts")
    rig.add_argument("file", nargs="?", help="airframe file (JSON)")
    rig.add_argument("--trial", type=int, metavar="N", help="so many builders with true values that the rig cannot see")
    rig.add_argument("--arm", choices=ARMS, default=ARMS[0], help="of the trial: what differs from what is assumed")
    rig.add_argument("--seed", type=int, default=1, help="of the trial")
    rig.add_argument("--readings", help="tests (CSV); none: the headings to fill in")
    rig.add_argument("--json", action="store_true", help="print the whole result as JSON")
    rig.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> int:
    """Tell what the tests teach, or what is wrong with them."""
    if arguments.trial is not None:
        return _trial(arguments.trial, arguments.arm, arguments.seed)
    if arguments.file is None:
        return _refused("rig: name an airframe file, or --trial N")
    path = Path(arguments.file)
    try:
        airframe = read(parse_json(path.read_bytes()))
        if arguments.readings is None:
            sys.stdout.write(rig_csv(()))
            return 0
        path = Path(arguments.readings)
        tests = read_rig_csv(path.read_text(encoding="utf-8"))
        wrong = list(problems_of(airframe, tests))
        if wrong:
            raise InvalidDocument(wrong)
    except OSError as error:
        return _refused(f"{path}: cannot read: {error.strerror}")
    except UnicodeDecodeError:
        return _refused(f"{path}: is not UTF-8 text")
    except InvalidDocument as invalid:
        return _refused(*(p.line() for p in invalid.problems))
    except ValueError as error:
        return _refused(str(error))
    made = rig_report(airframe, tests)
    print(made.model_dump_json(indent=1) if arguments.json else f"{airframe.name}\n{told(made)}")
    return 0


def _refused(*lines: str) -> int:
    for line in lines:
        print(line, file=sys.stderr)
    return 2


def _trial(builders: int, arm: Arm, seed: int) -> int:
    """Coverage and narrowing of every part of the trial."""
    if not 10 <= builders <= 5000:
        return _refused(f"--trial {builders}: between 10 and 5000 builders")
    print(f"{builders} builders, {arm}; inside the 5-95 % band, bend / break load, and what is left of its width")
    for name in PARTS:
        t = trial(name, builders, arm, seed)
        before, after = (" / ".join(f"{v:.3f}" for v in pair) for pair in (t.inside_before, t.inside_after))
        left = " / ".join(f"{v:.2f}" for v in t.narrowing)
        print(f"  {name:12} before {before}, after {after}; left {left}; {', '.join(t.plan)}")
    return 0


def _range(b: Band) -> str:
    return f"{b.typ:.3g} ({b.low:.3g}–{b.high:.3g})"


def told(made: RigReport) -> str:
    """Tests against their predictions, materials and parts before and after."""
    out = [f"  {made.says}", *(f"  ! {r}" for r in made.refused)]
    out += [f"  {'inside ' if t.inside else 'outside'} {t.test_id}: {t.says}" for t in made.tests]
    for m in made.materials:
        out.append(f"  {m.name}, {m.property}: {_range(m.before)} before, {_range(m.after)} {m.unit} now; "
                   f"{m.surer:.1f} times as sure")  # fmt: skip
    for p in made.parts:
        if p.changed:
            out.append(f"  {p.name}: holds {_range(p.margin_before)} before, {_range(p.margin)} now; "
                       f"bends {_range(p.bend_before)} before, {_range(p.bend)} mm now")  # fmt: skip
    return "\n".join(out)
