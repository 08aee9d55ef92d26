"""How every strut is set at each tilt: its length, its hole, or the turns of its jack."""

from itertools import pairwise

from openfurrow.core.frame.tilting import Tilting, rounds_of
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value, in_words, spoken
from openfurrow.core.structures.supports import support_id
from openfurrow.sheets.models import Column, TableText
from openfurrow.sheets.tables import SHOWN_ROWS


def tilts_table(plan: Plan, units: UnitSystem) -> TableText | None:
    """One line a post; None where tables have one tilt."""
    found = plan.frame.tilting
    if found is None:
        return None
    places = plan.structure.supports.places
    shown = min(SHOWN_ROWS, places.of_table.size)
    tilts = [f"{tilt:g}°" for tilt in found.tilts_deg]
    between = [f"{low} to {high}" for low, high in pairwise(tilts)]
    heads = ["Post", *tilts, *(between if found.turns is not None else [])]
    return TableText(
        key="tilts",
        title="Struts at each tilt, bolt to bolt",
        columns=tuple(Column(title=head, number=at > 0) for at, head in enumerate(heads)),
        rows=tuple(
            (
                support_id(plan.rows, places, post),
                *(_set_to(found, at, post, units) for at in range(len(tilts))),
                *_turned(found, post),
            )
            for post in range(shown)
        ),
        left_out=places.of_table.size - shown,
        note=in_words(_note(plan, found), units),
    )


def _set_to(found: Tilting, at: int, post: int, units: UnitSystem) -> str:
    """The length, and of one that is held by holes which, and the tilt that comes of it."""
    long = format_value(float(found.lengths_m[at, post]), "tape", units)
    if found.holes is None or found.holds_deg is None:
        return long
    hole, holds = int(found.holes[at, post]) + 1, float(found.holds_deg[at, post])
    return f"{long}, hole {hole} ({holds:.1f}°)"


def _turned(found: Tilting, post: int) -> tuple[str, ...]:
    if found.turns is None:
        return ()
    return tuple(
        f"{abs(turns):.1f} turns {'in' if turns >= 0 else 'out'}"
        for turns in found.turns[:, post].tolist()
    )


def _note(plan: Plan, found: Tilting) -> str:
    givens = plan.structure.posts.givens
    if found.holes is not None:
        return (
            f"Holes are counted from the longest strut, {spoken(givens.strut_hole_m, 'tape')} apart; "
            "in brackets the tilt that a hole gives. Every post of a table is set before the next "
            "table is touched."
        )
    if found.turns is not None:
        rounds, each = max((rounds_of(turns) for turns in found.turns), default=(1, 0.0))
        return (
            f"Turned in {rounds} rounds of {each:.1f} at the most, one jack after the other, so that "
            "the frame does not twist; then locked."
        )
    if not givens.strut_travel_m:
        return "Nobody has said by what struts are set to these lengths."
    return "The slot is pressed tight at this length, and marked."
