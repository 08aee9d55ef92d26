"""The list of jobs, new ones, and who a job is shared with."""

import uuid

from fastapi import APIRouter
from sqlalchemy import select

from openfurrow.core.checks import Level
from openfurrow.core.design import Design
from openfurrow.core.design_versions import read_document
from openfurrow.core.quantities import format_value
from openfurrow.core.site.givens import SiteGivens
from openfurrow.exchange.design_json import read_design
from openfurrow.sheets.drawings.cut import cut
from openfurrow.sheets.write import answer_text
from openfurrow.store.jobs import JobLine, create_job, jobs_of, role_in, share
from openfurrow.store.tables import Member
from openfurrow.web.context import FILE_BODY, DesignBody, Store, Who, planned
from openfurrow.web.models import JobLineView, JobMade, MemberView, NewJobBody, ShareBody

router = APIRouter(prefix="/api/jobs", tags=["jobs"])
LIST_HEADLINES = (("rows", "pitch"), ("footings", "depth"), ("trench", "length"))


def _line(job: JobLine) -> JobLineView:
    design = read_document(job.design)
    plan = planned(design)
    units = design.site.display_units
    levels: list[Level] = [check.level for check in plan.checks]
    watts = plan.rows.module_count * design.modules.power_w
    return JobLineView(
        id=job.id, name=job.name, role=job.role, revision=job.revision, saved_at=job.saved_at,
        author=job.author, modules=plan.rows.module_count,
        power=format_value(watts, "power", units), stops=levels.count("stop"),
        looks=levels.count("look"),
        headlines=tuple(answer_text(plan.answer(*key), units) for key in LIST_HEADLINES),
        cut=cut(plan).drawing,
    )


@router.get("")
def list_jobs(session: Store, account: Who) -> list[JobLineView]:
    """The account's jobs, newest saved first."""
    return [_line(job) for job in jobs_of(session, account)]


@router.post("", status_code=201)
def new_job(body: NewJobBody, session: Store, account: Who) -> JobMade:
    """A job from nothing but a name and a rule pack."""
    site = SiteGivens(rule_pack=body.rule_pack, display_units=body.rule_pack)
    design = Design(name=body.name.strip() or "New job", site=site)
    return JobMade(id=create_job(session, account, design, "begun"))


@router.post("/import", status_code=201, openapi_extra=FILE_BODY)
def import_job(data: DesignBody, session: Store, account: Who) -> JobMade:
    """A new job from a design document; one that is not valid changes nothing."""
    design = read_design(data)
    return JobMade(id=create_job(session, account, design, "imported"))


@router.get("/{job_id}/members")
def members(job_id: uuid.UUID, session: Store, account: Who) -> list[MemberView]:
    """Who may see the job."""
    role_in(session, account, job_id)
    found = session.scalars(select(Member).where(Member.job_id == job_id))
    return [MemberView(name=member.account.name, role=member.role) for member in found]


@router.post("/{job_id}/members", status_code=204)
def share_job(job_id: uuid.UUID, body: ShareBody, session: Store, account: Who) -> None:
    """Share with someone who has an account."""
    share(session, account, job_id, body.name, body.role)
