"""Coverage: which framings make a beat cut, which are proposed for it, and what is missing."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import pairwise
from math import radians, tan
from typing import Annotated, Any, Literal

from pydantic import Field

from steady_tide.core.brief.brief import Brief, CameraMove, Sound, Subject
from steady_tide.core.light.sources import LightSource
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.limits import Limits
from steady_tide.core.shoot.film import Beat, Film, FramedShot, Framing, FramingKind
from steady_tide.core.story.timing import cut_s, take_length_s

PERSON_M = (0.5, 1.7)  # width and height of one who stands
FULL_TURN = 360.0


class KindOfFraming(Frozen):
    """A kind of framing, as data. bridges: whether it joins one beat to the next; elsewhere: whether it shows something else than the
    subject."""

    id: FramingKind
    name: str
    says: str
    fills: Annotated[float, Field(gt=0, le=2)]
    field_deg: Annotated[float, Field(gt=0, lt=180)]
    from_deg: float | None = None
    again_from_deg: float | None = None
    wanted: bool = False
    prompt: bool = False
    bridges: bool = False
    elsewhere: bool = False
    glare: bool = False
    figure: Literal["person", "thing"] = "person"
    size_m: tuple[float, float] = PERSON_M
    stands_m: float = 0.0
    foreground_m: float | None = None
    mount: str = "tripod"
    units: int = 1


Kinds = Mapping[str, KindOfFraming]


class Proposal(Frozen):
    """A framing that is proposed for a beat, with the brief of its shot."""

    framing: Framing
    brief: Brief


class Missing(Frozen):
    """What a beat lacks. code: which; facts: the names its sentence needs."""

    code: Literal["no_kind", "one_angle", "unbridged", "nothing", "unfilmed", "open"]
    beat: str | None
    facts: dict[str, Any] = Field(default_factory=dict)


def size_of(kind: KindOfFraming | None, framing: Framing, brief: Brief) -> tuple[float, float]:
    """Width and height of what a framing shows, metres: the shot's own size, in the shape of a person or of a thing."""
    wide, high = PERSON_M if framing.figure == "person" or kind is None else kind.size_m
    if framing.figure != "person" and (wide, high) == PERSON_M:
        wide, high = high, high  # of a thing only its larger side is known
    size = brief.subject.size_m
    if size is None:
        return wide, high
    by = size / max(wide, high)
    return wide * by, high * by


def proposals(
    film: Film,
    film_key: str,
    beat: Beat,
    there: Sequence[FramedShot],
    kinds: Kinds,
    light: LightSource,
    prompts: bool,
    limits: Limits,
) -> tuple[Proposal, ...]:
    """Propose what a beat lacks.

    film, film_key, beat: for which; there: framings of the beat; kinds: of framings; light: in which it is filmed; prompts: whether ideas
    are proposed, too; limits: numbers of judgement. Cameras stay on one side of the line of action. Returns framings with briefs, in the order of the kinds.
    """
    subjects = beat.subjects or (beat.title,)
    have = {(shot.framing.kind, shot.framing.subject) for shot in there}
    angles = {subject: _angles(subject, there) for subject in subjects}
    found: list[Proposal] = []
    place = max((shot.framing.place for shot in there), default=-1) + 1

    def add(kind: KindOfFraming, subject: str, from_deg: float | None) -> None:
        found.append(_proposal(film, film_key, beat, kind, subject, from_deg, place + len(found), light))

    for kind in kinds.values():
        if (kind.prompt and not prompts) or not (kind.prompt or kind.wanted):
            continue
        for subject in subjects if kind.again_from_deg is not None else subjects[:1]:
            shown = "" if kind.elsewhere else subject
            if not any(one == kind.id and (kind.again_from_deg is None or of == subject) for one, of in have):
                add(kind, shown, kind.from_deg)
                if kind.id in CLOSE:
                    angles[subject].append(kind.from_deg)
            if kind.again_from_deg is not None and len(_apart(angles[subject], limits.story_angle_deg)) < 2:
                add(kind, shown, kind.again_from_deg)
    return tuple(found)


def _angles(subject: str, shots: Sequence[FramedShot]) -> list[float | None]:
    return [shot.framing.from_deg for shot in shots if shot.framing.subject == subject and shot.framing.kind in CLOSE]


CLOSE: tuple[FramingKind, ...] = ("medium", "over_shoulder", "detail")  # of which two angles are wanted


def _apart(angles: Sequence[float | None], apart_deg: float) -> list[float]:
    """Angles of which each differs from every other one."""
    kept: list[float] = []
    for angle in angles:
        if angle is not None and all(angle_between(angle, other) >= apart_deg for other in kept):
            kept.append(angle)
    return kept


def angle_between(a: float, b: float) -> float:
    """The angle between two headings, 0 to 180 degrees."""
    apart = abs(a - b) % FULL_TURN
    return min(apart, FULL_TURN - apart)


def _proposal(
    film: Film,
    film_key: str,
    beat: Beat,
    kind: KindOfFraming,
    subject: str,
    from_deg: float | None,
    place: int,
    light: LightSource,
) -> Proposal:
    heading = None
    if beat.line_deg is not None and from_deg is not None:
        heading = (beat.line_deg + FULL_TURN / 2.0 + from_deg) % FULL_TURN
    framing = Framing(
        film=film_key,
        beat=beat.id,
        place=place,
        kind=kind.id,
        subject=subject,
        figure=kind.figure,
        units=kind.units,
        from_deg=from_deg,
        heading_deg=heading,
        foreground_m=kind.foreground_m,
        runs="left_to_right" if kind.bridges else None,
    )
    brief = Brief(
        title=_title(beat, kind, subject),
        light=light,
        glare=kind.glare,
        subject=Subject(
            distance_m=_around(distance_for(kind)),
            size_m=max(kind.size_m),
            fills=kind.fills,
            speed_m_s=1.2 if kind.bridges else 0.0,
        ),
        camera_move=CameraMove(mount=kind.mount),
        sound=Sound(wanted=False),
    )
    return Proposal(framing=framing, brief=framing_brief(film, framing, brief))


def _title(beat: Beat, kind: KindOfFraming, subject: str) -> str:
    return f"{beat.title}: {kind.name}{f' of {subject}' if subject and subject != beat.title else ''}"[:200]


def distance_for(kind: KindOfFraming) -> float:
    """From how far the wished lens shows the subject as large as the kind wants it. Returns metres."""
    return max(kind.size_m) / (2.0 * kind.fills * tan(radians(kind.field_deg) / 2.0))


NEAR_SHARE, FAR_SHARE = 0.9, 1.1  # of a distance that somebody keeps by eye


def _around(distance_m: float) -> tuple[float, float]:
    return (float(f"{distance_m * NEAR_SHARE:.2g}"), float(f"{distance_m * FAR_SHARE:.2g}"))


def framing_brief(film: Film, framing: Framing, brief: Brief) -> Brief:
    """A framing's brief with what its film and its movement say of it. film, framing: as they are; brief: of the shot. Returns another."""
    said = said_of(film, framing, brief)
    for name, fields in said.items():
        brief = brief.model_copy(update={name: getattr(brief, name).model_copy(update=fields)})
    return Brief.model_validate(brief.model_dump())


def said_of(film: Film, framing: Framing, brief: Brief) -> dict[str, dict[str, Any]]:
    """What a film says of a framing's brief: frame, rate, cuts of other shapes, takes, movement. Returns fields by part."""
    wide, _, high = film.shapes[0].partition(":")
    shape = int(wide) / int(high)
    width, height = (3840, round(3840 / shape / 2) * 2) if shape >= 1 else (round(3840 * shape / 2) * 2, 3840)
    slow = framing.slow_factor or film.slow_factor
    lapse = brief.traits.interval
    movement = framing.movement
    real = cut_s(film, framing) / slow
    travel = turn = 0.0
    if movement is not None and not movement.traits.in_steps:
        if movement.traits.turns:
            turn = (movement.angle_deg or 0.0) / real
        elif movement.path_m is not None:
            travel = movement.path_m / real
        elif movement.traits.around and movement.angle_deg is not None:
            travel = radians(movement.angle_deg) * brief.subject.distance_m[1] / real
    said: dict[str, dict[str, Any]] = {
        "delivery": {
            "width": width,
            "height": height,
            "fps": film.fps,
            "reframe": film.shapes[1:],
            "graded": film.graded,
            "slow_factor": slow,
        },
        "camera_move": {"travel_m_s": _rounded(min(100.0, travel)), "turn_deg_s": _rounded(min(1000.0, turn))},
    }
    if not lapse:
        said["take"] = {
            "length_s": _rounded(take_length_s(film, framing, slow)),
            "count": film.tries,
            "standby_min": STANDBY_MIN,
        }
    return said


STANDBY_MIN = 2.0  # between the takes of a framing


def _rounded(value: float) -> float:
    return float(f"{value:.4g}")


def following(before: tuple[Film, Framing], after: tuple[Film, Framing], brief: Brief) -> Brief:
    """A framing's brief after its film or its movement was changed: what it had from there follows, what was set otherwise stays.

    before, after: film and framing; brief: of the shot. Returns another, or the same.
    """
    was, now = said_of(*before, brief), said_of(*after, brief)
    for name in now:
        part = getattr(brief, name)
        moved = {
            field: value
            for field, value in now[name].items()
            if was.get(name, {}).get(field) != value and getattr(part, field) == was.get(name, {}).get(field)
        }
        if moved:
            brief = brief.model_copy(update={name: part.model_copy(update=moved)})
    return Brief.model_validate(brief.model_dump())


def missing_of(
    film: Film, shots: Sequence[FramedShot], kinds: Kinds, open_units: int, limits: Limits
) -> tuple[Missing, ...]:
    """What a film's beats lack, beat by beat. shots: in film order; open_units: that no framing fills; limits: numbers of judgement. Returns it."""
    found: list[Missing] = []
    beats = [beat for beat in film.beats if not beat.removed]
    for beat in beats:
        of_beat = [shot for shot in shots if shot.framing.beat == beat.id]
        mine = [shot.framing for shot in of_beat]
        if not mine:
            found.append(Missing(code="nothing", beat=beat.id))
            continue
        have = {framing.kind for framing in mine}
        lacks = [kind.id for kind in kinds.values() if kind.wanted and not kind.bridges and kind.id not in have]
        found += [Missing(code="no_kind", beat=beat.id, facts={"kind": kind}) for kind in lacks]
        for subject in beat.subjects or (beat.title,):
            angles = _apart(_angles(subject, of_beat), limits.story_angle_deg)
            if len(angles) == 1:
                found.append(Missing(code="one_angle", beat=beat.id, facts={"subject": subject}))
    for one, other in pairwise(beats):
        leaving = {shot.framing.kind for shot in shots if shot.framing.beat == one.id}
        coming = {shot.framing.kind for shot in shots if shot.framing.beat == other.id}
        if leaving and coming and not (BRIDGES_OUT & leaving or BRIDGES_IN & coming):
            found.append(Missing(code="unbridged", beat=other.id, facts={"from": one.title, "to": other.title}))
    if open_units:
        found.append(Missing(code="open", beat=None, facts={"units": open_units}))
    return tuple(found)


BRIDGES_OUT: frozenset[FramingKind] = frozenset({"way_out", "cutaway"})
BRIDGES_IN: frozenset[FramingKind] = frozenset({"way_in", "cutaway", "establishing"})
