"""pictures that only masks are made of are not offered on the shelf."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Bring the tables to this step."""
    op.add_column(
        "picture",
        sa.Column(
            "on_shelf", sa.Boolean(), server_default=sa.text("true"), nullable=False
        ),
    )


def downgrade() -> None:
    """Take this step back."""
    op.drop_column("picture", "on_shelf")
