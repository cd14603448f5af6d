"""One meaning for a name: what leaves the core for the API is told apart there by its name alone."""

from __future__ import annotations

import importlib
import pkgutil
from collections import defaultdict

import fletcher.core
from fletcher.core.common.model import Result
from fletcher.core.document.cases import Document


def _all(kind: type) -> set[type]:
    return {kind}.union(*(_all(sub) for sub in kind.__subclasses__()))


def test_no_two_models_of_the_core_have_one_name():
    for module in pkgutil.walk_packages(fletcher.core.__path__, "fletcher.core."):
        importlib.import_module(module.name)
    named: dict[str, set[str]] = defaultdict(set)
    for model in _all(Result) | _all(Document):
        if model.__module__.startswith("fletcher.core."):
            named[model.__name__].add(model.__module__)
    twice = {name: sorted(where) for name, where in named.items() if len(where) > 1}
    assert len(named) > 100 and twice == {}
