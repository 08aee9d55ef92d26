"""Shots of surveys and years from files, kept once by their hash, so that a step stays small.

A stored document holds ``{"kept": hash}`` where a survey's readings or a year's hours would be; a job
has what it names in rows of its own. Everything else of a document stands in it as the design says.
"""

import hashlib
import json
import uuid
import zlib
from collections import OrderedDict
from collections.abc import Callable, Iterable, Mapping, Sequence
from datetime import UTC, datetime, timedelta
from functools import partial
from threading import Lock
from typing import Any

from sqlalchemy import delete, func, select, text
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from openfurrow.core.design import Design
from openfurrow.core.design_versions import read_document
from openfurrow.core.site.survey import SurveyGivens
from openfurrow.store.errors import StoreError
from openfurrow.store.tables import KeptShots

Document = dict[str, Any]
KEPT = "kept"
OF_SHOTS, OF_YEARS = ("readings", "faces"), "packed"
# Lists of the sun's givens that hold years from files.
YEARS = ("weather", "loads")
# Some three thousand versions of a survey of a few thousand shots.
MOST_BYTES = 256_000_000
# What nothing names any longer goes when room is wanted, but for what was put in just now.
YOUNG = timedelta(hours=1)
# Surveys held ready in memory: as many as the jobs that are worked on at once have sittings.
MOST_HELD = 64
_LOCK = text("select pg_advisory_xact_lock(hashtextextended(:job, 7))")
_LOCK_SHARED = text("select pg_advisory_xact_lock_shared(hashtextextended(:job, 7))")
# Whatever names shots of a job: revisions, steps of drafts and work that is queued.
_NAMED = text("""
with document as (
  select design from revision where job_id = :job
  union all select upgraded from revision where job_id = :job and upgraded is not null
  union all select design from draft_step where job_id = :job
  union all select upgraded from draft_step where job_id = :job and upgraded is not null
  union all select design from work where job_id = :job)
select distinct jsonb_path_query(design, '$.site.surveys[*].readings.kept') #>> '{}' from document
union select jsonb_path_query(design, '$.sun.weather[*].packed.kept') #>> '{}' from document
union select jsonb_path_query(design, '$.sun.loads[*].packed.kept') #>> '{}' from document
""")


class _Held:
    """Surveys' shots by their hash, and hashes by the very shots: both are asked for at each edit."""

    def __init__(self) -> None:
        self._lock = Lock()
        self._by_hash: OrderedDict[str, SurveyGivens] = OrderedDict()
        self._by_id: dict[int, str] = {}

    def shots(self, named: str) -> SurveyGivens | None:
        with self._lock:
            if named in self._by_hash:
                self._by_hash.move_to_end(named)
            return self._by_hash.get(named)

    def name(self, survey: SurveyGivens) -> str | None:
        # An id is the shots' own as long as they are held here.
        with self._lock:
            named = self._by_id.get(id(survey.readings))
            same = named is not None and self._by_hash[named].faces == survey.faces
            return named if same else None

    def hold(self, named: str, survey: SurveyGivens) -> None:
        with self._lock:
            if named in self._by_hash:
                return
            self._by_hash[named] = survey
            self._by_id[id(survey.readings)] = named
            while len(self._by_hash) > MOST_HELD:
                _, gone = self._by_hash.popitem(last=False)
                self._by_id.pop(id(gone.readings), None)


_HELD = _Held()


def _packed(survey: SurveyGivens) -> tuple[str, bytes]:
    """The hash of a survey's shots, and the shots packed."""
    plain = json.dumps({"readings": survey.readings, "faces": survey.faces}, separators=(",", ":"))
    return hashlib.sha256(plain.encode()).hexdigest(), zlib.compress(plain.encode(), 3)


def _unpacked(content: bytes) -> SurveyGivens:
    return SurveyGivens.model_validate_json(zlib.decompress(content))


def put_away(session: Session, job_id: uuid.UUID, design: Design) -> Document:
    """A design as it is stored, its shots in rows of their own.

    Raises StoreError where a job has too many versions of them.
    """
    surveys = design.site.surveys
    names = {at: _named(survey) for at, survey in enumerate(surveys) if survey.readings}
    years = {
        (name, at): one.packed
        for name in YEARS
        for at, one in enumerate(getattr(design.sun, name))
        if one.packed
    }
    packs: dict[str, Callable[[], bytes]] = {
        named: partial(_content, surveys[at]) for at, named in names.items()
    }
    packs |= {_hash(content): content.encode for content in years.values()}
    _keep(session, job_id, packs)
    # Without the shots first, so that they are not written out to be thrown away.
    bare = (survey.model_copy(update=dict.fromkeys(OF_SHOTS, ())) for survey in surveys)
    document = _with_surveys(_without_years(design), tuple(bare)).model_dump(mode="json")
    for at, named in names.items():
        document["site"]["surveys"][at]["readings"] = {KEPT: named}
    for (name, at), content in years.items():
        document["sun"][name][at][OF_YEARS] = {KEPT: _hash(content)}
    return document


def _with_surveys(design: Design, surveys: tuple[SurveyGivens, ...]) -> Design:
    return design.model_copy(update={"site": design.site.model_copy(update={"surveys": surveys})})


def _without_years(design: Design) -> Design:
    light = {
        name: tuple(one.model_copy(update={OF_YEARS: ""}) for one in getattr(design.sun, name))
        for name in YEARS
    }
    return design.model_copy(update={"sun": design.sun.model_copy(update=light)})


def _hash(text: str) -> str:
    return hashlib.sha256(text.encode()).hexdigest()


def _content(survey: SurveyGivens) -> bytes:
    return _packed(survey)[1]


def _named(survey: SurveyGivens) -> str:
    named = _HELD.name(survey)
    if named is None:
        named, _ = _packed(survey)
        _HELD.hold(named, survey)
    return named


def _there(session: Session, job_id: uuid.UUID, names: Iterable[str]) -> set[str]:
    return set(
        session.scalars(
            select(KeptShots.hash).where(KeptShots.job_id == job_id, KeptShots.hash.in_(names))
        )
    )


def _keep(session: Session, job_id: uuid.UUID, shots: Mapping[str, Callable[[], bytes]]) -> None:
    """Have what is packed in rows, to stay until this transaction has stored what names them."""
    if not shots:
        return
    new = set(shots) - _there(session, job_id, shots)
    # Who puts in may also clear out, and does it alone; who only names keeps others from clearing.
    session.execute(_LOCK if new else _LOCK_SHARED, {"job": str(job_id)})
    for named in set(shots) - _there(session, job_id, shots):
        content = shots[named]()
        session.execute(
            insert(KeptShots)
            .values(job_id=job_id, hash=named, content=content, size=len(content))
            .on_conflict_do_nothing()
        )
    if new and _size(session, job_id) > MOST_BYTES:
        _clear(session, job_id, set(shots))
        if _size(session, job_id) > MOST_BYTES:
            raise StoreError(
                f"Surveys and weather of this job have been kept in so many versions that they take "
                f"{MOST_BYTES // 1_000_000} MB: export the design and begin a new job from the file."
            )


def _size(session: Session, job_id: uuid.UUID) -> int:
    found = session.scalar(select(func.sum(KeptShots.size)).where(KeptShots.job_id == job_id))
    return int(found or 0)


def _clear(session: Session, job_id: uuid.UUID, wanted: set[str]) -> None:
    """Take out shots that nothing names any longer."""
    named = set(session.scalars(_NAMED, {"job": job_id})) | wanted
    session.execute(
        delete(KeptShots).where(
            KeptShots.job_id == job_id,
            KeptShots.hash.not_in(named),
            KeptShots.made_at < datetime.now(UTC) - YOUNG,
        )
    )


def taken_out(session: Session, job_id: uuid.UUID, document: Document) -> Design:
    """The design that a stored document holds, brought up to the current schema, with its shots."""
    document = _with_hours(session, job_id, document)
    names = _names_in(document)
    if not names:
        return read_document(document)
    site = document["site"]
    surveys = [_without(one) if at in names else one for at, one in enumerate(site["surveys"])]
    design = read_document({**document, "site": {**site, "surveys": surveys}})
    shots = _shots(session, job_id, set(names.values()))
    full = tuple(
        survey.model_copy(update={name: getattr(shots[names[at]], name) for name in OF_SHOTS})
        if at in names
        else survey
        for at, survey in enumerate(design.site.surveys)
    )
    return _with_surveys(design, full)


def _with_hours(session: Session, job_id: uuid.UUID, document: Document) -> Document:
    """The document with the hours of the years that it names."""
    said = document.get("sun")
    sun: Document = said if isinstance(said, dict) else {}
    years: dict[str, list[Document]] = {name: sun.get(name, []) for name in YEARS}
    if not any(isinstance(one.get(OF_YEARS), dict) for many in years.values() for one in many):
        return document

    def hours(one: Document) -> Document:
        held = one.get(OF_YEARS)
        if not isinstance(held, dict):
            return one
        where = KeptShots.job_id == job_id, KeptShots.hash == held[KEPT]
        content = session.scalar(select(KeptShots.content).where(*where))
        if content is None:
            raise StoreError("A year from a file is not there any longer: bring the file again.")
        return {**one, OF_YEARS: content.decode()}

    whole = {name: [hours(one) for one in many] for name, many in years.items() if many}
    return {**document, "sun": {**sun, **whole}}


def _names_in(document: Document) -> dict[int, str]:
    """What a document names, by the place of the survey; documents of any version."""
    site = document.get("site")
    surveys = site.get("surveys", []) if isinstance(site, dict) else []
    return {
        at: survey["readings"][KEPT]
        for at, survey in enumerate(surveys)
        if isinstance(survey.get("readings"), dict)
    }


def _without(survey: Document) -> Document:
    return {name: value for name, value in survey.items() if name not in OF_SHOTS}


def _shots(session: Session, job_id: uuid.UUID, names: set[str]) -> dict[str, SurveyGivens]:
    found = {named: held for named in names if (held := _HELD.shots(named)) is not None}
    wanted: Sequence[str] = sorted(names - set(found))
    if wanted:
        rows = session.execute(
            select(KeptShots.hash, KeptShots.content).where(
                KeptShots.job_id == job_id, KeptShots.hash.in_(wanted)
            )
        )
        for named, content in rows:
            found[named] = _unpacked(content)
            _HELD.hold(named, found[named])
    if len(found) < len(names):
        raise StoreError("The shots of a survey are not there any longer: go back to another step.")
    return found
