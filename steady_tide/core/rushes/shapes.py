"""Edges, horizon and haze, from single frames."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from steady_tide.core.rushes.measures import Doubt, HazeMeasure, HorizonMeasure

Array = NDArray[np.float32]

STRONG = 0.12  # of the code range across an edge
MOST_EDGES = 90
REACH = 12  # pixels to either side that are looked at
LEVEL_WITHIN_DEG = 25.0
LEAST_LINE = 0.35  # of the frame's width
NEAR_LINE_PX = 2.5
HAZY_BLACK, CLEAR_BLACK = 0.25, 0.03


def edge_width_px(near: Array) -> float | None:
    """10 to 90 % width of the sharpest edges. near: luma as shares. Returns pixels, None where there is no strong edge."""
    smooth = cv2.GaussianBlur(near, (0, 0), 0.8)
    gx, gy = cv2.Sobel(smooth, cv2.CV_32F, 1, 0, scale=0.125), cv2.Sobel(smooth, cv2.CV_32F, 0, 1, scale=0.125)
    size = np.hypot(gx, gy)
    size[:REACH], size[-REACH:], size[:, :REACH], size[:, -REACH:] = 0, 0, 0, 0
    flat, most = size.ravel(), min(MOST_EDGES * 4, size.size)
    strongest = np.argpartition(flat, -most)[-most:]
    order = strongest[np.argsort(flat[strongest])][::-1][::4]
    widths = []
    steps = np.arange(-REACH, REACH + 0.01, 0.25, dtype=np.float32)
    for place in order:
        row, column = divmod(int(place), near.shape[1])
        slope = float(size[row, column])
        if slope < STRONG / (2 * REACH):
            break
        ux, uy = float(gx[row, column]) / slope, float(gy[row, column]) / slope
        profile = cv2.remap(near, (column + ux * steps)[None, :], (row + uy * steps)[None, :], cv2.INTER_LINEAR)[0]
        width = _rise(profile)
        if width is not None:
            widths.append(width)
    return float(np.percentile(widths, 20)) if len(widths) >= 10 else None


def _rise(profile: Array) -> float | None:
    """From a tenth to nine tenths of an edge's height, pixels. Returns None where it is no single edge."""
    low, high = float(profile[:20].mean()), float(profile[-20:].mean())
    if high - low < STRONG:
        return None
    share = (profile - low) / (high - low)
    if share.min() < -0.25 or share.max() > 1.25:
        return None
    over_low, over_high = np.flatnonzero(share >= 0.1), np.flatnonzero(share >= 0.9)
    return (
        float(over_high[0] - over_low[0]) * 0.25
        if len(over_low) and len(over_high) and over_high[0] > over_low[0]
        else None
    )


def tilt_deg(near: Array) -> float | None:
    """How far the longest nearly level line leans, degrees clockwise. near: luma of a whole small frame."""
    plain = cv2.GaussianBlur(np.clip(near * 255.0, 0, 255).astype(np.uint8), (0, 0), 1.2)
    edges = cv2.Canny(plain, 50, 150)
    wide = near.shape[1]
    upright = np.pi / 2.0
    within = np.radians(LEVEL_WITHIN_DEG)
    lines = cv2.HoughLines(
        edges, 1, np.pi / 720, int(LEAST_LINE * wide), min_theta=upright - within, max_theta=upright + within
    )
    if lines is None:
        return None
    # The line with the most votes comes first; what lies on it says more exactly how it leans.
    away, angle = (float(value) for value in lines.reshape(-1, lines.shape[-1])[0][:2])
    rows, columns = np.nonzero(edges)
    near_line = np.abs(columns * np.cos(angle) + rows * np.sin(angle) - away) < NEAR_LINE_PX
    x, y = columns[near_line].astype(float), rows[near_line].astype(float)
    if np.ptp(x) < LEAST_LINE * wide:
        return None
    return float(np.degrees(np.arctan(np.polyfit(x, y, 1)[0])))


def horizon_of(tilts: list[float | None], doubts: list[Doubt]) -> HorizonMeasure:
    """The median lean over a clip; none where few frames have a line, or they disagree."""
    found = [tilt for tilt in tilts if tilt is not None]
    if len(found) < max(1, len(tilts) // 2) or (len(found) > 2 and float(np.std(found)) > 4.0):
        doubts.append(Doubt(field="horizon.tilt_deg", why="no long level line stands out"))
        return HorizonMeasure()
    return HorizonMeasure(tilt_deg=float(np.median(found)))


def focus_drift_px(edges: list[tuple[float, float]], cuts: list[int], doubts: list[Doubt]) -> float | None:
    """By how much the sharpest edges widen from one third of a clip to another. edges: (time, width) of frames that were
    looked at; cuts: of the clip. Returns pixels, None where too few frames have edges."""
    if cuts or len(edges) < 6:
        doubts.append(Doubt(field="sharpness.focus_drift_px", why="cut, or too few frames with strong edges"))
        return None
    times = np.array([time for time, _ in edges])
    widths = np.array([width for _, width in edges])
    third = np.minimum(2, ((times - times[0]) / max(1e-9, float(np.ptp(times))) * 3.0).astype(int))
    middles = [float(np.median(widths[third == part])) for part in range(3) if (third == part).any()]
    return max(middles) - min(middles)


def haze_of(darkest: list[float], contrasts: list[float], spots: int | None) -> HazeMeasure:
    """Veiling: black that is lifted while contrast is low. darkest: code of the darkest hundredth, frame by frame;
    contrasts: from there to the brightest hundredth; spots: on the lens."""
    if not darkest:
        return HazeMeasure(spots=spots)
    lifted = np.clip((np.median(darkest) - CLEAR_BLACK) / (HAZY_BLACK - CLEAR_BLACK), 0.0, 1.0)
    flat = np.clip((0.75 - np.median(contrasts)) / 0.45, 0.0, 1.0)
    return HazeMeasure(share=float(lifted * flat), spots=spots)
