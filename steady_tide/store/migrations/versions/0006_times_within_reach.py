"""Times lie from 1900 to 2200. What lies beyond locked its shoot for good; it is taken out, the rest stays.

Nothing else can have been kept so far away: the light of a brief was always held to its years.
"""

from __future__ import annotations

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None

FIRST, BEYOND = "1900-01-01", "2200-01-01"


def upgrade() -> None:
    op.execute(f"update shots set starts_at = null where starts_at < '{FIRST}' or starts_at >= '{BEYOND}'")
    op.execute(f"update shoots set day = null where day < '{FIRST}' or day >= '{BEYOND}'")
    shoots = sa.table("shoots", sa.column("id", sa.Uuid()), sa.column("rules", JSONB()))
    connection = op.get_bind()
    for shoot, rules in connection.execute(sa.select(shoots.c.id, shoots.c.rules)).all():
        mended = _mended(rules)
        if mended != rules:
            connection.execute(sa.update(shoots).where(shoots.c.id == shoot).values(rules=mended))


def _mended(rules: Any) -> Any:
    if not isinstance(rules, dict):
        return rules
    kept = {name: value for name, value in rules.items() if name not in ("earliest", "latest") or _within(value)}
    if isinstance(kept.get("windows"), list):
        kept["windows"] = [w for w in kept["windows"] if _within(w.get("start")) and _within(w.get("end"))]
    return kept


def _within(moment: Any) -> bool:
    return moment is None or (isinstance(moment, str) and FIRST[:4] <= moment[:4] < BEYOND[:4])


def downgrade() -> None:
    """What was out of reach is gone."""
