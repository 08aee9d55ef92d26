"""The path from modules to rods as a graph: every piece of steel a node, every known link an edge.

A module that is taken out may not break it for others (NEC 690.43; from memory): frames are no edges.
Each line of purlins, or of pipe, has one strap; straps on modules where clamps do not bond: common
practice, no published source.
"""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.sparse import coo_matrix
from scipy.sparse.csgraph import connected_components

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, untried
from tests.core.breaks import pipe_grid, two_lines
from tests.core.test_checks import broken, find
from tests.designs import changed, plain_larkspur

SAYS = ("nobody has looked", "its joints are listed to bond", "a strap over every splice")


def jobs() -> st.SearchStrategy[Design]:
    def made(family: int, along: int, tables: int, stock: float, says: str, clamps: bool) -> Design:
        parts = ({}, two_lines(), pipe_grid())[family]
        rows = {"modules_along": along, "tables_along": tables, "rows": 1}
        design = broken(plain_larkspur(), parts | {"rows": rows, "frame": {"stock_length_m": stock}})
        return changed(design, "modules", steel_bonds=says, clamps_bond=clamps)

    return st.builds(
        made,
        st.integers(0, 2),
        st.integers(1, 24),
        st.integers(1, 3),
        st.sampled_from([5.0, 6.096, 7.3152, 12.0]),
        st.sampled_from(SAYS),
        st.booleans(),
    )


def not_reached(found: Plan, spliced: bool) -> int:
    """Modules whose steel hangs together with no rod, by connected parts of the graph."""
    rows, frame, stock = found.rows, found.frame, found.structure.members.stock
    nodes, edges, lonely = 1, [], 0  # Node nought is the rods.
    for table in range(rows.tables.count):
        (cut,) = [one for one in frame.cuts if table in one.tables.tolist()]
        pieces = list(zip(cut.pieces.starts_m, cut.pieces.lengths_m, strict=True))
        steel, nodes = nodes, nodes + 1
        edges.append((steel, 0))
        firsts = []
        laid = []
        for line in range(stock.lines):
            first, nodes = nodes, nodes + len(pieces)
            firsts.append(first)
            # Every other line is turned round, end for end; its strap is where it begins.
            turned = line % 2 == 1 and cut.turned is not None
            laid.append(
                [(cut.length_m - start - long, long) for start, long in reversed(pieces)]
                if turned
                else pieces
            )
            edges.append((first + len(pieces) - 1 if turned else first, steel))
            if spliced:
                edges += [(first + k, first + k + 1) for k in range(len(pieces) - 1)]
        spots: list[list[int]] = []
        strapped = 1 if stock.under_rails else stock.lines
        for column in range(int(rows.tables.columns[table])):
            left = found.modules.edges_m[column]
            if stock.under_rails:
                assert found.structure.posts.line.rails_m is not None
                held = found.structure.posts.line.rails_m[2 * column : 2 * column + 2].tolist()
            else:
                held = [left, left + rows.module_along_m]
            on = [
                first + k
                for first, own in list(zip(firsts, laid, strict=True))[:strapped]
                for k, (start, long) in enumerate(own)
                if any(start - 1e-9 <= at <= start + long + 1e-9 for at in held)
            ]
            spots.append(on)
        # Of a module's two purlins each carries it; a rail is strapped to one pipe, the first.
        lonely_at = (nodes, edges, spots)
        a, b = zip(*edges, strict=True)
        graph = coo_matrix((np.ones(len(a)), (a, b)), shape=(nodes, nodes))
        _, part = connected_components(graph, directed=False)
        lonely += sum(not any(part[k] == part[0] for k in on) for on in lonely_at[2])
    return lonely * rows.modules_high


@settings(max_examples=40, deadline=None)
@given(jobs())
def test_every_module_that_is_said_to_be_reached_hangs_together_with_the_rods(design: Design) -> None:
    found = untried(design)
    says = design.arrays[0].modules.steel_bonds
    bonding = found.modules.bonding
    assert bonding.cut_off == not_reached(found, says != SAYS[0])
    check = find(found.checks, "modules", "bond_path")
    assert (check.level == "sound") == (bonding.cut_off == 0)
    # Straps laid out one by one.
    stock, tables = found.structure.members.stock, found.rows.tables.count
    splices = sum(
        stock.lines * (len(cut.pieces.lengths_m) - 1) * cut.tables.size for cut in found.frame.cuts
    )
    rails = 2 * int(found.rows.tables.columns.sum()) if stock.under_rails else 0
    straps = rails + stock.lines * tables + (splices if says == SAYS[2] else 0)
    if not design.arrays[0].modules.clamps_bond:
        straps += found.rows.module_count
    assert bonding.straps == straps
    lines = {line.key: line for line in found.materials.lines}
    assert lines["strap"].net == straps
    assert lines["ground_lug"].net == tables


def test_the_demo_by_hand() -> None:
    """18 columns, purlins of 24 ft from 24 ft sticks: twelve columns hang on splices."""
    design = changed(plain_larkspur(), "modules", steel_bonds=SAYS[0])
    bonding = untried(design).modules.bonding
    # The first piece ends short of 24 ft: columns of 3 ft 9 in and their gaps, six of them begin on it.
    first = untried(design).frame.line.lengths_m[0]
    edges = untried(design).modules.edges_m
    on_it = int((edges <= first).sum())
    assert on_it == 6
    # Of two purlins under a module one begins at the other end: six more hang on its first piece.
    assert bonding.cut_off == 2 * (18 - 2 * on_it)
    alike = changed(design, "frame", staggered=False)
    assert untried(alike).modules.bonding.cut_off == 2 * (18 - on_it)
    assert [link.count for link in bonding.links] == [36, 12, 4, 1]
    assert [link.known for link in bonding.links] == [True, False, True, True]


@pytest.mark.parametrize("says", SAYS)
def test_what_is_bought_follows_what_is_said(says: str) -> None:
    found = untried(changed(plain_larkspur(), "modules", steel_bonds=says))
    assert found.modules.bonding.straps == (4 + 12 if says == SAYS[2] else 4)
