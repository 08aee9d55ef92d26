"""The tables, as SQLAlchemy maps them. Alembic makes them; see migrations."""

import uuid
from datetime import datetime
from typing import Any

from sqlalchemy import (
    Boolean,
    DateTime,
    Float,
    ForeignKey,
    ForeignKeyConstraint,
    Index,
    Integer,
    LargeBinary,
    String,
    UniqueConstraint,
    false,
    func,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship


class Base(DeclarativeBase):
    """Common ancestor that SQLAlchemy asks for."""


def _now() -> Mapped[datetime]:
    return mapped_column(DateTime(timezone=True), server_default=func.now())


class Account(Base):
    """Someone who signs in."""

    __tablename__ = "account"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(80), unique=True)
    password_hash: Mapped[str] = mapped_column(String(200))


class SignIn(Base):
    """An open session; only the hash of its token is kept."""

    __tablename__ = "sign_in"
    token_hash: Mapped[str] = mapped_column(String(64), primary_key=True)
    account_id: Mapped[int] = mapped_column(ForeignKey("account.id", ondelete="CASCADE"))
    expires_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))


class Job(Base):
    """One job; its name is that of its newest revision.

    ``deleted_at``: nobody sees it but its owner, who may bring it back for a while.
    """

    __tablename__ = "job"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    created_at: Mapped[datetime] = _now()
    archived_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    deleted_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    usual: Mapped[bool] = mapped_column(Boolean, server_default=false(), default=False)


class Member(Base):
    """Who may see a job, and whether they may change it."""

    __tablename__ = "member"
    __table_args__ = (Index("member_account", "account_id"),)
    job_id: Mapped[uuid.UUID] = mapped_column(
        ForeignKey("job.id", ondelete="CASCADE"), primary_key=True
    )
    account_id: Mapped[int] = mapped_column(
        ForeignKey("account.id", ondelete="CASCADE"), primary_key=True
    )
    role: Mapped[str] = mapped_column(String(10))
    account: Mapped[Account] = relationship()
    job: Mapped[Job] = relationship()


class Revision(Base):
    """A saved design. Rows are never changed (a trigger refuses); each parent has one child.

    ``issued``: it is built from; what nobody had looked at then, value by value.
    """

    __tablename__ = "revision"
    __table_args__ = (UniqueConstraint("job_id", "parent"),)
    job_id: Mapped[uuid.UUID] = mapped_column(
        ForeignKey("job.id", ondelete="CASCADE"), primary_key=True
    )
    number: Mapped[int] = mapped_column(Integer, primary_key=True)
    parent: Mapped[int | None] = mapped_column(Integer)
    author_id: Mapped[int] = mapped_column(ForeignKey("account.id"))
    saved_at: Mapped[datetime] = _now()
    note: Mapped[str] = mapped_column(String(300))
    design: Mapped[dict[str, Any]] = mapped_column(JSONB)
    upgraded: Mapped[dict[str, Any] | None] = mapped_column(JSONB)
    issued: Mapped[list[dict[str, str]] | None] = mapped_column(JSONB(none_as_null=True))
    author: Mapped[Account] = relationship()

    @property
    def document(self) -> dict[str, Any]:
        """The design as a migration brought it up to date, or as it was saved."""
        return self.upgraded or self.design


class RevisionSummary(Base):
    """What a list shows of a revision, so that it need not be planned again.

    ``build`` is the program that wrote it: another program's is written anew.
    """

    __tablename__ = "revision_summary"
    __table_args__ = (
        ForeignKeyConstraint(
            ["job_id", "number"], ["revision.job_id", "revision.number"], ondelete="CASCADE"
        ),
    )
    job_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    number: Mapped[int] = mapped_column(Integer, primary_key=True)
    build: Mapped[str] = mapped_column(String(64))
    summary: Mapped[dict[str, Any]] = mapped_column(JSONB)


class SignInTry(Base):
    """Wrong passwords lately, by name and by address; kept here so that all servers agree."""

    __tablename__ = "sign_in_try"
    who: Mapped[str] = mapped_column(String(64), primary_key=True)
    since: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    wrong: Mapped[int] = mapped_column(Integer)


class Work(Base):
    """Long work in the background: what was asked, how far it is, what came of it.

    ``state`` is waiting, working, done, failed or cancelled; who works says so by ``heard_at``. ``how``
    is how it is wanted, and of which revision.
    """

    __tablename__ = "work"
    __table_args__ = (Index("work_job", "job_id", "account_id"),)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    job_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("job.id", ondelete="CASCADE"))
    account_id: Mapped[int] = mapped_column(ForeignKey("account.id", ondelete="CASCADE"))
    kind: Mapped[str] = mapped_column(String(20))
    asked_at: Mapped[datetime] = _now()
    heard_at: Mapped[datetime] = _now()
    state: Mapped[str] = mapped_column(String(10))
    share: Mapped[float] = mapped_column(Float)
    words: Mapped[str] = mapped_column(String(300))
    design: Mapped[dict[str, Any]] = mapped_column(JSONB)
    how: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default="{}", default=dict)
    result: Mapped[bytes | None] = mapped_column(LargeBinary, deferred=True)


class KeptShots(Base):
    """Readings and faces of a survey, packed, by the hash of what they are; ``size`` in bytes."""

    __tablename__ = "kept_shots"
    job_id: Mapped[uuid.UUID] = mapped_column(
        ForeignKey("job.id", ondelete="CASCADE"), primary_key=True
    )
    hash: Mapped[str] = mapped_column(String(64), primary_key=True)
    content: Mapped[bytes] = mapped_column(LargeBinary)
    size: Mapped[int] = mapped_column(Integer)
    made_at: Mapped[datetime] = _now()


class FieldRecord(Base):
    """One measurement of the field. Rows are never changed (a trigger refuses); ``id`` is the device's.

    ``of`` is a thing by its own name, ``value`` SI, ``typed`` as it was written, ``beside`` what was
    read with it; ``photo`` is the hash of one.
    """

    __tablename__ = "field_record"
    __table_args__ = (Index("field_record_job", "job_id", "server_time"),)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    job_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("job.id", ondelete="CASCADE"))
    account_id: Mapped[int] = mapped_column(ForeignKey("account.id"))
    device: Mapped[str] = mapped_column(String(64))
    kind: Mapped[str] = mapped_column(String(20))
    of: Mapped[str] = mapped_column(String(60))
    value: Mapped[float] = mapped_column(Float)
    typed: Mapped[str] = mapped_column(String(60))
    east_m: Mapped[float] = mapped_column(Float)
    north_m: Mapped[float] = mapped_column(Float)
    note: Mapped[str] = mapped_column(String(500))
    settles: Mapped[list[str]] = mapped_column(JSONB)
    beside: Mapped[float | None] = mapped_column(Float)
    photo: Mapped[str | None] = mapped_column(String(64))
    device_time: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    server_time: Mapped[datetime] = _now()
    account: Mapped[Account] = relationship()


class FieldPhoto(Base):
    """A photo of the field, by the hash of its content; ``size`` in bytes."""

    __tablename__ = "field_photo"
    job_id: Mapped[uuid.UUID] = mapped_column(
        ForeignKey("job.id", ondelete="CASCADE"), primary_key=True
    )
    hash: Mapped[str] = mapped_column(String(64), primary_key=True)
    account_id: Mapped[int] = mapped_column(ForeignKey("account.id"))
    media_type: Mapped[str] = mapped_column(String(20))
    content: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    size: Mapped[int] = mapped_column(Integer)
    made_at: Mapped[datetime] = _now()


class LookLink(Base):
    """A way for someone without an account to look at a job; only the hash of its token is kept.

    ``words`` say whom it is for.
    """

    __tablename__ = "look_link"
    __table_args__ = (Index("look_link_job", "job_id"),)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    token_hash: Mapped[str] = mapped_column(String(64), unique=True)
    job_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("job.id", ondelete="CASCADE"))
    account_id: Mapped[int] = mapped_column(ForeignKey("account.id"))
    words: Mapped[str] = mapped_column(String(80))
    made_at: Mapped[datetime] = _now()
    expires_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    taken_back_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    account: Mapped[Account] = relationship()


class Draft(Base):
    """What one person is working on: the revision it began from and the step it stands on.

    ``counter`` is the last number that was given to a step; numbers are never given again.
    """

    __tablename__ = "draft"
    job_id: Mapped[uuid.UUID] = mapped_column(
        ForeignKey("job.id", ondelete="CASCADE"), primary_key=True
    )
    account_id: Mapped[int] = mapped_column(
        ForeignKey("account.id", ondelete="CASCADE"), primary_key=True
    )
    base: Mapped[int] = mapped_column(Integer)
    position: Mapped[int] = mapped_column(Integer)
    counter: Mapped[int] = mapped_column(Integer)


class DraftStep(Base):
    """One edit of a draft: the whole design after it, and what was changed in words.

    ``dropped``: typed over or left behind; kept a while for an edit that was made on it.
    """

    __tablename__ = "draft_step"
    __table_args__ = (
        ForeignKeyConstraint(
            ["job_id", "account_id"], ["draft.job_id", "draft.account_id"], ondelete="CASCADE"
        ),
    )
    job_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    account_id: Mapped[int] = mapped_column(primary_key=True)
    number: Mapped[int] = mapped_column(Integer, primary_key=True)
    made_at: Mapped[datetime] = _now()
    path: Mapped[str] = mapped_column(String(200))
    label: Mapped[str] = mapped_column(String(300))
    dropped: Mapped[bool] = mapped_column(Boolean, server_default=false(), default=False)
    design: Mapped[dict[str, Any]] = mapped_column(JSONB)
    upgraded: Mapped[dict[str, Any] | None] = mapped_column(JSONB)

    @property
    def document(self) -> dict[str, Any]:
        """The design as a migration brought it up to date, or as it was kept."""
        return self.upgraded or self.design
