"""Wind along the row on two lines of posts: each takes half, for the glass stands midway between."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack, constant, table
from openfurrow.core.loads.along import SeenAlong, along_n
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.members.resistance import weak_limit_n_m
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.bents.line import WAYS, Line, line_forces
from openfurrow.core.structures.bents.shape import LEAST_RISE_M, BentShape
from openfurrow.core.structures.stand import Stand

Floats = NDArray[np.float64]
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

    def higher(reveals_m: Floats) -> Floats:
        """Posts up to the glass, where what hangs on their heads is taken to act."""
        return np.maximum(reveals_m + over, shape.brace_foot_m + LEAST_RISE_M)

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
        share = supports.tributary_m[one + here]
        head = on_table[places.of_table[first[lines]]].max() / 2 * share / share.sum()
        own = on_post[mine].max(axis=0)
        bays = crossed(here.size - 1, braced_bays)
        line = Line(
            at_m=at_m,
            heights_m=(higher(reveals.max(axis=0)), higher(reveals.min(axis=0))),
            rise=float(rise[np.abs(rise).argmax()]),
            post=posts.post,
            tie_m=shape.brace_foot_m,
            bays=bays,
            cable=cable,
        )
        forces = line_forces(line, head + own / 2)
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
