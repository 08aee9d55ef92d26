"""The saw's lists against OR-Tools' optimum, a bound over all patterns, and a count of the drawing."""

import math
import re
from collections import Counter
from itertools import product

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from ortools.sat.python import cp_model
from scipy.optimize import linprog

from openfurrow.core.design import Design
from openfurrow.core.frame.givens import CUT_HERE
from openfurrow.core.materials.nesting import Nest, nested, offcut_share
from openfurrow.core.plan import Plan, plan, untried
from openfurrow.core.quantities import format_value
from openfurrow.demo.designs import DESIGNS
from tests.core.test_checks import broken
from tests.designs import changed, designs, plain_larkspur

KERF_M = 0.003
# Pieces in millimetres, as a tape has them, and how many of each.
PIECES = st.dictionaries(st.integers(250, 6000), st.integers(1, 60), min_size=1, max_size=12)
FEW = st.lists(st.integers(400, 6000), min_size=1, max_size=11)


def in_metres(pieces: dict[int, int]) -> dict[float, int]:
    return {length / 1000: count for length, count in pieces.items()}


def lays_out(nest: Nest, pieces: dict[float, int], stocks: tuple[float, ...], kerf: float) -> None:
    """Laid end to end, cut after cut, every stick holds its pieces and every piece is there once."""
    made: Counter[float] = Counter()
    for pattern in nest.patterns:
        assert pattern.stock_m in stocks and pattern.sticks >= 1
        end = -kerf
        for piece in pattern.pieces_m:
            end += kerf + piece
            made[piece] += pattern.sticks
        assert end <= pattern.stock_m + 1e-4
        assert list(pattern.pieces_m) == sorted(pattern.pieces_m, reverse=True)
    assert made == Counter(pieces)


@settings(max_examples=90, deadline=None)
@given(PIECES, st.sampled_from([(6.0,), (6.0, 7.5), (6.2, 9.0, 12.0)]), st.sampled_from([0.0, KERF_M]))
def test_every_piece_comes_from_a_stick_that_holds_it(
    pieces: dict[int, int], stocks: tuple[float, ...], kerf: float
) -> None:
    wanted = in_metres(pieces)
    nest = nested(wanted, stocks, kerf)
    lays_out(nest, wanted, stocks, kerf)
    needed = sum(length * count for length, count in wanted.items())
    assert needed - 1e-6 <= nest.bound_m + 1e-3 <= nest.bought_m + 2e-3
    assert nest.bought_m == pytest.approx(sum(k * n for k, n in nest.of_stock().items()))
    if len(stocks) == 1:
        # At most one stick over what no way of cutting can beat.
        assert nest.sticks <= math.ceil(nest.bound_m / stocks[0] - 1e-6) + 1


def optimum_m(pieces: list[int], stocks_mm: tuple[int, ...], kerf_mm: int) -> int:
    """The least millimetres of sticks, by CP-SAT: which piece comes from which stick."""
    model, most = cp_model.CpModel(), len(pieces)
    used = [
        [model.new_bool_var(f"u{stick}.{kind}") for kind in range(len(stocks_mm))]
        for stick in range(most)
    ]
    into = [[model.new_bool_var(f"p{piece}.{stick}") for stick in range(most)] for piece in range(most)]
    for own in into:
        model.add_exactly_one(own)
    for stick in range(most):
        model.add_at_most_one(used[stick])
        model.add(
            sum((length + kerf_mm) * into[piece][stick] for piece, length in enumerate(pieces))
            <= sum((stock + kerf_mm) * flag for stock, flag in zip(stocks_mm, used[stick], strict=True))
        )
    bought = sum(stock * flag for own in used for stock, flag in zip(stocks_mm, own, strict=True))
    model.minimize(bought)
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.max_time_in_seconds = 20
    assert solver.solve(model) == cp_model.OPTIMAL
    return round(solver.objective_value)


@settings(max_examples=60, deadline=None)
@given(FEW, st.sampled_from([(6000,), (6000, 7500)]))
def test_a_few_pieces_are_cut_as_well_as_can_be(pieces: list[int], stocks: tuple[int, ...]) -> None:
    nest = nested(in_metres(Counter(pieces)), tuple(stock / 1000 for stock in stocks), KERF_M)
    assert round(nest.bought_m * 1000) == optimum_m(pieces, stocks, 3)


@settings(max_examples=25, deadline=None)
@given(st.lists(st.integers(1225, 1289), min_size=12, max_size=40))
def test_pieces_nearly_alike_are_cut_as_well_as_they_can_be_counted(pieces: list[int]) -> None:
    """Five fit a stick of 7,315 mm and no six, seven one of 9,144 mm and no eight, of any."""
    assert 5 * 1292 <= 7318 < 6 * 1228 and 7 * 1292 <= 9147 < 8 * 1228
    least = min(
        7315 * short + 9144 * long
        for short in range(len(pieces) // 5 + 2)
        for long in range(len(pieces) // 7 + 2)
        if 5 * short + 7 * long >= len(pieces)
    )
    nest = nested(in_metres(Counter(pieces)), (7.315, 9.144), KERF_M)
    lays_out(nest, in_metres(Counter(pieces)), (7.315, 9.144), KERF_M)
    assert round(nest.bought_m * 1000) == least


def all_patterns(lengths: list[int], stock: int, kerf: int) -> list[tuple[int, ...]]:
    """Every way to fill a stick, full or not."""
    most = [range((stock + kerf) // (length + kerf) + 1) for length in lengths]
    return [
        fits
        for fits in product(*most)
        if sum(n * (length + kerf) for n, length in zip(fits, lengths, strict=True)) <= stock + kerf
    ]


@settings(max_examples=40, deadline=None)
@given(st.dictionaries(st.integers(900, 6000), st.integers(20, 400), min_size=1, max_size=6))
def test_of_many_pieces_the_bound_is_that_over_all_patterns(pieces: dict[int, int]) -> None:
    lengths = sorted(pieces)
    patterns = np.array(all_patterns(lengths, 6000, 3))
    wanted = np.array([pieces[length] for length in lengths])
    solved = linprog(np.ones(len(patterns)), A_ub=-patterns.T, b_ub=-wanted)
    nest = nested(in_metres(pieces), (6.0,), KERF_M)
    # No bound is above the true one, and this one is as good in whole sticks.
    assert nest.bound_m / 6 <= solved.fun + 1e-6
    least = math.ceil(solved.fun - 1e-6)
    assert math.ceil(nest.bound_m / 6 - 1e-6) == least
    assert nest.sticks <= least + 1


def test_a_dozen_lengths_that_a_long_stick_holds_many_of_end() -> None:
    """Thousands of millions of fillings, of which none is full: they are priced, not gone through."""
    pieces = {400 + 37 * step: 6 for step in range(12)}
    nest = nested(in_metres(pieces), (48.0,), KERF_M)
    lays_out(nest, in_metres(pieces), (48.0,), KERF_M)
    assert nest.sticks == math.ceil(sum(n * (long + 3) for long, n in pieces.items()) / 48003)


def test_a_thousand_pieces_of_many_lengths_come_within_a_stick_of_the_bound() -> None:
    random = np.random.default_rng(5)
    for low, high in ((500, 2500), (1000, 3200), (300, 5900)):
        lengths = np.unique(random.integers(low, high, 120))
        pieces = {int(length): int(random.integers(1, 17)) for length in lengths}
        wanted = in_metres(pieces)
        nest = nested(wanted, (6.0,), KERF_M)
        lays_out(nest, wanted, (6.0,), KERF_M)
        assert nest.sticks <= math.ceil(nest.bound_m / 6.0 - 1e-6) + 1


def test_pieces_that_all_differ_come_within_two_sticks_of_it() -> None:
    """As braces on rough ground do: hundreds of lengths, of each one to three."""
    random = np.random.default_rng(2)
    for low, high in ((1900, 2300), (1400, 2200), (2500, 3400)):
        lengths = np.unique(random.integers(low, high, 300))
        wanted = {int(length) / 1000: int(random.integers(1, 4)) for length in lengths}
        nest = nested(wanted, (6.0,), KERF_M)
        lays_out(nest, wanted, (6.0,), KERF_M)
        assert nest.sticks <= math.ceil(nest.bound_m / 6.0 - 1e-6) + 2


def test_halves_and_whole_sticks_fit_to_the_last_tenth_of_a_millimetre() -> None:
    half = (7.3152 - KERF_M) / 2
    assert nested({half: 10}, (7.3152,), KERF_M).sticks == 5
    assert nested({half + 2e-4: 10}, (7.3152,), KERF_M).sticks == 10
    assert nested({7.3152: 3}, (7.3152,), KERF_M).sticks == 3
    assert nested({}, (6.0,), KERF_M).bought_m == 0
    with pytest.raises(ValueError, match="longer than a stick"):
        nested({6.1: 1}, (6.0, 5.0), KERF_M)
    # Two of 2 m and a cut leave 1.994 m of a stick of 6.
    assert offcut_share({2.0: 2}, (6.0,), KERF_M) == pytest.approx(1 / 3)


def saw_of(found: Plan, design: Design) -> None:
    """The whole of the saw's work, counted again from tables, posts and pieces."""
    frame, sawing = design.arrays[0].frame, found.materials.sawing
    tape = 0.0254 / 16 if design.site.display_units == "us" else 0.001
    members, posts = found.structure.members, found.footings.posts
    wanted: dict[str, list[tuple[float, float]]] = {}
    for piece in members.pieces:
        # Bolt to bolt, and past each bolt.
        more = 2 * frame.beyond_bolt_m if piece.bolted else 0.0
        here = piece.from_stick and frame.pieces_come == CUT_HERE
        for length in piece.lengths_m + more:
            if here and round(length / tape) * tape <= max(frame.piece_stocks_m) + 1e-9:
                wanted.setdefault(piece.profile, []).append((float(length), tape))
    for line in found.frame.cuts:
        for length in line.pieces.lengths_m:
            wanted.setdefault(members.purlin.section.name, []).extend([(length, tape)] * line.lines)
    if frame.posts_come == CUT_HERE and posts.longest_m <= frame.post_stock_m:
        # Posts come to their level: whole inches, or 25 mm.
        mark = 0.0254 if design.site.display_units == "us" else 0.025
        # A leg that would end in the ground is a stop elsewhere: there is nothing to saw.
        own = [(float(length), mark) for length in posts.lengths_m if length > 0]
        spare = [(max(own))] * design.materials.spare_posts
        if posts.steel is not None:
            wanted.setdefault(posts.steel.name, []).extend([*own, *spare])
    bars = {bar.profile: bar for bar in sawing.bars}
    for profile, pieces in wanted.items():
        bar = bars[profile]
        made = sorted(
            piece
            for pattern in bar.nest.patterns
            for piece in pattern.pieces_m
            for _ in range(pattern.sticks)
        )
        assert len(made) == len(pieces) == bar.pieces
        for piece, (length, mark) in zip(made, sorted(pieces), strict=True):
            # To the nearest mark, and never longer than its stick; posts are never short.
            low, high = (0.0, mark) if mark > 0.01 else (-mark / 2, mark / 2)
            assert low - 2e-6 <= piece - length <= high + 2e-6 or piece in bar.stocks_m
        lays_out(bar.nest, Counter(made), bar.stocks_m, design.materials.saw_cut_m)
        # What is ordered is what is cut from.
        ordered = [
            line
            for line in found.materials.lines
            if line.key.startswith("sticks") and f", {profile}, " in line.item
        ]
        assert sum(line.quantity * line.length_m for line in ordered) == pytest.approx(
            bar.nest.bought_m
        )
        assert sum(line.mass_kg for line in ordered) == pytest.approx(bar.nest.bought_m * bar.kg_per_m)
    if frame.pieces_come != CUT_HERE:
        net = {line.key: line.net for line in found.materials.lines}
        for piece in members.pieces:
            assert net[piece.key] == piece.lengths_m.size
    bundled: Counter[str] = Counter()
    for bundle in sawing.bundles():
        bundled.update(dict(bundle.counts))
    for bar in sawing.bars:
        whole = Counter({bar.marks[length]: count for length, count in bar.counts.items()})
        spare = design.materials.spare_posts if "post" in bar.key else 0
        mine = {mark: count for mark, count in bundled.items() if mark in whole}
        assert sum(whole.values()) - sum(mine.values()) == spare


@settings(max_examples=50, deadline=None)
@given(designs())
def test_what_is_sawn_and_ordered_is_what_the_drawing_has(design: Design) -> None:
    found = plan(design)
    if found.has("materials"):
        saw_of(found, design)


def test_each_table_gets_its_own_pieces() -> None:
    """Two tables of different ground: their struts differ, and each bundle has those of its posts."""
    design = changed(plain_larkspur(), "rows", rows=2)
    design = changed(design, "site", slope=0.1, falls_toward_deg=120.0)
    found = plan(design)
    (strut,) = (piece for piece in found.structure.members.pieces if piece.key == "strut")
    bundles = found.materials.sawing.bundles()
    assert [one.table for one in bundles] == ["1.1", "2.1"]
    (bar,) = (one for one in found.materials.sawing.bars if one.key == "strut")
    of_table = found.structure.supports.places.of_table
    for number, bundle in enumerate(bundles):
        own = sorted(strut.lengths_m[of_table == number] + 2 * design.arrays[0].frame.beyond_bolt_m)
        lengths = {mark: length for length, mark in bar.marks.items()}
        tied = sorted(
            lengths[mark] for mark, count in bundle.counts if mark in lengths for _ in range(count)
        )
        assert len(tied) == len(own) == 9
        assert np.abs(np.array(tied) - np.array(own)).max() <= 0.0254 / 32 + 1e-6


def test_several_arrays_share_their_sticks() -> None:
    """Two alike arrays side by side: alike pieces have one mark, and are cut from one pile."""
    one = plain_larkspur()
    other = one.arrays[0].model_copy(update={"id": "b", "name": "Other"})
    moved = other.model_copy(update={"rows": other.rows.model_copy(update={"at_north_m": 40.0})})
    two = one.model_copy(update={"arrays": (one.arrays[0], moved)})
    alone, both = plan(one).materials.sawing, plan(two).materials.sawing
    for single, double in zip(alone.bars, both.bars, strict=True):
        assert single.profile == double.profile and double.pieces == 2 * single.pieces
        assert double.nest.bought_m <= 2 * single.nest.bought_m + 1e-6


def test_every_line_of_the_list_has_a_key_of_its_own() -> None:
    """Two profiles of purlin, each from sticks of two lengths: four lines, told apart."""
    one = changed(plain_larkspur(), "frame", stock_length_m=7.3152, other_stock_m=6.4)
    other = one.arrays[0].model_copy(update={"id": "b", "name": "Other"})
    moved = other.rows.model_copy(update={"at_north_m": 40.0, "modules_along": 11})
    heavy = other.structure.model_copy(update={"purlin_section": "Z 200 x 64 x 2.0"})
    other = other.model_copy(update={"rows": moved, "structure": heavy})
    found = plan(one.model_copy(update={"arrays": (one.arrays[0], other)}))
    keys = [line.key for line in found.materials.lines]
    assert len(set(keys)) == len(keys)
    assert sum(key.startswith("sticks_purlin") for key in keys) >= 3


def test_what_the_frame_says_is_what_the_saw_cuts() -> None:
    """As both are written: a crew that compares them finds one number."""
    for name in ("larkspur", "grifo", "quillay"):
        design = DESIGNS[name]()
        found, units = plan(design), design.site.display_units
        cuts = found.materials.sawing.arrays[0].cuts
        written = {format_value(cut.length_m, "tape", units) for cut in cuts if cut.key == "purlin"}
        line = found.frame.line
        assert written == {format_value(length, "tape", units) for length in line.lengths_m}
        (beam,) = (cut for cut in cuts if cut.key == "beam")
        told = format_value(found.structure.members.beam.length_m, "tape", units)
        assert format_value(beam.length_m, "tape", units) == told


def test_much_left_over_is_told_of_the_array_that_cuts_it() -> None:
    """The first array's beams come cut; the second cuts alike ones from sticks that waste a third."""
    one = changed(plain_larkspur(), "frame", pieces_come="cut to length")
    frame = one.arrays[0].frame.model_copy(
        update={"pieces_come": CUT_HERE, "piece_stock_m": 8.4, "other_piece_stock_m": None}
    )
    rows = one.arrays[0].rows.model_copy(update={"at_north_m": 60.0, "rows": 2})
    other = one.arrays[0].model_copy(update={"id": "b", "name": "Other", "frame": frame, "rows": rows})
    found = plan(one.model_copy(update={"arrays": (one.arrays[0], other)}))
    check = next(one for one in found.checks if (one.stage, one.key) == ("materials", "offcuts"))
    (beams,) = (bar for bar in found.materials.sawing.bars if bar.key == "beam")
    assert check.measured == pytest.approx(beams.offcut_share) and beams.offcut_share > 0.25
    assert (check.level, check.array) == ("look", "b")
    assert check.given == "arrays.b.frame.piece_stock_m"
    # Of sticks of the length that it names less is left.
    better = float(re.findall(r"([\d.]+) tape", check.remedy)[0])
    again = changed(one, "frame", pieces_come=CUT_HERE, piece_stock_m=better, other_piece_stock_m=None)
    (beams_then,) = (bar for bar in plan(again).materials.sawing.bars if bar.key == "beam")
    assert beams_then.offcut_share < beams.offcut_share


def test_a_strut_that_is_set_over_a_length_is_bought_not_sawn() -> None:
    """Also where its table has one tilt: holes and jacks come from their maker."""
    found = plan(changed(plain_larkspur(), "structure", strut_travel_m=0.3))
    assert not [bar for bar in found.materials.sawing.bars if "strut" in bar.key]
    (line,) = (one for one in found.materials.lines if one.key == "strut")
    assert line.item.startswith("Adjustable strut") and line.net == 9


@settings(max_examples=40, deadline=None)
@given(
    along=st.integers(4, 40),
    stock=st.sampled_from([5.0, 6.096, 7.3152, 9.144, 12.0]),
    span=st.floats(1.6, 4),
    overhang=st.floats(0, 0.5),
    shift=st.sampled_from([0.0, 0.3]),
)
def test_every_other_line_is_the_same_pieces_from_the_other_end(
    along: int, stock: float, span: float, overhang: float, shift: float
) -> None:
    """By hand: turned end for end, lapped as before, spliced in other bays; common practice."""
    shifts = (("1.1/2", shift),) if shift else ()
    design = broken(
        plain_larkspur(),
        {
            "rows": {"modules_along": along, "tables_along": 1, "rows": 1},
            "frame": {"stock_length_m": stock},
            "structure": {"span_limit_m": span, "cantilever_ratio": overhang, "shifts": shifts},
        },
    )
    found = untried(design)
    (cut,) = found.frame.cuts
    posts = found.structure.posts.lines[found.structure.posts.line_of[0]].along_m.tolist()
    lap = design.arrays[0].frame.lap_m

    def spliced(starts: tuple[float, ...], lengths: tuple[float, ...]) -> set[int]:
        """The bay of each splice: how many posts stand before the middle of its lap."""
        bays = set()
        for start, long, after in zip(starts, lengths, starts[1:], strict=False):
            assert start + long - after == pytest.approx(lap)
            bays.add(sum(post < (start + long + after) / 2 for post in posts))
        return bays

    own = spliced(cut.pieces.starts_m, cut.pieces.lengths_m)
    level = {one.key: one.level for one in found.frame.checks}.get("staggered")
    if not own:
        assert level is None and cut.turned is None
        return
    if cut.turned is None:
        assert level == "look"
        # Turning would not help, or posts are not alike from both ends.
        from_end = [cut.length_m - post for post in reversed(posts)]
        uneven = max(abs(a - b) for a, b in zip(from_end, posts, strict=True)) > 9e-4
        back = {len(posts) - bay for bay in own}
        assert uneven or back == own
        return
    assert sorted(cut.turned.lengths_m) == pytest.approx(sorted(cut.pieces.lengths_m))
    assert cut.turned.starts_m[0] == pytest.approx(0, abs=1e-9)
    assert cut.turned.starts_m[-1] + cut.turned.lengths_m[-1] == pytest.approx(cut.length_m)
    other = spliced(cut.turned.starts_m, cut.turned.lengths_m)
    assert (level == "sound") == (not own & other)
    # As many sticks as if all lay alike.
    alike = untried(changed(design, "frame", staggered=False))
    assert alike.frame.cuts[0].turned is None
    bought = [[bar.nest.patterns for bar in one.materials.sawing.bars] for one in (found, alike)]
    assert bought[0] == bought[1]
