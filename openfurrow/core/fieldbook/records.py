"""What was measured on site: rows that are only ever added, each by a device's own id."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import Literal

RecordKind = Literal[
    "depth",
    "refusal",
    "top",
    "plumb",
    "cover",
    "voltage",
    "insulation",
    "current",
    "serial",
    "loaded",
    "short",
    "asked",
    "passed",
    "failed",
]


@dataclass(frozen=True)
class Measure:
    """What a kind of record measures: its quantity in SI from ``low`` to ``high``, of what thing.

    ``quantity`` is empty where words are written down; ``about`` groups kinds that speak of the same;
    ``beside`` is the quantity of what is read at the same time.
    """

    label: str
    about: str
    quantity: str = ""
    low: float = 0.0
    high: float = 0.0
    beside: str = ""


# Beyond these bounds a finger slipped.
MEASURES: dict[RecordKind, Measure] = {
    "depth": Measure("Depth reached", "depth", "tape", 0.0, 15.0),
    "refusal": Measure("Stopped at a depth of", "depth", "tape", 0.0, 15.0),
    "top": Measure("Rod on the top", "top", "tape", -6.0, 10.0),
    "plumb": Measure("Off plumb", "plumb", "angle", 0.0, 45.0),
    "cover": Measure("Cover over the wiring", "cover", "tape", 0.0, 6.0),
    "voltage": Measure("Voltage, open", "voltage", "voltage", -2000.0, 2000.0, "temperature"),
    "insulation": Measure("Insulation", "insulation", "insulation", 0.0, 1e12),
    "current": Measure("Current, running", "current", "current", 0.0, 100.0, "irradiance"),
    "serial": Measure("Serial number", "serial"),
    "loaded": Measure("All of it there", "load"),
    "short": Measure("Missing", "load", "count", 1.0, 1e6),
    "asked": Measure("Asked for", "inspection"),
    "passed": Measure("Passed", "inspection"),
    "failed": Measure("Not passed", "inspection"),
}


@dataclass(frozen=True)
class Beside:
    """What is read beside a value: what it is called, its bounds in SI, how it is read."""

    label: str
    low: float
    high: float
    remedy: str


BESIDE: dict[str, Beside] = {
    "temperature": Beside(
        "Modules are at",
        -60.0,
        110.0,
        "Hold a thermometer to the back of a module: without it a voltage tells nothing.",
    ),
    "irradiance": Beside(
        "Light on the glass",
        1.0,
        1500.0,
        "Hold a sensor in the plane of the modules: without it a current tells nothing.",
    ),
}
# What happens in an order: the last word counts, whoever says it.
IN_ORDER = ("inspection", "load")


@dataclass(frozen=True, kw_only=True)
class Record:
    """One measurement of one thing, ``of`` as it is known for good: a post ``1:2.3/4``, a string
    ``1:s2``, a module ``1:2.3/c4.1``, a place of the trench, an inspection.

    ``value`` is SI, ``typed`` as it was written, which is all there is of words; ``beside`` is what was
    read with it. ``east_m`` and ``north_m`` are where the thing was planned when it was measured: where
    it is planned elsewhere by now, the record is loose. ``settles`` are records of others that this
    one was made to decide between.
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
    beside: float | None = None
    photo: str = ""

    @property
    def about(self) -> tuple[str, str]:
        """What it is a measurement of: a post that stopped has its depth by that."""
        return self.of, MEASURES[self.kind].about


def standing(records: Iterable[Record]) -> dict[tuple[str, str], tuple[Record, ...]]:
    """What stands of each thing: of what nobody settled, the newest of each person.

    Of what happens in an order, as an inspection does, the newest of all.

    Whoever measures again corrects themselves, never another. Order of arrival does not matter, nor
    how often a record comes; clocks that stand alike do not lose one that was settled on.
    """
    known = {record.id: record for record in records}
    settled = {
        one
        for record in known.values()
        for one in record.settles
        # Who measures a depth again says nothing of how the post leans.
        if one != record.id and one in known and known[one].about == record.about
    }
    newest: dict[tuple[tuple[str, str], str], Record] = {}
    for record in known.values():
        if record.id in settled:
            continue
        key = (record.about, "" if record.about[1] in IN_ORDER else record.by)
        held = newest.get(key)
        if held is None or (record.at, record.id) > (held.at, held.id):
            newest[key] = record
    found: dict[tuple[str, str], list[Record]] = {}
    for (about, _), record in newest.items():
        found.setdefault(about, []).append(record)
    return {about: tuple(sorted(those, key=lambda r: (r.at, r.id))) for about, those in found.items()}
