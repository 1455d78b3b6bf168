"""All that one camera can be set to with what is at hand: the candidates of each block, as arrays.

A combination is a picture (lens, frame, rate or interval, view, steadying), a gate (aperture and shutter),
what stands in front of the lens (housing and glass), a pair of ISO floor and ceiling, a compensation, a
look (profile, depth, format, bit rate, wide range), a focus and habits (screen, positioning, early
start). The pace of a picture ties gates to it, its lens gates and focus, its mode looks. Dials that
stand alone (balance, sharpness and others) are blocks of their own.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from math import isnan
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.planning.supplies import Supplies
from steady_tide.core.sheet import CameraSheet, Codec, Profile

Floats = NDArray[np.float64]
Ints = NDArray[np.intp]
Bools = NDArray[np.bool_]
Balance = int | None | Literal["raw"]
Gate = tuple[int, float, float]  # lens, f-number, exposure in seconds; NaN stands for automatic
Timing = tuple[int, float, float]  # mode, rate, interval in seconds; NaN stands for film at speed

# The blocks that touch each other; a dial that stands alone is a block of its own besides.
JOINT_BLOCKS = ("pictures", "gates", "glasses", "iso_pairs", "compensations", "looks", "focuses", "habits")
ROUNDING = 1e-9


@dataclass(frozen=True)
class Pictures:
    """Frame, rate, view and steadying of every legal picture; all arrays of shape (P,)."""

    lens: Ints
    mode: Ints
    timing: Ints
    pace: Ints
    width_px: Floats
    height_px: Floats
    rate: Floats
    capture_hz: Floats
    interval_s: Floats
    view: Ints
    steadying: Ints
    window_w_px: Floats
    window_h_px: Floats
    sampling: Floats
    noise_gain: Floats
    keeps_view: Floats
    keeps_steady: Floats
    leak: Floats
    field_deg: Floats
    power_w: Floats
    straight: Bools
    levelled: Bools
    steadied: Bools

    def take(self, index: Ints | Bools) -> Pictures:
        """The pictures at some places. index: places or a mask, (P,). Returns fewer pictures."""
        return Pictures(**{name: values[index] for name, values in vars(self).items()})

    def __len__(self) -> int:
        return len(self.rate)


@dataclass(frozen=True)
class Pace:
    """How often frames are taken, frames per second, and the longest exposure that this leaves, seconds."""

    capture_hz: float
    longest_s: float


@dataclass(frozen=True)
class Look:
    """How a picture is coloured and recorded."""

    profile: Profile
    bit_depth: int
    codec: Codec
    bit_rate_mb_s: float
    high_dynamic_range: bool


@dataclass(frozen=True)
class Glass:
    """What stands in front of the lens: a housing or none, densities, a colour filter or none."""

    ids: tuple[str, ...] = ()
    stops: float = 0.0
    names: tuple[str, ...] = ()
    colour: str | None = None
    band_stops: tuple[float, float, float] = (0.0, 0.0, 0.0)
    colour_stops: float = 0.0
    housing: str | None = None
    polarises: bool = False

    @property
    def density_stops(self) -> float:
        """Stops of the neutral glass alone."""
        return self.stops - self.colour_stops

    @property
    def pieces(self) -> int:
        """Pieces of glass that can be taken off."""
        return len(self.ids) + (self.colour is not None)


@dataclass(frozen=True)
class Habit:
    """What the camera does besides: screen, positioning, and keeping what was before the start."""

    screen: str
    positioning: str
    pre_record_s: float


@dataclass(frozen=True)
class FocusLens:
    """What a lens can be focused on: from where, and from half of where on all is sharp, metres, wide open."""

    closest_m: float
    hyperfocal_m: float


@dataclass(frozen=True)
class Space:
    """Everything one camera can be set to with what is at hand."""

    sheet: CameraSheet
    supplies: Supplies
    pictures: Pictures
    timings: tuple[Timing, ...]
    paces: tuple[Pace, ...]
    gates: tuple[Gate, ...]
    glasses: tuple[Glass, ...]
    iso_pairs: tuple[tuple[int, int], ...]
    compensations: tuple[float, ...]
    looks: tuple[Look, ...]
    look_allowed: Bools  # picture x look
    look_offered: Bools  # the same, before cards and drives
    to_drive: Bools  # picture x look: written to an external drive only
    focuses: tuple[str, ...]
    focus_allowed: Bools  # lens x focus
    focus_lenses: tuple[FocusLens, ...]
    habits: tuple[Habit, ...]
    alone: dict[str, tuple[Any, ...]]  # values of each dial that stands alone
    openings_mm: Floats  # gate
    too_deep: bool
    flat_port: bool  # water stands before a flat window
    card_too_slow: bool

    def holds_stops(self, look: Look) -> float:
        """Contrast that a look holds, stops: its profile's, and what joined exposures add to it."""
        wide = self.sheet.high_dynamic_range
        return look.profile.range_stops + (wide.gain_stops if wide and look.high_dynamic_range else 0.0)

    @property
    def largest_px(self) -> float:
        """Pixels of the largest frame."""
        return float((self.pictures.width_px * self.pictures.height_px).max())

    @cached_property
    def sizes(self) -> dict[str, int]:
        """How many candidates each block has."""
        return {
            **{block: len(getattr(self, block)) for block in JOINT_BLOCKS},
            **{dial: len(values) for dial, values in self.alone.items()},
        }

    @cached_property
    def widest_mm(self) -> Floats:
        """Opening of each lens wide open, millimetres."""
        return np.array([self.openings_mm[self.gate_lens == lens].max() for lens in range(len(self.sheet.lenses))])

    @cached_property
    def gate_lens(self) -> Ints:
        """Lens of each gate."""
        return np.array([lens for lens, _, _ in self.gates], dtype=np.intp)

    @cached_property
    def gate_f_number(self) -> Floats:
        """F-number of each gate."""
        return np.array([f_number for _, f_number, _ in self.gates])

    @cached_property
    def gate_s(self) -> Floats:
        """Exposure of each gate, seconds; NaN for automatic."""
        return np.array([seconds for _, _, seconds in self.gates])

    def legal_gates(self, lens: int, pace: int) -> Bools:
        """Which gates a picture may use: those of its lens that end before the next frame begins.

        lens, pace: of the picture, indices. Returns a mask of shape (G,).
        """
        longest_s = self.paces[pace].longest_s * (1.0 + ROUNDING)
        return np.asarray((self.gate_lens == lens) & ~(self.gate_s > longest_s))

    @cached_property
    def pairs(self) -> tuple[tuple[int, int], ...]:
        """Pairs of lens and pace that pictures have."""
        return tuple(sorted(set(zip(self.pictures.lens.tolist(), self.pictures.pace.tolist(), strict=True))))

    @cached_property
    def pair_of_picture(self) -> Ints:
        """Place of each picture's lens and pace among `pairs`."""
        place = {pair: index for index, pair in enumerate(self.pairs)}
        return np.array(
            [place[pair] for pair in zip(self.pictures.lens.tolist(), self.pictures.pace.tolist(), strict=True)]
        )

    @cached_property
    def gate_fits(self) -> Bools:
        """Which gates go with each of `pairs`, (pairs, G)."""
        return np.array([self.legal_gates(lens, pace) for lens, pace in self.pairs])

    def gate_seconds(self, gate: int) -> float | None:
        """Exposure of a gate in seconds, None for automatic."""
        seconds = self.gates[gate][2]
        return None if isnan(seconds) else seconds

    @property
    def combinations(self) -> int:
        """How many legal combinations there are, multiplied out."""
        count = 0
        looks = self.look_allowed.sum(axis=1)
        for index, (lens, _) in enumerate(self.pairs):
            of_pair = int(looks[self.pair_of_picture == index].sum())
            count += of_pair * int(self.gate_fits[index].sum()) * int(self.focus_allowed[lens].sum())
        for block in ("glasses", "iso_pairs", "compensations", "habits", *self.alone):
            count *= self.sizes[block]
        return count
