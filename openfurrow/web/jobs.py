"""The list of jobs, new ones, and who a job is shared with."""

import uuid
from datetime import UTC, datetime

from fastapi import APIRouter
from sqlalchemy import select

from openfurrow.core.beginning import begun_like, from_nothing
from openfurrow.core.design import Design
from openfurrow.exchange.design_json import read_design
from openfurrow.jobs.apart import apart
from openfurrow.store.jobs import JobLine, create_job, jobs_of, put, role_in, set_usual, share
from openfurrow.store.revisions import design_of, keep_summary, revision
from openfurrow.store.tables import Member
from openfurrow.web.changing import draft_of
from openfurrow.web.context import FILE_BODY, Asking, Caller, DesignBody, Gone
from openfurrow.web.kept import build
from openfurrow.web.models import (
    CopyBody,
    JobLineView,
    JobMade,
    JobStateBody,
    MemberView,
    NewJobBody,
    ShareBody,
    UsualBody,
)
from openfurrow.web.views import summary_of

router = APIRouter(prefix="/api/jobs", tags=["jobs"])


def _summary(caller: Caller, job: JobLine) -> dict[str, object]:
    """What is kept of the newest revision's plan; where another program wrote it, written anew."""
    if job.summary is not None and job.build == build():
        return job.summary
    with caller.reads() as (session, account):
        design = design_of(session, revision(session, account, job.id, job.revision))
    summary = summary_of(design)
    with caller.writes() as (session, _):
        keep_summary(session, job.id, job.revision, build(), summary)
    return summary


@router.get("")
def list_jobs(caller: Asking) -> list[JobLineView]:
    """The account's jobs, newest saved first."""
    with caller.reads() as (session, account):
        lines = jobs_of(session, account)
    return [
        JobLineView.model_validate(
            {
                **_summary(caller, job),
                "id": job.id,
                "name": job.name,
                "role": job.role,
                "revision": job.revision,
                "saved_at": job.saved_at,
                "author": job.author,
                "state": job.state,
                "usual": job.usual,
            }
        )
        for job in lines
    ]


def _created(caller: Caller, design: Design, note: str) -> JobMade:
    summary = summary_of(design)
    with caller.writes() as (session, account):
        made = create_job(session, account, design, note)
        keep_summary(session, made, 1, build(), summary)
    return JobMade(id=made)


@router.post("", status_code=201)
def new_job(body: NewJobBody, caller: Asking) -> JobMade:
    """A job from nothing but a name and a rule pack; it is walked today, until somebody says else."""
    new = from_nothing(body.name, body.rule_pack, datetime.now(UTC).date())
    if body.like is None:
        return _created(caller, new, "begun")
    model = draft_of(caller, body.like).design
    return _created(caller, begun_like(new, model), f"begun like {model.name}")


@router.post("/import", status_code=201, openapi_extra=FILE_BODY)
def import_job(data: DesignBody, caller: Asking, gone: Gone) -> JobMade:
    """A new job from a design document; one that is not valid changes nothing."""
    # Who has not signed in is told so before a file is read for them.
    with caller.reads():
        pass
    return _created(caller, apart(read_design, data, left=gone), "imported")


@router.post("/{job_id}/copy", status_code=201)
def copy_job(job_id: uuid.UUID, body: CopyBody, caller: Asking) -> JobMade:
    """A new job of the caller's own, begun from their draft of this one as it stands."""
    design = draft_of(caller, job_id).design
    return _created(caller, design.model_copy(update={"name": body.name}), f"copied from {design.name}")


@router.put("/{job_id}/state", status_code=204)
def put_job(job_id: uuid.UUID, body: JobStateBody, caller: Asking) -> None:
    """Put a job into the archive or delete it, and bring it back; a deleted one is kept 30 days."""
    with caller.writes() as (session, account):
        put(session, account, job_id, body.state)


@router.put("/{job_id}/usual", status_code=204)
def keep_as_usual(job_id: uuid.UUID, body: UsualBody, caller: Asking) -> None:
    """Have a job at hand to begin others from, or no longer."""
    with caller.writes() as (session, account):
        set_usual(session, account, job_id, body.usual)


@router.get("/{job_id}/members")
def members(job_id: uuid.UUID, caller: Asking) -> list[MemberView]:
    """Who may see the job."""
    with caller.reads() as (session, account):
        role_in(session, account, job_id)
        found = session.scalars(select(Member).where(Member.job_id == job_id))
        return [MemberView(name=member.account.name, role=member.role) for member in found]


@router.post("/{job_id}/members", status_code=204)
def share_job(job_id: uuid.UUID, body: ShareBody, caller: Asking) -> None:
    """Share with someone who has an account."""
    with caller.writes() as (session, account):
        share(session, account, job_id, body.name, body.role)
