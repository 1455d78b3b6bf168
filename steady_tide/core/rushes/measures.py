"""The measures of a clip, by the names under which they travel. None is an answer: the clip does not allow it."""

from __future__ import annotations

from pydantic import Field

from steady_tide.core.quantities.frozen import Frozen


class Doubt(Frozen):
    """Why a measure is missing, or is not to be trusted."""

    field: str
    why: str


class ExposureMeasure(Frozen):
    """Light of the frames. median_stops: of linear luminance about 0.18."""

    median_stops: float | None = None
    white_share: float | None = None
    worst_white_share: float | None = None
    worst_white_at_s: float | None = None
    black_share: float | None = None
    drift_stops: float | None = None
    jumps_at_s: tuple[float, ...] = ()


class NoiseAt(Frozen):
    """Signal to noise at one level of linear luminance."""

    level: float
    snr: float


class NoiseMeasure(Frozen):
    """Temporal noise of still parts. snr_error: one standard error."""

    snr_grey: float | None = None
    snr_error: float | None = None
    by_level: tuple[NoiseAt, ...] = ()


class MotionMeasure(Frozen):
    """Movement of the picture, recorded pixels a frame."""

    shake_px: float | None = None
    shake_deg_s: float | None = None
    pan_px: float | None = None
    pan_deg_s: float | None = None
    shutter_share: float | None = None


class SharpnessMeasure(Frozen):
    """Blur by motion, and edges. focus_drift_px: by how much the sharpest edges widen from one third of the clip to another."""

    blur_px: float | None = None
    blur_deg: float | None = None
    edge_px: float | None = None
    focus_drift_px: float | None = None


class FlickerMeasure(Frozen):
    """Pulses of the light."""

    hz: float | None = None
    depth: float | None = None
    band_rows: float | None = None


class CadenceMeasure(Frozen):
    """Frames that are shown again, and time stamps that are missing."""

    repeated_share: float | None = None
    gaps_at_s: tuple[float, ...] = ()


class ColourMeasure(Frozen):
    """Cast of what looks neutral, stops against green."""

    red_stops: float | None = None
    blue_stops: float | None = None
    kelvin: float | None = None
    kelvin_range: tuple[float, float] | None = None
    drift_stops: float | None = None


class HorizonMeasure(Frozen):
    """How far the horizon, or verticals, lean."""

    tilt_deg: float | None = None


class HazeMeasure(Frozen):
    """Veiling light; spots: how many stay where they are while the picture moves."""

    share: float | None = None
    spots: int | None = None


class SoundMeasure(Frozen):
    """Loudness and what spoils it."""

    peak_dbfs: float | None = None
    loudness_lufs: float | None = None
    clipped_share: float | None = None
    wind_share: float | None = None


class ClipMeasures(Frozen):
    """All that was measured of a clip. quick: whether only some of its frames were looked at; recorded_at, camera: as the file
    has them, by the camera's own clock."""

    file: str
    width: int
    height: int
    frame_rate: float | None
    seconds: float
    codec: str
    bits: int
    bit_rate_mb_s: float | None
    frames_measured: int
    quick: bool = False
    recorded_at: str | None = None
    camera: str | None = None
    turned_deg: int = 0
    cuts_at_s: tuple[float, ...] = ()
    exposure: ExposureMeasure = ExposureMeasure()
    noise: NoiseMeasure = NoiseMeasure()
    motion: MotionMeasure = MotionMeasure()
    sharpness: SharpnessMeasure = SharpnessMeasure()
    flicker: FlickerMeasure = FlickerMeasure()
    cadence: CadenceMeasure = CadenceMeasure()
    colour: ColourMeasure = ColourMeasure()
    horizon: HorizonMeasure = HorizonMeasure()
    haze: HazeMeasure = HazeMeasure()
    sound: SoundMeasure | None = None
    doubts: tuple[Doubt, ...] = Field(default=())

    def doubted(self, field: str) -> bool:
        """Whether a measure is missing, or not to be trusted. field: its name."""
        return any(doubt.field == field for doubt in self.doubts)
