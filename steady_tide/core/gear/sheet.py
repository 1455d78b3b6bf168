"""The camera sheet: what one camera can do, and every limit among it, in its own menu order."""

from __future__ import annotations

import re
from itertools import pairwise
from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Field, field_validator, model_validator

from steady_tide.core.gear.view_names import todays_sheet
from steady_tide.core.physics.optics import Projection, kept_share
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.stops import Number, read_seconds

Id = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9_.-]{0,59}$")]
Share = Annotated[float, Field(ge=0.001, le=1)]
Rate = Annotated[float, Field(ge=1, le=2000)]
Pixels = Annotated[int, Field(ge=16, le=32_768)]


class Sensor(Frozen):
    """The chip behind a lens."""

    width_px: Pixels
    height_px: Pixels
    pixel_pitch_um: Annotated[float, Field(gt=0.3, le=30)]
    quantum_efficiency: Share
    read_noise_e: Annotated[float, Field(ge=0, le=100)]
    full_well_e: Annotated[float, Field(gt=0, le=1_000_000)]
    readout_ms: Annotated[float, Field(gt=0, le=200, description="time to read the whole height, milliseconds")]


class Lens(Frozen):
    """One lens with its sensor."""

    id: Id
    name: Annotated[str, Field(min_length=1, max_length=80)]
    f_numbers: Annotated[tuple[Annotated[float, Field(gt=0.5, le=64)], ...], Field(min_length=1, max_length=40)]
    transmission: Share
    closest_m: Annotated[float, Field(ge=0, le=100)]
    softer_stops: Annotated[float, Field(ge=0, le=3, description="how much less fine than the body's finest lens")] = (
        0.0
    )
    focus: Annotated[
        Literal["fixed", "automatic", "manual"],
        Field(description="fixed cannot be turned; automatic can be locked, too; manual is set by hand only"),
    ]
    fields_deg: Annotated[
        dict[Id, Annotated[float, Field(gt=1, lt=180)]],
        Field(description="field of a view through this lens, where it differs from the view's own", max_length=20),
    ] = Field(default_factory=dict)
    faces: Annotated[
        Literal["back", "front"], Field(description="front: it looks at who holds the camera, and shows him the frame")
    ] = "back"
    farthest_m: Annotated[
        float | None, Field(gt=0, le=100_000, description="of a lens that cannot be focused far; left out: it can")
    ] = None
    sensor: Sensor


class View(Frozen):
    """One way of cutting the lens's image."""

    id: Id
    projection: Projection
    field_deg: Annotated[float, Field(gt=1, lt=180, description="across the full width of the sensor, unsteadied")]
    keeps: Annotated[
        Share | None, Field(description="linear share of the width that is used; left out: as field and projection say")
    ] = None
    levelled: bool = False


class Steadying(Frozen):
    """One level of stabilisation."""

    id: Id
    keeps: Annotated[Share, Field(description="linear share of the width that is left")]
    leak: Annotated[float, Field(ge=0, le=1, description="share of a wander that passes inside the margin")]
    power_w: Annotated[float, Field(ge=0, le=20)] = 0.0


class Mode(Frozen):
    """A frame size with its rates, and what is offered with it."""

    width: Pixels
    height: Pixels
    lens: Id
    rates: Annotated[
        tuple[Rate, ...],
        Field(min_length=1, max_length=40, description="frames per second written; of an interval film, played"),
    ]
    intervals_s: Annotated[
        tuple[Annotated[float, Field(gt=0.05, le=3600)], ...],
        Field(max_length=60, description="makes it a mode for interval films: seconds between frames"),
    ] = ()
    window_px: Annotated[tuple[Pixels, Pixels], Field(description="part of the sensor that is read, width and height")]
    sampling: Annotated[Share, Field(description="share of the photosites in the window that is read")] = 1.0
    noise_reduction: Annotated[
        float, Field(ge=1, le=4, description="gain in signal to noise from in-camera reduction")
    ] = 1.0
    views: Annotated[tuple[Id, ...], Field(min_length=1, max_length=20)]
    stabilisation: Annotated[tuple[Id, ...], Field(min_length=1, max_length=20)]
    codecs: Annotated[tuple[Id, ...], Field(min_length=1, max_length=10)]
    profiles: Annotated[tuple[Id, ...] | None, Field(description="where only some are offered")] = None
    bit_depths: Annotated[tuple[Literal[8, 10, 12], ...] | None, Field(description="where only some are offered")] = (
        None
    )
    bit_rates_mb_s: Annotated[tuple[float, ...] | None, Field(description="where only some are offered")] = None
    drive_codecs: Annotated[
        tuple[Id, ...], Field(max_length=10, description="codecs that this mode writes to an external drive only")
    ] = ()
    high_dynamic_range: bool = False
    still_mb: Annotated[
        float | None,
        Field(
            gt=0,
            le=2000,
            description="of a mode for interval films that keeps stills: megabytes each; else it is a film",
        ),
    ] = None
    power_w: Annotated[float, Field(ge=0, le=50, description="what the mode draws besides what its pixels do")] = 0.0


class Recorder(Frozen):
    """One way of recording with the same lenses: a phone's own recorder, or another that is worked by hand. What is left
    out is as the modes say."""

    id: Id
    name: Annotated[str, Field(min_length=1, max_length=80)]
    by_hand: Annotated[
        bool,
        Field(description="fixes shutter, gain and kelvins; else exposure and focus can only be locked, and together"),
    ] = True
    codecs: Annotated[tuple[Id, ...] | None, Field(max_length=10, description="where only some are offered")] = None
    profiles: Annotated[tuple[Id, ...] | None, Field(max_length=20, description="where only some are offered")] = None
    stabilisation: Annotated[tuple[Id, ...] | None, Field(max_length=20, description="where only some are offered")] = (
        None
    )
    high_dynamic_range: bool = True
    drive: Annotated[bool, Field(description="can write to an external drive")] = True


NO_SPARE_S = 1e-9  # of an exposure for which an interval leaves no time
UNTOLD_LONGEST_S = 1.0  # of a camera that is never set by hand and whose sheet does not tell


class Shutter(Frozen):
    """Exposure times."""

    fixed_s: Annotated[
        tuple[Annotated[float, BeforeValidator(read_seconds), Field(gt=1e-6, le=3600)], ...], Field(max_length=100)
    ]
    auto: bool
    auto_fastest_s: Annotated[float, BeforeValidator(read_seconds), Field(gt=1e-6, le=1)] = 1 / 8000
    auto_slowest_s: (
        Annotated[
            float,
            BeforeValidator(read_seconds),
            Field(
                gt=1e-6,
                le=3600,
                description="longest exposure that automatic takes; left out: the longest that can be set by hand",
            ),
        ]
        | None
    ) = None

    @property
    def longest_automatic_s(self) -> float:
        """Longest exposure that automatic takes, however long an interval is. Returns seconds."""
        if self.auto_slowest_s is not None:
            return self.auto_slowest_s
        return max(self.fixed_s, default=UNTOLD_LONGEST_S)


class Iso(Frozen):
    """Speeds between which automatic gain may move."""

    floors: Annotated[tuple[Annotated[int, Field(ge=10, le=1_000_000)], ...], Field(min_length=1, max_length=40)]
    ceilings: Annotated[tuple[Annotated[int, Field(ge=10, le=1_000_000)], ...], Field(min_length=1, max_length=40)]


CodeShare = Annotated[float, Field(ge=0, le=1)]
CurveStops = Annotated[float, Field(ge=-20, le=20)]


class Profile(Frozen):
    """A colour profile."""

    id: Id
    range_stops: Annotated[float, Field(gt=0, le=30, description="from the darkest usable tone to clipping")]
    shadow_lift_stops: Annotated[float, Field(ge=0, le=6, description="how far shadows are lifted")] = 0.0
    needs_grading_stops: Annotated[float, Field(ge=0, le=6, description="how far from a finished picture")] = 0.0
    curve: Annotated[
        tuple[tuple[CodeShare, CurveStops], ...] | None,
        Field(
            min_length=2,
            max_length=64,
            description="pairs of code and light: shares of the largest code, stops against mid grey, both rising",
        ),
    ] = None
    bit_depths: Annotated[tuple[Literal[8, 10, 12], ...], Field(min_length=1)]

    @field_validator("curve")
    @classmethod
    def _rising(cls, value: tuple[tuple[float, float], ...] | None) -> tuple[tuple[float, float], ...] | None:
        for (code, light), (next_code, next_light) in pairwise(value or ()):
            if next_code <= code or next_light <= light:
                raise ValueError(f"does not rise after code {code:g}; give codes and stops from dark to bright")
        return value


class Codec(Frozen):
    """A recording format."""

    id: Id
    bit_depths: Annotated[tuple[Literal[8, 10, 12], ...], Field(min_length=1)]
    bit_rates_mb_s: Annotated[tuple[Annotated[float, Field(gt=0, le=10_000)], ...], Field(min_length=1, max_length=20)]
    efficiency: Annotated[float, Field(gt=0, le=4, description="picture for its bits, the efficient codec being 1")]
    phone_edits: bool = True


class HighDynamicRange(Frozen):
    """Several exposures in one frame."""

    gain_stops: Annotated[float, Field(ge=0, le=6)]
    profiles: tuple[Id, ...]
    bit_depths: tuple[Literal[8, 10, 12], ...]
    fastest_fps: Rate


class FilterMount(Frozen):
    """What glass the camera takes."""

    fits: Id | None
    stack: Annotated[int, Field(ge=0, le=4, description="how many pieces at once")]


class Power(Frozen):
    """What the body draws."""

    base_w: Annotated[float, Field(ge=0, le=500)]
    per_gigapixel_s_w: Annotated[float, Field(ge=0, le=50)]
    battery_wh: Annotated[float, Field(gt=0, le=1000)]
    heat_k_per_w: Annotated[float, Field(gt=0, le=200)]
    heat_tau_s: Annotated[float, Field(gt=0, le=36_000)]
    heat_limit_c: Annotated[float, Field(gt=0, le=150)]
    mass_kg: Annotated[
        float | None,
        Field(gt=0, le=100, description="with it the time in which it warms follows, instead of heat_tau_s"),
    ] = None
    sun_area_m2: Annotated[float, Field(ge=0, le=2, description="of the face that the sun shines on")] = 0.0
    motors_w: Annotated[
        float, Field(ge=0, le=500, description="of base_w what motors draw: they are cooled by their own wind")
    ] = 0.0
    standby_w: Annotated[float, Field(ge=0, le=500)] | None = None
    positioning_w: Annotated[float, Field(ge=0, le=20)] = 0.0
    pre_record_w: Annotated[float, Field(ge=0, le=20)] = 0.0
    screen_w: Annotated[dict[Id, Annotated[float, Field(ge=0, le=20)]], Field(max_length=10)] = Field(
        default_factory=dict
    )
    chemistry: Id = "ordinary"
    reserve_share: Annotated[float, Field(ge=0, lt=1, description="charge kept back, such as for the way home")] = 0.0
    runs_on_bank: Annotated[bool, Field(description="can be fed from outside while it runs")] = True

    @property
    def tau_s(self) -> float:
        """Time in which the body goes two thirds of the way to its steady warmth, seconds: mass times heat capacity
        times thermal resistance where the mass is known."""
        if self.mass_kg is None:
            return self.heat_tau_s
        return self.mass_kg * HEAT_CAPACITY_J_KG_K * self.heat_k_per_w

    def warming_w(self, draw_w: Number, sun_w_m2: float) -> Number:
        """What warms the body. draw_w: all that it draws; sun_w_m2: that its face takes up. Returns watts."""
        return draw_w - self.motors_w + self.sun_area_m2 * sun_w_m2


HEAT_CAPACITY_J_KG_K = 900.0  # of plastic, aluminium and cells, about alike


class Memory(Frozen):
    """Storage that is built in."""

    capacity_gb: Annotated[float, Field(gt=0, le=100_000)]
    write_mb_s: Annotated[float, Field(gt=0, le=100_000, description="megabits per second that it holds")]


class Rule(Frozen):
    """A combination that is not offered: all the named dials at any of their named values."""

    never: Annotated[dict[str, tuple[str | float | bool, ...]], Field(min_length=1, max_length=6)]
    why: Annotated[str, Field(max_length=200)] = ""


class MenuDial(Frozen):
    """One entry of the menu."""

    dial: Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,59}$", description="id of a dial")]
    label: Annotated[str, Field(min_length=1, max_length=40)]
    values: dict[str, Annotated[str, Field(min_length=1, max_length=60)]] = Field(default_factory=dict)


class MenuPage(Frozen):
    """One page of the menu."""

    page: Annotated[str, Field(min_length=1, max_length=40)]
    dials: tuple[MenuDial, ...]


class SheetHabit(Frozen):
    """Something that is set once. id: as in the library of habits; page: of the menu where it stands; values: its own words for the options."""

    id: Id
    label: Annotated[str, Field(min_length=1, max_length=40)]
    page: Annotated[str, Field(min_length=1, max_length=40)]
    values: Annotated[
        dict[Annotated[str, Field(min_length=1, max_length=40)], Annotated[str, Field(min_length=1, max_length=60)]],
        Field(max_length=12),
    ] = Field(default_factory=dict)


class Taps(Frozen):
    """How often one has to tap or press, from the camera as it waits to the camera as it waits."""

    menu: Annotated[int, Field(ge=0, le=10, description="to open the menu and to leave it")] = 2
    page: Annotated[int, Field(ge=0, le=10, description="for each page to turn")] = 1
    entry: Annotated[int, Field(ge=0, le=10, description="to open an entry")] = 1
    value: Annotated[int, Field(ge=0, le=10, description="to choose a value")] = 1
    preset: Annotated[int, Field(ge=0, le=10, description="to call a stored preset")] = 2
    quick: Annotated[int, Field(ge=0, le=10, description="to change what lies on a quick button")] = 2


class Estimate(Frozen):
    """A number of the sheet that nobody has measured or read, and between what it may lie."""

    field: Annotated[
        str,
        Field(min_length=1, max_length=120, description="path of the number, such as lenses[0].sensor.read_noise_e"),
    ]
    low: float | None = None
    high: float | None = None
    how: Annotated[str, Field(min_length=1, max_length=300, description="where it comes from")]

    @property
    def matter(self) -> str:
        """What it belongs to, so that estimates of one matter are tried together: its part and its last name."""
        parts = [re.sub(r"\[\d+\]", "", part) for part in self.field.split(".")]
        return MATTERS.get(parts[-1], MATTERS.get(parts[0], "other"))


# What an estimated number is about, by its last name or its part.
MATTERS = {
    "quantum_efficiency": "noise",
    "read_noise_e": "noise",
    "full_well_e": "noise",
    "pixel_pitch_um": "noise",
    "noise_reduction": "noise",
    "sampling": "noise",
    "transmission": "noise",
    "readout_ms": "readout",
    "heat_k_per_w": "heat",
    "heat_tau_s": "heat",
    "heat_limit_c": "heat",
    "power": "power",
    "views": "view",
    "fields_deg": "view",
    "stabilisation": "stabilisation",
    "profiles": "colour",
    "codecs": "recording",
    "f_numbers": "aperture",
    "metering_bias_stops": "metering",
}


ONLY_WAY = (Recorder(id="own", name="built-in"),)


class CameraSheet(Frozen):
    """All that the planner knows of a camera."""

    format: Literal["steady-tide/camera-sheet"]
    version: Annotated[
        Literal[1, 2], Field(description="2: what a view keeps agrees with its field; 1 is taken as it was written")
    ]
    id: Id
    name: Annotated[str, Field(min_length=1, max_length=80)]
    kind: Literal["action", "drone", "phone", "other"]
    note: Annotated[str, Field(max_length=2000)] = ""
    edition: Annotated[
        int, Field(ge=1, le=1_000_000, description="counts up with each change, so that plans can keep theirs")
    ] = 1
    metering_bias_stops: Annotated[float, Field(ge=-3, le=3, description="how far the meter exposes too much")] = 0.0
    lenses: Annotated[tuple[Lens, ...], Field(min_length=1, max_length=10)]
    views: Annotated[tuple[View, ...], Field(min_length=1, max_length=20)]
    stabilisation: Annotated[tuple[Steadying, ...], Field(min_length=1, max_length=20)]
    modes: Annotated[tuple[Mode, ...], Field(min_length=1, max_length=400)]
    recorders: Annotated[
        tuple[Recorder, ...], Field(max_length=6, description="ways of recording; left out: one, worked by hand")
    ] = ()
    shutter: Shutter
    iso: Iso
    compensation_stops: Annotated[tuple[Annotated[float, Field(ge=-5, le=5)], ...], Field(min_length=1, max_length=60)]
    balance_k: Annotated[tuple[Annotated[int, Field(ge=1000, le=20_000)], ...], Field(max_length=200)]
    balance_automatic: bool = True
    balance_raw: Annotated[bool, Field(description="offers the sensor's own balance, for those who grade")] = False
    red_gain_stops: Annotated[
        tuple[Annotated[float, Field(ge=0, le=4)], ...],
        Field(min_length=1, max_length=12, description="how far red can be raised by itself; 0 is off"),
    ] = (0.0,)
    interval_write_s: Annotated[float, Field(ge=0, le=60, description="pause between frames of an interval film")] = 0.0
    profiles: Annotated[tuple[Profile, ...], Field(min_length=1, max_length=20)]
    codecs: Annotated[tuple[Codec, ...], Field(min_length=1, max_length=10)]
    sharpness: Annotated[tuple[Literal["low", "medium", "high"], ...], Field(min_length=1)]
    high_dynamic_range: HighDynamicRange | None = None
    wind_reduction: Annotated[tuple[Literal["off", "automatic", "on"], ...], Field(min_length=1)]
    sound_track: Annotated[tuple[Literal["off", "on"], ...], Field(min_length=1, description="separate sound file")] = (
        "off",
    )
    microphone_in: Annotated[
        Literal["none", "jack", "adapter"], Field(description="whether an outside microphone can be plugged in")
    ] = "none"
    pre_record_s: Annotated[
        tuple[Annotated[float, Field(ge=0, le=600)], ...],
        Field(min_length=1, max_length=10, description="seconds kept from before the start; 0 is off"),
    ] = (0,)
    positioning: Annotated[tuple[Literal["off", "on"], ...], Field(min_length=1)] = ("off",)
    screens: Annotated[tuple[Literal["off", "back", "both"], ...], Field(min_length=1)] = ("back",)
    rules: Annotated[tuple[Rule, ...], Field(max_length=100)] = ()
    mounts: Annotated[
        tuple[Id, ...] | None, Field(max_length=40, description="ways in which it can be held; left out: all")
    ] = None
    filter_mount: FilterMount
    power: Power
    memory: Memory | None = None
    card_min_mb_s: Annotated[
        float | None, Field(gt=0, le=10_000, description="megabits per second; left out: it takes no card")
    ] = None
    clip_limit_min: Annotated[float, Field(gt=0, le=10_000)] | None = None
    proof_depth_m: Annotated[float, Field(ge=0, le=1000)] = 0.0
    preset_count: Annotated[int, Field(ge=0, le=100, description="how many settings it stores under a name")] = 0
    quick_buttons: Annotated[int, Field(ge=0, le=20, description="dials that can be laid on a button of their own")] = 0
    taps: Taps = Taps()
    menu: Annotated[tuple[MenuPage, ...], Field(max_length=40)] = ()
    habits: Annotated[
        tuple[SheetHabit, ...], Field(max_length=40, description="what is set once, where it stands in the menu")
    ] = ()
    estimates: Annotated[
        tuple[Estimate, ...], Field(max_length=2000, description="numbers that are not known but estimated")
    ] = ()

    @model_validator(mode="before")
    @classmethod
    def _todays_views(cls, doc: Any) -> Any:
        return todays_sheet(doc)

    @property
    def ways(self) -> tuple[Recorder, ...]:
        """Ways of recording: those named, or the only one."""
        return self.recorders or ONLY_WAY

    def between_frames_s(self, interval_s: float) -> float:
        """Longest exposure that an interval film leaves. interval_s: from frame to frame. Returns seconds, above 0."""
        return max(interval_s - self.interval_write_s, NO_SPARE_S)

    def views_through(self, lens: Lens) -> tuple[View, ...]:
        """Views that some mode shows through a lens; all where no mode has it."""
        shown = {view for mode in self.modes if mode.lens == lens.id for view in mode.views}
        return tuple(view for view in self.views if view.id in shown) or self.views

    def keeps_by_geometry(self, lens: Lens, view: View) -> float:
        """Share of the width that a view uses through a lens, by its field against that of the widest. Returns a share."""
        views = self.views_through(lens)
        widest = max(views, key=lambda entry: lens.fields_deg.get(entry.id, entry.field_deg))
        of_widest = lens.fields_deg.get(widest.id, widest.field_deg)
        share = kept_share(lens.fields_deg.get(view.id, view.field_deg), of_widest, widest.projection, view.projection)
        return min(1.0, share)

    def keeps(self, lens: Lens, view: View) -> float:
        """Share of the width that a view uses through a lens: as the sheet says, or by geometry. Returns a share."""
        return self.keeps_by_geometry(lens, view) if view.keeps is None else view.keeps

    @property
    def mode_count(self) -> int:
        """Legal pairs of frame size and rate."""
        return sum(len(mode.rates) for mode in self.modes)

    def labels(self) -> dict[str, MenuDial]:
        """The menu's own words for each dial that it lists."""
        return {entry.dial: entry for page in self.menu for entry in page.dials}
