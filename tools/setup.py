"""What must be on the machine: Debian packages, the Python environment, the front end's packages and its build.

Every step leaves a mark of what it was done for, written last, so that a step cut short is done again.
"""

from __future__ import annotations

import hashlib
import os
import shutil
import subprocess
import sys
from collections.abc import Iterable, Sequence
from ctypes.util import find_library
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
DATA = ROOT / ".data"
VENV = ROOT / ".venv"
FRONTEND = ROOT / "frontend"
MANAGE = ROOT / "src" / "fletcher" / "server" / "manage.py"
PYTHON = VENV / "bin" / "python"
BUILD_MARK = FRONTEND / "dist" / ".fletcher-build"


_PRINTING = {
    "pango-1.0": "libpango-1.0-0",
    "pangoft2-1.0": "libpangoft2-1.0-0",
    "harfbuzz-subset": "libharfbuzz-subset0",
}
"""Libraries that set pages to print, and the packages that hold them."""


class Trouble(Exception):  # noqa: N818 - shown to people as it is
    """Something that stops the command: one line with the remedy."""


def say(text: str) -> None:
    print(f"· {text}", flush=True)


def run(command: Sequence[str | Path], what: str, cwd: Path = ROOT, env: dict[str, str] | None = None) -> str:
    """Run a command quietly; on failure show the end of its output and say what failed."""
    done = subprocess.run(
        [str(c) for c in command], cwd=cwd, env=env, text=True, stdout=subprocess.PIPE, stderr=subprocess.STDOUT
    )
    if done.returncode:
        tail = "\n".join(done.stdout.strip().splitlines()[-15:])
        raise Trouble(f"{what} failed (exit {done.returncode}). Its last words:\n{tail}")
    return done.stdout


def digest(files: Iterable[Path]) -> str:
    """One hash over names and contents of files."""
    h = hashlib.sha256()
    for file in sorted(files):
        h.update(str(file.relative_to(ROOT)).encode() + b"\0" + file.read_bytes() + b"\0")
    return h.hexdigest()


def _is(mark: Path, value: str) -> bool:
    return mark.is_file() and mark.read_text() == value


def postgres_bin(version: str | None = None) -> Path | None:
    """Folder of PostgreSQL's server programs, of one major version or the newest; Debian keeps them off the path."""
    found = sorted(Path("/usr/lib/postgresql").glob("*/bin/initdb"), key=lambda p: -float(p.parts[-3]))
    found = [p for p in found if version in (None, p.parts[-3])]
    if found:
        return found[0].parent
    on_path = shutil.which("initdb")
    if on_path is None or (version is not None and f" {version}." not in run([on_path, "--version"], "initdb") + "."):
        return None
    return Path(on_path).resolve().parent


def chromium() -> str | None:
    """Path of the browser that the tests drive."""
    return shutil.which("chromium")


def _venv_works() -> bool:
    return subprocess.run([sys.executable, "-c", "import ensurepip"], capture_output=True).returncode == 0


def system_packages(tests: bool) -> None:
    """Install Debian packages that are missing."""
    wanted = []
    if postgres_bin() is None:
        wanted.append("postgresql")
    if not _venv_works():
        wanted.append("python3-venv")
    if tests and chromium() is None:
        wanted += ["chromium", "chromium-sandbox", "fonts-dejavu-core"]
    may_install = shutil.which("apt-get") is not None and (os.geteuid() == 0 or shutil.which("sudo") is not None)
    printing = [package for library, package in _PRINTING.items() if find_library(library) is None]
    if printing and not may_install:
        say(f"pages cannot be printed as PDF before these packages are installed: {' '.join(printing)}")
    elif printing:
        wanted += printing
    if not wanted:
        return
    names = " ".join(wanted)
    if shutil.which("apt-get") is None:
        raise Trouble(f"missing: {names}, and there is no apt-get here. Install them by hand, then run this again.")
    prefix: list[str] = []
    if os.geteuid() != 0:
        if shutil.which("sudo") is None:
            raise Trouble(f"missing: {names}. As root run: apt-get install {names}  - then run this again.")
        prefix = ["sudo"]
    say(f"installing {names} from Debian's packages")
    env = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    run([*prefix, "apt-get", "update"], "apt-get update", env=env)
    run([*prefix, "apt-get", "install", "-y", "--no-install-recommends", *wanted], f"installing {names}", env=env)


def python_packages(tests: bool) -> None:
    """The Python environment in .venv, from the hashed lock file."""
    lock = ROOT / "requirements" / ("dev.txt" if tests else "run.txt")
    mark = VENV / ".fletcher-packages"
    full = ROOT / "requirements" / "dev.txt"
    value, value_full = digest([lock]), digest([full])
    if PYTHON.exists() and (_is(mark, value) or _is(mark, value_full)):
        return
    say("installing Python packages (a minute or two, once)")
    mark.unlink(missing_ok=True)
    if not PYTHON.exists() or subprocess.run([PYTHON, "-m", "pip", "--version"], capture_output=True).returncode:
        shutil.rmtree(VENV, ignore_errors=True)
        run([sys.executable, "-m", "venv", VENV], "creating the Python environment")
    command: list[str | Path] = [PYTHON, "-m", "pip", "install", "--quiet", "--disable-pip-version-check"]
    run([*command, "--require-hashes", "-r", lock], "installing Python packages")
    mark.write_text(value)


def _node() -> str:
    node, npm = shutil.which("node"), shutil.which("npm")
    if node is None or npm is None:
        raise Trouble("Node.js is missing. Install Node.js 20.19 or newer (with npm), then run this again.")
    version = run([node, "--version"], "checking the Node.js version").strip().lstrip("v")
    if tuple(int(n) for n in version.split(".")[:2]) < (20, 19):
        raise Trouble(f"Node.js {version} is too old. Install 20.19 or newer, then run this again.")
    return npm


def frontend_packages() -> str:
    """The front end's packages, exactly as locked. Returns the path of npm."""
    npm = _node()
    mark = FRONTEND / "node_modules" / ".fletcher-packages"
    value = digest([FRONTEND / "package-lock.json", FRONTEND / "package.json"])
    if not _is(mark, value):
        say("installing the front end's packages (half a minute, once)")
        run([npm, "ci", "--no-audit", "--no-fund"], "installing the front end's packages", cwd=FRONTEND)
        mark.write_text(value)
    return npm


def frontend_build() -> None:
    """The built page in frontend/dist, rebuilt when its sources changed."""
    sources = [f for name in ("src", "public") for f in (FRONTEND / name).rglob("*") if f.is_file()]
    sources += [FRONTEND / n for n in ("index.html", "package-lock.json", "vite.config.ts", "tsconfig.json")]
    value = digest(sources)
    if _is(BUILD_MARK, value):
        return
    npm = frontend_packages()
    say("building the page")
    run([npm, "run", "--silent", "build"], "building the page", cwd=FRONTEND)
    BUILD_MARK.write_text(value)


def build_mark() -> str:
    """What the built page was built from."""
    return BUILD_MARK.read_text()
