"""Alembic's entry: runs the migrations on the engine that `Database.migrate` hands over."""

from __future__ import annotations

from alembic import context

from steady_tide.store.tables import Base


def include_name(name: str | None, type_: str, parent_names: object) -> bool:
    """Leave the job queue's tables alone."""
    return not (type_ == "table" and name is not None and name.startswith("procrastinate_"))


engine = context.config.attributes["engine"]
with engine.begin() as connection:
    context.configure(connection=connection, target_metadata=Base.metadata, include_name=include_name)
    with context.begin_transaction():
        context.run_migrations()
