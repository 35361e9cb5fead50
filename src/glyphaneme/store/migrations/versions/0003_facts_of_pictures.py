"""what a picture's file says beside its pixels."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Bring the tables to this step."""
    op.add_column("picture", sa.Column("note", sa.String(), nullable=True))
    op.add_column(
        "picture",
        sa.Column(
            "map_tags",
            postgresql.JSONB(none_as_null=True, astext_type=sa.Text()),
            nullable=True,
        ),
    )


def downgrade() -> None:
    """Take this step back."""
    op.drop_column("picture", "map_tags")
    op.drop_column("picture", "note")
