"""Moments of projects that have names; what counts a project's changes says so."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Bring the tables to this step."""
    op.alter_column("project", "version", new_column_name="changes")
    op.create_table(
        "version",
        sa.Column("revision_id", sa.Uuid(), nullable=False),
        sa.Column("project_id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("clock_timestamp()"),
            nullable=False,
        ),
        sa.CheckConstraint("name <> ''", name=op.f("ck_version_has_name")),
        sa.ForeignKeyConstraint(
            ["project_id", "revision_id"],
            ["revision.project_id", "revision.id"],
            name="fk_version_revision",
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("revision_id", name=op.f("pk_version")),
    )
    op.create_index(op.f("ix_version_project_id"), "version", ["project_id"])


def downgrade() -> None:
    """Take this step back."""
    op.drop_table("version")
    op.alter_column("project", "changes", new_column_name="version")
