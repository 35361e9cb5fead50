"""attempts of jobs, versions of projects, moves that count once."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Bring the tables to this step."""
    op.add_column(
        "job", sa.Column("attempts", sa.Integer(), server_default="0", nullable=False)
    )
    op.add_column(
        "project",
        sa.Column("version", sa.BigInteger(), server_default="0", nullable=False),
    )
    op.create_table(
        "standing",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("project_id", sa.Uuid(), nullable=False),
        sa.Column("to_id", sa.Uuid(), nullable=False),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("clock_timestamp()"),
            nullable=False,
        ),
        sa.ForeignKeyConstraint(
            ["project_id"],
            ["project.id"],
            name=op.f("fk_standing_project_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_standing")),
    )
    op.create_index(
        op.f("ix_standing_project_id"), "standing", ["project_id"], unique=False
    )


def downgrade() -> None:
    """Take this step back."""
    op.drop_table("standing")
    op.drop_column("project", "version")
    op.drop_column("job", "attempts")
