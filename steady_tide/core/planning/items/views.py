"""What the cost of an item is worked out from: one view for each scope, whose shared quantities are worked out once.

The search makes them with all candidates, the ledger with the chosen ones, so that both judge alike. Shapes: P
pictures, G gates (rows of one lens), F fronts (glass and housing), K pairs of ISO, C compensations, L looks, H habits.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from steady_tide.core.gear.sheet import CameraSheet, Lens
from steady_tide.core.physics.motion import blur_px, left_over_deg
from steady_tide.core.physics.noise import grey_electrons, signal_to_noise
from steady_tide.core.physics.optics import WATER_INDEX, blur_spot_deg, diffraction_deg, hyperfocal_of_px_m
from steady_tide.core.planning.geometry import Geometry
from steady_tide.core.planning.metering import Band, CachedBrief, Exposures
from steady_tide.core.planning.quantities import draw_w, needed_wh
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import Bools, Floats, Glass, Habit, Look, Pictures, Sound, Space
from steady_tide.core.quantities.stops import half_turn_s

PICTURE, GATE, FRAME, SPOT, NOISE = "picture", "gate", "frame", "spot", "noise"
EXPOSURE, METER, FRONT, LOOK, FOCUS, HABIT = "exposure", "meter", "front", "look", "focus", "habit"
BALANCE, SOUND = "balance", "sound"
# Scopes that the exposure tables of the search hold.
OF_EXPOSURE = (EXPOSURE, METER, FRONT)


@dataclass(frozen=True)
class PictureView:
    """Pictures by themselves; costs are of shape (P,)."""

    at: Situation
    space: Space
    pictures: Pictures
    seen: Geometry

    @cached_property
    def none(self) -> Floats:
        """Nothing given up."""
        return np.zeros(len(self.pictures))

    @cached_property
    def left_deg(self) -> Floats:
        """What stabilisation leaves of a wander, degrees."""
        return np.asarray(left_over_deg(self.at.wander_deg, self.seen.margin_deg, self.pictures.leak))


@dataclass(frozen=True)
class GateView:
    """Exposures with the pace at which frames are taken; costs have the broadcast shape."""

    at: Situation
    exposures: Exposures
    capture_hz: Floats

    @cached_property
    def wanted_s(self) -> Floats:
        """Exposure that the motion look asks for, seconds."""
        return wanted_shutter_s(self.at, self.capture_hz)

    @cached_property
    def look_stops(self) -> Floats:
        """How far the motion is from the look that is wanted, over both ends of the light."""
        return np.asarray((self._off(self.exposures.dim_s) + self._off(self.exposures.bright_s)) / 2.0)

    def _off(self, t: Floats) -> Floats:
        limits = self.at.limits
        stops: Floats = np.log2(t / self.wanted_s)
        # Of a thing that stands nobody sees how short a frame was.
        still = 0.0 if self.at.lapse else limits.still_short_share
        seen = still + (1.0 - still) * self.at.moving
        short = np.maximum(0.0, -stops) * (0.0 if self.at.brief.subject.motion_look == "frozen" else seen)
        # Past some point shorter looks no worse; frames far apart have nothing left to join by then.
        worst = limits.short_exposure_stops
        beyond = 0.0 if self.at.lapse else limits.short_beyond_share
        short = np.minimum(short, worst) + beyond * np.maximum(0.0, short - worst)
        return np.where(stops > 0, limits.long_exposure_factor * stops, short)


@dataclass(frozen=True)
class FrameView:
    """What moves within one frame; px_per_deg of delivered pixels, exposure at the dim end, broadcastable."""

    at: Situation
    px_per_deg: Floats
    steadied: Bools
    exposure_s: Floats

    @cached_property
    def smear_px(self) -> Floats:
        """Blur that shake leaves in one frame, delivered pixels."""
        return smear_px(self.at, self.px_per_deg, self.exposure_s)

    @property
    def unreadable(self) -> Floats:
        """How far the subject's own blur exceeds what leaves it readable, as a ratio: 1 at the limit. A thing is read by
        its size, wherever it stands; 0 where the size is not known or streaks are wanted."""
        subject = self.at.brief.subject
        if subject.size_m is None or subject.motion_look == "streaked":
            return np.zeros_like(self.exposure_s)
        size_deg = np.degrees(subject.size_m / subject.distance_m[0])
        return np.asarray(self.at.subject_deg_s * self.exposure_s / (self.at.limits.readable_share * size_deg))


@dataclass(frozen=True)
class SpotView:
    """How far a point is spread: by focus and by the opening, degrees; and by how much the opening is closed past the
    lens's best range, stops. Broadcastable with px_per_deg."""

    at: Situation
    px_per_deg: Floats
    focus_deg: Floats
    diffraction_deg: Floats
    past_best_stops: Floats


@dataclass(frozen=True)
class NoiseView:
    """What a picture adds to noise (P,) and what an ISO adds; the cost is of their broadcast shape, stops."""

    shortfall: Floats
    of_iso: Floats


@dataclass(frozen=True)
class ExposureView:
    """What the light finds between floor and ceiling; all broadcastable, ISO as log2.

    ev100: light at both ends; asked: what the camera asks for; nd_stops: of all glass; density_stops: of its neutral
    part, which is there to take light, as a colour filter is not.
    """

    at: Situation
    ev100: Band
    sheet: CameraSheet
    asked: CachedBrief
    nd_stops: Floats
    density_stops: Floats
    log2_floor: Floats
    log2_ceiling: Floats

    @cached_property
    def used_dim(self) -> Floats:
        """log2 of the ISO in use at the dim end."""
        return _between(self.asked.iso_dim, self.log2_floor, self.log2_ceiling)

    @cached_property
    def used_bright(self) -> Floats:
        """log2 of the ISO in use at the bright end."""
        return _between(self.asked.iso_bright, self.log2_floor, self.log2_ceiling)

    @cached_property
    def base(self) -> float:
        """log2 of the cleanest ISO."""
        return float(np.log2(float(min(self.sheet.iso.floors))))

    @property
    def _bright(self) -> Floats:
        """What the brightest part comes out at base gain, less what the gain in use adds."""
        return np.asarray(self.ev100[1] - LOG2_HUNDRED - self.nd_stops - self.asked.camera_ev_bright)

    @property
    def _dark(self) -> Floats:
        """What the dimmest part lacks at base gain, before the gain in use."""
        return np.asarray(self.asked.camera_ev_dim + self.nd_stops + LOG2_HUNDRED - self.ev100[0])

    @property
    def bright_stops(self) -> Floats:
        """How much brighter than metered the brightest part comes out, or darker as negative numbers."""
        return np.asarray(self._bright + self.used_bright)

    @property
    def dark_stops(self) -> Floats:
        """How much darker than metered the dimmest part comes out, or brighter as negative numbers."""
        return np.asarray(self._dark - self.used_dim)

    @cached_property
    def over_stops(self) -> Floats:
        """By how much the brightest part comes out brighter than the frame's contrast leaves room for."""
        over = np.asarray((self._bright - self.at.over_held_stops) + self.used_bright)
        return np.asarray(np.maximum(over, 0.0, out=over) if over.ndim else np.maximum(over, 0.0))

    @cached_property
    def under_stops(self) -> Floats:
        """By how much the dimmest part comes out darker than is lifted without a thought."""
        under = np.asarray((self._dark - self.at.under_held_stops) - self.used_dim)
        return np.asarray(np.maximum(under, 0.0, out=under) if under.ndim else np.maximum(under, 0.0))


def _between(values: Floats, low: Floats, high: Floats) -> Floats:
    """Values held between two others, as `clip` does, in half of its time."""
    held = np.asarray(np.maximum(values, low))
    return np.asarray(np.minimum(held, high, out=held) if held.ndim else np.minimum(held, high))


LOG2_HUNDRED = float(np.log2(100.0))


@dataclass(frozen=True)
class MeterView:
    """Compensations beside the meter's habit, stops."""

    at: Situation
    sheet: CameraSheet
    compensation: Floats


@dataclass(frozen=True)
class FrontView:
    """What stands in front of the lens; costs are of shape (F,)."""

    at: Situation
    glasses: Sequence[Glass]

    @cached_property
    def pieces(self) -> Floats:
        """Pieces of glass that can be taken off."""
        return np.array([float(glass.pieces) for glass in self.glasses])

    @cached_property
    def cased(self) -> Floats:
        """Whether there is a housing."""
        return np.array([float(glass.housing is not None) for glass in self.glasses])


@dataclass(frozen=True)
class LookView:
    """Colour and recording beside pictures; costs are of shape (P, L)."""

    at: Situation
    space: Space
    looks: Sequence[Look]
    pictures: Pictures

    @cached_property
    def every(self) -> Floats:
        """Nothing given up, in the whole shape."""
        return np.zeros((len(self.pictures), len(self.looks)))

    @cached_property
    def pixels(self) -> Floats:
        """Pixels of a frame, (P, 1)."""
        return (self.pictures.width_px * self.pictures.height_px)[:, None]

    @cached_property
    def bits(self) -> Floats:
        """Bit rate, megabits a second, (L,)."""
        return np.array([look.bit_rate_mb_s for look in self.looks])

    @cached_property
    def wide(self) -> Floats:
        """Whether exposures are joined, (L,)."""
        return np.array([look.high_dynamic_range for look in self.looks], dtype=float)

    @cached_property
    def unfinished(self) -> Floats:
        """How far from a finished picture, stops, (L,)."""
        return np.array([look.profile.needs_grading_stops for look in self.looks])

    @cached_property
    def phone(self) -> bool:
        """Whether a phone edits."""
        return self.at.brief.delivery.edit_device == "phone"


@dataclass(frozen=True)
class FocusView:
    """Ways to work the focus of pictures; costs are of shape (P, ways).

    hyperfocal_m: from half of where on all is sharp in the delivered picture, the lens wide open, (P,).
    """

    at: Situation
    focuses: Sequence[str]
    hyperfocal_m: Floats

    @classmethod
    def for_pictures(cls, at: Situation, space: Space, pictures: Pictures, seen: Geometry) -> FocusView:
        """That of some pictures. seen: what they see."""
        offer = space.offer
        wide_open_mm, focal_mm = offer.widest_mm[pictures.lens], offer.focal_mm[pictures.lens]
        far = hyperfocal_of_px_m(wide_open_mm, focal_mm, seen.px_per_deg, at.limits.focus_px)
        return cls(at, space.focuses, np.asarray(far))


@dataclass(frozen=True)
class HabitView:
    """Screen, positioning and early start beside pictures; costs are of shape (P, H)."""

    at: Situation
    space: Space
    pictures: Pictures
    habits: Sequence[Habit]

    @cached_property
    def every(self) -> Floats:
        """Nothing given up, in the whole shape."""
        return np.zeros((len(self.pictures), len(self.habits)))

    @cached_property
    def draw_w(self) -> Floats:
        """Power while recording, watts."""
        return draw_w(self.space, self.pictures, self.habits)

    @cached_property
    def needed_wh(self) -> Floats:
        """Energy of the whole shot, watt-hours."""
        return needed_wh(self.at, self.space, self.habits, self.draw_w)


@dataclass(frozen=True)
class SoundView:
    """Microphones with the camera's wind reduction; costs are of shape (S,)."""

    at: Situation
    sheet: CameraSheet
    sounds: Sequence[Sound]


@dataclass(frozen=True)
class BalanceView:
    """Balances, each with the balance of the light that is left behind what is in front of the lens, warm and cool end,
    kelvin; one cost each. offered_k: all that the camera can be locked to."""

    at: Situation
    offered_k: Sequence[int]
    values: Sequence[Any]
    wanted_k: Sequence[tuple[int, int]]


@dataclass(frozen=True)
class AloneView:
    """Values of a dial that stands alone; one cost each."""

    at: Situation
    sheet: CameraSheet
    values: Sequence[Any]


def wanted_shutter_s(at: Situation, capture_hz: Floats) -> Floats:
    """Exposure that the motion look asks for.

    at: the situation; capture_hz: frames taken per second. Returns seconds. Frames beyond those that the
    timeline shows are dropped, so the interval is that of the frames shown.
    """
    if at.lapse:  # frames far apart join best where little is left out between them
        return np.asarray(1.0 / capture_hz)
    half = half_turn_s(np.minimum(capture_hz, at.shown_fps))
    look = at.brief.subject.motion_look
    if look == "streaked":
        return np.asarray(at.limits.streaked_factor * half)
    if look == "frozen" and at.frozen_s is not None:
        return np.asarray(np.minimum(half, at.frozen_s))
    return np.asarray(half)


def smear_px(at: Situation, px_per_deg: Floats, exposure_s: Floats) -> Floats:
    """Blur that shake leaves in one frame. A turn on purpose is no shake: its blur is the wanted look. Returns delivered
    pixels."""
    return np.asarray(blur_px(at.mount.shake_deg_s, exposure_s, px_per_deg))


def past_best_stops(at: Situation, opening_mm: Floats, widest_mm: float) -> Floats:
    """By how much openings are closed past a lens's best range. widest_mm: the lens wide open. Returns stops."""
    closed = 2.0 * np.log2(widest_mm / np.asarray(opening_mm, dtype=float))
    return np.asarray(np.maximum(0.0, closed - at.limits.best_aperture_stops))


def noise_of_iso(lens: Lens, log2_iso: Floats) -> Floats:
    """Minus log2 of a pixel's signal-to-noise ratio at mid grey. log2_iso: any shape. Returns stops."""
    sensor = lens.sensor
    electrons = grey_electrons(np.exp2(log2_iso), sensor.pixel_pitch_um, sensor.quantum_efficiency, lens.transmission)
    return np.asarray(-np.log2(signal_to_noise(electrons, sensor.read_noise_e)))


NEAREST_M = 0.01


def fixed_spot_deg(lens: Lens, opening_mm: Floats, distance_m: float) -> Floats:
    """Angle over which a fixed lens spreads a point by focus: it is sharp from its closest to its farthest distance.

    lens: fixed; opening_mm: any shape; distance_m: as the lens sees it. Returns degrees.
    """
    nearest = lens.closest_m if lens.closest_m > NEAREST_M else NEAREST_M
    if distance_m < nearest:
        return np.asarray(blur_spot_deg(opening_mm, nearest, distance_m))
    if lens.farthest_m is not None and distance_m > lens.farthest_m:
        return np.asarray(blur_spot_deg(opening_mm, lens.farthest_m, distance_m))
    return np.zeros_like(np.asarray(opening_mm, dtype=float))


def spots_deg(at: Situation, lens: Lens, opening_mm: Floats, flat_port: bool = False) -> tuple[Floats, Floats]:
    """Angles over which focus and diffraction spread a point.

    at: gives the distances; lens: where it can be focused; opening_mm: any shape; flat_port: whether
    water stands before a flat window. Returns degrees, both.
    Focus is judged at the worse end of the subject; a fixed lens is sharp from its closest distance on.
    """
    near, far = at.brief.subject.distance_m
    if at.lapse and at.light.night_sky:
        near = far  # the sky is the subject
    size_m = at.brief.subject.size_m
    if size_m is not None and at.brief.traits.on_table:  # it stands somewhere between, no deeper than it is large
        middle = float(np.sqrt(near * far))
        near, far = max(near, middle - size_m / 2.0), min(far, middle + size_m / 2.0)
    if flat_port:  # things look nearer behind a flat window
        near, far = near / WATER_INDEX, far / WATER_INDEX
    if lens.focus == "fixed":
        worst = np.maximum(fixed_spot_deg(lens, opening_mm, near), fixed_spot_deg(lens, opening_mm, far))
    else:
        at_m = at.focus_distance_m(lens)
        worst = np.maximum(blur_spot_deg(opening_mm, at_m, near), blur_spot_deg(opening_mm, at_m, far))
        if not at.brief.traits.on_table and not at.lapse:  # the focus follows; what a locked one loses is its own item
            worst = worst * at.limits.focus_moment_share
    return np.asarray(worst), np.asarray(diffraction_deg(opening_mm))
