"""One revision scheme: shots and sheets that are begun carry stamps like everything else that people change.

Nobody wrote down which field of a shot changed when: all fields count as changed at the revision that it has (`since`).
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0018"
down_revision = "0017"
branch_labels = None
depends_on = None

STAMPS = (
    "update {table} set stamps = jsonb_build_object('revision', revision, 'since', revision, 'fields', '{{}}'::jsonb)"
)


def upgrade() -> None:
    for table in ("shots", "sheet_drafts"):
        op.add_column(table, sa.Column("stamps", JSONB(), nullable=False, server_default=sa.text("'{}'::jsonb")))
        op.execute(STAMPS.format(table=table))
        op.drop_column(table, "revision")
    for column in ("wish_stamps", "framing_stamps"):
        op.drop_column("shots", column)


def downgrade() -> None:
    for table, first in (("shots", 1), ("sheet_drafts", 0)):
        op.add_column(table, sa.Column("revision", sa.Integer(), nullable=False, server_default=str(first)))
        op.execute(f"update {table} set revision = greatest({first}, coalesce((stamps->>'revision')::int, 0))")
        op.alter_column(table, "revision", server_default=None)
        op.drop_column(table, "stamps")
    for column in ("wish_stamps", "framing_stamps"):
        op.add_column("shots", sa.Column(column, JSONB(), nullable=False, server_default=sa.text("'{}'::jsonb")))
