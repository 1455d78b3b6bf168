"""What came with the program is marked, so that it can be left."""

from __future__ import annotations

from uuid import UUID, uuid5

import sqlalchemy as sa
from alembic import op

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None

# As they were loaded before they were marked.
TITLES = (
    "Harrow Fleet, first flood", "Frost on the flats", "Trial evening at the mill", "Reed cutting", "Geese on the wall",
    "Oyster beds", "Punts laid up", "Driftwood", "Lanterns in the yard", "The mill in twenty seconds",
)  # fmt: skip
NOTES = UUID("2b6b1f0a-0d0c-4d39-8d0b-6d6f1d3f9a11")


def upgrade() -> None:
    for table in ("shoots", "gear_notes", "rush_folders"):
        op.add_column(table, sa.Column("demo", sa.Boolean(), server_default=sa.false(), nullable=False))
    loaded = "exists (select 1 from marks where key = 'demo')"
    at = op.get_bind()
    titles: sa.BindParameter[list[str]] = sa.bindparam("titles", list(TITLES), expanding=True)
    at.execute(sa.text(f"update shoots set demo = true where title in :titles and {loaded}").bindparams(titles))
    notes: sa.BindParameter[list[UUID]] = sa.bindparam(
        "notes", [uuid5(NOTES, f"note/{number}") for number in range(50)], expanding=True
    )
    at.execute(sa.text("update gear_notes set demo = true where id in :notes").bindparams(notes))
    at.execute(sa.text(f"update rush_folders set demo = true where path like '%/demo-rushes' and {loaded}"))


def downgrade() -> None:
    for table in ("shoots", "gear_notes", "rush_folders"):
        op.drop_column(table, "demo")
