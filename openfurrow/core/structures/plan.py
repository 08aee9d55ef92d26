"""Structure: what stands on the ground, how much of it is used, what it asks of every footing."""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, worst_of
from openfurrow.core.codes import constant
from openfurrow.core.loads.combinations import combinations
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.loads.snow import snow_on
from openfurrow.core.loads.wind import wind_cases
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.site.said import Weather
from openfurrow.core.structures.earthquake import Quake, quake_answer, quake_check, quake_of
from openfurrow.core.structures.families import FAMILIES
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.half_glazed import (
    half_glazed,
    half_glazed_answer,
    half_glazed_check,
    half_loads,
)
from openfurrow.core.structures.members import Members
from openfurrow.core.structures.shelter import calmed, shelter_answers, shelter_checks
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.stowed import stow_checks, wind_met
from openfurrow.core.structures.strain import Strain
from openfurrow.core.structures.supports import Reactions, Supports
from openfurrow.core.working import Answer

Floats = NDArray[np.float64]

# Forces of what moves a table are looked at no further apart than this.
TRAVEL_STEP_DEG = 2.5


@dataclass(frozen=True, kw_only=True)
class StructurePlan:
    """The structure of every table: alike but for their length, where their posts stand, the ground.

    ``loads_at`` are those of each tilt that the tables are set to, ``strains_at`` the bents at each
    that are pressed and lifted hardest; members and reactions are of all. ``travel_at`` is a table that
    follows the sun through all of its travel, in small steps. ``quake`` is None where nobody said how
    the ground shakes.
    """

    posts: Stand
    loads_at: tuple[TableLoads, ...]
    travel_at: tuple[tuple[TableSection, TableLoads], ...]
    strains_at: tuple[tuple[Strain, ...], ...]
    members: Members
    reactions: Reactions
    quake: Quake | None
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]

    @property
    def supports(self) -> Supports:
        """Every support of the array, as columns."""
        return self.posts.supports


def stack_m(givens: StructureGivens, module_m: float) -> float:
    """Depth from the glass to where the table turns; ``module_m`` is the module's own."""
    return FAMILIES[givens.family].stack_m(givens, module_m)


def plan_structure(
    weather: Weather,
    site: SitePlan,
    rows: RowsPlan,
    givens: StructureGivens,
    module_kg: float,
    purlin_end_m: float,
) -> StructurePlan:
    """Stand the tables on their supports and follow every load down to the ground.

    ``module_kg`` is one module's mass, ``purlin_end_m`` the purlin beyond the last module.
    """
    family = FAMILIES[givens.family]
    posts = family.stand(site, rows, givens, purlin_end_m)
    blocked = givens.flow_below == "may be blocked"
    dead = family.weigh_kg_per_m2(posts, rows, givens, module_kg)
    set_to = tuple(rows.at(one) for one in rows.positions)
    # A table that moves takes up at one tilt what it could not let go at another.
    lowest_m = math.inf
    if rows.travel is not None:
        lowest_m = _either_way(rows, rows.steepest.section).lower_edge_m

    def full(table: TableSection) -> TableLoads:
        return _loads(weather, table, lowest_m, posts, dead, blocked=blocked)

    def met(table: TableSection) -> TableLoads:
        wind = wind_met(weather, givens, table.tilt_deg)
        return _loads(wind, table, lowest_m, posts, dead, blocked=blocked)

    loads_at = tuple(met(one.section) for one in set_to)
    carried = [
        family.carry(site, one, posts, loads, givens)
        for one, loads in zip(set_to, loads_at, strict=True)
    ]
    said = [f"at {one.tilt_deg:g}°" for one in rows.positions]
    met_whole = Reactions.over([reactions for _, reactions in carried], said)
    found, unsheltered = met_whole, []
    if posts.kinds.sheltered.any():
        calm = [calmed(loads, givens.shelter_share or 1.0) for loads in loads_at]
        lee = [
            family.carry(site, one, posts, loads, givens)[1]
            for one, loads in zip(set_to, calm, strict=True)
        ]
        found = met_whole.where(posts.kinds.sheltered, Reactions.over(lee, said))
        # Until its neighbours stand, a table of theirs meets all of it.
        unsheltered = carried
    # What is checked of one position is checked with the lengths and strengths of all.
    members = family.worst([one for one, _ in carried])
    bare = family.weigh_kg_per_m2(posts, rows, givens, module_kg / 2)
    half = half_glazed(
        weather.wind_speed_m_s,
        found,
        [
            # Nothing stows it while it is built.
            *(
                family.carry(site, one, posts, half_loads(full(one.section), bare), givens)
                for one in set_to
            ),
            *unsheltered,
        ],
        constant(site.rule_pack, "lightest_dead").value,
    )
    quake = None
    if weather.quake_acceleration is not None:
        along_n = float(members.along.table_n.max())
        quake = quake_of(site.rule_pack, weather.quake_acceleration, rows, posts, loads_at, along_n)
    checks = [
        (words, family.checks(posts, loads, members, _either_way(rows, one.section), givens))
        for words, one, loads in zip(said, set_to, loads_at, strict=True)
    ]
    return StructurePlan(
        posts=posts,
        loads_at=loads_at,
        travel_at=tuple((one, met(one)) for one in _through(rows)),
        strains_at=tuple(one.strains for one, _ in carried),
        members=members,
        reactions=found,
        quake=quake,
        answers=(
            *family.answers(posts, loads_at, found, members, rows, givens),
            *shelter_answers(posts, givens),
            half_glazed_answer(half),
            *(() if quake is None else (quake_answer(quake),)),
        ),
        checks=(
            *worst_of(checks),
            *stow_checks(weather, givens),
            *shelter_checks(posts, givens),
            half_glazed_check(half),
            *(() if quake is None else (quake_check(quake),)),
        ),
    )


def _either_way(rows: RowsPlan, table: TableSection) -> TableSection:
    """A table with the lower edge of the side that comes lower, where it rolls over to the other."""
    if rows.travel is None or not rows.travel.rolls:
        return table
    over = table.turned(-table.tilt_deg)
    return replace(table, lower_edge_m=min(table.lower_edge_m, over.upper_edge_m))


def _through(rows: RowsPlan) -> tuple[TableSection, ...]:
    """A table that follows the sun in steps of `TRAVEL_STEP_DEG` at most, and at each of its tilts."""
    if rows.travel is None:
        return ()
    low, high = rows.travel.limits_deg
    steps = np.linspace(low, high, max(2, math.ceil((high - low) / TRAVEL_STEP_DEG) + 1))
    tilts = sorted({*steps.tolist(), *(one.tilt_deg for one in rows.positions)})
    return tuple(rows.steepest.section.turned(tilt) for tilt in tilts if low <= tilt <= high)


def _loads(
    site: Weather,
    table: TableSection,
    lowest_m: float,
    posts: Stand,
    dead_of_kg_per_m2: Floats,
    *,
    blocked: bool,
) -> TableLoads:
    """Wind at the height of the table that stands highest, snow, and the weight that was found.

    ``lowest_m`` is how low the lower edge ever comes: what is in the snow then holds it at every tilt.
    """
    snow = snow_on(site, replace(table, lower_edge_m=min(lowest_m, table.lower_edge_m)))
    snowy = bool(snow.working.value)
    uneven = max(0.0, posts.tallest_under_bolt_m - table.reveal_m)
    return TableLoads(
        wind=wind_cases(
            site, table.tilt_deg, table.lower_edge_m + table.rise_m / 2 + uneven, blocked=blocked
        ),
        snow=snow,
        dead_of_kg_per_m2=dead_of_kg_per_m2,
        strength=combinations(site.rule_pack, site.elevation_m, "combination", uneven=snowy),
        service=combinations(site.rule_pack, site.elevation_m, "service", uneven=snowy),
    )
