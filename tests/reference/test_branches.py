"""Inverters behind every module: branches laid by hand, the trunk's plugs counted, its drop by nodes.

Limits are those of data sheets, given; copper by its resistivity at 75 °C. That jumpers are 24 where
one lead of 24 modules does not reach, and 48 where neither does, is common practice, no published
source.
"""

import math
from itertools import pairwise
from typing import get_args

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan
from openfurrow.core.wiring.givens import StringWalk
from openfurrow.core.wiring.inverter_givens import InverterGivens
from openfurrow.demo.designs import DESIGNS
from tests.designs import changed, said_job, said_rows
from tests.reference.test_leads import laid_in
from tests.strings_laid import Laid, box_place, strings_laid

# 12 AWG and 2.5 mm², copper at 75 °C; stranded, by the tables, it is up to a sixth more.
COPPER = (1 + 0.00393 * 55) / 58


def behind(**more: object) -> InverterGivens:
    sheet = {"maximum_dc_v": 60.0, "start_v": 16.0, "box_ac_w": 300.0, "branch_most": 9}
    return InverterGivens(**({"id": "1", "stands": "behind each module"} | sheet | more))


def level(found: Plan, key: str) -> str:
    return next((c.level for c in found.wiring.checks if c.key == key), "none")


def answered(found: Plan, key: str) -> object:
    return next(a.working.value for a in found.wiring.answers if a.key == key)


def link_m(design: Design, a: Laid, b: Laid, step_m: float) -> tuple[float, bool]:
    """From box to box along frames, and whether both are of one line of tables."""
    own = design.arrays[0]
    (x0, y0), (x1, y1) = (box_place(design, own, one.row) for one in (a, b))
    one = a.table == b.table
    on = (b.column - a.column) * step_m if one else b.x - a.x
    off = 0.0 if one else abs(b.y - a.y)
    return abs(on + x1 - x0) + abs(y1 - y0) + off, one or a.line == b.line


def nodal_drop(pieces_ohm: list[float], amps: float) -> float:
    """Volts between home and the farthest box of a chain: every box a source, solved as a network."""
    count = len(pieces_ohm)
    matrix, into = np.zeros((count, count)), np.full(count, amps)
    for number, ohm in enumerate(pieces_ohm):
        # Piece 0 is from home, which is held at nought, to the first box.
        matrix[number, number] += 1 / ohm
        if number:
            matrix[number - 1, number - 1] += 1 / ohm
            matrix[number, number - 1] -= 1 / ohm
            matrix[number - 1, number] -= 1 / ohm
    return float(np.linalg.solve(matrix, into).max())


@settings(max_examples=60, deadline=None)
@given(
    pack=st.sampled_from(["us", "metric"]),
    shape=st.tuples(st.integers(2, 9), st.integers(1, 2), st.integers(1, 2), st.integers(1, 3)),
    most=st.integers(2, 14),
    lies=st.booleans(),
    walk=st.sampled_from(get_args(StringWalk)),
    spacing=st.floats(0.5, 2.6),
    watts=st.floats(200, 700),
    phases=st.sampled_from(["one phase", "three phases"]),
    slack=st.floats(0, 2),
)
def test_a_trunk_is_laid_from_plug_to_plug_and_loses_what_its_nodes_say(
    pack: str,
    shape: tuple[int, int, int, int],
    most: int,
    lies: bool,
    walk: StringWalk,
    spacing: float,
    watts: float,
    phases: str,
    slack: float,
) -> None:
    columns, tables, rows, high = shape
    design = said_job(
        name="branches",
        rows=said_rows(
            rows=rows,
            tables_along=tables,
            modules_along=columns,
            modules_high=high,
            table_gap_m=0.5,
            orientation="landscape" if lies else "portrait",
        ),
    )
    one = behind(branch_most=most, plug_spacing_m=spacing, box_ac_w=watts, phases=phases, ac_v=240.0)
    design = changed(design, "wiring", inverters=(one,), string_walk=walk, slack_m=slack)
    design = changed(design, "site", rule_pack=pack)
    found = plan(design)
    circuit, modules = found.circuit, columns * tables * rows * high
    lengths = circuit.strings.lengths.tolist()
    # The fewest, alike but for one, none with more than there may be.
    assert sum(lengths) == modules and max(lengths) <= most and max(lengths) - min(lengths) <= 1
    assert (len(lengths) - 1) * most < modules
    step = found.rows.module_along_m + found.rows.gap_along_m
    # The box at the array stands at the post where the way begins.
    start = found.run.route.start_post
    of = int(found.places.of_table[start])
    home_x = (of % tables) * (found.rows.table_length_m + 0.5) + found.rows.table_length_m / 2
    home_x += float(found.places.from_middle_m[start])
    home_y = (of // tables) * found.rows.pitch_m
    modules_at = laid_in(found, columns, tables, rows, high)
    laid = strings_laid(modules_at, lengths, walk, (home_x, home_y), one_end=True)
    area = 3.31 if pack == "us" else 2.5
    amps = watts / 240.0 / (math.sqrt(3) if phases == "three phases" else 1)
    sealed, bare, worst = 0, 0.0, 0.0
    for _, string in laid:
        ends = [abs(m.x - home_x) + abs(m.y - home_y) for m in (string[0], string[-1])]
        pieces = []
        for a, b in pairwise(string):
            way, line = link_m(design, a, b, step)
            plugs = math.ceil(way / spacing - 1e-9)
            sealed += plugs - 1 if line else 0
            bare += 0 if line else way
            pieces.append(plugs * spacing if line else way)
        bare += min(ends) + slack
        if ends[1] < ends[0]:
            pieces.reverse()
        every = [max(piece, 1e-9) * COPPER / area for piece in (min(ends) + slack, *pieces)]
        worst = max(worst, nodal_drop(every, amps))
    assert circuit.leads.sealed == sealed
    assert answered(found, "trunk_plugs") == modules + sealed
    assert circuit.trunk_home_m == pytest.approx(bare)
    times = math.sqrt(3) if phases == "three phases" else 2
    lost = times * worst / 240.0
    assert lost * 0.97 <= circuit.array_drop <= lost * 1.17 + 1e-9
    # What goes through the trench: one circuit a branch, of what its longest gives.
    assert circuit.feed.wires.circuits == len(laid)
    assert circuit.feed.current_a == pytest.approx(max(lengths) * amps)
    assert circuit.string_drop == 0.0
    assert circuit.output_drop == pytest.approx(circuit.array_drop + circuit.choice.drop)
    net = {x.key: x.net for x in found.materials.lines if x.stage == "wiring"}
    assert net["inverter"] == modules
    assert net["end_cap"] == net["breaker"] == net["isolator"] == len(laid)
    assert net.get("seal_cap", 0) == sealed and net["trunk_plug"] == modules + sealed
    assert net["trunk_home"] == pytest.approx(bare) if bare > 0 else "trunk_home" not in net
    assert not {"fuse", "connector", "junction_box"} & net.keys()


@settings(max_examples=60, deadline=None)
@given(
    pack=st.sampled_from(["us", "metric"]),
    most=st.integers(1, 30),
    watts=st.floats(200, 1200),
    guard=st.sampled_from([16.0, 20.0, 25.0]),
    volts=st.sampled_from([208.0, 230.0, 240.0]),
)
def test_no_branch_that_is_sound_is_stronger_than_its_trunk(
    pack: str, most: int, watts: float, guard: float, volts: float
) -> None:
    one = behind(branch_most=most, box_ac_w=watts, branch_guard_a=guard, ac_v=volts)
    design = changed(DESIGNS["larkspur"](), "wiring", inverters=(one,))
    found = plan(changed(design, "site", rule_pack=pack))
    longest = math.ceil(36 / math.ceil(36 / most))
    amps = longest * watts / volts * (1.25 if pack == "us" else 1.0)
    sound = level(found, "branch") == level(found, "branch_guard") == "sound"
    assert level(found, "branch") == ("sound" if amps <= guard + 1e-9 else "stop")
    if sound:
        assert amps <= found.circuit.feed.protection_a <= guard


def test_a_module_too_strong_or_too_weak_for_its_inverter_is_a_stop() -> None:
    """44.0 V in the cold and 28.5 V in the heat, reckoned by hand from the data sheet."""
    plain = DESIGNS["larkspur"]()
    for sheet, key in (
        ({"maximum_dc_v": 43.9}, "cold"),
        ({"start_v": 28.6}, "hot"),
    ):
        found = plan(changed(plain, "wiring", inverters=(behind(**sheet),)))
        assert level(found, key) == "stop"
    found = plan(changed(plain, "wiring", inverters=(behind(maximum_dc_v=44.1, start_v=28.5),)))
    assert level(found, "cold") == level(found, "hot") == "sound"


def test_24_modules_want_24_or_48_jumpers_where_leads_do_not_reach() -> None:
    """As crews count them: one to each lead that does not reach its inverter."""
    one = behind(branch_most=12)
    design = said_job(name="jumpers", rows=said_rows(modules_along=12, modules_high=2))
    design = changed(design, "wiring", inverters=(one,), box_aside_m=0.3, box_input_m=0.1)
    for lead, jumpers in ((0.1, 48), (0.55, 24), (1.5, 0)):
        found = plan(changed(design, "modules", lead_m=lead))
        assert found.circuit.leads.box_short == jumpers
        assert answered(found, "strings") == "2 x 12"


def test_branches_come_to_the_panel_each_on_its_breaker_and_shade_leaves_the_rest() -> None:
    plain = DESIGNS["larkspur"]()
    one = behind(branch_most=10, box_ac_w=380.0)
    found = plan(changed(plain, "wiring", inverters=(one,), panel_bus_a=400.0))
    (leg,) = found.wiring.service.legs
    assert (leg.units, leg.breaker_a, leg.wire) == (4, 20.0, None)
    assert leg.amps == pytest.approx(9 * 380 / 240)
    assert found.wiring.service.amps == pytest.approx(36 * 380 / 240)
    assert level(found, "bus") == "sound" and level(found, "stands") == "sound"
    # Nothing of direct current comes home: no sign says so, and nothing asks whether it runs inside.
    assert not {"most_volts", "power_source"} & {sign.key for sign in found.wiring.signs}
    assert level(found, "inside") == "none"
    # Side by side they give more in the shade than in strings with as much lost on the way.
    strings = changed(plain, "wiring", electronics="by the module")
    assert plan(strings).energy.arrays[0].light.power.sum() == pytest.approx(
        found.energy.arrays[0].light.power.sum()
    )


def test_branches_that_differ_give_together_what_all_modules_give_and_may_meet() -> None:
    """36 on branches of 8 are one of 8 and four of 7: breakers by the strongest, the sum by all."""
    plain = DESIGNS["larkspur"]()
    one = behind(branch_most=8, box_ac_w=380.0)
    apart = plan(changed(plain, "wiring", inverters=(one,), panel_bus_a=400.0))
    (leg,) = apart.wiring.service.legs
    assert leg.units == 5 and leg.amps == pytest.approx(8 * 380 / 240)
    assert apart.wiring.service.amps == pytest.approx(36 * 380 / 240)
    assert apart.wiring.service.watts == pytest.approx(36 * 380)
    assert next(s.count for s in apart.wiring.signs if s.key == "shut_off") == 5
    # In a panel of their own: one feeder, one breaker, one switch for all of them.
    meets = changed(plain, "wiring", inverters=(one,), outputs_meet="in a panel of their own")
    found = plan(meets)
    feeder = found.wiring.service.feeder
    assert feeder is not None and feeder.amps == pytest.approx(36 * 380 / 240)
    assert feeder.breaker_a == 80.0
    net = {line.key: line.net for line in found.materials.lines}
    assert net["meeting_panel"] == net["ac_breaker"] == net["shut_off"] == 1
    # What lies in the trench ends where they meet: the feeder alone goes on.
    assert apart.circuit.one_way_m - found.circuit.one_way_m == pytest.approx(14 * 0.3048)


def test_two_kinds_behind_the_same_modules_are_a_stop() -> None:
    two = (behind(), behind(id="2", box_ac_w=400.0))
    assert level(plan(changed(DESIGNS["larkspur"](), "wiring", inverters=two)), "stands") == "stop"


def test_every_inverter_is_held_against_its_own_module() -> None:
    """430 W on 300 W is 1.43 for one as for 36; none gives more than all of them together."""
    found = plan(changed(DESIGNS["larkspur"](), "wiring", inverters=(behind(),)))
    assert answered(found, "ratio") == pytest.approx(430 / 300)
    assert level(found, "ratio") == "look"
    larger = changed(DESIGNS["larkspur"](), "wiring", inverters=(behind(box_ac_w=430.0),))
    # What is held at 300 W is lost at noon alone.
    held = found.energy.year_wh / plan(larger).energy.year_wh
    assert 0.85 < held < 0.999
