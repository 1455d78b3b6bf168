"""Editing on a phone: what it takes easily, and bars around a picture of another shape, to the pixel."""

from __future__ import annotations

from steady_tide.core.brief.brief import Brief
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.rushes.clip_plan import ClipPlan

PHONE_LONG, PHONE_SHORT = 1920, 1080  # of the frame that phones cut easily


class Bars(Frozen):
    """A picture whole in a frame of another shape. frame, picture: width and height; bar: of each of the two bars, pixels; beside: whether they stand left
    and right."""

    shape: str
    within: str
    frame: tuple[int, int]
    picture: tuple[int, int]
    bar: int
    beside: bool


class PhoneEdit(Frozen):
    """For who edits on a phone. frame: to switch to; smaller: whether what is recorded is larger; codec: an older one that the camera has, None where it
    need not change; bars: of each shape in each other one."""

    frame: tuple[int, int]
    smaller: bool
    codec: str | None
    bars: tuple[Bars, ...]


def phone_edit(brief: Brief, plan: ClipPlan, sheet: CameraSheet | None, shapes: tuple[str, ...]) -> PhoneEdit:
    """What eases an edit on a phone. brief, plan: of a shot; sheet: of its camera; shapes: of the film, the main one first. Returns it."""
    upright = brief.delivery.height > brief.delivery.width
    frame = (PHONE_SHORT, PHONE_LONG) if upright else (PHONE_LONG, PHONE_SHORT)
    codec = None
    if sheet is not None:
        now = next((one for one in sheet.codecs if one.id == plan.settings.codec), None)
        older = next((one.id for one in sheet.codecs if one.phone_edits), None)
        codec = older if now is not None and not now.phone_edits else None
    return PhoneEdit(
        frame=frame,
        smaller=max(plan.settings.width, plan.settings.height) > PHONE_LONG,
        codec=codec,
        bars=tuple(bars_of(shapes[0], other) for other in shapes[1:]),
    )


def bars_of(shape: str, within: str) -> Bars:
    """A picture of one shape whole in a frame of another. shape, within: such as 16:9 and 9:16. Returns whole, even pixels that fill the frame."""
    wide, high = (int(part) for part in shape.split(":"))
    frame_wide, frame_high = (int(part) for part in within.split(":"))
    if frame_wide >= frame_high:
        frame = (_even(PHONE_SHORT * frame_wide / frame_high), PHONE_SHORT)
    else:
        frame = (PHONE_SHORT, _even(PHONE_SHORT * frame_high / frame_wide))
    beside = wide * frame_high < high * frame_wide
    if beside:
        picture = (_even(frame[1] * wide / high), frame[1])
        bar = (frame[0] - picture[0]) // 2
    else:
        picture = (frame[0], _even(frame[0] * high / wide))
        bar = (frame[1] - picture[1]) // 2
    return Bars(shape=shape, within=within, frame=frame, picture=picture, bar=bar, beside=beside)


def _even(value: float) -> int:
    return 2 * round(value / 2.0)
