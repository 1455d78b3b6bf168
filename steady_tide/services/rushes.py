"""Rushes as the station shows them: folders, clips with their verdicts, takes, next time, the day's report."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from uuid import UUID

from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.kit import Kit
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan as plan_shot
from steady_tide.core.quantities.errors import BadInput, Fault, NotFound
from steady_tide.core.rushes.clip_plan import ClipPlan
from steady_tide.core.rushes.content import content_stops
from steady_tide.core.rushes.measures import ClipMeasures
from steady_tide.core.rushes.next_time import Filmed, NextTime, learned_from, light_of, next_time
from steady_tide.core.rushes.report import DayReport, report
from steady_tide.core.rushes.takes import Take, best_takes
from steady_tide.core.rushes.timeline import Timeline
from steady_tide.core.rushes.verdict import Verdict, verdict
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.kept_plans import held_gear
from steady_tide.services.rush_folders import ask_to_measure, look_into, measure_anew, real_folder
from steady_tide.services.take_linking import rate_clip
from steady_tide.store import rushes as store
from steady_tide.store.database import Database
from steady_tide.store.shots import get_shot
from steady_tide.store.tables import Clip, RushFolder

HABIT_CLIPS = 200  # the latest of a camera, that tell its meter's habit


@dataclass(frozen=True)
class Judged:
    """A measured clip with all that is said of it. light: EV at ISO 100, where the picture tells; expected_stops: how far above
    mid grey its frames were to be, the meter's target and what fills them counted."""

    clip: Clip
    measures: ClipMeasures
    timeline: Timeline
    plan: ClipPlan | None
    verdict: Verdict
    light: tuple[float, float] | None
    expected_stops: float | None


def begin_folders(database: Database, own: Path, named: Sequence[str]) -> RushFolder:
    """Keep the folders named at the start, and that for what is dropped. own: of this service. Returns the latter."""
    own.mkdir(parents=True, exist_ok=True, mode=0o700)
    for left in own.glob("*.part"):  # of a service that was killed
        left.unlink(missing_ok=True)
    with database.session() as session:
        drops = store.add_folder(session, str(own.resolve()), "drops")
        for path in named:
            store.add_folder(session, path, "start")
        for folder in store.list_folders(session):
            if folder.kind != "drops" or folder.id == drops.id:
                look_into(session, store.locked_folder(session, folder.id))
        return drops


def name_folder(session: Session, path: str) -> RushFolder:
    """Take a folder of this machine in, and see what lies in it. Raises BadInput."""
    folder = store.add_folder(session, real_folder(path), "named")
    look_into(session, folder)
    return folder


def anew(session: Session, clip_id: UUID, quick: bool) -> Clip:
    """Ask for another measuring of a clip. quick: whether a quick look is enough. Raises NotFound, and BadInput where its
    file is away."""
    clip = store.locked_clip(session, clip_id)
    folder = store.get_folder(session, clip.folder_id)
    if clip.gone_at is not None or (folder.kind == "drops" and clip.state == "done"):
        raise BadInput(
            Fault("the clip", "is not there to be read again", "Put its card or drive in, or hand it over again.")
        )
    clip.quick = quick
    measure_anew(clip)
    session.flush()
    ask_to_measure(session, folder, [clip])
    return clip


def resume(session: Session) -> int:
    """Let clips wait again whose measuring was cancelled. Returns how many."""
    again: dict[UUID, list[Clip]] = {}
    for clip in store.cancelled(session):
        measure_anew(clip)
        again.setdefault(clip.folder_id, []).append(clip)
    session.flush()
    for folder_id, clips in again.items():
        ask_to_measure(session, store.get_folder(session, folder_id), clips)
    return sum(len(clips) for clips in again.values())


def rate(session: Session, clip_id: UUID, rating: str | None) -> Clip:
    """Keep what a person thinks of a clip. rating: keep, maybe, no, or none. Raises NotFound."""
    clip = store.locked_clip(session, clip_id)
    rate_clip(session, clip, rating)
    return clip


@dataclass(frozen=True)
class Read:
    """A measured clip as it was kept."""

    clip: Clip
    measures: ClipMeasures
    timeline: Timeline
    plan: ClipPlan | None


def read_clips(clips: Sequence[Clip]) -> list[Read]:
    """What was measured of some clips; those that are not measured are left out."""
    return [
        Read(
            clip,
            ClipMeasures.model_validate(clip.measures),
            Timeline.model_validate(clip.timeline or {}),
            None if clip.planned is None else ClipPlan.model_validate(clip.planned),
        )
        for clip in clips
        if clip.measures is not None
    ]


def judged(session: Session, clips: Sequence[Clip]) -> dict[UUID, Judged]:
    """What is said of some clips, all takes of a shot among them: what fills their frames is told by all of them that are
    confirmed to be of it."""
    confirmed = store.confirmed_clips(session, [clip.id for clip in clips])
    limits = library.knowledge().limits
    read = read_clips(clips)
    of_shot: dict[UUID | None, list[tuple[ClipMeasures, ClipPlan]]] = {}
    for one in read:
        if one.plan is not None and one.clip.id in confirmed:
            of_shot.setdefault(one.clip.shot_id, []).append((one.measures, one.plan))
    contents = {shot_id: content_stops(takes, limits) for shot_id, takes in of_shot.items()}
    found = {}
    for one in read:
        content = 0.0 if one.plan is None else contents.get(one.clip.shot_id, 0.0)
        light = None
        if one.plan is not None:
            ends, told = light_of([(one.measures, one.timeline, one.plan)], limits, content)
            light = ends if told else None
        said = verdict(one.measures, one.plan, limits, content)
        expected = None if one.plan is None else one.plan.target_stops + content
        found[one.clip.id] = Judged(one.clip, one.measures, one.timeline, one.plan, said, light, expected)
    return found


def whole_shots(session: Session, clips: Sequence[Clip]) -> list[Clip]:
    """Some clips and every other take of their shots."""
    found = {clip.id: clip for clip in clips}
    for shot_id in {clip.shot_id for clip in clips if clip.shot_id is not None}:
        found.update({clip.id: clip for clip in store.clips_of_shot(session, shot_id)})
    return list(found.values())


def ranked_takes(said: Sequence[Judged]) -> tuple[Take, ...]:
    """How the takes of a shot rank. said: of one shot."""
    scenarios = library.knowledge().scenarios
    scenario = next((scenarios.get(one.plan.scenario) for one in said if one.plan is not None), None)
    cares = {} if scenario is None else scenario.cares
    return best_takes([(str(one.clip.id), one.verdict) for one in said], cares)


def next_time_of(session: Session, shot_id: UUID, crew: School, gear: CrewKit) -> NextTime:
    """A shot planned again with what its clips tell. Raises NotFound where none is measured, or none is confirmed to be of
    it; NoLegalPlan."""
    shot = get_shot(session, shot_id)
    measured = [one for one in read_clips(store.clips_of_shot(session, shot_id)) if one.plan is not None]
    if not measured:
        raise NotFound("No clip of this shot is measured yet.")
    confirmed = store.confirmed_clips(session, [one.clip.id for one in measured])
    clips = [one for one in measured if one.clip.id in confirmed]
    if not clips:
        raise NotFound(
            "Nobody has said yet that these clips are of this shot. Say so above their list; then they count."
        )
    newest = clips[-1].plan
    assert newest is not None
    brief, theirs = Brief.model_validate(shot.brief), held_gear(session, shot, gear)
    learned = learned_from(
        _filmed(clips, newest.camera),
        _filmed(read_clips(store.measured_with(session, newest.camera, HABIT_CLIPS)), newest.camera),
        brief,
        theirs.kit,
        theirs.knowledge,
        crew,
    )
    return next_time(learned, newest, brief, theirs.kit, theirs.knowledge, crew, _planner)


def _filmed(clips: Sequence[Read], camera: str) -> list[Filmed]:
    """Those that were filmed on one camera."""
    return [
        (one.measures, one.timeline, one.plan) for one in clips if one.plan is not None and one.plan.camera == camera
    ]


def _planner(brief: Brief, kit: Kit, knowledge: Knowledge, crew: School, camera: str) -> Plan:
    return plan_shot(brief, kit, knowledge, crew=crew, only=camera, schools=False)


def report_of(clips: Sequence[Judged]) -> DayReport:
    """The report of some clips."""
    said = [(str(one.clip.id), one.measures, one.verdict, one.plan) for one in clips]
    return report(said, library.knowledge().limits)
