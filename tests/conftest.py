"""Shared set-up of all tests."""

from __future__ import annotations

import pytest
from hypothesis import settings

settings.register_profile("steady", derandomize=True, deadline=None, print_blob=True)
settings.load_profile("steady")


@pytest.fixture
def document():
    """The demo airframe as data."""
    from fletcher.core.demo.world import demo_airframes

    return demo_airframes()[0].model_dump(mode="json")
