"""first tables."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Bring the tables to this step."""
    op.create_table(
        "blob",
        sa.Column("sha256", sa.String(), nullable=False),
        sa.Column("size", sa.BigInteger(), nullable=False),
        sa.CheckConstraint(
            "sha256 ~ '^[0-9a-f]{64}$'", name=op.f("ck_blob_sha256_is_hex")
        ),
        sa.CheckConstraint("size >= 0", name=op.f("ck_blob_size_not_negative")),
        sa.PrimaryKeyConstraint("sha256", name=op.f("pk_blob")),
    )
    op.create_table(
        "project",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("head_id", sa.Uuid(), nullable=False),
        sa.Column("tip_id", sa.Uuid(), nullable=False),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("clock_timestamp()"),
            nullable=False,
        ),
        sa.Column(
            "changed_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("clock_timestamp()"),
            nullable=False,
        ),
        sa.Column("removed_at", sa.DateTime(timezone=True), nullable=True),
        sa.CheckConstraint("name <> ''", name=op.f("ck_project_has_name")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_project")),
    )
    op.create_table(
        "blob_piece",
        sa.Column("sha256", sa.String(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.CheckConstraint(
            "number >= 0", name=op.f("ck_blob_piece_number_not_negative")
        ),
        sa.ForeignKeyConstraint(
            ["sha256"],
            ["blob.sha256"],
            name=op.f("fk_blob_piece_sha256"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("sha256", "number", name=op.f("pk_blob_piece")),
    )
    op.create_table(
        "picture",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("sha256", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("format", sa.String(), nullable=False),
        sa.Column("width", sa.Integer(), nullable=False),
        sa.Column("height", sa.Integer(), nullable=False),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("clock_timestamp()"),
            nullable=False,
        ),
        sa.CheckConstraint("name <> ''", name=op.f("ck_picture_has_name")),
        sa.CheckConstraint(
            "width > 0 AND height > 0", name=op.f("ck_picture_has_pixels")
        ),
        sa.ForeignKeyConstraint(
            ["sha256"], ["blob.sha256"], name=op.f("fk_picture_sha256")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_picture")),
        sa.UniqueConstraint("sha256", name=op.f("uq_picture_sha256")),
    )
    op.create_table(
        "revision",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("project_id", sa.Uuid(), nullable=False),
        sa.Column("parent_id", sa.Uuid(), nullable=True),
        sa.Column("depth", sa.Integer(), nullable=False),
        sa.Column(
            "edit",
            postgresql.JSONB(none_as_null=True, astext_type=sa.Text()),
            nullable=True,
        ),
        sa.Column(
            "snapshot",
            postgresql.JSONB(none_as_null=True, astext_type=sa.Text()),
            nullable=True,
        ),
        sa.Column("label", sa.String(), nullable=False),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("clock_timestamp()"),
            nullable=False,
        ),
        sa.CheckConstraint(
            "(parent_id IS NULL) = (edit IS NULL)",
            name=op.f("ck_revision_root_alone_has_no_edit"),
        ),
        sa.CheckConstraint(
            "parent_id IS NOT NULL OR snapshot IS NOT NULL",
            name=op.f("ck_revision_root_has_snapshot"),
        ),
        sa.CheckConstraint(
            "(parent_id IS NULL) = (depth = 0)",
            name=op.f("ck_revision_depth_counts_edits"),
        ),
        sa.ForeignKeyConstraint(
            ["project_id", "parent_id"],
            ["revision.project_id", "revision.id"],
            name="fk_revision_parent",
        ),
        sa.ForeignKeyConstraint(
            ["project_id"],
            ["project.id"],
            name=op.f("fk_revision_project_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_revision")),
        sa.UniqueConstraint("project_id", "id", name=op.f("uq_revision_project_id_id")),
    )
    op.create_foreign_key(
        "fk_project_head",
        "project",
        "revision",
        ["id", "head_id"],
        ["project_id", "id"],
        initially="DEFERRED",
        deferrable=True,
    )
    op.create_foreign_key(
        "fk_project_tip",
        "project",
        "revision",
        ["id", "tip_id"],
        ["project_id", "id"],
        initially="DEFERRED",
        deferrable=True,
    )
    op.create_index("ix_revision_parent", "revision", ["parent_id"], unique=False)
    op.create_table(
        "job",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("state", sa.String(), nullable=False),
        sa.Column("progress", sa.Double(), nullable=False),
        sa.Column("picture_id", sa.Uuid(), nullable=True),
        sa.Column("project_id", sa.Uuid(), nullable=True),
        sa.Column(
            "request",
            postgresql.JSONB(none_as_null=True, astext_type=sa.Text()),
            nullable=True,
        ),
        sa.Column("result_sha256", sa.String(), nullable=True),
        sa.Column("file_name", sa.String(), nullable=True),
        sa.Column("error", sa.String(), nullable=True),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("clock_timestamp()"),
            nullable=False,
        ),
        sa.Column(
            "changed_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("clock_timestamp()"),
            nullable=False,
        ),
        sa.CheckConstraint(
            "kind <> 'export' OR (project_id IS NOT NULL AND request IS NOT NULL)",
            name=op.f("ck_job_exports_a_project"),
        ),
        sa.CheckConstraint(
            "kind <> 'read_picture' OR picture_id IS NOT NULL",
            name=op.f("ck_job_reads_a_picture"),
        ),
        sa.CheckConstraint(
            "kind IN ('read_picture', 'export')", name=op.f("ck_job_kind_is_known")
        ),
        sa.CheckConstraint(
            "state IN ('waiting', 'running', 'done', 'failed', 'cancelled')",
            name=op.f("ck_job_state_is_known"),
        ),
        sa.CheckConstraint(
            "progress BETWEEN 0 AND 1", name=op.f("ck_job_progress_is_a_share")
        ),
        sa.ForeignKeyConstraint(
            ["picture_id"],
            ["picture.id"],
            name=op.f("fk_job_picture_id"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["project_id"],
            ["project.id"],
            name=op.f("fk_job_project_id"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["result_sha256"], ["blob.sha256"], name=op.f("fk_job_result_sha256")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_job")),
    )
    op.create_index(op.f("ix_job_picture_id"), "job", ["picture_id"], unique=False)
    op.create_index(op.f("ix_job_project_id"), "job", ["project_id"], unique=False)


def downgrade() -> None:
    """Take this step back."""
    op.drop_index(op.f("ix_job_project_id"), table_name="job")
    op.drop_index(op.f("ix_job_picture_id"), table_name="job")
    op.drop_table("job")
    op.drop_index("ix_revision_parent", table_name="revision")
    op.drop_constraint("fk_project_tip", "project")
    op.drop_constraint("fk_project_head", "project")
    op.drop_table("revision")
    op.drop_table("picture")
    op.drop_table("blob_piece")
    op.drop_table("project")
    op.drop_table("blob")
