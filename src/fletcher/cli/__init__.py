"""Fletcher without a browser: estimates, comparisons and the schema of the file format.

Exit codes: 0 done, 2 the document or the command is wrong (one line per problem on the error stream).
"""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any, TypeVar

from pydantic import BaseModel, TypeAdapter, ValidationError

from fletcher.cli.balance import told_balance, told_lighter
from fletcher.cli.describe import describe
from fletcher.cli.making import (
    told_corridor,
    told_detail,
    told_glue,
    told_hinge,
    told_hold,
    told_inspection,
    told_joints,
    told_left,
    told_making,
    told_openings,
)
from fletcher.cli.mending import told_mending, told_slip, told_toughenings
from fletcher.cli.planning import add_cut, add_plan
from fletcher.cli.rig import add_rig
from fletcher.cli.templates import add_templates
from fletcher.cli.weigh import add_weigh
from fletcher.core.adhesion.joint_capacity import GlueNeed
from fletcher.core.adhesion.retention import HoldNeed, hold
from fletcher.core.adhesion.selection import glue
from fletcher.core.balance.ledger_table import ledger_csv
from fletcher.core.balance.sheet import balance_sheet
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.airframe_file import AirframeFile
from fletcher.core.document.cases import DeflectedCase
from fletcher.core.document.equipment_table import equipment_csv
from fletcher.core.document.problems import InvalidDocument, from_validation
from fletcher.core.estimate.report import estimate
from fletcher.core.joints.hinges import HingeNeed, hinge
from fletcher.core.making.making import making
from fletcher.core.materials.tables import reference
from fletcher.core.repair.build_mistakes import SlipWish, slip
from fletcher.core.repair.inspection import Crash, inspect, what_is_left
from fletcher.core.repair.pareto_search import search
from fletcher.core.repair.schema import Mending, MendWish
from fletcher.core.repair.toughen import toughenings
from fletcher.core.studies.break_first import CorridorWish, corridor
from fletcher.core.studies.control_surface_ways import compare_surface
from fletcher.core.studies.detail_wishes import DetailWish
from fletcher.core.studies.details import detail
from fletcher.core.studies.joint_sheet import joint_sheets
from fletcher.core.studies.lighter_parts import lighter_parts
from fletcher.core.studies.openings import openings
from fletcher.core.validation.airframe import parse_json, read

Found = TypeVar("Found")
Wished = TypeVar("Wished", bound=BaseModel)
Answer = TypeVar("Answer", bound=BaseModel)


def _read(file: str) -> Airframe | None:
    """The checked document of a file, or None once what is wrong stands on the error stream."""
    try:
        return read(parse_json(Path(file).read_bytes()))
    except OSError as error:
        print(f"{file}: cannot read: {error.strerror}", file=sys.stderr)
    except InvalidDocument as invalid:
        for problem in invalid.problems:
            print(problem.line(), file=sys.stderr)
    return None


def _parts(arguments: argparse.Namespace) -> tuple[Airframe, list[Part]] | None:
    """The document and the parts that are asked for, or None once what is wrong stands on the error stream."""
    airframe = _read(arguments.file)
    if airframe is None:
        return None
    parts = [p for p in airframe.parts if arguments.part in (None, p.id)]
    if not parts:
        known = ", ".join(p.id for p in airframe.parts) or "none"
        print(f"--part: no part {arguments.part!r}. Parts in this file: {known}", file=sys.stderr)
        return None
    return airframe, parts


def _estimate(arguments: argparse.Namespace) -> int:
    found = _parts(arguments)
    if found is None:
        return 2
    airframe, parts = found
    wanted = [(p, c) for p in parts for c in p.cases if arguments.case in (None, c.id, c.name)]
    if not wanted:
        known = ", ".join(sorted({c.id for p in parts for c in p.cases}))
        print(f"--case: no load case {arguments.case!r}. Load cases in this part: {known}", file=sys.stderr)
        return 2
    results = [estimate(airframe, p.id, c.id) for p, c in wanted]
    if arguments.json:
        print(json.dumps([r.model_dump() for r in results], indent=1))
    else:
        names = [f"{airframe.name}, {p.name}" for p, _ in wanted]
        print("\n\n".join(describe(r, n, arguments.explain) for r, n in zip(results, names, strict=True)))
    return 0


def _each(
    arguments: argparse.Namespace, compute: Callable[[Airframe, Part], Found], tell: Callable[[Found], str]
) -> int:
    """A study of every part that is asked for, as text or JSON."""
    found = _parts(arguments)
    if found is None:
        return 2
    airframe, parts = found
    try:
        results = [compute(airframe, part) for part in parts]
    except InvalidDocument as invalid:
        for problem in invalid.problems:
            print(problem.line(), file=sys.stderr)
        return 2
    if arguments.json:
        print(json.dumps([TypeAdapter(type(r)).dump_python(r, mode="json") for r in results], indent=1))
    else:
        print("\n\n".join(f"{airframe.name}, {p.name}\n{tell(r)}" for p, r in zip(parts, results, strict=True)))
    return 0


def _wish(model: type[Wished], data: dict[str, Any]) -> Wished:
    """A wish typed at the terminal, checked."""
    try:
        return model.model_validate(data)
    except ValidationError as error:
        raise InvalidDocument(from_validation(error)) from None


def _number(text: str) -> float | str:
    try:
        return float(text)
    except ValueError:
        return text


def _making(arguments: argparse.Namespace) -> int:
    return _each(arguments, lambda a, p: making(a, p, reference()), told_making)


def _openings(arguments: argparse.Namespace) -> int:
    return _each(arguments, lambda a, p: openings(a, p, p.cases[0].id), told_openings)


def _joints(arguments: argparse.Namespace) -> int:
    return _each(arguments, joint_sheets, told_joints)


def _damage(arguments: argparse.Namespace) -> int:
    return _each(arguments, what_is_left, told_left)


def _inspect(arguments: argparse.Namespace) -> int:
    pairs = {name: _number(value) for name, _, value in (pair.partition("=") for pair in arguments.values)}
    return _each(arguments, lambda a, p: inspect(a, p, _wish(Crash, pairs)), told_inspection)


def _mended(airframe: Airframe, part: Part, wish: MendWish) -> Mending:
    """The answer of a search; its progress goes to the error stream."""
    for step in search(airframe, part, wish):
        if isinstance(step, Mending):
            return step
        print(f"{step.done} of {step.of}: {step.says}", file=sys.stderr)
    raise AssertionError("the search ended without an answer")


def _mend(arguments: argparse.Namespace) -> int:
    pairs: dict[str, Any] = {n: _number(v) for n, _, v in (pair.partition("=") for pair in arguments.values)}
    if "at_hand" in pairs:
        pairs["at_hand"] = [k for k in str(pairs["at_hand"]).split(",") if k]
    found = _parts(arguments)
    if found is None:
        return 2
    if arguments.part is None and any(p.damage for p in found[1]):  # those that are broken
        arguments.part = next(p.id for p in found[1] if p.damage)
    return _each(arguments, lambda a, p: _mended(a, p, _wish(MendWish, pairs)), told_mending)


def _slip(arguments: argparse.Namespace) -> int:
    pairs = {name: _number(value) for name, _, value in (pair.partition("=") for pair in arguments.values)}
    return _each(arguments, lambda a, p: slip(a, p, _wish(SlipWish, pairs)), told_slip)


def _toughen(arguments: argparse.Namespace) -> int:
    pairs = {name: _number(value) for name, _, value in (pair.partition("=") for pair in arguments.values)}
    return _each(arguments, lambda a, p: toughenings(a, p, _wish(Crash, pairs)), told_toughenings)


def _corridor(arguments: argparse.Namespace) -> int:
    given = {n: v for n in CorridorWish.model_fields if (v := getattr(arguments, n)) is not None}
    return _each(arguments, lambda a, p: corridor(a, p, _wish(CorridorWish, given)), told_corridor)


def _detail(arguments: argparse.Namespace) -> int:
    pairs = {name: _number(value) for name, _, value in (pair.partition("=") for pair in arguments.values)}
    wish = {"at_mm": arguments.at, "detail": {"kind": arguments.kind, **pairs}}
    return _each(arguments, lambda a, p: detail(a, p, _wish(DetailWish, wish)), told_detail)


def _compare(arguments: argparse.Namespace) -> int:
    airframe = _read(arguments.file)
    if airframe is None:
        return 2
    found = False
    for part in airframe.parts:
        for case in part.cases:
            if not isinstance(case, DeflectedCase) or arguments.part not in (None, part.id):
                continue
            found = True
            print(f"{airframe.name}, {part.name} · {case.name}: {case.deflection_deg:g}° at {case.speed_m_s:g} m/s")
            for w in compare_surface(airframe, part, case):
                print(
                    f"  {w.name:<24} {w.grams.typ:6.2f} g   gives {abs(w.twist_deg.typ):5.1f}°   "
                    f"{100 * w.arrives.typ:5.1f} % arrives ({100 * w.arrives.low:.0f} to {100 * w.arrives.high:.0f})   "
                    f"breaks at {w.breaks_at.typ:5.2f} ×   best horn {w.best_horn_mm:.0f} mm"
                )
    if not found:
        print("no control surface with a “Deflected in flight” load case", file=sys.stderr)
    return 0 if found else 2


def _asked(
    arguments: argparse.Namespace,
    model: type[Wished],
    answer: Callable[[Wished], Answer],
    tell: Callable[[Answer], str],
) -> int:
    """A need typed at the terminal, answered as text or JSON."""
    pairs = {name: _number(value) for name, _, value in (pair.partition("=") for pair in arguments.values)}
    try:
        result = answer(_wish(model, pairs))
    except InvalidDocument as invalid:
        for problem in invalid.problems:
            print(problem.line(), file=sys.stderr)
        return 2
    print(json.dumps(result.model_dump(mode="json"), indent=1) if arguments.json else tell(result))
    return 0


def _glue(arguments: argparse.Namespace) -> int:
    return _asked(arguments, GlueNeed, lambda need: glue(need, reference()), told_glue)


def _hinge(arguments: argparse.Namespace) -> int:
    return _asked(arguments, HingeNeed, lambda need: hinge(need, reference()), told_hinge)


def _hold(arguments: argparse.Namespace) -> int:
    return _asked(arguments, HoldNeed, lambda need: hold(need, reference()), told_hold)


def _balance(arguments: argparse.Namespace) -> int:
    airframe = _read(arguments.file)
    if airframe is None:
        return 2
    sheet = balance_sheet(airframe)
    if sheet is None:
        print(f"{arguments.file}: nothing in this file flies, so nothing balances", file=sys.stderr)
        return 2
    if arguments.csv:
        print(ledger_csv(sheet) if arguments.csv == "ledger" else equipment_csv(airframe.equipment), end="")
        return 0
    if arguments.lighter:
        ways = lighter_parts(airframe)
        told = json.dumps([w.model_dump(mode="json") for w in ways], indent=1) if arguments.json else told_lighter(ways)
        print(told if arguments.json else f"{airframe.name}: {sheet.says}\n{told}")
        return 0
    print(json.dumps(sheet.model_dump(), indent=1) if arguments.json else f"{airframe.name}\n{told_balance(sheet)}")
    return 0


def _schema(_: argparse.Namespace) -> int:
    print(json.dumps(AirframeFile.model_json_schema(), indent=2))
    return 0


OF_OLD = {
    "compare": "surfaces",
    "making": "cutting",
    "openings": "cutouts",
    "corridor": "breakaway",
    "mend": "repair",
    "slip": "mistake",
    "hold": "holddown",
    "toughen": "toughness",
}
"""Verbs as they were called until version 6 of the file, which are still understood."""


def main(argv: list[str] | None = None) -> int:
    """Entry point of the command line; returns the exit code."""
    parser = argparse.ArgumentParser(prog="fletcher", description=__doc__)
    commands = parser.add_subparsers(required=True)
    one = commands.add_parser("estimate", help="estimate mass, deflection, twist and strength of each part")
    one.add_argument("file", help="airframe file (JSON); see docs/file-format.md")
    one.add_argument("--part", help="only the part with this id")
    one.add_argument("--case", help="only the load case with this id or name")
    one.add_argument("--json", action="store_true", help="print the whole result as JSON")
    one.add_argument("--explain", action="store_true", help="also print the working of every figure")
    one.set_defaults(run=_estimate)
    ways = commands.add_parser("surfaces", help="compare constructions for each control surface")
    ways.add_argument("file", help="airframe file (JSON)")
    ways.add_argument("--part", help="only the part with this id")
    ways.set_defaults(run=_compare)
    for verb, run, says in (
        ("cutting", _making, "cutting sizes, sheet bending, skin draping and flat patterns"),
        ("cutouts", _openings, "cost of each cut-out and the smallest patch that restores it"),
        ("joints", _joints, "check every joint and hinge in its worst load case, with the best improvement"),
        ("damage", _damage, "remaining strength of damaged parts, and whether they may fly"),
        ("inspect", _inspect, "where to look first after a crash"),
        ("repair", _mend, "best repairs for a damaged part"),
        ("mistake", _slip, "effect of a build mistake and how to fix it"),
        ("toughness", _toughen, "changes that make a part tougher in a crash"),
        ("breakaway", _corridor, "fasteners that hold a part and release before it breaks"),
        ("detail", _detail, "check a detail: slot, twin-wall edge, bolted centre, lock joint or bracket"),
    ):
        study = commands.add_parser(verb, help=says)
        study.add_argument("file", help="airframe file (JSON)")
        study.add_argument("--part", help="only the part with this id")
        study.add_argument("--json", action="store_true", help="print the whole result as JSON")
        study.set_defaults(run=run)
        if verb == "breakaway":
            for name, means in (
                ("months", "age of the fastener, months"), ("stretch", "rubber band stretch, × usual"),
                ("mount-N", "forward strength of the mount, N"), ("hold-N", "load to hold instead of lift, N"),
            ):  # fmt: skip
                study.add_argument(f"--{name}", type=float, help=means, dest=name.replace("-", "_"))
        example = {
            "inspect": "crash description, e.g. what=nose_in speed_m_s=12",
            "toughness": "crash description, e.g. what=pole speed_m_s=6 at_mm=400",
            "mistake": "build mistake, e.g. slip=nick at_mm=300",
            "repair": "repair conditions, e.g. fly_in_min=90 hour_worth=12 at_hand=hotmelt_low,bamboo_skewer_3",
        }.get(verb)
        if example is not None:
            study.add_argument("values", nargs="*", help=example)
        if verb == "detail":
            study.add_argument("--at", type=float, default=0.0, help="position from root, mm")
            study.add_argument(
                "kind", help="type of detail: half_slot, fluted_edge, bolted_centre, lock_joint or bracket"
            )
            study.add_argument("values", nargs="*", help="its fields, e.g. sheet=birchply_0.8 depth_mm=40")
    for verb, run, says, example in (
        ("glue", _glue, "rank adhesives for a joint between two materials", "one=epp_30 other=wood hold_N=30"),
        ("holddown", _hold, "rank hold-downs for a battery, hatch or payload", "mass_g=180 speed_m_s=12 stop_mm=60"),
        ("hinge", _hinge, "rank hinges for a control surface", "made_of=epp_30 thickness_mm=6 line=top"),
    ):
        asked = commands.add_parser(verb, help=says)
        asked.add_argument("values", nargs="*", help=f"conditions, e.g. {example}")
        asked.add_argument("--json", action="store_true", help="print the whole result as JSON")
        asked.set_defaults(run=run)
    balance = commands.add_parser("balance", help="mass, centre of gravity, its range and what would move it")
    balance.add_argument("file", help="airframe file (JSON)")
    balance.add_argument("--json", action="store_true", help="print the whole result as JSON")
    balance.add_argument("--lighter", action="store_true", help="what of the structure could be lighter, and its loss")
    balance.add_argument("--csv", choices=("ledger", "equipment"), help="print that table as CSV")
    balance.set_defaults(run=_balance)
    add_weigh(commands)
    add_rig(commands)
    add_plan(commands)
    add_cut(commands)
    add_templates(commands)
    two = commands.add_parser("schema", help="print the JSON Schema of the airframe file")
    two.set_defaults(run=_schema)
    given = sys.argv[1:] if argv is None else argv
    arguments = parser.parse_args([OF_OLD.get(given[0], given[0]), *given[1:]] if given else given)
    return int(arguments.run(arguments))
