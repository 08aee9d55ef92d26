"""Which serial number sits where: written down module by module, as the modules are set."""

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import MENDED_THERE, Check, holds
from openfurrow.core.fieldbook.places import Known, named
from openfurrow.core.fieldbook.records import Record
from openfurrow.core.planned import Plan
from openfurrow.core.working import COMMON_PRACTICE


@dataclass(frozen=True, kw_only=True)
class ModuleGrid:
    """The modules of one table as they are walked: columns from its first end, up from its low edge."""

    of: str
    array: str
    name: str
    columns: int
    high: int

    def place(self, column: int, up: int) -> str:
        """By what a module is known, both counted from one: ``1:2.3/c4.1``."""
        return f"{self.of}/c{column}.{up}"

    def places(self) -> list[str]:
        """Every module, column by column, upward."""
        return [
            self.place(column, up)
            for column in range(1, self.columns + 1)
            for up in range(1, self.high + 1)
        ]


@dataclass(frozen=True, kw_only=True)
class Serials:
    """The grids of all arrays that are to be built, and what was written down, by module."""

    grids: tuple[ModuleGrid, ...]
    found: dict[str, tuple[Record, ...]]

    @property
    def modules(self) -> int:
        """How many modules there are."""
        return sum(grid.columns * grid.high for grid in self.grids)

    @property
    def doubles(self) -> tuple[str, ...]:
        """Serials that were written at more than one place: one of the two is wrong."""
        at: dict[str, set[str]] = {}
        for of, records in self.found.items():
            for record in records:
                at.setdefault(plain(record.typed), set()).add(of)
        return tuple(sorted(serial for serial, places in at.items() if len(places) > 1))

    @property
    def asked(self) -> tuple[str, ...]:
        """Modules of which two people wrote down different ones."""
        return tuple(
            of for of, records in self.found.items() if len({plain(r.typed) for r in records}) > 1
        )


def plain(serial: str) -> str:
    """A serial as it is compared: labels are read with and without their gaps."""
    return "".join(serial.split()).upper()


def _grids(plan: Plan) -> Iterable[ModuleGrid]:
    for one in plan.each():
        if one.array.standing:
            continue
        columns: NDArray[np.int64] = one.rows.tables.columns
        for table, count in enumerate(columns.tolist()):
            name = one.rows.stands.id_of(table)
            yield ModuleGrid(
                of=f"{one.array.id}:{name}",
                array=one.array.id,
                name=name,
                columns=count,
                high=one.rows.modules_high,
            )


def serials_of(plan: Plan, known: Known, loose: list[Record]) -> Serials:
    """What was written down of each module; that of modules that are gone is loose."""
    grids = tuple(_grids(plan))
    written = {of: those for (of, about), those in known.items() if about == "serial"}
    if not written:
        return Serials(grids=grids, found={})
    there = {of for grid in grids for of in grid.places()}
    loose += [record for of, those in written.items() if of not in there for record in those]
    return Serials(grids=grids, found={of: r for of, r in written.items() if of in there})


def serial_checks(serials: Serials) -> tuple[Check, ...]:
    """Nothing is said before the first is written down."""
    if not serials.found:
        return ()
    wrong = (*serials.doubles, *serials.asked)
    left = serials.modules - len(serials.found)
    return (
        holds(
            "fieldbook",
            "serials",
            "Every serial sits in one place",
            not wrong,
            f"twice, or two ways: {named(wrong)}"
            if wrong
            else f"all {len(serials.found)} written down",
            "one place each",
            remedy="Read the label again: by this list a module is found when it is to be replaced.",
            source=COMMON_PRACTICE,
            given=MENDED_THERE,
            otherwise="look",
        ),
        holds(
            "fieldbook",
            "serials-read",
            "The serial of every module is written down",
            not left,
            f"not written down: {left} of {serials.modules}" if left else f"all {serials.modules}",
            "each, before it is out of reach",
            remedy="Scan it, or peel the second label onto a grid while the module is carried.",
            source=COMMON_PRACTICE,
            given=MENDED_THERE,
            otherwise="look",
        ),
    )
