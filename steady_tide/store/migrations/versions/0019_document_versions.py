"""Documents carry the version of their form. Those that are there say none and count as the first; each gets one when it is written again.

The tables stay as they are. The step is here so that an older program, which does not know of versions, says so at the start.
"""

from __future__ import annotations

revision = "0019"
down_revision = "0018"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Nothing to do: documents are brought up to date when they are read."""


def downgrade() -> None:
    """Nothing to do."""
