"""What was asked for when a project was begun, so that it is known when it comes again.

Of projects that were begun before, it is not known.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Bring the tables to this step."""
    op.add_column("project", sa.Column("begun_as", JSONB(), nullable=True))


def downgrade() -> None:
    """Take this step back."""
    op.drop_column("project", "begun_as")
