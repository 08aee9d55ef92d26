"""Lists a crew works from, as text in the reader's units."""

import numpy as np

from openfurrow.core.as_built import book_of
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value, in_words
from openfurrow.core.rows.stands import named
from openfurrow.sheets.models import Column, TableText

SHOWN_ROWS = 200


def tickets_table(plan: Plan) -> TableText:
    """Every owner of buried lines and where it stands on the day digging starts."""
    return TableText(
        key="tickets",
        title="Buried lines, on the day digging starts",
        columns=(Column(title="Owner", number=False), Column(title="State", number=False)),
        rows=tuple(
            (line.utility, line.words.removeprefix(line.utility).strip())
            for line in plan.site.locate.lines
        ),
        left_out=0,
        note="The rule is local: waiting time and life of the marks are givens.",
    )


def shadow_table(plan: Plan) -> TableText:
    """The slip: the day's shadows of a plumb pole."""
    slip = plan.sun.slip
    titles = ("Clock", "Sun", "Shadow", "Compass", "String", "Long")
    rows = tuple(
        (
            format_value(clock, "clock", "metric"),
            f"{height:.1f}°",
            f"{shadow:.1f}°",
            f"{compass:.1f}°",
            f"{abs(across):.1f}° {'cw' if across >= 0 else 'acw'}",
            f"{length:.2f} x",
        )
        for clock, height, shadow, compass, across, length in zip(
            slip.clock_h.tolist(),
            slip.altitude_deg.tolist(),
            slip.shadow_deg.tolist(),
            slip.compass_deg.tolist(),
            slip.from_string_deg.tolist(),
            slip.length.tolist(),
            strict=True,
        )
    )
    return TableText(
        key="shadows",
        title=f"Shadow slip, {slip.chosen:%Y-%m-%d}, {slip.chosen.tzname()}",
        columns=tuple(Column(title=title, number=True) for title in titles),
        rows=rows,
        left_out=0,
        note="Shadow: true bearing from the pole. Compass: the same by needle. String: clockwise "
        "(cw) or anticlockwise (acw) of the row's string. Long: times the pole's height, if level.",
    )


def materials_table(plan: Plan, units: UnitSystem) -> TableText:
    """The material list in the order of the job."""
    titles = (
        ("Stage", False),
        ("Item", False),
        ("Order", True),
        ("Drawing takes", True),
        ("Waste", True),
        ("Weight", True),
        ("Where", False),
    )
    rows = tuple(
        (
            line.stage,
            in_words(line.item, units),
            format_value(line.quantity, line.kind, units),
            format_value(line.net, line.kind, units),
            f"+{line.spare}"
            if line.spare
            else format_value(line.waste, "ratio", units)
            if line.waste
            else "",
            format_value(line.mass_kg, "haul", units) if line.mass_kg else "",
            line.where,
        )
        for line in plan.materials.lines
    )
    return TableText(
        key="materials",
        title="What to buy, cut and bring",
        columns=tuple(Column(title=title, number=number) for title, number in titles),
        rows=rows,
        left_out=0,
        note="",
    )


def _not_as_it_stands(unplaced: dict[int, tuple[str, ...]]) -> list[str]:
    """Why some posts are marked with a star, alike ones together."""
    alike: dict[str, list[int]] = {}
    for index, words in unplaced.items():
        alike.setdefault(", ".join(words), []).append(index)
    return [f"* {named(tuple(which), 'post')}: {words}." for words, which in alike.items()]


def _drives(plan: Plan) -> str:
    """Which posts hold the drive of a tube: deeper than those beside them, and never mixed up."""
    posts = plan.structure.posts
    which = np.flatnonzero(posts.kinds.drives[posts.supports.kind])
    return f"Under a drive: {named(tuple(which.tolist()), 'post')}." if which.size else ""


def _built(plan: Plan, units: UnitSystem) -> tuple[str, ...]:
    """How each post of the array that is open stands by now; nothing where none was measured."""
    if "fieldbook" not in plan.built:
        return ()
    posts = [post for post in book_of(plan).posts if post.array == plan.array.id]
    if not any(post.depth_m is not None for post in posts):
        return ()
    return tuple(
        ""
        if post.depth_m is None
        else f"{format_value(post.depth_m, 'tape', units)}{'' if post.verdict == 'sound' else ' !'}"
        for post in posts
    )


def stakes_table(plan: Plan, units: UnitSystem) -> TableText:
    """One line a post; the first few hundred of a large field."""
    stakes = plan.setting_out.stakes
    places, marked = stakes.places, plan.structure.members.at_posts
    roles = plan.structure.posts.roles
    titles = (
        "Post",
        *(["Line"] if len(roles) > 1 else []),
        "Tape",
        "East",
        "North",
        "Ground",
        "Top",
        "Rod low",
        "Rod top",
        "Depth" if stakes.mass_kg is None else "Weight",
        *(["Bore to"] if stakes.bore_m is not None else []),
        *(["Torque"] if stakes.torque_n_m is not None else []),
        "Length",
        *([marked[0].capitalize()] if marked else []),
    )
    columns = (
        (stakes.tape_m, "tape"),
        (places.east_m, "coordinate"),
        (places.north_m, "coordinate"),
        (stakes.ground_m, "tape"),
        (stakes.top_m, "tape"),
        (stakes.rod_ground_m, "tape"),
        (stakes.rod_top_m, "tape"),
        (stakes.depth_m, "tape") if stakes.mass_kg is None else (stakes.mass_kg, "haul"),
        *([(stakes.bore_m, "tape")] if stakes.bore_m is not None else []),
        *([(stakes.torque_n_m, "torque")] if stakes.torque_n_m is not None else []),
        (stakes.length_m, "tape"),
        *([(marked[1], "tape")] if marked else []),
    )
    shown = min(SHOWN_ROWS, places.line.size)
    unplaced = plan.footings.unplaced
    built = _built(plan, units)
    rows = tuple(
        (
            f"{index + 1}{'*' if index in unplaced else ''}",
            *([roles[int(places.role[index])].name.split()[0]] if len(roles) > 1 else []),
            *(format_value(float(values[index]), kind, units) for values, kind in columns),
            *built[index : index + 1],
        )
        for index in range(shown)
    )
    return TableText(
        key="stakes",
        title=f"Stakes{f' of {plan.array.name}' if plan.several else ''}, in the order of the tape",
        columns=tuple(
            Column(title=title, number=True) for title in (*titles, *("Built",) * bool(built))
        ),
        rows=rows,
        left_out=places.line.size - shown,
        note=" ".join(
            filter(
                None,
                (
                    *_not_as_it_stands(unplaced),
                    _drives(plan),
                    "It stands already: nothing is set out, this is where it would stand."
                    if plan.array.standing
                    else "",
                    "Levels are over the ground at the first array's first post."
                    if plan.several
                    else "",
                    "Tape: along the purlins, as they climb with the ground."
                    if float(plan.rows.lie.tables.level_share.min()) < 1.0
                    else "Tape: level.",
                    "Built: the depth it reached; ! does not hold, or two differ." if built else "",
                    "A rod reading below zero: the post's top stands above the line of sight."
                    if float(stakes.rod_top_m.min()) < 0
                    else "",
                ),
            )
        ),
    )
