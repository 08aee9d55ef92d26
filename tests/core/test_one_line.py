"""The one line on the screen and as files: everything there once, in the order of the trade."""

import csv
import io
from xml.etree import ElementTree

import ezdxf
import pytest

from openfurrow.core.lacking import Lacking
from openfurrow.core.plan import Plan, plan
from openfurrow.demo.designs import DESIGNS
from openfurrow.exchange.exports import EXPORTS, export_named
from openfurrow.exchange.wanted import Wanted
from openfurrow.sheets.drawings.one_line import one_line_drawing
from openfurrow.sheets.marks import Drawing
from openfurrow.sheets.wire_tables import wire_rows
from tests.designs import changed, plain_larkspur

JOBS = ("larkspur", "larkspur-two", "grifo", "quillay", "varnbeck", "marram")


def words(drawn: Drawing) -> dict[str, list[float]]:
    """Every label with the heights at which it stands."""
    found: dict[str, list[float]] = {}
    for mark in drawn.marks:
        if mark.kind == "label":
            found.setdefault(mark.text, []).append(mark.points[0][1])
    return found


def drawn_of(name: str) -> tuple[Plan, Drawing]:
    found = plan(DESIGNS[name]())
    return found, one_line_drawing(found, "metric")


@pytest.mark.parametrize("name", JOBS)
def test_every_array_inverter_and_breaker_stands_there_once_and_within_the_sheet(name: str) -> None:
    found, drawn = drawn_of(name)
    said = words(drawn)
    for one in found.arrays:
        assert len(said[one.name]) == 1
    for inverter in found.wiring.given.inverters:
        called = inverter.name or f"inverter {inverter.id}"
        assert len(said[called]) == 1
    breakers = [text for text in said if " A" in text and "fuses" not in text and "bus" not in text]
    assert breakers
    for mark in drawn.marks:
        for x, y in mark.points:
            assert drawn.low[0] <= x <= drawn.high[0] and drawn.low[1] <= y <= drawn.high[1]


def test_a_panel_s_breaker_is_past_the_shut_off_and_one_ahead_of_the_main_is_before_it() -> None:
    panel = changed(plain_larkspur(), "wiring", connects="a breaker in the panel")
    said = words(one_line_drawing(plan(panel), "metric"))
    shut = said["lockable shut-off, beside the meter"][0]
    assert said["inverter 1"][0] > shut > said["breaker 70 A"][0] > said["meter"][0]
    ahead = changed(panel, "wiring", connects="ahead of the main breaker")
    said = words(one_line_drawing(plan(ahead), "metric"))
    shut = said["lockable shut-off, beside the meter"][0]
    assert said["breaker 70 A"][0] > shut > said["meter"][0]
    nobody = changed(panel, "wiring", connects="nobody has said")
    said = words(one_line_drawing(plan(nobody), "metric"))
    assert "where it connects nobody has said yet" in said and "meter" not in said


def test_what_charges_a_battery_goes_to_no_panel() -> None:
    found, drawn = drawn_of("varnbeck")
    assert "to a battery, which is not drawn" in words(drawn)
    assert "What hangs on a battery is not drawn." in drawn.legend
    assert len(found.wiring.service.legs) == 1


@pytest.mark.parametrize("name", JOBS)
def test_the_files_hold_what_the_drawing_and_the_lists_hold(name: str) -> None:
    design = DESIGNS[name]()
    found = plan(design)
    drawn = one_line_drawing(found, "us")
    said = sorted(mark.text for mark in drawn.marks if mark.kind == "label")

    def written(file: str) -> str:
        return EXPORTS[file].write(design, found, Wanted(units="us"))

    texts = ElementTree.fromstring(written("one-line.svg")).iter("{http://www.w3.org/2000/svg}text")
    assert sorted({"".join(one.itertext()) for one in texts}) == sorted(set(said))
    model = ezdxf.read(io.StringIO(written("one-line.dxf"))).modelspace()
    assert sorted(one.dxf.text for one in model.query("TEXT")) == said
    for one in model.query("LWPOLYLINE"):
        for x, y, *_ in one.get_points():
            assert -1e-6 <= x <= 190.001 and -1e-6 <= y <= 247.001
    lines = list(csv.DictReader(io.StringIO(written("wires.csv"))))
    assert [line["circuit"] for line in lines] == [row.what for row in wire_rows(found)]
    signs = list(csv.DictReader(io.StringIO(written("signs.csv"))))
    assert [int(line["how_many"]) for line in signs] == [one.count for one in found.wiring.signs]
    assert not any("\ue000" in line["sign"] + line["where"] for line in signs)


def test_a_drawing_of_what_nobody_said_is_not_written() -> None:
    design = plain_larkspur()
    bare = changed(design, "site", route=())
    with pytest.raises(Lacking):
        EXPORTS["one-line.svg"].write(bare, plan(bare), Wanted(units="us"))
    assert export_named("job.dxf") is EXPORTS["site.dxf"]
