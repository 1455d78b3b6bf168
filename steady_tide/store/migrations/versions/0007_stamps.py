"""Shoots, wishes, the crew's way, cameras, things and drafts carry their revision, and when each field changed."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None

STAMPED = (
    ("crews", "stamps"),
    ("shoots", "stamps"),
    ("shots", "wish_stamps"),
    ("cameras", "stamps"),
    ("things", "stamps"),
)


def upgrade() -> None:
    for table, column in STAMPED:
        op.add_column(table, sa.Column(column, JSONB(), nullable=False, server_default=sa.text("'{}'::jsonb")))
    op.add_column("sheet_drafts", sa.Column("revision", sa.Integer(), nullable=False, server_default="0"))


def downgrade() -> None:
    op.drop_column("sheet_drafts", "revision")
    for table, column in reversed(STAMPED):
        op.drop_column(table, column)
