"""The crew's kit: cameras with every edition of their sheets, everything else, and sheets that are begun."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None

EMPTY = sa.text("'{}'::jsonb")


def upgrade() -> None:
    op.create_table(
        "cameras",
        sa.Column("id", sa.Text(), primary_key=True),
        sa.Column("edition", sa.Integer(), nullable=False),
        sa.Column("count", sa.Integer(), nullable=False, server_default="1"),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("example", sa.Boolean(), nullable=False, server_default=sa.false()),
        sa.Column("known", JSONB(), nullable=True),
        sa.Column("keeping", JSONB(), nullable=False, server_default=EMPTY),
        sa.Column("deleted_at", sa.DateTime(timezone=True)),
    )
    op.create_table(
        "sheet_editions",
        sa.Column("camera_id", sa.Text(), sa.ForeignKey("cameras.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("edition", sa.Integer(), primary_key=True),
        sa.Column("sheet", JSONB(), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now()),
    )
    op.create_table(
        "things",
        sa.Column("kind", sa.Text(), primary_key=True),
        sa.Column("id", sa.Text(), primary_key=True),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("example", sa.Boolean(), nullable=False, server_default=sa.false()),
        sa.Column("thing", JSONB(), nullable=False),
        sa.Column("keeping", JSONB(), nullable=False, server_default=EMPTY),
        sa.Column("deleted_at", sa.DateTime(timezone=True)),
    )
    op.create_table(
        "sheet_drafts",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("camera_id", sa.Text(), nullable=True),
        sa.Column("edition", sa.Integer(), nullable=True),
        sa.Column("rough", JSONB(), nullable=False),
        sa.Column("updated_at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now()),
    )


def downgrade() -> None:
    for table in ("sheet_drafts", "things", "sheet_editions", "cameras"):
        op.drop_table(table)
