"""Driven posts on one line: what each feels and how deep it must go."""

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.codes.section import Section, section
from openfurrow.core.footings.axial import Shaft, bearing_depth_m, friction_depth_m, shaft_in, tip_pa
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.lateral import lateral_depth_m, moment_below_ground_n_m
from openfurrow.core.footings.layered import (
    DEEPEST_M,
    PARTS,
    lateral_share,
    moment_below_n_m,
    profile_of,
)
from openfurrow.core.footings.layout import PostLine, fits, post_line, shifted
from openfurrow.core.footings.loads import PostLoads, post_loads
from openfurrow.core.footings.places import PostPlaces, post_places
from openfurrow.core.loads.combinations import Combinations, Use, combinations
from openfurrow.core.loads.snow import Snow, snow_on
from openfurrow.core.loads.wind import WindCases, wind_cases
from openfurrow.core.quantities import INCH_M, STANDARD_GRAVITY_M_S2, UnitSystem, round_up
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.site.soil import Soil

Floats = NDArray[np.float64]
Truths = NDArray[np.bool_]
# Said of a need that no depth that is looked at meets.
BEYOND_M = DEEPEST_M + 1.0

USES: tuple[Use, Use] = ("combination", "service")

MODES = ("wind tips it", "wind lifts it", "weight presses it", "below frost", "frost lifts it")


@dataclass(frozen=True)
class TableWeight:
    """What the table weighs: one module, a metre of purlin, a metre of inclined beam, kg."""

    module_kg: float
    purlin_kg_per_m: float
    beam_kg_per_m: float


@dataclass(frozen=True)
class DepthNeeds:
    """What each way of failing asks for; index arrays point at the governing load case."""

    lateral_m: float
    uplift_m: float
    bearing_m: float
    frost_m: float
    heave_m: float
    lateral_case: int
    uplift_case: int
    bearing_case: int
    uplift_n: float
    bearing_n: float
    heave_n: float
    axial_safety: float
    movement: float
    shaft: Shaft
    tip_n_per_m2: float
    tip_area_m2: float

    @property
    def all_m(self) -> tuple[float, ...]:
        """Depths in the order of MODES."""
        return (self.lateral_m, self.uplift_m, self.bearing_m, self.frost_m, self.heave_m)

    @property
    def governing(self) -> int:
        """Index of the deepest need in MODES."""
        return int(np.argmax(self.all_m))


@dataclass(frozen=True)
class NotShifted:
    """Posts that were told to shift and cannot, counted from nought, and why."""

    posts: tuple[int, ...]
    words: str


@dataclass(frozen=True)
class Posts:
    """Posts of every table; all tables are alike, the ground under them is not.

    Columns have one entry a post: ``ground_m`` level, ``reveals_m`` ground to bolt, ``soil_of`` which
    of the site's soils governs it, ``asked_m`` the depth that carries it, ``depths_m``. ``reveal_m`` is
    the tallest, ``depth_m`` the deepest;
    ``soil`` and ``needs`` are of the soil that asks for most. ``line`` is the table whose posts stand
    worst where some are shifted; ``not_shifted`` says which shifts could not be.
    """

    post: Section
    line: PostLine
    not_shifted: NotShifted
    posts: int
    places: PostPlaces
    ground_m: Floats
    reveals_m: Floats
    soil_of: NDArray[np.int64]
    asked_m: Floats
    depths_m: Floats
    soil: Soil
    reveal_m: float
    post_top_m: float
    dead_kg_per_m2: float
    snow_pa: float
    wind: WindCases
    loads: PostLoads
    needs: DepthNeeds
    depth_m: float
    bending_n_m: float
    bending_limit_n_m: float
    snow: Snow
    strength: Combinations
    service: Combinations

    @property
    def longest_m(self) -> float:
        """Length of the longest post: into the ground, up to the bolt and past it."""
        return float((self.depths_m + self.reveals_m).max()) + self.post_top_m


def dead_kg_per_m2(weight: TableWeight, rows: RowsPlan, span_m: float) -> float:
    """Mass of modules, two purlins a module row and one beam a span, per area of the table."""
    modules = weight.module_kg * rows.modules_high * rows.modules_along
    purlins = 2 * rows.modules_high * weight.purlin_kg_per_m / rows.section.chord_m
    area = rows.section.chord_m * rows.table_length_m
    return modules / area + purlins + weight.beam_kg_per_m / span_m


def tip_area_m2(post: Section) -> float:
    """The plug's foot: the circle of a pipe, the box of an open section."""
    return math.pi / 4 * post.depth_m**2 if post.shape == "pipe" else post.depth_m * post.width_m


def shifts_of(
    givens: FootingsGivens, line: PostLine, rows: RowsPlan
) -> tuple[Floats, NotShifted]:
    """The shift of every post, and which were not possible: those posts stay."""
    count = line.count * rows.tables_along * rows.rows
    shift = np.zeros(count)
    beyond = [number for number, _ in givens.shifts if number > count]
    for number, by_m in givens.shifts:
        if number <= count:
            shift[number - 1] = by_m
    by_table = shift.reshape(-1, line.count)
    moved = np.flatnonzero(by_table.any(axis=1))
    unfit = [index for index in moved.tolist() if not fits(line, by_table[index])]
    by_table[unfit] = 0.0
    words = [f"there is no post {number}" for number in beyond]
    words += [f"table {index + 1}: posts would cross or leave the purlin" for index in unfit]
    stay = {number - 1 for number, _ in givens.shifts
            if number <= count and (number - 1) // line.count in unfit}
    return shift, NotShifted(tuple(sorted(stay)), "; ".join(words[:3]))


def worst_line(line: PostLine, shift_m: Floats) -> PostLine:
    """The table whose busiest post carries most, of all patterns of shifts; usually the even one."""
    patterns = np.unique(shift_m.reshape(-1, line.count), axis=0)
    lines = [line, *(shifted(line, by_m) for by_m in patterns if by_m.any())]
    return max(lines, key=lambda one: (float(one.tributary_m.max()), one.longest_span_m))


def depth_step_m(units: UnitSystem) -> float:
    """Depths are called out in whole inches, or in 25 mm."""
    return INCH_M if units == "us" else 0.025


@dataclass(frozen=True)
class Sized:
    """Posts by the soil they stand in: what each is asked for and how deep it goes, one entry a post.

    ``soil`` and ``needs`` are of the soil that asks for most.
    """

    soil: Soil
    needs: DepthNeeds
    asked_m: Floats
    depths_m: Floats


def _sized(
    site: SitePlan, soil_of: NDArray[np.int64], size: Callable[[Soil], tuple[DepthNeeds, float]]
) -> Sized:
    """Each soil sized once and scattered back to its posts."""
    by_soil = {index: size(site.soils[index]) for index in np.unique(soil_of).tolist()}
    asked, depth = np.zeros(len(site.soils)), np.zeros(len(site.soils))
    for index, (needs, depth_m) in by_soil.items():
        asked[index], depth[index] = max(needs.all_m), depth_m
    governing = max(by_soil, key=lambda index: float(asked[index]))
    return Sized(site.soils[governing], by_soil[governing][0], asked[soil_of], depth[soil_of])


def place_posts(
    site_givens: SiteGivens,
    site: SitePlan,
    rows: RowsPlan,
    givens: FootingsGivens,
    weight: TableWeight,
    purlin_end_m: float,
) -> Posts:
    """Place the posts of a table and find the depth that carries every load."""
    post = section(givens.post_section)
    line = post_line(
        rows.table_length_m + 2 * purlin_end_m, givens.span_limit_m, givens.cantilever_ratio
    )
    table = rows.section
    shift, not_shifted = shifts_of(givens, line, rows)
    places = post_places(rows, line, purlin_end_m, shift)
    line = worst_line(line, shift)
    ground = site.ground.level_m(places.east_m, places.north_m)
    reveals = rows.lie.edge_at(places.of_table, places.along_m) + table.bolt_z_m - ground
    reveal = float(reveals.max())
    uneven = max(0.0, reveal - table.reveal_m)
    wind = wind_cases(site_givens, table.tilt_deg, table.lower_edge_m + table.rise_m / 2 + uneven)
    snow = snow_on(site_givens, table)
    snow_pa = float(snow.working.value)
    dead = dead_kg_per_m2(weight, rows, line.span_m)
    strength, service = (
        combinations(site.rule_pack, site_givens.elevation_m, use) for use in USES)
    tributary = float(line.tributary_m.max())
    loads = post_loads(table, reveal, tributary, dead, snow_pa, wind, strength)
    # Frost lifts the lightest post first.
    lightest = float(line.tributary_m.min())
    carried_n = dead * lightest * table.chord_m * STANDARD_GRAVITY_M_S2
    step = depth_step_m(site.display_units)
    soil_of = site.soil_at(places.east_m, places.north_m)
    sized = _sized(site, soil_of, lambda soil: depth_in_soil(
        site, soil, givens, post, loads, carried_n, step))
    below = np.max([
        moment_in_soil_n_m(site.soils[index], loads, post.width_m, step)
        for index in np.unique(soil_of).tolist()
    ], axis=0)
    resistance = constant(site.rule_pack, "bending_resistance_factor").value
    return Posts(
        post=post,
        line=line,
        not_shifted=not_shifted,
        posts=line.count * rows.tables_along * rows.rows,
        places=places,
        ground_m=ground,
        reveals_m=reveals,
        soil_of=soil_of,
        asked_m=sized.asked_m,
        depths_m=sized.depths_m,
        soil=sized.soil,
        reveal_m=reveal,
        post_top_m=givens.post_top_m,
        dead_kg_per_m2=dead,
        snow_pa=snow_pa,
        wind=wind,
        loads=loads,
        needs=sized.needs,
        depth_m=float(sized.depths_m.max()),
        bending_n_m=float(below.max()),
        bending_limit_n_m=post.yield_pa * post.modulus_m3 / resistance,
        snow=snow,
        strength=strength,
        service=service,
    )


def moment_in_soil_n_m(soil: Soil, loads: PostLoads, width_m: float, step_m: float) -> Floats:
    """Largest bending in the post for each load, by the closed formula where the soil is even."""
    if soil.even:
        return moment_below_ground_n_m(loads.horizontal_n, loads.moment_n_m, soil, width_m)
    profile = profile_of("us", soil, width_m, 0.0, 0.0, 1.0, step_m)
    return moment_below_n_m(profile, loads.horizontal_n, loads.moment_n_m)


def depth_in_soil(
    site: SitePlan, soil: Soil, givens: FootingsGivens, post: Section, loads: PostLoads,
    dead_n: float, step_m: float,
) -> tuple[DepthNeeds, float]:
    """What is asked for in one soil, and the depth: held by the planner, or the least that carries.

    ``dead_n`` is the unfactored weight on the lightest post.
    """
    needs = depth_needs(site, soil, givens, post, loads, dead_n)
    if soil.even:
        return needs, givens.depth_m if givens.depth_m is not None else round_up(
            max(needs.all_m), step_m)
    return _scanned(site, soil, givens, post, loads, needs, step_m)


def _scanned(
    site: SitePlan, soil: Soil, givens: FootingsGivens, post: Section, loads: PostLoads,
    needs: DepthNeeds, step_m: float,
) -> tuple[DepthNeeds, float]:
    """The same in layers: every depth that can be called out is looked at for every way of failing.

    A need is the least depth that holds where the depth itself holds, else the next one that does.
    """
    profile = profile_of(site.rule_pack, soil, post.width_m, post.perimeter_m, needs.shaft.start_m,
                         needs.movement, step_m)
    lateral = lateral_share(site.rule_pack, profile, post.width_m, loads.horizontal_n, loads.moment_n_m)
    tip_n = profile.tip_pa * needs.tip_area_m2
    holds: list[Truths] = [
        lateral >= 1.0,
        profile.friction_n >= needs.uplift_n * needs.axial_safety,
        profile.friction_n + tip_n >= needs.bearing_n * needs.axial_safety,
        profile.depth_m >= site.frost_depth_m - 1e-9,
        profile.friction_n >= needs.heave_n,
    ]
    depth = givens.depth_m
    if depth is None:
        fits = np.flatnonzero(np.all(holds, axis=0)[::PARTS])
        depth = float(profile.depth_m[::PARTS][fits[0]]) if len(fits) else DEEPEST_M
    # A depth that is held between two that were looked at counts as the shallower.
    at = int(np.searchsorted(profile.depth_m, depth + 1e-9, side="right")) - 1
    asked = [_need(profile.depth_m, holding, at) for holding in holds]
    strained = min(int(np.searchsorted(profile.depth_m, asked[2])), len(tip_n) - 1)
    return replace(
        needs, lateral_m=asked[0], uplift_m=asked[1], bearing_m=asked[2], frost_m=asked[3],
        heave_m=asked[4], tip_n_per_m2=float(profile.tip_pa[strained]),
        lateral_case=int(np.argmax(np.abs(loads.moment_n_m) + np.abs(loads.horizontal_n) * depth)),
    ), depth


def _need(depth_m: Floats, holds: Truths, at: int) -> float:
    """The least depth that holds, if the one that is chosen does; else the next deeper that does."""
    from_here = np.flatnonzero(holds)
    if not holds[at]:
        from_here = from_here[from_here > at]
    return float(depth_m[from_here[0]]) if len(from_here) else BEYOND_M


def depth_needs(
    site: SitePlan, soil: Soil, givens: FootingsGivens, post: Section, loads: PostLoads, dead_n: float
) -> DepthNeeds:
    """The five depths in one even soil. ``dead_n`` is the unfactored weight on the lightest post."""
    pack = site.rule_pack
    movement = (
        constant("us", "movement_factor").value
        if pack == "us" and givens.half_inch_moves
        else 1.0
    )
    lateral = lateral_depth_m(
        pack, loads.horizontal_n, loads.moment_n_m, soil, post.width_m, movement
    )
    which = "axial_safety_tested" if givens.pull_tested else "axial_safety_untested"
    safety = constant(pack, which).value
    start = max(constant("common", "no_credit_m").value, site.frost_depth_m)
    shaft = shaft_in(soil, post.perimeter_m, start)
    up, down = int(loads.vertical_n.argmin()), int(loads.vertical_n.argmax())
    uplift = max(0.0, -float(loads.vertical_n[up]))
    bearing = max(0.0, float(loads.vertical_n[down]))
    heave = max(0.0, soil.adfreeze_pa * post.perimeter_m * soil.frost_grip_m - dead_n)
    tip = tip_area_m2(post)
    bearing_depth = bearing_depth_m(shaft, soil, tip, bearing * safety)
    return DepthNeeds(
        lateral_m=float(lateral.max()),
        uplift_m=friction_depth_m(shaft, uplift * safety),
        bearing_m=bearing_depth,
        frost_m=site.frost_depth_m,
        heave_m=friction_depth_m(shaft, heave),
        lateral_case=int(lateral.argmax()),
        uplift_case=up,
        bearing_case=down,
        uplift_n=uplift,
        bearing_n=bearing,
        heave_n=heave,
        axial_safety=safety,
        movement=movement,
        shaft=shaft,
        tip_n_per_m2=tip_pa(soil, max(bearing_depth, start)),
        tip_area_m2=tip,
    )
