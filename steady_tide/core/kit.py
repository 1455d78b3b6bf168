"""What a crew owns besides cameras, and what experience says of mounts."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from steady_tide.core.frozen import Frozen
from steady_tide.core.light.sky import SkyStops
from steady_tide.core.light.sources import Place, World
from steady_tide.core.light.water import Waters
from steady_tide.core.sheet import CameraSheet

Name = Annotated[str, Field(min_length=1, max_length=80)]
Id = Annotated[str, Field(min_length=1, max_length=60)]


class Filter(Frozen):
    """Glass for a mount: neutral density, or a colour filter for water."""

    id: Id
    name: Name
    kind: Literal["nd", "colour"] = "nd"
    stops: Annotated[
        float, Field(gt=0, le=20, description="density, or what a colour filter takes from the brightness")
    ]
    band_stops: Annotated[
        tuple[float, float, float], Field(description="what it takes from red, green and blue, stops")
    ] = (0, 0, 0)
    fits: tuple[str, ...]


class Housing(Frozen):
    """A case that keeps the water out."""

    id: Id
    name: Name
    fits: tuple[str, ...] = Field(description="ids of the cameras that go into it")
    proof_depth_m: Annotated[float, Field(gt=0, le=1000)]
    filters: Annotated[str, Field(description="filter mount on its port")] = ""


class KitLamp(Frozen):
    """A lamp that the crew owns."""

    id: Id
    name: Name
    lux_at_1m: Annotated[float, Field(gt=0, le=10_000_000)]
    kelvin: int
    ripple: Annotated[float, Field(ge=0, le=1)] = 0.0
    proof_depth_m: float = 0.0
    count: Annotated[int, Field(ge=1, le=100)] = 1


class Cell(Frozen):
    """Spare cells for a camera, or a bank or mains supply that feeds it while it runs."""

    id: Id
    name: Name
    kind: Literal["cell", "bank", "mains"] = "cell"
    chemistry: str = "ordinary"
    wh: Annotated[float, Field(gt=0, le=100_000)]
    count: Annotated[int, Field(ge=1, le=100)] = 1
    fits: tuple[str, ...] = Field(default=(), description="ids of the cameras; banks and mains fit all that charge")


class Medium(Frozen):
    """A memory card or an external drive."""

    id: Id
    name: Name
    kind: Literal["card", "drive"] = "card"
    capacity_gb: Annotated[float, Field(gt=0, le=100_000)]
    write_mb_s: Annotated[float, Field(gt=0, le=100_000, description="megabits per second that it holds")]
    count: Annotated[int, Field(ge=1, le=100)] = 1
    fits: tuple[str, ...] = Field(default=(), description="ids of the cameras; empty fits all that take it")


class Mount(Frozen):
    """How a camera is held: how much it shakes and how much of the world it usually shows."""

    id: str
    name: str
    phrase: str
    shake_deg_s: float
    settle_s: float
    field_deg: float
    point_of_view: bool = False
    flying: bool = False


class Weight(Frozen):
    """How much a stop of one item matters, and why."""

    weight: Annotated[float, Field(ge=0, le=1000)]
    why: str


class Weights(Frozen):
    """All judgement that is a number: base weights, what scenarios and schools change, limits."""

    items: dict[str, Weight]
    scenarios: dict[str, dict[str, Weight]]
    schools: dict[str, dict[str, dict[str, Weight]]]
    limits: dict[str, Weight]
    noise_limit_snr: dict[str, float]
    sources: dict[str, str]


class Chemistry(Frozen):
    """How much of its charge a cell gives at a temperature: pairs of degrees Celsius and share."""

    name: str
    left: tuple[tuple[float, float], ...]


class Kit(Frozen):
    """What the planner may choose from."""

    cameras: tuple[CameraSheet, ...]
    filters: tuple[Filter, ...]
    housings: tuple[Housing, ...] = ()
    lamps: tuple[KitLamp, ...] = ()
    batteries: tuple[Cell, ...] = ()
    media: tuple[Medium, ...] = ()


class Knowledge(Frozen):
    """What is known of the world, as data."""

    places: dict[str, Place]
    mounts: dict[str, Mount]
    weights: Weights
    sky: SkyStops
    waters: Waters
    chemistries: dict[str, Chemistry]

    @property
    def world(self) -> World:
        """Places, skies and waters, as light is worked out from them."""
        return World(self.places, self.sky, self.waters)
