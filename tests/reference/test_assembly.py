"""In which order a frame goes together, and how many of what: against the list of materials.

Common practice, no published source: what slides on before what closes the end, snug, square, tight.
"""

import math

import pytest

from openfurrow.core.design import Design
from openfurrow.core.frame.assembly import square_m, steps_of
from openfurrow.core.plan import Plan, plan
from openfurrow.demo.designs import DESIGNS
from openfurrow.sheets.assembly_table import assembly_table
from tests.core.breaks import SEASONS, ballast, pipe_grid, single_pole, two_lines
from tests.core.test_checks import broken
from tests.designs import changed, plain_larkspur

FAMILIES = {
    "one post line": dict[str, dict[str, object]](),
    "two post lines": two_lines(),
    "pipe grid": pipe_grid(),
    "ballast frame": ballast(),
    "single pole": single_pole(),
}


def of_family(name: str) -> tuple[Design, Plan]:
    design = broken(plain_larkspur(), FAMILIES[name])
    return design, plan(design)


@pytest.mark.parametrize("name", FAMILIES)
def test_everything_of_the_frame_is_put_on_once_and_in_an_order_that_can_be_done(name: str) -> None:
    _, found = of_family(name)
    steps = steps_of(found.rows, found.structure, found.frame)
    keys = [step.key for step in steps]
    assert len(set(keys)) == len(keys)
    # What slides on goes before what closes its end; tight comes after square, glass last of all.
    if "splices" in keys:
        assert keys.index("slid") < keys.index("splices")
    assert keys.index("square") < keys.index("tight") < keys.index("bare") == len(keys) - 1
    for carried, carrier in (
        ("lowest", "beams"),
        ("rails", "pipes"),
        ("pipes", "saddles"),
        ("pipes", "head"),
        ("beams", "struts"),
        ("filled", "beams"),
    ):
        if carried in keys and carrier in keys:
            assert keys.index(carrier) < keys.index(carried)
    taken = [title for step in steps for title, _ in step.takes]
    assert len(set(taken)) == len(taken)
    counts = dict(pair for step in steps for pair in step.takes)
    # Every fixing and every piece that the frame has is put on at some step, as many as are ordered.
    for one in found.structure.members.fixings:
        assert counts.get(one.title, 0) == one.count
    for piece in found.structure.members.pieces:
        assert counts[piece.title] == piece.lengths_m.size
    net = {line.key: line.net for line in found.materials.lines if line.stage == "frame"}
    for one in found.structure.members.fixings:
        assert net.get(one.key, 0) == one.count
    splices = sum((len(cut.pieces.lengths_m) - 1) * cut.lines for cut in found.frame.cuts)
    stock = found.structure.members.stock
    assert counts.get(stock.splice, 0) == splices * stock.parts
    assert counts[stock.cut] == sum(len(c.pieces.lengths_m) * c.lines for c in found.frame.cuts)


@pytest.mark.parametrize("name", FAMILIES)
def test_a_frame_is_square_where_a_tape_over_its_corners_says_so(name: str) -> None:
    """Corners as points of the plane of the glass, the tape from one to the one across."""
    design, found = of_family(name)
    line, beam = found.structure.posts.line, found.structure.members.beam
    if found.structure.members.stock.under_rails:
        # Rails: a quarter in from both edges of the outer columns, as long as glass and both ends.
        columns = int(found.rows.tables.columns[0])
        step, wide = found.rows.column_step_m, found.rows.module_along_m
        across = (columns - 1) * step + wide - 2 * (line.rails_m[0] - line.rails_m.min())
        assert line.rails_m.max() - line.rails_m.min() <= across
        corners = ((line.rails_m.min(), 0.0), (line.rails_m.max(), beam.length_m))
    else:
        corners = ((0.0, beam.places_m[0]), (line.purlin_m, beam.places_m[-1]))
    assert square_m(found.structure) == pytest.approx(math.dist(*corners))
    text = " ".join(" ".join(row) for row in assembly_table(found, "metric").rows)
    assert f"{square_m(found.structure):.2f} m each" in text
    assert design.arrays[0].structure.family == name


def test_a_table_of_one_stick_has_no_splice_to_close() -> None:
    design = changed(plain_larkspur(), "rows", modules_along=3)
    found = plan(design)
    keys = [step.key for step in steps_of(found.rows, found.structure, found.frame)]
    assert found.frame.splices == 0 and "splices" not in keys
    assert {"cables", "rails", "filled", "head"}.isdisjoint(keys)


def test_a_table_of_several_tilts_is_set_to_each() -> None:
    found = plan(broken(plain_larkspur(), SEASONS))
    mind = next(row[3] for row in assembly_table(found, "us").rows if row[1].startswith("Set the"))
    assert all(f"{one.tilt_deg:.1f}°" in mind for one in found.rows.positions)


def test_the_torque_told_is_that_of_the_bolts_and_the_tilt_that_of_the_table() -> None:
    found = plan(DESIGNS["larkspur"]())
    told = {row[1]: row[3] for row in assembly_table(found, "us").rows}
    torque = next(a for a in found.frame.answers if a.key == "bolt_torque")
    pounds = float(torque.working.value) / 1.3558179
    assert f"{pounds:.1f} lb·ft" in next(m for d, m in told.items() if d.startswith("Tighten"))
    assert f"{found.rows.section.tilt_deg:.1f}°" in next(m for d, m in told.items() if "tilt" in d)
