"""What a clip was like over its time, in few enough steps to be drawn."""

from __future__ import annotations

import numpy as np

from steady_tide.core.physics.noise import GREY_REFLECTANCE
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.rushes.light import LEAST_LIGHT, LightSeries
from steady_tide.core.rushes.moves import MoveSeries, steadiest

STEPS = 160


class Timeline(Frozen):
    """Light and movement over a clip.

    at_s: where each step begins; low_stops, median_stops, high_stops: a tenth, half and nine tenths of the picture are
    darker, against mid grey, the extremes of the step; white_share, black_share: the most in the step; move_px: RMS of
    the picture's movement about its mean, recorded pixels a frame, None where there was nothing to follow.
    """

    at_s: tuple[float, ...] = ()
    low_stops: tuple[float, ...] = ()
    median_stops: tuple[float, ...] = ()
    high_stops: tuple[float, ...] = ()
    white_share: tuple[float, ...] = ()
    black_share: tuple[float, ...] = ()
    move_px: tuple[float | None, ...] = ()


def coarser(line: Timeline, steps: int) -> Timeline:
    """The same in fewer steps. steps: at most. Returns it."""
    count = len(line.at_s)
    if count <= steps:
        return line
    edges = np.unique(np.linspace(0, count, steps + 1).astype(int))[:-1]
    pieces = list(zip(edges, [*edges[1:], count], strict=True))
    moved = [[move for move in line.move_px[start:stop] if move is not None] for start, stop in pieces]
    return Timeline(
        at_s=tuple(line.at_s[start] for start in edges),
        low_stops=tuple(min(line.low_stops[start:stop]) for start, stop in pieces),
        median_stops=_rounded(np.array([np.mean(line.median_stops[start:stop]) for start, stop in pieces])),
        high_stops=tuple(max(line.high_stops[start:stop]) for start, stop in pieces),
        white_share=tuple(max(line.white_share[start:stop]) for start, stop in pieces),
        black_share=tuple(max(line.black_share[start:stop]) for start, stop in pieces),
        move_px=tuple(round(float(np.sqrt(np.mean(np.square(moves)))), 2) if moves else None for moves in moved),
    )


def timeline_of(light: LightSeries, moves: MoveSeries, rate: float) -> Timeline:
    """Draw a clip's series together. rate: frames a second. Returns at most STEPS steps."""
    count = len(light.times_s)
    if count == 0:
        return Timeline()
    edges = np.unique(np.linspace(0, count, min(count, STEPS) + 1).astype(int))[:-1]

    def stops(values: list[float]) -> np.ndarray:
        return np.asarray(np.log2(np.maximum(np.array(values), LEAST_LIGHT) / GREY_REFLECTANCE))

    shifts = steadiest(moves, rate)
    found = ~np.isnan(shifts[:, 0])
    mean = shifts[found].mean(axis=0) if found.any() else np.zeros(2)
    squares = ((shifts - mean) ** 2).sum(axis=1)
    moved: list[float | None] = []
    for start, stop in zip(edges, [*edges[1:], count], strict=True):
        inside = squares[start:stop][found[start:stop]]
        moved.append(round(float(np.sqrt(inside.mean())), 2) if len(inside) else None)
    return Timeline(
        at_s=_rounded(np.array(light.times_s)[edges], 3),
        low_stops=_rounded(np.minimum.reduceat(stops(light.lows), edges)),
        median_stops=_rounded(np.add.reduceat(stops(light.medians), edges) / np.diff([*edges, count])),
        high_stops=_rounded(np.maximum.reduceat(stops(light.highs), edges)),
        white_share=_rounded(np.maximum.reduceat(np.array(light.white), edges), 4),
        black_share=_rounded(np.maximum.reduceat(np.array(light.black), edges), 4),
        move_px=tuple(moved),
    )


def _rounded(values: np.ndarray, places: int = 2) -> tuple[float, ...]:
    return tuple(float(value) for value in np.round(values, places))
