"""Posts in the way: shifts of all of them together, against every way there is."""

import itertools
import math

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from openfurrow.core.checks import Check
from openfurrow.core.design import Design
from openfurrow.core.edits import apply
from openfurrow.core.plan import Plan, plan
from openfurrow.core.site.features import FeatureGivens
from openfurrow.core.structures.shifting import Spans, least_shifts
from tests.designs import busy_designs, changed, plain_larkspur


def cheapest(even: list[float], places: list[list[float]], spans: Spans) -> float:
    """The least sum over every choice there is; each post that moves costs 5 cm more."""
    best = math.inf
    for chosen in itertools.product(*places):
        apart = np.diff(chosen)
        ends = max(chosen[0], spans.purlin_m - chosen[-1])
        if (apart > spans.least_m).all() and (apart <= spans.most_m).all() and ends <= spans.most_m / 2:
            away = np.abs(np.subtract(chosen, even))
            best = min(best, float((away + 0.05 * (away > 1e-9)).sum()))
    return best


@settings(max_examples=80)
@given(st.data())
def test_no_cheaper_shifts_exist_than_those_that_are_found(data: st.DataObject) -> None:
    even = [1.0, 3.0, 5.0, 7.0]
    places = [sorted(data.draw(st.sets(st.integers(0, 16), max_size=5))) for _ in even]
    candidates = [[k * 0.5 for k in some] for some in places]
    spans = Spans(8.0, 0.3, data.draw(st.sampled_from([2.0, 2.5, 3.0, 4.0])))
    found = least_shifts(np.array(even), [np.array(some, dtype=float) for some in candidates], spans)
    best = cheapest(even, candidates, spans)
    if found is None:
        assert best == math.inf
        return
    away = np.abs(found - even)
    assert float((away + 0.05 * (away > 1e-9)).sum()) == pytest.approx(best)
    assert all(at in some for at, some in zip(found.tolist(), candidates, strict=True))


def stops(found: Plan) -> set[tuple[str, str]]:
    return {(check.stage, check.key) for check in found.checks if check.level == "stop"}


def the(found: Plan, stage: str, key: str) -> Check:
    return next(check for check in found.checks if (check.stage, check.key) == (stage, key))


def test_three_posts_on_a_septic_field_are_not_sent_to_one_place() -> None:
    """Either all three find room of their own, or no shift of posts is offered."""
    places = plan(plain_larkspur()).places
    west, east = float(places.east_m[3]) - 0.4, float(places.east_m[5]) + 0.4
    field = FeatureGivens.model_validate(
        {
            "kind": "septic field",
            "how_sure": "measured",
            "points": ((west, -1.0), (east, -1.0), (east, 1.0), (west, 1.0)),
        }
    )
    for span in (2.6, 9.0):
        design = changed(plain_larkspur(), "site", features=(field,))
        design = changed(design, "structure", span_limit_m=span, cantilever_ratio=0.2)
        found = plan(design)
        for mend in the(found, "footings", "keep_out").mends:
            after = plan(apply(design, mend.edits, "us"))
            assert stops(after) <= stops(found) - {("footings", "keep_out")}, mend.words
            assert np.diff(after.places.run_m).min() > 0.3


@settings(max_examples=40, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(busy_designs())
def test_no_mend_that_is_offered_makes_a_stop_or_leaves_its_own(design: Design) -> None:
    found = plan(design)
    for check in found.checks:
        for mend in check.mends:
            after = plan(apply(design, mend.edits, "us"))
            assert stops(after) <= stops(found), (check.key, mend.words)
            if check.level == "stop":
                assert (check.stage, check.key) not in stops(after), mend.words
