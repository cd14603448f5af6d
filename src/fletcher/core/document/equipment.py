"""What an airframe carries besides its structure, each thing at its place, and where it shall balance."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from fletcher.core.document.cases import PRINTABLE, Document, Id, Key

What = Literal[
    "battery", "motor", "propeller", "controller", "servo", "receiver", "camera", "wheel", "lead", "ballast", "other"
]
Manner = Literal["trainer", "sport", "glider", "fast", "aerobatic", "swept_wing", "plank_wing", "canard", "tandem"]
"""How it shall fly; each has its usual static margins."""
Far = Annotated[float, Field(ge=-6000, le=11_000)]
Percent = Annotated[float, Field(ge=-20, le=50)]


class Equipment(Document):
    """Something that is carried: from the table by its key, or with a mass of its own. Its place is that of its centre,
    behind the datum, to the right, up. Where it may be moved along the airframe its room says; null: it stays."""

    id: Id
    what: What = "other"
    name: Annotated[str, Field(max_length=80, pattern=PRINTABLE)] = ""
    stock: Annotated[Key | None, Field(description="Key of a stock item; null: the mass is typed")] = None
    mass_g: Annotated[float | None, Field(gt=0, le=50_000, description="Measured mass; null takes the table's")] = None
    x_mm: Far = 0.0
    y_mm: Far = 0.0
    z_mm: Far = 0.0
    pair: Annotated[bool, Field(description="A second one lies on the other side")] = False
    from_mm: Annotated[Far | None, Field(description="Foremost place that it may have")] = None
    to_mm: Annotated[Far | None, Field(description="Rearmost place that it may have")] = None


class Aim(Document):
    """Where it shall balance: a manner of flying with its usual static margins, or margins of one's own."""

    manner: Manner = "sport"
    least_percent: Annotated[Percent | None, Field(description="Least static margin; null: usual for the manner")] = (
        None
    )
    most_percent: Annotated[Percent | None, Field(description="Largest static margin; null: usual")] = None
