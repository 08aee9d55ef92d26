"""As built beside planned: records that come in any order, twice, from several hands."""

import itertools
from collections.abc import Iterable
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, rule

from openfurrow.core.design import Design
from openfurrow.core.edits import apply
from openfurrow.core.fieldbook.book import FieldBook, field_book
from openfurrow.core.fieldbook.posts import BuiltPost
from openfurrow.core.fieldbook.records import Record, standing
from openfurrow.core.footings.ladder import BEYOND_PLAN_M, fails_at, ladder_of
from openfurrow.core.footings.posts import depth_step_m
from openfurrow.core.footings.sizing import MODES
from openfurrow.core.plan import plan
from openfurrow.demo.designs import grifo, larkspur, larkspur_with_pump_house, quillay, varnbeck
from openfurrow.sheets.field import post_words
from tests.designs import designs, plain_larkspur

MORNING = datetime(2026, 4, 20, 15, 0, tzinfo=UTC)


def record(post: BuiltPost, depth_m: float, **but: object) -> Record:
    """A depth of a post as a tape reads it, where the post is planned."""
    made = Record(
        id="a",
        kind="depth",
        of=post.of,
        value=depth_m,
        typed=f"{depth_m * 1000:.0f} mm",
        by="Tobin",
        device="phone",
        at=MORNING,
        east_m=post.east_m,
        north_m=post.north_m,
    )
    return replace(made, **but)  # type: ignore[arg-type]


def book(design: Design, *records: Record) -> FieldBook:
    return field_book(design, plan(design), records)


def test_what_is_as_planned_changes_nothing() -> None:
    for design in (plain_larkspur(), larkspur_with_pump_house(), varnbeck()):
        bare = book(design)
        assert {post.verdict for post in bare.posts} == {"not yet"}
        assert bare.checks == () and bare.loose == ()
        same = book(design, *(record(post, post.planned_m, id=post.of) for post in bare.posts))
        assert {post.verdict for post in same.posts} == {"sound"}
        levels = {check.key: check.level for check in same.checks}
        # What stands as planned is sound; what nobody has said yet is told.
        assert levels.pop("inspections") == "look"
        assert set(levels.values()) == {"sound"}
        assert all(post.high_m == 0 and post.next_m == post.planned_m for post in same.posts) or (
            all(post.high_m == 0 and post.next_m is not None for post in same.posts)
        )


@pytest.mark.parametrize("design", [plain_larkspur, grifo, varnbeck, larkspur_with_pump_house])
def test_a_post_is_judged_as_the_whole_plan_judges_it_when_it_is_held_there(design: object) -> None:
    """The ladder against the plan itself: hold every post at a depth, and ask its own checks."""
    given_ = design()  # type: ignore[operator]
    bare = book(given_)
    for share in (0.35, 0.7, 0.9, 1.0, 1.15):
        depth = round(max(post.planned_m for post in bare.posts) * share, 3)
        edits = [(f"arrays.{one.id}.footings.depth_m", f"{depth} m") for one in given_.arrays]
        held = plan(apply(given_, edits, "metric"))
        found = book(given_, *(record(post, depth, id=post.of) for post in bare.posts))
        for one in held.each():
            posts = one.footings.posts
            ours = [post for post in found.posts if post.array == one.array.id]
            for index, post in enumerate(ours):
                kind = posts.kinds[int(one.structure.supports.kind[index])]
                carried = all(need <= depth + 1e-9 for need in kind.needs.all_m)
                assert carried == (post.verdict == "sound"), (post.of, depth, kind.needs.all_m)
                assert set(post.fails) == {
                    mode
                    for mode, need in zip(MODES, kind.needs.all_m, strict=True)
                    if need > depth + 1e-9
                }


@settings(max_examples=40, deadline=None)
@given(design=designs(), where=st.floats(0.2, 1.4))
def test_a_phone_that_looks_it_up_is_never_kinder_than_the_plan(design: Design, where: float) -> None:
    found = plan(design)
    step = depth_step_m(design.site.display_units)
    for kind in found.footings.posts.kinds:
        ladder = ladder_of(kind, step)
        if kind.depth_m > 12:
            # Deeper than is looked at, rounded up to what is sold: nothing is said to carry there.
            assert ladder.fails_at(kind.depth_m) or len(ladder.fails) * step >= kind.depth_m
            continue
        assert len(ladder.fails) * step >= kind.depth_m
        depth = kind.depth_m * where
        if depth > kind.depth_m + BEYOND_PLAN_M:
            continue
        carried = not [need for need in kind.needs.all_m if need > depth + 1e-9]
        if kind.ground.profile is None and ladder.carries(depth):
            assert carried
        if ladder.carries(depth):
            assert not ladder.fails_at(depth)
        need = max(kind.needs.all_m)
        if kind.ground.profile is None and need > 0.01:
            # A hair short of what is asked for is short, between two rungs or on one.
            assert not ladder.carries(need - 1e-3)
        upward = ladder.next_m(depth)
        if upward is not None:
            assert upward >= depth - step and ladder.carries(upward)
        assert not ladder.carries(-0.01)


@pytest.mark.parametrize("design", [larkspur, grifo])
def test_in_layers_each_rung_is_what_a_post_held_there_is_found_to_carry(design: object) -> None:
    """The whole scan at once against one depth after the other, another way through the same soil."""
    found = plan(design())  # type: ignore[operator]
    step = depth_step_m(found.site.display_units)
    for kind in found.footings.posts.kinds:
        assert kind.ground.profile is not None
        ladder = ladder_of(kind, step)
        for rung in range(3, len(ladder.fails), 7):
            assert set(ladder.fails[rung]) == set(fails_at(kind, rung * step)), rung


def test_nothing_is_sound_deeper_than_is_looked_at() -> None:
    for design in (larkspur(), plain_larkspur()):
        found = plan(design)
        kind = found.footings.posts.kinds[0]
        ladder = ladder_of(kind, depth_step_m(found.site.display_units))
        assert not ladder.carries(ladder.deepest_m + 0.01)
        assert ladder.next_m(ladder.deepest_m + 0.01) is None
        if kind.ground.profile is not None:
            assert fails_at(kind, float(kind.ground.profile.depth_m[-1]) + 0.1)


def test_a_refusal_by_hand() -> None:
    """Planned to a depth, stopped well above: it stands high by the difference, and is not cut."""
    design = plain_larkspur()
    post = book(design).posts[2]
    short = book(design, record(post, post.planned_m - 0.66, kind="refusal"))
    (built,) = [one for one in short.posts if one.of == post.of]
    assert built.verdict == "not sound" and built.refused
    assert built.high_m == pytest.approx(0.66)
    assert "wind tips it" in built.fails
    assert built.next_m is not None and post.planned_m - 0.66 < built.next_m <= post.planned_m
    told = {check.key: check for check in short.checks}
    assert told["carries"].level == "stop"
    assert "1 of 1 measured do not: 1.1/3" in str(told["carries"].measured)
    # The others are as they were: nobody has measured them.
    assert {one.verdict for one in short.posts if one.of != post.of} == {"not yet"}


def test_a_rod_on_the_top_says_what_to_cut_better_than_the_depth_does() -> None:
    """The rod reads down from the line of sight: less of it is a higher top. By hand, in mm."""
    design = plain_larkspur()
    post = book(design).posts[3]

    def read(off_mm: float, **but: object) -> Record:
        return record(post, post.rod_m - off_mm / 1000, kind="top", id=f"t{off_mm}", **but)

    driven = record(post, post.planned_m - 0.02)
    for off_mm, level in (
        (0.0, "sound"),
        (12.0, "sound"),
        (-13.0, "sound"),
        (14.0, "look"),
        (-30, "look"),
    ):
        found = book(design, driven, read(off_mm))
        (one,) = [other for other in found.posts if other.of == post.of]
        assert one.off_m == pytest.approx(off_mm / 1000)
        assert {check.key: check.level for check in found.checks}["tops"] == level
        words = post_words(one, "metric")
        much = f"{abs(off_mm):.0f} mm"
        expected = "top as planned" if not off_mm else much
        # Not the 20 mm that its depth would say.
        assert expected in words and "20 mm" not in words
    # Of two that differ the one counts that is further off, and somebody looks again.
    both = book(design, driven, read(4.0), read(25.0, by="Wren"))
    (one,) = [other for other in both.posts if other.of == post.of]
    assert one.off_m == pytest.approx(0.025) and one.asked
    # Read before anybody measured the depth, it is not cut: nobody knows whether it carries.
    alone = next(o for o in book(design, read(40.0)).posts if o.of == post.of)
    assert alone.verdict == "not yet" and "not cut before it carries" in post_words(alone, "metric")


def test_two_who_differ_keep_both_and_the_shallower_counts_until_it_is_settled() -> None:
    design = plain_larkspur()
    post = book(design).posts[0]
    deep = record(post, post.planned_m + 0.05, id="deep", by="Wren")
    less = record(post, post.planned_m, id="less", at=MORNING + timedelta(minutes=5))
    both = book(design, deep, less).posts[0]
    assert both.verdict == "asked" and both.depth_m == post.planned_m
    assert {one.id for one in both.records} == {"deep", "less"}
    # Who measures again corrects themselves alone.
    again = replace(less, id="again", value=post.planned_m + 0.05, at=MORNING + timedelta(hours=1))
    assert book(design, deep, less, again).posts[0].verdict == "sound"
    settled = record(
        post,
        post.planned_m,
        id="s",
        by="Ada",
        settles=("deep", "less"),
        at=MORNING + timedelta(hours=2),
    )
    one = book(design, deep, less, settled).posts[0]
    assert one.verdict == "sound" and [r.id for r in one.records] == ["s"]
    # To the mark of a tape two are alike.
    near = record(post, post.planned_m + 0.004, id="near", by="Wren")
    assert book(design, near, less).posts[0].verdict == "sound"


def test_a_record_of_a_post_that_stands_elsewhere_by_now_is_loose() -> None:
    design = plain_larkspur()
    post = book(design).posts[1]
    kept = record(post, post.planned_m)
    moved = apply(
        design, [("arrays.1.rows.at_east_m", f"{design.arrays[0].rows.at_east_m + 0.5} m")], "metric"
    )
    found = book(moved, kept)
    assert [one.id for one in found.loose] == ["a"]
    assert {one.verdict for one in found.posts} == {"not yet"}
    assert {check.key: check.level for check in found.checks}["loose"] == "look"
    near = apply(
        design, [("arrays.1.rows.at_east_m", f"{design.arrays[0].rows.at_east_m + 0.2} m")], "metric"
    )
    assert book(near, kept).loose == ()
    gone = book(design, replace(kept, of="1:9.9/1"))
    assert len(gone.loose) == 1
    # What stands already is not built, nor measured here.
    stands = apply(larkspur_with_pump_house(), [("arrays.2.standing", "yes")], "metric")
    assert {post.array for post in book(stands).posts} == {"1"}


class Devices(RuleBasedStateMachine):
    """Several hands, clocks that differ, records that come late, twice and out of order."""

    def __init__(self) -> None:
        super().__init__()
        self.made: list[Record] = []
        self.count = 0

    @rule(
        by=st.sampled_from(("Tobin", "Wren", "Ada")),
        of=st.sampled_from(("1:1.1/1", "1:1.1/2")),
        kind=st.sampled_from(("depth", "refusal")),
        value=st.sampled_from((1.0, 1.2, 1.5)),
        minutes=st.integers(0, 30),
        settles=st.lists(st.integers(0, 30), max_size=3),
    )
    def measure(
        self, by: str, of: str, kind: str, value: float, minutes: int, settles: list[int]
    ) -> None:
        self.count += 1
        self.made.append(
            Record(
                id=str(self.count),
                kind=kind,  # type: ignore[arg-type]
                of=of,
                value=value,
                typed=str(value),
                by=by,
                device="x",
                at=MORNING + timedelta(minutes=minutes),
                east_m=0.0,
                north_m=0.0,
                settles=tuple(str(one) for one in settles if one < self.count),
            )
        )

    @invariant()
    def nothing_is_doubled_or_lost_in_any_order(self) -> None:
        expected = self.by_hand(self.made)
        orders: Iterable[list[Record]] = (
            list(order) for order in itertools.islice(itertools.permutations(self.made[-4:]), 6)
        )
        for tail in orders:
            shuffled = [*tail, *self.made[:-4], *self.made[: len(self.made) // 2]]
            found = standing(shuffled)
            assert {about: [r.id for r in those] for about, those in found.items()} == expected

    @staticmethod
    def by_hand(made: list[Record]) -> dict[tuple[str, str], list[str]]:
        """The newest of each hand that nobody settled, written another way."""
        of_what = {one.id: one.of for one in made}
        settled = {one for each in made for one in each.settles if of_what.get(one) == each.of}
        found: dict[tuple[str, str], list[Record]] = {}
        for of, by in {(one.of, one.by) for one in made}:
            theirs = [one for one in made if (one.of, one.by) == (of, by) and one.id not in settled]
            if theirs:
                last = sorted(theirs, key=lambda r: (r.at, r.id))[-1]
                found.setdefault((of, "depth"), []).append(last)
        return {
            about: [one.id for one in sorted(those, key=lambda r: (r.at, r.id))]
            for about, those in found.items()
        }


TestDevices = Devices.TestCase
TestDevices.settings = settings(max_examples=60, stateful_step_count=15, deadline=None)


def test_weights_have_no_depth_and_are_told_as_not_looked_at() -> None:
    design = quillay()
    assert book(design).posts == () and book(design).checks == ()
    looked = Record(
        id="1",
        kind="passed",
        of="trench",
        value=0.0,
        typed="",
        by="Tobin",
        device="phone",
        at=MORNING,
        east_m=0.0,
        north_m=0.0,
        note="by the inspector",
    )
    begun = book(design, looked)
    told = {check.key: check for check in begun.checks}
    assert told["weights"].level == "look" and told["weights"].measured == "not looked at"
