"""Seeing a plan before it is filmed: what is asked for, and the picture with its numbers."""

from __future__ import annotations

import zlib
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Annotated, Any, Literal

import numpy as np
from cachetools import LRUCache
from numpy.typing import NDArray
from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, model_validator

from steady_tide.core.brief.brief import Brief, PinValue, School
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.kit import Kit
from steady_tide.core.gear.view_names import todays_pins
from steady_tide.core.look.clip_marks import marked
from steady_tide.core.look.exposure_of_plan import Taking, taking_of
from steady_tide.core.look.numbers import LookNumbers, numbers_of
from steady_tide.core.look.rendering import Drawings, Moment, Recorded, Renderer, Window, shown
from steady_tide.core.look.scene import Scene
from steady_tide.core.look.scenes import SCENES, usual_scene
from steady_tide.core.look.stills import still_scene
from steady_tide.core.look.timing import frame_times
from steady_tide.core.planning.situation import Situation
from steady_tide.core.quantities.errors import BadBrief, Fault
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.formats.compressed import TRIES, compressed, picture
from steady_tide.services.digests import digest_of

MOST_PX, LEAST_PX = 1920 * 1080, 16
KEPT_TAKINGS = 64
Id = Annotated[str, Field(min_length=1, max_length=60)]
Share = Annotated[float, Field(ge=0, le=1)]
Centre = Annotated[float, Field(ge=-0.5, le=0.5)]
Side = Annotated[int, Field(ge=LEAST_PX, le=1920)]


SHARES = {"dim": 0.0, "middle": 0.5, "bright": 1.0}


def _read_moment(value: Any) -> Any:
    """A moment of the light in words: dim, middle or bright; anything else as it is."""
    return SHARES.get(value, value) if isinstance(value, str) else value


def _read_loupe(value: Any) -> Any:
    """True stands for the middle, False for no loupe."""
    return {True: (0.0, 0.0), False: None}[value] if isinstance(value, bool) else value


class SeenPlan(BaseModel):
    """What is taken of a plan as the planner answers it: the value of each dial."""

    model_config = ConfigDict(frozen=True)

    chosen: Annotated[dict[str, PinValue], Field(max_length=60)]


class LookAsked(Frozen):
    """What is to be seen: a plan, a scene, a moment, and how large."""

    brief: Brief
    plan: Annotated[SeenPlan | None, Field(description="as the planner answered it; left out: planned anew")] = None
    settings: Annotated[
        dict[str, PinValue], Field(max_length=60, description="values of dials, over the plan's and the brief's pins")
    ] = Field(default_factory=dict)
    scene: Annotated[Id | None, Field(description="left out: the one that is most like the brief")] = None
    at: Annotated[
        Share,
        BeforeValidator(_read_moment),
        Field(description="of the way from the dimmest to the brightest moment of the light; or dim, middle, bright"),
    ] = 0.5
    size: Annotated[
        Side | tuple[Side, Side],
        Field(description="pixels across, the height follows from the delivery; or across and down"),
    ] = 960
    loupe: Annotated[
        tuple[Centre, Centre] | None,
        BeforeValidator(_read_loupe),
        Field(
            description="a part of the frame at delivered pixels: its middle, shares right and down of the frame's; or true"
        ),
    ] = None
    graded: Annotated[bool | None, Field(description="left out: as the brief says")] = None
    marked: Annotated[bool, Field(description="blown and drowned parts carry a pattern")] = False
    seed: Annotated[
        int | None, Field(ge=0, le=2**31 - 1, description="of shake and noise; left out: the shot's own")
    ] = None
    form: Literal["webp", "png"] = "webp"

    @model_validator(mode="after")
    def _not_too_large(self) -> LookAsked:
        delivery = self.brief.delivery
        if self.width * self.height > MOST_PX or self.height < LEAST_PX:
            raise ValueError(
                f"{self.width} by {self.height} pixels cannot be drawn; the delivery is {delivery.width} by {delivery.height}"
            )
        return self

    @property
    def chosen(self) -> dict[str, PinValue]:
        """Values of dials, over the brief's pins."""
        return {**(self.plan.chosen if self.plan is not None else {}), **self.settings}

    @property
    def width(self) -> int:
        """Of the picture, pixels; even, as encoders want it."""
        across = self.size if isinstance(self.size, int) else self.size[0]
        return across // 2 * 2

    @property
    def height(self) -> int:
        """Of the picture, pixels; even."""
        if not isinstance(self.size, int):
            return self.size[1] // 2 * 2
        delivery = self.brief.delivery
        shape = 9.0 / 16.0 if self.loupe is not None else delivery.height / delivery.width
        return max(2, round(self.width * shape / 2.0) * 2)

    @property
    def is_graded(self) -> bool:
        """Whether the picture is graded."""
        return self.brief.graded if self.graded is None else self.graded

    @property
    def own_seed(self) -> int:
        """Seed of shake and noise: two plans of a shot share it."""
        if self.seed is not None:
            return self.seed
        shot = self.brief.model_dump(mode="json", exclude={"pins", "school", "kit"})
        return zlib.crc32(repr(sorted(shot.items())).encode()) & 0x7FFFFFFF


@dataclass(frozen=True)
class OwnStill:
    """A person's own still: PNG, display-referred, and how far what it shows is, metres."""

    id: str
    name: str
    data: bytes
    distance_m: float


@dataclass(frozen=True)
class Looked:
    """A picture as a file, and its numbers."""

    picture: bytes
    numbers: LookNumbers


@dataclass
class Looker:
    """Draws frames, remembering what it took and drew lately."""

    drawings: Drawings = field(default_factory=Drawings)
    takings: LRUCache[str, Taking] = field(default_factory=lambda: LRUCache(KEPT_TAKINGS))

    def taking(self, asked: LookAsked, crew: School, kit: Kit, knowledge: Knowledge, of_kit: str = "") -> Taking:
        """The plan of what is asked. of_kit: stands for kit and knowledge. Raises what the planner raises."""
        pins = todays_pins({**asked.brief.pins, **asked.chosen})
        brief = asked.brief.model_copy(update={"pins": pins})
        key = digest_of([brief.model_dump(mode="json"), crew.model_dump(mode="json"), of_kit])
        if key not in self.takings or not of_kit:
            camera = pins.get("camera")
            only = camera if isinstance(camera, str) and any(c.id == camera for c in kit.cameras) else None
            self.takings[key] = taking_of(brief, kit, knowledge, crew, only)
        return self.takings[key]

    def frame(self, asked: LookAsked, taking: Taking, still: OwnStill | None = None) -> Looked:
        """Draw a frame. asked: what is to be seen; taking: its plan; still: of a scene of one's own, as kept."""
        renderer = Renderer(taking, scene_of(asked, taking.at, still), asked.own_seed, self.drawings)
        window = window_of(asked)
        moment = Moment(asked.at)
        made = renderer.frame(moment, window, asked.is_graded)
        codes, bits, _ = _compressed(taking, made)
        image = shown(made.curve, codes, asked.is_graded)
        numbers = numbers_of(renderer, moment, made, bits)
        return Looked(picture(marked(image, codes, made.curve) if asked.marked else image, asked.form), numbers)

    def film(
        self,
        asked: LookAsked,
        taking: Taking,
        seconds: float,
        start: int,
        stop: int,
        still: OwnStill | None = None,
        compress: bool = True,
    ) -> Iterator[NDArray[np.uint8]]:
        """Frames of the timeline. seconds: of the film; start, stop: which of its frames; compress: whether each goes
        through the file. Yields each."""
        renderer = Renderer(taking, scene_of(asked, taking.at, still), asked.own_seed, self.drawings)
        window, before, quality = window_of(asked), None, None
        for number, time_s in frame_times(taking, seconds)[start:stop]:
            if before is None or before[0] != number:
                made = renderer.frame(Moment(asked.at, time_s), window, asked.is_graded, noise_of=number)
                codes = made.codes
                if compress:
                    codes, _, quality = _compressed(taking, made, quality)
                before = number, shown(made.curve, codes, asked.is_graded)
            yield before[1]


def _compressed(
    taking: Taking, made: Recorded, before: float | None = None
) -> tuple[NDArray[np.float32], float, float]:
    """A frame after compression. before: at what the frame before it ended, of a film. Returns codes, bits a pixel, and
    at what it ended."""
    look = taking.look
    found = compressed(
        made.codes, taking.bits_per_pixel, look.bit_depth, look.codec.efficiency, before, TRIES if before is None else 2
    )
    return found.codes, found.bits_per_pixel, found.quality


def window_of(asked: LookAsked) -> Window:
    """Which part of the delivered frame is asked for, and at how many pixels."""
    if asked.loupe is not None:
        return Window(asked.width, asked.height, 1.0, asked.loupe)
    return Window(asked.width, asked.height, asked.brief.delivery.width / asked.width)


def scene_of(asked: LookAsked, at: Situation, still: OwnStill | None = None) -> Scene:
    """The scene that is asked for. at: what its brief asks; still: of one's own, as kept. Raises BadBrief where there is none of that name."""
    name = asked.scene or usual_scene(at)
    if still is not None:
        return still_scene(still.id, still.name, still.data, still.distance_m)
    if name not in SCENES:
        raise BadBrief(Fault("scene", f"there is no scene called '{name}'", f"Use one of {', '.join(SCENES)}."))
    return SCENES[name]
