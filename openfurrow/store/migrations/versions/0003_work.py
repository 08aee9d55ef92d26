"""Long work in the background, and the queue it is taken from."""

import sqlalchemy as sa
from alembic import op
from procrastinate.schema import SchemaManager
from sqlalchemy.dialects.postgresql import JSONB

revision = "0003"
down_revision = "0002"


def upgrade() -> None:
    now = sa.text("now()")
    op.create_table(
        "work",
        sa.Column("id", sa.Uuid, primary_key=True),
        sa.Column("job_id", sa.Uuid, sa.ForeignKey("job.id", ondelete="CASCADE"), nullable=False),
        sa.Column(
            "account_id", sa.Integer, sa.ForeignKey("account.id", ondelete="CASCADE"), nullable=False
        ),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("asked_at", sa.DateTime(timezone=True), server_default=now, nullable=False),
        sa.Column("heard_at", sa.DateTime(timezone=True), server_default=now, nullable=False),
        sa.Column("state", sa.String(10), nullable=False),
        sa.Column("share", sa.Float, nullable=False),
        sa.Column("words", sa.String(300), nullable=False),
        sa.Column("design", JSONB, nullable=False),
        sa.Column("result", sa.LargeBinary),
        sa.CheckConstraint("state in ('waiting', 'working', 'done', 'failed', 'cancelled')"),
    )
    op.create_index("work_job", "work", ["job_id", "account_id"])
    # The queue's own tables, as the locked version of the package makes them; a newer version brings
    # its changes as files of its own, each to be run by a migration of its own here.
    op.get_bind().exec_driver_sql(SchemaManager.get_schema().replace("%", "%%"))


def downgrade() -> None:
    op.drop_table("work")
    for table in (
        "procrastinate_events",
        "procrastinate_periodic_defers",
        "procrastinate_jobs",
        "procrastinate_workers",
    ):
        op.execute(f"drop table {table} cascade")
    op.execute("drop type procrastinate_job_to_defer_v1 cascade")
    op.execute("drop type procrastinate_job_status cascade")
    op.execute("drop type procrastinate_job_event_type cascade")
