"""The demo world: the invented fleet of a salt-marsh survey group, in different constructions and states."""

from __future__ import annotations

from fletcher.core.adhesion.coupons import Coupon, Face
from fletcher.core.adhesion.fair_trial import Arm, TrialWish
from fletcher.core.demo.crash import crashed_airframe
from fletcher.core.document.airframe import (
    Airframe,
    CutLayer,
    FittingLayer,
    HingeLayer,
    JointLayer,
    Laminate,
    Part,
    Place,
    Ply,
    Setting,
    StripLayer,
)
from fletcher.core.document.cases import ControlRun, DeflectedCase, PullUpCase, ThreePointCase
from fletcher.core.document.equipment import Equipment
from fletcher.core.document.joint import AcrossJoint, Brace, Glued, PlateJoint
from fletcher.core.document.weighings import OnScale, Weighing
from fletcher.core.studies.constructions import CONSTRUCTIONS


def demo_airframes() -> tuple[Airframe, ...]:
    """The invented fleet of a salt-marsh survey group, for the demo account and the tests."""
    wing = _bead_wing_as_built()

    def made(
        key: str,
        part_id: str,
        name: str,
        at: tuple[float, float, float] = (0, 0, 0),
        mass: float = 900,
        speed: float = 20,
    ) -> Part:
        part = CONSTRUCTIONS[key].part(None, mass, speed)
        place = Place(x_mm=at[0], y_mm=at[1], z_mm=at[2], dihedral_deg=4 if part.kind == "wing" else 0)
        return part.model_copy(update={"id": part_id, "name": name, "place": place})

    return (
        Airframe(
            name="Reed Warden",
            state="building",
            all_up_mass_g=900,
            note=(
                "Slow camera glider for counting nests on the bird islands. The left half is waiting for its "
                "film; the plank is an offcut of the spare block."
            ),
            parts=(
                wing,
                _bench_plank(),
                made("tube_boom", "boom", "Tail boom", (390, 0, 20)),
                made("tail_plate", "tail", "Left tail half", (800, 0, 30)),
                _with_run(made("control_surface", "aileron", "Left aileron", (345, 170, 40))),
            ),
            equipment=_carried(),
            weighings=_weighed(),
        ),
        Airframe(
            name="Mud Lark",
            state="flying",
            all_up_mass_g=620,
            top_speed_m_s=15,
            note="Plain foam board for the young volunteers: folded wing, box fuselage. Repaired twice, still flying.",
            parts=(
                made("folded_wing", "wing", "Folded wing half", (160, 30, 45), 620, 15),
                made("box_fuselage", "fuselage", "Rear fuselage", (330, 0, 0), 620, 15),
            ),
        ),
        Airframe(
            name="Tern Chaser",
            state="flying",
            all_up_mass_g=1150,
            top_speed_m_s=24,
            setting=Setting(sun_months=6, hottest_C=28, coldest_C=2, parked_C=48, damp="damp"),
            note="Fast and cloth-skinned, for the far islands on windy days.",
            parts=(_with_servo(made("cloth_wing", "wing", "Right wing half", (210, 20, 30), 1150, 24)),),
        ),
        crashed_airframe(),
    )


def _with_run(aileron: Part) -> Part:
    run = ControlRun(
        rod="music_wire_1.5", length_mm=180, support_mm=90, horn_arm_mm=12, servo_arm_mm=10, servo="servo_9g"
    )
    cases = tuple(c.model_copy(update={"run": run}) if isinstance(c, DeflectedCase) else c for c in aileron.cases)
    hinge = HingeLayer(id="hinge", method="film_tape_uv", name="Film hinge on top")
    horn = JointLayer(
        id="horn", name="Control horn", start_mm=200, chord_percent=20, glue=Glued(adhesive="epoxy_5min"),
        joint=PlateJoint(sheet="birchply_0.8", long_mm=15, wide_mm=15, load="rod", arm_mm=12, keys=4, key_deep_mm=4),
    )  # fmt: skip
    return aileron.model_copy(update={"cases": cases, "layers": (*aileron.layers, hinge, horn)})


def _with_servo(wing: Part) -> Part:
    at = {"root_percent": 48, "tip_percent": 48}
    servo = FittingLayer(id="servo", stock="servo_thin_8mm", face="lower", start_mm=380, **at, name="Aileron servo")
    slit = CutLayer(id="slit", face="lower", width_mm=4, depth_mm=4, end_mm=380, **at, name="Lead slit")
    joiner = JointLayer(
        id="joint", name="Panel joint", start_mm=300, glue=Glued(adhesive="epoxy_structural_slow"),
        joint=AcrossJoint(
            parted="skins", bridges=("cloth", "joint_tape"),
            braces=(Brace(stock="birchply_1.5", deep_mm=11), Brace(stock="hardwood_dowel_3", each_side_mm=40)),
        ),
    )  # fmt: skip
    tape = StripLayer(
        id="joint_tape", name="Cloth over the joint", skin=Laminate(plies=(Ply(cloth="glass_49"),)), width_mm=100,
        root_percent=45, tip_percent=45, start_mm=265, end_mm=335,
    )  # fmt: skip
    return wing.model_copy(update={"layers": (*wing.layers, servo, slit, tape, joiner)})


def _bead_wing_as_built() -> Part:
    part = CONSTRUCTIONS["bead_wing"].part()
    place = Place(x_mm=220, y_mm=25, z_mm=40, dihedral_deg=4)
    cases = (
        PullUpCase(id="pull-up", name="Pull-up", speed_m_s=15),
        ThreePointCase(
            id="bench", name="Bench: mid-span weight", first_support_mm=60, second_support_mm=540, weight_g=1000
        ),
    )
    return part.model_copy(update={"id": "wing", "name": "Left wing half", "cases": cases, "place": place})


def _bench_plank() -> Part:
    bench = ThreePointCase(
        id="bench", name="Bench: mid-span weight", first_support_mm=10, second_support_mm=490, weight_g=1500
    )
    part = CONSTRUCTIONS["plank"].part()
    return part.model_copy(update={"id": "plank", "name": "Offcut plank", "cases": (bench,)})


def demo_variants() -> tuple[tuple[str, Part], ...]:
    """States of the first airframe's wing that the group tried before it settled: for pinning up."""
    wing = demo_airframes()[0].parts[0]

    def without(line_id: str) -> Part:
        return wing.model_copy(update={"layers": tuple(la for la in wing.layers if la.id != line_id)})

    thin = tuple(la.model_copy(update={"stock": "carbon_rod_2"}) if la.id == "spar" else la for la in wing.layers)
    light = tuple(la.model_copy(update={"skin": "lamfilm_38"}) if la.id == "film" else la for la in wing.layers)
    return (
        ("No tape on lower face", without("tape")),
        ("Thin rods", wing.model_copy(update={"layers": thin})),
        ("Thin film", wing.model_copy(update={"layers": light})),
    )


def demo_trial() -> tuple[TrialWish, tuple[Coupon, ...]]:
    """A trial of the group on scraps of the wings' bead foam, half done, and what its broken faces showed."""
    wish = TrialWish(
        name="Which glue joins bead foam to bead foam?", one="epp_30", other="epp_30", broken="snap", minutes=1440,
        difference_percent=60, control=False, arms=(
            Arm(adhesive="contact_foamsafe_clear", prepared="roughened"),
            Arm(adhesive="solvent_rubbery_clear", prepared="roughened"),
        ),
    )  # fmt: skip
    faces = (
        ("A1", 60, 20, 20, 15.5), ("B1", 90, 10, 0, 19.0), ("B2", 80, 20, 0, 17.5), ("A2", 10, 20, 70, 11.0),
        ("A3", 30, 20, 50, 12.5), ("B3", 100, 0, 0, 18.0),
    )  # fmt: skip
    return wish, tuple(
        Coupon(
            adhesive=wish.arms["AB".index(label[0])].adhesive, one=wish.one, other=wish.other, prepared="roughened",
            face=Face(foam_deep=deep, surface_layer=thin, clean_seam=clean), load_N=load, area_cm2=12, width_mm=20,
            label=label,
        )
        for label, deep, thin, clean, load in faces
    )  # fmt: skip


def _weighed() -> tuple[Weighing, ...]:
    """What the group laid on its kitchen scale so far: both halves with their rods, and the battery."""
    halves = (("right", 51.8), ("left", 52.6))
    return (
        *(
            Weighing(
                id=f"half-{side}", on="2026-11-06", stage="glued", reading=OnScale(grams=grams), step_g=0.1,
                lines=(f"wing/{side}/core", f"wing/{side}/spar", f"wing/{side}/spar/glue"),
            )
            for side, grams in halves
        ),
        Weighing(id="battery", on="2026-11-09", reading=OnScale(grams=186), lines=("item/battery/one",)),
    )  # fmt: skip


def _carried() -> tuple[Equipment, ...]:
    """What the camera glider carries, as planned: with the camera where it was first wished for it is tail-heavy."""
    return (
        Equipment(id="motor", what="motor", stock="motor_28", x_mm=80, z_mm=20),
        Equipment(id="propeller", what="propeller", stock="propeller_8", x_mm=60, z_mm=20),
        Equipment(id="controller", what="controller", stock="controller_30", x_mm=140, z_mm=15),
        Equipment(
            id="battery", what="battery", stock="battery_3s_2200", x_mm=290, z_mm=5, from_mm=190, to_mm=330
        ),
        Equipment(id="receiver", what="receiver", stock="receiver_6", x_mm=330, z_mm=20, from_mm=230, to_mm=380),
        Equipment(
            id="aileron-servo", what="servo", name="Aileron servo", stock="servo_9g", x_mm=330, y_mm=255, z_mm=55,
            pair=True,
        ),
        Equipment(id="tail-servo", what="servo", name="Tail servo", stock="servo_9g", x_mm=420, z_mm=20),
        Equipment(id="camera", what="camera", name="Nest camera with its mount", mass_g=235, x_mm=380, z_mm=-20),
    )  # fmt: skip
