"""Notes of what gear did: charges, heat stops, the lean of a panned edge, glass, cards, stabilisation; one form each."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from steady_tide.core.log.take import Short, Words
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.moments import Moment

GearName = Annotated[str, Field(min_length=1, max_length=60)]


ScreenOn = Annotated[GearName, Field(description="which screen was on meanwhile, as the sheet names it")]


class _Note(Frozen):
    at: Moment
    who: Short | None = None
    note: Words = ""


class ChargeNote(_Note):
    """A cell that ran down. put_in_wh: what a charger with a meter put in afterwards for the same span."""

    kind: Literal["charge"]
    camera: GearName
    width: Annotated[int, Field(ge=16, le=16_384)]
    height: Annotated[int, Field(ge=16, le=16_384)]
    frame_rate: Annotated[float, Field(gt=0, le=2000)]
    stabilisation: GearName | None = None
    from_percent: Annotated[float, Field(gt=0, le=100)] = 100.0
    to_percent: Annotated[float, Field(ge=0, lt=100)]
    screen: ScreenOn = "back"
    minutes: Annotated[float, Field(gt=0, le=10_000)]
    air_c: Annotated[float, Field(ge=-60, le=60)]
    put_in_wh: Annotated[float | None, Field(gt=0, le=1000)] = None

    @model_validator(mode="after")
    def _runs_down(self) -> ChargeNote:
        if self.from_percent - self.to_percent < LEAST_RUN_PERCENT:
            raise ValueError(
                f"a run from {self.from_percent:g} % to {self.to_percent:g} % says too little; "
                f"let it run down by {LEAST_RUN_PERCENT:g} % at least"
            )
        return self


LEAST_RUN_PERCENT = 10.0  # a display of whole per cent is not finer than a tenth of that


class HeatNote(_Note):
    """A camera that stopped, or warned, because it was hot."""

    kind: Literal["heat"]
    camera: GearName
    width: Annotated[int, Field(ge=16, le=16_384)]
    height: Annotated[int, Field(ge=16, le=16_384)]
    frame_rate: Annotated[float, Field(gt=0, le=2000)]
    stabilisation: GearName | None = None
    screen: ScreenOn = "back"
    minutes: Annotated[float, Field(gt=0, le=10_000)]
    air_c: Annotated[float, Field(ge=-60, le=60)]


class ReadoutNote(_Note):
    """An upright edge in a pan: how far it leans from the top row to the bottom row while the picture moves by so much a
    frame."""

    kind: Literal["readout"]
    camera: GearName
    lean_px: Annotated[float, Field(gt=0, le=16_384)]
    pan_px: Annotated[float, Field(gt=0, le=16_384, description="from frame to frame")]
    frame_rate: Annotated[float, Field(gt=0, le=2000)]


class GlassNote(_Note):
    """Glass held before the lens on a steady light: what it takes, in all and from red and blue against green."""

    kind: Literal["glass"]
    filter: GearName
    stops: Annotated[float, Field(gt=0, le=20)]
    red_stops: Annotated[float | None, Field(ge=-5, le=5, description="from red, more than from green")] = None
    blue_stops: Annotated[float | None, Field(ge=-5, le=5, description="from blue, more than from green")] = None


class CardNote(_Note):
    """A card that was filled: what it really held."""

    kind: Literal["card"]
    medium: GearName
    recorded_gb: Annotated[float, Field(gt=0, le=100_000)]


class SteadyingNote(_Note):
    """A ruler filmed with and without stabilisation from one place: how much of the width is left."""

    kind: Literal["steadying"]
    camera: GearName
    level: GearName
    without_cm: Annotated[float, Field(gt=0, le=100_000)]
    with_cm: Annotated[float, Field(gt=0, le=100_000)]

    @model_validator(mode="after")
    def _crops(self) -> SteadyingNote:
        if self.with_cm > self.without_cm:
            raise ValueError("stabilisation never shows more of the ruler; change the two about")
        return self


Note = Annotated[
    ChargeNote | HeatNote | ReadoutNote | GlassNote | CardNote | SteadyingNote, Field(discriminator="kind")
]
NOTE_KINDS = ("charge", "heat", "readout", "glass", "card", "steadying")


def readout_ms(note: ReadoutNote) -> float:
    """Time from the first row of the frame to the last: the lean in frames, times a frame's time. Returns milliseconds."""
    return note.lean_px / note.pan_px / note.frame_rate * 1000.0
