"""Revisions that are issued, with what nobody had looked at; jobs that others are begun from."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0007"
down_revision = "0006"


def upgrade() -> None:
    op.add_column("revision", sa.Column("issued", postgresql.JSONB, nullable=True))
    op.add_column("job", sa.Column("usual", sa.Boolean, nullable=False, server_default=sa.false()))


def downgrade() -> None:
    op.drop_column("revision", "issued")
    op.drop_column("job", "usual")
