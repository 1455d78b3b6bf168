"""Alembic's entry: runs the migrations on the engine that `Database.migrate` hands over."""

from __future__ import annotations

from alembic import context
from sqlalchemy import text

from steady_tide.store.tables import Base


def include_name(name: str | None, type_: str, parent_names: object) -> bool:
    """Leave the job queue's tables alone."""
    return not (type_ == "table" and name is not None and name.startswith("procrastinate_"))


MIGRATION_LOCK = 6_120_712  # of several services on one database one migrates, the others wait

engine = context.config.attributes["engine"]
with engine.begin() as connection:
    context.configure(connection=connection, target_metadata=Base.metadata, include_name=include_name)
    with context.begin_transaction():
        connection.execute(text("select pg_advisory_xact_lock(:key)"), {"key": MIGRATION_LOCK})
        context.run_migrations()
