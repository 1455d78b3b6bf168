"""The plan: what the planner answers. One definition for the core, the API and the file."""

from __future__ import annotations

from typing import Any, Literal

from steady_tide.core.frozen import Frozen


class CameraName(Frozen):
    """Which camera the plan is for, and which edition of its sheet."""

    id: str
    name: str
    edition: int = 1


class Settings(Frozen):
    """The chosen value of every dial."""

    lens: str
    f_number: float
    width: int
    height: int
    frame_rate: float
    interval_s: float | None
    view: str
    stabilisation: str
    shutter_s: float | None
    shutter_mode: Literal["fixed", "auto"]
    iso_floor: int
    iso_ceiling: int
    exposure_compensation: float
    white_balance_k: int | None
    white_balance: Literal["locked", "automatic", "raw"]
    focus: str
    focus_m: float | None
    profile: str
    bit_depth: int
    codec: str
    bit_rate_mb_s: float
    sharpness: str
    high_dynamic_range: bool
    nd: tuple[str, ...]
    colour_filter: str | None
    housing: str | None
    wind_reduction: str
    sound_track: str
    pre_record_s: float
    positioning: str
    screen: str


class Exposure(Frozen):
    """What the light and the camera come to."""

    ev100: tuple[float, float]
    reach_ev100: tuple[float, float]
    reach_camera_ev: tuple[float, float]
    over_stops: float
    under_stops: float
    nd_stops: float
    nd_asked_stops: float
    light_missing_stops: float  # at base gain; negative where there is too much
    iso_used: tuple[int, int]
    shutter_used_s: tuple[float, float]
    wanted_shutter_s: float
    snr: float
    snr_limit: float
    smear_px: float
    field_deg: float
    bits_per_pixel: float


class Endurance(Frozen):
    """What the takes use up, and what there is."""

    power_w: float
    hours_per_charge: float
    cold_factor: float
    needed_wh: float
    available_wh: float
    recorded_gb: float
    gb_per_hour: float
    minutes_to_heat: float | None
    frames: int | None
    screen_s: float | None
    star_drift_px: float | None


class RankedCamera(Frozen):
    """A camera of the kit with its best plan for the shot, or why it has none."""

    id: str
    name: str
    kind: str
    given_up_stops: float | None
    why: str
    values: dict[str, str]


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
    endurance: Endurance
    light_source: str
    ledger: tuple[LedgerItem, ...]
    given_up_stops: float
    reasons: dict[str, str]
    runner_up_stops: dict[str, float | None]
    profiles: dict[str, tuple[DialValue, ...]]
    settled: tuple[str, ...]  # dials that leave nothing to choose on this camera for this shot
    pins: dict[str, Any]
    warnings: tuple[Warning, ...]
    cautions: tuple[Caution, ...]
    schools: tuple[Rival, ...]
    cameras: tuple[RankedCamera, ...]
    combinations: int
