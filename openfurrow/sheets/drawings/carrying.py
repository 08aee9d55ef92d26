"""What carries a table in the side view, family by family: posts, braces, inclined beam and purlins."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from openfurrow.core.footings.ballast_givens import STRAP
from openfurrow.core.footings.body import bell_high_m
from openfurrow.core.footings.bored.bore import Piers
from openfurrow.core.footings.piles import HAIR_M, Piles, layers_in
from openfurrow.core.footings.turned.screw import Screws
from openfurrow.core.frame.mover.arm import triangle_of
from openfurrow.core.plan import Plan
from openfurrow.core.structures.one_post_line.all_members import Members as OnePostLine
from openfurrow.sheets.marks import Mark, Point, area, box, line, turned


@dataclass(frozen=True)
class Upright:
    """A post in the side view: where it stands, the ground there and its bolt over that level."""

    x: float
    ground: float
    bolt: float


@dataclass(frozen=True)
class Side:
    """Where one table stands in the side view: its lower edge, its tilt, its posts from the front."""

    base: Point
    tilt_deg: float
    posts: tuple[Upright, ...]

    def strip(self, y0: float, y1: float, z0: float, z1: float) -> tuple[Point, ...]:
        """A box lying up the slope: along the glass, and square to it."""
        return turned(((y0, z0), (y1, z0), (y1, z1), (y0, z1)), self.base, self.tilt_deg)

    def at(self, y: float, z: float) -> Point:
        """A place up the slope and square to it."""
        return turned(((y, z),), self.base, self.tilt_deg)[0]


def buried(plan: Plan, side: Side) -> tuple[Mark, ...]:
    """The posts below the ground, or the weights that they stand in."""
    if (weights := plan.footings.weights) is not None:
        if isinstance(weights, Piles):
            return tuple(mark for post in side.posts for mark in pile_marks(weights, post))
        side_m, high = weights.side_m / 2, weights.deepest_fill_m
        return tuple(
            box("weight", post.x - side_m, post.ground, post.x + side_m, post.ground + high)
            for post in side.posts
        )
    half, depth = plan.structure.posts.post.depth_m / 2, plan.footings.posts.depth_m
    piers = plan.footings.piers
    around = tuple(mark for post in side.posts for mark in _pier(piers, post)) if piers else ()
    if piers:
        depth = float(piers.post_in_m.max())
    if (screws := plan.footings.screws) is not None:
        half, depth = screws.shaft.depth_m / 2, float(screws.depths_m.max())
        around = tuple(mark for post in side.posts for mark in _thread(screws, post))
    return around + tuple(
        area(
            "post-buried",
            (post.x - half, post.ground - depth),
            (post.x + half, post.ground - depth),
            (post.x + half, post.ground),
            (post.x - half, post.ground),
        )
        for post in side.posts
    )


def pile_marks(piles: Piles, pile: Upright) -> tuple[Mark, ...]:
    """Layers of blocks as they lie from the ground up, and what is packed over them."""
    base, laid = piles.base, piles.block
    half, low = piles.side_m / 2, pile.ground + base.height_m
    marks = []
    if base.is_laid:
        wide = min(base.length_m, base.width_m) / 2
        marks.append(box("stone", pile.x - wide, pile.ground, pile.x + wide, low))
    layers = int(layers_in(np.array(pile.bolt - low), laid))
    tops = (low + laid.height_m * np.arange(1, layers + 1)).tolist()
    marks += [box("weight", pile.x - half, top - laid.height_m, pile.x + half, top) for top in tops]
    if pile.bolt - tops[-1] > HAIR_M:
        marks.append(box("packing", pile.x - half / 2, tops[-1], pile.x + half / 2, pile.bolt))
    if piles.tied_by == STRAP:
        foot = pile.ground if base.tied else low
        around = ((-half, foot), (-half, pile.bolt), (half, pile.bolt), (half, foot))
        marks.append(line("strap", *((pile.x + x, z) for x, z in (*around, around[0]))))
    return tuple(marks)


def behind(piles: Piles, pile: Upright) -> Mark:
    """A pile that stands behind others."""
    half = piles.side_m / 2
    return box("post-behind", pile.x - half, pile.ground, pile.x + half, pile.bolt)


def _pier(piers: Piers, post: Upright) -> tuple[Mark, ...]:
    """The concrete of the deepest pier around a post, its bell, the stone below it."""
    half, foot = piers.diameter_m / 2, post.ground - float(piers.depths_m.max())
    wide = max(half, (piers.bell_m or 0.0) / 2)
    neck = foot + bell_high_m(piers.diameter_m, piers.bell_m)
    top = post.ground + piers.top_m
    outline = [(half, top), (half, neck), (wide, foot), (-wide, foot), (-half, neck), (-half, top)]
    marks = [area("pier", *((post.x + x, z) for x, z in outline))]
    if piers.stone_m > 0:
        marks.append(box("stone", post.x - wide, foot - piers.stone_m, post.x + wide, foot))
    return tuple(marks)


# A turn of thread in a drilled hole, and how steep a helix is drawn.
THREAD_M, HELIX_RISE_M = 0.12, 0.035


def _thread(screws: Screws, post: Upright) -> tuple[Mark, ...]:
    """The helix near the foot of the deepest screw, or the thread all along one in drilled rock."""
    deep = float(screws.depths_m.max())
    if not screws.rock:
        half, z = screws.helix_m / 2, post.ground - deep + THREAD_M
        return (line("helix", (post.x - half, z - HELIX_RISE_M), (post.x + half, z + HELIX_RISE_M)),)
    half = screws.shaft.depth_m * 0.8
    return tuple(
        line("helix", (post.x - half, z - half / 2), (post.x + half, z + half / 2))
        for z in (post.ground - np.arange(THREAD_M, deep, THREAD_M)).tolist()
    )


def carrying(plan: Plan, side: Side, thick: float) -> tuple[Mark, ...]:
    """Posts over the ground, what braces them, inclined beam and purlins, below ``thick`` of glass."""
    members, givens = plan.structure.members, plan.structure.posts.givens
    if plan.structure.posts.bent.stands == "on piles":
        return _purlins(plan, side, thick)
    half, top = plan.structure.posts.post.depth_m / 2, plan.structure.posts.bent.top_m
    lying = _rails if members.stock.under_rails else _beams
    return (
        *(
            area(
                "post",
                (post.x - half, post.ground),
                (post.x + half, post.ground),
                (post.x + half, post.bolt + top),
                (post.x - half, post.bolt + top),
            )
            for post in side.posts
        ),
        *BRACED[givens.family](plan, side),
        *lying(plan, side, thick),
    )


def _beams(plan: Plan, side: Side, thick: float) -> tuple[Mark, ...]:
    """The inclined beam, and purlins on it."""
    purlin, beam = plan.structure.members.purlin.section, plan.structure.members.beam
    assert beam is not None
    start, top = beam.start_m, -thick - purlin.depth_m
    return (
        area("beam", *side.strip(start, start + beam.length_m, top - beam.section.depth_m, top)),
        *_purlins(plan, side, thick),
    )


def _purlins(plan: Plan, side: Side, thick: float) -> tuple[Mark, ...]:
    """Purlins from their ends."""
    members = plan.structure.members
    return tuple(
        area("purlin", *side.strip(y - 0.03, y + 0.03, -thick - members.purlin.section.depth_m, -thick))
        for y in members.places_m.tolist()
    )


def _rails(plan: Plan, side: Side, thick: float) -> tuple[Mark, ...]:
    """A rail, and the pipes under it from their ends."""
    pipe, rail = plan.structure.members.purlin.section, plan.structure.members.beam
    assert rail is not None
    axis, low = -plan.rows.section.stack_m, -thick - rail.section.depth_m
    around = np.linspace(0, 2 * np.pi, 24, endpoint=False)
    circles = [
        [side.at(y + pipe.depth_m / 2 * np.cos(a), axis + pipe.depth_m / 2 * np.sin(a)) for a in around]
        for y in rail.places_m.tolist()
    ]
    return (
        area("beam", *side.strip(rail.start_m, rail.start_m + rail.length_m, low, -thick)),
        *(area("purlin", *circle) for circle in circles),
    )


def _strut(plan: Plan, side: Side) -> tuple[Mark, ...]:
    """One post line: from the post's foot up to the beam."""
    members = plan.structure.members
    assert isinstance(members, OnePostLine)
    post, beam = side.posts[0], members.beam
    head = side.at(beam.start_m + beam.strut_m, -plan.rows.section.stack_m)
    return (line("strut", (post.x, post.ground + members.strut.foot_m), head),)


def _cross_brace(plan: Plan, side: Side) -> tuple[Mark, ...]:
    """Two lines of posts: from low on the front post to the head of the back one."""
    givens, (front, back) = plan.structure.posts.givens, side.posts
    if not givens.is_braced:
        return ()
    # Where a pipe is saddled on the post, the brace meets it under that.
    head = back.bolt + min(0.0, plan.structure.posts.bent.top_m)
    return (line("strut", (front.x, front.ground + givens.brace_foot_m), (back.x, head)),)


# How thick an actuator's tube is drawn.
TUBE_M = 0.05


def _actuator(plan: Plan, side: Side) -> tuple[Mark, ...]:
    """A single pole stands by itself; one that follows the sun is tilted by its actuator."""
    givens, (pole,) = plan.structure.posts.givens, side.posts
    if givens.travel is None or not givens.travel.tilts:
        return ()
    triangle, head = triangle_of(givens), np.array([pole.x, pole.bolt])
    foot, bolt = head + triangle.foot_m, head + triangle.bolt_m(side.tilt_deg)
    way = (bolt - foot) / np.hypot(*(bolt - foot))
    aside, end = np.array([-way[1], way[0]]) * TUBE_M / 2, foot + way * 0.8 * givens.drawn_in_m
    tube = [(float(x), float(z)) for x, z in (foot - aside, foot + aside, end + aside, end - aside)]
    lower, upper = ((float(x), float(z)) for x, z in (foot, bolt))
    bracket = line("strut", (pole.x, lower[1]), lower)
    return (bracket, line("strut", lower, upper), area("beam", *tube))


# How far the housing of a drive or of a bearing stands out round its tube.
HOUSING_M = 0.05


def _housing(plan: Plan, side: Side) -> tuple[Mark, ...]:
    """What a lying tube turns in, on the post's head."""
    (post,) = side.posts
    radius = plan.structure.members.purlin.section.depth_m / 2 + HOUSING_M
    around = np.linspace(0, 2 * np.pi, 24, endpoint=False)
    circle = [(post.x + radius * np.cos(a), post.bolt + radius * np.sin(a)) for a in around.tolist()]
    return (area("post", *circle),)


BRACED: dict[str, Callable[[Plan, Side], tuple[Mark, ...]]] = {
    "one post line": _strut,
    "two post lines": _cross_brace,
    "pipe grid": _cross_brace,
    "ballast frame": _cross_brace,
    "single pole": _actuator,
    "turning tube": _housing,
}
