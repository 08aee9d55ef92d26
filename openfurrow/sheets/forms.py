"""Fields, lists of things and named places as a form shows them."""

from typing import Any

import numpy as np

from openfurrow.core.design import Design
from openfurrow.core.fields import LINES, Field, allowed, item_fields, title_of, unit_of, write
from openfurrow.core.givens import Givens, Thing
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.core.site.features import FeatureGivens
from openfurrow.core.site.notes import NoteGivens
from openfurrow.core.site.soil import HoleGivens
from openfurrow.core.site.survey import SurveyGivens
from openfurrow.core.site.tickets import TicketGivens
from openfurrow.sheets.models import FieldInput, GivenText, ItemText, ListText, PlaceText

# More lines than this are not shown in a form: they came from a file and are brought again.
SHOWN_LINES = 400


def _input(field: Field) -> FieldInput:
    if field.choices:
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
    field: Field, path: str, value: Any, placeholder: str, units: UnitSystem
) -> GivenText:
    """A field at a path with what it holds."""
    usual = ""
    if field.usual:
        low, high = (format_value(bound, field.kind, units) for bound in field.usual)
        usual = f"{low} to {high}"
    text, cut = _shown(field, value, units)
    placeholder = cut or placeholder
    return GivenText(
        path=path, label=field.label, input=_input(field), text=text, placeholder=placeholder,
        unit=unit_of(field, units), meaning=field.meaning, where=field.where, usual=usual,
        allowed=allowed(field, units), group=field.group, caution=field.caution,
        choices=field.choices,
    )


def list_text(field: Field, things: tuple[Thing, ...], units: UnitSystem) -> ListText:
    """A list with every thing's own fields; only those that matter for what it is."""
    assert field.item is not None
    inner = item_fields(field.item)
    first = next((f for f in inner.values() if f.choices), None)
    return ListText(
        path=field.path, label=field.label, meaning=field.meaning, where=field.where,
        group=field.group, choices=first.choices if first else (),
        fields=tuple(
            field_text(f, name, getattr(field.item(), name), "", units) for name, f in inner.items()
        ),
        items=tuple(
            _item(inner, f"{field.path}.{thing.id}", number, thing, units)
            for number, thing in enumerate(things)
        ),
    )


def _item(
    inner: dict[str, Field], path: str, number: int, thing: Thing, units: UnitSystem
) -> ItemText:
    shown = thing.shown()
    texts = {
        name: _shown(f, getattr(thing, name), units) for name, f in inner.items() if name in shown
    }
    return ItemText(
        path=path, title=title_of(thing, number), about=_about(thing, units),
        values={name: text for name, (text, _) in texts.items()},
        placeholders={name: cut for name, (_, cut) in texts.items() if cut},
    )


def _about(thing: Givens, units: UnitSystem) -> str:
    """One thing in a line."""
    match thing:
        case FeatureGivens():
            where = "no place yet" if not thing.complete else thing.how_sure
            depth = "" if thing.depth_m is None else (
                f", {format_value(thing.depth_m, 'tape', units)} deep")
            return f"{thing.kind}, {where}{depth}"
        case SurveyGivens():
            out = f", {len(thing.left_out)} left out" if thing.left_out else ""
            return f"{thing.way}, {len(thing.readings)} readings{out}"
        case TicketGivens():
            day = thing.responded or thing.requested
            return thing.reply if thing.responded else (
                f"asked {day.isoformat()}" if day else "not asked")
        case NoteGivens():
            limit = "" if thing.limit_m is None else f"{format_value(thing.limit_m, 'run', units)}, "
            return f"{limit}{thing.who or 'nobody named'}"
        case HoleGivens():
            return ", ".join(layer[1] for layer in thing.layers)
    return ""


def named_places(design: Design, plan: Plan, units: UnitSystem) -> tuple[PlaceText, ...]:
    """Places to measure from: the origin, what is there, test holes, the ends of the front row."""
    found: list[tuple[str, str, float, float]] = [("origin of the site", "", 0.0, 0.0)]
    for feature in design.site.features:
        single = len(feature.points) == 1
        found += [
            (feature.label if single else f"{feature.label}, corner {number + 1}",
             f"site.features.{feature.id}", east, north)
            for number, (east, north) in enumerate(feature.points)
        ]
    found += [
        (title_of(hole, number), f"site.test_holes.{hole.id}", hole.east_m, hole.north_m)
        for number, hole in enumerate(design.site.test_holes)
    ]
    places = plan.places
    last = int(np.searchsorted(places.row, 1)) - 1
    found += [
        (f"post {index + 1}", "", float(places.east_m[index]), float(places.north_m[index]))
        for index in (0, last)
    ]
    return tuple(
        PlaceText(
            name=name, of=of, east_m=east, north_m=north,
            text=", ".join(format_value(part, "coordinate", units) for part in (east, north)),
        )
        for name, of, east, north in found
    )
