"""What several stations' routes need: the session, and the crew's way of working."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated

from fastapi import Depends, Request
from sqlalchemy.orm import Session

from steady_tide.core.brief import School
from steady_tide.core.errors import StoreUnavailable
from steady_tide.store.database import Database
from steady_tide.store.shoots import crew_school


def _session(request: Request) -> Iterator[Session]:
    database: Database = request.app.state.database
    with database.session() as session:
        yield session


# Ends with the route function, before the answer goes out: what is answered as saved is saved.
SessionOf = Annotated[Session, Depends(_session, scope="function")]


def _crew_way(request: Request) -> School:
    """The crew's way; while the database is away, as it was last read: planning goes on without it."""
    state = request.app.state
    try:
        with state.database.session() as session:
            state.crew_school = crew_school(session)
    except StoreUnavailable:
        pass
    school: School = state.crew_school
    return school


CrewWay = Annotated[School, Depends(_crew_way)]
