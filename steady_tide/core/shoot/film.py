"""A film of a shoot: its beats, and the framings that make them cut. Framings are shots; what is told here stands beside their briefs."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, field_validator

from steady_tide.core.brief.brief import Brief, Shape
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.shoot.movements import MOVEMENTS, MoveKind, MovementTraits

Key = Annotated[str, Field(min_length=1, max_length=60, pattern=r"^[^\x00]*$")]
Line = Annotated[str, Field(max_length=200, pattern=r"^[^\x00]*$")]
Name = Annotated[str, Field(min_length=1, max_length=80, pattern=r"^[^\x00]*$")]
Heading = Annotated[float, Field(ge=0, lt=360, description="from north by east, degrees")]

FramingKind = Literal[
    "establishing",
    "medium",
    "detail",
    "cutaway",
    "way_in",
    "way_out",
    "over_shoulder",
    "point_of_view",
    "reflection",
    "frame_within",
]
Runs = Literal["left_to_right", "right_to_left", "towards", "away"]
LightWish = Literal["front", "side", "back", "against", "shade"]
JoinBy = Literal["shape", "colour", "motion", "luminance"]


class Beat(Frozen):
    """A part of the story. removed: struck, but kept while takes hang on it."""

    id: Key
    title: Name
    shows: Line = ""
    subjects: Annotated[tuple[Name, ...], Field(max_length=6)] = ()
    line_deg: Annotated[Heading | None, Field(description="which way the action runs")] = None
    removed: bool = False


class Film(Frozen):
    """What is made of a shoot."""

    title: Annotated[str, Field(min_length=1, max_length=200, pattern=r"^[^\x00]*$")]
    purpose: Line = ""
    length_s: Annotated[float, Field(gt=0, le=7200, description="on the screen")] = 20.0
    shapes: Annotated[tuple[Shape, ...], Field(min_length=1, max_length=6, description="the first is the main one")] = (
        "16:9",
    )
    fps: Annotated[float, Field(ge=1, le=240)] = 25.0
    music_bpm: Annotated[float, Field(ge=20, le=400, description="beats a minute; left out: no music")] | None = None
    cut_beats: Annotated[int, Field(ge=1, le=64, description="beats of the music from one cut to the next")] = 2
    cut_s: Annotated[float, Field(ge=0.1, le=600, description="from one cut to the next, without music")] = 2.5
    tries: Annotated[int, Field(ge=1, le=100, description="takes of each framing")] = 3
    hold_s: Annotated[float, Field(ge=0, le=600, description="how long a framing is held at least")] = 10.0
    handle_s: Annotated[float, Field(ge=0, le=60, description="before and after what is used")] = 1.0
    slow_factor: Annotated[float, Field(ge=1, le=100)] = 1.0
    graded: bool = True
    beats: Annotated[tuple[Beat, ...], Field(max_length=sizes.BEATS)] = ()

    @field_validator("beats")
    @classmethod
    def _told_apart(cls, value: tuple[Beat, ...]) -> tuple[Beat, ...]:
        ids = [beat.id for beat in value]
        twice = next((one for one in ids if ids.count(one) > 1), None)
        if twice is not None:
            raise ValueError(f"two beats have the id '{twice}'; give each one of its own")
        return value

    def beat(self, key: str) -> Beat | None:
        """The beat of an id, or None."""
        return next((beat for beat in self.beats if beat.id == key), None)


class Movement(Frozen):
    """How the camera moves through a framing. path_m: how far; angle_deg: by how much it turns, or goes round; nearest_m: the nearest
    thing that passes."""

    kind: MoveKind
    path_m: Annotated[float, Field(gt=0, le=10_000)] | None = None
    angle_deg: Annotated[float, Field(gt=0, le=720)] | None = None
    nearest_m: Annotated[float, Field(gt=0, le=10_000)] | None = None

    @property
    def traits(self) -> MovementTraits:
        """What a movement of its kind is."""
        return MOVEMENTS[self.kind]


class Join(Frozen):
    """Two shots of the same tag can be cut into each other."""

    tag: Name
    by: JoinBy


class Framing(Frozen):
    """What a shot is in a film. Distance, size, mount and lengths stand in its brief.

    units: cuts' lengths that it stands on the screen each time; uses: how often it is cut in; from_deg: from where round the
    subject it is seen, 0 from the front; across: where in the frame the subject stands, -1 at its left edge, 1 at its right.
    """

    film: Key
    beat: Key
    place: Annotated[int, Field(ge=0, le=10_000, description="in the order of its beat")] = 0
    kind: FramingKind = "medium"
    subject: Line = ""
    figure: Literal["person", "thing", "ground"] = "person"
    units: Annotated[int, Field(ge=1, le=200)] = 1
    uses: Annotated[int, Field(ge=1, le=20)] = 1
    from_deg: Annotated[float, Field(ge=-180, le=180)] | None = None
    heading_deg: Heading | None = None
    pitch_deg: Annotated[float, Field(ge=-89, le=89)] | None = None
    camera_m: Annotated[float, Field(gt=0, le=5000, description="height above the ground")] | None = None
    across: Annotated[float, Field(ge=-1, le=1)] = 0.0
    stands_m: (
        Annotated[float, Field(ge=0, le=500, description="how high above the ground; left out: as its kind does")]
        | None
    ) = None
    foreground_m: Annotated[float, Field(gt=0, le=10_000)] | None = None
    movement: Movement | None = None
    runs: Annotated[Runs | None, Field(description="which way the subject goes through the frame")] = None
    light: LightWish | None = None
    timer_s: Annotated[float, Field(ge=0, le=600, description="of who films oneself")] | None = None
    wears: Line = ""
    joins: Annotated[tuple[Join, ...], Field(max_length=10)] = ()
    slow_factor: Annotated[float, Field(ge=1, le=100, description="left out: the film's")] | None = None


class FramedShot(Frozen):
    """A framing with its shot's brief. key: of the shot."""

    key: str
    brief: Brief
    framing: Framing


def in_film_order(film: Film, shots: tuple[FramedShot, ...]) -> tuple[FramedShot, ...]:
    """Framings of a film by beat and place. Those of beats that are not there come last. Returns them."""
    order = {beat.id: number for number, beat in enumerate(film.beats)}
    return tuple(
        sorted(shots, key=lambda shot: (order.get(shot.framing.beat, len(order)), shot.framing.place, shot.key))
    )


def read_framing(data: Any) -> Framing | None:
    """A framing as it is kept. data: plain values, or None. Returns it."""
    return None if data is None else Framing.model_validate(data)
