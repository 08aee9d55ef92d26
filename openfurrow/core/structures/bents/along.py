"""Wind along the row on two post lines: each line of a table as a plane frame with crossed cables.

Each line takes half, for the glass stands midway between them. Seen from behind the table:

    head o-----o-----o-----o      purlins push and pull from head to head,
         |     |\\   /|     |      cables cross some bays and only pull,
         |     | \\ / |     |      posts bend about their weak axis,
         |     |/   \\|     |      feet are held by the ground or, where cables stand, turn in it.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack, constant, table
from openfurrow.core.frames import PlaneFrame, seen_above, solved_with_ties
from openfurrow.core.loads.along import SeenAlong, along_n
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.members.resistance import weak_limit_n_m
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.bents.shape import FEET, LEAST_RISE_M, BentShape
from openfurrow.core.structures.stand import Stand

Floats = NDArray[np.float64]
WAYS = tuple(FEET)
Integers = NDArray[np.int64]

# Lines whose posts are as high within such a step, and climb alike, are solved once, for both bounds.
HEIGHT_STEP_M, RISE_STEP = 0.05, 0.02
# More than this are thrown together by wider steps.
MOST_LINES = 48


@dataclass(frozen=True, kw_only=True)
class Cable:
    """The cables of crossed bays: ``lengths_m`` from bolt to bolt, ``pull_n`` on the tightest."""

    name: str
    lengths_m: Floats
    pull_n: float
    limit_n: float
    mass_kg_per_m: float


@dataclass(frozen=True, kw_only=True)
class Along:
    """Wind along the row, unfactored: on each table, and what each post gets of it at the ground.

    What posts get is (3, supports), with feet in each of `WAYS`; without cables none may turn, and the
    last is as the first. ``post_down_n`` is how much a post is pressed or lifted. ``bending_n_m`` is
    the most that one bends about its weak axis over the ground, and what the cable pulls, as strength
    takes it.
    """

    table_n: Floats
    post_n: Floats
    post_n_m: Floats
    post_down_n: Floats
    bending_n_m: float
    bending_limit_n_m: float
    cable: Cable | None


def crossed(spans: int, bays: int) -> Integers:
    """Which spans of a table are crossed: so many, as evenly along it as they go."""
    count = min(bays, spans)
    return np.unique(((np.arange(count) + 0.5) * spans / max(count, 1)).astype(np.int64))


def wind_along(
    pack: RulePack,
    rows: RowsPlan,
    posts: Stand,
    loads: TableLoads,
    beams: tuple[BentShape, Integers],
    braced_bays: int,
) -> Along:
    """Every line of every table under the wind on its half of the table and on its own posts.

    ``beams`` are the shape of a bent and how many beams each table has; ``braced_bays`` are crossed.
    """
    shape, _ = beams
    on_table, on_post = _pushed(pack, rows, posts, loads, beams)
    supports, places = posts.supports, posts.supports.places
    over = _over_heads_m(shape)
    found, factor = np.zeros((3, len(WAYS), supports.count)), float(loads.strength.wind.max())
    bending, pull, lengths = 0.0, 0.0, []
    cable = posts.givens.cable if braced_bays else None
    first = np.flatnonzero(places.ordinal == 0)
    counts = np.array([line.count for line in posts.lines])[posts.line_of[places.of_table[first]]]
    for lines in _alike(rows, posts, first, counts):
        one = first[lines[0]]
        here = np.arange(counts[lines[0]])
        mine = first[lines][:, None] + here
        at_m = places.from_middle_m[one + here]
        rise = rows.lie.rise_along[places.of_table[first[lines]]]
        reveals = supports.reveals_m[mine]
        head = (
            on_table[places.of_table[first[lines]]].max() / 2 * posts.supports.tributary_m[one + here]
        )
        head = head / posts.supports.tributary_m[one + here].sum()
        own = on_post[mine].max(axis=0)
        bays = crossed(here.size - 1, braced_bays)
        forces = _line(
            at_m,
            tuple(
                np.maximum(pick(axis=0) + over, shape.brace_foot_m + LEAST_RISE_M)
                for pick in (reveals.max, reveals.min)
            ),
            float(rise[np.abs(rise).argmax()]),
            head + own / 2,
            _Posts(posts, shape.brace_foot_m, bays, cable),
        )
        found[:, :, mine] = forces.feet[:, :, None, :]
        found[0][:, mine] += own / 2
        bending, pull = max(bending, forces.bending_n_m), max(pull, forces.pull_n)
        if cable is not None:
            lengths.append(_cables_m(at_m, reveals, shape.brace_foot_m, bays, rise))
    return Along(
        table_n=on_table + np.bincount(places.of_table, on_post, rows.tables.count),
        post_n=found[0],
        post_n_m=found[1],
        post_down_n=found[2],
        bending_n_m=bending * factor,
        bending_limit_n_m=weak_limit_n_m(posts.post, pack),
        cable=None if cable is None else _cable(pack, cable, np.concatenate(lengths), pull * factor),
    )


def _pushed(
    pack: RulePack,
    rows: RowsPlan,
    posts: Stand,
    loads: TableLoads,
    beams: tuple[BentShape, Integers],
) -> tuple[Floats, Floats]:
    """What wind along the row does to each table over its heads, and to each post."""
    (shape, count), givens = beams, posts.givens
    section, supports = rows.section, posts.supports
    of, tables = supports.places.of_table, rows.tables.count
    brace_m2 = np.zeros(tables)
    if shape.brace is not None:
        fronts = posts.of_role(0)
        apart = posts.roles[1].back_m - posts.roles[0].back_m
        rise = posts.roles[1].up_m - posts.roles[0].up_m
        long = np.hypot(apart, rise + supports.reveals_m[fronts] - givens.brace_foot_m)
        np.add.at(brace_m2, of[fronts], shape.brace.depth_m * long)
    glass = SeenAlong(
        rubbed_m2=2 * section.chord_m * rows.tables.lengths_m,
        flat_m2=np.asarray(shape.edge_m * section.chord_m + count * shape.beam.depth_m * shape.beam_m),
        round_m2=brace_m2,
    )
    pipe, seen_m2 = posts.post.shape == "pipe", posts.post.depth_m * supports.reveals_m
    own = SeenAlong(
        rubbed_m2=np.zeros(supports.count),
        flat_m2=np.zeros(supports.count) if pipe else seen_m2,
        round_m2=seen_m2 if pipe else np.zeros(supports.count),
    )
    on_glass, on_post = (along_n(pack, loads.wind.velocity_pa, seen) for seen in (glass, own))
    return on_glass, on_post


def _over_heads_m(shape: BentShape) -> float:
    """All that hangs on the heads is taken at the glass over them."""
    return float(shape.section.stack_m * np.cos(np.radians(shape.section.tilt_deg)))


def _alike(rows: RowsPlan, posts: Stand, first: Integers, counts: Integers) -> list[Integers]:
    """Lines of posts that are solved together: of one table's shape, as high and as steep."""
    places, reveals = posts.supports.places, posts.supports.reveals_m
    of = places.of_table[first]
    rise = rows.lie.rise_along[of]
    step = 1.0
    while True:
        groups: dict[tuple[int, int, int, bytes], list[int]] = {}
        for line, (start, count) in enumerate(zip(first.tolist(), counts.tolist(), strict=True)):
            high = np.floor(reveals[start : start + count] / (step * HEIGHT_STEP_M) + 1e-9)
            key = (
                int(posts.line_of[of[line]]),
                int(places.role[start]),
                round(float(rise[line]) / (step * RISE_STEP)),
                high.astype(np.int32).tobytes(),
            )
            groups.setdefault(key, []).append(line)
        if len(groups) <= max(MOST_LINES, 2 * len(posts.lines)):
            return [np.array(lines) for lines in groups.values()]
        step *= 2


@dataclass(frozen=True)
class _Posts:
    """What stands in a line: posts, where cables meet them, the crossed bays and their cable."""

    stand: Stand
    tie_m: float
    bays: Integers
    cable: str | None


@dataclass(frozen=True)
class _LineForces:
    """At each foot push, moment and pressing or lifting, the most with feet in each of `WAYS`.

    ``feet`` is (3, ways, posts).
    """

    feet: Floats
    bending_n_m: float
    pull_n: float


def _line(
    at_m: Floats, heights_m: tuple[Floats, Floats], rise: float, head_n: Floats, which: _Posts
) -> _LineForces:
    """One line under wind from either end, its posts at their greatest and at their least height.

    With feet held at the ground and below it and, where cables stand, with feet that turn.
    """
    count, cables = at_m.size, which.cable is not None and which.bays.size > 0
    heads = np.column_stack((at_m, rise * at_m))
    ways = WAYS if cables else WAYS[:2]
    bounds = [(height, way) for height in heights_m for way in ways]
    deep = constant("common", "fixity_m").value
    below = np.array([deep if way == "held below" else 0.0 for _, way in bounds])
    joints = np.stack(
        [
            np.concatenate(
                (
                    heads - np.column_stack((np.zeros(count), height + under)),
                    heads - np.column_stack((np.zeros(count), height - which.tie_m)),
                    heads,
                )
            )
            for (height, _), under in zip(bounds, below.tolist(), strict=True)
        ]
    )
    every = np.arange(count)
    foot, tie, head = every, every + count, every + 2 * count
    ends = [*np.column_stack((foot, tie)).tolist(), *np.column_stack((tie, head)).tolist()]
    ends += np.column_stack((head[:-1], head[1:])).tolist()
    posts, bars = 2 * count, len(ends)
    if cables:
        for bay in which.bays.tolist():
            ends += [[int(tie[bay]), int(head[bay + 1])], [int(tie[bay + 1]), int(head[bay])]]
    steel, rope = (constant("common", f"{name}_modulus_pa").value for name in ("steel", "cable"))
    post = which.stand.post
    axial = np.full(len(ends), steel * post.area_m2)
    # Purlins are many and stiff beside what they hold up.
    axial[posts:bars] = 10 * steel * post.area_m2
    if cables:
        data = table("common", "cable")
        axial[bars:] = rope * data.number("area_m2", data.row("cable", str(which.cable)))
    bends = np.zeros(len(ends))
    bends[:posts] = steel * post.weak_inertia_m4
    hinged = np.zeros((len(ends), 2), dtype=bool)
    hinged[count:posts, 1] = True
    held = np.zeros((len(bounds), 3 * count, 3), dtype=bool)
    held[:, :count, :2] = True
    held[:, :count, 2] = np.array([way != "turns" for _, way in bounds])[:, None]
    loads = np.zeros((1, 2, 3 * count, 3))
    loads[0, 0, head, 0], loads[0, 1, head, 0] = head_n, -head_n
    frame = PlaneFrame(
        joints_m=joints,
        ends=np.array(ends),
        axial_n=axial,
        bending_n_m2=bends,
        hinged=hinged,
        held=held,
    )
    whole = solved_with_ties(frame, loads, np.arange(bars, len(ends)))
    _, found = seen_above(frame, whole, (every, every), below)
    # Heights by feet: the most of both heights and both ways of the wind.
    at_feet = np.abs(found.reactions[:, :, :count]).max(axis=1).reshape(2, len(ways), count, 3)
    most = at_feet.max(axis=0)
    most = np.concatenate((most, most[: len(WAYS) - len(ways)]))
    return _LineForces(
        feet=np.moveaxis(most[..., [0, 2, 1]], -1, 0),
        bending_n_m=float(np.abs(found.moments_n_m[:, :, :posts]).max()),
        pull_n=float(found.pull_n[:, :, bars:].max(initial=0.0)),
    )


def _cables_m(at_m: Floats, reveals_m: Floats, tie_m: float, bays: Integers, rise: Floats) -> Floats:
    """Every cable of these lines from bolt to bolt, (lines x bays x 2)."""
    span = np.diff(at_m)[bays]
    climb = rise[:, None] * span
    up = np.hypot(span, climb + reveals_m[:, bays] - tie_m)
    down = np.hypot(span, reveals_m[:, bays + 1] - tie_m - climb)
    return np.stack((up, down), axis=-1).ravel()


def _cable(pack: RulePack, name: str, lengths_m: Floats, pull_n: float) -> Cable:
    data = table("common", "cable")
    row = data.row("cable", name)
    grip, safety = constant("common", "cable_grip").value, constant(pack, "cable_safety").value
    return Cable(
        name=name,
        lengths_m=lengths_m,
        pull_n=pull_n,
        limit_n=data.number("breaking_n", row) * grip / safety,
        mass_kg_per_m=data.number("mass_kg_per_m", row),
    )
