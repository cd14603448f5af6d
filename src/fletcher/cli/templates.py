"""Templates of an airframe file, written into a folder at 1:1."""

from __future__ import annotations

import argparse
import json
import sys
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from fletcher.core.document.problems import InvalidDocument
from fletcher.core.templates.files import files_of
from fletcher.core.validation.airframe import parse_json, read


def add_templates(commands: Any) -> None:
    """The command with its arguments."""
    made = commands.add_parser("templates", help="all templates at 1:1 as DXF, SVG and tiled PDF")
    made.add_argument("file", help="airframe file (JSON)")
    made.add_argument("-o", "--out", required=True, help="folder to write into")
    made.add_argument("--kerf", type=float, default=1.2, help="what the hot wire takes, mm")
    made.add_argument("--paper", choices=["A4", "Letter"], default="A4", help="paper of the PDF")
    made.add_argument("--no-pdf", action="store_true", help="drawings only")
    made.add_argument("--json", action="store_true", help="print the names of the files as JSON")
    made.set_defaults(run=run_templates)


def run_templates(arguments: argparse.Namespace) -> int:
    """Write the templates, or tell what is wrong."""
    path, folder = Path(arguments.file), Path(arguments.out)
    if not 0 <= arguments.kerf <= 5:
        return _refused(f"--kerf {arguments.kerf:g}: must be between 0 and 5 mm")
    try:
        airframe = read(parse_json(path.read_bytes()))
    except OSError as error:
        return _refused(f"{path}: cannot read: {error.strerror}")
    except InvalidDocument as invalid:
        return _refused(*(p.line() for p in invalid.problems))
    try:
        folder.mkdir(parents=True, exist_ok=True)
        day, names = datetime.now(UTC).date(), []
        for name, data in files_of(airframe, arguments.kerf, arguments.paper, day, not arguments.no_pdf):
            (folder / name).write_bytes(data)
            names.append(name)
    except OSError as error:
        return _refused(f"{folder}: cannot write: {error.strerror or error}")
    print(json.dumps(names) if arguments.json else "\n".join(names) or "Nothing is drawn for this airframe.")
    return 0


def _refused(*lines: str) -> int:
    for line in lines:
        print(line, file=sys.stderr)
    return 2
