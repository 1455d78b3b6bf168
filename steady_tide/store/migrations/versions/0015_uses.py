"""Usual uses: one's own, which are chosen, how often; what was set up on a camera."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None

NOTHING = sa.text("'{}'::jsonb")


def upgrade() -> None:
    op.create_table(
        "uses",
        sa.Column("id", sa.Text(), primary_key=True),
        sa.Column("use", JSONB()),
        sa.Column("chosen", sa.Boolean(), server_default=sa.false(), nullable=False),
        sa.Column("per_year", sa.Float()),
        sa.Column("stamps", JSONB(), server_default=NOTHING, nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("deleted_at", sa.DateTime(timezone=True)),
    )
    op.create_table(
        "set_ups",
        sa.Column("camera_id", sa.Text(), primary_key=True),
        sa.Column("ticks", JSONB(), server_default=NOTHING, nullable=False),
        sa.Column("names", JSONB(), server_default=NOTHING, nullable=False),
        sa.Column("checked_at", sa.DateTime(timezone=True)),
    )


def downgrade() -> None:
    op.drop_table("set_ups")
    op.drop_table("uses")
