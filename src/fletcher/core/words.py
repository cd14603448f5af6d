"""Results in the words of the trade."""

from __future__ import annotations

from fletcher.core import cases
from fletcher.core.airframe import (
    Airframe,
    BarLayer,
    CordLayer,
    CutLayer,
    FittingLayer,
    HingeLayer,
    JointLayer,
    Part,
    WallLayer,
)
from fletcher.core.elements import Elements
from fletcher.core.evidence import Band
from fletcher.core.hinges import hinges
from fletcher.core.joining import AcrossJoint, Joint
from fletcher.core.strength import Mode

ASSUMPTIONS = (
    "Material values are estimates with ranges, not measured by you; the bands are their 5-95 % spread.",
    "Bars and skins are glued along their whole length. Bars tear the foam beside the glue; tapes slide at what their "
    "adhesive holds for seconds, not for days.",
    "The part bends about its chord line. Twist comes from the lift at a quarter of the chord, the section's own "
    "pitching moment and the part's weight, all about the shear centre; the sweep of that line is left out.",
    "Edgewise the section bends as one, without slip.",
    "Stresses grow in proportion to the load up to the first failure.",
    "Glue along lines weighs where a joint names it; paint is not weighed.",
    "The root is held without give unless a joiner tilts in its foam; bars marked as joined carry on through it.",
    "Walls of hollow parts buckle as flat panels; bars in them are booms on the nearest wall.",
)

_SENTENCES = {
    "foam_tension": "Foam cracks on the {place}",
    "foam_crush": "Foam crushes on the {place}",
    "skin_tension": "{label} tears on the {place}",
    "skin_yield": "{label} draws out on the {place}",
    "skin_wrinkling": "{label} wrinkles on the {place}",
    "skin_compression": "{label} creases on the {place}",
    "bar_tension": "{side}{label} pulls apart",
    "bar_compression": "{side}{label} crushes",
    "bar_buckling": "{side}{label} buckles into the foam",
    "core_shear": "Foam shears through",
    "wall_shear": "{label} shears on the {place}",
    "wall_buckling": "{label} buckles on the {place}",
    "bar_strut": "{side}{label} buckles between the ribs",
    "bar_twist": "{side}{label} splits in the twist",
    "bar_splice": "{side}{label} parts at its splice",
    "notch": "Foam cracks from the corner of {label}",
    "strip_end": "{label} peels off at its end on the {place}",
    "cord_pull": "{label} snaps in the {place}",
    "cord_bond": "{label} slides out of the {place}",
    "strap_crush": "Straps crush the foam at the edge",
    "joint_bearing": "{label} crushes the foam around it",
    "root_glue": "The glued root parts beside the seam",
    "bands_give": "The bands let the wing lift off",
    "nose_spent": "The nose is crushed up to the equipment",
    "mount_tears": "The mounts of battery and motor let go",
    "bar_bond": "{side}{label} shears loose from the foam",
    "skin_shear": "{label} shears in the twist on the {place}",
    "strip_bond": "{label} slides on the {place}",
    **dict.fromkeys(
        ("joint_glue", "joint_foam", "joint_part", "joint_pin", "joint_peel", "joint_pull", "hinge_tears"),
        "{label}: {place}",
    ),
}


_PLACES = {
    "upper": "upper face",
    "lower": "lower face",
    "front": "front edge",
    "rear": "rear edge",
    "web": "web",
    "level": "level plate",
}
_CUTS = {"upper": "pocket", "lower": "pocket", "through": "hole", "inside": "hollow", "front": "slit", "rear": "slit"}


def joint_name(joint: Joint) -> str:
    """What a builder calls a joint."""
    if isinstance(joint, AcrossJoint):
        faces = {"open": "", "butt": "Butt joint", "scarf": f"Scarf 1:{joint.slope:g}"}[joint.faces]
        braced = "braces" if joint.braces else "bridged by strips" if joint.bridges else ""
        return " with ".join(filter(None, [faces, braced])).capitalize()
    return {"lap": "Lap", "bond": "Glue line", "plate": "Glued plate", "bolted": "Bolts", "banded": "Bands and pegs"}[
        joint.kind
    ]


def line_label(elements: Elements, line: int | None) -> str:
    """Name of a lay-up line: what the builder called it, or its material."""
    if line is None:
        return elements.foam.name
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
        notch = layer.face in ("front", "rear") and layer.depth_mm > 0 and not elements.hollow
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
    return _SENTENCES[mode.kind].format(place=_PLACES.get(mode.where, mode.where), label=label_in, side=side)


def out_at(sentence: str, at_mm: float) -> str:
    """What gives with its place along the part."""
    return f"{sentence}, at the root" if at_mm < 0.5 else f"{sentence}, {at_mm:.0f} mm out"


def snap_sentence(manner: str, share: float) -> str:
    """What the part does when it is bent until it parts."""
    if manner == "cracks, hangs together":
        return f"cracks, hangs together at {100 * share:.0f} %"
    return manner


def too_slow(divergence: Band | None, reversal: Band | None, top_speed_m_s: float) -> bool:
    """Whether it may twist away, or its control reverse, below half as much again as the speed it is meant for."""
    speeds = [s.low for s in (divergence, reversal) if s is not None]
    return bool(speeds) and min(speeds) < 1.5 * top_speed_m_s


def speed_caution(divergence: Band | None, reversal: Band | None, top_speed_m_s: float) -> str:
    """What the speeds of divergence and reversal mean for the fastest speed it is meant to fly."""
    if reversal is not None and reversal.low < 1.5 * top_speed_m_s:
        return (
            f"The control surface may lose its effect and reverse: from {reversal.low:.0f} m/s on, less than half as "
            f"much again as the {top_speed_m_s:g} m/s it is meant for. More stiffness in twist helps. A caution, no "
            "clearance."
        )
    if divergence is None:
        return "The lift acts behind the shear centre: it does not twist away (static divergence) at any speed."
    if divergence.low < 1.5 * top_speed_m_s:
        return (
            f"May twist away in flight: divergence from {divergence.low:.0f} m/s on, less than half as much again as "
            f"the {top_speed_m_s:g} m/s it is meant for. Spars further forward, or a closed skin, help. A caution, no "
            "clearance."
        )
    return (
        f"Divergence lies well above the {top_speed_m_s:g} m/s it is meant for. A caution, no clearance: flutter is "
        "not computed."
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
            f"It bends by {100 * bend_mm / reach:.0f} % of its length. Small-bend theory ends at about 10 %: "
            "read the shape as a direction, not a measure."
        )
    if twist_deg is not None and abs(twist_deg) > 10:
        out.append(
            f"It twists by {abs(twist_deg):.0f}°. In the air the lift would turn with it, which the load does not "
            "know: too soft in twist to fly like this. A closed skin helps most."
        )
    return out


def warnings_of(airframe: Airframe, part: Part, case: cases.Case, mass_g: float) -> list[str]:
    """What this part and case call for care in."""
    out = []
    if isinstance(case, _ON_THE_BENCH):
        out.append(
            "Hanging weights fall when a part gives way: keep feet and faces clear, pad the floor, wear eye protection."
        )
        return out
    if part.damage:
        out.append(
            "Damage is marked on this part. The figures here are those of the whole part; see what is left of it."
        )
    count = part.count
    if count * mass_g > airframe.all_up_mass_g:
        weighs = "Two of this part weigh" if count == 2 else "This part weighs"
        out.append(
            f"{weighs} {count * mass_g:.0f} g, more than the {airframe.all_up_mass_g:.0f} g of the whole airframe. "
            "Correct the flying mass."
        )
    if isinstance(case, cases.NoseStrikeCase | cases.SuddenStopCase):
        out.append(
            "A battery that was struck or torn loose can burn hours later: gloves and eye protection on, take it out, "
            "set it down outdoors on ground that cannot burn, and follow its maker's sheet and local rules."
        )
    out.append(
        "An estimate is no clearance to fly. Check the finished part by a static load test, and follow local rules."
    )
    return out
