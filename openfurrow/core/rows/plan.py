"""Rows: the table's size, the pitch that keeps the winter window free, heights and footprint."""

import math
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, Mend, at_least, at_most, mended_by, within, worst_of
from openfurrow.core.codes import constant
from openfurrow.core.lacking import said
from openfurrow.core.quantities import round_up, tape_step_m
from openfurrow.core.rows.answers import rows_answers
from openfurrow.core.rows.apart import apart_checks
from openfurrow.core.rows.array import SHADOW_FIGURE, ModuleSize, RowsPlan
from openfurrow.core.rows.geometry import (
    TableSection,
    chord_m,
    least_pitch_m,
    profile_angle_deg,
    rise_to_the_left,
    table_length_m,
)
from openfurrow.core.rows.givens import RowsGivens
from openfurrow.core.rows.lie import Lie, lay, least_under_face_m, turned
from openfurrow.core.rows.placed import Glass, placed
from openfurrow.core.rows.positions import positions_check, set_to, tilts_of
from openfurrow.core.rows.row_shade import beside_m, needed_pitch_m, opened, out_of_plane
from openfurrow.core.rows.shade import standing_of
from openfurrow.core.rows.shade_rules import shade_answers, shade_check
from openfurrow.core.rows.stands import grading_answers, level_answers, stand_checks
from openfurrow.core.rows.sweep import swept_by, travel_answers, travel_checks, window_shade
from openfurrow.core.rows.tables import Setting, tables_of
from openfurrow.core.rows.travel import Beside, Travel, swept_ground
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.sun.plan import SunPlan
from openfurrow.core.working import (
    Answer,
    Source,
)

Floats = NDArray[np.float64]

RAYS_OVER_EDGES = Source("straight rays over the tables' edges as they lie", "geometry")


def along_bearing_deg(facing_deg: float) -> float:
    """Bearing along the rows: of the two, the one with an easting (the same on both hemispheres)."""
    left = (facing_deg - 90.0) % 360.0
    return left if math.sin(math.radians(left)) >= -1e-9 else (left + 180.0) % 360.0


def plan_rows(
    site: SitePlan,
    sun: SunPlan,
    givens: RowsGivens,
    size: ModuleSize,
    stack_m: float,
    travel: Travel | None = None,
    *,
    on_posts: bool = True,
) -> RowsPlan:
    """Lay the tables out. ``stack_m`` is the depth from glass to the middle of the inclined beam.

    Tables that ``travel`` follow the sun, one to a pole: they lie level along. Those that stand not
    ``on_posts`` lie as low as what is under them is high.
    """
    if travel is not None:
        givens = givens.model_copy(update={"follow_ground": False})
        travel = travel.held_at(givens.tilt_deg)
    modules_along = said("rows.modules_along", givens.modules_along)
    upright = givens.orientation == "portrait"
    up_m, along_m = (size.length_m, size.width_m) if upright else (size.width_m, size.length_m)
    chord = chord_m(givens.modules_high, up_m, size.gap_up_m)
    length = table_length_m(modules_along, along_m, size.gap_along_m)
    row_length = givens.tables_along * length + (givens.tables_along - 1) * givens.table_gap_m
    facing = sun.facing_deg
    along = along_bearing_deg(facing)
    setting = Setting(givens.at_east_m, givens.at_north_m, along, facing)
    tilts = tilts_of(givens, travel, site.rule_pack)
    # Set flattest the tables reach furthest out; the lower edge is said of the steepest.
    level_depth = chord * math.cos(math.radians(tilts[0]))
    step = tape_step_m(site.display_units)
    pitch = givens.pitch_m if givens.pitch_m is not None else 2 * level_depth
    # The pitch asks for the fall of the ground under the array, whose depth the pitch makes.
    for _ in range(1 if site.known.surface is None else 3):
        local = setting.plane_of(site.ground, row_length, -level_depth / 2, (givens.rows - 0.5) * pitch)
        section = TableSection(
            chord_m=chord,
            tilt_deg=tilts[-1],
            lower_edge_m=givens.lower_edge_m,
            stack_m=stack_m,
            rise_back=local.rise_toward(facing + 180.0),
        )
        ground_rise = local.rise_toward(along)
        rise = ground_rise if givens.follow_ground else 0.0
        profile = profile_angle_deg(
            sun.window_altitude_deg,
            sun.window_azimuth_deg,
            facing,
            rise_to_the_left(rise, along, facing),
        )
        sections = (*(section.turned(tilt) for tilt in tilts[:-1]), section)
        needed = np.array([least_pitch_m(one, profile) for one in sections])
        governing, worst = np.unravel_index(int(np.argmax(needed)), needed.shape)
        least = float(needed[governing, worst])
        deep = level_depth
        if travel is not None:
            # Movers are kept out of each other's way; their shade is told and counted.
            least = deep = 2 * (
                travel.reach_m(section) if travel.rolls else float(travel.swept_m(section, length))
            )
            if travel.rolls:
                # Nearer, and they stand turned back from each other half of the day.
                least = max(least, chord / constant("common", "tube_cover").value)
        # Rows without room to walk between are nobody's choice.
        walked = max(least, deep + constant("common", "walk_between_m").value)
        auto = round_up(walked, step) if math.isfinite(least) else 3 * level_depth
        pitch = givens.pitch_m if givens.pitch_m is not None else auto

    def laid(pitch_m: float) -> Lie:
        return lay(
            site.ground,
            tables_of(
                setting,
                section,
                length,
                modules_along,
                givens.table_gap_m,
                givens.tables_along,
                givens.rows,
                pitch_m,
            ),
            givens.follow_ground,
            length,
        )

    def governed(pitch_m: float) -> Lie:
        """Set to the tilt that asks for most."""
        return turned(site.ground, laid(pitch_m), sections[governing])

    if travel is not None and travel.rolls and givens.rows > 1:
        travel = replace(travel, beside=Beside(chord, pitch, local.rise_toward(facing) * pitch))
    even = laid(pitch)
    free = givens.pitch_m is None and math.isfinite(least) and travel is None
    if free and out_of_plane(even, rough=site.known.surface is not None):
        pitch, _ = opened(governed, pitch, (sun.window_altitude_deg, sun.window_azimuth_deg), step)
        even = laid(pitch)
    # The pitch is the pattern's: a table that differs moves no other row.
    stands = placed(site.ground, even, givens, Glass(along_m, size.gap_along_m))
    positions = set_to(site.ground, even, stands, sections, givens, by_days=travel is None)
    as_put_up = positions[tilts.index(givens.tilt_deg)]
    plan = RowsPlan(
        setting=setting,
        local=local,
        even=as_put_up.even,
        stands=replace(stands, lie=as_put_up.lie),
        positions=positions,
        section=as_put_up.section,
        facing_deg=facing,
        along_deg=along,
        ground_rise_along=ground_rise,
        rise_along=rise,
        module_up_m=up_m,
        module_along_m=along_m,
        gap_up_m=size.gap_up_m,
        clamps_in_m=size.clamps_in_m,
        gap_along_m=size.gap_along_m,
        table_length_m=length,
        row_length_m=row_length,
        tables_along=givens.tables_along,
        table_gap_m=givens.table_gap_m,
        rows=givens.rows,
        modules_high=givens.modules_high,
        modules_along=modules_along,
        pitch_m=pitch,
        least_pitch_m=least,
        profile_deg=float(profile[worst]),
        answers=(),
        checks=(),
        travel=travel,
    )
    standing = standing_of(site.keepouts, site.ground)

    def checks_at(one: RowsPlan) -> tuple[Check, ...]:
        return (
            *_checks(one, givens),
            *((_reveal_check(one),) if on_posts else ()),
            *_ground_checks(one, site, sun),
            *apart_checks(one, givens, sun),
            *(stand_checks(site, one.stands) if travel is None else ()),
            *shade_check(standing, one.lie, sun),
        )

    told: tuple[tuple[Answer, ...], tuple[Check, ...]] = (), positions_check(givens)
    if travel is not None:
        swept = swept_by(site.ground, positions[-1].lie, travel)
        shade = window_shade(positions[-1].lie, travel, sun, facing)
        told = (
            travel_answers(swept, positions[-1].lie, travel),
            (
                *travel_checks(swept, plan.lie, travel, givens, site, shade),
                *stand_checks(site, plan.stands, swept_ground(plan.lie, travel)),
            ),
        )

    return replace(
        plan,
        answers=(
            *rows_answers(plan, sections[governing], givens, site.display_units),
            *level_answers(site, plan.lie),
            *(grading_answers(site.ground, plan.lie) if site.known.surface is not None else ()),
            *shade_answers(standing, plan.lie, sun),
            *told[0],
        ),
        checks=(
            *worst_of([(f"at {one.tilt_deg:g}°", checks_at(plan.at(one))) for one in positions]),
            *told[1],
            *site.note_checks.get("rows", ()),
        ),
    )


def _ground_checks(plan: RowsPlan, site: SitePlan, sun: SunPlan) -> tuple[Check, ...]:
    """What only the ground itself can say: shade on uneven ground, the height that is allowed."""
    found = []
    window = sun.window_altitude_deg, sun.window_azimuth_deg
    as_even = plan.stands.as_even
    rough = site.known.surface is not None
    # Movers look with the sun: rays over rows that lie along say nothing of them.
    if plan.travel is None and out_of_plane(plan.even, rough=rough):
        found.append(
            at_least(
                "rows",
                "shade_ground",
                "No table stands in the shade of one that lies higher",
                plan.pitch_m,
                max(0.0, needed_pitch_m(plan.even, *window, as_even)),
                "run",
                remedy="Open the pitch, follow the ground, or level the row that stands high.",
                source=RAYS_OVER_EDGES,
                given="rows.pitch_m",
                otherwise="look",
            )
        )
    beside = beside_m(plan.even, *window, as_even) if plan.travel is None else -math.inf
    if math.isfinite(beside):
        found.append(
            at_most(
                "rows",
                "shade_beside",
                "No table shades its neighbour in the row",
                max(0.0, beside),
                0.0,
                "tape",
                remedy="Follow the ground, leave a wider gap, or break the step into smaller ones.",
                source=RAYS_OVER_EDGES,
                given="rows.table_gap_m",
                otherwise="look",
            )
        )
    steel_m = plan.section.stack_m / math.cos(math.radians(plan.section.tilt_deg))
    found.append(
        within(
            "rows",
            "face",
            "Glass and the steel below it stay out of the ground all over",
            least_under_face_m(site.ground, plan.lie) - steel_m,
            constant("common", "steel_clear_m"),
            "tape",
            most=False,
            remedy="The ground rises under the table: a higher lower edge, "
            "shorter tables, or grade it.",
            given="rows.lower_edge_m",
        )
    )
    if site.limits.height_m is not None:
        found.append(
            at_most(
                "rows",
                "height_limit",
                "Upper edge stays under the height limit",
                float(plan.lie.upper_m.max()),
                site.limits.height_m,
                "tape",
                remedy="Lower tilt, fewer modules high, or a lower edge nearer the ground.",
                source=site.limits.height_source,
                given="rows.tilt_deg",
            )
        )
    if site.known.surface is not None:
        found.append(
            within(
                "rows",
                "uneven",
                "Clearance is even along the lower edge",
                float(np.ptp(plan.lie.clear_m, axis=1).max()),
                constant("common", "level_table_m"),
                "tape",
                most=True,
                remedy="The ground bends under a table: shorter tables, or grade it.",
                given="rows.modules_along",
                otherwise="look",
            )
        )
    return tuple(found)


def _reveal_check(plan: RowsPlan) -> Check:
    """Whether steel shows above the ground, for the beam and its bolt."""
    return within(
        "rows",
        "reveal",
        "The post stands out of the ground",
        plan.section.reveal_m,
        constant("common", "least_reveal_m"),
        "tape",
        most=False,
        remedy="Raise the lower edge: the ground climbs to the back faster than the beam.",
        given="rows.lower_edge_m",
    )


def _checks(plan: RowsPlan, givens: RowsGivens) -> tuple[Check, ...]:
    section = plan.section
    said_m = givens.lower_edge_m
    along = abs(plan.ground_rise_along) * float(plan.tables.lengths_m.max())
    own = (
        ()
        if givens.pitch_m is None
        else (Mend("Leave the pitch to the plan", (("rows.pitch_m", ""),)),)
    )
    between = (
        ()
        if plan.rows == 1 or plan.travel is not None
        else (
            mended_by(
                at_least(
                    "rows",
                    "shade",
                    "No row shades the next in the winter window",
                    plan.pitch_m,
                    plan.least_pitch_m,
                    "run",
                    remedy="Open the pitch, lower the tilt or narrow the window; some accept winter "
                    "shade and keep more rows.",
                    source=SHADOW_FIGURE,
                    given="rows.pitch_m",
                    otherwise="look",
                ),
                *own,
            ),
            mended_by(
                within(
                    "rows",
                    "overlap",
                    "Rows do not overlap",
                    plan.pitch_m - section.level_depth_m,
                    constant("common", "walk_between_m"),
                    "tape",
                    most=False,
                    remedy="Leave 0.6 m (2 ft) at least to walk and work between rows.",
                    given="rows.pitch_m",
                ),
                *own,
            ),
        )
    )
    checks = [
        *between,
        within(
            "rows",
            "grass",
            "Grass, snow and tools fit under the lower edge",
            # Set to another tilt the edge lies over other ground, which nobody lifted it from.
            min(section.lower_edge_m, float(plan.lie.clear_m.min())) if plan.moves else said_m,
            constant("common", "lower_edge_m"),
            "tape",
            most=False,
            remedy="Raise the lower edge; about a metre lets a mower pass.",
            given="rows.lower_edge_m",
            otherwise="look",
        ),
    ]
    if not givens.follow_ground:
        checks.append(
            within(
                "rows",
                "level_row",
                "A level table stays near the ground",
                along,
                constant("common", "level_table_m"),
                "tape",
                most=True,
                remedy="The far end stands high: follow the ground, or break the row into tables.",
                given="rows.follow_ground",
                otherwise="look",
            )
        )
    return tuple(checks)
