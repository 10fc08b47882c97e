"""What the garage says of a revision, kept with it; what was asked under an id; a way back for what was put away."""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Three columns, and an index that makes the id of a new build count once."""
    op.add_column("revision", sa.Column("told", sa.JSON(), nullable=True))
    op.add_column("revision", sa.Column("rules", sa.String(16), nullable=True))
    op.add_column("revision", sa.Column("asked", sa.String(64), nullable=True))
    op.create_index("new_once", "revision", ["edit_id"], unique=True, postgresql_where=sa.text("number = 1 AND edit_id IS NOT NULL"))


def downgrade() -> None:
    """Take them out again."""
    op.drop_index("new_once", "revision")
    for column in ("asked", "rules", "told"):
        op.drop_column("revision", column)
