"""Designs that break the rules on pulls and on where the job connects, as ``breaks`` has them."""

SAID = {"connects": "a breaker in the panel", "panel_bus_a": 225.0, "panel_main_a": 200.0}


def served(**givens: object) -> dict[str, dict[str, object]]:
    """One inverter, on a panel that bears it, but for what is said."""
    return {"wiring": SAID | givens}


AHEAD = served(
    connects="ahead of the main breaker",
    inverters=[{"id": "1", "units": 2, "inverter_inputs": 6}],
)
# A panel before it that nobody has read, one that bears nothing more, and a feeder too thin.
UNREAD = served(panel_fed_by="another panel", panels=[{"id": "1", "name": "House"}])
HOUSE = {"bus_a": 400.0, "main_a": 100.0, "feeds_a": 100.0, "feeder_m": 9.0, "feeder_us": "1"}
FED_ON = served(
    panel_fed_by="another panel", panels=[{"id": "1", **HOUSE, "bus_a": 100.0, "main_a": 100.0}]
)
THIN = served(panel_fed_by="another panel", panels=[{"id": "1", **HOUSE, "feeder_us": "8"}])
INSIDE = served(strings_inside="yes")
UNLIKE = served(inverters=[{"id": "1"}, {"id": "2", "ac_v": 208.0, "phases": "three phases"}])

BEHIND: dict[str, object] = {
    "id": "1",
    "stands": "behind each module",
    "maximum_dc_v": 60.0,
    "start_v": 22.0,
    "branch_most": 9,
}
OUT: dict[str, object] = {"id": "1", "stands": "at the array"}
BRANCHES = served(inverters=[BEHIND])


def hung(*things: tuple[str, float, float, float]) -> dict[str, dict[str, object]]:
    """Things half a metre large: what, its left and its lower edge, how far it stands out."""
    return {
        "wiring": {
            "on_wall": [
                {
                    "id": f"w{at}",
                    "kind": kind,
                    "left_m": left,
                    "bottom_m": bottom,
                    "depth_m": out,
                    "width_m": 0.5,
                    "height_m": 0.5,
                }
                for at, (kind, left, bottom, out) in enumerate(things, start=1)
            ]
        }
    }


def kept(**givens: object) -> dict[str, dict[str, object]]:
    """A pump and lights kept on by what bears them, but for what is said."""
    said = {
        "backs_up": True,
        "kept_on": [
            {"id": "1", "name": "pump", "across": "all lines", "watts": 1200.0, "start_w": 4000.0},
            {"id": "2", "name": "lights", "watts": 300.0, "hours": 6.0},
        ],
        "battery_wh": 20e3,
        "battery_w": 6000.0,
        "battery_peak_w": 9000.0,
        "transfer": "a switch that turns by itself",
        "transfer_a": 100.0,
        "backup_bus_a": 100.0,
        "backup_m": 2.0,
        "generator_w": 8000.0,
        "generator_starts": "by itself, over a start pair",
        "generator_m": 9.0,
    }
    return {"wiring": said | givens}


BATTERIES = hung(
    ("battery", 0.0, 0.3, 0.3), ("battery", 3.0, 0.3, 0.3), ("door or window", 6.0, 0.0, 0.0)
)

SERVICE_BREAKS: tuple[tuple[str, str, str, dict[str, dict[str, object]]], ...] = (
    ("wiring", "connects", "look", served(connects="nobody has said")),
    ("wiring", "ac_wire", "stop", served(inverter_to_panel_m=480.0, ac_drop_limit=0.002)),
    ("wiring", "ac_wire", "stop", {"wiring": {"inverters": [{"id": "1", "inverter_ac_w": 900e3}]}}),
    ("wiring", "ac_length", "look", served(inverter_to_panel_m=None)),
    ("wiring", "ac_alike", "look", UNLIKE),
    ("wiring", "bus", "stop", served(panel_bus_a=200.0)),
    ("wiring", "bus", "look", served(panel_bus_a=None)),
    ("wiring", "bus", "stop", served(connects="ahead of the main breaker", panel_main_a=60.0)),
    ("wiring", "bus", "stop", served(connects="a transformer of its own", transformer_va=9000.0)),
    ("wiring", "bus", "look", served(connects="a transformer of its own")),
    ("wiring", "fed_by", "look", served(panel_fed_by="another panel")),
    ("wiring", "fed_by", "look", served(panel_fed_by="nobody has looked")),
    ("wiring", "upstream_bus", "look", UNREAD),
    ("wiring", "upstream_bus", "stop", FED_ON),
    ("wiring", "upstream_feeder", "look", UNREAD),
    ("wiring", "upstream_feeder", "stop", THIN),
    ("wiring", "one_tap", "look", AHEAD),
    ("wiring", "shut_off", "look", served(shut_off="nobody has said")),
    ("wiring", "working_space", "look", served(panel_clear_m=None)),
    ("wiring", "working_space", "stop", served(panel_clear_m=0.6)),
    ("wiring", "inside", "look", served(strings_inside="nobody has looked")),
    ("wiring", "rapid_shutdown", "stop", INSIDE),
    ("wiring", "rods", "look", served(rods=1)),
    ("wiring", "rods", "stop", served(rods=1, rods_ohm=60.0)),
    ("wiring", "rod_long", "stop", served(rod_m=1.2)),
    ("wiring", "rods_apart", "stop", served(rods_apart_m=1.0)),
    ("wiring", "drop_in_all", "look", served(inverters=[BEHIND], drop_limit=0.004)),
    ("wiring", "breaker", "stop", served(inverters=[OUT | {"inverter_ac_w": 2e6}])),
    ("wiring", "stands", "stop", served(inverters=[OUT | {"phases": "to a battery"}])),
    ("wiring", "branch", "stop", served(inverters=[BEHIND | {"branch_most": 18}])),
    ("wiring", "branch_guard", "stop", served(inverters=[BEHIND | {"branch_guard_a": 19.0}])),
    ("wiring", "lead_reach", "look", served(inverters=[BEHIND | {"plug_spacing_m": 0.9}])),
    ("wiring", "hot", "stop", served(inverters=[BEHIND | {"start_v": 40.0}])),
    ("wiring", "kept_on", "stop", kept(kept_on=[])),
    ("wiring", "backup_power", "stop", kept(battery_w=1000.0)),
    ("wiring", "backup_power", "look", kept(battery_w=None)),
    ("wiring", "backup_start", "stop", kept(battery_peak_w=1500.0)),
    ("wiring", "backup_hours", "look", kept(battery_wh=2000.0)),
    ("wiring", "backup_hours", "look", kept(battery_wh=None)),
    ("wiring", "transfer", "stop", kept(transfer="nobody has said")),
    ("wiring", "transfer_rated", "stop", kept(transfer_a=10.0)),
    ("wiring", "transfer_rated", "look", kept(transfer_a=None)),
    ("wiring", "backup_length", "look", kept(backup_m=None)),
    ("wiring", "backup_length", "look", kept(generator_m=None)),
    ("wiring", "backup_bus", "stop", kept(backup_bus_a=10.0)),
    ("wiring", "generator_power", "stop", kept(generator_w=500.0)),
    ("wiring", "generator_power", "look", kept(generator_w=2500.0)),
    ("wiring", "generator_start", "look", kept(generator_starts="by hand")),
    ("wiring", "on_wall", "look", hung()),
    ("wiring", "wall_room", "stop", hung(("panel", 0.0, 1.0, 0.2), ("meter", 0.45, 1.2, 0.2))),
    (
        "wiring",
        "wall_standing",
        "stop",
        hung(("panel", 0.0, 1.0, 0.2), ("side wall", 0.6, 0.0, 2.0), ("side wall", -0.6, 0.0, 2.0)),
    ),
    (
        "wiring",
        "batteries_apart",
        "stop",
        hung(("battery", 0.0, 0.3, 0.3), ("battery", 0.6, 0.3, 0.3)),
    ),
    (
        "wiring",
        "battery_openings",
        "stop",
        hung(("battery", 0.0, 0.3, 0.3), ("door or window", 1.2, 0.0, 0.0)),
    ),
    ("wiring", "handle_high", "look", hung(("switch", 0.0, 1.8, 0.2))),
    ("wiring", "switch_meter", "look", hung(("switch", 0.0, 1.0, 0.2), ("meter", 9.0, 1.0, 0.2))),
)

WALL = {"wall_kind": "boards on studs", "wall_thick_m": 0.2, "hole_right_m": 0.0}
OVER: dict[str, object] = {"laid": "over the ground"}
INPUT_BREAKS: tuple[tuple[str, str, str, dict[str, dict[str, object]]], ...] = (
    ("wiring", "input_current", "look", {"wiring": {"inverters": [{"id": "1"}]}}),
    ("wiring", "input_current", "look", {"wiring": {"inverters": [{"id": "1", "input_a": 9.0}]}}),
    ("wiring", "input_short", "stop", {"wiring": {"inverters": [{"id": "1", "input_short_a": 12.0}]}}),
    ("wiring", "arc", "look", {"wiring": {"inverters": [{"id": "1"}]}}),
    (
        "wiring",
        "joined",
        "stop",
        {"wiring": {"inverters": [{"id": "1", "joined": 2}]}, "rows": {"modules_along": 17}},
    ),
)
END_BREAKS: tuple[tuple[str, str, str, dict[str, dict[str, object]]], ...] = (
    ("trench", "ends_snow", "look", {"site": {"ground_snow_pa": 9000.0}}),
    (
        "trench",
        "inside_metal",
        "stop",
        {"trench": {"method": "direct-buried cable", "inside_m": 4.0}},
    ),
    ("trench", "before_pour", "look", {"trench": {"comes_up": "through a pier that is poured"}}),
)
ARMOURED: dict[str, object] = {"method": "armoured cable"}
ARMOUR_BREAKS: tuple[tuple[str, str, str, dict[str, dict[str, object]]], ...] = (
    ("wiring", "wire_volts", "stop", {"trench": {"wire_listed_v": 300.0}}),
    ("trench", "armour_bonded", "look", {"trench": ARMOURED}),
    ("trench", "armoured_lift", "look", {"trench": ARMOURED, "site": {"route": ((0.0, 280.0),)}}),
    (
        "trench",
        "armoured_bends",
        "look",
        {"trench": ARMOURED, "site": {"route": ((10.0, 30.0), (10.0, 30.1), (10.1, 30.1))}},
    ),
    (
        "trench",
        "cores",
        "stop",
        {
            "trench": ARMOURED | {"circuits_a_cable": 2},
            "wiring": {"inverters": [OUT | {"units": 3, "phases": "three phases"}]},
        },
    ),
)

OVER_BREAKS: tuple[tuple[str, str, str, dict[str, dict[str, object]]], ...] = (
    ("trench", "over_wheels", "stop", {"trench": OVER | {"under_driveway": True}}),
    ("trench", "over_bare", "stop", {"trench": OVER | {"method": "direct-buried cable"}}),
    ("trench", "over_trodden", "look", {"trench": OVER}),
)

WALL_BREAKS: tuple[tuple[str, str, str, dict[str, dict[str, object]]], ...] = (
    ("trench", "wall_measured", "look", {"trench": {"wall_kind": "nobody has said"}}),
    ("trench", "wall_measured", "look", {"trench": WALL | {"wall_thick_m": None}}),
    ("trench", "wall_studs", "stop", {"trench": WALL | {"bay_from_m": 0.0, "bay_to_m": 0.4}}),
    ("trench", "wall_studs", "look", {"trench": WALL | {"bay_from_m": None}}),
)

PULL_BREAKS: tuple[tuple[str, str, str, dict[str, dict[str, object]]], ...] = (
    (
        "trench",
        "tension",
        "stop",
        {"site": {"route": tuple((40.0 * (k % 2), 12.0 * k) for k in range(1, 12))}},
    ),
    (
        "trench",
        "sidewall",
        "look",
        {
            "trench": {"strings_per_conduit": 20},
            "site": {"route": tuple((40.0 * (k % 2), 12.0 * k) for k in range(1, 12))},
        },
    ),
    (
        "trench",
        "jam",
        "look",
        {
            "trench": {"strings_per_conduit": 1, "room_for_growth": False},
            "site": {"route": ((0.0, 280.0),)},
        },
    ),
    (
        "wiring",
        "warmed",
        "look",
        {
            "trench": {"strings_per_conduit": 1},
            "site": {"hottest_temperature_c": 58.0},
            "rows": {"tables_along": 3},
            "wiring": {"drop_limit": 0.05},
        },
    ),
)
