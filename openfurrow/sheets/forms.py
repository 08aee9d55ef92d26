"""Fields, lists of things and named places as a form shows them."""

from collections.abc import Iterable, Sequence
from dataclasses import replace
from typing import Any

import numpy as np

from openfurrow.core.design import Design
from openfurrow.core.fields import (
    LINES,
    Field,
    allowed,
    array_labels,
    item_fields,
    title_of,
    unit_of,
    what_it_is,
    write,
)
from openfurrow.core.givens import Givens, Thing
from openfurrow.core.materials.own_profiles import ProfileGivens, offered
from openfurrow.core.paths import in_array
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value, in_words
from openfurrow.core.rows.givens import TableGivens
from openfurrow.core.site.features import FeatureGivens
from openfurrow.core.site.load_tests import LoadTestGivens
from openfurrow.core.site.notes import NoteGivens
from openfurrow.core.site.soil import HoleGivens
from openfurrow.core.site.survey import SurveyGivens
from openfurrow.core.site.tickets import TicketGivens
from openfurrow.core.site.ways import SpurGivens
from openfurrow.core.sun.givens import HorizonGivens
from openfurrow.core.wiring.backup_givens import KeptOnGivens
from openfurrow.core.wiring.inverter_givens import InverterGivens
from openfurrow.core.wiring.panel_givens import PanelGivens
from openfurrow.core.wiring.wall_givens import OnWallGivens
from openfurrow.sheets.drawings.tables import held_tables
from openfurrow.sheets.models import FieldInput, GivenText, ItemText, ListText, PlaceText

# More lines than this are not shown in a form: they came from a file and are brought again.
SHOWN_LINES = 400


def _input(field: Field) -> FieldInput:
    if field.kind == "arrays":
        return "arrays"
    if field.choices or field.kind == "array":
        return "choice"
    if field.kind in LINES and field.kind != "numbers":
        return "route"
    match field.kind:
        case "yes_no" | "date" | "text" as plain:
            return plain
        case "numbers":
            return "text"
    return "quantity"


def _shown(field: Field, value: Any, units: UnitSystem) -> tuple[str, str]:
    """A value's text, and what stands in its place where it has too many lines for a form."""
    if field.kind in LINES and value is not None and len(value) > SHOWN_LINES:
        return "", f"{len(value)} lines, from a file: bring it again to change them"
    return write(field, value, units), ""


def field_text(
    field: Field,
    path: str,
    value: Any,
    placeholder: str,
    units: UnitSystem,
    practice: frozenset[str] = frozenset(),
) -> GivenText:
    """A field at a path with what it holds; ``practice`` are the paths that nobody has looked at."""
    usual = ""
    if field.usual:
        low, high = (format_value(bound, field.kind, units) for bound in field.usual)
        usual = f"{low} to {high}"
    text, cut = _shown(field, value, units)
    placeholder = cut or placeholder
    return GivenText(
        path=path,
        label=field.label,
        input=_input(field),
        text=text,
        placeholder=placeholder,
        unit=unit_of(field, units),
        meaning=in_words(field.meaning, units),
        where=in_words(field.where, units),
        usual=usual,
        allowed=allowed(field, units),
        group=field.group,
        caution=in_words(field.caution, units),
        choices=field.choices,
        needed=field.needed,
        practice=path in practice,
    )


def with_own(field: Field, design: Design, held: Iterable[str]) -> Field:
    """A field that chooses a profile offers those of the job too, and what is ``held``."""
    if not field.kind.startswith("section:"):
        return field
    own = offered(design.materials.profiles, field.kind.partition(":")[2])
    return replace(
        field,
        choices=tuple(dict.fromkeys((*field.choices, *own, *held))),
        where=f"{field.where} Own profiles are said on Materials.",
    )


def list_text(
    field: Field,
    path: str,
    things: tuple[Thing, ...],
    units: UnitSystem,
    design: Design,
    practice: frozenset[str],
) -> ListText:
    """A list at its path with every thing's own fields; only those that matter for what it is.

    ``practice`` as in `field_text`.
    """
    assert field.item is not None
    arrays = array_labels(design.arrays)
    inner = {
        name: replace(one, choices=("", *arrays.values()))
        if one.kind == "array"
        else replace(one, choices=tuple(arrays.values()))
        if one.kind == "arrays"
        else with_own(one, design, [getattr(thing, name) for thing in things])
        for name, one in item_fields(field.item).items()
        # Of one array alone nobody asks which.
        if one.kind != "arrays" or len(arrays) > 1
    }
    first = what_it_is(field.item)
    return ListText(
        path=path,
        label=field.label,
        meaning=in_words(field.meaning, units),
        where=in_words(field.where, units),
        group=field.group,
        choices=first.choices if first else (),
        brought=field.kind == "brought",
        fields=tuple(
            field_text(f, name, getattr(field.item(), name), "", units) for name, f in inner.items()
        ),
        items=tuple(
            _item(inner, f"{path}.{thing.id}", number, thing, units, arrays, practice)
            for number, thing in enumerate(things)
        ),
    )


def _item(
    inner: dict[str, Field],
    path: str,
    number: int,
    thing: Thing,
    units: UnitSystem,
    arrays: dict[str, str],
    practice: frozenset[str],
) -> ItemText:
    shown = thing.shown()
    texts = {
        name: (arrays.get(getattr(thing, name), ""), "")
        if f.kind == "array"
        else ("\n".join(arrays[one] for one in getattr(thing, name) if one in arrays), "")
        if f.kind == "arrays"
        else _shown(f, getattr(thing, name), units)
        for name, f in inner.items()
        if name in shown
    }
    title = title_of(thing, number)
    if isinstance(thing, SpurGivens):
        title = f"Way of {arrays[thing.array]}" if thing.array in arrays else f"Way {number + 1}"
    if isinstance(thing, InverterGivens):
        title = thing.name.strip() or f"Inverter {number + 1}"
    if isinstance(thing, TableGivens):
        title = f"Table {thing.place}" if thing.place else thing.name.strip() or "One more table"
    if isinstance(thing, HorizonGivens):
        title = f"At {format_value(thing.bearing_deg, 'bearing', units)}"
    return ItemText(
        path=path,
        title=title,
        about=_about(thing, units),
        values={name: text for name, (text, _) in texts.items()},
        placeholders={name: cut for name, (_, cut) in texts.items() if cut},
        practice=tuple(name for name in texts if f"{path}.{name}" in practice),
    )


def _table_about(table: TableGivens, units: UnitSystem) -> str:
    """What is different about a table."""
    if table.out:
        return "taken out"
    said = [
        f"{table.modules_along} along" if table.modules_along is not None else "",
        f"{format_value(table.along_m, 'run', units)} along" if table.along_m else "",
        f"{format_value(table.back_m, 'run', units)} back" if table.back_m else "",
        f"turned {format_value(table.turn_deg, 'angle', units)}" if table.turn_deg else "",
    ]
    return ", ".join(filter(None, said)) or "as the others"


def _about(thing: Givens, units: UnitSystem) -> str:
    """One thing in a line."""
    match thing:
        case FeatureGivens():
            where = "no place yet" if not thing.complete else thing.how_sure
            depth = (
                ""
                if thing.depth_m is None
                else (f", {format_value(thing.depth_m, 'tape', units)} deep")
            )
            return f"{thing.kind}, {where}{depth}"
        case HorizonGivens():
            return f"{format_value(thing.height_deg, 'angle', units)} high"
        case SurveyGivens():
            out = f", {len(thing.left_out)} left out" if thing.left_out else ""
            return f"{thing.way}, {len(thing.readings)} readings{out}"
        case TicketGivens():
            day = thing.responded or thing.requested
            return (
                thing.reply if thing.responded else (f"asked {day.isoformat()}" if day else "not asked")
            )
        case NoteGivens():
            limit = "" if thing.limit_m is None else f"{format_value(thing.limit_m, 'run', units)}, "
            return f"{limit}{thing.who or 'nobody named'}"
        case TableGivens():
            return _table_about(thing, units)
        case InverterGivens():
            most = format_value(thing.maximum_dc_v, "voltage", units)
            if thing.behind:
                return f"behind each module, {format_value(thing.box_ac_w, 'power', units)}, {most}"
            out_there = f"{thing.units} at the array, " if thing.at_array else ""
            return f"{out_there}{thing.inverter_inputs} inputs, {most}"
        case PanelGivens():
            bus, main = (
                "not read" if amps is None else format_value(amps, "current", units)
                for amps in (thing.bus_a, thing.main_a)
            )
            return f"bus {bus}, main {main}"
        case KeptOnGivens():
            runs, most = (format_value(w, "module_power", units) for w in (thing.watts, thing.peak_w))
            starts = "" if thing.start_w is None else f", starts at {most}"
            return f"{runs}{starts}, {thing.hours:g} h a day"
        case OnWallGivens():
            far, up = (format_value(x, "tape", units) for x in (thing.left_m, thing.bottom_m))
            return (
                f"{thing.kind}, {far} along, {up} up" if thing.name.strip() else f"{far} along, {up} up"
            )
        case SpurGivens():
            bends = f"{len(thing.points)} bend{'' if len(thing.points) == 1 else 's'}"
            return f"{bends}, then into the nearest way" if thing.points else "not drawn yet"
        case LoadTestGivens():
            steps = f"{len(thing.readings)} loads" if len(thing.readings) > 1 else "one load"
            return f"{thing.loaded}, {format_value(thing.depth_m, 'tape', units)} deep, {steps}"
        case ProfileGivens():
            if thing.made is None:
                return thing.wrong
            serves = ", ".join(thing.serves) or "nothing here"
            return (
                f"{thing.made.name}, serves as {serves}"
                if thing.sold_as.strip()
                else f"serves as {serves}"
            )
        case HoleGivens():
            return ", ".join(layer[1] for layer in thing.layers)
    return ""


def _placed(design: Design) -> tuple[tuple[str, Sequence[HoleGivens | LoadTestGivens]], ...]:
    """Lists of the site whose things stand in one place each."""
    return ("test_holes", design.site.test_holes), ("load_tests", design.site.load_tests)


def named_places(design: Design, plan: Plan, units: UnitSystem) -> tuple[PlaceText, ...]:
    """Places to measure from: the origin, what is there, tests, the ends of the front row."""
    labels = array_labels(design.arrays)
    found: list[tuple[str, str, float, float]] = [("origin of the site", "", 0.0, 0.0)]
    for feature in design.site.features:
        single = len(feature.points) == 1
        found += [
            (
                feature.label if single else f"{feature.label}, corner {number + 1}",
                f"site.features.{feature.id}",
                east,
                north,
            )
            for number, (east, north) in enumerate(feature.points)
        ]
    found += [
        (title_of(one, number), f"site.{name}.{one.id}", one.east_m, one.north_m)
        for name, things in _placed(design)
        for number, one in enumerate(things)
    ]
    found += [
        (
            f"way of {labels[spur.array]}, bend {number + 1}"
            if spur.array in labels
            else f"way, bend {number + 1}",
            f"site.spurs.{spur.id}",
            east,
            north,
        )
        for spur in design.site.spurs
        for number, (east, north) in enumerate(spur.points)
    ]
    for one in plan.each():
        if not one.has("structure"):
            continue
        places, whose = one.places, f" of {labels[one.array.id]}" if plan.several else ""
        last = int(np.flatnonzero(places.line == places.line[0])[-1])
        found += [
            (f"post {index + 1}{whose}", "", float(places.east_m[index]), float(places.north_m[index]))
            for index in (0, last)
        ]
    found += [
        (
            f"middle of the front row{f' of {labels[array.id]}' if plan.several else ''}",
            f"arrays.{array.id}",
            array.rows.at_east_m,
            array.rows.at_north_m,
        )
        for array in design.arrays
    ]
    return tuple(
        PlaceText(
            name=name,
            of=of,
            east_m=east,
            north_m=north,
            text=", ".join(format_value(part, "coordinate", units) for part in (east, north)),
        )
        for name, of, east, north in found
    )


def table_places(design: Design, plan: Plan, units: UnitSystem) -> tuple[PlaceText, ...]:
    """The tables of the array that is open by their names; ``text`` is by what each is known."""
    at = in_array(plan.array.id, "rows.tables")
    told: dict[str, str] = {}
    for one in design.array(plan.array.id).rows.tables:
        # Of two that are told of one table the first counts.
        told.setdefault(one.place or one.id, f"{at}.{one.id}")
    return tuple(
        PlaceText(name=name, of=told.get(table, ""), east_m=east, north_m=north, text=table)
        for table, name, (east, north) in held_tables(plan)
    )
