"""Posts that were tested, as a list: what each held, and what that is of what the tables say."""

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value, in_words
from openfurrow.sheets.models import Column, TableText

TITLES = (
    ("Test", False),
    ("It was", False),
    ("In", False),
    ("What", False),
    ("Depth", True),
    ("Held", True),
    ("Then", False),
    ("Of the tables", True),
)


def tested_table(plan: Plan, units: UnitSystem) -> TableText:
    """Every test that was made for the posts of the array that is open."""
    rows = tuple(
        (
            one.test.called,
            one.test.loaded,
            plan.site.soils[one.soil].words,
            in_words(one.test.what, units).replace(" ", "\u00a0"),
            format_value(one.test.depth_m, "tape", units),
            format_value(one.held_n, "force", units),
            ("gave way" if one.gave_way else "held on")
            + ("" if one.counts else f"; left out: {one.test.left_out.strip()}"),
            format_value(one.share, "ratio", units),
        )
        for one in plan.footings.posts.tests
    )
    return TableText(
        key="tested",
        title="Posts that were tested",
        columns=tuple(Column(title=title, number=number) for title, number in TITLES),
        rows=rows,
        left_out=0,
        note="Of the tables: what it held over what they say that the whole of it holds there at most. "
        "Held on: it was not loaded until it gave way, so the ground holds more.",
    )
