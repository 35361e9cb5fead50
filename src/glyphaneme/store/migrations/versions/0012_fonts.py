"""Fonts that people bring."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Bring the tables to this step."""
    op.create_table(
        "font",
        sa.Column("sha256", sa.String(), nullable=False),
        sa.Column("family", sa.String(), nullable=False),
        sa.Column("style", sa.String(), nullable=False),
        sa.Column("may_travel", sa.Boolean(), nullable=False),
        sa.Column("on_offer", sa.Boolean(), server_default=sa.true(), nullable=False),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("clock_timestamp()"),
            nullable=False,
        ),
        sa.CheckConstraint("family <> ''", name=op.f("ck_font_has_name")),
        sa.ForeignKeyConstraint(
            ["sha256"], ["blob.sha256"], name=op.f("fk_font_sha256")
        ),
        sa.PrimaryKeyConstraint("sha256", name=op.f("pk_font")),
    )


def downgrade() -> None:
    """Take this step back."""
    op.drop_table("font")
