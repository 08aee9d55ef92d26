"""What is shown and not only judged, by hand: bending of the beam, the pull, weights on the truck,
words that name posts and pieces."""

import math
import re

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.codes import constant
from openfurrow.core.codes.section import section
from openfurrow.core.design import Design
from openfurrow.core.materials.cuts import cut_list
from openfurrow.core.plan import Plan, plan
from tests.core.breaks import grid, shot
from tests.core.test_checks import broken
from tests.designs import changed, designs, plain_larkspur
from tests.reference.test_every_post import shares_m

G = 9.80665
# How far off its crossing each half of a couple pulls: a bolt's width, of no weight in the sum.
ARM_M = 0.01


def bent_by(places: list[float], forces: list[float], supports: tuple[float, float]) -> float:
    """The largest bending of a beam on two supports under forces down at places: statics alone."""
    a, b = supports
    total, about_a = sum(forces), sum(f * (x - a) for f, x in zip(forces, places, strict=True))
    at_b = about_a / (b - a)
    every = [*zip(places, forces, strict=True), (a, -(total - at_b)), (b, -at_b)]
    return max(
        (abs(sum(f * (x - at) for at, f in every if at < x)) for x, _ in every),
        default=0.0,
    )


def by_lever(crossings: list[float], chord: float, gap: float, press: list[float]) -> list[float]:
    """What each purlin carries: a module lies on two of them, pressed otherwise on either half.

    ``crossings`` are in pairs, one a module row; gaps go half and half to the modules beside them.
    """
    rows = len(crossings) // 2
    step = (chord + gap) / rows
    found = [0.0] * len(crossings)
    for row in range(rows):
        low = 0.0 if row == 0 else row * step - gap / 2
        high = chord if row == rows - 1 else (row + 1) * step - gap / 2
        first, second = crossings[2 * row : 2 * row + 2]
        for half, (begin, end) in enumerate(((0.0, chord / 2), (chord / 2, chord))):
            begin, end = max(begin, low), min(end, high)
            if end > begin:
                force, middle = press[half] * (end - begin), (begin + end) / 2
                found[2 * row] += force * (second - middle) / (second - first)
                found[2 * row + 1] += force * (middle - first) / (second - first)
    return found


@settings(max_examples=40, deadline=None)
@given(
    tilt=st.floats(5, 50),
    wind=st.floats(25, 60),
    snow=st.floats(0, 4000),
    reach=st.floats(0.4, 1.4),
    high=st.integers(1, 3),
    pack=st.sampled_from(["us", "metric"]),
)
def test_the_beam_is_bent_as_statics_say(
    tilt: float, wind: float, snow: float, reach: float, high: int, pack: str
) -> None:
    """Every combination with every case: purlins press or pull, weight above the beam turns it."""
    found = plan(
        broken(
            plain_larkspur(),
            {
                "site": {"wind_speed_m_s": wind, "ground_snow_pa": snow, "rule_pack": pack},
                "rows": {"tilt_deg": tilt, "modules_high": high},
                "structure": {"strut_reach_m": reach},
            },
        )
    )
    rows, loads, line = found.rows, found.structure.loads_at[0], found.structure.posts.line
    chord, stack = rows.section.chord_m, rows.section.stack_m
    zone = constant("common", "clamp_zone").value
    step = rows.module_up_m + rows.gap_up_m
    crossings = sorted(
        row * step + share * rows.module_up_m for row in range(high) for share in (zone, 1 - zone)
    )
    width = max(shares_m(line.along_m.tolist(), line.purlin_m))
    bolt = chord / 2
    # The beam begins a little before its first purlin: a strut can hold it no further out.
    first = crossings[0] - constant("common", "beam_end_m").value
    supports = (max(bolt - reach, first), bolt)
    lean = math.radians(tilt)
    pressed = lifted = 0.0
    for dead, below, above, gust in zip(
        loads.strength.dead,
        loads.strength.snow,
        loads.strength.snow_back,
        loads.strength.wind,
        strict=True,
    ):
        lying = [
            dead * loads.dead_kg_per_m2 * G + s * loads.snow_pa * math.cos(lean) for s in (below, above)
        ]
        weight = sum(lying) / 2
        for front, back in zip(loads.wind.front_pa, loads.wind.back_pa, strict=True):
            press = [
                lying[half] * math.cos(lean) + gust * float((front, back)[half]) for half in (0, 1)
            ]
            on_purlin = [one * width for one in by_lever(crossings, chord, rows.gap_up_m, press)]
            couple = weight * chord * width * math.sin(lean) * stack / len(crossings)
            places = [*crossings, *(at - ARM_M for at in crossings), *(at + ARM_M for at in crossings)]
            pairs = [couple / 2 / ARM_M] * len(crossings)
            forces = [*on_purlin, *pairs, *(-one for one in pairs)]
            bent = bent_by(places, forces, supports)
            pressing = 2 * weight * math.cos(lean) + gust * float(front + back) >= 0
            pressed, lifted = (max(pressed, bent), lifted) if pressing else (pressed, max(lifted, bent))
    bending = found.structure.members.beam.bending
    assert bending.pressing_n_m == pytest.approx(pressed, rel=2e-3, abs=0.5)
    assert bending.lifting_n_m == pytest.approx(lifted, rel=2e-3, abs=0.5)
    said = found.answer("structure", "reaction").working
    load = next(float(one.value) for one in said.inputs if one.symbol == "w")
    # A gust on what one crossing carries is held to the figure elsewhere: here it is one of two.
    (gust,) = [one for one in said.inputs if one.symbol == "R_g"]
    assert float(said.value) == pytest.approx(max(load * width, float(gust.value)), rel=1e-6)
    assert found.answer("structure", "tributary").value == pytest.approx(width, rel=1e-6)


@settings(max_examples=30, deadline=None)
@given(designs())
def test_what_hangs_on_the_hook_weighs_what_its_length_says(design: Design) -> None:
    """Steel by its metre, glass by its data sheet: each piece, and all of them together."""
    found = plan(design)
    members, posts = found.structure.members, found.footings.posts
    lines = {line.key: line for line in found.materials.lines}
    given_s, given_f = design.arrays[0].structure, design.arrays[0].frame
    profiles = {
        "beam": given_s.beam_section,
        "strut": given_s.strut_section,
        "brace": given_s.brace_section,
        "rail": given_s.rail_section,
    }
    pieces = {"module": design.arrays[0].modules.mass_kg}
    if "post" in lines:
        pieces["post"] = float(posts.lengths_m.max()) * posts.post.mass_kg_per_m
    for piece in members.pieces:
        if piece.key in lines and piece.key in profiles:
            pieces[piece.key] = lines[piece.key].length_m * section(profiles[piece.key]).mass_kg_per_m
            # It comes at the longest, to a mark of the tape, and as much longer as it runs on.
            past = 2 * given_f.beyond_bolt_m if piece.bolted and piece.from_stick else 0.0
            longest = float(piece.lengths_m.max()) + past
            assert lines[piece.key].length_m == pytest.approx(longest, abs=2e-3)
    for key, mass in pieces.items():
        assert lines[key].piece_kg == pytest.approx(mass, rel=1e-9), key
        assert lines[key].mass_kg == pytest.approx(mass * lines[key].quantity, rel=1e-9), key
    # Sticks weigh what their own lengths do, by the metre of what the planner chose.
    # Piles of blocks have no steel in them.
    stood = () if posts.steel is None else (posts.steel.name,)
    by_name = {name: section(name).mass_kg_per_m for name in (*profiles.values(), *stood)}
    by_name[members.purlin.section.name] = members.purlin.section.mass_kg_per_m
    sold = {given_f.stock_length_m, given_f.other_stock_m, given_f.piece_stock_m}
    sold |= {given_f.other_piece_stock_m, given_f.post_stock_m}
    sticks = [line for key, line in lines.items() if key.startswith("sticks_")]
    assert sticks
    for line in sticks:
        assert line.length_m in sold
        metre_kg = next(kg for name, kg in by_name.items() if f", {name}," in line.item)
        assert line.piece_kg == pytest.approx(line.length_m * metre_kg, rel=1e-9), line.item
        assert line.mass_kg == pytest.approx(line.piece_kg * line.quantity, rel=1e-9)
    heaviest = max(line.piece_kg for line in found.materials.lines)
    assert found.answer("materials", "heaviest").value == pytest.approx(heaviest)
    whole = sum(line.mass_kg for line in found.materials.lines)
    assert found.answer("materials", "mass").value == pytest.approx(whole)


def numbers_in(words: str) -> set[int]:
    """Posts that words name: 1 to 4, 7."""
    found: set[int] = set()
    for first, last in re.findall(r"(\d+)(?: to (\d+))?", words):
        found |= set(range(int(first), int(last or first) + 1))
    return found


def test_the_saw_is_told_which_posts_a_length_is_for() -> None:
    """Each post's own length, rounded up to the mark, names that post and no other."""
    design = broken(
        plain_larkspur(),
        {
            "site": shot(grid(lambda e, n: 0.03 * e + 0.002 * e * e, 6, 60)),
            "footings": {"depths": "each post's own"},
        },
    )
    found: Plan = plan(design)
    mark = 0.0254
    given_f = design.arrays[0].frame
    cuts = cut_list(found.structure, found.footings.posts, found.frame, given_f, "us")
    told = {cut.length_m: numbers_in(cut.where) for cut in cuts if cut.item == "post"}
    assert len(told) > 1
    own = np.ceil(found.footings.posts.lengths_m / mark - 1e-6) * mark
    for length, which in told.items():
        assert which == set((np.flatnonzero(np.abs(own - length) < 2e-6) + 1).tolist())
    assert sum(cut.count for cut in cuts if cut.item == "post") == own.size
    struts = [cut for cut in cuts if cut.item.startswith("strut")]
    assert len(struts) > 1 and sum(cut.count for cut in struts) == own.size
    assert set().union(*(numbers_in(cut.where) for cut in struts)) == set(range(1, own.size + 1))


def test_pieces_of_a_purlin_are_numbered_from_its_first_end() -> None:
    found = plan(changed(plain_larkspur(), "rows", modules_along=30))
    pieces = [one for one in found.frame.answers if one.key.startswith("piece_")]
    assert len(pieces) > 2
    starts = []
    for number, one in enumerate(pieces, start=1):
        assert (one.key, one.label) == (f"piece_{number}", f"Piece {number} of each line")
        starts.append(float(one.working.inputs[0].value))
    assert starts[0] == 0.0 and starts == sorted(starts)
    # Each begins a lap before the one in front of it ends.
    lap = float(
        next(
            i.value for i in found.answer("frame", "purlin_pieces").working.inputs if i.symbol == "lap"
        )
    )
    for (start, one), following in zip(zip(starts, pieces, strict=True), starts[1:], strict=False):
        assert start + float(one.value) - lap == pytest.approx(following)
