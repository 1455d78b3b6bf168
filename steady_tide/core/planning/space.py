"""All that one camera can be set to with what is at hand: the candidates of each block, as arrays.

A combination is a picture (lens, way of recording, frame, rate or interval, view, stabilisation), a gate (aperture and shutter),
what stands in front of the lens (housing and glass), a pair of ISO floor and ceiling, a compensation, a
look (profile, depth, codec, bit rate, HDR), a focus, a balance and habits (screen, positioning,
early start). The pace of a picture ties gates to it and pairs of ISO, its lens gates, glass and focus, its way of
recording focus and balance, its mode looks. Dials that stand alone (sharpness and others) are blocks of their own.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from math import isnan
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.gear.items import Microphone
from steady_tide.core.gear.sheet import CameraSheet, Codec, Profile
from steady_tide.core.planning.power_and_cards import Supplies

Floats = NDArray[np.float64]
Ints = NDArray[np.intp]
Bools = NDArray[np.bool_]
Balance = int | None | Literal["raw"]
Gate = tuple[int, float, float]  # lens, f-number, exposure in seconds; NaN stands for automatic
Timing = tuple[int, float, float]  # mode, rate, interval in seconds; NaN stands for film at speed

# The blocks that touch each other; a dial that stands alone is a block of its own besides.
JOINT_BLOCKS = (
    "pictures",
    "gates",
    "glasses",
    "iso_pairs",
    "compensations",
    "looks",
    "focuses",
    "balances",
    "sounds",
    "habits",
)
AT_HAND = ("glasses", "sounds")  # blocks whose candidates depend on the kit, not on the sheet alone
ROUNDING = 1e-9
INFINITE = float("inf")  # price of what is not legal
SET_BY_HAND = ("hyperfocal", "infinity")  # ways to focus that a person turns to


@dataclass(frozen=True)
class Pictures:
    """Frame, rate, view and stabilisation of every legal picture; all arrays of shape (P,)."""

    lens: Ints
    recorder: Ints
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
    still_mb: Floats  # of an interval film that is kept as stills, megabytes each; NaN of a film

    def take(self, index: Ints | Bools) -> Pictures:
        """The pictures at some places. index: places or a mask, (P,). Returns fewer pictures."""
        return Pictures(**{name: values[index] for name, values in vars(self).items()})

    def __len__(self) -> int:
        return len(self.rate)


@dataclass(frozen=True)
class Pace:
    """How often frames are taken, frames per second; the longest exposure that this leaves, seconds, and the longest
    that an automatic exposure then takes; and whether shutter and gain can be set by hand."""

    capture_hz: float
    longest_s: float
    automatic_s: float
    by_hand: bool


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
    """What stands in front of the lens: a housing or none, densities, a colour filter or none; and the red gain that
    goes with it."""

    ids: tuple[str, ...] = ()
    stops: float = 0.0
    names: tuple[str, ...] = ()
    colour: str | None = None
    band_stops: tuple[float, float, float] = (0.0, 0.0, 0.0)
    colour_stops: float = 0.0
    housing: str | None = None
    polarises: bool = False
    red_gain_stops: float = 0.0  # by which the camera raises red by itself, as a filter would leave it

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
class Sound:
    """What is heard with: a microphone, None for the one that is built in, and the camera's wind reduction."""

    microphone: Microphone | None
    wind_reduction: str


@dataclass(frozen=True, eq=False)
class Offer:
    """What a camera offers by its sheet, whatever is at hand; worked out once for each sheet."""

    sheet: CameraSheet
    pictures: Pictures
    timings: tuple[Timing, ...]
    paces: tuple[Pace, ...]
    gates: tuple[Gate, ...]
    iso_pairs: tuple[tuple[int, int], ...]
    compensations: tuple[float, ...]
    looks: tuple[Look, ...]
    look_offered: Bools  # picture x look
    to_drive: Bools  # picture x look: written to an external drive only
    focuses: tuple[str, ...]
    focus_allowed: Bools  # lens x focus
    balances: tuple[Any, ...]  # kelvins, and words for others
    habits: tuple[Habit, ...]
    alone: dict[str, tuple[Any, ...]]  # values of each dial that stands alone
    openings_mm: Floats  # gate
    focal_mm: Floats  # lens

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
        """Which gates a picture may use: those of its lens that end before the next frame begins, and where nothing is
        set by hand only an automatic one.

        lens, pace: of the picture, indices. Returns a mask of shape (G,).
        """
        longest_s = self.paces[pace].longest_s * (1.0 + ROUNDING)
        fits = (self.gate_lens == lens) & ~(self.gate_s > longest_s)
        return np.asarray(fits if self.paces[pace].by_hand else fits & np.isnan(self.gate_s))

    @cached_property
    def paces_of(self) -> dict[tuple[int, bool], Ints]:
        """Paces that pictures have, rising, by lens and by whether they are taken at speed or at intervals."""
        pictures, timed = self.pictures, ~np.isnan(self.pictures.interval_s)
        return {
            (lens, kind): np.unique(pictures.pace[(pictures.lens == lens) & (timed == kind)])
            for lens in range(len(self.sheet.lenses))
            for kind in (False, True)
        }

    @cached_property
    def iso_fits(self) -> Bools:
        """Which pairs of ISO go with each pace, (paces, pairs): all, or only the widest where nothing is set by hand."""
        low, high = min(low for low, _ in self.iso_pairs), max(high for _, high in self.iso_pairs)
        widest = np.array([pair == (low, high) for pair in self.iso_pairs])
        return np.array([widest | pace.by_hand for pace in self.paces])

    @cached_property
    def by_hand(self) -> Bools:
        """Whether each picture is recorded by hand."""
        return np.array([way.by_hand for way in self.sheet.ways])[self.pictures.recorder]

    @cached_property
    def focus_fits(self) -> Bools:
        """Which ways to focus go with each picture, (P, focuses)."""
        known = np.array([name not in SET_BY_HAND for name in self.focuses])
        return np.asarray(self.focus_allowed[self.pictures.lens] & (self.by_hand[:, None] | known))

    @cached_property
    def balance_fits(self) -> Bools:
        """Which balances go with each picture, (P, balances): all, or only an automatic one; a camera without an
        automatic one has what it has."""
        left_alone = np.array([not isinstance(value, int) and value != "raw" for value in self.balances])
        return np.asarray(self.by_hand[:, None] | (left_alone if left_alone.any() else True))

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


@dataclass(frozen=True, eq=False)
class Space:
    """Everything one camera can be set to with what is at hand: its offer, and what is put on it and fed to it."""

    offer: Offer
    supplies: Supplies
    glasses: tuple[Glass, ...]
    look_allowed: Bools  # picture x look: offered, and cards or drives take it
    sounds: tuple[Sound, ...]
    lost_stops: Floats  # lens: light that what is put before it takes
    glass_allowed: Bools  # lens x glass
    too_deep: bool
    flat_port: bool  # water stands before a flat window
    card_too_slow: bool

    @property
    def sheet(self) -> CameraSheet:
        """The camera, with what is put before its lenses."""
        return self.offer.sheet

    @property
    def pictures(self) -> Pictures:
        """Its pictures."""
        return self.offer.pictures

    @property
    def paces(self) -> tuple[Pace, ...]:
        """Paces of its pictures."""
        return self.offer.paces

    @property
    def gates(self) -> tuple[Gate, ...]:
        """Its gates."""
        return self.offer.gates

    @property
    def iso_pairs(self) -> tuple[tuple[int, int], ...]:
        """Its pairs of ISO floor and ceiling."""
        return self.offer.iso_pairs

    @property
    def compensations(self) -> tuple[float, ...]:
        """Its compensations."""
        return self.offer.compensations

    @property
    def looks(self) -> tuple[Look, ...]:
        """Its looks."""
        return self.offer.looks

    @property
    def focuses(self) -> tuple[str, ...]:
        """Its ways to focus."""
        return self.offer.focuses

    @property
    def balances(self) -> tuple[Any, ...]:
        """Its balances."""
        return self.offer.balances

    @property
    def habits(self) -> tuple[Habit, ...]:
        """Its habits."""
        return self.offer.habits

    @property
    def alone(self) -> dict[str, tuple[Any, ...]]:
        """Values of each dial that stands alone."""
        return self.offer.alone

    def holds_stops(self, look: Look) -> float:
        """Contrast that a look holds, stops: its profile's, and what joined exposures add to it."""
        wide = self.sheet.high_dynamic_range
        return look.profile.range_stops + (wide.gain_stops if wide and look.high_dynamic_range else 0.0)

    @property
    def largest_px(self) -> float:
        """Pixels of the largest frame."""
        return float((self.pictures.width_px * self.pictures.height_px).max())

    @cached_property
    def beside(self) -> dict[str, tuple[Bools, Ints]]:
        """What goes with pictures, for each block that they tie: which candidates go with each kind of picture, and of which
        kind each picture is."""
        offer, each = self.offer, np.arange(len(self.pictures))
        return {
            "looks": (self.look_allowed, each),
            "focuses": (offer.focus_fits, each),
            "balances": (offer.balance_fits, each),
            "gates": (offer.gate_fits, offer.pair_of_picture),
            "iso_pairs": (offer.iso_fits, self.pictures.pace),
            "glasses": (self.glass_allowed, self.pictures.lens),
        }

    @cached_property
    def sizes(self) -> dict[str, int]:
        """How many candidates each block has."""
        return {
            **{block: len(getattr(self, block)) for block in JOINT_BLOCKS},
            **{dial: len(values) for dial, values in self.alone.items()},
        }

    def gate_seconds(self, gate: int) -> float | None:
        """Exposure of a gate in seconds, None for automatic."""
        seconds = self.gates[gate][2]
        return None if isnan(seconds) else seconds

    @property
    def combinations(self) -> int:
        """How many legal combinations there are, multiplied out."""
        of_picture = np.ones(len(self.pictures))
        for fits, kind in self.beside.values():
            of_picture *= fits.sum(axis=1)[kind]
        count = int(of_picture.sum())
        for block in ("compensations", "sounds", "habits", *self.alone):
            count *= self.sizes[block]
        return count
