"""Stakes, cuts and materials as CSV (RFC 4180): columns in the unit that their heads name."""

from collections.abc import Iterator

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan
from openfurrow.core.practice_list import practice_list
from openfurrow.core.quantities import format_value, in_words, shown
from openfurrow.core.structures.supports import support_id
from openfurrow.exchange.csv_out import csv_text
from openfurrow.exchange.wanted import Wanted, scale_for
from openfurrow.sheets.load_tables import load_name
from openfurrow.sheets.wire_tables import wire_rows


def _number(value: float) -> str:
    """Four decimals; what rounds to nought is written without a sign."""
    return f"{round(value, 4) + 0.0:.4f}"


def stakes_csv(design: Design, plan: Plan, wanted: Wanted) -> str:
    """One line a post: places from the site's origin or in a grid, levels over the benchmark.

    Where there are several arrays each line begins with its array's name; of one that stands already
    there is none. What only some arrays have, a strut, a brace, a weight, is a column of its own, empty
    in the lines of the others.
    """
    parts = [(one, *_stakes(design, one, wanted)) for one in plan.each()]
    if not plan.several:
        return csv_text(parts[0][1], [] if plan.array.standing else parts[0][2])
    # The last two end every line.
    own = dict.fromkeys(name for _, head, _ in parts for name in head[:-2])
    every = [*own, *parts[0][1][-2:]]
    return csv_text(
        ["array", *every],
        (
            [one.array.name, *(said.get(name, "") for name in every)]
            for one, head, lines in parts
            if not one.array.standing
            for line in lines
            for said in [dict(zip(head, line, strict=True))]
        ),
    )


def _stakes(design: Design, plan: Plan, wanted: Wanted) -> tuple[list[str], Iterator[list[object]]]:
    """Heads, and a line a post, of the array that is open."""
    stakes, places = plan.setting_out.stakes, plan.setting_out.stakes.places
    scale = scale_for(design.site, wanted)
    east, north = scale.places(places.east_m, places.north_m).T
    marked = plan.structure.members.at_posts
    columns = {
        "running_tape": scale.long(stakes.tape_m),
        "east": east,
        "north": north,
        "ground_level": scale.long(stakes.ground_m),
        "top_level": scale.long(stakes.top_m),
        "embedment": scale.long(stakes.depth_m),
        **({"bore": scale.long(stakes.bore_m)} if stakes.bore_m is not None else {}),
        "length": scale.long(stakes.length_m),
        "rod_on_ground": scale.long(stakes.rod_ground_m),
        "rod_on_top": scale.long(stakes.rod_top_m),
        **({f"{marked[0]}_bolt_to_bolt": scale.long(marked[1])} if marked else {}),
    }
    tape = (stakes.tape_m, stakes.depth_m, stakes.length_m, *([marked[1]] if marked else []))
    head = [
        "post",
        "row",
        "table",
        *(f"{name}_{scale.length}" for name in columns),
        "tape",
        "depth",
        "post_length",
        *([marked[0]] if marked else []),
        *(["weight_kg"] if stakes.mass_kg is not None else []),
        *(["torque_n_m"] if stakes.torque_n_m is not None else []),
        "not_as_it_stands",
        "support",
    ]
    return head, (
        [
            index + 1,
            *plan.rows.stands.place_of(int(places.of_table[index])),
            *(_number(float(values[index])) for values in columns.values()),
            *(format_value(float(values[index]), "tape", wanted.units) for values in tape),
            *([] if stakes.mass_kg is None else [_number(float(stakes.mass_kg[index]))]),
            *([] if stakes.torque_n_m is None else [_number(float(stakes.torque_n_m[index]))]),
            ", ".join(plan.footings.unplaced.get(index, ())),
            support_id(plan.rows, places, index),
        ]
        for index in range(places.line.size)
    )


def cuts_csv(design: Design, plan: Plan, wanted: Wanted) -> str:
    """One line a length: its mark, what, of which profile, how long, how many, which ones."""
    scale = scale_for(design.site, Wanted(units=wanted.units, length=wanted.length))
    head = ["item", "profile", f"length_{scale.length}", "cut_at", "count", "which", "mark"]
    sawing = plan.materials.sawing
    return csv_text(
        ["array", *head] if plan.several else head,
        (
            [
                *([own.name] if plan.several else []),
                cut.item,
                cut.profile,
                _number(float(scale.long(cut.length_m))),
                format_value(cut.length_m, "tape", wanted.units),
                cut.count,
                cut.where,
                sawing.mark_of(cut),
            ]
            for own in sawing.arrays
            for cut in own.cuts
        ),
    )


def sticks_csv(design: Design, plan: Plan, wanted: Wanted) -> str:
    """One line a piece of each way to cut a stick, in the order of sawing."""
    scale = scale_for(design.site, Wanted(units=wanted.units, length=wanted.length))
    unit = scale.length
    return csv_text(
        ["way", "sticks", "profile", f"stick_{unit}", "piece", "mark", f"length_{unit}", "cut_at"],
        (
            [
                f"{bar.letter}-{way}",
                pattern.sticks,
                bar.profile,
                _number(float(scale.long(pattern.stock_m))),
                number,
                bar.marks[piece],
                _number(float(scale.long(piece))),
                format_value(piece, "tape", wanted.units),
            ]
            for bar in plan.materials.sawing.bars
            for way, pattern in enumerate(bar.nest.patterns, start=1)
            for number, piece in enumerate(pattern.pieces_m, start=1)
        ),
    )


def loads_csv(_: Design, plan: Plan, wanted: Wanted) -> str:
    """One line a part and load: when, on what, how many, its weight, and what stops without it."""
    mass = shown("haul", wanted.units)
    return csv_text(
        ["day", "on", "key", "item", "how_many", f"mass_{mass.unit}", "stops_tasks", "stops_hours"],
        (
            [
                "" if load.day is None else load.day.isoformat(),
                load_name(load, wanted.units),
                one.part.line.key,
                in_words(one.part.line.item, wanted.units),
                format_value(one.quantity, one.part.line.kind, wanted.units),
                f"{one.mass_kg / mass.si_per_unit:.1f}" if one.mass_kg else "",
                one.part.stops.tasks,
                f"{one.part.stops.hours:.1f}",
            ]
            for load in plan.hauling.loads
            for one in load.carried
        ),
    )


def wires_csv(_: Design, plan: Plan, wanted: Wanted) -> str:
    """One line a circuit, as the list of wires has it; lengths as numbers too."""
    return csv_text(
        [
            "circuit",
            "from",
            "to",
            "how_many",
            "wires",
            "size",
            "ground",
            "cut_at",
            "carries_a",
            "guard_a",
            "lost_percent",
        ],
        (
            [
                row.what,
                row.begins,
                row.ends,
                row.circuits,
                row.wires,
                row.size,
                row.ground,
                "" if row.cut_m is None else format_value(row.cut_m, "run", wanted.units),
                "" if row.amps is None else f"{row.amps:.2f}",
                "" if row.guard_a is None else f"{row.guard_a:.0f}",
                "" if row.drop is None else f"{100 * row.drop:.3f}",
            ]
            for row in wire_rows(plan)
        ),
    )


def signs_csv(_: Design, plan: Plan, wanted: Wanted) -> str:
    """One line a sign: what is engraved, where it goes, how many."""
    return csv_text(
        ["sign", "where", "how_many", "asked_for_by"],
        (
            [in_words(s.text, wanted.units), in_words(s.place, wanted.units), s.count, s.clause]
            for s in plan.wiring.signs
        ),
    )


def practice_csv(design: Design, _: Plan, wanted: Wanted) -> str:
    """One line a value that is practice and that nobody has looked at, as it is written."""
    return csv_text(
        ["stage", "array", "what", "value", "path"],
        (
            [line.stage, line.array, line.label, line.value, line.path]
            for line in practice_list(design, wanted.units)
        ),
    )


def materials_csv(design: Design, plan: Plan, wanted: Wanted) -> str:
    """One line an item: what to order as it is written, and as numbers in the unit that is named."""

    def in_units(value: float, kind: str) -> str:
        return _number(value / shown(kind, wanted.units).si_per_unit)

    mass = shown("haul", wanted.units)
    head = [
        "stage",
        "key",
        "item",
        "order",
        "unit",
        "quantity",
        "net",
        "waste",
        "spare",
        f"mass_{mass.unit}",
        "where",
    ]
    return csv_text(
        head,
        (
            [
                line.stage,
                line.key,
                in_words(line.item, wanted.units),
                format_value(line.quantity, line.kind, wanted.units),
                shown(line.kind, wanted.units).unit,
                in_units(line.quantity, line.kind),
                in_units(line.net, line.kind),
                line.waste,
                line.spare,
                f"{line.mass_kg / mass.si_per_unit:.1f}",
                line.where,
            ]
            for line in plan.materials.lines
        ),
    )
