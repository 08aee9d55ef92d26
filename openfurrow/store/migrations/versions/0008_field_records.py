"""Records of the field: rows that are only added, each by the id that the device gave it."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0008"
down_revision = "0007"


def upgrade() -> None:
    op.create_table(
        "field_record",
        sa.Column("id", sa.Uuid, primary_key=True),
        sa.Column("job_id", sa.Uuid, sa.ForeignKey("job.id", ondelete="CASCADE"), nullable=False),
        sa.Column("account_id", sa.Integer, sa.ForeignKey("account.id"), nullable=False),
        sa.Column("device", sa.String(64), nullable=False),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("of", sa.String(60), nullable=False),
        sa.Column("value", sa.Float, nullable=False),
        sa.Column("typed", sa.String(60), nullable=False),
        sa.Column("east_m", sa.Float, nullable=False),
        sa.Column("north_m", sa.Float, nullable=False),
        sa.Column("note", sa.String(500), nullable=False),
        sa.Column("settles", postgresql.JSONB, nullable=False),
        sa.Column("device_time", sa.DateTime(timezone=True), nullable=False),
        sa.Column(
            "server_time", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False
        ),
    )
    op.create_index("field_record_job", "field_record", ["job_id", "server_time"])
    op.execute(
        "create function field_record_is_kept() returns trigger language plpgsql as "
        "$$ begin raise exception 'a record is never changed'; end $$"
    )
    op.execute(
        "create trigger field_record_is_kept before update on field_record "
        "for each row execute function field_record_is_kept()"
    )


def downgrade() -> None:
    op.drop_table("field_record")
    op.execute("drop function field_record_is_kept")
