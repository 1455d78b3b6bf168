"""What a worker does with a clip: its facts, its shot, its measures. Done twice it has effect once."""

from __future__ import annotations

import base64
import contextlib
import os
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from threading import Event, Thread
from typing import IO, TypeVar
from uuid import UUID

from steady_tide.core.cameras.clips import FileFacts
from steady_tide.core.quantities.errors import BadFile, BadInput, NotFound, StoreUnavailable
from steady_tide.core.rushes.clip_plan import ClipPlan
from steady_tide.formats.media_in import facts_of_open
from steady_tide.formats.rushes_in import ClipFound, Profiled, Stopped, measure_open
from steady_tide.services.rush_curves import AS_THE_STREAM_SAYS, profiled_of, sheet_of
from steady_tide.services.rush_folders import digest_of_ends, open_clip
from steady_tide.services.rush_matching import match_all
from steady_tide.services.take_linking import measured
from steady_tide.store import rushes as store
from steady_tide.store.database import Database
from steady_tide.store.tables import Clip

Saved = TypeVar("Saved")

TELLS_EVERY_S = 2.0
SAVES_FOR_S = 120.0


class Elsewhere(Exception):
    """The clip's folder is not seen from here; another worker may see it."""


@dataclass(frozen=True)
class _Work:
    folder: str
    name: str
    quick: bool
    drops: bool


def measure_clip_of(database: Database, clip_id: UUID, asked: int, stopping: Event) -> str:
    """Measure a clip, where it is still wanted and nobody else is at it.

    asked: which request; stopping: set where this worker is to stop. Returns what became of it: done, failed, not_wanted,
    stopped. Raises Elsewhere, and StoreUnavailable where the database stays away.
    """
    with database.session() as session:
        if not store.claim(session, clip_id, asked):
            return "not_wanted"
        clip = store.get_clip(session, clip_id)
        folder = store.get_folder(session, clip.folder_id)
        work = _Work(folder.path, clip.name, clip.quick, folder.kind == "drops")
        needs_facts = clip.facts is None
    with _being_at_it(database, clip_id, asked, stopping) as (over, tell):
        try:
            if not os.path.isdir(work.folder):
                raise Elsewhere
            with open_clip(work.folder, work.name) as file:
                if needs_facts:
                    facts, digest = facts_of_open(file, Path(work.name).name, _size(file)), digest_of_ends(file)
                    _keep_facts(database, clip_id, facts, digest)
                field_deg, profiled, known_as = _how(database, clip_id)
                found = measure_open(
                    file, Path(work.name).name, field_deg, profiled, work.quick, tell=tell, stopped=over
                )
        except (Stopped, Elsewhere) as left:
            with contextlib.suppress(StoreUnavailable), database.session() as session:
                store.put_back(session, clip_id, asked)
            if isinstance(left, Elsewhere):
                raise
            return "stopped" if stopping.is_set() else "not_wanted"
        except BadInput as error:
            said = "; ".join(f"{fault.what}. {fault.mend}" for fault in error.faults)
            done = _saved(lambda: keep_problem(database, clip_id, asked, said))
        else:
            done = _saved(lambda: _keep(database, clip_id, asked, found, known_as))
    if work.drops and done in ("done", "failed"):
        Path(work.folder, work.name).unlink(missing_ok=True)  # only measures are kept, never the footage
    return done


@contextlib.contextmanager
def _being_at_it(
    database: Database, clip_id: UUID, asked: int, stopping: Event
) -> Iterator[tuple[Event, Callable[[float], None]]]:
    """While a clip is measured: tell how far it is, and hear whether it is still wanted."""
    over, share, ended = Event(), [0.0], Event()
    if stopping.is_set():
        over.set()

    def telling() -> None:
        while not ended.wait(TELLS_EVERY_S):
            if stopping.is_set():
                over.set()
            with contextlib.suppress(StoreUnavailable), database.session() as session:
                if not store.at_it(session, clip_id, asked, share[0]):
                    over.set()

    def tell(now: float) -> None:
        share[0] = now
        if stopping.is_set():
            over.set()

    thread = Thread(target=telling, name="rush-telling", daemon=True)
    thread.start()
    try:
        yield over, tell
    finally:
        ended.set()
        thread.join()


def _size(file: IO[bytes]) -> int:
    return os.fstat(file.fileno()).st_size


def _saved(save: Callable[[], Saved]) -> Saved:
    """Save, and try again while the database is away: what was measured took long."""
    until = time.monotonic() + SAVES_FOR_S
    while True:
        try:
            return save()
        except StoreUnavailable:
            if time.monotonic() > until:
                raise
            time.sleep(1.0)


def _keep_facts(database: Database, clip_id: UUID, facts: FileFacts, digest: str) -> None:
    with database.session() as session:
        clip = store.locked_clip(session, clip_id)
        _take_facts(clip, facts, digest)
    _saved(lambda: match_all(database))


def _take_facts(clip: Clip, facts: FileFacts, digest: str) -> None:
    clip.facts = facts.model_dump(mode="json")
    clip.ends_digest = digest
    said = None
    if facts.recorded_at is not None:
        with contextlib.suppress(ValueError):
            said = datetime.fromisoformat(facts.recorded_at)
            said = said.replace(tzinfo=UTC) if said.tzinfo is None else said.astimezone(UTC)
    # Without it the file was written when the take ended.
    clip.recorded_at = said or clip.modified_at - timedelta(seconds=facts.seconds or 0.0)


def read_facts(database: Database, folder_id: UUID, stopping: Event) -> int:
    """Read the facts of a folder's clips that nobody has read yet, then find their shots. Returns how many were read.
    Raises Elsewhere."""
    with database.session() as session:
        try:
            folder = store.get_folder(session, folder_id)
        except NotFound:
            return 0
        path = folder.path
        waiting = [
            (clip.id, clip.name)
            for clip in store.clips_of(session, folder_id)
            if clip.facts is None and not clip.gone_at
        ]
    if not os.path.isdir(path):
        raise Elsewhere
    count = 0
    for clip_id, name in waiting:
        if stopping.is_set():
            break
        try:
            with open_clip(path, name) as file:
                facts, digest = facts_of_open(file, Path(name).name, _size(file)), digest_of_ends(file)
        except BadFile:
            continue  # measuring tells why
        with contextlib.suppress(NotFound), database.session() as session:
            _take_facts(store.locked_clip(session, clip_id), facts, digest)
            count += 1
    _saved(lambda: match_all(database))
    return count


def _how(database: Database, clip_id: UUID) -> tuple[float | None, Profiled | None, str]:
    """The field and the curve of the plan that a clip was filmed by. Returns them, and the name of the curve."""
    with database.session() as session:
        clip = store.get_clip(session, clip_id)
        if clip.planned is None:
            return None, None, AS_THE_STREAM_SAYS
        plan = ClipPlan.model_validate(clip.planned)
        sheet = sheet_of(session, plan.camera)
    profiled, known_as = profiled_of(sheet, plan.settings.profile)
    return plan.exposure.field_deg, profiled, known_as


def _keep(database: Database, clip_id: UUID, asked: int, found: ClipFound, known_as: str) -> str:
    with database.session() as session:
        clip = store.locked_clip(session, clip_id)
        if clip.asked != asked or clip.state != "measuring":
            return "not_wanted"
        clip.measures = found.measures.model_dump(mode="json")
        clip.timeline = found.timeline.model_dump(mode="json")
        clip.state, clip.share, clip.problem = "done", 1.0, None
        clip.measured_times += 1
        clip.measured_at, clip.measured_as = datetime.now(UTC), known_as
        pictures = [
            (shown.at_s, base64.b64decode(shown.plain), base64.b64decode(shown.marked)) for shown in found.frames
        ]
        store.keep_frames(session, clip_id, pictures)
        measured(session, clip)
    return "done"


def keep_problem(database: Database, clip_id: UUID, asked: int, said: str) -> str:
    """Keep why a clip could not be measured. asked: which request. Returns what became of it."""
    with database.session() as session:
        clip = store.locked_clip(session, clip_id)
        if clip.asked != asked or clip.state != "measuring":
            return "not_wanted"
        clip.state, clip.problem = "failed", said
    return "failed"
