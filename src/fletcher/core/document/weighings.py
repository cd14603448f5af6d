"""What lay on a scale, at which stage of the build, and what the scale read."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from fletcher.core.document.cases import PRINTABLE, Document, Id

Stage = Literal["bare", "glued", "skinned", "painted", "finished"]
STAGES: tuple[Stage, ...] = ("bare", "glued", "skinned", "painted", "finished")
"""In the order of the work."""
LineKey = Annotated[str, Field(min_length=1, max_length=120, pattern=r"^[A-Za-z0-9_/-]+$")]
"""A line of the mass ledger, as the balance of the airframe names it."""
Grams = Annotated[float, Field(ge=0, le=50_000)]
Step = Annotated[float, Field(ge=0.001, le=100, description="Smallest step that the scale shows")]
AlongDatum = Annotated[float, Field(ge=-6000, le=11_000, description="Where a support touches, behind the datum")]
Height = Annotated[float, Field(ge=-2000, le=2000, description="How high a support touches, above the datum line")]


class OnScale(Document):
    """One reading, the tare taken off."""

    kind: Literal["scale"] = "scale"
    grams: Annotated[float, Field(gt=0, le=50_000)]


class OnSupports(Document):
    """Two readings under two supports, each with its cradle: mass and centre of gravity in one."""

    kind: Literal["supports"] = "supports"
    first_g: Grams
    second_g: Grams
    first_cradle_g: Grams = 0.0
    second_cradle_g: Grams = 0.0
    first_mm: AlongDatum
    second_mm: AlongDatum
    nose_up_deg: Annotated[float, Field(ge=-30, le=30)] = 0.0
    first_z_mm: Height = 0.0
    second_z_mm: Height = 0.0


class Weighing(Document):
    """A weighing: the lines of the ledger that lay on the scale, and no others."""

    id: Id
    on: Annotated[
        str | None, Field(pattern=r"^(19[7-9]\d|20\d\d)-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$", description="Day")
    ] = None
    stage: Stage = "finished"
    lines: Annotated[tuple[LineKey, ...], Field(min_length=1, max_length=400)]
    reading: Annotated[OnScale | OnSupports, Field(discriminator="kind")]
    step_g: Step = 1.0
    taken_off: Annotated[
        Literal["", "scraped", "sanded", "peeled"],
        Field(description="Whether something was taken off since the weighing before: then that one counts no more"),
    ] = ""
    trusted: Annotated[
        bool, Field(description="The reading was checked: it teaches even where it lies far from what was expected")
    ] = False
    note: Annotated[str, Field(max_length=400, pattern=PRINTABLE)] = ""
