"""What carries a table in the side view, family by family: posts, braces, inclined beam and purlins."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

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
        side_m, high = weights.side_m / 2, weights.deepest_fill_m
        return tuple(
            box("weight", post.x - side_m, post.ground, post.x + side_m, post.ground + high)
            for post in side.posts
        )
    half, depth = plan.structure.posts.post.depth_m / 2, plan.footings.posts.depth_m
    return tuple(
        area(
            "post-buried",
            (post.x - half, post.ground - depth),
            (post.x + half, post.ground - depth),
            (post.x + half, post.ground),
            (post.x - half, post.ground),
        )
        for post in side.posts
    )


def carrying(plan: Plan, side: Side, thick: float) -> tuple[Mark, ...]:
    """Posts over the ground, what braces them, inclined beam and purlins, below ``thick`` of glass."""
    members, givens = plan.structure.members, plan.structure.posts.givens
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
    start, top = beam.start_m, -thick - purlin.depth_m
    return (
        area("beam", *side.strip(start, start + beam.length_m, top - beam.section.depth_m, top)),
        *(
            area("purlin", *side.strip(y - 0.03, y + 0.03, -thick - purlin.depth_m, -thick))
            for y in beam.places_m.tolist()
        ),
    )


def _rails(plan: Plan, side: Side, thick: float) -> tuple[Mark, ...]:
    """A rail, and the pipes under it from their ends."""
    pipe, rail = plan.structure.members.purlin.section, plan.structure.members.beam
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


def _nothing(_: Plan, __: Side) -> tuple[Mark, ...]:
    """A single pole stands by itself."""
    return ()


BRACED: dict[str, Callable[[Plan, Side], tuple[Mark, ...]]] = {
    "one post line": _strut,
    "two post lines": _cross_brace,
    "pipe grid": _cross_brace,
    "ballast frame": _cross_brace,
    "single pole": _nothing,
}
