"""Shots of surveys in rows of their own, by the hash of what they are.

Documents that were stored before hold theirs and are read as they are.
"""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"


def upgrade() -> None:
    op.create_table(
        "kept_shots",
        sa.Column("job_id", sa.Uuid, sa.ForeignKey("job.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("hash", sa.String(64), primary_key=True),
        sa.Column("content", sa.LargeBinary, nullable=False),
        sa.Column("size", sa.Integer, nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now()),
    )


def downgrade() -> None:
    op.drop_table("kept_shots")
