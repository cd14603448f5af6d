r"""What a part bears across a parting: faces that meet, pins and plates within, strips over it; and what of a crack
that was mended.

The moment is shared by stiffness between the faces of the foam, braces and strips that bridge it (transformed section).
Faces meet at θ to the part's axis: (σ sin²θ/σ_a)² + (σ sinθ cosθ/τ_a)² ≤ 1 of film and of foam (stress transformation;
MECHANICS section 6). A brace bears on the foam as a pin (Broms 1964) or, a glued plate, by its faces in shear about
their middle; its own bending is M/Z. Twist is shared by the faces and a pair of strips.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from functools import lru_cache

import numpy as np

from fletcher.core.adhesion.bond_line import SORT, counts, decay
from fletcher.core.adhesion.curing import sampled_share
from fletcher.core.common.arrays import Array
from fletcher.core.document.joint import AcrossJoint, Extent, Glued
from fletcher.core.joints.context import Braced, Site, Way, brace_of, solid_torsion, stack, strained, told
from fletcher.core.joints.wing_root import pin_moment
from fletcher.core.materials.materials import Range, Sheet
from fletcher.core.section.elements import Membrane
from fletcher.core.section.outline import Outline, faces

REACHED = {"mended": Range(0.85, 0.95, 1.0), "worked_in": Range(0.3, 0.55, 0.8), "over_old": Range(0.5, 0.75, 0.95)}
"""[J] Share of a joint's face that glue wets: broken, opened and seen; worked into a closed crack; over old glue,
scraped."""
FITS = {"butt": Range(0.90, 0.97, 1.0), "scarf": Range(0.80, 0.92, 1.0)}
"""[J] How well faces meet: a clean break, or faces that were cut."""
MIXED = Range(0.80, 0.95, 1.0)
"""[J] What mixing, airing and curing by hand leave of a glue's strength."""


def workmanship(j: AcrossJoint) -> Array:
    """Share (S,) of a seam's strength that hands leave of it: what the glue reaches, how the faces fit, how it was
    mixed and cured. A joint as it is drawn, on faces made for it, counts in full."""
    if j.reached == "all":
        return np.ones(1)
    share = sampled_share(REACHED[j.reached], f"reached/{j.reached}") * sampled_share(MIXED, "mixed")
    if j.reached == "worked_in" or j.faces not in FITS:
        return share
    return share * sampled_share(FITS[j.faces], f"fits/{j.faces}")


OWN_GLUE = dict.fromkeys(("glass_cloth", "carbon_cloth", "carbon_ud", "aramid_cloth", "laminate"), "epoxy_laminating")
"""What cloth laid wet holds by."""


def face_torsion(high: float, long: float, brittle: bool) -> float:
    """Moment per shear stress, mm³, of a glued face high × long twisted about its middle: all of it at the limit, or in
    brittle foam its corners alone (τ = M r/J)."""
    p, q = high / 2, long / 2
    d = math.hypot(p, q)
    if brittle:
        return 4 * p * q * d / 3
    mean = d / 3 + p**2 / (6 * q) * math.asinh(q / p) + q**2 / (6 * p) * math.asinh(p / q)
    return 4 * p * q * mean


def across(j: AcrossJoint, site: Site) -> Iterator[Way]:
    s, k = site.scene, site.k
    f = s.draws.foam
    area, flat, wide = site.core
    E = 0.5 * (f.E_tension + f.E_compression)
    moment, edge, pull, shear, torque = site.passed(j.parted)
    braces = [brace_of(b, site.placed) for b in j.braces]
    bridges = [
        (i, m)
        for i, m in enumerate(s.elements.membranes)
        if s.elements.part.layers[m.line].id in j.bridges and m.start - 1e-6 <= site.placed.at <= m.end + 1e-6
    ]
    if j.extent is not None:
        yield from _cracked(j, site, bridges)
        return
    stiff = [b.brace.count * b.E * b.second for b in braces]
    middle = s.sums.host_z[:, k]
    twists, flow = _twisted(bridges, site, 0.0 if j.faces == "open" else f.G * solid_torsion(area, flat, wide), torque)
    for i, m in bridges:
        z = 0.5 * (s.geometry.skin_low[i, k] + s.geometry.skin_high[i, k]) - middle
        stiff.append(s.draws.skins[i].Et * m.plies * s.geometry.skin[i, 0, k] * z**2)
    faced = np.zeros_like(E) if j.faces == "open" else E * flat
    total = faced + np.sum(stiff, axis=0) if stiff else faced
    share = faced / total
    if j.faces != "open":
        deep = site.deep
        sigma = share * (moment * deep / 2 / flat + edge * float(s.geometry.chord[k]) / 2 / wide) + np.maximum(
            pull / area, 0
        )
        tau = shear * share * 1.5 / area + twists * deep / solid_torsion(area, flat, wide)
        yield from _faces(j, site, sigma, tau, moment * share)
    for b, part in zip(braces, stiff, strict=False):
        one = part / total / b.brace.count
        asked = np.hypot(moment, edge) * one
        yield from _braced(b, site, asked, shear * one)
    for (i, m), _ in zip(bridges, stiff[len(braces) :], strict=True):
        z = 0.5 * (s.geometry.skin_low[i, k] + s.geometry.skin_high[i, k]) - middle
        force = moment / total * s.draws.skins[i].Et * m.plies * np.abs(z)
        long = min(site.placed.at - m.start, m.end - site.placed.at) if site.placed.at > 1e-6 else m.end
        yield from lapped(site, i, m, np.hypot(force, flow), long, on_foam=True)


def _twisted(
    bridges: list[tuple[int, Membrane]], site: Site, faced: Array | float, torque: Array
) -> tuple[Array, Array]:
    """Torque (S,) that the glued faces pass, N·mm, and the shear flow (S,) in strips that bridge the joint on both
    faces, N/mm: shared by G J and, of the pair, 4 b h² G₁t₁ G₂t₂/(G₁t₁ + G₂t₂) of two faces on a core."""
    s, k = site.scene, site.k
    none = np.zeros_like(torque)
    sides: dict[str, tuple[Array, float, float]] = {}
    for i, m in bridges:
        Gt, z = s.draws.skins[i].Gt * m.plies, float(0.5 * (s.geometry.skin_low[i, k] + s.geometry.skin_high[i, k]))
        stiff, wide, _ = sides.get(m.face, (none, 0.0, 0.0))
        sides[m.face] = (stiff + Gt, max(wide, float(s.geometry.skin[i, 0, k])), z)
    if "upper" not in sides or "lower" not in sides:
        return torque, none
    (up, b_up, z_up), (low, b_low, z_low) = sides["upper"], sides["lower"]
    wide, high = min(b_up, b_low), z_up - z_low
    pair = 4 * wide * high**2 * up * low / np.maximum(up + low, 1e-12)
    by_pair = torque * pair / np.maximum(pair + faced, 1e-12)
    return torque - by_pair, by_pair / max(2 * wide * high, 1e-9)


def _faces(j: AcrossJoint, site: Site, sigma: Array, tau: Array, moment: Array) -> Iterator[Way]:
    for kind, name, use in _glued(j, site, sigma, tau):
        yield Way(kind, name, site.here(use), moment, "N·mm")


def _cracked(j: AcrossJoint, site: Site, bridges: list[tuple[int, Membrane]]) -> Iterator[Way]:
    """A mended crack: its glue bears what the section has there, or else the sound rest of the core bears all that
    passes the core, whichever holds more (both are in equilibrium: the static theorem of limit analysis)."""
    f = site.scene.draws.foam
    moment, edge, pull, shear, torque = site.passed("core")
    assert j.extent is not None
    s = site.scene
    chord, thick = (round(float(v[site.k]), 3) for v in (s.geometry.chord, s.geometry.thickness))
    uses = []
    for sound in (False, True):
        area, flat, wide, high, long = _core_left(s.elements.outline, chord, thick, j.extent, sound)
        sigma = moment * high / max(flat, 1e-9) + edge * long / max(wide, 1e-9) + np.maximum(pull / max(area, 1e-9), 0)
        tau = shear * 1.5 / max(area, 1e-9) + torque * site.deep / max(solid_torsion(area, flat, wide), 1e-9)
        if sound:
            uses.append(("", "", np.hypot(sigma / f.tensile, tau / f.shear)))
        else:
            uses += list(_glued(j, site, sigma, tau))
    rest = uses.pop()[2]
    for kind, name, use in uses:
        yield Way(kind, name, site.here(np.minimum(use, rest)), moment, "N·mm")
    for i, m in bridges:
        long = min(site.placed.at - m.start, m.end - site.placed.at)
        if long > 1:
            yield from lapped(site, i, m, strained(site, m, i), long, on_foam=True)


@lru_cache(maxsize=256)
def _core_left(
    outline: Outline, chord: float, thick: float, e: Extent, sound: bool
) -> tuple[float, float, float, float, float]:  # fmt: skip
    """Area, second moments flatwise and edgewise about its own middle, and the furthest fibre each way, of the core,
    or of what a crack left of it."""
    x = (np.arange(81) + 0.5) / 81
    low, high = faces(outline, x, np.full_like(x, chord), np.full_like(x, thick))
    if sound:
        edge = {"front": x < e.depth_mm / chord, "rear": x > 1 - e.depth_mm / chord}
        hurt = edge.get(e.face, (x > e.from_percent / 100) & (x < e.to_percent / 100))
        if e.face == "upper":
            high = np.where(hurt, np.maximum(high - e.depth_mm, low), high)
        elif e.face == "lower":
            low = np.where(hurt, np.minimum(low + e.depth_mm, high), low)
        else:
            high = np.where(hurt, low, high)
    dx, deep = chord / 81, high - low
    area = float(np.sum(deep) * dx)
    if area < 1e-6:
        return 0.0, 0.0, 0.0, 1.0, 1.0
    z = float(np.sum(deep * 0.5 * (high + low)) * dx) / area
    mid = float(np.sum(deep * x) * dx) / area
    flat = float(np.sum((high - z) ** 3 - (low - z) ** 3) * dx / 3)
    wide = float(np.sum(deep * (x - mid) ** 2) * dx) * chord**2
    there = deep > 1e-9
    far = float(np.max(np.maximum(high - z, z - low)[there]))
    return area, flat, wide, far, float(np.max(np.abs(x - mid)[there])) * chord


def _glued(j: AcrossJoint, site: Site, sigma: Array, tau: Array) -> Iterator[tuple[str, str, Array]]:
    angle = math.pi / 2 if j.faces == "butt" else math.atan(1 / j.slope)
    sin, cos = math.sin(angle), math.cos(angle)
    across = sigma * sin**2 + np.abs(tau) * math.sin(2 * angle)
    along = sigma * sin * cos + tau * abs(math.cos(2 * angle))
    line = site.line("foam", site.deep)
    share = workmanship(j)
    for kind, name, a, t in (
        ("joint_glue", "glue line fails", line.film_pull, line.film_shear),
        ("joint_foam", "foam tears beside the glue", line.bed_pull, line.bed_shear),
    ):
        yield kind, name, np.hypot(across / a, along / t) / share


def pin_row(grip: Array, count: int, deep: float, wide: float, crush: Array) -> Array:
    """Moment (S,) that each of so many pins in the middle of a core passes by its pull alone, N·mm: `grip` (S,) N over
    the arm to the middle of what it presses, n T/(σ_c b) deep, at the far face (`deep` and `wide` mm)."""
    pressed = count * grip / np.maximum(crush * wide, 1e-9)
    return np.asarray(grip * np.maximum(deep / 2 - pressed / 2, 0.0))


def _braced(b: Braced, site: Site, moment: Array, shear: Array) -> Iterator[Way]:
    foam, name = site.scene.draws.foam, b.stock.name
    cover = max(site.deep - b.high, 0.0) / 2
    bearing = foam.bearing * (0.5 if cover < 2 * b.width else 1.0)
    long = b.brace.each_side_mm
    holds, bears = pin_moment(bearing, b.width, long, shear), True
    flat = isinstance(b.stock, Sheet) or b.stock.shape == "flat"
    if b.brace.glued and site.glue is not None and flat:
        line = site.line(SORT.get(b.stock.family, "wood"), b.high)
        twisted = 2 * face_torsion(b.high, long, line.brittle)
        reach = np.maximum(1 - shear / (2 * b.high * long * line.sheared()), 0.05)
        film, bed = (stress * twisted * reach for stress in (line.film_shear, line.bed_shear))
        if float(np.minimum(film, bed)[0]) > float(holds[0]):
            yield Way("joint_glue", f"glue on {name} fails", site.here(moment / film), moment, "N·mm")
            yield Way("joint_foam", f"foam shears beside {name}", site.here(moment / bed), moment, "N·mm")
            bears = False
    elif b.brace.glued and site.glue is not None:
        line = site.line(SORT.get(b.stock.family, "wood"), b.high)
        own = b.strong * math.pi * b.high**2 / 4
        grip = np.minimum(line.sheared() * math.pi * b.high * long, own)
        chord = float(site.scene.geometry.chord[site.k])
        pulls = pin_row(grip, b.brace.count, site.deep, chord, site.scene.draws.foam.crush)
        if float(pulls[0]) > float(holds[0]):  # it bends no further in the foam than its pull holds the faces shut
            kind = "joint_glue" if float(line.film_shear[0]) < float(line.bed_shear[0]) else "joint_foam"
            yield Way(kind, f"{name} pulls out", site.here(moment / pulls), moment, "N·mm")
            return
    if bears:
        yield Way("joint_pin", f"{name} crushes the foam around it", site.here(moment / holds), moment, "N·mm")
    own = b.strong * b.second / (b.high / 2)
    yield Way("joint_part", f"{name} breaks", site.here(moment / own), moment, "N·mm")


def lapped(site: Site, i: int, m: Membrane, force: Array, long: float, on_foam: bool) -> Iterator[Way]:
    """A skin that hands its force per width on over a length: to the core, or to its own next length."""
    s = site.scene
    d, foam, name = s.draws.skins[i], s.draws.foam, told(m, s.elements)
    if on_foam and (m.skin.family == "tape" or site.glue is None):
        film = foam.shear if d.adhesive_shear is None else d.adhesive_shear * site.pressed()
        bed = foam.shear
    else:
        own = OWN_GLUE.get(m.skin.family) if on_foam else None
        line = site.line(stack(m) if on_foam else "foam", 30.0, None if own is None else Glued(adhesive=own))
        film, bed = line.film_shear, line.bed_shear
    long_mm = counted(site, i, m, long, on_foam)
    yield Way("joint_glue", f"glue under {name} fails", site.here(force / (film * long_mm)), force, "N/mm")
    if on_foam:
        yield Way("joint_foam", f"foam shears under {name}", site.here(force / (bed * long_mm)), force, "N/mm")
    strong = (d.tensile if d.draws_out is None else d.draws_out) * m.thickness_mm
    yield Way("joint_part", f"{name} tears over the joint", site.here(force / strong), force, "N/mm")


def counted(site: Site, i: int, m: Membrane, long: float, on_foam: bool) -> Array:
    """How much of so long a lap of a skin hands force on, (S,) mm: on the core, or on its own next length."""
    s = site.scene
    d, foam, t = s.draws.skins[i], s.draws.foam, m.thickness_mm
    gives = np.full_like(d.Et, 0.1) if site.glue is None else site.line(stack(m), 30.0).gives
    one, G = d.Et * m.plies, np.maximum(d.Gt * m.plies / t, 1e-3)
    if not on_foam:
        return counts(long, decay((one, one), gives + 2 * t / (3 * G)), False)
    E, deep = 0.5 * (foam.E_tension + foam.E_compression), site.deep / 2
    rate = decay((one, E * deep), gives + t / (3 * G) + deep / (3 * foam.G))
    return counts(long, rate, s.elements.foam.brittle)
