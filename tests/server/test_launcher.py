"""Where the data lie, and a server that stands being killed: nothing is deleted by a start, nobody is held up."""

from __future__ import annotations

import json
import os
import signal
import socket
import urllib.request
from pathlib import Path

import pytest
from tools import database, processes
from tools.database import Cluster
from tools.setup import Trouble

from tests.real_server import Server


@pytest.fixture
def data(tmp_path, monkeypatch) -> Path:
    """The data folder of a project whose clusters lie inside it; PostgreSQL's programs leave their mark alone."""
    here = tmp_path / "project" / ".data"
    here.mkdir(parents=True)
    (here / "postgres").mkdir()
    (here / "database").write_text(f"{here / 'postgres'}\n")

    def made(command, *_, **__):
        folder = Path(command[command.index("-D") + 1])
        folder.mkdir()
        (folder / "PG_VERSION").write_text("15\n")

    monkeypatch.setattr(database, "run", made)
    monkeypatch.setattr(Cluster, "_own", lambda *_: None)
    return here


def cluster(data: Path) -> Cluster:
    found = Cluster("main", durable=True, data=data)
    found._initialise()
    return found


def test_a_cluster_is_made_once_and_found_again(data):
    first = cluster(data)
    (first.cluster / "kept").write_text("wing")
    assert (cluster(data).cluster / "kept").read_text() == "wing"
    assert first.folder == data / "postgres" / "main"


def test_data_without_any_mark_of_readiness_are_used(data):
    """A partial restore: the files are there, what else the folder had is not."""
    first = cluster(data)
    (first.cluster / "kept").write_text("wing")
    (data / "database").unlink()
    assert (cluster(data).cluster / "kept").read_text() == "wing"


def test_what_a_set_up_left_that_was_cut_short_is_put_aside(data, capsys):
    begun = data / "postgres" / "main" / "cluster.begun"
    begun.mkdir(parents=True)
    (begun / "half").write_text("x")
    cluster(data)
    assert (data / "postgres" / "main" / "cut-short-1" / "half").is_file()
    assert "put aside" in capsys.readouterr().out


@pytest.mark.parametrize(
    ("lost", "says"),
    [("password", "is missing beside the data"), ("cluster/PG_VERSION", "holds no whole database")],
)
def test_a_start_stops_where_something_is_missing_and_deletes_nothing(data, lost, says):
    first = cluster(data)
    (first.cluster / "kept").write_text("wing")
    (first.folder / lost).unlink()
    with pytest.raises(Trouble, match=says):
        cluster(data)
    assert (first.cluster / "kept").is_file()


def test_data_of_another_version_are_named_with_the_way_out(data):
    first = cluster(data)
    (first.cluster / "PG_VERSION").write_text("9\n")
    with pytest.raises(Trouble, match=r"PostgreSQL 9, which is not installed.*backup"):
        _ = first.programs


def test_a_renamed_project_finds_the_data_that_lie_elsewhere(data, tmp_path):
    home = tmp_path / "var"
    home.mkdir()
    (data / "postgres").rmdir()
    (data / "database").write_text(f"{home}\n")
    first = cluster(data)
    assert first.folder == home / "main"
    (data.parent).rename(tmp_path / "renamed")
    assert cluster(tmp_path / "renamed" / ".data").folder == home / "main"
    home.rename(tmp_path / "gone")
    with pytest.raises(Trouble, match="which is not there"):
        cluster(tmp_path / "renamed" / ".data")


def test_a_renamed_project_finds_the_data_inside_it(data, tmp_path):
    cluster(data)
    (data.parent).rename(tmp_path / "renamed")
    assert cluster(tmp_path / "renamed" / ".data").folder == tmp_path / "renamed" / ".data" / "postgres" / "main"


def test_a_copy_of_the_project_does_not_share_its_data(data, tmp_path):
    home = tmp_path / "var"
    home.mkdir()
    (data / "postgres").rmdir()
    (data / "database").write_text(f"{home}\n")
    cluster(data)
    copy = tmp_path / "copy" / ".data"
    copy.mkdir(parents=True)
    (copy / "database").write_text(f"{home}\n")
    with pytest.raises(Trouble, match="this folder is a copy of it"):
        cluster(copy)


def test_who_listens_on_a_port_is_named():
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        s.listen()
        pids = processes.listening_on(s.getsockname()[1])
    assert pids == [os.getpid()] and "pytest" in processes.called(os.getpid())
    assert not processes.is_ours(os.getpid(), Path.cwd())


@pytest.fixture
def running(transactional_db):
    server = Server()
    server.start()
    yield server
    if server.process.poll() is None:
        server.kill()


def healthy(server: Server) -> bool:
    with urllib.request.urlopen(server.address + "api/health", timeout=30) as reply:
        return json.load(reply) == {"database": "there"}


def test_requests_that_are_never_finished_hold_nobody_up(running):
    begun = []
    for n in range(120):
        s = socket.create_connection(("127.0.0.1", running.port))
        head = b"POST /api/session HTTP/1.1\r\nHost: 127.0.0.1\r\n"
        s.sendall(head + (b"Content-Length: 500\r\n\r\n{" if n % 2 else b"X-Slow: "))
        begun.append(s)
    assert all(healthy(running) for _ in range(10))
    for s in begun:
        s.close()


def test_a_process_that_is_killed_is_replaced(running):
    children = Path(f"/proc/{running.process.pid}/task/{running.process.pid}/children")
    while len(first := [int(pid) for pid in children.read_text().split()]) < 2:
        pass  # one may answer before the other has been started
    for pid in first:
        os.kill(pid, signal.SIGKILL)
    assert healthy(running)
    running.process.terminate()
    assert running.process.wait(30) == 0
    assert not any(Path(f"/proc/{pid}").exists() for pid in first)
