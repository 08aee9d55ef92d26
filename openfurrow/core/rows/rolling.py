"""Rows on lying tubes: how far they reach, when they turn back from shade, which way they lie."""

import math

import numpy as np

from openfurrow.core.checks import Check, holds, within
from openfurrow.core.codes import constant
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.rows.lie import Lie
from openfurrow.core.rows.travel import Travel
from openfurrow.core.working import GEOMETRY, Answer, Input, Working

STANDS_CLEAR = "Nobody and nothing stands within while it can move; it starts without a warning."


def reach_answer(section: TableSection, travel: Travel) -> Answer:
    """How far glass comes to either side of its tube."""
    tilts = np.linspace(*travel.limits_deg, 61)
    turns = np.radians(tilts)
    over = section.chord_m / 2 * np.cos(turns) + section.stack_m * np.sin(turns)
    return Answer(
        "rows",
        "swept",
        "Reaches, to either side of its tube",
        Working(
            "W",
            "c / 2 * cos(t) + s * sin(t)",
            (
                Input("c", "glass across", section.chord_m, "tape"),
                Input("s", "tube to glass", section.stack_m, "tape"),
                Input("t", "turned so far then", float(tilts[int(over.argmax())]), "angle"),
            ),
            travel.reach_m(section),
            "tape",
            GEOMETRY,
            STANDS_CLEAR,
        ),
        True,
    )


def turned_back_answers(travel: Travel) -> tuple[Answer, ...]:
    """The turn past which rows on level ground would shade each other, where it comes to that."""
    past, beside = travel.turns_back_past_deg(), travel.beside
    if past is None or beside is None or not travel.turns_back:
        return ()
    return (
        Answer(
            "rows",
            "turns_back",
            "Turns back from shade past",
            Working(
                "a",
                "arccos(c / p)",
                (
                    Input("c", "glass across", beside.chord_m, "tape"),
                    Input("p", "from tube to tube", beside.apart_m, "run"),
                ),
                past,
                "angle",
                GEOMETRY,
                "Both for the controller, and what the ground rises from tube to tube: told wrong, it "
                "shades its neighbours morning and evening. The year's energy counts it.",
            ),
        ),
    )


def rolling_checks(lie: Lie) -> list[Check]:
    """Whether all tubes run with their rows, and from north to south."""
    tables = lie.tables
    turned = int((np.abs(tables.turn_deg) > 1e-6).sum())
    facing = tables.setting.facing_deg
    # East and west alike: how far off either it faces.
    off = abs(math.degrees(math.asin(math.cos(math.radians(facing)))))
    return [
        holds(
            "rows",
            "tube_straight",
            "Every tube runs with its row",
            not turned,
            f"{turned} turned out of their rows" if turned else "all do",
            "none turned",
            remedy="Take the turn off those tables, or give them an array of their own that faces so: "
            "shade and energy here are of tubes side by side.",
            source=GEOMETRY,
            given="rows.tables",
        ),
        within(
            "rows",
            "tube_way",
            "Tubes lie from north to south",
            off,
            constant("common", "tube_off_north"),
            "angle",
            most=True,
            remedy="Turn the rows less: the nearer a tube lies to east and west, the more of morning "
            "and evening it loses.",
            given="rows.turn_deg",
            otherwise="look",
        ),
    ]
