"""What was measured of a clip, in words."""

from __future__ import annotations

from steady_tide.core.rushes.measures import ClipMeasures
from steady_tide.core.rushes.planned_and_filmed import Against
from steady_tide.words.quantities import NARROW, seconds, signed, stops

Row = tuple[str, float | None, str]


def clip_lines(clip: ClipMeasures) -> list[str]:
    """A clip's measures, a line each; what could not be measured says why. Returns lines."""
    rate = "uneven" if clip.frame_rate is None else f"{clip.frame_rate:.2f}".rstrip("0").rstrip(".")
    lines = [
        f"{clip.file}: {clip.width}{NARROW}×{NARROW}{clip.height}, {rate}{NARROW}fps, {clip.seconds:.1f}{NARROW}s, {clip.codec}, {clip.bits}{NARROW}bit"
    ]
    lines += [
        f"  {title:<26} {_said(value)}{NARROW if unit else ''}{unit}"
        for title, value, unit in _rows(clip)
        if value is not None
    ]
    if clip.exposure.jumps_at_s:
        lines.append(
            f"  exposure jumps at          {', '.join(f'{at:.2f}' for at in clip.exposure.jumps_at_s)}{NARROW}s"
        )
    if clip.cuts_at_s:
        lines.append(f"  cuts at                    {', '.join(f'{at:.2f}' for at in clip.cuts_at_s)}{NARROW}s")
    lines += [f"  in doubt, {doubt.field}: {doubt.why}" for doubt in clip.doubts]
    return lines


def _rows(clip: ClipMeasures) -> list[Row]:
    exposure, motion, sharpness, colour = clip.exposure, clip.motion, clip.sharpness, clip.colour

    def percent(share: float | None) -> float | None:
        return None if share is None else 100.0 * share

    rows: list[Row] = [
        ("median brightness", exposure.median_stops, "stops"),
        ("blown", percent(exposure.white_share), "%"),
        ("lost in black", percent(exposure.black_share), "%"),
        ("exposure drifts", exposure.drift_stops, "stops"),
        ("signal to noise, grey", clip.noise.snr_grey, ""),
        ("shake", motion.shake_px, "px a frame"),
        ("shake", motion.shake_deg_s, "° a second"),
        ("pan", motion.pan_px, "px a frame"),
        ("exposure of the interval", motion.shutter_share, ""),
        ("smear", sharpness.blur_px, "px"),
        ("edges", sharpness.edge_px, "px"),
        ("lamps pulse", clip.flicker.hz, "Hz"),
        ("by", percent(clip.flicker.depth), "%"),
        ("bands", clip.flicker.band_rows, "rows"),
        ("frames repeated", percent(clip.cadence.repeated_share), "%"),
        ("red against green", colour.red_stops, "stops"),
        ("blue against green", colour.blue_stops, "stops"),
        ("horizon leans", clip.horizon.tilt_deg, "°"),
        ("haze", percent(clip.haze.share), "%"),
    ]
    if clip.sound is not None:
        rows += [
            ("sound peaks", clip.sound.peak_dbfs, "dBFS"),
            ("loudness", clip.sound.loudness_lufs, "LUFS"),
            ("clipped", percent(clip.sound.clipped_share), "%"),
            ("wind", percent(clip.sound.wind_share), "%"),
        ]
    return rows


def _said(value: float) -> str:
    return stops(value) if abs(value) < 100 else signed(round(value)).lstrip("+")


AGAINST = {
    "width": ("width", "px"),
    "height": ("height", "px"),
    "frame_rate": ("rate", "fps"),
    "shutter_s": ("shutter", ""),
    "bit_rate_mb_s": ("bit rate", "Mb/s"),
    "snr": ("signal to noise, grey", ""),
    "flicker": ("lamps pulse", ""),
}


def against_lines(entries: tuple[Against, ...]) -> list[str]:
    """As planned beside as filmed, a line for each thing that differs. Returns lines; one where nothing does."""
    if not entries:
        return []
    lines = [_differs(entry) for entry in entries if entry.differs]
    return lines or ["  as planned, as far as the clip tells"]


def _differs(entry: Against) -> str:
    title, unit = AGAINST[entry.item]

    def told(value: float) -> str:
        if entry.item == "shutter_s":
            return seconds(value)
        return f"{value:.4g}{NARROW if unit else ''}{unit}"

    apart = (
        ""
        if entry.apart_stops is None
        else f", {stops(abs(entry.apart_stops))}{NARROW}stops {'more' if entry.apart_stops > 0 else 'less'}"
    )
    return f"  otherwise: {title} {told(entry.filmed)}, planned {told(entry.planned)}{apart}"
