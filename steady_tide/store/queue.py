"""The way to the job queue on the same database: what is asked for there is asked for with the change that needs it."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import procrastinate
from procrastinate.exceptions import AlreadyEnqueued, ConnectorException
from sqlalchemy import text
from sqlalchemy.orm import Session

from steady_tide.store.database import error_of_state

# It never opens: every job goes in on the connection of a unit of work.
_app = procrastinate.App(connector=procrastinate.SyncPsycopgConnector())


def ask(
    session: Session,
    task: str,
    each: Iterable[tuple[str, dict[str, Any]]],
    queue: str,
    priority: int = 0,
    later_s: int = 0,
) -> int:
    """Ask for jobs in a unit of work; they are there when it is committed.

    task: its name; each: a key of each job, of which only one waits at a time, and what it is given; queue: its name;
    priority: the larger go first; later_s: not before so many seconds. Returns how many were asked for. Raises
    StoreUnavailable where the database does not answer, StoreBusy where two ask for the same the other way round.
    """
    wanted = dict(each)
    if not wanted:
        return 0
    there = session.scalars(
        text("select queueing_lock from procrastinate_jobs where status = 'todo' and queueing_lock = any(:keys)"),
        {"keys": list(wanted)},
    )
    for key in there:
        wanted.pop(key, None)
    connection = session.connection().connection.driver_connection
    asked = 0
    for key, given in wanted.items():
        deferring = _app.configure_task(
            task,
            queue=queue,
            priority=priority,
            queueing_lock=key,
            connection=connection,
            schedule_in={"seconds": later_s} if later_s else None,
        )
        try:
            with session.begin_nested():
                deferring.defer(**given)
            asked += 1
        except AlreadyEnqueued:
            continue  # somebody else asked for it meanwhile
        except ConnectorException as error:  # the queue has a name of its own for what the database says
            raise error_of_state(getattr(error.__cause__, "sqlstate", None) or "") from error
    return asked


def forget(session: Session, older_than_h: int) -> None:
    """Forget jobs that ended long ago, and those whose worker died: what they were for is asked for again."""
    session.execute(
        text(
            "delete from procrastinate_jobs j where (j.status in ('succeeded', 'failed', 'cancelled', 'aborted') and not "
            "exists (select 1 from procrastinate_events e where e.job_id = j.id and e.at > now() - make_interval(hours => :h))) "
            "or (j.status = 'doing' and not exists (select 1 from procrastinate_workers w where w.id = j.worker_id "
            "and w.last_heartbeat > now() - interval '60 seconds'))"
        ),
        {"h": older_than_h},
    )
