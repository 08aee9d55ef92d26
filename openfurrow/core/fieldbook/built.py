"""As built beside planned: how deep each post stands, whether it carries so, what to cut, what next."""

import math
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from openfurrow.core.checks import Check, holds
from openfurrow.core.codes import constant
from openfurrow.core.fieldbook.ladder import Ladder, fails_at, ladder_of
from openfurrow.core.fieldbook.records import Record, standing
from openfurrow.core.footings.posts import depth_step_m
from openfurrow.core.paths import in_array
from openfurrow.core.planned import Plan
from openfurrow.core.quantities import spoken
from openfurrow.core.structures.supports import support_id
from openfurrow.core.working import COMMON_PRACTICE

Verdict = Literal["not yet", "sound", "not sound", "asked"]
# A support that is planned further away than this by now is another place.
SAME_PLACE_M = 0.3
# Records that differ by less are the same to whoever reads a tape.
ALIKE_M = 0.006
# Less than any tape shows.
HAIR_M = 1e-6
# More posts than this make no sentence.
MOST_NAMED = 8


@dataclass(frozen=True, kw_only=True)
class BuiltPost:
    """One post: planned and as it stands. ``depth_m`` is the least that was measured of it.

    ``high_m`` is how much higher than planned its top stands: to be cut off; negative stands too low.
    ``fails`` is what it does not carry so, ``next_m`` the next depth at which it carries. ``rod_m`` is
    what the rod on its top should read, ``off_m`` how much higher than that it was read, None where
    nobody has. ``records`` and ``tops`` are what stands of it, more than one where two measured.
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

    @property
    def asked(self) -> bool:
        """Whether two measured the same of it and differ, so that somebody has to look again."""
        return any(
            max(values) - min(values) > ALIKE_M
            for those in (self.records, self.tops)
            if (values := [record.value for record in those])
        )

    @property
    def verdict(self) -> Verdict:
        """What may be said of it."""
        if self.depth_m is None:
            return "not yet"
        if self.fails:
            return "not sound"
        return "asked" if self.asked else "sound"


@dataclass(frozen=True, kw_only=True)
class FieldBook:
    """What was built of the arrays that are to be built, support by support, in their order.

    ``ladders`` are those of the kinds of each array. ``loose`` are records of supports that are gone or
    stand elsewhere by now: shown, never applied.
    """

    posts: tuple[BuiltPost, ...]
    ladders: dict[str, tuple[Ladder, ...]]
    loose: tuple[Record, ...]
    checks: tuple[Check, ...]


def field_book(plan: Plan, records: Iterable[Record]) -> FieldBook:
    """Records beside the plan. Raises Lacking while the footings cannot be planned."""
    known = standing(records)
    ladders: dict[str, tuple[Ladder, ...]] = {}
    posts: list[BuiltPost] = []
    loose: list[Record] = []
    for one in plan.each():
        if one.array.standing:
            continue
        step = depth_step_m(one.site.display_units)
        ladders[one.array.id] = tuple(ladder_of(kind, step) for kind in one.footings.posts.kinds)
        posts += _posts(one, ladders[one.array.id], known, loose)
    here = {post.of for post in posts}
    loose += [record for (of, _), those in known.items() if of not in here for record in those]
    return FieldBook(
        posts=tuple(posts),
        ladders=ladders,
        loose=tuple(loose),
        checks=_checks(tuple(posts), tuple(loose)),
    )


def _posts(
    plan: Plan,
    ladders: tuple[Ladder, ...],
    known: dict[tuple[str, str], tuple[Record, ...]],
    loose: list[Record],
) -> list[BuiltPost]:
    """The posts of the array that is open; records of another place go to the loose ones."""
    places, depths = plan.places, plan.footings.posts.depths_m
    rods_m = plan.setting_out.stakes.rod_top_m
    kinds = plan.structure.supports.kind
    found = []
    for index in range(len(depths)):
        name = support_id(plan.rows, places, index)
        of = f"{plan.array.id}:{name}"
        at = float(places.east_m[index]), float(places.north_m[index])
        near, tops = (_here(known.get((of, about), ()), at, loose) for about in ("depth", "top"))
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
                next_m=None if depth is None else ladders[kind].next_m(depth),
                rod_m=float(rods_m[index]),
                off_m=max(offs, key=abs, default=None),
                records=near,
                tops=tops,
            )
        )
    return found


def _here(
    those: tuple[Record, ...], at: tuple[float, float], loose: list[Record]
) -> tuple[Record, ...]:
    """Those that were measured at this place; the others are loose."""
    near = tuple(r for r in those if math.dist(at, (r.east_m, r.north_m)) <= SAME_PLACE_M)
    loose += [record for record in those if record not in near]
    return near


def _named(posts: list[BuiltPost]) -> str:
    names = [post.of.split(":", 1)[1] for post in posts]
    more = f" and {len(names) - MOST_NAMED} more" if len(names) > MOST_NAMED else ""
    return ", ".join(names[:MOST_NAMED]) + more


def _checks(posts: tuple[BuiltPost, ...], loose: tuple[Record, ...]) -> tuple[Check, ...]:
    """Nothing is said of posts that nobody has measured."""
    measured = [post for post in posts if post.depth_m is not None]
    topped = [post for post in posts if post.off_m is not None]
    if not posts or not (measured or topped or loose):
        return ()
    short = [post for post in measured if post.verdict == "not sound"]
    asked = [post for post in posts if post.asked]
    limit = constant("common", "top_off_line_m")
    off = [post for post in topped if abs(post.off_m or 0.0) > limit.value + HAIR_M]
    # The field that learns of it: a depth that is held.
    depth = in_array((short or asked or measured or list(posts))[0].array, "footings.depth_m")
    return (
        holds(
            "fieldbook",
            "carries",
            "Posts carry at the depth that they reached",
            not short,
            f"{len(short)} of {len(measured)} measured do not: {_named(short)}"
            if short
            else f"all {len(measured)} measured",
            "every one",
            remedy="Nothing is hung on them: drive on, drill, shift them inside what the span allows, "
            "or bore and set them in concrete, as the engineer says.",
            source=COMMON_PRACTICE,
            given=depth,
        ),
        holds(
            "fieldbook",
            "tops",
            "Tops stand on the line",
            not off,
            f"{len(off)} of {len(topped)} read do not: {_named(off)}"
            if off
            else f"all {len(topped)} read",
            f"within {spoken(limit.value, 'tape')}",
            remedy="Cut what stands high, once it carries. What stands low is told to who frames it.",
            source=limit.source,
            given=depth,
            otherwise="look",
        ),
        holds(
            "fieldbook",
            "asked",
            "Nobody measured otherwise",
            not asked,
            f"two differ on {_named(asked)}" if asked else "no two differ",
            "one measure of each",
            remedy="Measure again, both together, and say which it is. Until then the shallower "
            "counts.",
            source=COMMON_PRACTICE,
            given=depth,
            otherwise="look",
        ),
        holds(
            "fieldbook",
            "loose",
            "Every record has its post",
            not loose,
            f"{len(loose)} of posts that are gone or stand elsewhere by now" if loose else "all have",
            "all of them",
            remedy="The plan was changed after they were measured: look where those posts stand.",
            source=COMMON_PRACTICE,
            given=depth,
            otherwise="look",
        ),
    )
