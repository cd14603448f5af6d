"""The `fletcher` command: what each verb does."""

from __future__ import annotations

import errno
import os
import subprocess
import sys
import tempfile
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from tools import setup
from tools.backup import Nightly, backup, restore
from tools.database import NUMERIC, Cluster
from tools.serving import only_one, serve
from tools.setup import FRONTEND, MANAGE, PYTHON, ROOT, Trouble, say


def _with_database(command: list[str | Path], demo: bool) -> int:
    """Run a management command against the main cluster."""
    setup.system_packages(tests=False)
    setup.python_packages(tests=False)
    cluster = Cluster("main", durable=True)
    already = not _lockable("serve")
    try:
        cluster.start()
        env = cluster.environment(demo)
        setup.run([PYTHON, MANAGE, "prepare"], "preparing the database", env=env)
        return subprocess.run([str(c) for c in command], env=env, cwd=ROOT).returncode
    finally:
        if not already:
            cluster.stop()


def _lockable(name: str) -> bool:
    try:
        with only_one(name):
            return True
    except Trouble:
        return False


Step = tuple[str, list[str | Path], Path]
"""A check: its name, its command and where it runs."""


def test(arguments: list[str]) -> int:
    """Every check and test, or pytest alone with the given arguments."""
    setup.system_packages(tests=True)
    setup.python_packages(tests=True)
    npm = setup.frontend_packages()
    setup.frontend_build()
    with only_one("test"):
        cluster = Cluster("test", durable=False)
        try:
            cluster.start()
            env = {**cluster.environment(demo=True), "FLETCHER_CHROMIUM": setup.chromium() or ""}
            bin_ = PYTHON.parent
            steps: list[Step] = [
                ("ruff", [bin_ / "ruff", "check", "."], ROOT),
                ("formatting", [bin_ / "ruff", "format", "--check", "--quiet", "."], ROOT),
                ("type check: core", [bin_ / "mypy"], ROOT),
                ("import rules", [bin_ / "lint-imports"], ROOT),
                ("missing migrations", [PYTHON, MANAGE, "makemigrations", "--check", "--dry-run"], ROOT),
                ("API schema", [PYTHON, ROOT / "tools" / "api_schema.py", "--check"], ROOT),
                ("type check: front end", [npm, "run", "--silent", "typecheck"], FRONTEND),
                ("eslint", [npm, "run", "--silent", "lint"], FRONTEND),
                ("prettier", [npm, "run", "--silent", "format"], FRONTEND),
                ("vitest", [npm, "run", "--silent", "test"], FRONTEND),
            ]
            failed = [*([] if arguments else _checks(steps, env)), *_pytest(arguments, env)]
            print("\nAll checks passed." if not failed else f"\nFailed: {', '.join(failed)}", flush=True)
            return 1 if failed else 0
        finally:
            cluster.stop()


def _checks(steps: list[Step], env: dict[str, str]) -> list[str]:
    """Run checks that need no page, two beside each other, and tell them in their order. Names of those that failed."""

    def run(step: Step) -> tuple[str, subprocess.CompletedProcess[str], float]:
        (name, command, cwd), started = step, time.monotonic()
        done = subprocess.run(
            [str(c) for c in command], cwd=cwd, env=env, text=True, stdout=subprocess.PIPE, stderr=subprocess.STDOUT
        )
        return name, done, time.monotonic() - started

    failed = []
    with ThreadPoolExecutor(2) as pool:
        for name, done, seconds in pool.map(run, steps):
            say(f"{name}: {'ok' if done.returncode == 0 else 'FAILED'} ({seconds:.0f} s)")
            if done.returncode:
                failed.append(name)
                print(done.stdout[-6000:])
    return failed


def _pytest(arguments: list[str], env: dict[str, str]) -> list[str]:
    """Pytest with the given arguments; without any the core runs beside page and server. What failed."""
    run = [str(PYTHON), "-m", "pytest"]
    if arguments:
        say("pytest")
        return ["pytest"] if subprocess.run([*run, *arguments], cwd=ROOT, env=env).returncode else []
    say("pytest: the page, the core beside it")
    with tempfile.TemporaryFile() as told, ThreadPoolExecutor(1) as pool:
        core = pool.submit(
            subprocess.run, [*run, *(f"tests/{t}" for t in ("core", "cli", "sense", "devices")), "-p", "no:django"],
            cwd=ROOT, env={**env, **NUMERIC}, stdout=told, stderr=subprocess.STDOUT,
        )  # fmt: skip
        page = subprocess.run([*run, "tests/browser"], cwd=ROOT, env=env).returncode
        say("pytest: server")
        server = subprocess.run([*run, "tests/server"], cwd=ROOT, env=env).returncode
        codes = {"page": page, "server": server, "core": core.result().returncode}
        told.seek(0)
        say("pytest: core")
        print(told.read().decode(errors="replace"), flush=True)
    return [name for name, code in codes.items() if code]


def _proof() -> int:
    """Run the tests of the core and write the table of every recorded check with its error."""
    setup.system_packages(tests=True)
    setup.python_packages(tests=True)
    env = {**os.environ, "FLETCHER_PROOF": str(ROOT / "docs" / "checks.md"), **NUMERIC}
    return subprocess.run(
        [str(PYTHON), "-m", "pytest", "tests/core", "-q", "-p", "no:django"], cwd=ROOT, env=env
    ).returncode


_OF_THE_CORE = (
    *("estimate", "surfaces", "cutting", "cutouts", "breakaway", "detail", "joints", "damage", "inspect", "repair"),
    *(
        "mistake",
        "toughness",
        "glue",
        "holddown",
        "hinge",
        "balance",
        "weigh",
        "rig",
        "plan",
        "cut",
        "templates",
        "schema",
    ),
    *("compare", "making", "openings", "corridor", "mend", "slip", "toughen", "hold"),  # as they were called before
)
"""Verbs that the core answers by itself."""


def _core(arguments: list[str]) -> int:
    setup.system_packages(tests=False)
    setup.python_packages(tests=False)
    env = {**os.environ, "PYTHONPATH": str(ROOT / "src")}
    return subprocess.run([str(PYTHON), "-m", "fletcher.cli", *arguments], env=env).returncode


def _devices(arguments: list[str]) -> int:
    """Simulated bench instruments; they need no package."""
    env = {**os.environ, "PYTHONPATH": str(ROOT / "src")}
    return subprocess.run([sys.executable, "-m", "fletcher.devices", *arguments], env=env).returncode


def _api() -> int:
    setup.system_packages(tests=False)
    setup.python_packages(tests=False)
    npm = setup.frontend_packages()
    setup.run([PYTHON, ROOT / "tools" / "api_schema.py"], "writing the API's schema")
    setup.run([npm, "run", "--silent", "api"], "writing the front end's types", cwd=FRONTEND)
    return 0


def main(arguments: list[str]) -> int:
    """Run a verb; trouble becomes one clear line and exit code 1."""
    verb, rest = (arguments[0], arguments[1:]) if arguments else ("", [])
    os.environ.pop("PYTHONDONTWRITEBYTECODE", None)  # compiled code makes every later start several times faster
    try:
        if verb in ("demo", "run") and not rest:
            return serve(demo=verb == "demo", on_look=Nightly().look)
        if verb == "backup" and len(rest) == 1:
            return backup(Path(rest[0]))
        if verb == "restore" and rest and set(rest[1:]) <= {"--replace"}:
            return restore(Path(rest[0]), replace="--replace" in rest)
        if verb == "users":
            return _with_database([PYTHON, MANAGE, "users", *(rest or ["--help"])], demo=False)
        if verb == "log":
            return _with_database([PYTHON, MANAGE, "log", *(rest or ["--help"])], demo=False)
        if verb == "test":
            return test(rest)
        if verb in _OF_THE_CORE:
            return _core(arguments)
        if verb == "devices":
            return _devices(rest)
        if verb == "api" and not rest:
            return _api()
        if verb == "proof" and not rest:
            return _proof()
        if verb == "bench":
            return _bench(rest)
        if verb == "sense":
            return _sense(rest)
    except Trouble as trouble:
        print(f"fletcher: {trouble}", file=sys.stderr)
        return 1
    except OSError as error:
        if error.errno != errno.ENOSPC:
            raise
        print(f"fletcher: the disk is full{f': {error.filename}' if error.filename else ''}; make room and start again",
              file=sys.stderr)  # fmt: skip
        return 1
    except KeyboardInterrupt:
        return 130
    print((ROOT / "fletcher").read_text().split('"""')[1].strip())
    return 0 if verb in ("", "help", "--help", "-h") else 2


def _sense(arguments: list[str]) -> int:
    """The wide sweep of the laws of builder's sense."""
    setup.system_packages(tests=False)
    setup.python_packages(tests=False)
    env = {**os.environ, "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}", **NUMERIC}
    return subprocess.run([str(PYTHON), "-m", "tests.sense.run", *arguments], env=env, cwd=ROOT).returncode


def _bench(arguments: list[str]) -> int:
    """Benchmarks of the core, and of the page on a database of its own; all of them, or those that are named."""
    setup.system_packages(tests=True)
    setup.python_packages(tests=True)
    env = {**os.environ, "PYTHONPATH": str(ROOT / "src"), **NUMERIC}
    if arguments[:1] == ["kills"]:
        return subprocess.run([str(PYTHON), ROOT / "benchmarks" / "kills.py", *arguments[1:]], cwd=ROOT).returncode
    if arguments[:1] and arguments[0] in ("load", "steady", "fair", "dear", "several"):
        return _with_test_database([PYTHON, "-m", "benchmarks.load", *arguments], env)
    if arguments == ["log"]:
        return _with_test_database([PYTHON, "-m", "benchmarks.long_log"], env)
    core = [a for a in arguments if a != "browser"]
    code = 0
    if core or not arguments:
        code = subprocess.run([str(PYTHON), ROOT / "benchmarks" / "run.py", *core], env=env, cwd=ROOT).returncode
    if code or (arguments and "browser" not in arguments):
        return code
    return _with_test_database([PYTHON, ROOT / "benchmarks" / "browser.py"], env)


def _with_test_database(command: list[str | Path], env: dict[str, str]) -> int:
    """Run a benchmark on a database of its own that holds the demo data afresh."""
    setup.frontend_build()
    with only_one("test"):
        cluster = Cluster("test", durable=False)
        try:
            cluster.start()
            env = {**env, **cluster.environment(demo=True), "FLETCHER_CHROMIUM": setup.chromium() or ""}
            for verb in (["prepare", "--static"], ["flush", "--no-input"], ["prepare"]):
                setup.run([PYTHON, MANAGE, *verb], "preparing the database", env=env)
            return subprocess.run([str(c) for c in command], env=env, cwd=ROOT).returncode
        finally:
            cluster.stop()
