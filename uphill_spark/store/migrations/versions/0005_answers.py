"""What takes seconds to work out: the queue of it, and the answers."""

import sqlalchemy as sa
from alembic import op
from procrastinate.schema import SchemaManager

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """The answers, empty, and the queue's own tables in a schema of theirs, as the library that is pinned has them: a later one brings its own steps from these."""
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
    op.create_index("ix_answer_asked", "answer", ["asked"])
    op.execute("CREATE SCHEMA queue")
    op.execute("SET LOCAL search_path TO queue")
    op.get_bind().exec_driver_sql(SchemaManager.get_schema().replace("%", "%%"))
    op.execute("RESET search_path")


def downgrade() -> None:
    """Take both out again."""
    op.execute("DROP SCHEMA queue CASCADE")
    op.drop_table("answer")
