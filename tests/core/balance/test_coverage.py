"""Whether the forecast keeps its word: builds with true masses drawn from the tables, some of them weighed."""

import numpy as np
import pytest

from fletcher.core.balance.forecast import Forecast, Line, Weighed
from fletcher.core.balance.ledger import ledger
from fletcher.core.demo.world import demo_airframes
from fletcher.core.validation.weighings import reading_sd

ENTRIES = ledger(demo_airframes()[0])
LINES = [e.line for e in ENTRIES]
BUILDS = 500


def built(rng, shift=0.0):
    """True masses of one build: every line from its own band, with causes in common; their shares off by `shift`."""
    causes = {c: rng.standard_normal() for one in LINES for c in one.causes}
    true = []
    for one in LINES:
        shares = {c: min(max(s + shift, 0.0), 1.0) for c, s in one.causes.items()}
        over = max(sum(shares.values()), 1.0)
        u = sum(np.sqrt(s / over) * causes[c] for c, s in shares.items())
        u += np.sqrt(max(1 - sum(shares.values()) / over, 0.0)) * rng.standard_normal()
        true.append(_at(one, u))
    return np.array(true)


def _at(one: Line, u: float) -> float:
    end = one.high if u > 0 else one.low
    return one.typ * (end / one.typ) ** (abs(u) / 1.6448536)


def covered(builds, shift=0.0):
    """Shares of builds whose mass and whose centre lie in their bands, after 0 to 5 weighings each."""
    rng = np.random.default_rng(7)
    pieces = sorted({e.piece for e in ENTRIES if e.piece})
    x = np.array([one.x_mm for one in LINES])
    hits = np.zeros(2)
    for n in range(builds):
        true = built(rng, shift)
        seen = []
        for piece in rng.choice(pieces, size=n % 6, replace=False):
            at = tuple(i for i, e in enumerate(ENTRIES) if e.piece == piece)
            grams = float(true[list(at)].sum())
            sd = reading_sd(grams, 0.1)
            seen.append(Weighed(at, grams + sd * rng.standard_normal(), sd))
        (low, _, high), (first, _, last) = Forecast(LINES, seen).bands()
        hits += [low <= true.sum() <= high, first <= true @ x / true.sum() <= last]
    return hits / builds


def test_five_hundred_builds_lie_in_their_bands(proof):
    mass, centre = covered(BUILDS)
    proof("mass within its band", mass, 0.90, 0.055)
    proof("centre of gravity within its band", centre, 0.90, 0.055)


@pytest.mark.parametrize("shift", [0.15, -0.3])
def test_wrong_shares_cost_little(shift):
    assert (covered(120, shift) > 0.82).all()
