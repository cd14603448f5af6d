"""Requests made up from the interface's own description: whatever is sent, no fault, and no answer it does not name."""

from __future__ import annotations

import os

import pytest
import requests
import schemathesis
from django.contrib.auth.models import User
from hypothesis import HealthCheck, Phase, settings
from schemathesis.checks import not_a_server_error
from schemathesis.config import SchemathesisConfig
from schemathesis.specs.openapi.checks import status_code_conformance

from fletcher.server.api import api
from fletcher.server.common import computing

pytestmark = pytest.mark.django_db(transaction=True)
EXAMPLES = int(os.environ.get("FLETCHER_EXAMPLES", "2"))
"""Made-up requests for every operation; the wide run asks for more."""

config = SchemathesisConfig()
described = schemathesis.openapi.from_dict(dict(api.get_openapi_schema()), config=config)


@pytest.fixture
def signed_in(live_server, monkeypatch) -> requests.Session:
    """Somebody signed in, with an empty shelf."""
    for most in ("DEAR_EACH", "DEAR_ALL", "LIVE_EACH", "LIVE_ALL"):
        monkeypatch.setattr(computing, most, 100)
    User.objects.create_user("demo")
    session = requests.Session()
    session.headers["X-CSRFToken"] = session.get(f"{live_server.url}/api/session", timeout=60).json()["csrf"]
    return session


@described.parametrize()
@settings(max_examples=EXAMPLES, deadline=None, phases=[Phase.generate], derandomize=True,
          suppress_health_check=list(HealthCheck))  # fmt: skip
def test_no_made_up_request_is_a_fault(case, signed_in, live_server):
    response = case.call(base_url=live_server.url, session=signed_in, timeout=120)
    case.validate_response(response, checks=(not_a_server_error, status_code_conformance))
