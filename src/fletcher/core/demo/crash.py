"""The broken airframe of the demo world: what happened to it, how it was mended once, and three candidates for now."""

from __future__ import annotations

from datetime import UTC, datetime

from fletcher.core.document.airframe import Airframe, Part, Place
from fletcher.core.document.cases import PullUpCase, ThreePointCase
from fletcher.core.document.damage import BarMark, CrackMark, CrushMark, Mark, PeeledMark
from fletcher.core.repair.events import Event
from fletcher.core.repair.inspection import Crash
from fletcher.core.repair.recipe import Fix, Recipe, mended
from fletcher.core.studies.constructions import CONSTRUCTIONS

_AUTUMN = CrackMark(
    id="autumn",
    at_mm=345,
    face="front",
    depth_mm=45,
    skins_torn=True,
    note="Hit a reed stem on landing",
    whole=("spar",),
)
_PATCH = Recipe(
    fixes=(Fix(mark="autumn", way="pack", over="tape_both", stock="bopp_tape_std", each_side_mm=25),),
    glue="contact_foamsafe_clear",
)
_POST: tuple[Mark, ...] = (
    CrushMark(id="nose", start_mm=370, end_mm=430, face="front", depth_mm=13, note="Dent from the post"),
    CrackMark(id="crack", at_mm=398, face="front", depth_mm=78, skins_torn=True, note="Runs to the spar"),
    BarMark(id="rod", of="spar", at_mm=400, side="upper", note="Ticks when bent"),
    PeeledMark(id="film", of="film", start_mm=430, end_mm=500, note="Film lifted behind the impact"),
)


def _wing(hand: str) -> Part:
    cases = (
        PullUpCase(id="pull-up", name="Pull-up", speed_m_s=14),
        ThreePointCase(
            id="bench", name="Bench: mid-span weight", first_support_mm=60, second_support_mm=540, weight_g=900
        ),
    )
    part = CONSTRUCTIONS["bead_wing"].part()
    return part.model_copy(
        update={
            "id": f"{hand}-wing", "name": f"Wing, {hand}", "hand": hand, "cases": cases,
            "place": Place(x_mm=215, y_mm=25, z_mm=40, dihedral_deg=4),
        }
    )  # fmt: skip


def crashed_airframe() -> Airframe:
    """A survey glider that met a fence post: one half is whole, the other was mended once and is broken again."""
    hurt = _wing("right").model_copy(update={"damage": (_AUTUMN,)})
    right = mended(hurt, _PATCH).model_copy(update={"damage": _POST})
    return Airframe(
        name="Dunlin Post", state="broken", all_up_mass_g=820, top_speed_m_s=18,
        note="Right half hit a fence post on the sea wall. The left half is undamaged.",
        parts=(right, _wing("left")),
    )  # fmt: skip


def crash_record() -> tuple[tuple[datetime, Event], ...]:
    """What the group wrote down of it, the oldest first."""
    part = "right-wing"
    return (
        (datetime(2026, 9, 19, 16, 40, tzinfo=UTC),
         Event(kind="damage", part_id=part, says="Nose cracked by a reed stem on landing", marks=(_AUTUMN,))),
        (datetime(2026, 9, 19, 17, 30, tzinfo=UTC),
         Event(kind="repair", part_id=part, says="Glue worked in, clear tape on both faces", recipe=_PATCH,
               stretches_mm=((320, 370), (312.5, 377.5)))),
        (datetime(2026, 11, 14, 10, 15, tzinfo=UTC),
         Event(kind="crash", part_id=part, says="Fence post on the sea wall, right half, about 9 m/s",
               crash=Crash(what="pole", speed_m_s=9, at_mm=400))),
        (datetime(2026, 11, 14, 11, 5, tzinfo=UTC),
         Event(kind="damage", part_id=part, says="Nose crushed, crack to the spar, upper rod broken, film peeled",
               marks=_POST)),
    )  # fmt: skip


def crash_candidates() -> tuple[tuple[str, Recipe], ...]:
    """Three repairs that the group weighs."""
    film, nose = Fix(mark="film", way="relay"), Fix(mark="nose", way="warm")
    crack = Fix(mark="crack", way="pack")
    sister = Fix(mark="rod", way="sister", stock="bamboo_skewer_3", each_side_mm=125)
    return (
        ("Skewer and hot-melt", Recipe(
            glue="hotmelt_low", fixes=(
                Fix(mark="nose", way="fill"),
                crack.model_copy(update={"over": "tape_both", "stock": "filament_tape_bi", "each_side_mm": 35}),
                sister, film,
            ))),
        ("Rod and contact glue", Recipe(
            glue="contact_foamsafe_clear", fixes=(
                nose, crack,
                sister.model_copy(update={"stock": "carbon_rod_3", "each_side_mm": 200}), film,
            ))),
        ("New rod and cloth", Recipe(
            glue="pu_foaming_white", fixes=(
                nose, crack.model_copy(update={"over": "cloth", "stock": "glass_49", "each_side_mm": 35}),
                Fix(mark="rod", way="replace_bar", stock="carbon_rod_3"),
                Fix(mark="film", way="reskin", each_side_mm=25),
            ))),
    )  # fmt: skip
