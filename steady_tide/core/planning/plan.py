"""The plan: what the planner answers. One definition for the core, the API and the file."""

from __future__ import annotations

from typing import Any, Literal

from steady_tide.core.frozen import Frozen


class CameraName(Frozen):
    """Which camera the plan is for."""

    id: str
    name: str


class Settings(Frozen):
    """The chosen value of every dial."""

    lens: str
    f_number: float
    width: int
    height: int
    frame_rate: float
    view: str
    stabilisation: str
    shutter_s: float | None
    shutter_mode: Literal["fixed", "auto"]
    iso_floor: int
    iso_ceiling: int
    exposure_compensation: float
    white_balance_k: int | None
    profile: str
    bit_depth: int
    codec: str
    bit_rate_mb_s: float
    sharpness: str
    high_dynamic_range: bool
    nd: tuple[str, ...]
    colour_filter: str | None
    wind_reduction: str


class Exposure(Frozen):
    """What the light and the camera come to."""

    ev100: tuple[float, float]
    reach_ev100: tuple[float, float]
    reach_camera_ev: tuple[float, float]
    over_stops: float
    under_stops: float
    nd_stops: float
    nd_asked_stops: float
    iso_used: tuple[int, int]
    shutter_used_s: tuple[float, float]
    wanted_shutter_s: float
    snr: float
    snr_limit: float
    smear_px: float
    field_deg: float
    bits_per_pixel: float


class LedgerItem(Frozen):
    """One thing given up: how many stops, how much a stop matters here, what that comes to."""

    item: str
    title: str
    dial: str
    stops: float
    weight: float
    given_up_stops: float
    why: str
    weight_why: str


class DialValue(Frozen):
    """One value of a dial with the price of the best plan that has it."""

    value: Any
    label: str
    legal: bool
    given_up_stops: float | None
    why_not: str | None


class Warning(Frozen):
    """Something that will go wrong, or would."""

    code: str
    severity: Literal["stop", "warn", "note"]
    text: str


class Caution(Frozen):
    """Something that can hurt someone."""

    topic: str
    text: str


class Rival(Frozen):
    """Another way of working, as differences from this plan and at this plan's prices."""

    name: str
    changes: dict[str, str]
    given_up_stops: float


class Plan(Frozen):
    """A setting sheet with its reasons, its price and what others would do."""

    camera: CameraName
    settings: Settings
    values: dict[str, str]
    exposure: Exposure
    light_source: str
    ledger: tuple[LedgerItem, ...]
    given_up_stops: float
    reasons: dict[str, str]
    runner_up_stops: dict[str, float | None]
    profiles: dict[str, tuple[DialValue, ...]]
    pins: dict[str, Any]
    warnings: tuple[Warning, ...]
    cautions: tuple[Caution, ...]
    schools: tuple[Rival, ...]
    combinations: int
