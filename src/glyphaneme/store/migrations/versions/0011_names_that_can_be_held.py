"""Names without the characters that no layered file can hold.

Those of layers lie in edits and snapshots, where they are replaced as they are read.
"""

from __future__ import annotations

from alembic import op

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None

UNHOLDABLE = r"[\x01-\x08\x0B\x0C\x0E-\x1F\uFFFE\uFFFF]"
REPLACE = """
UPDATE {table} SET name = regexp_replace(name, '{unholdable}', U&'\\FFFD', 'g')
WHERE name ~ '{unholdable}'
"""
NAMED = ("project", "picture", "version")


def upgrade() -> None:
    """Bring the tables to this step."""
    for table in NAMED:
        op.execute(REPLACE.format(table=table, unholdable=UNHOLDABLE))


def downgrade() -> None:
    """Leave names as they are: what they were before is not known."""
