r"""A section whose stiff parts lie askew bends sideways when it is bent up, where nothing holds it.

With product of stiffness EI_xz a moment M about the chord bends it by κ_z = M/EI_free and sideways by
κ_x = −(EI_xz/EI_z) κ_z, EI_free = EI_x − EI_xz²/EI_z (unsymmetrical bending; Timoshenko 1955, § 47). Held straight it
has EI_x. The strain is ε = −κ_z (z − z̄) − κ_x (x − x̄).
"""

from __future__ import annotations

from dataclasses import dataclass

from fletcher.core.common.arrays import Array

TOLD_FROM = 0.05
"""[J] Share by which it bends more where nothing holds it, from which on both figures are told."""


@dataclass(frozen=True)
class Askew:
    """Stiffness of a section about its own centroid (N·mm²): up and down, sideways, and their product; (...)."""

    EI_x: Array
    EI_z: Array
    EI_xz: Array

    @property
    def free(self) -> Array:
        """EI where it may sway."""
        return self.EI_x - self.EI_xz**2 / self.EI_z

    @property
    def sideways(self) -> Array:
        """κ_x over κ_z where it may sway."""
        return -self.EI_xz / self.EI_z

    def strain(self, moment: Array, x: Array, z: Array, held: bool) -> Array:
        """Strain at (x, z) mm from the centroid under a moment (N·mm), held straight or free to sway."""
        if held:
            return -moment / self.EI_x * z
        up = moment / self.free
        return -up * z - self.sideways * up * x
