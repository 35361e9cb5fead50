"""Pictures of the product's own library, and which projects show which pictures.

Of what was there before, a picture counts as used where any edit of the project's
history names it; the next change of a project's pictures makes that exact.
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None

FILL = """
INSERT INTO picture_use (project_id, picture_id)
SELECT DISTINCT revision.project_id, picture.id
FROM revision
CROSS JOIN LATERAL (
    SELECT jsonb_path_query(revision.edit, '$.**.picture ? (@.type() == "string")')
    UNION ALL
    SELECT jsonb_path_query(revision.snapshot, '$.**.picture ? (@.type() == "string")')
) AS named (value)
JOIN picture ON picture.id::text = named.value #>> '{}'
"""


def upgrade() -> None:
    """Bring the tables to this step."""
    op.add_column("picture", sa.Column("library", sa.String(), nullable=True))
    op.create_unique_constraint(op.f("uq_picture_library"), "picture", ["library"])
    op.create_table(
        "picture_use",
        sa.Column("project_id", sa.Uuid(), nullable=False),
        sa.Column("picture_id", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(
            ["project_id"],
            ["project.id"],
            name=op.f("fk_picture_use_project_id"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["picture_id"],
            ["picture.id"],
            name=op.f("fk_picture_use_picture_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint(
            "project_id", "picture_id", name=op.f("pk_picture_use")
        ),
    )
    op.create_index(op.f("ix_picture_use_picture_id"), "picture_use", ["picture_id"])
    op.execute(FILL)


def downgrade() -> None:
    """Take this step back."""
    op.drop_table("picture_use")
    op.drop_constraint(op.f("uq_picture_library"), "picture")
    op.drop_column("picture", "library")
