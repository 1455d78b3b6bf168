"""The way to the database: one engine, sessions, migrations, and what it says when it is away."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.runtime.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import create_engine, text
from sqlalchemy.engine import Engine
from sqlalchemy.exc import DataError, DBAPIError, InterfaceError, OperationalError
from sqlalchemy.orm import Session, sessionmaker

from steady_tide.core.errors import BadInput, Fault, NewerData, StoreUnavailable

MIGRATIONS = Path(__file__).parent / "migrations"


class Database:
    """One PostgreSQL database."""

    def __init__(self, url: str) -> None:
        """url: of the database, with password. Connects when first used."""
        self.url = url
        self.engine: Engine = create_engine(
            url, pool_pre_ping=True, pool_size=5, max_overflow=10, connect_args={"connect_timeout": 3}
        )
        self._sessions = sessionmaker(self.engine, expire_on_commit=False)

    @contextmanager
    def session(self) -> Iterator[Session]:
        """A unit of work: commits at the end, rolls back on any error.

        Raises StoreUnavailable where the database does not answer, BadInput where it cannot keep a text.
        """
        try:
            with self._sessions.begin() as session:
                yield session
        except (OperationalError, InterfaceError) as error:
            raise StoreUnavailable("The database does not answer; nothing was saved.") from error
        except DataError as error:
            raise BadInput(
                Fault("the text", "holds a character that cannot be kept", "Type it again without it.")
            ) from error
        except DBAPIError as error:
            if error.connection_invalidated:
                raise StoreUnavailable("The database went away; nothing was saved.") from error
            raise

    def answers(self) -> bool:
        """Whether the database can be reached now."""
        try:
            with self.session() as session:
                session.execute(text("select 1"))
        except StoreUnavailable:
            return False
        return True

    def migrate(self) -> None:
        """Bring the tables up to date."""
        config = Config()
        config.set_main_option("script_location", str(MIGRATIONS))
        config.attributes["engine"] = self.engine
        known = {revision.revision for revision in ScriptDirectory.from_config(config).walk_revisions()}
        with self.engine.connect() as connection:
            stands = MigrationContext.configure(connection).get_current_revision()
        if stands is not None and stands not in known:
            raise NewerData(
                f"This data was made by a newer version of Steady Tide (its tables stand at {stands}). Start that version, "
                "or give another folder with --data DIR."
            )
        command.upgrade(config, "head")

    def close(self) -> None:
        """Let go of all connections."""
        self.engine.dispose()
