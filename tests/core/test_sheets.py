"""Drawings and tables say what the plan says, to scale, for any design."""

import csv
import io
import math
import re
import subprocess
import sys
from collections.abc import Iterator

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings

from openfurrow.core.as_built import as_built
from openfurrow.core.design import BUILT_STAGES, PLACES, Design
from openfurrow.core.plan import Plan, plan
from openfurrow.core.quantities import format_value
from openfurrow.core.reading import parse
from openfurrow.core.site.features import FeatureGivens
from openfurrow.demo.designs import DESIGNS
from openfurrow.exchange.tables_csv import stakes_csv
from openfurrow.exchange.wanted import Wanted
from openfurrow.sheets.drawings.cut import cut
from openfurrow.sheets.marks import Drawing, Mark
from openfurrow.sheets.write import check_text, job_sheet, stage_sheet
from tests.designs import busy_designs, changed, designs


def drawing_of(design: Design, stage: str, key: str, units: str = "us") -> Drawing:
    sheet = stage_sheet(stage, design, as_built(design, plan(design)), units)
    return next(item for item in sheet.drawings if item.key == key)


def on(drawing: Drawing, layer: str) -> list[Mark]:
    return [mark for mark in drawing.marks if mark.layer == layer]


def length_of(mark: Mark) -> float:
    return math.dist(*mark.points)


@settings(max_examples=40, suppress_health_check=[HealthCheck.too_slow])
@given(busy_designs())
def test_every_drawing_is_finite_and_has_a_sheet_to_lie_on(design: Design) -> None:
    found = as_built(design, plan(design))
    sheets = [cut(found).drawing]
    for stage in PLACES:
        sheets += stage_sheet(stage, design, found, "metric").drawings
    for sheet in sheets:
        assert sheet.low[0] < sheet.high[0] and sheet.low[1] < sheet.high[1], sheet.key
        assert sheet.marks and sheet.title
        for mark in sheet.marks:
            assert all(math.isfinite(value) for point in mark.points for value in point), mark
            assert len(mark.points) >= {"area": 3, "line": 2, "dimension": 2}.get(mark.kind, 1)


@settings(max_examples=40, suppress_health_check=[HealthCheck.too_slow])
@given(designs())
def test_every_stage_has_one_part_of_the_cut_and_one_state(design: Design) -> None:
    found = as_built(design, plan(design))
    sheet = job_sheet(design, found, "us")
    assert [mark.stage for mark in sheet.stages] == list(PLACES)
    assert sorted(part.stage for part in sheet.cut.parts) == sorted(PLACES)
    for mark in sheet.stages:
        levels = {check.level for check in found.checks if check.stage == mark.stage}
        # Of what follows from records nothing is said before there are any.
        none = "nothing" if mark.stage in BUILT_STAGES else None
        worst = next((level for level in ("stop", "look", "sound") if level in levels), none)
        assert mark.state == worst
    assert len(sheet.stops) + sheet.sound == len(found.checks)


@pytest.mark.parametrize(
    "stage_and_key",
    [
        ("rows", "rows"),
        ("frame", "elevation"),
        ("modules", "modules"),
        ("trench", "across"),
        ("trench", "route"),
        ("stakeout", "stakes"),
    ],
)
def test_a_dimension_is_as_long_as_it_says(demo: Design, stage_and_key: tuple[str, str]) -> None:
    drawing = drawing_of(demo, *stage_and_key, units="metric")
    assert drawing.to_scale
    dimensions = [mark for mark in drawing.marks if mark.kind == "dimension"]
    assert dimensions
    for mark in dimensions:
        words = mark.text.removeprefix("pitch ").split(" at ")[0]
        said = parse(words, "run", "metric")
        if (
            stage_and_key == ("rows", "rows")
            and "at" not in mark.text
            and mark.points[0][0] == (mark.points[1][0])
        ):
            assert abs(mark.points[1][1] - mark.points[0][1]) == pytest.approx(said, abs=0.006)
        else:
            assert length_of(mark) == pytest.approx(said, rel=0.012, abs=0.006), mark.text


def test_the_post_is_drawn_as_deep_as_it_is_planned(demo: Design, demo_plan: Plan) -> None:
    drawing = drawing_of(demo, "footings", "footings")
    (buried,) = on(drawing, "post-buried")
    levels = [y for _, y in buried.points]
    assert max(levels) - min(levels) == pytest.approx(demo_plan.footings.posts.depth_m, abs=1e-3)
    (governs,) = on(drawing, "need-governs")
    needs = on(drawing, "need")
    assert len(needs) == 4

    def depth(mark: Mark) -> float:
        return max(y for _, y in mark.points) - min(y for _, y in mark.points)

    assert depth(governs) == pytest.approx(max(demo_plan.footings.posts.needs_m), abs=1e-3)
    assert all(depth(mark) <= depth(governs) + 1e-6 for mark in needs)


def test_the_last_ray_just_misses_the_next_row(plain: Design, plain_plan: Plan) -> None:
    drawing = drawing_of(plain, "rows", "rows")
    (ray,) = on(drawing, "ray")
    (x0, y0), (x1, y1) = ray.points[1], ray.points[2]
    assert math.degrees(math.atan2(y0 - y1, x1 - x0)) == pytest.approx(
        plain_plan.rows.profile_deg, abs=0.01
    )
    section, pitch = plain_plan.rows.section, plain_plan.rows.pitch_m
    assert (x1, y1) == pytest.approx(
        (pitch, section.rise_back * pitch + section.lower_edge_m), abs=0.01
    )


@settings(max_examples=30, suppress_health_check=[HealthCheck.too_slow])
@given(designs())
def test_the_cuts_ray_falls_as_the_sun_stands_and_ends_on_the_ground(design: Design) -> None:
    found = as_built(design, plan(design))
    for ray in on(cut(found).drawing, "ray"):
        (x0, y0), (x1, y1) = ray.points[1], ray.points[2]
        (ground,) = on(cut(found).drawing, "ground")
        xs, zs = zip(*ground.points, strict=True)
        assert y1 == pytest.approx(np.interp(x1, xs, zs), abs=0.02)
        if x1 - x0 > 0.5:
            slope = math.degrees(math.atan2(y0 - y1, x1 - x0))
            # Drawn to a millimetre.
            assert slope == pytest.approx(found.rows.profile_deg, abs=0.05 + 0.06 / (x1 - x0))


def test_every_module_and_clamp_of_a_table_is_drawn(demo: Design, demo_plan: Plan) -> None:
    drawing = drawing_of(demo, "modules", "modules")
    assert len(on(drawing, "glass")) == 36
    assert len(on(drawing, "mid-clamp")) == demo_plan.modules.mid_clamps
    assert len(on(drawing, "end-clamp")) == demo_plan.modules.end_clamps
    strings = drawing_of(demo, "wiring", "strings")
    numbers = [mark.text for mark in on(strings, "string-note")]
    assert sorted(numbers) == sorted(["1"] * 12 + ["2"] * 12 + ["3"] * 12)


def test_the_frame_is_drawn_with_its_pieces_lapped(demo: Design, demo_plan: Plan) -> None:
    drawing = drawing_of(demo, "frame", "elevation")
    assert len(on(drawing, "post")) == 9
    assert len(on(drawing, "purlin")) == len(demo_plan.frame.line.lengths_m)
    bending = drawing_of(demo, "structure", "moments")
    assert not bending.to_scale and len(on(bending, "support")) == 9


def test_contours_are_level_lines_of_the_plane(plain: Design, plain_plan: Plan) -> None:
    drawing = drawing_of(plain, "site", "site")
    lines = on(drawing, "contour") + on(drawing, "contour-strong")
    assert len(lines) >= 5
    for mark in lines:
        east, north = zip(*mark.points, strict=True)
        levels = plain_plan.site.ground.level_m(east, north)
        assert levels == pytest.approx(levels[0], abs=1e-3)
        assert levels[0] / 0.1524 == pytest.approx(round(levels[0] / 0.1524), abs=2e-2)
    level = changed(plain, "site", slope=0.0)
    assert on(drawing_of(level, "site", "site"), "contour") == []


def test_cutting_bars_are_the_patterns(demo: Design, demo_plan: Plan) -> None:
    (bar,) = (one for one in demo_plan.materials.sawing.bars if one.key == "purlin")
    drawing = drawing_of(demo, "materials", f"cutting_{bar.letter.lower()}")
    pieces = sum(len(pattern.pieces_m) for pattern in bar.nest.patterns)
    assert len(on(drawing, "purlin")) == pieces
    assert sum(int(mark.text.split()[0]) for mark in on(drawing, "strong")) == 14


def test_the_cut_breaks_a_long_trench_and_shows_two_rows_at_most(demo: Design) -> None:
    assert on(cut(plan(demo)).drawing, "break")
    near = changed(demo, "site", route=((2.0, 8.0),))
    assert on(cut(plan(near)).drawing, "break") == []
    many = changed(demo, "rows", rows=5)
    assert len(on(cut(plan(many)).drawing, "strut")) == 2


def test_tables_hold_every_line_and_every_post(demo: Design, demo_plan: Plan) -> None:
    tables = {one.key: one for one in stage_sheet("materials", demo, demo_plan, "us").tables}
    loads = {key: one for key, one in tables.items() if key.startswith("load-")}
    lists = {key: one for key, one in tables.items() if key not in loads}
    # And where pallets are set down.
    assert len(loads) == len(demo_plan.hauling.loads) + 1
    assert set(lists) == {"materials", "sticks", "cuts", "bundles", "tree", "costs", "priced"}
    materials, cuts, costs, priced = (lists[key] for key in ("materials", "cuts", "costs", "priced"))
    assert len(priced.rows) == len(materials.rows) and costs.rows[-1][0] == "All"
    assert {row[1] for row in cuts.rows} >= {"post", "inclined beam", "purlin piece"}
    assert len(materials.rows) == len(demo_plan.materials.lines)
    (stakes,) = stage_sheet("stakeout", demo, demo_plan, "us").tables
    assert (len(stakes.rows), stakes.left_out) == (9, 0)
    assert "line of sight" in stakes.note
    assert stakes.rows[-1][1] == format_value(
        float(demo_plan.setting_out.stakes.tape_m[-1]), "tape", "us"
    )
    big = DESIGNS["field-1000"]()
    (long,) = stage_sheet("stakeout", big, plan(big), "metric").tables
    assert len(long.rows) + long.left_out == plan(big).structure.supports.count


def test_a_post_that_cannot_stand_so_says_it_in_its_own_line(plain: Design) -> None:
    """On a drain, told to shift and not able to: in the list, in the file, and nowhere else."""
    at = plan(plain).places.east_m
    drain = FeatureGivens.model_validate(
        {"kind": "drain", "points": ((float(at[2]), -9.0), (float(at[2]), 9.0))}
    )
    design = changed(plain, "site", features=(drain,))
    design = changed(design, "structure", shifts=(("1.1/5", 5.0),))
    found = as_built(design, plan(design))
    (stakes,) = stage_sheet("stakeout", design, found, "us").tables
    assert [row[0] for row in stakes.rows if row[0].endswith("*")] == ["3*", "5*"]
    assert "* post 3: on drain. * post 5: not shifted." in stakes.note
    lines = csv.DictReader(io.StringIO(stakes_csv(design, found, Wanted(units="us"))))
    filed = {line["post"]: line["not_as_it_stands"] for line in lines}
    assert {post: words for post, words in filed.items() if words} == {
        "3": "on drain",
        "5": "not shifted",
    }
    (well,) = stage_sheet("stakeout", plain, plan(plain), "us").tables
    assert "*" not in well.note


def test_fields_of_the_other_school_are_not_asked(demo: Design) -> None:
    def paths(pack: str) -> set[str]:
        design = changed(demo, "site", rule_pack=pack)
        return {given.path for given in stage_sheet("site", design, plan(design), "us").givens}

    assert "site.exposure" in paths("us") and "site.terrain" not in paths("us")
    assert "site.terrain" in paths("metric") and "site.exposure" not in paths("metric")


def test_what_a_survey_or_a_hole_answers_is_not_asked_again(demo: Design, plain: Design) -> None:
    def paths(design: Design) -> set[str]:
        return {g.path for g in stage_sheet("site", design, plan(design), "us").givens}

    said = {"site.slope", "site.falls_toward_deg", "site.soil_class", "site.fine_soil_top_m"}
    assert not said & paths(demo) and said <= paths(plain)
    assert "site.survey_reach_m" in paths(demo) - paths(plain)


def test_an_empty_field_shows_the_plans_own_value(demo: Design, demo_plan: Plan) -> None:
    shown = stage_sheet("footings", demo, demo_plan, "us").givens
    text = next(one for one in shown if one.path == "arrays.1.footings.depth_m")
    assert (text.text, text.placeholder) == ("", "9' 4\" (the plan's own)")


def test_both_unit_systems_are_written_and_none_leaks_into_the_other(demo: Design) -> None:
    found = as_built(demo, plan(demo))
    for stage in PLACES:
        for answer in stage_sheet(stage, demo, found, "metric").answers:
            assert "'" not in answer.text and " ft" not in answer.text, answer
            assert " lb" not in answer.text and "psf" not in answer.text, answer
        for answer in stage_sheet(stage, demo, found, "us").answers:
            assert not answer.text.endswith((" m", " mm", " kg", "kPa", "kN", "°C")), answer
    for check in found.checks:
        words = check_text(check, "metric")
        assert words.relation in ("at most", "at least", "wanted")


def test_trees_stand_on_the_sun_drawing_where_they_stand_on_the_ground(demo: Design) -> None:
    """Bearing and height of each top by plain trigonometry from the middle of the glass."""
    found = as_built(demo, plan(demo))
    (drawing, _) = stage_sheet("sun", demo, found, "us").drawings
    crowns = [np.array(m.points) for m in drawing.marks if m.layer == "kind-tree"]
    trees = [f for f in demo.site.features if f.kind == "tree"]
    assert len(crowns) == len(trees) == 4
    corners = found.rows.lie.tables.corners[0].mean(axis=0)
    edge = found.rows.lie.edge_level_m[0] + found.rows.section.rise_m / 2
    for tree, crown in zip(trees, crowns, strict=True):
        east, north = tree.points[0][0] - corners[0], tree.points[0][1] - corners[1]
        bearing = math.degrees(math.atan2(east, north)) % 360 - 180.0
        top = float(found.site.ground.level_m(*tree.points[0])) + tree.height_m - edge
        height = math.degrees(math.atan2(top, math.hypot(east, north)))
        assert crown[:, 0].mean() == pytest.approx(bearing, abs=0.6)
        assert crown[:, 1].max() == pytest.approx(height, abs=0.2)
    assert len([m for m in drawing.marks if m.layer == "trunk"]) == 4


def test_hills_stand_on_the_sun_drawing_as_they_were_read(demo: Design) -> None:
    (drawing, _) = stage_sheet("sun", demo, as_built(demo, plan(demo)), "us").drawings
    (hills,) = on(drawing, "hills")
    over = np.array(hills.points)
    for one in demo.sun.horizon:
        across = one.bearing_deg - 180.0
        if abs(across) < 120:
            nearest = over[np.abs(over[:, 0] - across).argmin()]
            assert nearest[1] == pytest.approx(one.height_deg, abs=0.25)
    bare = demo.model_copy(update={"sun": demo.sun.model_copy(update={"horizon": ()})})
    (drawing, _) = stage_sheet("sun", bare, as_built(bare, plan(bare)), "us").drawings
    assert on(drawing, "hills") == []


@pytest.mark.parametrize("name", ["larkspur", "grifo"])
def test_the_worst_bents_are_drawn_with_forces_as_long_as_they_are_large(name: str) -> None:
    """Down is drawn downward, up upward, all at one scale; the members with what is used of them."""
    design = DESIGNS[name]()
    found = plan(design)
    sheet = stage_sheet("structure", design, as_built(design, found), "us")
    strains, drawings = found.structure.members.strains, sheet.drawings[:-2]
    assert [one.key for one in drawings] == ["bent_1", "bent_2"]
    lengths, forces = [], []
    for one, drawing in zip(strains, drawings, strict=True):
        steps = [
            (b[0] - a[0], b[1] - a[1])
            for a, b in (mark.points for mark in on(drawing, "force") if len(mark.points) == 2)
        ]
        wanted = [(0.0, -down) for down, _, _ in one.asked.tolist()]
        wanted += [(across, 0.0) for _, across, _ in one.asked.tolist() if abs(across) > 1.0]
        # Each arrow points as its force acts; what is shorter than a hair is not drawn.
        wanted.sort(key=lambda force: -math.hypot(*force))
        drawn, left_out = wanted[: len(steps)], wanted[len(steps) :]
        assert all(any(_same_way(force, step) for force in drawn) for step in steps)
        assert all(math.hypot(*force) < 0.1 * math.hypot(*wanted[0]) for force in left_out)
        for step in steps:
            lengths.append(math.hypot(*step))
        forces += [math.hypot(*force) for force in drawn]
        words = format_value(float(np.abs(one.moments_n_m).max()), "moment", "us")
        assert f"bends {words}" in [mark.text for mark in drawing.marks]
    # All at one scale.
    assert sorted(lengths) == pytest.approx(
        [force * max(lengths) / max(forces) for force in sorted(forces)], abs=2e-3
    )
    # Pressed hardest and lifted hardest: of one post the most that any kind is.
    if len(found.structure.posts.roles) == 1:
        down = found.structure.reactions.down_n
        assert [one.asked[0, 0] for one in strains] == pytest.approx([down.max(), down.min()])
    assert [one.title.split(":")[0] for one in drawings] == ["Pressed hardest", "Lifted hardest"]
    names = [words.split()[0] for words in sheet.drawings[-2].legend]
    braces = {"larkspur": ["strut"], "grifo": ["brace", "cable"]}
    assert names == ["purlin", "beam", *braces[name], "post"]


def _same_way(force: tuple[float, float], step: tuple[float, float]) -> bool:
    along = force[0] * step[0] + force[1] * step[1]
    return along > 0.999 * math.hypot(*force) * math.hypot(*step) > 0


FOREIGN = {
    # Of a reader in metres no foot and no inch, but for what is said in both; and the other way round.
    "metric": re.compile(r"\d'|\d\"|\d ft\b|\d lb\b|\dpsf"),
    "us": re.compile(r"\d\u202f?\d* mm\b|\d m\b|\d kN\b|\d kPa\b"),
}
TYPED = {"edits", "lists", "places", "usual", "allowed", "meaning", "where", "source"}
# Rope is called by its thickness, as pipe is by its bore, whoever reads it.
BOTH = re.compile(r"[^.;:]*\([^)]*\)|whole inches or 25 mm|[Ww]ire rope \d+ mm")


def every_word(value: object) -> Iterator[str]:
    if isinstance(value, str):
        yield value
    elif isinstance(value, dict):
        # What a mend puts into a field bears its own unit; what was typed is not ours to change.
        for name, part in value.items():
            if name not in TYPED:
                yield from every_word(part)
    elif isinstance(value, list | tuple):
        for part in value:
            yield from every_word(part)


@pytest.mark.parametrize("units", ["us", "metric"])
@pytest.mark.parametrize("name", ["larkspur", "grifo", "quillay"])
def test_a_job_read_in_the_other_units_speaks_of_no_foreign_one(name: str, units: str) -> None:
    """Every answer, note, rule, remedy, mend and drawing of the demos, in either system."""
    design = DESIGNS[name]()
    # What the planner wrote himself stays as he wrote it.
    design = changed(
        design,
        "site",
        features=tuple(one.model_copy(update={"note": ""}) for one in design.site.features),
        notes=(),
        wind_from="",
        snow_from="",
        frost_from="",
    )
    blocked = changed(
        design,
        "site",
        features=(
            *design.site.features,
            FeatureGivens.model_validate(
                {
                    "id": "main",
                    "kind": "buried gas or fuel",
                    "name": "new main",
                    "how_sure": "measured",
                    "points": ((-30.0, 4.0), (30.0, 6.0)),
                    "depth_m": 0.5,
                }
            ),
        ),
    )
    spoken_of = 0
    for one in (design, blocked):
        found = as_built(one, plan(one))
        size = found.run.conduit.label if found.run.conduit else "-"
        said = [
            job_sheet(one, found, units).model_dump(),
            *(stage_sheet(stage, one, found, units).model_dump() for stage in PLACES),
        ]
        for words in every_word(said):
            assert "\ue000" not in words and "\ue001" not in words, words
            # A pipe is called by its nominal size wherever it is bought.
            clean = BOTH.sub("", words).replace(size, "")
            assert not FOREIGN[units].search(clean), words
        spoken_of += sum("\ue000" in check.remedy + str(check.measured) for check in found.checks)
    # What stands in weights is not dug, driven or shifted: nothing of it is said in both.
    assert spoken_of or name == "quillay"


def test_thousands_of_posts_and_tables_are_drawn_as_one_mark_each() -> None:
    """Every one is there, where it stands; a small array's posts are marks of their own."""
    design = DESIGNS["field-10000"]()
    found = as_built(design, plan(design))
    for stage, key, layer in (
        ("site", "site", "glass"),
        ("trench", "route", "glass"),
        ("stakeout", "stakes", "glass-faint"),
    ):
        drawing = drawing_of(design, stage, key, "metric")
        assert len(drawing.marks) < 80
        (posts,) = on(drawing, "post")
        assert posts.kind == "dots" and len(posts.points) == found.structure.supports.count
        assert posts.points[-1] == pytest.approx(
            (found.places.east_m[-1], found.places.north_m[-1]), abs=1e-4
        )
        (tables,) = on(drawing, layer)
        corners = found.rows.lie.tables.corners
        assert tables.counts == (4,) * len(corners)
        assert tables.points[-1] == pytest.approx(tuple(corners[-1, -1]), abs=1e-4)
    small = drawing_of(DESIGNS["larkspur"](), "stakeout", "stakes")
    assert len(on(small, "post")) == 9


# Heights that differ by the least that a float knows.
NEXT_TO_NOTHING = """
import numpy as np
from openfurrow.sheets.drawings.trench import _drawn
steps = np.concatenate((np.linspace(-1, 68, 570), np.linspace(68, -25, 569))).round()
print(len(_drawn(np.arange(1139) * 0.25, steps * 5e-324)))
"""


def test_a_profile_that_falls_by_next_to_nothing_is_drawn_in_no_time() -> None:
    """In a process that can be killed: what goes on for ever fails here and stops nothing else."""
    done = subprocess.run(
        [sys.executable, "-c", NEXT_TO_NOTHING],
        capture_output=True,
        text=True,
        timeout=120,
        check=True,
    )
    assert done.stdout.strip() == "2"
