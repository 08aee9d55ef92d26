"""Posts as built: how deep each stands, whether it carries so, what to cut, what next."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from typing import Literal

from openfurrow.core.checks import MENDED_THERE, Check, holds
from openfurrow.core.codes import constant
from openfurrow.core.fieldbook.places import ALIKE_M, HAIR_M, Known, differ, here, named
from openfurrow.core.fieldbook.records import Record
from openfurrow.core.footings.ladder import Ladder, fails_at, ladder_of
from openfurrow.core.planned import Plan
from openfurrow.core.quantities import spoken
from openfurrow.core.structures.supports import support_id
from openfurrow.core.working import COMMON_PRACTICE

Verdict = Literal["not yet", "sound", "not sound", "asked"]
ABOUT_POSTS = ("depth", "top", "plumb")


@dataclass(frozen=True, kw_only=True)
class BuiltPost:
    """One post: planned and as it stands. ``depth_m`` is the least that was measured of it.

    ``high_m`` is how much higher than planned its top stands: to be cut off; negative stands too low.
    ``fails`` is what it does not carry so, ``next_m`` the next depth at which it carries. ``rod_m`` is
    what the rod on its top should read, ``off_m`` how much higher than that it was read, None where
    nobody has. ``records`` and ``tops`` are what stands of it, more than one where two measured.
    ``poured``: it stands in a bored pier, whose depth is that of its foot; ``screwed``: on a
    screw, likewise.
    """

    of: str
    array: str
    name: str
    kind: int
    east_m: float
    north_m: float
    planned_m: float
    depth_m: float | None
    refused: bool
    high_m: float
    fails: tuple[str, ...]
    next_m: float | None
    rod_m: float
    off_m: float | None
    records: tuple[Record, ...]
    tops: tuple[Record, ...]
    plumbs: tuple[Record, ...] = ()
    poured: bool = False
    screwed: bool = False

    @property
    def leans_deg(self) -> float | None:
        """How far off plumb it was read at most; None where nobody has."""
        return max((record.value for record in self.plumbs), default=None)

    @property
    def asked(self) -> bool:
        """Whether two measured the same of it and differ, so that somebody has to look again."""
        return any(differ(those, ALIKE_M) for those in (self.records, self.tops))

    @property
    def verdict(self) -> Verdict:
        """What may be said of it."""
        if self.depth_m is None:
            return "not yet"
        if self.fails:
            return "not sound"
        return "asked" if self.asked else "sound"


def posts_of(plan: Plan, step_m: float, known: Known, loose: list[Record]) -> list[BuiltPost]:
    """The posts of the array that is open; records of another place go to the loose ones.

    Depths are called in ``step_m``.
    """

    @cache
    def ladder(kind: int) -> Ladder:
        return ladder_of(plan.footings.posts.kinds[kind], step_m)

    places, depths = plan.places, plan.footings.posts.depths_m
    rods_m = plan.setting_out.stakes.rod_top_m
    kinds, rows = plan.structure.supports.kind, plan.rows
    found = []
    for index in range(len(depths)):
        name = support_id(rows, places, index)
        of = f"{plan.array.id}:{name}"
        at = float(places.east_m[index]), float(places.north_m[index])
        near, tops, plumbs = (here(known.get((of, about), ()), at, loose) for about in ABOUT_POSTS)
        # Of two that differ the one counts that is further off the line.
        offs = [float(rods_m[index]) - record.value for record in tops]
        depth = min((record.value for record in near), default=None)
        kind, planned = int(kinds[index]), float(depths[index])
        found.append(
            BuiltPost(
                of=of,
                array=plan.array.id,
                name=name,
                kind=kind,
                east_m=at[0],
                north_m=at[1],
                planned_m=planned,
                depth_m=depth,
                refused=any(record.kind == "refusal" for record in near),
                high_m=0.0 if depth is None else planned - depth,
                fails=() if depth is None else fails_at(plan.footings.posts.kinds[kind], depth),
                next_m=None if depth is None else ladder(kind).next_m(depth),
                poured=plan.footings.piers is not None,
                screwed=plan.footings.screws is not None,
                rod_m=float(rods_m[index]),
                off_m=max(offs, key=abs, default=None),
                records=near,
                tops=tops,
                plumbs=plumbs,
            )
        )
    return found


def post_checks(posts: tuple[BuiltPost, ...]) -> tuple[Check, ...]:
    """Nothing is said of posts that nobody has measured."""
    measured = [post for post in posts if post.depth_m is not None]
    topped = [post for post in posts if post.off_m is not None]
    plumbed = [post for post in posts if post.leans_deg is not None]
    if not (measured or topped or plumbed):
        return ()
    return (
        _carries_check(measured),
        _read_check(posts, measured),
        *(_tops_check(topped),) * bool(topped),
        *(_plumb_check(plumbed),) * bool(plumbed),
        _asked_check([post for post in posts if post.asked]),
    )


def _names(posts: Sequence[BuiltPost]) -> str:
    return named(post.of.split(":", 1)[1] for post in posts)


def _carries_check(measured: Sequence[BuiltPost]) -> Check:
    short = [post for post in measured if post.fails]
    return holds(
        "fieldbook",
        "carries",
        "Posts carry at the depth that they reached",
        not short,
        f"{len(short)} of {len(measured)} measured do not: {_names(short)}"
        if short
        else f"all {len(measured)} measured",
        "every one",
        remedy="Nothing is hung on them: drive on, drill, shift them inside what the span allows, "
        "or bore and set them in concrete, as the engineer says.",
        source=COMMON_PRACTICE,
        given=MENDED_THERE,
    )


def _read_check(posts: Sequence[BuiltPost], measured: Sequence[BuiltPost]) -> Check:
    left = [post for post in posts if post.depth_m is None]
    return holds(
        "fieldbook",
        "posts-read",
        "The depth of every post was read",
        not left,
        f"not looked at: {len(left)} of {len(posts)}" if left else f"all {len(posts)}",
        "each, as it stands",
        remedy="Measure each before it is cut: what was cut off cannot be read any more.",
        source=COMMON_PRACTICE,
        given=MENDED_THERE,
        otherwise="look",
    )


def _tops_check(topped: Sequence[BuiltPost]) -> Check:
    limit = constant("common", "top_off_line_m")
    off = [post for post in topped if abs(post.off_m or 0.0) > limit.value + HAIR_M]
    return holds(
        "fieldbook",
        "tops",
        "Tops stand on the line",
        not off,
        f"{len(off)} of {len(topped)} read do not: {_names(off)}" if off else f"all {len(topped)} read",
        f"within {spoken(limit.value, 'tape')}",
        remedy="Cut what stands high, once it carries. What stands low is told to who frames it.",
        source=limit.source,
        given=MENDED_THERE,
        otherwise="look",
    )


def _plumb_check(plumbed: Sequence[BuiltPost]) -> Check:
    limit = constant("common", "post_plumb_deg")
    off = [post for post in plumbed if (post.leans_deg or 0.0) > limit.value + 1e-9]
    return holds(
        "fieldbook",
        "plumb",
        "Posts stand plumb",
        not off,
        f"{len(off)} of {len(plumbed)} read do not: {_names(off)}"
        if off
        else f"all {len(plumbed)} read",
        f"within {spoken(limit.value, 'angle')}",
        remedy="Pull it straight while the ground still gives, and tamp it: a post that leans is not "
        "bent back at its head.",
        source=limit.source,
        given=MENDED_THERE,
        otherwise="look",
    )


def _asked_check(asked: Sequence[BuiltPost]) -> Check:
    return holds(
        "fieldbook",
        "asked",
        "Nobody measured otherwise",
        not asked,
        f"two differ on {_names(asked)}" if asked else "no two differ",
        "one measure of each",
        remedy="Measure again, both together, and say which it is. Until then the shallower counts.",
        source=COMMON_PRACTICE,
        given=MENDED_THERE,
        otherwise="look",
    )
