"""What is told of shelter: the share of wind that a report leaves tables with others all around."""

from openfurrow.core.givens import given

SHARE: float | None = given(
    None,
    "Wind on sheltered tables, a share",
    "ratio",
    "What a report leaves of the wind on tables that have others all around. Left empty: every "
    "table meets all of it, as codes have it.",
    "A wind tunnel's report for such rows, at such a pitch and tilt; nobody's guess.",
    low=0.2,
    high=1,
    usual=(0.4, 0.8),
    group="Table",
)
REPORT: str = given(
    "",
    "Whose report",
    "text",
    "Author, number and date, and the layout that it is for.",
    "Its title page.",
    length=200,
    group="Table",
)
OUTER_ROWS: int = given(
    1,
    "Outer rows",
    "count",
    "So many rows before and behind every sheltered table meet all of the wind.",
    "The report; two where rows are far apart.",
    low=1,
    high=6,
    usual=(1, 3),
    group="Table",
)
END_TABLES: int = given(
    1,
    "End tables of a row",
    "count",
    "So many tables at both ends of every row meet all of the wind.",
    "The report.",
    low=1,
    high=6,
    usual=(1, 2),
    group="Table",
)

# Asked for only once shelter is counted.
OF_SHELTER = frozenset({"shelter_report", "outer_rows", "end_tables"})
