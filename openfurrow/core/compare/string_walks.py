"""The ways in which strings may go from module to module, by what shade each of them loses."""

from dataclasses import dataclass, replace
from typing import get_args

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.design import Design
from openfurrow.core.energy.around import far_horizon
from openfurrow.core.energy.string_shade import ModuleShade, module_shade
from openfurrow.core.fed import feeds_of
from openfurrow.core.plan import Plan
from openfurrow.core.rows.shade import evenly, standing_of
from openfurrow.core.site.said import air_of
from openfurrow.core.wiring.circuit import Circuit, lay_circuit
from openfurrow.core.wiring.givens import StringWalk

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# Modules of strings that are looked at for each way; of larger arrays strings are taken evenly.
LOOKED_AT = 300


@dataclass(frozen=True, kw_only=True)
class OnWalk:
    """The strings of an array that go so: what each ``keeps`` of the year's open light, (strings).

    ``alone`` is what the same modules keep each by itself. Of a large array ``looked_at`` are the
    strings that were followed.
    """

    walk: StringWalk
    circuit: Circuit
    looked_at: Integers
    keeps: Floats
    alone: Floats

    @property
    def kept(self) -> float:
        """Of the year's open light, strings by their modules."""
        return float(np.average(self.keeps, weights=self._sizes))

    @property
    def by_itself(self) -> float:
        """The same were each module by itself."""
        return float(np.average(self.alone, weights=self._sizes))

    @property
    def mixing(self) -> float:
        """Share that is lost because modules of unlike shade are in one string."""
        return 1 - self.kept / max(self.by_itself, 1e-9)

    @property
    def _sizes(self) -> Integers:
        return self.circuit.strings.lengths[self.looked_at]


@dataclass(frozen=True, kw_only=True)
class Walks:
    """Every way that strings may go, as they go now first; ``modules`` are those that were looked at.

    ``by_module`` is what each of them keeps by itself.
    """

    ways: tuple[OnWalk, ...]
    modules: Integers
    by_module: Floats

    @property
    def best(self) -> OnWalk:
        """The one that loses least; of equals the one as they go now."""
        return max(self.ways, key=lambda one: round(one.kept, 6))


def walks_of(design: Design, plan: Plan) -> Walks | None:
    """The array that is open, its strings laid each way.

    None where they have no choice: each module by itself on a branch, or glass that follows the sun.
    """
    rows, circuit = plan.rows, plan.circuit
    if circuit.branch is not None or rows.travel is not None:
        return None
    laid = [_laid(design, plan, walk) for walk in _ways(design.wiring.string_walk)]
    looked = [_looked_at(one) for one in laid]
    orders = [
        np.concatenate([_modules_of(one, string) for string in which.tolist()])
        for one, which in zip(laid, looked, strict=True)
    ]
    modules = np.unique(np.concatenate(orders))
    shade = _shade(design, plan, modules)
    by_module, found = shade.by_module_h, []
    for walk, one, which, order in zip(
        _ways(design.wiring.string_walk), laid, looked, orders, strict=True
    ):
        at = np.searchsorted(modules, order)
        lengths = one.strings.lengths[which]
        ends = np.cumsum(lengths)
        found.append(
            OnWalk(
                walk=walk,
                circuit=one,
                looked_at=which,
                keeps=shade.by_string(at, lengths),
                alone=np.add.reduceat(by_module[at], ends - lengths) / lengths,
            )
        )
    return Walks(ways=tuple(found), modules=modules, by_module=by_module)


def _ways(now: StringWalk) -> tuple[StringWalk, ...]:
    return (now, *(one for one in get_args(StringWalk) if one != now))


def _laid(design: Design, plan: Plan, walk: StringWalk) -> Circuit:
    """The circuit with its strings laid so."""
    array, number = design.array(plan.array.id), plan.open
    counts = tuple(one.rows.module_count for one in plan.arrays)
    fed = feeds_of(design, counts, plan.trench.tree.stretches)[number]
    return lay_circuit(
        air_of(design.site),
        plan.rows,
        plan.array.places,
        array.modules,
        design.trench,
        plan.run.route,
        design.wiring.losses,
        replace(fed, laying=replace(fed.laying, walk=walk)),
    )


def _looked_at(circuit: Circuit) -> Integers:
    """All strings, or so many spread evenly that their modules can be followed."""
    strings = circuit.strings
    return evenly(strings.count, max(1, LOOKED_AT // int(strings.lengths.max())))


def _modules_of(circuit: Circuit, string: int) -> Integers:
    end = int(circuit.strings.lengths[: string + 1].sum())
    return circuit.leads.order[end - int(circuit.strings.lengths[string]) : end]


def _shade(design: Design, plan: Plan, modules: Integers) -> ModuleShade:
    year = plan.energy.arrays[plan.open]
    standing = standing_of(plan.site.keepouts, plan.site.ground)
    others = tuple(one.rows.steepest.lie for one in plan.arrays if one.id != plan.array.id)
    return module_shade(
        plan.energy.sky,
        plan.rows,
        modules,
        year.panel.cells,
        (standing, others, far_horizon(design.sun.horizon)),
        year.upkeep.albedo,
    )
