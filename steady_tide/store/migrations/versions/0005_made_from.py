"""What a kept plan was made from, and on which edition of which camera's sheet.

Plans of the version before were kept in words; they are made anew, on the edition that they keep, when they are read.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("shots", sa.Column("made_from", JSONB(), nullable=True))
    op.add_column("shots", sa.Column("made_on", JSONB(), nullable=True))
    op.execute(
        """
        update shots set made_on = jsonb_build_object(
            'camera', plan->'camera'->'id', 'edition', coalesce(plan->'camera'->'edition', to_jsonb(1)))
        where plan is not null and jsonb_typeof(plan) = 'object'
        """
    )


def downgrade() -> None:
    op.drop_column("shots", "made_on")
    op.drop_column("shots", "made_from")
