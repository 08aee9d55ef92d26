"""Profiles of one's own: named, brought by file, offered, chosen, bought; refused in words."""

import csv
import io
from typing import Any, get_args

import pytest
from hypothesis import given
from hypothesis import strategies as st

from openfurrow.core.codes.metal import grade_names
from openfurrow.core.codes.own_section import BOUNDS_M, USES, read_name
from openfurrow.core.codes.section import known_section, section, section_names
from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError, apply
from openfurrow.core.materials.own_profiles import GradeName, ProfileGivens, bore_of
from openfurrow.core.plan import plan
from openfurrow.demo.designs import DESIGNS
from openfurrow.exchange.profiles_csv import profiles_csv, read_profiles, with_profiles
from openfurrow.exchange.wanted import Wanted
from openfurrow.exchange.workbook import workbook
from openfurrow.sheets.write import stage_sheet
from tests.designs import changed

STEEL_Z, LIGHT_Z = "Z 180 x 64 x 20 x 1.8 S350GD", "Z 180 x 64 x 20 x 1.8 6082-T6"


def bare() -> Design:
    return DESIGNS["larkspur"]()


@pytest.mark.parametrize(
    ("name", "says"),
    [
        ("Z 180 x 64 S235", "a Z has depth, width, lip, wall"),
        ("Z 180 x 64 x 20 x 1.8", "shape, measures in millimetres, grade"),
        ("Z 180 x 64 x 20 x 1.8 S999", "one of S235"),
        ("Z 180 x 64 x 20 x 0.5 S235", "0.9 to 20 mm"),
        ("Z 7 x 2.5 x 0.75 x 0.07 S235", "20 to 500 mm"),
        ("Z 180.0 x 64 x 20 x 1.8 S235", "is written Z 180 x 64 x 20 x 1.8 S235"),
        ("C 60 x 40 x 25 x 2 S235", "lips that nearly meet"),
        ("C 60 x 20 x 19 x 2 S235", "lip over its flange"),
        ("C 60 x 40 x 3 x 2 S235", "5 to 80 mm"),
        ("C 60 x 40 x 5 x 4 S235", "lips shorter than two walls"),
        ("C 400 x 64 x 20 x 1 S235", "web of 400 to 1"),
        ("I 200 x 100 x 2 x 6 S355", "web of 94 to 1: up to 35.4"),
        ("I 200 x 160 x 6 x 5 S355", "half flange of 16 to 1: up to 13.3"),
        ("box 200 x 40 x 3 S235", "as deep as wide"),
        ("box 40 x 40 x 14 S235", "walls that fill it"),
        ("pipe 40 x 12 S235", "leave no bore"),
        ("hat 40 x 12 S235", "shape, measures"),
    ],
)
def test_a_name_that_means_nothing_says_why(name: str, says: str) -> None:
    with pytest.raises(ValueError) as refused:
        read_name(name)
    assert says in str(refused.value)
    with pytest.raises(KeyError):
        section(name)


def test_what_a_field_takes_is_of_its_own_use() -> None:
    assert known_section("purlin")(STEEL_Z) == STEEL_Z
    assert known_section("purlin")(LIGHT_Z) == LIGHT_Z
    for use, name in (("post", "C 150 x 64 x 18 x 2 6061-T6"), ("pipe", "pipe 60.3 x 3 6061-T6")):
        with pytest.raises(ValueError, match=f"is no {use}"):
            known_section(use)(name)
    with pytest.raises(ValueError, match="is no strut"):
        known_section("strut")(STEEL_Z)
    # One of the lists that serves something else is not read for one's own.
    with pytest.raises(ValueError) as refused:
        known_section("rail")("W6x9")
    assert "own" not in str(refused.value)


def test_grades_that_are_offered_are_those_that_are_known() -> None:
    assert get_args(GradeName) == grade_names()


@pytest.mark.parametrize("use", USES)
def test_nothing_of_the_lists_is_named_as_ones_own(use: str) -> None:
    for name in section_names(use):
        with pytest.raises(ValueError):
            read_name(name)


def profile(**given_as: Any) -> ProfileGivens:
    return ProfileGivens(id="a", **given_as)


def lengths(name: str) -> st.SearchStrategy[float]:
    low, high = BOUNDS_M[name]
    return st.integers(round(low * 1e5) + 1, round(high * 1e5) - 1).map(
        lambda hundredths: hundredths / 1e5
    )


def profiles() -> st.SearchStrategy[ProfileGivens]:
    return st.builds(
        profile,
        sold_as=st.sampled_from(["", "ZP 18", "=cmd"]),
        shape=st.sampled_from(["C", "Z", "I", "box", "pipe"]),
        depth_m=lengths("depth_m"),
        width_m=lengths("width_m"),
        lip_m=lengths("lip_m"),
        wall_m=lengths("web_m"),
        flange_m=lengths("flange_m"),
        grade=st.sampled_from(grade_names()),
    )


@given(profiles())
def test_a_profile_is_either_reckoned_or_says_why_not(one: ProfileGivens) -> None:
    assert (one.made is None) == bool(one.wrong)
    if one.made is None:
        assert one.serves == ()
        return
    assert read_name(one.made.name) == one.made
    known = section(one.made.name)
    assert known.depth_m == pytest.approx(one.depth_m) and known.area_m2 > 0
    for use in USES:
        if use in one.serves:
            assert known_section(use)(one.made.name) == one.made.name
        else:
            with pytest.raises(ValueError):
                known_section(use)(one.made.name)


@given(profiles(), st.sampled_from(["us", "metric"]))
def test_profiles_go_out_and_come_back(one: ProfileGivens, units: Any) -> None:
    if one.made is None:
        return
    design = changed(bare(), "materials", profiles=(one,))
    out = profiles_csv(design, plan(bare()), Wanted(units=units))
    (again,) = read_profiles(out.encode())
    assert again.made is not None
    assert (again.shape, again.grade, again.sold_as) == (one.shape, one.grade, one.sold_as.strip())
    # A hundredth of a millimetre comes back; of a ten-thousandth of an inch it is the nearest.
    for name in ("depth_m", "web_m"):
        near = 1e-9 if units == "metric" else 1.3e-6
        assert getattr(again.made, name) == pytest.approx(getattr(one.made, name), abs=near)


HEAD = "sold as,shape,depth mm,width mm,lip mm,wall mm,flange wall mm,grade\n"


def test_a_catalogue_is_read_with_its_units() -> None:
    """Inches and millimetres, in titles or beside the numbers; in a workbook too."""
    text = (
        "Shape;Depth;Width (in);Lip in;Wall;Grade;Sold as\nZ;7-1/16 in;2.5;0.75;1,8 mm;a653-50;ZP 7\n"
    )
    (one,) = read_profiles(text.encode())
    assert one.made is not None and one.sold_as == "ZP 7" and one.grade == "A653-50"
    assert one.depth_m == pytest.approx(7.0625 * 0.0254)
    assert (one.width_m, one.lip_m) == (pytest.approx(0.0635), pytest.approx(0.01905))
    assert one.wall_m == pytest.approx(0.0018)
    design = bare()
    book = workbook(
        design,
        plan(design),
        Wanted(units="metric"),
        {"Catalogue": lambda *_: HEAD + "R 60,box,60,40,,2.5,,6061-T6\n"},
    )
    (light,) = read_profiles(book)
    assert light.made is not None and light.made.name == "box 60 x 40 x 2.5 6061-T6"


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "is empty"),
        ("depth mm,grade\n1,S235\n", "no column 'shape'"),
        (HEAD, "holds no profile"),
        ("shape,grade,wall mm,wall in\nC,S235,2,2\n", "two columns 'wall'"),
        (HEAD + "A,hat,60,40,12,2,,S235\n", "'hat' for a shape in line 2"),
        (HEAD + "A,C,60,40,12,2,,steel\n", "'steel' for a grade in line 2"),
        (HEAD + "A,C,60,40,,2,,S235\n", "for the lip of a C in line 2"),
        (HEAD + "A,C,60,forty,12,2,,S235\n", "'forty' for the width"),
        ("shape,depth,wall mm,grade\npipe,60.3,3,S235\n", "write a number with its unit"),
        (HEAD + "A,C,6,40,12,2,,S235\n", "has a C in line 2 that has a depth that is out of range"),
        (HEAD + "A,C,60,40,12,14,,S235\n", "walls that fill it"),
        (HEAD + "A,C,60,40,12,2,,S235\nB,C,60,40,12,2,,S235\n", "a second time in line 3"),
    ],
)
def test_a_catalogue_that_cannot_be_read_is_refused_by_its_line(text: str, says: str) -> None:
    with pytest.raises(DesignError) as refused:
        read_profiles(text.encode())
    (problem,) = refused.value.problems
    assert says in problem.message and problem.remedy


def test_a_file_replaces_what_is_alike_and_keeps_the_rest() -> None:
    design, words = with_profiles(bare(), (HEAD + "A,C,60,40,12,2,,S235\n").encode(), "yard.csv")
    assert words == "1 profile from yard.csv"
    text = HEAD + "B,C,60,40,12,2,,S235\nD,pipe,48.3,,,3,,S275\n"
    design, _ = with_profiles(design, text.encode(), "yard.csv")
    assert [one.sold_as for one in design.materials.profiles] == ["B", "D"]
    assert len({one.id for one in design.materials.profiles}) == 2
    many = HEAD + "".join(f"N,pipe,{40 + n / 10:g},,,3,,S275\n" for n in range(70))
    with pytest.raises(DesignError, match="profiles"):
        with_profiles(design, many.encode(), "yard.csv")


def test_an_own_profile_is_offered_where_it_serves_and_bought_by_its_name() -> None:
    own = profile(sold_as="ZP 18", shape="Z", depth_m=0.18, width_m=0.064, lip_m=0.02, wall_m=0.0018)
    wrong = ProfileGivens(id="b", depth_m=0.02, wall_m=0.02)
    design = changed(bare(), "materials", profiles=(own, wrong))
    sheet = stage_sheet("structure", design, plan(design), "us")
    choices = {one.label: one.choices for one in sheet.givens}
    assert choices["Purlin"][-1] == STEEL_Z and STEEL_Z not in choices["Post"]
    path = "arrays.1.structure.purlin_section"
    built = apply(design, ((path, STEEL_Z),), "us")
    (bought,) = (line for line in plan(built).materials.lines if STEEL_Z in line.item)
    assert bought.item.startswith(f"Purlin stock, {STEEL_Z},") and bought.where.startswith(
        "Sold as ZP 18. "
    )
    # Taken out of the list it stays what is built, and is still shown.
    gone = changed(built, "materials", profiles=())
    kept = {one.label: one for one in stage_sheet("structure", gone, plan(gone), "us").givens}
    assert kept["Purlin"].text == STEEL_Z and STEEL_Z in kept["Purlin"].choices
    assert any(STEEL_Z in line.item for line in plan(gone).materials.lines)
    with pytest.raises(DesignError):
        apply(design, ((path, "Z 180 x 64 x 20 x 1.8 S999"),), "us")


def test_what_is_lighter_sags_more_weighs_less_and_grows_twice() -> None:
    """The same measures of steel and of aluminium, by the ratios of modulus, weight and growth."""
    told = {}
    for name in (STEEL_Z, LIGHT_Z):
        found = plan(changed(bare(), "structure", purlin_section=name))
        members = found.structure.members
        told[name] = (
            members.purlin.sag_m,
            next(one.working.value for one in found.frame.answers if one.key == "grows"),
            members.purlin.section.mass_kg_per_m,
            max(one.limit for one in found.frame.checks if one.key == "unbroken"),
        )
    steel, light = told[STEEL_Z], told[LIGHT_Z]
    # A lighter purlin is lifted a little harder and pressed a little less.
    assert light[0] / steel[0] == pytest.approx(200 / 69.6, rel=0.03)
    assert light[1] / steel[1] == pytest.approx(2.0, rel=1e-6)
    assert light[2] / steel[2] == pytest.approx(2700 / 7850, rel=1e-6)
    assert light[3] == steel[3] / 2


@pytest.mark.parametrize(
    ("inches", "name"),
    [(2.0, "pipe 2 in"), (1.25, "pipe 1-1/4 in"), (2.375, ""), (4.01, "pipe 4 in"), (3.5, "")],
)
def test_an_outside_that_is_a_bore_is_asked_about(inches: float, name: str) -> None:
    """Common practice: 2 in pipe is 60.3 mm outside."""
    assert bore_of(inches * 0.0254) == name
    own = profile(shape="pipe", depth_m=inches * 0.0254, wall_m=0.003, grade="A53-B")
    checks = {one.key: one for one in plan(changed(bare(), "materials", profiles=(own,))).checks}
    assert checks["own_bores"].level == ("look" if name else "sound")
    assert checks["own_profiles"].level == "sound"


def test_a_file_without_own_profiles_has_the_titles_alone() -> None:
    out = profiles_csv(bare(), plan(bare()), Wanted(units="us"))
    (titles,) = csv.reader(io.StringIO(out))
    assert titles[:2] == ["sold as", "shape"]


def test_scrap_is_told_apart_by_its_metal() -> None:
    """By hand from the sticks: what is bought less what is cut, of each metal by itself."""
    design = changed(bare(), "structure", purlin_section=LIGHT_Z)
    found = plan(design)
    told = {one.key: one.working.value for one in found.materials.answers}
    left = {"scrap_steel": 0.0, "scrap_aluminium": 0.0}
    for bar in found.materials.sawing.bars:
        over = bar.nest.bought_m - bar.nest.cut_m
        light = bar.profile.endswith("6082-T6")
        left["scrap_aluminium" if light else "scrap_steel"] += over * bar.kg_per_m
    assert {key: told[key] for key in left} == pytest.approx(left)
    assert "scrap_aluminium" not in {one.key for one in plan(bare()).materials.answers}


def test_what_is_reckoned_as_aluminium_says_so() -> None:
    """A source of steel under a number of aluminium would be believed."""
    told = {}
    for name in (STEEL_Z, LIGHT_Z):
        found = plan(changed(bare(), "structure", purlin_section=name))
        told[name] = (
            next(one.source.text for one in found.checks if one.key == "purlin"),
            next(one.working.source.text for one in found.answers if one.key == "purlin_use"),
        )
    assert all("AISI" in text and "EN 1999" not in text for text in told[STEEL_Z])
    assert all("EN 1999" in text and "AISI" not in text for text in told[LIGHT_Z])
