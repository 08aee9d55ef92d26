"""Files that are taken into a draft at once, each as one step that can be undone."""

import uuid
from collections.abc import Callable
from typing import Annotated

from fastapi import Query, Response

from openfurrow.core.design import Design
from openfurrow.core.quantities import UnitSystem
from openfurrow.jobs.apart import apart
from openfurrow.web.changing import Change, draft_to_change, keep
from openfurrow.web.context import Caller
from openfurrow.web.models import Stage, Text
from openfurrow.web.views import as_json, job_view

FileName = Annotated[Text, Query(max_length=80, description="What the file is called")]
Take = Callable[[Design, bytes, str], tuple[Design, str]]


def file_taken(
    caller: Caller,
    job_id: uuid.UUID,
    stage: Stage,
    take: Take,
    file: tuple[bytes, str],
    gone: Callable[[], bool],
    units: UnitSystem,
) -> Response:
    """What ``take`` makes of a file (its bytes, its name), read in a process of its own."""
    draft = draft_to_change(caller, job_id)
    new, words = apart(take, draft.design, *file, left=gone)
    kept = keep(caller, draft, Change(draft.design, new, words), units)
    return as_json(job_view(kept, stage, units, draft.design))
