"""Takes the frames of a clip in, one after the other, and tells its measures at the end; memory does not grow with length."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from steady_tide.core.measuring.transfer import Transfer, to_light
from steady_tide.core.rushes.light import LightSeries, colour_of, cuts_of, exposure_of, flicker_of, longest_piece
from steady_tide.core.rushes.measures import ClipMeasures, Doubt, SoundMeasure
from steady_tide.core.rushes.moves import PATCH, MoveSeries, cadence_of, motion_of, repeated_frames, seen_to_move
from steady_tide.core.rushes.planes import Planes
from steady_tide.core.rushes.shapes import edge_width_px, focus_drift_px, haze_of, horizon_of, tilt_deg
from steady_tide.core.rushes.spots import SpotSeries
from steady_tide.core.rushes.stillness import NoiseBlocks, noise_of
from steady_tide.core.rushes.timeline import Timeline, timeline_of

Array = NDArray[np.float32]

GRID = (81, 144)
ROW_STEP, ROW_GROUPS, ROWS_KEPT = 32, 540, 1500
NEAR = 512  # side of what is looked at in full size
LOOKS, SPOT_LOOKS = 16, 60  # frames that are looked at closely
SHAPES_EVERY, SMALL_PX = 3, 320  # of these one is looked at for edges and a horizon, and how wide
PAIRS = 5
CAST_EVERY = 18
CLOSE = (1080, 1920)
# From this width on movement is followed in several parts, and from that on in quarter size.
SPREAD_FROM, COARSE_FROM, SPREAD_PATCH = 1000, 3000, 128
SPREAD = ((0.5, 0.5), (0.18, 0.12), (0.18, 0.88), (0.82, 0.5))
UNEVEN = 0.08  # of the usual time between frames, from which on the rate is a variable one
PICTURES, PICTURE_PX = 6, 320  # that are kept of a clip, and how wide
LIGHT_STEPS = 4095  # of the table that undoes a curve
BLURRED_BITS = 0.15  # a pixel, below which edges are no longer the lens's
SMOOTHED_BITS = 1.5  # a pixel, below which noise is no longer the sensor's


@dataclass(frozen=True)
class StreamFacts:
    """What container and stream say. frames: about how many are to come; field_deg: across the frame, where it is known;
    transfer: of its codes; turned_deg: how it is to be turned for looking at; quick: whether only some frames come;
    times_s: stamps of all frames, where they are known beforehand; recorded_at, camera: as the file has them."""

    file: str
    width: int
    height: int
    seconds: float
    codec: str
    bits: int
    bit_rate_mb_s: float | None
    frames: int
    transfer: Transfer = "rec709"
    turned_deg: int = 0
    field_deg: float | None = None
    quick: bool = False
    times_s: tuple[float, ...] | None = None
    recorded_at: str | None = None
    camera: str | None = None


@dataclass(frozen=True)
class Picture:
    """A small frame. codes: of the file as shares, (rows, columns, 3)."""

    at_s: float
    codes: Array


@dataclass
class Collector:
    """One clip that is being measured."""

    facts: StreamFacts
    light: LightSeries = field(default_factory=LightSeries)
    moves: MoveSeries = field(default_factory=MoveSeries)
    blocks: NoiseBlocks = field(default_factory=NoiseBlocks)
    spots: SpotSeries = field(default_factory=SpotSeries)
    pictures: list[Picture] = field(default_factory=list)
    edges: list[tuple[float, float]] = field(default_factory=list)
    tilts: list[float | None] = field(default_factory=list)
    darkest: list[float] = field(default_factory=list)
    contrasts: list[float] = field(default_factory=list)
    _closely: int = 0
    _before: Array | None = None
    _at: tuple[float, float] = (0.0, 0.0)  # where the picture is, pixels from where it began
    _table: NDArray[np.float32] | None = None
    _light: NDArray[np.float32] | None = None

    def passed_over(self) -> None:
        """The next frame is not the next of the clip."""
        if self.light.times_s:
            self.light.breaks.append(len(self.light.times_s))
            self.moves.passed_over()
            self._before = None

    def add(self, planes: Planes, time_s: float) -> None:
        """Take a frame in. time_s: its time stamp."""
        number = len(self.light.times_s)
        rows, columns = (
            ((np.arange(want) + 0.5) * have / want).astype(np.intp)
            for want, have in zip(GRID, planes.shape, strict=True)
        )
        codes = np.clip(planes.colours(rows, columns), 0.0, 1.0)
        light = self._undone(codes)
        closely = self._is_looked_at(number)
        rows_of = self._rows(planes) if number < ROWS_KEPT else None
        self.light.add(time_s, codes, light, rows_of, closely or number % CAST_EVERY == 0)
        near = None
        if closely:
            near = planes.luma(_middle(planes.y, NEAR, NEAR))
            if self._closely % SHAPES_EVERY == 0:
                self._shapes(planes, near, codes, time_s)
            self._closely += 1
        step, parts = self._small(planes)
        self.moves.add(parts, near, step)
        moved = self.moves.parts[-1][0]
        if moved is not None:
            self._at = (self._at[0] + moved[0], self._at[1] + moved[1])
        if self.spots.count < SPOT_LOOKS and self.spots.wants(self._at, planes.shape[1]):
            self.spots.add(self._whole(planes), self._at)
        pair = self._pair(number)
        if pair == "first":
            self._before = planes.luma(_middle(planes.y, *CLOSE))
        elif pair == "second" and self._before is not None:
            after = planes.luma(_middle(planes.y, *CLOSE))
            if self.moves.differs[-1] > 0.0:
                self.blocks.add(self._before, after, self.facts.transfer, self.moves.stood())
            else:
                self.blocks.looked += 1
                self.blocks.quiet += 1
            self._before = None
        every = max(1, self.facts.frames // PICTURES)
        if number % every == every // 2 and len(self.pictures) < PICTURES:
            self.pictures.append(Picture(time_s, planes.small(PICTURE_PX)))

    def _undone(self, codes: Array) -> Array:
        """Light of codes, by a table."""
        if self._light is None:
            every = np.linspace(0.0, 1.0, LIGHT_STEPS + 1)
            self._light = np.asarray(to_light(every, self.facts.transfer), dtype=np.float32)
        return np.asarray(self._light[np.rint(codes * LIGHT_STEPS).astype(np.intp)])

    def _whole(self, planes: Planes) -> Array:
        """Luma of the whole frame, made smaller."""
        wide = min(SMALL_PX, planes.shape[1])
        size = (wide, max(1, round(planes.shape[0] * wide / planes.shape[1])))
        return planes.luma(np.asarray(cv2.resize(planes.y, size, interpolation=cv2.INTER_AREA)))

    def _shapes(self, planes: Planes, near: Array, codes: Array, time_s: float) -> None:
        """Edges, a horizon and a veil of one frame."""
        width = edge_width_px(near)
        if width is not None:
            self.edges.append((time_s, width))
        self.tilts.append(tilt_deg(self._whole(planes)))
        low, high = np.percentile(codes.mean(axis=2), [1, 99])
        self.darkest.append(float(low))
        self.contrasts.append(float(high - low))

    def _is_looked_at(self, number: int) -> bool:
        return number % max(1, self.facts.frames // LOOKS) == 0

    def _pair(self, number: int) -> str:
        apart = max(4, self.facts.frames // PAIRS)
        return {1: "first", 2: "second"}.get(number % apart, "")

    def _small(self, planes: Planes) -> tuple[float, list[Array]]:
        """Parts of the frame made smaller, and by how much: the middle of a small one; of a large one the middle and three
        about it, so that a subject that crosses the middle is not taken for the camera."""
        rows, columns = planes.shape
        if columns < SPREAD_FROM or rows <= SPREAD_PATCH * 4:
            parts, step = [_middle(planes.y, 2 * PATCH, 2 * PATCH)], 2
        else:
            step = 4 if columns >= COARSE_FROM else 2
            side = step * SPREAD_PATCH
            parts = [
                planes.y[top : top + side, left : left + side]
                for down, across in SPREAD
                for top, left in [(round(down * (rows - side)), round(across * (columns - side)))]
            ]
        return float(step), [
            np.asarray(
                cv2.resize(
                    planes.luma(part), (part.shape[1] // step, part.shape[0] // step), interpolation=cv2.INTER_AREA
                )
            )
            for part in parts
        ]

    def _rows(self, planes: Planes) -> Array:
        """Mean linear light of groups of rows."""
        if self._table is None:
            every = np.arange(1 << planes.bits)
            self._table = np.asarray(
                to_light(np.clip(planes.luma(every), 0.0, 1.0).astype(np.float64), self.facts.transfer),
                dtype=np.float32,
            )
        first = min(ROW_STEP // 2, planes.shape[1] - 1)
        light = self._table[planes.y[:, first::ROW_STEP]].mean(axis=1)
        group = -(-len(light) // ROW_GROUPS)
        return np.asarray(light[: len(light) // group * group].reshape(-1, group).mean(axis=1))

    def timeline(self) -> Timeline:
        """What it was like over its time."""
        return timeline_of(self.light, self.moves, self._rate([]) or 25.0)

    def done(self, sound: SoundMeasure | None = None, doubts: Sequence[Doubt] = ()) -> ClipMeasures:
        """Tell the measures. sound: of the clip, none where it has none; doubts: that were raised outside."""
        facts, told = self.facts, list(doubts)
        count = len(self.light.times_s)
        common: dict[str, Any] = {
            "file": facts.file, "width": facts.width, "height": facts.height, "seconds": facts.seconds,
            "codec": facts.codec, "bits": facts.bits, "bit_rate_mb_s": facts.bit_rate_mb_s,
            "turned_deg": facts.turned_deg, "frames_measured": count, "sound": sound, "quick": facts.quick,
            "recorded_at": facts.recorded_at, "camera": facts.camera,
        }  # fmt: skip
        if count == 0:
            told.append(Doubt(field="exposure", why="there is no picture in it"))
            return ClipMeasures(**common, frame_rate=None, doubts=tuple(told))
        rate = self._rate(told)
        even = rate if not any(doubt.field == "frame_rate" for doubt in told) else None
        cuts = cuts_of(self.light)
        repeated = repeated_frames(self.moves)
        thin = self._bits_a_pixel(rate)
        if thin is not None and thin < SMOOTHED_BITS and not seen_to_move(self.moves):
            repeated = None  # a picture that hardly changes is written as if it did not
        again = np.zeros(count, dtype=bool) if repeated is None else repeated
        per_degree = None if facts.field_deg is None else facts.width / facts.field_deg
        piece = longest_piece(count, cuts, self.light.breaks)
        motion, sharpness = motion_of(self.moves, repeated, rate, piece, per_degree, told)
        edge = float(np.percentile([width for _, width in self.edges], 25)) if self.edges else None
        if edge is None:
            told.append(Doubt(field="sharpness.edge_px", why="no strong single edge"))
        noise = noise_of(self.blocks, told)
        if noise.snr_grey is not None and thin is not None and thin < SMOOTHED_BITS:
            told.append(
                Doubt(
                    field="noise.snr_grey",
                    why=f"at {thin:.2f} bits a pixel compression smooths noise away; the sensor's own ratio is lower",
                )
            )
        if motion.shutter_share is not None and thin is not None and thin < BLURRED_BITS:
            why = f"at {thin:.2f} bits a pixel compression blurs, too; the streak may be shorter"
            told += [Doubt(field="motion.shutter_share", why=why), Doubt(field="sharpness.blur_px", why=why)]
        return ClipMeasures(
            **common,
            frame_rate=rate,
            cuts_at_s=tuple(self.light.times_s[number] for number in cuts),
            exposure=exposure_of(self.light, cuts, again, told),
            noise=noise,
            motion=motion,
            sharpness=sharpness.model_copy(
                update={"edge_px": edge, "focus_drift_px": focus_drift_px(self.edges, cuts, told)}
            ),
            flicker=flicker_of(self.light, even, facts.height, cuts, told),
            cadence=cadence_of(self.moves, repeated, self._times(), told),
            colour=colour_of(self.light, told),
            horizon=horizon_of(self.tilts, told),
            haze=haze_of(self.darkest, self.contrasts, self._spots(cuts, told)),
            doubts=tuple(told),
        )

    def _times(self) -> list[float]:
        """Stamps of all frames of the clip."""
        return list(self.facts.times_s or self.light.times_s)

    def _spots(self, cuts: list[int], told: list[Doubt]) -> int | None:
        found = None if cuts else self.spots.found()
        if found is None:
            told.append(
                Doubt(
                    field="haze.spots", why="the picture moves too little, is too rough, or is cut, to tell what stays"
                )
            )
        return found

    def _bits_a_pixel(self, rate: float | None) -> float | None:
        facts = self.facts
        if rate is None or not facts.bit_rate_mb_s:
            return None
        return facts.bit_rate_mb_s * 1e6 / (facts.width * facts.height * rate)

    def _rate(self, told: list[Doubt]) -> float | None:
        times = np.array(self._times())
        if len(times) < 2 or times[-1] <= times[0]:
            told.append(Doubt(field="frame_rate", why="too few time stamps"))
            return None
        apart = np.diff(times)
        usual = float(np.median(apart))
        if usual <= 0.0:
            told.append(Doubt(field="frame_rate", why="time stamps do not rise"))
            return None
        off = np.abs(apart - usual) > UNEVEN * usual
        # A stamp that is missing now and then is a gap; many different ones are a variable rate.
        if off.mean() > 0.1:
            told.append(Doubt(field="frame_rate", why="frames come at uneven times"))
            return float((len(times) - 1) / (times[-1] - times[0]))
        return 1.0 / float(apart[~off].mean())


def _middle(plane: NDArray[Any], rows: int, columns: int) -> NDArray[Any]:
    """The middle of a plane, at most so large."""
    high, wide = min(rows, plane.shape[0]), min(columns, plane.shape[1])
    top, left = (plane.shape[0] - high) // 2, (plane.shape[1] - wide) // 2
    return plane[top : top + high, left : left + wide]
