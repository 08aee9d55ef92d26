"""Modules: clamps, edges along the purlin, bonding, and what the glass and clamps must hold."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, at_most, holds, within
from openfurrow.core.codes import constant
from openfurrow.core.frame.plan import FramePlan
from openfurrow.core.modules.bonding import Bonding, bonding_check, bonding_of
from openfurrow.core.modules.components import OnPiece, on_piece
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.modules.gripped import grip_answer, grip_checks
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Source, Working


@dataclass(frozen=True)
class ModulesPlan:
    """Counts for the whole array; ``edges_m`` are the left edges of the modules of the
    longest table; those of the others are the first of them.

    ``press_pa`` and ``lift_pa`` are the worst loads square to the glass, ``clamp_pull_n`` what a mid
    clamp then holds: a quarter of each of two neighbours. ``on_rails``: modules are clamped to rails up
    the slope, two under each column, not to purlins along the row.
    """

    modules: int
    end_clamps: int
    mid_clamps: int
    bonding_straps: int
    edges_m: NDArray[np.float64]
    press_pa: float
    lift_pa: float
    clamp_pull_n: float
    on_rails: bool
    bonding: Bonding
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]


def plan_modules(
    site: SitePlan,
    rows: RowsPlan,
    structure: StructurePlan,
    frame: FramePlan,
    givens: ModulesGivens,
) -> ModulesPlan:
    """Four clamps a module, mid clamps shared; the path from every module to the rods.

    Of all tilts that the tables are set to the worst counts. Modules lie on purlins, or on rails.
    """
    loads_at, on_rails = structure.loads_at, structure.members.stock.under_rails
    # Modules that share clamps: those of a row of a table, or those of a column.
    lines = int(rows.tables.columns.sum()) if on_rails else rows.modules_high * rows.tables.count
    ends, mids = 4 * lines, 2 * (rows.module_count - lines)
    bonding = bonding_of(rows, structure, frame, givens)
    # One sequence of marks serves them all; it runs on to the end of the longest.
    longest = int(rows.tables.columns.max())
    edges = np.asarray(givens.purlin_end_m + np.arange(longest) * rows.column_step_m, dtype=float)
    area = givens.length_m * givens.width_m
    set_to = [(rows.at(one), loads) for one, loads in zip(rows.positions, loads_at, strict=True)]
    glass = [on_piece(site.rule_pack, one, loads, area) for one, loads in set_to]
    pressed = max(glass, key=lambda one: one.press_pa)
    lifted = max(glass, key=lambda one: one.lift_pa)
    # A mid clamp holds a quarter of each of two neighbours: a smaller piece, which may take more.
    clamp = max(
        (on_piece(site.rule_pack, one, loads, area / 2) for one, loads in set_to),
        key=lambda one: one.lift_pa,
    )
    side = rows.module_along_m if on_rails else rows.module_up_m
    plan = ModulesPlan(
        rows.module_count,
        ends,
        mids,
        bonding.straps,
        edges,
        pressed.press_pa,
        lifted.lift_pa,
        clamp.lift_pa * area / 2,
        on_rails,
        bonding,
        (),
        (),
    )
    return replace(
        plan,
        answers=(
            *_answers(plan, rows, givens, (pressed, lifted), clamp),
            grip_answer(rows, side),
        ),
        # Clamps on rails grip the sides that lie along the row.
        checks=(
            *_checks(plan, givens, pressed.source, across=rows.across != on_rails),
            *grip_checks(givens, side, rows),
            bonding_check(bonding, plan.modules),
        ),
    )


def _answers(
    plan: ModulesPlan,
    rows: RowsPlan,
    givens: ModulesGivens,
    glass: tuple[OnPiece, OnPiece],
    clamp: OnPiece,
) -> tuple[Answer, ...]:
    """``glass`` where it is pressed most and where it is lifted most."""
    pressed, lifted = glass

    def zone(one: OnPiece) -> str:
        return (
            f"At a corner of a table, zone {one.zone} for a piece as large as a module: more than "
            "the frame as a whole feels. Held against the data sheet's design load."
        )

    edges = plan.edges_m
    lines = rows.module_count - plan.mid_clamps // 2
    high = (
        Input("k", "columns of modules", float(lines), "count")
        if plan.on_rails
        else Input("m", "modules up the slope", float(rows.modules_high), "count")
    )
    counted = "k" if plan.on_rails else "m * t"
    held = (high,) if plan.on_rails else (high, Input("t", "tables", float(rows.tables.count), "count"))
    every = Input("N", "modules", float(plan.modules), "count")
    middle = edges.size // 2
    return (
        Answer(
            "modules",
            "first_edge",
            "First module starts at",
            Working(
                "x_1",
                "",
                (Input("e", "purlin or pipe beyond the module", givens.purlin_end_m, "tape"),),
                float(edges[0]),
                "tape",
                GEOMETRY,
                "From the pipe's end." if plan.on_rails else "From the purlin's end.",
            ),
            True,
        ),
        Answer(
            "modules",
            "step",
            "Each next edge after",
            Working(
                "dx",
                "W + g",
                (
                    Input("W", "module along the row", rows.module_along_m, "tape"),
                    Input("g", "gap", givens.gap_along_m, "thickness"),
                ),
                rows.module_along_m + givens.gap_along_m,
                "tape",
                GEOMETRY,
            ),
            True,
        ),
        Answer(
            "modules",
            "middle_edge",
            f"Edge {middle + 1}, to catch drift",
            Working(
                f"x_{middle + 1}",
                "e + k * (W + g)",
                (
                    Input("e", "purlin beyond the module", givens.purlin_end_m, "tape"),
                    Input("k", "modules before it", float(middle), "count"),
                    Input("W", "module along the row", rows.module_along_m, "tape"),
                    Input("g", "gap", givens.gap_along_m, "thickness"),
                ),
                float(edges[middle]),
                "run",
                GEOMETRY,
                "If the tape disagrees, open the next gaps by a millimetre or two and come back "
                "slowly.",
            ),
        ),
        Answer(
            "modules",
            "end_clamps",
            "End clamps",
            Working(
                "n_e",
                f"4 * {counted}",
                held,
                float(plan.end_clamps),
                "count",
                COMMON_PRACTICE,
                f"Two at each end of each {'column' if plan.on_rails else 'module row'}.",
            ),
        ),
        Answer(
            "modules",
            "mid_clamps",
            "Mid clamps",
            Working(
                "n_m",
                f"2 * (N - {counted})",
                (every, *held),
                float(plan.mid_clamps),
                "count",
                COMMON_PRACTICE,
                "Shared by neighbours: four clamps a module in all.",
            ),
            True,
        ),
        Answer(
            "modules",
            "straps",
            "Bonding straps",
            Working(
                "n_b",
                "",
                (
                    every,
                    *(
                        Input(
                            f"n_{at}",
                            f"{link.start} to {link.end}, {link.by}",
                            float(link.count),
                            "count",
                        )
                        for at, link in enumerate(plan.bonding.links, start=1)
                    ),
                ),
                float(plan.bonding_straps),
                "count",
                COMMON_PRACTICE,
                "Of every link that is a strap; the list has them one by one.",
            ),
        ),
        Answer(
            "modules",
            "torque",
            "Clamp torque",
            Working(
                "T",
                "",
                (),
                givens.clamp_torque_n_m,
                "torque",
                Source("the clamp's instructions, given by the planner", "given"),
                "Mark each bolt, check again after a week.",
            ),
        ),
        Answer(
            "modules",
            "press",
            "Pressed with",
            Working(
                "p",
                "",
                (Input("C_d", "coefficient, down", pressed.down, "factor"),),
                plan.press_pa,
                "pressure",
                pressed.source,
                zone(pressed),
            ),
        ),
        Answer(
            "modules",
            "lift",
            "Lifted with",
            Working(
                "p_l",
                "",
                (Input("C_u", "coefficient, up", lifted.up, "factor"),),
                plan.lift_pa,
                "pressure",
                lifted.source,
                zone(lifted),
            ),
        ),
        Answer(
            "modules",
            "pull",
            "Pull on a mid clamp",
            Working(
                "F",
                "p_c * A / 2",
                (
                    Input(
                        "p_c", f"lift on half a module, zone {clamp.zone}", clamp.lift_pa, "pressure"
                    ),
                    Input("A", "module", givens.length_m * givens.width_m, "area"),
                ),
                plan.clamp_pull_n,
                "force",
                GEOMETRY,
                "A quarter of each of two neighbours.",
            ),
        ),
    )


SHORT_SIDES = Source("the data sheet's clamping zones: short sides are rated apart", "given")


def _rating(usual_pa: float, short_pa: float | None, *, across: bool) -> tuple[float, str]:
    """The rating that counts and which field holds it: modules that lie across hang by short sides."""
    return (short_pa, "short_") if across and short_pa is not None else (usual_pa, "")


def _checks(
    plan: ModulesPlan, givens: ModulesGivens, wind: Source, *, across: bool
) -> tuple[Check, ...]:
    """``across``: modules lie with the long side along the row, so that clamps grip the short ones."""
    front, front_of = _rating(givens.front_rating_pa, givens.short_front_rating_pa, across=across)
    back, back_of = _rating(givens.back_rating_pa, givens.short_back_rating_pa, across=across)
    said = bool(front_of and back_of)
    apart = (
        ()
        if not across
        else (
            holds(
                "modules",
                "short_sides",
                "The rating is that of clamps on the short sides",
                said,
                "said" if said else "not said: the long sides' is taken",
                "rated for the short sides",
                remedy="The data sheet has a table for them, often much less; or "
                "turn the modules upright.",
                source=SHORT_SIDES,
                given="modules.short_front_rating_pa",
                otherwise="look",
            ),
        )
    )
    return (
        *apart,
        at_most(
            "modules",
            "press",
            "Glass may be pressed so",
            plan.press_pa,
            front,
            "pressure",
            remedy="A stronger module, or a lower tilt under wind.",
            source=wind,
            given=f"modules.{front_of}front_rating_pa",
        ),
        at_most(
            "modules",
            "lift",
            "Glass may be lifted so",
            plan.lift_pa,
            back,
            "pressure",
            remedy="A stronger module, a lower tilt, or clamps set where more is rated.",
            source=wind,
            given=f"modules.{back_of}back_rating_pa",
        ),
        at_most(
            "modules",
            "clamp",
            "Mid clamps hold the pull",
            plan.clamp_pull_n,
            givens.clamp_hold_n,
            "force",
            remedy="A stronger clamp, or a third purlin.",
            source=wind,
            given="modules.clamp_hold_n",
        ),
        within(
            "modules",
            "end",
            "Room for the end clamp",
            givens.purlin_end_m,
            constant("common", "end_clamp_room_m"),
            "tape",
            most=False,
            remedy="Leave 50 to 100 mm (2 to 4 in) of purlin beyond the last module.",
            given="modules.purlin_end_m",
        ),
    )
