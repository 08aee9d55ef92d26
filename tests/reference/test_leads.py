"""Leads from module to module and to their boxes, laid by hand, and the jumpers that they ask for."""

from typing import get_args

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan
from openfurrow.core.wiring.givens import Hangs, Plugs, StringWalk
from openfurrow.demo.designs import larkspur
from tests.designs import changed, said_job, said_rows, with_inverter
from tests.strings_laid import EASE_M, Laid, joined, strings_laid


def laid_in(found: Plan, columns: int, tables: int, rows: int, high: int) -> list[Laid]:
    """Every module of whole rows of tables, half a metre between them, counted off."""
    lie = found.rows
    return [
        Laid(
            table * (lie.table_length_m + 0.5)
            + (column + 0.5) * lie.module_along_m
            + column * lie.gap_along_m,
            row * lie.pitch_m,
            row * tables + table,
            row,
            column,
            up,
        )
        for row in range(rows)
        for table in range(tables)
        for column in range(columns)
        for up in range(high)
    ]


@settings(max_examples=60, deadline=None)
@given(
    shape=st.tuples(st.integers(2, 9), st.integers(1, 2), st.integers(1, 2), st.integers(1, 4)),
    longest=st.integers(3, 14),
    lies=st.booleans(),
    walk=st.sampled_from(get_args(StringWalk)),
    turned=st.booleans(),
    halved=st.booleans(),
    lead_m=st.floats(0.2, 2.5),
    at=st.none() | st.tuples(st.floats(0.0, 0.9), st.floats(0.0, 0.9)),
    box=st.none()
    | st.tuples(
        st.sampled_from(get_args(Hangs)),
        st.floats(0.0, 0.5),
        st.floats(0.0, 0.5),
        st.floats(0.3, 2.5),
        st.sampled_from(get_args(Plugs)),
    ),
)
def test_jumpers_are_counted_as_leads_are_laid(
    shape: tuple[int, int, int, int],
    longest: int,
    lies: bool,
    walk: StringWalk,
    turned: bool,
    halved: bool,
    lead_m: float,
    at: tuple[float, float] | None,
    box: tuple[Hangs, float, float, float, Plugs] | None,
) -> None:
    """Standing and lying modules, turned or not, every walk, with and without boxes behind them."""
    columns, tables, rows, high = shape
    design = said_job(
        name="leads",
        rows=said_rows(
            rows=rows,
            tables_along=tables,
            modules_along=columns,
            modules_high=high,
            table_gap_m=0.5,
            orientation="landscape" if lies else "portrait",
        ),
    )
    cold = 38.6 * (1 + 0.0025 * 56)
    design = with_inverter(design, maximum_dc_v=longest * cold * 1.01, start_v=60.0)
    design = changed(
        design,
        "modules",
        lead_m=lead_m,
        every_second_turned=turned,
        cells_halved=halved,
        junction_in_m=at and at[0],
        junction_apart_m=at and at[1],
    )
    design = changed(design, "wiring", string_walk=walk)
    if box is not None:
        hangs, aside, into, out, plugs = box
        design = changed(
            design,
            "wiring",
            electronics="by the module",
            box_hangs=hangs,
            box_aside_m=aside,
            box_input_m=into,
            box_output_m=out,
            box_plugs=plugs,
        )
    found = plan(design)
    leads = found.circuit.leads
    modules = laid_in(found, columns, tables, rows, high)
    start = found.run.route.start_post
    of, back = int(found.places.of_table[start]), float(found.places.from_middle_m[start])
    home = (
        (of % tables) * (found.rows.table_length_m + 0.5) + found.rows.table_length_m / 2 + back,
        (of // tables) * found.rows.pitch_m,
    )
    strings = strings_laid(modules, found.circuit.strings.lengths.tolist(), walk, home)
    step = found.rows.module_along_m + found.rows.gap_along_m
    links = joined(design, design.arrays[0], strings, step)
    assert int(leads.wired.sum()) == links.jumpers
    assert float(leads.wire_m.sum()) == pytest.approx(links.wire_m, abs=1e-6)
    assert leads.farthest_m == pytest.approx(links.farthest_m, abs=1e-9)
    assert leads.box_short == links.short
    assert leads.box_wire_m == pytest.approx(links.lack_m, abs=1e-6)
    # Every module is passed once, and each string as often as it has modules.
    assert sorted(leads.order.tolist()) == list(range(len(modules)))
    level = {c.key: c.level for c in found.checks if c.stage == "wiring"}
    assert (level["lead_reach"] == "sound") == (links.farthest_m <= leads.reach_m + 1e-9)
    net = {line.key: line.net for line in found.materials.lines}
    assert net.get("box_jumper", 0) == links.short
    assert net["connector"] == 2 * found.circuit.strings.count + 2 * links.jumpers


def with_boxes(design: Design, lead_m: float, aside_m: float, **more: object) -> Design:
    boxed = changed(design, "modules", lead_m=lead_m)
    return changed(
        boxed,
        "wiring",
        electronics="by the module",
        box_hangs="the upper purlin",
        box_aside_m=aside_m,
        box_input_m=0.15,
        **more,
    )


def test_twenty_four_jumpers_where_one_lead_reaches_and_twice_as_many_where_none_does() -> None:
    """Common practice, no published source: 24 modules, found out at the desk."""
    design = said_job(name="24", rows=said_rows(rows=1, modules_along=12, modules_high=2))

    def jumpers(lead_m: float, aside_m: float, **more: object) -> tuple[int, str]:
        found = plan(with_boxes(design, lead_m, aside_m, **more))
        check = next(c for c in found.checks if c.key == "box_reach")
        return found.circuit.leads.box_short, check.level

    assert jumpers(1.2, 0.0) == (0, "sound")
    assert jumpers(1.0, 0.35) == (24, "look")
    assert jumpers(0.4, 0.35) == (48, "look")
    # Plugs of another make ask for one on every lead, whether it reaches or not.
    assert jumpers(1.2, 0.0, box_plugs="another make") == (48, "sound")


def test_larkspur_turns_at_the_end_of_each_string_by_hand() -> None:
    """36 standing modules in two rows, three strings of twelve, leads of 4 ft, cells cut in half.

    Along the row a lead leaves 0.6 / 2 of the width from the middle: to the neighbour it is the step
    less six tenths of the width. At the end of six columns it goes up by a module and a gap, and across
    by six tenths: more than two leads have. Of one turned half round it leaves on the same side.
    """
    design = larkspur()
    m = design.arrays[0].modules
    found = plan(design)
    up = m.length_m + m.gap_up_m
    across = 0.6 * m.width_m
    assert found.circuit.leads.farthest_m == pytest.approx(up + across + EASE_M)
    assert up + across + EASE_M > 2 * m.lead_m > up + EASE_M
    assert found.circuit.jumpers == 3
    turned = plan(changed(design, "modules", every_second_turned=True))
    assert turned.circuit.leads.farthest_m == pytest.approx(up + EASE_M)
    assert turned.circuit.jumpers == 0
    # In whole rows the one way through the table turns once.
    whole = plan(changed(design, "wiring", string_walk="whole rows"))
    assert whole.circuit.jumpers == 1
    # What bridges the ends of two leads is as long as they lack.
    lack = up + across + EASE_M - 2 * m.lead_m
    assert float(found.circuit.leads.wire_m.sum()) == pytest.approx(3 * lack)
