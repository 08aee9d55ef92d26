"""What was measured on site: rows that are only ever added, each by a device's own id."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import Literal

RecordKind = Literal["depth", "refusal", "top"]
# What kind of quantity each is, and what it is called.
MEASURED: dict[RecordKind, tuple[str, str]] = {
    "depth": ("tape", "Depth reached"),
    "refusal": ("tape", "Stopped at a depth of"),
    "top": ("tape", "Rod on the top"),
}
# Both are of how deep a post stands.
DEPTHS: tuple[RecordKind, ...] = ("depth", "refusal")


@dataclass(frozen=True, kw_only=True)
class Record:
    """One measurement of one support, ``of`` as its array and its own name: ``1:2.3/4``.

    ``value`` is SI, ``typed`` as it was written. ``east_m`` and ``north_m`` are where the support was
    planned when it was measured: where it is planned elsewhere by now, the record is loose.
    ``settles`` are records of others that this one was made to decide between.
    """

    id: str
    kind: RecordKind
    of: str
    value: float
    typed: str
    by: str
    device: str
    at: datetime
    east_m: float
    north_m: float
    note: str = ""
    settles: tuple[str, ...] = ()

    @property
    def about(self) -> tuple[str, str]:
        """What it is a measurement of: a post that stopped has its depth by that."""
        return self.of, "depth" if self.kind in DEPTHS else self.kind


def standing(records: Iterable[Record]) -> dict[tuple[str, str], tuple[Record, ...]]:
    """What stands of each thing: of what nobody settled, the newest of each person.

    Whoever measures again corrects themselves, never another. Order of arrival does not matter, nor
    how often a record comes; clocks that stand alike do not lose one that was settled on.
    """
    known = {record.id: record for record in records}
    settled = {one for record in known.values() for one in record.settles if one != record.id}
    newest: dict[tuple[tuple[str, str], str], Record] = {}
    for record in known.values():
        if record.id in settled:
            continue
        key = (record.about, record.by)
        held = newest.get(key)
        if held is None or (record.at, record.id) > (held.at, held.id):
            newest[key] = record
    found: dict[tuple[str, str], list[Record]] = {}
    for (about, _), record in newest.items():
        found.setdefault(about, []).append(record)
    return {about: tuple(sorted(those, key=lambda r: (r.at, r.id))) for about, those in found.items()}
