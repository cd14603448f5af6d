"""Roots in a bracket: as many as are asked, each with its own data, and what is not found is said."""

from __future__ import annotations

import logging

import numpy as np
import pytest

from fletcher.core.common.roots import root_between


def test_roots_of_many_at_once_are_each_their_own():
    a = np.array([0.25, 2.0, 9.0])
    found = root_between(lambda x, a: x**2 - a, np.zeros(3), np.full(3, 4.0), (a,))
    assert found == pytest.approx(np.sqrt(a), rel=1e-12)
    rough = root_between(lambda x, a: x**2 - a, np.zeros(3), np.full(3, 4.0), (a,), relative=1e-2)
    assert rough == pytest.approx(np.sqrt(a), rel=1e-2) and not np.allclose(rough, found, rtol=1e-9)


def test_a_root_that_is_not_there_is_logged(caplog):
    with caplog.at_level(logging.WARNING):
        root_between(lambda x: x**2 + 1, np.zeros(2), np.ones(2))
    assert "2 of 2 roots" in caplog.text
