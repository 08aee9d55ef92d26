"""Records with what was read beside them and a photo; photos by hash; links for who only looks."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0009"
down_revision = "0008"


def upgrade() -> None:
    op.add_column("field_record", sa.Column("beside", sa.Float))
    op.add_column("field_record", sa.Column("photo", sa.String(64)))
    op.add_column(
        "work", sa.Column("how", postgresql.JSONB, server_default=sa.text("'{}'"), nullable=False)
    )
    op.create_table(
        "field_photo",
        sa.Column("job_id", sa.Uuid, sa.ForeignKey("job.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("hash", sa.String(64), primary_key=True),
        sa.Column("account_id", sa.Integer, sa.ForeignKey("account.id"), nullable=False),
        sa.Column("media_type", sa.String(20), nullable=False),
        sa.Column("content", sa.LargeBinary, nullable=False),
        sa.Column("size", sa.Integer, nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.create_table(
        "look_link",
        sa.Column("id", sa.Uuid, primary_key=True),
        sa.Column("token_hash", sa.String(64), nullable=False, unique=True),
        sa.Column("job_id", sa.Uuid, sa.ForeignKey("job.id", ondelete="CASCADE"), nullable=False),
        sa.Column("account_id", sa.Integer, sa.ForeignKey("account.id"), nullable=False),
        sa.Column("words", sa.String(80), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("expires_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("taken_back_at", sa.DateTime(timezone=True)),
    )
    op.create_index("look_link_job", "look_link", ["job_id"])


def downgrade() -> None:
    op.drop_table("look_link")
    op.drop_table("field_photo")
    op.drop_column("work", "how")
    op.drop_column("field_record", "photo")
    op.drop_column("field_record", "beside")
