"""Films of a shoot; what a shot is in one of them stands beside its brief."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None

NOTHING = sa.text("'{}'::jsonb")


def upgrade() -> None:
    op.create_table(
        "films",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("shoot_id", sa.Uuid(), sa.ForeignKey("shoots.id", ondelete="CASCADE"), nullable=False),
        sa.Column("film", JSONB(), nullable=False),
        sa.Column("stamps", JSONB(), server_default=NOTHING, nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("deleted_at", sa.DateTime(timezone=True)),
    )
    op.create_index("ix_films_shoot_id", "films", ["shoot_id"])
    op.add_column("shots", sa.Column("framing", JSONB()))
    op.add_column("shots", sa.Column("framing_stamps", JSONB(), server_default=NOTHING, nullable=False))


def downgrade() -> None:
    op.drop_column("shots", "framing_stamps")
    op.drop_column("shots", "framing")
    op.drop_table("films")
