"""Designs that break each rule of bored piers and of ground screws."""


def hole(*layers: tuple[float, str, float | None], **more: object) -> dict[str, object]:
    """A site with one test hole."""
    return {"site": {"test_holes": ({"name": "h", "layers": layers, **more},)}}


def piers(**givens: object) -> dict[str, dict[str, object]]:
    """Posts in concrete."""
    return {"footings": {"family": "bored pier", "pier_diameter_m": 0.35} | givens}


def screws(**givens: object) -> dict[str, dict[str, object]]:
    """On two post lines, bolted on screws."""
    return {
        "structure": {"family": "two post lines"},
        "footings": {"family": "ground screw", "screw_section": "pipe 3 in"} | givens,
    }


CLAY = ((6.0, "clay", None),)
PIER_BREAKS: list[tuple[str, str, str, dict[str, dict[str, object]]]] = [
    ("footings", "borable", "look", piers(depth_m=3.0)),
    ("footings", "borable", "stop", piers(depth_m=6.0)),
    ("footings", "uplift", "stop", piers(depth_m=0.95)),
    ("footings", "below_post", "stop", piers(post_in_m=0.4)),
    ("footings", "bedding", "stop", piers(post_in_m=0.2)),
    (
        "footings",
        "pull_out",
        "stop",
        piers(post_in_m=0.2, foot_bar=False)
        | {"structure": {"family": "two post lines"}, "site": {"wind_speed_m_s": 85.0}},
    ),
    ("footings", "cover", "look", piers(pier_diameter_m=0.3)),
    ("footings", "cover", "stop", piers(pier_diameter_m=0.2)),
    ("footings", "least_bars", "look", piers(pier_bars=2)),
    ("footings", "cage_fits", "stop", piers(pier_bars=4, pier_diameter_m=0.3)),
    ("footings", "caves", "look", piers() | {"site": {"soil_class": "sand"}}),
    ("footings", "caves", "look", piers() | hole(*CLAY, water_m=1.0)),
    ("footings", "water", "look", piers() | hole(*CLAY, water_m=1.0)),
    ("footings", "bored_width", "look", piers()),
    ("footings", "piers_apart", "look", piers(pier_diameter_m=1.2)),
    ("footings", "bore_holds", "stop", piers(bored_diameter_m=0.3)),
    ("footings", "bell", "stop", piers(bell_diameter_m=0.6)),
    ("footings", "bell_fits", "stop", piers(bell_diameter_m=0.3)),
]
PULLED = {"readings": ((3e4, 0.004),), "depth_m": 2.0}
TURNED = PULLED | {"footing": "ground screw", "across_m": 0.25, "torque_n_m": 9e3}
PUSHED = {"loaded": "pushed sideways", "readings": ((9e3, 0.012),), "depth_m": 2.0}


def having_tested(*tests: dict[str, object], **site: object) -> dict[str, dict[str, object]]:
    """Posts that were tested beside the array."""
    named = tuple({"id": f"t{n}", "name": f"T{n}"} | one for n, one in enumerate(tests))
    return {"site": {"load_tests": named} | site}


FAR_HOLES = (
    {"id": "a", "name": "near", "east_m": -10.0, "layers": ((6.0, "sandy gravel", None),)},
    {"id": "b", "name": "beyond", "east_m": 3.0, "layers": ((6.0, "sand", None),)},
)
TEST_BREAKS: list[tuple[str, str, str, dict[str, dict[str, object]]]] = [
    ("footings", "enough_tests", "look", having_tested(PULLED)),
    ("footings", "enough_tests", "look", having_tested(*[PULLED | {"east_m": 400.0}] * 3)),
    (
        "footings",
        "tested_soils",
        "look",
        having_tested(*[PULLED | {"east_m": -12.0}] * 3, test_holes=FAR_HOLES),
    ),
    ("footings", "test_depth", "look", having_tested(*[PUSHED | {"depth_m": 0.8}] * 3)),
    ("footings", "test_held", "look", having_tested(*[PULLED | {"readings": ((900.0, 0.004),)}] * 3)),
    ("footings", "tests_left_out", "look", having_tested(PULLED | {"left_out": "bent"})),
    ("footings", "slab", "look", {"footings": {"slab_holds": True}}),
    (
        "footings",
        "half_inch",
        "look",
        {"structure": {"post_section": "I 100 x 80 x 9"}, "site": {"wind_speed_m_s": 70.0}},
    ),
    ("footings", "moves", "stop", {"footings": {"head_moves_m": 0.003}}),
    ("footings", "pulls_written", "look", {"footings": {"pull_tested": True}}),
]
SCREW_BREAKS: list[tuple[str, str, str, dict[str, dict[str, object]]]] = [
    ("footings", "one_piece", "look", screws(depth_m=3.2)),
    ("footings", "one_piece", "stop", screws(depth_m=6.0)),
    ("footings", "uplift", "stop", screws(depth_m=0.5)),
    ("footings", "shaft", "stop", screws(screw_section="pipe 1-1/2 in")),
    (
        "footings",
        "unturned",
        "stop",
        screws()
        | {
            "structure": {"family": "single pole", "pipe_section": "pipe 3 in"},
            "rows": {"rows": 1, "tables_along": 1, "modules_high": 1, "modules_along": 2},
        },
    ),
    ("footings", "pulled", "look", screws(screw_kind="rock screw")),
    ("footings", "twist", "stop", screws(screw_section="pipe 1-1/4 in", torque_factor_per_m=5.0)),
    ("footings", "machine", "stop", screws(machine_torque_n_m=150.0)),
    ("footings", "torque_tested", "look", screws() | having_tested(*[TURNED] * 3)),
]
