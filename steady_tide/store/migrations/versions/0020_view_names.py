"""Views go by their names of optics: in the pins of shots and uses. Kept sheets, plans and takes are never changed; they are read so."""

from __future__ import annotations

from alembic import op

revision = "0020"
down_revision = "0019"
branch_labels = None
depends_on = None

RENAMED = {"ultra_wide": "fisheye", "linear": "rectilinear", "linear_level": "rectilinear_level", "narrow": "tight"}


def _move(names: dict[str, str]) -> None:
    for table, column, path in (("shots", "brief", "{pins,view}"), ("uses", "use", "{brief,pins,view}")):
        for old, new in names.items():
            op.execute(
                f"update {table} set {column} = jsonb_set({column}, '{path}', '\"{new}\"') "
                f"where {column} #>> '{path}' = '{old}'"
            )


def upgrade() -> None:
    _move(RENAMED)


def downgrade() -> None:
    _move({new: old for old, new in RENAMED.items()})
