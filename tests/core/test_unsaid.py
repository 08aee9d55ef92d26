"""What nobody has said is asked for: no number stands on it, and nothing falls over its absence."""

from datetime import date
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from openfurrow.core.as_built import as_built
from openfurrow.core.beginning import from_nothing
from openfurrow.core.design import PLACES, Design, one_array
from openfurrow.core.edits import DesignError, apply
from openfurrow.core.fields import fields, fields_of, value_at
from openfurrow.core.lacking import Lacking
from openfurrow.core.paths import stamped
from openfurrow.core.plan import plan
from openfurrow.core.structures.families import FAMILIES
from openfurrow.demo.designs import grifo, larkspur, larkspur_with_pump_house, quillay
from openfurrow.exchange.exports import EXPORTS
from openfurrow.exchange.package import write_package
from openfurrow.exchange.wanted import Wanted
from openfurrow.sheets.scene import scene_of
from openfurrow.sheets.write import job_sheet, stage_sheet
from tests.designs import changed, designs, plain_larkspur, said_job, said_site

NEEDED = tuple(path for path, field in fields().items() if field.needed)
# Two other values for each, far enough apart that what stands on it moves.
OTHERS: dict[str, tuple[str, str]] = {
    "site.latitude_deg": ("30 N", "52 N"),
    "site.longitude_deg": ("100 W", "3 E"),
    "site.elevation_m": ("10 m", "2400 m"),
    "site.time_zone": ("America/Chicago", "Europe/Lisbon"),
    "site.slope": ("1 %", "9 %"),
    "site.falls_toward_deg": ("20", "200"),
    "site.dig_date": ("2026-04-16", "2026-09-20"),
    "site.soil_class": ("sand", "clay"),
    "site.frost_depth_m": ("0.3 m", "1.4 m"),
    "site.wind_speed_m_s": ("40 m/s", "58 m/s"),
    "site.ground_snow_pa": ("0.5 kPa", "5 kPa"),
    "site.lowest_temperature_c": ("-40 C", "0 C"),
    "site.hottest_temperature_c": ("25 C", "45 C"),
    "site.route": ("9 m, 9 m\n30 m, 2 m", "-40 m, 80 m"),
    "rows.modules_along": ("9", "26"),
}


def typed(design: Design, path: str, text: str) -> Design:
    """The design with a text in a field; of an array's own, the first one's."""
    return apply(design, [(stamped(path, design.arrays[0].id), text)], design.site.display_units)


def numbers(design: Design) -> dict[tuple[str, str, str], Any]:
    """Every answer by whose it is, its stage and its key."""
    return {(a.array, a.stage, a.key): a.value for a in as_built(design, plan(design)).answers}


def everything(design: Design) -> None:
    """Plan, draw, print and write all of it: nothing falls over, what cannot be written says so."""
    found = as_built(design, plan(design))
    for units in ("us", "metric"):
        sheet = job_sheet(design, found, units)
        assert [mark.stage for mark in sheet.stages] == list(PLACES)
        assert {part.stage for part in sheet.cut.parts} == set(PLACES)
        for one in found.each():
            for stage in PLACES:
                shown = stage_sheet(stage, design, one, units)
                shown.model_dump_json()
                lacks = one.lacking(stage)
                assert bool(lacks) == any(check.key == "unsaid" for check in shown.checks)
                if lacks:
                    assert (len(shown.checks), shown.answers) == (1, ())
                    assert shown.drawings == shown.tables == ()
        for name, export in EXPORTS.items():
            try:
                export.write(design, found, Wanted(units=units))
            except Lacking as lacking:
                assert lacking.paths and set(lacking.paths) <= set(found.missing), name
            except DesignError as error:
                assert error.problems, name
    scene_of(found).model_dump_json()


def test_every_given_that_is_needed_is_tried_here_and_holds_nothing_at_first() -> None:
    assert set(OTHERS) == set(NEEDED)
    bare = one_array("from nothing")
    assert all(not value_at(bare, path) for path, field in fields_of(bare).items() if field.needed)


def test_a_job_from_nothing_gives_no_number_that_stands_on_anything() -> None:
    bare = one_array("from nothing")
    found = as_built(bare, plan(bare))
    everything(bare)
    assert {answer.stage for answer in found.answers} == {"site"}
    assert {answer.key for answer in found.answers} == {"locate", "hand_dig"}
    assert [path.rsplit(".", 1)[-1] for path in found.missing[:4]] == [
        "latitude_deg",
        "longitude_deg",
        "elevation_m",
        "time_zone",
    ]
    assert len(found.missing) == len(NEEDED)
    # Nothing is sound of what nobody has said: only that nothing stands without its place.
    assert {check.key for check in found.checks if check.level == "sound"} == {"features"}
    # It is told once, and not for every stage that waits for it.
    assert all(check.key != "unsaid" for check in job_sheet(bare, found, "us").stops)
    assert {mark.state for mark in job_sheet(bare, found, "us").stages[1:]} == {"nothing"}


@pytest.mark.parametrize("path", NEEDED)
def test_what_moves_with_a_given_is_not_there_without_it(path: str) -> None:
    whole = said_job("whole", site=said_site(tickets=plain_larkspur().site.tickets))
    first, second = (numbers(typed(whole, path, text)) for text in OTHERS[path])
    stands_on_it = {key for key in first.keys() | second.keys() if first.get(key) != second.get(key)}
    without = typed(whole, path, "")
    left = numbers(without)
    # The answer that says what the day is can be read without one.
    assert not (stands_on_it & left.keys()) - {("", "site", "locate")}
    # What does not stand on it is as it was.
    now = numbers(whole)
    assert all(now[key] == value for key, value in left.items() if key[2] != "locate")
    assert stamped(path, "1") in plan(without).missing
    assert stands_on_it
    everything(without)


@pytest.mark.parametrize("demo", [larkspur, larkspur_with_pump_house, grifo, quillay])
@pytest.mark.parametrize("path", NEEDED)
def test_any_given_can_be_taken_out_of_any_demo(demo: Any, path: str) -> None:
    design = demo()
    without = typed(design, path, "")
    everything(without)
    lacks = {key for key, paths in plan(without).lacks.items() if paths}
    answered = path in ("site.slope", "site.falls_toward_deg", "site.soil_class") and (
        design.site.ground == "survey" if "soil" not in path else design.site.test_holes
    )
    assert bool(lacks) != bool(answered)
    # Said again it is what it was.
    again = without.model_copy(update={"site": design.site, "arrays": design.arrays})
    assert numbers(again) == numbers(design)


def test_whether_something_stands_there_is_asked_before_anything_is_laid_out() -> None:
    new = from_nothing("new", "us", date(2027, 3, 1))
    assert plan(new).missing[0] == "arrays.1.standing"
    (first, *_) = job_sheet(new, plan(new), "us").missing
    # Asked where the job begins, of one array alone; of several where each is.
    assert (first.stage, first.path, first.array) == ("site", "arrays.1.standing", "1")
    assert "arrays.1.standing" in {g.path for g in stage_sheet("site", new, plan(new), "us").givens}
    two = apply(new, [("arrays.+b", "1")], "us")
    assert job_sheet(two, plan(two), "us").missing[0].stage == "rows"
    # A new array beside it is to be built, until somebody says else.
    assert [path for path in plan(two).missing if path.endswith("standing")] == ["arrays.1.standing"]
    whole = said_job("whole")
    open_ = whole.model_copy(
        update={"arrays": (whole.arrays[0].model_copy(update={"standing": None}),)}
    )
    assert {a.stage for a in plan(open_).answers} == {"site", "sun"}
    everything(open_)
    for text, ordered in (("no", True), ("yes", False)):
        found = plan(apply(open_, [("arrays.1.standing", text)], "us"))
        assert any(line.key == "module" for line in found.materials.lines) == ordered


def test_what_one_array_lacks_stops_no_other_array_but_the_job() -> None:
    two = larkspur_with_pump_house()
    without = typed(two, "rows.modules_along", "")
    found = as_built(without, plan(without))
    first, second = (one.id for one in without.arrays)
    assert found.lacks[second, "footings"] == ()
    assert found.lacks[first, "rows"] == (f"arrays.{first}.rows.modules_along",)
    assert found.lacks["", "trench"] == found.lacks["", "materials"] == found.lacks[first, "rows"]
    assert {answer.array for answer in found.answers if answer.stage == "footings"} == {second}


def test_before_a_day_is_said_nothing_is_located_whoever_has_answered() -> None:
    """An answer stands for some weeks: whether it stands on the day depends on the day."""
    answered = plain_larkspur()
    located = {c.stage: c.level for c in plan(answered).checks if c.key == "locate"}
    assert located and set(located.values()) == {"sound"}
    without = plan(typed(answered, "site.dig_date", ""))
    told = [check for check in without.checks if check.key == "locate"]
    # Before a day is said nothing is dated at all.
    assert {check.stage for check in told} == set(located) - {"schedule"}
    assert all((check.level, check.given) == ("stop", "site.dig_date") for check in told)
    assert all("no day is said" in str(check.measured) for check in told)


def test_level_ground_falls_nowhere_and_a_survey_without_a_surface_answers_nothing() -> None:
    level = said_job("level", site=said_site(slope=0.0, falls_toward_deg=None))
    assert plan(level).missing == ()
    unshot = said_job("unshot", site=said_site(ground="survey", slope=None, falls_toward_deg=None))
    assert {"site.slope", "site.falls_toward_deg"} <= set(plan(unshot).missing)
    assert "rows" not in {answer.stage for answer in plan(unshot).answers}


def test_files_that_cannot_be_written_name_every_field_and_the_archive_says_so() -> None:
    bare = one_array("from nothing")
    with pytest.raises(Lacking) as refused:
        EXPORTS["materials.csv"].write(bare, plan(bare), Wanted(units="metric"))
    assert set(refused.value.paths) == set(plan(bare).missing) - {"site.dig_date"}
    words: list[str] = []
    assert b"left-out.txt" in write_package(bare, (), lambda share, what: words.append(what))
    assert "materials.csv" in words


@pytest.mark.parametrize("family", sorted(FAMILIES))
@pytest.mark.parametrize("path", NEEDED)
def test_no_family_is_drawn_by_what_nobody_has_said(family: str, path: str) -> None:
    """Each family lacking each thing by itself: every stage is shown, as far as what was said goes."""
    partial = typed(changed(larkspur(), "structure", family=family), path, "")
    found = as_built(partial, plan(partial))
    for stage in PLACES:
        shown = stage_sheet(stage, partial, found, "us")
        assert bool(found.lacking(stage)) == (shown.answers == ())


@settings(max_examples=600, deadline=None, suppress_health_check=list(HealthCheck))
@given(
    design=designs(),
    out=st.sets(st.sampled_from(NEEDED), min_size=1),
    bare=st.booleans(),
)
def test_any_part_of_a_design_is_planned_drawn_and_written(
    design: Design, out: set[str], bare: bool
) -> None:
    partial = one_array("partial") if bare else design
    for path in sorted(out):
        if not bare:
            partial = typed(partial, path, "")
    found = as_built(partial, plan(partial))
    for one in found.each():
        for stage in PLACES:
            shown = stage_sheet(stage, partial, one, "metric")
            assert bool(one.lacking(stage)) == (shown.answers == ())
    job_sheet(partial, found, "us")
    scene_of(found)
    for export in EXPORTS.values():
        try:
            export.write(partial, found, Wanted(units="metric"))
        except (DesignError, Lacking) as error:
            assert str(error)
