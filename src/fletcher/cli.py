"""Fletcher without a browser: estimates, comparisons and the schema of the file format.

Exit codes: 0 done, 2 the document or the command is wrong (one line per problem on the error stream).
"""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path

from fletcher.core.airframe import Airframe
from fletcher.core.cases import DeflectedCase
from fletcher.core.checks import parse_json, read
from fletcher.core.comparison import compare_surface
from fletcher.core.evidence import Band
from fletcher.core.problems import InvalidDocument
from fletcher.core.report import estimate
from fletcher.core.results import Estimate, Source, Working


def _band(value: Band, digits: int, unit: str) -> str:
    return f"{value.typ:.{digits}f} {unit} ({value.low:.{digits}f} to {value.high:.{digits}f})".replace("  ", " ")


def _explained(working: Working) -> list[str]:
    """The working of a figure as lines."""
    out = [f"  Working: {working.title} ({working.formula_id})", f"    {working.formula}", f"    {working.explanation}"]
    out += [f"      {s.symbol:<12} {s.value:>12.5g} {s.unit:<6} {s.meaning}" for s in working.symbols]
    return [*out, *(f"      assumes: {text}" for text in working.assumptions)]


def _origins(sources: list[Source]) -> list[str]:
    """Where the values of the materials come from, as lines."""
    out = ["  Material values, low – typical – high:"]
    for s in sources:
        out += [f"    {s.material} (grade {s.grade}): {'; '.join(s.values)}", f"      {s.basis}"]
    return out


def describe(result: Estimate, name: str, explain: bool = False) -> str:
    """An estimate as text for the terminal, with the working of its figures if asked for."""
    out = [
        f"{name} · {result.says}",
        f"  Mass        {_band(result.mass_g, 1, 'g')}, of which added to the foam {_band(result.added_g, 1, 'g')}",
        f"  {'Swings' if result.reads == 'swing' else 'Bends':<11} {_band(result.deflection_mm, 1, 'mm')} at "
        f"{result.deflection_at_mm:.0f} mm",
        *([f"  Twists      {_band(result.twist_deg, 2, '°')} at the tip, nose up"] if result.twist_deg else []),
        f"  Holds       {_band(result.holds, 2, '× the load')}; asked for {result.safety_factor:g} ×",
        f"  First       {result.first.sentence}, {result.first.at_mm:.0f} mm from the root",
    ]
    out.append(f"  Balances    {_band(result.balance_mm, 1, 'mm')} behind the root's leading edge or the front end")
    out.append(
        f"  Takes       {_band(result.effort.cost, 1, 'credits')}, {_band(result.effort.hours, 1, 'h')} of hands"
        f"{''.join(', ' + t.replace('_', ' ') for t in result.effort.tools)}"
    )
    for target in result.targets:
        low, high = ("open" if v is None else f"{v:g}" for v in (target.low, target.high))
        mark = {"sure": "surely met", "typical": "typically met", "no": f"not met: {target.side}"}[target.met]
        out.append(f"  Wanted      {target.figure} {low} to {high}: {mark}")
    if result.shakes:
        s = result.shakes
        out.append(
            f"  Shakes      {_band(s.flap_Hz, 1, 'Hz')} up and down, {_band(s.edge_Hz, 1, 'Hz')} fore and aft, "
            f"{_band(s.twist_Hz, 1, 'Hz')} in twist, root held"
        )
        out.append(f"  Speed       {s.caution}")
    if result.control:
        c = result.control
        out.append(
            f"  Control     {100 * c.arrives.typ:.0f} % of the deflection arrives ({100 * c.arrives.low:.0f} to "
            f"{100 * c.arrives.high:.0f} %), the servo holds {_band(c.servo_N_mm, 0, 'N·mm')}; most arrives with the "
            f"horn {c.best_horn_mm:.0f} mm out"
        )
    out += [
        f"  Cord        {c.face} edge: {100 * c.moment_share:.0f} % of the moment, {_band(c.pull_N, 1, 'N')} of pull, "
        f"which needs {c.bond_mm:.0f} mm of bond"
        for c in result.cords
    ]
    if len(result.verdicts) > 1:
        out.append("  All cases kept (times the load against what is asked):")
        for v in result.verdicts:
            mark = "→" if v.case_id == result.governs else " "
            out.append(f"    {mark} {v.name:<30} {v.holds.typ:6.2f} of {v.asked:g}   {v.sentence}")
    for snap in result.snaps:
        out.append(f"  Bent {snap.direction} by hand until it parts: {snap.sentence}")
    if result.deflection_mm.causes:
        out.append(f"  Bend spread comes mostly from: {', '.join(result.deflection_mm.causes)}")
    if result.holds.causes:
        out.append(f"  Strength spread comes mostly from: {', '.join(result.holds.causes)}")
    out.append("  Lay-up, from the foam outwards:")
    out += [
        f"    {line.label:<34} {line.grams.typ:7.1f} g   {100 * line.bending_share:5.1f} % in bending   "
        f"{100 * line.torsion_share:5.1f} % in twist"
        for line in result.lines
    ]
    out.append("  What gives, in order (times the load):")
    out += [f"    {f.holds.typ:6.2f} ×  {f.sentence}, {f.at_mm:.0f} mm" for f in result.failures]
    out += [f"  Note: {warning}" for warning in result.warnings]
    out.append("  Assumes:")
    out += [f"    {line}" for line in result.assumptions]
    if explain:
        for working in result.workings:
            out += _explained(working)
        out += _origins(result.sources)
    return "\n".join(out)


def _read(file: str) -> Airframe | None:
    """The checked document of a file, or None once what is wrong stands on the error stream."""
    try:
        return read(parse_json(Path(file).read_bytes()))
    except OSError as error:
        print(f"{file}: cannot be read: {error.strerror}", file=sys.stderr)
    except InvalidDocument as invalid:
        for problem in invalid.problems:
            print(problem.line(), file=sys.stderr)
    return None


def _estimate(arguments: argparse.Namespace) -> int:
    airframe = _read(arguments.file)
    if airframe is None:
        return 2
    parts = [p for p in airframe.parts if arguments.part in (None, p.id)]
    if not parts:
        known = ", ".join(p.id for p in airframe.parts) or "none"
        print(f"--part: no part {arguments.part!r}; the document has {known}", file=sys.stderr)
        return 2
    wanted = [(p, c) for p in parts for c in p.cases if arguments.case in (None, c.id, c.name)]
    if not wanted:
        known = ", ".join(sorted({c.id for p in parts for c in p.cases}))
        print(f"--case: no load case {arguments.case!r}; the document has {known}", file=sys.stderr)
        return 2
    results = [estimate(airframe, p.id, c.id) for p, c in wanted]
    if arguments.json:
        print(json.dumps([r.model_dump() for r in results], indent=1))
    else:
        names = [f"{airframe.name}, {p.name}" for p, _ in wanted]
        print("\n\n".join(describe(r, n, arguments.explain) for r, n in zip(results, names, strict=True)))
    return 0


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
                    f"holds {w.holds.typ:5.2f} ×   best horn {w.best_horn_mm:.0f} mm"
                )
    if not found:
        print("no control surface with a case that holds it deflected", file=sys.stderr)
    return 0 if found else 2


def _schema(_: argparse.Namespace) -> int:
    print(json.dumps(Airframe.model_json_schema(), indent=2))
    return 0


def main(argv: list[str] | None = None) -> int:
    """Entry point of the command line; returns the exit code."""
    parser = argparse.ArgumentParser(prog="fletcher", description=__doc__)
    commands = parser.add_subparsers(required=True)
    one = commands.add_parser("estimate", help="estimate the parts of an airframe file")
    one.add_argument("file", help="airframe document (JSON), see docs/file-format.md")
    one.add_argument("--part", help="only the part with this id")
    one.add_argument("--case", help="only the load case with this id or name")
    one.add_argument("--json", action="store_true", help="print the whole result as JSON")
    one.add_argument("--explain", action="store_true", help="print the working of every figure as well")
    one.set_defaults(run=_estimate)
    ways = commands.add_parser("compare", help="control surfaces of a file, the same size built in other ways")
    ways.add_argument("file", help="airframe document (JSON)")
    ways.add_argument("--part", help="only the part with this id")
    ways.set_defaults(run=_compare)
    two = commands.add_parser("schema", help="print the JSON Schema of the airframe document")
    two.set_defaults(run=_schema)
    arguments = parser.parse_args(argv)
    return int(arguments.run(arguments))


if __name__ == "__main__":
    sys.exit(main())
