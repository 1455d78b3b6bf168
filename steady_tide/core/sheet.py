"""The camera sheet: what one camera can do, and every limit among it, in its own menu order."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Field, ValidationError

from steady_tide.core.errors import BadSheet, Fault
from steady_tide.core.frozen import Frozen, faults_of
from steady_tide.core.optics import Projection
from steady_tide.core.stops import read_seconds

Id = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9_.-]{0,59}$")]
Share = Annotated[float, Field(gt=0, le=1)]
Rate = Annotated[float, Field(ge=1, le=2000)]
Pixels = Annotated[int, Field(ge=16, le=32_768)]

# Every dial that a sheet's menu may list, in the order in which a plan names them.
DIALS = (
    "frame",
    "frame_rate",
    "view",
    "stabilisation",
    "shutter_s",
    "iso_floor",
    "iso_ceiling",
    "nd",
    "exposure_compensation",
    "white_balance_k",
    "profile",
    "bit_depth",
    "sharpness",
    "high_dynamic_range",
    "codec",
    "bit_rate_mb_s",
    "wind_reduction",
)


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
    focus: Literal["fixed", "automatic", "manual"]
    sensor: Sensor


class View(Frozen):
    """One way of cutting the lens's image."""

    id: Id
    projection: Projection
    field_deg: Annotated[float, Field(gt=1, lt=180, description="across the full width of the sensor, unsteadied")]
    keeps: Annotated[Share, Field(description="linear share of the width that is used")]
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
    rates: Annotated[tuple[Rate, ...], Field(min_length=1, max_length=40)]
    window_px: Annotated[tuple[Pixels, Pixels], Field(description="part of the sensor that is read, width and height")]
    sampling: Annotated[Share, Field(description="share of the photosites in the window that is read")] = 1.0
    noise_reduction: Annotated[
        float, Field(ge=1, le=4, description="gain in signal to noise from in-camera reduction")
    ] = 1.0
    views: Annotated[tuple[Id, ...], Field(min_length=1, max_length=20)]
    stabilisation: Annotated[tuple[Id, ...], Field(min_length=1, max_length=20)]
    codecs: Annotated[tuple[Id, ...], Field(min_length=1, max_length=10)]
    high_dynamic_range: bool = False


class Shutter(Frozen):
    """Exposure times."""

    fixed_s: Annotated[
        tuple[Annotated[float, BeforeValidator(read_seconds), Field(gt=1e-6, le=3600)], ...], Field(max_length=100)
    ]
    auto: bool
    auto_fastest_s: Annotated[float, BeforeValidator(read_seconds), Field(gt=1e-6, le=1)] = 1 / 8000


class Iso(Frozen):
    """Speeds between which automatic gain may move."""

    floors: Annotated[tuple[Annotated[int, Field(ge=10, le=1_000_000)], ...], Field(min_length=1, max_length=40)]
    ceilings: Annotated[tuple[Annotated[int, Field(ge=10, le=1_000_000)], ...], Field(min_length=1, max_length=40)]


class Profile(Frozen):
    """A colour profile."""

    id: Id
    range_stops: Annotated[float, Field(gt=0, le=30, description="from the darkest usable tone to clipping")]
    shadow_lift_stops: Annotated[float, Field(ge=0, le=6, description="how far shadows are lifted")] = 0.0
    needs_grading_stops: Annotated[float, Field(ge=0, le=6, description="how far from a finished picture")] = 0.0
    bit_depths: Annotated[tuple[Literal[8, 10, 12], ...], Field(min_length=1)]


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

    base_w: Annotated[float, Field(ge=0, le=50)]
    per_gigapixel_s_w: Annotated[float, Field(ge=0, le=50)]
    battery_wh: Annotated[float, Field(gt=0, le=1000)]
    heat_k_per_w: Annotated[float, Field(gt=0, le=200)]
    heat_tau_s: Annotated[float, Field(gt=0, le=36_000)]
    heat_limit_c: Annotated[float, Field(gt=0, le=150)]


class MenuDial(Frozen):
    """One entry of the menu."""

    dial: Literal[DIALS]  # type: ignore[valid-type]
    label: Annotated[str, Field(min_length=1, max_length=40)]
    values: dict[str, Annotated[str, Field(min_length=1, max_length=60)]] = Field(default_factory=dict)


class MenuPage(Frozen):
    """One page of the menu."""

    page: Annotated[str, Field(min_length=1, max_length=40)]
    dials: tuple[MenuDial, ...]


class CameraSheet(Frozen):
    """All that the planner knows of a camera."""

    format: Literal["steady-tide/camera-sheet"]
    version: Literal[1]
    id: Id
    name: Annotated[str, Field(min_length=1, max_length=80)]
    kind: Literal["action", "drone", "phone", "other"]
    note: Annotated[str, Field(max_length=2000)] = ""
    metering_bias_stops: Annotated[float, Field(ge=-3, le=3, description="how far the meter exposes too much")] = 0.0
    lenses: Annotated[tuple[Lens, ...], Field(min_length=1, max_length=10)]
    views: Annotated[tuple[View, ...], Field(min_length=1, max_length=20)]
    stabilisation: Annotated[tuple[Steadying, ...], Field(min_length=1, max_length=20)]
    modes: Annotated[tuple[Mode, ...], Field(min_length=1, max_length=400)]
    shutter: Shutter
    iso: Iso
    compensation_stops: Annotated[tuple[Annotated[float, Field(ge=-5, le=5)], ...], Field(min_length=1, max_length=60)]
    balance_k: Annotated[tuple[Annotated[int, Field(ge=1000, le=20_000)], ...], Field(max_length=200)]
    balance_automatic: bool = True
    profiles: Annotated[tuple[Profile, ...], Field(min_length=1, max_length=20)]
    codecs: Annotated[tuple[Codec, ...], Field(min_length=1, max_length=10)]
    sharpness: Annotated[tuple[Literal["low", "medium", "high"], ...], Field(min_length=1)]
    high_dynamic_range: HighDynamicRange | None = None
    wind_reduction: Annotated[tuple[Literal["off", "automatic", "on"], ...], Field(min_length=1)]
    filter_mount: FilterMount
    power: Power
    card_min_mb_s: Annotated[float, Field(gt=0, le=10_000)]
    clip_limit_min: Annotated[float, Field(gt=0, le=10_000)] | None = None
    proof_depth_m: Annotated[float, Field(ge=0, le=1000)] = 0.0
    preset_count: Annotated[int, Field(ge=0, le=100)] = 0
    menu: Annotated[tuple[MenuPage, ...], Field(max_length=40)] = ()

    @property
    def mode_count(self) -> int:
        """Legal pairs of frame size and rate."""
        return sum(len(mode.rates) for mode in self.modes)

    def labels(self) -> dict[str, MenuDial]:
        """The menu's own words for each dial that it lists."""
        return {entry.dial: entry for page in self.menu for entry in page.dials}


def read_sheet(data: Any, name: str = "") -> CameraSheet:
    """Read a camera sheet from decoded JSON.

    data: a mapping in the published format; name: of the file, for messages.
    Returns the sheet. Raises BadSheet with the path of every fault, of form or of sense.
    """
    prefix = (name,) if name else ()
    if not isinstance(data, dict):
        raise BadSheet(
            Fault(name, "a camera sheet is a JSON object", 'Begin with {"format": "steady-tide/camera-sheet", ...}.')
        )
    try:
        sheet = CameraSheet.model_validate(data)
    except ValidationError as error:
        raise BadSheet(*faults_of(error, prefix)) from None
    faults = tuple(contradictions(sheet))
    if faults:
        raise BadSheet(*(Fault(f"{name}.{f.where}" if name else f.where, f.what, f.mend) for f in faults))
    return sheet


def contradictions(sheet: CameraSheet) -> Iterator[Fault]:
    """Find what a sheet says against itself.

    sheet: a sheet of good form. Yields a fault for each contradiction.
    """
    for field in ("lenses", "views", "stabilisation", "profiles", "codecs"):
        counts = Counter(entry.id for entry in getattr(sheet, field))
        for index, entry in enumerate(getattr(sheet, field)):
            if counts[entry.id] > 1:
                yield Fault(f"{field}[{index}].id", f"'{entry.id}' stands more than once", "Give each its own id.")
    yield from _list_faults(sheet)
    yield from _mode_faults(sheet)
    yield from _reference_faults(sheet)


def _list_faults(sheet: CameraSheet) -> Iterator[Fault]:
    lists: dict[str, tuple[Any, ...]] = {
        "shutter.fixed_s": sheet.shutter.fixed_s,
        "iso.floors": sheet.iso.floors,
        "iso.ceilings": sheet.iso.ceilings,
        "compensation_stops": sheet.compensation_stops,
        "balance_k": sheet.balance_k,
        "sharpness": sheet.sharpness,
        "wind_reduction": sheet.wind_reduction,
    }
    for where, values in lists.items():
        for index, value in enumerate(values):
            if value in values[:index]:
                yield Fault(f"{where}[{index}]", f"{value} stands more than once", "Remove one.")
    if not sheet.shutter.fixed_s and not sheet.shutter.auto:
        yield Fault("shutter", "offers neither a fixed exposure nor an automatic one", "Give one of them.")
    if min(sheet.iso.floors) > max(sheet.iso.ceilings):
        yield Fault("iso", "every floor is above every ceiling", "Lower a floor or raise a ceiling.")
    if not sheet.balance_k and not sheet.balance_automatic:
        yield Fault("balance_k", "there is neither a fixed balance nor an automatic one", "Give one of them.")


def _mode_faults(sheet: CameraSheet) -> Iterator[Fault]:
    lenses = {lens.id: lens for lens in sheet.lenses}
    known = {
        "views": {view.id for view in sheet.views},
        "stabilisation": {level.id for level in sheet.stabilisation},
        "codecs": {codec.id for codec in sheet.codecs},
    }
    seen: dict[tuple[str, int, int, float], int] = {}
    for index, mode in enumerate(sheet.modes):
        where = f"modes[{index}]"
        for field, ids in known.items():
            for place, value in enumerate(getattr(mode, field)):
                if value not in ids:
                    yield Fault(
                        f"{where}.{field}[{place}]",
                        f"'{value}' is not among the sheet's {field}",
                        f"Use one of {', '.join(sorted(ids))}.",
                    )
        lens = lenses.get(mode.lens)
        if lens is None:
            yield Fault(
                f"{where}.lens",
                f"'{mode.lens}' is not among the sheet's lenses",
                f"Use one of {', '.join(sorted(lenses))}.",
            )
            continue
        yield from _window_faults(where, mode, lens)
        for place, rate in enumerate(mode.rates):
            key = (mode.lens, mode.width, mode.height, rate)
            if key in seen:
                yield Fault(
                    f"{where}.rates[{place}]",
                    f"{mode.width} x {mode.height} at {rate:g} fps stands in modes[{seen[key]}] already",
                    "Keep it in one place.",
                )
            seen[key] = index


def _window_faults(where: str, mode: Mode, lens: Lens) -> Iterator[Fault]:
    sensor, (wide, high) = lens.sensor, mode.window_px
    if wide > sensor.width_px or high > sensor.height_px:
        yield Fault(
            f"{where}.window_px",
            f"{wide} x {high} is larger than the sensor, {sensor.width_px} x {sensor.height_px}",
            "Give the part that is read.",
        )
    if mode.width > wide or mode.height > high:
        yield Fault(
            f"{where}.width",
            f"{mode.width} x {mode.height} pixels cannot come from a window of {wide} x {high}",
            "Give the true window, or the size before enlarging.",
        )
    reading_s = sensor.readout_ms / 1000.0 * high / sensor.height_px * mode.sampling
    fastest = max(mode.rates)
    if reading_s * fastest > 1.0 + 1e-9:
        yield Fault(
            f"{where}.rates[{mode.rates.index(fastest)}]",
            f"{fastest:g} fps leaves {1000 / fastest:.1f} ms, but reading this window takes {1000 * reading_s:.1f} ms",
            "Lower the rate, the window, the sampling or the sensor's readout_ms.",
        )


def _reference_faults(sheet: CameraSheet) -> Iterator[Fault]:
    profiles = {profile.id for profile in sheet.profiles}
    depths = {depth for codec in sheet.codecs for depth in codec.bit_depths}
    for index, profile in enumerate(sheet.profiles):
        if not depths.intersection(profile.bit_depths):
            yield Fault(
                f"profiles[{index}].bit_depths",
                "no codec records any of these depths",
                f"Codecs record {sorted(depths)} bit.",
            )
    for index, name in enumerate(sheet.high_dynamic_range.profiles if sheet.high_dynamic_range else ()):
        if name not in profiles:
            yield Fault(
                f"high_dynamic_range.profiles[{index}]",
                f"'{name}' is not among the sheet's profiles",
                f"Use one of {', '.join(sorted(profiles))}.",
            )
    listed: dict[str, str] = {}
    for page_index, page in enumerate(sheet.menu):
        for dial_index, entry in enumerate(page.dials):
            where = f"menu[{page_index}].dials[{dial_index}].dial"
            if entry.dial in listed:
                yield Fault(where, f"'{entry.dial}' stands at {listed[entry.dial]} already", "Keep it in one place.")
            listed[entry.dial] = where
