"""What a design that is built from would take for granted: each value of practice, written out."""

from dataclasses import dataclass

from openfurrow.core.design import Design
from openfurrow.core.fields import array_labels, field_at, write
from openfurrow.core.looked import not_looked
from openfurrow.core.paths import address_of, read
from openfurrow.core.quantities import UnitSystem


@dataclass(frozen=True)
class PracticeLine:
    """One value that is practice and that nobody has looked at; ``array`` is its array's name."""

    path: str
    stage: str
    array: str
    label: str
    value: str


def practice_list(design: Design, units: UnitSystem) -> tuple[PracticeLine, ...]:
    """Every value that nobody has looked at, in the order of the job."""
    called = array_labels(design.arrays)
    found = []
    for path in not_looked(design):
        field, at = field_at(path), address_of(path)
        assert field is not None
        found.append(
            PracticeLine(
                path=path,
                stage=at.stage,
                array=called.get(at.array, "") if len(called) > 1 else "",
                label=field.label,
                value=write(field, read(design, at), units),
            )
        )
    return tuple(found)
