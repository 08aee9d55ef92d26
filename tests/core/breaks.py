"""A design that breaks each rule, by its stage and key, and how loudly the rule says so."""

from datetime import date

from openfurrow.core.frame.givens import CUT_HERE
from tests.core.breaks_movers import MOVER_BREAKS
from tests.core.breaks_piers import PIER_BREAKS, SCREW_BREAKS, TEST_BREAKS
from tests.core.breaks_tubes import TUBE_BREAKS
from tests.core.breaks_wiring import (
    ARMOUR_BREAKS,
    END_BREAKS,
    INPUT_BREAKS,
    OVER_BREAKS,
    PULL_BREAKS,
    SERVICE_BREAKS,
    WALL_BREAKS,
)

BOX = ((-60.0, -60.0), (60.0, -60.0), (60.0, 60.0), (-60.0, 60.0))
POND = ((-2.0, -2.0), (2.0, -2.0), (2.0, 2.0), (-2.0, 2.0))
AWAY = ((200.0, 200.0), (240.0, 200.0), (240.0, 240.0), (200.0, 240.0))


# All of it by one's own truck, modules in two deliveries, wet concrete after the boxes.
FETCHED: dict[str, dict[str, object]] = {"schedule": {"deliveries": ()}}
# A light truck that was weighed, and one whose bed hangs far out behind its axle.
WEIGHED = {
    "truck_bed_m": 2.4,
    "axles_apart_m": 3.3,
    "bed_begins_m": 1.2,
    "empty_front_kg": 1100.0,
    "empty_rear_kg": 900.0,
    "front_axle_kg": 1600.0,
    "rear_axle_kg": 2000.0,
}
ON_AXLES = FETCHED | {"materials": WEIGHED | {"rear_axle_kg": 1000.0}}
BEHIND = FETCHED | {"materials": WEIGHED | {"bed_begins_m": 4.0}}
# A fence across a path for trucks, its gate elsewhere and of no width.
FENCED = {
    "site": {
        "features": (
            {"id": "t", "kind": "truck path", "width_m": 3.0, "points": ((0.0, 80.0), (0.0, 120.0))},
            {
                "id": "f",
                "kind": "fence",
                "built_here": True,
                "points": ((-30.0, 100.0), (30.0, 100.0)),
            },
            {"id": "g", "kind": "gate", "built_here": True, "points": ((20.0, 100.0),)},
        )
    }
}
SLOTTED = {"frame": {"slot_m": 0.05}}
# A path for trucks across the way.
TRUCKED = {
    "site": {
        "features": (
            {"id": "t", "kind": "truck path", "width_m": 3.0, "points": ((-60.0, 20.0), (60.0, 20.0))},
        )
    }
}
OWN_PROFILE = {"materials": {"profiles": ({"id": "a", "depth_m": 0.15, "wall_m": 0.02},)}}
TWICE = {
    "schedule": {
        "deliveries": (
            {"id": "1", "what": "modules", "arrives": date(2026, 4, 20)},
            {"id": "2", "what": "modules", "arrives": date(2026, 6, 1)},
        )
    }
}
BOXED: dict[str, dict[str, object]] = {
    "wiring": {"electronics": "by the module", "box_hangs": "the upper purlin"}
}
LATE = {
    "schedule": {"deliveries": ({"id": "1", "what": "concrete", "arrives": date(2026, 6, 1)},)},
}


def there(kind: str, points: object, **more: object) -> dict[str, object]:
    return {"features": ({"kind": kind, "points": points, **more},)}


def inverter(**givens: float) -> dict[str, object]:
    return {"inverters": [{"id": "1", **givens}]}


def shot(levels: object, **more: object) -> dict[str, object]:
    """A site of shots: (east, north, level) each, and a code."""
    readings = tuple((*at, "")[:4] for at in levels)
    return {"ground": "survey", "surveys": ({"name": "s", "readings": readings},), **more}


def grid(level, step: int = 12, reach: int = 60):
    return [
        (float(e), float(n), float(level(e, n)))
        for e in range(-reach, reach + 1, step)
        for n in range(-reach, reach + 1, step)
    ]


def hill(east: float, north: float) -> float:
    return 10.0 - 0.02 * (north - 4.0) ** 2


NOTE = {"who": "the desk", "words": "as they said"}
SEASONS = {
    "rows": {"positions": ({"tilt_deg": 15.0, "day": "3 May"}, {"tilt_deg": 55.0, "day": "1 Oct"})}
}
HOLED = SEASONS | {"structure": {"strut_travel_m": 1.0, "strut_hole_m": 0.2}}


def two_lines(wind: float = 47.0, **givens: object) -> dict[str, dict[str, object]]:
    """On two post lines, in so much wind."""
    return {"structure": {"family": "two post lines"} | givens, "site": {"wind_speed_m_s": wind}}


def pipe_grid(**givens: object) -> dict[str, dict[str, object]]:
    """On a pipe grid."""
    return {"structure": {"family": "pipe grid"} | givens}


def ballast(**givens: object) -> dict[str, dict[str, object]]:
    """On a frame that stands in weights."""
    return {
        "rows": {"rows": 1, "modules_high": 1, "tilt_deg": 15.0, "lower_edge_m": 1.0},
        "structure": {"family": "ballast frame", "lines_apart_m": 0.9, "brace_foot_m": 0.4} | givens,
        "footings": {"family": "ballast", "box_side_m": 0.9},
    }


def boxes(**givens: object) -> dict[str, dict[str, object]]:
    """The same with other boxes."""
    frame = ballast()
    return frame | {"footings": frame["footings"] | givens}


def blocks(**givens: object) -> dict[str, dict[str, object]]:
    """Nearly flat on dry piles of blocks."""
    return {
        "site": {"slope": 0.0, "wind_speed_m_s": 36.0, "fine_soil_top_m": 0.0},
        "rows": {"rows": 1, "modules_high": 1, "tilt_deg": 6.0, "lower_edge_m": 0.4},
        "structure": {"family": "table on blocks", "bare_below": True, "span_limit_m": 1.5},
        "footings": {"family": "piled blocks"} | givens,
    }


def blocks_with(stage: str, **givens: object) -> dict[str, dict[str, object]]:
    """The same with something else of another stage."""
    table = blocks()
    return table | {stage: table[stage] | givens}


def single_pole(**givens: object) -> dict[str, dict[str, object]]:
    """Two modules on one pole."""
    few = {"rows": 1, "tables_along": 1, "modules_high": 1, "modules_along": 2}
    return {"rows": few, "structure": {"family": "single pole", "pipe_section": "pipe 3 in"} | givens}


ONE_PRICE = {"materials": {"prices": ({"id": "a", "item": "Fuse", "price": 3.0},)}}
BREAKS = [
    ("site", "surface", "stop", {"site": {"ground": "survey"}}),
    (
        "site",
        "outliers",
        "look",
        {"site": shot(grid(lambda e, n: 0.03 * e + (3.0 if (e, n) == (12, 12) else 0.0)))},
    ),
    (
        "site",
        "breaks",
        "look",
        {
            "site": shot(
                (
                    *grid(lambda e, n: 0.03 * e),
                    (-9.0, 1.0, 0.0, "break wall"),
                    (9.0, 1.0, 0.0, "break wall"),
                    (1.0, -9.0, 1.0, "break ditch"),
                    (1.0, 9.0, 1.0, "break ditch"),
                )
            )
        },
    ),
    ("site", "criteria", "look", {"site": {"snow_from": ""}}),
    ("site", "features", "stop", {"site": there("building", ((0, 20), (5, 25), (5, 20), (0, 25)))}),
    ("site", "boundary", "stop", {"site": there("boundary", POND, setback_m=5.0)}),
    ("site", "gate", "stop", {"site": there("gate", ((20.0, 20.0),), width_m=0.9)}),
    ("site", "fence", "look", {"site": {"notes": ({"topic": "fence", **NOTE},)}}),
    ("site", "drawing", "look", {"site": {"notes": ({"topic": "drawing", **NOTE},)}}),
    ("site", "other", "look", {"site": {"notes": ({"topic": "other", **NOTE},)}}),
    ("rows", "visibility", "look", {"site": {"notes": ({"topic": "visibility", **NOTE},)}}),
    ("footings", "stamp", "stop", {"site": {"notes": ({"topic": "stamp", **NOTE},)}}),
    ("trench", "inspection", "stop", {"site": {"notes": ({"topic": "inspection", **NOTE},)}}),
    (
        "rows",
        "positions",
        "stop",
        {
            "rows": {
                "positions": ({"tilt_deg": 20.0, "day": "3 May"}, {"tilt_deg": 50.0, "day": "3 May"})
            }
        },
    ),
    ("structure", "strut_travel", "stop", SEASONS),
    (
        "footings",
        "bending_along",
        "stop",
        {
            "site": {"wind_speed_m_s": 95.0},
            "rows": {"lower_edge_m": 3.5},
            "structure": {"post_section": "I 100 x 80 x 9"},
        },
    ),
    ("wiring", "turning_slack", "stop", SEASONS | {"wiring": {"slack_m": 0.1}}),
    (
        "rows",
        "height_limit",
        "stop",
        {"site": {"notes": ({"topic": "height limit", "limit_m": 2.2, **NOTE},)}},
    ),
    (
        "rows",
        "standing_shade",
        "look",
        {"site": there("tree", ((2.0, -14.0),), height_m=15.0, width_m=6.0)},
    ),
    ("rows", "keep_out", "stop", {"site": there("water", POND)}),
    ("rows", "boundary", "stop", {"site": there("boundary", AWAY)}),
    ("rows", "known", "stop", {"site": shot(grid(lambda e, n: 0.02 * e, 2, 8))}),
    ("rows", "uneven", "look", {"site": shot(grid(lambda e, n: 0.03 * abs(e) ** 1.5, 3, 33))}),
    (
        "rows",
        "shade_ground",
        "look",
        {"rows": {"rows": 3, "pitch_m": 8.1}, "site": shot(grid(hill, 4, 40))},
    ),
    (
        "rows",
        "shade_beside",
        "look",
        {
            "rows": {"tables_along": 2, "follow_ground": False, "modules_along": 8},
            "site": {"slope": 0.13, "falls_toward_deg": 90.0},
        },
    ),
    (
        "rows",
        "face",
        "stop",
        {
            "site": shot(
                grid(lambda e, n: max(0.0, 4.0 - abs(n - 1.4) * 2.2), 1, 14), survey_reach_m=40.0
            )
        },
    ),
    ("modules", "short_sides", "look", {"rows": {"orientation": "landscape"}}),
    ("structure", "snow_room", "look", {"site": {"ground_snow_pa": 4000.0}}),
    ("structure", "shifted", "stop", {"structure": {"shifts": (("1.1/3", 5.0),)}}),
    ("structure", "span", "stop", {"structure": {"shifts": (("1.1/3", 0.4),)}}),
    ("footings", "locate", "stop", {"site": {"tickets": ()}}),
    ("footings", "keep_out", "stop", {"site": there("drain", ((0.0, -30.0), (0.0, 30.0)))}),
    ("footings", "boundary", "stop", {"site": there("boundary", AWAY)}),
    ("footings", "known", "stop", {"site": shot(grid(lambda e, n: 0.02 * e, 2, 8))}),
    (
        "footings",
        "refusal",
        "stop",
        {
            "footings": {"predrilled": False},
            "site": {"test_holes": ({"layers": ((4.0, "sandy gravel", None),), "refusal_m": 1.0},)},
        },
    ),
    (
        "footings",
        "refusal",
        "look",
        {
            "footings": {"predrilled": True},
            "site": {"test_holes": ({"layers": ((4.0, "sandy gravel", None),), "refusal_m": 1.0},)},
        },
    ),
    (
        "footings",
        "refusal",
        "look",
        {
            "footings": {"depth_m": 3.9},
            "site": {"test_holes": ({"layers": ((4.0, "sandy gravel", None),), "refusal_m": 3.6},)},
        },
    ),
    (
        "footings",
        "drivable",
        "stop",
        {"site": {"wind_speed_m_s": 85.0, "soil_class": "clay"}, "structure": {"span_limit_m": 6.0}},
    ),
    (
        "footings",
        "seen",
        "look",
        {"site": {"test_holes": ({"layers": ((1.5, "sandy gravel", None),)},)}},
    ),
    ("trench", "put_back", "look", {"trench": {"put_back": "nobody has said"}}),
    ("trench", "tracks_told", "look", {"trench": {"put_back": "gravel"}}),
    ("trench", "locate", "stop", {"site": {"dig_date": date(2026, 7, 1)}}),
    (
        "trench",
        "keep_out",
        "stop",
        {"site": there("septic field", ((8.0, 8.0), (14.0, 8.0), (14.0, 16.0), (8.0, 16.0)))},
    ),
    ("trench", "crossings", "look", {"site": there("buried gas or fuel", ((0.0, 26.0), (26.0, 0.0)))}),
    ("trench", "boundary", "stop", {"site": there("boundary", AWAY)}),
    ("trench", "known", "look", {"site": shot(grid(lambda e, n: 0.02 * e, 2, 16))}),
    ("site", "slope", "look", {"site": {"slope": 0.25}}),
    ("site", "rock", "look", {"site": {"soil_class": "crystalline rock"}}),
    (
        "footings",
        "rock",
        "stop",
        {"site": {"soil_class": "crystalline rock"}, "footings": {"predrilled": False}},
    ),
    (
        "site",
        "temperatures",
        "stop",
        {"site": {"lowest_temperature_c": 24.0, "hottest_temperature_c": 10.0}},
    ),
    ("site", "route", "stop", {"site": {"route": ((0.2, 0.3),)}}),
    ("sun", "window", "stop", {"site": {"latitude_deg": 63.0}, "sun": {"window_start_h": 9.0}}),
    ("sun", "model", "look", {"sun": {"walk_date": date(2031, 5, 1)}}),
    ("sun", "weather", "look", {"sun": {"clear_march": None}}),
    ("sun", "horizon", "look", {"sun": {"horizon": ()}}),
    ("sun", "snow_on_glass", "look", {"sun": {"snow_days": 0}, "site": {"ground_snow_pa": 500.0}}),
    ("rows", "shade", "look", {"rows": {"rows": 2, "pitch_m": 4.5}}),
    ("rows", "overlap", "stop", {"rows": {"rows": 2, "pitch_m": 3.0}}),
    ("rows", "grass", "look", {"rows": {"lower_edge_m": 0.3}}),
    ("rows", "reveal", "stop", {"rows": {"lower_edge_m": 0.1, "tilt_deg": 0.0}}),
    (
        "rows",
        "level_row",
        "look",
        {"rows": {"follow_ground": False}, "site": {"falls_toward_deg": 90.0, "slope": 0.1}},
    ),
    ("footings", "lateral", "stop", {"footings": {"depth_m": 1.2}}),
    ("footings", "uplift", "stop", {"footings": {"depth_m": 1.0}}),
    ("footings", "bearing", "stop", {"footings": {"depth_m": 1.0}}),
    ("footings", "frost", "stop", {"footings": {"depth_m": 0.6}}),
    ("footings", "heave", "stop", {"footings": {"depth_m": 1.0}, "site": {"fine_soil_top_m": 0.6}}),
    ("footings", "drivable", "look", {"footings": {"depth_m": 4.0}}),
    ("footings", "bending", "stop", {"structure": {"post_section": "pipe 3 in"}}),
    ("structure", "wind_figure", "look", {"rows": {"tilt_deg": 50.0}}),
    (
        "structure",
        "purlin",
        "stop",
        {"structure": {"purlin_section": "Z 100 x 50 x 2.0", "span_limit_m": 8.0}},
    ),
    (
        "structure",
        "beam",
        "stop",
        {"structure": {"beam_section": "C 125 x 64 x 2.0", "span_limit_m": 6.0}},
    ),
    (
        "structure",
        "sag",
        "look",
        {"structure": {"purlin_section": "Z 100 x 50 x 2.0", "span_limit_m": 7.0}},
    ),
    (
        "structure",
        "strut",
        "stop",
        {"structure": {"strut_section": "pipe 1-1/4 in", "strut_reach_m": 0.2, "span_limit_m": 8.0}},
    ),
    (
        "structure",
        "post_at_strut",
        "stop",
        {"structure": {"post_section": "pipe 3 in", "span_limit_m": 6.0}},
    ),
    ("structure", "strut_reach", "stop", {"structure": {"strut_reach_m": 2.5}}),
    ("structure", "posts", "stop", two_lines(brace_foot_m=0.55, post_section="pipe 3 in", wind=80.0)),
    ("structure", "brace", "stop", two_lines(brace_section="pipe 1-1/4 in", wind=75.0)),
    (
        "structure",
        "posts_along",
        "stop",
        two_lines(braced_bays=0, post_section="C 200 x 75 x 4.0", wind=90.0),
    ),
    ("structure", "cable", "stop", two_lines(cable="wire rope 3/16 in", wind=90.0)),
    ("structure", "heads", "stop", two_lines(lines_apart_m=3.1)),
    ("structure", "front_rise", "stop", two_lines(brace_foot_m=0.9)),
    ("structure", "one_tilt", "stop", two_lines() | SEASONS),
    ("structure", "pipe", "stop", pipe_grid(pipe_section="pipe 1-1/4 in")),
    ("structure", "pipe_sag", "look", pipe_grid(pipe_section="pipe 1-1/4 in")),
    ("structure", "rail", "stop", pipe_grid(rail_section="C 41 x 41 x 2.5", lines_apart_m=0.5)),
    ("structure", "pipes_under", "stop", pipe_grid(lines_apart_m=3.2)),
    ("structure", "column_span", "stop", pipe_grid(span_limit_m=0.9)),
    (
        "structure",
        "base_rail",
        "stop",
        ballast(base_section="pipe 1-1/4 in", lines_apart_m=3.0)
        | {"rows": {"rows": 1, "modules_high": 3, "tilt_deg": 45.0}, "site": {"wind_speed_m_s": 90.0}},
    ),
    ("structure", "strut_rated", "look", {"structure": {"strut_travel_m": 0.6}}),
    ("frame", "tilt_holes", "look", HOLED),
    ("frame", "strut_range", "stop", SEASONS | {"structure": {"strut_travel_m": 0.05}}),
    (
        "structure",
        "strut_rated",
        "stop",
        {"structure": {"strut_travel_m": 0.6, "strut_rated_n": 500.0}},
    ),
    ("structure", "earthquake", "stop", {"site": {"quake_acceleration": 2.5}}),
    ("structure", "half_glazed", "look", pipe_grid() | {"rows": {"rows": 1, "modules_high": 3}}),
    ("structure", "crossed", "stop", ballast(braced_bays=0)),
    ("footings", "family", "stop", {"footings": {"family": "ballast"}}),
    ("frame", "unbroken", "look", {"rows": {"modules_along": 40}}),
    ("frame", "ends_apart", "stop", {"rows": {"tables_along": 2, "table_gap_m": 0.1}}),
    ("structure", "shelter", "stop", {"structure": {"shelter_share": 0.6}}),
    (
        "structure",
        "in_shelter",
        "look",
        {"rows": {"rows": 1}, "structure": {"shelter_share": 0.6, "shelter_report": "made up"}},
    ),
    ("structure", "nearly_flat", "look", blocks_with("rows", tilt_deg=14.0)),
    ("structure", "bare_below", "look", blocks_with("structure", bare_below=False)),
    ("footings", "pile_lifts", "stop", blocks(tied_by="nothing")),
    ("footings", "pile_slides", "stop", blocks(sliding_friction=0.05, block_kg=10.0)),
    ("footings", "pile_tips", "stop", blocks(tied_by="nothing")),
    ("footings", "pile_low", "stop", blocks_with("rows", lower_edge_m=0.2)),
    ("footings", "pile_packing", "look", blocks(block="dense block 440 x 215 x 140")),
    ("footings", "pile_heap", "look", blocks_with("site", wind_speed_m_s=55.0)),
    ("footings", "pile_slender", "look", blocks_with("rows", lower_edge_m=3.0)),
    ("footings", "pallet_rots", "look", blocks(pile_on="a pallet 1200 x 1000")),
    ("footings", "piles_apart", "stop", blocks_with("structure", span_limit_m=0.6)),
    ("footings", "quake_slides", "stop", boxes() | {"site": {"quake_acceleration": 0.6}}),
    ("footings", "slides", "stop", boxes(sliding_friction=0.05) | {"site": {"slope": 0.08}}),
    ("footings", "nearly_flat", "look", ballast() | {"site": {"slope": 0.08}}),
    ("footings", "bears", "stop", boxes(box_side_m=0.2)),
    ("footings", "fill", "look", boxes(box_side_m=0.3)),
    ("footings", "boxes_apart", "stop", boxes(box_side_m=1.2)),
    ("footings", "blocks_fit", "stop", boxes(filled_with="blocks", box_side_m=0.4)),
    ("footings", "over_fill", "stop", ballast(brace_foot_m=0.1)),
    ("footings", "frost_rests", "look", ballast() | {"site": {"fine_soil_top_m": 0.5}}),
    ("structure", "pole", "stop", single_pole(pole_section="pipe 1-1/2 in")),
    ("structure", "cross_pipe", "stop", single_pole(pipe_section="pipe 1-1/4 in")),
    (
        "structure",
        "rail_sag",
        "look",
        single_pole() | {"rows": single_pole()["rows"] | {"modules_high": 3}},
    ),
    (
        "structure",
        "on_a_pole",
        "look",
        single_pole() | {"rows": single_pole()["rows"] | {"modules_along": 5}},
    ),
    ("structure", "strut_foot", "stop", {"structure": {"strut_foot_m": 1.9}}),
    (
        "frame",
        "splices",
        "look",
        {"frame": {"stock_length_m": 2.1, "lap_m": 0.3}, "structure": {"span_limit_m": 5.0}},
    ),
    ("modules", "press", "stop", {"modules": {"front_rating_pa": 900.0}}),
    ("modules", "lift", "stop", {"modules": {"back_rating_pa": 600.0}}),
    ("modules", "clamp", "stop", {"modules": {"clamp_hold_n": 400.0}}),
    ("modules", "end", "stop", {"modules": {"purlin_end_m": 0.03}}),
    ("modules", "clamp_zone", "stop", {"modules": {"zone_from_m": 0.5, "zone_to_m": 0.6}}),
    ("modules", "clamp_zone", "look", {"modules": {"zone_from_m": None}}),
    ("modules", "clamps_apart", "stop", {"modules": {"clamps_in_m": 1.0}}),
    (
        "materials",
        "stick_piece_stock",
        "stop",
        {"frame": {"piece_stock_m": 2.0, "other_piece_stock_m": None}},
    ),
    (
        "materials",
        "stick_post_stock",
        "stop",
        {"frame": {"posts_come": CUT_HERE, "post_stock_m": 2.0}},
    ),
    ("materials", "offcuts", "look", {"frame": {"stock_length_m": 5.0}}),
    ("trench", "wall", "stop", {"trench": {"extra_depth_m": 1.0}}),
    ("trench", "width", "look", {"trench": {"width_m": 0.1, "strings_per_conduit": 1}}),
    ("trench", "long", "look", {"site": {"route": ((0.0, 150.0),)}}),
    (
        "trench",
        "fill",
        "stop",
        {
            "trench": {"strings_per_conduit": 20},
            "rows": {"rows": 8},
            "site": {"route": ((300.0, 300.0),)},
        },
    ),
    (
        "trench",
        "bends",
        "look",
        {"site": {"route": tuple((8.0 * (k % 2), 4.0 * k) for k in range(2, 8))}},
    ),
    ("wiring", "hot", "stop", {"wiring": inverter(start_v=590.0)}),
    (
        "wiring",
        "equal",
        "look",
        {"rows": {"modules_along": 19}, "wiring": inverter(start_v=330.0, maximum_dc_v=500.0)},
    ),
    ("wiring", "inputs", "stop", {"wiring": inverter(inverter_inputs=2)}),
    ("wiring", "conductor", "stop", {"site": {"route": ((0.0, 4000.0),)}}),
    ("frame", "stock", "stop", {"frame": {"stock_length_m": 2.4}}),
    ("frame", "bolts", "stop", {"frame": {"bolt_us": "3/8", "grade_us": "A307"}}),
    ("frame", "fittings", "look", pipe_grid()),
    ("wiring", "series_fuse", "stop", {"modules": {"series_fuse_a": 15.0}}),
    ("wiring", "lead_reach", "look", {"modules": {"lead_m": 0.3}}),
    ("wiring", "box_reach", "look", BOXED | {"modules": {"lead_m": 0.3}}),
    ("wiring", "box_plugs", "look", BOXED),
    ("wiring", "ratio", "look", {"wiring": inverter(inverter_ac_w=9000.0)}),
    ("materials", "lift", "look", {"frame": {"stock_length_m": 14.0}}),
    ("materials", "truck_load", "look", FETCHED),
    (
        "materials",
        "truck_load",
        "stop",
        FETCHED | {"materials": {"truck_kg": 100.0, "unweighed": 1.0}},
    ),
    ("materials", "truck_length", "look", FETCHED),
    ("materials", "truck_length", "stop", FETCHED | {"materials": {"truck_bed_m": 1.5}}),
    ("materials", "axles", "look", FETCHED),
    ("materials", "axles", "stop", ON_AXLES),
    ("materials", "steers", "stop", BEHIND),
    ("materials", "pallet_lift", "look", {}),
    ("materials", "pallet_lift", "stop", {"materials": {"lifter_kg": 500.0}}),
    ("materials", "laydown", "look", {}),
    ("materials", "laydown", "stop", {"materials": {"laydown_m2": 4.0}}),
    ("materials", "modules_last", "look", TWICE),
    ("materials", "in_time", "stop", ballast() | LATE),
    (
        "materials",
        "own_profiles",
        "look",
        OWN_PROFILE,
    ),
    (
        "materials",
        "own_bores",
        "look",
        {"materials": {"profiles": ({"id": "a", "shape": "pipe", "depth_m": 2 * 0.0254},)}},
    ),
    ("trench", "trucks", "look", TRUCKED),
    ("site", "fence_gates", "look", FENCED),
    ("site", "gate_widths", "look", FENCED),
    ("frame", "slip", "stop", SLOTTED),
    ("frame", "staggered", "look", {"frame": {"staggered": False}}),
    ("frame", "metals", "look", {"site": {"air_bites": "salt of the sea"}}),
    ("materials", "priced", "look", ONE_PRICE),
    ("materials", "fresh_prices", "look", ONE_PRICE),
    (
        "stakeout",
        "sight",
        "stop",
        {"stakeout": {"instrument_height_m": 0.2}, "site": {"falls_toward_deg": 270.0, "slope": 0.1}},
    ),
    ("stakeout", "rod", "look", {"stakeout": {"instrument_height_m": 5.5}}),
    (
        "stakeout",
        "reveals",
        "look",
        {"rows": {"follow_ground": False}, "site": {"falls_toward_deg": 90.0, "slope": 0.1}},
    ),
    (
        "schedule",
        "fits",
        "stop",
        {
            "schedule": {
                "locks": [{"id": "a", "task": "Drive the posts", "day": "2026-04-21"}],
                "deliveries": [{"id": "b", "what": "posts and frame", "arrives": "2026-05-04"}],
            }
        },
    ),
    ("schedule", "crew", "stop", {"schedule": {"people": 1}}),
    (
        "schedule",
        "locks",
        "stop",
        {"schedule": {"locks": [{"id": "a", "task": "Paint it", "day": "2026-04-21"}]}},
    ),
    ("schedule", "locate", "stop", {"site": {"tickets": []}}),
    ("schedule", "forecast", "look", {"schedule": {"forecast": []}}),
    ("schedule", "deliveries", "look", {"schedule": {"deliveries": []}}),
    ("schedule", "rates", "look", {"schedule": {"drive_per_h": None}}),
    *PIER_BREAKS,
    *SCREW_BREAKS,
    *TEST_BREAKS,
    ("modules", "bond_path", "look", {"modules": {"steel_bonds": "nobody has looked"}}),
    *SERVICE_BREAKS,
    *MOVER_BREAKS,
    *TUBE_BREAKS,
    *PULL_BREAKS,
    *WALL_BREAKS,
    *OVER_BREAKS,
    *ARMOUR_BREAKS,
    *END_BREAKS,
    *INPUT_BREAKS,
]
