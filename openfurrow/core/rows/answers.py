"""The answers of the rows stage with their workings."""

import math
from dataclasses import replace

from openfurrow.core.codes import constant
from openfurrow.core.quantities import UnitSystem, round_up, spoken, tape_step_m
from openfurrow.core.rows.array import SHADOW_FIGURE, RowsPlan
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.rows.givens import RowsGivens
from openfurrow.core.rows.positions import Position
from openfurrow.core.rows.travel import Travel
from openfurrow.core.working import GEOMETRY, GIVEN, Answer, Input, Working


def _pitch_working(
    plan: RowsPlan, section: TableSection, givens: RowsGivens, units: UnitSystem
) -> Working:
    """``section`` is the table at the tilt that asks for most."""
    if plan.travel is not None and givens.pitch_m is None:
        return _room_working(plan, units)
    walked_m = plan.positions[0].section.level_depth_m + constant("common", "walk_between_m").value
    inputs = (
        Input("c", "chord of the table", section.chord_m, "tape"),
        Input("b", "tilt", section.tilt_deg, "angle"),
        Input("p", "lowest profile angle of the sun in the window", plan.profile_deg, "angle"),
        Input("g", "ground, rising to the back", math.degrees(math.atan(section.rise_back)), "angle"),
        Input("w", "table and room to walk", walked_m, "run"),
        Input("step", "finest mark on the tape", tape_step_m(units), "thickness"),
    )
    if givens.pitch_m is not None or not math.isfinite(plan.least_pitch_m):
        asks = _asks(plan)
        note = (
            f"Held by the planner; {asks} {spoken(plan.least_pitch_m, 'run')}."
            if givens.pitch_m is not None
            else "The ground falls away from the sun faster than the light: no pitch is free of shade."
        )
        return Working("P", "", inputs, plan.pitch_m, "run", GIVEN, note)
    free = max(plan.least_pitch_m, walked_m)
    if plan.pitch_m > round_up(free, tape_step_m(units)) + 1e-9:
        return Working(
            "P",
            "",
            inputs,
            plan.pitch_m,
            "run",
            SHADOW_FIGURE,
            "Opened beyond the even slope's pitch until no row on this ground stands in the next "
            "one's light.",
        )
    return Working(
        "P",
        "ceil(max(c * sin(b + p) / sin(p + g) * cos(g), w) / step) * step",
        inputs,
        plan.pitch_m,
        "run",
        SHADOW_FIGURE,
        "The shadow of the upper edge just misses the next lower edge at the worst hour of the "
        "winter window"
        + (
            ", and there is room to walk"
            if plan.pitch_m > plan.least_pitch_m + tape_step_m(units)
            else ""
        )
        + ". Level distance, post to post."
        + (" One row alone: where a second would stand." if plan.rows == 1 else ""),
    )


def _asks(plan: RowsPlan) -> str:
    """What the least pitch comes from."""
    if plan.travel is None:
        return "the window asks for"
    return "rows on tubes usually have" if plan.travel.rolls else "two movers sweep"


def _tubes_working(plan: RowsPlan, travel: Travel, units: UnitSystem) -> Working:
    return Working(
        "P",
        "ceil(max(c / k, 2 * W + w) / step) * step",
        (
            Input("c", "glass across", plan.section.chord_m, "tape"),
            Input("k", "of the ground that it covers", constant("common", "tube_cover").value, "ratio"),
            Input("W", "reaches, to either side of its tube", travel.reach_m(plan.section), "tape"),
            Input("w", "room to walk", constant("common", "walk_between_m").value, "tape"),
            Input("step", "finest mark on the tape", tape_step_m(units), "thickness"),
        ),
        plan.pitch_m,
        "run",
        constant("common", "tube_cover").source,
        "Level distance, tube to tube. Nearer, they stand turned back from each other half of the day: "
        "what that costs stands under Pitch.",
    )


def _room_working(plan: RowsPlan, units: UnitSystem) -> Working:
    """Movers stand apart by what both sweep, and room to walk; tubes by the ground that they cover."""
    if plan.travel is not None and plan.travel.rolls:
        return _tubes_working(plan, plan.travel, units)
    return Working(
        "P",
        "ceil((2 * R + w) / step) * step",
        (
            Input("R", "what a mover sweeps about its pole", plan.least_pitch_m / 2, "run"),
            Input("w", "room to walk", constant("common", "walk_between_m").value, "tape"),
            Input("step", "finest mark on the tape", tape_step_m(units), "thickness"),
        ),
        plan.pitch_m,
        "run",
        GEOMETRY,
        "Level distance, pole to pole, from row to row: turned anyhow, no two meet. What they shade "
        "each other stands with the checks, and in the year's energy.",
    )


def rows_answers(
    plan: RowsPlan, governing: TableSection, givens: RowsGivens, units: UnitSystem
) -> tuple[Answer, ...]:
    """Pitch, heights, sizes and counts, each with its working; ``governing`` asks for the pitch."""
    section = plan.section
    tilt = Input("b", "tilt", section.tilt_deg, "angle")
    chord = Input("c", "chord of the table", section.chord_m, "tape")
    lower = Input("h", "lower edge", section.lower_edge_m, "tape")
    back = Input("g", "rise of the ground to the back", section.rise_back, "ratio")
    number = Input("n", "modules up the slope", float(givens.modules_high), "count")
    return (
        Answer(
            "rows", "pitch", "Row pitch, level", _pitch_working(plan, governing, givens, units), True
        ),
        Answer(
            "rows",
            "upper_edge",
            "Upper edge above ground",
            _upper_edge(plan, (lower, chord, tilt, back)),
            True,
        ),
        Answer(
            "rows",
            "clearance",
            "Most clearance below the lower edge",
            Working(
                "h_most",
                "",
                (lower,),
                float(plan.lie.clear_m.max()),
                "tape",
                GEOMETRY,
                "A table is straight and the ground is not: the lower edge is set where the ground "
                "stands highest below it.",
            ),
        ),
        Answer(
            "rows",
            "chord",
            "Table, lower to upper edge",
            Working(
                "c",
                "n * L + (n - 1) * s",
                (
                    number,
                    Input("L", "module up the slope", plan.module_up_m, "tape"),
                    Input("s", "gap between module rows", plan.gap_up_m, "thickness"),
                ),
                section.chord_m,
                "tape",
                GEOMETRY,
            ),
        ),
        Answer(
            "rows",
            "table_length",
            "Table along the row",
            Working(
                "L_t",
                "n * W + (n - 1) * s",
                (
                    Input("n", "modules along", float(plan.modules_along), "count"),
                    Input("W", "module along the row", plan.module_along_m, "tape"),
                    Input("s", "gap along the row", plan.gap_along_m, "thickness"),
                ),
                plan.table_length_m,
                "run",
                GEOMETRY,
            ),
        ),
        Answer(
            "rows",
            "footprint",
            "Footprint depth, level",
            Working(
                "D",
                "(r - 1) * P + c * cos(b)",
                (
                    Input("r", "rows", float(plan.rows), "count"),
                    Input("P", "pitch", plan.pitch_m, "run"),
                    chord,
                    replace(tilt, value=plan.positions[0].tilt_deg),
                ),
                plan.footprint_depth_m,
                "run",
                GEOMETRY,
            ),
        ),
        Answer(
            "rows",
            "modules",
            "Modules",
            Working(
                "N",
                "n * m * t * r" if plan.alike else "",
                (
                    number,
                    Input("m", "modules along a table", float(plan.modules_along), "count"),
                    Input("t", "tables in a row", float(plan.tables_along), "count"),
                    Input("r", "rows", float(plan.rows), "count"),
                ),
                float(plan.module_count),
                "count",
                GEOMETRY,
                "" if plan.alike else f"Those of the pattern, and {plan.stands.words}.",
            ),
        ),
        *_positions_answer(plan),
    )


def _positions_answer(plan: RowsPlan) -> tuple[Answer, ...]:
    """How high the edges stand at each tilt."""
    if not plan.moves or plan.travel is not None:
        return ()

    def edges(one: Position) -> str:
        low, high = float(one.lie.clear_m[:, 0].min()), float(one.lie.upper_m.max())
        return f"lower edge {spoken(low, 'tape')}, upper {spoken(high, 'tape')}"

    return (
        Answer(
            "rows",
            "positions",
            "Set through the year to",
            Working(
                "",
                "",
                tuple(Input("", one.words, edges(one), "text") for one in plan.positions),
                ", ".join(f"{one.tilt_deg:g}°" for one in plan.positions),
                "text",
                GEOMETRY,
                "Turned about the post's bolt, which stays where the steepest has its lower edge as "
                "said. Pitch, room, height and loads are those of the worst. Turn tables in calm, two "
                "to a table: on its bolts alone the glass swings.",
            ),
        ),
    )


def _upper_edge(plan: RowsPlan, inputs: tuple[Input, ...]) -> Working:
    """By the formula on an even slope; on other ground the highest of all tables."""
    highest = float(plan.lie.upper_m.max())
    even = math.isclose(highest, plan.section.upper_edge_m, abs_tol=1e-9)
    return Working(
        "h_top",
        "h + c * sin(b) - g * c * cos(b)" if even else "",
        inputs,
        highest,
        "tape",
        GEOMETRY,
        "Straight down to the ground below the upper edge."
        if even
        else "The highest along all upper edges, straight down to the ground below.",
    )
