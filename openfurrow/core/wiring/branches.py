"""Branches: inverters behind every module, side by side on a trunk cable that comes home."""

import math
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.wiring.conductors import warm_factor
from openfurrow.core.wiring.leads import Leads
from openfurrow.core.wiring.strings import StringPlan

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]


@dataclass(frozen=True)
class Branch:
    """What the data sheet of inverters behind modules says: ``box_w`` of one, ``most`` on a branch.

    ``guard_a`` is the largest breaker of a branch, ``plug_spacing_m`` from plug to plug of the trunk,
    ``inverter`` the id of the entry in the list.
    """

    inverter: str
    box_w: float
    most: int
    volts: float
    three: bool
    guard_a: float
    plug_spacing_m: float

    @property
    def box_a(self) -> float:
        """What one adds to each line."""
        return self.box_w / self.volts / (math.sqrt(3) if self.three else 1.0)

    @property
    def times(self) -> float:
        """There and back, or root of three."""
        return math.sqrt(3) if self.three else 2.0


def branches_of(modules: int, branch: Branch) -> StringPlan:
    """The fewest branches, alike but for one module at most."""
    count = max(1, math.ceil(modules / branch.most))
    lengths = np.full(count, modules // count)
    lengths[: modules % count] += 1
    return StringPlan(branch.most, 1, lengths)


def branches_by_inverter(
    found: Iterable[tuple[Branch | None, StringPlan]],
) -> dict[str, tuple[int, float, float]]:
    """Of each entry that stands behind modules: its branches, what the strongest gives, and all.

    ``found`` are those of every array, with their strings.
    """
    counts: dict[str, tuple[int, float, float]] = {}
    for branch, strings in found:
        if branch is not None:
            count, watts, every = counts.get(branch.inverter, (0, 0.0, 0.0))
            counts[branch.inverter] = (
                count + strings.count,
                max(watts, int(strings.lengths.max()) * branch.box_w),
                every + int(strings.lengths.sum()) * branch.box_w,
            )
    return counts


def trunk_ohm_per_m(pack: RulePack) -> float:
    """Of a trunk cable, warm."""
    return warm_factor(pack) * constant(pack, "trunk_resistance_ohm_per_m").value


def trunk_m(leads: Leads, branch: Branch) -> Floats:
    """The cable of every link: whole spacings to a plug that reaches, to another line as it is cut."""
    whole = np.ceil(leads.need_m / branch.plug_spacing_m - 1e-9) * branch.plug_spacing_m
    return np.where(leads.wired, leads.wire_m, whole)


def trunk_moments_m(
    branch: Branch,
    leads: Leads,
    lengths: Integers,
    ends_m: tuple[Floats, Floats],
    slack_m: float,
) -> Floats:
    """Of each branch its pieces of cable, each times the inverters whose current it carries.

    It goes home from the end that is nearer, ``ends_m`` from either and some slack. A piece of it
    carries what all inverters beyond it give.
    """
    last = np.cumsum(lengths) - 1
    first = last - lengths + 1
    begins = ends_m[0] <= ends_m[1]
    links = np.arange(leads.need_m.size)
    joined = leads.need_m > 0
    # From the first module of its branch a link is the so-manieth.
    number = links - first[leads.string]
    beyond = np.where(begins[leads.string], lengths[leads.string] - 1 - number, number + 1)
    carried = np.where(joined, trunk_m(leads, branch) * beyond, 0.0)
    home = (np.minimum(*ends_m) + slack_m) * lengths
    return np.asarray(np.bincount(leads.string, carried, lengths.size) + home)


def trunk_drop(branch: Branch, moment_m: float, pack: RulePack) -> float:
    """Share of the volts lost along a trunk, of the inverter farthest from the trench."""
    return branch.times * branch.box_a * trunk_ohm_per_m(pack) * moment_m / branch.volts
