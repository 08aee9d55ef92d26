"""Which givens belong to which family of footing: the others are kept and not asked for."""

from typing import Literal

FamilyName = Literal["driven post", "ground screw", "bored pier", "ballast", "piled blocks"]
OF_BLOCKS = frozenset({"block", "block_kg"})
OF_BALLAST = OF_BLOCKS | {"box_side_m", "filled_with", "sliding_friction", "weights"}
OF_PILES = OF_BLOCKS | {
    "sliding_friction",
    "weights",
    "tied_by",
    "pile_joints",
    "pile_on",
    "life_years",
}
OF_CHANCE = frozenset({"stone_chance_per_m", "stone_hours", "strength_spread", "alike_share"})
OF_TESTS = frozenset({"test_moved_m", "head_moves_m"})
OF_RUST = frozenset({"life_years", "ground_bites", "zinc_m"})
OF_DEPTH = OF_CHANCE | {
    "half_inch_moves",
    "loose_top_m",
    "slab_holds",
    "pull_tested",
    "predrilled",
    "depths",
    "depth_m",
}
OF_PIERS = frozenset(
    {
        "pier_diameter_m",
        "pier_side",
        "bell_diameter_m",
        "bored_diameter_m",
        "bore_spread_m",
        "pier_top_m",
        "stone_m",
        "post_in_m",
        "foot_bar",
        "pier_bars",
        "pier_bar_m",
        "concrete_pa",
        "concrete_from",
        "bag_yield_m3",
        "cure_days",
    }
)
OF_SCREWS = frozenset(
    {
        "screw_kind",
        "screw_section",
        "helix_diameter_m",
        "rock_bond_pa",
        "screw_out_m",
        "torque_factor_per_m",
        "machine_torque_n_m",
    }
)
OF_HELIX, OF_ROCK = frozenset({"helix_diameter_m", "torque_factor_per_m"}), frozenset({"rock_bond_pa"})
# What the givens of every family are; the rest is asked for whatever stands there.
OF_FAMILY: dict[str, frozenset[str]] = {
    "driven post": OF_DEPTH | OF_TESTS | OF_RUST,
    "ground screw": OF_DEPTH | OF_TESTS | OF_SCREWS | OF_RUST,
    "bored pier": OF_DEPTH | OF_TESTS | OF_PIERS,
    "ballast": OF_BALLAST,
    "piled blocks": OF_PILES,
}
