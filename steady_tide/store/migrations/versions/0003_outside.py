"""What is taken outside: the day's rules, a shot's wishes, ticks, and what was really set."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None

NEW = (("shoots", "rules"), ("shots", "wishes"), ("shots", "ticks"), ("shots", "really_set"))


def upgrade() -> None:
    for table, column in NEW:
        op.add_column(table, sa.Column(column, JSONB(), nullable=False, server_default=sa.text("'{}'::jsonb")))


def downgrade() -> None:
    for table, column in NEW:
        op.drop_column(table, column)
