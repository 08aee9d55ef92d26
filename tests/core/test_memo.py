"""What is remembered is what would be computed; an edit computes what follows from it and no more."""

import threading

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.edits import apply
from openfurrow.core.memo import Memo, size_of
from openfurrow.core.plan import MEMO, Plan, plan
from tests.designs import busy_designs, changed, plain_larkspur

ALL = {
    "site",
    "sun",
    "rows",
    "structure",
    "footings",
    "frame",
    "modules",
    "array",
    "ways",
    "route",
    "wiring",
    "wires together",
    "run",
    "trench",
    "sawing",
    "nest",
    "takes",
    "materials",
    "hauling",
    "set out",
    "stakeout",
    "site of",
    "sun of",
    "sky",
    "field",
    "light",
    "walks",
    "energy",
}


def made_by(design: Design) -> set[str]:
    """What planning a design computes that was not remembered."""
    MEMO.made = []
    try:
        plan(design)
        return set(MEMO.made)
    finally:
        MEMO.made = None


@pytest.mark.parametrize(
    ("path", "text", "computed"),
    [
        (
            "wiring.slack_m",
            "7 ft",
            {"wiring", "wires together", "energy", "run", "trench", "takes", "materials", "hauling"},
        ),
        ("materials.spare_posts", "3", {"materials", "hauling"}),
        ("stakeout.instrument_height_m", "5 ft 1 in", {"set out", "stakeout"}),
        (
            "trench.width_m",
            "1 ft 3 in",
            {
                "route",
                "wiring",
                "wires together",
                "energy",
                "run",
                "trench",
                "takes",
                "materials",
                "hauling",
            },
        ),
        (
            "arrays.1.frame.lap_m",
            "1 ft 2 in",
            {
                "frame",
                # Where lines are spliced the path to the rods may break.
                "modules",
                "array",
                "sawing",
                "nest",
                "takes",
                "materials",
                "hauling",
                "set out",
                "stakeout",
            },
        ),
        (
            "arrays.1.footings.pull_tested",
            "yes",
            {"footings", "array", "sawing", "takes", "materials", "hauling", "set out", "stakeout"},
        ),
        (
            "arrays.1.modules.clamp_torque_n_m",
            "12 N m",
            {
                "modules",
                "array",
                "wiring",
                "wires together",
                "energy",
                "run",
                "trench",
                "sawing",
                "takes",
                "materials",
                "hauling",
                "set out",
                "stakeout",
            },
        ),
        (
            "arrays.1.rows.lower_edge_m",
            "3 ft 1 in",
            ALL - {"site", "sun", "site of", "sun of", "route", "sky"},
        ),
        ("site.wind_speed_m_s", "110 mph", ALL - {"sun", "sun of", "sky", "nest"}),
        ("sun.load_wh", "9000 kWh", {"energy"}),
        ("sun.albedo", "30 %", {"light", "energy"}),
        ("sun.clear_june", "81 %", {"sky", "field", "light", "energy"}),
        ("sun.walk_date", "2026-05-02", ALL - {"site", "site of", "route", "sky", "nest"}),
    ],
)
def test_an_edit_computes_what_follows_from_it_and_no_more(
    path: str, text: str, computed: set[str]
) -> None:
    plain = plain_larkspur()
    # Other tests plan too: what they made does not count here.
    MEMO.forget()
    plan(plain)
    assert made_by(plain) == set()
    assert made_by(apply(plain, [(path, text)], "us")) == computed


def told(found: Plan) -> list[object]:
    """Everything that a plan says, for comparison."""
    return [(a.stage, a.key, a.value) for a in found.answers] + [
        (c.stage, c.key, c.level, c.measured, c.limit, c.mends) for c in found.checks
    ]


@settings(max_examples=15, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(
    busy_designs(),
    st.lists(
        st.sampled_from(
            [
                ("rows", {"tilt_deg": 25.0}),
                ("rows", {"at_east_m": 3.0}),
                ("rows", {"turn_deg": 10.0}),
                ("structure", {"span_limit_m": 3.0}),
                ("structure", {"post_section": "pipe 3 in"}),
                ("footings", {"depth_m": 2.0}),
                ("frame", {"stock_length_m": 6.0}),
                ("modules", {"mass_kg": 30.0}),
                ("modules", {"width_m": 1.0}),
                ("site", {"frost_depth_m": 0.7}),
                ("site", {"route": ((5.0, 20.0),)}),
                ("site", {"display_units": "metric"}),
                ("sun", {"window_start_h": 9.5}),
                ("sun", {"clear_may": 0.5}),
                ("sun", {"snow_days": 9}),
                ("wiring", {"electronics": "by the module"}),
                ("trench", {"extra_depth_m": 0.2}),
                ("wiring", {"slack_m": 2.0}),
                ("materials", {"waste": 0.1}),
                ("stakeout", {"instrument_height_m": 1.4}),
            ]
        ),
        min_size=1,
        max_size=6,
    ),
)
def test_what_is_remembered_is_what_would_be_computed(
    design: Design, edits: list[tuple[str, dict[str, object]]]
) -> None:
    """Edit by edit with what is remembered, against each design computed with nothing remembered."""
    steps = [design]
    for stage, givens in edits:
        steps.append(changed(steps[-1], stage, **givens))
    warm = [told(plan(step)) for step in (*steps, *steps[::-1])]
    cold = []
    for step in steps:
        MEMO.forget()
        cold.append(told(plan(step)))
    assert warm == cold + cold[::-1]


def test_what_is_kept_is_bounded_and_the_least_used_goes() -> None:
    memo = Memo(most_bytes=10_000)
    for number in range(100):
        memo.remember("x", (number,), lambda: np.zeros(100))
        memo.remember("x", (0,), lambda: np.zeros(100))
    assert memo._bytes <= 10_000 and len(memo._kept) <= 13
    # Used all along, the first is still there.
    memo.made = []
    memo.remember("x", (0,), lambda: np.zeros(100))
    memo.remember("x", (1,), lambda: np.zeros(100))
    assert memo.made == ["x"]
    # A single result larger than all is kept all the same, alone.
    memo.remember("x", ("large",), lambda: np.zeros(10_000))
    assert len(memo._kept) == 1


def test_numbers_are_never_given_twice_and_threads_see_one_result() -> None:
    memo = Memo()
    first = memo.remember("x", (1,), lambda: "a")
    memo.forget()
    assert memo.remember("x", (1,), lambda: "a").number != first.number
    found = []
    gate = threading.Barrier(8)

    def ask() -> None:
        gate.wait()
        found.append(memo.remember("y", (1,), lambda: np.zeros(3)))

    threads = [threading.Thread(target=ask) for _ in range(8)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert len({id(one.value) for one in found}) == 1 and len({one.number for one in found}) == 1


def test_a_plan_weighs_about_what_its_arrays_do() -> None:
    found = plan(plain_larkspur())
    assert size_of(found.structure.supports) > found.structure.supports.count * 8 * 10
    assert size_of(np.zeros(1000)) == 8000
