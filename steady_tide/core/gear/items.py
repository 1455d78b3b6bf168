"""What a crew owns besides cameras: glass, housings, microphones, lamps, cells, cards, mounts; how cells stand the cold."""

from __future__ import annotations

from itertools import pairwise
from math import ceil, floor
from typing import Annotated, Literal

from pydantic import Field, model_validator

from steady_tide.core.quantities.errors import BadInput, Fault
from steady_tide.core.quantities.frozen import Frozen

Name = Annotated[str, Field(min_length=1, max_length=80)]
Id = Annotated[str, Field(min_length=1, max_length=60)]
GearId = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9_.-]{0,59}$", description="short name, such as nd8")]


Stops = Annotated[float, Field(ge=0, le=20)]


class Filter(Frozen):
    """Glass for a mount: neutral density, fixed or turned, a polariser, or a colour filter for water."""

    id: GearId
    name: Name
    kind: Literal["nd", "colour", "polariser"] = "nd"
    stops: Annotated[
        float,
        Field(gt=0, le=20, description="density, or what a colour filter or a polariser takes from the brightness"),
    ]
    turns_from_stops: Annotated[
        float | None,
        Field(gt=0, le=20, description="of a variable ND: least density; `stops` is the most that is still even"),
    ] = None
    band_stops: Annotated[
        tuple[Stops, Stops, Stops], Field(description="what it takes from red, green and blue, stops")
    ] = (0, 0, 0)
    fits: Annotated[tuple[Id, ...], Field(max_length=40, description="filter mounts")]
    count: Annotated[int, Field(ge=1, le=100)] = 1

    @model_validator(mode="after")
    def _turns_upwards(self) -> Filter:
        if self.turns_from_stops is not None:
            if self.kind != "nd":
                raise ValueError("only an ND can be turned")
            if self.turns_from_stops >= self.stops:
                raise ValueError("the least density of a variable ND lies below its most")
        return self

    def positions(self) -> tuple[Filter, ...]:
        """What the planner can set: the glass itself, or a variable one at each whole stop that it reaches evenly."""
        if self.turns_from_stops is None:
            return (self,)
        first, last = ceil(self.turns_from_stops - 1e-9), floor(self.stops + 1e-9)
        marks = [float(stop) for stop in range(first, last + 1)] or [self.stops]
        return tuple(
            self.model_copy(
                update={
                    "id": f"{self.id}{AT}{mark:g}",
                    "name": f"{self.name} at {mark:g}",
                    "stops": mark,
                    "turns_from_stops": None,
                }
            )
            for mark in marks
        )


AT = "@"  # between a variable filter and where it is turned to


def piece_of(glass: str) -> str:
    """The piece that is packed for a glass of a plan. glass: id, with its mark if it is turned. Returns an id."""
    return glass.partition(AT)[0]


class Attachment(Frozen):
    """A lens before the lens: a close-up lens, a wide or a long converter."""

    id: GearId
    name: Name
    fits: Annotated[tuple[Id, ...], Field(max_length=40, description="filter mounts")]
    lenses: Annotated[
        tuple[Id, ...], Field(max_length=10, description="ids of the lenses that it goes before; empty: the first")
    ] = ()
    factor: Annotated[
        float, Field(gt=0.2, le=5, description="of the focal length: 0.6 is a wide converter, 2 a long one")
    ] = 1.0
    dioptres: Annotated[float, Field(ge=0, le=50, description="of a close-up lens; 0 for a converter")] = 0.0
    stops: Annotated[float, Field(ge=0, le=5, description="light that it takes")] = 0.0
    softer_stops: Annotated[float, Field(ge=0, le=3, description="how much less fine the picture is behind it")] = 0.2
    takes_filters: Annotated[bool, Field(description="has a thread of its own in front")] = False
    count: Annotated[int, Field(ge=1, le=100)] = 1


class Microphone(Frozen):
    """A microphone beside the one that is built in."""

    id: GearId
    name: Name
    how: Annotated[
        Literal["cable", "wireless", "recorder"],
        Field(description="recorder: it records by itself, and is laid under the picture later"),
    ] = "cable"
    worn: Annotated[bool, Field(description="clipped to who speaks, wherever the camera stands")] = False
    reach_m: Annotated[float, Field(gt=0, le=100, description="as far off as a voice is still near")] = 1.5
    wind_held_m_s: Annotated[float, Field(gt=0, le=60, description="wind that it stands with its cover")] = 4.0
    runs_h: Annotated[
        float | None, Field(gt=0, le=1000, description="on its own charge; left out: the camera feeds it")
    ] = None
    fits: Annotated[
        tuple[Id, ...], Field(max_length=100, description="ids of the cameras; empty fits all that take one")
    ] = ()
    count: Annotated[int, Field(ge=1, le=100)] = 1


class Housing(Frozen):
    """A case that keeps the water out."""

    id: GearId
    name: Name
    fits: Annotated[tuple[Id, ...], Field(max_length=100, description="ids of the cameras that go into it")]
    proof_depth_m: Annotated[float, Field(gt=0, le=1000)]
    port: Annotated[
        Literal["flat", "dome"], Field(description="a flat window narrows the view under water, a dome keeps it")
    ] = "flat"
    filters: Annotated[str, Field(max_length=60, description="filter mount on its port")] = ""
    stack: Annotated[int, Field(ge=0, le=4, description="how many filters its port takes at once")] = 1
    count: Annotated[int, Field(ge=1, le=100)] = 1


class KitLamp(Frozen):
    """A lamp that the crew owns."""

    id: GearId
    name: Name
    lux_at_1m: Annotated[float, Field(gt=0, le=10_000_000)]
    kelvin: Annotated[int, Field(ge=1000, le=20_000)]
    ripple: Annotated[float, Field(ge=0, le=1)] = 0.0
    proof_depth_m: Annotated[float, Field(ge=0, le=1000)] = 0.0
    count: Annotated[int, Field(ge=1, le=100)] = 1

    def is_like(self, lux_at_1m: float, kelvin: int, share: float) -> bool:
        """Whether a lamp of a brief is one of these. lux_at_1m, kelvin: of it; share: by which strengths may differ."""
        return self.kelvin == kelvin and abs(self.lux_at_1m - lux_at_1m) < share * lux_at_1m


class Cell(Frozen):
    """Spare cells for a camera, or a bank or mains supply that feeds it while it runs."""

    id: GearId
    name: Name
    kind: Literal["cell", "bank", "mains"] = "cell"
    chemistry: Id = "ordinary"
    wh: Annotated[float, Field(gt=0, le=100_000)]
    count: Annotated[int, Field(ge=1, le=100)] = 1
    fits: Annotated[
        tuple[Id, ...], Field(max_length=100, description="ids of the cameras; banks and mains fit all that charge")
    ] = ()


class Medium(Frozen):
    """A memory card or an external drive."""

    id: GearId
    name: Name
    kind: Literal["card", "drive"] = "card"
    capacity_gb: Annotated[float, Field(gt=0, le=100_000)]
    write_mb_s: Annotated[float, Field(gt=0, le=100_000, description="megabits per second that it holds")]
    speed_class: Annotated[
        Literal["V6", "V10", "V30", "V60", "V90"] | None,
        Field(description="printed on the card: it holds at least that many megabytes per second; source: sd-speed"),
    ] = None
    count: Annotated[int, Field(ge=1, le=100)] = 1
    fits: Annotated[
        tuple[Id, ...], Field(max_length=100, description="ids of the cameras; empty fits all that take it")
    ] = ()

    @model_validator(mode="after")
    def _holds_its_class(self) -> Medium:
        if self.speed_class is not None and self.write_mb_s < CLASS_MB_S[self.speed_class]:
            raise ValueError(
                f"a {self.speed_class} card holds {CLASS_MB_S[self.speed_class]:g} Mb/s at least; give write_mb_s so"
            )
        return self


# Megabits per second that a video speed class holds at least: eight times its number. Source: sd-speed.
CLASS_MB_S = {"V6": 48.0, "V10": 80.0, "V30": 240.0, "V60": 480.0, "V90": 720.0}


class Mount(Frozen):
    """How a camera is held: how much it shakes and how much of the world it usually shows."""

    id: GearId
    name: Name
    phrase: Annotated[str, Field(min_length=1, max_length=80, description="as a sentence says it: on a tripod")]
    shake_deg_s: Annotated[float, Field(ge=0, le=500, description="typical angular speed, RMS")]
    settle_s: Annotated[float, Field(gt=0, le=60, description="until a wander turns back")]
    field_deg: Annotated[float, Field(gt=1, lt=180, description="of the world that such a shot usually shows")]
    point_of_view: bool = False
    flying: bool = False
    like: Annotated[
        Id | None, Field(description="a way of holding it: a camera that can be held so, can be held in this way, too")
    ] = None
    inside: Annotated[bool, Field(description="no wind of the ride reaches it, as inside a vehicle")] = False
    vehicle: Annotated[bool, Field(description="in or on a vehicle that somebody drives")] = False
    stands: Annotated[bool, Field(description="stands on legs of its own, with nobody at it")] = False
    on_foot: Annotated[bool, Field(description="in the hand of somebody who walks")] = False
    nothing_to_pack: Annotated[bool, Field(description="a hand, or what belongs to a drone")] = False
    count: Annotated[int, Field(ge=1, le=100)] = 1


class Chemistry(Frozen):
    """How much of its charge a cell gives at a temperature: pairs of degrees Celsius and share."""

    name: Name
    left: Annotated[
        tuple[tuple[Annotated[float, Field(ge=-60, le=80)], Annotated[float, Field(gt=0, le=1)]], ...],
        Field(min_length=1, max_length=20, description="from warm to cold"),
    ]

    @model_validator(mode="after")
    def _colder_gives_less(self) -> Chemistry:
        for (warm, more), (cold, less) in pairwise(self.left):
            if cold >= warm or less > more:
                raise ValueError("go from warm to cold; a colder cell never gives more")
        return self


class CellKind(Chemistry):
    """A kind of cell as a crew keeps it: how it stands the cold, under the id that cells name."""

    id: GearId

    @property
    def chemistry(self) -> Chemistry:
        """Without the id."""
        return Chemistry(name=self.name, left=self.left)


class Keeping(Frozen):
    """In what state something lies where."""

    ready: Annotated[int, Field(ge=0, le=100, description="how many are charged, or formatted")] = 0
    where: Annotated[str, Field(max_length=120)] = ""
    note: Annotated[str, Field(max_length=400)] = ""


def ready_fits(keeping: Keeping, count: int) -> None:
    """Raise BadInput where more are ready than there are. keeping: state and place; count: how many there are."""
    if keeping.ready > count:
        raise BadInput(Fault("keeping.ready", f"{keeping.ready} of {count} cannot be ready", f"Give 0 to {count}."))


# What a crew keeps besides cameras, by kind, with the form of each.
Thing = Filter | Attachment | Housing | Microphone | KitLamp | Cell | Medium | Mount | CellKind
KINDS: dict[str, type[Thing]] = {
    "filters": Filter,
    "attachments": Attachment,
    "housings": Housing,
    "microphones": Microphone,
    "lamps": KitLamp,
    "batteries": Cell,
    "media": Medium,
    "mounts": Mount,
    "chemistries": CellKind,
}
GETS_READY = {
    "cameras": "charged",
    "microphones": "charged",
    "lamps": "charged",
    "batteries": "charged",
    "media": "formatted",
}
