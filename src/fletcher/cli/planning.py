"""The plan of an airframe file: operations in the shop's hours, as text, JSON or calendar."""

from __future__ import annotations

import argparse
import re
import sys
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from fletcher.core.document.problems import InvalidDocument, from_validation
from fletcher.core.materials.tables import reference
from fletcher.core.plan.cut_list import CutList, CutWish, cut_list
from fletcher.core.plan.ical import calendar_of
from fletcher.core.plan.planning import plan
from fletcher.core.plan.schedule import Impossible
from fletcher.core.plan.schema import DAYS, Plan, ShopWish
from fletcher.core.studies.splicing import splicing
from fletcher.core.validation.airframe import parse_json, read

_HOURS = re.compile(r"([a-z]{3}(?:[,-][a-z]{3})*)@(\d{1,2}(?:\.\d+)?)-(\d{1,2}(?:\.\d+)?)$")


def add_plan(commands: Any) -> None:
    """The command with its arguments."""
    made = commands.add_parser("plan", help="every operation in order, with waits and gates, and the first flight")
    made.add_argument("file", help="airframe file (JSON)")
    made.add_argument("--people", type=int, default=1, help="how many work on it")
    made.add_argument("--warmth", type=float, default=20.0, help="temperature of the shop, °C")
    made.add_argument("--boards", type=int, default=1, help="flat boards with weights")
    made.add_argument("--clamps", type=int, default=8, help="clamps")
    made.add_argument("--hours", nargs="*", default=[], help="such as mon-fri@18-22 sat,sun@9-17; none: any time")
    made.add_argument("--zone", default="UTC", help="time zone, such as Europe/Berlin")
    made.add_argument("--dial", action="store_true", help="the iron's sole is not measured")
    made.add_argument("--hardener", type=float, help="hardener to 100 parts of resin by weight, from the tin")
    made.add_argument("--wire", type=float, default=0.4, help="diameter of the hot wire, mm")
    made.add_argument("--box", help="a warm box: temperature, places and mm, such as 35,1,1000; add ,alone where a "
                      "thermostat holds it")  # fmt: skip
    made.add_argument("--begins", help="when the work begins, such as 2026-05-02T18:00")
    made.add_argument("--json", action="store_true", help="print the whole result as JSON")
    made.add_argument("--calendar", action="store_true", help="print it as iCalendar")
    made.set_defaults(run=run)


def add_cut(commands: Any) -> None:
    """The command with its arguments."""
    cut = commands.add_parser("cut", help="which piece comes out of which bar, what to buy, what is left")
    cut.add_argument("file", help="airframe file (JSON)")
    cut.add_argument("--kerf", type=float, default=1.0, help="what a cut takes, mm")
    cut.add_argument("--own", nargs="*", default=[], help="lengths on the shelf, such as carbon_rod_3=620,440")
    cut.add_argument("--sheets", nargs="*", default=[], help="sheets on the shelf, such as epp_30=900x600,310x140")
    cut.add_argument("--json", action="store_true", help="print the whole result as JSON")
    cut.set_defaults(run=run_cut)


def run_cut(arguments: argparse.Namespace) -> int:
    """Tell the cut list, or what is wrong."""
    path = Path(arguments.file)
    try:
        airframe = read(parse_json(path.read_bytes()))
        wish = CutWish.model_validate(
            {
                "kerf_mm": arguments.kerf,
                "own": [_own(text) for text in arguments.own],
                "own_sheets": [_own_sheets(text) for text in arguments.sheets],
            }
        )
    except OSError as error:
        return _refused(f"{path}: cannot read: {error.strerror}")
    except InvalidDocument as invalid:
        return _refused(*(p.line() for p in invalid.problems))
    except ValidationError as error:
        return _refused(*(p.line() for p in from_validation(error)))
    except ValueError as error:
        return _refused(str(error))
    made = cut_list(airframe, wish)
    if arguments.json:
        print(made.model_dump_json(indent=1))
        return 0
    print(f"{airframe.name}\n{told_cuts(made)}")
    joints = splicing(airframe, wish)
    for says in (*(o.says for o in joints.offers), *joints.nowhere):
        print(f"  ! {says}")
    return 0


def _own(text: str) -> dict[str, Any]:
    """Own lengths as they are typed, such as carbon_rod_3=620,440."""
    key, _, lengths = text.partition("=")
    if key not in reference().bars:
        raise ValueError(f"--own {text}: {key!r} is no bar of the stockroom")
    try:
        return {"stock": key, "mm": [float(mm) for mm in lengths.split(",")]}
    except ValueError:
        raise ValueError(f"--own {text}: write KEY=mm,mm such as carbon_rod_3=620,440") from None


def _own_sheets(text: str) -> dict[str, Any]:
    """Own sheets as they are typed, such as epp_30=900x600,310x140."""
    key, _, sizes = text.partition("=")
    c = reference()
    if not any(key in table for table in (c.sheets, c.foams, c.skins, c.cloths)):
        raise ValueError(f"--sheets {text}: {key!r} is no sheet, foam, film or cloth of the stockroom")
    try:
        pairs = [size.split("x") for size in sizes.split(",")]
        return {"stock": key, "mm": [(float(long), float(wide)) for long, wide in pairs]}
    except ValueError:
        raise ValueError(f"--sheets {text}: write KEY=LONGxWIDE,LONGxWIDE in mm such as epp_30=900x600") from None


def told_cuts(made: CutList) -> str:
    """Every length of stock with its pieces, what to buy, what is left."""
    out = [f"  ! {r}" for r in made.remarks]
    for b in made.bars:
        out.append(f"{b.name}: buy {b.buy} × {b.unit} ({b.cost.low:.0f}–{b.cost.high:.0f}); "
                   f"at least {b.least} lengths, {b.careless} in the order of the list")  # fmt: skip
        for c in b.cuts:
            pieces = " | ".join(f"{p.mm:g} {p.name}" for p in c.pieces)
            left = f"{c.left_mm:.0f} left" + (", keep" if c.goes_back else "")
            out.append(f"  {'own ' if c.own else ''}{c.stock_mm:g} mm: {pieces}  ({left})")
    for s in made.sheets:
        out.append(f"{s.name}: buy {s.buy} × {s.unit} ({s.cost.low:.0f}–{s.cost.high:.0f}); "
                   f"at least {s.least}, {s.careless} in the order of the list")  # fmt: skip
        for n, sheet in enumerate(s.sheets, 1):
            left = f"{sheet.left_long_mm:.0f} × {sheet.left_wide_mm:.0f} left" + (", keep" if sheet.goes_back else "")
            out.append(f"  {'own ' if sheet.own else ''}{n}: {sheet.long_mm:g} × {sheet.wide_mm:g} mm  ({left})")
            out += [f"    at {p.x_mm:.0f}, {p.y_mm:.0f}: {p.long_mm:g} × {p.wide_mm:g} {p.name}"
                    + (f" ({p.note})" if p.note else "") for p in sheet.pieces]  # fmt: skip
    for t in made.tapes:
        out.append(f"{t.name}: {t.metres:g} m, buy {t.buy} × {t.unit}")
        out += [f"  {p.long_mm:g} × {p.wide_mm:g} {p.name}" for p in t.strips]
    return "\n".join(out) or "  Nothing is cut for this airframe."


def run(arguments: argparse.Namespace) -> int:
    """Tell the plan, or what is wrong."""
    path = Path(arguments.file)
    try:
        airframe = read(parse_json(path.read_bytes()))
        shop = ShopWish.model_validate({
            "people": arguments.people, "warmth_C": arguments.warmth, "boards": arguments.boards,
            "clamps": arguments.clamps, "hours": [_hours(text) for text in arguments.hours], "zone": arguments.zone,
            "begins": arguments.begins, "probe": not arguments.dial, "hardener_parts": arguments.hardener,
            "wire_mm": arguments.wire, "warm_box": _box(arguments.box),
        })  # fmt: skip
        made = plan(airframe, shop, datetime.now(UTC))
    except OSError as error:
        return _refused(f"{path}: cannot read: {error.strerror}")
    except InvalidDocument as invalid:
        return _refused(*(p.line() for p in invalid.problems))
    except ValidationError as error:
        return _refused(*(p.line() for p in from_validation(error)))
    except Impossible as error:
        return _refused(f"{path}: {error}")
    except ValueError as error:
        return _refused(str(error))
    if arguments.calendar:
        sys.stdout.write(calendar_of(made, airframe.name, datetime.now(UTC)).decode())
    else:
        print(made.model_dump_json(indent=1) if arguments.json else f"{airframe.name}\n{told_plan(made)}")
    return 0


def _refused(*lines: str) -> int:
    for line in lines:
        print(line, file=sys.stderr)
    return 2


def _hours(text: str) -> dict[str, Any]:
    """Working hours as they are typed, such as mon-fri@18-22."""
    found = _HOURS.match(text.lower())
    days: list[str] = []
    for part in found[1].split(",") if found else ():
        first, _, last = part.partition("-")
        if first not in DAYS or (last and last not in DAYS):
            raise ValueError(f"--hours {text}: days are {', '.join(DAYS)}")
        a, b = DAYS.index(first), DAYS.index(last or first)
        days += [DAYS[n % 7] for n in range(a, b + 1 if b >= a else b + 8)]
    if found is None:
        raise ValueError(f"--hours {text}: write days@from-to, such as mon-fri@18-22")
    return {"days": days, "from_hour": float(found[2]), "to_hour": float(found[3])}


def _box(text: str | None) -> dict[str, Any] | None:
    """A warm box as it is typed, such as 35,1,1000 or 35,1,1000,alone."""
    if text is None:
        return None
    found = re.match(r"(\d+(?:\.\d+)?),(\d+),(\d+(?:\.\d+)?)(,alone)?$", text)
    if found is None:
        raise ValueError(f"--box {text}: write degrees,places,mm such as 35,1,1000")
    return {"warm_C": float(found[1]), "places": int(found[2]), "long_mm": float(found[3]),
            "thermostat": found[4] is not None}  # fmt: skip


def told_plan(plan: Plan) -> str:
    """When it flies, then every operation with its hours, what sets and the gates before it."""
    out = [plan.says]
    out.append(f"  Range          {_at(plan.flies_from)} to {_at(plan.flies_to)} (5–95 %)")
    hands = plan.hands_min
    out.append(f"  Hands          {hands.typ / 60:.1f} h ({hands.low / 60:.1f}–{hands.high / 60:.1f}); longest chain "
               f"{plan.chain_min / 60:.1f} h" + (f"; {plan.sessions} sessions" if plan.sessions else ""))  # fmt: skip
    out += [f"  ! {r}" for r in plan.remarks]
    by_key = {o.key: o for o in plan.operations}
    for p in plan.planned:
        o = by_key[p.key]
        what = f"{o.piece}: {o.title}" if o.piece else o.title
        where = f" in the warm box, {o.box_C:g} °C," if o.box_C is not None else ""
        sets = f"  ({o.glue}{where} holds itself {_at(p.sets)})" if p.sets else ""
        out.append(f"  {_at(p.begins)}  {round((p.ends - p.begins).total_seconds() / 60):4d} min  {what}{sets}")
        out += [f"{'':30}□ {g.says}" for g in o.gates]
        out += [f"{'':30}{c.title}: " + "; ".join(f"{li.name} {li.value}" for li in c.lines) for c in o.cards]
    return "\n".join(out)


def _at(when: datetime) -> str:
    return f"{when:%a %d %b %H:%M}"
