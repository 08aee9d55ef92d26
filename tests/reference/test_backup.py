"""What is kept on with the grid out: sharing by trying, starts one by one, hours by running them down.

NEC 2020, 702; IEC 60364-5-551. From memory of both; sums are arithmetic.
"""

import itertools
import math
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.plan import plan, untried
from openfurrow.core.wiring.backup import asked_of, backup_of
from openfurrow.core.wiring.backup_givens import KeptOnGivens
from openfurrow.demo.varnbeck import varnbeck
from tests.designs import changed, plain_larkspur, said_site


def circuits(most: int = 6) -> st.SearchStrategy[tuple[KeptOnGivens, ...]]:
    one = st.builds(
        KeptOnGivens,
        across=st.sampled_from(["one line", "one line", "all lines"]),
        watts=st.floats(10, 3000),
        start_w=st.none() | st.floats(10, 12000),
        hours=st.floats(0.1, 24),
        guard_a=st.sampled_from([6.0, 10.0, 16.0, 20.0, 32.0, 50.0]),
    )
    return st.lists(one, min_size=1, max_size=most).map(
        lambda found: tuple(
            x.model_copy(update={"id": str(n), "name": f"c{n}"}) for n, x in enumerate(found)
        )
    )


@settings(deadline=None)
@given(found=circuits(), lines=st.integers(1, 3))
def test_circuits_are_shared_as_the_panel_says_and_no_line_is_forgotten(
    found: tuple[KeptOnGivens, ...], lines: int
) -> None:
    asked = asked_of(found, lines)
    of = {one.name: one for one in found}
    both = sum(one.watts for one in found if one.across == "all lines") / lines
    # As it is told who is on which line, so the lines are loaded.
    told = [both + sum(of[name].watts for name in names) for names in asked.of_line]
    assert list(asked.on_lines_w) == pytest.approx(told)
    assert sorted(name for names in asked.of_line for name in names) == sorted(
        one.name for one in found if one.across == "one line"
    )
    assert sum(told) == pytest.approx(asked.whole_w) == pytest.approx(sum(one.watts for one in found))
    # By trying every way to share them: no better than the best, no worse than a third more.
    single = [one.watts for one in found if one.across == "one line"]
    best = min(
        max(
            both + sum(w for w, at in zip(single, where, strict=True) if at == line)
            for line in range(lines)
        )
        for where in itertools.product(range(lines), repeat=len(single))
    )
    assert best * (1 - 1e-9) <= max(told) <= max(best * 4 / 3, best + 1e-9) * (1 + 1e-9)
    # A source gives every line the same: of it that must be as much as the fullest takes.
    assert asked.running_w == pytest.approx(lines * max(told))
    # One start at a time, everything else running.
    worst = lines * max(told)
    for one in found:
        more = max(0.0, (one.start_w or 0.0) - one.watts)
        for line in range(lines):
            on = told[line]
            if one.across == "all lines":
                on += more / lines
            elif one.name in asked.of_line[line]:
                on += more
            worst = max(worst, lines * on)
        worst = max(worst, asked.whole_w + more)
    assert asked.peak_w == pytest.approx(worst)


def kept_on(found: tuple[KeptOnGivens, ...], pack: str, **more: Any) -> Design:
    design = changed(plain_larkspur(), "site", rule_pack=pack)
    said = {"battery_wh": 12e3, "battery_w": 5e3, "battery_peak_w": 9e3} | more
    volts = 240.0 if pack == "us" else 230.0
    return changed(design, "wiring", backs_up=True, kept_on=found, backup_v=volts, **said)


@pytest.mark.parametrize("pack", ["us", "metric"])
@settings(deadline=None, max_examples=25)
@given(data=st.data())
def test_what_is_called_sound_runs_starts_and_lasts(pack: str, data: st.DataObject) -> None:
    found = data.draw(circuits(4))
    battery = data.draw(st.floats(500, 60e3))
    design = kept_on(found, pack, battery_wh=battery, hours_wanted=data.draw(st.floats(1, 72)))
    made = untried(design)
    level = {check.key: check.level for check in made.wiring.checks}
    lines = 2 if pack == "us" else 1
    asked = asked_of(found, lines)
    # Each line of the inverter gives its even part of what is on its plate.
    if level["backup_power"] == "sound":
        assert max(asked.on_lines_w) <= 5e3 / lines * (1 + 1e-9) and asked.whole_w <= 5e3 * (1 + 1e-9)
    else:
        assert max(asked.on_lines_w) > 5e3 / lines * (1 - 1e-9)
    assert (level["backup_start"] == "sound") == (asked.peak_w <= 9e3 * (1 + 1e-9))
    # Run down in steps of a minute at the day's mean, a tenth lost on the way.
    mean_w = sum(one.watts * one.hours for one in found) / 24
    left, minutes = battery * 0.9, 0
    while left > 0 and minutes < 80 * 60:
        left -= mean_w / 60
        minutes += 1
    wanted = design.wiring.hours_wanted
    if abs(minutes / 60 - wanted) > 0.05:
        assert (level["backup_hours"] == "sound") == (minutes / 60 >= wanted)


@pytest.mark.parametrize("pack", ["us", "metric"])
@settings(deadline=None, max_examples=25)
@given(data=st.data())
def test_feeder_switch_and_generator_are_as_large_as_what_flows(pack: Any, data: st.DataObject) -> None:
    found = data.draw(circuits(5))
    generator = data.draw(st.none() | st.floats(1000, 20000))
    design = kept_on(found, pack, generator_w=generator, generator_m=12.0, backup_m=3.0)
    backup = backup_of(said_site(rule_pack=pack), design.wiring)  # type: ignore[arg-type]
    assert backup is not None
    to_neutral = 120.0 if pack == "us" else 230.0
    lasting = 1.25 if pack == "us" else 1.0
    on_line = max(asked_of(found, 2 if pack == "us" else 1).on_lines_w) / to_neutral
    assert backup.feeder.breaker_a >= on_line * lasting * (1 - 1e-9)
    # Whatever trips in the panel trips before the feeder does.
    assert backup.feeder.breaker_a >= max(one.guard_a for one in found)
    assert backup.feeder.one_way_m == pytest.approx(3.0 + 2 * design.wiring.slack_m)
    assert backup.switch_a >= backup.feeder.breaker_a
    if generator is None:
        assert backup.generator is None
    else:
        assert backup.generator is not None
        flows = generator / (240.0 if pack == "us" else 230.0)
        assert backup.generator.amps == pytest.approx(flows)
        assert backup.generator.breaker_a >= flows * (1 - 1e-9)
        assert backup.switch_a >= backup.generator.breaker_a
    for leg in (backup.feeder, backup.generator):
        if leg is not None and leg.wire is not None and leg.wire.fits:
            assert leg.wire.carries_a >= leg.amps * (1 - 1e-9)


def test_what_is_bought_and_what_signs_say() -> None:
    """Counted by hand: one switch, one panel, two feeders, a start pair as long as its way."""
    circuit = KeptOnGivens(id="1", name="pump", across="all lines", watts=900.0)
    design = kept_on(
        (circuit,),
        "us",
        transfer="a switch that turns by itself",
        generator_w=6000.0,
        generator_starts="by itself, over a start pair",
        generator_m=20.0,
        backup_m=2.0,
        connects="a breaker in the panel",
    )
    bare = plan(changed(design, "wiring", backs_up=False))
    found = plan(design)
    for key in ("transfer_switch", "backup_panel", "start_pair"):
        assert bare.materials.quantity(key) == 0
    assert found.materials.quantity("transfer_switch") == 1
    assert found.materials.quantity("backup_panel") == 1
    pair = found.materials.quantity("start_pair")
    assert 20 <= pair <= (20 + 2 * design.wiring.slack_m) * 1.15 + 1
    (sign,) = [one for one in found.wiring.signs if one.key == "standby"]
    assert "GENERATOR" in sign.text and "BATTERY" in sign.text
    assert not [one for one in bare.wiring.signs if one.key == "standby"]
    inside = changed(design, "wiring", transfer="inside the inverter", generator_w=None)
    assert plan(inside).materials.quantity("transfer_switch") == 0
    assert not math.isclose(
        sum(line.quantity for line in found.materials.lines if line.key.startswith("ac_breaker")),
        sum(line.quantity for line in bare.materials.lines if line.key.startswith("ac_breaker")),
    )


def test_battery_and_generator_are_bought_unless_they_are_there() -> None:
    """Common practice: what is said to feed it is in the list, once each."""
    design = changed(varnbeck(), "wiring", battery_wh=12e3, battery_w=5000.0, generator_w=8000.0)
    lines = {one.key: one for one in plan(design).materials.lines}
    assert lines["backup_battery"].quantity == lines["backup_generator"].quantity == 1
    there = {one.key for one in plan(changed(design, "wiring", standby_there=True)).materials.lines}
    assert not there & {"backup_battery", "backup_generator"}
    alone = changed(design, "wiring", generator_w=None)
    assert "backup_generator" not in {one.key for one in plan(alone).materials.lines}
