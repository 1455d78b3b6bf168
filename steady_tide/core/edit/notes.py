"""Notes for the edit: what is done to each clip, in steps with values; the same for all that share their settings; what cannot be mended."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil, pi, sqrt
from typing import Any

from pydantic import Field

from steady_tide.core.brief.brief import Brief
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.edit.correcting import Correction, corrected, together
from steady_tide.core.log.take import TakeFields
from steady_tide.core.physics.motion import excursion_deg
from steady_tide.core.planning.slow_motion import cadence
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.limits import Limits
from steady_tide.core.rushes.clip_plan import ClipPlan
from steady_tide.core.rushes.measures import ClipMeasures
from steady_tide.core.rushes.timeline import Timeline
from steady_tide.core.rushes.verdict import verdict
from steady_tide.core.shoot.film import Framing
from steady_tide.core.story.sketch import Crop, crop_of

LOST = (
    "blown", "drowned", "smear_px", "edge_px", "focus_px", "flicker", "repeated", "gaps", "spots", "clipped", "damaged",
    "no_sound", "set/frame_rate",
)  # fmt: skip


class Denoise(Frozen):
    """How much noise is taken out. frames: that are joined; radius_px: within a frame, recorded pixels; short: how many times less noise is
    wanted."""

    frames: int
    radius_px: float
    short: float


class Sharpen(Frozen):
    """How much is sharpened. radius_px: recorded pixels; amount: 0 to 1."""

    radius_px: float
    amount: float


class Speed(Frozen):
    """How fast a clip is played. percent: of life; steps: from shown frame to shown frame, 0 where one is shown again; even: whether no frame
    is repeated or left out."""

    percent: float
    capture_fps: float
    timeline_fps: float
    steps: tuple[int, ...]
    even: bool


class Window(Frozen):
    """A cut of the recorded frame. left, top, width, height: pixels."""

    shape: str
    left: int
    top: int
    width: int
    height: int


class SoundNote(Frozen):
    """What is done to the sound. gain_db: to what places play at; limited_db: by how much peaks have to be held; cut_hz: below which it is cut
    for the wind, None where it is not."""

    gain_db: float
    limited_db: float
    cut_hz: float | None


class Lost(Frozen):
    """What cannot be mended. facts: quantities of its sentence."""

    code: str
    amount: float
    facts: dict[str, Any] = Field(default_factory=dict)


class ClipNote(Frozen):
    """What the edit does to a clip, or to what is planned where there is none yet. number: of the shot in its shoot; take: key of the take; group:
    letter; rest: what it needs beside its group; turn_deg: to level it; steady_share: of the frame that stabilisation afterwards costs, None where it is left
    as it is."""

    shot: str
    number: int
    title: str
    take: str | None
    take_number: int | None
    file: str | None
    camera: str
    camera_name: str
    profile: str
    group: str
    correction: Correction
    rest: Correction | None
    denoise: Denoise | None
    sharpen: Sharpen | None
    speed: Speed
    steady_share: float | None
    turn_deg: float | None
    windows: tuple[Window, ...]
    sound: SoundNote | None
    lost: tuple[Lost, ...]


class Group(Frozen):
    """Clips that share their settings, and so their correction. settings: what they share."""

    letter: str
    settings: dict[str, Any]
    correction: Correction
    clips: int
    measured: int


class EditNotes(Frozen):
    """All notes of a shoot. without: shots that no camera can film."""

    groups: tuple[Group, ...]
    clips: tuple[ClipNote, ...]
    without: tuple[str, ...]


@dataclass(frozen=True)
class EditTake:
    """A take that may be cut in. number: among the takes of its shot; plan: that it was filmed by; file: its clip's name."""

    key: str
    number: int
    said: TakeFields
    plan: ClipPlan | None = None
    measures: ClipMeasures | None = None
    timeline: Timeline | None = None
    file: str | None = None


@dataclass(frozen=True)
class EditShot:
    """A shot with its takes. number: in its shoot, from 1; crops: of its sketch, where it is a framing."""

    key: str
    number: int
    title: str
    brief: Brief
    plan: ClipPlan | None
    framing: Framing | None = None
    crops: tuple[Crop, ...] = ()
    takes: tuple[EditTake, ...] = ()

    @property
    def good(self) -> tuple[EditTake, ...]:
        """Takes that are worth a note: kept ones, else those that may be."""
        for rating in ("keep", "maybe"):
            found = tuple(take for take in self.takes if take.said.rating == rating)
            if found:
                return found
        return ()


@dataclass(frozen=True)
class _Clip:
    shot: EditShot
    take: EditTake | None
    plan: ClipPlan

    @property
    def measures(self) -> ClipMeasures | None:
        return None if self.take is None else self.take.measures


def notes_of(shots: Sequence[EditShot], knowledge: Knowledge) -> EditNotes:
    """Work out the notes of a shoot.

    shots: with their takes; knowledge: limits and mounts. Where a take was measured, its measures count, else the plan. Returns notes, group by
    group.
    """
    limits = knowledge.limits
    clips = [
        _Clip(shot, take, (take.plan if take and take.plan else shot.plan))
        for shot in shots
        if shot.plan is not None
        for take in (shot.good or (None,))
    ]
    corrections = [corrected(clip.measures, clip.plan, limits) for clip in clips]
    keys = [_shared(clip.plan) for clip in clips]
    letters = {key: _letter(place) for place, key in enumerate(dict.fromkeys(keys))}
    groups = {}
    for key, letter in letters.items():
        mine = [one for one, of in zip(corrections, keys, strict=True) if of == key]
        measured = [one for one in mine if one.of == "measures"]
        groups[letter] = Group(
            letter=letter,
            settings=dict(key),
            correction=together(measured or mine),
            clips=len(mine),
            measured=len(measured),
        )
    return EditNotes(
        groups=tuple(groups.values()),
        clips=tuple(
            _note(clip, one, groups[letters[key]], knowledge)
            for clip, one, key in zip(clips, corrections, keys, strict=True)
        ),
        without=tuple(shot.title for shot in shots if shot.plan is None),
    )


Key = tuple[tuple[str, Any], ...]


def _shared(plan: ClipPlan) -> Key:
    """What clips share that are corrected alike."""
    settings = plan.settings
    balance = settings.white_balance_k if settings.white_balance == "locked" else settings.white_balance
    return (
        ("camera", plan.camera_name),
        ("lens", settings.lens),
        ("profile", settings.profile),
        ("white_balance", balance),
        ("nd", settings.nd),
        ("colour_filter", settings.colour_filter),
        ("compensation", settings.exposure_compensation),
    )


def _letter(place: int) -> str:
    letter = ""
    place += 1
    while place:
        place, left = divmod(place - 1, 26)
        letter = chr(ord("A") + left) + letter
    return letter


def _note(clip: _Clip, own: Correction, group: Group, knowledge: Knowledge) -> ClipNote:
    limits, plan, shot, take = knowledge.limits, clip.plan, clip.shot, clip.take
    measures = clip.measures
    findings = () if measures is None else verdict(measures, plan, limits).findings
    tilt = None if measures is None else measures.horizon.tilt_deg
    return ClipNote(
        shot=shot.key,
        number=shot.number,
        title=shot.title,
        take=None if take is None else take.key,
        take_number=None if take is None else take.number,
        file=None if take is None else take.file,
        camera=plan.camera,
        camera_name=plan.camera_name,
        profile=plan.settings.profile,
        group=group.letter,
        correction=group.correction,
        rest=_rest(own, group.correction, limits),
        denoise=_denoise(measures, plan, limits),
        sharpen=_sharpen(measures, plan, limits),
        speed=_speed(shot.brief, plan),
        steady_share=_steady(shot.brief, measures, plan, knowledge),
        turn_deg=-tilt if tilt is not None and abs(tilt) >= limits.rushes_tilt_deg_noticed else None,
        windows=windows_of(shot, plan),
        sound=_sound(measures, plan, limits),
        lost=tuple(
            Lost(code=one.code, amount=one.amount, facts=one.facts)
            for one in findings
            if one.severity == "bad" and one.code in LOST
        ),
    )


def _rest(own: Correction, shared: Correction, limits: Limits) -> Correction | None:
    """What a clip needs beside its group, where that is seen."""
    if own.of != "measures":
        return None
    shift = own.mired - shared.mired
    exposure = own.exposure_stops - shared.exposure_stops
    shift = shift if abs(shift) >= limits.edit_apart_mired else 0.0
    exposure = exposure if abs(exposure) >= limits.edit_apart_stops else 0.0
    if shift == 0.0 and exposure == 0.0:
        return None
    return Correction(mired=shift, exposure_stops=exposure, of="measures")


def whole_correction(note: ClipNote) -> Correction:
    """The correction of a clip: its group's, and its own beside it. Returns one."""
    if note.rest is None:
        return note.correction
    return note.correction.model_copy(
        update={
            "mired": note.correction.mired + note.rest.mired,
            "exposure_stops": note.correction.exposure_stops + note.rest.exposure_stops,
        }
    )


def _denoise(measures: ClipMeasures | None, plan: ClipPlan, limits: Limits) -> Denoise | None:
    snr, width = plan.exposure.snr, plan.settings.width
    if measures is not None and measures.noise.snr_grey is not None and not measures.doubted("noise"):
        snr, width = measures.noise.snr_grey * measures.width / plan.delivered_px, measures.width
    short = plan.exposure.snr_limit / max(snr, 1e-6)
    if short <= 1.0:
        return None
    frames = min(int(limits.edit_most_frames), ceil(short**2))
    left = short / sqrt(frames)  # a mean over a disc of radius r takes noise down by r times the root of pi
    radius = 0.0 if left <= 1.0 else min(limits.edit_most_radius_px, left / sqrt(pi) * width / plan.delivered_px)
    return Denoise(frames=frames, radius_px=radius, short=short)


def _sharpen(measures: ClipMeasures | None, plan: ClipPlan, limits: Limits) -> Sharpen | None:
    """Sharpening from the width of edges, less of what the camera did already; none where edges are out of focus."""
    room = {"low": 1.0, "medium": 0.5}.get(plan.settings.sharpness, 0.0)
    sharp, soft = limits.edit_edge_sharp_px, limits.edit_edge_soft_px
    edge = None if measures is None else measures.sharpness.edge_px
    if room == 0.0 or (edge is not None and not sharp < edge < soft):
        return None
    if edge is None:
        return Sharpen(radius_px=sharp / 2.0, amount=room * limits.edit_sharpen_usual)
    return Sharpen(radius_px=edge / 2.0, amount=room * (edge - sharp) / (soft - sharp))


def _speed(brief: Brief, plan: ClipPlan) -> Speed:
    delivery = brief.delivery
    capture = plan.settings.frame_rate
    if plan.settings.interval_s is not None:  # each frame is shown once
        return Speed(percent=100.0, capture_fps=delivery.fps, timeline_fps=delivery.fps, steps=(1,), even=True)
    falls = cadence(capture, delivery.fps, delivery.slow_factor)
    return Speed(
        percent=100.0 / delivery.slow_factor,
        capture_fps=capture,
        timeline_fps=delivery.fps,
        steps=falls.steps,
        even=falls.even,
    )


def _steady(brief: Brief, measures: ClipMeasures | None, plan: ClipPlan, knowledge: Knowledge) -> float | None:
    """What stabilisation afterwards costs of the frame's width; None where it is left as it is."""
    field, settle = plan.exposure.field_deg, plan.settle_s
    seen = None if measures is None else measures.motion.shake_px
    if seen is not None and measures is not None:
        shaken = seen / measures.width >= knowledge.limits.edit_steady_share
        if not (shaken or brief.delivery.stabilise_later):
            return None
        speed = measures.motion.shake_deg_s
        if speed is not None and settle is not None:
            return min(0.5, 2.0 * float(excursion_deg(speed, settle)) / field)
        return min(
            0.5, 2.0 * seen * (measures.frame_rate or plan.settings.frame_rate) * (settle or 0.5) / measures.width
        )
    if not brief.delivery.stabilise_later:
        return None
    mount = knowledge.mounts.get(brief.camera_move.mount)
    return None if mount is None else min(0.5, 2.0 * float(excursion_deg(mount.shake_deg_s, mount.settle_s)) / field)


def windows_of(shot: EditShot, plan: ClipPlan) -> tuple[Window, ...]:
    """The cuts of the recorded frame, the delivery's own first. shot: with the crops of its sketch; plan: with the recorded frame. Returns pixels."""
    wide, high = plan.settings.width, plan.settings.height
    delivery = shot.brief.delivery
    shape = delivery.width / delivery.height
    width, height = min(wide, high * shape), min(high, wide / shape)
    left, top = (wide - width) / 2.0, (high - height) / 2.0
    main = Window(
        shape=_ratio(delivery.width, delivery.height),
        left=round(left),
        top=round(top),
        width=round(width),
        height=round(height),
    )
    crops = shot.crops or tuple(crop_of(shape, other, (0.5, 0.5, 0.0, 0.0)) for other in delivery.reframe)
    return (
        main,
        *(
            Window(
                shape=crop.shape,
                left=round(left + crop.box[0] * width),
                top=round(top + crop.box[1] * height),
                width=round(crop.box[2] * width),
                height=round(crop.box[3] * height),
            )
            for crop in crops
        ),
    )


def _ratio(width: int, height: int) -> str:
    for shape in ("16:9", "9:16", "1:1", "4:5", "5:4", "4:3", "3:4", "21:9"):
        wide, _, high = shape.partition(":")
        if abs(width * int(high) - height * int(wide)) <= max(width, height) // 100:
            return shape
    return f"{width}x{height}"


def _sound(measures: ClipMeasures | None, plan: ClipPlan, limits: Limits) -> SoundNote | None:
    sound = None if measures is None else measures.sound
    if sound is None or sound.loudness_lufs is None or not plan.sound_wanted:
        return None
    gain = limits.edit_loudness_lufs - sound.loudness_lufs
    over = 0.0 if sound.peak_dbfs is None else max(0.0, sound.peak_dbfs + gain - limits.edit_peak_dbfs)
    windy = sound.wind_share is not None and sound.wind_share >= limits.rushes_wind_noticed
    return SoundNote(gain_db=gain, limited_db=over, cut_hz=limits.edit_wind_cut_hz if windy else None)
