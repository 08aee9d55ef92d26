"""Two people at one list: what each did is kept, and what cannot both be is never chosen silently."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.edits import apply
from openfurrow.core.merging import kept_together, merged, merged_things
from openfurrow.core.site.features import FeatureGivens

NONE = frozenset[str]()


def thing(name: str, **more: object) -> FeatureGivens:
    return FeatureGivens.model_validate(
        {
            "id": name.replace(" ", "")[:12],
            "name": name,
            "kind": "drain",
            "points": ((0.0, 0.0), (float(len(name)), 5.0)),
        }
        | more
    )


BASE = tuple(thing(name) for name in ("north drain", "old wall", "spring", "pond"))


def names(things: tuple[FeatureGivens, ...] | None) -> list[str]:
    assert things is not None
    return [one.name for one in things]


def test_one_deepens_a_drain_while_another_adds_a_tree(demo: Design) -> None:
    mine = apply(demo, [("site.features.3.depth_m", "4 ft")], "us")
    theirs = apply(demo, [("site.features.+", "drain"), ("arrays.1.rows.tilt_deg", "30")], "us")
    assert kept_together(demo, mine, theirs) == {"site.features"}
    both = merged(demo, mine, theirs, NONE)
    assert both.arrays[0].rows.tilt_deg == 30
    assert len(both.site.features) == len(demo.site.features) + 1
    assert both.site.features[3].depth_m == pytest.approx(1.2192)
    assert both.site.features[-1].kind == "drain"
    # Whoever saves second, the same comes of it.
    assert merged(demo, theirs, mine, NONE) == both


def test_two_fields_of_one_thing_are_both_kept_but_not_two_values_of_one(demo: Design) -> None:
    mine = apply(demo, [("site.features.3.depth_m", "4 ft")], "us")
    note = apply(demo, [("site.features.3.note", "seen in the pit")], "us")
    both = merged(demo, mine, note, NONE).site.features[3]
    assert (both.depth_m, both.note) == (pytest.approx(1.2192), "seen in the pit")
    theirs = apply(demo, [("site.features.3.depth_m", "5 ft")], "us")
    assert kept_together(demo, mine, theirs) == NONE
    assert merged(demo, mine, theirs, NONE).site.features == mine.site.features
    taken = merged(demo, mine, theirs, frozenset({"site.features"}))
    assert taken.site.features == theirs.site.features


def test_what_one_took_out_and_the_other_changed_is_a_choice() -> None:
    without = (*BASE[:1], *BASE[2:])
    changed = (BASE[0], BASE[1].model_copy(update={"depth_m": 0.4}), *BASE[2:])
    assert merged_things(BASE, without, changed) is None
    assert names(merged_things(BASE, without, BASE)) == ["north drain", "spring", "pond"]
    assert names(merged_things(BASE, without, (*BASE, thing("bed")))) == [
        "north drain",
        "spring",
        "pond",
        "bed",
    ]


def test_a_thing_put_where_another_was_is_not_that_thing_changed() -> None:
    """Else the depth one gave the old wall would end on the other's new tree."""
    tree = thing("ash", kind="tree", points=((9.0, 9.0),), height_m=12.0)
    replaced = (BASE[0], tree, *BASE[2:])
    deeper = (BASE[0], BASE[1].model_copy(update={"depth_m": 0.4}), *BASE[2:])
    assert merged_things(BASE, replaced, deeper) is None
    assert names(merged_things(BASE, replaced, BASE)) == ["north drain", "ash", "spring", "pond"]


def test_a_kind_changed_here_and_a_note_there_are_both_had() -> None:
    """By its likeness alone the thing would have been another's."""
    line = thing("line", points=((0.0, 0.0), (4.0, 4.0)))
    kind = line.model_copy(update={"kind": "buried water"})
    note = line.model_copy(update={"note": "seen in the pit", "name": "main", "depth_m": 1.0})
    (both,) = merged_things((line,), (kind,), (note,)) or ()
    assert (both.kind, both.note, both.name) == ("buried water", "seen in the pit", "main")


def test_what_both_added_alike_is_there_once_and_what_differs_twice() -> None:
    same, other = thing("bed"), thing("bed", depth_m=0.3, id="bed2")
    assert names(merged_things(BASE, (*BASE, same), (*BASE, same)))[4:] == ["bed"]
    again = thing("bed", id="bed3")
    assert names(merged_things(BASE, (*BASE, same), (*BASE, again)))[4:] == ["bed"]
    # Two alike of one side are two.
    assert names(merged_things(BASE, (*BASE, same, again), BASE))[4:] == ["bed", "bed"]
    assert names(merged_things(BASE, (*BASE, same), (*BASE, other)))[4:] == ["bed", "bed"]
    # Theirs first: they saved first.
    assert names(merged_things(BASE, (thing("mine"), *BASE), (thing("theirs"), *BASE)))[:2] == [
        "theirs",
        "mine",
    ]


edited = st.lists(
    st.tuples(st.sampled_from(["change", "remove", "add"]), st.integers(0, 9), st.floats(0.2, 3)),
    max_size=4,
)


def worked_on(
    base: tuple[FeatureGivens, ...], edits: list[tuple[str, int, float]], who: str
) -> tuple[FeatureGivens, ...]:
    things = list(base)
    for number, (what, at, value) in enumerate(edits):
        if what == "add":
            things.insert(at % (len(things) + 1), thing(f"{who} {number}", depth_m=value))
        elif things and what == "remove":
            del things[at % len(things)]
        elif things:
            place = at % len(things)
            things[place] = things[place].model_copy(update={"depth_m": value})
    return tuple(things)


@settings(max_examples=150, deadline=None)
@given(edited, edited)
def test_merging_loses_nothing_that_one_side_did(
    ours: list[tuple[str, int, float]], others: list[tuple[str, int, float]]
) -> None:
    mine, theirs = worked_on(BASE, ours, "mine"), worked_on(BASE, others, "theirs")
    assert merged_things(BASE, mine, BASE) == mine
    assert merged_things(BASE, BASE, theirs) == theirs
    assert merged_things(BASE, mine, mine) == mine
    both = merged_things(BASE, mine, theirs)
    if both is None:
        return
    for side in (mine, theirs):
        assert all(one in both for one in side if one not in BASE)
    left = [one.name for one in both]
    for one in BASE:
        kept = all(any(o.name == one.name for o in side) for side in (mine, theirs))
        assert (one.name in left) == kept
    assert len(left) == len(set(left))
