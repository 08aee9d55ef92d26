"""Metals that lie on each other: what is told, what parts them, and that pads cut nothing off."""

from typing import Any, get_args

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.sparse.csgraph import connected_components

from openfurrow.core.edits import apply
from openfurrow.core.frame.touching import Touch
from openfurrow.core.plan import Plan, plan
from openfurrow.core.site.givens import AirBites
from openfurrow.demo.designs import DESIGNS
from openfurrow.sheets.write import stage_sheet
from tests.designs import changed

RISE = {"little": 0, "some": 1, "much": 2}
LIGHT_BEAM, LIGHT_Z = "C 200 x 75 x 22 x 4 6061-T6", "Z 200 x 75 x 22 x 4 6061-T6"
LIGHT_RAIL, LIGHT_STRUT = "box 82 x 41 x 3 6061-T6", "pipe 60.3 x 3 6061-T6"


def built(name: str, air: AirBites, *, parted: bool = True, **structure: str) -> Plan:
    design = changed(DESIGNS[name](), "site", air_bites=air)
    design = changed(design, "frame", metals_parted=parted)
    return plan(changed(design, "structure", **structure))


def told(found: Plan) -> dict[str, Touch]:
    return {one.parts: one for one in found.frame.touches}


def level(found: Plan) -> str:
    return next(one.level for one in found.frame.checks if one.key == "metals")


def test_what_each_air_makes_of_each_pair() -> None:
    """EN ISO 14713-1:2017, Table 3, and EN 1999-1-1, Table D.2, from memory, typed again."""
    wanted = {
        "modules on the purlin": ("little", "some", "some"),
        "bare copper at zinc-coated steel": ("some", "much", "much"),
        "bare copper at aluminium": ("much", "much", "much"),
        "bolts in aluminium": ("little", "some", "some"),
        "purlin on beam": ("little", "some", "some"),
    }
    for number, air in enumerate(get_args(AirBites)):
        found = told(built("larkspur", air, beam_section=LIGHT_BEAM))
        assert {part: found[part].adds for part in wanted} == {
            part: adds[number] for part, adds in wanted.items()
        }


@pytest.mark.parametrize("name", ["larkspur", "grifo", "quillay", "varnbeck"])
def test_a_worse_air_never_adds_less(name: str) -> None:
    """Common sense: salt eats no less than clean air does."""
    last: dict[str, int] = {}
    for air in get_args(AirBites):
        found = {part: RISE[one.adds] for part, one in told(built(name, air)).items()}
        assert all(found[part] >= worse for part, worse in last.items())
        last = found


def test_pads_are_counted_where_pieces_lie_on_each_other() -> None:
    """By hand: four under each module, purlins on beams, a beam and a strut's head at every post."""
    found = built("larkspur", "salt of the sea", beam_section=LIGHT_BEAM)
    posts, modules = found.structure.supports.count, found.rows.module_count
    crossings = 4 * posts
    assert found.frame.pads == 4 * modules + crossings + posts + posts
    assert level(found) == "sound"
    line = {one.key: one for one in found.materials.lines}["pad"]
    assert line.net == found.frame.pads and line.quantity >= line.net
    steps = stage_sheet("frame", DESIGNS["larkspur"](), found, "us").tables[0].rows
    (step,) = (row for row in steps if "pads and sleeves" in row[1].lower())
    assert step[2].startswith(f"{found.frame.pads} x pad")
    # Nobody parts anything: it is said, and nothing is bought.
    bare = built("larkspur", "salt of the sea", parted=False, beam_section=LIGHT_BEAM)
    assert level(bare) == "look" and bare.frame.pads == 0
    assert "pad" not in {one.key for one in bare.materials.lines}


def test_an_all_aluminium_table_has_nothing_to_part_but_its_posts() -> None:
    found = told(
        built(
            "larkspur",
            "salt of the sea",
            beam_section=LIGHT_BEAM,
            purlin_section=LIGHT_Z,
            strut_section=LIGHT_STRUT,
        )
    )
    assert found["modules on the purlin"].adds == "little"
    assert found["modules on the purlin"].places == 0
    assert "purlin on beam" not in found and found["beam on post"].wants_parting
    assert found["strut on post"].wants_parting and "strut on beam" not in found
    # Beams conduct to purlins, struts to beams: no strap is asked for.
    assert all(not one.cut_off[1] for one in found.values())


@pytest.mark.parametrize("grade", ["A307", "A325", "stainless"])
@pytest.mark.parametrize("air", get_args(AirBites))
def test_bolts_are_of_their_grade(grade: str, air: Any) -> None:
    """Zinc-coated bolts in zinc-coated steel are the same metal; stainless ones are not."""
    design = changed(DESIGNS["larkspur"](), "site", air_bites=air)
    found = told(plan(apply(design, (("arrays.1.frame.grade_us", grade),), "us")))
    of = found.get("bolts in zinc-coated steel")
    assert (of is not None) == (grade == "stainless")
    if of is not None:
        assert of.adds == ("some" if air == "salt of the sea" else "little")


@given(
    name=st.sampled_from(["larkspur", "grifo", "quillay", "varnbeck"]),
    beam=st.sampled_from(["C 200 x 75 x 3.0", LIGHT_BEAM]),
    purlin=st.sampled_from(["Z 200 x 64 x 2.0", LIGHT_Z]),
    strut=st.sampled_from(["pipe 2 in", LIGHT_STRUT]),
)
def test_no_piece_is_cut_off_its_ground_by_a_pad(name: str, beam: str, purlin: str, strut: str) -> None:
    """scipy: what lies on what conducts unless a pad is between; straps of the list come on top."""
    found = built(
        name, "salt of the sea", beam_section=beam, purlin_section=purlin, strut_section=strut
    )
    word = found.structure.members.stock.word
    metal = {"post": "steel", word: "light" if "6061" in purlin else "steel"}
    metal["beam"] = "light" if "6061" in beam else "steel"
    keys = {one.key for one in found.structure.members.pieces}
    if "strut" in keys:
        metal["strut"] = "light" if "6061" in strut else "steel"
    if "brace" in keys:
        metal["brace"] = "steel"
    names = list(metal)
    joined = np.zeros((len(names), len(names)))

    def join(one: str, other: str) -> None:
        joined[names.index(one), names.index(other)] = 1

    touch = [(word, "beam"), ("beam", "post"), ("strut", "post"), ("strut", "beam"), ("brace", "post")]
    for upper, lower in touch:
        if upper in metal and metal[upper] == metal[lower]:
            join(upper, lower)
    for link in found.modules.bonding.links:
        if link.start in metal and link.end in metal and link.count:
            join(link.start, link.end)
    assert connected_components(joined, directed=False)[0] == 1
    # As many straps are bought as links say.
    across = [one for one in found.modules.bonding.links if one.by == "a strap over its pads"]
    counts = {one.key: one.lengths_m.size for one in found.structure.members.pieces}
    assert all(one.count == counts[one.start] for one in across)
    assert len({one.start for one in across}) == len(across)
    # None is asked for where metal lies on its like that has a path.
    for one in across:
        assert metal[one.start] != metal["post"]
        assert one.start != "beam" or metal["beam"] != metal[word]
