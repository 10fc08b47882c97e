"""Devices that were paired, and the words that pair one."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Both, empty."""
    op.create_table(
        "device",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("name", sa.String(80), nullable=False),
        sa.Column("token", sa.String(64), nullable=False, unique=True),
        sa.Column("paired", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("seen", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.create_table(
        "pairing_word",
        sa.Column("word", sa.String(64), primary_key=True),
        sa.Column("until", sa.DateTime(timezone=True), nullable=False),
        sa.Column("used", sa.Boolean(), nullable=False, server_default=sa.false()),
    )


def downgrade() -> None:
    """Take the tables out again."""
    op.drop_table("pairing_word")
    op.drop_table("device")
