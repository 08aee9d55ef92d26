"""The ways that strings may go, by the shade they share; and each string as they go now."""

from openfurrow.core.compare.string_walks import LOOKED_AT, OnWalk, Walks, walks_of
from openfurrow.core.design import Design
from openfurrow.core.energy.answers import of_what
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.drawings.string_shade import string_shade_drawing
from openfurrow.sheets.energy.parts import at_meter, number_table
from openfurrow.sheets.models import AskedSheet, EditText, MendText, TableText

# A way is offered that saves at least so much of the year.
WORTH = 0.0005
MOST_STRINGS = 40


def strings_sheet(design: Design, plan: Plan, units: UnitSystem) -> AskedSheet:
    """What mixing modules of unlike shade costs, each way that strings may go."""
    walks = walks_of(design, plan)
    if walks is None:
        why = (
            "Every module here has an inverter of its own: none takes from another."
            if plan.rows.travel is None
            else "These tables follow the sun, each about its pole: what they shade each other stands "
            "in the year."
        )
        return AskedSheet(drawings=(), tables=(), takes=(), note=why)
    now, best = walks.ways[0], walks.best
    takes: tuple[MendText, ...] = ()
    if best.kept - now.kept >= WORTH:
        takes = (
            MendText(
                words=f"Strings go {best.walk}",
                edits=(EditText(path="wiring.string_walk", text=best.walk),),
            ),
        )
    by_itself = "A box behind every module lets each give its own: nothing is lost to mixing. "
    return AskedSheet(
        drawings=(string_shade_drawing(plan, walks),),
        tables=(_ways_table(plan, walks, units), _strings_table(now)),
        takes=takes,
        note=by_itself * (design.wiring.electronics == "by the module") + of_what(plan.energy.sky),
    )


def _ways_table(plan: Plan, walks: Walks, units: UnitSystem) -> TableText:
    year, rows = plan.energy.arrays[plan.open], plan.rows
    # What of the open light in the end comes to the meter, but for shade.
    after, shaded = year.light.left[-1], year.light.left[2]
    per_share = year.light.open_h * year.watts * after / max(shaded, 1e-9) * at_meter(plan)

    def row(one: OnWalk) -> tuple[str, ...]:
        return (
            one.walk + (", as now" if one is walks.ways[0] else ""),
            f"{one.by_itself * 100:.1f} %",
            f"{one.mixing * 100:.2f} %",
            format_value(one.by_itself * one.mixing * per_share, "energy", units),
            format_value(one.circuit.array_wire_m, "run", units),
            str(one.circuit.jumpers),
        )

    some = ""
    if len(walks.modules) < rows.module_count:
        some = f" Of so many modules about {LOOKED_AT} were followed, in strings spread evenly."
    return number_table(
        "walks",
        "Which way strings go",
        ("Strings go", "Modules keep", "Lost by mixing", "Energy of a year", "Array wire", "Jumpers"),
        tuple(row(one) for one in walks.ways),
        "Modules keep: of the year's open light, past trees, walls, hills and rows, each by itself. "
        "Lost by mixing: what strings then lose because modules of unlike shade are in one." + some,
    )


def _strings_table(now: OnWalk) -> TableText:
    strings = now.circuit.strings
    worst_first = sorted(
        zip(now.looked_at.tolist(), now.keeps.tolist(), now.alone.tolist(), strict=True),
        key=lambda one: one[1],
    )
    return number_table(
        "each_string",
        "Each string, the most shaded first",
        ("String", "Modules", "Keeps", "Lost by mixing"),
        tuple(
            (
                str(string + 1),
                str(int(strings.lengths[string])),
                f"{keeps * 100:.1f} %",
                f"{(1 - keeps / max(alone, 1e-9)) * 100:.2f} %",
            )
            for string, keeps, alone in worst_first[:MOST_STRINGS]
        ),
        "Strings that share an input's tracker should keep alike: the weaker one pulls the other.",
    ).model_copy(update={"left_out": max(0, len(worst_first) - MOST_STRINGS)})
