"""Stakes and materials as CSV (RFC 4180): SI columns for machines, tape columns for people."""

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.exchange.csv_out import csv_text


def _metres(value: float) -> str:
    """Tenths of a millimetre; what rounds to nought is written without a sign."""
    return f"{round(value, 4) + 0.0:.4f}"


def stakes_csv(plan: Plan, units: UnitSystem) -> str:
    """One line a post, metres from the array's origin and over the benchmark."""
    stakes = plan.stakeout.stakes
    places = stakes.places
    columns = {
        "running_tape_m": stakes.tape_m,
        "east_m": places.east_m,
        "north_m": places.north_m,
        "ground_level_m": stakes.ground_m,
        "top_level_m": stakes.top_m,
        "embedment_m": stakes.depth_m,
        "length_m": stakes.length_m,
        "rod_on_ground_m": stakes.rod_ground_m,
        "rod_on_top_m": stakes.rod_top_m,
        "strut_bolt_to_bolt_m": plan.frame.strut.lengths_m,
    }
    tape = (stakes.tape_m, stakes.depth_m, stakes.length_m, plan.frame.strut.lengths_m)
    return csv_text(["post", "row", "table", *columns, "tape", "depth", "post_length", "strut",
                     "not_as_it_stands"], (
        [
            index + 1, int(places.row[index]) + 1, int(places.table[index]) + 1,
            *(_metres(float(values[index])) for values in columns.values()),
            *(format_value(float(values[index]), "tape", units) for values in tape),
            ", ".join(plan.footings.unplaced.get(index, ())),
        ]
        for index in range(places.row.size)
    ))


def materials_csv(plan: Plan, units: UnitSystem) -> str:
    """One line an item; quantities in SI of their kind and as written for people."""
    head = ["stage", "key", "item", "order", "quantity_si", "net_si", "kind", "waste", "spare",
            "mass_kg", "where"]
    return csv_text(head, (
        [
            line.stage, line.key, line.item, format_value(line.quantity, line.kind, units),
            f"{line.quantity:.4f}", f"{line.net:.4f}", line.kind, line.waste, line.spare,
            f"{line.mass_kg:.1f}", line.where,
        ]
        for line in plan.materials.lines
    ))
