"""Logs of drives: what is told of each, the pieces of a file on its way, columns in packed pieces, and which columns of a source are which quantities."""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """All empty."""
    op.create_table(
        "log",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("build_id", sa.Uuid(), sa.ForeignKey("build.id", ondelete="CASCADE"), nullable=False),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("day", sa.Date(), nullable=False),
        sa.Column("note", sa.String(), nullable=False, server_default=""),
        sa.Column("photos", sa.JSON(), nullable=False),
        sa.Column("who", sa.String(80), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(10), nullable=False),
        sa.Column("bytes", sa.BigInteger(), nullable=False),
        sa.Column("state", sa.String(10), nullable=False),
        sa.Column("progress", sa.Float(), nullable=False, server_default="0"),
        sa.Column("why", sa.String(600), nullable=False, server_default=""),
        sa.Column("tries", sa.Integer(), nullable=False, server_default="0"),
        sa.Column("rows", sa.Integer(), nullable=False, server_default="0"),
        sa.Column("seconds", sa.Float(), nullable=False, server_default="0"),
        sa.Column("packed", sa.BigInteger(), nullable=False, server_default="0"),
        sa.Column("source", sa.String(64), nullable=False, server_default=""),
        sa.Column("columns", sa.JSON(), nullable=False),
        sa.Column("taken", sa.JSON(), nullable=False),
        sa.Column("broken", sa.JSON(), nullable=False),
        sa.Column("broken_count", sa.Integer(), nullable=False, server_default="0"),
        sa.Column("cells_lost", sa.Integer(), nullable=False, server_default="0"),
        sa.Column("notes", sa.JSON(), nullable=False),
        sa.Column("came", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("overview", sa.LargeBinary()),
    )
    op.create_index("ix_log_build_id", "log", ["build_id", "came"])
    op.create_table(
        "log_piece",
        sa.Column("log_id", sa.Uuid(), sa.ForeignKey("log.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("number", sa.Integer(), primary_key=True),
        sa.Column("data", sa.LargeBinary(), nullable=False),
    )
    op.create_table(
        "log_chunk",
        sa.Column("log_id", sa.Uuid(), sa.ForeignKey("log.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("column", sa.Integer(), primary_key=True),
        sa.Column("number", sa.Integer(), primary_key=True),
        sa.Column("data", sa.LargeBinary(), nullable=False),
    )
    op.create_table(
        "log_source",
        sa.Column("source", sa.String(64), primary_key=True),
        sa.Column("taken", sa.JSON(), nullable=False),
        sa.Column("told", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )


def downgrade() -> None:
    """Take all out again."""
    for name in ("log_source", "log_chunk", "log_piece", "log"):
        op.drop_table(name)
