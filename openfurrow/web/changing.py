"""Changing a draft: look, compute, write in one short transaction; the second is merged or told."""

import threading
import uuid
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from typing import TypeVar

from sqlalchemy.orm import Session

from openfurrow.core.design import Design
from openfurrow.core.edits import differences
from openfurrow.core.merging import clashing, merged
from openfurrow.core.quantities import UnitSystem
from openfurrow.store.drafts import OpenDraft, open_draft, record
from openfurrow.store.errors import Busy, Late, Moved, NotAllowed, clashes_of
from openfurrow.store.tables import Account
from openfurrow.store.turns import turn
from openfurrow.web.context import Caller, planned

# Those who type into one draft at once take turns here, so that nobody plans what another is about to
# move; more than so many waiting would keep threads that others need. Nothing in the database is held:
# writers on other hosts still meet in the step that is expected.
MOST_WAITING, WAITS_S = 6, 10.0
# Each time one of those who write at once gets through; the last of so many would wait this long.
TRIES = 30
OTHERS_WRITE = "Others write to this job all the time: try again in a moment."
T = TypeVar("T")


class _Turns:
    """Turns to write, by draft; one that nobody wants takes no room."""

    def __init__(self) -> None:
        self._guard = threading.Lock()
        self._turns: dict[tuple[uuid.UUID, str], tuple[threading.Semaphore, int]] = {}

    @contextmanager
    def of(self, job_id: uuid.UUID, token: str) -> Iterator[None]:
        """One's turn. Raises Busy where too many wait, or it does not come in time."""
        key = (job_id, token)
        with self._guard:
            lock, wanted = self._turns.get(key, (threading.Semaphore(1), 0))
            if wanted >= MOST_WAITING:
                raise Busy("Too much is typed into this job at once: try again in a moment.")
            self._turns[key] = (lock, wanted + 1)
        try:
            with turn(lock, WAITS_S, OTHERS_WRITE):
                yield
        finally:
            with self._guard:
                lock, wanted = self._turns.pop(key)
                if wanted > 1:
                    self._turns[key] = (lock, wanted - 1)


TURNS = _Turns()


def draft_of(caller: Caller, job_id: uuid.UUID) -> OpenDraft:
    """The caller's draft as it stands."""
    with caller.reads() as (session, account):
        return open_draft(session, account, job_id)


def to_change(session: Session, account: Account, job_id: uuid.UUID) -> OpenDraft:
    """The draft of one who may change it; NotAllowed for one who may only look."""
    draft = open_draft(session, account, job_id)
    if draft.role == "viewer":
        raise NotAllowed("This job is shared with you for reading only.")
    return draft


def draft_to_change(caller: Caller, job_id: uuid.UUID) -> OpenDraft:
    """The draft of a caller who may change it; NotAllowed for one who may only look."""
    with caller.reads() as (session, account):
        return to_change(session, account, job_id)


def until_stored(work: Callable[[], T]) -> T:
    """Do work again that found the store had moved on. Raises Busy where it never comes through."""
    for _ in range(TRIES):
        try:
            return work()
        except Moved:
            continue
    raise Busy(OTHERS_WRITE)


def joined(then: Design, mine: Design, now: Design, units: UnitSystem) -> Design:
    """What was made of ``then``, brought onto what stands now. Raises Late where both cannot be had."""
    if then == now:
        return mine
    clashes = clashing(then, mine, now)
    if clashes:
        both = clashes_of(differences(then, mine, units), differences(then, now, units), frozenset())
        raise Late(tuple(clash for clash in both if clash.path in clashes))
    return merged(then, mine, now, frozenset())


@dataclass(frozen=True)
class Change:
    """A new design made of one that was seen; ``label`` and ``path`` as `record` takes them."""

    then: Design
    mine: Design
    label: str = ""
    path: str = ""


def keep(caller: Caller, first: OpenDraft, change: Change, units: UnitSystem) -> OpenDraft:
    """Record what changed as one step in words, on the draft as it stands by then.

    Nothing is recorded where nothing changed. Raises Late where someone else changed the same.
    """
    seen = first

    def write() -> OpenDraft:
        nonlocal seen
        new = joined(change.then, change.mine, seen.design, units)
        changes = differences(seen.design, new, units)
        if not changes:
            return seen
        words = change.label or f"{changes[0].label} {changes[0].before} → {changes[0].after}"
        if len(changes) > 1 and not change.label:
            words = f"{changes[0].label} and {len(changes) - 1} more"
        # What cannot be planned must not be stored: nobody could look at it again.
        planned(new)
        path = change.path if seen.design == change.then else ""
        try:
            with caller.writes() as (session, _):
                return record(session, seen, path, words, new)
        except Moved:
            seen = draft_of(caller, first.job_id)
            raise

    return until_stored(write)
