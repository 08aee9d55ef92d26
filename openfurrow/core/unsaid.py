"""The one check of a stage that lacks what only people can say: what is missing, and no numbers."""

from openfurrow.core.checks import Check
from openfurrow.core.design import Design
from openfurrow.core.labels import named
from openfurrow.core.needs import lacks_of
from openfurrow.core.working import COMMON_PRACTICE

KEY = "unsaid"


def unsaid_checks(design: Design) -> tuple[Check, ...]:
    """One check for every stage that lacks anything, in the order of the job."""
    return tuple(
        Check(
            stage=stage,
            key=KEY,
            title="All that it stands on has been said",
            level="stop",
            measured=f"not said yet: {named(paths)}",
            relation="is",
            limit="said",
            kind="text",
            remedy="Nothing is computed here before it is known: nobody else's place, weather or "
            "ground is taken for it.",
            source=COMMON_PRACTICE,
            given=paths[0],
            array=array,
        )
        for (array, stage), paths in lacks_of(design).items()
        if paths
    )
