"""Whoever keeps plans fresh: what was made from something that has changed since is made anew, at once and one by one."""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import BrokenExecutor
from threading import Event, Lock, Thread
from uuid import UUID

from sqlalchemy.orm import Session

from steady_tide.core.brief.brief import School
from steady_tide.core.quantities.errors import BadInput, DeskBusy, StoreUnavailable
from steady_tide.services.crew_kit import CrewKit, read_crew_kit
from steady_tide.services.kept_plans import anew_fields, is_as_it_was, standing_of
from steady_tide.services.planning_pool import Turn
from steady_tide.services.plans import Plans
from steady_tide.store import shots as store
from steady_tide.store.database import Database
from steady_tide.store.merging import revision_of
from steady_tide.store.shoots import crew_school

LOOKS_EVERY_S = 1.0


class Keeper:
    """A thread that looks whether kit, crew's way, knowledge or planner have changed, and makes plans anew."""

    def __init__(self, database: Database, plans: Plans, looks_every_s: float = LOOKS_EVERY_S) -> None:
        """database: migrated; plans: the planner; looks_every_s: how often it looks."""
        self._database = database
        self._plans = plans
        self._looks_every_s = looks_every_s
        self._stopped = Event()
        self._thread = Thread(target=self._run, name="keeper", daemon=True)
        self._gear: CrewKit | None = None
        self._saved: dict[UUID, None] = {}
        self._lock = Lock()
        self._woken = Event()

    def start(self) -> None:
        """Begin."""
        self._thread.start()

    def stop(self) -> None:
        """End after the plan at hand."""
        self._stopped.set()
        self._woken.set()
        self._thread.join(timeout=10)

    def _run(self) -> None:
        seen: tuple[str, School] | None = None
        while not self._stopped.is_set():
            try:
                with self._database.session() as session:
                    crew, self._gear = crew_school(session), read_crew_kit(session, self._gear)
                state = (self._gear.revision, crew)
                if state != seen and self.make_anew(crew, self._gear):
                    seen = state
                self._make_saved_anew(crew, self._gear)
            except (StoreUnavailable, DeskBusy, BrokenExecutor, OSError):
                pass  # it looks again
            self._woken.wait(self._looks_every_s)
            self._woken.clear()

    def make_anew(self, crew: School, gear: CrewKit) -> bool:
        """Make every plan anew that is not as it was. Returns False where it was stopped before the end."""
        with self._database.session() as session:
            old = stale(session, crew, gear)
        for shot_id in old:
            if self._stopped.is_set():
                return False
            _anew(self._database, shot_id, crew, gear, self._plans)
        return True

    def look_after(self, shot_id: UUID) -> None:
        """A shot was saved with a plan that is not of its brief: make it anew soon."""
        self._note(shot_id)
        self._woken.set()

    def _note(self, shot_id: UUID) -> None:
        with self._lock:
            self._saved[shot_id] = None

    def _make_saved_anew(self, crew: School, gear: CrewKit) -> None:
        """What could not be made now is tried again when it looks next."""
        with self._lock:
            saved = list(self._saved)
        for shot_id in saved:
            if self._stopped.is_set():
                return
            with self._lock:
                del self._saved[shot_id]  # saved once more meanwhile, it comes again
            try:
                made = _anew(self._database, shot_id, crew, gear, self._plans)
            except BaseException:
                self._note(shot_id)
                raise
            if not made:
                self._note(shot_id)


def stale(session: Session, crew: School, gear: CrewKit) -> Sequence[UUID]:
    """Shots whose plans are not as they were. crew, gear: now. Returns their ids."""
    return [shot.id for shot in store.list_all(session) if not is_as_it_was(session, shot, crew, gear)]


def _anew(database: Database, shot_id: UUID, crew: School, gear: CrewKit, plans: Plans) -> bool:
    """Make one plan anew. While it is made nothing is held, so that nobody who saves waits for it. Returns False where
    somebody was just changing the shot."""
    with database.session() as session:
        shot = store.find(session, shot_id)
        if shot is None or is_as_it_was(session, shot, crew, gear):
            return True
        revision = revision_of(shot.stamps)
        try:
            standing = standing_of(session, shot, crew, gear, plans, Turn.NOBODY)
        except BadInput:
            return True  # its brief names what is gone; whoever opens it is told
    with database.session() as session:
        shot = store.find_locked(session, shot_id)
        if shot is None or revision_of(shot.stamps) != revision:
            return False
        # No change of the person's: the revision stays, so that nobody who edits it is in conflict.
        for name, value in anew_fields(standing).items():
            setattr(shot, name, value)
    return True
