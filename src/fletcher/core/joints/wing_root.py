"""How a part hangs at its root, as far as that limits it: joiners that bear on the foam, glued faces, bands."""

from __future__ import annotations

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.document.airframe import BandsRoot, GluedRoot
from fletcher.core.materials.materials import Range
from fletcher.core.materials.uncertainty import ModelFactor, draw_factor
from fletcher.core.section.buckling import cover_of, medium_stiffness
from fletcher.core.section.elements import Elements, PlacedBar
from fletcher.core.section.partial_interaction import Response
from fletcher.core.section.properties import Draws, Geometry, Sums
from fletcher.core.strength.modes import Mode
from fletcher.core.structure.loading import Loading

SEAM = ModelFactor(
    "glued seam of foam", Range(0.5, 0.75, 0.95), "strength of a well-made butt joint relative to the foam"
)


def joiners(elements: Elements) -> list[int]:
    """Numbers of the bars that are removable joiners starting at the root."""
    return [i for i, b in enumerate(elements.bars) if b.joiner and b.start < 1e-6]


def pin_moment(bearing: Array, width: float, length: float, shear: Array) -> Array:
    """Moment (N·mm) that an embedded pin passes on, of a length on each side: p_b d [ℓ²/2 − x²], x = (ℓ + V/(p_b d))/2
    (rigid-plastic bearing, Broms 1964). Zero where the shear alone is too much."""
    line = bearing * width
    x = 0.5 * (length + shear / line)
    return np.asarray(np.maximum(line * (length**2 / 2 - x**2), 1e-9))


def _shares(elements: Elements, draws: Draws, numbers: list[int]) -> list[Array]:
    """Share of the root moment of each joiner, by its bending stiffness."""
    stiff = [draws.bars[i].E * elements.bars[i].stock.second_moment_mm4(elements.bars[i].on_edge) for i in numbers]
    return [s / sum(stiff) for s in stiff]


def root_modes(
    elements: Elements,
    draws: Draws,
    geometry: Geometry,
    sums: Sums,
    response: Response,
    loading: Loading,
    shear: Array,
) -> list[Mode]:
    """Failures of what holds the root. `shear` (S, n) the size of the shear force."""
    found: list[Mode] = []
    at_root = np.zeros_like(geometry.y)
    at_root[0] = 1.0
    moment = np.abs(loading.moment[:, 0])
    numbers = joiners(elements)
    if numbers and loading.held and not elements.hollow:
        for i, share in zip(numbers, _shares(elements, draws, numbers), strict=True):
            bar = elements.bars[i]
            width = bar.sizes(1.0)[0]
            cover = float(cover_of(elements, bar, geometry, i)[0])
            bearing = draws.foam.bearing * (0.5 if cover < 2 * width else 1.0)
            holds = pin_moment(bearing, width, bar.end, shear[:, 0] * share)
            use = (moment * share / holds)[:, None] * at_root
            found.append(Mode("joint_bearing", bar.line, bar.side, use, True, i))
    root = elements.part.root
    if isinstance(root, GluedRoot) and not elements.hollow and loading.held:
        seam = draws.foam.tensile * draw_factor(SEAM)
        if root.covered:
            strain = response.axial[:, 0], response.curvature[:, 0]
            edge = [strain[0] - strain[1] * (z - sums.host_z[:, 0]) for z in (geometry.z_low[0], geometry.z_high[0])]
            pull = np.maximum(np.maximum(*edge), 0) * draws.foam.E_tension
        else:
            # skins end at a bare seam: foam alone passes on what foam and skins carry together
            carried = np.abs(response.curvature[:, 0]) * sums.host_EI[:, 0]
            second = geometry.foam_below[2, 0] + geometry.foam_above[2, 0]
            pull = carried * max(abs(geometry.z_low[0]), abs(geometry.z_high[0])) / second
        found.append(Mode("root_glue", None, "root", (pull / seam)[:, None] * at_root, True))
    if isinstance(root, BandsRoot) and loading.whole_lift > 0:
        use = np.full(len(moment), loading.whole_lift / root.hold_N)[:, None] * at_root
        found.append(Mode("bands_give", None, "root", use, True))
    return found


def root_give(elements: Elements, draws: Draws, geometry: Geometry) -> Array:
    """Rotation of the root per moment (S,), 1/(N·mm), by joiners that tilt in their foam as rigid pins on an elastic
    medium, 12/(kℓ³) (Hetényi 1946); their own bending is in the beam."""
    numbers = joiners(elements)
    if not numbers or elements.hollow:
        return np.zeros(len(draws.foam.G))
    stiff = np.zeros(len(draws.foam.G))
    for i in numbers:
        bar: PlacedBar = elements.bars[i]
        radius = sum(bar.sizes(1.0)) / 4
        EI = draws.bars[i].E * bar.stock.second_moment_mm4(bar.on_edge)
        k = medium_stiffness(draws.foam.G, elements.foam.poisson, EI, radius)
        stiff += k * bar.end**3 / 12
    return np.asarray(1 / stiff)
