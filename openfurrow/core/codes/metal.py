"""What profiles are made of: steel or aluminium, by the grade that a merchant writes on them."""

from dataclasses import dataclass
from functools import cache
from typing import Literal

from openfurrow.core.codes import constant, table
from openfurrow.core.working import Source

MetalName = Literal["steel", "aluminium"]


@dataclass(frozen=True)
class Metal:
    """What all grades of a metal share."""

    name: MetalName
    elastic_pa: float
    poisson: float
    kg_per_m3: float
    grows_per_k: float

    @property
    def shear_pa(self) -> float:
        """The shear modulus."""
        return self.elastic_pa / (2 * (1 + self.poisson))


@dataclass(frozen=True)
class Grade:
    """One grade: ``yield_pa`` is the 0.2 % proof strength of aluminium."""

    name: str
    metal: Metal
    yield_pa: float
    ultimate_pa: float
    source: Source


@cache
def metal(name: MetalName) -> Metal:
    """By its name."""
    return Metal(
        name,
        *(
            constant("common", f"{name}_{of}").value
            for of in ("modulus_pa", "poisson", "kg_per_m3", "grows_per_k")
        ),
    )


@cache
def grade(name: str) -> Grade:
    """By the name of the grade; KeyError names the known ones."""
    data = table("common", "metal")
    row = data.row("grade", name)
    made_of: MetalName = "aluminium" if data.texts["metal"][row] == "aluminium" else "steel"
    return Grade(
        name,
        metal(made_of),
        data.number("yield_pa", row),
        data.number("ultimate_pa", row),
        data.source,
    )


def grade_names() -> tuple[str, ...]:
    """Every grade that is known."""
    return table("common", "metal").texts["grade"]
