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


class Cluster:
    """One cluster: `name` "main" keeps its data, "test" is fast and forgetful."""

    def __init__(self, name: str, durable: bool) -> None:
        self.durable = durable
        self.as_root = os.geteuid() == 0
        self.folder = self._home() / name
        self.port = 0
        self.password = ""
        self._started = False

    def _home(self) -> Path:
        home = DATA / "postgres"
        if not self.as_root:
            return home
        try:
            pwd.getpwnam(ACCOUNT)
        except KeyError:
            raise Trouble(
                f"running as root needs the account {ACCOUNT!r}, which Debian's package postgresql makes: "
                "apt-get install postgresql, or run this as an ordinary user."
            ) from None
        DATA.mkdir(exist_ok=True)
        reach = subprocess.run(["runuser", "-u", ACCOUNT, "--", "test", "-x", str(DATA)], cwd="/", capture_output=True)
        if reach.returncode == 0:
            return home
        tag = hashlib.sha256(str(ROOT).encode()).hexdigest()[:10]
        elsewhere = Path("/var/lib") / f"fletcher-{tag}"
        say(f"the database account cannot enter this folder, so its data is kept in {elsewhere}")
        return elsewhere

    def _program(self, name: str, *arguments: str) -> list[str]:
        folder = postgres_bin()
        assert folder is not None
        prefix = ["runuser", "-u", ACCOUNT, "--"] if self.as_root else []
        return [*prefix, str(folder / name), *arguments]

    def _own(self, path: Path) -> None:
        if self.as_root:
            shutil.chown(path, ACCOUNT, ACCOUNT)

    def _initialise(self) -> None:
        ready = self.folder / "ready"
        if ready.is_file():
            return
        if self.folder.exists():
            say("an earlier set-up of the database was cut short; starting it afresh")
            shutil.rmtree(self.folder)
        self.folder.mkdir(parents=True)
        self._own(self.folder)
        self.folder.chmod(0o700)
        password = self.folder / "password"
        password.write_text(secrets.token_urlsafe(24))
        password.chmod(0o600)
        self._own(password)
        say("making a private PostgreSQL cluster")
        run(
            self._program(
                "initdb", "-D", str(self.folder / "cluster"), "-U", "fletcher", f"--pwfile={password}",
                "-A", "scram-sha-256", "-E", "UTF8", "--locale=C.UTF-8",
            ),
            "initdb",
            cwd=Path("/"),
        )  # fmt: skip
        ready.write_text("1")

    def start(self) -> None:
        """Start the server and make the database."""
        self._initialise()
        self.password = (self.folder / "password").read_text()
        noted = self.folder / "port"
        cluster = str(self.folder / "cluster")
        running = subprocess.run(self._program("pg_ctl", "-D", cluster, "status"), cwd="/", capture_output=True)
        if running.returncode == 0 and noted.is_file():
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
                raise Trouble(f"PostgreSQL did not start; its log is {log}. Last words: {done.stdout.strip()[-300:]}")
        self._started = True
        code = (
            "import psycopg,os,sys\n"
            "c=psycopg.connect(host='127.0.0.1',port=sys.argv[1],user='fletcher',dbname='postgres',"
            "password=os.environ['FLETCHER_DB_PASSWORD'],autocommit=True)\n"
            "if not c.execute(\"select 1 from pg_database where datname='fletcher'\").fetchone():\n"
            "    c.execute('create database fletcher')\n"
        )
        env = {**os.environ, "FLETCHER_DB_PASSWORD": self.password}
        run([PYTHON, "-c", code, str(self.port)], "making the database", env=env)

    def stop(self) -> None:
        """Stop the server, if this object started or adopted it."""
        if self._started:
            cluster = str(self.folder / "cluster")
            subprocess.run(
                self._program("pg_ctl", "-D", cluster, "-m", "fast", "-w", "stop"), cwd="/", capture_output=True
            )
            self._started = False

    def environment(self, demo: bool) -> dict[str, str]:
        """Environment for the server's Python processes."""
        secret = DATA / "secret"
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
