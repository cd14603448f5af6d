"""A backup put back is what it was made of, row by row; it never takes the place of a file, and nights are thinned."""

from __future__ import annotations

import os
import subprocess

import pytest
from django.db import connection
from tools import backup
from tools.backup import KEPT, Nightly, load, write_backup
from tools.database import Cluster
from tools.setup import Trouble

from fletcher.server.airframes.management.commands.prepare import load_demo

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def cluster() -> Cluster:
    """The running cluster of the tests, with the tests' own database."""
    found = Cluster("test", durable=False)
    found.port, found.password = int(os.environ["FLETCHER_DB_PORT"]), os.environ["FLETCHER_DB_PASSWORD"]
    found.database = connection.settings_dict["NAME"]
    return found


def rows(cluster: Cluster, database: str) -> list[str]:
    """Every row of every table, as text, in one order."""
    command = [cluster.programs / "pg_dump", "-h", "127.0.0.1", "-p", str(cluster.port), "-U", "fletcher",
               "--data-only", "--inserts", "--no-comments", database]  # fmt: skip
    env = {**os.environ, "PGPASSWORD": cluster.password}
    told = subprocess.run([str(c) for c in command], env=env, capture_output=True, text=True, check=True).stdout
    return sorted(line for line in told.splitlines() if line.startswith(("INSERT", "SELECT pg_catalog.setval")))


def test_a_backup_put_back_is_what_it_was_made_of(cluster, tmp_path):
    load_demo()
    before = rows(cluster, cluster.database)
    assert len(before) > 40
    target = tmp_path / "folder" / "all.backup"
    assert write_backup(cluster, target) == target.stat().st_size > 20_000
    assert target.stat().st_mode & 0o077 == 0 and not list(target.parent.glob("*.part"))
    cluster.database = "fletcher_put_back"
    load(cluster, target)
    assert rows(cluster, "fletcher_put_back") == before


def test_a_backup_takes_no_files_place(tmp_path):
    there = tmp_path / "mine.txt"
    there.write_text("mine")
    with pytest.raises(Trouble, match="is there already"):
        backup.backup(there)
    assert there.read_text() == "mine"


def test_a_file_that_is_no_backup_changes_nothing(cluster, tmp_path):
    load_demo()
    before = rows(cluster, cluster.database)
    torn = tmp_path / "torn.backup"
    torn.write_text("not a backup")
    with pytest.raises(Trouble, match="pg_restore failed"):
        load(cluster, torn)
    assert rows(cluster, cluster.database) == before


def test_a_night_has_one_backup_and_so_many_are_kept(cluster, tmp_path, monkeypatch):
    monkeypatch.setenv("FLETCHER_BACKUPS", str(tmp_path))
    for n in range(KEPT):
        old = tmp_path / f"fletcher-night-2026-01-{n + 1:02d}-0200.backup"
        old.write_text("x")
        os.utime(old, (1e9, 1e9))
    (tmp_path / "other.txt").write_text("mine")
    night = Nightly()
    night.look(cluster)
    made = sorted(p.name for p in tmp_path.glob("fletcher-night-*"))
    assert len(made) == KEPT and "fletcher-night-2026-01-01-0200.backup" not in made
    night.next = 0.0
    night.look(cluster)
    assert len(list(tmp_path.glob("fletcher-night-*"))) == KEPT and (tmp_path / "other.txt").is_file()


def test_nights_without_a_folder_do_nothing(cluster, monkeypatch):
    monkeypatch.delenv("FLETCHER_BACKUPS", raising=False)
    Nightly().look(cluster)


def test_a_clock_that_was_wrong_stops_no_backups(cluster, tmp_path, monkeypatch):
    monkeypatch.setenv("FLETCHER_BACKUPS", str(tmp_path))
    ahead = tmp_path / "fletcher-night-2099-01-01-0200.backup"
    ahead.write_text("x")
    os.utime(ahead, (4e9, 4e9))
    Nightly().look(cluster)
    assert len(list(tmp_path.glob("fletcher-night-*"))) == 2


def test_a_backup_that_fails_leaves_nothing_behind(cluster, tmp_path):
    cluster.database = "there_is_none_such"
    with pytest.raises(Trouble, match="pg_dump failed"):
        write_backup(cluster, tmp_path / "all.backup")
    assert list(tmp_path.iterdir()) == []
