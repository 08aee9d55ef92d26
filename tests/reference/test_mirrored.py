"""A whole job as in a mirror: east for west, and the hours of the sun turned about noon.

Symmetry, no published source: nothing that is counted, carried, dug, drawn or bought knows left from
right. A sign that is read as a size, or a way that always begins at the same end, shows here.
"""

from typing import Any

import pytest

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, untried
from openfurrow.demo.designs import DESIGNS
from tests.designs import changed

STAGES = ("rows", "structure", "footings", "frame", "modules", "trench", "wiring", "materials")
# Where one stands on it, words name posts that are counted from one end.
NAMED = {("rows", "standing_shade"), ("footings", "refusal")}


def turned_round(said: Any) -> Any:
    """Everything that was said of a place, east for west."""
    if isinstance(said, dict):
        found = {}
        for name, value in said.items():
            if name in ("east_m", "at_east_m") and value is not None:
                found[name] = -value
            elif name in ("falls_toward_deg", "bearing_deg") and value is not None:
                found[name] = -value % 360
            elif name == "turn_deg":
                found[name] = -value
            elif name in ("points", "route") and value:
                found[name] = tuple((-east, north) for east, north in value)
            else:
                found[name] = turned_round(value)
        return found
    if isinstance(said, list | tuple):
        return type(said)(turned_round(one) for one in said)
    return said


def mirrored(design: Design) -> Design:
    said = turned_round(design.model_dump())
    start, end = said["sun"]["window_start_h"], said["sun"]["window_end_h"]
    said["sun"] |= {"window_start_h": 24 - end, "window_end_h": 24 - start}
    return Design.model_validate(said)


def numbers(found: Plan) -> dict[tuple[str, str, str], float]:
    told = {}
    for stage in STAGES:
        for one in found.shown(stage)[0]:
            if isinstance(one.value, float) and (stage, one.key) not in NAMED:
                told[one.array, stage, one.key] = one.value
    return told


@pytest.mark.parametrize("name", ["larkspur-two", "grifo", "varnbeck"])
@pytest.mark.parametrize("turn", [0.0, 17.0])
def test_a_job_in_a_mirror_asks_for_the_same(name: str, turn: float) -> None:
    design = DESIGNS[name]()
    plane = {"ground": "plane", "slope": 0.04, "falls_toward_deg": 212.0}
    design = changed(changed(design, "site", **plane), "rows", turn_deg=turn)
    one, other = untried(design), untried(mirrored(design))
    mine, theirs = numbers(one), numbers(other)
    assert mine.keys() == theirs.keys()
    assert len(mine) > 100
    for key, value in mine.items():
        assert theirs[key] == pytest.approx(value, rel=1e-6, abs=1e-6), key
    levels = [
        sorted((check.array, check.stage, check.key, check.level) for check in found.checks)
        for found in (one, other)
    ]
    assert levels[0] == levels[1]
