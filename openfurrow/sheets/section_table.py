"""The trench stretch by stretch, as the crew digs it and as an inspector reads it."""

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, either, format_value, in_words
from openfurrow.core.trench.sections import Section
from openfurrow.sheets.models import Column, TableText

TITLES = (
    ("Stretch", False),
    ("From", True),
    ("To", True),
    ("Over it", False),
    ("Least cover", True),
    ("Planned", True),
    ("Wide", True),
    ("Dug", False),
    ("Filled", False),
)
# Common practice, no published source: what a tamper gets through.
OPEN_LIFTS, WHEEL_LIFTS = either("12 in", "300 mm"), either("6 in", "150 mm")


def sections_table(plan: Plan, units: UnitSystem) -> TableText:
    """One line for each part all along which the same is so."""
    trench, several = plan.trench, len({one.stretch for one in plan.trench.sections}) > 1
    return TableText(
        key="sections",
        title="The trench, stretch by stretch",
        columns=tuple(Column(title=title, number=number) for title, number in TITLES),
        rows=tuple(_row(one, units, named=several) for one in trench.sections),
        left_out=0,
        note=f"From the array along the ground's level. {_frost(plan, units)}All of it is dug to "
        f"{format_value(trench.depth_m, 'tape', units)}: what wheels ask for somewhere is dug "
        "everywhere. Sand first; each lift is tamped, the warning tape over the first.",
    )


def _row(one: Section, units: UnitSystem, *, named: bool) -> tuple[str, ...]:
    lifts = in_words(WHEEL_LIFTS if one.wheels else OPEN_LIFTS, units)
    hands = f"by hand: {one.by_hand}" if one.by_hand else "by machine"
    trucks = f"; {one.trucks}: last, filled the same day" if one.trucks else ""
    return (
        f"{one.stretch}, {one.name}" if named else "the way",
        format_value(one.from_m, "run", units),
        format_value(one.to_m, "run", units),
        one.over,
        format_value(one.least_m, "tape", units),
        format_value(one.cover_m, "tape", units),
        format_value(one.width_m, "tape", units),
        hands + trucks,
        f"lifts of {lifts}",
    )


def _frost(plan: Plan, units: UnitSystem) -> str:
    """Whether frost reaches what lies there: advice, no rule asks for it."""
    frost, cover = plan.site.known_frost_m, plan.trench.runs[0].route.cover_m
    if frost is None or frost <= cover:
        return ""
    deep = format_value(frost, "tape", units)
    return f"Frost goes to {deep}, below it: in clay it lifts conduit and opens joints; sand round it. "
