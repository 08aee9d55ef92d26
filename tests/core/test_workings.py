"""Every answer's working, put to the arithmetic again."""

import pytest
from hypothesis import HealthCheck, given, settings

from openfurrow.core.as_built import as_built
from openfurrow.core.design import BUILT_STAGES, PLACES, Design
from openfurrow.core.plan import Plan, plan
from openfurrow.core.working import evaluate
from tests.designs import busy_designs, designs


def check_workings(found: Plan) -> int:
    evaluated = 0
    for answer in found.answers:
        working = answer.working
        assert working.source.text
        assert working.formula or working.inputs or working.note, (answer.stage, answer.key)
        if working.formula:
            assert evaluate(working) == pytest.approx(answer.value, rel=1e-6, abs=1e-9), (
                answer.stage,
                answer.key,
                working.formula,
            )
            evaluated += 1
    return evaluated


def test_the_demo_has_a_formula_behind_most_numbers(demo_plan: Plan) -> None:
    assert check_workings(demo_plan) > 60


@settings(max_examples=80, suppress_health_check=[HealthCheck.too_slow])
@given(designs() | busy_designs())
def test_every_formula_gives_the_number_it_stands_behind(design: Design) -> None:
    check_workings(as_built(design, plan(design)))


@settings(max_examples=40, suppress_health_check=[HealthCheck.too_slow])
@given(busy_designs())
def test_every_stage_has_a_headline_and_a_check_that_points_at_a_given(design: Design) -> None:
    found = as_built(design, plan(design))
    for stage in PLACES:
        answers, checks = found.shown(stage)
        assert any(answer.headline for answer in answers), stage
        assert checks or stage in BUILT_STAGES, stage
    keys = [(answer.stage, answer.key) for answer in found.answers]
    assert len(keys) == len(set(keys))


def test_workings_without_a_formula_cannot_be_evaluated(demo_plan: Plan) -> None:
    with pytest.raises(ValueError, match="not a formula"):
        evaluate(demo_plan.answer("sun", "noon").working)
