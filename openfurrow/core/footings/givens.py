"""Footing givens: what goes into the ground and what is known about how it holds."""

from typing import Literal

from openfurrow.core.givens import Givens, given
from openfurrow.core.quantities import INCH_M, either

FamilyName = Literal["driven post", "ballast"]
OF_BALLAST = frozenset({"box_side_m", "filled_with", "sliding_friction", "weights"})
OF_POSTS = frozenset({"half_inch_moves", "pull_tested", "predrilled", "depths", "depth_m"})
Depths = Literal["each post's own", "alike in one soil", "alike for all"]


class FootingsGivens(Givens):
    """The family of the footing and everything that its families are told, side by side."""

    family: FamilyName = given(
        "driven post",
        "What goes into the ground",
        "choice",
        "Driven post: the post itself, to the depth that carries it. Ballast: boxes, trays or buckets "
        "on the ground, filled with concrete or stone; nothing is dug.",
        "The soil, the machine at hand, and what the authority accepts.",
    )
    box_side_m: float = given(
        0.6,
        "Side of a box",
        "tape",
        "Boxes are square; of a round bucket the side of a square as large.",
        "What is sold, or boards at hand.",
        low=0.2,
        high=2.5,
        usual=(0.4, 1.2),
        group="Ballast",
        us=24 * INCH_M,
    )
    filled_with: Literal["concrete", "stone"] = given(
        "concrete",
        "Filled with",
        "choice",
        "Concrete weighs half as much again as stone that is shovelled in.",
        "What can be brought to every box.",
        group="Ballast",
    )
    sliding_friction: float = given(
        0.3,
        "Friction under boxes",
        "factor",
        "Of a box on this ground.",
        "0.3 to 0.4 on firm soil; less on wet clay, plastic or ice; pull one and see.",
        low=0.05,
        high=0.9,
        usual=(0.3, 0.4),
        group="Ballast",
    )
    weights: Literal["alike in a line", "each its own"] = given(
        "alike in a line",
        "Weights are",
        "choice",
        "Alike: every box of the front line as heavy as the one that needs most, and so behind.",
        "Alike is one mark in every box; each its own saves concrete.",
        group="Ballast",
    )
    half_inch_moves: bool = given(
        True,
        "A slight move at ground does no harm",
        "yes_no",
        f"A rack that may move {either('1/2 in', '13 mm')} at ground may use twice the lateral "
        "bearing.",
        "IBC 1806.3.4; the rack's maker may say less.",
        pack="us",
    )
    pull_tested: bool = given(
        False,
        "Pull tests made",
        "yes_no",
        "Test posts driven to depth and pulled, force and movement read.",
        "Without: safety factor 3 on soil friction. With: 2.",
    )
    predrilled: bool = given(
        False,
        "What stops a post is drilled through",
        "yes_no",
        "Where a hole met refusal, posts go into drilled holes, packed tight again.",
        "Without: a post that stops short of what carries it is a stop.",
    )
    depths: Depths = given(
        "alike in one soil",
        "Depths are",
        "choice",
        "Posts that carry less may end higher. Alike: as deep as the one that asks for most.",
        "Alike is one mark on the hammer and one length to order; each its own saves steel on a large "
        "field.",
    )
    depth_m: float | None = given(
        None,
        "Depth held at",
        "tape",
        "Depth in the ground. Left empty: the least that carries every load, rounded up.",
        "Hold it at the depth reached to learn whether a short post still carries.",
        low=0.3,
        high=6,
        usual=(1.2, 3),
        caution="Nothing is driven before the utility locate has answered for every line.",
    )

    def shown(self) -> frozenset[str]:
        """Those of the family that was chosen."""
        return super().shown() - (OF_POSTS if self.family == "ballast" else OF_BALLAST)
