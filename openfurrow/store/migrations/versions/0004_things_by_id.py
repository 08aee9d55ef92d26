"""Things of lists have ids of their own: every stored design beside what it was, brought to version 3.

Documents of version 1 stay for the reader to bring up to date: they have no lists of things.
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from openfurrow.store.migrations.things_by_id import Document, with_ids

revision = "0004"
down_revision = "0003"


def upgrade() -> None:
    for table in ("revision", "draft_step"):
        op.add_column(table, sa.Column("upgraded", JSONB, nullable=True))
    # Rows of revisions are never changed; this puts something beside what they hold.
    op.execute("alter table revision disable trigger revision_is_immutable")
    connection = op.get_bind()
    for (job,) in connection.execute(sa.text("select id from job")).all():
        _job(connection, str(job))
    op.execute("alter table revision enable trigger revision_is_immutable")


def _job(connection: sa.Connection, job: str) -> None:
    by_number: dict[int, Document] = {}
    before: Document | None = None
    rows = connection.execute(
        sa.text("select number, design from revision where job_id = :job order by number"), {"job": job}
    )
    for number, design in rows.all():
        if design.get("schema_version") == 2:
            design = with_ids(design, before, f"{job} {number}")
            _keep(connection, "revision", {"job_id": job, "number": number}, design)
        before = by_number[number] = design
    bases = connection.execute(
        sa.text("select account_id, base from draft where job_id = :job"), {"job": job}
    )
    for account, base in bases.all():
        before = by_number.get(base)
        steps = connection.execute(
            sa.text(
                "select number, design from draft_step where job_id = :job and account_id = :account "
                "order by number"
            ),
            {"job": job, "account": account},
        )
        for number, design in steps.all():
            if design.get("schema_version") == 2:
                design = with_ids(design, before, f"{job} {account} {number}")
                _keep(
                    connection,
                    "draft_step",
                    {"job_id": job, "account_id": account, "number": number},
                    design,
                )
            before = design


def _keep(connection: sa.Connection, table: str, key: dict[str, object], design: Document) -> None:
    where = " and ".join(f"{name} = :{name}" for name in key)
    connection.execute(
        sa.text(f"update {table} set upgraded = :design where {where}").bindparams(
            sa.bindparam("design", type_=JSONB)
        ),
        {**key, "design": design},
    )


def downgrade() -> None:
    op.execute("alter table revision disable trigger revision_is_immutable")
    for table in ("revision", "draft_step"):
        op.drop_column(table, "upgraded")
    op.execute("alter table revision enable trigger revision_is_immutable")
