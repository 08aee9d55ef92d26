"""Families of structure: side by side, there and back, in the south, in both schools."""

import csv
import itertools

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from openfurrow.core.as_built import as_built
from openfurrow.core.codes import table
from openfurrow.core.compare.families import families_of
from openfurrow.core.design import PLACES, Design
from openfurrow.core.edits import DesignError, apply
from openfurrow.core.lacking import Lacking
from openfurrow.core.plan import plan, untried
from openfurrow.core.quantities import format_value, in_words
from openfurrow.core.structures.families import FAMILIES
from openfurrow.core.structures.givens import CableName, StructureGivens
from openfurrow.core.structures.mover_givens import OF_MOVERS
from openfurrow.core.structures.shelter_givens import OF_SHELTER
from openfurrow.core.structures.supports import support_id
from openfurrow.core.structures.told import NOT_OF, OF_TRAVELS
from openfurrow.demo.designs import DESIGNS
from openfurrow.exchange.exports import EXPORTS
from openfurrow.exchange.papers.calculation import calculation_pages
from openfurrow.exchange.tables_csv import stakes_csv
from openfurrow.exchange.wanted import Wanted
from openfurrow.sheets.families import families_sheet
from openfurrow.sheets.kinds import asked_of, kinds_table, letters
from openfurrow.sheets.odds import odds_sheet
from openfurrow.sheets.support import support_sheet
from openfurrow.sheets.write import job_sheet, stage_sheet
from tests.core.test_looked import begun
from tests.designs import changed, designs, plain_larkspur

SLOW = [HealthCheck.too_slow, HealthCheck.data_too_large]


def on(design: Design, family: str, **givens: object) -> Design:
    return changed(design, "structure", family=family, **givens)


@settings(max_examples=15, deadline=None, suppress_health_check=SLOW)
@given(design=designs(), family=st.sampled_from(sorted(FAMILIES)))
def test_every_family_stands_on_any_design_and_going_back_gives_what_was_typed(
    design: Design, family: str
) -> None:
    """Every number finite, every support named once, every kind at least as bad as its supports."""
    other = on(design, family)
    found = untried(other)
    back = on(other, design.arrays[0].structure.family)
    assert back == design
    if not found.has("structure"):
        return
    structure = found.structure
    for name in (
        "down_n",
        "across_n",
        "moment_n_m",
        "along_n",
        "along_moment_n_m",
        "twist_n_m",
        "dead_n",
    ):
        assert np.isfinite(getattr(structure.reactions, name)).all(), name
    assert all(np.isfinite(one.value) for one in structure.answers if isinstance(one.value, float))
    places = structure.supports.places
    ids = [support_id(found.rows, places, index) for index in range(structure.supports.count)]
    assert len(set(ids)) == len(ids)
    kinds, of = structure.posts.kinds, structure.supports.kind
    assert (structure.supports.reveals_m <= kinds.high_m[of] + 1e-9).all()
    assert (structure.supports.reveals_m >= kinds.low_m[of] - 1e-9).all()
    # What is carried is the row, whoever carries it.
    for role in range(len(structure.posts.roles)):
        mine = structure.posts.of_role(role)
        carried = np.bincount(places.of_table[mine], structure.supports.tributary_m[mine])
        glass = found.rows.tables.lengths_m
        assert (carried >= glass - 1e-6).all()
        assert (carried <= glass + 2 * design.arrays[0].modules.purlin_end_m + 1e-6).all()


@pytest.mark.parametrize("family", sorted(FAMILIES))
def test_more_wind_never_uses_less_of_a_member(family: str) -> None:
    """At spans that are held: pressed and lifted, along the row and across it."""
    used: list[dict[str, float]] = []
    for wind in (30.0, 38.0, 47.0, 60.0):
        design = on(changed(plain_larkspur(), "site", wind_speed_m_s=wind), family)
        members = untried(design).structure.members
        used.append({one.what: float(one.share) for one in members.used})
    for before, after in itertools.pairwise(used):
        assert all(after[what] >= share - 1e-9 for what, share in before.items())
    assert used[-1] != used[0]


@pytest.mark.parametrize("family", sorted(FAMILIES))
def test_a_job_on_the_other_half_of_the_globe_is_the_mirrored_one(family: str) -> None:
    """Facing the other way over ground that falls the other way: what is asked for stays the same."""
    north = on(changed(plain_larkspur(), "site", slope=0.05, falls_toward_deg=180.0), family)
    south = on(
        changed(plain_larkspur(), "site", slope=0.05, falls_toward_deg=0.0, latitude_deg=-44.90),
        family,
    )
    ours, theirs = (untried(one).structure for one in (north, south))
    assert theirs.supports.count == ours.supports.count
    assert np.sort(theirs.supports.reveals_m) == pytest.approx(np.sort(ours.supports.reveals_m))
    for name in ("down_n", "across_n", "moment_n_m"):
        mine, others = getattr(ours.reactions, name), getattr(theirs.reactions, name)
        assert float(others.max()) == pytest.approx(float(mine.max()), rel=1e-9)
        assert float(others.min()) == pytest.approx(float(mine.min()), rel=1e-9)


@pytest.mark.parametrize("family", sorted(FAMILIES))
@pytest.mark.parametrize("tilt", [10.0, 20.0, 30.0])
def test_both_schools_ask_for_about_the_same_at_equal_pressure(family: str, tilt: float) -> None:
    """Allowable loads times 1.5 stand beside design loads, the peak pressure being the same."""
    plain = changed(plain_larkspur(), "site", slope=0.0, ground_snow_pa=0.0, elevation_m=100.0)
    plain = changed(plain, "rows", tilt_deg=tilt)
    plain = on(plain, family, flow_below="kept clear")
    us = untried(plain).structure
    peak = us.loads_at[0].wind.velocity_pa * 0.85
    speed = 27.0
    for _ in range(12):
        metric = changed(plain, "site", rule_pack="metric", wind_speed_m_s=speed)
        found = untried(metric).structure
        speed *= (peak / found.loads_at[0].wind.velocity_pa) ** 0.5
    # 0.6 W of the one, 1.5 W of the other: 2.5 times.
    ratios = {
        "pull": float(found.reactions.down_n.min()) / float(us.reactions.down_n.min()) / 2.5,
        "push": float(np.abs(found.reactions.across_n).max())
        / float(np.abs(us.reactions.across_n).max())
        / 2.5,
    }
    assert all(0.6 <= ratio <= 1.6 for ratio in ratios.values()), ratios


def test_side_by_side_says_of_each_what_its_own_plan_says() -> None:
    design = DESIGNS["grifo"]()
    now = plan(design)
    sheet = families_sheet(design, now, "metric")
    names = [one.key for one in sheet.drawings]
    assert names == list(FAMILIES)
    assert [take.edits[0].text for take in sheet.takes] == [n for n in names if n != "two post lines"]
    lines = {row[0]: row[1:] for row in sheet.tables[0].rows}
    for column, name in enumerate(names):
        path = sheet.takes[0].edits[0].path
        on_ground = {"ballast frame": "ballast", "table on blocks": "piled blocks"}
        held = on_ground.get(name, design.arrays[0].footings.family)
        edits = [(path, name), (path.replace("structure", "footings"), held)]
        alone = untried(apply(design, edits, "metric"))
        assert lines["Posts"][column] == format_value(
            float(alone.structure.supports.count), "count", "metric"
        )
        weights = alone.footings.weights
        deepest, heavy = (
            (format_value(alone.footings.posts.depth_m, "tape", "metric"), "")
            if weights is None
            else ("", format_value(weights.total_kg, "haul", "metric"))
        )
        assert lines["Deepest in the ground"][column] == deepest
        assert lines["Weights on the ground"][column] == heavy
        stops = [
            check
            for check in alone.checks
            if check.level == "stop" and check.stage in ("structure", "footings", "frame", "modules")
        ]
        assert lines["Stops"][column] == str(len(stops))
        on_it = families_of(design, "1")[column]
        assert [one.key for one in on_it.stops] == [one.key for one in stops]
        # Steel, counted anew from the lists that the merchant gets.
        steel = sum(
            line.net * line.piece_kg
            for line in alone.materials.lines
            if line.stage in ("frame", "footings") and not line.key.startswith(("fill_", "concrete"))
        )
        assert on_it.steel_kg == pytest.approx(steel)
    # All are drawn within the same bounds.
    assert len({(one.low, one.high) for one in sheet.drawings}) == 1
    new = begun("us")
    with pytest.raises(Lacking):
        families_sheet(new, plan(new), "us")


@pytest.mark.parametrize("name", ["larkspur", "grifo"])
def test_kinds_are_listed_with_the_most_that_any_of_them_asks(name: str) -> None:
    found = plan(DESIGNS[name]())
    rows = kinds_table(found, "metric").rows
    structure = found.structure
    assert len(rows) == structure.posts.kinds.count == len(set(letters(found)))
    asked = asked_of(found)
    for kind in range(structure.posts.kinds.count):
        one = structure.reactions.of(kind)
        cases = zip(one.down_n, one.across_n, one.along_n, strict=True)
        most = max(float(np.hypot(across, along)) for _, across, along in cases)
        assert float(asked.push_n[kind]) == pytest.approx(most)
        assert float(asked.press_n[kind]) == max(0.0, float(one.down_n.max()))
        assert float(asked.pull_n[kind]) == max(0.0, -float(one.down_n.min()))


@pytest.mark.parametrize("name", ["larkspur-two", "grifo", "quillay", "varnbeck"])
def test_the_support_that_is_pointed_at_says_what_its_kind_asks_for(name: str) -> None:
    """The nearest one; every line is one case, and the most weight stands in some line."""
    design = DESIGNS[name]()
    found = plan(design).on(design.arrays[-1].id)
    supports = found.structure.supports
    for index in {0, supports.count // 2, supports.count - 1}:
        at = float(supports.places.east_m[index]) + 0.03, float(supports.places.north_m[index]) - 0.02
        cases, own = support_sheet(design, found, "metric", at).tables
        assert cases.title.split(":")[0].endswith(support_id(found.rows, supports.places, index))
        one = found.structure.reactions.of(int(supports.kind[index]))
        names = [in_words(case, "metric") for case in one.names]
        downs = []
        for row in cases.rows:
            at_once = [
                case
                for case, told in enumerate(names)
                if told == row[0]
                and row[2] == format_value(float(one.down_n[case]), "force", "metric")
                and row[3] == format_value(float(one.across_n[case]), "force", "metric")
                and row[5] == format_value(float(one.moment_n_m[case]), "moment", "metric")
            ]
            assert at_once, row
            downs.append(row[2])
        assert format_value(float(one.down_n.max()), "force", "metric") in downs
        told = dict(own.rows)
        assert told["Ground to bolt"] == format_value(
            float(supports.reveals_m[index]), "tape", "metric"
        )
        assert ("Its weight" in told) == (found.footings.weights is not None)


def test_what_a_family_is_not_told_is_hidden_and_kept() -> None:
    for family, hidden in NOT_OF.items():
        givens = StructureGivens(family=family)
        assert not givens.shown() & hidden
        # Some of them hang on others besides.
        by_others = {"brace_section", "cable"} | OF_TRAVELS | OF_SHELTER | OF_MOVERS
        assert givens.shown() | hidden | by_others == set(StructureGivens.model_fields) | by_others
    bare = StructureGivens(family="two post lines", bent_brace="none", braced_bays=0)
    assert not bare.shown() & {"brace_section", "cable"}
    # Every rope that can be chosen has its numbers.
    assert set(table("common", "cable").texts["cable"]) == set(CableName.__args__)


@pytest.mark.parametrize("name", ["larkspur-two", "varnbeck", "quillay"])
def test_stakes_of_arrays_that_differ_stand_under_their_own_heads(name: str) -> None:
    """A strut's length is never read as a brace's, nor a weight as a depth."""
    design = DESIGNS[name]()
    found = plan(design)
    lines = list(
        csv.DictReader(stakes_csv(design, found, Wanted(units="metric", length="m")).splitlines())
    )
    at = 0
    for one in found.each():
        marked, masses = one.structure.members.at_posts, one.footings.posts.masses_kg
        for index in range(one.structure.supports.count):
            line = lines[at]
            at += 1
            assert line["support"] == support_id(one.rows, one.places, index)
            assert float(line["length_m"]) == pytest.approx(
                float(one.footings.posts.lengths_m[index]), abs=1e-4
            )
            for word in ("strut", "brace"):
                told = line.get(f"{word}_bolt_to_bolt_m") or ""
                if marked is not None and marked[0] == word:
                    assert float(told) == pytest.approx(float(marked[1][index]), abs=1e-4)
                else:
                    assert told == ""
            if masses is not None:
                assert float(line["weight_kg"]) == pytest.approx(float(masses[index]), abs=1e-3)
    assert at == len(lines)


@pytest.mark.parametrize("family", sorted(FAMILIES))
@pytest.mark.parametrize("moved", ["stands fixed", "turns about the pole", "tilts alone"])
def test_every_screen_and_every_file_tells_of_every_family(family: str, moved: str) -> None:
    """In both ways of measuring: no number is of a kind that nobody can write."""
    if moved != "stands fixed" and family != "single pole":
        return
    few = {"rows": 1, "tables_along": 1, "modules_high": 1, "modules_along": 2, "lower_edge_m": 1.2}
    held = {"ballast frame": "ballast", "table on blocks": "piled blocks"}.get(family, "bored pier")
    design = changed(on(plain_larkspur(), family, moved=moved), "footings", family=held)
    design = changed(design, "footings", pile_on="a pallet 1200 x 1000", strength_spread=0.2)
    design = changed(design, "structure", shelter_share=0.7, shelter_report="made up")
    if family == "single pole":
        design = changed(design, "rows", **few)
    found = as_built(design, plan(design))
    for units in ("us", "metric"):
        job_sheet(design, found, units)
        for stage in PLACES:
            assert stage_sheet(stage, design, found, units).stage == stage
        support_sheet(design, found, units, (0.0, 0.0))
        odds_sheet(design, found, units)
        for export in EXPORTS.values():
            try:
                assert export.write(design, found, Wanted(units=units))
            except DesignError as nothing_to_write:
                assert nothing_to_write.problems
    assert calculation_pages(design, found, 0, "us")
