"""The stages that are the job's own and stand on all its arrays: what is wired, dug, listed, staked."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.design import Design
from openfurrow.core.energy.around import far_horizon
from openfurrow.core.energy.array import (
    ArrayYear,
    SetTo,
    field_of,
    panel_of,
    strip_of,
    upkeep_of,
    year_of_array,
)
from openfurrow.core.energy.checks import Station
from openfurrow.core.energy.estimate import Climate, estimated_sky
from openfurrow.core.energy.measured import far_m, measured_sky
from openfurrow.core.energy.movers import moving
from openfurrow.core.energy.plan import EnergyPlan, plan_energy
from openfurrow.core.energy.sky import Sky
from openfurrow.core.fed import conduit_pull, electronics_of, feeds_of
from openfurrow.core.fields import array_labels
from openfurrow.core.frame.givens import CUT_HERE
from openfurrow.core.hauling.plan import HaulingPlan, plan_hauling
from openfurrow.core.loads.snow import snow_weight_n_m3
from openfurrow.core.materials.plan import MaterialsPlan, plan_materials
from openfurrow.core.materials.sawing import Sawing, sawn
from openfurrow.core.materials.takes import Built, all_takes
from openfurrow.core.memo import Kept, Memo
from openfurrow.core.planned import ArrayPlan
from openfurrow.core.rows.positions import by_day
from openfurrow.core.rows.shade import standing_of
from openfurrow.core.schedule.built import soils_met, way_work
from openfurrow.core.schedule.plan import SchedulePlan, plan_schedule, work_site
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.site.said import air_of, weather_of
from openfurrow.core.stakeout.plan import SettingOut, StakeoutPlan, set_out
from openfurrow.core.stamping import answers_of, checks_of, stamped_stage
from openfurrow.core.standing import nothing_set_out
from openfurrow.core.sun.spot import spot_of
from openfurrow.core.to_buy import (
    bought_inverters,
    built_of,
    connected_takes,
    cuts_of_arrays,
    glass_of,
    remembered_nest,
    remembered_walks,
)
from openfurrow.core.to_do import array_work
from openfurrow.core.trench.plan import TrenchPlan, plan_trench
from openfurrow.core.trench.route import Route, lay_route
from openfurrow.core.trench.runs import Run, plan_run
from openfurrow.core.trench.sections import roads_met
from openfurrow.core.trench.ways import Tree, tree_of
from openfurrow.core.wiring.branches import branches_by_inverter
from openfurrow.core.wiring.plan import ArrayWiring, WiringPlan, plan_wiring, wire_array

Integers = NDArray[np.int64]


def _numbers(
    kept: tuple[Kept[ArrayWiring], ...] | tuple[Kept[Run], ...] | tuple[Kept[SettingOut], ...],
) -> tuple[int, ...]:
    return tuple(one.number for one in kept)


@dataclass(frozen=True)
class Together:
    """A design whose arrays are planned: each one's plan, the numbers of its rows and its structure.

    The latter stands for the site, the rows and the places of supports too.
    """

    memo: Memo
    design: Design
    site: Kept[SitePlan]
    arrays: tuple[Kept[ArrayPlan], ...]
    laid: tuple[int, ...]
    stands: tuple[int, ...]

    @property
    def first(self) -> str:
        """The array that the job's own checks speak of, where they speak of one."""
        return self.design.arrays[0].id

    def ways(self) -> Kept[Tree]:
        """The ways of all arrays."""
        ids = self.ids
        names = tuple(one.name for one in self.design.arrays)
        return self.memo.remember(
            "ways",
            (ids, names, self.site.number, *self.stands),
            lambda: tree_of(
                self.site.value, ids, names, tuple(one.value.places for one in self.arrays)
            ),
        )

    def routes(self, tree: Tree) -> tuple[Kept[Route], ...]:
        """Each array's way to the wall; one that lies as it lay is the same one."""
        given, site = self.design.trench, self.site.value
        # All ways have one depth: a road over one of them asks it of all.
        roads = len(roads_met(site.keepouts, (one.line for one in tree.stretches)))

        def route(number: int) -> Kept[Route]:
            post, points = tree.start_posts[number], tree.points_m[number]
            return self.memo.remember(
                "route",
                (self.site.number, given, post, points.tobytes(), roads),
                lambda: lay_route(site, post, points, given, roads=roads),
            )

        return tuple(route(number) for number in range(len(self.arrays)))

    @property
    def module_counts(self) -> tuple[int, ...]:
        """How many modules each array has."""
        return tuple(one.value.rows.module_count for one in self.arrays)

    @property
    def ids(self) -> tuple[str, ...]:
        """The arrays' ids."""
        return tuple(one.id for one in self.design.arrays)

    def circuits(self, tree: Tree, routes: tuple[Kept[Route], ...]) -> tuple[Kept[ArrayWiring], ...]:
        """Each array's strings and wires."""
        design = self.design
        feeds = feeds_of(design, self.module_counts, tree.stretches)
        loss = design.wiring.losses

        def circuit(number: int) -> Kept[ArrayWiring]:
            given, array = design.arrays[number], self.arrays[number].value
            route = routes[number]
            return self.memo.remember(
                "wiring",
                (
                    given.id,
                    self.stands[number],
                    given.modules,
                    design.trench,
                    loss,
                    feeds[number],
                    route.number,
                ),
                lambda: stamped_stage(
                    wire_array(
                        air_of(design.site),
                        array.rows,
                        array.places,
                        given.modules,
                        design.trench,
                        route.value,
                        loss,
                        feeds[number],
                    ),
                    given.id,
                    own=True,
                ),
            )

        return tuple(circuit(number) for number in range(len(self.arrays)))

    def wired(self, circuits: tuple[Kept[ArrayWiring], ...]) -> Kept[WiringPlan]:
        """All strings on the inverters."""
        own, given, air = [one.value for one in circuits], self.design.wiring, air_of(self.design.site)
        watts = tuple(
            array.value.rows.module_count * given.modules.power_w
            for given, array in zip(self.design.arrays, self.arrays, strict=True)
        )

        def joined() -> WiringPlan:
            whole = stamped_stage(
                plan_wiring(tuple(one.circuit for one in own), watts, self.ids, air, given),
                self.first,
                own=False,
            )
            return replace(
                whole,
                answers=(*answers_of(own), *whole.answers),
                checks=(*checks_of(own), *whole.checks),
            )

        return self.memo.remember(
            "wires together", (_numbers(circuits), given, air, watts, self.ids), joined, of_kept=True
        )

    def sky(self) -> Kept[Sky]:
        """The year's weather there."""
        spot, sun, air = spot_of(self.design.site), self.design.sun, air_of(self.design.site)
        year = sun.year_of_weather
        if year is not None:
            return self.memo.remember("sky", (year,), lambda: measured_sky(year))
        climate = Climate(
            sun.clear_by_month, sun.clear_said, air.lowest_temperature_c, air.hottest_temperature_c
        )
        return self.memo.remember(
            "sky",
            (spot, climate),
            lambda: estimated_sky(spot.latitude_deg, spot.longitude_deg, spot.elevation_m, climate),
        )

    def field(self, sky: Kept[Sky], number: int) -> Kept[SetTo]:
        """What each table of an array sees before it and around, at each tilt that it is set to."""
        array, horizon = self.arrays[number].value, self.design.sun.horizon
        rows, strip = array.rows, strip_of(array.frame.below, self.design.sun)
        # Other arrays stand as they do in winter, when they take most.
        others = [one.value.rows.steepest.lie for at, one in enumerate(self.arrays) if at != number]

        def made() -> SetTo:
            site, far = self.site.value, far_horizon(horizon)
            standing = standing_of(site.keepouts, site.ground)
            turned = moving(sky.value, rows)
            seen = [rows] if turned is not None else [rows.at(one) for one in rows.positions]
            at = tuple(field_of(sky.value, one, standing, others, far, strip) for one in seen)
            put_up = [one.section.tilt_deg for one in seen].index(rows.section.tilt_deg)
            return SetTo(at, put_up, by_day(rows.positions), turned)

        key = (sky.number, self.site.number, number, self.laid, horizon, strip)
        return self.memo.remember("field", key, made)

    def light(self, sky: Kept[Sky], number: int) -> Kept[ArrayYear]:
        """What an array's modules bring."""
        field, upkeep = self.field(sky, number), upkeep_of(self.design.sun)
        rows, modules = self.arrays[number].value.rows, self.design.arrays[number].modules
        panel = panel_of(rows, modules, electronics_of(self.design, number))
        watts = rows.module_count * modules.power_w
        return self.memo.remember(
            "light",
            (field.number, panel, watts, upkeep),
            lambda: year_of_array(sky.value, field.value, panel, watts, upkeep),
        )

    def energy(self, wired: Kept[WiringPlan]) -> Kept[EnergyPlan]:
        """The year at the meter."""
        design, sky = self.design, self.sky()
        years = tuple(self.light(sky, number) for number in range(len(self.arrays)))
        year = design.sun.year_of_weather
        spot = spot_of(design.site)
        station = Station(
            bool(design.site.ground_snow_pa),
            None if year is None else far_m(spot, year),
            None if year is None else year.elevation_m - spot.elevation_m,
        )
        return self.memo.remember(
            "energy",
            (
                tuple(one.number for one in years),
                wired.number,
                design.wiring.inverters,
                design.sun,
                station,
                self.ids,
            ),
            lambda: stamped_stage(
                plan_energy(
                    sky.value,
                    tuple(one.value for one in years),
                    self.ids,
                    wired.value,
                    design.wiring.inverters,
                    design.sun,
                    station,
                ),
                self.first,
                own=False,
            ),
        )

    def runs(
        self,
        tree: Tree,
        routes: tuple[Kept[Route], ...],
        circuits: tuple[Kept[ArrayWiring], ...],
    ) -> tuple[Kept[Run], ...]:
        """What lies in the ground for each array."""
        given, site = self.design.trench, self.site.value

        def run(number: int) -> Kept[Run]:
            array, route, wires = self.design.arrays[number].id, routes[number], circuits[number]
            circuit, way = wires.value.circuit, tree.given_of(number)
            return self.memo.remember(
                "run",
                (array, self.site.number, given, route.number, wires.number, way),
                lambda: stamped_stage(
                    plan_run(
                        site,
                        given,
                        route.value,
                        conduit_pull(circuit),
                        circuit.conduits,
                        way,
                        given.inside_m if circuit.feed.outputs is None else 0.0,
                    ),
                    array,
                    own=True,
                ),
            )

        return tuple(run(number) for number in range(len(self.arrays)))

    def dug(self, tree: Kept[Tree], runs: tuple[Kept[Run], ...]) -> Kept[TrenchPlan]:
        """One trench for all that lies in it."""
        own, air = tuple(one.value for one in runs), air_of(self.design.site)
        pack, ground_pa = air.rule_pack, weather_of(self.design.site).ground_snow_pa
        snow_m = ground_pa / snow_weight_n_m3(pack, ground_pa)
        slack_m = self.design.wiring.slack_m

        def joined() -> TrenchPlan:
            whole = stamped_stage(
                plan_trench(self.site.value, self.design.trench, tree.value, own, air, snow_m, slack_m),
                self.first,
                own=False,
            )
            # How deep, then each array's own, then what it comes to.
            deep, *sums = whole.answers
            return replace(
                whole, answers=(deep, *answers_of(own), *sums), checks=(*checks_of(own), *whole.checks)
            )

        return self.memo.remember(
            "trench",
            (
                self.design.trench,
                self.site.number,
                tree.number,
                _numbers(runs),
                self.first,
                air,
                snow_m,
                slack_m,
            ),
            joined,
            of_kept=True,
        )

    def sawn(self) -> Kept[Sawing]:
        """What the saw cuts for all arrays that are built."""
        design = self.design
        # Of posts that come cut the spare ones come cut as well.
        here = any(one.frame.posts_come == CUT_HERE for one in design.arrays)
        saw_m, spare = design.materials.saw_cut_m, design.materials.spare_posts if here else 0
        frames, units = tuple(one.frame for one in design.arrays), design.site.display_units
        return self.memo.remember(
            "sawing",
            (tuple(one.number for one in self.arrays), frames, units, saw_m, spare),
            lambda: sawn(
                cuts_of_arrays(design.arrays, tuple(one.value for one in self.arrays), units),
                saw_m,
                spare,
                lambda *of: remembered_nest(self.memo, *of),
            ),
        )

    def listed(
        self,
        circuits: tuple[Kept[ArrayWiring], ...],
        runs: tuple[Kept[Run], ...],
        trench: Kept[TrenchPlan],
    ) -> Kept[MaterialsPlan]:
        """One list for all arrays."""
        design, sawing, pack = self.design, self.sawn(), self.site.value.rule_pack
        cuts = {one.array: one.cuts for one in sawing.value.arrays}
        inverters, air = bought_inverters(design), air_of(design.site)
        branches = branches_by_inverter(
            (one.value.circuit.branch, one.value.circuit.strings) for one in circuits
        )

        def built(number: int) -> Built:
            given = design.arrays[number]
            return built_of(
                given,
                self.arrays[number].value,
                cuts.get(given.id, ()),
                circuits[number].value.circuit,
                runs[number].value,
            )

        # What is taken is the same whatever is lost of it: waste and spares compute nothing else.
        takes = self.memo.remember(
            "takes",
            (
                tuple(one.number for one in self.arrays),
                trench.number,
                _numbers(circuits),
                tuple(one.modules for one in design.arrays),
                sawing.number,
                inverters,
                (air, design.wiring, self.site.value.fence),
            ),
            lambda: all_takes(
                pack,
                tuple(built(number) for number in range(len(self.arrays))),
                trench.value,
                connected_takes(design, self.module_counts, air, branches, self.site.value.fence),
                sawing.value,
            ),
        )
        watts = sum(
            kept.value.rows.module_count * one.modules.power_w
            for kept, one in zip(self.arrays, design.arrays, strict=True)
            if not one.standing
        )
        begins = design.schedule.start_date or design.site.dig_date
        return self.memo.remember(
            "materials",
            (takes.number, pack, design.materials, watts, begins, self.first),
            lambda: stamped_stage(
                plan_materials(design.materials, takes.value, sawing.value, pack, watts, begins),
                self.first,
                own=False,
            ),
        )

    def scheduled(
        self, circuits: tuple[Kept[ArrayWiring], ...], trench: Kept[TrenchPlan]
    ) -> Kept[SchedulePlan]:
        """Every task on its day; what is built is known by its counts, and no more of it matters."""
        design, soils = self.design, soils_met(self.site.value.known_soils)
        labels = array_labels(design.arrays)
        inverters = sum(
            one.units if one.stands == "at the array" else 1 for one in design.wiring.inverters
        )
        arrays = tuple(
            array_work(one.value, labels[one.value.id], circuit.value.circuit, soils)
            for one, circuit in zip(self.arrays, circuits, strict=True)
            if not one.value.standing
        )
        way = way_work(
            trench.value,
            tuple(one.value.circuit for one in circuits),
            design.trench.method,
            inverters,
            soils,
            sum(covered.area_m2 for one in self.arrays if (covered := one.value.frame.below)),
            0.0 if self.site.value.fence is None else self.site.value.fence.length_m,
        )
        site = work_site(design.site)
        return self.memo.remember(
            "schedule",
            (site, design.schedule, arrays, way, self.first, len(self.arrays)),
            lambda: stamped_stage(
                plan_schedule(site, design.schedule, arrays, way, named=len(self.arrays) > 1),
                self.first,
                own=False,
            ),
        )

    def hauled(self, listed: Kept[MaterialsPlan], scheduled: Kept[SchedulePlan]) -> Kept[HaulingPlan]:
        """What comes when and on what, for all arrays that are built."""
        bought, comes = self.design.materials, self.design.schedule.deliveries
        arrays, plans = self.design.arrays, tuple(one.value for one in self.arrays)
        glass = glass_of(arrays, plans)
        walks = remembered_walks(self.memo, self.laid, arrays, plans, bought.modules_a_pallet)
        return self.memo.remember(
            "hauling",
            (listed.number, scheduled.number, bought, comes, glass, self.first, walks.number),
            lambda: stamped_stage(
                plan_hauling(bought, comes, listed.value.lines, scheduled.value, glass, walks.value),
                self.first,
                own=False,
            ),
        )

    def staked(self) -> Kept[StakeoutPlan]:
        """The stakes of all arrays over one benchmark: the ground at the first one's first post."""
        given = self.design.stakeout
        benchmark_m = float(self.arrays[0].value.structure.supports.ground_m[0])

        def out(kept: Kept[ArrayPlan]) -> Kept[SettingOut]:
            array = kept.value

            def made() -> SettingOut:
                found = set_out(
                    self.site.value,
                    array.rows,
                    array.structure,
                    array.footings.posts,
                    given,
                    benchmark_m,
                )
                return stamped_stage(
                    nothing_set_out(found) if array.standing else found, array.id, own=True
                )

            return self.memo.remember("set out", (kept.number, given, benchmark_m), made)

        own = tuple(out(kept) for kept in self.arrays)
        parts = tuple(one.value for one in own)
        return self.memo.remember(
            "stakeout",
            (_numbers(own),),
            lambda: StakeoutPlan(parts, answers_of(parts), checks_of(parts)),
            of_kept=True,
        )
