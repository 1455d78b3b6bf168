"""What a crew owns besides cameras, and what experience says of mounts."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from steady_tide.core.frozen import Frozen
from steady_tide.core.light.sources import Place
from steady_tide.core.sheet import CameraSheet


class NdFilter(Frozen):
    """A neutral density filter."""

    id: Annotated[str, Field(min_length=1, max_length=60)]
    name: Annotated[str, Field(min_length=1, max_length=80)]
    kind: Literal["nd"] = "nd"
    stops: Annotated[float, Field(gt=0, le=20)]
    fits: tuple[str, ...]


class Mount(Frozen):
    """How a camera is held: how much it shakes and how much of the world it usually shows."""

    id: str
    name: str
    phrase: str
    shake_deg_s: float
    settle_s: float
    field_deg: float
    point_of_view: bool = False


class Weight(Frozen):
    """How much a stop of one item matters, and why."""

    weight: Annotated[float, Field(ge=0, le=20)]
    why: str


class Weights(Frozen):
    """All judgement that is a number: base weights, what scenarios and schools change, limits."""

    items: dict[str, Weight]
    scenarios: dict[str, dict[str, Weight]]
    schools: dict[str, dict[str, dict[str, Weight]]]
    limits: dict[str, Weight]
    noise_limit_snr: dict[str, float]
    sources: dict[str, str]


class Kit(Frozen):
    """What the planner may choose from."""

    cameras: tuple[CameraSheet, ...]
    filters: tuple[NdFilter, ...]


class Knowledge(Frozen):
    """What is known of the world, as data."""

    places: dict[str, Place]
    mounts: dict[str, Mount]
    weights: Weights
