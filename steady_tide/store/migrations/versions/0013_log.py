"""The log: takes, ladders with what was said of them, notes of gear, one's own numbers. What is thought of a clip moves to its
take."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None

NOTHING = sa.text("'{}'::jsonb")


def _kept() -> list[sa.Column]:  # type: ignore[type-arg]
    return [
        sa.Column("stamps", JSONB(), server_default=NOTHING, nullable=False),
        sa.Column("updated_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("deleted_at", sa.DateTime(timezone=True)),
    ]


def upgrade() -> None:
    op.create_table(
        "ladders",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("shot_id", sa.Uuid(), sa.ForeignKey("shots.id", ondelete="SET NULL")),
        sa.Column("title", sa.Text(), nullable=False),
        sa.Column("ladder", JSONB(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("deleted_at", sa.DateTime(timezone=True)),
    )
    op.create_index("ix_ladders_shot_id", "ladders", ["shot_id"])
    op.create_table(
        "ladder_answers",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("ladder_id", sa.Uuid(), sa.ForeignKey("ladders.id", ondelete="CASCADE"), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("answer", JSONB(), nullable=False),
    )
    op.create_index("ix_ladder_answers_ladder_id", "ladder_answers", ["ladder_id"])
    op.create_table(
        "takes",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("shot_id", sa.Uuid(), sa.ForeignKey("shots.id", ondelete="SET NULL")),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("said", JSONB(), nullable=False),
        sa.Column("made_by", sa.Text(), nullable=False),
        sa.Column("clip_id", sa.Uuid(), sa.ForeignKey("clips.id", ondelete="SET NULL"), unique=True),
        sa.Column("measures", JSONB()),
        sa.Column("planned", JSONB()),
        sa.Column("ladder_id", sa.Uuid(), sa.ForeignKey("ladders.id", ondelete="SET NULL")),
        sa.Column("rung", sa.Integer()),
        *_kept(),
    )
    op.create_index("ix_takes_shot_id", "takes", ["shot_id"])
    op.create_index("ix_takes_at", "takes", ["at"])
    op.create_index("ix_takes_ladder_id", "takes", ["ladder_id"])
    op.create_table(
        "gear_notes",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("note", JSONB(), nullable=False),
        *_kept(),
    )
    op.create_table(
        "own_numbers",
        sa.Column("key", sa.Text(), primary_key=True),
        sa.Column("switched_on", sa.Boolean(), nullable=False),
        sa.Column("edition", sa.Integer(), nullable=False),
    )
    op.create_table(
        "own_editions",
        sa.Column("key", sa.Text(), sa.ForeignKey("own_numbers.key", ondelete="CASCADE"), primary_key=True),
        sa.Column("edition", sa.Integer(), primary_key=True),
        sa.Column("number", JSONB(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.execute(
        "insert into takes (id, shot_id, at, said, made_by, clip_id, measures, planned) "
        "select gen_random_uuid(), shot_id, coalesce(recorded_at, modified_at), "
        "jsonb_build_object('at', to_char(coalesce(recorded_at, modified_at) at time zone 'UTC', 'YYYY-MM-DD\"T\"HH24:MI:SS\"Z\"'), "
        "'rating', rating), 'clip', id, measures, planned from clips where rating is not null"
    )
    op.drop_column("clips", "rating")


def downgrade() -> None:
    op.add_column("clips", sa.Column("rating", sa.Text()))
    op.create_check_constraint("rating", "clips", "rating in ('keep', 'maybe', 'no')")
    op.execute("update clips set rating = takes.said->>'rating' from takes where takes.clip_id = clips.id")
    for table in ("own_editions", "own_numbers", "gear_notes", "takes", "ladder_answers", "ladders"):
        op.drop_table(table)
