"""The sky that people choose for a shoot; none means as forecast."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("shoots", sa.Column("cloud", sa.Text()))


def downgrade() -> None:
    op.drop_column("shoots", "cloud")
