"""What several stations' routes need: the session, and lists."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated

from fastapi import Depends, Request
from sqlalchemy.orm import Session

from steady_tide.store.database import Database


def _session(request: Request) -> Iterator[Session]:
    database: Database = request.app.state.database
    with database.session() as session:
        yield session


# Ends with the route function, before the answer goes out: what is answered as saved is saved.
SessionOf = Annotated[Session, Depends(_session, scope="function")]
