"""First tables: crews, shoots, shots, marks."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "crews",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("people", JSONB(), nullable=False),
        sa.Column("school", JSONB(), nullable=False),
    )
    op.create_table(
        "shoots",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("crew_id", sa.Uuid(), sa.ForeignKey("crews.id", ondelete="SET NULL", name="fk_shoots_crew_id_crews")),
        sa.Column("title", sa.Text(), nullable=False),
        sa.Column("place", sa.Text(), nullable=False),
        sa.Column("day", sa.Date()),
        sa.Column("zone", sa.Text(), nullable=False),
        sa.Column("latitude", sa.Float()),
        sa.Column("longitude", sa.Float()),
        sa.Column("mains_hz", sa.Integer(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now()),
        sa.Column("deleted_at", sa.DateTime(timezone=True)),
        sa.CheckConstraint("mains_hz in (50, 60)", name="mains_hz"),
    )
    op.create_table(
        "shots",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column(
            "shoot_id",
            sa.Uuid(),
            sa.ForeignKey("shoots.id", ondelete="CASCADE", name="fk_shots_shoot_id_shoots"),
            nullable=False,
        ),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("starts_at", sa.DateTime(timezone=True)),
        sa.Column("brief", JSONB(), nullable=False),
        sa.Column("plan", JSONB()),
        sa.Column("summary", JSONB(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("updated_at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now()),
        sa.Column("deleted_at", sa.DateTime(timezone=True)),
    )
    op.create_index("ix_shots_shoot_id_position", "shots", ["shoot_id", "position"])
    op.create_table(
        "marks", sa.Column("key", sa.Text(), primary_key=True), sa.Column("value", sa.Text(), nullable=False)
    )


def downgrade() -> None:
    for table in ("marks", "shots", "shoots", "crews"):
        op.drop_table(table)
