"""Accounts, jobs, immutable revisions and drafts."""

from datetime import datetime

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0001"
down_revision = None

NOW = sa.text("now()")


def _moment(name: str) -> sa.Column[datetime]:
    return sa.Column(name, sa.DateTime(timezone=True), server_default=NOW, nullable=False)


def upgrade() -> None:
    op.create_table(
        "account",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name", sa.String(80), nullable=False, unique=True),
        sa.Column("password_hash", sa.String(200), nullable=False),
    )
    op.create_table(
        "sign_in",
        sa.Column("token_hash", sa.String(64), primary_key=True),
        sa.Column(
            "account_id", sa.Integer, sa.ForeignKey("account.id", ondelete="CASCADE"), nullable=False
        ),
        sa.Column("expires_at", sa.DateTime(timezone=True), nullable=False),
    )
    op.create_table("job", sa.Column("id", sa.Uuid, primary_key=True), _moment("created_at"))
    op.create_table(
        "member",
        sa.Column("job_id", sa.Uuid, sa.ForeignKey("job.id", ondelete="CASCADE"), primary_key=True),
        sa.Column(
            "account_id", sa.Integer, sa.ForeignKey("account.id", ondelete="CASCADE"), primary_key=True
        ),
        sa.Column("role", sa.String(10), nullable=False),
        sa.CheckConstraint("role in ('owner', 'editor', 'viewer')"),
    )
    op.create_index("member_account", "member", ["account_id"])
    op.create_table(
        "revision",
        sa.Column("job_id", sa.Uuid, sa.ForeignKey("job.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("number", sa.Integer, primary_key=True, autoincrement=False),
        sa.Column("parent", sa.Integer),
        sa.Column("author_id", sa.Integer, sa.ForeignKey("account.id"), nullable=False),
        _moment("saved_at"),
        sa.Column("note", sa.String(300), nullable=False),
        sa.Column("design", JSONB, nullable=False),
        sa.UniqueConstraint("job_id", "parent"),
    )
    op.execute(
        "create function revision_is_immutable() returns trigger language plpgsql as "
        "$$ begin raise exception 'a revision is never changed'; end $$"
    )
    op.execute(
        "create trigger revision_is_immutable before update on revision "
        "for each row execute function revision_is_immutable()"
    )
    op.create_table(
        "draft",
        sa.Column("job_id", sa.Uuid, sa.ForeignKey("job.id", ondelete="CASCADE"), primary_key=True),
        sa.Column(
            "account_id", sa.Integer, sa.ForeignKey("account.id", ondelete="CASCADE"), primary_key=True
        ),
        sa.Column("base", sa.Integer, nullable=False),
        sa.Column("position", sa.Integer, nullable=False),
    )
    op.create_table(
        "draft_step",
        sa.Column("job_id", sa.Uuid, primary_key=True),
        sa.Column("account_id", sa.Integer, primary_key=True),
        sa.Column("number", sa.Integer, primary_key=True, autoincrement=False),
        _moment("made_at"),
        sa.Column("path", sa.String(80), nullable=False),
        sa.Column("label", sa.String(300), nullable=False),
        sa.Column("design", JSONB, nullable=False),
        sa.ForeignKeyConstraint(
            ["job_id", "account_id"], ["draft.job_id", "draft.account_id"], ondelete="CASCADE"
        ),
    )


def downgrade() -> None:
    for table in ("draft_step", "draft", "revision", "member", "job", "sign_in", "account"):
        op.drop_table(table)
    op.execute("drop function revision_is_immutable()")
