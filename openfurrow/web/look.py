"""Links for who only looks: made and taken back by who may change the job, followed without account."""

import uuid
from datetime import UTC, datetime
from typing import Annotated

from fastapi import APIRouter, Path, Response

from openfurrow.core.as_built import as_built
from openfurrow.core.design import Design
from openfurrow.core.fieldbook.records import Record
from openfurrow.core.plan import plan
from openfurrow.exchange.package import file_stem
from openfurrow.exchange.papers.content import Issue, Page, pages
from openfurrow.exchange.papers.write import Paper, Setting, write_papers
from openfurrow.jobs.apart import apart
from openfurrow.store.links import job_by, links_of, make_link, take_back
from openfurrow.store.tables import LookLink
from openfurrow.web.built import Built, built_for_looking
from openfurrow.web.context import Asking, Caller, Gone, computing
from openfurrow.web.models import LinkBody, LinkView, LookView, PageView, Units
from openfurrow.web.views import as_json

router = APIRouter(tags=["look"])
Token = Annotated[str, Path(min_length=20, max_length=80, pattern="^[A-Za-z0-9_-]+$")]


def _view(link: LookLink, token: str = "") -> LinkView:
    return LinkView(
        id=link.id,
        words=link.words,
        by=link.account.name,
        expires_at=link.expires_at,
        token=token,
    )


@router.post("/api/jobs/{job_id}/links", status_code=201)
def add_link(job_id: uuid.UUID, body: LinkBody, caller: Asking) -> LinkView:
    """A link for someone without an account. Its token is told now and never again."""
    with caller.writes() as (session, account):
        link, token = make_link(session, account, job_id, body.words, body.days)
        return _view(link, token)


@router.get("/api/jobs/{job_id}/links")
def list_links(job_id: uuid.UUID, caller: Asking) -> list[LinkView]:
    """The links that are still good."""
    with caller.reads() as (session, account):
        return [_view(link) for link in links_of(session, account, job_id)]


@router.delete("/api/jobs/{job_id}/links/{link_id}", status_code=204)
def take_link_back(job_id: uuid.UUID, link_id: uuid.UUID, caller: Asking) -> None:
    """Take a link back: it leads nowhere from now on."""
    with caller.writes() as (session, account):
        take_back(session, account, job_id, link_id)


def _looked_at(caller: Caller, token: str) -> Built:
    with caller.anyone() as session:
        seen = built_for_looking(session, job_by(session, token))
    return seen()


def _issue(found: Built) -> Issue:
    return Issue(
        revision=found.revision, saved=found.saved, issued=found.issued, made=datetime.now(UTC)
    )


def _page(page: Page) -> PageView:
    return PageView(
        title=page.title,
        caution=page.caution,
        drawings=page.drawings,
        answers=page.answers,
        checks=page.checks,
        tables=page.tables,
        lines=page.lines,
    )


# What who came by a link is sent is nobody else's to keep, nor to tell from where it was read.
PRIVATE = {"Cache-Control": "no-store", "Referrer-Policy": "no-referrer"}


@router.get("/api/look/{token}", response_model=LookView)
def look_by_link(token: Token, caller: Asking, units: Units | None = None) -> Response:
    """The papers of what is built from, for who has the link; 404 once it leads nowhere."""
    found = _looked_at(caller, token)
    wanted = units or found.design.site.display_units
    with computing():
        made = tuple(_page(page) for page in pages(found.design, found.plan, wanted))
    view = LookView(
        name=found.design.name,
        issue=_issue(found).words,
        units=wanted,
        missing=len(found.plan.missing),
        pages=tuple(page for page in made if any((page.drawings, page.tables, page.answers))),
    )
    answer = as_json(view)
    answer.headers.update(PRIVATE)
    return answer


def _papers(design: Design, records: tuple[Record, ...], issue: Issue, setting: Setting) -> bytes:
    return write_papers(design, as_built(design, plan(design), records), issue, setting)


@router.get("/api/look/{token}/papers.pdf", response_class=Response)
def papers_by_link(
    token: Token, caller: Asking, gone: Gone, paper: Paper = "letter", units: Units | None = None
) -> Response:
    """The same as PDF."""
    found = _looked_at(caller, token)
    setting = Setting(paper, units or found.design.site.display_units)
    content = apart(_papers, found.design, found.records, _issue(found), setting, left=gone)
    named = f'attachment; filename="{file_stem(found.design)}.pdf"'
    return Response(
        content, media_type="application/pdf", headers={"Content-Disposition": named, **PRIVATE}
    )
