"""Benchmarks are run by hand: what they measure must still be jobs that a planner could type."""

import pytest

from bench import footings, structures
from openfurrow.core.design import Design
from openfurrow.core.structures.families import FAMILIES


@pytest.mark.parametrize("pack", ["us", "metric"])
def test_every_family_of_structure_is_measured_on_a_job_that_can_be(pack: str) -> None:
    assert set(structures.MODULES) == set(FAMILIES)
    for family in structures.MODULES:
        design = structures.job(family, pack)
        assert Design.model_validate(design.model_dump()) == design


@pytest.mark.parametrize("family", footings.FAMILIES)
def test_every_footing_that_enters_the_ground_is_measured_on_one_too(family: str) -> None:
    design = footings.job(family, "us")
    assert Design.model_validate(design.model_dump()) == design
