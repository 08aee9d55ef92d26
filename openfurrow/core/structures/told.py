"""Families of structure by name, and what each is not told: what only others stand by."""

from typing import Literal

from openfurrow.core.structures import mover_givens as mover
from openfurrow.core.structures import tube_givens as tube

FamilyName = Literal[
    "one post line",
    "two post lines",
    "pipe grid",
    "ballast frame",
    "table on blocks",
    "single pole",
    "turning tube",
]
ON_BLOCKS: FamilyName = "table on blocks"
ON_TUBES: FamilyName = "turning tube"
# What only some families are told.
OF_TRAVELS = frozenset({"strut_held_by", "strut_rated_n", "strut_hole_m", "strut_turn_m"})
OF_STRUTS = OF_TRAVELS | {"strut_section", "strut_reach_m", "strut_travel_m", "strut_foot_m"}
OF_BENTS = frozenset({"lines_apart_m", "bent_brace", "brace_section", "brace_foot_m"})
OF_CABLES = frozenset({"braced_bays", "cable"})
OF_PURLINS = frozenset({"beam_section", "purlin_section", "cantilever_ratio", "modules_hold_purlins"})
OF_RAILS = frozenset({"pipe_section", "rail_section"})
OF_POSTS = frozenset({"post_section", "span_limit_m", "shifts"})
OF_BOLTS = frozenset({"post_top_m"})
OF_POLES = frozenset({"pole_section", "moved"}) | mover.OF_MOVERS
OF_WEIGHTS = frozenset({"foot_up_m", "base_section"})
OF_PILES = frozenset({"bare_below"})
NOT_OF: dict[FamilyName, frozenset[str]] = {
    "one post line": OF_BENTS | OF_CABLES | OF_RAILS | OF_POLES | OF_WEIGHTS | OF_PILES | tube.OF_TUBES,
    "two post lines": OF_STRUTS | OF_RAILS | OF_POLES | OF_WEIGHTS | OF_PILES | tube.OF_TUBES,
    "pipe grid": OF_STRUTS
    | OF_CABLES
    | OF_PURLINS
    | OF_BOLTS
    | OF_POLES
    | OF_WEIGHTS
    | OF_PILES
    | tube.OF_TUBES,
    "ballast frame": OF_STRUTS | OF_RAILS | OF_POLES | OF_PILES | tube.OF_TUBES | {"bent_brace"},
    "table on blocks": OF_BENTS
    | OF_CABLES
    | OF_STRUTS
    | OF_RAILS
    | OF_POLES
    | OF_BOLTS
    | OF_WEIGHTS
    | tube.OF_TUBES
    | {"post_section", "beam_section"},
    "single pole": OF_BENTS
    | OF_CABLES
    | OF_STRUTS
    | OF_PURLINS
    | OF_POSTS
    | OF_BOLTS
    | OF_WEIGHTS
    | OF_PILES
    | tube.OF_TUBES,
    "turning tube": OF_BENTS
    | OF_CABLES
    | OF_STRUTS
    | OF_PURLINS
    | OF_BOLTS
    | OF_WEIGHTS
    | OF_PILES
    | (OF_POLES - tube.OF_MOVERS_TOO),
}
