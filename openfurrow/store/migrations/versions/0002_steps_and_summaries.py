"""Numbers of steps that are never given again; summaries of revisions; wrong passwords counted."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    op.add_column("draft", sa.Column("counter", sa.Integer, nullable=True))
    op.execute(
        "update draft set counter = greatest(position, coalesce((select max(number) from draft_step "
        "where draft_step.job_id = draft.job_id and draft_step.account_id = draft.account_id), 0))"
    )
    op.alter_column("draft", "counter", nullable=False)
    op.add_column(
        "draft_step", sa.Column("dropped", sa.Boolean, nullable=False, server_default=sa.false())
    )
    op.alter_column("draft_step", "path", type_=sa.String(200))
    op.create_table(
        "revision_summary",
        sa.Column("job_id", sa.Uuid, primary_key=True),
        sa.Column("number", sa.Integer, primary_key=True, autoincrement=False),
        sa.Column("build", sa.String(64), nullable=False),
        sa.Column("summary", JSONB, nullable=False),
        sa.ForeignKeyConstraint(
            ["job_id", "number"], ["revision.job_id", "revision.number"], ondelete="CASCADE"
        ),
    )
    op.create_table(
        "sign_in_try",
        sa.Column("who", sa.String(64), primary_key=True),
        sa.Column("since", sa.DateTime(timezone=True), nullable=False),
        sa.Column("wrong", sa.Integer, nullable=False),
    )


def downgrade() -> None:
    op.drop_table("sign_in_try")
    op.drop_table("revision_summary")
    op.execute("delete from draft_step where dropped")
    op.drop_column("draft_step", "dropped")
    op.drop_column("draft", "counter")
