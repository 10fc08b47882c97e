"""Builds and their journal."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Builds, their journal, their revisions."""
    op.create_table(
        "build",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("place", sa.BigInteger(), sa.Identity(), nullable=False, unique=True),
        sa.Column("name", sa.String(80), nullable=False),
        sa.Column("demo", sa.String(20), nullable=True),
        sa.Column("head", sa.Integer(), nullable=False),
        sa.Column("created", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("changed", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("put_away", sa.DateTime(timezone=True), nullable=True),
    )
    op.create_table(
        "revision",
        sa.Column("build_id", sa.Uuid(), sa.ForeignKey("build.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("number", sa.Integer(), primary_key=True),
        sa.Column("kind", sa.String(10), nullable=False),
        sa.Column("document", sa.JSON(), nullable=False),
        sa.Column("patch", sa.JSON(), nullable=False),
        sa.Column("summary", sa.String(300), nullable=False),
        sa.Column("who", sa.String(80), nullable=False),
        sa.Column("reason", sa.String(600), server_default="", nullable=False),
        sa.Column("edit_id", sa.String(64), nullable=True),
        sa.Column("undo_to", sa.Integer(), nullable=True),
        sa.Column("redo_to", sa.Integer(), nullable=True),
        sa.Column("written", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.UniqueConstraint("build_id", "edit_id"),
    )


def downgrade() -> None:
    """Take the tables out again."""
    op.drop_table("revision")
    op.drop_table("build")
