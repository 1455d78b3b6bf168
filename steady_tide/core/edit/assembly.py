"""The first assembly: kept takes in the order of the story, from the best part of each, at their speed; what is missing keeps its place."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from steady_tide.core.edit.notes import ClipNote, EditNotes, EditShot, EditTake
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.limits import Limits
from steady_tide.core.rushes.timeline import Timeline
from steady_tide.core.shoot.film import Film, FramedShot
from steady_tide.core.story.timing import strip_of

USUAL_LENGTH_S = 600.0  # of a take whose length nobody told


class Marked(Frozen):
    """A fault at a place of a cut. at_frame: from its beginning on the timeline; code: which."""

    at_frame: int
    code: str


class PlacedClip(Frozen):
    """A piece of the timeline. key: its shot, None where nothing is framed; take: None where none is kept; file: of its clip; media_fps, media_s: what
    there is of it; start_s: where it begins in it; frames: on the timeline; speed: media seconds for one of the timeline; group: letter."""

    key: str | None
    name: str
    take: str | None
    file: str | None
    media_fps: float
    media_s: float
    start_s: float
    frames: int
    speed: float
    group: str | None
    marks: tuple[Marked, ...] = ()


class Assembly(Frozen):
    """A timeline. fps: of it; width, height: delivered; clips: one after the other, without a gap."""

    title: str
    fps: float
    width: int
    height: int
    clips: tuple[PlacedClip, ...]

    @property
    def frames(self) -> int:
        """How long it is."""
        return sum(clip.frames for clip in self.clips)


def best_start_s(take_s: float, needs_s: float, handle_s: float, timeline: Timeline | None, limits: Limits) -> float:
    """Where the best part of a take begins: what shakes least and blows out least, with a handle before and after where there is room.

    take_s: its length; needs_s: of it; handle_s: to be left; timeline: measured, None where it was not: then the middle; limits: numbers
    of judgement. Returns seconds, 0 or more.
    """
    room = take_s - needs_s
    if room <= 0.0:
        return 0.0
    first, last = (handle_s, room - handle_s) if room >= 2.0 * handle_s else (room / 2.0, room / 2.0)
    if timeline is None or not timeline.at_s:
        return (first + last) / 2.0
    starts = [at for at in timeline.at_s if first <= at <= last] or [(first + last) / 2.0]

    def cost(start: float) -> float:
        inside = [n for n, at in enumerate(timeline.at_s) if start <= at < start + needs_s]
        moves = [move for n in inside if (move := timeline.move_px[n]) is not None]
        white = [timeline.white_share[n] for n in inside]
        moved = sum(moves) / len(moves) if moves else 0.0
        blown = max(white, default=0.0)
        return moved + 100.0 * limits.edit_best_white_share * blown

    return min(starts, key=lambda start: (cost(start), start))


def assembly_of(title: str, film: Film | None, shots: Sequence[EditShot], notes: EditNotes, limits: Limits) -> Assembly:
    """Lay the first assembly out.

    title: of the timeline; film: whose cuts it follows, None for the kept takes of the day in their order; shots: with takes; notes: of
    their clips; limits: numbers of judgement. Returns it, exact in frames: cuts fall where the film's strip has them.
    """
    by_key = {shot.key: shot for shot in shots}
    noted = {note.take: note for note in notes.clips if note.take is not None}
    if film is None:
        placed = _of_day(shots, noted, limits)
        delivery = shots[0].brief.delivery if shots else None
        return Assembly(
            title=title,
            fps=delivery.fps if delivery else 25.0,
            width=delivery.width if delivery else 3840,
            height=delivery.height if delivery else 2160,
            clips=placed,
        )
    framed = [
        FramedShot(key=shot.key, brief=shot.brief, framing=shot.framing) for shot in shots if shot.framing is not None
    ]
    order = {beat.id: place for place, beat in enumerate(film.beats)}
    framed.sort(key=lambda shot: (order.get(shot.framing.beat, len(order)), shot.framing.place, shot.key))
    strip = strip_of(film, [shot for shot in framed if shot.framing.beat in order])
    used: dict[str, float] = {}
    clips = []
    for cut in strip.cuts:
        if cut.beyond:
            continue
        shot = None if cut.key is None else by_key[cut.key]
        clips.append(_placed(shot, cut.to_frame - cut.from_frame, film.fps, film.handle_s, noted, used, limits))
    width, height = _frame(film, shots)
    return Assembly(title=title, fps=film.fps, width=width, height=height, clips=tuple(clips))


def _frame(film: Film, shots: Sequence[EditShot]) -> tuple[int, int]:
    mine = next((shot for shot in shots if shot.framing is not None), None)
    if mine is not None:
        return mine.brief.delivery.width, mine.brief.delivery.height
    wide, _, high = film.shapes[0].partition(":")
    return 3840, round(3840 * int(high) / int(wide))


def _of_day(shots: Sequence[EditShot], noted: Mapping[str, ClipNote], limits: Limits) -> tuple[PlacedClip, ...]:
    clips = []
    for shot in shots:
        fps, slow = shot.brief.delivery.fps, shot.brief.delivery.slow_factor
        for take in shot.good:
            seconds = (take.said.seconds or _media_s(take) or shot.brief.take.length_s) * slow
            clips.append(_placed(shot, max(1, round(seconds * fps)), fps, 0.0, noted, {}, limits, take))
    return tuple(clips)


def _media_s(take: EditTake) -> float | None:
    return None if take.measures is None else take.measures.seconds


def _placed(
    shot: EditShot | None,
    frames: int,
    fps: float,
    handle_s: float,
    noted: Mapping[str, ClipNote],
    used: dict[str, float],
    limits: Limits,
    take: EditTake | None = None,
) -> PlacedClip:
    if shot is None:
        return PlacedClip(
            key=None, name="nothing framed", take=None, file=None, media_fps=fps, media_s=frames / fps, start_s=0.0,
            frames=frames, speed=1.0, group=None,
        )  # fmt: skip
    chosen = take or _best(shot)
    slow = shot.brief.delivery.slow_factor
    if chosen is None:
        return PlacedClip(
            key=shot.key, name=f"missing: {shot.title}", take=None, file=None, media_fps=fps, media_s=frames / fps,
            start_s=0.0, frames=frames, speed=1.0, group=None,
        )  # fmt: skip
    note = noted.get(chosen.key)
    media_fps = shot.plan.settings.frame_rate if shot.plan is not None else fps
    media_fps = chosen.measures.frame_rate or media_fps if chosen.measures is not None else media_fps
    media_s = _media_s(chosen) or chosen.said.seconds or max(USUAL_LENGTH_S, shot.brief.take.length_s)
    needs = frames / fps / slow
    start = best_start_s(media_s, needs, handle_s, chosen.timeline, limits)
    if shot.key in used:  # cut in again: it goes on where it stopped
        start = min(used[shot.key], max(0.0, media_s - needs))
    used[shot.key] = start + needs
    return PlacedClip(
        key=shot.key,
        name=f"{shot.number} {shot.title}",
        take=chosen.key,
        file=chosen.file,
        media_fps=media_fps,
        media_s=media_s,
        start_s=start,
        frames=frames,
        speed=1.0 / slow,
        group=None if note is None else note.group,
        marks=() if note is None else tuple(_marks(note, chosen, start, needs, frames)),
    )


def _best(shot: EditShot) -> EditTake | None:
    """The take that is cut in: kept, and of those the one without a fault, the latest first."""
    kept = [take for take in shot.takes if take.said.rating == "keep"]
    return min(kept, key=lambda take: (len(take.said.faults), -take.said.at.timestamp()), default=None)


def _marks(note: ClipNote, take: EditTake, start: float, needs: float, frames: int) -> list[Marked]:
    found = [Marked(at_frame=0, code=fault) for fault in take.said.faults]
    for lost in note.lost:
        at = lost.facts.get("worst_at_s")
        if at is None:
            at = next(iter(lost.facts.get("at_s") or ()), None)
        inside = isinstance(at, int | float) and start <= at < start + needs
        place = round((at - start) / needs * frames) if inside and isinstance(at, int | float) else 0
        found.append(Marked(at_frame=min(frames - 1, place), code=lost.code))
    return found
