"""Which clip is of which shot: by the time of recording, the frame, the rate, the camera and the order of the day.

A camera's clock is off by a constant. It is found from the whole batch: of every error that would bring one clip to one
shot, the one counts with which the batch as a whole fits best. Then the most likely way through the day is followed, and
each clip is given the share of all ways that go through its shot (source: rabiner).
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.quantities.frozen import Frozen

Floats = NDArray[np.float64]

# Each is a logarithm of how much more likely a clip is of a shot when it is so.
FRAME, RATE, CAMERA = 2.0, 2.0, 3.0
BACKWARDS = -1.5
OF_NO_SHOT = -3.0
EARLY_S, LATE_S = 15 * 60.0, 40 * 60.0  # days slip later more than they run early
FARTHEST = -4.5  # however far off in time
WHOLE_HOURS = 0.5  # a clock is more often off by nothing, or by whole hours
CANDIDATES_S = 60.0
MOST_CANDIDATES = 600
SURE = 0.8
RATE_WITHIN = 0.01


@dataclass(frozen=True)
class ClipSeen:
    """What a clip says of itself. at_s: of recording, by the camera's own clock, seconds; None where it does not say."""

    key: str
    at_s: float | None
    camera: str | None
    width: int
    height: int
    rate: float | None


@dataclass(frozen=True)
class ShotAhead:
    """A shot as it was planned. starts_s, lasts_s: when it begins, and for how long one is at it, seconds."""

    key: str
    starts_s: float | None
    lasts_s: float
    camera_id: str
    camera: str
    width: int
    height: int
    rate: float


class Matched(Frozen):
    """Of which shot a clip is. share: of all likely ways; sure: whether nobody need be asked; next_best: the other shot
    that it may be of."""

    clip: str
    shot: str | None
    share: float
    sure: bool
    next_best: str | None = None


class ClockError(Frozen):
    """How far a camera's clock runs ahead, seconds, and how many clips say so."""

    camera: str
    ahead_s: float
    clips: int


def match(clips: Sequence[ClipSeen], shots: Sequence[ShotAhead]) -> tuple[tuple[Matched, ...], tuple[ClockError, ...]]:
    """Find the shots of a batch of clips.

    clips, shots: in any order. Returns the match of each clip, in the order given, and the clocks' errors. Grows with
    clips times shots.
    """
    order = sorted(range(len(shots)), key=lambda n: (shots[n].starts_s is None, shots[n].starts_s or 0.0))
    ahead = [shots[n] for n in order]
    found: dict[str, Matched] = {}
    clocks = []
    groups: dict[str, list[ClipSeen]] = defaultdict(list)
    for clip in clips:
        groups[clip.camera or f"{clip.width} x {clip.height}"].append(clip)
    for camera, group in groups.items():
        group.sort(key=lambda clip: (clip.at_s is None, clip.at_s or 0.0, clip.key))
        alike = np.array([[_alike(clip, shot) for shot in ahead] for clip in group]).reshape(len(group), len(ahead))
        error = _clock_error(group, ahead, alike)
        found.update(_followed(group, ahead, alike, error))
        if any(clip.at_s is not None for clip in group) and ahead:
            sure = sum(found[clip.key].sure and found[clip.key].shot is not None for clip in group)
            clocks.append(ClockError(camera=camera, ahead_s=error, clips=sure))
    return tuple(found[clip.key] for clip in clips), tuple(clocks)


def _alike(clip: ClipSeen, shot: ShotAhead) -> float:
    """How much a clip's settings speak for a shot."""
    said = FRAME if {clip.width, clip.height} == {shot.width, shot.height} else -FRAME
    if clip.rate is not None:
        said += RATE if abs(clip.rate / shot.rate - 1.0) < RATE_WITHIN else -RATE
    if clip.camera is not None:
        said += CAMERA if clip.camera.casefold() in (shot.camera.casefold(), shot.camera_id.casefold()) else -CAMERA
    return said


def _in_time(clips: Sequence[ClipSeen], shots: Sequence[ShotAhead], errors: Floats) -> Floats:
    """How much the times speak for each pair. errors: of the clock, seconds. Returns (errors, clips, shots)."""
    at = np.array([np.nan if clip.at_s is None else clip.at_s for clip in clips])[None, :, None]
    starts = np.array([np.nan if shot.starts_s is None else shot.starts_s for shot in shots])[None, None, :]
    lasts = np.array([shot.lasts_s for shot in shots])[None, None, :]
    late = at - errors[:, None, None] - starts
    off = np.where(late < 0.0, late / EARLY_S, np.maximum(0.0, late - lasts) / LATE_S)
    return np.asarray(np.maximum(FARTHEST, np.nan_to_num(-0.5 * off**2, nan=FARTHEST / 2.0)))


def _clock_error(clips: Sequence[ClipSeen], shots: Sequence[ShotAhead], alike: Floats) -> float:
    """The error of a clock with which a batch fits best, seconds."""
    at = np.array([clip.at_s for clip in clips if clip.at_s is not None])
    starts = np.array([shot.starts_s for shot in shots if shot.starts_s is not None])
    if len(at) == 0 or len(starts) == 0:
        return 0.0
    apart = (at[:, None] - starts[None, :]).ravel()
    steps = np.unique(np.round(apart / CANDIDATES_S) * CANDIDATES_S)
    if len(steps) > MOST_CANDIDATES:  # the commonest, which a right one is among
        rough = np.round(apart / 600.0)
        values, counts = np.unique(rough, return_counts=True)
        usual = values[np.argsort(counts)[::-1][: MOST_CANDIDATES // 4]]
        steps = np.unique(np.concatenate([usual * 600.0 + shift for shift in (-300.0, -150.0, 0.0, 150.0)]))
    tried = np.unique(np.concatenate([steps, np.arange(-12, 13) * 3600.0]))
    best, best_score = 0.0, -np.inf
    for start in range(0, len(tried), 64):
        part = tried[start : start + 64]
        fits = np.maximum(OF_NO_SHOT, alike[None] + _in_time(clips, shots, part)).max(axis=2).sum(axis=1)
        whole = np.abs(part / 3600.0 - np.round(part / 3600.0)) * 3600.0 < 90.0
        odd = np.log1p(np.abs(part) / 3600.0) + np.where(whole, 0.0, WHOLE_HOURS)
        scores = fits - odd
        at_best = int(np.argmax(scores))
        if scores[at_best] > best_score:
            best, best_score = float(part[at_best]), float(scores[at_best])
    return best


def _followed(clips: Sequence[ClipSeen], shots: Sequence[ShotAhead], alike: Floats, error: float) -> dict[str, Matched]:
    """The shares of all ways through the day that pass each clip at each shot, or at none."""
    if not clips:
        return {}
    none = len(shots)
    says = np.full((len(clips), none + 1), OF_NO_SHOT)
    if shots:
        says[:, :none] = alike + _in_time(clips, shots, np.array([error]))[0]
    step = np.zeros((none + 1, none + 1))
    step[:none, :none] = np.where(np.arange(none)[:, None] > np.arange(none)[None, :], BACKWARDS, 0.0)
    forward, backward = np.zeros_like(says), np.zeros_like(says)
    forward[0] = says[0]
    for n in range(1, len(clips)):
        forward[n] = says[n] + np.logaddexp.reduce(forward[n - 1][:, None] + step, axis=0)
    for n in range(len(clips) - 2, -1, -1):
        backward[n] = np.logaddexp.reduce(step + (says[n + 1] + backward[n + 1])[None, :], axis=1)
    both = forward + backward
    shares = np.exp(both - np.logaddexp.reduce(both, axis=1, keepdims=True))
    found = {}
    for row, clip in zip(shares, clips, strict=True):
        ranked = np.argsort(row)[::-1]
        best, other = int(ranked[0]), int(ranked[1]) if len(ranked) > 1 else none
        found[clip.key] = Matched(
            clip=clip.key,
            shot=None if best == none else shots[best].key,
            share=float(row[best]),
            sure=bool(row[best] >= SURE),
            next_best=None if other == none or row[other] < 0.05 else shots[other].key,
        )
    return found
