"""Frame: the row seen from the front, with the pieces that its purlins are cut to."""

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.footings.piles import Piles
from openfurrow.core.frame.cutting import PurlinLine
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.core.structures.bents.along import crossed
from openfurrow.sheets.drawings.carrying import Upright, behind, pile_marks
from openfurrow.sheets.marks import Drawing, Mark, area, box, dimension, drawing, label, line

Floats = NDArray[np.float64]

# How far over the bolt purlins lie, as they are drawn from the front.
OVER_BOLT_M = 0.2


def frame_drawing(plan: Plan, units: UnitSystem) -> tuple[Drawing, ...]:
    """Elevation of one table with its splices."""
    return (_elevation(plan, units),)


def _elevation(plan: Plan, units: UnitSystem) -> Drawing:
    posts, frame = plan.structure.posts, plan.frame
    rows = plan.rows
    # The first of the tables that most are like.
    table = int(frame.cuts[0].tables[0])
    on = posts.lines[posts.line_of[table]]
    # The purlin climbs with its row: seen from the front it covers less than its length.
    share = float(rows.tables.level_share[table])
    supports, length = share * on.along_m, share * on.purlin_m
    rise = float(rows.lie.rise_along[table])
    depth = plan.structure.members.purlin.section.depth_m
    first = int(np.searchsorted(posts.supports.places.of_table, table))
    datum = float(posts.supports.ground_m[first])

    def ground_at(x: Floats) -> Floats:
        """Ground along that table's posts, over that at its first post."""
        at = rows.tables.east_north_m(np.full(x.shape, table), x / share - on.purlin_m / 2, 0.0)
        return plan.site.ground.level_m(*at) - datum

    def ground(x: float) -> float:
        return float(ground_at(np.array([x]))[0])

    bolt = float(rows.lie.edge_at(table, -on.purlin_m / 2)) + rows.section.bolt_z_m - datum
    # Purlins lie over the beams; of a grid the pipe of the front line is drawn, on its posts' heads.
    rails = plan.structure.members.stock.under_rails
    front = posts.roles[0].up_m
    top = bolt + (front - depth / 2 if rails else front if posts.noun == "pile" else OVER_BOLT_M)

    def row(x: float) -> float:
        return rise * x

    stations = np.linspace(-0.6, length + 0.6, 2 if plan.site.known.surface is None else 60)
    line_of = list(zip(stations.tolist(), ground_at(stations).tolist(), strict=True))
    floor = min(z for _, z in line_of) - 0.95
    marks: list[Mark] = [
        area("soil", *line_of, (length + 0.6, floor), (-0.6, floor)),
        line("ground", *line_of),
    ]
    # Half way to the ground, behind the posts: over the line measures stand.
    turned, both = frame.cuts[0].turned, rails and len(posts.roles) > 1
    half = (bolt + ground(length / 2) - row(length / 2)) / 2
    if turned is not None and not both:
        marks += _turned_line(plan, turned, share, lambda x: row(x) + half)
    marks += _uprights(plan, table, supports, lambda x: row(x) + bolt)
    back = bolt + posts.roles[-1].up_m
    if both and turned is not None:
        marks += _turned_line(plan, turned, share, lambda x: row(x) + back - depth / 2)
    elif both:
        ends = [(x, row(x) + back) for x in (0.0, length)]
        upper = [(x, z + depth / 2) for x, z in ends]
        marks.append(area("post-behind", *upper, *((x, z - depth / 2) for x, z in reversed(ends))))
    for number, (mark, piece) in enumerate(zip(frame.line.starts_m, frame.line.lengths_m, strict=True)):
        begin, end = share * mark, share * (mark + piece)
        lift = 0.0 if number % 2 == 0 else depth * 0.35
        marks.append(
            area(
                "purlin",
                (begin, row(begin) + top + lift),
                (end, row(end) + top + lift),
                (end, row(end) + top + lift + depth),
                (begin, row(begin) + top + lift + depth),
            )
        )
        marks.append(
            dimension(
                format_value(piece, "tape", units),
                (begin, row(begin) + top + depth),
                (end, row(end) + top + depth),
                7 if number % 2 == 0 else 15,
            )
        )
    spans = list(zip(supports[:-1].tolist(), supports[1:].tolist(), strict=True))
    for a, b in spans[:1] + spans[-1:] if len(spans) > 4 else spans:
        marks.append(
            dimension(format_value((b - a) / share, "tape", units), (a, floor + 0.2), (b, floor + 0.2))
        )
    marks.append(
        dimension(
            format_value(float(on.along_m[0]), "tape", units),
            (0.0, floor - 0.6),
            (float(supports[0]), floor - 0.6),
        )
    )
    return drawing(
        "elevation",
        _title(plan),
        marks,
        margin=0.4,
    )


def _turned_line(
    plan: Plan, turned: PurlinLine, share: float, at: Callable[[float], float]
) -> list[Mark]:
    """The line behind, where every other is turned round: its pieces, each end past the next."""
    depth, marks = plan.structure.members.purlin.section.depth_m, []
    for number, (start, long) in enumerate(zip(turned.starts_m, turned.lengths_m, strict=True)):
        begin, end = share * start, share * (start + long)
        lift = 0.0 if number % 2 == 0 else depth * 0.35
        low = [(x, at(x) + lift) for x in (begin, end)]
        marks.append(area("post-behind", *low, *((x, z + depth) for x, z in reversed(low))))
    words = f"every other {plan.structure.members.stock.word}, from the other end"
    middle = share * plan.frame.cuts[0].length_m / 2
    marks.append(label(words, (middle, at(middle) + 3 * depth)))
    return marks


def _title(plan: Plan) -> str:
    stock = plan.structure.members.stock
    if not plan.structure.posts.spaced:
        return f"One table along the row: {plan.structure.posts.roles[0].name} and {stock.word}"
    return (
        f"One table along the row: {plan.structure.posts.noun}s, {stock.word} pieces, "
        f"{'laps' if stock.laps else 'couplers'}"
    )


def _uprights(plan: Plan, table: int, along_m: Floats, bolt_at: Callable[[float], float]) -> list[Mark]:
    """The posts of a table from the front, those behind first, with the cables that cross bays.

    ``bolt_at`` is where the table's own bolt would lie; beams are seen from their ends.
    """
    posts, places = plan.structure.posts, plan.structure.supports.places
    lying = plan.structure.members.beam
    if lying is None:
        return _piles_from_front(plan, table, along_m, bolt_at)
    half, beam = posts.post.width_m / 2, lying.section.width_m / 2
    givens, stock = posts.givens, plan.structure.members.stock
    marks: list[Mark] = []
    over = posts.bent.top_m if stock.under_rails else 0.0 if len(posts.roles) > 1 else OVER_BOLT_M
    for number, role in reversed(list(enumerate(posts.roles))):
        mine = np.flatnonzero((places.of_table == table) & (places.role == number))
        heads = [bolt_at(x) + role.up_m for x in along_m.tolist()]
        feet = (np.array(heads) - posts.supports.reveals_m[mine]).tolist()
        behind = number > 0
        for x, foot, head in zip(along_m.tolist(), feet, heads, strict=True):
            top = head + over
            marks.append(box("post-behind" if behind else "post", x - half, foot, x + half, top))
            if len(posts.roles) > 1 and not behind and not stock.under_rails:
                rise = posts.roles[-1].up_m - role.up_m
                marks.append(box("beam", x - beam, head, x + beam, head + rise))
        if givens.family in ("two post lines", "ballast frame"):
            for bay in crossed(along_m.size - 1, givens.braced_bays).tolist():
                ends = [
                    (float(along_m[at]), feet[at] + givens.brace_foot_m, heads[at])
                    for at in (bay, bay + 1)
                ]
                for first, second in (ends, ends[::-1]):
                    marks.append(line("cable", (first[0], first[1]), (second[0], second[2])))
    return marks


def _piles_from_front(
    plan: Plan, table: int, along_m: Floats, bolt_at: Callable[[float], float]
) -> list[Mark]:
    """The piles of a table from the front, layer by layer, those behind first; none before the soil
    under them is known.
    """
    posts, places = plan.structure.posts, plan.structure.supports.places
    piles = plan.footings.weights if plan.has("footings") else None
    if not isinstance(piles, Piles):
        return []
    marks: list[Mark] = []
    for number, role in reversed(list(enumerate(posts.roles))):
        mine = np.flatnonzero((places.of_table == table) & (places.role == number))
        for x, high in zip(along_m.tolist(), posts.supports.reveals_m[mine].tolist(), strict=True):
            top = bolt_at(x) + role.up_m
            stands = Upright(x, top - high, top)
            marks += pile_marks(piles, stands) if number == 0 else [behind(piles, stands)]
    return marks
