"""What a glue holds for good: the share of its strength that it bears under a load that stays on, when it creeps."""

from __future__ import annotations

from fletcher.core.adhesion.adhesives import Adhesive
from fletcher.core.adhesion.curing import sampled_share
from fletcher.core.common.arrays import Array
from fletcher.core.materials.materials import Range

STEADY = {
    "tape": Range(0.02, 0.05, 0.10), "contact": Range(0.04, 0.08, 0.16), "thermoplastic": Range(0.04, 0.08, 0.16),
    "rubbery": Range(0.10, 0.20, 0.35), "waterborne": Range(0.15, 0.30, 0.45), "rigid": Range(0.30, 0.45, 0.60),
}  # fmt: skip
"""[J] By the kind of adhesive: parked dihedral, a hung part, a bent spar."""

_OWN = {
    "contact_neoprene_solvent": Range(0.08, 0.15, 0.25), "spray_contact_foamsafe": Range(0.02, 0.05, 0.10),
    "spray_contact_solvent": Range(0.02, 0.05, 0.10),
}  # fmt: skip
"""[J] Of adhesives that creep less or more than their kind."""


def steady_share(a: Adhesive) -> Array:
    """Share (S,) of its strength that an adhesive bears for weeks."""
    return sampled_share(_OWN.get(a.key, STEADY[a.kind]), "glue/steady/" + a.key)
