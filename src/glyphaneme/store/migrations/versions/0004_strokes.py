"""strokes of masks, each naming the one before it."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Bring the tables to this step."""
    op.create_table(
        "stroke",
        sa.Column("id", sa.String(64), nullable=False),
        sa.Column("previous_id", sa.String(64), nullable=True),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column(
            "stroke",
            postgresql.JSONB(none_as_null=True, astext_type=sa.Text()),
            nullable=False,
        ),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("clock_timestamp()"),
            nullable=False,
        ),
        sa.CheckConstraint("number >= 1", name=op.f("ck_stroke_numbers_from_one")),
        sa.ForeignKeyConstraint(
            ["previous_id"], ["stroke.id"], name=op.f("fk_stroke_previous_id")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_stroke")),
    )
    op.create_index(op.f("ix_stroke_previous_id"), "stroke", ["previous_id"])


def downgrade() -> None:
    """Take this step back."""
    op.drop_table("stroke")
