"""Work that lines photos up."""

from __future__ import annotations

from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None

KINDS = "ck_job_kind_is_known"
LINES = "ck_job_lines_up_in_a_project"


def upgrade() -> None:
    """Bring the tables to this step."""
    op.drop_constraint(op.f(KINDS), "job")
    op.create_check_constraint(
        op.f(KINDS), "job", "kind IN ('read_picture', 'export', 'cut_out', 'line_up')"
    )
    op.create_check_constraint(
        op.f(LINES),
        "job",
        "kind <> 'line_up' OR (project_id IS NOT NULL AND request IS NOT NULL)",
    )


def downgrade() -> None:
    """Take this step back."""
    op.execute("DELETE FROM job WHERE kind = 'line_up'")
    op.drop_constraint(op.f(LINES), "job")
    op.drop_constraint(op.f(KINDS), "job")
    op.create_check_constraint(
        op.f(KINDS), "job", "kind IN ('read_picture', 'export', 'cut_out')"
    )
