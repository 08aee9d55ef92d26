"""Steel that grows by hand: 11.7 millionths a kelvin (NEC 300.7(B) note, from memory), over 60 kelvins.

Frames broken every 30 to 40 m: common practice, no published source.
"""

import itertools

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.plan import untried
from tests.core.test_checks import broken
from tests.designs import plain_larkspur


@settings(max_examples=25, deadline=None)
@given(st.integers(4, 36), st.floats(0.0, 1.0), st.integers(1, 3))
def test_tables_that_do_not_meet_when_they_are_hottest(along: int, gap: float, tables: int) -> None:
    rows = {"rows": 1, "modules_along": along, "tables_along": tables, "table_gap_m": round(gap, 3)}
    found = untried(broken(plain_larkspur(), {"rows": rows}))
    posts, laid = found.structure.posts, found.rows.tables
    steel = posts.line.purlin_m
    grown = 1.17e-5 * 60 * steel
    assert float(found.answer("frame", "grows").value) == pytest.approx(grown)
    checks = {one.key: one for one in found.frame.checks}
    assert (checks["unbroken"].level == "sound") is (steel <= 36.0)
    if tables == 1:
        assert "ends_apart" not in checks
        return
    # Where two tables end, as they are laid along the row: steel past the glass at both ends.
    past = (steel - float(laid.lengths_m[0])) / 2
    ends = sorted(
        (run - long / 2 - past, run + long / 2 + past)
        for run, long in zip(laid.run_m.tolist(), laid.lengths_m.tolist(), strict=True)
    )
    between = min(after[0] - before[1] for before, after in itertools.pairwise(ends))
    assert checks["ends_apart"].measured == pytest.approx(between, abs=1e-6)
    assert (checks["ends_apart"].level == "sound") is (between >= grown - 1e-9)
