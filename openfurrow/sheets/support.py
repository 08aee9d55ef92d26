"""One support that was pointed at: its own numbers, and what it asks for case by case."""

import numpy as np

from openfurrow.core.design import Design
from openfurrow.core.lacking import Lacking
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value, in_words
from openfurrow.core.structures.supports import called_in_full
from openfurrow.sheets.kinds import letters
from openfurrow.sheets.models import AskedSheet, Column, TableText


def nearest(plan: Plan, at: tuple[float, float]) -> int:
    """The number, counted from nought, of the support that stands nearest to a place."""
    places = plan.structure.supports.places
    return int(np.hypot(places.east_m - at[0], places.north_m - at[1]).argmin())


def support_sheet(_: Design, plan: Plan, units: UnitSystem, at: tuple[float, float]) -> AskedSheet:
    """The support of the open array that stands nearest to a place.

    Raises Lacking before the structure can be told.
    """
    if not plan.has("structure"):
        raise Lacking(plan.lacking("structure"))
    index = nearest(plan, at)
    return AskedSheet(
        drawings=(),
        tables=(_cases(plan, index, units), own_table(plan, index, units)),
        takes=(),
        note="What acts at one moment stands in one line: a footing holds each line, not the most of "
        "each column. Strength combinations; sized as its kind, which carries at least as much.",
    )


def own_table(plan: Plan, index: int, units: UnitSystem) -> TableText:
    """Where it stands, how high, what it carries."""
    stand, supports = plan.structure.posts, plan.structure.supports
    kinds, kind = stand.kinds, int(supports.kind[index])
    places = supports.places

    def said(value: float, how: str) -> str:
        return format_value(float(value), how, units)

    rows: list[tuple[str, str]] = [
        (
            "Stands",
            f"{said(places.east_m[index], 'coordinate')} east, "
            f"{said(places.north_m[index], 'coordinate')} north",
        ),
        ("Ground to bolt", said(supports.reveals_m[index], "tape")),
        ("Row that it carries", said(supports.tributary_m[index], "tape")),
        ("Soil", plan.site.soils[int(supports.soil_of[index])].words),
        (
            f"Sized as kind {letters(plan)[kind]}",
            f"{said(kinds.low_m[kind], 'tape')} to {said(kinds.high_m[kind], 'tape')} high, "
            f"{said(kinds.tributary_m[kind], 'tape')} of the row",
        ),
    ]
    if kinds.sheltered[kind]:
        share = stand.givens.shelter_share or 1.0
        rows.append(("Stands in shelter", f"{said(share, 'ratio')} of the wind across the row"))
    if kinds.drives[kind]:
        rows.append(("Holds", "the drive of its tube, and all that turns it"))
    if plan.has("footings"):
        posts = plan.footings.posts
        if posts.masses_kg is not None:
            rows.append(("Its weight", said(posts.masses_kg[index], "haul")))
        else:
            rows.append(("In the ground", said(posts.depths_m[index], "tape")))
        rows.append(
            ("Length" if posts.steel is not None else "Height", said(posts.lengths_m[index], "tape"))
        )
    return TableText(
        key="support",
        title="Where it stands and what it carries",
        columns=(Column(title="Of this support", number=False), Column(title="Value", number=True)),
        rows=tuple(rows),
        left_out=0,
        note="",
    )


def _cases(plan: Plan, index: int, units: UnitSystem) -> TableText:
    """The cases in which its kind asks for most of anything, with all that acts then."""
    found = plan.structure.reactions.of(int(plan.structure.supports.kind[index]))
    worst = {
        "weight": int(found.down_n.argmax()),
        "pull": int(found.down_n.argmin()),
        "push": int(np.abs(found.push_n).argmax()),
        "moment": int(np.abs(found.tipping_n_m).argmax()),
    }
    if found.twist_n_m.any():
        worst["twist"] = int(found.twist_n_m.argmax())
    if float(found.down_n.min()) >= 0:
        del worst["pull"]
    twisted = "twist" in worst
    rows = []
    for case in dict.fromkeys(worst.values()):
        down = float(found.down_n[case])
        most = ", ".join(what for what, one in worst.items() if one == case)
        rows.append(
            (
                in_words(found.names[case], units),
                most,
                format_value(down, "force", units),
                format_value(float(found.across_n[case]), "force", units),
                format_value(float(found.along_n[case]), "force", units),
                format_value(float(found.moment_n_m[case]), "moment", units),
                format_value(float(found.along_moment_n_m[case]), "moment", units),
                *([format_value(float(found.twist_n_m[case]), "moment", units)] if twisted else []),
            )
        )
    called = called_in_full(plan.rows, plan.structure.supports.places, index).capitalize()
    titles = (
        "Down",
        "To the back",
        "Along",
        "Tips back",
        "Tips along",
        *(["Twist"] if twisted else []),
    )
    return TableText(
        key="cases",
        title=f"{called}: what it asks of the ground, case by case",
        columns=(
            Column(title="Case", number=False),
            Column(title="Most", number=False),
            *(Column(title=title, number=True) for title in titles),
        ),
        rows=tuple(rows),
        left_out=0,
        note="Below nought: lifted, or toward the front.",
    )
