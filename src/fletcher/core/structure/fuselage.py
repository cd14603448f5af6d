"""Loads of fuselages: a tail that pushes, a motor that twists, a nose that crushes."""

from __future__ import annotations

import numpy as np

from fletcher.core.common.quantities import F0, F1, G, from_root, in_m_s, in_mm, in_N, in_N_mm
from fletcher.core.document import cases
from fletcher.core.materials.materials import G_GRAVITY, Range
from fletcher.core.materials.uncertainty import ModelFactor
from fletcher.core.structure.loading import AIR_DENSITY_KG_M3, Body, Loading, Measure, nothing

PLATEAU = ModelFactor(
    "crushing walls, plateau",
    Range(0.15, 0.3, 0.5),
    "mean crush force of a folding wall, relative to its first buckling or crush load, corners glued",
)


def tail_load(case: cases.TailLoadCase, body: Body) -> Loading:
    """Force of a tail surface at its place: ½ρV² S C_L; sideways it also twists, by its height over the axis."""
    at = body.part.span_mm if case.at_mm is None else case.at_mm
    force = 0.5 * AIR_DENSITY_KG_M3 * case.speed_m_s**2 * case.area_cm2 * 1e-4 * case.cl
    arm = np.broadcast_to(force * np.clip(at - body.y, 0.0, None), body.mass.shape)
    side = case.way == "side"
    words = {"down": "down", "up": "up", "side": f"sideways, {in_mm(case.height_mm, G)} above the axis"}[case.way]
    return Loading(
        moment=nothing(body) if side else (arm if case.way == "up" else -arm),
        edge=arm if side else nothing(body),
        torque=np.broadcast_to(force * case.height_mm * (body.y < at), body.mass.shape) if side else nothing(body),
        says=(
            f"tail of {case.area_cm2:g} cm² pushes {words} with {in_N(force, F1)} {from_root(at)}: C_L "
            f"{case.cl:g} at "
            f"{in_m_s(case.speed_m_s, G)}"
        ),
        measure=Measure("tail force", force, "N"),
        read="swing" if side else "bend",
    )


def motor_torque(case: cases.MotorTorqueCase, body: Body) -> Loading:
    """Torque of the motor, the same all along the part between it and the wing."""
    return Loading(
        moment=nothing(body),
        edge=nothing(body),
        torque=np.full_like(body.mass, case.torque_N_mm),
        says=f"motor at the end turns with {in_N_mm(case.torque_N_mm, G)} against what carries it",
        measure=Measure("torque", case.torque_N_mm, "N·mm"),
        read="twist",
    )


def nose_strike(case: cases.NoseStrikeCase, body: Body) -> Loading:
    """Energy of the whole airframe against a nose that crushes at a steady force.

    Crush depth = ½mV²/F, deceleration = F/m; F is the crush stress on the foam of the end section, or the plateau of
    its walls. The steady force is what the nose passes back, so that a softer nose gives fewer g over more length.
    """
    mass = body.all_up_mass_g * 1e-3
    energy = 0.5 * mass * case.speed_m_s**2 * 1e3  # N·mm
    force = body.end_crush
    depth, felt = energy / force, force / mass / G_GRAVITY
    return Loading(
        moment=nothing(body),
        edge=nothing(body),
        torque=nothing(body),
        axial=-np.repeat(force[:, None], len(body.y), 1),
        says=(
            f"nose strikes at {in_m_s(case.speed_m_s, G)}: {energy / 1e3:.1f} J crush it "
            f"{in_mm(float(depth[0]), F0)} deep "
            f"at {in_N(float(force[0]), F0)}, of {in_mm(case.free_mm, G)} that are free; what is inside feels "
            f"{float(felt[0]):.0f} × gravity, its mounts stand {case.mount_g:g} × gravity"
        ),
        measure=Measure("energy", energy / 1e3, "J"),
        notes=(
            (
                "The nose crushes at a steady force: more speed means a deeper crush for longer, not a harder "
                "jolt. The margin compares what the mounts survive with what they see."
            ),
        ),
        asks=(("nose_spent", depth / case.free_mm), ("mount_tears", felt / case.mount_g)),
    )
