"""The diary of a build, and addresses at which calendars read its evenings."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import TSVECTOR

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Both empty."""
    op.create_table(
        "diary",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("build_id", sa.Uuid(), sa.ForeignKey("build.id", ondelete="CASCADE"), nullable=False),
        sa.Column("day", sa.Date(), nullable=False),
        sa.Column("kind", sa.String(12), nullable=False),
        sa.Column("words", sa.String(), nullable=False),
        sa.Column("hours", sa.Float()),
        sa.Column("task", sa.String(40), nullable=False, server_default=""),
        sa.Column("photos", sa.JSON(), nullable=False),
        sa.Column("measured", sa.JSON(), nullable=False),
        sa.Column("who", sa.String(80), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("was", sa.JSON(), nullable=False),
        sa.Column("struck", sa.Boolean(), nullable=False, server_default=sa.text("false")),
        sa.Column("written", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("text", sa.String(), nullable=False),
        sa.Column("search", TSVECTOR(), sa.Computed("to_tsvector('english'::regconfig, text)", persisted=True)),
    )
    op.create_index("ix_diary_search", "diary", ["search"], postgresql_using="gin")
    op.create_index("ix_diary_day", "diary", ["build_id", "day", "written"])
    op.create_table(
        "feed",
        sa.Column("token", sa.String(64), primary_key=True),
        sa.Column("build_id", sa.Uuid(), sa.ForeignKey("build.id", ondelete="CASCADE"), nullable=False),
        sa.Column("person", sa.String(40), nullable=False, server_default=""),
        sa.Column("made", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.create_index("ix_feed_build_id", "feed", ["build_id"])


def downgrade() -> None:
    """Take both out again."""
    op.drop_table("feed")
    op.drop_table("diary")
