"""What takes seconds to work out: the queue of it, and the answers."""

import sqlalchemy as sa
from alembic import op
from procrastinate.schema import SchemaManager

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """The answers, empty, and the queue's own tables, as the library that is pinned has them: a later one brings its own steps from these."""
    op.create_table(
        "answer",
        sa.Column("key", sa.String(64), primary_key=True),
        sa.Column("subject", sa.String(20), nullable=False),
        sa.Column("state", sa.String(10), nullable=False),
        sa.Column("progress", sa.Float(), nullable=False, server_default="0"),
        sa.Column("answer", sa.LargeBinary()),
        sa.Column("why", sa.String(600), nullable=False, server_default=""),
        sa.Column("asked", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.create_index("answer_asked", "answer", ["asked"])
    op.get_bind().exec_driver_sql(SchemaManager.get_schema().replace("%", "%%"))


def downgrade() -> None:
    """Take the answers out again. The queue's tables stay: nothing reads them."""
    op.drop_table("answer")
