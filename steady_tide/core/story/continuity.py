"""Continuity: what has to match where two shots meet."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import pairwise
from math import radians, sin, sqrt
from typing import Any, Literal

from pydantic import Field

from steady_tide.core.light.sources import sky_of
from steady_tide.core.planning.plan import Plan
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.limits import Limits
from steady_tide.core.shoot.film import Beat, Film, FramedShot, Framing, Runs
from steady_tide.core.story.coverage import angle_between
from steady_tide.core.story.shadow import SunAt

Code = Literal["jump", "direction", "line", "light_side", "weather", "balance", "profile", "wears"]


class Clash(Frozen):
    """Two shots that do not match. code: in what; one, other: keys of the shots; facts: the words its sentence needs."""

    code: Code
    one: str
    other: str
    facts: dict[str, Any] = Field(default_factory=dict)


class Pair(Frozen):
    """Two shots that were said to join. by: what is alike."""

    one: str
    other: str
    tag: str
    by: str


def runs_of(beat: Beat | None, framing: Framing, limits: Limits) -> Runs | None:
    """Which way the subject goes through the frame: as it was said, else from the line of action and the camera's heading."""
    if framing.runs is not None:
        return framing.runs
    if beat is None or beat.line_deg is None or framing.heading_deg is None:
        return None
    along = radians(beat.line_deg - framing.heading_deg)
    if abs(sin(along)) >= limits.story_sideways_share:
        return "left_to_right" if sin(along) > 0.0 else "right_to_left"
    return "away" if angle_between(beat.line_deg, framing.heading_deg) < 90.0 else "towards"


def clashes(
    film: Film, order: Sequence[FramedShot], suns: Mapping[str, SunAt], plans: Mapping[str, Plan], limits: Limits
) -> tuple[Clash, ...]:
    """What does not match where one shot follows another.

    film: of which; order: its framings as they are cut; suns: where the sun stands at the time of each, by key; plans: of each that has
    one; limits: numbers of judgement. Returns what clashes, each pair once.
    """
    found: dict[tuple[str, ...], Clash] = {}
    for one, other in pairwise(order):
        if one.key == other.key:
            continue
        for code, facts in _between(film, one, other, suns, plans, limits):
            found.setdefault(
                (code, *sorted((one.key, other.key))), Clash(code=code, one=one.key, other=other.key, facts=facts)
            )
    return tuple(found.values())


def _between(
    film: Film, one: FramedShot, other: FramedShot, suns: Mapping[str, SunAt], plans: Mapping[str, Plan], limits: Limits
) -> list[tuple[Code, dict[str, Any]]]:
    a, b = one.framing, other.framing
    said: list[tuple[Code, dict[str, Any]]] = []
    same = a.subject == b.subject and a.subject != ""
    ways = runs_of(film.beat(a.beat), a, limits), runs_of(film.beat(b.beat), b, limits)
    if same and _jumps(one, other, limits):
        said.append(("jump", {"subject": a.subject}))
    if same and set(ways) == {"left_to_right", "right_to_left"}:
        said.append(("direction", {"subject": a.subject, "way": ways[0]}))
    if a.beat == b.beat:
        beat = film.beat(a.beat)
        sides = _side_of_line(beat, a, limits), _side_of_line(beat, b, limits)
        if 0 not in sides and sides[0] != sides[1] and set(ways) != {"left_to_right", "right_to_left"}:
            said.append(("line", {}))
        lit = _lit(suns.get(one.key), a, limits), _lit(suns.get(other.key), b, limits)
        if {"left", "right"} == set(lit) and angle_between(
            a.heading_deg or 0.0, b.heading_deg or 0.0
        ) < limits.story_like_heading_deg:
            said.append(("light_side", {"side": lit[0]}))
        skies = [sky_of(shot.brief.light) for shot in (one, other)]
        if skies[0] is not None and skies[1] is not None and skies[0].cloud != skies[1].cloud:
            said.append(("weather", {"one": skies[0].cloud, "other": skies[1].cloud}))
        said += _looks(plans.get(one.key), plans.get(other.key), limits)
    if same and a.wears and b.wears and a.wears != b.wears:
        said.append(("wears", {"subject": a.subject, "one": a.wears, "other": b.wears}))
    return said


def _jumps(one: FramedShot, other: FramedShot, limits: Limits) -> bool:
    """Whether two shots of the same are so alike that the cut jumps."""
    a, b = one.framing, other.framing
    if a.from_deg is None or b.from_deg is None or angle_between(a.from_deg, b.from_deg) >= limits.story_angle_deg:
        return False
    sizes = [_large(shot) for shot in (one, other)]
    return max(sizes) / min(sizes) < limits.story_jump_times and a.kind == b.kind


def _large(shot: FramedShot) -> float:
    near, far = shot.brief.subject.distance_m
    return float((shot.brief.subject.size_m or 1.0) / sqrt(near * far))


def _side_of_line(beat: Beat | None, framing: Framing, limits: Limits) -> int:
    if beat is None or beat.line_deg is None or framing.heading_deg is None:
        return 0
    across = sin(radians(framing.heading_deg - beat.line_deg))
    return 0 if abs(across) < limits.story_line_free_share else 1 if across > 0.0 else -1


def _lit(sun: SunAt | None, framing: Framing, limits: Limits) -> str | None:
    if sun is None or sun.altitude_deg <= 0.0 or framing.heading_deg is None:
        return None
    across = sin(radians(sun.azimuth_deg - framing.heading_deg))
    return None if abs(across) < limits.story_lit_side_share else "right" if across > 0.0 else "left"


def _looks(one: Plan | None, other: Plan | None, limits: Limits) -> list[tuple[Code, dict[str, Any]]]:
    if one is None or other is None:
        return []
    said: list[tuple[Code, dict[str, Any]]] = []
    a, b = one.settings, other.settings
    if a.white_balance_k and b.white_balance_k and abs(a.white_balance_k - b.white_balance_k) >= limits.story_balance_k:
        said.append(("balance", {"one": a.white_balance_k, "other": b.white_balance_k}))
    if a.profile != b.profile:
        said.append(("profile", {"one": a.profile, "other": b.profile}))
    return said


def pairs(shots: Sequence[FramedShot]) -> tuple[Pair, ...]:
    """Shots that carry the same tag of the same kind. Returns pairs in the order of the shots."""
    found = []
    for place, one in enumerate(shots):
        for other in shots[place + 1 :]:
            found += [
                Pair(one=one.key, other=other.key, tag=a.tag, by=a.by)
                for a in one.framing.joins
                for b in other.framing.joins
                if (a.tag, a.by) == (b.tag, b.by)
            ]
    return tuple(found)
