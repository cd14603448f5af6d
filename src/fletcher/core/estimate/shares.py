"""What each line of the lay-up gives: its share of the stiffness in bending and in twist, and of the load where the
part gives first."""

from __future__ import annotations

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.estimate.analyse import Analysis
from fletcher.core.section.properties import bar_stiffness
from fletcher.core.strength.modes import Mode


def _bending_parts(a: Analysis) -> Array:
    """EI of every line and, last, of the foam about the axis of the whole section, (lines + 1, n), N·mm²."""
    g, s = a.prepared.geometry, a.prepared.sums
    z = s.whole_z[0]
    parts = np.zeros((len(a.prepared.elements.part.layers) + 1, len(g.y)))
    for i, membrane in enumerate(a.prepared.elements.membranes):
        length, first, second = g.skin[i] * g.skin_on[i]
        parts[membrane.line] += s.skin_Et[0, i] * (second - 2 * z * first + z**2 * length)
    _, own = bar_stiffness(a.prepared.elements, a.prepared.draws, g)
    for i, bar in enumerate(a.prepared.elements.bars):
        EA = s.bar_EA[0, i] if a.prepared.elements.slips else s.bar_full[0, i]
        parts[bar.line] += EA * (g.bar_z[i] - z) ** 2 + own[0, i]
    parts[-1] = 0.0 if a.prepared.elements.hollow else s.whole_EI[0] - parts[:-1].sum(0)
    return parts


def _torsion_parts(a: Analysis) -> Array:
    """Share of every line and, last, of the foam in GJ, (lines + 1, n)."""
    p = a.prepared
    parts = np.zeros((len(p.elements.part.layers) + 1, len(p.geometry.y)))
    for i, membrane in enumerate(p.elements.membranes):
        parts[membrane.line] += p.fields.skin_share[i]
    for i, bar in enumerate(p.elements.bars):
        parts[bar.line] += p.fields.bar_share[i]
    parts[-1] = 0.0 if p.elements.hollow else np.maximum(1 - parts[:-1].sum(0), 0.0)
    return parts


def bending_shares(a: Analysis) -> Array:
    """Share of every line and, last, of the foam in the bending stiffness, (lines + 1,), weighted along the part by
    where the bending is: ∫κ² EI_i dy over ∫κ² EI dy with κ = M/EI of the whole section."""
    parts, EI = _bending_parts(a), a.prepared.sums.whole_EI[0]
    weight = (a.asked[0] / EI) ** 2
    total = a.prepared.mesh.integral(weight * EI)
    return (
        np.asarray(a.prepared.mesh.integral(weight * parts) / total) if total > 0 else parts[:, 0] / parts[:, 0].sum()
    )


def torsion_shares(a: Analysis) -> Array:
    """Share of every line and, last, of the foam in the twist stiffness, (lines + 1,): ∫(GJ_i/GJ)/GJ dy over ∫1/GJ dy,
    the part that each takes of an even torque's energy."""
    give = 1 / a.prepared.fields.torsion[0]
    mesh = a.prepared.mesh
    return np.asarray(mesh.integral(_torsion_parts(a) * give) / mesh.integral(give))


_TWISTED = frozenset({"skin_shear", "bar_twist", "wall_shear"})


def strength_shares(a: Analysis, first: Mode) -> Array:
    """What every line and, last, the foam carries of the load where the part gives first, (lines + 1,): of the bending
    moment by EI_i/EI there, or of the torque by GJ_i/GJ where the twist makes it give."""
    k = int(np.argmax(first.use[0]))
    if first.kind in _TWISTED and np.any(a.loading.torque):
        return np.asarray(_torsion_parts(a)[:, k])
    parts = _bending_parts(a)[:, k]
    return np.asarray(parts / max(float(parts.sum()), 1e-12))
