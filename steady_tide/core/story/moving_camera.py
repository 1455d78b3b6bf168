"""Movements of the camera: how fast they are, and how fast they may be before what passes is not seen."""

from __future__ import annotations

from math import degrees, hypot, radians
from typing import Literal

from steady_tide.core.brief.brief import Brief
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.limits import Limits
from steady_tide.core.shoot.film import Film, Framing, Movement
from steady_tide.core.shoot.movements import MoveKind
from steady_tide.core.story.timing import cut_s

Verdict = Literal["works", "too_fast", "too_slow", "unknown"]
Hint = Literal["two_points", "elbows", "gimbal", "backwards", "walk", "carry"]


class Move(Frozen):
    """A movement in numbers. screen_s, real_s: as it is seen and as it is filmed; speed: metres or degrees a second (of `unit`);
    slowest, fastest: that work; crossing_s: in how long what passes crosses the frame as it is seen; step: from frame to frame of
    a film of steps; grows: how many times as large the subject is at the end."""

    kind: MoveKind
    unit: Literal["m", "deg"]
    path: float
    screen_s: float
    real_s: float
    speed: float
    slowest: float
    fastest: float
    crossing_s: float | None
    verdict: Verdict
    hints: tuple[Hint, ...]
    step: float | None = None
    grows: float | None = None


def crossing_wanted_s(film: Film, limits: Limits) -> float:
    """In how long what passes should cross the frame, as it is seen; shorter on a faster timeline. Returns seconds."""
    return limits.pan_crossing_s * limits.pan_at_fps / film.fps


def move_of(
    film: Film, framing: Framing, brief: Brief, fields_deg: tuple[float, float], carried: bool, limits: Limits
) -> Move | None:
    """Work out a movement.

    film, framing, brief: of the shot; fields_deg: across and up the frame, of a straight-lined view; carried: whether a person holds the
    camera; limits: numbers of judgement. What stands still beside the way should take seven seconds to cross the frame at a
    cinema's rate, behind a subject that is followed half of that. Returns None where the framing stands or says no path.
    """
    movement = framing.movement
    if movement is None:
        return None
    traits = movement.traits
    turning = traits.turns is not None
    path = _path(movement, brief)
    if path is None:
        return None
    shown = cut_s(film, framing)
    slow = brief.delivery.slow_factor
    real = shown / slow
    if traits.in_steps:
        real = brief.take.length_s
    wanted = crossing_wanted_s(film, limits)
    if traits.follows:
        wanted /= limits.pan_followed_times
    speed = path / real
    # Frame widths that pass in a second of life for one metre or degree a second.
    passes = _passes(movement, brief, fields_deg)
    hastened = real / shown  # life that passes in a second of the screen
    crossing = None if passes <= 0.0 else 1.0 / (passes * speed * hastened)
    fastest = 1.0 / (passes * wanted * hastened) if passes > 0.0 else float("inf")
    slowest = limits.move_seen_share / (passes * shown * hastened) if passes > 0.0 else 0.0
    if not turning and carried:
        fastest = min(fastest, limits.run_m_s if traits.follows else limits.walk_m_s)
    verdict: Verdict = "too_fast" if speed > fastest * 1.001 else "too_slow" if speed < slowest * 0.999 else "works"
    far = brief.subject.distance_m[1]
    frames = max(2, round(shown * film.fps))
    return Move(
        kind=movement.kind,
        unit="deg" if turning else "m",
        path=path,
        screen_s=shown,
        real_s=real,
        speed=speed,
        slowest=slowest,
        fastest=min(fastest, limits.move_most),
        crossing_s=crossing,
        verdict=verdict,
        hints=_hints(movement, brief, path, speed, carried, limits),
        step=path / (frames - 1) if traits.in_steps else None,
        grows=_grows(movement, far, path),
    )


def _path(movement: Movement, brief: Brief) -> float | None:
    if movement.traits.turns:
        return movement.angle_deg
    if movement.traits.around:
        if movement.path_m is not None:
            return movement.path_m
        return None if movement.angle_deg is None else radians(movement.angle_deg) * brief.subject.distance_m[1]
    return movement.path_m


def _passes(movement: Movement, brief: Brief, fields_deg: tuple[float, float]) -> float:
    """Frame widths (heights of a tilt) by which the nearest still thing is displaced, for one metre or degree."""
    across, up = fields_deg
    if movement.traits.turns:
        return 1.0 / (across if movement.traits.turns == "across" else up)
    far = brief.subject.distance_m[1]
    if movement.traits.towards:
        # What stands at the edge goes out by half a frame as the distance shrinks by itself: fastest at the near end.
        nearest = max(far - (movement.path_m or 0.0), far * NEAREST_SHARE)
        return 0.5 / nearest
    if movement.traits.around:  # the ground behind turns with the camera
        return degrees(1.0 / far) / across
    nearest = movement.nearest_m or brief.subject.distance_m[0]
    return degrees(1.0 / nearest) / across


NEAREST_SHARE = 0.05  # of the first distance: nobody pushes into the thing itself


def _grows(movement: Movement, far: float, path: float) -> float | None:
    if movement.traits.towards > 0:
        return far / max(far - path, far * NEAREST_SHARE)
    if movement.traits.towards < 0:
        return far / (far + path)
    if movement.traits.aside:
        return far / hypot(far, path)
    return None


def _hints(
    movement: Movement, brief: Brief, path: float, speed: float, carried: bool, limits: Limits
) -> tuple[Hint, ...]:
    found: list[Hint] = []
    if carried:
        if movement.traits.turns:
            found.append("two_points")
        elif path <= limits.lean_m:
            found.append("elbows")
        elif not movement.traits.flies:
            found += ["gimbal"] if speed > limits.walk_m_s / 2.0 or path > limits.carry_m else ["walk"]
    ends_at = brief.subject.distance_m[1] - path
    if movement.traits.towards > 0 and ends_at < limits.backwards_from_m:
        found.append("backwards")
    return tuple(found)
