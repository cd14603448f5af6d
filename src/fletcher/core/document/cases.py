"""Load cases of the airframe document: what happens to a part, in the air, on the ground and on the bench."""

from __future__ import annotations

from functools import cache
from typing import Annotated, Any, Literal, Self

from annotated_types import MaxLen
from pydantic import (
    BaseModel,
    ConfigDict,
    Field,
    ModelWrapValidatorHandler,
    PlainSerializer,
    ValidationError,
    model_validator,
)
from pydantic_core import InitErrorDetails

from fletcher.core.materials.own_rows import plain


class Document(BaseModel):
    """Base of all document models: unknown fields and non-finite numbers are errors, instances are frozen. Lists that
    are too long are refused before anything in them is looked at."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False, frozen=True)

    @model_validator(mode="wrap")
    @classmethod
    def _short(cls, data: Any, handler: ModelWrapValidatorHandler[Self]) -> Self:
        if isinstance(data, dict) and (limits := _limits(cls)):
            long = [
                InitErrorDetails(
                    type="too_long", loc=(name,), input=data[name],
                    ctx={"field_type": "List", "max_length": most, "actual_length": len(data[name])},
                )
                for name, most in limits.items() if isinstance(data.get(name), list | tuple) and len(data[name]) > most
            ]  # fmt: skip
            if long:
                raise ValidationError.from_exception_data(cls.__name__, long)
        return handler(data)


@cache
def _limits(model: type[BaseModel]) -> dict[str, int]:
    """The longest that lists of a model may be, by field."""
    found = {}
    for name, field in model.model_fields.items():
        for rule in field.metadata:
            if isinstance(rule, MaxLen):
                found[name] = rule.max_length
    return found


Id = Annotated[str, Field(min_length=1, max_length=40, pattern=r"^[A-Za-z0-9_-]+$")]
PRINTABLE = r"^[^\x00-\x08\x0b\x0c\x0e-\x1f\x7f\u202a-\u202e\u2066-\u2069]*$"
"""No control characters, and none that turn the direction of what follows."""
Name = Annotated[str, Field(min_length=1, max_length=80, pattern=PRINTABLE)]
Along = Annotated[float, Field(ge=0, le=5000, description="Position from root, mm")]
Key = Annotated[str, Field(min_length=1, max_length=60), PlainSerializer(plain, return_type=str)]
"""The key of a material. In a file an own material stands by its id alone."""
Percent = Annotated[float, Field(ge=0, le=100)]
Speed = Annotated[float, Field(ge=1, le=120)]
Lift = Literal["schrenk", "elliptic"]
Saddle = Annotated[float, Field(ge=0, le=500, description="Half the width of the wing seat on the fuselage")]


class Between(Document):
    """A target range; null means no limit at that end."""

    low: Annotated[float | None, Field(ge=-1e6, le=1e6)] = None
    high: Annotated[float | None, Field(ge=-1e6, le=1e6)] = None


class CaseBase(Document):
    """What every load case has; the bend and twist wanted under it are ranges, since some wings are meant to flex."""

    id: Id
    name: Name
    counts: Annotated[
        bool, Field(description="Counts towards the verdict of the part; off: computed and shown, but not judged by")
    ] = True
    safety_factor: Annotated[float, Field(ge=1, le=5)] = 1.5
    bend_mm: Between | None = None
    twist_deg: Annotated[Between | None, Field(description="Magnitude, either direction")] = None


class PullUpCase(CaseBase):
    """A pull-up in the air, limited by the lift that the wing can give at that speed."""

    type: Literal["pull_up"] = "pull_up"
    speed_m_s: Speed = 16.0
    cl_max: Annotated[float, Field(ge=0.1, le=3)] = 1.0
    lift: Lift = "schrenk"
    saddle_mm: Saddle = 25.0


class TurnCase(CaseBase):
    """A steady turn at a bank angle."""

    type: Literal["turn"] = "turn"
    speed_m_s: Speed = 14.0
    bank_deg: Annotated[float, Field(ge=0, le=80)] = 60.0
    lift: Lift = "schrenk"
    saddle_mm: Saddle = 25.0


class GustCase(CaseBase):
    """An upright or a down gust met in level flight."""

    type: Literal["gust"] = "gust"
    speed_m_s: Speed = 16.0
    gust_m_s: Annotated[float, Field(ge=0.5, le=20)] = 5.0
    way: Literal["up", "down"] = "up"
    lift: Lift = "schrenk"
    saddle_mm: Saddle = 25.0


class TowCase(CaseBase):
    """A tow or winch launch: the line pulls the fuselage down against the lift."""

    type: Literal["tow"] = "tow"
    speed_m_s: Speed = 16.0
    pull_N: Annotated[float, Field(ge=0.1, le=2000)] = 30.0
    lift: Lift = "schrenk"
    saddle_mm: Saddle = 25.0


class LandingCase(CaseBase):
    """A belly landing: the fuselage stops, the wings carry on down."""

    type: Literal["landing"] = "landing"
    safety_factor: Annotated[float, Field(ge=1, le=5)] = 1.0
    sink_m_s: Annotated[float, Field(ge=0.1, le=20)] = 1.5
    stop_mm: Annotated[float, Field(ge=1, le=500)] = 15.0
    end_mass_g: Annotated[float, Field(ge=0, le=20_000, description="Mass at the far end: motor, battery, tail")] = 0.0


class SuddenStopCase(CaseBase):
    """The nose stops suddenly; everything outboard carries on forward and bends the part fore and aft."""

    type: Literal["sudden_stop"] = "sudden_stop"
    safety_factor: Annotated[float, Field(ge=1, le=5)] = 1.0
    speed_m_s: Speed = 12.0
    stop_mm: Annotated[float, Field(ge=1, le=2000)] = 60.0


class HandLaunchCase(CaseBase):
    """A hand launch by the fuselage: the wings lag behind."""

    type: Literal["hand_launch"] = "hand_launch"
    speed_m_s: Speed = 9.0
    stroke_mm: Annotated[float, Field(ge=50, le=3000)] = 900.0


class TipStrikeCase(CaseBase):
    """The leading edge hits a pole or the ground, and crushes as it is stopped."""

    type: Literal["tip_strike"] = "tip_strike"
    safety_factor: Annotated[float, Field(ge=1, le=5)] = 1.0
    speed_m_s: Speed = 10.0
    at_mm: Annotated[Along | None, Field(description="Impact position; null means 20 mm inboard of the tip")] = None
    contact_mm: Annotated[float, Field(ge=1, le=500, description="Contact length along the leading edge")] = 40.0


class HandlingCase(CaseBase):
    """A hand lifts or presses the part at one place while its root is held."""

    type: Literal["handling"] = "handling"
    force_N: Annotated[float, Field(ge=0.1, le=1000)] = 10.0
    at_mm: Annotated[Along | None, Field(description="Position of the hand; null means the tip")] = None
    way: Literal["up", "down"] = "up"


class ThreePointCase(CaseBase):
    """Bench test: the part on two supports, a weight hung from the middle between them."""

    type: Literal["three_point"] = "three_point"
    safety_factor: Annotated[float, Field(ge=1, le=5)] = 1.0
    first_support_mm: Along = 0.0
    second_support_mm: Along = 480.0
    weight_g: Annotated[float, Field(ge=1, le=200_000)] = 1000.0


class TipWeightCase(CaseBase):
    """Bench test: the root clamped, a weight hung from one place."""

    type: Literal["tip_weight"] = "tip_weight"
    safety_factor: Annotated[float, Field(ge=1, le=5)] = 1.0
    weight_g: Annotated[float, Field(ge=1, le=200_000)] = 200.0
    at_mm: Annotated[Along | None, Field(description="Position of the hung mass; null means the tip")] = None


class TipTwistCase(CaseBase):
    """Bench test: root clamped, nose-up torque at the tip."""

    type: Literal["tip_twist"] = "tip_twist"
    safety_factor: Annotated[float, Field(ge=1, le=5)] = 1.0
    couple_N_mm: Annotated[float, Field(ge=1, le=1e6)] = 200.0


class StrapCase(CaseBase):
    """Straps or rubber bands pulled over the edges of the part."""

    type: Literal["strap"] = "strap"
    pull_N: Annotated[float, Field(ge=0.1, le=2000)] = 40.0
    width_mm: Annotated[float, Field(ge=0.5, le=300, description="Total width of all straps")] = 12.0
    hard_strip_mm: Annotated[
        float, Field(ge=0, le=500, description="Length of a hard strip recessed into the edge")
    ] = 0.0
    at_mm: Annotated[Along | None, Field(description="Position of the straps; null means the root")] = None


class TailLiftCase(CaseBase):
    """A tail that carries lift, up or down."""

    type: Literal["tail_lift"] = "tail_lift"
    speed_m_s: Speed = 16.0
    cl: Annotated[float, Field(ge=0.05, le=2)] = 0.7
    way: Literal["up", "down"] = "down"
    lift: Lift = "schrenk"


class ControlRun(Document):
    """The control linkage from servo to horn: a rod or wire, free between guides or in a tube."""

    rod: Key
    length_mm: Annotated[float, Field(ge=10, le=4000)] = 300.0
    support_mm: Annotated[float, Field(ge=5, le=4000, description="Spacing of supports or guides")] = 120.0
    horn_arm_mm: Annotated[float, Field(ge=3, le=80)] = 12.0
    servo_arm_mm: Annotated[float, Field(ge=3, le=80)] = 10.0
    in_tube: Annotated[bool, Field(description="Runs in a tube held at the supports")] = False
    bend_deg: Annotated[float, Field(ge=0, le=720, description="Total bend angle")] = 0.0
    bend_radius_mm: Annotated[float, Field(ge=5, le=2000, description="Tightest bend radius")] = 150.0
    servo: Annotated[Key | None, Field(description="Servo from stock; null if not chosen")] = None


class DeflectedCase(CaseBase):
    """A control surface held deflected in flight by its horn."""

    type: Literal["deflected"] = "deflected"
    speed_m_s: Speed = 16.0
    deflection_deg: Annotated[float, Field(ge=1, le=45)] = 20.0
    chord_percent: Annotated[float, Field(ge=5, le=100, description="Surface chord in % of the total chord")] = 25.0
    balance_percent: Annotated[
        float, Field(ge=0, le=40, description="Of its own chord that lies ahead of the hinge: aerodynamic balance")
    ] = 0.0
    horn_mm: Annotated[Along | None, Field(description="Horn position; null means mid-span of the surface")] = None
    hinges: Annotated[int, Field(ge=2, le=20)] = 3
    run: Annotated[ControlRun | None, Field(description="Control linkage; null means a rigid one")] = None


class TailLoadCase(CaseBase):
    """Tail load bends the fuselage: up, down, or sideways from the fin, which also twists it."""

    type: Literal["tail_load"] = "tail_load"
    speed_m_s: Speed = 16.0
    area_cm2: Annotated[float, Field(ge=1, le=20_000, description="Area of the loaded tail surface")] = 250.0
    cl: Annotated[float, Field(ge=0.05, le=2)] = 0.8
    way: Literal["down", "up", "side"] = "down"
    height_mm: Annotated[
        float, Field(ge=0, le=2000, description="Height of the side force above the fuselage axis")
    ] = 60.0
    at_mm: Annotated[Along | None, Field(description="Position of the tail; null means the end")] = None


class MotorTorqueCase(CaseBase):
    """The motor's torque twists what carries it."""

    type: Literal["motor_torque"] = "motor_torque"
    torque_N_mm: Annotated[float, Field(ge=0.1, le=50_000)] = 150.0


class NoseStrikeCase(CaseBase):
    """The nose hits something and crushes; equipment inside sees the deceleration."""

    type: Literal["nose_strike"] = "nose_strike"
    safety_factor: Annotated[float, Field(ge=1, le=5)] = 1.0
    speed_m_s: Speed = 12.0
    free_mm: Annotated[float, Field(ge=1, le=1000, description="Length that can crush before equipment is hit")] = 50.0
    mount_g: Annotated[
        float, Field(ge=5, le=2000, description="Deceleration that battery and motor mounts survive, × gravity")
    ] = 120.0


FlightCase = PullUpCase | TurnCase | GustCase | TowCase
Case = Annotated[
    PullUpCase
    | TurnCase
    | GustCase
    | TowCase
    | LandingCase
    | SuddenStopCase
    | HandLaunchCase
    | TipStrikeCase
    | HandlingCase
    | ThreePointCase
    | TipWeightCase
    | TipTwistCase
    | StrapCase
    | TailLiftCase
    | DeflectedCase
    | TailLoadCase
    | MotorTorqueCase
    | NoseStrikeCase,
    Field(discriminator="type"),
]
