"""The design's fields as a flat list: what each is called, what it accepts, how it is written."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from functools import cache
from types import UnionType
from typing import Any, Literal, Union, get_args, get_origin

from pydantic.fields import FieldInfo

from openfurrow.core.codes import PACKS, RulePack
from openfurrow.core.codes.section import section_names
from openfurrow.core.design import ARRAY_STAGES, STAGES, ArrayGivens, Design
from openfurrow.core.givens import Givens, Thing
from openfurrow.core.paths import address_of, in_array, within
from openfurrow.core.paths import read as read_at
from openfurrow.core.quantities import (
    KINDS,
    UnitSystem,
    bare_unit,
    describe,
    format_value,
)

# What a field of several lines or several numbers accepts.
LINES = {
    "route": "one point a line: east, north; both within 5 km",
    "readings": "one reading a line: three lengths, then a code if there is one",
    "layers": "one layer a line from the top: depth of its bottom, class, strength if measured",
    "held": "one reading a line: a load, how far it moved, such as 4 kN, 3 mm; loads rise",
    "numbers": "numbers with commas between",
    "forecast": "one day a line: date, coldest, strongest wind, such as 2026-04-20, 3 °C, 8 m/s",
    "shifts": "one post a line: table and post such as 2.1/3, how far along the row",
    "list": "things of the list, one by one",
    "brought": "a file, brought whole",
    "arrays": "arrays of this job by their names, one a line",
}


@dataclass(frozen=True)
class Field:
    """One given of one stage; bounds in SI."""

    path: str
    stage: str
    label: str
    kind: str
    meaning: str
    where: str
    low: float | None
    high: float | None
    usual: tuple[float, float] | None
    pack: str | None
    group: str
    caution: str
    choices: tuple[str, ...]
    optional: bool
    whole: bool
    longest: int | None
    needed: bool
    default: Any = None
    by_pack: tuple[tuple[RulePack, Any], ...] = ()
    item: type[Thing] | None = None

    @property
    def measured(self) -> bool:
        """Whether it is a number with a unit."""
        return self.kind in KINDS and not self.choices

    def practice(self, pack: RulePack) -> Any:
        """What it begins with under a rule pack."""
        return dict(self.by_pack).get(pack, self.default)


def _choices(annotation: Any, kind: str) -> tuple[str, ...]:
    if kind.startswith("section:"):
        return section_names(kind.split(":", 1)[1])
    origin = get_origin(annotation)
    if origin is Literal:
        return tuple(str(choice) for choice in get_args(annotation))
    return ()


def _bound(info: FieldInfo, name: str) -> float | None:
    for item in info.metadata:
        found = getattr(item, name, None)
        if found is not None:
            return float(found)
    return None


def _item(annotation: Any) -> type[Thing] | None:
    """What a list holds, where a field is a list of things with givens of their own."""
    parts = get_args(annotation)
    if get_origin(annotation) is tuple and isinstance(parts[0], type):
        return parts[0] if issubclass(parts[0], Thing) else None
    return None


def _field(stage: str, name: str, info: FieldInfo) -> Field:
    extra = info.json_schema_extra
    facts: dict[str, Any] = dict(extra) if isinstance(extra, dict) else {}
    annotation = info.annotation
    optional = get_origin(annotation) in (Union, UnionType) and type(None) in get_args(annotation)
    if optional:
        annotation, *_ = (part for part in get_args(annotation) if part is not type(None))
    longest = _bound(info, "max_length")
    return Field(
        path=f"{stage}.{name}",
        stage=stage,
        label=facts["label"],
        kind=facts["kind"],
        meaning=info.description or "",
        where=facts["where"],
        low=_bound(info, "ge"),
        high=_bound(info, "le"),
        usual=facts.get("usual"),
        pack=facts.get("pack"),
        group=facts.get("group", ""),
        caution=facts.get("caution", ""),
        choices=_choices(annotation, facts["kind"]),
        optional=optional,
        whole=annotation is int,
        longest=None if longest is None else int(longest),
        needed=bool(facts.get("needed")),
        default=info.default,
        by_pack=tuple((pack, facts[pack]) for pack in PACKS if pack in facts),
        item=_item(annotation),
    )


def is_number(text: str) -> bool:
    """Whether it is a whole number as we write them: other scripts' digits and raised ones are not."""
    return text.isascii() and text.isdigit() and len(text) < 10


@cache
def item_fields(item: type[Thing]) -> dict[str, Field]:
    """The fields of one thing in a list, by name; their paths are those names."""
    return {
        name: replace(_field("", name, info), path=name)
        for name, info in item.model_fields.items()
        if info.json_schema_extra
    }


# The job's own name belongs to no stage; it is asked for where the job begins, on Site.
NAME = Field(
    path="name",
    stage="site",
    label="Job",
    kind="text",
    meaning="What the job is called.",
    where="What the crew and the customer call the place.",
    low=None,
    high=None,
    usual=None,
    pack=None,
    group="Place",
    caution="",
    choices=(),
    optional=False,
    whole=False,
    longest=120,
    needed=False,
)


# An array's own name belongs to none of its stages.
ARRAY_NAME = replace(
    NAME,
    stage="rows",
    label="Array",
    meaning="What the array is called.",
    where="What the crew calls it: by the shed, upper field.",
    group="",
    longest=40,
)


def array_labels(arrays: Iterable[ArrayGivens]) -> dict[str, str]:
    """What each array is called by its id; of those that share a name the later ones are numbered."""
    found: dict[str, str] = {}
    for one in arrays:
        same = sum(label.rsplit(" (", 1)[0] == one.name for label in found.values())
        found[one.id] = f"{one.name} ({same + 1})" if same else one.name
    return found


@cache
def fields() -> dict[str, Field]:
    """Every field of a stage by its path in the stage, in the order of the job."""
    found = {}
    for stage in STAGES:
        holder = ArrayGivens if stage in ARRAY_STAGES else Design
        givens = holder.model_fields[stage].annotation
        assert isinstance(givens, type) and issubclass(givens, Givens)
        for name, info in givens.model_fields.items():
            field = _field(stage, name, info)
            found[field.path] = field
    return found


# Nor does whether it stands already.
ARRAY_STANDING = replace(
    ARRAY_NAME,
    path="standing",
    label="An array stands there already",
    kind="yes_no",
    meaning="Yes: it is checked and wired, never ordered, cut, driven or set out. No: it is built.",
    where="Look at it: its papers, its labels, a hole beside a post.",
    longest=None,
    optional=True,
    needed=True,
)
ARRAY_OWN = (ARRAY_NAME, ARRAY_STANDING)


@cache
def _fields_of(arrays: tuple[str, ...]) -> dict[str, Field]:
    found: dict[str, Field] = {}
    own = [field for field in fields().values() if field.stage in ARRAY_STAGES]
    for field in fields().values():
        if field.stage not in ARRAY_STAGES:
            found[field.path] = field
        elif field is own[0]:
            for array in arrays:
                found |= {
                    path: replace(one, path=path)
                    for one in (*ARRAY_OWN, *own)
                    for path in (in_array(array, one.path),)
                }
    return found


def fields_of(design: Design) -> dict[str, Field]:
    """Every field of a design by its path, those of each array in turn, in the order of the job."""
    return _fields_of(tuple(one.id for one in design.arrays))


def field_at(path: str) -> Field | None:
    """The field a path lies in, if there is one.

    site.route.0.1 lies in site.route, site.features.2.depth_m is the depth of the third feature.
    """
    if path == NAME.path:
        return NAME
    at = within(path)
    if at and at.array and not at.stage:
        return ARRAY_STANDING if at.name == ARRAY_STANDING.path else ARRAY_NAME
    field = fields().get(at.pattern) if at else None
    if at and field and field.item and at.inner:
        return item_fields(field.item).get(at.inner, field)
    return field


def value_at(design: Design, path: str) -> Any:
    """The value a design holds at a path. Raises KeyError for an unknown path."""
    if path == "name":
        return design.name
    at = address_of(path)
    if at.thing or not at.name or (at.stage and at.pattern not in fields()):
        raise KeyError(path)
    return read_at(design, at)


# What a new thing is, is said among its first givens; later choices are about it.
SAYS_WHAT = 3


def what_it_is(item: type[Thing]) -> Field | None:
    """The choice by which a new thing of a list begins, if there is one."""
    first = list(item_fields(item).values())[:SAYS_WHAT]
    return next((one for one in first if one.choices), None)


def title_of(item: Thing, number: int) -> str:
    """What one thing of a list is called: as it says, or the first given that says something."""
    if item.called:
        return item.called
    texts = [
        getattr(item, name)
        for name, field in item_fields(type(item)).items()
        if field.kind not in ("array", "arrays")
    ]
    word = next((text for text in texts if isinstance(text, str) and text.strip()), "")
    return word.strip() or f"number {number + 1}"


def write(field: Field, value: Any, units: UnitSystem) -> str:
    """A value as a person would type it; empty for an optional field left to the plan."""
    if value is None:
        return ""
    if field.item:
        return "; ".join(title_of(item, number) for number, item in enumerate(value))
    if field.kind == "numbers":
        return ", ".join(str(number) for number in value)
    if field.kind == "arrays":
        return "\n".join(value)
    if field.kind == "shifts":
        return "\n".join(f"{n}, {format_value(by_m, 'tape', units)}" for n, by_m in value)
    if field.kind == "readings":
        return "\n".join(
            ", ".join(
                [
                    *(format_value(part, "coordinate", units) for part in reading[:3]),
                    *([reading[3]] if reading[3] else []),
                ]
            )
            for reading in value
        )
    if field.kind == "held":
        return "\n".join(
            f"{format_value(load_n, 'force', units)}, {format_value(moved_m, 'thickness', units)}"
            for load_n, moved_m in value
        )
    if field.kind == "forecast":
        return "\n".join(
            f"{day.isoformat()}, {format_value(low, 'temperature', units)}, "
            f"{format_value(wind, 'speed', units)}"
            for day, low, wind in value
        )
    if field.kind == "layers":
        return "\n".join(
            ", ".join(
                [
                    format_value(bottom, "tape", units),
                    soil,
                    *([] if strength is None else [format_value(strength, "pressure", units)]),
                ]
            )
            for bottom, soil, strength in value
        )
    if field.kind == "yes_no":
        return "yes" if value else "no"
    if field.kind == "route":
        return "\n".join(
            ", ".join(format_value(part, "coordinate", units) for part in point) for point in value
        )
    if field.kind == "date":
        return str(value.isoformat())
    if field.measured:
        return format_value(float(value), field.kind, units)
    return str(value)


def allowed(field: Field, units: UnitSystem) -> str:
    """What a field accepts, in words and in the unit shown."""
    if field.choices:
        return "one of " + ", ".join(field.choices)
    if field.kind == "array":
        return "an array of this job, by its name"
    if field.kind == "yes_no":
        return "yes or no"
    if field.kind == "date":
        return "a date such as 2026-04-18"
    if field.kind in LINES:
        return LINES[field.kind]
    if field.longest is not None:
        return f"text of {field.longest} letters at most"
    shown = [format_value(b, field.kind, units) for b in (field.low, field.high) if b is not None]
    whole = "a whole number " if field.whole else ""
    empty = ", or empty for the plan's own" if field.optional and not field.needed else ""
    if len(shown) == 2:
        return f"{whole}from {shown[0]} to {shown[1]}{empty}".strip()
    return (describe(field.kind, units) if field.measured else "text") + empty


def unit_of(field: Field, units: UnitSystem) -> str:
    """The unit a bare number is taken in; empty where there is none."""
    return bare_unit(field.kind, units) if field.measured else ""
