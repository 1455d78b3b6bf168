"""The plan: what the planner answers, in codes and quantities. Words are made of it in `steady_tide/words`."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, ConfigDict, Field, model_validator

from steady_tide.core.brief.own_numbers import OwnUsed
from steady_tide.core.gear.view_names import todays_pins, todays_view
from steady_tide.core.quantities.frozen import Frozen

Facts = dict[str, Any]


class CameraName(Frozen):
    """Which camera the plan is for, and which edition of its sheet."""

    id: str
    name: str
    edition: int = 1


class Settings(Frozen):
    """The chosen value of every dial; dials that came later stand beside the named ones."""

    model_config = ConfigDict(extra="allow")

    lens: str
    f_number: float
    width: int
    height: int
    frame_rate: float
    interval_s: float | None
    view: Annotated[str, BeforeValidator(todays_view)]
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
    recorder: str = "own"
    attachment: str | None = None
    kept_as: Literal["film", "stills"] = "film"
    red_gain_stops: float = 0.0
    microphone: str | None = None
    wind_reduction: str
    sound_track: str
    pre_record_s: float
    positioning: str
    screen: str


@dataclass(frozen=True)
class Reach:
    """What the camera holds if one dial of exposure has another value and all else stays."""

    value: Any
    low_ev100: float
    high_ev100: float
    over_stops: float
    under_stops: float
    glass_stops: float


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
    contrast_stops: float = 0.0  # within one frame, that the profile should hold
    bits_per_pixel: float
    reaches: dict[str, tuple[Reach, ...]]  # by dial, from the lowest reach to the highest


class Endurance(Frozen):
    """What the takes use up, and what there is."""

    power_w: float
    warming_w: float | None = None  # what of it, and of the sun, warms the body
    hours_per_charge: float
    cells_c: float  # how warm the cells are in the body at work, degrees Celsius
    cold_factor: float
    needed_wh: float
    available_wh: float
    unattended_wh: float = 0.0  # what one charge gives, and what feeds the camera from outside
    recorded_gb: float
    gb_per_hour: float
    minutes_to_heat: float | None
    frames: int | None
    screen_s: float | None
    star_drift_px: float | None


class Apart(Frozen):
    """What one plan gives up more than another, and what less; weighted stops by item, the most first."""

    more: tuple[tuple[str, float], ...]
    less: tuple[str, float] | None


class CameraWhy(Frozen):
    """Why a camera stands where it stands. code: which sentence; pins: what it does not offer."""

    code: str
    facts: Facts = Field(default_factory=dict)
    apart: Apart | None = None


class RankedCamera(Frozen):
    """A camera of the kit with its best plan for the shot, or why it has none."""

    id: str
    name: str
    kind: str
    given_up_stops: float | None
    why: CameraWhy
    chosen: dict[str, Any]


class LedgerItem(Frozen):
    """One thing given up: how many stops, how much a stop matters here, what that comes to."""

    item: str
    dial: str
    stops: float
    weight: float
    given_up_stops: float
    weight_why: str


class WhyNot(Frozen):
    """Why a value is not offered. code: which sentence; pins: dials whose pins exclude it."""

    code: str
    pins: tuple[str, ...] = ()


@dataclass(frozen=True)
class DialValue:
    """One value of a dial with the price of the best plan that has it. A plan holds hundreds of these, made of our own
    values; as a model each would take ten times as long to make."""

    value: Any
    legal: bool
    given_up_stops: float | None
    why_not: WhyNot | None


class Cited(Frozen):
    """An item that decided, with its case, its quantities, and its stops in the rival plan and in this one."""

    item: str
    case: str | None
    facts: Facts
    theirs: float
    ours: float

    @model_validator(mode="before")
    @classmethod
    def _with_case(cls, kept: Any) -> Any:
        """Until bits could be fewer or coarser, their item had no case."""
        is_old = isinstance(kept, dict) and kept.get("item") == "bits" and kept.get("case") is None
        return {**kept, "case": "fewer"} if is_old else kept


class Lead(Frozen):
    """What a chosen value achieves: which case of its dial, and the quantities."""

    case: str
    facts: Facts


class Reason(Frozen):
    """Why a dial has its value.

    kind: `only` (the camera has no other), `at_speed`, `pins` (no other fits the pins), `mode` (no mode that films this
    shot has another), `pinned` (free, it would be the rival), `tie` (what the rival loses it gains
    elsewhere), `close` (less apart than is worth a word), `others` (the rival goes only with other dials turned), `decided` (an item did). more_stops: what the cheapest plan
    with the rival's value gives up more; near_stops: what the plan does that differs in this dial and as little else as
    can be, which is the one that is cited; also: the dials that the cheapest one turns besides, where the two differ.
    """

    kind: Literal["only", "at_speed", "pins", "mode", "pinned", "tie", "close", "others", "decided"]
    chosen: Any
    rival: Any = None
    more_stops: float | None = None
    near_stops: float | None = None
    also: tuple[str, ...] = ()
    wet: bool = False
    lead: Lead | None = None
    cited: Cited | None = None
    lost: tuple[str, float] | None = None  # of a tie: what the rival gives up more, weighted stops
    gained: tuple[str, float] | None = None

    @model_validator(mode="before")
    @classmethod
    def _todays_kind(cls, kept: Any) -> Any:
        """`as_good` was a kind of its own once."""
        is_old = isinstance(kept, dict) and kept.get("kind") == "as_good"
        return {**kept, "kind": "close"} if is_old else kept


class Warning(Frozen):
    """Something that will go wrong, or would. code: which; facts: the quantities its sentence needs."""

    code: str
    severity: Literal["stop", "warn", "note"]
    facts: Facts = Field(default_factory=dict)


class Caution(Frozen):
    """Something that can hurt someone."""

    topic: str


class Rival(Frozen):
    """Another way of working, as differences from this plan and at this plan's prices."""

    axis: str
    school: str
    changes: dict[str, Any]
    given_up_stops: float


class Plan(Frozen):
    """A setting sheet with its reasons, its price and what others would do."""

    title: str
    camera: CameraName
    settings: Settings
    chosen: Annotated[dict[str, Any], BeforeValidator(todays_pins)]  # value of each dial, in the form that pins it
    names: dict[str, str]  # of the glass and the housings at hand, by id
    exposure: Exposure
    endurance: Endurance
    light_source: Facts
    ledger: tuple[LedgerItem, ...]
    given_up_stops: float
    reasons: dict[str, Reason]
    runner_up_stops: dict[str, float | None]
    profiles: dict[str, tuple[DialValue, ...]]
    settled: tuple[str, ...]  # dials that leave nothing to choose on this camera for this shot
    pins: Annotated[dict[str, Any], BeforeValidator(todays_pins)]
    warnings: tuple[Warning, ...]
    cautions: tuple[Caution, ...]
    schools: tuple[Rival, ...]
    cameras: tuple[RankedCamera, ...]
    combinations: int
    graded: bool
    dark: bool
    light_kind: str = ""  # as a meter meets it
    own: tuple[OwnUsed, ...] = ()  # one's own numbers that it was made with
