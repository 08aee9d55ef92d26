"""Jobs that are put away in the archive, or deleted and kept a while to be brought back."""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"


def upgrade() -> None:
    for name in ("archived_at", "deleted_at"):
        op.add_column("job", sa.Column(name, sa.DateTime(timezone=True), nullable=True))


def downgrade() -> None:
    for name in ("archived_at", "deleted_at"):
        op.drop_column("job", name)
