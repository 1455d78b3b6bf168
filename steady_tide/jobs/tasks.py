"""The tasks of the queue. Each may be done twice: what counts is decided where it is kept."""

from __future__ import annotations

import traceback
from threading import Event
from uuid import UUID

import procrastinate

from steady_tide.core.quantities.errors import StoreUnavailable
from steady_tide.services.rush_folders import FACTS, MEASURE, job_of, lane_of
from steady_tide.services.rush_measuring import Elsewhere, keep_problem, measure_clip_of, read_facts
from steady_tide.store import queue
from steady_tide.store import rushes as store
from steady_tide.store.database import Database

LOOKS_AGAIN_S = 20  # for a clip whose folder this worker does not see
OLD_H = 24  # jobs that ended so long ago are forgotten


def app_of(url: str, database: Database, stopping: Event) -> procrastinate.App:
    """The queue as a worker takes from it. url: of the database, as libpq has it; stopping: set where the worker is to stop."""
    app = procrastinate.App(connector=procrastinate.PsycopgConnector(conninfo=url, min_size=1, max_size=4))

    @app.task(name=FACTS)
    def facts(folder_id: str) -> None:
        try:
            read_facts(database, UUID(folder_id), stopping)
        except Elsewhere:
            return  # whoever measures reads them
        except Exception:
            traceback.print_exc()
            raise

    @app.task(name=MEASURE)
    def measure(clip_id: str, asked: int) -> None:
        try:
            measure_clip_of(database, UUID(clip_id), asked, stopping)
        except Elsewhere:
            leave_to_others(database, UUID(clip_id))
        except StoreUnavailable:
            raise  # it is asked for again once the database is back
        except Exception as error:
            # Nobody would try again with another outcome: the clip says so, and the others go on.
            traceback.print_exc()
            give_up(database, UUID(clip_id), asked, error)
            raise

    return app


def give_up(database: Database, clip_id: UUID, asked: int, error: Exception) -> None:
    """Let a clip fail over a fault of ours."""
    keep_problem(database, clip_id, asked, f"measuring it failed over a fault of ours ({type(error).__name__})")


def leave_to_others(database: Database, clip_id: UUID) -> None:
    """Let a clip wait for a worker that sees its folder."""
    with database.session() as session:
        clip = store.get_clip(session, clip_id)
        if clip.state == "waiting":
            folder = store.get_folder(session, clip.folder_id)
            queue.ask(session, MEASURE, [job_of(clip)], lane_of(folder), priority=-1, later_s=LOOKS_AGAIN_S)


def sweep(database: Database) -> int:
    """Ask again for clips that nobody is at though they wait: their worker, or the database, died. Returns how many."""
    with database.session() as session:
        if not store.may_sweep(session):
            return 0
        left = store.left_lying(session)
        for clip in left:
            queue.ask(session, MEASURE, [job_of(clip)], lane_of(store.get_folder(session, clip.folder_id)))
        queue.forget(session, OLD_H)
        return len(left)
