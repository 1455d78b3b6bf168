"""What practice remembers: how each topic went last, and when it is asked again."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "practice",
        sa.Column("topic", sa.Text(), primary_key=True),
        sa.Column("entry", JSONB(), nullable=False),
        sa.Column("answer", sa.Uuid()),
        sa.Column("times", sa.Integer(), server_default="0", nullable=False),
        sa.Column("answered_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )


def downgrade() -> None:
    op.drop_table("practice")
