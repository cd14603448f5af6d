"""A private PostgreSQL cluster in the project's data folder, on loopback and a port of its own.

The server refuses to run as root; as root it runs under Debian's postgres account. No other cluster is touched.
"""

from __future__ import annotations

import hashlib
import os
import pwd
import secrets
import shutil
import socket
import subprocess
from itertools import count
from pathlib import Path

from tools.setup import DATA, PYTHON, ROOT, Trouble, postgres_bin, run, say

ACCOUNT = "postgres"


def free_port() -> int:
    """A port on loopback that nothing listens on."""
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return int(s.getsockname()[1])


def port_is_free(port: int) -> bool:
    """Whether a server could listen on this loopback port."""
    with socket.socket() as s:
        s.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            s.bind(("127.0.0.1", port))
        except OSError:
            return False
        return True


NUMERIC = {
    "OPENBLAS_NUM_THREADS": "1",
    # arrays of a megabyte come and go all the time: kept in the heap they save the kernel a tenth of an estimate
    "MALLOC_ARENA_MAX": "1",
    "MALLOC_MMAP_THRESHOLD_": "67108864",
    "MALLOC_TRIM_THRESHOLD_": "268435456",
    "MALLOC_TOP_PAD_": "16777216",
}
"""Environment of processes that compute."""


def _why_not(log: Path, said: str) -> str:
    """Why PostgreSQL did not start, by the end of its log."""
    words = log.read_text(errors="replace")[-2000:] if log.is_file() else said
    if "No space left on device" in words:
        return f"the disk is full: make room on the disk of {log.parent}, then start again; nothing is lost."
    return f"PostgreSQL did not start; its log is {log}. Last words: {words.strip()[-300:]}"


class Cluster:
    """One cluster: `name` "main" keeps its data, "test" is fast and forgetful."""

    def __init__(self, name: str, durable: bool, data: Path = DATA) -> None:
        self.durable = durable
        self.data = data
        self.as_root = os.geteuid() == 0
        self.folder = self._home() / name
        self.port = 0
        self.password = ""
        self.database = "fletcher"
        self._started = False

    @property
    def cluster(self) -> Path:
        """Where PostgreSQL keeps its files; there only once they are whole."""
        return self.folder / "cluster"

    def _home(self) -> Path:
        """The folder of all clusters. Once chosen it is noted, and found again when the project's folder has been
        renamed or its rights have changed."""
        self.data.mkdir(exist_ok=True)
        noted = self.data / "database"
        home = Path(noted.read_text().strip()) if noted.is_file() else self._choose_home()
        inside = self.data / "postgres"
        if not home.is_dir() and noted.is_file() and home != inside:
            if inside.is_dir():  # the folder went elsewhere, its clusters with it
                home = inside
            else:
                raise Trouble(
                    f"the data of this installation were in {home}, which is not there. Put it back (or restore a "
                    f"backup), or remove {noted} to start with an empty shelf."
                )
        if home != inside:
            self._only_of(home)
        noted.write_text(f"{home}\n")
        return home

    def _only_of(self, home: Path) -> None:
        """Clusters outside the project's folder belong to one project: a copy of the folder must not share them."""
        of = home / "of"
        if of.is_file():
            first = Path(of.read_text().strip())
            if first != self.data and (first / "database").is_file():
                raise Trouble(
                    f"the data in {home} belong to {first.parent}, and this folder is a copy of it. Remove "
                    f"{self.data / 'database'} to start here with an empty shelf; carry things over with "
                    "./fletcher backup and restore."
                )
        if home.is_dir():
            of.write_text(f"{self.data}\n")

    def _choose_home(self) -> Path:
        home = self.data / "postgres"
        if not self.as_root:
            return home
        try:
            pwd.getpwnam(ACCOUNT)
        except KeyError:
            raise Trouble(
                f"running as root needs the account {ACCOUNT!r}, which Debian's package postgresql makes: "
                "apt-get install postgresql, or run this as an ordinary user."
            ) from None
        if home.is_dir():  # it was possible once
            return home
        command = ["runuser", "-u", ACCOUNT, "--", "test", "-x", str(self.data)]
        if subprocess.run(command, cwd="/", capture_output=True).returncode == 0:
            return home
        tag = hashlib.sha256(str(self.data.parent).encode()).hexdigest()[:10]
        elsewhere = Path("/var/lib") / f"fletcher-{tag}"
        say(f"the database account cannot enter this folder, so its data is kept in {elsewhere}")
        return elsewhere

    def _program(self, name: str, *arguments: str) -> list[str]:
        folder = self.programs
        prefix = ["runuser", "-u", ACCOUNT, "--"] if self.as_root else []
        return [*prefix, str(folder / name), *arguments]

    @property
    def programs(self) -> Path:
        """The server programs of the version that the files are of; for new files the newest there are."""
        made = self.cluster / "PG_VERSION"
        version = made.read_text().strip() if made.is_file() else None
        found = postgres_bin(version)
        if found is None:
            raise Trouble(
                f"the data in {self.cluster} are of PostgreSQL {version}, which is not installed here. Install it "
                f"(apt-get install postgresql-{version}), or make a backup where it is (./fletcher backup FILE) and "
                "restore that here into a new folder (./fletcher restore FILE)."
            )
        return found

    def _own(self, path: Path) -> None:
        if self.as_root:
            shutil.chown(path, ACCOUNT, ACCOUNT)

    def _initialise(self) -> None:
        """Make the files of the cluster if there are none. What is there is used, or the start stops; nothing is
        deleted."""
        password, begun = self.folder / "password", self.folder / "cluster.begun"
        if (self.cluster / "PG_VERSION").is_file():
            if not password.is_file():
                raise Trouble(
                    f"{password} is missing beside the data in {self.cluster}. Put it back from your copy of the "
                    "folder; without it the data cannot be opened."
                )
            return
        if self.cluster.exists():
            raise Trouble(
                f"{self.cluster} is there, but holds no whole database. Put the missing files back, or move that "
                "folder away to start with an empty shelf."
            )
        self.folder.mkdir(parents=True, exist_ok=True)
        self._own(self.folder)
        self.folder.chmod(0o700)
        if begun.exists():
            aside = next(p for n in count(1) if not (p := self.folder / f"cut-short-{n}").exists())
            begun.rename(aside)
            say(f"an earlier set-up of the database was cut short; what it left was put aside as {aside}")
        password.write_text(secrets.token_urlsafe(24))
        password.chmod(0o600)
        self._own(password)
        say("creating a private PostgreSQL cluster")
        run(
            self._program(
                "initdb", "-D", str(begun), "-U", "fletcher", f"--pwfile={password}",
                "-A", "scram-sha-256", "-E", "UTF8", "--locale=C.UTF-8",
            ),
            "initdb",
            cwd=Path("/"),
        )  # fmt: skip
        begun.rename(self.cluster)

    def alive(self) -> bool:
        """Whether the server runs."""
        command = self._program("pg_ctl", "-D", str(self.cluster), "status")
        return subprocess.run(command, cwd="/", capture_output=True).returncode == 0

    def start(self) -> bool:
        """Start the server and make the database. Whether it ran already."""
        self._initialise()
        self.password = (self.folder / "password").read_text()
        noted = self.folder / "port"
        cluster = str(self.cluster)
        running = self.alive() and noted.is_file()
        if running:
            self.port = int(noted.read_text())
        else:
            self.port = int(noted.read_text()) if noted.is_file() else free_port()
            if not port_is_free(self.port):
                self.port = free_port()
            noted.write_text(str(self.port))
            options = f"-p {self.port} -c listen_addresses=127.0.0.1 -c unix_socket_directories=''"
            if not self.durable:
                options += " -c fsync=off -c synchronous_commit=off -c full_page_writes=off"
            log = str(self.folder / "log")
            command = self._program("pg_ctl", "-D", cluster, "-w", "-t", "60", "-l", log, "-o", options, "start")
            done = subprocess.run(command, cwd="/", stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
            if done.returncode:
                raise Trouble(_why_not(Path(log), done.stdout))
        self._started = True
        code = (
            "import psycopg,os,sys\n"
            "c=psycopg.connect(host='127.0.0.1',port=sys.argv[1],user='fletcher',dbname='postgres',"
            "password=os.environ['FLETCHER_DB_PASSWORD'],autocommit=True)\n"
            "if not c.execute(\"select 1 from pg_database where datname='fletcher'\").fetchone():\n"
            "    c.execute('create database fletcher')\n"
        )
        env = {**os.environ, "FLETCHER_DB_PASSWORD": self.password}
        run([PYTHON, "-c", code, str(self.port)], "creating the database", env=env)
        return running

    def runs(self) -> bool:
        """Whether the server that this object started or adopted still runs; asked every second, so cheaply."""
        try:
            os.kill(int((self.cluster / "postmaster.pid").read_text().split()[0]), 0)
        except (OSError, ValueError, IndexError):
            return False
        return True

    def stop(self) -> None:
        """Stop the server, if this object started or adopted it."""
        if self._started:
            subprocess.run(
                self._program("pg_ctl", "-D", str(self.cluster), "-m", "fast", "-w", "stop"),
                cwd="/",
                capture_output=True,
            )
            self._started = False

    def environment(self, demo: bool) -> dict[str, str]:
        """Environment for the server's Python processes."""
        secret = self.data / "secret"
        if not secret.is_file():
            secret.touch(mode=0o600)
            secret.write_text(secrets.token_urlsafe(48))
        return {
            **os.environ,
            "PYTHONPATH": str(ROOT / "src"),
            "DJANGO_SETTINGS_MODULE": "fletcher.server.settings",
            "FLETCHER_SECRET_KEY": secret.read_text(),
            "FLETCHER_DB_PORT": str(self.port),
            "FLETCHER_DB_PASSWORD": self.password,
            "FLETCHER_DEMO": "1" if demo else "0",
            **NUMERIC,
        }
