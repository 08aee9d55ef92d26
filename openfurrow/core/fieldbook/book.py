"""The field book: all that was measured and written down on site, beside what was planned."""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

from openfurrow.core.checks import MENDED_THERE, Check, holds
from openfurrow.core.design import Design
from openfurrow.core.fieldbook.inspections import Inspection, inspection_checks, inspections_of
from openfurrow.core.fieldbook.loads import Counted, counted_of, load_checks
from openfurrow.core.fieldbook.places import Known
from openfurrow.core.fieldbook.posts import ABOUT_POSTS, BuiltPost, post_checks, posts_of
from openfurrow.core.fieldbook.records import Record, standing
from openfurrow.core.fieldbook.serials import Serials, serial_checks, serials_of
from openfurrow.core.fieldbook.strings import ABOUT_STRINGS, Tested, string_checks, tested
from openfurrow.core.fieldbook.trench import Station, cover_checks, stations
from openfurrow.core.footings.ladder import Ladder, ladder_of
from openfurrow.core.footings.posts import SizedKind, depth_step_m
from openfurrow.core.planned import Plan
from openfurrow.core.working import COMMON_PRACTICE, Answer, Input, Source, Working

MEASURED = Source("measured on site", "given")


@dataclass(frozen=True, kw_only=True)
class FieldBook:
    """What was built of the arrays that are to be built, thing by thing, in their order.

    ``kinds`` are those of the posts of each array. ``loose`` are records of things that are gone or
    stand elsewhere by now: shown, never applied. ``covers`` and ``strings`` are empty while trench and
    wiring cannot be planned.
    """

    posts: tuple[BuiltPost, ...]
    kinds: dict[str, tuple[SizedKind, ...]]
    step_m: float
    covers: tuple[Station, ...]
    strings: tuple[Tested, ...]
    serials: Serials
    counted: tuple[Counted, ...]
    inspections: tuple[Inspection, ...]
    loose: tuple[Record, ...]
    records: int
    answers: tuple[Answer, ...] = ()
    checks: tuple[Check, ...] = ()

    @cached_property
    def ladders(self) -> dict[str, tuple[Ladder, ...]]:
        """The ladder of every kind of each array: only who goes out with them waits for them."""
        return {
            array: tuple(ladder_of(kind, self.step_m) for kind in kinds)
            for array, kinds in self.kinds.items()
        }


def field_book(design: Design, plan: Plan, records: Iterable[Record]) -> FieldBook:
    """Records beside the plan. Raises Lacking while the footings cannot be planned."""
    every = tuple(records)
    known = standing(every)
    loose: list[Record] = []
    kinds: dict[str, tuple[SizedKind, ...]] = {}
    posts: list[BuiltPost] = []
    step_m = depth_step_m(plan.site.display_units)
    for one in plan.each():
        if one.array.standing:
            continue
        # Legs in weights have no depth that could be measured.
        if one.footings.posts.kinds:
            kinds[one.array.id] = one.footings.posts.kinds
            posts += posts_of(one, step_m, known, loose)
    here = {post.of for post in posts}
    loose += [
        record
        for (of, about), those in known.items()
        if about in ABOUT_POSTS and of not in here
        for record in those
    ]
    wired = plan.has("trench", "wiring")
    covers = stations(plan, known, loose) if wired else ()
    strings = tested(design, plan, known, loose) if wired else ()
    if not wired:
        loose += _about(known, "cover", *ABOUT_STRINGS)
    serials = serials_of(plan, known, loose)
    counted = counted_of(plan, known, loose)
    inspections = inspections_of(plan, every, known, loose)
    return FieldBook(
        posts=tuple(posts),
        kinds=kinds,
        step_m=step_m,
        covers=covers,
        strings=strings,
        serials=serials,
        counted=counted,
        inspections=inspections,
        loose=tuple(loose),
        records=len({record.id for record in every}),
        answers=_answers(tuple(posts), covers, strings, serials, counted),
        checks=(
            *post_checks(tuple(posts)),
            *cover_checks(covers),
            *string_checks(strings),
            *serial_checks(serials),
            *load_checks(counted),
            *inspection_checks(inspections, begun=bool(every)),
            *_loose_check(tuple(loose), begun=bool(every)),
            *_weights_check(plan, begun=bool(every)),
        ),
    )


def _weights_check(plan: Plan, *, begun: bool) -> tuple[Check, ...]:
    """What legs stand in is not asked here yet: it is told, once anything was measured."""
    weighed = any(one.footings.weights is not None for one in plan.each())
    if not (begun and weighed):
        return ()
    return (
        holds(
            "fieldbook",
            "weights",
            "Boxes are as heavy as planned",
            False,
            "not looked at",
            "each weighed, or its fill measured",
            remedy="Measure how high every box is filled before modules are set, and keep the list: "
            "this book has no place for it yet.",
            source=COMMON_PRACTICE,
            given=MENDED_THERE,
            otherwise="look",
        ),
    )


def _about(known: Known, *kinds: str) -> list[Record]:
    return [record for (_, about), those in known.items() if about in kinds for record in those]


def _loose_check(loose: tuple[Record, ...], *, begun: bool) -> tuple[Check, ...]:
    if not begun:
        return ()
    return (
        holds(
            "fieldbook",
            "loose",
            "Every record has its place",
            not loose,
            f"{len(loose)} of what is gone or stands elsewhere by now" if loose else "all have",
            "all of them",
            remedy="The plan was changed after they were measured: look where those stand.",
            source=COMMON_PRACTICE,
            given=MENDED_THERE,
            otherwise="look",
        ),
    )


def _answers(
    posts: tuple[BuiltPost, ...],
    covers: tuple[Station, ...],
    strings: tuple[Tested, ...],
    serials: Serials,
    counted: tuple[Counted, ...],
) -> tuple[Answer, ...]:
    """How far it is: what was read of what there is."""
    counts = (
        ("posts", "Posts measured", sum(p.depth_m is not None for p in posts), len(posts)),
        ("covers", "Places of the trench measured", sum(bool(c.records) for c in covers), len(covers)),
        ("strings", "Strings measured", sum(bool(s.records) for s in strings), len(strings)),
        ("serials", "Serials written down", len(serials.found), serials.modules),
        ("parts", "Parts counted", sum(c.verdict in ("there", "short") for c in counted), len(counted)),
    )
    return tuple(
        Answer(
            "fieldbook",
            key,
            label,
            Working(
                "n_read",
                "n_all - n_left",
                (
                    Input("n_all", "all that there are", float(all_), "count"),
                    Input("n_left", "not read yet", float(all_ - read), "count"),
                ),
                float(read),
                "count",
                MEASURED,
                f"Of {all_}.",
            ),
            True,
        )
        for key, label, read, all_ in counts
        if all_
    )
