"""The path from the modules to the rods as a list: each link, by what, how many, known or not."""

from openfurrow.core.plan import Plan
from openfurrow.sheets.models import Column, TableText

TITLES = (("From", False), ("To", False), ("By", False), ("How many", True), ("Known to bond", False))


def bonding_table(plan: Plan) -> TableText:
    """One line a link, in order."""
    found = plan.modules.bonding
    return TableText(
        key="bonding",
        title="From the modules to the rods, link by link",
        columns=tuple(Column(title=title, number=number) for title, number in TITLES),
        rows=tuple(
            (
                link.start,
                link.end,
                link.by,
                str(link.count),
                "yes" if link.known else "nobody has looked",
            )
            for link in found.links
        ),
        left_out=0,
        note="No module's frame is a link for another: each may be taken out. Bare copper runs on to "
        "the rods, and to the building's own ground. A meter from the furthest frame to the rod proves "
        "it.",
    )
