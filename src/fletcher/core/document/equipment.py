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
Version = Annotated[str, Field(min_length=1, max_length=40, pattern=PRINTABLE)]
Percent = Annotated[float, Field(ge=-20, le=50)]


class Lead(Document):
    """A lead from one item to another: stranded wires, all alike, with plugs. It lies half way between the two."""

    wires: Annotated[int, Field(ge=1, le=12)] = 3
    gauge: Annotated[float, Field(ge=0, le=40, description="Wire gauge number; larger is thinner")] = 26.0
    area_mm2: Annotated[float | None, Field(gt=0, le=25, description="Copper of one wire; null: by its gauge")] = None
    length_mm: Annotated[float, Field(gt=0, le=10_000)] = 300.0
    insulation_mm: Annotated[float, Field(ge=0, le=3)] = 0.45
    plugs: Annotated[int, Field(ge=0, le=6, description="Pairs of plugs")] = 1
    from_id: Annotated[Id | None, Field(description="The item where it begins")] = None
    to_id: Annotated[Id | None, Field(description="The item where it ends")] = None


class Equipment(Document):
    """Something that is carried: from the table by its key, or with a mass of its own. Its place is that of its centre,
    behind the datum, to the right, up. Where it may be moved along the airframe its room says; null: it stays."""

    id: Id
    what: What = "other"
    name: Annotated[str, Field(max_length=80, pattern=PRINTABLE)] = ""
    stock: Annotated[Key | None, Field(description="Key of a stock item; null: the mass is typed")] = None
    mass_g: Annotated[float | None, Field(gt=0, le=50_000, description="Measured mass; null takes the table's")] = None
    lead: Annotated[Lead | None, Field(description="For a lead: its wires, which give its mass and place")] = None
    thrust_N: Annotated[float | None, Field(ge=0, le=1000, description="For a motor: its full thrust")] = None
    down_deg: Annotated[float, Field(ge=-15, le=15, description="For a motor: its shaft points down ahead")] = 0.0
    right_deg: Annotated[float, Field(ge=-15, le=15, description="For a motor: its shaft points right ahead")] = 0.0
    x_mm: Far = 0.0
    y_mm: Far = 0.0
    z_mm: Far = 0.0
    versions: Annotated[
        tuple[Version, ...], Field(max_length=6, description="Versions of the airframe that have it; none: all")
    ] = ()
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
    version: Annotated[Version | None, Field(description="Version that is looked at; null: the first")] = None
    mass_g: Annotated[float | None, Field(gt=0, le=50_000, description="Flying mass at most")] = None
    loading_g_dm2: Annotated[float | None, Field(gt=0, le=1000, description="Wing loading at most")] = None
    stall_m_s: Annotated[float | None, Field(gt=0, le=100, description="Stall speed at most")] = None
    watts: Annotated[float | None, Field(gt=0, le=50_000, description="Power into the motors")] = None
    watts_per_kg: Annotated[float | None, Field(gt=0, le=5000, description="Power per mass at least")] = None
