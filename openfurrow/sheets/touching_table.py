"""Unlike metals that lie on each other in one array, as a list: what the air makes of each pair."""

from openfurrow.core.plan import Plan
from openfurrow.sheets.models import Column, TableText

TITLES = ("Where", "Of", "Lies on", "Adds to rust", "Parted by")


def touching_table(plan: Plan) -> TableText:
    """One line a pair."""
    frame = plan.frame
    pads = frame.pads > 0
    return TableText(
        key="touching",
        title="Metals that lie on each other",
        columns=tuple(Column(title=title, number=False) for title in TITLES),
        rows=tuple(
            (
                one.parts,
                one.one,
                one.other,
                one.adds,
                one.parted_by or ("pads" if one.wants_parting and pads else "nothing"),
            )
            for one in frame.touches
        ),
        left_out=0,
        note="Little: nothing, or next to it. Some: parted where it is to last. Much: never. Clamps "
        "and what comes with modules are for their makers to say.",
    )
