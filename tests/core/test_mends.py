"""A change that a check offers is allowed, and does what its words say."""

import pytest
from hypothesis import HealthCheck, given, settings

from openfurrow.core.checks import Check
from openfurrow.core.design import Design
from openfurrow.core.edits import apply, differences
from openfurrow.core.paths import address_of
from openfurrow.core.plan import Plan, plan
from openfurrow.core.site.features import FeatureGivens
from tests.designs import busy_designs, changed


def check(found: Plan, stage: str, key: str) -> Check | None:
    return next((c for c in found.checks if (c.stage, c.key) == (stage, key)), None)


def line(kind: str, east_m: float, **more: object) -> FeatureGivens:
    return FeatureGivens.model_validate(
        {"kind": kind, "points": ((east_m, -40.0), (east_m, 40.0))} | more
    )


@settings(max_examples=40, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(busy_designs())
def test_every_mend_can_be_made_and_changes_only_what_it_says(design: Design) -> None:
    for found in plan(design).checks:
        assert found.level != "sound" or not found.mends
        for mend in found.mends:
            after = apply(design, mend.edits, "us")
            said = {address_of(path).field_path for path, _ in mend.edits}
            assert {d.path for d in differences(design, after, "us")} <= said
            # Texts bear their units: metric readers make the same change.
            assert apply(design, mend.edits, "metric") == after


@pytest.mark.parametrize("aside_m", [-0.5, -0.1, 0.0, 0.3, 0.7])
def test_shifting_a_post_alone_or_the_array_clears_a_drain(plain: Design, aside_m: float) -> None:
    """A post alone only as far as the spans allow; both clear it, and neither stops anything else."""
    roomy = changed(plain, "structure", span_limit_m=3.1)
    places = plan(roomy).places.east_m
    number = 4
    hit = changed(roomy, "site", features=(line("drain", float(places[number - 1]) + aside_m),))
    before = check(plan(hit), "footings", "keep_out")
    assert before is not None
    # Hand-dig zone and band of a line that was measured: 24 in and 50 mm.
    need = 0.6096 + 0.05 - abs(aside_m)
    if need < 0:
        assert before.level == "sound" and before.mends == ()
        return
    words = [mend.words for mend in before.mends]
    room = 3.1 - float(places[1] - places[0])
    # Within what a step of the search decides either way.
    if abs(need - room) > 0.03:
        alone = [word for word in words if word.endswith("alone")]
        assert [word.split(" by ")[0] for word in alone[:1]] == (
            [f"Shift post {number}"] if need < room else [w.split(" by ")[0] for w in alone[:1]]
        )
        assert need > room or alone
    assert any(word.startswith("Shift the array ") for word in words)
    stops = {(c.stage, c.key) for c in plan(hit).checks if c.level == "stop"}
    for mend in before.mends:
        after = plan(apply(hit, mend.edits, "us"))
        left = {(c.stage, c.key) for c in after.checks if c.level == "stop"}
        assert left <= stops - {("footings", "keep_out")}, mend.words


def test_a_post_that_was_shifted_before_is_shifted_on_from_there(plain: Design) -> None:
    shifted = changed(plain, "structure", shifts=(("1.1/2", 0.1), ("1.1/5", 0.1)), span_limit_m=3.1)
    at = float(plan(shifted).places.east_m[4]) - 0.5
    hit = changed(shifted, "site", features=(line("drain", at),))
    found = check(plan(hit), "footings", "keep_out")
    assert found is not None and found.level == "stop"
    assert found.mends[0].words.startswith("Shift post 5 by ")
    after = apply(hit, found.mends[0].edits, "us")
    assert dict(after.arrays[0].structure.shifts)["1.1/2"] == 0.1
    assert dict(after.arrays[0].structure.shifts)["1.1/5"] == pytest.approx(0.1 + 0.16, abs=0.021)
    cleared = check(plan(after), "footings", "keep_out")
    assert cleared is not None and cleared.level == "sound"


def test_glass_over_the_line_moves_inside_the_land(plain: Design) -> None:
    found = plan(plain)
    east = found.rows.lie.tables.corners[:, :, 0].max() - 1.0
    land = FeatureGivens.model_validate(
        {"kind": "boundary", "points": ((-60.0, -60.0), (east, -60.0), (east, 60.0), (-60.0, 60.0))}
    )
    over = changed(plain, "site", features=(land,))
    outside = check(plan(over), "rows", "boundary")
    assert outside is not None and outside.level == "stop"
    mend = outside.mends[0]
    assert mend.words.startswith("Shift the array") and mend.words.endswith("west")
    after = plan(apply(over, mend.edits, "us"))
    inside = check(after, "rows", "boundary")
    assert inside is not None and inside.level == "sound"
    # No further than was needed.
    assert float(east - after.rows.lie.tables.corners[:, :, 0].max()) < 0.2


@pytest.mark.parametrize(
    ("stage", "key", "more"),
    [
        ("footings", "lateral", {"footings": {"depth_m": 0.9}}),
        ("rows", "overlap", {"rows": {"rows": 2, "pitch_m": 3.0}}),
        ("rows", "shade", {"rows": {"rows": 2, "pitch_m": 4.5}}),
    ],
)
def test_a_value_that_is_held_too_small_is_left_to_the_plan(
    plain: Design, stage: str, key: str, more: dict[str, dict[str, object]]
) -> None:
    held = plain
    for part, values in more.items():
        held = changed(held, part, **values)
    found = check(plan(held), stage, key)
    assert found is not None and found.level != "sound"
    after = check(plan(apply(held, found.mends[0].edits, "us")), stage, key)
    assert after is not None and after.level == "sound"


def test_a_misread_rod_is_left_out_by_its_number(demo: Design) -> None:
    first = demo.site.surveys[0].model_copy(update={"left_out": (3,)})
    spoilt = changed(demo, "site", surveys=(first, *demo.site.surveys[1:]))
    found = check(plan(spoilt), "site", "outliers")
    assert found is not None and [mend.words for mend in found.mends] == ["Leave reading 47 out"]
    after = apply(spoilt, found.mends[0].edits, "us")
    assert after.site.surveys[0].left_out == (3, 47)
    mended = check(plan(after), "site", "outliers")
    assert mended is not None and mended.level == "sound" and mended.mends == ()
