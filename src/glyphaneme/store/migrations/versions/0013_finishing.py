"""What files say of a picture, purposes that were changed, and printers' profiles."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None


KINDS = "ck_job_kind_is_known"
MANY = "ck_job_exports_some_projects"
BEFORE = "'read_picture', 'export', 'cut_out', 'line_up'"


def upgrade() -> None:
    """Bring the tables to this step."""
    op.drop_constraint(op.f(KINDS), "job")
    op.create_check_constraint(op.f(KINDS), "job", f"kind IN ({BEFORE}, 'export_many')")
    op.create_check_constraint(
        op.f(MANY), "job", "kind <> 'export_many' OR request IS NOT NULL"
    )
    op.add_column("project", sa.Column("about", JSONB(none_as_null=True)))
    op.create_table(
        "purpose",
        sa.Column("id", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=True),
        sa.Column("settings", JSONB(none_as_null=True), nullable=False),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("clock_timestamp()"),
            nullable=False,
        ),
        sa.CheckConstraint("name <> ''", name=op.f("ck_purpose_has_name")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_purpose")),
    )
    op.create_table(
        "profile",
        sa.Column("sha256", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("ink", sa.String(), nullable=False),
        sa.Column("on_offer", sa.Boolean(), server_default=sa.true(), nullable=False),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("clock_timestamp()"),
            nullable=False,
        ),
        sa.CheckConstraint("name <> ''", name=op.f("ck_profile_has_name")),
        sa.ForeignKeyConstraint(
            ["sha256"], ["blob.sha256"], name=op.f("fk_profile_sha256")
        ),
        sa.PrimaryKeyConstraint("sha256", name=op.f("pk_profile")),
    )


def downgrade() -> None:
    """Take this step back."""
    op.drop_table("profile")
    op.drop_table("purpose")
    op.drop_column("project", "about")
    op.execute("DELETE FROM job WHERE kind = 'export_many'")
    op.drop_constraint(op.f(MANY), "job")
    op.drop_constraint(op.f(KINDS), "job")
    op.create_check_constraint(op.f(KINDS), "job", f"kind IN ({BEFORE})")
