"""The wide sweep: every law of a group on random documents, the worst violation first."""

from __future__ import annotations

import argparse
import sys
import time
import traceback
from collections.abc import Callable, Iterator
from types import ModuleType

import numpy as np

from tests.sense import GROUPS
from tests.sense.world import Violation

Law = Callable[..., Iterator[Violation]]


def swept(group: ModuleType, count: int, seed: int) -> list[Violation]:
    """Violations of the laws of a group in `count` random documents; a document that ends in an error is one."""
    found: list[Violation] = []
    rng = np.random.default_rng(seed)
    for n in range(count):
        law = group.LAWS[n % len(group.LAWS)]
        key, kind = str(rng.choice(group.WAYS)), str(rng.choice(group.KINDS))
        child = np.random.default_rng([seed, n])
        try:
            found += list(law(child, key, kind))
        except Exception:
            found.append(
                Violation(f"{law.__name__} {key} {kind}", 1e9, traceback.format_exc(limit=-4), f"seed {seed} n {n}")
            )
    return sorted(found, key=lambda v: -v.badly)


def main(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="fletcher sense", description=__doc__)
    parser.add_argument("group", nargs="?", choices=sorted(GROUPS), help="one group of laws; all if none is named")
    parser.add_argument("--n", type=int, default=100, help="random documents per group")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--documents", action="store_true", help="print the documents as well")
    options = parser.parse_args(arguments)
    total = 0
    for name in [options.group] if options.group else sorted(GROUPS):
        start = time.monotonic()
        found = swept(GROUPS[name], options.n, options.seed)
        total += len(found)
        print(f"{name}: {options.n} documents, {len(found)} violations, {time.monotonic() - start:.0f} s", flush=True)
        for v in found[:40]:
            print(f"  {v.badly:9.3g} ×  {v.law}\n      {v.says}")
            if options.documents:
                print(f"      {v.document}")
    return 1 if total else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
