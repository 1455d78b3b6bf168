"""A shot has one time: the sky that lights it begins when it does. Where both were kept and differed, the start counts.

Plans made under the sky of another hour are made anew.
"""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None

LAST = datetime(2199, 12, 31, 23, 59, tzinfo=UTC)
AROUND = {"water": "surface", "lamps": "ambient"}  # lights that stand in another


def upgrade() -> None:
    shots = sa.table(
        "shots",
        sa.column("id", sa.Uuid()),
        sa.column("starts_at", sa.DateTime(timezone=True)),
        sa.column("brief", JSONB()),
        sa.column("made_from", JSONB(none_as_null=True)),
    )
    connection = op.get_bind()
    for shot, starts_at, brief in connection.execute(sa.select(shots.c.id, shots.c.starts_at, shots.c.brief)).all():
        sky = _sky_of(brief.get("light"))
        if sky is None:
            continue
        begins, ends = _moment(sky["start"]), _moment(sky["end"])
        if starts_at is None:
            values: dict[str, Any] = {"starts_at": begins}
        elif starts_at != begins:
            until = min(starts_at + (ends - begins), LAST)
            sky["start"], sky["end"] = starts_at.isoformat(), until.isoformat()
            values = {"brief": brief, "made_from": None}
        else:
            continue
        connection.execute(sa.update(shots).where(shots.c.id == shot).values(**values))


def _moment(said: str) -> datetime:
    at = datetime.fromisoformat(said.replace("Z", "+00:00"))
    return at if at.tzinfo else at.replace(tzinfo=UTC)


def _sky_of(light: Any) -> dict[str, Any] | None:
    """The sky within a light, as it is kept."""
    if not isinstance(light, dict):
        return None
    return light if light.get("kind") == "sky" else _sky_of(light.get(AROUND.get(light.get("kind", ""), "")))


def downgrade() -> None:
    """The times before are gone."""
