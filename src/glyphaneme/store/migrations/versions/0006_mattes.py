"""mattes, by what they were found from; and the work that finds them."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None

KINDS = "ck_job_kind_is_known"
CUTS = "ck_job_cuts_out_of_a_picture"


def upgrade() -> None:
    """Bring the tables to this step."""
    op.create_table(
        "matte",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("key", sa.String(64), nullable=False),
        sa.Column("sha256", sa.String(), nullable=False),
        sa.Column("level", sa.Integer(), nullable=False),
        sa.Column("subjects", sa.Integer(), server_default="0", nullable=False),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("clock_timestamp()"),
            nullable=False,
        ),
        sa.CheckConstraint("level >= 0", name=op.f("ck_matte_level_not_negative")),
        sa.ForeignKeyConstraint(
            ["sha256"], ["blob.sha256"], name=op.f("fk_matte_sha256")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_matte")),
        sa.UniqueConstraint("key", name=op.f("uq_matte_key")),
    )
    op.create_index(op.f("ix_matte_sha256"), "matte", ["sha256"])
    op.add_column("job", sa.Column("found", postgresql.JSONB(none_as_null=True)))
    op.drop_constraint(op.f(KINDS), "job")
    op.create_check_constraint(
        op.f(KINDS), "job", "kind IN ('read_picture', 'export', 'cut_out')"
    )
    op.create_check_constraint(
        op.f(CUTS),
        "job",
        "kind <> 'cut_out' OR (picture_id IS NOT NULL AND request IS NOT NULL)",
    )


def downgrade() -> None:
    """Take this step back."""
    op.execute("DELETE FROM job WHERE kind = 'cut_out'")
    op.drop_constraint(op.f(CUTS), "job")
    op.drop_constraint(op.f(KINDS), "job")
    op.create_check_constraint(op.f(KINDS), "job", "kind IN ('read_picture', 'export')")
    op.drop_column("job", "found")
    op.drop_table("matte")
