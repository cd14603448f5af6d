"""The demo world: the invented fleet of a salt-marsh survey group, in different constructions and states."""

from __future__ import annotations

from fletcher.core.airframe import Airframe, Part
from fletcher.core.cases import PullUpCase, ThreePointCase
from fletcher.core.constructions import CONSTRUCTIONS


def demo_airframes() -> tuple[Airframe, ...]:
    """The invented fleet of a salt-marsh survey group, for the demo account and the tests."""
    wing = _bead_wing_as_built()

    def made(key: str, part_id: str, name: str, mass: float = 900, speed: float = 20, **size: float) -> Part:
        c = CONSTRUCTIONS[key]
        part = c.part(c.size.model_copy(update=size), mass, speed)
        return part.model_copy(update={"id": part_id, "name": name})

    return (
        Airframe(
            name="Reed Warden",
            state="building",
            all_up_mass_g=900,
            note=(
                "Slow camera glider for counting nests over the bird islands. The left half waits for its film; "
                "the plank is an offcut of the spare block."
            ),
            parts=(
                wing,
                _bench_plank(),
                made("tube_boom", "boom", "Tail boom"),
                made("tail_plate", "tail", "Left tail half"),
                made("control_surface", "aileron", "Left aileron"),
            ),
        ),
        Airframe(
            name="Mud Lark",
            state="flying",
            all_up_mass_g=620,
            top_speed_m_s=15,
            note="Plain craft board for the young volunteers: folded wing, box fuselage. Mended twice, still flies.",
            parts=(
                made("folded_wing", "wing", "Folded wing half", 620, 15),
                made("box_fuselage", "fuselage", "Rear fuselage", 620, 15),
            ),
        ),
        Airframe(
            name="Tern Chaser",
            state="flying",
            all_up_mass_g=1150,
            top_speed_m_s=32,
            note="Fast and cloth-skinned, for the far islands on windy days.",
            parts=(made("cloth_wing", "wing", "Right wing half", 1150, 32),),
        ),
    )


def _bead_wing_as_built() -> Part:
    part = CONSTRUCTIONS["bead_wing"].part()
    cases = (
        PullUpCase(id="pull-up", name="Pull-up in the air", speed_m_s=15),
        ThreePointCase(
            id="bench", name="Bench, weight in the middle", first_support_mm=60, second_support_mm=540, weight_g=1000
        ),
    )
    return part.model_copy(update={"id": "wing", "name": "Left wing half", "cases": cases})


def _bench_plank() -> Part:
    bench = ThreePointCase(
        id="bench", name="Bench, weight in the middle", first_support_mm=10, second_support_mm=490, weight_g=1500
    )
    part = CONSTRUCTIONS["plank"].part()
    return part.model_copy(update={"id": "plank", "name": "Offcut plank", "cases": (bench,)})
