"""Tables in the shelter of others: the share of wind that a report leaves them, and who says so."""

from dataclasses import replace

from openfurrow.core.checks import Check, holds
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.stand import Stand
from openfurrow.core.working import GEOMETRY, Answer, Input, Source, Working

REPORT = Source("a wind tunnel's report for this layout, as given", "given")


def calmed(loads: TableLoads, share: float) -> TableLoads:
    """The same with that share of wind on the glass; what blows along a row stays whole."""
    wind = loads.wind
    return replace(
        loads,
        wind=replace(wind, front_pa=share * wind.front_pa, back_pa=share * wind.back_pa),
    )


def shelter_answers(posts: Stand, givens: StructureGivens) -> tuple[Answer, ...]:
    """How many supports are counted in shelter, where a share was said."""
    if givens.shelter_share is None:
        return ()
    many = float(posts.kinds.sheltered[posts.supports.kind].sum())
    return (
        Answer(
            "structure",
            "sheltered",
            f"{posts.noun.capitalize()}s in shelter",
            Working(
                "n_s",
                "",
                (
                    Input("c", "share of wind that the report leaves", givens.shelter_share, "ratio"),
                    Input("r", "outer rows, before and behind", float(givens.outer_rows), "count"),
                    Input("e", "end tables of a row", float(givens.end_tables), "count"),
                ),
                many,
                "count",
                GEOMETRY,
                "What they ask of the ground is reckoned with that share of wind across the row. "
                "Members, clamps and glass, wind along the row and all while it is built are not.",
            ),
        ),
    )


def shelter_checks(posts: Stand, givens: StructureGivens) -> tuple[Check, ...]:
    """Whether shelter is counted by somebody's report, and whether anything stands in it."""
    if givens.shelter_share is None:
        return ()
    report = givens.shelter_report.strip()
    return (
        holds(
            "structure",
            "shelter",
            "Shelter is counted by a report for this layout",
            bool(report),
            report or "nobody has said whose",
            "the report's author, number and date",
            remedy="Say whose report it is, or take the share out: no code gives such a credit.",
            source=REPORT,
            given="structure.shelter_report",
        ),
        holds(
            "structure",
            "in_shelter",
            "Some tables stand in shelter",
            bool(posts.kinds.sheltered.any()),
            "some do" if posts.kinds.sheltered.any() else "all are outer rows or ends",
            "rows and tables on all sides",
            remedy="Take the share out: it counts for nothing here.",
            source=GEOMETRY,
            given="structure.shelter_share",
            otherwise="look",
        ),
    )
