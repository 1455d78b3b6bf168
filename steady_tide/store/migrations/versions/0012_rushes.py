"""Rushes: folders, clips with their measures, small frames, clocks; and the tables of the job queue."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from procrastinate.schema import SchemaManager
from sqlalchemy.dialects.postgresql import JSONB

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "rush_folders",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("path", sa.Text(), nullable=False, unique=True),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("problem", sa.Text()),
        sa.Column("looked_at", sa.DateTime(timezone=True)),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.create_table(
        "clips",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("folder_id", sa.Uuid(), sa.ForeignKey("rush_folders.id", ondelete="CASCADE"), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("size_bytes", sa.BigInteger(), nullable=False),
        sa.Column("modified_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("ends_digest", sa.Text()),
        sa.Column("state", sa.Text(), nullable=False),
        sa.Column("quick", sa.Boolean(), nullable=False),
        sa.Column("share", sa.Float(), nullable=False),
        sa.Column("problem", sa.Text()),
        sa.Column("asked", sa.Integer(), nullable=False),
        sa.Column("measured_times", sa.Integer(), nullable=False),
        sa.Column("facts", JSONB()),
        sa.Column("recorded_at", sa.DateTime(timezone=True)),
        sa.Column("measures", JSONB()),
        sa.Column("timeline", JSONB()),
        sa.Column("measured_at", sa.DateTime(timezone=True)),
        sa.Column("measured_as", sa.Text()),
        sa.Column("shot_id", sa.Uuid(), sa.ForeignKey("shots.id", ondelete="SET NULL")),
        sa.Column("other_shot_id", sa.Uuid(), sa.ForeignKey("shots.id", ondelete="SET NULL")),
        sa.Column("matched_by", sa.Text()),
        sa.Column("match_share", sa.Float()),
        sa.Column("planned", JSONB()),
        sa.Column("rating", sa.Text()),
        sa.Column("gone_at", sa.DateTime(timezone=True)),
        sa.Column("updated_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.UniqueConstraint("folder_id", "name", name="uq_clips_folder_id"),
        sa.CheckConstraint("state in ('waiting', 'measuring', 'done', 'failed', 'cancelled')", name="state"),
        sa.CheckConstraint("rating in ('keep', 'maybe', 'no')", name="rating"),
    )
    op.create_index("ix_clips_shot_id", "clips", ["shot_id"])
    op.create_index("ix_clips_updated_at", "clips", ["updated_at"])
    op.create_table(
        "clip_frames",
        sa.Column("clip_id", sa.Uuid(), sa.ForeignKey("clips.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("position", sa.Integer(), primary_key=True),
        sa.Column("at_s", sa.Float(), nullable=False),
        sa.Column("plain", sa.LargeBinary(), nullable=False),
        sa.Column("marked", sa.LargeBinary(), nullable=False),
    )
    op.create_table(
        "rush_clocks",
        sa.Column("camera", sa.Text(), primary_key=True),
        sa.Column("ahead_s", sa.Float(), nullable=False),
        sa.Column("clips", sa.Integer(), nullable=False),
    )
    # The queue's own tables, as its library makes them.
    op.get_bind().execution_options(no_parameters=True).exec_driver_sql(SchemaManager.get_schema())


def downgrade() -> None:
    for table in ("rush_clocks", "clip_frames", "clips", "rush_folders"):
        op.drop_table(table)
    for table in ("events", "periodic_defers", "jobs", "workers"):
        op.execute(f"drop table procrastinate_{table} cascade")
    op.execute(
        "do $$ declare one record; begin "
        "for one in select oid::regprocedure as it from pg_proc where proname like 'procrastinate%' loop "
        "execute 'drop function ' || one.it || ' cascade'; end loop; "
        "for one in select typname as it from pg_type where typname like 'procrastinate%' and typtype in ('e', 'c') loop "
        "execute 'drop type if exists ' || one.it || ' cascade'; end loop; end $$"
    )
