"""Databases as earlier versions left them come up to date by migrations, and everything in them can be read."""

from __future__ import annotations

import json
import os
import subprocess
import sys
from pathlib import Path

import pytest
from django.conf import settings
from tools import setup
from tools.database import Cluster

STATES = sorted((Path(__file__).parent / "states").glob("*.sql"))
_READ = """
import json, django
django.setup()
from django.contrib.auth.models import User
from fletcher.server.airframes import history, services
from fletcher.server.airframes.models import Revision
from fletcher.server.crash import log
from fletcher.server.crash import services as crash
from fletcher.server.joints.services import coupons_of
from fletcher.server.keeping.damaged import damaged
found = []
for user in User.objects.all():
    shelf = services.shelf(user)
    found.append({
        "airframes": [s.document["name"] for s in shelf],
        "revisions": Revision.objects.filter(airframe__owner=user).count(),
        "says": [says for s in shelf for e in history.history(user, s.id, None) for says in e.says],
        "pins": sum(len(history.pins(user, s.id)) for s in shelf),
        "entries": sum(len(log.time_line(log.airframe_of(user, s.id), None)[0]) for s in shelf),
        "jobs": sum(len(crash.jobs(user, s.id)) for s in shelf),
        "begin": [t.operation["starts_min"] for s in shelf for j in crash.jobs(user, s.id) for t in j.tasks.all()],
        "coupons": len(coupons_of(user)),
        "damaged": [d.kind for d in damaged(user)],
    })
print(json.dumps(found))
"""


@pytest.fixture
def cluster(django_db_setup) -> Cluster:
    found = Cluster("test", durable=False)
    found.port, found.password = int(os.environ["FLETCHER_DB_PORT"]), os.environ["FLETCHER_DB_PASSWORD"]
    found.database = "fletcher_of_old"
    return found


def ask(cluster: Cluster, database: str, *arguments: str) -> None:
    reach = ["-h", "127.0.0.1", "-p", str(cluster.port), "-U", "fletcher", "--quiet", "-v", "ON_ERROR_STOP=1"]
    command = [str(cluster.programs / "psql"), *reach, "--dbname", database, *arguments]
    done = subprocess.run(command, env={**os.environ, "PGPASSWORD": cluster.password}, capture_output=True, text=True)
    assert done.returncode == 0, done.stderr


def run(cluster: Cluster, *command: str) -> str:
    env = {**os.environ, "FLETCHER_DB_NAME": cluster.database}
    done = subprocess.run([sys.executable, *command], env=env, capture_output=True, text=True, cwd=settings.ROOT)
    assert done.returncode == 0, done.stderr
    return done.stdout


@pytest.mark.parametrize("state", STATES, ids=lambda p: p.stem)
def test_a_database_of_old_is_brought_up_to_date_and_can_be_read(cluster, state):
    for statement in (f"drop database if exists {cluster.database}", f"create database {cluster.database}"):
        ask(cluster, "postgres", "--command", statement)
    try:
        ask(cluster, cluster.database, "--file", str(state))
        run(cluster, str(setup.MANAGE), "prepare")
        (found,) = [f for f in json.loads(run(cluster, "-c", _READ)) if f["airframes"]]
    finally:
        ask(cluster, "postgres", "--command", f"drop database {cluster.database} with (force)")
    assert found["damaged"] == []
    assert found["begin"] == sorted(found["begin"]) and found["begin"][-1:] in ([], [pytest.approx(90.03, abs=0.01)])
    assert "damaged: it cannot be read" not in found["says"]
    wanted = {
        "2026-11-24": {"airframes": 1, "revisions": 1, "pins": 0, "entries": 0, "jobs": 0, "coupons": 0},
        "2026-11-25": {"airframes": 4, "revisions": 9, "pins": 3, "entries": 5, "jobs": 1, "coupons": 6},
    }[state.stem]
    counted = {k: len(v) if isinstance(v, list) else v for k, v in found.items()}
    assert {k: counted[k] for k in wanted} == wanted
