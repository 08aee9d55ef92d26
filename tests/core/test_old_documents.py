"""Documents as older versions wrote them, kept as they were: everything in them is still there."""

import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from openfurrow.core.design import SCHEMA_VERSION
from openfurrow.core.design_versions import read_document
from openfurrow.core.edits import DesignError
from openfurrow.core.footings.families import (
    OF_CHANCE,
    OF_PIERS,
    OF_RUST,
    OF_SCREWS,
    OF_TESTS,
)
from openfurrow.core.frame.givens import OF_BELOW, OF_PIECES, OF_POSTS, FrameGivens
from openfurrow.core.materials.givens import OF_AXLES
from openfurrow.core.plan import plan
from openfurrow.core.schedule.givens import ScheduleGivens
from openfurrow.core.structures.mover_givens import OF_MOVERS
from openfurrow.core.structures.tube_givens import OF_TUBES
from openfurrow.core.sun.givens import SunGivens
from openfurrow.core.trench.givens import OF_ARMOUR, OF_BACK, OF_OVER, OF_WALLS
from openfurrow.core.wiring.backup_givens import OF_A_GENERATOR, OF_BACKUP
from openfurrow.core.wiring.givens import OF_BOXES, OF_CONNECTION, OF_EARTH, OF_STRINGS_INSIDE
from openfurrow.core.wiring.inverter_givens import OF_BRANCHES

KEPT = Path(__file__).parent.parent / "documents"
# Where version 4 keeps what stood elsewhere.
STRUCTURE = {
    "footings": {"post_section", "span_limit_m", "cantilever_ratio", "shifts", "post_top_m"},
    "frame": {
        "purlin_section",
        "beam_section",
        "strut_reach_m",
        "strut_section",
        "strut_foot_m",
        "deflection_divisor",
    },
}


def leaves(part: Any, path: tuple[str, ...] = ()) -> Iterator[tuple[tuple[str, ...], Any]]:
    if isinstance(part, dict):
        for name, value in part.items():
            yield from leaves(value, (*path, name))
    elif isinstance(part, list) and part and isinstance(part[0], dict):
        for number, thing in enumerate(part):
            yield from leaves(thing, (*path, str(number)))
    else:
        yield path, part


# What became the array's own in version 5; there is one, of the id 1.
OF_AN_ARRAY = ("rows", "structure", "footings", "frame", "modules")


# What became the inverter's own in version 6; there is one, of the id 1.
OF_AN_INVERTER = ("maximum_dc_v", "start_v", "inverter_ac_w", "inverter_inputs")


def place_now(path: tuple[str, ...]) -> tuple[str, ...]:
    if path[1:] and path[1] in STRUCTURE.get(path[0], ()):
        path = ("structure", *path[1:])
    if path == ("sun", "turn_deg"):
        path = ("rows", "turn_deg")
    if path[0] == "wiring" and path[1] in OF_AN_INVERTER:
        return ("wiring", "inverters", "0", *path[1:])
    return ("arrays", "0", *path) if path[0] in OF_AN_ARRAY else path


OF_BOLTS = {name for name in FrameGivens.model_fields if "bolt" in name or "grade" in name}
OF_BOLTS |= {"fittings_rated"}


@pytest.mark.parametrize("name", sorted(one.name for one in KEPT.glob("*.json")))
def test_nothing_that_was_said_in_an_older_document_is_lost(name: str) -> None:
    old = json.loads((KEPT / name).read_text())
    design = read_document(old)
    new = dict(leaves(json.loads(design.model_dump_json())))
    said = {place_now(path): value for path, value in leaves(old)} | {
        ("schema_version",): SCHEMA_VERSION
    }
    # Since version 7 a post is known by its table and its place there.
    shifts = ("arrays", "0", "structure", "shifts")
    said[shifts] = [[f"1.1/{number}", by_m] for number, by_m in said[shifts]]
    assert {path: new.get(path, "lost") for path in said} == said
    # What is new has its own default, and the plan of it is a plan.
    added = {path[-1] for path in new.keys() - said.keys()}
    assert added <= {
        "id",
        "name",
        "family",
        "loads",
        "positions",
        "strut_travel_m",
        "lines_apart_m",
        "bent_brace",
        "brace_section",
        "brace_foot_m",
        "braced_bays",
        "pipe_section",
        "rail_section",
        "pole_section",
        *("moved", *OF_MOVERS, *OF_TUBES),
        *("steel_bonds", "zone_from_m", "zone_to_m", "clamps_in_m", "on_wall"),
        *("backs_up", "hours_wanted", *OF_BACKUP, *OF_A_GENERATOR),
        *(f"{ground}_costs" for ground in ("road", "roots", "rock", "wet", "steep")),
        *(
            "plates_over",
            "wire_listed_v",
            "comes_up",
            "data",
            "cover_m2_per_h",
            "fence_m_per_h",
            "before_pour",
            "inside_m",
            "box_up_m",
            "rise_up_m",
            *OF_ARMOUR,
        ),
        *("joined", "input_a", "input_short_a", "arc_fault"),
        "foot_up_m",
        *("strut_held_by", "strut_hole_m", "strut_turn_m"),
        "strut_rated_n",
        "quake_acceleration",
        "base_section",
        "box_side_m",
        *("filled_with", "block", "block_kg"),
        "sliding_friction",
        "weights",
        "why",
        *OF_CHANCE,
        "load_tests",
        *("currency", "tax", "hour_cost", "short_cost", "prices", "profiles"),
        *("air_bites", "metals_parted", "staggered", "slot_held", "panels"),
        *("ground_below", *OF_BELOW, *OF_AXLES, "built_here", "bracket_m", "standby_there"),
        *OF_TESTS,
        *OF_RUST,
        *OF_PIECES,
        *OF_POSTS,
        *("pieces_come", "posts_come", "other_stock_m", "saw_cut_m"),
        *("hole_step_m", "holes_each_way", "slot_m"),
        *("truck_kg", "truck_bed_m", "truck_over_m", "unweighed"),
        *("modules_a_pallet", "lifter_kg", "laydown_m2"),
        *OF_BOLTS,
        "modules_hold_purlins",
        *("by_hand_costs", "crossing_costs_m", "bend_costs_m"),
        *("lead_m", "junction_in_m", "junction_apart_m", "every_second_turned"),
        *("string_walk", *OF_BOXES, *OF_EARTH),
        *OF_BRANCHES,
        *("wall_kind", *OF_WALLS, "laid", *OF_OVER, "put_back", *OF_BACK),
        *(*OF_CONNECTION, "connects", "inverter_to_panel_m", "ac_drop_limit", *OF_STRINGS_INSIDE),
        "loose_top_m",
        "slab_holds",
        *OF_PIERS,
        *OF_SCREWS,
        "cable",
        "flow_below",
        "strength_spread",
        *("bare_below", "tied_by", "pile_joints", "pile_on"),
        *("shelter_share", "shelter_report", "outer_rows", "end_tables"),
        "depths",
        "spurs",
        "standing",
        "takes",
        "tables",
        "stands",
        "units",
        "ac_v",
        "phases",
        *ScheduleGivens.model_fields,
        *SunGivens.model_fields,
        "cells_halved",
        "bypass_groups",
        "back_share",
        "conversion",
        "electronics",
        "looked",
        "taken",
    }
    assert [one.id for one in design.arrays] == ["1"]
    assert plan(design).footings.posts.depth_m > 0


@pytest.mark.parametrize(("version", "stray"), [(3, {"structure": {}}), (4, {"arrays": []})])
def test_what_an_older_version_did_not_have_is_refused_not_lost(version: int, stray: dict) -> None:
    old = json.loads((KEPT / "quillay.version-3.json").read_text())
    with pytest.raises(DesignError, match="not a field"):
        read_document(old | {"schema_version": version} | stray)
