"""Results in the words of the trade."""

from __future__ import annotations

from fletcher.core.common.quantities import F0, G, from_root, in_g, in_m_s
from fletcher.core.document import cases
from fletcher.core.document.airframe import (
    Airframe,
    BarLayer,
    CordLayer,
    CutLayer,
    FittingLayer,
    HingeLayer,
    JointLayer,
    Layer,
    Part,
    WallLayer,
)
from fletcher.core.document.joint import AcrossJoint, Joint, WallJoint
from fletcher.core.joints.hinges import hinges
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import Band
from fletcher.core.section.elements import Elements
from fletcher.core.strength.modes import Mode

_SENTENCES = {
    "foam_tension": "Foam cracks on the {place}",
    "foam_yield": "Foam starts to stretch on the {place}",
    "foam_crush": "Foam starts to crush on the {place}",
    "folds": "Folds on the {place}",
    "bends_over": "Folds: bent by more than 30°",
    "skin_tension": "{label} tears on the {place}",
    "skin_yield": "{label} starts to yield on the {place}",
    "skin_wrinkling": "{label} starts to wrinkle on the {place}",
    "skin_compression": "{label} creases in compression on the {place}",
    "core_tears": "{label}: its core tears on the {place}",
    "core_crush": "{label}: its core starts to crush on the {place}",
    "bar_tension": "{side}{label} snaps in tension",
    "bar_compression": "{side}{label} crushes in compression",
    "bar_buckling": "{side}{label} buckles into the foam",
    "core_shear": "Foam core shears",
    "wall_shear": "{label} shears on the {place}",
    "wall_buckling": "{label} starts to buckle on the {place}",
    "bar_strut": "{side}{label} buckles between ribs",
    "bar_flute": "{side}{label} buckles out of its flute",
    "bar_twist": "{side}{label} splits under twist",
    "bar_splice": "{side}{label} comes apart at its splice",
    "notch": "Foam cracks from the corner of {label}",
    "strip_end": "End of {label} lifts on the {place}",
    "cord_pull": "{label} snaps at the {place}",
    "cord_bond": "{label} starts to slide in its glue at the {place}",
    "strap_crush": "Straps start to crush the foam at the edge",
    "joint_bearing": "{label} starts to crush the foam around it",
    "root_glue": "Glued root joint tears in the foam beside the glue",
    "bands_give": "Rubber bands stretch and the wing lifts off its seat",
    "nose_spent": "Nose crushes as far as the equipment",
    "mount_tears": "Battery and motor mounts tear out",
    "bar_bond": "{side}{label} shears out of the foam",
    "skin_shear": "{label} shears under twist on the {place}",
    "strip_bond": "{label} slides off on the {place}",
    "nothing": "Nothing computed here breaks it",
    **dict.fromkeys(
        ("joint_glue", "joint_foam", "joint_part", "joint_pin", "joint_peel", "joint_pull", "hinge_tears"),
        "{label}: {place}",
    ),
}
_KINKS = "{label} kinks on the {place}"
"""A wrinkle that ends the ply."""

_CONSEQUENCES = {
    "foam_yield": "stays stretched",
    "foam_crush": "leaves a dent",
    "core_crush": "leaves a dent",
    "skin_yield": "stays stretched",
    "skin_tension": "stays torn",
    "skin_wrinkling": "stays wrinkled",
    "skin_compression": "stays creased",
    "wall_buckling": "springs back fully",
    "bar_compression": "stays shortened",
    "strip_end": "stays lifted: rub it down, or let it end further out",
    "cord_bond": "stays slack",
    "cord_pull": "leaves the foam alone to stop it",
    "strap_crush": "leaves a dent",
    "joint_pin": "hole stays oval",
    "joint_bearing": "hole stays oval",
}


def consequence(kind: str, stays: bool) -> str:
    """What a change means, in words that follow it."""
    if not stays and kind == "skin_wrinkling":
        return "goes flat again"
    return _CONSEQUENCES.get(kind, "stays" if stays else "springs back fully")


def capital(sentence: str) -> str:
    """A sentence with a capital at its start."""
    return sentence[:1].upper() + sentence[1:]


_MADE_OF = {
    "bar": ("stock", "bars"), "strip": ("skin", "skins"), "film": ("skin", "skins"), "wall": ("sheet", "sheets"),
    "cord": ("cord", "cords"),
}  # fmt: skip
"""Where a line says what it is made of, and the table that knows its name."""


def stock_name(layer: Layer) -> str:
    """What a line is made of, by the name of the table, or its kind."""
    field, table = _MADE_OF.get(layer.type, ("", ""))
    key = getattr(layer, field, None)
    found = getattr(reference(), table).get(key) if isinstance(key, str) else None
    return layer.type if found is None else str(found.name)


def inline(sentence: str) -> str:
    """A sentence to follow others: small at its start, but for a name or sign."""
    return sentence[0].lower() + sentence[1:] if sentence[:1].isupper() and sentence[1:2].islower() else sentence


_PLACES = {
    "upper": "upper face",
    "lower": "lower face",
    "front": "front edge",
    "rear": "rear edge",
    "web": "web",
    "level": "horizontal plate",
}
_CUTS = {"upper": "pocket", "lower": "pocket", "through": "hole", "inside": "hollow", "front": "slit", "rear": "slit"}


def joint_name(joint: Joint) -> str:
    """What a builder calls a joint."""
    if isinstance(joint, AcrossJoint):
        faces = {"open": "", "butt": "Butt joint", "scarf": f"Scarf 1:{joint.slope:g}"}[joint.faces]
        braced = "braces" if joint.braces else "bridging strips" if joint.bridges else ""
        return " with ".join(filter(None, [faces, braced])).capitalize()
    if isinstance(joint, WallJoint):
        return "Seam of the walls" if joint.along_mm is None else f"Seam along the {joint.face} edge"
    return {
        "lap": "Lap",
        "bond": "Glue line",
        "plate": "Glued plate",
        "bolted": "Bolts",
        "banded": "Rubber bands and pegs",
    }[joint.kind]


def line_label(elements: Elements, line: int | None) -> str:
    """Name of a lay-up line: what the builder called it, or its material."""
    if line is None:
        return elements.foam.name if elements.ribs is None else f"Ribs, {elements.ribs.sheet.name}"
    layer = elements.part.layers[line]
    if layer.name:
        return layer.name
    for bar in elements.bars:
        if bar.line == line:
            return bar.stock.name
    for membrane in elements.membranes:
        if membrane.line == line:
            return membrane.skin.name
    if isinstance(layer, BarLayer):
        return layer.stock
    for fitting in elements.fittings:
        if fitting.line == line:
            return fitting.stock.name
    if isinstance(layer, FittingLayer):
        return layer.stock
    if isinstance(layer, CutLayer):
        notch = max(layer.notch_mm) > 0 and not elements.hollow
        return "notch" if notch else _CUTS[layer.face]
    if isinstance(layer, WallLayer):
        return layer.sheet
    if isinstance(layer, JointLayer):
        return joint_name(layer.joint)
    if isinstance(layer, HingeLayer):
        return hinges()[layer.method].name
    for cord in elements.cords:
        if cord.line == line:
            return cord.stock.name
    if isinstance(layer, CordLayer):
        return layer.cord
    return layer.skin if isinstance(layer.skin, str) else "laminate"


def failure_sentence(mode: Mode, elements: Elements) -> str:
    """What gives, as a builder would say it; the place is given apart."""
    label = line_label(elements, mode.line)
    side = {"upper": "Upper ", "lower": "Lower "}.get(mode.where, "")
    label_in = (label[0].lower() + label[1:] if mode.kind.startswith("bar") else label) if side else label
    pattern = _KINKS if mode.kind == "skin_wrinkling" and mode.breaks else _SENTENCES[mode.kind]
    return pattern.format(place=_PLACES.get(mode.where, mode.where), label=label_in, side=side)


def out_at(sentence: str, at_mm: float) -> str:
    """What gives with its place along the part."""
    return f"{sentence}, {from_root(at_mm)}"


def snap_sentence(manner: str, share: float) -> str:
    """What the part does when it is bent until it parts."""
    if manner == "cracks, but holds together":
        return f"cracks but holds together ({100 * share:.0f} % of the load)"
    return manner


def too_slow(divergence: Band | None, reversal: Band | None, top_speed_m_s: float) -> bool:
    """Whether it may twist away, or its control reverse, below half as much again as the speed it is meant for."""
    speeds = [s.low for s in (divergence, reversal) if s is not None]
    return bool(speeds) and min(speeds) < 1.5 * top_speed_m_s


def speed_caution(divergence: Band | None, reversal: Band | None, top_speed_m_s: float) -> str:
    """What the speeds of divergence and reversal mean for the fastest speed it is meant to fly."""
    if reversal is not None and reversal.low < 1.5 * top_speed_m_s:
        return (
            f"The control surface may lose its effect and reverse: from {in_m_s(reversal.low, F0)} on, "
            "less than half as "
            f"much again as the {in_m_s(top_speed_m_s, G)} it is meant for. More stiffness in twist helps. "
            "This is a caution, not a clearance to fly."
        )
    if divergence is None or divergence.low > 3 * top_speed_m_s:
        return (
            f"No divergence found up to {in_m_s(3 * top_speed_m_s, F0)}, three times its top speed. "
            "This is a caution, not a clearance to fly."
        )
    if divergence.low < 1.5 * top_speed_m_s:
        return (
            f"May twist away in flight: divergence from {in_m_s(divergence.low, F0)} on, less than half as "
            "much again as "
            f"the {in_m_s(top_speed_m_s, G)} it is meant for. Spars further forward, or a closed skin, "
            "help. A caution, no "
            "clearance."
        )
    return (
        f"Divergence lies well above the {in_m_s(top_speed_m_s, G)} it is meant for. A caution, no "
        "clearance: flutter is "
        "not computed."
    )


def sway_caution(held_mm: float, free_mm: float) -> str:
    """What stiff parts that lie askew do."""
    return (
        f"Stiff parts lie askew: as it bends it also moves sideways, and bends "
        f"{100 * (free_mm / max(held_mm, 1e-9) - 1):.0f} % "
        "more than if it were held straight. Put upper and lower ones above each other."
    )


_ON_THE_BENCH = (cases.ThreePointCase, cases.TipWeightCase, cases.TipTwistCase)


def beyond_of(part: Part, case: cases.Case, bend_mm: float, twist_deg: float | None) -> list[str]:
    """Where the part leaves what the theory holds for."""
    out = []
    reach = part.span_mm
    if isinstance(case, cases.ThreePointCase):
        reach = case.second_support_mm - case.first_support_mm
    if bend_mm > 0.1 * reach:
        out.append(
            f"It bends by {100 * bend_mm / reach:.0f} % of its length. The theory holds up to about 10 %: take "
            "the shape as a trend, not a measurement."
        )
    if twist_deg is not None and abs(twist_deg) > 10:
        out.append(
            f"It twists by {abs(twist_deg):.0f}°. In flight the lift would change with the twist, which this "
            "load case does not include. Too soft in twist to fly; a closed skin helps most."
        )
    return out


def warnings_of(airframe: Airframe, part: Part, case: cases.Case, mass_g: float) -> list[str]:
    """What this part and case call for care in."""
    out = []
    if isinstance(case, _ON_THE_BENCH):
        out.append(
            "Hung weights fall when a part breaks. Keep feet and faces clear, pad the floor and wear eye protection."
        )
        return out
    if part.damage:
        out.append(
            "This part has damage marks. The figures here are for the undamaged part; see “Damage” for what is left."
        )
    count = part.count
    if count * mass_g > airframe.all_up_mass_g:
        weighs = "Two of this part have a mass of" if count == 2 else "This part has a mass of"
        out.append(
            f"{weighs} {in_g(count * mass_g, F0)}, more than the {in_g(airframe.all_up_mass_g, F0)} of the "
            "whole airframe. "
            "Correct the flying mass."
        )
    if isinstance(case, cases.NoseStrikeCase | cases.SuddenStopCase):
        out.append(
            "A damaged battery can catch fire hours later. Put on gloves and eye protection, remove it if it "
            "is cool, place it outdoors on bare ground away from anything that burns, and follow the maker’s "
            "instructions and local rules."
        )
    out.append(
        "An estimate is not a clearance to fly. Load-test the finished part on the bench and follow local rules."
    )
    return out
