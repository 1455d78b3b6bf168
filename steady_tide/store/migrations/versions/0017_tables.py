"""All tables as they stood at revision 0017, and those of the job queue.

The migrations before were put together here. A database that stands at 0017 goes on from it; an older one has to be opened
with Steady Tide 0.2 first.
"""

from __future__ import annotations

from pathlib import Path

from alembic import op

revision = "0017"
down_revision = None
branch_labels = None
depends_on = None

HERE = Path(__file__).parent


def upgrade() -> None:
    connection = op.get_bind().execution_options(no_parameters=True)
    for name in ("0017_tables.sql", "0017_job_queue.sql"):
        connection.exec_driver_sql((HERE / name).read_text(encoding="utf-8"))


def downgrade() -> None:
    raise NotImplementedError("Nothing stands before these tables: make another database instead.")
