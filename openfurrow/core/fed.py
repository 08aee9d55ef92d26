"""What each array comes to: inverters that take its modules, the volts and inputs they may have."""

import math
from collections import Counter
from dataclasses import replace

from openfurrow.core.design import Design
from openfurrow.core.energy.cells import Electronics
from openfurrow.core.site.said import air_of
from openfurrow.core.trench.conduit import Pull
from openfurrow.core.trench.ways import Stretch
from openfurrow.core.wiring.branches import Branch
from openfurrow.core.wiring.circuit import Circuit, Fed, circuits_out, string_limits
from openfurrow.core.wiring.feed import conduits_for
from openfurrow.core.wiring.inverters import (
    branch_of,
    inputs_at,
    inputs_of,
    outputs_of,
    takers,
    volts_of,
)

Counts = tuple[int, ...]


def _taking(design: Design) -> tuple[tuple[int, ...], ...]:
    return takers(design.wiring.inverters, tuple(one.id for one in design.arrays))


def branches_of_arrays(design: Design) -> tuple[Branch | None, ...]:
    """For each array what the inverters behind its modules say, None where there are none."""
    return tuple(branch_of(design.wiring.inverters, those) for those in _taking(design))


def electronics_of(design: Design, number: int) -> Electronics:
    """Whether shade on one module of an array leaves the others."""
    behind = branches_of_arrays(design)[number] is not None
    return "by the module" if behind else design.wiring.electronics


def behind_modules(design: Design, counts: Counts) -> dict[str, int]:
    """Of each entry of the list that stands behind modules how many are to be built."""
    found: Counter[str] = Counter()
    of_arrays = branches_of_arrays(design)
    for given, count, branch in zip(design.arrays, counts, of_arrays, strict=True):
        if branch is not None and not given.standing:
            found[branch.inverter] += count
    return dict(found)


def feeds_of(design: Design, counts: Counts, stretches: tuple[Stretch, ...]) -> tuple[Fed, ...]:
    """For each array what its inverters ask of its strings, and what they give.

    ``counts`` are the modules of every array, ``stretches`` what is dug for all.
    Raises Lacking for air that nobody has said.
    """
    wiring, air = design.wiring, air_of(design.site)
    inverters, taking = wiring.inverters, _taking(design)
    volts = tuple(volts_of(inverters, those) for those in taking)
    branches = branches_of_arrays(design)
    fewest = []
    for given, count, limits, branch, those in zip(
        design.arrays, counts, volts, branches, taking, strict=True
    ):
        longest = branch.most if branch else string_limits(air, given.modules, limits)[0]
        strings = math.ceil(count / max(longest, 1))
        fewest.append(math.ceil(strings / (1 if branch else inputs_at(inverters, those).joined)))
    inputs = inputs_of(inverters, taking, tuple(fewest))
    outputs = (outputs_of(inverters, those) for those in taking)
    laying = [wiring.laying(None if one is None else one.plug_spacing_m) for one in branches]
    feeds = [
        replace(Fed(*one), at_input=inputs_at(inverters, those))
        for *one, those in zip(volts, inputs, outputs, laying, branches, taking, strict=True)
    ]
    conduits = [
        conduits_for(circuits_out(air, count, given.modules, fed), design.trench)
        for given, count, fed in zip(design.arrays, counts, feeds, strict=True)
    ]
    return tuple(
        replace(fed, beside=_most_beside(number, conduits, stretches))
        for number, fed in enumerate(feeds)
    )


def _most_beside(number: int, conduits: list[int], stretches: tuple[Stretch, ...]) -> int:
    """Of the stretches that an array's wires pass the one where most conduits lie beside each other."""
    passed = [stretch.carries for stretch in stretches if number in stretch.carries]
    return max((sum(conduits[one] for one in carries) for carries in passed), default=conduits[number])


def conduit_pull(circuit: Circuit) -> Pull:
    """The wires that one conduit takes: those of its circuits and the grounding conductor."""
    line, ground = circuit.choice.conductor, circuit.grounding
    lines = circuit.feed.wires.lines * circuit.feed.in_conduit
    return Pull(
        conductors=lines + 1,
        wire_m=math.sqrt(4 * line.outside_area_m2 / math.pi),
        area_m2=lines * line.outside_area_m2 + ground.outside_area_m2,
        mass_kg_per_m=lines * line.mass_kg_per_m + ground.mass_kg_per_m,
        copper_m2=lines * line.copper_mm2 * 1e-6,
        size=line.size,
        label=line.label,
        line_m2=line.copper_mm2 * 1e-6,
    )
