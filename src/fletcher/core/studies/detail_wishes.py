"""What can be asked of a detail, and what is answered."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from fletcher.core.common.model import Result
from fletcher.core.document.cases import Along, Document, Key
from fletcher.core.estimate.schema import Symbol
from fletcher.core.materials.grades import Grade
from fletcher.core.materials.uncertainty import Band


class HalfSlot(Document):
    """Two plates crossed in half slots: the one that bends, its depth, how deep its slot, the radius of its root."""

    kind: Literal["half_slot"] = "half_slot"
    sheet: Key
    depth_mm: Annotated[float, Field(ge=5, le=500)] = 60.0
    slot_percent: Annotated[float, Field(ge=5, le=90)] = 50.0
    radius_mm: Annotated[float, Field(ge=0, le=50)] = 0.5
    side: Annotated[
        Literal["pulled", "pressed"], Field(description="Side the slot opens on: compression or tension")
    ] = "pulled"


class FlutedEdge(Document):
    """Twin-wall sheet glued by its open edge, where the walls alone touch; the length of edge."""

    kind: Literal["fluted_edge"] = "fluted_edge"
    sheet: Key
    length_mm: Annotated[float, Field(ge=5, le=3000)] = 100.0
    pull_N: Annotated[float | None, Field(ge=0.1, le=10_000)] = None


class BoltedCentre(Document):
    """A centre doubled with sheet on both faces and held by bolts: doubler, its plies, bolts and their spacing along
    the part, the plate or washer under each."""

    kind: Literal["bolted_centre"] = "bolted_centre"
    doubler: Key = "birchply_0.8"
    plies: Annotated[int, Field(ge=1, le=4)] = 1
    width_mm: Annotated[float, Field(ge=10, le=500)] = 60.0
    bolt: Key = "nylon_bolt_5"
    bolts: Annotated[int, Field(ge=1, le=8)] = 2
    apart_mm: Annotated[float, Field(ge=5, le=500)] = 60.0
    washer_mm: Annotated[float, Field(ge=4, le=80)] = 15.0


class LockJoint(Document):
    """A long body in two lengths: a tongue in a pocket, so long on each side and so wide across the load; a tie, screw
    or tape keeps it from sliding out."""

    kind: Literal["lock_joint"] = "lock_joint"
    sheet: Annotated[Key, Field(description="Sheet of the pocket walls")] = "foamboard_light_5"
    tongue_mm: Annotated[float, Field(ge=5, le=500)] = 60.0
    width_mm: Annotated[float, Field(ge=2, le=300)] = 40.0
    fastener: Key = "tie_2.5"


class Bracket(Document):
    """Something from stock on a glued foot, and the knock it should stand, in g."""

    kind: Literal["bracket"] = "bracket"
    fitting: Key = "camera_small"
    foot_long_mm: Annotated[float, Field(ge=3, le=300)] = 30.0
    foot_wide_mm: Annotated[float, Field(ge=3, le=300)] = 20.0
    arm_mm: Annotated[float, Field(ge=0, le=300, description="Height of the item’s centre above the foot")] = 15.0
    knock_g: Annotated[float, Field(ge=1, le=500)] = 30.0


Detail = Annotated[HalfSlot | FlutedEdge | BoltedCentre | LockJoint | Bracket, Field(discriminator="kind")]


class DetailWish(Document):
    """A detail and its place along the part."""

    at_mm: Along = 0.0
    detail: Detail


class Mode(Result):
    """One way in which a detail gives, and its capacity."""

    name: str
    capacity: Band


class DetailResult(Result):
    """What a detail bears against what is asked of it: every way it gives, the least first, in `unit`; what the part's
    worst case asks there (None where nothing does); whether that is enough; what helps most; the working."""

    title: str
    unit: str
    modes: list[Mode]
    asked: float | None
    asked_says: str
    holds: Band | None
    enough: Grade | Literal["unknown"]
    helps: list[str]
    formula: str
    source: str
    symbols: list[Symbol]
