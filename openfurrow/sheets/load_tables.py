"""What is loaded, day by day: as lists, and the words of each part that is counted onto a truck."""

from openfurrow.core.fieldbook.loads import Counted
from openfurrow.core.hauling.loads import Carried, Load
from openfurrow.core.hauling.parts import Stops
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value, in_words
from openfurrow.sheets.models import Column, TableText

# A small job has a handful; of a field the first weeks are read, all of them from the file.
SHOWN_LOADS = 40


def load_name(load: Load, units: UnitSystem) -> str:
    """What comes: which of the day's loads, which delivery, or what by a truck of its own."""
    match load.rides:
        case "own truck":
            return f"Own truck, load {load.number} of {load.count}" if load.count > 1 else "Own truck"
        case "delivery":
            return f"Delivery: {load.what}"
        case "loose":
            return f"Loose: {in_words(load.what, units)}"


def load_day(load: Load) -> str:
    """When it comes."""
    return "day not known" if load.day is None else f"{load.day:%a} {load.day.isoformat()}"


def stops_words(stops: Stops) -> str:
    """What does not go on without it."""
    return f"stops {stops.tasks} of {stops.of} tasks, {stops.hours:.0f} h of work"


def carried_much(carried: Carried, units: UnitSystem) -> str:
    """So much of it, as it is counted."""
    return format_value(carried.quantity, carried.part.line.kind, units)


def carried_weight(carried: Carried, units: UnitSystem) -> str:
    """Its weight, where the list knows it."""
    return format_value(carried.mass_kg, "haul", units) if carried.mass_kg else ""


def load_tables(plan: Plan, units: UnitSystem) -> tuple[TableText, ...]:
    """A list for each load, on each what stops the most first; of very many the first."""
    loads = plan.hauling.loads
    shown, more = loads[:SHOWN_LOADS], len(loads) - SHOWN_LOADS
    found = tuple(_load_table(number, load, units) for number, load in enumerate(shown, start=1))
    if more <= 0:
        return found
    told = f"{more} more loads stand in the file of loads."
    return (*found[:-1], found[-1].model_copy(update={"note": told}))


def _load_table(number: int, load: Load, units: UnitSystem) -> TableText:
    weight = f", {format_value(load.mass_kg, 'haul', units)} and small parts" if load.mass_kg else ""
    titles = (("How many", True), ("Item", False), ("Weight", True), ("Missing, it", False))
    return TableText(
        key=f"load-{number}",
        title=f"{load_day(load)}: {load_name(load, units)}{weight}",
        columns=tuple(Column(title=title, number=number) for title, number in titles),
        rows=tuple(
            (
                carried_much(one, units),
                in_words(one.part.line.item, units),
                carried_weight(one, units),
                stops_words(one.part.stops),
            )
            for one in load.carried
        ),
        left_out=0,
        note="",
    )


def counted_words(one: Counted, units: UnitSystem) -> str:
    """What is said of a part that was counted, and of one that was not what it stops."""
    stops = stops_words(one.carried.part.stops)
    match one.verdict:
        case "not yet":
            return stops
        case "there":
            return "all of it there"
        case "changed":
            return f"the plan takes {carried_much(one.carried, units)} now: count again"
        case "short":
            kind = one.carried.part.line.kind
            counts = kind == "count"
            much = f"{format_value(one.missing, kind, units)} missing" if counts else "not all there"
            return f"{much}: {'no more than is spare of it' if one.covered else stops}"
