"""What a meter should read, on paper: worked again line by line from the modules of each string."""

import re

import pytest

from openfurrow.core.design import Design
from openfurrow.core.plan import plan
from openfurrow.core.quantities import UnitSystem
from openfurrow.demo.designs import grifo, larkspur_with_pump_house, marram, varnbeck
from openfurrow.sheets.models import TableText
from openfurrow.sheets.write import stage_sheet


def number(text: str) -> float:
    return float(re.sub(r"[^0-9.\-]", "", text.replace("−", "-")))


def lists(design: Design, units: UnitSystem) -> dict[str, TableText]:
    sheet = stage_sheet("wiring", design, plan(design), units)
    return {one.key: one for one in sheet.tables}


@pytest.mark.parametrize("units", ["us", "metric"])
@pytest.mark.parametrize("make", [larkspur_with_pump_house, grifo, varnbeck, marram])
def test_readings_are_those_of_the_modules_in_each_string(make: object, units: UnitSystem) -> None:
    design = make()  # type: ignore[operator]
    found, circuits = lists(design, units), plan(design).wiring.circuits
    kinds = [
        (array, length, count)
        for array, circuit in zip(design.arrays, circuits, strict=True)
        for length in sorted(set(circuit.strings.lengths.tolist()), reverse=True)
        for count in [circuit.strings.lengths.tolist().count(length)]
    ]
    several = len(design.arrays) > 1
    for key in ("readings-open", "readings-running"):
        table = found[key]
        heads = [number(one.title) for one in table.columns[2 + several :]]
        assert heads == sorted(heads) and len(heads) >= 5
        for (array, length, count), row in zip(kinds, table.rows, strict=True):
            assert row[several : 2 + several] == (str(length), str(count))
            assert not several or row[0] == array.name
            one = array.modules
            for head, cell in zip(heads, row[2 + several :], strict=True):
                if key == "readings-running":
                    assert number(cell) == pytest.approx(one.maximum_power_a * head / 1000, abs=0.006)
                    continue
                warm = (head - 32) / 1.8 if units == "us" else head
                volts = length * one.open_circuit_v
                volts *= 1 + one.voltage_coefficient_per_c * (warm - 25)
                assert number(cell) == pytest.approx(volts, abs=0.06)
    # From the coldest that is reckoned with to what the sun makes of a module.
    cold = design.site.lowest_temperature_c
    assert cold is not None
    first, *_, last = (number(one.title) for one in found["readings-open"].columns[2 + several :])
    if units == "us":
        first, last = (first - 32) / 1.8, (last - 32) / 1.8
    assert cold - 12 < first <= cold and 55 < last <= 70


def test_branches_have_no_string_that_could_be_read() -> None:
    said = larkspur_with_pump_house().model_dump()
    behind = {"id": "1", "stands": "behind each module", "branch_most": 9}
    said["wiring"]["inverters"] = [behind | {"maximum_dc_v": 60.0, "start_v": 22.0}]
    found = lists(Design.model_validate(said), "us")
    assert not any(key.startswith("readings") for key in found) and "signs" in found
