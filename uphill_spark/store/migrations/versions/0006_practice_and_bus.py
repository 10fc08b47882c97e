"""Practice on a car, and the bus of its own control unit."""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Both empty."""
    op.create_table(
        "bus",
        sa.Column("build_id", sa.Uuid(), sa.ForeignKey("build.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("place", sa.String(120), nullable=False),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("dbc", sa.String(), nullable=False),
        sa.Column("taken", sa.JSON(), nullable=False),
    )
    op.create_table(
        "practice",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("build_id", sa.Uuid(), sa.ForeignKey("build.id", ondelete="CASCADE"), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("who", sa.String(80), nullable=False),
        sa.Column("level", sa.Integer(), nullable=False),
        sa.Column("seed", sa.BigInteger(), nullable=False),
        sa.Column("before", sa.String(40), nullable=False, server_default=""),
        sa.Column("moves", sa.JSON(), nullable=False),
        sa.Column("score", sa.Integer()),
        sa.Column("fault", sa.String(40), nullable=False, server_default=""),
        sa.Column("found", sa.Boolean()),
        sa.Column("began", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.create_index("ix_practice_build_id", "practice", ["build_id"])


def downgrade() -> None:
    """Take both out again."""
    op.drop_table("practice")
    op.drop_table("bus")
