"""Plans that projects are begun from, and the work that finds what they need."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None


KINDS = "ck_job_kind_is_known"
PAIRS = "ck_job_pairs_a_picture"
REFINES = "ck_job_refines_a_project"
BEFORE = "'read_picture', 'export', 'cut_out', 'line_up', 'export_many'"


def upgrade() -> None:
    """Bring the tables to this step."""
    op.drop_constraint(op.f(KINDS), "job")
    op.create_check_constraint(
        op.f(KINDS), "job", f"kind IN ({BEFORE}, 'pair', 'refine')"
    )
    op.create_check_constraint(
        op.f(PAIRS),
        "job",
        "kind <> 'pair' OR (picture_id IS NOT NULL AND request IS NOT NULL)",
    )
    op.create_check_constraint(
        op.f(REFINES), "job", "kind <> 'refine' OR project_id IS NOT NULL"
    )
    op.add_column("project", sa.Column("plan", JSONB(none_as_null=True)))
    op.create_table(
        "plan",
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("document", JSONB(none_as_null=True), nullable=False),
        sa.Column("example_sha256", sa.String(), nullable=True),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("clock_timestamp()"),
            nullable=False,
        ),
        sa.CheckConstraint("name <> ''", name=op.f("ck_plan_has_name")),
        sa.ForeignKeyConstraint(
            ["example_sha256"], ["blob.sha256"], name=op.f("fk_plan_example_sha256")
        ),
        sa.PrimaryKeyConstraint("name", name=op.f("pk_plan")),
    )


def downgrade() -> None:
    """Take this step back."""
    op.drop_table("plan")
    op.drop_column("project", "plan")
    op.execute("DELETE FROM job WHERE kind IN ('pair', 'refine')")
    op.drop_constraint(op.f(REFINES), "job")
    op.drop_constraint(op.f(PAIRS), "job")
    op.drop_constraint(op.f(KINDS), "job")
    op.create_check_constraint(op.f(KINDS), "job", f"kind IN ({BEFORE})")
