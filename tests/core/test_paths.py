"""Addresses in a design: read and written by id, only what is touched copied and judged again."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError, apply
from openfurrow.core.fields import fields_of, value_at
from openfurrow.core.paths import Address, address_of, read
from openfurrow.core.site.features import FeatureGivens
from tests.designs import changed


@pytest.mark.parametrize(
    ("path", "parts"),
    [
        ("arrays.1.rows.tilt_deg", ("rows", "tilt_deg", "", "")),
        ("site.features.k3", ("site", "features", "k3", "")),
        ("site.features.k3.depth_m", ("site", "features", "k3", "depth_m")),
        ("site.features.+k3", ("site", "features", "+k3", "")),
    ],
)
def test_a_path_has_its_parts(path: str, parts: tuple[str, str, str, str]) -> None:
    at = address_of(path)
    assert (at.stage, at.name, at.thing, at.inner) == parts
    assert at.new == ("+" in path)


@pytest.mark.parametrize(
    "path",
    [
        "rows",
        "rows.",
        "rows.tilt_deg",
        "arrays",
        "arrays.1.site.route",
        "arrays.1.rows.a.b.c.d",
        ".tilt_deg",
        "attic.door",
        "site.a.b.c.d",
        "",
        "name",
    ],
)
def test_what_is_no_path_is_told(path: str) -> None:
    with pytest.raises(KeyError):
        address_of(path)


def test_every_field_is_read_at_its_path(demo: Design) -> None:
    for path in fields_of(demo):
        at = address_of(path)
        holder = demo.array(at.array) if at.array else demo
        stage = getattr(holder, at.stage) if at.stage else holder
        assert read(demo, at) == value_at(demo, path) == getattr(stage, at.name)
    for feature in demo.site.features:
        assert read(demo, Address("site", "features", feature.id)) is feature
        assert read(demo, Address("site", "features", feature.id, "kind")) == feature.kind


def test_a_batch_hits_the_things_it_named(demo: Design) -> None:
    """Taking out the first moves nobody's name."""
    first, second, third = demo.site.features[:3]
    new = apply(
        demo,
        [
            (f"site.features.{first.id}", ""),
            (f"site.features.{second.id}.note", "seen"),
            ("site.features.+fresh", "drain"),
            ("site.features.fresh.depth_m", "2 ft"),
            (f"site.features.{third.id}.note", "too"),
        ],
        "us",
    )
    by_id = {one.id: one for one in new.site.features}
    assert first.id not in by_id
    assert (by_id[second.id].note, by_id[third.id].note) == ("seen", "too")
    assert by_id["fresh"].depth_m == pytest.approx(0.6096)
    with pytest.raises(DesignError, match="not a field"):
        apply(new, [(f"site.features.{first.id}.note", "x")], "us")


def test_only_what_is_touched_is_made_anew(demo: Design) -> None:
    tilted = apply(demo, [("arrays.1.rows.tilt_deg", "20")], "us")
    for stage in type(demo).model_fields:
        same = getattr(tilted, stage) is getattr(demo, stage)
        # And that somebody has looked at it is written down.
        assert same == (stage not in ("arrays", "looked")), stage
    before, after = demo.arrays[0], tilted.arrays[0]
    for stage in type(before).model_fields:
        same = getattr(after, stage) is getattr(before, stage)
        assert same == (stage != "rows"), stage
    noted = apply(demo, [("site.features.0.note", "x")], "us")
    assert all(a is b for a, b in zip(noted.site.surveys, demo.site.surveys, strict=True))
    assert noted.arrays[0] is demo.arrays[0]
    assert [a is b for a, b in zip(noted.site.features, demo.site.features, strict=True)][1:] == [
        True
    ] * (len(demo.site.features) - 1)


def test_all_that_is_wrong_is_told_at_once_and_by_the_path_that_was_typed(demo: Design) -> None:
    edits = [
        ("site.features.3.depth_m", "99 m"),
        ("arrays.1.rows.tilt_deg", "89"),
        ("site.features.1.kind", "x"),
    ]
    with pytest.raises(DesignError) as error:
        apply(demo, edits, "us")
    assert {one.path for one in error.value.problems} >= {
        "site.features.3.depth_m",
        "site.features.1.kind",
    }


@pytest.mark.parametrize("thing_id", ["Über", "a.b", "x" * 13, "a b"])
def test_an_id_is_short_and_plain(plain: Design, thing_id: str) -> None:
    with pytest.raises(DesignError):
        apply(plain, [(f"site.features.+{thing_id}", "drain")], "us")


def test_two_things_never_share_an_id(plain: Design) -> None:
    one = apply(plain, [("site.features.+k", "drain")], "us")
    with pytest.raises(DesignError, match="two of them have the id k"):
        apply(one, [("site.features.+k", "tree")], "us")


steps = st.lists(
    st.tuples(
        st.sampled_from(["add", "note", "remove"]), st.integers(0, 7), st.text("abc ", max_size=4)
    ),
    max_size=8,
)


@settings(max_examples=80, deadline=None)
@given(st.lists(steps, min_size=1, max_size=3))
def test_batches_do_what_a_plain_list_would(
    plain: Design, batches: list[list[tuple[str, int, str]]]
) -> None:
    """The same work on a dictionary by id, kept in order; whatever is not there is refused whole."""
    design, model, made = plain, dict[str, str](), 0
    for batch in batches:
        edits, after = [], dict(model)
        bad = False
        for what, at, text in batch:
            if what == "add":
                made += 1
                edits.append((f"site.features.+t{made}", "drain"))
                after[f"t{made}"] = ""
                continue
            name = f"t{at}"
            bad = bad or name not in after
            if what == "note":
                edits.append((f"site.features.{name}.note", text))
                after[name] = text.strip()
            else:
                edits.append((f"site.features.{name}", ""))
                after.pop(name, None)
        if bad:
            with pytest.raises(DesignError):
                apply(design, edits, "us")
            continue
        design, model = apply(design, edits, "us"), after
        assert [(one.id, one.note) for one in design.site.features] == list(model.items())


def test_a_thing_without_an_id_gets_a_number_of_its_own(plain: Design) -> None:
    drains = tuple(FeatureGivens(kind="drain", id=i) for i in ("", "1", "", "x"))
    site = type(plain.site).model_validate({**plain.site.__dict__, "features": drains})
    assert [one.id for one in site.features] == ["0", "1", "2", "x"]
    assert changed(plain, "rows", rows=2).site is plain.site
