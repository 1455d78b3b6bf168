"""The brief: what will be filmed and what it is for. It says nothing about settings, but for pins."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Field, ValidationError, field_validator

from steady_tide.core.brief.scenario_traits import OF_SCENARIO
from steady_tide.core.brief.traits import Traits
from steady_tide.core.gear.view_names import todays_pins
from steady_tide.core.light.sources import LightSource
from steady_tide.core.quantities.errors import BadBrief, Fault
from steady_tide.core.quantities.frozen import Frozen, faults_of

MotionLook = Literal["natural", "frozen", "streaked"]
Id = Annotated[str, Field(min_length=1, max_length=80)]


class Subject(Frozen):
    """The thing in front of the lens."""

    distance_m: Annotated[
        tuple[Annotated[float, Field(gt=0, le=100_000)], Annotated[float, Field(gt=0, le=100_000)]], Field()
    ] = (2.0, 10.0)
    speed_m_s: Annotated[float, Field(ge=0, le=400)] = 0.0
    size_m: Annotated[float, Field(gt=0, le=10_000)] | None = None
    fills: (
        Annotated[
            float,
            Field(gt=0, le=2, description="share of the frame's width that its size should take; left out: as usual"),
        ]
        | None
    ) = None
    event_s: Annotated[float, Field(gt=0, le=86_400)] | None = None
    motion_look: MotionLook = "natural"
    ground: Annotated[Literal["usual", "black"], Field(description="what stands behind a thing on a table")] = "usual"
    surface: Annotated[Literal["matt", "shiny"], Field(description="whether it mirrors its lamps")] = "matt"

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
    hands: Annotated[
        str | None,
        Field(min_length=1, max_length=80, description="who films: whose own numbers count, such as a hand's shake"),
    ] = None
    self_framed: Annotated[bool, Field(description="one films oneself, and has nobody to look at the frame")] = False


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


LONG_TAKE_S = 1200.0  # nobody repeats a take of twenty minutes as a matter of course


class Take(Frozen):
    """How long the camera runs."""

    length_s: Annotated[float, Field(gt=0, le=172_800)] = 30.0
    count: Annotated[int, Field(ge=1, le=1000, description="left out: three short ones, or one long one")] | None = None
    standby_min: Annotated[float, Field(ge=0, le=2880)] = 10.0
    screen_s: (
        Annotated[float, Field(gt=0, le=36_000, description="of an interval film: how long on the screen")] | None
    ) = None


class Sound(Frozen):
    """Whether the sound is used, of what, and the wind it meets."""

    wanted: bool = True
    voice: Annotated[bool, Field(description="somebody speaks, and every word must be understood")] = False
    wind_m_s: Annotated[float, Field(ge=0, le=60)] = 2.0


class School(Frozen):
    """Ways of working on which experienced people disagree. What is left out follows the crew's way."""

    shutter: Literal["half_turn", "free"] | None = None
    noise: Literal["quiet", "balanced", "bright", "get_it"] | None = None
    colour: Literal["graded", "straight"] | None = None
    white_balance: Literal["locked", "auto"] | None = None
    dark_stabilisation: Literal["keep", "drop"] | None = None
    dark_profile: Literal["contrasty", "flat"] | None = None
    view: Literal["widest", "natural", "any"] | None = None
    resolution: Literal["enough", "most"] | None = None
    glass_gain: Annotated[
        Literal["locked", "follows"] | None,
        Field(description="left open everywhere: locked for a band of a stop, follows for a wider one"),
    ] = None
    dark_view: Literal["as_framed", "whole_sensor"] | None = None

    def over(self, crew: School) -> School:
        """This school where it says something, else the crew's. crew: a school. Returns another."""
        said = {axis: value for axis, value in self.model_dump().items() if value is not None}
        return crew.model_copy(update=said)


# How a crew works that says nothing of it. The colour is then the delivery's.
USUAL_SCHOOL = School(
    shutter="half_turn",
    noise="balanced",
    white_balance="locked",
    dark_stabilisation="keep",
    dark_profile="contrasty",
    view="natural",
    resolution="enough",
    dark_view="as_framed",
)


class KitList(Frozen):
    """What is taken along, by id. A list that is missing means everything the crew has."""

    cameras: Annotated[tuple[Id, ...], Field(max_length=50)] | None = None
    filters: Annotated[tuple[Id, ...], Field(max_length=50)] | None = None
    attachments: Annotated[tuple[Id, ...], Field(max_length=50)] | None = None
    housings: Annotated[tuple[Id, ...], Field(max_length=50)] | None = None
    microphones: Annotated[tuple[Id, ...], Field(max_length=50)] | None = None
    lamps: Annotated[tuple[Id, ...], Field(max_length=50)] | None = None
    batteries: Annotated[tuple[Id, ...], Field(max_length=50)] | None = None
    media: Annotated[tuple[Id, ...], Field(max_length=50)] | None = None


PLAIN = Traits()
PinValue = bool | int | float | str | tuple[str, ...] | None
Pins = Annotated[dict[Id, PinValue], Field(max_length=40), BeforeValidator(todays_pins)]


class Brief(Frozen):
    """Everything that the planner needs to know of a shot."""

    title: Annotated[str, Field(min_length=1, max_length=200)] = "Untitled shot"
    scenario: Annotated[Id, Field(description="kind of shot; the library lists them")] = "everyday"
    light: LightSource
    contrast_stops: Annotated[
        float | None,
        Field(
            ge=0, le=25, description="range within one frame, darkest to brightest; left out: as usual in such light"
        ),
    ] = None
    light_changes: Annotated[
        Literal["steady", "gradual", "sudden"] | None,
        Field(description="how the light moves within its band during a take; left out: as usual in such light"),
    ] = None
    glare: Annotated[bool, Field(description="water, wet leaves or glass mirror the sky")] = False
    wet: Annotated[bool, Field(description="spray, surf or rain reach the camera")] = False
    subject: Subject = Subject()
    camera_move: CameraMove = CameraMove()
    delivery: Delivery = Delivery()
    take: Take = Take()
    sound: Sound = Sound()
    air_c: Annotated[float, Field(ge=-60, le=60)] = 15.0
    mains_hz: Literal[50, 60] = 50
    school: School = School()
    kit: KitList = KitList()
    pins: Pins = Field(default_factory=dict)

    @field_validator("mains_hz", mode="before")
    @classmethod
    def _whole_mains(cls, value: Any) -> Any:
        return int(value) if isinstance(value, float) and value.is_integer() else value

    def in_school(self, crew: School) -> Brief:
        """The same brief with nothing left open in its school. crew: the crew's way. Returns another."""
        return self.model_copy(update={"school": self.school.over(crew.over(USUAL_SCHOOL))})

    @property
    def graded(self) -> bool:
        """Whether the picture is graded: the school decides, else the delivery."""
        return self.delivery.graded if self.school.colour is None else self.school.colour == "graded"

    @property
    def traits(self) -> Traits:
        """What its kind of shot is like; a kind that is not known has none."""
        return OF_SCENARIO.get(self.scenario, PLAIN)

    @property
    def running_s(self) -> float:
        """How long the camera records in all, seconds."""
        usual = 1 if self.traits.interval or self.take.length_s >= LONG_TAKE_S else 3
        return self.take.length_s * (self.take.count or usual)

    @property
    def lasts_s(self) -> float:
        """From the first take to the last, waiting included, seconds."""
        return self.running_s + 60.0 * self.take.standby_min

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
