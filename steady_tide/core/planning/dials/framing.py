"""Dials of the picture: frame, rate, interval, lens, view, stabilisation."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.gear.attachments import before_lens, lens_behind
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.comparison import Comparison
from steady_tide.core.planning.dials.dial_kind import AT_SPEED, NONE, DialKind
from steady_tide.core.planning.space import Pictures

Values = NDArray[Any]
FILM, STILLS = "film", "stills"  # as what an interval film is kept


def _frames(sheet: CameraSheet, pictures: Pictures) -> Values:
    return np.array([f"{mode.width}x{mode.height}" for mode in sheet.modes])[pictures.mode]


def _intervals(sheet: CameraSheet, pictures: Pictures) -> Values:
    return np.array([AT_SPEED if s != s else s for s in pictures.interval_s.tolist()], dtype=object)


def _by_size(frame: str) -> tuple[int, ...]:
    return tuple(int(side) for side in frame.split("x"))


def _pixels(_: Any, __: Any, frame: str) -> dict[str, Any]:
    width, height = _by_size(frame)
    return {"width": width, "height": height}


def _rate_lead(told: Comparison, item: str) -> tuple[str, dict[str, Any]] | None:
    if item not in ("slow_motion", "spare_frames", "cadence"):
        return None
    delivery = told.at.brief.delivery
    case = "slowed" if delivery.slow_factor > 1 else "plain"
    return case, {"timeline_fps": delivery.fps, "slow_factor": delivery.slow_factor}


def _lens_lead(told: Comparison, item: str) -> tuple[str, dict[str, Any]] | None:
    return ("shows", {"field_deg": told.ours.field_deg}) if item in ("view", "bend", "softness") else None


FRAMING_DIALS = (
    DialKind(
        id="frame", block="pictures", word="resolution", form="frame", row="frame",
        tied_by_rules=lambda sheet: {f"{mode.width}x{mode.height}" for mode in sheet.modes},
        read=_frames, key=_by_size, writes=_pixels,
        tied="{rival} has the pixels and the shape for this delivery, too.",
    ),
    DialKind(
        id="recorder", block="pictures", word="recording app", form="things", row="recorder",
        read=lambda sheet, pictures: np.array([way.id for way in sheet.ways])[pictures.recorder],
        order=lambda sheet: [way.id for way in sheet.ways],
    ),
    DialKind(
        id="frame_rate", block="pictures", word="frame rate", form="rate", row="rate",
        tied_by_rules=lambda sheet: {rate for mode in sheet.modes for rate in mode.rates},
        read=lambda sheet, pictures: pictures.rate, key=float,
        lead=_rate_lead,
        leads={
            "plain": "The timeline is {timeline_fps:fps}.",
            "slowed": "The timeline is {timeline_fps:fps}, slowed {slow_factor:times}.",
        },
    ),
    DialKind(
        id="interval_s", block="pictures", word="interval", form="interval", row="rate",
        tied_by_rules=lambda sheet: {seconds for mode in sheet.modes for seconds in mode.intervals_s},
        read=_intervals, key=lambda seconds: 0.0 if seconds == AT_SPEED else seconds,
        writes=lambda _, __, seconds: {"interval_s": None if seconds == AT_SPEED else seconds},
        settled=lambda at, space: not at.lapse,
        tied="{rival} fills the time on the screen, too.",
        only={AT_SPEED: "It has no interval mode."},
    ),
    DialKind(
        id="kept_as", block="pictures", word="kept as", form="word", row="rate", phrase="kept as {value}",
        read=lambda sheet, pictures: np.where(np.isnan(pictures.still_mb), FILM, STILLS),
        order=lambda _: [FILM, STILLS],
        settled=lambda at, space: not at.lapse,
        only={FILM: "It keeps a film."},
    ),
    DialKind(
        id="lens", block="pictures", word="lens", form="spaced", row="view", phrase="the {value} lens",
        tied_by_rules=lambda sheet: {lens.id for lens in sheet.lenses},
        read=lambda sheet, pictures: np.array([lens_behind(lens.id) for lens in sheet.lenses])[pictures.lens],
        order=lambda sheet: list(dict.fromkeys(lens_behind(lens.id) for lens in sheet.lenses)),
        lead=_lens_lead, leads={"shows": "It shows {field_deg:degrees}."},
    ),
    DialKind(
        id="attachment", block="pictures", word="attachment", form="things", row="view", by_hand=True, nothing="none",
        read=lambda sheet, pictures: np.array([before_lens(lens.id) or NONE for lens in sheet.lenses])[pictures.lens],
        order=lambda sheet: list(dict.fromkeys(before_lens(lens.id) or NONE for lens in sheet.lenses)),
        writes=lambda _, __, put: {"attachment": None if put == NONE else put},
        only={NONE: "Nothing at hand goes before its lens here."},
    ),
    DialKind(
        id="view", block="pictures", word="field of view", form="word", row="view", phrase="the {value} view",
        tied="{rival} frames it, too.",
        tied_by_rules=lambda sheet: {view.id for view in sheet.views},
        read=lambda sheet, pictures: np.array([view.id for view in sheet.views])[pictures.view],
        order=lambda sheet: [view.id for view in sheet.views],
    ),
    DialKind(
        id="stabilisation", block="pictures", word="stabilisation", form="word", row="steadying",
        tied_by_rules=lambda sheet: {level.id for level in sheet.stabilisation},
        read=lambda sheet, pictures: np.array([level.id for level in sheet.stabilisation])[pictures.steadying],
        order=lambda sheet: [level.id for level in sheet.stabilisation],
        phrase="stabilisation {value}",
    ),
    DialKind(
        id="width", block="pictures", word="width", form="plain", listed=False,
        read=lambda sheet, pictures: pictures.width_px.astype(int), writes=lambda *_: {},
    ),
    DialKind(
        id="height", block="pictures", word="height", form="plain", listed=False,
        read=lambda sheet, pictures: pictures.height_px.astype(int), writes=lambda *_: {},
    ),
)  # fmt: skip
