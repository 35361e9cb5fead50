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
BATCHES = "ck_job_makes_some_pictures"
STATES = "ck_job_state_is_known"
ALL = "'waiting', 'running', 'done', 'failed', 'cancelled'"
BEFORE = "'read_picture', 'export', 'cut_out', 'line_up', 'export_many'"


def upgrade() -> None:
    """Bring the tables to this step."""
    op.drop_constraint(op.f(KINDS), "job")
    op.create_check_constraint(
        op.f(KINDS), "job", f"kind IN ({BEFORE}, 'pair', 'refine', 'batch')"
    )
    op.drop_constraint(op.f(STATES), "job")
    op.create_check_constraint(op.f(STATES), "job", f"state IN ({ALL}, 'paused')")
    op.create_check_constraint(
        op.f(BATCHES), "job", "kind <> 'batch' OR request IS NOT NULL"
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

    op.create_table(
        "batch_item",
        sa.Column("job_id", sa.Uuid(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("filling", JSONB(none_as_null=True), nullable=False),
        sa.Column("state", sa.String(), server_default="waiting", nullable=False),
        sa.Column("tries", sa.Integer(), server_default="0", nullable=False),
        sa.Column("said", sa.String(), nullable=True),
        sa.Column("doubt", sa.Float(), nullable=True),
        sa.Column("project_id", sa.Uuid(), nullable=True),
        sa.Column("file_sha256", sa.String(), nullable=True),
        sa.CheckConstraint("number >= 1", name=op.f("ck_batch_item_numbers_from_one")),
        sa.CheckConstraint(
            "state IN ('waiting', 'made', 'failed')",
            name=op.f("ck_batch_item_state_is_known"),
        ),
        sa.CheckConstraint(
            "doubt BETWEEN 0 AND 1", name=op.f("ck_batch_item_doubt_is_a_share")
        ),
        sa.ForeignKeyConstraint(
            ["job_id"],
            ["job.id"],
            name=op.f("fk_batch_item_job_id"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["project_id"],
            ["project.id"],
            name=op.f("fk_batch_item_project_id"),
            ondelete="SET NULL",
        ),
        sa.ForeignKeyConstraint(
            ["file_sha256"], ["blob.sha256"], name=op.f("fk_batch_item_file_sha256")
        ),
        sa.PrimaryKeyConstraint("job_id", "number", name=op.f("pk_batch_item")),
    )
    op.create_index(op.f("ix_batch_item_project_id"), "batch_item", ["project_id"])


def downgrade() -> None:
    """Take this step back."""
    op.drop_table("batch_item")
    op.drop_table("plan")
    op.drop_column("project", "plan")
    op.execute("DELETE FROM job WHERE kind IN ('pair', 'refine', 'batch')")
    op.drop_constraint(op.f(BATCHES), "job")
    op.drop_constraint(op.f(STATES), "job")
    op.create_check_constraint(op.f(STATES), "job", f"state IN ({ALL})")
    op.drop_constraint(op.f(REFINES), "job")
    op.drop_constraint(op.f(PAIRS), "job")
    op.drop_constraint(op.f(KINDS), "job")
    op.create_check_constraint(op.f(KINDS), "job", f"kind IN ({BEFORE})")
