"""What is left when all stands, weighed and counted again from the cut list and the list to buy."""

import pytest

from openfurrow.core.plan import untried
from openfurrow.demo.designs import DESIGNS

WIRES = ("Wire ", "Array wire", "Bare copper", "Grounding wire")


@pytest.mark.parametrize("name", ["larkspur", "larkspur-two", "grifo", "quillay", "varnbeck", "marram"])
def test_left_over_is_what_was_bought_less_what_stands(name: str) -> None:
    made = untried(DESIGNS[name]())
    lines, sawing = made.materials.lines, made.materials.sawing
    # Steel: sticks by their weight, less every piece of the cut list and the spare posts among them.
    sticks = sum(line.piece_kg * line.quantity for line in lines if line.key.startswith("sticks_"))
    pieces = sum(
        length * count * bar.kg_per_m for bar in sawing.bars for length, count in bar.counts.items()
    )
    told = {one.key: one.working for one in made.materials.answers}
    assert float(told["scrap_steel"].value) == pytest.approx(sticks - pieces, abs=1e-3 * sticks + 1e-6)
    # Wire: what goes by that name in the list, by its own weight to the metre.
    kg = long = 0.0
    for line in lines:
        if line.kind == "run" and line.item.startswith(WIRES):
            kg += line.mass_kg * (1 - line.net / line.quantity)
            long += line.quantity - line.net
    assert float(told["scrap_copper"].value) == pytest.approx(kg)
    (run,) = told["scrap_copper"].inputs
    assert float(run.value) == pytest.approx(long)
    over = sum(
        round(line.quantity - line.net)
        for line in lines
        if line.kind == "count" and round(line.quantity) > round(line.net)
    )
    assert float(told["returned"].value) == over
    assert over > 0
