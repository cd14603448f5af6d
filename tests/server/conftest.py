"""Two builders, each with a signed-in client."""

from __future__ import annotations

import json
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.test import Client


class JsonClient(Client):
    """A test client that speaks JSON both ways."""

    def send(self, method: str, path: str, data: Any = None) -> tuple[int, Any]:
        body = data if isinstance(data, str | bytes) else json.dumps(data)
        reply = self.generic(method, f"/api/{path}", body, content_type="application/json")
        return reply.status_code, json.loads(reply.content) if reply.content else None


def builder(name: str, password: str | None = None) -> JsonClient:
    """A client signed in as a new builder of this name."""
    user = get_user_model().objects.create_user(name, password=password)
    client = JsonClient()
    client.force_login(user, backend="fletcher.server.accounts.names.ByName")
    return client


@pytest.fixture
def ann(db):
    return builder("ann")


@pytest.fixture
def ben(db):
    return builder("ben")


@pytest.fixture
def wing(ann, document):
    """An airframe on Ann's shelf."""
    status, state = ann.send("POST", "airframes", document)
    assert status == 201
    return state
