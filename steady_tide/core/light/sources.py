"""The kinds of light a brief can name, and the band each comes to.

A kind is one model and one branch of `resolve`; the union at the end is what a brief accepts.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal

import numpy as np
from pydantic import BeforeValidator, Discriminator, Field, Tag, model_validator

from steady_tide.core.errors import BadBrief, Fault
from steady_tide.core.frozen import Frozen
from steady_tide.core.stops import ev100_from_lux, read_seconds, scene_ev100

LOWEST_EV100, HIGHEST_EV100 = -12.0, 20.0
Ev = Annotated[float, Field(ge=LOWEST_EV100, le=HIGHEST_EV100)]
Lux = Annotated[float, Field(ge=1e-4, le=2_000_000)]


class Place(Frozen):
    """A kind of place whose light is known from experience."""

    id: str
    name: str
    ev100: tuple[float, float]
    balance_k: tuple[int, int]
    ripple: Annotated[float, Field(ge=0, le=1)] = 0.0
    dark: bool = False


class Reading(Frozen):
    """What a camera on automatic shows when pointed at the scene."""

    f_number: Annotated[float, Field(gt=0.5, le=64)]
    shutter_s: Annotated[float, BeforeValidator(read_seconds), Field(ge=1e-5, le=3600)]
    iso: Annotated[float, Field(ge=1, le=1_000_000)]
    nd_stops: Annotated[float, Field(ge=0, le=20)] = 0.0


class MeterLight(Frozen):
    """A measured band, from a light meter: lux or EV at ISO 100, dimmest first."""

    kind: Literal["meter"]
    lux: tuple[Lux, Lux] | None = None
    ev100: tuple[Ev, Ev] | None = None
    balance_k: Annotated[int, Field(ge=1500, le=20000)] | None = None

    @model_validator(mode="after")
    def _one_band_the_right_way_up(self) -> MeterLight:
        if (self.lux is None) == (self.ev100 is None):
            raise ValueError("give either lux or ev100, the dimmest first")
        low, high = self.lux or self.ev100 or (0.0, 0.0)
        if low > high:
            raise ValueError(f"the band is upside down: {low:g} is more than {high:g}; give the dimmest first")
        return self


class ReadingLight(Frozen):
    """One reading, or two for the dimmest and the brightest part, in any order."""

    kind: Literal["reading"]
    readings: Annotated[tuple[Reading, ...], Field(min_length=1, max_length=2)]


class PlaceLight(Frozen):
    """A named place."""

    kind: Literal["place"]
    place: Annotated[str, Field(min_length=1, max_length=60)]


def _tag(value: object) -> str | None:
    kind = value.get("kind") if isinstance(value, dict) else getattr(value, "kind", None)
    return f"kind:{kind}"


LightSource = Annotated[
    Annotated[MeterLight, Tag("kind:meter")]
    | Annotated[ReadingLight, Tag("kind:reading")]
    | Annotated[PlaceLight, Tag("kind:place")],
    Discriminator(_tag),
]


class Light(Frozen):
    """The light that a take will meet, from its dimmest to its brightest moment."""

    ev100: tuple[float, float]
    balance_k: tuple[int, int]
    ripple: float
    dark: bool
    source: str


# Below this a daylight scene counts as dark; source: the place table.
DARK_BELOW_EV100 = 6.5
DAYLIGHT_K = (5300, 5800)
TUNGSTEN_K = (3200, 4000)


def resolve(light: MeterLight | ReadingLight | PlaceLight, places: Mapping[str, Place]) -> Light:
    """Work out the band of a brief's light.

    light: the light token of a brief; places: known places by id.
    Returns the band with the range of white balance that suits it, kelvin, and lamp ripple.
    Raises BadBrief where a place is not known.
    """
    if isinstance(light, PlaceLight):
        place = places.get(light.place)
        if place is None:
            raise BadBrief(
                Fault("light.place", f"there is no place called '{light.place}'", f"Use one of {', '.join(places)}.")
            )
        return Light(
            ev100=place.ev100, balance_k=place.balance_k, ripple=place.ripple, dark=place.dark, source=place.name
        )
    if isinstance(light, ReadingLight):
        found = sorted(float(scene_ev100(r.f_number, r.shutter_s, r.iso, r.nd_stops)) for r in light.readings)
        low, high = found[0], found[-1]
        if low < LOWEST_EV100 or high > HIGHEST_EV100:
            wrong = low if low < LOWEST_EV100 else high
            raise BadBrief(
                Fault(
                    "light.readings",
                    f"a reading comes to EV {wrong:.1f}, which no scene has",
                    "Check aperture, exposure, ISO and glass.",
                )
            )
        return _measured(low, high, None, "camera reading")
    if light.ev100 is not None:
        low, high = light.ev100
    else:
        assert light.lux is not None
        low, high = (float(np.clip(ev100_from_lux(value), LOWEST_EV100, HIGHEST_EV100)) for value in light.lux)
    return _measured(low, high, light.balance_k, "light meter")


def _measured(low: float, high: float, kelvin: int | None, source: str) -> Light:
    dark = (low + high) / 2.0 < DARK_BELOW_EV100
    balance = (kelvin, kelvin) if kelvin is not None else (TUNGSTEN_K if dark else DAYLIGHT_K)
    return Light(ev100=(low, high), balance_k=balance, ripple=0.0, dark=dark, source=source)
