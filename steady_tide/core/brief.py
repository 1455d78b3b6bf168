"""The brief: what will be filmed and what it is for. It says nothing about settings, but for pins."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError, field_validator

from steady_tide.core.errors import BadBrief, Fault
from steady_tide.core.frozen import Frozen, faults_of
from steady_tide.core.light.sources import LightSource

Scenario = Literal["everyday", "underwater", "low_light", "motion", "product", "lapse"]
MotionLook = Literal["natural", "frozen", "streaked"]
Id = Annotated[str, Field(min_length=1, max_length=80)]


class Subject(Frozen):
    """The thing in front of the lens."""

    distance_m: Annotated[
        tuple[Annotated[float, Field(gt=0, le=100_000)], Annotated[float, Field(gt=0, le=100_000)]], Field()
    ] = (2.0, 10.0)
    speed_m_s: Annotated[float, Field(ge=0, le=400)] = 0.0
    size_m: Annotated[float, Field(gt=0, le=10_000)] | None = None
    event_s: Annotated[float, Field(gt=0, le=86_400)] | None = None
    motion_look: MotionLook = "natural"

    @field_validator("distance_m")
    @classmethod
    def _near_before_far(cls, value: tuple[float, float]) -> tuple[float, float]:
        near, far = value
        if near > far:
            raise ValueError(f"near ({near:g} m) is farther than far ({far:g} m); give the nearer distance first")
        return value


class CameraMove(Frozen):
    """How the camera is held and moved."""

    mount: Id = "two_hands"
    travel_m_s: Annotated[float, Field(ge=0, le=100)] = 0.0
    turn_deg_s: Annotated[float, Field(ge=0, le=1000)] = 0.0


Pixels = Annotated[int, Field(ge=16, le=16_384)]
Shape = Annotated[str, Field(pattern=r"^[1-9]\d?:[1-9]\d?$")]


class Delivery(Frozen):
    """The timeline that the shot is for."""

    width: Pixels = 3840
    height: Pixels = 2160
    fps: Annotated[float, Field(ge=1, le=240)] = 25.0
    slow_factor: Annotated[float, Field(ge=1, le=100)] = 1.0
    reframe: Annotated[tuple[Shape, ...], Field(max_length=6)] = ()
    graded: bool = False
    edit_device: Literal["desktop", "phone"] = "desktop"
    stabilise_later: bool = False


class Take(Frozen):
    """How long the camera runs."""

    length_s: Annotated[float, Field(gt=0, le=172_800)] = 30.0
    count: Annotated[int, Field(ge=1, le=1000)] = 3
    standby_min: Annotated[float, Field(ge=0, le=2880)] = 10.0


class Sound(Frozen):
    """Whether the sound is used, and the wind it meets."""

    wanted: bool = True
    wind_m_s: Annotated[float, Field(ge=0, le=60)] = 2.0


class School(Frozen):
    """Ways of working on which experienced people disagree."""

    shutter: Literal["half_turn", "free"] = "half_turn"
    noise: Literal["quiet", "balanced", "bright", "get_it"] = "balanced"
    colour: Literal["graded", "straight"] | None = None
    white_balance: Literal["locked", "auto"] = "locked"
    dark_stabilisation: Literal["keep", "drop"] = "keep"
    dark_profile: Literal["contrasty", "flat"] = "contrasty"
    view: Literal["widest", "natural", "any"] = "natural"
    resolution: Literal["enough", "most"] = "enough"


class KitList(Frozen):
    """What is taken along, by id. A list that is missing means everything the crew has."""

    cameras: Annotated[tuple[Id, ...], Field(max_length=50)] | None = None
    filters: Annotated[tuple[Id, ...], Field(max_length=50)] | None = None
    housings: Annotated[tuple[Id, ...], Field(max_length=50)] | None = None
    lamps: Annotated[tuple[Id, ...], Field(max_length=50)] | None = None
    batteries: Annotated[tuple[Id, ...], Field(max_length=50)] | None = None


PinValue = bool | int | float | str | tuple[str, ...] | None


class Brief(Frozen):
    """Everything that the planner needs to know of a shot."""

    title: Annotated[str, Field(min_length=1, max_length=200)] = "Untitled shot"
    scenario: Scenario = "everyday"
    light: LightSource
    subject: Subject = Subject()
    camera_move: CameraMove = CameraMove()
    delivery: Delivery = Delivery()
    take: Take = Take()
    sound: Sound = Sound()
    air_c: Annotated[float, Field(ge=-60, le=60)] = 15.0
    mains_hz: Literal[50, 60] = 50
    school: School = School()
    kit: KitList = KitList()
    pins: dict[Id, PinValue] = Field(default_factory=dict, max_length=40)

    @field_validator("mains_hz", mode="before")
    @classmethod
    def _whole_mains(cls, value: Any) -> Any:
        return int(value) if isinstance(value, float) and value.is_integer() else value

    @property
    def graded(self) -> bool:
        """Whether the picture is graded: the school decides, else the delivery."""
        return self.delivery.graded if self.school.colour is None else self.school.colour == "graded"

    @property
    def shown_fps(self) -> float:
        """Captured frames that one second of the event needs: timeline rate times slow factor."""
        return self.delivery.fps * self.delivery.slow_factor


def read_brief(data: Any) -> Brief:
    """Read a brief from decoded JSON.

    data: a mapping as in the published format. Returns the brief.
    Raises BadBrief with the path of every fault.
    """
    if not isinstance(data, dict):
        raise BadBrief(Fault("", "a brief is a JSON object", 'Begin with {"light": ...}.'))
    try:
        return Brief.model_validate(data)
    except ValidationError as error:
        raise BadBrief(*faults_of(error)) from None
