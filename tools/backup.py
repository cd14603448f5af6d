"""Everything that is stored, accounts and pictures with it, as one file; and back from it."""

from __future__ import annotations

import os
import subprocess
import time
from datetime import UTC, datetime
from pathlib import Path

from tools import setup
from tools.database import Cluster
from tools.serving import only_one
from tools.setup import DATA, MANAGE, PYTHON, Trouble, say

KEPT = 14
"""So many nightly backups are kept; older ones of them are removed."""
_NIGHTLY = "fletcher-night-"
_A_DAY_S = 24 * 3600.0


def _pg(cluster: Cluster, program: str, *arguments: str) -> str:
    """Run one of PostgreSQL's programs against a cluster that runs."""
    reach = ["-h", "127.0.0.1", "-p", str(cluster.port), "-U", "fletcher"]
    env = {**os.environ, "PGPASSWORD": cluster.password}
    return setup.run([str(cluster.programs / program), *reach, *arguments], program, env=env)


def write_backup(cluster: Cluster, target: Path) -> int:
    """Write a backup of a cluster that runs; in its place only once it is whole and can be read. Its bytes."""
    target.parent.mkdir(parents=True, exist_ok=True)
    part = target.with_name(target.name + ".part")
    part.touch(mode=0o600)
    try:
        _pg(cluster, "pg_dump", "--format=custom", "--no-owner", "--file", str(part), "--dbname", cluster.database)
    except Trouble:
        part.unlink()
        raise
    listed = setup.run([cluster.programs / "pg_restore", "--list", part], "reading the backup")
    if "airframes_revision" not in listed:
        raise Trouble(f"the backup holds no airframes table and was not kept; what was written is {part}")
    part.replace(target)
    return target.stat().st_size


def backup(target: Path) -> int:
    """The verb: a backup while serving or not. It never takes the place of a file that is there."""
    if target.exists():
        raise Trouble(f"{target} is there already: name another file.")
    setup.system_packages(tests=False)
    setup.python_packages(tests=False)
    cluster = Cluster("main", durable=True)
    ran = cluster.start()
    try:
        size = write_backup(cluster, target)
    finally:
        if not ran:
            cluster.stop()
    say(f"{target}: {size / 1e6:.1f} MB, checked. It holds passwords' hashes and pictures: keep it private.")
    return 0


def restore(source: Path, replace: bool) -> int:
    """The verb: what a backup holds takes the place of what is stored. What was there is backed up first."""
    if not source.is_file():
        raise Trouble(f"{source} is no file.")
    setup.system_packages(tests=False)
    setup.python_packages(tests=False)
    with only_one("serve"):
        cluster = Cluster("main", durable=True)
        cluster.start()
        try:
            setup.run([cluster.programs / "pg_restore", "--list", source], "reading the backup")
            if _holds_anything(cluster):
                if not replace:
                    raise Trouble(
                        "there are accounts here already. To put the backup in their place: "
                        f"./fletcher restore {source} --replace (what is here is backed up first)"
                    )
                kept = DATA / f"before-restore-{datetime.now(UTC):%Y%m%d-%H%M%S}.backup"
                write_backup(cluster, kept)
                say(f"what was here is kept in {kept}")
            load(cluster, source)
            setup.run([PYTHON, MANAGE, "prepare"], "bringing it up to date", env=cluster.environment(demo=False))
        finally:
            cluster.stop()
    say(f"restored from {source}")
    return 0


def load(cluster: Cluster, source: Path) -> None:
    """Put what a backup holds into a database of its own, which takes the place of the present one once it is whole."""
    new = f"{cluster.database}_new"
    for statement in (f"drop database if exists {new}", f"create database {new}"):
        _pg(cluster, "psql", "--quiet", "--dbname", "postgres", "--command", statement)
    _pg(cluster, "pg_restore", "--no-owner", "--exit-on-error", "--dbname", new, str(source))
    for statement in (
        f"drop database if exists {cluster.database}",
        f"alter database {new} rename to {cluster.database}",
    ):
        _pg(cluster, "psql", "--quiet", "--dbname", "postgres", "--command", statement)


def _holds_anything(cluster: Cluster) -> bool:
    ask = "select count(*) from information_schema.tables where table_name = 'auth_user'"
    reads = ("psql", "--tuples-only", "--dbname", cluster.database, "--command")
    if _pg(cluster, *reads, ask).strip() == "0":
        return False
    return _pg(cluster, *reads, "select count(*) from auth_user").strip() != "0"


class Nightly:
    """A backup a day into a folder, if one is named (FLETCHER_BACKUPS)."""

    def __init__(self) -> None:
        named = os.environ.get("FLETCHER_BACKUPS", "")
        self.folder = Path(named).resolve() if named else None
        self.next = 0.0

    def look(self, cluster: Cluster) -> None:
        """Make one if the last is a day old; trouble with it is told and stops nothing."""
        if self.folder is None or time.monotonic() < self.next:
            return
        self.next = time.monotonic() + 3600
        made = sorted(self.folder.glob(f"{_NIGHTLY}*.backup"))
        if made and abs(time.time() - made[-1].stat().st_mtime) < _A_DAY_S:  # one of the future: the clock was wrong
            return
        target = self.folder / f"{_NIGHTLY}{datetime.now(UTC):%Y-%m-%d-%H%M}.backup"
        try:
            write_backup(cluster, target)
        except (Trouble, OSError, subprocess.SubprocessError) as trouble:
            say(f"the nightly backup failed: {trouble}")
            return
        for old in made[: max(len(made) + 1 - KEPT, 0)]:
            old.unlink()
