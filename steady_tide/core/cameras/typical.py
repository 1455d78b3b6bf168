"""What is typical of a camera, as data: the values that a sheet is filled up with where nobody knows better."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from steady_tide.core.quantities.frozen import Frozen

Triple = tuple[float, float, float]  # value, least, most


class TypicalKind(Frozen):
    """A kind of camera."""

    sensor_width_mm: Triple
    f_number: Triple
    closest_m: Triple
    focus: Literal["fixed", "automatic"]
    battery_wh: Triple
    hours: Triple
    heat_k_per_w: Triple
    heat_tau_s: Triple
    heat_limit_c: Triple


class TypicalSensor(Frozen):
    """Any small sensor."""

    quantum_efficiency: Triple
    read_noise_e: Triple
    full_well_e_per_um2: Triple
    transmission: Triple
    readout_share: Triple
    readout_ms_most: float


class TypicalSampling(Frozen):
    """How much of its photosites a sensor reads."""

    from_fps: float
    fast: Triple
    slow: Triple


class TypicalView(Frozen):
    """A view."""

    projection: Literal["linear", "equidistant"]
    field_deg: Triple
    levelled: bool = False


class TypicalLevel(Frozen):
    """A level of stabilisation."""

    keeps: Triple
    leak: Triple
    power_w: Triple


class TypicalProfile(Frozen):
    """A colour profile."""

    range_stops: Triple
    shadow_lift_stops: Triple
    needs_grading_stops: Triple


class TypicalCodec(Frozen):
    """A recording format."""

    efficiency: Triple
    bits_mb_s: float
    phone_edits: bool = True


class TypicalWideRange(Frozen):
    """Several exposures in one frame."""

    gain_stops: Triple


class TypicalPower(Frozen):
    """What a body draws."""

    per_gigapixel_s_w: Triple
    least_base_w: float


class TypicalMemory(Frozen):
    """Storage of a phone."""

    capacity_gb: float
    write_mb_s: float


class TypicalLists(Frozen):
    """What menus list."""

    shutter_s: tuple[str, ...]
    iso: tuple[int, ...]
    compensation_stops: tuple[float, ...]
    balance_k: tuple[int, ...]
    sharpness: tuple[str, ...]
    wind_reduction: tuple[str, ...]


class Typical(Frozen):
    """All of it."""

    kinds: dict[str, TypicalKind]
    sensor: TypicalSensor
    sampling: TypicalSampling
    views: dict[str, TypicalView]
    whole_linear: TypicalView
    stabilisation: dict[str, TypicalLevel]
    profiles: dict[str, TypicalProfile]
    codecs: dict[str, TypicalCodec]
    wide_range: TypicalWideRange
    power: TypicalPower
    phone_memory: TypicalMemory
    lists: TypicalLists
    inch_types: Annotated[dict[str, float], Field(description="width of the picture, millimetres")]
