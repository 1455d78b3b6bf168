"""The way to the database: one engine, sessions, migrations, and what it says when it is away."""

from __future__ import annotations

from collections.abc import Hashable, Iterable, Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path
from threading import Lock
from typing import TYPE_CHECKING, Any

from cachetools import LRUCache
from sqlalchemy import create_engine, text
from sqlalchemy.engine import Engine
from sqlalchemy.exc import DataError, DBAPIError, IntegrityError, InterfaceError, OperationalError
from sqlalchemy.exc import TimeoutError as PoolTimeout
from sqlalchemy.orm import Session, sessionmaker

from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadInput, Fault, StoreBusy, StoreFull, StoreUnavailable, WrongVersion

if TYPE_CHECKING:
    from alembic.config import Config

MIGRATIONS = Path(__file__).parent / "migrations"


FULL = {"53100", "53200", "58030"}  # disk full, out of memory, input or output failed
MET = {"23503", "23505"}  # what it refers to went, or somebody was first
BUSY = {"40001", "40P01", "53300", "55P03", "57014"} | MET  # and too many connections, a lock or a time was lost
NOT_TEXT = {"22021", "22P05"}
POOL_PATIENCE_S = 3.0


def _state(error: DBAPIError) -> str:
    """PostgreSQL's code of an error, empty where it has none."""
    return getattr(error.orig, "sqlstate", None) or ""


def error_of_state(state: str) -> StoreUnavailable:
    """What an error of the database means for who asked. state: PostgreSQL's code of it, empty where it has none."""
    if state in FULL:
        return StoreFull("The disk of the database is full; nothing was saved. Make room, then try again.")
    if state in BUSY:
        return StoreBusy("Two changes met in the database; nothing was saved. Try again.")
    return StoreUnavailable("The database does not answer; nothing was saved.")


def _cannot_keep(error: DataError) -> Fault:
    """Which kind of value the database cannot keep."""
    if _state(error) in NOT_TEXT or "NUL" in str(error.orig):
        return Fault("the text", "holds a character that cannot be kept", "Type it again without it.")
    return Fault("a value", "cannot be kept: it is too large, or of another form", "Give one that is nearer to usual.")


ROW_CACHE = "row_cache"  # name in `Session.info`


class RowCache:
    """What was read of rows and is slow to read again, for all sessions of a database. Keys hold the row's last change."""

    def __init__(self) -> None:
        self._kept: LRUCache[Hashable, Any] = LRUCache(sizes.TAKES)
        self._lock = Lock()

    def found(self, keys: Iterable[Hashable]) -> dict[Hashable, Any]:
        """What is there of some keys."""
        with self._lock:
            return {key: self._kept[key] for key in keys if key in self._kept}

    def keep(self, found: Mapping[Hashable, Any]) -> None:
        """Keep what was read, by its key."""
        with self._lock:
            self._kept.update(found)


def row_cache(session: Session) -> RowCache:
    """The cache of a session's database."""
    cache: RowCache = session.info[ROW_CACHE]
    return cache


OLDEST_TABLES = "0017"  # migrations before it were put together


class Database:
    """One PostgreSQL database."""

    def __init__(self, url: str) -> None:
        """url: of the database, with password. Connects when first used."""
        self.url = url
        self.engine: Engine = create_engine(
            url,
            pool_pre_ping=True,
            pool_size=5,
            max_overflow=10,
            pool_timeout=POOL_PATIENCE_S,
            connect_args={"connect_timeout": 3},
        )
        self._sessions = sessionmaker(self.engine, expire_on_commit=False, info={ROW_CACHE: RowCache()})

    @contextmanager
    def session(self) -> Iterator[Session]:
        """A unit of work: commits at the end, rolls back on any error.

        Raises StoreUnavailable where the database does not answer, StoreBusy or StoreFull where it cannot now, BadInput
        where it cannot keep a value.
        """
        try:
            with self._sessions.begin() as session:
                yield session
        except PoolTimeout as error:
            raise StoreBusy("Too much is asked of the database at once; nothing was saved. Try again.") from error
        except (OperationalError, InterfaceError) as error:
            raise error_of_state(_state(error)) from error
        except DataError as error:
            raise BadInput(_cannot_keep(error)) from error
        except IntegrityError as error:
            if _state(error) in MET:
                raise error_of_state(_state(error)) from error
            raise
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
        """Bring the tables up to date. Raises WrongVersion."""
        from alembic import command  # whoever only reads and writes needs none of it

        command.upgrade(self.check_known(), "head")

    def check_known(self) -> Config:
        """Raise WrongVersion where a version made the tables that this one cannot go on from. Returns how
        migrations are done."""
        from alembic.config import Config
        from alembic.runtime.migration import MigrationContext
        from alembic.script import ScriptDirectory

        config = Config()
        config.set_main_option("script_location", str(MIGRATIONS))
        config.attributes["engine"] = self.engine
        known = {revision.revision for revision in ScriptDirectory.from_config(config).walk_revisions()}
        with self.engine.connect() as connection:
            stands = MigrationContext.configure(connection).get_current_revision()
        if stands is not None and stands < OLDEST_TABLES:
            raise WrongVersion(
                f"This data was made by an older version of Steady Tide (its tables stand at {stands}). Start version 0.2 "
                "on it once, then this one; or give another folder with --data DIR."
            )
        if stands is not None and stands not in known:
            raise WrongVersion(
                f"This data was made by a newer version of Steady Tide (its tables stand at {stands}). Start that version, "
                "or give another folder with --data DIR."
            )
        return config

    def close(self) -> None:
        """Let go of all connections."""
        self.engine.dispose()
